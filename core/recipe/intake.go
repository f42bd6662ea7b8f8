package recipe

import (
	"cmp"
	"math"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"unicode"
	"unicode/utf8"

	"kirdu/core/measure"
	"kirdu/core/pantry"
)

// Bounds of a pasted list: a recipe has a few dozen lines, and a line longer
// than this is a paragraph of the method.
const (
	MaxIntakeLines = 200
	MaxIntakeLine  = 300
)

// ErrLongList is the fault of a list that is no recipe's.
var ErrLongList = measure.Code("recipe.long-list").With(MaxIntakeLines)

// A Line is one line of a pasted list as it was understood.
type Line struct {
	Number   int          // from 1
	Text     string       // as it was pasted
	Heading  bool         // of a part of the list: nothing to be weighed
	Material string       // slug; "" when none was recognised
	Amount   string       // as a plan has it; "" when the line gives none
	Also     string       // a second amount for the same thing
	State    pantry.State // raw, ground, whole, grated, chopped; "" for the usual
	Note     string       // the rest of the line; of a heading its part of the list, "" for the title of the whole
	Asks     []Ask        // what the cook should look at
}

// An Ask is a question about a line.
type Ask struct {
	Field string // material, amount or also
	Why   error  // what is asked, a measure.Code or measure.Fault
}

// Understood reports whether a line can go into a plan as it is.
func (l *Line) Understood() bool {
	return !l.Heading && l.Material != "" && l.Amount != "" && len(l.Asks) == 0
}

func (l *Line) ask(field string, why measure.Code, things ...any) {
	if len(things) == 0 {
		l.Asks = append(l.Asks, Ask{field, why})
	} else {
		l.Asks = append(l.Asks, Ask{field, why.With(things...)})
	}
}

// A Reader reads lists of ingredients with the words of a pantry and the
// measures of a kitchen.
type Reader struct {
	pantry   *pantry.Pantry
	measures measure.Measures
	names    map[string]string // a name in plain singular words to its slug
	near     map[string]string // a name of what the pantry has not, to the slug that can stand for it
	words    map[string]bool   // every word of such a name
	longest  int               // words of the longest name
}

// NewReader returns a reader for a pantry and measures.
func NewReader(p *pantry.Pantry, m measure.Measures) *Reader {
	r := &Reader{pantry: p, measures: m, names: map[string]string{}, near: map[string]string{}, words: map[string]bool{}}
	for _, material := range p.All() {
		r.learn(material.ShortName(), material.Slug)
		r.learn(strings.ReplaceAll(material.Slug, "-", " "), material.Slug)
	}
	for _, material := range p.All() { // after the names, which rule
		for _, alias := range material.Aliases {
			r.learn(alias, material.Slug)
		}
	}
	for _, material := range p.All() {
		for _, name := range material.Near {
			words := plainWords(name)
			r.near[strings.Join(words, " ")] = material.Slug
			r.longest = max(r.longest, len(words))
		}
	}
	return r
}

func (r *Reader) learn(name, slug string) {
	words := plainWords(name)
	if len(words) == 0 {
		return
	}
	key := strings.Join(words, " ")
	if _, taken := r.names[key]; !taken {
		r.names[key] = slug
	}
	r.longest = max(r.longest, len(words))
	for _, w := range words {
		r.words[w] = true
	}
}

