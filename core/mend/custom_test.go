package mend_test

import (
	"fmt"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kirdu/core/forecast"
	"kirdu/core/plan"
	"kirdu/core/watch"
)

// A custom is what cooks do and a rule must be silent about, or note at most; a danger is
// what it must warn of.
type custom struct{ customs, dangers []*plan.Plan }

func customs(t *testing.T) map[watch.ID]custom {
	of := func(steps ...string) *plan.Plan { return kitchenPlan(t, "", steps...) }
	with := func(head string, steps ...string) *plan.Plan { return kitchenPlan(t, head, steps...) }
	until := func(flame, stir, until string) string {
		return fmt.Sprintf(`{"do":"heat","flame":%q,"stir":%q,"until":{%s}}`, flame, stir, until)
	}
	minutes := func(flame, stir string, m float64) string { return until(flame, stir, fmt.Sprintf(`"minutes":%v`, m)) }
	lidded := func(flame string, m float64) string {
		return fmt.Sprintf(`{"do":"heat","flame":%q,"stir":"none","lid":true,"until":{"minutes":%v}}`, flame, m)
	}
	boil := until("high", "often", `"boil":true`)
	simmer := func(m float64) string { return minutes("simmer", "often", m) }
	slowly := func(step string) string { return strings.TrimSuffix(step, "}") + `,"slowly":true}` }
	soak := func(name, material, amount string, m int) string {
		return fmt.Sprintf(`{"do":"soak","name":%q,"items":[{"material":%q,"amount":%q}],"minutes":%d}`, name, material, amount, m)
	}
	mix := func(name, items string) string {
		return fmt.Sprintf(`{"do":"mix","name":%q,"items":[%s],"minutes":12}`, name, items)
	}
	whistles := func(n int) string { return fmt.Sprintf(`{"do":"pressure","whistles":%d}`, n) }
	egg := mix("egg", `{"material":"egg-whole","amount":"60 g"},{"material":"milk-whole","amount":"120 ml"}`)
	eggs := mix("egg", `{"material":"egg-whole","amount":"150 g"},{"material":"milk-whole","amount":"150 ml"}`)
	slurry := func(g int) string {
		return mix("slurry", fmt.Sprintf(`{"material":"milk-whole","amount":"200 ml"},{"material":"cornstarch","amount":"%d g"}`, g))
	}
	milk := "milk-whole 1 l"
	return map[watch.ID]custom{
		"sweet-before-soft": {
			customs: []*plan.Plan{ // a little, all from the start; when soft; in a pulse that is nearly there
				of(add("milk-whole 1.2 l", "rice-short 70 g", "sugar-white 65 g"), boil, simmer(45)),
				of(add(milk, "rice-basmati 70 g"), boil, simmer(28), add("sugar-white 110 g"), simmer(4)),
				of(add("moong-split 150 g", "water 600 ml"), whistles(3), add("jaggery 150 g"), simmer(8))},
			dangers: []*plan.Plan{
				of(add(milk, "rice-short 90 g", "sugar-white 250 g"), boil, simmer(22)),
				of(add("water 600 ml", "millet-pearl 90 g", "jaggery 200 g"), boil, simmer(30)),
				of(add("milk-whole 800 ml", "rice-black 70 g", "sugar-brown 180 g"), boil, simmer(35))}},
		"pulse-acid-early": {
			customs: []*plan.Plan{
				of(add("moong-split 150 g", "water 500 ml"), whistles(4), add("jaggery 160 g"), simmer(5)),
				of(add("chana-split 150 g", "water 600 ml"), whistles(3), add("jaggery 150 g"), boil, simmer(25)),
				of(add("masoor-split 100 g", "water 600 ml"), boil, simmer(20), add("palm-sugar 100 g"), simmer(5))},
			dangers: []*plan.Plan{
				of(add("chana-split 150 g", "water 900 ml", "jaggery 150 g"), boil, simmer(40)),
				of(add("moong-split 150 g", "water 900 ml"), boil, simmer(6), add("molasses 120 g"), simmer(10)),
				of(add("urad-split 120 g", "water 900 ml"), boil, simmer(10), add("jaggery 150 g"), simmer(12))}},
		"thick-coconut-boiled": {
			customs: []*plan.Plan{
				of(add("rice-short 80 g", "water 600 ml"), boil, simmer(30), minutes("off", "none", 1), slowly(add("coconut-milk-thick 200 ml"))),
				of(add("coconut-milk-tin 400 g", "water 400 ml", "rice-short 60 g"), boil, simmer(30)),
				of(add("moong-split 90 g", "coconut-milk-thin 700 ml"), boil, simmer(30), minutes("off", "none", 2),
					slowly(add("coconut-milk-thick 120 ml")), until("low", "often", `"temp_c":82`))},
			dangers: []*plan.Plan{
				of(add("coconut-milk-thick 500 ml", "rice-short 60 g"), boil, simmer(20)),
				of(add("moong-split 90 g", "water 600 ml"), boil, simmer(30), add("coconut-milk-thick 200 ml"), boil, simmer(5)),
				of(add("water 500 ml", "sago-small 60 g"), boil, simmer(20), add("coconut-milk-thick 150 ml"), minutes("medium", "often", 8))}},
		"acid-split": {
			customs: []*plan.Plan{
				of(add(milk, "rice-short 90 g"), boil, simmer(30), minutes("off", "none", 5), add("jaggery 90 g")),
				of(slurry(30), add("milk-whole 800 ml"), boil, slowly(add("slurry")), simmer(5), minutes("off", "none", 10), add("mango-pulp 200 g")),
				of(add("milk-whole 750 ml", "molasses 90 g"), until("medium", "often", `"temp_c":90`))},
			dangers: []*plan.Plan{
				of(add(milk, "plum 250 g"), boil, simmer(10)),
				of(add(milk), boil, add("mango-pulp 450 g"), minutes("medium", "often", 12)),
				of(add("milk-whole 600 ml"), boil, add("plum 250 g", "jaggery 150 g"), simmer(8))}},
		"raw-vegetable-in-milk": {
			customs: []*plan.Plan{
				of(add("bottle-gourd 400 g", "ghee 25 g"), minutes("medium", "often", 12), add(milk), boil, simmer(10)),
				of(add("carrot 300 g", "ghee 25 g"), minutes("medium", "often", 14), add(milk), boil, simmer(20)),
				of(add("bottle-gourd 400 g", "ghee 25 g", "baking-soda 0.3 g"), minutes("medium-high", "often", 8), add("milk-whole 500 ml"),
					boil, simmer(6))},
			dangers: []*plan.Plan{
				of(add(milk, "bottle-gourd 400 g"), boil, simmer(15)),
				of(add("milk-whole 700 ml", "pumpkin 400 g"), boil, simmer(15)),
				of(add("milk-whole 800 ml"), boil, add("carrot 400 g"), simmer(20))}},
		"egg-scrambled": {
			customs: []*plan.Plan{
				of(add("rice-cooked 450 g", "milk-whole 650 ml"), minutes("medium", "constant", 22), egg, slowly(add("egg")),
					minutes("medium", "constant", 2)),
				of(slurry(40), add("milk-whole 700 ml"), boil, slowly(add("slurry")), simmer(3), egg, slowly(add("egg")), minutes("simmer",
					"constant", 2)),
				of(add("milk-whole 500 ml", "sugar-white 60 g"), until("medium", "often", `"temp_c":70`), eggs, slowly(add("egg")),
					until("medium-low", "constant", `"temp_c":79`))},
			dangers: []*plan.Plan{
				of(add("milk-whole 600 ml", "sugar-white 80 g"), until("medium", "often", `"temp_c":75`), eggs, slowly(add("egg")),
					minutes("medium", "constant", 9)),
				of(add("milk-whole 600 ml"), boil, eggs, add("egg"), minutes("high", "constant", 5)),
				of(add("milk-whole 400 ml", "egg-whole 150 g"), boil)}},
		"yogurt-hot": {
			customs: []*plan.Plan{
				of(add("rice-short 90 g", "milk-whole 600 ml"), boil, simmer(30), `{"do":"cool","to_c":30,"where":"water-bath"}`,
					add("yogurt 300 g")),
				of(add("rice-cooked 300 g"), minutes("low", "often", 1), add("yogurt 300 g")),
				of(add("rice-short 90 g", "milk-whole 600 ml"), boil, simmer(30), `{"do":"chill","hours":3}`, add("yogurt 300 g"))},
			dangers: []*plan.Plan{
				of(add("rice-short 90 g", "milk-whole 600 ml"), boil, simmer(30), add("yogurt 300 g")),
				of(add("rice-short 90 g", "water 600 ml"), boil, simmer(30), `{"do":"rest","minutes":20}`, add("yogurt 200 g")),
				of(add("milk-whole 500 ml"), until("medium", "often", `"temp_c":60`), add("yogurt 200 g"))}},
		"boil-over": {
			customs: []*plan.Plan{
				of(add("milk-whole 2 l", "rice-short 90 g"), boil, simmer(30)),
				of(add("water 4 l", "rice-short 90 g"), boil, simmer(10)),
				of(add("milk-whole 4.6 l"), until("medium", "often", `"temp_c":80`))},
			dangers: []*plan.Plan{
				of(add("milk-whole 3.9 l", "rice-short 200 g"), boil, simmer(10)),
				of(add("milk-whole 4.6 l"), boil),
				of(add("milk-whole 2.5 l"), boil, add("milk-whole 1.8 l"), boil)}},
		"lid-on-milk": {
			customs: []*plan.Plan{
				of(add(milk, "rice-short 90 g"), boil, lidded("simmer", 20)),
				of(add(milk, "rice-short 90 g"), boil, lidded("low", 20)),
				of(add("water 600 ml", "rice-short 90 g"), boil, lidded("medium", 10))},
			dangers: []*plan.Plan{
				of(add(milk, "rice-short 90 g"), boil, lidded("medium", 10)),
				of(add("milk-whole 1.5 l"), `{"do":"heat","flame":"high","lid":true,"until":{"boil":true}}`, lidded("high", 3)),
				of(add(milk, "sago-small 60 g"), boil, lidded("boil", 5))}},
		"scorch": {
			customs: []*plan.Plan{
				of(add("milk-whole 1.1 l", "rice-short 90 g"), boil, minutes("medium", "often", 30)),
				of(add("milk-whole 1.2 l", "rice-short 60 g"), boil, minutes("boil", "often", 25)),
				of(add("banana-ripe 400 g", "ghee 25 g"), minutes("medium", "constant", 10))},
			dangers: []*plan.Plan{
				of(add("milk-whole 1.2 l", "rice-short 70 g"), minutes("high", "none", 25)),
				of(add("rice-short 200 g", "milk-whole 800 ml"), boil, minutes("medium", "now-and-then", 25)),
				of(slurry(60), add("milk-whole 800 ml"), boil, slowly(add("slurry")), minutes("medium", "none", 5))}},
		"boiled-dry": {
			customs: []*plan.Plan{
				of(add("rice-short 150 g", "water 375 ml"), boil, lidded("low", 18)),
				of(add("millet-foxtail 110 g", "water 480 ml"), `{"do":"pressure","minutes":10}`, add("jaggery 120 g"), minutes("low",
					"constant", 4)),
				with(`"aim":{"thickness":6.5},`, add("rice-short 150 g", "water 400 ml"), boil, minutes("medium-low", "often", 18))},
			dangers: []*plan.Plan{
				of(add("rice-short 150 g", "water 330 ml"), boil, minutes("medium", "now-and-then", 22)),
				of(add("wheat-broken-coarse 120 g", "water 350 ml"), boil, lidded("medium", 30)),
				of(add("rice-short 100 g", "ghee 10 g"), whistles(2))}},
		"weak-flame": {
			customs: []*plan.Plan{
				of(add(milk), boil), of(add("water 2 l"), until("medium", "none", `"boil":true`)),
				of(add("sugar-white 300 g", "water 100 ml"), until("medium", "none", `"temp_c":112`))},
			dangers: []*plan.Plan{
				of(add("milk-whole 2 l"), until("low", "often", `"boil":true`)),
				of(add("water 3 l"), until("low", "none", `"temp_c":90`)),
				of(add(milk, "rice-short 90 g"), until("low", "often", `"boil":true`), simmer(20))}},
		"starch-lumps": {
			customs: []*plan.Plan{
				of(slurry(40), add(milk), boil, slowly(add("slurry")), simmer(4)),
				of(add(milk, "rice-flour 40 g"), until("medium", "constant", `"boil":true`)),
				of(slurry(40), add(milk), until("medium", "often", `"temp_c":70`), add("slurry"), simmer(4))},
			dangers: []*plan.Plan{
				of(add(milk), boil, add("cornstarch 40 g"), simmer(4)), of(add(milk), until("medium", "often", `"temp_c":75`),
					add("rice-flour 60 g"), simmer(4)),
				of(slurry(40), add(milk), boil, add("slurry"), simmer(4))}},
		"pearls-clump": {
			customs: []*plan.Plan{
				of(soak("pearls", "sago-small", "50 g", 150), add(milk), boil, add("pearls"), simmer(12)),
				of(soak("pearls", "sago-small", "40 g", 150), add("water 800 ml"), boil, add("pearls"), simmer(10)),
				of(soak("pearls", "sago-large", "60 g", 300), add("milk-whole 1.2 l"), boil, add("pearls"), simmer(30))},
			dangers: []*plan.Plan{
				of(soak("pearls", "sago-small", "160 g", 150), add("milk-whole 450 ml"), boil, add("pearls"), lidded("low", 20)),
				of(soak("pearls", "sago-large", "200 g", 300), add("water 600 ml"), boil, add("pearls"), simmer(30)),
				of(soak("pearls", "sago-small", "200 g", 150), add("coconut-milk-thin 600 ml"), boil, add("pearls"), simmer(15))}},
		"undercooked-grain": {
			customs: []*plan.Plan{
				of(add(milk, "rice-short 90 g"), boil, simmer(35)), of(add("moong-split 150 g", "water 500 ml"), whistles(3)),
				of(soak("pearls", "sago-small", "40 g", 150), add(milk), boil, add("pearls"), simmer(12))},
			dangers: []*plan.Plan{
				of(add(milk, "rice-short 90 g"), boil, simmer(10)), of(add("chana-split 150 g", "water 900 ml"), boil, simmer(20)),
				with(`"aim":{"doneness":{"rice-long":3}},`, add("rice-long 100 g", "water 500 ml"), boil, simmer(15))}},
		"mushy-grain": {
			customs: []*plan.Plan{
				of(add(milk, "rice-short 90 g"), boil, simmer(50)), of(add("rice-short 120 g", "water 600 ml"), boil, simmer(70),
					`{"do":"mash","pct":60}`),
				with(`"aim":{"doneness":{"rice-long":3}},`, add("rice-long 100 g", "water 700 ml"), boil, lidded("simmer", 60))},
			dangers: []*plan.Plan{
				of(add("milk-whole 1.5 l", "rice-short 60 g"), boil, simmer(110)), of(add("rice-basmati 90 g", "water 900 ml"), boil,
					lidded("simmer", 70)),
				of(add("vermicelli-wheat 70 g", "milk-whole 1.2 l"), boil, simmer(45))}},
		"warm-too-long": {
			customs: []*plan.Plan{
				of(add(milk, "rice-short 90 g"), boil, simmer(35), `{"do":"rest","minutes":60}`),
				of(add(milk, "rice-short 90 g"), boil, simmer(35), `{"do":"hold","minutes":180,"temp_c":65}`),
				of(add(milk, "rice-short 90 g"), boil, simmer(35), `{"do":"chill","hours":8}`)},
			dangers: []*plan.Plan{
				of(add(milk, "rice-short 90 g"), boil, simmer(35), `{"do":"rest","minutes":260}`),
				of(add(milk, "rice-short 90 g"), boil, simmer(35), `{"do":"hold","minutes":180,"temp_c":50}`),
				of(add("water 600 ml", "rice-short 90 g"), boil, simmer(25), minutes("off", "none", 300))}},
		"raw-milk": {
			customs: []*plan.Plan{
				of(add(`{"material":"milk-whole","amount":"1 l","state":"raw"}`), boil), of(add(milk), minutes("low", "often", 10)),
				of(add(`{"material":"milk-whole","amount":"1 l","state":"raw"}`, "rice-short 90 g"), minutes("high", "often", 20))},
			dangers: []*plan.Plan{
				of(add(`{"material":"milk-whole","amount":"1 l","state":"raw"}`), until("medium", "often", `"temp_c":70`)),
				of(add("rice-cooked 300 g"), minutes("low", "often", 5), add(`{"material":"milk-whole","amount":"500 ml","state":"raw"}`)),
				of(add("water 400 ml", "rice-short 90 g"), boil, simmer(20), minutes("off", "none", 5),
					add(`{"material":"milk-whole","amount":"500 ml","state":"raw"}`))}},
	}
}

