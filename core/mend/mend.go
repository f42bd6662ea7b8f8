package mend

import (
	"errors"
	"maps"
	"math"
	"reflect"
	"slices"
	"strings"

	"kirdu/core/design"
	"kirdu/core/forecast"
	"kirdu/core/measure"
	"kirdu/core/plan"
	"kirdu/core/vessel"
	"kirdu/core/watch"
)

// A candidate changes a plan so that a finding may go; it reports whether it
// could.
type candidate func(*plan.Plan) bool

// mends are the changes to try for each rule, the mildest first.
var mends = map[watch.ID]func(p *plan.Plan, step int) []candidate{
	"sweet-before-soft":     sweetenLater,
	"pulse-acid-early":      acidLater,
	"acid-split":            tameAcid,
	"raw-vegetable-in-milk": softenVegetable,
	"thick-coconut-boiled":  coconutLast,
	"egg-scrambled":         gentleEgg,
	"egg-underdone":         warmEgg,
	"yogurt-hot":            coolFirst,
	"boil-over":             largerPot,
	"too-full":              largerPot,
	"lid-on-milk":           openTheLid,
	"scorch":                stirOrLower,
	"boiled-dry":            neverDry,
	"weak-flame":            warmEnough,
	"starch-lumps":          smoothSlurry,
	"gritty-meal":           swellFirst,
	"pearls-clump":          fewerPearls,
	"pearls-unsoaked":       soakPearls,
	"undercooked-grain":     cookLonger,
	"mushy-grain":           cookShorter,
	"thin-milk":             richerMilk,
	"greasy":                lessFat,
	"soda-too-much":         lessSoda,
	"aroma-early":           aromaLast,
	"garnish-burn":          fryInTurn,
	"carry-over-caramel":    lightCaramel,
	"warm-too-long":         hotOrShort,
	"cooling-slow":          waterBath,
	"raw-milk":              boilFirst,
	"choking":               chopFine,
}

// What a mend may not move. Source: the watchpoint table; the yield by our own
// judgement, so that the bowls stay bowls.
const (
	mendSweet     = 0.3 // per cent
	mendThickness = 0.3 // grade as served
	mendYield     = 0.15
	closeSweet    = 0.005
)

// mostRebalanced bounds the candidates whose amounts are balanced anew because
// they mend but move the thickness: each costs some ten milliseconds.
const mostRebalanced = 2

// mendBudget bounds what is tried for all findings of a plan, in the work of its
// forecasts: hundreds of candidates for a pudding, a few for the longest document.
const mendBudget = 1_500_000

// A run costs so much beside its steps of time: the plan is copied and read again, and
// the rules are asked, for each of its steps.
const stepCost = 400

// mostBalanced is the work of a forecast up to which a plan is balanced to mend it:
// balancing runs it some dozen times.
const mostBalanced = 50_000

// mend returns the edit of the first candidate after which the finding is gone,
// no new stop or warning has come, and bowls, sweetness and thickness are what
// they were; nil if there is none.
func mend(p *plan.Plan, f *forecast.Forecast, found []watch.Finding, one watch.Finding, candidates []candidate, budget *int) []Operation {
	var moved []*plan.Plan
	for _, change := range candidates {
		if *budget -= stepCost*len(p.Steps) + f.Work; *budget < 0 {
			return nil
		}
		changed := p.Clone()
		if !change(changed) {
			continue
		}
		changed, err := practical(p, changed)
		if err != nil {
			continue
		}
		after := forecast.Run(changed, forecast.Options{NominalOnly: true})
		if off := f.Sweetness.Pct.Value / max(after.Sweetness.Pct.Value, 0.1); math.Abs(off-1) > closeSweet {
			changed.ScaleSweeteners(off) // less has boiled away: the same sugar tastes less
			changed.Measurable(p)
			after = forecast.Run(changed, forecast.Options{NominalOnly: true})
		}
		if worse(found, watch.Findings(changed, after), one.Rule) {
			continue
		}
		if keeps(p, f, after) {
			return difference(p, changed)
		}
		if moved = append(moved, changed); len(moved) == mostRebalanced {
			break
		}
	}
	if f.Work > mostBalanced {
		return nil
	}
	for _, changed := range moved {
		if balanced, ok := rebalanced(p, f, changed); ok {
			after := forecast.Run(balanced, forecast.Options{NominalOnly: true})
			if keeps(p, f, after) && !worse(found, watch.Findings(balanced, after), one.Rule) {
				return difference(p, balanced)
			}
		}
	}
	return nil
}

