package forecast

import (
	"encoding/json"
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"kirdu/core/plan"
)

const lentils = `{"do":"add","items":[{"material":"moong-split","amount":"240 g"},{"material":"water","amount":"620 ml"}]}`

// By hand: 860 g of lentils and water take 620 + 0.103 x 240 g of water and 215
// g of dry matter to 118 °C: (645 x 4.18 + 215 x 1.9 + 1011 of the pot) x 94 J = 387 kJ,
// over 990 W less some 45 W about 6.8 min. Four whistles are 4 x 2.5 - 1.5 = 8.5 min; natural
// release 4 + 3 x 0.83 = 6.5 min.
func TestPressureByHand(t *testing.T) {
	f := cooked(t, lentils+`,{"do":"pressure","whistles":4}`)
	step := f.Steps[1]
	require.InDelta(t, 6.8+8.5+6.5, step.EndMin-step.StartMin, 0.8)
	require.InDelta(t, 98, *step.TempC, 0.5)
	require.InDelta(t, 32, f.MassBalance.VentedG, 0.01, "8 g a whistle")
	require.Zero(t, f.MassBalance.EvaporatedG)
	require.InDelta(t, 6.8+8.5, f.Time.FlameMin.Value, 0.8, "the flame is off while the pressure falls")
	require.Less(t, f.Time.HandsOnMin.Value, 2.0)
	require.Greater(t, step.Doneness["moong-split"], 1.5)

	quick := cooked(t, lentils+`,{"do":"pressure","whistles":4,"release":"quick"}`)
	require.Less(t, quick.Time.TotalMin.Value, f.Time.TotalMin.Value-5)
	require.Less(t, quick.Steps[1].Doneness["moong-split"], step.Doneness["moong-split"])
	// Letting it off flashes m cp 18 K/h_fg away.
	require.InDelta(t, 32+(645*4.18+215*1.9)*18/2257, quick.MassBalance.VentedG, 4)

	minutes := cooked(t, lentils+`,{"do":"pressure","minutes":8.5}`)
	require.InDelta(t, step.Doneness["moong-split"], minutes.Steps[1].Doneness["moong-split"], 0.02)
	high := cooked(t, strings.Replace(lentils, `{"do"`, `{"note":"x","do"`, 1)+`,{"do":"pressure","whistles":1}`)
	require.InDelta(t, 1, high.Steps[1].EndMin-high.Steps[1].StartMin-6.8-6.6, 0.9, "one whistle is a minute at least")
}

func TestCoolingAndHolding(t *testing.T) {
	hot := `{"do":"add","items":[{"material":"milk-whole","amount":"1 l"}]},{"do":"heat","flame":"high","until":{"boil":true}}`
	cooling := func(step string) StepResult {
		f := cooked(t, hot+","+step)
		require.InDelta(t, 0, f.MassBalance.ErrorG, 0.01)
		return f.Steps[2]
	}
	counter, bath := cooling(`{"do":"cool","to_c":40}`), cooling(`{"do":"cool","to_c":40,"where":"water-bath"}`)
	fridge := cooling(`{"do":"cool","to_c":40,"where":"fridge"}`)
	for _, s := range []StepResult{counter, bath, fridge} {
		require.InDelta(t, 40, *s.TempC, 0.3)
	}
	require.Less(t, bath.EndMin-bath.StartMin, 0.3*(counter.EndMin-counter.StartMin))
	open := cooling(`{"do":"cool","to_c":40,"lid":false}`)
	require.Less(t, open.EndMin-open.StartMin, counter.EndMin-counter.StartMin, "steam carries heat away")
	require.Less(t, *open.MassG, *counter.MassG)

	f := cooked(t, hot+`,{"do":"cool","to_c":10}`)
	require.InDelta(t, 26, f.Trace[2].CoolsTo.Value, 0.1, "no counter is that cold")
	require.InDelta(t, 26, *f.Steps[2].TempC, 0.3)
	require.False(t, f.Trace[2].NeverReached)
	kept := cooling(`{"do":"hold","minutes":60,"temp_c":65}`)
	require.InDelta(t, 65, *kept.TempC, 1e-6)
	require.InDelta(t, 60, kept.EndMin-kept.StartMin, 1e-3)
}

