package recipe_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"kirdu/core/measure"
	"kirdu/core/pantry"
	"kirdu/core/plan"
	"kirdu/core/recipe"
	"kirdu/core/vessel"
	"kirdu/plantest"
)

func reader() *recipe.Reader {
	return recipe.NewReader(pantry.Standard(), measure.Measures{"tin_g": 400, "tumbler_ml": 220})
}

func readLine(t *testing.T, text string) recipe.Line {
	t.Helper()
	lines, err := reader().Read(text)
	require.NoError(t, err)
	require.Len(t, lines, 1)
	return lines[0]
}

// TestIntakeOfManyHabits reads lines as cooks of several regions write them.
// Nine of ten must be read right without help.
func TestIntakeOfManyHabits(t *testing.T) {
	right := 0
	for _, c := range intakeLines {
		l := readLine(t, c.text)
		if l.Material == c.material && l.Amount == c.amount && len(l.Asks) == 0 {
			right++
		} else {
			t.Logf("%q: %s, %q, note %q, asks %v", c.text, l.Material, l.Amount, l.Note, l.Asks)
		}
	}
	t.Logf("read right without help: %d of %d", right, len(intakeLines))
	require.GreaterOrEqual(t, 10*right, 9*len(intakeLines))
}

func TestIntakeKeepsAndAsks(t *testing.T) {
	cases := map[string]struct {
		text, material, field, asks string
	}{
		"unknown unit":         {"2 cupz milk", "milk-whole", "amount", "recipe.unit"},
		"no number":            {"1/0 cup milk", "milk-whole", "amount", "recipe.no-number"},
		"below nothing":        {"-3 cups milk", "milk-whole", "amount", "recipe.below-0"},
		"nothing at all":       {"0 g sugar", "sugar-white", "amount", "recipe.not-above-0"},
		"endless":              {"∞ cups milk", "milk-whole", "material", "recipe.is-this"},
		"recipe.not-in-pantry": {"2 tbsp fish sauce", "", "material", "recipe.not-in-pantry"},
		"another thing":        {"50 g peanut butter", "peanut", "material", "recipe.is-this"},
		"two things":           {"1 cup coconut water", "coconut-meat", "material", "recipe.is-this"},
		"misspelt":             {"200 g jagery", "jaggery", "material", "recipe.is-this"},
		"no piece":             {"3 milk", "milk-whole", "amount", "recipe.unit"},
		"right to left":        {"\u200f2 كوب حليب", "", "material", "recipe.not-in-pantry"},
		"a paragraph":          {strings.Repeat("stir the milk and ", 40), "", "material", "recipe.line-too-long"},
		"more than a kitchen":  {"5000 kg rice", "rice-short", "amount", "measure.too-large"},
		"only a number":        {"42", "", "material", "recipe.what"},
	}
	for name, c := range cases {
		t.Run(name, func(t *testing.T) {
			l := readLine(t, c.text)
			require.Equal(t, c.material, l.Material)
			require.False(t, l.Understood())
			said := ""
			for _, ask := range l.Asks {
				if ask.Field == c.field {
					said += ask.Why.Error()
				}
			}
			require.Contains(t, said, c.asks, "%+v", l)
		})
	}
}

func TestIntakeOfDecoratedLists(t *testing.T) {
	lines, err := reader().Read("For the pudding:\n\n - 🍚 100 g short-grain rice 🍚\n▢ 1 l milk\n\r\n")
	require.NoError(t, err)
	require.Len(t, lines, 3)
	require.True(t, lines[0].Heading)
	require.Equal(t, 1, lines[0].Number)
	require.Equal(t, "rice-short", lines[1].Material)
	require.True(t, lines[1].Understood(), "%+v", lines[1])
	require.Equal(t, 4, lines[2].Number)
	require.Equal(t, "1 l", lines[2].Amount)

	two := readLine(t, "1 tumbler rice (180 g), washed")
	require.Equal(t, "1 tumbler", two.Amount)
	require.Equal(t, "180 g", two.Also)
	require.Contains(t, two.Note, "washed")

	mug := recipe.NewReader(pantry.Standard(), measure.Measures{"blue-mug_ml": 312, "ladle_ml": 120})
	for text, want := range map[string]string{"2 blue mugs milk": "2 blue-mug", "½ blue mug of milk": "0.5 blue-mug",
		"3 ladles milk": "3 ladle", "milk - 1 blue mug": "1 blue-mug"} {
		lines, err := mug.Read(text)
		require.NoError(t, err)
		require.True(t, lines[0].Understood(), "%+v", lines[0])
		require.Equal(t, want, lines[0].Amount)
		require.Equal(t, "milk-whole", lines[0].Material)
	}

	_, err = reader().Read(strings.Repeat("1 cup milk\n", 10_000))
	require.ErrorIs(t, err, recipe.ErrLongList)
}

