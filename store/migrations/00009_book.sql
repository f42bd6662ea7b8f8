-- +goose Up
-- The book is searched by name and note.
ALTER TABLE cook ADD COLUMN name TEXT GENERATED ALWAYS AS (document ->> '$.name') VIRTUAL;
CREATE INDEX cook_book ON cook (begun_at DESC, name) WHERE finished_at IS NOT NULL AND rehearsal = 0;
CREATE INDEX cook_on_stove ON cook (begun_at DESC) WHERE finished_at IS NULL;