// Read reads a pasted list, one line each; empty lines are passed over. Every
// other line comes back, understood or not. Errors: ErrLongList.
func (r *Reader) Read(text string) ([]Line, error) {
	var lines []Line
	number := 0
	for raw := range strings.Lines(text) {
		number++
		if clean(raw) == "" {
			continue
		}
		text := strings.TrimSpace(strings.ToValidUTF8(raw, "�"))
		part := partAndList.FindStringSubmatch(text)
		const several = 3
		if part != nil && len(milksOf(clean(text))) == 0 && len(lines) < MaxIntakeLines &&
			(headed.MatchString(part[1]) || len(r.apart(part[2])) >= several) {
			// "For the fruit: 200 g cherries, 1 tbsp sugar, 50 ml water", "To serve: treacle or jaggery"
			lines = append(lines, Line{Number: number, Text: part[1] + ":", Heading: true, Note: part[1]})
			text = part[2]
		}
		parts, shared := r.together(text)
		if !shared {
			parts = r.apart(text)
		}
		for _, one := range parts {
			if len(lines) == MaxIntakeLines {
				return nil, ErrLongList
			}
			l := r.line(one)
			l.Number = number
			if shared {
				l.ask("amount", "recipe.together", text)
			}
			lines = append(lines, l)
		}
	}
	if len(lines) > 0 && lines[0].Heading && !slices.ContainsFunc(lines[1:], func(l Line) bool { return l.Heading }) {
		lines[0].Note = "" // the title of the whole is no part: "My mother's semolina: 1 litre milk, 100 g semolina, 80 g sugar"
	}
	return lines, nil
}

// partAndList is a part of a list that is told in one line.
var partAndList = regexp.MustCompile(`^(\pL[^:,\d]{2,50}):\s+(\S.*)$`)

// joined is what stands between two things of one line.
var joined = regexp.MustCompile(`\s*(?:,|;|&|\band\b|\+|\.\s|\.$)\s*`)

// bothOf is said of the two things that a fruit gives.
var bothOf = regexp.MustCompile(`(?i)^((?:finely |grated )*)(zest|rind|peel|juice) (?:and|&|\+) ((?:grated )?(?:zest|rind|peel|` +
	`juice)) of (.*)$`)

var zestedToo = regexp.MustCompile(`(?i)^(half an?|an?|one|two|three|[\d½¼][\d½¼ /.]*) ?(?:large |small |unwaxed )?(lemon|orange|` +
	`lime)s?,? ` +
	`(?:(?:finely |grated )*(?:zest|peel|rind)(?:ed)? and juiced?|juiced? and (?:zest|peel|rind)(?:ed)?)$`)

// separated is said of eggs whose yolks and whites go their own ways.
var separated = regexp.MustCompile(`(?i)^(\d+|an?|one|two|three|four|five|six)((?: (?:large|medium|small|free[- ]range|organic|fresh))*) ` +
	`eggs?,? \(?(?:separated|yolks? and whites? separated?)\)?$`)

// partOf is said of what a fruit gives: "grated rind of 1 lemon".
var partOf = regexp.MustCompile(`(?i)^(.*?\b(?:zest|rind|peel|juice)) of (?:the )?(half an?|an?|one|two|three|` +
	`[\d½¼][\d½¼ /.]*) ?(lemon|orange|lime)s?\b(.*)$`)

// apart parts a line with several things that need no amount of their own: "ghee, cashews and raisins",
// "1/2 tsp each ginger powder and cardamom".
func (r *Reader) apart(raw string) []string {
	if milks := milksOf(clean(raw)); len(milks) > 1 {
		return milks
	}
	if list := r.apartByAmounts(raw); len(list) > 1 {
		return list
	}
	return r.severally(raw)
}

// milksOf are the milks of a coconut that a line has together: "coconut milk - thick 1/2 cup, thin 1 1/2 cups", "1 coconut (first
// milk 1 cup, second milk 2 cups and third milk 3 cups)".
func milksOf(text string) (list []string) {
	if !strings.Contains(text, "oconut") {
		return nil
	}
	found := milksTogether.FindStringSubmatch(text)
	if found == nil {
		return nil
	}
	for one := range strings.FieldsFuncSeq(strings.NewReplacer(" and ", ";", " & ", ";", " + ", ";").Replace(found[1]), func(c rune) bool {
		return c == ',' || c == ';'
	}) {
		milk := oneMilk.FindStringSubmatch(strings.TrimSpace(one))
		if milk == nil {
			return nil
		}
		list = append(list, milk[1]+milk[4]+" coconut milk "+milk[2]+milk[3])
	}
	return list
}

