package recipe

import (
	"regexp"
	"slices"
	"strconv"
	"strings"

	"kirdu/core/measure"
	"kirdu/core/pantry"
	"kirdu/core/plan"
	"kirdu/core/vessel"
)

// The method of a recipe is read sentence by sentence. The grammar:
//
//   - A sentence falls into clauses, each begun by a word of doing ("bring", "add", "simmer", "soak").
//     "When it boils", "once soft", "after 10 minutes" in front say how what is on the flame ends; "until
//     soft", "until reduced by half" at the end say how the clause does. What hangs on an "if" is done by
//     nobody yet: it is kept as a note at the step before it.
//   - A clause names what it is done to by the names of the list, with shares and amounts ("half the
//     milk", "the rest", "2 tbsp of the ghee"), by what was made before ("the syrup", "the mixture"), or by
//     "it" and "everything". What comes with its own amount ("3 cups of water") need not be on the list.
//   - "In another pan", "meanwhile" with a flame, and a heading ("For the compote:") open a second pot; what is
//     in it goes into the first, or onto it, where the method says so. Beaten egg, stirred flour and melted
//     jaggery are made beside the pot and taken when they are called for.
//   - How long, which flame, how to stir and the lid are read from each clause.
//
// Each word is either read, or holds the sentence together, or is told as not read: a sentence with
// such a word carries a Doubt. A sentence of which nothing was made stays beside the step before it.

// MaxMethod bounds the method of one recipe, in letters.
const MaxMethod = 12000

// ErrLongMethod is the fault of a text that is no recipe's.
var ErrLongMethod = measure.Code("recipe.long-method")

// A Given is a line of the list that goes in.
type Given struct {
	Item    plan.Item
	Text    string // the line
	Note    string // what it says beside name and amount
	Section string // the heading above it: "For the syrup"

	inMethod bool // only the method has it
}

// A DoubtOf is a kind of doubt.
type DoubtOf string

// Doubts about a sentence.
const (
	Unread         DoubtOf = "unread"           // Words: of which nothing was made
	MoreThanListed DoubtOf = "more-than-listed" // Words: the line of the list; Amount: what the method takes of it
	HowLong        DoubtOf = "how-long"         // Minutes were taken: the method does not say
	NoAmount       DoubtOf = "no-amount"        // Words: goes in by this method, and neither it nor the list says how much
	TakenFor       DoubtOf = "taken-for"        // Words: the line that was taken, the method names none
	NotPut         DoubtOf = "not-put"          // Words: is named, and was put nowhere
	OtherPan       DoubtOf = "other-pan"        // Words: a pan is named, and no second one was taken
	TimeLost       DoubtOf = "time-lost"        // Minutes are said, and no step lasts so long
	NotDone        DoubtOf = "not-done"         // Words: is said to be done, and no step does it
	NotPoured      DoubtOf = "not-poured"       // Words: is made, and the method does not say where it goes
	Unnamed        DoubtOf = "unnamed"          // Words: goes in by its steps, and it does not name it
	InAlready      DoubtOf = "in-already"       // Words: is to go in, and went in before
	FigureLost     DoubtOf = "figure-lost"      // Words: a figure that no step has
	AllOfIt        DoubtOf = "all-of-it"        // Words: of which a part is said, and all went in
	Elsewhere      DoubtOf = "elsewhere"        // Words: is named, and what is heated by its steps has nothing to do with it
	WholePot       DoubtOf = "whole-pot"        // Words: is to be mashed, and all that is in the pot would be
)

// Doubts lists the kinds of doubt.
func Doubts() []DoubtOf {
	return []DoubtOf{Unread, MoreThanListed, HowLong, NoAmount, TakenFor, NotPut, OtherPan, TimeLost, NotDone, NotPoured, Unnamed,
		InAlready, FigureLost, AllOfIt, WholePot, Elsewhere}
}

// A Doubt is what a cook should look at in a sentence that was read.
type Doubt struct {
	Of      DoubtOf
	Words   string
	Amount  string
	Minutes measure.Minute
}

// A Sentence is one of the method with what was made of it.
type Sentence struct {
	Text   string
	As     string // what the cook had read in its place
	Steps  []int  // of the plan, by index
	Passed bool   // it says nothing that a plan has a step for: "serve hot", "wash the rice"
	Kept   bool   // what is done only if: a note at the step before
	Doubts []Doubt
}

// Understood reports whether something was made of it.
func (s *Sentence) Understood() bool { return len(s.Steps) > 0 || s.Passed || s.Kept }

// Cooked is a recipe as a plan.
type Cooked struct {
	Plan      *plan.Plan
	Sentences []Sentence
	ByList    bool  // there was no method to go by: arranged by what is on the list
	Prepared  []int // steps made of what the lines of the list say: "soaked for 4 hours"
	Unplaced  []int // of the given: the method does not say where they go
}

// Cook makes a plan of a list and its method, with the corrections of sentences by number from 0. Without a
// method that it can follow, or without one at all, it arranges the list as a school does. Errors: ErrNoLiquid,
// ErrLongMethod.
func (r *Reader) Cook(name string, choice plan.WayChoice, given []Given, method string, corrected map[int]Correction, school School) (
	Cooked, error) {
	if len(method) > MaxMethod {
		return Cooked{}, ErrLongMethod
	}
	c := cookery{reader: r, given: slices.Clone(given), used: make([]float64, len(given)), preparations: make([][]preparing, len(given)),
		at: -1, assumed: -1, steeps: -1, doubts: map[int][]Doubt{}, kept: map[int]bool{}, shared: map[string][]int{},
		reserved: map[int]float64{}, steeped: map[int]bool{}, strained: map[int]bool{},
		dressed: map[int]mention{}}
	for i := range given {
		c.names = append(c.names, r.namesOf(given[i]))
		c.fromLine(i)
	}
	var sentences []Sentence
	told := Sentences(method)
	c.text = slices.Clone(told)
	for k, correction := range corrected {
		if correction.As != "" && k >= 0 && k < len(c.text) {
			c.text[k] = correction.As
		}
	}
	for k, text := range told {
		c.now = k
		aside := corrected[k].Aside
		c.kept[k] = aside
		passed := !aside && c.heading(c.text[k])
		if !passed && !aside {
			passed = c.sentences(c.text[k])
		}
		sentences = append(sentences, Sentence{Text: text, As: corrected[k].As, Passed: passed})
	}
	result := Cooked{Sentences: sentences}
	if c.follows() {
		result.Unplaced = c.placeRest()
		c.finish()
		result.Plan = draft(name, choice)
		result.Plan.Steps, result.Plan.Way = c.steps, "from a recipe"
		c.pots(result.Plan, choice)
		for i := range c.steps {
			if c.steps[i].Do == plan.Portion {
				c.steps[i].Bowls = choice.Bowls
			}
		}
		if choice.Serve == plan.Chilled && !slices.ContainsFunc(c.steps, func(s plan.Step) bool { return s.Do == plan.Chill }) {
			result.Plan.ServeAs(choice.Serve)
		}
	} else {
		made, err := Arrange(name, choice, school, given, r.pantry)
		if err != nil {
			return Cooked{}, err
		}
		result.Plan, result.ByList = made, true
		for i := range c.preparations {
			c.preparations[i] = slices.DeleteFunc(c.preparations[i], func(p preparing) bool { return p.sentence >= 0 })
		}
		for k := range result.Sentences {
			result.Sentences[k].Passed = false
		}
		c.doubts = nil
		for k := range c.kept {
			c.kept[k] = corrected[k].Aside
		}
	}
	c.prepare(result.Plan)
	result.lead(&c)
	return result, nil
}

