package cook

import (
	"fmt"
	"maps"
	"math"
	"slices"
	"time"

	"kirdu/core/forecast"
	"kirdu/core/measure"
	"kirdu/core/plan"
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
	c.pauses, c.strays = maps.Clone(s.pauses), maps.Clone(s.strays)
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

// closed are the verbs during which nothing goes in.
var closed = map[plan.Verb]bool{plan.Pressure: true, plan.Bake: true, plan.Cool: true, plan.Chill: true, plan.Caramel: true}

// Open reports whether something can go into the pot now.
func (s *State) Open() bool {
	present := s.Present()
	return s.lit() && (present == nil || !closed[present.Do])
}

// here returns the index at which something can happen at a moment: before the
// present step of the pot, which is parted if it is under way.
func (s *State) here(at time.Time) (int, error) {
	if s.Done() {
		return len(s.Plan.Steps), nil
	}
	i := s.Step
	if !s.main(i) {
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
	switch step.Do {
	case plan.Heat, plan.Rest, plan.Hold:
	default:
		if closed[step.Do] {
			return 0, ErrClosed
		}
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

// lit reports whether the pot has been begun.
func (s *State) lit() bool { _, ok := s.Zero(); return ok }

// settle checks the changed plan and sets the marks to come: delta says by how
// much a step's mark, a mass, moves.
func (s *State) settle(before *State, at time.Time, delta func(id int, f *forecast.Forecast, step int) float64) error {
	old := before.Replay(at)
	f := forecast.Run(old, forecast.Options{CourseOnly: true})
	for i := range s.Plan.Steps {
		u := s.Plan.Steps[i].Until
		was := before.index(s.IDs[i])
		if u == nil || (u.RemainingPct == nil && u.MassG == nil) || was < 0 || !s.Spans[i].End.IsZero() || !s.main(i) || f.Steps[was].MassG == nil {
			continue
		}
		const digits = 4
		target := measure.Gram(measure.RoundSignificant(max(*f.Steps[was].MassG+delta(s.IDs[i], f, was), 1), digits))
		until := *u
		until.RemainingPct, until.OfStep, until.MassG = nil, nil, &target
		s.Plan.Steps[i].Until = &until
	}
	data, err := s.Plan.JSON()
	if err != nil {
		return err
	}
	read, err := plan.Read(data)
	if err != nil {
		return fmt.Errorf("%w: %w", ErrRefused, err)
	}
	s.Plan = read
	return nil
}

// liquidWater is how much water, in g per 100 g, makes a liquid of what has no
// tissue.
const liquidWater = 60

// into returns by how much a mark moves when something goes in before it: dry
// things by their mass; a liquid boils down with the rest, as far as that does.
func into(p *plan.Plan, material string, mass float64) func(f *forecast.Forecast, step int) float64 {
	m, known := p.Pantry().Material(material)
	liquid := known && m.Water > liquidWater && m.Kinetics == nil
	return func(f *forecast.Forecast, step int) float64 {
		if !liquid {
			return mass
		}
		for k := step; k >= 0; k-- {
			if f.Steps[k].Do == plan.Add && f.Steps[k].MassG != nil && *f.Steps[k].MassG > 0 {
				return mass * min(measure.Ratio(*f.Steps[step].MassG, *f.Steps[k].MassG), 1)
			}
		}
		return mass
	}
}

// added puts more of something in.
func (s *State) added(e Event) error {
	if _, known := s.Plan.Pantry().Material(e.Material); !known {
		return ErrMaterial
	}
	if !(e.Mass > 0 && e.Mass <= measure.MaxGrams) {
		return ErrMass
	}
	before := s.clone()
	at, err := s.here(e.At)
	if err != nil {
		return err
	}
	item := plan.Item{Material: e.Material, Amount: grams(float64(e.Mass))}
	s.strays[s.pass(at, s.addition(item), Span{e.At, e.At})] = true
	moves := into(s.Plan, e.Material, float64(e.Mass))
	return s.settle(before, e.At, func(_ int, f *forecast.Forecast, step int) float64 { return moves(f, step) })
}

func grams(mass float64) string {
	const tenths = 10
	return fmt.Sprintf("%g g", max(math.Round(mass*tenths)/tenths, 1.0/tenths))
}

// addition returns the step that puts items into the served pot.
func (s *State) addition(items ...plan.Item) plan.Step {
	return s.Plan.IntoServed(plan.Step{Do: plan.Add, Items: items})
}

// turned changes the flame under the pot.
func (s *State) turned(e Event) error {
	present := s.Present()
	if !(e.Value >= 0 && e.Value <= 100) || present == nil || present.Do != plan.Heat || !s.main(s.Step) {
		return ErrFlame
	}
	before := s.clone()
	at, err := s.here(e.At)
	if err != nil {
		return err
	}
	percent := e.Value
	s.Plan.Steps[at].Flame, s.Plan.Steps[at].FlamePct = "", &percent
	s.strays[s.IDs[at]] = true
	return s.settle(before, e.At, still)
}

// still leaves the marks where they are.
func still(int, *forecast.Forecast, int) float64 { return 0 }

// paused takes the pot off the flame until further notice.
func (s *State) paused(e Event) error {
	present := s.Present()
	if present == nil || !s.lit() || !s.main(s.Step) || present.Do != plan.Heat {
		return ErrFlame
	}
	before := s.clone()
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
	return s.settle(before, e.At, still)
}

// taken returns the items of an addition that an event means, and the rest.
func taken(step *plan.Step, item int) (meant, rest []plan.Item, ok bool) {
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

// massOf returns what items bring into the pot; f and step are where the plan
// puts them in. Parts weigh what the step makes heavier and no material does.
func (s *State) massOf(p *plan.Plan, items []plan.Item, f *forecast.Forecast, step int) float64 {
	var before, known float64
	for k := step - 1; k >= 0; k-- {
		if f.Steps[k].MassG != nil && s.main(k) {
			before = *f.Steps[k].MassG
			break
		}
	}
	parts := 0
	for _, item := range p.Steps[step].Items {
		if _, mass, err := p.Weigh(item); err == nil && item.Material != "" {
			known += float64(mass)
		} else {
			parts++
		}
	}
	each := 0.0
	if parts > 0 && f.Steps[step].MassG != nil {
		each = max(0, *f.Steps[step].MassG-before-known) / float64(parts)
	}
	sum := 0.0
	for _, item := range items {
		if _, mass, err := p.Weigh(item); err == nil && item.Material != "" {
			sum += float64(mass)
		} else {
			sum += each
		}
	}
	return sum
}

// remove takes items out of the addition at an index, and the step with the
// last of them.
func (s *State) remove(i int, rest []plan.Item) error {
	if len(rest) > 0 {
		s.Plan.Steps[i].Items = rest
		return nil
	}
	if !s.Plan.RemoveStep(i) {
		return ErrRefused
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
	meant, rest, ok := taken(&s.Plan.Steps[i], e.Item)
	if !ok {
		return ErrLater
	}
	before := s.clone()
	f := forecast.Run(before.Replay(e.At), forecast.Options{CourseOnly: true})
	mass, place := s.massOf(s.Plan, meant, f, i), i
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
			s.Spans[job].End = later(e.At, s.Spans[job].Begin)
		}
	}
	return s.settle(before, e.At, func(_ int, _ *forecast.Forecast, step int) float64 {
		if step < place {
			return mass
		}
		return 0
	})
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
		meant, others, ok := taken(&s.Plan.Steps[i], e.Item)
		if !ok {
			return ErrBefore
		}
		step.Items, rest = meant, others
	} else if step.Do != plan.Mash && step.Do != plan.Drain {
		return ErrBefore
	}
	before := s.clone()
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
	return s.settle(before, e.At, still)
}

// skipped leaves a step to come out.
func (s *State) skipped(e Event) error {
	i := s.index(e.Step)
	if i < 0 || i == s.Step || !s.Spans[i].Begin.IsZero() {
		return ErrSkip
	}
	before := s.clone()
	mass := 0.0
	if s.main(i) && s.Plan.Steps[i].Do == plan.Add {
		f := forecast.Run(before.Replay(e.At), forecast.Options{CourseOnly: true})
		mass = s.massOf(s.Plan, s.Plan.Steps[i].Items, f, i)
	}
	parts := s.Plan.Steps[i].Items
	if err := s.remove(i, nil); err != nil {
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
	return s.settle(before, e.At, func(_ int, _ *forecast.Forecast, step int) float64 {
		if step > i {
			return -mass
		}
		return 0
	})
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
	before := s.clone()
	old := s.Plan.Steps[i].Items[e.Item-1]
	_, was, err := s.Plan.Weigh(old)
	if err != nil || old.Material == "" {
		return ErrMaterial
	}
	s.Plan.Steps[i].Items[e.Item-1] = plan.Item{Material: e.Material, Amount: grams(float64(e.Mass))}
	for k := range s.Plan.Steps {
		if u := s.Plan.Steps[k].Until; u != nil && u.Doneness != nil && u.Doneness.Of == old.Material && s.main(i) {
			u.Doneness.Of = e.Material
		}
	}
	s.strays[s.IDs[i]] = true
	more := float64(e.Mass - was)
	return s.settle(before, e.At, func(_ int, _ *forecast.Forecast, step int) float64 {
		if step > i {
			return more
		}
		return 0
	})
}
