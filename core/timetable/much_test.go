package timetable_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/require"

	"kirdu/core/timetable"
)

// Ten puddings of five hundred bowls each are no supper; the search ends all the same, places
// what it can, and tells of the others.
func TestTooMuchForAnyKitchen(t *testing.T) {
	for _, bowls := range []int{100, 500} {
		for _, kitchen := range [][2]int{{1, 1}, {1, 3}, {2, 2}, {4, 4}} {
			all := ways(t)
			all = all[:min(10, len(all))]
			for _, p := range all {
				p.Scale(bowls)
			}
			g := gathering(kitchen[0], kitchen[1], all...)
			table := timetable.Solve(g, timetable.Options{})
			placed := map[int]bool{}
			for _, place := range table.Places {
				placed[place.Pudding] = true
			}
			for i := range all {
				told := slices.ContainsFunc(table.Late, func(l timetable.Late) bool { return l.Pudding == i })
				require.True(t, placed[i] || told, "pudding %d is in no place and not told of", i)
			}
			mustHold(t, g, table)
		}
	}
}