func TestOvens(t *testing.T) {
	cold := `{"do":"mix","name":"meal","items":[{"material":"milk-whole","amount":"250 ml"},{"material":"cornmeal","amount":"60 g"}],
		"minutes":15},
		{"do":"add","items":[{"material":"milk-whole","amount":"750 ml"},{"part":"meal"}]}`
	baked := func(step string) *Forecast {
		f := cooked(t, cold+","+step)
		require.InDelta(t, 0, f.MassBalance.ErrorG, 0.01, step)
		return f
	}
	oven := baked(`{"do":"bake","oven_c":175,"minutes":90}`)
	covered := baked(`{"do":"bake","oven_c":175,"minutes":90,"covered":true}`)
	slow := baked(`{"do":"bake","in":"slow-cooker","minutes":90}`)
	gentle := baked(`{"do":"bake","oven_c":80,"minutes":90}`)
	wave := baked(`{"do":"bake","in":"microwave","power_w":700,"minutes":18,"stir_every_min":4.5}`)
	// After 90 minutes, 3.6 time constants, it is within three per cent of the span.
	require.InDelta(t, 92, *oven.Steps[2].TempC, 2.5)
	require.InDelta(t, 97, *covered.Steps[2].TempC, 2.5)
	require.InDelta(t, 92, *slow.Steps[2].TempC, 2.5)
	require.InDelta(t, 80, *gentle.Steps[2].TempC, 2)
	require.Greater(t, oven.MassBalance.EvaporatedG, 4*covered.MassBalance.EvaporatedG)
	require.Greater(t, covered.Steps[2].Doneness["meal"], slow.Steps[2].Doneness["meal"])
	require.InDelta(t, 4*0.5+3, wave.Time.HandsOnMin.Value, 1.2, "stirred four times, and mixed before")
	require.Greater(t, *wave.Steps[2].TempC, 90.0)
}

// By hand: 75 g of sugar from 24 to 172 °C are 75 x (1.3 x 148 + 60) J = 18.9 kJ and the
// pot under it, 2020 g x 0.5, 149.6; over 495 W less some 28 W on average 6.0 min.
func TestCaramelByHand(t *testing.T) {
	brown := func(until string) *Forecast {
		return cooked(t, `{"do":"caramel","items":[{"material":"sugar-white","amount":"75 g"}],`+until+`},{"do":"add",
			"items":[{"material":"milk-whole","amount":"500 ml"}],"temp_c":60},`+simmer)
	}
	amber := brown(`"until":"amber"`)
	require.InDelta(t, 6.0, amber.Steps[0].EndMin-amber.Steps[0].StartMin, 0.3)
	require.InDelta(t, 67.5, *amber.Steps[0].MassG, 0.3, "amber loses a tenth")
	require.InDelta(t, 75*0.85/67.5*100, *amber.Steps[0].SweetPct, 0.8, "and 15 % of its sweetness")
	require.InDelta(t, 0, amber.MassBalance.ErrorG, 0.01)
	light, dark := brown(`"until":"light"`), brown(`"until":"dark"`)
	require.Greater(t, *light.Steps[0].MassG, *amber.Steps[0].MassG)
	require.Less(t, *dark.Steps[0].MassG, *amber.Steps[0].MassG)
	require.Less(t, dark.Sweetness.Pct.Value, light.Sweetness.Pct.Value)
	small := brown(`"until":"dark","flame_pct":1`)
	require.True(t, small.Trace[0].NeverReached, "over such a flame it never browns")
}

// A vegetable in fat stays near the boiling point until its water is gone, and
// dry grain does not.
func TestWetTissueHoldsTheHeat(t *testing.T) {
	fried := cooked(t, `{"do":"add","items":[{"material":"bottle-gourd","amount":"400 g"},{"material":"ghee","amount":"25 g"}]},
		{"do":"heat","flame":"medium","stir":"often","until":{"minutes":15}}`)
	require.LessOrEqual(t, *fried.Steps[1].TempC, 100.5)
	require.Greater(t, fried.MassBalance.EvaporatedG, 60.0)
	toasted := cooked(t, `{"do":"add","items":[{"material":"rice-short","amount":"200 g"},{"material":"butter","amount":"20 g"}]},
		{"do":"heat","flame":"medium","stir":"often","until":{"minutes":10}}`)
	require.Greater(t, *toasted.Steps[1].TempC, 120.0)
	require.InDelta(t, 0, fried.MassBalance.ErrorG, 0.01)
}

