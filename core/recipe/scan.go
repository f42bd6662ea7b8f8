package recipe

import (
	"regexp"
	"slices"
	"strconv"
	"strings"
	"unicode"

	"kirdu/core/measure"
	"kirdu/core/pantry"
)

// A scan reads one line of a list.
type scan struct {
	reader *Reader
	line   *Line
}

// A quantity is a number with the unit that was written, before the material
// is known.
type quantity struct {
	number float64
	unit   string // of the plan; "" for a bare number
	wrote  string // a unit as it was written, for a question
	note   string // "4-5", "heaped"
}

// dotted is a leader from a name to its amount: "milk.....2 cups".
var dotted = regexp.MustCompile(`\.{2,}|…`)

// hyphened is a number tied to its unit: "2-inch", "400-g".
var hyphened = regexp.MustCompile(`(\d)-(\pL)`)

// bracketed is what a line says in brackets.
var bracketed = regexp.MustCompile(`[(\[{]([^()\[\]{}]*)[)\]}]`)

func (s *scan) read(text string) {
	l := s.line
	text = partOf.ReplaceAllString(text, "$2 $3 $1$4")
	text = seedsOf.ReplaceAllString(text, "$2, $1")
	text = strings.ReplaceAll(text, " | ", " / ")
	text, like, grams := likeAThing(text)
	if (strings.HasSuffix(text, ":") || headed.MatchString(text)) &&
		!strings.ContainsFunc(text, unicode.IsDigit) && (s.heading(text) || layerSaid.MatchString(text)) {
		l.Heading, l.Note = true, strings.TrimSuffix(text, ":")
		return
	}
	var asides []string
	outside := bracketed.ReplaceAllStringFunc(text, func(found string) string {
		asides = append(asides, strings.TrimSpace(found[1:len(found)-1]))
		return " "
	})
	words := tokens(hyphened.ReplaceAllString(dotted.ReplaceAllString(outside, " - "), "$1 $2"))
	q, rest, found := s.quantity(words)
	if found && q.unit != "" && len(rest) > 2 && strings.EqualFold(rest[0], "or") { // "500 ml or 2 1/2 cups milk"
		if second, after, ok := s.quantity(rest[1:]); ok && second.unit != "" {
			l.Also, rest = second.String(), after
		}
	}
	if found && len(rest) > 1 && rest[0] == "/" { // "200 g / 7 oz sugar"
		if second, after, ok := s.quantity(rest[1:]); ok && second.unit != "" {
			l.Also, rest = second.String(), after
		}
	}
	// "2 (400 g) tins" and "1 tin (14 oz)": the size in brackets says more.
	if found && q.unit == "tin" {
		if size, ok := s.size(asides); ok {
			q.number, q.unit, q.note = q.number*size.number, size.unit, strings.TrimSpace(q.note+" "+q.wrote)
			asides = without(asides, size.wrote)
		}
	}
	if found && q.unit == "" && len(rest) > 0 {
		if size, ok := s.size(asides); ok && packs[singularWord(strings.ToLower(rest[0]))] {
			q.number, q.unit, q.note = q.number*size.number, size.unit, strings.TrimSpace(q.note+" "+rest[0])
			rest, asides = rest[1:], without(asides, size.wrote)
		}
	}
	if at := slices.IndexFunc(rest, func(w string) bool { return strings.EqualFold(w, "plus") || w == "+" }); found && at > 0 && q.unit != "" {
		isWater := strings.EqualFold(rest[0], "water") // "2 cups water + 1/4 cup for the jaggery" are two
		if more, left, ok := s.quantity(rest[at+1:]); ok && more.unit != "" && (len(left) == 0 || left[0] == "for" && !isWater) {
			q, rest = s.together(q, more), append(append(slices.Clone(rest[:at]), ","), rest[at+1:]...) // "1/4 cup sugar plus 2 tbsp"
		} else if ok && len(left) > 0 && left[0] == "to" {
			rest = append(append(slices.Clone(rest[:at]), ","), rest[at:]...) // "3 cups milk + 1/2 cup to thin it"
		}
	}
	if !found {
		q, rest, found = s.trailing(words)
	}
	if size, ok := s.size(asides); ok && !found && len(s.line.Asks) == 0 { // "Milk (2 cups)"
		q, found = size, true
		asides = without(asides, size.wrote)
	}
	if grams > 0 && found && (q.unit == "" || q.unit == "piece") {
		q.number, q.unit = q.number*grams, "g"
	}
	if size, ok := s.size(asides); ok && found && q.unit == "" && !s.hasPieces(rest) { // "1 small pumpkin (500 g)"
		size.note, q = strings.TrimSpace(rounded4(q.number)+" "+q.note), size
	}
	name, note := splitName(rest)
	s.material(name, note, asides)
	if found && q.unit == "pod" && l.Material == "vanilla-extract" {
		l.Material = "vanilla-pod" // "vanilla 1 pod"
	}
	s.weigh(q, found)
	s.second(asides)
	l.Note = noteOf(q.note, l.Note, like, asides)
}

