-- +goose Up
-- What people said of paths that a survey could not know.
CREATE TABLE correction (
    id            bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
    repository_id bigint NOT NULL REFERENCES repository (id) ON DELETE CASCADE,
    kind          text NOT NULL CHECK (kind IN ('role', 'start', 'no-start', 'root')),
    path          text COLLATE "C" NOT NULL,
    value         text NOT NULL DEFAULT '',
    person_id     bigint REFERENCES person (id) ON DELETE SET NULL,
    at            timestamptz NOT NULL DEFAULT now(),
    undone_at     timestamptz
);
CREATE INDEX correction_repository ON correction (repository_id, id);

-- +goose Down
DROP TABLE correction;
