package web_test

import (
	"bufio"
	"context"
	"fmt"
	"net/http"
	"net/http/cookiejar"
	"net/url"
	"regexp"
	"strings"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/require"

	"kirdu/app"
	"kirdu/core/cook"
	"kirdu/web"
)

const supper = "lantern supper"

func guarded(t *testing.T) *site {
	t.Helper()
	s := newSite(t, func(o *web.Options) { o.Kitchen.Login, o.Hosts = true, []string{} })
	require.NoError(t, s.kitchen.SetPassphrase(t.Context(), supper))
	return s
}

// A stream that a device opened before it was sent away hears nothing of what comes after.
func TestAnEndedSessionHearsNothing(t *testing.T) {
	for name, end := range map[string]func(s *site){
		"logout":         func(s *site) { s.post("/logout", nil) },
		"new passphrase": func(s *site) { require.NoError(t, s.kitchen.SetPassphrase(t.Context(), "another supper")) },
	} {
		t.Run(name, func(t *testing.T) {
			s := guarded(t)
			k := s.onStove()
			response, _ := s.post("/login", url.Values{"passphrase": {supper}})
			require.Equal(t, http.StatusSeeOther, response.StatusCode)
			ctx, cancel := context.WithTimeout(t.Context(), 10*time.Second)
			defer cancel()
			request, err := http.NewRequestWithContext(ctx, http.MethodGet, s.server.URL+"/stove/"+k.ID+"/changes", nil)
			require.NoError(t, err)
			stream, err := s.client.Do(request)
			require.NoError(t, err)
			defer stream.Body.Close()
			lines := bufio.NewScanner(stream.Body)
			require.True(t, lines.Scan())
			end(s)
			require.NoError(t, s.kitchen.Tell(t.Context(), k, cook.Event{ID: uuid.NewString(), Kind: cook.Weighed, At: now, Mass: 900}))
			for lines.Scan() {
				require.NotContains(t, lines.Text(), "changed")
			}
		})
	}
}

// A new passphrase sends everybody away; one of spaces or of one letter is none; long ones count to the last letter.
func TestPassphrases(t *testing.T) {
	s := guarded(t)
	response, _ := s.post("/login", url.Values{"passphrase": {supper}})
	require.Equal(t, http.StatusSeeOther, response.StatusCode)
	for _, plain := range []string{strings.Repeat(" ", 12), strings.Repeat("a", 12), "ääää", strings.Repeat("word ", 60)} {
		require.ErrorIs(t, s.kitchen.SetPassphrase(t.Context(), plain), app.ErrPassphraseLength, plain)
	}
	long := strings.Repeat("ein langes Wort, ", 6) + "Ende"
	require.NoError(t, s.kitchen.SetPassphrase(t.Context(), long))
	response, _ = s.get("/kitchen")
	require.Equal(t, "/login", response.Header.Get("Location"), "the old session is over")
	for text, right := range map[string]bool{long: true, long + "!": false, strings.TrimSuffix(long, "Ende") + "Wand": false} {
		known, err := s.kitchen.IsPassphrase(t.Context(), text)
		require.NoError(t, err)
		require.Equal(t, right, known, text)
	}
}

// A stranger who guesses from one address after another keeps no device out that was inside before.
func TestStrangersLockNobodyOut(t *testing.T) {
	s := guarded(t)
	response, _ := s.post("/login", url.Values{"passphrase": {supper}})
	require.Equal(t, http.StatusSeeOther, response.StatusCode)
	known := s.client.Jar
	s.post("/logout", nil)
	stranger, err := cookiejar.New(nil)
	require.NoError(t, err)
	s.client.Jar = stranger
	limited := false
	for range 40 {
		response, _ := s.post("/login", url.Values{"passphrase": {"guess"}})
		limited = limited || response.StatusCode == http.StatusTooManyRequests
	}
	require.True(t, limited)
	response, _ = s.post("/login", url.Values{"passphrase": {supper}})
	require.Equal(t, http.StatusTooManyRequests, response.StatusCode, "a stranger waits, even with the right one")
	s.client.Jar = known
	response, _ = s.post("/login", url.Values{"passphrase": {supper}})
	require.Equal(t, http.StatusSeeOther, response.StatusCode, "who was inside before does not")
}

// Tokens of gadgets cannot be guessed on and on; a gadget's clock may be off by a day and no more.
func TestGadgetsAreBounded(t *testing.T) {
	s := newSite(t, nil)
	k := s.onStove()
	send := func(token, query string) int {
		request, err := http.NewRequestWithContext(t.Context(), http.MethodPost, s.server.URL+"/readings"+query,
			strings.NewReader(fmt.Sprintf(`{"time":%q,"kind":"probe","value":62,"unit":"deg C"}`, now.Format(time.RFC3339))))
		require.NoError(t, err)
		request.Header.Set("Authorization", token)
		response, err := s.client.Do(request)
		require.NoError(t, err)
		defer response.Body.Close()
		return response.StatusCode
	}
	_, made := s.post("/kitchen/gadgets", url.Values{"name": {"scale by the window"}, "with_pot": {"1"}})
	token := regexp.MustCompile(`readonly value="([^"]+)"`).FindStringSubmatch(made)[1]
	require.Equal(t, http.StatusOK, send("bearer "+token, "?cook="+k.ID), "in any case")
	require.Equal(t, http.StatusOK, send("BEARER  "+token, "?cook="+k.ID))
	require.Equal(t, http.StatusUnprocessableEntity, send("Bearer "+token, "?cook="+k.ID+"&sent=2319-01-01T00:00:00Z"))
	limited := false
	for range 12 {
		limited = limited || send("Bearer guess", "") == http.StatusTooManyRequests
	}
	require.True(t, limited)
	require.Equal(t, http.StatusOK, send("Bearer "+token, "?cook="+k.ID), "a known gadget is not kept out by them")
}
