// Package design works backwards: from what a pudding should be to the
// amounts, the reduction and the flame that make it so.
package design

import (
	"cmp"
	"fmt"
	"math"
	"reflect"
	"slices"

	"kirdu/core/forecast"
	"kirdu/core/measure"
	"kirdu/core/numeric"
	"kirdu/core/pantry"
	"kirdu/core/plan"
	"kirdu/core/vessel"
	"kirdu/core/watch"
)

// ErrNoPot reports that there is nothing to cook in.
var ErrNoPot = measure.Code("design.no-pot")

// ErrNoUse reports that no pot of the kitchen may be used for what a way asks.
var ErrNoUse = measure.Code("design.no-use")

// How full a new pudding fills its pot at most, a little below what the
// watchpoints allow: dairy at the boil, a cooker, one with pulses in it, anything.
var (
	milkHeadroom   = watch.FoamRoom.Value - headroom
	cookerHeadroom = watch.CookerRoom.Value - headroom
	pulseHeadroom  = watch.PulseRoom.Value - headroom
	anyHeadroom    = watch.BrimRoom.Value - headroom
)

// headroom is how far below a limit a new pudding stays, as a share of the height.
// Our own judgement: a pot that is stirred, and a burner a little stronger.
const headroom = 0.04

const water = "water"

// mostFresh is how many of the plans found are looked at.
const mostFresh = 6

// A Cannot says why a kitchen cannot cook a new pudding, and for how many bowls it could.
type Cannot struct {
	Rule  watch.ID // what would speak against it
	Bowls int      // that it can cook; 0: none
}

func (e *Cannot) Error() string {
	return fmt.Sprintf("cannot be cooked in this kitchen without %q; up to %d bowls can", e.Rule, e.Bowls)
}

// Fresh returns a new pudding of a way, fitted to the cook's own pots, that no
// stop or warning speaks of. Errors: those of plan.Way.Check by field, ErrNoPot, a *Cannot where every fit
// has a stop or a warning.
func Fresh(choice plan.WayChoice, pots []vessel.Pot) (*plan.Plan, error) {
	p, rule, err := fresh(choice, pots)
	if err != nil || rule == "" {
		return p, err
	}
	cannot := &Cannot{Rule: rule}
	w, _ := plan.WayNamed(choice.Way)
	low, high := max(1, w.Least)-1, choice.Bowls
	for high-low > 1 {
		fewer := choice
		fewer.Bowls = (low + high) / 2
		if _, rule, err := fresh(fewer, pots); err == nil && rule == "" {
			low = fewer.Bowls
		} else {
			high = fewer.Bowls
		}
	}
	if low >= max(1, w.Least) {
		cannot.Bowls = low
	}
	return nil, cannot
}

// fresh returns the best fit, and what still speaks against it.
func fresh(choice plan.WayChoice, pots []vessel.Pot) (*plan.Plan, watch.ID, error) {
	found, err := fits(choice, pots)
	if err != nil {
		return nil, "", err
	}
	var best *plan.Plan
	fewest := math.MaxInt
	for _, one := range found {
		grave, _ := graves(one.plan, forecast.Run(one.plan, forecast.Options{NominalOnly: true}))
		if grave < fewest {
			best, fewest = one.plan, grave
		}
	}
	for _, one := range found {
		if fewest == 0 {
			return best, "", nil
		}
		if p, left := Quiet(one.plan, pots, one.fitter.distance); left < fewest {
			best, fewest = p, left
		}
	}
	for _, one := range watch.Findings(best, forecast.Run(best, forecast.Options{NominalOnly: true})) {
		if one.Severity != forecast.Note {
			return best, one.Rule, nil
		}
	}
	return best, "", nil
}

// A fitted is a plan that meets the aims of its way as nearly as a pot and a flame let it.
type fitted struct {
	plan   *plan.Plan
	cost   float64
	fitter *fitter
}

