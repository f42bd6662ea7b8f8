package recipe_test

import (
	"fmt"
	"os"
	"path/filepath"
	"slices"
	"strconv"
	"strings"
	"testing"
	"unicode"
	"unicode/utf8"

	"github.com/stretchr/testify/require"

	"kirdu/core/measure"
	"kirdu/core/pantry"
	"kirdu/core/recipe"
)

func TestAWholeRecipeIsTakenApart(t *testing.T) {
	for name, c := range map[string]struct{ text, name, list, method string }{
		"with headings": {"Evening rice\nServes 4\n\nIngredients:\n1 l milk\n80 g rice\n\nMethod\n1. Boil the milk.\n2. Add the rice and cook.",
			"Evening rice", "1 l milk\n80 g rice", "1. Boil the milk.\n2. Add the rice and cook."},
		"without": {"1 l milk\n80 g rice, soaked\nBring the milk to the boil, add the rice and simmer until soft.", "",
			"1 l milk\n80 g rice, soaked", "Bring the milk to the boil, add the rice and simmer until soft."},
		"a list only": {"1 l milk\nsugar to taste\nFor the syrup:\n100 g jaggery", "",
			"1 l milk\nsugar to taste\nFor the syrup:\n100 g jaggery", ""},
		"a bare list": {"rice\nmilk\nsugar", "", "rice\nmilk\nsugar", ""},
		"two words":   {"whole milk\nwhite sugar", "", "whole milk\nwhite sugar", ""},
		"numbered": {"500 ml milk\n60 g sugar\n1) Heat the milk with the sugar.\n2) Chill for two hours.", "", "500 ml milk\n60 g sugar",
			"1) Heat the milk with the sugar.\n2) Chill for two hours."},
		"from a chat": {"*Rice kheer* 🍚\n\n*Ingredients:*\n" +
			"🥛 Milk - 1 litre\n🍚 Rice - 1/4 cup\n*Method:*\n👉 Boil the milk.\n👉 Add the rice.",
			"Rice kheer", "🥛 Milk - 1 litre\n🍚 Rice - 1/4 cup", "👉 Boil the milk.\n👉 Add the rice."},
		"side by side": {"Payasam\nINGREDIENTS | METHOD\n200 g millet | Wash the millet.\n600 ml water | Boil the water, add the millet.",
			"Payasam", "200 g millet\n600 ml water", "Wash the millet.\nBoil the water, add the millet."},
		"in a sentence": {"My aunt's barley, as she told it\nYou need a cup of barley, two pints of milk and some nutmeg. Boil the barley in " +
			"the milk.", "My aunt's barley, as she told it", "a cup of barley\ntwo pints of milk and some nutmeg",
			"Boil the barley in the milk."},
		"told": {"Aunt's rice\nBoil a litre of milk, add 80 g of rice and simmer for 40 minutes.", "Aunt's rice", "",
			"Boil a litre of milk, add 80 g of rice and simmer for 40 minutes."},
		"the amount behind": {"carrots 500 g\nmilk 1 litre (full fat)\nGrate the carrots and boil them in the milk.", "",
			"carrots 500 g\nmilk 1 litre (full fat)", "Grate the carrots and boil them in the milk."},
		"rinsed first": {"1 l milk\n80 g rice\nRinse the rice. Boil it in the milk.", "", "1 l milk\n80 g rice",
			"Rinse the rice. Boil it in the milk."},
		"for how many": {"carrot kheer for 6\n\ncarrots - half kilo (peel & grate)\nmilk - 1 litre\n\nHeat the ghee and saute the carrots.",
			"carrot kheer", "carrots - half kilo (peel & grate)\nmilk - 1 litre", "Heat the ghee and saute the carrots."},
		"bowls of it": {"Broken wheat with milk\nLapsi (broken wheat) 1 katori\nMilk 2 katori\nRoast the wheat, then boil it in the milk.",
			"Broken wheat with milk", "Lapsi (broken wheat) 1 katori\nMilk 2 katori", "Roast the wheat, then boil it in the milk."},
		"steps without points": {"Cold rice\nRice 80g\nMilk 600ml\n1 Boil the rice in the milk.\n2 Cool it.\n3 Chill for an hour.\n" +
			"4 Spoon into glasses.", "Cold rice", "Rice 80g\nMilk 600ml",
			"1. Boil the rice in the milk.\n2. Cool it.\n3. Chill for an hour.\n4. Spoon into glasses."},
		"numbered things": {"Fruit rice\n1 Apple\n2 Bananas\n3 Plums\n1 l milk\nCut the fruit. Boil the milk.", "Fruit rice",
			"1 Apple\n2 Bananas\n3 Plums\n1 l milk", "Cut the fruit. Boil the milk."},
		"nothing to it": {"", "", "", ""},
	} {
		got, err := recipe.Split(c.text)
		require.NoError(t, err, name)
		require.Equal(t, []string{c.name, c.list, c.method}, []string{got.Name, got.List, got.Method}, name)
	}
	_, err := recipe.Split("Ingredients\n1 l milk\nMethod\nBoil it.\nIngredients\n2 l milk\nMethod\nBoil it too.")
	require.ErrorIs(t, err, recipe.ErrTwoRecipes)
}

