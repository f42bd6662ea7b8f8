package words_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"kirdu/core/cook"
	"kirdu/core/learn"
	"kirdu/core/plan"
	"kirdu/core/rescue"
	"kirdu/words"
)

// TestWhatIsToldHasWords holds that everything that can be told at the stove, but the
// taps that only move on, is said in a few words.
func TestWhatIsToldHasWords(t *testing.T) {
	p, _ := pudding(t, `{"do":"add","items":[{"material":"milk-whole","amount":"1 l"},{"material":"rice-short","amount":"80 g"}]},
		{"do":"heat","flame":"medium","until":{"minutes":20}},{"do":"add","items":[{"material":"sugar-white","amount":"90 g"}]}`)
	s := learn.LogOf(p, time.Now(), nil).Fold()
	for want, e := range map[string]cook.Event{
		"weighed 1 105 g":                     {Kind: cook.Weighed, Mass: 1105},
		"dipped 34 mm":                        {Kind: cook.Dipped, MM: 34.2},
		"off the spoon Ladle":                 {Kind: cook.Spooned, Value: 4},
		"92 °C in the middle":                 {Kind: cook.Probed, Value: 92},
		"tasted: not sweet enough":            {Kind: cook.Tasted, Value: cook.NotSweet},
		"tasted: too sweet":                   {Kind: cook.Tasted, Value: cook.TooSweet},
		"tasted: just right":                  {Kind: cook.Tasted, Value: cook.SweetRight},
		"a whistle":                           {Kind: cook.Whistled},
		"200 g more whole milk":               {Kind: cook.Added, Material: "milk-whole", Mass: 200},
		"Flame at 15 %":                       {Kind: cook.Turned, Value: 15},
		"Off the flame":                       {Kind: cook.Paused},
		"White sugar in already":              {Kind: cook.Early, Step: 2, Item: 1},
		"White sugar not in yet":              {Kind: cook.Forgot, Step: 2},
		"Without white sugar":                 {Kind: cook.Skipped, Step: 2},
		"90 g jaggery instead of white sugar": {Kind: cook.Swapped, Step: 2, Item: 1, Material: "jaggery", Mass: 90},
		"Loosen it":                           {Kind: cook.Mended, Mend: &cook.Mend{Title: "Loosen it"}},
		"":                                    {Kind: cook.Next, Step: 1},
	} {
		require.Equal(t, want, plainSpaces(words.Printer{}.Told(&s, e)), e.Kind)
	}
	felt := words.Printer{}.Told(&s, cook.Event{Kind: cook.Felt, Part: "rice-short", Value: 1.1})
	require.Contains(t, felt, "rice")
	require.Contains(t, felt, "felt")
	require.Equal(t, "Without it", words.Printer{}.Told(&s, cook.Event{Kind: cook.Skipped, Step: 77}), "a step of a newer log")
	require.Empty(t, words.Printer{}.Told(&s, cook.Event{Kind: "sung"}))
}

func TestWhatStaysBehindIsSaid(t *testing.T) {
	share := 0.08
	p, f := pudding(t, `{"do":"add","items":[{"material":"milk-whole","amount":"1 l"}]},{"do":"heat","flame":"medium","until":{"minutes":5}}`)
	p.EnsurePot(rescue.LeftPot)
	p.Steps = append(p.Steps, plan.Step{Do: plan.Add, Pot: rescue.LeftPot, Items: []plan.Item{{Pot: plan.MainPot, Share: &share}}})
	words := words.Printer{}.Step(p, f, 2)
	require.Equal(t, "Leave what sticks behind", words.Title)
	require.Equal(t, "about 8 %", words.Detail)
}
