package recipe

import (
	"cmp"
	"regexp"
	"slices"
	"strings"

	"kirdu/core/measure"
	"kirdu/core/pantry"
	"kirdu/core/plan"
	"kirdu/core/vessel"
)

// What is done with something before it goes in.

// beforehand is what is done with something before it goes in.
func (c *cookery) beforehand(l *clause) (fine bool) {
	if l.do == doSoak && c.steepsBy(l) {
		return true
	}
	minutes := l.minutes()
	if minutes > 0 && c.soaksInPot(l) {
		c.emit(plan.Step{Do: plan.Rest, Minutes: &minutes})
		return true
	}
	before := c.last
	list := c.mentions(l)
	list = c.ofThese(l, c.onlyTheNuts(l, list), before)
	if len(list) == 0 && l.do == doCut && l.match(intoPieces) != nil {
		return true // what is in pieces already, or was cooked whole
	}
	switch {
	case l.do == doRoast && c.onlyFat(list) && minutes == 0:
		c.hotFat(l, list)
		return true
	case l.do == doRoast && c.roastsInPot(l, list, minutes):
		return true
	}
	l.sign()
	if l.do == doCut {
		l.match(intoPieces)
	}
	if l.do == doSoak && c.soakedInPot(list, minutes) {
		return true
	}
	l.has("water")
	makesNoStep := l.do == doCut || l.do == doPeel || l.do == doSoak
	fine = l.do == doCut && c.any(list, pantry.Aroma)
	for _, m := range list {
		soaking := l.do == doSoak && c.behaves(m, pantry.Liquid)
		if soaking && (c.given[m.item].inMethod || c.given[m.item].Item.Material == "water" && m.share >= fullyUsed && !c.waterIsLater()) {
			c.used[m.item] = 1 // poured away with the soaking
		}
		if l.do == doGrind && m.item >= 0 && m.holder < 0 && c.goesWithPaste(m) {
			c.reserved[m.item], c.powdered[m.item] = m.share, c.now // "grind with 1/4 cup of the milk": it goes in with the paste
			c.comesWith[m.item] = true
			delete(c.said, m.item)
			fine = true
			continue
		}
		if m.item >= 0 && !soaking {
			pulp := c.behaves(m, pantry.Puree) || c.behaves(m, pantry.Dissolves) // it makes no difference
			if l.do == doCut && c.behaves(m, pantry.Aroma) {
				continue // a pod is slit in a moment
			}
			one := c.readied(l, minutes)
			if l.do == doGrind || l.do == doSoak {
				one.share = c.partOfNuts(m)
			}
			ready := c.preparing(m.item, one) || l.do == doGrind && c.powders(m)
			if !ready && l.do == doGrind {
				delete(c.said, m.item) // it goes in with the paste
			}
			fine = ready || makesNoStep || pulp || fine
		}
	}
	return fine
}

// soaksInPot reports whether what its sentence has just put into the pot with a liquid soaks there: "place the sago and the milk in a
// pan and soak for 30 minutes".
func (c *cookery) soaksInPot(l *clause) bool {
	last := len(c.steps) - 1
	return l.do == doSoak && len(c.mentioned(&clause{words: l.copied()})) == 0 && last >= 0 && c.steps[last].Do == plan.Add &&
		c.madeBy(last) == c.now && slices.ContainsFunc(c.held(), func(i int) bool { return c.behaves(mention{item: i}, pantry.Liquid) })
}

// partOfNuts is the share of the nuts that is meant where the rest of them is spoken of later: "soak 10 of the cashews and grind them
// ... fry the rest"; 0 for all. It is kept for where it goes in.
func (c *cookery) partOfNuts(m mention) float64 {
	last := len(c.preparations[m.item]) - 1
	switch {
	case last >= 0 && c.preparations[m.item][last].share > 0 && c.preparations[m.item][last].share == c.reserved[m.item]:
	case m.holder < 0 && m.share > 0 && m.share < 1-c.used[m.item] && c.behaves(m, pantry.Piece) && c.restLater(m.item):
		c.reserved[m.item] = m.share
	default:
		return 0
	}
	return c.reserved[m.item]
}