// lead ties sentences and steps to each other. What no step was made of stays beside the step before it.
func (r *Cooked) lead(c *cookery) {
	for i := range r.Plan.Steps {
		step := &r.Plan.Steps[i]
		at, note := unmarked(step.Note)
		step.Note = note
		switch {
		case at >= 0 && at < len(r.Sentences):
			for _, k := range append([]int{at}, c.shared[step.Name]...) {
				r.Sentences[k].Steps = append(r.Sentences[k].Steps, i)
			}
		case step.Do.IsPreparation() && !r.ByList || step.Do.IsPreparation() && at == lineMark:
			r.Prepared = append(r.Prepared, i)
		}
	}
	beside, again, waiting := -1, c.second(r.Plan, r.Unplaced), ""
	for k := range r.Sentences {
		s := &r.Sentences[k]
		s.Doubts, s.Kept = c.doubts[k], c.kept[k] && len(s.Steps) == 0
		if len(s.Steps) > 0 {
			beside = slices.Max(s.Steps)
		}
		if !r.ByList {
			var before []int
			if k > 0 {
				before = r.Sentences[k-1].Steps
			}
			s.recheck(r.Plan, before)
			if c.steeped[k] {
				s.Doubts = slices.DeleteFunc(s.Doubts, func(d Doubt) bool { return d.Of == TimeLost })
			}
			if c.strained[k] {
				s.Doubts = slices.DeleteFunc(s.Doubts, func(d Doubt) bool { return d.Of == NotDone && d.Words == "strain" })
			}
			again.read(s, waiting)
			waiting = ""
			if !slices.ContainsFunc(s.Steps, func(i int) bool { return r.Plan.Steps[i].Do == plan.Add }) {
				waiting = s.Text // what it names may go in with the next
			}
		}
		unsure := slices.ContainsFunc(s.Doubts, func(d Doubt) bool { return d.Of != HowLong })
		if r.ByList || s.Understood() && !unsure && !c.kept[k] && s.As == "" || beside < 0 {
			continue
		}
		const most = 500
		note := strings.TrimSpace(r.Plan.Steps[beside].Note + " “" + s.Text + ".”")
		if len([]rune(note)) <= most {
			r.Plan.Steps[beside].Note = note
		}
	}
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
	doubts       map[int][]Doubt // by sentence
	kept         map[int]bool

	text    []string // the sentences
	now     int      // the one that is read
	section string   // the heading that is being told
	holders []holder
	at      int          // the pot that is being cooked in, a holder; -1: none yet
	next    []string     // what the next pot is called; nil: none is opened
	last    []mention    // what was named last: "it"
	said    map[int]bool // what the sentence names

	oven     plan.Oven
	ovenC    measure.Celsius
	heated   measure.Celsius      // to what the oven is heated beforehand; 0: not said
	pressing []measure.Millilitre // water that coconut was ground with
	fat      *mention             // that is hot in a pan, and nothing is in it yet
	pan      bool                 // it is in a pan of its own
	offHeat  bool
	flame    vessel.Flame // turned to, for what comes
	lid      *bool
	bowls    bool             // it is shared out before it cools
	shared   map[string][]int // by the name of what is fried: further sentences that add to it
	reserved map[int]float64  // of items: the share that is kept for later
	steeps   int              // the sentence in which something is steeped beside the pot; -1 for none
	steeped  map[int]bool     // sentences in which something was: their minutes are its
	strained map[int]bool     // sentences that strain what needs no step for it
	dressed  map[int]mention  // by what is tossed in it: fat that goes in with that
	joined   int              // how often something was added to what is fried
	assumed  int              // the step whose end is our own guess; -1: none
}

func (c *cookery) doubt(of DoubtOf, words, amount string) {
	c.doubts[c.now] = append(c.doubts[c.now], Doubt{Of: of, Words: words, Amount: amount})
}

// guess says that the method does not tell how long.
func (c *cookery) guess(minutes measure.Minute) measure.Minute {
	c.doubts[c.now] = append(c.doubts[c.now], Doubt{Of: HowLong, Minutes: minutes})
	return minutes
}

// Sentences parts a method: at the ends of its lines, and at full stops that end no number.
func Sentences(text string) (list []string) {
	for line := range strings.Lines(text) {
		line = leadingNumber.ReplaceAllString(clean(line), "")
		for _, part := range sentenceEnd.Split(line, -1) {
			part = stepNumber.ReplaceAllString(strings.Trim(part, " .;!"), "$1")
			if part != "" && !onlyNumber.MatchString(part) {
				list = append(list, part)
			}
		}
	}
	return list
}

var (
	sentenceEnd   = regexp.MustCompile(`[.;!]\s+|[.;!]$`)
	onlyNumber    = regexp.MustCompile(`^\(?\d+\)?$`) // of a step, in the middle of a line
	stepNumber    = regexp.MustCompile(`^\d{1,2} (\p{Lu}\p{Ll})`)
	leadingNumber = regexp.MustCompile(`(?i)^(?:step )?\d+ ?[.):]+ *`)
)

// heading takes a line that only names the part of the recipe that follows.
func (c *cookery) heading(text string) bool {
	words := plainWords(text)
	const most = 6
	named, colon := strings.CutSuffix(strings.TrimSpace(text), ":")
	if len(words) == 0 || len(words) > most {
		return false
	}
	known := slices.ContainsFunc(c.given, func(g Given) bool { return g.Section != "" && sameSection(g.Section, named) })
	if !known && !colon && !(words[0] == "for" && len(words) > 1 && words[1] == "the") {
		return false
	}
	if !known && slices.ContainsFunc(words, func(w string) bool { return doing[w] != "" && doing[w] != doTop && doing[w] != doPass }) {
		return false
	}
	c.enter(named)
	return true
}

func sameSection(a, b string) bool { return slices.Equal(sectionWords(a), sectionWords(b)) }

// sectionWords are the words of a heading that name something.
func sectionWords(heading string) (list []string) {
	for _, w := range plainWords(heading) {
		if w != "for" && w != "the" && w != "to" && w != "make" && w != "of" && w != "method" && w != "step" && w != "ingredient" && w != "a" {
			list = append(list, w)
		}
	}
	return list
}

