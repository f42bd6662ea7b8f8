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

// What is fried, melted and browned.

// onlyFat reports whether a clause heats fat alone: what is fried in it says the rest.
func (c *cookery) onlyFat(list []mention) bool {
	for _, m := range list {
		if m.holder >= 0 || !c.behaves(m, pantry.Fat) {
			return false
		}
	}
	return len(list) > 0
}

// hotFat notes the fat that what comes is fried in, and the pan it is in.
func (c *cookery) hotFat(l *clause, list []mention) {
	c.fat = &list[0]
	c.pan = len(c.held()) > 0 && l.newPan() >= 0
}

// bothOut is said of what was fried together: "fry the coconut; add the cashews; drain both".
var bothOut = regexp.MustCompile(`(?i)^(?:drain|take|remove|lift|pour|tip|scoop)\b[^,;]*\b(?:both|all|everything|them)\b`)

// puffsUp is said of raisins in hot fat.
var puffsUp = regexp.MustCompile(`(?i)\b(?:puff|plump|swell|balloon|fatten)(?:s|ed)?\b`)

// toFry adds to what is being fried in the same sentence: "fry the cashews, add the raisins".
func (c *cookery) toFry(list []mention) bool {
	last := len(c.steps) - 1
	if last < 0 || c.steps[last].Do != plan.Fry || len(list) == 0 {
		return false
	}
	at := c.madeBy(last)
	together := at == c.now-1 && c.now+1 < len(c.text) && (bothOut.MatchString(c.text[c.now+1]) || puffsUp.MatchString(c.text[c.now]) ||
		puffsUp.MatchString(c.text[c.now+1]))
	if at != c.now && !together {
		return false
	}
	for _, m := range list {
		if m.holder >= 0 || m.share <= 0 || !c.fries(m) {
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
		c.last = []mention{allOf(h)}
	}
	c.joined++
	if name := c.steps[last].Name; at != c.now && !slices.Contains(c.shared[name], c.now) {
		c.shared[name] = append(c.shared[name], c.now)
	}
	return true
}

// heldFat reports whether the pot holds little but fat: what is roasted in it is roasted in that.
func (c *cookery) heldFat() bool {
	return !slices.ContainsFunc(c.held(), func(i int) bool { return c.behaves(mention{item: i}, pantry.Liquid) })
}

// isFat reports whether fat is meant, or what is left of some that something was fried in.
func (c *cookery) isFat(m mention) bool {
	return c.behaves(m, pantry.Fat) || c.isFryingFat(m)
}

// isFryingFat reports whether that fat is meant which was left when something had been fried.
func (c *cookery) isFryingFat(m mention) bool {
	return m.holder >= 0 && strings.HasSuffix(c.holders[m.holder].name, ".fat")
}

// fryingFat returns the holder of the fat that is left of a frying, and -1 for none.
func (c *cookery) fryingFat(name string) int {
	return slices.IndexFunc(c.holders, func(h holder) bool { return h.name == name+".fat" && h.left > 0 })
}

func fatFirst(c *cookery, list []mention) []mention {
	slices.SortStableFunc(list, func(a, b mention) int { return boolInt(c.isFat(b)) - boolInt(c.isFat(a)) })
	return list
}

// melt makes a syrup beside the pot, or melts fat in it.
func (c *cookery) melt(l *clause) bool {
	list := c.mentions(l)
	if c.onlyFat(list) {
		c.hotFat(l, list)
		return true
	}
	if c.becomesCaramel(l, list) {
		return c.caramel(l)
	}
	if brownsNext.MatchString(c.ahead) && c.becomesCaramel(&clause{words: methodWords(c.ahead)}, list) {
		return c.put(list, plan.Step{}) // "melt the sugar with the water and let it boil until amber"
	}
	if c.melts(l, list) {
		return true
	}
	if !c.put(list, plan.Step{}) {
		return len(list) > 0 || len(c.held()) > 0 // what is in the pot melts there
	}
	if minutes := l.minutes(); minutes > 0 {
		c.heat(l, vessel.Simmer, plan.Until{Minutes: &minutes})
	}
	return true
}

// becomesCaramel reports whether sugar, with water or without, is melted until it browns.
func (c *cookery) becomesCaramel(l *clause, list []mention) bool {
	sugar := false
	for _, m := range list {
		material := c.material(m.item)
		if material == nil || m.holder >= 0 || m.share <= 0 || material.Kind != "sweetener" && material.Slug != "water" {
			return false
		}
		sugar = sugar || material.Kind == "sweetener"
	}
	return sugar && caramelSaid.MatchString((&clause{words: l.until()}).text())
}

// meltsAndStrains is said of jaggery that has to have some water, though nobody says so.
var meltsAndStrains = regexp.MustCompile(`(?i)^(?:meanwhile |then )?(?:melt|dissolve) (?:the )?[a-z ]+(?:,| and|, and) ` +
	`(?:strain|filter|sieve)\b`)

// brownsNext is said of sugar that goes on over the flame.
var brownsNext = regexp.MustCompile(`^ (?:let|boil|cook|heat|simmer|leave|allow|bubble)\b[^,]*\buntil\b`)

// caramelSaid is what sugar looks like that has browned.
var caramelSaid = regexp.MustCompile(`\b(?:amber|caramel\w*|copper|mahogany|golden|brown|browns|browned|toffee)\b`)

// melts makes the syrup of lumps and water, if a clause does.
func (c *cookery) melts(l *clause, list []mention) bool {
	if l.verb != "melt" && l.verb != "dissolve" && l.find("melts") < 0 && l.find("dissolves") < 0 && l.find("melted") < 0 &&
		l.find("dissolved") < 0 && l.find("melt") < 0 {
		return false
	}
	var lumps, water bool
	for _, m := range list {
		switch material := c.material(m.item); {
		case material != nil && m.share <= 0 && material.Slug == "water": // other water is in the pot
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
	if amount := c.waterToMelt(l); lumps && !water && amount != "" &&
		(l.find("water") >= 0 || l.verb == "melt" && meltsAndStrains.MatchString(c.text[c.now])) {
		list, water = append(list, c.unsaidWater(l, amount)), true
	}
	if !lumps || !water {
		return false
	}
	strain := l.has("strain", "strained")
	step := plan.Step{Do: plan.Melt, Name: c.free("syrup"), Strain: &strain}
	h := holder{name: step.Name, left: 1, words: syrupWords}
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
	c.last = []mention{allOf(len(c.holders) - 1)}
	return true
}

// asSyrup makes one step of what was melted in the only pot and is strained: "add water to the jaggery, heat until it melts. Strain".
func (c *cookery) asSyrup() {
	pot := c.holders[c.at]
	if len(c.holders) != c.at+1 || c.otherPot() >= 0 {
		return
	}
	step := plan.Step{Do: plan.Melt, Name: c.free("syrup"), Strain: new(true)}
	var minutes measure.Minute
	first, rest := -1, []plan.Step(nil)
	for _, s := range c.steps {
		if s.Do.IsPreparation() && s.Pot == "" {
			rest = append(rest, s)
			continue
		}
		at, _ := unmarked(s.Note)
		switch s.Do {
		case plan.Add:
			step.Items = append(step.Items, s.Items...)
		case plan.Heat:
			if s.Until != nil && s.Until.Minutes != nil {
				minutes += *s.Until.Minutes
			}
		default:
			return
		}
		if first < 0 {
			first = at
		} else if at != first && !slices.Contains(c.shared[step.Name], at) {
			c.shared[step.Name] = append(c.shared[step.Name], at)
		}
	}
	if first < 0 || slices.ContainsFunc(step.Items, func(item plan.Item) bool { return item.Material == "" }) {
		return
	}
	if minutes > 0 {
		step.Minutes = &minutes
	}
	now := c.now
	c.steps, c.assumed, c.at = rest, -1, -1
	c.now = first
	c.emit(step)
	c.now = now
	c.holders[len(c.holders)-1] = holder{name: step.Name, left: 1, words: syrupWords, items: pot.items}
	c.last, c.next = []mention{allOf(len(c.holders) - 1)}, nil
}

// syrupWords are what a syrup is called.
var syrupWords = []string{"syrup", "jaggery syrup", "sugar syrup", "melted jaggery", "jaggery water"}

// meltsOn reports whether a clause only says more of the syrup that its sentence has begun: "heat till it melts".
func (c *cookery) meltsOn(l *clause) bool {
	last := len(c.steps) - 1
	if last < 0 || c.steps[last].Do != plan.Melt || l.find("add") >= 0 {
		return false
	}
	if at := c.madeBy(last); at != c.now && !(at >= c.now-2 && c.boilsOn(l)) {
		return false
	}
	if only := c.mentioned(&clause{words: l.copied()}); slices.ContainsFunc(only, func(m mention) bool {
		return m.holder < 0 || c.holders[m.holder].name != c.steps[last].Name
	}) || l.find("everything") >= 0 || l.find("both") >= 0 {
		return false
	}
	if c.madeBy(last) != c.now {
		c.shared[c.steps[last].Name] = append(c.shared[c.steps[last].Name], c.now)
	}
	l.has("the syrup", "syrup")
	l.has("to the boil", "to a boil", "to boil", "until it melts", "until melted", "until dissolved")
	if minutes := l.minutes(); minutes > 0 {
		c.steps[last].Minutes = &minutes
	}
	l.flame()
	if sign := l.sign(); sign != "" {
		c.steps[last].Sign = sign
	}
	return true
}

// boilsOn reports whether a clause goes on with the syrup of the sentence before: "boil it for 5 minutes".
func (c *cookery) boilsOn(l *clause) bool {
	syrup := l.has("syrup", "sticky", "string", "thread", "syrupy", "one string", "one thread", "half")
	return len(c.last) == 1 && c.last[0].holder >= 0 && c.holders[c.last[0].holder].left > 0 && !c.holders[c.last[0].holder].pot &&
		(l.beginsWith("it") || syrup) && !strings.Contains(l.text(), "together")
}

// caramel browns what sugar a clause names.
func (c *cookery) caramel(l *clause) bool {
	if len(c.held()) > 0 && c.next == nil && c.anyNew(c.unused(l)) {
		c.next = []string{} // in a pan of its own
	}
	return c.put(c.mentions(l), plan.Step{}) && c.browns(l)
}

// browns makes a caramel of the sugar that went into the pot last; the water that it was dissolved in boils off before it browns.
func (c *cookery) browns(l *clause) bool {
	last := len(c.steps) - 1
	if last < 0 || c.steps[last].Do != plan.Add || c.at < 0 || c.steps[last].Pot != c.holders[c.at].name || !c.onlySugar() {
		return false
	}
	l.sign()
	step := &c.steps[last]
	step.Items = slices.DeleteFunc(step.Items, func(item plan.Item) bool { return item.Material == "water" })
	step.Do, step.Until, step.Flame = plan.Caramel, &plan.Until{Browning: plan.Amber}, vessel.Medium
	if flame := l.flame(); flame != "" && flame != vessel.Simmer && flame != vessel.Boil {
		step.Flame = flame
	}
	return true
}

// fry is nuts and fruit in fat, beside the pot; anything else is fried in the pot it is cooked in.
func (c *cookery) fry(l *clause) {
	before := c.last
	list := c.asMeant(l, c.mentions(l), before)
	if !slices.ContainsFunc(list, func(m mention) bool { return !c.isFat(m) }) { // "slice the banana, fry lightly in the ghee"
		cut := func(m mention) bool {
			return m.item >= 0 && c.said[m.item] && c.unput(m) && c.behaves(m, pantry.Tissue)
		}
		list = append(slices.DeleteFunc(c.asMeant(it, nil, before), func(m mention) bool { return !cut(m) }), list...)
	}
	if raisinsToo.MatchString(c.ahead) {
		list = c.onlyTheNuts(l, list) // "fry the nuts, then the dates and raisins"
	}
	into := func(m mention) bool {
		return m.item >= 0 && m.share > 0 && c.used[m.item] < 1 || m.holder >= 0 && m.holder != c.at
	}
	frying := len(c.steps) > 0 && c.steps[len(c.steps)-1].Do == plan.Fry
	stays := func() bool { // "and fry till it leaves the sides"
		return len(c.held()) > 0 && !c.heldFat() && c.fat == nil && !frying && !slices.ContainsFunc(list, into)
	}
	if frying && len(list) == 0 && c.now > 0 && c.madeBy(len(c.steps)-1) == c.now-1 { // "add the cashews. Fry until golden"
		last := &c.steps[len(c.steps)-1]
		last.Sign = cmp.Or(last.Sign, l.sign())
		c.shared[last.Name] = append(c.shared[last.Name], c.now)
		c.joined++
		return
	}
	if c.movesToFat(list) || stays() {
		minutes := l.minutes()
		if minutes == 0 {
			minutes = c.guess(fryUsual)
		}
		l.sign()
		c.heat(l, vessel.Medium, plan.Until{Minutes: &minutes})
		return
	}
	if c.fryThese(l, list); len(c.held()) > 0 && c.steps[len(c.steps)-1].Do == plan.Fry {
		c.next = nil // the other pan was for that
	}
}

// raisinsToo is said of what is fried after the nuts.
var raisinsToo = regexp.MustCompile(`\b(?:raisins?|sultanas?|dates?|kismis)\b`)

// A frying is what is fried, and in what.
type frying struct {
	pieces []mention // nuts and raisins: they are taken out again
	others []mention // what stays in the pot
	fat    int       // of the list; -1 for none
	share  float64   // of it
	left   int       // a holder of fat that something was fried in before; -1 for none
	hot    bool      // the fat is hot already, and nothing in it
}

// asFrying sorts what is named; the fat is that which is hot, or the first of the list that is not all in.
func (c *cookery) asFrying(list []mention) frying {
	f := frying{fat: -1, left: -1}
	for _, m := range list {
		material := c.material(m.item)
		switch {
		case m.holder != c.at && c.isFryingFat(m):
			f.left = m.holder
		case m.holder >= 0 || material == nil:
		case material.Behaviour == pantry.Fat:
			f.fat, f.share = m.item, m.share
		case material.Behaviour == pantry.Piece || m.share > 0 && c.fries(m) && c.any(list, pantry.Piece):
			f.pieces = append(f.pieces, m)
		default:
			f.others = append(f.others, m)
		}
	}
	if last := len(c.steps) - 1; c.fat == nil && f.fat < 0 && f.left < 0 && last >= 0 && c.steps[last].Do == plan.Fry {
		f.left = c.fryingFat(c.steps[last].Name)
	}
	if f.hot = c.fat != nil && f.fat < 0 && f.left < 0; f.hot {
		f.fat, f.share, f.left = c.fat.item, c.fat.share, c.fat.holder
		c.fat = nil
	}
	for i := 0; f.fat < 0 && f.left < 0 && i < len(c.given); i++ {
		if m := c.material(i); m != nil && m.Behaviour == pantry.Fat && c.used[i] < 1 {
			f.fat, f.share = i, 1-c.used[i]
		}
	}
	return f
}

// fries reports whether something is fried beside the pot: nuts, raisins, and with them other dried fruit, such as sliced dates.
func (c *cookery) fries(m mention) bool {
	material := c.material(m.item)
	dried := material != nil && (material.Slug == "date-pulp" || strings.HasPrefix(material.Slug, "dried-"))
	return dried || c.behaves(m, pantry.Piece)
}

// fryThese fries what is named.
func (c *cookery) fryThese(l *clause, list []mention) {
	f, minutes := c.asFrying(list), l.minutes()
	switch {
	case len(f.pieces) > 0 && (f.fat >= 0 && c.used[f.fat] < fullyUsed || f.left >= 0):
		c.fryPieces(l, f, minutes)
	case slices.ContainsFunc(f.others, func(m mention) bool { return len(f.pieces) == 0 || !c.behaves(m, pantry.Aroma) }):
		c.fryInPot(l, f, minutes)
	case len(f.pieces) > 0:
		if f.fat >= 0 { // all of it has gone in before
			c.doubt(NotPut, c.given[f.fat].Text, "")
		}
		for _, m := range f.pieces { // nobody says in what
			c.preparing(m.item, preparing{name: "roast", minutes: roastUsual, sentence: c.now})
		}
	case (len(c.held()) > 0 || f.hot) && (minutes > 0 || l.find("until") >= 0 && c.justAdded()):
		if minutes == 0 { // "add the banana paste and sauté till the water dries up"
			minutes = c.guess(fryUsual)
			l.sign()
		}
		if f.hot {
			c.put([]mention{{item: f.fat, share: f.share, holder: -1}}, plan.Step{})
		}
		c.heat(l, vessel.Medium, plan.Until{Minutes: &minutes})
	}
}

// justAdded reports whether what was done last is that the sentence put something into the pot.
func (c *cookery) justAdded() bool {
	last := len(c.steps) - 1
	return last >= 0 && c.steps[last].Do == plan.Add && c.madeBy(last) == c.now
}

// fryPieces fries beside the pot; what it was fried in is left for what comes.
func (c *cookery) fryPieces(l *clause, f frying, minutes measure.Minute) {
	if f.left >= 0 && c.fryMore(l, f, minutes) {
		return
	}
	step := plan.Step{Do: plan.Fry, Name: c.free("garnish")}
	if f.fat >= 0 {
		if item, ok := c.take(mention{item: f.fat, share: f.share, holder: -1}); ok {
			step.Fat = &item
		}
	} else {
		step.Fat = new(c.pour(f.left, 1))
	}
	h := holder{name: step.Name, left: 1, words: []string{"garnish", "fried nut", "nut"}}
	for _, m := range f.pieces {
		if item, ok := c.take(m); ok {
			item.Minutes = c.fried(m, len(f.pieces), minutes)
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
	c.last = []mention{allOf(len(c.holders) - 1)}
	for _, m := range f.others {
		if c.behaves(m, pantry.Aroma) && m.share > 0 { // cloves with the nuts: they go where those go
			c.last = append(c.last, m)
		}
	}
	if f.fat >= 0 {
		c.holders = append(c.holders, holder{name: step.Name + ".fat", left: 1, words: []string{"fat", "same fat", "same pan"},
			items: []int{f.fat}})
	}
}

// fryMore adds to what was fried last, in the same fat: "add the raisins and fry till they puff up".
func (c *cookery) fryMore(l *clause, f frying, minutes measure.Minute) bool {
	last := len(c.steps) - 1
	if last < 0 || c.steps[last].Do != plan.Fry || c.holders[f.left].name != c.steps[last].Name+".fat" {
		return false
	}
	h := slices.IndexFunc(c.holders, func(h holder) bool { return h.name == c.steps[last].Name })
	for _, m := range f.pieces {
		if item, ok := c.take(m); ok {
			item.Minutes = c.fried(m, len(f.pieces), minutes)
			c.steps[last].Items = append(c.steps[last].Items, item)
			c.holders[h].items = append(c.holders[h].items, m.item)
		}
	}
	l.sign()
	c.joined++
	c.last = []mention{allOf(h)}
	if at := c.madeBy(last); at != c.now && !slices.Contains(c.shared[c.steps[last].Name], c.now) {
		c.shared[c.steps[last].Name] = append(c.shared[c.steps[last].Name], c.now)
	}
	return true
}

// fryInPot fries in the pot, or in another where milk is in that.
func (c *cookery) fryInPot(l *clause, f frying, minutes measure.Minute) {
	wet := slices.ContainsFunc(c.held(), func(i int) bool {
		m := c.material(i)
		return m != nil && m.Behaviour == pantry.Liquid
	})
	if wet && c.next == nil && (f.fat >= 0 || f.left >= 0) && c.anyNew(f.others) {
		c.next = []string{}
	}
	list := f.others
	if f.left >= 0 {
		list = append([]mention{allOf(f.left)}, list...)
	} else if f.fat >= 0 && c.used[f.fat] < 1 {
		list = append([]mention{{item: f.fat, share: min(f.share, 1-c.used[f.fat]), holder: -1}}, list...)
	}
	if c.put(list, plan.Step{}) {
		minutes = cmp.Or(minutes, fryUsual)
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
