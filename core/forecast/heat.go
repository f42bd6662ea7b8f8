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
		if float64(p.state.Temperature) > goal && !s.Burns() {
			add(func(p *pan) float64 { return float64(p.state.Temperature) - goal })
		} else {
			add(func(p *pan) float64 { return goal - float64(p.state.Temperature) })
		}
	}
	if u.Boil {
		altitude := r.plan.Kitchen.AltitudeM
		add(func(p *pan) float64 {
			return float64(boils(p, altitude) - p.state.Temperature)
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

// heat runs a heat step until its first target, its minutes or its guard. A pot that
// the flame cannot bring to the boil, or to a temperature, ends it as soon as that is
// plain.
func (r *run) heat(i int, s *plan.Step, p *pan) {
	power := r.power(p, s)
	c := r.conditions(p, power, s.Lidded(), power == 0)
	if regulation, byEye := s.Flame.Regulation(); byEye && s.ByEye() {
		c.Regulation, c.Surplus = &regulation, r.surplus()
	}
	plate := r.afterglow(p, power, c.Regulation != nil)
	begin := p.local
	targets := r.targets(s, p)
	limit, timed := s.Until.Guard(), false
	if s.Until.Minutes != nil && (*s.Until.Minutes <= limit || len(targets) == 0) {
		limit, timed = *s.Until.Minutes, true
	}
	p.lit = s
	r.sample(p)
	p.record.corner()
	reached := r.aim(targets, p)
	creeping := newCreep(s, p)
	for !reached && !r.trace[i].Weak.Seen {
		left := float64(limit-(p.local-begin)) * measure.SecondsPerMinute
		if left <= instant {
			break
		}
		seconds := r.step
		if power == 0 {
			seconds = r.restSeconds(p.state.Temperature)
		}
		was, from := p.state.Temperature, p.local
		if plate > 0 {
			c.Power = power + plate*measure.Watt(math.Exp(-float64(p.local-begin)/plateMinutes))
		}
		reached = r.advance(i, p, &c, min(seconds, left), targets)
		if power > 0 && !reached && creeping.goes(p, &c, was, from) {
			r.trace[i].Weak = WeakFlame{Seen: true, SettlesC: p.state.Settles(&c), Needs: p.state.Needs(&c, creeping.goal(p, &c))}
		}
	}
	p.lit, p.plate = nil, c.Used
	r.trace[i].NeverReached = !reached && !timed && !r.trace[i].Weak.Seen
	r.watts[i] = c.Used
	spent := p.local - begin
	if power > 0 {
		r.flame += spent
		r.noteOffHeat(p)
	}
	r.hands += spent * measure.Minute(stirShare[s.Stirring()])
	r.mark(i, r.label(i), p)
}

// An electric plate that is turned down goes on heating: so much of what it gave more
// before, dying down within some minutes. Source: our own estimate, from 1.7 kg of iron
// that is 200 K hotter than the pot; glass plates hold half of that.
const (
	plateShare   = 0.6
	plateMinutes = 3.0
)

// afterglow returns the power that the plate under a pan gives beyond a flame when it is
// turned down to it; 0 for other burners, and where a cook keeps the pot by eye.
func (r *run) afterglow(p *pan, power measure.Watt, byEye bool) measure.Watt {
	if p.burner.Kind != "electric" || byEye || p.plate <= power {
		return 0
	}
	return plateShare * (p.plate - power)
}

// A creep watches whether a pot that is to boil, or to reach a temperature, still gets
// warmer. Source: the model, section 3; beyond it, a pot whose flame gives less than its
// goal takes is let go at three times the rate.
type creep struct {
	asked bool
	to    measure.Celsius // 0: the boil
	begin measure.Minute
	slow  measure.Minute // for how long it has
}

const (
	creepRate    = 0.1 // K/min
	creepCertain = 3   // times that, where it is certain
	creepFor     = measure.Minute(1)
	creepNotIn   = measure.Minute(2) // the first of a step
)

func newCreep(s *plan.Step, p *pan) creep {
	c := creep{begin: p.local, asked: s.Until.Boil}
	if to := s.Until.TempC; to != nil && *to > p.state.Temperature {
		c.asked = true
		if !s.Until.Boil {
			c.to = *to
		}
	}
	return c
}

// goal returns how warm the pot is to be.
func (c *creep) goal(p *pan, at *pot.Conditions) measure.Celsius {
	boil := boils(p, at.Altitude)
	if c.to == 0 || boil < c.to {
		return boil
	}
	return c.to
}

// boils returns from which temperature on a pan boils to the eye: at the boiling point of
// its liquid. Where there is none its limit is higher, and moves as it is drunk up: no cook
// waits for that.
func boils(p *pan, altitude float64) measure.Celsius {
	return pot.BoilingPoint(altitude, p.state.Brix()) - pot.BoilingMargin
}

// goes takes a step of time in, and reports whether a cook would wait no longer.
func (c *creep) goes(p *pan, at *pot.Conditions, was measure.Celsius, from measure.Minute) bool {
	if !c.asked {
		return false
	}
	passed := p.local - from
	rate := measure.Ratio(float64(p.state.Temperature-was), float64(passed))
	goal := c.goal(p, at)
	// At the boil a syrup gets hotter only as it thickens, and that is its way.
	slow := rate < creepRate || rate < creepCertain*creepRate && p.state.Needs(at, goal) > at.Used
	if !slow || p.state.Temperature >= goal {
		c.slow = 0
		return false
	}
	c.slow += passed
	return c.slow >= creepFor && p.local-c.begin >= creepNotIn
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
	seconds = untilSeen(p, seconds)
	if len(targets) > 0 {
		p.state.CopyTo(&r.scratch)
	}
	r.effort += stepWork + len(p.state.Parts)
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
	if seenNow(p) {
		r.sample(p) // before and after: a jump in the curve
		r.correct(p)
		reached = r.aim(targets, p) || reached
	}
	if r.record {
		r.watched(i, p, c, measure.Minute(seconds/measure.SecondsPerMinute))
	}
	return reached
}

// stepWork is what a step of time costs over what one part in the pot does.
const stepWork = 3

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

// untilSeen shortens a step so that it ends when something was seen.
func untilSeen(p *pan, seconds float64) float64 {
	if len(p.seen) > 0 {
		if gap := float64(p.seen[0].Minute-p.local) * measure.SecondsPerMinute; gap > 0 {
			return min(seconds, gap)
		}
	}
	return seconds
}

// seenNow reports whether the time has come of what was seen next.
func seenNow(p *pan) bool {
	const tolerance = 1e-6 // min
	return len(p.seen) > 0 && p.seen[0].Minute <= p.local+tolerance
}

// correct sets a pan to what was seen of it.
func (r *run) correct(p *pan) {
	for seenNow(p) {
		one := p.seen[0]
		p.seen = p.seen[1:]
		if one.Celsius != nil {
			p.state.Temperature = *one.Celsius
		}
		if one.Boils {
			p.state.Temperature = max(p.state.Temperature, p.state.Limit(float64(r.plan.Kitchen.AltitudeM)))
		}
		if part := p.state.Part(one.Part); part != nil {
			part.Done = min(max(part.Done, one.Low), one.High)
		}
		if one.Mass > 0 {
			before := p.state.Mass()
			p.state.Correct(one.Mass)
			lost := before - p.state.Mass()
			p.evaporated += lost
			r.balance.EvaporatedG += float64(lost)
		}
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

// A moment is how a pan is just now.
type moment struct {
	passed measure.Minute // since the one before
	mass   measure.Gram
	level  measure.Millimetre
	grade  float64
}

// watched notes and records the present moment.
func (r *run) watched(i int, p *pan, c *pot.Conditions, passed measure.Minute) {
	mass, volume := p.state.Size()
	m := moment{passed, mass, p.vessel.Depth(volume), r.grade(&p.state, p.state.Temperature)}
	r.watch(i, p, c, m)
	r.samplePoint(p, m)
}

// watch notes the peaks of a step; i is the step of the plan, -1 for a pan
// that merely waits.
func (r *run) watch(i int, p *pan, c *pot.Conditions, m moment) {
	if i < 0 {
		return
	}
	t := &r.trace[i]
	fill := measure.Ratio(float64(m.level), float64(p.vessel.HeightMM))
	t.PeakFill = max(t.PeakFill, fill)
	limit := p.state.Limit(c.Altitude)
	if p.state.Temperature >= limit-nearLimit && !c.Sealed {
		t.NearBoil.Minutes += m.passed
		if p.state.Temperature > t.NearBoil.MostC {
			t.NearBoil.MostC, t.NearBoil.LimitC = p.state.Temperature, limit
		}
	}
	if p.state.Egg > 0 {
		t.EggC = max(t.EggC, float64(p.state.Temperature))
		r.watchEgg(t, p, m.passed)
	}
	if p.state.Dairy > p.state.Stable && p.state.Temperature >= nearBoil {
		t.SplitPH.See(p.state.SplitPH())
		r.watchTissue(t, p)
	}
	if c.Power <= 0 {
		return
	}
	if p.state.Temperature >= limit-pot.BoilingMargin {
		t.Boiled = true
		if p.state.Dairy > 0 {
			t.PeakBoilFill = max(t.PeakBoilFill, fill)
		}
	}
	if !c.Sealed && p.lit != nil {
		r.watchBottom(t, p, c, m)
	}
}

// watchBottom notes how the bottom fares over a flame: how likely it catches, and how
// long it has been without free water.
func (r *run) watchBottom(t *StepTrace, p *pan, c *pot.Conditions, m moment) {
	index := r.scorch(p, c, m.grade)
	t.Scorch = max(t.Scorch, index)
	if p.hot += m.passed; index <= scorching || p.browned {
		p.hot = 0
	}
	t.Scorching = max(t.Scorching, p.hot)
	free := measure.Ratio(float64(p.state.FreeWater()), float64(m.mass))
	if p.dry += m.passed; !p.hadWater || free >= dryPot {
		p.dry = 0
	}
	if p.hadWater {
		t.MinFreeWater.See(100 * free)
	}
	t.DryFor = max(t.DryFor, p.dry)
	t.PasteShare = p.state.PasteShare()
}

// From where on fresh dairy may split, and by what raw vegetables make it.
// Source: the watchpoint table.
const (
	nearBoil  = measure.Celsius(85)
	nearLimit = measure.Celsius(4)
	rawDone   = 0.3
	rawPH     = 6.65
)

// watchEgg notes how far, and how long on end, egg is above what it stands.
func (r *run) watchEgg(t *StepTrace, p *pan, passed measure.Minute) {
	over := p.state.EggOver()
	const rounding = 0.02 // of the limit: no thermometer in a pudding tells less apart
	if p.scrambling += passed; over <= rounding*(float64(p.state.Temperature)-over) {
		p.scrambling = 0
	}
	if t.EggLimitC == 0 || over > t.EggOver {
		t.EggOver, t.EggLimitC = over, float64(p.state.Temperature-measure.Celsius(over))
	}
	t.EggOverFor = max(t.EggOverFor, p.scrambling)
}

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

// Parameters of scorching. Source: the model, section 9.
const (
	scorching      = 1.0 // from where on it catches
	scorchFrom     = measure.Celsius(60)
	scorchFree     = 3000.0  // W/m² that no bottom minds
	scorchFlux     = 14000.0 // W/m² beyond them
	scorchThin     = 1.5     // grade
	scorchThick    = 5.5
	scorchTenfold  = 6.0 // grades
	scorchSugar    = 1.5
	scorchCasein   = 0.01  // of the free contents, from where on milk settles and burns
	scorchGel      = 0.005 // the same of gelatinised starch
	scorchBare     = 0.25  // what has neither
	scorchSettled  = 0.8   // raw grain on the bottom that nobody stirs
	scorchPearls   = 1.5   // pearls, which stick
	scorchHeavyPot = 0.7
)

// scorch returns the index of the model, section 9: above 1 the bottom burns.
func (r *run) scorch(p *pan, c *pot.Conditions, grade float64) float64 {
	if p.state.Temperature < scorchFrom {
		return 0
	}
	flux := max(0, measure.Ratio(float64(c.Used), float64(p.vessel.Base()))-scorchFree) / scorchFlux
	if flux == 0 {
		return 0
	}
	stir := p.lit.Stirring()
	thick := min(grade, scorchThick) - scorchThin
	index := flux * math.Pow(10, thick/scorchTenfold) * (1 + scorchSugar*p.state.Brix()/100) * stirScorch[stir] * r.sticks(p, stir)
	if p.vessel.Heavy {
		index *= scorchHeavyPot
	}
	return index
}

// sticks returns how readily what is in a pan catches.
func (r *run) sticks(p *pan, stir plan.Stir) float64 {
	body := scorchBare
	if settles, pearls := p.state.Unsettled(); settles && stir == plan.StirNone {
		if pearls {
			return scorchPearls
		}
		body = scorchSettled
	}
	liquid := p.state.Liquid.Mass()
	if p.state.Casein > scorchCasein*liquid || p.state.Liquid[pot.Gel] > scorchGel*liquid {
		body = 1
	}
	return body
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
	if !r.heatedAfter(i) && s.Burns() {
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
		if s.Do == plan.Heat && s.PotName() == r.plan.Steps[i].PotName() && s.Burns() {
			return true
		}
	}
	return false
}
