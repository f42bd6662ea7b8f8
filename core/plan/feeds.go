package plan

import "slices"

// Feeds reports whether a step must be done before another: what it makes goes into it, or
// both are in one pot or pan, of which it is the earlier.
func (p *Plan) Feeds(from, to int) bool {
	if from >= to {
		return false
	}
	a, b := &p.Steps[from], &p.Steps[to]
	if !a.Do.IsPreparation() {
		return !b.Do.IsPreparation() && a.PotName() == b.PotName() || b.pours(a.PotName())
	}
	if made := p.Makes(from); b.takes(made) || b.Do != Mash && slices.Contains(made, b.Of) {
		return true
	}
	return a.Pan != "" && (a.Pan == b.Pan || !b.Do.IsPreparation() && b.PotName() == a.Pan)
}

// Lasts reports whether a step takes time in a pot.
func (s *Step) Lasts() bool {
	verb := s.Do.Descriptor()
	return !verb.Preparation && !verb.AtOnce
}

// pours reports whether a step takes what is in a pot.
func (s *Step) pours(pot string) bool {
	return slices.ContainsFunc(s.Items, func(item Item) bool { return item.Pot != "" && item.Pot == pot })
}

// Into returns the steps by which a pot comes to be what it is, by index: its own, and all
// that feeds them, in their order.
func (p *Plan) Into(pot string) (steps []int) {
	for i := len(p.Steps) - 1; i >= 0; i-- {
		s := &p.Steps[i]
		if !s.Do.IsPreparation() && s.PotName() == pot || slices.ContainsFunc(steps, func(to int) bool { return p.Feeds(i, to) }) {
			steps = append(steps, i)
		}
	}
	slices.Reverse(steps)
	return steps
}

// Only returns a plan that ends with what is in a pot: of the steps that Into lists, in
// their order, and served from that pot.
func (p *Plan) Only(pot string, steps []int) *Plan {
	part := p.Clone()
	part.ServedFrom = []string{pot}
	part.Steps = make([]Step, len(steps))
	whole := p.Clone()
	for k, i := range steps {
		part.Steps[k] = whole.Steps[i]
	}
	return part
}
