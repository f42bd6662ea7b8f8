package recipe

import (
	"regexp"
	"slices"
	"strings"

	"kirdu/core/measure"
	"kirdu/core/pantry"
	"kirdu/core/plan"
)

// How coconut is pressed is told in a sentence or in five, in words of which hardly one is the same twice: "grind it with a
// cup of water and squeeze", "do the same with two cups", "this is the first milk". So what is said of it is read as a whole:
// which milks, and with how much water each.

var (
	// What says that coconut is pressed, and what goes on with it.
	pressesIt = regexp.MustCompile(`(?i)\b(?:squeez|press|wring|extract)`)
	groundIt  = regexp.MustCompile(`(?i)\b(?:grat|grind|ground|blend|blitz|pulse|pound|soak|rub|knead)`)
	milkOfIt  = regexp.MustCompile(`(?i)\b(?:(?:first|second|third|thick|thin|medium|coconut|rich|light|main) (?:coconut )?` +
		`(?:milks?|extracts?|press(?:ing)?)|(?:two|three) (?:coconut )?(?:milks|extracts)|strain)\b`)
	goesOnPressing = regexp.MustCompile(`(?i)\b(?:again|repeat|residue|pulp|pomace|once more|the same|second|third|thin|first|` +
		`thick|squeezed coconut|pressed coconut)\b`)
	otherDoing = regexp.MustCompile(`(?i)\b(?:cook|boil|simmer|fry|roast|melt|dissolve|bring|bake|heat|stir|season|serve|` +
		`pour (?:it|this|the [a-z]+ milk) (?:in|into|over))\b`)
	// With how much water: "with 1 1/2 cups of warm water", "again with 2 cups", "another 500 ml"; or how much milk it gives.
	pressWater = regexp.MustCompile(`(?i)\b(?:(?:with|using|in|add|adding|another|pour(?:ing)?(?: on)?|further|more|and) )*` +
		`((?:\d[\d./]*(?: \d/\d)?|an?|half an?|one|two|three|four|half|three quarters of an?)(?: and a half)?) ?` +
		`(cups?|cupfuls?|ml|litres?|liters?|l|tumblers?|glass(?:es)?|pints?|dl)\b(?: of)?(?: (?:warm|hot|lukewarm|boiling|cold|fresh|` +
		`more|tepid|thick|thin|medium|first|second|third))*(?: (?:water|milk))?`)
	pressLabels = []*regexp.Regexp{regexp.MustCompile(`(?i)\b(?:first|thick|rich)\b`),
		regexp.MustCompile(`(?i)\b(?:second|medium)\b`), regexp.MustCompile(`(?i)\bthird\b`)}
	withWater = regexp.MustCompile(`(?i)\b(?:water|repeat|same)\b`)
	thinSaid  = regexp.MustCompile(`(?i)\b(?:thin|light)\b`)
	milkName  = regexp.MustCompile(`(?i)\b(?:first|second|third|thick|thin|medium|coconut|rich|light) (?:coconut )?(?:milks?|` +
		`extracts?|cream)\b`)
)

// pressesCoconut reads the sentences from one on that press coconut, and returns how many they are; 0 for none.
func (c *cookery) pressesCoconut(from int) (count int) {
	coconut := slices.IndexFunc(c.given, func(g Given) bool { return strings.HasPrefix(g.Item.Material, "coconut-meat") })
	if coconut < 0 || c.used[coconut] > 0 {
		return 0
	}
	m := mention{item: coconut, share: 1 - c.used[coconut], holder: -1}
	if !c.isCoconut(m) || !c.beginsPressing(from) {
		return 0
	}
	var told []string
	for k := from; k < len(c.text) && (k == from || c.goesOnPressing(k)); k++ {
		told = append(told, c.text[k])
	}
	text := strings.Join(told, ". ")
	waters, milks := c.pressWaters(text), labelled(text)
	if len(waters) == 0 && milks == 0 || len(waters) > len(pressWords) {
		return 0
	}
	const usual = 200 // ml, and twice as much for each that comes after it
	for len(waters) < milks {
		water := measure.Millilitre(usual)
		if len(waters) > 0 {
			water = 2 * waters[0]
		}
		waters = append(waters, water)
		c.now = from
		c.doubt(NoAmount, "water", measure.Amount{Number: float64(water), Unit: "ml"}.String())
	}
	item, ok := c.take(m)
	if !ok {
		return 0
	}
	c.now = from
	step := plan.Step{Do: plan.Press, Name: c.free("coconut"), Items: []plan.Item{item}}
	for k, ml := range waters {
		step.Presses = append(step.Presses, plan.PressOf{WaterML: ml})
		called := pressWords[k]
		if len(waters) == 3 && k > 0 && strings.Contains(strings.ToLower(text), "medium") {
			called = [][]string{nil, {"medium milk", "medium coconut milk", "second milk"}, {"thin milk", "thin coconut milk", "third milk"}}[k]
		}
		c.holders = append(c.holders, holder{name: step.Name + "." + string(rune('1'+k)), words: called, left: 1, items: []int{coconut},
			press: true})
	}
	c.emit(step)
	for k := range told {
		c.pressed[from+k] = true
		if k > 0 {
			c.shared[step.Name] = append(c.shared[step.Name], from+k)
		}
	}
	c.last = nil
	return len(told)
}

