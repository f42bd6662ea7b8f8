package recipe

import (
	"maps"
	"regexp"
	"slices"
	"strconv"
	"strings"

	"kirdu/core/measure"
	"kirdu/core/pantry"
	"kirdu/core/plan"
	"kirdu/core/vessel"
)

// What is usual where a method does not say. Source: our own judgement.
const (
	simmerUsual   measure.Minute = 10
	soakUsual     measure.Minute = 30
	overnight     measure.Minute = 480
	roastUsual    measure.Minute = 4
	fryUsual      measure.Minute = 3
	chillUsual                   = 3.0 // hours
	bakeUsual     measure.Minute = 40
	thickUsual                   = 3.6 // grade of what is "thick" or "creamy" in the pot
	fewMinutes    measure.Minute = 2
	mashUsual                    = 40.0 // per cent
	cookerMinutes measure.Minute = 10
)

// clause does one thing. fine reports whether it is right that nothing came of it.
func (c *cookery) clause(l *clause) (fine bool) {
	c.settle(l)
	switch l.do {
	case doAdd:
		return c.add(l)
	case doTop, doPass:
		return c.top(l)
	case doBoil:
		if !c.meltsOn(l) {
			c.boil(l)
		}
	case doCook:
		return c.meltsOn(l) || c.cook(l)
	case doSoak, doRoast, doGrind, doGrate, doCut, doPeel, doSteam:
		return c.beforehand(l)
	case doPress:
		return c.press(l)
	case doFry:
		c.fry(l)
	case doMelt:
		return c.melt(l)
	case doCaramel:
		c.caramel(l)
	case doMash:
		return c.mash(l)
	case doDrain:
		return c.drain(l)
	case doCooker:
		c.pressure(l)
	case doRest, doCool, doChill:
		return c.standing(l)
	case doBake:
		c.bake(l)
	case doMove:
		return c.move(l)
	case doOff, doTurn:
		return c.turn(l)
	}
	return false
}

// settle reads what all clauses may say, and what a word of doing means beside others.
func (c *cookery) settle(l *clause) {
	if l.has("another pan", "another pot", "another saucepan", "separate pan", "separate pot", "separate saucepan", "second pan", "second pot",
		"different pan", "other pan", "other pot", "side pan", "smaller pan", "own pot", "own pan") && len(c.held()) > 0 && c.next == nil {
		c.next = []string{}
	}
	if on := l.lid(); on != nil {
		c.lid = on
	}
	l.has("whisking", "dry")
	whistles := whistleSaid.MatchString(l.text()) && !l.has("let the pressure", "pressure release", "pressure to")
	switch {
	case l.do != doRest && l.do != doPass && l.do != doOff && l.do != doTurn && whistles:
		l.do = doCooker
	case l.has("off the heat", "from the heat", "off the flame", "from the flame", "off heat", "off the stove", "from heat",
		"from the stove", "off the fire",
		"the heat off", "the flame off", "off the gas", "flame off") && (l.verb == "take" || l.verb == "remove" || l.verb == "turn" ||
		l.verb == "switch" || l.verb == "put"):
		l.do = doOff
	case l.verb == "turn" && l.has("off"), l.verb == "switch" && l.has("off"):
		l.do = doOff
	case l.verb == "turn" && l.flame() == "" && l.find("heat") < 0 && l.find("flame") < 0 && len(c.unused(l)) > 0:
		l.do = doAdd // "turn the barley in the butter"
	case (l.verb == "take" || l.verb == "lift") && l.has("out") && c.pan && len(c.unused(l)) == 0:
		l.do = doPass
		c.putAside(l)
	case l.verb == "soften" && l.find("water") < 0 && l.find("milk") < 0:
		l.do = doFry // "soften the carrot in the ghee"
	case l.verb == "steep" && len(c.unused(l)) > 0:
		l.do = doSoak
	case (l.verb == "take" || l.verb == "remove" || l.verb == "scoop" || l.verb == "scrape") && l.has("the seeds", "the stones", "the stone",
		"the core", "the cores", "the pith", "the strings", "the pips"):
		l.has("out")
		l.do = doPass
	case l.verb == "reduce" && l.has("to a simmer", "to simmer", "to a gentle simmer") && l.minutes() == 0:
		l.do = doTurn
	case (l.verb == "keep" || l.verb == "continue") && (l.find("cooking") >= 0 || l.find("until") >= 0 || l.find("till") >= 0):
		l.do = doCook
	case (l.verb == "reduce" || l.verb == "lower" || l.verb == "turn" || l.verb == "keep" || l.verb == "raise" || l.verb == "increase") &&
		l.find("oven") < 0 && l.find("whistle") < 0 && l.minutes() == 0 && l.remaining() == 0 && (l.has("heat", "flame", "fire", "gas") ||
		l.find("to low") >= 0 || l.find("to medium") >= 0):
		l.do = doTurn
	case (l.verb == "put" || l.verb == "set" || l.verb == "place") && l.has("on to boil", "to boil", "on to heat", "on to warm"):
		l.do = doBoil
	case l.do == doGrate && len(c.held()) > 0 && (l.find("over") >= 0 || l.find("in") >= 0 || l.find("into") >= 0 ||
		l.find("on top") >= 0), l.do == doCut && len(c.held()) > 0 && l.lead < len(l.words) && (l.words[l.lead].text == "in" ||
		l.words[l.lead].text == "into"): // "slice in the bananas"
		l.do = doAdd
	case l.verb == "keep" && l.minutes() > 0 && (l.find("flame") >= 0 || l.find("heat") >= 0 || l.find("fire") >= 0 || l.find("boil") >= 0):
		l.do = doCook
	case l.verb == "keep" && l.find("stirring") < 0 && l.find("boiling") < 0 && l.find("simmering") < 0 && l.find("cooking") < 0 &&
		l.minutes() > 0:
		l.do = doRest
	case l.verb == "keep" && l.has("aside", "warm", "ready", "hot", "separately"), (l.verb == "set" || l.verb == "put" ||
		l.verb == "place") && l.has("aside"):
		l.do = doPass
		c.putAside(l)
	case (l.verb == "put" || l.verb == "place") && l.has("fridge", "refrigerator"), l.verb == "leave" && l.has("fridge", "refrigerator"),
		l.verb == "keep" && l.has("fridge", "refrigerator"), l.verb == "set" && l.has("fridge", "refrigerator"), l.verb == "let" &&
			l.has("fridge"):
		l.do = doChill
	case l.verb == "simmer" && l.lead < len(l.words) && l.has("the flame", "the heat", "the stove") && l.minutes() == 0:
		l.do = doTurn
	case l.do == doTop && l.has("of the dish", "in the dish", "of a dish", "in a dish", "of the tin", "of a baking dish",
		"in a baking dish", "over the base") &&
		len(c.unused(l)) > 0:
		l.do = doAdd
		if c.next == nil && c.at >= 0 && !strings.HasPrefix(c.holders[c.at].name, "dish") {
			c.next = []string{"dish"}
		}
	case l.do == doTop && l.lead < len(l.words) && (l.words[l.lead].text == "in" || l.words[l.lead].text == "into") && len(c.held()) > 0:
		l.do = doAdd
	case (l.verb == "put" || l.verb == "place") && l.has("oven"):
		l.do = doBake
	case (l.verb == "put" || l.verb == "place" || l.verb == "close") && l.has("the lid"):
		c.lid, l.do = new(true), doPass
	case (l.verb == "let" || l.verb == "allow" || l.verb == "leave") && l.has("cool", "to cool"):
		l.do = doCool
	case (l.verb == "let" || l.verb == "allow") && l.has("stand", "rest", "sit", "swell", "infuse"):
		l.do = doRest
	case (l.verb == "let" || l.verb == "allow" || l.verb == "leave") && l.has("soak", "to soak", "in water", "in cold water",
		"in fresh water", "in clean water",
		"in plenty of water", "under water"):
		l.do = doSoak
	case (l.do == doAdd || l.verb == "divide") && l.container() != "":
		l.do = doMove
	case l.do == doAdd && l.has("to the boil", "to a boil"):
		l.do = doBoil
	case l.do == doGrind && l.verb == "pulse" && len(c.held()) > 0:
		l.do = doMash
	case l.verb == "blend" && (len(c.held()) > 0 && len(c.unused(l)) == 0):
		l.do = doMash
	}
	if l.has("slow cooker") {
		c.oven = plan.SlowCooker
	}
	if l.do == doCook && (l.boils() || l.has("to the boil", "to a boil", "to boil", "come to boil", "boil up") ||
		l.verb == "boil" && l.minutes() == 0 && !l.targets()) {
		l.do = doBoil
	}
}

// putAside leaves what is in the pot where it is: what comes goes into another.
func (c *cookery) putAside(l *clause) {
	list := c.mentioned(l)
	if len(c.held()) == 0 || len(c.steps) == 0 || c.steps[len(c.steps)-1].Do.IsPreparation() ||
		slices.ContainsFunc(list, func(m mention) bool { return m.holder >= 0 || m.share > 0 }) {
		return
	}
	c.next = []string{}
}

// container returns the bowls or the dish that a clause tips things into: "into six small bowls".
func (l *clause) container() string {
	for k, w := range l.words {
		if w.text != "into" && w.text != "between" && w.text != "among" {
			continue
		}
	within:
		for _, t := range l.words[k+1 : min(k+5, len(l.words))] {
			switch t.text {
			case "bowls", "glasses", "cups", "ramekins", "moulds", "dishes", "pots", "dish", "tray", "tin", "mould", "casserole", "platter":
				return t.text
			case "serving":
				t.read = true
			case ",", "and", "of":
				break within
			}
		}
	}
	return ""
}