// goesWithPaste reports whether a liquid that something is ground with goes in with the paste: some of the milk, or water that the
// list has for nothing else.
func (c *cookery) goesWithPaste(m mention) bool {
	material := c.material(m.item)
	if material == nil || m.share <= 0 {
		return false
	}
	if material.Slug == "water" {
		return !c.given[m.item].inMethod && m.share >= fullyUsed && !c.namedLater(m.item)
	}
	return m.share < fullyUsed && pours(material)
}

// onlyTheNuts leaves raisins and seeds out of "the nuts" that are chopped, toasted or ground.
func (c *cookery) onlyTheNuts(l *clause, list []mention) []mention {
	at := slices.IndexFunc(l.words, func(w *token) bool { return w.one == "nut" })
	nut := func(m mention) bool { return c.material(m.item) != nil && c.material(m.item).Kind == "nut" }
	if at < 0 || !slices.ContainsFunc(list, nut) {
		return list
	}
	return slices.DeleteFunc(list, func(m mention) bool {
		others := m.at == at && !nut(m)
		if others {
			delete(c.said, m.item)
		}
		return others
	})
}

// powders grinds what flavours: it goes in so by its name.
func (c *cookery) powders(m mention) bool {
	if !c.behaves(m, pantry.Aroma) || m.holder >= 0 || c.used[m.item] > 0 {
		return false
	}
	if c.given[m.item].Item.State == "" {
		c.given[m.item].Item.State = pantry.Ground
	}
	c.powdered[m.item] = c.now
	delete(c.said, m.item)
	return true
}

var waterOn = regexp.MustCompile(`(?i)\b(?:bring|heat|boil|add|pour|put|take|measure)\b(?: in)? (?:the |your |all the )?` +
	`(?:cold |hot |fresh )?water\b|` +
	`\b(?:place|put|add|combine|tip|pour|mix|cook|boil|simmer|heat)\b[^.;]*(?:, | and | & )(?:the )?water\b`)

// intoPieces is how many pieces something is cut into.
var intoPieces = regexp.MustCompile(`\b(?:each |them |it )?(?:in|into) (?:about )?(?:\d+|two|three|four|six|eight|ten|` +
	`twelve)\b(?: [a-z]+)?`)

// ofThese adds what "it" and "them" stand for to what a clause names, and coconut to the water that it is ground with.
func (c *cookery) ofThese(l *clause, list, before []mention) []mention {
	wet := !slices.ContainsFunc(list, func(m mention) bool { return !c.behaves(m, pantry.Liquid) })
	coconut := slices.ContainsFunc(before, c.isCoconut)
	them := l.find("them") >= 0 || l.find("it") >= 0
	grinds := l.do == doGrind
	onlyFat := !slices.ContainsFunc(list, func(m mention) bool { return !c.isFat(m) }) // or what is left of it in a pan
	switch {
	case grinds && l.beginsWith("with") && (!wet || c.gotReady(before)): // "soak the poppy seeds and grind with the coconut"
		list = append(slices.DeleteFunc(slices.Clone(before), func(m mention) bool { return !c.unput(m) || m.item < 0 }), list...)
		c.remember(list)
	case len(list) == 0, wet && l.do == doSoak, wet && l.do == doGrind && !coconut, wet && them && !coconut, grinds && them,
		l.do == doRoast && them && onlyFat:
		meant := c.asMeant(&clause{words: append(slices.Clone(l.words), it.words...)}, nil, before)
		list = append(list, meant...)
		c.remember(meant)
	case l.do == doGrind && wet:
		list = append(list, slices.DeleteFunc(slices.Clone(before), func(m mention) bool { return !c.isCoconut(m) })...) // "with 1 cup water"
	}
	return list
}

