// Package numeric holds brackets, least norms, damped fits and interpolation. Each
// search says why it ended.
package numeric

import (
	"sort"

	"kirdu/core/measure"
)

// Interpolate returns the value at x on straight lines between the points; xs
// must rise, though not strictly. Where two points share an x the later counts.
// Outside it stays at the ends.
func Interpolate(xs, ys []float64, x float64) float64 {
	k := sort.Search(len(xs), func(i int) bool { return xs[i] > x })
	switch {
	case len(xs) == 0:
		return 0
	case k == 0:
		return ys[0]
	case k == len(xs):
		return ys[k-1]
	}
	return ys[k-1] + (ys[k]-ys[k-1])*measure.Ratio(x-xs[k-1], xs[k]-xs[k-1])
}
