package recipe

import (
	"context"
	"testing"

	"github.com/stretchr/testify/require"

	"kirdu/core/pantry"
	"kirdu/core/vessel"
	"kirdu/store"
	"kirdu/web/frame/frametest"
)

type house struct {
	frametest.House
}

func (h *house) Fittings(_ context.Context, usual store.Fittings) (store.Fittings, error) {
	return usual, nil
}
func (h *house) Pots(context.Context) ([]store.Pot, error) {
	return []store.Pot{{ID: "a", Pot: vessel.Pot{Name: "wide pot", Shape: vessel.Straight, DiameterMM: 240, HeightMM: 140}}}, nil
}

// A recipe is read into lines and steps; what is not one is said at its field, and nothing is made of it.
func TestARecipeIsRead(t *testing.T) {
	h := &house{}
	site := frametest.New(t)
	s := New(site.App, h)
	site.GET("/intake", s.Show)
	site.POST("/intake", s.Read)
	site.POST("/intake/create", s.Create)
	called := func(slug string) string {
		m, known := pantry.Standard().Material(slug)
		require.True(t, known)
		return m.Name
	}
	const list, method = "1 l milk\n80 g short grain rice\n70 g sugar", "Bring the milk to the boil. Add the rice and simmer 40 minutes. " +
		"Stir in the sugar."

	site.Get("/intake").MustSay(t, 200, "<textarea")
	site.Post("/intake", "list", " ").MustSay(t, 422, "paste the ingredients")
	site.Post("/intake", "list", list, "method", method, "bowls", "4", "serve", "hot", "name", "Rice").
		MustSay(t, 200, "rice", "Stir in the sugar")
	site.Post("/intake/create", "list", list, "method", method, "bowls", "none", "serve", "hot", "name", "Rice").MustSay(t, 422,
		"whole number of bowls")
	require.Nil(t, h.Saved)
	got := site.Post("/intake/create", "list", list, "method", method, "bowls", "4", "serve", "hot", "name", "Rice",
		"material0", called("milk-whole"), "amount0", "1 l", "material1", called("rice-short"), "amount1", "80 g", "material2",
		called("sugar-white"), "amount2", "70 g")
	require.Equal(t, 303, got.Status)
	require.Equal(t, "Rice", h.Saved.Name)
	require.Contains(t, got.Location, "/puddings/")
}
