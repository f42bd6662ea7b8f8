package web_test

import (
	"net/http"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
)

// From now to the bowl: how thick while it stands, what loosens it, how it cools.
func TestServing(t *testing.T) {
	s := newSite(t, nil)
	for _, path := range []string{"/puddings/" + s.pudding().ID, "/stove/" + s.onStove().ID} {
		response, page := s.get(path + "/serving?thickness=3&liquid=coconut-milk-light&open=1")
		require.Equal(t, http.StatusOK, response.StatusCode)
		for _, words := range []string{"While it stands, open", "standing-line", "To loosen it", "in cold water", "eat by", "contains",
			"Warmed again", "to 74 °C", "then 3."} {
			require.True(t, strings.Contains(page, words), words)
		}
		_, closed := s.get(path + "/serving")
		require.True(t, strings.Contains(closed, "covered"))
		for _, query := range []string{"thickness=99", "thickness=NaN", "liquid=petrol", "pieces=1.5"} {
			response, page := s.get(path + "/serving?" + query)
			require.Equal(t, http.StatusUnprocessableEntity, response.StatusCode, query)
			if !strings.HasPrefix(query, "pieces") { // a pot is not cut: its field is not there
				require.True(t, strings.Contains(page, `class="fault"`), query)
			}
		}
	}
	response, _ := s.get("/puddings/nobody/serving")
	require.Equal(t, http.StatusNotFound, response.StatusCode)
}
