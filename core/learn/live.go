// Package learn draws from what was seen at the stove what this kitchen is
// like: the power that really reaches the pot, the cooking time of what was felt,
// and how much thicker the spoon finds it.
package learn

import (
	"cmp"
	"maps"
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
	Doubted  []Doubt            // what was told that cannot be, and is not believed

	observed bool // something was seen that tells of the power
}

// A Doubt is what was told that cannot be: since what was known before, no burner boils away
// so much or heats so fast, or there is more than went in.
type Doubt struct {
	At      measure.Minute
	Mass    measure.Gram     // a weight, or a dip
	Celsius *measure.Celsius // or a temperature
	Part    string           // or how soft a part is
	More    bool             // too much, too hot, too soft; else too little, too cold, too hard
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
// (maximum a posteriori in one dimension); then the pot is set to what was
// seen of it last and the rest of the plan is run from there. What was seen of other pots
// counts for what they bring.
func Follow(s *cook.State, now time.Time) Live {
	l, massSD := follow(s, now)
	l.Forecast, l.Findings = mend.Forecast(l.Plan, l.Options)
	l.present(s, massSD)
	return l
}

// FollowPot returns the live forecast of one pot by itself, without findings: of the cook that
// State.Only returns.
func FollowPot(only *cook.State, now time.Time) Live {
	l, massSD := follow(only, now)
	l.Forecast = forecast.Run(l.Plan, l.Options)
	l.present(only, massSD)
	return l
}

// follow finds out what this kitchen is like and what to run the plan with.
func follow(s *cook.State, now time.Time) (l Live, massSD float64) {
	replay := Replay(s, now)
	between := whistling(s, replay)
	prior := Estimate{Factor: factorOf(replay), SD: priorSDOf(replay)}
	others, prior := beside(s, replay, prior, now)
	seen := observe(s, replay, others, now)
	doubted := seen.believe(replay, s.Boiled())
	power := prior
	if !seen.none() {
		// What is to come says nothing of what was seen.
		past := *replay
		past.Steps = replay.Steps[:min(s.Step+1, len(replay.Steps))]
		power = estimate(&past, prior, seen)
	}
	if !seen.none() || replay.Calibration.Evaporation != nil || len(others) > 0 {
		sd := power.SD * power.Factor
		replay.Calibration.Evaporation = &plan.Learnt{Value: power.Factor, SD: &sd}
	}
	var options forecast.Options
	options.Seen, massSD = filtered(replay, seen)
	l = Live{Doubted: doubted, observed: !seen.none(), Power: power, Now: s.Minute(now), Cook: Estimate{1, cookPriorSD}, Whistle: between}
	options.Seen = append(options.Seen, seen.given(-1)...)
	for _, t := range seen.temps {
		celsius := measure.Celsius(t.celsius)
		options.Seen = append(options.Seen, forecast.Seen{Minute: t.minute, Celsius: &celsius})
	}
	if len(s.Looks) > 0 {
		options.Seen = inOrder(options.Seen, nil)
		options.Seen = append(options.Seen, l.looks(s, replay, options)...)
	}
	options.Seen = inOrder(options.Seen, nil)
	l.Plan, l.Options = replay, options
	return l, massSD
}

// inOrder puts what was seen together by time.
func inOrder(a, b []forecast.Seen) []forecast.Seen {
	return slices.SortedStableFunc(slices.Values(slices.Concat(a, b)), func(a, b forecast.Seen) int { return cmp.Compare(a.Minute, b.Minute) })
}

// beside lays what was seen of the pots that go into the served one over a plan, and returns it
// with what it makes of the power: one burner is what it is, whatever pot stands on it.
func beside(s *cook.State, replay *plan.Plan, prior Estimate, now time.Time) ([]forecast.Seen, Estimate) {
	served := s.Plan.Served()[0]
	told := map[string]bool{}
	for _, r := range s.Readings {
		told[r.Pot] = true
	}
	for _, look := range s.Looks {
		told[look.Pot] = true
	}
	for _, w := range s.Whistles {
		told[w.Pot] = true
	}
	for i := range s.Plan.Steps {
		if step := &s.Plan.Steps[i]; step.Do == plan.Pressure && s.Lasted(i) > 0 {
			told[step.PotName()] = true
		}
	}
	delete(told, served)
	var all []forecast.Seen
	for _, pot := range slices.Sorted(maps.Keys(told)) {
		only, _ := s.Only(pot)
		l, _ := follow(only, now)
		for _, one := range l.Options.Seen {
			if one.Pot == "" {
				one.Pot = pot
			}
			all = append(all, one)
		}
		for slug, learnt := range l.Plan.Calibration.CookTime {
			if replay.Calibration.CookTime == nil {
				replay.Calibration.CookTime = map[string]plan.Learnt{}
			}
			replay.Calibration.CookTime[slug] = learnt
		}
		// Of a flame that is kept by eye the factor is on what is let off: that is no burner's.
		if replay.BurnerOf(pot).Name == replay.BurnerOf(served).Name && l.Plan.Regulated() == replay.Regulated() {
			prior = Estimate{l.Power.Factor, min(math.Hypot(l.Power.SD, potSD), prior.SD)}
		}
	}
	return all, prior
}

// present reads the pot as it is now.
func (l *Live) present(s *cook.State, massSD float64) {
	if s.Pending() && s.Step > 0 {
		l.lookBefore(s.Step)
	} else {
		l.look()
	}
	l.widen(massSD)
}

// Standard deviations of looks and of what they are held against. The priors are
// those of the model, section 14; the spoon by our own judgement: it is told within
// a little over half a grade.
const (
	cookPriorSD  = 0.15 // of the logarithm of the cooking time
	thickPriorSD = 0.4  // grade
	spoonSD      = 0.6  // grade
	tooSoft      = 0.25 // of what is felt: a grain that is so much harder cannot be as soft
)

// looks learns from fingers and spoon: the cooking time of what was felt, by a
// softness, since doneness goes with its inverse; and how much thicker it is than
// thought, a normal estimate in one dimension with the mean of prior and
// observations weighted by their precision (Gelman et al., Bayesian Data Analysis,
// 2.5). What it finds goes into the calibration of the replay; what fingers felt is returned, and
// counts from then on.
func (l *Live) looks(s *cook.State, replay *plan.Plan, options forecast.Options) (seen []forecast.Seen) {
	options.CourseOnly = true
	course := forecast.Run(replay, options).Curve
	byPart := map[string]*softness{}
	thick := normal{mean: 0, precision: 1 / square(thickPriorSD)}
	for _, look := range s.Looks {
		if look.Pot != s.Plan.Served()[0] {
			continue // beside sees to it
		}
		minute := float64(s.Minute(look.At))
		switch look.Kind {
		case cook.Felt:
			values, there := course.Doneness[look.Part]
			if !there || minute <= 0 {
				continue
			}
			low, high := answered(look.Value)
			model := numeric.Interpolate(course.Minute, values, minute)
			if model < tooSoft*math.Exp(low) {
				l.Doubted = append(l.Doubted, Doubt{At: measure.Minute(minute), Part: look.Part, More: true})
				continue
			}
			seen = append(seen, forecast.Seen{Minute: measure.Minute(minute), Part: look.Part, Low: math.Exp(low), High: math.Exp(high)})
			const raw = 0.02 // it has not begun to soften: nothing to compare
			if model > raw {
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
	return seen
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
func filtered(replay *plan.Plan, seen observations) (masses []forecast.Seen, sd float64) {
	var variance, from float64
	for k, w := range seen.weights {
		c := forecast.Run(replay, forecast.Options{CourseOnly: true, Seen: inOrder(masses, seen.given(-1))}).Curve
		expected := numeric.Interpolate(c.Minute, c.MassG, float64(w.minute))
		lost := math.Max(0, numeric.Interpolate(c.Minute, c.MassG, from)-expected)
		_, out := handled(&c, from, float64(w.minute))
		variance += square(driftShare*lost) + square(drainedSD*out)
		if k == 0 {
			// What went in is known to a few grams; the rest is what boiled away.
			variance += square(scaleSD)
		}
		gain := variance / (variance + square(w.sd))
		masses = append(masses, forecast.Seen{Minute: w.minute, Mass: measure.Gram(expected + gain*(float64(w.mass)-expected))})
		variance *= 1 - gain
		from = float64(w.minute)
	}
	return masses, math.Sqrt(variance)
}

// widen adds to the ranges of what is to come that the mass now is not known to
// the gram, and that the rate may drift: both move the time of a mark. Where nothing was
// seen yet, the power is known so little that neither counts.
func (l *Live) widen(massSD float64) {
	if !l.observed || l.Rate <= 0 {
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
func boilMinutes(p *plan.Plan, step int, factor float64, seen []forecast.Seen) float64 {
	to := *p
	to.Steps = append([]plan.Step(nil), p.Steps[:step+1]...)
	const moment measure.Minute = 0.01
	if last := &to.Steps[step]; last.Do == plan.Pressure {
		minutes := moment
		last.Whistles, last.Minutes, last.Release = 0, &minutes, plan.Quick
	} else {
		last.Until = &plan.Until{Boil: true}
	}
	f := run(&to, factor, seen)
	return f.Steps[step].EndMin - f.Steps[step].StartMin
}

func square(x float64) float64 { return x * x }