// rebalanced brings a changed plan back to the thickness, sweetness and yield
// that it had.
func rebalanced(p *plan.Plan, f *forecast.Forecast, changed *plan.Plan) (*plan.Plan, bool) {
	grade, ok := watch.ServedThickness(p, f)
	if !ok {
		return nil, false
	}
	sweet, yield := f.Sweetness.Pct.Value, f.Yield.MassG.Value
	balanced, err := practical(p, balanceTo(changed, grade, sweet, yield))
	return balanced, err == nil
}

// errNothing reports a change that no kitchen could measure.
var errNothing = errors.New("nothing that can be measured is changed")

// practical returns a changed plan with amounts that can be measured, read again.
func practical(p, changed *plan.Plan) (*plan.Plan, error) {
	changed.Measurable(p)
	if len(plan.Differences(p, changed)) == 0 && reflect.DeepEqual(p.Steps, changed.Steps) {
		return nil, errNothing
	}
	return plan.Reread(changed)
}

func balanceTo(p *plan.Plan, grade, sweet, yield float64) *plan.Plan {
	return design.Balance(p, design.Aims{Thickness: &grade, Sweet: &sweet, YieldG: &yield}, []string{design.TimeLock, design.FlameLock}).Plan
}

// difference writes a changed plan as a JSON Patch.
func difference(p, changed *plan.Plan) []Operation {
	ops := []Operation{{Op: "replace", Path: "/steps", Value: changed.Steps}}
	for _, name := range changed.PotNamesSorted() {
		if is := changed.Pots[name]; !reflect.DeepEqual(p.Pots[name], is) {
			escaped := strings.NewReplacer("~", "~0", "/", "~1").Replace(name)
			ops = append(ops, Operation{Op: "replace", Path: "/pots/" + escaped, Value: is})
		}
	}
	return ops
}

func keeps(p *plan.Plan, f, after *forecast.Forecast) bool {
	if math.Abs(f.Sweetness.Pct.Value-after.Sweetness.Pct.Value) > mendSweet {
		return false
	}
	if math.Abs(after.Yield.MassG.Value-f.Yield.MassG.Value) > mendYield*f.Yield.MassG.Value {
		return false
	}
	was, is := f.Thickness.As(p.Serve), after.Thickness.As(p.Serve)
	if was == nil || is == nil { // too cold by now to be served hot: judged in the chilled bowl
		was, is = f.Thickness.Chilled, after.Thickness.Chilled
	}
	return was != nil && is != nil && math.Abs(was.Value-is.Value) <= mendThickness
}

// worse reports whether a rule still speaks as often, or a stop or a warning
// has come that was not there.
func worse(found, after []watch.Finding, rule watch.ID) bool {
	count := func(list []watch.Finding, rule watch.ID) (n int) {
		for _, one := range list {
			if one.Rule == rule {
				n++
			}
		}
		return n
	}
	if count(after, rule) >= count(found, rule) {
		return true
	}
	return slices.ContainsFunc(after, func(one watch.Finding) bool {
		return one.Severity != forecast.Note && count(after, one.Rule) > count(found, one.Rule)
	})
}

// sweetenLater moves the sugar behind each later step over the flame in turn.
// A grain that softens sooner thickens more: where that is too much, it is
// cooked for less long.
func sweetenLater(p *plan.Plan, step int) []candidate {
	var all []candidate
	for j := step + 1; j < len(p.Steps); j++ {
		if p.Steps[j].Do != plan.Heat || p.Steps[j].PotName() != p.Steps[step].PotName() {
			continue
		}
		for _, share := range laterSugar {
			all = append(all, func(p *plan.Plan) bool {
				if !shorten(p, step, j, share) {
					return false
				}
				before := len(p.Steps)
				sweet := p.SplitSweet(step)
				return sweet >= 0 && p.MoveStep(sweet, j+len(p.Steps)-before)
			})
		}
	}
	return all
}

// shorten gives the timed steps from one place to another a share of their
// minutes; it reports whether there is anything to shorten, or nothing was to
// be.
func shorten(p *plan.Plan, from, to int, share measure.Minute) bool {
	if share == 1 {
		return true
	}
	found := false
	for i := from + 1; i <= to; i++ {
		if u := p.Steps[i].Until; p.Steps[i].Do == plan.Heat && u != nil && u.Minutes != nil {
			until := *u
			minutes := measure.Minute(math.Round(float64(*u.Minutes * share)))
			until.Minutes = &minutes
			p.Steps[i].Until = &until
			found = true
		}
	}
	return found
}