var (
	milksTogether = regexp.MustCompile(`(?i)^(?:\d [a-z ]*|fresh |grated )?coconuts?(?:,? milk[a-z]*)?(?: extracted)?` +
		`(?: ?[-:,]? ?\d+ ?(?:large|medium|small|big|nos?)? ?\()?[ :,(-]*(.+?)\)?$`)
	oneMilk = regexp.MustCompile(`(?i)^(?:(thick|thin|first|second|third)(?: milk| extract| press)?[ :-]*([\d½¼¾][\d½¼¾/. ]*[a-z]+)|` +
		`([\d½¼¾][\d½¼¾/. ]*[a-z]+)(?: of)? (thick|thin|first|second|third)(?: milk)?)$`)
)

// severally parts a line at its commas where what stands behind them has an amount, and is something else. What is not is said of
// what stands before it: "300 g pumpkin, peeled, 1 tin coconut milk, 60 g rock sugar", "dal 1 cup, washed, jaggery 200 g".
func (r *Reader) severally(raw string) []string {
	parts := commasOutside(clean(raw))
	if len(parts) == 1 {
		parts = beforeAmounts(parts[0])
	}
	list, last, bare := []string(nil), "", false
	for _, part := range parts {
		l := r.line(part)
		switch {
		case len(list) == 0:
			if l.Material == "" {
				return []string{raw}
			}
			list, last, bare = append(list, part), l.Material, l.Amount == ""
		case bare && len(list) == 1 && (l.Material != "" && !r.otherThing(l.Material, last) || onlyHow(part)):
			list[0] += ", " + part // "rice, basmati 1 cup", "jaggery, grated - 1 cup"
		case (hasAmount(part) || partOf.MatchString(part)) && l.Amount != "" && l.Material != "" && l.Material != last && !isPurpose(part):
			list, last = append(list, part), l.Material
		case l.Material == "" && withAmount.MatchString(part) && !isPurpose(part) && r.namesOther(part):
			list, last = append(list, part), "" // "1 banana, a few grapes", which the pantry does not have
		case r.bareName(part, last):
			list, last = append(list, part), l.Material // "10 cashews, raisins"
		default:
			list[len(list)-1] += ", " + part
		}
	}
	if len(list) < 2 {
		if each := r.apartByAmounts(parts[0]); len(each) > 1 && len(parts) > 1 { // "8 almonds + 8 cashews, ground to a powder"
			for k := range each {
				each[k] += ", " + strings.Join(parts[1:], ", ")
			}
			return each
		}
		return []string{raw}
	}
	var all []string
	for _, part := range list {
		all = append(all, r.apartByAmounts(part)...) // "grated rind and juice of 1 lemon"
	}
	return all
}

// namesOther reports whether a part of a line has an amount and a name, and says nothing of how something is: "2 hours soaked",
// "2 tbsp reserved" are said of what stands before.
func (r *Reader) namesOther(part string) bool {
	s := scan{reader: r, line: &Line{}}
	_, rest, found := s.quantity(tokens(part))
	return found && len(rest) > 0 && !slices.ContainsFunc(plainWords(strings.Join(rest, " ")), func(w string) bool {
		_, done := participle(w)
		return describes[w] || doing[w] != "" || done
	})
}

// onlyHow reports whether a part of a line names nothing, and says only how something is and how much.
func onlyHow(part string) bool { return allDescribe(amountBehind.ReplaceAllString(part, "")) }

// bareName reports whether some words are the name of something of another kind than what stands before them, and no more: a cook
// says it of nothing.
func (r *Reader) bareName(text, before string) bool {
	s := scan{reader: r, line: &Line{}}
	m := s.findIn(plainWords(text), r.names)
	return m.slug != "" && m.sure && m.rest == "" && m.slug != before && r.otherThing(m.slug, before)
}

// ofAnOrange are what a citrus fruit gives.
var ofAnOrange = map[string]bool{"citrus-zest": true, "citrus-juice": true, "orange-juice": true}

