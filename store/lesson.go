package store

import (
	"context"
	"encoding/json"
	"time"

	"kirdu/core/cook"
	"kirdu/core/learn"
	"kirdu/core/plan"
)

// A Lesson is what one batch teaches.
type Lesson struct {
	CookID       string
	FinishedAt   time.Time
	Observations []learn.Observation
}

// A Forgotten thing counts from batches after a time only.
type Forgotten struct {
	Of   learn.Of
	Name string // the burner, pot or grain; "" where there is one of a kind
	At   time.Time
}

// mostTaught is how many of the latest batches teach: a kitchen changes.
const mostTaught = 300

// Lessons returns those of the latest batches.
func (s *Store) Lessons(ctx context.Context) ([]Lesson, error) {
	rows, err := s.db.QueryContext(ctx, `SELECT cook.id, cook.finished_at, lesson.observations FROM lesson JOIN cook ON cook.id = lesson.cook_id
		ORDER BY cook.finished_at DESC LIMIT ?`, mostTaught)
	return all(rows, err, func(row scanner) (Lesson, error) {
		var l Lesson
		var finished, observations string
		if err := row.Scan(&l.CookID, &finished, &observations); err != nil {
			return l, err
		}
		if err := json.Unmarshal([]byte(observations), &l.Observations); err != nil {
			return l, err
		}
		var err error
		l.FinishedAt, err = parseStamp(finished)
		return l, err
	})
}

// Untaught returns so many of the latest batches in the book that have no lesson.
func (s *Store) Untaught(ctx context.Context, most int) ([]Cook, error) {
	return s.cooks(ctx, cookQuery+` LEFT JOIN lesson ON lesson.cook_id = cook.id
		WHERE cook.finished_at IS NOT NULL AND cook.rehearsal = 0 AND lesson.cook_id IS NULL ORDER BY cook.begun_at DESC LIMIT ?`, most)
}

// SaveLesson stores what a batch teaches; a later lesson takes the place of the
// earlier.
func (s *Store) SaveLesson(ctx context.Context, cookID string, observations []learn.Observation, at time.Time) error {
	if observations == nil {
		observations = []learn.Observation{}
	}
	data, err := json.Marshal(observations)
	if err != nil {
		return err
	}
	_, err = s.db.ExecContext(ctx, `INSERT INTO lesson (cook_id, observations, worked_at) VALUES (?, ?, ?)
		ON CONFLICT (cook_id) DO UPDATE SET observations = excluded.observations, worked_at = excluded.worked_at`, cookID, string(data), stamp(at))
	return err
}

// DropLesson lets the lesson of a batch be worked out anew.
func (s *Store) DropLesson(ctx context.Context, cookID string) error {
	_, err := s.db.ExecContext(ctx, `DELETE FROM lesson WHERE cook_id = ?`, cookID)
	return err
}

// ForgottenThings lists what was forgotten.
func (s *Store) ForgottenThings(ctx context.Context) ([]Forgotten, error) {
	rows, err := s.db.QueryContext(ctx, `SELECT about, name, at FROM forgotten ORDER BY about, name`)
	return all(rows, err, func(row scanner) (Forgotten, error) {
		var f Forgotten
		var at string
		if err := row.Scan(&f.Of, &f.Name, &at); err != nil {
			return f, err
		}
		var err error
		f.At, err = parseStamp(at)
		return f, err
	})
}

// Forget lets what batches until now teach of a thing count no more.
func (s *Store) Forget(ctx context.Context, f Forgotten) error {
	_, err := s.db.ExecContext(ctx, `INSERT INTO forgotten (about, name, at) VALUES (?, ?, ?)
		ON CONFLICT (about, name) DO UPDATE SET at = excluded.at`, f.Of, f.Name, stamp(f.At))
	return err
}

// Remember undoes Forget.
func (s *Store) Remember(ctx context.Context, of learn.Of, name string) error {
	_, err := s.db.ExecContext(ctx, `DELETE FROM forgotten WHERE about = ? AND name = ?`, of, name)
	return err
}

// Learn returns the verdict as the core learns from it, empty where there is none.
func (v *Verdict) Learn() learn.Verdict {
	if v == nil {
		return learn.Verdict{}
	}
	said := learn.Verdict{Grade: v.Thickness, Eaten: plan.Serve(v.Eaten)}
	tastes := []float64{cook.NotSweet, cook.SweetRight, cook.TooSweet}
	for k, words := range SweetnessVerdicts() {
		if v.Sweetness == words {
			said.Taste = &tastes[k]
		}
	}
	return said
}
