package recipe

import (
	"kirdu/core/pantry"
	"kirdu/core/plan"
	"kirdu/core/vessel"
	"regexp"
	"slices"
	"strconv"
	"strings"
)

func (c *cookery) emit(steps ...plan.Step) {
	for _, s := range steps {
		s.Note = marked(c.now, s.Note)
		if c.at >= 0 && !s.Do.IsPreparation() && s.Pot == "" {
			s.Pot = c.holders[c.at].name
		}
		c.steps = append(c.steps, s)
	}
}

// A mark in a note says which sentence made a step, until the plan is done.
const lineMark = -2

func marked(sentence int, note string) string { return "\x00" + strconv.Itoa(sentence) + "\x00" + note }

func unmarked(note string) (sentence int, rest string) {
	parts := strings.SplitN(note, "\x00", 3)
	if len(parts) < 3 {
		return -1, note
	}
	n, err := strconv.Atoi(parts[1])
	if err != nil {
		return -1, note
	}
	return n, parts[2]
}

// madeBy is the sentence that made a step, until the plan is done; below 0 for none.
func (c *cookery) madeBy(step int) int {
	sentence, _ := unmarked(c.steps[step].Note)
	return sentence
}

// open begins a new pot.
func (c *cookery) open(words []string) {
	name := "pan"
	for _, w := range words {
		if potName.MatchString(w) {
			name = w
		}
	}
	c.holders = append(c.holders, holder{name: c.free(name), pot: true, words: words, left: 1})
	c.at, c.next = len(c.holders)-1, nil
}

var potName = regexp.MustCompile(`^[a-z]{3,16}$`)

// inDish reports whether what is being cooked is in a dish for the oven.
func (c *cookery) inDish() bool { return c.at >= 0 && c.isDish(c.at) }

func (c *cookery) isDish(h int) bool { return strings.HasPrefix(c.holders[h].name, "dish") }

// held is what the pot that is being cooked in holds.
func (c *cookery) held() []int {
	if c.at < 0 {
		return nil
	}
	return c.holders[c.at].items
}

// mainPot is the first pot that has not been poured into another, and does not wait for that; -1 without one.
func (c *cookery) mainPot() int {
	full := func(h holder) bool { return h.pot && h.left > 0 && len(h.items) > 0 }
	if named := slices.IndexFunc(c.holders, func(h holder) bool { return full(h) && thePudding[h.name] }); named >= 0 {
		return named
	}
	if main := slices.IndexFunc(c.holders, func(h holder) bool { return full(h) && !h.waits && !c.onlyFruit(h) }); main >= 0 {
		return main
	}
	if main := slices.IndexFunc(c.holders, func(h holder) bool { return full(h) && !h.waits }); main >= 0 {
		return main
	}
	return slices.IndexFunc(c.holders, full)
}

// onlyFruit reports whether there is nothing in a pot but fruit and what it is sweetened, thickened and flavoured with: it is served
// with the pudding.
func (c *cookery) onlyFruit(h holder) bool {
	fruit := false
	for _, i := range h.items {
		switch m := c.material(i); {
		case m == nil:
		case strings.HasSuffix(m.Slug, "-juice"):
		case m.Kind == "fruit":
			fruit = true
		case m.Kind != "sweetener" && m.Slug != "water" && m.Behaviour != pantry.Aroma && m.Behaviour != pantry.Flour:
			return false
		}
	}
	return fruit
}

// thePudding is what the pot is called that is served: "for the pudding".
var thePudding = wordSet("pudding porridge kheer payasam")

// dishSaid is said of what a pudding is baked or set in.
var dishSaid = regexp.MustCompile(`(?i)\b(?:dish|tin|mould|casserole|slow cooker)\b`)

