-- +goose Up
-- What a pot is for, and whether its bottom is heavy; no uses stand for all.
ALTER TABLE pot ADD COLUMN uses TEXT NOT NULL DEFAULT '' CHECK (length(uses) <= 100);
ALTER TABLE pot ADD COLUMN heavy INTEGER NOT NULL DEFAULT 0 CHECK (heavy IN (0, 1));

-- A pot can be changed: its measures stay within the same bounds.
-- +goose StatementBegin
CREATE TRIGGER pot_stays_within_bounds BEFORE UPDATE OF shape, diameter_mm, bottom_mm, top_mm, length_mm, width_mm, height_mm, mass_g ON pot
WHEN NOT (
  NEW.height_mm > 0 AND NEW.height_mm <= CASE NEW.shape WHEN 'tray' THEN 500 ELSE 1500 END
  AND (NEW.mass_g IS NULL OR NEW.mass_g BETWEEN 0 AND 50000)
  AND CASE NEW.shape
    WHEN 'straight' THEN NEW.diameter_mm > 0 AND NEW.diameter_mm <= 1500
    WHEN 'taper' THEN NEW.bottom_mm > 0 AND NEW.bottom_mm <= 1500 AND NEW.top_mm > 0 AND NEW.top_mm <= 1500
    WHEN 'bowl' THEN NEW.top_mm > 0 AND NEW.top_mm <= 1500
    WHEN 'tray' THEN NEW.length_mm > 0 AND NEW.length_mm <= 1500 AND NEW.width_mm > 0 AND NEW.width_mm <= 1500
  END)
BEGIN SELECT RAISE(ABORT, 'the measures of a pot are out of bounds'); END;
-- +goose StatementEnd