// FuzzIntake: no text breaks the reader, no line is dropped, and what is
// understood can be weighed.
func FuzzIntake(f *testing.F) {
	for _, seed := range []string{"1 1/2 cups rice", "2 x 400 g tins", "½", "-3", "1/0 cup", "(((", "a a a half", "1-1-1 - - to 2",
		"२ cup दूध", "1 dozen dozen"} {
		f.Add(seed)
	}
	r := reader()
	f.Fuzz(func(t *testing.T, text string) {
		lines, err := r.Read(text)
		if err != nil {
			require.ErrorIs(t, err, recipe.ErrLongList)
			return
		}
		for _, l := range lines {
			require.True(t, l.Heading || l.Understood() || l.Amount == "" || len(l.Asks) > 0, "%+v", l)
			if l.Understood() {
				material, ok := pantry.Standard().Material(l.Material)
				require.True(t, ok)
				amount, err := measure.ParseAmount(l.Amount)
				require.NoError(t, err, "%+v", l)
				_, err = measure.Measures{"tin_g": 400, "tumbler_ml": 220}.Grams(amount, material.Body())
				require.NoError(t, err, "%+v", l)
			}
		}
	})
}

// A list becomes a plan that can be read and cooked.
func TestListIsArranged(t *testing.T) {
	list := "1 l milk\n100 g short-grain rice\n2 tbsp ghee\n10 cashews\n80 g sugar\n1 bay leaf\n1/2 tsp cardamom powder\n200 ml thick " +
		"coconut milk\n20 g cornflour"
	lines, err := reader().Read(list)
	require.NoError(t, err)
	var items []recipe.Given
	for _, l := range lines {
		require.True(t, l.Understood(), "%+v", l)
		items = append(items, recipe.Given{Item: plan.Item{Material: l.Material, Amount: l.Amount}})
	}
	choice := plan.WayChoice{Bowls: 6, Serve: plan.Hot, Pot: vessel.Pot{Shape: vessel.Straight, DiameterMM: 220, HeightMM: 140},
		Burner: vessel.DefaultBurner()}
	p, err := recipe.Arrange("Sunday pudding", choice, recipe.OpenPot, items, pantry.Standard())
	require.NoError(t, err)
	data, err := p.JSON()
	require.NoError(t, err)
	read, err := plan.Read(data)
	require.NoError(t, err)
	var verbs []plan.Verb
	for i := range read.Steps {
		verbs = append(verbs, read.Steps[i].Do)
	}
	require.Equal(t, []plan.Verb{plan.Fry, plan.Mix, plan.Add, plan.Heat, plan.Heat, plan.Add, plan.Heat, plan.Add, plan.Heat, plan.Heat,
		plan.Add, plan.Heat, plan.Add, plan.Add}, verbs)

	_, err = recipe.Arrange("dry", choice, recipe.OpenPot, items[1:2], pantry.Standard())
	require.ErrorIs(t, err, recipe.ErrNoLiquid)
}

