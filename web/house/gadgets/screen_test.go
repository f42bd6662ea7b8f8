package gadgets

import (
	"context"
	"net/http"
	"net/http/httptest"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"kirdu/device"
	"kirdu/store"
	"kirdu/web/frame/frametest"
)

type house struct {
	kitchen
	made  *store.Gadget
	token *[]byte
	taken *int
}

func (h house) Gadgets(context.Context) ([]store.Gadget, error) { return nil, nil }
func (h house) MakeGadget(_ context.Context, g store.Gadget, hash []byte) error {
	*h.made, *h.token = g, hash
	return nil
}
func (h house) GadgetByToken(_ context.Context, hash []byte) (store.Gadget, error) {
	if string(hash) != string(*h.token) {
		return store.Gadget{}, store.ErrNotFound
	}
	return *h.made, nil
}
func (h house) CookHeard(context.Context, string) (store.Cook, error) {
	return store.Cook{ID: "c1"}, nil
}
func (h house) TakeReadings(_ context.Context, _ store.Gadget, _ store.Cook, list []device.Sample) ([]device.Judged, error) {
	*h.taken += len(list)
	return nil, nil
}
func (h house) RemoveGadget(context.Context, string, time.Time) error { return nil }

// The token of a gadget is shown once, and takes readings; another takes none.
func TestGadgets(t *testing.T) {
	h := house{made: &store.Gadget{}, token: &[]byte{1}, taken: new(int)}
	site := frametest.New(t)
	s := New(site.App, h, h)
	site.GET("/kitchen/gadgets", s.Show)
	site.POST("/kitchen/gadgets", s.Make)
	site.POST("/readings", s.Take)

	site.Get("/kitchen/gadgets").MustSay(t, 200, "/readings")
	site.Post("/kitchen/gadgets", "name", "").MustSay(t, 422, "a name of 1 to 60")
	page := site.Post("/kitchen/gadgets", "name", "the scale").Body
	require.Equal(t, "the scale", h.made.Name)
	var token string
	for _, word := range strings.FieldsFunc(page, func(r rune) bool { return strings.ContainsRune("<>\" \n", r) }) {
		if sum := hash(word); string(sum) == string(*h.token) {
			token = word
		}
	}
	require.NotEmpty(t, token, "it is shown")
	require.NotContains(t, site.Get("/kitchen/gadgets").Body, token, "but once")
	send := func(token, line string) frametest.Answer {
		r := httptest.NewRequestWithContext(t.Context(), http.MethodPost, "/readings", strings.NewReader(line))
		r.Header.Set("Authorization", "Bearer "+token)
		return site.Do(r)
	}
	const line = `{"time":"2026-03-14T18:29:50Z","kind":"scale","value":1620,"unit":"g"}`
	require.Equal(t, 401, send("another", line).Status)
	got := send(token, `{"kind":"scale"}`)
	require.Equal(t, 422, got.Status)
	require.Contains(t, got.Body, "give a time")
	require.Zero(t, *h.taken)
	require.Equal(t, 200, send(token, line).Status)
	require.Equal(t, 1, *h.taken)
}