// unused is what a clause names that is in no pot yet.
func (c *cookery) unused(l *clause) (list []mention) {
	said := maps.Clone(c.said)
	defer func() { c.said = said }()
	marks := make([]bool, len(l.words))
	for k, w := range l.words {
		marks[k] = w.read
	}
	doubts := len(c.doubts[c.now])
	given := len(c.given)
	for _, m := range c.mentioned(l) {
		if m.item >= 0 && m.item < given && m.share > 0 {
			list = append(list, m)
		}
	}
	c.given, c.used, c.names, c.preparations = c.given[:given], c.used[:given], c.names[:given], c.preparations[:given]
	if doubts < len(c.doubts[c.now]) {
		c.doubts[c.now] = c.doubts[c.now][:doubts]
	}
	for k, w := range l.words {
		w.read = marks[k]
	}
	return list
}

// targets reports whether a clause says until when.
func (l *clause) targets() bool {
	return l.has(softWords...) || l.has(thickWords...) || l.has("reduced", "half") || l.remaining() > 0
}

var (
	softWords = []string{"soft", "tender", "cooked", "done", "mushy", "translucent", "cooked through", "transparent", "mash", "mashes",
		"falling apart", "melting", "softened", "al dente", "softens", "clear"}
	thickWords = []string{"thick", "thickens", "thickened", "creamy", "thicker", "coats", "coat", "thicken"}
)

// when settles what a sentence waits for before it goes on: "When the rice is soft", "After 10 minutes".
func (c *cookery) when(l *clause) {
	for _, w := range l.words {
		defer func() { w.read = true }()
	}
	minutes := l.minutes()
	if len(c.held()) == 0 || c.at < 0 {
		if l.has("boils", "boiling", "boil") && c.at < 0 {
			l.do, l.verb = doBoil, "bring"
			c.boil(l)
		}
		return
	}
	last := len(c.steps) - 1
	heats := last >= 0 && c.steps[last].Do == plan.Heat
	open := heats && c.assumed == last
	var until *plan.Until
	grain, slowest := c.grainInPot()
	remaining := l.remaining()
	switch {
	case remaining > 0:
		until = &plan.Until{RemainingPct: &remaining}
	case l.has(softWords...) && slowest != nil:
		until = &plan.Until{Doneness: &plan.DonenessTarget{Of: grain, At: gentle(slowest.Kinetics)}}
	case l.has(thickWords...):
		grade := thickUsual
		until = &plan.Until{Thickness: &grade}
	case l.has("boils", "boiling", "boil", "bubbling", "bubbles", "simmering", "simmers"):
		until = &plan.Until{Boil: true}
	case l.has("cool", "cold", "cooled", "lukewarm"):
		if last >= 0 && c.steps[last].Do != plan.Cool && c.steps[last].Do != plan.Rest && c.steps[last].Do != plan.Chill {
			c.cool()
		}
		return
	case minutes > 0 && l.words[0].text == "after":
		until = &plan.Until{Minutes: &minutes}
	default:
		return
	}
	switch {
	case open:
		c.steps[last].Until = until
		c.answer()
	case heats && (until.Minutes == nil || c.steps[last].Until.Minutes != nil):
		// it is said already how that ends
	default:
		flame := vessel.Simmer
		if until.Boil {
			flame = vessel.High
		}
		c.heat(l, flame, *until)
	}
}

// answer takes back the guess that the last step was made with.
func (c *cookery) answer() {
	at, _ := unmarked(c.steps[c.assumed].Note)
	c.assumed = -1
	for k, d := range c.doubts[at] {
		if d.Of == HowLong {
			c.doubts[at] = slices.Delete(slices.Clone(c.doubts[at]), k, k+1)
			return
		}
	}
}

// onlyFat reports whether a clause heats fat alone: what is fried in it says the rest.
func (c *cookery) onlyFat(list []mention) bool {
	for _, m := range list {
		if m.holder >= 0 || !c.behaves(m, pantry.Fat) {
			return false
		}
	}
	return len(list) > 0
}

// goesInto finds the pot or the bowl that a clause puts things into: "to the rice", "over the eggs". subject
// is what goes in.
func (c *cookery) goesInto(l *clause, list []mention) (subject []mention, into int) {
	into = c.at
	towards := -1
	for k, w := range l.words {
		switch w.text {
		case "to", "into", "over", "onto", "on", "in", "through":
			beside := w.text != "in" && w.text != "on" || slices.ContainsFunc(list, func(m mention) bool { return m.at < k })
			if k+1 < len(l.words) && !strings.HasSuffix(l.words[k+1].text, "ing") && beside {
				towards = k
			}
		}
	}
	if towards < 0 {
		return list, into
	}
	found := false
	for _, m := range list {
		switch {
		case m.at < towards:
			subject = append(subject, m)
		case m.holder >= 0:
			into, found = m.holder, true
		case m.item >= 0 && m.share <= 0:
			found = true // what the pot holds
		default:
			subject = append(subject, m)
		}
	}
	if main := c.mainPot(); !found && main >= 0 && main != c.at && c.next == nil && l.has("to the pudding", "into the pudding",
		"over the pudding",
		"on the pudding", "to the main pot", "into the main pot", "to the pot", "to the main pan", "into the first pot", "into the first pan") {
		into = main
	}
	return subject, into
}

// asMeant is what "it" and "them" stand for where a clause names nothing.
func (c *cookery) asMeant(l *clause, list, before []mention) []mention {
	pronoun := slices.IndexFunc(l.words, func(w *token) bool {
		return w.text == "it" || w.text == "them" || w.text == "this" || w.text == "these"
	})
	if pronoun < 0 || slices.ContainsFunc(list, func(m mention) bool { return m.share > 0 && m.item >= 0 && m.at < pronoun }) {
		return list
	}
	var meant []mention
	for _, m := range before {
		switch h := c.holderOfMention(m); {
		case h >= 0:
			meant = append(meant, mention{item: m.item, share: 1, holder: h})
		case m.item >= 0 && c.used[m.item] < 1 && !c.behaves(m, pantry.Fat):
			meant = append(meant, mention{item: m.item, share: 1 - c.used[m.item], holder: -1})
		}
	}
	for k := range meant {
		meant[k].at = -1 // before all that is named
	}
	return append(meant, list...)
}

func (c *cookery) holderOfMention(m mention) int {
	if m.holder >= 0 && m.holder != c.at && c.holders[m.holder].left > 0 {
		return m.holder
	}
	if m.item >= 0 {
		return c.holderOf(m.item)
	}
	return -1
}

// hotFat notes the fat that what comes is fried in, and the pan it is in.
func (c *cookery) hotFat(l *clause, list []mention) {
	c.fat = &list[0]
	c.pan = len(c.held()) > 0 && l.newPan() >= 0
}

// newPan finds where a clause names a pan that was not there before: "in a frying pan". -1 for nowhere.
func (l *clause) newPan() int {
	for k, w := range l.words {
		switch w.one {
		case "pan", "saucepan", "pot", "skillet", "kadai", "wok", "bowl", "dish", "casserole", "vessel":
		default:
			continue
		}
		for j := k - 1; j >= max(k-4, 0); j-- {
			switch l.words[j].text {
			case "a", "an", "another", "separate", "second":
				return k
			case "the", "in", "same", ",":
				j = -1
			}
		}
	}
	return -1
}

// toasted is the grain that was just roasted in the pot into which a liquid comes: "toast the millet, add the milk".
func (c *cookery) toasted(before, named []mention) (list []mention) {
	if !slices.ContainsFunc(named, func(m mention) bool { return c.behaves(m, pantry.Liquid) }) {
		return nil
	}
	for _, m := range before {
		if m.item < 0 || !slices.ContainsFunc(c.preparations[m.item], func(p preparing) bool { return p.name == "roast" }) {
			continue
		}
		again := slices.ContainsFunc(named, func(one mention) bool { return one.item == m.item })
		if m.holder < 0 && !again && c.used[m.item] == 0 && c.behaves(m, pantry.Grain) {
			list = append(list, mention{item: m.item, share: 1, holder: -1})
		}
	}
	return list
}

// sweeteners are those of the list that are in no pot yet.
func (c *cookery) sweeteners() (list []mention) {
	for i := range c.given {
		if m := c.material(i); m != nil && m.Kind == "sweetener" && c.used[i] < 1 && c.given[i].Section == c.section && !c.given[i].inMethod {
			list = append(list, mention{item: i, share: 1 - c.used[i], holder: -1})
		}
	}
	return list
}

