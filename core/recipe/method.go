package recipe

import (
	"errors"
	"math"
	"regexp"
	"slices"
	"strconv"
	"strings"

	"kirdu/core/measure"
	"kirdu/core/pantry"
	"kirdu/core/plan"
	"kirdu/core/vessel"
)

// The method of a recipe is read sentence by sentence. The grammar: a sentence falls into clauses,
// each begun by a word of doing ("bring", "add", "simmer", "soak", ...); "when", "once", "until",
// "if" and the like begin a condition, in which nothing is done. A clause names what it is done to
// by the names of the list, "the rest", "half the milk", "everything"; how long ("20 minutes", "half
// an hour", "overnight"); until when ("soft", "thick", "reduced by half", "three whistles"); on which
// flame; how to stir. What no clause is found in stays in sight and is asked.

// MaxMethod bounds the method of one recipe, in letters.
const MaxMethod = 12000

// ErrLongMethod is the fault of a text that is no recipe's.
var ErrLongMethod = errors.New("is too long: paste the method of one recipe")

// A Given is a line of the list that goes in.
type Given struct {
	Item plan.Item
	Text string // the line
	Note string // what it says beside name and amount
}

// A Sentence is one of the method with what was made of it.
type Sentence struct {
	Text   string
	Steps  []int // of the plan, by index
	Passed bool  // it says nothing that a plan has a step for: "serve hot", "wash the rice"
}

// Understood reports whether something was made of it.
func (s *Sentence) Understood() bool { return len(s.Steps) > 0 || s.Passed }

// Cooked is a recipe as a plan.
type Cooked struct {
	Plan      *plan.Plan
	Sentences []Sentence
	ByList    bool  // there was no method to go by: arranged by what is on the list
	Prepared  []int // steps made of what the lines of the list say: "soaked for 4 hours"
	Unplaced  []int // of the given: the method does not say where they go
}

// Cook makes a plan of a list and its method. Without a method that it can follow, or without one
// at all, it arranges the list. Errors: ErrNoLiquid, ErrLongMethod.
func (r *Reader) Cook(name string, choice plan.WayChoice, given []Given, method string) (Cooked, error) {
	if len(method) > MaxMethod {
		return Cooked{}, ErrLongMethod
	}
	c := cookery{reader: r, given: given, used: make([]float64, len(given)), preparations: make([][]preparing, len(given)),
		fried: map[int]string{}}
	for i := range given {
		c.names = append(c.names, r.namesOf(given[i]))
		c.fromLine(i)
	}
	var sentences []Sentence
	for _, text := range sentencesOf(method) {
		c.now = len(sentences)
		sentences = append(sentences, Sentence{Text: text, Passed: c.sentence(text)})
	}
	items := make([]plan.Item, len(given))
	for i := range given {
		items[i] = given[i].Item
	}
	made, err := Arrange(name, choice, items, r.pantry)
	if err != nil {
		return Cooked{}, err
	}
	result := Cooked{Plan: made, Sentences: sentences}
	if !c.follows() {
		result.ByList = true
		for i := range c.preparations {
			c.preparations[i] = slices.DeleteFunc(c.preparations[i], func(p preparing) bool { return p.sentence >= 0 })
		}
		for k := range result.Sentences {
			result.Sentences[k].Passed = false
		}
	} else {
		result.Unplaced = c.placeRest()
		made.Steps, made.Way = c.steps, "from a recipe"
		if choice.Serve == plan.Chilled && !slices.ContainsFunc(c.steps, func(s plan.Step) bool { return s.Do == plan.Chill }) {
			made.ServeAs(choice.Serve)
		}
	}
	c.prepare(made)
	for i := range made.Steps {
		step := &made.Steps[i]
		at, note := unmarked(step.Note)
		step.Note = note
		switch {
		case at >= 0 && at < len(result.Sentences):
			result.Sentences[at].Steps = append(result.Sentences[at].Steps, i)
		case step.Do.IsPreparation() && !result.ByList || step.Do.IsPreparation() && at == lineMark:
			result.Prepared = append(result.Prepared, i)
		}
	}
	return result, nil
}

// A preparing is what is done with an item before it goes in.
type preparing struct {
	name     string // of a plan.Preparation
	minutes  measure.Minute
	sentence int // -1: its line says so
}

