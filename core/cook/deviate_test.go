package cook_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"kirdu/core/cook"
	"kirdu/core/forecast"
	"kirdu/core/learn"
	"kirdu/core/plan"
)

const pudding = `{"format":"kirdu-plan/1","name":"Evening rice","serves":4,
"pots":{"main":{"shape":"straight","diameter_mm":220,"height_mm":130},"pan":{"shape":"straight","diameter_mm":180,"height_mm":60}},
"steps":[
{"do":"soak","name":"grain","items":[{"material":"rice-short","amount":"80 g"}],"minutes":20},
{"do":"fry","name":"garnish","fat":{"material":"ghee","amount":"1 tbsp"},"items":[{"material":"cashew","amount":"20 g"}]},
{"do":"add","items":[{"material":"milk-whole","amount":"1.2 l"}]},
{"do":"heat","flame":"high","until":{"boil":true}},
{"do":"add","items":[{"part":"grain"}]},
{"do":"heat","flame":"medium","until":{"remaining_pct":70}},
{"do":"add","items":[{"material":"sugar-white","amount":"90 g"},{"material":"cardamom","amount":"1 g"}]},
{"do":"heat","flame":"low","until":{"minutes":5}},
{"do":"add","topping":true,"items":[{"part":"garnish"}]}]}`

// at makes an event at a minute after the beginning.
func at(minute float64, e cook.Event) cook.Event {
	e.At = begun.Add(time.Duration(minute * float64(time.Minute)))
	return e
}

func next(minute float64, step int) cook.Event {
	return at(minute, cook.Event{Kind: cook.Next, Step: step})
}

// simmering is a cook ten minutes into the reduction.
func simmering(t *testing.T, more ...cook.Event) cook.State {
	t.Helper()
	p, err := plan.Read([]byte(pudding))
	require.NoError(t, err)
	events := append([]cook.Event{at(1, cook.Event{Kind: cook.Began, Step: 0}), next(5, 2), next(17, 3), next(20, 0), next(21, 4)}, more...)
	return learn.LogOf(p, begun, events).Fold()
}

func run(s cook.State, minute float64) *forecast.Forecast {
	return forecast.Run(learn.Replay(&s, begun.Add(time.Duration(minute*float64(time.Minute)))), forecast.Options{NominalOnly: true})
}

func TestJobsRunBesideThePot(t *testing.T) {
	s := simmering(t)
	require.Equal(t, 5, s.ID(), "the pot simmers while the garnish waits")
	require.Equal(t, []int{0, 1}, s.Beside())
	require.False(t, s.Spans[0].End.IsZero())
	require.True(t, s.Spans[1].Begin.IsZero())
	behind, of := s.Place()
	require.Equal(t, []int{4, 8}, []int{behind, of}, "the garnish is not in the line")

	s = simmering(t, at(25, cook.Event{Kind: cook.Began, Step: 1}), next(29, 1))
	require.Equal(t, 5, s.ID())
	require.Equal(t, 4*time.Minute, s.Spans[1].End.Sub(s.Spans[1].Begin))
	s = simmering(t, at(25, cook.Event{Kind: cook.Began, Step: 1}), next(29, 1), at(30, cook.Event{Kind: cook.Back, Step: 1}))
	require.True(t, s.Spans[1].End.IsZero(), "it is not done after all")
	s = simmering(t, next(50, 5), next(51, 6), next(56, 7))
	require.Equal(t, []int{1}, s.Unready(), "the topping waits for its garnish")
	require.ErrorIs(t, s.Check(cook.Event{Kind: cook.Began, Step: 5}), cook.ErrJob)
}

func TestMoreMilk(t *testing.T) {
	planned := run(simmering(t), 31)
	s := simmering(t, at(31, cook.Event{Kind: cook.Added, Material: "milk-whole", Mass: 200}))
	require.Equal(t, 5, s.ID(), "the rest of the step keeps its name")
	i := s.Step
	require.Equal(t, []plan.Verb{plan.Heat, plan.Add, plan.Heat}, []plan.Verb{s.Plan.Steps[i-2].Do, s.Plan.Steps[i-1].Do,
		s.Plan.Steps[i].Do})
	require.InDelta(t, 10, float64(*s.Plan.Steps[i-2].Until.Minutes), 1e-3)
	require.True(t, s.IsStray(i-1))
	with := run(s, 31)
	require.InDelta(t, *planned.Steps[5].MassG+200*0.7, *with.Steps[i].MassG, 12, "the milk boils down as far as the rest of it")
	require.Greater(t, with.Time.TotalMin.Value, planned.Time.TotalMin.Value+1)
	require.Less(t, with.Sweetness.Pct.Value, planned.Sweetness.Pct.Value)
	// A tap that another device sent for the step counts for its rest.
	require.Equal(t, 6, simmeringID(t, at(31, cook.Event{Kind: cook.Added, Material: "milk-whole", Mass: 200}), next(50, 5)))

	s = simmering(t, next(50, 5), next(51, 6), next(56, 7), next(58, 8),
		at(60, cook.Event{Kind: cook.Added, Material: "milk-whole", Mass: 100}))
	require.True(t, s.Done(), "loosened in the end")
	require.Equal(t, plan.Add, s.Plan.Steps[len(s.Plan.Steps)-1].Do)
}

