package mend_test

import (
	"testing"

	"kirdu/core/forecast"
	"kirdu/core/mend"
	"kirdu/core/plan"
)

// BenchmarkFindings asks every rule about a plan that nothing is wrong with, and
// about one that has three faults to mend.
func BenchmarkFindings(b *testing.B) {
	read := func(steps string) *plan.Plan {
		p, err := plan.Read([]byte(`{"format":"kirdu-plan/1","name":"x",
			"pots":{"main":{"shape":"straight","diameter_mm":220,"height_mm":120}},"steps":[` + steps + `]}`))
		if err != nil {
			b.Fatal(err)
		}
		return p
	}
	right := read(`{"do":"add","items":[{"material":"milk-whole","amount":"1 l"},{"material":"rice-short","amount":"90 g"}]},
		{"do":"heat","flame":"high","until":{"boil":true}},
		{"do":"heat","flame":"medium-low","until":{"minutes":36}},{"do":"add","items":[{"material":"sugar-white","amount":"90 g"}]},
			{"do":"heat","flame":"low","until":{"minutes":3}}`)
	wrong := read(`{"do":"add","items":[{"material":"milk-whole","amount":"1 l"},{"material":"rice-short","amount":"90 g"},
		{"material":"sugar-white","amount":"150 g"},{"material":"cardamom","amount":"1 g"}]},
		{"do":"heat","flame":"high","until":{"boil":true}},{"do":"heat","flame":"medium-low","lid":true,"until":{"minutes":36}},
			{"do":"rest","minutes":200}`)
	for name, p := range map[string]*plan.Plan{"right": right, "wrong": wrong} {
		f := forecast.Run(p, forecast.Options{NominalOnly: true})
		b.Run(name, func(b *testing.B) {
			for b.Loop() {
				mend.Findings(p, f)
			}
		})
	}
}