// seedsOf is said of what is taken out of something that is counted: "seeds of 6 cardamom pods".
var seedsOf = regexp.MustCompile(`(?i)^(?:the )?((?:crushed |ground )?seeds) (?:of|from) (\d.*)$`)

// headed is how the heading of a part of a list begins.
var (
	headed    = regexp.MustCompile(`(?i)^(?:for |to (?:finish|serve|decorate|garnish|top|assemble)\b)|` + layer)
	layerSaid = regexp.MustCompile(`(?i)` + layer)
)

// layer is how a part is called after what it is of: "rhubarb layer".
const layer = `^\pL[\pL ]{2,30} (?:layer|base)$`

// packs are things that a size in brackets may stand before.
var packs = map[string]bool{"tin": true, "can": true, "packet": true, "pack": true, "carton": true, "bottle": true, "jar": true,
	"block": true, "bag": true, "sachet": true, "tub": true, "tetra": true, "box": true}

// heading reports whether words are no material: "For the syrup:".
func (s *scan) heading(text string) bool {
	lower := strings.ToLower(text)
	if strings.HasPrefix(lower, "for ") || strings.HasPrefix(lower, "to ") || ofAPart.MatchString(text) {
		return true
	}
	for _, w := range plainWords(text) {
		if w != "pudding" && s.reader.words[w] && !describes[w] {
			return false
		}
	}
	return true
}

// ofAPart is what a part is called after what it is of: "Cherry sauce:".
var ofAPart = regexp.MustCompile(`(?i)^\pL[\pL ]{1,30} (?:sauce|topping|compote|coulis|crumble|tempering|garnish|filling|porridge|` +
	`pudding|kheer|payasam):$`)

// likeThings are what cooks compare the size of a lump with, in g of butter or jaggery. Source: our own judgement.
var (
	likeThings = map[string]float64{"hazelnut": 10, "marble": 10, "gooseberry": 15, "walnut": 25, "lime": 40, "egg": 50, "lemon": 60}
	sizeSaid   = regexp.MustCompile(`(?i)(?:,? (?:about )?(?:the )?size of an? (?:small |large )?([a-z]+)|` +
		`\b(?:an? )?([a-z]+)[- ]sized? (?:piece|ball|lump|knob|bit)\b)`)
)

// likeAThing reads a size that is compared, and takes it out of a line: "a piece of butter the size of a walnut". grams is 0
// where nothing is.
func likeAThing(text string) (rest, said string, grams float64) {
	at := sizeSaid.FindStringSubmatchIndex(text)
	if at == nil {
		return text, "", 0
	}
	found := sizeSaid.FindStringSubmatch(text)
	if grams = likeThings[strings.ToLower(found[1]+found[2])]; grams == 0 {
		return text, "", 0
	}
	piece := ""
	if found[2] != "" {
		if piece = "piece"; strings.TrimSpace(text[:at[0]]) == "" {
			piece = "1 piece"
		}
	}
	return text[:at[0]] + piece + text[at[1]:], strings.TrimSpace(found[0]), grams
}

// hasPieces reports whether what is named is counted by the piece.
func (s *scan) hasPieces(words []string) bool {
	m, ok := s.reader.pantry.Material(s.find(strings.Join(words, " ")).slug)
	return ok && m.Piece > 0 && m.PieceName != ""
}

// tokens splits a line into numbers, words and signs: "200g" is "200" "g".
func tokens(text string) []string {
	var spaced strings.Builder
	var last rune
	for _, c := range text {
		digit, wasDigit := unicode.IsDigit(c), unicode.IsDigit(last)
		_, fraction := fractions[c]
		_, wasFraction := fractions[last]
		switch {
		case fraction && wasDigit, (wasDigit || wasFraction) && unicode.IsLetter(c) && !fraction:
			spaced.WriteByte(' ')
		case c == ',' || c == ';' || c == ':' || c == '=':
			if wasDigit && c == ',' {
				break // a decimal comma or a thousand, seen to by number
			}
			spaced.WriteByte(' ')
		case wasFraction && digit:
			spaced.WriteByte(' ')
		case last == '/' && unicode.IsLetter(c):
			spaced.WriteByte(' ')
		case c == '/' && unicode.IsLetter(last):
			spaced.WriteString(" / ")
			last = ' '
			continue
		}
		spaced.WriteRune(c)
		if c == ';' || c == ':' || c == '=' || (c == ',' && !wasDigit) {
			spaced.WriteByte(' ')
		}
		last = c
	}
	var words []string
	for _, w := range strings.Fields(spaced.String()) {
		if len(w) > 1 && strings.HasSuffix(w, ",") { // "2, chopped"
			words = append(words, strings.TrimSuffix(w, ","), ",")
			continue
		}
		words = append(words, w)
	}
	return words
}

