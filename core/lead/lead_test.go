package lead_test

import (
	"fmt"
	"maps"
	"slices"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"kirdu/core/cook"
	"kirdu/core/forecast"
	"kirdu/core/lead"
	"kirdu/core/learn"
	"kirdu/core/plan"
	"kirdu/plantest"
)

var begun = time.Date(2026, 11, 21, 16, 0, 0, 0, time.UTC)

// A first is a cook who does what she is told, as it is told, and looks at the screen each minute.
type first struct {
	plan   *plan.Plan
	events []cook.Event
	now    time.Time
	told   []lead.Lesson // in their order, each once
}

func (f *first) tell(e cook.Event) {
	e.At, e.ID = f.now, fmt.Sprint(len(f.events))
	f.events = append(f.events, learn.Tell(learn.LogOf(f.plan, begun, f.events), e))
}

func (f *first) state() cook.State { return learn.LogOf(f.plan, begun, f.events).Fold() }

// moment is what the stove knows now.
func (f *first) moment() lead.Moment {
	s := f.state()
	live := learn.FollowPot(&s, f.now) // what else is found plays no part
	clock := learn.ClockOf(&s, &live, f.now)
	m := lead.Moment{State: &s, Live: &live, Clock: &clock, Now: f.now, Scale: true}
	if s.Done() {
		return m
	}
	step := s.Present()
	m.Sealed = step.Do == plan.Pressure || step.Do == plan.Bake
	if step.Do == plan.Heat || step.Do.IsPreparation() {
		end := live.Forecast.Steps[s.Step]
		m.Low = s.Spans[s.Step].Begin.Add(time.Duration((end.EndMin - end.StartMin) * float64(time.Minute)))
		m.High = m.Low
		for _, mark := range live.Forecast.Marks {
			if mark.Step == s.Step && mark.Label != "start" {
				m.Low, m.High = clock.At(mark.Minute.Low), clock.At(mark.Minute.High)
			}
		}
	}
	return m
}

// lasts is how long the present step really takes.
func (f *first) lasts(nominal *forecast.Forecast, s *cook.State) time.Duration {
	if s.Step >= len(nominal.Steps) {
		return 0
	}
	return time.Duration((nominal.Steps[s.Step].EndMin - nominal.Steps[s.Step].StartMin) * float64(time.Minute))
}

// cookIt cooks a plan from the first step to the last, and does what each lesson says.
func cookIt(t *testing.T, p *plan.Plan) *first {
	f := &first{plan: p, now: begun}
	nominal := forecast.Run(p, forecast.Options{NominalOnly: true})
	since := begun
	for looks := 0; ; looks++ {
		require.Less(t, looks, 5000, "%s never ends", p.Name)
		m := f.moment()
		if lesson, ok := lead.Next(m, nil); ok {
			if !slices.Contains(f.told, lesson) {
				f.told = append(f.told, lesson)
			}
			switch lesson {
			case lead.Weigh:
				f.tell(cook.Event{Kind: cook.Weighed, Mass: m.Live.Mass})
				continue
			case lead.Dip:
				require.FailNow(t, "there is a scale")
			case lead.Feel:
				part := slices.Sorted(maps.Keys(m.Live.Doneness))[0]
				f.tell(cook.Event{Kind: cook.Felt, Part: part, Value: m.Live.Doneness[part]})
				continue
			case lead.Taste:
				f.tell(cook.Event{Kind: cook.Tasted, Value: cook.SweetRight})
				continue
			case lead.Leave:
				f.tell(cook.Event{Kind: cook.Began, Step: m.State.ID()})
				since = f.now
				continue
			}
		}
		if m.State.Done() {
			return f
		}
		// What waits beside the pot is begun when it is time, and told when it is over.
		for _, i := range m.State.Beside() {
			span, job := m.State.Spans[i], m.Clock.Jobs[i]
			switch {
			case span.Begin.IsZero() && !job.Begin.After(f.now):
				f.tell(cook.Event{Kind: cook.Began, Step: m.State.IDs[i]})
			case !span.Begin.IsZero() && span.End.IsZero() && !job.End.After(f.now):
				f.tell(cook.Event{Kind: cook.Next, Step: m.State.IDs[i]})
			}
		}
		if f.now.Sub(since) >= f.lasts(nominal, m.State) && len(m.State.Unready()) == 0 {
			f.tell(cook.Event{Kind: cook.Next, Step: m.State.ID()})
			since = f.now
		}
		f.now = f.now.Add(time.Minute)
	}
}

