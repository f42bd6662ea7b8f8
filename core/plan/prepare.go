package plan

import (
	"slices"

	"kirdu/core/measure"
	"kirdu/core/pantry"
)

// A Preparation is one way to prepare what goes into a pot.
type Preparation struct {
	Name    string         // "soak", "wash", "grind to a paste"
	Do      Verb           // what the plan has for it
	What    string         // of a prep
	To      GrindTo        // of a grind
	Pct     float64        // of a squeeze
	Minutes measure.Minute // usual
	Fits    []pantry.Behaviour
	OnPart  bool // works on a part that is prepared already
}

var anyPiece = []pantry.Behaviour{pantry.Piece, pantry.Aroma, pantry.Grain, pantry.Tissue}

// preparations are those that a single item can have. Pressing takes coconuts
// and has a bench of its own. The minutes are those of a practised cook at
// home.
var preparations = []Preparation{
	{Name: "soak", Do: Soak, Minutes: 30, Fits: []pantry.Behaviour{pantry.Grain, pantry.Piece}},
	{Name: "roast", Do: Roast, Minutes: 4, Fits: []pantry.Behaviour{pantry.Grain, pantry.Piece}, OnPart: true},
	{Name: "fry", Do: Fry, Minutes: 3, Fits: []pantry.Behaviour{pantry.Piece}},
	{Name: "stir in cold", Do: Mix, Minutes: 2, Fits: []pantry.Behaviour{pantry.Flour, pantry.Egg, pantry.Grain}},
	{Name: "melt and strain", Do: Melt, Minutes: 8, Fits: []pantry.Behaviour{pantry.Dissolves}},
	{Name: "steam", Do: Steam, Minutes: 15, Fits: []pantry.Behaviour{pantry.Tissue, pantry.Grain}},
	{Name: "wash", Do: Prep, What: "wash", Minutes: 2, Fits: anyPiece},
	{Name: "grate", Do: Prep, What: "grate", Minutes: 6, Fits: anyPiece},
	{Name: "cut", Do: Prep, What: "cut", Minutes: 5, Fits: anyPiece},
	{Name: "peel", Do: Prep, What: "peel", Minutes: 4, Fits: anyPiece},
	{Name: "squeeze out juice", Do: Squeeze, Pct: 15, Minutes: 3, Fits: []pantry.Behaviour{pantry.Tissue}, OnPart: true},
	{Name: "grind to granules", Do: Grind, To: "granules", Minutes: 3, Fits: []pantry.Behaviour{pantry.Grain}, OnPart: true},
	{Name: "grind to a paste", Do: Grind, To: "paste", Minutes: 5, Fits: []pantry.Behaviour{pantry.Grain, pantry.Tissue, pantry.Piece},
		OnPart: true},
}

// Preparations lists what can be done with a single item.
func Preparations() []Preparation { return slices.Clone(preparations) }

// Faults of preparing.
var (
	ErrNoPreparation = measure.Code("plan.no-preparation")
	ErrNoItem        = measure.Code("plan.no-item")
	ErrDoesNotFit    = measure.Code("plan.does-not-fit")
	ErrNeedsLiquid   = measure.Code("plan.needs-liquid")
	ErrNeedsPart     = measure.Code("plan.needs-part")
)

// Prepare puts a preparation before everything else and its part in the place
// of the item. An item that is a part of its own already is worked on further.
// Errors: ErrNoPreparation, ErrNoItem, ErrDoesNotFit, ErrNeedsLiquid,
// ErrNeedsPart.
func (p *Plan) Prepare(step, item int, name string, minutes measure.Minute) error {
	k := slices.IndexFunc(preparations, func(q Preparation) bool { return q.Name == name })
	if k < 0 {
		return ErrNoPreparation
	}
	if step < 0 || step >= len(p.Steps) || item < 0 || item >= len(p.Steps[step].Items) {
		return ErrNoItem
	}
	if do := p.Steps[step].Do; do != Add && do != Mix && do != Fry {
		return ErrNoItem
	}
	q, it := preparations[k], p.Steps[step].Items[item]
	if it.Part != "" {
		return p.prepareFurther(it.Part, q, minutes)
	}
	material, ok := p.Pantry().Material(it.Material)
	if !ok || it.AboveMM > 0 {
		return ErrNoItem
	}
	if !slices.Contains(q.Fits, material.Behaviour) {
		return ErrDoesNotFit
	}
	frying := it.Minutes
	it.Minutes = nil
	items := []Item{it}
	if q.Do == Mix {
		liquid, ok := p.someLiquid(step)
		if !ok {
			return ErrNeedsLiquid
		}
		items = append(items, liquid)
	}
	part := p.FreePart(it.Material)
	first := Step{Do: q.Do, What: q.What, Name: part, Items: items, Minutes: &minutes}
	p.Steps[step].Items[item] = Item{Part: part, Minutes: frying}
	p.renameTarget(it.Material, part)
	if !q.OnPart || q.Do == Roast {
		p.InsertStep(0, first)
		return nil
	}
	// Grinding and squeezing work on a part: it is made by washing it first.
	wash := measure.Minute(2)
	p.InsertStep(0, Step{Do: Prep, What: "wash", Name: part, Items: items, Minutes: &wash})
	p.InsertStep(1, q.on(part, minutes))
	return nil
}

