package logbook

import (
	"context"
	"fmt"
	"slices"
	"strconv"
	"strings"

	"kirdu/core/cook"
	"kirdu/core/forecast"
	"kirdu/core/learn"
	"kirdu/core/measure"
	"kirdu/core/numeric"
	"kirdu/core/plan"
	"kirdu/core/pot"
	"kirdu/store"
	"kirdu/web/picture"
	"kirdu/words"
)

// view is one batch beside its plan.
type view struct {
	ID, Name, PuddingID, Day, Clock string
	Rows                            []row
	Steps                           []stepRow
	Weighings                       []weighing
	Lines                           picture.PotLines
	Learnt                          string
	Form                            form
	Faults                          map[string]string
	Grades                          []choice
	Sweetness                       []string
	Thicker, Softer                 []choice // wishes for the next time
	Serves                          []choice
	Judged                          bool
	Tags                            []string
	PhotoWidth, PhotoHeight         int
	Told                            []told
}

// told is what was seen or went otherwise, with the minute of it.
type told struct{ Minute, Words string }

type choice struct{ Value, Label string }

// row compares one figure.
type row struct{ What, Planned, Was string }

type stepRow struct{ Title, Planned, Was string }

type weighing struct{ Minute, Seen, Thought string }

// cookMinutes is how long a cook took from the flame to the end, or in all
// when no flame was ever lit.
func cookMinutes(s *cook.State) measure.Minute {
	if zero, ok := s.Zero(); ok {
		return measure.Minute(s.Finished.Sub(zero).Minutes())
	}
	return measure.Minute(s.Finished.Sub(s.Spans[0].Begin).Minutes())
}

func (s *Screen) newView(ctx context.Context, say words.Printer, k store.Cook) (view, error) {
	zone := s.app.Zone
	state := k.State()
	planned, err := s.kitchen.Forecast(ctx, k.Plan)
	if err != nil {
		return view{}, err
	}
	live, err := s.kitchen.Follow(ctx, k, &state, state.Finished)
	if err != nil {
		return view{}, err
	}
	v := view{ID: k.ID, Name: k.Plan.Name, PuddingID: k.PuddingID, Day: say.Time(k.BegunAt.In(zone), "2 January 2006"),
		Clock: k.BegunAt.In(zone).Format("15:04"), Sweetness: store.SweetnessVerdicts(), Thicker: wishes(store.ThicknessWishes()),
		Softer: wishes(store.SoftnessWishes()), Judged: k.Verdict != nil}
	for i, word := range pot.ThicknessWords() {
		v.Grades = append(v.Grades, choice{strconv.Itoa(i + 1), word})
	}
	for _, serve := range []plan.Serve{plan.Hot, plan.Warm, plan.Room, plan.Chilled} {
		v.Serves = append(v.Serves, choice{string(serve), say.Serving(serve)})
	}
	if k.Verdict != nil {
		v.Form = form{Eaten: k.Verdict.Eaten, Sweetness: k.Verdict.Sweetness, Note: k.Verdict.Note, NextNote: k.Verdict.NextNote,
			Thicker: k.Verdict.Thicker, Softer: k.Verdict.Softer}
		if k.Verdict.Thickness > 0 {
			v.Form.Thickness = strconv.Itoa(k.Verdict.Thickness)
		}
		if k.Verdict.NextThickness > 0 {
			v.Form.NextThickness = strconv.Itoa(k.Verdict.NextThickness)
		}
	}
	v.Tags = k.Tags
	v.Form.Tags = strings.Join(k.Tags, ", ")
	v.tell(say, k, &state)
	v.rows(say, &state, planned, live)
	v.steps(say, &state, k.Plan, planned, live.Forecast)
	v.readings(say, &state, k.Plan, planned, live)
	return v, nil
}

// wishes are choices that say themselves.
func wishes(of []string) (list []choice) {
	for _, one := range of {
		list = append(list, choice{one, one})
	}
	return list
}

func (v *view) rows(say words.Printer, s *cook.State, planned *forecast.Forecast, live learn.Live) {
	v.Rows = append(v.Rows, row{"From the flame to the end", say.Span(planned.Time.TotalMin), say.Minutes(cookMinutes(s))})
	yield := "not weighed"
	if s.Yield > 0 {
		yield = say.Exact(s.Yield)
	}
	v.Rows = append(v.Rows, row{"Yield", fmt.Sprintf("%s to %s", say.Grams(measure.Gram(planned.Yield.MassG.Low)),
		say.Grams(measure.Gram(planned.Yield.MassG.High))), yield})
	v.Rows = append(v.Rows, row{"Lost over the flame", rate(say, planned), rateSeen(say, s, live)})
	if live.Power.Factor != 1 {
		v.Learnt = say.Sprintf("The flame brought about %.0f %% of the power that was planned with (likely %.0f to %.0f %%).",
			100*live.Power.Factor, 100*live.Power.Factor*(1-measure.Percentile90*live.Power.SD),
			100*live.Power.Factor*(1+measure.Percentile90*live.Power.SD))
	}
}

