// Package rehearse looks back at a pudding that was only rehearsed: what really happened in a pot
// over a flame that was not quite as thought, what the cook did about it, and what would have been
// better.
package rehearse

import (
	"maps"
	"math"
	"slices"
	"time"

	"kirdu/core/cook"
	"kirdu/core/forecast"
	"kirdu/core/learn"
	"kirdu/core/measure"
	"kirdu/core/mend"
	"kirdu/core/plan"
	"kirdu/core/pot"
	"kirdu/core/vessel"
)

// A Task is what a rehearsal may be about.
type Task string

// The tasks.
const (
	NoTask     Task = ""
	BoilsOver  Task = "boils-over"  // the milk rises to the rim
	Splits     Task = "splits"      // small curds show
	GuestsLate Task = "guests-late" // by Late
)

// Tasks lists them.
func Tasks() []Task { return []Task{NoTask, BoilsOver, Splits, GuestsLate} }

// Late is by how much the guests are late.
const Late = 30 * time.Minute

// GradesOff is how far off the thickness wanted a pudding may be when late guests eat it.
const GradesOff = 0.8

// How soon a cook must act, on the clock of the rehearsal. Source: our own judgement; milk is over
// the rim in about a minute, curds knit in a few.
const (
	beforeItIsOver   = 90 * time.Second
	beforeItIsCurds  = 3 * time.Minute
	early            = 5 * time.Minute // guests may wait so long
	lowFlame         = 50.0            // per cent
	lowForCurds      = 35.0
	announced        = 0.6 // of the whole time: when the guests call
	fiercest         = 1.3 // factor on the flame, at least, under what boils over
	curdsAfter       = time.Minute
	curdsWithoutAdd  = 5 * time.Minute
	boilsWithinC     = 0.3
	toldLate         = 2.0 // min from which on a boil was noticed late
	differs          = 0.3 // grades, doneness: what is worth saying
	differsMinutes   = 3.0
	differsSweetness = 0.7
)

// Flame is the factor on the power with which a rehearsal with a task goes, of what its stand-in
// has.
func Flame(task Task, standIn float64) float64 {
	if task == BoilsOver {
		return math.Max(standIn, fiercest)
	}
	return standIn
}

// Real returns a cook as it really goes over a flame that gives a factor more than thought.
func Real(s *cook.State, flame float64, now time.Time) *plan.Plan {
	really := learn.Replay(s, now).Clone()
	factor := flame
	if learnt := really.Calibration.Evaporation; learnt != nil {
		factor *= learnt.Value
	}
	really.Calibration.Evaporation = &plan.Learnt{Value: factor}
	return really
}

// Trouble returns when the trouble of a task comes; ok is false while that is not known yet.
func Trouble(task Task, s *cook.State, flame float64, now time.Time) (at time.Time, ok bool) {
	zero, lit := s.Zero()
	if task == NoTask || !lit {
		return time.Time{}, false
	}
	if task == GuestsLate {
		f := forecast.Run(s.Plan, forecast.Options{CourseOnly: true})
		return zero.Add(minutes(announced * f.Time.FlameMin.Value)), true
	}
	boils, ok := boilsAt(Real(s, flame, now), zero)
	if !ok || task == BoilsOver {
		return boils, ok
	}
	for i := range s.Plan.Steps {
		step := &s.Plan.Steps[i]
		if end := s.Spans[i].End; !s.IsBeside(i) && step.Do == plan.Add && end.After(boils) {
			return end.Add(curdsAfter), true
		}
	}
	return boils.Add(curdsWithoutAdd), true
}

// boilsAt returns when a pot first boils.
func boilsAt(p *plan.Plan, zero time.Time) (time.Time, bool) {
	c := &forecast.Run(p, forecast.Options{CourseOnly: true}).Curve
	boiling := float64(pot.BoilingPoint(p.Kitchen.AltitudeM, 0)) - boilsWithinC
	for k, celsius := range c.TempC {
		if celsius >= boiling {
			return zero.Add(minutes(c.Minute[k])), true
		}
	}
	return time.Time{}, false
}

// A Verdict is how a task was met.
type Verdict struct {
	Task  Task
	Came  bool           // the trouble came at all
	Done  bool           // the cook did what helps, in time
	After measure.Minute // until the cook did; negative: never
	Grade float64        // guests: as they ate it
	Want  float64        // guests: as it was wanted
}

// A Change is a figure of the pudding that came out otherwise than it was planned.
type Change struct {
	Figure      string // "minutes", "thickness", "sweetness", or a part for its doneness
	Planned, Is float64
}

