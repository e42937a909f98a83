-- +goose Up
-- Commits that follow up what a thread is about.
CREATE TABLE thread_commit (
    thread_id bigint NOT NULL REFERENCES annotation (id) ON DELETE CASCADE,
    commit_id text NOT NULL, -- full id
    person_id bigint REFERENCES person (id) ON DELETE SET NULL,
    at        timestamptz NOT NULL DEFAULT now(),
    PRIMARY KEY (thread_id, commit_id)
);
CREATE INDEX thread_commit_commit ON thread_commit (commit_id);

-- +goose Down
DROP TABLE thread_commit;
