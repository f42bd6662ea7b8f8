package design

import (
	"cmp"
	"fmt"
	"maps"
	"math"
	"slices"

	"kirdu/core/forecast"
	"kirdu/core/measure"
	"kirdu/core/numeric"
	"kirdu/core/pantry"
	"kirdu/core/plan"
	"kirdu/core/vessel"
	"kirdu/core/watch"
)

// Aims are what a plan is to come to; nil leaves a figure as it comes.
type Aims struct {
	Thickness *float64           // grade as served
	Sweet     *float64           // per cent
	Bowls     *int               // of the same size
	YieldG    *float64           // g
	Done      map[string]float64 // doneness by part
}

// A Change is one amount or target that balancing moved.
type Change struct {
	Path    string // in the plan document
	Lock    string // the name that would lock it
	From    string
	To      string
	Of      ChangeOf
	Percent float64 // by how much an amount grows, below 0 if it shrinks; NaN where it cannot be said
}

// ChangeOf is what balancing moved.
type ChangeOf string

// What balancing moves.
const (
	AmountChanged    ChangeOf = "amount"
	ReductionChanged ChangeOf = "reduction"
	TimeChanged      ChangeOf = "time"
	FlameChanged     ChangeOf = "flame"
)

// A Miss is an aim that could not be met, how near it came, and what was in the
// way.
type Miss struct {
	Aim     string
	Wanted  float64
	Reached float64
	Because Obstacle
	Lock    string   // for Locked: which
	Rule    watch.ID // for Against: what would speak against the pudding
}

// An Obstacle is what stands between a plan and an aim.
type Obstacle string

// The obstacles.
const (
	Locked   Obstacle = "locked"   // one lock is in the way
	Locks    Obstacle = "locks"    // several together are
	NoFlour  Obstacle = "no-flour" // nothing in it makes it so thick
	NoAmount Obstacle = "no-amount"
	Against  Obstacle = "against" // it could be met, and a stop or a warning would come with it
)

// Balanced is a plan that comes as near to its aims as the locks let it.
type Balanced struct {
	Plan    *plan.Plan
	Changes []Change
	Reached map[string]float64
	Missed  []Miss
	Warned  []watch.Finding // stops and warnings that the plan had not before
	Cut     bool            // the plan is so large that the search ended before all was tried
}

// How near an aim counts as met.
const (
	metThickness = 0.1
	metSweet     = 0.2
	metYield     = 0.02 // as a share
	metDone      = 0.1
)

// A lever is one number of a plan that balancing may move, by a factor.
type lever struct {
	step, item int // item -1: a number of the step itself
	path       string
	lock       string // the name that locks it
	kind       string // of the material, MarkLock or TimeLock
	behaves    pantry.Behaviour
}

// What may be locked beside materials: the reduction, how long it cooks, and the
// flame.
const (
	MarkLock  = "mark"
	TimeLock  = "time"
	FlameLock = "flame"
)

// Balance finds the smallest change of the unlocked amounts, of the reduction
// and of the cooking time that brings a plan to its aims at the serving
// temperature. Small is meant in the sum of squares of the logarithms of the
// ratios. Where that does not do, other flames are tried. locked names materials
// that stay, MarkLock, TimeLock or FlameLock. Errors: none; what cannot be met is
// in Missed.
//
// It is Newton's method on the forecast: in each round the aims are made linear
// in the logarithms x of the levers, J dx = r, and of all solutions the one with
// the least x is taken, x = J'(J J')^-1 (J x + r) (the pseudo-inverse, Golub and Van
// Loan, Matrix Computations, 5.5.4), with a step that is cut where the course
// bends.
func Balance(p *plan.Plan, aims Aims, locked []string) Balanced {
	result, _ := balanceWith(p, aims, locked, mostWork, func(lever) bool { return true })
	return result
}

// A Road is one way to the aims.
type Road string

// Roads to the aims, where they differ.
const (
	MoreStarch  Road = "more-starch"  // by the grain, the flour, the nuts
	FurtherDown Road = "further-down" // by how far and how long it is reduced
	ByLiquid    Road = "less-milk"    // by the liquid
)

