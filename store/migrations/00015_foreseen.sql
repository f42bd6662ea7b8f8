-- +goose Up
-- What the forecast of a pudding came to, by which edition of the model, so that a later
-- edition can say what has changed. Puddings from before have none that was kept.
CREATE TABLE foreseen (
    pudding_id TEXT PRIMARY KEY REFERENCES pudding (id),
    version    INTEGER NOT NULL CHECK (version >= 1),
    edition    INTEGER NOT NULL CHECK (edition >= 1),
    figures    TEXT CHECK (figures IS NULL OR json_valid(figures)),
    was        TEXT CHECK (was IS NULL OR json_valid(was)),
    told       INTEGER NOT NULL DEFAULT 1 CHECK (told IN (0, 1))
) STRICT;
INSERT INTO foreseen (pudding_id, version, edition) SELECT id, version, 1 FROM pudding;
