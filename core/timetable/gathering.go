// Package timetable works backwards from when puddings are served: what must be
// begun when, on which burner, by whose hands.
package timetable

import (
	"kirdu/core/measure"
	"kirdu/core/plan"
	"kirdu/core/vessel"
)

// Bounds of a gathering.
const (
	MostPuddings = 12
	MostHands    = 12
	MostOvens    = 6
	MostFridgeL  = 1000 // litres
)

// What a kitchen has that says nothing of it: the plan format's defaults.
const (
	DefaultOvens   = 1
	DefaultFridgeL = 60.0 // litres
)

// HotHold is how hot a pudding is kept until it is served: what the plan format
// calls hot, and above the 60 °C under which food left warm is not safe.
const HotHold measure.Celsius = 65

// LongWait is from when on a hot pudding waits too long to be as good. Source: our
// own judgement; grain swells on, a skin forms, milk browns at the wall.
const LongWait measure.Minute = 60

// KeptHot returns the plan with its pudding kept hot for some minutes at the end.
func KeptHot(p *plan.Plan, stand measure.Minute) *plan.Plan {
	waits := p.Clone()
	hot, pot := HotHold, p.Served()[0]
	if pot == plan.MainPot {
		pot = ""
	}
	waits.Steps = append(waits.Steps, plan.Step{Do: plan.Hold, Pot: pot, Minutes: &stand, TempC: &hot})
	return waits
}

// A Gathering is several puddings for one table. Its times are minutes after it
// is served, most of them negative: the clock and its changes are not known here.
type Gathering struct {
	Name     string
	Hands    int                   // people who cook
	Burners  map[string]Burner     // by name
	Pots     map[string]vessel.Pot // by name; each is there once
	Ovens    int
	FridgeL  float64
	Puddings []Pudding
}

// A Burner of a gathering may be too small for a pot.
type Burner struct {
	vessel.Burner
	MaxPotMM measure.Millimetre `json:"max_pot_mm,omitempty"` // widest bottom it takes; 0: any
}

// A Pudding is one plan of a gathering.
type Pudding struct {
	Plan  *plan.Plan
	Serve measure.Minute // after the gathering; 0: with the rest
}