func TestNumbersOfLists(t *testing.T) {
	for text, want := range map[string]string{
		"2 cups milk": "2 cup", "2½ cups milk": "2.5 cup", "2 ½ cups milk": "2.5 cup", "1/2 cup milk": "0.5 cup", "1 1/2 cup milk": "1.5 cup",
		"1-1/2 cups milk": "1.5 cup", "1 to 2 cups milk": "1.5 cup", "1-2 cups milk": "1.5 cup", "1 or 2 cups milk": "1.5 cup",
		"1 – 2 cups milk":  "1.5 cup",
		"1/2-3/4 cup milk": "0.625 cup", "a cup of milk": "1 cup", "half a cup of milk": "0.5 cup", "a quarter cup milk": "0.25 cup",
		"one and a half cups milk": "1.5 cup", "2 and 1/2 cups milk": "2.5 cup", "1 cup plus 2 tbsp milk": "1.125 cup", "1,5 l milk": "1.5 l",
		"1,000 g milk": "1000 g", "1.000 g milk": "1 g", "500ml milk": "500 ml", "500 ml. milk": "500 ml", "2 x 200 ml milk": "400 ml",
		"2×200 ml milk":  "400 ml",
		"3/4th cup milk": "0.75 cup", "a few tbsp milk": "3 tbsp", "a couple of cups of milk": "2 cup", "half a dozen cups milk": "6 cup",
		"milk, 2 cups": "2 cup", "milk: 2 cups": "2 cup", "milk - 2 cups": "2 cup", "milk (2 cups)": "2 cup", "٢ cups milk": "2 cup",
		"२ cups milk":        "2 cup",
		"2 heaped cups milk": "2 cup", "about 2 cups milk": "2 cup", "2 cups (about 480 ml) milk": "2 cup", "16 fl oz milk": "16 floz",
		"2 fluid ounces milk": "2 floz",
	} {
		l := readLine(t, text)
		require.Equal(t, "milk-whole", l.Material, text)
		require.Equal(t, want, l.Amount, "%s: %+v", text, l)
	}
}

func TestArrangedPuddings(t *testing.T) {
	for name, c := range map[string]struct{ list, verbs string }{
		"milk alone":           {"1 l milk\n80 g sugar", "add heat add heat"},
		"grain":                {"1 l milk\n100 g rice\n80 g sugar", "add heat heat add heat"},
		"whole spice early":    {"1 l milk\n100 g rice\n1 bay leaf", "add heat heat"},
		"ground spice late":    {"1 l milk\n100 g rice\n1 tsp cardamom", "add heat heat add"},
		"flour":                {"1 l milk\n40 g rice flour\n80 g sugar", "mix add heat add heat add heat"},
		"nuts without fat":     {"1 l milk\n100 g rice\n20 g almonds", "add heat heat add"},
		"nuts in ghee":         {"1 l milk\n100 g rice\n20 g almonds\n1 tbsp ghee", "fry add heat heat add"},
		"thick coconut last":   {"500 ml thin coconut milk\n100 g rice\n200 ml thick coconut milk", "add heat heat heat add heat"},
		"yogurt when it cools": {"500 ml milk\n100 g rice\n300 g yogurt", "add heat heat rest add"},
	} {
		t.Run(name, func(t *testing.T) {
			lines, err := reader().Read(c.list)
			require.NoError(t, err)
			var items []recipe.Given
			for _, l := range lines {
				require.True(t, l.Understood(), "%+v", l)
				items = append(items, recipe.Given{Item: plan.Item{Material: l.Material, Amount: l.Amount}})
			}
			p, err := recipe.Arrange(name, plan.WayChoice{Bowls: 4, Serve: plan.Hot, Pot: plantest.WithSteps(t, plantest.MilkAndRice,
				plantest.Boil).Pots[plan.MainPot], Burner: vessel.DefaultBurner()}, recipe.OpenPot, items, pantry.Standard())
			require.NoError(t, err)
			require.Equal(t, c.verbs, plantest.Verbs(plantest.Reread(t, p)))
		})
	}
}

