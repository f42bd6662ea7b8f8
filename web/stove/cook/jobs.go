package cook

import (
	"cmp"
	"fmt"
	"slices"
	"time"

	"kirdu/core/cook"
	"kirdu/core/learn"
	"kirdu/core/measure"
	"kirdu/core/plan"
	"kirdu/words"
)

// A job goes on beside the pot: a garnish, a syrup, a second pan.
type job struct {
	ID                  int
	Title, Detail, Done string
	Waits, Runs, Over   bool
	When                string // "from 18:52", "since 18:50", "done"
	Begin               time.Time
	BeginAlarm          string
	Timers              []timer

	starts time.Time
}

// rank puts what goes on first, then what waits, then what is done.
func (j job) rank() int {
	switch {
	case j.Runs:
		return 0
	case j.Waits:
		return 1
	}
	return 2
}

// A timer rings when its time is up.
type timer struct {
	Key   string // which alarm it is, so that one can be quieted
	Name  string
	Due   time.Time
	Alarm string
	Left  string
}

// jobs lists what goes on beside the pot, in the order of the plan.
func (v *view) jobs(say words.Printer, s *cook.State, l *learn.Live, clock *learn.Clock, zone *time.Location) {
	for _, i := range s.Beside() {
		span := s.Spans[i]
		if !span.End.IsZero() && !s.Plan.Steps[i].Do.IsPreparation() {
			continue // a pot shows what it is, not what was done with it
		}
		said := say.Step(s.Plan, l.Forecast, i)
		one := job{ID: s.IDs[i], Title: said.Title, Detail: said.Detail, Done: said.Done}
		switch {
		case !span.End.IsZero():
			one.Over, one.When = true, "done at "+span.End.In(zone).Format("15:04")
		case !span.Begin.IsZero():
			one.Runs, one.When = true, "since "+span.Begin.In(zone).Format("15:04")
			one.Timers = timers(say, s.Plan, i, s.IDs[i], span.Begin, l, v.Now)
		default:
			one.Waits = true
			begin := clock.Jobs[i].Begin
			one.starts = begin
			one.When = "begin at " + begin.In(zone).Format("15:04")
			if _, lit := s.Zero(); lit {
				one.Begin, one.BeginAlarm = begin, "Time to begin: "+said.Title
				if !begin.After(v.Now) {
					one.When = "begin now"
				}
			}
		}
		v.Jobs = append(v.Jobs, one)
	}
	slices.SortStableFunc(v.Jobs, func(a, b job) int { return cmp.Or(cmp.Compare(a.rank(), b.rank()), a.starts.Compare(b.starts)) })
	for _, i := range s.Unready() {
		v.Unready = append(v.Unready, say.Step(s.Plan, l.Forecast, i).Title)
	}
}

// timers are those of a job that was begun: one for each thing that is fried, in
// its turn, else one for all of it.
func timers(say words.Printer, p *plan.Plan, i, id int, begin time.Time, l *learn.Live, now time.Time) (list []timer) {
	step := &p.Steps[i]
	add := func(k int, name string, due time.Time, alarm string) {
		list = append(list, timer{Key: fmt.Sprintf("job %d.%d", id, k), Name: name, Due: due, Alarm: alarm, Left: clockLeft(say, due, now)})
	}
	if step.Do == plan.Fry {
		due := begin
		for k, item := range step.Items {
			due = due.Add(time.Duration(float64(step.FryMinutes(item)) * float64(time.Minute)))
			name := say.ItemName(p, item)
			alarm := words.Capital(name) + " out of the fat."
			if k+1 < len(step.Items) {
				alarm = words.Capital(name) + " out, " + say.ItemName(p, step.Items[k+1]) + " in."
			}
			add(k, name, due, alarm)
		}
		return list
	}
	minutes := float64(step.FullMinutes())
	if !step.Do.IsPreparation() {
		minutes = l.Forecast.Steps[i].EndMin - l.Forecast.Steps[i].StartMin
	}
	if minutes > 0 {
		add(0, "", begin.Add(time.Duration(minutes*float64(time.Minute))), "Time is up: "+words.Lower(say.Step(p, l.Forecast, i).Title)+".")
	}
	return list
}

// clockLeft says how long until a time: "3:20", "over".
func clockLeft(say words.Printer, due, now time.Time) string {
	left := due.Sub(now).Round(time.Second)
	if left <= 0 {
		return "now"
	}
	if left >= time.Hour {
		return say.Minutes(measure.Minute(left.Minutes()))
	}
	return fmt.Sprintf("%d:%02d", int(left.Minutes()), int(left.Seconds())%60)
}
