-- +goose Up
ALTER TABLE blob_fact ADD COLUMN details bytea COMPRESSION lz4;
DELETE FROM blob_fact;
ALTER TABLE survey_path ADD COLUMN symbols integer, ADD COLUMN intricacy integer;

-- +goose Down
ALTER TABLE survey_path DROP COLUMN symbols, DROP COLUMN intricacy;
ALTER TABLE blob_fact DROP COLUMN details;
