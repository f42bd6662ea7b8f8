package web_test

import (
	"context"
	"fmt"
	"net/http"
	"net/url"
	"regexp"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/require"

	"kirdu/core/plan"
	"kirdu/store"
	"kirdu/web"
)

func TestGathering(t *testing.T) {
	s := newSite(t, nil)
	response, _ := s.post("/gatherings", url.Values{"name": {"Supper"}, "at": {"2099-11-28T19:30"}, "guests": {"14"}, "hands": {"2"}})
	require.Equal(t, http.StatusSeeOther, response.StatusCode)
	path := response.Header.Get("Location")
	_, page := s.get(path)
	require.Contains(t, page, "No pudding yet")
	shelf, err := s.store.Puddings(context.Background(), 10)
	require.NoError(t, err)
	for _, p := range shelf[:3] {
		response, _ = s.post(path+"/puddings", url.Values{"pudding": {p.ID}, "bowls": {"6"}})
		require.Equal(t, http.StatusSeeOther, response.StatusCode)
	}
	_, page = s.get(path)
	for _, words := range []string{"What to begin when", "lane lane-3", "back burner", "ready 19:30", shelf[1].Plan.Name} {
		require.True(t, strings.Contains(page, words), words)
	}
	response, body := s.get(path + "/timetable.ics")
	require.Equal(t, "text/calendar; charset=utf-8", response.Header.Get("Content-Type"))
	require.True(t, strings.HasPrefix(body, "BEGIN:VCALENDAR") && strings.Contains(body, "BEGIN:VALARM"))
	response, _ = s.post(path+"/buy", nil)
	require.Equal(t, "/buying", response.Header.Get("Location"))

	for name, fields := range map[string]url.Values{
		"no name": {"at": {"2099-11-28T19:30"}, "guests": {"14"}, "hands": {"2"}}, "no time": {"name": {"x"}, "at": {"soon"},
			"guests": {"14"}, "hands": {"2"}},
		"no hands":     {"name": {"x"}, "at": {"2099-11-28T19:30"}, "guests": {"14"}, "hands": {"0"}},
		"half a guest": {"name": {"x"}, "at": {"2099-11-28T19:30"}, "guests": {"1.5"}, "hands": {"2"}},
	} {
		for _, to := range []string{"/gatherings", path} {
			response, page := s.post(to, fields)
			require.Equal(t, http.StatusUnprocessableEntity, response.StatusCode, name)
			require.True(t, strings.Contains(page, `class="fault"`), name)
		}
	}
	for _, fields := range []url.Values{{"pudding": {"nobody"}, "bowls": {"6"}}, {"pudding": {shelf[0].ID}, "bowls": {"many"}}} {
		response, _ = s.post(path+"/puddings", fields)
		require.Equal(t, http.StatusUnprocessableEntity, response.StatusCode)
	}
	// In the past: said so, and the timetable is still there to read.
	response, _ = s.post(path, url.Values{"name": {"Supper"}, "at": {"2020-11-28T19:30"}, "guests": {"14"}, "hands": {"1"}})
	require.Equal(t, http.StatusSeeOther, response.StatusCode)
	_, page = s.get(path)
	require.True(t, strings.Contains(page, "Its time is past"))
	response, _ = s.post(path+"/puddings/"+shelf[0].ID+"/remove", nil)
	require.Equal(t, http.StatusSeeOther, response.StatusCode)
	response, _ = s.post(path+"/remove", nil)
	require.Equal(t, http.StatusSeeOther, response.StatusCode)
	response, _ = s.get(path)
	require.Equal(t, http.StatusNotFound, response.StatusCode)
	response, _ = s.post(path+"/restore", nil)
	require.Equal(t, path, response.Header.Get("Location"))
}

