package app

import (
	"context"
	"maps"

	"kirdu/core/measure"
	"kirdu/core/plan"
	"kirdu/store"
)

// A Remeasured is a pudding that a measure of another size changes.
type Remeasured struct {
	store.Pudding
	Changes []plan.Difference // of its materials, in grams
	Kept    *plan.Plan        // with the grams that it has now
}

// mostRemeasured bounds the puddings that are looked at when a measure changes.
const mostRemeasured = 1000

// Remeasure lists the puddings of the shelf that a measure changes when it is found to be of
// a size. One that measures nothing with it is not among them.
func (k *Kitchen) Remeasure(ctx context.Context, m store.Measuring) ([]Remeasured, error) {
	home, err := k.Store.Home(ctx)
	if err != nil {
		return nil, err
	}
	next := home
	next.Measures = measure.Measures{}
	maps.Copy(next.Measures, home.Measures)
	next.Measures[plan.KeyOf(m.Name, m.Unit)] = m.Size
	shelf, err := k.Store.Puddings(ctx, mostRemeasured)
	if err != nil {
		return nil, err
	}
	var changed []Remeasured
	for _, pudding := range shelf {
		if pudding.Plan == nil {
			continue // it cannot be read, which its own page says
		}
		was := pudding.Plan.In(home)
		one := Remeasured{Pudding: pudding, Kept: was.Clone()}
		for _, d := range plan.Differences(was, pudding.Plan.In(next)) {
			if d.Of == plan.OfMaterial {
				one.Changes = append(one.Changes, d)
			}
		}
		if len(one.Changes) == 0 {
			continue
		}
		one.Kept.Settle(next)
		changed = append(changed, one)
	}
	return changed, nil
}

// TakeMeasure stores what a measure was found to hold; the puddings of those ids keep the
// grams that they have. Errors: store.ErrStale.
func (k *Kitchen) TakeMeasure(ctx context.Context, m store.Measuring, keep map[string]bool) error {
	changed, err := k.Remeasure(ctx, m)
	if err != nil {
		return err
	}
	var kept []store.Kept
	for _, one := range changed {
		if keep[one.ID] {
			kept = append(kept, store.Kept{ID: one.ID, Version: one.Version, Plan: one.Kept})
		}
	}
	return k.Store.AddMeasuringKeeping(ctx, m, kept, k.Now())
}
