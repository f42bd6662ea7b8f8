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
