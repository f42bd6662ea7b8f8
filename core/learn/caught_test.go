package learn_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/require"

	"kirdu/core/cook"
	"kirdu/core/forecast"
	"kirdu/core/learn"
	"kirdu/core/measure"
	"kirdu/core/plan"
)

const riceInMilk = `{"format":"kirdu-plan/1","name":"x","pots":{"main":{"shape":"straight","diameter_mm":220,"height_mm":120}},"steps":[
	{"do":"add","items":[{"material":"milk-whole","amount":"1 l"},{"material":"rice-short","amount":"80 g"}]},
	{"do":"heat","flame":"high","until":{"boil":true}},
	{"do":"heat","flame":"simmer","until":{"minutes":20}},
	{"do":"heat","flame":"medium","until":{"remaining_pct":75}},
	{"do":"add","items":[{"material":"sugar-white","amount":"80 g"}]},
	{"do":"heat","flame":"simmer","until":{"minutes":5}}]}`

func readText(t *testing.T, text string) *plan.Plan {
	t.Helper()
	p, err := plan.Read([]byte(text))
	require.NoError(t, err)
	return p
}

func tap(step int, minute float64) cook.Event {
	return cook.Event{ID: string(rune('a' + step)), Kind: cook.Next, Step: step, At: after(minute)}
}

// Tapped through all at once, the pot is as it was planned to be by then, and the batch teaches
// nothing of the burner.
func TestTappedThroughAtOnce(t *testing.T) {
	p := readText(t, riceInMilk)
	f := forecast.Run(p, forecast.Options{NominalOnly: true})
	events := []cook.Event{tap(0, 0.05), tap(1, 0.1), tap(2, 0.15), tap(3, 0.2), tap(4, 0.25)}
	s := learn.LogOf(p, lit, events).Fold()
	require.Equal(t, 5, s.Step)
	live := learn.Follow(&s, after(0.3))
	require.InDelta(t, *f.Steps[4].MassG, float64(live.Mass), 0.02**f.Steps[4].MassG)
	require.InDelta(t, f.Doneness["rice-short"].Value, live.Forecast.Doneness["rice-short"].Value, 0.05)
	require.InDelta(t, 1, live.Power.Factor, 0.01)
	events = append(events, tap(5, 0.3), cook.Event{Kind: cook.Finished, At: after(0.4)})
	s = learn.LogOf(p, lit, events).Fold()
	for _, o := range learn.FromBatch(p, &s, learn.Verdict{}) {
		require.NotEqual(t, learn.Power, o.Quantity)
	}
}

// What is caught up with is taken from the step that was tapped too late: the pot was no longer
// on the flame than it was.
func TestCaughtUpLate(t *testing.T) {
	p := readText(t, riceInMilk)
	f := forecast.Run(p, forecast.Options{NominalOnly: true})
	boils := f.Steps[1].EndMin
	s := learn.LogOf(p, lit, []cook.Event{tap(0, 0), tap(1, boils+20), tap(2, boils+20.1)}).Fold()
	require.Equal(t, 3, s.Step)
	require.InDelta(t, boils, float64(s.Lasted(1)), 0.5)
	require.InDelta(t, 20, float64(s.Lasted(2)), 0.5)
	require.True(t, s.Guessed(1) && s.Guessed(2))
	live := learn.Follow(&s, after(boils+20.1))
	require.InDelta(t, *f.Steps[2].MassG, float64(live.Mass), 0.02**f.Steps[2].MassG)
	require.InDelta(t, 1, live.Power.Factor, 0.01)
}

// A tap that was a slip is taken back, and all is as before.
func TestASlipIsTakenBack(t *testing.T) {
	p := readText(t, riceInMilk)
	slip := []cook.Event{tap(0, 0), tap(1, 0.2)}
	s := learn.LogOf(p, lit, slip).Fold()
	require.Greater(t, float64(s.Minute(after(0.2))), 5.0, "it is taken to boil")
	s = learn.LogOf(p, lit, append(slip, cook.Event{Kind: cook.Back, Step: 2, At: after(0.3)})).Fold()
	require.Equal(t, 1, s.Step)
	require.InDelta(t, 0.3, float64(s.Minute(after(0.3))), 0.01)
	require.False(t, s.Guessed(1))
	require.Less(t, float64(learn.Follow(&s, after(0.3)).Celsius), 40.0)
}

