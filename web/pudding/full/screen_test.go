package full

import (
	"context"
	"testing"

	"github.com/stretchr/testify/require"

	"kirdu/store"
	"kirdu/web/frame/frametest"
)

type house struct{ *frametest.House }

func (h house) Versions(context.Context, string, int, int) ([]store.PlanVersion, error) {
	return nil, nil
}

// A step comes back as it was typed where it has a fault, and is stored where it has none.
func TestOneStep(t *testing.T) {
	h := house{frametest.NewHouse(t, "reduced in milk")}
	site := frametest.New(t)
	s := New(site.App, h, h)
	site.GET("/puddings/:id/steps/:step", s.ShowStep)
	site.POST("/puddings/:id/steps/:step", s.SaveStep)

	site.Get("/puddings/p1/steps/0").MustSay(t, 200, h.Kept.Plan.Name)
	site.Get("/puddings/p1/steps/99").MustSay(t, 404)
	site.Get("/puddings/p2/steps/0").MustSay(t, 404)
	amount := "steps[0].items[0].amount"
	site.Post("/puddings/p1/steps/0", "version", "3", amount, "2 cupz").MustSay(t, 422, "unknown unit", "2 cupz")
	require.Nil(t, h.Saved)
	site.Post("/puddings/p1/steps/0", "version", "3", amount, "900 ml").MustLead(t, "/puddings/p1")
	require.Equal(t, "900 ml", h.Saved.Steps[0].Items[0].Amount)
}