// Roads lists the roads by which a plan comes to its aims without being spoilt, each moving only
// what belongs to it, and the sweeteners where a sweetness is wanted.
func Roads(p *plan.Plan, aims Aims, locked []string) map[Road]Balanced {
	roads := map[Road]Balanced{}
	liquid := func(l lever) bool { return l.behaves == pantry.Liquid }
	mark := func(l lever) bool { return l.kind == MarkLock || l.kind == TimeLock }
	for road, takes := range map[Road]func(lever) bool{
		MoreStarch:  func(l lever) bool { return !liquid(l) && !mark(l) && l.kind != sweetener },
		FurtherDown: mark,
		ByLiquid:    liquid,
	} {
		result, ok := balanceWith(p, aims, append(slices.Clone(locked), FlameLock), roadWork, func(l lever) bool {
			return takes(l) || l.kind == sweetener && aims.Sweet != nil
		})
		if ok && len(result.Missed) == 0 && len(result.Changes) > 0 && !slices.ContainsFunc(result.Warned, spoils) {
			roads[road] = result
		}
	}
	return roads
}

const sweetener = "sweetener"

// balanceWith balances with some of the levers; ok is false without any.
func balanceWith(p *plan.Plan, aims Aims, locked []string, work int, takes func(lever) bool) (result Balanced, ok bool) {
	base := p.Clone()
	b := balancer{base: base, aims: aims, left: work}
	start := b.measure(base)
	b.gave = start.YieldG
	if aims.Bowls != nil {
		base.ScaleWithTaste(*aims.Bowls)
		for _, l := range leversOf(base) {
			if l.item >= 0 && slices.Contains(locked, l.lock) { // a lock holds in a larger batch too
				base.Steps[l.step].Items[l.item] = p.Steps[l.step].Items[l.item]
			}
		}
		b.yield = start.YieldG / float64(max(1, p.Serves)) * float64(*aims.Bowls)
	}
	if aims.YieldG != nil {
		b.yield = *aims.YieldG
	}
	all := leversOf(base)
	free := slices.DeleteFunc(slices.Clone(all), func(l lever) bool { return slices.Contains(locked, l.lock) || !takes(l) })
	before := b.known(p)
	best, reached, x := b.solve(free)
	if !slices.Contains(locked, FlameLock) && b.far(reached) {
		best, reached = b.otherFlames(free, best, reached)
	} else if !b.far(reached) {
		best, reached, x = b.fewer(free, best, reached, x, before)
	}
	best, reached = b.practical(p, free, best, reached)
	against := slices.DeleteFunc(b.worse(best, before), func(one watch.Finding) bool { return !spoils(one) })
	if len(against) > 0 {
		if other, o := b.unspoilt(p, free, before); other != nil {
			best, reached, against = other, o, nil
		}
	}
	if len(against) > 0 {
		if nearer, o := b.backOff(p, free, x, before); nearer != nil {
			best, reached = nearer, o
		}
	}
	result = Balanced{Plan: best, Reached: map[string]float64{"thickness": reached.Thickness, "sweet": reached.Sweet,
		"yield_g": reached.YieldG}}
	for part := range aims.Done {
		result.Reached["doneness."+part] = reached.done[part]
	}
	result.Changes = changes(p, best, all)
	result.Missed = b.missed(reached, all, free, locked)
	result.Warned, result.Cut = b.worse(best, before), b.spent()
	if len(against) > 0 {
		for i := range result.Missed {
			result.Missed[i].Because, result.Missed[i].Lock, result.Missed[i].Rule = Against, "", against[0].Rule
		}
	}
	return result, len(free) > 0
}

// known are the rules of the stops and warnings that speak of a plan already.
func (b *balancer) known(p *plan.Plan) map[watch.ID]forecast.Severity {
	rules := map[watch.ID]forecast.Severity{}
	for _, one := range watch.Findings(p, forecast.Run(p, forecast.Options{NominalOnly: true})) {
		if rules[one.Rule] != forecast.Stop {
			rules[one.Rule] = one.Severity
		}
	}
	return rules
}

// spoils reports whether a finding is one that no aim is worth: a stop, or grain that is mush or hard.
func spoils(one watch.Finding) bool {
	return one.Severity == forecast.Stop || one.Rule == "mushy-grain" || one.Rule == "hard-grain"
}

