package recipe

import (
	"kirdu/core/measure"
	"kirdu/core/pantry"
	"kirdu/core/plan"
	"kirdu/core/vessel"
	"maps"
	"regexp"
	"slices"
	"strings"
)

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
	text = withoutFirst(thatDone.ReplaceAllString(inPassingOut(text), ""))
	if text == "" {
		return true
	}
	text = beforeTheEnd.ReplaceAllString(text, "$2 $1")
	if two := addingAtLast.FindStringSubmatch(text); two != nil {
		first := c.sentence(two[1])
		return c.sentence("Add "+two[2]) && first
	}
	c.heatOven(text)
	if both := takesThen.FindStringSubmatch(text); both != nil && doing[strings.ToLower(strings.Fields(both[2])[0])] != "" {
		if read, _ := c.lasted(both[1]); read {
			text = both[2]
		}
	}
	if read, passed := c.lasted(text); read {
		return passed
	}
	text = gasMark.ReplaceAllStringFunc(c.onlyIfNeeded(text), func(found string) string {
		return "Bake at " + gasCelsius[found[len(found)-1]] + " C"
	})
	if farewell.MatchString(text) || takesVessel.MatchString(text) || greasesWith.MatchString(text) || doneWhen.MatchString(text) ||
		(looksSo.MatchString(text) || wanted.MatchString(text)) && !asksMore.MatchString(text) {
		return true
	}
	if c.onlySoaks(text) {
		return false
	}
	if besideSaid.MatchString(text) && c.namesNoneLeft(text) {
		c.kept[c.now] = true
		return false
	}
	tokens := c.retold(c.opening(methodWords(text)))
	if len(tokens) == 0 {
		return true
	}
	all := clause{words: tokens}
	for _, size := range []*regexp.Regexp{vesselSize, otherOven, howLarge, scooped} {
		all.match(size)
	}
	was, begin := c.stand(), len(c.steps)
	c.said, c.ahead = map[int]bool{}, ""
	var clauses []clause
	did, lost := false, []*clause(nil)
	for _, part := range c.partsAtWhen(tokens) {
		these := c.clauses(part)
		now, notDone := c.follow(these)
		clauses, did, lost = append(clauses, these...), did || now, append(lost, notDone...)
	}
	if len(clauses) == 0 {
		return false
	}
	passed = len(lost) == 0 && !did
	c.forTheLast(text, begin)
	c.partWay(text, begin)
	if c.kept[c.now] {
		return false
	}
	washes(clauses, tokens)
	saysWhy(tokens)
	for _, one := range lost {
		if did && !one.onlyLets() {
			c.doubt(NotDone, one.said(), "")
		}
	}
	served := !did && !slices.ContainsFunc(clauses, func(l clause) bool { return l.do != doPass || !slices.Contains(eating, l.verb) })
	if words := unread(tokens); len(words) > 0 && !served && (did || slices.ContainsFunc(words, c.isMaterial)) {
		c.doubt(Unread, strings.Join(words, ", "), "")
	}
	if did {
		c.check(tokens, was)
	}
	return passed
}

// onlyIfNeeded takes out of a sentence what it adds in some case only, and keeps that as a note: "simmer for 20 minutes, adding
// water if it gets too dry".
func (c *cookery) onlyIfNeeded(text string) string {
	rest := strings.TrimSpace(ifNeeded.ReplaceAllString(text, ""))
	does := func(w *token) bool { return doing[w.text] != "" && doing[w.text] != doPass }
	if rest == text || !slices.ContainsFunc(roughly(rest), does) {
		return text
	}
	c.beside[c.now] = true
	return rest
}

// ifNeeded is said of what is added in some case only.
var ifNeeded = regexp.MustCompile(`(?i)[,;]? *\b(?:and |but )?(?:add(?:ing)?|pour(?:ing)? in|top(?:ping)? (?:it )?up with|` +
	`thin(?:ning)?(?: it)? (?:down )?with|loosen(?:ing)?(?: it)? with) [^,.;()]{2,60}? (?:if|when|whenever|as|should) ` +
	`(?:it |the [a-z]+ |you |this |they )?(?:(?:is|are|looks?|gets?|seems?|becomes?|feels?|turns?|` +
	`starts? to|begins? to|find it|be) )?` +
	`(?:needed|necessary|required|needs?(?: be| it| to| more)?|(?:too |very |a bit |a little )*(?:dry|thick|stiff)|sticks?|` +
	`catch(?:es)?)\b[^,.;]*`)

