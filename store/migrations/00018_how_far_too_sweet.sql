-- +goose Up
-- A pudding may be far too sweet, or far from sweet enough: it is liked by how far.
CREATE TABLE verdict_anew (
  cook_id TEXT PRIMARY KEY REFERENCES cook (id),
  eaten TEXT NOT NULL CHECK (eaten IN ('', 'hot', 'warm', 'room', 'chilled')),
  thickness INTEGER NOT NULL CHECK (thickness BETWEEN 0 AND 8),
  sweetness TEXT NOT NULL CHECK (sweetness IN ('', 'far from sweet enough', 'not sweet enough', 'just right', 'too sweet', 'far too sweet')),
  note TEXT NOT NULL CHECK (length(note) <= 4000),
  judged_at TEXT NOT NULL,
  next_thickness INTEGER NOT NULL DEFAULT 0 CHECK (next_thickness BETWEEN 0 AND 8),
  next_note TEXT NOT NULL DEFAULT '' CHECK (length(next_note) <= 4000)
) STRICT;
INSERT INTO verdict_anew (cook_id, eaten, thickness, sweetness, note, judged_at, next_thickness, next_note)
  SELECT cook_id, eaten, thickness, sweetness, note, judged_at, next_thickness, next_note FROM verdict;
DROP TABLE verdict;
ALTER TABLE verdict_anew RENAME TO verdict;
