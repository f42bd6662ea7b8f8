package learn_test

import (
	"fmt"
	"math"
	"math/rand/v2"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"kirdu/core/cook"
	"kirdu/core/forecast"
	"kirdu/core/learn"
	"kirdu/core/measure"
	"kirdu/core/numeric"
	"kirdu/core/pantry"
	"kirdu/core/plan"
)

// cooksPlans are plans that cooks really cook, none of them made for these tests.
func cooksPlans(t *testing.T) map[string]*plan.Plan {
	t.Helper()
	all := map[string]*plan.Plan{}
	for _, folder := range []string{"../../plantest/trials", "../../demo/plans", "../forecast/testdata"} {
		pattern := folder + "/*.kirdu.json"
		names, err := filepath.Glob(pattern)
		require.NoError(t, err)
		for _, name := range names {
			data, err := os.ReadFile(name)
			require.NoError(t, err)
			if p, err := plan.Read(data); err == nil {
				all[strings.TrimSuffix(filepath.Base(name), ".kirdu.json")] = p
			}
		}
	}
	require.Greater(t, len(all), 60)
	return all
}

// A stove is a kitchen with a truth of its own: what really happens in each pot, and a cook
// who tells of it late, or of several things at once.
type stove struct {
	plan   *plan.Plan
	truth  map[string]*forecast.Forecast // by pot, on its own clock
	steps  map[string][]int              // by pot: the steps of the plan that those of its forecast are
	zero   map[string]float64            // min: when the first timed step of a pot really began
	begins []float64                     // of each step of the line, min; NaN for the others
	ends   []float64
	told   []cook.Event
}

// asThought is a kitchen just as the model thinks, with a cook who taps in time.
func asThought(p *plan.Plan) *stove { return stoveOf(p, p.Clone(), func() float64 { return 0 }) }

func newStove(p *plan.Plan, random *rand.Rand, sloppy bool) *stove {
	truth := p.Clone()
	truth.Calibration.Evaporation = &plan.Learnt{Value: min(max(0.5, 1+0.2*random.NormFloat64()), 1.6)}
	truth.Kitchen.AmbientC += measure.Celsius(3 * random.NormFloat64())
	truth.Kitchen.HumidityPct = 30 + 50*random.Float64()
	truth.Calibration.CookTime = map[string]plan.Learnt{}
	for i := range truth.Steps {
		for _, item := range truth.Steps[i].Items {
			if m, ok := truth.Pantry().Material(item.Material); ok && m.Kinetics != nil {
				truth.Calibration.CookTime[m.Slug] = plan.Learnt{Value: math.Exp(0.15 * random.NormFloat64())}
			}
		}
	}
	return stoveOf(p, truth, func() float64 {
		late := 0.0
		if sloppy && random.Float64() < 0.15 {
			late = 6 * random.Float64() // the cook forgets, and taps when it is noticed
		}
		return late + math.Abs(0.15*random.NormFloat64())
	})
}

