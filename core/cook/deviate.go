package cook

import (
	"fmt"
	"maps"
	"math"
	"slices"
	"time"

	"kirdu/core/measure"
	"kirdu/core/plan"
	"kirdu/core/vessel"
)

// deviations are what went otherwise than planned: each changes the plan from
// here on, or refuses. Marks that are masses follow what went in or stayed out,
// so that the pudding is boiled down as far as before.
var deviations map[Kind]func(*State, Event) error

func init() {
	deviations = map[Kind]func(*State, Event) error{Added: (*State).added, Turned: (*State).turned, Paused: (*State).paused,
		Early: (*State).early, Forgot: (*State).forgot, Skipped: (*State).skipped, Swapped: (*State).swapped, Mended: (*State).mended}
}

// IsDeviation reports whether an event of this kind changes the plan.
func (k Kind) IsDeviation() bool { _, known := deviations[k]; return known }

// clone returns a copy that shares nothing that a deviation changes.
func (s *State) clone() *State {
	c := *s
	c.Plan = s.Plan.Clone()
	c.IDs, c.Spans, c.line = slices.Clone(s.IDs), slices.Clone(s.Spans), slices.Clone(s.line)
	c.Readings, c.Looks, c.Whistles = slices.Clip(s.Readings), slices.Clip(s.Looks), slices.Clip(s.Whistles)
	c.pauses, c.strays, c.guessed, c.before = maps.Clone(s.pauses), maps.Clone(s.strays), maps.Clone(s.guessed), maps.Clone(s.before)
	return &c
}

// insert puts a step at an index, and into the line before a place if it is one
// of the pot.
func (s *State) insert(index, place int, step plan.Step, span Span) (id int) {
	id = s.beside(index, step)
	s.Spans[index] = span
	s.line = slices.Insert(s.line, place, id)
	if !s.Done() {
		s.Step = s.index(s.line[s.at])
	} else {
		s.Step = len(s.Plan.Steps)
	}
	return id
}

// pass puts a step that is done before the present one.
func (s *State) pass(index int, step plan.Step, span Span) (id int) {
	place := s.at
	s.at++
	return s.insert(index, place, step, span)
}

// Open reports whether something can go into the pot now.
func (s *State) Open() bool {
	present := s.Present()
	return s.IsLit(s.Pot()) && (present == nil || !present.Do.Descriptor().Closed)
}

// here returns the index at which something can happen at a moment: before the
// present step of the pot, which is parted if it is under way.
func (s *State) here(at time.Time) (int, error) {
	if s.Done() {
		return len(s.Plan.Steps), nil
	}
	i := s.Step
	if _, inPot := potOf(&s.Plan.Steps[i]); !inPot {
		// A job before the flame: what happens, happens before the pot's first step.
		for _, next := range s.Ahead() {
			if s.main(next) {
				return next, nil
			}
		}
		return len(s.Plan.Steps), nil
	}
	step := &s.Plan.Steps[i]
	begin := s.Spans[i].Begin
	const least = 3 * time.Second
	gone := at.Sub(begin)
	switch verb := step.Do.Descriptor(); {
	case verb.Closed:
		return 0, ErrClosed
	case !verb.Parts:
		return i, nil
	}
	if gone < least {
		return i, nil
	}
	first := s.Plan.Clone().Steps[i]
	s.pass(i, first, Span{begin, at})
	minutes := measure.Minute(math.Round(gone.Minutes()*1e4) / 1e4)
	rest := &s.Plan.Steps[i+1]
	const left = 0.1 // minutes: a step that is over its time still has to be ended by the cook
	if step.Do == plan.Heat {
		s.Plan.Steps[i].Until = &plan.Until{Minutes: &minutes}
		if whole := rest.Until.Minutes; whole != nil {
			until, remaining := *rest.Until, max(*whole-minutes, left)
			until.Minutes = &remaining
			rest.Until = &until
		}
	} else {
		remaining := max(rest.FullMinutes()-minutes, left)
		s.Plan.Steps[i].Minutes, rest.Minutes = &minutes, &remaining
	}
	s.Plan.Steps[i].Note = ""
	if s.pauses[s.IDs[i+1]] {
		s.pauses[s.IDs[i]] = true
	}
	s.Spans[i+1] = Span{Begin: at}
	return i + 1, nil
}

// lit reports whether the served pot has been begun.
func (s *State) lit() bool { _, ok := s.Zero(); return ok }

// IsLit reports whether a pot has been begun.
func (s *State) IsLit(pot string) bool {
	for i, span := range s.Spans {
		if s.inPot(i, pot) && !span.Begin.IsZero() {
			return true
		}
	}
	return false
}

