package recipe

import (
	"math"

	"kirdu/core/measure"
	"kirdu/core/pantry"
)

// usualOf is how much of something goes into a bowl of pudding where a recipe leaves that to taste. Source: our own judgement,
// after the lists of testdata/methods.txt that say it.
var usualOf = map[string]measure.Amount{
	"saffron": {Number: 3, Unit: "thread"}, "clove": {Number: 0.5, Unit: "clove"}, "bay-leaf": {Number: 0.25, Unit: "leaf"},
	"pandan-leaf": {Number: 0.25, Unit: "leaf"}, "vanilla-pod": {Number: 0.2, Unit: "pod"}, "mint": {Number: 2, Unit: "leaf"},
	"lemongrass": {Number: 0.25, Unit: "stalk"}, "citrus-zest": {Number: 0.2, Unit: "lemon"}, "salt": {Number: 0.25, Unit: "pinch"},
	"nutmeg": {Number: 1. / 32, Unit: "tsp"}, "cinnamon": {Number: 1. / 16, Unit: "tsp"}, "cardamom": {Number: 1. / 16, Unit: "tsp"},
	"vanilla-extract": {Number: 0.2, Unit: "tsp"}, "rose-water": {Number: 0.25, Unit: "tsp"},
}

// The same of what behaves alike.
var usualAs = map[pantry.Behaviour]measure.Amount{pantry.Aroma: {Number: 1. / 16, Unit: "tsp"}, pantry.Piece: {Number: 1.5, Unit: "tsp"},
	pantry.Fat: {Number: 0.75, Unit: "tsp"}}

// usualSugar is the same of what sweetens.
var usualSugar = measure.Amount{Number: 1, Unit: "tbsp"}

// UsualAmount is how much of something is usual for so many bowls, in measures of a kitchen, where a list gives no amount: of what
// flavours, sweetens, or is fried for the top. "" for what a pudding is made of: that is not for anybody to guess.
func (r *Reader) UsualAmount(slug string, bowls int) string {
	m, ok := r.pantry.Material(slug)
	if !ok || bowls < 1 || m.Kind == "dairy" {
		return ""
	}
	one, known := usualOf[slug]
	if !known {
		one, known = usualAs[m.Behaviour]
	}
	if !known && m.Kind == "sweetener" {
		one, known = usualSugar, true
	}
	if !known {
		return ""
	}
	const spoon, eighths, quarters, halves = 3.0, 8.0, 4.0, 2.0
	all := measure.Amount{Number: one.Number * float64(bowls), Unit: one.Unit}
	switch {
	case all.Unit != "tsp" && all.Unit != "tbsp":
		all.Number = max(1, math.Round(all.Number))
	case all.Unit == "tsp" && all.Number >= spoon:
		all = measure.Amount{Number: math.Round(all.Number/spoon*halves) / halves, Unit: "tbsp"}
	case all.Number >= 1:
		all.Number = math.Round(all.Number*halves) / halves
	case all.Number > 1/quarters:
		all.Number = math.Round(all.Number*quarters) / quarters
	default:
		all.Number = max(1, math.Round(all.Number*eighths)) / eighths
	}
	return all.String()
}