// A cookery follows a method.
type cookery struct {
	reader       *Reader
	given        []Given
	names        [][]string // of each: phrases in plain words, the longest first
	used         []float64  // of each: the share that is in
	preparations [][]preparing
	steps        []plan.Step
	now          int // the sentence
	inPot        []int
	last         []int          // what was named last: "it"
	fried        map[int]string // the part that an item was fried into
	offHeat      bool
}

// namesOf returns the phrases by which a method may call a line of the list.
func (r *Reader) namesOf(g Given) []string {
	m, ok := r.pantry.Material(g.Item.Material)
	if !ok {
		return nil
	}
	set := map[string]bool{}
	add := func(text string) {
		words := plainWords(text)
		for k := range words {
			if phrase := strings.Join(words[k:], " "); len(phrase) > 2 && !describes[phrase] || phrase == "dal" || k == 0 && len(words) > 0 {
				set[phrase] = true
			}
		}
	}
	add(m.ShortName())
	for _, alias := range m.Aliases {
		add(alias)
	}
	for phrase, slug := range r.names {
		if slug == m.Slug {
			set[phrase] = true
		}
	}
	if !strings.HasPrefix(m.Slug, "milk-") {
		delete(set, "milk") // of coconut milk and condensed milk more is said
	}
	for _, class := range classes[m.Kind] {
		set[class] = true
	}
	switch m.Behaviour {
	case pantry.Grain:
		set["grain"] = true
	case pantry.Piece:
		set["nut"] = true
	}
	if strings.Contains(m.Slug, "rice") {
		set["rice"] = true
	}
	if strings.Contains(m.Slug, "moong") || strings.Contains(m.Slug, "chana") || strings.Contains(m.Slug, "lentil") {
		set["dal"], set["lentil"], set["pulse"] = true, true, true
	}
	if strings.HasPrefix(m.Slug, "milk-") {
		set["milk"] = true
	}
	if strings.HasPrefix(m.Slug, "coconut-milk") || m.Slug == "coconut-cream" {
		set["coconut milk"] = true
	}
	if strings.HasPrefix(m.Slug, "sago") {
		set["sago"], set["pearl"], set["tapioca"] = true, true, true
	}
	var list []string
	for phrase := range set {
		list = append(list, phrase)
	}
	slices.SortFunc(list, func(a, b string) int {
		if d := strings.Count(b, " ") - strings.Count(a, " "); d != 0 {
			return d
		}
		return strings.Compare(a, b)
	})
	return list
}

// classes are words for all of a kind.
var classes = map[string][]string{"sweetener": {"sugar", "sweetener"}, "nut": {"nut"}, "spice": {"spice"}}

// sentencesOf parts a text: at the ends of its lines, and at full stops that end no number.
func sentencesOf(text string) (list []string) {
	for line := range strings.Lines(text) {
		line = strings.TrimLeft(clean(line), "0123456789.) ")
		for _, part := range sentenceEnd.Split(line, -1) {
			if part = strings.Trim(part, " .;!"); part != "" {
				list = append(list, part)
			}
		}
	}
	return list
}

var sentenceEnd = regexp.MustCompile(`[.;!]\s+|[.;!]$`)

// conditions begin what is waited for, or only might be.
var conditions = map[string]bool{"when": true, "once": true, "after": true, "until": true, "till": true, "while": true, "before": true,
	"if": true, "as": true, "so": true, "because": true, "that": true}

// An action is what a word of doing asks for.
type action string

const (
	doAdd    action = "add"
	doBoil   action = "boil"
	doCook   action = "cook"
	doSoak   action = "soak"
	doRoast  action = "roast"
	doFry    action = "fry"
	doGrind  action = "grind"
	doGrate  action = "grate"
	doMash   action = "mash"
	doDrain  action = "drain"
	doPress  action = "squeeze"
	doChill  action = "chill"
	doCool   action = "cool"
	doRest   action = "rest"
	doBake   action = "bake"
	doTop    action = "top"
	doOff    action = "off"
	doCooker action = "cooker"
	doMelt   action = "melt"
	doSteam  action = "steam"
	doPass   action = "pass" // nothing that a plan has a step for
)