// enter begins a part of the recipe: one that is new is cooked in a pot of its own.
func (c *cookery) enter(heading string) {
	c.section = heading
	for i := range c.given {
		if sameSection(c.given[i].Section, heading) {
			c.section = c.given[i].Section
		}
	}
	c.next = nil
	named := sectionWords(heading)
	if finishing(heading) {
		c.at = c.mainPot()
		return
	}
	for h := range c.holders {
		if c.holders[h].pot && slices.ContainsFunc(named, func(w string) bool { return slices.Contains(c.holders[h].words, w) }) {
			c.at = h
			return
		}
	}
	c.next = named
}

// An action is what a word of doing asks for.
type action string

const (
	doAdd     action = "add"
	doBoil    action = "boil"
	doCook    action = "cook"
	doSoak    action = "soak"
	doRoast   action = "roast"
	doFry     action = "fry"
	doGrind   action = "grind"
	doGrate   action = "grate"
	doCut     action = "cut"
	doPeel    action = "peel"
	doMash    action = "mash"
	doDrain   action = "drain"
	doPress   action = "squeeze"
	doChill   action = "chill"
	doCool    action = "cool"
	doRest    action = "rest"
	doBake    action = "bake"
	doTop     action = "top"
	doOff     action = "off"
	doTurn    action = "turn"
	doCooker  action = "cooker"
	doMelt    action = "melt"
	doSteam   action = "steam"
	doCaramel action = "caramel"
	doMove    action = "move"
	doPass    action = "pass"    // nothing that a plan has a step for, unless it is served with something
	doNothing action = "nothing" // what a plan has no step for
)

// doing are the words that begin a clause.
var doing = map[string]action{}

func init() {
	for do, list := range map[action]string{
		doAdd: `add pour tip put drop throw combine place fold return mix sweeten whisk beat stir blend take toss swirl tumble slide
			finish dissolve sift scrape loosen dilute lower introduce incorporate rain shower arrange flavour flavor dot crumble lift
			scent perfume season layer thin slacken whip work trickle drip pile draw pull move sharpen`,
		doBoil: "bring",
		doCook: "boil simmer cook heat reheat reduce thicken warm keep continue let allow maintain stew poach braise scald bubble evaporate cooks",
		doRest: "leave rest stand set sit steep infuse", doSoak: "soak soften hydrate", doRoast: "roast toast brown",
		doFry:   "fry saute sauté temper puff sweat",
		doGrind: "grind blitz pound", doGrate: "grate shred", doCut: "chop slice dice cut halve quarter cube snip slit sliver julienne",
		doPeel: "peel deseed hull core stone pit",
		doMash: "mash crush puree purée liquidise liquidize", doDrain: "drain strain filter sieve", doPress: "squeeze press extract wring",
		doChill: "chill refrigerate", doCool: "cool", doBake: "bake microwave",
		doTop: "garnish decorate scatter sprinkle top strew drizzle break dust lay", doOff: "remove kill", doTurn: "turn switch raise increase",
		doCooker: "pressure",
		doMelt:   "melt", doSteam: "steam", doCaramel: "caramelise caramelize", doMove: "transfer divide spoon ladle share portion fill distribute",
		doPass: "wash rinse serve cover taste enjoy preheat grease watch adjust check discard pick clean uncover repeat " +
			"ensure avoid prepare make " +
			"reserve save store hold release wait open start begin gather weigh savour eat drink fish butter oil line skim rub shake give lick unmould skin send tilt spread smear get invert blanch parboil",
	} {
		for w := range strings.FieldsSeq(list) {
			doing[w] = do
		}
	}
}

// participles are words of doing as they are told of what was done: "the milk is boiled".
func participle(w string) (base string, ok bool) {
	for _, form := range []string{strings.TrimSuffix(w, "ed"), strings.TrimSuffix(w, "d"), strings.TrimSuffix(strings.TrimSuffix(w, "ed"),
		w[max(len(w)-3, 0):max(len(w)-2, 0)])} {
		if form != w && doing[form] != "" {
			return form, true
		}
	}
	switch w {
	case "fried":
		return "fry", true
	case "ground":
		return "grind", true
	case "brought":
		return "bring", true
	case "put", "left", "kept":
		return map[string]string{"put": "put", "left": "leave", "kept": "keep"}[w], true
	}
	return "", false
}

// sentences follows what stands for one of the method: a cook's own words may be several.
func (c *cookery) sentences(text string) (passed bool) {
	passed = true
	for _, one := range Sentences(text) {
		passed = c.sentence(one) && passed
	}
	return passed
}

// sentence follows one. passed reports whether it asks for nothing that a plan has a step for.
func (c *cookery) sentence(text string) (passed bool) {
	c.heatOven(text)
	if c.lasted(text) {
		return true
	}
	tokens := methodWords(text)
	tokens = c.retold(c.opening(tokens))
	if len(tokens) == 0 {
		return true
	}
	all := clause{words: tokens}
	all.match(vesselSize)
	all.match(otherOven)
	all.match(howLarge)
	clauses := c.clauses(tokens)
	if len(clauses) == 0 {
		return false
	}
	did := false
	var lost []*clause // of which nothing came
	passed = true
	was, begin := c.stand(), len(c.steps)
	c.said = map[int]bool{}
	for k := range clauses {
		one := &clauses[k]
		if one.bare() && k+1 < len(clauses) && clauses[k+1].getsReady() {
			continue // "peel and dice the pears"
		}
		if k+1 < len(clauses) && c.addsToFry(one, &clauses[k+1]) {
			clauses[k+1].words = slices.Concat(one.words[one.lead:], clauses[k+1].words)
			clauses[k+1].lead = 0
			continue
		}
		if k+1 < len(clauses) && c.letsBe(one) {
			next := &clauses[k+1] // it says what
			next.words, next.lead = slices.Concat(one.words, next.words), next.lead+len(one.words)
			continue
		}
		c.means(one, inPassing)
		if one.do == doNothing {
			continue
		}
		if one.verb == "repeat" && c.again(one) {
			continue
		}
		if one.do == doPass && !one.has("topped", "drizzled", "sprinkled", "scattered", "garnished", "with") {
			c.mentions(one) // "wash the sago and soak it"
			if one.verb == "cover" || one.find("covered") >= 0 {
				c.lid = new(true)
			}
			continue
		}
		before, prepared := len(c.steps), c.countPrepared()
		fine := c.clause(one)
		if len(c.steps) > before || c.countPrepared() > prepared {
			did = true
		} else if !fine {
			passed = false
			lost = append(lost, one)
		}
	}
	if did && !c.kept[c.now] {
		for _, one := range lost {
			if !one.onlyLets() {
				c.doubt(NotDone, one.said(), "")
			}
		}
	}
	if slices.ContainsFunc(clauses, func(l clause) bool { return l.verb == "wash" || l.verb == "rinse" || l.do == doSoak }) {
		for k, w := range tokens {
			w.read = w.read || w.text == "water" // it is washed in
			if w.text == "times" || w.text == "waters" {
				for _, n := range tokens[max(k-3, 0):k] {
					n.read = n.read || isFigure(n.text)
				}
			}
		}
	}
	passed = passed && !did
	c.forTheLast(text, begin)
	served := !did && !slices.ContainsFunc(clauses, func(l clause) bool { return l.do != doPass || !slices.Contains(eating, l.verb) })
	if words := unread(tokens); len(words) > 0 && !served && (did || slices.ContainsFunc(words, c.isMaterial)) && !c.kept[c.now] {
		c.doubt(Unread, strings.Join(words, ", "), "")
	}
	if did && !c.kept[c.now] {
		c.check(tokens, was)
	}
	return passed && !c.kept[c.now]
}