// gasMark is how a sentence begins that is of an oven: "gas 2 for two hours".
var (
	gasMark    = regexp.MustCompile(`(?i)^gas(?: mark)? [1-9]\b`)
	gasCelsius = map[byte]string{'1': "140", '2': "150", '3': "165", '4': "180", '5': "190", '6': "200", '7': "220", '8': "230", '9': "240"}
)

// partsAtWhen parts a sentence where it waits for something again: "stir in the butter, and when it is nearly cold add the eggs".
func (c *cookery) partsAtWhen(tokens []*token) (parts [][]*token) {
	begin := 0
	for k := 1; k < len(tokens); k++ {
		if w := tokens[k].text; w != "when" && w != "once" && w != "after" {
			continue
		}
		if tokens[k-1].text == "," && c.nextDoing(tokens, k+1) > 0 && !conditions[tokens[0].text] { // "add the milk, when it bubbles switch off"
			parts, begin = append(parts, tokens[begin:k-1]), k
			continue
		}
		if tokens[k-1].text != "and" && tokens[k-1].text != "then" {
			continue
		}
		if k > 1 && tokens[k-2].text == "," {
			parts, begin = append(parts, tokens[begin:k-1]), k
		}
	}
	return append(parts, tokens[begin:])
}

// withoutFirst takes away words before what is to be done: "First put the rice into the milk", "please leave it to cool".
func withoutFirst(text string) string {
	found := firstSaid.FindStringSubmatch(text)
	if found == nil {
		return text
	}
	next := strings.ToLower(found[1])
	if doing[next] == "" && next != "in" && next != "the" && next != "for" || doing[next] == doPress {
		return text
	}
	return text[len(found[0])-len(found[1]):]
}

// beforeTheEnd is when something goes in, and what: "half an hour before the end add the raisins".
var beforeTheEnd = regexp.MustCompile(`(?i)^((?:about )?[a-z0-9 -]{1,16}(?:minutes?|mins?|hour) before (?:the end|it is done|` +
	`the end of (?:the )?cooking(?: time)?)),? ((?:add|stir in|mix in|put in|throw in) .*)$`)

// addingAtLast is what is done, and what goes in at its end: "simmer for an hour, adding the raisins for the last ten minutes".
var addingAtLast = regexp.MustCompile(`(?i)^(.*\b(?:minutes?|mins?|hours?)\b[^,;]*),? (?:and )?adding ((?:the )?[^;]{3,60}? ` +
	`(?:for|in|during) the (?:last|final) [a-z0-9 -]+)$`)

// scooped is said of what is taken out of a fruit and thrown away.
var scooped = regexp.MustCompile(`\bscoop(?:ing)? out (?:the |all the )?(?:seeds?|pips|fibres|pith|stringy bits)\b`)

// takesThen is said of how long something takes, and of what comes then: "this takes 40 minutes, then add the sugar".
var takesThen = regexp.MustCompile(`(?i)^((?:and )?(?:that|this|it) (?:takes|will take|should take) [^,;]*?\b(?:minutes?|` +
	`hours?)\b(?: or so)?)(?:, (?:and )?(?:then )?| and (?:then )?)([a-z]+ .*)$`)

// thatDone is said of what comes next, and of no doneness: "once that is done, add the rice".
var thatDone = regexp.MustCompile(`(?i)^(?:and )?(?:once|when|after|as soon as|now that) (?:all )?(?:that|this)(?:'s|’s| is| has been) ` +
	`(?:all )?(?:done|finished|over|ready|settled|out of the way),? ?(?:you can )?`)

var firstSaid = regexp.MustCompile(`(?i)^(?:and )?(?:first(?: of all)?|firstly|to (?:begin|start)(?: with)?|also|please|` +
	`remember to|simply|carefully|immediately|quickly),? (\w+)`)

