package rehearse_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"kirdu/core/cook"
	"kirdu/core/learn"
	"kirdu/core/plan"
	"kirdu/core/rehearse"
)

var begun = time.Date(2026, 11, 27, 17, 0, 0, 0, time.UTC)

const pudding = `{"format":"kirdu-plan/1","name":"x","serves":4,
	"pots":{"main":{"shape":"straight","diameter_mm":220,"height_mm":120}},"steps":[
	{"do":"add","items":[{"material":"milk-whole","amount":"1 l"},{"material":"rice-short","amount":"80 g"}]},
	{"do":"heat","flame":"high","until":{"boil":true}},
	{"do":"heat","flame":"simmer","until":{"minutes":25}},
	{"do":"add","items":[{"material":"sugar-white","amount":"80 g"}]},
	{"do":"heat","flame":"simmer","until":{"minutes":5}}]}`

// A rehearsal is a cook whose taps a test sets, over a flame.
type rehearsal struct {
	t     *testing.T
	p     *plan.Plan
	flame float64
	told  []cook.Event
}

func newRehearsal(t *testing.T, flame float64) *rehearsal {
	p, err := plan.Read([]byte(pudding))
	require.NoError(t, err)
	return &rehearsal{t: t, p: p, flame: flame}
}

func at(minute float64) time.Time { return begun.Add(time.Duration(minute * float64(time.Minute))) }

func (r *rehearsal) tell(minute float64, e cook.Event) {
	e.At, e.ID = at(minute), string(rune('a'+len(r.told)))
	r.told = append(r.told, e)
}

func (r *rehearsal) state() cook.State { return learn.LogOf(r.p, begun, r.told).Fold() }

// through taps it through, each step in its time.
func (r *rehearsal) through(task rehearse.Task, boil float64) rehearse.Review {
	for i, minute := range []float64{0, boil, boil + 25, boil + 26, boil + 31} {
		r.tell(minute, cook.Event{Kind: cook.Next, Step: i})
	}
	r.tell(boil+32, cook.Event{Kind: cook.Finished})
	s := r.state()
	return rehearse.ReviewOf(r.p, &s, r.told, task, r.flame)
}

func TestItBoilsOver(t *testing.T) {
	r := newRehearsal(t, rehearse.Flame(rehearse.BoilsOver, 1.0))
	require.InDelta(t, 1.3, r.flame, 1e-9)
	r.tell(0, cook.Event{Kind: cook.Next, Step: 0})
	s := r.state()
	boils, ok := rehearse.Trouble(rehearse.BoilsOver, &s, r.flame, at(2))
	require.True(t, ok)
	minute := boils.Sub(begun).Minutes()
	require.InDelta(t, 7, minute, 3)

	slow := newRehearsal(t, r.flame)
	missed := slow.through(rehearse.BoilsOver, minute+6)
	require.True(t, missed.Task.Came)
	require.False(t, missed.Task.Done)
	require.InDelta(t, 6, float64(missed.Task.After), 0.5)
	require.Greater(t, float64(missed.Boiled), 5.0)

	quick := newRehearsal(t, r.flame)
	quick.tell(0, cook.Event{Kind: cook.Next, Step: 0})
	quick.tell(minute+0.5, cook.Event{Kind: cook.Turned, Value: 20})
	s = quick.state()
	quick.tell(minute+2, cook.Event{Kind: cook.Finished})
	s = quick.state()
	met := rehearse.ReviewOf(quick.p, &s, quick.told, rehearse.BoilsOver, quick.flame)
	require.True(t, met.Task.Done)
}

func TestCurdsNeedTheFlameDown(t *testing.T) {
	r := newRehearsal(t, 1)
	missed := r.through(rehearse.Splits, 9)
	require.True(t, missed.Task.Came)
	require.False(t, missed.Task.Done)
	require.Less(t, float64(missed.Task.After), 0.0, "nothing was done")

	r = newRehearsal(t, 1)
	for i, minute := range []float64{0, 9, 34, 35} {
		r.tell(minute, cook.Event{Kind: cook.Next, Step: i})
	}
	r.tell(37.5, cook.Event{Kind: cook.Paused})
	s := r.state()
	r.tell(45, cook.Event{Kind: cook.Finished})
	s = r.state()
	met := rehearse.ReviewOf(r.p, &s, r.told, rehearse.Splits, 1)
	require.True(t, met.Task.Done)
	require.InDelta(t, 1.5, float64(met.Task.After), 0.1)
}

func TestGuestsAreLate(t *testing.T) {
	hasty := newRehearsal(t, 1)
	require.False(t, hasty.through(rehearse.GuestsLate, 9).Task.Done, "it was done before they came")
	r := newRehearsal(t, 1)
	for i, minute := range []float64{0, 9} {
		r.tell(minute, cook.Event{Kind: cook.Next, Step: i})
	}
	r.tell(30, cook.Event{Kind: cook.Paused})
	s := r.state()
	r.tell(60, cook.Event{Kind: cook.Next, Step: s.ID()})
	for s = r.state(); !s.Done(); s = r.state() {
		r.tell(60+5*float64(len(r.told)-4), cook.Event{Kind: cook.Next, Step: s.ID()})
	}
	r.tell(85, cook.Event{Kind: cook.Finished})
	s = r.state()
	v := rehearse.ReviewOf(r.p, &s, r.told, rehearse.GuestsLate, 1).Task
	require.True(t, v.Came)
	require.InDelta(t, v.Want, v.Grade, 0.8)
	require.True(t, v.Done)
}

// What the flame did to the pudding is said; a pudding without a task has none to judge.
func TestWhatItDid(t *testing.T) {
	calm := newRehearsal(t, 1)
	review := calm.through(rehearse.NoTask, 9)
	require.Nil(t, review.Task)
	require.Empty(t, review.Wrong)
	fierce := newRehearsal(t, 1.5)
	review = fierce.through(rehearse.NoTask, 20)
	require.Greater(t, float64(review.Boiled), 10.0)
	var figures []string
	for _, c := range review.Changes {
		figures = append(figures, c.Figure)
	}
	require.Contains(t, figures, "minutes")
	require.Contains(t, figures, "rice-short")
	for _, task := range rehearse.Tasks() {
		require.Equal(t, task == rehearse.NoTask, task == "")
	}
}
