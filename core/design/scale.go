package design

import (
	"cmp"
	"maps"
	"math"
	"slices"

	"kirdu/core/forecast"
	"kirdu/core/measure"
	"kirdu/core/pantry"
	"kirdu/core/plan"
	"kirdu/core/vessel"
	"kirdu/core/watch"
)

// ErrNoMark is the fault of a plan without a reduction that could be moved.
var ErrNoMark = measure.Code("design.no-mark")

// A Kit is the pots and burners that a pudding may move to.
type Kit struct {
	Pots    []vessel.Pot
	Burners []vessel.Burner
}

// An Outcome is what a plan comes to, in the figures that must not change when
// it is made for more people.
type Outcome struct {
	Bowls     int
	Thickness float64 // grade as served
	Sweet     float64 // per cent
	Done      float64 // of the grain that is farthest from what it was,
	Part      string  // and its name
	Minutes   float64
	HandsOn   float64
	YieldG    float64
	Fill      float64 // highest level over the height of the pot, 0 to 1
	Overfull  bool    // above the safe headspace
	Missed    bool    // a target is never reached, or the pot boils dry
}

// A Scaled is one way of making a pudding for more or fewer people.
type Scaled struct {
	Kind    ScaleKind
	With    Means
	Plan    *plan.Plan
	Outcome Outcome
}

// Means are what a way of scaling takes that the pudding did not.
type Means struct {
	Pot          string
	Burner       string
	Flame        vessel.Flame
	ReducedFirst bool // over another burner: the milk alone
}

// ScaleKind says what is done differently.
type ScaleKind string

// The kinds of scaling. The first two are what plain multiplication gives.
const (
	ByTheClock  ScaleKind = "by the clock" // every amount multiplied, the same minutes
	ToTheMark   ScaleKind = "to the mark"  // multiplied, waited out until it is as thick
	ReduceFirst ScaleKind = "reduce first" // the milk alone, and the grain in later
	OtherPot    ScaleKind = "other pot"
	OtherBurner ScaleKind = "other burner"
	OtherFlame  ScaleKind = "other flame"
	TwoPots     ScaleKind = "two pots"
	LessMilk    ScaleKind = "less milk"
	JustAmounts ScaleKind = "amounts only"
)

// A Scaling compares plain multiplication with what keeps the pudding.
type Scaling struct {
	Before    Outcome
	Clock     Scaled
	Mark      Scaled
	Proposals []Scaled // the least extra minutes first
}

// How near a proposal must come.
const (
	nearThickness = 0.2 // grades
	nearSweet     = 0.3 // per cent
	nearDone      = 0.3
)

// safeFill is how high dairy may stand at the boil, as a share of the height
// of the pot, and fullFill what any pot may. Source: the model, section 9.
const (
	safeFill = 0.60
	fullFill = 0.75
)

// Scale makes a plan for another number of bowls: as plain multiplication
// would, by the clock and to the mark, and in the ways that keep thickness,
// sweetness and doneness in a pot with safe headspace. There may be none.
// Errors: ErrNoMark.
func Scale(p *plan.Plan, bowls int, kit Kit) (Scaling, error) {
	base := markedByMass(p)
	if base == nil {
		return Scaling{}, ErrNoMark
	}
	before := forecast.Run(p, forecast.Options{NominalOnly: true})
	s := scaler{plan: p, before: before, goal: outcome(p, before, before)}
	result := Scaling{Before: s.goal}

	clock := byTheClock(p, before)
	clock.Scale(bowls)
	result.Clock = s.finish(ByTheClock, Means{}, clock)
	mark := p.Clone()
	mark.Scale(bowls)
	result.Mark = s.finish(ToTheMark, Means{}, mark)

	grown := base.Clone()
	grown.ScaleWithTaste(bowls)
	for _, proposal := range s.proposals(grown, kit) {
		// Waiting for the mark is always to be had; a proposal must not take much
		// longer.
		const longest = 1.2
		if proposal.Outcome.Minutes < longest*result.Mark.Outcome.Minutes {
			result.Proposals = append(result.Proposals, proposal)
		}
	}
	return result, nil
}

