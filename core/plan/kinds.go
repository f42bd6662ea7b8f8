package plan

import (
	"slices"

	"kirdu/core/measure"
	"kirdu/core/vessel"
)

// What a new step is of.
type StepTakes int

// The ways in which a new step takes something.
const (
	TakesNothing  StepTakes = iota
	TakesMaterial           // a material and its amount
	TakesPart               // a part, or what another pot holds
)

// A StepKind is a step that can be put into a plan, as it usually is.
type StepKind struct {
	Name  string // "bring to the boil"
	Takes StepTakes
	// Prepares is set of what is prepared beside the pots: the part that it makes goes in
	// behind the step that it is put after, or it works on a part that is there.
	Prepares bool
	make     func(serves int) Step
}

// Verb is what the step does.
func (k StepKind) Verb() Verb { return k.make(1).Do }

// A NewStep is where a step is put, in which pot, and of what. A nil item takes nothing.
type NewStep struct {
	After int    // the step that it comes after
	Pot   string // "": that of the step before
	Item  *Item
}

// Faults of new steps.
var (
	ErrNoPlace  = measure.Code("plan.no-place")
	ErrNeedItem = measure.Code("plan.need-item")
	ErrNeedPart = measure.Code("plan.need-part")
)

// Put puts a step of a kind into the plan. Errors: ErrNoPlace, ErrNeedItem, ErrNeedPart.
func (p *Plan) Put(kind StepKind, at NewStep) error {
	if at.After < 0 || at.After >= len(p.Steps) {
		return ErrNoPlace
	}
	pot := at.Pot
	if before := &p.Steps[at.After]; pot == "" && !before.Do.IsPreparation() {
		pot = before.PotName()
	} else if pot == "" {
		pot = p.Served()[0]
	}
	if pot == MainPot {
		pot = ""
	}
	s := kind.make(p.Serves)
	switch {
	case kind.Takes == TakesMaterial && (at.Item == nil || at.Item.Material == ""):
		return ErrNeedItem
	case kind.Takes == TakesPart && (at.Item == nil || at.Item.Part == "" && (at.Item.Pot == "" || kind.Prepares)):
		return ErrNeedPart
	case kind.Takes == TakesPart && kind.Prepares: // works on what is there
		s.Of = at.Item.Part
		p.InsertStep(p.beforeTakers(s.Of, at.After+1), s)
		return nil
	case kind.Takes != TakesNothing:
		s.Items = []Item{*at.Item}
	}
	if !kind.Prepares {
		s.Pot = pot
		p.halve(&s, at.After+1)
		p.InsertStep(at.After+1, s)
		p.servePoured(&s)
		p.Carry(at.After+1, at.After+1)
		return nil
	}
	s.Name = p.FreePart(s.Name)
	if at.Item != nil && at.Item.Material != "" {
		s.Name = p.FreePart(at.Item.Material)
	}
	into := s.Name
	if s.Do == Press {
		into += ".1"
	}
	p.InsertStep(at.After+1, s)
	p.InsertStep(at.After+2, Step{Do: Add, Pot: pot, Items: []Item{{Part: into}}})
	return nil
}

// servePoured lets what a pot that is served is poured into come to the table instead.
func (p *Plan) servePoured(s *Step) {
	for _, item := range s.Items {
		at := slices.Index(p.Served(), item.Pot)
		if item.Pot == "" || at < 0 || item.Portion() < 1 {
			continue
		}
		served := slices.Clone(p.Served())
		served[at] = s.PotName()
		p.ServedFrom = PotNames(served)
	}
}

// halve lets a new step share with the one that takes all of a part: half now, half later.
func (p *Plan) halve(s *Step, place int) {
	if s.Do != Add || len(s.Items) != 1 || s.Items[0].Part == "" || s.Items[0].Share != nil {
		return
	}
	for i := range p.Steps {
		for j := range p.Steps[i].Items {
			item := &p.Steps[i].Items[j]
			switch {
			case item.Part != s.Items[0].Part || item.Share != nil && *item.Share < 1:
			case i < place:
				item.Share = new(0.5)
			default:
				s.Items[0].Share = new(0.5)
			}
		}
	}
}

// beforeTakers returns where work on a part stands: before the first step that takes it, or
// at a place if none does.
func (p *Plan) beforeTakers(part string, place int) int {
	first := slices.IndexFunc(p.Steps, func(s Step) bool { return s.takes([]string{part}) })
	if first < 0 {
		return place
	}
	return first
}

// PutPart lets a step of a pot take a part that nothing takes yet; what makes it comes
// before it. It reports whether there are such a step and such a part.
func (p *Plan) PutPart(part string, into int) bool {
	if p.Maker(part) < 0 || into < 0 || into >= len(p.Steps) || p.Steps[into].Do != Add {
		return false
	}
	p.Steps[into].Items = append(slices.Clone(p.Steps[into].Items), Item{Part: part})
	return p.Carry(into, into)
}