// addsToFry reports whether a clause adds only what the next one fries in the hot fat: "add the cashews and fry till golden".
func (c *cookery) addsToFry(one, next *clause) bool {
	if one.do != doAdd || next.do != doFry && next.do != doRoast || len(c.unused(next)) > 0 {
		return false
	}
	list := c.unused(one)
	if len(list) == 0 || slices.ContainsFunc(list, func(m mention) bool { return !c.behaves(m, pantry.Piece) }) {
		return false
	}
	last := len(c.steps) - 1
	return c.fat != nil || last >= 0 && c.steps[last].Do == plan.Fry || c.takesBackFat()
}

// takesBackFat takes fat out of a pot that holds nothing else: what is fried in it comes out again.
func (c *cookery) takesBackFat() bool {
	last := len(c.steps) - 1
	if last < 0 || c.steps[last].Do != plan.Add || len(c.held()) != 1 || !c.behaves(mention{item: c.held()[0]}, pantry.Fat) {
		return false
	}
	fat := c.held()[0]
	share := c.used[fat]
	c.steps, c.used[fat], c.holders[c.at].items = c.steps[:last], 0, nil
	c.fat = &mention{item: fat, share: share, holder: -1}
	return true
}

// onlyLets reports whether a clause says nothing but that something is let be: the next one says what.
func (l *clause) onlyLets() bool {
	rest := l.words[min(l.lead, len(l.words)):]
	return slices.Contains([]string{"let", "allow", "leave", "stir", "mix"}, l.verb) && !slices.ContainsFunc(rest, func(w *token) bool {
		return !filler[w.text] && w.text != ","
	})
}

// letsBe reports whether a clause is "let it", "let the rice": what it is let do comes next.
func (c *cookery) letsBe(l *clause) bool {
	if l.verb != "let" && l.verb != "allow" {
		return false
	}
	return !slices.ContainsFunc(l.words[min(l.lead, len(l.words)):], func(w *token) bool {
		switch w.text {
		case "it", "them", "this", "all", "everything", "the", "pot", "pan", "mixture", "pudding":
			return false
		}
		return !c.isName(w.one)
	})
}

// said is what a clause says, from its word of doing on.
func (l *clause) said() string {
	const most = 6
	words := []string{l.verb}
	for _, w := range l.words[min(l.lead, len(l.words)):] {
		if w.text == "," || len(words) == most {
			break
		}
		words = append(words, w.text)
	}
	for last := words[len(words)-1]; len(words) > 1 && (last == "and" || last == "then" || last == "the"); last = words[len(words)-1] {
		words = words[:len(words)-1]
	}
	return strings.Join(words, " ")
}

// eating are words of doing of those who eat it: what goes with it is theirs.
var eating = []string{"serve", "eat", "enjoy", "drink", "savour", "taste"}

// getsReady reports whether a clause gets something ready; bare whether it does and does not say what.
func (l *clause) getsReady() bool {
	return slices.Contains([]action{doPeel, doCut, doGrate, doGrind, doRoast}, l.do)
}
func (l *clause) bare() bool {
	return l.getsReady() && !slices.ContainsFunc(l.words[min(l.lead, len(l.words)):], func(w *token) bool {
		return w.text != "and" && w.text != "then" && !strings.HasSuffix(w.text, "ly")
	})
}

// heatOven reads how hot the oven is to be: what is baked later is baked at that, unless it says otherwise.
func (c *cookery) heatOven(text string) {
	if found := ovenCalled.FindStringSubmatch(text); found != nil {
		c.heated = calledOvens[strings.ToLower(found[1])]
	}
	found := ovenHeated.FindStringSubmatch(text)
	if found == nil || strings.HasPrefix(found[3], "min") || strings.HasPrefix(found[3], "hour") {
		return // "in the oven for 100 minutes"
	}
	const coolest = 60 // °C: what is less is no oven's
	if celsius := ovenCelsius(found[1], found[2]); celsius >= coolest {
		c.heated = celsius
	}
}

// calledOvens are heats as old books call them. Source: general knowledge of cookery books.
var (
	ovenCalled  = regexp.MustCompile(`(?i)\b(very slow|cool|slow|moderate|fairly hot|hot) oven\b`)
	calledOvens = map[string]measure.Celsius{"very slow": 130, "cool": 130, "slow": 150, "moderate": 180, "fairly hot": 200, "hot": 220}
)

// lasted reads a sentence that only tells how long the step before it takes: "that takes 40 minutes or so".
func (c *cookery) lasted(text string) bool {
	found := takesSaid.FindStringSubmatch(text)
	last := len(c.steps) - 1
	if found == nil || last < 0 {
		return false
	}
	l := clause{words: methodWords(found[1])}
	minutes := l.minutes()
	if minutes == 0 || len(unread(l.words)) > 0 {
		return false
	}
	if c.steps[last].Do == plan.Add && !c.steps[last].Topping && len(c.held()) > 0 { // "add the milk little by little. This takes 40 minutes"
		c.heat(&l, vessel.Simmer, plan.Until{Minutes: &minutes})
		return false
	}
	if c.steps[last].Do != plan.Heat || c.steps[last].Until == nil {
		return false
	}
	if c.assumed == last {
		c.steps[last].Until = &plan.Until{Minutes: &minutes}
		c.answer()
	} else if c.steps[last].Until.Minutes == nil {
		c.saidMinutes(minutes)
	}
	return true
}

// forTheLast takes the minutes that something is in the pot at the end from what was said of the whole: "add the
// almonds for the last two minutes".
func (c *cookery) forTheLast(text string, begin int) {
	if !lastMinutes.MatchString(text) || begin == 0 || len(c.steps) < begin+2 {
		return
	}
	whole, end := &c.steps[begin-1], &c.steps[len(c.steps)-1]
	timed := func(s *plan.Step) bool { return s.Do == plan.Heat && s.Until != nil && s.Until.Minutes != nil }
	if timed(whole) && timed(end) && whole.Pot == end.Pot && *end.Until.Minutes < *whole.Until.Minutes {
		left := *whole.Until.Minutes - *end.Until.Minutes
		whole.Until = &plan.Until{Minutes: &left}
	}
}

// A standing is how things stood before a sentence.
type standing struct {
	holders, at, held int
	steps             int
	used              []float64
	prepared          int
	next              bool
}

func (c *cookery) stand() standing {
	return standing{len(c.holders), c.at, len(c.held()), len(c.steps), slices.Clone(c.used), c.countPrepared(), c.next != nil}
}

