package vessel

import (
	"math"

	"kirdu/core/measure"
	"kirdu/core/numeric"
)

// A WaterTest is water kept at the boil over one flame and weighed before and
// after: the loss tells the power that reaches the pot. The lid is off.
type WaterTest struct {
	Pot           Pot
	Before, After measure.Gram // of the water at the boil, without the pot
	Minutes       measure.Minute
	Ambient       measure.Celsius
	AltitudeM     float64
}

// Faults of a water test.
var (
	ErrGained    = measure.Code("vessel.gained")
	ErrLostAll   = measure.Code("vessel.lost-all")
	ErrTooLittle = measure.Code("vessel.too-little")
	ErrTestTime  = measure.Code("vessel.test-time")
)

// Bounds and uncertainty of a water test.
const (
	shortestTest, longestTest measure.Minute = 2, 120
	leastLoss                 measure.Gram   = 10 // twenty times what a kitchen scale may be off

	scaleSD   = 0.7  // g, each weighing: a scale that shows whole grams, and drops on the rim
	timeSD    = 0.15 // min, of starting at the boil and of lifting off
	repeatSD  = 0.05 // how far one flame differs from day to day, as a share
	boilingAt = 100  // °C at sea level
	perKelvin = 285  // m of altitude that lower the boiling point by a kelvin
)

// Power returns the power into the pot in W, q = lost·h_fg/t + UA (Tb - Ta),
// with its standard deviation. Errors: ErrGained, ErrLostAll, ErrTooLittle,
// ErrTestTime.
func (t WaterTest) Power() (power measure.Watt, sd measure.Watt, err error) {
	lost := t.Before - t.After
	switch {
	case !(t.Minutes >= shortestTest && t.Minutes <= longestTest):
		return 0, 0, ErrTestTime
	case !(lost >= 0):
		return 0, 0, ErrGained
	case t.After <= 0:
		return 0, 0, ErrLostAll
	case lost < leastLoss:
		return 0, 0, ErrTooLittle
	}
	seconds := float64(t.Minutes) * measure.SecondsPerMinute
	boiling := boilingAt - t.AltitudeM/perKelvin
	level := t.Pot.Depth(measure.Millilitre((t.Before + t.After) / 2)) // water weighs 1 g/ml
	steam := float64(lost) * measure.LatentHeat / seconds
	total := steam + t.Pot.Loss(level)*max(0, boiling-float64(t.Ambient))
	byScale := scaleSD * math.Sqrt2 / float64(lost)
	byTime := timeSD * math.Sqrt2 / float64(t.Minutes)
	share := math.Sqrt(byScale*byScale + byTime*byTime)
	return measure.Watt(total), measure.Watt(math.Hypot(steam*share, total*repeatSD)), nil
}

// Range returns the 10th to 90th percentile of a measured power.
func Range(power, sd measure.Watt) measure.Range {
	return measure.Range{Value: float64(power), Low: max(0, float64(power-measure.Percentile90*sd)),
		High: float64(power + measure.Percentile90*sd)}
}

// Faults of a pot that is measured by weighing water.
var (
	ErrFilling = measure.Code("vessel.filling")
	ErrCone    = measure.Code("vessel.cone")
)

// A Filling is how deep a mass of water stands in a pot.
type Filling struct {
	Depth measure.Millimetre
	Water measure.Gram
}

// StraightFrom returns the inner diameter of a pot with straight walls that
// holds a mass of water up to a depth, V = pi d² h/4 at 1 g/ml.
func StraightFrom(f Filling) (measure.Millimetre, error) {
	if !(f.Depth > 0 && f.Water > 0) {
		return 0, ErrFilling
	}
	return measure.Millimetre(math.Sqrt(4 * float64(f.Water) * cubicMillimetresPerMillilitre / (math.Pi * float64(f.Depth)))), nil
}

// taperHalvings finds the radii of a taper: 40 halvings of a metre are 1e-9 mm.
const taperHalvings = 40

// TaperFrom returns the diameters at the bottom and at a height of a pot from
// two fillings: the truncated cone that holds just as much up to both depths.
// Walls may lean outwards, stand straight or lean inwards. Errors: ErrFilling,
// ErrCone.
func TaperFrom(low, high Filling, height measure.Millimetre) (bottom, top measure.Millimetre, err error) {
	if !(low.Depth > 0 && low.Water > 0 && high.Depth > low.Depth && high.Water > low.Water && height >= high.Depth) {
		return 0, 0, ErrFilling
	}
	// V/(pi h) = a² + a k h + (k h)²/3 for the bottom radius a and the slope k:
	// the mean square of the radius, which falls strictly with a once k is fixed
	// by the upper filling. So a is bracketed and halved.
	mean := func(f Filling) float64 {
		return float64(f.Water) * cubicMillimetresPerMillilitre / (math.Pi * float64(f.Depth))
	}
	h1, h2 := float64(low.Depth), float64(high.Depth)
	m1, m2 := mean(low), mean(high)
	slope := func(a float64) float64 {
		// the root of (kh)²/3 + a kh + a² - m2 with a + kh >= 0
		return (-1.5*a + math.Sqrt(max(0, 3*m2-0.75*a*a))) / h2
	}
	miss := func(a float64) float64 {
		k := slope(a)
		return a*a + a*k*h1 + k*h1*k*h1/3 - m1
	}
	// At a = 0 the pot is a cone on its tip, at the upper end its walls meet at
	// the upper water line.
	from, to := 0.0, math.Sqrt(3*m2)
	if miss(from) > 0 || miss(to) < 0 {
		return 0, 0, ErrCone
	}
	found, _ := numeric.Halve(numeric.Bracket{Low: from, High: to}, taperHalvings, func(a float64) bool { return miss(a) <= 0 })
	from = found.Low
	k := slope(from)
	rim := from + k*float64(height)
	if !(from > 0 && rim > 0) {
		return 0, 0, ErrCone
	}
	return measure.Millimetre(2 * from), measure.Millimetre(2 * rim), nil
}