// gotReady reports whether nuts that are in nothing yet were soaked, peeled or roasted just before: "soak the almonds. Grind with half a
// cup of the milk".
func (c *cookery) gotReady(before []mention) bool {
	return slices.ContainsFunc(before, func(m mention) bool {
		return c.unput(m) && m.item >= 0 && c.behaves(m, pantry.Piece) && slices.ContainsFunc(c.preparations[m.item], func(p preparing) bool {
			return p.sentence >= max(c.now-1, 0)
		})
	})
}

// steepsBy reports whether a clause steeps nothing but what flavours, in some of a liquid, or fruit in water: it goes into the
// pot by its name.
func (c *cookery) steepsBy(l *clause) bool {
	solid := slices.DeleteFunc(c.unused(l), func(m mention) bool { return c.behaves(m, pantry.Liquid) })
	nuts := !slices.ContainsFunc(solid, func(m mention) bool {
		kind := c.material(m.item).Kind
		return kind != "nut" && (kind != "dried-fruit" || c.behaves(m, pantry.Puree))
	})
	if len(solid) == 0 || nuts && l.minutes() > 0 || slices.ContainsFunc(solid, func(m mention) bool {
		return !c.behaves(m, pantry.Aroma) && !c.behaves(m, pantry.Tissue) && !c.behaves(m, pantry.Piece)
	}) {
		return false
	}
	c.steep(l)
	c.remember(solid)
	return true
}

// roastsInPot roasts in the pot: what is in it already, or with the fat that is in it or named.
func (c *cookery) roastsInPot(l *clause, list []mention, minutes measure.Minute) bool {
	minutes = cmp.Or(minutes, roastUsual)
	unused := slices.ContainsFunc(list, func(m mention) bool { return m.item >= 0 && m.share > 0 })
	fat := slices.ContainsFunc(list, c.isFat)
	held := len(c.held()) > 0
	switch {
	case !unused && held:
		if c.fat != nil { // "heat the ghee and roast the cooked rice"
			list := []mention{*c.fat}
			c.fat, c.pan = nil, false
			c.put(list, plan.Step{})
		}
		c.heat(l, vessel.Medium, plan.Until{Minutes: &minutes})
		return true
	case held && (fat || c.fat != nil) && slices.ContainsFunc(list, func(m mention) bool { return c.behaves(m, pantry.Piece) }):
		c.fry(l)
		return true
	}
	if c.fat != nil && unused && (c.pan || held && !c.heldFat()) { // nothing roasts in what holds a liquid
		c.next = []string{}
	}
	if !(c.fat != nil && (!held || c.next != nil) || held && c.heldFat() || fat) {
		return false
	}
	if !held && (c.fat != nil || fat) && c.onlyNuts(list) && c.nutsComeOut() {
		c.fry(l)
		return true
	}
	if c.put(fatFirst(c, list), plan.Step{}) {
		c.heat(l, vessel.Medium, plan.Until{Minutes: &minutes})
	}
	return true
}

// comesOut is said of what was fried.
var comesOut = regexp.MustCompile(`(?i)\b(?:remove|set (?:it |them )?aside|` +
	`keep (?:it |them )?aside|take (?:it |them )?out|lift (?:it |them )?out|slotted spoon|` +
	`(?:transfer|move|onto|on) (?:it |them )?(?:to )?a (?:small )?(?:plate|bowl))\b`)

// nutsComeOut reports whether nuts are taken out of the fat again: by this sentence or the next, or when others have joined them.
func (c *cookery) nutsComeOut() bool {
	const ahead = 3 // sentences
	for k := c.now; k < min(c.now+ahead, len(c.text)); k++ {
		if comesOut.MatchString(c.text[k]) {
			return true
		}
		if k > c.now && slices.ContainsFunc(c.namedIn(c.text[k]), func(group []int) bool {
			return !c.behaves(mention{item: group[0]}, pantry.Piece)
		}) {
			return false
		}
	}
	return false
}

