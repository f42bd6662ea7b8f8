package web_test

import (
	"net/http"
	"net/url"
	"strconv"
	"strings"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/require"

	"kirdu/core/cook"
	"kirdu/web"
)

// What goes otherwise than planned is told at the stove, changes the rest, and
// can be taken back.
func TestNotAsPlanned(t *testing.T) {
	at := now
	s := newSite(t, func(o *web.Options) { o.Kitchen.Now = func() time.Time { return at } })
	path := "/stove/" + s.onStove().ID
	tell := func(fields url.Values) string {
		t.Helper()
		fields.Set("id", uuid.NewString())
		response, body := s.post(path, fields)
		require.Equal(t, http.StatusSeeOther, response.StatusCode, body)
		_, page := s.get(path)
		return page
	}
	has := func(page string, texts ...string) {
		t.Helper()
		for _, text := range texts {
			require.True(t, strings.Contains(page, text), text)
		}
	}
	_, page := s.get(path)
	has(page, "Not as planned", "Off the flame for now", "In already, earlier than planned", "Forgotten, and not in yet")
	steps := len(s.onStove().State().Plan.Steps)

	page = tell(url.Values{"kind": {"added"}, "material": {"milk-whole"}, "mass": {"200"}})
	has(page, "200 g more whole milk", "later", "sweetness", "would keep it as sweet")
	require.Len(t, s.onStove().State().Plan.Steps, steps+2)
	events := s.onStove().Events
	page = tell(url.Values{"kind": {"undone"}, "event": {events[len(events)-1].ID}})
	require.False(t, strings.Contains(page, "200 g more"))
	require.Len(t, s.onStove().State().Plan.Steps, steps, "as if it had never been said")

	has(tell(url.Values{"kind": {"turned"}, "value": {"15"}}), "Flame at 15 %", "later")
	page = tell(url.Values{"kind": {"paused"}})
	has(page, "<h1>Off the flame</h1>", "Back on the flame")
	at = at.Add(7 * time.Minute)
	state := s.onStove().State()
	tell(url.Values{"kind": {"next"}, "step": {strconv.Itoa(state.ID())}})
	state = s.onStove().State()
	require.Equal(t, 7*time.Minute, state.Spans[state.Step-1].End.Sub(state.Spans[state.Step-1].Begin))

	at = at.Add(time.Minute)
	sugar := state.Plan.SugarStep()
	page = tell(url.Values{"kind": {"early"}, "what": {strconv.Itoa(state.IDs[sugar]) + ".1"}})
	has(page, "in already")
	state = s.onStove().State()
	require.True(t, state.IsStray(state.Step-1))

	for field, form := range map[string]url.Values{
		"added":   {"kind": {"added"}, "material": {"moon-dust"}, "mass": {"20"}},
		"mass":    {"kind": {"added"}, "material": {"milk-whole"}, "mass": {"NaN"}},
		"minus":   {"kind": {"added"}, "material": {"milk-whole"}, "mass": {"-3000"}},
		"turned":  {"kind": {"turned"}, "value": {"400"}},
		"early":   {"kind": {"early"}, "what": {"99.1"}},
		"nothing": {"kind": {"early"}},
		"forgot":  {"kind": {"forgot"}, "what": {"one.two"}},
		"skipped": {"kind": {"skipped"}, "what": {"-4"}},
		"swapped": {"kind": {"swapped"}, "what": {"0.77"}, "material": {"jaggery"}},
		"undone":  {"kind": {"undone"}, "event": {"nobody"}},
	} {
		form.Set("id", uuid.NewString())
		before := len(s.onStove().Events)
		response, body := s.post(path, form)
		require.Equal(t, http.StatusUnprocessableEntity, response.StatusCode, field)
		require.True(t, strings.Contains(body, `class="fault"`), field)
		require.Len(t, s.onStove().Events, before, "nothing is half stored")
	}
	tell(url.Values{"kind": {"finished"}})
	_, page = s.get("/logbook/" + strings.TrimPrefix(path, "/stove/"))
	has(page, "not planned")
}

// A garnish is fried beside the pot, its things in turn, each with its own alarm;
// a cooker's whistles are counted.
func TestJobsBesideThePot(t *testing.T) {
	at := now
	s := newSite(t, func(o *web.Options) { o.Kitchen.Now = func() time.Time { return at } })
	s.post("/puddings/new", url.Values{"way": {"pulse with jaggery and presses"}, "bowls": {"6"}, "serve": {"hot"}})
	response, _ := s.post("/puddings/"+s.pudding().ID+"/cook", nil)
	path := response.Header.Get("Location")
	require.True(t, strings.HasPrefix(path, "/stove/"), path)
	state := func() *cook.State { folded := s.onStove().State(); return &folded }
	tell := func(kind string, step int) string {
		t.Helper()
		response, body := s.post(path, url.Values{"id": {uuid.NewString()}, "kind": {kind}, "step": {strconv.Itoa(step)}})
		require.Equal(t, http.StatusSeeOther, response.StatusCode, body)
		_, page := s.get(path)
		return page
	}
	// The jobs that must be ready first come first; one goes on by itself.
	_, page := s.get(path)
	require.True(t, strings.Contains(page, "It goes on by itself"))
	first := state().ID()
	tell("began", first)
	now1 := state()
	require.True(t, now1.Spans[0].End.IsZero())
	for step := state(); step.Present().Do != "pressure"; step = state() {
		at = at.Add(time.Minute)
		page = tell("next", step.ID())
	}
	require.True(t, strings.Contains(page, "Beside the pot") && strings.Contains(page, "It whistles"))
	page = tell("whistled", 0)
	require.True(t, strings.Contains(page, "1 heard"))
	require.True(t, strings.Contains(page, "Under pressure"))
	// The garnish is begun early.
	running := state()
	fry := -1
	for _, i := range running.Beside() {
		if running.Plan.Steps[i].Do == "fry" {
			fry = running.IDs[i]
		}
	}
	require.GreaterOrEqual(t, fry, 0)
	page = tell("began", fry)
	require.Equal(t, 3, strings.Count(page, `data-timer="job `+strconv.Itoa(fry)), "coconut, cashews, raisins")
	require.True(t, strings.Contains(page, "Coconut pieces out, cashew"), "in turn")
	page = tell("next", fry)
	require.True(t, strings.Contains(page, "Not done yet"))
}