// overFlame reports whether the present step heats a pot.
func (s *State) overFlame() bool {
	present := s.Present()
	return present != nil && present.Do == plan.Heat && s.IsLit(present.PotName())
}

// Marks returns the steps to come, by what events call them, that end at a mass:
// what is left of the pot, or a mass itself.
func (s *State) Marks() (ids []int) {
	for i := range s.Plan.Steps {
		if u := s.Plan.Steps[i].Until; u != nil && (u.RemainingPct != nil || u.MassG != nil) && s.Spans[i].End.IsZero() && s.main(i) {
			ids = append(ids, s.IDs[i])
		}
	}
	return ids
}

// settle sets the marks to come to what an event says, and checks the changed
// plan.
func (s *State) settle(e Event) error {
	for _, id := range s.Marks() {
		mass, known := e.Marks[id]
		if !known {
			continue
		}
		step := &s.Plan.Steps[s.index(id)]
		until := *step.Until
		until.RemainingPct, until.OfStep, until.MassG = nil, nil, &mass
		step.Until = &until
	}
	read, err := plan.Reread(s.Plan)
	if err != nil {
		return ErrRefused.With(err)
	}
	s.Plan = read
	return nil
}

// added puts more of something in.
func (s *State) added(e Event) error {
	if _, known := s.Plan.Pantry().Material(e.Material); !known {
		return ErrMaterial
	}
	if !(e.Mass > 0 && e.Mass <= measure.MaxGrams) {
		return ErrMass
	}
	at, err := s.here(e.At)
	if err != nil {
		return err
	}
	item := plan.Item{Material: e.Material, Amount: grams(float64(e.Mass))}
	s.strays[s.pass(at, s.addition(item), Span{e.At, e.At})] = true
	return nil
}

func grams(mass float64) string {
	const tenths = 10
	return fmt.Sprintf("%g g", max(math.Round(mass*tenths)/tenths, 1.0/tenths))
}

// addition returns the step that puts items into the pot that the present step is about.
func (s *State) addition(items ...plan.Item) plan.Step {
	step := plan.Step{Do: plan.Add, Items: items}
	if pot := s.Pot(); pot != s.Plan.Served()[0] {
		step.Pot = pot
		return step
	}
	return s.Plan.IntoServed(step)
}

// turned changes the flame under the pot: to a share of the burner, or to what is kept by
// eye, which Part names.
func (s *State) turned(e Event) error {
	byEye := vessel.Flame(e.Part)
	if !(e.Value >= 0 && e.Value <= 100) || !s.overFlame() ||
		(e.Part != "" && !byEye.Regulated()) {
		return ErrFlame
	}
	at, err := s.here(e.At)
	if err != nil {
		return err
	}
	percent := e.Value
	s.Plan.Steps[at].TurnTo("")
	s.Plan.Steps[at].FlamePct = &percent
	if e.Part != "" {
		s.Plan.Steps[at].TurnTo(byEye)
	}
	s.strays[s.IDs[at]] = true
	return nil
}

// paused takes the pot off the flame until further notice.
func (s *State) paused(e Event) error {
	if !s.overFlame() {
		return ErrFlame
	}
	present := s.Present()
	at, err := s.here(e.At)
	if err != nil {
		return err
	}
	const soon measure.Minute = 1
	minutes := soon
	rest := plan.Step{Do: plan.Rest, Minutes: &minutes, Pot: present.Pot}
	s.Spans[at] = Span{}
	id := s.insert(at, s.at, rest, Span{Begin: e.At})
	s.pauses[id], s.strays[id] = true, true
	return nil
}

// Taken returns the items of an addition that an event means, 0 for all and else
// one of them from 1, and the rest.
func Taken(step *plan.Step, item int) (meant, rest []plan.Item, ok bool) {
	if step.Do != plan.Add || item < 0 || item > len(step.Items) {
		return nil, nil, false
	}
	for k, one := range step.Items {
		if item == 0 || k == item-1 {
			meant = append(meant, one)
		} else {
			rest = append(rest, one)
		}
	}
	return meant, rest, true
}

// remove takes items out of the addition at an index, and the step with the
// last of them.
func (s *State) remove(i int, rest []plan.Item) error {
	if len(rest) > 0 {
		s.Plan.Steps[i].Items = rest
		return nil
	}
	if !s.Plan.RemoveStep(i) {
		return ErrOnlyStep
	}
	if place := slices.Index(s.line, s.IDs[i]); place >= 0 {
		s.line = slices.Delete(s.line, place, place+1)
		if place < s.at {
			s.at--
		}
	}
	s.IDs, s.Spans = slices.Delete(s.IDs, i, i+1), slices.Delete(s.Spans, i, i+1)
	if s.Done() {
		s.Step = len(s.Plan.Steps)
	} else {
		s.Step = s.index(s.line[s.at])
	}
	return nil
}

