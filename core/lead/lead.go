// Package lead leads a cook by the hand through a first pudding: at each moment at most one lesson, of what to tap at
// the stove, what to tell of the pot, and when that is worth it.
package lead

import (
	"maps"
	"slices"
	"time"

	"kirdu/core/cook"
	"kirdu/core/learn"
	"kirdu/core/measure"
	"kirdu/core/plan"
)

// A Lesson is one thing to know at the stove.
type Lesson string

// The lessons.
const (
	Late   Lesson = "late"   // what happened a while ago is told with its minutes
	Beside Lesson = "beside" // work beside the pot is begun by a tap, and has its own clock
	Hear   Lesson = "hear"   // each whistle is tapped
	Sign   Lesson = "sign"   // the pot is right, not the clock
	Weigh  Lesson = "weigh"  // one weight narrows the time to go
	Dip    Lesson = "dip"    // so does a dip, where the pot cannot be weighed
	Feel   Lesson = "feel"   // a grain between the fingers says how fast it softens
	Taste  Lesson = "taste"  // a cold spoon says whether it is sweet enough
	Light  Lesson = "light"  // the clock begins with the tap that says the flame is lit
	Leave  Lesson = "leave"  // what goes on by itself is left
	Wait   Lesson = "wait"   // there is nothing to tap meanwhile
	Tap    Lesson = "tap"    // the large button brings the next step
	End    Lesson = "end"    // what came out is weighed
)

// A Moment is how a cook stands.
type Moment struct {
	State *cook.State // of the whole pudding
	Live  *learn.Live // of the pot that the present step is about
	Clock *learn.Clock
	Now   time.Time

	// When the present step is likely to end; zero where it has no time of its own.
	Low, High time.Time

	Scale  bool // the pot may be put on a scale
	Sealed bool // nothing can be weighed or seen
}

// Where lessons begin to be worth it. Source: our own judgement, but for the scale's noise: core/learn, scaleSD.
const (
	lateAfter  = 3 * time.Minute  // the step should have been over for so long
	nearEnd    = 90 * time.Second // the end is so near
	toldFor    = 5 * time.Minute  // a step has begun so lately
	worthLoss  = measure.Gram(60) // so much has boiled away: six times what a scale errs by
	feltFrom   = 0.4              // doneness from which on a grain between the fingers tells something
	enoughTaps = 2                // taps after which the large button is known
)

// table lists the lessons, the more pressing ones first: when each is worth it, and when the cook has shown that
// it is known.
var table = []struct {
	lesson Lesson
	now    func(Moment) bool
	done   func(*cook.State) bool
}{
	{Late, func(m Moment) bool { return m.timed() && m.Now.Sub(m.High) > lateAfter }, never},
	{Beside, func(m Moment) bool { return m.due() >= 0 }, began},
	{Sign, func(m Moment) bool { return m.looked() && m.Low.Sub(m.Now) < nearEnd }, heated},
	{Hear, func(m Moment) bool { return m.whistles() }, func(s *cook.State) bool { return len(s.Whistles) > 0 }},
	{Weigh, func(m Moment) bool { return m.Scale && m.worthReading() }, read},
	{Dip, func(m Moment) bool { return !m.Scale && m.worthReading() }, read},
	{Light, Moment.lights, lit},
	{Leave, func(m Moment) bool { return m.State.CanLeave() }, began},
	{Wait, func(m Moment) bool { return m.looked() && m.since() < toldFor }, heated},
	{Feel, Moment.softening, looked(cook.Felt)},
	{Taste, Moment.sweet, looked(cook.Tasted)},
	{Tap, func(m Moment) bool { return !m.State.Done() }, tapped},
	{End, func(m Moment) bool { return m.State.Done() }, never},
}

// Lessons lists them all, the more pressing ones first.
func Lessons() (list []Lesson) {
	for _, row := range table {
		list = append(list, row.lesson)
	}
	return list
}

// Next returns the lesson for a moment, without those that are known already; ok is false where there is none.
func Next(m Moment, known []Lesson) (lesson Lesson, ok bool) {
	for _, row := range table {
		if !slices.Contains(known, row.lesson) && !row.done(m.State) && row.now(m) {
			return row.lesson, true
		}
	}
	return "", false
}