// stoveOf lets a plan be cooked as a truth has it; late is by how many minutes a tap is.
func stoveOf(p, truth *plan.Plan, late func() float64) *stove {
	k := &stove{plan: p, truth: map[string]*forecast.Forecast{}, steps: map[string][]int{}, zero: map[string]float64{},
		begins: make([]float64, len(p.Steps)), ends: make([]float64, len(p.Steps))}
	for i := range p.Steps {
		k.begins[i], k.ends[i] = math.NaN(), math.NaN()
	}
	clock, tapped := 0.0, 0.0
	ready := map[int]float64{} // min: when what goes on by itself is done
	log := learn.LogOf(p, lit, nil)
	first := log.Fold()
	whole := learn.Follow(&first, lit)
	zero := learn.ClockOf(&first, &whole, lit).Zero.Sub(lit).Minutes()
	served := p.Served()[0]
	for n, i := range log.Line {
		step := &p.Steps[i]
		if !first.IsBeside(i) {
			clock = max(clock, zero) // not before it is time
		}
		lasts, kind := 0.0, cook.Next
		for j, at := range ready {
			if p.Feeds(j, i) {
				clock = max(clock, at)
			}
		}
		pot := step.PotName()
		switch full, hands := float64(step.FullMinutes()), float64(step.HandsOn()); {
		case !step.Do.IsPreparation() && !step.Do.Descriptor().AtOnce:
			f, at := k.of(truth, pot, i)
			lasts = max(f.Steps[at].EndMin-f.Steps[at].StartMin, 0)
			if _, lit := k.zero[pot]; !lit {
				k.zero[pot] = clock
			}
		case step.Do.IsPreparation() && hands < full-1 && !step.TakesFromPot():
			lasts, kind = hands, cook.Began // it goes on by itself
			ready[i] = clock + full
		case step.Do.IsPreparation(), step.Do == plan.Drain, step.Do == plan.Mash:
			lasts = full
		}
		k.begins[i], k.ends[i] = clock, clock+lasts
		if byItself := step.Do == plan.Pressure || step.Do == plan.Rest; byItself && pot != served && n+1 < len(log.Line) &&
			!first.IsBeside(log.Line[n+1]) && !p.Feeds(i, log.Line[n+1]) && zero < clock+lasts {
			ready[i], kind = clock+lasts, cook.Began // and the next is begun meanwhile
			k.told = append(k.told, cook.Event{Kind: cook.Next, At: after(clock + lasts), Step: i})
			lasts = max(zero-clock, 0)
		}
		clock += lasts
		tapped = max(tapped+0.02, clock+late())
		k.told = append(k.told, cook.Event{Kind: kind, At: after(tapped), Step: i})
	}
	slices.SortStableFunc(k.told, func(a, b cook.Event) int { return a.At.Compare(b.At) })
	return k
}

// of returns what really happens in a pot, and where a step of the plan stands in it.
func (k *stove) of(truth *plan.Plan, pot string, step int) (*forecast.Forecast, int) {
	if k.truth[pot] == nil {
		k.steps[pot] = truth.Into(pot)
		whole := truth
		if pot != truth.Served()[0] {
			whole = truth.Only(pot, k.steps[pot])
		} else {
			k.steps[pot] = nil
			for i := range truth.Steps {
				k.steps[pot] = append(k.steps[pot], i)
			}
		}
		k.truth[pot] = forecast.Run(whole, forecast.Options{NominalOnly: true})
	}
	return k.truth[pot], slices.Index(k.steps[pot], step)
}

// beginJobs lets the cook begin what goes on beside the pot when it should be, and say so.
func (k *stove) beginJobs() {
	s := learn.LogOf(k.plan, lit, nil).Fold()
	whole := learn.Follow(&s, lit)
	for i, span := range learn.ClockOf(&s, &whole, lit).Jobs {
		if math.IsNaN(k.begins[i]) {
			k.told = append(k.told, cook.Event{Kind: cook.Began, At: span.Begin, Step: i}, cook.Event{Kind: cook.Next, At: span.End, Step: i})
		}
	}
	slices.SortStableFunc(k.told, func(a, b cook.Event) int { return a.At.Compare(b.At) })
}

// mass is what is really in a pot.
func (k *stove) mass(pot string, minute float64) float64 {
	c := &k.truth[pot].Curve
	return numeric.Interpolate(c.Minute, c.MassG, minute-k.zero[pot])
}

