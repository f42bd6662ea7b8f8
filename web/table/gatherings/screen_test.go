package gatherings

import (
	"context"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"kirdu/store"
	"kirdu/web/frame/frametest"
)

type house struct {
	kitchen
	records
	kept  *store.Gathering
	shown *store.Share
	buys  *[]store.Buy
}

func (h house) Gatherings(context.Context) ([]store.Gathering, error) {
	return []store.Gathering{{ID: "g1", Name: "Harvest supper", ServeAt: frametest.Now.Add(time.Hour), Guests: 9, Hands: 2}}, nil
}
func (h house) Gathering(ctx context.Context, id string) (store.Gathering, error) {
	all, err := h.Gatherings(ctx)
	if id != all[0].ID {
		return store.Gathering{}, store.ErrNotFound
	}
	return all[0], err
}
func (h house) SaveGathering(_ context.Context, g store.Gathering, _ time.Time) error {
	*h.kept = g
	return nil
}
func (h house) WorkOutTimetable(context.Context, string, bool) error { return nil }
func (h house) SetShare(_ context.Context, _ string, s store.Share, _ time.Time) error {
	*h.shown = s
	return nil
}
func (h house) Shares(context.Context, string) ([]store.Share, error) {
	return []store.Share{{PuddingID: "p1", Bowls: 9}}, nil
}
func (h house) BuyForAll(_ context.Context, buys []store.Buy, _ time.Time) error {
	*h.buys = buys
	return nil
}
func (h house) RemoveGathering(context.Context, string, time.Time) error { return nil }

func TestGatherings(t *testing.T) {
	var kept store.Gathering
	var share store.Share
	var buys []store.Buy
	h := house{kept: &kept, shown: &share, buys: &buys}
	site := frametest.New(t)
	s := New(site.App, h, h)
	site.GET("/gatherings", s.List)
	site.POST("/gatherings", s.Create)
	site.POST("/gatherings/:id/puddings", s.SetShare)
	site.POST("/gatherings/:id/buy", s.Buy)
	site.POST("/gatherings/:id/remove", s.Remove)

	site.Get("/gatherings").MustSay(t, 200, "Harvest supper", "9 guests", "14 March 2026, 19:30")
	site.Post("/gatherings", "name", "Feast", "at", "soon", "guests", "0", "hands", "1.5").
		MustSay(t, 422, "a day and a time", "from 1 to 500", "whole number", `value="Feast"`)
	require.Empty(t, kept.Name)
	got := site.Post("/gatherings", "name", "Feast", "at", "2026-03-15T19:30", "guests", "8", "hands", "2")
	got.MustLead(t, "/gatherings/"+kept.ID)
	require.Equal(t, 8, kept.Guests)
	site.Post("/gatherings/g1/puddings", "pudding", "p1", "bowls", "9", "served", "20:15").MustLead(t, "/gatherings/g1")
	require.Equal(t, store.Share{PuddingID: "p1", Bowls: 9, ServeAfter: 45}, share)
	site.Post("/gatherings/g1/buy").MustLead(t, "/buying")
	require.Equal(t, []store.Buy{{PuddingID: "p1", Bowls: 9}}, buys)
	site.Post("/gatherings/g1/remove").MustLead(t, "/gatherings?removed=g1")
	site.Get("/gatherings?removed=g1").MustSay(t, 200, "/gatherings/g1/restore")
}
