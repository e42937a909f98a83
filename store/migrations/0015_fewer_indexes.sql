-- +goose Up

-- Every survey enters its rows into these anew: what each index costs then, it must
-- give back when somebody looks. A path's folder is known with the path, so that one
-- index finds a path and lists a folder, and rows that come by folder go to its end.
DROP INDEX survey_path_parent;
ALTER TABLE survey_path DROP CONSTRAINT survey_path_pkey;
CREATE UNIQUE INDEX survey_path_place ON survey_path (survey_id, parent, path);

-- Leads are narrowed by kind among those of one survey, which the key finds.
DROP INDEX survey_lead_kind;

-- +goose Down
CREATE INDEX survey_lead_kind ON survey_lead (survey_id, kind, detail, n);
DROP INDEX survey_path_place;
ALTER TABLE survey_path ADD PRIMARY KEY (survey_id, path);
CREATE INDEX survey_path_parent ON survey_path (survey_id, parent, folder DESC, path);
