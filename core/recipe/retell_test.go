package recipe_test

import (
	"testing"

	"github.com/stretchr/testify/require"
)

// What is told means what is asked for: both make the same plan, and neither is doubted.
func TestWhatIsToldIsReadAsAskedFor(t *testing.T) {
	const list = "1 l milk\n80 g rice\n90 g sugar\n1 tbsp ghee\n10 cashews\n4 cardamom pods\n200 ml coconut milk\n100 g jaggery"
	const begin = "Bring the milk to the boil with the rice and simmer for 20 minutes. "
	for _, one := range []struct{ told, asked string }{
		{"I stirred in the sugar and cooked it for 5 minutes", "Stir in the sugar and cook it for 5 minutes"},
		{"Then we put in the sugar", "Put in the sugar"},
		{"You want to add the sugar now", "Add the sugar"},
		{"Be sure to stir in the sugar", "Stir in the sugar"},
		{"Start by stirring in the sugar", "Stir in the sugar"},
		{"In goes the sugar, and after 5 minutes the coconut milk", "Add the sugar, cook for 5 minutes, then add the coconut milk"},
		{"In went the sugar", "Add the sugar"},
		{"The sugar goes in now", "Add the sugar"},
		{"Only then does the sugar go in", "Add the sugar"},
		{"On top go the cashews", "Scatter the cashews on top"},
		{"The sugar is stirred in", "Stir in the sugar"},
		{"After another five minutes the sugar is added", "Cook for five minutes. Add the sugar"},
		{"Stir in the sugar; it will thicken as it cools", "Stir in the sugar"},
		{"Stir in the sugar: the pudding should become glossy", "Stir in the sugar"},
		{"Sugar in, 5 min, off the heat", "Add the sugar, cook for 5 minutes, take off the heat"},
		{"Sugar + cardamom, 5 min", "Add the sugar and the cardamom and cook for 5 minutes"},
		{"Let it sit for ten", "Let it sit for ten minutes"},
		{"Melt the jaggery in 50 ml of water, simmer 3 minutes, strain, then pour it in",
			"Melt the jaggery in 50 ml of water for 3 minutes, strain, then pour it in"},
		{"Add the sugar and the cardamom. It takes 10 minutes", "Add the sugar and the cardamom. Simmer for 10 minutes"},
		{"Put the sugar in, give it five more minutes and you're done", "Put the sugar in and cook for five more minutes"},
	} {
		told, asked := cookText(t, list, begin+one.told+"."), cookText(t, list, begin+one.asked+".")
		require.Equal(t, shortly(asked.Plan), shortly(told.Plan), one.told)
		for _, s := range told.Sentences {
			require.Empty(t, s.Doubts, one.told)
			require.True(t, s.Understood(), one.told)
		}
	}
}

// What hangs on a condition, and what is forbidden, is done by nobody.
func TestWhatMayBeIsNotDone(t *testing.T) {
	const list = "1 l milk\n80 g rice\n90 g sugar"
	const begin = "Bring the milk to the boil with the rice and simmer for 20 minutes. Stir in the sugar. "
	plain := shortly(cookText(t, list, begin).Plan)
	for _, more := range []string{"If it gets too thick, add a splash of milk", "It should not boil again", "Do not let it boil",
		"Never stir it now", "It keeps for three days in the fridge", "Refrigerate for up to three days", "The milk will rise and the rice swell",
		"On no account let it boil", "Serve with cream and simmered cherries"} {
		require.Equal(t, plain, shortly(cookText(t, list, begin+more+".").Plan), more)
	}
}

// What is soaked, tossed, fried, kept back and pressed beside the pot goes in when it is called for.
func TestWhatWaitsBesideThePot(t *testing.T) {
	for _, one := range []struct{ list, method, steps string }{
		{"1 l milk\n80 g rice\nsome saffron\n90 g sugar",
			"Take 1 tbsp of the milk in a bowl and soak the saffron in it. Bring the milk to the boil with " +
				"the rice and simmer for 20 minutes. Add the sugar and the saffron milk.",
			"add milk-whole rice-short; heat high boil; heat simmer 20min; add sugar-white saffron"},
		{"1 l milk\n80 g rice\n1 tbsp ghee", "Toss the rice with the ghee. Bring the milk to the boil. Add the rice and simmer for 20 minutes.",
			"add milk-whole; heat high boil; add rice-short ghee; heat simmer 20min"},
		{"300 ml coconut milk\n80 g rice\n500 ml water",
			"Set aside a quarter of the coconut milk. Cook the rice in the water for 20 minutes. Stir in the " +
				"remaining coconut milk. Serve topped with the reserved coconut milk.",
			"add rice-short water; heat simmer 20min; add coconut-milk-tin; add coconut-milk-tin on top"},
		{"1 l milk\n80 g rice\n1 tbsp ghee\n10 cashews\n1 tbsp raisins",
			"Heat the ghee in a small pan. Add the cashews and fry till golden. Add the raisins " +
				"and fry till they puff up. Bring the milk to the boil with the rice, simmer for 20 minutes and pour in the fried nuts.",
			"fry cashew raisin; add milk-whole rice-short; heat high boil; heat simmer 20min; add garnish"},
		{"150 g sugar\n50 ml water\n1 l milk\n80 g rice",
			"Cook the sugar and the water in a small pan until amber. Pour in the milk, add the rice and simmer " +
				"for 30 minutes.", "caramel sugar-white medium; add milk-whole; add rice-short; heat simmer 30min"},
		{"1 cup moong dal\n200 g jaggery\n300 ml coconut milk",
			"Bring a pot of water to the boil, add the dal and cook for 20 minutes. Drain. Add the jaggery and " +
				"the coconut milk and simmer for 5 minutes.",
			"add water; heat high boil; add moong-split; heat simmer 20min; drain; add jaggery coconut-milk-tin; heat simmer 5min"},
	} {
		c := cookText(t, one.list, one.method)
		require.Equal(t, one.steps, shortly(c.Plan), one.method)
		require.Empty(t, c.Unplaced, one.method)
	}
}