// fits returns new puddings of a way, the best first, that meet the aims of
// the way in the cook's own pots: of pots and flames it takes those that leave
// the grain as it is liked.
func fits(choice plan.WayChoice, pots []vessel.Pot) ([]fitted, error) {
	w, ok := plan.WayNamed(choice.Way)
	if !ok {
		return nil, measure.Faults{{Field: "way", Err: plan.ErrNoWay}}
	}
	choice, err := w.Check(choice)
	if err != nil {
		return nil, err
	}
	if len(pots) == 0 {
		return nil, ErrNoPot
	}
	var all []fitted
	mains, _ := split(pots)
	if mains = suited(w, choice, mains); len(mains) == 0 {
		return nil, measure.Faults{{Field: "way", Err: ErrNoUse}}
	}
	for _, main := range roomiest(w, choice, mains) {
		choice.Pot = main
		start, err := w.Start(choice)
		if err != nil {
			return nil, err
		}
		furnish(start, main, pots)
		for _, flame := range flamesFor(start, w.Cook) {
			one := &fitter{way: w, choice: choice, part: w.PartOf(choice)}
			p, cost := one.fit(start.Clone(), flame)
			all = append(all, fitted{p, cost, one})
		}
	}
	slices.SortStableFunc(all, func(a, b fitted) int { return cmp.Compare(a.cost, b.cost) })
	return all[:min(len(all), mostFresh)], nil
}

// split sorts pots by what they hold and sets trays apart. A kitchen of trays
// only cooks in them.
func split(pots []vessel.Pot) (deep, trays []vessel.Pot) {
	for _, p := range pots {
		if p.Shape == vessel.Tray {
			trays = append(trays, p)
		} else {
			deep = append(deep, p)
		}
	}
	if len(deep) == 0 {
		deep = slices.Clone(trays)
	}
	for _, list := range [][]vessel.Pot{deep, trays} {
		slices.SortStableFunc(list, func(a, b vessel.Pot) int { return cmp.Compare(a.Capacity(), b.Capacity()) })
	}
	return deep, trays
}

// suited are the pots that may be used for what the way asks of its main pot.
func suited(w plan.Way, choice plan.WayChoice, pots []vessel.Pot) []vessel.Pot {
	var may []vessel.Pot
	for _, pot := range pots {
		unused := pot
		unused.Uses = nil
		choice.Pot = unused
		if p, err := w.Start(choice); err == nil && serves(p, plan.MainPot, pot) {
			may = append(may, pot)
		}
	}
	return may
}

// serves reports whether a pot may be used for what the steps in one of the plan ask.
func serves(p *plan.Plan, name string, pot vessel.Pot) bool {
	for i := range p.Steps {
		s := &p.Steps[i]
		if use, asks := s.Asks(); asks && !s.Do.IsPreparation() && s.PotName() == name && !pot.May(use) {
			return false
		}
	}
	return true
}

// roomiest returns the two smallest pots that the way has room in, or the
// largest one if none has.
func roomiest(w plan.Way, choice plan.WayChoice, sorted []vessel.Pot) []vessel.Pot {
	const most = 2
	for i, pot := range sorted {
		choice.Pot = pot
		if p, err := w.Start(choice); err == nil && crowding(p, forecast.Run(p, forecast.Options{NominalOnly: true})) <= 0 {
			return sorted[i:min(i+most, len(sorted))]
		}
	}
	return sorted[len(sorted)-1:]
}

// crowding returns by how much, as a share of the height, a pot is fuller than
// it should be; 0 or less for one with room.
func crowding(p *plan.Plan, f *forecast.Forecast) float64 {
	over := math.Inf(-1)
	pulses := false
	for i := range p.Steps {
		for _, item := range p.Steps[i].Items {
			if m, ok := p.Pantry().Material(item.Material); ok && m.Kind == "pulse" {
				pulses = true
			}
		}
		trace := f.Trace[i]
		over = max(over, trace.PeakFill-anyHeadroom, trace.PeakBoilFill-milkHeadroom)
		if p.Steps[i].Do == plan.Pressure {
			room := cookerHeadroom
			if pulses {
				room = pulseHeadroom
			}
			over = max(over, trace.PeakFill-room)
		}
	}
	return over
}

// furnish gives the pans beside the main pot and the trays of a template to
// pots that are there, and makes a tray that nobody has as large as it must be.
func furnish(p *plan.Plan, main vessel.Pot, pots []vessel.Pot) {
	deep, trays := split(pots)
	for _, name := range p.PotNamesSorted()[1:] {
		wanted := p.Pots[name]
		from := deep
		if wanted.Shape == vessel.Tray {
			from = trays
		}
		at := slices.IndexFunc(from, func(v vessel.Pot) bool {
			return !reflect.DeepEqual(v, main) && v.Capacity() >= wanted.Capacity() && serves(p, name, v)
		})
		if at >= 0 {
			p.Pots[name] = from[at]
			continue
		}
		const templateBowls = 6
		larger := math.Sqrt(max(1, float64(p.Serves)/templateBowls))
		for _, side := range []*measure.Millimetre{&wanted.DiameterMM, &wanted.LengthMM, &wanted.WidthMM} {
			*side = measure.Millimetre(10 * math.Round(float64(*side)*larger/10))
		}
		p.Pots[name] = wanted
	}
}

