package stove

import (
	"fmt"
	"maps"
	"math"
	"slices"
	"strings"
	"time"

	"kirdu/core/advice"
	"kirdu/core/cook"
	"kirdu/core/forecast"
	"kirdu/core/learn"
	"kirdu/core/measure"
	"kirdu/core/plan"
	"kirdu/core/pot"
	"kirdu/store"
	"kirdu/web/draw"
	"kirdu/web/page"
	"kirdu/web/say"
)

// view is what the Stove shows.
type view struct {
	ID, Name string
	NewID    string // of the next message
	Step     int
	Steps    int
	Over     bool // all steps are done
	CanBack  bool // a step lies behind

	Title, Detail, Note, Done string
	Low, High                 time.Time // likely end of the step
	Due                       time.Time // when the alarm goes; zero for none
	Alarm                     string
	Left                      string // range of the step in minutes
	HasLeft                   bool
	Ready                     bool // the end is near: the button stands out
	Bowl                      string
	Now                       time.Time
	State                     string // how it is in the pot now
	Changed                   string // what the last reading changed
	StirSeconds               int
	StirWords                 string
	Gauge                     draw.Gauge
	HasGauge                  bool
	Next                      []next
	Findings                  []forecast.Finding
	PotWeighed                bool
	Empty                     string // weight of the empty pot
	Target                    string // gauge and scale at the mark
	HeavyScale                string // why a scale must not be used, "" if it may

	Feels  []feel   // parts that can be felt
	Spoons []answer // how it may run off the spoon

	Typed  form
	Faults map[string]string
}

// feel is a part and how soft it may be between the fingers.
type feel struct {
	Part, Name string
	Answers    []answer
}

// answer is a choice with the value that it stands for.
type answer struct{ Value, Label string }

// How grain feels, and pearls look, with the doneness in the middle of each; how
// a pudding runs off a spoon, with its grade. Source: the model, sections 5 and 6.
var (
	grainAnswers = []answer{{"0.3", "hard"}, {"0.7", "firm core"}, {"1.1", "soft"}, {"1.9", "very soft"}}
	pearlAnswers = []answer{{"0.4", "white heart"}, {"0.8", "a white dot"}, {"1.2", "clear"}}
	spoonAnswers = []answer{{"1.3", "drips"}, {"2.2", "runs"}, {"3", "coats it"}, {"4.2", "slides off"}, {"6", "mounds"}}
)

// StepNumber counts the steps from 1.
func (v view) StepNumber() int { return v.Step + 1 }

// next is a step to come.
type next struct{ Title, At string }

// mostNext is how many steps to come are shown.
const mostNext = 3

// nearMinutes is how long before the likely end the button stands out.
const nearMinutes = 1.5

func newView(k store.Cook, now time.Time, zone *time.Location) view {
	state := k.State()
	p := k.Plan
	v := view{ID: k.ID, Name: p.Name, NewID: page.NewID(), Step: state.Step, Steps: len(p.Steps), Now: now,
		Over: state.Done(), CanBack: state.Step > 0}
	empty, weighed := p.Pots[p.Served()[0]].Mass()
	v.PotWeighed, v.Empty = weighed, say.Exact(empty)
	live := learn.Follow(&state, now)
	if v.Over {
		v.Title, v.Detail = "Off the stove", "Weigh what came out, if you can: it makes the next forecast better."
		v.HeavyScale = heavy(p, live.Mass+empty)
		return v
	}
	words := say.Step(p, live.Forecast, state.Step)
	v.Title, v.Detail, v.Note, v.Done = words.Title, words.Detail, p.Steps[state.Step].Note, words.Done
	if v.Target = words.Target; v.Target != "" {
		v.Title = "Simmer down to the mark"
	}
	v.times(&state, &live, now, zone)
	v.stirring(&p.Steps[state.Step])
	if _, begun := state.Zero(); begun {
		v.HasGauge = true
		v.Gauge = draw.NewGauge(marksAhead(live, state.Step), live.Level)
		v.State = stateWords(p, live)
		v.Changed = changed(k, &state, live, now)
		v.looks(p, live)
		v.HeavyScale = heavy(p, live.Mass+empty)
	}
	for i := state.Step + 1; i < len(p.Steps) && len(v.Next) < mostNext; i++ {
		at := moment(&state, live.Forecast.Steps[i].StartMin, now)
		v.Next = append(v.Next, next{Title: say.Step(p, live.Forecast, i).Title, At: at.In(zone).Format("15:04")})
	}
	for _, f := range live.Forecast.Findings {
		if f.Step >= state.Step {
			v.Findings = append(v.Findings, f)
		}
	}
	return v
}

