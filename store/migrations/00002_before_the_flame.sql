-- +goose Up
-- A measure is what a cup, a tin or a handful of this kitchen holds. Every
-- weighing is kept; the latest of a name and unit is in force.
CREATE TABLE measuring (
  id TEXT PRIMARY KEY,
  name TEXT NOT NULL CHECK (length(name) BETWEEN 1 AND 40),
  unit TEXT NOT NULL CHECK (unit IN ('ml', 'g')),
  size REAL NOT NULL CHECK (size > 0 AND size <= 20000),
  how TEXT NOT NULL CHECK (length(how) <= 200),
  taken_at TEXT NOT NULL,
  removed_at TEXT
) STRICT;

CREATE INDEX measuring_name ON measuring (name, unit, taken_at DESC);

-- A water test of a burner's flame. Every test is kept; the latest of a burner
-- and flame is in force.
CREATE TABLE water_test (
  id TEXT PRIMARY KEY,
  burner_id TEXT NOT NULL REFERENCES burner (id),
  flame TEXT NOT NULL CHECK (flame IN ('low', 'medium-low', 'medium', 'medium-high', 'high')),
  power_w REAL NOT NULL CHECK (power_w > 0 AND power_w <= 30000),
  sd_w REAL NOT NULL CHECK (sd_w >= 0),
  before_g REAL NOT NULL CHECK (before_g > 0),
  after_g REAL NOT NULL CHECK (after_g > 0 AND after_g <= before_g),
  minutes REAL NOT NULL CHECK (minutes > 0),
  pot TEXT NOT NULL,
  tested_at TEXT NOT NULL,
  removed_at TEXT
) STRICT;

CREATE INDEX water_test_burner ON water_test (burner_id, flame, tested_at DESC);

-- A material of the cook's own, or one of the pantry with figures of its own,
-- in the columns of a plan's materials.
CREATE TABLE own_material (
  slug TEXT PRIMARY KEY,
  document TEXT NOT NULL CHECK (json_valid(document)),
  changed_at TEXT NOT NULL,
  removed_at TEXT
) STRICT;

-- What is in the house: grams, or enough where nobody counts.
CREATE TABLE at_hand (
  slug TEXT PRIMARY KEY,
  mass_g REAL CHECK (mass_g > 0),
  noted_at TEXT NOT NULL
) STRICT;

-- What is to be bought: for which puddings and how many bowls, and what is in
-- the basket already.
CREATE TABLE buying (
  pudding_id TEXT PRIMARY KEY REFERENCES pudding (id),
  bowls INTEGER NOT NULL CHECK (bowls BETWEEN 1 AND 500),
  added_at TEXT NOT NULL
) STRICT;

CREATE TABLE bought (
  slug TEXT PRIMARY KEY,
  mass_g REAL NOT NULL CHECK (mass_g >= 0),
  ticked_at TEXT NOT NULL
) STRICT;

-- When the pudding is to be on the table.
ALTER TABLE pudding ADD COLUMN serve_at TEXT;
