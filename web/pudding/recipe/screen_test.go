package recipe

import (
	"context"
	"strings"
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

// siteOf serves the screen alone.
func siteOf(t *testing.T, h *house) *frametest.Site {
	site := frametest.New(t)
	s := New(site.App, h)
	site.GET("/intake", s.Show)
	site.POST("/intake", s.Read)
	site.POST("/intake/create", s.Create)
	return site
}

// A recipe is read into lines and steps; what is not one is said at its field, and nothing is made of it.
func TestARecipeIsRead(t *testing.T) {
	h := &house{}
	site := siteOf(t, h)
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

// A recipe that is told without a list is read, and what it has no amount for has a usual one, which is said; taken out, it is out.
func TestARecipeThatIsTold(t *testing.T) {
	site := siteOf(t, &house{})
	const told = "Aunt's rice\nBoil a litre of milk with 80 g of washed basmati rice for 40 minutes. Stir in 100 g sugar and some cardamom."
	site.Post("/intake", "list", told, "bowls", "4", "serve", "hot").MustSay(t, 200, `value="Aunt&#39;s rice"`, "a litre of milk",
		"80 g of basmati rice", `value="0.25 tsp"`, "so much is usual for 4 bowls")
	site.Post("/intake", "list", "I like puddings. They are nice with milk.", "bowls", "4").MustSay(t, 422, "no ingredients with an amount")

	const list = "1 l milk\n80 g basmati rice\ncardamom"
	site.Post("/intake", "list", list, "bowls", "20").MustSay(t, 200, `value="1.5 tsp"`, "usual for 20 bowls")
	fields := []string{"list", list, "bowls", "4", "serve", "hot", "material0", "Whole milk", "amount0", "1 l", "material1",
		"Basmati rice (white)", "amount1", "80 g", "material2", "Cardamom (ground seed)", "amount2", ""}
	got := site.Post("/intake", fields...)
	got.MustSay(t, 200, "it goes into the notes unless you give one")
	require.NotContains(t, got.Body, "is usual for")
}

// What was understood shows where each line goes, points to the sentences that are read wrongly most often, and says what
// comes of it; a method that serves it cold has that chosen, until the cook chooses.
func TestWhereEachLineGoes(t *testing.T) {
	site := siteOf(t, &house{})
	const list = "1 l milk\n80 g short grain rice\n70 g sugar\n300 g plums\n1 tsp nutmeg"
	const method = "Bring the milk to the boil. Add the rice and half of the sugar and simmer 40 minutes. " +
		"Cook the plums with the rest of the sugar in a second pan for 10 minutes. Spoon the plums over the rice. Serve chilled."

	page := site.Post("/intake", "list", list, "method", method, "bowls", "4")
	page.MustSay(t, 200, `in at <a`, `half (35 g) in at <a`, `href="#sentence2"`, "in a pan of its own (pan 2) at", "then on top at",
		"where it usually goes", "Is it so? Half (35 g) of the white sugar.",
		"Is it so? A pan of its own (pan 2); half (35 g) of the white sugar.",
		"What comes of these steps", " 4 bowls of about ", `value="chilled"
    checked`)
	plain := strings.Join(strings.Fields(page.Body), " ")
	require.Contains(t, plain, "3 were read without a doubt, but have a second pan")

	lines := []string{"material0", "Whole milk", "amount0", "1 l", "material1", "Short-grain white rice", "amount1", "80 g",
		"material2", "White sugar", "amount2", "70 g", "material3", "Plums", "amount3", "300 g", "material4", "Nutmeg", "amount4", "1 tsp"}
	again := site.Post("/intake", append(lines, "list", list, "method", method, "bowls", "40", "serve", "hot")...)
	again.MustSay(t, 200, `value="hot"
    checked`, " 40 bowls of about ")

	site.Post("/intake", append(lines, "list", list, "method", "Hum a tune.", "bowls", "4", "serve", "hot")...).
		MustSay(t, 200, "No pot and no flame")
	for _, word := range []string{"Is it so?", "in at <a", "What comes of these steps"} {
		require.NotContains(t, site.Post("/intake", "list", list, "method", "Hum a tune.", "bowls", "4").Body, word)
	}
}

// What is parted from a line of the list and has no place is told, and brings nothing down.
func TestAPartedLemonIsTold(t *testing.T) {
	site := siteOf(t, &house{})
	site.Post("/intake", "list", "1 l milk\n80 g rice\n90 g sugar\n1 lemon", "method",
		"Bring the milk to the boil with the rice and simmer for 30 minutes. "+
			"Stir in the sugar. If you like lemon zest or lemon juice, serve them beside it.").
		MustSay(t, 200, "they were put where they usually do", "1 lemon")
}
