package shelf

import (
	"context"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"kirdu/store"
	"kirdu/web/frame/frametest"
)

type house struct {
	*frametest.House
	aside   []*store.Unreadable
	removed *string
}

func (h house) Shelf(context.Context, int) ([]store.Pudding, []*store.Unreadable, error) {
	return []store.Pudding{h.Kept}, h.aside, nil
}
func (h house) RemovePudding(_ context.Context, id string, _ time.Time) error {
	*h.removed = id
	return nil
}
func (h house) RestorePudding(context.Context, string) error { return store.ErrNotFound }

// What can be read is there with its figures, what cannot stands in its place with a way to what can be done.
func TestTheShelf(t *testing.T) {
	removed := ""
	h := house{House: frametest.NewHouse(t, "soaked pearls"), removed: &removed,
		aside: []*store.Unreadable{{Kind: store.APudding, ID: "p9", Name: "Grandmother's", At: frametest.Now, Err: frametest.ErrBroken}}}
	site := frametest.New(t)
	s := New(site.App, h, h)
	site.GET("/puddings", s.Show)
	site.POST("/puddings/:id/remove", s.Remove)
	site.POST("/puddings/:id/restore", s.Restore)

	site.Get("/puddings").MustSay(t, 200, h.Kept.Plan.Name, "Grandmother", "/unreadable/pudding/p9")
	found := site.Get("/puddings?search=nothing+of+that+name")
	found.MustSay(t, 200)
	require.NotContains(t, found.Body, `href="/puddings/p1"`)
	site.Post("/puddings/p1/remove").MustLead(t, "/puddings?removed=p1")
	require.Equal(t, "p1", removed)
	site.Get("/puddings?removed=p1").MustSay(t, 200, "/puddings/p1/restore")
	site.Post("/puddings/p1/restore").MustSay(t, 404)
}
