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
	grateUsual    measure.Minute = 6
	cutUsual      measure.Minute = 4
	steamUsual    measure.Minute = 15
	fryUsual      measure.Minute = 3
	chillUsual                   = 3.0 // hours
	bakeUsual     measure.Minute = 40
	ovenUsual                    = measure.Celsius(170)
	thickUsual                   = 3.6 // grade of what is "thick" or "creamy" in the pot
	fewMinutes    measure.Minute = 2
	mashUsual                    = 40.0 // per cent
	cookerMinutes measure.Minute = 10
	nearlyBoiling                = measure.Celsius(93)
	steaming                     = measure.Celsius(80)
)

// fullyUsed is the share from which all of something is in.
const fullyUsed = 0.999

// clause does one thing. fine reports whether it is right that nothing came of it.
func (c *cookery) clause(l *clause) (fine bool) {
	c.settle(l)
	switch l.do {
	case doAdd:
		return c.add(l)
	case doNothing:
		return true
	case doTop, doPass:
		return c.top(l)
	case doBoil:
		return c.meltsOn(l) || c.boil(l)
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
		return c.caramel(l)
	case doMash:
		return c.mash(l)
	case doDrain:
		return c.drain(l)
	case doCooker:
		return c.pressure(l)
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

// unused is what a clause names that is in no pot yet; it reads nothing of it.
func (c *cookery) unused(l *clause) (list []mention) {
	marks := make([]bool, len(l.words))
	for k, w := range l.words {
		marks[k] = w.read
	}
	list = c.unusedIn(l)
	for k, w := range l.words {
		w.read = marks[k]
	}
	return list
}

// unusedIn is the same, and the words are read.
func (c *cookery) unusedIn(l *clause) (list []mention) {
	said := maps.Clone(c.said)
	defer func() { c.said = said }()
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
	return list
}

// targets reports whether a clause says until when.
func (l *clause) targets() bool {
	return l.has(softWords...) || l.thickens() || l.has("reduced", "half") || l.remaining() > 0
}

var (
	softWords = []string{"soft", "tender", "cooked", "done", "mushy", "translucent", "cooked through", "transparent", "mash", "mashes",
		"crushed", "falling apart", "falls apart", "fall apart", "collapses", "melting", "softened", "al dente", "softens", "clear",
		"see through"}
	thickWords = []string{"thick", "thickens", "thickened", "creamy", "thicker", "coats", "coat", "thicken"}
)

// nowMeans takes what a condition names of the pot for what "it" is from there on: "when the milk boils, let it simmer".
func (c *cookery) nowMeans(l *clause) {
	inIt := slices.DeleteFunc(c.mentioned(&clause{words: l.words}), func(m mention) bool {
		return m.item < 0 || !slices.Contains(c.held(), m.item)
	})
	if len(inIt) > 0 && len(c.last) > 0 && !c.inHolder(inIt, c.lastBowl()) {
		c.last = inIt
	}
}

// waited reads what is waited for over a flame; nil for nothing that is.
func (c *cookery) waited(l *clause) *plan.Until {
	minutes, remaining := l.minutes(), l.remaining()
	grain, slowest := c.grainInPot()
	switch {
	case minutes > 0 && l.words[0].text != "after" && l.targets():
		return &plan.Until{Minutes: &minutes} // "when it is thick, about 10 minutes": that is its sign
	case remaining > 0:
		return &plan.Until{RemainingPct: &remaining}
	case slowest != nil && l.match(partlyDone) != nil:
		return &plan.Until{Doneness: &plan.DonenessTarget{Of: grain, At: partly(slowest.Kinetics)}}
	case l.has(softWords...) && slowest != nil:
		return &plan.Until{Doneness: &plan.DonenessTarget{Of: grain, At: gentle(slowest.Kinetics)}}
	case l.thickens():
		grade := thickUsual
		return &plan.Until{Thickness: &grade}
	case l.words[0].text == "before" && l.has("boils", "boiling", "it bubbles"):
		nearly := nearlyBoiling
		return &plan.Until{TempC: &nearly}
	case l.has("boils", "boiling", "boil", "bubbling", "bubbles", "bubble", "simmering", "simmers", "simmer"),
		l.find("top") < 0 && l.find("surface") < 0 && l.has("comes up", "rises", "froths up", "foams up"):
		return &plan.Until{Boil: true}
	case l.has("cool", "cold", "cooled", "cools", "lukewarm", "room temperature"):
		last := len(c.steps) - 1
		opens := last >= 0 && c.steps[last].Do != plan.Cool && c.lastCooked() == plan.Pressure && l.find("warm") < 0 &&
			opensIt.MatchString(c.text[c.now])
		if opens || l.words[0].text == "while" {
			break // a cooker cools before it is opened; "while it cools" something else is done
		}
		if last >= 0 && c.steps[last].Do != plan.Cool && c.steps[last].Do != plan.Rest && c.steps[last].Do != plan.Chill {
			c.cool(l.coolTo())
		}
	case minutes > 0 && l.words[0].text == "after":
		return &plan.Until{Minutes: &minutes}
	}
	return nil
}

// lastCooked is what was done last with what is in the pot: what is made beside it does not count.
func (c *cookery) lastCooked() plan.Verb {
	for k := len(c.steps) - 1; k >= 0 && c.at >= 0; k-- {
		if c.steps[k].Pot == c.holders[c.at].name && !c.steps[k].Do.IsPreparation() {
			return c.steps[k].Do
		}
	}
	return ""
}

// opensIt is said of a cooker.
var opensIt = regexp.MustCompile(`(?i)\b(?:open|lid|uncover)\b`)

// backToCooker goes on with what was under pressure: "when the pressure is gone, open the lid".
func (c *cookery) backToCooker() {
	for i := len(c.steps) - 1; i >= 0; i-- {
		if c.steps[i].Do != plan.Pressure {
			continue
		}
		h := slices.IndexFunc(c.holders, func(h holder) bool { return h.pot && h.name == c.steps[i].Pot })
		if h >= 0 && c.holders[h].left > 0 && len(c.holders[h].items) > 0 {
			c.at, c.next = h, nil
		}
		return
	}
}

// when settles what a sentence waits for before it goes on: "When the rice is soft", "After 10 minutes".
func (c *cookery) when(l *clause) {
	for _, w := range l.words {
		defer func() { w.read = true }()
	}
	c.nowMeans(l)
	if l.find("cooker") >= 0 || l.find("pressure") >= 0 {
		c.backToCooker()
		return // what a cooker does by itself
	}
	if len(c.held()) == 0 || c.at < 0 {
		if l.has("boils", "boiling", "boil", "comes up", "rises", "froths up") && c.at < 0 {
			l.do, l.verb = doBoil, "bring"
			c.boil(l)
		}
		return
	}
	until := c.waited(l)
	if until == nil {
		return
	}
	last := len(c.steps) - 1
	heats := last >= 0 && c.steps[last].Do == plan.Heat
	open := heats && c.assumed == last
	more := until.Minutes != nil && l.has("another", "further", "more")
	switch {
	case until.Doneness != nil && last >= 0 && c.steps[last].Do == plan.Pressure:
		return // it is soft by that
	case until.Minutes == nil && last >= 0 && c.steps[last].Do == plan.Bake && c.steps[last].BakeIn == plan.SlowCooker:
		if c.steps[last].Sign == "" { // it says itself how long
			c.steps[last].Sign = l.told()
		}
	case until.Minutes != nil && c.offHeat && !open: // "take it off the stove. After 5 minutes add the jaggery"
		c.emit(plan.Step{Do: plan.Rest, Minutes: until.Minutes})
	case open:
		c.steps[last].Until = until
		c.answer()
	case heats && c.steps[last].Until.TempC != nil && *c.steps[last].Until.TempC <= steaming && (until.TempC != nil || until.Boil):
		c.steps[last].Until = until // "warm the milk. Just before it boils"
	case heats && c.steps[last].Until.Boil && l.find("begins") < 0 && l.find("starts") < 0 &&
		(until.RemainingPct != nil || until.Thickness != nil || until.Doneness != nil):
		c.heat(l, vessel.Simmer, *until) // "boil over a medium flame. When it is down by a third"
	case heats && !more && (until.Minutes == nil || c.steps[last].Until.Minutes != nil):
		// it is said already how that ends; what it looks like then is its sign
		if c.steps[last].Sign == "" && until.Minutes == nil && !until.Boil {
			c.steps[last].Sign = l.told()
		}
	default:
		flame := vessel.Simmer
		if until.Boil {
			flame = vessel.High
		}
		c.heat(l, flame, *until)
	}
}

// told is what a clause says behind the word that it waits with.
func (l *clause) told() string {
	words := l.words
	if len(words) > 0 && conditions[words[0].text] {
		words = words[1:]
	}
	const most = 120
	if text := strings.ReplaceAll((&clause{words: words}).text(), " ,", ","); len(text) <= most {
		return text
	}
	return ""
}

// answer takes back the guess that the last step was made with.
func (c *cookery) answer() {
	at := c.madeBy(c.assumed)
	c.assumed = -1
	for k, d := range c.doubts[at] {
		if d.Of == HowLong {
			c.doubts[at] = slices.Delete(slices.Clone(c.doubts[at]), k, k+1)
			return
		}
	}
}

// asMeant is what "it" and "them" stand for where a clause names nothing.
func (c *cookery) asMeant(l *clause, list, before []mention) []mention {
	pronoun := slices.IndexFunc(l.words, func(w *token) bool {
		return w.text == "it" || w.text == "them" || w.text == "this" || w.text == "these"
	})
	both := l.find("both")
	ends := both == len(l.words)-1 || both == len(l.words)-2 && l.words[both+1].text == "and"
	if pronoun < 0 && both >= 0 && (ends || behindBoth[l.words[both+1].text]) {
		pronoun = both // "scrape out the seeds and add both to the pan"
		if two := c.bothReady(); len(before) < 2 && len(two) == 2 {
			before = two // "roast the wheat and the dal. Boil the water, add both"
		}
	}
	if half := l.find("half"); pronoun < 0 && len(list) == 0 && half >= 0 && (half == len(l.words)-1 || behindBoth[l.words[half+1].text]) {
		pronoun = half + 1 // "add half to the pudding"
	}
	if pronoun < 0 || slices.ContainsFunc(list, func(m mention) bool { return m.share > 0 && m.item >= 0 && m.at < pronoun }) {
		return list
	}
	var meant []mention
	for _, m := range before {
		switch h := c.holderOfMention(m); {
		case h >= 0:
			one := mention{item: m.item, share: 1, holder: h}
			if share := c.partShare(l, pronoun); share < 1 && !c.holders[h].pot { // "add two thirds of it to the pot"
				one.item, one.share = -1, share
			}
			meant = append(meant, one)
		case m.item >= 0 && c.used[m.item] == 0 && !c.behaves(m, pantry.Fat): // of what is in already "it" is what is in
			meant = append(meant, mention{item: m.item, share: c.partShare(l, pronoun), holder: -1})
		}
	}
	for k := range meant {
		meant[k].at = -1 // before all that is named
	}
	return append(meant, list...)
}

// bothReady is what was got ready by the sentences before, and is in no pot yet.
func (c *cookery) bothReady() (list []mention) {
	for i, all := range c.preparations {
		one := mention{item: i, share: 1, holder: -1}
		if c.unput(one) && c.behaves(one, pantry.Grain) && slices.ContainsFunc(all, func(p preparing) bool { return p.sentence >= 0 }) {
			list = append(list, one)
		}
	}
	return list
}

// behindBoth is what may stand behind "both" where it stands for what was named.
var behindBoth = wordSet("to in into with together until for on ,")

func (c *cookery) holderOfMention(m mention) int {
	if m.holder >= 0 && m.holder != c.at && c.holders[m.holder].left > 0 {
		return m.holder
	}
	if m.item >= 0 && !slices.Contains(c.held(), m.item) {
		return c.holderOf(m.item)
	}
	return -1
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

func boolInt(b bool) int {
	if b {
		return 1
	}
	return 0
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
		bare := l.beginsWith("in") || l.beginsWith("with") || l.beginsWith("cook in") || l.beginsWith("cook with") // "drain and boil in the milk"
		if !named && !c.saidLater(l, m.item) && material != nil && m.holder < 0 && c.used[m.item] == 0 &&
			(len(c.preparations[m.item]) == 0 || bare) &&
			(material.Behaviour == pantry.Grain || bare && (material.Behaviour == pantry.Tissue || material.Behaviour == pantry.Puree)) &&
			(len(c.held()) == 0 || l.do == doCooker && c.heldDry()) { // "wash the rice along with the roasted dal and pressure cook"
			list = append(list, mention{item: m.item, share: 1, holder: -1})
		}
	}
	return list
}

// sweetens reports whether an item may be made a syrup of.
func (c *cookery) sweetens(item int) bool {
	m := c.material(item)
	return m != nil && m.Kind == "sweetener"
}

// follows reports whether the method is one to go by: something goes into the pot and is heated, or is chilled where nothing is.
func (c *cookery) follows() bool {
	heats := slices.ContainsFunc(c.steps, func(s plan.Step) bool {
		return slices.Contains([]plan.Verb{plan.Heat, plan.Pressure, plan.Bake, plan.Caramel}, s.Do)
	})
	cold := slices.ContainsFunc(c.steps, func(s plan.Step) bool { return s.Do == plan.Chill }) &&
		!slices.ContainsFunc(c.text, overAFlame.MatchString)
	return (heats || cold) && slices.ContainsFunc(c.holders, func(h holder) bool { return h.pot && len(h.items) > 0 })
}

// placeRest puts in what the method does not speak of, and returns which: what cooks, with the
// first of what goes in; what sweetens and the rest, at the end; toppings on top.
func (c *cookery) placeRest() (unplaced []int) {
	c.now = -1
	c.at, c.next = c.servedPot(), nil
	var early, late, top []mention
	for i := range c.given {
		if c.used[i] >= fullyUsed || c.material(i) == nil {
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
			if c.used[m.item] > 0 && c.joinsRest(m) {
				continue
			}
			if item, ok := c.take(m); ok {
				c.steps[at].Items = append(c.steps[at].Items, item)
			}
		}
	}
	c.put(late, plan.Step{})
	c.put(top, plan.Step{Topping: true})
	return unplaced
}

// joinsRest puts what is left of something to that of it which went into the pot last, and reports whether any did.
func (c *cookery) joinsRest(m mention) bool {
	for k := len(c.steps) - 1; k >= 0; k-- {
		if c.steps[k].Do != plan.Add || c.steps[k].Pot != c.holders[c.at].name {
			continue
		}
		for at := range c.steps[k].Items {
			item := &c.steps[k].Items[at]
			if share, ok := c.shareOf(item.Amount, m.item); ok && item.Material == c.given[m.item].Item.Material {
				if all, ok := c.scaled(m.item, share+m.share); ok {
					item.Amount, c.used[m.item] = all.Amount, 1
					return true
				}
			}
		}
	}
	return false
}
