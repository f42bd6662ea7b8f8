package recipe

import (
	"cmp"
	"maps"
	"math"
	"regexp"
	"slices"
	"strings"

	"kirdu/core/measure"
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
	namesNew     = func(c *cookery, l *clause) bool { return len(c.unused(l)) > 0 }
	namesNothing = func(c *cookery, l *clause) bool { return len(c.unused(l)) == 0 }
	inPot        = func(c *cookery, _ *clause) bool { return len(c.held()) > 0 }
	timed        = func(_ *cookery, l *clause) bool { return l.minutes() > 0 }
	untimed      = func(_ *cookery, l *clause) bool { return l.minutes() == 0 }
	leadsIn      = func(_ *cookery, l *clause) bool {
		return l.lead < len(l.words) && (l.words[l.lead].text == "in" || l.words[l.lead].text == "into")
	}
	// Part of what is in no pot yet is kept for later.
	reservable = func(c *cookery, l *clause) bool {
		list := c.unused(l)
		kept := l.verb == "reserve" || l.verb == "keep" && l.find("cold") >= 0 ||
			slices.ContainsFunc([]string{"aside", "back", "for later", "for serving"}, func(w string) bool { return l.find(w) >= 0 })
		if !kept || len(list) != 1 || list[0].item < 0 || list[0].share <= 0 {
			return false
		}
		text, _ := c.amountBefore(l, list[0].at)
		return text != "" || list[0].share < 1-c.used[list[0].item] || l.find("few") >= 0 || l.find("some") >= 0 || l.find("little") >= 0 ||
			l.find("handful") >= 0
	}
	// A grain that is in no pot is covered with water: it soaks.
	soaksIt = func(c *cookery, l *clause) bool {
		return len(c.held()) == 0 && !boilsIt.MatchString(c.text[c.now]) && slices.ContainsFunc(append(c.unused(l), c.last...),
			func(m mention) bool {
				return m.item >= 0 && c.used[m.item] == 0 && (c.behaves(m, pantry.Grain) || c.behaves(m, pantry.Piece))
			})
	}
	readAll   = func(_ *cookery, l *clause) { l.readAll() }
	setsAside = func(c *cookery, l *clause) { c.putAside(l) }
)

func both(a, b func(*cookery, *clause) bool) func(*cookery, *clause) bool {
	return func(c *cookery, l *clause) bool { return a(c, l) && b(c, l) }
}

// backOnHeat is said of what was taken off.
var backOnHeat = regexp.MustCompile(`^(?:[a-z]+ ){0,4}(?:to|on|onto|over) (?:the |a )?` +
	`(?:[a-z]+ )?(?:heat|stove|hob|flame|fire)\b`)

var offAndAway = []string{"away", "off the water", "off the liquid", "off most", "off any", "off what"}

// ofTheHot is said of an egg that is warmed with some of what is in the pot: "mix the egg with a few spoons of the hot rice".
var ofTheHot = regexp.MustCompile(`\bwith (?:an?|some|half|\d|two|three|four)\b[a-z ]*\b` +
	`(?:spoons?|spoonfuls?|tablespoons?|ladles?|ladlefuls?|little|some|cup) (?:of )?(?:the )?(?:hot|warm|simmering|boiling)\b`)

// intoTheEgg is said of the same the other way round: "stir a little of the hot rice into the beaten egg".
var intoTheEgg = regexp.MustCompile(`\b(?:of the|the|some) (?:hot|warm|simmering|boiling) [a-z ]*(?:into|to|onto|` +
	`over) (?:the )?(?:beaten |whisked )?` +
	`(?:egg|yolk)`)

// spoonOfThat is said of a little of what is in the pot.
var spoonOfThat = regexp.MustCompile(`\bwith (?:an?|some|two|three|\d)? ?(?:heaped )?(?:spoons?|spoonfuls?|tablespoons?|ladles?|` +
	`ladlefuls?|little) of the\b`)

// serveOr is said of how a pudding may be eaten: "serve at once, or chill for later".
var serveOr = regexp.MustCompile(`(?i)\b(?:serve|eat|enjoy)\b.*\bor (?:chill|refrigerate|keep)\b`)

// meltsIt is said of how a syrup is made.
var meltsIt = regexp.MustCompile(`(?i)\b(?:heat|melt|dissolve|boil|bring|simmer|cook|put)\b.*\bwater\b`)

// inCooker is said of what is to cook under pressure.
var inCooker = regexp.MustCompile(`(?i)\bin(?:to)? (?:a|the|your) (?:pressure )?cooker\b`)

// bakedIn is what goes into the oven.
var bakedIn = regexp.MustCompile(`\bin(?:to)? an? (?:[a-z0-9/]+ ){0,5}(?:casserole|baking dish|ovenproof dish|pie dish|oven dish)\b`)

// cookerSaid names one.
var cookerSaid = regexp.MustCompile(`(?i)\b(?:pressure|\d l(?:itre)?) cooker\b|\bin(?:to)? (?:a|the|your) cooker\b`)

// boilsIt is said of what is cooked.
var boilsIt = regexp.MustCompile(`(?i)\b(?:boil|simmer|cook)\b`)

// boilsDown is said of a syrup that goes on boiling.
var boilsDown = regexp.MustCompile(`(?i)^(?:then |now )?(?:boil|cook|simmer|reduce|thicken|bring) (?:it|this|the syrup)\b`)

// rinsedIn is said of what is washed in a sieve.
var rinsedIn = regexp.MustCompile(`(?i)\b(?:rinse|wash|run|hold)\b`)

