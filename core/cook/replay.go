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
	return s.Plan.Steps[step].Lasts() && s.main(step)
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
// those to come are as planned, and so is what nobody told of when it was done. Of a cooker
// closed says, by step, how long it was shut: how much of that was under pressure only a
// forecast knows.
func (s *State) Replay(now time.Time) (replay *plan.Plan, closed map[int]measure.Minute) {
	replay, closed = s.Plan.Clone(), map[int]measure.Minute{}
	last := map[string]int{} // by pot: the latest timed step that was begun
	served := s.Plan.Served()[0]
	over := false // what comes after in the served pot is as planned
	for i := range replay.Steps {
		step, span := &replay.Steps[i], s.Spans[i]
		lasted := span.End.Sub(span.Begin)
		pot, own := potOf(step)
		if step.Do == plan.Soak && !span.End.IsZero() && lasted > time.Minute {
			setMinutes(replay, closed, i, lasted)
		}
		stray := s.IsStray(i) && slices.Contains(s.line, s.IDs[i])
		if !own && stray {
			pot = served // what a repair makes, while the pot goes on
		}
		switch {
		case !own && !stray, pot == served && over:
			continue
		case span.Begin.IsZero():
			over = over || s.main(i) || stray
			continue
		case !s.main(i) && !stray && (span.End.IsZero() || lasted < time.Second):
			continue // it goes on, or nobody told
		}
		end := span.End
		if do := step.Do; (do == plan.Drain || do == plan.Mash) && !end.IsZero() {
			setMinutes(replay, closed, i, lasted)
			last[pot] = i
			continue
		}
		if s.inPot(i, pot) {
			last[pot] = i
			if s.IsPause(i) && end.IsZero() {
				end = Later(now, span.Begin)
			}
			if !end.IsZero() {
				setMinutes(replay, closed, i, end.Sub(span.Begin))
			}
			continue
		}
		if end.IsZero() {
			end = Later(now, span.Begin)
		}
		if before, timed := last[pot]; timed {
			setMinutes(replay, closed, before, end.Sub(s.Spans[before].Begin))
		}
	}
	return replay, closed
}

// GaveWay returns when a step gave way to the next that takes time in its pot, or now: what goes
// in meanwhile counts to it.
func (s *State) GaveWay(step int, now time.Time) time.Time {
	end, pot := s.Spans[step].End, s.Plan.Steps[step].PotName()
	for i := step + 1; i < len(s.Plan.Steps); i++ {
		one := &s.Plan.Steps[i]
		if in, own := potOf(one); !own || in != pot || one.Do.IsPreparation() {
			continue
		}
		switch {
		case !one.Do.Descriptor().AtOnce || one.Do == plan.Drain || one.Do == plan.Mash || s.Spans[i].Begin.IsZero():
			return end
		case s.Spans[i].End.IsZero():
			return Later(now, end)
		}
		end = s.Spans[i].End
	}
	return end
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
	case plan.Caramel:
		step.Until, step.Minutes = nil, &minutes
	case plan.Pressure:
		closed[i] = minutes
	default:
		step.Minutes = &minutes
	}
}
