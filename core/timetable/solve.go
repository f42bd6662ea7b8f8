package timetable

import (
	"cmp"
	"fmt"
	"maps"
	"math"
	"slices"

	"kirdu/core/measure"
	"kirdu/core/plan"
	"kirdu/core/vessel"
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
}

// A Late is a pudding that cannot be ready in time, by how much, and what would
// help.
type Late struct {
	Pudding int     `json:"pudding"`
	Minutes float64 `json:"minutes"` // 0 where it cannot be cooked at all
	Why     string  `json:"why"`
	Remedy  string  `json:"remedy"`
}

// A Timetable is a gathering's tasks in the order of their beginning.
type Timetable struct {
	Tasks []Task
	Late  []Late
	Ready []*measure.Minute // when each pudding is ready; nil for one that cannot be cooked
	Cost  Cost
}

// Cost is what a timetable is judged by, each in minutes, the first that differs
// decides. Source: the plan format.
type Cost struct {
	Late  float64 // puddings after their time, in sum
	Wait  float64 // hot ones before it
	Stand float64 // chilled ones off the half hour that they stand ready
	Begun float64 // from the first task to the serving
}

// Compare orders two costs; a minute or less of anything is the same.
func (c Cost) Compare(d Cost) int {
	const same = 0.5
	for _, pair := range [][2]float64{{c.Late, d.Late}, {c.Wait, d.Wait}, {c.Stand, d.Stand}, {c.Begun, d.Begun}} {
		if math.Abs(pair[0]-pair[1]) > same {
			return cmp.Compare(pair[0], pair[1])
		}
	}
	return 0
}

// Options bound a timetable.
type Options struct {
	NotBefore *measure.Minute // nothing can begin before; nil: any time
	Effort    int             // how many times the usual search; 0: once
}

// standReady is how long a chilled pudding stands ready. Source: the plan format.
const standReady = 30.0

// longest is how far before or after its time a pudding is looked for, in
// minutes.
const longest = 24 * 60.0

// tries bounds the search, in starts that are tried: what is found by then is good
// in all gatherings that were tried, see the tests.
const tries = 18000

// Solve finds a timetable. Puddings are placed one after the other, each at the
// latest place that is free, then its preparations at theirs, before those that
// take them. The order is first improved by moving one pudding at a time to
// another place in it, each on the burner that costs least; then a search in depth
// over orders and burners, in which branches that can no longer be better are cut
// (Land and Doig, 1960), goes on from there. Both end after a fixed number of
// tries, so that the same gathering always has the same timetable.
func Solve(g *Gathering, options Options) *Timetable {
	s := &solver{g: g, notBefore: math.Inf(-1), left: tries * max(1, options.Effort)}
	if options.NotBefore != nil {
		s.notBefore = float64(*options.NotBefore)
	}
	s.prepare()
	s.improve(s.order(nil))
	s.search(newDay(g), nil, Cost{})
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
	left      int
	best      []placed
	bestCost  Cost
}

// A choice is a pudding on one burner.
type choice struct {
	burner string
	block  *block
}

// A placed pudding.
type placed struct {
	pudding int
	choice  choice
	start   float64
	preps   []float64         // starts, by prep
	burners map[string]string // by pan
}

func (p *placed) end() float64 { return p.start + p.choice.block.total }

// begins is when its first task begins.
func (p *placed) begins() float64 {
	first := p.start
	for _, at := range p.preps {
		first = min(first, at)
	}
	for _, u := range p.choice.block.uses {
		first = min(first, p.start+u.from)
	}
	return first
}