// coconutLast moves the thick coconut milk behind the last flame of its pot,
// after two minutes off it.
func coconutLast(_ *plan.Plan, step int) []candidate {
	return []candidate{func(p *plan.Plan) bool {
		last := -1
		for j := step + 1; j < len(p.Steps); j++ {
			if p.Steps[j].Do == plan.Heat && p.Steps[j].PotName() == p.Steps[step].PotName() && p.Steps[j].Burns() {
				last = j
			}
		}
		if last < 0 || !p.MoveStep(step, last) {
			return false
		}
		p.Steps[last].Slowly = true
		two := measure.Minute(2)
		p.InsertStep(last, plan.Step{Do: plan.Heat, Pot: p.Steps[last].Pot, Flame: vessel.Off, Stir: plan.StirNone,
			Until: &plan.Until{Minutes: &two}})
		return true
	}}
}

// coolFirst lets the pot stand in cold water before yogurt goes in.
func coolFirst(_ *plan.Plan, step int) []candidate {
	return []candidate{func(p *plan.Plan) bool {
		to := yogurtFrom
		p.InsertStep(step, plan.Step{Do: plan.Cool, Pot: p.Steps[step].Pot, ToC: &to, Where: plan.WaterBath})
		return true
	}}
}

// openTheLid takes the lid off, or turns the flame down under it.
func openTheLid(_ *plan.Plan, step int) []candidate {
	low := func(p *plan.Plan) bool {
		p.Steps[step].TurnTo(vessel.Low)
		return true
	}
	open := func(p *plan.Plan) bool { p.Steps[step].Lid = nil; return true }
	return []candidate{open, low, func(p *plan.Plan) bool { return open(p) && low(p) }}
}

// stirOrLower stirs more often, then turns the flame down by one mark, too.
func stirOrLower(p *plan.Plan, step int) []candidate {
	var all []candidate
	rhythms := plan.Stirs()
	for _, rhythm := range rhythms[slices.Index(rhythms, p.Steps[step].Stirring())+1:] {
		all = append(all, func(p *plan.Plan) bool { p.Steps[step].Stir = rhythm; return true })
	}
	for _, flame := range nearest(p.Steps[step].Flame.Lower(), 1) {
		all = append(all, func(p *plan.Plan) bool {
			p.Steps[step].Stir = plan.StirConstant
			p.Steps[step].TurnTo(flame)
			return true
		})
	}
	return all
}

// nearest returns the first few of a list, or all.
func nearest[T any](list []T, few int) []T { return list[:min(few, len(list))] }

// Apply carries the edit of a finding out on a plan. It reports whether there
// is such a finding, of a rule at a step, and it has an edit.
func Apply(p *plan.Plan, rule watch.ID, step int) (*plan.Plan, bool) {
	_, found := Forecast(p, forecast.Options{NominalOnly: true})
	for _, one := range found {
		if one.Rule == rule && one.Step == step && len(one.Edit) > 0 {
			return Carry(p, one.Edit), true
		}
	}
	return p, false
}

// Carry carries an edit out on a copy of a plan. It knows what the mends of
// this package write: the steps, and pots.
func Carry(p *plan.Plan, edit []Operation) *plan.Plan {
	changed := p.Clone()
	for _, op := range edit {
		switch value := op.Value.(type) {
		case []plan.Step:
			changed.Steps = value
		case vessel.Pot:
			name := strings.NewReplacer("~1", "/", "~0", "~").Replace(strings.TrimPrefix(op.Path, "/pots/"))
			changed.Pots[name] = value
		}
	}
	return changed
}

// A Found is a finding with the edit of the plan that was seen to mend it.
type Found struct {
	watch.Finding
	Edit []Operation // JSON Patch (RFC 6902) on the plan; nil for what is advice only
}

// An Operation is one step of a JSON Patch.
type Operation struct {
	Op    string `json:"op"`
	Path  string `json:"path"`
	Value any    `json:"value,omitempty"`
}

// Forecast runs a plan and asks the rules.
func Forecast(p *plan.Plan, options forecast.Options) (*forecast.Forecast, []Found) {
	f := forecast.Run(p, options)
	return f, Findings(p, f)
}

// Findings asks every rule, and for those that an edit of the plan would mend
// finds one that does. The worst come first, then the earliest.
func Findings(p *plan.Plan, f *forecast.Forecast) []Found {
	found := watch.Findings(p, f)
	all := make([]Found, len(found))
	budget := mendBudget
	for i, one := range found {
		all[i].Finding = one
		if balances := one.Rule == watch.TooThin || one.Rule == watch.TooThick; balances && f.Work < mostBalanced {
			all[i].Edit = toAim(p, f, found, one.Rule)
		} else if candidates, ok := mends[one.Rule]; ok {
			all[i].Edit = mend(p, f, found, one, candidates(p, one.Step), &budget)
		}
	}
	return all
}

// Rules returns those that an edit may mend: those of the table, and the two that
// balancing does.
func Rules() []watch.ID {
	return append(slices.Sorted(maps.Keys(mends)), watch.TooThin, watch.TooThick)
}
