package plan

import (
	"kirdu/core/measure"
	"kirdu/core/pantry"
)

// An arrival is a material that goes into a pot at a step, by itself or inside
// a part that was prepared before.
type Arrival struct {
	Material *pantry.Material
	Item     Item
	Step     int // where the item stands: the addition, or the preparation that takes it
	Place    int // its place there
}

// prepared reports whether it comes in a part.
func (a Arrival) Prepared(at int) bool { return a.Step != at }

// arrivals lists what goes in at a step.
func Arrivals(p *Plan, step int) []Arrival {
	var all []Arrival
	collect(p, step, &all)
	return all
}

func collect(p *Plan, step int, all *[]Arrival) {
	for place, item := range p.Steps[step].Items {
		if m, ok := p.Pantry().Material(item.Material); ok {
			*all = append(*all, Arrival{m, item, step, place})
		} else if from := p.Maker(item.Part); from >= 0 && from < step {
			collect(p, from, all) // always an earlier step: Read has refused cycles
		}
	}
}

func OnHeat(s *Step) bool {
	return (s.Do == Heat && s.Burns()) || s.Do == Pressure || s.Do == Bake
}

// liquidLitres returns the volume of the liquids that go into a plan.
func LiquidLitres(p *Plan) float64 {
	var volume measure.Millilitre
	for i := range p.Steps {
		for _, item := range p.Steps[i].Items {
			if m, mass, err := p.Weigh(item); err == nil && item.Material != "" && m.Behaviour == pantry.Liquid && m.Kind != "flavour" &&
				m.Kind != "sweetener" {
				volume += measure.Millilitre(mass) / measure.Millilitre(m.Bulk)
			}
		}
	}
	const perLitre = 1000
	return float64(volume) / perLitre
}