// Any order of any steps is computed: nothing hangs, nothing is lost, nothing
// is no number.
func TestAnyStepsInAnyOrder(t *testing.T) {
	steps := []string{
		`{"do":"heat","flame":"high","until":{"boil":true}}`, `{"do":"heat","flame":"medium","until":{"minutes":%d}}`,
		`{"do":"heat","flame":"low","lid":true,"until":{"remaining_pct":80,"max_minutes":60}}`,
		`{"do":"pressure","whistles":%d}`, `{"do":"pressure","minutes":%d,"release":"quick"}`, `{"do":"mash","pct":40}`, `{"do":"drain"}`,
		`{"do":"rest","minutes":%d}`,
		`{"do":"cool","to_c":30,"where":"water-bath"}`, `{"do":"cool","to_c":20,"where":"fridge","lid":false}`, `{"do":"chill","hours":2}`,
		`{"do":"hold","minutes":%d}`, `{"do":"hold","minutes":%d,"temp_c":70}`,
		`{"do":"bake","oven_c":160,"minutes":%d}`, `{"do":"bake","in":"slow-cooker","minutes":%d}`,
		`{"do":"bake","in":"microwave","power_w":800,"minutes":%d}`, `{"do":"portion","bowls":%d}`, `{"do":"portion","slices":%d}`,
		`{"do":"caramel","items":[{"material":"sugar-white","amount":"%d g"}],"until":"amber"}`,
		`{"do":"add","items":[{"material":"milk-whole","amount":"%d ml"}]}`,
		`{"do":"add","items":[{"material":"pumpkin","amount":"%d g"},{"material":"jaggery","amount":"40 g"}],"slowly":true}`,
		`{"do":"add","items":[{"material":"egg-whole","amount":"1 egg"}],"temp_c":30}`,
	}
	rapid.Check(t, func(t *rapid.T) {
		all := []string{fmt.Sprintf(`{"do":"add","items":[{"material":%q,"amount":"%d g"}]}`,
			rapid.SampledFrom([]string{"milk-whole", "rice-short", "sugar-white", "pear", "ghee", "moong-split"}).Draw(t, "first"),
			rapid.IntRange(1, 2000).Draw(t, "grams"))}
		for range rapid.IntRange(1, 9).Draw(t, "steps") {
			step := rapid.SampledFrom(steps).Draw(t, "step")
			if strings.Contains(step, "%d") {
				step = fmt.Sprintf(step, rapid.IntRange(1, 29).Draw(t, "number"))
			}
			all = append(all, step)
		}
		p, err := plan.Read([]byte(`{"format":"kirdu-plan/1","name":"any","kitchen":{"altitude_m":` +
			fmt.Sprint(rapid.IntRange(0, 4000).Draw(t, "m")) + `},"pots":{"main":{"shape":"bowl","top_mm":260,"height_mm":120}},"steps":[` +
			strings.Join(all, ",") + `]}`))
		require.NoError(t, err)
		f := Run(p, Options{NominalOnly: true})
		require.InDelta(t, 0, f.MassBalance.ErrorG, 1e-4*f.MassBalance.InG+0.001)
		_, err = json.Marshal(f)
		require.NoError(t, err)
		for _, s := range f.Steps {
			require.GreaterOrEqual(t, s.EndMin, s.StartMin)
			require.GreaterOrEqual(t, *s.MassG, 0.0)
			require.LessOrEqual(t, *s.TempC, 200.0)
			require.GreaterOrEqual(t, *s.Thickness, 1.0)
		}
		require.LessOrEqual(t, len(f.Curve.Minute), 600)
	})
}

// An electric plate goes on heating after it is off; a gas flame does not.
func TestAPlateGoesOnHeating(t *testing.T) {
	at := func(kind string) float64 {
		p, err := plan.Read([]byte(`{"format":"kirdu-plan/1","name":"test","burner":{"kind":"` + kind + `","power_w":1500,"efficiency":0.65},
			"pots":{"main":{"shape":"straight","diameter_mm":220,"height_mm":140}},"steps":[
			{"do":"add","items":[{"material":"milk-whole","amount":"1 l"}]},{"do":"heat","flame":"high","until":{"temp_c":80}},
			{"do":"heat","flame":"off","until":{"minutes":4}},{"do":"rest","minutes":10}]}`))
		require.NoError(t, err)
		f := Run(p, Options{NominalOnly: true})
		require.InDelta(t, 0, f.MassBalance.ErrorG, 0.01)
		return *f.Steps[2].TempC
	}
	require.Less(t, at("gas"), 80.0)
	require.Greater(t, at("electric"), 90.0)
}