var fractions = map[rune]float64{
	'¼': 1. / 4, '½': 1. / 2, '¾': 3. / 4, '⅓': 1. / 3, '⅔': 2. / 3, '⅕': 1. / 5, '⅖': 2. / 5, '⅗': 3. / 5, '⅘': 4. / 5,
	'⅙': 1. / 6, '⅚': 5. / 6, '⅛': 1. / 8, '⅜': 3. / 8, '⅝': 5. / 8, '⅞': 7. / 8,
}

// readNumber reads one number: "2", "1.5", "1,5", "1,000", "1/2", "½". It reports
// false for what is none, such as "1/0".
func readNumber(word string) (float64, bool) {
	if runes := []rune(word); len(runes) == 1 {
		if value, ok := fractions[runes[0]]; ok {
			return value, true
		}
	}
	if above, below, ok := strings.Cut(word, "/"); ok {
		a, okA := decimal(above)
		b, okB := decimal(below)
		return measure.Ratio(a, b), okA && okB && b > 0
	}
	return decimal(word)
}

var thousandsComma = regexp.MustCompile(`^\d{1,3}(,\d{3})+(\.\d+)?$`)

func decimal(word string) (float64, bool) {
	if thousandsComma.MatchString(word) {
		word = strings.ReplaceAll(word, ",", "")
	} else if strings.Count(word, ",") == 1 && !strings.Contains(word, ".") {
		word = strings.Replace(word, ",", ".", 1)
	}
	if word == "" || len(word) > 12 || strings.Trim(word, "0123456789.") != "" {
		return 0, false
	}
	value, err := strconv.ParseFloat(word, 64)
	return value, err == nil
}

// quantity reads an amount at the front of the words.
func (s *scan) quantity(words []string) (quantity, []string, bool) {
	var q quantity
	rest := words
	for len(rest) > 1 && besideUnit[strings.ToLower(strings.Trim(rest[0], ".,"))] { // "about 200 g"
		q.note = strings.TrimSpace(q.note + " " + rest[0])
		rest = rest[1:]
	}
	value, wrote, after, ok := s.amountNumber(rest)
	if !ok && len(rest) > 1 && aloneUnit[strings.ToLower(rest[0])] && (rest[1] == "of" || !strings.HasSuffix(rest[0],
		"ing")) { // "pinch of salt"
		value, after, ok = 1, rest, true
	}
	if !ok {
		return q, words, false
	}
	if strings.ContainsAny(wrote, "-–") || strings.Contains(wrote, " to ") || strings.Contains(wrote, " or ") {
		q.note = strings.TrimSpace(q.note + " " + wrote)
	}
	q.number, rest = value, after
	// "one 13.5-ounce can"
	if len(rest) > 2 {
		if inner, left, ok := s.packSize(rest); ok && len(left) > 0 && packs[singularWord(strings.ToLower(left[0]))] {
			inner.number *= q.number
			inner.note = left[0]
			return inner, left[1:], true
		}
	}
	// "2 x 400 g tins"
	if len(rest) > 2 && strings.EqualFold(rest[0], "x") {
		if inner, left, ok := s.quantity(rest[1:]); ok && inner.unit != "" {
			inner.number *= q.number
			if len(left) > 0 && packs[singularWord(strings.ToLower(left[0]))] {
				inner.note, left = left[0], left[1:]
			}
			return inner, left, true
		}
	}
	return s.unit(q, rest)
}

// packSize reads a plain number and its unit, as a pack gives its size.
func (s *scan) packSize(words []string) (quantity, []string, bool) {
	number, ok := readNumber(words[0])
	if !ok || !finitePositive(number) || number < 1 {
		return quantity{}, words, false
	}
	unit, factor, known := s.knownUnit(strings.ToLower(strings.Trim(words[1], ".,-")))
	return quantity{number: number * factor, unit: unit, wrote: words[1]}, words[2:], known
}

