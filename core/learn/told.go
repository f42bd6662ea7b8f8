package learn

import (
	"maps"
	"slices"
	"time"

	"kirdu/core/cook"
	"kirdu/core/forecast"
	"kirdu/core/measure"
	"kirdu/core/plan"
	"kirdu/core/rescue"
	"kirdu/core/timetable"
)

// LineOf returns the steps of a plan in the order they are come to, by index:
// first the jobs that must be begun before the pot is, then its own steps. Other
// jobs go on beside. It is stored when a cook begins.
func LineOf(p *plan.Plan) []int {
	own := cook.OwnSteps(p)
	var jobs []int
	for i := range p.Steps {
		if !slices.Contains(own, i) {
			jobs = append(jobs, i)
		}
	}
	if len(jobs) == 0 {
		return own
	}
	const atOnce = 0.5 // minutes before the pot that count as with it
	f := forecast.Run(p, forecast.Options{CourseOnly: true})
	course := timetable.Alone(p, f)
	line := make([]int, 0, len(p.Steps))
	for _, i := range course.Order { // by the clock of one cook
		if slices.Contains(jobs, i) && f.Steps[i].StartMin <= -atOnce && !fitsBeside(p, &course, i) {
			line = append(line, i)
		}
	}
	return append(line, own...)
}

// fitsBeside reports whether a preparation need not hold up a pot that goes on by itself before
// the served one: it is done while that does.
func fitsBeside(p *plan.Plan, course *timetable.Course, i int) bool {
	if !p.Steps[i].Do.IsPreparation() || p.Steps[i].TakesFromPot() {
		return false
	}
	for j := range p.Steps {
		step := &p.Steps[j]
		byItself := step.Do == plan.Pressure || step.Do == plan.Bake || step.Do == plan.Rest || step.Do == plan.Hold
		if !byItself || step.PotName() == p.Served()[0] || slices.Contains(p.Into(step.PotName()), i) {
			continue
		}
		if course.Steps[i].Start < course.Steps[j].End && course.Steps[i].End > course.Steps[j].Start {
			return true
		}
	}
	return false
}

// LogOf returns the log of a cook with what has to be worked out of it: its line,
// and what each event does to the marks. What is there already stays.
func LogOf(p *plan.Plan, begun time.Time, events []cook.Event) cook.Log {
	log := cook.Log{Plan: p, Line: LineOf(p), Begun: begun}
	for _, e := range events {
		if e.Marks == nil && e.Lasted == nil {
			e = Tell(log, e)
		}
		log.Events = append(log.Events, e)
	}
	return log
}

// Tell returns an event with what it does to the marks to come, as the log
// stands: they follow what goes in or stays out, so that the pudding is boiled
// down as far as before; and with how long the steps took of which it tells too soon.
// An event that changes neither, or is refused, comes back as it is.
func Tell(log cook.Log, e cook.Event) cook.Event {
	s := log.Fold()
	switch {
	case e.Kind == cook.Undone:
		e.Marks = without(log, e.Part)
	case e.Kind.IsDeviation():
		e.Marks = marksAfter(&s, e)
	case e.Kind == cook.Next && e.Lasted == nil:
		e.Lasted = caught(&s, e)
	}
	return e
}

// without returns the marks to come as they are if an event had never been told.
func without(log cook.Log, id string) map[int]measure.Gram {
	gone := map[string]bool{id: true}
	for _, e := range log.Events {
		if e.Kind == cook.Undone {
			gone[e.Part] = true
		}
	}
	rest := cook.Log{Plan: log.Plan, Line: log.Line, Begun: log.Begun}
	for _, e := range log.Events {
		if e.Kind == cook.Undone || gone[e.ID] && e.ID != "" {
			continue
		}
		if e.Marks != nil {
			e.Marks = nil
			e = Tell(rest, e)
		}
		rest.Events = append(rest.Events, e)
	}
	s, marks := rest.Fold(), map[int]measure.Gram{}
	for _, id := range s.Marks() {
		if u := s.Plan.Steps[slices.Index(s.IDs, id)].Until; u.MassG != nil {
			marks[id] = *u.MassG
		}
	}
	return marks
}

// marksAfter works the marks to come out of a deviation.
func marksAfter(s *cook.State, e cook.Event) map[int]measure.Gram {
	bare := e
	bare.Marks = nil
	after, err := s.Deviate(bare)
	if err != nil {
		return nil
	}
	f := forecast.Run(Replay(s, e.At), forecast.Options{CourseOnly: true})
	moves := shift(s, e, f)
	marks := map[int]measure.Gram{}
	for _, id := range after.Marks() {
		was := slices.Index(s.IDs, id)
		if was < 0 || f.Steps[was].MassG == nil {
			continue
		}
		const digits = 4
		marks[id] = measure.Gram(measure.RoundSignificant(max(*f.Steps[was].MassG+moves(was), 1), digits))
	}
	if e.Kind == cook.Mended {
		maps.Copy(marks, mendedMarks(after, e.Mend))
	}
	return marks
}

