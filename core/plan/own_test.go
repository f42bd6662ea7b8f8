package plan_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"kirdu/core/measure"
	"kirdu/core/pantry"
	"kirdu/core/plan"
	"kirdu/core/vessel"
)

func TestMaterialFromALabel(t *testing.T) {
	rice, _ := pantry.Standard().Material("rice-short")
	o, err := plan.FromLabel("rice-hill", "Hill rice", plan.Label{EnergyKcal: 350, Fat: 0.8, Carbohydrate: 78, Sugars: 0.5, Fibre: 1.4,
		Protein: 7, Salt: 0.02}, rice)
	require.NoError(t, err)
	require.InDelta(t, 100, float64(o.Material().Sum()), 0.01)
	require.InDelta(t, 77.5, o.Starch, 1e-9)
	require.InDelta(t, 0.5, o.Sucrose, 1e-9)
	require.InDelta(t, 8, o.SodiumMg, 1e-9)
	require.Equal(t, rice.Kinetics.CookMinutes, o.Material().Kinetics.CookMinutes)

	for want, l := range map[error]plan.Label{
		plan.ErrLabelSum:    {Fat: 50, Carbohydrate: 60},
		plan.ErrLabelSugars: {Carbohydrate: 10, Sugars: 20},
		plan.ErrLabelEnergy: {EnergyKcal: 40, Fat: 30, Carbohydrate: 50},
	} {
		_, err := plan.FromLabel("x1", "x", l, rice)
		require.ErrorIs(t, err, want)
	}
}

// Every material of the pantry can be taken as one's own and stays the same.
func TestOwnMaterialsKeepTheirFigures(t *testing.T) {
	for _, m := range pantry.Standard().All() {
		own := plan.OwnOf(m)
		require.NoError(t, own.Check(), m.Slug)
		back := own.Material()
		require.Equal(t, m.Composition, back.Composition, m.Slug)
		require.Equal(t, m.Aliases, back.Aliases, m.Slug)
		for _, figure := range own.Figures() {
			require.True(t, *figure.Value >= 0 && *figure.Value <= figure.High, "%s of %s", figure.Name, m.Slug)
		}
	}
}

func TestPlanAtHome(t *testing.T) {
	p, err := plan.Read([]byte(`{"format":"kirdu-plan/1","name":"test","pots":{"main":{"shape":"straight","diameter_mm":200,"height_mm":120}},
		"burner":{"name":"Front","power_w":2000,"efficiency":0.5},
		"steps":[{"do":"add","items":[{"material":"milk-whole","amount":"1 cup","also":"400 g"},{"material":"rice-short","amount":"50 g"}]},
			{"do":"heat","flame":"high","until":{"boil":true}}]}`))
	require.NoError(t, err)
	rice, _ := pantry.Standard().Material("rice-short")
	own := plan.OwnOf(rice)
	own.Fat = 2
	unused := plan.OwnOf(rice)
	unused.Slug = "rice-other"
	in := p.In(plan.Home{Measures: measure.Measures{plan.KeyOf("Cup", "ml"): 200, plan.KeyOf("Blue Mug!", "ml"): 310},
		Burners:   []vessel.Burner{{Name: "front", FlameW: map[vessel.Flame]measure.Watt{vessel.High: 870}}},
		Kitchen:   &plan.Kitchen{AmbientC: 19, HumidityPct: 40, AltitudeM: 900, TapC: 12, ScaleLimitG: 3000},
		Materials: []plan.OwnMaterial{own, unused}})
	_, mass, err := in.Weigh(in.Steps[0].Items[0])
	require.NoError(t, err)
	require.InDelta(t, 206, float64(mass), 0.01)
	power, tested := in.Burner.Power(vessel.High, 0)
	require.True(t, tested)
	require.InDelta(t, 870, float64(power), 0)
	require.InDelta(t, 900, in.Kitchen.AltitudeM, 0)
	require.Contains(t, in.Measures, "blue-mug_ml")
	require.Len(t, in.Materials, 1)
	found, _ := in.Pantry().Material("rice-short")
	require.InDelta(t, 2, float64(found.Fat), 0)
	require.Nil(t, p.Burner.FlameW, "the plan itself stays as it is")
	_, err = plan.Reread(in)
	require.NoError(t, err)

	// The recipe's cup and its grams do not agree: a cup of 388 ml would.
	d := in.Disagreements()
	require.Len(t, d, 1)
	require.InDelta(t, 400/1.03, float64(d[0].MeasureML), 0.1)
	require.InDelta(t, 200, float64(d[0].PresentML), 0)
	require.Equal(t, "cup", d[0].MeasureName)
	require.True(t, in.Trust(0, 0, true))
	require.Equal(t, "400 g", in.Steps[0].Items[0].Amount)
	require.Empty(t, in.Disagreements())
}

// A plan from another kitchen keeps what it meant: its cups become grams where
// ours is of another size, and stay where they agree.
func TestPlanFromAnotherKitchenIsSettled(t *testing.T) {
	p, err := plan.Read([]byte(`{"format":"kirdu-plan/1","name":"theirs","measures":{"cup_ml":300,"glass_ml":190,"coconut_g":280},
		"pots":{"main":{"shape":"straight","diameter_mm":200,"height_mm":120}},
		"steps":[{"do":"press","name":"coco","coconuts":2,"presses":[{"water_ml":0}]},
		{"do":"soak","name":"rice","items":[{"material":"rice-short","amount":"1 cup","also":"250 g"}],
			"minutes":30,"in":{"material":"buttermilk","amount":"1 cup"}},
		{"do":"add","items":[{"material":"milk-whole","amount":"2 glasses"},{"material":"water","amount":"100 ml"},{"part":"rice"},
			{"part":"coco.1"}]},
		{"do":"heat","flame":"high","until":{"boil":true}}]}`))
	require.NoError(t, err)
	home := plan.Home{Measures: measure.Measures{"cup_ml": 226, "glass_ml": 190}}
	before := map[string]measure.Gram{}
	p.Uses(func(m *pantry.Material, mass measure.Gram, _ int) { before[m.Slug] += mass })
	require.Equal(t, 3, p.Settle(home))
	settled, err := plan.Reread(p.In(home))
	require.NoError(t, err)
	settled.Uses(func(m *pantry.Material, mass measure.Gram, _ int) {
		require.InEpsilon(t, float64(before[m.Slug]), float64(mass), 1e-3, m.Slug)
	})
	require.Equal(t, "255 g", settled.Steps[1].Items[0].Amount)
	require.Empty(t, settled.Steps[1].Items[0].Also)
	require.Equal(t, "2 glasses", settled.Steps[2].Items[0].Amount, "the glass is as large here")
	require.Zero(t, settled.Steps[0].Coconuts)
	require.Equal(t, "560 g", settled.Steps[0].Items[0].Amount)
}