// otherThing reports whether two names beside each other are two things: "cashews, almonds", and not "rice, basmati".
func (r *Reader) otherThing(slug, before string) bool {
	if ofAnOrange[slug] && ofAnOrange[before] {
		return false // "1 orange, grated zest"
	}
	other, _ := r.pantry.Material(slug)
	one, known := r.pantry.Material(before)
	return !known || one.Kind != other.Kind || one.Kind == "nut" || one.Kind == "spice" || one.Kind == "dried-fruit"
}

// beforeAmounts parts a line that has lost its ends before each amount: "1 l milk 5 tbsp sugar 50 g rice".
func beforeAmounts(text string) (list []string) {
	const several = 3
	at := figureUnit.FindAllStringIndex(text, -1)
	if len(at) < several {
		return []string{text}
	}
	from := 0
	for _, next := range at[1:] {
		list, from = append(list, strings.TrimSpace(text[from:next[0]])), next[0]
	}
	return append(list, strings.TrimSpace(text[from:]))
}

// isPurpose reports whether an amount is one of what was named before: "1/4 cup for the jaggery".
func isPurpose(text string) bool { return purposeSaid.MatchString(text) }

var purposeSaid = regexp.MustCompile(`(?i)^[\d/. ¼½¾]*[a-z]+ (?:more |extra )?(?:for|to|if|when)\b`)

// commasOutside parts a text at commas and semicolons that stand in no brackets.
func commasOutside(text string) (list []string) {
	deep, from := 0, 0
	for k, c := range text {
		switch c {
		case '(', '[':
			deep++
		case ')', ']':
			deep--
		case ',', ';':
			if next := k + 1; deep == 0 && (c == ';' || next == len(text) || text[next] == ' ') {
				list, from = append(list, strings.TrimSpace(text[from:k])), next
			}
		}
	}
	return append(list, strings.TrimSpace(text[from:]))
}

// apartByAmounts is the same of things that have an amount each, or none of them.
func (r *Reader) apartByAmounts(raw string) []string {
	text := clean(raw)
	if both := bothOf.FindStringSubmatch(text); both != nil { // "zest and juice of 1 lemon"
		return []string{both[1] + both[2] + " of " + both[4], both[3] + " of " + both[4]}
	}
	if both := zestedToo.FindStringSubmatch(text); both != nil { // "1 lemon, zested and juiced"
		return []string{both[1] + " " + both[2] + " zest", both[1] + " " + both[2] + " juice"}
	}
	if eggs := separated.FindStringSubmatch(text); eggs != nil { // "2 eggs, separated"
		return []string{eggs[1] + eggs[2] + " egg yolks", eggs[1] + eggs[2] + " egg whites"}
	}
	s := scan{reader: r, line: &Line{}}
	q, rest, found := s.quantity(tokens(text))
	if strings.ContainsAny(text, "([") {
		return []string{raw}
	}
	if behind := eachBehind.FindStringSubmatch(text); behind != nil && !found { // "cashews, almonds - 2 tbsp each, chopped"
		return r.apartByAmounts(behind[2] + " each " + behind[1])
	}
	if found && (len(rest) < 2 || !strings.EqualFold(rest[0], "each") && !strings.EqualFold(rest[0], "of")) {
		return r.eachWithIts(raw, text)
	}
	names := text
	if found {
		each := slices.IndexFunc(rest, func(w string) bool { return strings.EqualFold(w, "each") })
		if each < 0 {
			return []string{raw}
		}
		names = strings.Join(rest[each+1:], " ")
	} else if strings.ContainsFunc(text, unicode.IsDigit) {
		return r.eachWithIts(raw, text)
	}
	purpose := ""
	if at := forTopSaid.FindStringIndex(names); at != nil && !found { // "walnuts, raisins and cinnamon for the top"
		names, purpose = names[:at[0]], names[at[0]:]
	}
	var list []string
	known := map[string]bool{}
	for _, name := range joined.Split(names, -1) {
		m := s.findIn(plainWords(name), r.names)
		if m.slug == "" && len(list) > 0 && allDescribe(name) {
			if amount := strings.Fields(name); aloneUnit[amount[len(amount)-1]] { // "cashews and raisins, a handful"
				for k := range list {
					list[k] = name + " " + list[k]
				}
			}
			continue // "few", "to taste"
		}
		if m.slug == "" || !m.sure || known[m.slug] {
			return []string{raw}
		}
		known[m.slug] = true
		if found {
			name = q.String() + " " + name
		}
		list = append(list, name+purpose)
	}
	if len(list) < 2 {
		return []string{raw}
	}
	return list
}

