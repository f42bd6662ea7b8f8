package balance

import (
	"fmt"
	"math"
	"slices"

	"kirdu/core/forecast"
	"kirdu/core/measure"
	"kirdu/core/pantry"
	"kirdu/core/plan"
	"kirdu/core/pot"
)

// Aims are what a plan is to come to; nil leaves a figure as it comes.
type Aims struct {
	Thickness *float64 // grade as served
	Sweet     *float64 // per cent
	Bowls     *int     // of the same size
}

// A Change is one amount or target that balancing moved.
type Change struct {
	Path string `json:"path"` // in the plan document
	From string `json:"from"`
	To   string `json:"to"`
	Why  string `json:"why"`
}

// A Miss is an aim that could not be met, how near it came, and what was in the
// way.
type Miss struct {
	Aim     string  `json:"aim"`
	Wanted  float64 `json:"wanted"`
	Reached float64 `json:"reached"`
	Because string  `json:"because"`
}

// Balanced is a plan that comes as near to its aims as the locks let it.
type Balanced struct {
	Plan    *plan.Plan
	Changes []Change
	Reached map[string]float64
	Missed  []Miss
}

// How near an aim counts as met.
const (
	metThickness = 0.1
	metSweet     = 0.2
	metYield     = 0.02 // as a share
)

// A lever is one number of a plan that balancing may move, by a factor.
type lever struct {
	step, item int // item -1: the target of the step
	path       string
	lock       string // the name that locks it
	from       string
	kind       string // of the material, or "mark"
}

// Balance finds the smallest change of the unlocked amounts and of the
// reduction that brings a plan to its aims at the serving temperature. Small is
// meant in the sum of squares of the logarithms of the ratios. locked names
// materials that stay, or "mark" for the reduction. Errors: none; what cannot
// be met is in Missed.
//
// It is Newton's method on the forecast: in each round the aims are made linear
// in the logarithms x of the levers, J dx = r, and of all solutions the one with
// the least x is taken, x = J'(J J')^-1 (J x + r) (the pseudo-inverse, Golub and Van
// Loan, Matrix Computations, 5.5.4), with a step that is cut where the course
// bends.
func Balance(p *plan.Plan, aims Aims, locked []string) Balanced {
	base := p.Clone()
	b := balancer{base: base, aims: aims}
	start := b.measure(base)
	if aims.Bowls != nil {
		base.ScaleWithTaste(*aims.Bowls)
		b.yield = start.YieldG / float64(max(1, p.Serves)) * float64(*aims.Bowls)
	}
	all := leversOf(base)
	free := slices.DeleteFunc(slices.Clone(all), func(l lever) bool { return slices.Contains(locked, l.lock) })
	best, reached := b.solve(free)
	result := Balanced{Plan: best, Reached: map[string]float64{"thickness": reached.Thickness, "sweet": reached.Sweet, "yield_g": reached.YieldG}}
	result.Changes = changes(p, best, all)
	result.Missed = b.missed(reached, all, free, locked)
	return result
}

type balancer struct {
	base  *plan.Plan
	aims  Aims
	yield float64 // wanted, 0: as it comes
}

func (b *balancer) measure(p *plan.Plan) Outcome {
	f := forecast.Run(p, forecast.Options{NominalOnly: true})
	return outcome(p, f, f)
}

// Lockable lists the names of what balancing may move, in order of use:
// materials, and "mark" for the reduction.
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
			all = append(all, lever{step: i, item: j, path: fmt.Sprintf("steps[%d].items[%d].amount", i, j), lock: item.Material, from: item.Amount, kind: m.Kind})
		}
	}
	if at := markStep(p); at >= 0 {
		if u := p.Steps[at].Until; u.RemainingPct != nil {
			all = append(all, lever{step: at, item: -1, path: fmt.Sprintf("steps[%d].until.remaining_pct", at), lock: "mark", from: percentText(*u.RemainingPct), kind: "mark"})
		}
	}
	return all
}

func percentText(x float64) string { return fmt.Sprintf("%.4g", x) }

// Bounds of a lever and of the search.
const (
	mostLog       = 2.2 // a factor of nine either way
	longestStep   = 0.6 // of the logarithm, in one round
	differenceLog = 0.02
	balanceRounds = 16
	leastMark     = 5.0
	mostMark      = 99.0
)

