package recipe

import (
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
	if whistleSaid.MatchString(l.text()) && l.do != doRest {
		l.do = doCooker
	}
	if l.do == doCook && l.verb == "let" {
		l.verb = ""
	}
	toTheBoil := l.has("to the boil", "to a boil", "to boil") || l.verb == "boil" && l.minutes() == 0 && !l.targets()
	if l.do == doCook && (l.boils() || toTheBoil) {
		l.do = doBoil
	}
	if l.do == doAdd && l.has("to the boil", "to a boil") {
		l.do = doBoil
	}
	switch l.do {
	case doAdd:
		c.add(l)
	case doTop:
		c.top(l)
	case doBoil:
		c.boil(l)
	case doCook:
		c.cook(l)
	case doSoak, doRoast, doGrind, doGrate, doPress, doSteam:
		c.beforehand(l)
	case doFry:
		c.fry(l)
	case doMelt:
		c.add(l)
	case doMash:
		pct := mashUsual
		if l.has("lightly", "slightly", "a little", "roughly") {
			pct = 20
		}
		if len(c.inPot) > 0 {
			c.emit(plan.Step{Do: plan.Mash, Pct: &pct})
		}
	case doDrain:
		for _, m := range c.mentions(l) {
			fine = fine || !slices.Contains(c.inPot, m.item) // it stood in its water: soaking pours that off
		}
		if !fine && len(c.inPot) > 0 && c.steps[len(c.steps)-1].Do == plan.Heat {
			c.emit(plan.Step{Do: plan.Drain})
		}
	case doCooker:
		c.pressure(l)
	case doRest:
		if minutes := l.minutes(); minutes > 0 && len(c.inPot) > 0 {
			c.emit(plan.Step{Do: plan.Rest, Minutes: &minutes})
		} else if len(c.inPot) > 0 && l.has("until cold", "to cool", "until cool") {
			c.cool()
		}
	case doCool:
		const short = 30
		switch minutes := l.minutes(); {
		case len(c.inPot) == 0:
		case minutes > 0 && minutes <= short:
			c.emit(plan.Step{Do: plan.Rest, Minutes: &minutes})
		default:
			c.cool()
		}
	case doChill:
		hours := chillUsual
		if minutes := l.minutes(); minutes > 0 {
			hours = float64(minutes) / 60
		}
		if len(c.inPot) > 0 {
			c.emit(plan.Step{Do: plan.Chill, Hours: &hours})
		}
	case doBake:
		c.bake(l)
	case doOff:
		c.offHeat, fine = true, true
	}
	return fine || l.do == doAdd && l.verb == "stir" && len(l.words) < 4 || l.do == doCook && c.onlyFat(l)
}

func (c *cookery) behaves(m mention, as pantry.Behaviour) bool {
	material := c.material(m.item)
	return material != nil && material.Behaviour == as
}

// onlyFat reports whether a clause heats fat alone: what is fried in it says the rest.
func (c *cookery) onlyFat(l *clause) bool {
	list := c.mentions(l)
	for _, m := range list {
		if material := c.material(m.item); material == nil || material.Behaviour != pantry.Fat {
			return false
		}
	}
	return len(list) > 0
}

// targets reports whether a clause says until when.
func (l *clause) targets() bool {
	return l.has("soft", "tender", "cooked", "done", "thick", "thickens", "thickened", "creamy", "reduced", "half", "mushy", "translucent")
}

func (c *cookery) add(l *clause) {
	before := c.last
	list := c.mentions(l)
	if l.has("it", "them") && !slices.ContainsFunc(list, func(m mention) bool { return m.share > 0 }) {
		list = nil // "add it to the milk"
		for _, i := range before {
			list = append(list, mention{i, 1 - c.used[i]})
		}
	}
	if l.has("sprinkle", "on top", "for garnish", "garnish") || l.verb == "sprinkle" {
		c.top(l)
		return
	}
	if (l.verb == "dissolve" || l.verb == "mix" || l.verb == "whisk" || l.verb == "blend" || l.verb == "stir") && len(c.inPot) == 0 &&
		l.has("little", "some", "cold", "tablespoons", "tbsp") {
		for _, m := range list {
			if material := c.material(m.item); material != nil && (material.Behaviour == pantry.Flour || material.Behaviour == pantry.Egg) {
				c.preparing(m.item, preparing{"stir in cold", fewMinutes, c.now})
				return
			}
		}
	}
	if (l.verb == "beat" || l.verb == "whisk") && len(c.inPot) > 0 &&
		slices.ContainsFunc(list, func(m mention) bool { return c.behaves(m, pantry.Egg) && m.share > 0 }) {
		return // egg that is beaten apart: how it gets into what is hot is asked
	}
	step := plan.Step{Slowly: l.has("slowly", "gradually", "little by little", "thin stream", "bit by bit")}
	if c.offHeat && len(c.inPot) > 0 {
		step.Note = "off the heat"
	}
	if put := c.put(list, step); !put && len(c.inPot) > 0 {
		c.putFried(list, false)
	} else if put && l.verb == "dissolve" {
		minutes := fewMinutes
		c.emit(plan.Step{Do: plan.Heat, Flame: vessel.Simmer, Stir: plan.StirOften, Until: &plan.Until{Minutes: &minutes}})
	}
	if minutes := l.minutes(); minutes > 0 && minutes < 180 && len(c.inPot) > 0 {
		c.heat(l, vessel.Simmer, plan.Until{Minutes: &minutes}) // "add the milk and cook 10 minutes" in one clause
	}
}

