package web_test

import (
	"context"
	"net/http"
	"net/url"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
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
		"no name": {"at": {"2099-11-28T19:30"}, "guests": {"14"}, "hands": {"2"}}, "no time": {"name": {"x"}, "at": {"soon"}, "guests": {"14"}, "hands": {"2"}},
		"no hands": {"name": {"x"}, "at": {"2099-11-28T19:30"}, "guests": {"14"}, "hands": {"0"}}, "half a guest": {"name": {"x"}, "at": {"2099-11-28T19:30"}, "guests": {"1.5"}, "hands": {"2"}},
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
