package app

import (
	"kirdu/core/plan"
	"kirdu/core/vessel"
	"kirdu/words"
)

// Texts lists every text of the catalogue, and what the steps of every way are called, for a reviewer.
func Texts() ([]words.Text, error) {
	texts := words.Catalogue()
	var w words.Printer
	for _, way := range plan.Ways() {
		choice, err := way.Check(plan.WayChoice{})
		if err != nil {
			return nil, err
		}
		const bowls = 6
		choice.Bowls, choice.Burner = bowls, vessel.DefaultBurner()
		choice.Pot = vessel.Pot{Shape: vessel.Straight, DiameterMM: 240, HeightMM: 160}
		p, err := way.Start(choice)
		if err != nil {
			return nil, err
		}
		texts = append(texts, w.StepTexts(p)...)
	}
	return texts, nil
}
