package timetable

import (
	"cmp"
	"math"
	"slices"

	"kirdu/core/forecast"
	"kirdu/core/measure"
	"kirdu/core/plan"
)

// A Course is one pudding by itself, with one cook: each of its steps where it lies on
// the clock. Minute 0 is when the first step of the served pot begins.
type Course struct {
	Steps []Span // by the step of the plan
	Order []int  // steps by when they begin, preparations before what takes them
	// Begins is when the first of them begins, 0 or less.
	Begins measure.Minute
	// HandsOn are the minutes in which the hands are wanted, those of two things at
	// once counted once.
	HandsOn measure.Minute
	Tight   []Tight // where one pair of hands is not enough
}

// A Span is a stretch of the clock.
type Span struct{ Start, End measure.Minute }

// A Tight is a minute from which two things want the hands. Steps are those of the plan.
type Tight struct {
	From, To measure.Minute
	Steps    []int
}

// besideStir is what a preparation takes of a person: it leaves room for a glance at a
// pot that is stirred now and then. Source: our own judgement.
const besideStir = 0.8

// shortest is how long two things must want the hands before it is spoken of.
const shortest measure.Minute = 0.5

// A task is what wants the hands for a step.
type task struct {
	step     int
	from, to float64
	amount   float64
}

// Whole is how long it takes from the first thing that is prepared to the bowl, min, with the range of the forecast.
func (c Course) Whole(f *forecast.Forecast) measure.Range {
	before := float64(-c.Begins)
	r := f.Time.TotalMin
	return measure.Range{Value: r.Value + before, Low: r.Low + before, High: r.High + before}
}

// Alone lays a forecast out for one cook: what is prepared is done as late as the hands
// and its pan are free, and not earlier than it keeps.
func Alone(p *plan.Plan, f *forecast.Forecast) Course {
	c := Course{Steps: make([]Span, len(p.Steps))}
	l := layout{plan: p, course: &c, pans: map[string][]load{}}
	for i := range p.Steps {
		s, r := &p.Steps[i], &f.Steps[i]
		c.Steps[i] = Span{measure.Minute(r.StartMin), measure.Minute(r.EndMin)}
		switch {
		case s.Do.IsPreparation() && !s.TakesFromPot():
			continue
		case s.Do.IsPreparation():
			l.tasks = append(l.tasks, task{i, r.StartMin, r.StartMin + float64(s.HandsOn()), 1})
		default:
			l.pans[s.PotName()] = append(l.pans[s.PotName()], load{r.StartMin, r.EndMin, 1})
			if amount := wants(s); amount > 0 && r.EndMin > r.StartMin {
				l.tasks = append(l.tasks, task{i, r.StartMin, r.EndMin, amount})
			}
		}
	}
	for pot, loads := range l.pans {
		l.pans[pot] = oneStretch(loads)
	}
	for i := len(p.Steps) - 1; i >= 0; i-- {
		if s := &p.Steps[i]; s.Do.IsPreparation() && !s.TakesFromPot() {
			l.prepare(i, s)
		}
	}
	c.Order = make([]int, len(p.Steps))
	for i := range c.Order {
		c.Order[i] = i
		c.Begins = min(c.Begins, c.Steps[i].Start)
	}
	slices.SortStableFunc(c.Order, func(a, b int) int {
		return cmp.Compare(math.Round(float64(c.Steps[a].Start)), math.Round(float64(c.Steps[b].Start)))
	})
	l.after()
	l.sweep()
	return c
}

// wants returns what a step of a pot takes of a person, 0 to 1.
func wants(s *plan.Step) float64 {
	switch {
	case s.Do == plan.Heat && s.Burns():
		return handsOf[s.Stirring()]
	case s.Do == plan.Caramel, (s.Do == plan.Mash || s.Do == plan.Drain) && s.FullMinutes() > 0:
		return 1
	}
	return 0
}

// oneStretch is from the first to the last: a pot is taken until it is empty.
func oneStretch(loads []load) []load {
	all := loads[0]
	for _, one := range loads {
		all.from, all.to = min(all.from, one.from), max(all.to, one.to)
	}
	return []load{all}
}

type layout struct {
	plan   *plan.Plan
	course *Course
	tasks  []task
	pans   map[string][]load
}

// prepare places a preparation: as late as what takes it, the hands and its pan let it.
func (l *layout) prepare(i int, s *plan.Step) {
	lasts, hands := float64(s.FullMinutes()), float64(s.HandsOn())
	latest := float64(l.course.Steps[i].End) - lasts
	if taker := l.plan.Taker(i); taker >= 0 {
		latest = min(latest, float64(l.course.Steps[taker].Start)-lasts)
	}
	at := latest
	for at >= latest-float64(s.Do.Descriptor().Earlier) {
		shift := over(l.loads(), []load{{at, at + hands, besideStir}}, 1, 1)
		if s.Pan != "" {
			shift = nearest(shift, overlap(l.pans[s.Pan], load{at, at + lasts, 1}))
		}
		if shift == 0 {
			break
		}
		at -= shift
	}
	if at < latest-float64(s.Do.Descriptor().Earlier) {
		at = latest // it does not fit: the sweep says so
	}
	l.course.Steps[i] = Span{measure.Minute(at), measure.Minute(at + lasts)}
	l.tasks = append(l.tasks, task{i, at, at + hands, besideStir})
	if s.Pan != "" {
		l.pans[s.Pan] = append(l.pans[s.Pan], load{at, at + lasts, 1})
	}
}

func (l *layout) loads() []load {
	loads := make([]load, len(l.tasks))
	for k, t := range l.tasks {
		loads[k] = load{t.from, t.to, t.amount}
	}
	return loads
}

// after puts what is prepared before what takes it where both begin in the same minute.
func (l *layout) after() {
	order := l.course.Order
	for n := range order {
		if taker := l.plan.Taker(order[n]); taker >= 0 {
			if at := slices.Index(order[:n], taker); at >= 0 {
				step := order[n]
				copy(order[at+1:n+1], order[at:n])
				order[at] = step
			}
		}
	}
}

// sweep counts the minutes with the hands full, and finds those with too much for them.
func (l *layout) sweep() {
	var edges []float64
	for _, t := range l.tasks {
		edges = append(edges, t.from, t.to)
	}
	slices.Sort(edges)
	edges = slices.Compact(edges)
	for k := 0; k+1 < len(edges); k++ {
		from, to := measure.Minute(edges[k]), measure.Minute(edges[k+1])
		sum, steps := 0.0, []int(nil)
		for _, t := range l.tasks {
			if covers(load{t.from, t.to, t.amount}, edges[k]) {
				sum, steps = sum+t.amount, append(steps, t.step)
			}
		}
		l.course.HandsOn += (to - from) * measure.Minute(min(1, sum))
		if sum <= 1+tolerance || to-from < shortest {
			continue
		}
		slices.Sort(steps)
		if last := len(l.course.Tight) - 1; last >= 0 && slices.Equal(l.course.Tight[last].Steps, steps) && l.course.Tight[last].To == from {
			l.course.Tight[last].To = to
			continue
		}
		l.course.Tight = append(l.course.Tight, Tight{from, to, steps})
	}
}
