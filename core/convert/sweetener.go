package convert

import (
	"math"

	"kirdu/core/measure"
	"kirdu/core/pantry"
)

// A Portion is an amount of a material.
type Portion struct {
	Material *pantry.Material
	Mass     measure.Gram
}

// A Brought is what sweeteners bring into the pot.
type Brought struct {
	Mass   measure.Gram
	Sweet  measure.Gram // of sucrose that tastes as sweet
	Water  measure.Gram
	Solids measure.Gram // beside sugars
	Acid   float64      // g times relative buffering, below pH 6.5: how hard it pulls milk down
	PH     float64      // buffer-weighted mean, 7 where nothing has acidity
	Colour float64      // 0 white to 4 nearly black, by mass
}

// Bring adds up what portions of sweetener bring.
func Bring(portions []Portion) Brought {
	var b Brought
	var buffer, weighted, colour float64
	for _, p := range portions {
		m, grams := p.Material, float64(p.Mass)
		b.Mass += p.Mass
		b.Sweet += p.Mass * measure.Gram(m.Sweetness())
		b.Water += p.Mass * m.Water / 100
		b.Solids += p.Mass * (100 - m.Water - m.Lactose - m.Sucrose - m.Glucose - m.Fructose) / 100
		buffer += m.Buffer * grams
		weighted += m.Buffer * grams * m.PH
		const milkPH = 6.5
		b.Acid += m.Buffer * grams * max(0, milkPH-m.PH)
		colour += colours[m.Slug] * grams
	}
	const neutral = 7
	b.PH = neutral
	if buffer > 0 {
		b.PH = weighted / buffer
	}
	b.Colour = measure.Ratio(colour, float64(b.Mass))
	return b
}

// colours are how dark a sweetener makes a white pudding, 0 to 4, judged by
// eye of a tenth of it in milk. Source: our own comparison, half a step exact.
var colours = map[string]float64{
	"sugar-white": 0, "sugar-brown": 1.5, "honey": 1, "maple-syrup": 1.5, "palm-sugar": 2.5,
	"jaggery": 2, "jaggery-syrup": 2, "date-syrup": 3.5, "molasses": 4, "condensed-milk": 0.5, "date-pulp": 2.5,
}

var colourWords = []string{"white", "cream", "gold", "brown", "dark brown"}

// ColourWord returns the word of a colour, 0 to 4.
func ColourWord(colour float64) string {
	return colourWords[min(max(int(math.Round(colour)), 0), len(colourWords)-1)]
}

// A Swap is one set of sweeteners in the place of another that is as sweet.
type Swap struct {
	To            []Portion
	Before, After Brought
	Liquid        measure.Gram // to leave out of the pot, or below 0 to add, so that as much water is in it
	Curdles       bool         // sour enough to split hot milk: sweeten off the heat
}

// acidCurdles is the acidity per gram of sweetener above which hot milk may
// split: a tenth of it in milk then lowers the pH below 6.4, the model's limit
// of safety (section 8).
const acidCurdles = 0.6

// SwapFor returns how much of the new sweeteners, mixed by weight in the given
// shares, is as sweet as the old ones. Errors: ErrNothing without anything to
// replace, ErrNotSweet, ErrShares.
func SwapFor(from []Portion, to []*pantry.Material, shares []float64) (Swap, error) {
	before := Bring(from)
	if !(before.Mass > 0) {
		return Swap{}, ErrNothing
	}
	if !(before.Sweet > 0) {
		return Swap{}, ErrNotSweet
	}
	if len(to) == 0 || len(to) != len(shares) {
		return Swap{}, ErrShares
	}
	var sum, sweetness float64
	for i, m := range to {
		if !(shares[i] > 0 && !math.IsInf(shares[i], 0)) {
			return Swap{}, ErrShares
		}
		sum += shares[i]
		sweetness += shares[i] * m.Sweetness()
	}
	if !(sweetness > 0) {
		return Swap{}, ErrNotSweet
	}
	total := float64(before.Sweet) * sum / sweetness
	s := Swap{Before: before}
	for i, m := range to {
		s.To = append(s.To, Portion{m, measure.Gram(total * shares[i] / sum)})
	}
	s.After = Bring(s.To)
	s.Liquid = s.After.Water - before.Water
	s.Curdles = measure.Ratio(s.After.Acid, float64(s.After.Mass)) > acidCurdles
	return s, nil
}

// StrainLoss is what stays in the sieve, as a share. Source: the plan format.
const StrainLoss = 0.01

// A Syrup is lumps melted with water and strained.
type Syrup struct {
	Mass    measure.Gram // after straining
	Lost    measure.Gram // in the sieve
	Brix    float64      // sugar in the watery phase, per cent
	Sweet   float64      // per cent of sucrose
	Minutes measure.Minute
}

// dissolveMinutes is how long lumps take to fall apart at the boil, crushed to
// the size of a nut: half a minute a millimetre. Source: kitchen trial, likely
// 3 to 8 min.
const dissolveMinutes measure.Minute = 5

// heatSpan is from room temperature to the boil, and syrupHeat about the heat
// capacity of a half-and-half syrup in J/(g K). Source: sugar-technology
// tables, 50 % sucrose.
const (
	heatSpan  = 78.0
	syrupHeat = 2.9
)

// SyrupOf melts lumps in water over a power into the pot and strains them if
// wanted. Errors: ErrNothing.
func SyrupOf(lumps *pantry.Material, mass, water measure.Gram, power measure.Watt, strain bool) (Syrup, error) {
	if !(mass > 0 && water >= 0 && power > 0) {
		return Syrup{}, ErrNothing
	}
	total := mass + water
	sugar := mass * measure.Gram(lumps.SugarShare())
	wet := water + mass*lumps.Water/100
	s := Syrup{
		Mass: total, Brix: percent(sugar, sugar+wet),
		Sweet:   100 * measure.Ratio(float64(mass)*lumps.Sweetness(), float64(total)),
		Minutes: measure.Minute(float64(total)*syrupHeat*heatSpan/float64(power)/measure.SecondsPerMinute) + dissolveMinutes,
	}
	if strain {
		s.Lost = total * StrainLoss
		s.Mass -= s.Lost
	}
	return s, nil
}

// WaterFor returns the water that makes a syrup of a wanted Brix from lumps.
// Errors: ErrNothing, ErrOutside for a Brix not above 0 and below 100,
// ErrTooDry.
func WaterFor(lumps *pantry.Material, mass measure.Gram, brix float64) (measure.Gram, error) {
	switch {
	case !(mass > 0):
		return 0, ErrNothing
	case !(brix > 0 && brix < 100):
		return 0, ErrOutside
	}
	sugar := mass * measure.Gram(lumps.SugarShare())
	water := sugar*measure.Gram((100-brix)/brix) - mass*lumps.Water/100
	if water < 0 {
		return 0, ErrTooDry
	}
	return water, nil
}

// LumpsFor returns the lumps and the water for a mass of strained syrup of a
// wanted Brix. Errors: as WaterFor.
func LumpsFor(lumps *pantry.Material, syrup measure.Gram, brix float64, strain bool) (mass, water measure.Gram, err error) {
	if !(syrup > 0) {
		return 0, 0, ErrNothing
	}
	water, err = WaterFor(lumps, 1, brix)
	if err != nil {
		return 0, 0, err
	}
	made := 1 + water
	if strain {
		made *= 1 - StrainLoss
	}
	mass = syrup / made
	return mass, mass * water, nil
}
