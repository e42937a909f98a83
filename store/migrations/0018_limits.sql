-- +goose Up
-- Who may take in, from which folders; when a person's sessions begin to count; what a
-- repository takes of the disk; calls that were taken.
ALTER TABLE person ADD COLUMN may_take_in boolean NOT NULL DEFAULT false, ADD COLUMN sessions_from timestamptz NOT NULL DEFAULT 'epoch';
UPDATE person p SET may_take_in = true WHERE EXISTS (SELECT 1 FROM repository r WHERE r.created_by = p.id);

CREATE TABLE root_grant (
	person_id bigint NOT NULL REFERENCES person (id) ON DELETE CASCADE,
	root text NOT NULL,
	PRIMARY KEY (person_id, root)
);

ALTER TABLE repository ADD COLUMN bytes bigint NOT NULL DEFAULT 0;
CREATE INDEX repository_created_by ON repository (created_by);

CREATE TABLE hook_call (
	signature bytea PRIMARY KEY,
	taken_at timestamptz NOT NULL DEFAULT now()
);
CREATE INDEX hook_call_taken_at ON hook_call (taken_at);

-- +goose Down
DROP TABLE hook_call;
DROP INDEX repository_created_by;
ALTER TABLE repository DROP COLUMN bytes;
DROP TABLE root_grant;
ALTER TABLE person DROP COLUMN may_take_in, DROP COLUMN sessions_from;