// TestAWholePageIsTakenApart reads what a cook copies from a page: all of it, with its story, its times and what others
// wrote below it.
func TestAWholePageIsTakenApart(t *testing.T) {
	pages, err := filepath.Glob("testdata/pages/*.txt")
	require.NoError(t, err)
	require.NotEmpty(t, pages)
	for _, page := range pages {
		data, err := os.ReadFile(page)
		require.NoError(t, err)
		got, err := recipe.Split(string(data))
		require.NoError(t, err, page)
		told := fmt.Sprintf("%s\n%d bowls\n\nLIST\n%s\n\nMETHOD\n%s\n\nNOTES\n%s\n\nAROUND\n%s\n", got.Name, got.Bowls, got.List, got.Method,
			got.Notes, got.Around)
		golden := strings.TrimSuffix(page, "txt") + "want"
		want, err := os.ReadFile(golden)
		require.NoError(t, err)
		require.Equal(t, string(want), told, page)
		lines, err := reader().Read(got.List)
		require.NoError(t, err)
		for _, l := range lines {
			require.True(t, len(l.Asks) == 0, "%s: %q asks %v", page, l.Text, l.Asks)
		}
		cooked := cookText(t, got.List, got.Method)
		for _, s := range cooked.Sentences {
			require.True(t, s.Understood(), "%s: %q", page, s.Text)
		}
	}
}

// shapes are the ways in which a recipe is pasted as one text.
var shapes = map[string]func(list, method string) (text, wantList, wantMethod string){
	"below each other": func(list, method string) (string, string, string) { return list + "\n\n" + method, list, method },
	"without a gap": func(list, method string) (string, string, string) {
		return "Grandmother's Sunday\n" + list + "\n" + method, list, method
	},
	"under headings": func(list, method string) (string, string, string) {
		return "Evening sago\nServes 4\n\nIngredients\n" + list + "\n\nMethod\n" + method, list, method
	},
	"one heading": func(list, method string) (string, string, string) {
		return "Ingredients:\n" + list + "\n\n" + method, list, method
	},
	"the other heading": func(list, method string) (string, string, string) {
		return "My aunt's sago\n" + list + "\nMethod:\n" + method, list, method
	},
	"with a story": func(list, method string) (string, string, string) {
		return "My aunt's sago\nShe cooked this every Sunday, and we loved it.\n" + list + "\n\n" + method, list, method
	},
	"with gaps": func(list, method string) (string, string, string) {
		list, method = strings.ReplaceAll(list, "\n", "\n\n"), strings.ReplaceAll(method, "\n", "\n\n")
		return list + "\n\n" + method, list, method
	},
	"a line each": func(list, method string) (string, string, string) {
		method = marked("", sentencesOf(method))
		return list + "\n" + method, list, method
	},
	"with dashes": func(list, method string) (string, string, string) {
		list, method = marked("- ", list), marked("- ", sentencesOf(method))
		return "Evening sago\n" + list + "\n" + method, list, method
	},
	"numbered": func(list, method string) (string, string, string) {
		list, method = marked("• ", list), marked("#. ", sentencesOf(method))
		return list + "\n" + method, list, method
	},
}

func sentencesOf(method string) string { return strings.Join(recipe.Sentences(method), ".\n") + "." }