func simmeringID(t *testing.T, more ...cook.Event) int {
	s := simmering(t, more...)
	return s.ID()
}

func TestFlameAndPause(t *testing.T) {
	planned := run(simmering(t), 31)
	low := simmering(t, at(31, cook.Event{Kind: cook.Turned, Value: 20}))
	slow := run(low, 31)
	require.Equal(t, 5, low.ID())
	require.Greater(t, slow.Time.TotalMin.Value, planned.Time.TotalMin.Value+5)
	require.InDelta(t, *planned.Steps[5].MassG, *slow.Steps[low.Step].MassG, 3, "the mark stays")

	paused := simmering(t, at(31, cook.Event{Kind: cook.Paused}))
	require.True(t, paused.IsPause(paused.Step))
	require.Equal(t, plan.Rest, paused.Present().Do)
	later := run(paused, 46)
	require.InDelta(t, planned.Time.TotalMin.Value+15, later.Time.TotalMin.Value, 6, "a pause lasts until now")
	id := paused.ID()
	on := simmering(t, at(31, cook.Event{Kind: cook.Paused}), next(46, id))
	require.Equal(t, 5, on.ID(), "back on the flame")
	require.InDelta(t, 15, float64(*learn.Replay(&on, begun.Add(50*time.Minute)).Steps[on.Step-1].Minutes), 1e-3)
	require.ErrorIs(t, paused.Check(at(32, cook.Event{Kind: cook.Turned, Value: 20})), cook.ErrFlame, "it is off the flame")
}

func TestSugarTooEarlyAndForgotten(t *testing.T) {
	planned := run(simmering(t), 25)
	s := simmering(t, at(25, cook.Event{Kind: cook.Early, Step: 6, Item: 1}))
	early := run(s, 25)
	require.InDelta(t, *planned.Steps[5].MassG+90, *early.Steps[s.Step].MassG, 1, "the sugar counts to the mark")
	require.Less(t, early.Doneness["grain"].Value, planned.Doneness["grain"].Value, "sugar keeps the grain firm")
	require.Len(t, s.Plan.Steps, 11)
	require.Equal(t, "cardamom", s.Plan.Steps[s.Step+1].Items[0].Material, "the rest still comes")
	whole := simmering(t, at(25, cook.Event{Kind: cook.Early, Step: 6}))
	require.Equal(t, plan.Heat, whole.Plan.Steps[whole.Ahead()[0]].Do)

	s = simmering(t, next(50, 5), next(51, 6), at(53, cook.Event{Kind: cook.Forgot, Step: 6, Item: 1}))
	require.Equal(t, plan.Add, s.Present().Do, "to put it in is what is to be done")
	require.Equal(t, "sugar-white", s.Present().Items[0].Material)
	require.Len(t, s.Present().Items, 1)
	id := s.ID()
	s = simmering(t, next(50, 5), next(51, 6), at(53, cook.Event{Kind: cook.Forgot, Step: 6, Item: 1}), next(54, id))
	require.Equal(t, 7, s.ID())
	require.InDelta(t, planned.Sweetness.Pct.Value, run(s, 54).Sweetness.Pct.Value, 0.5)
	require.ErrorIs(t, s.Check(cook.Event{Kind: cook.Forgot, Step: 8}), cook.ErrBefore)
	require.ErrorIs(t, s.Check(cook.Event{Kind: cook.Early, Step: 4}), cook.ErrLater)
	require.ErrorIs(t, s.Check(cook.Event{Kind: cook.Early, Step: 8, Item: 9}), cook.ErrLater)
}

