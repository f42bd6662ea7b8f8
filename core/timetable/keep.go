package timetable

import (
	"cmp"
	"maps"
	"math"
	"slices"

	"kirdu/core/measure"
	"kirdu/core/plan"
)

// A Place is where a pudding is in a timetable, in minutes after the gathering is
// served.
type Place struct {
	Pudding int                    `json:"pudding"`
	Burner  string                 `json:"burner"`          // of the served pot
	Start   measure.Minute         `json:"start"`           // of that pot
	Preps   map[int]measure.Minute `json:"preps,omitempty"` // starts of preparations, by step
	Pans    map[string]string      `json:"pans,omitempty"`  // burners of the pans beside
	// PrepBurners are those of what is prepared over a flame, by step.
	PrepBurners map[int]string `json:"prep_burners,omitempty"`
	Locked      bool           `json:"locked,omitempty"` // put there by hand
	Begun       bool           `json:"begun,omitempty"`  // it cooks already: it is where it is
	Slips       []Slip         `json:"slips,omitempty"`
}

// A Slip is so many minutes more, or fewer, at a minute of the pot.
type Slip struct {
	At measure.Minute `json:"at"`
	By measure.Minute `json:"by"`
}

// Why a task cannot be moved.
var (
	ErrPast   = measure.Code("timetable.past")
	ErrBegun  = measure.Code("timetable.begun")
	ErrTaker  = measure.Code("timetable.taker")
	ErrBurner = measure.Code("timetable.burner")
	ErrNoTask = measure.Code("timetable.no-task")
	ErrTooFar = measure.Code("timetable.too-far")
	ErrNoRoom = measure.Code("timetable.no-room")
)

// Takes returns how long the pots of a pudding take where it is, without slips.
func Takes(g *Gathering, p Place) measure.Minute {
	return measure.Minute(newBlock(g.placedOn(p)).total)
}

// PlacedOn is the plan of a place on its burners; as it is where one of them is no longer there.
func (g *Gathering) PlacedOn(p Place) *plan.Plan {
	if _, there := g.Burners[p.Burner]; !there {
		return g.Puddings[p.Pudding].Plan
	}
	return g.placedOn(p)
}

func (g *Gathering) placedOn(p Place) *plan.Plan {
	made := g.Puddings[p.Pudding].Plan
	return g.on(made, p.burners(made))
}

// burners are those of a place, by pan.
func (p Place) burners(made *plan.Plan) map[string]string {
	all := map[string]string{}
	for pan, burner := range p.Pans {
		all[pan] = burner
	}
	all[made.Served()[0]] = p.Burner
	return all
}

// Lay returns the timetable with every pudding where it is, without looking for
// better ones or at what clashes.
func Lay(g *Gathering, places []Place) *Timetable {
	s := &solver{g: g, notBefore: math.Inf(-1), keep: map[int]Place{}, choices: make([][]choice, len(g.Puddings))}
	for i := range g.Puddings {
		s.due = append(s.due, float64(g.Puddings[i].Serve))
	}
	d := newDay(g)
	for _, p := range places {
		if p.Pudding < 0 || p.Pudding >= len(g.Puddings) {
			continue
		}
		block := newBlock(g.placedOn(p)).slipped(p.Slips)
		c := choice{burner: p.Burner, burners: p.burners(g.Puddings[p.Pudding].Plan), block: block}
		one := placed{pudding: p.Pudding, choice: c, start: float64(p.Start), due: s.due[p.Pudding], burners: c.burners,
			prepBurners: map[int]string{}}
		for k, prep := range block.preps {
			one.prepBurners[k] = p.PrepBurners[prep.step]
			at, known := p.Preps[prep.step]
			if !known {
				at = p.Start + measure.Minute(prep.from)
			}
			one.preps = append(one.preps, float64(at))
		}
		s.keep[p.Pudding], s.choices[p.Pudding] = p, []choice{c}
		s.best, s.bestCost, d = append(s.best, one), s.add(d, s.bestCost, &one), s.with(d, &one)
	}
	s.bestCost.Moved = 0
	return s.write()
}

