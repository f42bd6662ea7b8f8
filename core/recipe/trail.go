package recipe

import (
	"slices"
	"strings"

	"kirdu/core/measure"
	"kirdu/core/plan"
)

// A Stop is where a thing of the list, or a share of it, goes by the method.
type Stop struct {
	Sentence int     // from 0; -1: no sentence says it: its line does, or it goes where it usually does
	Amount   string  // how much of it, where not all goes at once; "" for all
	Share    float64 // the same, of what the list has: 0 to 1
	Pan      string  // a pan of its own, by name; "" for the pot that is served
	Beside   bool    // it is made ready beside the pot: fried, stirred, ground
	Onward   bool    // what the stop before made of it goes on
	OnTop    bool
}

// A taking is a share of a thing of the list that a sentence takes.
type taking struct {
	item, sentence int
	share          float64
}

// took records what the sentence that was read has taken of the list since it stood so.
func (c *cookery) took(was []float64) {
	const slack = 1e-6
	for i, used := range c.used {
		before := 0.0
		if i < len(was) {
			before = was[i]
		}
		if share := used - before; share > slack {
			c.taken = append(c.taken, taking{i, c.now, share})
		}
	}
}

// trails follow each thing of the list into the pot that is served.
func (r *Cooked) trails(c *cookery, own int) [][]Stop {
	list := make([][]Stop, own)
	if r.ByList {
		return list
	}
	of := make([]int, len(r.Plan.Steps)) // the sentence of each step
	for i := range of {
		of[i] = -1
	}
	for k := range r.Sentences {
		for _, i := range r.Sentences[k].Steps {
			if of[i] < 0 {
				of[i] = k
			}
		}
	}
	for _, one := range c.taken {
		at := one.item
		if at >= own { // water of the method, or the other half of what the list has as one
			if at = c.listed(at, own); at < 0 {
				continue
			}
		}
		stop := Stop{Sentence: one.sentence, Amount: c.amountIn(one), Share: one.share}
		slug := c.given[one.item].Item.Material
		i := r.stepWith(slug, one.sentence)
		if i < 0 { // it greases a dish, or is the coconut that is pressed
			list[at] = append(list[at], stop)
			continue
		}
		if r.Plan.Steps[i].Do.IsPreparation() {
			stop.Sentence = of[i] // it is soaked before it goes in
		}
		list[at] = append(list[at], r.onward(slug, stop, i, of)...)
	}
	return list
}

// listed is the line of the list that what was parted from it belongs to; -1 for what only the method has.
func (c *cookery) listed(i, own int) int {
	if c.given[i].inMethod {
		return -1
	}
	text := strings.TrimSuffix(c.given[i].Text, " zest")
	return slices.IndexFunc(c.given[:own], func(g Given) bool { return g.Text == text })
}

// amountIn is how much a sentence takes of a thing; "" for all of it.
func (c *cookery) amountIn(one taking) string {
	amount, err := measure.ParseAmount(c.given[one.item].Item.Amount)
	if one.share > fullyUsed || err != nil {
		return ""
	}
	return amount.Scale(one.share).String()
}

// stepWith is the step of a sentence that takes a material; -1 for none.
func (r *Cooked) stepWith(slug string, sentence int) int {
	takes := func(i int) bool {
		s := &r.Plan.Steps[i]
		has := func(item *plan.Item) bool { return item != nil && item.Material == slug }
		return has(s.Fat) || has(s.In) || slices.ContainsFunc(s.Items, func(item plan.Item) bool { return item.Material == slug })
	}
	if sentence >= 0 {
		for _, i := range r.Sentences[sentence].Steps {
			if takes(i) {
				return i
			}
		}
	}
	for i := range r.Plan.Steps { // the step may be told by another sentence
		if takes(i) {
			return i
		}
	}
	return -1
}

// onward goes from the step that takes a material to where that ends; of is the sentence of each step.
func (r *Cooked) onward(slug string, stop Stop, i int, of []int) []Stop {
	reached := map[int]bool{i: true}
	var list []Stop
	for k := i; k < len(r.Plan.Steps); k++ {
		if !reached[k] {
			continue
		}
		one := Stop{Sentence: of[k], Onward: true}
		if k == i {
			one = stop
		}
		s := &r.Plan.Steps[k]
		one.Beside, one.OnTop = s.Do.IsPreparation(), s.Topping
		if pan := s.PotName(); !one.Beside && pan != plan.MainPot {
			one.Pan = pan
		}
		if last := len(list) - 1; last >= 0 && list[last].Sentence == one.Sentence {
			if !list[last].Beside { // it is in already
				one = list[last]
			}
			one.Onward, one.Amount, one.Share = list[last].Onward, list[last].Amount, list[last].Share
			list = list[:last]
		}
		list = append(list, one)
		for to := k + 1; to < len(r.Plan.Steps); to++ {
			reached[to] = reached[to] || r.goesOn(slug, k, to)
		}
	}
	return list
}

// goesOn reports whether what a step made of a material, in a pan of its own or beside the pot, is taken by another.
func (r *Cooked) goesOn(slug string, from, to int) bool {
	s, next := &r.Plan.Steps[from], &r.Plan.Steps[to]
	takes := func(item *plan.Item) bool {
		switch {
		case item == nil:
			return false
		case !s.Do.IsPreparation():
			return s.PotName() != plan.MainPot && item.Pot == s.PotName()
		case s.Name == "":
			return false
		case item.Part == s.Name+".fat":
			return s.Fat != nil && s.Fat.Material == slug
		}
		return item.Part == s.Name || strings.HasPrefix(item.Part, s.Name+".")
	}
	return takes(&plan.Item{Part: next.Of}) || takes(next.In) || takes(next.Fat) ||
		slices.ContainsFunc(next.Items, func(item plan.Item) bool { return takes(&item) })
}
