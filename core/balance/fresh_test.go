package balance_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/require"

	"kirdu/core/advice"
	"kirdu/core/balance"
	"kirdu/core/forecast"
	"kirdu/core/pantry"
	"kirdu/core/plan"
	"kirdu/core/vessel"
)

var pots = []vessel.Pot{
	{Shape: vessel.Straight, DiameterMM: 180, HeightMM: 110},
	{Shape: vessel.Taper, BottomMM: 210, TopMM: 270, HeightMM: 125},
	{Shape: vessel.Straight, DiameterMM: 300, HeightMM: 190},
}

// TestFreshPuddingsAreRight holds every new pudding against the aims of its
// way: no watchpoint, the grain as it is liked, thickness within half a grade
// and sweetness within 1 %.
func TestFreshPuddingsAreRight(t *testing.T) {
	grains := balance.FreshGrains(pantry.Standard())
	require.GreaterOrEqual(t, len(grains), 8)
	for _, grain := range grains {
		for _, bowls := range []int{2, 6, 14} {
			serve := plan.Hot
			if bowls == 6 {
				serve = plan.Chilled
			}
			t.Run(fmt.Sprintf("%s for %d", grain.Slug, bowls), func(t *testing.T) {
				p, err := balance.Fresh(plan.WayChoice{Grain: grain.Slug, Bowls: bowls, Serve: serve, Burner: vessel.DefaultBurner()}, pots)
				require.NoError(t, err)
				document, err := p.JSON()
				require.NoError(t, err)
				p, err = plan.Read(document)
				require.NoError(t, err)
				f := advice.Forecast(p, forecast.Options{NominalOnly: true})
				for _, one := range f.Findings {
					require.Equal(t, forecast.Note, one.Severity, one.Message) // a heavy pot, a scale that is too small
				}
				if serve == plan.Hot {
					require.InDelta(t, 3.6, f.Thickness.Hot.Value, 0.5)
				} else {
					require.InDelta(t, 5.3, f.Thickness.Chilled.Value, 0.7)
				}
				require.InDelta(t, 12, f.Sweetness.Pct.Value, 1)
				require.InDelta(t, 160*bowls, f.Yield.MassG.Value, 16*float64(bowls))
				require.LessOrEqual(t, f.Doneness[grain.Slug].Value, grain.Kinetics.WantedHigh)
			})
		}
	}
}

func TestFreshRefuses(t *testing.T) {
	_, err := balance.Fresh(plan.WayChoice{Grain: "milk-whole", Bowls: 4}, pots)
	require.ErrorIs(t, err, balance.ErrNoGrain)
	_, err = balance.Fresh(plan.WayChoice{Grain: "rice-short", Bowls: 4}, nil)
	require.ErrorIs(t, err, balance.ErrNoPot)
}

func BenchmarkFresh(b *testing.B) {
	choice := plan.WayChoice{Grain: "rice-short", Bowls: 6, Serve: plan.Hot, Burner: vessel.DefaultBurner()}
	for b.Loop() {
		if _, err := balance.Fresh(choice, pots); err != nil {
			b.Fatal(err)
		}
	}
}