// unit reads the unit behind a number.
func (s *scan) unit(q quantity, rest []string) (quantity, []string, bool) {
	filled := rest
	for len(filled) > 1 && besideUnit[strings.ToLower(strings.Trim(filled[0], ".,"))] {
		filled = filled[1:]
	}
	if len(filled) == 0 {
		return q, rest, true
	}
	word := strings.ToLower(strings.Trim(filled[0], ".,;:"))
	switch strings.Trim(filled[0], ".,;:") { // the one place where the case of a letter tells
	case "T":
		word = "tbsp"
	case "t":
		word = "tsp"
	}
	next := ""
	if len(filled) > 1 {
		next = strings.ToLower(strings.Trim(filled[1], "."))
	}
	switch {
	case next != "" && s.own(singularWord(word)+"-"+singularWord(next)) != "":
		q.unit, filled = s.own(singularWord(word)+"-"+singularWord(next)), filled[1:]
	case (word == "fl" || word == "fluid") && (next == "oz" || singularWord(next) == "ounce"):
		q.unit, filled = "floz", filled[1:]
	case word == "th" && len(filled) > 1: // "3/4 th cup"
		return s.unit(q, filled[1:])
	case (word == "inch" || word == "cm" || word == "\"") && len(filled) > 1:
		// A length of cinnamon or ginger is one piece.
		q.note = strings.TrimSpace(q.note + " " + rounded4(q.number) + " " + word)
		q.number = 1
		q.unit = "piece"
		if unit := singularWord(next); unit == "piece" || unit == "stick" || unit == "knob" || unit == "pc" {
			filled = filled[1:]
		}
	default:
		unit, factor, known := s.knownUnit(word)
		// "4 cloves": the thing itself, not a unit; "2 whole cloves" likewise.
		if !known || (len(filled) == 1 && s.isMaterial(filled[0])) {
			return q, rest, true
		}
		if why, differs := loose[singularWord(word)]; differs {
			s.line.ask("amount", why)
		}
		q.unit, q.number, q.wrote = unit, q.number*factor, word
	}
	for _, beside := range rest[:len(rest)-len(filled)] {
		if besideUnit[strings.ToLower(strings.Trim(beside, ".,"))] {
			q.note = strings.TrimSpace(q.note + " " + beside)
		}
	}
	filled = filled[1:]
	if part, after := s.andAHalf(0, filled); part > 0 { // "a cup and a half"
		q.number += part
		filled = after
	}
	if len(filled) > 1 && (strings.EqualFold(filled[0], "of") || strings.EqualFold(filled[0], "-")) {
		filled = filled[1:]
	}
	// "1 cup + 2 tbsp sugar"
	if len(filled) > 2 && (filled[0] == "+" || strings.EqualFold(filled[0], "plus")) {
		if more, left, ok := s.quantity(filled[1:]); ok && more.unit != "" {
			return s.together(q, more), left, true
		}
	}
	return q, filled, true
}

// together adds a second amount of the same thing, in the unit of the first if
// both are volumes or both masses.
func (s *scan) together(a, b quantity) quantity {
	const probe = measure.GramPerMillilitre(1)
	body := measure.Body{Density: probe}
	one, errA := s.reader.measures.Grams(measure.Amount{Number: 1, Unit: a.unit}, body)
	other, errB := s.reader.measures.Grams(measure.Amount{Number: b.number, Unit: b.unit}, body)
	if errA != nil || errB != nil || one <= 0 {
		s.line.ask("amount", "recipe.two-amounts", a, b)
		return a
	}
	a.number += float64(other / one)
	return a
}

// knownUnit looks a unit up in the list and among the kitchen's own measures.
func (s *scan) knownUnit(word string) (unit string, factor float64, ok bool) {
	one := singularWord(word)
	if own := s.own(one); own != "" {
		return own, 1, true
	}
	known, ok := intakeUnits[word]
	if !ok {
		known, ok = intakeUnits[one]
	}
	return known.unit, known.factor, ok
}

// own returns the name of a measure of the kitchen's own, "" if it has none so
// named.
func (s *scan) own(name string) string {
	for _, key := range []string{name + "_ml", name + "_g"} {
		if _, own := s.reader.measures[key]; own {
			return name
		}
	}
	return ""
}

// isMaterial reports whether a word names something of the pantry.
func (s *scan) isMaterial(word string) bool {
	_, ok := s.reader.names[strings.Join(plainWords(word), " ")]
	return ok
}

