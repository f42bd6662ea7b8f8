package timetable

import (
	"cmp"
	"maps"
	"math"
	"slices"

	"kirdu/core/forecast"
	"kirdu/core/measure"
	"kirdu/core/plan"
	"kirdu/core/vessel"
	"kirdu/core/watch"
)

// A Task is one step of a pudding at its time.
type Task struct {
	Pudding int            `json:"pudding"`
	Step    int            `json:"step"`
	Start   measure.Minute `json:"-"` // after the gathering is served
	End     measure.Minute `json:"-"`
	Burner  string         `json:"burner,omitempty"`
	Pot     string         `json:"pot,omitempty"`
	Hands   float64        `json:"hands"` // share of a person, 0 to 1

	HandsEnd measure.Minute `json:"-"` // until when: a soak goes on by itself
	Slack    measure.Minute `json:"-"` // how much later it may begin and nothing is late
}

// A Late is a pudding that cannot be ready in time, by how much, and what would
// help.
type Late struct {
	Pudding int     `json:"pudding"`
	Minutes float64 `json:"minutes"` // 0 where it cannot be cooked at all
	Why     Reason  `json:"why"`
}

// A Reason is why a pudding is late.
type Reason string

// The reasons.
const (
	NoBurner Reason = "no-burner" // none takes its pot
	NoOven   Reason = "no-oven"   // it is baked, and there is no oven
	NoFridge Reason = "no-fridge" // the refrigerator does not hold it
	PotTaken Reason = "pot-taken" // another pudding stands in its pot until it is served
	TooMuch  Reason = "too-much"  // they do not go into two days
	TooLate  Reason = "too-late"  // it takes longer than there is time left
	Taken    Reason = "taken"     // burners, pots or hands are taken by the others
)

// A Timetable is a gathering's tasks in the order of their beginning.
type Timetable struct {
	Tasks  []Task
	Late   []Late
	Places []Place           // by pudding that is in it
	Ready  []*measure.Minute // when each pudding is ready; nil for one that cannot be cooked
	Cost   Cost

	Findings  [][]watch.Finding // by pudding: stops and warnings on the burners that it has
	NoFlame   [][]Span          // by pudding: when it waits hot and no burner is free for it
	HandsFree []Span            // when one person at least has nothing to do, between the first task and the serving
	Short     []Span            // when more hands are wanted than there are
}

// Cost is what a timetable is judged by, each in minutes, the first that differs
// decides. Source: the plan format.
type Cost struct {
	Spoilt int     // new stops that its burner makes of a pudding
	Warned int     // new warnings
	Late   float64 // puddings after their time, in sum
	Moved  float64 // away from where they were kept
	Wait   float64 // hot ones before it
	Off    float64 // hot ones that wait and find no burner
	Stand  float64 // chilled ones off the half hour that they stand ready
	Begun  float64 // from the first task to the serving
}

// Compare orders two costs; a minute or less of anything is the same.
func (c Cost) Compare(d Cost) int {
	const same = 0.5
	if c.Spoilt != d.Spoilt {
		return cmp.Compare(c.Spoilt, d.Spoilt) // no waiting is as bad
	}
	c.Wait, d.Wait = c.Wait+c.Off+warned*float64(c.Warned), d.Wait+d.Off+warned*float64(d.Warned)
	for _, pair := range [][2]float64{{c.Late, d.Late}, {c.Moved, d.Moved}, {c.Wait, d.Wait}, {c.Stand, d.Stand}, {c.Begun, d.Begun}} {
		if math.Abs(pair[0]-pair[1]) > same {
			return cmp.Compare(pair[0], pair[1])
		}
	}
	return 0
}

// warned is how many minutes of waiting are as bad as a new warning. Source: our own judgement.
const warned = 15.0

// Options bound a timetable.
type Options struct {
	NotBefore *measure.Minute // nothing can begin before; nil: any time
	Effort    int             // how many times the usual search; 0: once
	Fixed     []Place         // where puddings must be
	Keep      []Place         // where puddings were: they move as little as possible
}

// standReady is how long a chilled pudding stands ready. Source: the plan format.
const standReady = 30.0

// longest is how far before or after its time a pudding is looked for, in
// minutes.
const longest = 24 * 60.0

// tries bounds the search, in starts that are tried: what is found by then is good
// in all gatherings that were tried, see the tests.
const tries = 33000

