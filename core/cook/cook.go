// Package cook is a cook at the stove: a log of what was done and seen, and
// its fold into the present state.
package cook

import (
	"slices"
	"time"

	"kirdu/core/measure"
	"kirdu/core/plan"
)

// Kind says what an event tells.
type Kind string

// The kinds of events.
const (
	Next     Kind = "next"     // the step is done: "it boils", "sugar is in"
	Back     Kind = "back"     // that was too early
	Began    Kind = "began"    // a job beside the pot goes on by itself
	Weighed  Kind = "weighed"  // what the scale shows
	Dipped   Kind = "dipped"   // how high it stands in the pot
	Felt     Kind = "felt"     // how soft a part is between the fingers
	Spooned  Kind = "spooned"  // how thick it runs off the spoon
	Probed   Kind = "probed"   // what a thermometer shows
	Tasted   Kind = "tasted"   // how sweet it is
	Whistled Kind = "whistled" // the cooker
	Finished Kind = "finished" // off the stove, into the bowls
	Undone   Kind = "undone"   // an earlier event was a mistake
	Tared    Kind = "tared"    // what a pot weighs empty, that was weighed full before

	// What went otherwise than planned.
	Added   Kind = "added"   // more of something went in
	Turned  Kind = "turned"  // the flame
	Paused  Kind = "paused"  // off the flame until further notice
	Early   Kind = "early"   // something that comes later is in already
	Forgot  Kind = "forgot"  // something that should be in is not
	Skipped Kind = "skipped" // a step to come is left out
	Swapped Kind = "swapped" // another material was, or will be, taken
	Mended  Kind = "mended"  // a repair is made
)

// An Event is one thing that was done or seen. It never changes once stored.
// Steps are named by what State.IDs calls them, so that a name stays when others
// come between.
type Event struct {
	ID   string    `json:"id"` // made by the device, so that it can be sent again
	Kind Kind      `json:"kind"`
	At   time.Time `json:"at"`
	Step int       `json:"step"`           // next, back: the step shown when it was said; else the step that is meant
	Item int       `json:"item,omitempty"` // early, forgot, swapped: which item of the step, from 1; 0: all
	// Weighed: contents of the pot; finished: the yield, 0 if not weighed; added, swapped: how much;
	// tared: the empty pot.
	Mass measure.Gram       `json:"mass_g,omitempty"`
	MM   measure.Millimetre `json:"depth_mm,omitempty"` // dipped

	Part string `json:"part,omitempty"` // felt: of which part; undone: the id of the event
	// Felt: doneness; spooned: grade; probed: °C; tasted: one of the Tastes; turned: per cent; weighed: WithPot or 0.
	Value    float64 `json:"value,omitempty"`
	Material string  `json:"material,omitempty"` // added, swapped

	Mend *Mend `json:"mend,omitempty"` // mended

	// Pot is the one that was weighed, dipped, felt, spooned or probed, or that whistled; "" for
	// the one that the present step is about.
	Pot string `json:"pot,omitempty"`

	// Marks are what the marks to come are from then on, by step: worked out when
	// it was told, so that a log means the same however the computation grows. Of
	// deviations, and of what takes one back.
	Marks map[int]measure.Gram `json:"marks_g,omitempty"`

	// Lasted is, by step, how many minutes what is done up to here really took, where the taps
	// came too soon one after the other to say. Worked out like Marks. Of next.
	Lasted map[int]float64 `json:"lasted_min,omitempty"`
}

// Same reports whether two events tell the same: one that was sent twice.
func (e Event) Same(other Event) bool {
	return e.Kind == other.Kind && e.Step == other.Step && e.Item == other.Item && e.Mass == other.Mass && e.MM == other.MM &&
		e.Part == other.Part && e.Value == other.Value && e.Material == other.Material && e.Pot == other.Pot
}

// IsReading reports whether an event of this kind says how it is in a pot.
func (k Kind) IsReading() bool {
	switch k {
	case Weighed, Dipped, Felt, Spooned, Probed, Tasted:
		return true
	}
	return false
}

