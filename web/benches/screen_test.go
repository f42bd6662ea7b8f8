package benches

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

func (h house) Home(context.Context) (plan.Home, error) { return plan.Home{}, nil }
func (h house) Pudding(context.Context, string) (store.Pudding, error) {
	return h.pudding, nil
}
func (h house) Puddings(context.Context, int) ([]store.Pudding, error) {
	return []store.Pudding{h.pudding}, nil
}
func (h house) SavePlan(_ context.Context, _ string, _ int, p *plan.Plan, _ time.Time) error {
	*h.saved = p
	return nil
}

func TestBenches(t *testing.T) {
	var saved *plan.Plan
	h := house{pudding: frametest.Pudding(t, "reduced in milk"), saved: &saved}
	site := frametest.New(t)
	s := New(site.App, h, h)
	site.GET("/benches", s.First)
	site.GET("/benches/:bench", s.Show)
	site.POST("/benches/:bench/write", s.Write)

	site.Get("/benches").MustLead(t, "/benches/"+order[0])
	for _, name := range order {
		site.Get("/benches/"+name).MustSay(t, 200, "bench")
	}
	site.Get("/benches/anvil").MustSay(t, 404, "no such bench")
	site.Get("/benches/measure?amount=2+cupz").MustSay(t, 422, "unknown unit", `value="2 cupz"`)
	site.Post("/benches/milk/write", "target", "p1").MustSay(t, 422, "choose a pudding")
	site.Post("/benches/milk/write", "target", "p1.2.0.0", "which", "0").MustSay(t, 422)
	require.Nil(t, saved)
}
