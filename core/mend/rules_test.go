package mend_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"kirdu/core/forecast"
	"kirdu/core/mend"
	"kirdu/core/pantry"
	"kirdu/core/plan"
	"kirdu/core/watch"
)

// kitchenPlan is a plan in a wide pot with more keys of the document in front
// of its steps.
func kitchenPlan(t *testing.T, more string, steps ...string) *plan.Plan {
	t.Helper()
	p, err := plan.Read([]byte(`{"format":"kirdu-plan/1","name":"x",` + more +
		`"pots":{"main":{"shape":"straight","diameter_mm":220,"height_mm":160},
		"tray":{"shape":"tray","length_mm":300,"width_mm":200,"height_mm":50}},"steps":[` + strings.Join(steps, ",") + `]}`))
	require.NoError(t, err)
	return p
}

func add(items ...string) string {
	var all []string
	for _, item := range items {
		name, amount, _ := strings.Cut(item, " ")
		switch {
		case strings.HasPrefix(item, "{"):
			all = append(all, item)
		case amount == "":
			all = append(all, fmt.Sprintf(`{"part":%q}`, name))
		default:
			all = append(all, fmt.Sprintf(`{"material":%q,"amount":%q}`, name, amount))
		}
	}
	return `{"do":"add","items":[` + strings.Join(all, ",") + `]}`
}

func heat(flame string, minutes float64) string {
	return fmt.Sprintf(`{"do":"heat","flame":%q,"stir":"constant","until":{"minutes":%v}}`, flame, minutes)
}

func with(step, key string) string { return strings.TrimSuffix(step, "}") + "," + key + "}" }

func seldom(flame string, minutes float64) string {
	return fmt.Sprintf(`{"do":"heat","flame":%q,"stir":"now-and-then","until":{"minutes":%v}}`, flame, minutes)
}

const toBoil = `{"do":"heat","flame":"high","stir":"constant","until":{"boil":true}}`

// ruleCase is a plan that sets a rule off and one that nearly does.
type ruleCase struct {
	rule             watch.ID
	severity         forecast.Severity
	mends            bool
	triggers, nearly *plan.Plan
}

