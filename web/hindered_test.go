package web_test

import (
	"net/http"
	"net/url"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"kirdu/core/cook"
)

// A disk that is full or for reading only is told as what it is, pages go on, and afterwards all goes on.
func TestADiskThatTakesNothing(t *testing.T) {
	s := newSite(t, nil)
	s.store.DB().SetMaxOpenConns(1) // a pragma is of one connection
	exec := func(text string) {
		_, err := s.store.DB().ExecContext(t.Context(), text)
		require.NoError(t, err)
	}
	exec(`CREATE TABLE filler (x)`)
	at := s.begin(s.pudding().Plan)
	for name, c := range map[string]struct {
		hinder, free string
		status       int
		said         string
	}{
		"full":      {`PRAGMA max_page_count = 1`, `PRAGMA max_page_count = 1000000`, http.StatusInsufficientStorage, "The disk is full."},
		"read-only": {`PRAGMA query_only = 1`, `PRAGMA query_only = 0`, http.StatusServiceUnavailable, "The data may not be written to."},
	} {
		exec(c.hinder)
		for range 1000 { // until the pages that are there are used up
			if _, err := s.store.DB().ExecContext(t.Context(), `INSERT INTO filler VALUES (zeroblob(3000))`); err != nil {
				break
			}
		}
		var response *http.Response
		var page string
		for range 100 { // what fits into the last page begun is still taken
			response, page = s.post("/gatherings", url.Values{"name": {"Supper"}, "at": {"2099-11-28T19:30"}, "guests": {"4"}, "hands": {"1"}})
			if strings.Contains(page, "Nothing of what is stored was changed.") {
				break
			}
		}
		require.Equal(t, c.status, response.StatusCode, name)
		require.Contains(t, page, c.said)
		require.Contains(t, page, "Nothing of what is stored was changed.")
		require.Contains(t, page, "send it once more")
		for _, path := range []string{"/", "/puddings", "/gatherings", at} {
			response, _ := s.get(path)
			require.Equal(t, http.StatusOK, response.StatusCode, "%s: %s", name, path)
		}
		exec(c.free)
		s.tell(at, "kind", "weighed", "mass", "1500")
	}
	require.Len(t, s.cookAt(at).Events, 2)
	require.Equal(t, cook.Weighed, s.cookAt(at).Events[1].Kind)
}
