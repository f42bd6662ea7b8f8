package design_test

import (
	"errors"
	"testing"

	"kirdu/core/design"
	"kirdu/core/forecast"
	"kirdu/core/measure"
	"kirdu/core/mend"
	"kirdu/core/pantry"
	"kirdu/core/plan"
	"kirdu/core/vessel"

	"github.com/stretchr/testify/require"
)

// TestFreshPuddingsAreQuietInAnyKitchen makes new puddings over ways, bases, liquids, sizes and a dozen
// kitchens: no stop and no warning speaks of one, or it is said before that the kitchen cannot, and for how
// many bowls it can. A few dozen, spread; all of them with -everything.
func TestFreshPuddingsAreQuietInAnyKitchen(t *testing.T) {
	homes, sizes := kitchens(), []int{2, 4, 8, 13, 20, 30}
	const spread = 211 // prime to the numbers of kitchens and sizes
	k, tried, refused := 0, 0, 0
	for _, w := range plan.Ways() {
		for _, base := range w.Bases {
			for _, bowls := range sizes {
				for _, home := range homes {
					if k++; k%spread != 0 && !*everything {
						continue
					}
					tried++
					choice := plan.WayChoice{Way: w.Name, Base: base, Liquid: w.Liquids[k%len(w.Liquids)], Bowls: max(bowls, w.Least),
						Serve: w.Serve[k%len(w.Serve)], Burner: home.burner, Kitchen: &home.air}
					if !quietOrSaid(t, choice, home) {
						refused++
					}
				}
			}
		}
	}
	t.Logf("%d new puddings, %d refused because the kitchen cannot", tried, refused)
	require.Less(t, refused, tried/2)
}

// quietOrSaid reports whether a new pudding could be made.
func quietOrSaid(t *testing.T, choice plan.WayChoice, home kitchen) bool {
	t.Helper()
	p, err := design.Fresh(choice, home.pots)
	if cannot, ok := errors.AsType[*design.Cannot](err); ok {
		require.Less(t, cannot.Bowls, choice.Bowls)
		if w, _ := plan.WayNamed(choice.Way); cannot.Bowls > 0 && cannot.Bowls >= w.Least {
			choice.Bowls = cannot.Bowls
			_, err = design.Fresh(choice, home.pots)
			require.NoError(t, err, "what is said to be possible is")
		}
		return false
	}
	require.NoError(t, err)
	p, err = plan.Reread(p)
	require.NoError(t, err)
	_, found := mend.Forecast(p, forecast.Options{NominalOnly: true})
	for _, one := range found {
		require.Equal(t, forecast.Note, one.Severity, "%s of %s for %d in %s: %s", choice.Way, choice.Base, choice.Bowls, home.name, one.Rule)
	}
	for i := range p.Steps {
		for _, item := range p.Steps[i].Items {
			amount, err := measure.ParseAmount(item.Amount)
			if m, known := p.Pantry().Material(item.Material); known && err == nil {
				rounded := p.Measures.Measurable(amount, m.Body(), m.Behaviour == pantry.Egg)
				require.Equal(t, rounded, amount, "%s: can be measured", item.Material)
			}
		}
	}
	return true
}

type kitchen struct {
	name   string
	pots   []vessel.Pot
	burner vessel.Burner
	air    plan.Kitchen
}

func kitchens() []kitchen {
	straight := func(d, h float64, heavy bool) vessel.Pot {
		return vessel.Pot{Shape: vessel.Straight, DiameterMM: measure.Millimetre(d), HeightMM: measure.Millimetre(h), Heavy: heavy}
	}
	burner := func(kind string, watts, efficiency float64) vessel.Burner {
		return vessel.Burner{Kind: kind, PowerW: measure.Watt(watts), Efficiency: efficiency}
	}
	usual := plan.DefaultKitchen()
	high := usual
	high.AltitudeM = 2400
	hot := usual
	hot.AmbientC, hot.HumidityPct, hot.TapC = 34, 80, 28
	cold := usual
	cold.AmbientC, cold.HumidityPct, cold.TapC = 14, 40, 8
	return []kitchen{
		{"the usual", pots, vessel.DefaultBurner(), usual},
		{"one small pot", []vessel.Pot{straight(160, 100, false)}, vessel.DefaultBurner(), usual},
		{"one middling pot", []vessel.Pot{straight(220, 130, false)}, vessel.DefaultBurner(), usual},
		{"weak ring", pots, burner("electric", 1000, 0.6), usual},
		{"strong gas", pots, burner("gas", 3800, 0.45), usual},
		{"induction", pots, burner("induction", 2000, 0.88), usual},
		{"wood", append(pots, straight(360, 240, true)), burner("wood", 7000, 0.15), hot},
		{"high up", pots, vessel.DefaultBurner(), high},
		{"hot and damp", pots, burner("gas", 1800, 0.4), hot},
		{"cold stone kitchen", pots, burner("electric", 1500, 0.65), cold},
		{"wide and low", []vessel.Pot{{Shape: vessel.Taper, BottomMM: 220, TopMM: 340, HeightMM: 90}, straight(300, 90, true)},
			vessel.DefaultBurner(), usual},
		{"a canteen", []vessel.Pot{straight(200, 120, false), straight(280, 180, true), straight(400, 300, true)}, burner("gas", 5000, 0.5),
			usual},
	}
}
