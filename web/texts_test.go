package web_test

import (
	"bytes"
	"fmt"
	"net/http"
	"net/url"
	"strings"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/require"

	"kirdu/store"
)

// Names are of something that can be seen, on one line; what no keyboard types takes nothing down.
func TestNamesThatCannotBe(t *testing.T) {
	s := newSite(t, nil)
	for what, name := range map[string]string{"no width": "\u200b\u200d\ufeff", "spaces": " \u00a0 ", "two lines": "one\ntwo",
		"nothing": "\x00\x01"} {
		for path, field := range map[string]string{"/kitchen/gadgets": "name", "/kitchen/pots": "name", "/kitchen/burners": "burner_name",
			"/gatherings": "name"} {
			form := url.Values{"shape": {"straight"}, "diameter_mm": {"200"}, "height_mm": {"100"}, "kind": {"gas"}, "power_w": {"2000"},
				"efficiency_pct": {"45"}, "at": {"2099-11-28T19:30"}, "guests": {"4"}, "hands": {"1"}}
			form.Set(field, name)
			response, _ := s.post(path, form)
			require.Less(t, response.StatusCode, 500, "%s at %s", what, path)
			if what != "two lines" {
				require.Equal(t, http.StatusUnprocessableEntity, response.StatusCode, "%s at %s", what, path)
			}
		}
	}
	response, _ := s.post("/kitchen/gadgets", url.Values{"name": {"sca\x00le"}})
	require.Equal(t, http.StatusOK, response.StatusCode, "a control character is left out")
}

// A calendar has the line ends of its standard, and a name with a line break does not break it.
func TestCalendarLines(t *testing.T) {
	s := newSite(t, nil)
	response, _ := s.post("/gatherings", url.Values{"name": {"Supper"}, "at": {"2099-11-28T19:30"}, "guests": {"4"}, "hands": {"2"}})
	path := response.Header.Get("Location")
	response, _ = s.post(path+"/puddings", url.Values{"pudding": {s.pudding().ID}, "bowls": {"6"}})
	require.Equal(t, http.StatusSeeOther, response.StatusCode)
	_, body := s.get(path + "/timetable.ics")
	require.Equal(t, strings.Count(body, "\n"), strings.Count(body, "\r\n"))
	require.Contains(t, body, "BEGIN:VALARM\r\n")
}

// HEAD answers as GET does, without the body; what is too large is told so.
func TestHeadAndTooLarge(t *testing.T) {
	s := newSite(t, nil)
	for _, path := range []string{"/", "/puddings", "/healthz", "/puddings/nobody"} {
		got, _ := s.get(path)
		head, body := s.do(http.MethodHead, path, nil, nil)
		require.Equal(t, got.StatusCode, head.StatusCode, path)
		require.Empty(t, body)
	}
	response, page := s.post("/puddings/new", url.Values{"base": {strings.Repeat("x", 3<<20)}})
	require.Equal(t, http.StatusRequestEntityTooLarge, response.StatusCode)
	require.Contains(t, page, "more than this form takes")
}

// Each of many cooks at once can be reached.
func TestManyCooks(t *testing.T) {
	s := newSite(t, nil)
	first := s.pudding()
	for n := range 30 {
		require.NoError(t, s.store.StartCook(t.Context(), store.Cook{ID: uuid.NewString(), PuddingID: first.ID, Plan: first.Plan,
			BegunAt: now.Add(time.Duration(n) * time.Second), Zone: "UTC"}))
	}
	_, page := s.get("/")
	require.GreaterOrEqual(t, strings.Count(page, `href="/stove/`), 30)
}

// A text that a spreadsheet would take for a formula is kept from it in the archive, and comes back as it was.
func TestFormulasInTheArchive(t *testing.T) {
	s := newSite(t, nil)
	names := []string{"=1+1", "+cmd", "-2", "@x", "'=1+1", "'plain", "''"}
	for n, name := range names {
		require.NoError(t, s.store.SaveGathering(t.Context(), store.Gathering{ID: fmt.Sprint(n), Name: name, ServeAt: now, Guests: 1,
			Hands: 1}, now))
	}
	var archive bytes.Buffer
	require.NoError(t, s.kitchen.Export(t.Context(), &archive))
	other := newSite(t, nil)
	_, err := other.kitchen.Import(t.Context(), bytes.NewReader(archive.Bytes()), int64(archive.Len()), store.KeepOurs, false)
	require.NoError(t, err)
	for n, name := range names {
		g, err := other.store.Gathering(t.Context(), fmt.Sprint(n))
		require.NoError(t, err)
		require.Equal(t, name, g.Name)
	}
}