// What only takes leave of those who read, and what is told beside the cooking.
var (
	farewell = regexp.MustCompile(`(?i)^(?:and )?(?:enjoy(?:!|$| your| it| this| and| with| warm| hot| cold| chilled)|happy |yummy|` +
		`voil[aà]|bon |` +
		`let (?:me|us) know|leave (?:me |us )?a comment|(?:many )?thanks?\b|(?:i )?hope (?:you|this)|please (?:do )?(?:try|share|` +
		`leave (?:me|us|a|your)|rate)|` +
		`do (?:try|let)|try (?:this|it) (?:out|and)|(?:and )?that(?:'s| is) (?:it|all)\b|you(?:'re| are) (?:all )?done|` +
		`there you (?:go|have it)|(?:it is |it's |now )?ready to (?:serve|eat|enjoy)|` +
		`share (?:it|this) with|and you(?:'re| are) done|see you|until next time|love\b)`)
	besideSaid = regexp.MustCompile(`(?i)^(?:(?:just )?(?:before|when|while) serving,? (?:you can |you may )?(?:loosen|thin|slacken|` +
		`let down)\b|to reheat|reheat(?:ing)?\b.*\b(?:splash|serving|serve|microwave|leftovers?|if|` +
		`later)\b|when reheating|for reheating|leftovers?\b|any leftovers?|` +
		`(?:refrigerate|chill|store|keep|freeze|cover) (?:any |the )?leftovers?\b|remember\b|note\b|` +
		`please note|keep in mind|bear in mind|be aware|n\.?b\.?\b|variations?\b|` +
		`for an? (?:richer|thicker|thinner|creamier|lighter|vegan|dairy[- ]free) (?:version|pudding|kheer|payasam|result|taste|` +
		`consistency)|` +
		`alternatively\b|as an alternative|you (?:can|could|may|might) (?:also|even|always|instead|use|substitute|replace|skip|make|` +
		`prepare|store|` +
		`keep|freeze)\b|feel free|instead of\b|(?:it|this|the pudding|this pudding|the kheer|this kheer|this payasam) (?:can|may|` +
		`could) (?:also )?` +
		`be (?:made|served|eaten|kept|stored|prepared|frozen|reheated))`)
)

// What is taken to cook in, and what the pudding is to look like.
var (
	takesVessel = regexp.MustCompile(`(?i)^(?:take|get|use|choose) (?:out )?(?:an?|your|the) (?:[a-z-]+ ){0,4}(?:pan|pot|saucepan|` +
		`vessel|kadai|` +
		`cooker|uruli|dish|bowl)(?: with a (?:heavy|thick) (?:base|bottom))?$`)
	greasesWith = regexp.MustCompile(`(?i)^use (?:[a-z]+ ){0,4}(?:butter|ghee|oil) to (?:grease|butter|oil|line|rub)\b[^,;]*$`)
	looksSo     = regexp.MustCompile(`(?i)^(?:the|your|this|it|an?)(?: [a-z]+){0,3} (?:should|must|will|needs to|ought to)(?: now| then|` +
		` still)? (?:be|have|look|form|` +
		`feel|taste|thicken|coat|become|get|stay|remain|continue|seem|keep|turn)\b`)
	wanted = regexp.MustCompile(`(?i)^(?:you(?:'re| are)? (?:want|looking|aiming|after) (?:the|it|them|for|an?|your)|` +
		`look for|aim for)\b|` +
		`^(?:it|the [a-z]+) (?:will )?(?:thickens?|sets?|firms?)\b[^,;.]*,? so (?:keep|leave|make) it (?:an? (?:little|bit) |slightly |still )*` +
		`(?:runny|runnier|thin|thinner|loose|looser|liquid)\b[^,;]*$`)
	doneWhen = regexp.MustCompile(`(?i)^(?:the|your|this|it)(?: [a-z]+){0,3} is (?:done|ready|cooked|perfect|just right) when [^.]*$`)
	asksMore = regexp.MustCompile(`(?i)\b(?:when|once|before|after|if|then)\b|[,;] ?(?:and )?(?:add|stir|pour|remove|take|turn|mix|` +
		`put|cook|simmer)\b|` +
		`\band (?:add|stir|pour|remove|take|turn|mix|put|cook|simmer)\b|\d ?(?:min|hour)`)
)

// namesNoneLeft reports whether a text names nothing that is in no pot yet.
func (c *cookery) namesNoneLeft(text string) bool {
	return !slices.ContainsFunc(c.namedIn(text), func(group []int) bool {
		return slices.ContainsFunc(group, func(i int) bool { return c.used[i] < fullyUsed && !c.given[i].inMethod })
	})
}

