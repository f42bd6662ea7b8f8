package recipe

import (
	"kirdu/core/pantry"
	"kirdu/core/plan"
	"math"
	"regexp"
	"slices"
	"strconv"
)

// waterToMelt is a guess at the water that sugar is melted in, "" where none is.
func (c *cookery) waterToMelt(l *clause) string {
	const part, step = 0.25, 10 // of its weight, ml. Source: our own judgement
	for _, group := range c.namedIn(l.text()) {
		if g := c.gramsOf(group[0]); g > 0 && c.sweetens(group[0]) {
			return strconv.Itoa(max(step, int(math.Round(g*part/step))*step)) + " ml"
		}
	}
	return ""
}

// cooksInWater reports whether something is cooked in water of which no amount is said: "boil the barley in fresh water".
func (c *cookery) cooksInWater(l *clause, k int) bool {
	if l.find("enough water") >= 0 || l.find("enough cold water") >= 0 {
		return l.do == doAdd || l.do == doBoil || l.do == doCook || l.do == doCooker
	}
	switch l.do {
	case doBoil, doCook, doCooker:
	case doAdd:
		if l.verb != "cover" && l.find("enough") < 0 && l.find("plenty") < 0 && l.find("boiling") < 0 && l.find("fresh") < 0 &&
			l.find("pan") < 0 && l.find("pot") < 0 {
			return false
		}
	default:
		return false
	}
	for _, beside := range []string{"tin", "bath", "basin", "bowl", "tap", "same", "over", "hot", "tablespoon", "spoon", "splash",
		"topping", "up"} {
		if at := l.find(beside); at >= 0 && at < k && k-at < 5 {
			return false
		}
	}
	return slices.ContainsFunc(append(c.last, c.solids(l)...), func(m mention) bool {
		return m.item >= 0 && (c.behaves(m, pantry.Grain) || c.behaves(m, pantry.Tissue))
	})
}

// solids are what the words of a clause name of grain and vegetables.
func (c *cookery) solids(l *clause) (list []mention) {
	for _, group := range c.namedIn(l.text()) {
		if m := c.material(group[0]); m != nil && (m.Behaviour == pantry.Grain || m.Behaviour == pantry.Tissue) {
			list = append(list, mention{item: group[0], share: 1, holder: -1})
		}
	}
	return list
}

// enoughWater is a guess at how much water is meant: what covers what is cooked in it, or plenty.
func (c *cookery) enoughWater(l *clause) string {
	const covers, usual, plenty = 1.5, 4.0, 8.0 // of its weight. Source: our own judgement
	times := usual
	switch {
	case l.has("plenty of", "large pan of", "large pot of", "lots of", "big pan of", "big pot of"):
		times = plenty
	case l.has("enough", "to cover", "just", "a little", "little"):
		times = covers
	}
	grams := 0.0
	solids := c.solids(l)
	if len(solids) == 0 {
		solids = c.last
	}
	for _, m := range solids {
		if m.item >= 0 {
			grams = max(grams, c.gramsOf(m.item))
		}
	}
	const step, least = 50, 200 // ml
	return strconv.Itoa(max(least, int(math.Ceil(grams*times/step))*step)) + " ml"
}

// steepedSaid is said of what is put into hot water that is poured off.
var steepedSaid = regexp.MustCompile(`(?i)\b(?:soak|blanch|steep)\b`)

// waterForAll takes water of which nobody says how much, for what there is of grain.
func (c *cookery) waterForAll(l *clause) []mention {
	before := c.last
	c.last = nil
	for i := range c.given {
		if one := (mention{item: i}); c.used[i] == 0 && c.behaves(one, pantry.Grain) {
			c.last = append(c.last, one)
		}
	}
	if len(c.last) == 0 {
		c.last = before
		return nil
	}
	amount := c.enoughWater(l)
	c.last = before
	return []mention{c.unsaidWater(l, amount)}
}

// unsaidWater takes up water of which nobody says how much.
func (c *cookery) unsaidWater(l *clause, amount string) mention {
	l.has("water")
	c.doubt(NoAmount, "water", amount)
	c.given = append(c.given, Given{Item: plan.Item{Material: "water", Amount: amount}, Text: amount + " water", Section: c.section,
		inMethod: true})
	c.used, c.preparations = append(c.used, 0), append(c.preparations, nil)
	c.names = append(c.names, c.reader.namesOf(c.given[len(c.given)-1]))
	return mention{item: len(c.given) - 1, share: 1, holder: -1}
}