// Puddings of the trials are led from the first step to the last: the flame before what is told of it, nothing said
// again that was done, and between them they teach all that is to be known of a cook that goes well.
func TestAFirstCookIsLed(t *testing.T) {
	taught := map[lead.Lesson]bool{}
	trials := plantest.Trials(t)
	for k, name := range slices.Sorted(maps.Keys(trials)) {
		if k%4 != 0 {
			continue
		}
		f := cookIt(t, trials[name])
		require.Equal(t, lead.End, f.told[len(f.told)-1], name)
		for _, lesson := range []lead.Lesson{lead.Weigh, lead.Taste} {
			if at := slices.Index(f.told, lesson); at >= 0 && slices.Contains(f.told, lead.Light) {
				require.Less(t, slices.Index(f.told, lead.Light), at, "%s: %s", name, f.told)
			}
		}
		for _, lesson := range f.told {
			taught[lesson] = true
		}
	}
	for _, lesson := range lead.Lessons() {
		if lesson != lead.Late && lesson != lead.Dip {
			require.True(t, taught[lesson], "%s is never taught", lesson)
		}
	}
}

// A weight that is just as expected, told for a moment, narrows the time to go, and is not in the log.
func TestAReadingAsExpected(t *testing.T) {
	p, err := plan.Read([]byte(`{"format":"kirdu-plan/1","name":"x","pots":{"main":{"shape":"straight","diameter_mm":200,"height_mm":110}},
		"steps":[{"do":"add","items":[{"material":"milk-whole","amount":"1 l"}]},{"do":"heat","flame":"high","until":{"boil":true}},
		{"do":"heat","flame":"medium","until":{"remaining_pct":60}}]}`))
	require.NoError(t, err)
	f := &first{plan: p, now: begun}
	f.tell(cook.Event{Kind: cook.Next, Step: 0})
	m := f.moment()
	f.now = m.Low.Add(m.High.Sub(m.Low) / 2)
	f.tell(cook.Event{Kind: cook.Next, Step: 1})
	f.now = f.now.Add(12 * time.Minute)
	m = f.moment()
	width := func(l *learn.Live) float64 {
		end := l.Forecast.Marks[len(l.Forecast.Marks)-1].Minute
		return end.High - end.Low
	}
	told := lead.Weigh.Told(m.State, m.Live, plan.MainPot, m.Now)
	require.Empty(t, m.State.Readings)
	require.Equal(t, m.Live.Mass, told.Readings[0].Mass)
	live := learn.FollowPot(&told, m.Now)
	require.Less(t, width(&live), width(m.Live))
	dipped := lead.Dip.Told(m.State, m.Live, plan.MainPot, m.Now)
	require.Equal(t, cook.Measurement{At: m.Now, Pot: plan.MainPot, Step: m.State.Step, MM: m.Live.Level}, dipped.Readings[0])
	live = learn.FollowPot(&dipped, m.Now)
	require.Less(t, width(&live), width(m.Live), "a skewer tells less, but something")
}

// What a cook knows is not said; where no scale can be used a skewer is; a step that is long over is asked about.
func TestWhatIsSaidWhen(t *testing.T) {
	p, err := plan.Read([]byte(`{"format":"kirdu-plan/1","name":"x","pots":{"main":{"shape":"straight","diameter_mm":200,"height_mm":110}},
		"steps":[{"do":"add","items":[{"material":"milk-whole","amount":"1 l"}]},{"do":"heat","flame":"high","until":{"boil":true}},
		{"do":"heat","flame":"medium","until":{"remaining_pct":60}}]}`))
	require.NoError(t, err)
	f := &first{plan: p, now: begun}
	next := func(known ...lead.Lesson) lead.Lesson {
		lesson, _ := lead.Next(f.moment(), known)
		return lesson
	}
	require.Equal(t, lead.Light, next())
	require.Equal(t, lead.Tap, next(lead.Light))
	require.Empty(t, next(lead.Light, lead.Tap))
	f.tell(cook.Event{Kind: cook.Next, Step: 0})
	require.Equal(t, lead.Wait, next())
	f.now = f.moment().High.Add(4 * time.Minute)
	require.Equal(t, lead.Late, next())
	require.Equal(t, lead.Sign, next(lead.Late))
	f.tell(cook.Event{Kind: cook.Next, Step: 1})
	require.Empty(t, next(), "nothing has boiled away yet")
	f.now = f.now.Add(10 * time.Minute)
	require.Equal(t, lead.Weigh, next())
	m := f.moment()
	m.Scale = false
	lesson, _ := lead.Next(m, nil)
	require.Equal(t, lead.Dip, lesson)
	m.Sealed = true
	_, any := lead.Next(m, nil)
	require.False(t, any)
	f.tell(cook.Event{Kind: cook.Weighed, Mass: m.Live.Mass})
	require.Empty(t, next(), "it was weighed")
}
