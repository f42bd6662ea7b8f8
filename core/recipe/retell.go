package recipe

import (
	"regexp"
	"slices"
	"strings"
)

// What is told is put as it is asked for, before it is read: "I peeled and grated the carrots", "in went the sugar", "the
// rice, which has been in water for an hour, goes in now", "it will thicken as it cools". The clauses know one form only:
// a word of doing and what it is done to.

// A telling is a sentence while it is put so.
type telling struct {
	*cookery
	words []*token
	past  bool // somebody tells what was done: "I melted the ghee and added the rice"
}

// retold puts a sentence in the form that clauses are read in.
func (c *cookery) retold(tokens []*token) []*token {
	t := telling{cookery: c, words: tokens}
	if t.praises() {
		return nil
	}
	t.eggsApart()
	t.asGarnish()
	t.finished()
	if t.at(0) == "just" && (t.at(1) == "before" || t.at(1) == "when" || t.at(1) == "as") {
		t.replace(0, 1)
	}
	for k := range t.words {
		if t.at(k) == "carry" && t.at(k+1) == "on" && t.starts(k) {
			t.replace(k, k+2, "continue")
			break
		}
	}
	t.letIn()
	t.takingCare()
	for k := 1; k+2 < len(t.words); k++ {
		if t.at(k+1) == "by" && t.at(k) == t.at(k+2) && t.at(k) != "little" { // "ladle by ladle"
			t.replace(k, k+3, "slowly")
		}
	}
	for k := 1; k+1 < len(t.words); k++ {
		if t.at(k) == "seed" && (t.at(k-1) == "," || t.at(k-1) == "and") && (t.at(k+1) == "," || t.at(k+1) == "and") {
			t.say(k, "deseed") // "peel, seed and dice"
		}
	}
	if t.at(0) == "cream" && (t.at(1) == "the" || t.at(1) == "together" || t.at(1) == "butter") {
		t.replace(0, 1, "beat") // "cream the butter with the sugar"
	}
	for k := 0; k+3 < len(t.words); k++ {
		if t.at(k) != "you" || t.at(k+1) != "will" || t.at(k+2) != "have" {
			continue
		}
		if base, ok := participle(t.at(k + 3)); ok { // "meanwhile you will have boiled the milk"
			t.replace(k, k+4, base)
		}
	}
	t.allBut()
	t.keepingBack()
	t.addingToo()
	t.stirredAt()
	t.bath()
	t.described()
	t.relative()
	t.thingsFirst()
	t.byDoing()
	t.subjects()
	t.goingIn()
	t.whenFirst()
	t.afterMinutes()
	t.thenThings()
	t.thingsIn()
	t.restOfNotes()
	t.ownUnits()
	return t.words
}

func (t *telling) at(k int) string {
	if k < 0 || k >= len(t.words) {
		return ""
	}
	return t.words[k].text
}

// praises reports whether a sentence only tells how a pudding is eaten: "good warm, better cold the next day".
func (t *telling) praises() bool {
	if !praise[t.at(0)] || slices.ContainsFunc(t.words, func(w *token) bool {
		base, done := anyForm(w.text)
		return done && !eaten[base]
	}) {
		return false
	}
	for _, w := range t.words {
		w.read = true
	}
	return true
}

var (
	praise = wordSet(`good best better nice nicest lovely delicious great wonderful perfect excellent equally`)
	eaten  = wordSet(`warm cool chill serve eat enjoy drink keep top make`)
)

// starts reports whether something new may begin at a word.
func (t *telling) starts(k int) bool {
	if k == 0 {
		return true
	}
	switch t.at(k - 1) {
	case ",", "and", "then", "so", "now", "next", "first", "finally", "lastly", "but", "meanwhile", "meantime", "afterwards":
		return true
	}
	return false
}

// replace puts words in the place of others.
func (t *telling) replace(from, to int, with ...string) {
	list := make([]*token, len(with))
	for k, w := range with {
		list[k] = &token{text: w, one: singularWord(w), read: w == ","}
	}
	for _, w := range t.words[from:to] {
		w.read = true
	}
	t.words = slices.Concat(t.words[:from:from], list, t.words[to:])
}

// say makes a word another form of itself.
func (t *telling) say(k int, base string) {
	t.words[k].text, t.words[k].one = base, singularWord(base)
}