// A timetable is kept, moved by hand, put off, and follows what is on the stove.
func TestTimetableIsMoved(t *testing.T) {
	at := now
	s := newSite(t, func(o *web.Options) { o.Kitchen.Now = func() time.Time { return at } })
	ctx := context.Background()
	response, _ := s.post("/gatherings", url.Values{"name": {"Supper"}, "at": {at.Add(6 * time.Hour).Format("2006-01-02T15:04")},
		"guests": {"14"}, "hands": {"2"}})
	path := response.Header.Get("Location")
	shelf, err := s.store.Puddings(ctx, 10)
	require.NoError(t, err)
	var hot []store.Pudding
	for _, p := range shelf {
		if p.Plan.Serve == plan.Hot && len(hot) < 2 {
			hot = append(hot, p)
			s.post(path+"/puddings", url.Values{"pudding": {p.ID}, "bowls": {"6"}})
		}
	}
	places := func() string {
		g, err := s.store.Gathering(ctx, path[len("/gatherings/"):])
		require.NoError(t, err)
		return string(g.Places)
	}
	first := places()
	require.True(t, strings.Contains(first, hot[0].ID) && strings.Contains(first, hot[1].ID), "what was worked out is kept")
	_, page := s.get(path)
	at = at.Add(10 * time.Minute)
	_, later := s.get(path)
	lanes := regexp.MustCompile(`(?s)<tbody>.*?</tbody>`)
	require.Equal(t, lanes.FindString(page), lanes.FindString(later), "it stands still while time passes")

	step := slices.IndexFunc(hot[0].Plan.Steps, func(s plan.Step) bool { return s.Do == plan.Heat })
	move := func(by string) (*http.Response, string) {
		return s.post(path+"/move", url.Values{"pudding": {hot[0].ID}, "step": {fmt.Sprint(step)}, "by": {by}})
	}
	response, _ = move("-30")
	require.Equal(t, http.StatusSeeOther, response.StatusCode)
	require.NotEqual(t, first, places())
	_, page = s.get(path)
	require.True(t, strings.Contains(page, "put where it is by hand") && strings.Contains(page, "waits 30 min"))
	response, page = move("-600")
	require.Equal(t, http.StatusUnprocessableEntity, response.StatusCode)
	require.True(t, strings.Contains(page, "in the past"))
	for _, by := range []string{"soon", "NaN", "99999"} {
		response, _ = move(by)
		require.Equal(t, http.StatusUnprocessableEntity, response.StatusCode)
	}
	response, _ = s.post(path+"/late", url.Values{"late_by": {"20"}})
	require.Equal(t, http.StatusSeeOther, response.StatusCode)
	response, page = s.post(path+"/late", url.Values{"late_by": {"-4"}})
	require.Equal(t, http.StatusUnprocessableEntity, response.StatusCode)
	require.True(t, strings.Contains(page, "late-fault"))
	response, page = s.get(path + "?guests_late=45")
	require.Equal(t, http.StatusOK, response.StatusCode)
	require.True(t, strings.Contains(page, "If the guests are late: waits 45 min, kept at 65"))
	response, _ = s.get(path + "?guests_late=forever")
	require.Equal(t, http.StatusUnprocessableEntity, response.StatusCode)
	response, _ = s.post(path+"/anew", nil)
	require.Equal(t, http.StatusSeeOther, response.StatusCode)
	require.Equal(t, len(first), len(places()))
	_, page = s.get("/")
	require.True(t, strings.Contains(page, `<a href="`+path+`">`), "Today says what comes first")

	// Cooked from the table: its bowls, and the timetable follows the stove.
	response, _ = s.post(path+"/puddings/"+hot[0].ID+"/cook", nil)
	stove := response.Header.Get("Location")
	require.True(t, strings.HasPrefix(stove, "/stove/"))
	k := s.onStove()
	require.Equal(t, 6, k.Plan.Serves)
	for state := k.State(); state.Present().Do != plan.Heat; state = s.onStove().State() {
		s.post(stove, url.Values{"id": {uuid.NewString()}, "kind": {"next"}, "step": {fmt.Sprint(state.ID())}})
	}
	_, page = s.get(path)
	require.True(t, strings.Contains(page, "To the stove") && strings.Contains(page, "on the stove</span>"))
	response, _ = s.post(path+"/puddings/"+hot[0].ID+"/cook", nil)
	require.Equal(t, stove, response.Header.Get("Location"), "once")
	response, _ = move("-10")
	require.Equal(t, http.StatusUnprocessableEntity, response.StatusCode, "it cooks already")
	response, _ = s.post(path+"/puddings/nobody/cook", nil)
	require.Equal(t, http.StatusNotFound, response.StatusCode)
}

// Clocks are put forward in the night before: a time that does not exist is
// refused, and what is soaked over night is begun an hour of the clock earlier.
func TestClocksChangeInTheNight(t *testing.T) {
	zone, err := time.LoadLocation("Europe/Berlin")
	require.NoError(t, err)
	s := newSite(t, func(o *web.Options) { o.Kitchen.Zone = zone })
	response, page := s.post("/gatherings", url.Values{"name": {"Supper"}, "at": {"2099-03-29T02:30"}, "guests": {"4"}, "hands": {"1"}})
	require.Equal(t, http.StatusUnprocessableEntity, response.StatusCode)
	require.True(t, strings.Contains(page, "put forward"))
	begins := map[string]string{}
	for _, day := range []string{"2099-03-28", "2099-03-29"} {
		response, _ = s.post("/gatherings", url.Values{"name": {"Breakfast"}, "at": {day + "T07:00"}, "guests": {"4"}, "hands": {"1"}})
		path := response.Header.Get("Location")
		shelf, err := s.store.Puddings(context.Background(), 20)
		require.NoError(t, err)
		for _, p := range shelf {
			if p.Plan.Serve == plan.Chilled {
				s.post(path+"/puddings", url.Values{"pudding": {p.ID}, "bowls": {"6"}})
				break
			}
		}
		_, page := s.get(path)
		begins[day] = regexp.MustCompile(`The day begins \w+ (\d\d:\d\d)`).FindStringSubmatch(page)[1]
	}
	before, err := time.Parse("15:04", begins["2099-03-28"])
	require.NoError(t, err)
	after, err := time.Parse("15:04", begins["2099-03-29"])
	require.NoError(t, err)
	require.Contains(t, []float64{-60, 23 * 60}, after.Sub(before).Minutes(), "the night is an hour shorter: %v", begins)
}

