// Package pot is the physical state of what is in a pot: what it is made of,
// how warm, how far cooked, how thick, and its step in time.
package pot

import (
	"math"

	"kirdu/core/measure"
	"kirdu/core/pantry"
)

// The components of a Mix. All but the last four are grams and add up to its
// mass.
const (
	Water = iota
	Fat
	Protein
	Lactose
	Sucrose
	Glucose
	Fructose
	RawStarch // not gelatinised
	Gel       // gelatinised starch
	AromaStarch
	Fibre
	Ash
	Other

	Thickening // gelatinised starch weighted by its thickening power, g
	Structure  // of protein, fibre, ash, other and starch of spices what is of nuts ground to a paste, g
	Buffer     // g times relative buffering
	BufferPH   // Buffer times pH
	EnergyKcal
	SodiumMg
	components
)

// A Mix is an amount of matter by component. Mixes add and scale.
type Mix [components]float64

// Mass returns the mass of the mix.
func (m *Mix) Mass() float64 { return m[Water] + m[Fat] + m.solids() }

// solids returns the mass without water and fat. It is written out because it
// is asked for some thousand times in a forecast.
func (m *Mix) solids() float64 {
	return m[Protein] + m[Lactose] + m[Sucrose] + m[Glucose] + m[Fructose] +
		m[RawStarch] + m[Gel] + m[AromaStarch] + m[Fibre] + m[Ash] + m[Other]
}

func (m *Mix) add(other *Mix, factor float64) {
	for i := range m {
		m[i] += other[i] * factor
	}
}

// sugar returns the sugars without lactose: those that hold back the grain.
func (m *Mix) sugar() float64 { return m[Sucrose] + m[Glucose] + m[Fructose] }

// Densities of what is in the pot, g/ml. Source: the model, section 6; water,
// fat and sugar-like solids agree with food-engineering tables within 3 %.
const (
	waterDensity = 1.0
	fatDensity   = 0.91
	solidDensity = 1.55
	grainDensity = 1.5 // dry matter of grain and tissue
	pieceDensity = 1.1
)

// volume returns the volume of a liquid mix in ml.
func (m *Mix) volume() float64 {
	return m[Water]/waterDensity + m[Fat]/fatDensity + m.solids()/solidDensity
}

// sweetness returns the sugars as grams of sucrose that taste as sweet.
func (m *Mix) sweetness() float64 {
	return m[Sucrose] + pantry.GlucoseSweetness*m[Glucose] + pantry.FructoseSweetness*m[Fructose] + pantry.LactoseSweetness*m[Lactose]
}

// mixOf returns the matter in a mass of a material. Parts of a table that do
// not add up to 100 g are scaled, so that no mass is made or lost.
func mixOf(material *pantry.Material, mass measure.Gram) Mix {
	c := &material.Composition
	m := Mix{
		Water: float64(c.Water), Fat: float64(c.Fat), Protein: float64(c.Protein),
		Lactose: float64(c.Lactose), Sucrose: float64(c.Sucrose), Glucose: float64(c.Glucose), Fructose: float64(c.Fructose),
		RawStarch: float64(c.Starch), Fibre: float64(c.Fibre), Ash: float64(c.Ash), Other: float64(c.Other),
	}
	var scaled Mix
	scaled.add(&m, measure.Ratio(float64(mass), m.Mass()))
	perGram := float64(mass) / 100
	scaled[EnergyKcal] = c.EnergyKcal * perGram
	scaled[SodiumMg] = c.SodiumMg * perGram
	if material.PH > 0 && countsForPH(material) {
		scaled[Buffer] = material.Buffer * float64(mass)
		scaled[BufferPH] = scaled[Buffer] * material.PH
	}
	return scaled
}

// countsForPH leaves out what stays inside its own cells: grain, pulses, flour
// and nuts. Source: the model, section 8.
func countsForPH(material *pantry.Material) bool {
	return material.Behaviour != pantry.Grain && material.Behaviour != pantry.Flour && material.Kind != "nut"
}

// Pressure of saturated steam over water at t, in Pa, and its slope per K.
// Source: Buck (1981), enhanced form over liquid water.
func saturation(t float64) (pressure, slope float64) {
	const (
		p0, a, b, c = 611.21, 18.678, 234.5, 257.14
	)
	pressure = p0 * math.Exp((a-t/b)*t/(c+t))
	slope = pressure * ((a-2*t/b)*(c+t) - (a-t/b)*t) / ((c + t) * (c + t))
	return pressure, slope
}
