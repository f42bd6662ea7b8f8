package cook

import (
	"context"
	"fmt"
	"maps"
	"math"
	"slices"
	"strconv"
	"strings"
	"time"

	"github.com/gin-gonic/gin"

	"kirdu/app"
	"kirdu/core/cook"
	"kirdu/core/forecast"
	"kirdu/core/lead"
	"kirdu/core/learn"
	"kirdu/core/measure"
	"kirdu/core/plan"
	"kirdu/core/pot"
	"kirdu/core/rehearse"
	"kirdu/store"
	"kirdu/web/frame"
	"kirdu/web/picture"
	"kirdu/words"
)

// view is what the Stove shows.
type view struct {
	ID, Name string
	NewID    string // of the next message
	Step     int    // what events call the present step
	Place    int    // which it is in the line, from 1
	Steps    int
	Over     bool // all steps are done
	IsJob    bool // the present step is a job that may go on by itself
	Paused   bool
	Sealed   bool   // nothing can be weighed or seen
	Whistles string // "2 of 3"
	CanBack  bool   // a step lies behind

	Title, Detail, Note, Done string
	Long                      bool      // the detail is more than a line
	Low, High                 time.Time // likely end of the step
	Due                       time.Time // when the alarm goes; zero for none
	Alarm                     string
	Left                      string // range of the step in minutes
	HasLeft                   bool
	Ready                     bool // the end is near: the button stands out
	Bowl                      string
	Now                       time.Time
	State                     string // how it is in the pot now
	Changed                   string // what was told last, and what it changed
	ChangedID                 string // of that event
	StirSeconds               int
	StirWords                 string
	Gauge                     picture.Gauge
	HasGauge                  bool
	Next                      []next
	Jobs                      []job
	Gadgets                   []string // what they show
	Rehearsal                 bool
	Trouble                   string // of its task
	TroubleAt                 time.Time
	Troubled                  bool // it has come
	Speed                     float64
	Unready                   []string // jobs that the present step waits for
	Otherwise                 otherwise
	Findings                  []words.Finding
	Pot                       string // that the present step is about, as the plan calls it
	InPot                     string // its name, where there is more than one
	Vessels                   []vesselOf
	Untared                   []vesselOf // pots that were weighed full, and not empty yet
	Others                    []other    // other pots that are on the flame, or stand full
	PotWeighed                bool
	Empty                     string // weight of the empty pot
	Guessed                   string // what was told of all at once, ""
	Wait                      string // it is not time yet, or will be while this goes on
	WaitUntil                 time.Time
	WaitAlarm                 string
	Target                    string // gauge and scale at the mark
	HeavyScale                string // why a scale must not be used, "" if it may

	Led   *led // what is to be known now, nil for nothing
	Leads bool // the household is led by the hand
	known []lead.Lesson
	Open  string // the tool that is to stand open

	Feels  []feel   // parts that can be felt
	Spoons []answer // how it may run off the spoon

	Typed  form
	Faults map[string]string
}

// feel is a part and how soft it may be between the fingers.
type feel struct {
	Part, Name, Pot string
	Answers         []answer
}

// answer is a choice with the value that it stands for.
type answer struct{ Value, Label string }

// How grain feels, and pearls look, with the doneness in the middle of each; how
// a pudding runs off a spoon, with its grade. Source: the model, sections 5 and 6.
var (
	grainAnswers = answersOf(learn.GrainAnswers, "hard", "firm core", "soft", "very soft")
	pearlAnswers = answersOf(learn.PearlAnswers, "white heart", "a white dot", "clear")
	spoonAnswers = []answer{{"1.3", "drips"}, {"2.2", "runs"}, {"3", "coats it"}, {"4.2", "slides off"}, {"6", "mounds"}}
)

func answersOf(values []float64, labels ...string) (list []answer) {
	for k, value := range values {
		list = append(list, answer{strconv.FormatFloat(value, 'f', -1, 64), labels[k]})
	}
	return list
}

// next is a step to come.
type next struct{ Title, At string }

// mostNext is how many steps to come are shown.
const mostNext = 3

// nearMinutes is how long before the likely end the button stands out.
const nearMinutes = 1.5

