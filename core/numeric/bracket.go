package numeric

import "math"

// A Bracket is a range that holds what is looked for.
type Bracket struct{ Low, High float64 }

// Middle returns the middle of the bracket.
func (b Bracket) Middle() float64 { return (b.Low + b.High) / 2 }

// Halve narrows a bracket by halving it so many times: above holds at Low and not
// at High. The status is Narrowed, or AtLow or AtHigh where one end never moved:
// then that end was not tried, and what is looked for may lie outside.
func Halve(b Bracket, times int, above func(x float64) bool) (Bracket, Status) {
	return narrow(b, times, Bracket.Middle, above)
}

// HalveLog is Halve of a bracket above 0 by the geometric middle, for what spans
// powers of ten.
func HalveLog(b Bracket, times int, above func(x float64) bool) (Bracket, Status) {
	return narrow(b, times, func(b Bracket) float64 { return math.Sqrt(b.Low * b.High) }, above)
}

func narrow(b Bracket, times int, middle func(Bracket) float64, above func(x float64) bool) (Bracket, Status) {
	from := b
	for range times {
		if x := middle(b); above(x) {
			b.Low = x
		} else {
			b.High = x
		}
	}
	switch {
	case b == from:
		return b, Spent
	case b.Low == from.Low:
		return b, AtLow
	case b.High == from.High:
		return b, AtHigh
	}
	return b, Narrowed
}

// GoldenMinimum finds the minimum of a function with one valley by golden section
// (Kiefer 1953) in so many cuts; each leaves 0.618 of the bracket. The status is
// Narrowed, or AtLow or AtHigh where the valley's floor is not inside.
func GoldenMinimum(f func(float64) float64, b Bracket, cuts int) (x float64, status Status) {
	from := b
	ratio := (math.Sqrt(5) - 1) / 2
	low, high := b.Low, b.High
	left, right := high-ratio*(high-low), low+ratio*(high-low)
	fLeft, fRight := f(left), f(right)
	for range cuts {
		if fLeft < fRight {
			high, right, fRight = right, left, fLeft
			left = high - ratio*(high-low)
			fLeft = f(left)
		} else {
			low, left, fLeft = left, right, fRight
			right = low + ratio*(high-low)
			fRight = f(right)
		}
	}
	switch {
	case low == from.Low:
		status = AtLow
	case high == from.High:
		status = AtHigh
	default:
		status = Narrowed
	}
	return (low + high) / 2, status
}