func ruleCases(t *testing.T) []ruleCase {
	milk, rice, sugar := "milk-whole 1 l", "rice-short 90 g", "sugar-white 90 g"
	reduce := func(pct float64) string {
		return fmt.Sprintf(`{"do":"heat","flame":"medium","stir":"constant","until":{"remaining_pct":%v}}`, pct)
	}
	of := func(steps ...string) *plan.Plan { return kitchenPlan(t, "", steps...) }
	soaked := func(minutes int) string {
		return fmt.Sprintf(`{"do":"soak","name":"pearls","items":[{"material":"sago-small","amount":"50 g"}],"minutes":%d}`, minutes)
	}
	egg := `{"do":"mix","name":"egg","items":[{"material":"egg-whole","amount":"100 g"},{"material":"milk-whole","amount":"150 ml"}]}`
	slurry := `{"do":"mix","name":"slurry","items":[{"material":"milk-whole","amount":"200 ml"},{"material":"cornstarch","amount":"40 g"}]}`
	swollen := `{"do":"mix","name":"meal","items":[{"material":"milk-whole","amount":"200 ml"},{"material":"semolina","amount":"60 g"}],
		"minutes":10}`
	to := func(c float64) string {
		return fmt.Sprintf(`{"do":"heat","flame":"low","stir":"constant","until":{"temp_c":%v}}`, c)
	}
	whistles := func(n int) string { return fmt.Sprintf(`{"do":"pressure","whistles":%d}`, n) }
	rest := func(minutes int) string { return fmt.Sprintf(`{"do":"rest","minutes":%d}`, minutes) }
	porridge := []string{add(milk, rice), toBoil, heat("medium-low", 36), add(sugar), heat("low", 3)}
	and := func(steps []string, more ...string) []string { return append(append([]string{}, steps...), more...) }
	fried := func(minutes float64) string {
		return fmt.Sprintf(`{"do":"fry","name":"nuts","fat":{"material":"ghee","amount":"10 g"},
			"items":[{"material":"cashew","amount":"20 g","minutes":%v},{"material":"raisin","amount":"15 g","minutes":0.7}]}`, minutes)
	}
	caramel := func(colour string) string {
		return fmt.Sprintf(`{"do":"caramel","items":[{"material":"sugar-white","amount":"90 g"}],"until":%q}`, colour)
	}
	return []ruleCase{
		{"pulse-acid-early", forecast.Stop, true, of(add("moong-split 120 g", "water 900 ml"), toBoil, heat("medium-low", 10),
			add("jaggery 150 g"), heat("medium-low", 12)),
			of(add("moong-split 120 g", "water 700 ml"), whistles(3), add("jaggery 150 g"), heat("medium-low", 15))},
		{"acid-split", forecast.Note, true, of(add(milk), toBoil, add("jaggery 260 g"), heat("medium", 8)),
			of(add(milk, rice), toBoil, heat("medium-low", 25), add("jaggery 60 g"), heat("medium", 5))},
		{"acid-split", forecast.Warning, true, of(add(milk), toBoil, add("mango-pulp 450 g", sugar), heat("medium", 12)), nil},
		{"acid-split", forecast.Stop, true, of(add(milk), toBoil, add("mango-pulp 900 g", sugar), heat("medium", 15)), nil},
		{"raw-vegetable-in-milk", forecast.Warning, true, of(add(milk, "bottle-gourd 400 g", "ghee 20 g"), toBoil, heat("medium", 20),
			add(sugar), heat("low", 3)),
			of(add("carrot 200 g", "ghee 20 g"), `{"do":"heat","flame":"medium-low","lid":true,"until":{"minutes":30}}`, add(milk), toBoil,
				heat("medium", 20), add(sugar), heat("low", 3))},
		{"egg-scrambled", forecast.Warning, true, of(add("rice-cooked 250 g", "milk-whole 500 ml", "sugar-white 60 g"), heat("medium", 15),
			egg, add("egg"), heat("medium", 6)),
			of(add("rice-cooked 250 g", "milk-whole 500 ml", "sugar-white 60 g"), heat("medium", 10), heat("off", 10), egg, add("egg"), to(78))},
		{"egg-underdone", forecast.Stop, true, of(add("rice-cooked 250 g", "milk-whole 500 ml", "sugar-white 60 g"), heat("medium", 14),
			heat("off", 14), egg, add("egg"), heat("low", 1)), nil},
		{"boil-over", forecast.Stop, true, of(add("milk-whole 4.6 l", "rice-short 300 g"), toBoil, heat("low", 40), add("sugar-white 400 g"),
			heat("low", 3)), nil},
		{"too-full", forecast.Stop, true, of(add("water 5.6 l", "rice-short 300 g"), heat("medium", 20)),
			of(add("water 4.9 l", "rice-short 300 g"), heat("medium", 20))},
		{"cooker-too-full", forecast.Stop, false, of(add("moong-split 500 g", "water 2.9 l"), whistles(3)),
			of(add("rice-short 500 g", "water 2.9 l"), whistles(3))},
		{"boiled-dry", forecast.Stop, true, of(add("water 330 ml", "rice-short 150 g"), seldom("high", 17), add("milk-whole 900 ml"),
			heat("medium", 12), add(sugar), heat("low", 3)), of(add("water 330 ml", "rice-short 150 g"), heat("high", 8),
			add("milk-whole 900 ml"), heat("medium", 12), add(sugar), heat("low", 3))},
		{"boiled-dry", forecast.Stop, false, of(add("rice-short 100 g", "ghee 10 g"), whistles(2)),
			of(add("rice-short 100 g", "water 400 ml"), whistles(2))},
		{"weak-flame", forecast.Warning, true, of(add("milk-whole 2.2 l", "rice-short 120 g"),
			`{"do":"heat","flame":"low","stir":"often","until":{"boil":true}}`, heat("medium", 25), add(sugar), heat("low", 3)),
			of(add("milk-whole 2.2 l", "rice-short 120 g"), toBoil, heat("medium", 25), add(sugar), heat("low", 3))},
		{"cools-no-further", forecast.Note, false, of(and(porridge, `{"do":"cool","to_c":24}`)...),
			of(and(porridge, `{"do":"cool","to_c":27}`)...)},
		{"starch-lumps", forecast.Warning, true, of(add(milk), toBoil, add("cornstarch 40 g"), heat("low", 5), add(sugar)),
			of(add(milk), add("cornstarch 40 g"), toBoil, heat("low", 5), add(sugar))},
		{"starch-lumps", forecast.Warning, true, of(slurry, add(milk), toBoil, add("slurry"), heat("low", 5), add(sugar)),
			of(slurry, add(milk), toBoil, with(add("slurry"), `"slowly":true`), heat("low", 5), add(sugar))},
		{"gritty-meal", forecast.Note, true, of(add(milk), toBoil, add("semolina 60 g"), heat("low", 8), add(sugar)),
			of(swollen, add(milk), toBoil, with(add("meal"), `"slowly":true`), heat("low", 8), add(sugar))},
		{"pearls-clump", forecast.Warning, false, of(strings.Replace(soaked(150), "50 g", "130 g", 1), add("milk-whole 420 ml"), toBoil,
			add("pearls"), `{"do":"heat","flame":"low","lid":true,"until":{"minutes":22}}`, add(sugar)),
			of(soaked(150), add(milk), toBoil, add("pearls"), heat("low", 12), add(sugar))},
		{"pearls-unsoaked", forecast.Note, true, of(add(milk), toBoil, add("sago-small 50 g"), heat("medium-low", 24), add(sugar),
			heat("low", 3)), of(soaked(25), add(milk), toBoil, add("pearls"), heat("medium-low", 20), add(sugar), heat("low", 3))},
		{"pearls-unsoaked", forecast.Note, true, of(soaked(10), add(milk), toBoil, add("pearls"), heat("medium-low", 22), add(sugar),
			heat("low", 3)), nil},
		{"undercooked-grain", forecast.Warning, true, of(add(milk, rice), toBoil, heat("medium-low", 15), add(sugar), heat("low", 3)),
			of(and(porridge, rest(5))...)},
		{"undercooked-grain", forecast.Warning, true, of(add(milk, "rice-red 80 g"), toBoil,
			`{"do":"heat","flame":"medium-high","stir":"constant","until":{"remaining_pct":74}}`, add(sugar), heat("low", 3)), nil},
		{"mushy-grain", forecast.Warning, true, of(add("milk-whole 1.5 l", "rice-long 60 g"), toBoil, heat("medium-low", 75), add(sugar),
			heat("low", 3)), of(and(porridge, rest(5))...)},
		{"too-thin", forecast.Warning, true, kitchenPlan(t, `"aim":{"thickness":4.5},`, add(milk, "rice-short 60 g"), toBoil,
			heat("medium", 25), add(sugar), heat("low", 3)), of(porridge...)},
		{"too-thick", forecast.Warning, true, kitchenPlan(t, `"aim":{"thickness":2},`, add(milk, "rice-short 110 g"), toBoil,
			heat("medium", 25), add(sugar), heat("low", 3)), kitchenPlan(t, `"aim":{"thickness":3.5},`, porridge...)},
		{"too-thick-cold", forecast.Note, false, kitchenPlan(t, `"keep_days":1,`, add(milk, "rice-long 150 g"), toBoil, reduce(72),
			add(sugar), heat("low", 3)), of(add(milk, "rice-long 150 g"), toBoil, reduce(72), add(sugar), heat("low", 3))},
		{"thin-milk", forecast.Note, true, of(add("milk-lowfat 1.3 l", rice), toBoil, reduce(75), add(sugar), heat("low", 3)),
			of(add("milk-whole 1.3 l", rice), toBoil, reduce(75), add(sugar), heat("low", 3))},
		{"greasy", forecast.Note, true, of(and(porridge, add("ghee 200 g"))...), of(and(porridge, add("ghee 60 g"))...)},
		{"soda-too-much", forecast.Warning, true, of(add(milk, rice, "baking-soda 0.9 g"), toBoil, heat("medium-low", 25), add(sugar)),
			of(add(milk, rice, "baking-soda 0.38 g"), toBoil, heat("medium-low", 25), add(sugar))},
		{"soda-too-much", forecast.Stop, true, of(add(milk, rice, "baking-soda 3 g"), toBoil, heat("medium-low", 25), add(sugar)), nil},
		{"aroma-early", forecast.Note, true, of(add(milk, rice, "cardamom 1 g"), toBoil, heat("medium-low", 25), add(sugar), heat("low", 3)),
			of(add(milk, rice), toBoil, heat("medium-low", 25), add(sugar, "cardamom 1 g"), heat("low", 4))},
		{"garnish-burn", forecast.Warning, true, of(and(porridge, fried(6), add("nuts"))...), of(and(porridge, fried(4), add("nuts"))...)},
		{"carry-over-caramel", forecast.Note, true, of(caramel("amber"), add("milk-whole 900 ml", rice), toBoil, heat("medium-low", 25)),
			of(caramel("light"), add("milk-whole 900 ml", rice), toBoil, heat("medium-low", 25))},
		{"warm-too-long", forecast.Stop, true, of(and(porridge, rest(240))...), of(and(porridge, rest(60))...)},
		{"cooling-slow", forecast.Note, true, of(add("milk-whole 1.45 l", "rice-short 130 g"), toBoil, heat("medium-low", 36),
			add("sugar-white 135 g"), heat("low", 3), `{"do":"chill","hours":5}`),
			of(add("milk-whole 400 ml", "rice-short 36 g"), toBoil, heat("low", 25), `{"do":"cool","to_c":20,"where":"water-bath"}`,
				`{"do":"chill","hours":3}`)},
		{"raw-milk", forecast.Stop, true, of(add(`{"material":"milk-whole","amount":"1 l","state":"raw"}`, "sugar-white 60 g"),
			heat("low", 10)), of(add(`{"material":"milk-whole","amount":"1 l","state":"raw"}`), toBoil)},
		{"allergens", forecast.Stop, false, kitchenPlan(t, `"eaters":{"allergic_to":["milk"]},`, porridge...), of(porridge...)},
		{"allergens", forecast.Note, false, kitchenPlan(t, `"eaters":{"allergic_to":["egg"]},`, porridge...), nil},
		{"choking", forecast.Warning, true, kitchenPlan(t, `"eaters":{"under_five":true},`, and(porridge, fried(3), add("nuts"))...),
			of(and(porridge, fried(3), add("nuts"))...)},
		{"pressure-cooker", forecast.Note, false, of(add("rice-short 90 g", "water 500 ml"), whistles(2)), of(porridge...)},
		{"hot-sugar", forecast.Note, false, of(caramel("light"), add(milk)), of(porridge...)},
		{"hot-fat", forecast.Note, false, of(and(porridge, fried(3), add("nuts"))...), of(porridge...)},
		{"wood-fire", forecast.Note, false, kitchenPlan(t, `"burner":{"kind":"wood"},`, porridge...), of(porridge...)},
	}
}