// forTopSaid is what things are for that a line has together.
var forTopSaid = regexp.MustCompile(`(?i),? (?:for|to) (?:the top|topping|garnish(?:ing)?|decorat(?:e|ion|ing)|serve|serving|finish|` +
	`sprinkle(?: over| on top)?)$`)

// eachBehind is said of an amount that stands behind the things that have it each.
var eachBehind = regexp.MustCompile(`(?i)^(\pL[^\d]+?)(?: ?[-:,])? ([\d½¼¾⅓⅔][\d½¼¾⅓⅔/. ]*[a-z]*) each\b(?:, .*)?$`)

// together parts a line with one amount for several things, of which it takes equal parts: "2 tbsp cashews and raisins".
func (r *Reader) together(raw string) (list []string, ok bool) {
	const most = 3
	s := scan{reader: r, line: &Line{}}
	q, rest, found := s.quantity(tokens(clean(raw)))
	if !found && !strings.Contains(raw, ",") { // "almonds and cashews 2 tbsp"
		q, rest, found = s.trailing(tokens(clean(raw)))
	}
	text := strings.Join(rest, " ")
	names := joined.Split(text, -1)
	if !found || !equalParts[q.unit] || len(names) < 2 || len(names) > most || strings.ContainsAny(raw, "([") ||
		strings.ContainsFunc(text, unicode.IsDigit) || strings.Contains(text, " or ") || strings.HasPrefix(text, "each") {
		return nil, false
	}
	q.number /= float64(len(names))
	var known []string
	for _, name := range names {
		m := s.findIn(plainWords(name), r.names)
		same := func(before string) bool { return !r.otherThing(m.slug, before) }
		if m.slug == "" || !m.sure || slices.Contains(known, m.slug) || slices.ContainsFunc(known, same) {
			return nil, false
		}
		known = append(known, m.slug)
		list = append(list, q.String()+" "+name)
	}
	return list, true
}

// equalParts are units of which half is as good.
var equalParts = wordSet("tbsp tsp cup g kg ml handful bowl glass oz")

// eachWithIts parts a line whose things have an amount each: "10 cashews, 10 almonds", "cashews 8, raisins 10".
func (r *Reader) eachWithIts(raw, text string) []string {
	const fewest = 2
	var list []string
	known := map[string]bool{}
	amounts := 0
	for _, part := range joined.Split(strings.TrimSuffix(text, "."), -1) {
		part = strings.TrimPrefix(strings.TrimPrefix(part, "The "), "the ")
		s := scan{reader: r, line: &Line{}}
		_, rest, found := s.quantity(tokens(part))
		m := s.findIn(plainWords(strings.Join(rest, " ")), r.names)
		one := r.line(part)
		switch understood := one.Understood() && one.Note == "" && !known[one.Material]; {
		case isPurpose(part):
			return []string{raw}
		case found && m.slug != "" && m.sure:
			amounts++
		case understood:
			m.slug = one.Material
			amounts++
		case m.slug == "" || !m.sure || known[m.slug] || amounts < fewest: // "rice 1 cup, milk 2 l, almonds a few"
			return []string{raw}
		}
		known[m.slug] = true
		list = append(list, part)
	}
	if len(list) < fewest {
		return []string{raw}
	}
	return list
}

func allDescribe(text string) bool {
	for _, w := range plainWords(text) {
		if !describes[w] && numberWords[w] == 0 && !aloneUnit[w] {
			return false
		}
	}
	return true
}