// worse lists the stops and warnings that came with a change.
func (b *balancer) worse(p *plan.Plan, before map[watch.ID]forecast.Severity) (list []watch.Finding) {
	for _, one := range watch.Findings(p, forecast.Run(p, forecast.Options{NominalOnly: true})) {
		was := before[one.Rule]
		if one.Severity == forecast.Stop && was != forecast.Stop || one.Severity == forecast.Warning && was != forecast.Stop &&
			was != forecast.Warning {
			list = append(list, one)
		}
	}
	return list
}

// warnedCost is what a new warning counts among changes: as much as one amount by half. Half the milk is a
// dear way round "stir more often".
const warnedCost = 0.5

// otherYield is by how much the yield moves away from what the plan gave, as a logarithm; 0 where a yield is an
// aim of its own.
func (b *balancer) otherYield(o measured) float64 {
	if b.yield > 0 {
		return 0
	}
	return math.Abs(math.Log(max(o.YieldG, 1) / max(b.gave, 1)))
}

// unspoilt looks for a way to the aims with some of the levers that nothing that spoils it comes with, and takes
// the one that moves the amounts and the yield least and has the fewest new warnings; nil without one.
func (b *balancer) unspoilt(p *plan.Plan, free []lever, before map[watch.ID]forecast.Severity) (best *plan.Plan, reached measured) {
	liquid := func(l lever) bool { return l.behaves == pantry.Liquid }
	mark := func(l lever) bool { return l.kind == MarkLock || l.kind == TimeLock }
	starch := func(l lever) bool { return !liquid(l) && !mark(l) && l.kind != sweetener }
	none := func(lever) bool { return false }
	least := math.Inf(1)
	for _, takes := range []func(lever) bool{none, starch, mark, liquid, func(l lever) bool { return starch(l) || liquid(l) },
		func(l lever) bool { return starch(l) || mark(l) }, func(l lever) bool { return liquid(l) || mark(l) }} {
		some := slices.DeleteFunc(slices.Clone(free), func(l lever) bool {
			return !takes(l) && !(l.kind == sweetener && b.aims.Sweet != nil)
		})
		if len(some) == 0 || b.spent() {
			continue
		}
		tried, o, x := b.solve(some)
		if b.far(o) {
			continue
		}
		tried, o, x = b.fewer(some, tried, o, x, before)
		tried, o = b.practical(p, some, tried, o)
		worse := b.worse(tried, before)
		if b.far(o) || slices.ContainsFunc(worse, spoils) {
			continue
		}
		if cost := numeric.Norm(x) + b.otherYield(o) + warnedCost*float64(len(worse)); cost < least {
			best, reached, least = tried, o, cost
		}
	}
	return best, reached
}

// backOff goes only so far towards the aims that nothing new speaks against the pudding; nil if that is not
// far.
func (b *balancer) backOff(p *plan.Plan, free []lever, x []float64, before map[watch.ID]forecast.Severity) (*plan.Plan, measured) {
	var best *plan.Plan
	low, high := 0.0, 1.0
	const halvings = 5
	for range halvings {
		if b.spent() {
			break
		}
		share := (low + high) / 2
		part := make([]float64, len(x))
		for k := range x {
			part[k] = share * x[k]
		}
		tried := b.at(free, part, finalDigits)
		tried.Measurable(p)
		if !slices.ContainsFunc(b.worse(tried, before), spoils) {
			best, low = tried, share
		} else {
			high = share
		}
	}
	if best == nil {
		return nil, measured{}
	}
	return best, b.measure(best)
}

// Of two answers with the same figures the one with fewer changes is taken, if none of its changes is
// larger than a half, or half as large again as the largest that it replaces, and it makes as much.
const (
	fewerRounds = 2
	roomToRound = 0.6 // of what counts as met: the rest is for the rounding
	modestLog   = 0.4
	largerByLog = 1.5
	modestYield = 0.1 // logarithm: one change may make more or less by so much, where several made it not
)

