// Package learn draws from what was seen at the stove what this kitchen is
// like: the power that really reaches the pot, the cooking time of what was felt,
// and how much thicker the spoon finds it.
package learn

import (
	"cmp"
	"math"
	"slices"
	"sort"
	"strings"
	"time"

	"kirdu/core/cook"
	"kirdu/core/forecast"
	"kirdu/core/measure"
	"kirdu/core/mend"
	"kirdu/core/numeric"
	"kirdu/core/plan"
	"kirdu/core/vessel"
)

// A Live forecast is the rest of a cook as it looks now.
type Live struct {
	Plan     *plan.Plan       // as it goes, with what was learnt in it
	Options  forecast.Options // that it was run with
	Forecast *forecast.Forecast
	Findings []mend.Found
	Power    Estimate           // factor on the power into the pot
	Cook     Estimate           // factor on the cooking time of what was felt
	Whistle  measure.Minute     // from one whistle to the next, 0 if none was heard
	Thicker  float64            // grades that it is thicker than thought, by the spoon
	Now      measure.Minute     // on the clock of the forecast
	Mass     measure.Gram       // in the pot now
	Level    measure.Millimetre // in the pot now
	Rate     float64            // g lost per minute now
	Grade    float64            // thickness now
	Doneness map[string]float64 // by part, now
	Celsius  measure.Celsius    // in the pot now
	Doubted  []Doubt            // weights that cannot be, and are not believed
}

// A Doubt is a weight, or a dip, that cannot be: since what was known before, no burner
// boils away so much, or there is more than went in.
type Doubt struct {
	At   measure.Minute
	Mass measure.Gram
	More bool // there is too much; else too little
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
	probeSD    = 3.0  // °C: where in the pot it is held
	probeTrust = 4.0  // standard deviations from which on it is not believed
	boilSD     = 0.75 // min: when a cook calls it boiling
	priorSD    = 0.25 // of the power of an untested burner; the model, section 14
	searchWide = 0.9  // the search spans exp(-0.9) to exp(0.9), 0.4 to 2.5
)

// Follow returns the live forecast of a cook at a moment. The power into the
// pot is the most likely one by its prior and by every weigh-in, dip and boil
// (maximum a posteriori in one dimension); then the mass is set to what was
// weighed last and the rest of the plan is run from there.
func Follow(s *cook.State, now time.Time) Live {
	replay := Replay(s, now)
	between := whistling(s, replay)
	seen := observe(s, replay)
	doubted := seen.believe(replay)
	prior := Estimate{Factor: 1, SD: priorSDOf(replay)}
	if learnt := replay.Calibration.Evaporation; learnt != nil {
		prior.Factor = learnt.Value
	}
	power := prior
	if !seen.none() {
		// What is to come says nothing of what was seen.
		past := *replay
		past.Steps = replay.Steps[:min(s.Step+1, len(replay.Steps))]
		power = estimate(&past, prior, seen)
	}
	if !seen.none() || replay.Calibration.Evaporation != nil {
		sd := power.SD * power.Factor
		replay.Calibration.Evaporation = &plan.Learnt{Value: power.Factor, SD: &sd}
	}
	var options forecast.Options
	massSD := 0.0
	options.Weighings, massSD = filtered(replay, seen.weights)
	l := Live{Doubted: doubted, Power: power, Now: s.Minute(now), Cook: Estimate{1, cookPriorSD}, Whistle: between}
	if len(s.Looks) > 0 {
		l.looks(s, replay, options)
	}
	l.Plan, l.Options = replay, options
	l.Forecast, l.Findings = mend.Forecast(replay, options)
	if s.Pending() && s.Step > 0 {
		l.lookBefore(s.Step)
	} else {
		l.look()
	}
	l.widen(massSD)
	return l
}

// Standard deviations of looks and of what they are held against. The priors are
// those of the model, section 14; the spoon by our own judgement: it is told within
// a little over half a grade.
const (
	cookPriorSD  = 0.15 // of the logarithm of the cooking time
	thickPriorSD = 0.4  // grade
	spoonSD      = 0.6  // grade
)

