package web_test

import (
	"fmt"
	"net/http"
	"net/url"
	"strings"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/require"

	"kirdu/core/plan"
	"kirdu/core/vessel"
	"kirdu/plantest"
	"kirdu/store"
)

// begin puts a plan on the stove and returns its address.
func (s *site) begin(p *plan.Plan) string {
	s.t.Helper()
	id := uuid.NewString()
	require.NoError(s.t, s.store.CreatePudding(s.t.Context(), id, p, s.kitchen.Now()))
	response, _ := s.post("/puddings/"+id+"/cook", nil)
	require.Equal(s.t, http.StatusSeeOther, response.StatusCode)
	return response.Header.Get("Location")
}

// tell sends what is told at the stove and wants it taken.
func (s *site) tell(at string, pairs ...string) {
	s.t.Helper()
	form := url.Values{"id": {uuid.NewString()}}
	for i := 0; i < len(pairs); i += 2 {
		form.Set(pairs[i], pairs[i+1])
	}
	response, body := s.post(at, form)
	require.Equal(s.t, http.StatusSeeOther, response.StatusCode, faultsIn(body))
}

// wait lets time pass in the kitchen.
func (s *site) wait(d time.Duration) {
	now := s.kitchen.Now().Add(d)
	s.kitchen.Now = func() time.Time { return now }
}

func (s *site) cookAt(at string) store.Cook {
	k, err := s.store.Cook(s.t.Context(), strings.TrimPrefix(at, "/stove/"))
	require.NoError(s.t, err)
	return k
}

// step taps through to a step of a verb.
func (s *site) stepTo(at string, verb plan.Verb) {
	for range 30 {
		k := s.cookAt(at)
		state := k.State()
		if state.Present().Do == verb {
			return
		}
		s.tell(at, "kind", "next", "step", fmt.Sprint(state.ID()))
	}
	require.Fail(s.t, "no such step")
}

// Each whistle changes what is said; after the last the flame goes off.
func TestWhistlesChangeWhatIsSaid(t *testing.T) {
	s := newSite(t, nil)
	at := s.begin(plantest.Trials(t)["quick-mung-heavy-pan"])
	k := s.cookAt(at)
	state := k.State()
	cooker := -1
	for i := range state.Plan.Steps {
		if state.Plan.Steps[i].Do == plan.Pressure {
			cooker = i
		}
	}
	require.GreaterOrEqual(t, cooker, 0)
	// In one pot the cooker is the step that is come to.
	one := plantest.WithSteps(t, `{"do":"add","items":[{"material":"moong-split","amount":"120 g"},{"material":"water","amount":"500 ml"}]}`,
		`{"do":"pressure","whistles":3}`, plantest.Boil)
	at = s.begin(one)
	s.stepTo(at, plan.Pressure)
	_, page := s.get(at)
	require.Contains(t, page, "Cook under pressure for 3 whistles")
	s.tell(at, "kind", "whistled")
	s.tell(at, "kind", "whistled")
	_, page = s.get(at)
	require.Contains(t, page, "2 heard, 1 to come")
	s.tell(at, "kind", "whistled")
	_, page = s.get(at)
	require.Contains(t, page, "Turn the flame off, and leave it")
	require.Contains(t, page, "do not force it")
}

// A tap can tell of what happened a while ago, but not before the step was come to.
func TestItWasAWhileAgo(t *testing.T) {
	s := newSite(t, nil)
	at := s.begin(plantest.WithSteps(t, plantest.MilkAndRice, plantest.Boil, plantest.UntilSoft))
	s.tell(at, "kind", "next", "step", "0")
	now := s.kitchen.Now()
	response, body := s.post(at, url.Values{"id": {uuid.NewString()}, "kind": {"next"}, "step": {"1"}, "ago_min": {"90"}})
	require.Equal(t, http.StatusUnprocessableEntity, response.StatusCode)
	require.Contains(t, body, "before this step was come to")
	response, _ = s.post(at, url.Values{"id": {uuid.NewString()}, "kind": {"next"}, "step": {"1"}, "ago_min": {"soon"}})
	require.Equal(t, http.StatusUnprocessableEntity, response.StatusCode)
	s.tell(at, "kind", "next", "step", "1", "ago_min", "0")
	k := s.cookAt(at)
	state := k.State()
	require.WithinDuration(t, now, state.Spans[1].End, time.Minute)
}