// inPassing are the meanings of words that else ask for nothing, or only seem to ask for something: they are tried before
// those are passed over.
var inPassing = []meaning{
	{verbs: "rinse wash refresh", finds: []string{"sieve", "colander", "strainer", "running", "under"}, when: func(c *cookery,
		l *clause) bool {
		return inPot(c, l) && c.cooked() && !slices.ContainsFunc(c.unused(l), func(m mention) bool {
			return m.item < 0 || c.given[m.item].Item.Material != "water"
		})
	}, do: doDrain}, // what was cooked: its water is gone
	{verbs: "spread", finds: []string{"over", "on top"}, when: func(c *cookery, l *clause) bool {
		return c.heated > 0 && inPot(c, l) && !c.cooked() && namesNew(c, l)
	}, do: doAdd}, // "lay the apples in a dish. Spread the rice over them"
	{verbs: "throw pour tip", when: inPot, has: offAndAway, do: doDrain},
	{verbs: "break crumble tear", finds: []string{"into it", "into the", "into this"}, when: both(inPot, namesNew), do: doAdd},
	{verbs: "pour drain", when: func(c *cookery, l *clause) bool { return inPot(c, l) && l.beginsWith("off") && l.find("water") >= 0 },
		has: []string{"whatever", "any", "what", "the rest"}, do: doDrain, then: readAll}, // "pour off whatever water is left"
	{verbs: "throw pour tip", has: offAndAway, do: doPass}, // of what it soaked in
	{verbs: "cover", finds: []string{"water"}, when: soaksIt, has: []string{"cold water", "plenty of", "fresh water", "lukewarm water",
		"overnight", "warm water", "hot water"}, do: doSoak},
	{verbs: "cover", finds: []string{"water"}, when: func(c *cookery, _ *clause) bool {
		dry := !slices.ContainsFunc(c.held(), func(i int) bool { return c.behaves(mention{item: i}, pantry.Liquid) })
		return dry && boilsIt.MatchString(c.text[c.now])
	}, do: doAdd},
	{verbs: "cover", when: func(c *cookery, l *clause) bool {
		return inPot(c, l) && timed(c, l) && l.flame() != "" && namesNothing(c, l)
	},
		do: doCook, then: func(c *cookery, _ *clause) { c.lid = new(true) }}, // "cover for 2 minutes on a low flame"
	{verbs: "whip", when: func(c *cookery, l *clause) bool { return c.whipsCream(l, c.unused(l)) },
		do: doNothing, then: func(c *cookery, l *clause) { c.stirBeside(l, "cream", c.mentions(l), nil) }},
	{verbs: "break crush snap", not: []string{"over", "on", "top"}, when: func(c *cookery, l *clause) bool {
		return c.any(c.unused(l), pantry.Grain) && strings.Contains(strings.ToLower(c.text[c.now]), "vermicelli")
	}, do: doNothing, then: func(c *cookery, l *clause) {
		l.has("pieces", "small pieces", "short pieces", "lengths")
		c.mentions(l)
	}},
	{verbs: "break", has: []string{"up the lumps", "the lumps", "up any lumps", "any lumps", "up the clumps", "up any clumps",
		"any clumps"}, do: doNothing},
	{verbs: "break", finds: []string{"into"}, when: namesNew, do: doNothing, then: func(c *cookery, l *clause) { c.mentions(l) }},
	{verbs: "cover", finds: []string{"with"}, when: func(c *cookery, l *clause) bool {
		return inPot(c, l) && slices.ContainsFunc(c.mentioned(&clause{words: l.copied()}), func(m mention) bool {
			return m.holder >= 0 && !c.holders[m.holder].pot && c.holders[m.holder].left > 0
		})
	}, do: doTop}, // "cover with the raspberry sauce"
	{verbs: "cover", finds: []string{"with"}, when: func(c *cookery, l *clause) bool { return c.any(c.unused(l), pantry.Liquid) },
		do: doAdd}, // "cover the lentils with the water"
	{verbs: "make", finds: []string{"syrup"}, not: []string{"water"}, when: func(c *cookery, l *clause) bool {
		return meltsIt.MatchString(c.text[c.now])
	}, do: doNothing, then: readAll},
	{verbs: "make", when: func(c *cookery, l *clause) bool {
		return slices.ContainsFunc(c.unused(l), func(m mention) bool {
			return c.sweetens(m.item)
		})
	}, has: []string{"a syrup", "syrup", "a thin syrup", "a thick syrup"}, do: doMelt, then: func(_ *cookery, l *clause) {
		l.verb = "dissolve"
	}},
	{verbs: "get", when: func(c *cookery, l *clause) bool { return inPot(c, l) || namesNew(c, l) }, has: []string{"boiling", "to the boil",
		"to a boil", "bubbling"}, do: doBoil},
	{verbs: "dissolve melt", not: []string{"in", "into"}, when: func(c *cookery, l *clause) bool {
		return inPot(c, l) && untimed(c, l) && namesNothing(c, l) && l.lead > 0 && (l.words[0].text == "it" || l.words[0].text == "them")
	}, do: doNothing, then: readAll}, // "add the sugar, let it dissolve and cook"
	{verbs: "let allow leave", finds: []string{"melt"}, when: func(c *cookery, l *clause) bool {
		return inPot(c, l) && (l.find("it") >= 0 || l.find("them") >= 0) && l.find("in") >= 0 && len(c.last) > 0 && c.last[0].item >= 0 &&
			c.unput(c.last[0])
	}, do: doAdd}, // "break up the chocolate and let it melt in the hot rice"
	{verbs: "let allow", has: []string{"come down naturally", "come down by itself", "come down"}, when: func(c *cookery, _ *clause) bool {
		last := len(c.steps) - 1
		return last >= 0 && c.steps[last].Do == plan.Pressure
	}, do: doNothing},
	{verbs: "remove take", finds: []string{"skin", "skins", "threads", "strings", "peel"}, when: namesNothing, do: doNothing,
		then: func(_ *cookery, l *clause) { l.has("bay", "bay leaf", "leaf") }},
	{verbs: "close seal lock cover", when: func(c *cookery, l *clause) bool {
		const back = 5 // sentences
		far := l.verb != "cover" && cookerSaid.MatchString(strings.Join(c.text[max(c.now-back, 0):c.now+1], " "))
		return far || inCooker.MatchString(strings.Join(c.text[max(c.now-1, 0):c.now+1], " "))
	}, do: doNothing, then: func(c *cookery, l *clause) {
		l.has("the lid", "tightly", "lid")
		c.sealed = true
	}},
	{verbs: "close seal lock", do: doNothing, then: func(c *cookery, l *clause) {
		if l.has("lid") {
			c.lid = new(true)
		}
	}},
	{verbs: "return bring put", finds: []string{"heat", "stove", "hob", "flame", "fire"}, not: []string{"boil", "simmer"},
		when: func(c *cookery, l *clause) bool {
			return inPot(c, l) && backOnHeat.MatchString(l.text()) && len(c.namedIn(l.text())) > 0 && !timed(c, l) && l.flame() == "" &&
				!c.anyNew(c.unused(l))
		}, do: doNothing, then: func(c *cookery, l *clause) { c.mentions(l); l.readAll() }}, // "return the milk to the heat"
	{verbs: "return pour put", finds: []string{"pan", "pot", "vessel"}, when: func(c *cookery, l *clause) bool {
		last := len(c.steps) - 1
		return last >= 0 && c.steps[last].Do == plan.Melt && namesNothing(c, l) && c.now+1 < len(c.text) && boilsDown.MatchString(c.text[c.now+1])
	}, do: doNothing, then: readAll}, // the pan in which it was melted: it is boiled down
	{verbs: "put tip place pour", finds: []string{"sieve", "colander", "strainer"}, when: func(c *cookery, l *clause) bool {
		return len(c.held()) == 0 && namesNew(c, l) && rinsedIn.MatchString(c.text[c.now])
	}, do: doNothing, then: func(c *cookery, l *clause) { c.mentions(l) }},
	{verbs: "squeeze", finds: []string{"over", "in", "into"}, when: func(c *cookery, l *clause) bool {
		return inPot(c, l) && slices.ContainsFunc(c.unused(l), func(m mention) bool {
			return c.behaves(m, pantry.Liquid)
		})
	}, do: doAdd}, // "squeeze over half of the lime juice"
	{verbs: "set turn heat", finds: []string{"oven"}, when: namesNothing, has: []string{"the oven", "oven"}, do: doNothing, then: readAll},
	{verbs: "heat", when: func(c *cookery, l *clause) bool {
		return l.newPan() >= 0 && len(c.namedIn(l.text())) == 0 && l.find("it") < 0 && len(c.held()) > 0 && !c.bowls && l.find("into") < 0
	}, do: doNothing, then: func(c *cookery, l *clause) { // "heat a wide pan"
		c.next = []string{}
		l.readAll()
	}},
	{verbs: "blend", finds: []string{"with"}, when: both(inPot, namesNothing), do: doNothing, then: readAll}, // "let it blend with the dal"
	{verbs: "remove take lift scoop", when: func(c *cookery, l *clause) bool {
		last := len(c.steps) - 1
		return namesNothing(c, l) && last >= 0 && c.steps[last].Do == plan.Fry && l.find("heat") < 0 && l.find("flame") < 0
	}, has: []string{"out", "to a plate", "onto a plate", "on a plate", "to a bowl", "from the pan", "with a slotted spoon"},
		do: doNothing, then: readAll}, // what was fried lies beside the pot
	{verbs: "break", has: []string{"up", "into pieces", "into segments", "into chunks", "into bits", "in pieces"}, do: doNothing,
		then: func(c *cookery, l *clause) {
			if list := c.unused(l); len(list) > 0 {
				c.remember(list)
			}
			l.readAll()
		}},
	{verbs: "leave let", when: func(c *cookery, l *clause) bool { return c.cooked() && untimed(c, l) && namesNothing(c, l) },
		has: []string{"until firm", "until set", "until it sets", "until it is set", "until it is firm", "to set"}, do: doCool},
	{verbs: "simmer", when: func(c *cookery, l *clause) bool {
		return inPot(c, l) && namesNothing(c, l) && simmersFirst.MatchString(c.text[c.now])
	}, do: doTurn}, // "simmer, add the coconut milk": the flame is turned down for it
	{verbs: "pop", when: func(c *cookery, l *clause) bool { return c.fat != nil && c.onlyNuts(c.unused(l)) }, do: doFry},
	{verbs: "tip turn pour transfer scrape", when: func(c *cookery, l *clause) bool {
		return namesNothing(c, l) && c.lastCooked() == plan.Heat && c.heldFat() && slices.ContainsFunc(c.held(), func(i int) bool {
			return c.behaves(mention{item: i}, pantry.Grain) && c.addedLater(i)
		})
	}, has: []string{"into a bowl", "in a bowl", "to a bowl"}, do: doNothing, then: func(c *cookery, l *clause) { c.putAside(l) }},
	{verbs: "pile turn tip", when: both(inPot, namesNothing), has: []string{"onto a plate", "on a plate", "onto a platter",
		"onto a serving plate", "on a serving plate", "onto plates"}, do: doNothing, then: func(c *cookery, l *clause) {
		if slices.ContainsFunc(c.held(), func(i int) bool { return !c.behaves(mention{item: i}, pantry.Fat) && c.addedLater(i) }) {
			c.putAside(l) // "roast the semolina and tip onto a plate ... add the semolina"
		}
	}},
	{verbs: "pour pass", finds: []string{"through"}, when: func(c *cookery, l *clause) bool {
		_, slowest := c.grainInPot()
		return inPot(c, l) && slowest == nil && c.otherPot() < 0 && inABowl.MatchString(l.text())
	}, do: doNothing, then: func(c *cookery, l *clause) { // a custard: it holds nothing that a sieve keeps back
		l.readAll()
		c.strained[c.now] = true
	}},
	{verbs: "blend blitz whizz liquidise", when: func(c *cookery, l *clause) bool {
		list := c.unused(l)
		return inPot(c, l) && c.any(list, pantry.Tissue) && slices.ContainsFunc(list, func(m mention) bool { return c.sweetens(m.item) }) &&
			!slices.ContainsFunc(list, func(m mention) bool { return pours(c.material(m.item)) })
	}, do: doMash},
	{verbs: "scrape", finds: []string{"into"}, when: func(c *cookery, l *clause) bool { return !inPot(c, l) && namesNew(c, l) }, has: []string{
		"the seeds"}, do: doNothing, then: func(_ *cookery, l *clause) { l.readAll() }}, // it goes in with the pod
	{verbs: "cook", finds: []string{"oven"}, when: timed, do: doBake},
	{verbs: "cook", has: []string{"high pressure", "low pressure", "full pressure", "at pressure"}, do: doCooker},
	{verbs: "set stand place put", finds: []string{"iced", "ice"}, when: inPot, do: doCool},
	{verbs: "fish discard", when: func(c *cookery, l *clause) bool { return c.inAlready(c.unused(l)) && c.onlySpice(l) },
		do: doNothing, then: takesOut},
	{verbs: "fill", finds: []string{"mould", "bowls", "glasses", "moulds", "ramekins", "jars"}, when: func(c *cookery, l *clause) bool {
		return inPot(c, l) && namesNothing(c, l) && c.otherPot() < 0
	}, do: doNothing,
		then: func(c *cookery, l *clause) {
			c.bowls = c.bowls || l.find("mould") < 0
			l.readAll()
		}},
	{verbs: "open", finds: []string{"cooker", "lid"}, do: doNothing, then: func(c *cookery, l *clause) {
		if last := len(c.steps) - 1; last >= 0 && (l.find("cooker") >= 0 || c.steps[last].Do != plan.Pressure) {
			c.backToCooker()
		}
		l.readAll()
	}},
	{verbs: "let allow", finds: []string{"pressure", "natural release", "natural", "steam"}, do: doNothing, then: readAll},
	{verbs: "give", when: func(c *cookery, l *clause) bool {
		return inPot(c, l) && (timed(c, l) || numberedWhistle.MatchString(l.text()))
	},
		do: doCook},
	{verbs: "butter oil line grease rub", finds: []string{"with"}, not: []string{"little", "some", "paper", "parchment"},
		when: func(c *cookery, l *clause) bool {
			return namesNew(c, l) && (l.verb != "rub" || l.find("dish") >= 0 || l.find("tin") >= 0 || l.find("mould") >= 0)
		}, do: doAdd, then: func(c *cookery, l *clause) {
			if !c.onlyFat(c.unused(l)) {
				intoADish(c, l)
				return
			}
			l.do = doNothing
			c.butters(c.mentions(l))
			l.readAll()
		}},
	{verbs: "butter oil line grease rub", finds: []string{"dish", "tin", "mould", "moulds", "ramekins", "tray", "casserole", "bowls",
		"dishes", "pan"}, do: doNothing, then: func(c *cookery, l *clause) {
		c.greases(l)
		if l.find("dish") >= 0 || l.find("tin") >= 0 || l.find("casserole") >= 0 {
			c.greased = c.now
		}
	}},
	{verbs: "strew sprinkle dust coat flour", finds: []string{"it", "dish", "tin", "them", "with"}, when: func(c *cookery, l *clause) bool {
		return c.greased == c.now && c.at >= 0 && strewnDish.MatchString(c.text[c.now])
	}, do: doNothing, then: readAll}, // "grease the dish and strew it with breadcrumbs"
	{verbs: "spray", finds: []string{"with", "insert", "dish", "tin", "inside"}, when: namesNothing, do: doNothing, then: readAll},
	{verbs: "shake", finds: []string{"can", "tin", "bottle", "carton"}, do: doNothing, then: func(c *cookery, l *clause) {
		said := maps.Clone(c.said)
		c.mentions(l)
		c.said = said
	}},
	{verbs: "put place", finds: []string{"weight", "whistle", "lid"}, when: namesNothing,
		do: doNothing,
		then: func(c *cookery, l *clause) {
			l.has("weight")
			if on := l.lid(); on != nil || l.find("lid") >= 0 {
				c.lid = cmp.Or(on, new(true))
			}
		}},
	{verbs: "shake", when: func(c *cookery, l *clause) bool { return len(c.unused(l)) > 0 && inPot(c, l) }, do: doAdd},
	{verbs: "reserve keep set hold save take remove", when: func(c *cookery, l *clause) bool { return c.fromPot(l) >= 0 }, do: doNothing,
		then: func(c *cookery, l *clause) { c.reserveFromPot(l) }},
	{verbs: "reserve keep set hold save", when: reservable, do: doNothing, then: func(c *cookery, l *clause) { c.reserve(l) }},
	{verbs: "scrape", finds: []string{"sides", "side"}, when: both(inPot, namesNothing),
		do: doNothing, then: func(c *cookery, l *clause) {
			l.has("cream", "skin", "milk", "solids", "sides", "side")
		}},
	{verbs: "transfer pour move tip spoon", finds: []string{"serving"}, when: both(inPot, namesNothing), has: []string{"serving bowl",
		"serving dish", "serving bowls"}, do: doNothing, then: func(c *cookery, l *clause) {
		c.bowls = c.bowls || l.find("bowls") >= 0
	}},
	{verbs: "chill refrigerate keep", when: func(c *cookery, l *clause) bool { return serveOr.MatchString(c.text[c.now]) }, do: doNothing},
	{verbs: "keep reserve save hold leave", when: untimed, has: []string{"the rest for", "the rest aside", "the remainder", "the others",
		"rest for", "rest back"}, do: doNothing},
	{verbs: "keep reserve save hold leave", when: func(c *cookery, l *clause) bool { // of what went in but for a part
		return untimed(c, l) && slices.ContainsFunc(c.last, func(m mention) bool {
			return m.share > 0 && m.share < 1 || m.item >= 0 && c.used[m.item] > 0 && c.used[m.item] < fullyUsed
		})
	}, has: []string{"a few for", "some for", "a few back", "some back", "a few aside", "some aside", "a handful for", "a little for"},
		do: doNothing, then: readAll},
	{verbs: "cover", finds: []string{"foil", "lid", "plate", "towel", "cloth"}, when: both(inPot, namesNothing), do: doNothing,
		then: func(c *cookery, l *clause) {
			l.lid()
			l.has("foil", "lid", "plate", "towel", "cloth")
			c.lid = new(true)
		}},
	{verbs: "puff", when: func(c *cookery, l *clause) bool {
		last := len(c.steps) - 1
		return last >= 0 && c.steps[last].Do == plan.Fry && !namesNew(c, l)
	}, do: doNothing},
	{verbs: "remove", finds: []string{"foil", "film", "paper", "lid", "weight"}, do: doNothing},
	{verbs: "take lift scoop remove", when: func(c *cookery, l *clause) bool { // "roast the oats. Take out"
		bare := l.find("out") >= 0 && len(l.words) <= 2 || l.lead >= len(l.words)
		return bare && slices.ContainsFunc(c.last, func(m mention) bool {
			return m.item >= 0 && c.unput(m) && len(c.preparations[m.item]) > 0
		})
	}, do: doNothing, then: readAll},
	{verbs: "take lift scoop remove", finds: []string{"everything", "all"}, when: func(_ *cookery, l *clause) bool {
		return takenOut.MatchString(l.verb+" "+l.text()) || l.find("plate") >= 0 || l.find("out") >= 0
	}, do: doNothing, then: readAll}, // what was fried
	{verbs: "cover", when: func(c *cookery, l *clause) bool {
		return c.offHeat && inPot(c, l) && timed(c, l) && l.flame() == "" && namesNothing(c, l)
	}, do: doRest}, // "turn off the heat. Cover for 2 minutes"
	{verbs: "let leave", when: func(c *cookery, l *clause) bool { return c.cooked() && untimed(c, l) }, has: []string{"to draw", "draw"},
		do: doNothing, then: readAll},
	{verbs: "let leave", when: both(inPot, timed), has: []string{"to draw", "draw"}, do: doRest},
	{verbs: "let leave", has: []string{"it alone", "alone", "the skin form", "a skin form"}, when: both(inPot, untimed), do: doNothing,
		then: readAll},
	{verbs: "let leave allow", finds: []string{"crackle", "splutter", "sizzle", "pop", "bloom"}, when: both(untimed, namesNothing),
		do:   doNothing,
		then: readAll},
	{verbs: "let leave allow", has: []string{"dry", "to dry", "it dry", "drip dry", "to drain", "drain", "in a colander"}, do: doNothing,
		then: func(c *cookery, l *clause) {
			l.minutes()
			c.mentions(l)
			c.steeped[c.now] = true // its minutes are nobody's at the stove
		}},
	{verbs: "toss rub coat mix", not: []string{"pan", "pot", "fry", "roast"}, when: func(c *cookery, l *clause) bool {
		list := c.dresses(l)
		return list != nil && (l.verb != "mix" || c.addedLater(list[0].item))
	},
		do: doNothing, then: func(c *cookery, l *clause) {
			list := c.dresses(l)
			c.dressed[list[0].item] = list[1:]
			c.mentions(l)
		}},
	{verbs: "press", has: []string{"film", "wrap", "paper", "parchment", "cling film", "a circle of"}, do: doNothing},
	{verbs: "keep set leave put let", has: []string{"aside", "to one side", "stand", "rest"}, when: func(c *cookery, l *clause) bool {
		if c.mixedLast() < 0 || !timed(c, l) || !namesNothing(c, l) {
			return false
		}
		at := c.madeBy(len(c.steps) - 1)
		return at == c.now
	}, do: doNothing, then: func(c *cookery, l *clause) { // what was stirred together stands
		c.steps[len(c.steps)-1].Minutes = new(l.minutes())
	}},
	{verbs: "keep set leave put", has: []string{"aside", "to one side"}, when: func(c *cookery, l *clause) bool {
		return !inPot(c, l) && timed(c, l) && rinsedIn.MatchString(c.text[c.now])
	}, do: doNothing, then: func(c *cookery, l *clause) {
		l.minutes()
		c.steeped[c.now] = true // washed grain that dries: its minutes are nobody's at the stove
	}},
	{verbs: "stand set place put sit", finds: []string{"tin", "bath", "tray", "pan of"}, when: func(_ *cookery, l *clause) bool {
		return l.find("water") >= 0
	}, do: doNothing, then: readAll},
	{verbs: "keep", finds: []string{"stirring", "whisking"}, not: []string{"until"}, when: untimed, do: doNothing,
		then: func(c *cookery, l *clause) { c.stirsOn(l) }},
	{verbs: "blanch parboil", when: func(c *cookery, l *clause) bool {
		list := c.unused(l)
		return c.any(list, pantry.Grain) || c.any(list, pantry.Tissue)
	}, do: doCook, then: func(_ *cookery, l *clause) { l.verb = "boil" }},
	{verbs: "chill refrigerate keep store", finds: []string{"days", "day", "week", "weeks"}, do: doNothing, then: readAll},
	{verbs: "draw steep infuse", when: both(timed, inPot), do: doRest},
	{verbs: "wait", when: inPot, not: []string{"stops", "stop", "stopped"}, finds: []string{"boils", "bubbles", "boil", "rises",
		"bubbling", "boiling"}, do: doBoil,
		then: func(_ *cookery, l *clause) { l.has("boils", "bubbles", "rises", "come") }},
	{verbs: "wait", when: both(timed, inPot), not: []string{"cool", "cooled", "cold", "lukewarm", "tepid", "warm"}, do: doRest},
	{verbs: "wait", has: []string{"cool", "cooled", "cold", "lukewarm", "tepid", "warm"}, do: doCool},
}