// Several things on one line that need no amount of their own become a line each; what would be guessed is asked.
func TestSeveralThingsOnOneLine(t *testing.T) {
	for text, wanted := range map[string]string{
		"Cashewnuts & raisins for garnish":                               "cashew , raisin ",
		"ghee, cashews, raisins":                                         "ghee , cashew , raisin ",
		"1/2 tsp each dry ginger powder and cardamom powder":             "ginger-dry 0.5 tsp, cardamom 0.5 tsp",
		"10 cashews and raisins":                                         "cashew 10 nut ?",
		"2 tbsp cashews and raisins":                                     "cashew 1 tbsp ?, raisin 1 tbsp ?",
		"Almonds and cashews 2 tbsp":                                     "almond 1 tbsp ?, cashew 1 tbsp ?",
		"Cashews and raisins - 2 tbsp each":                              "cashew 2 tbsp, raisin 2 tbsp",
		"Cashews, almonds, pistachios - 2 tbsp each, chopped":            "cashew 2 tbsp, almond 2 tbsp, pistachio 2 tbsp",
		"300 g pumpkin, peeled, 1 tin (400 ml) coconut milk, 60 g honey": "pumpkin 300 g, coconut-milk-tin 400 ml, honey 60 g",
		"moong dal 1 cup, washed, coconut 1 big, elaichi 5":              "moong-split 1 cup, coconut-meat 1 coconut, cardamom 5 pod",
		"1 cup rice, 1/2 cup more for the top":                           "rice-short 1 cup",
		"1 l milk 5 tbsp sugar 50g rice flour 1 tsp salt":                "milk-whole 1 l, sugar-white 5 tbsp, rice-flour 50 g, salt 1 tsp",
		"coconut milk - thick 1/2 cup, thin 1 1/2 cups":                  "coconut-milk-thick 0.5 cup, coconut-milk-thin 1.5 cup",
		"Coconut milk: 1 cup first milk and 2 cups second milk":          "coconut-milk-thick 1 cup, coconut-milk-thin 2 cup",
		"1 coconut, milk extracted: 1st 1 cup, 2nd 3 cups":               "coconut-milk-thick 1 cup, coconut-milk-thin 3 cup",
		"10 cashews, raisins":                                            "cashew 10 nut, raisin ",
		"Coconut milk: first 1 cup, second 2 cups, third 3 cups": "coconut-milk-thick 1 cup, coconut-milk-thin 2 cup, " +
			"coconut-milk-thin 3 cup",
		"Coconut - 1 large (first milk 1/2 cup and second milk 2 cups)":     "coconut-milk-thick 0.5 cup, coconut-milk-thin 2 cup",
		"Third coconut milk 3 cups":                                         "coconut-milk-thin 3 cup",
		"1/4 cup sugar plus 2 tbsp":                                         "sugar-white 0.375 cup",
		"3 cups milk + 1/2 cup to thin":                                     "milk-whole 3 cup",
		"2 cups water + 1/4 cup for the jaggery":                            "water 2 cup ?",
		"8 almonds + 8 cashews, ground to a powder":                         "almond 8 nut, cashew 8 nut",
		"1 apple, 1 banana, a few grapes":                                   "apple 1 apple, banana-ripe 1 banana,   ?",
		"rice 1 cup, 2 tbsp reserved":                                       "rice-short 1 cup",
		"Rice, basmati 1 cup":                                               "rice-basmati 1 cup",
		"Jaggery, grated - 1 cup":                                           "jaggery 1 cup",
		"badam - 15 (soak in hot water, peel, slice)":                       "almond 15 nut",
		"Orange 1, grated zest":                                             "citrus-zest 1 lemon",
		"Cumin powder, dry ginger powder - ½ tsp each":                      "cumin-roasted 0.5 tsp, ginger-dry 0.5 tsp",
		"1/2 cup rice, basmati":                                             "rice-basmati 0.5 cup",
		"1 2/3 cups milk, warm":                                             "milk-whole 1 2/3 cup",
		"Vanilla 1 pod":                                                     "vanilla-pod 1 pod",
		"walnuts, raisins and cinnamon for the top":                         "walnut , raisin , cinnamon ",
		"ada (rice flakes) 200 g":                                           "rice-sheet-flakes 200 g ?",
		"1/2 c sugar, grated rind and juice of 1 lemon":                     "sugar-white 0.5 cup, citrus-zest 1 lemon, citrus-juice 1 lemon",
		"cashew nuts and raisins, a handful":                                "cashew 1 handful, raisin 1 handful",
		"rice 1 cup, milk 2 l, almonds a few":                               "rice-short 1 cup, milk-whole 2 l, almond ",
		"Half a pound of rice. Four ounces of sugar. Two ounces of butter.": "rice-short 0.5 lb, sugar-white 4 oz, butter 2 oz",
		"For the fruit: 200 g cherries, 1 tbsp sugar, 50 ml water":          " , berries 200 g, sugar-white 1 tbsp, water 50 ml",
		"cashews 8, raisins 10":                                             "cashew 8 nut, raisin 10 raisin",
		"ghee 2 tbsp and saffron a pinch":                                   "ghee 2 tbsp, saffron 1 pinch",
		"rice 1 cup, 200 g":                                                 "rice-short 1 cup",
		"salt and moonshine":                                                "salt  ?",
		"500 ml or 2 1/2 cups milk":                                         "milk-whole 500 ml = 2.5 cup",
		"50 g almonds or cashews":                                           "almond 50 g ?",
		"1 cup jaggery (or brown sugar)":                                    "jaggery 1 cup",
		"1% milk 500 ml":                                                    "milk-lowfat 500 ml ?",
		"1 cup malai":                                                       "cream-double 1 cup ?",
		"100 g margarine":                                                   "butter 100 g ?",
		"50 g mixed nuts":                                                   "cashew 50 g ?",
		"elachi powder 1 tsp":                                               "cardamom 1 tsp",
		"100 g khoya":                                                       "milk-solids 100 g",
		"a scrape of nutmeg":                                                "nutmeg 0.25 pinch",
		"1 pinch saffron":                                                   "saffron 1 pinch",
	} {
		lines, err := reader().Read(text)
		require.NoError(t, err)
		var said []string
		for _, l := range lines {
			one := l.Material + " " + l.Amount
			if l.Also != "" {
				one += " = " + l.Also
			}
			if len(l.Asks) > 0 {
				one += " ?"
			}
			said = append(said, one)
		}
		require.Equal(t, wanted, strings.Join(said, ", "), text)
	}
}