// Solve finds a timetable. Puddings are placed one after the other, each at the
// latest place that is free, then its preparations at theirs, before those that
// take them; what is searched for is the order of the puddings and the burner of
// each. The search ends after a fixed number of tries, so that the same gathering
// always has the same timetable.
func Solve(g *Gathering, options Options) *Timetable {
	s := &solver{g: g, notBefore: math.Inf(-1), left: tries * max(1, options.Effort)}
	if options.NotBefore != nil {
		s.notBefore = float64(*options.NotBefore)
	}
	s.prepare()
	s.fix(options)
	s.leaveOut()
	s.search(s.order())
	if s.best == nil {
		s.some(s.order())
	}
	return s.write()
}

// A solver looks for the best placing. Times are minutes from the serving of the
// gathering, most of them negative.
type solver struct {
	g         *Gathering
	notBefore float64
	choices   [][]choice // by pudding
	due       []float64
	names     []string // of the burners
	strongest []string // the same, by what they bring into a pot
	left      int
	best      []placed
	bestCost  Cost
	base      layer // the day with what is fixed
	fixed     []placed
	keep      map[int]Place
	laid      []layer // of the arrangement that is climbed from
	sequence  uint64
	cannot    map[int]Reason // puddings that find no place in an empty kitchen
}

// A choice is a pudding on its burners.
type choice struct {
	burner         string            // of the served pot
	burners        map[string]string // by pan
	block          *block
	spoilt, warned int // new stops and warnings on these burners
}

// A placed pudding.
type placed struct {
	pudding     int
	choice      choice
	start       float64
	due         float64           // when it is served
	preps       []float64         // starts, by prep
	burners     map[string]string // by pan
	prepBurners map[int]string    // by prep
}

func (p *placed) end() float64 { return p.start + p.choice.block.total }

// begins is when its first task begins.
func (p *placed) begins() float64 {
	first := p.potBegins()
	for _, at := range p.preps {
		first = min(first, at)
	}
	return first
}

// potBegins is when the first task of its pots begins.
func (p *placed) potBegins() float64 {
	first := p.start
	for _, u := range p.choice.block.uses {
		first = min(first, p.start+u.from)
	}
	return first
}

// prepare lays every pudding out on every burner that takes its pot.
func (s *solver) prepare() {
	s.names = slices.Sorted(maps.Keys(s.g.Burners))
	s.strongest = slices.Clone(s.names)
	power := func(name string) float64 {
		watts, _ := s.g.Burners[name].Power(vessel.High, 0)
		return float64(watts)
	}
	slices.SortStableFunc(s.strongest, func(a, b string) int { return cmp.Compare(power(b), power(a)) })
	for i := range s.g.Puddings {
		s.due = append(s.due, float64(s.g.Puddings[i].Serve))
		s.choices = append(s.choices, s.choose(s.g.Puddings[i].Plan))
	}
}

// Bounds of the burners that are tried for one pudding: all its pans on all burners, and of those with the
// same burner under the served pot the best.
const (
	mostMixes   = 64
	mostPerMain = 3
)

// choose lays a pudding out on the burners that take its pans, those first that spoil nothing and of them
// the quickest: it leaves most room.
func (s *solver) choose(p *plan.Plan) (list []choice) {
	pans := stovePans(p)
	mixes := []map[string]string{{}}
	for _, pan := range pans {
		var more []map[string]string
		for _, mix := range mixes {
			for _, name := range s.names {
				own := p.Pots[pan].Burner // the plan's own burner is respected, if it is there
				if _, there := s.g.Burners[own]; there && own != name || !s.takes(name, p.Pots[pan]) || len(more) >= mostMixes {
					continue
				}
				one := maps.Clone(mix)
				one[pan] = name
				more = append(more, one)
			}
		}
		mixes = more
	}
	stops, warnings := graves(newBlock(p))
	for _, mix := range mixes {
		c := choice{burner: mix[p.Served()[0]], burners: mix, block: newBlock(s.g.on(p, mix))}
		if inOwnWay(c) {
			continue
		}
		nowStops, nowWarnings := graves(c.block)
		c.spoilt, c.warned = beyond(nowStops, stops), beyond(nowWarnings, warnings)
		list = append(list, c)
	}
	slices.SortStableFunc(list, func(a, b choice) int {
		return cmp.Or(cmp.Compare(a.spoilt, b.spoilt), cmp.Compare(a.warned, b.warned), cmp.Compare(a.block.total, b.block.total))
	})
	perMain := map[string]int{}
	return slices.DeleteFunc(list, func(c choice) bool {
		perMain[c.burner]++
		return perMain[c.burner] > mostPerMain
	})
}

