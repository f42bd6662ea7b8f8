package plan

import (
	"fmt"

	"kirdu/core/measure"
	"kirdu/core/vessel"
)

// ReducedInMilk is the way of cooking a grain in milk that is reduced with it.
const ReducedInMilk = "reduced in milk"

// A WayChoice is what a cook chooses when a new pudding starts from a way.
type WayChoice struct {
	Grain  string // slug
	Bowls  int
	Serve  Serve
	Pot    vessel.Pot
	Burner vessel.Burner
}

// WayAmounts are the free amounts of a pudding reduced in milk.
type WayAmounts struct {
	Milk         measure.Millilitre
	Grain        measure.Gram
	Sugar        measure.Gram
	RemainingPct float64
	Simmer       vessel.Flame
}

// sweetenMinutes is how long the pot simmers on when the sugar is in: until it
// is dissolved and tasted.
const sweetenMinutes measure.Minute = 5

// StandMinutes is how long a pudding stands before it is chilled: until the
// worst steam is gone.
const StandMinutes measure.Minute = 20

// ChillHours is how long it takes until it is cold through.
const ChillHours = 4.0

// NewReducedInMilk writes down a pudding of this way.
func NewReducedInMilk(choice WayChoice, amounts WayAmounts, grainName string) *Plan {
	sweeten, remaining := sweetenMinutes, amounts.RemainingPct
	p := &Plan{
		Format: Format, Name: grainName + " in milk", Way: ReducedInMilk,
		Serves: choice.Bowls, PortionG: 160, Serve: choice.Serve,
		Kitchen: defaultKitchen(),
		Pots:    map[string]vessel.Pot{MainPot: choice.Pot},
		Burner:  choice.Burner,
		Steps: []Step{
			{Do: Add, Note: "Rinse the pot with cold water first: milk then sticks less.", Items: []Item{
				{Material: "milk-whole", Amount: fmt.Sprintf("%.0f ml", float64(amounts.Milk))},
				{Material: choice.Grain, Amount: fmt.Sprintf("%.0f g", float64(amounts.Grain))},
			}},
			{Do: Heat, Flame: vessel.High, Stir: StirOften, Until: &Until{Boil: true}},
			{Do: Heat, Flame: amounts.Simmer, Stir: StirOften, Until: &Until{RemainingPct: &remaining}},
			{Do: Add, Note: "In two goes, tasting between.", Items: []Item{
				{Material: "sugar-white", Amount: fmt.Sprintf("%.0f g", float64(amounts.Sugar))},
			}},
			{Do: Heat, Flame: vessel.MediumLow, Stir: StirOften, Until: &Until{Minutes: &sweeten}},
		},
	}
	p.ServeAs(choice.Serve)
	return p
}