// add puts things into the pot.
func (c *cookery) add(l *clause) (fine bool) {
	before := c.last
	if l.has("on top", "for garnish", "as garnish", "as a garnish", "on the top") {
		return c.top(l)
	}
	named := c.mentions(l)
	if l.verb == "sweeten" && len(named) == 0 {
		named = c.sweeteners()
	}
	if len(c.held()) == 0 && (l.verb == "add" || l.verb == "pour") {
		named = append(named, c.toasted(before, named)...)
	}
	if other := c.otherPot(); other >= 0 && len(named) == 0 && l.has("both together", "the two together", "both", "the two", "two mixtures") {
		from := max(c.at, other)
		c.at = min(c.at, other)
		return c.put([]mention{{item: -1, share: 1, holder: from}}, plan.Step{})
	}
	if l.verb == "add" || l.verb == "mix" || l.verb == "sift" {
		c.optional(l, named)
	}
	list := c.asMeant(l, named, before)
	if c.bowl(l, list) || l.verb == "dissolve" && len(c.held()) > 0 && c.melts(l, list) {
		return true
	}
	list, into := c.goesInto(l, list)
	if len(list) == 0 && len(unread(l.words)) == 0 && (l.verb != "stir" && l.verb != "mix" || l.find("into") >= 0) { // "fold into the rice"
		list = c.asMeant(&clause{words: []*token{{text: "it"}}}, nil, before)
	}
	if into >= 0 && into != c.at && c.next == nil {
		if !c.holders[into].pot {
			return c.temper(l, list, into)
		}
		from := c.at
		c.at = into
		if moved := c.inHolder(list, from); moved || len(list) == 0 {
			list = slices.DeleteFunc(list, func(m mention) bool { return m.item >= 0 && m.share <= 0 && m.holder < 0 })
			list = append(list, mention{item: -1, share: 1, holder: from})
		}
	} else if other := c.otherPot(); other >= 0 && c.next == nil && len(list) > 0 && c.inHolder(list, c.at) && !c.anyNew(list) {
		from := c.at // "gradually add the milk": all that is named is in the second pan
		if from > other {
			c.at = other
			share := 1.0
			for k, w := range l.words {
				if c.isName(w.one) {
					share = c.partShare(l, k)
				}
			}
			list = []mention{{item: -1, share: share, holder: from}}
			if share < 1 {
				defer func() { c.last = []mention{{item: -1, share: 1, holder: from}} }()
			}
		}
	}
	if c.toFry(list) {
		return true
	}
	if c.fat != nil && c.pan && c.next == nil && c.anyNew(list) { // "melt the butter in a frying pan, add the apples"
		c.next = []string{}
	}
	step := plan.Step{Slowly: l.has("slowly", "gradually", "little by little", "thin stream", "bit by bit", "a little at a time",
		"steady stream", "in batches")}
	if l.find("whisking") >= 0 || l.verb == "whisk" && len(list) > 0 {
		step.Manner = append(step.Manner, plan.Whisking)
	}
	if c.offHeat && len(c.held()) > 0 {
		step.Note = "off the heat"
	}
	put := c.put(list, step)
	if put && l.verb == "dissolve" {
		minutes := fewMinutes
		c.emit(plan.Step{Do: plan.Heat, Flame: vessel.Simmer, Stir: plan.StirOften, Until: &plan.Until{Minutes: &minutes}})
		return true
	}
	if stir := l.stirring(); !put && stir != "" && l.verb == "stir" {
		if last := len(c.steps) - 1; last >= 0 && c.steps[last].Do == plan.Heat {
			c.steps[last].Stir = stir
			fine = true
		}
	}
	if minutes := l.minutes(); minutes > 0 && minutes < 180 && len(c.held()) > 0 {
		c.heat(l, vessel.Simmer, plan.Until{Minutes: &minutes}) // "add the milk and cook 10 minutes" in one clause
		return true
	}
	if !put && len(c.held()) > 0 && l.verb != "add" && (l.find("until") >= 0 || l.find("till") >= 0) && l.targets() {
		return c.cook(l)
	}
	if put {
		l.sign()
		return true
	}
	return fine || l.verb == "stir" || l.verb == "mix" || l.verb == "whisk" || l.verb == "beat" ||
		len(list) > 0 && !c.anyNew(list) || l.verb == "return"
}

// toFry adds to what is being fried in the same sentence: "fry the cashews, add the raisins".
func (c *cookery) toFry(list []mention) bool {
	last := len(c.steps) - 1
	if last < 0 || c.steps[last].Do != plan.Fry || len(list) == 0 {
		return false
	}
	if at, _ := unmarked(c.steps[last].Note); at != c.now {
		return false
	}
	for _, m := range list {
		if m.holder >= 0 || m.share <= 0 || !c.behaves(m, pantry.Piece) {
			return false
		}
	}
	for h := range c.holders {
		if c.holders[h].name != c.steps[last].Name {
			continue
		}
		for _, m := range list {
			if item, ok := c.take(m); ok {
				item.Minutes = c.fried(m, 2, 0)
				c.steps[last].Items = append(c.steps[last].Items, item)
				c.holders[h].items = append(c.holders[h].items, m.item)
			}
		}
		c.last = []mention{{item: -1, share: 1, holder: h}}
	}
	return true
}

// optional marks what may be left out.
func (c *cookery) optional(l *clause, list []mention) {
	if !l.has("if using", "if you like", "if desired", "if liked", "if you wish", "if wished", "if you want") {
		return
	}
	for _, m := range list {
		if m.item >= 0 {
			c.given[m.item].Item.Optional = true
		}
	}
}

// beginsWith reports whether the words after the verb begin so.
func (l *clause) beginsWith(phrase string) bool {
	for k, want := range strings.Fields(phrase) {
		if l.lead+k >= len(l.words) || l.words[l.lead+k].text != want {
			return false
		}
	}
	return true
}

func (c *cookery) anyNew(list []mention) bool {
	return slices.ContainsFunc(list, func(m mention) bool {
		return m.item >= 0 && m.share > 0 && m.holder < 0 || m.holder >= 0 && m.holder != c.at
	})
}

// inHolder reports whether something of a list is in a holder.
func (c *cookery) inHolder(list []mention, h int) bool {
	return h >= 0 && slices.ContainsFunc(list, func(m mention) bool {
		return m.holder == h || m.item >= 0 && m.share <= 0 && slices.Contains(c.holders[h].items, m.item)
	})
}

// otherPot is a pot with something in it beside the one that is being cooked in; -1 for none.
func (c *cookery) otherPot() int {
	for h := range c.holders {
		if one := &c.holders[h]; h != c.at && one.pot && one.left > 0 && len(one.items) > 0 {
			return h
		}
	}
	return -1
}

// bowl stirs something together beside the pot: beaten egg, starch in cold milk, whisked yogurt. It reports
// whether it did.
func (c *cookery) bowl(l *clause, list []mention) bool {
	switch l.verb {
	case "whisk", "beat", "mix", "dissolve", "combine", "blend", "stir", "make":
	default:
		return false
	}
	if len(c.held()) > 0 && l.beginsWith("in the") && l.find("bowl") < 0 && l.find("jug") < 0 && l.find("cup") < 0 {
		return false // "beat in the butter": into the pot
	}
	var flour, egg, whisked, used bool
	var items []mention
	for _, m := range list {
		if m.item < 0 || m.share <= 0 {
			used = true
			continue
		}
		items = append(items, m)
		flour = flour || c.behaves(m, pantry.Flour)
		egg = egg || c.behaves(m, pantry.Egg)
		whisked = whisked || c.material(m.item) != nil && c.material(m.item).Has("cultured")
	}
	beside := l.has("in a bowl", "in a small bowl", "in another bowl", "in a separate bowl", "in a mixing bowl", "in a large bowl", "in a cup",
		"to a paste", "to a smooth paste", "into a paste", "into a smooth paste", "slurry", "into a slurry", "in a jug", "smooth paste")
	wet := slices.ContainsFunc(items, func(m mention) bool { return c.behaves(m, pantry.Liquid) || c.behaves(m, pantry.Egg) })
	beaten := egg && (l.verb == "beat" || l.verb == "whisk" || l.verb == "mix")
	cold := slices.ContainsFunc(items, func(m mention) bool { return c.behaves(m, pantry.Liquid) && m.share < 0.999 }) && len(c.held()) == 0 &&
		l.verb != "combine" && l.find("saucepan") < 0 && l.find("pan") < 0 && l.find("pot") < 0
	flour = flour || cold && slices.ContainsFunc(items, func(m mention) bool { return c.behaves(m, pantry.Grain) })
	stirred := flour && wet && (len(items) > 1) && (l.verb == "mix" || l.verb == "dissolve" || l.verb == "blend" || l.verb == "whisk" ||
		l.verb == "stir" ||
		l.verb == "combine") && (len(c.held()) == 0 || l.has("cold", "little", "some") || slices.ContainsFunc(items, func(m mention) bool {
		return c.behaves(m, pantry.Liquid) && (m.share < 1 || c.given[m.item].inMethod)
	}))
	if used && !beside || len(items) == 0 || !(beside || beaten && (len(c.held()) > 0 || c.at < 0) || stirred || whisked &&
		len(items) > 0 && l.verb == "whisk") {
		if !used && len(items) == 1 && flour && len(c.held()) == 0 && l.find("water") >= 0 { // in a little water, nobody says how much
			c.preparing(items[0].item, preparing{"stir in cold", fewMinutes, c.now})
			return true
		}
		return false
	}
	name := "mixture"
	switch {
	case egg:
		name = "eggs"
	case flour:
		name = "slurry"
	}
	step := plan.Step{Do: plan.Mix, Name: c.free(name)}
	h := holder{name: step.Name, left: 1, words: []string{"mixture", "paste", "slurry", "batter", "mix", name,
		singularWord(name) + " mixture"}}
	for _, m := range items {
		if item, ok := c.take(m); ok {
			step.Items = append(step.Items, item)
			h.items = append(h.items, m.item)
		}
	}
	for _, m := range list {
		if m.holder >= 0 && c.holders[m.holder].left > 0 && m.holder != c.at {
			step.Items = append(step.Items, c.pour(m.holder, max(m.share, boolShare(m.item >= 0))))
			h.items = append(h.items, c.holders[m.holder].items...)
		}
	}
	if minutes := l.minutes(); minutes > 0 {
		step.Minutes = &minutes
	}
	l.sign()
	c.emit(step)
	c.holders = append(c.holders, h)
	c.last = []mention{{item: -1, share: 1, holder: len(c.holders) - 1}}
	return true
}

