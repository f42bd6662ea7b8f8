package pot

import (
	"iter"
	"math"

	"kirdu/core/measure"
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

// donenessWords begin at their doneness. Source: the model, section 5, where
// 1.0 is cooked through; what is softer than hard but not through has a core.
var donenessWords = []struct {
	from float64
	word string
}{
	{0, "hard"}, {0.5, "firm core"}, {1.0, "cooked through"}, {1.3, "tender"},
	{1.7, "creamy"}, {2.5, "breaking up"}, {3.5, "mush"},
}

// DonenessWord returns the word of a doneness.
func DonenessWord(done float64) string {
	word := donenessWords[0].word
	for _, entry := range donenessWords {
		if done >= entry.from {
			word = entry.word
		}
	}
	return word
}

// DonenessMarks ranges over the words and the doneness that each begins at.
func DonenessMarks() iter.Seq2[string, float64] {
	return func(yield func(string, float64) bool) {
		for _, entry := range donenessWords {
			if !yield(entry.word, entry.from) {
				return
			}
		}
	}
}

// Parameters of thickness. Source: the model, section 6, fitted there to what
// cooks call the puddings of seventeen ways.
const (
	solutesLimit   = 0.85
	solutesGrowth  = 1.2
	fatPacking     = 0.75
	fatPower       = 0.5
	starchGrowth   = 2.69
	starchSoft     = 1.89 // per cent where the growth with starch levels off
	starchCold     = 0.16
	eggGrowth      = 12.3
	eggLimit       = 0.12
	maximumPacking = 0.93
	packingLimit   = 0.97
	packingPower   = 0.95
	coldSwell      = 0.86
	coldSwellRate  = 8
	coldGel        = 1.36
	coldSet        = 1.23
	coldSetFrom    = 2.5
	coldSetLimit   = 9
	coldFrom       = 75.0 // °C
	coldSpan       = 70.0 // K
	waterKelvin    = 247.8
	waterOffset    = 133.15 // K
	gradeSlope     = 0.59
	gradeCentre    = 0.30
)

// waterLn is the logarithm of the factor of Vogel's equation for water.
var waterLn = math.Log(2.414e-5)

// Thickness returns the grade, 1 to 8, that the contents have at a temperature.
func (s *State) Thickness(at measure.Celsius) float64 {
	t := float64(at)
	liquid := s.Liquid.Mass()
	liquidVolume := s.Liquid.volume()
	solids := s.solidVolume()
	phi := measure.Ratio(solids, solids+liquidVolume)
	starch := 100 * measure.Ratio(s.Liquid[Thickening], liquid)
	set, dry := 0.0, 0.0
	for i := range s.Parts {
		p := &s.Parts[i]
		set += p.dryMass * p.Kinetics.SetWeight
		dry += p.dryMass
	}
	if dry > 0 {
		set /= dry
	} else {
		set = 1
	}
	l := &s.Liquid
	solutes := l[Protein] + l[Lactose] + l.sugar() + l[AromaStarch] + l[Fibre] + l[Ash] + l[Other]
	share := min(solutesLimit, measure.Ratio(solutes, liquid-l[Fat]))
	fat := measure.Ratio(l[Fat]/fatDensity, liquidVolume)
	egg := min(eggLimit, measure.Ratio(s.Egg*s.EggSet, liquid))
	cold := min(max((coldFrom-t)/coldSpan, 0), 1)

	// Viscosity of water: Vogel's equation, 2.414e-5 x 10^(247.8/(T + 133.15)) Pa s.
	lnEta := waterLn + math.Ln10*waterKelvin/(t+waterOffset)
	lnEta += solutesGrowth * share / (1 - share)
	lnEta -= fatPower * math.Log(max(0.1, 1-fat/fatPacking))
	effective := starchSoft * -math.Expm1(-starch/starchSoft)
	lnEta += starchGrowth * effective * (1 + starchCold*cold)
	lnEta += eggGrowth * egg
	lnEta -= packingPower * math.Log(1-min(packingLimit, phi/maximumPacking))
	if cold > 0 {
		lnEta += coldSwell * cold * -math.Expm1(-coldSwellRate*phi)
		lnEta += coldGel * cold * set * -math.Expm1(-starch)
		lnEta += coldSet * cold * set * max(0, min(starch, coldSetLimit)-coldSetFrom) * (1 - phi) * (1 - phi)
	}
	return gradeOf(lnEta / math.Ln10)
}

// gradeOf maps the logarithm of the viscosity in Pa s to the eight words.
func gradeOf(log10Eta float64) float64 {
	return max(1, 1+7*(7/(1+math.Exp(-gradeSlope*(log10Eta+gradeCentre)))-1)/6)
}