// fix places what is fixed: what cooks already as it is, what was put by hand if
// it can be there.
func (s *solver) fix(options Options) {
	s.base = layer{day: newDay(s.g)}
	s.keep = map[int]Place{}
	for _, p := range options.Keep {
		p.Locked, p.Begun = false, false
		s.keep[p.Pudding] = p
	}
	fixed := slices.Clone(options.Fixed)
	slices.SortStableFunc(fixed, func(a, b Place) int { return cmp.Compare(rank(a), rank(b)) })
	for _, place := range fixed {
		if place.Pudding < 0 || place.Pudding >= len(s.choices) {
			continue
		}
		c, ok := s.choiceOf(place)
		if !ok {
			continue
		}
		if one, ok := s.exactly(place, c); ok {
			s.keep[place.Pudding] = place
			s.base.cost = s.add(s.base.day, s.base.cost, &one)
			s.base.day = s.with(s.base.day, &one)
			s.fixed = append(s.fixed, one)
		}
	}
}

// choiceOf is a pudding on the burners of its place, or on the best with the same burner under the served pot
// where those would be in each other's way.
func (s *solver) choiceOf(place Place) (choice, bool) {
	list := s.choices[place.Pudding]
	want := place.burners(s.g.Puddings[place.Pudding].Plan)
	same := slices.IndexFunc(list, func(c choice) bool { return maps.Equal(c.burners, want) })
	if same < 0 {
		same = slices.IndexFunc(list, func(c choice) bool { return c.burner == place.Burner })
	}
	if same < 0 {
		return choice{}, false
	}
	return list[same], true
}

// rank puts what cooks already first.
func rank(p Place) int {
	if p.Begun {
		return 0
	}
	return 1
}

// exactly places a pudding where it must be.
func (s *solver) exactly(place Place, c choice) (placed, bool) {
	c.block = c.block.slipped(place.Slips)
	one := placed{pudding: place.Pudding, choice: c, start: float64(place.Start), due: s.due[place.Pudding], burners: c.burners}
	d := s.base.day
	if !place.Begun && (one.start < s.notBefore || d.clash(&one) > 0) {
		return one, false
	}
	before := s.notBefore
	if place.Begun {
		s.notBefore = math.Inf(-1)
	}
	ok := s.placePreps(d, &one, place)
	s.notBefore = before
	if !ok && place.Begun {
		// There is no free hand for what is done already: it was done at its time.
		for k, p := range c.block.preps {
			one.preps[k] = one.start + p.from
		}
		ok = true
	}
	return one, ok && (place.Begun || one.potBegins() >= s.notBefore)
}

// candidates are the places for a pudding on one burner: the best by itself, and
// the nearest to where it was.
func (s *solver) candidates(d *day, i int, c choice) (list []placed) {
	if one, ok := s.place(d, i, c); ok {
		list = append(list, one)
	}
	was, kept := s.keep[i]
	if !kept || was.Burner != c.burner {
		return list
	}
	const furthest = 180
	for off := 0.0; off <= furthest && !s.spent(); off++ {
		for _, at := range []float64{float64(was.Start) - off, float64(was.Start) + off} {
			if one, free, _ := s.fit(d, i, c, at); free {
				return append(list, one)
			}
		}
	}
	return list
}