func (r *Reader) line(text string) Line {
	l := Line{Text: text}
	if utf8.RuneCountInString(text) > MaxIntakeLine {
		l.Text = string([]rune(text)[:MaxIntakeLine]) + "…"
		l.ask("material", "recipe.line-too-long")
		return l
	}
	s := scan{reader: r, line: &l}
	s.read(clean(text))
	return l
}

// clean makes a line plain: bullets, emoji, direction marks and doubled spaces
// go, digits of every script become 0 to 9, dashes and fraction strokes one.
func clean(text string) string {
	var b strings.Builder
	for _, c := range strings.TrimSpace(text) {
		switch {
		case c == '⁄' || c == '∕':
			b.WriteByte('/')
		case c == '–' || c == '—' || c == '−' || c == '‒':
			b.WriteByte('-')
		case c == '’' || c == '‘':
			b.WriteByte('\'')
		case c == '×':
			b.WriteString(" x ")
		case c > unicode.MaxASCII && unicode.IsDigit(c):
			b.WriteRune('0' + digitOf(c))
		case unicode.Is(unicode.Cf, c), unicode.Is(unicode.So, c), unicode.Is(unicode.Sk, c) && c > unicode.MaxASCII,
			unicode.Is(unicode.Mn, c) && c >= 0xFE00:
			b.WriteByte(' ') // direction marks, emoji, their variants
		case unicode.IsSpace(c) || unicode.IsControl(c):
			b.WriteByte(' ')
		default:
			b.WriteRune(c)
		}
	}
	joined := strings.Join(strings.Fields(b.String()), " ")
	joined = dashAmount.ReplaceAllString(joined, "$1 - $2")
	joined = strings.TrimLeft(joined, "•·*▢□☐◦‣▪●○>_~ ")
	for _, bullet := range []string{"- ", "+ ", "[ ] ", "[] ", "[x] "} {
		joined = strings.TrimPrefix(joined, bullet)
	}
	return strings.TrimSpace(inWords(joined))
}

// dashAmount is an amount behind the name and a dash: "Basmati rice -1/4 cup".
var dashAmount = regexp.MustCompile(`^(\pL[\pL ]{2,40}) ?-(\d)`)

// digitOf returns the value of a decimal digit of any script: their blocks of
// ten begin at the first digit after something that is none.
func digitOf(c rune) rune {
	value := rune(0)
	for value < 9 && unicode.IsDigit(c-value-1) {
		value++
	}
	return value
}

// plainWords splits a name into lower-case singular words without accents of
// punctuation.
func plainWords(name string) []string {
	fields := strings.FieldsFunc(strings.ToLower(name), func(c rune) bool {
		return !unicode.IsLetter(c) && !unicode.IsDigit(c) && c != '%' && c != '\'' && !unicode.Is(unicode.M, c)
	})
	words := make([]string, 0, len(fields))
	for _, f := range fields {
		f = cmp.Or(ordinals[f], f)
		if w := singularWord(strings.TrimSuffix(strings.Trim(f, "'"), "'s")); w != "" {
			words = append(words, w)
		}
	}
	return words
}

// singularWord takes a plural ending off a word of more than three letters.
func singularWord(word string) string {
	switch word {
	case "leaves":
		return "leaf"
	case "plus":
		return word
	}
	for _, ending := range []struct{ many, one string }{{"leaves", "leaf"}, {"ies", "y"}, {"toes", "to"}, {"goes", "go"}, {"sses", "ss"},
		{"ches", "ch"}, {"shes", "sh"}} {
		if stem, ok := strings.CutSuffix(word, ending.many); ok && stem != "" {
			return stem + ending.one
		}
	}
	if len(word) > 3 && strings.HasSuffix(word, "s") && !strings.HasSuffix(word, "ss") {
		return word[:len(word)-1]
	}
	return word
}