// stovePans are the pots of a plan that stand on a flame, the served one first; one at least.
func stovePans(p *plan.Plan) []string {
	served := p.Served()[0]
	pans := []string{served}
	for i := range p.Steps {
		s := &p.Steps[i]
		if pot := s.PotName(); !s.Do.IsPreparation() && s.Do.Descriptor().Burner && (s.Do != plan.Heat || s.Burns()) && !slices.Contains(pans,
			pot) {
			pans = append(pans, pot)
		}
	}
	return pans
}

// inOwnWay reports whether two pans of a pudding would be on one burner at once.
func inOwnWay(c choice) bool {
	for i, u := range c.block.uses {
		for _, v := range c.block.uses[i+1:] {
			if u.kind == useBurner && v.kind == useBurner && u.pan != v.pan && c.burners[u.pan] == c.burners[v.pan] &&
				u.from < v.to-tolerance && v.from < u.to-tolerance {
				return true
			}
		}
	}
	return false
}

// graves are the rules of the stops and of the warnings of a block.
func graves(b *block) (stops, warnings map[watch.ID]bool) {
	stops, warnings = map[watch.ID]bool{}, map[watch.ID]bool{}
	for _, one := range b.found {
		if one.Severity == forecast.Stop {
			stops[one.Rule] = true
		} else {
			warnings[one.Rule] = true
		}
	}
	return stops, warnings
}

// beyond counts what is in one and not in the other.
func beyond(now, before map[watch.ID]bool) (n int) {
	for rule := range now {
		if !before[rule] {
			n++
		}
	}
	return n
}

// leaveOut finds the puddings that find no place in a kitchen that has nothing else to do, and says why:
// the others are placed without them.
func (s *solver) leaveOut() {
	s.cannot = map[int]Reason{}
	for i, list := range s.choices {
		fixed := slices.ContainsFunc(s.fixed, func(p placed) bool { return p.pudding == i })
		if fixed {
			continue
		}
		if len(list) == 0 {
			s.cannot[i] = NoBurner
			continue
		}
		left := s.left
		alone := newDay(s.g)
		ok := slices.ContainsFunc(list, func(c choice) bool { return len(s.candidates(alone, i, c)) > 0 })
		s.left = left
		if !ok {
			s.cannot[i], s.choices[i] = s.needs(list[0].block), nil
		}
	}
}

// needs is what a kitchen has not that a pudding needs.
func (s *solver) needs(b *block) Reason {
	for _, u := range b.uses {
		switch {
		case u.kind == useOven && s.g.Ovens < 1:
			return NoOven
		case u.kind == useFridge && u.amount > s.g.FridgeL:
			return NoFridge
		}
	}
	if !math.IsInf(s.notBefore, -1) {
		return TooLate
	}
	return TooMuch
}

func (s *solver) takes(burner string, pot vessel.Pot) bool {
	widest := s.g.Burners[burner].MaxPotMM
	return widest <= 0 || baseWidth(pot) <= widest
}

// baseWidth is how wide the bottom of a pot is.
func baseWidth(p vessel.Pot) measure.Millimetre {
	switch p.Shape {
	case vessel.Tray:
		return max(p.LengthMM, p.WidthMM)
	case vessel.Taper:
		return p.BottomMM
	case vessel.Bowl:
		return p.TopMM * 0.6 // the share of its top that a flame heats
	}
	return p.DiameterMM
}

// on returns a plan cooked on burners of the gathering, by pan; a pan without one is on that of the served
// pot.
func (g *Gathering) on(p *plan.Plan, burners map[string]string) *plan.Plan {
	main := burners[p.Served()[0]]
	changed := p.Clone()
	changed.Burner, changed.Burners = g.Burners[main].Burner, nil
	for name, pot := range changed.Pots {
		pot.Burner = ""
		if own := burners[name]; own != "" && own != main {
			if changed.Burners == nil {
				changed.Burners = map[string]vessel.Burner{}
			}
			changed.Burners[own], pot.Burner = g.Burners[own].Burner, own
		}
		changed.Pots[name] = pot
	}
	return changed
}