// A pot that was never weighed asks what it weighs empty, and takes the contents from that.
func TestAPotThatWasNeverWeighed(t *testing.T) {
	s := newSite(t, nil)
	at := s.begin(plantest.WithSteps(t, plantest.MilkAndRice, plantest.Boil, plantest.UntilSoft))
	s.tell(at, "kind", "next", "step", "0")
	_, page := s.get(at)
	require.Contains(t, page, "say what the pot weighs empty")
	s.tell(at, "kind", "weighed", "mass", "2400", "empty_g", "1300")
	k := s.cookAt(at)
	state := k.State()
	require.InDelta(t, 1100, float64(state.Readings[0].Mass), 0)
	_, page = s.get(at)
	require.Contains(t, page, "empty it weighs", "it is known from now on")
	response, body := s.post(at, url.Values{"id": {uuid.NewString()}, "kind": {"weighed"}, "mass": {"1200"}, "empty_g": {"1300"}})
	require.Equal(t, http.StatusUnprocessableEntity, response.StatusCode)
	require.Contains(t, body, "less than it weighs now")
}

// What goes in has been made: a job that nobody tapped is done with it, and not left out.
func TestAJobIsDoneWhenWhatItMakesGoesIn(t *testing.T) {
	s := newSite(t, nil)
	at := s.begin(plantest.WithSteps(t, plantest.MilkAndRice, plantest.Boil,
		`{"do":"fry","name":"nuts","items":[{"material":"cashew","amount":"20 g"}]}`, `{"do":"add","items":[{"part":"nuts"}]}`, plantest.Boil))
	for _, step := range []string{"0", "1", "3"} {
		s.tell(at, "kind", "next", "step", step)
	}
	k := s.cookAt(at)
	state := k.State()
	require.False(t, state.Spans[2].End.IsZero())
	require.Equal(t, state.Spans[3].End, state.Spans[2].End)
}

// A pot may be weighed full now and empty later: the weight counts from then on, and the kitchen
// knows the pot.
func TestWeighedEmptyLater(t *testing.T) {
	s := newSite(t, nil)
	pot := store.Pot{ID: uuid.NewString(), Pot: vessel.Pot{Name: "Blue pot", Shape: vessel.Straight, DiameterMM: 220, HeightMM: 130}}
	require.NoError(t, s.store.AddPot(t.Context(), pot, s.kitchen.Now()))
	p := plantest.WithSteps(t, plantest.MilkAndRice, plantest.Boil, plantest.UntilSoft)
	p.Pots[plan.MainPot] = pot.Pot
	at := s.begin(p)
	s.tell(at, "kind", "next", "step", "0")
	s.wait(5 * time.Minute)
	s.tell(at, "kind", "weighed", "mass", "2400", "later", "1")
	_, page := s.get(at)
	require.Contains(t, page, "It counts when you have told what the empty pot weighs")
	require.Contains(t, page, "When it is empty: Blue pot weighs")
	k := s.cookAt(at)
	state := k.State()
	require.True(t, state.Readings[0].Full)
	response, body := s.post(at, url.Values{"id": {uuid.NewString()}, "kind": {"tared"}, "mass": {"heavy"}, "pot": {"main"}})
	require.Equal(t, http.StatusUnprocessableEntity, response.StatusCode)
	require.Contains(t, body, "give the weight of the empty pot in grams")
	s.tell(at, "kind", "tared", "mass", "1310", "pot", "main")
	k = s.cookAt(at)
	state = k.State()
	require.InDelta(t, 1090, float64(state.Readings[0].Mass), 0)
	_, page = s.get(at)
	require.NotContains(t, page, "When it is empty")
	known, err := s.store.Pot(t.Context(), pot.ID)
	require.NoError(t, err)
	require.NotNil(t, known.MassG)
	require.InDelta(t, 1310, float64(*known.MassG), 0)
}

// With two pots each shows its own figures, is weighed by itself, and what must wait says so.
func TestTwoPotsAtTheStove(t *testing.T) {
	s := newSite(t, nil)
	at := s.begin(plantest.Trials(t)["rice-sheet-slivers"])
	s.tell(at, "kind", "began", "step", "0")
	_, page := s.get(at)
	require.Contains(t, page, `<p class="stove-pot">Cooker</p>`)
	s.tell(at, "kind", "next", "step", "1")
	_, page = s.get(at)
	require.Contains(t, page, "While this goes on, at ")
	require.Contains(t, page, `aria-label="Dip gauge"`, "the cooker has its gauge")
	require.Contains(t, page, "About 490")
	s.wait(4 * time.Minute)
	s.tell(at, "kind", "began", "step", "2") // it goes on by itself
	_, page = s.get(at)
	require.Contains(t, page, "In the other pots")
	s.tell(at, "kind", "next", "step", "4") // the milk is in
	_, page = s.get(at)
	require.Contains(t, page, "About 1")
	require.Contains(t, page, `<select name="pot">`, "either can be weighed")
	s.tell(at, "kind", "whistled", "pot", "cooker")
	s.tell(at, "kind", "whistled")
	k := s.cookAt(at)
	state := k.State()
	require.Len(t, state.Whistles, 2)
	require.Equal(t, "cooker", state.Whistles[1].Pot)
	response, body := s.post(at, url.Values{"id": {uuid.NewString()}, "kind": {"dipped"}, "depth": {"20"}, "pot": {"bath"}})
	require.Equal(t, http.StatusUnprocessableEntity, response.StatusCode)
	require.Contains(t, body, "no such pot")
}

