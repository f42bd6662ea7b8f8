package learn_test

import (
	"fmt"
	"math"
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

const document = `{"format":"kirdu-plan/1","name":"x",
	"pots":{"main":{"shape":"straight","diameter_mm":200,"height_mm":110,"mass_g":1000}},"steps":[
{"do":"add","items":[{"material":"milk-whole","amount":"1.2 l"},{"material":"rice-short","amount":"100 g"}]},
{"do":"heat","flame":"high","until":{"boil":true}},
{"do":"heat","flame":"medium","until":{"remaining_pct":70}},
{"do":"add","items":[{"material":"sugar-white","amount":"95 g"}]},
{"do":"heat","flame":"low","until":{"minutes":5}}]}`

var lit = time.Date(2026, 11, 21, 17, 30, 0, 0, time.UTC)

func read(t testing.TB) *plan.Plan {
	t.Helper()
	p, err := plan.Read([]byte(document))
	require.NoError(t, err)
	return p
}

// truth is how the plan really goes over a burner that gives so much of what
// was thought.
func truth(p *plan.Plan, power float64) *forecast.Forecast {
	really := p.Clone()
	really.Calibration.Evaporation = &plan.Learnt{Value: power}
	return forecast.Run(really, forecast.Options{NominalOnly: true})
}

func after(minutes float64) time.Time { return lit.Add(time.Duration(minutes * float64(time.Minute))) }

// follow is a cook at the mark's step, having weighed at some minutes.
func follow(p *plan.Plan, really *forecast.Forecast, error_ float64, now float64, weighed ...float64) learn.Live {
	events := []cook.Event{{Kind: cook.Next, At: lit, Step: 0}, {Kind: cook.Next, At: after(really.Steps[1].EndMin), Step: 1}}
	for i, minute := range weighed {
		mass := numeric.Interpolate(really.Curve.Minute, really.Curve.MassG, minute)
		sign := float64(1 - 2*(i%2))
		events = append(events, cook.Event{Kind: cook.Weighed, At: after(minute), Mass: measure.Gram(mass + sign*error_)})
	}
	s := learn.LogOf(p, lit, events).Fold()
	return learn.Follow(&s, after(now))
}

func markEnd(f *forecast.Forecast) float64 { return f.Steps[2].EndMin }

// TestOneWeighInFindsAWeakBurner is a cook whose burner gives 20 % less.
func TestOneWeighInFindsAWeakBurner(t *testing.T) {
	p := read(t)
	really := truth(p, 0.8)
	planned := forecast.Run(p, forecast.Options{NominalOnly: true})
	end := markEnd(really)
	half := end / 2
	live := follow(p, really, 6, half, half)
	before := math.Abs(markEnd(planned)/end - 1)
	afterwards := math.Abs(markEnd(live.Forecast)/end - 1)
	require.Greater(t, before, 0.15)
	require.Less(t, afterwards, 0.05, "within a twentieth after one weigh-in half-way")
	t.Logf("the mark is missed by %.0f %% before, by %.1f %% after one weigh-in half-way", 100*before, 100*afterwards)
	require.InDelta(t, 0.8, live.Power.Factor, 0.04)
	require.Less(t, live.Power.SD, 0.1)
	require.InDelta(t, 0.8*495/2257*60-1.5, live.Rate, 0.6, "g a minute over the medium flame, the room's share taken off")
	r := live.Forecast.Time.TotalMin
	require.True(t, really.Time.TotalMin.Value >= r.Low && really.Time.TotalMin.Value <= r.High)
}

func TestBoilAloneTeaches(t *testing.T) {
	p := read(t)
	for _, power := range []float64{0.75, 1, 1.25} {
		really := truth(p, power)
		live := follow(p, really, 0, really.Steps[1].EndMin+1)
		require.InDelta(t, power, live.Power.Factor, 0.12, "%v", power)
	}
}

func TestDipIsWorthLessThanTheScale(t *testing.T) {
	p := read(t)
	really := truth(p, 0.85)
	minute := markEnd(really) / 2
	level := numeric.Interpolate(really.Curve.Minute, really.Curve.LevelMM, minute)
	begin := []cook.Event{{Kind: cook.Next, At: lit, Step: 0}, {Kind: cook.Next, At: after(really.Steps[1].EndMin), Step: 1}}
	dipped := learn.LogOf(p, lit, append(begin, cook.Event{Kind: cook.Dipped, At: after(minute), MM: measure.Millimetre(level)})).Fold()
	live := learn.Follow(&dipped, after(minute))
	require.InDelta(t, 0.85, live.Power.Factor, 0.08)
	require.Greater(t, live.Power.SD, follow(p, really, 0, minute, minute).Power.SD)
}

func TestLateReadingsCountAtTheirTime(t *testing.T) {
	p := read(t)
	really := truth(p, 0.9)
	inOrder := follow(p, really, 5, 30, 18, 28)
	late := follow(p, really, -5, 30, 28, 18) // the first waited on the phone
	require.InDelta(t, inOrder.Power.Factor, late.Power.Factor, 0.02)
	require.InDelta(t, float64(inOrder.Mass), float64(late.Mass), 15)
}

func TestNothingSeenLeavesThePlan(t *testing.T) {
	p := read(t)
	s := learn.LogOf(p, lit, nil).Fold()
	live := learn.Follow(&s, after(1))
	require.InDelta(t, 1, live.Power.Factor, 1e-9)
	require.InDelta(t, 0.20, live.Power.SD, 1e-9)
	require.Zero(t, live.Now)
}

func TestInterpolate(t *testing.T) {
	xs, ys := []float64{0, 10, 10, 20}, []float64{0, 100, 200, 300}
	for x, want := range map[float64]float64{-5: 0, 0: 0, 5: 50, 10: 200, 15: 250, 99: 300} {
		require.InDelta(t, want, numeric.Interpolate(xs, ys, x), 1e-9, fmt.Sprint(x))
	}
	require.Zero(t, numeric.Interpolate(nil, nil, 3))
}

func BenchmarkFollow(b *testing.B) {
	p := read(b)
	really := truth(p, 0.8)
	for b.Loop() {
		follow(p, really, 5, 30, 20, 28)
	}
}

// TestManyKitchens simulates cooks over burners drawn across the spread of
// untested ones, whose grain and pot also differ from the model, and compares
// the predicted minute of the mark with the true one.
func TestManyKitchens(t *testing.T) {
	p := read(t)
	planned := markEnd(forecast.Run(p, forecast.Options{NominalOnly: true}))
	var before, afterOne, afterTwo []float64
	const kitchens = 20
	for k := range kitchens {
		z := math.Sqrt2 * math.Erfinv(2*(float64(k)+0.5)/kitchens-1)
		really := p.Clone()
		really.Calibration.Evaporation = &plan.Learnt{Value: 1 + 0.25*z}
		really.Calibration.CookTime = map[string]plan.Learnt{"rice-short": {Value: 1 + 0.1*math.Sin(float64(k))}}
		really.Kitchen.AmbientC += measure.Celsius(6 * math.Cos(float64(k)))
		reality := forecast.Run(really, forecast.Options{NominalOnly: true})
		end := markEnd(reality)
		miss := func(minute float64) float64 { return math.Abs(minute/end - 1) }
		before = append(before, miss(planned))
		half := (reality.Steps[1].EndMin + end) / 2
		afterOne = append(afterOne, miss(markEnd(follow(p, reality, 8, half, half).Forecast)))
		late := end * 0.85
		afterTwo = append(afterTwo, miss(markEnd(follow(p, reality, 8, late, half, late).Forecast)))
	}
	t.Logf("median miss of the mark: planned %.1f %%, after one weigh-in %.1f %%, after two %.1f %%",
		100*median(before), 100*median(afterOne), 100*median(afterTwo))
	require.Less(t, median(afterOne), 0.1)
	require.Less(t, median(afterOne), median(before)/3)
	require.LessOrEqual(t, median(afterTwo), median(afterOne)+0.01)
}

func median(values []float64) float64 {
	sorted := slices.Sorted(slices.Values(values))
	return sorted[len(sorted)/2]
}

// look is a cook at the mark's step who looked at it at some minutes.
func look(p *plan.Plan, really *forecast.Forecast, now float64, looks ...cook.Event) learn.Live {
	events := []cook.Event{{Kind: cook.Next, At: lit, Step: 0}, {Kind: cook.Next, At: after(really.Steps[1].EndMin), Step: 1}}
	s := learn.LogOf(p, lit, append(events, looks...)).Fold()
	return learn.Follow(&s, after(now))
}

// A grain that is slower than thought is found out between the fingers, one
// that is as thought is left alone, and each look narrows the range.
func TestFingersFindASlowGrain(t *testing.T) {
	p := read(t)
	slow := p.Clone()
	slow.Calibration.CookTime = map[string]plan.Learnt{"rice-short": {Value: 1.25}}
	really := forecast.Run(slow, forecast.Options{NominalOnly: true})
	felt := func(minute float64) cook.Event {
		done := numeric.Interpolate(really.Curve.Minute, really.Curve.Doneness["rice-short"], minute)
		return cook.Event{Kind: cook.Felt, At: after(minute), Part: "rice-short", Value: done}
	}
	truth := really.Doneness["rice-short"].Value
	none := look(p, really, 20)
	once := look(p, really, 20, felt(18))
	often := look(p, really, 26, felt(18), felt(22), felt(25))
	off := func(l learn.Live) float64 { return math.Abs(l.Forecast.Doneness["rice-short"].Value - truth) }
	require.Less(t, off(once), off(none))
	require.Less(t, off(often), off(once))
	require.Greater(t, often.Cook.Factor, 1.1)
	require.Less(t, often.Cook.SD, once.Cook.SD)
	width := func(l learn.Live) float64 {
		r := l.Forecast.Doneness["rice-short"]
		return (r.High - r.Low) / r.Value
	}
	require.Less(t, width(often), width(none))
	same := look(p, forecast.Run(p, forecast.Options{NominalOnly: true}), 20, cook.Event{Kind: cook.Felt, At: after(10),
		Part: "nothing of the kind", Value: 1})
	require.InDelta(t, 1, same.Cook.Factor, 1e-9, "a part that is not in the pot teaches nothing")
}

// The spoon moves the thickness as served, and a probe the power, but not one
// that was held into the steam.
func TestSpoonAndProbe(t *testing.T) {
	p := read(t)
	really := truth(p, 0.8)
	none := look(p, really, 22)
	model := none.Grade
	thick := look(p, really, 22, cook.Event{Kind: cook.Spooned, At: after(22), Value: model + 1})
	require.Greater(t, thick.Thicker, 0.2)
	require.Less(t, thick.Thicker, 0.5, "one spoon is not believed all the way")
	require.InDelta(t, thick.Thicker, thick.Forecast.Thickness.Hot.Value-none.Forecast.Thickness.Hot.Value, 0.05)
	cool := numeric.Interpolate(really.Curve.Minute, really.Curve.TempC, 3)
	events := []cook.Event{{Kind: cook.Next, At: lit, Step: 0}, {Kind: cook.Probed, At: after(3), Value: cool}}
	s := learn.LogOf(p, lit, events).Fold()
	probed := learn.Follow(&s, after(4))
	require.Less(t, probed.Power.Factor, 0.97)
	events[1].Value = 200
	s = learn.LogOf(p, lit, events).Fold()
	require.InDelta(t, 1, learn.Follow(&s, after(4)).Power.Factor, 0.3, "one wild reading does not rule")
}

// Whistles tell how strong the flame is, by the first, and how the valve is set,
// by the gaps.
func TestWhistlesTeach(t *testing.T) {
	p, err := plan.Read([]byte(`{"format":"kirdu-plan/1","name":"Lentils",
		"pots":{"main":{"shape":"straight","diameter_mm":200,"height_mm":150}},
"steps":[{"do":"add","items":[{"material":"moong-split","amount":"150 g"},{"material":"water","amount":"600 ml"}]},
	{"do":"pressure","whistles":4},{"do":"heat","flame":"low","until":{"minutes":4}}]}`))
	require.NoError(t, err)
	whistle := func(minute float64) cook.Event { return cook.Event{Kind: cook.Whistled, At: after(minute)} }
	at := func(now float64, heard ...cook.Event) learn.Live {
		s := learn.LogOf(p, lit, append([]cook.Event{{Kind: cook.Next, At: lit, Step: 0}}, heard...)).Fold()
		return learn.Follow(&s, after(now))
	}
	thought := at(5)
	require.Zero(t, thought.Whistle)
	heats := thought.Forecast.Steps[1].EndMin
	late := at(14, whistle(14))
	require.Less(t, late.Power.Factor, 0.95, "it took its time to the first")
	require.Greater(t, late.Forecast.Steps[1].EndMin, heats+1)
	slow := at(22, whistle(14), whistle(18), whistle(22))
	require.Greater(t, float64(slow.Whistle), 3.2)
	require.Greater(t, slow.Forecast.Steps[1].EndMin, late.Forecast.Steps[1].EndMin+2)
}

// A kitchen that is simulated, with a scale that errs a little; each reading is of the
// moment.
type kitchen struct {
	p      *plan.Plan
	really *forecast.Forecast
	events []cook.Event
}

func newKitchen(t *testing.T, power float64, steps string) *kitchen {
	t.Helper()
	p, err := plan.Read([]byte(`{"format":"kirdu-plan/1","name":"x","pots":{"main":{"shape":"straight","diameter_mm":220,"height_mm":120}},
		"steps":[` + steps + `]}`))
	require.NoError(t, err)
	k := &kitchen{p: p, really: truth(p, power)}
	for i := 1; i < len(p.Steps); i++ {
		k.events = append(k.events, cook.Event{Kind: cook.Next, At: after(k.really.Steps[i].StartMin), Step: i - 1})
	}
	return k
}

func (k *kitchen) mass(minute float64) float64 {
	return numeric.Interpolate(k.really.Curve.Minute, k.really.Curve.MassG, minute)
}

// at follows the cook up to a minute with what was told until then.
func (k *kitchen) at(now float64, told ...cook.Event) learn.Live {
	var events []cook.Event
	for _, e := range append(slices.Clone(k.events), told...) {
		if !e.At.After(after(now)) {
			events = append(events, e)
		}
	}
	slices.SortStableFunc(events, func(a, b cook.Event) int { return a.At.Compare(b.At) })
	s := learn.LogOf(k.p, lit, events).Fold()
	return learn.Follow(&s, after(now))
}

func weighed(minute, grams float64) cook.Event {
	return cook.Event{Kind: cook.Weighed, At: after(minute), Mass: measure.Gram(grams)}
}

const drained = `{"do":"add","items":[{"material":"water","amount":"1 l"},{"material":"sago-small","amount":"80 g"}]},
	{"do":"heat","flame":"high","until":{"boil":true}},{"do":"heat","flame":"simmer","until":{"minutes":12}},{"do":"drain","minutes":1},
	{"do":"add","items":[{"material":"milk-whole","amount":"600 ml"}]},{"do":"heat","flame":"medium","until":{"boil":true}},
	{"do":"heat","flame":"medium","until":{"minutes":15}}`

// A weigh-in just after draining, and one after the milk went in, is believed; neither
// makes another burner of it.
func TestADrainedPotIsBelieved(t *testing.T) {
	k := newKitchen(t, 0.9, drained)
	poured, milk := k.really.Steps[3].EndMin, k.really.Steps[5].StartMin
	live := k.at(milk+3, weighed(poured-0.02, k.mass(poured-0.02)+5), weighed(milk+2, k.mass(milk+2)-6))
	require.Empty(t, live.Doubted)
	require.InDelta(t, k.mass(milk+3), float64(live.Mass), 25)
	require.InDelta(t, 0.95, live.Power.Factor, 0.3)
}

// What no burner can boil away is a slip of the hand, and so is more than went in.
func TestWhatCannotBeIsNotBelieved(t *testing.T) {
	k := newKitchen(t, 1, `{"do":"add","items":[{"material":"milk-whole","amount":"1.2 l"},{"material":"rice-short","amount":"90 g"}]},
		{"do":"heat","flame":"high","until":{"boil":true}},{"do":"heat","flame":"medium","until":{"remaining_pct":70}}`)
	boil := k.really.Steps[1].EndMin
	right := weighed(boil+4, k.mass(boil+4))
	plain := k.at(boil+8, right)
	slip := k.at(boil+8, right, weighed(boil+7, k.mass(boil+7)-300))
	require.Len(t, slip.Doubted, 1)
	require.False(t, slip.Doubted[0].More)
	require.InDelta(t, plain.Forecast.Time.TotalMin.Value, slip.Forecast.Time.TotalMin.Value, 0.5, "as if it had not been told")
	heaped := k.at(boil+8, right, weighed(boil+7, k.mass(boil+7)+300))
	require.Len(t, heaped.Doubted, 1)
	require.True(t, heaped.Doubted[0].More)
	// However much it seems to lose, no more power is believed than the burner has.
	fierce := k.at(boil+12, weighed(boil+4, k.mass(boil+4)-60), weighed(boil+8, k.mass(boil+8)-130), weighed(boil+12, k.mass(boil+12)-200))
	most := float64(k.p.Burner.Most()) / (2200 * 0.45)
	require.LessOrEqual(t, fierce.Power.Factor, most+1e-9)
	require.Greater(t, fierce.Power.Factor, 1.1)
}

// Two readings in a minute are two readings of one pot, and no course of it.
func TestTwoReadingsInAMinute(t *testing.T) {
	k := newKitchen(t, 1, `{"do":"add","items":[{"material":"milk-whole","amount":"1.2 l"},{"material":"rice-short","amount":"90 g"}]},
		{"do":"heat","flame":"high","until":{"boil":true}},{"do":"heat","flame":"medium","until":{"remaining_pct":70}}`)
	boil := k.really.Steps[1].EndMin
	once := k.at(boil+8, weighed(boil+7, k.mass(boil+7)))
	twice := k.at(boil+8, weighed(boil+6.8, k.mass(boil+6.8)+15), weighed(boil+7.2, k.mass(boil+7.2)-15))
	require.InDelta(t, once.Power.Factor, twice.Power.Factor, 0.06)
	require.InDelta(t, once.Forecast.Time.TotalMin.Value, twice.Forecast.Time.TotalMin.Value, 2)
}

// A flame that is told lower is another flame, not a weaker burner.
func TestAFlameToldLower(t *testing.T) {
	k := newKitchen(t, 1, `{"do":"add","items":[{"material":"milk-whole","amount":"1.2 l"},{"material":"rice-short","amount":"90 g"}]},
		{"do":"heat","flame":"high","until":{"boil":true}},{"do":"heat","flame":"high","until":{"remaining_pct":70}}`)
	boil := k.really.Steps[1].EndMin
	turned := cook.Event{Kind: cook.Turned, At: after(boil + 4), Value: 50}
	eye := cook.Event{Kind: cook.Turned, At: after(boil + 4), Part: "simmer"}
	// What is in the pot then: 4 min of the full flame, 6 of half of it.
	lower := k.p.Clone()
	four, six := measure.Minute(4), measure.Minute(6)
	lower.Steps[2].Until = &plan.Until{Minutes: &four}
	half := lower.Steps[2]
	percent := 50.0
	half.Flame, half.FlamePct, half.Until = "", &percent, &plan.Until{Minutes: &six}
	lower.Steps = append(lower.Steps, half)
	truly := forecast.Run(lower, forecast.Options{NominalOnly: true})
	mass := *truly.Steps[3].MassG
	live := k.at(boil+10.1, turned, weighed(boil+10, mass))
	require.Empty(t, live.Doubted)
	require.InDelta(t, 1, live.Power.Factor, 0.06)
	require.InDelta(t, mass, float64(live.Mass), 12)
	simmering := k.at(boil+6, eye)
	require.InDelta(t, 5, simmering.Rate, 1.5, "g a minute when it just simmers")
}
