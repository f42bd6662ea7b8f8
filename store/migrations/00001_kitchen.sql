-- +goose Up
CREATE TABLE pot (
  id TEXT PRIMARY KEY,
  name TEXT NOT NULL CHECK (length(name) BETWEEN 1 AND 60),
  shape TEXT NOT NULL CHECK (shape IN ('straight', 'taper', 'bowl', 'tray')),
  diameter_mm REAL NOT NULL DEFAULT 0 CHECK (diameter_mm >= 0),
  bottom_mm REAL NOT NULL DEFAULT 0 CHECK (bottom_mm >= 0),
  top_mm REAL NOT NULL DEFAULT 0 CHECK (top_mm >= 0),
  length_mm REAL NOT NULL DEFAULT 0 CHECK (length_mm >= 0),
  width_mm REAL NOT NULL DEFAULT 0 CHECK (width_mm >= 0),
  height_mm REAL NOT NULL CHECK (height_mm > 0),
  mass_g REAL CHECK (mass_g >= 0),
  added_at TEXT NOT NULL,
  removed_at TEXT
) STRICT;

CREATE TABLE burner (
  id TEXT PRIMARY KEY,
  name TEXT NOT NULL CHECK (length(name) BETWEEN 1 AND 60),
  kind TEXT NOT NULL CHECK (kind IN ('gas', 'induction', 'electric', 'wood')),
  power_w REAL NOT NULL CHECK (power_w > 0),
  efficiency REAL NOT NULL CHECK (efficiency > 0 AND efficiency <= 1),
  added_at TEXT NOT NULL,
  removed_at TEXT
) STRICT;

CREATE TABLE pudding (
  id TEXT PRIMARY KEY,
  name TEXT NOT NULL,
  way TEXT NOT NULL,
  serves INTEGER NOT NULL CHECK (serves > 0),
  serve TEXT NOT NULL CHECK (serve IN ('hot', 'warm', 'room', 'chilled')),
  version INTEGER NOT NULL CHECK (version > 0),
  created_at TEXT NOT NULL,
  saved_at TEXT NOT NULL,
  removed_at TEXT
) STRICT;

-- Every save keeps the version before it; undo moves pudding.version back.
CREATE TABLE plan_version (
  pudding_id TEXT NOT NULL REFERENCES pudding (id),
  version INTEGER NOT NULL CHECK (version > 0),
  document TEXT NOT NULL CHECK (json_valid(document)),
  saved_at TEXT NOT NULL,
  PRIMARY KEY (pudding_id, version)
) STRICT;

CREATE TABLE cook (
  id TEXT PRIMARY KEY,
  pudding_id TEXT NOT NULL REFERENCES pudding (id),
  document TEXT NOT NULL CHECK (json_valid(document)),
  begun_at TEXT NOT NULL,
  zone TEXT NOT NULL,
  finished_at TEXT
) STRICT;

CREATE INDEX cook_begun ON cook (begun_at DESC);

-- The log of a cook: appended to, never changed.
CREATE TABLE cook_event (
  sequence INTEGER PRIMARY KEY AUTOINCREMENT,
  id TEXT NOT NULL UNIQUE,
  cook_id TEXT NOT NULL REFERENCES cook (id),
  kind TEXT NOT NULL,
  at TEXT NOT NULL,
  step INTEGER NOT NULL,
  mass_g REAL NOT NULL CHECK (mass_g >= 0),
  depth_mm REAL NOT NULL CHECK (depth_mm >= 0),
  stored_at TEXT NOT NULL
) STRICT;

CREATE INDEX cook_event_cook ON cook_event (cook_id, sequence);

-- +goose StatementBegin
CREATE TRIGGER cook_event_keeps BEFORE UPDATE ON cook_event
BEGIN SELECT RAISE(ABORT, 'events are never changed'); END;
-- +goose StatementEnd

-- +goose StatementBegin
CREATE TRIGGER cook_event_stays BEFORE DELETE ON cook_event
BEGIN SELECT RAISE(ABORT, 'events are never deleted'); END;
-- +goose StatementEnd

-- How a batch ate. One row a finished cook.
CREATE TABLE verdict (
  cook_id TEXT PRIMARY KEY REFERENCES cook (id),
  eaten TEXT NOT NULL CHECK (eaten IN ('', 'hot', 'warm', 'room', 'chilled')),
  thickness INTEGER NOT NULL CHECK (thickness BETWEEN 0 AND 8),
  sweetness TEXT NOT NULL CHECK (sweetness IN ('', 'not sweet enough', 'just right', 'too sweet')),
  note TEXT NOT NULL CHECK (length(note) <= 4000),
  judged_at TEXT NOT NULL
) STRICT;

CREATE TABLE setting (
  name TEXT PRIMARY KEY,
  value TEXT NOT NULL
) STRICT;

-- Columns as the session library wants them.
CREATE TABLE sessions (
  token TEXT PRIMARY KEY,
  data BLOB NOT NULL,
  expiry REAL NOT NULL
);

CREATE INDEX sessions_expiry ON sessions (expiry);