// looks lists what can be felt and seen.
func (v *view) looks(p *plan.Plan, l learn.Live) {
	v.Spoons = spoonAnswers
	for _, part := range slices.Sorted(maps.Keys(l.Doneness)) {
		one := feel{Part: part, Name: advice.PartName(p, part), Answers: grainAnswers}
		slug := part
		if at := p.Maker(part); at >= 0 && len(p.Steps[at].Items) > 0 {
			slug = p.Steps[at].Items[0].Material
		}
		if m, ok := p.Pantry().Material(slug); ok && m.Kind == "pearl" {
			one.Answers = pearlAnswers
		}
		v.Feels = append(v.Feels, one)
	}
}

// heavy says why a pot must not be weighed hot, "" if it may be.
func heavy(p *plan.Plan, with measure.Gram) string {
	if with > p.Kitchen.ScaleLimitG {
		return fmt.Sprintf("With the pot it is about %s, more than your scale takes (%s). Use the gauge.",
			say.Grams(with), say.Grams(p.Kitchen.ScaleLimitG))
	}
	return ""
}

// moment turns a minute of the forecast into the time of day.
func moment(s *cook.State, minute float64, now time.Time) time.Time {
	zero, ok := s.Zero()
	if !ok {
		zero = now
	}
	return zero.Add(time.Duration(minute * float64(time.Minute)))
}

// times says when the present step and the whole will end.
func (v *view) times(s *cook.State, l *learn.Live, now time.Time, zone *time.Location) {
	p := s.Plan
	step := &p.Steps[s.Step]
	total := l.Forecast.Time.TotalMin
	bowl := moment(s, total.Value, now)
	if bowl.Before(now) {
		bowl = now
	}
	v.Bowl = bowl.In(zone).Format("15:04")
	begin := s.Spans[s.Step].Begin
	switch {
	case step.Do.IsPreparation(), step.Do == plan.Rest, step.Do == plan.Chill,
		step.Do == plan.Heat && step.Until.Minutes != nil:
		lasts := time.Duration(l.Forecast.Steps[s.Step].EndMin*float64(time.Minute)) - time.Duration(l.Forecast.Steps[s.Step].StartMin*float64(time.Minute))
		v.Due = begin.Add(lasts)
		v.Low, v.High, v.Alarm = v.Due, v.Due, "Time is up."
	case step.Do == plan.Heat:
		r := stepEnd(l.Forecast, s.Step)
		v.Low, v.High, v.Due = moment(s, r.Low, now), moment(s, r.High, now), moment(s, r.Value, now)
		v.Alarm = "The mark is due: look into the pot."
		if step.Until.Boil {
			v.Alarm = "It should boil about now: look into the pot."
		}
	default:
		return
	}
	v.HasLeft = true
	low, high := minutesLeft(v.Low, now), minutesLeft(v.High, now)
	v.Left = Left(low, high)
	v.Ready = v.Due.Sub(now).Minutes() < nearMinutes
}

func minutesLeft(end, now time.Time) float64 { return math.Max(0, end.Sub(now).Minutes()) }

// Left says a range of minutes that are left: "12–16", "now".
func Left(low, high float64) string {
	l, h := math.Round(low), math.Round(high)
	switch {
	case h < 1:
		return "now"
	case l == h:
		return fmt.Sprintf("%.0f", h)
	}
	return fmt.Sprintf("%.0f–%.0f", l, h)
}

// stepEnd returns when a heat step ends, with its range from its mark.
func stepEnd(f *forecast.Forecast, step int) measure.Range {
	for _, m := range f.Marks {
		if m.Step == step && m.Label != "start" {
			return m.Minute
		}
	}
	end := f.Steps[step].EndMin
	return measure.Range{Value: end, Low: end, High: end}
}

func (v *view) stirring(s *plan.Step) {
	if s.Do != plan.Heat {
		return
	}
	v.StirSeconds = int(s.Stirring().Every() * measure.SecondsPerMinute)
	v.StirWords = say.Capital(say.Stirring(s.Stirring()))
}

// marksAhead are the start and the marks that are still to come.
func marksAhead(l learn.Live, step int) []draw.SectionLevel {
	var ahead []draw.SectionLevel
	for _, level := range draw.LevelsOf(l.Forecast) {
		if level.Kind == "start" || level.Step >= step {
			ahead = append(ahead, level)
		}
	}
	return ahead
}

