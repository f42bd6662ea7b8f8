package recipe

import (
	"regexp"
	"slices"
	"strconv"
	"strings"

	"kirdu/core/measure"
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
//   - Before that, what is told is put as it is asked for: "I melted the ghee", "in went the sugar", "the rice, which has been in
//     water for an hour, goes in", "be sure to stir", "low, 40 min"; and what the pudding does by itself ("it thickens as it
//     cools") is passed over. See retold.
//
// Each word is either read, or holds the sentence together, or is told as not read: a sentence with
// such a word carries a Doubt, and so does one with a clause that came to nothing. A sentence of which nothing was made stays
// beside the step before it. All is then read a second time, by names, figures and plain verbs alone, and held against the
// steps. See second.

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
	AtOnce         DoubtOf = "at-once"          // Words: goes in bit by bit, and its step takes all at one time
	Flame          DoubtOf = "flame"            // it is in the oven or a slow cooker, and its step is over a flame
	Raw            DoubtOf = "raw"              // Words: is called cooked, and no step has cooked it
	WithIt         DoubtOf = "with-it"          // Words: is in the pot too, whose liquid is poured off
)

// Doubts lists the kinds of doubt.
func Doubts() []DoubtOf {
	return []DoubtOf{Unread, MoreThanListed, HowLong, NoAmount, TakenFor, NotPut, OtherPan, TimeLost, NotDone, NotPoured, Unnamed,
		InAlready, FigureLost, AllOfIt, WholePot, Elsewhere, AtOnce, Flame, Raw, WithIt}
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
	Kept   bool   // what is done only if, or told beside it: a note at the step before
	Doubts []Doubt
	Looks  []Look // of one without a doubt: why it is looked at all the same

	number int    // from 0
	plain  string // the text without what it says in passing
}

// Understood reports whether something was made of it.
func (s *Sentence) Understood() bool { return len(s.Steps) > 0 || s.Passed || s.Kept }

// Cooked is a recipe as a plan.
type Cooked struct {
	Plan      *plan.Plan
	Sentences []Sentence
	ByList    bool     // there was no method to go by: arranged by what is on the list
	Prepared  []int    // steps made of what the lines of the list say: "soaked for 4 hours"
	Unplaced  []int    // of the given: the method does not say where they go
	Trails    [][]Stop // of the given: where each goes
	Chilled   bool     // by its method it is served from the refrigerator
}

