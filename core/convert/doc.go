// Package convert holds the small calculations that a cook makes before the
// pudding: pressing coconuts, blending milks, swapping sweeteners, melting
// lumps. Each works forwards, from what is there, and backwards, from what is
// wanted.
package convert

import (
	"kirdu/core/measure"
)

// Faults of the benches.
var (
	ErrNothing    = measure.Code("convert.nothing")
	ErrOutside    = measure.Code("convert.outside")
	ErrSame       = measure.Code("convert.same")
	ErrTooThin    = measure.Code("convert.too-thin")
	ErrNotSweet   = measure.Code("convert.not-sweet")
	ErrNoSolids   = measure.Code("convert.no-solids")
	ErrTooDry     = measure.Code("convert.too-dry")
	ErrShares     = measure.Code("convert.shares")
	ErrNoMeat     = measure.Code("convert.no-meat")
	ErrNoPressing = measure.Code("convert.no-pressing")
)

// percent returns a share in per cent, 0 when there is nothing below the line.
func percent(part, whole measure.Gram) float64 {
	return 100 * measure.Ratio(float64(part), float64(whole))
}
