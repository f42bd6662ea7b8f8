-- +goose Up
-- What a rehearsal is about, '' for nothing but the pudding.
ALTER TABLE cook ADD COLUMN task TEXT NOT NULL DEFAULT '' CHECK (task IN ('', 'boils-over', 'splits', 'guests-late'));
