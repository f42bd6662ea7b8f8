-- +goose Up
-- What a cook tells of a pot besides weight and depth: how soft a part is, how
-- thick it runs off the spoon, what a probe shows.
ALTER TABLE cook_event ADD COLUMN part TEXT NOT NULL DEFAULT '';
ALTER TABLE cook_event ADD COLUMN value REAL NOT NULL DEFAULT 0;
