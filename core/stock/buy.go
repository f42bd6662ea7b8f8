package stock

import (
	"cmp"
	"math"
	"slices"

	"kirdu/core/measure"
	"kirdu/core/pantry"
	"kirdu/core/plan"
)

// A Purchase is one line of a list of what plans need.
type Purchase struct {
	Material *pantry.Material
	Mass     measure.Gram
	Pieces   float64  // whole packs or pieces that hold the mass, 0 if it is not sold so
	Puddings []string // the names of the plans that need it
}

// sellablePiece is from which mass a piece is bought as such; a pod of cardamom or a
// thread of saffron is not.
const sellablePiece measure.Gram = 15

// Buy lists what several plans need together, by kind and name. Water comes
// from the tap.
func Buy(plans []*plan.Plan) []Purchase {
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
