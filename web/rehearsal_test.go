package web_test

import (
	"net/http"
	"net/url"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/require"
)

// A rehearsal with a task: the trouble comes at the Stove, and the review says how it was met.
func TestARehearsalIsJudged(t *testing.T) {
	s := newSite(t, nil)
	pudding := s.pudding()
	_, page := s.get("/puddings/" + pudding.ID)
	require.Contains(t, page, `<option value="boils-over">It boils over</option>`)
	response, _ := s.post("/puddings/"+pudding.ID+"/cook", url.Values{"rehearse": {"1"}, "speed": {"1"}, "task": {"juggling"}})
	require.Equal(t, http.StatusUnprocessableEntity, response.StatusCode)
	response, _ = s.post("/puddings/"+pudding.ID+"/cook", url.Values{"rehearse": {"1"}, "speed": {"1"}, "task": {"boils-over"}})
	require.Equal(t, http.StatusSeeOther, response.StatusCode)
	at := response.Header.Get("Location")
	s.stepTo(at, "heat")
	_, page = s.get(at)
	require.NotContains(t, page, ">It rises: the milk is coming up to the rim!<", "not yet")
	s.wait(25 * time.Minute)
	_, page = s.get(at)
	require.Contains(t, page, ">It rises: the milk is coming up to the rim!<")
	response, _ = s.post(at, url.Values{"id": {uuid.NewString()}, "kind": {"finished"}})
	require.Equal(t, at+"/review", response.Header.Get("Location"))
	_, page = s.get(at + "/review")
	require.Contains(t, page, "<strong>Not met.</strong> Nothing was done about it.")
	require.Contains(t, page, "The flame gave")
	require.Contains(t, page, "You weighed, dipped and felt nothing")
	response, _ = s.get(at)
	require.Equal(t, at+"/review", response.Header.Get("Location"))
	// A cook that is none has no review.
	earnest := s.begin(s.pudding().Plan)
	response, _ = s.get(earnest + "/review")
	require.Equal(t, earnest, response.Header.Get("Location"))
}