// temper pours into a bowl: some of the hot milk into the egg, or all of it, which goes back to the flame.
func (c *cookery) temper(l *clause, list []mention, into int) bool {
	fromPot := len(list) == 0 || c.inHolder(list, c.at) && !c.anyNew(list)
	if !fromPot || c.at < 0 {
		step := plan.Step{Do: plan.Mix, Name: c.free("mixture"), Items: []plan.Item{c.pour(into, 1)}}
		h := holder{name: step.Name, left: 1, words: c.holders[into].words, items: slices.Clone(c.holders[into].items)}
		for _, m := range list {
			if item, ok := c.take(m); ok {
				step.Items = append(step.Items, item)
				h.items = append(h.items, m.item)
			}
		}
		if len(step.Items) < 2 {
			c.holders[into].left = 1
			return false
		}
		c.emit(step)
		c.holders = append(c.holders, h)
		return true
	}
	some := 1.0
	for k, w := range l.words {
		if c.isName(w.one) && some == 1 {
			some = c.partShare(l, k)
		}
	}
	if some >= 1 {
		return c.put([]mention{{item: -1, share: 1, holder: into}}, plan.Step{Slowly: true})
	}
	share := some
	step := plan.Step{Do: plan.Mix, Name: c.free("tempered"), Items: []plan.Item{c.pour(into, 1), {Pot: c.holders[c.at].name, Share: &share}}}
	c.emit(step)
	c.holders = append(c.holders, holder{name: step.Name, left: 1, words: append(slices.Clone(c.holders[into].words), "mixture"),
		items: slices.Clone(c.holders[into].items)})
	c.last = []mention{{item: -1, share: 1, holder: len(c.holders) - 1}}
	return true
}

// top lays things on top of what is in the bowl.
func (c *cookery) top(l *clause) (fine bool) {
	before := c.last
	fried := l.has("fried in", "roasted in", "toasted in", "browned in", "ghee fried", "fried")
	list := c.asMeant(l, c.mentions(l), before)
	if fried && slices.ContainsFunc(list, func(m mention) bool { return c.behaves(m, pantry.Piece) && m.share > 0 }) {
		known := len(c.holders)
		c.fryThese(l, list)
		if len(c.holders) > known {
			list = append(slices.DeleteFunc(list, func(m mention) bool { return c.behaves(m, pantry.Piece) || c.behaves(m, pantry.Fat) }), c.last...)
		}
	}
	list, _ = c.goesInto(l, list)
	if main := c.mainPot(); len(list) == 0 && l.do != doPass && main >= 0 && c.at != main && len(c.held()) > 0 {
		list = []mention{{item: -1, share: 1, holder: c.at}} // "spoon over the rice": what is in the second pan
	}
	if len(list) == 0 && l.do != doPass {
		list = c.asMeant(&clause{words: []*token{{text: "it"}}}, nil, before)
	}
	from := c.at
	if main := c.mainPot(); main >= 0 && main != c.at {
		c.at, c.next = main, nil
		if c.inHolder(list, from) {
			list = slices.DeleteFunc(list, func(m mention) bool { return m.item >= 0 && m.share <= 0 && m.holder < 0 })
			list = append(list, mention{item: -1, share: 1, holder: from})
		}
	}
	if l.do == doPass { // "serve with": nobody pours the milk in
		list = slices.DeleteFunc(list, func(m mention) bool {
			return m.item >= 0 && m.holder < 0 && !c.isTopping(m.item) && !c.behaves(m, pantry.Piece)
		})
	}
	if c.at < 0 {
		return l.do == doPass
	}
	return c.put(list, plan.Step{Topping: true}) || l.do == doPass
}

// heat puts a flame under the pot.
func (c *cookery) heat(l *clause, usual vessel.Flame, until plan.Until) {
	c.offHeat = false
	stir := l.stirring()
	if stir == "" {
		stir = plan.StirOften
	}
	flame := l.flame()
	if flame == "" {
		flame = c.flame
	}
	if flame == "" || l.verb == "simmer" && flame == vessel.Low { // "turn it down and simmer"
		flame = usual
	}
	c.flame = ""
	step := plan.Step{Do: plan.Heat, Flame: flame, Stir: stir, Until: &until, Sign: l.sign(), Lid: c.lid}
	c.lid = nil
	c.emit(step)
}

func (c *cookery) boil(l *clause) {
	list := c.fresh(l)
	c.aside(l, list)
	list = c.asOther(list)
	if !c.put(list, plan.Step{}) && len(c.held()) == 0 {
		c.liquids()
	}
	if len(c.held()) == 0 {
		return
	}
	turned := c.flame
	c.heat(l, vessel.High, plan.Until{Boil: true})
	last := &c.steps[len(c.steps)-1]
	if last.Flame == vessel.Simmer || last.Flame == vessel.Boil { // "bring to a simmer"
		last.Flame = vessel.MediumHigh
	}
	if turned != "" && last.Flame == turned {
		last.Flame = vessel.High
		c.flame = turned
	}
	if minutes := l.minutes(); minutes > 0 && l.verb != "bring" {
		c.heat(l, vessel.Boil, plan.Until{Minutes: &minutes})
	} else if minutes > 0 && l.has("for") {
		c.heat(l, vessel.Simmer, plan.Until{Minutes: &minutes})
	}
}

// asOther goes to another pot if all that is named is in that.
func (c *cookery) asOther(list []mention) []mention {
	if c.next != nil || len(list) == 0 {
		return list
	}
	for _, m := range list {
		if m.holder < 0 || !c.holders[m.holder].pot {
			return list
		}
	}
	c.at = list[0].holder
	return nil
}

// fromBowl puts in what was stirred together last, if the pot is empty.
func (c *cookery) fromBowl() {
	if h := len(c.holders) - 1; len(c.held()) == 0 && h >= 0 && !c.holders[h].pot && c.holders[h].left > 0 &&
		len(c.steps) > 0 && c.steps[len(c.steps)-1].Do == plan.Mix {
		c.put([]mention{{item: -1, share: 1, holder: h}}, plan.Step{})
	}
}

// pours reports whether a material is what things are cooked in: honey and rose water are liquid too.
func pours(m *pantry.Material) bool {
	return m.Behaviour == pantry.Liquid && m.Kind != "flavour" && m.Kind != "sweetener"
}

// liquids puts in what the method takes for granted.
func (c *cookery) liquids() {
	var list []mention
	plain := slices.ContainsFunc(c.given, func(g Given) bool {
		return g.Item.Material == "water" || strings.HasPrefix(g.Item.Material, "milk-")
	})
	for i := range c.given {
		m := c.material(i)
		if m != nil && c.used[i] == 0 && !(plain && strings.HasPrefix(m.Slug, "coconut-milk")) && (c.section == "" ||
			c.given[i].Section == c.section) &&
			(pours(m) || m.Kind == "dairy") &&
			m.Slug != "coconut-milk-thick" && m.Slug != "coconut-cream" && m.Slug != "condensed-milk" && !m.Has("cultured") {
			list = append(list, mention{item: i, share: 1, holder: -1})
			c.doubt(TakenFor, c.given[i].Text, "")
		}
	}
	c.put(list, plan.Step{})
}

// aside opens a second pot for what is warmed while the first is at work.
func (c *cookery) aside(l *clause, list []mention) {
	if len(c.held()) == 0 || c.next != nil || !c.anyNew(list) {
		return
	}
	meanwhile := l.has("meanwhile", "separately", "in the meantime", "at the same time", "on the side", "alongside")
	indefinite := l.has("in a pan", "in a saucepan", "in a small pan", "in a small saucepan", "in a pot", "in a medium saucepan",
		"in a small pot",
		"in a large pan", "in a large pot", "in a large saucepan", "in a heavy pan", "in a heavy pot", "in a wide pan", "in a heavy bottomed pan")
	known := slices.ContainsFunc(list, func(m mention) bool { return m.item >= 0 && m.share <= 0 && m.holder < 0 })
	switch l.verb {
	case "boil", "bring", "heat", "reduce", "warm", "scald": // "cook the rice ... boil the milk": in another pot
		indefinite = indefinite || slices.ContainsFunc(list, func(m mention) bool {
			return m.share > 0 && m.holder < 0 && m.at >= l.lead && c.behaves(m, pantry.Liquid)
		}) && slices.ContainsFunc(c.steps, func(s plan.Step) bool {
			return s.Pot == c.holders[c.at].name && (s.Do == plan.Heat || s.Do == plan.Pressure)
		})
	}
	if (meanwhile || indefinite) && !known {
		c.next = []string{}
	}
}

