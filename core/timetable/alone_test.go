package timetable_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"kirdu/core/forecast"
	"kirdu/core/plan"
	"kirdu/core/timetable"
	"kirdu/plantest"
)

// On the clock of one cook nothing is late, nothing is taken before it is made, no pan does
// two things at once, and nobody works longer than it lasts.
func TestAloneHolds(t *testing.T) {
	for name, p := range plantest.Trials(t) {
		f := forecast.Run(p, forecast.Options{NominalOnly: true})
		c := timetable.Alone(p, f)
		last := 0.0
		for i, span := range c.Steps {
			last = max(last, float64(span.End))
			require.LessOrEqual(t, float64(span.End), f.Steps[i].EndMin+1e-6, "%s, step %d is late", name, i)
			require.InDelta(t, f.Steps[i].EndMin-f.Steps[i].StartMin, float64(span.End-span.Start), 1e-3)
			if taker := p.Taker(i); taker >= 0 {
				require.LessOrEqual(t, float64(span.End), float64(c.Steps[taker].Start)+1e-6, "%s, step %d", name, i)
			}
			for j := range i {
				if p.Steps[i].Pan != "" && p.Steps[i].Pan == p.Steps[j].Pan {
					other := c.Steps[j]
					require.True(t, span.Start >= other.End-1e-6 || span.End <= other.Start+1e-6, "%s: %d and %d in one pan", name, i, j)
				}
			}
		}
		require.LessOrEqual(t, float64(c.HandsOn), last-float64(c.Begins)+1e-6, name)
		require.Len(t, c.Order, len(p.Steps))
		for n := 1; n < len(c.Order); n++ {
			require.LessOrEqual(t, float64(c.Steps[c.Order[n-1]].Start), float64(c.Steps[c.Order[n]].Start)+1, name)
		}
	}
}

// Frying lies where the hands are free: while the cooker is closed, not beside a pot that is
// stirred often.
func TestFryingLiesWhereHandsAreFree(t *testing.T) {
	p := plantest.Trials(t)["mung-two-coconuts"]
	f := forecast.Run(p, forecast.Options{NominalOnly: true})
	c := timetable.Alone(p, f)
	fry, closed := -1, -1
	for i := range p.Steps {
		switch p.Steps[i].Do {
		case plan.Fry:
			fry = i
		case plan.Pressure:
			closed = i
		}
	}
	require.GreaterOrEqual(t, float64(c.Steps[fry].Start), float64(c.Steps[closed].Start))
	require.LessOrEqual(t, float64(c.Steps[fry].End), float64(c.Steps[closed].End)+2)
	require.Empty(t, c.Tight)

	quick := plantest.Trials(t)["quick-mung-heavy-pan"]
	require.Empty(t, timetable.Alone(quick, forecast.Run(quick, forecast.Options{NominalOnly: true})).Tight, "one pair of hands does it")
}

// Where two pots want all of a cook it is said, with the minute and both steps.
func TestTwoPotsThatWantAllHands(t *testing.T) {
	p, err := plan.Read([]byte(`{"format":"kirdu-plan/1","name":"x","pots":{"main":{"shape":"straight","diameter_mm":220,"height_mm":140},
		"side":{"shape":"straight","diameter_mm":180,"height_mm":90}},"steps":[
		{"do":"add","items":[{"material":"milk-whole","amount":"1 l"}]},
		{"do":"add","pot":"side","items":[{"material":"milk-whole","amount":"400 ml"}]},
		{"do":"heat","pot":"side","flame":"medium","stir":"constant","until":{"minutes":12}},
		{"do":"heat","flame":"high","stir":"constant","until":{"minutes":12}},
		{"do":"add","items":[{"pot":"side"}]}]}`))
	require.NoError(t, err)
	c := timetable.Alone(p, forecast.Run(p, forecast.Options{NominalOnly: true}))
	require.Len(t, c.Tight, 1)
	require.Equal(t, []int{2, 3}, c.Tight[0].Steps)
	require.InDelta(t, 0, float64(c.Tight[0].From), 0.1)
	require.InDelta(t, 12, float64(c.Tight[0].To), 0.1)
	require.InDelta(t, 12, float64(c.HandsOn), 0.1)
}