// onlyNuts reports whether nuts and fruit alone are meant, beside fat.
func (c *cookery) onlyNuts(list []mention) bool {
	return slices.ContainsFunc(list, func(m mention) bool { return c.behaves(m, pantry.Piece) }) &&
		!slices.ContainsFunc(list, func(m mention) bool { return !c.fries(m) && !c.isFat(m) })
}

// withItsWater is said of what goes in with the water that it soaked in.
var withItsWater = regexp.MustCompile(`(?i)\b(?:soaking|same|its|their) (?:soaking )?water\b|\bwithout draining\b|\bundrained\b`)

// onlyWater reports whether no other liquid is named.
func (c *cookery) onlyWater(list []mention) bool {
	return !slices.ContainsFunc(list, func(m mention) bool {
		return c.behaves(m, pantry.Liquid) && c.given[m.item].Item.Material != "water"
	})
}

// soakedInPot soaks something in what it is cooked in then.
func (c *cookery) soakedInPot(list []mention, minutes measure.Minute) bool {
	liquid := slices.ContainsFunc(list, func(m mention) bool { return c.behaves(m, pantry.Liquid) && m.share > 0 })
	grain := slices.IndexFunc(list, func(m mention) bool { return c.behaves(m, pantry.Grain) })
	if len(c.held()) > 0 || c.drains() || !liquid || grain >= 0 && c.addedLater(list[grain].item) && c.onlyWater(list) &&
		!withItsWater.MatchString(strings.Join(c.text[c.now:], " ")) {
		return false
	}
	if minutes == 0 {
		minutes = c.guess(soakUsual)
	}
	if c.put(list, plan.Step{}) {
		c.emit(plan.Step{Do: plan.Rest, Minutes: &minutes})
	}
	return true
}

// readied is the preparation that a clause tells of.
func (c *cookery) readied(l *clause, minutes measure.Minute) preparing {
	one := preparing{minutes: minutes, sentence: c.now, name: map[action]string{doSoak: "soak", doRoast: "roast",
		doGrind: "grind to granules", doGrate: "grate", doCut: "cut", doPeel: "peel", doSteam: "steam"}[l.do]}
	switch l.do {
	case doSoak:
		if minutes == 0 && nightBefore.MatchString(c.text[c.now]) {
			one.minutes = overnight
		} else if minutes == 0 {
			one.minutes = c.guess(soakUsual)
		}
	case doRoast:
		one.minutes = cmp.Or(minutes, roastUsual)
	case doGrind:
		if l.has("paste", "smooth", "fine paste", "puree", "purée") || l.find("milk") >= 0 || l.find("water") >= 0 {
			one.name = "grind to a paste"
		}
		one.minutes = fewMinutes
	case doGrate:
		one.minutes = grateUsual
	case doCut, doPeel:
		one.minutes = cutUsual
	case doSteam:
		if minutes == 0 {
			one.minutes = c.guess(steamUsual)
		}
	}
	return one
}

// nightBefore is said of what stands until the next day.
var nightBefore = regexp.MustCompile(`(?i)\b(?:overnight|over night|in the evening|(?:evening|night|day) before|` +
	`the previous (?:evening|night|day)|all night)\b`)

