-- +goose Up
-- A gathering joins puddings for one table: when it is served, for how many, and
-- who cooks.
CREATE TABLE gathering (
  id TEXT PRIMARY KEY,
  name TEXT NOT NULL CHECK (length(name) BETWEEN 1 AND 80),
  serve_at TEXT NOT NULL,
  guests INTEGER NOT NULL CHECK (guests BETWEEN 1 AND 500),
  hands INTEGER NOT NULL CHECK (hands BETWEEN 1 AND 12),
  created_at TEXT NOT NULL,
  removed_at TEXT
) STRICT;

CREATE TABLE gathering_pudding (
  gathering_id TEXT NOT NULL REFERENCES gathering (id),
  pudding_id TEXT NOT NULL REFERENCES pudding (id),
  bowls INTEGER NOT NULL CHECK (bowls BETWEEN 1 AND 500),
  added_at TEXT NOT NULL,
  PRIMARY KEY (gathering_id, pudding_id)
) STRICT;