var (
	tellers = wordSet(`i we you she he they mum mother grandmother granny gran grandma aunt auntie cooks people one everybody`)
	// What may stand between who does it and what is done.
	helpers = wordSet(`then now just also always usually will would must should have had has do did to want need like 'll next
		simply only first finally often still slowly gently quickly carefully immediately 've 'd
		all both normally generally sometimes myself ourselves`)
	// What a pudding does by itself, and nobody has to do.
	ofItself = wordSet(`
		thicken thickens set sets firm firms sink sinks rise rises foam foams froth froths loosen loosens look looks seem seems taste
		tastes keep keeps last lasts improve improves become becomes get gets change changes turn turns darken darkens stiffen stiffens
		swell swells tighten tightens smell smells feel feels be bubble bubbles splutter splutters spit spits catch catches stick sticks
		burn burns boil boils curdle curdles split splits need needs continue continues absorb absorbs drop drops melt melts release
		releases stay stays remain remains appear appears start starts begin begins float floats soak soaks come comes hold holds wobble
		wobbles tremble trembles flow flows coat coats fall falls puff puffs deepen deepens settle settles cook cooks separate separates
		take takes drink drinks suck sucks carry carries form forms`)
	selves = wordSet(`it they this that these pudding payasam kheer mixture custard milk rice grain dessert syrup everything sauce
		consistency texture pearl dal lentil jaggery sago vermicelli one flavour colour porridge cream sugar carrot skin`)
	modal = wordSet(`will may might should would ll ought`)
)

func wordSet(words string) map[string]bool {
	set := map[string]bool{}
	for w := range strings.FieldsSeq(words) {
		set[w] = true
	}
	return set
}

// described passes over what a pudding does by itself: "it will thicken as it cools, so take it off early", "add the sugar, it
// will turn watery". How long something takes is nothing that it does.
func (t *telling) described() {
	for begin := 0; begin < len(t.words); begin++ {
		if begin > 0 && t.at(begin-1) != "," {
			continue
		}
		does := t.doesItself(begin)
		if does < 0 {
			continue
		}
		end := t.describedTo(does)
		if (&clause{words: t.words[begin:end]}).find("minutes") >= 0 {
			continue
		}
		for _, w := range t.words[begin:end] {
			w.read = true
		}
		t.words = slices.Concat(t.words[:begin:begin], t.words[end:])
	}
}

// doesItself returns where it is said what the pudding does that is spoken of from a word on; -1 where that is not so.
func (t *telling) doesItself(begin int) int {
	subject := func(k int) bool {
		return selves[t.words[k].text] || selves[t.words[k].one] || t.endsName(t.words[k].one)
	}
	first := t.at(begin)
	if conditions[first] || first == "if" || first == "unless" || doing[first] != "" && !subject(begin) {
		return -1
	}
	const most = 6 // words of whom it is spoken of
	for k := begin + 1; k+1 < len(t.words) && k <= begin+most; k++ {
		if w := t.at(k); w == "," || w == "if" || conditions[w] || doing[w] != "" && !subject(k) {
			return -1
		}
		if !subject(k-1) || !modal[t.at(k)] && !t.oftenDoes(k) {
			continue
		}
		does := k
		for does < len(t.words) && (modal[t.at(does)] || t.at(does) == "not" || t.at(does) == "only" || t.at(does) == "also" ||
			strings.HasSuffix(t.at(does), "ly")) {
			does++
		}
		if !ofItself[t.at(does)] && t.at(does) != "leaves" || t.at(does) == "be" && t.participleAt(does+1) {
			return -1
		}
		return does
	}
	return -1
}

// oftenDoes reports whether a word is of a third person that does something by itself: "it thickens as it cools".
func (t *telling) oftenDoes(k int) bool {
	w := t.at(k)
	return (ofItself[w] || w == "leaves" && selves[t.at(k-1)]) && strings.HasSuffix(w, "s") && doing[w] == ""
}

func (t *telling) participleAt(k int) bool {
	for strings.HasSuffix(t.at(k), "ly") {
		k++
	}
	_, ok := participle(t.at(k))
	return ok
}

