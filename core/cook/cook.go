// Package cook is a cook at the stove: a log of what was done and seen, and
// its fold into the present state.
package cook

import (
	"errors"
	"fmt"
	"math"
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
	Weighed  Kind = "weighed"  // what the scale shows
	Dipped   Kind = "dipped"   // how high it stands in the pot
	Felt     Kind = "felt"     // how soft a part is between the fingers
	Spooned  Kind = "spooned"  // how thick it runs off the spoon
	Probed   Kind = "probed"   // what a thermometer shows
	Finished Kind = "finished" // off the stove, into the bowls
)

// An Event is one thing that was done or seen. It never changes once stored.
type Event struct {
	ID   string             `json:"id"` // made by the device, so that it can be sent again
	Kind Kind               `json:"kind"`
	At   time.Time          `json:"at"`
	Step int                `json:"step"`               // next, back: the step shown when it was said
	Mass measure.Gram       `json:"mass_g,omitempty"`   // weighed: contents of the pot; finished: the yield, 0 if not weighed
	MM   measure.Millimetre `json:"depth_mm,omitempty"` // dipped

	Part  string  `json:"part,omitempty"`  // felt: of which part
	Value float64 `json:"value,omitempty"` // felt: doneness; spooned: grade; probed: °C
}

// Faults of events.
var (
	ErrKind  = errors.New("unknown kind of event")
	ErrMass  = errors.New("give the weight in grams, above the empty pot and below 100 kg")
	ErrFelt  = errors.New("say how soft it is, of a part that is in the pot")
	ErrSpoon = errors.New("say how it runs off the spoon, from 1 to 8")
	ErrProbe = errors.New("give the temperature in °C, from -5 to 220")
	ErrDepth = errors.New("give the depth in millimetres, above 0 and not above the rim of the pot")
)

