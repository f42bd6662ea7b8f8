package logbook

import (
	"context"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"kirdu/core/cook"
	"kirdu/core/learn"
	"kirdu/core/plan"
	"kirdu/store"
	"kirdu/web/frame/frametest"
)

type house struct {
	kitchen
	records
	batch  store.Cook
	judged *store.Verdict
	made   **plan.Plan
}

func (h house) Cook(_ context.Context, id string) (store.Cook, error) {
	if id != h.batch.ID {
		return store.Cook{}, store.ErrNotFound
	}
	return h.batch, nil
}
func (h house) Again(context.Context, store.Cook) (*plan.Plan, error) {
	return h.batch.Plan.Clone(), nil
}
func (h house) CreatePudding(_ context.Context, _ string, p *plan.Plan, _ time.Time) error {
	*h.made = p
	return nil
}
func (h house) Judge(_ context.Context, _ store.Cook, v store.Verdict, _ []string) error {
	*h.judged = v
	return nil
}
func (h house) RestoreBatch(context.Context, string) error { return nil }
func (h house) Photo(context.Context, string) (store.Photo, error) {
	return store.Photo{}, store.ErrNotFound
}

// How a batch ate is stored with it, and its note goes into the plan of the next.
func TestABatchIsJudgedAndMadeAgain(t *testing.T) {
	pudding := frametest.Pudding(t, "reduced in milk")
	h := house{judged: &store.Verdict{}, made: new(*plan.Plan), batch: store.Cook{ID: "c1", Plan: pudding.Plan, BegunAt: frametest.Now,
		Zone: "UTC",
		Line: learn.LineOf(pudding.Plan), Verdict: &store.Verdict{Note: "more cardamom"},
		Events: []cook.Event{{ID: "1", Kind: cook.Began, At: frametest.Now}, {ID: "2", Kind: cook.Finished, At: frametest.Now.Add(time.Hour)}}}}
	site := frametest.New(t)
	s := New(site.App, h, h)
	site.POST("/logbook/:id", s.Judge)
	site.POST("/logbook/:id/again", s.Again)
	site.POST("/logbook/:id/restore", s.Restore)
	site.GET("/logbook/:id/photo.jpg", s.Photo)

	site.Post("/logbook/c1", "eaten", "hot", "sweetness", "just right").MustLead(t, "/logbook/c1?saved=1")
	require.Equal(t, "just right", h.judged.Sweetness)
	require.Equal(t, 303, site.Post("/logbook/c1/again").Status)
	require.Contains(t, (*h.made).Notes, "14 March 2026: more cardamom")
	require.NotContains(t, pudding.Plan.Notes, "cardamom", "the batch's own plan stays as it was")
	site.Post("/logbook/c2/again").MustSay(t, 404)
	site.Post("/logbook/c1/restore").MustLead(t, "/logbook")
	require.Equal(t, 404, site.Get("/logbook/c1/photo.jpg").Status)
}