func TestLeftOutAndSwapped(t *testing.T) {
	s := simmering(t, at(25, cook.Event{Kind: cook.Skipped, Step: 8}))
	require.Equal(t, []int{0}, s.Beside(), "nobody fries a garnish that nothing takes")
	require.Len(t, s.Plan.Steps, 7)
	require.ErrorIs(t, s.Check(cook.Event{Kind: cook.Skipped, Step: 5}), cook.ErrSkip)

	swap := cook.Event{Kind: cook.Swapped, Step: 6, Item: 1, Material: "jaggery", Mass: 110}
	s = simmering(t, at(25, swap))
	require.Equal(t, "110 g", s.Plan.Steps[6].Items[0].Amount)
	require.Greater(t, run(s, 25).Steps[7].EndMin, 0.0)
	swap.Material = "moon dust"
	require.ErrorIs(t, s.Check(swap), cook.ErrMaterial)
	require.ErrorIs(t, s.Check(cook.Event{Kind: cook.Added, Material: "milk-whole", Mass: -3}), cook.ErrMass)
	// What was a mistake is taken back as if it had never been said.
	slip := cook.Event{ID: "slip", Kind: cook.Added, Material: "milk-whole", Mass: 2000}
	s = simmering(t, at(25, slip), at(26, cook.Event{Kind: cook.Undone, Part: "slip"}))
	require.Len(t, s.Plan.Steps, 9)
}

// A cooker is closed while it is under pressure.
func TestNothingGoesIntoAClosedCooker(t *testing.T) {
	p, err := plan.Read([]byte(`{"format":"kirdu-plan/1","name":"Lentils",
		"pots":{"main":{"shape":"straight","diameter_mm":200,"height_mm":150}},
"steps":[{"do":"add","items":[{"material":"moong-split","amount":"150 g"},{"material":"water","amount":"600 ml"}]},
	{"do":"pressure","whistles":3},{"do":"mash","pct":40},{"do":"heat","flame":"low","until":{"minutes":4}}]}`))
	require.NoError(t, err)
	events := []cook.Event{next(2, 0)}
	s := learn.LogOf(p, begun, events).Fold()
	more := at(6, cook.Event{Kind: cook.Added, Material: "water", Mass: 100})
	require.ErrorIs(t, s.Check(more), cook.ErrClosed)
	require.NoError(t, s.Check(at(9, cook.Event{Kind: cook.Whistled})))
	s = learn.LogOf(p, begun, append(events, next(30, 1), next(31, 2))).Fold()
	require.ErrorIs(t, s.Check(at(32, cook.Event{Kind: cook.Whistled})), cook.ErrWhistle)
	replay := learn.Replay(&s, begun.Add(32*time.Minute))
	f := forecast.Run(replay, forecast.Options{NominalOnly: true})
	require.InDelta(t, 28, f.Steps[1].EndMin, 0.5, "the clock of the pot is that of the kitchen")
	require.InDelta(t, 29, f.Steps[2].EndMin, 0.5, "and mashing has its own time")
	require.NoError(t, s.Check(at(33, cook.Event{Kind: cook.Forgot, Step: 2})))
}

// One thing of several can be left out, of a step to come and of the present one; the mark follows.
func TestOneThingIsLeftOut(t *testing.T) {
	without := simmering(t, at(22, cook.Event{Kind: cook.Skipped, Step: 6, Item: 1}))
	require.Len(t, without.Plan.Steps[6].Items, 1)
	require.Equal(t, "cardamom", without.Plan.Steps[6].Items[0].Material)
	require.Len(t, without.Plan.Steps, 9, "the step stays")
	require.Less(t, run(without, 22).Sweetness.Pct.Value, 6.0)

	s := simmering(t, next(40, 5))
	require.Equal(t, 6, s.ID())
	present := simmering(t, next(40, 5), at(41, cook.Event{Kind: cook.Skipped, Step: 6, Item: 2}))
	require.Equal(t, 6, present.ID())
	require.Equal(t, "sugar-white", present.Plan.Steps[6].Items[0].Material)
	require.Len(t, present.Plan.Steps[6].Items, 1)
	require.ErrorIs(t, s.Check(at(41, cook.Event{Kind: cook.Skipped, Step: 6})), cook.ErrSkip, "all of it is what is being done")
	require.ErrorIs(t, s.Check(at(41, cook.Event{Kind: cook.Skipped, Step: 6, Item: 9})), cook.ErrSkip)
	require.ErrorIs(t, s.Check(at(41, cook.Event{Kind: cook.Skipped, Step: 4})), cook.ErrSkip, "it is in")
}
