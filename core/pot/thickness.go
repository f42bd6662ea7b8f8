package pot

import (
	"iter"
	"math"

	"kirdu/core/measure"
	"kirdu/core/pantry"
)

// Words of thickness, grade 1 to 8.
var thicknessWords = []string{"Sip", "Pour", "Coat", "Ladle", "Spoon", "Mound", "Stand", "Slice"}

// ThicknessWords lists the words of the grades 1 to 8.
func ThicknessWords() []string { return append([]string(nil), thicknessWords...) }

// ThicknessWord returns the word nearest to a grade.
func ThicknessWord(grade float64) string {
	n := int(math.Round(grade)) - 1
	return thicknessWords[min(max(n, 0), len(thicknessWords)-1)]
}

// A donenessMark is a word and the doneness that it begins at.
type donenessMark struct {
	from float64
	word string
}

// donenessWords of each texture, rising. Source: the model, section 5, where 1.0 is
// cooked through; those of pulses and fruit are our own.
var donenessWords = map[pantry.Texture][]donenessMark{
	pantry.Grainy: {{0, "hard"}, {0.5, "firm core"}, {0.85, "nearly through"}, {1.0, "cooked through"}, {1.3, "tender"},
		{1.7, "creamy"}, {2.5, "breaking up"}, {3.5, "mush"}},
	pantry.Pearly: {{0, "white"}, {0.5, "white core"}, {0.85, "nearly clear"}, {1.0, "clear and whole"}, {3.4, "very soft"},
		{4.5, "melting away"}},
	pantry.Pulse: {{0, "hard"}, {0.5, "hard core"}, {0.85, "nearly soft"}, {1.0, "soft"}, {1.7, "crushes easily"},
		{3.5, "cooked to a mash"}},
	pantry.Vegetable: {{0, "raw"}, {0.1, "glassy and limp"}, {0.5, "nearly soft"}, {0.85, "soft"}, {1.3, "fully soft"},
		{2.5, "falling apart"}},
	pantry.Fruit: {{0, "raw"}, {0.1, "glassy"}, {0.5, "nearly soft"}, {0.85, "soft, in pieces"}, {1.3, "fully soft"},
		{2.5, "falling apart"}},
}

// DonenessWord returns the word of a doneness.
func DonenessWord(texture pantry.Texture, done float64) string {
	word := ""
	for from, next := range DonenessMarks(texture) {
		if word == "" || done >= from {
			word = next
		}
	}
	return word
}

// DonenessMarks ranges over the doneness that each word begins at, rising, and the
// word.
func DonenessMarks(texture pantry.Texture) iter.Seq2[float64, string] {
	marks, known := donenessWords[texture]
	if !known {
		marks = donenessWords[pantry.Grainy]
	}
	return func(yield func(float64, string) bool) {
		for _, mark := range marks {
			if !yield(mark.from, mark.word) {
				return
			}
		}
	}
}

// Parameters of thickness. Source: the model, section 6, fitted there to 75 grades
// that cooks gave.
const (
	waterAt90      = 4.3e-4 // Pa s, about that of water at 65 °C: where the scale begins
	waterPower     = 1.4
	solutesLimit   = 0.85
	solutesGrowth  = 1.88
	fatPacking     = 0.75
	fatLeast       = 0.1
	fatPower       = 2.8
	starchGrowth   = 1.74
	starchSoft     = 4.7 // per cent where the growth with starch levels off
	eggGrowth      = 7.0
	eggLimit       = 0.12
	pasteGrowth    = 19.3
	pasteSoft      = 6.0 // per cent of structure
	maximumPacking = 0.93
	packingLeast   = 0.04
	packingPower   = 1.79
	coldGel        = 1.6
	coldSet        = 0.64
	coldSetLimit   = 9
	coldFrom       = 90.0 // °C
	coldSpan       = 85.0 // K
	waterKelvin    = 247.8
	waterOffset    = 133.15 // K
	gradeSlope     = 0.477
	gradeCentre    = 0.02
)

// Logarithms of what stands at water: the factor of Vogel's equation, and the
// viscosity at which the scale begins.
var (
	waterLn = math.Log(2.414e-5)
	beginLn = math.Log(waterAt90)
)

