package stock

import (
	"kirdu/core/convert"
	"kirdu/core/design"
	"kirdu/core/measure"
	"kirdu/core/pantry"
	"kirdu/core/plan"
)

// A Stock is what is at hand: grams by slug, or Enough where nobody counts.
type Stock map[string]measure.Gram

// Enough is more of a material than any pudding takes.
const Enough = measure.MaxGrams * 1000

// Readiness says whether a pudding can be made now.
type Readiness string

// From now to not at all.
const (
	Now      Readiness = "now"
	WithSwap Readiness = "with a swap"
	Missing  Readiness = "something is missing"
)

// A Need is a material that a pudding takes and that is not all there.
type Need struct {
	Material *pantry.Material
	Mass     measure.Gram
	Has      measure.Gram
	Optional bool // an aroma or a topping: the pudding is one without it
}

// A Replacement is one material in the place of another.
type Replacement struct {
	From, To         *pantry.Material
	FromMass, ToMass measure.Gram
}

// Made is how one pudding can be made from what is at hand.
type Made struct {
	Readiness Readiness
	Plan      *plan.Plan // for the bowls wanted, with the swaps done
	Swaps     []Replacement
	Needs     []Need // what is missing for good, and what is left out
	Before    design.Outcome
	Outcome   design.Outcome // of Plan; only set with swaps
}

// Have says how a plan can be made for so many bowls from what is at hand:
// as it is, with other milk, sweetener or grain of like kind, or not, and then
// what is missing. After a swap, the mark and the sugar are set anew so that it
// comes out as thick and as sweet.
func Have(p *plan.Plan, bowls int, stock Stock) Made {
	wanted := p.Clone()
	wanted.ScaleWithTaste(bowls)
	made := Made{Readiness: Now, Plan: wanted}
	left := Stock{}
	for slug, mass := range stock {
		left[slug] = mass
	}
	needs, order := sum(wanted)
	for _, slug := range order {
		need := needs[slug]
		if left[slug] >= need.Mass {
			left[slug] -= need.Mass
			need.Mass = 0
		}
	}
	for _, slug := range order {
		need := needs[slug]
		if need.Mass <= 0 {
			continue
		}
		need.Has = left[slug]
		// A pudding without its bay leaf is one still; with a clove instead it is another.
		if swap, ok := replace(wanted, *need, left); ok && !need.Optional {
			made.Swaps = append(made.Swaps, swap)
			left[swap.To.Slug] -= swap.ToMass
			wanted.Replace(swap.From.Slug, swap.To.Slug, float64(swap.ToMass/swap.FromMass))
			made.Readiness = worse(made.Readiness, WithSwap)
			continue
		}
		made.Needs = append(made.Needs, *need)
		if !need.Optional {
			made.Readiness = Missing
		}
	}
	if len(made.Swaps) > 0 && made.Readiness != Missing {
		made.rebalance(p, bowls)
	}
	return made
}

func worse(a, b Readiness) Readiness {
	if a == Missing {
		return a
	}
	return b
}

// rebalance sets mark and sugar so that the swapped plan comes out as the one
// with its own materials would.
func (m *Made) rebalance(p *plan.Plan, bowls int) {
	own := p.Clone()
	own.ScaleWithTaste(bowls)
	m.Plan, m.Before, m.Outcome = design.ComeOutLike(m.Plan, own)
}

// sum adds up what a plan needs of each material but water, in order of use.
func sum(p *plan.Plan) (map[string]*Need, []string) {
	needs := map[string]*Need{}
	var order []string
	p.Uses(func(m *pantry.Material, mass measure.Gram, step int) {
		if m.Kind == "water" {
			return
		}
		need, known := needs[m.Slug]
		if !known {
			need = &Need{Material: m, Optional: true}
			needs[m.Slug] = need
			order = append(order, m.Slug)
		}
		need.Mass += mass
		s := &p.Steps[step]
		need.Optional = need.Optional && (m.Behaviour == pantry.Aroma || m.Kind == "salt" || s.Topping || s.Do == plan.Fry)
	})
	return needs, order
}

// replace finds the material at hand that comes nearest to one that is not.
func replace(p *plan.Plan, need Need, left Stock) (Replacement, bool) {
	from := need.Material
	var best Replacement
	nearest := 0.0
	for _, to := range alike(p.Pantry(), from) {
		if to.Slug == from.Slug || to.Kind == "water" {
			continue
		}
		mass := need.Mass
		if from.Kind == "sweetener" {
			swap, err := convert.SwapFor([]convert.Portion{{Material: from, Mass: need.Mass}}, []*pantry.Material{to}, []float64{1})
			if err != nil {
				continue
			}
			mass = swap.To[0].Mass
		}
		if left[to.Slug] < mass {
			continue
		}
		if score := 1 / (1 + unlike(from, to)); score > nearest {
			nearest = score
			best = Replacement{From: from, To: to, FromMass: need.Mass, ToMass: mass}
		}
	}
	return best, nearest > 0
}

// alike lists what may take the place of a material: any sweetener for a
// sweetener, else what the pantry says.
func alike(all *pantry.Pantry, m *pantry.Material) []*pantry.Material {
	if m.Kind != "sweetener" {
		return all.Alike(m)
	}
	var sweet []*pantry.Material
	for _, other := range all.All() {
		if other.Kind == "sweetener" {
			sweet = append(sweet, other)
		}
	}
	return sweet
}

// unlike is how far two materials of like kind are apart, in hundredths of
// their composition and of their cooking time, with a kind of its own apart.
func unlike(a, b *pantry.Material) float64 {
	const otherKind, perMinute = 20, 0.5
	apart := 0.0
	difference := func(x, y measure.Gram) { apart += float64(max(x-y, y-x)) }
	difference(a.Water, b.Water)
	difference(a.Fat, b.Fat)
	difference(a.Protein, b.Protein)
	difference(a.Sucrose, b.Sucrose)
	difference(a.Starch, b.Starch)
	if a.Kind != b.Kind {
		apart += otherKind
	}
	if a.Kinetics != nil && b.Kinetics != nil {
		minutes := a.Kinetics.CookMinutes - b.Kinetics.CookMinutes
		apart += perMinute * float64(max(minutes, -minutes))
	}
	return apart
}
