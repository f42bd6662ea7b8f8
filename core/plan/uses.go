package plan

import (
	"slices"

	"kirdu/core/convert"
	"kirdu/core/measure"
	"kirdu/core/pantry"
)

// Uses calls yield for everything of the pantry that goes into the plan, with
// its mass. A liquid that is measured by the finger has none of its own and
// comes with 0 g.
func (p *Plan) Uses(yield func(m *pantry.Material, mass measure.Gram, step int)) {
	for i := range p.Steps {
		s := &p.Steps[i]
		items := s.Items
		for _, more := range []*Item{s.In, s.Fat} {
			if more != nil {
				items = append(slices.Clone(items), *more)
			}
		}
		for _, item := range items {
			material, ok := p.Pantry().Material(item.Material)
			if !ok {
				continue
			}
			_, mass, err := p.Weigh(item)
			if err != nil {
				mass = 0
			}
			yield(material, mass, i)
		}
		if s.Coconuts > 0 {
			if meat, ok := p.Pantry().Material("coconut-meat"); ok {
				yield(meat, measure.Gram(s.Coconuts)*p.Coconut(), i)
			}
		}
	}
}

// Coconut returns the meat of one coconut in this plan's kitchen.
func (p *Plan) Coconut() measure.Gram {
	if own, ok := p.Measures["coconut_g"]; ok {
		return measure.Gram(own)
	}
	if meat, ok := p.Pantry().Material("coconut-meat"); ok && meat.Piece > 0 {
		return meat.Piece
	}
	return convert.CoconutMeat
}
