package plan_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"kirdu/core/measure"
	"kirdu/core/pantry"
	"kirdu/core/plan"
	"kirdu/core/vessel"
)

func reader() *plan.Reader {
	return plan.NewReader(pantry.Standard(), measure.Measures{"tin_g": 400, "tumbler_ml": 220})
}

func readLine(t *testing.T, text string) plan.Line {
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
		"unknown unit":        {"2 cupz milk", "milk-whole", "amount", "Give a unit"},
		"no number":           {"1/0 cup milk", "milk-whole", "amount", "is no number"},
		"below nothing":       {"-3 cups milk", "milk-whole", "amount", "below 0"},
		"nothing at all":      {"0 g sugar", "sugar-white", "amount", "above 0"},
		"endless":             {"∞ cups milk", "milk-whole", "material", "Is this"},
		"not in the pantry":   {"2 tbsp fish sauce", "", "material", "not in the pantry"},
		"another thing":       {"50 g peanut butter", "butter", "material", "Is this"},
		"two things":          {"1 cup coconut water", "coconut-meat", "material", "Is this"},
		"misspelt":            {"200 g jagery", "jaggery", "material", "Is this"},
		"no piece":            {"3 milk", "milk-whole", "amount", "Give a unit"},
		"right to left":       {"\u200f2 كوب حليب", "", "material", "not in the pantry"},
		"a paragraph":         {strings.Repeat("stir the milk and ", 40), "", "material", "too long"},
		"more than a kitchen": {"5000 kg rice", "rice-short", "amount", "100 kg"},
		"only a number":       {"42", "", "material", "What is it"},
	}
	for name, c := range cases {
		t.Run(name, func(t *testing.T) {
			l := readLine(t, c.text)
			require.Equal(t, c.material, l.Material)
			require.False(t, l.Understood())
			said := ""
			for _, ask := range l.Asks {
				if ask.Field == c.field {
					said += ask.Message
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

	mug := plan.NewReader(pantry.Standard(), measure.Measures{"blue-mug_ml": 312, "ladle_ml": 120})
	for text, want := range map[string]string{"2 blue mugs milk": "2 blue-mug", "½ blue mug of milk": "0.5 blue-mug", "3 ladles milk": "3 ladle", "milk - 1 blue mug": "1 blue-mug"} {
		lines, err := mug.Read(text)
		require.NoError(t, err)
		require.True(t, lines[0].Understood(), "%+v", lines[0])
		require.Equal(t, want, lines[0].Amount)
		require.Equal(t, "milk-whole", lines[0].Material)
	}

	_, err = reader().Read(strings.Repeat("1 cup milk\n", 10_000))
	require.ErrorIs(t, err, plan.ErrLongList)
}

// FuzzIntake: no text breaks the reader, no line is dropped, and what is
// understood can be weighed.
func FuzzIntake(f *testing.F) {
	for _, seed := range []string{"1 1/2 cups rice", "2 x 400 g tins", "½", "-3", "1/0 cup", "(((", "a a a half", "1-1-1 - - to 2", "२ cup दूध", "1 dozen dozen"} {
		f.Add(seed)
	}
	r := reader()
	f.Fuzz(func(t *testing.T, text string) {
		lines, err := r.Read(text)
		if err != nil {
			require.ErrorIs(t, err, plan.ErrLongList)
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
	list := "1 l milk\n100 g short-grain rice\n2 tbsp ghee\n10 cashews\n80 g sugar\n1 bay leaf\n1/2 tsp cardamom powder\n200 ml thick coconut milk\n20 g cornflour"
	lines, err := reader().Read(list)
	require.NoError(t, err)
	var items []plan.Item
	for _, l := range lines {
		require.True(t, l.Understood(), "%+v", l)
		items = append(items, plan.Item{Material: l.Material, Amount: l.Amount})
	}
	choice := plan.WayChoice{Bowls: 6, Serve: plan.Hot, Pot: vessel.Pot{Shape: vessel.Straight, DiameterMM: 220, HeightMM: 140}, Burner: vessel.DefaultBurner()}
	p, err := plan.Arrange("Sunday pudding", choice, items, pantry.Standard())
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

	_, err = plan.Arrange("dry", choice, items[1:2], pantry.Standard())
	require.ErrorIs(t, err, plan.ErrNoLiquid)
}