// vesselSize is how large a vessel is.
var vesselSize = regexp.MustCompile(`\b\d[\d./]*(?: \d/\d)? ?(?:litres?|liters?|l|quarts?|pints?|cm|inch)(?: [a-z]+){0,3} ` +
	`(?:dish|pan|pot|saucepan|cooker|mould|bowl|tin|diameter)\b`)

// dryPan is one that something is only toasted in.
var dryPan = regexp.MustCompile(`\bdry (?:[a-z]+ )?(?:pan|skillet|pot|saucepan)\b`)

// otherOven is how hot another oven would be.
var otherOven = regexp.MustCompile(`\b(?:fan(?: oven)? \d{3}(?: ?° ?c?| c)?|\d{3}(?: ?° ?c?| c)? fan|gas(?: mark)? \d)\b`)

// howLarge pieces are.
var howLarge = regexp.MustCompile(`\b\d[\d./]*(?: to \d[\d./]*)? (?:cm|mm|inch|inches)\b`)

// toKeep is said of the bowl that a pudding cools in: that is as good as its pot.
var toKeep = regexp.MustCompile(`\b(?:transfer|pour|tip|turn|spoon|scrape)\b.*\b(?:in)?to an? .*\b(?:refrigerate|chill|cool|fridge)\b`)

// check looks whether what a sentence names has become something.
func (c *cookery) check(tokens []*token, was standing) {
	all := clause{words: tokens}
	if k := all.newPan(); k >= 0 && was.held > 0 && !was.next && len(c.holders) == was.holders && c.at == was.at && c.next == nil &&
		!c.bowls && !c.pan && was.steps < len(c.steps) && !dryPan.MatchString(all.text()) && !toKeep.MatchString(all.text()) {
		if !c.saysOld(was) {
			c.doubt(OtherPan, tokens[k].text, "")
		}
	}
	for i := range was.used {
		if was.used[i] > 0 || c.used[i] > 0 || len(c.preparations[i]) > 0 || c.given[i].Item.Material == "water" || c.fat != nil &&
			c.fat.item == i {
			continue
		}
		if c.said[i] {
			c.doubt(NotPut, c.given[i].Text, "")
		}
	}
}

// saysOld reports whether the sentence names what was in the pot before it: that is only moved.
func (c *cookery) saysOld(was standing) bool {
	for i, used := range was.used {
		if used > 0 && c.said[i] && c.given[i].Item.Material != "water" && slices.Contains(c.held(), i) {
			return true
		}
	}
	return false
}

// isMaterial reports whether a word is the name of something in the pantry.
func (c *cookery) isMaterial(word string) bool { return c.reader.names[singularWord(word)] != "" }

// opening reads what a sentence begins with: "For the syrup,", "Meanwhile,".
func (c *cookery) opening(tokens []*token) []*token {
	if len(tokens) > 3 && tokens[0].text == "for" && (tokens[1].text == "the" || tokens[2].text == "," || len(tokens) > 3 &&
		tokens[3].text == ",") {
		for k, w := range tokens[1:min(len(tokens), 6)] {
			if w.text != "," {
				continue
			}
			var words []string
			for _, t := range tokens[:k+1] {
				t.read = true
				words = append(words, t.text)
			}
			if slices.ContainsFunc(words, func(w string) bool { return strings.HasPrefix(w, "minute") || strings.HasPrefix(w, "hour") }) {
				return tokens
			}
			c.enter(strings.Join(words, " "))
			return tokens[k+2:]
		}
	}
	for k, w := range tokens[:min(len(tokens), 3)] { // "Syrup: melt the jaggery"
		if w.text == "," && k > 0 && slices.ContainsFunc(c.given, func(g Given) bool {
			return g.Section != "" && sameSection(g.Section,
				phraseOf(tokens[:k]))
		}) {
			c.enter(phraseOf(tokens[:k]))
			return tokens[k+1:]
		}
	}
	return tokens
}

// clauses parts a sentence.
func (c *cookery) clauses(tokens []*token) []clause {
	p := parting{cookery: c, tokens: tokens}
	for k := 0; k < len(tokens); k++ {
		if p.unless(k) {
			return p.clauses
		}
		if end := p.condition(k); end > 0 {
			k = end - 1
			continue
		}
		do, verb := p.begins(k)
		if do == "" {
			p.follows(tokens[k])
		} else {
			p.opensOne(do, verb, tokens[k])
		}
	}
	switch {
	case len(p.clauses) > 0:
		return p.clauses
	case slices.ContainsFunc(tokens, func(w *token) bool {
		return w.text == "not" || w.text == "don't" || w.text == "never" || w.text == "no"
	}):
		return []clause{{do: doPass, words: p.lead}}
	}
	return c.wordless(p.lead)
}

// A parting is a sentence while it is parted.
type parting struct {
	*cookery
	tokens  []*token
	lead    []*token // what stands before the first word of doing
	clauses []clause

	waits bool // until when something is done is being told
	told  bool // it is told of what is done: "is boiled"
	not   bool // it is told what is not done
}

// unless keeps a sentence as a note that says what is done in some case only.
func (p *parting) unless(k int) bool {
	if w := p.tokens[k].text; w != "if" && w != "unless" || p.ifOptional(p.tokens, k) {
		return false
	}
	p.kept[p.now] = true
	for _, t := range p.tokens {
		t.read = true
	}
	return true
}

// condition takes a word in that begins, or ends, what is waited for. Of what a whole sentence waits for it returns
// the end, otherwise 0.
func (p *parting) condition(k int) (end int) {
	w := p.tokens[k].text
	next := ""
	if k+1 < len(p.tokens) {
		next = p.tokens[k+1].text
	}
	switch {
	case w == ",":
		p.waits, p.not = false, false
	case w == "not" || w == "don't" || w == "never" || w == "without" || w == "no" && next == "account":
		p.not = true
	case k == 0 && conditions[w] && (w != "as" || next == "soon"):
		end := slices.IndexFunc(p.tokens, func(t *token) bool { return t.text == "," })
		if end < 0 {
			end = p.nextDoing(p.tokens, k+1)
		}
		if at := p.afterTime(); at > 0 && (end < 0 || end > at) {
			end = at
		}
		if end < 0 && p.endsIt() {
			end = len(p.tokens)
			p.clauses = append(p.clauses, clause{do: doPass})
		}
		if end > 0 {
			p.when(&clause{words: p.tokens[:end]})
			return end
		}
		p.waits = true
	case conditions[w] && !(w == "as" && next == "well") && !(w == "or" && !p.orWaits(p.tokens, k)):
		p.waits = true
	}
	return 0
}

// afterTime returns where a sentence goes on that begins with "after five minutes"; 0 for none.
func (p *parting) afterTime() int {
	if p.tokens[0].text != "after" {
		return 0
	}
	const most = 7
	for k, w := range p.tokens[:min(most, len(p.tokens))] {
		if (strings.HasPrefix(w.text, "minute") || strings.HasPrefix(w.text, "hour") || w.text == "mins" || w.text == "min") &&
			k+1 < len(p.tokens) && p.tokens[k+1].text != "of" && p.tokens[k+1].text != "or" && p.tokens[k+1].text != "in" {
			return k + 1
		}
	}
	return 0
}

