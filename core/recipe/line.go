package recipe

import (
	"slices"
	"strings"

	"kirdu/core/pantry"
	"kirdu/core/plan"
)

// fromLine reads what a line of the list says is done with it before: "soaked for 4 hours", "ground
// coarsely"; and whether it may be left out.
func (c *cookery) fromLine(i int) {
	c.now = -1
	words := methodWords(c.given[i].Text)
	l := clause{words: words}
	item := &c.given[i].Item
	item.Optional = item.Optional || l.has("optional", "if you like", "if using", "if liked", "if desired")
	item.ToTaste = item.ToTaste || l.has("to taste", "as needed", "according to taste", "to your taste", "or to taste")
	minutes := l.minutes()
	for k, w := range words {
		p := preparing{sentence: -1, minutes: minutes}
		switch w.text {
		case "soaked", "soak":
			p.name = "soak"
			if minutes == 0 {
				p.minutes = soakUsual
			}
		case "roasted", "toasted":
			p.name, p.minutes = "roast", roastUsual
		case "ground", "coarsely", "blended", "pureed", "puréed":
			if w.text == "coarsely" && !l.has("ground", "crushed", "powdered") || k+1 < len(words) && c.isName(words[k+1].one) {
				continue // "ground rice" is a thing, and "coarsely chopped" is chopped
			}
			p.name, p.minutes = "grind to granules", 3
			if l.has("to a paste", "paste", "smooth") || w.text != "ground" && w.text != "coarsely" {
				p.name = "grind to a paste"
			}
		case "mashed":
			p.name, p.minutes = "grind to a paste", 4
		case "grated", "shredded":
			p.name, p.minutes = "grate", grateUsual
			if m := c.material(i); m != nil && m.Kind == "spice" && !strings.HasSuffix(m.Slug, "-fresh") {
				continue // nutmeg is grated over
			}
		case "steamed":
			p.name = "steam"
			if minutes == 0 {
				p.minutes = 15
			}
		case "squeezed":
			p.name, p.minutes = "squeeze out juice", 3
		case "cubed", "diced", "sliced", "chopped", "cut", "halved", "quartered", "slivered":
			p.name, p.minutes = "cut", 4
			if m := c.material(i); m == nil || m.Behaviour != pantry.Tissue {
				continue // nuts are bought so, or cut in a moment
			}
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
				do := p.Steps[step].Do
				if at < 0 || do != plan.Add && do != plan.Fry && do != plan.Mix || !c.isShare(p, p.Steps[step].Items[at], i, one.share) {
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

// isShare reports whether an item of a plan is so much of a given one; 0 is any.
func (c *cookery) isShare(p *plan.Plan, item plan.Item, given int, share float64) bool {
	if share == 0 {
		return true
	}
	if maker := p.Maker(item.Part); item.Part != "" && maker >= 0 && len(p.Steps[maker].Items) > 0 {
		item = p.Steps[maker].Items[0]
	}
	part, ok := c.scaled(given, share)
	return ok && item.Amount == part.Amount
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
