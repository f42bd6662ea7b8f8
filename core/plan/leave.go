package plan

import (
	"maps"
	"slices"
	"strings"

	"kirdu/core/measure"
	"kirdu/core/vessel"
)

// Leaving things out. What is left out takes along what was made for it alone, so that
// nothing is prepared for nobody; targets that waited for it go with it.

// Faults of leaving out.
var (
	ErrNothingThere = measure.Code("plan.nothing-there")
	ErrOnlyStep     = measure.Code("plan.only-step")
)

// LeaveOut takes an item out of a step, and the step with its last one, with the
// preparations that nothing takes any more. Errors: ErrNothingThere, ErrOnlyStep.
func (p *Plan) LeaveOut(step, item int) error {
	if step < 0 || step >= len(p.Steps) || item < 0 || item >= len(p.Steps[step].Items) {
		return ErrNothingThere
	}
	if s := &p.Steps[step]; len(s.Items) == 1 && s.Do.IsPreparation() {
		return p.LeaveOutStep(step)
	}
	orphans := p.unusedParts()
	if !p.RemoveItem(step, item) {
		return ErrOnlyStep
	}
	return p.tidy(orphans)
}

// LeaveOutStep takes a step out. With a preparation goes what takes its parts, with any
// step the preparations that nothing takes any more. Errors: ErrNothingThere, ErrOnlyStep.
func (p *Plan) LeaveOutStep(step int) error {
	if step < 0 || step >= len(p.Steps) {
		return ErrNothingThere
	}
	orphans := p.unusedParts()
	var gone []string
	if p.Steps[step].Do.IsPreparation() && p.Steps[step].Of == "" {
		gone = p.Makes(step)
	}
	if !p.RemoveStep(step) {
		return ErrOnlyStep
	}
	for len(gone) > 0 {
		part := gone[0]
		more, err := p.withoutPart(part)
		if err != nil {
			return err
		}
		gone = append(gone[1:], more...)
	}
	return p.tidy(orphans)
}

// withoutPart takes a part out of everything that takes it. What was made of it alone is
// gone too, and comes back by its names.
func (p *Plan) withoutPart(part string) (gone []string, err error) {
	is := func(item Item) bool { return item.Part == part }
	for i := len(p.Steps) - 1; i >= 0; i-- {
		s := &p.Steps[i]
		if s.Fat != nil && is(*s.Fat) {
			s.Fat = nil
		}
		if s.In != nil && is(*s.In) {
			s.In, s.KeepLiquid = nil, false
		}
		if s.Of == part && s.Do == Mash {
			s.Of = ""
		}
		took := slices.ContainsFunc(s.Items, is)
		s.Items = slices.DeleteFunc(slices.Clone(s.Items), is)
		if s.Of != part && (!took || len(s.Items) > 0 || len(s.Presses) > 0 && s.Coconuts > 0) {
			continue
		}
		gone = append(gone, p.Makes(i)...)
		if !p.RemoveStep(i) {
			return nil, ErrOnlyStep
		}
	}
	return gone, nil
}

// unusedParts lists the parts that nothing takes.
func (p *Plan) unusedParts() []string {
	var unused []string
	for i := range p.Steps {
		for _, part := range p.Makes(i) {
			if !strings.HasSuffix(part, fatSuffix) && !p.isTaken(i, part) {
				unused = append(unused, part)
			}
		}
	}
	return unused
}

// isTaken reports whether a step after one takes a part, or works on it.
func (p *Plan) isTaken(after int, part string) bool {
	return slices.ContainsFunc(p.Steps[after+1:], func(s Step) bool { return (s.Of == part && s.Do != Mash) || s.takes([]string{part}) })
}

// Unused lists the preparations of which nothing, or only some of the presses, is taken
// by any step, with the parts that are not.
func (p *Plan) Unused() map[int][]string {
	unused := map[int][]string{}
	for i := range p.Steps {
		for _, part := range p.Makes(i) {
			if !strings.HasSuffix(part, fatSuffix) && !p.isTaken(i, part) {
				unused[i] = append(unused[i], part)
			}
		}
	}
	return unused
}

// tidy takes out the preparations that nothing takes any more, but for those that nothing
// took before, and what waited for or asks for what is gone.
func (p *Plan) tidy(before []string) error {
	for again := true; again; {
		again = false
		for i := len(p.Steps) - 1; i >= 0 && !again; i-- {
			made := p.Makes(i)
			if len(made) == 0 || slices.ContainsFunc(made, func(part string) bool { return p.isTaken(i, part) || slices.Contains(before, part) }) {
				continue
			}
			if !p.RemoveStep(i) {
				return ErrOnlyStep
			}
			again = true
		}
	}
	p.forget()
	return nil
}

// usualSimmer is how long a step cooks whose target is gone.
const usualSimmer measure.Minute = 10