// An arrangement is in which order puddings are placed, and on which of its
// choices each; -1 for the one that costs least.
type arrangement struct {
	order  []int
	choice []int // by pudding
}

func (a arrangement) clone() arrangement {
	return arrangement{slices.Clone(a.order), slices.Clone(a.choice)}
}

// neighbours yields the arrangements that differ in one pudding: in its place in
// the order, or in its burner, and from which place on they do.
func (s *solver) neighbours(a arrangement, yield func(b arrangement, from int) bool) {
	for from := range a.order {
		for to := range a.order {
			if from == to || (from > to && from-to == 1) {
				continue // the same as the other way round
			}
			b := a.clone()
			b.order = slices.Delete(b.order, from, from+1)
			b.order = slices.Insert(b.order, to, a.order[from])
			if !yield(b, min(from, to)) {
				return
			}
		}
	}
	for place, i := range a.order {
		for c := range len(s.choices[i]) {
			if len(s.choices[i]) == 1 || a.choice[i] == c {
				continue
			}
			b := a.clone()
			b.choice[i] = c
			if !yield(b, place) {
				return
			}
		}
	}
}

// climb goes from an arrangement to better neighbours until there is none.
func (s *solver) climb(a arrangement) arrangement {
	cost, ok := s.lay(a, 0, nil)
	for better := true; better && !s.spent(); {
		better = false
		s.neighbours(a, func(b arrangement, from int) bool {
			if s.spent() {
				return false
			}
			// Where even the best could not be reached, it must beat this one.
			bound := &cost
			if !ok {
				bound = nil
			}
			if with, found := s.lay(b, from, bound); found && (!ok || with.Compare(cost) < 0) {
				a, cost, ok, better = b, with, true, true
				s.lay(a, 0, nil) // what was placed before is that of the new one
				return false
			}
			return true
		})
	}
	return a
}

// search climbs, and then again and again from the best arrangement with two
// puddings changed at random, until the tries are over: iterated local search
// (Lourenço, Martin and Stützle, 2003). Chance is a fixed sequence.
func (s *solver) search(order []int) {
	free := make([]int, len(s.choices))
	for i := range free {
		free[i] = -1
	}
	best := s.climb(arrangement{order, free})
	cost := s.bestCost
	const rounds = 400
	for round := 0; round < rounds && !s.spent() && len(order) > 1; round++ {
		a := best.clone()
		for range 2 {
			k, l := s.chance(len(order)), s.chance(len(order))
			a.order[k], a.order[l] = a.order[l], a.order[k]
		}
		i := order[s.chance(len(order))]
		if a.choice[i] = s.chance(len(s.choices[i])+1) - 1; a.choice[i] >= len(s.choices[i]) {
			a.choice[i] = -1
		}
		if a = s.climb(a); s.bestCost.Compare(cost) < 0 {
			best, cost = a, s.bestCost
		}
	}
}

// chance is the next number below n of a fixed sequence (Knuth's MMIX).
func (s *solver) chance(n int) int {
	s.sequence = s.sequence*6364136223846793005 + 1442695040888963407
	return int(s.sequence>>33) % n
}

// lay places an arrangement, the first so many puddings as they were laid before,
// and keeps it if it is the best. It gives up where it is no better than a bound.
func (s *solver) lay(a arrangement, from int, bound *Cost) (Cost, bool) {
	from = min(from, len(s.laid))
	d, cost := s.base.day, s.base.cost
	if from > 0 {
		d, cost = s.laid[from-1].day, s.laid[from-1].cost
	}
	laid := slices.Clip(s.laid[:from])
	for _, i := range a.order[from:] {
		var best *placed
		var least Cost
		for k, c := range s.choices[i] {
			if a.choice[i] >= 0 && a.choice[i] != k {
				continue
			}
			for _, one := range s.candidates(d, i, c) {
				if with := s.add(d, cost, &one); best == nil || with.Compare(least) < 0 {
					best, least = &one, with
				}
			}
		}
		if best == nil || (bound != nil && least.Compare(*bound) >= 0) {
			return cost, false
		}
		d, cost = s.with(d, best), least
		laid = append(laid, layer{best, d, cost})
	}
	if bound == nil {
		s.laid = laid
	}
	if s.best == nil || cost.Compare(s.bestCost) < 0 {
		s.best, s.bestCost = slices.Clone(s.fixed), cost
		for _, l := range laid {
			s.best = append(s.best, *l.placed)
		}
	}
	return cost, true
}

