package cook

import (
	"slices"
	"time"

	"kirdu/core/measure"
)

// Catching up: a cook who did several things and tells of them at once. The taps say that the
// steps are done, not how long they took; Event.Lasted does, as it was worked out when they
// were told.

// restack lets steps of a pot have lasted what an event says. They end as they were told
// to, one before the other; what lies before them in that pot, with what was seen of it, moves
// back to make room. What was is kept, for a step back.
func (s *State) restack(e Event) {
	last := s.index(e.Step)
	if len(e.Lasted) == 0 || last < 0 {
		return
	}
	pot, own := potOf(&s.Plan.Steps[last])
	if !own {
		return
	}
	if s.before == nil {
		s.before = map[int]snapshot{}
	}
	told := snapshot{slices.Clone(s.Spans), slices.Clone(s.Readings), slices.Clone(s.Looks)}
	s.before[e.Step] = told
	end := s.Spans[last].End
	for i := last; i >= 0; i-- {
		span := &s.Spans[i]
		if at, in := potOf(&s.Plan.Steps[i]); !in || at != pot || span.Begin.IsZero() {
			continue
		}
		lasted := span.End.Sub(span.Begin)
		minutes, guessed := e.Lasted[s.IDs[i]]
		if guessed {
			lasted = time.Duration(minutes * float64(time.Minute))
			s.guessed[s.IDs[i]] = true
		}
		was := *span
		*span = Span{Begin: end.Add(-lasted), End: end}
		end = span.Begin
		if s.guessed[s.IDs[i]] {
			continue // what was seen in it was seen when it was told
		}
		moved := was.Begin.Sub(span.Begin)
		for k, one := range told.readings {
			if one.Pot == pot && within(one.At, was) {
				s.Readings[k].At = one.At.Add(-moved)
			}
		}
		for k, one := range told.looks {
			if one.Pot == pot && within(one.At, was) {
				s.Looks[k].At = one.At.Add(-moved)
			}
		}
	}
}

func within(at time.Time, span Span) bool { return !at.Before(span.Begin) && at.Before(span.End) }

// A snapshot is what a tap that came too soon changed.
type snapshot struct {
	spans    []Span
	readings []Measurement
	looks    []Look
}

// unstack takes back what restack did when a step was told to be done.
func (s *State) unstack(id int) {
	was, ok := s.before[id]
	if !ok || len(was.spans) != len(s.Spans) {
		return
	}
	s.Spans = was.spans
	for k := range was.readings {
		s.Readings[k].At = was.readings[k].At
	}
	for k := range was.looks {
		s.Looks[k].At = was.looks[k].At
	}
	delete(s.before, id)
	delete(s.guessed, id)
}

// Guessed reports whether how long a step took is not known: it was told of together with
// others, or too late.
func (s *State) Guessed(step int) bool { return step < len(s.IDs) && s.guessed[s.IDs[step]] }

// Lasted returns how long a step took in its pot until it was told to be done.
func (s *State) Lasted(step int) measure.Minute {
	span := s.Spans[step]
	if span.Begin.IsZero() || span.End.IsZero() {
		return 0
	}
	return measure.Minute(span.End.Sub(span.Begin).Minutes())
}
