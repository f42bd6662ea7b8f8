package forecast

import (
	"encoding/json"
	"fmt"
	"math"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"kirdu/core/measure"
	"kirdu/core/pantry"
	"kirdu/core/plan"
	"kirdu/core/recipe"
	"kirdu/core/vessel"
)

// drawList is what somebody could paste: milk of some kind and anything else
// of the pantry.
func drawList(t *rapid.T) []recipe.Given {
	all := pantry.Standard().All()
	items := []recipe.Given{{Item: plan.Item{Material: rapid.SampledFrom([]string{"milk-whole", "coconut-milk-thin", "oat-milk",
		"water"}).Draw(t, "liquid"),
		Amount: fmt.Sprintf("%d ml", rapid.IntRange(200, 3000).Draw(t, "ml"))}}}
	for range rapid.IntRange(0, 7).Draw(t, "more") {
		m := rapid.SampledFrom(all).Draw(t, "material")
		items = append(items, recipe.Given{Item: plan.Item{Material: m.Slug, Amount: fmt.Sprintf("%d g", rapid.IntRange(1, 400).Draw(t,
			"grams"))}})
	}
	return items
}

// Whatever is on a list, the plan that is made of it can be read and computed:
// every gram is accounted for, nothing is infinite, and it prints as JSON.
func TestAnyListCanBeCooked(t *testing.T) {
	pot := vessel.Pot{Shape: vessel.Taper, BottomMM: 200, TopMM: 280, HeightMM: 160}
	rapid.Check(t, func(t *rapid.T) {
		choice := plan.WayChoice{Bowls: rapid.IntRange(1, 40).Draw(t, "bowls"),
			Serve: rapid.SampledFrom([]plan.Serve{plan.Hot, plan.Chilled}).Draw(t, "serve"),
			Pot:   pot, Burner: vessel.DefaultBurner()}
		p, err := recipe.Arrange("a list", choice, recipe.OpenPot, drawList(t), pantry.Standard())
		require.NoError(t, err)
		p = prepareSome(t, p)
		p, err = plan.Reread(p)
		require.NoError(t, err)
		f := Run(p, Options{NominalOnly: true})
		require.InDelta(t, 0, f.MassBalance.ErrorG, 1e-4*f.MassBalance.InG)
		_, err = json.Marshal(f)
		require.NoError(t, err, "no NaN and no infinity")
		for _, step := range f.Steps {
			require.False(t, math.IsNaN(step.StartMin) || math.IsNaN(step.EndMin))
			require.GreaterOrEqual(t, step.EndMin, step.StartMin)
		}
		require.GreaterOrEqual(t, f.Time.HandsOnMin.Value, 0.0)
	})
}

// prepareSome tries preparations at random; those that do not fit change
// nothing.
func prepareSome(t *rapid.T, p *plan.Plan) *plan.Plan {
	ways := plan.Preparations()
	for range rapid.IntRange(0, 3).Draw(t, "preparations") {
		step := rapid.IntRange(0, len(p.Steps)-1).Draw(t, "step")
		item := rapid.IntRange(0, 5).Draw(t, "item")
		way := rapid.SampledFrom(ways).Draw(t, "way")
		tried := p.Clone()
		if err := tried.Prepare(step, item, way.Name, measure.Minute(rapid.IntRange(0, 120).Draw(t, "minutes"))); err != nil {
			continue
		}
		again, err := plan.Reread(tried)
		require.NoError(t, err, "%s", way.Name)
		p = again
	}
	return p
}

// A pudding in a kitchen at any height, with any cup and flame, is computed
// from what the kitchen has found out.
func TestAnyKitchen(t *testing.T) {
	data := []byte(`{"format":"kirdu-plan/1","name":"cups","pots":{"main":{"shape":"straight","diameter_mm":220,"height_mm":140}},
		"burner":{"name":"front","power_w":2200,"efficiency":0.45},
		"steps":[{"do":"add","items":[{"material":"milk-whole","amount":"4 cups"},{"material":"rice-short","amount":"1/2 cup"}]},
		{"do":"heat","flame":"high","until":{"boil":true}},{"do":"heat","flame":"medium","until":{"minutes":30}}]}`)
	p, err := plan.Read(data)
	require.NoError(t, err)
	rapid.Check(t, func(t *rapid.T) {
		cup := rapid.Float64Range(100, 350).Draw(t, "cup ml")
		high := measure.Watt(rapid.Float64Range(300, 2500).Draw(t, "high W"))
		altitude := rapid.Float64Range(0, 4500).Draw(t, "m")
		in := p.In(plan.Home{Measures: measure.Measures{"cup_ml": cup},
			Burners: []vessel.Burner{{Name: "Front", FlameW: map[vessel.Flame]measure.Watt{vessel.High: high}}},
			Kitchen: &plan.Kitchen{AmbientC: 20, HumidityPct: 50, AltitudeM: altitude, TapC: 12, ScaleLimitG: 5000}})
		f := Run(in, Options{NominalOnly: true})
		require.InEpsilon(t, cup*(4*1.03+0.5*0.85), *f.Steps[0].MassG, 1e-3)
		require.LessOrEqual(t, *f.Steps[1].TempC, 100-altitude/285+0.5)
		hotter := in.Clone()
		hotter.Burner.FlameW[vessel.High] = high * 1.5
		require.LessOrEqual(t, Run(hotter, Options{NominalOnly: true}).Steps[1].EndMin, f.Steps[1].EndMin, "a stronger flame boils no later")
	})
}
