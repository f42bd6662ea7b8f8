package forecast

import (
	"testing"

	"github.com/stretchr/testify/require"

	"kirdu/core/plan"
)

// cooked reads a plan with the given steps in a 22 cm pot and runs it.
func cooked(t *testing.T, steps string) *Forecast {
	t.Helper()
	p, err := plan.Read([]byte(`{"format":"kirdu-plan/1","name":"test",
		"pots":{"main":{"shape":"straight","diameter_mm":220,"height_mm":140}},"steps":[` + steps + `]}`))
	require.NoError(t, err)
	return Run(p, Options{NominalOnly: true})
}

const simmer = `{"do":"heat","flame":"medium","until":{"minutes":10}}`

// Every preparation accounts for each gram, in the pot and outside it.
func TestPreparationsKeepMass(t *testing.T) {
	for name, c := range map[string]struct {
		steps    string
		drained  float64 // at least
		strained float64
	}{
		"press": {steps: `{"do":"press","name":"coco","coconuts":2,"presses":[{"water_ml":0},{"water_ml":800,"temp_c":50}]},
			{"do":"add","items":[{"part":"coco.2"},{"material":"rice-short","amount":"60 g"}]},` + simmer +
			`,{"do":"add","items":[{"part":"coco.1"}],"slowly":true}`, strained: 150},
		"melt and strain": {steps: `{"do":"melt","name":"syrup","items":[{"material":"jaggery","amount":"300 g"},
			{"material":"water","amount":"100 ml"}]},
			{"do":"add","items":[{"material":"water","amount":"500 ml"},{"part":"syrup"}]},` + simmer, strained: 3.9},
		"grate and squeeze": {steps: `{"do":"prep","name":"gourd","what":"grate","items":[{"material":"bottle-gourd","amount":"500 g"}],
			"minutes":6},
			{"do":"squeeze","of":"gourd","pct":20},{"do":"add","items":[{"material":"milk-whole","amount":"1 l"},{"part":"gourd"}]},` + simmer,
			drained: 99},
		"steam, then mash": {steps: `{"do":"steam","name":"roots","items":[{"material":"sweet-potato","amount":"300 g"}],"minutes":20},
			{"do":"add","items":[{"material":"milk-whole","amount":"600 ml"},{"part":"roots"}]},{"do":"mash","pct":80},` + simmer},
		"soak, grind, mix": {steps: `{"do":"soak","name":"rice","items":[{"material":"rice-long","amount":"100 g"}],"minutes":60},
			{"do":"grind","of":"rice","to":"paste"},
			{"do":"mix","name":"batter","items":[{"part":"rice"},{"material":"water","amount":"100 ml"}]},
			{"do":"add","items":[{"material":"milk-whole","amount":"1 l"}]},` + simmer +
			`,{"do":"add","items":[{"part":"batter"}],"slowly":true},` + simmer},
		"fry and drain": {steps: `{"do":"fry","name":"nuts","items":[{"material":"cashew","amount":"20 g","minutes":2},
			{"material":"raisin","amount":"20 g"}],"fat":{"material":"ghee","amount":"1 tbsp"}},
			{"do":"add","items":[{"material":"water","amount":"700 ml"},{"material":"sago-small","amount":"50 g"}]},` + simmer + `,{"do":"drain"},
			{"do":"add","items":[{"material":"milk-whole","amount":"500 ml"}]},` + simmer +
			`,{"do":"add","items":[{"part":"nuts"}],"topping":true}`, drained: 200},
	} {
		t.Run(name, func(t *testing.T) {
			f := cooked(t, c.steps)
			b := f.MassBalance
			require.InDelta(t, 0, b.ErrorG, 1e-4*b.InG)
			require.GreaterOrEqual(t, b.DrainedG, c.drained)
			require.GreaterOrEqual(t, b.StrainedG, c.strained)
		})
	}
}

// A paste of soaked rice thickens more than the whole grain, and roasted
// grain leaches less than raw.
func TestWhatPreparationDoes(t *testing.T) {
	milk := `{"do":"add","items":[{"material":"milk-whole","amount":"1 l"}]},{"do":"heat","flame":"high","until":{"boil":true}},
		{"do":"add","items":[{"part":"rice"}]},` + simmer + "," + simmer + "," + simmer
	made := func(preparation string) *Forecast {
		return cooked(t, `{"do":"`+preparation+`,"name":"rice","items":[{"material":"rice-long","amount":"60 g"}]`+`},`+milk)
	}
	plain := made(`soak","minutes":60`)
	paste := cooked(t, `{"do":"soak","name":"rice","items":[{"material":"rice-long","amount":"60 g"}],"minutes":60},
		{"do":"grind","of":"rice","to":"paste"},`+milk)
	require.Greater(t, paste.Thickness.Hot.Value, plain.Thickness.Hot.Value+0.5)
	require.Greater(t, paste.Doneness["rice"].Value, plain.Doneness["rice"].Value)
	raw, roasted := made(`mix","minutes":0`), made(`roast","minutes":4`)
	require.Less(t, roasted.Doneness["rice"].Value, raw.Doneness["rice"].Value)
	require.Less(t, roasted.Thickness.Hot.Value, raw.Thickness.Hot.Value)

	// Hands and clock: the soak runs before minute 0 and takes two minutes' work.
	require.InDelta(t, 60, plain.Steps[0].EndMin-plain.Steps[0].StartMin, 0.01)
	require.InDelta(t, plain.Steps[2].EndMin, plain.Steps[0].EndMin, 0.01, "soaked when the milk boils")
	require.InDelta(t, 60-plain.Steps[2].EndMin, plain.Time.PrepMin, 0.01)
	require.Less(t, plain.Time.HandsOnMin.Value, 40.0)
}

