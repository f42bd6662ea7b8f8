package learn_test

import (
	"math"
	"math/rand/v2"
	"slices"
	"testing"

	"github.com/stretchr/testify/require"

	"kirdu/core/cook"
	"kirdu/core/forecast"
	"kirdu/core/learn"
	"kirdu/core/measure"
	"kirdu/core/numeric"
	"kirdu/core/plan"
	"kirdu/core/vessel"
)

// batchPlan is short-grain rice in milk over a burner that has a name.
func batchPlan(t testing.TB) *plan.Plan {
	p, err := plan.Read([]byte(`{"format":"kirdu-plan/1","name":"Rice","serves":6,
		"pots":{"main":{"shape":"straight","diameter_mm":220,"height_mm":130,"name":"the pot"}},"burner":{"name":"front"},
"steps":[{"do":"add","items":[{"material":"milk-whole","amount":"1.3 l"},{"material":"rice-short","amount":"90 g"}]},
	{"do":"heat","flame":"high","until":{"boil":true}},
{"do":"heat","flame":"medium","until":{"remaining_pct":75}},{"do":"add","items":[{"material":"sugar-white","amount":"90 g"}]},
	{"do":"heat","flame":"low","until":{"minutes":5}}]}`))
	require.NoError(t, err)
	return p
}

// inKitchen is how a plan really goes where the burner is a quarter weaker and the
// grain cooks a fifth slower, in other air and with more wall than is thought.
func inKitchen(p *plan.Plan, random *rand.Rand) *plan.Plan {
	truth := p.Clone()
	truth.Calibration = plan.Calibration{Evaporation: &plan.Learnt{Value: 0.75 * math.Exp(0.05*random.NormFloat64())},
		CookTime: map[string]plan.Learnt{"rice-short": {Value: 1.2 * math.Exp(0.05*random.NormFloat64())}}}
	truth.Kitchen.AmbientC += measure.Celsius(3 * random.NormFloat64())
	pot := truth.Pots[plan.MainPot]
	pot.HeightMM *= 1.1
	truth.Pots[plan.MainPot] = pot
	return truth
}

// cooked is the log of a batch: taps at their time, three weigh-ins, a grain felt.
func cooked(p, truth *plan.Plan, random *rand.Rand) cook.State {
	really := forecast.Run(truth, forecast.Options{NominalOnly: true})
	var events []cook.Event
	from, to := really.Steps[2].StartMin, really.Steps[2].EndMin
	for i := range p.Steps {
		if i == 3 {
			for _, share := range []float64{0.3, 0.6, 0.9} {
				minute := from + share*(to-from)
				mass := numeric.Interpolate(really.Curve.Minute, really.Curve.MassG, minute) + 8*random.NormFloat64()
				events = append(events, cook.Event{Kind: cook.Weighed, At: after(minute), Mass: measure.Gram(mass)})
			}
			minute := from + (0.1+0.6*random.Float64())*(to-from)
			felt := numeric.Interpolate(really.Curve.Minute, really.Curve.Doneness["rice-short"], minute)
			nearest := slices.MinFunc(learn.GrainAnswers, func(a, b float64) int {
				return int(math.Copysign(1, math.Abs(math.Log(a/felt))-math.Abs(math.Log(b/felt))))
			})
			events = append(events, cook.Event{Kind: cook.Felt, At: after(minute), Part: "rice-short", Value: nearest})
		}
		events = append(events, cook.Event{Kind: cook.Next, At: after(max(0, really.Steps[i].EndMin)), Step: i})
	}
	events = append(events, cook.Event{Kind: cook.Finished, At: after(really.Steps[len(p.Steps)-1].EndMin)})
	return learn.LogOf(p, lit, events).Fold()
}