// fewer leaves alone what can be left alone: one lever after the other, that which is moved least first.
func (b *balancer) fewer(levers []lever, best *plan.Plan, reached measured, x []float64, before map[watch.ID]forecast.Severity) (
	*plan.Plan, measured, []float64) {
	against := len(b.worse(best, before))
	largest := 0.0
	for _, by := range x {
		largest = max(largest, math.Abs(by))
	}
	most, mostYield := max(modestLog, largerByLog*largest), max(modestYield, b.otherYield(reached))
	still := make([]bool, len(levers))
	order := make([]int, len(levers))
	for k := range order {
		order[k] = k
	}
	dear := func(k int) float64 { // what makes sweet is left to the last where that is wanted
		if b.aims.Sweet != nil && levers[k].kind == sweetener {
			return mostLog + math.Abs(x[k])
		}
		return math.Abs(x[k])
	}
	slices.SortStableFunc(order, func(i, j int) int { return cmp.Compare(dear(i), dear(j)) })
	for _, k := range order {
		if b.spent() {
			break
		}
		still[k] = true
		var few []lever
		var from []float64
		for j := range levers {
			if !still[j] {
				few, from = append(few, levers[j]), append(from, x[j])
			}
		}
		to := b.descendFor(few, from, differenceLog, fewerRounds)
		p, o := b.settle(few, to)
		tooFar := slices.ContainsFunc(to, func(by float64) bool { return math.Abs(by) > most })
		if tooFar || b.otherYield(o) > mostYield || len(b.missesWithin(o, roomToRound)) > 0 {
			still[k] = false
			continue
		}
		now := len(b.worse(p, before))
		if now > against {
			still[k] = false
			continue
		}
		best, reached, against = p, o, now
		next := 0
		for j := range x {
			x[j] = 0
			if !still[j] {
				x[j] = to[next]
				next++
			}
		}
	}
	return best, reached, x
}

// practical rounds a balanced plan to what a kitchen can measure, takes back changes that are
// not worth making, and moves single amounts by what can be measured until it is as near to
// the aims as before, or no nearer comes.
func (b *balancer) practical(p *plan.Plan, free []lever, best *plan.Plan, reached measured) (*plan.Plan, measured) {
	rounded := best.Clone()
	rounded.Measurable(p)
	now := b.measure(rounded)
	for _, l := range free {
		if grown := grows(b.base, rounded, l); !b.spent() && l.changes() == AmountChanged && grown != 0 && math.Abs(grown) <= hardlyChanged {
			back := rounded.Clone()
			back.Steps[l.step].Items[l.item] = b.base.Steps[l.step].Items[l.item]
			back.Measurable(p)
			if o := b.measure(back); len(b.misses(o)) <= len(b.misses(now)) {
				rounded, now = back, o
			}
		}
	}
	for range polishRounds {
		if b.spent() || len(b.misses(now)) <= len(b.misses(reached)) {
			break
		}
		nearer, o := b.nearer(p, free, rounded, now)
		if nearer == nil {
			break
		}
		rounded, now = nearer, o
	}
	return rounded, now
}

// hardlyChanged is the change of an amount, in per cent, that nobody makes for its own sake;
// polishRounds bounds the single steps that are tried after rounding.
const (
	hardlyChanged = 1.5
	polishRounds  = 4
)

// nearer moves one amount a little either way, and returns what comes nearest to the aims;
// nil if nothing does.
func (b *balancer) nearer(p *plan.Plan, free []lever, from *plan.Plan, now measured) (nearest *plan.Plan, reached measured) {
	least := numeric.Norm(b.residual(now))
	for _, l := range free {
		if l.changes() != AmountChanged {
			continue
		}
		for _, factor := range []float64{0.98, 1.02} {
			tried := from.Clone()
			item := &tried.Steps[l.step].Items[l.item]
			amount, err := measure.ParseAmount(item.Amount)
			if err != nil {
				continue
			}
			item.Amount, item.Also = amount.Scale(factor).String(), ""
			tried.Measurable(p)
			if o := b.measure(tried); numeric.Norm(b.residual(o)) < least {
				nearest, reached, least = tried, o, numeric.Norm(b.residual(o))
			}
		}
	}
	return nearest, reached
}

// far reports whether an aim is not met.
func (b *balancer) far(o measured) bool { return len(b.misses(o)) > 0 }

