package workbench

import (
	"errors"
	"fmt"
	"net/url"
	"slices"
	"strconv"
	"strings"

	"kirdu/core/advice"
	"kirdu/core/measure"
	"kirdu/core/plan"
	"kirdu/core/vessel"
	"kirdu/store"
	"kirdu/web/page"
)

// Faults of the form that the plan document has no word for.
var (
	errNumber    = errors.New("give a number, such as 70")
	errBowls     = errors.New("give a whole number of bowls from 1 to 500, such as 6")
	errPot       = errors.New("choose a pot of your kitchen")
	errBurner    = errors.New("choose a burner of your kitchen")
	errPlace     = errors.New("choose a moment from the list")
	errMinutes   = errors.New("give minutes from 0 to 10080, or leave it empty for the usual ones")
	errMend      = errors.New("that watchpoint is no longer there")
	errUnprepare = errors.New("this preparation takes several things, or is used twice: change it in the plan file")
	errNewItem   = errors.New("choose a material and give its amount, such as 2 tsp")
)

// equipment is what can be chosen from.
type equipment struct {
	pots    []store.Pot
	burners []store.Burner
	home    plan.Home
}

// apply makes the plan that the form asks for out of the present one. Fields
// that the form does not have stay as they are. All faults come back at once,
// under the names of their fields.
func apply(before *plan.Plan, form url.Values, kit equipment) (*plan.Plan, error) {
	p := before.Clone()
	e := editor{plan: p, home: kit.home, form: form}
	e.text("name", &p.Name)
	e.text("notes", &p.Notes)
	if serve, ok := e.value("serve"); ok {
		p.ServeAs(plan.Serve(serve))
	}
	e.kit(kit)
	for i := range p.Steps {
		e.step(i, &p.Steps[i])
	}
	e.bowls()
	// The moment of the sugar is counted by the steps of the form: before a
	// button adds some or takes some out.
	e.sweeten()
	e.newItem()
	if err := e.faults.Err(); err != nil {
		return nil, err
	}
	return plan.Reread(p.In(kit.home))
}

// An editor applies the fields of a form to a plan.
type editor struct {
	plan   *plan.Plan
	home   plan.Home
	form   url.Values
	faults measure.Faults
}

func (e *editor) value(name string) (string, bool) {
	values, ok := e.form[name]
	if !ok || len(values) == 0 {
		return "", false
	}
	return strings.TrimSpace(values[0]), true
}

func (e *editor) fault(name, value string, err error) {
	shown := ""
	if value != "" {
		shown = strconv.Quote(value)
	}
	e.faults = append(e.faults, &measure.FieldError{Field: name, Value: shown, Err: err})
}

func (e *editor) text(name string, into *string) {
	if value, ok := e.value(name); ok {
		*into = value
	}
}

// number reads a field into a quantity. Its range is checked with the plan.
func number[T ~float64](e *editor, name string, into **T) {
	value, ok := e.value(name)
	if !ok {
		return
	}
	x, ok := page.Number(value)
	if !ok {
		e.fault(name, value, errNumber)
		return
	}
	quantity := T(x)
	*into = &quantity
}

// kit takes pot and burner from the kitchen; the choice "kept" leaves what the
// plan has.
func (e *editor) kit(kit equipment) {
	if id, ok := e.value("pot"); ok && id != "kept" {
		k := slices.IndexFunc(kit.pots, func(p store.Pot) bool { return p.ID == id })
		if k < 0 {
			e.fault("pot", id, errPot)
		} else {
			chosen := kit.pots[k].Pot
			chosen.Burner = e.plan.Pots[plan.MainPot].Burner
			e.plan.Pots[plan.MainPot] = chosen
		}
	}
	if id, ok := e.value("burner"); ok && id != "kept" {
		k := slices.IndexFunc(kit.burners, func(b store.Burner) bool { return b.ID == id })
		if k < 0 {
			e.fault("burner", id, errBurner)
		} else {
			e.plan.Burner = kit.burners[k].Burner
		}
	}
}

// step applies the fields of one step, named as its place in the document.
func (e *editor) step(i int, s *plan.Step) {
	path := fmt.Sprintf("steps[%d]", i)
	for j := range s.Items {
		item := fmt.Sprintf("%s.items[%d]", path, j)
		e.text(item+".material", &s.Items[j].Material)
		if amount, ok := e.value(item + ".amount"); ok && amount != s.Items[j].Amount {
			s.Items[j].Amount, s.Items[j].Also = amount, ""
		}
		if s.Items[j].AboveMM > 0 {
			above := &s.Items[j].AboveMM
			number(e, item+".above_mm", &above)
			s.Items[j].AboveMM = *above
		}
	}
	if s.Minutes != nil {
		number(e, path+".minutes", &s.Minutes)
	}
	if s.Hours != nil {
		number(e, path+".hours", &s.Hours)
	}
	if s.TempC != nil {
		number(e, path+".temp_c", &s.TempC)
	}
	if s.Pct != nil {
		number(e, path+".pct", &s.Pct)
	}
	if s.Do != plan.Heat {
		return
	}
	if s.FlamePct != nil {
		number(e, path+".flame_pct", &s.FlamePct)
	} else if flame, ok := e.value(path + ".flame"); ok {
		s.Flame = vessel.Flame(flame)
	}
	if stir, ok := e.value(path + ".stir"); ok {
		s.Stir = plan.Stir(stir)
	}
	if _, shown := e.value(path + ".lid_shown"); shown {
		_, on := e.value(path + ".lid")
		s.Lid = nil
		if on {
			s.Lid = &on
		}
	}
	u := s.Until
	if u.RemainingPct != nil {
		number(e, path+".until.remaining_pct", &u.RemainingPct)
	}
	if u.Minutes != nil {
		number(e, path+".until.minutes", &u.Minutes)
	}
	if u.MassG != nil {
		number(e, path+".until.mass_g", &u.MassG)
	}
	if u.Doneness != nil {
		at := &u.Doneness.At
		number(e, path+".until.doneness.at", &at)
		u.Doneness.At = *at
	}
	if u.Thickness != nil {
		number(e, path+".until.thickness", &u.Thickness)
	}
}