func (c *cookery) cook(l *clause) (fine bool) {
	if (l.verb == "warm" || l.verb == "heat") && l.has("a spoonful of", "a spoon of", "a splash of", "a little of", "a few spoons of") {
		l.has("milk", "water", "cream") // for what is steeped in it: the rest of it goes into the pot
		return true
	}
	list := c.fresh(l)
	if len(list) == 0 && l.has("oven", "the oven", "grill") {
		return true // it is heated before
	}
	if c.onlyFat(list) && l.minutes() == 0 {
		c.hotFat(l, list)
		return true
	}
	c.aside(l, list)
	list = c.asOther(list)
	if l.do == doCook && c.melts(l, list) {
		return true
	}
	c.put(list, plan.Step{})
	c.fromBowl()
	if len(c.held()) == 0 {
		c.liquids()
	}
	if len(c.held()) == 0 {
		return false
	}
	minutes := l.minutes()
	if minutes == 0 {
		minutes = l.bareMinutes()
	}
	if c.oven == plan.SlowCooker && minutes > 0 {
		c.bakeFor(l, minutes)
		return true
	}
	remaining := l.remaining()
	grain, slowest := c.grainInPot()
	usual := vessel.Simmer
	if l.verb == "boil" {
		usual = vessel.Boil
	}
	celsius := l.celsius()
	switch {
	case celsius > 0 && celsius < 105:
		c.heat(l, vessel.Medium, plan.Until{TempC: &celsius})
	case remaining > 0:
		c.heat(l, vessel.Medium, plan.Until{RemainingPct: &remaining})
	case slowest != nil && l.has(softWords...):
		l.has(thickWords...)
		c.heat(l, usual, plan.Until{Doneness: &plan.DonenessTarget{Of: grain, At: gentle(slowest.Kinetics)}})
		if minutes > 0 {
			last := &c.steps[len(c.steps)-1]
			at, note := unmarked(last.Note)
			last.Note = marked(at, strings.TrimSpace(note+" The recipe says "+strconv.FormatFloat(float64(minutes), 'f', -1, 64)+" minutes."))
		}
	case minutes > 0 && l.has("then") && l.has("more", "longer", "further") && l.has(thickWords...):
		grade := thickUsual // "until it thickens, then two minutes more"
		c.heat(l, usual, plan.Until{Thickness: &grade})
		c.heat(l, usual, plan.Until{Minutes: &minutes})
	case minutes > 0:
		c.heat(l, usual, plan.Until{Minutes: &minutes})
	case l.has(thickWords...) || l.verb == "thicken":
		grade := thickUsual
		c.heat(l, usual, plan.Until{Thickness: &grade})
	case l.has("dissolved", "dissolves", "melted", "melts", "dissolve", "melt"):
		few := fewMinutes
		c.heat(l, usual, plan.Until{Minutes: &few})
	case l.has("almost boiling", "nearly boiling", "almost boils", "nearly boils"):
		celsius := measure.Celsius(93)
		c.heat(l, vessel.Medium, plan.Until{TempC: &celsius})
	case l.has("steaming", "steams", "hot") || l.verb == "scald":
		celsius := measure.Celsius(80)
		c.heat(l, vessel.Medium, plan.Until{TempC: &celsius})
	case l.verb == "warm" || l.verb == "heat":
		celsius := measure.Celsius(60)
		if l.verb == "heat" {
			celsius = 80
		}
		c.heat(l, vessel.Medium, plan.Until{TempC: &celsius})
	case (l.verb == "keep" || l.verb == "continue" || l.verb == "let" || l.verb == "allow") && l.find("until") < 0 && l.find("till") < 0:
		return len(c.steps) > 0 && c.steps[len(c.steps)-1].Do == plan.Pressure && l.has("pressure", "steam")
	default:
		usualMinutes := c.guess(simmerUsual)
		c.heat(l, usual, plan.Until{Minutes: &usualMinutes})
		c.assumed = len(c.steps) - 1
	}
	return true
}

// remaining reads "reduced by half", "to two thirds", "by a quarter": what is left, in per cent.
func (l *clause) remaining() float64 {
	if !(l.verb == "reduce" || l.find("reduced") >= 0 || l.find("reduces") >= 0 || l.find("reduce") >= 0 || l.find("down") >= 0 ||
		l.find("evaporated") >= 0) {
		return 0
	}
	if found := l.match(percentSaid); found != nil {
		if left, err := strconv.ParseFloat(found[1], 64); err == nil && leftOfIt.Holds(left) {
			return left
		}
	}
	if found := l.match(fractionSaid); found != nil {
		if part := mixedNumber(found[1]); part > 0.05 && part < 1 {
			if l.find("by") >= 0 {
				part = 1 - part
			}
			return 100 * part
		}
	}
	if !l.has("half", "third", "thirds", "quarter", "quarters") {
		return 0
	}
	by := l.has("by half", "by a third", "by one third", "by a quarter", "by two thirds", "by one quarter", "by about half",
		"by about a third") ||
		l.find("evaporated") >= 0
	left := 50.0
	switch {
	case l.has("two thirds", "2/3"):
		left = 67
	case l.has("three quarters"):
		left = 75
	case l.has("third"):
		left = 33
	case l.has("quarter"):
		left = 25
	}
	if by {
		left = 100 - left
	}
	l.has("reduced", "reduces", "reduce", "down")
	return left
}

// grainInPot returns the part that takes longest of what is in.
func (c *cookery) grainInPot() (part string, slowest *pantry.Material) {
	for _, i := range c.held() {
		m := c.material(i)
		if m == nil || m.Kinetics == nil || m.Behaviour != pantry.Grain && m.Behaviour != pantry.Tissue {
			continue
		}
		if slowest == nil || m.Kinetics.CookMinutes > slowest.Kinetics.CookMinutes {
			part, slowest = m.Slug, m
		}
	}
	return part, slowest
}

// beforehand is what is done with something before it goes in.
func (c *cookery) beforehand(l *clause) (fine bool) {
	if l.do == doGrind && l.has("again", "once more", "a second time", "a third time") && c.again(l) {
		return true
	}
	minutes := l.minutes()
	before := c.last
	list := c.mentions(l)
	if l.do == doGrate && len(list) == 1 && c.isCoconut(list[0]) && c.pressedLater() {
		return true // pressing begins with it
	}
	if len(list) == 0 {
		list = c.asMeant(&clause{words: append(slices.Clone(l.words), &token{text: "it"})}, nil, before)
	} else if l.do == doGrind && !slices.ContainsFunc(list, func(m mention) bool { return !c.behaves(m, pantry.Liquid) }) {
		list = append(list, slices.DeleteFunc(slices.Clone(before), func(m mention) bool { return !c.isCoconut(m) })...) // "with 1 cup water"
	}
	unused := slices.ContainsFunc(list, func(m mention) bool { return m.item >= 0 && m.share > 0 })
	if !unused && l.do == doRoast && len(c.held()) > 0 {
		if minutes == 0 {
			minutes = roastUsual
		}
		c.heat(l, vessel.Medium, plan.Until{Minutes: &minutes}) // in the pot that it is in already
		return true
	}
	if l.do == doGrind && slices.ContainsFunc(list, func(m mention) bool { return c.isCoconut(m) }) {
		c.pressing = c.waters(l) // it is ground to be pressed
		c.last = slices.DeleteFunc(slices.Clone(list), func(m mention) bool { return !c.isCoconut(m) })
		for i := range c.given {
			if c.given[i].inMethod && c.given[i].Item.Material == "water" && slices.ContainsFunc(list, func(m mention) bool { return m.item == i }) {
				c.used[i] = 1
			}
		}
		return true
	}
	if l.do == doRoast && len(c.held()) > 0 && slices.ContainsFunc(list, func(m mention) bool { return c.behaves(m, pantry.Fat) }) &&
		slices.ContainsFunc(list, func(m mention) bool { return c.behaves(m, pantry.Piece) }) {
		c.fry(l)
		return true
	}
	if c.fat != nil && c.pan && unused {
		c.next = []string{}
	}
	inFat := c.fat != nil && (len(c.held()) == 0 || c.next != nil) || len(c.held()) > 0 && c.heldFat() || slices.ContainsFunc(list,
		func(m mention) bool { return c.behaves(m, pantry.Fat) })
	if inFat && l.do == doRoast {
		if minutes == 0 {
			minutes = roastUsual
		}
		if c.put(fatFirst(c, list), plan.Step{}) {
			c.heat(l, vessel.Medium, plan.Until{Minutes: &minutes})
		}
		return true
	}
	l.sign()
	if l.do == doSoak && len(c.held()) == 0 && !c.drains() && slices.ContainsFunc(list, func(m mention) bool {
		return c.behaves(m,
			pantry.Liquid) && m.share > 0
	}) {
		if minutes == 0 {
			minutes = c.guess(soakUsual)
		}
		if c.put(list, plan.Step{}) { // it is cooked in what it was soaked in
			c.emit(plan.Step{Do: plan.Rest, Minutes: &minutes})
		}
		return true
	}
	for _, m := range list {
		if c.behaves(m, pantry.Liquid) && l.do == doSoak && c.given[m.item].inMethod {
			c.used[m.item] = 1 // poured away with the soaking
		}
	}
	l.has("water")
	for _, m := range list {
		if m.item < 0 {
			continue
		}
		name, usual := "", minutes
		switch l.do {
		case doSoak:
			if c.behaves(m, pantry.Liquid) {
				continue
			}
			name = "soak"
			if usual == 0 {
				usual = c.guess(soakUsual)
			}
		case doRoast:
			name = "roast"
			if usual == 0 {
				usual = roastUsual
			}
		case doGrind:
			name = "grind to granules"
			if l.has("paste", "smooth", "fine paste") {
				name = "grind to a paste"
			}
			usual = fewMinutes
		case doGrate:
			name, usual = "grate", 6
		case doCut:
			name, usual = "cut", 4
		case doPeel:
			name, usual = "peel", 4
		case doSteam:
			name = "steam"
			if usual == 0 {
				usual = c.guess(15)
			}
		}
		fine = c.preparing(m.item, preparing{name, usual, c.now}) || l.do == doCut || l.do == doPeel || l.do == doSoak || fine
	}
	return fine
}

// pressedLater reports whether a sentence from here on presses something.
func (c *cookery) pressedLater() bool {
	return pressSaid.MatchString(strings.Join(c.text[c.now:], " "))
}

