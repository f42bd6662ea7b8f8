package plan

import (
	"fmt"
	"maps"
	"math"
	"reflect"
	"slices"
	"strings"

	"kirdu/core/measure"
	"kirdu/core/pantry"
	"kirdu/core/vessel"
)

// A Home is what a kitchen has found out about itself, for every plan that is
// cooked in it.
type Home struct {
	Measures  measure.Measures // its own cups, tins and handfuls, by key
	Burners   []vessel.Burner  // with their water tests
	Pots      []vessel.Pot     // as they are known now
	Materials []OwnMaterial    // its own, and corrected ones of the pantry
	Kitchen   *Kitchen         // nil: never set
	US        bool             // shows US units beside the metric ones
}

// In returns the plan as it is cooked in a kitchen: with the measures, the
// water tests and the air of the kitchen over its own, with what is known of its pots, and
// with those of the kitchen's materials that it uses. A burner is known by its name, a pot
// by its name and measures. The plan itself stays as it is.
func (p *Plan) In(home Home) *Plan {
	in := p.Clone()
	in.us = home.US
	if len(home.Measures) > 0 {
		if in.Measures == nil {
			in.Measures = measure.Measures{}
		}
		maps.Copy(in.Measures, home.Measures)
	}
	if home.Kitchen != nil {
		in.Kitchen = *home.Kitchen
	}
	in.Burner = measured(in.Burner, home.Burners)
	for name, burner := range in.Burners {
		in.Burners[name] = measured(burner, home.Burners)
	}
	for name, pot := range in.Pots {
		in.Pots[name] = known(pot, home.Pots)
	}
	in.adopt(home.Materials)
	return in
}

// InUS reports whether US units are shown beside the metric ones, and amounts rounded to what those measure.
func (p *Plan) InUS() bool { return p.us }

// known gives a pot what the kitchen knows of the one of that name and of the same
// measures: its weight, what it is for, its bottom.
func known(p vessel.Pot, pots []vessel.Pot) vessel.Pot {
	for _, own := range pots {
		same := own
		same.MassG, same.Uses, same.Heavy, same.Burner, same.Name = p.MassG, p.Uses, p.Heavy, p.Burner, p.Name
		if p.Name == "" || !strings.EqualFold(own.Name, p.Name) || !reflect.DeepEqual(same, p) {
			continue
		}
		if own.MassG != nil {
			p.MassG = own.MassG
		}
		p.Uses, p.Heavy = slices.Clone(own.Uses), own.Heavy
	}
	return p
}

// HomePantry returns the pantry of a kitchen: the standard one with its own
// materials and corrected figures.
func HomePantry(home Home) *pantry.Pantry {
	c := &checker{} // the kitchen's materials were checked when they were stored
	return pantry.Standard().With(c.ownMaterials(&Plan{Materials: home.Materials}))
}

// Reread puts a plan that was changed in the program through the reader, so
// that no screen can make what a file could not.
func Reread(p *Plan) (*Plan, error) {
	data, err := p.JSON()
	if err != nil {
		return nil, err
	}
	return Read(data)
}

// measured gives a burner the water tests of the kitchen's burner of that name.
func measured(b vessel.Burner, known []vessel.Burner) vessel.Burner {
	for _, own := range known {
		if b.Name != "" && strings.EqualFold(own.Name, b.Name) {
			b.FlameW = maps.Clone(own.FlameW)
		}
	}
	return b
}

// adopt takes over the kitchen's figures of the materials that the plan uses.
func (p *Plan) adopt(own []OwnMaterial) {
	uses := map[string]bool{}
	note := func(item *Item) {
		if item != nil && item.Material != "" {
			uses[item.Material] = true
		}
	}
	for i := range p.Steps {
		for j := range p.Steps[i].Items {
			note(&p.Steps[i].Items[j])
		}
		note(p.Steps[i].In)
		note(p.Steps[i].Fat)
	}
	changed := false
	for _, o := range own {
		if !uses[o.Slug] {
			continue
		}
		at := slices.IndexFunc(p.Materials, func(m OwnMaterial) bool { return m.Slug == o.Slug })
		if at < 0 {
			p.Materials = append(p.Materials, o)
		} else {
			p.Materials[at] = o
		}
		changed = true
	}
	if changed {
		c := &checker{} // the kitchen's materials were checked when they were stored
		p.pantry = p.Pantry().With(c.ownMaterials(p))
	}
}

// KeyOf returns the key under which a plan has a measure: its name in small
// letters with hyphens, and the unit.
func KeyOf(name, unit string) string {
	var b strings.Builder
	for _, c := range strings.ToLower(strings.TrimSpace(name)) {
		switch {
		case c >= 'a' && c <= 'z', c >= '0' && c <= '9' && b.Len() > 0:
			b.WriteRune(c)
		case b.Len() > 0 && !strings.HasSuffix(b.String(), "-"):
			b.WriteByte('-')
		}
	}
	return fmt.Sprintf("%s_%s", strings.TrimRight(b.String(), "-"), unit)
}

// Settle writes the amounts of a plan from another kitchen in grams wherever
// they are given in a measure that is of another size here, so that the
// kitchen's own measures do not change what the plan meant. The plan's measures
// go. It returns how many amounts it rewrote.
func (p *Plan) Settle(home Home) int {
	rewritten := 0
	settle := func(item *Item) {
		if item == nil || item.Material == "" || item.Amount == "" {
			return
		}
		amount, err := measure.ParseAmount(item.Amount)
		material, there, errThere := p.Weigh(*item)
		if err != nil || errThere != nil {
			return
		}
		here, errHere := home.Measures.Grams(amount, material.Body())
		const same = 1e-9
		if errHere == nil && math.Abs(float64(here-there)) <= same*float64(there) {
			return
		}
		const digits = 4
		item.Amount, item.Also = fmt.Sprintf("%v g", measure.RoundSignificant(float64(there), digits)), ""
		rewritten++
	}
	for i := range p.Steps {
		for j := range p.Steps[i].Items {
			settle(&p.Steps[i].Items[j])
		}
		settle(p.Steps[i].In)
		settle(p.Steps[i].Fat)
		if s := &p.Steps[i]; s.Coconuts > 0 && p.Coconut() != (&Plan{Measures: home.Measures}).Coconut() {
			meat := measure.RoundSignificant(s.Coconuts*float64(p.Coconut()), 4)
			s.Coconuts, s.Items = 0, []Item{{Material: "coconut-meat", Amount: fmt.Sprintf("%v g", meat)}}
			rewritten++
		}
	}
	p.Measures = nil
	return rewritten
}
