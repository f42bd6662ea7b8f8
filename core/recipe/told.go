package recipe

import (
	"math"
	"slices"
	"strings"

	"kirdu/core/measure"
	"kirdu/core/pantry"
	"kirdu/core/plan"
)

// What a method tells beside what is done: how much of what.

// A tale is a thing that a method names, with its amount if it gives one.
type tale struct {
	name   string // as it stands there
	wrote  string // the amount as it stands there; "" without one
	amount measure.Amount
}

// tales are the things of the pantry that a method names, in their order.
func (r *Reader) tales(method string) (list []tale) {
	for _, sentence := range Sentences(method) {
		words := tokens(clean(sentence))
		for k := 0; k < len(words); {
			s := scan{reader: r, line: &Line{}}
			if strings.EqualFold(words[k], "another") {
				words[k] = "one"
			}
			q, rest, found := s.quantity(words[k:])
			behind := len(words) - len(rest)
			if name, end := r.nameAt(rest); found && name != "" && (q.unit != "" || s.hasPieces(strings.Fields(name))) {
				list = append(list, tale{name, strings.Join(words[k:behind], " "), measure.Amount{Number: q.number, Unit: q.unit}})
				k = behind + end
				continue
			}
			name, end := "", 0
			if first, _ := r.nameAt(words[k : k+1]); first != "" || r.words[singularWord(strings.ToLower(words[k]))] {
				name, end = r.nameAt(words[k:min(k+r.longest, len(words))])
			}
			if name != "" {
				list = append(list, tale{name: name})
			}
			k += max(end, 1)
		}
	}
	return list
}

// ListOf gathers what a recipe needs from a method that tells it without a list: "boil a litre of milk with 80 g rice". What is
// named with an amount stands first, in its order; what is named without one is a line of its name. A text with fewer than two
// amounts of things that the pantry knows gives none.
func (r *Reader) ListOf(method string) (list []string) {
	const fewest = 2
	told := r.tales(method)
	var called [][]string // how what is listed is called
	add := func(text string, slug string) {
		list = append(list, text)
		called = append(called, r.namesOf(Given{Item: plan.Item{Material: slug}, Text: text}))
	}
	for _, one := range told {
		if one.wrote != "" {
			text := one.wrote + " " + one.name
			l := r.line(text)
			add(text, l.Material)
		}
	}
	if len(list) < fewest {
		return nil
	}
	for _, one := range told {
		phrase := strings.Join(plainWords(one.name), " ")
		slug := r.names[phrase]
		if one.wrote == "" && slug != "" && slug != "water" &&
			!slices.ContainsFunc(called, func(names []string) bool { return slices.Contains(names, phrase) }) {
			add(one.name, slug)
		}
	}
	return list
}

// A Supplied is an amount for a line of a list that gives none.
type Supplied struct {
	Amount string // "": nobody knows
	Usual  bool   // no sentence of the method has it: it is what is usual
}

// Supply finds how much each line of a list means that gives no amount: what the method takes of it in all, or what is usual for
// so many bowls. Of lines with an amount it returns none.
func (r *Reader) Supply(lines []Line, method string, bowls int) []Supplied {
	list := make([]Supplied, len(lines))
	without := func(l *Line) bool { return l.Material != "" && l.Amount == "" && !l.Heading }
	if !slices.ContainsFunc(lines, func(l Line) bool { return without(&l) }) {
		return list
	}
	told := r.tales(method)
	for i := range lines {
		m, known := r.pantry.Material(lines[i].Material)
		if !known || !without(&lines[i]) {
			continue
		}
		names := r.namesOf(Given{Item: plan.Item{Material: lines[i].Material}, Text: lines[i].Text})
		var sum measure.Amount
		for _, one := range told {
			if one.wrote != "" && slices.Contains(names, strings.Join(plainWords(one.name), " ")) &&
				(sum.Unit == "" || sum.Unit == one.amount.Unit) {
				sum = measure.Amount{Number: sum.Number + one.amount.Number, Unit: one.amount.Unit}
			}
		}
		if _, err := r.measures.Grams(sum, m.Body()); err == nil && sum.Number > 0 {
			list[i] = Supplied{Amount: sum.String()}
		} else {
			list[i] = Supplied{r.usualAmount(m, bowls), true}
		}
	}
	return list
}

