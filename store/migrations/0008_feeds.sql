-- +goose Up
ALTER TABLE repository ADD COLUMN fetch_problem text NOT NULL DEFAULT '';
ALTER TABLE repository ADD COLUMN fetching boolean NOT NULL DEFAULT false;
ALTER TABLE repository ADD COLUMN fetch_asked timestamptz NOT NULL DEFAULT now();
-- What the last fetch found; see intake.News.
ALTER TABLE repository ADD COLUMN news jsonb NOT NULL DEFAULT '[]';
-- The secret that calls for new commits are signed with, encrypted.
ALTER TABLE repository ADD COLUMN hook_secret bytea;

-- Addresses of feeds: whoever has one reads what its person may read.
CREATE TABLE feed (
    token_hash    bytea PRIMARY KEY,
    repository_id bigint NOT NULL REFERENCES repository (id) ON DELETE CASCADE,
    person_id     bigint NOT NULL REFERENCES person (id) ON DELETE CASCADE,
    made_at       timestamptz NOT NULL DEFAULT now(),
    UNIQUE (repository_id, person_id)
);

-- +goose Down
DROP TABLE feed;
ALTER TABLE repository DROP COLUMN hook_secret;
ALTER TABLE repository DROP COLUMN news;
ALTER TABLE repository DROP COLUMN fetch_asked;
ALTER TABLE repository DROP COLUMN fetching;
ALTER TABLE repository DROP COLUMN fetch_problem;
