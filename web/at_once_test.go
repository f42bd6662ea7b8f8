package web_test

import (
	"io"
	"net/http"
	"net/url"
	"strings"
	"sync"
	"sync/atomic"
	"testing"

	"github.com/google/uuid"
	"github.com/stretchr/testify/require"
)

// Many look at every page while others save, cook and weigh: under the race detector nothing is shared that is
// changed, and no page fails.
func TestManyAtOnce(t *testing.T) {
	s := newSite(t, nil)
	var addresses []string
	for route, address := range s.addresses() {
		if _, other := statuses[route]; !other && route != "/stove/:id/changes" {
			addresses = append(addresses, address)
		}
	}
	p, cooking := s.pudding(), s.onStove()
	client := &http.Client{Transport: s.client.Transport, CheckRedirect: s.client.CheckRedirect}
	var failed atomic.Value
	fetch := func(method, path string, form url.Values) int {
		request, err := http.NewRequestWithContext(t.Context(), method, s.server.URL+path, strings.NewReader(form.Encode()))
		if err != nil {
			failed.Store(err.Error())
			return 0
		}
		if form != nil {
			request.Header.Set("Content-Type", "application/x-www-form-urlencoded")
		}
		response, err := client.Do(request)
		if err != nil {
			failed.Store(err.Error())
			return 0
		}
		defer response.Body.Close()
		_, _ = io.Copy(io.Discard, response.Body)
		if response.StatusCode >= http.StatusInternalServerError {
			failed.Store(path + ": " + response.Status)
		}
		return response.StatusCode
	}
	const rounds = 2
	var group sync.WaitGroup
	var told atomic.Int32
	for n := range 4 {
		group.Go(func() {
			for round := range rounds {
				for k := range addresses {
					fetch(http.MethodGet, addresses[(k*(2*n+1)+round)%len(addresses)], nil) // each in another order
				}
			}
		})
	}
	for range 2 {
		group.Go(func() {
			for range 5 {
				fetch(http.MethodGet, "/stove/"+cooking.ID, nil)
				if fetch(http.MethodPost, "/stove/"+cooking.ID, url.Values{"id": {uuid.NewString()}, "kind": {"tasted"}, "value": {"0"}}) ==
					http.StatusSeeOther {
					told.Add(1)
				}
				fetch(http.MethodPost, "/puddings/"+p.ID+"/duplicate", url.Values{})
				fetch(http.MethodGet, "/puddings/"+p.ID+"/balance?thickness=4&sweet=12&bowls=6", nil)
			}
		})
	}
	group.Wait()
	require.Nil(t, failed.Load())
	require.Positive(t, told.Load())
	after, err := s.store.Cook(t.Context(), cooking.ID)
	require.NoError(t, err)
	require.Len(t, after.Events, len(cooking.Events)+int(told.Load()), "what was acknowledged is there")
}
