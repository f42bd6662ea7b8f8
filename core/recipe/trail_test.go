package recipe_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"kirdu/core/recipe"
)

// stops writes a trail shortly: "beside 1, then pan 2, then in 3"; sentences count from 1.
func stops(trail []recipe.Stop) string {
	var all []string
	for _, s := range trail {
		said := "in"
		switch {
		case s.Beside:
			said = "beside"
		case s.Pan != "":
			said = s.Pan
		case s.OnTop:
			said = "top"
		}
		if s.Onward {
			said = "then " + said
		}
		if s.Amount != "" {
			said = s.Amount + " " + said
		}
		all = append(all, said+" "+[]string{"-", "1", "2", "3", "4", "5", "6", "7", "8"}[s.Sentence+1])
	}
	return strings.Join(all, ", ")
}

// Each line of a list tells at which sentences it goes in, by which pan, and how much of it.
func TestEachLineHasItsTrail(t *testing.T) {
	for _, one := range []struct {
		list, method string
		want         []string
	}{
		{"1 l milk\n80 g rice\n90 g sugar\n1 tbsp ghee\n10 cashews\n4 cardamom pods",
			"Soak the rice for half an hour. Bring the milk to the boil, add the rice and simmer until soft. Stir in half of the sugar. " +
				"Fry the cashews in the ghee. Add the rest of the sugar and top with the cashews.",
			[]string{"in 2", "beside 1, then in 2", "45 g in 3, 45 g in 5", "beside 4, then top 5", "beside 4, then top 5", "in -"}},
		{"750 ml milk\n60 g cornflour\n90 g sugar",
			"Dissolve the cornflour in 100 ml of the milk. Bring the rest of the milk to the boil with the sugar. Whisk in the slurry and " +
				"cook for 4 minutes.",
			[]string{"100 ml beside 1, then in 3, 650 ml in 2", "beside 1, then in 3", "in 2"}},
		{"1 l milk\n80 g rice\n70 g sugar\nFor the compote:\n300 g plums\n50 g sugar",
			"Bring the milk to the boil with the rice and 70 g sugar and simmer for 30 minutes. Meanwhile cook the plums with their sugar in a " +
				"second pan for 10 minutes. Spoon the compote over the pudding.",
			[]string{"in 1", "in 1", "in 1", "pan2 2, then top 3", "pan2 2, then top 3"}},
	} {
		c := cookText(t, one.list, one.method)
		var got []string
		for _, trail := range c.Trails {
			got = append(got, stops(trail))
		}
		require.Equal(t, one.want, got, one.method)
	}
}

// What the list has as one and goes in parted is told at its one line.
func TestATrailOfWhatIsParted(t *testing.T) {
	c := cookText(t, "1 l milk\n100 g sago\n3 eggs\n80 g sugar", "Boil the milk with the sago and the sugar for 20 minutes. "+
		"Beat in the yolks. Whip the whites and fold them in.")
	require.Len(t, c.Trails, 4)
	require.Equal(t, "in 2, in 3", stops(c.Trails[2]))
}

// A second pan, a share, what is stirred beside the pot and several steps in one are pointed to without a doubt; what is
// plain is not.
func TestSentencesToLookAt(t *testing.T) {
	looks := func(list, method string) (at [][]recipe.LookAt) {
		for _, s := range cookText(t, list, method).Sentences {
			require.Empty(t, s.Doubts, s.Text)
			var reasons []recipe.LookAt
			for _, l := range s.Looks {
				reasons = append(reasons, l.At)
			}
			at = append(at, reasons)
		}
		return at
	}
	const list = "1 l milk\n80 g rice\n90 g sugar\n200 g plums\n30 g cornflour"
	require.Equal(t, [][]recipe.LookAt{nil, {recipe.InShares}, {recipe.InAPan, recipe.InShares}, {recipe.BackInThePot}, {recipe.StirredBeside},
		{recipe.ManySteps}, nil}, looks(list,
		"Bring the milk to the boil with the rice. Stir in half of the sugar. Simmer the plums with the rest of the sugar in a second pan "+
			"for 10 minutes. Simmer the rice for 20 minutes. Stir the cornflour with 3 tbsp of cold water and whisk it in. "+
			"Cook for 4 minutes, let it stand for 10 minutes and chill for 3 hours. Lay the plums on top."))
	c := cookText(t, list, "Hum a tune.")
	require.True(t, c.ByList)
	require.Empty(t, c.Sentences[0].Looks)
}

// How a pudding is served is read from its method.
func TestServedChilled(t *testing.T) {
	const begin = "Bring the milk to the boil with the rice and simmer for 30 minutes. Stir in the sugar. "
	for end, chilled := range map[string]bool{
		"Serve hot.": false, "Serve well chilled.": true, "Serve the rice pudding cold with the warm plums.": true,
		"Serve warm with cold cream.": false,
		"Serve hot or chilled.":       false, "Chill for 4 hours.": true, "Chill overnight and serve straight from the fridge.": true, "": false,
		"It tastes best cold.": true, "Chill for 4 hours, then serve warm or cold.": true, "Serve with cold cream.": false,
	} {
		c := cookText(t, "1 l milk\n80 g rice\n90 g sugar\n100 ml cream", begin+end)
		require.Equal(t, chilled, c.Chilled, end)
	}
}
