// Package learn draws from what was seen at the stove what this kitchen is
// like: so far the power that really reaches the pot.
package learn

import (
	"cmp"
	"math"
	"slices"
	"sort"
	"time"

	"kirdu/core/advice"
	"kirdu/core/cook"
	"kirdu/core/forecast"
	"kirdu/core/measure"
	"kirdu/core/plan"
)

// A Live forecast is the rest of a cook as it looks now.
type Live struct {
	Forecast *forecast.Forecast
	Power    Estimate           // factor on the power into the pot
	Now      measure.Minute     // on the clock of the forecast
	Mass     measure.Gram       // in the pot now
	Level    measure.Millimetre // in the pot now
	Rate     float64            // g lost per minute now
	Grade    float64            // thickness now
	Doneness map[string]float64 // by part, now
	Celsius  measure.Celsius    // in the pot now
}

// An Estimate is a factor with the standard deviation of its logarithm.
type Estimate struct {
	Factor float64
	SD     float64
}

// Standard deviations of what is told at the stove.
const (
	scaleSD    = 10.0 // g: the scale's own, and what clings to spoon and lid
	dipSD      = 1.0  // mm: a skewer in a moving surface
	boilSD     = 0.75 // min: when a cook calls it boiling
	priorSD    = 0.25 // of the power of an untested burner; the model, section 14
	testedSD   = 0.08 // of one with a water test
	searchWide = 0.9  // the search spans exp(-0.9) to exp(0.9), 0.4 to 2.5
)

// Follow returns the live forecast of a cook at a moment. The power into the
// pot is the most likely one by its prior and by every weigh-in, dip and boil
// (maximum a posteriori in one dimension); then the mass is set to what was
// weighed last and the rest of the plan is run from there.
func Follow(s *cook.State, now time.Time) Live {
	replay := s.Replay(now)
	seen := observe(s, replay)
	prior := Estimate{Factor: 1, SD: priorSDOf(replay)}
	if learnt := replay.Calibration.Evaporation; learnt != nil {
		prior.Factor = learnt.Value
	}
	power := prior
	if len(seen.weights) > 0 || len(seen.boils) > 0 {
		// What is to come says nothing of what was seen.
		past := *replay
		past.Steps = replay.Steps[:min(s.Step+1, len(replay.Steps))]
		power = estimate(&past, prior, seen)
	}
	sd := power.SD * power.Factor
	replay.Calibration.Evaporation = &plan.Learnt{Value: power.Factor, SD: &sd}
	options := forecast.Options{}
	for _, w := range seen.weights {
		options.Weighings = append(options.Weighings, forecast.Weighing{Minute: w.minute, Mass: w.mass})
	}
	l := Live{Forecast: advice.Forecast(replay, options), Power: power, Now: s.Minute(now)}
	l.look()
	return l
}

func priorSDOf(p *plan.Plan) float64 {
	if learnt := p.Calibration.Evaporation; learnt != nil {
		if learnt.SD != nil {
			return *learnt.SD / learnt.Value
		}
		return testedSD
	}
	if len(p.BurnerOf(p.Served()[0]).FlameW) > 0 {
		return testedSD
	}
	return priorSD
}

// look reads the present off the curve.
func (l *Live) look() {
	c := &l.Forecast.Curve
	l.Doneness = map[string]float64{}
	if len(c.Minute) == 0 {
		return
	}
	at := func(values []float64) float64 { return Interpolate(c.Minute, values, float64(l.Now)) }
	l.Mass = measure.Gram(at(c.MassG))
	l.Level = measure.Millimetre(at(c.LevelMM))
	l.Celsius = measure.Celsius(at(c.TempC))
	l.Grade = at(c.Thickness)
	for part, values := range c.Doneness {
		l.Doneness[part] = at(values)
	}
	l.Rate = lossRate(c, float64(l.Now))
}

// lossRate returns the g a minute that leave as steam at a minute: on the
// stretch of the course it lies in, between two jumps of the mass (an addition,
// a weigh-in), at most a minute to either side.
func lossRate(c *forecast.Curve, now float64) float64 {
	const window = 1.0
	last := len(c.Minute) - 1
	k := min(sort.Search(last+1, func(i int) bool { return c.Minute[i] > now }), last)
	jump := func(i int) bool { return c.Minute[i] == c.Minute[i-1] }
	from, to := max(k-1, 0), k
	for from > 0 && !jump(from) && c.Minute[from] > now-window {
		from--
	}
	for to < last && !jump(to+1) && c.Minute[to] < now+window {
		to++
	}
	return math.Max(0, measure.Ratio(c.MassG[from]-c.MassG[to], c.Minute[to]-c.Minute[from]))
}

// Interpolate returns the value at x on straight lines between the points; xs
// must rise, though not strictly. Where two points share an x the later counts.
// Outside it stays at the ends.
func Interpolate(xs, ys []float64, x float64) float64 {
	k := sort.Search(len(xs), func(i int) bool { return xs[i] > x })
	switch {
	case len(xs) == 0:
		return 0
	case k == 0:
		return ys[0]
	case k == len(xs):
		return ys[k-1]
	}
	return ys[k-1] + (ys[k]-ys[k-1])*measure.Ratio(x-xs[k-1], xs[k]-xs[k-1])
}

