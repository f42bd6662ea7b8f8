package pot_test

import (
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"kirdu/core/measure"
	"kirdu/core/pantry"
	"kirdu/core/pot"
)

func of(t rapid.TB, slug string, mass measure.Gram) pot.State {
	m, ok := pantry.Standard().Material(slug)
	require.True(t, ok, slug)
	return pot.New(m, mass, 24, slug)
}

// Grain, vegetable, fruit and milk, by random amounts.
func drawState(t *rapid.T) pot.State {
	s := of(t, "milk-whole", measure.Gram(rapid.Float64Range(0, 2000).Draw(t, "milk")))
	for _, slug := range []string{"rice-short", "bottle-gourd", "banana-ripe", "moong-split", "rice-flour", "sugar-white", "cashew"} {
		if rapid.Bool().Draw(t, slug) {
			more := of(t, slug, measure.Gram(rapid.Float64Range(1, 500).Draw(t, "grams of "+slug)))
			s.Pour(&more)
		}
	}
	return s
}

// No preparation makes or loses a gram, or starch, or energy out of nothing.
func TestPreparationsKeepMatter(t *testing.T) {
	for name, do := range map[string]func(t *rapid.T, s *pot.State) (lost, gained measure.Gram){
		"soak": func(t *rapid.T, s *pot.State) (measure.Gram, measure.Gram) {
			return 0, s.Soak(measure.Minute(rapid.Float64Range(0, 1000).Draw(t, "minutes")),
				measure.Celsius(rapid.Float64Range(0, 100).Draw(t, "°C")))
		},
		"swell": func(t *rapid.T, s *pot.State) (measure.Gram, measure.Gram) { s.Swell(60); return 0, 0 },
		"roast": func(t *rapid.T, s *pot.State) (measure.Gram, measure.Gram) { s.Roast(); return 0, 0 },
		"squeeze": func(t *rapid.T, s *pot.State) (measure.Gram, measure.Gram) {
			return s.Squeeze(rapid.Float64Range(0, 60).Draw(t, "per cent")), 0
		},
		"steam": func(t *rapid.T, s *pot.State) (measure.Gram, measure.Gram) { s.Steam(30, 500); return 0, 0 },
		"mash": func(t *rapid.T, s *pot.State) (measure.Gram, measure.Gram) {
			s.Mash("", rapid.Float64Range(1, 100).Draw(t, "per cent"))
			return 0, 0
		},
		"drain": func(t *rapid.T, s *pot.State) (measure.Gram, measure.Gram) { return s.Drain(), 0 },
		"grind": func(t *rapid.T, s *pot.State) (measure.Gram, measure.Gram) {
			s.Grind(rapid.SampledFrom([]string{"granules", "paste", "flour"}).Draw(t, "to"))
			return 0, 0
		},
	} {
		t.Run(name, func(t *testing.T) {
			rapid.Check(t, func(t *rapid.T) {
				s := drawState(t)
				before := s.Mass()
				lost, gained := do(t, &s)
				require.GreaterOrEqual(t, float64(lost), 0.0)
				require.InDelta(t, float64(before+gained-lost), float64(s.Mass()), 1e-6*(1+float64(before)))
				total := s.Total()
				for k := range total {
					require.GreaterOrEqual(t, total[k], -1e-9)
				}
				require.GreaterOrEqual(t, float64(s.FreeWater()), -1e-9)
			})
		})
	}
}

func TestGrinding(t *testing.T) {
	whole, granules, paste, flour := of(t, "rice-long", 100), of(t, "rice-long", 100), of(t, "rice-long", 100), of(t, "rice-long", 100)
	granules.Grind("granules")
	paste.Grind("paste")
	flour.Grind("flour")
	require.Less(t, granules.Parts[0].Cook, whole.Parts[0].Cook)
	require.Less(t, paste.Parts[0].Cook, granules.Parts[0].Cook)
	require.Greater(t, paste.Parts[0].Kinetics.ReleaseMax, granules.Parts[0].Kinetics.ReleaseMax)
	require.Empty(t, flour.Parts, "flour is raw starch in the liquid")
	require.Greater(t, flour.Liquid[pot.RawStarch], 70.0)
	table, _ := pantry.Standard().Material("rice-long")
	require.InDelta(t, 0.30, table.Kinetics.ReleaseMax, 0, "the table itself stays as it is")
}

// By hand: 15 % of 500 g is 75 g pressed out; what a gourd holds is nearly water.
func TestSqueezing(t *testing.T) {
	gourd := of(t, "bottle-gourd", 500)
	require.InDelta(t, 75, float64(gourd.Squeeze(15)), 0.01)
	require.InDelta(t, 425, float64(gourd.Mass()), 0.01)
	sweetBefore := gourd.Total()
	gourd.Squeeze(0)
	require.Equal(t, sweetBefore, gourd.Total())
	// However hard one wrings, cells keep some of their water.
	require.Less(t, float64(gourd.Squeeze(1000)), 425.0)
}

func TestSteamingSoftensWithoutHydrating(t *testing.T) {
	root := of(t, "sweet-potato", 300)
	root.Steam(20, 0)
	require.Greater(t, root.Parts[0].Done, 1.0)
	require.InDelta(t, 300, float64(root.Mass()), 1e-9)
	high := of(t, "sweet-potato", 300)
	high.Steam(20, 3000)
	require.Less(t, high.Parts[0].Done, root.Parts[0].Done, "steam is cooler in the mountains")
	grain := of(t, "rice-short", 100)
	grain.Steam(20, 0)
	require.InDelta(t, 100, float64(grain.Mass()), 1e-9)
}

func TestMashingThickensAndNeverThins(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		s := of(t, "milk-whole", measure.Gram(rapid.Float64Range(300, 2000).Draw(t, "milk")))
		pulse := of(t, "moong-split", measure.Gram(rapid.Float64Range(20, 300).Draw(t, "pulse")))
		pulse.Soak(600, 30)
		s.Pour(&pulse)
		before := s.Thickness(65)
		s.Mash("moong-split", rapid.Float64Range(1, 100).Draw(t, "per cent"))
		require.GreaterOrEqual(t, s.Thickness(65), before-1e-9)
	})
}
