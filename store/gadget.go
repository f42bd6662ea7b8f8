package store

import (
	"context"
	"database/sql"
	"math"
	"time"

	"kirdu/core/cook"
)

// A Gadget sends readings.
type Gadget struct {
	ID, Name string
	WithPot  bool // its scale bears the pot, too
	MadeAt   time.Time
	HeardAt  time.Time // zero: never
}

// A Reading is what a gadget showed, with the reason why it is not believed.
type Reading struct {
	Kind  string // scale, probe
	At    time.Time
	Value float64 // NaN where it was no number
	Mark  string
}

// MakeGadget keeps a gadget with the hash of its token.
func (s *Store) MakeGadget(ctx context.Context, g Gadget, tokenHash []byte) error {
	_, err := s.exec(ctx, `INSERT INTO gadget (id, name, token_hash, with_pot, made_at) VALUES (?, ?, ?, ?, ?)`,
		g.ID, g.Name, tokenHash, g.WithPot, stamp(g.MadeAt))
	return err
}

const gadgetQuery = `SELECT id, name, with_pot, made_at, heard_at FROM gadget WHERE removed_at IS NULL`

func scanGadget(row scanner) (Gadget, error) {
	var g Gadget
	var made string
	var heard sql.Null[string]
	if err := row.Scan(&g.ID, &g.Name, &g.WithPot, &made, &heard); err != nil {
		return g, err
	}
	var err error
	if g.MadeAt, err = parseStamp(made); err == nil && heard.Valid {
		g.HeardAt, err = parseStamp(heard.V)
	}
	return g, err
}

// Gadgets lists them in the order they were made.
func (s *Store) Gadgets(ctx context.Context) ([]Gadget, error) {
	rows, err := s.db.QueryContext(ctx, gadgetQuery+` ORDER BY made_at, id`)
	return all(rows, err, scanGadget)
}

// GadgetByToken finds the gadget of a token. Error: ErrNotFound.
func (s *Store) GadgetByToken(ctx context.Context, tokenHash []byte) (Gadget, error) {
	return oneRow(scanGadget(s.db.QueryRowContext(ctx, gadgetQuery+` AND token_hash = ?`, tokenHash)))
}

// RemoveGadget ends a gadget: its token is worth nothing from now on. Error:
// ErrNotFound.
func (s *Store) RemoveGadget(ctx context.Context, id string, at time.Time) error {
	return changed(s.exec(ctx, `UPDATE gadget SET removed_at = ? WHERE id = ? AND removed_at IS NULL`, stamp(at), id))
}

// HeardOf notes that a gadget sent something.
func (s *Store) HeardOf(ctx context.Context, id string, at time.Time) error {
	return changed(s.exec(ctx, `UPDATE gadget SET heard_at = ? WHERE id = ?`, stamp(at), id))
}

// Heard is what a message of gadgets brings to a cook: readings, and what of them
// the cook is told.
type Heard struct {
	Readings []Reading
	Events   []cook.Event
}

// KeepReadings stores what came for several cooks: all or nothing.
func (s *Store) KeepReadings(ctx context.Context, byCook map[string]Heard, at time.Time) error {
	return s.inTx(ctx, func(tx *sql.Tx) error {
		insert, err := tx.PrepareContext(ctx, `INSERT INTO reading (cook_id, kind, at, value, mark, stored_at) VALUES (?, ?, ?, ?, ?, ?)`)
		if err != nil {
			return err
		}
		defer insert.Close()
		for id, heard := range byCook {
			for _, r := range heard.Readings {
				value := sql.Null[float64]{V: r.Value, Valid: !math.IsNaN(r.Value) && !math.IsInf(r.Value, 0)}
				if _, err := insert.ExecContext(ctx, id, r.Kind, stamp(r.At), value, r.Mark, stamp(at)); err != nil {
					return err
				}
			}
			for _, e := range heard.Events {
				if err := appendEvent(ctx, tx, id, e, at); err != nil {
					return err
				}
			}
		}
		return nil
	})
}

// Readings returns those of a cook since a time, in the order of their time.
func (s *Store) Readings(ctx context.Context, cookID string, since time.Time) ([]Reading, error) {
	rows, err := s.db.QueryContext(ctx, `SELECT kind, at, value, mark FROM reading WHERE cook_id = ? AND at >= ? ORDER BY at, rowid`,
		cookID, stamp(since))
	return all(rows, err, func(row scanner) (Reading, error) { return scanReading(row) })
}

// scanReading scans a reading behind what else the row begins with.
func scanReading(row scanner, first ...any) (Reading, error) {
	var r Reading
	var at string
	var value sql.Null[float64]
	if err := row.Scan(append(first, &r.Kind, &at, &value, &r.Mark)...); err != nil {
		return r, err
	}
	if r.Value = value.V; !value.Valid {
		r.Value = math.NaN()
	}
	var err error
	r.At, err = parseStamp(at)
	return r, err
}