// reading is what a cook would look at in a step: the thermometer on the way to the boil, a grain
// between the fingers where softness ends it, else the scale.
func (k *stove) reading(p *plan.Plan, step int, minute float64, random *rand.Rand) cook.Event {
	pot := p.Steps[step].PotName()
	c := &k.truth[pot].Curve
	now := minute - k.zero[pot]
	e := cook.Event{At: after(minute + 0.01), Pot: pot}
	until := p.Steps[step].Until
	switch {
	case numeric.Interpolate(c.Minute, c.TempC, now) < 92:
		e.Kind, e.Value = cook.Probed, numeric.Interpolate(c.Minute, c.TempC, now)+random.NormFloat64()
	case until != nil && until.Doneness != nil && c.Doneness[until.Doneness.Of] != nil:
		done := numeric.Interpolate(c.Minute, c.Doneness[until.Doneness.Of], now)
		answers := learn.GrainAnswers
		if p.Texture(until.Doneness.Of) == pantry.Pearly {
			answers = learn.PearlAnswers
		}
		e.Kind, e.Part, e.Value = cook.Felt, until.Doneness.Of, answers[0]
		for _, one := range answers {
			if math.Abs(math.Log(one/max(done, 0.01))) < math.Abs(math.Log(e.Value/max(done, 0.01))) {
				e.Value = one
			}
		}
	default:
		e.Kind, e.Mass = cook.Weighed, measure.Gram(max(numeric.Interpolate(c.Minute, c.MassG, now)+6*random.NormFloat64(), 1))
	}
	return e
}

// at is what Kirdu shows at a minute to a cook who told so much.
func (k *stove) at(minute float64, readings []cook.Event) (s cook.State, of learn.Live, only *cook.State) {
	var events []cook.Event
	for _, e := range append(slices.Clone(k.told), readings...) {
		if !e.At.After(after(minute)) {
			events = append(events, e)
		}
	}
	slices.SortStableFunc(events, func(a, b cook.Event) int { return a.At.Compare(b.At) })
	s = learn.LogOf(k.plan, lit, events).Fold()
	only, _ = s.Only(s.Pot())
	if only == &s {
		return s, learn.Follow(&s, after(minute)), only
	}
	return s, learn.FollowPot(only, after(minute)), only
}

// TestKitchensOfTheirOwn cooks what cooks cook in kitchens that are not the model's, tapped late and
// all at once, weighed by a scale that is leant on. What is shown is never absurd, and gets better
// with each reading.
func TestKitchensOfTheirOwn(t *testing.T) {
	plans := cooksPlans(t)
	var names []string
	for name := range plans {
		names = append(names, name)
	}
	slices.Sort(names)
	rounds := 1
	if *many {
		rounds = 5
	}
	random := rand.New(rand.NewPCG(5, 11))
	type figures struct {
		mass, left []float64
		held, of   int
	}
	by := map[int]*figures{0: {}, 1: {}, 3: {}}
	absurd := map[string]int{}
	kitchens := 0
	for round := range rounds {
		for _, name := range names {
			p := plans[name]
			k := newStove(p, random, round%2 == 1 || random.Float64() < 0.3)
			kitchens++
			for i := range p.Steps {
				pot := p.Steps[i].PotName()
				if lasts := k.ends[i] - k.begins[i]; math.IsNaN(lasts) || lasts < 4 || lasts > 300 || p.Steps[i].Do.IsPreparation() ||
					p.Steps[i].Do == plan.Chill || p.Steps[i].Do == plan.Bake || p.Steps[i].Do == plan.Pressure {
					continue
				}
				span := k.ends[i] - k.begins[i]
				var readings []cook.Event
				for n, share := range []float64{0.2, 0.35, 0.5, 0.65} {
					minute := k.begins[i] + share*span
					s, l, only := k.at(minute, readings)
					if what := oddities(p, &s, &l); what != "" {
						absurd[what]++
						t.Logf("%s, step %d at %.1f min after %d readings: %s", name, i, minute, n, what)
					}
					if f := by[n]; f != nil && !s.Done() && s.Step == i {
						really := k.mass(pot, minute)
						f.mass = append(f.mass, math.Abs(float64(l.Mass)-really)/really)
						at := only.Step
						end := l.Forecast.Steps[at].EndMin
						low, high := end, end
						for _, m := range l.Forecast.Marks {
							if m.Step == at && m.Label != "start" {
								end, low, high = m.Minute.Value, m.Minute.Low, m.Minute.High
							}
						}
						zero, _ := only.Zero()
						shift := zero.Sub(lit).Minutes()
						if until := p.Steps[i].Until; until != nil && until.Minutes == nil {
							left := k.ends[i] - minute
							f.left = append(f.left, math.Abs(end+shift-k.ends[i])/max(left, 5))
							f.of++
							if low+shift-0.5 <= k.ends[i] && k.ends[i] <= high+shift+0.5 {
								f.held++
							}
						}
					}
					readings = append(readings, k.reading(p, i, minute, random))
				}
			}
		}
	}
	for _, n := range []int{0, 1, 3} {
		f := by[n]
		slices.Sort(f.mass)
		slices.Sort(f.left)
		t.Logf("%d kitchens, after %d readings: mass off by %.1f %%, in nine of ten by less than %.1f %% (%d); time left by %.0f %%, %.0f %%; "+
			"the range holds %.0f %% of %d", kitchens, n, 100*middle(f.mass), 100*most(f.mass), len(f.mass), 100*middle(f.left), 100*most(f.left),
			100*float64(f.held)/float64(f.of), f.of)
	}
	require.Empty(t, absurd)
	require.Less(t, middle(by[3].mass), 0.006)
	require.Less(t, most(by[3].mass), 0.03)
	require.Less(t, middle(by[3].left), middle(by[0].left))
	require.Less(t, most(by[3].left), 0.4)
	require.InDelta(t, 0.87, float64(by[3].held)/float64(by[3].of), 0.11)
}

