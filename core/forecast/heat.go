package forecast

import (
	"math"

	"kirdu/core/measure"
	"kirdu/core/plan"
	"kirdu/core/pot"
)

// stirShare is how much of the time a rhythm keeps the hands busy. Source: the
// model, section 12.
var stirShare = map[plan.Stir]float64{plan.StirNone: 0.05, plan.StirNow: 0.2, plan.StirOften: 0.5, plan.StirConstant: 1}

// stirScorch is how much of the scorching a rhythm leaves. Source: the model,
// section 9.
var stirScorch = map[plan.Stir]float64{plan.StirNone: 1, plan.StirNow: 0.6, plan.StirOften: 0.3, plan.StirConstant: 0.1}

// A target is one way for a heat step to end: when gap falls to 0.
type target struct {
	gap func(*pan) float64
}

func (r *run) targets(s *plan.Step, p *pan) []target {
	u := s.Until
	var all []target
	add := func(gap func(*pan) float64) { all = append(all, target{gap}) }
	massGap := func(goal measure.Gram) {
		add(func(p *pan) float64 { return float64(p.state.Mass() - goal) })
	}
	if u.TempC != nil {
		goal := float64(*u.TempC)
		// Off the flame the pot comes down to its temperature.
		if float64(p.state.Temperature) > goal && s.FlamePercent() == 0 {
			add(func(p *pan) float64 { return float64(p.state.Temperature) - goal })
		} else {
			add(func(p *pan) float64 { return goal - float64(p.state.Temperature) })
		}
	}
	if u.Boil {
		altitude := r.plan.Kitchen.AltitudeM
		add(func(p *pan) float64 {
			return float64(pot.BoilingPoint(altitude, p.state.Brix())-p.state.Temperature) - pot.BoilingMargin
		})
	}
	if u.RemainingPct != nil {
		base := p.base
		if u.OfStep != nil {
			base = r.masses[*u.OfStep]
		}
		massGap(base * measure.Gram(*u.RemainingPct/100))
	}
	if u.MassG != nil {
		massGap(*u.MassG)
	}
	if u.Doneness != nil {
		of, at := u.Doneness.Of, u.Doneness.At
		add(func(p *pan) float64 {
			if part := p.state.Part(of); part != nil {
				return at - part.Done
			}
			return at
		})
	}
	if u.Thickness != nil {
		goal := *u.Thickness
		add(func(p *pan) float64 { return goal - r.grade(&p.state, p.state.Temperature) })
	}
	if u.FreeWaterPct != nil {
		goal := *u.FreeWaterPct / 100
		add(func(p *pan) float64 {
			return measure.Ratio(float64(p.state.FreeWater()), float64(p.state.Mass())) - goal
		})
	}
	return all
}

// grade is the thickness with what this kitchen has learnt of it.
func (r *run) grade(s *pot.State, at measure.Celsius) float64 {
	grade := s.Thickness(at)
	if offset := r.plan.Calibration.ThicknessOffset; offset != nil {
		grade += offset.Value
	}
	return min(max(grade, 1), 8)
}

// heat runs a heat step until its first target, its minutes or its guard.
func (r *run) heat(i int, s *plan.Step, p *pan) {
	power := r.power(p, s)
	c := r.conditions(p, power, s.Lidded(), power == 0)
	begin := p.local
	targets := r.targets(s, p)
	limit, timed := s.Until.Guard(), false
	if s.Until.Minutes != nil && (*s.Until.Minutes <= limit || len(targets) == 0) {
		limit, timed = *s.Until.Minutes, true
	}
	r.sample(p)
	p.record.corner()
	reached := r.aim(targets, p)
	for !reached {
		left := float64(limit-(p.local-begin)) * measure.SecondsPerMinute
		if left <= instant {
			break
		}
		seconds := r.step
		if power == 0 {
			seconds = r.restSeconds(p.state.Temperature)
		}
		reached = r.advance(i, p, &c, min(seconds, left), targets)
	}
	r.trace[i].NeverReached = !reached && !timed
	spent := p.local - begin
	if power > 0 {
		r.flame += spent
		p.offHeat = math.NaN()
		if p.state.Temperature >= hotC {
			p.offHeat = r.grade(&p.state, p.state.Temperature)
		}
	}
	r.hands += spent * measure.Minute(stirShare[s.Stirring()])
	r.mark(i, r.label(i), p)
}

