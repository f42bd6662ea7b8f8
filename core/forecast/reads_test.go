package forecast_test

import (
	"math"
	"testing"

	"github.com/stretchr/testify/require"

	"kirdu/core/forecast"
	"kirdu/core/plan"
)

func readSteps(t *testing.T, steps string) *forecast.Forecast {
	t.Helper()
	p, err := plan.Read([]byte(`{"format":"kirdu-plan/1","name":"x","pots":{"main":{"shape":"straight","diameter_mm":220,"height_mm":130}},
		"steps":[` + steps + `]}`))
	require.NoError(t, err)
	return forecast.Run(p, forecast.Options{NominalOnly: true})
}

const riceInMilk = `{"do":"add","items":[{"material":"milk-whole","amount":"1 l"},{"material":"rice-short","amount":"90 g"}]},
	{"do":"heat","flame":"high","until":{"boil":true}},{"do":"heat","flame":"medium-low","until":{"minutes":40}}`

func TestDoneAtReadsTheCurve(t *testing.T) {
	f := readSteps(t, riceInMilk)
	half, whole := f.DoneAt("rice-short", 0.5), f.DoneAt("rice-short", 1)
	require.Less(t, half, whole)
	require.InDelta(t, 2, whole/half, 0.5, "doneness rises nearly evenly")
	require.True(t, math.IsInf(f.DoneAt("rice-short", 9), 1))
	require.True(t, math.IsInf(f.DoneAt("nothing", 1), 1))
}

func TestMostScorchFindsItsStep(t *testing.T) {
	f := readSteps(t, riceInMilk)
	step, index := f.MostScorch()
	require.Contains(t, []int{1, 2}, step)
	require.Positive(t, index)
	step, index = readSteps(t, `{"do":"add","items":[{"material":"milk-whole","amount":"1 l"}]},{"do":"rest","minutes":5}`).MostScorch()
	require.Equal(t, -1, step)
	require.Zero(t, index)
}

// What the rules look at beside the document.
func TestTraces(t *testing.T) {
	f := readSteps(t, `{"do":"add","items":[{"material":"milk-whole","amount":"1 l"},{"material":"pear","amount":"300 g"}]},
		{"do":"heat","flame":"high","until":{"boil":true}}`)
	require.True(t, f.Trace[1].Boiled)
	require.True(t, f.Trace[1].SplitPH.Below(6.7))
	require.True(t, f.Trace[1].RawTissue.Below(0.6))
	require.Equal(t, "pear", f.Trace[1].RawName)
	require.False(t, f.Trace[0].MinFreeWater.Seen)

	stable := readSteps(t, `{"do":"add","items":[{"material":"evaporated-milk","amount":"1 l"},
		{"material":"mango-pulp","amount":"300 g"}]},{"do":"heat","flame":"high","until":{"boil":true}}`)
	require.False(t, stable.Trace[1].SplitPH.Seen, "milk that is stabilised does not split")

	egg := readSteps(t, `{"do":"add","items":[{"material":"egg-whole","amount":"100 g"},{"material":"milk-whole","amount":"300 ml"}]},
		{"do":"heat","flame":"medium","stir":"constant","until":{"temp_c":76}}`)
	require.InDelta(t, 76, egg.Trace[1].EggC, 1)
	require.Zero(t, f.Trace[1].EggC)

	dry := readSteps(t, `{"do":"add","items":[{"material":"butter","amount":"40 g"},{"material":"rice-short","amount":"150 g"}]},
		{"do":"heat","flame":"medium","until":{"minutes":3}}`)
	require.False(t, dry.Trace[1].DryFor > 0, "the drops in butter are no liquid")
	caramel := readSteps(t, `{"do":"caramel","items":[{"material":"sugar-white","amount":"90 g"}],"until":"amber"}`)
	require.InDelta(t, 172, caramel.Trace[0].CaramelC, 1)
}

func TestPartsSayWhatTheyAreLikedAt(t *testing.T) {
	f := readSteps(t, `{"do":"add","items":[{"material":"water","amount":"700 ml"},{"material":"moong-split","amount":"120 g"},
		{"material":"rice-short","amount":"40 g"}]},{"do":"heat","flame":"medium","until":{"minutes":30}}`)
	require.True(t, f.Parts["moong-split"].AcidHardens)
	require.False(t, f.Parts["rice-short"].AcidHardens)
	share := f.Parts["moong-split"].VolumeShare + f.Parts["rice-short"].VolumeShare
	require.True(t, share > 0.2 && share < 1, "%v", share)
	require.Greater(t, f.Parts["moong-split"].VolumeShare, f.Parts["rice-short"].VolumeShare)
}