// marked puts a mark before each line of a text; "#" is its number.
func marked(mark, text string) string {
	lines := strings.Split(withoutGaps(text), "\n")
	for k := range lines {
		lines[k] = strings.ReplaceAll(mark, "#", strconv.Itoa(k+1)) + lines[k]
	}
	return strings.Join(lines, "\n")
}

func withoutGaps(text string) string {
	lines := strings.Split(text, "\n")
	for k := range lines {
		lines[k] = strings.TrimSpace(lines[k])
	}
	return strings.Join(slices.DeleteFunc(lines, func(line string) bool { return line == "" }), "\n")
}

// TestAPastedRecipeComesApart pastes a sample of the pinned recipes as one text, as cooks do: with headings or without, in
// lines, in points, numbered.
func TestAPastedRecipeComesApart(t *testing.T) {
	data, err := os.ReadFile("testdata/methods.txt")
	require.NoError(t, err)
	const every = 13
	for k, one := range strings.Split("\n"+string(data), "\n== ")[1:] {
		if k%every != 0 {
			continue
		}
		name, rest, _ := strings.Cut(one, "\n")
		list, rest, _ := strings.Cut(rest, "\n--\n")
		method, _, _ := strings.Cut(rest, "\n=> ")
		if strings.HasPrefix(list, "For ") { // how many it serves
			_, list, _ = strings.Cut(list, "\n")
		}
		for shape, paste := range shapes {
			text, wantList, wantMethod := paste(list, method)
			got, err := recipe.Split(text)
			require.NoError(t, err, "%s %s", name, shape)
			require.Equal(t, withoutGaps(wantList), withoutGaps(got.List), "%s %s", name, shape)
			require.Equal(t, withoutGaps(wantMethod), withoutGaps(got.Method), "%s %s", name, shape)
		}
	}
}

// What was broken to a width is joined, and lines that end are not.
func TestAWrappedRecipeIsJoined(t *testing.T) {
	got, err := recipe.Split(`Rice for a rainy evening
1/4 cup finely ground green cardamom from the mill
1 l milk
100 g rice, rinsed until the water is clear and left in
fresh water for half an hour
80 g sugar

Bring the milk to the boil in a wide and heavy pan, then add the
rice and turn down the flame. Let it simmer, stirring often, for
40 minutes. It should be soft. Add the sugar and go on for another
10 minutes.
Serve it warm.`)
	require.NoError(t, err)
	require.Equal(t, "Rice for a rainy evening", got.Name)
	require.Equal(t, "1/4 cup finely ground green cardamom from the mill\n1 l milk\n"+
		"100 g rice, rinsed until the water is clear and left in fresh water for half an hour\n80 g sugar", got.List)
	require.Equal(t, "Bring the milk to the boil in a wide and heavy pan, then add the rice and turn down the flame. Let it simmer, "+
		"stirring often, for 40 minutes. It should be soft. Add the sugar and go on for another 10 minutes.\nServe it warm.", got.Method)
	short := "rice\nmilk\nBoil the milk\nadd the rice\nsimmer 20 minutes"
	got, err = recipe.Split(short)
	require.NoError(t, err)
	require.Equal(t, short, got.List+"\n"+got.Method)
}

// What was pasted as a method alone has its notes cut off.
func TestAMethodWithItsNotes(t *testing.T) {
	got := recipe.SplitMethod("Instructions\n1. Boil the milk.\n2. Stir in the sugar.\nNotes\nUse any milk.\nServes 6\nNutrition\nProtein 5 g")
	require.Equal(t, recipe.Text{Method: "1. Boil the milk.\n2. Stir in the sugar.", Bowls: 6, Notes: "Notes\nUse any milk.",
		Around: "Serves 6\nNutrition\nProtein 5 g"}, got)
}

func FuzzSplit(f *testing.F) {
	f.Add("Title\nIngredients\n1 l milk\nMethod\nBoil.")
	f.Add("Title\x001 l milk\nMethod\nBoil.")
	f.Add("Titlttt\x8dgredients\x001 l milk\nMethod\nBoil.")
	apart := func(c rune) bool { return unicode.IsSpace(c) || unicode.IsControl(c) || c == utf8.RuneError } // what is no letter parts words
	r := recipe.NewReader(pantry.Standard(), measure.Measures{})
	f.Fuzz(func(t *testing.T, text string) {
		got, err := recipe.Split(text)
		if err != nil {
			return
		}
		for line := range strings.Lines(text) {
			if words := strings.FieldsFunc(line, apart); len(words) > 0 && strings.Contains(line, "1 l milk") &&
				!strings.Contains(got.Name+got.List+got.Method+got.Notes+got.Around, strings.TrimLeft(words[0], "#*_")) { // marks of a heading
				t.Fatalf("%q is lost", line)
			}
		}
		if _, err := r.Read(got.List); err != nil {
			require.ErrorIs(t, err, recipe.ErrLongList)
		}
	})
}

