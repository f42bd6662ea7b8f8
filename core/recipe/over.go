package recipe

import (
	"regexp"
	"slices"

	"kirdu/core/pantry"
	"kirdu/core/plan"
)

// What goes over a pudding, and on top of it.

// top lays things on top of the pudding.
func (c *cookery) top(l *clause) (fine bool) {
	before := c.last
	list, _ := c.goesInto(l, c.friedForTop(l, c.withItsFat(l, c.asMeant(l, c.mentions(l), before))))
	for k, m := range list {
		if m.item >= 0 && m.share > 0 && m.holder < 0 && c.isTopping(m.item) && topsWith.MatchString(l.text()) {
			list[k].share = 1 - c.used[m.item] // "a sprinkle of cinnamon" is what the list has for it
		}
	}
	garnishes := len(list) == 0 && (l.verb == "garnish" || l.verb == "decorate") && len(c.held()) > 0 && l.find("with") < 0
	if overWith.MatchString(l.asked().text()) && !slices.ContainsFunc(list, func(m mention) bool { return m.holder >= 0 }) {
		list = append(c.friedNow(), list...) // "fry the cashews and sprinkle over with the cardamom"
	}
	if len(list) == 0 {
		list = c.otherHalf(l)
	}
	if list = c.meantForTop(l, list, before, garnishes); l.do == doPass {
		list = c.servedWith(l, list)
	}
	if c.at < 0 {
		return l.do == doPass
	}
	raw := slices.ContainsFunc(list, func(m mention) bool { return m.share > 0 && m.holder < 0 }) && !slices.ContainsFunc(list,
		func(m mention) bool {
			return !c.behaves(m, pantry.Grain) && !c.behaves(m, pantry.Flour)
		})
	return c.put(list, plan.Step{Topping: !raw}) || l.do == doPass || garnishes // "sprinkle over the semolina": it is cooked yet
}

// overWith is said of what goes over together with that which was fried.
var overWith = regexp.MustCompile(`^(?:over|on top|on) (?:together |along )?with\b`)

// friedForTop fries what is said to be fried: "top with the cashews fried in ghee".
func (c *cookery) friedForTop(l *clause, list []mention) []mention {
	if !l.has("fried in", "roasted in", "toasted in", "browned in", "ghee fried", "fried") || !c.hasPieces(list) {
		return list
	}
	return c.friedPieces(l, list)
}

// meantForTop is what goes on top where a clause names nothing: what is in the second pan, what the list has for the top, the
// rest of what was named, or that; and it turns to the pudding.
func (c *cookery) meantForTop(l *clause, list, before []mention, garnishes bool) []mention {
	if main := c.mainPot(); len(list) == 0 && l.do != doPass && main >= 0 && c.at != main && len(c.held()) > 0 {
		list = []mention{allOf(c.at)} // "spoon over the rice": what is in the second pan
	}
	if garnishes && len(list) == 0 {
		if list = c.friedNow(); len(list) == 0 { // "fry the cashews and garnish"
			list = c.toppings() // "garnish and serve"
		}
	}
	if len(list) == 0 && l.do != doPass && !garnishes {
		if list = c.restOf(l, before); len(list) == 0 {
			list = c.asMeant(it, nil, before)
		}
	}
	if len(list) == 0 && l.do == doPass && l.has("on top") { // "slice the banana and serve on top"
		list = slices.DeleteFunc(c.asMeant(it, nil, before), func(m mention) bool { return m.item < 0 || !c.unput(m) || !c.said[m.item] })
	}
	from := c.at
	if main := c.mainPot(); main >= 0 && main != c.at && !c.servedLater(l) {
		onto := l.find("over") >= 0 && !slices.ContainsFunc(list, func(m mention) bool { return m.holder != main })
		c.at, c.next = main, nil
		if onto || c.inHolder(list, from) { // "mound the rice on plates, spoon over the sauce", which is at hand
			list = slices.DeleteFunc(list, func(m mention) bool { return m.item >= 0 && m.share <= 0 && m.holder < 0 })
			list = append(list, allOf(from))
		}
	}
	return list
}

// friedNow is what the sentence has fried, and put nowhere yet.
func (c *cookery) friedNow() []mention {
	last := len(c.steps) - 1
	if last < 0 || c.steps[last].Do != plan.Fry {
		return nil
	}
	at := c.madeBy(last)
	h := slices.IndexFunc(c.holders, func(h holder) bool { return h.name == c.steps[last].Name && h.left > 0 })
	if at != c.now && at != c.now-1 || h < 0 {
		return nil
	}
	return []mention{allOf(h)}
}

