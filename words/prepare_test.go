package words_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"kirdu/core/forecast"
	"kirdu/core/plan"
	"kirdu/words"
)

// prepared is a pudding with every preparation that can be computed.
const prepared = `{"format":"kirdu-plan/1","name":"everything","serves":6,
	"pots":{"main":{"shape":"straight","diameter_mm":260,"height_mm":160}},"steps":[
	{"do":"press","name":"coco","coconuts":1,"presses":[{"water_ml":0},{"water_ml":300,"temp_c":40}]},
	{"do":"fry","name":"nuts","items":[{"material":"cashew","amount":"20 g","minutes":2}],"fat":{"material":"ghee","amount":"1 tbsp"}},
	{"do":"soak","name":"rice","items":[{"material":"rice-short","amount":"90 g"}],"minutes":60},
	{"do":"grind","of":"rice","to":"paste","minutes":4},
	{"do":"prep","name":"gourd","what":"grate","items":[{"material":"bottle-gourd","amount":"200 g"}],"minutes":6},
	{"do":"squeeze","of":"gourd","pct":15},
	{"do":"roast","name":"semolina","items":[{"material":"semolina","amount":"30 g"}],"minutes":4},
	{"do":"mix","name":"slurry","items":[{"material":"milk-whole","amount":"100 ml"},{"material":"rice-flour","amount":"10 g"}]},
	{"do":"steam","name":"roots","items":[{"material":"sweet-potato","amount":"100 g"}],"minutes":15},
	{"do":"melt","name":"syrup","items":[{"material":"jaggery","amount":"100 g"},{"material":"water","amount":"40 ml"}]},
	{"do":"add","items":[{"material":"milk-whole","amount":"1 l"},{"part":"rice"},{"part":"gourd"},{"part":"roots"},{"part":"semolina"},
		{"part":"coco.2"}]},
	{"do":"heat","flame":"high","until":{"boil":true}},
	{"do":"mash","pct":40,"of":"roots"},
	{"do":"add","items":[{"part":"slurry"}],"slowly":true},
	{"do":"heat","flame":"low","until":{"temp_c":85}},
	{"do":"drain"},
	{"do":"add","items":[{"part":"syrup"},{"part":"coco.1"},{"part":"nuts"}]}]}`

func TestEveryStepHasWords(t *testing.T) {
	p, err := plan.Read([]byte(prepared))
	require.NoError(t, err)
	f := forecast.Run(p, forecast.Options{})
	require.InDelta(t, 0, f.MassBalance.ErrorG, 0.01)
	want := []string{"Press the coconut", "Fry the cashew nuts", "Soak the short-grain white rice", "Grind the rice",
		"Grate the bottle gourd", "Squeeze", "Roast the wheat semolina",
		"Stir together cold: ", "Steam the sweet potato", "Melt the jaggery", "Add the whole milk", "Bring it to the boil", "Mash",
		"Add the slurry",
		"Bring it to 85 °C", "Pour the liquid off", "Add the syrup, the coco (first press)"}
	for i, begins := range want {
		words := words.Printer{}.Step(p, f, i)
		require.Contains(t, words.Title, begins, "step %d", i)
		require.NotEmpty(t, words.Done, words.Title)
		require.NotEmpty(t, words.Short, words.Title)
	}
	require.Contains(t, words.Printer{}.Step(p, f, 0).Detail, "press 2 with 300 ml of water")
	require.Contains(t, words.Printer{}.Step(p, f, 3).Detail, "to a paste")
	require.Contains(t, words.Printer{}.Step(p, f, 5).Detail, "15 % of it as juice")
	require.Contains(t, words.Printer{}.Step(p, f, 9).Detail, "hot syrup burns")

	us := p.In(plan.Home{US: true})
	require.Contains(t, words.Printer{Style: words.Style{Fahrenheit: true}}.Step(us, f, 14).Title, "85 °C (185 °F)")
	require.Contains(t, words.Printer{}.Step(us, f, 10).Detail, "2 lb 4 oz")
}

// Every preparation is over when the pot wants it, and the pot is lit so that
// the pudding is ready even when it takes long.
func TestStartBy(t *testing.T) {
	p, err := plan.Read([]byte(prepared))
	require.NoError(t, err)
	f := forecast.Run(p, forecast.Options{})
	serve := time.Date(2026, 11, 28, 19, 30, 0, 0, time.UTC)
	starts := words.Printer{}.StartBy(p, f, serve, time.FixedZone("", 3600))
	require.Len(t, starts, 11, "ten preparations and the pot")
	for i, s := range starts {
		require.True(t, s.When.Before(serve), s.What)
		if i > 0 {
			require.False(t, s.When.Before(starts[i-1].When), "in order of time")
		}
		require.Equal(t, s.When.In(time.FixedZone("", 3600)).Format("Mon 15:04"), s.At)
	}
	lit := serve.Add(-time.Duration(f.Time.TotalMin.High * float64(time.Minute)))
	require.Contains(t, starts, words.Start{When: lit, At: lit.Add(time.Hour).Format("Mon 15:04"),
		What: words.Printer{}.Step(p, f, 10).Title, Detail: "into the pot"})
}