// What was weighed a while ago counts at its time, also of a step before.
func TestAReadingOfAWhileAgo(t *testing.T) {
	s := newSite(t, nil)
	at := s.begin(plantest.WithSteps(t, plantest.MilkAndRice, plantest.Boil, plantest.UntilSoft))
	s.tell(at, "kind", "next", "step", "0")
	s.wait(10 * time.Minute)
	s.tell(at, "kind", "next", "step", "1")
	s.tell(at, "kind", "weighed", "mass", "1000", "ago_min", "4")
	k := s.cookAt(at)
	state := k.State()
	require.InDelta(t, 6, state.Readings[0].At.Sub(state.Spans[1].Begin).Minutes(), 0.2)
}

// What is sent twice is taken once, also where it would not be taken again; a form that was gone
// back to and corrected counts; what was told of one pudding is not taken for another.
func TestSentTwiceAndCorrected(t *testing.T) {
	s := newSite(t, nil)
	at := s.begin(plantest.WithSteps(t, plantest.MilkAndRice, plantest.Boil, plantest.UntilSoft))
	s.tell(at, "kind", "next", "step", "0")
	s.wait(5 * time.Minute)
	told := func(to string, pairs ...string) *http.Response {
		form := url.Values{}
		for i := 0; i < len(pairs); i += 2 {
			form.Set(pairs[i], pairs[i+1])
		}
		response, _ := s.post(to, form)
		return response
	}
	events := func() int { return len(s.cookAt(at).Events) }
	id := uuid.NewString()
	before := events()
	for range 2 {
		require.Equal(t, http.StatusSeeOther, told(at, "id", id, "kind", "weighed", "mass", "1100").StatusCode)
	}
	require.Equal(t, before+1, events())
	for range 2 {
		require.Equal(t, http.StatusSeeOther, told(at, "id", id, "kind", "weighed", "mass", "1120").StatusCode)
	}
	k := s.cookAt(at)
	state := k.State()
	require.Equal(t, before+2, events(), "corrected, once")
	require.InDelta(t, 1120, float64(state.Readings[1].Mass), 0)

	skip := uuid.NewString()
	for range 2 {
		require.Equal(t, http.StatusSeeOther, told(at, "id", skip, "kind", "paused").StatusCode)
	}
	require.Equal(t, before+3, events())

	other := s.begin(plantest.WithSteps(t, plantest.MilkAndRice, plantest.Boil, plantest.UntilSoft))
	s.tell(other, "kind", "next", "step", "0")
	s.wait(2 * time.Minute)
	require.Equal(t, http.StatusUnprocessableEntity, told(other, "id", id, "kind", "weighed", "mass", "1100").StatusCode)

	early := told(other, "id", uuid.NewString(), "kind", "weighed", "mass", "1100", "age_ms", "43200000")
	require.Equal(t, http.StatusUnprocessableEntity, early.StatusCode, "before it was begun")
	drift := told(other, "id", uuid.NewString(), "kind", "weighed", "mass", "1100", "age_ms", "240000")
	require.Equal(t, http.StatusSeeOther, drift.StatusCode, "the clock of the device is two minutes behind")
	end := uuid.NewString()
	require.Equal(t, http.StatusSeeOther, told(at, "id", end, "kind", "finished", "mass", "900").StatusCode)
	ended := events()
	for _, pairs := range [][]string{{"id", end, "kind", "finished", "mass", "900"},
		{"id", uuid.NewString(), "kind", "finished", "mass", "500"}, {"id", uuid.NewString(), "kind", "weighed", "mass", "700"},
		{"id", uuid.NewString(), "kind", "undone", "event", end}} {
		response := told(at, pairs...)
		require.Equal(t, http.StatusSeeOther, response.StatusCode)
		require.Equal(t, ended, events(), "%v", pairs)
	}
	k = s.cookAt(at)
	state = k.State()
	require.InDelta(t, 900, float64(state.Yield), 0)
}
