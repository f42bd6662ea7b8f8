package supplies

import (
	"context"
	"database/sql"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"kirdu/core/measure"
	"kirdu/store"
	"kirdu/web/frame/frametest"
)

type house struct {
	*frametest.House
	rest
	noted  map[string]sql.Null[measure.Gram]
	ticked map[string]measure.Gram
}

// The rest of what the screen asks for is not asked for here.
type rest struct{ records }

func (h house) AtHand(context.Context) (map[string]sql.Null[measure.Gram], error) {
	return h.noted, nil
}
func (h house) NoteAtHand(_ context.Context, slug string, mass sql.Null[measure.Gram], _ time.Time) error {
	h.noted[slug] = mass
	return nil
}
func (h house) Buying(context.Context) ([]store.Buy, map[string]measure.Gram, error) {
	return []store.Buy{{PuddingID: "p1", Bowls: h.Kept.Plan.Serves}}, h.ticked, nil
}
func (h house) Tick(_ context.Context, slug string, mass measure.Gram, _ time.Time) error {
	h.ticked[slug] = mass
	return nil
}

// What is in the house is noted, and what is to be bought is ticked off with the amount that was on the list.
func TestSupplies(t *testing.T) {
	h := house{House: frametest.NewHouse(t, "reduced in milk"), noted: map[string]sql.Null[measure.Gram]{}, ticked: map[string]measure.Gram{}}
	site := frametest.New(t)
	s := New(site.App, h, h)
	site.GET("/supplies", s.Have)
	site.POST("/supplies", s.Note)
	site.GET("/buying", s.Buying)
	site.POST("/buying", s.BuyFor)
	site.POST("/buying/:slug/tick", s.Tick)
	site.GET("/buying.txt", s.Text)

	site.Post("/supplies", "material", "moon dust").MustSay(t, 422, "choose a material", "moon dust")
	site.Post("/supplies", "material", "Whole milk", "amount", "some").MustSay(t, 422, "a number and a unit")
	require.Empty(t, h.noted)
	require.Equal(t, 303, site.Post("/supplies", "material", "Whole milk", "amount", "500 g").Status)
	require.InDelta(t, 500, float64(h.noted["milk-whole"].V), 1e-9)
	site.Get("/supplies").MustSay(t, 200, h.Kept.Plan.Name)

	site.Get("/buying").MustSay(t, 200, h.Kept.Plan.Name, "milk")
	site.Post("/buying", "pudding", "p1", "bowls", "½").MustSay(t, 422, "whole number of bowls")
	site.Post("/buying/milk-whole/tick", "in", "on").MustLead(t, "/buying#milk-whole")
	require.Positive(t, h.ticked["milk-whole"])
	site.Post("/buying/moon-dust/tick", "in", "on").MustSay(t, 404)
	require.Contains(t, site.Get("/buying.txt").Body, "[x]")
}
