-- +goose Up
-- What each batch in the book teaches, worked out once; and what was forgotten of
-- it, for batches until a time.
CREATE TABLE lesson (
  cook_id TEXT PRIMARY KEY REFERENCES cook (id),
  observations TEXT NOT NULL CHECK (json_valid(observations)),
  worked_at TEXT NOT NULL
) STRICT;

CREATE TABLE forgotten (
  about TEXT NOT NULL,
  name TEXT NOT NULL,
  at TEXT NOT NULL,
  PRIMARY KEY (about, name)
) STRICT;