var pressSaid = regexp.MustCompile(`(?i)\b(?:squeeze|press|wring|extract (?:the|thick|thin|milk)|` +
	`(?:first|second|thick|thin) extract)\b`)

// drains reports whether what is soaked is drained after it, in this sentence or the next.
func (c *cookery) drains() bool {
	text := " " + strings.Join(c.text[c.now:min(c.now+2, len(c.text))], " ") + " "
	if strings.Contains(text, "not drain") || strings.Contains(text, "same water") || strings.Contains(text, "soaking water") {
		return false
	}
	return strings.Contains(text, "drain") || strings.Contains(text, "strain") || !strings.Contains(text, "in the ")
}

// heldFat reports whether the pot holds little but fat: what is roasted in it is roasted in that.
func (c *cookery) heldFat() bool {
	return !slices.ContainsFunc(c.held(), func(i int) bool { return c.behaves(mention{item: i}, pantry.Liquid) })
}

func fatFirst(c *cookery, list []mention) []mention {
	slices.SortStableFunc(list, func(a, b mention) int { return boolInt(c.behaves(b, pantry.Fat)) - boolInt(c.behaves(a, pantry.Fat)) })
	return list
}

func boolInt(b bool) int {
	if b {
		return 1
	}
	return 0
}

// preparing notes what is done with an item, if such a thing can be.
func (c *cookery) preparing(item int, p preparing) bool {
	m := c.material(item)
	if m == nil {
		return false
	}
	for _, q := range plan.Preparations() {
		if q.Name == p.name && slices.Contains(q.Fits, m.Behaviour) {
			known := slices.IndexFunc(c.preparations[item], func(one preparing) bool { return one.name == p.name })
			if known < 0 {
				c.preparations[item] = append(c.preparations[item], p)
			} else if p.sentence >= 0 { // the method says it again, with its own minutes
				c.preparations[item][known].minutes, c.preparations[item][known].sentence = p.minutes, p.sentence
			}
			return true
		}
	}
	return false
}

// press makes coconut milk of fresh coconut, or squeezes juice out of a vegetable.
func (c *cookery) press(l *clause) (fine bool) {
	waters := append(c.pressing, c.waters(l)...)
	c.pressing = nil
	before, known := c.last, len(c.given)
	list := c.asMeant(l, c.mentions(l), before)
	for i := known; i < len(c.given); i++ {
		c.used[i] = 1 // the water of the presses
	}
	for _, w := range l.words {
		w.read = w.read || w.one == "milk" || w.one == "extract"
	}
	if len(list) == 0 {
		list = c.asMeant(&clause{words: []*token{{text: "it"}}}, nil, before)
	}
	for _, m := range list {
		material := c.material(m.item)
		if material == nil {
			continue
		}
		if !c.isCoconut(m) {
			fine = c.preparing(m.item, preparing{"squeeze out juice", 3, c.now}) || fine
			continue
		}
		item, ok := c.take(m)
		if !ok {
			continue
		}
		both := l.has("thick", "first") && l.has("thin", "second")
		step := plan.Step{Do: plan.Press, Name: c.free("coconut"), Items: []plan.Item{item}}
		if len(waters) == 0 {
			waters = []measure.Millilitre{200}
			c.doubt(NoAmount, "water", "200 ml")
		}
		if both && len(waters) == 1 {
			waters = append(waters, 2*waters[0])
			c.doubt(NoAmount, "water", strconv.FormatFloat(float64(waters[1]), 'f', -1, 64)+" ml")
		}
		words := pressWords
		for k, ml := range waters[:min(len(waters), len(words))] {
			step.Presses = append(step.Presses, plan.PressOf{WaterML: ml})
			c.holders = append(c.holders, holder{name: step.Name + "." + strconv.Itoa(k+1), words: words[k], left: 1, items: []int{}})
		}
		c.emit(step)
		fine = true
	}
	return fine
}

// pressWords are what the presses are called, the first first.
var pressWords = [][]string{{"thick coconut milk", "thick milk", "first milk", "first extract", "first press", "coconut milk",
	"thick extract", "extract"},
	{"thin coconut milk", "thin milk", "second milk", "second extract", "second press", "thin extract"},
	{"third milk", "third extract", "third press"}}

func (c *cookery) isCoconut(m mention) bool {
	material := c.material(m.item)
	return material != nil && strings.HasPrefix(material.Slug, "coconut") && material.Behaviour != pantry.Liquid &&
		material.Behaviour != pantry.Fat
}

// again presses once more: "repeat with 500 ml water for the thin milk".
func (c *cookery) again(l *clause) bool {
	for i := len(c.steps) - 1; i >= 0; i-- {
		s := &c.steps[i]
		if s.Do != plan.Press {
			continue
		}
		for _, ml := range c.waters(l) {
			if k := len(s.Presses); k < len(pressWords) {
				s.Presses = append(s.Presses, plan.PressOf{WaterML: ml})
				c.holders = append(c.holders, holder{name: s.Name + "." + strconv.Itoa(k+1), words: pressWords[k], left: 1, items: []int{}})
			}
		}
		for _, w := range l.words {
			w.read = true
		}
		return true
	}
	return false
}

// waters are the amounts of water that a clause names.
func (c *cookery) waters(l *clause) (list []measure.Millilitre) {
	for k, w := range l.words {
		if w.one != "water" && !(w.one == "ml" && k > 0) {
			continue
		}
		at := k
		if w.one == "ml" {
			if k+1 < len(l.words) && (l.words[k+1].one == "water" || l.words[k+1].one == "of" || l.words[k+1].one == "warm" ||
				l.words[k+1].one == "hot") {
				continue
			}
			at = k + 1
		}
		text, from := c.amountBefore(l, at)
		amount, err := measure.ParseAmount(text)
		if err != nil {
			continue
		}
		grams, err := c.reader.measures.Grams(amount, measure.Body{Density: 1})
		if err != nil {
			continue
		}
		for j := from; j < at; j++ {
			l.words[j].read = true
		}
		w.read = true
		list = append(list, measure.Millilitre(grams))
	}
	return list
}

// melt makes a syrup beside the pot, or melts fat in it.
func (c *cookery) melt(l *clause) bool {
	list := c.mentions(l)
	if c.onlyFat(list) {
		c.hotFat(l, list)
		return true
	}
	if c.melts(l, list) {
		return true
	}
	if !c.put(list, plan.Step{}) {
		return len(list) > 0
	}
	if minutes := l.minutes(); minutes > 0 {
		c.heat(l, vessel.Simmer, plan.Until{Minutes: &minutes})
	}
	return true
}

// melts makes the syrup of lumps and water, if a clause does.
func (c *cookery) melts(l *clause, list []mention) bool {
	if l.verb != "melt" && l.verb != "dissolve" && l.find("melts") < 0 && l.find("dissolves") < 0 && l.find("melted") < 0 &&
		l.find("dissolved") < 0 && l.find("melt") < 0 {
		return false
	}
	var lumps, water bool
	for _, m := range list {
		switch material := c.material(m.item); {
		case material == nil || m.holder >= 0 || m.share <= 0:
			return false
		case material.Kind == "sweetener" && material.Behaviour == pantry.Dissolves:
			lumps = true
		case material.Slug == "water":
			water = true
		default:
			return false
		}
	}
	if !lumps || !water {
		return false
	}
	strain := l.has("strain", "strained")
	step := plan.Step{Do: plan.Melt, Name: c.free("syrup"), Strain: &strain}
	h := holder{name: step.Name, left: 1, words: []string{"syrup", "jaggery syrup", "sugar syrup", "melted jaggery", "jaggery water"}}
	for _, m := range list {
		if item, ok := c.take(m); ok {
			step.Items = append(step.Items, item)
			h.items = append(h.items, m.item)
		}
	}
	if minutes := l.minutes(); minutes > 0 {
		step.Minutes = &minutes
	}
	l.flame()
	l.sign()
	c.next = nil
	c.emit(step)
	c.holders = append(c.holders, h)
	c.last = []mention{{item: -1, share: 1, holder: len(c.holders) - 1}}
	return true
}

// meltsOn reports whether a clause only says more of the syrup that its sentence has begun: "heat till it melts".
func (c *cookery) meltsOn(l *clause) bool {
	last := len(c.steps) - 1
	if last < 0 || c.steps[last].Do != plan.Melt || l.find("add") >= 0 {
		return false
	}
	if at, _ := unmarked(c.steps[last].Note); at != c.now {
		return false
	}
	if !l.has("till it melts", "until it melts", "till melted", "until melted", "until it dissolves", "till it dissolves", "until dissolved",
		"till dissolved", "till it has melted", "until it has melted", "until it has dissolved", "until all is melted") {
		return false
	}
	if minutes := l.minutes(); minutes > 0 {
		c.steps[last].Minutes = &minutes
	}
	l.flame()
	l.sign()
	return true
}