func (c *cookery) top(l *clause) {
	list := c.mentions(l)
	if !c.put(list, plan.Step{Topping: true}) {
		c.putFried(list, true)
	}
}

// putFried puts in what some of a list were fried into.
func (c *cookery) putFried(list []mention, topping bool) {
	for _, m := range list {
		name := c.fried[m.item]
		taken := slices.ContainsFunc(c.steps, func(s plan.Step) bool {
			return slices.ContainsFunc(s.Items, func(item plan.Item) bool { return item.Part == name })
		})
		if name != "" && !taken {
			c.emit(plan.Step{Do: plan.Add, Topping: topping, Items: []plan.Item{{Part: name}}})
		}
	}
}

// heat puts a flame under the pot.
func (c *cookery) heat(l *clause, usual vessel.Flame, until plan.Until) {
	c.offHeat = false
	stir := l.stirring()
	if stir == "" {
		stir = plan.StirOften
	}
	c.emit(plan.Step{Do: plan.Heat, Flame: l.flame(usual), Stir: stir, Until: &until})
}

func (c *cookery) boil(l *clause) {
	if !c.put(c.mentions(l), plan.Step{}) && len(c.inPot) == 0 {
		c.liquids()
	}
	if len(c.inPot) == 0 {
		return
	}
	flame := l.flame(vessel.High)
	if flame == vessel.Simmer || flame == vessel.Boil { // "bring to a simmer"
		flame = vessel.MediumHigh
	}
	c.heat(l, flame, plan.Until{Boil: true})
	last := &c.steps[len(c.steps)-1]
	last.Flame = flame
}

// liquids puts in what the method takes for granted.
func (c *cookery) liquids() {
	var list []mention
	plain := slices.ContainsFunc(c.given, func(g Given) bool {
		return g.Item.Material == "water" || strings.HasPrefix(g.Item.Material, "milk-")
	})
	for i := range c.given {
		m := c.material(i)
		if m != nil && c.used[i] == 0 && !(plain && strings.HasPrefix(m.Slug, "coconut-milk")) &&
			(m.Behaviour == pantry.Liquid && m.Kind != "flavour" || m.Kind == "dairy") &&
			m.Slug != "coconut-milk-thick" && m.Slug != "coconut-cream" && m.Slug != "condensed-milk" && !m.Has("cultured") {
			list = append(list, mention{i, 1})
		}
	}
	c.put(list, plan.Step{})
}

