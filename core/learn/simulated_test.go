package learn_test

import (
	"flag"
	"math"
	"math/rand/v2"
	"os"
	"path/filepath"
	"slices"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"kirdu/core/cook"
	"kirdu/core/forecast"
	"kirdu/core/learn"
	"kirdu/core/measure"
	"kirdu/core/numeric"
	"kirdu/core/plan"
)

var many = flag.Bool("many", false, "simulate 240 cooks instead of 64")

// reduced are the plans that are reduced to a mark, whose end is not on the clock.
func reduced(t *testing.T) []*plan.Plan {
	t.Helper()
	names, err := filepath.Glob("../../demo/plans/*.kirdu.json")
	require.NoError(t, err)
	more, err := filepath.Glob("../forecast/testdata/m*.kirdu.json")
	require.NoError(t, err)
	var all []*plan.Plan
	for _, name := range append(names, append(more, "../forecast/testdata/sheet-flakes-milk.kirdu.json",
		"../mend/testdata/named/compote-spooned-over.kirdu.json")...) {
		data, err := os.ReadFile(name)
		require.NoError(t, err)
		p, err := plan.Read(data)
		require.NoError(t, err)
		p.ServeAs(plan.Hot)
		if p, err = plan.Reread(p); err == nil && len(p.Pots) <= 2 &&
			slices.ContainsFunc(p.Steps, func(s plan.Step) bool { return s.Until != nil && s.Until.RemainingPct != nil }) {
			all = append(all, p)
		}
	}
	return all
}

// TestSimulatedCooks follows cooks whose kitchen is not the model's: another
// power, air, tap and cooking times, another heat loss by the pot's height, and a
// scale that is leant on. What is predicted of the end gets better with each
// weigh-in, and the range holds it.
func TestSimulatedCooks(t *testing.T) {
	plans := reduced(t)
	require.GreaterOrEqual(t, len(plans), 8)
	random := rand.New(rand.NewPCG(17, 4))
	count := 64
	if *many {
		count = 240
	}
	errors := map[int][]float64{}
	inside := map[int]int{}
	for k := range count {
		p := plans[k%len(plans)]
		truth := p.Clone()
		power := max(0.4, 1+0.25*random.NormFloat64())
		truth.Calibration.Evaporation = &plan.Learnt{Value: power}
		truth.Kitchen.AmbientC += measure.Celsius(4 * random.NormFloat64())
		truth.Kitchen.HumidityPct = 30 + 50*random.Float64()
		for i := range truth.Steps {
			for _, item := range truth.Steps[i].Items {
				if m, ok := truth.Pantry().Material(item.Material); ok && m.Kinetics != nil {
					if truth.Calibration.CookTime == nil {
						truth.Calibration.CookTime = map[string]plan.Learnt{}
					}
					truth.Calibration.CookTime[m.Slug] = plan.Learnt{Value: math.Exp(0.15 * random.NormFloat64())}
				}
			}
		}
		pot := truth.Pots[plan.MainPot]
		pot.HeightMM *= measure.Millimetre(1 + 0.15*random.Float64()) // more wall to lose heat by
		truth.Pots[plan.MainPot] = pot
		really := forecast.Run(truth, forecast.Options{NominalOnly: true})
		mark := slices.IndexFunc(p.Steps, func(s plan.Step) bool { return s.Until != nil && s.Until.RemainingPct != nil })
		from, to := really.Steps[mark].StartMin, really.Steps[mark].EndMin
		if really.Trace[mark].NeverReached || to-from < 4 {
			continue
		}
		zero := lit
		var events []cook.Event
		for i := range mark {
			events = append(events, cook.Event{Kind: cook.Next, At: zero.Add(minutesOf(max(0, really.Steps[i].EndMin))), Step: i})
		}
		predict := func(stage int, now float64) {
			s := learn.LogOf(p, zero, events).Fold()
			live := learn.Follow(&s, zero.Add(minutesOf(now)))
			end := live.Forecast.Time.TotalMin
			for _, m := range live.Forecast.Marks {
				if m.Step == mark {
					end = m.Minute
					break
				}
			}
			errors[stage] = append(errors[stage], math.Abs(end.Value-to)/to)
			if end.Low <= to && to <= end.High {
				inside[stage]++
			}
		}
		predictStart(t, p, mark, to, errors, inside)
		for n, share := range []float64{0.25, 0.5, 0.75} {
			minute := from + share*(to-from)
			mass := numeric.Interpolate(really.Curve.Minute, really.Curve.MassG, minute) + 8*random.NormFloat64()
			events = append(events, cook.Event{Kind: cook.Weighed, At: zero.Add(minutesOf(minute)), Mass: measure.Gram(mass)})
			predict(n+1, minute)
		}
	}
	for _, stage := range []int{0, 1, 3} {
		slices.Sort(errors[stage])
		n := len(errors[stage])
		t.Logf("after %d weigh-ins: median error of the end %.1f %%, the range holds %.0f %% of %d", stage, 100*errors[stage][n/2],
			100*float64(inside[stage])/float64(n), n)
	}
	median := func(stage int) float64 { return errors[stage][len(errors[stage])/2] }
	require.Less(t, median(3), 0.06)
	require.Less(t, median(3), median(0)/2)
	for _, stage := range []int{0, 1, 3} {
		held := float64(inside[stage]) / float64(len(errors[stage]))
		require.InDelta(t, 0.81, held, 0.12, "of ranges that hold eight in ten, after %d weigh-ins", stage)
	}
}

// predictStart is what the plan says before the flame is lit.
func predictStart(t *testing.T, p *plan.Plan, mark int, to float64, errors map[int][]float64, inside map[int]int) {
	t.Helper()
	f := forecast.Run(p, forecast.Options{})
	for _, m := range f.Marks {
		if m.Step == mark {
			errors[0] = append(errors[0], math.Abs(m.Minute.Value-to)/to)
			if m.Minute.Low <= to && to <= m.Minute.High {
				inside[0]++
			}
			return
		}
	}
}

func minutesOf(m float64) time.Duration { return time.Duration(m * float64(time.Minute)) }