// rate is what a forecast loses in a minute of flame.
func rate(say words.Printer, f *forecast.Forecast) string {
	perMinute := measure.Ratio(f.MassBalance.EvaporatedG, f.Time.FlameMin.Value)
	return say.Number(perMinute, 1) + " g a minute"
}

// rateSeen is the same of what was weighed.
func rateSeen(say words.Printer, s *cook.State, live learn.Live) string {
	if len(s.Readings) == 0 && s.Yield == 0 {
		return "not weighed"
	}
	return rate(say, live.Forecast)
}

// steps puts what was done beside what was planned, and what was left out behind
// it: of the plan as it was, a step's place is what the cook calls it.
func (v *view) steps(say words.Printer, s *cook.State, before *plan.Plan, planned, done *forecast.Forecast) {
	wanted := func(id int) string {
		if id >= len(planned.Steps) {
			return "not planned"
		}
		if lasts := planned.Steps[id].EndMin - planned.Steps[id].StartMin; lasts > 0 {
			return say.Minutes(measure.Minute(lasts))
		}
		return "at once"
	}
	for i := range s.Plan.Steps {
		span := s.Spans[i]
		one := stepRow{Title: say.Step(s.Plan, done, i).Title, Planned: wanted(s.IDs[i]), Was: "left out"}
		if !span.Begin.IsZero() && !span.End.IsZero() {
			one.Was = say.Minutes(measure.Minute(span.End.Sub(span.Begin).Minutes()))
		}
		v.Steps = append(v.Steps, one)
	}
	for id := range before.Steps {
		if !slices.Contains(s.IDs, id) {
			v.Steps = append(v.Steps, stepRow{Title: say.Step(before, planned, id).Title, Planned: wanted(id), Was: "left out"})
		}
	}
}

// readings puts each weigh-in beside what the plan had for that minute.
func (v *view) readings(say words.Printer, s *cook.State, before *plan.Plan, planned *forecast.Forecast, live learn.Live) {
	c := &planned.Curve
	var seen []picture.Seen
	for _, r := range s.Readings {
		minute := float64(s.Minute(r.At))
		if r.Full {
			continue // nobody knows what the pot weighs
		}
		if r.Pot != s.Plan.Served()[0] {
			v.Weighings = append(v.Weighings, besideReading(say, s, before, r))
			continue
		}
		thought := numeric.Interpolate(c.Minute, c.MassG, minute)
		one := weighing{Minute: say.Minutes(measure.Minute(minute)), Thought: say.Exact(measure.Gram(thought))}
		if r.MM > 0 {
			one.Seen = say.Number(float64(r.MM), 0) + " mm"
			one.Thought = say.Number(numeric.Interpolate(c.Minute, c.LevelMM, minute), 0) + " mm"
		} else {
			one.Seen = say.Exact(r.Mass)
			seen = append(seen, picture.Seen{Minute: minute, MassG: float64(r.Mass)})
		}
		v.Weighings = append(v.Weighings, one)
	}
	v.Lines = picture.NewPotLines(say, live.Plan, live.Forecast, picture.PotLineOptions{Seen: seen,
		Beside: &picture.Beside{Plan: before, Forecast: planned}})
}

// besideReading is a weigh-in of another pot, beside what the plan had for it.
func besideReading(say words.Printer, s *cook.State, before *plan.Plan, r cook.Measurement) weighing {
	only, _ := s.Only(r.Pot)
	minute := float64(only.Minute(r.At))
	c := &forecast.Run(before.Only(r.Pot, before.Into(r.Pot)), forecast.Options{NominalOnly: true}).Curve
	pot := say.PotName(s.Plan, r.Pot) + ": "
	one := weighing{Minute: say.Minutes(measure.Minute(minute)), Seen: pot + say.Exact(r.Mass),
		Thought: say.Exact(measure.Gram(numeric.Interpolate(c.Minute, c.MassG, minute)))}
	if r.MM > 0 {
		one.Seen = pot + say.Number(float64(r.MM), 0) + " mm"
		one.Thought = say.Number(numeric.Interpolate(c.Minute, c.LevelMM, minute), 0) + " mm"
	}
	return one
}

// tell lists what was told at the stove besides the taps that move on, each as the
// cook stood before it; what was taken back is left out.
func (v *view) tell(say words.Printer, k store.Cook, s *cook.State) {
	undone := map[string]bool{}
	for _, e := range k.Events {
		if e.Kind == cook.Undone {
			undone[e.Part] = true
		}
	}
	for i, e := range k.Events {
		if undone[e.ID] {
			continue
		}
		before := *s
		if e.Kind.IsDeviation() {
			before = cook.Log{Plan: k.Plan, Line: k.Line, Begun: k.BegunAt, Events: k.Events[:i]}.Fold()
		}
		if said := say.Told(&before, e); said != "" {
			v.Told = append(v.Told, told{say.Minutes(s.Minute(e.At)), said})
		}
	}
}
