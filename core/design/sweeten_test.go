package design_test

import (
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/require"

	"kirdu/core/design"
	"kirdu/core/forecast"
	"kirdu/core/plan"
)

func reducedRice(t *testing.T) *plan.Plan {
	t.Helper()
	p, err := plan.Read([]byte(`{"format":"kirdu-plan/1","name":"x","pots":{"main":{"shape":"straight","diameter_mm":220,"height_mm":120}},
		"steps":[
		{"do":"add","items":[{"material":"milk-whole","amount":"1.2 l"},{"material":"rice-short","amount":"110 g"}]},
		{"do":"heat","flame":"high","stir":"often","until":{"boil":true}},
		{"do":"heat","flame":"medium","stir":"often","until":{"remaining_pct":72}},
		{"do":"add","items":[{"material":"sugar-white","amount":"95 g"}]},
		{"do":"heat","flame":"medium-low","stir":"often","until":{"minutes":5}}]}`))
	require.NoError(t, err)
	return p
}

// The sugar goes in at any minute and comes out at any other as if it had gone
// there at once: the steps that it parts grow together again.
func TestSweetenAtAnyMinute(t *testing.T) {
	p := reducedRice(t)
	f := forecast.Run(p, forecast.Options{NominalOnly: true})
	s, ok := design.SweeteningOf(p, f)
	require.True(t, ok)
	require.Less(t, s.From, s.Minute)
	require.Less(t, s.Minute, s.To+dissolves)
	at := p
	for _, minute := range []float64{0, 4, 12, 20, 28, 33, s.End, s.Minute} {
		moved, ok := design.SweetenAt(at, minute)
		require.True(t, ok)
		moved, err := plan.Reread(moved)
		require.NoError(t, err)
		g := forecast.Run(moved, forecast.Options{NominalOnly: true})
		now, ok := design.SweeteningOf(moved, g)
		require.True(t, ok)
		require.InDelta(t, min(minute, now.End), now.Minute, 2.6, "minute %v", minute)
		require.LessOrEqual(t, len(moved.Steps), len(p.Steps)+1)
		require.InDelta(t, f.Yield.MassG.Value, g.Yield.MassG.Value, 0.04*f.Yield.MassG.Value, "it is reduced as far, minute %v", minute)
		at = moved
	}
	require.Len(t, at.Steps, len(p.Steps))
}

const dissolves = 5.0

// Sugar from the start delays the grain, and the good window says so.
func TestEarlySugarDelays(t *testing.T) {
	p := reducedRice(t)
	early, ok := design.SweetenAt(p, 0)
	require.True(t, ok)
	late := forecast.Run(p, forecast.Options{NominalOnly: true}).Doneness["rice-short"].Value
	require.Less(t, forecast.Run(early, forecast.Options{NominalOnly: true}).Doneness["rice-short"].Value, late-0.2)
}

// Every question has an answer that can be cooked, and differs from the plan in
// what it says.
func TestVariants(t *testing.T) {
	for _, w := range plan.Ways() {
		choice, err := w.Check(plan.WayChoice{})
		require.NoError(t, err)
		choice.Bowls, choice.Burner = 6, reducedRice(t).Burner
		p, err := w.Start(choice)
		require.NoError(t, err)
		all := design.Variants(p)
		require.GreaterOrEqual(t, len(all), 1, w.Name)
		for _, v := range all {
			require.NotEmpty(t, plan.Differences(p, v.Plan), "%s, %s", w.Name, v.Label)
			f := forecast.Run(v.Plan, forecast.Options{NominalOnly: true})
			require.InDelta(t, 0, f.MassBalance.ErrorG, 0.01*f.MassBalance.InG)
		}
	}
	keys := map[string]bool{}
	for _, v := range design.Variants(reducedRice(t)) {
		keys[v.Key] = true
	}
	require.Equal(t, map[string]bool{"sugar": true, "cooker": true, "reduction": true, "soda": true, "soak": true, "grain": true,
		"serve": true}, keys)
}

// What fruit and milk bring is counted, and adds up to the sweetness.
func TestSweetnessFromEach(t *testing.T) {
	p := reducedRice(t)
	p.Steps[0].Items = append(p.Steps[0].Items, plan.Item{Material: "date-pulp", Amount: "60 g"})
	p, err := plan.Reread(p)
	require.NoError(t, err)
	f := forecast.Run(p, forecast.Options{NominalOnly: true})
	sum := 0.0
	list := design.SweetnessFrom(p, f)
	for _, one := range list {
		sum += one.Pct
	}
	require.Equal(t, "sugar-white", list[0].Material)
	require.InDelta(t, f.Sweetness.Pct.Value, sum, 0.15)
	slug, grams := design.GramsPerPercent(p, f)
	require.Equal(t, "sugar-white", slug)
	more := p.Clone()
	_, mass, err := more.Weigh(more.Steps[3].Items[0])
	require.NoError(t, err)
	more.ScaleSweeteners(float64((mass + grams) / mass))
	after := forecast.Run(more, forecast.Options{NominalOnly: true})
	require.InDelta(t, f.Sweetness.Pct.Value+1, after.Sweetness.Pct.Value, 0.12, "so many grams are a per cent")
}

// A pulse is sweetened later than a grain, and never in a closed cooker.
func TestWindowOfAPulse(t *testing.T) {
	p, err := plan.Read([]byte(`{"format":"kirdu-plan/1","name":"x","pots":{"main":{"shape":"straight","diameter_mm":220,"height_mm":140}},
		"steps":[
		{"do":"add","items":[{"material":"moong-split","amount":"120 g"},{"material":"water","amount":"600 ml"}]},{"do":"pressure","whistles":3},
		{"do":"add","items":[{"material":"jaggery","amount":"120 g"}]},{"do":"heat","flame":"medium-low","until":{"minutes":12}}]}`))
	require.NoError(t, err)
	f := forecast.Run(p, forecast.Options{NominalOnly: true})
	s, ok := design.SweeteningOf(p, f)
	require.True(t, ok)
	require.True(t, s.Acid)
	require.InDelta(t, f.Steps[1].EndMin, s.From, 1e-6)
	require.InDelta(t, f.Steps[3].EndMin-3, s.To, 1e-6)
	plain, err := plan.Read([]byte(`{"format":"kirdu-plan/1","name":"x",
		"pots":{"main":{"shape":"straight","diameter_mm":220,"height_mm":140}},"steps":[{"do":"add",
			"items":[{"material":"milk-whole","amount":"1 l"}]},{"do":"heat","flame":"high","until":{"boil":true}}]}`))
	require.NoError(t, err)
	_, ok = design.SweeteningOf(plain, forecast.Run(plain, forecast.Options{NominalOnly: true}))
	require.False(t, ok)
	_, ok = design.SweetenAt(plain, 3)
	require.False(t, ok)
}

// Whatever is drained, strained or laid on top: the parts add up to what is shown.
func TestSweetnessAddsUp(t *testing.T) {
	names, err := filepath.Glob("../forecast/testdata/*.kirdu.json")
	require.NoError(t, err)
	require.NotEmpty(t, names)
	for _, name := range names {
		data, err := os.ReadFile(name)
		require.NoError(t, err)
		p, err := plan.Read(data)
		require.NoError(t, err)
		f := forecast.Run(p, forecast.Options{NominalOnly: true})
		sum := 0.0
		for _, one := range design.SweetnessFrom(p, f) {
			require.Positive(t, one.Pct, "%s: %s", name, one.Material)
			sum += one.Pct
		}
		require.InDelta(t, f.Sweetness.Pct.Value, sum, 0.0501, name)
	}
}