// The title of a list is no part of it, so "everything" is all of it.
func TestTitleBeforeAListInOneLine(t *testing.T) {
	c, err := tryText(t, "My mother's semolina: 1 litre milk, 100 g semolina, 80 g sugar",
		"Combine everything in a pan and simmer for 10 minutes, stirring. Serve warm.")
	require.NoError(t, err)
	require.Empty(t, c.Unplaced)
	require.Empty(t, c.Sentences[0].Doubts)
	require.Len(t, c.Plan.Steps[0].Items, 3)

	lines, err := reader().Read("For the pudding: 1 l milk, 100 g semolina, 80 g sugar\nFor the syrup: 100 g sugar, 50 ml water, saffron")
	require.NoError(t, err)
	require.Equal(t, "For the pudding", lines[0].Note)
	require.Equal(t, "For the syrup", lines[4].Note)
}

// Something that only one of near kind can stand for is found by a search, last, and marked.
func TestWhatIsOnlyNear(t *testing.T) {
	p := pantry.Standard()
	found := p.Search("margarine")
	require.Len(t, found, 1)
	require.True(t, found[0].IsNear("Margarine"))
	require.Equal(t, "butter", found[0].Slug)
	require.False(t, p.Search("elachi")[0].IsNear("elachi"))
	_, known := p.Find("margarine")
	require.False(t, known, "nothing is taken for another in silence")
}

// A part may be called after what it is of, and a line may say what something is for and what that is.
func TestPartsAndWhatIsServed(t *testing.T) {
	lines, err := reader().Read("1 l milk\nCherry sauce:\n400 g cherries\nTo serve: treacle or jaggery\nTo finish: 2 tbsp ghee")
	require.NoError(t, err)
	var got []string
	for _, l := range lines {
		if l.Heading {
			got = append(got, "# "+l.Note)
			continue
		}
		got = append(got, l.Material+" "+l.Amount)
	}
	require.Equal(t, []string{"milk-whole 1 l", "# Cherry sauce", "berries 400 g", "# To serve", "molasses ", "# To finish",
		"ghee 2 tbsp"}, got)

	text, err := recipe.Split("Sago\n\n100 g sago\n1 l milk\nbrown sugar and cream to serve\n\n" +
		"Boil the milk. Add the sago and cook for 15 minutes.")
	require.NoError(t, err)
	require.Equal(t, "Sago", text.Name)
	require.Equal(t, "100 g sago\n1 l milk\nbrown sugar and cream to serve", text.List)
}
