package timetable

import (
	"maps"
	"math"
	"slices"
)

// A load takes a part of something that is shared, between two times.
type load struct{ from, to, amount float64 }

// A day is what is taken so far.
type day struct {
	g       *Gathering
	unary   map[key][]load // burners and pots: by one at a time
	hands   []load
	ovens   []load
	fridges []load
	hot     []load // what is kept hot until it is served
}

// A key names a burner or a pot.
type key struct {
	kind useKind
	name string
}

func newDay(g *Gathering) *day { return &day{g: g, unary: map[key][]load{}} }

const tolerance = 1e-6

// with returns the day with one more pudding in it.
func (d *day) with(p *placed) *day {
	next := &day{g: d.g, unary: maps.Clone(d.unary), hands: slices.Clip(d.hands), ovens: slices.Clip(d.ovens), fridges: slices.Clip(d.fridges),
		hot: d.hot}
	for _, u := range p.choice.block.uses {
		one := load{p.start + u.from, p.start + u.to, u.amount}
		switch u.kind {
		case useBurner:
			k := key{useBurner, p.burners[u.pan]}
			next.unary[k] = append(slices.Clip(next.unary[k]), one)
		case usePot:
			if _, counted := d.g.Pots[u.name]; counted && u.name != "" {
				k := key{usePot, u.name}
				next.unary[k] = append(slices.Clip(next.unary[k]), p.until(u, one))
			}
		case useHands:
			next.hands = append(next.hands, one)
		case useOven:
			one.amount = 1
			next.ovens = append(next.ovens, one)
		case useFridge:
			next.fridges = append(next.fridges, one)
		}
	}
	for k, at := range p.preps {
		next.prepare(&p.choice.block.preps[k], at, p.prepBurners[k])
	}
	return next
}

// prepare takes what a preparation takes.
func (d *day) prepare(p *prep, at float64, burner string) {
	d.hands = append(d.hands, load{at, at + p.hands, 1})
	all := load{at, at + p.to - p.from, 1}
	if burner != "" {
		k := key{useBurner, burner}
		d.unary[k] = append(slices.Clip(d.unary[k]), all)
	}
	if _, counted := d.g.Pots[p.pan]; counted && p.pan != "" {
		k := key{usePot, p.pan}
		d.unary[k] = append(slices.Clip(d.unary[k]), all)
	}
}

// until is a load of a pot, until what is in it is served.
func (p *placed) until(u use, l load) load {
	if u.served {
		l.to = max(l.to, p.due)
	}
	return l
}

// clash returns how much earlier a pudding must be so that what clashes first no
// longer does, 0 if nothing does.
func (d *day) clash(p *placed) float64 {
	shift := 0.0
	var room [3][8]load
	hands, ovens, fridges := room[0][:0], room[1][:0], room[2][:0]
	for _, u := range p.choice.block.uses {
		mine := load{p.start + u.from, p.start + u.to, u.amount}
		switch u.kind {
		case useBurner:
			shift = nearest(shift, overlap(d.unary[key{useBurner, p.burners[u.pan]}], mine))
		case usePot:
			if u.name != "" {
				shift = nearest(shift, overlap(d.unary[key{usePot, u.name}], p.until(u, mine)))
			}
		case useHands:
			hands = append(hands, mine)
		case useOven:
			mine.amount = 1
			ovens = append(ovens, mine)
		case useFridge:
			fridges = append(fridges, mine)
		}
	}
	if shift > 0 {
		return shift
	}
	shift = over(d.hands, hands, float64(d.g.Hands), float64(d.g.Hands))
	shift = nearest(shift, over(d.ovens, ovens, float64(d.g.Ovens), math.Inf(1)))
	return nearest(shift, over(d.fridges, fridges, d.g.FridgeL, math.Inf(1)))
}

// overlap returns how much earlier a load must be to end where the next that it
// overlaps begins; 0 if it overlaps none.
func overlap(taken []load, mine load) float64 {
	shift := 0.0
	for _, other := range taken {
		if mine.from < other.to-tolerance && other.from < mine.to-tolerance {
			shift = nearest(shift, mine.to-other.from)
		}
	}
	return shift
}

// nearest is the smaller of two shifts, of which 0 is none.
func nearest(a, b float64) float64 {
	if a == 0 || (b > 0 && b < a) {
		return b
	}
	return a
}

// over returns how much earlier mine must be so that where they come first to
// more than there is one of them ends before one of the others begins; 0 if they
// never do. One pudding by itself counts own at most: what one cook cannot do at once
// is told, and is no reason never to cook it.
func over(taken, mine []load, capacity, own float64) float64 {
	shift := 0.0
	check := func(at float64) {
		here := min(sum(mine, at), own)
		if here <= 0 || here+sum(taken, at) <= capacity+tolerance {
			return
		}
		if here > capacity+tolerance {
			shift = nearest(shift, never) // it has not enough for itself
		}
		for _, one := range mine {
			for _, other := range taken {
				if covers(one, at) && covers(other, at) {
					shift = nearest(shift, one.to-other.from)
				}
			}
		}
	}
	for _, one := range mine {
		check(one.from)
		for _, other := range taken {
			if other.from > one.from && other.from < one.to {
				check(other.from)
			}
		}
	}
	return shift
}

// never is a shift that nobody looks beyond.
const never = 10 * longest

func covers(l load, at float64) bool { return l.from <= at+tolerance && at < l.to-tolerance }

func sum(loads []load, at float64) (total float64) {
	for _, one := range loads {
		if covers(one, at) {
			total += one.amount
		}
	}
	return total
}

// handsTaken returns how much earlier a whole person must be asked for between two
// times to be free, 0 if one is.
func (d *day) handsTaken(from, to float64) float64 {
	return over(d.hands, []load{{from, to, 1}}, float64(d.g.Hands), 1)
}