// A Log is what is kept of a cook.
type Log struct {
	Plan   *plan.Plan // as it was when the cook began
	Line   []int      // the steps, by index, in the order they are come to: jobs that are begun before the flame, then the pot's own
	Begun  time.Time
	Events []Event // in the order they were stored
}

// The answers of a tongue, as values of Tasted.
const (
	FarFromSweet = -2.0
	NotSweet     = -1.0
	SweetRight   = 0.0
	TooSweet     = 1.0
	FarTooSweet  = 2.0
)

// Tastes lists the answers of a tongue, rising.
func Tastes() []float64 { return []float64{FarFromSweet, NotSweet, SweetRight, TooSweet, FarTooSweet} }

// WithPot is the Value of a Weighed whose mass has in it a pot that was never weighed empty: it
// counts from when that is.
const WithPot = 1.0

// Faults of events.
var (
	ErrKind     = measure.Code("cook.kind")
	ErrMass     = measure.Code("cook.mass")
	ErrFelt     = measure.Code("cook.felt")
	ErrSpoon    = measure.Code("cook.spoon")
	ErrProbe    = measure.Code("cook.probe")
	ErrTaste    = measure.Code("cook.taste")
	ErrDepth    = measure.Code("cook.depth")
	ErrStep     = measure.Code("cook.step")
	ErrMaterial = measure.Code("cook.material")
	ErrFlame    = measure.Code("cook.flame")
	ErrClosed   = measure.Code("cook.closed")
	ErrCook     = measure.Code("cook.cook")
	ErrLater    = measure.Code("cook.later")
	ErrBefore   = measure.Code("cook.before")
	ErrSkip     = measure.Code("cook.skip")
	ErrRefused  = measure.Code("cook.refused")
	ErrOnlyStep = measure.Code("cook.only-step")
	ErrUndone   = measure.Code("cook.undone")
	ErrWhistle  = measure.Code("cook.whistle")
	ErrJob      = measure.Code("cook.job")
	ErrPot      = measure.Code("cook.pot")
	ErrOver     = measure.Code("cook.over")
)

// Check returns what is wrong with an event for the cook as it stands.
func (s *State) Check(e Event) error {
	if _, known := s.Plan.Pots[s.PotOf(e)]; !known {
		return ErrPot
	}
	if !s.Finished.IsZero() {
		return ErrOver
	}
	switch e.Kind {
	case Next, Back:
		if s.index(e.Step) < 0 {
			return ErrStep
		}
	case Began:
		if i := s.index(e.Step); i < 0 || s.main(i) {
			return ErrJob
		}
	case Weighed, Tared:
		if !(e.Mass > 0 && e.Mass <= measure.MaxGrams) {
			return ErrMass
		}
	case Dipped:
		if !(e.MM > 0 && e.MM <= s.Plan.Pots[s.PotOf(e)].HeightMM) {
			return ErrDepth
		}
	case Felt:
		if !(e.Value >= 0 && e.Value <= 10) || e.Part == "" || len(e.Part) > 60 {
			return ErrFelt
		}
	case Spooned:
		if !(e.Value >= 1 && e.Value <= 8) {
			return ErrSpoon
		}
	case Probed:
		if !(e.Value >= -5 && e.Value <= 220) {
			return ErrProbe
		}
	case Tasted:
		if !slices.Contains(Tastes(), e.Value) {
			return ErrTaste
		}
	case Whistled:
		if s.cooker(e) < 0 {
			return ErrWhistle
		}
	case Finished:
		if !(e.Mass >= 0 && e.Mass <= measure.MaxGrams) {
			return ErrMass
		}
	case Undone:
		if e.Part == "" || len(e.Part) > 60 {
			return ErrUndone
		}
	default:
		_, err := s.Deviate(e)
		return err
	}
	return nil
}

// A Span is when a step was begun and ended; End is zero while it lasts.
type Span struct{ Begin, End time.Time }

// A Reading is a weight or a depth with the step it was taken in.
type Measurement struct {
	At   time.Time
	Pot  string
	Step int
	Mass measure.Gram       // 0: it was a dip
	Full bool               // the pot is in Mass, and nobody knows what it weighs
	MM   measure.Millimetre // 0: it was weighed
}

