-- +goose Up
-- Where the puddings of a gathering are in its timetable, and for what that was
-- worked out; and which cook is of which gathering.
ALTER TABLE gathering ADD COLUMN places TEXT NOT NULL DEFAULT '[]' CHECK (json_valid(places));
ALTER TABLE gathering ADD COLUMN places_for TEXT NOT NULL DEFAULT '';
ALTER TABLE cook ADD COLUMN gathering_id TEXT REFERENCES gathering (id);
CREATE INDEX cook_gathering ON cook (gathering_id) WHERE gathering_id IS NOT NULL;