// A scaler looks for plans that come to the same outcome.
type scaler struct {
	plan   *plan.Plan // as it was
	before *forecast.Forecast
	goal   Outcome
}

func (s *scaler) proposals(grown *plan.Plan, kit Kit) []Scaled {
	var found []Scaled
	offer := func(kind ScaleKind, with Means, p *plan.Plan) bool {
		if p == nil {
			return false
		}
		done := s.finish(kind, with, p)
		if !s.near(done.Outcome) {
			return false
		}
		found = append(found, done)
		return true
	}
	pots := s.pots(grown, kit)
	for _, pot := range pots {
		in := inPot(grown, pot.Pot)
		kind, means := OtherPot, Means{Pot: pot.name}
		if !pot.other {
			kind, means = JustAmounts, Means{}
		}
		// What changes least is tried first, in each pot that holds it all.
		offer(kind, means, s.match(in))
		offer(ReduceFirst, means, s.turn(in, reduceFirst))
		offer(LessMilk, means, s.turn(in, lessMilk))
		for _, flame := range otherFlames(in) {
			if offer(OtherFlame, Means{Pot: means.Pot, Flame: flame}, s.match(withFlame(in, flame))) {
				break
			}
		}
		for _, burner := range kit.Burners {
			if burner.Name == in.Burner.Name || full(burner) <= full(in.Burner) {
				continue
			}
			hotter := in.Clone()
			hotter.Burner = burner
			_ = offer(OtherBurner, Means{Pot: means.Pot, Burner: burner.Name}, s.match(hotter)) ||
				offer(OtherBurner, Means{Pot: means.Pot, Burner: burner.Name, ReducedFirst: true}, s.turn(hotter, reduceFirst))
		}
	}
	offer(TwoPots, Means{}, s.twoPots(grown, kit))
	return choose(found)
}

func full(b vessel.Burner) measure.Watt {
	power, _ := b.Power(vessel.High, 0)
	return power
}

// choose keeps the quickest proposal of each kind, the quickest first.
func choose(found []Scaled) []Scaled {
	slices.SortStableFunc(found, func(a, b Scaled) int { return cmp.Compare(a.Outcome.Minutes, b.Outcome.Minutes) })
	var chosen []Scaled
	for _, f := range found {
		if !slices.ContainsFunc(chosen, func(c Scaled) bool { return c.Kind == f.Kind }) {
			chosen = append(chosen, f)
		}
	}
	return chosen
}

// A choice of pot for the whole pudding.
type potChoice struct {
	vessel.Pot
	name  string
	other bool
}

// pots lists the pots that hold the whole with safe headspace, the plan's own
// first.
func (s *scaler) pots(p *plan.Plan, kit Kit) []potChoice {
	const most = 3
	own := p.Pots[plan.MainPot]
	var fit []potChoice
	if s.fits(inPot(p, own)) {
		fit = append(fit, potChoice{own, own.Name, false})
	}
	for _, pot := range bySize(kit.Pots) {
		if pot.Name == own.Name && pot.Capacity() == own.Capacity() {
			continue
		}
		if len(fit) < most && s.fits(inPot(p, pot)) {
			fit = append(fit, potChoice{pot, pot.Name, true})
		}
	}
	return fit
}

func bySize(pots []vessel.Pot) []vessel.Pot {
	sorted := slices.Clone(pots)
	slices.SortStableFunc(sorted, func(a, b vessel.Pot) int { return cmp.Compare(a.Capacity(), b.Capacity()) })
	return sorted
}

func (s *scaler) fits(p *plan.Plan) bool {
	return !outcome(p, forecast.Run(p, forecast.Options{CourseOnly: true}), s.before).Overfull
}

func inPot(p *plan.Plan, pot vessel.Pot) *plan.Plan {
	in := p.Clone()
	pot.Burner = in.Pots[plan.MainPot].Burner
	in.Pots[plan.MainPot] = pot
	return in
}