// endsIt reports whether all that is waited for is that something is done: "when a grain can be crushed it is done".
func (p *parting) endsIt() bool {
	l := clause{words: p.tokens}
	return l.find("done") >= 0 || l.find("ready") >= 0 || l.find("enough") >= 0
}

// begins returns what a word begins to do, and the word of doing; "" where it begins no clause.
func (p *parting) begins(k int) (do action, verb string) {
	w := p.tokens[k]
	do, begins := doing[w.text]
	verb = w.text
	if do == doMash && k == len(p.tokens)-1 && len(p.clauses) > 0 && p.clauses[len(p.clauses)-1].do == doAdd {
		begins = false // "combine the pearls, the cream and the purée"
	}
	if p.waits && happens[w.text] && (k+1 == len(p.tokens) || p.tokens[k+1].text == "," || p.tokens[k+1].text == "and") {
		begins = false // "until it begins to bubble and thicken"
	}
	if p.waits && begins && p.endsWait(p.tokens, k) {
		p.waits = false
	}
	if !begins && k > 0 {
		before := p.tokens[k-1].text
		if base, ok := participle(w.text); ok && (passive[before] || p.told && before == "and") {
			do, verb, begins, p.told = doing[base], base, true, true
		}
	}
	ofItself := verb == w.text // and no participle
	if p.not || p.waits || !begins || (!p.told || ofItself) && !p.opens(p.tokens, k) {
		return "", ""
	}
	return do, verb
}

// follows gives a word to the clause that is open, or to what stands before the first.
func (p *parting) follows(w *token) {
	if len(p.clauses) == 0 {
		p.lead = append(p.lead, w)
		return
	}
	last := &p.clauses[len(p.clauses)-1]
	last.words = append(last.words, w)
}

// opensOne begins a clause. "The milk is boiled and the rice added": the thing of a participle stands before it.
func (p *parting) opensOne(do action, verb string, w *token) {
	w.read = true
	one := clause{do: do, verb: verb}
	if len(p.clauses) == 0 {
		one.words = p.lead
	} else if p.told && verb != w.text {
		last := &p.clauses[len(p.clauses)-1]
		for j := last.lead; j < len(last.words); j++ {
			if last.words[j].text == "and" || last.words[j].text == "," || last.words[j].text == "then" {
				one.words = slices.Clone(last.words[j+1:])
				last.words = last.words[:j]
				break
			}
		}
	}
	one.lead = len(one.words)
	p.clauses = append(p.clauses, one)
}

// happens are words of doing for what comes about by itself.
var happens = wordSet("thicken bubble boil melt dissolve reduce brown soften puff simmer evaporate")

// endsWait reports whether a word of doing ends what is waited for without a comma: "until golden and add
// them", "when they puff pour them over".
func (c *cookery) endsWait(tokens []*token, k int) bool {
	if before := tokens[k-1].text; before == "and" || before == "then" {
		return true
	}
	switch doing[tokens[k].text] {
	case doAdd, doTop, doMove:
	default:
		return false
	}
	for j := k - 1; j >= 0 && tokens[j].text != ","; j-- {
		if w := tokens[j].text; w == "when" || w == "once" {
			return c.opens(tokens, k)
		} else if conditions[w] {
			return false
		}
	}
	return false
}

var passive = map[string]bool{"is": true, "are": true, "be": true, "was": true, "were": true, "been": true, "gets": true}

// wordless reads a sentence without a word of doing, piece by piece: "Milk to the boil", "Rice in", "Sugar and cardamom in, one
// more minute, off the heat".
func (c *cookery) wordless(lead []*token) (list []clause) {
	if c.unknownVerb(lead) {
		return nil
	}
	for piece := range slices.Values(pieces(lead)) {
		one, ok := c.wordlessPiece(clause{words: piece}, lead)
		if !ok {
			return c.wordlessWhole(lead)
		}
		list = append(list, one)
	}
	return list
}

// unknownVerb reports whether words begin with one that seems to ask for something, and is not known: "crimp the dough".
func (c *cookery) unknownVerb(words []*token) bool {
	if len(words) < 2 {
		return false
	}
	first := words[0]
	if c.isName(first.one) || beginsPhrase[first.text] || describes[first.text] && doing[first.one] == "" && !strings.HasPrefix(words[1].text, "the") ||
		isFigure(first.text) || numberWords[first.text] > 0 || strings.HasSuffix(first.text, "ly") {
		return false
	}
	switch words[1].text {
	case "the", "it", "them", "a", "an", "some", "half", "all", "your", "both", "each", "together":
		return true
	}
	return false
}

// beginsPhrase are words that begin no doing.
var beginsPhrase = wordSet(`a an the this that these those all both half some each every any in into on onto to with for from off over at by of and
	then now next first second third finally last once when while after before about around not no only just also again more
	as it they them meanwhile here there towards without within around until till during under above below through but or so plus
	either another other one two three your my our their its best`)

// wordlessWhole reads such a sentence as one.
func (c *cookery) wordlessWhole(lead []*token) []clause {
	if one, ok := c.wordlessPiece(clause{words: lead}, lead); ok {
		return []clause{one}
	}
	return nil
}

// pieces parts words at their commas.
func pieces(words []*token) (list [][]*token) {
	var piece []*token
	for k, w := range words {
		if w.text != "," {
			piece = append(piece, w)
		}
		if (w.text == "," || k+1 == len(words)) && len(piece) > 0 {
			list, piece = append(list, piece), nil
		}
	}
	return list
}

// wordlessPiece reads one of the pieces of such a sentence.
func (c *cookery) wordlessPiece(l clause, p []*token) (clause, bool) {
	words := l.words
	if len(words) == 0 {
		return l, false
	}
	last := words[len(words)-1].text
	named := len(c.unused(&l)) > 0
	const few = 4
	switch {
	case l.find("lid") >= 0 && len(words) < few:
		if on := l.lid(); on != nil {
			c.lid = on
		}
		l.do = doPass
	case l.has("to rolling boil", "to boil", "to a rolling boil", "to full boil"):
		l.do, l.verb = doBoil, "bring"
	case l.has("to the boil", "to a boil"):
		l.do, l.verb = doBoil, "bring"
	case l.has("off the heat", "off the flame", "flame off", "heat off"), last == "off" && len(words) < 3:
		l.do = doOff
	case l.find("fridge") >= 0 || l.find("refrigerator") >= 0:
		l.do, l.verb = doChill, "chill"
	case l.find("oven") >= 0 && l.minutes() > 0:
		l.do, l.verb = doBake, "bake"
	case l.container() != "" && len(words) < few+1:
		l.do, l.verb = doMove, "divide"
	case last == "top" && len(words) < 8 && l.has("on top", "on the top"):
		l.do, l.verb = doTop, "top"
	case l.has("goes in", "go in", "goes into", "go into"), len(words) < 8 && last == "in", named && (len(words) < 5 || c.onlyNames(&l)):
		l.do, l.verb = doAdd, "add"
	case len(words) < 7 && l.minutes() > 0 && len(c.held()) > 0:
		l.do, l.verb = doCook, "cook"
		if off := (&clause{words: p}); off.find("heat off") >= 0 || off.find("flame off") >= 0 || off.find("off the heat") >= 0 {
			l.do, l.verb = doRest, "rest"
		}
	case numberedWhistle.MatchString(l.text()):
		l.do = doCooker
	case l.find("stirring") >= 0 && len(words) < few:
		l.do, l.verb = doPass, "stir"
		c.stirsOn(&l)
	case l.flame() != "" && len(words) < 5:
		l.do, l.verb = doTurn, "turn"
	case ended[last] && len(words) < 5:
		l.do = doPass
	default:
		return l, false
	}
	return l, true
}