// amountNumber reads a number, a mixed number or a range at the front.
func (s *scan) amountNumber(words []string) (value float64, wrote string, rest []string, ok bool) {
	if len(words) == 0 {
		return 0, "", words, false
	}
	first := strings.ToLower(strings.TrimSuffix(words[0], "."))
	if value, wrong := s.noAmount(first, words[0]); wrong {
		return value, "", words[1:], false
	}
	if value, isRange := hyphenRange(first); isRange {
		return value, words[0], words[1:], value > 0
	}
	value, ok = readNumber(first)
	if !ok {
		counts := first == "third" && len(words) > 1 && ofACoconut[strings.ToLower(words[1])]
		if value, ok = numberWords[first]; !ok || counts {
			return 0, "", words, false
		}
		value, rest = moreWords(value, words[1:])
		value, rest = s.andAHalf(value, rest)
		return value, words[0], rest, true
	}
	if !finitePositive(value) {
		s.line.ask("amount", "recipe.not-above-0", words[0])
		return 0, "", words[1:], false
	}
	rest = words[1:]
	if part, isFraction := fraction(rest); isFraction && value == float64(int(value)) {
		value, rest = value+part, rest[1:]
	}
	value, rest = s.andAHalf(value, rest)
	if len(rest) > 1 && strings.EqualFold(rest[0], "dozen") {
		value, rest = value*numberWords["dozen"], rest[1:]
	}
	if to, after, isRange := upTo(rest); isRange {
		return (value + to) / 2, words[0] + " " + rest[0] + " " + rest[1], after, true
	}
	return value, words[0], rest, true
}

// ofACoconut are words behind the number of a press: "third milk 3 cups".
var ofACoconut = wordSet("coconut milk press extract")

// noAmount reports a number that cannot be one of an amount, and asks for another.
func (s *scan) noAmount(first, wrote string) (value float64, wrong bool) {
	if strings.HasPrefix(first, "-") && len(first) > 1 {
		if x, isNumber := readNumber(first[1:]); isNumber {
			s.line.ask("amount", "recipe.below-0", wrote)
			return x, true
		}
	}
	const digits = "0123456789"
	if strings.Contains(first, "/") && strings.ContainsAny(first, digits) {
		if _, isNumber := readNumber(first); !isNumber && strings.Trim(first, digits+"./") == "" {
			s.line.ask("amount", "recipe.no-number", wrote)
			return 0, true
		}
	}
	return 0, false
}

// hyphenRange reads "4-5", "1/2-3/4", and "1-1/2" for one and a half.
func hyphenRange(text string) (value float64, ok bool) {
	low, high, isRange := strings.Cut(text, "-")
	if !isRange || low == "" || high == "" {
		return 0, false
	}
	a, okA := readNumber(low)
	b, okB := readNumber(high)
	if !okA || !okB {
		return 0, false
	}
	if strings.Contains(high, "/") && !strings.Contains(low, "/") && b < 1 && a >= 1 {
		return a + b, true
	}
	return (a + b) / 2, true
}

// moreWords goes on after a number that is a word: "a few", "a couple of", "a dozen",
// "half a cup", "a quarter cup".
func moreWords(value float64, rest []string) (float64, []string) {
	for len(rest) > 1 {
		next := strings.ToLower(rest[0])
		more, isNumber := numberWords[next]
		article := next == "a" || next == "an"
		switch {
		case next == "of", article && value < 1:
		case isNumber && value == 1 && !article:
			value = more
		case isNumber && next == "dozen":
			value *= more
		case value > 1 && (next == "quarters" || next == "thirds" || next == "quarter" || next == "third"): // "three quarters of a cup"
			value *= numberWords[singularWord(next)]
		default:
			return value, rest
		}
		rest = rest[1:]
	}
	return value, rest
}

// fraction reads a number below one at the front.
func fraction(words []string) (part float64, ok bool) {
	if len(words) == 0 {
		return 0, false
	}
	part, ok = readNumber(words[0])
	return part, ok && part < 1 && part > 0
}

// upTo reads the upper end of a range at the front: "to 5", "- 1 1/2".
func upTo(words []string) (high float64, rest []string, ok bool) {
	if len(words) < 2 || !slices.Contains([]string{"-", "to", "or"}, strings.ToLower(words[0])) {
		return 0, words, false
	}
	high, ok = readNumber(strings.ToLower(words[1]))
	if !ok || high <= 0 {
		return 0, words, false
	}
	rest = words[2:]
	if part, isFraction := fraction(rest); isFraction {
		high, rest = high+part, rest[1:]
	}
	return high, rest, true
}