// instant is a time in seconds too short to matter, and long enough to move a
// clock that has run for weeks.
const instant = 1e-6

// aim notes how far the targets are and reports whether one is met.
func (r *run) aim(targets []target, p *pan) bool {
	r.gaps = r.gaps[:0]
	reached := false
	for _, t := range targets {
		gap := t.gap(p)
		r.gaps = append(r.gaps, gap)
		reached = reached || gap <= 0
	}
	return reached
}

// advance takes one step of time and reports whether a target was met in it;
// then the step is cut where the target was met. aim was asked before.
func (r *run) advance(i int, p *pan, c *pot.Conditions, seconds float64, targets []target) bool {
	seconds = r.untilWeighing(p, seconds)
	if len(targets) > 0 {
		p.state.CopyTo(&r.scratch)
	}
	evaporated := p.state.Step(c, seconds)
	share := r.shareToTarget(targets, p)
	reached := share <= 1
	for n := 0; share < 1-cutTolerance && n < cutTries; n++ {
		seconds *= share
		r.scratch.CopyTo(&p.state)
		evaporated = p.state.Step(c, seconds)
		share = r.shareToTarget(targets, p)
	}
	p.evaporated += evaporated
	r.balance.EvaporatedG += float64(evaporated)
	p.local += measure.Minute(seconds / measure.SecondsPerMinute)
	if r.weighedNow(p) {
		r.sample(p) // before and after: a jump in the curve
		r.correct(p)
		reached = r.aim(targets, p) || reached
	}
	if r.record {
		mass, volume := p.state.Size()
		level := p.vessel.Depth(volume)
		r.watch(i, p, c, mass, level)
		r.samplePoint(p, mass, level)
	}
	return reached
}

// cutTries bounds the search for the moment in which a target is met. Each try
// takes the straight line anew; where the course bends, as at the boil, the
// next is nearer, and a cut that falls short is made up by the next step.
const (
	cutTries     = 6
	cutTolerance = 0.02 // of a step
)

// shareToTarget returns the share of the step just taken after which the first
// target was met, on a straight line from r.gaps; above 1 if none was. Then
// r.gaps are those of the present.
func (r *run) shareToTarget(targets []target, p *pan) float64 {
	share := 2.0
	r.after = r.after[:0]
	for k, t := range targets {
		after := t.gap(p)
		r.after = append(r.after, after)
		if after <= 0 {
			share = min(share, max(0, measure.Ratio(r.gaps[k], r.gaps[k]-after)))
		}
	}
	if share > 1 {
		r.gaps, r.after = r.after, r.gaps
	}
	return share
}

// untilWeighing shortens a step so that it ends at the next weigh-in.
func (r *run) untilWeighing(p *pan, seconds float64) float64 {
	if p == r.first && len(r.weighings) > 0 {
		gap := float64(r.weighings[0].Minute-p.local) * measure.SecondsPerMinute
		if gap > 0 {
			return min(seconds, gap)
		}
	}
	return seconds
}

// weighedNow reports whether the time of the next weigh-in has come.
func (r *run) weighedNow(p *pan) bool {
	const tolerance = 1e-6 // min
	return p == r.first && len(r.weighings) > 0 && r.weighings[0].Minute <= p.local+tolerance
}

// correct sets the mass to what was weighed.
func (r *run) correct(p *pan) {
	for r.weighedNow(p) {
		before := p.state.Mass()
		p.state.Correct(r.weighings[0].Mass)
		lost := before - p.state.Mass()
		p.evaporated += lost
		r.balance.EvaporatedG += float64(lost)
		r.weighings = r.weighings[1:]
	}
}

// rest lets a pan stand for some minutes.
func (r *run) rest(i int, p *pan, minutes measure.Minute, c pot.Conditions) {
	r.sample(p)
	end := p.local + minutes
	for {
		left := float64(end-p.local) * measure.SecondsPerMinute
		if left <= instant {
			break
		}
		r.advance(i, p, &c, min(r.restSeconds(p.state.Temperature), left), nil)
	}
	p.local = end
}