// ended are words for a pudding that wants nothing more.
var ended = wordSet("done ready finished cold warm hot")

// onlyNames reports whether a clause says nothing but what goes in.
func (c *cookery) onlyNames(l *clause) bool {
	words := l.copied()
	c.unusedIn(&clause{words: words})
	return len(unread(words)) == 0
}

// ifOptional reads "if using", "if you like" as what may be left out.
func (c *cookery) ifOptional(tokens []*token, k int) bool {
	if k+1 >= len(tokens) {
		return false
	}
	switch tokens[k+1].text {
	case "using", "you", "desired", "liked", "wished", "available":
		if tokens[k+1].text == "you" && k+2 < len(tokens) && (tokens[k+2].text != "like" && tokens[k+2].text != "wish" &&
			tokens[k+2].text != "want" || k+3 < len(tokens) && tokens[k+3].text != ",") {
			return false // "if you like it sweeter"
		}
		for _, t := range tokens[k:min(k+3, len(tokens))] {
			if t.text == "," {
				break
			}
			t.read = true
		}
		return k > 0
	}
	return false
}

// nextDoing finds the next word that begins a clause after a condition without a comma.
func (c *cookery) nextDoing(tokens []*token, from int) int {
	for k := from + 1; k < len(tokens); k++ {
		if do := doing[tokens[k].text]; do != "" && c.opens(tokens, k) && do != doCook && do != doPass && do != doCool {
			return k
		}
	}
	return -1
}

// orWaits reports whether an "or" goes on waiting: "20 minutes or until soft", "until soft or done".
func (c *cookery) orWaits(tokens []*token, k int) bool {
	return k+1 < len(tokens) && doing[tokens[k+1].text] == ""
}

// countPrepared counts what is done to things beforehand, and added to what is done.
func (c *cookery) countPrepared() (n int) {
	n = c.joined
	for _, list := range c.preparations {
		n += len(list)
	}
	return n
}

// opens reports whether a word of doing begins a clause where it stands: "the boil" and "a simmer"
// are things.
func (c *cookery) opens(words []*token, k int) bool {
	if k == 0 {
		thing := words[k].text == "thin" && len(words) > 1 && !slices.Contains(thinned, words[1].text) // "thin milk in"
		return !thing && (words[k].text != "pressure" || len(words) > 1 && words[1].text == "cook")
	}
	if nounish[words[k].text] {
		switch before := words[k-1].text; before {
		case ",", "and", "then", "now", "&", "it", "them", "or", "bowl", "pan", "saucepan", "pot", "jug", "meanwhile",
			"finally", "next", "first", "afterwards", "lastly":
		default:
			if !strings.HasSuffix(before, "ly") {
				return false
			}
		}
	}
	if words[k].text == "pressure" && (k+1 >= len(words) || words[k+1].text != "cook") {
		return false
	}
	if words[k].text == "microwave" && (k+1 >= len(words) || !slices.Contains([]string{"for", "on", "at", "the", "it", "until"}, words[k+1].text)) {
		return false // "a microwave safe bowl"
	}
	if words[k].text == "stand" && k+1 < len(words) && words[k+1].text == "by" {
		return false
	}
	if words[k].text == "get" && words[k-1].text != "," && words[k-1].text != "and" && words[k-1].text != "then" {
		return false // "let it get cold"
	}
	if words[k].text == "thin" && (k+1 >= len(words) || !slices.Contains(thinned, words[k+1].text)) {
		return false // "the thick and thin milk"
	}
	if greasing[words[k].text] && (k+1 >= len(words) || !slices.Contains([]string{"a", "an", "the", "your", "two", "four", "six", "some"},
		words[k+1].text)) {
		return false // "with sugar, butter and salt"
	}
	if words[k].text == "take" && k+1 < len(words) && slices.Contains([]string{"colour", "color", "on", "up", "about", "care", "around"}, words[k+1].text) {
		return false // "let it take colour"
	}
	if words[k].text == "rest" && (k+1 < len(words) && words[k+1].text == "of" || doing[words[k-1].text] != "" && words[k-1].text != "let") {
		return false
	}
	if words[k].text == "heat" && !heats(words, k) {
		return false
	}
	warms := words[k].text == "warm" || words[k].text == "cool"
	switch before := words[k-1].text; before {
	case "reduce", "lower", "increase", "raise", "pressure", "same", "serve", "served", "until", "very", "keep", "the", "a", "an", "to",
		"of", "rolling", "gentle", "well", "for", "dry", "in", "with", "is", "are", "has", "have", "low", "high", "medium", "at", "on",
		"stop", "into", "from", "off", "under", "over", "first", "fan", "slotted", "wooden", "metal", "will", "its", "your", "this", "that", "room", "rice", "not", "don't",
		"never", "without", "is not", "slow", "full", "by", "can", "could", "cannot", "bare", "steady", "light", "brisk",
		"lively", "quiet":
		if before == "rice" && warms {
			break
		}
		return before == "dry" && words[k].text == "roast" || before == "rice" && doing[words[k].text] != doPass && words[k].text != "cooks"
	}
	if w := words[k].text; warms && k+1 == len(words) {
		return w == "cool"
	} else if warms { // "add warm milk"
		switch words[k+1].text {
		case "the", "it", "a", "through", "in", "over", "gently", "up", "slowly", "completely", "to", "down", "for", "until", ",", "and", "then",
			"this", "them", "well", "on", "slightly", "before":
			return true
		}
		return false
	}
	return true
}

// thinned stand behind "thin" where that is done.
var thinned = []string{"with", "it", "the", "down", "out"}

// heats reports whether "heat" is what is done, and not what is turned down.
func heats(words []*token, k int) bool {
	switch words[k-1].text {
	case ",", "and", "then", "now", "meanwhile", "slowly", "gently":
		return k+1 == len(words) || words[k+1].text != "off"
	}
	if k+1 == len(words) || words[k+1].text == "off" {
		return false
	}
	next := words[k+1].text
	switch next {
	case "the", "it", "a", "some", "half", "up", "through", "remaining", "rest", "oil", "ghee", "butter", "milk", "water":
		return true
	}
	return next[0] >= '0' && next[0] <= '9'
}