// at returns the plan with the levers moved by the logarithms x, rounded to
// three digits when it is final.
func (b *balancer) at(levers []lever, x []float64, digits int) *plan.Plan {
	p := b.base.Clone()
	for k, l := range levers {
		factor := math.Exp(x[k])
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
func (b *balancer) residual(o Outcome) []float64 {
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
	return r
}

func size(r []float64) float64 {
	sum := 0.0
	for _, x := range r {
		sum += x * x
	}
	return math.Sqrt(sum)
}

// fineDigits are those of amounts while the search goes on, and finalDigits
// those that are written down: what a kitchen scale shows.
const (
	fineDigits  = 9
	finalDigits = 3
)

func (b *balancer) solve(levers []lever) (*plan.Plan, Outcome) {
	n := len(levers)
	x := make([]float64, n)
	o := b.measure(b.base)
	r := b.residual(o)
	const closeEnough = 0.01
	for range balanceRounds {
		if n == 0 || size(r) < closeEnough {
			break
		}
		jacobian := b.jacobian(levers, x, o)
		step := leastNorm(jacobian, x, r)
		if step == nil {
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
		for range 5 {
			tried := make([]float64, n)
			for k := range x {
				tried[k] = min(max(x[k]+share*(step[k]-x[k]), -mostLog), mostLog)
			}
			next := b.measure(b.at(levers, tried, fineDigits))
			if nr := b.residual(next); size(nr) < size(r) {
				x, o, r, improved = tried, next, nr, true
				break
			}
			share /= 2
		}
		if !improved {
			break
		}
	}
	final := b.at(levers, x, finalDigits)
	return final, b.measure(final)
}

// jacobian returns the change of each aim with the logarithm of each lever, by
// differences.
func (b *balancer) jacobian(levers []lever, x []float64, o Outcome) [][]float64 {
	r0 := b.residual(o)
	j := make([][]float64, len(r0))
	for i := range j {
		j[i] = make([]float64, len(levers))
	}
	moved := slices.Clone(x)
	for k := range levers {
		moved[k] = x[k] + differenceLog
		r := b.residual(b.measure(b.at(levers, moved, fineDigits)))
		moved[k] = x[k]
		for i := range j {
			j[i][k] = (r0[i] - r[i]) / differenceLog // the residual falls as the figure rises
		}
	}
	return j
}

// leastNorm returns the shortest x that meets J (x - x0) = r, nil if no lever
// moves an aim. A little damping keeps an aim that hardly moves from asking
// for the moon.
func leastNorm(j [][]float64, x0, r []float64) []float64 {
	m, n := len(j), len(x0)
	const damping = 1e-6
	system := make([][]float64, m)
	for i := range system {
		system[i] = make([]float64, m+1)
		for k := range j {
			for l := range n {
				system[i][k] += j[i][l] * j[k][l]
			}
		}
		system[i][i] += damping
		system[i][m] = r[i]
		for l := range n {
			system[i][m] += j[i][l] * x0[l]
		}
	}
	y := eliminate(system)
	if y == nil {
		return nil
	}
	x := make([]float64, n)
	for l := range n {
		for i := range j {
			x[l] += j[i][l] * y[i]
		}
	}
	return x
}

// eliminate solves a small system by Gauss with pivots; each row ends with its
// right side. It returns nil when the system has no solution.
func eliminate(a [][]float64) []float64 {
	m := len(a)
	for i := range m {
		pivot := i
		for k := i + 1; k < m; k++ {
			if math.Abs(a[k][i]) > math.Abs(a[pivot][i]) {
				pivot = k
			}
		}
		a[i], a[pivot] = a[pivot], a[i]
		if math.Abs(a[i][i]) < 1e-12 {
			return nil
		}
		for k := range m {
			if k == i {
				continue
			}
			factor := a[k][i] / a[i][i]
			for c := i; c <= m; c++ {
				a[k][c] -= factor * a[i][c]
			}
		}
	}
	x := make([]float64, m)
	for i := range m {
		x[i] = a[i][m] / a[i][i]
	}
	return x
}

// changes lists what is written otherwise than before.
func changes(before, after *plan.Plan, levers []lever) []Change {
	list := []Change{}
	for _, l := range levers {
		var from, to string
		if l.item < 0 {
			from, to = percentText(*before.Steps[l.step].Until.RemainingPct), percentText(*after.Steps[l.step].Until.RemainingPct)
		} else {
			from, to = before.Steps[l.step].Items[l.item].Amount, after.Steps[l.step].Items[l.item].Amount
		}
		if from == to {
			continue
		}
		list = append(list, Change{Path: l.path, From: from, To: to, Why: why(before, after, l, from, to)})
	}
	return list
}

func why(before, after *plan.Plan, l lever, from, to string) string {
	if l.item < 0 {
		return fmt.Sprintf("reduced to %s %% for %s %%", to, from)
	}
	_, one, errOne := before.Weigh(before.Steps[l.step].Items[l.item])
	_, other, errOther := after.Weigh(after.Steps[l.step].Items[l.item])
	if errOne != nil || errOther != nil || one <= 0 {
		return ""
	}
	percent := 100 * (float64(other/one) - 1)
	word := "more"
	if percent < 0 {
		word = "less"
	}
	return fmt.Sprintf("%.0f %% %s", math.Abs(percent), word)
}

// missed lists the aims that were not met, and which lock is in the way.
func (b *balancer) missed(o Outcome, all, free []lever, locked []string) []Miss {
	list := []Miss{}
	add := func(aim string, wanted, reached, tolerance float64) {
		if math.Abs(wanted-reached) > tolerance {
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
	if len(list) == 0 {
		return list
	}
	because := b.inTheWay(size(b.residual(o)), all, free, locked)
	for i := range list {
		list[i].Because = because
	}
	return list
}

// inTheWay finds the lock without which the aims would be met, or says that no
// amounts reach them.
func (b *balancer) inTheWay(best float64, all, free []lever, locked []string) string {
	for _, lock := range locked {
		without := slices.DeleteFunc(slices.Clone(all), func(l lever) bool { return l.lock != lock && slices.Contains(locked, l.lock) })
		if len(without) == len(free) {
			continue
		}
		if _, o := b.solve(without); size(b.residual(o)) < min(best/2, 2*metThickness) {
			return fmt.Sprintf("%s is locked", lock)
		}
	}
	if len(locked) > 0 {
		if _, o := b.solve(all); size(b.residual(o)) < min(best/2, 2*metThickness) {
			return "several locks together are in the way"
		}
	}
	return "no amounts of these materials reach it: " + nearestWords(b)
}

func nearestWords(b *balancer) string {
	if b.aims.Thickness != nil && *b.aims.Thickness > 7 {
		return "it would have to " + pot.ThicknessWord(*b.aims.Thickness) + "; add flour or starch"
	}
	return "add one that thickens, thins or sweetens"
}