// looks learns from fingers and spoon: the cooking time of what was felt, by a
// softness, since doneness goes with its inverse; and how much thicker it is than
// thought, a normal estimate in one dimension with the mean of prior and
// observations weighted by their precision (Gelman et al., Bayesian Data Analysis,
// 2.5). What it finds goes into the calibration of the replay.
func (l *Live) looks(s *cook.State, replay *plan.Plan, options forecast.Options) {
	options.CourseOnly = true
	course := forecast.Run(replay, options).Curve
	byPart := map[string]*softness{}
	thick := normal{mean: 0, precision: 1 / square(thickPriorSD)}
	for _, look := range s.Looks {
		minute := float64(s.Minute(look.At))
		switch look.Kind {
		case cook.Felt:
			values, there := course.Doneness[look.Part]
			const raw = 0.02 // it has not begun to soften: nothing to compare
			if !there {
				continue
			}
			if model := numeric.Interpolate(course.Minute, values, minute); model > raw {
				if byPart[look.Part] == nil {
					byPart[look.Part] = newSoftness()
				}
				byPart[look.Part].see(model, look.Value)
			}
		case cook.Spooned:
			thick.see(look.Value-numeric.Interpolate(course.Minute, course.Thickness, minute), spoonSD)
		}
	}
	for part, estimate := range byPart {
		mean, sd := estimate.estimate()
		factor := math.Exp(mean)
		for _, slug := range slugsOf(replay, part) {
			if replay.Calibration.CookTime == nil {
				replay.Calibration.CookTime = map[string]plan.Learnt{}
			}
			was := 1.0
			if before, ok := replay.Calibration.CookTime[slug]; ok {
				was = before.Value
			}
			spread := sd * was * factor
			replay.Calibration.CookTime[slug] = plan.Learnt{Value: was * factor, SD: &spread}
		}
		l.Cook = Estimate{factor, sd}
	}
	if l.Thicker = thick.mean; l.Thicker != 0 {
		offset, sd := thick.mean, thick.sd()
		if before := replay.Calibration.ThicknessOffset; before != nil {
			offset += before.Value
		}
		replay.Calibration.ThicknessOffset = &plan.Learnt{Value: offset, SD: &sd}
	}
}

// normal is an estimate that learns from observations.
type normal struct{ mean, precision float64 }

func (n *normal) see(value, sd float64) {
	weight := 1 / square(sd)
	n.mean = (n.mean*n.precision + value*weight) / (n.precision + weight)
	n.precision += weight
}

func (n *normal) sd() float64 { return 1 / math.Sqrt(n.precision) }

// slugsOf returns the materials that a part is made of.
func slugsOf(p *plan.Plan, part string) []string {
	at := p.Maker(part)
	if at < 0 {
		return []string{strings.TrimRight(part, "-0123456789")}
	}
	var slugs []string
	for _, item := range p.Steps[at].Items {
		if item.Material != "" {
			slugs = append(slugs, item.Material)
		}
	}
	return slugs
}

// driftShare is how far the loss since the last weigh-in may be off although the
// power is known: the flame is turned by hand, air and pot are not the model's.
// Our own estimate from simulated kitchens, 0.06 to 0.15.
const driftShare = 0.12

// filtered holds each weigh-in against what was expected since the one before,
// weighed by what either is worth, as a Kalman filter of one state does (Kalman,
// 1960), and returns the masses to go on from with the standard deviation of the
// last, in g; 0 where nothing was weighed.
func filtered(replay *plan.Plan, weights []weight) (masses []forecast.Weighing, sd float64) {
	var variance, from float64
	for k, w := range weights {
		c := forecast.Run(replay, forecast.Options{CourseOnly: true, Weighings: masses}).Curve
		expected := numeric.Interpolate(c.Minute, c.MassG, float64(w.minute))
		lost := math.Max(0, numeric.Interpolate(c.Minute, c.MassG, from)-expected)
		variance += square(driftShare * lost)
		if k == 0 {
			// What went in is known to a few grams; the rest is what boiled away.
			variance += square(scaleSD)
		}
		gain := variance / (variance + square(w.sd))
		masses = append(masses, forecast.Weighing{Minute: w.minute, Mass: measure.Gram(expected + gain*(float64(w.mass)-expected))})
		variance *= 1 - gain
		from = float64(w.minute)
	}
	return masses, math.Sqrt(variance)
}

