-- +goose Up
CREATE TABLE person (
    id            bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
    email         text NOT NULL,
    name          text NOT NULL,
    password_hash text NOT NULL,
    owner         boolean NOT NULL DEFAULT false,
    created_at    timestamptz NOT NULL DEFAULT now()
);
CREATE UNIQUE INDEX person_email ON person (lower(email));

CREATE TABLE sessions (
    token  text PRIMARY KEY,
    data   bytea NOT NULL,
    expiry timestamptz NOT NULL
);
CREATE INDEX sessions_expiry ON sessions (expiry);

CREATE TABLE repository (
    id             bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
    name           text NOT NULL,
    source_kind    text NOT NULL,
    source         text NOT NULL,
    subfolder      text NOT NULL DEFAULT '',
    state          text NOT NULL,
    problem        text NOT NULL DEFAULT '',
    doing          text NOT NULL DEFAULT '',
    pin            text NOT NULL DEFAULT '',
    pin_ref        text NOT NULL DEFAULT '',
    half_life      double precision NOT NULL DEFAULT 180,
    notes          jsonb NOT NULL DEFAULT '[]',
    credential     bytea,
    job_id         bigint,
    created_by     bigint REFERENCES person (id) ON DELETE SET NULL,
    created_at     timestamptz NOT NULL DEFAULT now()
);

CREATE TABLE membership (
    repository_id bigint NOT NULL REFERENCES repository (id) ON DELETE CASCADE,
    person_id     bigint NOT NULL REFERENCES person (id) ON DELETE CASCADE,
    role          text NOT NULL CHECK (role IN ('reader', 'writer', 'keeper')),
    PRIMARY KEY (repository_id, person_id)
);
CREATE INDEX membership_person ON membership (person_id);

CREATE TABLE invitation (
    id            bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
    token_hash    bytea NOT NULL UNIQUE,
    repository_id bigint REFERENCES repository (id) ON DELETE CASCADE,
    role          text NOT NULL,
    created_by    bigint NOT NULL REFERENCES person (id) ON DELETE CASCADE,
    created_at    timestamptz NOT NULL DEFAULT now(),
    expires_at    timestamptz NOT NULL,
    used_by       bigint REFERENCES person (id) ON DELETE SET NULL,
    used_at       timestamptz
);

-- What never changes: facts of blobs, commits with their changes.
CREATE TABLE blob_fact (
    blob     text NOT NULL,
    language text NOT NULL,
    version  integer NOT NULL,
    facts    jsonb NOT NULL,
    PRIMARY KEY (blob, language, version)
);

CREATE TABLE history_commit (
    repository_id bigint NOT NULL REFERENCES repository (id) ON DELETE CASCADE,
    oid           text NOT NULL,
    parents       text NOT NULL,
    author_name   text NOT NULL,
    author_email  text NOT NULL,
    author_time   bigint NOT NULL,
    commit_time   bigint NOT NULL,
    subject       text NOT NULL,
    changes       bytea NOT NULL,
    PRIMARY KEY (repository_id, oid)
);
CREATE TABLE history_pin (
    repository_id bigint NOT NULL REFERENCES repository (id) ON DELETE CASCADE,
    oid           text NOT NULL,
    PRIMARY KEY (repository_id, oid)
);

CREATE TABLE survey (
    id            bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
    repository_id bigint NOT NULL REFERENCES repository (id) ON DELETE CASCADE,
    oid           text NOT NULL,
    ref           text NOT NULL DEFAULT '',
    subfolder     text NOT NULL DEFAULT '',
    half_life     double precision NOT NULL,
    state         text NOT NULL,
    problem       text NOT NULL DEFAULT '',
    stages        jsonb NOT NULL DEFAULT '[]',
    overview      jsonb NOT NULL DEFAULT '{}',
    job_id        bigint,
    created_at    timestamptz NOT NULL DEFAULT now(),
    ended_at      timestamptz
);
CREATE INDEX survey_repository ON survey (repository_id, id);
CREATE INDEX survey_unfinished ON survey (id) WHERE state IN ('waiting', 'running');