// describedTo returns where what is described ends: where something is asked for again.
func (t *telling) describedTo(from int) int {
	for k := from + 1; k < len(t.words); k++ {
		if t.at(k-1) != "," && t.at(k-1) != "so" {
			continue
		}
		j := k
		for t.at(j) == "so" || t.at(j) == "then" || t.at(j) == "and" {
			j++
		}
		if doing[t.at(j)] != "" && (t.at(k-1) == "so" || t.at(k) == "so" || t.at(k) == "then" || t.at(k) == "and" || j == k) {
			return j
		}
	}
	return len(t.words)
}

// letIn reads "let the semolina trickle in".
func (t *telling) letIn() {
	for k := 0; k+3 < len(t.words); k++ {
		if t.at(k) != "let" || doing[t.at(k+1)] != "" {
			continue
		}
		const most = 5 // words that name it
		for j := k + 2; j+1 < len(t.words) && j <= k+most; j++ {
			if trickles[t.at(j)] && (t.at(j+1) == "in" || t.at(j+1) == "into") && t.endsName(t.words[j-1].one) {
				t.replace(j, j+1)
				t.say(k, "add")
				return
			}
		}
	}
}

var trickles = wordSet(`trickle rain fall run slide drop pour flow stream sink`)

// takingCare passes over what is only minded: "making sure you stir it every few minutes so that it does not catch", and reads
// "giving it a good stir" as stirring.
func (t *telling) takingCare() {
	for k := 0; k < len(t.words); k++ {
		switch w := t.at(k); {
		case w == "giving" && (t.at(k+1) == "it" || t.at(k+1) == "the" || t.at(k+1) == "them"):
			for j := k + 2; j < min(k+6, len(t.words)); j++ {
				if t.at(j) == "stir" || t.at(j) == "whisk" {
					t.replace(k, j+1, "stirring")
					break
				}
			}
		case k > 0 && (w == "making" && t.at(k+1) == "sure" || w == "taking" && t.at(k+1) == "care" || w == "ensuring"):
			end := k
			for end < len(t.words) && t.at(end) != "," {
				end++
			}
			t.replace(k, end)
		}
	}
}

// keepingBack reads "add the milk, keeping back 100 ml" as what is kept first.
func (t *telling) keepingBack() {
	for k := 2; k < len(t.words); k++ {
		w, from, back := t.at(k), k+1, true
		if w == "keeping" || w == "holding" || w == "setting" || w == "leaving" {
			if back = t.at(k+1) == "back" || t.at(k+1) == "aside"; back {
				from = k + 2
			}
			if w == "leaving" && isFigure(t.at(k+1)) && intakeUnits[t.at(k+2)].unit != "" && t.at(k-1) != "," {
				t.replace(k, k, ",") // "add the ghee little by little leaving 1 tbsp"
				k, from, back = k+1, k+2, true
			}
		} else if w != "reserving" && w != "saving" {
			continue
		}
		if t.at(k-1) != "," {
			continue
		}
		name := t.nameBefore(k)
		amount, end := []string{}, from
		for ; end < len(t.words) && !endsAmount[t.at(end)]; end++ {
			amount = append(amount, t.at(end))
		}
		back = back || t.at(end) == "back" || t.at(end) == "aside" || t.at(end) == "over" // "keeping a few back"
		if name == nil || len(amount) == 0 || !back {
			return
		}
		for end < len(t.words) && t.at(end) != "," && t.at(end) != "and" { // "of it for the nuts"
			end++
		}
		t.replace(k-1, end)
		t.keepFirst(amount, name)
		return
	}
}

// addingToo reads "cook until it thickens, adding a spoon of ghee" as what is done then.
func (t *telling) addingToo() {
	for k := 2; k+1 < len(t.words); k++ {
		if w := t.at(k); w != "adding" || t.at(k-1) != "," || !slices.Contains(t.texts(0, k), "until") {
			continue
		}
		rest := clause{words: t.words[k+1:]}
		if slices.ContainsFunc(rest.words, func(w *token) bool { return onlyThen[w.text] }) || len(t.unused(&rest)) == 0 {
			return
		}
		t.replace(k, k+1, "then", "add")
		return
	}
}

// onlyThen is said of what goes in only if it is wanted, or bit by bit.
var onlyThen = wordSet("if as when whenever more needed necessary time splash")

// endsAmount are words that an amount ends before.
var endsAmount = wordSet(", for of and back aside over to until which that")

// keepFirst tells at first that an amount of something is kept.
func (t *telling) keepFirst(amount, name []string) {
	t.replace(0, 0, slices.Concat([]string{"keep"}, amount, []string{"of", "the"}, name, []string{"aside", ","})...)
}

