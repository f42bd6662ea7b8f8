-- +goose Up
-- How a pudding is wanted the next time, which is another thing than how it was.
ALTER TABLE verdict ADD COLUMN thicker TEXT NOT NULL DEFAULT '' CHECK (thicker IN ('', 'thinner', 'just right', 'thicker'));
ALTER TABLE verdict ADD COLUMN softer TEXT NOT NULL DEFAULT '' CHECK (softer IN ('', 'firmer', 'just right', 'softer'));