// doing are the words that begin a clause.
var doing = map[string]action{
	"add": doAdd, "pour": doAdd, "tip": doAdd, "put": doAdd, "drop": doAdd, "throw": doAdd, "combine": doAdd, "place": doAdd, "fold": doAdd,
	"return": doAdd, "mix": doAdd, "sweeten": doAdd, "whisk": doAdd, "beat": doAdd, "stir": doAdd, "blend": doAdd, "take": doAdd,
	"bring": doBoil, "boil": doCook, "simmer": doCook, "cook": doCook, "heat": doCook, "reduce": doCook, "thicken": doCook, "warm": doCook,
	"keep": doCook, "continue": doCook, "let": doCook, "leave": doRest, "rest": doRest, "stand": doRest, "set": doRest,
	"soak": doSoak, "roast": doRoast, "toast": doRoast, "fry": doFry, "saute": doFry, "sauté": doFry, "grind": doGrind, "grate": doGrate,
	"mash": doMash, "crush": doMash, "drain": doDrain, "strain": doDrain, "squeeze": doPress,
	"chill": doChill, "refrigerate": doChill, "cool": doCool, "bake": doBake, "garnish": doTop, "decorate": doTop, "scatter": doTop,
	"sprinkle": doTop, "top": doTop, "remove": doOff, "turn": doOff, "switch": doOff, "pressure": doCooker, "melt": doMelt,
	"dissolve": doAdd, "steam": doSteam, "wash": doPass, "rinse": doPass, "serve": doPass, "cover": doPass, "ladle": doPass, "spoon": doPass,
	"taste": doPass, "enjoy": doPass, "preheat": doPass, "grease": doPass, "watch": doPass, "adjust": doPass, "scrape": doPass,
	"check": doPass, "peel": doPass, "divide": doPass,
}

// sentence follows one. passed reports whether it asks for nothing that a plan has a step for.
func (c *cookery) sentence(text string) (passed bool) {
	words := methodWords(text)
	var clauses []clause
	var lead []string
	waits := false
	for k := 0; k < len(words); k++ {
		w := words[k]
		switch {
		case w == ",":
			waits = false
		case conditions[w] && !(w == "as" && k+1 < len(words) && words[k+1] == "well"):
			waits = true
		}
		do, begins := doing[w]
		if waits || !begins || !c.opens(words, k) {
			if len(clauses) == 0 {
				lead = append(lead, w)
			} else {
				last := &clauses[len(clauses)-1]
				last.words = append(last.words, w)
			}
			continue
		}
		clauses = append(clauses, clause{do: do, verb: w})
	}
	if len(clauses) == 0 {
		return false
	}
	clauses[0].words = append(lead, clauses[0].words...)
	did := false
	passed = true
	for k := range clauses {
		one := &clauses[k]
		if one.do == doPass {
			c.mentions(one) // "wash the sago and soak it"
			continue
		}
		before, prepared := len(c.steps), c.countPrepared()
		fine := c.clause(one)
		if len(c.steps) > before || c.countPrepared() > prepared {
			did = true
		} else if !fine {
			passed = false
		}
	}
	return passed && !did
}

func (c *cookery) countPrepared() (n int) {
	for _, list := range c.preparations {
		n += len(list)
	}
	return n
}

// opens reports whether a word of doing begins a clause where it stands: "the boil" and "a simmer"
// are things.
func (c *cookery) opens(words []string, k int) bool {
	if k == 0 {
		return true
	}
	switch before := words[k-1]; before {
	case "reduce", "lower", "increase", "raise", "pressure", "same", "serve", "served", "until", "very", "keep", "the", "a", "an", "to",
		"of", "rolling", "gentle", "well", "for", "dry", "in", "with", "is", "are", "has", "have", "low", "high", "medium", "at", "on",
		"stop":
		return before == "dry" && words[k] == "roast"
	}
	return true
}

// methodWords are the words of a sentence in lower case, commas kept, "then" and "and" as they are.
func methodWords(text string) (list []string) {
	text = strings.NewReplacer(",", " , ", ":", " , ", "(", " ", ")", " ", "/", " / ", "°", " ° ", "-", " ").Replace(strings.ToLower(text))
	for w := range strings.FieldsSeq(text) {
		if w = strings.Trim(w, `.'"!?`); w != "" {
			list = append(list, w)
		}
	}
	return list
}

// A clause is one thing that is done.
type clause struct {
	do    action
	verb  string
	words []string // after the verb, and what led up to it
}

func (l *clause) text() string { return strings.Join(l.words, " ") }

func (l *clause) has(phrases ...string) bool {
	text := " " + l.text() + " "
	return slices.ContainsFunc(phrases, func(p string) bool { return strings.Contains(text, " "+p+" ") })
}

func (c *cookery) emit(steps ...plan.Step) {
	for _, s := range steps {
		s.Note = marked(c.now, s.Note)
		c.steps = append(c.steps, s)
	}
}

