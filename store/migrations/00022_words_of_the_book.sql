-- +goose Up
-- The book is searched by any three letters of a name or a note, however many batches are in it. The number of an
-- entry stays the same when the file is copied; that of a row of cook need not.
CREATE TABLE book_entry (number INTEGER PRIMARY KEY, cook_id TEXT NOT NULL UNIQUE) STRICT;
CREATE VIRTUAL TABLE book_words USING fts5 (name, note, next_note, tokenize = 'trigram remove_diacritics 1', content = '',
  contentless_delete = 1);
INSERT INTO book_entry (cook_id) SELECT id FROM cook;
INSERT INTO book_words (rowid, name, note, next_note)
  SELECT number, coalesce(cook.name, ''), coalesce(verdict.note, ''), coalesce(verdict.next_note, '')
  FROM book_entry JOIN cook ON cook.id = book_entry.cook_id LEFT JOIN verdict ON verdict.cook_id = cook.id;

-- +goose StatementBegin
CREATE TRIGGER book_takes_cook AFTER INSERT ON cook
BEGIN
  INSERT OR IGNORE INTO book_entry (cook_id) VALUES (NEW.id);
  DELETE FROM book_words WHERE rowid = (SELECT number FROM book_entry WHERE cook_id = NEW.id);
  INSERT INTO book_words (rowid, name, note, next_note)
    SELECT number, coalesce(cook.name, ''), coalesce(verdict.note, ''), coalesce(verdict.next_note, '')
    FROM book_entry JOIN cook ON cook.id = book_entry.cook_id LEFT JOIN verdict ON verdict.cook_id = cook.id
    WHERE book_entry.cook_id = NEW.id;
END;
-- +goose StatementEnd

-- +goose StatementBegin
CREATE TRIGGER book_takes_name AFTER UPDATE OF document ON cook
BEGIN
  DELETE FROM book_words WHERE rowid = (SELECT number FROM book_entry WHERE cook_id = NEW.id);
  INSERT INTO book_words (rowid, name, note, next_note)
    SELECT number, coalesce(cook.name, ''), coalesce(verdict.note, ''), coalesce(verdict.next_note, '')
    FROM book_entry JOIN cook ON cook.id = book_entry.cook_id LEFT JOIN verdict ON verdict.cook_id = cook.id
    WHERE book_entry.cook_id = NEW.id;
END;
-- +goose StatementEnd

-- +goose StatementBegin
CREATE TRIGGER book_takes_note AFTER INSERT ON verdict
BEGIN
  DELETE FROM book_words WHERE rowid = (SELECT number FROM book_entry WHERE cook_id = NEW.cook_id);
  INSERT INTO book_words (rowid, name, note, next_note)
    SELECT number, coalesce(cook.name, ''), NEW.note, NEW.next_note
    FROM book_entry JOIN cook ON cook.id = book_entry.cook_id WHERE book_entry.cook_id = NEW.cook_id;
END;
-- +goose StatementEnd

-- +goose StatementBegin
CREATE TRIGGER book_takes_other_note AFTER UPDATE OF note, next_note ON verdict
BEGIN
  DELETE FROM book_words WHERE rowid = (SELECT number FROM book_entry WHERE cook_id = NEW.cook_id);
  INSERT INTO book_words (rowid, name, note, next_note)
    SELECT number, coalesce(cook.name, ''), NEW.note, NEW.next_note
    FROM book_entry JOIN cook ON cook.id = book_entry.cook_id WHERE book_entry.cook_id = NEW.cook_id;
END;
-- +goose StatementEnd

-- +goose StatementBegin
CREATE TRIGGER book_loses_note AFTER DELETE ON verdict
BEGIN
  DELETE FROM book_words WHERE rowid = (SELECT number FROM book_entry WHERE cook_id = OLD.cook_id);
  INSERT INTO book_words (rowid, name, note, next_note)
    SELECT number, coalesce(cook.name, ''), '', ''
    FROM book_entry JOIN cook ON cook.id = book_entry.cook_id WHERE book_entry.cook_id = OLD.cook_id;
END;
-- +goose StatementEnd

-- +goose StatementBegin
CREATE TRIGGER book_loses_cook AFTER DELETE ON cook
BEGIN
  DELETE FROM book_words WHERE rowid = (SELECT number FROM book_entry WHERE cook_id = OLD.id);
  DELETE FROM book_entry WHERE cook_id = OLD.id;
END;
-- +goose StatementEnd
