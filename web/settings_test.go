package web_test

import (
	"bytes"
	"image/png"
	"net/http"
	"net/http/cookiejar"
	"net/url"
	"path/filepath"
	"regexp"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"kirdu/store"
	"kirdu/web"
	"kirdu/web/frame"
)

var allSettings = url.Values{"units": {"metric"}, "numbers": {"comma"}, "dates": {"iso"}, "heat": {"cf"}, "week": {"sunday"},
	"theme": {"dark"}, "lead": {"first"}, "copies": {"off"}}

func TestSettingsChangeEveryPage(t *testing.T) {
	s := newSite(t, nil)
	_, before := s.get("/logbook")
	require.True(t, strings.Contains(before, "Week from 16 November 2026"), "a Monday")
	response, _ := s.post("/settings", allSettings)
	require.Equal(t, http.StatusSeeOther, response.StatusCode)
	_, page := s.get("/logbook")
	require.True(t, strings.Contains(page, `data-theme="dark"`))
	require.True(t, strings.Contains(page, "Week from 2026-11-15"), "a Sunday")
	_, page = s.get("/cautions")
	require.True(t, strings.Contains(page, "71 °C (160 °F)"))
	_, page = s.get("/puddings/" + s.pudding().ID)
	require.True(t, regexp.MustCompile(`>[^<]*\d,\d[^<]*<`).MatchString(page), "with commas")
	_, page = s.get("/settings")
	require.True(t, strings.Contains(page, `value="comma" checked`))

	bad := url.Values{}
	for name, values := range allSettings {
		bad[name] = values
	}
	bad.Set("theme", "plaid")
	response, _ = s.post("/settings", bad)
	require.Equal(t, http.StatusUnprocessableEntity, response.StatusCode)
	_, page = s.get("/settings")
	require.True(t, strings.Contains(page, `value="dark" checked`), "nothing half-saved")
}

// TestSessionsOfTheHousehold lets two devices in, lists them, and ends one.
func TestSessionsOfTheHousehold(t *testing.T) {
	s := newSite(t, func(o *web.Options) { o.Kitchen.Login, o.Hosts = true, []string{} })
	require.NoError(t, s.kitchen.SetPassphrase(t.Context(), "lantern supper"))
	other, err := cookiejar.New(nil)
	require.NoError(t, err)
	mine := s.client.Jar
	enter := func(agent string) {
		response, _ := s.do(http.MethodPost, "/login", url.Values{"passphrase": {"lantern supper"}}, http.Header{"User-Agent": {agent}})
		require.Equal(t, http.StatusSeeOther, response.StatusCode)
	}
	enter("Mozilla/5.0 (X11; Linux x86_64)")
	s.client.Jar = other
	response, _ := s.get("/settings")
	require.Equal(t, "/login", response.Header.Get("Location"), "locked from outside")
	for _, path := range []string{"/settings/code.png", "/archive/kirdu.zip", "/logbook/x/photo.jpg", "/start"} {
		response, _ = s.get(path)
		require.Equal(t, http.StatusSeeOther, response.StatusCode, path)
	}
	for _, path := range []string{"/settings", "/settings/sessions/x/end", "/archive", "/archive/take", "/logbook/x/photo", "/start",
		"/stove/x/rescue"} {
		response, _ = s.post(path, url.Values{})
		require.Equal(t, http.StatusUnauthorized, response.StatusCode, path)
	}
	enter("Mozilla/5.0 (Linux; Android 15) Mobile")
	_, page := s.get("/settings")
	require.True(t, strings.Contains(page, "a phone</strong> (this one)"))
	require.True(t, strings.Contains(page, "a computer"))
	ends := regexp.MustCompile(`/settings/sessions/([^/]+)/end`).FindAllStringSubmatch(page, -1)
	require.Len(t, ends, 2)
	for _, cookie := range other.Cookies(mustURL(t, s.server.URL)) {
		require.False(t, strings.Contains(page, cookie.Value), "the list tells no token")
	}
	s.client.Jar = mine
	_, page = s.get("/settings")
	phone := regexp.MustCompile(`a phone</strong>[\s\S]*?/settings/sessions/([^/]+)/end`).FindStringSubmatch(page)
	require.NotNil(t, phone)
	response, _ = s.post("/settings/sessions/"+phone[1]+"/end", nil)
	require.Equal(t, http.StatusSeeOther, response.StatusCode)
	response, _ = s.post("/settings/sessions/"+phone[1]+"/end", nil)
	require.Equal(t, http.StatusNotFound, response.StatusCode)
	s.client.Jar = other
	response, _ = s.get("/kitchen")
	require.Equal(t, "/login", response.Header.Get("Location"), "the phone is out")
	s.client.Jar = mine
	response, _ = s.get("/kitchen")
	require.Equal(t, http.StatusOK, response.StatusCode, "the computer is not")
	if response, code := s.get("/settings/code.png"); response.StatusCode == http.StatusOK {
		_, err := png.Decode(bytes.NewReader([]byte(code)))
		require.NoError(t, err)
	} else {
		require.Equal(t, http.StatusNotFound, response.StatusCode, "a machine without a home network has no code")
	}
}

func mustURL(t *testing.T, text string) *url.URL {
	t.Helper()
	u, err := url.Parse(text)
	require.NoError(t, err)
	return u
}

