-- +goose Up
-- How a batch ate the next day, its photo and its tags.
ALTER TABLE verdict ADD COLUMN next_thickness INTEGER NOT NULL DEFAULT 0 CHECK (next_thickness BETWEEN 0 AND 8);
ALTER TABLE verdict ADD COLUMN next_note TEXT NOT NULL DEFAULT '' CHECK (length(next_note) <= 4000);

CREATE TABLE photo (
  cook_id TEXT PRIMARY KEY REFERENCES cook (id),
  jpeg BLOB NOT NULL CHECK (length(jpeg) <= 1000000),
  width INTEGER NOT NULL CHECK (width > 0),
  height INTEGER NOT NULL CHECK (height > 0),
  taken_at TEXT NOT NULL
) STRICT;

CREATE TABLE tag (
  cook_id TEXT NOT NULL REFERENCES cook (id),
  name TEXT NOT NULL CHECK (length(name) BETWEEN 1 AND 30),
  PRIMARY KEY (cook_id, name)
) STRICT;

CREATE INDEX tag_name ON tag (name, cook_id);