// holderOfAll is the one thing that holds all that is named; -1 for none.
func (c *cookery) holderOfAll(named []mention) int {
	if len(named) == 0 || named[0].holder < 0 || slices.ContainsFunc(named, func(m mention) bool { return m.holder != named[0].holder }) {
		return -1
	}
	return named[0].holder
}

// servedWith is what goes over of what a pudding is served with: nobody pours the milk in.
func (c *cookery) servedWith(l *clause, list []mention) []mention {
	if l.find("over") >= 0 || l.has("topped", "drizzled", "sprinkled", "scattered", "garnished", "decorated", "dusted") {
		return list
	}
	return slices.DeleteFunc(list, func(m mention) bool {
		fruit := m.item >= 0 && c.material(m.item) != nil && c.material(m.item).Kind == "fruit"
		return m.item >= 0 && m.holder < 0 && !c.isTopping(m.item) && !c.behaves(m, pantry.Piece) && !fruit
	})
}

// pouredOver pours a bowl, or the pan that is being cooked in, over the pudding: "pour over the coconut milk", "pour it over".
func (c *cookery) pouredOver(l *clause, named []mention) bool {
	main := c.mainPot()
	if main < 0 || !l.beginsWith("over") && !l.beginsWith("it over") {
		return false
	}
	if len(named) > 0 && named[0].holder >= 0 && named[0].holder != c.at && c.isDish(named[0].holder) &&
		!slices.ContainsFunc(named, func(m mention) bool { return m.holder != named[0].holder }) {
		from := c.at
		c.at, c.next = named[0].holder, nil
		return c.put([]mention{allOf(from)}, plan.Step{}) // "pour over the apples", which are in their dish
	}
	if h := c.holderOfAll(named); c.inDish() && l.beginsWith("over") && h >= 0 && h != c.at && c.holders[h].pot && !c.isDish(h) {
		return c.put([]mention{allOf(h)}, plan.Step{}) // "scatter the rice in the dish and pour over the milk", which was warmed
	}
	beside := !slices.ContainsFunc(named, func(m mention) bool { return m.holder == main || m.holder < 0 })
	if pans := func(m mention) bool { return m.holder >= 0 && c.holders[m.holder].pot }; l.beginsWith("over") && beside && len(named) > 1 &&
		!slices.ContainsFunc(named, func(m mention) bool { return !pans(m) }) {
		c.at, c.next = main, nil
		return c.put(named, plan.Step{Topping: true}) // "pour over the syrup and the coconut milk"
	}
	bowl := len(named) > 0 && (c.at == main || slices.ContainsFunc(named, func(m mention) bool {
		return m.holder >= 0 && !c.holders[m.holder].pot
	}))
	if l.beginsWith("over") && bowl && beside {
		c.at, c.next = main, nil
		return c.put(named, plan.Step{Topping: true})
	}
	elsewhere := func(m mention) bool {
		return m.holder != c.at && (m.item < 0 || m.share > 0 || !slices.Contains(c.held(), m.item))
	}
	if main == c.at || c.at < 0 || slices.ContainsFunc(named, elsewhere) {
		return false
	}
	from := c.at
	c.at, c.next = main, nil
	return c.put([]mention{allOf(from)}, plan.Step{Topping: !c.inDish()})
}

// topsWith is said of as much as one likes.
var topsWith = regexp.MustCompile(`\b(?:sprinkle|sprinkling|dusting|shake|scattering|drizzle|little|pinch) of\b`)

// toppings are what the list has for the top and nothing was made of yet: "garnish and serve".
func (c *cookery) toppings() (list []mention) {
	for i := range c.given {
		if c.used[i] == 0 && c.isTopping(i) {
			list = append(list, mention{item: i, share: 1, holder: -1})
		}
	}
	return list
}

// restOf is what is left of what was named last: "stir in half of the nuts and garnish with the rest".
func (c *cookery) restOf(l *clause, before []mention) (list []mention) {
	if !l.has("the rest", "the remainder", "the others", "the remaining ones", "the remaining") {
		return nil
	}
	for _, m := range before {
		switch {
		case m.item >= 0 && m.holder < 0 && c.used[m.item] > 0 && c.used[m.item] < 1:
			list = append(list, mention{item: m.item, share: 1 - c.used[m.item], holder: -1})
		case m.holder >= 0 && m.holder != c.at && c.holders[m.holder].left > 0:
			list = append(list, allOf(m.holder))
		}
	}
	return list
}
