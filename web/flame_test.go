package web_test

import (
	"context"
	"fmt"
	"net/http"
	"net/url"
	"regexp"
	"strconv"
	"strings"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/require"

	"kirdu/core/plan"
	"kirdu/store"
	"kirdu/web"
)

// edited sends an edit of the present version and wants it taken.
func (s *site) edited(fields url.Values) {
	s.t.Helper()
	fields.Set("version", fmt.Sprint(s.pudding().Version))
	response, body := s.post("/puddings/"+s.pudding().ID, fields)
	require.Equal(s.t, http.StatusSeeOther, response.StatusCode, body)
}

func TestStepsOnTheWorkbench(t *testing.T) {
	s := newSite(t, nil)
	n := len(s.plan().Steps)
	for _, kind := range plan.StepKinds() {
		before := s.plan().Steps
		form := url.Values{"op": {"add-step"}, "step.kind": {kind.Name}, "step.after": {fmt.Sprint(n - 1)}, "step.amount": {"20 g"},
			"step.material": {"white sugar"}}
		if kind.Takes == plan.TakesPart {
			s.edited(url.Values{"op": {"add-step"}, "step.kind": {"prepare: soak"}, "step.after": {fmt.Sprint(n - 1)}, "step.amount": {"20 g"},
				"step.material": {"apple"}})
			form.Set("step.from", "part:apple")
		}
		had := len(s.plan().Steps)
		s.edited(form)
		more := 1
		if kind.Prepares && kind.Takes != plan.TakesPart {
			more = 2 // what it makes goes in behind it
		}
		require.Len(t, s.plan().Steps, had+more, kind.Name)
		_, page := s.get("/puddings/" + s.pudding().ID)
		require.Contains(t, page, fmt.Sprintf(`data-step="%d"`, n))
		// What is left out takes along what was made for it.
		s.edited(url.Values{"op": {fmt.Sprintf("remove-step:%d", n)}})
		require.Equal(t, before, s.plan().Steps, kind.Name)
	}
	// The settings of every verb can be changed.
	add := func(kind string) {
		s.edited(url.Values{"op": {"add-step"}, "step.kind": {kind}, "step.after": {fmt.Sprint(n - 1)}})
	}
	last := func() plan.Step { return s.plan().Steps[n] }
	set := func(pairs ...string) {
		fields := url.Values{}
		for i := 0; i < len(pairs); i += 2 {
			fields.Set(fmt.Sprintf("steps[%d].%s", n, pairs[i]), pairs[i+1])
		}
		s.edited(fields)
	}
	drop := func() { s.edited(url.Values{"op": {fmt.Sprintf("remove-step:%d", n)}}) }
	add("bake")
	set("in", "microwave", "covered_shown", "1", "covered", "1")
	require.Equal(t, plan.Microwave, last().BakeIn)
	require.InDelta(t, 600, float64(*last().PowerW), 0)
	require.True(t, last().Covered)
	set("power_w", "450", "minutes", "9")
	require.InDelta(t, 450, float64(*last().PowerW), 0)
	drop()
	add("cool down")
	set("to_c", "18", "where", "fridge")
	require.Equal(t, plan.Fridge, last().Where)
	require.InDelta(t, 18, float64(*last().ToC), 0)
	drop()
	add("keep hot")
	set("temp_c", "70")
	require.InDelta(t, 70, float64(*last().TempC), 0)
	drop()
	add("warm to a temperature")
	set("until.temp_c", "77")
	require.InDelta(t, 77, float64(*last().Until.TempC), 0)
	s.edited(url.Values{"op": {fmt.Sprintf("move-step:%d.%d", n, n-1)}})
	require.InDelta(t, 77, float64(*s.plan().Steps[n-1].Until.TempC), 0)

	for name, fields := range map[string]url.Values{
		"no such kind":   {"op": {"add-step"}, "step.kind": {"sing to it"}, "step.after": {"0"}},
		"no amount":      {"op": {"add-step"}, "step.kind": {"put something in"}, "step.after": {"0"}, "step.material": {"salt"}},
		"no such place":  {"op": {"move-step:0.77"}},
		"no such step":   {"op": {"remove-step:77"}},
		"before it is":   {"op": {"move-step:0.2"}}, // a flame under an empty pot
		"aim in words":   {"aim.thickness": {"thick"}, "aim.shown": {"3"}},
		"aim out of it":  {"aim.thickness": {"11"}, "aim.shown": {"3"}},
		"sugar at never": {"op": {"sweeten-at"}, "sugar.at": {"never"}},
	} {
		fields.Set("version", fmt.Sprint(s.pudding().Version))
		version := s.pudding().Version
		response, body := s.post("/puddings/"+s.pudding().ID, fields)
		require.Equal(t, http.StatusUnprocessableEntity, response.StatusCode, name)
		require.True(t, strings.Contains(body, `class="fault"`), name)
		require.Equal(t, version, s.pudding().Version, name)
	}
}