// watch notes the peaks of a step; i is the step of the plan, -1 for a pan
// that merely waits.
func (r *run) watch(i int, p *pan, c *pot.Conditions, mass measure.Gram, level measure.Millimetre) {
	if i < 0 {
		return
	}
	t := &r.trace[i]
	fill := measure.Ratio(float64(level), float64(p.vessel.HeightMM))
	t.PeakFill = max(t.PeakFill, fill)
	if p.state.Egg > 0 {
		t.EggC = max(t.EggC, float64(p.state.Temperature))
	}
	if p.state.Dairy > p.state.Stable && p.state.Temperature >= nearBoil {
		t.SplitPH.See(p.state.SplitPH())
		r.watchTissue(t, p)
	}
	if c.Power <= 0 {
		return
	}
	boiling := pot.BoilingPoint(r.plan.Kitchen.AltitudeM, p.state.Brix()) - pot.BoilingMargin
	if p.state.Temperature >= boiling {
		t.Boiled = true
		if p.state.Dairy > 0 {
			t.PeakBoilFill = max(t.PeakBoilFill, fill)
		}
	}
	if p.hadWater {
		t.DriedOut = t.DriedOut || p.state.Dry()
		t.MinFreeWater.See(100 * measure.Ratio(float64(p.state.FreeWater()), float64(mass)))
	}
}

// From where on fresh dairy may split, and by what raw vegetables make it.
// Source: the watchpoint table.
const (
	nearBoil = measure.Celsius(85)
	rawDone  = 0.6
	rawPH    = 6.65
)

func (r *run) watchTissue(t *StepTrace, p *pan) {
	if p.state.PH() >= rawPH {
		return
	}
	for k := range p.state.Parts {
		if part := &p.state.Parts[k]; part.Tissue && part.Done < rawDone && t.RawTissue.See(part.Done) {
			t.RawPH, t.RawName = p.state.PH(), part.Name
		}
	}
}

// scorch returns the index of the model, section 9: above 1 the bottom burns.
func (r *run) scorch(s *plan.Step, p *pan) float64 {
	if s.Do != plan.Heat || s.Lidded() {
		return 0
	}
	const reference, thin, tenfold, sugarWeight = 20000.0, 2.5, 4.0, 1.5 // W/m², grade, grades
	flux := measure.Ratio(float64(r.power(p, s)), float64(p.vessel.Base()))
	thick := math.Pow(10, (r.grade(&p.state, p.state.Temperature)-thin)/tenfold)
	return flux / reference * thick * (1 + sugarWeight*p.state.Brix()/100) * stirScorch[s.Stirring()]
}

// mark notes a turning point of the first served pot.
func (r *run) mark(i int, label string, p *pan) {
	if p != r.first {
		return
	}
	volume := p.state.Volume()
	r.marks = append(r.marks, mark{step: i, label: label, local: p.local,
		mass: p.state.Mass(), volume: volume, level: p.vessel.Depth(volume), bed: p.state.Bed(p.vessel)})
}

// label says what a turning point is for: what comes next, or what was reached.
func (r *run) label(i int) string {
	s := &r.plan.Steps[i]
	if !r.heatedAfter(i) && s.FlamePercent() > 0 {
		return "done"
	}
	for j := i + 1; j < len(r.plan.Steps); j++ {
		next := &r.plan.Steps[j]
		if next.Do.IsPreparation() || next.PotName() != s.PotName() {
			continue
		}
		if next.Do == plan.Add && !s.Until.Boil {
			return "add " + r.adds(next)
		}
		break
	}
	switch {
	case s.Until.Boil:
		return "boils"
	case s.Until.Doneness != nil && s.Until.RemainingPct == nil:
		return "tender"
	case s.Until.Minutes != nil:
		return "cooked"
	}
	return "reduced"
}

// adds names what an addition brings: a sweetener before all else.
func (r *run) adds(s *plan.Step) string {
	name := ""
	for _, item := range s.Items {
		material, ok := r.plan.Pantry().Material(item.Material)
		switch {
		case !ok && name == "":
			name = item.Part + item.Pot
		case ok && material.Kind == "sweetener":
			return "sugar"
		case ok && name == "":
			name = material.Kind
		}
	}
	return name
}

func (r *run) heatedAfter(i int) bool {
	for j := i + 1; j < len(r.plan.Steps); j++ {
		s := &r.plan.Steps[j]
		if s.Do == plan.Heat && s.PotName() == r.plan.Steps[i].PotName() && s.FlamePercent() > 0 {
			return true
		}
	}
	return false
}