// A Review is what a rehearsal was.
type Review struct {
	Flame    float64
	Planned  *forecast.Forecast
	Really   *forecast.Forecast
	Plan     *plan.Plan     // as it really went
	Changes  []Change       // by how much the pudding is another
	Wrong    []mend.Found   // what went wrong in the pot that was not in the plan
	Boiled   measure.Minute // for how long it boiled before the cook told so, if that was long
	Readings int            // weigh-ins, dips, looks that the cook took
	Task     *Verdict
}

// ReviewOf looks back at a rehearsal that is over.
func ReviewOf(begun *plan.Plan, s *cook.State, events []cook.Event, task Task, flame float64) Review {
	r := Review{Flame: flame, Readings: len(s.Readings) + len(s.Looks)}
	var before []mend.Found
	r.Planned, before = mend.Forecast(begun, forecast.Options{})
	r.Plan = Real(s, flame, s.Finished)
	var found []mend.Found
	r.Really, found = mend.Forecast(r.Plan, forecast.Options{NominalOnly: true})
	known := map[string]bool{}
	for _, f := range before {
		known[string(f.Rule)] = true
	}
	for _, f := range found {
		if !known[string(f.Rule)] && f.Severity != forecast.Note {
			r.Wrong = append(r.Wrong, f)
		}
	}
	r.changes()
	if zero, lit := s.Zero(); lit {
		if boils, ok := boilsAt(r.Plan, zero); ok {
			for i := range s.Plan.Steps {
				step, end := &s.Plan.Steps[i], s.Spans[i].End
				if s.IsBeside(i) || step.Do != plan.Heat || step.Until == nil || !step.Until.Boil || end.IsZero() {
					continue
				}
				if late := end.Sub(boils).Minutes(); late > toldLate {
					r.Boiled = measure.Minute(late)
				}
				break
			}
		}
	}
	if task != NoTask {
		v := judge(begun, s, events, task, flame, r.Really)
		r.Task = &v
	}
	return r
}

func (r *Review) changes() {
	add := func(figure string, planned, is, least float64) {
		if math.Abs(planned-is) >= least {
			r.Changes = append(r.Changes, Change{figure, planned, is})
		}
	}
	add("minutes", r.Planned.Time.TotalMin.Value, r.Really.Time.TotalMin.Value, differsMinutes)
	if a, b := r.Planned.Thickness.As(r.Plan.Serve), r.Really.Thickness.As(r.Plan.Serve); a != nil && b != nil {
		add("thickness", a.Value, b.Value, differs)
	}
	add("sweetness", r.Planned.Sweetness.Pct.Value, r.Really.Sweetness.Pct.Value, differsSweetness)
	for _, part := range slices.Sorted(maps.Keys(r.Planned.Doneness)) {
		if is, there := r.Really.Doneness[part]; there {
			add(part, r.Planned.Doneness[part].Value, is.Value, differs)
		}
	}
}

// judge holds what a cook did against what helps.
func judge(begun *plan.Plan, s *cook.State, events []cook.Event, task Task, flame float64, really *forecast.Forecast) Verdict {
	v := Verdict{Task: task, After: -1}
	at, came := Trouble(task, s, flame, s.Finished)
	if v.Came = came && at.Before(s.Finished); !v.Came {
		return v
	}
	if task == GuestsLate {
		planned := forecast.Run(begun, forecast.Options{})
		zero, _ := s.Zero()
		supper := zero.Add(minutes(planned.Time.TotalMin.Value)).Add(Late - early)
		is, want := really.Thickness.As(s.Plan.Serve), planned.Thickness.As(s.Plan.Serve)
		if is != nil && want != nil {
			v.Grade, v.Want = is.Value, want.Value
			v.Done = !s.Finished.Before(supper) && math.Abs(v.Grade-v.Want) <= GradesOff
		}
		v.After = measure.Minute(s.Finished.Sub(at).Minutes())
		return v
	}
	within, low := beforeItIsOver, lowFlame
	if task == Splits {
		within, low = beforeItIsCurds, lowForCurds
	}
	for _, e := range events {
		if e.At.Before(at) {
			continue
		}
		byEye := vessel.Flame(e.Part).Regulated()
		helps := e.Kind == cook.Paused || e.Kind == cook.Turned && (byEye || e.Value <= low) || e.Kind == cook.Mended ||
			task == BoilsOver && e.Kind == cook.Next
		if helps {
			v.After = measure.Minute(e.At.Sub(at).Minutes())
			v.Done = e.At.Sub(at) <= within
			return v
		}
	}
	return v
}

func minutes(m float64) time.Duration { return time.Duration(m * float64(time.Minute)) }
