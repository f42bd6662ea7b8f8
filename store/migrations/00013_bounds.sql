-- +goose Up
-- What core/vessel says of pots and burners, stated in the data file too; a test
-- holds the two to each other. Rows that are there already stay.

-- +goose StatementBegin
CREATE TRIGGER pot_bounds BEFORE INSERT ON pot
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

-- +goose StatementBegin
CREATE TRIGGER burner_bounds BEFORE INSERT ON burner
WHEN NOT (NEW.power_w BETWEEN 50 AND 30000 AND NEW.efficiency > 0 AND NEW.efficiency <= 1)
BEGIN SELECT RAISE(ABORT, 'the power of a burner is out of bounds'); END;
-- +goose StatementEnd
