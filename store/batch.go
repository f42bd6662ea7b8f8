package store

import (
	"context"
	"database/sql"
	"time"
)

// AllBatches returns every batch in the book, the latest first.
func (s *Store) AllBatches(ctx context.Context) ([]Cook, error) {
	list, err := s.cooks(ctx, cookQuery+` WHERE cook.finished_at IS NOT NULL AND cook.rehearsal = 0 AND cook.removed_at IS NULL
		ORDER BY cook.begun_at DESC`)
	if err != nil {
		return nil, err
	}
	for i := range list {
		if list[i].Tags, err = s.tagsOf(ctx, list[i].ID); err != nil {
			return nil, err
		}
	}
	return list, nil
}

func (s *Store) tagsOf(ctx context.Context, cookID string) ([]string, error) {
	rows, err := s.db.QueryContext(ctx, `SELECT name FROM tag WHERE cook_id = ? ORDER BY name`, cookID)
	return all(rows, err, func(row scanner) (string, error) {
		var name string
		err := row.Scan(&name)
		return name, err
	})
}

// A BatchReading is a reading with the batch it belongs to.
type BatchReading struct {
	CookID string
	Reading
}

// AllReadings returns what gadgets sent, of all cooks, in the order of their time.
func (s *Store) AllReadings(ctx context.Context) ([]BatchReading, error) {
	rows, err := s.db.QueryContext(ctx, `SELECT cook_id, kind, at, value, mark FROM reading ORDER BY cook_id, at, rowid`)
	return all(rows, err, func(row scanner) (BatchReading, error) {
		var r BatchReading
		var err error
		r.Reading, err = scanReading(row, &r.CookID)
		return r, err
	})
}

// A Photo of a batch, as JPEG without any data about the camera or the place.
type Photo struct {
	JPEG          []byte
	Width, Height int
}

// SavePhoto stores the photo of a batch; a later one takes the place of the
// earlier. Error: ErrNotFound for a cook that is not there or not finished.
func (s *Store) SavePhoto(ctx context.Context, cookID string, p Photo, at time.Time) error {
	return changed(s.exec(ctx, `INSERT INTO photo (cook_id, jpeg, width, height, taken_at)
		SELECT id, ?, ?, ?, ? FROM cook WHERE id = ? AND finished_at IS NOT NULL
		ON CONFLICT (cook_id) DO UPDATE SET jpeg = excluded.jpeg, width = excluded.width, height = excluded.height, taken_at = excluded.taken_at`,
		p.JPEG, p.Width, p.Height, stamp(at), cookID))
}

// Photo returns the photo of a batch. Error: ErrNotFound.
func (s *Store) Photo(ctx context.Context, cookID string) (Photo, error) {
	var p Photo
	err := s.db.QueryRowContext(ctx, `SELECT jpeg, width, height FROM photo WHERE cook_id = ?`, cookID).Scan(&p.JPEG, &p.Width, &p.Height)
	return oneRow(p, err)
}

// PhotoSize returns the size of the photo of a batch, 0 if it has none.
func (s *Store) PhotoSize(ctx context.Context, cookID string) (width, height int, err error) {
	err = s.db.QueryRowContext(ctx, `SELECT coalesce(max(width), 0), coalesce(max(height), 0) FROM photo WHERE cook_id = ?`,
		cookID).Scan(&width, &height)
	return width, height, err
}

// RemovePhoto deletes the photo of a batch. Error: ErrNotFound.
func (s *Store) RemovePhoto(ctx context.Context, cookID string) error {
	return changed(s.exec(ctx, `DELETE FROM photo WHERE cook_id = ?`, cookID))
}

// setTags gives a batch these tags and no others.
func setTags(ctx context.Context, tx *sql.Tx, cookID string, tags []string) error {
	if _, err := tx.ExecContext(ctx, `DELETE FROM tag WHERE cook_id = ?`, cookID); err != nil {
		return err
	}
	for _, name := range tags {
		if _, err := tx.ExecContext(ctx, `INSERT INTO tag (cook_id, name) VALUES (?, ?) ON CONFLICT DO NOTHING`, cookID, name); err != nil {
			return err
		}
	}
	return nil
}

// Tags returns every tag in the book with how many batches have it, the commonest
// first.
func (s *Store) Tags(ctx context.Context) ([]Tag, error) {
	rows, err := s.db.QueryContext(ctx, `SELECT name, count(*) FROM tag GROUP BY name ORDER BY count(*) DESC, name LIMIT 40`)
	return all(rows, err, func(row scanner) (Tag, error) {
		var t Tag
		err := row.Scan(&t.Name, &t.Batches)
		return t, err
	})
}

// A Tag with the number of its batches.
type Tag struct {
	Name    string
	Batches int
}

// A BookLine is as much of a batch as a list shows.
type BookLine struct {
	ID, Name string
	BegunAt  time.Time
	Verdict  *Verdict // nil until it is judged; without the note of the next day
	Photo    string   // when the photo was taken, as a stamp; "" for none
	Last     int64    // grows with every event: what is known of the batch holds as long as it stays
}

// LatestLines returns so many of the batches in the book, the latest first.
func (s *Store) LatestLines(ctx context.Context, most int) ([]BookLine, error) {
	return s.lines(ctx, ` WHERE cook.finished_at IS NOT NULL AND cook.rehearsal = 0 AND cook.removed_at IS NULL
		ORDER BY cook.begun_at DESC LIMIT ?`, most)
}

func (s *Store) lines(ctx context.Context, where string, arguments ...any) ([]BookLine, error) {
	rows, err := s.db.QueryContext(ctx, `SELECT cook.id, cook.name, cook.begun_at, verdict.thickness, verdict.sweetness, verdict.note,
		(SELECT coalesce(max(sequence), 0) FROM cook_event WHERE cook_id = cook.id),
		coalesce((SELECT taken_at FROM photo WHERE cook_id = cook.id), '')
		FROM cook LEFT JOIN verdict ON verdict.cook_id = cook.id`+where, arguments...)
	return all(rows, err, func(row scanner) (BookLine, error) {
		var l BookLine
		var begun string
		var thickness sql.Null[int]
		var sweetness, note sql.Null[string]
		if err := row.Scan(&l.ID, &l.Name, &begun, &thickness, &sweetness, &note, &l.Last, &l.Photo); err != nil {
			return l, err
		}
		if thickness.Valid {
			l.Verdict = &Verdict{Thickness: thickness.V, Sweetness: sweetness.V, Note: note.V}
		}
		var err error
		l.BegunAt, err = parseStamp(begun)
		return l, err
	})
}
