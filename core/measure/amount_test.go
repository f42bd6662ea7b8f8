package measure_test

import (
	"math"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"kirdu/core/measure"
)

// milk weighs 1.03 g/ml and is not counted; an egg is.
var (
	milk = measure.Body{Density: 1.03}
	egg  = measure.Body{Density: 1.03, Piece: 50, PieceName: "egg"}
)

func TestGramsOfAmount(t *testing.T) {
	own := measure.Measures{"cup_ml": 200, "ladle_ml": 90, "tin_g": 400, "scoop-small_g": 12}
	cases := map[string]struct {
		text     string
		measures measure.Measures
		body     measure.Body
		want     measure.Gram
	}{
		"grams":               {"250 g", nil, milk, 250},
		"kilograms":           {"1.5 kg", nil, milk, 1500},
		"litre":               {"1 l", nil, milk, 1030},
		"no space":            {"500ml", nil, milk, 515},
		"decilitre":           {"2 dl", nil, milk, 206},
		"ounce":               {"2 oz", nil, milk, 56.699},
		"pound":               {"1 lb", nil, milk, 453.592},
		"fluid ounce":         {"1 floz", nil, milk, 30.4607},
		"default cup":         {"1 cup", nil, milk, 247.2},
		"own cup":             {"1 cup", own, milk, 206},
		"fraction":            {"1/2 cup", nil, milk, 123.6},
		"mixed fraction":      {"2 1/2 cups", nil, milk, 618},
		"sign of a fraction":  {"½ cup", nil, milk, 123.6},
		"number with a sign":  {"2½ cups", nil, milk, 618},
		"tablespoon":          {"3 tbsp", nil, milk, 46.35},
		"teaspoons":           {"2 tsp", nil, milk, 10.3},
		"glass, plural":       {"2 glasses", nil, milk, 412},
		"bowl":                {"1 bowl", nil, milk, 185.4},
		"pinch":               {"a pinch", nil, milk, -1},
		"two pinches":         {"2 pinches", nil, milk, 0.6},
		"pinch of threads":    {"1 pinch", nil, measure.Body{Density: 0.14, Piece: 0.002, PieceName: "thread"}, 0.035},
		"handful":             {"1 handful", nil, milk, 61.8},
		"own ladle":           {"2 ladles", own, milk, 185.4},
		"own name, hyphen":    {"3 scoop-small", own, milk, 36},
		"piece":               {"2 pieces", nil, egg, 100},
		"by its own name":     {"3 eggs", nil, egg, 150},
		"tin of this kitchen": {"1 tin", own, milk, 400},
		"capitals":            {"2 TBSP", nil, milk, 30.9},
	}
	for name, c := range cases {
		t.Run(name, func(t *testing.T) {
			amount, err := measure.ParseAmount(c.text)
			if c.want < 0 {
				require.Error(t, err)
				return
			}
			require.NoError(t, err)
			mass, err := c.measures.Grams(amount, c.body)
			require.NoError(t, err)
			require.InEpsilon(t, float64(c.want), float64(mass), 1e-4)
		})
	}
}

func TestFaultyAmounts(t *testing.T) {
	cases := map[string]struct {
		text string
		want error
	}{
		"nothing":          {"", measure.ErrNoNumber},
		"no number":        {"some milk", measure.ErrNoNumber},
		"no unit":          {"250", measure.ErrNoNumber},
		"unknown unit":     {"2 cupz", measure.ErrUnknownUnit},
		"zero":             {"0 g", measure.ErrNotPositive},
		"negative":         {"-3 g", measure.ErrNotPositive},
		"over zero":        {"1/0 cup", measure.ErrNoNumber},
		"infinite":         {"∞ g", measure.ErrNoNumber},
		"inf":              {"inf g", measure.ErrNoNumber},
		"hexadecimal":      {"0x10 g", measure.ErrNotPositive},
		"exponent":         {"1e3 g", measure.ErrUnknownUnit},
		"two numbers":      {"2 3 cups", measure.ErrNoNumber},
		"too much":         {"500 kg", measure.ErrTooLarge},
		"pieces of liquid": {"2 pieces", measure.ErrNoPiece},
		"decimal comma":    {"1,5 l", measure.ErrNoNumber},
	}
	for name, c := range cases {
		t.Run(name, func(t *testing.T) {
			amount, err := measure.ParseAmount(c.text)
			if err == nil {
				_, err = measure.Measures(nil).Grams(amount, milk)
			}
			require.ErrorIs(t, err, c.want)
		})
	}
}