// follow follows the clauses of a sentence, and reports whether any did something, and of which nothing came though it asks
// for something.
func (c *cookery) follow(clauses []clause) (did bool, lost []*clause) {
	for k := range clauses {
		one := &clauses[k]
		if k > 0 && k+1 < len(clauses) && one.verb == "add" && clauses[k-1].do == doGrind && clauses[k+1].do == doGrind {
			one.do, one.verb = doGrind, "grind" // "grind the rice and the coconut, add the sesame and grind till smooth"
		}
		if k+1 < len(clauses) && c.goesWith(one, &clauses[k+1]) {
			continue
		}
		c.means(one, inPassing)
		if one.do == doNothing {
			continue
		}
		if one.do == doPass && (cleans[one.verb] || !one.has("topped", "drizzled", "sprinkled", "scattered", "garnished", "with", "on top")) {
			said, before := maps.Clone(c.said), c.last
			list := c.mentions(one)
			switch onlyWater := !slices.ContainsFunc(list, func(m mention) bool {
				return m.item < 0 || c.given[m.item].Item.Material != "water"
			}); {
			case onlyWater: // "rinse under cold water"
				c.last = before
			default: // "wash the sago and soak it"
				c.last = c.asMeant(one, list, before)
			}
			if one.verb == "discard" {
				c.said = said // it does not go in
			}
			if one.verb == "cover" || one.find("covered") >= 0 {
				c.lid = new(true)
			}
			continue
		}
		c.ahead = ""
		for _, later := range clauses[k+1:] {
			c.ahead += " " + later.verb + " " + later.asked().text()
		}
		before, prepared, last := len(c.steps), c.countPrepared(), c.last
		fine := c.clause(one)
		if one.joins {
			c.last = append(slices.Clone(c.last), slices.DeleteFunc(slices.Clone(last), func(m mention) bool {
				return slices.ContainsFunc(c.last, func(one mention) bool { return one.item == m.item })
			})...)
		}
		if len(c.steps) > before || c.countPrepared() > prepared {
			did = true
		} else if !fine {
			lost = append(lost, one)
		}
	}
	return did, lost
}

// cleans are words of doing for what is washed, with whatever.
var cleans = wordSet("wash rinse clean pick")

// goesWith reports whether a clause says only what the next one is done to, which has that then: "peel and dice the pears",
// "add the cashews and fry till golden", "let it cool".
func (c *cookery) goesWith(one, next *clause) bool {
	switch {
	case one.bare() && (next.getsReady() || next.do == doMash || next.do == doSteam):
	case one.verb == "add" && (next.do == doRoast || next.do == doFry) && c.onlyFat(c.unused(one)) && len(c.held()) > 0 && !c.heldFat() &&
		c.any(c.unused(next), pantry.Grain):
		one.do, one.verb = doMelt, "melt" // "add 1 tbsp ghee and roast the vermicelli": what was put aside is in another pan
		return false
	case one.verb == "simmer" && one.asked().text() == "and" && next.verb == "cook" && len(c.unused(next)) == 0:
		next.verb = "simmer" // "simmer and cook till soft"
	case c.addsToFry(one, next):
		next.words, next.lead = slices.Concat(one.words[one.lead:], next.words), 0
	case c.addsToRoast(one, next):
		next.words, next.lead, next.joins = slices.Concat(one.words[one.lead:], next.words), 0, true
	case c.takesToTemper(one, next):
		next.words = slices.Concat(next.words, methodWords("with a little of the hot milk"))
		one.readAll()
	case c.takesToMix(one, next), c.mixesToPaste(one, next):
		next.words, next.lead = slices.Concat(one.words[one.lead:], next.words), 0
	case c.coversToSoak(one, next):
		next.words, next.lead, next.do = slices.Concat(one.words, next.words), next.lead+len(one.words), doSoak
	case c.letsBe(one):
		next.words, next.lead = slices.Concat(one.words, next.words), next.lead+len(one.words)
	default:
		return false
	}
	return true
}

// takesToMix reports whether a clause takes some of a liquid that the next one stirs flour into: "take half a cup of the milk and
// mix in the custard powder".
func (c *cookery) takesToMix(one, next *clause) bool {
	taken := c.unused(one)
	takes := one.verb == "take" || one.verb == "keep" && one.find("cold") >= 0
	return takes && len(taken) == 1 && c.behaves(taken[0], pantry.Liquid) && taken[0].share < 1 &&
		slices.Contains(stirredBeside, next.verb) && c.any(c.unused(next), pantry.Flour)
}

