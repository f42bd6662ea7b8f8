-- +goose Up
-- How wide a pot a burner takes, 0 for any; and how long after the table is laid a pudding of a gathering is
-- served, in minutes, before it if below 0.
ALTER TABLE burner ADD COLUMN max_pot_mm REAL NOT NULL DEFAULT 0 CHECK (max_pot_mm BETWEEN 0 AND 1500);
ALTER TABLE gathering_pudding ADD COLUMN serve_after INTEGER NOT NULL DEFAULT 0 CHECK (serve_after BETWEEN -720 AND 720);
