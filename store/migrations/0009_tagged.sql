-- +goose Up
-- Facts tell more than before, and commits keep the lines that may hold a word
-- of tagged comments: both are read anew by the next survey.
DELETE FROM blob_fact;
DELETE FROM survey_links;
DELETE FROM history_pin;
DELETE FROM history_commit;
ALTER TABLE history_commit ADD COLUMN words integer NOT NULL DEFAULT 0;

-- A team's own words; see core/tagged.
CREATE TABLE tagged_word (
    repository_id bigint NOT NULL REFERENCES repository (id) ON DELETE CASCADE,
    n             integer NOT NULL,
    word          text NOT NULL,
    meaning       text NOT NULL,
    urgency       integer NOT NULL,
    pattern       text NOT NULL DEFAULT '',
    done          boolean NOT NULL DEFAULT false,
    PRIMARY KEY (repository_id, n)
);

-- Tagged comments of a survey with what the history tells of them; gone_at is
-- set for those that there were.
CREATE TABLE survey_tagged (
    survey_id   bigint NOT NULL REFERENCES survey (id) ON DELETE CASCADE,
    n           integer NOT NULL,
    lead_id     text NOT NULL DEFAULT '',
    path        text COLLATE "C" NOT NULL,
    line        integer NOT NULL,
    end_line    integer NOT NULL,
    word        text NOT NULL,
    said        text NOT NULL,
    whole       text NOT NULL DEFAULT '',
    who         text NOT NULL DEFAULT '',
    issue       text NOT NULL DEFAULT '',
    symbol      text NOT NULL DEFAULT '',
    born_at     bigint NOT NULL DEFAULT 0,
    born_commit text NOT NULL DEFAULT '',
    born_person integer NOT NULL DEFAULT -1,
    last_at     bigint NOT NULL DEFAULT 0,
    edits       integer NOT NULL DEFAULT 0,
    outlived    integer NOT NULL DEFAULT 0,
    gone_at     bigint NOT NULL DEFAULT 0,
    gone_commit text NOT NULL DEFAULT '',
    gone_person integer NOT NULL DEFAULT -1,
    PRIMARY KEY (survey_id, n)
);
CREATE INDEX survey_tagged_path ON survey_tagged (survey_id, path, line);

-- What people said of leads; kept across surveys by the stable id.
CREATE TABLE lead_mark (
    repository_id bigint NOT NULL REFERENCES repository (id) ON DELETE CASCADE,
    lead_id       text NOT NULL,
    state         text NOT NULL CHECK (state IN ('kept', 'aside')),
    reason        text NOT NULL DEFAULT '',
    person_id     bigint REFERENCES person (id) ON DELETE SET NULL,
    at            timestamptz NOT NULL DEFAULT now(),
    PRIMARY KEY (repository_id, lead_id)
);

-- Which leads each person has read.
CREATE TABLE lead_read (
    repository_id bigint NOT NULL REFERENCES repository (id) ON DELETE CASCADE,
    person_id     bigint NOT NULL REFERENCES person (id) ON DELETE CASCADE,
    lead_id       text NOT NULL,
    at            timestamptz NOT NULL DEFAULT now(),
    PRIMARY KEY (repository_id, person_id, lead_id)
);

-- The survey that found a lead first.
CREATE TABLE lead_seen (
    repository_id bigint NOT NULL REFERENCES repository (id) ON DELETE CASCADE,
    lead_id       text NOT NULL,
    survey_id     bigint NOT NULL,
    PRIMARY KEY (repository_id, lead_id)
);

-- Rules that hide tagged comments by path or by what they say.
CREATE TABLE tagged_ignore (
    id            bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
    repository_id bigint NOT NULL REFERENCES repository (id) ON DELETE CASCADE,
    kind          text NOT NULL CHECK (kind IN ('path', 'text')),
    pattern       text NOT NULL,
    made_by       bigint REFERENCES person (id) ON DELETE SET NULL,
    made_at       timestamptz NOT NULL DEFAULT now()
);
CREATE INDEX tagged_ignore_repository ON tagged_ignore (repository_id, id);

-- Addresses of lists that people keep by a name; no person: everybody's.
CREATE TABLE kept_view (
    id            bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
    repository_id bigint NOT NULL REFERENCES repository (id) ON DELETE CASCADE,
    person_id     bigint REFERENCES person (id) ON DELETE CASCADE,
    page          text NOT NULL,
    name          text NOT NULL,
    query         text NOT NULL,
    made_at       timestamptz NOT NULL DEFAULT now()
);
CREATE INDEX kept_view_repository ON kept_view (repository_id, page, id);

-- +goose Down
DROP TABLE kept_view, tagged_ignore, lead_seen, lead_read, lead_mark, survey_tagged, tagged_word;
ALTER TABLE history_commit DROP COLUMN words;
