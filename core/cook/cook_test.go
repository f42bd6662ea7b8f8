package cook_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"kirdu/core/cook"
	"kirdu/core/learn"
	"kirdu/core/measure"
	"kirdu/core/plan"
)

const document = `{"format":"kirdu-plan/1","name":"x",
	"pots":{"main":{"shape":"straight","diameter_mm":200,"height_mm":100,"mass_g":1000}},"steps":[
{"do":"soak","name":"grain","items":[{"material":"rice-short","amount":"90 g"}],"minutes":30},
{"do":"add","items":[{"material":"milk-whole","amount":"1 l"},{"part":"grain"}]},
{"do":"heat","flame":"high","until":{"boil":true}},
{"do":"heat","flame":"medium","until":{"remaining_pct":75}},
{"do":"add","items":[{"material":"sugar-white","amount":"90 g"}]},
{"do":"heat","flame":"low","until":{"minutes":5}}]}`

var begun = time.Date(2026, 11, 21, 17, 30, 0, 0, time.UTC)

func read(t rapid.TB) *plan.Plan {
	p, err := plan.Read([]byte(document))
	require.NoError(t, err)
	return p
}

// log makes events at minutes after the beginning.
type entry struct {
	minute float64
	kind   cook.Kind
	step   int
	mass   measure.Gram
}

func fold(t rapid.TB, entries ...entry) cook.State {
	var events []cook.Event
	for _, e := range entries {
		events = append(events, cook.Event{Kind: e.kind, At: begun.Add(time.Duration(e.minute * float64(time.Minute))), Step: e.step,
			Mass: e.mass, Material: "milk-whole", Value: 30, Item: int(e.mass) % 3})
	}
	return learn.LogOf(read(t), begun, events).Fold()
}

func TestStepsGoForthAndBack(t *testing.T) {
	s := fold(t, entry{30, cook.Next, 0, 0}, entry{33, cook.Next, 1, 0}, entry{40, cook.Next, 2, 0})
	require.Equal(t, 3, s.Step)
	zero, ok := s.Zero()
	require.True(t, ok)
	require.Equal(t, begun.Add(33*time.Minute), zero, "minute 0 is when the flame is lit")
	require.InDelta(t, 7, float64(s.Minute(begun.Add(40*time.Minute))), 1e-9)

	twice := fold(t, entry{30, cook.Next, 0, 0}, entry{30.1, cook.Next, 0, 0})
	require.Equal(t, 1, twice.Step, "the same tap from two devices counts once")

	back := fold(t, entry{30, cook.Next, 0, 0}, entry{33, cook.Next, 1, 0}, entry{34, cook.Back, 2, 0})
	require.Equal(t, 1, back.Step)
	_, ok = back.Zero()
	require.False(t, ok)
	first := fold(t, entry{1, cook.Back, 0, 0})
	require.Zero(t, first.Step)
}

func TestFinish(t *testing.T) {
	s := fold(t, entry{30, cook.Next, 0, 0}, entry{50, cook.Finished, 0, 950})
	require.True(t, s.Done())
	require.Nil(t, s.Present())
	require.InDelta(t, 950, float64(s.Yield), 0)
	require.Equal(t, begun.Add(50*time.Minute), s.Finished)
}

func TestReplayLastsAsLongAsItDid(t *testing.T) {
	s := fold(t, entry{30, cook.Next, 0, 0}, entry{33, cook.Next, 1, 0}, entry{41.5, cook.Next, 2, 0},
		entry{70, cook.Next, 3, 0}, entry{72, cook.Next, 4, 0})
	p := learn.Replay(&s, begun.Add(73*time.Minute))
	require.InDelta(t, 8.5, float64(*p.Steps[2].Until.Minutes), 1e-3)
	require.InDelta(t, 30.5, float64(*p.Steps[3].Until.Minutes), 1e-3, "while the sugar goes in the pot cooks on")
	require.InDelta(t, 5, float64(*p.Steps[5].Until.Minutes), 1e-9, "the present step is as planned")
	require.Nil(t, s.Plan.Steps[2].Until.Minutes, "the plan itself is left alone")

	waiting := fold(t, entry{30, cook.Next, 0, 0}, entry{33, cook.Next, 1, 0}, entry{41.5, cook.Next, 2, 0}, entry{70, cook.Next, 3, 0})
	p = learn.Replay(&waiting, begun.Add(75*time.Minute))
	require.InDelta(t, 33.5, float64(*p.Steps[3].Until.Minutes), 1e-3, "it cooks on while the sugar is being fetched")
}

func TestEventsAreChecked(t *testing.T) {
	s := fold(t)
	cases := map[string]struct {
		event cook.Event
		want  error
	}{
		"a good weight":   {cook.Event{Kind: cook.Weighed, Mass: 900}, nil},
		"minus 3 kg":      {cook.Event{Kind: cook.Weighed, Mass: -3000}, cook.ErrMass},
		"a ton":           {cook.Event{Kind: cook.Weighed, Mass: 1e6}, cook.ErrMass},
		"above the rim":   {cook.Event{Kind: cook.Dipped, MM: 140}, cook.ErrDepth},
		"a good depth":    {cook.Event{Kind: cook.Dipped, MM: 34}, nil},
		"an unknown kind": {cook.Event{Kind: "sneezed"}, cook.ErrKind},
		"no yield":        {cook.Event{Kind: cook.Finished}, nil},
	}
	for name, c := range cases {
		t.Run(name, func(t *testing.T) { require.ErrorIs(t, s.Check(c.event), c.want) })
	}
	require.ErrorIs(t, s.Check(cook.Event{Kind: cook.Next, Step: 99}), cook.ErrStep)
}

// TestAnyLogFolds throws any order of taps at the fold.
func TestAnyLogFolds(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		var entries []entry
		minute := 0.0
		for range rapid.IntRange(0, 14).Draw(t, "events") {
			minute += rapid.Float64Range(-2, 20).Draw(t, "later")
			entries = append(entries, entry{minute,
				rapid.SampledFrom([]cook.Kind{cook.Next, cook.Back, cook.Began, cook.Weighed, cook.Finished, cook.Paused, cook.Added, cook.Turned,
					cook.Early, cook.Forgot, cook.Skipped, cook.Swapped, "later version"}).Draw(t, "kind"),
				rapid.IntRange(0, 9).Draw(t, "step"), measure.Gram(rapid.Float64Range(0, 2000).Draw(t, "mass"))})
		}
		s := fold(t, entries...)
		require.True(t, s.Step >= 0 && s.Step <= len(s.Plan.Steps) && len(s.IDs) == len(s.Spans) && len(s.IDs) == len(s.Plan.Steps))
		for i, span := range s.Spans {
			require.False(t, !span.End.IsZero() && span.End.Before(span.Begin), "step %d ends before it begins", i)
		}
		_, err := learn.Replay(&s, begun.Add(time.Hour)).JSON()
		require.NoError(t, err)
	})
}