// A recipe that is told without a list has what it needs in its sentences; what is told of no amounts is no recipe.
func TestAListIsGatheredFromAMethod(t *testing.T) {
	r := reader()
	for _, c := range []struct {
		text string
		want []string
	}{
		{"Boil a litre of milk, add 80 g of washed basmati rice and let it simmer for 40 minutes. Stir in 100 g sugar and 5 crushed " +
			"cardamom pods, cook 5 minutes more at 90 C. Fry a handful of cashews and some raisins in a spoon of ghee.",
			[]string{"a litre of milk", "80 g of basmati rice", "100 g sugar", "5 cardamom pods", "a handful of cashews", "a spoon of ghee",
				"raisins"}},
		{"Cook half a cup of moong dal in two cups of water, 4 whistles. Melt 200 g jaggery in half a cup of water and add to the dal.",
			[]string{"half a cup of moong dal", "two cups of water", "200 g jaggery", "half a cup of water"}},
		{"Beat 2 eggs with the sugar. Pour over 500 ml milk.", []string{"2 eggs", "500 ml milk", "sugar"}},
		{"Boil the milk with the rice for 20 minutes in a wide pan.", nil},
		{"", nil},
	} {
		require.Equal(t, c.want, r.ListOf(c.text), c.text)
	}
	told := "Boil a litre of milk with 80 g of washed basmati rice for 40 minutes. Stir in 100 g sugar and some cardamom."
	cooked := cookText(t, strings.Join(standardReader().ListOf(told), "\n"), told)
	require.Equal(t, "add milk-whole rice-basmati; heat boil 40min; add sugar-white cardamom", shortly(cooked.Plan))
	for _, s := range cooked.Sentences {
		require.Empty(t, s.Doubts, s.Text)
	}
}

func FuzzListOf(f *testing.F) {
	f.Add("Boil 1 l milk with 80 g rice.")
	f.Add("a a a 1/2 1/2 cup cup of of the milk, 2")
	r := recipe.NewReader(pantry.Standard(), measure.Measures{})
	f.Fuzz(func(t *testing.T, text string) {
		for _, line := range r.ListOf(text) {
			lines, err := r.Read(line)
			require.NoError(t, err)
			require.NotEmpty(t, lines)
		}
	})
}

// What the list gives no amount of has that of the method, or a usual one, in measures that there are; what a pudding is made of
// has none.
func TestAmountsThatTheListLeavesOut(t *testing.T) {
	r := reader()
	lines := func(text string) []recipe.Line {
		list, err := r.Read(text)
		require.NoError(t, err)
		return list
	}
	usual := func(amount string) recipe.Supplied { return recipe.Supplied{Amount: amount, Usual: true} }
	require.Equal(t, []recipe.Supplied{{}, usual(""), usual("0.25 tsp"), usual("12 thread"), {Amount: "2 tbsp"}, {Amount: "1 pinch"}},
		r.Supply(lines("1 l milk\nrice\ncardamom\nsaffron\nghee\nsalt"),
			"Fry the rice in a tbsp of ghee. Add the milk, a pinch of salt and the spices. Stir in one tbsp of ghee.", 4)[:6])
	require.Equal(t, usual("10 tbsp"), r.Supply(lines("cashews"), "", 20)[0])
	require.Equal(t, usual(""), r.Supply(lines("cashews"), "", 0)[0])
	for _, m := range pantry.Standard().All() {
		for bowls := 1; bowls <= 30; bowls++ {
			text := r.Supply([]recipe.Line{{Material: m.Slug, Text: m.Name}}, "", bowls)[0].Amount
			if text == "" {
				continue
			}
			amount, err := measure.ParseAmount(text)
			require.NoError(t, err, text)
			_, err = measure.Measures{}.Grams(amount, m.Body())
			require.NoError(t, err, "%s %s", text, m.Slug)
		}
	}
}
