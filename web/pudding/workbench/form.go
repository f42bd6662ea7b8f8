package workbench

import (
	"cmp"
	"fmt"
	"net/url"
	"regexp"
	"slices"
	"strconv"
	"strings"

	"kirdu/core/design"
	"kirdu/core/measure"
	"kirdu/core/mend"
	"kirdu/core/plan"
	"kirdu/core/vessel"
	"kirdu/core/watch"
	"kirdu/store"
	"kirdu/web/frame"
	"kirdu/words"
)

// Faults of the form that the plan document has no word for.
var (
	errNumber    = measure.Code("workbench.number")
	errSoftness  = measure.Code("workbench.softness")
	errBowls     = measure.Code("workbench.bowls")
	errPot       = measure.Code("workbench.pot")
	errBurner    = measure.Code("workbench.burner")
	errPlace     = measure.Code("workbench.place")
	errMinutes   = measure.Code("workbench.minutes")
	errMend      = measure.Code("workbench.mend")
	errUnprepare = measure.Code("workbench.unprepare")
	errWhole     = measure.Code("workbench.whole")
	errKind      = measure.Code("workbench.kind")
	errNewItem   = measure.Code("workbench.new-item")
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
func apply(say words.Printer, before *plan.Plan, form url.Values, kit equipment) (*plan.Plan, error) {
	p := before.Clone()
	e := editor{plan: p, home: kit.home, form: form}
	e.text("name", &p.Name)
	e.text("notes", &p.Notes)
	if serve, ok := e.value("serve"); ok && plan.Serve(serve) != p.Serve {
		p.ServeAs(plan.Serve(serve))
	}
	e.kit(kit)
	for i := range p.Steps {
		e.step(i, &p.Steps[i])
	}
	e.bowls()
	e.aim()
	e.softness()
	// The moment of the sugar is counted by the steps of the form: before a
	// button adds some or takes some out.
	e.sweeten()
	e.newItem()
	if err := e.faults.Err(); err != nil {
		return nil, err
	}
	return plan.Reread(e.plan.In(kit.home))
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
	x, ok := frame.Number(value)
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
			s.Items[j] = measured(s.Items[j], amount)
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
	if s.ToC != nil {
		number(e, path+".to_c", &s.ToC)
	}
	e.whole(path+".whistles", &s.Whistles)
	e.whole(path+".slices", &s.Slices)
	if s.FlamePct != nil && s.Do == plan.Caramel {
		number(e, path+".flame_pct", &s.FlamePct)
	}
	if where, ok := e.value(path + ".where"); ok && s.Do == plan.Cool && plan.Where(where) != cmp.Or(s.Where, plan.Counter) {
		s.Where = plan.Where(where)
	}
	if release, ok := e.value(path + ".release"); ok && s.Do == plan.Pressure &&
		plan.Release(release) != cmp.Or(s.Release, plan.Natural) {
		s.Release = plan.Release(release)
	}
	if browning, ok := e.value(path + ".browning"); ok && s.Until != nil && s.Until.Browning != "" {
		s.Until.Browning = plan.Browning(browning)
	}
	e.check(path+".slowly", &s.Slowly)
	e.check(path+".topping", &s.Topping)
	if s.Do == plan.Bake {
		e.bake(path, s)
	}
	if s.Do != plan.Heat {
		return
	}
	if s.FlamePct != nil {
		number(e, path+".flame_pct", &s.FlamePct)
	} else if s.FlameW != nil {
		number(e, path+".flame_w", &s.FlameW)
	} else if flame, ok := e.value(path + ".flame"); ok {
		s.Flame = vessel.Flame(flame)
	}
	if stir, ok := e.value(path + ".stir"); ok && plan.Stir(stir) != s.Stirring() {
		s.Stir = plan.Stir(stir)
	}
	if _, shown := e.value(path + ".lid_shown"); shown {
		if _, on := e.value(path + ".lid"); on != s.Lidded() {
			s.Lid = nil
			if on {
				s.Lid = &on
			}
		}
	}
	u := s.Until
	if u.RemainingPct != nil {
		number(e, path+".until.remaining_pct", &u.RemainingPct)
	}
	if u.Minutes != nil {
		number(e, path+".until.minutes", &u.Minutes)
	}
	if u.TempC != nil {
		number(e, path+".until.temp_c", &u.TempC)
	}
	if u.FreeWaterPct != nil {
		number(e, path+".until.free_water_pct", &u.FreeWaterPct)
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

// byFinger is an amount of liquid as the finger measures it: "25 mm above".
var byFinger = regexp.MustCompile(`^([0-9]+(?:[.,][0-9]+)?) ?mm(?: above.*)?$`)

// measured gives an item another amount, by weight or by the finger.
func measured(item plan.Item, amount string) plan.Item {
	if found := byFinger.FindStringSubmatch(amount); found != nil {
		if x, ok := frame.Number(found[1]); ok && x > 0 {
			return plan.Item{Material: item.Material, AboveMM: measure.Millimetre(x)}
		}
	}
	item.Amount, item.Also = amount, ""
	return item
}

// whole reads a whole number where there is one already.
func (e *editor) whole(name string, into *int) {
	value, ok := e.value(name)
	if !ok || *into == 0 {
		return
	}
	x, err := strconv.Atoi(value)
	if err != nil || x < 1 {
		e.fault(name, value, errWhole)
		return
	}
	*into = x
}

// check reads a tick, which a form only sends when it is set.
func (e *editor) check(name string, into *bool) {
	if _, shown := e.value(name + "_shown"); shown {
		_, *into = e.value(name)
	}
}

// Usual settings of a kind of oven that was just chosen.
const (
	usualOvenC      measure.Celsius = 160
	usualMicrowaveW measure.Watt    = 600
)

// bake changes where and how something is baked.
func (e *editor) bake(path string, s *plan.Step) {
	if in, ok := e.value(path + ".in"); ok && plan.Oven(in) != cmp.Or(s.BakeIn, plan.InOven) {
		s.BakeIn, s.OvenC, s.PowerW = plan.Oven(in), nil, nil
		oven, power := usualOvenC, usualMicrowaveW
		switch in {
		case "oven":
			s.OvenC = &oven
		case "microwave":
			s.PowerW = &power
		}
	}
	if s.OvenC != nil {
		number(e, path+".oven_c", &s.OvenC)
	}
	if s.PowerW != nil {
		number(e, path+".power_w", &s.PowerW)
	}
	e.check(path+".covered", &s.Covered)
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

// aim sets the thickness that is wanted as served.
func (e *editor) aim() {
	value, ok := e.value("aim.thickness")
	if !ok {
		return
	}
	// The slider shows the present grade until an aim is set: it is none then.
	was, _ := e.value("aim.shown")
	if value == was {
		return
	}
	grade, ok := frame.Number(value)
	if !ok {
		e.fault("aim.thickness", value, errNumber)
		return
	}
	if e.plan.Aim == nil {
		e.plan.Aim = &plan.Aim{}
	}
	e.plan.Aim.Thickness = &grade
}

// softness sets how soft each part is wanted; "" leaves it to how it is usually liked.
func (e *editor) softness() {
	for field := range e.form {
		name, ok := strings.CutPrefix(field, softnessField)
		if !ok {
			continue
		}
		value, _ := e.value(field)
		if value == "" {
			if e.plan.Aim != nil {
				delete(e.plan.Aim.Doneness, name)
			}
			continue
		}
		done, isNumber := frame.Number(value)
		if !isNumber || done <= 0 || done > plan.MostDoneness {
			e.fault(field, value, errSoftness)
			continue
		}
		if e.plan.Aim == nil {
			e.plan.Aim = &plan.Aim{}
		}
		if e.plan.Aim.Doneness == nil {
			e.plan.Aim.Doneness = map[string]float64{}
		}
		e.plan.Aim.Doneness[name] = done
	}
}

// softnessField begins the name of the field of a part's softness.
const softnessField = "aim.doneness."

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
		e.plan.Steps[step].Items = append(e.plan.Steps[step].Items, measured(plan.Item{Material: slugOf(e.home, material)}, amount))
	case "remove-item":
		var step, item int
		if _, err := fmt.Sscanf(place, "%d.%d", &step, &item); err != nil {
			e.fault("steps", place, errPlace)
		} else if err := e.plan.LeaveOut(step, item); err != nil {
			e.fault("steps", place, err)
		}
	case "move-step":
		var from, to int
		if _, err := fmt.Sscanf(place, "%d.%d", &from, &to); err != nil || !e.plan.Carry(from, to) {
			e.fault("steps", place, errPlace)
		}
	case "remove-step":
		if step, err := strconv.Atoi(place); err != nil {
			e.fault("steps", place, errPlace)
		} else if err := e.plan.LeaveOutStep(step); err != nil {
			e.fault("steps", place, err)
		}
	case "put-part":
		into, _ := e.value("put[" + place + "]")
		if step, err := strconv.Atoi(into); err != nil || !e.plan.PutPart(place, step) {
			e.fault("put["+place+"]", into, errPlace)
		}
	case "add-step":
		e.addStep()
	case "prepare":
		e.prepare(place)
	case "unprepare":
		if step, err := strconv.Atoi(place); err == nil && !e.plan.Unprepare(step) {
			e.fault(fmt.Sprintf("steps[%d]", step), "", errUnprepare)
		}
	case "sweeten-at":
		e.sweetenAt()
	case "mend":
		rule, step, _ := strings.Cut(place, ":")
		at, err := strconv.Atoi(step)
		mended, ok := mend.Apply(e.plan, watch.ID(rule), at)
		if err != nil || !ok {
			e.fault("mend", "", errMend)
			return
		}
		e.plan.Steps, e.plan.Pots = mended.Steps, mended.Pots
	case "trust", "trust-also":
		var step, item int
		if _, err := fmt.Sscanf(place, "%d.%d", &step, &item); err == nil {
			e.plan.Trust(step, item, kind == "trust-also")
		}
	}
}

// addStep puts a new step behind another.
func (e *editor) addStep() {
	kindName, _ := e.value("step.kind")
	kind, ok := plan.StepKindNamed(kindName)
	after, _ := e.value("step.after")
	at, err := strconv.Atoi(after)
	if !ok || err != nil || at < 0 || at >= len(e.plan.Steps) {
		e.fault("step.kind", kindName, errKind)
		return
	}
	place := plan.NewStep{After: at, Item: e.newStepItem(kind)}
	if pot, given := e.value("step.pot"); given {
		place.Pot = pot
	}
	if err := e.plan.Put(kind, place); err != nil {
		e.fault("step.amount", "", err)
	}
}

// newStepItem is what a new step takes, nil if it takes nothing or nothing was said.
func (e *editor) newStepItem(kind plan.StepKind) *plan.Item {
	switch kind.Takes {
	case plan.TakesMaterial:
		material, _ := e.value("step.material")
		amount, _ := e.value("step.amount")
		if material == "" || amount == "" {
			return nil
		}
		item := measured(plan.Item{Material: slugOf(e.home, material)}, amount)
		return &item
	case plan.TakesPart:
		from, _ := e.value("step.from")
		if kindOf, name, named := strings.Cut(from, ":"); named && kindOf == "pot" {
			return &plan.Item{Pot: name}
		} else if named {
			return &plan.Item{Part: name}
		}
	}
	return nil
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
	minutes, ok := frame.Number(typed)
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

// sweetenAt moves the sugar to a minute of the pot line.
func (e *editor) sweetenAt() {
	value, _ := e.value("sugar.at")
	minute, ok := frame.Number(value)
	if !ok {
		e.fault("sugar.at", value, errNumber)
		return
	}
	if moved, ok := design.SweetenAt(e.plan, minute); ok {
		e.plan = moved
	}
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
	switch {
	case value == sugarStays:
		return
	case value == sugarFirst:
		e.plan.Carry(e.plan.SplitSweet(from), e.firstOf(e.plan.Steps[from].PotName()))
		return
	case err != nil || after < 0 || after >= len(e.plan.Steps) || after == from:
		e.fault("sugar_after", value, errPlace)
		return
	case after == from-1:
		return // it stands there
	}
	before := len(e.plan.Steps)
	sweet := e.plan.SplitSweet(from)
	to := after + 1
	if from < to {
		to += len(e.plan.Steps) - before - 1
	}
	e.plan.Carry(sweet, min(to, len(e.plan.Steps)-1))
}

// The moments of the sugar beside those behind a step: where it is, and before all else.
const (
	sugarStays = "kept"
	sugarFirst = "first"
)

// firstOf returns the first step of a pot.
func (e *editor) firstOf(pot string) int {
	return max(0, slices.IndexFunc(e.plan.Steps, func(s plan.Step) bool { return !s.Do.IsPreparation() && s.PotName() == pot }))
}
