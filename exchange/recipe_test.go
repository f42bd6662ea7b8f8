package exchange_test

import (
	"strings"
	"testing"
	"unicode/utf8"

	"github.com/stretchr/testify/require"

	"kirdu/exchange"
)

func TestReadRecipe(t *testing.T) {
	plain := `{"@context":"https://schema.org","@type":"Recipe","name":"Millet for the boathouse","recipeYield":"6 bowls",
		"recipeIngredient":["1 cup foxtail millet","1&frac12; l milk"],
		"recipeInstructions":[{"@type":"HowToStep","text":"Boil the <b>milk</b>."},
			{"@type":"HowToSection","itemListElement":[{"@type":"HowToStep","text":"Simmer."}]}]}`
	for name, c := range map[string]string{
		"an object":       plain,
		"a list":          "[{\"@type\":\"WebPage\"}," + plain + "]",
		"a graph":         `{"@graph":[{"@type":"Person","name":"x"},` + plain + `]}`,
		"types as a list": strings.Replace(plain, `"@type":"Recipe"`, `"@type":["Thing","http://schema.org/Recipe"]`, 1),
		"a saved page": `<!doctype html><html><head><script type="application/ld+json">{"@type":"Organization"}</script>` +
			`<script type='application/ld+json'>` + plain + `</script></head></html>`,
		"a byte order mark": "\xef\xbb\xbf" + plain,
	} {
		t.Run(name, func(t *testing.T) {
			r, err := exchange.ReadRecipe([]byte(c))
			require.NoError(t, err)
			require.Equal(t, exchange.Recipe{Name: "Millet for the boathouse", Bowls: 6,
				Ingredients: []string{"1 cup foxtail millet", "1½ l milk"}, Notes: "Boil the milk .\nSimmer."}, r)
		})
	}
}

// The parts of a method keep their names, and all of a long one is taken over.
func TestTheMethodOfAFile(t *testing.T) {
	long := strings.Repeat("Stir the millet once more and see whether it is soft. ", 100)
	r, err := exchange.ReadRecipe([]byte(`{"@type":"Recipe","name":"Two pans","recipeIngredient":["1 l milk"],"recipeInstructions":[
		{"@type":"HowToSection","name":"For the syrup","itemListElement":[{"@type":"HowToStep","text":"Melt the jaggery."}]},
		{"@type":"HowToSection","name":"To finish:","itemListElement":[{"@type":"HowToStep","text":"` + long + `"}]}]}`))
	require.NoError(t, err)
	require.Equal(t, "For the syrup:\nMelt the jaggery.\nTo finish:\n"+strings.TrimSpace(long), r.Notes)
}

func TestAPageForPeople(t *testing.T) {
	r, err := exchange.ReadRecipe([]byte("<html><head><title>no</title></head><body><h1>Rice</h1><ul><li>1 l <b>milk</b>\nwhole</li>" +
		"<li>80&nbsp;g rice</li></ul><p>Boil it<br>and stir.</p><footer>2026</footer></body></html>"))
	require.NoError(t, err)
	require.Equal(t, exchange.Recipe{Page: "Rice\n1 l milk whole\n80 g rice\nBoil it\nand stir."}, r)
}

func TestFilesThatAreNoRecipe(t *testing.T) {
	for name, c := range map[string]struct {
		data string
		want error
	}{
		"nothing":         {"", exchange.ErrNotJSON},
		"a picture":       {"\x89PNG\r\n\x1a\n", exchange.ErrNotJSON},
		"another thing":   {`{"@type":"Event","name":"lantern supper"}`, exchange.ErrNoRecipe},
		"no ingredients":  {`{"@type":"Recipe","name":"air"}`, exchange.ErrNoRecipe},
		"a page without":  {"<html><body>soup</body></html>", exchange.ErrNoRecipe},
		"two documents":   {"{} {}", exchange.ErrNotJSON},
		"larger than any": {strings.Repeat("[", exchange.MaxRecipeBytes+1), exchange.ErrTooLarge},
		"very deep":       {strings.Repeat(`{"@graph":`, 300) + "1" + strings.Repeat("}", 300), exchange.ErrNoRecipe},
	} {
		t.Run(name, func(t *testing.T) {
			_, err := exchange.ReadRecipe([]byte(c.data))
			require.ErrorIs(t, err, c.want)
		})
	}
}

func FuzzReadRecipe(f *testing.F) {
	f.Add(`{"@type":"Recipe","recipeIngredient":["1 cup rice"],"recipeYield":[4,"4 bowls"]}`)
	f.Add(`<script type="application/ld+json">{"@graph":[{"@type":"Recipe","recipeIngredient":"salt"}]}</script>`)
	f.Fuzz(func(t *testing.T, data string) {
		r, err := exchange.ReadRecipe([]byte(data))
		if err != nil {
			return
		}
		require.NotEmpty(t, r.Ingredients)
		for _, line := range r.Ingredients {
			require.NotEmpty(t, line)
			require.True(t, utf8.ValidString(line))
		}
		require.GreaterOrEqual(t, r.Bowls, 0)
	})
}

func TestRecipeThereAndBack(t *testing.T) {
	out := exchange.Recipe{Name: "Millet with \u201cpalm\u201d sugar", Bowls: 6, Ingredients: []string{"1500 g whole milk",
		"150 g barnyard millet"}, Steps: []string{"Bring to the boil <b>slowly</b>.", "Simmer down."}, Minutes: 47.2}
	data, err := exchange.WriteRecipe(out)
	require.NoError(t, err)
	require.Contains(t, string(data), `"PT48M"`)
	in, err := exchange.ReadRecipe(data)
	require.NoError(t, err)
	require.Equal(t, out.Name, in.Name)
	require.Equal(t, out.Bowls, in.Bowls)
	require.Equal(t, out.Ingredients, in.Ingredients)
	require.Contains(t, in.Notes, "Simmer down.")
	data, err = exchange.WriteRecipe(exchange.Recipe{Name: "Nothing"})
	require.NoError(t, err)
	require.NotContains(t, string(data), "totalTime")
}
