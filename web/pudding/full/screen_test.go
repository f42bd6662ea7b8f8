package full

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
func (h house) Home(context.Context) (plan.Home, error)         { return plan.Home{}, nil }
func (h house) Burners(context.Context) ([]store.Burner, error) { return nil, nil }
func (h house) Pots(context.Context) ([]store.Pot, error)       { return nil, nil }
func (h house) Versions(context.Context, string, int, int) ([]store.PlanVersion, error) {
	return nil, nil
}

// A step comes back as it was typed where it has a fault, and is stored where it has none.
func TestOneStep(t *testing.T) {
	var saved *plan.Plan
	h := house{pudding: frametest.Pudding(t, "reduced in milk"), saved: &saved}
	site := frametest.New(t)
	s := New(site.App, h, h)
	site.GET("/puddings/:id/steps/:step", s.ShowStep)
	site.POST("/puddings/:id/steps/:step", s.SaveStep)

	site.Get("/puddings/p1/steps/0").MustSay(t, 200, h.pudding.Plan.Name)
	site.Get("/puddings/p1/steps/99").MustSay(t, 404)
	site.Get("/puddings/p2/steps/0").MustSay(t, 404)
	amount := "steps[0].items[0].amount"
	site.Post("/puddings/p1/steps/0", "version", "3", amount, "2 cupz").MustSay(t, 422, "unknown unit", "2 cupz")
	require.Nil(t, saved)
	site.Post("/puddings/p1/steps/0", "version", "3", amount, "900 ml").MustLead(t, "/puddings/p1")
	require.Equal(t, "900 ml", saved.Steps[0].Items[0].Amount)
}
