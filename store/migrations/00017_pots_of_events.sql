-- +goose Up
-- Which pot was weighed, dipped, felt or heard, '' for that of the step; and how long steps took
-- that were told of all at once.
ALTER TABLE cook_event ADD COLUMN pot TEXT NOT NULL DEFAULT '' CHECK (length(pot) <= 60);
ALTER TABLE cook_event ADD COLUMN lasted TEXT CHECK (lasted IS NULL OR json_valid(lasted));

DROP TRIGGER cook_event_keeps;
-- +goose StatementBegin
CREATE TRIGGER cook_event_keeps BEFORE UPDATE ON cook_event
WHEN OLD.marks IS NOT NULL OR NEW.marks IS NULL
  OR NEW.sequence IS NOT OLD.sequence OR NEW.id IS NOT OLD.id OR NEW.cook_id IS NOT OLD.cook_id OR NEW.kind IS NOT OLD.kind
  OR NEW.at IS NOT OLD.at OR NEW.step IS NOT OLD.step OR NEW.mass_g IS NOT OLD.mass_g OR NEW.depth_mm IS NOT OLD.depth_mm
  OR NEW.part IS NOT OLD.part OR NEW.value IS NOT OLD.value OR NEW.material IS NOT OLD.material OR NEW.item IS NOT OLD.item
  OR NEW.mend IS NOT OLD.mend OR NEW.stored_at IS NOT OLD.stored_at OR NEW.pot IS NOT OLD.pot OR NEW.lasted IS NOT OLD.lasted
BEGIN SELECT RAISE(ABORT, 'events are never changed'); END;
-- +goose StatementEnd
