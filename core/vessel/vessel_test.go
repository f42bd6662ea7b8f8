package vessel_test

import (
	"math"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"kirdu/core/measure"
	"kirdu/core/vessel"
)

func TestVolumeByHand(t *testing.T) {
	cases := map[string]struct {
		pot   vessel.Pot
		depth measure.Millimetre
		want  measure.Millilitre
	}{
		// pi 110² 50 / 1000
		"straight": {vessel.Pot{Shape: vessel.Straight, DiameterMM: 220, HeightMM: 120}, 50, 1900.664},
		// pi 100/3 (100² + 100·130 + 130²) / 1000, to the rim
		"taper": {vessel.Pot{Shape: vessel.Taper, BottomMM: 200, TopMM: 260, HeightMM: 100}, 100, 4178.318},
		// half a sphere of radius 150 mm: 2/3 pi 150³ / 1000
		"bowl": {vessel.Pot{Shape: vessel.Bowl, TopMM: 300, HeightMM: 150}, 150, 7068.583},
		"tray": {vessel.Pot{Shape: vessel.Tray, LengthMM: 300, WidthMM: 200, HeightMM: 50}, 20, 1200},
	}
	for name, c := range cases {
		t.Run(name, func(t *testing.T) {
			require.InEpsilon(t, float64(c.want), float64(c.pot.Volume(c.depth)), 1e-5)
		})
	}
}

// anyPot draws a pot of any shape and size that the format allows.
func anyPot(t *rapid.T) vessel.Pot {
	size := rapid.Float64Range(20, 1500)
	mm := func(label string) measure.Millimetre { return measure.Millimetre(size.Draw(t, label)) }
	height := measure.Millimetre(rapid.Float64Range(10, 500).Draw(t, "height"))
	switch rapid.SampledFrom([]vessel.Shape{vessel.Straight, vessel.Taper, vessel.Bowl, vessel.Tray}).Draw(t, "shape") {
	case vessel.Taper:
		return vessel.Pot{Shape: vessel.Taper, BottomMM: mm("bottom"), TopMM: mm("top"), HeightMM: height}
	case vessel.Bowl:
		return vessel.Pot{Shape: vessel.Bowl, TopMM: mm("top"), HeightMM: height}
	case vessel.Tray:
		return vessel.Pot{Shape: vessel.Tray, LengthMM: mm("length"), WidthMM: mm("width"), HeightMM: height}
	}
	return vessel.Pot{Shape: vessel.Straight, DiameterMM: mm("diameter"), HeightMM: height}
}

func TestDepthIsTheInverseOfVolume(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		pot := anyPot(t)
		depth := measure.Millimetre(rapid.Float64Range(0, 1.5).Draw(t, "share")) * pot.HeightMM
		require.InDelta(t, float64(depth), float64(pot.Depth(pot.Volume(depth))), 0.01)
	})
}

func TestSurfaceIsTheSlopeOfVolume(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		pot := anyPot(t)
		depth := measure.Millimetre(rapid.Float64Range(0.1, 0.9).Draw(t, "share")) * pot.HeightMM
		const step = 0.01
		slope := float64(pot.Volume(depth+step)-pot.Volume(depth-step)) / (2 * step)
		require.InEpsilon(t, slope, float64(pot.MillilitrePerMM(depth)), 1e-3)
	})
}

func TestOddDepths(t *testing.T) {
	pot := vessel.Pot{Shape: vessel.Bowl, TopMM: 300, HeightMM: 110}
	require.Zero(t, pot.Depth(0))
	require.Zero(t, pot.Depth(measure.Millilitre(math.NaN())))
	require.Greater(t, pot.Depth(pot.Capacity()*2), pot.HeightMM, "an overfull pot has a level above its rim")
	require.InDelta(t, 0.6*0.6*math.Pi*0.15*0.15, float64(pot.Base()), 1e-9)
}

func TestMassOfUnweighedPot(t *testing.T) {
	pot := vessel.Pot{Shape: vessel.Straight, DiameterMM: 220, HeightMM: 120}
	mass, weighed := pot.Mass()
	require.False(t, weighed)
	// 1.5 g/cm² of pi 11² + pi 22·12 cm²
	require.InDelta(t, 1.5*(math.Pi*121+math.Pi*264), float64(mass), 0.5)
	own := measure.Gram(900)
	pot.MassG = &own
	mass, weighed = pot.Mass()
	require.True(t, weighed)
	require.Equal(t, own, mass)
}

func TestPowerOfBurner(t *testing.T) {
	burner := vessel.DefaultBurner()
	power, tested := burner.Power(vessel.High, 0)
	require.InDelta(t, 990, float64(power), 1e-9)
	require.False(t, tested)
	power, _ = burner.Power("", 50)
	require.InDelta(t, 495, float64(power), 1e-9)
	burner.FlameW = map[vessel.Flame]measure.Watt{vessel.Medium: 410}
	power, tested = burner.Power(vessel.Medium, 0)
	require.InDelta(t, 410, float64(power), 1e-9)
	require.True(t, tested)
}
