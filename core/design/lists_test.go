package design_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"kirdu/core/design"
	"kirdu/core/forecast"
	"kirdu/core/measure"
	"kirdu/core/pantry"
	"kirdu/core/plan"
	"kirdu/core/recipe"
	"kirdu/core/vessel"
	"kirdu/core/watch"
)

// lists are what cooks paste without a method.
var lists = []string{
	"1 l milk\n80 g rice\n90 g sugar\n4 cardamom pods",
	"1.2 l milk\n60 g basmati rice\n100 g sugar\n1 tbsp ghee\n10 cashews\n1 tbsp raisins",
	"200 g split moong dal\n800 ml water\n250 g jaggery\n300 ml thin coconut milk\n150 ml thick coconut milk\n2 tbsp ghee\n15 cashews",
	"150 g chana dal\n700 ml water\n200 g jaggery\n1 tin coconut milk\n1 tsp cardamom powder",
	"100 g vermicelli\n1 l milk\n100 g sugar\n2 tbsp ghee\n10 cashews",
	"60 g sago\n1 l milk\n90 g sugar\na pinch of saffron",
	"100 g foxtail millet\n500 ml water\n120 g jaggery\n150 ml coconut milk",
	"80 g semolina\n1 l milk\n90 g sugar\n30 g butter",
	"50 g cornflour\n800 ml milk\n90 g sugar\n1 tsp vanilla",
	"400 g carrots, grated\n800 ml milk\n100 g sugar\n2 tbsp ghee",
	"100 g broken wheat\n500 ml water\n150 g jaggery\n250 ml coconut milk\n1 tbsp ghee",
	"75 g pudding rice\n700 ml milk\n30 g sugar\nFor the compote\n400 g plums\n100 g sugar\n100 ml water",
	"100 g red rice\n1.2 l milk\n150 g sugar",
	"150 g cooked rice\n500 ml milk\n50 g sugar\n200 g yogurt",
}

// TestListsAreQuiet arranges lists in every school that suits them, in a dozen kitchens: no stop and no warning
// speaks of nine of ten drafts, and what is left is said beside the school before it is chosen. The likeliest
// school of each list is quiet in the usual kitchen.
func TestListsAreQuiet(t *testing.T) {
	reader := recipe.NewReader(pantry.Standard(), measure.Measures{})
	tried, left := 0, map[string]int{}
	for _, text := range lists {
		lines, err := reader.Read(text)
		require.NoError(t, err)
		var given []recipe.Given
		section := ""
		for _, l := range lines {
			if l.Heading {
				section = l.Note
				continue
			}
			require.NotEmpty(t, l.Amount, l.Text)
			given = append(given, recipe.Given{Item: plan.Item{Material: l.Material, Amount: l.Amount}, Text: l.Text, Section: section})
		}
		for n, home := range kitchens() {
			for k, school := range recipe.Schools(given, pantry.Standard(), true, true) {
				choice := plan.WayChoice{Bowls: 6, Serve: plan.Hot, Burner: home.burner, Kitchen: &home.air}
				choice.Pot, err = design.PotFor(home.pots, 6, vessel.OnStove)
				require.NoError(t, err)
				p, err := recipe.Arrange("draft", choice, school, given, pantry.Standard())
				require.NoError(t, err)
				p, err = plan.Reread(p)
				require.NoError(t, err)
				p, graves := design.Quiet(p, home.pots, nil)
				tried++
				if graves == 0 {
					continue
				}
				for _, one := range watch.Findings(p, forecast.Run(p, forecast.Options{NominalOnly: true})) {
					if one.Severity != forecast.Note {
						left[string(one.Rule)]++
						require.False(t, n == 0 && k == 0, "%s in the usual kitchen, %s: %s", given[0].Text, school, one.Rule)
						t.Logf("%s, %s, %s: %s", given[0].Text, school, home.name, one.Rule)
						break
					}
				}
			}
		}
	}
	sum := 0
	for _, n := range left {
		sum += n
	}
	t.Logf("%d drafts, %d with a word against them: %v", tried, sum, left)
	require.LessOrEqual(t, 10*sum, tried)
}