-- One row for every path and every folder of a survey.
CREATE TABLE survey_path (
    survey_id     bigint NOT NULL REFERENCES survey (id) ON DELETE CASCADE,
    path          text COLLATE "C" NOT NULL,
    parent        text COLLATE "C",
    folder        boolean NOT NULL,
    name          text NOT NULL,
    escaped       boolean NOT NULL DEFAULT false,
    raw_path      bytea,
    blob          text NOT NULL DEFAULT '',
    mode          text NOT NULL DEFAULT '',
    files         integer NOT NULL DEFAULT 1,
    size          bigint,
    language      text NOT NULL DEFAULT '',
    role          text NOT NULL DEFAULT '',
    role_evidence text NOT NULL DEFAULT '',
    depth         text NOT NULL DEFAULT '',
    depth_reason  text NOT NULL DEFAULT '',
    is_binary     boolean NOT NULL DEFAULT false,
    lines         integer,
    code          integer,
    comment       integer,
    blank         integer,
    tagged        integer NOT NULL DEFAULT 0,
    starts        integer NOT NULL DEFAULT 0,
    commits       integer,
    lines_added   integer,
    lines_deleted integer,
    recent        double precision,
    first_at      timestamptz,
    last_at       timestamptz,
    people        jsonb NOT NULL DEFAULT '[]',
    PRIMARY KEY (survey_id, path)
);
CREATE INDEX survey_path_parent ON survey_path (survey_id, parent, folder DESC, path);

CREATE TABLE survey_lead (
    survey_id bigint NOT NULL REFERENCES survey (id) ON DELETE CASCADE,
    n         integer NOT NULL,
    lead_id   text NOT NULL,
    kind      text NOT NULL,
    detail    text NOT NULL,
    path      text COLLATE "C" NOT NULL,
    line      integer,
    title     text NOT NULL,
    why       text NOT NULL,
    weight    double precision NOT NULL,
    PRIMARY KEY (survey_id, n)
);
CREATE INDEX survey_lead_kind ON survey_lead (survey_id, kind, detail, n);
CREATE INDEX survey_lead_path ON survey_lead (survey_id, path, line);

CREATE TABLE plan (
    id            bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
    repository_id bigint NOT NULL REFERENCES repository (id) ON DELETE CASCADE,
    private       boolean NOT NULL DEFAULT false,
    seq           bigint NOT NULL DEFAULT 0,
    state         jsonb NOT NULL,
    created_by    bigint REFERENCES person (id) ON DELETE SET NULL,
    created_at    timestamptz NOT NULL DEFAULT now(),
    changed_at    timestamptz NOT NULL DEFAULT now()
);
CREATE INDEX plan_repository ON plan (repository_id, id);

CREATE TABLE plan_op (
    plan_id   bigint NOT NULL REFERENCES plan (id) ON DELETE CASCADE,
    seq       bigint NOT NULL,
    actor     bigint,
    client_id text NOT NULL,
    op        jsonb NOT NULL,
    undoes    bigint NOT NULL DEFAULT 0,
    at        timestamptz NOT NULL DEFAULT now(),
    PRIMARY KEY (plan_id, seq),
    UNIQUE (plan_id, client_id)
);

CREATE TABLE progress (
    plan_id    bigint NOT NULL REFERENCES plan (id) ON DELETE CASCADE,
    person_id  bigint NOT NULL REFERENCES person (id) ON DELETE CASCADE,
    passage_id text NOT NULL,
    done_at    timestamptz NOT NULL DEFAULT now(),
    PRIMARY KEY (plan_id, person_id, passage_id)
);

CREATE TABLE reading_place (
    plan_id    bigint NOT NULL REFERENCES plan (id) ON DELETE CASCADE,
    person_id  bigint NOT NULL REFERENCES person (id) ON DELETE CASCADE,
    passage_id text NOT NULL,
    at         timestamptz NOT NULL DEFAULT now(),
    PRIMARY KEY (plan_id, person_id)
);

-- +goose Down
DROP TABLE reading_place, progress, plan_op, plan, survey_lead, survey_path, survey, history_pin, history_commit, blob_fact,
    invitation, membership, repository, sessions, person;