func middle(sorted []float64) float64 { return sorted[len(sorted)/2] }

func most(sorted []float64) float64 { return sorted[len(sorted)*9/10] }

// When all goes as thought, and is told in time, the bowl comes when it was said to come, all the
// way.
func TestTheClockDoesNotJump(t *testing.T) {
	for name, p := range cooksPlans(t) {
		k := asThought(p)
		k.beginJobs()
		said, first := 0.0, true
		for n := range k.told {
			if n > 0 && k.ends[k.told[n-1].Step] > 5*24*60 {
				continue
			}
			minute := 0.0
			if n > 0 {
				minute = k.told[n-1].At.Sub(lit).Minutes() + 0.01
			}
			s, _, _ := k.at(minute, nil)
			whole := learn.Follow(&s, after(minute))
			clock := learn.ClockOf(&s, &whole, after(minute))
			bowl := clock.Bowl(whole.Forecast).Sub(lit).Minutes()
			if !first && math.Abs(bowl-said) > 2+0.02*said {
				do := p.Steps[min(s.Step, len(p.Steps)-1)].Do
				t.Errorf("%s: before step %d (%s) the bowl comes at %.1f, not at %.1f", name, s.Step, do, bowl, said)
				break
			}
			if first {
				said, first = bowl, false
			}
		}
	}
}

// oddities says what no cook would believe.
func oddities(p *plan.Plan, s *cook.State, l *learn.Live) string {
	pot := p.Pots[s.Pot()]
	if !s.IsLit(s.Pot()) {
		return "" // nothing is shown of it
	}
	switch {
	case math.IsNaN(float64(l.Mass)) || l.Mass <= 0 && !s.Done():
		return fmt.Sprintf("%.0f g in the pot", float64(l.Mass))
	case float64(l.Celsius) > 125 && !browned(p), l.Celsius < 0:
		return fmt.Sprintf("%.0f °C", float64(l.Celsius))
	case l.Level > 1.5*pot.HeightMM:
		return fmt.Sprintf("%.0f mm in a pot of %.0f", float64(l.Level), float64(pot.HeightMM))
	case l.Power.Factor < 0.3 || l.Power.Factor > 2.2:
		return fmt.Sprintf("a burner of %.0f %%", 100*l.Power.Factor)
	}
	return ""
}

func browned(p *plan.Plan) bool {
	return slices.ContainsFunc(p.Steps, func(s plan.Step) bool {
		return s.Do == plan.Caramel || s.Fat != nil || slices.ContainsFunc(s.Items, func(i plan.Item) bool {
			return strings.Contains(i.Material, "ghee") || strings.Contains(i.Material, "butter")
		})
	})
}