// A layer is one pudding more in a day.
type layer struct {
	placed *placed
	day    *day
	cost   Cost
}

// order lists the puddings that can be placed: hot before chilled, since those
// cannot wait, and the longest first.
func (s *solver) order() []int {
	var list []int
	for i, choices := range s.choices {
		if _, cannot := s.cannot[i]; !cannot && len(choices) > 0 && !slices.ContainsFunc(s.fixed, func(p placed) bool { return p.pudding == i }) {
			list = append(list, i)
		}
	}
	slices.SortStableFunc(list, func(a, b int) int {
		coldA, coldB := s.cold(a), s.cold(b)
		if coldA != coldB {
			if coldA {
				return 1
			}
			return -1
		}
		return cmp.Compare(s.choices[b][0].block.total, s.choices[a][0].block.total)
	})
	return list
}

func (s *solver) cold(i int) bool {
	serve := s.g.Puddings[i].Plan.Serve
	return serve == plan.Chilled || serve == plan.Room
}

// target is when a pudding should be ready.
func (s *solver) target(i int) float64 {
	if s.cold(i) {
		return s.due[i] - standReady
	}
	return s.due[i]
}

// add returns the cost with one pudding more in a day.
func (s *solver) add(d *day, c Cost, p *placed) Cost {
	c.Off += s.withoutFlame(d, p)
	c.Spoilt += p.choice.spoilt
	c.Warned += p.choice.warned
	off := s.target(p.pudding) - p.end()
	switch late := p.end() - s.due[p.pudding]; {
	case late > 0:
		c.Late += late
	case s.cold(p.pudding):
		c.Stand += math.Abs(off)
	default:
		c.Wait += max(0, off)
	}
	c.Begun = max(c.Begun, -p.begins())
	if was, kept := s.keep[p.pudding]; kept {
		const anotherBurner = 5 // minutes that are as bad
		c.Moved += math.Abs(p.start - float64(was.Start))
		if p.choice.burner != was.Burner {
			c.Moved += anotherBurner
		}
	}
	return c
}

// place finds the latest free place that is not late, or the earliest after.
func (s *solver) place(d *day, i int, c choice) (placed, bool) {
	latest := s.target(i) - c.block.total
	for at := latest; at >= latest-longest; {
		one, free, shift := s.fit(d, i, c, at)
		if free {
			return one, true
		}
		if at < s.notBefore || s.spent() {
			break
		}
		at -= shift
	}
	const step = 1.0
	for at := latest + step; at <= latest+longest && !s.spent(); at += step {
		if one, free, _ := s.fit(d, i, c, at); free {
			return one, true
		}
	}
	return placed{}, false
}

// patience is how many times the tries are tried where nothing is found that has all in it.
const patience = 3

// spent reports whether the tries are over and there is something to show, or no hope of it.
func (s *solver) spent() bool { return s.left <= 0 && (s.best != nil || s.left <= -patience*tries) }

// some places what finds a place, in order, where not all do: the others are told of.
func (s *solver) some(order []int) {
	d, cost := s.base.day, s.base.cost
	placedSome := slices.Clone(s.fixed)
	for _, i := range order {
		var best *placed
		var least Cost
		s.left = tries
		for _, c := range s.choices[i] {
			for _, one := range s.candidates(d, i, c) {
				if with := s.add(d, cost, &one); best == nil || with.Compare(least) < 0 {
					best, least = &one, with
				}
			}
		}
		if best != nil {
			d, cost = s.with(d, best), least
			placedSome = append(placedSome, *best)
		}
	}
	if len(placedSome) > len(s.fixed) {
		s.best, s.bestCost = placedSome, cost
	}
}

// fit tries one start. Where it is not free, shift is how much earlier the next
// try is worth while.
func (s *solver) fit(d *day, i int, c choice, at float64) (one placed, free bool, shift float64) {
	const step = 1.0
	s.left--
	one = placed{pudding: i, choice: c, start: at, due: s.due[i], burners: c.burners}
	if at < s.notBefore {
		return one, false, step
	}
	if shift := d.clash(&one); shift > 0 {
		return one, false, shift
	}
	if !s.placePreps(d, &one, s.keep[i]) || one.potBegins() < s.notBefore {
		return one, false, step
	}
	return one, true, 0
}

