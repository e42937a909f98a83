-- +goose Up
-- What people write beside the code. The first of a thread has a target; replies
-- have none.
CREATE TABLE annotation (
    id            bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
    uid           text NOT NULL, -- kept by export and import
    repository_id bigint NOT NULL REFERENCES repository (id) ON DELETE CASCADE,
    thread_id     bigint REFERENCES annotation (id) ON DELETE CASCADE, -- NULL: it is the first
    author_id     bigint REFERENCES person (id) ON DELETE SET NULL,
    author_name   text NOT NULL,
    kind          text NOT NULL DEFAULT 'note' CHECK (kind IN ('note', 'question', 'ask')),
    private       boolean NOT NULL DEFAULT false,
    body          text NOT NULL,
    rev           integer NOT NULL DEFAULT 1, -- of the text
    state         text NOT NULL DEFAULT 'open' CHECK (state IN ('open', 'resolved')),
    state_by      bigint REFERENCES person (id) ON DELETE SET NULL,
    asked_id      bigint REFERENCES person (id) ON DELETE SET NULL, -- who is asked to act
    answer_id     bigint, -- the reply that answers a question
    -- names of those two in another installation
    state_by_name text NOT NULL DEFAULT '',
    asked_name    text NOT NULL DEFAULT '',
    tags          text[] NOT NULL DEFAULT '{}',
    target        jsonb, -- see store.NoteTarget
    folder        text COLLATE "C", -- of the target, for narrowing
    created_at    timestamptz NOT NULL DEFAULT now(),
    edited_at     timestamptz,
    changed_at    timestamptz NOT NULL DEFAULT now(), -- the thread's last change
    deleted_at    timestamptz,
    UNIQUE (repository_id, uid)
);
CREATE INDEX annotation_thread ON annotation (repository_id, thread_id, id);

-- Earlier texts of an annotation.
CREATE TABLE annotation_edit (
    annotation_id bigint NOT NULL REFERENCES annotation (id) ON DELETE CASCADE,
    rev           integer NOT NULL,
    body          text NOT NULL,
    at            timestamptz NOT NULL DEFAULT now(),
    PRIMARY KEY (annotation_id, rev)
);

-- Where an annotation stands at a commit; a person's word goes before the machine's.
CREATE TABLE annotation_place (
    annotation_id bigint NOT NULL REFERENCES annotation (id) ON DELETE CASCADE,
    commit_id     text NOT NULL,
    what          text NOT NULL, -- same, moved, changed, gone
    path          text COLLATE "C" NOT NULL,
    start_line    integer NOT NULL,
    end_line      integer NOT NULL,
    likeness      double precision NOT NULL,
    reason        text NOT NULL DEFAULT '',
    reason_commit text NOT NULL DEFAULT '',
    candidates    jsonb NOT NULL DEFAULT '[]',
    placed_at     timestamptz NOT NULL DEFAULT now(),
    PRIMARY KEY (annotation_id, commit_id)
);
CREATE INDEX annotation_place_commit ON annotation_place (commit_id, path);

-- Earlier targets of an annotation that somebody placed anew.
CREATE TABLE annotation_target (
    annotation_id bigint NOT NULL REFERENCES annotation (id) ON DELETE CASCADE,
    n             integer NOT NULL,
    target        jsonb NOT NULL,
    person_id     bigint REFERENCES person (id) ON DELETE SET NULL,
    at            timestamptz NOT NULL DEFAULT now(),
    PRIMARY KEY (annotation_id, n)
);

-- Who wants to be told of a thread, and what each has seen of it.
CREATE TABLE thread_reader (
    thread_id bigint NOT NULL REFERENCES annotation (id) ON DELETE CASCADE,
    person_id bigint NOT NULL REFERENCES person (id) ON DELETE CASCADE,
    told      boolean, -- NULL: as they take part
    mentioned boolean NOT NULL DEFAULT false,
    seen_at   timestamptz,
    PRIMARY KEY (thread_id, person_id)
);
CREATE INDEX thread_reader_person ON thread_reader (person_id);

-- How often the threads of a repository, or their places, have changed: lists
-- that are held in memory go by it.
ALTER TABLE repository ADD COLUMN notes_version bigint NOT NULL DEFAULT 0;

-- +goose StatementBegin
CREATE FUNCTION turn_notes() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    UPDATE repository SET notes_version = notes_version + 1 WHERE id IN (SELECT repository_id FROM touched);
    RETURN NULL;
END $$;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE FUNCTION turn_places() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    UPDATE repository SET notes_version = notes_version + 1 WHERE id IN (SELECT a.repository_id FROM touched t JOIN annotation a ON a.id = t.annotation_id);
    RETURN NULL;
END $$;
-- +goose StatementEnd
CREATE TRIGGER annotation_added AFTER INSERT ON annotation REFERENCING NEW TABLE AS touched FOR EACH STATEMENT EXECUTE FUNCTION turn_notes();
CREATE TRIGGER annotation_changed AFTER UPDATE ON annotation REFERENCING NEW TABLE AS touched FOR EACH STATEMENT EXECUTE FUNCTION turn_notes();
CREATE TRIGGER annotation_gone AFTER DELETE ON annotation REFERENCING OLD TABLE AS touched FOR EACH STATEMENT EXECUTE FUNCTION turn_notes();
CREATE TRIGGER place_added AFTER INSERT ON annotation_place REFERENCING NEW TABLE AS touched FOR EACH STATEMENT EXECUTE FUNCTION turn_places();
CREATE TRIGGER place_changed AFTER UPDATE ON annotation_place REFERENCING NEW TABLE AS touched FOR EACH STATEMENT EXECUTE FUNCTION turn_places();
CREATE TRIGGER place_gone AFTER DELETE ON annotation_place REFERENCING OLD TABLE AS touched FOR EACH STATEMENT EXECUTE FUNCTION turn_places();

-- +goose Down
DROP TABLE thread_reader, annotation_target, annotation_place, annotation_edit, annotation;
DROP FUNCTION turn_notes, turn_places;
ALTER TABLE repository DROP COLUMN notes_version;
