-- +goose Up
-- A plan's state is kept as of some operation; what came later is folded onto it.
ALTER TABLE plan ADD COLUMN state_seq bigint NOT NULL DEFAULT 0;
UPDATE plan SET state_seq = seq;

ALTER TABLE plan_op
    ADD COLUMN batch bigint NOT NULL DEFAULT 0, -- seq of the first operation of its request
    ADD COLUMN inverse jsonb; -- what takes it back
ALTER TABLE plan_op RENAME COLUMN undoes TO turns; -- the batch it takes back or does again
UPDATE plan_op SET batch = seq;
CREATE INDEX plan_op_actor ON plan_op (plan_id, actor, seq);

-- What readers read: a plan as it was when it was published.
CREATE TABLE plan_edition (
    plan_id   bigint NOT NULL REFERENCES plan (id) ON DELETE CASCADE,
    number    integer NOT NULL,
    seq       bigint NOT NULL,
    pin       text NOT NULL, -- the repository's, then
    note      text NOT NULL,
    state     jsonb NOT NULL,
    person_id bigint REFERENCES person (id) ON DELETE SET NULL,
    at        timestamptz NOT NULL DEFAULT now(),
    PRIMARY KEY (plan_id, number)
);

-- What readers could see stays to be seen.
INSERT INTO plan_edition (plan_id, number, seq, pin, note, state, person_id)
SELECT p.id, 1, p.seq, coalesce(r.pin, ''), '', p.state, p.created_by FROM plan p JOIN repository r ON r.id = p.repository_id WHERE NOT p.private;

-- How far somebody is with a passage: done, left out for a reason, or read for a
-- while.
ALTER TABLE progress
    ALTER COLUMN done_at DROP NOT NULL,
    ALTER COLUMN done_at DROP DEFAULT,
    ADD COLUMN skipped_at timestamptz,
    ADD COLUMN reason text NOT NULL DEFAULT '',
    ADD COLUMN seconds integer NOT NULL DEFAULT 0;

-- Where somebody is in a plan.
ALTER TABLE reading_place
    ADD COLUMN edition integer NOT NULL DEFAULT 0, -- that they read; 0: the newest
    ADD COLUMN shown boolean NOT NULL DEFAULT false, -- to others, with how they get on
    ALTER COLUMN passage_id SET DEFAULT '';

-- Attachments of a plan's texts.
CREATE TABLE attachment_plan (
    attachment_id bigint NOT NULL REFERENCES attachment (id) ON DELETE CASCADE,
    plan_id       bigint NOT NULL REFERENCES plan (id) ON DELETE CASCADE,
    PRIMARY KEY (attachment_id, plan_id)
);

-- +goose Down
DROP TABLE attachment_plan, plan_edition;
ALTER TABLE reading_place DROP COLUMN edition, DROP COLUMN shown;
DELETE FROM progress WHERE done_at IS NULL;
ALTER TABLE progress ALTER COLUMN done_at SET NOT NULL, DROP COLUMN skipped_at, DROP COLUMN reason, DROP COLUMN seconds;
DROP INDEX plan_op_actor;
ALTER TABLE plan_op RENAME COLUMN turns TO undoes;
ALTER TABLE plan_op DROP COLUMN batch, DROP COLUMN inverse;
ALTER TABLE plan DROP COLUMN state_seq;
