package recipe

import (
	"regexp"
	"slices"
	"strings"

	"kirdu/core/pantry"
	"kirdu/core/plan"
)

// What pots, pans and bowls there are, and what is poured from one into another.

// putAside leaves what is in the pot where it is: what comes goes into another.
func (c *cookery) putAside(l *clause) {
	list := c.mentioned(l)
	if c.steeps == c.now || len(c.held()) == 0 || len(c.steps) == 0 || c.steps[len(c.steps)-1].Topping ||
		c.steps[len(c.steps)-1].Do.IsPreparation() ||
		slices.ContainsFunc(list, func(m mention) bool {
			with := l.find("with") // "set aside with the vermicelli"
			return (m.holder >= 0 || m.share > 0) && (with < 0 || m.at < with)
		}) {
		return
	}
	if other := c.otherPot(); other >= 0 && c.isSyrup(c.at) && !c.isSyrup(other) {
		c.at = other // the syrup waits, and what it is for goes on
		return
	}
	c.next = []string{}
}

// container returns the bowls or the dish that a clause tips things into: "into six small bowls".
func (l *clause) container() string {
	for k, w := range l.words {
		bowls := w.text == "in" && (l.verb == "pour" || l.verb == "ladle" || l.verb == "serve" || l.verb == "spoon" || l.verb == "fill" ||
			l.verb == "distribute" || l.verb == "divide" || l.verb == "put" || l.verb == "place")
		moves := w.text == "to" && l.verb == "transfer"
		if w.text != "into" && w.text != "between" && w.text != "among" && w.text != "onto" && !bowls && !moves {
			continue
		}
	within:
		for j, t := range l.words[k+1 : min(k+7, len(l.words))] {
			if next := k + 2 + j; bowls && t.text == "cups" || next < len(l.words) && l.words[next].text == "of" {
				break within // "pour in two cups of the milk"
			}
			switch t.text {
			case "bowls", "glasses", "jars", "plates", "cups", "ramekins", "moulds", "dishes", "pots", "dish", "tray", "tin", "mould",
				"casserole", "platter":
				for _, n := range l.words[k:min(k+7, len(l.words))] {
					n.read = n.read || isFigure(n.text) // of bowls
				}
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

// goesInto finds the pot or the bowl that a clause puts things into: "to the rice", "over the eggs". subject
// is what goes in.
func (c *cookery) goesInto(l *clause, list []mention) (subject []mention, into int) {
	into = c.at
	towards := -1
	for k, w := range l.words {
		switch w.text {
		case "to", "into", "over", "onto", "on", "upon", "in", "through":
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
		"on the pudding", "to the main pot", "into the main pot", "to the pot", "into the pot", "into the cooker", "to the main pan",
		"into the first pot", "into the first pan") {
		into = main
	}
	return subject, into
}

// newPan finds where a clause names a pan that was not there before: "in a frying pan". -1 for nowhere.
func (l *clause) newPan() int {
	for k, w := range l.words {
		switch w.one {
		case "pan", "saucepan", "pot", "skillet", "kadai", "wok", "bowl", "dish", "casserole", "vessel", "uruli", "kadhai", "karahi", "handi":
		default:
			continue
		}
		for j := k - 1; j >= max(k-4, 0); j-- {
			switch l.words[j].text {
			case "a", "an", "another", "separate", "second", "different":
				return k
			case "the", "in", "same", ",", "serving":
				j = -1
			}
		}
	}
	return -1
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

// stirredBeside are words for stirring something together beside the pot.
var stirredBeside = []string{"whisk", "beat", "whip", "season", "mix", "dissolve", "combine", "blend", "stir", "make"}

// bowl stirs something together beside the pot: beaten egg, starch in cold milk, whisked yogurt. It reports
// whether it did.
func (c *cookery) bowl(l *clause, list []mention) bool {
	if !slices.Contains(stirredBeside, l.verb) {
		return false
	}
	if coldWater.MatchString(l.text()) { // other water than what is in
		list = slices.DeleteFunc(slices.Clone(list), func(m mention) bool {
			return m.item >= 0 && m.share <= 0 && c.given[m.item].Item.Material == "water"
		})
	}
	if len(c.held()) > 0 && l.beginsWith("in") && !besideThePot.MatchString(l.asked().text()) {
		return false // "beat in the butter", "blend in the remaining milk and the egg": into the pot
	}
	var items []mention // what is in nothing yet
	for _, m := range list {
		if m.item >= 0 && m.share > 0 {
			items = append(items, m)
		}
	}
	used := len(items) < len(list)
	if drained := c.lastCooked() == plan.Drain && c.inHolder(list, c.at); drained && slices.ContainsFunc(list, func(m mention) bool {
		return m.item >= 0 && m.share <= 0 && c.behaves(m, pantry.Grain)
	}) {
		l.has("in a bowl", "in a large bowl", "in a serving bowl", "in a big bowl", "bowl")
		return false // "drain. In a bowl mix the sago and the coconut milk": as good as its pot
	}
	beside := l.has("in a bowl", "in a small bowl", "in another bowl", "in a separate bowl", "in a mixing bowl", "in a large bowl",
		"to a paste", "to a smooth paste", "into a paste", "into a smooth paste", "slurry", "into a slurry", "in a jug", "smooth paste")
	beside = beside || l.verb == "dissolve" && len(c.held()) > 0 && dissolvedIn.MatchString(c.text[c.now]) &&
		!slices.ContainsFunc(items, func(m mention) bool { return c.sweetens(m.item) })
	beside = beside || !strings.Contains(l.text(), "in a cup of") && l.has("in a cup") || c.forTheTop(l, items)
	powder := c.milkOfPowder(l, items)
	beside = beside || powder
	intoLiquid := len(c.held()) > 0 && l.find("into") >= 0 && len(items) > 1 && c.behaves(items[len(items)-1], pantry.Liquid) &&
		items[len(items)-1].at > l.find("into")
	flour := c.any(items, pantry.Flour) || (c.cold(l, items) || intoLiquid) && c.any(items, pantry.Grain)
	if used && !beside || len(items) == 0 || !(beside || c.beaten(l, items) || flour && c.slurry(l, items)) {
		cold := len(c.held()) == 0 && l.find("water") >= 0 || c.ahead != "" && coldWater.MatchString(l.text())
		if !used && len(items) == 1 && flour && cold { // in a little water, nobody says how much
			l.has("water")
			c.preparing(items[0].item, preparing{name: "stir in cold", minutes: fewMinutes, sentence: c.now})
			return true
		}
		return false
	}
	name := "mixture"
	switch {
	case c.any(items, pantry.Egg):
		name = "eggs"
		if c.onlyWhites(items) {
			name = "whites"
		}
	case flour:
		name = "slurry"
	case c.whipsCream(l, items):
		name = "cream"
	case powder:
		name = "milk"
	}
	c.stirBeside(l, name, items, list)
	return true
}

// milkOfPowder reports whether milk is made of its powder and water, beside what is cooking.
func (c *cookery) milkOfPowder(l *clause, items []mention) bool {
	is := func(fits func(string) bool) bool {
		return slices.ContainsFunc(items, func(m mention) bool { return fits(c.given[m.item].Item.Material) })
	}
	return len(c.held()) > 0 && (l.verb == "dissolve" || l.verb == "mix" || l.verb == "stir") && !l.beginsWith("in") &&
		is(func(slug string) bool { return slug == "coconut-powder" || strings.HasPrefix(slug, "milk-powder") }) &&
		is(func(slug string) bool { return slug == "water" })
}

// coldWater is said of what a starch is stirred into before it goes in.
var coldWater = regexp.MustCompile(`\b(?:with|in|into) (?:a )?(?:little|some|splash of|spoonful of) (?:cold )?water\b`)

// besideThePot is said of what something is stirred together in.
var besideThePot = regexp.MustCompile(`^in (?:an? |the |another |one |two |half )?(?:[a-z-]+ ){0,2}(?:bowl|jug|cup|water|milk|cream)\b`)

// dissolvedIn is said of a powder that is stirred into a little water before it goes in.
var dissolvedIn = regexp.MustCompile(`(?i)\bdissolve\b[^.;]*\b(?:and|then) (?:add|stir|pour|mix)\b`)

// forTheTop reports whether what is stirred together goes over the pudding later on, and not into it: "stir the salt into the
// coconut cream ... drizzle with the coconut cream".
func (c *cookery) forTheTop(l *clause, items []mention) bool {
	const fewest = 2
	liquid := slices.IndexFunc(items, func(m mention) bool {
		return c.behaves(m, pantry.Liquid) && c.material(m.item) != nil && pours(c.material(m.item))
	})
	if len(items) < fewest || liquid < 0 || items[liquid].share < 1 || !c.cooked() || l.verb == "dissolve" || l.beginsWith("in") ||
		l.find("pan") >= 0 || l.find("pot") >= 0 {
		return false
	}
	text := strings.ToLower(strings.Join(c.text[c.now:], " . "))
	if at := strings.Index(text, l.asked().text()); at >= 0 {
		text = text[at+len(l.asked().text()):]
	}
	if itOver.MatchString(text) {
		return true
	}
	for _, found := range goesOver.FindAllStringSubmatch(text, -1) {
		if slices.ContainsFunc(c.names[items[liquid].item], func(name string) bool { return strings.Contains(found[1], name) }) {
			return true
		}
	}
	return false
}

var (
	itOver   = regexp.MustCompile(`\b(?:spoon|swirl|serve|pour|drizzle|ladle) (?:it|this) (?:over|on|through|alongside|on top)\b`)
	goesOver = regexp.MustCompile(`\b(?:drizzle|top|serve|spoon|swirl|pour|finish|dress)\b[^.;]*?\b(?:with|over|of|on|the) ([^.;]{3,40})`)
)

// onlyWhites reports whether of egg there is nothing but its white: it is whipped, and folded in.
func (c *cookery) onlyWhites(items []mention) bool {
	return !slices.ContainsFunc(items, func(m mention) bool {
		return c.behaves(m, pantry.Egg) && c.given[m.item].Item.Material != "egg-white"
	})
}

// any reports whether something of a list behaves so.
func (c *cookery) any(list []mention, behaviour pantry.Behaviour) bool {
	return slices.ContainsFunc(list, func(m mention) bool { return c.behaves(m, behaviour) })
}

// cold reports whether part of a liquid is stirred together with something before anything is in a pot.
func (c *cookery) cold(l *clause, items []mention) bool {
	return slices.ContainsFunc(items, func(m mention) bool { return c.behaves(m, pantry.Liquid) && m.share < fullyUsed }) &&
		len(c.held()) == 0 &&
		l.verb != "combine" && l.find("saucepan") < 0 && l.find("pan") < 0 && l.find("pot") < 0
}

// beaten reports whether egg is beaten, or yogurt whisked.
func (c *cookery) beaten(l *clause, items []mention) bool {
	cultured := slices.ContainsFunc(items, func(m mention) bool { return c.material(m.item) != nil && c.material(m.item).Has("cultured") })
	return cultured && l.verb == "whisk" || c.whipsCream(l, items) ||
		c.any(items, pantry.Egg) && slices.Contains([]string{"beat", "whisk", "mix", "whip", "blend", "combine"}, l.verb) &&
			(len(c.held()) > 0 || c.at < 0 && !inAPan.MatchString(l.text()))
}

// inAPan is said of what is stirred together where it is cooked.
var inAPan = regexp.MustCompile(`\bin an? (?:[a-z-]+ ){0,3}(?:saucepan|pan|pot)\b`)

// whipsCream reports whether cream is whipped, by itself or sweetened: it goes in whipped, by its name.
func (c *cookery) whipsCream(l *clause, items []mention) bool {
	whips := l.verb == "whip" || (l.verb == "beat" || l.verb == "whisk") && whippedSaid.MatchString(l.text())
	if len(items) == 0 || !whips {
		return false
	}
	return c.isCream(items[0]) && !slices.ContainsFunc(items, func(m mention) bool {
		return !c.isCream(m) && !c.sweetens(m.item) && !c.behaves(m, pantry.Aroma)
	})
}

func (c *cookery) isCream(m mention) bool {
	material := c.material(m.item)
	return material != nil && material.Behaviour == pantry.Liquid && strings.Contains(material.Slug, "cream")
}

// whippedSaid is said of what is whipped until it stands.
var whippedSaid = regexp.MustCompile(`\b(?:peaks?|stiff|fluffy|holds? its shape|whipped|light and airy|billowy|` +
	`(?:until|till) (?:it (?:is )?)?(?:just )?(?:stands|holds|thick|thickens|thickened|firm))\b`)

// slurry reports whether flour is stirred into some liquid, and not into all that is in the pot.
func (c *cookery) slurry(l *clause, items []mention) bool {
	if len(items) < 2 || l.verb == "beat" || l.verb == "make" || !c.any(items, pantry.Liquid) && !c.any(items, pantry.Egg) {
		return false
	}
	if into := l.find("into"); into >= 0 && len(c.held()) > 0 && slices.ContainsFunc(items, func(m mention) bool {
		return m.at > into &&
			c.behaves(m, pantry.Liquid)
	}) {
		return true // "stir the flour into the rest of the milk"
	}
	return len(c.held()) == 0 || l.has("cold", "little", "some") || slices.ContainsFunc(items, func(m mention) bool {
		return c.behaves(m, pantry.Liquid) && (m.share < 1 || c.given[m.item].inMethod)
	})
}

// stirBeside makes a bowl of what is in nothing yet and of the bowls that are named.
func (c *cookery) stirBeside(l *clause, name string, items, list []mention) {
	step := plan.Step{Do: plan.Mix, Name: c.free(name)}
	h := holder{name: step.Name, left: 1, words: []string{"mixture", "paste", "slurry", "batter", "mix", name,
		singularWord(name) + " mixture"}}
	switch name {
	case "eggs":
		h.words = append(h.words, "custard", "egg mixture", "egg mix")
	case "whites":
		h.words = []string{"egg whites", "egg white", "whites", "white", "foam", "snow", "meringue"}
		l.has("stiff", "until stiff", "soft peaks", "stiff peaks", "peaks", "foam", "foamy", "snow")
	case "milk":
		h.words = append(h.words, "coconut milk", "dissolved milk")
	case "puree":
		h.words = append(h.words, "purée", "pulp")
		for _, m := range items {
			for _, of := range c.names[m.item] {
				h.words = append(h.words, of+" puree", of+" purée", of+" pulp", of+" mixture")
			}
		}
	case "cream":
		h.words = []string{"cream", "whipped cream"}
		l.has("until stiff", "soft peaks", "stiff peaks", "peaks", "stiff", "its shape", "fluffy")
	}
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
	c.last = []mention{allOf(len(c.holders) - 1)}
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
		c.last = []mention{allOf(len(c.holders) - 1)}
		return true
	}
	some := 1.0
	for k, w := range l.words {
		if !c.endsName(w.one) && w.one != "mixture" && w.one != "liquid" && w.one != "pudding" || some < 1 {
			continue
		}
		some = c.partShare(l, k)
		if text, from := c.amountBefore(l, k); text != "" && some == 1 { // "half a cup of the hot rice"
			some = plan.SlurryShare
			for _, w := range l.words[from:k] {
				w.read = true
			}
		}
	}
	if some >= 1 {
		return c.put([]mention{allOf(into)}, plan.Step{Slowly: true})
	}
	return c.tempered(into, some)
}

// temperBowl stirs some of what is hot into a bowl: "loosen with a ladle of the hot milk".
func (c *cookery) temperBowl(l *clause, bowl int) bool {
	l.readAll()
	return c.tempered(bowl, plan.SlurryShare)
}

// tempered makes the step.
func (c *cookery) tempered(into int, some float64) bool {
	step := plan.Step{Do: plan.Mix, Name: c.free("tempered"), Items: []plan.Item{c.pour(into, 1), {Pot: c.holders[c.at].name, Share: &some}}}
	c.emit(step)
	c.holders = append(c.holders, holder{name: step.Name, left: 1, words: append(slices.Clone(c.holders[into].words), "mixture"),
		items: slices.Clone(c.holders[into].items)})
	c.last = []mention{allOf(len(c.holders) - 1)}
	return true
}

// asOther goes to another pot if all that is named is in that.
func (c *cookery) asOther(list []mention) []mention {
	if c.next != nil || len(list) == 0 {
		return list
	}
	if h := list[0].holder; c.inDish() && h >= 0 && h != c.at && c.holders[h].pot {
		c.at = h // nothing is boiled in a dish for the oven
		return list[1:]
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
		c.put([]mention{allOf(h)}, plan.Step{})
	}
}

// aside opens a second pot for what is warmed while the first is at work.
func (c *cookery) aside(l *clause, list []mention) {
	if len(c.held()) == 0 || c.next != nil || !c.anyNew(list) {
		return
	}
	if c.inDish() && slices.ContainsFunc(list, func(m mention) bool { return m.share > 0 && m.holder < 0 && c.behaves(m, pantry.Liquid) }) {
		c.next = []string{} // "heat the milk and pour it over the rice", which is in its dish
		return
	}
	if c.blanches(list) {
		c.next = []string{}
		return
	}
	meanwhile := l.has("meanwhile", "separately", "in the meantime", "at the same time", "on the side", "alongside",
		"side by side", "in parallel", "on another burner", "on the other burner", "on a second burner")
	indefinite := l.has("in a pan", "in a saucepan", "in a small pan", "in a small saucepan", "in a pot", "in a medium saucepan",
		"in a small pot",
		"in a large pan", "in a large pot", "in a large saucepan", "in a heavy pan", "in a heavy pot", "in a wide pan", "in a heavy bottomed pan")
	known := slices.ContainsFunc(list, func(m mention) bool {
		return m.item >= 0 && m.share <= 0 && m.holder < 0 && !c.behaves(m, pantry.Aroma) && c.given[m.item].Item.Material != "water"
	})
	if k := l.newPan(); k >= 0 && (onTheFlame[l.words[k].one] && c.cooked() || isAnother[l.words[k-1].text]) {
		indefinite = true
	}
	switch l.verb {
	case "boil", "bring", "heat", "reduce", "warm", "scald": // "cook the rice ... boil the milk": in another pot
		indefinite = indefinite || slices.ContainsFunc(list, func(m mention) bool {
			return m.share > 0 && m.holder < 0 && (m.at >= l.lead || l.lead > 0 && l.words[l.lead-1].text == ",") && c.behaves(m, pantry.Liquid)
		}) && c.cooked()
	}
	if (meanwhile || indefinite || c.compote(l, list) || c.pudding(list) || c.syrupApart(list)) && !known {
		c.next = []string{}
	}
}

// What stands on a flame, and words for one more of them.
var (
	onTheFlame = wordSet("pan saucepan pot vessel")
	isAnother  = wordSet("another separate second different other")
)

// blanches reports whether grain is boiled in water and drained while the milk that it goes into is in the pot.
func (c *cookery) blanches(list []mention) bool {
	milk := slices.ContainsFunc(c.held(), func(i int) bool {
		return c.behaves(mention{item: i}, pantry.Liquid) && c.given[i].Item.Material != "water"
	})
	return milk && c.any(list, pantry.Grain) && inWater.MatchString(c.text[c.now]) && drainSaid.MatchString(c.text[c.now])
}

// inWater is said of what is boiled in water.
var inWater = regexp.MustCompile(`(?i)\bin (?:plenty of |a lot of |lots of |enough )?(?:salted |fresh |boiling )*water\b`)

// pudding reports whether grain and the milk that it is cooked in are both new, while fruit or a syrup is in the pot.
func (c *cookery) pudding(list []mention) bool {
	fruit := slices.ContainsFunc(c.held(), func(i int) bool { return c.behaves(mention{item: i}, pantry.Tissue) || c.sweetens(i) })
	started := slices.ContainsFunc(c.held(), func(i int) bool {
		one := mention{item: i}
		return c.behaves(one, pantry.Grain) || c.behaves(one, pantry.Liquid) && c.given[i].Item.Material != "water"
	})
	fresh := slices.DeleteFunc(slices.Clone(list), func(m mention) bool {
		return m.item < 0 || m.share <= 0 || m.holder >= 0 || c.given[m.item].Item.Material == "water"
	})
	return fruit && !started && c.cooked() && c.any(fresh, pantry.Liquid) && c.any(fresh, pantry.Grain)
}

// syrupApart reports whether sugar and the water that it boils in are both new, and make a syrup beside grain that was cooked: it is
// strained, or a later sentence calls it so.
func (c *cookery) syrupApart(list []mention) bool {
	sweet, water := false, false
	for _, m := range list {
		switch material := c.material(m.item); {
		case m.item < 0 || m.share <= 0 || m.holder >= 0:
			return false
		case material.Kind == "sweetener":
			sweet = true
		case material.Slug == "water":
			water = true
		case !c.behaves(m, pantry.Aroma):
			return false
		}
	}
	later := strings.Join(c.later(0), " . ")
	return sweet && water && c.cooked() && !c.isSyrup(c.at) && (drainSaid.MatchString(c.text[c.now]) || syrupLater.MatchString(later))
}

// compote reports whether fruit is cooked for itself, where a pudding is done: it goes over that at the end.
func (c *cookery) compote(l *clause, list []mention) bool {
	first := slices.IndexFunc(list, func(m mention) bool { return m.item >= 0 && m.share > 0 && m.holder < 0 })
	if first < 0 || !c.cooked() || !slices.Contains([]string{"stew", "poach", "cook", "simmer", "boil", "heat", "warm"}, l.verb) {
		return false
	}
	m := c.material(list[first].item)
	if m == nil || m.Kind != "fruit" || m.Behaviour != pantry.Tissue {
		return false
	}
	if l.verb == "stew" {
		return true
	}
	later := " " + strings.Join(plainWords(strings.Join(c.later(0), " ")), " ") + " "
	return slices.ContainsFunc(append(slices.Clone(c.names[list[first].item]), "compote", "fruit", "sauce"), func(name string) bool {
		return strings.Contains(later, " "+name+" ")
	})
}

// cooked reports whether what is in the pot has been on the flame.
func (c *cookery) cooked() bool {
	return c.at >= 0 && slices.ContainsFunc(c.steps, func(s plan.Step) bool {
		return s.Pot == c.holders[c.at].name && (s.Do == plan.Heat || s.Do == plan.Pressure || s.Do == plan.Bake)
	})
}

// portion shares the pudding out, if that was said.
func (c *cookery) portion() {
	if !c.bowls {
		return
	}
	c.bowls = false
	c.emit(plan.Step{Do: plan.Portion, Bowls: 1})
}

// move is to bowls, which then cool each by itself, into a dish, or over what is in another pot.
func (c *cookery) move(l *clause) bool {
	into := l.container()
	l.has("serving", "baking", "ovenproof", "individual", "dish", "tray", "tin", "mould", "casserole", "ramekins", "moulds", "dishes", "pots",
		"platter")
	switch dish := slices.Contains([]string{"dish", "tray", "tin", "mould", "casserole"}, into); {
	case dish && l.find("serving") < 0 && c.intoDish(l):
		l.has("everything", "it all", "all of it")
		return true
	case into != "" && !dish:
		fresh := c.unused(l)
		c.turnTo(c.mentions(l))
		if with := l.find("with"); with >= 0 && len(c.held()) > 0 { // "fill into glasses in layers with the berries"
			c.put(slices.DeleteFunc(fresh, func(m mention) bool { return m.at < with }), plan.Step{Topping: true})
		}
		c.bowls = true
		return true
	case into != "":
		return true
	case l.verb == "transfer" && slices.ContainsFunc([]string{"pot", "pan", "saucepan", "cooker"},
		func(w string) bool { return l.find(w) >= 0 }):
		if len(c.held()) == 0 {
			if to := l.find("to"); to >= l.lead {
				l.words[to].text = "in" // "transfer to a pot with the water"
			}
			return c.add(l)
		}
		from, with := c.at, slices.DeleteFunc(c.mentions(l), func(m mention) bool { return m.item < 0 || m.share <= 0 || m.holder >= 0 })
		c.open([]string{})
		return c.put(append([]mention{allOf(from)}, with...), plan.Step{}) // "transfer to the cooker with 2 cups of water"
	case l.verb == "transfer" && len(c.held()) > 0 && len(c.unused(l)) == 0 && inABowl.MatchString(l.text()):
		return true // as good as its pot
	case l.verb == "divide" || l.verb == "portion" || l.verb == "share":
		if c.bowls = l.has("per glass", "per bowl", "per portion", "per person", "each"); c.bowls {
			l.readAll()
		}
		return c.bowls
	}
	return c.top(l)
}

// turnTo turns to the pot of what is shared out, if that is another: "divide the sago among bowls".
func (c *cookery) turnTo(list []mention) {
	for _, m := range list {
		h := m.holder
		if h < 0 && m.item >= 0 && !slices.Contains(c.held(), m.item) {
			h = c.holderOf(m.item)
		}
		if h >= 0 && h != c.at && c.holders[h].pot {
			c.at, c.next = h, nil
			return
		}
	}
}

// inABowl is where a pudding is kept.
var inABowl = regexp.MustCompile(`\b(?:to|into) an? (?:[a-z]+ ){0,2}(?:bowl|container|box|jug|jar)\b`)

// intoDish fills a dish: with what is named and in no pot yet, with what was stirred together, or with what is in the pot.
func (c *cookery) intoDish(l *clause) bool {
	before, fresh, empty := c.last, c.unused(l), len(c.held()) == 0
	if (l.find("it") >= 0 || l.find("them") >= 0) && len(fresh) == 0 && empty {
		fresh = slices.DeleteFunc(slices.Clone(before), func(m mention) bool { return m.item < 0 || m.holder >= 0 || c.used[m.item] > 0 })
	}
	bowl, from := c.bowlOfSentence(), c.at
	switch {
	case len(fresh) > 0:
		intoADish(c, l)
		list := c.asMeant(l, c.mentions(l), before)
		unput := len(before) > 0 && !slices.ContainsFunc(before, func(m mention) bool { return m.item < 0 || !c.unput(m) })
		if (empty || unput) && l.putsItself() { // "wash the rice and put into a dish with the sugar"
			list = append(c.asMeant(it, nil, before), list...)
		}
		return c.put(list, plan.Step{})
	case empty && bowl >= 0:
		c.next = []string{"dish"}
		return c.put([]mention{allOf(bowl)}, plan.Step{})
	case empty:
		return false
	}
	c.open([]string{"dish"})
	return c.put([]mention{allOf(from)}, plan.Step{})
}
