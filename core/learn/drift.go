package learn

import (
	"math"

	"gonum.org/v1/gonum/stat"
)

// LeastToDrift is from how many values on a drift can be told.
const LeastToDrift = 4

// Drift returns by how much the later half of some values lies above the earlier on
// the mean, and whether that is more than twice its standard error (Welch's).
func Drift(values []float64) (by float64, told bool) {
	if len(values) < LeastToDrift {
		return 0, false
	}
	half := len(values) / 2
	a, va := stat.MeanVariance(values[:half], nil)
	b, vb := stat.MeanVariance(values[half:], nil)
	const sure, exact = 2, 1e-9
	by = b - a
	return by, math.Abs(by) > sure*math.Sqrt(va/float64(half)+vb/float64(len(values)-half))+exact
}