// A Look is what was seen of the pot besides its weight.
type Look struct {
	At    time.Time
	Pot   string
	Step  int
	Kind  Kind
	Part  string
	Value float64
}

// A State is the fold of a cook's events.
type State struct {
	Plan     *plan.Plan // as it goes: what went otherwise than planned is in it
	IDs      []int      // by step: what events call it
	Step     int        // the present step; len(Plan.Steps) when all are done
	Spans    []Span     // by step; zero before it was begun
	Readings []Measurement
	Looks    []Look
	Whistles []Look
	Finished time.Time    // zero while it cooks
	Yield    measure.Gram // weighed at the end, 0 if it was not
	Events   int

	line   []int        // ids in the order they are come to: jobs before the flame, then the pot's own steps
	at     int          // place in the line
	pauses map[int]bool // ids of rests that last until further notice
	strays map[int]bool // ids of what was not planned

	guessed map[int]bool     // ids of steps of which it is not known how long they took
	before  map[int]snapshot // by the id of a step that was told too soon: what it changed
}

// Fold replays the log. Events of another kind than it knows are passed over: a
// newer version wrote them.
func (l Log) Fold() State {
	p := l.Plan
	s := State{Plan: p, IDs: make([]int, len(p.Steps)), Spans: make([]Span, len(p.Steps)), pauses: map[int]bool{}, strays: map[int]bool{},
		guessed: map[int]bool{}}
	for i := range s.IDs {
		s.IDs[i] = i
	}
	s.line = slices.Clone(l.Line)
	if !IsLine(p, s.line) {
		s.line = OwnSteps(p)
	}
	s.enter(0, l.Begun)
	undone := map[string]bool{}
	for _, e := range l.Events {
		if e.Kind == Undone {
			undone[e.Part] = true
		}
	}
	for _, e := range l.Events {
		s.Events++
		if !undone[e.ID] || e.ID == "" {
			s.apply(e)
		}
	}
	return s
}

// OwnSteps returns the steps of the served pot, by index: the line of a pudding
// without jobs that are begun before it.
func OwnSteps(p *plan.Plan) (steps []int) {
	for i := range p.Steps {
		if ofPot(p, i) {
			steps = append(steps, i)
		}
	}
	return steps
}

// IsLine reports whether steps are a line of a plan: each once, and in the end
// all of the served pot's own, in their order.
func IsLine(p *plan.Plan, line []int) bool {
	own := OwnSteps(p)
	jobs := len(line) - len(own)
	if jobs < 0 || !slices.Equal(line[jobs:], own) {
		return false
	}
	for k, i := range line[:jobs] {
		if i < 0 || i >= len(p.Steps) || ofPot(p, i) || slices.Contains(line[:k], i) {
			return false
		}
	}
	return true
}

// ofPot reports whether a step is one of the served pot, or takes from it.
func ofPot(p *plan.Plan, i int) bool {
	s := &p.Steps[i]
	if s.Do.IsPreparation() {
		return s.TakesFromPot()
	}
	return s.PotName() == p.Served()[0]
}

func (s *State) main(i int) bool { return ofPot(s.Plan, i) }

// index returns where a step stands, -1 if there is none of that name.
func (s *State) index(id int) int { return slices.Index(s.IDs, id) }

// ID returns what events call the present step, -1 when all are done.
func (s *State) ID() int {
	if s.Done() {
		return -1
	}
	return s.IDs[s.Step]
}

