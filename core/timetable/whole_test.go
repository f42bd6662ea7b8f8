package timetable_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/require"

	"kirdu/core/forecast"
	"kirdu/core/measure"
	"kirdu/core/plan"
	"kirdu/core/timetable"
	"kirdu/plantest"
)

// Each step is in one whole task and in no other; what takes no time goes with what is done then; and no whole begins
// after its own step does.
func TestWholesHoldEveryStepOnce(t *testing.T) {
	for name, p := range plantest.Trials(t) {
		f := forecast.Run(p, forecast.Options{NominalOnly: true})
		course := timetable.Alone(p, f)
		var tasks []timetable.Task
		for i, span := range course.Steps {
			tasks = append(tasks, timetable.Task{Step: i, Start: span.Start, End: span.End})
		}
		var seen []int
		before := measure.Minute(-1e6)
		for _, one := range timetable.Wholes(tasks, []*plan.Plan{p}) {
			require.True(t, slices.Contains(one.Steps, one.Step), name)
			require.LessOrEqual(t, float64(one.Start), float64(tasks[one.Step].Start), name)
			require.GreaterOrEqual(t, float64(one.Start), float64(before), "%s: the first to begin first", name)
			before = one.Start
			seen = append(seen, one.Steps...)
		}
		slices.Sort(seen)
		require.Equal(t, len(p.Steps), len(slices.Compact(seen)), name)
		require.Len(t, seen, len(p.Steps), name)
	}
}

func TestWhatGoesInIsToldWithWhatIsDoneThen(t *testing.T) {
	p, err := plan.Read([]byte(`{"format":"kirdu-plan/1","name":"x","pots":{"main":{"shape":"straight","diameter_mm":200,"height_mm":110}},
		"steps":[{"do":"add","items":[{"material":"milk-whole","amount":"1 l"}]},{"do":"add","items":[{"material":"rice-short","amount":"80 g"}]},
		{"do":"heat","flame":"high","until":{"boil":true}},{"do":"add","items":[{"material":"sugar-white","amount":"80 g"}]}]}`))
	require.NoError(t, err)
	tasks := []timetable.Task{{Step: 0, Start: -9, End: -9}, {Step: 1, Start: -9, End: -9}, {Step: 2, Start: -9, End: 0}, {Step: 3}}
	wholes := timetable.Wholes(tasks, []*plan.Plan{p})
	require.Len(t, wholes, 2)
	require.Equal(t, []int{0, 1, 2}, wholes[0].Steps)
	require.Equal(t, 2, wholes[0].Step)
	require.Equal(t, []int{3}, wholes[1].Steps)
}