// A body is what makes the contents thick: the liquid with the paste in it, and the
// parts and pieces that crowd it.
type body struct {
	liquid, volume, fat, water float64 // g, ml, g, g of the liquid and its paste
	solids, held               float64 // ml, and g of water, of the parts
	sugar, structure           float64 // g of the paste
	set                        float64 // mean set weight of the parts, 1 without any
}

func (s *State) body() body {
	l := &s.Liquid
	b := body{liquid: l.Mass(), volume: l.volume(), fat: l[Fat], water: l[Water], solids: s.Pieces.Mass() / pieceDensity, set: 1,
		structure: l[Structure]}
	set, dry := 0.0, 0.0
	for i := range s.Parts {
		p := &s.Parts[i]
		rest := 1 - p.Paste
		b.solids += rest * p.volume()
		b.held += rest * p.Held
		set += rest * p.dryMass * p.Kinetics.SetWeight
		dry += rest * p.dryMass
		if p.Paste == 0 {
			continue
		}
		sugar := p.Dry.sugar()
		b.liquid += p.Paste * p.mass()
		b.volume += p.Paste * p.volume()
		b.fat += p.Paste * p.Dry[Fat]
		b.water += p.Paste * p.Held
		b.sugar += p.Paste * sugar
		b.structure += p.Paste * (p.dryMass - sugar)
	}
	if dry > 0 {
		b.set = set / dry
	}
	return b
}

// Thickness returns the grade, 1 to 8, that the contents have at a temperature.
func (s *State) Thickness(at measure.Celsius) float64 {
	return gradeOf(s.lnEta(float64(at)) / math.Ln10)
}

// lnEta returns the logarithm of the viscosity in Pa s.
func (s *State) lnEta(t float64) float64 {
	l := &s.Liquid
	b := s.body()
	phi := measure.Ratio(b.solids, b.solids+b.volume)
	starch := 100 * measure.Ratio(l[Thickening], b.liquid)
	// Of the sugar that is free, some is in the water of the grain.
	outside := measure.Ratio(b.water, b.water+heldWaterShare*b.held)
	solutes := l[Protein] + l[Lactose] + l[AromaStarch] + l[Fibre] + l[Ash] + l[Other] - l[Structure] + l.sugar()*outside + b.sugar
	share := min(solutesLimit, measure.Ratio(solutes, b.liquid-b.fat))
	fat := measure.Ratio(b.fat/fatDensity, b.volume)
	egg := min(eggLimit, measure.Ratio(s.Egg*s.EggSet, b.liquid))
	cold := min(max((coldFrom-t)/coldSpan, 0), 1)

	// Viscosity of water: Vogel's equation, 2.414e-5 x 10^(247.8/(T + 133.15)) Pa s.
	water := waterLn + math.Ln10*waterKelvin/(t+waterOffset)
	lnEta := beginLn + waterPower*(water-beginLn)
	lnEta += solutesGrowth * share / (1 - share)
	if b.fat > 0 {
		lnEta -= fatPower * math.Log(max(fatLeast, 1-fat/fatPacking))
	}
	if starch > 0 {
		lnEta += starchGrowth * starchSoft * -math.Expm1(-starch/starchSoft)
	}
	lnEta += eggGrowth * egg
	if b.structure > 0 {
		lnEta += pasteGrowth * -math.Expm1(-100*b.structure/b.liquid/pasteSoft)
	}
	if phi > 0 {
		lnEta -= packingPower * math.Log(max(packingLeast, 1-phi/maximumPacking))
	}
	if cold > 0 {
		free := (1 - phi) * (1 - phi)
		lnEta += cold * b.set * (coldGel*-math.Expm1(-starch) + coldSet*min(starch, coldSetLimit)*free)
	}
	return lnEta
}

// gradeOf maps the logarithm of the viscosity in Pa s to the eight words.
func gradeOf(log10Eta float64) float64 {
	return max(1, 1+7*(7/(1+math.Exp(-gradeSlope*(log10Eta-gradeCentre)))-1)/6)
}