// allBut reads "all but 2 tbsp of the sugar" and "the butter, except for a teaspoon" as what is kept first.
func (t *telling) allBut() {
	for k := 0; k < len(t.words); k++ {
		behind := t.at(k) == "except" && k > 0
		if !behind && !(t.at(k) == "but" && k > 0 && t.at(k-1) == "all") {
			continue
		}
		from := k + 1
		if t.at(from) == "for" {
			from++
		}
		var amount []string
		end := from
		for ; end < len(t.words) && !endsAmount[t.at(end)]; end++ {
			amount = append(amount, t.at(end))
		}
		if len(amount) == 0 || !isFigure(amount[0]) && numberWords[amount[0]] == 0 && amount[0] != "a" && amount[0] != "an" {
			return
		}
		var name []string
		switch {
		case behind:
			if name = t.nameBefore(k); name == nil {
				return
			}
			t.replace(k, end)
		case t.at(end) == "of":
			from = end + 1
			if t.at(from) == "the" {
				from++
			}
			for length := 3; length > 0 && name == nil; length-- {
				if from+length <= len(t.words) && t.isName(phraseOf(t.words[from:from+length])) {
					name = t.texts(from, from+length)
				}
			}
			if name == nil {
				return
			}
			t.replace(k-1, end+1) // "all but 2 tbsp of"
		default:
			return
		}
		t.keepFirst(amount, name)
		return
	}
}

// nameBefore is the last thing of the list that is named before a word, in the words of the text; nil for none.
func (t *telling) nameBefore(k int) []string {
	const longest = 3
	for end := k; end > 0; end-- {
		for length := min(longest, end); length > 0; length-- {
			if t.isName(phraseOf(t.words[end-length : end])) {
				return t.texts(end-length, end)
			}
		}
	}
	return nil
}

// stirredAt passes over when something is stirred: "stirring after the first 30 minutes and again at 1 hour".
func (t *telling) stirredAt() {
	found := stirredAt.FindStringIndex(strings.Join(t.texts(0, len(t.words)), " "))
	if found == nil {
		return
	}
	text := strings.Join(t.texts(0, len(t.words)), " ")
	begin := len(strings.Fields(text[:found[0]]))
	end := begin + len(strings.Fields(text[found[0]:found[1]]))
	t.replace(begin, end, "stirring", "occasionally")
}

// stirredAt is when something is stirred, as far as the next comma.
var stirredAt = regexp.MustCompile(`\bstirring (?:it )?(?:[a-z]+ )?(?:[a-z]+ )?(?:after|at|half ?way)\b(?: the first)?(?: about)? ` +
	`(?:(?:half )?an? |[a-z]+ |[\d]+ )?(?:minutes?|hours?|half ?way|point|through|time)\b(?: point| mark)?` +
	`(?:,? and (?:then )?again (?:after|at)(?: the| about| another){0,2} (?:(?:half )?an? |[a-z]+ |[\d]+ )?` +
	`(?:minutes?|hours?|end|half ?way)\b)?`)

// bath passes over the water that a dish stands in: "set the dish in a larger pan and add an inch of hot water".
func (t *telling) bath() {
	text := strings.Join(t.texts(0, len(t.words)), " ")
	if found := bathIn.FindStringIndex(text); found != nil {
		begin := len(strings.Fields(text[:found[0]]))
		t.replace(begin, begin+len(strings.Fields(text[found[0]:found[1]])))
		text = strings.Join(t.texts(0, len(t.words)), " ")
	}
	found := bathSaid.FindStringIndex(text)
	if found == nil {
		return
	}
	begin := len(strings.Fields(text[:found[0]]))
	end := begin + len(strings.Fields(text[found[0]:found[1]]))
	for end < len(t.words) && doing[t.at(end)] != doBake && doing[t.at(end)] != doPass {
		end++
	}
	for _, w := range t.words[begin:end] {
		w.read = true
	}
	t.words = slices.Concat(t.words[:begin:begin], t.words[end:])
}

var bathIn = regexp.MustCompile(`(?:\b(?:set|place|put|stand) (?:it|them|the (?:dish|bowls?|moulds?|` +
	`ramekins?|casserole|tin)) )?\bin an? (?:(?:[a-z]+ )?(?:pan|tin|tray) of (?:hot|boiling|warm) water|bain marie|water bath)\b`)