// early puts in now what comes later.
func (s *State) early(e Event) error {
	i := s.index(e.Step)
	if i < 0 || !s.main(i) || !s.Spans[i].Begin.IsZero() {
		return ErrLater
	}
	meant, rest, ok := Taken(&s.Plan.Steps[i], e.Item)
	if !ok {
		return ErrLater
	}
	step := s.Plan.Steps[i]
	step.Items = meant
	if err := s.remove(i, rest); err != nil {
		return err
	}
	at, err := s.here(e.At)
	if err != nil {
		return err
	}
	s.strays[s.pass(at, step, Span{e.At, e.At})] = true
	for _, item := range meant {
		// What is in is ready.
		if job := s.Plan.Maker(item.Part); job >= 0 && s.Spans[job].End.IsZero() {
			if s.Spans[job].Begin.IsZero() {
				s.Spans[job].Begin = e.At
			}
			s.Spans[job].End = Later(e.At, s.Spans[job].Begin)
		}
	}
	return nil
}

// forgot takes out what should be in and is not: to put it in is what is to be
// done now.
func (s *State) forgot(e Event) error {
	i := s.index(e.Step)
	if i < 0 || !s.main(i) || s.Spans[i].End.IsZero() {
		return ErrBefore
	}
	step := s.Plan.Clone().Steps[i]
	var rest []plan.Item
	if step.Do == plan.Add {
		meant, others, ok := Taken(&s.Plan.Steps[i], e.Item)
		if !ok {
			return ErrBefore
		}
		step.Items, rest = meant, others
	} else if step.Do != plan.Mash && step.Do != plan.Drain {
		return ErrBefore
	}
	if err := s.remove(i, rest); err != nil {
		return err
	}
	at, err := s.here(e.At)
	if err != nil {
		return err
	}
	if !s.Done() && s.main(s.Step) {
		s.Spans[s.Step] = Span{}
	}
	done := s.Done()
	id := s.insert(at, s.at, step, Span{Begin: e.At})
	s.strays[id] = true
	if done || s.index(s.line[s.at]) != s.Step {
		s.Step = s.index(id)
	}
	return nil
}

// skipped leaves out a step to come, or some of what the present one or one to come puts in.
func (s *State) skipped(e Event) error {
	i := s.index(e.Step)
	if i < 0 || !s.Spans[i].End.IsZero() {
		return ErrSkip
	}
	parts, rest := s.Plan.Steps[i].Items, []plan.Item(nil)
	if e.Item > 0 {
		meant, others, ok := Taken(&s.Plan.Steps[i], e.Item)
		if !ok {
			return ErrSkip
		}
		parts, rest = meant, others
	}
	// Of the present step only some of several things can be left out: it is done with the rest.
	if len(rest) == 0 && (i == s.Step || !s.Spans[i].Begin.IsZero()) {
		return ErrSkip
	}
	if err := s.remove(i, rest); err != nil {
		return err
	}
	for _, item := range parts {
		// A job that nothing takes any more is left out, too.
		if job := s.Plan.Maker(item.Part); job >= 0 && s.Spans[job].Begin.IsZero() && !s.takes(item.Part) {
			if err := s.remove(job, nil); err != nil {
				return err
			}
		}
	}
	return nil
}

// takes reports whether a step takes a part.
func (s *State) takes(part string) bool {
	return slices.ContainsFunc(s.Plan.Steps, func(step plan.Step) bool {
		return step.Of == part || slices.ContainsFunc(step.Items, func(item plan.Item) bool { return item.Part == part })
	})
}

// swapped puts another material in the place of an item, in whatever step.
func (s *State) swapped(e Event) error {
	i := s.index(e.Step)
	if i < 0 || e.Item < 1 || e.Item > len(s.Plan.Steps[i].Items) {
		return ErrStep
	}
	if _, known := s.Plan.Pantry().Material(e.Material); !known {
		return ErrMaterial
	}
	if !(e.Mass > 0 && e.Mass <= measure.MaxGrams) {
		return ErrMass
	}
	old := s.Plan.Steps[i].Items[e.Item-1]
	if _, _, err := s.Plan.Weigh(old); err != nil || old.Material == "" {
		return ErrMaterial
	}
	s.Plan.Steps[i].Items[e.Item-1] = plan.Item{Material: e.Material, Amount: grams(float64(e.Mass))}
	for k := range s.Plan.Steps {
		if u := s.Plan.Steps[k].Until; u != nil && u.Doneness != nil && u.Doneness.Of == old.Material && s.main(i) {
			u.Doneness.Of = e.Material
		}
	}
	s.strays[s.IDs[i]] = true
	return nil
}