// intakeUnits are the ways cooks write a unit, singular, and the unit of the
// plan with how many of it they stand for.
var intakeUnits = map[string]struct {
	unit   string
	factor float64
}{
	"g": {"g", 1}, "gr": {"g", 1}, "gm": {"g", 1}, "gram": {"g", 1}, "gramme": {"g", 1}, "gms": {"g", 1}, "grs": {"g", 1},
	"kg": {"kg", 1}, "kilo": {"kg", 1}, "kilogram": {"kg", 1}, "kgs": {"kg", 1}, "mg": {"g", 0.001},
	"ml": {"ml", 1}, "millilitre": {"ml", 1}, "milliliter": {"ml", 1}, "cc": {"ml", 1}, "mls": {"ml", 1}, "cl": {"ml", 10},
	"dl": {"dl", 1}, "decilitre": {"dl", 1}, "deciliter": {"dl", 1},
	"l": {"l", 1}, "lt": {"l", 1}, "ltr": {"l", 1}, "litre": {"l", 1}, "liter": {"l", 1}, "lts": {"l", 1}, "ltrs": {"l", 1},
	"oz": {"oz", 1}, "ounce": {"oz", 1}, "lb": {"lb", 1}, "pound": {"lb", 1}, "lbs": {"lb", 1},
	"floz": {"floz", 1},
	"cup":  {"cup", 1}, "c": {"cup", 1}, "cupful": {"cup", 1}, "teacup": {"cup", 1},
	"glass": {"glass", 1}, "glasse": {"glass", 1}, "glassful": {"glass", 1}, "tumbler": {"glass", 1},
	"bowl": {"bowl", 1}, "bowlful": {"bowl", 1}, "katori": {"bowl", 1},
	"tbsp": {"tbsp", 1}, "tbs": {"tbsp", 1}, "tbl": {"tbsp", 1}, "tablespoon": {"tbsp", 1}, "tablespoonful": {"tbsp", 1},
	"tblsp": {"tbsp", 1}, "tbspn": {"tbsp", 1},
	"tsp": {"tsp", 1}, "teaspoon": {"tsp", 1}, "teaspoonful": {"tsp", 1}, "tspn": {"tsp", 1}, "dessertspoon": {"tsp", 2}, "dsp": {"tsp", 2},
	"pinch": {"pinch", 1}, "pinche": {"pinch", 1}, "dash": {"tsp", 0.125}, "smidgen": {"pinch", 1}, "scrape": {"pinch", 0.25},
	"scraping": {"pinch", 0.25},
	"grating":  {"pinch", 0.25}, "sprinkle": {"pinch", 0.5}, "sprinkling": {"pinch", 0.5}, "dusting": {"pinch", 0.5}, "shake": {"pinch",
		0.5}, "drop": {"ml", 0.05},
	"knob": {"tbsp", 1}, "spoon": {"tbsp", 1}, "spoonful": {"tbsp", 1}, // our own judgement
	"handful": {"handful", 1}, "handfull": {"handful", 1}, "fistful": {"handful", 1},
	"tin": {"tin", 1}, "can": {"tin", 1}, "stick": {"stick", 1}, "pod": {"pod", 1}, "piece": {"piece", 1}, "pc": {"piece", 1},
	"no": {"piece", 1}, "nos": {"piece", 1}, "stk": {"piece", 1}, "pcs": {"piece", 1}, "whole": {"piece", 1},
	"strand": {"piece", 1}, "thread": {"piece", 1}, "nut": {"piece", 1}, "leaf": {"piece", 1}, "kernel": {"piece", 1}, "half": {"piece", 0.5},
	"pint": {"ml", 500}, "pt": {"ml", 500}, "pts": {"ml", 500}, "quart": {"l", 0.95}, "qt": {"l", 0.95},
}

// loose are units that differ from country to country.
var loose = map[string]measure.Code{
	"pint":  "recipe.pint",
	"pt":    "recipe.pint",
	"pts":   "recipe.pint",
	"qt":    "recipe.quart",
	"quart": "recipe.quart",

	"spoon":    "recipe.spoon",
	"spoonful": "recipe.spoon",
}

// aloneUnit are units that need no number before them.
var aloneUnit = wordSet("pinch dash handful sprinkle sprinkling grating scraping dusting knob smidgen")

