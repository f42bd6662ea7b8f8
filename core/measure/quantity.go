// Package measure holds the quantities of the kitchen: typed numbers with one
// unit each, and the amounts that cooks write down.
package measure

import "math"

// Gram is a mass in grams.
type Gram float64

// Millilitre is a volume in millilitres.
type Millilitre float64

// Millimetre is a length in millimetres.
type Millimetre float64

// Celsius is a point on the temperature scale, in degrees Celsius. Its zero
// value is the freezing point of water, never "unknown".
type Celsius float64

// Kelvin is a difference of temperatures, in kelvin.
type Kelvin float64

// Watt is a power in watts.
type Watt float64

// Minute is a span of kitchen time, in minutes.
type Minute float64

// SquareMetre is an area in square metres.
type SquareMetre float64

// GramPerMillilitre is a density; for dry goods the bulk density.
type GramPerMillilitre float64

// LatentHeat is the heat that a gram of water takes with it as steam, in J/g
// at 100 °C and 1 atm. Source: NIST Chemistry WebBook, water.
const LatentHeat = 2257.0

// SecondsPerMinute converts minutes for formulas that are written in seconds.
const SecondsPerMinute = 60

// Sub returns the difference c - d.
func (c Celsius) Sub(d Celsius) Kelvin { return Kelvin(c - d) }

// Times returns the mass of a volume of this density.
func (d GramPerMillilitre) Times(v Millilitre) Gram { return Gram(float64(d) * float64(v)) }

// A Range is a predicted figure: the best value and the 10th and 90th
// percentile around it, Low <= Value <= High.
type Range struct {
	Value float64 `json:"value"`
	Low   float64 `json:"low"`
	High  float64 `json:"high"`
}

// Percentile90 is the 90th percentile of the normal distribution in standard
// deviations: the half-width of a Range.
const Percentile90 = 1.2816

// Finite returns x, or 0 when x is not a number or infinite. It stands where a
// ratio may have nothing below it.
func Finite(x float64) float64 {
	if math.IsNaN(x) || math.IsInf(x, 0) {
		return 0
	}
	return x
}

// Ratio returns a/b, and 0 when there is nothing below the line.
func Ratio(a, b float64) float64 {
	if b == 0 {
		return 0
	}
	return Finite(a / b)
}

// RoundSignificant rounds x to so many significant digits, 1 to 15. Zero, NaN
// and the infinities come back as 0.
func RoundSignificant(x float64, digits int) float64 {
	x = Finite(x)
	if x == 0 {
		return 0
	}
	magnitude := math.Ceil(math.Log10(math.Abs(x)))
	scale := math.Pow(10, float64(digits)-magnitude)
	if scale == 0 || math.IsInf(scale, 0) {
		return x
	}
	return Finite(math.Round(x*scale) / scale)
}