func TestHousehold(t *testing.T) {
	sugar := measure.Body{Density: 0.85}
	cases := map[string]struct {
		mass measure.Gram
		body measure.Body
		want string
	}{
		"cups to the quarter":     {1236, milk, "5 cups"},
		"one and a half":          {306, sugar, "1½ cups"},
		"quarter cup":             {51, sugar, "¼ cup"},
		"tablespoons":             {25, sugar, "2 tbsp"},
		"half a teaspoon":         {2.1, sugar, "½ tsp"},
		"too little":              {0.2, sugar, ""},
		"nothing":                 {0, sugar, ""},
		"pieces, when they fit":   {152, egg, "3 eggs"},
		"leaves":                  {0.4, measure.Body{Density: 0.12, Piece: 0.2, PieceName: "leaf"}, "2 leaves"},
		"sweet potatoes":          {300, measure.Body{Density: 0.5, Piece: 150, PieceName: "sweet potato"}, "2 sweet potatoes"},
		"berries":                 {6, measure.Body{Density: 0.51, Piece: 0.6, PieceName: "berry"}, "10 berries"},
		"not pieces, when it not": {171, egg, "¾ cup"},
	}
	for name, c := range cases {
		t.Run(name, func(t *testing.T) {
			require.Equal(t, c.want, measure.Measures(nil).Household(c.mass, c.body))
		})
	}
}

func TestWeighable(t *testing.T) {
	require.InDelta(t, 185, float64(measure.Weighable(183.3)), 1e-9)
	require.InDelta(t, 23, float64(measure.Weighable(22.6)), 1e-9)
	require.InDelta(t, 1.5, float64(measure.Weighable(1.4)), 1e-9)
}

func TestAmountTextRoundTrip(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		unit := rapid.SampledFrom([]string{"g", "ml", "cup", "tsp", "own-ladle"}).Draw(t, "unit")
		number := rapid.Float64Range(0.01, 90000).Draw(t, "number")
		amount := measure.Amount{Number: number, Unit: unit}
		read, err := measure.ParseAmount(amount.String())
		require.NoError(t, err)
		require.InEpsilon(t, number, read.Number, 1e-12)
		require.Equal(t, unit, read.Unit)
	})
}

func TestRoundSignificant(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		x := rapid.Float64Range(1e-9, 1e9).Draw(t, "x")
		require.InEpsilon(t, x, measure.RoundSignificant(x, 6), 1e-5)
	})
	for _, x := range []float64{0, math.NaN(), math.Inf(1)} {
		require.Zero(t, measure.RoundSignificant(x, 6))
	}
}

func TestFaultsNameEachField(t *testing.T) {
	faults := measure.Faults{
		{Field: "steps[3].items[0].amount", Value: `"2 cupz"`, Err: measure.ErrUnknownUnit.With("cupz")},
		{Field: "pots.main", Err: measure.ErrNoNumber},
	}
	require.Equal(t, 2, strings.Count(faults.Error(), "\n")+1)
	require.Contains(t, faults.Error(), `steps[3].items[0].amount: "2 cupz": measure.unknown-unit: cupz`)
	require.ErrorIs(t, faults.Err(), measure.ErrNoNumber)
	require.NoError(t, measure.Faults{}.Err())
}

func FuzzParseAmount(f *testing.F) {
	for _, seed := range []string{"2 1/2 cups", "½ tsp", "-1 g", "1/0 l", "9999999999999999999 kg", "١ g", "1 \u202e g"} {
		f.Add(seed)
	}
	f.Fuzz(func(t *testing.T, text string) {
		amount, err := measure.ParseAmount(text)
		if err != nil {
			return
		}
		require.Greater(t, amount.Number, 0.0)
		require.False(t, math.IsInf(amount.Number, 0) || math.IsNaN(amount.Number))
		if mass, err := measure.Measures(nil).Grams(amount, milk); err == nil {
			require.LessOrEqual(t, mass, measure.MaxGrams)
		}
	})
}

func TestOwnMeasures(t *testing.T) {
	for typed, want := range map[string]string{"Tbsp": "tablespoon", "teaspoons": "teaspoon", " Blue  Mug ": "blue mug", "cups": "cup",
		"tin": "tin", "Pinches": "pinch"} {
		name, err := measure.OwnName(typed)
		require.NoError(t, err, typed)
		require.Equal(t, want, name)
	}
	for _, typed := range []string{"ml", "Litre", "oz", "pounds", "fl oz", "g"} {
		_, err := measure.OwnName(typed)
		require.ErrorIs(t, err, measure.ErrFixedUnit, typed)
	}
}