// near reports whether an outcome is as good as the one before.
func (s *scaler) near(o Outcome) bool {
	return !o.Missed && !o.Overfull && math.Abs(o.Thickness-s.goal.Thickness) <= nearThickness &&
		math.Abs(o.Sweet-s.goal.Sweet) <= nearSweet && math.Abs(o.Done-s.goal.Done) <= nearDone
}

func (s *scaler) finish(kind ScaleKind, with Means, p *plan.Plan) Scaled {
	p.Measurable(s.plan)
	return Scaled{kind, with, p, outcome(p, forecast.Run(p, forecast.Options{NominalOnly: true}), s.before)}
}

// outcome reads the figures of a forecast. Done is that of the part which is
// farthest from its doneness in the plan before.
func outcome(p *plan.Plan, f, before *forecast.Forecast) Outcome {
	o := Outcome{Bowls: p.Serves, Sweet: f.Sweetness.Pct.Value, Minutes: f.Time.TotalMin.Value, HandsOn: f.Time.HandsOnMin.Value,
		YieldG: f.Yield.MassG.Value}
	if grade := f.Thickness.As(p.Serve); grade != nil {
		o.Thickness = grade.Value
	}
	farthest := -1.0
	for _, name := range slices.Sorted(maps.Keys(f.Doneness)) {
		if miss := math.Abs(f.Doneness[name].Value - before.Doneness[baseName(name, before)].Value); miss > farthest {
			farthest, o.Done, o.Part = miss, f.Doneness[name].Value, name
		}
	}
	o.Missed = watch.BoilsDry(p, f)
	for _, t := range f.Trace {
		o.Fill = max(o.Fill, t.PeakFill)
		o.Missed = o.Missed || t.NeverReached || t.Weak.Seen
		o.Overfull = o.Overfull || t.PeakBoilFill > safeFill || t.PeakFill > fullFill
	}
	return o
}

// secondSuffix marks the parts and the pot of the second half of two pots.
const secondSuffix = " in the second pot"

// baseName returns the name that a part of the second pot had before.
func baseName(name string, before *forecast.Forecast) string {
	if _, known := before.Doneness[name]; known {
		return name
	}
	if cut := len(name) - len(secondSuffix); cut > 0 && name[cut:] == secondSuffix {
		return name[:cut]
	}
	return name
}

// markStep returns the last step that reduces the served pot before it is
// finished, -1 if there is none: where the thickness is decided.
func markStep(p *plan.Plan) int {
	for i := len(p.Steps) - 1; i >= 0; i-- {
		s := &p.Steps[i]
		if s.Do == plan.Heat && s.PotName() == plan.MainPot && (s.Until.RemainingPct != nil || s.Until.MassG != nil) {
			return i
		}
	}
	// Without a mark, the longest stretch over the flame decides.
	longest, at := measure.Minute(0), -1
	for i := range p.Steps {
		s := &p.Steps[i]
		if s.Do == plan.Heat && s.PotName() == plan.MainPot && s.Burns() && !s.Lidded() && s.Until.Minutes != nil &&
			*s.Until.Minutes > longest {
			longest, at = *s.Until.Minutes, i
		}
	}
	return at
}

// markedByMass writes the mark of a plan as a mass, nil if it has no mark.
func markedByMass(p *plan.Plan) *plan.Plan {
	at := markStep(p)
	if at < 0 {
		return nil
	}
	f := forecast.Run(p, forecast.Options{CourseOnly: true})
	marked := p.Clone()
	mass := measure.Gram(*f.Steps[at].MassG)
	marked.Steps[at].Until = &plan.Until{MassG: &mass}
	return marked
}

// byTheClock gives every step over the flame the minutes it takes now.
func byTheClock(p *plan.Plan, f *forecast.Forecast) *plan.Plan {
	timed := p.Clone()
	for i := range timed.Steps {
		if s := &timed.Steps[i]; s.Do == plan.Heat && !s.Until.Boil {
			minutes := measure.Minute(f.Steps[i].EndMin - f.Steps[i].StartMin)
			s.Until = &plan.Until{Minutes: &minutes}
		}
	}
	return timed
}