// numberWords are amounts in words.
var numberWords = map[string]float64{
	"a": 1, "an": 1, "one": 1, "two": 2, "three": 3, "four": 4, "five": 5, "six": 6, "seven": 7, "eight": 8, "nine": 9,
	"ten": 10, "eleven": 11, "twelve": 12, "dozen": 12, "fifteen": 15, "twenty": 20, "half": 0.5, "quarter": 0.25,
	"couple": 2, "few": 3, "several": 5, "third": 1. / 3,
}

// besideUnit are words that may stand around a unit and say how it is filled.
var besideUnit = map[string]bool{
	"heaped": true, "heaping": true, "level": true, "levelled": true, "scant": true, "generous": true, "large": true,
	"small": true, "medium": true, "big": true, "good": true, "full": true, "packed": true, "about": true, "approx": true,
	"approximately": true, "around": true, "roughly": true, "nearly": true, "rounded": true, "tall": true, "size": true,
	"sized": true, "generou": true, "short": false, "regular": true, "standard": true, "tiny": true, "extra": true, "just": true,
}

// describes are words that say how a thing is or what is done to it, and leave
// it the same thing.
var describes = map[string]bool{}

func init() {
	for w := range strings.FieldsSeq(`zested knotted bruised washed soaked rinsed drained cleaned peeled chopped sliced diced ` +
		`cubed grated shredded scraped crushed
		pounded ground powdered powder crumbled broken halved quartered slivered flaked roasted toasted fried dry dried fresh freshly
		frozen thawed ripe unripe raw plain pure natural organic good quality best homemade home made store bought shop unsweetened
		sweetened salted unsalted warm hot cold chilled lukewarm boiled boiling room temperature melted softened soft hard firm
		thick thin medium fine finely coarse coarsely large small big little whole split skinned skinless seedless pitted stoned deseeded
		husked dehusked hulled polished unpolished pearled short long grain grained white brown red black yellow golden green dark light
		mixed assorted optional needed required taste garnish garnishing topping decorate decoration serve serving frying tempering
		roasting soaking cooking sprinkle drizzle sweetening preferably preferred about approx approximately depending more less
		extra plus only well very lightly roughly thinly split into in to as for the of and with from at or your a an if you like other
		like per each any some few choice desired use using used piece pieces cube cubes chunk chunks strip strips bit bits pulp puree
		pureed mashed beaten whisked sifted sieved strained filtered concentrated granulated caster packed heaped level scant full
		fat cream creamy cow cows tinned canned tin can packet pack bottle bottled jar carton block lump lumps fistful nut nuts seed seeds
		pod pods stick sticks leaf leaves thread threads strand strands kernel kernels dal dhal lentil lentils essence extract
		variety kind type style new old tender mature sour sweet cooked uncooked leftover left over overnight day previous ready
		until till then just off on skin removed shelled blanched torn weight volume total divided separately again later
		crosswise lengthwise inch cm mm thickness tightly loosely measured gently kept aside overnight hours hour minutes minute min mins hr hrs
		squeezed pressed extracted first second third press presses extract undiluted diluted layered medium-sized sized round
		sugared substitute instead adjust according per-taste quantity liking eyeball approximately generously`) {
		describes[w] = true
		describes[singularWord(w)] = true
	}
}

// states are words that a plan's item has a place for.
var states = map[string]string{
	"grated": "grated", "shredded": "grated", "scraped": "grated", "chopped": "chopped", "diced": "chopped", "sliced": "chopped",
	"cubed": "chopped", "ground": "ground", "powder": "ground", "powdered": "ground", "crushed": "ground", "whole": "whole",
}

// rounded4 writes a number of an amount.
func rounded4(x float64) string {
	const digits = 4
	return strconv.FormatFloat(measure.RoundSignificant(x, digits), 'f', -1, 64)
}

// finitePositive reports whether x can be an amount.
func finitePositive(x float64) bool { return x > 0 && !math.IsInf(x, 0) }