var bathSaid = regexp.MustCompile(`\b(?:set|place|put|stand) (?:the |it |them )?(?:[a-z]+ ){0,3}in(?:to)? an? (?:[a-z]+ )?(?:larger|` +
	`bigger|roasting|deep|baking) ` +
	`(?:baking )?(?:pan|tin|dish|tray)\b.*?\bwater\b`)

// asGarnish reads "use the rest as garnish", "use the nuts to decorate".
func (t *telling) asGarnish() {
	for k := range t.words {
		if t.at(k) != "use" || !t.starts(k) {
			continue
		}
		for j := k + 1; j+1 < len(t.words) && t.at(j) != ","; j++ {
			next := j + 1
			if t.at(next) == "a" || t.at(next) == "the" {
				next++
			}
			if w := t.at(j); w != "as" && w != "for" && w != "to" || !garnishes[t.at(next)] {
				continue
			}
			t.replace(j, next+1)
			t.replace(k, k+1, "garnish", "with")
			return
		}
	}
}

var garnishes = wordSet("garnish garnishing decorate decorating decoration top topping sprinkle")

// eggsApart passes over the parting of eggs, which the list has apart: "separate the eggs and whisk the whites".
func (t *telling) eggsApart() {
	for k := 0; k < len(t.words); k++ {
		end := k + 1
		for end < len(t.words) && (t.at(end) == "the" || isFigure(t.at(end)) || numberWords[t.at(end)] > 0) {
			end++
		}
		if t.at(k) != "separate" || !t.starts(k) || t.at(end) != "egg" && t.at(end) != "eggs" {
			continue
		}
		for end++; t.at(end) == "," || t.at(end) == "and" || t.at(end) == "then"; end++ {
		}
		t.replace(k, end)
		return
	}
}

// finished drops what only says that it is done: "five more minutes and you are done".
func (t *telling) finished() {
	n := len(t.words)
	for _, end := range []int{n - 4, n - 3} {
		if end < 1 || t.at(end) != "and" && t.at(end) != "," && t.at(end) != "then" {
			continue
		}
		said := t.texts(end+1, n)
		last, is := said[len(said)-1], said[len(said)-2]
		if (last == "done" || last == "ready" || last == "finished") && (is == "are" || is == "is") {
			for _, w := range t.words[end:] {
				w.read = true
			}
			t.words = t.words[:end]
			return
		}
	}
}

// relative takes out what was done before with what is named: "the rice, which has been soaking for an hour, goes in".
func (t *telling) relative() {
	for k := 1; k+2 < len(t.words); k++ {
		if t.at(k) != "which" && t.at(k) != "that" || t.at(k) == "that" && t.at(k-1) == "," {
			continue
		}
		from := k + 1
		for from < len(t.words) && (passive[t.at(from)] || helpers[t.at(from)]) {
			from++
		}
		base, ok := anyForm(t.at(from))
		if from == k+1 || from >= len(t.words) || (base == "sit" || base == "stand" || base == "lie" || base == "be" || base == "leave") &&
			!slices.ContainsFunc(t.words[from:], func(w *token) bool { return w.text == "water" }) {
			continue
		}
		if t.at(from) == "in" {
			base, ok, from = "soak", true, from-1
		}
		switch base {
		case "sit", "stand", "lie", "leave":
			base, ok = "soak", true
		}
		if !ok || !ahead[doing[base]] {
			continue
		}
		end := from + 1
		for end < len(t.words) && t.at(end) != "," && !t.goes(end) {
			end++
		}
		begin := k - 1
		for begin > 0 && (t.at(begin) == "," || t.isName(t.words[begin].one) || t.at(begin-1) == "the" && t.at(begin) != "the") {
			begin--
		}
		thing := slices.DeleteFunc(slices.Clone(t.words[begin:k]), func(w *token) bool { return w.text == "," })
		before := slices.Clone(t.words[from+1 : end])
		rest := slices.Clone(t.words[end:])
		for len(rest) > 0 && rest[0].text == "," {
			rest = rest[1:]
		}
		for _, w := range t.words[k : from+1] {
			w.read = true
		}
		again := make([]*token, len(thing))
		for i, w := range thing {
			one := *w
			one.read, again[i] = true, &one
		}
		front := t.words[:begin:begin]
		t.words = slices.Concat([]*token{{text: base, one: base}}, thing, before, []*token{{text: ",", one: ",", read: true},
			{text: "then", one: "then", read: true}}, front, again, rest)
		return
	}
}