// A mix says what it is: cold, hot with a ladle of the pot, whites that are whipped, what is kept back.
func TestWhatIsMixed(t *testing.T) {
	p, err := plan.Read([]byte(`{"format":"kirdu-plan/1","name":"mixed","serves":6,
		"pots":{"main":{"shape":"straight","diameter_mm":260,"height_mm":160}},"steps":[
		{"do":"steam","name":"pumpkin","items":[{"material":"pumpkin","amount":"100 g"}],"minutes":15},
		{"do":"grind","of":"pumpkin","to":"paste","minutes":2},
		{"do":"add","items":[{"material":"milk-whole","amount":"1 l"},{"material":"semolina","amount":"40 g"},{"part":"pumpkin"}]},
		{"do":"heat","flame":"medium","until":{"minutes":10}},
		{"do":"mix","name":"sauce","items":[{"pot":"main","share":0.14}]},
		{"do":"mix","name":"eggs","items":[{"material":"egg-yolk","amount":"40 g"},{"pot":"main","share":0.1}]},
		{"do":"add","items":[{"part":"eggs"}],"slowly":true},
		{"do":"mix","name":"whites","items":[{"material":"egg-white","amount":"60 g"},{"material":"sugar-white","amount":"20 g"}]},
		{"do":"mix","name":"cream","items":[{"material":"cream-double","amount":"200 ml"}]},
		{"do":"mix","name":"topping","items":[{"material":"coconut-cream","amount":"100 ml"},{"material":"salt","amount":"1 pinch"}]},
		{"do":"add","items":[{"part":"whites"},{"part":"sauce"},{"part":"cream"},{"part":"topping"}]}]}`))
	require.NoError(t, err)
	f := forecast.Run(p, forecast.Options{})
	for i, want := range map[int]words.StepWords{
		1: {Title: "Mash the pumpkin", Done: "It is mashed"},
		4: {Title: "Keep back 14 % of what is in the pot", Done: "It is kept back"},
		5: {Title: "Stir together, while it is hot: egg yolk and what is in the pot", Done: "It is smooth"},
		9: {Title: "Stir together cold: coconut cream and table salt", Done: "It is smooth"},
		8: {Title: "Whip the double cream", Done: "It holds peaks"},
		7: {Title: "Whip the egg white and the white sugar", Done: "It holds peaks", Target: "soft peaks stand when the whisk is lifted"},
	} {
		said := words.Printer{}.Step(p, f, i)
		require.Equal(t, want.Title, said.Title)
		require.Equal(t, want.Done, said.Done)
		if want.Target != "" {
			require.Equal(t, want.Target, said.Target)
		}
	}
	require.NotContains(t, words.Printer{}.Step(p, f, 4).Detail, "%", "the share is in the title")
}

func TestSmallWords(t *testing.T) {
	require.Equal(t, "640 ml", words.Printer{}.Millilitres(640.2))
	require.Equal(t, "1.28 l", words.Printer{}.Millilitres(1283))
	require.Equal(t, "1.25 cup", words.Printer{}.Count(1.2499, "cup"))
	require.Equal(t, "12\u202f346 g", words.Printer{}.Count(12345.6, "g"))
	require.Equal(t, "jaggery", words.Lower("Jaggery"))
	require.Equal(t, "UHT milk", words.Lower("UHT milk"))
	require.Empty(t, words.Lower(""))
	require.Equal(t, "62 °C", words.Printer{}.Celsius(62))
}

// Every verb of the format has words of its own, so that no step at the stove
// is nameless.
func TestEveryVerbHasWords(t *testing.T) {
	p, err := plan.Read([]byte(`{"format":"kirdu-plan/1","name":"verbs","serves":6,
		"pots":{"main":{"shape":"straight","diameter_mm":260,"height_mm":160},
			"tray":{"shape":"tray","length_mm":300,"width_mm":200,"height_mm":60}},
		"served_from":"tray","steps":[
		{"do":"caramel","pot":"tray","items":[{"material":"sugar-white","amount":"90 g"}],"until":"amber"},
		{"do":"add","items":[{"material":"moong-split","amount":"120 g"},{"material":"water","amount":"600 ml"}]},
		{"do":"pressure","whistles":1},{"do":"pressure","minutes":8,"release":"quick"},
		{"do":"add","items":[{"material":"milk-whole","amount":"300 ml"}]},
		{"do":"cool","to_c":30,"where":"water-bath"},{"do":"hold","minutes":40,"temp_c":65},
		{"do":"add","pot":"tray","items":[{"pot":"main"}]},
		{"do":"bake","pot":"tray","oven_c":160,"minutes":30,"covered":true},{"do":"bake","pot":"tray","in":"slow-cooker","minutes":60},
		{"do":"bake","pot":"tray","in":"microwave","power_w":700,"minutes":6,"stir_every_min":2},
		{"do":"chill","pot":"tray","hours":3},{"do":"portion","pot":"tray","slices":24}]}`))
	require.NoError(t, err)
	f := forecast.Run(p, forecast.Options{})
	for i, want := range []string{"Brown the white sugar, dry, until amber", "", "Cook under pressure until it whistles",
		"Cook under pressure for 8 min", "",
		"Cool it to 30 °C", "Keep it hot for 40 min", "",
		"Bake it at 160 °C", "Leave it in the slow cooker", "Cook it in the microwave oven at 700 W", "refrigerator", "Cut it into 24"} {
		words := words.Printer{}.Step(p, f, i)
		require.Contains(t, words.Title, want)
		require.NotEmpty(t, words.Done)
		require.NotEqual(t, "Done", words.Done, words.Title)
	}
	require.Contains(t, words.Printer{}.Step(p, f, 3).Detail, "away from you")
	require.Contains(t, words.Printer{}.Step(p, f, 8).Detail, "covered")
	require.Contains(t, words.Printer{}.Step(p, f, 10).Detail, "stir every 2 min")
}