func (c *cookery) cook(l *clause) {
	if c.onlyFat(l) {
		return
	}
	if l.verb == "warm" && l.has("meanwhile", "separately", "another") {
		return // it goes in when it is said to
	}
	c.put(c.fresh(l), plan.Step{})
	if len(c.inPot) == 0 {
		c.liquids()
	}
	if len(c.inPot) == 0 {
		return
	}
	minutes := l.minutes()
	remaining := l.remaining()
	grain, slowest := c.grainInPot()
	switch {
	case remaining > 0:
		c.heat(l, vessel.Medium, plan.Until{RemainingPct: &remaining})
	case l.has("soft", "tender", "cooked", "done", "mushy", "translucent", "cooked through") && slowest != nil:
		c.heat(l, vessel.Simmer, plan.Until{Doneness: &plan.DonenessTarget{Of: grain, At: gentle(slowest.Kinetics)}})
		if minutes > 0 {
			last := &c.steps[len(c.steps)-1]
			at, note := unmarked(last.Note)
			last.Note = marked(at, strings.TrimSpace(note+" The recipe says "+strconv.FormatFloat(float64(minutes), 'f', -1, 64)+" minutes."))
		}
	case minutes > 0:
		usual := vessel.Simmer
		if l.verb == "boil" {
			usual = vessel.Boil
		}
		c.heat(l, usual, plan.Until{Minutes: &minutes})
	case l.has("thick", "thickens", "thickened", "creamy", "thicker") || l.verb == "thicken":
		grade := thickUsual
		c.heat(l, vessel.Simmer, plan.Until{Thickness: &grade})
	case l.has("steaming", "steams", "hot"):
		celsius := measure.Celsius(80)
		c.heat(l, vessel.Medium, plan.Until{TempC: &celsius})
	case l.verb == "reduce" && l.has("heat", "flame"):
		// "reduce the heat": the next clause says for how long.
	case l.verb == "keep" || l.verb == "continue" || l.verb == "warm" || l.verb == "":
		if l.verb == "warm" {
			celsius := measure.Celsius(60)
			c.heat(l, vessel.Medium, plan.Until{TempC: &celsius})
		}
	default:
		usual := simmerUsual
		c.heat(l, vessel.Simmer, plan.Until{Minutes: &usual})
	}
}

