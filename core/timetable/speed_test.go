package timetable_test

import (
	"fmt"
	"testing"

	"kirdu/core/timetable"
)

// BenchmarkPuddings is the search for gatherings of several sizes.
func BenchmarkPuddings(b *testing.B) {
	all := ways(b)
	for _, n := range []int{1, 3, 6, 10} {
		b.Run(fmt.Sprint(n), func(b *testing.B) {
			g := gathering(2, 4, all[:n]...)
			for b.Loop() {
				timetable.Solve(g, timetable.Options{})
			}
		})
	}
}