// beginsPressing reports whether a sentence begins to press coconut, and does nothing else.
func (c *cookery) beginsPressing(k int) bool {
	of := strings.Contains(strings.ToLower(c.text[k]), "coconut") || k > 0 && strings.Contains(strings.ToLower(c.text[k-1]), "coconut")
	text, next := c.text[k], ""
	if k+1 < len(c.text) && c.onlyPresses(c.text[k+1]) {
		next = c.text[k+1]
	}
	milk := milkOfIt.MatchString(text)
	groundFirst := pressesIt.MatchString(next) || milkOfIt.MatchString(next) // "grind it. Squeeze out the milk"
	begins := pressesIt.MatchString(text) || groundIt.MatchString(text) && (groundFirst || milk) ||
		milk && strings.Contains(strings.ToLower(text), "from the")
	return of && begins && c.onlyPresses(text)
}

func (c *cookery) goesOnPressing(k int) bool {
	text := c.text[k]
	if !goesOnPressing.MatchString(text) || !c.onlyPresses(text) {
		return false
	}
	return pressesIt.MatchString(text) || milkOfIt.MatchString(text) || pressWater.MatchString(text) && withWater.MatchString(text)
}

// onlyPresses reports whether a sentence names nothing but coconut and water, and does nothing with a pot.
func (c *cookery) onlyPresses(text string) bool {
	plain := milkName.ReplaceAllString(text, "")
	return !otherDoing.MatchString(plain) && !slices.ContainsFunc(c.namedIn(plain), func(group []int) bool {
		m := c.material(group[0])
		return m != nil && m.Slug != "water" && !c.isCoconut(mention{item: group[0]}) && m.Behaviour != pantry.Piece
	})
}

// pressWaters are the amounts of water, in the order in which they are said.
func (c *cookery) pressWaters(text string) (list []measure.Millilitre) {
	poured := slices.ContainsFunc(pressWater.FindAllString(text, -1), func(said string) bool { return strings.HasSuffix(said, "water") })
	for _, found := range pressWater.FindAllStringSubmatch(text, -1) {
		if poured && strings.HasSuffix(strings.ToLower(found[0]), "milk") {
			continue // what it gives
		}
		number := strings.ToLower(found[1])
		s := scan{reader: c.reader, line: &Line{}}
		q, rest, ok := s.quantity(strings.Fields(number + " " + strings.ToLower(found[2])))
		if !ok || len(rest) > 0 || q.number <= 0 {
			continue
		}
		grams, err := c.reader.measures.Grams(measure.Amount{Number: q.number, Unit: q.unit}, measure.Body{Density: 1})
		if err == nil {
			list = append(list, measure.Millilitre(grams))
		}
	}
	return list
}

// labelled counts the milks that a text names: first, second, third; thick and thin.
func labelled(text string) (n int) {
	for _, label := range pressLabels {
		if label.MatchString(text) {
			n++
		}
	}
	if thinSaid.MatchString(text) && !pressLabels[1].MatchString(text) || strings.Contains(strings.ToLower(text), "medium") &&
		thinSaid.MatchString(text) {
		n++
	}
	return n
}