func TestSugarOnThePotLine(t *testing.T) {
	s := newSite(t, nil)
	path := "/puddings/" + s.pudding().ID
	_, words := s.get(path + "/sweeten?at=0")
	require.True(t, strings.Contains(words, "instead of"), "instead of")
	response, _ := s.get(path + "/sweeten?at=NaN")
	require.Equal(t, http.StatusUnprocessableEntity, response.StatusCode)
	before := s.plan().SugarStep()
	s.edited(url.Values{"op": {"sweeten-at"}, "sugar.at": {"0"}})
	require.Less(t, s.plan().SugarStep(), before)
	_, page := s.get(path)
	require.True(t, strings.Contains(page, "The sugar goes in while"), "The sugar goes in while")
	require.True(t, strings.Contains(page, "Good from"), "Good from")
}

func TestAimIsKeptAndWatched(t *testing.T) {
	s := newSite(t, nil)
	mended := 0
	for _, aim := range []string{"4.5", "5", "5.5", "6", "6.5"} {
		wanted := fmt.Sprintf("%.1f was wanted", number(t, aim))
		s.edited(url.Values{"aim.thickness": {aim}, "aim.shown": {"3.2"}})
		require.InDelta(t, 0, *s.plan().Aim.Thickness-number(t, aim), 1e-9)
		_, page := s.get("/puddings/" + s.pudding().ID)
		if !strings.Contains(page, wanted) {
			continue // an edit before has brought it near enough
		}
		require.True(t, strings.Contains(page, "/balance?thickness="+aim), "it can be balanced to %s", aim)
		// Where an edit keeps all else, it is offered, and mends.
		if mend := regexp.MustCompile(`mend:too-thin:\d+`).FindString(page); mend != "" {
			s.edited(url.Values{"aim.thickness": {aim}, "aim.shown": {aim}, "op": {mend}})
			_, page = s.get("/puddings/" + s.pudding().ID)
			require.False(t, strings.Contains(page, wanted))
			mended++
		}
	}
	require.Positive(t, mended)
}

// How soft a grain is wanted rules over how it is usually liked.
func TestSoftnessIsWanted(t *testing.T) {
	s := newSite(t, nil)
	_, page := s.get("/puddings/" + s.pudding().ID)
	require.Contains(t, page, "as it is liked: cooked through to breaking up")
	require.NotContains(t, page, "a little short of done")
	s.edited(url.Values{"aim.doneness.rice-short": {"3"}})
	require.InDelta(t, 3, s.plan().Aim.Doneness["rice-short"], 0)
	_, page = s.get("/puddings/" + s.pudding().ID)
	require.Contains(t, page, `value="3" selected`, "what is asked for is chosen")
	require.Contains(t, page, "it is liked from breaking up on")
	s.edited(url.Values{"aim.doneness.rice-short": {""}})
	require.Empty(t, s.plan().Aim.Doneness)
}

// What a corrected model says otherwise is told on the Workbench until it was read.
func TestACorrectedModelIsTold(t *testing.T) {
	s := newSite(t, nil)
	p := s.pudding()
	old := store.Foreseen{PuddingID: p.ID, Version: p.Version, Edition: 1, Told: true,
		Figures: &store.Figures{Minutes: 12, Thickness: 7.5, SweetPct: 3, YieldG: 400}}
	require.NoError(t, s.kitchen.Store.Foresee(t.Context(), old))
	require.NoError(t, s.kitchen.CatchUp(t.Context()))
	_, page := s.get("/puddings/" + p.ID)
	require.Contains(t, strings.NewReplacer("\u202f", " ", "\u00a0", " ").Replace(page),
		"It said 12 min, 3.0 % sweet, 400 g, Slice (7.5); it says")
	s.post("/puddings/"+p.ID+"/told", url.Values{})
	_, page = s.get("/puddings/" + p.ID)
	require.NotContains(t, page, "It said")
}

func number(t *testing.T, text string) float64 {
	t.Helper()
	x, err := strconv.ParseFloat(text, 64)
	require.NoError(t, err)
	return x
}

