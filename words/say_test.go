package words_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"kirdu/core/forecast"
	"kirdu/core/measure"
	"kirdu/core/plan"
	"kirdu/core/vessel"
	"kirdu/words"
)

// plainSpaces makes the narrow spaces of numbers ordinary ones.
func plainSpaces(text string) string { return strings.ReplaceAll(text, "\u202f", " ") }

func TestNumbers(t *testing.T) {
	for want, got := range map[string]string{
		"1 235 g":             words.Printer{}.Grams(1236.4),
		"23 g":                words.Printer{}.Grams(22.7),
		"0.2 g":               words.Printer{}.Grams(0.2),
		"0.04 g":              words.Printer{}.Grams(0.04),
		"0.0 g":               words.Printer{}.Grams(0),
		"2.5 g":               words.Printer{}.Grams(2.4),
		"1 236 g":             words.Printer{}.Exact(1236.4),
		"12 345 678 g":        words.Printer{}.Exact(12345678.0),
		"-1 200 g":            words.Printer{}.Exact(-1200.0),
		"43 min":              words.Printer{}.Minutes(43.2),
		"119 min":             words.Printer{}.Minutes(119.0),
		"2 h":                 words.Printer{}.Minutes(120.0),
		"2 h 05 min":          words.Printer{}.Minutes(125.0),
		"28 to 41 min":        words.Printer{}.Span(measure.Range{Low: 27.6, Value: 33, High: 41.2}),
		"5 min":               words.Printer{}.Span(measure.Range{Low: 5, Value: 5, High: 5}),
		"4¾ to 5¼ h":          words.Printer{}.Span(measure.Range{Low: 286, Value: 295, High: 314}),
		"about 4 h":           words.Printer{}.Span(measure.Range{Low: 239, Value: 240, High: 241}),
		"12.3 %":              words.Printer{}.Percent(12.34, 1),
		"milk":                words.Printer{}.Join([]string{"milk"}),
		"milk and rice":       words.Printer{}.Join([]string{"milk", "rice"}),
		"a, b and c":          words.Printer{}.Join([]string{"a", "b", "c"}),
		"Ährenbrei":           words.Capital("ährenbrei"),
		"":                    words.Capital(""),
		"light":               words.Printer{}.Sweetness(10),
		"festive":             words.Printer{}.Sweetness(20),
		"at room temperature": words.Printer{}.Serving(plan.Room),
	} {
		require.Equal(t, want, plainSpaces(got))
	}
}

func pudding(t *testing.T, steps string) (*plan.Plan, *forecast.Forecast) {
	t.Helper()
	p, err := plan.Read([]byte(`{"format":"kirdu-plan/1","name":"x","measures":{"cup_ml":200},
	"pots":{"main":{"shape":"straight","diameter_mm":200,"height_mm":110,"mass_g":1000},
		"side":{"shape":"straight","diameter_mm":200,"height_mm":110}},"steps":[` + steps + `]}`))
	require.NoError(t, err)
	return p, forecast.Run(p, forecast.Options{NominalOnly: true})
}

