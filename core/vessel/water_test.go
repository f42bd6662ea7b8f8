package vessel_test

import (
	"math"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"kirdu/core/measure"
	"kirdu/core/vessel"
)

func TestWaterTestAgainstHandComputation(t *testing.T) {
	pot := vessel.Pot{Shape: vessel.Straight, DiameterMM: 200, HeightMM: 120}
	// 200 g in 10 min: 752.3 W as steam. Level 900 ml / 314.2 cm² = 28.65 mm:
	// 0.03142 m² x 16 + 0.018 m² x 8 = 0.6467 W/K, over 76 K: 49.1 W.
	power, sd, err := vessel.WaterTest{Pot: pot, Before: 1000, After: 800, Minutes: 10, Ambient: 24}.Power()
	require.NoError(t, err)
	require.InDelta(t, 752.3+49.1, float64(power), 0.5)
	require.InDelta(t, 0.055, float64(sd/power), 0.01)
	spread := vessel.Range(power, sd)
	require.Less(t, spread.Low, spread.Value)
	require.Greater(t, spread.High, spread.Value)
}

func TestWaterTestFaults(t *testing.T) {
	pot := vessel.Pot{Shape: vessel.Straight, DiameterMM: 200, HeightMM: 120}
	for name, c := range map[string]struct {
		before, after measure.Gram
		minutes       measure.Minute
		want          error
	}{
		"gained":       {1000, 1010, 10, vessel.ErrGained},
		"boiled dry":   {200, 0, 10, vessel.ErrLostAll},
		"hardly any":   {1000, 995, 10, vessel.ErrTooLittle},
		"no time":      {1000, 900, 0, vessel.ErrTestTime},
		"not a number": {1000, 900, measure.Minute(math.NaN()), vessel.ErrTestTime},
	} {
		t.Run(name, func(t *testing.T) {
			_, _, err := vessel.WaterTest{Pot: pot, Before: c.before, After: c.after, Minutes: c.minutes, Ambient: 20}.Power()
			require.ErrorIs(t, err, c.want)
		})
	}
}

// Two weighings find a taper so well that the depth at any level is right.
func TestTaperIsFoundFromTwoWeighings(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		bottom := rapid.Float64Range(60, 400).Draw(t, "bottom")
		real := vessel.Pot{
			Shape: vessel.Taper, BottomMM: measure.Millimetre(bottom),
			TopMM:    measure.Millimetre(bottom * rapid.Float64Range(0.75, 1.8).Draw(t, "flare")),
			HeightMM: measure.Millimetre(rapid.Float64Range(60, 300).Draw(t, "height")),
		}
		fill := func(share measure.Millimetre) vessel.Filling {
			return vessel.Filling{Depth: real.HeightMM * share, Water: measure.Gram(real.Volume(real.HeightMM * share))}
		}
		b, top, err := vessel.TaperFrom(fill(0.4), fill(0.9), real.HeightMM)
		require.NoError(t, err)
		found := vessel.Pot{Shape: vessel.Taper, BottomMM: b, TopMM: top, HeightMM: real.HeightMM}
		for _, share := range []float64{0.1, 0.3, 0.5, 0.7, 0.95} {
			volume := measure.Millilitre(share) * real.Capacity()
			require.InDelta(t, float64(real.Depth(volume)), float64(found.Depth(volume)), 0.01)
		}
	})
}

func TestFillingsThatCannotBe(t *testing.T) {
	_, _, err := vessel.TaperFrom(vessel.Filling{Depth: 50, Water: 1000}, vessel.Filling{Depth: 100, Water: 900}, 120)
	require.ErrorIs(t, err, vessel.ErrFilling)
	_, _, err = vessel.TaperFrom(vessel.Filling{Depth: 50, Water: 10}, vessel.Filling{Depth: 100, Water: 2000}, 120)
	require.ErrorIs(t, err, vessel.ErrCone)
	_, err = vessel.StraightFrom(vessel.Filling{Depth: 0, Water: 100})
	require.ErrorIs(t, err, vessel.ErrFilling)
	d, err := vessel.StraightFrom(vessel.Filling{Depth: 100, Water: 3142})
	require.NoError(t, err)
	require.InDelta(t, 200, float64(d), 0.1)
}

// A stronger flame, a longer time: the test gives the power back that boiled
// the water away, in any pot and at any height above the sea.
func TestWaterTestGivesThePowerBack(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		pot := vessel.Pot{Shape: vessel.Straight, DiameterMM: measure.Millimetre(rapid.Float64Range(140, 320).Draw(t, "wide")), HeightMM: 200}
		power := rapid.Float64Range(200, 3000).Draw(t, "W")
		altitude := rapid.Float64Range(0, 3000).Draw(t, "m")
		minutes := measure.Minute(rapid.Float64Range(5, 15).Draw(t, "min"))
		const before, ambient = 1500.0, 21.0
		// Boil by small steps, with the level falling.
		mass := before
		const steps = 200
		for range steps {
			loss := pot.Loss(pot.Depth(measure.Millilitre(mass))) * (100 - altitude/285 - ambient)
			mass -= max(0, power-loss) * float64(minutes) * 60 / steps / measure.LatentHeat
		}
		if before-mass < 10 || mass < 100 {
			return
		}
		found, sd, err := vessel.WaterTest{Pot: pot, Before: before, After: measure.Gram(mass), Minutes: minutes, Ambient: ambient,
			AltitudeM: altitude}.Power()
		require.NoError(t, err)
		require.InEpsilon(t, power, float64(found), 0.01)
		require.Positive(t, float64(sd))
	})
}