func (s *Screen) newView(c *gin.Context, say words.Printer, k store.Cook, now time.Time) (view, error) {
	zone := s.app.Zone
	ctx := c.Request.Context()
	state := k.State()
	p := state.Plan
	behind, of := state.Place()
	v := view{ID: k.ID, Name: p.Name, NewID: frame.FreshID, Step: state.ID(), Place: behind + 1, Steps: of, Now: now, Rehearsal: k.Rehearsal,
		Speed: max(k.Speed, 1), Pot: state.Pot(),
		Over: state.Done(), CanBack: behind > 0}
	empty, weighed := p.Pots[v.Pot].Mass()
	v.PotWeighed, v.Empty = weighed, say.Exact(empty)
	follow := follower{ctx, s.kitchen, k, app.Moment(k, now)}
	var err error
	if v.Leads, v.known, err = s.kitchen.Leads(ctx, frame.PreferencesOf(c).Lead); err != nil {
		return v, err
	}
	live, err := follow.whole(&state)
	if err != nil {
		return v, err
	}
	clock := learn.ClockOf(&state, &live, follow.at)
	here, err := follow.hereIn(&state, v.Pot, &live, &clock)
	if err != nil {
		return v, err
	}
	v.jobs(say, &state, &live, &clock, zone)
	v.Otherwise = newOtherwise(say, &state, &live)
	if err := v.change(say, follow, &state, live); err != nil {
		return v, err
	}
	if at, comes := rehearse.Trouble(rehearse.Task(k.Task), &state, app.FlameOf(k), now); k.Rehearsal && comes {
		v.Trouble, v.TroubleAt, v.Troubled = words.TaskTrouble(rehearse.Task(k.Task)), at, !at.After(now)
	}
	v.guessed(say, &state)
	for _, pot := range state.Untared() {
		v.Untared = append(v.Untared, vesselOf{Key: pot, Name: say.PotName(p, pot)})
	}
	if v.Over {
		v.Title, v.Detail = "Off the stove", "Weigh what came out, if you can: it makes the next forecast better."
		v.HeavyScale = heavy(say, p, live.Mass+empty)
		return v, v.lead(say, follow, &state, here, &clock)
	}
	step := &p.Steps[state.Step]
	said := say.Step(p, live.Forecast, state.Step)
	if here.step >= 0 {
		said = say.Step(here.Plan, here.live.Forecast, here.step)
	}
	v.Title, v.Detail, v.Note, v.Done = said.Title, said.Detail, step.Note, said.Done
	const line = 60 // letters
	v.Target, v.Long = said.Target, len(said.Detail) > line
	if u := step.Until; u != nil && (u.RemainingPct != nil || u.MassG != nil) {
		v.Title = "Simmer down to the mark" // the target says which
	}
	v.Bowl = cook.Later(clock.Bowl(live.Forecast), now).In(zone).Format("15:04")
	v.times(say, &state, here, now)
	v.wait(say, &state, &live, &clock, zone)
	v.stirring(say, step, here.live.Grade)
	v.IsJob = state.CanLeave()
	if state.IsPause(state.Step) {
		v.Paused = true
		v.Title, v.Done = "Off the flame", "Back on the flame"
		v.Detail = "since " + state.Spans[state.Step].Begin.In(zone).Format("15:04") + "; what was begun goes on from here"
	}
	v.Sealed = step.Do == plan.Pressure || step.Do == plan.Bake
	if step.Do == plan.Pressure {
		v.whistles(&state)
	}
	if state.IsLit(v.Pot) {
		v.HasGauge = true
		v.Gauge = picture.NewGauge(say, marksAhead(say, here), here.live.Level)
		v.State = stateWords(say, here.Plan, here.live)
		v.looks(here.Plan, v.Pot, here.live)
		v.HeavyScale = heavy(say, p, here.live.Mass+empty)
	}
	if err := v.vessels(say, follow, &state, &live, &clock); err != nil {
		return v, err
	}
	for _, i := range state.Ahead() {
		if len(v.Next) == mostNext {
			break
		}
		at := clock.At(live.Forecast.Steps[i].StartMin)
		if job, beside := clock.Jobs[i]; beside {
			at = job.Begin
		}
		v.Next = append(v.Next, next{Title: say.Step(p, live.Forecast, i).Title, At: cook.Later(at, now).In(zone).Format("15:04")})
	}
	for _, f := range say.Findings(p, live.Findings) {
		if f.Message = words.Capital(f.Message); f.Step >= state.Step || f.Step >= 0 && state.IsStray(f.Step) {
			v.Findings = append(v.Findings, f)
		}
	}
	return v, v.lead(say, follow, &state, here, &clock)
}

