package cook

import (
	"math"
	"slices"
	"time"

	"kirdu/core/measure"
	"kirdu/core/plan"
)

// timed reports whether a step takes time in the served pot.
func (s *State) timed(step int) bool {
	verb := s.Plan.Steps[step].Do.Descriptor()
	return !verb.Preparation && !verb.AtOnce && s.main(step)
}

// Pending reports whether the present step is done at once, in the served pot, and waits to
// be: until then the pot is as before it.
func (s *State) Pending() bool {
	return !s.Done() && s.Plan.Steps[s.Step].Do.Descriptor().AtOnce && s.main(s.Step)
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
// before, so the time it takes counts to the step before it; draining and mashing are
// done off the flame, and have their own. A pause lasts until now. The present step and
// those to come are as planned. Of a cooker closed says, by step, how long it was shut:
// how much of that was under pressure only a forecast knows.
func (s *State) Replay(now time.Time) (replay *plan.Plan, closed map[int]measure.Minute) {
	replay, closed = s.Plan.Clone(), map[int]measure.Minute{}
	last := -1 // the latest timed step that was begun
	for i := range replay.Steps {
		if !s.main(i) && !(s.IsStray(i) && slices.Contains(s.line, s.IDs[i])) {
			continue
		}
		span := s.Spans[i]
		if span.Begin.IsZero() {
			break
		}
		end := span.End
		if do := replay.Steps[i].Do; (do == plan.Drain || do == plan.Mash) && !end.IsZero() {
			setMinutes(replay, closed, i, end.Sub(span.Begin))
			last = i
			continue
		}
		if s.timed(i) {
			last = i
			if s.IsPause(i) && end.IsZero() {
				end = later(now, span.Begin)
			}
			if !end.IsZero() {
				setMinutes(replay, closed, i, end.Sub(span.Begin))
			}
			continue
		}
		if end.IsZero() {
			end = later(now, span.Begin)
		}
		if last >= 0 {
			setMinutes(replay, closed, last, end.Sub(s.Spans[last].Begin))
		}
	}
	return replay, closed
}

// setMinutes makes a step last so long, whatever its target was.
func setMinutes(p *plan.Plan, closed map[int]measure.Minute, i int, lasted time.Duration) {
	const perMinute = 1e4
	step, minutes := &p.Steps[i], measure.Minute(math.Round(lasted.Minutes()*perMinute)/perMinute)
	switch step.Do {
	case plan.Heat:
		step.Until = &plan.Until{Minutes: &minutes}
	case plan.Chill:
		const minutesPerHour = 60
		hours := float64(minutes) / minutesPerHour
		step.Hours = &hours
	case plan.Pressure:
		closed[i] = minutes
	default:
		step.Minutes = &minutes
	}
}