// placePreps puts the preparations as late as hands are free, each before what
// takes it.
func (s *solver) placePreps(d *day, one *placed, was Place) bool {
	b := one.choice.block
	one.preps, one.prepBurners = nil, map[int]string{}
	own := d.with(one)
	one.preps = make([]float64, len(b.preps))
	for k := len(b.preps) - 1; k >= 0; k-- {
		p := &b.preps[k]
		need := one.start + p.to
		if p.needed >= 0 {
			need = min(need, one.preps[p.needed])
		}
		latest := need - (p.to - p.from)
		found := false
		// What was to be begun before now is taken for done.
		if at, known := was.Preps[p.step]; known && (was.Begun || was.Locked || float64(at) < s.notBefore) {
			if float64(at) > latest+tolerance && !was.Begun {
				return false
			}
			one.preps[k] = float64(at)
			if p.burner {
				one.prepBurners[k], _ = s.prepBurner(own, p, float64(at))
			}
			own.prepare(p, float64(at), one.prepBurners[k])
			continue
		}
		for at := latest; at >= latest-p.earlier && at >= s.notBefore; {
			shift := own.handsTaken(at, at+p.hands)
			if p.pan != "" {
				shift = nearest(shift, overlap(own.unary[key{usePot, p.pan}], load{at, at + p.to - p.from, 1}))
			}
			if shift == 0 && p.burner {
				one.prepBurners[k], shift = s.prepBurner(own, p, at)
			}
			if shift == 0 {
				one.preps[k] = at
				own.prepare(p, at, one.prepBurners[k])
				found = true
				break
			}
			at -= shift
		}
		if !found {
			return false
		}
	}
	return true
}

// prepBurner finds a free burner for a preparation, the strongest first. shift is how much earlier it must be
// for the next to be free, 0 if one is.
func (s *solver) prepBurner(d *day, p *prep, at float64) (name string, shift float64) {
	for _, name := range s.strongest {
		taken := overlap(d.unary[key{useBurner, name}], load{at, at + p.to - p.from, 1})
		if taken == 0 {
			return name, 0
		}
		shift = nearest(shift, taken)
	}
	return "", max(shift, 1)
}

// write turns the best placing into tasks.
func (s *solver) write() *Timetable {
	t := &Timetable{Tasks: []Task{}, Late: []Late{}, Ready: make([]*measure.Minute, len(s.g.Puddings)), Cost: s.bestCost,
		Findings: make([][]watch.Finding, len(s.g.Puddings))}
	for _, i := range slices.Sorted(maps.Keys(s.cannot)) {
		t.Late = append(t.Late, Late{Pudding: i, Why: s.cannot[i]})
	}
	if s.best == nil && len(s.fixed) > 0 && len(s.order()) == 0 {
		s.best = s.fixed
	}
	for i, list := range s.choices {
		missing := !slices.ContainsFunc(s.best, func(p placed) bool { return p.pudding == i })
		if _, told := s.cannot[i]; len(list) > 0 && missing && !told {
			t.Late = append(t.Late, Late{Pudding: i, Why: s.crowdedOut(i)})
		}
	}
	for k := range s.best {
		p := &s.best[k]
		t.Findings[p.pudding] = p.choice.block.found
		ready := measure.Minute(p.end())
		t.Ready[p.pudding] = &ready
		if late := p.end() - s.due[p.pudding]; late > 0.5 {
			t.Late = append(t.Late, Late{Pudding: p.pudding, Minutes: math.Round(late), Why: s.why(p)})
		}
		b := p.choice.block
		place := Place{Pudding: p.pudding, Burner: p.choice.burner, Start: measure.Minute(p.start), Preps: map[int]measure.Minute{},
			Pans: p.burners}
		for k, at := range p.preps {
			place.Preps[b.preps[k].step] = measure.Minute(at)
			if name := p.prepBurners[k]; name != "" {
				if place.PrepBurners == nil {
					place.PrepBurners = map[int]string{}
				}
				place.PrepBurners[b.preps[k].step] = name
			}
		}
		if was, fixed := s.keep[p.pudding]; fixed {
			place.Locked, place.Begun, place.Slips = was.Locked, was.Begun, was.Slips
		}
		t.Places = append(t.Places, place)
		for i := range b.plan.Steps {
			step, r := &b.plan.Steps[i], b.steps[i]
			task := Task{Pudding: p.pudding, Step: i, Start: measure.Minute(p.start + r.from), End: measure.Minute(p.start + r.to)}
			handsFor := task.End - task.Start
			if k := slices.IndexFunc(b.preps, func(q prep) bool { return q.step == i }); k >= 0 {
				task.Start, task.End = measure.Minute(p.preps[k]), measure.Minute(p.preps[k]+b.preps[k].to-b.preps[k].from)
				task.Hands, handsFor = 1, measure.Minute(b.preps[k].hands)
				task.Burner, task.Pot = p.prepBurners[k], b.preps[k].pan
				need := p.start + b.preps[k].to
				if needed := b.preps[k].needed; needed >= 0 {
					need = p.preps[needed]
				}
				task.Slack = max(measure.Minute(need)-task.End, 0)
			} else {
				task.Slack = max(measure.Minute(s.due[p.pudding]-p.end()), 0)
			}
			if !step.Do.IsPreparation() {
				task.Pot = potName(b.plan, step.PotName())
				for _, u := range b.uses {
					if u.pan != step.PotName() || u.from != r.from || u.to != r.to {
						continue
					}
					switch u.kind {
					case useBurner:
						task.Burner = p.burners[u.pan]
					case useHands:
						task.Hands = u.amount
					}
				}
			} else if step.TakesFromPot() {
				task.Hands = 1
			}
			task.HandsEnd = task.Start + handsFor
			t.Tasks = append(t.Tasks, task)
		}
	}
	slices.SortStableFunc(t.Tasks, func(a, b Task) int {
		return cmp.Or(cmp.Compare(a.Start, b.Start), cmp.Compare(a.Pudding, b.Pudding), cmp.Compare(a.Step, b.Step))
	})
	slices.SortFunc(t.Late, func(a, b Late) int { return cmp.Compare(a.Pudding, b.Pudding) })
	t.hands(s.g.Hands)
	s.noFlame(t)
	return t
}

