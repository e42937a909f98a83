-- +goose Up
ALTER TABLE blob_fact
    ADD COLUMN head bytea,
    ADD COLUMN matter bytea COMPRESSION lz4,
    ADD COLUMN terms bytea COMPRESSION lz4;
DELETE FROM blob_fact;

-- What a survey resolved.
CREATE TABLE survey_links (
    survey_id bigint PRIMARY KEY REFERENCES survey (id) ON DELETE CASCADE,
    data      bytea COMPRESSION lz4 NOT NULL
);

ALTER TABLE survey_path
    ADD COLUMN dependents integer,
    ADD COLUMN dependencies integer,
    ADD COLUMN centrality double precision;

-- +goose Down
ALTER TABLE survey_path DROP COLUMN dependents, DROP COLUMN dependencies, DROP COLUMN centrality;
DROP TABLE survey_links;
ALTER TABLE blob_fact DROP COLUMN head, DROP COLUMN matter, DROP COLUMN terms;
