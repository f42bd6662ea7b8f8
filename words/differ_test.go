package words_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"kirdu/core/design"
	"kirdu/core/plan"
	"kirdu/core/vessel"
	"kirdu/plantest"
	"kirdu/words"
)

func TestDifferencesSayWhatChanged(t *testing.T) {
	p := plantest.WithSteps(t, plantest.MilkAndRice, plantest.Boil, plantest.UntilSoft, plantest.SugarIn)
	require.Empty(t, words.Printer{}.Differences(p, p))
	q := p.Clone()
	q.Name, q.Serves, q.Serve = "other", 8, plan.Chilled
	q.Steps[0].Items[1].Amount = "120 g"
	q.Steps[2].Flame = vessel.Low
	require.True(t, q.MoveStep(3, 1))
	require.NoError(t, q.Prepare(0, 1, "soak", 30))
	found := map[string]words.Difference{}
	for _, d := range (words.Printer{}).Differences(p, q) {
		found[d.What] = d
	}
	require.Equal(t, words.Difference{What: "bowls", From: "6", To: "8"}, found["bowls"])
	require.Equal(t, words.Difference{What: "short-grain white rice", From: "90 g", To: "120 g"}, found["short-grain white rice"])
	require.NotContains(t, found, "whole milk")
	text := fmt.Sprint(found)
	for _, words := range []string{"soak", "low flame", "chilled", "white sugar"} {
		require.Contains(t, text, words)
	}
}

func TestDifferencesOfMaterialsThatComeAndGo(t *testing.T) {
	p := plantest.WithSteps(t, plantest.MilkAndRice, plantest.Boil, plantest.UntilSoft, plantest.SugarIn)
	q := plantest.WithSteps(t, plantest.MilkAndRice, plantest.Boil, plantest.UntilSoft,
		`{"do":"add","items":[{"material":"jaggery","amount":"90 g"}]}`)
	found := map[string]words.Difference{}
	for _, d := range (words.Printer{}).Differences(p, q) {
		found[d.What] = d
	}
	require.Equal(t, words.Difference{What: "white sugar", From: "80 g"}, found["white sugar"])
	jaggery, ok := p.Pantry().Material("jaggery")
	require.True(t, ok)
	require.Equal(t, "90 g", found[strings.ToLower(jaggery.ShortName())].To)
	require.Len(t, words.Printer{}.Differences(q, p), len(words.Printer{}.Differences(p, q)), "as many the other way round")
}

func TestEveryWayOfScalingHasWords(t *testing.T) {
	for _, kind := range []design.ScaleKind{design.ByTheClock, design.ToTheMark, design.ReduceFirst, design.OtherPot, design.OtherBurner,
		design.OtherFlame, design.TwoPots, design.LessMilk, design.JustAmounts} {
		require.NotEmpty(t, words.Printer{}.Scaling(kind, design.Means{Pot: "the wide pan"}), kind)
	}
	require.Equal(t, "Less milk, reduced less, in the wide pan", words.Printer{}.Scaling(design.LessMilk, design.Means{Pot: "the wide pan"}))
	require.Equal(t, "Over the stronger flame: front, the milk reduced first, the wide pan",
		words.Printer{}.Scaling(design.OtherBurner, design.Means{Pot: "the wide pan", Burner: "front", ReducedFirst: true}))
	require.Equal(t, "Reduce over a low flame", words.Printer{}.Scaling(design.OtherFlame, design.Means{Flame: vessel.Low}))
}