// remaining reads "reduced by half", "to two thirds", "by a quarter": what is left, in per cent.
func (l *clause) remaining() float64 {
	if !l.has("half", "third", "thirds", "quarter", "quarters") || !(l.verb == "reduce" || l.has("reduced", "reduces", "reduce", "down")) {
		return 0
	}
	by := l.has("by half", "by a third", "by one third", "by a quarter", "by two thirds", "by one quarter")
	left := 50.0
	switch {
	case l.has("two thirds"):
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
	return left
}

// grainInPot returns the part that takes longest of what is in.
func (c *cookery) grainInPot() (part string, slowest *pantry.Material) {
	for _, i := range c.inPot {
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
func (c *cookery) beforehand(l *clause) {
	minutes := l.minutes()
	meant := c.meant(l)
	if unused := slices.ContainsFunc(meant, func(m mention) bool { return m.share > 0 }); !unused && l.do == doRoast && len(c.inPot) > 0 {
		if minutes == 0 {
			minutes = roastUsual
		}
		c.heat(l, vessel.Medium, plan.Until{Minutes: &minutes}) // in the pot that it is in already
		return
	}
	inFat := len(c.inPot) > 0 || slices.ContainsFunc(meant, func(m mention) bool { return c.behaves(m, pantry.Fat) })
	if inFat && l.do == doRoast {
		if minutes == 0 {
			minutes = roastUsual
		}
		if c.put(meant, plan.Step{}) {
			c.heat(l, vessel.Medium, plan.Until{Minutes: &minutes})
		}
		return
	}
	for _, m := range meant {
		name, usual := "", minutes
		switch l.do {
		case doSoak:
			name = "soak"
			if usual == 0 {
				usual = soakUsual
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
		case doPress:
			name, usual = "squeeze out juice", 3
		case doSteam:
			name = "steam"
			if usual == 0 {
				usual = 15
			}
		}
		c.preparing(m.item, preparing{name, usual, c.now})
	}
}

// preparing notes what is done with an item, if such a thing can be.
func (c *cookery) preparing(item int, p preparing) {
	m := c.material(item)
	if m == nil {
		return
	}
	for _, q := range plan.Preparations() {
		if q.Name == p.name && slices.Contains(q.Fits, m.Behaviour) {
			known := slices.ContainsFunc(c.preparations[item], func(one preparing) bool { return one.name == p.name })
			if !known {
				c.preparations[item] = append(c.preparations[item], p)
			}
		}
	}
}

// fry is nuts and fruit in fat, beside the pot; anything else is fried in the pot it is cooked in.
func (c *cookery) fry(l *clause) {
	var pieces, others []mention
	fat := -1
	for _, m := range c.mentions(l) {
		switch material := c.material(m.item); {
		case material == nil:
		case material.Behaviour == pantry.Fat:
			fat = m.item
		case material.Behaviour == pantry.Piece:
			pieces = append(pieces, m)
		default:
			others = append(others, m)
		}
	}
	if fat < 0 {
		for i := range c.given {
			if m := c.material(i); m != nil && m.Behaviour == pantry.Fat && c.used[i] < 1 {
				fat = i
				break
			}
		}
	}
	switch {
	case len(pieces) > 0 && fat >= 0:
		step := plan.Step{Do: plan.Fry, Name: c.free("garnish")}
		if item, ok := c.take(mention{fat, 1 - c.used[fat]}); ok {
			step.Fat = &item
		}
		for _, m := range pieces {
			if item, ok := c.take(m); ok {
				step.Items = append(step.Items, item)
				c.fried[m.item] = step.Name
			}
		}
		if step.Fat != nil && len(step.Items) > 0 {
			c.emit(step)
		}
	case len(others) > 0:
		if fat >= 0 && c.used[fat] < 1 {
			others = append([]mention{{fat, 1 - c.used[fat]}}, others...)
		}
		if c.put(others, plan.Step{}) {
			minutes := l.minutes()
			if minutes == 0 {
				minutes = fryUsual
			}
			c.heat(l, vessel.Medium, plan.Until{Minutes: &minutes})
		}
	}
}

// free returns a name for a part that no step has.
func (c *cookery) free(name string) string {
	for n := 1; ; n++ {
		one := name
		if n > 1 {
			one = name + strconv.Itoa(n)
		}
		if !slices.ContainsFunc(c.steps, func(s plan.Step) bool { return s.Name == one }) {
			return one
		}
	}
}

// fresh is what a clause names, with what was named before and is in no pot yet: "Wash the lentils.
// Cook with the water".
func (c *cookery) fresh(l *clause) []mention {
	before := c.last
	list := c.mentions(l)
	for _, i := range before {
		m := c.material(i)
		named := slices.ContainsFunc(list, func(one mention) bool { return one.item == i })
		if !named && c.used[i] == 0 && len(c.preparations[i]) == 0 && m != nil && m.Behaviour == pantry.Grain && len(c.inPot) == 0 {
			list = append(list, mention{i, 1})
		}
	}
	return list
}

func (c *cookery) pressure(l *clause) {
	c.put(c.fresh(l), plan.Step{})
	if len(c.inPot) == 0 {
		c.liquids()
	}
	if len(c.inPot) == 0 {
		return
	}
	step := plan.Step{Do: plan.Pressure}
	if found := whistleSaid.FindStringSubmatch(l.text()); found != nil {
		n, ok := numberWords[found[1]]
		if figure, err := strconv.Atoi(found[1]); err == nil {
			n, ok = float64(figure), true
		}
		if ok && n >= 1 && n <= 30 {
			step.Whistles = int(n)
		}
	}
	if step.Whistles == 0 {
		minutes := l.minutes()
		if minutes == 0 {
			minutes = cookerMinutes
		}
		step.Minutes = &minutes
	}
	c.emit(step)
}

func (c *cookery) cool() {
	celsius := measure.Celsius(30)
	c.emit(plan.Step{Do: plan.Cool, ToC: &celsius})
}

func (c *cookery) bake(l *clause) {
	c.put(c.mentions(l), plan.Step{})
	if len(c.inPot) == 0 {
		return
	}
	minutes := l.minutes()
	if minutes == 0 {
		minutes = bakeUsual
	}
	celsius := measure.Celsius(170)
	for _, found := range ovenSaid.FindAllStringSubmatch(l.text(), -1) {
		degrees, err := strconv.ParseFloat(found[1], 64)
		if err != nil || degrees < 90 {
			continue
		}
		if strings.HasPrefix(found[2], "f") || degrees > 260 {
			degrees = (degrees - 32) / 1.8
		}
		celsius = measure.Celsius(degrees)
		break
	}
	c.emit(plan.Step{Do: plan.Bake, BakeIn: plan.InOven, OvenC: &celsius, Minutes: &minutes})
}

// follows reports whether the method is one to go by: something goes into the pot and is heated.
func (c *cookery) follows() bool {
	heats := slices.ContainsFunc(c.steps, func(s plan.Step) bool { return s.Do == plan.Heat || s.Do == plan.Pressure || s.Do == plan.Bake })
	return heats && len(c.inPot) > 0
}

// placeRest puts in what the method does not speak of, and returns which: what cooks, with the
// first of what goes in; what sweetens and the rest, at the end; toppings on top, and what was fried
// with them.
func (c *cookery) placeRest() (unplaced []int) {
	c.now = -1
	var early, late, top []mention
	for i := range c.given {
		if c.used[i] >= 0.999 || c.material(i) == nil {
			continue
		}
		one := mention{i, 1 - c.used[i]}
		switch m := c.material(i); {
		case c.isTopping(i) || m.Behaviour == pantry.Piece:
			top = append(top, one)
		case m.Behaviour == pantry.Grain || m.Behaviour == pantry.Tissue || m.Behaviour == pantry.Liquid,
			m.Kind == "dairy" && !m.Has("cultured"):
			early = append(early, one)
		default:
			late = append(late, one)
		}
		if len(c.preparations[i]) == 0 {
			unplaced = append(unplaced, i) // what was roasted in the pan is in it
		}
	}
	if len(early) > 0 {
		at := slices.IndexFunc(c.steps, func(s plan.Step) bool { return s.Do == plan.Add })
		for _, m := range early {
			if item, ok := c.take(m); ok {
				c.steps[at].Items = append(c.steps[at].Items, item)
			}
		}
	}
	c.put(late, plan.Step{})
	c.put(top, plan.Step{Topping: true})
	for _, s := range slices.Clone(c.steps) {
		if s.Do != plan.Fry {
			continue
		}
		taken := slices.ContainsFunc(c.steps, func(other plan.Step) bool {
			return slices.ContainsFunc(other.Items, func(item plan.Item) bool { return item.Part == s.Name })
		})
		if !taken {
			c.steps = append(c.steps, plan.Step{Do: plan.Add, Topping: true, Items: []plan.Item{{Part: s.Name}}, Note: marked(-1, "")})
		}
	}
	return unplaced
}

// fromLine reads what a line of the list says is done with it before: "soaked for 4 hours", "ground
// coarsely".
func (c *cookery) fromLine(i int) {
	c.now = -1
	words := methodWords(c.given[i].Text)
	l := clause{words: words}
	minutes := l.minutes()
	for k, w := range words {
		p := preparing{sentence: -1, minutes: minutes}
		switch w {
		case "soaked":
			p.name = "soak"
			if minutes == 0 {
				p.minutes = soakUsual
			}
			if l.has("overnight") {
				p.minutes = overnight
			}
		case "roasted", "toasted":
			p.name, p.minutes = "roast", roastUsual
		case "ground":
			p.name, p.minutes = "grind to granules", 3
			if l.has("to a paste", "paste", "smooth") {
				p.name = "grind to a paste"
			}
			if k+1 < len(words) && words[k+1] == "rice" { // "ground rice" is a thing
				continue
			}
		case "grated":
			p.name, p.minutes = "grate", 6
		case "squeezed":
			p.name, p.minutes = "squeeze out juice", 3
		default:
			continue
		}
		c.preparing(i, p)
	}
}

// prepare puts what is done beforehand before what it goes into.
func (c *cookery) prepare(p *plan.Plan) {
	for i := range c.given {
		for _, one := range c.preparations[i] {
			for step := range p.Steps {
				at := slices.IndexFunc(p.Steps[step].Items, func(item plan.Item) bool { return c.is(p, item, i) })
				if at < 0 || p.Steps[step].Do != plan.Add {
					continue
				}
				before := len(p.Steps)
				known := noteOfSteps(p)
				if p.Prepare(step, at, one.name, one.minutes) == nil && len(p.Steps) > before {
					markNew(p, known, one.sentence)
				}
				break
			}
		}
	}
}

// is reports whether an item of a plan is a given one, or what was made of it.
func (c *cookery) is(p *plan.Plan, item plan.Item, given int) bool {
	slug := c.given[given].Item.Material
	if item.Part == "" {
		return item.Material == slug
	}
	maker := p.Maker(item.Part)
	return maker >= 0 && slices.ContainsFunc(p.Steps[maker].Items, func(one plan.Item) bool { return one.Material == slug })
}

func noteOfSteps(p *plan.Plan) map[string]bool {
	known := map[string]bool{}
	for i := range p.Steps {
		known[stepKey(&p.Steps[i])] = true
	}
	return known
}

func stepKey(s *plan.Step) string { return string(s.Do) + "|" + s.Name + "|" + s.Of + "|" + s.What }

// markNew marks the steps that a preparation has brought.
func markNew(p *plan.Plan, known map[string]bool, sentence int) {
	if sentence < 0 {
		sentence = lineMark
	}
	for i := range p.Steps {
		if s := &p.Steps[i]; s.Do.IsPreparation() && s.Note == "" && !known[stepKey(s)] {
			s.Note = marked(sentence, "")
		}
	}
}

// boils reports whether a clause goes on until it boils.
func (l *clause) boils() bool {
	return l.do == doCook && l.has("boils", "boiling") &&
		!l.has("without boiling", "not boil", "below boiling", "before boiling", "avoid boiling")
}