// wait says when it is time for what is not yet to be begun.
func (v *view) wait(say words.Printer, s *cook.State, l *learn.Live, clock *learn.Clock, zone *time.Location) {
	step, meanwhile, ok := clock.Waits(s, v.Now, v.Due)
	if !ok {
		return
	}
	lead := "Not before "
	if meanwhile {
		lead = "While this goes on, at "
	}
	title := say.Step(s.Plan, l.Forecast, step).Title
	v.Wait = lead + clock.Zero.In(zone).Format("15:04") + ": " + words.Lower(title)
	v.WaitUntil, v.WaitAlarm = clock.Zero, "Time to begin: "+title
}

// A follower follows a cook at a moment.
type follower struct {
	ctx     context.Context
	kitchen kitchen
	cook    store.Cook
	at      time.Time
}

func (f follower) whole(s *cook.State, of ...string) (learn.Live, error) {
	return f.kitchen.Follow(f.ctx, f.cook, s, f.at, of...)
}

func (f follower) pot(only *cook.State, of ...string) (learn.Live, error) {
	return f.kitchen.FollowPot(f.ctx, f.cook, only, f.at, of...)
}

// here is the cook of the pot that the present step is about.
type here struct {
	*cook.State // of that pot alone
	live        learn.Live
	at          func(minute float64) time.Time // of its forecast, in the day
	step        int                            // the present one; -1 for one that is not its own
}

// hereIn follows one pot. live and clock are those of the whole cook.
func (f follower) hereIn(state *cook.State, pot string, live *learn.Live, clock *learn.Clock) (here, error) {
	only, steps := state.Only(pot)
	if only == state {
		return here{state, *live, clock.At, state.Step}, nil
	}
	alone, err := f.pot(only, pot)
	if err != nil {
		return here{}, err
	}
	one := here{State: only, live: alone, step: slices.Index(steps, state.Step)}
	zero, lit := only.Zero()
	if !lit {
		zero = f.at
	}
	one.at = func(minute float64) time.Time { return zero.Add(time.Duration(minute * float64(time.Minute))) }
	return one, nil
}

// vesselOf is a pot that can be weighed, dipped or felt.
type vesselOf struct {
	Key, Name string
	Empty     string // what it weighs, "" if nobody knows
}

// other is a pot that is on the flame, or stands full, beside the one of the present step.
type other struct {
	Name, State string
	Gauge       picture.Gauge
}

// vessels lists the pots that are not empty, the present one first, and says how it is in the
// others.
func (v *view) vessels(say words.Printer, follow follower, s *cook.State, live *learn.Live, clock *learn.Clock) error {
	pots := s.Lit()
	if i := slices.Index(pots, v.Pot); i > 0 {
		pots = slices.Insert(slices.Delete(pots, i, i+1), 0, v.Pot)
	}
	for _, pot := range pots {
		one := vesselOf{Key: pot, Name: say.PotName(s.Plan, pot)}
		if mass, weighed := s.Plan.Pots[pot].Mass(); weighed {
			one.Empty = say.Exact(mass)
		}
		v.Vessels = append(v.Vessels, one)
		if pot != v.Pot {
			h, err := follow.hereIn(s, pot, live, clock)
			if err != nil {
				return err
			}
			v.looks(h.Plan, pot, h.live)
			v.Others = append(v.Others, other{words.Capital(one.Name), stateWords(say, h.Plan, h.live),
				picture.NewGauge(say, marksAhead(say, h), h.live.Level)})
		}
	}
	if _, inPot := s.StepPot(); !inPot {
		return nil
	}
	used := 0
	for _, pot := range s.Plan.PotNamesSorted() {
		used += min(len(s.Plan.PotUsers(pot)), 1)
	}
	if used > 1 {
		v.InPot = words.Capital(say.PotName(s.Plan, v.Pot))
	}
	return nil
}

