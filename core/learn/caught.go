package learn

import (
	"slices"

	"kirdu/core/cook"
	"kirdu/core/forecast"
	"kirdu/core/plan"
)

// A tap that comes so soon after the one before cannot be how long a step took: the cook
// tells of several at once. Source: our own judgement; a burner gives at most 2.5 times what is
// thought, and what goes by the clock may be cut short.
const (
	tooSoonOpen  = 0.35 // of what is forecast, where the pot says when it is done
	tooSoonFixed = 0.1  // of its minutes, where the clock does
	soonest      = 1.0  // min: that long is no slip of the finger
	longest      = 60.0 // min: so late a tap is none too soon
	leastSpare   = 0.5  // min: by so much a step is off anyway
	leastSpoken  = 1.0  // min: a step that is shorter may be tapped as soon
)

// caught returns how many minutes the latest steps of a pot really took, by what events call
// them, if the end of the one that an event tells of comes too soon: as long as forecast, taken
// first from what the steps just before it lasted too long. It is nil where the tap is believed.
func caught(s *cook.State, e cook.Event) map[int]float64 {
	at := slices.Index(s.IDs, e.Step)
	if at < 0 || !s.Plan.Steps[at].Lasts() || s.IsPause(at) || s.Spans[at].Begin.IsZero() {
		return nil
	}
	lasted := e.At.Sub(s.Spans[at].Begin).Minutes()
	if lasted > longest || lasted < 0 {
		return nil
	}
	pot := s.Plan.Steps[at].PotName()
	only, steps := s.Only(pot)
	f := forecast.Run(Replay(only, e.At), forecast.Options{CourseOnly: true})
	planned := func(k int) float64 { return f.Steps[k].EndMin - f.Steps[k].StartMin }
	here := slices.Index(steps, at)
	if here < 0 || !tooSoon(&s.Plan.Steps[at], lasted, planned(here)) {
		return nil
	}
	as := forecast.Run(only.Plan, forecast.Options{CourseOnly: true}) // as it was planned
	need := planned(here) - lasted
	told := map[int]float64{s.IDs[at]: planned(here)}
	for k := here - 1; k >= 0 && need > 0; k-- {
		i := steps[k]
		if !s.Plan.Steps[i].Lasts() || s.Plan.Steps[i].PotName() != pot {
			continue
		}
		took := float64(s.Lasted(i))
		if spare := min(took-(as.Steps[k].EndMin-as.Steps[k].StartMin), need); spare > leastSpare {
			told[s.IDs[i]] = took - spare
			need -= spare
		}
		if !s.Guessed(i) {
			break
		}
	}
	return told
}

func tooSoon(s *plan.Step, lasted, planned float64) bool {
	switch {
	case planned < leastSpoken:
		return false
	case s.Do == plan.Chill || s.Do == plan.Cool || s.Do == plan.Portion:
		return false // it goes on in the bowls and in the refrigerator
	case s.Do == plan.Heat && s.Until != nil && s.Until.Minutes == nil, s.Do == plan.Pressure:
		return lasted < tooSoonOpen*planned
	}
	return lasted < min(tooSoonFixed*planned, soonest)
}
