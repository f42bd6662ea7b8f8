-- +goose Up
-- Gadgets that send readings, known by a token of which only the hash is kept.
CREATE TABLE gadget (
  id TEXT PRIMARY KEY,
  name TEXT NOT NULL CHECK (length(name) BETWEEN 1 AND 60),
  token_hash BLOB NOT NULL UNIQUE,
  with_pot INTEGER NOT NULL CHECK (with_pot IN (0, 1)),
  made_at TEXT NOT NULL,
  heard_at TEXT,
  removed_at TEXT
) STRICT;

-- What they sent, believed or not; a value is null where it was no number.
CREATE TABLE reading (
  cook_id TEXT NOT NULL REFERENCES cook (id),
  kind TEXT NOT NULL CHECK (kind IN ('scale', 'probe')),
  at TEXT NOT NULL,
  value REAL,
  mark TEXT NOT NULL,
  stored_at TEXT NOT NULL
) STRICT;

CREATE INDEX reading_cook ON reading (cook_id, at);

-- A rehearsal runs on a clock of its own, with simulated gadgets.
ALTER TABLE cook ADD COLUMN speed REAL NOT NULL DEFAULT 1 CHECK (speed BETWEEN 1 AND 120);
ALTER TABLE cook ADD COLUMN rehearsal INTEGER NOT NULL DEFAULT 0 CHECK (rehearsal IN (0, 1));
