package learn

import (
	"cmp"
	"math"
	"slices"
	"time"

	"kirdu/core/cook"
	"kirdu/core/forecast"
	"kirdu/core/measure"
	"kirdu/core/numeric"
	"kirdu/core/plan"
	"kirdu/core/vessel"
)

// A weight is a mass in the pot at a minute with its standard deviation.
type weight struct {
	minute measure.Minute
	mass   measure.Gram
	sd     float64
}

// A boil is a step in which it boiled, or came under pressure, after so many
// minutes.
type boil struct {
	step   int
	minute measure.Minute
	late   float64 // from what misfit on it was rather told too late
}

// A probed temperature at a minute.
type probed struct {
	minute  measure.Minute
	celsius float64
}

type observations struct {
	weights []weight
	boils   []boil
	temps   []probed
	turns   []turn
	others  []forecast.Seen // of other pots
}

// A turn is what the end of a step says of the pot: it boils, or the cooker is open.
type turn struct {
	step int
	seen forecast.Seen
}

// given lists what is taken as it was told: of other pots, and what the ends of steps before one
// say, -1 for all.
func (o *observations) given(step int) []forecast.Seen {
	list := slices.Clone(o.others)
	for _, t := range o.turns {
		if step < 0 || t.step < step {
			list = append(list, t.seen)
		}
	}
	return inOrder(list, nil)
}

// A weight is believed within what is possible, and so many of its standard deviations.
const (
	possibleSDs  = 3.0
	possibleOver = 0.03 // of what went in: a cup that was heaped
	drainedOver  = 0.20 // of what was poured off: nobody knows what the grain keeps
	massInSD     = 0.01 // of what went in
	drainedSD    = 0.08 // of what was poured off
	offTheBoil   = 25.0 // K: a pot that boils is colder nowhere, but at its rim
)

// handled returns what was put in and what was poured off between two minutes: the jumps
// of the course.
func handled(c *forecast.Curve, from, to float64) (in, out float64) {
	for k := 1; k < len(c.Minute); k++ {
		if c.Minute[k] != c.Minute[k-1] || c.Minute[k] <= from || c.Minute[k] > to {
			continue
		}
		if jump := c.MassG[k] - c.MassG[k-1]; jump > 0 {
			in += jump
		} else {
			out -= jump
		}
	}
	return in, out
}

// believe takes out the weights and temperatures that cannot be, and returns them. Since the
// latest that was believed a pot loses at most what its burner could boil away over all its flame,
// and gains what was put in; it gets no hotter than that burner makes it, and once it
// has boiled, as boils says, it is not far colder than thought.
func (o *observations) believe(replay *plan.Plan, boils bool) (doubted []Doubt) {
	doubted = append(o.believeHeat(replay, boils), o.believeMass(replay)...)
	slices.SortStableFunc(doubted, func(a, b Doubt) int { return cmp.Compare(a.At, b.At) })
	return doubted
}

func (o *observations) believeHeat(replay *plan.Plan, boils bool) (doubted []Doubt) {
	if len(o.temps) == 0 {
		return nil
	}
	most := *replay
	most.Calibration.Evaporation = nil
	hottest := run(&most, math.Exp(mostFactor(&most, 1)), o.given(-1)).Curve
	expected := run(replay, factorOf(replay), o.given(-1)).Curve
	var kept []probed
	for _, t := range o.temps {
		high := numeric.Interpolate(hottest.Minute, hottest.TempC, float64(t.minute)) + possibleSDs*probeSD
		low := math.Inf(-1)
		if boils {
			low = numeric.Interpolate(expected.Minute, expected.TempC, float64(t.minute)) - offTheBoil
		}
		if t.celsius > high || t.celsius < low {
			celsius := measure.Celsius(t.celsius)
			doubted = append(doubted, Doubt{At: t.minute, Celsius: &celsius, More: t.celsius > high})
			continue
		}
		kept = append(kept, t)
	}
	o.temps = kept
	return doubted
}

func (o *observations) believeMass(replay *plan.Plan) (doubted []Doubt) {
	if len(o.weights) == 0 {
		return nil
	}
	const gramsPerWattMinute = measure.SecondsPerMinute / measure.LatentHeat
	served := replay.Served()[0]
	rate := float64(replay.BurnerOf(served).Most()) * gramsPerWattMinute
	course := forecast.Run(replay, forecast.Options{CourseOnly: true, Seen: o.given(-1)}).Curve
	begun := numeric.Interpolate(course.Minute, course.MassG, 0)
	var kept []weight
	last := weight{minute: 0, mass: measure.Gram(begun), sd: possibleOver * begun}
	for _, w := range o.weights {
		in, out := handled(&course, float64(last.minute), float64(w.minute))
		slack := possibleSDs*math.Hypot(w.sd, last.sd) + possibleOver*in + drainedOver*out
		expected := float64(last.mass) + in - out
		low := expected - rate*float64(w.minute-last.minute) - slack
		high := expected + slack
		if mass := float64(w.mass); mass < low || mass > high {
			doubted = append(doubted, Doubt{At: w.minute, Mass: w.mass, More: mass > high})
			continue
		}
		kept, last = append(kept, w), w
	}
	o.weights = kept
	return doubted
}

