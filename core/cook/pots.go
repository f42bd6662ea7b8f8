package cook

import (
	"maps"
	"slices"
	"time"

	"kirdu/core/plan"
)

// Pot returns the pot that the present step is about: its own; of a preparation, the one that
// was on the flame last. When all is done it is the served one.
func (s *State) Pot() string {
	served := s.Plan.Served()[0]
	if s.Done() {
		return served
	}
	if pot, own := potOf(&s.Plan.Steps[s.Step]); own {
		return pot
	}
	latest, since := served, time.Time{}
	for i := range s.Plan.Steps {
		pot, own := potOf(&s.Plan.Steps[i])
		if begin := s.Spans[i].Begin; own && begin.After(since) && !s.poured(pot) {
			latest, since = pot, begin
		}
	}
	return latest
}

// StepPot returns the pot that the present step is in, if it is in one.
func (s *State) StepPot() (pot string, inPot bool) {
	if s.Done() {
		return "", false
	}
	return potOf(&s.Plan.Steps[s.Step])
}

// potOf returns the pot of a step that is in one, or takes from one.
func potOf(step *plan.Step) (pot string, own bool) {
	if !step.Do.IsPreparation() {
		return step.PotName(), true
	}
	for _, item := range step.Items {
		if item.Pot != "" {
			return item.Pot, true
		}
	}
	return "", false
}

// poured reports whether a pot was emptied into another.
func (s *State) poured(pot string) bool {
	for i := range s.Plan.Steps {
		for _, item := range s.Plan.Steps[i].Items {
			if item.Pot == pot && (item.Share == nil || *item.Share >= 1) && !s.Spans[i].End.IsZero() {
				return true
			}
		}
	}
	return false
}

// Lit lists the pots that have been over the flame and are not emptied yet, the served one
// first.
func (s *State) Lit() (pots []string) {
	for _, pot := range s.Plan.PotNamesSorted() {
		if s.poured(pot) {
			continue
		}
		for i := range s.Plan.Steps {
			if s.inPot(i, pot) && !s.Spans[i].Begin.IsZero() {
				pots = append(pots, pot)
				break
			}
		}
	}
	served := s.Plan.Served()[0]
	slices.SortStableFunc(pots, func(a, b string) int {
		switch {
		case a == served && b != served:
			return -1
		case b == served && a != served:
			return 1
		}
		return 0
	})
	return pots
}

// inPot reports whether a step takes time in a pot.
func (s *State) inPot(step int, pot string) bool {
	one := &s.Plan.Steps[step]
	return one.Lasts() && one.PotName() == pot
}

// Only returns the cook of one pot by itself: a plan that ends with what is in it, what was
// told of it, and its clock. Of the first served pot that is the whole cook. steps are those of
// the whole plan, by index, that the steps of this one are.
func (s *State) Only(pot string) (only *State, steps []int) {
	if pot == s.Plan.Served()[0] {
		for i := range s.Plan.Steps {
			steps = append(steps, i)
		}
		return s, steps
	}
	steps = s.Plan.Into(pot)
	only = &State{Plan: s.Plan.Only(pot, steps), Events: s.Events, pauses: maps.Clone(s.pauses), strays: maps.Clone(s.strays),
		guessed: maps.Clone(s.guessed)}
	for _, i := range steps {
		only.IDs = append(only.IDs, s.IDs[i])
		only.Spans = append(only.Spans, s.Spans[i])
	}
	for _, id := range s.line {
		if i := only.index(id); i >= 0 && !only.main(i) {
			only.line = append(only.line, id)
		}
	}
	for i, id := range only.IDs {
		if only.main(i) {
			only.line = append(only.line, id)
		}
	}
	only.at = slices.IndexFunc(only.line, func(id int) bool { return only.Spans[only.index(id)].End.IsZero() })
	if !s.Done() {
		if at := slices.Index(only.line, s.ID()); at >= 0 {
			only.at = at
		}
	}
	if only.at < 0 {
		only.at = len(only.line)
	}
	only.Step = len(only.Plan.Steps)
	if only.at < len(only.line) {
		only.Step = only.index(only.line[only.at])
	}
	for _, one := range s.Readings {
		if one.Pot == pot {
			only.Readings = append(only.Readings, one)
		}
	}
	for _, one := range s.Looks {
		if one.Pot == pot {
			only.Looks = append(only.Looks, one)
		}
	}
	for _, one := range s.Whistles {
		if only.index(one.Step) >= 0 {
			only.Whistles = append(only.Whistles, one)
		}
	}
	return only, steps
}

// Boiled reports whether the cook told that the served pot boils.
func (s *State) Boiled() bool {
	for i := range s.Plan.Steps {
		step := &s.Plan.Steps[i]
		if s.main(i) && step.Do == plan.Heat && step.Until != nil && step.Until.Boil && !s.Spans[i].End.IsZero() && !s.Guessed(i) {
			return true
		}
	}
	return false
}

// CanLeave reports whether the present step goes on by itself while the cook turns to the next:
// it is beside the served pot, and what comes next is not in its own.
func (s *State) CanLeave() bool {
	if s.Done() || s.main(s.Step) {
		return false
	}
	pot, inPot := potOf(&s.Plan.Steps[s.Step])
	if !inPot {
		return true
	}
	ahead := s.Ahead()
	if len(ahead) == 0 {
		return false
	}
	next, in := potOf(&s.Plan.Steps[ahead[0]])
	return (!in || next != pot) && !s.Plan.Feeds(s.Step, ahead[0])
}

// Since returns what events call the step that was done last in the line; -1 for none.
func (s *State) Since() int {
	if s.at == 0 {
		return -1
	}
	return s.line[s.at-1]
}