// widen adds to the ranges of what is to come that the mass now is not known to
// the gram, and that the rate may drift: both move the time of a mark.
func (l *Live) widen(massSD float64) {
	if massSD == 0 || l.Rate <= 0 {
		return
	}
	ranges := []*measure.Range{&l.Forecast.Time.TotalMin}
	for k := range l.Forecast.Marks {
		ranges = append(ranges, &l.Forecast.Marks[k].Minute)
	}
	for _, r := range ranges {
		ahead := r.Value - float64(l.Now)
		if ahead <= 0 {
			continue
		}
		more := measure.Percentile90 * math.Hypot(massSD/l.Rate, driftShare*ahead)
		r.Low = math.Max(r.Value-math.Hypot(r.Value-r.Low, more), float64(l.Now))
		r.High = r.Value + math.Hypot(r.High-r.Value, more)
	}
}

func priorSDOf(p *plan.Plan) float64 {
	_, sd := forecast.PowerInto(p, p.Served()[0])
	return sd
}

// look reads the present off the curve.
func (l *Live) look() {
	l.lookAt(&l.Forecast.Curve, float64(l.Now))
}

// lookBefore reads the present while something waits to be done at once: the pot as it is
// before that, with all that was put in already.
func (l *Live) lookBefore(step int) {
	past := *l.Plan
	past.Steps = l.Plan.Steps[:step]
	options := l.Options
	options.CourseOnly = true
	c := &forecast.Run(&past, options).Curve
	if n := len(c.Minute); n > 0 {
		l.lookAt(c, max(float64(l.Now), c.Minute[n-1]))
	}
}

func (l *Live) lookAt(c *forecast.Curve, now float64) {
	l.Doneness = map[string]float64{}
	if len(c.Minute) == 0 {
		return
	}
	at := func(values []float64) float64 { return numeric.Interpolate(c.Minute, values, now) }
	l.Mass = measure.Gram(at(c.MassG))
	l.Level = measure.Millimetre(at(c.LevelMM))
	l.Celsius = measure.Celsius(at(c.TempC))
	l.Grade = at(c.Thickness)
	for part, values := range c.Doneness {
		l.Doneness[part] = at(values)
	}
	l.Rate = lossRate(c, now)
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
}

// A weight is believed within what is possible, and so many of its standard deviations.
const (
	possibleSDs  = 3.0
	possibleOver = 0.03 // of what went in: a cup that was heaped
	drainedOver  = 0.20 // of what was poured off: nobody knows what the grain keeps
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

// believe takes out the weights that cannot be, and returns them. Since the latest that
// was believed a pot loses at most what its burner could boil away over all its flame, and
// gains what was put in.
func (o *observations) believe(replay *plan.Plan) (doubted []Doubt) {
	if len(o.weights) == 0 {
		return nil
	}
	const gramsPerWattMinute = measure.SecondsPerMinute / measure.LatentHeat
	served := replay.Served()[0]
	rate := float64(replay.BurnerOf(served).Most()) * gramsPerWattMinute
	course := forecast.Run(replay, forecast.Options{CourseOnly: true}).Curve
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
			mass := numeric.Interpolate(c.Minute, c.MassG, float64(minute))
			volume := vessel.Volume(measure.Millimetre(numeric.Interpolate(c.Minute, c.LevelMM, float64(minute))))
			density := measure.Ratio(mass, float64(volume))
			w.mass = measure.Gram(density * float64(vessel.Volume(r.MM)))
			w.sd = dipSD * density * float64(vessel.MillilitrePerMM(r.MM))
		}
		seen.weights = append(seen.weights, w)
	}
	for _, look := range s.Looks {
		if minute := s.Minute(look.At); look.Kind == cook.Probed && minute > 0 {
			seen.temps = append(seen.temps, probed{minute, look.Value})
		}
	}
	// What waited on a device comes late, but tells of its own time.
	slices.SortStableFunc(seen.weights, func(a, b weight) int { return cmp.Compare(a.minute, b.minute) })
	for i := range s.Spans {
		step := &s.Plan.Steps[i]
		if step.Do == plan.Heat && step.Until.Boil && !s.Spans[i].End.IsZero() {
			seen.boils = append(seen.boils, boil{step: i, minute: measure.Minute(s.Spans[i].End.Sub(s.Spans[i].Begin).Minutes())})
		}
		if heard := whistlesOf(s, i); step.Do == plan.Pressure && len(heard) > 0 {
			first, _ := forecast.Whistles(replay)
			seen.boils = append(seen.boils, boil{step: i, minute: max(measure.Minute(heard[0].Sub(s.Spans[i].Begin).Minutes())-first, 0)})
		}
	}
	return seen
}

