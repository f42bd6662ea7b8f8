package advice

import (
	"kirdu/core/forecast"
	"kirdu/core/measure"
	"kirdu/core/pantry"
	"kirdu/core/plan"
)

// An arrival is a material that goes into a pot at a step, by itself or inside
// a part that was prepared before.
type arrival struct {
	material *pantry.Material
	item     plan.Item
	step     int // where the item stands: the addition, or the preparation that takes it
	place    int // its place there
}

// prepared reports whether it comes in a part.
func (a arrival) prepared(at int) bool { return a.step != at }

// arrivals lists what goes in at a step.
func arrivals(p *plan.Plan, step int) []arrival {
	var all []arrival
	collect(p, step, &all)
	return all
}

func collect(p *plan.Plan, step int, all *[]arrival) {
	for place, item := range p.Steps[step].Items {
		if m, ok := p.Pantry().Material(item.Material); ok {
			*all = append(*all, arrival{m, item, step, place})
		} else if from := p.Maker(item.Part); from >= 0 && from < step {
			collect(p, from, all) // always an earlier step: Read has refused cycles
		}
	}
}

// heatAfter returns the minutes over the flame, and in an oven or a cooker, of a
// pot after a step.
func heatAfter(p *plan.Plan, f *forecast.Forecast, step int) float64 {
	sum := 0.0
	for i := step + 1; i < len(p.Steps); i++ {
		if p.Steps[i].PotName() == p.Steps[step].PotName() && onHeat(&p.Steps[i]) {
			sum += f.Steps[i].EndMin - f.Steps[i].StartMin
		}
	}
	return sum
}

func onHeat(s *plan.Step) bool {
	return (s.Do == plan.Heat && s.FlamePercent() > 0) || s.Do == plan.Pressure || s.Do == plan.Bake
}

// liquidLitres returns the volume of the liquids that go into a plan.
func liquidLitres(p *plan.Plan) float64 {
	var volume measure.Millilitre
	for i := range p.Steps {
		for _, item := range p.Steps[i].Items {
			if m, mass, err := p.Weigh(item); err == nil && item.Material != "" && m.Behaviour == pantry.Liquid && m.Kind != "flavour" && m.Kind != "sweetener" {
				volume += measure.Millilitre(mass) / measure.Millilitre(m.Bulk)
			}
		}
	}
	const perLitre = 1000
	return float64(volume) / perLitre
}