// Cook makes a plan of a list and its method, with the corrections of sentences by number from 0. Without a
// method that it can follow, or without one at all, it arranges the list as a school does. Errors: ErrNoLiquid,
// ErrLongMethod.
func (r *Reader) Cook(name string, choice plan.WayChoice, given []Given, method string, corrected map[int]Correction, school School) (
	Cooked, error) {
	if len(method) > MaxMethod {
		return Cooked{}, ErrLongMethod
	}
	own := len(given)
	given = fruitApart(eggsApart(given, method), method)
	c := cookery{reader: r, takes: map[string][][]string{}, given: slices.Clone(given),
		used: make([]float64, len(given)), preparations: make([][]preparing, len(given)),
		at: -1, assumed: -1, steeps: -1, greased: -1, passed: map[int]bool{}, doubts: map[int][]Doubt{}, kept: map[int]bool{},
		beside: map[int]bool{}, shared: map[string][]int{},
		reserved: map[int]float64{}, steeped: map[int]bool{}, strained: map[int]bool{},
		comesWith: map[int]bool{}, dressed: map[int][]mention{}, pressed: map[int]bool{}, powdered: map[int]int{}}
	for i := range given {
		c.names = append(c.names, r.namesOf(given[i]))
		c.fromLine(i)
	}
	c.lastWords()
	var sentences []Sentence
	told := Sentences(method)
	c.text = slices.Clone(told)
	for k, correction := range corrected {
		if correction.As != "" && k >= 0 && k < len(c.text) {
			c.text[k] = correction.As
		}
	}
	for k := range c.text {
		c.text[k] = wordForms(c.text[k])
	}
	pressed := 0 // sentences that press coconut are read together
	for k, text := range told {
		c.now = k
		aside, was := corrected[k].Aside, slices.Clone(c.used)
		c.kept[k] = aside
		if pressed == 0 && !aside {
			pressed = c.pressesCoconut(k)
		}
		if pressed > 0 {
			pressed--
			c.took(was)
			sentences = append(sentences, Sentence{Text: text, As: corrected[k].As})
			continue
		}
		passed := !aside && c.heading(c.text[k])
		if !passed && !aside {
			passed = c.sentences(c.text[k])
		}
		c.took(was)
		sentences = append(sentences, Sentence{Text: text, As: corrected[k].As, Passed: passed})
	}
	for k := range c.passed {
		if k >= 0 {
			sentences[k].Passed = true
		}
	}
	result := Cooked{Sentences: sentences}
	if c.follows() {
		was := slices.Clone(c.used)
		result.Unplaced = c.placeRest()
		c.took(was)
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
	result.Trails = result.trails(&c, own)
	result.looks(&c)
	result.Chilled = !result.ByList && servedChilled(result.Plan, result.Sentences)
	for k, i := range result.Unplaced {
		if i >= own { // what was parted from a line: the white of eggs, the zest of a lemon
			result.Unplaced[k] = c.listed(i, own)
		}
	}
	result.Unplaced = slices.DeleteFunc(result.Unplaced, func(i int) bool { return i < 0 })
	return result, nil
}

// eggsApart parts the eggs of a list where the method has their yolks and whites go their own ways.
func eggsApart(given []Given, method string) []Given {
	i := slices.IndexFunc(given, func(g Given) bool { return g.Item.Material == "egg-whole" })
	apart := slices.ContainsFunc(given, func(g Given) bool { return g.Item.Material == "egg-yolk" || g.Item.Material == "egg-white" })
	if i < 0 || apart || !yolksSaid.MatchString(method) || !whitesSaid.MatchString(method) {
		return given
	}
	amount, err := measure.ParseAmount(given[i].Item.Amount)
	if err != nil || amount.Unit != "egg" && amount.Unit != "piece" {
		return given
	}
	list, number := slices.Clone(given), strconv.FormatFloat(amount.Number, 'g', 4, 64)
	white := list[i]
	list[i].Item.Material, list[i].Item.Amount = "egg-yolk", number+" yolk"
	white.Item.Material, white.Item.Amount = "egg-white", number+" white"
	return append(list, white)
}

// fruitApart parts a lemon, a lime or an orange of a list into what the method takes of it: its zest, its juice, or both.
func fruitApart(given []Given, method string) []Given {
	list := slices.Clone(given)
	for i := range list {
		m := list[i].Item.Material
		if m != "citrus-juice" && m != "orange-juice" || juiceSaid.MatchString(list[i].Text) {
			continue
		}
		amount, err := measure.ParseAmount(list[i].Item.Amount)
		if zest := zestSaid.FindString(method); zest == "" || err != nil || amount.Unit != "lemon" && amount.Unit != "orange" {
			continue
		}
		zest := list[i]
		zest.Item.Material, zest.Item.Amount = "citrus-zest", measure.Amount{Number: amount.Number, Unit: "lemon"}.String()
		if juiceSaid.MatchString(method) {
			zest.Text += " zest"
			list = append(list, zest)
		} else {
			list[i] = zest
		}
		break
	}
	return list
}

var (
	zestSaid = regexp.MustCompile(`(?i)\b(?:zest|rind|peel) of (?:the )?(?:lemon|lime|orange)|\b(?:lemon|lime|orange) (?:zest|rind|` +
		`peel)\b|` +
		`\bzest (?:and|it)\b|\bgrate (?:over )?(?:the |in the |in )?(?:zest|rind)`)
	juiceSaid  = regexp.MustCompile(`(?i)\bjuice|\bsqueeze|\bsegment|\bslice`)
	yolksSaid  = regexp.MustCompile(`(?i)\byolks?\b`)
	whitesSaid = regexp.MustCompile(`(?i)\b(?:egg )?whites\b|\b(?:egg|the) white\b`)
)

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
		if !r.ByList && !c.pressed[k] {
			var before []int
			if k > 0 {
				before = r.Sentences[k-1].Steps
			}
			s.number, s.plain = k, inPassingOut(wordForms(s.Text))
			if c.beside[k] {
				s.plain = ifNeeded.ReplaceAllString(s.plain, "")
			}
			s.recheck(r.Plan, before)
			again.read(s, waiting)
			if c.steeped[k] {
				s.Doubts = slices.DeleteFunc(s.Doubts, func(d Doubt) bool {
					return d.Of == TimeLost || d.Of == NotDone && (d.Words == "soak" || d.Words == "steep")
				})
			}
			if c.strained[k] {
				s.Doubts = slices.DeleteFunc(s.Doubts, func(d Doubt) bool {
					return d.Of == NotDone && (d.Words == "strain" || d.Words == "pour it off" || d.Words == "let it cool")
				})
			}
			roasts := len(s.Steps) > 0 && !slices.ContainsFunc(s.Steps, func(i int) bool { return r.Plan.Steps[i].Do != plan.Roast })
			switch {
			case slices.ContainsFunc(s.Steps, func(i int) bool { return r.Plan.Steps[i].Do == plan.Add }):
				waiting = ""
			case roasts:
				waiting += " . " + s.Text // one after the other
			default:
				waiting = s.Text // what it names may go in with the next
			}
		}
		unsure := slices.ContainsFunc(s.Doubts, func(d Doubt) bool { return d.Of != HowLong })
		if r.ByList || s.Understood() && !unsure && !c.kept[k] && !c.beside[k] && s.As == "" || beside < 0 {
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
	sentence int     // -1: its line says so
	share    float64 // of the item, where the rest of it is left as it is; 0: all
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
	beside       map[int]bool // sentences that say what is done in some case only, beside what they do
	taken        []taking

	text    []string              // the sentences
	takes   map[string][][]string // of a sentence: what it takes with an amount of its own
	now     int                   // the one that is read
	ahead   string                // what that says behind the clause that is followed
	section string                // the heading that is being told
	holders []holder
	at      int          // the pot that is being cooked in, a holder; -1: none yet
	next    []string     // what the next pot is called; nil: none is opened
	last    []mention    // what was named last: "it"
	said    map[int]bool // what the sentence names

	oven      plan.Oven
	ovenC     measure.Celsius
	heated    measure.Celsius // to what the oven is heated beforehand; 0: not said
	fat       *mention        // that is hot in a pan, and nothing is in it yet
	passed    map[int]bool    // sentences of which no step is left: what they put in is fried beside the pot
	pan       bool            // it is in a pan of its own
	offHeat   bool
	flame     vessel.Flame // turned to, for what comes
	lid       *bool
	sealed    bool              // the lid of a cooker is closed, and nothing has cooked in it yet
	bowls     bool              // it is shared out before it cools
	shared    map[string][]int  // by the name of what is fried: further sentences that add to it
	reserved  map[int]float64   // of items: the share that is kept for later
	steeps    int               // the sentence in which something is steeped beside the pot; -1 for none
	forDish   []mention         // what a dish was buttered with: it goes in with what fills it
	comesWith map[int]bool      // of items: they come with a dish, or with a paste, and are not named where they go in
	greased   int               // the sentence in which a dish is buttered for the oven; -1 for none
	steeped   map[int]bool      // sentences in which something was: their minutes are its
	strained  map[int]bool      // sentences that strain, or let cool, what needs no step for it
	pressed   map[int]bool      // sentences that press coconut: they were read together, and figures of one may be of another
	dressed   map[int][]mention // by what is tossed in it: fat, juice or sugar that goes in with that
	powdered  map[int]int       // of items that flavour: the sentence that grinds them
	joined    int               // how often something was added to what is fried
	assumed   int               // the step whose end is our own guess; -1: none
}

func (c *cookery) doubt(of DoubtOf, words, amount string) {
	c.doubts[c.now] = append(c.doubts[c.now], Doubt{Of: of, Words: words, Amount: amount})
}

// guess says that the method does not tell how long.
func (c *cookery) guess(minutes measure.Minute) measure.Minute {
	c.doubts[c.now] = append(c.doubts[c.now], Doubt{Of: HowLong, Minutes: minutes})
	return minutes
}