// Move puts one task at another time, and its pudding on another burner if one is
// named. What depends on it follows: a task of a pot takes its whole pot along, a
// preparation goes by itself; the other puddings move as little as possible.
// Errors: why it cannot be there.
func Move(g *Gathering, options Options, places []Place, pudding, step int, to measure.Minute, burner string) (*Timetable, error) {
	k := slices.IndexFunc(places, func(p Place) bool { return p.Pudding == pudding })
	if k < 0 || pudding >= len(g.Puddings) || step < 0 || step >= len(g.Puddings[pudding].Plan.Steps) {
		return nil, ErrNoTask
	}
	place := places[k]
	if slices.ContainsFunc(options.Fixed, func(p Place) bool { return p.Pudding == pudding && p.Begun }) {
		return nil, ErrBegun
	}
	if options.NotBefore != nil && to < *options.NotBefore {
		return nil, ErrPast
	}
	if burner != "" && burner != place.Burner {
		b, known := g.Burners[burner]
		pot := g.Puddings[pudding].Plan.Pots[g.Puddings[pudding].Plan.Served()[0]]
		if !known || (b.MaxPotMM > 0 && baseWidth(pot) > b.MaxPotMM) {
			return nil, ErrBurner
		}
		place.Burner = burner
	}
	s := &solver{g: g, names: slices.Sorted(maps.Keys(g.Burners)), choices: make([][]choice, len(g.Puddings))}
	s.choices[pudding] = s.choose(g.Puddings[pudding].Plan)
	c, ok := s.choiceOf(place)
	if !ok {
		return nil, ErrBurner
	}
	block := c.block
	place.Locked, place.Pans = true, c.burners
	if at := slices.IndexFunc(block.preps, func(p prep) bool { return p.step == step }); at >= 0 {
		prep := block.preps[at]
		need := float64(place.Start) + prep.to
		if float64(to)+prep.to-prep.from > need+tolerance {
			return nil, ErrTaker
		}
		place.Preps = map[int]measure.Minute{step: to}
	} else {
		place.Start, place.Preps = to-measure.Minute(block.steps[step].from), nil
	}
	if math.Abs(float64(place.Start-places[k].Start)) > longest {
		return nil, ErrTooFar
	}
	options.Keep = places
	options.Fixed = append(slices.DeleteFunc(slices.Clone(options.Fixed), func(p Place) bool { return p.Pudding == pudding }), place)
	t := Solve(g, options)
	at := slices.IndexFunc(t.Places, func(p Place) bool { return p.Pudding == pudding })
	if at < 0 || !t.Places[at].Locked {
		if options.NotBefore != nil && float64(place.Start)+first(block) < float64(*options.NotBefore) {
			return nil, ErrPast
		}
		return nil, ErrNoRoom
	}
	return t, nil
}

// first is when the first task of a block begins.
func first(b *block) float64 {
	begins := 0.0
	for _, p := range b.preps {
		begins = min(begins, p.from)
	}
	return begins
}

// Later works a timetable out anew for cooks who are so many minutes late: what
// cooks already takes so much longer from now on, what is not begun cannot begin
// before its time and so many minutes, and all moves as little as possible. only
// names one pudding, -1 means all.
func Later(g *Gathering, options Options, places []Place, now, by measure.Minute, only int) *Timetable {
	options.Keep = places
	options.Fixed = slices.Clone(options.Fixed)
	begun := map[int]bool{}
	for k := range options.Fixed {
		p := &options.Fixed[k]
		begun[p.Pudding] = p.Begun
		if p.Begun && (only < 0 || only == p.Pudding) {
			p.Slips = append(slices.Clip(p.Slips), Slip{now - p.Start, by})
		}
	}
	if only >= 0 {
		for _, p := range places {
			if p.Pudding == only && !begun[only] {
				p.Start, p.Preps, p.Locked = p.Start+by, nil, true
				options.Fixed = append(slices.DeleteFunc(options.Fixed, func(q Place) bool { return q.Pudding == only }), p)
			}
		}
		return Solve(g, options)
	}
	start := measure.Minute(math.Inf(1))
	for _, p := range places {
		if !begun[p.Pudding] {
			start = min(start, p.Start)
			for _, at := range p.Preps {
				start = min(start, at)
			}
		}
	}
	start += by
	if options.NotBefore != nil {
		start = max(start, *options.NotBefore)
	}
	if !math.IsInf(float64(start), 0) {
		options.NotBefore = &start
	}
	return Solve(g, options)
}
