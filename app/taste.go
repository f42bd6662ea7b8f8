package app

import (
	"context"
	"math"

	"kirdu/core/design"
	"kirdu/core/forecast"
	"kirdu/core/learn"
	"kirdu/core/plan"
	"kirdu/core/vessel"
	"kirdu/store"
)

// Fresh is design.Fresh to the taste of this household: as thick, as soft and as sweet as its batches say. Errors: those
// of design.Fresh.
func (k *Kitchen) Fresh(ctx context.Context, choice plan.WayChoice, pots []vessel.Pot) (*plan.Plan, error) {
	learnt, err := k.Learnt(ctx)
	if err != nil {
		return nil, err
	}
	if learnt.Thicker != nil {
		choice.Thicker = learnt.Thicker.Value
	}
	if learnt.Softer != nil {
		choice.Softer = learnt.Softer.Value
	}
	fresh, err := design.Fresh(choice, pots)
	const noticed = 0.3 // per cent
	if err == nil && learnt.Sweet != nil && math.Abs(learnt.Sweet.Value) >= noticed {
		design.Sweeter(fresh, learnt.Sweet.Value)
	}
	return fresh, err
}

// Again is the plan of a batch as it is wanted the next time: sweeter or less sweet, thicker or thinner, softer or
// firmer.
func (k *Kitchen) Again(ctx context.Context, c store.Cook) (*plan.Plan, error) {
	p := c.Plan.Clone()
	p.Calibration = plan.Calibration{} // what was learnt is laid over it when it is opened
	said := c.Verdict.Learn()
	if said.Taste != nil {
		design.Sweeter(p, -learn.Sweeter(*said.Taste))
	}
	f := forecast.Run(p, forecast.Options{NominalOnly: true})
	var aims design.Aims
	if served := f.Thickness.As(p.Serve); said.Thicker != nil && *said.Thicker != 0 && served != nil {
		grade := served.Value + learn.WishGrade**said.Thicker
		aims.Thickness = &grade
	}
	if said.Softer != nil && *said.Softer != 0 {
		aims.Done = map[string]float64{}
		for part, done := range f.Doneness {
			aims.Done[part] = done.Value * math.Pow(learn.WishDone(), *said.Softer)
		}
	}
	if aims.Thickness == nil && len(aims.Done) == 0 {
		return p, nil
	}
	balanced, err := k.Balance(ctx, p, aims, nil)
	if err != nil || balanced.Plan == nil {
		return p, err
	}
	return balanced.Plan.Clone(), nil // what was balanced is shared, and the caller changes it
}
