package recipe_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/require"

	"kirdu/core/measure"
	"kirdu/core/plan"
	"kirdu/core/recipe"
)

// The oven bakes at what it was heated to, if that is said; minutes are no degrees.
func TestTheOvenIsHeatedBefore(t *testing.T) {
	const list = "1 l milk\n80 g rice\n80 g sugar"
	for before, celsius := range map[string]measure.Celsius{"Preheat the oven to 150 °C.": 150, "Set the oven at 300 degrees F.": 149,
		"Heat the oven to 140.": 140, "It takes 100 minutes in the oven.": 170, "It is in the oven for 120 minutes.": 170, "": 170} {
		p := cookText(t, list, before+" Bring the milk to the boil with the rice. Stir in the sugar. Bake for an hour.").Plan
		at := slices.IndexFunc(p.Steps, func(s plan.Step) bool { return s.Do == plan.Bake })
		require.GreaterOrEqual(t, at, 0, before)
		require.InDelta(t, float64(celsius), float64(*p.Steps[at].OvenC), 0.5, before)
	}
}

// What a sentence says in figures and plain verbs is in its steps, or it is told that it is not.
func TestWhatIsSaidIsInTheStepsOrTold(t *testing.T) {
	const list = "1 l milk\n80 g rice\n80 g sugar\n1 tbsp ghee\n10 cashews"
	doubts := func(method string) (of []recipe.DoubtOf) {
		for _, s := range cookText(t, list, method).Sentences {
			for _, d := range s.Doubts {
				if d.Of == recipe.TimeLost || d.Of == recipe.NotDone {
					of = append(of, d.Of)
				}
			}
		}
		return of
	}
	for _, kept := range []string{
		"Bring the milk to the boil with the rice. Simmer for 20-25 minutes, stirring every 5 minutes. Chill for 3 hours.",
		"Bring the milk to the boil with the rice. Cook for an hour and a half. Stir in the sugar and leave it for a quarter of an hour.",
		"Soak the rice for half an hour. Bring the milk to the boil with the rice and simmer 1 hr 10 mins. Fry the cashews in the ghee.",
		"Bring the milk to the boil with the rice and cook until soft. Simmer the sugar in it for three minutes.",
	} {
		require.Empty(t, doubts(kept), kept)
	}
	for lost, of := range map[string]recipe.DoubtOf{
		"Bring the milk to the boil with the rice and cook until soft. Stir in the sugar and turn the pan for 7 minutes.": recipe.TimeLost,
		"Bring the milk to the boil with the rice. Simmer for 20 minutes, and for 55 minutes if it is old rice.":          recipe.TimeLost,
		"Bring the milk to the boil with the rice and cook until soft. Stir in the sugar, then strain into bowls.":        recipe.NotDone,
		"Bring the milk to the boil with the rice and cook until soft. Grind the cashews finely and stir them in.":        recipe.NotDone,
	} {
		require.Contains(t, doubts(lost), of, lost)
	}
}