// meanings are tried in their order.
var meanings = []meaning{
	{of: []action{doFry}, finds: []string{"dry"}, when: func(c *cookery, l *clause) bool { return !slices.ContainsFunc(c.unused(l), c.isFat) },
		do: doRoast}, // "dry fry the lentils"
	{of: []action{doBoil, doCook}, has: []string{"to full pressure", "to pressure", "up to pressure"}, do: doCooker},
	{verbs: "cook boil simmer", has: []string{"under pressure", "under full pressure", "at pressure", "in the pressure cooker",
		"in a pressure cooker"},
		do: doCooker},
	{of: []action{doCut}, when: both(inPot, namesNothing), has: []string{"when cold",
		"when cool", "into squares", "into pieces", "into diamonds", "into lozenges", "into bars", "into wedges"}, do: doNothing},
	{verbs: "take", when: both(inPot, namesNothing), has: []string{"it off", "it down",
		"it away", "off", "the pot off", "the pan off", "the pot down"}, do: doOff},
	{finds: []string{"under a grill", "under the grill", "under a hot grill", "under a broiler", "under the broiler", "with a blowtorch"},
		when: inPot, do: doNothing, then: func(c *cookery, l *clause) { c.doubt(NotDone, l.said(), "") }},
	{verbs: "put set", has: []string{"to soak"}, do: doSoak},
	{verbs: "lay press put place cover", finds: []string{"paper", "film", "wrap", "parchment"}, when: namesNothing, do: doNothing},
	{verbs: "put place set return", when: func(c *cookery, l *clause) bool {
		return inPot(c, l) && !namesNew(c, l) && l.minutes() == 0 && !l.waitsFor() && l.find("off") < 0
	}, has: []string{"heat", "flame", "fire", "stove", "hob"}, do: doTurn},
	{verbs: "leave let allow", when: func(c *cookery, l *clause) bool { return inPot(c, l) && timed(c, l) && !namesNew(c, l) },
		has: []string{"to soak",
			"soak"}, do: doRest},
	{verbs: "steam", when: func(c *cookery, l *clause) bool { return inPot(c, l) && timed(c, l) && !namesNew(c, l) },
		has: []string{"in its own heat",
			"in its own steam", "off the heat", "with the lid on"}, do: doRest},
	{verbs: "turn", when: func(_ *cookery, l *clause) bool { return l.container() != "" }, do: doMove},
	{verbs: "keep", finds: []string{"shaking", "scraping", "tossing"}, when: untimed, do: doNothing},
	{verbs: "loosen", finds: []string{"edge", "edges", "sides"}, do: doNothing},
	{verbs: "throw put", not: []string{"fire", "heat", "flame", "stove", "hob", "gas"}, when: inPot,
		has: []string{"them on", "it on", "these on", "on top"}, do: doTop},
	{verbs: "pour spoon tip", has: []string{"over the top", "over the pudding", "over the payasam", "over the kheer", "over everything",
		"over the pradhaman", "over the pongal", "over the halwa"},
		when: func(c *cookery, l *clause) bool {
			last := len(c.steps) - 1
			return inPot(c, l) && namesNothing(c, l) && last >= 0 && c.steps[last].Do == plan.Fry
		}, do: doTop}, // what was fried
	{verbs: "rub press push work pass", finds: []string{"sieve", "strainer"}, when: func(c *cookery, l *clause) bool {
		_, slowest := c.grainInPot()
		return inPot(c, l) && namesNothing(c, l) && slowest != nil
	}, do: doMash, then: func(_ *cookery, l *clause) { l.has("sieve", "smooth") }}, // "rub it through a sieve"
	{verbs: "whisk beat churn whip mix", finds: []string{"smooth", "mashed", "mash"}, when: func(c *cookery, l *clause) bool {
		_, slowest := c.grainInPot()
		return inPot(c, l) && namesNothing(c, l) && slowest != nil && c.lastBowl() < 0 && (slowest.Kind == "pulse" && l.find("smooth") >= 0 ||
			c.namesHeld(l.asked().text()))
	}, do: doMash}, // "whisk the dal until smooth"
	{of: []action{doGrind}, when: func(c *cookery, l *clause) bool {
		return inPot(c, l) && !namesNew(c, l) && !slices.ContainsFunc(c.last, func(m mention) bool { return m.item >= 0 && c.used[m.item] == 0 })
	}, do: doMash},
	{verbs: "slip", of: []action{doPeel}, when: func(c *cookery, l *clause) bool { return leadsIn(c, l) && namesNew(c, l) }, do: doAdd},
	{verbs: "grate", finds: []string{"over the top", "on top", "over"}, when: func(c *cookery, l *clause) bool {
		list := c.unused(l)
		onTop := l.find("over the top") >= 0 || l.find("on top") >= 0
		return inPot(c, l) && len(list) == 1 && (onTop && c.behaves(list[0], pantry.Aroma) || c.isTopping(list[0].item))
	}, do: doTop}, // "grate nutmeg over the top"
	{verbs: "finish", when: func(c *cookery, l *clause) bool { return c.bowls && l.beginsWith("with") }, do: doTop},
	{verbs: "pour", has: []string{"boiling water over", "hot water over", "warm water over", "boiling water on"}, when: func(c *cookery,
		l *clause) bool {
		list := c.unused(l)
		return c.any(list, pantry.Piece) || c.any(list, pantry.Grain)
	}, do: doSoak},
	{verbs: "loosen mix beat whisk", when: func(c *cookery, l *clause) bool {
		return inPot(c, l) && c.cooked() && c.any(c.unused(l), pantry.Egg) && spoonOfThat.MatchString(l.text()) &&
			c.namesHeld(l.asked().text())
	}, do: doNothing, then: func(c *cookery, l *clause) { // "loosen the yolk with a spoonful of the rice"
		c.stirBeside(l, "eggs", c.unused(l), nil)
		c.temperBowl(l, len(c.holders)-1)
	}},
	{verbs: "temper mix beat whisk stir combine add pour", when: func(c *cookery, l *clause) bool {
		return inPot(c, l) && c.any(c.unused(l), pantry.Egg) && (l.verb == "temper" || ofTheHot.MatchString(l.text()) ||
			intoTheEgg.MatchString(l.text()))
	}, do: doNothing,
		then: func(c *cookery, l *clause) {
			c.stirBeside(l, "eggs", c.unused(l), nil)
			c.temperBowl(l, len(c.holders)-1)
		}},
	{verbs: "temper", finds: []string{"with"}, when: func(c *cookery, _ *clause) bool { return c.lastBowl() < 0 }, do: doTop},
	{verbs: "temper", when: func(c *cookery, _ *clause) bool { return c.lastBowl() >= 0 }, do: doAdd},
	{when: whistles, do: doCooker},
	{verbs: "take remove turn switch put draw pull slide", has: []string{"off the heat", "from the heat", "off the flame",
		"from the flame", "off heat",
		"off the stove", "from heat", "from the stove", "off the fire", "from the fire", "from the hob", "off the hob",
		"the heat off", "the flame off", "off the gas", "flame off"}, do: doOff},
	{verbs: "turn switch", has: []string{"off"}, do: doOff},
	{verbs: "put", has: []string{"the stove off", "stove off", "the gas off", "gas off", "the fire off", "the flame off", "off the stove",
		"off the flame", "off the gas", "off the fire"}, do: doOff},
	{verbs: "take", has: []string{"down"}, not: []string{"boil", "heat", "flame"}, when: both(inPot, namesNothing), do: doOff},
	{verbs: "take", has: []string{"down just", "down as", "down when", "down once", "down before"}, when: both(inPot, namesNothing),
		do: doOff},
	{verbs: "lay arrange place put toss spread tip", when: func(c *cookery, l *clause) bool {
		oven := c.heated > 0 || ovenAt.MatchString(c.text[c.now])
		dish := inADish.MatchString(l.text()) || onATray.MatchString(l.text())
		return inPot(c, l) && !c.inDish() && oven && dish && roastsThere.MatchString(c.text[c.now])
	}, do: doAdd, then: func(c *cookery, l *clause) {
		l.has("on a baking tray", "on a tray", "on a roasting tray")
		intoADish(c, l)
	}}, // "lay them in a dish, sprinkle with the sugar and roast for 20 minutes"
	{verbs: "lay arrange", when: func(c *cookery, l *clause) bool {
		return !inPot(c, l) && c.heated > 0 && inADish.MatchString(l.text())
	}, do: doAdd, then: intoADish}, // "slice the apples and lay them in a buttered dish"
	{of: []action{doRoast}, when: func(c *cookery, l *clause) bool {
		return c.inDish() && (c.heated > 0 || ovenAt.MatchString(c.text[c.now])) && timed(c, l) && namesNothing(c, l)
	}, do: doBake},
	{verbs: "turn", has: []string{"out when cold", "out when cool", "out once cold", "out once cool", "out when set", "out once set"},
		when: both(inPot, namesNothing), do: doCool},
	{verbs: "turn tip", has: []string{"out"}, not: []string{"heat", "flame", "into", "onto", "in"}, when: both(inPot, namesNothing),
		do: doPass}, // "turn out the sago"
	{verbs: "turn", not: []string{"heat", "flame"}, when: func(c *cookery, l *clause) bool { return l.flame() == "" && namesNew(c, l) },
		do: doAdd}, // "turn the barley in the butter"
	{verbs: "take lift scoop transfer move", when: func(c *cookery, l *clause) bool { return len(c.unused(l)) == 0 && c.inFat() },
		has:  []string{"out", "onto a plate", "on a plate", "to a plate", "out of the pan", "from the pan", "into a bowl", "to a bowl"},
		do:   doNothing,
		then: setsAside},
	{verbs: "tip turn", when: func(c *cookery, l *clause) bool { return len(c.unused(l)) == 0 && c.inFat() },
		has: []string{"onto a plate", "on a plate", "to a plate", "out onto a tray"}, do: doNothing, then: setsAside},
	{verbs: "lift take scoop fish remove discard", when: func(c *cookery, l *clause) bool {
		return c.inAlready(c.unused(l)) &&
			c.onlySpice(l)
	},
		do: doNothing, then: takesOut},
	{verbs: "turn tip", when: func(_ *cookery, l *clause) bool { return l.flame() == "" && l.find("heat") < 0 }, has: []string{"out"},
		do: doNothing},
	{of: []action{doRoast}, when: func(c *cookery, l *clause) bool {
		const oven = 105 // °C: a pot gets no hotter
		return c.inDish() && timed(c, l) && (fullCelsius(l) > oven || l.find("oven") >= 0 || c.heated > 0)
	}, do: doBake},
	{verbs: "soften", not: []string{"water", "milk"}, do: doFry}, // "soften the carrot in the ghee"
	{verbs: "dissolve soften bloom", when: func(c *cookery, l *clause) bool {
		list := c.unused(l)
		return len(list) > 0 && c.behaves(list[0], pantry.Aroma) && spoonOf.MatchString(l.text())
	}, do: doSoak}, // "dissolve the saffron in a spoon of hot milk"
	{verbs: "warm heat", finds: []string{"with"}, when: func(c *cookery, l *clause) bool {
		return c.lastBowl() >= 0 && inPot(c, l) && ofTheHot.MatchString(l.text())
	}, do: doNothing, then: func(c *cookery, l *clause) { c.temperBowl(l, c.lastBowl()) }}, // "warm them with a few spoons of the hot rice"
	{verbs: "infuse steep", finds: []string{"heat", "flame", "fire"}, when: func(c *cookery, l *clause) bool {
		return c.any(c.unused(l), pantry.Liquid)
	}, do: doCook},
	{verbs: "steep", when: namesNew, do: doSoak},
	{verbs: "scald", finds: []string{"water"}, when: func(c *cookery, l *clause) bool {
		list := c.unused(l)
		return c.any(list, pantry.Piece) && !c.any(list, pantry.Grain)
	}, do: doSoak}, // "scald the raisins with boiling water"
	{verbs: "take remove scoop scrape", has: []string{"the seeds", "the stones", "the stone", "the core", "the cores", "the pith",
		"the strings", "the pips"}, do: doPass, then: func(_ *cookery, l *clause) { l.has("out") }},
	{verbs: "scrape", when: func(c *cookery, l *clause) bool { return c.any(c.unused(l), pantry.Tissue) }, do: doPeel},
	{verbs: "take extract get make", when: func(c *cookery, _ *clause) bool {
		return slices.ContainsFunc(c.last, c.isCoconut)
	}, has: []string{"first milk", "thick milk", "thick coconut milk", "coconut milk", "first extract"}, do: doPress,
		then: func(_ *cookery, l *clause) {
			l.has("second milk", "thin milk", "thin coconut milk", "second extract", "the first", "the second")
		}},
	{verbs: "lower", when: func(c *cookery, l *clause) bool { return inPot(c, l) && l.lead >= len(l.words) }, do: doTurn},
	{verbs: "reduce lower turn", when: untimed, has: []string{"to a simmer", "to simmer", "to a gentle simmer"}, do: doTurn},
	{verbs: "leave let", when: func(c *cookery, l *clause) bool {
		return inPot(c, l) && timed(c, l) && namesNothing(c, l) && turnedDown.MatchString(c.text[c.now])
	}, do: doCook}, // "reduce the flame and leave it five minutes"
	{verbs: "leave let", has: []string{"to simmer", "to cook", "to bubble", "to boil gently"}, do: doCook},
	{verbs: "keep", when: untimed, has: []string{"warm until", "hot until"}, do: doNothing},
	{verbs: "keep continue", finds: []string{"cooking", "until"}, not: []string{"fridge", "refrigerator", "cold"}, do: doCook},
	{verbs: "reduce lower turn keep raise increase", not: []string{"oven", "whistle"}, when: turnsFlame, do: doTurn},
	{verbs: "set put place", when: func(c *cookery, l *clause) bool {
		return len(c.held()) == 0 && (namesNew(c, l) || l.find("it") >= 0 || l.find("them") >= 0)
	}, has: []string{"over the fire", "on the fire", "on the stove", "on the hob", "over the heat", "on the heat"}, do: doAdd},
	{verbs: "transfer move", when: func(c *cookery, l *clause) bool { return inPot(c, l) && untimed(c, l) }, has: []string{"to the oven",
		"into the oven", "to the hot oven", "to the preheated oven"}, do: doNothing}, // the next sentence bakes
	{verbs: "return pop slide", has: []string{"oven"}, do: doBake},
	{verbs: "put set place", has: []string{"on to boil", "to boil"}, do: doBoil},
	{verbs: "put set place", when: namesNew, has: []string{"on to heat", "to heat", "on to warm", "to warm"}, do: doCook,
		then: func(_ *cookery, l *clause) { l.verb = "heat" }},
	{of: []action{doGrate}, finds: []string{"over", "in", "into", "on top"}, when: inPot, do: doAdd},
	{of: []action{doCut}, when: func(c *cookery, l *clause) bool { return namesNew(c, l) && inADish.MatchString(l.text()) }, do: doAdd,
		then: intoADish}, // "slice the bananas into a dish"
	{of: []action{doCut}, when: both(inPot, leadsIn), do: doAdd},             // "slice in the bananas"
	{of: []action{doCut}, finds: []string{"on top"}, when: inPot, do: doTop}, // "slice the banana on top"
	{verbs: "let allow leave keep", when: func(c *cookery, l *clause) bool {
		return l.verb != "keep" || l.find("soaked") >= 0 || l.find("water") >= 0
	},
		has: []string{"soak", "soaked", "soaking", "to soak", "in water", "in cold water", "in fresh water", "in clean water",
			"in plenty of water", "under water"}, do: doSoak},
	{verbs: "sit stand rest lie", has: []string{"in water", "in cold water", "in fresh water", "in clean water", "in plenty of water",
		"under water", "in warm water"}, do: doSoak},
	{verbs: "keep", finds: []string{"cold", "chilled"}, when: untimed, do: doChill},
	{verbs: "strain sieve pass", finds: []string{"into", "onto", "over"}, when: func(c *cookery, l *clause) bool {
		into := slices.IndexFunc(c.mentioned(&clause{words: l.copied()}), func(m mention) bool { return m.holder >= 0 && m.holder != c.at })
		return inPot(c, l) && into >= 0 && c.at != c.mainPot()
	}, do: doAdd, then: func(c *cookery, l *clause) {
		l.verb = "pour"
		l.has("sieve", "strainer", "through a", "through")
		c.strained[c.now] = true
	}}, // "strain it into the rice": what was steeped in it stays behind
	{verbs: "tip pour turn put place empty", finds: []string{"sieve", "colander", "strainer"},
		not: []string{"through"}, when: both(inPot, namesNothing), do: doDrain},
	{verbs: "pour pass tip", finds: []string{"through"}, not: []string{"into", "onto"}, when: func(c *cookery, l *clause) bool {
		return inPot(c, l) && namesNothing(c, l) && rinsedIn.MatchString(c.text[c.now]) &&
			(l.find("sieve") >= 0 || l.find("strainer") >= 0 || l.find("colander") >= 0)
	}, do: doDrain},
	{verbs: "keep", finds: []string{"flame", "heat", "fire", "boil"}, when: timed, do: doCook},
	{verbs: "keep", not: []string{"stirring", "whisking", "beating", "boiling", "simmering", "cooking", "fridge", "refrigerator"},
		when: timed, do: doRest},
	{verbs: "keep set put leave", has: []string{"aside to cool", "to one side to cool", "aside until cool", "aside until cold"}, do: doCool},
	{verbs: "keep", has: []string{"aside", "warm", "ready", "hot", "separately"}, do: doNothing, then: setsAside},
	{verbs: "set put place", has: []string{"aside"}, do: doNothing, then: setsAside},
	{verbs: "put place leave keep set", has: []string{"fridge", "refrigerator"}, do: doChill},
	{verbs: "put place leave keep set", has: []string{"in the cool", "in a cool place", "in a cold place", "somewhere cool", "in the cold",
		"in the cellar"},
		do: doCool},
	{verbs: "let", has: []string{"fridge"}, do: doChill},
	{verbs: "simmer", when: func(_ *cookery, l *clause) bool {
		return l.minutes() == 0 && (l.beginsWith("the") || l.beginsWith("heat") || l.beginsWith("flame"))
	}, has: []string{"the flame", "the heat", "the stove", "flame", "heat"}, do: doTurn},
	{verbs: "mix combine stir place put layer arrange", when: func(c *cookery, l *clause) bool { // and it is not on the flame
		return namesNew(c, l) && c.heated > 0 && len(c.held()) == 0 && bakedIn.MatchString(l.text())
	}, do: doAdd, then: intoADish},
	{of: []action{doTop}, when: namesNew, has: []string{"of the dish", "in the dish", "of a dish", "in a dish", "of the tin",
		"of a baking dish", "in a baking dish", "over the base"}, do: doAdd, then: intoADish},
	{of: []action{doTop}, when: func(c *cookery, l *clause) bool { return namesNew(c, l) && inADish.MatchString(l.text()) }, do: doAdd,
		then: intoADish},
	{of: []action{doTop}, when: both(inPot, leadsIn), do: doAdd},
	{verbs: "sprinkle scatter", when: func(c *cookery, l *clause) bool { return !inPot(c, l) && namesNew(c, l) }, do: doAdd,
		finds: []string{"into", "in"}},
	{of: []action{doTop}, when: inPot, finds: []string{"stirring", "whisking", "beating"}, not: []string{"on top", "over"}, do: doAdd},
	{verbs: "put place", has: []string{"oven"}, do: doBake},
	{verbs: "put place", when: namesNothing, has: []string{"the lid"}, do: doPass,
		then: func(c *cookery, _ *clause) { c.lid = new(true) }},
	{verbs: "let allow leave", has: []string{"cool", "to cool", "get cold", "get cool", "go cold", "become cold", "grow cold"}, do: doCool},
	{verbs: "let allow leave", finds: []string{"swell"}, when: func(c *cookery, l *clause) bool {
		return l.find("off") < 0 && (c.flame != "" || l.find("lowest") >= 0 || l.find("heat") >= 0 || l.find("flame") >= 0 || l.find("low") >= 0)
	}, do: doCook},
	{verbs: "let allow", has: []string{"stand", "rest", "sit", "swell", "infuse"}, do: doRest},
	{when: func(_ *cookery, l *clause) bool { return (l.do == doAdd || l.verb == "divide") && l.container() != "" }, do: doMove},
	{of: []action{doAdd}, has: []string{"to the boil", "to a boil"}, do: doBoil},
	{verbs: "pulse", of: []action{doGrind}, when: inPot, do: doMash},
	{verbs: "blend", when: inPot, has: []string{"to a smooth puree", "to a puree", "to a smooth purée", "to a purée", "smooth puree"},
		do: doMash},
	{verbs: "blend", when: both(inPot, namesNothing), do: doMash},
	{verbs: "blend", when: func(c *cookery, l *clause) bool {
		return !inPot(c, l) && c.lastBowl() < 0 && !slices.ContainsFunc(c.unused(l), func(m mention) bool {
			return c.given[m.item].Item.Material != "water"
		})
	}, has: []string{"to a smooth batter", "to a batter", "to a fine batter", "to a fine paste", "to a coarse paste", "coarsely",
		"to a purée", "to a puree", "smooth", "to a paste", "to a smooth paste", "until smooth", "to a smooth purée",
		"to a smooth puree"}, do: doGrind},
}

