package balance

import (
	"context"
	"testing"

	"github.com/stretchr/testify/require"

	"kirdu/core/design"
	"kirdu/core/plan"
	"kirdu/web/frame/frametest"
)

type house struct{ *frametest.House }

func (h house) Balance(_ context.Context, p *plan.Plan, aims design.Aims, locked []string) (design.Balanced, error) {
	return design.Balance(p, aims, locked), nil
}
func (h house) Roads(context.Context, *plan.Plan, design.Aims, []string) (map[design.Road]design.Balanced, error) {
	return nil, nil
}

// An aim is met in the answer, what is no aim is named at its field, and what was computed for another version is
// not taken.
func TestBalance(t *testing.T) {
	h := house{frametest.NewHouse(t, "reduced in milk")}
	site := frametest.New(t)
	s := New(site.App, h, h)
	site.GET("/puddings/:id/balance", s.Show)
	site.POST("/puddings/:id/balance", s.Take)

	site.Get("/puddings/p1/balance?sweet=12").MustSay(t, 200, "12")
	site.Get("/puddings/p1/balance?thickness=9").MustSay(t, 422, "from 1 to 8")
	site.Get("/puddings/p2/balance").MustSay(t, 404)
	site.Post("/puddings/p1/balance", "version", "2", "sweet", "12").MustSay(t, 409)
	require.Nil(t, h.Saved)
	site.Post("/puddings/p1/balance", "version", "3", "sweet", "12").MustLead(t, "/puddings/p1")
	require.NotNil(t, h.Saved)
}