// drains reports whether what is soaked is drained after it, in this sentence or the next.
func (c *cookery) drains() bool {
	text := " " + strings.ToLower(strings.Join(c.text[c.now:min(c.now+2, len(c.text))], " ")) + " "
	if strings.Contains(text, "not drain") || strings.Contains(text, "same water") || strings.Contains(text, "soaking water") {
		return false
	}
	return strings.Contains(text, "drain") || strings.Contains(text, "strain") || !strings.Contains(text, "in the ")
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

// press squeezes juice out of a vegetable; coconut is pressed by pressesCoconut.
func (c *cookery) press(l *clause) (fine bool) {
	before := c.last
	list := c.asMeant(l, c.mentions(l), before)
	if len(list) == 0 {
		list = c.asMeant(it, nil, before)
	}
	l.has("water", "juice")
	for _, m := range list {
		if material := c.material(m.item); material != nil && strings.HasSuffix(material.Slug, "-juice") {
			fine = true // "squeeze the orange": it goes in as juice
		} else if material != nil {
			fine = c.preparing(m.item, preparing{name: "squeeze out juice", minutes: 3, sentence: c.now}) || fine
		}
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

// drain pours off what a grain stood or boiled in, or strains a syrup.
func (c *cookery) drain(l *clause) (fine bool) {
	before := c.last
	list := c.mentions(l)
	list = slices.DeleteFunc(list, func(m mention) bool { return m.item >= 0 && c.given[m.item].Item.Material == "water" }) // of the tap
	if len(list) == 0 && c.at >= 0 && c.next == nil && c.isSyrup(c.at) {
		c.strained[c.now] = true
		c.asSyrup()
		return true // of grit
	}
	if len(list) == 0 {
		list = before
	}
	into := l.find("into") >= 0 || l.find("over") >= 0 || l.find("onto") >= 0
	if last := len(c.steps) - 1; last >= 0 && (c.steps[last].Do == plan.Melt || c.steps[last].Do == plan.Press) {
		melts := c.steps[last].Do == plan.Melt
		if melts {
			c.steps[last].Strain = new(true)
			c.strained[c.now] = true
		}
		return !(melts && into) || c.pours(l, before) // "strain it into the lentils"
	}
	if into && slices.ContainsFunc(list, func(m mention) bool {
		return m.holder >= 0 && (c.holders[m.holder].pot && c.isSyrup(m.holder) || !c.holders[m.holder].pot && l.find("onto") >= 0)
	}) {
		return c.pours(l, before) // "strain this syrup into the rice"
	}
	if slices.ContainsFunc(list, func(m mention) bool {
		return m.item >= 0 && m.holder < 0 && !slices.Contains(c.held(), m.item) || m.holder >= 0 && !c.holders[m.holder].pot
	}) {
		l.has("the soaking water", "the water", "water")
		c.strained[c.now] = true
		return true // it stood in its water: soaking pours that off
	}
	return c.drainPot()
}

// pours puts in what is strained into something.
func (c *cookery) pours(l *clause, before []mention) bool {
	l.do, l.verb, c.last = doAdd, "pour", before
	return c.add(l)
}

// drainPot pours off the water that is in the pot, or strains milk of what gave its flavour.
func (c *cookery) drainPot() bool {
	if last := len(c.steps) - 1; last >= 0 && c.steps[last].Do == plan.Drain && c.at >= 0 && c.steps[last].Pot == c.holders[c.at].name {
		return true // "tip into a sieve, rinse and drain"
	}
	holds := func(is func(mention) bool) bool {
		return slices.ContainsFunc(c.held(), func(i int) bool { return is(mention{item: i}) })
	}
	milk := holds(func(m mention) bool { return c.behaves(m, pantry.Liquid) && c.given[m.item].Item.Material != "water" })
	if milk && !holds(func(m mention) bool { return !c.behaves(m, pantry.Liquid) && !c.behaves(m, pantry.Aroma) }) {
		c.strained[c.now] = true
		return true
	}
	last := len(c.steps) - 1
	if milk || len(c.held()) == 0 || last < 0 || !slices.Contains([]plan.Verb{plan.Heat, plan.Rest, plan.Pressure}, c.steps[last].Do) {
		return false
	}
	c.emit(plan.Step{Do: plan.Drain})
	return true
}

// puree stirs a fruit that is pulp by its name together with something else, beside the pot: "puree the mango with the syrup".
func (c *cookery) puree(l *clause, list []mention) bool {
	all := c.mentioned(l)
	made := slices.ContainsFunc(all, func(m mention) bool { return m.holder >= 0 && m.holder != c.at })
	if !c.any(list, pantry.Puree) || len(list) < 2 && !made || l.find("with") < 0 && l.find("and") < 0 {
		return false
	}
	c.stirBeside(l, "puree", list, c.mentions(l))
	return true
}

// sauce stirs together what is ground to a sauce beside the pudding.
func (c *cookery) sauce(l *clause, list []mention) {
	for _, m := range list {
		c.preparing(m.item, preparing{name: "grind to a paste", minutes: 5, sentence: c.now})
	}
	fruit := list[0]
	c.stirBeside(l, "sauce", list, nil)
	h := &c.holders[len(c.holders)-1]
	h.words = append(h.words, "coulis", "purée", "puree", "fruit", "fruit sauce")
	for _, name := range c.names[fruit.item] {
		h.words = append(h.words, name+" sauce", name+" coulis", name+" puree", name+" purée")
	}
	l.has("through a sieve", "sieve")
}

// mash breaks what is soft in the pot, or grinds what is not in yet to a paste.
func (c *cookery) mash(l *clause) bool {
	l.has("potato masher")
	if named := c.mentioned(l); len(named) > 0 && len(c.unused(l)) == 0 {
		c.asOther(named)
	}
	if list := c.unused(l); len(list) > 0 {
		if c.any(list, pantry.Tissue) && slices.ContainsFunc(list, func(m mention) bool { return c.sweetens(m.item) }) {
			c.sauce(l, c.mentions(l)) // "purée the berries with the sugar"
			return true
		}
		if c.puree(l, list) {
			return true
		}
		with := l.find("with")
		for k, m := range c.mentions(l) {
			thick := c.behaves(m, pantry.Tissue) || c.behaves(m, pantry.Grain)
			if k > 0 && with >= 0 && m.at > with && !thick && c.behaves(list[0], pantry.Tissue) {
				continue // "mash the banana with the lemon juice": it goes in with that
			}
			if c.behaves(m, pantry.Aroma) && c.given[m.item].Item.State == "" {
				c.given[m.item].Item.State = pantry.Ground
			}
			name := "grind to a paste"
			if l.verb == "crush" {
				name = "grind to granules"
			}
			c.preparing(m.item, preparing{name: name, minutes: 5, sentence: c.now})
		}
		return true
	}
	meant := c.asMeant(l, nil, c.last)
	if len(meant) == 0 {
		meant = slices.DeleteFunc(c.asMeant(it, nil, c.last), func(m mention) bool { // "steam the pumpkin, then mash"
			return m.item < 0 || !slices.ContainsFunc(c.preparations[m.item], func(p preparing) bool {
				return p.sentence == c.now || p.sentence >= 0 && p.sentence == c.now-1 && p.name == "steam"
			})
		})
	}
	if len(meant) > 0 && !slices.ContainsFunc(meant, func(m mention) bool { return m.item < 0 || m.holder >= 0 || c.used[m.item] > 0 }) {
		name := "grind to a paste"
		if l.verb == "crush" {
			name = "grind to granules"
		}
		for _, m := range meant { // "soften the dates, then mash them": they are in no pot yet
			c.preparing(m.item, preparing{name: name, minutes: 5, sentence: c.now})
		}
		return true
	}
	if last := len(c.steps) - 1; len(c.mentions(l)) == 0 && last >= 0 && c.steps[last].Do == plan.Fry {
		if c.madeBy(last) == c.now {
			return true // what was fried is crushed, and not what is in the pot
		}
	}
	pct := mashUsual
	switch {
	case l.has("half"):
		pct = 50
	case l.has("lightly", "slightly", "a little", "a bit", "roughly", "coarsely", "gently", "some"):
		pct = 20
	case l.has("smooth", "completely", "well", "fine", "paste") || l.find("sieve") >= 0 || l.find("strainer") >= 0:
		pct = 90
	}
	if len(c.held()) == 0 {
		return false
	}
	c.emit(plan.Step{Do: plan.Mash, Pct: &pct})
	return true
}
