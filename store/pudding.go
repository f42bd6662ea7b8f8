package store

import (
	"context"
	"database/sql"
	"encoding/json"
	"time"

	"kirdu/core/plan"
)

// A Pudding is a plan on the shelf at its present version.
type Pudding struct {
	ID      string
	Plan    *plan.Plan
	Version int
	Latest  int // above Version after an undo
	SavedAt time.Time
	ServeAt time.Time // when it is to be on the table; zero: not set
}

// CanUndo reports whether there is an earlier version.
func (p Pudding) CanUndo() bool { return p.Version > 1 }

// CanRedo reports whether an undo can be taken back.
func (p Pudding) CanRedo() bool { return p.Latest > p.Version }

const puddingQuery = `SELECT pudding.id, plan_version.document, pudding.version, pudding.saved_at, pudding.serve_at, pudding.name,
	(SELECT max(version) FROM plan_version AS v WHERE v.pudding_id = pudding.id)
	FROM pudding JOIN plan_version ON plan_version.pudding_id = pudding.id AND plan_version.version = pudding.version
	WHERE pudding.removed_at IS NULL`

func scanPudding(row scanner) (Pudding, error) {
	var p Pudding
	var document, saved, name string
	var serve sql.NullString
	if err := row.Scan(&p.ID, &document, &p.Version, &saved, &serve, &name, &p.Latest); err != nil {
		return p, err
	}
	var err error
	if serve.Valid {
		if p.ServeAt, err = parseStamp(serve.String); err != nil {
			return p, err
		}
	}
	if p.SavedAt, err = parseStamp(saved); err != nil {
		return p, err
	}
	if p.Plan, err = plan.Read([]byte(document)); err != nil {
		return p, &Unreadable{Kind: APudding, ID: p.ID, Name: name, At: p.SavedAt, Err: err}
	}
	return p, nil
}

// Shelf returns so many of the puddings, the latest saved first, and those among
// them that cannot be read.
func (s *Store) Shelf(ctx context.Context, most int) ([]Pudding, []*Unreadable, error) {
	rows, err := s.db.QueryContext(ctx, puddingQuery+` ORDER BY pudding.saved_at DESC, pudding.id LIMIT ?`, most)
	return readable(rows, err, scanPudding)
}

// Puddings returns so many of the shelf that can be read, the latest saved first.
func (s *Store) Puddings(ctx context.Context, most int) ([]Pudding, error) {
	shelf, _, err := s.Shelf(ctx, most)
	return shelf, err
}

// Planned returns the puddings that have a time to be on the table, in its
// order.
func (s *Store) Planned(ctx context.Context) ([]Pudding, error) {
	rows, err := s.db.QueryContext(ctx, puddingQuery+` AND pudding.serve_at IS NOT NULL ORDER BY pudding.serve_at, pudding.id`)
	planned, _, err := readable(rows, err, scanPudding)
	return planned, err
}

// CountPuddings returns how many are on the shelf.
func (s *Store) CountPuddings(ctx context.Context) (int, error) {
	var n int
	err := s.db.QueryRowContext(ctx, `SELECT count(*) FROM pudding WHERE removed_at IS NULL`).Scan(&n)
	return n, err
}

// Pudding returns one pudding. Error: ErrNotFound.
func (s *Store) Pudding(ctx context.Context, id string) (Pudding, error) {
	return oneRow(scanPudding(s.db.QueryRowContext(ctx, puddingQuery+` AND pudding.id = ?`, id)))
}

// CreatePudding puts a plan on the shelf.
func (s *Store) CreatePudding(ctx context.Context, id string, p *plan.Plan, at time.Time) error {
	return s.inTx(ctx, func(tx *sql.Tx) error { return createPudding(ctx, tx, id, p, at) })
}

func createPudding(ctx context.Context, tx *sql.Tx, id string, p *plan.Plan, at time.Time) error {
	document, err := p.JSON()
	if err != nil {
		return err
	}
	_, err = tx.ExecContext(ctx, `INSERT INTO pudding (id, name, way, serves, serve, version, created_at, saved_at)
		VALUES (?, ?, ?, ?, ?, 1, ?, ?)`, id, p.Name, p.Way, p.Serves, p.Serve, stamp(at), stamp(at))
	if err != nil {
		return err
	}
	_, err = tx.ExecContext(ctx, `INSERT INTO plan_version (pudding_id, version, document, saved_at) VALUES (?, 1, ?, ?)`,
		id, string(document), stamp(at))
	return err
}

// SavePlan stores a new version after base, the version it was made from. What
// had been undone is gone then. Errors: ErrNotFound, ErrStale.
func (s *Store) SavePlan(ctx context.Context, id string, base int, p *plan.Plan, at time.Time) error {
	return s.save(ctx, id, base, base+1, p, at)
}

// AmendPlan stores a plan in the place of base, for one edit that comes in
// several pieces, as a number does that is being typed. Errors: ErrNotFound,
// ErrStale.
func (s *Store) AmendPlan(ctx context.Context, id string, base int, p *plan.Plan, at time.Time) error {
	return s.save(ctx, id, base, base, p, at)
}

