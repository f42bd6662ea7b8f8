package numeric_test

import (
	"math"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"kirdu/core/numeric"
)

func TestHalving(t *testing.T) {
	for name, c := range map[string]struct {
		root   float64
		status numeric.Status
	}{"inside": {2, numeric.Narrowed}, "below": {-1, numeric.AtLow}, "beyond": {9, numeric.AtHigh}} {
		b, status := numeric.Halve(numeric.Bracket{Low: 0, High: 5}, 30, func(x float64) bool { return x < c.root })
		require.Equal(t, c.status, status, name)
		require.InDelta(t, min(max(c.root, 0), 5), b.Middle(), 1e-6, name)
	}
	_, status := numeric.Halve(numeric.Bracket{Low: 0, High: 5}, 0, nil)
	require.Equal(t, numeric.Spent, status)
	b, status := numeric.HalveLog(numeric.Bracket{Low: 1, High: 1e6}, 40, func(x float64) bool { return x < 1000 })
	require.Equal(t, numeric.Narrowed, status)
	require.InDelta(t, 1000, b.High, 1e-3)
	require.Equal(t, "at high", numeric.AtHigh.String())
}

func TestGoldenMinimum(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		floor := rapid.Float64Range(-0.8, 0.8).Draw(t, "floor")
		x, status := numeric.GoldenMinimum(func(x float64) float64 { return (x - floor) * (x - floor) }, numeric.Bracket{Low: -1, High: 1}, 30)
		require.Equal(t, numeric.Narrowed, status)
		require.InDelta(t, floor, x, 1e-5)
	})
	x, status := numeric.GoldenMinimum(func(x float64) float64 { return x }, numeric.Bracket{Low: -1, High: 1}, 20)
	require.Equal(t, numeric.AtLow, status)
	require.InDelta(t, -1, x, 1e-3)
}

// The least norm meets its rows, and no other solution is shorter.
func TestLeastNorm(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		number := rapid.Float64Range(-3, 3)
		j := [][]float64{{number.Draw(t, "a"), number.Draw(t, "b"), 1}, {0, 2 + math.Abs(number.Draw(t, "c")), number.Draw(t, "d")}}
		r := []float64{number.Draw(t, "r"), number.Draw(t, "s")}
		x, status := numeric.LeastNorm(j, []float64{0, 0, 0}, r, 0)
		if math.Abs(j[0][0])+math.Abs(j[0][1]) < 0.1 {
			return // nearly the same rows
		}
		require.Equal(t, numeric.Met, status)
		for i := range j {
			sum := 0.0
			for k := range x {
				sum += j[i][k] * x[k]
			}
			require.InDelta(t, r[i], sum, 1e-6)
		}
	})
	x, status := numeric.LeastNorm([][]float64{{1, 1}}, []float64{0, 0}, []float64{2}, 0)
	require.Equal(t, numeric.Met, status)
	require.InDeltaSlice(t, []float64{1, 1}, x, 1e-9, "shared out evenly")
	_, status = numeric.LeastNorm([][]float64{{0, 0}}, []float64{0, 0}, []float64{2}, 0)
	require.Equal(t, numeric.Singular, status)
	_, status = numeric.LeastNorm(nil, nil, nil, 0)
	require.Equal(t, numeric.Singular, status)
}

func TestMarquardtGoesDown(t *testing.T) {
	// A line through points: one undamped step is the least-squares solution.
	j, r := [][]float64{{1, 0}, {1, 1}, {1, 2}}, []float64{-1, -3, -5}
	step, status := numeric.Marquardt(j, r, 0, 1e-12)
	require.Equal(t, numeric.Met, status)
	require.InDeltaSlice(t, []float64{1, 2}, step, 1e-6)
	damped, _ := numeric.Marquardt(j, r, 10, 1e-12)
	require.Less(t, numeric.Norm(damped), numeric.Norm(step), "damping shortens it")
	still, status := numeric.Marquardt([][]float64{{1, 0}, {1, 0}}, []float64{-1, -1}, 0, 1e-3)
	require.Equal(t, numeric.Met, status)
	require.Zero(t, still[1], "a column that moves nothing stays")
}

func TestInterpolate(t *testing.T) {
	xs, ys := []float64{0, 1, 1, 3}, []float64{0, 10, 20, 40}
	for x, want := range map[float64]float64{-1: 0, 0.5: 5, 1: 20, 2: 30, 9: 40} {
		require.InDelta(t, want, numeric.Interpolate(xs, ys, x), 1e-12, x)
	}
	require.Zero(t, numeric.Interpolate(nil, nil, 1))
}
