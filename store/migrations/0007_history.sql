-- +goose Up
-- The log is read anew with the commits' messages, by the next survey.
DELETE FROM history_pin;
DELETE FROM history_commit;
ALTER TABLE history_commit ADD COLUMN message text NOT NULL DEFAULT '';
-- How often the history that is kept has grown, or what is told of it has changed.
ALTER TABLE repository ADD COLUMN history_version bigint NOT NULL DEFAULT 0;
ALTER TABLE repository ADD COLUMN people_hidden boolean NOT NULL DEFAULT false;
ALTER TABLE repository ADD COLUMN fetched_at timestamptz;

-- People of the history whom a keeper joined: what one is called is another.
CREATE TABLE person_join (
    id            bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
    repository_id bigint NOT NULL REFERENCES repository (id) ON DELETE CASCADE,
    email         text NOT NULL,
    name          text NOT NULL,
    to_email      text NOT NULL,
    to_name       text NOT NULL,
    made_by       bigint REFERENCES person (id) ON DELETE SET NULL,
    made_at       timestamptz NOT NULL DEFAULT now(),
    UNIQUE (repository_id, email, name)
);

-- The line history of a file, as git tells it; see core/blame.
CREATE TABLE line_history (
    repository_id bigint NOT NULL REFERENCES repository (id) ON DELETE CASCADE,
    key           text NOT NULL,
    data          bytea COMPRESSION lz4 NOT NULL,
    made_at       timestamptz NOT NULL DEFAULT now(),
    PRIMARY KEY (repository_id, key)
);

-- +goose Down
DROP TABLE line_history, person_join;
ALTER TABLE repository DROP COLUMN fetched_at;
ALTER TABLE repository DROP COLUMN people_hidden;
ALTER TABLE repository DROP COLUMN history_version;
ALTER TABLE history_commit DROP COLUMN message;