// Nothing alarms that is custom; whatever is a real danger does.
func TestCustomsAndDangers(t *testing.T) {
	for rule, c := range customs(t) {
		require.Len(t, c.customs, 3, rule)
		require.Len(t, c.dangers, 3, rule)
		for k, p := range c.customs {
			for _, one := range watch.Of(rule, p, forecast.Run(p, forecast.Options{})) {
				assert.Equal(t, forecast.Note, one.Severity, "%s: custom %d, %v", rule, k, one.Evidence)
			}
		}
		for k, p := range c.dangers {
			grave := false
			found := watch.Of(rule, p, forecast.Run(p, forecast.Options{}))
			for _, one := range found {
				grave = grave || one.Severity != forecast.Note
			}
			assert.True(t, grave, "%s: danger %d, %v", rule, k, found)
		}
	}
}

// The puddings of cooks have no alarm but those that are told of them.
func TestPuddingsOfCooksAreNotAlarmed(t *testing.T) {
	told := map[string][]watch.ID{
		"custard-no-starch": {"egg-scrambled"}, "scorch-milk-unstirred": {"scorch", "undercooked-grain"},
		"weak-flame-wide-pot": {"weak-flame", "sweet-before-soft", "undercooked-grain"},
	}
	names, err := filepath.Glob("../forecast/testdata/*.bands.json")
	require.NoError(t, err)
	plans := readAll(t, "../forecast/testdata/*.kirdu.json")
	for _, name := range names {
		name = strings.TrimSuffix(filepath.Base(name), ".bands.json")
		p := plans[name+".kirdu.json"]
		for _, one := range watch.Findings(p, forecast.Run(p, forecast.Options{})) {
			if one.Severity != forecast.Note {
				assert.Contains(t, told[name], one.Rule, "%s at step %d: %v", name, one.Step, one.Evidence)
			}
		}
	}
}