func (s *Store) save(ctx context.Context, id string, base, version int, p *plan.Plan, at time.Time) error {
	return s.inTx(ctx, func(tx *sql.Tx) error { return saveIn(ctx, tx, id, base, version, p, at) })
}

func saveIn(ctx context.Context, tx *sql.Tx, id string, base, version int, p *plan.Plan, at time.Time) error {
	if err := isVersion(ctx, tx, id, base); err != nil {
		return err
	}
	document, err := withOwnCalibration(ctx, tx, id, base, p)
	if err != nil {
		return err
	}
	if _, err := tx.ExecContext(ctx, `DELETE FROM plan_version WHERE pudding_id = ? AND version >= ?`, id, version); err != nil {
		return err
	}
	if _, err := tx.ExecContext(ctx, `INSERT INTO plan_version (pudding_id, version, document, saved_at) VALUES (?, ?, ?, ?)`,
		id, version, string(document), stamp(at)); err != nil {
		return err
	}
	return turnTo(ctx, tx, id, version, p, at)
}

// withOwnCalibration writes a plan with the calibration that its version before had:
// what this kitchen has learnt is laid over a plan when it is opened, and is not a
// part of it.
func withOwnCalibration(ctx context.Context, tx *sql.Tx, id string, base int, p *plan.Plan) ([]byte, error) {
	var before string
	if err := tx.QueryRowContext(ctx, `SELECT coalesce(document -> '$.calibration', '{}') FROM plan_version WHERE pudding_id = ?
			AND version = ?`, id, base).Scan(&before); err != nil {
		return nil, err
	}
	own := *p
	own.Calibration = plan.Calibration{}
	if err := json.Unmarshal([]byte(before), &own.Calibration); err != nil {
		return nil, err
	}
	return own.JSON()
}

// turnTo makes a version the present one, with the columns that go with it.
func turnTo(ctx context.Context, tx *sql.Tx, id string, version int, p *plan.Plan, at time.Time) error {
	_, err := tx.ExecContext(ctx, `UPDATE pudding SET name = ?, way = ?, serves = ?, serve = ?, version = ?, saved_at = ? WHERE id = ?`,
		p.Name, p.Way, p.Serves, p.Serve, version, stamp(at), id)
	return err
}

func isVersion(ctx context.Context, tx *sql.Tx, id string, base int) error {
	var version int
	if _, err := oneRow(version, tx.QueryRowContext(ctx,
		`SELECT version FROM pudding WHERE id = ? AND removed_at IS NULL`, id).Scan(&version)); err != nil {
		return err
	}
	if version != base {
		return ErrStale
	}
	return nil
}

// Step moves a pudding one version back or forth, from base. It does nothing
// at either end. Errors: ErrNotFound, ErrStale.
func (s *Store) Step(ctx context.Context, id string, base, by int, at time.Time) error {
	return s.inTx(ctx, func(tx *sql.Tx) error {
		if err := isVersion(ctx, tx, id, base); err != nil {
			return err
		}
		var document string
		err := tx.QueryRowContext(ctx, `SELECT document FROM plan_version WHERE pudding_id = ? AND version = ?`, id, base+by).Scan(&document)
		if err == sql.ErrNoRows {
			return nil
		}
		if err != nil {
			return err
		}
		p, err := plan.Read([]byte(document))
		if err != nil {
			return &Unreadable{Kind: APudding, ID: id, Err: err}
		}
		return turnTo(ctx, tx, id, base+by, p, at)
	})
}

// A PlanVersion is one version of a pudding's plan.
type PlanVersion struct {
	Version int
	Plan    *plan.Plan // nil if it cannot be read
	SavedAt time.Time
}

func scanVersion(row scanner) (PlanVersion, error) {
	var v PlanVersion
	var document, saved string
	if err := row.Scan(&v.Version, &document, &saved); err != nil {
		return v, err
	}
	var err error
	if v.SavedAt, err = parseStamp(saved); err != nil {
		return v, err
	}
	if read, err := plan.Read([]byte(document)); err == nil {
		v.Plan = read
	}
	return v, nil
}

// Versions returns so many versions of a pudding below one, the latest first.
func (s *Store) Versions(ctx context.Context, id string, below, most int) ([]PlanVersion, error) {
	rows, err := s.db.QueryContext(ctx, `SELECT version, document, saved_at FROM plan_version
		WHERE pudding_id = ? AND version < ? ORDER BY version DESC LIMIT ?`, id, below, most)
	return all(rows, err, scanVersion)
}

// RemovePudding takes a pudding off the shelf; its batches stay in the book.
func (s *Store) RemovePudding(ctx context.Context, id string, at time.Time) error {
	return changed(s.exec(ctx, `UPDATE pudding SET removed_at = ? WHERE id = ? AND removed_at IS NULL`, stamp(at), id))
}

// RestorePudding undoes RemovePudding.
func (s *Store) RestorePudding(ctx context.Context, id string) error {
	return changed(s.exec(ctx, `UPDATE pudding SET removed_at = NULL WHERE id = ?`, id))
}
