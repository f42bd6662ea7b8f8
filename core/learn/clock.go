package learn

import (
	"slices"
	"time"

	"kirdu/core/cook"
	"kirdu/core/forecast"
	"kirdu/core/plan"
	"kirdu/core/timetable"
)

// A Clock is where the forecast of a cook lies in the day.
type Clock struct {
	Zero time.Time         // minute 0: when the first timed step of the served pot began, or can begin at the earliest
	Late time.Duration     // by how much what is beside the pot holds the bowl up
	Jobs map[int]Span      // of each step that is beside the pot and not done: from when to when
	Line *timetable.Course // as one cook would lay it out
}

// A Span is a stretch of the day.
type Span struct{ Begin, End time.Time }

// At is a minute of the forecast in the day.
func (c Clock) At(minute float64) time.Time {
	return c.Zero.Add(time.Duration(minute * float64(time.Minute)))
}

// soon is within what it is time already.
const soon = 2 * time.Minute

// Waits says what must not be begun yet although it is come to, or is to be begun while the
// present step, which is due then, goes on by itself. ok is false where nothing waits.
func (c Clock) Waits(s *cook.State, now, due time.Time) (step int, meanwhile, ok bool) {
	if _, lit := s.Zero(); lit || s.Done() || c.Zero.Sub(now) < soon {
		return 0, false, false
	}
	if !s.IsBeside(s.Step) {
		return s.Step, false, true
	}
	ahead := s.Ahead()
	if !s.CanLeave() || len(ahead) == 0 || s.IsBeside(ahead[0]) || due.Sub(c.Zero) < soon {
		return 0, false, false
	}
	return ahead[0], true, true
}

// Bowl is when it comes to the table: after all that is still to be done, what is prepared
// for it first.
func (c Clock) Bowl(f *forecast.Forecast) time.Time { return c.At(f.Time.TotalMin.Value).Add(c.Late) }

// ClockOf lays the live forecast into the day. What is not begun begins now at the earliest, one
// thing after the other where it wants the hands, and after what it is made of; the pot begins
// when what it takes first is ready.
func ClockOf(s *cook.State, l *Live, now time.Time) Clock {
	p, f := s.Plan, l.Forecast
	course := timetable.Alone(p, f)
	c := Clock{Jobs: map[int]Span{}, Line: &course}
	zero, lit := s.Zero()
	ready := map[int]time.Time{} // when each step beside the pot is done
	free := now                  // when the hands are, for the next of them
	line := s.Ahead()
	if !s.Done() {
		line = append([]int{s.Step}, line...)
	}
	// The cook goes along the line; what is not in it is fitted in.
	order := slices.Clone(line)
	for _, i := range course.Order {
		if !slices.Contains(line, i) {
			order = append(order, i)
		}
	}
	for _, i := range order {
		if !s.IsBeside(i) {
			continue
		}
		step, lasts := &p.Steps[i], minutes(float64(course.Steps[i].End-course.Steps[i].Start))
		span := s.Spans[i]
		switch {
		case !span.End.IsZero():
			ready[i] = span.End
			continue
		case !span.Begin.IsZero():
			c.Jobs[i] = Span{span.Begin, cook.Later(span.Begin.Add(lasts), now)}
		default:
			begin := now
			for j := range i {
				if s.IsBeside(j) && p.Feeds(j, i) {
					begin = cook.Later(begin, ready[j])
				}
			}
			switch hands := step.HandsOn(); {
			case step.Do.IsPreparation() && hands > 0:
				begin = cook.Later(begin, free)
				free = begin.Add(minutes(float64(hands)))
			case !step.Do.IsPreparation() && slices.Contains(line, i):
				begin = cook.Later(begin, free)
				if free = begin; step.Do == plan.Heat {
					free = begin.Add(lasts) // it is stirred, or watched
				}
			}
			c.Jobs[i] = Span{begin, begin.Add(lasts)}
		}
		ready[i] = c.Jobs[i].End
	}
	c.Zero = now
	if lit {
		c.Zero = zero
	}
	for i := range c.Jobs {
		needed := minutes(f.Steps[i].EndMin)
		if !lit {
			if first := ready[i].Add(-needed); first.After(c.Zero) {
				c.Zero = first
			}
		}
	}
	for i := range c.Jobs {
		if late := ready[i].Sub(c.Zero.Add(minutes(f.Steps[i].EndMin))); late > c.Late {
			c.Late = late
		}
	}
	// A job that need not begin yet is laid where it lies on the clock of one cook.
	for i, span := range c.Jobs {
		if at := c.At(float64(course.Steps[i].Start)); s.Spans[i].Begin.IsZero() && at.After(span.Begin) {
			c.Jobs[i] = Span{at, at.Add(span.End.Sub(span.Begin))}
		}
	}
	return c
}

func minutes(m float64) time.Duration { return time.Duration(m * float64(time.Minute)) }