// greasing are words of doing that are things of the list more often.
var greasing = wordSet("butter oil line")

// nounish are words of doing that are as often things.
var nounish = map[string]bool{"puree": true, "purée": true, "mash": true, "mix": true, "whisk": true, "press": true, "steam": true,
	"cover": true,
	"grill": true, "place": true, "shower": true, "grease": true, "measure": true, "extract": true, "top": true, "temper": true,
	"bubble": true, "finish": true, "blend": true, "fish": true, "butter": true, "oil": true, "line": true, "season": true, "layer": true,
	"thin": true, "skin": true, "rub": true, "work": true, "lick": true, "fill": true, "shake": true, "peel": true, "puff": true,
	"dust": true, "drink": true, "quarter": true, "sieve": true, "core": true, "stone": true, "pit": true, "hull": true}

func (c *cookery) emit(steps ...plan.Step) {
	for _, s := range steps {
		s.Note = marked(c.now, s.Note)
		if c.at >= 0 && !s.Do.IsPreparation() && s.Pot == "" {
			s.Pot = c.holders[c.at].name
		}
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

// open begins a new pot.
func (c *cookery) open(words []string) {
	name := "pan"
	for _, w := range words {
		if potName.MatchString(w) {
			name = w
		}
	}
	c.holders = append(c.holders, holder{name: c.free(name), pot: true, words: words, left: 1})
	c.at, c.next = len(c.holders)-1, nil
}

var potName = regexp.MustCompile(`^[a-z]{3,16}$`)

// held is what the pot that is being cooked in holds.
func (c *cookery) held() []int {
	if c.at < 0 {
		return nil
	}
	return c.holders[c.at].items
}

// mainPot is the first pot that has not been poured into another; -1 without one.
func (c *cookery) mainPot() int {
	return slices.IndexFunc(c.holders, func(h holder) bool { return h.pot && h.left > 0 && len(h.items) > 0 })
}

// put adds what is named and not in yet to the pot.
func (c *cookery) put(list []mention, step plan.Step) bool {
	step.Do = plan.Add
	from := c.at
	if c.fat != nil && c.pan && c.next == nil && slices.ContainsFunc(list, func(m mention) bool {
		return m.item >= 0 && m.share > 0 && m.holder < 0 && !c.behaves(m, pantry.Liquid)
	}) {
		c.next = []string{} // that which the fat is hot in
	}
	if c.next != nil || c.at < 0 {
		wants := slices.ContainsFunc(list, func(m mention) bool { return m.item >= 0 && m.share > 0 || m.holder >= 0 && m.holder != c.at })
		if !wants {
			return false
		}
		c.open(c.next)
	}
	if c.fat != nil && len(c.held()) == 0 {
		list = append([]mention{*c.fat}, list...)
		c.fat = nil
	}
	for _, m := range list {
		if m.holder >= 0 && m.holder != c.at {
			if c.holders[m.holder].left <= 0 {
				continue
			}
			step.Items = append(step.Items, c.pour(m.holder, max(m.share, boolShare(m.item >= 0))))
			c.holders[c.at].items = append(c.holders[c.at].items, c.holders[m.holder].items...)
			continue
		}
		if item, ok := c.take(m); ok {
			step.Items = append(step.Items, item)
			c.holders[c.at].items = append(c.holders[c.at].items, m.item)
		}
		if fat, ok := c.dressed[m.item]; ok {
			if item, ok := c.take(fat); ok {
				step.Items = append(step.Items, item)
				c.holders[c.at].items = append(c.holders[c.at].items, fat.item)
			}
		}
	}
	if len(step.Items) == 0 {
		if from != c.at && len(c.holders[c.at].items) == 0 {
			c.holders = c.holders[:len(c.holders)-1]
			c.at = from
		}
		return false
	}
	c.emit(step)
	return true
}

func boolShare(all bool) float64 {
	if all {
		return 1
	}
	return 0
}

// draft is a plan without steps.
func draft(name string, choice plan.WayChoice) *plan.Plan {
	return &plan.Plan{Format: plan.Format, Name: name, Serves: choice.Bowls, PortionG: 160, Serve: choice.Serve,
		Kitchen: plan.DefaultKitchen(),
		Pots:    map[string]vessel.Pot{plan.MainPot: choice.Pot}, Burner: choice.Burner}
}

// finish pours what was made and not called for on top, and says so; and names the pot that is served.
func (c *cookery) finish() {
	c.now = -1
	main := c.servedPot()
	for h := range c.holders {
		one := &c.holders[h]
		if h == main || one.left < 0.999 || len(one.items) == 0 && !one.pot || strings.HasSuffix(one.name, ".fat") {
			continue
		}
		if len(one.items) == 0 {
			continue
		}
		c.at = main
		item := c.pour(h, 1)
		sentence := c.madeIn(one.name)
		c.doubts[sentence] = append(c.doubts[sentence], Doubt{Of: NotPoured, Words: one.name})
		c.emit(plan.Step{Do: plan.Add, Topping: c.toppingOf(one), Items: []plan.Item{item}})
	}
	if main < 0 {
		return
	}
	old := c.holders[main].name
	for i := range c.steps {
		if c.steps[i].Pot == old {
			c.steps[i].Pot = ""
		}
		for j := range c.steps[i].Items {
			if c.steps[i].Items[j].Pot == old {
				c.steps[i].Items[j].Pot = plan.MainPot
			}
		}
	}
}

// toppingOf reports whether what is in a holder lies on top: fruit, nuts, what was fried.
func (c *cookery) toppingOf(h *holder) bool {
	if h.pot {
		return true
	}
	return slices.ContainsFunc(h.items, func(i int) bool { return c.behaves(mention{item: i}, pantry.Piece) })
}

// madeIn returns the sentence that first made something.
func (c *cookery) madeIn(name string) int {
	for i := range c.steps {
		if c.steps[i].Name == name || c.steps[i].Pot == name {
			at, _ := unmarked(c.steps[i].Note)
			return at
		}
	}
	return -1
}

// servedPot is the pot that is poured into no other; of several the first.
func (c *cookery) servedPot() int {
	if one := c.mainPot(); one >= 0 {
		return one
	}
	return slices.IndexFunc(c.holders, func(h holder) bool { return h.pot })
}

// pots gives each further pot the shape of the first, and a dish that of a dish.
func (c *cookery) pots(p *plan.Plan, choice plan.WayChoice) {
	for i := range p.Steps {
		name := p.Steps[i].PotName()
		if _, known := p.Pots[name]; known {
			continue
		}
		p.Pots[name] = choice.Pot
		if strings.HasPrefix(name, "dish") {
			p.Pots[name] = dish
		}
	}
	main := c.servedPot()
	if main >= 0 && strings.HasPrefix(c.holders[main].name, "dish") {
		p.Pots[plan.MainPot] = dish
	}
}
