package convert

import (
	"kirdu/core/measure"
	"kirdu/core/numeric"
	"kirdu/core/pantry"
	"math"
)

// Coconut meat by weight, and how it gives itself to the press. Source: the
// model, section 10, from food-science texts on the extraction of coconut milk.
const (
	CoconutMeat measure.Gram = 340 // g of meat in one coconut

	meatFat       = 0.335
	meatWater     = 0.47
	meatSoluble   = 0.07
	meatInsoluble = 1 - meatFat - meatWater - meatSoluble
	freedFirst    = 0.65 // of the fat, in the first press
	freedLater    = 0.45 // of the rest at most, in each later one
	pulpKeeps     = 1.4  // g of liquid per g of dry matter of the wrung pulp
)

// ThickFat is the fat of a first press without water, per cent. Source: as
// above.
const ThickFat = 28.7

// A Milk is liquid pressed from coconut, or the pulp that stays behind.
type Milk struct {
	Water, Fat, Soluble measure.Gram
	Insoluble           measure.Gram // of the pulp; a milk has none
}

// Mass returns the mass of the milk.
func (m Milk) Mass() measure.Gram { return m.Water + m.Fat + m.Soluble + m.Insoluble }

// FatPercent returns the fat of the milk in per cent, 0 for no milk.
func (m Milk) FatPercent() float64 { return percent(m.Fat, m.Mass()) }

// Densities for the volume of a milk, g/ml. Source: the model, section 6.
const (
	fatDensity   = 0.91
	solidDensity = 1.55
)

// Volume returns the volume of the milk.
func (m Milk) Volume() measure.Millilitre {
	return measure.Millilitre(float64(m.Water) + float64(m.Fat)/fatDensity + float64(m.Soluble+m.Insoluble)/solidDensity)
}

// FatShare returns the share of the volume that is fat, 0 to 1.
func (m Milk) FatShare() float64 {
	return measure.Ratio(float64(m.Fat)/fatDensity, float64(m.Volume()))
}

// Add returns both milks together.
func (m Milk) Add(other Milk) Milk {
	return Milk{m.Water + other.Water, m.Fat + other.Fat, m.Soluble + other.Soluble, m.Insoluble + other.Insoluble}
}

// Material returns the milk as a material of the pantry. All sugar of the meat
// dissolves; what else does is protein and ash, in the meat's proportion. Acidity is
// that of thick coconut milk, by what is dissolved.
func (m Milk) Material(slug, name string) *pantry.Material {
	thick, _ := pantry.Standard().Material("coconut-milk-thick")
	nut, _ := pantry.Standard().Material("coconut-meat")
	made := *thick
	made.Slug, made.Name = slug, name
	mass := m.Mass()
	soluble := percent(m.Soluble, mass)
	sugars := nut.Sucrose + nut.Glucose + nut.Fructose
	of := func(x measure.Gram) measure.Gram { return x * measure.Gram(soluble) / (100 * meatSoluble) }
	rest := measure.Ratio(float64(100*meatSoluble-sugars), float64(nut.Protein+nut.Ash))
	made.Composition = pantry.Composition{
		Water: measure.Gram(percent(m.Water, mass)), Fat: measure.Gram(percent(m.Fat, mass)),
		Sucrose: of(nut.Sucrose), Glucose: of(nut.Glucose), Fructose: of(nut.Fructose),
		Protein: of(nut.Protein * measure.Gram(rest)), Ash: of(nut.Ash * measure.Gram(rest)),
	}
	dissolved := float64(thick.Protein + thick.Sucrose + thick.Glucose + thick.Fructose + thick.Fibre + thick.Ash + thick.Other)
	share := measure.Ratio(soluble, dissolved)
	made.SodiumMg = thick.SodiumMg * share
	made.EnergyKcal = energy(&made.Composition)
	made.Buffer = thick.Buffer * share
	made.Bulk = measure.GramPerMillilitre(measure.Ratio(float64(mass), float64(m.Volume())))
	made.SourceNote = "computed from the pressing of fresh coconut meat"
	return &made
}

// energy returns the kilocalories of 100 g. Source: Regulation (EU) No
// 1169/2011, annex XIV.
func energy(c *pantry.Composition) float64 {
	const fat, proteinOrCarbohydrate, fibre = 9, 4, 2
	sugarStarch := c.Lactose + c.Sucrose + c.Glucose + c.Fructose + c.Starch
	return fat*float64(c.Fat) + proteinOrCarbohydrate*float64(c.Protein+sugarStarch) + fibre*float64(c.Fibre)
}

// Press presses grated coconut meat in turn, each time with so much water
// added first. Later presses free the more fat the more water is worked in, and none
// is fatter than the one before. It returns the milk of each press and the wrung pulp;
// together they weigh what went in. Errors: ErrNoMeat, ErrNoPressing.
func Press(meat measure.Gram, water []measure.Millilitre) (milks []Milk, pulp Milk, err error) {
	const mostPresses = 5
	if !(meat > 0) {
		return nil, Milk{}, ErrNoMeat
	}
	if len(water) < 1 || len(water) > mostPresses {
		return nil, Milk{}, ErrNoPressing
	}
	liquid := Milk{Water: meat * meatWater, Soluble: meat * meatSoluble}
	bound := meat * meatFat // fat still in its cells
	for k, added := range water {
		if !(added >= 0) {
			return nil, Milk{}, ErrNoPressing
		}
		before := measure.Gram(liquid.FatPercent() / 100)
		liquid.Water += measure.Gram(added) // water weighs 1 g/ml
		freed := bound * freedFirst
		if k > 0 {
			worked := measure.Ratio(float64(added), float64(meat*meatInsoluble+bound))
			most := max(0, (before*liquid.Mass()-liquid.Fat)/(1-before))
			freed = min(bound*measure.Gram(freedLater*-math.Expm1(-worked)), most)
		}
		liquid.Fat += freed
		bound -= freed
		dry := meat*meatInsoluble + bound
		share := max(0, 1-measure.Ratio(float64(pulpKeeps*dry), float64(liquid.Mass())))
		milks = append(milks, liquid.share(share))
		liquid = liquid.share(1 - share)
	}
	pulp = liquid
	pulp.Fat += bound
	pulp.Insoluble = meat * meatInsoluble
	return milks, pulp, nil
}