// A mark in a note says which sentence made a step, until the plan is done.
const lineMark = -2

func marked(sentence int, note string) string { return "\x00" + strconv.Itoa(sentence) + "\x00" + note }

func unmarked(note string) (sentence int, rest string) {
	parts := strings.SplitN(note, "\x00", 3)
	if len(parts) < 3 {
		return -1, note
	}
	n, err := strconv.Atoi(parts[1])
	if err != nil {
		return -1, note
	}
	return n, parts[2]
}

// A mention is an item that a clause names, and how much of it.
type mention struct {
	item  int
	share float64 // of all that the list has of it
}

// mentions finds what a clause names. Words that are found are not found again.
func (c *cookery) mentions(l *clause) (list []mention) {
	words := slices.Clone(l.words)
	if at := slices.IndexFunc(words, func(w string) bool { return w == "until" || w == "till" }); at >= 0 {
		words = words[:at] // what it is then is not what it is done to
	}
	for k := range words {
		words[k] = singularWord(words[k])
	}
	if l.has("everything", "all the ingredients", "all ingredients", "remaining ingredients", "rest of the ingredients") {
		for i := range c.given {
			if c.used[i] < 1 && len(c.names[i]) > 0 && !c.isTopping(i) {
				list = append(list, mention{i, 1 - c.used[i]})
			}
		}
		return list
	}
	for length := 4; length >= 1; length-- {
		for k := 0; k+length <= len(words); k++ {
			phrase := strings.Join(words[k:k+length], " ")
			if strings.Contains(phrase, "\x00") {
				continue
			}
			found := false
			for i := range c.given {
				if !slices.Contains(c.names[i], phrase) || slices.ContainsFunc(list, func(m mention) bool { return m.item == i }) {
					continue
				}
				if c.used[i] >= 1 && c.another(phrase, i) {
					continue // the other of two milks is meant
				}
				list = append(list, mention{i, c.shareBefore(words, k, i)})
				found = true
				if !isClass(phrase) {
					break
				}
			}
			if found {
				for j := k; j < k+length; j++ {
					words[j] = "\x00"
				}
			}
		}
	}
	slices.SortFunc(list, func(a, b mention) int { return a.item - b.item })
	if len(list) > 0 {
		c.last = nil
		for _, m := range list {
			c.last = append(c.last, m.item)
		}
	}
	return list
}

// meant is what a clause names, or what was named last if it says "it", or nothing.
func (c *cookery) meant(l *clause) []mention {
	before := c.last
	list := c.mentions(l)
	if len(list) == 0 {
		for _, i := range before {
			list = append(list, mention{i, 1 - c.used[i]})
		}
	}
	return list
}

func isClass(phrase string) bool {
	return phrase == "nut" || phrase == "spice" || phrase == "sweetener"
}

// another reports whether something else goes by a phrase and is not in yet.
func (c *cookery) another(phrase string, not int) bool {
	for i := range c.given {
		if i != not && c.used[i] < 1 && slices.Contains(c.names[i], phrase) {
			return true
		}
	}
	return false
}

// shareBefore reads "half the", "the rest of the", "a third of the" before a name.
func (c *cookery) shareBefore(words []string, at, item int) float64 {
	left := 1 - c.used[item]
	from := max(at-4, 0)
	for k := at - 1; k >= from; k-- {
		share := left
		switch words[k] {
		case "half":
			share = 0.5
		case "third":
			share = 1.0 / 3
		case "quarter":
			share = 0.25
		case "two":
			continue
		case "the", "of", "a", "remaining", "rest", "other":
			continue
		default:
			return left
		}
		if k > 0 && words[k-1] == "two" && words[k] == "third" {
			share = 2.0 / 3
		}
		return min(share, left)
	}
	return left
}

func (c *cookery) material(i int) *pantry.Material {
	m, _ := c.reader.pantry.Material(c.given[i].Item.Material)
	return m
}

func (c *cookery) isTopping(i int) bool {
	return strings.Contains(strings.ToLower(c.given[i].Text), "sprinkl") || strings.Contains(strings.ToLower(c.given[i].Text), "garnish") ||
		strings.Contains(strings.ToLower(c.given[i].Text), "to finish")
}