// inADish is where things are laid that are baked.
var inADish = regexp.MustCompile(`\b(?:in|into|over|of) an? (?:[a-z]+ ){0,3}(?:dish|tin)\b`)

// inFat reports whether what is taken out was fried or browned in fat, so that only this comes out.
func (c *cookery) inFat() bool {
	last := len(c.steps) - 1
	return c.pan || last >= 0 && c.steps[last].Do == plan.Fry ||
		c.heldFat() && slices.ContainsFunc(c.held(), func(i int) bool { return c.behaves(mention{item: i}, pantry.Fat) })
}

// takesOut turns to the pot out of which something is taken, which does not go in.
func takesOut(c *cookery, l *clause) {
	said := maps.Clone(c.said)
	list := c.mentions(l)
	c.said = said
	l.readAll()
	c.asOther(slices.DeleteFunc(list, func(m mention) bool { return m.holder < 0 || !c.holders[m.holder].pot }))
}

// reserve keeps a part of something for later: "reserve a quarter of the coconut milk".
func (c *cookery) reserve(l *clause) {
	for _, m := range c.mentions(l) {
		c.reserved[m.item] = m.share
		if m.share >= 1-c.used[m.item] { // of a tin nobody knows how much it is
			c.reserved[m.item] = plan.SlurryShare
		}
		delete(c.said, m.item)
	}
}