// andAHalf reads "and a half", "and 1/2" and "& 1/2" behind a number.
func (s *scan) andAHalf(value float64, rest []string) (float64, []string) {
	if len(rest) < 2 || (!strings.EqualFold(rest[0], "and") && rest[0] != "&") {
		return value, rest
	}
	if part, ok := readNumber(rest[1]); ok && part > 0 && part < 1 {
		return value + part, rest[2:]
	}
	if len(rest) > 2 && strings.EqualFold(rest[1], "a") {
		if part, ok := numberWords[strings.ToLower(rest[2])]; ok && part < 1 {
			return value + part, rest[3:]
		}
	}
	return value, rest
}

// trailing finds an amount that stands behind the name: "Jaggery - 200 g".
func (s *scan) trailing(words []string) (quantity, []string, bool) {
	for i := 1; i < len(words); i++ {
		if len(s.line.Asks) > 0 && i == 1 {
			break // a number in front was no good already
		}
		q, rest, ok := s.quantity(words[i:])
		first := strings.ToLower(words[i])
		_, inWords := numberWords[first]
		sized := len(rest) > 0 && sizes[strings.ToLower(rest[0])] && (len(rest) == 1 || rest[1] == ",") // "coconut 1 big, grated"
		if !ok || (q.unit == "" && (inWords || len(rest) > 0 && rest[0] != "," && !sized)) {
			continue
		}
		name := words[:i]
		for len(name) > 0 && strings.Trim(name[len(name)-1], "-:=,.") == "" {
			name = name[:len(name)-1]
		}
		if len(name) == 0 {
			return quantity{}, words, false
		}
		if len(rest) > 0 {
			name = append(append(append([]string{}, name...), ","), rest...)
		}
		return q, name, true
	}
	return quantity{}, words, false
}

// sizes are said of what is counted.
var sizes = wordSet("big small large medium whole ripe fresh huge little")

// splitName parts the name of a thing from what is said of it.
func splitName(words []string) (name, note string) {
	for i, w := range words {
		if i > 0 && (w == "," || w == "-" || w == ";" || w == ":") {
			return strings.Join(words[:i], " "), strings.Trim(strings.Join(words[i+1:], " "), " ,")
		}
	}
	return strings.Trim(strings.Join(words, " "), " ,"), ""
}

// size looks for an amount among the asides.
func (s *scan) size(asides []string) (quantity, bool) {
	for _, a := range asides {
		if q, rest, ok := s.quantity(tokens(a)); ok && q.unit != "" && len(rest) == 0 {
			q.wrote = a
			return q, true
		}
	}
	return quantity{}, false
}

func without(list []string, one string) []string {
	var kept []string
	for _, entry := range list {
		if entry != one {
			kept = append(kept, entry)
		}
	}
	return kept
}

