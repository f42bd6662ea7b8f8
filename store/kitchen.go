package store

import (
	"context"
	"database/sql"
	"errors"
	"strings"
	"time"

	"kirdu/core/measure"
	"kirdu/core/plan"
	"kirdu/core/vessel"
)

// A Pot is a vessel of the kitchen.
type Pot struct {
	ID string
	vessel.Pot
}

// A Burner is a burner of the kitchen.
type Burner struct {
	ID string
	vessel.Burner
	MaxPotMM measure.Millimetre // the widest bottom that it takes; 0: any
}

const potColumns = `id, name, shape, diameter_mm, bottom_mm, top_mm, length_mm, width_mm, height_mm, mass_g, uses, heavy`

const insertPot = `INSERT INTO pot (` + potColumns + `, added_at) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)`

func scanPot(row scanner) (Pot, error) {
	var p Pot
	var mass sql.Null[measure.Gram]
	var uses string
	err := row.Scan(&p.ID, &p.Name, &p.Shape, &p.DiameterMM, &p.BottomMM, &p.TopMM, &p.LengthMM, &p.WidthMM, &p.HeightMM, &mass,
		&uses, &p.Heavy)
	if mass.Valid {
		p.MassG = &mass.V
	}
	p.Uses = usesOf(uses)
	return p, err
}

// usesOf reads what a pot is for; "" stands for all.
func usesOf(text string) []vessel.Use {
	var uses []vessel.Use
	for _, word := range strings.Fields(text) {
		uses = append(uses, vessel.Use(word))
	}
	return uses
}

// cells are the values of a pot in the order of its columns.
func (p Pot) cells() []any {
	var mass sql.Null[measure.Gram]
	if p.MassG != nil {
		mass = sql.Null[measure.Gram]{V: *p.MassG, Valid: true}
	}
	uses := make([]string, len(p.Uses))
	for i, use := range p.Uses {
		uses[i] = string(use)
	}
	return []any{p.ID, p.Name, p.Shape, p.DiameterMM, p.BottomMM, p.TopMM, p.LengthMM, p.WidthMM, p.HeightMM, mass,
		strings.Join(uses, " "), p.Heavy}
}

// Pots returns the pots of the kitchen in the order they were added.
func (s *Store) Pots(ctx context.Context) ([]Pot, error) {
	rows, err := s.db.QueryContext(ctx, `SELECT `+potColumns+` FROM pot WHERE removed_at IS NULL ORDER BY added_at, id`)
	return all(rows, err, scanPot)
}

// Pot returns one pot of the kitchen. Error: ErrNotFound.
func (s *Store) Pot(ctx context.Context, id string) (Pot, error) {
	return oneRow(scanPot(s.db.QueryRowContext(ctx, `SELECT `+potColumns+` FROM pot WHERE id = ? AND removed_at IS NULL`, id)))
}

// AddPot stores a pot.
func (s *Store) AddPot(ctx context.Context, p Pot, at time.Time) error {
	if err := p.Check(); err != nil {
		return err
	}
	_, err := s.exec(ctx, insertPot, append(p.cells(), stamp(at))...)
	return err
}

// ChangePot stores what a pot is now: named otherwise, measured again, weighed, put to
// other uses. Plans keep the measures that they were made with. Error: ErrNotFound.
func (s *Store) ChangePot(ctx context.Context, p Pot) error {
	if err := p.Check(); err != nil {
		return err
	}
	return changed(s.exec(ctx, `UPDATE pot SET (`+potColumns+`) = (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?) WHERE id = ? AND removed_at IS NULL`,
		append(p.cells(), p.ID)...))
}

// RemovePot takes a pot out of the kitchen; plans that use it keep its
// measures. RestorePot brings it back.
func (s *Store) RemovePot(ctx context.Context, id string, at time.Time) error {
	return changed(s.exec(ctx, `UPDATE pot SET removed_at = ? WHERE id = ? AND removed_at IS NULL`, stamp(at), id))
}