// A burner that is strong is no slip, and one boil that was told far too late is not taken for a
// weak one.
func TestOnlyWhatCanBeIsLearntOfTaps(t *testing.T) {
	p := readText(t, riceInMilk)
	boils := forecast.Run(p, forecast.Options{NominalOnly: true}).Steps[1].EndMin
	s := learn.LogOf(p, lit, []cook.Event{tap(0, 0), tap(1, 0.75*boils)}).Fold()
	require.False(t, s.Guessed(1))
	require.Greater(t, learn.Follow(&s, after(boils)).Power.Factor, 1.1)
	s = learn.LogOf(p, lit, []cook.Event{tap(0, 0), tap(1, 4*boils)}).Fold()
	require.InDelta(t, 1, learn.Follow(&s, after(4*boils)).Power.Factor, 0.05)
}

const cookerThenPan = `{"format":"kirdu-plan/1","name":"x","served_from":"pan","pots":{
	"main":{"shape":"straight","diameter_mm":200,"height_mm":150,"mass_g":2100},
	"pan":{"shape":"straight","diameter_mm":260,"height_mm":90,"mass_g":1200}},"steps":[
	{"do":"add","pot":"main","items":[{"material":"milk-whole","amount":"1 l"},{"material":"rice-short","amount":"80 g"}]},
	{"do":"heat","pot":"main","flame":"high","until":{"boil":true}},
	{"do":"heat","pot":"main","flame":"medium","until":{"minutes":30}},
	{"do":"add","pot":"pan","items":[{"pot":"main"}]},
	{"do":"add","pot":"pan","items":[{"material":"sugar-white","amount":"80 g"}]},
	{"do":"heat","pot":"pan","flame":"simmer","until":{"minutes":6}},
	{"do":"rest","pot":"pan","minutes":30}]}`

// Each pot has its own figures: what is weighed in the one counts for it, and for what is poured
// into the other.
func TestEachPotHasItsOwn(t *testing.T) {
	p := readText(t, cookerThenPan)
	f := forecast.Run(p, forecast.Options{NominalOnly: true})
	only := p.Only("main", p.Into("main"))
	require.Len(t, only.Steps, 3)
	inCooker := forecast.Run(only, forecast.Options{NominalOnly: true})
	require.InDelta(t, *f.Steps[2].MassG, *inCooker.Steps[2].MassG, 1)

	boils := inCooker.Steps[1].EndMin
	events := []cook.Event{tap(0, 0), tap(1, boils)}
	s := learn.LogOf(p, lit, events).Fold()
	require.Equal(t, "main", s.Pot())
	cooker, steps := s.Only("main")
	require.Equal(t, []int{0, 1, 2}, steps)
	live := learn.FollowPot(cooker, after(boils+20))
	expected := float64(live.Mass)
	require.InDelta(t, 20+boils, float64(live.Now), 0.1)

	weighed := cook.Event{ID: "w", Kind: cook.Weighed, At: after(boils + 20), Mass: measure.Gram(expected - 90)}
	s = learn.LogOf(p, lit, append(events, weighed)).Fold()
	require.Equal(t, "main", s.Readings[0].Pot)
	cooker, _ = s.Only("main")
	live = learn.FollowPot(cooker, after(boils+20))
	require.InDelta(t, expected-90, float64(live.Mass), 15)
	require.Greater(t, live.Power.Factor, 1.03)

	// What goes on in the cooker is what the pan gets.
	without := learn.Follow(&s, after(boils+20)).Forecast.Yield.MassG.Value
	require.Less(t, without, f.Yield.MassG.Value-60)
	events = append(events, weighed, tap(2, boils+30), tap(3, boils+31), tap(4, boils+31.5))
	s = learn.LogOf(p, lit, events).Fold()
	require.Equal(t, "pan", s.Pot())
	require.Equal(t, []string{"pan"}, s.Lit(), "the cooker is empty")
	pan := learn.Follow(&s, after(boils+33))
	require.Less(t, float64(pan.Mass), *f.Steps[4].MassG-60)
	require.Greater(t, float64(pan.Level), 5.0)

	// A weight in the pan is one of the pan.
	weighed = cook.Event{ID: "x", Kind: cook.Weighed, At: after(boils + 33), Mass: pan.Mass - 40}
	s = learn.LogOf(p, lit, append(events, weighed)).Fold()
	require.InDelta(t, float64(pan.Mass)-40, float64(learn.Follow(&s, after(boils+33)).Mass), 20)
}

