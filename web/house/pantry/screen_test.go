package pantry

import (
	"context"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"kirdu/core/plan"
	"kirdu/store"
	"kirdu/web/frame/frametest"
)

type rows struct {
	records
	own *plan.OwnMaterial
}

func (r rows) Home(context.Context) (plan.Home, error)                          { return plan.Home{}, nil }
func (r rows) UnreadableMaterials(context.Context) ([]*store.Unreadable, error) { return nil, nil }
func (r rows) SaveOwnMaterial(_ context.Context, m plan.OwnMaterial, _ time.Time) error {
	*r.own = m
	return nil
}
func (r rows) RemoveOwnMaterial(context.Context, string, time.Time) error { return nil }

// Materials are found by any of their names; figures that cannot be are refused, others are the household's own.
func TestThePantry(t *testing.T) {
	var own plan.OwnMaterial
	site := frametest.New(t)
	s := New(site.App, rows{own: &own})
	site.GET("/pantry", s.Show)
	site.GET("/pantry/:slug", s.One)
	site.POST("/pantry/:slug", s.Correct)
	site.POST("/pantry/:slug/remove", s.Remove)

	site.Get("/pantry?search=jaggery").MustSay(t, 200, "/pantry/jaggery")
	site.Get("/pantry/jaggery").MustSay(t, 200, "aggery")
	site.Get("/pantry/moon-dust").MustSay(t, 404)
	site.Post("/pantry/jaggery", "water", "80").MustSay(t, 422, "must add up to 95 to 105 g", `value="80"`)
	site.Post("/pantry/jaggery", "water", "wet").MustSay(t, 422, "give a number", `value="wet"`)
	require.Empty(t, own.Slug)
	require.Equal(t, 303, site.Post("/pantry/jaggery", "aliases", "dark cake sugar").Status)
	require.Equal(t, "jaggery", own.Slug)
	require.Equal(t, []string{"dark cake sugar"}, own.Aliases)
	site.Post("/pantry/jaggery/remove").MustLead(t, "/pantry?removed=jaggery")
}
