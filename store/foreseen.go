package store

import (
	"context"
	"database/sql"
	"encoding/json"
	"errors"
)

// Figures are what a forecast came to, in short.
type Figures struct {
	Minutes   float64 `json:"minutes"`
	Thickness float64 `json:"thickness"` // as served; 0 where it does not apply
	SweetPct  float64 `json:"sweet_pct"`
	YieldG    float64 `json:"yield_g"`
}

// A Foreseen is what the forecast of a pudding came to by an edition of the model, and
// what it was by the one before, while that has not been told.
type Foreseen struct {
	PuddingID string
	Version   int // of the plan
	Edition   int // of the model
	Figures   *Figures
	Was       *Figures // nil where it was not kept
	Told      bool
}

// Unforeseen returns the puddings whose figures are of another version of their plan, of
// an older edition of the model, or not there.
func (s *Store) Unforeseen(ctx context.Context, edition int) ([]Pudding, error) {
	rows, err := s.db.QueryContext(ctx, puddingQuery+` AND NOT EXISTS (SELECT 1 FROM foreseen WHERE pudding_id = pudding.id
		AND foreseen.version = pudding.version AND foreseen.edition >= ?) ORDER BY pudding.id`, edition)
	list, _, err := readable(rows, err, scanPudding)
	return list, err
}

// Foreseen returns what a pudding came to; ok is false where nothing was kept.
func (s *Store) Foreseen(ctx context.Context, id string) (f Foreseen, ok bool, err error) {
	var figures, was sql.NullString
	err = s.db.QueryRowContext(ctx, `SELECT version, edition, figures, was, told FROM foreseen WHERE pudding_id = ?`, id).
		Scan(&f.Version, &f.Edition, &figures, &was, &f.Told)
	if errors.Is(err, sql.ErrNoRows) {
		return f, false, nil
	}
	f.PuddingID = id
	// Figures that cannot be read are as good as none: they are worked out anew.
	f.Figures, f.Was = readFigures(figures), readFigures(was)
	return f, err == nil, err
}

func readFigures(text sql.NullString) *Figures {
	f := &Figures{}
	if !text.Valid || json.Unmarshal([]byte(text.String), f) != nil {
		return nil
	}
	return f
}

// Foresee keeps what a pudding came to.
func (s *Store) Foresee(ctx context.Context, f Foreseen) error {
	figures, err := json.Marshal(f.Figures)
	if err != nil {
		return err
	}
	var was any
	if f.Was != nil {
		data, err := json.Marshal(f.Was)
		if err != nil {
			return err
		}
		was = string(data)
	}
	return s.inTx(ctx, func(tx *sql.Tx) error {
		_, err := tx.ExecContext(ctx, `INSERT INTO foreseen (pudding_id, version, edition, figures, was, told) VALUES (?, ?, ?, ?, ?, ?)
			ON CONFLICT (pudding_id) DO UPDATE SET version = excluded.version, edition = excluded.edition, figures = excluded.figures,
				was = excluded.was, told = excluded.told`, f.PuddingID, f.Version, f.Edition, string(figures), was, f.Told)
		return err
	})
}

// TellForeseen notes that the cook has read what changed.
func (s *Store) TellForeseen(ctx context.Context, id string) error {
	return s.inTx(ctx, func(tx *sql.Tx) error {
		_, err := tx.ExecContext(ctx, `UPDATE foreseen SET told = 1, was = NULL WHERE pudding_id = ?`, id)
		return err
	})
}
