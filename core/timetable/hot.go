package timetable

import (
	"cmp"
	"slices"

	"kirdu/core/measure"
)

// staysHot is for how many minutes a covered pot keeps hot off the flame: from the boil to HotHold. Source: our
// own judgement of two litres under a lid; a small pot is there sooner.
const staysHot = 15.0

// waits is when a pudding is kept hot over a flame until it is served; nothing where it is served soon, or cold.
func (s *solver) waits(p *placed) (load, bool) {
	one := load{p.end() + staysHot, s.due[p.pudding], 1}
	return one, !s.cold(p.pudding) && one.to > one.from+tolerance
}

// with returns the day with one more pudding in it, and with what it is kept hot for.
func (s *solver) with(d *day, p *placed) *day {
	next := d.with(p)
	if one, is := s.waits(p); is {
		next.hot = append(slices.Clip(next.hot), one)
	}
	return next
}

// A pot that is kept hot may stand on any burner, so what counts is how many are taken. withoutFlame is for how
// many minutes, in sum, pots that wait find none, with one pudding more in a day.
func (s *solver) withoutFlame(d *day, p *placed) float64 {
	hot, is := s.waits(p)
	if !is && len(d.hot) == 0 {
		return 0
	}
	busy := d.flames()
	before := crowded(busy, d.hot, len(s.g.Burners))
	holding := d.hot
	if is {
		holding = append(slices.Clip(holding), hot)
	}
	return crowded(append(busy, p.flames()...), holding, len(s.g.Burners)) - before
}

// flames are the stretches in which a burner is cooked on.
func (d *day) flames() (list []load) {
	for k, loads := range d.unary {
		if k.kind == useBurner {
			list = append(list, loads...)
		}
	}
	return list
}

func (p *placed) flames() (list []load) {
	for _, u := range p.choice.block.uses {
		if u.kind == useBurner {
			list = append(list, load{p.start + u.from, p.start + u.to, 1})
		}
	}
	for k, at := range p.preps {
		if p.prepBurners[k] != "" {
			list = append(list, load{at, at + p.choice.block.preps[k].to - p.choice.block.preps[k].from, 1})
		}
	}
	return list
}

// crowded is for how many minutes, in sum, there are more pots that are kept hot than burners that are free.
func crowded(busy, hot []load, burners int) (minutes float64) {
	for _, span := range stretches(busy, hot) {
		if waiting := count(hot, span.from); waiting > 0 {
			minutes += (span.to - span.from) * float64(min(waiting, max(0, waiting+count(busy, span.from)-burners)))
		}
	}
	return minutes
}

// stretches parts the time of what is kept hot where anything begins or ends.
func stretches(busy, hot []load) (list []span) {
	var edges []float64
	for _, one := range hot {
		edges = append(edges, one.from, one.to)
		for _, other := range busy {
			if other.to > one.from && other.from < one.to {
				edges = append(edges, max(other.from, one.from), min(other.to, one.to))
			}
		}
	}
	slices.Sort(edges)
	for k := 1; k < len(edges); k++ {
		if edges[k] > edges[k-1]+tolerance {
			list = append(list, span{edges[k-1], edges[k]})
		}
	}
	return list
}

func count(loads []load, at float64) (n int) {
	for _, one := range loads {
		if covers(one, at) {
			n++
		}
	}
	return n
}

// noFlame finds, for each pudding, when it waits hot and all burners are taken: those that wait longest have the
// free ones.
func (s *solver) noFlame(t *Timetable) {
	t.NoFlame = make([][]Span, len(s.g.Puddings))
	var busy, hot []load
	var whose []int
	for k := range s.best {
		busy = append(busy, s.best[k].flames()...)
		if one, is := s.waits(&s.best[k]); is {
			hot, whose = append(hot, one), append(whose, s.best[k].pudding)
		}
	}
	for _, part := range stretches(busy, hot) {
		free := len(s.g.Burners) - count(busy, part.from)
		var waiting []int
		for k := range hot {
			if covers(hot[k], part.from) {
				waiting = append(waiting, k)
			}
		}
		slices.SortStableFunc(waiting, func(a, b int) int { return cmp.Compare(hot[a].from, hot[b].from) })
		for _, k := range waiting[min(len(waiting), max(0, free)):] {
			list := &t.NoFlame[whose[k]]
			if n := len(*list) - 1; n >= 0 && float64((*list)[n].End) >= part.from-tolerance {
				(*list)[n].End = measure.Minute(part.to)
				continue
			}
			*list = append(*list, Span{measure.Minute(part.from), measure.Minute(part.to)})
		}
	}
}
