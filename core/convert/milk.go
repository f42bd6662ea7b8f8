package convert

import (
	"kirdu/core/measure"
	"kirdu/core/pantry"
	"kirdu/core/vessel"
)

// A Blend is two milks, or a milk and a cream, together.
type Blend struct {
	A, B measure.Gram
	Fat  float64 // per cent
}

// Fat of a milk in per cent below which a pudding of reduced milk alone stays
// thin, and above which a pudding turns greasy. Source: the model, section 11.
const (
	ThinBelow   = 2.0
	GreasyAbove = 15.0
)

// BlendOf returns the fat of two milks poured together. Errors: ErrNothing.
func BlendOf(a, b *pantry.Material, massA, massB measure.Gram) (Blend, error) {
	if !(massA >= 0 && massB >= 0) || massA+massB <= 0 {
		return Blend{}, ErrNothing
	}
	fat := (float64(massA)*float64(a.Fat) + float64(massB)*float64(b.Fat)) / float64(massA+massB)
	return Blend{massA, massB, fat}, nil
}

// BlendTo returns how much of two milks makes a mass of a wanted fat in per
// cent: the Pearson square, a share of (fat - b)/(a - b) of the first. Errors:
// ErrNothing, ErrSame, ErrOutside.
func BlendTo(a, b *pantry.Material, mass measure.Gram, fat float64) (Blend, error) {
	switch low, high := min(a.Fat, b.Fat), max(a.Fat, b.Fat); {
	case !(mass > 0):
		return Blend{}, ErrNothing
	case low == high:
		return Blend{}, ErrSame
	case !(fat >= float64(low) && fat <= float64(high)):
		return Blend{}, ErrOutside
	}
	first := mass * (measure.Gram(fat) - b.Fat) / (a.Fat - b.Fat)
	return Blend{first, mass - first, fat}, nil
}

// milkSolids returns the solids of milk without its fat, in g per g: protein,
// lactose and ash. A sweetened milk is mostly sugar beside them.
func milkSolids(m *pantry.Material) measure.Gram {
	return (m.Protein + m.Lactose + m.Ash) / 100
}

// A Fresh is a milk counted back to the fresh milk that it came from, by its
// solids without fat.
type Fresh struct {
	Milk  measure.Gram // fresh whole milk with the same solids
	Water measure.Gram // to add to get that mass back; below 0 if there is more than that
	Sugar measure.Gram // that it brings along
	Fat   float64      // per cent, once the water is in
}

// FreshOf counts a concentrated milk or a powder back to fresh. Errors:
// ErrNothing, ErrNoSolids.
func FreshOf(m *pantry.Material, mass measure.Gram) (Fresh, error) {
	whole := wholeMilk()
	solids := milkSolids(m)
	switch {
	case !(mass > 0):
		return Fresh{}, ErrNothing
	case solids <= 0 || m.Kind != "dairy":
		return Fresh{}, ErrNoSolids
	}
	milk := mass * solids / milkSolids(whole)
	sugar := mass * measure.Gram(m.SugarShare())
	return Fresh{Milk: milk, Water: milk + sugar - mass, Sugar: sugar, Fat: percent(mass*m.Fat/100, milk)}, nil
}

// ForFresh returns how much of a concentrated milk or a powder, and how much
// water, stand for fresh milk. Errors: as FreshOf.
func ForFresh(m *pantry.Material, milk measure.Gram) (mass measure.Gram, back Fresh, err error) {
	one, err := FreshOf(m, 1)
	if err != nil {
		return 0, Fresh{}, err
	}
	if !(milk > 0) {
		return 0, Fresh{}, ErrNothing
	}
	mass = milk / one.Milk
	back, err = FreshOf(m, mass)
	return mass, back, err
}

func wholeMilk() *pantry.Material {
	whole, _ := pantry.Standard().Material("milk-whole")
	return whole
}

// ReducedMilk returns a milk that was boiled down at home to a share of its
// mass, as a material. remaining is above 0 and at most 1, above the share
// that is dry matter. Errors: ErrOutside.
func ReducedMilk(from *pantry.Material, remaining float64) (*pantry.Material, error) {
	dry := 1 - float64(from.Water)/float64(from.Sum())
	if !(remaining > dry && remaining <= 1) {
		return nil, ErrOutside
	}
	up := measure.Gram(1 / remaining)
	m := *from
	m.Slug, m.Name = from.Slug+"-reduced", from.ShortName()+", boiled down"
	c := from.Composition
	m.Composition = pantry.Composition{
		Fat: c.Fat * up, Protein: c.Protein * up, Lactose: c.Lactose * up, Sucrose: c.Sucrose * up,
		Glucose: c.Glucose * up, Fructose: c.Fructose * up, Starch: c.Starch * up, Fibre: c.Fibre * up,
		Ash: c.Ash * up, Other: c.Other * up, EnergyKcal: c.EnergyKcal / remaining, SodiumMg: c.SodiumMg / remaining,
	}
	m.Water = 100 - m.Sum()
	m.Buffer /= remaining
	m.SourceNote = "computed: boiled down from " + from.Name
	return &m, nil
}

// BoilOff returns how long it takes to boil so much water off over a power
// into a pot that holds a volume, and the power that is left for steam after
// what the pot gives off to the room. boiling is the temperature of the boil.
// It is 0 min when nothing is to go. Errors: ErrNothing when the flame does
// not even hold the boil.
func BoilOff(water measure.Gram, power measure.Watt, pot vessel.Pot, volume measure.Millilitre, boiling,
	ambient measure.Celsius) (measure.Minute, error) {
	steam := float64(power) - pot.Loss(pot.Depth(volume))*float64(boiling.Sub(ambient))
	if !(steam > 0) {
		return 0, ErrNothing
	}
	return measure.Minute(max(0, float64(water)) * measure.LatentHeat / steam / measure.SecondsPerMinute), nil
}