// otherFlames solves again with the flame of the cooking step one or two marks
// lower and higher, and returns what comes nearest.
func (b *balancer) otherFlames(free []lever, best *plan.Plan, reached measured) (*plan.Plan, measured) {
	at := heatingStep(b.base)
	if at < 0 || b.base.Steps[at].Do != plan.Heat || b.base.Steps[at].FlamePct != nil {
		return best, reached
	}
	const marks = 2
	original := b.base
	defer func() { b.base = original }()
	for _, flame := range around(b.base.Steps[at].Flame, marks) {
		if b.spent() {
			break
		}
		b.base = original.Clone()
		b.base.Steps[at].TurnTo(flame)
		p, o, _ := b.solve(free)
		if numeric.Norm(b.residual(o)) < numeric.Norm(b.residual(reached)) {
			best, reached = p, o
		}
		if !b.far(reached) {
			break
		}
	}
	return best, reached
}

// around lists the flames beside one, at most so many marks off, the nearest first and
// of two as near the lower.
func around(flame vessel.Flame, marks int) []vessel.Flame {
	lower, higher := flame.Lower(), flame.Higher()
	var near []vessel.Flame
	for k := range marks {
		if k < len(lower) {
			near = append(near, lower[k])
		}
		if k < len(higher) {
			near = append(near, higher[k])
		}
	}
	return near
}

// measured is an outcome with the doneness of each part.
type measured struct {
	Outcome
	done map[string]float64
}

type balancer struct {
	base  *plan.Plan
	aims  Aims
	yield float64 // wanted, 0: as it comes
	gave  float64 // g before anything was moved
	left  int     // of the work that may be done
}

// mostWork bounds the search, in forecasts times what each has to follow: some thousand of a usual plan, some
// hundred of one with two dozen grains.
const mostWork = 12000

// roadWork is that of a road beside the answer.
const roadWork = mostWork / 4

// spent reports whether the search is over: what is found by then is the answer.
func (b *balancer) spent() bool { return b.left <= 0 }

func (b *balancer) measure(p *plan.Plan) measured {
	b.left -= len(p.Steps)
	for i := range p.Steps {
		b.left -= len(p.Steps[i].Items)
	}
	f := forecast.Run(p, forecast.Options{NominalOnly: true})
	m := measured{Outcome: outcome(p, f, f), done: map[string]float64{}}
	for part := range b.aims.Done {
		m.done[part] = f.Doneness[part].Value
	}
	return m
}

// Lockable lists the names of what balancing may move, in order of use:
// materials, and MarkLock and TimeLock.
func Lockable(p *plan.Plan) []string {
	var names []string
	for _, l := range leversOf(p) {
		if !slices.Contains(names, l.lock) {
			names = append(names, l.lock)
		}
	}
	return names
}

// leversOf lists what may be moved: amounts that have a mass of their own and
// are no aroma, salt or topping, and the last mark.
func leversOf(p *plan.Plan) []lever {
	var all []lever
	for i := range p.Steps {
		s := &p.Steps[i]
		if s.Topping || s.Do == plan.Fry {
			continue
		}
		for j, item := range s.Items {
			m, ok := p.Pantry().Material(item.Material)
			if !ok || item.AboveMM > 0 || m.Behaviour == pantry.Aroma || m.Kind == "salt" || m.Kind == "leaven" {
				continue
			}
			all = append(all, lever{step: i, item: j, path: fmt.Sprintf("steps[%d].items[%d].amount", i, j), lock: item.Material, kind: m.Kind,
				behaves: m.Behaviour})
		}
	}
	if at := markStep(p); at >= 0 {
		if u := p.Steps[at].Until; u.RemainingPct != nil {
			all = append(all, lever{step: at, item: -1, path: fmt.Sprintf("steps[%d].until.remaining_pct", at), lock: MarkLock, kind: MarkLock})
		}
	}
	if at := heatingStep(p); at >= 0 {
		if path := timePath(&p.Steps[at]); path != "" {
			all = append(all, lever{step: at, item: -1, path: fmt.Sprintf("steps[%d].%s", at, path), lock: TimeLock, kind: TimeLock})
		}
	}
	return all
}