// mendedMarks are the marks that were computed with a repair: what was weighed is
// in them.
func mendedMarks(after *cook.State, m *cook.Mend) map[int]measure.Gram {
	marks, k := map[int]measure.Gram{}, len(m.Marks)
	for i := len(after.Plan.Steps) - 1; i >= 0 && k > 0; i-- {
		k--
		if u := after.Plan.Steps[i].Until; m.Marks[k] > 0 && u != nil {
			marks[after.IDs[i]] = m.Marks[k]
		}
	}
	return marks
}

// shift says by how much, in g, a deviation moves the mark of a step.
func shift(s *cook.State, e cook.Event, f *forecast.Forecast) func(step int) float64 {
	at := slices.Index(s.IDs, e.Step)
	switch e.Kind {
	case cook.Added:
		return into(s.Plan, e.Material, float64(e.Mass), f)
	case cook.Early:
		meant, _, _ := cook.Taken(&s.Plan.Steps[at], e.Item)
		mass := massOf(s, meant, f, at)
		return func(step int) float64 {
			if step < at {
				return mass
			}
			return 0
		}
	case cook.Skipped:
		mass := 0.0
		if s.Plan.Steps[at].Do == plan.Add && slices.Contains(cook.OwnSteps(s.Plan), at) {
			items := s.Plan.Steps[at].Items
			if meant, _, some := cook.Taken(&s.Plan.Steps[at], e.Item); some {
				items = meant
			}
			mass = massOf(s, items, f, at)
		}
		return func(step int) float64 {
			if step > at {
				return -mass
			}
			return 0
		}
	case cook.Swapped:
		_, was, _ := s.Plan.Weigh(s.Plan.Steps[at].Items[e.Item-1])
		return func(step int) float64 {
			if step > at {
				return float64(e.Mass - was)
			}
			return 0
		}
	case cook.Mended:
		return func(int) float64 { return float64(e.Mend.Shift) }
	}
	return func(int) float64 { return 0 }
}

// liquidWater is how much water, in g per 100 g, makes a liquid of what has no
// tissue.
const liquidWater = 60

// into returns by how much a mark moves when something goes in before it: dry
// things by their mass; a liquid boils down with the rest, as far as that does.
func into(p *plan.Plan, material string, mass float64, f *forecast.Forecast) func(step int) float64 {
	m, known := p.Pantry().Material(material)
	liquid := known && m.Water > liquidWater && m.Kinetics == nil
	return func(step int) float64 {
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

// massOf returns what items bring into the pot; step is where the plan puts them
// in. Parts weigh what the step makes heavier and no material does.
func massOf(s *cook.State, items []plan.Item, f *forecast.Forecast, step int) float64 {
	p, own := s.Plan, cook.OwnSteps(s.Plan)
	var before, known float64
	for k := step - 1; k >= 0; k-- {
		if f.Steps[k].MassG != nil && slices.Contains(own, k) {
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

// Replay returns the plan of a cook as it really went until now. A cooker that
// was closed for some minutes holds its pressure so much longer or shorter than by
// its whistles: heating up and letting off take what they take.
func Replay(s *cook.State, now time.Time) *plan.Plan {
	p, closed := s.Replay(now)
	for _, i := range slices.Sorted(maps.Keys(closed)) {
		until := *p
		until.Steps = p.Steps[:i+1]
		r := forecast.Run(&until, forecast.Options{CourseOnly: true}).Steps[i]
		const least = 0.5
		held := max(forecast.Held(p, &p.Steps[i])+closed[i]-measure.Minute(r.EndMin-r.StartMin), least)
		p.Steps[i].Whistles, p.Steps[i].Minutes = 0, &held
	}
	return p
}

// MendOf returns a repair as an event tells it.
func MendOf(symptom rescue.Symptom, r *rescue.Repair) *cook.Mend {
	m := &cook.Mend{Symptom: string(symptom), Steps: r.Steps, Leaves: r.Leaves, Shift: r.Shift, Sugar: r.Sugar, Lost: r.Lost}
	for _, step := range r.Plan.Steps[r.At+len(r.Steps):] {
		mark := measure.Gram(0)
		if u := step.Until; u != nil && u.MassG != nil {
			mark = *u.MassG
		}
		m.Marks = append(m.Marks, mark)
	}
	return m
}
