-- +goose Up
-- What is worked out when it is told stays with the log: the line of steps that a
-- cook goes along, and what each event does to the marks to come. NULL: written
-- by an older program; the next start works it out.
ALTER TABLE cook ADD COLUMN line TEXT CHECK (line IS NULL OR json_valid(line));
ALTER TABLE cook_event ADD COLUMN marks TEXT CHECK (marks IS NULL OR json_valid(marks));

DROP TRIGGER cook_event_keeps;
-- +goose StatementBegin
CREATE TRIGGER cook_event_keeps BEFORE UPDATE ON cook_event
WHEN OLD.marks IS NOT NULL OR NEW.marks IS NULL
  OR NEW.sequence IS NOT OLD.sequence OR NEW.id IS NOT OLD.id OR NEW.cook_id IS NOT OLD.cook_id OR NEW.kind IS NOT OLD.kind
  OR NEW.at IS NOT OLD.at OR NEW.step IS NOT OLD.step OR NEW.mass_g IS NOT OLD.mass_g OR NEW.depth_mm IS NOT OLD.depth_mm
  OR NEW.part IS NOT OLD.part OR NEW.value IS NOT OLD.value OR NEW.material IS NOT OLD.material OR NEW.item IS NOT OLD.item
  OR NEW.mend IS NOT OLD.mend OR NEW.stored_at IS NOT OLD.stored_at
BEGIN SELECT RAISE(ABORT, 'events are never changed'); END;
-- +goose StatementEnd

-- Which edition of the model a lesson was learnt with.
ALTER TABLE lesson ADD COLUMN edition INTEGER NOT NULL DEFAULT 0 CHECK (edition >= 0);