// heatingStep returns the step in a pot that takes longest on the heat: a cooker
// counts several times. -1 if there is none.
func heatingStep(p *plan.Plan) int {
	longest, most := -1, 0.0
	const markMinutes, underPressure = 30.0, 5.0
	for i := range p.Steps {
		s := &p.Steps[i]
		var took float64
		switch u := s.Until; {
		case s.Do == plan.Pressure:
			took = underPressure * max(float64(s.FullMinutes()), 2.5*float64(s.Whistles))
		case s.Do == plan.Bake:
			took = float64(s.FullMinutes())
		case s.Do == plan.Heat && s.Burns() && u.RemainingPct != nil:
			took = markMinutes
		case s.Do == plan.Heat && s.Burns() && u.Minutes != nil:
			took = float64(*u.Minutes)
		}
		if took > most {
			longest, most = i, took
		}
	}
	return longest
}

// timePath is the place of the minutes of a step, "" if it is not timed.
func timePath(s *plan.Step) string {
	switch {
	case s.Do == plan.Heat && s.Until != nil && s.Until.Minutes != nil && s.Until.RemainingPct == nil:
		return "until.minutes"
	case s.Do != plan.Heat && s.Minutes != nil:
		return "minutes"
	}
	return ""
}

// minutesIn returns the minutes at a timePath, nil if there are none.
func minutesIn(s *plan.Step) *measure.Minute {
	switch timePath(s) {
	case "until.minutes":
		return s.Until.Minutes
	case "minutes":
		return s.Minutes
	}
	return nil
}

// lengthen gives the minutes at the timePath a factor.
func lengthen(s *plan.Step, factor float64, digits int) {
	longer := measure.Minute(measure.RoundSignificant(max(float64(*minutesIn(s))*factor, 1), digits))
	if digits <= finalDigits {
		longer = measure.Minute(math.Round(float64(longer)))
	}
	if s.Do == plan.Heat {
		u := *s.Until
		u.Minutes = &longer
		s.Until = &u
		return
	}
	s.Minutes = &longer
}

func percentText(x float64) string { return fmt.Sprintf("%.4g", x) }

// Bounds of a lever and of the search.
const (
	mostLog       = 2.2 // a factor of nine either way
	longestStep   = 0.6 // of the logarithm, in one round
	differenceLog = 0.02
	// wideDifferenceLog is for courses with a kink.
	wideDifferenceLog = 0.12
	balanceRounds     = 16
	leastMark         = 5.0
	mostMark          = 99.0
)

// at returns the plan with the levers moved by the logarithms x, rounded to
// three digits when it is final.
func (b *balancer) at(levers []lever, x []float64, digits int) *plan.Plan {
	p := b.base.Clone()
	for k, l := range levers {
		factor := math.Exp(x[k])
		if l.kind == TimeLock {
			lengthen(&p.Steps[l.step], factor, digits)
			continue
		}
		if l.item < 0 {
			u := *p.Steps[l.step].Until
			remaining := measure.RoundSignificant(min(max(*u.RemainingPct*factor, leastMark), mostMark), digits)
			u.RemainingPct = &remaining
			p.Steps[l.step].Until = &u
			continue
		}
		item := &p.Steps[l.step].Items[l.item]
		if amount, err := measure.ParseAmount(item.Amount); err == nil && x[k] != 0 {
			item.Amount = measure.Amount{Number: measure.RoundSignificant(amount.Number*factor, digits), Unit: amount.Unit}.String()
			item.Also = ""
		}
	}
	return p
}

// residual returns what is missing to each aim that is set.
func (b *balancer) residual(o measured) []float64 {
	var r []float64
	if b.aims.Thickness != nil {
		r = append(r, *b.aims.Thickness-o.Thickness)
	}
	if b.aims.Sweet != nil {
		r = append(r, *b.aims.Sweet-o.Sweet)
	}
	if b.yield > 0 {
		// A fiftieth of the mass weighs as much as a tenth of a grade.
		r = append(r, metThickness/metYield*math.Log(b.yield/max(o.YieldG, 1)))
	}
	for _, part := range slices.Sorted(maps.Keys(b.aims.Done)) {
		r = append(r, metThickness/metDone*(b.aims.Done[part]-o.done[part]))
	}
	return r
}