// estimate finds the most likely factor on the power.
func estimate(replay *plan.Plan, prior Estimate, seen observations) Estimate {
	cost := func(logFactor float64) float64 {
		return misfit(replay, prior, seen, logFactor)
	}
	const cuts = 9 // the bracket narrows to 1/76
	most := mostFactor(replay, prior.Factor)
	best, _ := numeric.GoldenMinimum(cost, numeric.Bracket{Low: -searchWide, High: most}, cuts)
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

// leastSD is what stays uncertain of a flame however often it is weighed: it
// is turned by hand.
const leastSD = 0.03

// misfit is the negative logarithm of the posterior of a factor.
func misfit(replay *plan.Plan, prior Estimate, seen observations, logFactor float64) float64 {
	factor := prior.Factor * math.Exp(logFactor)
	course := run(replay, factor)
	cost := square(logFactor / prior.SD)
	for _, w := range seen.weights {
		mass := numeric.Interpolate(course.Curve.Minute, course.Curve.MassG, float64(w.minute))
		cost += square((mass - float64(w.mass)) / w.sd)
	}
	for _, b := range seen.boils {
		cost += square((boilMinutes(replay, b.step, factor) - float64(b.minute)) / boilSD)
	}
	for _, t := range seen.temps {
		// A probe that was held wrong must not rule: far off it counts no more.
		off := (numeric.Interpolate(course.Curve.Minute, course.Curve.TempC, float64(t.minute)) - t.celsius) / probeSD
		cost += square(math.Min(math.Abs(off), probeTrust))
	}
	return cost / 2
}

func run(p *plan.Plan, factor float64) *forecast.Forecast {
	shifted := *p
	shifted.Calibration.Evaporation = &plan.Learnt{Value: factor}
	return forecast.Run(&shifted, forecast.Options{CourseOnly: true, Coarse: true})
}

// whistlesOf returns when the cooker whistled in a step.
func whistlesOf(s *cook.State, step int) (heard []time.Time) {
	for _, w := range s.Whistles {
		if w.Step == s.IDs[step] {
			heard = append(heard, w.At)
		}
	}
	slices.SortFunc(heard, time.Time.Compare)
	return heard
}

// Standard deviations of whistles: of what an unknown cooker takes from one to
// the next, and of one gap between two; in minutes. Source: our own estimate, the
// valve sticks and the flame flickers.
const (
	whistlePriorSD = 0.75
	whistleSD      = 0.6
)

// whistling learns from the gaps between whistles how long this cooker takes from
// one to the next; 0 where none was heard twice.
func whistling(s *cook.State, replay *plan.Plan) measure.Minute {
	_, usual := forecast.Whistles(replay)
	estimate := normal{mean: float64(usual), precision: 1 / square(whistlePriorSD)}
	seen := false
	for i := range s.Plan.Steps {
		heard := whistlesOf(s, i)
		for k := 1; k < len(heard); k++ {
			estimate.see(heard[k].Sub(heard[k-1]).Minutes(), whistleSD)
			seen = true
		}
	}
	if !seen {
		return 0
	}
	const least = 0.3
	between, sd := math.Max(estimate.mean, least), estimate.sd()
	replay.Calibration.WhistleMin = &plan.Learnt{Value: between, SD: &sd}
	return measure.Minute(between)
}

// boilMinutes returns how long a step takes to its boil, or to its pressure, at a
// power.
func boilMinutes(p *plan.Plan, step int, factor float64) float64 {
	to := *p
	to.Steps = append([]plan.Step(nil), p.Steps[:step+1]...)
	const moment measure.Minute = 0.01
	if last := &to.Steps[step]; last.Do == plan.Pressure {
		minutes := moment
		last.Whistles, last.Minutes, last.Release = 0, &minutes, plan.Quick
	} else {
		last.Until = &plan.Until{Boil: true}
	}
	f := run(&to, factor)
	return f.Steps[step].EndMin - f.Steps[step].StartMin
}

func square(x float64) float64 { return x * x }