// drain pours off what a grain stood or boiled in, or strains a syrup.
func (c *cookery) drain(l *clause) (fine bool) {
	before := c.last
	list := c.mentions(l)
	if len(list) == 0 {
		list = before
	}
	if last := len(c.steps) - 1; last >= 0 && (c.steps[last].Do == plan.Melt || c.steps[last].Do == plan.Press) {
		if c.steps[last].Do == plan.Melt {
			c.steps[last].Strain = new(true)
			if l.find("into") >= 0 || l.find("over") >= 0 || l.find("onto") >= 0 { // "strain it into the lentils"
				l.do, l.verb, c.last = doAdd, "pour", before
				return c.add(l)
			}
		}
		return true
	}
	for _, m := range list {
		if m.item >= 0 && m.holder < 0 && !slices.Contains(c.held(), m.item) {
			return true // it stood in its water: soaking pours that off
		}
		if m.holder >= 0 && !c.holders[m.holder].pot {
			return true
		}
	}
	milk := slices.ContainsFunc(c.held(), func(i int) bool {
		return c.behaves(mention{item: i}, pantry.Liquid) && c.given[i].Item.Material != "water"
	})
	if !milk && len(c.held()) > 0 && len(c.steps) > 0 && (c.steps[len(c.steps)-1].Do == plan.Heat || c.steps[len(c.steps)-1].Do == plan.Rest ||
		c.steps[len(c.steps)-1].Do == plan.Pressure) {
		c.emit(plan.Step{Do: plan.Drain})
		return true
	}
	return false
}

// mash breaks what is soft in the pot, or grinds what is not in yet to a paste.
func (c *cookery) mash(l *clause) bool {
	if named := c.mentioned(l); len(named) > 0 && len(c.unused(l)) == 0 {
		c.asOther(named)
	}
	if list := c.unused(l); len(list) > 0 {
		for _, m := range c.mentions(l) {
			name := "grind to a paste"
			if l.verb == "crush" {
				name = "grind to granules"
			}
			c.preparing(m.item, preparing{name, 5, c.now})
		}
		return true
	}
	meant := c.asMeant(l, nil, c.last)
	if len(meant) > 0 && !slices.ContainsFunc(meant, func(m mention) bool { return m.item < 0 || m.holder >= 0 || c.used[m.item] > 0 }) {
		for _, m := range meant { // "soften the dates, then mash them": they are in no pot yet
			c.preparing(m.item, preparing{"grind to a paste", 5, c.now})
		}
		return true
	}
	c.mentions(l)
	pct := mashUsual
	switch {
	case l.has("lightly", "slightly", "a little", "roughly", "coarsely", "gently", "some"):
		pct = 20
	case l.has("half"):
		pct = 50
	case l.has("smooth", "completely", "well", "fine", "paste"):
		pct = 90
	}
	if len(c.held()) == 0 {
		return false
	}
	c.emit(plan.Step{Do: plan.Mash, Pct: &pct})
	return true
}

// caramel browns sugar dry.
func (c *cookery) caramel(l *clause) {
	list := c.mentions(l)
	if !c.put(list, plan.Step{}) {
		return
	}
	c.emit(plan.Step{Do: plan.Caramel, Flame: vessel.Medium, Until: &plan.Until{Browning: plan.Amber}})
}

// fry is nuts and fruit in fat, beside the pot; anything else is fried in the pot it is cooked in.
func (c *cookery) fry(l *clause) {
	before := c.last
	list := c.asMeant(l, c.mentions(l), before)
	into := func(m mention) bool {
		return m.item >= 0 && m.share > 0 && c.used[m.item] < 1 || m.holder >= 0 && m.holder != c.at
	}
	frying := len(c.steps) > 0 && c.steps[len(c.steps)-1].Do == plan.Fry
	if len(c.held()) > 0 && !c.heldFat() && c.fat == nil && !frying && !slices.ContainsFunc(list, into) { // "and fry till it leaves the sides"
		minutes := l.minutes()
		if minutes == 0 {
			minutes = c.guess(fryUsual)
		}
		l.sign()
		c.heat(l, vessel.Medium, plan.Until{Minutes: &minutes})
		return
	}
	c.fryThese(l, list)
}

func (c *cookery) fryThese(l *clause, list []mention) {
	var pieces, others []mention
	fat, share := -1, 0.0
	fatLeft := -1
	for _, m := range list {
		material := c.material(m.item)
		switch {
		case m.holder >= 0 && m.holder != c.at && strings.HasSuffix(c.holders[m.holder].name, ".fat"):
			fatLeft = m.holder
		case m.holder >= 0 || material == nil:
		case material.Behaviour == pantry.Fat:
			fat, share = m.item, m.share
		case material.Behaviour == pantry.Piece:
			pieces = append(pieces, m)
		default:
			others = append(others, m)
		}
	}
	hot := c.fat != nil && fat < 0 && fatLeft < 0
	if hot {
		fat, share, fatLeft = c.fat.item, c.fat.share, c.fat.holder
		c.fat = nil
	}
	if fat < 0 && fatLeft < 0 {
		for i := range c.given {
			if m := c.material(i); m != nil && m.Behaviour == pantry.Fat && c.used[i] < 1 {
				fat, share = i, 1-c.used[i]
				break
			}
		}
	}
	minutes := l.minutes()
	switch {
	case len(pieces) > 0 && (fat >= 0 && c.used[fat] < 0.999 || fatLeft >= 0):
		step := plan.Step{Do: plan.Fry, Name: c.free("garnish")}
		if fat >= 0 {
			if item, ok := c.take(mention{item: fat, share: share, holder: -1}); ok {
				step.Fat = &item
			}
		} else {
			step.Fat = new(c.pour(fatLeft, 1))
		}
		h := holder{name: step.Name, left: 1, words: []string{"garnish", "fried nut", "nut"}}
		for _, m := range pieces {
			if item, ok := c.take(m); ok {
				item.Minutes = c.fried(m, len(pieces), minutes)
				step.Items = append(step.Items, item)
				h.items = append(h.items, m.item)
			}
		}
		if step.Fat == nil || len(step.Items) == 0 {
			return
		}
		step.Sign = l.sign()
		c.emit(step)
		c.holders = append(c.holders, h)
		c.last = []mention{{item: -1, share: 1, holder: len(c.holders) - 1}}
		if fat >= 0 {
			c.holders = append(c.holders, holder{name: step.Name + ".fat", left: 1, words: []string{"fat", "same fat", "same pan"},
				items: []int{fat}})
		}
	case len(others) > 0:
		if c.next == nil && fat >= 0 && fatLeft < 0 && c.anyNew(others) && slices.ContainsFunc(c.held(), func(i int) bool {
			m := c.material(i)
			return m != nil && m.Behaviour == pantry.Liquid
		}) {
			c.next = []string{} // nothing fries in milk
		}
		if fatLeft >= 0 {
			others = append([]mention{{item: -1, share: 1, holder: fatLeft}}, others...)
		} else if fat >= 0 && c.used[fat] < 1 {
			others = append([]mention{{item: fat, share: min(share, 1-c.used[fat]), holder: -1}}, others...)
		}
		if c.put(others, plan.Step{}) {
			if minutes == 0 {
				minutes = fryUsual
			}
			c.heat(l, vessel.Medium, plan.Until{Minutes: &minutes})
		}
	case len(pieces) > 0:
		if fat >= 0 { // all of it has gone in before
			c.doubt(NotPut, c.given[fat].Text, "")
		}
		for _, m := range pieces { // nobody says in what
			c.preparing(m.item, preparing{"roast", roastUsual, c.now})
		}
	case (len(c.held()) > 0 || hot) && minutes > 0:
		if hot {
			c.put([]mention{{item: fat, share: share, holder: -1}}, plan.Step{})
		}
		c.heat(l, vessel.Medium, plan.Until{Minutes: &minutes})
	}
}

// fried is how long one thing is in the fat: as said, if that is said of it alone, or until it is done.
func (c *cookery) fried(m mention, of int, said measure.Minute) *measure.Minute {
	material := c.material(m.item)
	switch {
	case of == 1 && said > 0:
		return &said
	case material != nil && material.Frying != nil:
		return new(material.Frying.Done)
	}
	return nil
}

// free returns a name for a part or a pot that no step has.
func (c *cookery) free(name string) string {
	for n := 1; ; n++ {
		one := name
		if n > 1 {
			one = name + strconv.Itoa(n)
		}
		if one != plan.MainPot && !slices.ContainsFunc(c.steps, func(s plan.Step) bool { return s.Name == one }) &&
			!slices.ContainsFunc(c.holders, func(h holder) bool { return h.name == one }) {
			return one
		}
	}
}

// fresh is what a clause names, with what was named before and is in no pot yet: "Wash the lentils.
// Cook with the water".
func (c *cookery) fresh(l *clause) []mention {
	before := c.last
	list := c.asMeant(l, c.mentions(l), before)
	for _, m := range before {
		material := c.material(m.item)
		named := slices.ContainsFunc(list, func(one mention) bool { return one.item == m.item })
		if !named && material != nil && m.holder < 0 && c.used[m.item] == 0 && len(c.preparations[m.item]) == 0 &&
			material.Behaviour == pantry.Grain && len(c.held()) == 0 {
			list = append(list, mention{item: m.item, share: 1, holder: -1})
		}
	}
	return list
}

func (c *cookery) pressure(l *clause) {
	c.put(c.asOther(c.fresh(l)), plan.Step{})
	if len(c.held()) == 0 {
		c.liquids()
	}
	if len(c.held()) == 0 {
		return
	}
	step := plan.Step{Do: plan.Pressure}
	if found := l.match(whistleSaid); found != nil {
		n, ok := numberWords[found[1]]
		if figure, err := strconv.Atoi(found[1]); err == nil {
			n, ok = float64(figure), true
		}
		if ok && n >= 1 && n <= 30 {
			step.Whistles = int(n)
		}
	}
	minutes := l.minutes()
	const most = 180
	if minutes > most {
		minutes = 0 // what is soaked overnight
	}
	if step.Whistles == 0 || minutes > 0 {
		if minutes == 0 {
			minutes = c.guess(cookerMinutes)
		}
		step.Minutes = &minutes
	}
	l.has("pressure", "cooker", "natural", "naturally")
	step.Flame = l.flame()
	if step.Flame == vessel.Simmer || step.Flame == vessel.Boil {
		step.Flame = ""
	}
	step.Sign = ""
	l.sign()
	c.lid = nil
	c.emit(step)
}

