package mend_test

import (
	"math"
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"kirdu/core/forecast"
	"kirdu/core/measure"
	"kirdu/core/plan"
)

func readAll(t *testing.T, pattern string) map[string]*plan.Plan {
	t.Helper()
	names, err := filepath.Glob(pattern)
	require.NoError(t, err)
	all := map[string]*plan.Plan{}
	for _, name := range names {
		data, err := os.ReadFile(name)
		require.NoError(t, err)
		p, err := plan.Read(data)
		require.NoError(t, err, name)
		all[filepath.Base(name)] = p
	}
	return all
}

// TestNamedPlans are whole puddings that use every verb together. Each is written
// down with amounts of our own, computed completely, and free of stops and
// warnings; the bands say what such a pudding is like.
func TestNamedPlans(t *testing.T) {
	bands := map[string]struct{ thickness, sweet, yield [2]float64 }{
		"lentil-three-presses":   {[2]float64{1.8, 3}, [2]float64{12, 17}, [2]float64{1100, 1350}},
		"rice-stirred-in-stages": {[2]float64{3.2, 5}, [2]float64{8, 11}, [2]float64{1000, 1200}},
		"starch-over-caramel":    {[2]float64{5.8, 7}, [2]float64{12, 15}, [2]float64{1600, 1850}},
		"squeezed-vegetable-soda": {[2]float64{1.1, 2}, [2]float64{8, 12},
			[2]float64{1000, 1250}},
		"cold-rice-tempered-egg": {[2]float64{2.2, 4}, [2]float64{6, 11}, [2]float64{900, 1100}},
		"meal-held-cold-baked":   {[2]float64{4.3, 6}, [2]float64{7, 11}, [2]float64{1000, 1250}},
		"blended-rice-yogurt":    {[2]float64{3.6, 5}, [2]float64{8, 12}, [2]float64{1000, 1200}},
		"compote-spooned-over":   {[2]float64{2.4, 4}, [2]float64{7, 12}, [2]float64{1150, 1400}},
	}
	verbs := map[plan.Verb]bool{}
	for name, p := range readAll(t, "testdata/named/*.kirdu.json") {
		f := look(p, forecast.Options{})
		band, ok := bands[name[:len(name)-len(".kirdu.json")]]
		require.True(t, ok, name)
		for _, one := range f.Findings {
			require.Equal(t, forecast.Note, one.Severity, "%s: %s", name, one.Rule)
		}
		in := func(what string, x float64, band [2]float64) {
			require.True(t, x >= band[0] && x <= band[1], "%s: %s is %v, not in %v", name, what, x, band)
		}
		in("thickness", f.Thickness.As(p.Serve).Value, band.thickness)
		in("sweetness", f.Sweetness.Pct.Value, band.sweet)
		in("yield", f.Yield.MassG.Value, band.yield)
		require.InDelta(t, 0, f.MassBalance.ErrorG, 1e-4*f.MassBalance.InG, name)
		for i := range p.Steps {
			verbs[p.Steps[i].Do] = true
		}
		for part, liked := range f.Parts {
			require.GreaterOrEqual(t, f.Doneness[part].Value, liked.WantedLow, "%s: %s", name, part)
		}
	}
	for _, verb := range []plan.Verb{plan.Roast, plan.Pressure, plan.Mash, plan.Melt, plan.Press, plan.Fry, plan.Caramel, plan.Squeeze,
		plan.Mix, plan.Bake, plan.Cool, plan.Chill, plan.Rest, plan.Portion, plan.Soak, plan.Prep} {
		require.True(t, verbs[verb], "no plan has %s", verb)
	}
}

// Other pots, burners and amounts turn nothing absurd.
func TestVariedByAThird(t *testing.T) {
	all := readAll(t, "testdata/named/*.kirdu.json")
	for name, p := range readAll(t, "../forecast/testdata/*.kirdu.json") {
		all[name] = p
	}
	require.Len(t, all, 49)
	var names []string
	for name := range all {
		names = append(names, name)
	}
	rapid.Check(t, func(t *rapid.T) {
		name := rapid.SampledFrom(names).Draw(t, "plan")
		before := all[name]
		p := before.Clone()
		third := func(what string) float64 { return math.Exp(rapid.Float64Range(-0.3, 0.3).Draw(t, what)) }
		for key, pot := range p.Pots {
			wide, high := measure.Millimetre(third("width")), measure.Millimetre(third("height"))
			pot.DiameterMM, pot.BottomMM, pot.TopMM, pot.LengthMM, pot.WidthMM = pot.DiameterMM*wide, pot.BottomMM*wide, pot.TopMM*wide,
				pot.LengthMM*wide, pot.WidthMM*wide
			pot.HeightMM *= high
			p.Pots[key] = pot
		}
		p.Burner.PowerW *= measure.Watt(third("power"))
		for i := range p.Steps {
			for j := range p.Steps[i].Items {
				if amount, err := measure.ParseAmount(p.Steps[i].Items[j].Amount); err == nil {
					p.Steps[i].Items[j].Amount = amount.Scale(third("amount")).String()
				}
			}
		}
		p, err := plan.Reread(p)
		require.NoError(t, err)
		f := look(p, forecast.Options{})
		g := forecast.Run(before, forecast.Options{NominalOnly: true})
		require.InDelta(t, 0, f.MassBalance.ErrorG, 1e-4*f.MassBalance.InG)
		require.Greater(t, f.Yield.MassG.Value, 0.3*g.Yield.MassG.Value)
		require.Less(t, f.Yield.MassG.Value, 2.2*g.Yield.MassG.Value)
		require.Greater(t, f.Sweetness.Pct.Value, 0.4*g.Sweetness.Pct.Value)
		require.Less(t, f.Sweetness.Pct.Value, 2.7*g.Sweetness.Pct.Value)
		for _, r := range []*measure.Range{f.Thickness.Hot, f.Thickness.Warm, f.Thickness.Room, f.Thickness.Chilled, &f.Yield.MassG,
			&f.Time.TotalMin, &f.Sweetness.Pct} {
			if r != nil {
				require.True(t, r.Low <= r.Value && r.Value <= r.High, "%+v", r)
			}
		}
		if warm, cold := f.Thickness.Warm, f.Thickness.Chilled; warm != nil && cold != nil {
			require.GreaterOrEqual(t, cold.Value, warm.Value-0.05, "colder is not thinner")
			require.True(t, warm.Value >= 1 && cold.Value <= 8)
		}
		for i, r := range f.Steps {
			if r.TempC != nil && p.Steps[i].Do != plan.Caramel {
				require.True(t, *r.TempC > -5 && *r.TempC < 260, "step %d is %v °C", i, *r.TempC)
			}
			for part, done := range r.Doneness {
				require.False(t, math.IsNaN(done) || done < 0, part)
			}
		}
	})
}
