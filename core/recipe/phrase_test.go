package recipe_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/require"

	"kirdu/core/measure"
	"kirdu/core/pantry"
	"kirdu/core/plan"
	"kirdu/core/recipe"
	"kirdu/core/vessel"
)

func cookCorrected(t testing.TB, given []recipe.Given, method string, corrected map[int]recipe.Correction) recipe.Cooked {
	t.Helper()
	r := recipe.NewReader(pantry.Standard(), measure.Measures{})
	choice := plan.WayChoice{Bowls: 6, Serve: plan.Hot, Pot: vessel.Pot{Shape: vessel.Straight, DiameterMM: 240, HeightMM: 160},
		Burner: vessel.DefaultBurner()}
	c, err := r.Cook("x", choice, given, method, corrected, recipe.OpenPot)
	require.NoError(t, err)
	_, err = plan.Reread(c.Plan)
	require.NoError(t, err)
	return c
}

// What a cook puts a sentence right as is read as that, with that, and without a doubt: every doing with every
// material that a list may have. Without fat what is fried is roasted, and grain is fried in the pot it is in.
func TestPhrasesAreReadAsTheyAreMeant(t *testing.T) {
	verbs := map[recipe.Doing][]plan.Verb{recipe.Adds: {plan.Add}, recipe.Boils: {plan.Heat}, recipe.Simmers: {plan.Heat},
		recipe.Softens: {plan.Heat}, recipe.Thickens: {plan.Heat}, recipe.Reduces: {plan.Heat}, recipe.Whistles: {plan.Pressure},
		recipe.SoaksFirst: {plan.Soak}, recipe.RoastsDry: {plan.Roast}, recipe.Fries: {plan.Fry, plan.Roast, plan.Heat},
		recipe.Grinds: {plan.Grind},
		recipe.Mashes: {plan.Mash}, recipe.Bakes: {plan.Bake}, recipe.SecondPan: {plan.Heat}, recipe.Cools: {plan.Cool},
		recipe.Rests: {plan.Rest}, recipe.Chills: {plan.Chill}, recipe.Garnishes: {plan.Add}}
	given := []recipe.Given{{Item: plan.Item{Material: "milk-whole", Amount: "1 l"}, Text: "1 l milk"},
		{Item: plan.Item{Material: "rice-short", Amount: "80 g"}, Text: "80 g rice"}}
	method := "Bring the milk to the boil. Add the rice and simmer until soft. Do as my aunt did."
	for _, doing := range recipe.Doings() {
		require.Contains(t, verbs, doing)
		for _, number := range []float64{7, 12} {
			text, err := recipe.Phrase(doing, nil, number)
			if err != nil {
				require.ErrorIs(t, err, recipe.ErrThings)
				break
			}
			c := cookCorrected(t, given, method, map[int]recipe.Correction{2: {As: text}})
			last := c.Sentences[2]
			require.NotEmpty(t, last.Steps, text)
			require.Empty(t, last.Doubts, "%s: %v", text, last.Doubts)
			step := c.Plan.Steps[last.Steps[0]]
			require.Contains(t, verbs[doing], step.Do, text)
			require.Contains(t, step.Note, "Do as my aunt did", "her words stay beside it")
			switch doing {
			case recipe.Simmers:
				require.InDelta(t, number, float64(*step.Until.Minutes), 0, text)
			case recipe.Reduces:
				require.InDelta(t, number, *step.Until.RemainingPct, 0, text)
			case recipe.Whistles:
				require.Equal(t, int(number), step.Whistles, text)
			case recipe.Rests, recipe.Bakes:
				require.InDelta(t, number, float64(*step.Minutes), 0, text)
			case recipe.Chills:
				require.InDelta(t, number, *step.Hours, 0, text)
			}
		}
	}

	for _, m := range pantry.Standard().All() {
		if m.Slug == "milk-whole" || m.Slug == "rice-short" || m.Slug == "water" {
			continue
		}
		list := append(given[:2:2], recipe.Given{Item: plan.Item{Material: m.Slug, Amount: "30 g"}, Text: "30 g " + m.ShortName()})
		for _, doing := range []recipe.Doing{recipe.Adds, recipe.SoaksFirst, recipe.RoastsDry, recipe.Fries, recipe.Grinds, recipe.Simmers,
			recipe.Garnishes, recipe.SecondPan} {
			before := doing == recipe.SoaksFirst || doing == recipe.RoastsDry || doing == recipe.Fries || doing == recipe.Grinds
			if before && m.Behaviour != pantry.Grain {
				continue // nobody soaks milk
			}
			text, err := recipe.Phrase(doing, []string{recipe.NameOf(m)}, 9)
			require.NoError(t, err)
			c := cookCorrected(t, list, method, map[int]recipe.Correction{2: {As: text}})
			made := c.Sentences[2]
			require.True(t, made.Understood(), "%s: %s", text, shortly(c.Plan))
			for _, doubt := range made.Doubts {
				require.True(t, doubt.Of == recipe.NotPoured && doing == recipe.SecondPan || doubt.Of == recipe.HowLong, "%s: %v", text, doubt)
			}
			names := func(i int) bool {
				return slices.ContainsFunc(c.Plan.Steps[i].Items, func(item plan.Item) bool { return item.Material == m.Slug })
			}
			does := func(i int) bool { return slices.Contains(verbs[doing], c.Plan.Steps[i].Do) }
			switch doing {
			case recipe.Adds, recipe.Garnishes:
				require.True(t, slices.ContainsFunc(made.Steps, names), "%s: %s", text, shortly(c.Plan))
			case recipe.Simmers, recipe.SecondPan:
				require.True(t, slices.ContainsFunc(made.Steps, names) && slices.ContainsFunc(made.Steps, does), "%s: %s", text, shortly(c.Plan))
			default:
				require.True(t, slices.ContainsFunc(made.Steps, does), "%s: %s", text, shortly(c.Plan))
			}
		}
	}
}
