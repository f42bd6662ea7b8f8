package words_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"kirdu/core/design"
	"kirdu/core/measure"
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
	text := strings.ToLower(fmt.Sprint(found))
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

// Whatever is changed in a plan is told, if not by its amount: no version differs in silence.
func TestNothingDiffersInSilence(t *testing.T) {
	p := plantest.Trials(t)["mung-two-coconuts"]
	half, warm, five := 0.5, measure.Celsius(40), measure.Minute(5)
	sweet := 14.0
	changes := map[string]func(q *plan.Plan){
		"sign": func(q *plan.Plan) { q.Steps[0].Sign = "it smells" }, "note": func(q *plan.Plan) { q.Steps[4].Note = "as always" },
		"pan": func(q *plan.Plan) { q.Steps[0].Pan = "" }, "fat": func(q *plan.Plan) { q.Steps[6].Fat.Material = "butter" },
		"share": func(q *plan.Plan) { q.Steps[7].Items[0].Share = &half }, "warmth": func(q *plan.Plan) { q.Steps[7].TempC = &warm },
		"manner":   func(q *plan.Plan) { q.Steps[7].Manner = []plan.Manner{plan.Whisking} },
		"press":    func(q *plan.Plan) { q.Steps[2].Presses[1].TempC = &warm },
		"strain":   func(q *plan.Plan) { no := false; q.Steps[1].Strain = &no },
		"whistles": func(q *plan.Plan) { q.Steps[4].Whistles = 3 }, "guard": func(q *plan.Plan) { q.Steps[8].Until.MaxMinutes = &five },
		"optional": func(q *plan.Plan) { q.Steps[6].Items[0].Optional = true },
		"minutes":  func(q *plan.Plan) { q.Steps[6].Items[0].Minutes = &five },
		"heavy":    func(q *plan.Plan) { pot := q.Pots[plan.MainPot]; pot.Heavy = true; q.Pots[plan.MainPot] = pot },
		"no pot":   func(q *plan.Plan) { delete(q.Pots, "frying pan") }, "days": func(q *plan.Plan) { q.KeepDays = 2 },
		"sweet":    func(q *plan.Plan) { q.Aim = &plan.Aim{SweetPct: &sweet} },
		"eaters":   func(q *plan.Plan) { q.Eaters = &plan.Eaters{UnderFive: true} },
		"bowl":     func(q *plan.Plan) { q.PortionG = 180 },
		"burner":   func(q *plan.Plan) { q.Burners = map[string]vessel.Burner{"b": vessel.DefaultBurner()} },
		"softness": func(q *plan.Plan) { q.Aim = &plan.Aim{Doneness: map[string]float64{"gram": 2}} },
	}
	for name, change := range changes {
		q := p.Clone()
		change(q)
		told := words.Printer{}.Differences(p, q)
		require.NotEmpty(t, told, name)
		for _, d := range told {
			require.NotEmpty(t, d.What, name)
			require.NotEqual(t, d.From, d.To, name)
		}
	}
}
