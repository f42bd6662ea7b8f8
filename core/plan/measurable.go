package plan

import (
	"math"

	"kirdu/core/measure"
	"kirdu/core/pantry"
)

// Measurable rounds what was computed into the plan to what a kitchen can measure: amounts
// (measure.Measures.Measurable; eggs stay whole), marks to a per cent, minutes to whole ones.
// What stands in the plan before in the same words stays as it is.
func (p *Plan) Measurable(before *Plan) {
	stood := map[string]bool{}
	for i := range before.Steps {
		before.Steps[i].eachItem(func(item *Item) { stood[item.Material+" "+item.Amount] = true })
	}
	for i := range p.Steps {
		p.Steps[i].eachItem(func(item *Item) {
			m, known := p.Pantry().Material(item.Material)
			amount, err := measure.ParseAmount(item.Amount)
			if !known || err != nil || stood[item.Material+" "+item.Amount] {
				return
			}
			counted := p.Measures.IsPiece(amount.Unit, m.Body())
			item.Amount, item.Also = p.Measures.Measurable(amount, m.Body(), counted && m.Behaviour == pantry.Egg).String(), ""
		})
		if u := p.Steps[i].Until; u != nil && u.RemainingPct != nil && !hasMark(before, *u.RemainingPct) {
			until := *u
			until.RemainingPct = new(math.Round(*u.RemainingPct))
			p.Steps[i].Until = &until
		}
	}
}

func hasMark(p *Plan, percent float64) bool {
	for i := range p.Steps {
		if u := p.Steps[i].Until; u != nil && u.RemainingPct != nil && *u.RemainingPct == percent {
			return true
		}
	}
	return false
}

// eachItem calls do for everything that a step takes.
func (s *Step) eachItem(do func(*Item)) {
	for j := range s.Items {
		do(&s.Items[j])
	}
	if s.In != nil {
		do(s.In)
	}
	if s.Fat != nil {
		do(s.Fat)
	}
}