// fineDigits are those of amounts while the search goes on, and finalDigits
// those that are written down: what a kitchen scale shows.
const (
	fineDigits  = 9
	finalDigits = 3
)

// solve finds the levers' logarithms. Where the course has a kink, as where a pot
// falls dry, slopes over a wider stretch lead past it, or a leap with one lever.
func (b *balancer) solve(levers []lever) (final *plan.Plan, reached measured, x []float64) {
	x = make([]float64, len(levers))
	final, reached = b.settle(levers, x)
	for _, difference := range []float64{differenceLog, -wideDifferenceLog, differenceLog} {
		x = b.descend(levers, x, difference)
		if final, reached = b.settle(levers, x); !b.far(reached) {
			return final, reached, x
		}
	}
	leapt := b.descend(levers, b.leap(levers, x), differenceLog)
	if p, o := b.settle(levers, leapt); numeric.Norm(b.residual(o)) < numeric.Norm(b.residual(reached)) {
		return p, o, leapt
	}
	return final, reached, x
}

// settle rounds the levers to what is written down.
func (b *balancer) settle(levers []lever, x []float64) (*plan.Plan, measured) {
	final := b.at(levers, x, finalDigits)
	return final, b.measure(final)
}

// leap moves the one lever that brings the aims nearest when it is moved far.
func (b *balancer) leap(levers []lever, x []float64) []float64 {
	const far = 0.4
	best, least := x, math.Inf(1)
	for k := range levers {
		if b.spent() {
			break
		}
		for _, by := range []float64{-far, far} {
			tried := slices.Clone(x)
			tried[k] = min(max(tried[k]+by, -mostLog), mostLog)
			if r := numeric.Norm(b.residual(b.measure(b.at(levers, tried, fineDigits)))); r < least {
				best, least = tried, r
			}
		}
	}
	return best
}

// descend goes from x to where the aims are met, with slopes over a difference.
func (b *balancer) descend(levers []lever, x []float64, difference float64) []float64 {
	return b.descendFor(levers, x, difference, balanceRounds)
}

func (b *balancer) descendFor(levers []lever, x []float64, difference float64, rounds int) []float64 {
	o := b.measure(b.at(levers, x, fineDigits))
	r := b.residual(o)
	const closeEnough = 0.01
	for range rounds {
		if b.spent() || len(levers) == 0 || numeric.Norm(r) < closeEnough {
			break
		}
		const still = 1e-6
		step, status := numeric.LeastNorm(b.jacobian(levers, x, o, difference), x, r, still)
		if status != numeric.Met {
			break
		}
		longest := 0.0
		for k := range step {
			longest = max(longest, math.Abs(step[k]-x[k]))
		}
		if longest < 1e-5 {
			break
		}
		// Towards the new point, half as far as long as it is no better.
		share := min(1, longestStep/longest)
		improved := false
		for range 6 {
			tried := make([]float64, len(x))
			for k := range x {
				tried[k] = min(max(x[k]+share*(step[k]-x[k]), -mostLog), mostLog)
			}
			next := b.measure(b.at(levers, tried, fineDigits))
			if nr := b.residual(next); numeric.Norm(nr) < numeric.Norm(r) {
				x, o, r, improved = tried, next, nr, true
				break
			}
			share /= 2
		}
		if !improved {
			break
		}
	}
	return x
}

// jacobian returns the change of each aim with the logarithm of each lever, by
// differences.
func (b *balancer) jacobian(levers []lever, x []float64, o measured, difference float64) [][]float64 {
	r0 := b.residual(o)
	j := make([][]float64, len(r0))
	for i := range j {
		j[i] = make([]float64, len(levers))
	}
	moved := slices.Clone(x)
	for k := range levers {
		moved[k] = x[k] + difference
		r := b.residual(b.measure(b.at(levers, moved, fineDigits)))
		moved[k] = x[k]
		for i := range j {
			j[i][k] = (r0[i] - r[i]) / difference // the residual falls as the figure rises
		}
	}
	return j
}