// TestBatchesMakeForecastsBetter: twenty batches in a kitchen that is not as
// assumed. The error of time and doneness after none, one, three and ten, and with
// an absurd batch among them.
func TestBatchesMakeForecastsBetter(t *testing.T) {
	timeError, doneError := map[int][]float64{}, map[int][]float64{}
	var absurd []float64
	const kitchens = 12
	for k := range kitchens {
		random := rand.New(rand.NewPCG(uint64(k), 11))
		p := batchPlan(t)
		var batches [][]learn.Observation
		judge := func(n int, with [][]learn.Observation) float64 {
			planned := p.Clone()
			learnt := learn.Combine(with)
			learnt.Into(planned)
			f := forecast.Run(planned, forecast.Options{NominalOnly: true})
			really := forecast.Run(inKitchen(p, random), forecast.Options{NominalOnly: true})
			off := math.Abs(f.Steps[2].EndMin-really.Steps[2].EndMin) / really.Steps[2].EndMin
			if n >= 0 {
				timeError[n] = append(timeError[n], off)
				doneError[n] = append(doneError[n], math.Abs(f.Doneness["rice-short"].Value/really.Doneness["rice-short"].Value-1))
			}
			return off
		}
		for n := range 20 {
			if slices.Contains([]int{0, 1, 3, 10}, n) {
				judge(n, batches)
			}
			if n == 10 {
				// Somebody forgot to take the pot off the scale, or lit another flame.
				odd := []learn.Observation{{Quantity: learn.Power, Key: "front", Pot: "the pot", Mean: 0.9, SD: 0.05},
					{Quantity: learn.CookTime, Key: "rice-short", Mean: -1, SD: 0.1}}
				absurd = append(absurd, judge(-1, append(slices.Clone(batches), odd)))
			}
			s := cooked(p, inKitchen(p, random), random)
			batches = append(batches, learn.FromBatch(p, &s, learn.Verdict{}))
		}
	}
	for _, n := range []int{0, 1, 3, 10} {
		t.Logf("after %d batches: time off by %.1f %%, doneness by %.1f %% (medians of %d kitchens)", n, 100*median(timeError[n]),
			100*median(doneError[n]), kitchens)
	}
	t.Logf("after 10 and an absurd one: time off by %.1f %%", 100*median(absurd))
	require.Less(t, median(timeError[10]), median(timeError[0])/2)
	require.Less(t, median(timeError[3]), median(timeError[0]))
	// Before anything is learnt the two errors cancel: a weak flame gives the slow
	// grain its time. What is left once the flame is known is learnt by the fingers.
	require.Less(t, median(doneError[10]), median(doneError[1])*0.7)
	require.Less(t, median(doneError[10]), 0.12)
	require.Less(t, median(absurd), median(timeError[10])+0.04, "an odd batch does not ruin it")
}

func TestFewBatchesMoveLittle(t *testing.T) {
	one := learn.Observation{Quantity: learn.Power, Key: "front", Pot: "the pot", Mean: math.Log(0.7), SD: 0.15}
	l := learn.Combine([][]learn.Observation{{one}})
	require.Greater(t, l.Burners["front"].Value*l.Pots["the pot"].Value, 0.72)
	require.Less(t, l.Burners["front"].Value, 0.95)
	many := learn.Combine([][]learn.Observation{{one}, {one}, {one}, {one}, {one}, {one}})
	require.Less(t, many.Burners["front"].SD, l.Burners["front"].SD)
	require.Equal(t, 6, many.Burners["front"].Batches)

	// Two pots on one burner: what both say is the burner's, what differs is the pots'.
	wide := learn.Observation{Quantity: learn.Power, Key: "front", Pot: "wide", Mean: math.Log(0.8) + 0.06, SD: 0.05}
	tall := learn.Observation{Quantity: learn.Power, Key: "front", Pot: "tall", Mean: math.Log(0.8) - 0.06, SD: 0.05}
	l = learn.Combine([][]learn.Observation{{wide}, {tall}, {wide}, {tall}, {wide}, {tall}, {wide}, {tall}})
	require.InDelta(t, 0.8, l.Burners["front"].Value, 0.02)
	require.Greater(t, l.Pots["wide"].Value, l.Pots["tall"].Value+0.05)

	taste := 1.0
	p := batchPlan(t)
	s := cooked(p, p, rand.New(rand.NewPCG(1, 1)))
	var list [][]learn.Observation
	for range 4 {
		list = append(list, learn.FromBatch(p, &s, learn.Verdict{Grade: 5, Eaten: plan.Hot, Taste: &taste}))
	}
	l = learn.Combine(list)
	require.Less(t, l.Sweet.Value, -0.5, "too sweet four times: they like less")
	require.NotNil(t, l.Thickness)
	planned := p.Clone()
	l.Into(planned)
	require.NotNil(t, planned.Calibration.Evaporation)
	require.InDelta(t, l.Thickness.Value, planned.Calibration.ThicknessOffset.Value, 1e-9)
	require.Contains(t, planned.Calibration.CookTime, "rice-short")
	own := p.Clone()
	own.Calibration.Evaporation = &plan.Learnt{Value: 0.5}
	l.Into(own)
	require.InDelta(t, 0.5, own.Calibration.Evaporation.Value, 0, "a plan's own figure stays")
	stranger := p.Clone()
	stranger.Burner = vessel.DefaultBurner()
	fresh := learn.Combine(nil)
	fresh.Into(stranger)
	require.Nil(t, stranger.Calibration.Evaporation)
	r := l.Burners["front"].Range(true)
	require.Less(t, r.Low, r.Value)
}
