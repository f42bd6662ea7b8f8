package picture

import (
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

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
	l := NewLanes(someTable(), []string{"rice", "lentils"}, serve, serve.Add(-30*time.Minute), zone)
	require.Len(t, l.Rows, 3)
	require.Equal(t, []string{"back", "front", "hands"}, []string{l.Rows[0].Title, l.Rows[1].Title, l.Rows[2].Title})
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
	require.Contains(t, l.Text, "Timetable from 18:10 to 19:40")
	require.NotEmpty(t, l.Times)
	require.Contains(t, l.Times[0].Label, ":")
}

// Hands that are busy at once stand on each other, so that none is hidden.
func TestHandsAreStacked(t *testing.T) {
	zone := time.UTC
	serve := time.Date(2026, 11, 28, 19, 30, 0, 0, zone)
	l := NewLanes(someTable(), []string{"rice", "lentils"}, serve, serve, zone)
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

// What is begun long before is left to the list; the axis begins with the pots.
func TestASoakOverNightDoesNotStretchTheAxis(t *testing.T) {
	zone := time.UTC
	serve := time.Date(2026, 11, 28, 19, 30, 0, 0, zone)
	l := NewLanes(someTable(), []string{"rice", "lentils"}, serve, serve, zone)
	hourWide := float64(l.Right-l.Left) / 1.5
	require.Greater(t, float64(l.Rows[1].Bars[0].Width), hourWide*0.6, "forty minutes fill two fifths")
	require.False(t, strings.Contains(l.Text, "09:"))
}

func TestAnEmptyTimetableIsDrawn(t *testing.T) {
	serve := time.Date(2026, 11, 28, 19, 30, 0, 0, time.UTC)
	l := NewLanes(&timetable.Timetable{}, nil, serve, serve, time.UTC)
	require.Len(t, l.Rows, 1)
	require.Empty(t, l.Rows[0].Bars)
}

func TestLevelNames(t *testing.T) {
	for name, want := range map[string]string{"coconut.2": "second press", "sugar": "sugar",
		"a very long name of something": "a very long nam…"} {
		require.Equal(t, want, levelName(words.Printer{}, name))
	}
}