// fromPot is what is in the pot of which a part is kept for later, with its amount: "set aside 4 tbsp of the coconut milk for
// serving"; -1 for none.
func (c *cookery) fromPot(l *clause) int {
	later := l.find("aside") >= 0 || l.find("back") >= 0 || l.find("later") >= 0 || l.find("serving") >= 0 || l.find("serve") >= 0 ||
		l.verb == "reserve" || l.verb == "save"
	if !later || len(c.held()) == 0 || len(c.unused(l)) > 0 {
		return -1
	}
	for _, i := range c.held() {
		if c.behaves(mention{item: i}, pantry.Liquid) && c.amountOf(l, i) != "" {
			return i
		}
	}
	return -1
}

// amountOf is the amount with which a clause names something; "" for none.
func (c *cookery) amountOf(l *clause, item int) string {
	for _, name := range c.names[item] {
		n := len(strings.Fields(name))
		for k := 0; k+n <= len(l.words); k++ {
			if phraseOf(l.words[k:k+n]) == name {
				text, _ := c.amountBefore(l, k)
				return text
			}
		}
	}
	if of := max(l.find("of it"), l.find("of this")); of > 0 && slices.Contains(c.held(), item) { // "set aside half a cup of it"
		text, _ := c.amountBefore(l, of+1)
		return text
	}
	return ""
}

