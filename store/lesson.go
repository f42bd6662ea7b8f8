package store

import (
	"context"
	"database/sql"
	"encoding/json"
	"slices"
	"time"

	"kirdu/core/cook"
	"kirdu/core/learn"
	"kirdu/core/plan"
)

// A Lesson is what one batch teaches.
type Lesson struct {
	CookID       string
	Name         string // of the pudding
	FinishedAt   time.Time
	Edition      int // of the model it was learnt with
	Observations []learn.Observation
	Unreadable   bool // it has no observations: it is to be worked out anew
}

// A Forgotten thing counts from batches after a time only.
type Forgotten struct {
	Quantity learn.Quantity
	Name     string // the burner, pot or grain; "" where there is one of a kind
	At       time.Time
}

// mostTaught is how many of the latest batches teach: a kitchen changes.
const mostTaught = 300

// Lessons returns those of the latest batches, also those that cannot be read.
func (s *Store) Lessons(ctx context.Context) ([]Lesson, error) {
	rows, err := s.db.QueryContext(ctx, `SELECT cook.id, cook.name, cook.finished_at, lesson.edition, lesson.observations FROM lesson
			JOIN cook ON cook.id = lesson.cook_id
		WHERE cook.finished_at IS NOT NULL
		ORDER BY cook.finished_at DESC LIMIT ?`, mostTaught)
	return all(rows, err, func(row scanner) (Lesson, error) {
		var l Lesson
		var finished, observations string
		if err := row.Scan(&l.CookID, &l.Name, &finished, &l.Edition, &observations); err != nil {
			return l, err
		}
		if json.Unmarshal([]byte(observations), &l.Observations) != nil {
			l.Observations, l.Unreadable = nil, true
		}
		var err error
		l.FinishedAt, err = parseStamp(finished)
		return l, err
	})
}

// Untaught returns so many of the latest batches in the book that have no lesson,
// or one that was learnt with an older edition of the model.
func (s *Store) Untaught(ctx context.Context, edition, most int) ([]Cook, error) {
	return s.cooks(ctx, cookQuery+` LEFT JOIN lesson ON lesson.cook_id = cook.id
		WHERE cook.finished_at IS NOT NULL AND cook.rehearsal = 0 AND cook.removed_at IS NULL
			AND (lesson.cook_id IS NULL OR lesson.edition < ?) ORDER BY cook.begun_at DESC LIMIT ?`, edition, most)
}

// SaveLesson stores what a batch teaches; a later lesson takes the place of the
// earlier.
func (s *Store) SaveLesson(ctx context.Context, cookID string, l Lesson, at time.Time) error {
	return s.inTx(ctx, func(tx *sql.Tx) error { return saveLesson(ctx, tx, cookID, l, at) })
}

func saveLesson(ctx context.Context, tx *sql.Tx, cookID string, l Lesson, at time.Time) error {
	if l.Observations == nil {
		l.Observations = []learn.Observation{}
	}
	data, err := json.Marshal(l.Observations)
	if err != nil {
		return err
	}
	_, err = tx.ExecContext(ctx, `INSERT INTO lesson (cook_id, observations, edition, worked_at) VALUES (?, ?, ?, ?)
		ON CONFLICT (cook_id) DO UPDATE SET observations = excluded.observations, edition = excluded.edition, worked_at = excluded.worked_at`,
		cookID, string(data), l.Edition, stamp(at))
	return err
}

// ForgottenThings lists what was forgotten.
func (s *Store) ForgottenThings(ctx context.Context) ([]Forgotten, error) {
	rows, err := s.db.QueryContext(ctx, `SELECT about, name, at FROM forgotten ORDER BY about, name`)
	return all(rows, err, func(row scanner) (Forgotten, error) {
		var f Forgotten
		var at string
		if err := row.Scan(&f.Quantity, &f.Name, &at); err != nil {
			return f, err
		}
		var err error
		f.At, err = parseStamp(at)
		return f, err
	})
}

// Forget lets what batches until now teach of a thing count no more.
func (s *Store) Forget(ctx context.Context, f Forgotten) error {
	return s.inTx(ctx, func(tx *sql.Tx) error { return forget(ctx, tx, f) })
}

func forget(ctx context.Context, tx *sql.Tx, f Forgotten) error {
	_, err := tx.ExecContext(ctx, `INSERT INTO forgotten (about, name, at) VALUES (?, ?, ?)
		ON CONFLICT (about, name) DO UPDATE SET at = excluded.at`, f.Quantity, f.Name, stamp(f.At))
	return err
}

// Remember undoes Forget.
func (s *Store) Remember(ctx context.Context, of learn.Quantity, name string) error {
	_, err := s.exec(ctx, `DELETE FROM forgotten WHERE about = ? AND name = ?`, of, name)
	return err
}

// Learn returns the verdict as the core learns from it, empty where there is none.
func (v *Verdict) Learn() learn.Verdict {
	if v == nil {
		return learn.Verdict{}
	}
	said := learn.Verdict{Grade: v.Thickness, Eaten: plan.Serve(v.Eaten)}
	tastes := cook.Tastes()
	for k, words := range SweetnessVerdicts() {
		if v.Sweetness == words {
			said.Taste = &tastes[k]
		}
	}
	said.Thicker, said.Softer = wish(v.Thicker, ThicknessWishes()), wish(v.Softer, SoftnessWishes())
	return said
}

// wish is -1 for less, 0 for as it was, 1 for more; nil for nothing said.
func wish(said string, of []string) *float64 {
	at := slices.Index(of, said)
	if at < 0 {
		return nil
	}
	more := float64(at - 1)
	return &more
}