// guessed says which steps were told of so soon that nobody knows how long they took.
func (v *view) guessed(say words.Printer, s *cook.State) {
	latest := -1
	for i := range s.Plan.Steps {
		if s.Guessed(i) && i < s.Step && (latest < 0 || i > latest) {
			latest = i
		}
	}
	if latest >= 0 && s.Since() == s.IDs[latest] {
		v.Guessed = say.Sprintf("Told all at once: until here it is taken to have gone as planned, %s for the last of it. It teaches nothing.",
			say.Minutes(s.Lasted(latest)))
	}
}

// looks lists what can be felt and seen.
func (v *view) looks(p *plan.Plan, pot string, l learn.Live) {
	v.Spoons = spoonAnswers
	for _, part := range slices.Sorted(maps.Keys(l.Doneness)) {
		one := feel{Part: part, Name: p.PartName(part), Pot: pot, Answers: grainAnswers}
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
func heavy(say words.Printer, p *plan.Plan, with measure.Gram) string {
	if with > p.Kitchen.ScaleLimitG {
		return fmt.Sprintf("With the pot it is about %s, more than your scale takes (%s). Use the gauge.",
			say.Grams(with), say.Grams(p.Kitchen.ScaleLimitG))
	}
	return ""
}

// times says when the present step will end.
func (v *view) times(say words.Printer, s *cook.State, h here, now time.Time) {
	p := s.Plan
	step := &p.Steps[s.Step]
	begin := s.Spans[s.Step].Begin
	at := h.step
	switch {
	case step.Do.IsPreparation(), step.Do == plan.Rest, step.Do == plan.Chill,
		step.Do == plan.Heat && step.Until.Minutes != nil:
		lasts := float64(step.FullMinutes())
		if at >= 0 {
			lasts = h.live.Forecast.Steps[at].EndMin - h.live.Forecast.Steps[at].StartMin
		}
		v.Due = begin.Add(time.Duration(lasts * float64(time.Minute)))
		v.Low, v.High, v.Alarm = v.Due, v.Due, "Time is up."
	case s.IsPause(s.Step):
		return
	case step.Do == plan.Heat, step.Do == plan.Pressure, step.Do == plan.Bake, step.Do == plan.Cool, step.Do == plan.Hold,
		step.Do == plan.Caramel:
		r := stepEnd(h.live.Forecast, at)
		v.Low, v.High, v.Due = h.at(r.Low), h.at(r.High), h.at(r.Value)
		v.Alarm = dueWords[step.Do]
		if step.Do == plan.Heat && step.Until.Boil {
			v.Alarm = "It should boil about now: look into the pot."
		}
	default:
		return
	}
	v.HasLeft = true
	low, high := minutesLeft(v.Low, now), minutesLeft(v.High, now)
	v.Left = Left(say, low, high)
	v.Ready = v.Due.Sub(now).Minutes() < nearMinutes
}

// dueWords say what is due when the time of a step is up.
var dueWords = map[plan.Verb]string{plan.Heat: "The mark is due: look into the pot.",
	plan.Pressure: "The pressure should be off about now: open it only when the valve is down.",
	plan.Bake:     "It should be done about now: look into the oven.", plan.Cool: "It should be cool about now.", plan.Hold: "Time is up.",
	plan.Caramel: "It should be brown about now: look, do not taste."}

// whistles counts those of the present step.
func (v *view) whistles(s *cook.State) {
	heard := 0
	for _, w := range s.Whistles {
		if w.Step == v.Step {
			heard++
		}
	}
	v.Whistles = fmt.Sprint(heard)
	if wanted := s.Present().Whistles; wanted > 0 {
		v.Whistles = fmt.Sprintf("%d of %d", heard, wanted)
		switch {
		case heard >= wanted:
			v.Ready = true
			v.Title = "Turn the flame off, and leave it"
			v.Detail = "the pressure goes by itself: do not force it, open it only when the valve is down"
			v.Target = fmt.Sprintf("%d heard: that was the last", heard)
			if s.Present().Release == plan.Quick {
				v.Detail = "then let the steam off, away from you; open it only when the valve is down"
			}
		case heard > 0:
			v.Title = words.Capital(fmt.Sprintf("%d heard, %d to come", heard, wanted-heard))
			v.Target = "flame off after the last"
		}
	}
}

func minutesLeft(end, now time.Time) float64 { return math.Max(0, end.Sub(now).Minutes()) }

// Left says a range of minutes that are left: "12–16", "now".
func Left(say words.Printer, low, high float64) string {
	l, h := math.Round(low), math.Round(high)
	switch {
	case h < 1:
		return "now"
	case l == h:
		return say.Sprintf("%.0f", h)
	}
	return say.Sprintf("%.0f–%.0f", l, h)
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

func (v *view) stirring(say words.Printer, s *plan.Step, grade float64) {
	if s.Do != plan.Heat {
		return
	}
	v.StirSeconds = int(s.Stirring().EveryAt(grade) * measure.SecondsPerMinute)
	v.StirWords = words.Capital(say.Stirring(s.Stirring()))
}

// marksAhead are the start and the next marks to come.
func marksAhead(say words.Printer, h here) []picture.SectionLevel {
	const most = 4
	var ahead []picture.SectionLevel
	for _, level := range picture.LevelsOf(say, h.live.Forecast) {
		if (level.Kind == "start" || level.Step >= h.Step) && len(ahead) < most {
			ahead = append(ahead, level)
		}
	}
	return ahead
}

// stateWords says how it is in the pot now.
func stateWords(say words.Printer, p *plan.Plan, l learn.Live) string {
	said := []string{say.Sprintf("About %s in the pot", say.Grams(l.Mass)), say.Celsius(l.Celsius), pot.ThicknessWord(l.Grade)}
	for _, part := range slices.Sorted(maps.Keys(l.Doneness)) {
		name := "grain"
		if len(l.Doneness) > 1 {
			name = strings.ToLower(p.PartName(part))
		}
		said = append(said, name+" "+pot.DonenessWord(p.Texture(part), l.Doneness[part]))
	}
	return strings.Join(said, " · ")
}

// change says what was told last in the present step, and what it changed.
func (v *view) change(say words.Printer, follow follower, s *cook.State, l learn.Live) error {
	k := follow.cook
	last := -1
	undone := map[string]bool{}
	for _, e := range k.Events {
		if e.Kind == cook.Undone {
			undone[e.Part] = true
		}
	}
	for i, e := range k.Events {
		switch e.Kind {
		case cook.Weighed, cook.Dipped, cook.Felt, cook.Spooned, cook.Probed, cook.Tasted, cook.Whistled:
		default:
			if !e.Kind.IsDeviation() {
				continue
			}
		}
		if !undone[e.ID] {
			last = i
		}
	}
	if last < 0 || !inStep(k, s, last) {
		return nil
	}
	before := without(k, last)
	e := k.Events[last]
	v.ChangedID = e.ID
	const without = "without"
	was, err := follow.whole(&before, without, e.ID)
	if err != nil {
		return err
	}
	if pot := s.PotOf(e); !e.Kind.IsDeviation() && pot != s.Plan.Served()[0] {
		// What another pot says is of that pot.
		only, _ := s.Only(pot)
		then, _ := before.Only(pot)
		if l, err = follow.pot(only, pot); err != nil {
			return err
		}
		if was, err = follow.pot(then, pot, without, e.ID); err != nil {
			return err
		}
		s = only
	}
	doubt := slices.IndexFunc(l.Doubted, func(d learn.Doubt) bool { return math.Abs(float64(d.At-s.Minute(e.At))) < float64(sameMinute) })
	switch {
	case e.Kind == cook.Weighed && e.Value == cook.WithPot && slices.Contains(s.Untared(), s.PotOf(e)):
		v.Changed = "Noted, with the pot in it. It counts when you have told what the empty pot weighs."
	case !e.Kind.IsDeviation() && doubt >= 0:
		v.Changed = say.Doubted(s.Plan, l.Doubted[doubt])
	case e.Kind.IsDeviation():
		v.Changed = otherwiseWords(say, s.Plan, e, was, l, say.Deviation(&before, e))
	case e.Kind == cook.Felt:
		v.Changed = feltWords(say, s.Plan, e.Part, was, l)
	case e.Kind == cook.Spooned:
		v.Changed = fmt.Sprintf("%s by the spoon: it will be served %s.", words.Capital(moreWord(say, l.Thicker, "thicker", "thinner")),
			servedWords(say, s.Plan, was, l))
	case e.Kind == cook.Tasted:
		v.Changed = tastedWords(say, s.Plan, e.Value, l)
	case s.Done():
	case e.Kind == cook.Whistled:
		v.Changed = whistleWords(say, s, was, l)
	default:
		v.Changed = lossWords(say, s, was, l)
	}
	return nil
}

// sameMinute is how near two times are the same.
const sameMinute measure.Minute = 0.05

// endsIn returns in how many minutes the present step ends.
func endsIn(s *cook.State, l learn.Live) float64 {
	return math.Max(0, stepEnd(l.Forecast, s.Step).Value-float64(l.Now))
}

// lossWords says what a weight, a dip or a temperature changed.
func lossWords(say words.Printer, s *cook.State, was, l learn.Live) string {
	const steams = 2 // g a minute from which on it is worth a word
	text := ""
	switch oldRate, newRate := math.Round(was.Rate), math.Round(l.Rate); {
	case max(oldRate, newRate) < steams:
		return words.Capital(endWords(say, s, was, l))
	case oldRate != newRate:
		text = say.Sprintf("Losing %.0f g a minute, not %.0f: ", newRate, oldRate)
	default:
		text = say.Sprintf("Losing %.0f g a minute, as thought: ", newRate)
	}
	return text + endWords(say, s, was, l)
}

func endWords(say words.Printer, s *cook.State, was, l learn.Live) string {
	before, now := math.Round(endsIn(s, was)), math.Round(endsIn(s, l))
	if before == now {
		return say.Sprintf("the step still ends in about %.0f minutes.", now)
	}
	return say.Sprintf("the step ends in about %.0f minutes, not %.0f.", now, before)
}

// whistleWords says what a whistle changed.
func whistleWords(say words.Printer, s *cook.State, was, l learn.Live) string {
	if l.Whistle > 0 {
		return say.Sprintf("A whistle about every %.1f minutes: ", float64(l.Whistle)) + endWords(say, s, was, l)
	}
	return "Under pressure: " + endWords(say, s, was, l)
}

// inStep reports whether an event was told in the present step.
func inStep(k store.Cook, s *cook.State, event int) bool {
	until := k
	until.Events = k.Events[:event]
	state := until.State()
	return state.ID() == s.ID() || k.Events[event].Kind.IsDeviation() && isNext(s, state.ID())
}

// isNext reports whether what was told has come before a step that is present
// again since: a pause, or what was forgotten.
func isNext(s *cook.State, id int) bool {
	return slices.ContainsFunc(s.Ahead(), func(i int) bool { return s.IDs[i] == id })
}

func moreWord(say words.Printer, x float64, more, less string) string {
	const noticed = 0.05
	switch {
	case x > noticed:
		return say.Sprintf("%.1f %s than thought", x, more)
	case x < -noticed:
		return say.Sprintf("%.1f %s than thought", -x, less)
	}
	return "as thought"
}

// servedWords compares the thickness as served with the one before.
func servedWords(say words.Printer, p *plan.Plan, was, is learn.Live) string {
	before, now := was.Forecast.Thickness.As(p.Serve), is.Forecast.Thickness.As(p.Serve)
	if before == nil || now == nil {
		return "as the pot says"
	}
	return say.Sprintf("at %.1f (%.1f to %.1f), not %.1f", now.Value, now.Low, now.High, before.Value)
}

// feltWords says what a grain between the fingers changed.
func feltWords(say words.Printer, p *plan.Plan, part string, was, is learn.Live) string {
	name := p.PartName(part)
	text := fmt.Sprintf("%s softens as thought", name)
	if factor := is.Cook.Factor; math.Abs(factor-1) >= 0.03 {
		text = say.Sprintf("%s softens %.0f %% %s than thought", name, 100*math.Abs(1/factor-1),
			map[bool]string{true: "slower", false: "faster"}[factor > 1])
	}
	before, now := was.Forecast.Doneness[part].Value, is.Forecast.Doneness[part]
	return text + say.Sprintf(": it will be served %s, %.1f (%.1f to %.1f), not %.1f.",
		pot.DonenessWord(p.Texture(part), now.Value), now.Value, now.Low,
		now.High, before)
}