// stateWords says how it is in the pot now.
func stateWords(p *plan.Plan, l learn.Live) string {
	words := []string{fmt.Sprintf("About %s in the pot", say.Grams(l.Mass)), fmt.Sprintf("%.0f °C", float64(l.Celsius)), pot.ThicknessWord(l.Grade)}
	for _, part := range slices.Sorted(maps.Keys(l.Doneness)) {
		name := "grain"
		if len(l.Doneness) > 1 {
			name = strings.ToLower(advice.PartName(p, part))
		}
		words = append(words, name+" "+pot.DonenessWord(l.Doneness[part]))
	}
	return strings.Join(words, " · ")
}

// changed compares the forecast with the one before the last reading, if that
// belongs to the present step.
func changed(k store.Cook, s *cook.State, l learn.Live, now time.Time) string {
	last := -1
	for i, e := range k.Events {
		switch e.Kind {
		case cook.Weighed, cook.Dipped, cook.Felt, cook.Spooned, cook.Probed:
			last = i
		}
	}
	if last < 0 || !inStep(k, s, last) {
		return ""
	}
	without := k
	without.Events = append(append([]cook.Event(nil), k.Events[:last]...), k.Events[last+1:]...)
	before := without.State()
	was := learn.Follow(&before, now)
	switch e := k.Events[last]; e.Kind {
	case cook.Felt:
		return feltWords(s.Plan, e.Part, was, l)
	case cook.Spooned:
		return fmt.Sprintf("%s by the spoon: it will be served %s.", say.Capital(moreWord(l.Thicker, "thicker", "thinner")), servedWords(s.Plan, was, l))
	}
	oldEnd, newEnd := stepEnd(was.Forecast, s.Step).Value-float64(l.Now), stepEnd(l.Forecast, s.Step).Value-float64(l.Now)
	oldEnd, newEnd = math.Max(0, oldEnd), math.Max(0, newEnd)
	text := ""
	switch oldRate, newRate := math.Round(was.Rate), math.Round(l.Rate); {
	case oldRate != newRate:
		text = fmt.Sprintf("Losing %.0f g a minute, not %.0f: ", newRate, oldRate)
	default:
		text = fmt.Sprintf("Losing %.0f g a minute, as thought: ", newRate)
	}
	if math.Round(oldEnd) == math.Round(newEnd) {
		return text + fmt.Sprintf("the step still ends in about %.0f minutes.", newEnd)
	}
	return text + fmt.Sprintf("the step ends in about %.0f minutes, not %.0f.", newEnd, oldEnd)
}

// inStep reports whether an event was told in the present step.
func inStep(k store.Cook, s *cook.State, event int) bool {
	until := k
	until.Events = k.Events[:event]
	state := until.State()
	return state.Step == s.Step
}

func moreWord(x float64, more, less string) string {
	const noticed = 0.05
	switch {
	case x > noticed:
		return fmt.Sprintf("%.1f %s than thought", x, more)
	case x < -noticed:
		return fmt.Sprintf("%.1f %s than thought", -x, less)
	}
	return "as thought"
}

// servedWords compares the thickness as served with the one before.
func servedWords(p *plan.Plan, was, is learn.Live) string {
	before, now := was.Forecast.Thickness.As(p.Serve), is.Forecast.Thickness.As(p.Serve)
	if before == nil || now == nil {
		return "as the pot says"
	}
	return fmt.Sprintf("at %.1f (%.1f to %.1f), not %.1f", now.Value, now.Low, now.High, before.Value)
}

// feltWords says what a grain between the fingers changed.
func feltWords(p *plan.Plan, part string, was, is learn.Live) string {
	name := advice.PartName(p, part)
	text := fmt.Sprintf("%s softens as thought", name)
	if factor := is.Cook.Factor; math.Abs(factor-1) >= 0.03 {
		text = fmt.Sprintf("%s softens %.0f %% %s than thought", name, 100*math.Abs(1/factor-1), map[bool]string{true: "slower", false: "faster"}[factor > 1])
	}
	before, now := was.Forecast.Doneness[part].Value, is.Forecast.Doneness[part]
	return text + fmt.Sprintf(": it will be served %s, %.1f (%.1f to %.1f), not %.1f.", pot.DonenessWord(now.Value), now.Value, now.Low, now.High, before)
}
