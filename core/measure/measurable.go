package measure

import (
	"math"
	"slices"
	"strings"
)

// What a kitchen can measure: the steps of a scale and a jug, from each size on. Source: our
// own judgement; kitchen scales show 1 g, jugs are marked at 10 to 50 ml, a small spoon is
// told to half a gram.
var (
	scaleSteps = []struct{ from, step float64 }{{500, 10}, {200, 5}, {20, 1}, {5, 0.5}, {0, 0.1}}
	jugSteps   = []struct{ from, step float64 }{{500, 10}, {100, 5}, {20, 1}, {5, 0.5}, {0, 0.1}}
)

// parts are how finely a household measure is filled, or a piece divided, by its unit; what
// is not named is filled to a quarter.
var parts = map[string]float64{"tablespoon": 2, "teaspoon": 4, "pinch": 2, "handful": 2, "piece": 2, "tin": 4, "stick": 4, "coconut": 4,
	"pod": 1, "oz": 4, "floz": 4, "lb": 20}

// mostMoved is how far rounding may move an amount, as a share, before it is given in grams
// instead.
const mostMoved = 0.04

// leastOfMeasure is the least of a cup or a spoon that is filled by eye, as a share of it.
const leastOfMeasure = 0.2

// Measurable returns the amount nearest to one that can be measured in a kitchen: to the step
// of a scale or a jug, to a quarter of a cup, half a spoon, whole pieces of what is not
// divided. Where that moves it by more than a twenty-fifth it comes back in grams. An amount that
// cannot be weighed comes back as it is.
func (m Measures) Measurable(a Amount, body Body, undivided bool) Amount {
	grams, err := m.Grams(a, body)
	if err != nil {
		return a
	}
	names := singular(a.Unit)
	has := func(units ...string) string {
		for _, unit := range units {
			if slices.Contains(names, unit) {
				return unit
			}
		}
		return ""
	}
	const perKilo = 1000
	inGrams := Amount{Number: stepped(float64(grams), scaleSteps), Unit: "g"}
	switch unit := has("g", "kg", "ml", "l", "dl"); unit {
	case "g":
		return inGrams
	case "kg":
		return Amount{Number: stepped(a.Number*perKilo, scaleSteps) / perKilo, Unit: a.Unit}
	case "ml":
		return Amount{Number: stepped(a.Number, jugSteps), Unit: a.Unit}
	case "l":
		return Amount{Number: stepped(a.Number*perKilo, jugSteps) / perKilo, Unit: a.Unit}
	case "dl":
		const perDecilitre = 100
		return Amount{Number: stepped(a.Number*perDecilitre, jugSteps) / perDecilitre, Unit: a.Unit}
	}
	if undivided {
		return Amount{Number: math.Max(1, math.Round(a.Number)), Unit: a.Unit}
	}
	divided := 4.0
	for _, name := range names {
		if n, known := parts[name]; known {
			divided = n
		}
	}
	rounded := Amount{Number: math.Round(a.Number*divided) / divided, Unit: a.Unit}
	if a.Number < leastOfMeasure || math.Abs(rounded.Number-a.Number) > mostMoved*a.Number {
		return inGrams
	}
	return rounded
}

// IsPiece reports whether a unit counts pieces of a material.
func (m Measures) IsPiece(unit string, body Body) bool {
	return slices.ContainsFunc(singular(unit), func(name string) bool {
		return name == "piece" || (name != "" && name == strings.ToLower(body.PieceName))
	})
}

func stepped(x float64, steps []struct{ from, step float64 }) float64 {
	for _, s := range steps {
		if x >= s.from {
			const digits = 6
			return RoundSignificant(math.Max(s.step, math.Round(x/s.step)*s.step), digits)
		}
	}
	return x
}