func (s *State) apply(e Event) {
	switch e.Kind {
	case Next:
		s.next(e)
	case Began:
		i := s.index(e.Step)
		switch {
		case i < 0 || s.main(i) || !s.Spans[i].End.IsZero():
		case i == s.Step:
			s.enter(s.at+1, Later(e.At, s.Spans[i].Begin))
		case s.Spans[i].Begin.IsZero():
			s.Spans[i].Begin = e.At
		}
	case Back:
		s.back(e)
	case Weighed, Dipped:
		one := Measurement{At: e.At, Pot: s.PotOf(e), Step: s.Step, Mass: e.Mass, MM: e.MM}
		if e.Kind == Weighed && e.Value == WithPot {
			one.Full = true
			if empty, known := s.Plan.Pots[one.Pot].Mass(); known {
				one.Mass, one.Full = max(one.Mass-empty, 1), false
			}
		}
		s.Readings = append(s.Readings, one)
	case Tared:
		s.tare(s.PotOf(e), e.Mass)
	case Felt, Spooned, Probed, Tasted:
		s.Looks = append(s.Looks, Look{At: e.At, Pot: s.PotOf(e), Step: s.Step, Kind: e.Kind, Part: e.Part, Value: e.Value})
	case Whistled:
		if i := s.cooker(e); i >= 0 {
			s.Whistles = append(s.Whistles, Look{At: e.At, Pot: s.Plan.Steps[i].PotName(), Step: s.IDs[i], Kind: Whistled})
		}
	case Finished:
		if !s.Done() {
			s.Spans[s.Step].End = Later(e.At, s.Spans[s.Step].Begin)
			s.at, s.Step = len(s.line), len(s.Plan.Steps)
		}
		s.Finished, s.Yield = e.At, e.Mass
	case Undone:
		if tried := s.clone(); tried.settle(e) == nil {
			*s = *tried
		}
	default:
		if tried, err := s.Deviate(e); err == nil {
			*s = *tried
		}
	}
}

// Deviate returns the cook after an event that changes the plan, the marks to
// come set by the event. Errors: those of Check.
func (s *State) Deviate(e Event) (*State, error) {
	deviate, known := deviations[e.Kind]
	if !known {
		return nil, ErrKind.With(string(e.Kind))
	}
	tried := s.clone()
	if err := deviate(tried, e); err != nil {
		return nil, err
	}
	return tried, tried.settle(e)
}

// next ends the present step, or a job beside it. A tap on a step that is past
// already is the same tap from another device.
func (s *State) next(e Event) {
	i := s.index(e.Step)
	switch {
	case i < 0 || s.Done() && s.main(i):
	case i == s.Step:
		// What goes in has been made: a job beside is done with that, told of or not.
		for _, job := range s.feeding(i) {
			if s.Spans[job].Begin.IsZero() {
				s.Spans[job].Begin = e.At
			}
			s.Spans[job].End = Later(e.At, s.Spans[job].Begin)
		}
		s.Spans[i].End = Later(e.At, s.Spans[i].Begin)
		s.restack(e)
		s.enter(s.at+1, s.Spans[i].End)
	case !s.main(i) && s.Spans[i].End.IsZero():
		if s.Spans[i].Begin.IsZero() {
			s.Spans[i].Begin = e.At
		}
		s.Spans[i].End = Later(e.At, s.Spans[i].Begin)
		s.restack(e)
	}
}

// tare takes an empty pot off what it weighed when it was full.
func (s *State) tare(pot string, empty measure.Gram) {
	s.Plan = s.Plan.Clone()
	vessel := s.Plan.Pots[pot]
	vessel.MassG = &empty
	s.Plan.Pots[pot] = vessel
	for k := range s.Readings {
		if r := &s.Readings[k]; r.Pot == pot && r.Full {
			r.Mass, r.Full = max(r.Mass-empty, 1), false
		}
	}
}

// Untared returns the pots that were weighed full and must be weighed empty yet.
func (s *State) Untared() (pots []string) {
	for _, r := range s.Readings {
		if r.Full && !slices.Contains(pots, r.Pot) {
			pots = append(pots, r.Pot)
		}
	}
	return pots
}

// PotOf returns the pot that an event tells of, in the present step.
func (s *State) PotOf(e Event) string {
	if e.Pot != "" {
		return e.Pot
	}
	return s.Pot()
}

// cooker returns the step, under way, in which a cooker whistles; -1 if none does.
func (s *State) cooker(e Event) int {
	if present := s.Present(); present != nil && present.Do == plan.Pressure && (e.Pot == "" || e.Pot == present.PotName()) {
		return s.Step
	}
	for i := range s.Plan.Steps {
		if span := s.Spans[i]; s.Plan.Steps[i].Do == plan.Pressure && !span.Begin.IsZero() && span.End.IsZero() &&
			(e.Pot == "" || e.Pot == s.Plan.Steps[i].PotName()) {
			return i
		}
	}
	return -1
}