// Of the measures that a kitchen has, an amount is said in the one that is
// filled to a quarter most exactly.
func TestHouseholdTakesTheFittingMeasure(t *testing.T) {
	kitchen := measure.Measures{"cup_ml": 226, "glass_ml": 190, "blue-mug_ml": 312, "tin_g": 400, "thimble_ml": 8}
	water := measure.Body{Density: 1}
	for mass, want := range map[measure.Gram]string{226: "1 cup", 190: "1 glass", 312: "1 blue mug", 475: "2½ glasses", 565: "2½ cups",
		6720: "", 15: "1 tbsp", 5: "1 tsp"} {
		require.Equal(t, want, kitchen.Household(mass, water), "%v g", float64(mass))
	}
	require.Empty(t, kitchen.Household(0, water))
	require.Empty(t, kitchen.Household(100, measure.Body{}))
	require.Equal(t, "2 pears", kitchen.Household(300, measure.Body{Density: 0.6, Piece: 150, PieceName: "pear"}))
}

func TestOunces(t *testing.T) {
	for mass, want := range map[measure.Gram]string{3: "", 28.35: "1 oz", 100: "3½ oz", 453.6: "1 lb", 500: "1 lb 2 oz", 1236: "2 lb 12 oz"} {
		require.Equal(t, want, measure.Ounces(mass), "%v g", float64(mass))
	}
	require.Equal(t, "3 tins", measure.CountPieces(3, "tin"))
	require.Equal(t, "1 coconut", measure.CountPieces(1, "coconut"))
}

// Every unit that is offered can be weighed, and turning an amount into a unit
// and back returns it.
func TestUnitsCanAllBeWeighed(t *testing.T) {
	kitchen := measure.Measures{"cup_ml": 226, "ladle_ml": 120, "pinch_g": 0.4, "tablespoon_ml": 14}
	body := measure.Body{Density: 0.85, Piece: 1.5, PieceName: "nut"}
	units := kitchen.Units(body)
	require.Contains(t, units, "ladle")
	require.Contains(t, units, "nut")
	require.NotContains(t, units, "tablespoon", "tbsp is there")
	rapid.Check(t, func(t *rapid.T) {
		unit := rapid.SampledFrom(units).Draw(t, "unit")
		mass := measure.Gram(rapid.Float64Range(1, 5000).Draw(t, "mass"))
		one, err := kitchen.Grams(measure.Amount{Number: 1, Unit: unit}, body)
		require.NoError(t, err)
		again, err := kitchen.Grams(measure.Amount{Number: float64(mass / one), Unit: unit}, body)
		require.NoError(t, err)
		require.InEpsilon(t, float64(mass), float64(again), 1e-9)
	})
	name, size, ok := kitchen.Volume("cups")
	require.True(t, ok)
	require.Equal(t, "cup", name)
	require.InDelta(t, 226, float64(size), 0)
	_, _, ok = kitchen.Volume("g")
	require.False(t, ok)
}

// What is said in the kitchen's measures is read back by the same kitchen, and
// is near enough to what was weighed.
func TestHouseholdIsReadBack(t *testing.T) {
	kitchen := measure.Measures{"cup_ml": 226, "glass_ml": 190, "blue-mug_ml": 312, "tablespoon_ml": 14}
	rapid.Check(t, func(t *rapid.T) {
		body := measure.Body{Density: measure.GramPerMillilitre(rapid.Float64Range(0.3, 1.4).Draw(t, "density"))}
		mass := measure.Gram(rapid.Float64Range(0.5, 4000).Draw(t, "mass"))
		text := kitchen.Household(mass, body)
		if text == "" {
			return
		}
		amount, err := measure.ParseAmount(text)
		require.NoError(t, err, text)
		again, err := kitchen.Grams(amount, body)
		require.NoError(t, err, text)
		const steps = 0.55 // half a step of a quarter cup, a spoon or half a teaspoon, of the least that is said
		require.InEpsilon(t, float64(mass), float64(again), steps, text)
		if amount.Unit != "tsp" && amount.Unit != "tbsp" && amount.Number >= 2 {
			require.InEpsilon(t, float64(mass), float64(again), 0.07, text)
		}
	})
}
