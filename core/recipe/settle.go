package recipe

import (
	"slices"
	"strings"

	"kirdu/core/pantry"
	"kirdu/core/plan"
)

// A meaning is what a word of doing means beside others.
type meaning struct {
	verbs string   // one of these begins the clause; "" for any
	of    []action // and it does one of these so far; nil for any
	finds []string // one of these stands in it
	not   []string // none of these does
	when  func(c *cookery, l *clause) bool
	has   []string // one of these stands in it, and is read
	do    action
	then  func(c *cookery, l *clause)
}

// fits reports whether a clause has a meaning; what shows it is read then.
func (m *meaning) fits(c *cookery, l *clause) bool {
	found := func(phrase string) bool { return l.find(phrase) >= 0 }
	return (m.verbs == "" || slices.Contains(strings.Fields(m.verbs), l.verb)) && (m.of == nil || slices.Contains(m.of, l.do)) &&
		(m.finds == nil || slices.ContainsFunc(m.finds, found)) && !slices.ContainsFunc(m.not, found) &&
		(m.when == nil || m.when(c, l)) && (m.has == nil || l.has(m.has...))
}

// Conditions of meanings.
var (
	namesNew = func(c *cookery, l *clause) bool { return len(c.unused(l)) > 0 }
	inPot    = func(c *cookery, _ *clause) bool { return len(c.held()) > 0 }
	timed    = func(_ *cookery, l *clause) bool { return l.minutes() > 0 }
	untimed  = func(_ *cookery, l *clause) bool { return l.minutes() == 0 }
	leadsIn  = func(_ *cookery, l *clause) bool {
		return l.lead < len(l.words) && (l.words[l.lead].text == "in" || l.words[l.lead].text == "into")
	}
	setsAside = func(c *cookery, l *clause) { c.putAside(l) }
)

func both(a, b func(*cookery, *clause) bool) func(*cookery, *clause) bool {
	return func(c *cookery, l *clause) bool { return a(c, l) && b(c, l) }
}

var offAndAway = []string{"away", "off the water", "off the liquid", "off most", "off any", "off what"}

// inPassing are the meanings of words that else ask for nothing, or only seem to ask for something: they are tried before
// those are passed over.
var inPassing = []meaning{
	{verbs: "throw pour tip", when: inPot, has: offAndAway, do: doDrain},
	{verbs: "throw pour tip", has: offAndAway, do: doPass}, // of what it soaked in
	{verbs: "cover", finds: []string{"with"}, when: func(c *cookery, l *clause) bool { return c.any(c.unused(l), pantry.Liquid) },
		do: doAdd}, // "cover the lentils with the water"
	{verbs: "wait", has: []string{"cool", "cooled", "cold", "lukewarm", "tepid", "warm"}, do: doCool},
}