// match sets the mark and the sweetener so that thickness and sweetness are
// what they were. It returns nil when no mark does.
func (s *scaler) match(p *plan.Plan) *plan.Plan {
	m := p.Clone()
	at := markStep(m)
	if at < 0 {
		return nil
	}
	// The less is left, the thicker: the mark is bracketed and halved. Sweetness
	// follows gram for gram and is set anew in each round.
	const rounds, lowest, highest, closeGrade, closeSweet = 14, 0.55, 1.6, 0.01, 0.02
	start := float64(*m.Steps[at].Until.MassG)
	low, high := lowest*start, highest*start
	for range rounds {
		mass := measure.Gram((low + high) / 2)
		m.Steps[at].Until = &plan.Until{MassG: &mass}
		o := s.sweeten(m)
		if math.Abs(o.Thickness-s.goal.Thickness) < closeGrade && math.Abs(o.Sweet-s.goal.Sweet) < closeSweet {
			break
		}
		if o.Thickness > s.goal.Thickness {
			low = float64(mass)
		} else {
			high = float64(mass)
		}
	}
	tidy(m, at)
	return m
}

// sweeten runs a plan and sets its sweeteners for the next round.
func (s *scaler) sweeten(p *plan.Plan) Outcome {
	o := outcome(p, forecast.Run(p, forecast.Options{NominalOnly: true}), s.before)
	present := 0.0
	for i := range p.Steps {
		if p.Sweetens(i) {
			for _, item := range p.Steps[i].Items {
				if material, mass, err := p.Weigh(item); err == nil && material.Kind == "sweetener" {
					present += float64(mass) * material.Sweetness()
				}
			}
		}
	}
	const least, most = 0.3, 3
	factor := 1 + measure.Ratio((s.goal.Sweet-o.Sweet)/100*o.YieldG, present)
	p.ScaleSweeteners(min(max(factor, least), most))
	return o
}

// ComeOutLike sets mark and sugar of a plan so that it comes out as another one
// does, and says how that one and it come out. A plan without a mark, or that
// cannot be matched, stays as it is.
func ComeOutLike(p, other *plan.Plan) (matched *plan.Plan, before, after Outcome) {
	f := forecast.Run(other, forecast.Options{NominalOnly: true})
	s := scaler{plan: other, before: f, goal: outcome(other, f, f)}
	if marked := markedByMass(p); marked != nil {
		if found := s.match(marked); found != nil {
			p = found
		}
	}
	return p, s.goal, s.finish("", Means{}, p).Outcome
}

// tidy rounds the mark to what a scale is read to.
func tidy(p *plan.Plan, at int) {
	mass := measure.Weighable(*p.Steps[at].Until.MassG)
	p.Steps[at].Until = &plan.Until{MassG: &mass}
}

// A knob changes a plan by a share from 0, not at all, to 1. The more, the
// less time the grain has in the pot.
type knob func(p *plan.Plan, share float64) *plan.Plan

// turn turns a knob until the grain is as done as it was, nil if it cannot.
func (s *scaler) turn(p *plan.Plan, k knob) *plan.Plan {
	if k(p, 0) == nil {
		return nil
	}
	const rounds, closeDone = 10, 0.02
	low, high := 0.0, 1.0
	var best *plan.Plan
	least := math.Inf(1)
	for range rounds {
		share := (low + high) / 2
		tried := s.match(k(p, share))
		if tried == nil {
			return nil
		}
		o := outcome(tried, forecast.Run(tried, forecast.Options{NominalOnly: true}), s.before)
		miss := o.Done - s.goal.Done
		if o.Missed {
			high = share // so little is left that the mark cannot be reached
			continue
		}
		if math.Abs(miss) < least {
			best, least = tried, math.Abs(miss)
		}
		if math.Abs(miss) < closeDone {
			break
		}
		if miss > 0 {
			low = share
		} else {
			high = share
		}
	}
	return best
}

