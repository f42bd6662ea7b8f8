package timetable

import (
	"slices"

	"kirdu/core/forecast"
	"kirdu/core/plan"
	"kirdu/core/watch"
)

// A use is what a stretch of work needs, in minutes from the start of its block.
type use struct {
	kind     useKind
	name     string // of the pot; "" for the rest
	pan      string // burner: which pan of the plan it is for
	from, to float64
	amount   float64 // hands: 0 to 1; refrigerator: litres
	served   bool    // pot: taken until what is in it is served
}

type useKind int

const (
	useBurner useKind = iota
	usePot
	useOven
	useHands
	useFridge
)

// A block is a pudding on one burner: its pots never wait, so all that happens in
// them keeps its distance. Preparations may be done earlier.
type block struct {
	plan  *plan.Plan
	f     *forecast.Forecast
	total float64 // minutes from its start to its end
	steps []span  // of the plan, from its start
	uses  []use
	preps []prep
	found []watch.Finding // stops and warnings on these burners
}

// A span is minutes from the start of a block.
type span struct{ from, to float64 }

// slipped returns the block with so many minutes more at a minute of it: what goes
// on then takes longer, what comes after follows.
func (b *block) slipped(slips []Slip) *block {
	if len(slips) == 0 {
		return b
	}
	c := *b
	c.uses, c.preps, c.steps = slices.Clone(b.uses), slices.Clone(b.preps), slices.Clone(b.steps)
	for _, slip := range slips {
		shift := func(t *float64) {
			if *t > float64(slip.At) {
				*t = max(*t+float64(slip.By), float64(slip.At))
			}
		}
		shift(&c.total)
		for k := range c.uses {
			shift(&c.uses[k].from)
			shift(&c.uses[k].to)
		}
		for k := range c.steps {
			shift(&c.steps[k].from)
			shift(&c.steps[k].to)
		}
	}
	return &c
}

// A prep is a preparation that may be moved earlier than it need be.
type prep struct {
	step     int
	from, to float64 // as late as it can be
	hands    float64 // minutes that keep the hands busy, from its start
	needed   int     // the prep of the same block that takes it, -1 for none
	earlier  float64 // how much earlier it may be
	burner   bool    // it is done over a flame
	pan      string  // in which pot of the kitchen; "" for any
}

// overFlame are the preparations that are done over a flame.
var overFlame = []plan.Verb{plan.Roast, plan.Fry, plan.Melt, plan.Steam}

// handsOf is what a rhythm of stirring takes of a person: constant stirring all,
// often half. Source: the model, section 12; a pot that is not stirred takes
// none here.
var handsOf = map[plan.Stir]float64{plan.StirConstant: 1, plan.StirOften: 0.5, plan.StirNow: 0.2, plan.StirNone: 0}

// newBlock lays out a plan whose burner is the one it is to be cooked on.
func newBlock(p *plan.Plan) *block {
	b := &block{plan: p, f: forecast.Run(p, forecast.Options{NominalOnly: true})}
	for _, one := range watch.Findings(p, b.f) {
		if one.Severity != forecast.Note {
			b.found = append(b.found, one)
		}
	}
	first, last := map[string]float64{}, map[string]float64{}
	for i := range p.Steps {
		s, r := &p.Steps[i], &b.f.Steps[i]
		b.steps = append(b.steps, span{r.StartMin, r.EndMin})
		b.total = max(b.total, r.EndMin)
		if s.Do.IsPreparation() {
			if s.TakesFromPot() {
				b.uses = append(b.uses, use{kind: useHands, from: r.StartMin, to: r.EndMin, amount: 1})
				continue
			}
			b.preps = append(b.preps, prep{step: i, from: r.StartMin, to: r.EndMin, hands: float64(s.HandsOn()), needed: -1,
				earlier: float64(s.Do.Descriptor().Earlier), burner: slices.Contains(overFlame, s.Do), pan: potName(p, s.Pan)})
			continue
		}
		pot := s.PotName()
		if _, seen := first[pot]; !seen {
			first[pot] = r.StartMin
		}
		last[pot] = r.EndMin
		b.stepUses(s, r, pot)
	}
	for _, pot := range p.PotNamesSorted() {
		from, used := first[pot]
		if !used || last[pot] <= from && b.total <= from {
			continue
		}
		one := use{kind: usePot, name: potName(p, pot), from: from, to: last[pot]}
		if emptied, ok := emptied(p, b.f, pot); ok {
			one.to = max(one.to, emptied)
		} else {
			one.served = true
			one.to = max(one.to, b.total)
		}
		b.uses = append(b.uses, one)
	}
	for k := range b.preps {
		taker := p.Taker(b.preps[k].step)
		b.preps[k].needed = slices.IndexFunc(b.preps, func(q prep) bool { return taker >= 0 && q.step == taker })
	}
	return b
}

// emptied is when a pot is poured out for the last time: into another, or into bowls; false where it is
// served from.
func emptied(p *plan.Plan, f *forecast.Forecast, pot string) (at float64, ok bool) {
	for i := range p.Steps {
		s := &p.Steps[i]
		if s.Do == plan.Portion && s.PotName() == pot {
			at, ok = max(at, f.Steps[i].EndMin), true
		}
		for _, item := range s.Items {
			if item.Pot == pot && s.PotName() != pot {
				at, ok = max(at, f.Steps[i].StartMin), true
			}
		}
	}
	return at, ok
}

// stepUses lists what a step of a pot takes.
func (b *block) stepUses(s *plan.Step, r *forecast.StepResult, pot string) {
	if r.EndMin <= r.StartMin {
		return
	}
	add := func(kind useKind, amount float64) {
		b.uses = append(b.uses, use{kind: kind, pan: pot, from: r.StartMin, to: r.EndMin, amount: amount})
	}
	verb := s.Do.Descriptor()
	if verb.Burner && (s.Do != plan.Heat || s.Burns()) {
		add(useBurner, 0)
	}
	hands := 0.0
	switch {
	case s.Do == plan.Heat && s.Burns():
		hands = handsOf[s.Stirring()]
	case s.Do == plan.Caramel:
		hands = 1
	}
	if hands > 0 {
		add(useHands, hands)
	}
	if s.Do == plan.Bake && (s.BakeIn == plan.InOven || s.BakeIn == "") {
		add(useOven, 0)
	}
	if r.VolumeML != nil && (verb.Fridge || s.Where == plan.Fridge) {
		const perLitre = 1000
		add(useFridge, *r.VolumeML/perLitre)
	}
}

// potName is what a pot is called in a kitchen: by its own name, or the one it
// has in the plan.
func potName(p *plan.Plan, key string) string {
	if name := p.Pots[key].Name; name != "" {
		return name
	}
	return ""
}
