-- +goose Up
-- What went otherwise than planned: of what, and which item of a step.
ALTER TABLE cook_event ADD COLUMN material TEXT NOT NULL DEFAULT '';
ALTER TABLE cook_event ADD COLUMN item INTEGER NOT NULL DEFAULT 0;
