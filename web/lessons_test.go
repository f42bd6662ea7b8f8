package web_test

import (
	"context"
	"net/http"
	"net/url"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
)

// What batches teach is laid over every plan, shown with its range, and forgotten
// when that is wanted.
func TestWhatWasLearnt(t *testing.T) {
	s := newSite(t, nil)
	_, page := s.get("/logbook/learnt")
	for _, words := range []string{"Power of the", "batches", "Forget"} {
		require.True(t, strings.Contains(page, words), words)
	}
	id := s.pudding().ID
	total := func() string {
		_, page := s.get("/puddings/" + id)
		return regexp.MustCompile(`data-total-time[^>]*>([^<]*)`).FindStringSubmatch(page)[1]
	}
	learnt := total()
	stored := s.pudding().Plan
	require.Nil(t, stored.Calibration.Evaporation, "the plan on the shelf stays as it was written")
	s.edited(url.Values{"op": {"bowls:+1"}})
	require.Nil(t, s.pudding().Plan.Calibration.Evaporation, "nor is it saved with an edit")
	s.post("/puddings/"+id+"/undo", nil)

	for _, kind := range regexp.MustCompile(`name="of" value="([^"]*)"><input type="hidden" name="name" value="([^"]*)"`).FindAllStringSubmatch(page, -1) {
		response, _ := s.post("/logbook/learnt/forget", url.Values{"of": {kind[1]}, "name": {kind[2]}})
		require.Equal(t, "/logbook/learnt", response.Header.Get("Location"))
	}
	_, page = s.get("/logbook/learnt")
	require.True(t, strings.Contains(page, "Nothing yet") && strings.Contains(page, "Remember it again"))
	require.NotEqual(t, learnt, total())
	things, err := s.store.ForgottenThings(context.Background())
	require.NoError(t, err)
	for _, f := range things {
		s.post("/logbook/learnt/remember", url.Values{"of": {string(f.Of)}, "name": {f.Name}})
	}
	require.Equal(t, learnt, total(), "remembered as it was")
	response, _ := s.post("/logbook/learnt/forget", url.Values{"of": {"the moon"}})
	require.Equal(t, http.StatusUnprocessableEntity, response.StatusCode)
}