// ahead is what is done with something before it goes in.
var ahead = map[action]bool{doSoak: true, doRoast: true, doGrind: true, doGrate: true, doCut: true, doPeel: true, doMash: true, doFry: true,
	doDrain: true, doCook: true, doBoil: true, doMelt: true}

// byDoing reads "start by washing the rice", "be sure to stir", "it is time to add".
func (t *telling) byDoing() {
	for k := 0; k+1 < len(t.words); k++ {
		if !t.starts(k) && k != 0 {
			continue
		}
		for _, opener := range openers {
			n := len(opener)
			if k+n >= len(t.words) || !slices.Equal(t.texts(k, k+n), opener) {
				continue
			}
			if ing := strings.HasSuffix(t.at(k+n), "ing"); n == 1 && (opener[0] == "start" || opener[0] == "begin") && !ing {
				continue
			}
			if base, ok := anyForm(t.at(k + n)); ok {
				t.say(k+n, base)
				t.replace(k, k+n)
				break
			}
		}
	}
}

func (t *telling) texts(from, to int) []string {
	list := make([]string, 0, to-from)
	for _, w := range t.words[from:to] {
		list = append(list, w.text)
	}
	return list
}

var openers = func() (list [][]string) {
	for _, said := range []string{"start by", "begin by", "start", "begin", "start off by", "finish by", "start with", "be sure to",
		"make sure to",
		"remember to", "don't forget to", "do not forget to", "it is time to", "it's time to", "time to", "you want to",
		"you need to", "you will need to", "you have to", "let's", "let us", "go on", "all you do is", "all that is left is to",
		"the next step is to", "the first step is to", "what you do is", "the trick is to", "try to", "be careful to", "take care to", "please",
		"kindly", "go ahead and", "it is best to"} {
		list = append(list, strings.Fields(said))
	}
	return list
}()

// subjects takes out who does it: "we put the milk on", "I melted the ghee and cooked the carrots in it".
func (t *telling) subjects() {
	for k := 0; k < len(t.words); k++ {
		who := k
		if t.at(who) == "my" || t.at(who) == "our" {
			who++
		}
		if !t.starts(k) || !tellers[t.at(who)] || who == k && k > 0 && conditions[t.at(k-1)] {
			t.goesOn(k)
			continue
		}
		verb := who + 1
		for verb < len(t.words) && helpers[t.at(verb)] {
			verb++
		}
		base, ok := anyForm(t.at(verb))
		if !ok {
			continue
		}
		t.past = t.past || t.at(verb) != base
		t.say(verb, base)
		if before := t.at(k - 1); before == "first" || before == "next" || before == "finally" {
			t.replace(k, verb, ",") // "first" stands before things, too
		} else {
			t.replace(k, verb)
		}
	}
}

// thingsFirst reads "jaggery you melt in a little water".
func (t *telling) thingsFirst() {
	const most = 4
	for k := 1; k+1 < len(t.words) && k <= most; k++ {
		if !tellers[t.at(k)] || !t.endsName(t.words[k-1].one) || doing[t.at(0)] != "" || conditions[t.at(0)] {
			continue
		}
		if base, ok := anyForm(t.at(k + 1)); ok {
			front := slices.Clone(t.words[:k])
			t.words[k].read, t.words[k+1].read = true, true
			t.words = slices.Concat([]*token{{text: base, one: base}}, front, t.words[k+2:])
			return
		}
	}
}

// goesOn puts a further word of doing of who does it in its form: "and cooked the carrots".
func (t *telling) goesOn(k int) {
	if !t.past || k == 0 || !t.starts(k) || t.at(k-1) == "," && t.participlesOnly(k) {
		return
	}
	for j := k - 1; j >= 0 && t.at(j) != ","; j-- {
		if waits(t.at(j)) {
			return // "until it thickens and reduces"
		}
	}
	if base, ok := anyForm(t.at(k)); ok && doing[t.at(k)] == "" && !strings.HasSuffix(t.at(k), "ing") {
		t.say(k, base)
	}
}

