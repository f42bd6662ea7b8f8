package words

import (
	"time"

	"kirdu/core/forecast"
	"kirdu/core/plan"
	"kirdu/core/timetable"
)

// A Start is when something must begin, so that the pudding is on the table in
// time.
type Start struct {
	When         time.Time
	At           string // "Fri 21:40"
	What, Detail string
}

// StartBy says by when each preparation and the pot itself must begin. It goes
// by the long end of the likely time.
func (w Printer) StartBy(p *plan.Plan, f *forecast.Forecast, serveAt time.Time, zone *time.Location) []Start {
	lit := serveAt.Add(-minutes(f.Time.TotalMin.High))
	var starts []Start
	add := func(at float64, what, detail string) {
		when := lit.Add(minutes(at))
		starts = append(starts, Start{when, when.In(zone).Format("Mon 15:04"), what, detail})
	}
	potted := false
	course := timetable.Alone(p, f)
	for i := range p.Steps {
		s := &p.Steps[i]
		words := w.Step(p, f, i)
		if s.Do.IsPreparation() {
			add(float64(course.Steps[i].Start), words.Title, w.Minutes(s.FullMinutes()))
		} else if !potted && s.PotName() == p.Served()[0] {
			potted = true
			add(0, words.Title, "into the pot")
		}
	}
	for i := 1; i < len(starts); i++ { // few, and nearly in order
		for j := i; j > 0 && starts[j].When.Before(starts[j-1].When); j-- {
			starts[j], starts[j-1] = starts[j-1], starts[j]
		}
	}
	return starts
}

func minutes(m float64) time.Duration { return time.Duration(m * float64(time.Minute)) }
