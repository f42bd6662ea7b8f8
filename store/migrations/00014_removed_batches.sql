-- +goose Up
-- A batch that no program can read may be taken out of the book; its events stay.
ALTER TABLE cook ADD COLUMN removed_at TEXT;
DROP INDEX cook_book;
CREATE INDEX cook_book ON cook (begun_at DESC, name) WHERE finished_at IS NOT NULL AND rehearsal = 0 AND removed_at IS NULL;