// nameAt finds the longest name of the pantry at the front of some words, behind what may stand between an amount and its name;
// end is how many words that takes.
func (r *Reader) nameAt(words []string) (name string, end int) {
	from := 0
	for from < len(words) {
		w := strings.ToLower(words[from])
		if w != "of" && w != "the" && w != "some" && !(describes[w] && doing[w] == "") || r.names[w] != "" {
			break
		}
		from++
	}
	for begin := range from + 1 { // "thick coconut milk" is a name of its own
		for length := min(r.longest, len(words)-begin); length > from-begin; length-- {
			said := words[begin : begin+length]
			if slices.ContainsFunc(said, func(w string) bool { return w == "," }) {
				continue
			}
			phrase := strings.Join(plainWords(strings.Join(said, " ")), " ")
			if r.names[phrase] != "" && (doing[phrase] == "" || greasing[phrase]) {
				return strings.ToLower(strings.Trim(strings.Join(said, " "), ".")), begin + length
			}
		}
	}
	return "", 0
}

// usualOf is how much of something goes into a bowl of pudding where a recipe leaves that to taste. Source: our own judgement.
var usualOf = map[string]measure.Amount{
	"saffron": {Number: 3, Unit: "thread"}, "clove": {Number: 0.5, Unit: "clove"}, "bay-leaf": {Number: 0.25, Unit: "leaf"},
	"pandan-leaf": {Number: 0.25, Unit: "leaf"}, "vanilla-pod": {Number: 0.2, Unit: "pod"}, "mint": {Number: 2, Unit: "leaf"},
	"lemongrass": {Number: 0.25, Unit: "stalk"}, "citrus-zest": {Number: 0.2, Unit: "lemon"}, "salt": {Number: 0.25, Unit: "pinch"},
	"nutmeg": {Number: 1. / 32, Unit: "tsp"}, "cinnamon": {Number: 1. / 16, Unit: "tsp"}, "cardamom": {Number: 1. / 16, Unit: "tsp"},
	"vanilla-extract": {Number: 0.2, Unit: "tsp"}, "rose-water": {Number: 0.25, Unit: "tsp"},
}

// The same of what behaves alike, and of what sweetens.
var (
	usualAs = map[pantry.Behaviour]measure.Amount{pantry.Aroma: {Number: 1. / 16, Unit: "tsp"}, pantry.Piece: {Number: 1.5, Unit: "tsp"},
		pantry.Fat: {Number: 0.75, Unit: "tsp"}}
	usualSugar = measure.Amount{Number: 1, Unit: "tbsp"}
)

// usualAmount is how much of something is usual for so many bowls, in measures of a kitchen: of what flavours, sweetens, or is
// fried for the top. "" for what a pudding is made of: that is not for anybody to guess.
func (r *Reader) usualAmount(m *pantry.Material, bowls int) string {
	if bowls < 1 || m.Kind == "dairy" {
		return ""
	}
	one, known := usualOf[m.Slug]
	if !known {
		one, known = usualAs[m.Behaviour]
	}
	if !known && m.Kind == "sweetener" {
		one, known = usualSugar, true
	}
	if !known {
		return ""
	}
	const spoon = 3 // tsp in a tbsp
	all := measure.Amount{Number: one.Number * float64(bowls), Unit: one.Unit}
	switch {
	case all.Unit != "tsp" && all.Unit != "tbsp":
		all.Number = max(1, math.Round(all.Number))
	case all.Unit == "tsp" && all.Number >= spoon:
		all = measure.Amount{Number: inParts(all.Number/spoon, 2), Unit: "tbsp"}
	case all.Number >= 1:
		all.Number = inParts(all.Number, 2)
	case all.Number > 0.25:
		all.Number = inParts(all.Number, 4)
	default:
		all.Number = inParts(all.Number, 8)
	}
	return all.String()
}

// inParts rounds to so many parts of one, and to at least one part.
func inParts(x, parts float64) float64 { return max(1, math.Round(x*parts)) / parts }
