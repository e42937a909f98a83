-- +goose Up
-- Records refer to each other, states are those that there are, and a survey has one
-- row for the root.

DELETE FROM survey_path a USING survey_path b WHERE a.survey_id = b.survey_id AND a.parent IS NULL AND b.parent IS NULL AND a.path = b.path AND a.ctid > b.ctid;
DROP INDEX survey_path_place;
CREATE UNIQUE INDEX survey_path_place ON survey_path (survey_id, parent, path) NULLS NOT DISTINCT;

UPDATE plan_op SET actor = NULL WHERE NOT EXISTS (SELECT 1 FROM person p WHERE p.id = plan_op.actor);
ALTER TABLE plan_op ADD FOREIGN KEY (actor) REFERENCES person (id) ON DELETE SET NULL;

UPDATE annotation a SET answer_id = NULL WHERE answer_id IS NOT NULL AND NOT EXISTS (SELECT 1 FROM annotation x WHERE x.id = a.answer_id);
ALTER TABLE annotation ADD FOREIGN KEY (answer_id) REFERENCES annotation (id) ON DELETE SET NULL;

-- A question at a passage goes with its plan.
UPDATE annotation SET target = target - 'plan' - 'passage' WHERE target ? 'plan' AND NOT EXISTS (SELECT 1 FROM plan p WHERE p.id = (target->>'plan')::bigint);
ALTER TABLE annotation ADD COLUMN plan_id bigint GENERATED ALWAYS AS ((target->>'plan')::bigint) STORED REFERENCES plan (id) ON DELETE CASCADE;
CREATE INDEX annotation_plan ON annotation (plan_id) WHERE plan_id IS NOT NULL;

ALTER TABLE repository ADD CHECK (state IN ('taking-in', 'failed', 'needs-pin', 'pinned', 'removing')), ADD CHECK (source_kind IN ('folder', 'address', 'file'));
ALTER TABLE survey ADD CHECK (state IN ('waiting', 'running', 'complete', 'failed', 'cancelled'));
ALTER TABLE annotation_place ADD CHECK (what IN ('same', 'moved', 'changed', 'gone'));
ALTER TABLE invitation ADD CHECK (role IN ('reader', 'writer', 'keeper'));

-- +goose Down
ALTER TABLE invitation DROP CONSTRAINT invitation_role_check;
ALTER TABLE annotation_place DROP CONSTRAINT annotation_place_what_check;
ALTER TABLE survey DROP CONSTRAINT survey_state_check;
ALTER TABLE repository DROP CONSTRAINT repository_state_check, DROP CONSTRAINT repository_source_kind_check;
ALTER TABLE annotation DROP COLUMN plan_id;
ALTER TABLE annotation DROP CONSTRAINT annotation_answer_id_fkey;
ALTER TABLE plan_op DROP CONSTRAINT plan_op_actor_fkey;
DROP INDEX survey_path_place;
CREATE UNIQUE INDEX survey_path_place ON survey_path (survey_id, parent, path);
