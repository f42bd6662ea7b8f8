package recipe

import (
	"slices"
	"strings"
)

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
		if not := slices.IndexFunc(p.lead, func(w *token) bool { return w.text == "not" }); not > 1 && p.lead[not-1].text == "," {
			if list := c.wordless(p.lead[:not-1]); len(list) > 0 { // "one more minute on the heat, not boiling"
				(&clause{words: p.lead[not:]}).readAll()
				return list
			}
		}
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
	// What is not done is told in passing: what comes behind it is asked for.
	passing bool
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
	if last := len(p.clauses) - 1; last >= 0 && p.clauses[last].do == doAdd && p.tokens[k-1].text != "," &&
		p.clauses[last].find("adding") < 0 && len(p.unused(&p.clauses[last])) == 0 {
		p.clauses = p.clauses[:last] // "add some milk if needed": that is done in this case only
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
		p.waits, p.not, p.passing = false, false, false
	case w == "and" && p.passing && doing[next] != "":
		p.not, p.passing, p.waits = false, false, false // "without changing its colour and add the water"
	case w == "not" || w == "don't" || w == "never" || w == "without" || w == "no" && next == "account":
		p.not = true
		p.passing = w == "without" || k > 0 && tellsOf[p.tokens[k-1].text]
	case k == 0 && conditions[w] && (w != "as" || next == "soon"):
		end := slices.IndexFunc(p.tokens, func(t *token) bool { return t.text == "," })
		if end < 0 {
			end = p.nextDoing(p.tokens, k+1)
		}
		if end > 0 {
			end += p.alsoTime(end)
		}
		if next := p.nextDoing(p.tokens, k+1); next > 0 && next < end && (doing[p.tokens[next].text] == doAdd ||
			doing[p.tokens[next].text] == doTurn && !subject[p.tokens[next-1].text]) {
			end = next // "when it boils add the semolina, stirring"
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

// subject are words that do something, and do not ask for it: "when you turn the heat down, ...".
var subject = wordSet("you we i they it to and")

// alsoTime is how many words behind a condition say how long that takes: ", about 10 minutes,"; 0 for none.
func (p *parting) alsoTime(from int) int {
	const most = 6
	for k, w := range p.tokens[from+1 : min(from+1+most, len(p.tokens))] {
		if w.text == "," {
			if saidTime := (&clause{words: (&clause{words: p.tokens[from+1 : from+1+k]}).copied()}); saidTime.minutes() > 0 &&
				len(unread(saidTime.words)) == 0 && doing[saidTime.words[0].text] == "" {
				return k + 1
			}
			return 0
		}
	}
	return 0
}

// tellsOf are words before a "not" that only tell: "so that it does not catch".
var tellsOf = wordSet("does is are will would should")

// afterTime returns where a sentence goes on that begins with "after five minutes"; 0 for none.
func (p *parting) afterTime() int {
	if p.tokens[0].text != "after" {
		return 0
	}
	const most = 7
	for k, w := range p.tokens[:min(most, len(p.tokens))] {
		if (strings.HasPrefix(w.text, "minute") || strings.HasPrefix(w.text, "hour")) &&
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
	if do == doPeel && k == len(p.tokens)-1 && len(p.clauses) > 0 && (p.clauses[len(p.clauses)-1].do == doOff ||
		p.clauses[len(p.clauses)-1].do == doPass) {
		begins = false // "remove the cinnamon and peel"
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
	if p.not || p.waits || !begins || (!p.told || ofItself) && !opens(p.tokens, k) {
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
		p.thingsIn()
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

// thingsIn takes what stands before the first word of doing as put in, where that is what it says: "butter and vanilla in, spoon
// into bowls".
func (p *parting) thingsIn() {
	end := slices.IndexFunc(p.lead, func(w *token) bool { return w.text == "," })
	if end < 2 || p.lead[end-1].text != "in" {
		return
	}
	said := clause{do: doAdd, verb: "add", words: p.lead[:end-1]}
	if len(p.unused(&said)) == 0 || !p.onlyNames(&said) {
		return
	}
	p.lead[end-1].read = true
	p.clauses, p.lead = append(p.clauses, said), p.lead[end+1:]
}

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
			return opens(tokens, k)
		} else if conditions[w] {
			return false
		}
	}
	return false
}

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
	if c.isName(first.one) || beginsPhrase[first.text] || describes[first.text] && doing[first.one] == "" &&
		!strings.HasPrefix(words[1].text, "the") ||
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
var beginsPhrase = wordSet(`a an the this that these those all both half some each every any in into on onto to with for from off over at
	by of and then now next first second third finally last once when while after before about around not no only
	just also again more as it they them meanwhile here there towards without within until till during under above
	below through but or so plus either another other one two three your my our their its best`)

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
	case last == "hot" && len(words) < few && c.onlyFat(c.unused(&l)):
		l.do, l.verb = doMelt, "melt" // "ghee hot"
	case named && (last == "golden" || last == "brown" || last == "crisp") && c.onlyNuts(c.unused(&l)) && c.fatIsLeft():
		l.do, l.verb = doFry, "fry" // "ghee hot, nuts golden, out"
	case last == "out" && len(words) == 1:
		l.do, l.verb = doPass, "remove"
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
	case last == "out" && len(words) < few && c.onlySpice(&l):
		l.do, l.verb = doPass, "remove" // "peel out"
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
	case "any":
		if k+2 < len(tokens) && tokens[k+2].text != "and" && tokens[k+2].text != "," {
			return false // "if any sticks"
		}
		tokens[k].read, tokens[k+1].read = true, true
		return k > 0
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

// orWaits reports whether an "or" goes on waiting: "20 minutes or until soft", "until soft or done".
func (c *cookery) orWaits(tokens []*token, k int) bool {
	return k+1 < len(tokens) && doing[tokens[k+1].text] == ""
}