// meanings are tried in their order.
var meanings = []meaning{
	{when: whistles, do: doCooker},
	{verbs: "take remove turn switch put", has: []string{"off the heat", "from the heat", "off the flame", "from the flame", "off heat",
		"off the stove", "from heat", "from the stove", "off the fire", "the heat off", "the flame off", "off the gas", "flame off"}, do: doOff},
	{verbs: "turn switch", has: []string{"off"}, do: doOff},
	{verbs: "turn", not: []string{"heat", "flame"}, when: func(c *cookery, l *clause) bool { return l.flame() == "" && namesNew(c, l) },
		do: doAdd}, // "turn the barley in the butter"
	{verbs: "take lift", when: func(c *cookery, l *clause) bool { return c.pan && len(c.unused(l)) == 0 }, has: []string{"out"}, do: doPass,
		then: setsAside},
	{verbs: "soften", not: []string{"water", "milk"}, do: doFry}, // "soften the carrot in the ghee"
	{verbs: "steep", when: namesNew, do: doSoak},
	{verbs: "take remove scoop scrape", has: []string{"the seeds", "the stones", "the stone", "the core", "the cores", "the pith",
		"the strings", "the pips"}, do: doPass, then: func(_ *cookery, l *clause) { l.has("out") }},
	{verbs: "reduce", when: untimed, has: []string{"to a simmer", "to simmer", "to a gentle simmer"}, do: doTurn},
	{verbs: "leave let", has: []string{"to simmer", "to cook", "to bubble", "to boil gently"}, do: doCook},
	{verbs: "keep continue", finds: []string{"cooking", "until", "till"}, not: []string{"fridge", "refrigerator", "cold"}, do: doCook},
	{verbs: "reduce lower turn keep raise increase", not: []string{"oven", "whistle"}, when: turnsFlame, do: doTurn},
	{verbs: "put set place", has: []string{"on to boil", "to boil", "on to heat", "on to warm"}, do: doBoil},
	{of: []action{doGrate}, finds: []string{"over", "in", "into", "on top"}, when: inPot, do: doAdd},
	{of: []action{doCut}, when: both(inPot, leadsIn), do: doAdd},             // "slice in the bananas"
	{of: []action{doCut}, finds: []string{"on top"}, when: inPot, do: doTop}, // "slice the banana on top"
	{verbs: "keep", finds: []string{"flame", "heat", "fire", "boil"}, when: timed, do: doCook},
	{verbs: "keep", not: []string{"stirring", "boiling", "simmering", "cooking"}, when: timed, do: doRest},
	{verbs: "keep", has: []string{"aside", "warm", "ready", "hot", "separately"}, do: doPass, then: setsAside},
	{verbs: "set put place", has: []string{"aside"}, do: doPass, then: setsAside},
	{verbs: "put place leave keep set", has: []string{"fridge", "refrigerator"}, do: doChill},
	{verbs: "let", has: []string{"fridge"}, do: doChill},
	{verbs: "simmer", when: func(_ *cookery, l *clause) bool { return l.lead < len(l.words) && l.minutes() == 0 }, has: []string{"the flame",
		"the heat", "the stove"}, do: doTurn},
	{of: []action{doTop}, when: namesNew, has: []string{"of the dish", "in the dish", "of a dish", "in a dish", "of the tin",
		"of a baking dish", "in a baking dish", "over the base"}, do: doAdd, then: intoADish},
	{of: []action{doTop}, when: both(inPot, leadsIn), do: doAdd},
	{verbs: "put place", has: []string{"oven"}, do: doBake},
	{verbs: "put place close", has: []string{"the lid"}, do: doPass, then: func(c *cookery, _ *clause) { c.lid = new(true) }},
	{verbs: "let allow leave", has: []string{"cool", "to cool"}, do: doCool},
	{verbs: "let allow", has: []string{"stand", "rest", "sit", "swell", "infuse"}, do: doRest},
	{verbs: "let allow leave", has: []string{"soak", "to soak", "in water", "in cold water", "in fresh water", "in clean water",
		"in plenty of water", "under water"}, do: doSoak},
	{when: func(_ *cookery, l *clause) bool { return (l.do == doAdd || l.verb == "divide") && l.container() != "" }, do: doMove},
	{of: []action{doAdd}, has: []string{"to the boil", "to a boil"}, do: doBoil},
	{verbs: "pulse", of: []action{doGrind}, when: inPot, do: doMash},
	{verbs: "blend", when: func(c *cookery, l *clause) bool { return inPot(c, l) && !namesNew(c, l) }, do: doMash},
}

func whistles(_ *cookery, l *clause) bool {
	return !slices.Contains([]action{doRest, doPass, doOff, doTurn}, l.do) && whistleSaid.MatchString(l.text()) &&
		!l.has("let the pressure", "pressure release", "pressure to")
}

// turnsFlame reports whether a clause is of the flame: "lower the heat", "turn it to low".
func turnsFlame(_ *cookery, l *clause) bool {
	return l.minutes() == 0 && l.remaining() == 0 &&
		(l.has("heat", "flame", "fire", "gas") || l.find("to low") >= 0 || l.find("to medium") >= 0)
}

// intoADish makes what is put in go into a dish of its own, where none is being filled.
func intoADish(c *cookery, _ *clause) {
	if c.next == nil && c.at >= 0 && !strings.HasPrefix(c.holders[c.at].name, "dish") {
		c.next = []string{"dish"}
	}
}

// means gives a clause the first meaning of a table that it has.
func (c *cookery) means(l *clause, table []meaning) {
	for k := range table {
		if m := &table[k]; m.fits(c, l) {
			l.do = m.do
			if m.then != nil {
				m.then(c, l)
			}
			return
		}
	}
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
	c.means(l, meanings)
	if l.has("slow cooker") {
		c.oven = plan.SlowCooker
	}
	if l.do == doCook && (l.boils() || l.has("to the boil", "to a boil", "to boil", "come to boil", "boil up") ||
		l.verb == "boil" && l.minutes() == 0 && !l.targets()) {
		l.do = doBoil
	}
}