// material finds what a name stands for, and asks where it is not sure.
func (s *scan) material(name, note string, asides []string) {
	l := s.line
	l.Note = note
	name, mixed, with := cutWord(name, "with")
	if with {
		note = strings.Trim("with "+mixed+", "+note, " ,")
		l.Note = note
	}
	for _, word := range []string{"dissolved", "soaked", "steeped", "infused"} { // "saffron dissolved in 1/4 cup hot water"
		if before, how, has := cutWord(name, word); has && strings.HasPrefix(how, "in ") {
			name, note = before, strings.Trim(word+" "+how+", "+note, " ,")
			l.Note = note
		}
	}
	for _, word := range []string{"for", "to"} { // "sugar for the syrup", "nutmeg to grate over"
		if before, purpose, has := cutWord(name, word); has {
			name, note = before, strings.Trim(word+" "+purpose+", "+note, " ,")
			l.Note = note
		}
	}
	first, alternative, either := cutWord(name, "or")
	if either {
		l.Note = strings.Trim("or "+alternative+", "+note, " ,")
	}
	found := s.find(first)
	otherwise := "" // what stands beside it is called
	// "coconut milk, thick" and "rice (basmati)" name the kind behind the thing.
	for _, more := range append([]string{note}, asides...) {
		if at := besideKind.FindStringIndex(more); at != nil {
			more = more[:at[0]] // "soak in hot water, peel, slice"
		}
		if more == "" || strings.ContainsAny(more, "0123456789") || strings.HasPrefix(strings.ToLower(more), "or ") {
			continue
		}
		if closer := s.find(more + " " + first); closer.slug != "" && (found.slug == "" || closer.words > found.words || closer.sure &&
			!found.sure) {
			if alone := s.find(more); found.sure && alone.sure && alone.words == closer.words && alone.slug == closer.slug &&
				!slices.ContainsFunc(plainWords(first), func(w string) bool { return s.inNames(w, alone.slug) }) {
				otherwise = alone.slug // "ada (rice flakes)": two things, of which one is meant
				continue
			}
			found.slug, found.words = closer.slug, closer.words
			found.sure = found.sure || closer.sure
		}
	}
	s.asPrepared(&found, plainWords(name+" "+note+" "+strings.Join(asides, " ")))
	if found.slug == "" && either {
		found = s.find(alternative)
	}
	for _, w := range plainWords(name + " " + note) {
		if state, ok := states[w]; ok && l.State == "" {
			l.State = pantry.State(state)
		}
	}
	l.Material = found.slug
	if other := s.findIn(plainWords(alternative), s.reader.names); either && found.sure && other.slug != "" && other.slug != found.slug {
		one, _ := s.reader.pantry.Material(found.slug)
		second, _ := s.reader.pantry.Material(other.slug)
		l.ask("material", "recipe.which", one.ShortName(), second.ShortName())
	}
	if otherwise != "" && otherwise != found.slug && len(l.Asks) == 0 {
		one, _ := s.reader.pantry.Material(found.slug)
		second, _ := s.reader.pantry.Material(otherwise)
		l.ask("material", "recipe.which", one.ShortName(), second.ShortName())
	}
	switch {
	case found.slug == "" && strings.TrimSpace(name) == "":
		l.ask("material", "recipe.what")
	case found.slug == "":
		l.ask("material", "recipe.not-in-pantry", name)
	case found.near != "":
		material, _ := s.reader.pantry.Material(found.slug)
		l.ask("material", "recipe.near", found.near,
			material.Name)
	case !found.sure:
		material, _ := s.reader.pantry.Material(found.slug)
		l.ask("material", "recipe.is-this", material.Name)
	}
	if found.rest != "" {
		l.Note = strings.Trim(found.rest+", "+l.Note, " ,")
	}
}

// besideKind is how something else begins that is said of a thing.
var besideKind = regexp.MustCompile(`(?i)(?:^| )(?:in|with|into|under) `)

// asPrepared turns to another material where what is said of one makes it that: "jasmine rice, cooked", "grated rind of 1 lemon".
func (s *scan) asPrepared(found *match, said []string) {
	as := func(name string) {
		if other := s.find(name); other.sure {
			found.slug, found.sure = other.slug, true
		}
	}
	switch {
	case strings.HasPrefix(found.slug, "rice-") && found.near == "" && slices.Contains(said, "cooked"):
		as("cooked rice")
	case (found.slug == "citrus-juice" || found.slug == "orange-juice") &&
		slices.ContainsFunc(said, func(w string) bool { return w == "zest" || w == "zested" || w == "peel" || w == "rind" }):
		as("lemon zest")
	}
}

// cutWord cuts a text at a word that stands alone.
func cutWord(text, word string) (before, after string, found bool) {
	fields := strings.Fields(text)
	for i, f := range fields {
		if i > 0 && (strings.EqualFold(f, word) || (word == "or" && f == "/")) {
			return strings.Join(fields[:i], " "), strings.Join(fields[i+1:], " "), true
		}
	}
	return text, "", false
}

// A match is the material that a name stands for.
type match struct {
	slug  string
	words int    // of the name that it was known by
	sure  bool   // nothing in the words speaks against it
	rest  string // words that are no part of the name
	near  string // what it was called, if the material is only near to that
}

// find looks for the longest known name among the words.
func (s *scan) find(name string) match {
	words := plainWords(name)
	best := s.findIn(words, s.reader.names)
	if near := s.findIn(words, s.reader.near); near.slug != "" && near.words > best.words {
		best = near
		best.near, best.sure = strings.Join(words, " "), false
	}
	if best.slug == "" {
		return s.nearest(words)
	}
	return best
}

// findIn looks for the longest name of a list.
func (s *scan) findIn(words []string, names map[string]string) match {
	r := s.reader
	var best match
	at, second := 0, ""
	for length := min(r.longest, len(words)); length > 0; length-- {
		for i := 0; i+length <= len(words); i++ {
			slug, ok := names[strings.Join(words[i:i+length], " ")]
			if !ok || (length == 1 && describes[words[i]] && len(words) > 1) {
				continue
			}
			switch {
			case best.slug == "", length == best.words && length > 1 && i > at && i < at+best.words &&
				isMadeOf[words[i+length-1]]: // flakes of red rice
				best, at = match{slug: slug, words: length, sure: true}, i
			case slug != best.slug && !s.sameKind(slug, best.slug) && (i >= at+best.words || i+length <= at):
				second = slug
			}
		}
	}
	if best.slug == "" {
		return best
	}
	var rest []string
	for i, w := range words {
		if i >= at && i < at+best.words {
			continue
		}
		rest = append(rest, w)
		if !describes[w] && !besideUnit[w] && !s.related(w, best.slug) && !isFigure(w) {
			best.sure = false
		}
	}
	// Two things in one name: "coconut water", "vanilla sugar".
	if second != "" {
		best.sure = false
	}
	best.rest = strings.Join(rest, " ")
	return best
}

