-- +goose Up
-- The number of a file among the survey's files, in git's order; NULL: a folder.
ALTER TABLE survey_path ADD COLUMN ord integer;

-- The changes of the survey's files as columns; see core/history.Moves.
CREATE TABLE survey_moves (
    survey_id bigint PRIMARY KEY REFERENCES survey (id) ON DELETE CASCADE,
    people    jsonb NOT NULL,
    data      bytea COMPRESSION lz4 NOT NULL
);

-- Packages that build files name: what dependencies of other repositories may mean.
CREATE TABLE survey_package (
    survey_id bigint NOT NULL REFERENCES survey (id) ON DELETE CASCADE,
    kind      text NOT NULL,
    name      text NOT NULL,
    path      text COLLATE "C" NOT NULL,
    line      integer NOT NULL
);
CREATE INDEX survey_package_name ON survey_package (name, kind);
CREATE INDEX survey_package_survey ON survey_package (survey_id);

-- What each person has opened to read.
CREATE TABLE opened (
    person_id     bigint NOT NULL REFERENCES person (id) ON DELETE CASCADE,
    repository_id bigint NOT NULL REFERENCES repository (id) ON DELETE CASCADE,
    path          text COLLATE "C" NOT NULL,
    at            timestamptz NOT NULL DEFAULT now(),
    PRIMARY KEY (person_id, repository_id, path)
);

-- Facts tell more than before: what was resolved of the old ones is made anew.
DELETE FROM blob_fact;
DELETE FROM survey_links;

-- +goose Down
DROP TABLE opened, survey_package, survey_moves;
ALTER TABLE survey_path DROP COLUMN ord;
