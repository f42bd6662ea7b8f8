package scale

import (
	"context"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

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
func (h house) Burners(context.Context) ([]store.Burner, error) { return nil, nil }
func (h house) Pots(context.Context) ([]store.Pot, error)       { return nil, nil }

func TestMoreBowls(t *testing.T) {
	var saved *plan.Plan
	h := house{pudding: frametest.Pudding(t, "reduced in milk"), saved: &saved}
	site := frametest.New(t)
	s := New(site.App, h, h)
	site.GET("/puddings/:id/scale", s.Show)
	site.POST("/puddings/:id/scale", s.Take)

	site.Get("/puddings/p1/scale?bowls=6").MustSay(t, 200, "6")
	site.Get("/puddings/p1/scale?bowls=many").MustSay(t, 422, "whole number of bowls", `value="many"`)
	site.Post("/puddings/p1/scale", "version", "3", "bowls", "0", "kind", "mark").MustSay(t, 422)
	site.Post("/puddings/p1/scale", "version", "1", "bowls", "6", "kind", "mark").MustSay(t, 409)
	require.Nil(t, saved)
}
