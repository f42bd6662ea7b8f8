-- +goose Up
-- A repair that was chosen at the stove: its steps, as JSON; '' for other events.
ALTER TABLE cook_event ADD COLUMN mend TEXT NOT NULL DEFAULT '';