func (q Preparation) on(part string, minutes measure.Minute) Step {
	s := Step{Do: q.Do, What: q.What, Of: part, To: q.To, Minutes: &minutes}
	if q.Pct > 0 {
		pct := q.Pct
		s.Pct = &pct
	}
	return s
}

// prepareFurther works on a part that is made already.
func (p *Plan) prepareFurther(part string, q Preparation, minutes measure.Minute) error {
	if q.Do == Mix || q.Do == Fry || q.Do == Melt {
		return ErrNeedsPart
	}
	last := -1
	for i := range p.Steps {
		s := &p.Steps[i]
		if s.Do.IsPreparation() && (s.Name == part || s.Of == part) {
			last = i
		}
	}
	if last < 0 {
		return ErrNoItem
	}
	p.InsertStep(last+1, q.on(part, minutes))
	return nil
}

// someLiquid takes a fifth of the first liquid that goes in with a step, or
// before it, for stirring something into.
func (p *Plan) someLiquid(step int) (Item, bool) {
	for i := step; i >= 0; i-- {
		if p.Steps[i].Do != Add || p.Steps[i].PotName() != p.Steps[step].PotName() {
			continue
		}
		for j := range p.Steps[i].Items {
			it := &p.Steps[i].Items[j]
			material, ok := p.Pantry().Material(it.Material)
			amount, err := measure.ParseAmount(it.Amount)
			if !ok || err != nil || material.Behaviour != pantry.Liquid {
				continue
			}
			back := *it
			back.Amount, back.Also = amount.Scale(SlurryShare).String(), ""
			it.Amount, it.Also = amount.Scale(1-SlurryShare).String(), ""
			return back, true
		}
	}
	return Item{}, false
}

// renameTarget lets targets of doneness follow a grain that became a part.
func (p *Plan) renameTarget(from, to string) {
	for i := range p.Steps {
		if u := p.Steps[i].Until; u != nil && u.Doneness != nil && u.Doneness.Of == from {
			u.Doneness.Of = to
		}
	}
}

// Unprepare takes a preparation out again. One that works on a part just goes; one that
// made a part gives what it took back to where the part was used, if that is all of it in
// one place. It reports whether it could.
func (p *Plan) Unprepare(step int) bool {
	if step < 0 || step >= len(p.Steps) || !p.Steps[step].Do.IsPreparation() {
		return false
	}
	s := p.Steps[step]
	if s.Of == "" {
		if len(s.Items) == 0 || s.Do == Press || slices.ContainsFunc(p.Steps,
			func(other Step) bool { return other.Of == s.Name && other.Do.IsPreparation() }) {
			return false
		}
		user, place, used := -1, -1, 0
		for i := range p.Steps {
			if p.Steps[i].takes([]string{s.Name, FatOf(s.Name)}) {
				used++
			}
			for j, item := range p.Steps[i].Items {
				if item.Part == s.Name && item.Portion() == 1 {
					user, place = i, j
				}
			}
		}
		if used != 1 || user < 0 {
			return false
		}
		back := slices.Clone(s.Items)
		if s.Fat != nil {
			back = append(back, *s.Fat)
		}
		if frying := p.Steps[user].Items[place].Minutes; frying != nil && len(back) == 1 {
			back[0].Minutes = frying
		}
		p.Exchange(user, place, back)
		for _, item := range s.Items {
			if m, ok := p.Pantry().Material(item.Material); ok && m.Kinetics != nil {
				p.renameTarget(s.Name, item.Material)
				break
			}
		}
	}
	if !p.MoveStep(step, len(p.Steps)-1) {
		return false
	}
	p.Steps = p.Steps[:len(p.Steps)-1]
	return true
}

// Household says a mass in the cook's own measures, and in ounces and pounds
// where the kitchen wants them; "" when neither can be measured.
func (p *Plan) Household(mass measure.Gram, m *pantry.Material) string {
	return Home{Measures: p.Measures, US: p.us}.Household(mass, m)
}

// Household says a mass in the measures of a kitchen, as for a plan in it.
func (h Home) Household(mass measure.Gram, m *pantry.Material) string {
	own := h.Measures.Household(mass, m.Body())
	if !h.US {
		return own
	}
	ounces := measure.Ounces(mass)
	switch {
	case own == "":
		return ounces
	case ounces == "":
		return own
	}
	return ounces + ", " + own
}

// SlurryShare is how much of the first liquid is kept back to stir flour and
// egg into: enough to make a thin batter.
const SlurryShare = 0.2