// standing lets the pot stand, cool or chill.
func (c *cookery) standing(l *clause) bool {
	list := c.asOther(c.mentions(l))
	if slices.ContainsFunc(list, func(m mention) bool { return m.holder >= 0 && !c.holders[m.holder].pot }) {
		return true // a syrup that cools while the pot goes on
	}
	minutes := l.minutes()
	if len(c.held()) == 0 {
		return false
	}
	if l.has("warm place") && minutes > 0 {
		c.portion()
	}
	pressure := len(c.steps) > 0 && c.steps[len(c.steps)-1].Do == plan.Pressure && l.has("pressure", "steam")
	if pressure {
		return true // what a cooker does by itself
	}
	const short = 30
	switch {
	case l.do == doChill:
		hours := chillUsual
		if minutes > 0 {
			hours = float64(minutes) / 60
		} else {
			c.guess(chillUsual * 60)
		}
		c.portion()
		l.has("fridge", "refrigerator")
		l.sign()
		c.emit(plan.Step{Do: plan.Chill, Hours: &hours})
	case l.do == doCool && (minutes == 0 || minutes > short):
		c.portion()
		l.sign()
		c.cool()
	case minutes > 0:
		l.sign()
		c.emit(plan.Step{Do: plan.Rest, Minutes: &minutes, Lid: c.lid})
		c.lid = nil
	case l.has("until cold", "until cool", "to set", "completely"):
		c.portion()
		c.cool()
	default:
		return false
	}
	return true
}

// portion shares the pudding out, if that was said.
func (c *cookery) portion() {
	if !c.bowls {
		return
	}
	c.bowls = false
	c.emit(plan.Step{Do: plan.Portion, Bowls: 1})
}

func (c *cookery) cool() {
	celsius := measure.Celsius(30)
	c.emit(plan.Step{Do: plan.Cool, ToC: &celsius})
}

// move is to bowls, which then cool each by itself, into a dish, or over what is in another pot.
func (c *cookery) move(l *clause) bool {
	into := l.container()
	dish, bowls := false, false
	switch into {
	case "":
	case "dish", "tray", "tin", "mould", "casserole":
		dish = true
	default:
		bowls = true
	}
	l.has("serving", "baking", "ovenproof", "individual", "dish", "tray", "tin", "mould", "casserole", "ramekins", "moulds", "dishes", "pots",
		"platter")
	switch {
	case dish && !bowls && l.find("serving") < 0 && len(c.held()) > 0:
		from := c.at
		c.open([]string{"dish"})
		return c.put([]mention{{item: -1, share: 1, holder: from}}, plan.Step{})
	case bowls:
		c.mentions(l)
		c.bowls = true
		return true
	case into != "":
		return true
	case l.verb == "transfer" && l.find("pot") >= 0 || l.verb == "transfer" && l.find("pan") >= 0 || l.verb == "transfer" &&
		l.find("saucepan") >= 0:
		if len(c.held()) == 0 {
			return false
		}
		from := c.at
		c.open([]string{})
		return c.put([]mention{{item: -1, share: 1, holder: from}}, plan.Step{})
	}
	if l.verb == "divide" || l.verb == "portion" || l.verb == "share" {
		return false
	}
	return c.top(l)
}

// turn takes the pot off the flame, or changes that for what comes.
func (c *cookery) turn(l *clause) bool {
	if l.do == doOff {
		off := l.has("heat", "flame", "fire", "stove", "gas", "hob", "burner") || l.verb == "turn" || l.verb == "switch"
		if l.verb == "remove" && !off {
			last := len(c.steps) - 1
			return last >= 0 && (c.steps[last].Do == plan.Fry || c.steps[last].Do == plan.Roast)
		}
		c.mentions(l)
		c.offHeat = true
		return true
	}
	flame := l.flame()
	if flame == "" && (l.verb == "reduce" || l.verb == "lower" || l.has("down")) {
		flame = vessel.Low
		if l.has("medium") {
			flame = vessel.Medium
		}
		if l.has("simmer") {
			flame = vessel.Simmer
		}
	}
	if flame == "" && (l.verb == "raise" || l.verb == "increase" || l.has("up")) {
		flame = vessel.High
		if l.has("medium") {
			flame = vessel.Medium
		}
	}
	c.flame = flame
	return flame != ""
}

func (c *cookery) bake(l *clause) {
	list := c.asOther(c.mentions(l))
	c.put(list, plan.Step{})
	c.fromBowl()
	if len(c.held()) == 0 {
		return
	}
	minutes := l.minutes()
	celsius := measure.Celsius(170)
	for _, found := range ovenSaid.FindAllStringSubmatch(l.text(), -1) {
		degrees, err := strconv.ParseFloat(found[1], 64)
		if err != nil || degrees < 90 {
			continue
		}
		l.has(found[1], "c", "f", "°", "degrees", "celsius", "fahrenheit", found[1]+" c", found[1]+" ° c")
		if strings.HasPrefix(found[2], "f") || degrees > 260 {
			degrees = (degrees - 32) / 1.8
		}
		celsius = measure.Celsius(degrees)
		break
	}
	if minutes == 0 {
		minutes = c.guess(bakeUsual)
	}
	l.has("oven", "preheated")
	if l.verb == "microwave" || l.has("microwave") {
		c.oven = plan.Microwave
	}
	c.ovenC = celsius
	c.bakeFor(l, minutes)
}

// bakeFor is in the oven, or in what else was said.
func (c *cookery) bakeFor(l *clause, minutes measure.Minute) {
	step := plan.Step{Do: plan.Bake, BakeIn: c.oven, Covered: c.lid != nil && *c.lid}
	switch c.oven {
	case plan.Microwave:
		step.PowerW = new(measure.Watt(700))
	case plan.SlowCooker:
		l.has("low", "high", "slow cooker")
	default:
		step.BakeIn, step.OvenC = plan.InOven, new(c.ovenC)
	}
	l.stirring()
	step.Sign = l.sign()
	step.Minutes = &minutes
	c.lid, c.oven = nil, ""
	c.emit(step)
}

// follows reports whether the method is one to go by: something goes into the pot and is heated.
func (c *cookery) follows() bool {
	heats := slices.ContainsFunc(c.steps, func(s plan.Step) bool { return s.Do == plan.Heat || s.Do == plan.Pressure || s.Do == plan.Bake })
	return heats && slices.ContainsFunc(c.holders, func(h holder) bool { return h.pot && len(h.items) > 0 })
}

// placeRest puts in what the method does not speak of, and returns which: what cooks, with the
// first of what goes in; what sweetens and the rest, at the end; toppings on top.
func (c *cookery) placeRest() (unplaced []int) {
	c.now = -1
	c.at, c.next = c.servedPot(), nil
	var early, late, top []mention
	for i := range c.given {
		if c.used[i] >= 0.999 || c.material(i) == nil {
			continue
		}
		one := mention{item: i, share: 1 - c.used[i], holder: -1}
		switch m := c.material(i); {
		case c.isTopping(i) || m.Behaviour == pantry.Piece:
			top = append(top, one)
		case m.Behaviour == pantry.Grain || m.Behaviour == pantry.Tissue || pours(m),
			m.Kind == "dairy" && !m.Has("cultured"):
			early = append(early, one)
		default:
			late = append(late, one)
		}
		unplaced = append(unplaced, i)
	}
	if len(early) > 0 {
		at := slices.IndexFunc(c.steps, func(s plan.Step) bool { return s.Do == plan.Add && s.Pot == c.holders[c.at].name })
		for _, m := range early {
			if item, ok := c.take(m); ok {
				c.steps[at].Items = append(c.steps[at].Items, item)
			}
		}
	}
	c.put(late, plan.Step{})
	c.put(top, plan.Step{Topping: true})
	return unplaced
}

var (
	percentSaid  = regexp.MustCompile(`to (?:about )?(\d{1,2}) ?(?:%|percent|per cent)`)
	fractionSaid = regexp.MustCompile(`(?:to|by) (?:about )?(\d/\d)`)
	celsiusSaid  = regexp.MustCompile(`(\d{2,3})(?: ?°)? ?(c|celsius|f|fahrenheit|degrees)\b`)
	bareSaid     = regexp.MustCompile(`(?:^|for |about )(\d{1,2})$`)
)

// celsius reads to what temperature a pot is heated; 0 for nothing said.
func (l *clause) celsius() measure.Celsius {
	found := l.match(celsiusSaid)
	if found == nil {
		return 0
	}
	degrees := mixedNumber(found[1])
	if strings.HasPrefix(found[2], "f") || degrees > 105 {
		degrees = (degrees - 32) / 1.8
	}
	return measure.Celsius(degrees)
}

// bareMinutes reads "simmer 5".
func (l *clause) bareMinutes() measure.Minute {
	if found := l.match(bareSaid); found != nil {
		return measure.Minute(mixedNumber(found[1]))
	}
	return 0
}

// boils reports whether a clause goes on until it boils.
func (l *clause) boils() bool {
	return l.do == doCook && l.has("boils", "boiling") &&
		!l.has("almost boiling", "nearly boiling", "almost boils", "nearly boils", "without boiling", "not boil", "below boiling",
			"before boiling", "avoid boiling")
}
