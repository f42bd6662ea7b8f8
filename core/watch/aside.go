package watch

import (
	"kirdu/core/forecast"
	"kirdu/core/plan"
)

// heatAfter returns the minutes over the flame, and in an oven or a cooker, of a
// pot after a step.
func heatAfter(p *plan.Plan, f *forecast.Forecast, step int) float64 {
	sum := 0.0
	for i := step + 1; i < len(p.Steps); i++ {
		if p.Steps[i].PotName() == p.Steps[step].PotName() && plan.OnHeat(&p.Steps[i]) {
			sum += f.Steps[i].EndMin - f.Steps[i].StartMin
		}
	}
	return sum
}