func TestStepsInWords(t *testing.T) {
	milk := `{"do":"add","items":[{"material":"milk-whole","amount":"1.2 l"},{"material":"rice-short","amount":"100 g"}]}`
	heat := func(until string) string {
		return milk + `,{"do":"heat","flame":"medium-low","lid":true,"stir":"now-and-then","until":` + until + `}`
	}
	cases := map[string]struct {
		steps, title, detail, done string
		step                       int
	}{
		"milk and rice": {milk, "Add the whole milk and the short-grain white rice",
			"1 235 g whole milk (6 cups) · 100 g short-grain white rice (½ cup)", "It is in the pot", 0},
		"sugar": {milk + `,{"do":"add","items":[{"material":"sugar-white","amount":"85 g"}]}`, "Stir in the white sugar (85 g)",
			"½ cup, in two goes, tasting between", "Sugar is in", 1},
		"topping": {milk + `,{"do":"add","topping":true,"items":[{"material":"pear","amount":"150 g"}]}`, "Lay the pear (150 g) on top",
			"1 pear", "It is in the pot", 1},
		"a soaked part": {`{"do":"soak","name":"grain","items":[{"material":"rice-short","amount":"90 g"}],"minutes":30},{"do":"add",
			"items":[{"part":"grain"},{"material":"milk-whole","amount":"1 l"}]}`,
			"Soak the short-grain white rice", "90 g short-grain white rice (½ cup), 30 min", "It is soaked", 0},
		"from a pan": {milk + `,{"do":"add","pot":"side","items":[{"pot":"main","share":0.5}]}`, "Pour in half of what is in the pot",
			"half of what is in the pot", "It is in the pot", 1},
		"boil": {heat(`{"boil":true,"max_minutes":5}`), "Bring it to the boil", "medium low flame, lid on, stir now and then",
			"It boils", 1},
		"minutes": {heat(`{"minutes":12}`), "Cook it for 12 min", "", "Time is up", 1},
		"soft": {heat(`{"doneness":{"of":"rice-short","at":1.8},"max_minutes":5}`), "Cook until the grain is creamy", "",
			"It is soft", 1},
		"thick":    {heat(`{"thickness":4,"max_minutes":5}`), "Cook until it is at Ladle", "", "It is thick", 1},
		"warm":     {heat(`{"temp_c":60}`), "Bring it to 60 °C", "", "It is that warm", 1},
		"absorbed": {heat(`{"free_water_pct":5,"max_minutes":5}`), "Cook until the liquid is absorbed", "", "It is absorbed", 1},
		"stand":    {milk + `,{"do":"rest","minutes":10,"lid":true}`, "Let it stand off the heat for 10 min", "covered", "It has stood", 1},
		"chill": {milk + `,{"do":"chill","hours":4}`, "Put it into the refrigerator, covered", "4 h; shallow bowls cool faster",
			"It is cold", 1},
		"finger": {`{"do":"add","items":[{"material":"rice-short","amount":"100 g"},{"material":"water","above_mm":25}]}`,
			"Add the short-grain white rice and the water", "100 g short-grain white rice (½ cup) · water to 25 mm above the rest",
			"It is in the pot", 0},
	}
	for name, c := range cases {
		t.Run(name, func(t *testing.T) {
			p, f := pudding(t, c.steps)
			w := words.Printer{}.Step(p, f, c.step)
			require.Equal(t, c.title, plainSpaces(w.Title))
			require.Equal(t, c.done, w.Done)
			if c.detail != "" {
				require.Equal(t, c.detail, plainSpaces(w.Detail))
			}
			require.NotEmpty(t, w.Short)
		})
	}
}

func TestMarkHasGaugeAndScale(t *testing.T) {
	p, f := pudding(t, `{"do":"add","items":[{"material":"milk-whole","amount":"1 l"}]},{"do":"heat","flame":"high","until":{"mass_g":800}}`)
	w := words.Printer{}.Step(p, f, 1)
	require.Equal(t, "Simmer down to 800 g, 25 mm", plainSpaces(w.Title))
	require.Equal(t, "25 mm on the gauge, 1 800 g on the scale", plainSpaces(w.Target))
	unweighed := p.Pots["main"]
	unweighed.MassG = nil
	p.Pots["main"] = unweighed
	w = words.Printer{}.Step(p, forecast.Run(p, forecast.Options{}), 1)
	require.Equal(t, "25 mm on the gauge, 800 g in the pot", plainSpaces(w.Target))
	require.Equal(t, "flame off", words.Printer{}.Flame(&plan.Step{Flame: vessel.Off}))
	percent := 40.0
	require.Equal(t, "flame at 40 %", words.Printer{}.Flame(&plan.Step{FlamePct: &percent}))
}

func TestThicknessOnItsWay(t *testing.T) {
	_, f := pudding(t, `{"do":"add","items":[{"material":"milk-whole","amount":"1 l"}]},{"do":"heat","flame":"high","until":{"minutes":12}}`)
	require.Equal(t, "Sip hot, Pour chilled", words.Printer{}.Thickness(f, plan.Hot))
	require.Equal(t, "Pour chilled", words.Printer{}.Thickness(f, plan.Chilled))
}

// What a thermometer shows has its decimal in both scales; halves go away from zero.
func TestTemperaturesInBothScales(t *testing.T) {
	both := words.Printer{Style: words.Style{Fahrenheit: true}}
	require.Equal(t, "98.6 °C (209.5 °F)", both.CelsiusTo(98.6, 1))
	require.Equal(t, "22.5 °C (72.5 °F)", both.CelsiusTo(22.5, 1))
	require.Equal(t, "85 °C (185 °F)", both.Celsius(85))
	require.Equal(t, "A flour thickens above 78 °C (172 °F).", both.Degrees("A flour thickens above {78C}."))
	require.Equal(t, "78 °C", words.Printer{}.Celsius(78))
}