// isMadeOf are what a name is of, whatever stands before: "red rice flakes".
var isMadeOf = wordSet("flake flour powder meal paste noodle starch oil")

// isFigure reports whether a word is a number or a per cent.
func isFigure(word string) bool { return strings.Trim(word, "0123456789%.") == "" }

// sameKind reports whether two materials are of one kind, so that a name with
// both, "basmati rice", means the first.
func (s *scan) sameKind(a, b string) bool {
	one, okA := s.reader.pantry.Material(a)
	other, okB := s.reader.pantry.Material(b)
	return okA && okB && one.Kind == other.Kind
}

// related reports whether a word belongs to some name of the material or of
// its kind.
func (s *scan) related(word, slug string) bool {
	found, ok := s.reader.names[word]
	return ok && s.sameKind(found, slug) || s.inNames(word, slug)
}

// inNames reports whether a word is in one of the names of a material, or is its kind.
func (s *scan) inNames(word, slug string) bool {
	material, _ := s.reader.pantry.Material(slug)
	for _, alias := range append([]string{material.Name, material.Kind}, material.Aliases...) {
		for _, w := range plainWords(alias) {
			if w == word {
				return true
			}
		}
	}
	return false
}

// likeEnough is how alike a misspelt name must be to be offered.
const likeEnough = 0.6

// nearest offers the material whose name looks most like the words.
func (s *scan) nearest(words []string) match {
	name := strings.Join(words, " ")
	best := match{}
	most := likeEnough
	for _, m := range s.reader.pantry.All() {
		for _, alias := range append([]string{m.ShortName()}, m.Aliases...) {
			if score := pantry.Likeness(strings.Join(plainWords(alias), " "), name); score > most {
				most, best = score, match{slug: m.Slug, words: len(words)}
			}
		}
	}
	return best
}

// weigh writes the amount down in units of the plan and asks what is missing.
func (s *scan) weigh(q quantity, found bool) {
	l := s.line
	if !found || len(l.Asks) > 0 && !finitePositive(q.number) {
		return // a line without an amount is kept; it goes into no pot yet
	}
	material, known := s.reader.pantry.Material(l.Material)
	if q.unit == "" || q.unit == "piece" {
		switch {
		case known && material.Piece > 0 && material.PieceName != "":
			q.unit = material.PieceName
		case q.unit == "":
			l.ask("amount", "recipe.unit", rounded4(q.number))
			return
		}
	}
	l.Amount = q.String()
	if !known {
		return
	}
	amount, err := measure.ParseAmount(l.Amount)
	if err == nil {
		_, err = s.reader.measures.Grams(amount, material.Body())
	}
	if err != nil {
		l.ask("amount", "recipe.amount-is", l.Amount, err)
	}
}

// String writes the quantity as an amount of a plan.
func (q quantity) String() string {
	if text := (measure.Amount{Number: q.number, Unit: q.unit}).String(); strings.Contains(text, "/") {
		return text // "1/3 cup"
	}
	return rounded4(q.number) + " " + q.unit
}

// second keeps an amount in brackets as the other amount that a recipe gives.
func (s *scan) second(asides []string) {
	l := s.line
	if l.Also != "" || l.Amount == "" {
		return
	}
	size, ok := s.size(asides)
	if !ok {
		return
	}
	material, known := s.reader.pantry.Material(l.Material)
	amount, err := measure.ParseAmount(size.String())
	if !known || err != nil {
		return
	}
	if _, err := s.reader.measures.Grams(amount, material.Body()); err == nil {
		l.Also = size.String()
	}
}

// noteOf joins what is left of a line.
func noteOf(parts ...any) string {
	var notes []string
	add := func(text string) {
		if text = strings.Trim(text, " ,.-;"); text != "" {
			notes = append(notes, text)
		}
	}
	for _, p := range parts {
		switch p := p.(type) {
		case string:
			add(p)
		case []string:
			for _, text := range p {
				add(text)
			}
		}
	}
	return strings.Join(notes, ", ")
}
