package picture

import (
	"math"
	"slices"
	"testing"
	"time"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"kirdu/core/measure"
	"kirdu/core/timetable"
	"kirdu/words"
)

// A timetable of two puddings, one soaked long before.
func someTable() *timetable.Timetable {
	task := func(pudding int, from, to measure.Minute, burner, pot string, hands float64) timetable.Task {
		return timetable.Task{Pudding: pudding, Start: from, End: to, HandsEnd: to, Burner: burner, Pot: pot, Hands: hands}
	}
	soak := task(1, -600, -70, "", "", 1)
	soak.HandsEnd = -598
	return &timetable.Timetable{Tasks: []timetable.Task{
		soak, task(0, -60, -20, "front", "the tall pot", 0.5), task(1, -50, -10, "back", "the wide pan", 1),
		task(0, -20, 0, "front", "the tall pot", 0.5),
		task(1, -10, -10, "", "the wide pan", 0),
	}}
}

func TestLanesHaveARowForEachBurnerAndTheHands(t *testing.T) {
	zone := time.FixedZone("", 3600)
	serve := time.Date(2026, 11, 28, 19, 30, 0, 0, zone)
	l := NewLanes(words.Printer{}, someTable(), []string{"rice", "lentils"}, serve, serve.Add(-30*time.Minute), zone)
	require.Len(t, l.Rows, 4)
	require.Equal(t, []string{"back", "front", "hands", "by itself"},
		[]string{l.Rows[0].Title, l.Rows[1].Title, l.Rows[2].Title, l.Rows[3].Title})
	require.Len(t, l.Rows[0].Bars, 1)
	require.Len(t, l.Rows[1].Bars, 2)
	require.Equal(t, "2", l.Rows[0].Bars[0].Number)
	require.Contains(t, l.Rows[0].Bars[0].Text, "lentils, 18:40 to 19:20")
	require.True(t, l.HasNow)
	require.Less(t, float64(l.NowX), float64(l.ServeX))
	for _, row := range l.Rows {
		for _, bar := range row.Bars {
			require.GreaterOrEqual(t, float64(bar.X), float64(l.Left)-1e-6)
			require.LessOrEqual(t, float64(bar.X+bar.Width), float64(l.Right)+1e-6)
			require.GreaterOrEqual(t, float64(bar.Y), float64(row.Y)-1e-6)
			require.LessOrEqual(t, float64(bar.Y+bar.Height), float64(row.Y+row.Height)+1e-6)
		}
	}
	require.Contains(t, l.Text, "Timetable from 09:20 to 19:40")
	require.NotEmpty(t, l.Times)
	require.Contains(t, l.Times[0].Label, ":")
}

// Hands that are busy at once stand on each other, so that none is hidden.
func TestHandsAreStacked(t *testing.T) {
	zone := time.UTC
	serve := time.Date(2026, 11, 28, 19, 30, 0, 0, zone)
	l := NewLanes(words.Printer{}, someTable(), []string{"rice", "lentils"}, serve, serve, zone)
	hands := l.Rows[2]
	require.InDelta(t, 1.5*laneHeight, float64(hands.Height), 1e-6, "half a person and one")
	for i, a := range hands.Bars {
		for _, b := range hands.Bars[i+1:] {
			beside := a.X+a.Width <= b.X+1e-6 || b.X+b.Width <= a.X+1e-6
			above := a.Y+a.Height <= b.Y+1e-6 || b.Y+b.Height <= a.Y+1e-6
			require.True(t, beside || above, "%+v hides %+v", a, b)
		}
	}
}

// What goes on by itself for long folds the axis: the evening has its room, and the soak is there.
func TestASoakOverNightDoesNotSqueezeTheEvening(t *testing.T) {
	zone := time.UTC
	serve := time.Date(2026, 11, 28, 19, 30, 0, 0, zone)
	l := NewLanes(words.Printer{}, someTable(), []string{"rice", "lentils"}, serve, serve, zone)
	require.Greater(t, float64(l.Rows[1].Bars[0].Width), 0.3*float64(l.Right-l.Left), "forty minutes of the evening fill a third")
	require.Len(t, l.Folds, 1)
	require.Equal(t, "8 h 28 min", l.Folds[0].Label, "ten minutes are left on both sides of it")
	alone := l.Rows[3]
	require.Equal(t, "by itself", alone.Title)
	require.Len(t, alone.Bars, 1)
	require.Less(t, float64(alone.Bars[0].X), float64(l.Folds[0].X))
	require.Greater(t, float64(alone.Bars[0].End()), float64(l.Folds[0].X))
	for k, tick := range l.Times {
		require.Greater(t, math.Abs(float64(tick.At-l.Folds[0].X)), foldWidth/2, "no time stands in the fold: %s", tick.Label)
		if k > 0 {
			require.Greater(t, float64(tick.At-l.Times[k-1].At), 38.0)
		}
	}
}

// The axis rises, ends at its edges, and takes each minute that is worked at the same width.
func TestADayAxisRises(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		var busy []stretch
		for range rapid.IntRange(1, 60).Draw(t, "count") {
			from := measure.Minute(rapid.IntRange(-9000, 0).Draw(t, "from"))
			busy = append(busy, stretch{from, from + measure.Minute(rapid.IntRange(0, 90).Draw(t, "lasts"))})
		}
		a := newDayAxis(busy, 100, 1100)
		require.InDelta(t, 100, a.Px[0], 1e-9)
		require.InDelta(t, 1100, a.Px[len(a.Px)-1], 1e-6)
		require.True(t, slices.IsSorted(a.Px) && slices.IsSorted(a.Minutes))
		for _, one := range busy {
			require.False(t, a.isFolded(one.from) || a.isFolded(one.to) || a.isFolded((one.from+one.to)/2), "work is never folded")
			minute := (a.Px[1] - a.Px[0]) / (a.Minutes[1] - a.Minutes[0])
			require.InDelta(t, minute*float64(one.to-one.from), float64(a.at(one.to)-a.at(one.from)), 1e-6)
		}
	})
}

func TestAnEmptyTimetableIsDrawn(t *testing.T) {
	serve := time.Date(2026, 11, 28, 19, 30, 0, 0, time.UTC)
	l := NewLanes(words.Printer{}, &timetable.Timetable{}, nil, serve, serve, time.UTC)
	require.Len(t, l.Rows, 1)
	require.Empty(t, l.Rows[0].Bars)
}

func TestLevelNames(t *testing.T) {
	for name, want := range map[string]string{"coconut.2": "second press", "sugar": "sugar",
		"a very long name of something": "a very long nam…"} {
		require.Equal(t, want, levelName(words.Printer{}, name))
	}
}