// put adds what is named and not in yet to the pot.
func (c *cookery) put(list []mention, step plan.Step) bool {
	step.Do = plan.Add
	from := c.at
	if c.fat != nil && c.pan && c.next == nil && slices.ContainsFunc(list, func(m mention) bool {
		return m.item >= 0 && m.share > 0 && m.holder < 0 && !c.behaves(m, pantry.Liquid)
	}) {
		c.next = []string{} // that which the fat is hot in
	}
	if c.comesLater(list) || c.roastedApart(list) {
		c.holders[c.at].waits, c.next = true, []string{}
	}
	if c.next != nil || c.at < 0 {
		wants := slices.ContainsFunc(list, func(m mention) bool { return m.item >= 0 && m.share > 0 || m.holder >= 0 && m.holder != c.at })
		if !wants {
			return false
		}
		if c.at < 0 && c.greased == c.now && len(c.next) == 0 { // "butter a dish and tip in the rice"
			c.next = []string{"dish"}
		}
		c.open(c.next)
	}
	if c.fat != nil && len(c.held()) == 0 {
		list = append([]mention{*c.fat}, list...)
		c.fat = nil
	}
	for _, m := range list {
		if m.holder >= 0 && m.holder != c.at {
			if c.holders[m.holder].left <= 0 {
				continue
			}
			step.Items = append(step.Items, c.pour(m.holder, max(m.share, boolShare(m.item >= 0))))
			c.holders[c.at].items = append(c.holders[c.at].items, c.holders[m.holder].items...)
			continue
		}
		if item, ok := c.take(m); ok {
			step.Items = append(step.Items, item)
			c.holders[c.at].items = append(c.holders[c.at].items, m.item)
		}
		for _, with := range c.groundWith(m.item) {
			if item, ok := c.take(with); ok {
				step.Items = append(step.Items, item)
				c.holders[c.at].items = append(c.holders[c.at].items, with.item)
			}
		}
		for _, fat := range c.dressed[m.item] {
			delete(c.reserved, fat.item)
			if item, ok := c.take(fat); ok {
				step.Items = append(step.Items, item)
				c.holders[c.at].items = append(c.holders[c.at].items, fat.item)
			}
		}
	}
	if len(step.Items) > 0 && len(c.forDish) > 0 && (c.inDish() || c.now >= 0 && dishSaid.MatchString(c.text[c.now]) ||
		!slices.ContainsFunc(c.later(0), dishSaid.MatchString)) {
		for _, m := range c.forDish {
			delete(c.reserved, m.item)
			if item, ok := c.take(m); ok {
				step.Items = append(step.Items, item)
				c.holders[c.at].items = append(c.holders[c.at].items, m.item)
			}
		}
		c.forDish = nil
	}
	if len(step.Items) == 0 {
		if from != c.at && len(c.holders[c.at].items) == 0 {
			c.holders = c.holders[:len(c.holders)-1]
			c.at = from
		}
		return false
	}
	c.emit(step)
	return true
}

// roastedApart reports whether dry grain goes into fat in which something was fried, while there is liquid in the pot: it is in
// the pan that the fat is in.
func (c *cookery) roastedApart(list []mention) bool {
	return c.next == nil && c.at >= 0 && slices.ContainsFunc(list, c.isFryingFat) &&
		(c.any(list, pantry.Grain) || c.any(list, pantry.Flour)) &&
		slices.ContainsFunc(c.held(), func(i int) bool { return c.behaves(mention{item: i}, pantry.Liquid) }) &&
		!slices.ContainsFunc(list, func(m mention) bool { return c.behaves(m, pantry.Liquid) })
}

func boolShare(all bool) float64 {
	if all {
		return 1
	}
	return 0
}

// draft is a plan without steps.
func draft(name string, choice plan.WayChoice) *plan.Plan {
	return &plan.Plan{Format: plan.Format, Name: name, Serves: choice.Bowls, PortionG: 160, Serve: choice.Serve,
		Kitchen: plan.DefaultKitchen(),
		Pots:    map[string]vessel.Pot{plan.MainPot: choice.Pot}, Burner: choice.Burner}
}

// finish pours what was made and not called for on top, and says so; and names the pot that is served.
func (c *cookery) finish() {
	c.now = -1
	main := c.servedPot()
	for h := range c.holders {
		one := &c.holders[h]
		if h == main || one.left < fullyUsed || len(one.items) == 0 && !one.pot || strings.HasSuffix(one.name, ".fat") {
			continue
		}
		if len(one.items) == 0 {
			continue
		}
		c.at = main
		item := c.pour(h, 1)
		sentence := c.madeIn(one.name)
		c.doubts[sentence] = append(c.doubts[sentence], Doubt{Of: NotPoured, Words: one.name})
		c.emit(plan.Step{Do: plan.Add, Topping: c.toppingOf(one), Items: []plan.Item{item}})
	}
	if main < 0 {
		return
	}
	old := c.holders[main].name
	for i := range c.steps {
		if c.steps[i].Pot == old {
			c.steps[i].Pot = ""
		}
		for j := range c.steps[i].Items {
			if c.steps[i].Items[j].Pot == old {
				c.steps[i].Items[j].Pot = plan.MainPot
			}
		}
	}
}

// toppingOf reports whether what is in a holder lies on top: fruit, nuts, what was fried.
func (c *cookery) toppingOf(h *holder) bool {
	if h.pot {
		return true
	}
	return slices.ContainsFunc(h.items, func(i int) bool { return c.behaves(mention{item: i}, pantry.Piece) })
}

// madeIn returns the sentence that first made something.
func (c *cookery) madeIn(name string) int {
	for i := range c.steps {
		if c.steps[i].Name == name || c.steps[i].Pot == name {
			at := c.madeBy(i)
			return at
		}
	}
	return -1
}

// servedPot is the pot that is poured into no other; of several the first.
func (c *cookery) servedPot() int {
	if one := c.mainPot(); one >= 0 {
		return one
	}
	return slices.IndexFunc(c.holders, func(h holder) bool { return h.pot })
}

// pots gives each further pot the shape of the first, and a dish that of a dish.
func (c *cookery) pots(p *plan.Plan, choice plan.WayChoice) {
	for i := range p.Steps {
		name := p.Steps[i].PotName()
		if _, known := p.Pots[name]; known {
			continue
		}
		p.Pots[name] = choice.Pot
		if strings.HasPrefix(name, "dish") {
			p.Pots[name] = dish
		}
	}
	main := c.servedPot()
	if main >= 0 && c.isDish(main) {
		p.Pots[plan.MainPot] = dish
	}
}