func (o *observations) none() bool { return len(o.weights)+len(o.boils)+len(o.temps) == 0 }

// observe turns readings into masses. A depth becomes a mass by the density
// that the forecast has for that moment.
func observe(s *cook.State, replay *plan.Plan, others []forecast.Seen, now time.Time) observations {
	seen := observations{turns: turnsOf(s, now), others: others}
	var course *forecast.Forecast
	served := s.Plan.Served()[0]
	vessel := replay.Pots[served]
	for _, r := range s.Readings {
		minute := s.Minute(r.At)
		if minute <= 0 || r.Full || r.Pot != served {
			continue // before the flame there is nothing to learn of it
		}
		w := weight{minute: minute, mass: r.Mass, sd: scaleSD}
		if r.MM > 0 {
			if course == nil {
				course = forecast.Run(replay, forecast.Options{NominalOnly: true, Seen: seen.given(-1)})
			}
			c := &course.Curve
			mass := numeric.Interpolate(c.Minute, c.MassG, float64(minute))
			volume := vessel.Volume(measure.Millimetre(numeric.Interpolate(c.Minute, c.LevelMM, float64(minute))))
			density := measure.Ratio(mass, float64(volume))
			w.mass = measure.Gram(density * float64(vessel.Volume(r.MM)))
			w.sd = dipSD * density * float64(vessel.MillilitrePerMM(r.MM))
		}
		seen.weights = append(seen.weights, w)
	}
	for _, look := range s.Looks {
		if minute := s.Minute(look.At); look.Kind == cook.Probed && minute > 0 && look.Pot == served {
			seen.temps = append(seen.temps, probed{minute, look.Value})
		}
	}
	// What waited on a device comes late, but tells of its own time.
	slices.SortStableFunc(seen.weights, func(a, b weight) int { return cmp.Compare(a.minute, b.minute) })
	for i := range s.Spans {
		step := &s.Plan.Steps[i]
		if s.Guessed(i) || step.PotName() != served {
			continue // nobody knows how long it took, or another pot
		}
		if step.Do == plan.Heat && step.Until.Boil && !s.Spans[i].End.IsZero() {
			seen.boils = append(seen.boils, boil{i, measure.Minute(s.Spans[i].End.Sub(s.Spans[i].Begin).Minutes()), lateTap})
		}
		if heard := whistlesOf(s, i); step.Do == plan.Pressure && len(heard) > 0 {
			first, _ := forecast.Whistles(replay)
			seen.boils = append(seen.boils, boil{i, max(measure.Minute(heard[0].Sub(s.Spans[i].Begin).Minutes())-first, 0), lateWhistle})
		}
	}
	return seen
}

// justBefore the end of a step is still in it, however its minutes are rounded.
const justBefore measure.Minute = 0.005

// turnsOf returns when the served pot was told to boil, or was opened.
func turnsOf(s *cook.State, now time.Time) (list []turn) {
	served := s.Plan.Served()[0]
	for i := range s.Spans {
		step := &s.Plan.Steps[i]
		if step.PotName() != served || s.Spans[i].End.IsZero() {
			continue
		}
		one := forecast.Seen{Minute: s.Minute(s.Spans[i].End),
			Opened: step.Do == plan.Pressure, Boils: step.Do == plan.Heat && step.Until.Boil}
		if one.Opened {
			one.Minute = s.Minute(s.GaveWay(i, now))
		} else {
			one.Minute -= justBefore
		}
		if one.Opened || one.Boils {
			list = append(list, turn{i, one})
		}
	}
	return list
}

// estimate finds the most likely factor on the power.
func estimate(replay *plan.Plan, prior Estimate, seen observations) Estimate {
	cost := func(logFactor float64) float64 {
		return misfit(replay, prior, seen, logFactor)
	}
	most := mostFactor(replay, prior.Factor)
	bracket, cuts := numeric.Bracket{Low: -searchWide, High: most}, 9 // it narrows to 1/76
	if seen.surprises(replay, prior.Factor) {
		// It may have been told late: there is more than one likely power. Look around first.
		const around = 12
		best, wide := cost(0), (most+searchWide)/around
		bracket = numeric.Bracket{Low: max(-wide, -searchWide), High: min(wide, most)}
		for k := range around + 1 {
			x := -searchWide + float64(k)*wide
			if c := cost(x); c < best {
				best, bracket = c, numeric.Bracket{Low: max(x-wide, -searchWide), High: min(x+wide, most)}
			}
		}
		cuts = 5
	}
	best, _ := numeric.GoldenMinimum(cost, bracket, cuts)
	// A parabola through three points near it gives the minimum itself and, by
	// its curvature, the inverse of the variance.
	const h = 0.03
	middle, right, left := cost(best), cost(best+h), cost(best-h)
	bend := (right - 2*middle + left) / (h * h)
	sd := prior.SD
	if bend > 0 {
		best = math.Min(best-math.Min(math.Max((right-left)/(2*h)/bend, -h), h), most)
		sd = math.Min(prior.SD, 1/math.Sqrt(bend))
	}
	return Estimate{Factor: prior.Factor * math.Exp(best), SD: math.Max(sd, leastSD)}
}

