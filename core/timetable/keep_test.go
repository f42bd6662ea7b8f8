package timetable_test

import (
	"fmt"
	"math/rand/v2"
	"slices"
	"testing"

	"github.com/stretchr/testify/require"

	"kirdu/core/measure"
	"kirdu/core/plan"
	"kirdu/core/timetable"
)

func minute(m float64) *measure.Minute { x := measure.Minute(m); return &x }

// ready finds when each pudding is ready.
func ready(t *testing.T, table *timetable.Timetable, pudding int) float64 {
	t.Helper()
	require.NotNil(t, table.Ready[pudding])
	return float64(*table.Ready[pudding])
}

func placeOf(t *testing.T, table *timetable.Timetable, pudding int) timetable.Place {
	t.Helper()
	k := slices.IndexFunc(table.Places, func(p timetable.Place) bool { return p.Pudding == pudding })
	require.GreaterOrEqual(t, k, 0)
	return table.Places[k]
}

func TestAKeptTimetableStays(t *testing.T) {
	all := ways(t)
	g := gathering(2, 2, all[0], all[2], all[7])
	first := timetable.Solve(g, timetable.Options{})
	again := timetable.Solve(g, timetable.Options{Keep: first.Places})
	require.Zero(t, again.Cost.Moved)
	require.Equal(t, first.Tasks, again.Tasks)
}

// A dragged task takes its pot along; the others yield as little as they can.
func TestMove(t *testing.T) {
	all := ways(t)
	g := gathering(2, 2, all[0], all[2])
	first := timetable.Solve(g, timetable.Options{})
	mustHold(t, g, first)
	was := placeOf(t, first, 0)
	pot := slices.IndexFunc(all[0].Steps, func(s plan.Step) bool { return s.Do == plan.Heat })
	var begins measure.Minute
	for _, task := range first.Tasks {
		if task.Pudding == 0 && task.Step == pot {
			begins = task.Start
		}
	}
	moved, err := timetable.Move(g, timetable.Options{}, first.Places, 0, pot, begins-30, "")
	require.NoError(t, err)
	mustHold(t, g, moved)
	now := placeOf(t, moved, 0)
	require.InDelta(t, float64(was.Start-30), float64(now.Start), 1e-6)
	require.True(t, now.Locked)
	require.InDelta(t, ready(t, first, 0)-30, ready(t, moved, 0), 1e-6)

	// On the other's burner the other gives way.
	other := placeOf(t, first, 1).Burner
	crossed, err := timetable.Move(g, timetable.Options{}, first.Places, 0, pot, begins, other)
	require.NoError(t, err)
	mustHold(t, g, crossed)
	require.Equal(t, other, placeOf(t, crossed, 0).Burner)

	soaked := gathering(1, 2, all[7])
	table := timetable.Solve(soaked, timetable.Options{})
	soak := slices.IndexFunc(all[7].Steps, func(s plan.Step) bool { return s.Do == plan.Soak })
	require.GreaterOrEqual(t, soak, 0)
	at := placeOf(t, table, 0).Preps[soak]
	earlier, err := timetable.Move(soaked, timetable.Options{}, table.Places, 0, soak, at-45, "")
	require.NoError(t, err)
	require.InDelta(t, float64(at-45), float64(placeOf(t, earlier, 0).Preps[soak]), 1e-6)
	require.InDelta(t, ready(t, table, 0), ready(t, earlier, 0), 1e-6, "a soak goes by itself")

	for want, move := range map[error]func() error{
		timetable.ErrTaker: func() error {
			_, err := timetable.Move(soaked, timetable.Options{}, table.Places, 0, soak, at+40, "")
			return err
		},
		timetable.ErrPast: func() error {
			_, err := timetable.Move(g, timetable.Options{NotBefore: minute(-90)}, first.Places, 0, pot, -200, "")
			return err
		},
		timetable.ErrNoTask: func() error {
			_, err := timetable.Move(g, timetable.Options{}, first.Places, 7, pot, -200, "")
			return err
		},
		timetable.ErrTooFar: func() error {
			_, err := timetable.Move(g, timetable.Options{}, first.Places, 0, pot, -5000, "")
			return err
		},
		timetable.ErrBurner: func() error {
			_, err := timetable.Move(g, timetable.Options{}, first.Places, 0, pot, begins, "the moon")
			return err
		},
		timetable.ErrBegun: func() error {
			cooking := was
			cooking.Begun = true
			_, err := timetable.Move(g, timetable.Options{Fixed: []timetable.Place{cooking}}, first.Places, 0, pot, begins, "")
			return err
		},
	} {
		require.ErrorIs(t, move(), want)
	}
}