// take returns the item of a mention, scaled to its share, and counts it as in.
func (c *cookery) take(m mention) (plan.Item, bool) {
	if m.share <= 0 {
		return plan.Item{}, false
	}
	item := c.given[m.item].Item
	c.used[m.item] = min(c.used[m.item]+m.share, 1)
	if math.Abs(m.share-1) > 1e-6 {
		amount, err := measure.ParseAmount(item.Amount)
		if err != nil {
			return plan.Item{}, false
		}
		item.Amount, item.Also = amount.Scale(m.share).String(), ""
	}
	return item, true
}

// put adds what is named and not in yet to the pot.
func (c *cookery) put(list []mention, step plan.Step) bool {
	step.Do = plan.Add
	for _, m := range list {
		if item, ok := c.take(m); ok {
			step.Items = append(step.Items, item)
			c.inPot = append(c.inPot, m.item)
		}
	}
	if len(step.Items) == 0 {
		return false
	}
	c.emit(step)
	return true
}

var (
	minutesSaid = regexp.MustCompile(`(\d+ \d+ / \d+|\d+ / \d+|\d+(?:\.\d+)?)(?: (?:to|or) (\d+(?:\.\d+)?)| (\d+))?` +
		` ?(?:more |further |extra |another )?(minutes?|mins?|min|hours?|hrs?|hr|h)\b`)
	numberOfTime = regexp.MustCompile(`\b[a-z]+ (?:minute|hour)`)
	whistleSaid  = regexp.MustCompile(`(\w+)(?: (?:to|or) \w+)? whistles?`)
	ovenSaid     = regexp.MustCompile(`(\d{2,3}) ?(?:° ?)?(c|f|degrees|celsius|fahrenheit)?\b`)
)

// minutes reads how long, the middle of a range; 0 for nothing said.
func (l *clause) minutes() measure.Minute {
	text := l.text()
	for _, said := range []struct {
		words   string
		minutes measure.Minute
	}{{"half an hour", 30}, {"an hour and a half", 90}, {"overnight", 480}, {"a few minutes", 3}, {"couple of minutes", 2},
		{"few hours", 180}} {
		if strings.Contains(text, said.words) {
			return said.minutes
		}
	}
	text = numberOfTime.ReplaceAllStringFunc(text, func(found string) string {
		word, rest, _ := strings.Cut(found, " ")
		if n, known := numberWords[word]; known {
			return strconv.FormatFloat(n, 'f', -1, 64) + " " + rest
		}
		return found
	})
	found := minutesSaid.FindStringSubmatch(text)
	if found == nil {
		return 0
	}
	low := mixedNumber(found[1])
	high := low
	for _, second := range found[2:4] {
		if second != "" {
			high = max(high, mixedNumber(second))
		}
	}
	middle := (low + high) / 2
	if strings.HasPrefix(found[4], "h") {
		middle *= 60
	}
	return measure.Minute(min(middle, 3000))
}

// mixedNumber reads "20", "1.5", "1 / 2" and "1 1 / 2".
func mixedNumber(text string) (sum float64) {
	fields := strings.Fields(text)
	for k := 0; k < len(fields); k++ {
		n, err := strconv.ParseFloat(fields[k], 64)
		if err != nil {
			continue
		}
		if k+2 < len(fields) && fields[k+1] == "/" {
			if below, err := strconv.ParseFloat(fields[k+2], 64); err == nil && below > 0 {
				n /= below
			}
			k += 2
		}
		sum += n
	}
	return sum
}

// stirring reads how to stir, "" for as usual.
func (l *clause) stirring() plan.Stir {
	switch {
	case l.has("constantly", "continuously", "all the time", "without stopping", "nonstop"):
		return plan.StirConstant
	case l.has("often", "frequently", "regularly"):
		return plan.StirOften
	case l.has("occasionally", "now and then", "from time to time", "sometimes"):
		return plan.StirNow
	case l.has("without stirring", "do not stir"):
		return plan.StirNone
	}
	return ""
}

// flame reads which.
func (l *clause) flame(usual vessel.Flame) vessel.Flame {
	switch {
	case l.has("medium high"):
		return vessel.MediumHigh
	case l.has("medium low", "low medium"):
		return vessel.MediumLow
	case l.has("medium heat", "medium flame", "on medium", "over medium", "moderate heat"):
		return vessel.Medium
	case l.has("high heat", "high flame", "on high", "full flame", "over high"):
		return vessel.High
	case l.has("lowest", "very low", "low heat", "low flame", "on low", "over low"):
		return vessel.Low
	case l.has("rolling boil", "boil hard", "rapidly"):
		return vessel.Boil
	case l.has("gently", "gentle", "simmer"):
		return vessel.Simmer
	}
	return usual
}