// A pudding has its own time on the table, a burner its widest pot; what a burner makes of a pudding is told, and
// the stove takes the burner of the timetable.
func TestAGatheringOnItsBurners(t *testing.T) {
	s := newSite(t, nil)
	response, _ := s.post("/kitchen/burners", url.Values{"burner_name": {"camp ring"}, "kind": {"gas"}, "power_w": {"500"},
		"efficiency_pct": {"30"},
		"max_pot_mm":     {"900"}})
	require.Equal(t, http.StatusSeeOther, response.StatusCode)
	response, page := s.post("/kitchen/burners", url.Values{"burner_name": {"x"}, "kind": {"gas"}, "power_w": {"900"},
		"efficiency_pct": {"40"},
		"max_pot_mm":     {"wide"}})
	require.Equal(t, http.StatusUnprocessableEntity, response.StatusCode)
	require.Contains(t, page, "leave it empty for any pot")
	_, page = s.get("/kitchen")
	require.Contains(t, page, "pots up to 900 mm wide")

	response, _ = s.post("/gatherings", url.Values{"name": {"Supper"}, "at": {"2099-11-28T19:30"}, "guests": {"14"}, "hands": {"2"}})
	path := response.Header.Get("Location")
	shelf, err := s.store.Puddings(t.Context(), 10)
	require.NoError(t, err)
	for k, p := range shelf[:2] {
		response, _ = s.post(path+"/puddings", url.Values{"pudding": {p.ID}, "bowls": {"6"}, "served": {[]string{"19:30", "20:15"}[k]}})
		require.Equal(t, http.StatusSeeOther, response.StatusCode)
	}
	response, page = s.post(path+"/puddings", url.Values{"pudding": {shelf[0].ID}, "bowls": {"6"}, "served": {"late"}})
	require.Equal(t, http.StatusUnprocessableEntity, response.StatusCode)
	require.Contains(t, page, "give a time of day")
	_, page = s.get(path)
	require.Contains(t, page, `type="time" value="20:15"`)
	require.Contains(t, page, "Hands are free")
	places := regexp.MustCompile(`"burner":\s*"([^"]+)"`)
	g, err := s.store.Gathering(t.Context(), strings.TrimPrefix(path, "/gatherings/"))
	require.NoError(t, err)
	burner := places.FindStringSubmatch(string(g.Places))
	require.NotNil(t, burner)
	require.NotContains(t, string(g.Places), `"burner":"camp ring"`, "nobody cooks for hours on the weak ring while another is free")
	for _, p := range shelf[:2] {
		response, _ = s.post(path+"/puddings/"+p.ID+"/cook", nil)
		require.Equal(t, http.StatusSeeOther, response.StatusCode)
	}
	cooks, err := s.store.CooksOf(t.Context(), g.ID)
	require.NoError(t, err)
	require.Len(t, cooks, 2)
	for _, one := range cooks {
		require.Contains(t, string(g.Places), `"burner":"`+one.Plan.Burner.Name+`"`, "it is cooked on the burner of its place")
	}
}

// In a kitchen with one burner the pudding that is done first waits while the other takes it: that is told.
func TestNoBurnerToKeepItHot(t *testing.T) {
	s := newSite(t, nil)
	burners, err := s.store.Burners(t.Context())
	require.NoError(t, err)
	for _, b := range burners[1:] {
		response, _ := s.post("/kitchen/burners/"+b.ID+"/remove", nil)
		require.Equal(t, http.StatusSeeOther, response.StatusCode)
	}
	response, _ := s.post("/gatherings", url.Values{"name": {"Two hot"}, "at": {"2099-11-28T19:30"}, "guests": {"8"}, "hands": {"2"}})
	path := response.Header.Get("Location")
	shelf, err := s.store.Puddings(t.Context(), 20)
	require.NoError(t, err)
	hot := 0
	for _, p := range shelf {
		if p.Plan.Serve == plan.Hot && len(p.Plan.Pots) == 1 && hot < 2 {
			hot++
			response, _ = s.post(path+"/puddings", url.Values{"pudding": {p.ID}, "bowls": {"4"}})
			require.Equal(t, http.StatusSeeOther, response.StatusCode)
		}
	}
	require.Equal(t, 2, hot)
	_, page := s.get(path)
	require.Contains(t, page, "No burner is free for it")
	require.Contains(t, page, "at 65 °C or more")
}