// reserveFromPot takes some of what is in the pot out of it again.
func (c *cookery) reserveFromPot(l *clause) {
	const most = 0.9
	item, all, part := c.fromPot(l), 0.0, 0.0
	for _, i := range c.held() {
		all += c.gramsOf(i) * c.used[i]
	}
	if amount, err := measure.ParseAmount(c.amountOf(l, item)); err == nil {
		if grams, err := c.reader.measures.Grams(amount, c.material(item).Body()); err == nil {
			part = float64(grams)
		}
	}
	l.readAll()
	if all <= 0 || part <= 0 || part >= most*all {
		c.doubt(NotDone, l.said(), "")
		return
	}
	share := math.Round(part/all*100) / 100
	step := plan.Step{Do: plan.Mix, Name: c.free("reserved " + NameOf(c.material(item))), Items: []plan.Item{{Pot: c.holders[c.at].name,
		Share: &share}}}
	c.emit(step)
	h := holder{name: step.Name, left: 1, items: []int{item}}
	for _, name := range c.names[item] {
		h.words = append(h.words, "reserved "+name, "remaining "+name, "rest of the "+name, name)
	}
	c.last = []mention{allOf(c.at)}
	c.holders = append(c.holders, h)
}

// dresses returns the grain that a clause tosses in fat before it goes in, and the fat; nil if it does not.
func (c *cookery) dresses(l *clause) []mention {
	var fat, grain []mention
	for _, m := range c.unused(l) {
		switch {
		case c.behaves(m, pantry.Fat):
			fat = append(fat, m)
		case c.behaves(m, pantry.Grain):
			grain = append(grain, m)
		default:
			return nil
		}
	}
	if it := l.find("it") >= 0 || l.find("them") >= 0; it && len(grain) == 0 {
		grain = slices.DeleteFunc(slices.Clone(c.last), func(m mention) bool {
			return m.item < 0 || m.holder >= 0 || c.used[m.item] > 0 || !c.behaves(m, pantry.Grain)
		})
	}
	if len(fat) != 1 || len(grain) != 1 || l.minutes() > 0 || l.flame() != "" {
		return nil
	}
	return []mention{grain[0], fat[0]}
}

