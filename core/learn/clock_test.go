package learn_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"kirdu/core/cook"
	"kirdu/core/forecast"
	"kirdu/core/learn"
	"kirdu/core/plan"
	"kirdu/core/timetable"
	"kirdu/plantest"
)

const soakedLong = `{"format":"kirdu-plan/1","name":"x",
	"pots":{"main":{"shape":"straight","diameter_mm":200,"height_mm":110}},"steps":[
{"do":"soak","name":"pearls","items":[{"material":"sago-small","amount":"60 g"}],"minutes":240},
{"do":"add","items":[{"material":"milk-whole","amount":"1 l"}]},
{"do":"heat","flame":"high","until":{"boil":true}},
{"do":"add","items":[{"part":"pearls"}]},
{"do":"heat","flame":"simmer","until":{"minutes":15}},
{"do":"fry","name":"nuts","items":[{"material":"cashew","amount":"20 g","minutes":6}]},
{"do":"add","items":[{"part":"nuts"}]}]}`

// "In the bowl" counts the soak that is still to come, what is left of one that runs, and the
// frying that was forgotten.
func TestTheClockCountsAllThatIsToDo(t *testing.T) {
	p, err := plan.Read([]byte(soakedLong))
	require.NoError(t, err)
	total := forecast.Run(p, forecast.Options{NominalOnly: true}).Time.TotalMin.Value
	boils := forecast.Run(p, forecast.Options{NominalOnly: true}).Steps[2].EndMin
	left := func(events []cook.Event, now float64) float64 {
		s := learn.LogOf(p, lit, events).Fold()
		live := learn.Follow(&s, after(now))
		clock := learn.ClockOf(&s, &live, after(now))
		return clock.Bowl(live.Forecast).Sub(after(now)).Minutes()
	}
	require.InDelta(t, 240-boils+total, left(nil, 0), 1.5)
	require.InDelta(t, 140-boils+total, left(nil, 100), 1.5, "the soak began when the cook did")
	soaked := []cook.Event{{Kind: cook.Next, At: after(240), Step: 0}}
	require.InDelta(t, total, left(soaked, 240), 1.5)
	// All is cooked, and nobody has fried: six minutes are still to come.
	rest := append(soaked, cook.Event{Kind: cook.Next, At: after(240), Step: 1}, cook.Event{Kind: cook.Next, At: after(240 + boils), Step: 2},
		cook.Event{Kind: cook.Next, At: after(240 + boils), Step: 3}, cook.Event{Kind: cook.Next, At: after(255 + boils), Step: 4})
	require.InDelta(t, 6, left(rest, 255+boils), 0.5)
	fried := append(rest, cook.Event{Kind: cook.Began, At: after(255 + boils), Step: 5})
	require.InDelta(t, 2, left(fried, 259+boils), 0.5)
}

// When a cook begins, the bowl is as far away as the list by the clock says.
func TestTheClockBeginsAsTheListDoes(t *testing.T) {
	for name, p := range plantest.Trials(t) {
		f := forecast.Run(p, forecast.Options{NominalOnly: true})
		course := timetable.Alone(p, f)
		s := learn.LogOf(p, lit, nil).Fold()
		live := learn.Follow(&s, lit)
		clock := learn.ClockOf(&s, &live, lit)
		got := clock.Bowl(live.Forecast).Sub(lit).Minutes()
		least, most := f.Time.TotalMin.Value+f.Time.PrepMin, f.Time.TotalMin.Value-float64(course.Begins)
		const about = 6.0 // one thing after the other, where the list lays some into gaps
		require.GreaterOrEqual(t, got, least-1, name)
		require.LessOrEqual(t, got, most+about, name)
		for i, job := range clock.Jobs {
			require.False(t, job.End.Before(job.Begin), "%s, %d", name, i)
			require.False(t, job.Begin.Before(lit.Add(-time.Minute)), "%s, %d", name, i)
		}
	}
}