// mixesToPaste reports whether a clause puts together what the next one stirs to a paste with some liquid: "sift the cocoa with the
// sugar and mix to a paste with a few spoons of the milk".
func (c *cookery) mixesToPaste(one, next *clause) bool {
	dry := c.unused(one)
	return one.do == doAdd && slices.Contains(stirredBeside, next.verb) && next.find("paste") >= 0 && next.find("with") >= 0 &&
		len(dry) > 0 && !slices.ContainsFunc(dry, func(m mention) bool { return c.behaves(m, pantry.Liquid) })
}

// takesToTemper reports whether a clause takes some of what is hot for the egg of the next: "take a few spoons of the milk and mix
// with the yolks".
func (c *cookery) takesToTemper(one, next *clause) bool {
	return one.verb == "take" && len(c.held()) > 0 && len(c.unused(one)) == 0 && takenFor.MatchString(one.text()) &&
		slices.Contains(stirredBeside, next.verb) && c.any(c.unused(next), pantry.Egg)
}

// takenFor is said of a little that is taken out of the pot.
var takenFor = regexp.MustCompile(`\b(?:spoons?|spoonfuls?|tbsp|tablespoons?|ladles?|ladlefuls?|cups?|little|some)\b`)

// coversToSoak reports whether a clause covers with water what the next one leaves in it: "cover with water and leave for an hour".
func (c *cookery) coversToSoak(one, next *clause) bool {
	stands := next.do == doSoak || timed(c, next) && slices.Contains([]string{"leave", "let", "stand", "sit", "set", "keep"}, next.verb)
	return one.verb == "cover" && one.find("water") >= 0 && stands && soaksIt(c, one)
}

// washes reads the water that something is washed or soaked in, and how often.
func washes(clauses []clause, tokens []*token) {
	if !slices.ContainsFunc(clauses, func(l clause) bool { return l.verb == "wash" || l.verb == "rinse" || l.do == doSoak }) {
		return
	}
	for k, w := range tokens {
		w.read = w.read || w.text == "water" || w.text == "twice" || w.text == "thrice"
		if w.text != "times" && w.text != "waters" {
			continue
		}
		for _, n := range tokens[max(k-3, 0):k] {
			n.read = n.read || isFigure(n.text) || n.text == "several"
		}
	}
}

// saysWhy reads what only says what would come about: "on a low flame, otherwise it will catch".
func saysWhy(tokens []*token) {
	for k, w := range tokens {
		or := w.text == "or" && k+1 < len(tokens) && tokens[k+1].text == "else"
		if k == 0 || w.text != "otherwise" && !or && w.text != "because" {
			continue
		}
		for _, t := range tokens[k:] {
			t.read = true
		}
		return
	}
}

// addsToFry reports whether a clause adds only what the next one fries in the hot fat: "add the cashews and fry till golden".
func (c *cookery) addsToFry(one, next *clause) bool {
	if one.do != doAdd || next.do != doFry && next.do != doRoast || len(c.unused(next)) > 0 {
		return false
	}
	list := c.unused(one)
	if len(list) == 0 || slices.ContainsFunc(list, func(m mention) bool { return !c.fries(m) }) {
		return false
	}
	last := len(c.steps) - 1
	return c.fat != nil || last >= 0 && c.steps[last].Do == plan.Fry || c.takesBackFat()
}

// addsToRoast reports whether a clause adds only grain that the next one roasts with what is being roasted: "add the rice and
// roast one more minute".
func (c *cookery) addsToRoast(one, next *clause) bool {
	if one.do != doAdd || next.do != doRoast || len(c.unused(next)) > 0 || len(c.held()) > 0 || c.fat != nil {
		return false
	}
	list := c.unused(one)
	roasting := slices.ContainsFunc(c.preparations, func(all []preparing) bool {
		return slices.ContainsFunc(all, func(p preparing) bool {
			return p.name == "roast" && (p.sentence == c.now || p.sentence >= 0 && p.sentence == c.now-1)
		})
	})
	return roasting && len(list) > 0 && !slices.ContainsFunc(list, func(m mention) bool { return !c.behaves(m, pantry.Grain) })
}

// takesBackFat takes fat out of a pot that holds nothing else: what is fried in it comes out again.
func (c *cookery) takesBackFat() bool {
	last := len(c.steps) - 1
	if last < 0 || c.steps[last].Do != plan.Add || len(c.held()) != 1 || !c.behaves(mention{item: c.held()[0]}, pantry.Fat) {
		return false
	}
	fat := c.held()[0]
	share := c.used[fat]
	c.passed[c.madeBy(last)] = true
	c.steps, c.used[fat], c.holders[c.at].items = c.steps[:last], 0, nil
	c.fat = &mention{item: fat, share: share, holder: -1}
	return true
}