// Told returns the state of a cook as if what a lesson asks for were told at a moment, just as it is expected: a weight,
// or a depth for Dip, of the pot with this name.
func (l Lesson) Told(s *cook.State, live *learn.Live, pot string, at time.Time) cook.State {
	told := *s
	reading := cook.Measurement{At: at, Pot: pot, Step: s.Step, Mass: live.Mass}
	if l == Dip {
		reading.Mass, reading.MM = 0, live.Level
	}
	told.Readings = append(slices.Clone(s.Readings), reading)
	return told
}

// timed reports whether the present step has a time at which it should end.
func (m Moment) timed() bool { return !m.State.Done() && !m.High.IsZero() }

// looked reports whether the present step is over a flame and ends by what is seen in the pot.
func (m Moment) looked() bool {
	if !m.timed() || m.Sealed || m.State.IsPause(m.State.Step) {
		return false
	}
	step := m.State.Present()
	return step.Do == plan.Heat && (step.Until == nil || step.Until.Minutes == nil)
}

// due returns a job beside the pot that it is time for; -1 for none.
func (m Moment) due() int {
	s := m.State
	if _, lit := s.Zero(); !lit || s.Done() {
		return -1
	}
	for _, i := range slices.Sorted(maps.Keys(m.Clock.Jobs)) {
		if s.Spans[i].Begin.IsZero() && !m.Clock.Jobs[i].Begin.After(m.Now) {
			return i
		}
	}
	return -1
}

// since is how long the present step has lasted.
func (m Moment) since() time.Duration { return m.Now.Sub(m.State.Spans[m.State.Step].Begin) }

// worthReading reports whether a reading now would say more of the flame than is known: enough has boiled away since
// the step began, and it goes on for a while.
func (m Moment) worthReading() bool {
	if !m.timed() || m.Sealed || m.State.Present().Do != plan.Heat || m.Low.Sub(m.Now) < nearEnd {
		return false
	}
	return measure.Gram(m.Live.Rate*m.since().Minutes()) >= worthLoss
}

// whistles reports whether the whistles of the present step are counted.
func (m Moment) whistles() bool {
	step := m.State.Present()
	return step != nil && step.Do == plan.Pressure && step.Whistles > 0
}

// softening reports whether something in the open pot has begun to soften, and may be felt.
func (m Moment) softening() bool {
	if m.Sealed || m.State.Done() || !m.State.IsLit(m.State.Pot()) {
		return false
	}
	for _, soft := range m.Live.Doneness {
		if soft >= feltFrom {
			return true
		}
	}
	return false
}

// sweet reports whether what sweetens is in the open pot.
func (m Moment) sweet() bool {
	if m.Sealed || !m.State.IsLit(m.State.Pot()) || !heated(m.State) {
		return false
	}
	for i := range m.State.Plan.Steps {
		if m.State.Plan.Sweetens(i) && !m.State.IsBeside(i) && !m.State.Spans[i].End.IsZero() {
			return true
		}
	}
	return false
}

// lights reports whether the flame is to be lit before the next step.
func (m Moment) lights() bool {
	ahead := m.State.Ahead()
	if len(ahead) == 0 || m.State.IsBeside(ahead[0]) {
		return false
	}
	switch m.State.Plan.Steps[ahead[0]].Do {
	case plan.Heat, plan.Pressure, plan.Caramel:
		return true
	}
	return false
}

func never(*cook.State) bool { return false }

func lit(s *cook.State) bool { _, lit := s.Zero(); return lit }

// tapped reports whether the large button is known: by use, or by the flame that was lit with it.
func tapped(s *cook.State) bool { behind, _ := s.Place(); return behind >= enoughTaps || lit(s) }

// began reports whether something beside the pot was begun and left.
func began(s *cook.State) bool {
	for _, i := range s.Beside() {
		if i != s.Step && !s.Spans[i].Begin.IsZero() && s.Spans[i].End.IsZero() {
			return true
		}
	}
	return false
}

// heated reports whether a step over the flame was told to be done.
func heated(s *cook.State) bool {
	for i := range s.Plan.Steps {
		if s.Plan.Steps[i].Do == plan.Heat && !s.IsBeside(i) && !s.Spans[i].End.IsZero() {
			return true
		}
	}
	return false
}

func read(s *cook.State) bool { return len(s.Readings) > 0 }

func looked(kind cook.Kind) func(*cook.State) bool {
	return func(s *cook.State) bool {
		return slices.ContainsFunc(s.Looks, func(one cook.Look) bool { return one.Kind == kind })
	}
}