// Check returns what is wrong with an event for a cook of this plan.
func (e Event) Check(p *plan.Plan) error {
	switch e.Kind {
	case Next, Back:
		if e.Step < 0 || e.Step >= len(p.Steps) {
			return fmt.Errorf("step %d: the pudding has steps 0 to %d", e.Step, len(p.Steps)-1)
		}
	case Weighed:
		if !(e.Mass > 0 && e.Mass <= measure.MaxGrams) {
			return ErrMass
		}
	case Dipped:
		if !(e.MM > 0 && e.MM <= p.Pots[p.Served()[0]].HeightMM) {
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
	case Finished:
		if !(e.Mass >= 0 && e.Mass <= measure.MaxGrams) {
			return ErrMass
		}
	default:
		return fmt.Errorf("%w %q", ErrKind, e.Kind)
	}
	return nil
}

// A Span is when a step was begun and ended; End is zero while it lasts.
type Span struct{ Begin, End time.Time }

// A Reading is a weight or a depth with the step it was taken in.
type Reading struct {
	At   time.Time
	Step int
	Mass measure.Gram       // 0: it was a dip
	MM   measure.Millimetre // 0: it was weighed
}

// A Look is what was seen of the pot besides its weight.
type Look struct {
	At    time.Time
	Step  int
	Kind  Kind
	Part  string
	Value float64
}

// A State is the fold of a cook's events.
type State struct {
	Plan     *plan.Plan
	Step     int    // the present step; len(Plan.Steps) when all are done
	Spans    []Span // by step; zero before it was begun
	Readings []Reading
	Looks    []Look
	Finished time.Time    // zero while it cooks
	Yield    measure.Gram // weighed at the end, 0 if it was not
	Events   int
}

// Fold replays a log, in the order it was stored, on a plan begun at a time.
// Events of another kind than it knows are passed over: a newer version wrote
// them.
func Fold(p *plan.Plan, begun time.Time, events []Event) State {
	s := State{Plan: p, Spans: make([]Span, len(p.Steps))}
	s.enter(0, begun)
	for _, e := range events {
		s.apply(e)
	}
	return s
}

func (s *State) apply(e Event) {
	s.Events++
	switch e.Kind {
	case Next:
		// A tap on a step that is past already is the same tap from another
		// device.
		if e.Step != s.Step || s.Done() {
			return
		}
		s.Spans[s.Step].End = later(e.At, s.Spans[s.Step].Begin)
		s.enter(s.Step+1, s.Spans[s.Step].End)
	case Back:
		if e.Step != s.Step || s.Step == 0 {
			return
		}
		if !s.Done() {
			s.Spans[s.Step] = Span{}
		}
		s.Step--
		s.Spans[s.Step].End = time.Time{}
		s.Finished = time.Time{}
	case Weighed, Dipped:
		s.Readings = append(s.Readings, Reading{At: e.At, Step: s.Step, Mass: e.Mass, MM: e.MM})
	case Felt, Spooned, Probed:
		s.Looks = append(s.Looks, Look{At: e.At, Step: s.Step, Kind: e.Kind, Part: e.Part, Value: e.Value})
	case Finished:
		if !s.Done() {
			s.Spans[s.Step].End = later(e.At, s.Spans[s.Step].Begin)
			s.Step = len(s.Plan.Steps)
		}
		s.Finished, s.Yield = e.At, e.Mass
	}
}

func later(a, b time.Time) time.Time {
	if a.Before(b) {
		return b
	}
	return a
}

func (s *State) enter(step int, at time.Time) {
	s.Step = step
	if step < len(s.Spans) {
		s.Spans[step] = Span{Begin: at}
	}
}

// Done reports whether every step is done.
func (s *State) Done() bool { return s.Step >= len(s.Spans) }

// Present returns the present step, nil when all are done.
func (s *State) Present() *plan.Step {
	if s.Done() {
		return nil
	}
	return &s.Plan.Steps[s.Step]
}

// timed reports whether a step takes time in the served pot.
func (s *State) timed(step int) bool {
	v := s.Plan.Steps[step].Do
	return !v.IsPreparation() && v != plan.Add && s.Plan.Steps[step].PotName() == s.Plan.Served()[0]
}

// Zero returns the moment that is minute 0 of the forecast: when the first
// timed step of the served pot was begun. ok is false before that.
func (s *State) Zero() (zero time.Time, ok bool) {
	for i, span := range s.Spans {
		if s.timed(i) && !span.Begin.IsZero() {
			return span.Begin, true
		}
	}
	return time.Time{}, false
}

// Minute returns a moment as minutes after Zero.
func (s *State) Minute(at time.Time) measure.Minute {
	zero, ok := s.Zero()
	if !ok {
		return 0
	}
	return measure.Minute(at.Sub(zero).Minutes())
}

// Replay returns the plan as it really went until now: each step that is done
// lasts as long as it did. While an addition is being made the pot goes on as
// before, so the time it takes counts to the step before it. The present step
// and those to come are as planned.
func (s *State) Replay(now time.Time) *plan.Plan {
	replay := s.Plan.Clone()
	last := -1 // the latest timed step that was begun
	for i := range replay.Steps {
		span := s.Spans[i]
		if span.Begin.IsZero() {
			break
		}
		end := span.End
		if s.timed(i) {
			last = i
			if !end.IsZero() {
				setMinutes(&replay.Steps[i], end.Sub(span.Begin))
			}
			continue
		}
		if end.IsZero() {
			end = later(now, span.Begin)
		}
		if last >= 0 && s.Plan.Steps[i].Do == plan.Add && s.Plan.Steps[i].PotName() == s.Plan.Served()[0] {
			setMinutes(&replay.Steps[last], end.Sub(s.Spans[last].Begin))
		}
	}
	return replay
}

// setMinutes makes a step last so long, whatever its target was.
func setMinutes(step *plan.Step, lasted time.Duration) {
	const perMinute = 1e4
	minutes := measure.Minute(math.Round(lasted.Minutes()*perMinute) / perMinute)
	switch step.Do {
	case plan.Heat:
		step.Until = &plan.Until{Minutes: &minutes}
	case plan.Chill:
		const minutesPerHour = 60
		hours := float64(minutes) / minutesPerHour
		step.Hours = &hours
	default:
		step.Minutes = &minutes
	}
}