// stepKinds are the steps of a pot, and what is prepared beside it. Times and flames are
// those that a practised cook would begin with.
var stepKinds = []StepKind{
	{"put something in", TakesMaterial, false, func(int) Step { return Step{Do: Add} }},
	{"put in a part, or what another pot holds", TakesPart, false, func(int) Step { return Step{Do: Add} }},
	{"bring to the boil", TakesNothing, false, func(int) Step {
		return Step{Do: Heat, Flame: vessel.High, Stir: StirOften, Until: &Until{Boil: true}}
	}},
	{"simmer", TakesNothing, false, func(int) Step {
		return Step{Do: Heat, Flame: vessel.Simmer, Stir: StirOften, Until: &Until{Minutes: new(usualSimmer)}}
	}},
	{"reduce to a mark", TakesNothing, false, func(int) Step {
		remaining := 80.0
		return Step{Do: Heat, Flame: vessel.Boil, Stir: StirOften, Until: &Until{RemainingPct: &remaining}}
	}},
	{"warm to a temperature", TakesNothing, false, func(int) Step {
		to := measure.Celsius(80)
		return Step{Do: Heat, Flame: vessel.MediumLow, Stir: StirOften, Until: &Until{TempC: &to}}
	}},
	{"stand off the flame", TakesNothing, false, func(int) Step {
		return Step{Do: Heat, Flame: vessel.Off, Stir: StirNone, Until: &Until{Minutes: new(measure.Minute(2))}}
	}},
	{"cook under pressure", TakesNothing, false, func(int) Step { return Step{Do: Pressure, Whistles: 2} }},
	{"bake", TakesNothing, false, func(int) Step {
		at := measure.Celsius(160)
		return Step{Do: Bake, BakeIn: InOven, OvenC: &at, Minutes: new(measure.Minute(45))}
	}},
	{"mash", TakesNothing, false, func(int) Step { share := 30.0; return Step{Do: Mash, Pct: &share} }},
	{"drain", TakesNothing, false, func(int) Step { return Step{Do: Drain} }},
	{"rest", TakesNothing, false, func(int) Step { return Step{Do: Rest, Minutes: new(measure.Minute(10))} }},
	{"cool down", TakesNothing, false, func(int) Step { to := measure.Celsius(25); return Step{Do: Cool, ToC: &to, Where: WaterBath} }},
	{"keep hot", TakesNothing, false, func(int) Step {
		at := measure.Celsius(65)
		return Step{Do: Hold, Minutes: new(measure.Minute(30)), TempC: &at}
	}},
	{"chill", TakesNothing, false, func(int) Step { hours := ChillHours; return Step{Do: Chill, Hours: &hours} }},
	{"brown sugar dry", TakesMaterial, false, func(int) Step { return Step{Do: Caramel, Until: &Until{Browning: "light"}} }},
	{"share out in bowls", TakesNothing, false, func(serves int) Step { return Step{Do: Portion, Bowls: serves} }},
	{"cut in slices", TakesNothing, false, func(serves int) Step { return Step{Do: Portion, Slices: 2 * serves} }},
	{"prepare: wash, cut, peel, grate", TakesMaterial, true, func(int) Step {
		return Step{Do: Prep, What: "wash", Minutes: new(measure.Minute(2))}
	}},
	{"prepare: soak", TakesMaterial, true, func(int) Step { return Step{Do: Soak, Minutes: new(measure.Minute(30))} }},
	{"prepare: roast", TakesMaterial, true, func(int) Step { return Step{Do: Roast, Minutes: new(measure.Minute(4))} }},
	{"prepare: fry a garnish", TakesMaterial, true, func(int) Step {
		return Step{Do: Fry, Fat: &Item{Material: "ghee", Amount: "1 tbsp"}}
	}},
	{"prepare: stir together cold", TakesMaterial, true, func(int) Step { return Step{Do: Mix, Minutes: new(measure.Minute(2))} }},
	{"prepare: melt a syrup", TakesMaterial, true, func(int) Step { return Step{Do: Melt} }},
	{"prepare: steam", TakesMaterial, true, func(int) Step { return Step{Do: Steam, Minutes: new(measure.Minute(15))} }},
	{"prepare: press coconuts", TakesNothing, true, func(int) Step {
		return Step{Do: Press, Name: "coconut", Coconuts: 1, Presses: []PressOf{{WaterML: 250}}}
	}},
	{"prepare: grind a part", TakesPart, true, func(int) Step { return Step{Do: Grind, To: Granules} }},
	{"prepare: squeeze juice out of a part", TakesPart, true, func(int) Step { share := 15.0; return Step{Do: Squeeze, Pct: &share} }},
}

// StepKinds lists the steps that can be put into a plan.
func StepKinds() []StepKind { return append([]StepKind{}, stepKinds...) }

// StepKindNamed finds a kind by its name.
func StepKindNamed(name string) (StepKind, bool) {
	for _, k := range stepKinds {
		if k.Name == name {
			return k, true
		}
	}
	return StepKind{}, false
}