// crowdedOut is why a pudding that could be cooked alone has no place beside the others.
func (s *solver) crowdedOut(i int) Reason { return cmp.Or(s.potOf(i), TooMuch) }

// hands finds when somebody is free, and when more hands are wanted than there are.
func (t *Timetable) hands(people int) {
	const least = 5 // minutes that are worth telling of
	var edges []float64
	var loads []load
	last := 0.0
	for _, task := range t.Tasks {
		if task.Hands > 0 && task.HandsEnd > task.Start {
			loads = append(loads, load{float64(task.Start), float64(task.HandsEnd), task.Hands})
			edges = append(edges, float64(task.Start), float64(task.HandsEnd))
		}
		last = max(last, float64(task.End))
	}
	if len(edges) == 0 {
		return
	}
	edges = append(edges, last)
	slices.Sort(edges)
	edges = slices.Compact(edges)
	grow := func(list []Span, from, to float64) []Span {
		if n := len(list) - 1; n >= 0 && float64(list[n].End) >= from-tolerance {
			list[n].End = measure.Minute(to)
			return list
		}
		return append(list, Span{measure.Minute(from), measure.Minute(to)})
	}
	for k := 0; k+1 < len(edges); k++ {
		busy := sum(loads, edges[k])
		if busy <= float64(people-1)+tolerance {
			t.HandsFree = grow(t.HandsFree, edges[k], edges[k+1])
		}
		if busy > float64(people)+tolerance {
			t.Short = grow(t.Short, edges[k], edges[k+1])
		}
	}
	t.HandsFree = slices.DeleteFunc(t.HandsFree, func(s Span) bool { return s.End-s.Start < least })
	t.Short = slices.DeleteFunc(t.Short, func(s Span) bool { return s.End-s.Start < shortest })
}

func (s *solver) why(p *placed) Reason {
	if !math.IsInf(s.notBefore, -1) && s.target(p.pudding)-p.choice.block.total < s.notBefore {
		return TooLate
	}
	return cmp.Or(s.potOf(p.pudding), Taken)
}

// potOf is PotTaken where another pudding stands in the pot of one until it is served.
func (s *solver) potOf(i int) Reason {
	pot := func(i int) string {
		p := s.g.Puddings[i].Plan
		return potName(p, p.Served()[0])
	}
	for _, other := range s.best {
		if own := pot(i); other.pudding != i && own != "" && own == pot(other.pudding) {
			return PotTaken
		}
	}
	return ""
}
