package app

import (
	"strconv"
	"strings"

	"kirdu/core/design"
	"kirdu/core/measure"
	"kirdu/core/plan"
)

// Faults of the flags.
var (
	errAim    = measure.Code("app.aim")
	errLock   = measure.Code("app.lock")
	errNoAim  = measure.Code("app.no-aim")
	aimBounds = map[string]measure.Bound{"thickness": {Low: 1, High: 8}, "sweet": {High: 60}, "bowls": {Low: 1, High: 500}}
)

// readAims reads the aims of the flags, or those of the plan if there are none.
func readAims(p *plan.Plan, set []string) (design.Aims, error) {
	var aims design.Aims
	var faults measure.Faults
	fault := func(text string, err error) {
		faults = append(faults, &measure.FieldError{Field: "--set", Value: strconv.Quote(text), Err: err})
	}
	for _, text := range set {
		name, number, _ := strings.Cut(text, "=")
		bounds, known := aimBounds[name]
		part, isDone := strings.CutPrefix(name, "doneness.")
		if isDone && part != "" {
			bounds, known = measure.Bound{High: 10}, true
		}
		value, err := strconv.ParseFloat(number, 64)
		switch {
		case !known || err != nil:
			fault(text, errAim)
		case !bounds.Holds(value) || name == "bowls" && value != float64(int(value)):
			fault(text, bounds.Error())
		case isDone:
			if aims.Done == nil {
				aims.Done = map[string]float64{}
			}
			aims.Done[part] = value
		case name == "thickness":
			aims.Thickness = &value
		case name == "sweet":
			aims.Sweet = &value
		default:
			bowls := int(value)
			aims.Bowls = &bowls
		}
	}
	if len(set) == 0 && p.Aim != nil {
		aims.Thickness, aims.Sweet, aims.Done = p.Aim.Thickness, p.Aim.SweetPct, p.Aim.Doneness
	}
	if len(faults) == 0 && aims.Thickness == nil && aims.Sweet == nil && aims.Bowls == nil && len(aims.Done) == 0 {
		faults = append(faults, &measure.FieldError{Field: "--set", Err: errNoAim})
	}
	return aims, faults.Err()
}

// knownLocks refuses a lock that would lock nothing: a slip of the pen.
func knownLocks(p *plan.Plan, locks []string) error {
	var faults measure.Faults
	used := map[string]bool{design.MarkLock: true, design.TimeLock: true, design.FlameLock: true}
	for i := range p.Steps {
		for _, item := range p.Steps[i].Items {
			used[item.Material] = true
		}
	}
	for _, lock := range locks {
		if !used[lock] || lock == "" {
			faults = append(faults, &measure.FieldError{Field: "--lock", Value: strconv.Quote(lock), Err: errLock})
		}
	}
	return faults.Err()
}