// stirsOn sets how the last step over a flame is stirred.
func (c *cookery) stirsOn(l *clause) {
	l.readAll()
	if last := len(c.steps) - 1; last >= 0 && c.steps[last].Do == plan.Heat {
		c.steps[last].Stir = cmp.Or(l.stirring(), plan.StirConstant)
	}
}

// lastBowl is the bowl that was stirred together last and is poured nowhere yet; -1 for none.
func (c *cookery) lastBowl() int {
	if len(c.last) == 0 || c.last[0].holder < 0 || c.holders[c.last[0].holder].pot || c.holders[c.last[0].holder].left <= 0 {
		return -1
	}
	return c.last[0].holder
}

// inAlready reports whether of all that is named some is in a pot, by another line of the list it may be: the stick of cinnamon,
// where the list has ground cinnamon too.
func (c *cookery) inAlready(list []mention) bool {
	return !slices.ContainsFunc(list, func(m mention) bool {
		for i := range c.given {
			if c.used[i] > 0 && c.given[i].Item.Material == c.given[m.item].Item.Material {
				return false
			}
		}
		return true
	})
}

// onlySpice reports whether a clause names nothing but what gave its flavour and is taken out again, or nothing at all.
func (c *cookery) onlySpice(l *clause) bool {
	said := maps.Clone(c.said)
	defer func() { c.said = said }()
	flavours := []string{"peel", "zest", "pod", "pods", "stick", "sticks", "leaf", "leaves", "bay", "bark", "cloves", "rind", "bag"}
	l.has(flavours...)
	if !slices.ContainsFunc(l.asked().words, func(w *token) bool {
		return slices.Contains(flavours, w.text) ||
			c.endsName(w.one)
	}) {
		return false
	}
	for _, m := range c.mentioned(l) {
		material := c.material(m.item)
		if from := max(l.find("of"), l.find("from")); from >= 0 && m.at > from && m.share == 0 {
			continue // "out of the rice"
		}
		if material == nil || material.Kind != "spice" && material.Kind != "flavour" {
			return false
		}
	}
	return true
}

