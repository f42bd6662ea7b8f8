// Package convert holds the small calculations that a cook makes before the
// pudding: pressing coconuts, blending milks, swapping sweeteners, melting
// lumps. Each works forwards, from what is there, and backwards, from what is
// wanted.
package convert

import (
	"errors"

	"kirdu/core/measure"
)

// Faults of the benches.
var (
	ErrNothing    = errors.New("give an amount above 0")
	ErrOutside    = errors.New("lies outside what these two can be mixed to")
	ErrSame       = errors.New("have the same fat; take two that differ")
	ErrTooThin    = errors.New("is thinner than what is asked for; it cannot be made richer with water")
	ErrNotSweet   = errors.New("does not sweeten")
	ErrNoSolids   = errors.New("holds no milk solids")
	ErrTooDry     = errors.New("holds less water than the lumps bring along; ask for a thinner syrup")
	ErrShares     = errors.New("give shares above 0")
	ErrNoMeat     = errors.New("give coconuts or grams of meat, above 0")
	ErrNoPressing = errors.New("give one to five presses, each with 0 ml of water or more")
)

// percent returns a share in per cent, 0 when there is nothing below the line.
func percent(part, whole measure.Gram) float64 {
	return 100 * measure.Ratio(float64(part), float64(whole))
}