func (m Milk) share(s float64) Milk {
	f := measure.Gram(s)
	return Milk{m.Water * f, m.Fat * f, m.Soluble * f, m.Insoluble * f}
}

// A Pressing is what must be pressed to get the milks that are wanted.
type Pressing struct {
	Meat        measure.Gram
	Water       measure.Millilitre // for the second press
	Thick, Thin Milk               // what comes of it; either may be more than was asked
	Pulp        Milk
}

// Coconuts returns how many coconuts hold the meat.
func (p Pressing) Coconuts() float64 { return float64(p.Meat / CoconutMeat) }

// PressFor returns the meat and the water that give so much thick milk from a
// first press without water and so much thin from a second with it. thinFat is
// the least fat that the thin milk may have, in per cent; 6.5 is usual. When
// the thick milk needs more meat than the thin, the thin is richer. Errors:
// ErrNothing when neither is wanted, ErrOutside when no second press has so
// much fat.
func PressFor(thick, thin measure.Gram, thinFat float64) (Pressing, error) {
	if !(thick >= 0 && thin >= 0) || thick+thin <= 0 {
		return Pressing{}, ErrNothing
	}
	one, _, err := Press(1, []measure.Millilitre{0})
	if err != nil {
		return Pressing{}, err
	}
	meat := thick / one[0].Mass()
	if thin > 0 {
		least, err := meatForThin(thin, thinFat)
		if err != nil {
			return Pressing{}, err
		}
		meat = max(meat, least)
	}
	p := Pressing{Meat: meat}
	if thin > 0 {
		p.Water = waterForThin(meat, thin)
	}
	milks, pulp, err := Press(meat, []measure.Millilitre{0, p.Water})
	if err != nil {
		return Pressing{}, err
	}
	p.Thick, p.Thin, p.Pulp = milks[0], milks[1], pulp
	if thin <= 0 {
		milks, p.Pulp, err = Press(meat, []measure.Millilitre{0})
		p.Thick, p.Thin = milks[0], Milk{}
	}
	return p, err
}

// waterForThin returns the water whose second press gives so much thin milk. A second
// press gives a little more than its water: fat that it frees, and what the pulp then
// keeps no longer.
func waterForThin(meat, thin measure.Gram) measure.Millilitre {
	const halvings = 50
	found, _ := numeric.Halve(numeric.Bracket{High: float64(thin)}, halvings, func(water float64) bool {
		milks, _, err := Press(meat, []measure.Millilitre{0, measure.Millilitre(water)})
		return err == nil && milks[1].Mass() < thin
	})
	return measure.Millilitre(found.High)
}

// meatForThin returns the meat whose second press gives so much thin milk of
// just this fat.
func meatForThin(thin measure.Gram, fat float64) (measure.Gram, error) {
	// The fat falls steadily with the water, so the water per gram of meat is
	// bracketed and halved.
	const driest, wettest, halvings = 0.01, 60.0, 60
	at := func(water float64) (Milk, error) {
		milks, _, err := Press(1, []measure.Millilitre{0, measure.Millilitre(water)})
		if err != nil {
			return Milk{}, err
		}
		return milks[1], nil
	}
	richest, err := at(driest)
	if err != nil {
		return 0, err
	}
	thinnest, err := at(wettest)
	if err != nil {
		return 0, err
	}
	if !(fat < richest.FatPercent() && fat > thinnest.FatPercent()) {
		return 0, ErrOutside
	}
	// Between what can be pressed, everything can.
	found, _ := numeric.HalveLog(numeric.Bracket{Low: driest, High: wettest}, halvings, func(water float64) bool {
		milk, err := at(water)
		return err == nil && milk.FatPercent() > fat
	})
	milk, err := at(found.High)
	return thin / milk.Mass(), err
}

// FromPack returns how much of a tin, a cream or a powder and how much water
// make a coconut milk of some mass and fat in per cent. Errors: ErrNothing,
// ErrTooThin when the pack is leaner than what is wanted.
func FromPack(pack *pantry.Material, mass measure.Gram, fat float64) (packed, water measure.Gram, err error) {
	switch {
	case !(mass > 0) || !(fat > 0):
		return 0, 0, ErrNothing
	case float64(pack.Fat) < fat:
		return 0, 0, ErrTooThin
	}
	packed = mass * measure.Gram(fat) / pack.Fat
	return packed, mass - packed, nil
}

// PackMakes returns the mass of milk of some fat in per cent that a pack can
// be stretched to, and the water that does it. Errors: as FromPack.
func PackMakes(pack *pantry.Material, packed measure.Gram, fat float64) (mass, water measure.Gram, err error) {
	switch {
	case !(packed > 0) || !(fat > 0):
		return 0, 0, ErrNothing
	case float64(pack.Fat) < fat:
		return 0, 0, ErrTooThin
	}
	mass = packed * pack.Fat / measure.Gram(fat)
	return mass, mass - packed, nil
}