// flamesFor lists the flames to try: where the pudding is reduced to a mark the
// flame decides how long that takes.
func flamesFor(p *plan.Plan, cook int) []vessel.Flame {
	if cook < 0 || p.Steps[cook].Do != plan.Heat {
		return []vessel.Flame{""}
	}
	if p.Steps[cook].Flame.Regulated() {
		return []vessel.Flame{vessel.Simmer, vessel.Boil}
	}
	return vessel.Marks()[1:]
}

// PotFor returns the smallest pot for a use that holds so many bowls with room for foam,
// or the largest if none does. Error: ErrNoPot.
func PotFor(pots []vessel.Pot, bowls int, use vessel.Use) (vessel.Pot, error) {
	if len(pots) == 0 {
		return vessel.Pot{}, ErrNoPot
	}
	deep, _ := split(pots)
	if may := slices.DeleteFunc(slices.Clone(deep), func(p vessel.Pot) bool { return !p.May(use) }); len(may) > 0 {
		deep = may
	}
	const bowlG, leastRemaining = 160.0, 0.8
	for _, pot := range deep {
		if pot.SafeFill(milkHeadroom) >= measure.Millilitre(bowlG*float64(bowls)/leastRemaining) {
			return pot, nil
		}
	}
	return deep[len(deep)-1], nil
}

// A fitter finds base, sweetener, batch and cooking time for one pot and flame.
type fitter struct {
	way    plan.Way
	choice plan.WayChoice
	part   string
}

// Tolerances within which a fit is done, and how it steps.
const (
	fitGrade, fitSweet, fitYield, fitDone = 0.08, 0.15, 0.02, 0.06
	fitRounds                             = 14
	fitStep                               = 0.5 // of a logarithm, in one round
)

// wanted returns the doneness aimed at: that of the way, to the household's taste, inside what the part is liked at.
func (t *fitter) wanted(f *forecast.Forecast) float64 {
	const inside = 0.2
	liked := f.Parts[t.part]
	return min(max(t.way.Aim.Done*math.Exp(t.choice.Softer), liked.WantedLow+inside), max(liked.WantedHigh-inside, liked.WantedLow))
}

// grade returns the thickness that is fitted and its aim.
func (t *fitter) grade(f *forecast.Forecast) (is, aim float64, ok bool) {
	r, aim := f.Thickness.Hot, t.way.Aim.Hot
	if t.choice.Serve == plan.Chilled || math.IsNaN(aim) {
		r, aim = f.Thickness.Chilled, t.way.Aim.Chilled
	}
	if r == nil {
		return 0, 0, false
	}
	const least, most, far = 1, 8, 1 // grades; further it would be another pudding
	return r.Value, min(max(aim+min(max(t.choice.Thicker, -far), far), least), most), true
}

// What a fit moves, as logarithms of ratios to the template: what it is made
// thicker with, the sweetener, the batch, and the cooking time.
const (
	fitBase = iota
	fitSugar
	fitBatch
	fitCook
	fitLevers
)

type fitPoint [fitLevers]float64

// fit finds the point by the method of Levenberg and Marquardt on the weighted
// distances to the four aims, with derivatives by differences (Nocedal and
// Wright, Numerical Optimization, 10.3).
func (t *fitter) fit(start *plan.Plan, flame vessel.Flame) (*plan.Plan, float64) {
	if flame != "" {
		start.Steps[t.way.Cook].TurnTo(flame)
	}
	best, least := start, math.Inf(1)
	for _, x := range []fitPoint{{}, {fitBase: -0.5, fitCook: 0.5}, {fitBase: 0.4, fitCook: -0.4}} {
		p := t.at(start, t.search(start, x), true)
		if cost := t.distance(p, forecast.Run(p, forecast.Options{NominalOnly: true})); cost < least {
			best, least = p, cost
		}
		const closeEnough = 1.5
		if least < closeEnough {
			break
		}
	}
	return best, least
}

