package recipe

import (
	"encoding/json"
	"testing"

	"github.com/stretchr/testify/require"

	"kirdu/core/measure"
	"kirdu/core/pantry"
	"kirdu/core/plan"
)

// Steps that do not do what a sentence names are told, whatever they were read from; those that do are quiet.
func TestNamesAreHeldAgainstTheSteps(t *testing.T) {
	given := func(material, amount, text string) Given {
		return Given{Item: plan.Item{Material: material, Amount: amount}, Text: text}
	}
	c := cookery{reader: NewReader(pantry.Standard(), measure.Measures{}), given: []Given{given("milk-whole", "1 l", "1 l milk"),
		given("rice-short", "80 g", "80 g rice"), given("sugar-white", "80 g", "80 g sugar"), given("cashew", "10 nut", "10 cashews"),
		given("ghee", "1 tbsp", "1 tbsp ghee"), given("banana-ripe", "1 banana", "1 banana")}}
	for _, g := range c.given {
		c.names = append(c.names, c.reader.namesOf(g))
	}
	const boiled = `{"do":"add","items":[{"material":"milk-whole","amount":"1 l"},{"material":"rice-short","amount":"80 g"}]},
		{"do":"heat","until":{"boil":true}},`
	for name, one := range map[string]struct {
		text, before, steps string // the steps of the sentence stand behind those before
		of                  DoubtOf
		words               string
	}{
		"named":     {"Stir in the sugar", boiled, `{"do":"add","items":[{"material":"sugar-white","amount":"80 g"}]}`, "", ""},
		"all of it": {"Add everything", "", `{"do":"add","items":[{"material":"sugar-white","amount":"80 g"}]}`, "", ""},
		"not named": {"Simmer for ten minutes", boiled, `{"do":"add","items":[{"material":"sugar-white","amount":"80 g"}]},
			{"do":"heat","until":{"minutes":10}}`, Unnamed, "white sugar"},
		"not heated": {"Add the sugar and simmer for ten minutes", boiled, `{"do":"add","items":[{"material":"sugar-white","amount":"80 g"}]}`,
			NotDone, "cook it"},
		"not to be heated": {"Add the sugar, do not let it boil", boiled, `{"do":"add","items":[{"material":"sugar-white","amount":"80 g"}]}`,
			"", ""},
		"no pressure": {"Add the sugar and give it two whistles", boiled, `{"do":"add","items":[{"material":"sugar-white","amount":"80 g"}]}`,
			NotDone, "cook it under pressure"},
		"elsewhere":   {"Warm the ghee", boiled, `{"do":"heat","until":{"temp_c":60}}`, Elsewhere, "ghee"},
		"passively":   {"The sugar is stirred in", boiled, ``, InAlready, "white sugar"},
		"not put in":  {"Sprinkle the sugar over each bowl", boiled, ``, InAlready, "white sugar"},
		"before":      {"Stir in the rice", boiled, `{"do":"heat","until":{"minutes":5}}`, InAlready, "short-grain white rice"},
		"to the heat": {"Return the milk to the heat", boiled, `{"do":"heat","until":{"minutes":5}}`, "", ""},
		"a part": {"Stir in the banana", boiled + `{"do":"mash","name":"pulp","items":[{"material":"banana-ripe","amount":"1 banana"}]},`,
			`{"do":"add","items":[{"part":"pulp"}]}`, "", ""},
		"hot":     {"Bake at 150 °C for an hour", boiled, `{"do":"bake","minutes":60,"oven_c":170,"in":"oven"}`, FigureLost, "150 °C"},
		"as said": {"Bake at 300 °F (140 °C with a fan)", boiled, `{"do":"bake","minutes":60,"oven_c":149,"in":"oven"}`, "", ""},
		"fried": {"Finish with the cashews fried in the ghee", boiled,
			`{"do":"add","items":[{"material":"cashew","amount":"10 nut"},{"material":"ghee","amount":"1 tbsp"}]}`, NotDone, "fry"},
		"fried so": {"Finish with the cashews fried in the ghee", boiled, `{"do":"fry","name":"garnish","items":[{"material":"cashew",
			"amount":"10 nut"}],"fat":{"material":"ghee","amount":"1 tbsp"}},{"do":"add","items":[{"part":"garnish"}]}`, "", ""},
		"cooled": {"Wait until it is lukewarm and add the sugar", boiled, `{"do":"add","items":[{"material":"sugar-white","amount":"80 g"}]}`,
			NotDone, "let it cool"},
		"taken out": {"Brown the cashews and lift them out", boiled, `{"do":"add","items":[{"material":"cashew","amount":"10 nut"}]}`, NotDone,
			"take it out"},
		"a half": {"Add half of the sugar", boiled, `{"do":"add","items":[{"material":"sugar-white","amount":"80 g"}]}`, AllOfIt, "white sugar"},
		"halved": {"Add half of the sugar", boiled, `{"do":"add","items":[{"material":"sugar-white","amount":"40 g"}]}`, "", ""},
		"until": {"Add the sugar and cook until half the sugar is brown", boiled,
			`{"do":"add","items":[{"material":"sugar-white","amount":"80 g"}]},{"do":"heat","until":{"minutes":5}}`, "", ""},
		"all ground": {"Grind 40 g of the rice", "", `{"do":"prep","what":"wash","name":"r","items":[{"material":"rice-short",
			"amount":"80 g"}],"minutes":2},{"do":"grind","of":"r","to":"paste","minutes":2}`, AllOfIt, "short-grain white rice"},
		"other water": {"Add the sugar", boiled, `{"do":"add","items":[{"material":"sugar-white","amount":"80 g"},{"material":"water",
			"amount":"4 cup"}]}`, Unnamed, "water"},
		"no flame": {"Add the sugar and take it off as soon as it boils", boiled,
			`{"do":"add","items":[{"material":"sugar-white","amount":"80 g"}]}`, NotDone, "heat"},
		"over one": {"Add the sugar and take it off as soon as it boils", boiled,
			`{"do":"add","items":[{"material":"sugar-white","amount":"80 g"}]},{"do":"heat","until":{"boil":true}}`, "", ""},
		"from one": {"When it boils add the sugar", boiled, `{"do":"add","items":[{"material":"sugar-white","amount":"80 g"}]}`, "", ""},

		"the pot": {"Mash the banana", boiled + `{"do":"add","items":[{"material":"banana-ripe",
			"amount":"1 banana"},{"material":"sugar-white","amount":"80 g"}]},`,
			`{"do":"mash","pct":40}`, WholePot, "ripe banana"},
	} {
		var steps, before []plan.Step
		require.NoError(t, json.Unmarshal([]byte("["+one.before+"{}]"), &before), name)
		before = before[:len(before)-1]
		require.NoError(t, json.Unmarshal([]byte("["+one.steps+"]"), &steps), name)
		s := Sentence{plain: one.text, Passed: len(steps) == 0}
		for k := range steps {
			s.Steps = append(s.Steps, len(before)+k)
		}
		p := &plan.Plan{Steps: append(before, steps...)}
		c.second(p, nil).read(&s, "")
		if one.of == "" {
			require.Empty(t, s.Doubts, name)
			continue
		}
		require.Equal(t, []Doubt{{Of: one.of, Words: one.words}}, s.Doubts, name)
	}
}

