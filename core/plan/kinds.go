package plan

import (
	"kirdu/core/measure"
	"kirdu/core/vessel"
)

// A StepKind is a step that can be put into a plan, as it usually is.
type StepKind struct {
	Name  string // "bring to the boil"
	Takes bool   // it takes a material and its amount
	make  func(serves int) Step
}

// With returns the step for a pot, "" for main, with what it takes.
func (k StepKind) With(serves int, pot string, items []Item) Step {
	s := k.make(serves)
	s.Pot = pot
	if pot == MainPot {
		s.Pot = ""
	}
	if k.Takes {
		s.Items = items
	}
	return s
}

// stepKinds are the steps of a pot. Times and flames are those that a practised
// cook would begin with.
var stepKinds = []StepKind{
	{"put something in", true, func(int) Step { return Step{Do: Add} }},
	{"bring to the boil", false, func(int) Step {
		return Step{Do: Heat, Flame: vessel.High, Stir: StirOften, Until: &Until{Boil: true}}
	}},
	{"simmer", false, func(int) Step {
		return Step{Do: Heat, Flame: vessel.MediumLow, Stir: StirOften, Until: &Until{Minutes: new(measure.Minute(10))}}
	}},
	{"reduce to a mark", false, func(int) Step {
		remaining := 80.0
		return Step{Do: Heat, Flame: vessel.Medium, Stir: StirOften, Until: &Until{RemainingPct: &remaining}}
	}},
	{"warm to a temperature", false, func(int) Step {
		to := measure.Celsius(80)
		return Step{Do: Heat, Flame: vessel.MediumLow, Stir: StirOften, Until: &Until{TempC: &to}}
	}},
	{"stand off the flame", false, func(int) Step {
		return Step{Do: Heat, Flame: vessel.Off, Stir: StirNone, Until: &Until{Minutes: new(measure.Minute(2))}}
	}},
	{"cook under pressure", false, func(int) Step { return Step{Do: Pressure, Whistles: 2} }},
	{"bake", false, func(int) Step {
		at := measure.Celsius(160)
		return Step{Do: Bake, BakeIn: InOven, OvenC: &at, Minutes: new(measure.Minute(45))}
	}},
	{"mash", false, func(int) Step { share := 30.0; return Step{Do: Mash, Pct: &share} }},
	{"drain", false, func(int) Step { return Step{Do: Drain} }},
	{"rest", false, func(int) Step { return Step{Do: Rest, Minutes: new(measure.Minute(10))} }},
	{"cool down", false, func(int) Step { to := measure.Celsius(25); return Step{Do: Cool, ToC: &to, Where: WaterBath} }},
	{"keep hot", false, func(int) Step {
		at := measure.Celsius(65)
		return Step{Do: Hold, Minutes: new(measure.Minute(30)), TempC: &at}
	}},
	{"chill", false, func(int) Step { hours := ChillHours; return Step{Do: Chill, Hours: &hours} }},
	{"brown sugar dry", true, func(int) Step { return Step{Do: Caramel, Until: &Until{Browning: "light"}} }},
	{"share out in bowls", false, func(serves int) Step { return Step{Do: Portion, Bowls: serves} }},
	{"cut in slices", false, func(serves int) Step { return Step{Do: Portion, Slices: 2 * serves} }},
}

// StepKinds lists the steps that can be put into a plan.
func StepKinds() []StepKind { return append([]StepKind{}, stepKinds...) }

// StepKindNamed finds a kind by its name.
func StepKindNamed(name string) (StepKind, bool) {
	for _, k := range stepKinds {
		if k.Name == name {
			return k, true
		}
	}
	return StepKind{}, false
}