// TestEachRule has for each rule a plan that sets it off and one that nearly
// does. After the fix, carried out as a JSON Patch on the document, the finding
// is gone, no stop or warning has come, and what must stay has stayed.
func TestEachRule(t *testing.T) {
	for k, c := range ruleCases(t) {
		t.Run(fmt.Sprintf("%02d %s %s", k, c.rule, c.severity), func(t *testing.T) {
			f := look(c.triggers, forecast.Options{NominalOnly: true})
			found := of(f, c.rule)
			require.NotEmpty(t, found, "%+v", f.Findings)
			one := found[0]
			require.Equal(t, c.severity, one.Severity)
			text := said(c.triggers, one)
			require.Len(t, text.Evidence, 2)
			require.True(t, strings.HasSuffix(text.Message, ".") && strings.HasSuffix(text.Fix, "."), text.Message)
			if c.nearly != nil {
				require.Empty(t, of(look(c.nearly, forecast.Options{NominalOnly: true}), c.rule))
			}
			require.Equal(t, c.mends, one.Edit != nil, "an edit")
			if !c.mends {
				return
			}
			mended := look(applied(t, c.triggers, one), forecast.Options{NominalOnly: true})
			require.Less(t, len(of(mended, c.rule)), len(found))
			for _, other := range mended.Findings {
				require.True(t, other.Severity == forecast.Note || len(of(f, other.Rule)) > 0, "%s has come", other.Rule)
			}
			require.InDelta(t, f.Sweetness.Pct.Value, mended.Sweetness.Pct.Value, 0.3)
			require.InDelta(t, f.Yield.MassG.Value, mended.Yield.MassG.Value, 0.15*f.Yield.MassG.Value)
			if was, is := f.Thickness.As(c.triggers.Serve), mended.Thickness.As(c.triggers.Serve); was != nil && is != nil && c.triggers.Aim == nil {
				require.InDelta(t, was.Value, is.Value, 0.3)
			}
		})
	}
}

// The longest documents are answered: what they cost is bounded, and what would mend them
// is not looked for without end.
func TestTheLongestPlansHaveABudget(t *testing.T) {
	var grains []string
	for _, m := range pantry.Standard().All() {
		if m.Kinetics != nil && len(grains) < 56 {
			grains = append(grains, m.Slug+" 20 g")
		}
	}
	cycles := []string{add(append(grains, "milk-whole 3 l", "mango-pulp 300 g", "sugar-white 300 g")...)}
	for range 99 {
		cycles = append(cycles, toBoil, `{"do":"cool","to_c":30,"where":"water-bath"}`)
	}
	p := kitchenPlan(t, `"aim":{"thickness":3},`, cycles...)
	f, found := mend.Forecast(p, forecast.Options{NominalOnly: true})
	require.Greater(t, len(found), 20)
	require.Less(t, f.Work, 1_000_000)
}
