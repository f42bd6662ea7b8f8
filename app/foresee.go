package app

import (
	"context"
	"math"

	"kirdu/core/forecast"
	"kirdu/core/plan"
	"kirdu/core/watch"
	"kirdu/store"
)

// foresee works out what each pudding comes to that has no figures of the present edition
// of the model. Where an older edition said something else, that is kept until it is told.
func (k *Kitchen) foresee(ctx context.Context) error {
	puddings, err := k.Store.Unforeseen(ctx, forecast.Edition)
	if err != nil {
		return err
	}
	if err := k.lay(ctx, puddings); err != nil {
		return err
	}
	for _, p := range puddings {
		before, known, err := k.Store.Foreseen(ctx, p.ID)
		if err != nil {
			return err
		}
		figures := figuresOf(p.Plan)
		now := store.Foreseen{PuddingID: p.ID, Version: p.Version, Edition: forecast.Edition, Figures: &figures, Told: true}
		switch {
		case !known || before.Edition >= forecast.Edition:
			// Only the plan is another.
		case before.Figures == nil:
			now.Told = false
		case before.Version == p.Version && differ(*before.Figures, figures):
			now.Was, now.Told = before.Figures, false
		}
		if err := k.Store.Foresee(ctx, now); err != nil {
			return err
		}
	}
	return nil
}

func figuresOf(p *plan.Plan) store.Figures {
	f := forecast.Run(p, forecast.Options{NominalOnly: true})
	grade, _ := watch.ServedThickness(p, f)
	return store.Figures{Minutes: f.Time.TotalMin.Value, Thickness: grade, SweetPct: f.Sweetness.Pct.Value, YieldG: f.Yield.MassG.Value}
}

// differ reports whether a cook would notice.
func differ(a, b store.Figures) bool {
	const share, grade, sweet = 0.08, 0.3, 0.4
	apart := func(x, y float64) bool { return math.Abs(x-y) > share*math.Max(x, y) }
	return apart(a.Minutes, b.Minutes) || apart(a.YieldG, b.YieldG) || math.Abs(a.Thickness-b.Thickness) > grade ||
		math.Abs(a.SweetPct-b.SweetPct) > sweet
}
