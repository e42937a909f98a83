-- +goose Up
-- Files that people hand in for their texts. The bytes are kept outside, under
-- blob.
CREATE TABLE attachment (
    id            bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
    uid           text NOT NULL, -- kept by export and import
    repository_id bigint NOT NULL REFERENCES repository (id) ON DELETE CASCADE,
    person_id     bigint REFERENCES person (id) ON DELETE SET NULL,
    name          text NOT NULL,
    type          text NOT NULL, -- by its bytes
    size          bigint NOT NULL,
    picture       boolean NOT NULL, -- drawn anew, may be shown
    width         integer NOT NULL DEFAULT 0,
    height        integer NOT NULL DEFAULT 0,
    blob          text NOT NULL,
    created_at    timestamptz NOT NULL DEFAULT now(),
    UNIQUE (repository_id, uid)
);
CREATE INDEX attachment_person ON attachment (person_id);

-- Which texts show or link to them, earlier texts too: whoever may see one of
-- these may see the attachment.
CREATE TABLE attachment_use (
    attachment_id bigint NOT NULL REFERENCES attachment (id) ON DELETE CASCADE,
    annotation_id bigint NOT NULL REFERENCES annotation (id) ON DELETE CASCADE,
    PRIMARY KEY (attachment_id, annotation_id)
);
CREATE INDEX attachment_use_annotation ON attachment_use (annotation_id);

-- +goose Down
DROP TABLE attachment_use, attachment;
