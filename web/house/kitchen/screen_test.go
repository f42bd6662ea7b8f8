package kitchen

import (
	"context"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"kirdu/core/plan"
	"kirdu/core/vessel"
	"kirdu/store"
	"kirdu/web/frame/frametest"
)

type house struct {
	kitchen
	records
	pots    *[]store.Pot
	burners *[]store.Burner
	removed *string
}

func (h house) Pots(context.Context) ([]store.Pot, error)             { return *h.pots, nil }
func (h house) Burners(context.Context) ([]store.Burner, error)       { return *h.burners, nil }
func (h house) Home(context.Context) (plan.Home, error)               { return plan.Home{}, nil }
func (h house) Room(context.Context) (*plan.Kitchen, error)           { return nil, nil }
func (h house) Measurings(context.Context) ([]store.Measuring, error) { return nil, nil }
func (h house) WaterTests(context.Context) ([]store.WaterTest, error) { return nil, nil }
func (h house) Fittings(_ context.Context, usual store.Fittings) (store.Fittings, error) {
	return usual, nil
}
func (h house) AddPot(_ context.Context, p store.Pot, _ time.Time) error {
	*h.pots = append(*h.pots, p)
	return nil
}
func (h house) AddBurner(_ context.Context, b store.Burner, _ time.Time) error {
	*h.burners = append(*h.burners, b)
	return nil
}
func (h house) RemovePot(_ context.Context, id string, _ time.Time) error {
	*h.removed = id
	return nil
}

// A pot and a burner within their bounds are in the kitchen from then on; others come back as they were typed.
func TestPotsAndBurners(t *testing.T) {
	h := house{pots: &[]store.Pot{}, burners: &[]store.Burner{}, removed: new(string)}
	site := frametest.New(t)
	s := New(site.App, h, h)
	site.GET("/kitchen", s.Show)
	site.POST("/kitchen/pots", s.AddPot)
	site.POST("/kitchen/pots/:id/remove", s.RemovePot)
	site.POST("/kitchen/burners", s.AddBurner)

	pot := []string{"name", "tall pot", "shape", "straight", "diameter_mm", "220", "height_mm", "150", "uses", "stove"}
	site.Post("/kitchen/pots", append([]string{"height_mm", "-5"}, pot...)...).MustSay(t, 422, `value="tall pot"`, "above 0")
	require.Empty(t, *h.pots)
	site.Post("/kitchen/pots", pot...).MustLead(t, "/kitchen")
	require.Equal(t, vessel.Straight, (*h.pots)[0].Shape)
	site.Post("/kitchen/burners", "name", "ring", "kind", "gas", "power_w", "strong", "efficiency_pct", "45").MustSay(t, 422, "in watts")
	require.Empty(t, *h.burners)
	site.Get("/kitchen").MustSay(t, 200, "Tall pot")
	site.Post("/kitchen/pots/x/remove").MustLead(t, "/kitchen?removed_pot=x")
	require.Equal(t, "x", *h.removed)
}