// greases reads what a dish is rubbed with; it is counted as gone in only where the list has it for that alone.
func (c *cookery) greases(l *clause) {
	for i := range c.given {
		if text := strings.ToLower(c.given[i].Text); c.behaves(mention{item: i}, pantry.Fat) && forGreasing.MatchString(text) &&
			!andMore.MatchString(text) {
			c.used[i] = 1
		}
	}
	for _, m := range c.mentions(l) {
		delete(c.said, m.item) // it does not go into the pudding by that
	}
}

// butters keeps the fat that a dish is buttered with for what fills it.
func (c *cookery) butters(fat []mention) {
	c.forDish, c.greased = fat, c.now
	for _, m := range fat {
		c.reserved[m.item] = m.share
		c.comesWith[m.item] = true
		delete(c.said, m.item)
	}
}

// andMore is said of what a line has beside its amount: "plus extra for the dish".
var andMore = regexp.MustCompile(`\b(?:plus|and|extra|more|\+|some)\b`)

// forGreasing is said of fat that a dish is rubbed with.
var forGreasing = regexp.MustCompile(`\bgreas|\b(?:for|to (?:butter|oil|line)) (?:the|a|your) (?:baking )?(?:dish|tin|moulds?|` +
	`ramekins)\b`)

func whistles(_ *cookery, l *clause) bool {
	return !slices.Contains([]action{doRest, doPass, doOff, doTurn}, l.do) && whistleSaid.MatchString(l.text()) &&
		!l.has("let the pressure", "pressure release", "pressure to")
}

// What is roasted in an oven, and on what.
var (
	ovenAt  = regexp.MustCompile(`(?i)\b(?:roast|bake)\b[^.;]*\bat \d{2,3}`)
	onATray = regexp.MustCompile(`\b(?:on|onto) an? (?:[a-z]+ ){0,2}tray\b`)
)

// roastsThere is said of fruit that is done in the oven.
var roastsThere = regexp.MustCompile(`(?i)\b(?:roast|bake)\b[^.;]*\d`)

// simmersFirst is said of a flame that is turned down for what is added.
var simmersFirst = regexp.MustCompile(`(?i)^(?:now |then )?simmer(?: the flame)?(?:,| and) (?:add|pour|stir in|mix in)\b`)

// turnedDown is said of a flame that stays on under what is left on it.
var turnedDown = regexp.MustCompile(`(?i)^[^.;]*\b(?:reduce|lower|turn down) the (?:flame|heat|fire|gas)(?: down)?` +
	`(?: to [a-z]+)?,? (?:and |then )*(?:leave|let) (?:it|them)\b`)

// turnsFlame reports whether a clause is of the flame: "lower the heat", "turn it to low".
func turnsFlame(_ *cookery, l *clause) bool {
	if l.verb == "reduce" && overFlame.MatchString(l.asked().text()) {
		return false // "reduce the milk over a low flame"
	}
	return l.minutes() == 0 && l.remaining() == 0 &&
		(l.has("heat", "flame", "fire", "gas") || l.find("to low") >= 0 || l.find("to medium") >= 0)
}

// strewnDish is said of a dish that is greased and strewn.
var strewnDish = regexp.MustCompile(`(?i)\b(?:butter|grease|oil) (?:the|an?|your) [a-z -]*?(?:dish|tin|mould),? (?:and |then )*` +
	`(?:strew|sprinkle|dust|coat|flour)\b`)

// overFlame is said of what is reduced, and not of the flame.
var overFlame = regexp.MustCompile(`^[^,]*\b(?:over|on) (?:a |the )?(?:very )?(?:low|medium|high|slow|gentle|moderate|lowest|small)\b`)

// intoADish makes what is put in go into a dish of its own, where none is being filled.
func intoADish(c *cookery, _ *clause) {
	if c.next == nil && !c.inDish() {
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

// slowFor is said of a slow cooker, though it is not named: "cook on low for 6 hours".
var slowFor = regexp.MustCompile(`\bon (?:the )?(?:low|high)(?: setting)? for (?:about |at least )?(?:[3-9]|[3-9] (?:to|or) \d+|` +
	`2 1/2|three|four|five|six|seven|eight) hours\b`)

// settle reads what all clauses may say, and what a word of doing means beside others.
func (c *cookery) settle(l *clause) {
	if l.has("another pan", "another pot", "another saucepan", "separate pan", "separate pot", "separate saucepan", "second pan", "second pot",
		"different pan", "other pan", "other pot", "side pan", "smaller pan", "own pot", "own pan") && len(c.held()) > 0 && c.next == nil {
		c.next = []string{}
	}
	if on := l.lid(); on != nil && l.do != doSoak { // "soak in enough water to cover"
		c.lid = on
	}
	l.has("whisking", "dry")
	c.means(l, meanings)
	switch {
	case l.has("slow cooker"), l.do == doCook && slowFor.MatchString(l.text()):
		c.oven = plan.SlowCooker
	case l.has("microwave", "microwave oven"):
		c.oven = plan.Microwave
	case c.oven != "" && (l.find("saucepan") >= 0 || l.find("stove") >= 0 || l.find("hob") >= 0):
		c.oven = ""
	}
	if l.do == doCook && c.sealed && l.minutes() > 0 {
		l.do = doCooker
	}
	if l.do == doCook && (l.verb == "let" || l.verb == "allow") && l.has("to the simmer", "to a simmer", "to a gentle simmer",
		"to simmering point") {
		l.do = doBoil
	}
	if l.do == doCook && (l.boils() || l.has("to the boil", "to a boil", "to boil", "come to boil", "boil up") ||
		l.verb == "boil" && l.minutes() == 0 && !l.targets() && l.find("until") < 0 && !volumeSaid.MatchString(l.text())) {
		l.do = doBoil
	}
}
