-- +goose Up
-- Places are found by a better search than before: each is looked for once more.
DELETE FROM annotation_place;

-- +goose Down
DELETE FROM annotation_place;
