package measure

import (
	"strconv"
)

// A Bound is the range that a number may be in. It holds no NaN.
type Bound struct {
	Low   float64
	High  float64
	Above bool // Low itself is out
}

// Holds reports whether a number is within.
func (b Bound) Holds(x float64) bool {
	return x <= b.High && (x > b.Low || x == b.Low && !b.Above)
}

// Hold adds a fault to others for a number that is out of bounds.
func (b Bound) Hold(faults Faults, field string, x float64) Faults {
	if b.Holds(x) {
		return faults
	}
	return append(faults, &FieldError{Field: field, Value: strconv.FormatFloat(x, 'g', -1, 64), Err: b.Error()})
}

// Error returns the fault of a number that is out of bounds: what to give instead.
func (b Bound) Error() error {
	if b.Above {
		return Code("measure.above").With(b.Low, b.High)
	}
	return Code("measure.within").With(b.Low, b.High)
}