// forget takes out targets and aims for parts that are not there any more.
func (p *Plan) forget() {
	there := map[string]bool{}
	for i := range p.Steps {
		for _, name := range p.Makes(i) {
			there[name] = true
		}
		for _, item := range p.Steps[i].Items {
			there[item.Material] = true
		}
	}
	known := func(part string) bool {
		base := strings.TrimRight(part, "0123456789")
		return there[part] || (base != part && there[strings.TrimSuffix(base, "-")])
	}
	for i := range p.Steps {
		u := p.Steps[i].Until
		if u == nil || u.Doneness == nil || known(u.Doneness.Of) {
			continue
		}
		until := *u
		until.Doneness = nil
		if until == (Until{MaxMinutes: until.MaxMinutes, OfStep: until.OfStep}) {
			until = Until{Minutes: new(usualSimmer)}
		}
		p.Steps[i].Until = &until
	}
	if len(p.ServedFrom) > 0 {
		p.ServedFrom = slices.DeleteFunc(slices.Clone(p.ServedFrom), func(name string) bool {
			return !slices.ContainsFunc(p.Steps, func(s Step) bool { return s.Do == Add && s.PotName() == name })
		})
	}
	if p.Aim != nil {
		maps.DeleteFunc(p.Aim.Doneness, func(part string, _ float64) bool { return !known(part) })
	}
}

// Carry moves a step like MoveStep, and with it, before it, what is prepared for it: a
// part is made before it is taken. It reports whether both places exist.
func (p *Plan) Carry(from, to int) bool {
	if !p.MoveStep(from, to) {
		return false
	}
	for moved, most := true, len(p.Steps)*len(p.Steps); moved && most > 0; most-- {
		moved = false
		for i := range p.Steps {
			made := p.Makes(i)
			if len(made) == 0 || p.Steps[i].TakesFromPot() {
				continue
			}
			first := slices.IndexFunc(p.Steps[:i], func(s Step) bool {
				return s.takes(made) || (p.Steps[i].Of == "" && s.Of != "" && s.Do.IsPreparation() && slices.Contains(made, s.Of))
			})
			// Work on a part goes before what takes it only if it was made before.
			if first < 0 || (p.Steps[i].Of != "" && !p.madeBefore(first, p.Steps[i].Of)) {
				continue
			}
			p.MoveStep(i, first)
			moved = true
			break
		}
	}
	return true
}

func (p *Plan) madeBefore(step int, part string) bool {
	return slices.ContainsFunc(p.Steps[:step], func(s Step) bool { return s.Do.IsPreparation() && s.Name == part })
}

// RenamePart lets everything that takes, works on, waits for or asks for a part that is
// called otherwise now follow; of a press its parts, of a fry the fat that it leaves.
func (p *Plan) RenamePart(from, to string) {
	if from == "" || to == "" || from == to {
		return
	}
	follow := func(name *string) {
		if *name == from {
			*name = to
		} else if rest, is := strings.CutPrefix(*name, from+"."); is && (rest == "fat" || strings.Trim(rest, "12345") == "") {
			*name = to + "." + rest
		}
	}
	for i := range p.Steps {
		s := &p.Steps[i]
		for j := range s.Items {
			follow(&s.Items[j].Part)
		}
		for _, item := range []*Item{s.In, s.Fat} {
			if item != nil {
				follow(&item.Part)
			}
		}
		follow(&s.Of)
		if s.Until != nil && s.Until.Doneness != nil {
			until, target := *s.Until, *s.Until.Doneness
			follow(&target.Of)
			until.Doneness = &target
			s.Until = &until
		}
	}
	if p.Aim != nil && p.Aim.Doneness != nil {
		if asked, is := p.Aim.Doneness[from]; is {
			delete(p.Aim.Doneness, from)
			p.Aim.Doneness[to] = asked
		}
	}
}

// NamePot gives a pot a name that no pot of the plan has, made of its own, and puts it in.
// It returns the name.
func (p *Plan) NamePot(pot vessel.Pot) string {
	slug := strings.Trim(strings.Map(func(r rune) rune {
		switch {
		case r >= 'a' && r <= 'z', r >= '0' && r <= '9':
			return r
		case r >= 'A' && r <= 'Z':
			return r + 'a' - 'A'
		}
		return '-'
	}, pot.Name), "-")
	if slug == "" {
		slug = string(pot.Shape)
	}
	const most = 40
	name := UniqueName(slug[:min(len(slug), most)], func(name string) bool { _, taken := p.Pots[name]; return taken })
	p.Pots[name] = pot
	return name
}

// PotUsers lists the steps that are in a pot, pour it, or use it as their pan.
func (p *Plan) PotUsers(name string) []int {
	var users []int
	for i := range p.Steps {
		s := &p.Steps[i]
		pours := func(item Item) bool { return item.Pot == name }
		if (!s.Do.IsPreparation() && s.PotName() == name) || s.Pan == name || slices.ContainsFunc(s.Items, pours) {
			users = append(users, i)
		}
	}
	return users
}

// ErrPotUsed is given for a pot that a step still needs.
var ErrPotUsed = measure.Code("plan.pot-used")

// RemovePot takes a pot out that no step needs. Errors: ErrPotUsed.
func (p *Plan) RemovePot(name string) error {
	if name == MainPot || len(p.PotUsers(name)) > 0 || slices.Contains(p.Served(), name) {
		return ErrPotUsed.With(name)
	}
	delete(p.Pots, name)
	return nil
}