// RestorePot undoes RemovePot.
func (s *Store) RestorePot(ctx context.Context, id string) error {
	return changed(s.exec(ctx, `UPDATE pot SET removed_at = NULL WHERE id = ?`, id))
}

const burnerColumns = `id, name, kind, power_w, efficiency, max_pot_mm`

func scanBurner(row scanner) (Burner, error) {
	var b Burner
	err := row.Scan(&b.ID, &b.Name, &b.Kind, &b.PowerW, &b.Efficiency, &b.MaxPotMM)
	return b, err
}

// Burners returns the burners of the kitchen in the order they were added, each
// with the power of its flames from the latest water tests.
func (s *Store) Burners(ctx context.Context) ([]Burner, error) {
	rows, err := s.db.QueryContext(ctx, `SELECT `+burnerColumns+` FROM burner WHERE removed_at IS NULL ORDER BY added_at, id`)
	burners, err := all(rows, err, scanBurner)
	if err != nil {
		return nil, err
	}
	tests, err := s.WaterTests(ctx)
	if err != nil {
		return nil, err
	}
	for i := range burners {
		for _, t := range tests {
			if t.BurnerID != burners[i].ID {
				continue
			}
			if burners[i].FlameW == nil {
				burners[i].FlameW = map[vessel.Flame]measure.Watt{}
			}
			if _, later := burners[i].FlameW[t.Flame]; !later {
				burners[i].FlameW[t.Flame] = t.Power
			}
		}
	}
	return burners, nil
}

const insertBurner = `INSERT INTO burner (` + burnerColumns + `, added_at) VALUES (?, ?, ?, ?, ?, ?, ?)`

// AddBurner stores a burner.
func (s *Store) AddBurner(ctx context.Context, b Burner, at time.Time) error {
	if err := b.Check(); err != nil {
		return err
	}
	_, err := s.exec(ctx, insertBurner,
		b.ID, b.Name, b.Kind, b.PowerW, b.Efficiency, b.MaxPotMM, stamp(at))
	return err
}

// RemoveBurner takes a burner out of the kitchen.
func (s *Store) RemoveBurner(ctx context.Context, id string, at time.Time) error {
	return changed(s.exec(ctx, `UPDATE burner SET removed_at = ? WHERE id = ? AND removed_at IS NULL`, stamp(at), id))
}

// RestoreBurner undoes RemoveBurner.
func (s *Store) RestoreBurner(ctx context.Context, id string) error {
	return changed(s.exec(ctx, `UPDATE burner SET removed_at = NULL WHERE id = ?`, id))
}

// A Beginning is what a kitchen begins with.
type Beginning struct {
	Pot     Pot
	Burner  Burner
	Measure *Measuring // nil: none
	ID      string     // of the first pudding
	Plan    *plan.Plan // nil: it comes from a recipe
	Setting string     // that it has begun
}

// Begin puts the first pot, burner, measure and pudding into a kitchen, all of them
// or nothing. Error: measure.Faults for what is out of bounds.
func (s *Store) Begin(ctx context.Context, b Beginning, at time.Time) error {
	if err := errors.Join(b.Pot.Check(), b.Burner.Check()); err != nil {
		return err
	}
	return s.inTx(ctx, func(tx *sql.Tx) error {
		if _, err := tx.ExecContext(ctx, insertPot, append(b.Pot.cells(), stamp(at))...); err != nil {
			return err
		}
		if _, err := tx.ExecContext(ctx, insertBurner, b.Burner.ID, b.Burner.Name, b.Burner.Kind, b.Burner.PowerW, b.Burner.Efficiency,
			b.Burner.MaxPotMM,
			stamp(at)); err != nil {
			return err
		}
		if m := b.Measure; m != nil {
			if _, err := tx.ExecContext(ctx, insertMeasuring, m.ID, m.Name, m.Unit, m.Size, m.How, stamp(m.TakenAt)); err != nil {
				return err
			}
		}
		if b.Plan != nil {
			if err := createPudding(ctx, tx, b.ID, b.Plan, at); err != nil {
				return err
			}
		}
		return setSetting(ctx, tx, b.Setting, "done")
	})
}