// back returns to the step before, or takes back the end or the beginning of a
// job beside.
func (s *State) back(e Event) {
	i := s.index(e.Step)
	if i >= 0 && i != s.Step && !s.main(i) {
		if s.Spans[i].End.IsZero() {
			s.Spans[i] = Span{}
		}
		s.Spans[i].End = time.Time{}
		return
	}
	if s.at == 0 || (!s.Done() && i != s.Step) {
		return
	}
	if !s.Done() {
		s.Spans[s.Step] = Span{}
	}
	s.at--
	s.Step = s.index(s.line[s.at])
	s.unstack(s.line[s.at])
	s.Spans[s.Step].End = time.Time{}
	s.Finished = time.Time{}
}

// Later returns the later of two moments.
func Later(a, b time.Time) time.Time {
	if a.Before(b) {
		return b
	}
	return a
}

// enter comes to a place in the line, or to the next behind it that is not begun
// yet.
func (s *State) enter(place int, at time.Time) {
	for place < len(s.line) && !s.Spans[s.index(s.line[place])].Begin.IsZero() {
		place++
	}
	s.at = place
	if place == len(s.line) {
		s.Step = len(s.Plan.Steps)
		return
	}
	s.Step = s.index(s.line[place])
	s.Spans[s.Step] = Span{Begin: at}
}

// Place returns how many steps of the line lie behind, and how many there are.
func (s *State) Place() (behind, of int) { return s.at, len(s.line) }

// Ahead returns the steps of the line that come after the present one.
func (s *State) Ahead() (steps []int) {
	for k := s.at + 1; k < len(s.line); k++ {
		if i := s.index(s.line[k]); s.Spans[i].Begin.IsZero() {
			steps = append(steps, i)
		}
	}
	return steps
}

// Beside returns the jobs that are not in the line ahead: those that go on by
// themselves, that wait for their time, or that are done.
func (s *State) Beside() (steps []int) {
	ahead := s.Ahead()
	for i := range s.Plan.Steps {
		if !s.main(i) && i != s.Step && !slices.Contains(ahead, i) {
			steps = append(steps, i)
		}
	}
	return steps
}

// IsBeside reports whether a step goes on beside the served pot: what is prepared, and other
// pans.
func (s *State) IsBeside(step int) bool { return !s.main(step) }

// Unready returns the jobs that the present step waits for: those that make what
// it takes and are not done.
func (s *State) Unready() (steps []int) {
	present := s.Present()
	if present == nil {
		return nil
	}
	for i := range s.Plan.Steps {
		if s.main(i) || i == s.Step || !s.Spans[i].End.IsZero() {
			continue
		}
		job := &s.Plan.Steps[i]
		for _, item := range present.Items {
			if (item.Part != "" && s.Plan.Maker(item.Part) == i) || (job.Of != "" && job.Of == item.Part) ||
				(item.Pot != "" && !job.Do.IsPreparation() && job.PotName() == item.Pot) {
				steps = append(steps, i)
				break
			}
		}
	}
	return steps
}

// feeding returns the jobs that are not done of what a step takes, and of what they take.
func (s *State) feeding(step int) (jobs []int) {
	needed := []int{step}
	for i := step - 1; i >= 0; i-- {
		if s.main(i) || !s.Spans[i].End.IsZero() || i == s.Step {
			continue
		}
		if slices.ContainsFunc(needed, func(to int) bool { return s.Plan.Feeds(i, to) }) {
			needed, jobs = append(needed, i), append(jobs, i)
		}
	}
	slices.Reverse(jobs)
	return jobs
}

// IsPause reports whether a step is a rest that lasts until further notice.
func (s *State) IsPause(step int) bool { return step < len(s.IDs) && s.pauses[s.IDs[step]] }

// IsStray reports whether a step was not planned.
func (s *State) IsStray(step int) bool { return step < len(s.IDs) && s.strays[s.IDs[step]] }

// Done reports whether every step of the line is done.
func (s *State) Done() bool { return s.at >= len(s.line) }

// Present returns the present step, nil when all are done.
func (s *State) Present() *plan.Step {
	if s.Done() {
		return nil
	}
	return &s.Plan.Steps[s.Step]
}