// cookingStep returns the step that brings the grain into the served pot, -1
// if it cannot be told.
func cookingStep(p *plan.Plan) int {
	mark := markStep(p)
	for i := 0; i < mark; i++ {
		s := &p.Steps[i]
		if s.Do != plan.Add || s.PotName() != plan.MainPot {
			continue
		}
		for _, item := range s.Items {
			if cooks(p, item) {
				return i
			}
		}
	}
	return -1
}

// cooks reports whether an item is a grain, a vegetable or a part made of one.
func cooks(p *plan.Plan, item plan.Item) bool {
	if item.Part != "" {
		return true
	}
	material, ok := p.Pantry().Material(item.Material)
	return ok && material.Kinetics != nil
}

// reduceFirst lets the milk boil down alone by up to half before the grain
// goes in; nil for a plan without a grain that goes into a liquid.
func reduceFirst(p *plan.Plan, share float64) *plan.Plan {
	g := cookingStep(p)
	if g < 0 {
		return nil
	}
	r := p.Clone()
	var liquid, rest []plan.Item
	for _, item := range r.Steps[g].Items {
		if cooks(p, item) {
			rest = append(rest, item)
		} else {
			liquid = append(liquid, item)
		}
	}
	steps := slices.Clone(r.Steps[:g])
	if len(liquid) > 0 {
		steps = append(steps, plan.Step{Do: plan.Add, Note: r.Steps[g].Note, Items: liquid})
	}
	if !hasLiquid(r, steps) {
		return nil
	}
	const most = 0.5 // of what goes in
	remaining := 100 * (1 - most*max(share, 0.01))
	boil := plan.Step{Do: plan.Heat, Flame: vessel.High, Stir: plan.StirOften, Until: &plan.Until{Boil: true}}
	boiled := slices.ContainsFunc(steps, func(s plan.Step) bool { return s.Do == plan.Heat && s.Until.Boil })
	if !boiled {
		steps = append(steps, boil)
	}
	steps = append(steps,
		plan.Step{Do: plan.Heat, Flame: vessel.High, Stir: plan.StirOften, Note: "The milk alone, so that the grain does not cook so long.",
			Until: &plan.Until{RemainingPct: &remaining}},
		plan.Step{Do: plan.Add, Items: rest})
	grown := len(steps) - g - 1
	for i := g + 1; i < len(r.Steps); i++ {
		s := r.Steps[i]
		if s.Until != nil && s.Until.OfStep != nil && *s.Until.OfStep > g {
			of := *s.Until.OfStep + grown
			until := *s.Until
			until.OfStep = &of
			s.Until = &until
		}
		steps = append(steps, s)
	}
	r.Steps = steps
	return r
}

func hasLiquid(p *plan.Plan, steps []plan.Step) bool {
	for i := range steps {
		if steps[i].Do != plan.Add || steps[i].PotName() != plan.MainPot {
			continue
		}
		for _, item := range steps[i].Items {
			if material, ok := p.Pantry().Material(item.Material); ok && material.Behaviour == pantry.Liquid {
				return true
			}
		}
	}
	return false
}

// lessMilk takes up to half of the liquids that go in before the mark away.
func lessMilk(p *plan.Plan, share float64) *plan.Plan {
	const most = 0.5
	less := p.Clone()
	mark := markStep(less)
	changed := false
	for i := 0; i < mark; i++ {
		s := &less.Steps[i]
		if s.Do != plan.Add || s.PotName() != plan.MainPot {
			continue
		}
		for j := range s.Items {
			material, ok := less.Pantry().Material(s.Items[j].Material)
			if !ok || material.Behaviour != pantry.Liquid || s.Items[j].AboveMM > 0 {
				continue
			}
			if amount, err := measure.ParseAmount(s.Items[j].Amount); err == nil {
				s.Items[j].Amount, s.Items[j].Also = amount.Scale(1-most*share).String(), ""
				changed = true
			}
		}
	}
	if !changed {
		return nil
	}
	return less
}

