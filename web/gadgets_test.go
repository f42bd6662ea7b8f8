package web_test

import (
	"encoding/json"
	"fmt"
	"net/http"
	"net/url"
	"regexp"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"kirdu/core/cook"
	"kirdu/core/learn"
	"kirdu/web"
)

// A scale that sends what it shows: believed, marked, made into weigh-ins; and
// what must be refused.
func TestReadingsOfAGadget(t *testing.T) {
	at := now
	s := newSite(t, func(o *web.Options) { o.Kitchen.Now = func() time.Time { return at } })
	response, page := s.post("/kitchen/gadgets", url.Values{"name": {"scale by the window"}, "with_pot": {"1"}})
	require.Equal(t, http.StatusOK, response.StatusCode)
	token := regexp.MustCompile(`readonly value="([^"]+)"`).FindStringSubmatch(page)[1]
	_, page = s.get("/kitchen/gadgets")
	require.True(t, strings.Contains(page, "scale by the window") && !strings.Contains(page, token), "a token is shown once")
	response, page = s.post("/kitchen/gadgets", url.Values{"name": {""}})
	require.Equal(t, http.StatusUnprocessableEntity, response.StatusCode)
	require.True(t, strings.Contains(page, `class="fault"`))

	type answer struct {
		Error, Remedy string
		Faults        []struct{ Field, Problem string }
		Taken         int
		Marked        []struct{ Mark, Why string }
		Clock         float64 `json:"clock_s"`
	}
	send := func(token, query, kind, body string) (int, answer) {
		t.Helper()
		request, err := http.NewRequest(http.MethodPost, s.server.URL+"/readings"+query, strings.NewReader(body))
		require.NoError(t, err)
		if token != "" {
			request.Header.Set("Authorization", "Bearer "+token)
		}
		request.Header.Set("Content-Type", kind)
		response, err := http.DefaultClient.Do(request)
		require.NoError(t, err)
		defer response.Body.Close()
		var a answer
		require.NoError(t, json.NewDecoder(response.Body).Decode(&a))
		return response.StatusCode, a
	}
	const lines, csv = "application/x-ndjson", "text/csv"
	scale := func(at time.Time, grams float64) string {
		return fmt.Sprintf(`{"time":%q,"kind":"scale","value":%g,"unit":"g"}`+"\n", at.Format(time.RFC3339), grams)
	}
	status, a := send("wrong", "", lines, scale(at, 3000))
	require.Equal(t, http.StatusUnauthorized, status)
	require.NotEmpty(t, a.Remedy)
	status, _ = send("", "", lines, scale(at, 3000))
	require.Equal(t, http.StatusUnauthorized, status)
	status, a = send(token, "", lines, "{}\nnonsense")
	require.Equal(t, http.StatusUnprocessableEntity, status)
	require.Equal(t, "line 2", a.Faults[0].Field)
	status, a = send(token, "", csv, "time,kind,value,unit\n2026,scale,12,lb\n")
	require.Equal(t, http.StatusUnprocessableEntity, status)
	require.Equal(t, "line 1.time", a.Faults[0].Field)
	for _, size := range []int{300 << 10, 2 << 20} {
		status, a = send(token, "", lines, strings.Repeat(" ", size))
		require.Equal(t, http.StatusRequestEntityTooLarge, status)
		require.NotEmpty(t, a.Error)
	}
	require.Len(t, s.onStove().Events, 2)

	// The wide pan weighs 1460 g, and about 1750 g are in it.
	status, a = send(token, "", csv, "time,kind,value,unit\n"+at.Format(time.RFC3339)+",scale,NaN,g\n"+
		at.Format(time.RFC3339)+",scale,-3000,g\n"+at.Format(time.RFC3339)+",probe,900,deg C\n")
	require.Equal(t, http.StatusOK, status)
	require.Zero(t, a.Taken)
	require.Len(t, a.Marked, 3)
	for _, m := range a.Marked {
		require.Equal(t, "impossible", m.Mark)
	}
	state := s.onStove().State()
	live := follow(&state, at)
	there := 1460 + live
	body := ""
	for k := range 8 {
		body += scale(at.Add(time.Duration(5*k-40)*time.Second), there+float64(k%3)-30)
	}
	body += scale(at, there+700) // somebody leans
	status, a = send(token, "", lines, body)
	require.Equal(t, http.StatusOK, status)
	require.Equal(t, 8, a.Taken)
	require.Equal(t, "jumped", a.Marked[0].Mark)
	k := s.onStove()
	e := k.Events[len(k.Events)-1]
	require.Equal(t, cook.Weighed, e.Kind)
	require.InDelta(t, live-29, float64(e.Mass), 2, "the median, without the pot")
	_, a = send(token, "", lines, body)
	require.Zero(t, a.Taken)
	require.Equal(t, "doubled", a.Marked[0].Mark)
	require.Len(t, s.onStove().Events, 3, "sent twice, counted once")
	_, page = s.get("/stove/" + k.ID)
	require.True(t, strings.Contains(page, "Scale:") && strings.Contains(page, "not believed"))

	// A clock that is an hour off: told, and without telling.
	hour := at.Add(time.Hour)
	_, a = send(token, "", lines, scale(hour, there))
	require.Equal(t, "ahead", a.Marked[0].Mark)
	_, a = send(token, "?sent="+hour.Format("2006-01-02T15:04:05Z07:00"), lines, scale(hour.Add(-3*time.Second), there-30))
	require.Equal(t, 1, a.Taken)
	require.InDelta(t, -3600, a.Clock, 1)
	_, a = send(token, "", lines, scale(at.Add(-20*time.Minute), there))
	require.Equal(t, "late", a.Marked[0].Mark)
	status, _ = send(token, "?sent=noon", lines, scale(at, there))
	require.Equal(t, http.StatusUnprocessableEntity, status)
	status, a = send(token, "?cook=nobody", lines, scale(at, there))
	require.Equal(t, http.StatusConflict, status)
	require.NotEmpty(t, a.Remedy)

	_, page = s.get("/kitchen/gadgets")
	require.True(t, strings.Contains(page, "last heard of"))
	id := regexp.MustCompile(`/kitchen/gadgets/([^/"]+)/remove`).FindStringSubmatch(page)[1]
	s.post("/kitchen/gadgets/"+id+"/remove", nil)
	status, _ = send(token, "", lines, scale(at, there))
	require.Equal(t, http.StatusUnauthorized, status, "a token that was ended")
}

// follow is what is in the pot by the live forecast.
func follow(s *cook.State, at time.Time) float64 { return float64(learn.Follow(s, at).Mass) }
