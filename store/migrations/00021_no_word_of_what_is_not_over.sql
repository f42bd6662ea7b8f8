-- +goose Up
-- A verdict, a lesson and tags are of a finished batch: what an archive brought otherwise goes, and does not come
-- again. When a batch was finished is what its log says.
UPDATE cook SET finished_at = (SELECT e.at FROM cook_event e WHERE e.cook_id = cook.id AND e.kind = 'finished'
    AND NOT EXISTS (SELECT 1 FROM cook_event u WHERE u.cook_id = e.cook_id AND u.kind = 'undone' AND u.part = e.id)
    ORDER BY e.sequence LIMIT 1)
  WHERE finished_at IS NULL AND EXISTS (SELECT 1 FROM cook_event e WHERE e.cook_id = cook.id AND e.kind = 'finished');
DELETE FROM verdict WHERE cook_id IN (SELECT id FROM cook WHERE finished_at IS NULL);
DELETE FROM lesson WHERE cook_id IN (SELECT id FROM cook WHERE finished_at IS NULL);

-- +goose StatementBegin
CREATE TRIGGER verdict_of_a_batch BEFORE INSERT ON verdict
WHEN (SELECT finished_at FROM cook WHERE id = NEW.cook_id) IS NULL
BEGIN SELECT RAISE(ABORT, 'it is a word about a batch that is not finished'); END;
-- +goose StatementEnd

-- +goose StatementBegin
CREATE TRIGGER lesson_of_a_batch BEFORE INSERT ON lesson
WHEN (SELECT finished_at FROM cook WHERE id = NEW.cook_id) IS NULL
BEGIN SELECT RAISE(ABORT, 'it is a lesson of a batch that is not finished'); END;
-- +goose StatementEnd

-- +goose StatementBegin
CREATE TRIGGER cook_stays_finished BEFORE UPDATE OF finished_at ON cook
WHEN NEW.finished_at IS NULL AND OLD.finished_at IS NOT NULL
BEGIN SELECT RAISE(ABORT, 'what is finished stays finished'); END;
-- +goose StatementEnd
