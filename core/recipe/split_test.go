package recipe_test

import (
	"fmt"
	"os"
	"path/filepath"
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
				!strings.Contains(got.Name+got.List+got.Method+got.Notes+got.Around, words[0]) {
				t.Fatalf("%q is lost", line)
			}
		}
		if _, err := r.Read(got.List); err != nil {
			require.ErrorIs(t, err, recipe.ErrLongList)
		}
	})
}
