package plan

import (
	"maps"
	"slices"

	"kirdu/core/vessel"
)

// Clone returns a copy that shares nothing that can be changed.
func (p *Plan) Clone() *Plan {
	c := *p
	c.ServedFrom = slices.Clone(p.ServedFrom)
	if p.Aim != nil {
		c.Aim = &Aim{Thickness: own(p.Aim.Thickness), SweetPct: own(p.Aim.SweetPct), Doneness: maps.Clone(p.Aim.Doneness)}
	}
	if p.Eaters != nil {
		c.Eaters = &Eaters{UnderFive: p.Eaters.UnderFive, AllergicTo: slices.Clone(p.Eaters.AllergicTo)}
	}
	c.Pots = maps.Clone(p.Pots)
	for name, pot := range c.Pots {
		pot.MassG = own(pot.MassG)
		pot.Uses = slices.Clone(pot.Uses)
		c.Pots[name] = pot
	}
	c.Burner = burnerOfItsOwn(p.Burner)
	c.Burners = maps.Clone(p.Burners)
	for name, burner := range c.Burners {
		c.Burners[name] = burnerOfItsOwn(burner)
	}
	c.Measures = maps.Clone(p.Measures)
	c.Materials = slices.Clone(p.Materials)
	for i := range c.Materials {
		c.Materials[i].Kinetics = own(c.Materials[i].Kinetics)
		c.Materials[i].Aliases = slices.Clone(c.Materials[i].Aliases)
	}
	c.Calibration = p.Calibration.clone()
	c.Steps = slices.Clone(p.Steps)
	for i := range c.Steps {
		c.Steps[i] = c.Steps[i].clone()
	}
	return &c
}

// own returns a pointer to a copy, nil for nil.
func own[T any](p *T) *T {
	if p == nil {
		return nil
	}
	c := *p
	return &c
}

func burnerOfItsOwn(b vessel.Burner) vessel.Burner {
	b.FlameW = maps.Clone(b.FlameW)
	return b
}

func (c Calibration) clone() Calibration {
	learnt := func(l *Learnt) *Learnt {
		if l = own(l); l != nil {
			l.SD = own(l.SD)
		}
		return l
	}
	c.Evaporation, c.ThicknessOffset, c.WhistleMin = learnt(c.Evaporation), learnt(c.ThicknessOffset), learnt(c.WhistleMin)
	c.CookTime = maps.Clone(c.CookTime)
	for slug, l := range c.CookTime {
		l.SD = own(l.SD)
		c.CookTime[slug] = l
	}
	return c
}

func (s Step) clone() Step {
	s.Items = slices.Clone(s.Items)
	for i := range s.Items {
		s.Items[i] = s.Items[i].clone()
	}
	for _, item := range []**Item{&s.In, &s.Fat} {
		if *item != nil {
			c := (*item).clone()
			*item = &c
		}
	}
	s.Minutes, s.TempC, s.Pct, s.Strain = own(s.Minutes), own(s.TempC), own(s.Pct), own(s.Strain)
	s.Presses = slices.Clone(s.Presses)
	for i := range s.Presses {
		s.Presses[i].TempC = own(s.Presses[i].TempC)
	}
	s.FlameW, s.Manner = own(s.FlameW), slices.Clone(s.Manner)
	s.FlamePct, s.Lid, s.ToC, s.Hours, s.OvenC, s.PowerW, s.StirEveryMin = own(s.FlamePct), own(s.Lid), own(s.ToC), own(s.Hours),
		own(s.OvenC), own(s.PowerW), own(s.StirEveryMin)
	if s.Until != nil {
		u := *s.Until
		u.Minutes, u.TempC, u.RemainingPct, u.OfStep, u.MassG = own(u.Minutes), own(u.TempC), own(u.RemainingPct), own(u.OfStep), own(u.MassG)
		u.Doneness, u.Thickness, u.FreeWaterPct, u.MaxMinutes = own(u.Doneness), own(u.Thickness), own(u.FreeWaterPct), own(u.MaxMinutes)
		s.Until = &u
	}
	return s
}

func (i Item) clone() Item {
	i.Minutes, i.Share = own(i.Minutes), own(i.Share)
	return i
}