// onlyLets reports whether a clause says nothing but that something is let be: the next one says what.
func (l *clause) onlyLets() bool {
	rest := l.asked().words
	return slices.Contains([]string{"let", "allow", "leave", "stir", "mix"}, l.verb) && !slices.ContainsFunc(rest, func(w *token) bool {
		return !filler[w.text] && w.text != ","
	})
}

// letsBe reports whether a clause is "let it", "let the rice": what it is let do comes next.
func (c *cookery) letsBe(l *clause) bool {
	if l.verb != "let" && l.verb != "allow" {
		return false
	}
	return !slices.ContainsFunc(l.asked().words, func(w *token) bool {
		switch w.text {
		case "it", "them", "this", "all", "everything", "the", "pot", "pan", "mixture", "pudding":
			return false
		}
		return !c.endsName(w.one)
	})
}

// asked is a clause from its word of doing on, without what stands before that.
func (l *clause) asked() *clause { return &clause{words: l.words[min(l.lead, len(l.words)):]} }

// readAll counts all words of a clause as read.
func (l *clause) readAll() {
	for _, w := range l.words {
		w.read = true
	}
}

// said is what a clause says, from its word of doing on.
func (l *clause) said() string {
	const most = 6
	words := []string{l.verb}
	for _, w := range l.asked().words {
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
	return l.getsReady() && !slices.ContainsFunc(l.asked().words, func(w *token) bool {
		return w.text != "and" && w.text != "then" && w.text != "," && !strings.HasSuffix(w.text, "ly")
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
func (c *cookery) lasted(text string) (read, passed bool) {
	found := takesSaid.FindStringSubmatch(text)
	last := len(c.steps) - 1
	if found == nil || last < 0 {
		return false, false
	}
	l := clause{words: methodWords(found[1])}
	minutes := l.minutes()
	asks := slices.ContainsFunc(l.words, func(w *token) bool { // "allow to cool"
		return doing[w.text] != "" && doing[w.text] != doCook && w.text != "quarter"
	})
	if minutes == 0 || asks || len(unread(l.words)) > 0 {
		return false, false
	}
	if c.steps[last].Do == plan.Add && !c.steps[last].Topping && len(c.held()) > 0 { // "add the milk little by little. This takes 40 minutes"
		c.heat(&l, vessel.Simmer, plan.Until{Minutes: &minutes})
		return true, false
	}
	if c.steps[last].Do == plan.Bake && c.assumed == last {
		c.steps[last].Minutes = &minutes
		c.answer()
		return true, true
	}
	if c.steps[last].Do != plan.Heat || c.steps[last].Until == nil {
		return false, false
	}
	if c.assumed == last {
		c.steps[last].Until = &plan.Until{Minutes: &minutes}
		c.answer()
	} else if c.steps[last].Until.Minutes == nil {
		c.saidMinutes(minutes)
	} else if at := c.madeBy(last); at >= 0 && len(saidTimes(c.text[at])) == 0 { // what is usual was taken
		c.steps[last].Until = &plan.Until{Minutes: &minutes}
	}
	return true, true
}

// partWay parts the minutes that were said of the whole where something goes in before they are over: "simmer for 20 minutes. Add
// the raisins after 10 minutes".
func (c *cookery) partWay(text string, begin int) {
	found := soLongAfter.FindString(text)
	if found == "" || begin == 0 || begin == len(c.steps) || c.assumed == begin-1 {
		return
	}
	minutes := (&clause{words: methodWords(found)}).minutes()
	whole := &c.steps[begin-1]
	if whole.Do != plan.Heat || whole.Until == nil || whole.Until.Minutes == nil || minutes == 0 || *whole.Until.Minutes <= minutes ||
		slices.ContainsFunc(c.steps[begin:], func(s plan.Step) bool { return s.Do != plan.Add || s.Topping || s.Pot != whole.Pot }) {
		return
	}
	left := *whole.Until.Minutes - minutes
	rest := *whole
	rest.Note, rest.Until = "", &plan.Until{Minutes: &left}
	whole.Until = &plan.Until{Minutes: &minutes}
	c.emit(rest)
}

// soLongAfter is said of what goes in part of the way.
var soLongAfter = regexp.MustCompile(`(?i)\bafter (?:about |the first )?[a-z0-9 -]{1,20} (?:min(?:ute)?|hour)s?$|` +
	`^after (?:about |the first )?[a-z0-9 -]{1,20} (?:min(?:ute)?|hour)s?\b`)

// forTheLast takes the minutes that something is in the pot at the end from what was said of the whole: "add the
// almonds for the last two minutes".
func (c *cookery) forTheLast(text string, begin int) {
	if !lastMinutes.MatchString(text) || len(c.steps) < max(begin, 1)+2 {
		return
	}
	before := len(c.steps) - 2 // in the same sentence, or in the one before
	for before > 0 && c.steps[before].Do == plan.Add {
		before--
	}
	whole, end := &c.steps[before], &c.steps[len(c.steps)-1]
	timed := func(s *plan.Step) bool { return s.Do == plan.Heat && s.Until != nil && s.Until.Minutes != nil }
	switch {
	case timed(whole) && timed(end) && whole.Pot == end.Pot && *end.Until.Minutes < *whole.Until.Minutes:
		left := *whole.Until.Minutes - *end.Until.Minutes
		whole.Until = &plan.Until{Minutes: &left}
	case whole.Do == plan.Bake && timed(end) && whole.Pot == end.Pot && *end.Until.Minutes < *whole.Minutes:
		minutes, note := *end.Until.Minutes, end.Note
		*end = *whole
		end.Note, end.Minutes = note, &minutes
		left := *whole.Minutes - minutes
		whole.Minutes = &left
	case whole.Do == plan.Bake && end.Do == plan.Bake && whole.Pot == end.Pot && *end.Minutes < *whole.Minutes:
		left := *whole.Minutes - *end.Minutes
		whole.Minutes = &left
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
	`(?:dish|pan|pot|saucepan|cooker|mould|bowl|tin|casserole|diameter)\b`)

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
		if c.said[i] && !c.onlyWashed(i) {
			c.doubt(NotPut, c.given[i].Text, "")
		}
	}
}

// onlyWashed reports whether a sentence names something only to wash it: "roast the dal, wash both dals".
func (c *cookery) onlyWashed(item int) bool {
	if !c.behaves(mention{item: item}, pantry.Grain) {
		return false // "wash the orange and peel off a strip of zest"
	}
	washed := 0
	for _, found := range onlyWash.FindAllString(c.text[c.now], -1) {
		washed += c.timesNamed(found, item)
	}
	return washed > 0 && washed == c.timesNamed(c.text[c.now], item)
}

// timesNamed is how often a text names something.
func (c *cookery) timesNamed(text string, item int) (n int) {
	for _, group := range c.namedIn(text) {
		n += boolInt(slices.Contains(group, item))
	}
	return n
}

// onlyWash is said of what is washed, up to what comes then.
var onlyWash = regexp.MustCompile(`(?i)\b(?:wash|rinse|clean|pick over) [^,.;]*`)

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
	if end := c.partAhead(tokens); end > 0 {
		c.enter(phraseOf(tokens[:end]))
		for _, t := range tokens[:end] {
			t.read = true
		}
		return tokens[end:]
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

// partAhead is how many words name a part of the recipe without a comma behind them: "for the sauce stone the apricots"; 0 for none.
func (c *cookery) partAhead(tokens []*token) int {
	const most = 5
	if len(tokens) < most || tokens[0].text != "for" || tokens[1].text != "the" {
		return 0
	}
	for k := 3; k < most; k++ {
		if doing[tokens[k].text] == "" || !opens(tokens, k) && !partNames[tokens[k-1].one] {
			continue
		}
		known := slices.ContainsFunc(c.given, func(g Given) bool {
			return g.Section != "" && sameSection(g.Section, phraseOf(tokens[:k]))
		})
		if known || partNames[tokens[k-1].one] {
			return k
		}
	}
	return 0
}

// partNames are what parts of a recipe are called.
var partNames = wordSet(`sauce syrup topping compote caramel custard porridge pudding kheer payasam tempering garnish filling crumble ` +
	`fruit`)

// countPrepared counts what is done to things beforehand, and added to what is done.
func (c *cookery) countPrepared() (n int) {
	n = c.joined
	for _, list := range c.preparations {
		n += len(list)
	}
	return n
}