func TestAnEmptyKitchenIsLedThrough(t *testing.T) {
	empty, err := store.Open(t.Context(), filepath.Join(t.TempDir(), "empty.sqlite"))
	require.NoError(t, err)
	defer empty.Close()
	s := newSite(t, func(o *web.Options) { o.Kitchen.Store, o.Kitchen.Now = empty, time.Now })
	response, _ := s.get("/")
	require.Equal(t, "/start", response.Header.Get("Location"))
	form := url.Values{"diameter": {"220"}, "height": {"120"}, "kind": {"gas"}, "power": {"2200"}, "cup": {"230"}, "bowls": {"4"},
		"way": {"reduced in milk"}}
	for field, bad := range map[string]string{"diameter": "wide", "height": "-3", "kind": "sun", "power": "0", "cup": "1e9",
		"bowls": "900", "way": "magic"} {
		wrong := url.Values{}
		for name, values := range form {
			wrong[name] = values
		}
		wrong.Set(field, bad)
		response, page := s.post("/start", wrong)
		require.Equal(t, http.StatusUnprocessableEntity, response.StatusCode, field)
		require.True(t, strings.Contains(page, `class="fault"`), field)
	}
	pots, err := empty.Pots(t.Context())
	require.NoError(t, err)
	require.Empty(t, pots, "nothing half-saved")
	response, body := s.post("/start", form)
	require.Equal(t, http.StatusSeeOther, response.StatusCode, body)
	require.Contains(t, response.Header.Get("Location"), "/puddings/")
	response, _ = s.get(response.Header.Get("Location"))
	require.Equal(t, http.StatusOK, response.StatusCode)
	shelf, err := empty.Puddings(t.Context(), 10)
	require.NoError(t, err)
	require.Len(t, shelf, 1)
	require.InDelta(t, 220, float64(shelf[0].Plan.Pots["main"].DiameterMM), 1e-9, "in the pot that was measured")
	require.Equal(t, 4, shelf[0].Plan.Serves)
	response, _ = s.get("/")
	require.Equal(t, http.StatusOK, response.StatusCode)

	aunts, err := store.Open(t.Context(), filepath.Join(t.TempDir(), "recipe.sqlite"))
	require.NoError(t, err)
	defer aunts.Close()
	s = newSite(t, func(o *web.Options) {
		o.Kitchen.Store, o.Kitchen.Now = aunts, time.Now
		o.Sample = func() (string, error) { return "http://127.0.0.1:9/", nil }
	})
	_, body = s.get("/start")
	require.Contains(t, body, `href="/sample"`)
	response, _ = s.get("/sample")
	require.Equal(t, "http://127.0.0.1:9/", response.Header.Get("Location"))
	form.Set("then", "recipe")
	response, _ = s.post("/start", form)
	require.Equal(t, "/intake", response.Header.Get("Location"), "the kitchen is kept, the pudding comes from the recipe")
	pots, err = aunts.Pots(t.Context())
	require.NoError(t, err)
	require.Len(t, pots, 1)
	shelf, err = aunts.Puddings(t.Context(), 10)
	require.NoError(t, err)
	require.Empty(t, shelf)
	response, _ = s.get("/")
	require.Equal(t, http.StatusOK, response.StatusCode)

	skipped, err := store.Open(t.Context(), filepath.Join(t.TempDir(), "skipped.sqlite"))
	require.NoError(t, err)
	defer skipped.Close()
	s = newSite(t, func(o *web.Options) { o.Kitchen.Store, o.Kitchen.Now = skipped, time.Now })
	response, _ = s.post("/start/skip", nil)
	require.Equal(t, http.StatusSeeOther, response.StatusCode)
	response, _ = s.get("/")
	require.Equal(t, http.StatusOK, response.StatusCode)
}

func TestGuideAndModel(t *testing.T) {
	s := newSite(t, nil)
	_, page := s.get("/guide")
	for _, section := range []string{"today", "puddings", "stove", "gatherings", "benches", "pantry", "buying", "kitchen", "logbook",
		"rescue"} {
		require.True(t, strings.Contains(page, `id="`+section+`"`), "the help of %s leads to its part of the guide", section)
	}
	_, page = s.get("/model")
	require.True(t, strings.Contains(page, "How sure"))
}

// A kitchen that speaks TLS tells how to trust it, to those outside too, and shows its fingerprint
// inside.
func TestHowAPhoneTrustsTheKitchen(t *testing.T) {
	trust := &frame.Trust{DER: []byte("certificate"), Fingerprint: "AB:CD", Port: "8443", PlainPort: "8444"}
	s := newSite(t, func(o *web.Options) { o.Trust, o.Kitchen.Login = trust, true })
	response, page := s.get("/trust")
	require.Equal(t, http.StatusOK, response.StatusCode)
	require.Contains(t, page, "AB:CD")
	require.Contains(t, page, ":8443")
	require.NotContains(t, page, "<nav", "nobody is inside yet")
	response, body := s.get("/trust/kirdu-household.crt")
	require.Equal(t, "application/x-x509-ca-cert", response.Header.Get("Content-Type"))
	require.Equal(t, "certificate", body)
	response, worker := s.get("/worker.js")
	require.Equal(t, "no-cache", response.Header.Get("Cache-Control"))
	require.Contains(t, worker, `"/static/cook.js"`)
	require.NotContains(t, worker, `"/static/js/worker.js"`)
	require.Regexp(t, `^const version = "\w+";`, worker)
}
