package vessel

import "kirdu/core/measure"

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

// Flames lists the flames from none to all.
func Flames() []Flame { return []Flame{Off, Low, MediumLow, Medium, MediumHigh, High} }

// flamePercent is the share of the full power at each mark. Source: the plan
// format.
var flamePercent = map[Flame]float64{Off: 0, Low: 15, MediumLow: 30, Medium: 50, MediumHigh: 70, High: 100}

// Percent returns the share of the full power, 0 to 100, and false for a
// flame that is not on the list.
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
