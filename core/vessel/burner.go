package vessel

import (
	"kirdu/core/measure"
	"slices"
)

// Flame is a mark on the burner's knob.
type Flame string

// The flames, from none to all.
const (
	Off        Flame = "off"
	Low        Flame = "low"
	MediumLow  Flame = "medium-low"
	Medium     Flame = "medium"
	MediumHigh Flame = "medium-high"
	High       Flame = "high"
)

// What a cook turns to by eye: the pot just bubbles, or boils briskly, whatever watts
// that takes on this burner.
const (
	Simmer Flame = "simmer"
	Boil   Flame = "boil"
)

// Marks lists the marks of the knob from none to all: fractions of the burner.
func Marks() []Flame { return []Flame{Off, Low, MediumLow, Medium, MediumHigh, High} }

// Flames lists all that a flame may be: the marks, and what is turned to by eye.
func Flames() []Flame { return append(Marks(), Simmer, Boil) }

// Lower lists the flames below one, the nearest first, but for off: down the marks of
// the knob, or from a brisk boil to a simmer.
func (f Flame) Lower() []Flame {
	if f == Boil {
		return []Flame{Simmer}
	}
	at := slices.Index(Marks(), f)
	if at < 0 {
		return nil
	}
	below := Marks()[1:max(at, 1)]
	slices.Reverse(below)
	return below
}

// Higher lists the flames above one, the nearest first.
func (f Flame) Higher() []Flame {
	if f == Simmer {
		return []Flame{Boil}
	}
	at := slices.Index(Marks(), f)
	if at < 0 {
		return nil
	}
	return Marks()[at+1:]
}

// Regulated reports whether a flame is what a cook turns to by eye.
func (f Flame) Regulated() bool { return f == Simmer || f == Boil }

// A Regulation is how a pot is kept at its boil: the share of the burner until it
// gets there, and the surplus that then leaves as steam over its surface.
type Regulation struct {
	Approach     float64 // of the whole burner
	Open, Lidded float64 // W/m² of evaporating surface
}

// regulations of the flames by eye. Source: the model, section 3.
var regulations = map[Flame]Regulation{
	Simmer: {Approach: 0.70, Open: 5000, Lidded: 1500},
	Boil:   {Approach: 1.00, Open: 14000, Lidded: 5000},
}

// Regulation returns how a flame by eye is kept, false for a mark of the knob.
func (f Flame) Regulation() (Regulation, bool) {
	r, ok := regulations[f]
	return r, ok
}

// flamePercent is the share of the full power at each mark. Source: the plan
// format.
var flamePercent = map[Flame]float64{Off: 0, Low: 15, MediumLow: 30, Medium: 50, MediumHigh: 70, High: 100}

// Percent returns the share of the full power, 0 to 100, and false for a flame that is
// no mark of the knob.
func (f Flame) Percent() (float64, bool) {
	percent, ok := flamePercent[f]
	return percent, ok
}

// A Burner heats pots.
type Burner struct {
	Kind       string                 `json:"kind,omitempty"` // gas, induction, electric, wood
	Name       string                 `json:"name,omitempty"`
	PowerW     measure.Watt           `json:"power_w"`
	Efficiency float64                `json:"efficiency"`        // of that, into the pot: above 0, at most 1
	FlameW     map[Flame]measure.Watt `json:"flame_w,omitempty"` // into the pot, from water tests
}

// usualEfficiency is how much of its power a kind of burner brings into the pot, until
// a water test or batches tell. Source: the ranges of household stoves, gas 0.4 to
// 0.5, electric plates 0.6 to 0.75, induction 0.8 to 0.9, wood fires 0.1 to 0.3.
var usualEfficiency = map[string]float64{"gas": 0.45, "electric": 0.65, "induction": 0.85, "wood": 0.15}

// UsualEfficiency returns it for a kind, above 0 and at most 1; false for a kind there
// is not.
func UsualEfficiency(kind string) (float64, bool) {
	share, known := usualEfficiency[kind]
	return share, known
}

// mostEfficiency is what no burner of a kind brings into a pot. Source: our own
// estimate, from the upper ends of the same ranges.
var mostEfficiency = map[string]float64{"gas": 0.65, "electric": 0.85, "induction": 0.95, "wood": 0.40}

// Most returns the power that a burner can bring into a pot at the very most, whatever is
// thought of its efficiency.
func (b Burner) Most() measure.Watt {
	most, known := mostEfficiency[b.Kind]
	if !known {
		most = 1
	}
	power := b.PowerW * measure.Watt(max(most, b.Efficiency))
	for _, tested := range b.FlameW {
		power = max(power, tested)
	}
	return power
}

// DefaultBurner is what a plan without a burner is cooked on. Source: the plan
// format.
func DefaultBurner() Burner { return Burner{Kind: "gas", PowerW: 2200, Efficiency: 0.45} }

// Power returns the power into the pot at a flame, and whether it was measured
// by a water test. With an empty flame, percent of the full power counts.
func (b Burner) Power(flame Flame, percent float64) (power measure.Watt, tested bool) {
	if flame != "" {
		if measured, ok := b.FlameW[flame]; ok {
			return measured, true
		}
		percent = flamePercent[flame]
	}
	return b.PowerW * measure.Watt(b.Efficiency*percent/100), false
}