// A pressing is one piece of work that gives several parts; each is there when
// the pot takes it, and the second can be warm.
func TestPressedMilkInThePot(t *testing.T) {
	f := cooked(t, `{"do":"press","name":"coco","coconuts":2,"presses":[{"water_ml":0},{"water_ml":900,"temp_c":60}]},
		{"do":"add","items":[{"part":"coco.2"},{"material":"moong-split","amount":"60 g"}]},`+simmer+`,
		{"do":"heat","flame":"off","until":{"minutes":5}},{"do":"add","items":[{"part":"coco.1"}],"slowly":true}`)
	require.Contains(t, f.Allergens, "coconut")
	require.InDelta(t, 12, f.Steps[0].EndMin-f.Steps[0].StartMin, 0.01, "six minutes a press")
	require.InDelta(t, 0, f.Steps[0].EndMin, 0.01, "before the thin goes in")
	require.Greater(t, *f.Steps[1].TempC, 35.0, "the thin milk is still warm")
	require.Less(t, *f.Steps[1].TempC, 60.0)
	require.InDelta(t, 340*2*0.33, f.FatPct/100*f.Yield.MassG.Value+0.206*317, 12, "the fat is in the pudding or in the pulp")
	require.Greater(t, f.MassBalance.StrainedG, 250.0)
}

// A mix that draws on the served pot takes its share at that heat, as one
// tempers egg.
func TestTemperingDrawsOnThePot(t *testing.T) {
	f := cooked(t, `{"do":"add","items":[{"material":"milk-whole","amount":"1 l"}]},{"do":"heat","flame":"high","until":{"temp_c":80}},
		{"do":"mix","name":"egg","items":[{"material":"egg-whole","amount":"2 eggs"},{"pot":"main","share":0.2}]},
		{"do":"add","items":[{"part":"egg"}],"slowly":true},{"do":"heat","flame":"low","until":{"minutes":4}}`)
	require.InDelta(t, 100+0.2*1030, *f.Steps[2].MassG, 8)
	require.InDelta(t, 0, f.MassBalance.ErrorG, 0.01)
	require.Contains(t, f.Allergens, "egg")
	require.Greater(t, *f.Steps[3].TempC, 70.0, "the tempered egg cools the pot little")
}

// Garnish on top counts for yield and energy, not for sweetness or thickness.
func TestGarnishOnTop(t *testing.T) {
	base := `{"do":"add","items":[{"material":"milk-whole","amount":"1 l"},{"material":"rice-short","amount":"60 g"}]},` + simmer
	plain := cooked(t, base)
	fried := cooked(t, `{"do":"fry","name":"top","items":[{"material":"cashew","amount":"30 g","minutes":3},
		{"material":"raisin","amount":"20 g","minutes":1}],"fat":{"material":"ghee","amount":"15 g"}},`+base+`,{"do":"add",
			"items":[{"part":"top"}],"topping":true}`)
	require.InDelta(t, plain.Yield.MassG.Value+65, fried.Yield.MassG.Value, 0.5)
	require.InDelta(t, plain.Sweetness.Pct.Value, fried.Sweetness.Pct.Value, 0.05)
	require.InDelta(t, plain.Thickness.Hot.Value, fried.Thickness.Hot.Value, 0.02)
	require.Greater(t, fried.Nutrition.EnergyKcal, plain.Nutrition.EnergyKcal+50)
	require.Contains(t, fried.Allergens, "treenut")
	require.InDelta(t, 4, fried.Time.HandsOnMin.Value-plain.Time.HandsOnMin.Value, 0.1, "in turn: three minutes and one")
}

// What soaks beside another preparation is drained once and hydrates from its
// own bath.
func TestSoakingInAnotherLiquid(t *testing.T) {
	steps := func(keep string) string {
		return `{"do":"soak","name":"rice","items":[{"material":"rice-short","amount":"100 g"}],
			"minutes":60,"in":{"material":"milk-whole","amount":"200 g"}` + keep + `},
			{"do":"add","items":[{"material":"milk-whole","amount":"800 ml"},{"part":"rice"}]},` + simmer
	}
	poured, kept := cooked(t, steps("")), cooked(t, steps(`,"keep_liquid":true`))
	require.InDelta(t, 200-30*0.94, poured.MassBalance.DrainedG, 6)
	require.Zero(t, kept.MassBalance.DrainedG)
	require.Greater(t, kept.Yield.MassG.Value, poured.Yield.MassG.Value+150)
	for _, f := range []*Forecast{poured, kept} {
		require.InDelta(t, 0, f.MassBalance.ErrorG, 0.01)
	}
}

func BenchmarkPreparedForecast(b *testing.B) {
	p, err := plan.Read([]byte(`{"format":"kirdu-plan/1","name":"test",
		"pots":{"main":{"shape":"straight","diameter_mm":220,"height_mm":140}},"steps":[
		{"do":"press","name":"coco","coconuts":2,"presses":[{"water_ml":0},{"water_ml":900}]},{"do":"soak","name":"rice",
			"items":[{"material":"rice-short","amount":"90 g"}],"minutes":60},
		{"do":"add","items":[{"part":"coco.2"},{"part":"rice"}]},{"do":"heat","flame":"medium","until":{"minutes":30}},{"do":"add",
			"items":[{"part":"coco.1"}]}]}`))
	if err != nil {
		b.Fatal(err)
	}
	for b.Loop() {
		Run(p, Options{})
	}
}