// bowls multiplies the plan when their number was changed.
func (e *editor) bowls() {
	value, ok := e.value("bowls")
	if !ok {
		return
	}
	bowls, err := strconv.Atoi(value)
	switch op, _ := e.value("op"); op {
	case "more-bowls":
		bowls++
	case "fewer-bowls":
		bowls--
	}
	const most = 500
	if err != nil || bowls < 1 || bowls > most {
		e.fault("bowls", value, errBowls)
		return
	}
	e.plan.Scale(bowls)
}

// newItem adds a material to a step, or takes one out.
func (e *editor) newItem() {
	op, _ := e.value("op")
	kind, place, _ := strings.Cut(op, ":")
	switch kind {
	case "add-item":
		step, err := strconv.Atoi(place)
		if err != nil || step < 0 || step >= len(e.plan.Steps) || e.plan.Steps[step].Do != plan.Add {
			return
		}
		field := fmt.Sprintf("new[%d]", step)
		material, _ := e.value(field + ".material")
		amount, _ := e.value(field + ".amount")
		if material == "" || amount == "" {
			e.fault(field+".amount", amount, errNewItem)
			return
		}
		e.plan.Steps[step].Items = append(e.plan.Steps[step].Items, plan.Item{Material: slugOf(e.home, material), Amount: amount})
	case "remove-item":
		var step, item int
		if _, err := fmt.Sscanf(place, "%d.%d", &step, &item); err == nil {
			e.plan.RemoveItem(step, item)
		}
	case "prepare":
		e.prepare(place)
	case "unprepare":
		if step, err := strconv.Atoi(place); err == nil && !e.plan.Unprepare(step) {
			e.fault(fmt.Sprintf("steps[%d]", step), "", errUnprepare)
		}
	case "mend":
		rule, step, _ := strings.Cut(place, ":")
		at, err := strconv.Atoi(step)
		mended, ok := advice.Apply(e.plan, rule, at)
		if err != nil || !ok {
			e.fault("mend", "", errMend)
			return
		}
		e.plan.Steps = mended.Steps
	case "trust", "trust-also":
		var step, item int
		if _, err := fmt.Sscanf(place, "%d.%d", &step, &item); err == nil {
			e.plan.Trust(step, item, kind == "trust-also")
		}
	}
}

// prepare puts a preparation before the pot.
func (e *editor) prepare(place string) {
	step, err := strconv.Atoi(place)
	if err != nil {
		return
	}
	field := fmt.Sprintf("prep[%d]", step)
	which, _ := e.value(field + ".item")
	how, _ := e.value(field + ".how")
	typed, _ := e.value(field + ".minutes")
	item, err := strconv.Atoi(which)
	if err != nil {
		item = -1
	}
	minutes, ok := page.Number(typed)
	if typed == "" {
		for _, q := range plan.Preparations() {
			if q.Name == how {
				minutes, ok = float64(q.Minutes), true
			}
		}
	}
	const most = 10080
	if !ok || minutes < 0 || minutes > most {
		e.fault(field+".minutes", typed, errMinutes)
		return
	}
	if err := e.plan.Prepare(step, item, how, measure.Minute(minutes)); err != nil {
		e.fault(field+".minutes", how, err)
	}
}

// slugOf returns the slug of a material that was typed by any of its names. What
// is none comes back as it is, for the plan's reader to refuse.
func slugOf(home plan.Home, typed string) string {
	if m, ok := plan.HomePantry(home).Find(typed); ok {
		return m.Slug
	}
	return typed
}

// sweeten moves the sugar to where the form wants it: behind the step of that
// number, counted before the move.
func (e *editor) sweeten() {
	value, ok := e.value("sugar_after")
	if !ok || len(e.faults) > 0 {
		return
	}
	from := e.plan.SugarStep()
	if from < 0 {
		return
	}
	after, err := strconv.Atoi(value)
	if err != nil || after < 0 || after >= len(e.plan.Steps) || after == from {
		e.fault("sugar_after", value, errPlace)
		return
	}
	to := after + 1
	if from < to {
		to--
	}
	e.plan.MoveStep(from, to)
}
