package app

import (
	"kirdu/core/design"
	"kirdu/core/plan"
	"kirdu/core/recipe"
	"kirdu/core/vessel"
)

// Draft arranges a list by a school as a kitchen would cook it: in the pot that suits of those there are, and
// without an alarm of its own where that can be. Errors: those of design.PotFor, recipe.Arrange and plan.Reread.
func Draft(choice plan.WayChoice, school recipe.School, given []recipe.Given, home plan.Home, pots []vessel.Pot) (*plan.Plan, error) {
	var err error
	if choice.Pot, err = design.PotFor(pots, choice.Bowls, school.Use()); err != nil {
		return nil, err
	}
	made, err := recipe.Arrange("draft", choice, school, given, plan.HomePantry(home))
	if err != nil {
		return nil, err
	}
	p, err := plan.Reread(made.In(home))
	if err != nil {
		return nil, err
	}
	p, _ = design.Quiet(p, pots, nil)
	return p, nil
}
