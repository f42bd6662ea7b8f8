package measure_test

import (
	"math"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"kirdu/core/measure"
)

func TestWhatAKitchenCanMeasure(t *testing.T) {
	m := measure.Measures{"cup_ml": 240}
	milk := measure.Body{Density: 1.03}
	egg := measure.Body{Density: 1.03, Piece: 50, PieceName: "egg"}
	for typed, want := range map[string]string{
		"1236.4 g": "1240 g", "487 ml": "485 ml", "1.4567 l": "1.46 l", "83.4 g": "83 g", "7.3 g": "7.5 g", "0.26 g": "0.3 g",
		"2.01 cups": "2 cups",
		"0.497 cup": "0.5 cup", "22.5 cups": "22.5 cups", "1.31 cup": "325 g", "1.12 cup": "275 g", "0.1 cup": "25 g", "1.9 tbsp": "29 g",
		"2.02 tbsp": "2 tbsp", "1.99 pieces": "2 pieces", "2.493 kg": "2.49 kg",
	} {
		a, err := measure.ParseAmount(typed)
		require.NoError(t, err)
		body := milk
		if a.Unit == "pieces" {
			body = egg
		}
		require.Equal(t, want, m.Measurable(a, body, false).String(), typed)
	}
	whole := m.Measurable(measure.Amount{Number: 0.982, Unit: "egg"}, egg, true)
	require.Equal(t, "1 egg", whole.String(), "an egg is not divided")
	require.Equal(t, "2 egg", m.Measurable(measure.Amount{Number: 1.6, Unit: "egg"}, egg, true).String())
}

// Rounding is stable, moves little, and what comes back can be read.
func TestMeasurableMovesLittle(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		unit := rapid.SampledFrom([]string{"g", "kg", "ml", "l", "dl", "cup", "glass", "tbsp", "tsp", "oz", "lb", "piece"}).Draw(t, "unit")
		a := measure.Amount{Number: rapid.Float64Range(0.5, 50).Draw(t, "number"), Unit: unit}
		body := measure.Body{Density: 0.85, Piece: 12, PieceName: "piece"}
		m := measure.Measures{}
		before, err := m.Grams(a, body)
		require.NoError(t, err)
		once := m.Measurable(a, body, false)
		after, err := m.Grams(once, body)
		require.NoError(t, err)
		require.LessOrEqual(t, math.Abs(float64(after-before)), math.Max(0.1, 0.051*float64(before)), "%v to %v", a, once)
		require.Equal(t, once, m.Measurable(once, body, false))
		again, err := measure.ParseAmount(once.String())
		require.NoError(t, err)
		require.Equal(t, once, again)
	})
}
