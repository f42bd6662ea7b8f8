package plan

import (
	"cmp"
	"math"
	"slices"

	"kirdu/core/bench"
	"kirdu/core/measure"
	"kirdu/core/pantry"
)

// A Purchase is one line of a list of what plans need.
type Purchase struct {
	Material *pantry.Material
	Mass     measure.Gram
	Pieces   float64  // whole packs or pieces that hold the mass, 0 if it is not sold so
	Puddings []string // the names of the plans that need it
}

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
	return bench.CoconutMeat
}

// sellablePiece is from which mass a piece is bought as such; a pod of cardamom or a
// thread of saffron is not.
const sellablePiece measure.Gram = 15

// Buy lists what several plans need together, by kind and name. Water comes
// from the tap.
func Buy(plans []*Plan) []Purchase {
	bySlug := map[string]*Purchase{}
	var slugs []string
	for _, p := range plans {
		p.Uses(func(m *pantry.Material, mass measure.Gram, _ int) {
			if m.Kind == "water" {
				return
			}
			line, known := bySlug[m.Slug]
			if !known {
				line = &Purchase{Material: m}
				bySlug[m.Slug] = line
				slugs = append(slugs, m.Slug)
			}
			line.Mass += mass
			if !slices.Contains(line.Puddings, p.Name) {
				line.Puddings = append(line.Puddings, p.Name)
			}
		})
	}
	list := make([]Purchase, 0, len(slugs))
	for _, slug := range slugs {
		line := *bySlug[slug]
		if line.Material.Piece >= sellablePiece && line.Material.PieceName != "" {
			const slack = 0.02 // a tin that is short by a spoon is not opened for it
			line.Pieces = math.Max(1, math.Ceil(float64(line.Mass/line.Material.Piece)-slack))
		}
		list = append(list, line)
	}
	slices.SortStableFunc(list, func(a, b Purchase) int {
		return cmp.Or(cmp.Compare(a.Material.Kind, b.Material.Kind), cmp.Compare(a.Material.Name, b.Material.Name))
	})
	return list
}