// changes lists what is written otherwise than before.
func changes(before, after *plan.Plan, levers []lever) []Change {
	list := []Change{}
	for _, l := range levers {
		from, to := leverText(before, l), leverText(after, l)
		if from == to {
			continue
		}
		list = append(list, Change{Path: l.path, Lock: l.lock, From: from, To: to, Of: l.changes(), Percent: grows(before, after, l)})
	}
	for i := range before.Steps {
		if from, to := before.Steps[i].Flame, after.Steps[i].Flame; from != to {
			list = append(list, Change{Path: fmt.Sprintf("steps[%d].flame", i), From: string(from), To: string(to), Of: FlameChanged})
		}
	}
	return list
}

func leverText(p *plan.Plan, l lever) string {
	switch {
	case l.kind == TimeLock:
		return percentText(float64(*minutesIn(&p.Steps[l.step])))
	case l.item < 0:
		return percentText(*p.Steps[l.step].Until.RemainingPct)
	}
	return p.Steps[l.step].Items[l.item].Amount
}

// changes says what a lever is.
func (l lever) changes() ChangeOf {
	switch {
	case l.kind == TimeLock:
		return TimeChanged
	case l.item < 0:
		return ReductionChanged
	}
	return AmountChanged
}

// grows returns by how many per cent an amount grows, NaN where it is none or cannot
// be weighed.
func grows(before, after *plan.Plan, l lever) float64 {
	if l.changes() != AmountChanged {
		return math.NaN()
	}
	_, one, errOne := before.Weigh(before.Steps[l.step].Items[l.item])
	_, other, errOther := after.Weigh(after.Steps[l.step].Items[l.item])
	if errOne != nil || errOther != nil || one <= 0 {
		return math.NaN()
	}
	return 100 * (float64(other/one) - 1)
}

// misses lists the aims that were not met.
func (b *balancer) misses(o measured) []Miss { return b.missesWithin(o, 1) }

// missesWithin holds the aims to a share of what counts as met.
func (b *balancer) missesWithin(o measured, share float64) []Miss {
	list := []Miss{}
	add := func(aim string, wanted, reached, tolerance float64) {
		if math.Abs(wanted-reached) > share*tolerance {
			list = append(list, Miss{Aim: aim, Wanted: wanted, Reached: reached})
		}
	}
	if b.aims.Thickness != nil {
		add("thickness", *b.aims.Thickness, o.Thickness, metThickness)
	}
	if b.aims.Sweet != nil {
		add("sweet", *b.aims.Sweet, o.Sweet, metSweet)
	}
	if b.yield > 0 {
		add("yield_g", b.yield, o.YieldG, metYield*b.yield)
	}
	for _, part := range slices.Sorted(maps.Keys(b.aims.Done)) {
		add("doneness."+part, b.aims.Done[part], o.done[part], metDone)
	}
	return list
}

// missed lists the aims that were not met, and which lock is in the way.
func (b *balancer) missed(o measured, all, free []lever, locked []string) []Miss {
	list := b.misses(o)
	if len(list) == 0 {
		return list
	}
	because, lock := b.inTheWay(numeric.Norm(b.residual(o)), all, free, locked)
	for i := range list {
		list[i].Because, list[i].Lock = because, lock
	}
	return list
}

// inTheWay finds the lock without which the aims would be met, or says that no
// amounts reach them.
func (b *balancer) inTheWay(best float64, all, free []lever, locked []string) (because Obstacle, lock string) {
	for _, lock := range locked {
		if b.spent() {
			break
		}
		without := slices.DeleteFunc(slices.Clone(all), func(l lever) bool { return l.lock != lock && slices.Contains(locked, l.lock) })
		if len(without) == len(free) {
			continue
		}
		if _, o, _ := b.solve(without); numeric.Norm(b.residual(o)) < min(best/2, 2*metThickness) {
			return Locked, lock
		}
	}
	if len(locked) > 0 && !b.spent() {
		if _, o, _ := b.solve(all); numeric.Norm(b.residual(o)) < min(best/2, 2*metThickness) {
			return Locks, ""
		}
	}
	const paste = 7 // grades: so thick no milk and grain get
	if b.aims.Thickness != nil && *b.aims.Thickness > paste {
		return NoFlour, ""
	}
	return NoAmount, ""
}
