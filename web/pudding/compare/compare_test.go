package compare

import (
	"context"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"kirdu/core/design"
	"kirdu/core/plan"
	"kirdu/store"
	"kirdu/web/frame/frametest"
)

type house struct {
	pudding store.Pudding
	saved   **plan.Plan
}

func (h house) Pudding(_ context.Context, id string) (store.Pudding, error) {
	if id != h.pudding.ID {
		return store.Pudding{}, store.ErrNotFound
	}
	return h.pudding, nil
}
func (h house) SavePlan(_ context.Context, _ string, base int, p *plan.Plan, _ time.Time) error {
	if base != h.pudding.Version {
		return store.ErrStale
	}
	*h.saved = p
	return nil
}
func (h house) Puddings(context.Context, int) ([]store.Pudding, error) {
	return []store.Pudding{h.pudding}, nil
}

func TestCompare(t *testing.T) {
	var saved *plan.Plan
	h := house{pudding: frametest.Pudding(t, "reduced in milk"), saved: &saved}
	site := frametest.New(t)
	s := New(site.App, h, h)
	site.GET("/puddings/:id/compare", s.Show)
	site.POST("/puddings/:id/compare", s.Take)

	question := design.Variants(h.pudding.Plan)[0].Key
	site.Get("/puddings/p1/compare?question="+question).MustSay(t, 200, h.pudding.Plan.Name, "<svg")
	site.Get("/puddings/p1/compare?question=none").MustSay(t, 422)
	site.Post("/puddings/p1/compare", "version", "2", "question", question).MustSay(t, 409)
	site.Post("/puddings/p1/compare", "version", "3", "question", "none").MustSay(t, 422)
	require.Nil(t, saved, "nothing of that is taken")
	site.Post("/puddings/p1/compare", "version", "3", "question", question).MustLead(t, "/puddings/p1")
	require.NotNil(t, saved)
}
