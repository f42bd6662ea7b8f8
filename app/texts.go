package app

import (
	"kirdu/core/plan"
	"kirdu/words"
)

// Texts lists every text of the catalogue, and what the steps of every way are called, for a reviewer.
func Texts() ([]words.Text, error) {
	texts := words.Catalogue()
	var w words.Printer
	for _, way := range plan.Ways() {
		p, err := way.Typical()
		if err != nil {
			return nil, err
		}
		texts = append(texts, w.StepTexts(p)...)
	}
	return texts, nil
}