// Whoever is late moves what is not begun, and no more of it than must be.
func TestLater(t *testing.T) {
	all := ways(t)
	g := gathering(2, 3, all[0], all[2], all[13])
	first := timetable.Solve(g, timetable.Options{})
	mustHold(t, g, first)
	now := first.Tasks[0].Start + 1
	table := timetable.Later(g, timetable.Options{NotBefore: &now}, first.Places, now, 20, -1)
	mustHold(t, g, table)
	for k := range g.Puddings {
		require.GreaterOrEqual(t, ready(t, table, k)+1e-6, ready(t, first, k)-60, "nothing runs away")
	}
	// One that cooks already and slips takes as much longer; the others need not move.
	cooking := placeOf(t, first, 0)
	cooking.Begun = true
	at := cooking.Start + 5
	slipped := timetable.Later(g, timetable.Options{Fixed: []timetable.Place{cooking}}, first.Places, at, 20, 0)
	require.InDelta(t, ready(t, first, 0)+20, ready(t, slipped, 0), 1e-6)
	require.Len(t, slipped.Late, 1)
	require.Equal(t, 0, slipped.Late[0].Pudding)
	require.InDelta(t, 20, slipped.Late[0].Minutes, 1)
	begun := placeOf(t, slipped, 0)
	require.True(t, begun.Begun)
	require.InDelta(t, float64(cooking.Start), float64(begun.Start), 1e-6, "what was begun was begun when it was")
	only := timetable.Later(g, timetable.Options{}, first.Places, at, 15, 1)
	require.InDelta(t, ready(t, first, 1)+15, ready(t, only, 1), 1e-6)
}

// Whatever is dragged wherever: the timetable that comes back holds every
// constraint and has what was dragged where it was put, or says why not.
func TestAnyMoveHolds(t *testing.T) {
	random := rand.New(rand.NewPCG(7, 7))
	all := ways(t)
	moved, refused := 0, 0
	for range 8 {
		var plans []*plan.Plan
		for range 2 + random.IntN(3) {
			plans = append(plans, all[random.IntN(len(all))])
		}
		g := gathering(1+random.IntN(2), 2+random.IntN(2), plans...)
		table := timetable.Solve(g, timetable.Options{})
		for range 6 {
			task := table.Tasks[random.IntN(len(table.Tasks))]
			to := task.Start + measure.Minute(random.IntN(240)-160)
			burner := ""
			if random.IntN(3) == 0 {
				burner = fmt.Sprintf("burner %d", 1+random.IntN(3))
			}
			next, err := timetable.Move(g, timetable.Options{}, table.Places, task.Pudding, task.Step, to, burner)
			if err != nil {
				require.NotEmpty(t, err.Error())
				refused++
				continue
			}
			mustHold(t, g, next)
			place := placeOf(t, next, task.Pudding)
			require.True(t, place.Locked)
			for _, now := range next.Tasks {
				if now.Pudding == task.Pudding && now.Step == task.Step {
					require.InDelta(t, float64(to), float64(now.Start), 1e-6)
				}
			}
			laid := timetable.Lay(g, next.Places)
			require.Equal(t, next.Tasks, laid.Tasks, "what is kept is laid out as it was")
			table = next
			moved++
		}
	}
	require.Greater(t, moved, 10)
	t.Logf("%d moved, %d refused", moved, refused)
}
