package forecast

import (
	"testing"

	"github.com/stretchr/testify/require"

	"kirdu/core/plan"
)

// cooked reads a plan with the given steps in a 22 cm pot and runs it.
func cooked(t *testing.T, steps string) *Forecast {
	t.Helper()
	p, err := plan.Read([]byte(`{"format":"kirdu-plan/1","name":"test","pots":{"main":{"shape":"straight","diameter_mm":220,"height_mm":140}},"steps":[` + steps + `]}`))
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
			{"do":"add","items":[{"part":"coco.2"},{"material":"rice-short","amount":"60 g"}]},` + simmer + `,{"do":"add","items":[{"part":"coco.1"}],"slowly":true}`, strained: 150},
		"melt and strain": {steps: `{"do":"melt","name":"syrup","items":[{"material":"jaggery","amount":"300 g"},{"material":"water","amount":"100 ml"}]},
			{"do":"add","items":[{"material":"water","amount":"500 ml"},{"part":"syrup"}]},` + simmer, strained: 3.9},
		"grate and squeeze": {steps: `{"do":"prep","name":"gourd","what":"grate","items":[{"material":"bottle-gourd","amount":"500 g"}],"minutes":6},
			{"do":"squeeze","of":"gourd","pct":20},{"do":"add","items":[{"material":"milk-whole","amount":"1 l"},{"part":"gourd"}]},` + simmer, drained: 99},
		"steam, then mash": {steps: `{"do":"steam","name":"roots","items":[{"material":"sweet-potato","amount":"300 g"}],"minutes":20},
			{"do":"add","items":[{"material":"milk-whole","amount":"600 ml"},{"part":"roots"}]},{"do":"mash","pct":80},` + simmer, drained: 1},
		"soak, grind, mix": {steps: `{"do":"soak","name":"rice","items":[{"material":"rice-long","amount":"100 g"}],"minutes":60},{"do":"grind","of":"rice","to":"paste"},
			{"do":"mix","name":"batter","items":[{"part":"rice"},{"material":"water","amount":"100 ml"}]},
			{"do":"add","items":[{"material":"milk-whole","amount":"1 l"}]},` + simmer + `,{"do":"add","items":[{"part":"batter"}],"slowly":true},` + simmer},
		"fry and drain": {steps: `{"do":"fry","name":"nuts","items":[{"material":"cashew","amount":"20 g","minutes":2},{"material":"raisin","amount":"20 g"}],"fat":{"material":"ghee","amount":"1 tbsp"}},
			{"do":"add","items":[{"material":"water","amount":"700 ml"},{"material":"sago-small","amount":"50 g"}]},` + simmer + `,{"do":"drain"},
			{"do":"add","items":[{"material":"milk-whole","amount":"500 ml"}]},` + simmer + `,{"do":"add","items":[{"part":"nuts"}],"topping":true}`, drained: 200},
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
// grain sheds less than raw.
func TestWhatPreparationDoes(t *testing.T) {
	milk := `{"do":"add","items":[{"material":"milk-whole","amount":"1 l"}]},{"do":"heat","flame":"high","until":{"boil":true}},
		{"do":"add","items":[{"part":"rice"}]},` + simmer + "," + simmer + "," + simmer
	made := func(preparation string) *Forecast {
		return cooked(t, `{"do":"`+preparation+`,"name":"rice","items":[{"material":"rice-long","amount":"60 g"}]`+`},`+milk)
	}
	plain := made(`soak","minutes":60`)
	paste := cooked(t, `{"do":"soak","name":"rice","items":[{"material":"rice-long","amount":"60 g"}],"minutes":60},{"do":"grind","of":"rice","to":"paste"},`+milk)
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