func TestCompareAndVersions(t *testing.T) {
	s := newSite(t, nil)
	path := "/puddings/" + s.pudding().ID
	_, page := s.get(path + "/compare")
	require.True(t, strings.Contains(page, "question=soak"), "question=soak")
	for _, key := range []string{"sugar", "cooker", "reduction", "soda", "soak", "grain", "serve"} {
		response, page := s.get(path + "/compare?question=" + key)
		require.Equal(t, http.StatusOK, response.StatusCode)
		require.True(t, strings.Contains(page, "course-beside") && strings.Contains(page, `class="differs"`), key)
	}
	response, _ := s.get(path + "/compare?question=ketchup")
	require.Equal(t, http.StatusUnprocessableEntity, response.StatusCode)
	response, _ = s.post(path+"/compare", url.Values{"question": {"soak"}, "version": {"99"}})
	require.Equal(t, http.StatusConflict, response.StatusCode)
	response, _ = s.post(path+"/compare", url.Values{"question": {"ketchup"}, "version": {"1"}})
	require.Equal(t, http.StatusUnprocessableEntity, response.StatusCode)
	response, _ = s.post(path+"/compare", url.Values{"question": {"soak"}, "version": {"1"}})
	require.Equal(t, http.StatusSeeOther, response.StatusCode)
	require.Equal(t, plan.Soak, s.plan().Steps[0].Do)

	_, page = s.get(path + "/history")
	require.True(t, strings.Contains(page, "Version 2"), "Version 2")
	require.True(t, strings.Contains(page, "Soak the"), "soak")
	response, _ = s.post(path+"/history", url.Values{"version": {"1"}})
	require.Equal(t, http.StatusSeeOther, response.StatusCode)
	require.NotEqual(t, plan.Soak, s.plan().Steps[0].Do)
	require.Equal(t, 3, s.pudding().Version)
	response, _ = s.post(path+"/history", url.Values{"version": {"41"}})
	require.Equal(t, http.StatusNotFound, response.StatusCode)
	response, _ = s.get(path + "/history?below=x")
	require.Equal(t, http.StatusUnprocessableEntity, response.StatusCode)

	name := s.plan().Name
	response, _ = s.post(path+"/duplicate", nil)
	require.Equal(t, http.StatusSeeOther, response.StatusCode)
	copied := response.Header.Get("Location")
	_, page = s.get(copied + "/compare?with=" + strings.TrimPrefix(path, "/puddings/"))
	require.True(t, strings.Contains(page, name+", a copy"))
}

// Every way makes a pudding from its page, and every page of it can be opened.
func TestEveryWayFromItsPage(t *testing.T) {
	s := newSite(t, nil)
	for _, w := range plan.Ways() {
		_, page := s.get("/puddings/new?way=" + url.QueryEscape(w.Name))
		require.True(t, strings.Contains(page, `id="chosen"`), w.Name)
		response, body := s.post("/puddings/new", url.Values{"way": {w.Name}, "bowls": {"6"}})
		require.Equal(t, http.StatusSeeOther, response.StatusCode, body)
		at := response.Header.Get("Location")
		made, err := s.store.Pudding(context.Background(), strings.TrimPrefix(at, "/puddings/"))
		require.NoError(t, err)
		require.Equal(t, w.Name, made.Plan.Way)
		for _, more := range []string{"", "/compare?question=serve", "/balance?thickness=4", "/history", "/plan.kirdu.json"} {
			response, _ := s.get(at + more)
			require.Equal(t, http.StatusOK, response.StatusCode, "%s %s", w.Name, more)
		}
		if strings.Contains(w.Name, "stages") || strings.Contains(w.Name, "presses") || strings.Contains(w.Name, "starch") {
			response, _ := s.get(at + "/scale?bowls=10")
			require.Equal(t, http.StatusOK, response.StatusCode, w.Name)
		}
	}
}

// What the fingers, the spoon and a probe tell changes the rest of the cook, and
// the page says what.
func TestLooksAtTheStove(t *testing.T) {
	// By then the grain should have but a firm core.
	s := newSite(t, func(o *web.Options) { o.Kitchen.Now = func() time.Time { return now.Add(5 * time.Minute) } })
	path := "/stove/" + s.onStove().ID
	_, page := s.get(path)
	require.True(t, strings.Contains(page, "between the fingers") && strings.Contains(page, "How it runs off the spoon"))
	tell := func(fields url.Values) string {
		fields.Set("id", uuid.NewString())
		response, body := s.post(path, fields)
		require.Equal(t, http.StatusSeeOther, response.StatusCode, body)
		_, page := s.get(path)
		return page
	}
	page = tell(url.Values{"kind": {"felt"}, "part": {"millet-barnyard"}, "value": {"0.3"}})
	require.True(t, strings.Contains(page, "slower than thought"))
	page = tell(url.Values{"kind": {"spooned"}, "value": {"6"}})
	require.True(t, strings.Contains(page, "thicker than thought by the spoon"))
	page = tell(url.Values{"kind": {"probed"}, "value": {"97"}})
	require.True(t, strings.Contains(page, "Losing"))
	looks := s.onStove().State().Looks
	require.Len(t, looks, 3)
	require.InDelta(t, 6, looks[1].Value, 0)
}