// participlesOnly reports whether a word behind a comma says how something is, and not what is done: ", chopped,".
func (t *telling) participlesOnly(k int) bool {
	return k+1 == len(t.words) || t.at(k+1) == "," || t.at(k+1) == "and" && k+2 < len(t.words) && t.participleAt(k+2)
}

// goingIn reads "the sugar goes in", "in went the sugar", "on top go the nuts".
func (t *telling) goingIn() {
	for k := 0; k < len(t.words); k++ {
		if !t.goes(k) || t.goesOnFor(k) {
			continue
		}
		begin := k
		for begin > 0 && !t.begun(begin) {
			begin--
		}
		if t.turnedRound(begin, k) {
			return
		}
		if places[t.at(k+1)] {
			t.putIn(begin, k)
		}
	}
}

// Words behind "goes" that say where, and behind "goes in" where that is all.
var (
	places  = wordSet("in into on over onto")
	wholeIn = wordSet(", and now next then last with at together for too once when after as")
)

// goesOnFor reports whether "go on" is what is said: "go on for ten minutes".
func (t *telling) goesOnFor(k int) bool {
	next := t.at(k + 2)
	return t.at(k+1) == "on" && (next == "for" || next == "until" || strings.HasSuffix(next, "ing"))
}

// turnedRound reads "in went the sugar": where it goes stands in front.
func (t *telling) turnedRound(begin, k int) bool {
	before := t.texts(begin, k)
	said := k == 0 && t.at(k) == "goes" || // "next goes the thin milk"
		slices.ContainsFunc(before, func(w string) bool { return w != "it" && w != "this" && w != "that" && w != "all" })
	if !said || slices.ContainsFunc(before, func(w string) bool { return !inversion[w] }) {
		return false
	}
	verb := "add"
	if slices.Contains(before, "top") || slices.Contains(before, "over") {
		verb = "scatter"
	}
	end := k + 1
	for t.at(end) == "in" || t.at(end) == "with" {
		end++
	}
	t.replace(begin, end, verb)
	return true
}

// putIn reads "the sugar goes in".
func (t *telling) putIn(begin, k int) {
	after, verb := t.at(k+1), "add"
	if after == "on" || after == "over" || after == "onto" {
		verb = "scatter"
	} else if slices.Contains(t.texts(k, min(k+5, len(t.words))), "water") {
		verb = "soak" // "the barley goes into cold water"
	}
	thing := slices.DeleteFunc(slices.Clone(t.words[begin:k]), func(w *token) bool { return inversion[w.text] || helpers[w.text] })
	if len(thing) == 0 && begin > 0 && t.at(begin-1) == "and" {
		thing = []*token{{text: "them", one: "them", read: true}}
	}
	if !slices.ContainsFunc(thing, func(w *token) bool {
		return t.endsName(w.one) || w.text == "it" || w.text == "them" || w.text == "they" || w.text == "rest"
	}) {
		return
	}
	end := k + 1
	if next := t.at(k + 2); after == "in" && (next == "" || wholeIn[next]) {
		end++
	}
	for _, w := range t.words[begin:end] {
		w.read = w.read || !slices.Contains(thing, w)
	}
	for _, w := range thing {
		if w.text == "they" {
			w.text, w.one = "them", "them"
		}
	}
	t.words = slices.Concat(t.words[:begin:begin], []*token{{text: verb, one: verb}}, thing, t.words[end:])
}

// begun reports whether what a word belongs to begins at it.
func (t *telling) begun(k int) bool {
	switch t.at(k - 1) {
	case "then", "so", "but":
		return true
	case "and", ",":
		before := k - 2 // "the sugar and the ghee go in" is one
		for before >= 0 && !t.endsName(t.words[before].one) && t.at(before) != "," && doing[t.at(before)] == "" && !conditions[t.at(before)] {
			before--
		}
		one := before >= 0 && t.endsName(t.words[before].one)
		for j := 0; one && j < before; j++ {
			if _, done := anyForm(t.at(j)); done || conditions[t.at(j)] {
				one = false
			}
		}
		return !one
	}
	return conditions[t.at(k-1)]
}

// goes reports whether a word says that something is put in, if a place follows or stands before it.
func (t *telling) goes(k int) bool {
	switch t.at(k) {
	case "goes", "go", "went", "follow", "follows", "followed", "comes", "came":
		return true
	}
	return false
}

var inversion = wordSet(`in next then now finally last first of all on top over only does do did and that comes after into it this`)