// search goes down from one point.
func (t *fitter) search(start *plan.Plan, x fitPoint) fitPoint {
	f := t.run(start, x)
	x[fitBatch] = math.Log(float64(start.PortionG) * float64(t.choice.Bowls) / f.Yield.MassG.Value)
	r := t.residual(start, t.run(start, x))
	damping := 0.1
	for range fitRounds {
		if r == nil || numeric.Norm(r) < 1 {
			break
		}
		next, nr := t.better(start, x, r, &damping)
		if nr == nil {
			break
		}
		x, r = next, nr
	}
	return x
}

func (t *fitter) run(start *plan.Plan, x fitPoint) *forecast.Forecast {
	return forecast.Run(t.at(start, x, false), forecast.Options{NominalOnly: true})
}

// better returns a point with smaller distances, nil if none is near.
func (t *fitter) better(start *plan.Plan, x fitPoint, r []float64, damping *float64) (fitPoint, []float64) {
	const difference = 0.04
	jacobian := make([][]float64, len(r))
	for i := range jacobian {
		jacobian[i] = make([]float64, fitLevers)
	}
	for k := range fitLevers {
		moved := x
		moved[k] += difference
		if near := t.residual(start, t.run(start, moved)); near != nil {
			for i := range r {
				jacobian[i][k] = (near[i] - r[i]) / difference
			}
		}
	}
	const rising, falling, tries = 6, 0.3, 5
	for range tries {
		const leverFloor = 1e-3 // a lever that does nothing stays
		step, status := numeric.Marquardt(jacobian, r, *damping, leverFloor)
		if status != numeric.Met {
			return x, nil
		}
		tried := x
		for k := range tried {
			tried[k] = min(max(x[k]+min(max(step[k], -fitStep), fitStep), -mostLog), mostLog)
		}
		if nr := t.residual(start, t.run(start, tried)); nr != nil && numeric.Norm(nr) < numeric.Norm(r) {
			*damping *= falling
			return tried, nr
		}
		*damping *= rising
	}
	return x, nil
}

// residual returns the distances to the four aims in tolerances, and
// how near the pot comes to boiling dry and a part to being hard or mush; nil where the
// thickness does not apply. The doneness weighs less: grains are liked within a
// range.
func (t *fitter) residual(start *plan.Plan, f *forecast.Forecast) []float64 {
	is, aim, ok := t.grade(f)
	if !ok {
		return nil
	}
	r := []float64{
		(is - aim) / fitGrade, (f.Sweetness.Pct.Value - t.way.Aim.Sweet) / fitSweet,
		math.Log(f.Yield.MassG.Value/(float64(start.PortionG)*float64(t.choice.Bowls))) / fitYield, 0, 0, 0,
	}
	for i := range f.Trace {
		const least, weight = 2.5, 3.0 // per cent of free water: below, it catches
		if free := f.Trace[i].MinFreeWater; free.Seen {
			r[4] = max(r[4], weight*(least-free.Value))
		}
	}
	if t.part != "" {
		const lighter = 0.4
		r[3] = lighter * math.Log(max(f.Doneness[t.part].Value, 0.05)/t.wanted(f)) / fitDone
	}
	for name, liked := range f.Parts {
		const inside, weight = 0.15, 20.0 // the model may be that wrong
		done := f.Doneness[name].Value
		r[5] += weight * max(0, done-liked.WantedHigh+inside, liked.WantedLow+inside-done)
	}
	return r
}