// A weight is a mass in the pot at a minute with its standard deviation.
type weight struct {
	minute measure.Minute
	mass   measure.Gram
	sd     float64
}

// A boil is a step that the cook has ended because it boiled.
type boil struct {
	step   int
	minute measure.Minute
}

type observations struct {
	weights []weight
	boils   []boil
}

// observe turns readings into masses. A depth becomes a mass by the density
// that the forecast has for that moment.
func observe(s *cook.State, replay *plan.Plan) observations {
	var seen observations
	var course *forecast.Forecast
	vessel := replay.Pots[replay.Served()[0]]
	for _, r := range s.Readings {
		minute := s.Minute(r.At)
		if minute <= 0 {
			continue // before the flame there is nothing to learn of it
		}
		w := weight{minute: minute, mass: r.Mass, sd: scaleSD}
		if r.MM > 0 {
			if course == nil {
				course = forecast.Run(replay, forecast.Options{NominalOnly: true})
			}
			c := &course.Curve
			mass := Interpolate(c.Minute, c.MassG, float64(minute))
			volume := vessel.Volume(measure.Millimetre(Interpolate(c.Minute, c.LevelMM, float64(minute))))
			density := measure.Ratio(mass, float64(volume))
			w.mass = measure.Gram(density * float64(vessel.Volume(r.MM)))
			w.sd = dipSD * density * float64(vessel.MillilitrePerMM(r.MM))
		}
		seen.weights = append(seen.weights, w)
	}
	// What waited on a device comes late, but tells of its own time.
	slices.SortStableFunc(seen.weights, func(a, b weight) int { return cmp.Compare(a.minute, b.minute) })
	for i := range s.Spans {
		step := &s.Plan.Steps[i]
		if step.Do == plan.Heat && step.Until.Boil && !s.Spans[i].End.IsZero() {
			seen.boils = append(seen.boils, boil{step: i, minute: measure.Minute(s.Spans[i].End.Sub(s.Spans[i].Begin).Minutes())})
		}
	}
	return seen
}

// estimate finds the most likely factor on the power.
func estimate(replay *plan.Plan, prior Estimate, seen observations) Estimate {
	cost := func(logFactor float64) float64 {
		return misfit(replay, prior, seen, logFactor)
	}
	best := minimise(cost, -searchWide, searchWide)
	// A parabola through three points near it gives the minimum itself and, by
	// its curvature, the inverse of the variance.
	const h = 0.03
	middle, right, left := cost(best), cost(best+h), cost(best-h)
	bend := (right - 2*middle + left) / (h * h)
	sd := prior.SD
	if bend > 0 {
		best -= math.Min(math.Max((right-left)/(2*h)/bend, -h), h)
		sd = math.Min(prior.SD, 1/math.Sqrt(bend))
	}
	return Estimate{Factor: prior.Factor * math.Exp(best), SD: math.Max(sd, leastSD)}
}

// leastSD is what stays uncertain of a flame however often it is weighed: it
// is turned by hand.
const leastSD = 0.03

// misfit is the negative logarithm of the posterior of a factor.
func misfit(replay *plan.Plan, prior Estimate, seen observations, logFactor float64) float64 {
	factor := prior.Factor * math.Exp(logFactor)
	course := run(replay, factor)
	cost := square(logFactor / prior.SD)
	for _, w := range seen.weights {
		mass := Interpolate(course.Curve.Minute, course.Curve.MassG, float64(w.minute))
		cost += square((mass - float64(w.mass)) / w.sd)
	}
	for _, b := range seen.boils {
		cost += square((boilMinutes(replay, b.step, factor) - float64(b.minute)) / boilSD)
	}
	return cost / 2
}

func run(p *plan.Plan, factor float64) *forecast.Forecast {
	shifted := *p
	shifted.Calibration.Evaporation = &plan.Learnt{Value: factor}
	return forecast.Run(&shifted, forecast.Options{CourseOnly: true})
}

// boilMinutes returns how long a step takes to its boil at a power.
func boilMinutes(p *plan.Plan, step int, factor float64) float64 {
	to := *p
	to.Steps = append([]plan.Step(nil), p.Steps[:step+1]...)
	to.Steps[step].Until = &plan.Until{Boil: true}
	f := run(&to, factor)
	return f.Steps[step].EndMin - f.Steps[step].StartMin
}

func square(x float64) float64 { return x * x }

// minimise finds the minimum of a function with one valley by golden section.
// It ends after a fixed number of cuts, the bracket being 1/76 of its width.
func minimise(f func(float64) float64, low, high float64) float64 {
	const cuts = 9
	ratio := (math.Sqrt(5) - 1) / 2
	a, b := high-ratio*(high-low), low+ratio*(high-low)
	fa, fb := f(a), f(b)
	for range cuts {
		if fa < fb {
			high, b, fb = b, a, fa
			a = high - ratio*(high-low)
			fa = f(a)
		} else {
			low, a, fa = a, b, fb
			b = low + ratio*(high-low)
			fb = f(b)
		}
	}
	return (low + high) / 2
}