// surprises reports whether a boil was told so early or late that it may be a late tap.
func (o *observations) surprises(replay *plan.Plan, factor float64) bool {
	for _, b := range o.boils {
		if square((boilMinutes(replay, b.step, factor, o.given(b.step))-float64(b.minute))/boilSD) > b.late/2 {
			return true
		}
	}
	return false
}

// mostFactor is the logarithm of the most that a factor on the power may be over a prior
// one: no burner gives more than it has. Where the pot is kept at its boil by eye, the
// factor is on what the cook lets off, and free.
func mostFactor(p *plan.Plan, prior float64) float64 {
	if p.Regulated() {
		return searchWide
	}
	burner := p.BurnerOf(p.Served()[0])
	full, _ := burner.Power(vessel.High, 0)
	return math.Min(searchWide, math.Log(math.Max(float64(burner.Most())/(float64(full)*prior), 1)))
}

// lateTap is from what misfit on, in squared standard deviations, a boil was rather told too
// late, or too soon, than so far off: one tap in twenty, within a quarter of an hour. It is
// -2 ln(0.05 boilSD sqrt(2 pi) / 15), rounded. A whistle is told as it is heard: one in a thousand.
const (
	lateTap     = 10.0
	lateWhistle = 18.0
)

// leastSD is what stays uncertain of a flame however often it is weighed: it
// is turned by hand.
const leastSD = 0.03

// misfit is the negative logarithm of the posterior of a factor.
func misfit(replay *plan.Plan, prior Estimate, seen observations, logFactor float64) float64 {
	factor := prior.Factor * math.Exp(logFactor)
	course := run(replay, factor, seen.given(-1))
	cost := square(logFactor / prior.SD)
	cost += seen.massMisfit(&course.Curve)
	for _, b := range seen.boils {
		off := square((boilMinutes(replay, b.step, factor, seen.given(b.step)) - float64(b.minute)) / boilSD)
		cost += math.Min(off, b.late)
	}
	for _, t := range seen.temps {
		// A probe that was held wrong must not rule: far off it counts no more.
		off := (numeric.Interpolate(course.Curve.Minute, course.Curve.TempC, float64(t.minute)) - t.celsius) / probeSD
		cost += square(math.Min(math.Abs(off), probeTrust))
	}
	return cost / 2
}

// massMisfit is how far the weights are off a course. What went in is known to a hundredth, of
// what was poured off a twelfth is not: so much they may all be off alike, from one draining to
// the next (a common offset with a normal prior, at its most likely value).
func (o *observations) massMisfit(c *forecast.Curve) (cost float64) {
	for k := 0; k < len(o.weights); {
		from := 0.0
		if k > 0 {
			from = float64(o.weights[k-1].minute)
		}
		in, out := handled(c, from, float64(o.weights[k].minute))
		if k == 0 {
			in += numeric.Interpolate(c.Minute, c.MassG, 0)
		}
		variance := square(massInSD*in) + square(drainedSD*out)
		var sum, precision, squares float64
		first := k
		for ; k < len(o.weights); k++ {
			w := o.weights[k]
			if _, drained := handled(c, from, float64(w.minute)); k > first && drained > out {
				break
			}
			off := float64(w.mass) - numeric.Interpolate(c.Minute, c.MassG, float64(w.minute))
			sum += off / square(w.sd)
			precision += 1 / square(w.sd)
			squares += square(off / w.sd)
		}
		cost += squares - square(sum)/(precision+1/max(variance, 1))
	}
	return cost
}

func run(p *plan.Plan, factor float64, seen []forecast.Seen) *forecast.Forecast {
	shifted := *p
	shifted.Calibration.Evaporation = &plan.Learnt{Value: factor}
	return forecast.Run(&shifted, forecast.Options{CourseOnly: true, Coarse: true, Seen: seen})
}

// factorOf returns the factor on the power that a plan has.
func factorOf(p *plan.Plan) float64 {
	if learnt := p.Calibration.Evaporation; learnt != nil {
		return learnt.Value
	}
	return 1
}