// Fingers count at once, for the grain that was felt; a thermometer counts fully; what cannot be
// is asked about.
func TestWhatIsToldIsBelieved(t *testing.T) {
	p := readText(t, riceInMilk)
	f := forecast.Run(p, forecast.Options{NominalOnly: true})
	boils := f.Steps[1].EndMin
	at := func(minute float64, told ...cook.Event) learn.Live {
		s := learn.LogOf(p, lit, append([]cook.Event{tap(0, 0), tap(1, boils)}, told...)).Fold()
		return learn.Follow(&s, after(minute))
	}
	const rice = "rice-short"
	done := at(boils + 12).Doneness[rice]
	soft := at(boils+12, cook.Event{ID: "f", Kind: cook.Felt, Part: rice, Value: 1.9, At: after(boils + 12)})
	require.Less(t, done, 1.0)
	require.Greater(t, soft.Doneness[rice], 1.35, "very soft is very soft")
	require.Greater(t, soft.Forecast.Doneness[rice].Value, at(boils + 12).Forecast.Doneness[rice].Value)

	probe := func(celsius, minute float64) learn.Live {
		s := learn.LogOf(p, lit, []cook.Event{tap(0, 0), {ID: "p", Kind: cook.Probed, Value: celsius, At: after(minute)}}).Fold()
		return learn.Follow(&s, after(minute))
	}
	thought := float64(probe(0, 5).Celsius) // 0 °C is colder than it was
	require.InDelta(t, thought-6, float64(probe(thought-6, 5).Celsius), 0.5)
	wild := probe(140, 2)
	require.Len(t, wild.Doubted, 1)
	require.True(t, wild.Doubted[0].More)
	early := at(boils+0.5, cook.Event{ID: "f", Kind: cook.Felt, Part: rice, Value: 1.9, At: after(1)})
	require.Len(t, early.Doubted, 1)
	require.Equal(t, rice, early.Doubted[0].Part)
}

// What was weighed in a step moves back with it, once.
func TestReadingsMoveWithTheirStep(t *testing.T) {
	p := readText(t, riceInMilk)
	boils := forecast.Run(p, forecast.Options{NominalOnly: true}).Steps[1].EndMin
	weighed := cook.Event{ID: "w", Kind: cook.Weighed, At: after(boils + 4), Mass: 1090}
	s := learn.LogOf(p, lit, []cook.Event{tap(0, 0), tap(1, boils), weighed, tap(2, boils+20), tap(3, boils+20.1)}).Fold()
	require.True(t, s.Guessed(3))
	require.False(t, s.Guessed(2))
	require.InDelta(t, 4, s.Readings[0].At.Sub(s.Spans[2].Begin).Minutes(), 0.01, "four minutes into its step, wherever that lies")
}

// With both pots on their flames, what is read off one is none of the other.
func TestReadingsOfTwoPotsAtOnce(t *testing.T) {
	p := readText(t, `{"format":"kirdu-plan/1","name":"x","served_from":"main","pots":{
	"main":{"shape":"straight","diameter_mm":220,"height_mm":120,"mass_g":1200},
	"side":{"shape":"straight","diameter_mm":160,"height_mm":90,"mass_g":700}},"steps":[
	{"do":"add","items":[{"material":"milk-whole","amount":"1 l"},{"material":"rice-short","amount":"80 g"}]},
	{"do":"heat","flame":"high","until":{"boil":true}},
	{"do":"heat","flame":"simmer","until":{"minutes":30}},
	{"do":"add","pot":"side","items":[{"material":"water","amount":"200 ml"},{"material":"jaggery","amount":"150 g"}]},
	{"do":"heat","pot":"side","flame":"medium","until":{"minutes":8}},
	{"do":"add","items":[{"pot":"side"}]},
	{"do":"heat","flame":"simmer","until":{"minutes":5}}]}`)
	boils := forecast.Run(p, forecast.Options{NominalOnly: true}).Steps[1].EndMin
	began := func(step int) cook.Event {
		return cook.Event{ID: "b" + string(rune('a'+step)), Kind: cook.Began, Step: step, At: after(boils + 20)}
	}
	events := []cook.Event{tap(0, 0), tap(1, boils), tap(3, boils+20), began(4)}
	at := func(told ...cook.Event) learn.Live {
		s := learn.LogOf(p, lit, append(slices.Clone(events), told...)).Fold()
		return learn.Follow(&s, after(boils+24))
	}
	weighed := cook.Event{ID: "w", Kind: cook.Weighed, Pot: "side", Mass: 330, At: after(boils + 24)}
	probed := cook.Event{ID: "p", Kind: cook.Probed, Pot: "side", Value: 70, At: after(boils + 24)}
	without, with := at(), at(weighed, probed)
	require.Empty(t, with.Doubted)
	require.InDelta(t, float64(without.Mass), float64(with.Mass), 20, "the milk is where it was")
	require.InDelta(t, float64(without.Celsius), float64(with.Celsius), 2)
}
