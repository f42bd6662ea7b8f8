package plan

import (
	"kirdu/core/measure"
	"kirdu/core/pantry"
)

// MeasuresApart is from how many per cent on two amounts of one thing disagree.
// Source: the model, section 1.
const MeasuresApart = 20.0

const disagreement = MeasuresApart / 100

// A Reading is one of two amounts that a recipe gives for the same thing.
type StatedAmount struct {
	Text string
	Mass measure.Gram
}

// A Disagreement is two amounts of one thing that cannot both be right.
type Disagreement struct {
	Step, Item  int
	Amount      StatedAmount
	Also        StatedAmount
	MeasureName string             // the household measure of one of them; "" if neither has any
	MeasureML   measure.Millilitre // the size at which both would agree
	PresentML   measure.Millilitre // its size in this kitchen
}

// Disagreements lists the items whose two amounts differ by more than a fifth.
func (p *Plan) Disagreements() []Disagreement {
	var found []Disagreement
	for i := range p.Steps {
		for j, item := range p.Steps[i].Items {
			if d, differ := p.Compare(item); differ {
				d.Step, d.Item = i, j
				found = append(found, d)
			}
		}
	}
	return found
}

// Compare weighs the two amounts of an item against each other and
// reports whether they differ by more than a fifth.
func (p *Plan) Compare(item Item) (Disagreement, bool) {
	if item.Also == "" {
		return Disagreement{}, false
	}
	other := item
	other.Amount = item.Also
	material, one, errA := p.Weigh(item)
	_, two, errB := p.Weigh(other)
	if errA != nil || errB != nil || one <= 0 || two <= 0 {
		return Disagreement{}, false
	}
	d := Disagreement{Amount: StatedAmount{item.Amount, one}, Also: StatedAmount{item.Also, two}}
	if low, high := min(one, two), max(one, two); high-low <= disagreement*high {
		return d, false
	}
	for _, pair := range []struct {
		text  string
		other measure.Gram
	}{{item.Amount, two}, {item.Also, one}} {
		amount, err := measure.ParseAmount(pair.text)
		if err != nil {
			continue
		}
		name, size, ok := p.Measures.Volume(amount.Unit)
		if ok && material.Bulk > 0 {
			d.MeasureName, d.PresentML = name, size
			d.MeasureML = measure.Millilitre(float64(pair.other) / float64(material.Bulk) / amount.Number)
			break
		}
	}
	return d, true
}

// Trust settles a disagreement: it keeps one of the two amounts and drops the
// other. It reports whether there was one to settle.
func (p *Plan) Trust(step, item int, also bool) bool {
	if step < 0 || step >= len(p.Steps) || item < 0 || item >= len(p.Steps[step].Items) {
		return false
	}
	it := &p.Steps[step].Items[item]
	if it.Also == "" {
		return false
	}
	if also {
		it.Amount = it.Also
	}
	it.Also = ""
	return true
}

// CompareAmounts weighs the two amounts of an item in a kitchen against each
// other and reports whether they differ by more than a fifth.
func CompareAmounts(item Item, home Home) (Disagreement, bool) {
	return asIn(home).Compare(item)
}

// CheckAmount returns what is wrong with the amount of an item in a kitchen,
// nil if it can be weighed. Errors: those of Plan.Weigh.
func CheckAmount(item Item, all *pantry.Pantry, home Home) error {
	p := asIn(home)
	p.pantry = all
	_, _, err := p.Weigh(item)
	return err
}

// asIn returns an empty plan of a kitchen, for weighing single items.
func asIn(home Home) *Plan { return &Plan{Measures: home.Measures, pantry: HomePantry(home)} }