// What no sentence has put anywhere is told where it is named, but for what is only washed.
func TestWhatIsPutNowhereIsToldWhereItIsNamed(t *testing.T) {
	c := cookery{reader: NewReader(pantry.Standard(), measure.Measures{}), given: []Given{{Item: plan.Item{Material: "sugar-white",
		Amount: "80 g"}, Text: "80 g sugar"}}}
	c.names = [][]string{c.reader.namesOf(c.given[0])}
	told := func(text string, unplaced ...int) []Doubt {
		s := Sentence{plain: text, Passed: true}
		c.second(&plan.Plan{}, unplaced).read(&s, "")
		return s.Doubts
	}
	require.Equal(t, []Doubt{{Of: NotPut, Words: "80 g sugar"}}, told("Make a syrup of the sugar", 0))
	require.Empty(t, told("Make a syrup of the sugar"), "another sentence has put it in")
	require.Empty(t, told("Rinse the sugar", 0))
}

// What the sentence before names and nothing of went in may go in with this one.
func TestWhatWaitsMayGoIn(t *testing.T) {
	c := cookery{reader: NewReader(pantry.Standard(), measure.Measures{}), given: []Given{{Item: plan.Item{Material: "rice-short",
		Amount: "80 g"},
		Text: "80 g rice"}}}
	c.names = [][]string{c.reader.namesOf(c.given[0])}
	p := &plan.Plan{Steps: []plan.Step{{Do: plan.Add, Items: []plan.Item{c.given[0].Item}}}}
	for waiting, doubts := range map[string]int{"Wash the rice": 0, "": 1} {
		s := Sentence{plain: "Put it on with the milk", Steps: []int{0}}
		c.second(p, nil).read(&s, waiting)
		require.Len(t, s.Doubts, doubts)
	}
}