// otherFlames lists the flames of the reduction but its own, the nearest first.
func otherFlames(p *plan.Plan) []vessel.Flame {
	at := markStep(p)
	if at < 0 || p.Steps[at].FlamePct != nil {
		return nil
	}
	return around(p.Steps[at].Flame, len(vessel.Marks()))
}

func withFlame(p *plan.Plan, flame vessel.Flame) *plan.Plan {
	changed := p.Clone()
	changed.Steps[markStep(p)].TurnTo(flame)
	return changed
}

// twoPots cooks half in the plan's pot and half in another over another
// burner; nil if the kitchen has no second pot or burner.
func (s *scaler) twoPots(grown *plan.Plan, kit Kit) *plan.Plan {
	if !onePot(grown) {
		return nil
	}
	if grown.Serves < 2 {
		return nil
	}
	one := half(grown, grown.Serves-grown.Serves/2)
	other := half(grown, grown.Serves/2)
	own := grown.Pots[plan.MainPot]
	var second *plan.Plan
	for _, pot := range bySize(kit.Pots) {
		if pot.Name == own.Name && pot.Capacity() == own.Capacity() {
			continue
		}
		for _, burner := range kit.Burners {
			if burner.Name == grown.Burner.Name {
				continue
			}
			tried := inPot(other, pot)
			tried.Burner = burner
			if second = s.best(tried); second != nil {
				break
			}
		}
		if second != nil {
			break
		}
	}
	first := s.best(one)
	if first == nil || second == nil {
		return nil
	}
	return together(first, second, grown.Serves)
}

func half(p *plan.Plan, bowls int) *plan.Plan {
	h := p.Clone()
	h.ScaleWithTaste(bowls)
	return h
}

// onePot reports whether all happens in one pot, so that the whole of it can be
// done twice: side pans, tempering and presses are shared out by hand.
func onePot(p *plan.Plan) bool {
	return len(p.Pots) == 1 && !slices.ContainsFunc(p.Steps, func(s plan.Step) bool {
		return s.Do == plan.Press || slices.ContainsFunc(s.Items, func(item plan.Item) bool { return item.Pot != "" })
	})
}

// best makes one pot come out right, as it is or with the milk reduced first.
func (s *scaler) best(p *plan.Plan) *plan.Plan {
	if !s.fits(p) {
		return nil
	}
	for _, tried := range []*plan.Plan{s.match(p), s.turn(p, reduceFirst), s.turn(p, lessMilk)} {
		if tried != nil && s.near(s.finish("", Means{}, tried).Outcome) {
			return tried
		}
	}
	return nil
}

// together writes two plans as one with two pots that are both served.
func together(first, second *plan.Plan, serves int) *plan.Plan {
	const potTwo = "second"
	p := first.Clone()
	p.Serves = serves
	pot := second.Pots[plan.MainPot]
	pot.Burner = potTwo
	p.Pots[potTwo] = pot
	p.Burners = map[string]vessel.Burner{potTwo: second.Burner}
	p.ServedFrom = plan.PotNames{plan.MainPot, potTwo}
	offset := len(p.Steps)
	for i := range second.Steps {
		s := second.Clone().Steps[i]
		if !s.Do.IsPreparation() {
			s.Pot = potTwo
		}
		rename := func(name *string) {
			if *name != "" {
				*name += secondSuffix
			}
		}
		rename(&s.Name)
		if s.Do.IsPreparation() {
			rename(&s.Of)
		}
		for j := range s.Items {
			rename(&s.Items[j].Part)
		}
		if u := s.Until; u != nil {
			if u.OfStep != nil {
				of := *u.OfStep + offset
				u.OfStep = &of
			}
			if u.Doneness != nil && isPart(second, u.Doneness.Of) {
				u.Doneness.Of += secondSuffix
			}
		}
		p.Steps = append(p.Steps, s)
	}
	return p
}

// isPart reports whether a name is that of a prepared part.
func isPart(p *plan.Plan, name string) bool {
	return slices.ContainsFunc(p.Steps, func(s plan.Step) bool { return s.Do.IsPreparation() && s.Name == name })
}
