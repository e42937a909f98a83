-- +goose Up

-- A survey writes these rows by ten thousands, at once and in a transaction that holds
-- the survey: to look for the survey at each row took half of the time.
ALTER TABLE survey_path DROP CONSTRAINT survey_path_survey_id_fkey;
ALTER TABLE survey_lead DROP CONSTRAINT survey_lead_survey_id_fkey;
ALTER TABLE survey_tagged DROP CONSTRAINT survey_tagged_survey_id_fkey;

-- +goose StatementBegin
CREATE FUNCTION forget_survey() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    DELETE FROM survey_path WHERE survey_id = OLD.id;
    DELETE FROM survey_lead WHERE survey_id = OLD.id;
    DELETE FROM survey_tagged WHERE survey_id = OLD.id;
    RETURN OLD;
END $$;
-- +goose StatementEnd
CREATE TRIGGER survey_forgotten AFTER DELETE ON survey FOR EACH ROW EXECUTE FUNCTION forget_survey();

-- +goose Down
DROP TRIGGER survey_forgotten ON survey;
DROP FUNCTION forget_survey();
ALTER TABLE survey_path ADD FOREIGN KEY (survey_id) REFERENCES survey (id) ON DELETE CASCADE;
ALTER TABLE survey_lead ADD FOREIGN KEY (survey_id) REFERENCES survey (id) ON DELETE CASCADE;
ALTER TABLE survey_tagged ADD FOREIGN KEY (survey_id) REFERENCES survey (id) ON DELETE CASCADE;