// prepare lays every pudding out on every burner that takes its pot.
func (s *solver) prepare() {
	s.names = slices.Sorted(maps.Keys(s.g.Burners))
	for i := range s.g.Puddings {
		p := s.g.Puddings[i].Plan
		s.due = append(s.due, float64(s.g.Puddings[i].Serve))
		var list []choice
		for _, name := range s.names {
			if !s.takes(name, p.Pots[p.Served()[0]]) {
				continue
			}
			list = append(list, choice{name, newBlock(on(p, s.g.Burners[name].Burner))})
		}
		// The quickest first: it leaves most room.
		slices.SortStableFunc(list, func(a, b choice) int { return cmp.Compare(a.block.total, b.block.total) })
		s.choices = append(s.choices, list)
	}
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

// on returns the plan cooked on a burner.
func on(p *plan.Plan, b vessel.Burner) *plan.Plan {
	same := b.Kind == p.Burner.Kind && b.PowerW == p.Burner.PowerW && b.Efficiency == p.Burner.Efficiency && len(b.FlameW) == 0 && len(p.Burner.FlameW) == 0
	if same {
		return p
	}
	changed := p.Clone()
	changed.Burner, changed.Burners = b, nil
	for name, pot := range changed.Pots {
		pot.Burner = ""
		changed.Pots[name] = pot
	}
	return changed
}

// improve moves one pudding at a time to another place in the order, as long as
// that is better and tries are left for the search in depth.
func (s *solver) improve(order []int) {
	s.keep(s.inOrder(order))
	enough := s.left / 4
	for better := true; better && s.left > enough; {
		better = false
		for from := range order {
			for to := range order {
				if from == to || s.left <= enough {
					continue
				}
				tried := slices.Delete(slices.Clone(order), from, from+1)
				tried = slices.Insert(tried, to, order[from])
				if s.keep(s.inOrder(tried)) {
					order, better = tried, true
				}
			}
		}
	}
}

// keep takes over a complete placing that is better than the best.
func (s *solver) keep(done []placed, cost Cost) bool {
	if len(done) < s.cookable() || (s.best != nil && cost.Compare(s.bestCost) >= 0) {
		return false
	}
	s.best, s.bestCost = slices.Clone(done), cost
	return true
}

// inOrder places the puddings in an order, each on the burner that costs least.
// It gives up where it is no better than the best.
func (s *solver) inOrder(order []int) (done []placed, cost Cost) {
	d := newDay(s.g)
	for _, i := range order {
		var best *placed
		var least Cost
		for _, c := range s.choices[i] {
			one, ok := s.place(d, i, c)
			if !ok {
				continue
			}
			if with := s.add(cost, &one); best == nil || with.Compare(least) < 0 {
				best, least = &one, with
			}
		}
		if best == nil || (s.best != nil && least.Compare(s.bestCost) >= 0 && least.Begun >= s.bestCost.Begun) {
			return nil, cost
		}
		done, cost = append(done, *best), least
		d = d.with(best)
	}
	return done, cost
}

// search places one more pudding in every way.
func (s *solver) search(d *day, done []placed, cost Cost) {
	if s.best != nil && cost.Compare(s.bestCost) >= 0 && len(done) < s.cookable() {
		return
	}
	if len(done) == s.cookable() {
		s.keep(done, cost)
		return
	}
	for _, i := range s.order(done) {
		for _, c := range s.choices[i] {
			if s.spent() {
				return
			}
			one, ok := s.place(d, i, c)
			if !ok {
				continue
			}
			next := d.with(&one)
			s.search(next, append(done, one), s.add(cost, &one))
		}
	}
}

func (s *solver) cookable() (n int) {
	for _, list := range s.choices {
		if len(list) > 0 {
			n++
		}
	}
	return n
}

// order lists the puddings that are not placed yet: hot before chilled, since
// those cannot wait, and the longest first.
func (s *solver) order(done []placed) []int {
	var list []int
	for i, choices := range s.choices {
		if len(choices) > 0 && !slices.ContainsFunc(done, func(p placed) bool { return p.pudding == i }) {
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

// add returns the cost with one more pudding.
func (s *solver) add(c Cost, p *placed) Cost {
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

// spent reports whether the tries are over and there is something to show.
func (s *solver) spent() bool { return s.left <= 0 && s.best != nil }

// fit tries one start. Where it is not free, shift is how much earlier the next
// try is worth while.
func (s *solver) fit(d *day, i int, c choice, at float64) (one placed, free bool, shift float64) {
	const step = 1.0
	s.left--
	one = placed{pudding: i, choice: c, start: at, burners: map[string]string{}}
	if at < s.notBefore {
		return one, false, step
	}
	main := c.block.plan.Served()[0]
	one.burners[main] = c.burner
	if shift := d.clash(&one); shift > 0 {
		return one, false, shift
	}
	for _, u := range c.block.uses {
		if u.kind == useBurner && one.burners[u.pan] == "" {
			one.burners[u.pan] = s.sideBurner(d, &one, u.pan)
			if one.burners[u.pan] == "" {
				return one, false, step
			}
		}
	}
	if !s.placePreps(d, &one) || one.begins() < s.notBefore {
		return one, false, step
	}
	return one, true, 0
}

// sideBurner finds a free burner for a pan beside the main pot; "" for none.
func (s *solver) sideBurner(d *day, one *placed, pan string) string {
	for _, name := range s.names {
		if !s.takes(name, one.choice.block.plan.Pots[pan]) {
			continue
		}
		if d.burnerFree(one, pan, name) {
			return name
		}
	}
	return ""
}

// placePreps puts the preparations as late as hands are free, each before what
// takes it.
func (s *solver) placePreps(d *day, one *placed) bool {
	b := one.choice.block
	one.preps = make([]float64, len(b.preps))
	own := d.with(one)
	for k := len(b.preps) - 1; k >= 0; k-- {
		p := &b.preps[k]
		need := one.start + p.to
		if p.needed >= 0 {
			need = min(need, one.preps[p.needed])
		}
		latest := need - (p.to - p.from)
		found := false
		for at := latest; at >= latest-p.earlier && at >= s.notBefore; {
			shift := own.handsTaken(at, at+p.hands)
			if shift == 0 {
				one.preps[k] = at
				own.hands = append(own.hands, load{at, at + p.hands, 1})
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

// write turns the best placing into tasks.
func (s *solver) write() *Timetable {
	t := &Timetable{Tasks: []Task{}, Late: []Late{}, Ready: make([]*measure.Minute, len(s.g.Puddings)), Cost: s.bestCost}
	for i, list := range s.choices {
		if len(list) == 0 {
			t.Late = append(t.Late, Late{Pudding: i, Why: "no burner takes its pot", Remedy: "Take a smaller pot, or borrow a larger burner."})
		}
	}
	if s.best == nil && s.cookable() > 0 {
		for i := range s.choices {
			t.Late = append(t.Late, Late{Pudding: i, Why: "they do not go into two days", Remedy: "Drop one, or borrow a burner and a pair of hands."})
		}
		return t
	}
	for k := range s.best {
		p := &s.best[k]
		ready := measure.Minute(p.end())
		t.Ready[p.pudding] = &ready
		if late := p.end() - s.due[p.pudding]; late > 0.5 {
			t.Late = append(t.Late, Late{Pudding: p.pudding, Minutes: math.Round(late), Why: s.why(p), Remedy: remedy(s, p, late)})
		}
		b := p.choice.block
		for i := range b.plan.Steps {
			step, r := &b.plan.Steps[i], &b.f.Steps[i]
			task := Task{Pudding: p.pudding, Step: i, Start: measure.Minute(p.start + r.StartMin), End: measure.Minute(p.start + r.EndMin)}
			handsFor := task.End - task.Start
			if k := slices.IndexFunc(b.preps, func(q prep) bool { return q.step == i }); k >= 0 {
				task.Start, task.End = measure.Minute(p.preps[k]), measure.Minute(p.preps[k]+b.preps[k].to-b.preps[k].from)
				task.Hands, handsFor = 1, measure.Minute(b.preps[k].hands)
			}
			if !step.Do.IsPreparation() {
				task.Pot = potName(b.plan, step.PotName())
				for _, u := range b.uses {
					if u.pan != step.PotName() || u.from != r.StartMin || u.to != r.EndMin {
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
	return t
}

func (s *solver) why(p *placed) string {
	if !math.IsInf(s.notBefore, -1) && s.target(p.pudding)-p.choice.block.total < s.notBefore {
		return "it takes longer than there is time left"
	}
	return "burners, pots or hands are taken by the others"
}

func remedy(s *solver, p *placed, late float64) string {
	name := s.g.Puddings[p.pudding].Plan.Name
	if len(s.g.Puddings) > 1 {
		return fmt.Sprintf("Begin %.0f minutes earlier, drop %s, or borrow a burner and a pair of hands.", math.Ceil(late), name)
	}
	return fmt.Sprintf("Begin %.0f minutes earlier, or serve it later.", math.Ceil(late))
}
