package recipe

import (
	"regexp"
	"slices"
	"strings"

	"kirdu/core/pantry"
	"kirdu/core/plan"
	"kirdu/core/vessel"
)

// What goes into the pot.

// toasted is the grain that was just roasted in the pot into which a liquid comes: "toast the millet, add the milk".
func (c *cookery) toasted(before, named []mention) (list []mention) {
	if !slices.ContainsFunc(named, func(m mention) bool { return c.behaves(m, pantry.Liquid) }) {
		return nil
	}
	if c.now >= 0 { // "toast the vermicelli. Put the milk in a saucepan ... Add the vermicelli"
		before = slices.DeleteFunc(slices.Clone(before), func(m mention) bool { return m.item >= 0 && c.addedLater(m.item) })
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

// sweeteners are those of the list that are in no pot yet: of the part being read, or else of the part that is in the pot.
func (c *cookery) sweeteners() []mention {
	list := c.sweetenersOf(c.section)
	if len(list) > 0 || c.at < 0 || len(c.holders[c.at].items) == 0 {
		return list
	}
	return c.sweetenersOf(c.given[c.holders[c.at].items[0]].Section)
}

// sweetenersOf are those of one part of the list that are in no pot yet.
func (c *cookery) sweetenersOf(section string) (list []mention) {
	for i := range c.given {
		if c.sweetens(i) && c.used[i] < 1 && c.given[i].Section == section && !c.given[i].inMethod {
			list = append(list, mention{item: i, share: 1 - c.used[i], holder: -1})
		}
	}
	return list
}

// it is the clause that says no more than that.
var it = &clause{words: []*token{{text: "it"}}}

// add puts things into the pot.
func (c *cookery) add(l *clause) (fine bool) {
	before := c.last
	if l.has("on top", "for garnish", "as garnish", "as a garnish", "on the top") {
		return c.top(l)
	}
	if done, fine := c.addSteeped(l, before); done {
		return fine
	}
	if l.verb == "add" && l.lead >= len(l.words) && c.justAdded() {
		return true // "dilute the milk with a cup of water and add": it is in
	}
	if l.verb == "stir" && l.find("after") >= 0 && namesNothing(c, l) && l.minutes() > 0 && c.inDish() {
		again := l.has("further", "another", "more") // "stir again after a further 30 minutes"
		l.readAll()
		c.steeped[c.now] = !again // when it is stirred is no span of time
		return !again || c.staysInOven(l, l.minutes())
	}
	if at := c.bowlOfSentence(); at >= 0 && namesNothing(c, l) && beatsOn.MatchString(l.verb+" "+l.text()) {
		l.readAll()
		return true // "add the sugar and beat to soft peaks"
	}
	if c.fillsGreased(l) || c.poursPudding(l) || c.tossesForTop(l, before) {
		return true
	}
	bowl := c.lastBowl()
	named := c.toAdd(l, before)
	if fatToo.MatchString(l.text()) {
		named = c.withItsFat(l, c.asMeant(l, named, before))
	}
	if len(named) > 0 && !c.anyNew(named) && c.inHolder(named, c.at) && c.next == nil {
		if syrup := c.boilingSyrup(); syrup >= 0 {
			return c.put([]mention{allOf(syrup)}, plan.Step{}) // "add the mashed dal" to the syrup: one goes into the other
		}
	}
	if c.pouredOver(l, named) {
		return true
	}
	if c.poursRest(l) {
		return true
	}
	if bowl >= 0 && len(c.held()) > 0 && c.warmsBowl(l, named) {
		return c.temperBowl(l, bowl)
	}
	if c.bothPots(l, named) || c.sauces(l, named) || c.backToMain(l, named) {
		return true
	}
	named = c.friedFirst(l, c.sweetensThat(l, named))
	if intoThat.MatchString(l.asked().text()) && !c.anyNew(slices.DeleteFunc(slices.Clone(named), func(m mention) bool {
		return c.behaves(m, pantry.Aroma)
	})) {
		named = append(goingIn(c.friedNow()), named...) // "fry the cashews, pour into the payasam with the cardamom"
	}
	if bowl := max(c.whipped(l), c.bowlOfSentence()); bowl >= 0 && l.goesOnStirring() && c.anyNew(named) && !c.inHolder(named, c.at) {
		if len(c.held()) == 0 && heatsAhead.MatchString(c.ahead) { // "whisk the milk with the cocoa. Add the rice and bring to a simmer"
			return c.put(append([]mention{allOf(bowl)}, named...), plan.Step{})
		}
		return c.temper(l, named, bowl)
	}
	if c.toAnother(l, named) || c.toHotFat(l, named) {
		return true
	}
	if l.verb == "return" && len(named) > 0 && c.untouched(named[0]) && l.find("it") < 0 && l.find("everything") < 0 {
		c.doubt(NotDone, l.said(), "") // it was in no pot before
	}
	list := c.asMeant(l, named, before)
	if unput := c.unputGrain(before); len(unput) > 0 && len(named) == 1 && (l.beginsWith("to") || l.beginsWith("into")) &&
		c.untouched(named[0]) &&
		c.behaves(named[0], pantry.Liquid) {
		list = append(unput, list...) // "add to the boiling milk"
	}
	// "wash the rice, put in a dish with the sugar"
	if l.putsItself() || c.drainedInto(l, named, before) || l.verb == "cover" || c.addsToThat(l, list, before) {
		meant := c.asMeant(it, nil, before)
		list = append(meant, slices.DeleteFunc(list, func(m mention) bool {
			return m.item >= 0 && m.holder < 0 && slices.ContainsFunc(meant, func(b mention) bool { return b.item == m.item })
		})...)
	}
	return c.addList(l, list, before)
}

// drainedInto reports whether what was drained goes into what is in the pot, with something else: "drain the sago, add to the milk
// with the sugar".
func (c *cookery) drainedInto(l *clause, named, before []mention) bool {
	if l.verb != "add" || !l.beginsWith("to") && !l.beginsWith("into") || len(named) < 2 || len(c.unputGrain(before)) == 0 {
		return false
	}
	with := l.find("with")
	return with >= 0 && named[0].at < with && slices.Contains(c.held(), named[0].item) && named[1].at > with
}

// heatsAhead is said of what goes over a flame next.
var heatsAhead = regexp.MustCompile(`\b(?:bring|simmer|boil|cook|heat)\b`)

// withItsFat adds to what was fried the fat that it was fried in, and to that what was: "tip them with their ghee over the
// pudding", "pour over, ghee and all".
func (c *cookery) withItsFat(l *clause, named []mention) []mention {
	if !fatToo.MatchString(l.text()) {
		return named
	}
	l.has("and all", "their", "its")
	if len(named) > 0 && !slices.ContainsFunc(named, func(m mention) bool { return !c.isFryingFat(m) }) {
		return goingIn(append(c.friedNow(), named...))
	}
	for _, m := range named {
		if m.holder < 0 || slices.ContainsFunc(named, c.isFryingFat) {
			continue
		}
		if fat := c.fryingFat(c.holders[m.holder].name); fat >= 0 {
			return goingIn(append(slices.Clone(named), allOf(fat)))
		}
	}
	return named
}

// goingIn puts what is meant before all that a clause names: it is what goes in, and not where.
func goingIn(list []mention) []mention {
	for k := range list {
		list[k].at = -1
	}
	return list
}

// fatToo is said of fat that goes in with what was fried in it.
var fatToo = regexp.MustCompile(`\b(?:with|and) (?:all )?(?:their|its|the|that) (?:hot |same |fragrant |melted |frying )?` +
	`(?:ghee|butter|fat|oil)\b|\b(?:ghee|butter|fat|oil) and all\b`)

// poursPudding pours what was cooked over what lies in a dish: "slice the bananas into a dish and pour the custard over".
func (c *cookery) poursPudding(l *clause) bool {
	other := c.otherPot()
	if !c.inDish() || other < 0 || c.cooked() || !namesNothing(c, l) || !puddingOver.MatchString(l.asked().text()) {
		return false
	}
	l.readAll()
	return c.put([]mention{allOf(other)}, plan.Step{})
}

// puddingOver is said of all that was cooked.
var puddingOver = regexp.MustCompile(`^(?:on )?(?:the |your )?(?:hot |warm |cooled )?(?:custard|pudding|rice|mixture|porridge|cream|` +
	`sauce) over\b`)

// tossesForTop remembers what is tossed together to go over the pudding in the same sentence: "dice the mango, toss with the lime
// juice and spoon over".
func (c *cookery) tossesForTop(l *clause, before []mention) bool {
	with := l.beginsWith("with") || l.beginsWith("it with") || l.beginsWith("them with")
	if !with || l.verb != "toss" && l.verb != "mix" || len(before) == 0 ||
		slices.ContainsFunc(before, func(m mention) bool {
			return m.item < 0 || !c.unput(m) || !c.said[m.item] || c.behaves(m, pantry.Grain)
		}) {
		return false
	}
	if overSaid.MatchString(c.ahead) {
		c.last = append(slices.Clone(before), c.mentions(l)...)
		return true
	}
	fruit := c.material(before[0].item)
	const most = 3
	if dressings := len(c.unused(l)); len(before) != 1 || dressings == 0 || dressings > most || fruit.Kind != "fruit" ||
		!c.namedLater(before[0].item) || warmsIt.MatchString(c.ahead) ||
		cooksIt.MatchString(c.ahead) {
		return false
	}
	for _, dressing := range c.mentions(l) { // "dice the mango and mix with the lime juice ... top with the mango"
		if dressing.item >= 0 && dressing.share > 0 {
			c.dressed[before[0].item] = append(c.dressed[before[0].item], dressing)
			c.reserved[dressing.item] = dressing.share
			delete(c.said, dressing.item)
		}
	}
	c.last = before
	return true
}

// cooksIt is said of what is not served as it is.
var cooksIt = regexp.MustCompile(`\b(?:cook|boil|put|place|bake|roast|stew|poach|add|tip|pour)\b`)

// overSaid is said of what goes on top.
var overSaid = regexp.MustCompile(`\b(?:over|on top|top with|scatter)\b`)

// fillsGreased pours the pudding into the dish that its sentence has buttered: "butter a dish, pour in the mixture and bake".
func (c *cookery) fillsGreased(l *clause) bool {
	if c.greased != c.now || c.now < 0 || len(c.held()) == 0 || c.inDish() || c.next != nil || !namesNothing(c, l) ||
		!fillsIt.MatchString(l.asked().text()) ||
		!slices.Contains([]string{"pour", "tip", "turn", "spoon", "scrape", "put", "transfer", "ladle"}, l.verb) {
		return false
	}
	from := c.at
	c.open([]string{"dish"})
	l.readAll()
	return c.put([]mention{allOf(from)}, plan.Step{})
}

// fillsIt is said of all that is in the pot.
var fillsIt = regexp.MustCompile(`^(?:in |into it )?(?:all )?(?:the |this )?(?:hot |whole )?` +
	`(?:(?:rice |milk )?mixture|pudding|rice|it|everything|custard|batter|porridge)?(?: in| into it)?[ ,and]*$`)

// poursRest pours what is left in a pan, of which some was kept, into another: "stir the rest into the rice".
func (c *cookery) poursRest(l *clause) bool {
	rest := l.find("the rest")
	if rest < 0 || rest+2 < len(l.words) && !behindRest[l.words[rest+2].text] || c.at < 0 || len(c.steps) == 0 || c.next != nil {
		return false
	}
	last := &c.steps[len(c.steps)-1]
	if last.Do != plan.Mix || len(last.Items) != 1 || last.Items[0].Pot != c.holders[c.at].name {
		return false
	}
	list, into := c.goesInto(l, append(goingIn([]mention{allOf(c.at)}), c.mentions(l)...))
	if main := c.mainPot(); into == c.at && main != c.at {
		into = main
	}
	if into < 0 || into == c.at || !c.holders[into].pot {
		return false
	}
	c.at = into
	l.has("the rest")
	return c.put(list, plan.Step{})
}

// behindRest is what may stand behind "the rest" of what was named before.
var behindRest = wordSet(", to into in over onto on and with")

// toAnother puts something into a liquid that is in no pot yet: beside the pot, or in a pan of its own if it is warmed there.
func (c *cookery) toAnother(l *clause, named []mention) bool {
	const two = 2
	towards := max(l.find("to"), l.find("into"))
	if len(named) != two || towards < 0 || !c.cooked() || c.next != nil || !slices.Contains([]string{"add", "stir", "mix"}, l.verb) {
		return false
	}
	what, into := named[0], named[1]
	if what.at > towards || into.at < towards || what.share <= 0 || what.holder >= 0 || !c.untouched(into) || into.share < 1 ||
		c.material(into.item) == nil || !pours(c.material(into.item)) {
		return false
	}
	if warmsIt.MatchString(c.text[c.now]) {
		c.next = []string{}
		return c.put([]mention{into, what}, plan.Step{})
	}
	c.stirBeside(l, "mixture", []mention{into, what}, nil)
	return true
}

// toHotFat moves what is in the pot into a pan in which fat is hot: "heat the ghee in a pan, add the drained rice".
func (c *cookery) toHotFat(l *clause, named []mention) bool {
	moves := slices.Contains([]string{"add", "toss", "tip", "turn", "put", "return"}, l.verb) && l.find("to") < 0 && l.find("into") < 0
	if !moves || !c.movesToFat(named) {
		return false
	}
	if minutes := l.minutes(); minutes > 0 {
		c.heat(l, vessel.Medium, plan.Until{Minutes: &minutes}) // "toss the rice in it for 2 minutes"
	}
	return true
}

// movesToFat does it, if what is named is in the pot, and fat is hot in another; a syrup may come with it.
func (c *cookery) movesToFat(named []mention) bool {
	if c.fat == nil || !c.pan || c.next != nil || c.at < 0 || len(named) == 0 {
		return false
	}
	others := slices.DeleteFunc(slices.Clone(named), func(m mention) bool {
		return m.item >= 0 && m.share <= 0 && slices.Contains(c.held(), m.item) || m.item < 0 && m.holder == c.at
	})
	beside := func(m mention) bool { return m.holder >= 0 && !c.holders[m.holder].pot }
	if len(others) == len(named) || slices.ContainsFunc(others, func(m mention) bool { return !beside(m) }) {
		return false
	}
	fat, from := *c.fat, c.at
	c.fat, c.pan, c.next = nil, false, []string{}
	return c.put(append([]mention{fat, allOf(from)}, others...), plan.Step{})
}

// warmsIt is said of what is warmed in a pan of its own.
var warmsIt = regexp.MustCompile(`(?i)\b(?:warm|heat|simmer|bring)\b`)

// unputGrain is what was named before and got ready, and is in no pot yet.
func (c *cookery) unputGrain(before []mention) (list []mention) {
	for _, m := range before {
		if m.item >= 0 && c.unput(m) && len(c.preparations[m.item]) > 0 && c.behaves(m, pantry.Grain) {
			list = append(list, mention{item: m.item, share: 1, holder: -1})
		}
	}
	return list
}

// sweetensThat turns to the pot that is to be sweetened or flavoured, if that is another: "sweeten the rice with the other half".
func (c *cookery) sweetensThat(l *clause, named []mention) []mention {
	with := l.find("with")
	if !slices.Contains([]string{"sweeten", "flavour", "flavor", "season", "spice"}, l.verb) || len(named) == 0 || named[0].at > with {
		return named
	}
	if h := named[0].holder; h >= 0 && c.holders[h].pot && h != c.at {
		c.at, c.next = h, nil
		return named[1:]
	}
	return named
}

// backToMain pours what the sentence has heated in a pan of its own into the pudding: "bring the milk to the boil and pour it in".
func (c *cookery) backToMain(l *clause, named []mention) bool {
	last, main := len(c.steps)-1, c.mainPot()
	pours := slices.Contains([]string{"pour", "add", "tip", "stir"}, l.verb) && (l.find("it in") >= 0 || l.find("this in") >= 0 ||
		strings.HasSuffix(l.text(), " it"))
	if !pours || len(named) > 0 || last < 0 || main < 0 || c.at < 0 || c.at == main || c.next != nil || c.steps[last].Do != plan.Heat ||
		c.steps[last].Pot != c.holders[c.at].name {
		return false
	}
	if c.madeBy(last) != c.now {
		return false
	}
	from := c.at
	c.at = main
	l.has("it in", "this in")
	return c.put([]mention{allOf(from)}, plan.Step{Slowly: l.find("slowly") >= 0 || l.find("gradually") >= 0})
}

// sauces makes a sauce of what is left of a liquid that a later sentence pours over: "season the rest of the coconut milk with the
// salt".
func (c *cookery) sauces(l *clause, named []mention) bool {
	const ahead, two = 2, 2
	seasons := slices.Contains([]string{"season", "salt", "sweeten", "mix", "stir", "whisk", "flavour", "thicken"}, l.verb)
	if !seasons || len(named) < two || !c.cooked() || c.next != nil || named[0].item < 0 || named[0].share <= 0 || named[0].holder >= 0 {
		return false
	}
	m := c.material(named[0].item)
	other := func(one mention) bool {
		of := c.material(one.item)
		seasons := of != nil && (c.sweetens(one.item) || of.Behaviour == pantry.Aroma || of.Behaviour == pantry.Flour || of.Slug == "salt")
		return !seasons || one.share <= 0
	}
	if m == nil || !pours(m) || slices.ContainsFunc(named[1:], other) {
		return false
	}
	over := slices.ContainsFunc(c.later(ahead), func(text string) bool {
		return slices.ContainsFunc(c.namedIn(overIt.FindString(text)), func(group []int) bool { return slices.Contains(group, named[0].item) })
	})
	if !over {
		return false
	}
	if warmsIt.MatchString(c.text[c.now]) {
		c.next = []string{}
		return c.put(named, plan.Step{})
	}
	c.stirBeside(l, "sauce", named, nil)
	return true
}

// overIt is said of what is poured over at the table.
var overIt = regexp.MustCompile(`(?i)\b(?:pour|spoon|drizzle|ladle|trickle)\b[^.;]*\b(?:over|on top|around)\b`)

// bothPots pours what is in one pot to what is in the other: "mix the two together".
func (c *cookery) bothPots(l *clause, named []mention) bool {
	other := c.otherPot()
	if c.bothInto(l, named) {
		return true
	}
	known := slices.ContainsFunc(named, func(m mention) bool { return m.item < 0 || m.share <= 0 || m.holder >= 0 })
	if other < 0 || known || !l.has("both together", "the two together", "both", "the two", "two mixtures") {
		return false
	}
	from := max(c.at, other)
	c.at = min(c.at, other)
	return c.put(append([]mention{allOf(from)}, named...), plan.Step{})
}

// bothInto puts the two things that wait beside the pudding into it: "add both to the rice with the sugar".
func (c *cookery) bothInto(l *clause, named []mention) bool {
	const two = 2
	main := c.mainPot()
	if at := l.find("both"); main < 0 || at < 0 || len(named) == 0 || at+1 < len(l.words) && !behindBoth[l.words[at+1].text] {
		return false
	}
	var list []mention
	for h := range c.holders {
		if one := &c.holders[h]; h != main && one.left >= fullyUsed && len(one.items) > 0 && !strings.HasSuffix(one.name, ".fat") {
			list = append(list, allOf(h))
		}
	}
	if len(list) != two || slices.ContainsFunc(named, func(m mention) bool { return m.holder >= 0 && m.holder != main }) {
		return false
	}
	l.has("both")
	c.at, c.next = main, nil
	return c.put(append(list, slices.DeleteFunc(named, func(m mention) bool { return m.item >= 0 && m.share <= 0 || m.holder == main })...),
		plan.Step{})
}

// addList puts what a clause means into the pot, a bowl or a dish.
func (c *cookery) addList(l *clause, list, before []mention) (fine bool) {
	mixed := c.mixedLast()
	intoIt := c.inHolder(list, c.at) || l.find("pudding") >= 0 || l.find("mixture") >= 0
	if mixed >= 0 && intoIt && l.beginsWith("into") && !c.inHolder(list, mixed) && c.anyNew(list) {
		list = slices.DeleteFunc(list, func(m mention) bool { return m.item >= 0 && m.share <= 0 || m.holder == c.at })
		return c.put(append([]mention{allOf(mixed)}, list...), plan.Step{}) // "stir into the rice with the raisins"
	}
	if c.meltsBeside(l, list) || c.bowl(l, list) || l.verb == "dissolve" && len(c.held()) > 0 && c.melts(l, list) {
		return true
	}
	c.ofAPan(l, list)
	list = c.boilsFirst(l, list)
	dish := func(w *token) bool { return w.one == "dish" || w.one == "tin" }
	if l.verb == "layer" && len(c.held()) > 0 && slices.ContainsFunc(l.words, dish) {
		return c.layer(l, list)
	}
	if mixed := c.mixedLast(); mixed >= 0 && len(list) > 0 && l.find("into") < 0 && c.inHolder(list, c.at) &&
		(!c.anyNew(list) || c.lastCooked() == plan.Drain || l.beginsWith("with")) {
		return c.put(append([]mention{allOf(mixed)}, list...), plan.Step{}) // "fold in the sago": one goes into the other
	}
	return c.addInto(l, list, before)
}

// meltsBeside makes a syrup beside what is cooking: "mix the jaggery with a cup of water and heat until it dissolves".
func (c *cookery) meltsBeside(l *clause, list []mention) bool {
	const two = 2
	to := l.find("to") // "add a cup of water to the jaggery"
	onto := to >= 0 && len(list) == two && list[0].at < to && list[1].at > to && list[1].share > 0 && c.sweetens(list[1].item)
	if !c.cooked() || len(list) != two || !onto && (to >= 0 || !slices.Contains([]string{"mix", "combine", "take", "put", "place"}, l.verb)) ||
		l.find("into") >= 0 || !dissolves.MatchString(strings.Join(c.text[c.now:min(c.now+two, len(c.text))], " ")) ||
		!syrupLater.MatchString(strings.Join(c.later(0), " ")) {
		return false
	}
	l.verb = "dissolve"
	return c.melts(l, list)
}

// syrupLater is said of a syrup that goes in later.
var syrupLater = regexp.MustCompile(`(?i)\bsyrup\b|\b(?:strain|filter|sieve) (?:it|this|and|to|through)\b|` +
	`\b(?:melted|dissolved|strained) (?:[a-z]+ )?(?:jaggery|sugar)\b`)

// dissolves is said of what melts in water over a flame.
var dissolves = regexp.MustCompile(`(?i)\b(?:heat|boil|warm|cook|simmer|stir)\b[^.;]*\b(?:melt|dissolv)`)

// addSteeped leaves beside the pot what steeps there, or puts in what its sentence has steeped: "soak the saffron in a spoon of
// milk for 10 minutes and add it".
func (c *cookery) addSteeped(l *clause, before []mention) (done, fine bool) {
	bare := l.lead >= len(l.words) || l.find("it") >= 0 || l.find("them") >= 0 || l.beginsWith("to")
	if c.steeps == c.now && len(c.held()) > 0 && l.beginsWith("with") && l.verb == "add" { // "soak the saffron, add with the cardamom"
		c.steeps = -1
		return true, c.put(append(c.asMeant(it, nil, before), c.mentions(l)...), plan.Step{})
	}
	if c.steeps == c.now && len(c.held()) > 0 && bare && namesNothing(c, l) {
		c.steeps = -1
		l.has("to the pot", "to the pan", "to the milk", "to it", "pot", "pan")
		return true, c.put(c.asMeant(it, nil, before), plan.Step{})
	}
	if c.steeps == c.now || c.steepsBeside(l) {
		solid := slices.DeleteFunc(c.unused(l), func(m mention) bool { return !c.behaves(m, pantry.Aroma) })
		c.steep(l)
		c.remember(solid)
		return true, true
	}
	return false, false
}

// warmsBowl reports whether a clause stirs some of what is hot into a bowl beside the pot: "loosen with a ladle of the hot milk".
func (c *cookery) warmsBowl(l *clause, named []mention) bool {
	if slices.Contains([]string{"loosen", "thin", "temper", "slacken", "dilute"}, l.verb) {
		return !c.anyNew(named)
	}
	said := l.asked().text()
	ofPot := someOfThat.MatchString(said) && c.namesHeld(said)
	return (slices.Contains(stirredBeside, l.verb) && (someOfTheHot.MatchString(said) || ofPot) ||
		(l.verb == "add" || l.verb == "pour") && ladleOfTheHot.MatchString(said)) && namesNothing(c, l)
}

// addsToThat reports whether a clause adds water to what its sentence has got ready: "grate the jaggery, add a cup of water".
func (c *cookery) addsToThat(l *clause, list, before []mention) bool {
	toasted := func(m mention) bool {
		return slices.ContainsFunc(before, func(b mention) bool { return b.item == m.item }) && c.unput(m)
	}
	return l.verb == "add" && len(c.held()) == 0 && len(list) > 0 && len(before) > 0 && !slices.ContainsFunc(list, func(m mention) bool {
		return m.item < 0 || c.given[m.item].Item.Material != "water" && !toasted(m)
	}) && !slices.ContainsFunc(before, func(m mention) bool {
		return m.item < 0 || !c.said[m.item] && !drainsFirst.MatchString(c.text[c.now]) || !c.unput(m) || c.saidLater(l, m.item)
	})
}

// drainsFirst is said of what stood in water until then: "drain, add 2 cups of fresh water and cook".
var drainsFirst = regexp.MustCompile(`(?i)^(?:then |now )?(?:drain|rinse|strain)\b`)

// unput reports whether something of the list is in nothing yet.
func (c *cookery) unput(m mention) bool { return m.holder < 0 && c.used[m.item] == 0 }

// someOfTheHot is said of what warms a bowl beside the pot: "stir in some of the hot mixture".
var someOfTheHot = regexp.MustCompile(`^in (?:an? |some |half |two |three |\d )[a-z ]{0,30}?\b(?:hot|warm|boiling|simmering)\b`)

// someOfThat is the same where it is not said how hot it is: "mix in a spoonful of the rice".
var someOfThat = regexp.MustCompile(`^in (?:an? |some |two |three |\d )?(?:spoons?|spoonfuls?|tablespoons?|ladles?|ladlefuls?|` +
	`little) of the\b`)

// ladleOfTheHot is the same of what is poured: "add a ladleful of the hot milk".
var ladleOfTheHot = regexp.MustCompile(`^(?:in )?(?:an? |some |two |three |half a |\d )[a-z ]*\b(?:of )?the (?:hot|warm|boiling|` +
	`simmering)\b`)

// steep leaves beside the pot what is steeped: it goes in by its name.
func (c *cookery) steep(l *clause) {
	l.readAll()
	c.steeps = c.now
	c.steeped[c.now] = true
}

// friedFirst fries what a clause says is fried: "season with the nuts fried in the ghee".
func (c *cookery) friedFirst(l *clause, named []mention) []mention {
	bare := (l.find("fried") >= 0 || l.find("ghee roasted") >= 0 || l.find("roasted in ghee") >= 0) && c.fatIsLeft()
	if l.match(friedInFat) == nil && !bare || !c.hasPieces(named) {
		return named
	}
	l.has("ghee roasted", "fried")
	return c.friedPieces(l, named)
}

// hasPieces reports whether any of these is a thing in pieces, such as nuts.
func (c *cookery) hasPieces(list []mention) bool {
	return slices.ContainsFunc(list, func(m mention) bool { return c.behaves(m, pantry.Piece) && m.share > 0 })
}

// friedPieces fries what is named and puts what was fried in the place of the pieces and the fat.
func (c *cookery) friedPieces(l *clause, list []mention) []mention {
	known := len(c.holders)
	if c.fryThese(l, list); len(c.holders) == known {
		return list
	}
	others := slices.DeleteFunc(list, func(m mention) bool { return c.behaves(m, pantry.Piece) || c.behaves(m, pantry.Fat) })
	return append(others, c.lastHeld()...)
}

// intoThat is said of what goes into the pudding with something else.
var intoThat = regexp.MustCompile(`^(?:in|into|to|over) (?:the |your )?[a-z]+ (?:together |along )?with\b`)

// friedInFat is said of what is fried first: "finish with cashews browned in the ghee".
var friedInFat = regexp.MustCompile(`\b(?:fried|browned|crisped|sizzled) in\b|` +
	`\b(?:roasted|toasted) in (?:the |a little |some |hot )*(?:ghee|butter|oil|fat)\b`)

// lastHeld is what was named last, as far as something holds it.
func (c *cookery) lastHeld() []mention {
	return slices.DeleteFunc(slices.Clone(c.last), func(m mention) bool { return m.holder < 0 })
}

// fatIsLeft reports whether the list has fat of which nothing is in a pot yet.
func (c *cookery) fatIsLeft() bool {
	for i := range c.given {
		if c.used[i] == 0 && c.behaves(mention{item: i}, pantry.Fat) {
			return true
		}
	}
	return false
}

// untouched reports whether something of the list is as it was bought.
func (c *cookery) untouched(m mention) bool {
	return m.item >= 0 && m.holder < 0 && c.used[m.item] == 0 && len(c.preparations[m.item]) == 0
}

// ofAPan opens another pot for what is put into one: "take the jaggery in a pan".
func (c *cookery) ofAPan(l *clause, list []mention) {
	if !slices.Contains([]string{"take", "put", "place", "combine", "melt", "add"}, l.verb) {
		return
	}
	if k := l.newPan(); k >= 0 && l.words[k].one != "bowl" && l.words[k].one != "dish" && l.words[k].one != "casserole" {
		c.aside(l, list)
	}
}

// layer fills a dish with what is in the pot and what is named.
func (c *cookery) layer(l *clause, list []mention) bool {
	from := c.at
	c.open([]string{"dish"})
	l.has("dish", "baking dish", "baking")
	return c.put(append(list, allOf(from)), plan.Step{})
}

// addInto finds the pot or bowl that things go into, and puts them there.
func (c *cookery) addInto(l *clause, list, before []mention) (fine bool) {
	list, into := c.goesInto(l, list)
	if len(list) == 0 && c.next == nil {
		l.has("into the sauce", "to the sauce", "into the pan", "to the pan", "into the pot", "to the pot")
	}
	if len(list) == 0 && len(unread(l.words)) == 0 && (l.verb != "stir" && l.verb != "mix" || l.find("into") >= 0) { // "fold into the rice"
		list = c.asMeant(it, nil, before)
	}
	elsewhere := into >= 0 && into != c.at && c.next == nil
	switch {
	case elsewhere && strings.HasSuffix(c.holders[into].name, ".fat"):
		return c.put(append([]mention{allOf(into)}, list...), plan.Step{}) // "to the same ghee"
	case elsewhere && !c.holders[into].pot:
		return c.temper(l, list, into)
	case elsewhere:
		if c.meansPot(l, before) {
			list = append([]mention{allOf(c.at)}, list...)
		}
		list = c.pourInto(list, into)
	default:
		from, share := c.pouredOut(l, list)
		if from < 0 {
			break
		}
		list = []mention{{item: -1, share: share, holder: from}}
		if share < 1 {
			defer func() { c.last = []mention{allOf(from)} }()
		}
	}
	if c.toFry(list) {
		return true
	}
	if c.onlyNuts(list) && c.anyNew(list) && c.nutsComeOut() && (c.fat != nil || c.takesBackFat()) {
		c.fryThese(l, list) // "heat the ghee. Add the cashews. Fry until golden. Remove"
		return true
	}
	if last := len(c.steps) - 1; last >= 0 && c.steps[last].Do == plan.Fry && (c.any(list, pantry.Grain) || c.any(list, pantry.Flour) ||
		c.any(list, pantry.Tissue)) && (l.find("to the pan") >= 0 || l.find("to the same pan") >= 0 || l.find("to the pot") >= 0 ||
		len(c.held()) == 0 && c.next == nil && !slices.ContainsFunc(list, c.isFat) && c.friesThen()) {
		if fat := c.fryingFat(c.steps[last].Name); fat >= 0 {
			list = append([]mention{allOf(fat)}, list...) // "fry the raisins, set aside. Add the vermicelli to the pan"
		}
	}
	if syrup := c.boilingSyrup(); syrup >= 0 && len(c.held()) == 0 && c.next == nil && len(list) > 0 && !c.inHolder(list, syrup) &&
		!slices.ContainsFunc(list, func(m mention) bool { return m.item >= 0 && c.given[m.item].Item.Material == "water" }) {
		list = append([]mention{allOf(syrup)}, list...) // "bring the syrup to a boil. Add the flour mixture"
	}
	if c.fat != nil && c.pan && c.next == nil && c.anyNew(list) { // "melt the butter in a frying pan, add the apples"
		c.next = []string{}
	}
	return c.goesIn(l, list)
}

// friesThen reports whether what goes in is fried first, by this sentence or the next: "add the beetroot and saute".
func (c *cookery) friesThen() bool {
	return friedThen.MatchString(c.ahead) || len(c.later(1)) > 0 && c.ahead == "" && friedThen.MatchString(c.later(1)[0])
}

var friedThen = regexp.MustCompile(`(?i)^ ?(?:saut[eé]|roast|fry|toast)\b`)

// meansPot reports whether "it" and "them" are what is in the pot, and go into another: "cook the rice in water and drain. Put it
// into the hot milk with the salt".
func (c *cookery) meansPot(l *clause, before []mention) bool {
	it := max(l.find("it"), l.find("them"))
	return it >= 0 && it < max(l.find("into"), l.find("to")) && slices.ContainsFunc(before, func(m mention) bool {
		return m.item >= 0 && slices.Contains(c.held(), m.item) && !c.behaves(m, pantry.Liquid)
	})
}

// boilingSyrup is a syrup that was brought to the boil and is in nothing yet, and in which what comes next is cooked; -1 for none.
func (c *cookery) boilingSyrup() int {
	last := len(c.steps) - 1
	if last < 0 || c.steps[last].Do != plan.Melt {
		return -1
	}
	at := c.madeBy(last)
	h := slices.IndexFunc(c.holders, func(h holder) bool { return h.name == c.steps[last].Name && h.left >= fullyUsed })
	if at < 0 || h < 0 || !syrupBoils.MatchString(c.text[at]) && !c.syrupGoesOn(h, at) {
		return -1
	}
	return h
}

// syrupGoesOn reports whether what comes next can only go into a syrup: it was made just now, was not put aside, and nothing that
// follows speaks of it: "melt the jaggery in the water and strain. Add the rice and cook for 5 minutes".
func (c *cookery) syrupGoesOn(h, madeAt int) bool {
	const recent = 2 // sentences
	later := strings.Join(append([]string{c.ahead}, c.later(0)...), " . ")
	return madeAt >= c.now-recent && !asideSaid.MatchString(c.text[madeAt]) && !syrupLater.MatchString(later) &&
		!slices.ContainsFunc(c.namedIn(later), func(group []int) bool { return slices.Contains(c.holders[h].items, group[0]) })
}

// asideSaid is said of what waits until it is wanted.
var asideSaid = regexp.MustCompile(`(?i)\b(?:aside|keep|meanwhile|separately|reserve|ready)\b`)

// syrupBoils is said of a syrup that is boiling, and waits for what comes.
var syrupBoils = regexp.MustCompile(`(?i)\b(?:to (?:a|the) (?:rolling )?boil|boiling|boils)\.?$`)

// steepsBeside reports whether a clause takes some of a liquid into a bowl, for what is steeped in it: "take a spoon of the
// warm milk in a bowl". It goes back into the pot by the name of what is in it.
func (c *cookery) steepsBeside(l *clause) bool {
	const little = 0.15 // of what the list has
	named := c.unused(l)
	if spoonOf.MatchString(l.text()) && c.comesBack(named) {
		return true
	}
	flavours := !slices.ContainsFunc(named, func(m mention) bool { return !c.behaves(m, pantry.Aroma) && !c.behaves(m, pantry.Liquid) })
	if spoonOf.MatchString(l.text()) && flavours && len(c.held()) > 0 && addsIt.MatchString(c.ahead) && c.any(named, pantry.Aroma) {
		return true // "mix the saffron in a spoon of warm milk and add"
	}
	some := slices.ContainsFunc(named, func(m mention) bool { return c.behaves(m, pantry.Liquid) && m.share < little })
	return (len(c.held()) > 0 || some) && slices.Contains([]string{"take", "put", "pour", "mix"}, l.verb) &&
		!slices.ContainsFunc(named, func(m mention) bool {
			return !c.behaves(m, pantry.Aroma) && !(c.behaves(m, pantry.Liquid) && m.share < little)
		}) &&
		slices.ContainsFunc(l.words, func(w *token) bool { return w.one == "bowl" || w.one == "cup" || w.one == "katori" }) &&
		slices.ContainsFunc(l.words, func(w *token) bool {
			return w.one == "tbsp" || w.one == "tablespoon" || w.one == "spoon" || w.one == "little"
		})
}

// spoonOf is said of what steeps in a little of what is in the pot: "crumble the saffron into 2 tablespoons of the hot milk".
var spoonOf = regexp.MustCompile(`\b(?:in|into|with) (?:an? |the |about |[\d/]+ |two |three |four )?` +
	`(?:little|bit|splash|spoon|spoons|spoonful|tablespoons?|tbsp|teaspoons?|tsp|ladle|ladleful)\b.*\b(?:milk|cream|water)\b`)

// addsIt is said of what goes in at once.
var addsIt = regexp.MustCompile(`^ ?(?:add|stir in|mix in|pour in|pour)\b`)

// comesBack reports whether all that is named flavours, and a later sentence puts it in by its name: "the saffron milk".
func (c *cookery) comesBack(list []mention) bool {
	if len(c.held()) == 0 {
		return false
	}
	later := strings.ToLower(strings.Join(c.later(0), " "))
	solid := 0
	for _, m := range list {
		switch {
		case c.behaves(m, pantry.Liquid):
			continue
		case !c.behaves(m, pantry.Aroma) || !slices.ContainsFunc(c.names[m.item], func(name string) bool {
			return strings.Contains(later, name)
		}):
			return false
		}
		solid++
	}
	return solid > 0
}

// whipped is the bowl of egg or cream that the sentence before has beaten, and that a clause goes on to beat: "gradually beat in
// the remaining sugar"; -1 for none.
func (c *cookery) whipped(l *clause) int {
	bowl := c.mixedLast()
	beatsIn := slices.Contains([]string{"beat", "whisk", "whip"}, l.verb) && l.beginsWith("in")
	if bowl < 0 || !beatsIn && (l.verb != "add" || !beatsOn.MatchString(c.ahead)) {
		return -1
	}
	if at := c.madeBy(len(c.steps) - 1); at != c.now-1 || !beatenFirst.MatchString(c.text[at]) {
		return -1
	}
	return bowl
}

// beatsOn is said of egg or cream that is beaten on when something has gone in.
var beatsOn = regexp.MustCompile(`\b(?:beat|whisk|whip|beating|whisking|whipping)\b.*\b(?:peaks?|stiff|glossy|firm|thick|pale)\b`)

// beatenFirst is said of what is beaten beside the pot.
var beatenFirst = regexp.MustCompile(`(?i)\b(?:beat|whip|whisk)\b`)

// bowlOfSentence is the bowl that this sentence has stirred together, or the one before if nothing is in the pot yet; -1 for
// none.
func (c *cookery) bowlOfSentence() int {
	bowl := c.mixedLast()
	if bowl < 0 {
		return -1
	}
	if at := c.madeBy(len(c.steps) - 1); at != c.now && (at < c.now-1 || len(c.held()) > 0) {
		return -1
	}
	return bowl
}

// mixedLast is the bowl that the last step stirred together, if nobody has poured it; -1 for none.
func (c *cookery) mixedLast() int {
	last := len(c.steps) - 1
	if last < 0 || c.steps[last].Do != plan.Mix {
		return -1
	}
	return slices.IndexFunc(c.holders, func(h holder) bool { return h.name == c.steps[last].Name && h.left > 0 })
}

// goesOnStirring reports whether a clause goes on with what is being stirred together, and names no pot.
func (l *clause) goesOnStirring() bool {
	if l.beginsWith("them in") || l.beginsWith("them under") || l.beginsWith("it in") || l.beginsWith("it under") {
		return false // "fold them in with the vanilla"
	}
	if l.verb == "fold" && (l.beginsWith("in with") || l.beginsWith("in together with") || l.beginsWith("in along with")) {
		return false // "fold in together with the cherries"
	}
	return slices.Contains([]string{"work", "beat", "whisk", "stir", "mix", "fold", "sift", "add"}, l.verb) &&
		!slices.ContainsFunc(l.words, func(w *token) bool {
			return w.one == "pan" || w.one == "pot" || w.one == "saucepan" || w.text == "to" || w.text == "into" || w.text == "onto"
		})
}

// behindIn may stand behind "stir in" where it is what was named before that goes in.
var behindIn = wordSet(", and off the heat away from at end well too together flame fire last now")

// putsItself reports whether a clause says only where something goes: it is what was named before.
func (l *clause) putsItself() bool {
	in := l.beginsWith("in") || l.beginsWith("through") && (l.verb == "stir" || l.verb == "fold" || l.verb == "swirl")
	if l.verb == "add" && l.beginsWith("with") || in && !slices.ContainsFunc(l.words[l.lead+1:], func(w *token) bool {
		return !behindIn[w.text] && !strings.HasSuffix(w.text, "ly")
	}) { // "fry the nuts and mix in", "beat the eggs and stir in off the heat"
		return true
	}
	switch said := l.asked().text(); l.verb {
	case "mix", "fold", "toss", "stir", "whisk", "beat":
		if inTogether.MatchString(said) || l.verb != "stir" && strings.HasPrefix(said, "in with ") {
			return true
		}
	}
	return slices.Contains([]string{"put", "tip", "place", "transfer", "return", "pour", "stir", "add"}, l.verb) &&
		inVessel.MatchString(l.asked().text())
}

// inTogether is said of what goes in with something else: "mash the banana and fold in, together with the syrup".
var inTogether = regexp.MustCompile(`^in (?:, )?(?:together|along) with `)

var intoBowl = regexp.MustCompile(`\binto an? (?:[a-z]+ ){0,3}bowl\b`)

var inVessel = regexp.MustCompile(`^(?:to the [a-z]+ )?(?:(?:in|along|together) )?with |` +
	`^(?:back )?(?:in|into|to|on)(?: to)?(?: an?| the)?(?: [a-z0-9/,-]+){0,5}? (?:dish|pan|pot|saucepan|cooker|bowl|casserole|tin)\b`)

// toAdd is what a clause names to go in.
func (c *cookery) toAdd(l *clause, before []mention) []mention {
	named := c.mentions(l)
	if l.verb == "sweeten" && len(named) == 0 {
		named = c.sweeteners()
	}
	if len(c.held()) == 0 && slices.Contains([]string{"add", "pour", "stir", "tip", "put"}, l.verb) {
		named = append(named, c.toasted(before, named)...)
	}
	named = append(named, c.otherHalf(l)...)
	if l.verb == "add" || l.verb == "mix" || l.verb == "sift" {
		c.optional(l, named)
	}
	return named
}

// otherHalf is what is left of the one thing that is partly in: "add the other half".
func (c *cookery) otherHalf(l *clause) (list []mention) {
	if half := l.find("other half"); half < 0 || half+2 < len(l.words) && l.words[half+2].text == "of" {
		return nil // "the other half of the sugar" is found with the sugar
	}
	for i := range c.given {
		if c.used[i] > 0 && c.used[i] < 1 {
			list = append(list, mention{item: i, share: 1 - c.used[i], holder: -1})
		}
	}
	if len(list) != 1 {
		return nil
	}
	l.has("the other half", "other half")
	return list
}

// boilsFirst boils what is boiling when the rest goes in, where the pot is empty: "add the sago to the boiling water".
func (c *cookery) boilsFirst(l *clause, list []mention) []mention {
	if len(c.held()) > 0 || l.find("boiling") < 0 || l.find("boiling")+1 >= len(l.words) {
		return list
	}
	next := l.words[l.find("boiling")+1].one
	liquid := slices.DeleteFunc(slices.Clone(list), func(m mention) bool { return !c.behaves(m, pantry.Liquid) || m.share <= 0 })
	rest := slices.DeleteFunc(slices.Clone(list), func(m mention) bool { return c.behaves(m, pantry.Liquid) })
	if next != "water" && next != "milk" && next != "coconut" || len(liquid) == 0 || !c.any(rest, pantry.Grain) {
		return list
	}
	l.has("boiling")
	c.put(liquid, plan.Step{})
	c.emit(plan.Step{Do: plan.Heat, Flame: vessel.High, Stir: plan.StirOften, Until: &plan.Until{Boil: true}})
	return rest
}

// pourInto turns to another pot, with what the present one holds if that is named.
func (c *cookery) pourInto(list []mention, into int) []mention {
	from := c.at
	c.at = into
	if moved := c.inHolder(list, from); moved || len(list) == 0 {
		list = slices.DeleteFunc(list, func(m mention) bool { return m.item >= 0 && m.share <= 0 && m.holder < 0 })
		list = append(list, allOf(from))
	}
	return list
}

// pouredOut turns back to the first pot where all that is named is in the second: "gradually add the milk". from is
// the second, -1 where that is not so, and share how much of it goes in.
func (c *cookery) pouredOut(l *clause, list []mention) (from int, share float64) {
	other := c.otherPot()
	if other < 0 || other >= c.at || c.next != nil || len(list) == 0 || !c.inHolder(list, c.at) || c.anyNew(list) {
		return -1, 0
	}
	from, share = c.at, 1
	c.at = other
	for k, w := range l.words {
		if c.endsName(w.one) {
			share = c.partShare(l, k)
		}
	}
	return from, share
}

// goesIn makes the step, and what a clause says of what happens then.
func (c *cookery) goesIn(l *clause, list []mention) (fine bool) {
	step := plan.Step{Slowly: l.has("slowly", "gradually", "little by little", "thin stream", "slow stream", "bit by bit",
		"a little at a time", "a tablespoon at a time", "a spoonful at a time", "a spoon at a time", "a teaspoon at a time",
		"spoon by spoon", "spoonful by spoonful", "steady stream", "in batches")}
	if l.find("whisking") >= 0 || l.verb == "whisk" && len(list) > 0 {
		step.Manner = append(step.Manner, plan.Whisking)
	}
	if c.offHeat && len(c.held()) > 0 {
		step.Note = "off the heat"
	}
	put := c.put(list, step)
	if flame := l.flame(); put && flame != "" && (l.find("over") >= 0 || l.find("on") >= 0) {
		c.flame = flame // "put the milk in a pan over medium heat"
	}
	if put && l.verb == "dissolve" && !hotLiquid.MatchString(l.text()) &&
		slices.ContainsFunc(list, func(m mention) bool { return !c.behaves(m, pantry.Aroma) }) {
		minutes := fewMinutes
		c.emit(plan.Step{Do: plan.Heat, Flame: vessel.Simmer, Stir: plan.StirOften, Until: &plan.Until{Minutes: &minutes}})
		return true
	}
	restirred := !put && c.restirs(l)
	if len(c.held()) > 0 {
		if done, fine := c.goesOnCooking(l, put); done {
			return fine
		}
	}
	if put {
		l.sign()
		return true
	}
	if restirred || len(c.held()) > 0 && c.isInAlready(l, list) {
		return true
	}
	if l.waitsFor() && (l.verb == "stir" || l.verb == "mix") && !justMixed.MatchString(l.text()) {
		return false // "stir until it is as thick as you like it": that takes its time
	}
	return slices.Contains([]string{"stir", "mix", "move", "whisk", "beat", "return"}, l.verb) || len(list) > 0 && !c.anyNew(list)
}

// hotLiquid is said of what dissolves something by itself.
var hotLiquid = regexp.MustCompile(`\b(?:warm|hot|lukewarm|boiling) (?:[a-z]+ )?(?:water|milk)\b`)

// justMixed is said of what is stirred for a moment.
var justMixed = regexp.MustCompile(`\buntil\b.*\b(?:smooth|dissolv\w*|melt\w*|combined?|mixed|incorporated?|blend\w*|lumps?|even\w*|` +
	`uniform|distributed|light|pale|fluffy|frothy|free|disappear\w*|gone|in|through|together|well|all)\b`)

// restirs takes how something is stirred for the step before: "stir constantly".
func (c *cookery) restirs(l *clause) bool {
	stir, last := l.stirring(), len(c.steps)-1
	if stir == "" || l.verb != "stir" || last < 0 || c.steps[last].Do != plan.Heat {
		return false
	}
	c.steps[last].Stir = stir
	return true
}

// goesOnCooking heats what is in the pot after something went in, if the same clause says how long or until when. put tells
// whether something did.
func (c *cookery) goesOnCooking(l *clause, put bool) (done, fine bool) {
	const longest = 180 // minutes; what is longer stands somewhere
	stirs := l.verb == "stir" || l.verb == "whisk"
	minutes := l.minutes()
	switch {
	case !put && (c.flame != "" || l.flame() != "" && !l.comesToBoil() && !c.offHeat) && l.waitsFor() && stirs && minutes == 0:
		return true, c.cook(l) // "and stir until it is hot", "and stir on a medium flame until it leaves the sides"
	case stirs && !put && minutes == 0 && c.stirsUntil(l):
		return true, true
	case stirs && !put && minutes == 0 && !c.offHeat && l.waitsFor() && comesTogether.MatchString(l.text()):
		return true, c.cook(l) // "stir until it comes away from the sides"
	case stirs && !put && minutes == 0 && !c.offHeat && l.waitsFor() && (l.find("absorbed") >= 0 || l.find("taken up") >= 0):
		return true, c.cook(l) // "add a cup of the milk. Stir until absorbed"
	case stirs && !put && minutes == 0 && !c.offHeat && l.waitsFor() && l.has("glassy", "coated", "shiny", "glossy", "opaque", "shines"):
		few := fewMinutes // "add the rice and stir until glassy"
		c.heat(l, vessel.Medium, plan.Until{Minutes: &few})
		return true, true
	case stirs && !put && minutes > 0 && l.find("after") >= 0:
		return true, true // "stir after half an hour"
	case minutes > 0 && c.offHeat && !put && slices.Contains(stirredBeside, l.verb) && l.flame() == "" && l.find("heat") < 0:
		c.steeped[c.now] = true // "off the heat ... beat for a minute"
		return true, true
	case c.inAll(l, minutes):
		return true, true
	case minutes > 0 && minutes < longest:
		if !c.staysInOven(l, minutes) {
			c.heat(l, vessel.Simmer, plan.Until{Minutes: &minutes}) // "add the milk and cook 10 minutes" in one clause
		}
		return true, true
	case l.waitsFor() && l.comesToBoil() && !nearlySaid.MatchString(l.text()):
		c.heat(l, vessel.Medium, plan.Until{Boil: true})
		return true, true
	case put && minutes == 0 && !c.offHeat && l.waitsFor() && comesTogether.MatchString(l.text()):
		return true, c.cook(&clause{do: doCook, verb: "cook", words: l.until()}) // "add the ghee until it leaves the pan"
	case put && l.waitsFor() && l.thickens() && c.stirredIn():
		grade := thickUsual // "add it to the boiling syrup, stirring until it thickens"
		c.heat(l, vessel.Simmer, plan.Until{Thickness: &grade})
		return true, true
	case l.waitsFor() && (l.comesToBoil() || !put && l.verb != "add" && l.targets()):
		return true, c.cook(l)
	}
	return false, false
}

// comesTogether is said of what is cooked until it is a mass.
var comesTogether = regexp.MustCompile(`\b(?:leaves?|leaving|comes? (?:away|off|free)|pulls? away)(?: from)? the ` +
	`(?:sides?|bottom|pan|pot)\b|\bcomes? together\b|\bforms? a (?:mass|ball|lump)\b`)

// stirsUntil takes what a clause waits for as the end of the step that its sentence has given minutes for: "simmer for 20 minutes
// and stir often until soft".
func (c *cookery) stirsUntil(l *clause) bool {
	last := len(c.steps) - 1
	if last < 0 || !l.waitsFor() || c.steps[last].Do != plan.Heat || c.steps[last].Until == nil || c.steps[last].Until.Minutes == nil ||
		c.assumed == last {
		return false
	}
	if c.madeBy(last) != c.now {
		return false
	}
	if stir := l.stirring(); stir != "" {
		c.steps[last].Stir = stir
	}
	grain, slowest := c.grainMeant(l)
	switch minutes := *c.steps[last].Until.Minutes; {
	case slowest != nil && l.untilSoft():
		c.steps[last].Until = &plan.Until{Doneness: &plan.DonenessTarget{Of: grain, At: gentle(slowest.Kinetics)}}
		c.saidMinutes(minutes)
	case !l.thickens():
		return false
	}
	if c.steps[last].Sign == "" {
		c.steps[last].Sign = l.sign()
	}
	l.sign()
	return true
}

// stirredIn reports whether what went in last was stirred together beside the pot with starch or egg: it thickens.
func (c *cookery) stirredIn() bool {
	last := &c.steps[len(c.steps)-1]
	return last.Do == plan.Add && !c.offHeat && slices.ContainsFunc(last.Items, func(item plan.Item) bool {
		return slices.ContainsFunc(c.steps, func(s plan.Step) bool { return s.Do == plan.Mix && s.Name == item.Part && item.Part != "" })
	})
}

// isInAlready reports whether a clause moves only what is in the pot: into a bowl, which is as good, or back.
func (c *cookery) isInAlready(l *clause, list []mention) bool {
	if l.putsItself() && !slices.ContainsFunc(c.last, func(m mention) bool {
		return m.holder >= 0 && m.holder != c.at || m.item >= 0 && !slices.Contains(c.held(), m.item)
	}) {
		return true // "dilute the milk with the water and add to the pan"
	}
	if len(list) > 0 {
		return false
	}
	switch {
	case slices.Contains([]string{"pour", "tip", "turn", "scrape"}, l.verb) && intoBowl.MatchString(l.text()):
		l.has("bowl")
	case l.find("back") >= 0 && l.has("everything", "it all", "all of it", "it"):
	case l.verb == "pour" && l.has("the mixture", "the pudding", "it"): // into the moulds that were got ready
		c.bowls = c.bowls || inBowls.MatchString(c.text[c.now])
	default:
		return false
	}
	return true
}

// inBowls is said of what it is shared out into.
var inBowls = regexp.MustCompile(`(?i)\b(?:moulds|glasses|cups|bowls|ramekins)\b`)

// nearlySaid is said of what is not quite at the boil.
var nearlySaid = regexp.MustCompile(`\b(?:nearly|almost|just before|steam\w*|simmer\w*|hot)\b`)

// waitsFor reports whether a clause says until when.
func (l *clause) waitsFor() bool { return l.find("until") >= 0 }

// comesToBoil reports whether it waits for the boil, or nearly.
func (l *clause) comesToBoil() bool {
	if l.find("never") >= 0 || l.find("not") >= 0 || l.find("without") >= 0 {
		return false
	}
	return slices.ContainsFunc(l.until(), func(w *token) bool {
		return slices.Contains([]string{"boils", "boil", "boiling", "bubbles", "bubbling", "steams", "steaming", "simmers", "simmering"}, w.text)
	})
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