// at returns the plan at a point, in amounts that can be measured when it is
// final.
func (t *fitter) at(start *plan.Plan, x fitPoint, final bool) *plan.Plan {
	p := start.Clone()
	factor := func(m *pantry.Material) float64 {
		switch {
		case t.isBase(m), slices.Contains(t.way.WithBase, m.Slug):
			return math.Exp(x[fitBatch] + x[fitBase])
		case m.Slug == water:
			return math.Exp(x[fitBatch] + t.way.Water*x[fitBase])
		case m.Kind == "sweetener":
			return math.Exp(x[fitBatch] + x[fitSugar])
		}
		return math.Exp(x[fitBatch])
	}
	scale := func(item *plan.Item) {
		if item == nil || item.Material == "" || item.AboveMM > 0 {
			return
		}
		m, ok := p.Pantry().Material(item.Material)
		amount, err := measure.ParseAmount(item.Amount)
		if !ok || err != nil {
			return
		}
		amount.Number *= factor(m)
		if m.Behaviour == pantry.Egg && m.Piece > 0 { // nobody halves an egg
			grams, err := p.Measures.Grams(amount, m.Body())
			if err == nil {
				item.Amount = fmt.Sprintf("%.0f %s", math.Max(1, math.Round(float64(grams/m.Piece))), m.PieceName)
			}
			return
		}
		if final {
			amount = p.Measures.Measurable(amount, m.Body(), false)
		}
		item.Amount = amount.String()
	}
	for i := range p.Steps {
		s := &p.Steps[i]
		for j := range s.Items {
			scale(&s.Items[j])
		}
		scale(s.Fat)
		scale(s.In)
		for j := range s.Presses {
			s.Presses[j].WaterML *= measure.Millilitre(math.Exp(x[fitBatch]))
			if final {
				s.Presses[j].WaterML = measure.Millilitre(10 * math.Round(float64(s.Presses[j].WaterML)/10))
			}
		}
	}
	t.cookLonger(p, math.Exp(x[fitCook]), final)
	return p
}

// isBase reports whether an amount of a material is what the thickness is
// fitted by: what the way is made thicker with and, in a set pudding, every
// flour.
func (t *fitter) isBase(m *pantry.Material) bool {
	if t.way.Thick != "" {
		return m.Slug == t.way.Thick
	}
	return m.Slug == t.choice.Base || (t.way.Cook < 0 && m.Behaviour == pantry.Flour)
}

// Bounds of the step that decides how soft it gets.
const (
	leastRemaining, mostRemaining = 58.0, 92.0
	leastCook, mostCook           = 1.0, 240.0
)

// cookLonger gives the step that decides the doneness a factor of its time, in
// whole minutes or per cent when it is final.
func (t *fitter) cookLonger(p *plan.Plan, factor float64, final bool) {
	if t.way.Cook < 0 {
		return
	}
	round := func(x float64) float64 {
		if final {
			return math.Round(x)
		}
		return x
	}
	s := &p.Steps[t.way.Cook]
	minutes := func(m measure.Minute) *measure.Minute {
		longer := measure.Minute(round(min(max(float64(m)*factor, leastCook), mostCook)))
		return &longer
	}
	switch {
	case s.Minutes != nil:
		s.Minutes = minutes(*s.Minutes)
	case s.Until != nil && s.Until.Minutes != nil:
		s.Until.Minutes = minutes(*s.Until.Minutes)
	case s.Until != nil && s.Until.RemainingPct != nil:
		remaining := round(min(max(100-(100-*s.Until.RemainingPct)*factor, leastRemaining), mostRemaining))
		s.Until.RemainingPct = &remaining
	}
}

// distance weighs how far a forecast is from the aims of the way.
func (t *fitter) distance(p *plan.Plan, f *forecast.Forecast) float64 {
	is, aim, ok := t.grade(f)
	if !ok {
		return math.Inf(1)
	}
	const room = 0.15 // of what a grain is liked at: the model may be that wrong
	cost := 2*math.Abs(is-aim) + math.Abs(f.Sweetness.Pct.Value-t.way.Aim.Sweet)
	cost += 10 * math.Abs(math.Log(f.Yield.MassG.Value/(float64(p.PortionG)*float64(t.choice.Bowls))))
	for name, liked := range f.Parts {
		done := f.Doneness[name].Value
		cost += 10 * max(0, liked.WantedLow+room-done, done-liked.WantedHigh+room)
	}
	if t.part != "" {
		cost += 3 * math.Abs(math.Log(max(f.Doneness[t.part].Value, 0.05)/t.wanted(f)))
	}
	if watch.BoilsDry(p, f) {
		cost += 100
	}
	for i, trace := range f.Trace {
		if trace.NeverReached || trace.Weak.Seen {
			cost += 100
		}
		if s := f.Steps[i].Scorch; s != nil {
			cost += 20 * max(0, *s-0.95)
		}
	}
	cost += 200 * max(0, crowding(p, f))
	cost += float64(t.choice.Pot.Capacity()) / 1e5 // of two as good, the smaller pot
	cost += f.Time.TotalMin.Value / 200            // and the shorter time
	return cost
}
