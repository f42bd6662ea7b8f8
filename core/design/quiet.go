package design

import (
	"slices"

	"kirdu/core/forecast"
	"kirdu/core/measure"
	"kirdu/core/plan"
	"kirdu/core/vessel"
	"kirdu/core/watch"
)

// quietRounds is how many changes Quiet makes at most.
const quietRounds = 6

// graves counts the stops and the warnings of a plan: a stop weighs more than all warnings.
func graves(p *plan.Plan, f *forecast.Forecast) (n int, at []int) {
	const stop = 100
	for _, one := range watch.Findings(p, f) {
		switch one.Severity {
		case forecast.Stop:
			n += stop
		case forecast.Warning:
			n++
		default:
			continue
		}
		at = append(at, one.Step)
	}
	return n, at
}

// Quiet changes flames, stirring, the pot and how long it is cooked, not what goes in, until as little as
// can be speaks against a plan: the pots are those of the kitchen. It returns the plan with the stops and
// warnings that are left, a stop counting a hundred. cost, if not nil, weighs what a change makes of the
// pudding; a change that makes that worse by more than mostWorse is not taken.
func Quiet(p *plan.Plan, pots []vessel.Pot, cost func(*plan.Plan, *forecast.Forecast) float64) (*plan.Plan, int) {
	const mostWorse = 1.5
	run := func(p *plan.Plan) *forecast.Forecast { return forecast.Run(p, forecast.Options{NominalOnly: true}) }
	f := run(p)
	left, at := graves(p, f)
	first := 0.0
	if cost != nil {
		first = cost(p, f)
	}
	for range quietRounds {
		if left == 0 {
			break
		}
		best, bestLeft, bestWorse := (*plan.Plan)(nil), left, 0.0
		var bestAt []int
		for _, tried := range turns(p, pots, at) {
			f := run(tried)
			n, where := graves(tried, f)
			worse := 0.0
			if cost != nil {
				worse = cost(tried, f) - first
			}
			if n > bestLeft || worse > mostWorse || n == left || n == bestLeft && worse >= bestWorse {
				continue
			}
			best, bestLeft, bestAt, bestWorse = tried, n, where, worse
		}
		if best == nil {
			break
		}
		p, left, at = best, bestLeft, bestAt
	}
	return p, left
}

// turns are the plans that differ from one in a single thing that a cook may turn: at the steps that
// something speaks against and at those before them.
func turns(p *plan.Plan, pots []vessel.Pot, at []int) (list []*plan.Plan) {
	change := func(do func(*plan.Plan)) {
		one := p.Clone()
		do(one)
		list = append(list, one)
	}
	deep, _ := split(pots)
	for _, pot := range deep {
		if serves(p, plan.MainPot, pot) && p.Pots[plan.MainPot].Shape != vessel.Tray {
			change(func(one *plan.Plan) { one.Pots[plan.MainPot] = pot })
		}
	}
	marks := vessel.Marks()
	seen := map[int]bool{}
	for _, last := range at {
		for i := max(last-3, 0); i <= min(max(last, 0), len(p.Steps)-1); i++ {
			s := &p.Steps[i]
			if seen[i] {
				continue
			}
			seen[i] = true
			if s.Do == plan.Heat {
				for _, flame := range append([]vessel.Flame{vessel.Simmer}, marks[1:]...) {
					if flame != s.Flame && (!flame.Regulated() || s.Until != nil && !s.Until.Boil && s.Until.TempC == nil) {
						change(func(one *plan.Plan) { one.Steps[i].TurnTo(flame) })
					}
				}
				for _, stir := range []plan.Stir{plan.StirOften, plan.StirConstant} {
					if s.Stirring() != stir {
						change(func(one *plan.Plan) { one.Steps[i].Stir = stir })
					}
				}
				if s.Flame != vessel.Simmer {
					change(func(one *plan.Plan) {
						one.Steps[i].TurnTo(vessel.Medium)
						one.Steps[i].Stir = plan.StirConstant
					})
				}
			}
			for _, factor := range []float64{0.7, 0.85, 1.2, 1.4} {
				change(func(one *plan.Plan) { lasts(&one.Steps[i], factor) })
			}
		}
	}
	return list
}

// lasts makes a step longer or shorter, in whole minutes, per cent and whistles.
func lasts(s *plan.Step, factor float64) {
	whole := func(m measure.Minute) *measure.Minute {
		longer := measure.Minute(max(1, float64(int(float64(m)*factor+0.5))))
		return &longer
	}
	switch {
	case s.Whistles > 0:
		s.Whistles = max(1, int(float64(s.Whistles)*factor+0.5))
	case s.Until != nil && s.Until.Minutes != nil:
		s.Until.Minutes = whole(*s.Until.Minutes)
	case s.Until != nil && s.Until.RemainingPct != nil:
		remaining := float64(int(min(max(100-(100-*s.Until.RemainingPct)*factor, leastRemaining), mostRemaining)))
		s.Until.RemainingPct = &remaining
	case s.Minutes != nil && s.Do != plan.Rest:
		s.Minutes = whole(*s.Minutes)
	}
}

// InRoom puts a plan into the smallest pot of the kitchen that it does not fill too far, of those that may
// do what it asks; as it is if none is better.
func InRoom(p *plan.Plan, pots []vessel.Pot) *plan.Plan {
	if p.Pots[plan.MainPot].Shape == vessel.Tray {
		return p
	}
	over := func(p *plan.Plan) float64 {
		return max(0, crowding(p, forecast.Run(p, forecast.Options{NominalOnly: true})))
	}
	best, least := p, over(p)
	deep, _ := split(pots)
	for _, pot := range deep {
		if least <= 0 {
			break
		}
		if !serves(p, plan.MainPot, pot) {
			continue
		}
		one := p.Clone()
		one.Pots[plan.MainPot] = pot
		if n := over(one); n < least {
			best, least = one, n
		}
	}
	return best
}

// Apart gives the pans beside the main pot pots of their own: the smallest of the kitchen that are left and may do
// what is asked; one that nobody has keeps its shape and loses its name.
func Apart(p *plan.Plan, pots []vessel.Pot) *plan.Plan {
	one := p.Clone()
	taken := map[string]bool{one.Pots[plan.MainPot].Name: true}
	deep, trays := split(pots)
	for _, name := range one.PotNamesSorted() {
		pot := one.Pots[name]
		if name == plan.MainPot || pot.Name == "" || !taken[pot.Name] {
			taken[pot.Name] = true
			continue
		}
		from := deep
		if pot.Shape == vessel.Tray {
			from = trays
		}
		at := slices.IndexFunc(from, func(v vessel.Pot) bool { return !taken[v.Name] && serves(one, name, v) })
		if at < 0 {
			pot.Name = ""
			one.Pots[name] = pot
			continue
		}
		one.Pots[name] = from[at]
		taken[from[at].Name] = true
	}
	return one
}
