package rescue

import (
	"fmt"
	"math"
	"slices"

	"kirdu/core/design"
	"kirdu/core/forecast"
	"kirdu/core/measure"
	"kirdu/core/pantry"
	"kirdu/core/plan"
	"kirdu/core/pot"
	"kirdu/core/vessel"
	"kirdu/core/watch"
)

// Limits of repairs. Source: our own judgement, but where another is named.
const (
	mostLoosening = 0.9  // of the pot: more, and it is another pudding
	mostBinder    = 0.05 // of the pot: more, and it is paste
	mostSetting   = 0.09 // the same of what is to be cut
	nearGrade     = 0.15 // that no one tastes
	nearSweet     = 0.3  // per cent, likewise
	slurryMilk    = 4.0  // g of cold liquid for each g of starch
	calmScorch    = 0.6  // index of a pot that has caught once
	hotAddC       = 80.0
	leastLoosens  = 0.05  // of the pot: less does not part pearls
	someBinder    = 0.004 // of the pot: takes up the whey that is stirred in
	overSafe      = 0.02  // pH above the least, so that rounding does not split it
	wheyWidens    = 0.4   // grades that the whey may thin it
	coolEggTo     = 72.0  // °C, below which egg does not go on setting
	stirSlack     = 0.03  // of the volume, for what a spoon needs
)

// How long a repair may take at most.
const (
	reduceGuard = measure.Minute(90)
	bindGuard   = measure.Minute(40)
	softenGuard = measure.Minute(180)
	waterGuard  = measure.Minute(120)
)

// What the watchpoints allow, and a little less of it for pearls.
var (
	safeSplit  = watch.SplitMay.Value
	sodaMost   = watch.SodaTastes.Value
	pearlsRoom = watch.PearlsPacking.Value/100 - stirSlack
)

// Names of what a repair makes and of the pan that it is made in.
const (
	slurryPart = "slurry"
	sparePot   = "small"
	LeftPot    = "left behind" // what is not eaten any more
)

// loosen puts in what loosens: hot into a hot pot, cold into a cold one.
func (w *repairer) loosen(grams float64) plan.Step {
	temperature := celsiusOf(hotAddC)
	note := "note.hot-in-two-goes"
	const cold = 30
	if w.celsius() < cold {
		temperature, note = celsiusOf(5), "note.cold-and-boiled-before"
	}
	return w.p.IntoServed(plan.Step{Do: plan.Add, Items: []plan.Item{portion(w.liquid, grams)}, TempC: temperature, Slowly: true,
		Note: note})
}

// sweetener is what sweetens again: what the pudding has, or white sugar where
// that would curdle milk.
func (w *repairer) sweetener() *pantry.Material {
	white, _ := w.p.Pantry().Material("sugar-white")
	best := white
	w.p.Uses(func(m *pantry.Material, _ measure.Gram, _ int) {
		if m.Kind == "sweetener" && m.Behaviour == pantry.Dissolves && !(m.PH > 0 && m.PH < safeSplit) {
			best = m
		}
	})
	return best
}

// keepSweet adds to a repair what keeps the pudding as sweet as it would be.
func (w *repairer) keepSweet(r *Repair) {
	after := w.after(*r)
	if w.before.Sweet.Value-after.Sweet.Value < nearSweet {
		return
	}
	m := w.sweetener()
	grams := design.Sweetens(m, after.Mass.Value, after.Sweet.Value, w.before.Sweet.Value)
	r.Steps = append(r.Steps, w.p.IntoServed(plan.Step{Do: plan.Add, Items: []plan.Item{portion(m.Slug, grams)},
		Note: "note.so-that-it-stays"}))
	r.Shift += measure.Gram(grams)
}

// thinTo adds to a repair the liquid that brings it to the wanted grade. ok is
// false where so much is not allowed.
func (w *repairer) thinTo(r *Repair, wanted float64) bool {
	with := func(grams float64) Repair {
		more := *r
		more.Steps = append(slices.Clone(r.Steps), w.loosen(grams))
		more.Shift += weighable(grams)
		return more
	}
	if w.after(*r).Grade.Value <= wanted+nearGrade {
		return true
	}
	most := mostLoosening * w.mass()
	if w.after(with(most)).Grade.Value > wanted+nearGrade {
		return false
	}
	*r = with(halve(0, most, func(x float64) bool { return w.after(with(x)).Grade.Value > wanted }))
	return true
}

func (w *repairer) tooThick() []Repair {
	if w.before.Grade.Value <= w.wanted+nearGrade {
		w.says, w.fine = saying("rescue.too-thick.fine", decimals(w.before.Grade.Value, 1), decimals(w.wanted, 1)), true
		return nil
	}
	w.says = saying("rescue.too-thick.says", decimals(w.before.Grade.Value, 1), decimals(w.wanted, 1))
	r := Repair{Key: "loosen", Title: saying("repair.loosen.title", named(w.liquid))}
	if !w.thinTo(&r, w.wanted) {
		w.cannot = saying("rescue.too-thick.cannot", decimals(mostLoosening*w.mass(), 0), named(w.liquid))
		return nil
	}
	w.keepSweet(&r)
	return []Repair{r}
}

func (w *repairer) tooThin() []Repair {
	if w.before.Grade.Value >= w.wanted-nearGrade {
		w.says, w.fine = saying("rescue.too-thin.fine", decimals(w.before.Grade.Value, 1), decimals(w.wanted, 1)), true
		return nil
	}
	w.says = saying("rescue.too-thin.says", decimals(w.before.Grade.Value, 1), decimals(w.wanted, 1))
	var list []Repair
	if r, ok := w.reduce(); ok {
		list = append(list, r)
	}
	if r, ok := w.mash(); ok {
		list = append(list, r)
	}
	r := Repair{Key: "bind"}
	if w.bindTo(&r, w.wanted, 0) {
		list = append(list, r)
	}
	// The one that does least to the grain comes first.
	part, _ := w.grain()
	most := w.base.Parts[part].WantedHigh
	slices.SortStableFunc(list, func(a, b Repair) int {
		over := func(r Repair) int {
			if part != "" && w.after(r).Done.Value > most {
				return 1
			}
			return 0
		}
		return over(a) - over(b)
	})
	return list
}

// reduce boils it down to a mark that makes it as thick as wanted.
func (w *repairer) reduce() (Repair, bool) {
	if w.fragile() {
		return Repair{}, false
	}
	guard := reduceGuard
	step := w.p.IntoServed(plan.Step{Do: plan.Heat, Flame: vessel.Medium, Stir: plan.StirOften})
	r := Repair{Key: "reduce"}
	from := w.mass()
	if over := w.over(); over != nil {
		step, r.Leaves = *over, 1
		if end := w.base.Steps[w.now].MassG; end != nil {
			from = *end
		}
	}
	step.Note = "note.open-and-stirred-along"
	// A flame that boils it down in time, and a rhythm of stirring that keeps it from catching.
	for _, flame := range []vessel.Flame{step.Flame, vessel.Medium, vessel.MediumHigh, vessel.High} {
		for _, stir := range []plan.Stir{plan.StirOften, plan.StirConstant} {
			one := step
			one.Stir = stir
			if flame != "" {
				one.TurnTo(flame)
			}
			with := func(mass float64) Repair {
				target := measure.Gram(math.Round(mass))
				heat, more := one, r
				heat.Until = &plan.Until{MassG: &target, MaxMinutes: &guard}
				more.Steps, more.Shift = []plan.Step{heat}, target-measure.Gram(from)
				return more
			}
			const least = 0.4
			if w.after(with(least*from)).Grade.Value < w.wanted-nearGrade {
				continue
			}
			found := with(halve(from, least*from, func(x float64) bool { return w.after(with(x)).Grade.Value < w.wanted }))
			f := forecast.Run(w.with(&found), w.nominal())
			if s := f.Steps[w.now].Scorch; !f.Trace[w.now].NeverReached && (s == nil || *s <= 1) {
				return found, true
			}
		}
	}
	return r, false
}

// mash breaks a share of the grain.
func (w *repairer) mash() (Repair, bool) {
	part, _ := w.grain()
	const soft, least, most = 1.0, 10.0, 60.0
	if part == "" || w.base.Steps[w.last].Doneness[part] < soft {
		return Repair{}, false
	}
	with := func(pct float64) Repair {
		whole := math.Round(pct)
		return Repair{Key: "mash",
			Steps: []plan.Step{w.p.IntoServed(plan.Step{Do: plan.Mash, Of: part, Pct: &whole, Note: "note.against-the-wall-of"})}}
	}
	if w.after(with(most)).Grade.Value < w.wanted-nearGrade {
		return Repair{}, false
	}
	r := with(halve(least, most, func(x float64) bool { return w.after(with(x)).Grade.Value < w.wanted }))
	return r, true
}

// starch is what binds: rice flour with rice, else maize starch.
func (w *repairer) starch() string {
	if w.holds(func(m *pantry.Material) bool { return m.Slug == "rice-flour" }) {
		return "rice-flour"
	}
	return "cornstarch"
}

// binding returns the steps that stir so much starch in and let it swell. A pot
// that must not boil gets it from another pan.
func (w *repairer) binding(grams float64) []plan.Step {
	starch, liquid := w.starch(), w.liquid
	items := []plan.Item{portion(starch, grams), portion(liquid, slurryMilk*float64(weighable(grams)))}
	minute, two, three := measure.Minute(1), measure.Minute(2), measure.Minute(3)
	closed := false
	if w.fragile() || w.symptom == SplitCoconut {
		const cool measure.Celsius = 30
		steps := []plan.Step{
			{Do: plan.Add, Pot: sparePot, Items: items, Note: "note.in-a-small-pan"},
			{Do: plan.Heat, Pot: sparePot, Flame: vessel.Medium, Until: &plan.Until{Boil: true}, Stir: plan.StirConstant},
			{Do: plan.Heat, Pot: sparePot, Flame: vessel.Low, Until: &plan.Until{Minutes: &minute}, Stir: plan.StirConstant},
		}
		if w.celsius() < float64(cool) || w.holds(func(m *pantry.Material) bool { return m.Has("cultured") }) {
			to := cool
			steps = append(steps, plan.Step{Do: plan.Cool, Pot: sparePot, ToC: &to, Where: plan.WaterBath})
		}
		if w.celsius() > warm {
			steps = append(steps, w.aside(usualApart, "note.off-the-flame-covered"))
		}
		return append(steps, w.p.IntoServed(plan.Step{Do: plan.Add, Items: []plan.Item{{Pot: sparePot}}, Slowly: true,
			Note: "note.whisk-it-in-off"}))
	}
	steps := []plan.Step{{Do: plan.Mix, Name: w.p.FreePart(slurryPart), Minutes: &minute, Items: items,
		Note: "note.starch-into-cold-liquid"}}
	const swells = 88
	to, guard := measure.Celsius(swells), bindGuard
	heat := w.p.IntoServed(plan.Step{Do: plan.Heat, Flame: vessel.Medium, Until: &plan.Until{TempC: &to, MaxMinutes: &guard},
		Stir: plan.StirOften, Lid: &closed})
	celsius := w.celsius()
	if celsius < swells {
		steps, celsius = append(steps, heat), swells
	}
	steps = append(steps, w.p.IntoServed(plan.Step{Do: plan.Add, Items: []plan.Item{{Part: steps[0].Name}}, Slowly: true,
		Note: "note.in-a-thin-stream"}))
	slurry := (1 + slurryMilk) * float64(weighable(grams))
	if mixed := (celsius*w.mass() + float64(w.p.Kitchen.AmbientC)*slurry) / (w.mass() + slurry); mixed < swells {
		again := heat
		again.Stir = plan.StirConstant
		steps = append(steps, again)
	}
	steps = append(steps, w.p.IntoServed(plan.Step{Do: plan.Heat, Flame: vessel.Low, Until: &plan.Until{Minutes: &two},
		Stir: plan.StirConstant, Lid: &closed}))
	if w.symptom == TooSoftToCut {
		steps[len(steps)-1].Until = &plan.Until{Minutes: &three}
	}
	return steps
}

// usualApart is how long a binder takes in a small pan.
const usualApart measure.Minute = 5

// warm is a pot, in °C, that goes on cooking and thickening while it waits.
const warm = 45

// aside lets the pot stand, off the flame and covered, while something is made in
// another pan.
func (w *repairer) aside(minutes measure.Minute, note string) plan.Step {
	lid := true
	return w.p.IntoServed(plan.Step{Do: plan.Rest, Minutes: &minutes, Lid: &lid, Note: note})
}

// bindTo adds to a repair the starch that brings it to the wanted grade, at least
// so many grams; where more is needed than is good, those, and none if there is
// no least. It reports whether it adds what is needed.
func (w *repairer) bindTo(r *Repair, wanted, least float64) bool {
	with := func(grams float64) Repair {
		more := *r
		steps := w.binding(grams)
		more.Steps = append(slices.Clone(r.Steps), steps...)
		more.Shift += weighable(grams) + weighable(slurryMilk*float64(weighable(grams)))
		return more
	}
	if least == 0 && w.after(*r).Grade.Value >= wanted-nearGrade {
		return true
	}
	most := mostBinder * w.mass()
	if w.symptom == TooSoftToCut {
		most = mostSetting * w.mass()
	}
	if least > 0 && w.after(with(least)).Grade.Value >= wanted {
		*r = with(least)
		return true
	}
	if w.after(with(most)).Grade.Value < wanted-nearGrade {
		if least > 0 {
			*r = with(least)
		}
		return least > 0
	}
	*r = with(halve(least, most, func(x float64) bool { return w.after(with(x)).Grade.Value < wanted }))
	return true
}

func (w *repairer) splitDairy() []Repair {
	if !w.holds(func(m *pantry.Material) bool { return m.Kind == "dairy" }) {
		w.cannot = saying("rescue.split-dairy.cannot")
		return nil
	}
	ph := *w.base.Steps[w.last].PH
	w.says = saying("rescue.split-dairy.says", decimals(ph, 2))
	liquid := *w.base.Steps[w.last].VolumeML / 1000
	r := Repair{Key: "smooth"}
	two := measure.Minute(2)
	r.Steps = append(r.Steps, w.p.IntoServed(plan.Step{Do: plan.Rest, Minutes: &two, Note: "note.off-the-flame-blend"}))
	// Of the pot: what keeps curds apart, and with what is in it the 1 % of cooked starch that protects; the model, section 8.
	const little, binder = 0.003, 0.008
	starch := little
	try := func(soda float64) Repair {
		one := r
		one.Steps = slices.Clone(r.Steps)
		if soda > 0 {
			// First of all: the pot is still near the boil.
			one.Steps = slices.Insert(one.Steps, 0, w.p.IntoServed(plan.Step{Do: plan.Add,
				Items: []plan.Item{{Material: "baking-soda", Amount: fmt.Sprintf("%.2f g", soda)}}, Note: "note.a-pinch-dissolved-in"}))
		}
		w.bindTo(&one, w.wanted, starch*w.mass())
		return one
	}
	// It may be near the boil again: then the acid must be gone. Off the heat less of it matters.
	most := max(0, sodaMost*liquid-w.soda())
	best := try(0)
	if w.after(best).Split.Below(safeSplit) {
		starch = binder
		best = try(0)
	}
	if w.after(best).Split.Below(safeSplit) && most > 0 {
		r.Why = saying("repair.smooth.soda")
		if w.after(try(most)).Split.Below(safeSplit) {
			best = try(most)
		} else {
			best = try(halve(0, most, func(x float64) bool { return w.after(try(x)).Split.Below(safeSplit + overSafe) }))
		}
	}
	after := w.after(best)
	if after.Split.Below(safeSplit) {
		best.Beyond = append(best.Beyond, saying("repair.smooth.acid", decimals(most, 1), decimals(after.Split.Value, 2)))
	}
	w.thinTo(&best, w.wanted)
	w.keepSweet(&best)
	best.widen.Mass = measure.Range{Low: 0.04 * after.Mass.Value} // what clings to a sieve
	return []Repair{best}
}

// soda returns what is in already, in g.
func (w *repairer) soda() (grams float64) {
	w.p.Uses(func(m *pantry.Material, mass measure.Gram, step int) {
		if m.Slug == "baking-soda" && step < w.now {
			grams += float64(mass)
		}
	})
	return grams
}

func (w *repairer) splitCoconut() []Repair {
	if !w.holds(func(m *pantry.Material) bool { return m.Kind == "coconut" && m.Behaviour == pantry.Liquid }) {
		w.cannot = saying("rescue.split-coconut.cannot")
		return nil
	}
	w.says = saying("rescue.split-coconut.says", celsius(w.celsius()))
	r := Repair{Key: "whisk", Text: "whisk-coconut"}
	calm := w.p.IntoServed(plan.Step{Do: plan.Cool, ToC: celsiusOf(80), Where: plan.Counter, Note: "note.off-the-flame-whisking"})
	if w.celsius() > float64(*calm.ToC)+1 {
		r.Steps = append(r.Steps, calm)
	}
	if w.over() != nil {
		r.Leaves = 1
	}
	const binder = 0.006
	w.bindTo(&r, w.wanted, binder*w.mass())
	w.thinTo(&r, w.wanted)
	w.keepSweet(&r)
	return []Repair{r}
}

// lossOf makes a repair of a pot that has lost a share of something: the share
// is known between low and high only, and the range says so.
func (w *repairer) lossOf(of pantry.Behaviour, low, likely, high float64, r Repair) (Repair, bool) {
	r.Lost = plan.Loss{Share: likely, Of: of}
	if !w.bindTo(&r, w.wanted, 0) {
		return r, false
	}
	w.leaveOpen(&r, low, high)
	return r, true
}

// losing returns the repair of a pot that has lost another share.
func (r *Repair) losing(share float64) Repair {
	other := *r
	if other.Lost.Share > 0 {
		other.Lost.Share = share
		return other
	}
	other.Steps = slices.Clone(r.Steps)
	for i := range other.Steps {
		if other.Steps[i].Pot == LeftPot {
			items := slices.Clone(other.Steps[i].Items)
			items[0].Share = &share
			other.Steps[i].Items = items
		}
	}
	return other
}

// leaveOpen widens what a repair promises by what is not known of the loss.
func (w *repairer) leaveOpen(r *Repair, low, high float64) {
	r.loss = [2]float64{low, high}
	is := w.after(*r)
	for _, share := range r.loss {
		o := w.after(r.losing(share))
		for _, pair := range []struct {
			of     *measure.Range
			is, by float64
		}{{&r.widen.Grade, is.Grade.Value, o.Grade.Value}, {&r.widen.Sweet, is.Sweet.Value, o.Sweet.Value},
			{&r.widen.Done, is.Done.Value, o.Done.Value}, {&r.widen.Mass, is.Mass.Value, o.Mass.Value}} {
			pair.of.Low, pair.of.High = max(pair.of.Low, pair.is-pair.by), max(pair.of.High, pair.by-pair.is)
		}
	}
}

func (w *repairer) lumps() []Repair {
	if !w.holds(func(m *pantry.Material) bool { return m.Behaviour == pantry.Flour }) {
		w.cannot = saying("rescue.lumps.cannot")
		return nil
	}
	w.says = saying("rescue.lumps.says")
	two := measure.Minute(2)
	r := Repair{Key: "sieve",
		Steps: []plan.Step{w.p.IntoServed(plan.Step{Do: plan.Rest, Minutes: &two, Note: "note.off-the-flame-whisk"})}}
	r, ok := w.lossOf(pantry.Flour, 0.05, 0.2, 0.4, r)
	if !ok {
		return nil
	}
	return []Repair{r}
}

func (w *repairer) pearlsLumped() []Repair {
	part, _ := w.grain()
	if part == "" {
		w.cannot = saying("rescue.pearls-lumped.cannot")
		return nil
	}
	share := func(r Repair) float64 {
		return forecast.Run(w.with(&r), w.nominal()).Parts[part].VolumeShare
	}
	three, closed := measure.Minute(3), false
	with := func(grams float64) Repair {
		return Repair{Key: "part",
			Shift: weighable(grams),
			Steps: []plan.Step{w.loosen(grams),
				w.p.IntoServed(plan.Step{Do: plan.Heat, Flame: vessel.Low, Until: &plan.Until{Minutes: &three}, Stir: plan.StirConstant,
					Lid: &closed, Note: "note.part-the-lump-with"})}}
	}
	w.says = saying("rescue.pearls-lumped.says", percent(100*w.base.Parts[part].VolumeShare, 0))
	most := mostLoosening * w.mass()
	least := leastLoosens * w.mass()
	if share(with(most)) > pearlsRoom {
		w.cannot = saying("rescue.pearls-lumped.cannot.2", decimals(most, 0))
		return nil
	}
	r := with(least)
	if share(r) > pearlsRoom {
		r = with(halve(least, most, func(x float64) bool { return share(with(x)) > pearlsRoom }))
	}
	w.thinTo(&r, w.wanted)
	w.keepSweet(&r)
	return []Repair{r}
}

func (w *repairer) scorched() []Repair {
	w.says = saying("rescue.scorched.says")
	minute, behind := measure.Minute(1), 0.08
	const left, least, most = 0.08, 0.03, 0.15 // of the pot, stays behind: our own estimate
	r := Repair{Key: "pour",
		Beyond: []Saying{saying("repair.pour.beyond", percent(100*left, 0), percent(100*least, 0), percent(100*most, 0))},
		Steps: []plan.Step{w.p.IntoServed(plan.Step{Do: plan.Rest, Minutes: &minute, Note: "note.off-the-flame-do"}),
			{Do: plan.Add, Pot: LeftPot, Items: []plan.Item{{Pot: w.pot, Share: &behind}}, Note: "note.what-sticks-stays-in"}}}
	if over := w.over(); over != nil {
		step := *over
		step.TurnTo("")
		step.Stir = plan.StirConstant
		with := func(percent float64) plan.Step {
			one, pct := step, math.Round(percent)
			one.FlamePct = &pct
			return one
		}
		peak := func(percent float64) float64 {
			one := r
			one.Steps, one.Leaves = append(slices.Clone(r.Steps), with(percent)), 1
			f := forecast.Run(w.with(&one), w.nominal())
			worst := 0.0
			for i := w.now; i < len(f.Steps); i++ {
				if s := f.Steps[i].Scorch; s != nil {
					worst = max(worst, *s)
				}
			}
			return worst
		}
		percent := 100 * w.p.FlameShare(over)
		const lowest = 15.0
		if peak(percent) > calmScorch {
			percent = halve(lowest, percent, func(x float64) bool { return peak(x) <= calmScorch })
		}
		r.Steps, r.Leaves = append(r.Steps, with(percent)), 1
	}
	mass := w.mass()
	r.Shift = measure.Gram(-left * mass)
	w.leaveOpen(&r, least, most)
	return []Repair{r}
}

func (w *repairer) hardGrain() []Repair {
	part, _ := w.grain()
	if part == "" {
		w.cannot = saying("rescue.hard-grain.cannot")
		return nil
	}
	low := w.base.Parts[part].WantedLow
	is := w.base.Steps[w.last].Doneness[part]
	brix := *w.base.Steps[w.last].Brix
	if w.before.Done.Value >= low {
		w.says, w.fine = saying("rescue.hard-grain.fine", decimals(is, 2), decimals(w.before.Done.Value, 2), decimals(low, 2)), true
		return nil
	}
	w.says = saying("rescue.hard-grain.says", decimals(is, 2), decimals(low, 2))
	if brix > 2 {
		w.also = saying("rescue.hard-grain.says.2", percent(brix, 0), decimals(pot.SugarSlows(brix/100), 1))
	}
	const more = 0.05 // so that it is past the least
	target := low + more
	guard := softenGuard
	for _, lid := range []bool{true, false} {
		covered := lid
		with := func(grams float64) Repair {
			r := Repair{Key: "cook-on",
				Shift: measure.Gram(grams)}
			if !lid {
				r.Title, r.Why = saying("repair.cook-on.open.title"), saying("repair.cook-on.open.why")
			}
			if grams > 0 {
				r.Steps = append(r.Steps, w.loosen(grams))
				r.Shift = weighable(grams)
			}
			r.Steps = append(r.Steps, w.p.IntoServed(plan.Step{Do: plan.Heat, Flame: vessel.Simmer, Lid: &covered, Stir: plan.StirNow,
				Until: &plan.Until{Doneness: &plan.DonenessTarget{Of: part, At: target}, MaxMinutes: &guard}}))
			return r
		}
		most := mostLoosening * w.mass()
		bare := with(0)
		if lid && !w.stated {
			w.wanted = w.after(bare).Grade.Value // it was to be soft, and as thick as that makes it
		}
		p := w.with(&bare)
		f := forecast.Run(p, w.nominal())
		thick := w.outcome(p, f).Grade.Value
		dry := f.Trace[w.now].NeverReached
		if lid && !dry && thick < w.wanted-0.3 {
			continue // it is thin enough to boil down meanwhile
		}
		if !dry && thick <= w.wanted+nearGrade {
			return []Repair{bare}
		}
		if w.after(with(most)).Grade.Value > w.wanted+nearGrade {
			continue
		}
		r := with(halve(0, most, func(x float64) bool { return w.after(with(x)).Grade.Value > w.wanted }))
		f = forecast.Run(w.with(&r), w.nominal())
		if slices.ContainsFunc(f.Trace[w.now:w.now+len(r.Steps)], func(t forecast.StepTrace) bool { return t.NeverReached }) {
			continue
		}
		w.keepSweet(&r)
		return []Repair{r}
	}
	w.cannot = saying("rescue.hard-grain.cannot.2")
	return nil
}

func (w *repairer) mushy() []Repair {
	part, slug := w.grain()
	if _, ok := w.p.Pantry().Material(slug); part == "" || !ok {
		w.cannot = saying("rescue.mushy.cannot")
		return nil
	}
	w.says = saying("rescue.mushy.says", decimals(w.base.Steps[w.last].Doneness[part], 2),
		decimals(w.base.Parts[part].WantedLow, 2), decimals(w.base.Parts[part].WantedHigh, 2))
	var list []Repair
	const share, boils, soft = 0.25, 10.0, 1.05
	raw := measure.Gram(0)
	w.p.Uses(func(one *pantry.Material, mass measure.Gram, step int) {
		if one.Slug == slug && step < w.now {
			raw += mass
		}
	})
	fresh := float64(weighable(share * float64(raw)))
	guard := softenGuard
	r := Repair{Key: "fresh",
		Steps: []plan.Step{
			{Do: plan.Add, Pot: sparePot, Items: []plan.Item{portion(slug, fresh), portion("water", boils*fresh)}},
			{Do: plan.Heat, Pot: sparePot, Flame: vessel.MediumHigh, Until: &plan.Until{Boil: true}, Stir: plan.StirNow},
			{Do: plan.Heat, Pot: sparePot, Flame: vessel.Simmer, Until: &plan.Until{Doneness: &plan.DonenessTarget{Of: slug, At: soft},
				MaxMinutes: &guard}, Stir: plan.StirNow},
			{Do: plan.Drain, Pot: sparePot},
			w.p.IntoServed(plan.Step{Do: plan.Add, Items: []plan.Item{{Pot: sparePot}}, Note: "note.fold-it-in-do"}),
		}, Shift: measure.Gram(2 * fresh)}
	for i := range r.Steps {
		if r.Steps[i].Pot == sparePot && fresh*boils > sparePanHolds {
			r.Steps[i].Pot = secondPot
		}
		for j := range r.Steps[i].Items {
			if r.Steps[i].Items[j].Pot == sparePot && fresh*boils > sparePanHolds {
				r.Steps[i].Items[j].Pot = secondPot
			}
		}
	}
	if w.over() != nil {
		r.Leaves = 1 // it has cooked enough
	}
	// As long as the fresh grain takes the pot waits.
	f, apart := forecast.Run(w.with(&r), w.course()), 0.0
	for i := range r.Steps[:len(r.Steps)-1] {
		one := f.Steps[w.now+i]
		apart += one.EndMin - one.StartMin
	}
	r.Steps = slices.Insert(r.Steps, len(r.Steps)-1, w.aside(measure.Minute(math.Ceil(apart)), "note.off-the-flame-covered.2"))
	if w.thinTo(&r, w.wanted) {
		w.keepSweet(&r)
		list = append(list, r)
	}
	if w.heatAhead() {
		stop := Repair{Key: "stop", Leaves: 1}
		if w.over() == nil {
			stop.Leaves = 0
		}
		two := measure.Minute(2)
		stop.Steps = []plan.Step{w.p.IntoServed(plan.Step{Do: plan.Rest, Minutes: &two, Note: "note.off-the-flame"})}
		if w.thinTo(&stop, w.wanted) {
			list = append(list, stop)
		}
	}
	return list
}

// sparePanHolds is how many ml of boiling water a small pan takes; secondPot is
// the name of what is taken for more.
const (
	sparePanHolds = 900
	secondPot     = "second"
)

// sweetGoal is how sweet it should have been, by how much it is too sweet.
func (w *repairer) sweetGoal(symptom Symptom) float64 {
	if w.seen.Sweet != 0 {
		return w.before.Sweet.Value / (1 + w.seen.Sweet)
	}
	if w.p.Aim != nil && w.p.Aim.SweetPct != nil {
		return *w.p.Aim.SweetPct
	}
	const clearly = 0.2 // about twice what a tongue can just tell apart
	if symptom == TooSweet {
		return w.before.Sweet.Value / (1 + clearly)
	}
	return max(w.before.Sweet.Value*(1+clearly), 8)
}

func (w *repairer) tooSweet() []Repair {
	goal := w.sweetGoal(TooSweet)
	if w.before.Sweet.Value <= goal+nearSweet {
		w.says, w.fine = saying("rescue.too-sweet.fine", percent(w.before.Sweet.Value, 1), percent(goal, 1)), true
		return nil
	}
	w.says = saying("rescue.too-sweet.says", percent(w.before.Sweet.Value, 1), percent(goal, 1))
	var list []Repair
	less := func(factor float64) Repair {
		return Repair{Key: "less", Sugar: factor}
	}
	if none := w.after(less(0.01)); none.Sweet.Value < w.before.Sweet.Value-nearSweet {
		factor := 0.01
		if none.Sweet.Value < goal {
			factor = halve(0.01, 1, func(x float64) bool { return w.after(less(x)).Sweet.Value < goal })
		}
		r := less(factor)
		r.Title = saying("repair.less.share", percent(100*factor, 0))
		if factor <= 0.02 {
			r.Title = saying("repair.less.none")
		}
		list = append(list, r)
	}
	stretch := func(grams float64) Repair {
		r := Repair{Key: "stretch", Title: saying("repair.stretch.title", named(w.liquid)),
			Steps: []plan.Step{w.loosen(grams)}, Shift: weighable(grams)}
		return r
	}
	most := mostLoosening * w.mass()
	whole := func(grams float64) (Repair, bool) {
		r := stretch(grams)
		ok := w.bindTo(&r, w.wanted, 0)
		return r, ok
	}
	plain := func(x float64) float64 { return w.after(stretch(x)).Sweet.Value }
	to := func(aim float64) (Repair, bool) {
		if plain(most) > aim+nearSweet {
			return Repair{}, false
		}
		return whole(halve(0, most, func(x float64) bool { return plain(x) > aim }))
	}
	if r, ok := to(goal); ok {
		// What binds it dilutes it, too: so much less has to be poured in.
		if off := goal - w.after(r).Sweet.Value; math.Abs(off) > 0.05 && goal+off < w.before.Sweet.Value {
			if better, ok := to(goal + off); ok {
				r = better
			}
		}
		list = append(list, r)
	}
	if len(list) == 0 {
		w.cannot = saying("rescue.too-sweet.cannot", decimals(most, 0), named(w.liquid), percent(goal, 1))
	}
	return list
}

func (w *repairer) notSweet() []Repair {
	goal := w.sweetGoal(NotSweet)
	if w.before.Sweet.Value >= goal-nearSweet {
		w.says, w.fine = saying("rescue.not-sweet.fine", percent(w.before.Sweet.Value, 1), percent(goal, 1)), true
		return nil
	}
	w.says = saying("rescue.not-sweet.says", percent(w.before.Sweet.Value, 1), percent(goal, 1))
	m := w.sweetener()
	part, _ := w.grain()
	two, open := measure.Minute(2), false
	guard := waterGuard
	with := func(grams float64) Repair {
		r := Repair{Key: "sweeten", Title: saying("repair.sweeten.title", named(m.Slug)), Shift: weighable(grams)}
		const through = 0.95
		if done := w.base.Steps[w.last].Doneness[part]; part != "" && done < through && w.celsius() > 60 {
			r.Steps = append(r.Steps, w.p.IntoServed(plan.Step{Do: plan.Heat, Flame: vessel.Simmer, Lid: &open, Stir: plan.StirOften,
				Note:  "note.not-yet-sugar-keeps",
				Until: &plan.Until{Doneness: &plan.DonenessTarget{Of: part, At: 1}, MaxMinutes: &guard}}))
		}
		r.Steps = append(r.Steps, w.p.IntoServed(plan.Step{Do: plan.Add, Items: []plan.Item{portion(m.Slug, grams)},
			Note: "note.two-thirds-of-it"}))
		const dissolves = 60
		if w.celsius() > dissolves && !w.heatAhead() && !w.fragile() {
			r.Steps = append(r.Steps, w.p.IntoServed(plan.Step{Do: plan.Heat, Flame: vessel.Low, Until: &plan.Until{Minutes: &two},
				Stir: plan.StirOften, Lid: &open}))
		}
		return r
	}
	most := mostLoosening * w.mass()
	r := with(halve(0, most, func(x float64) bool { return w.after(with(x)).Sweet.Value < goal }))
	return []Repair{r}
}

func (w *repairer) yogurtSyneresis() []Repair {
	if !w.holds(func(m *pantry.Material) bool { return m.Has("cultured") }) {
		w.cannot = saying("rescue.weeping-yogurt.cannot")
		return nil
	}
	w.says = saying("rescue.weeping-yogurt.says")
	r := Repair{Key: "fold"}
	if w.celsius() > watch.YogurtWarm.Value {
		r.Steps = append(r.Steps, w.p.IntoServed(plan.Step{Do: plan.Cool, ToC: celsiusOf(32), Where: plan.WaterBath,
			Note: "note.in-cold-water-without"}))
	}
	const whey = 0.08
	if !w.bindTo(&r, w.wanted, someBinder*w.mass()) {
		return nil
	}
	r.widen.Mass = measure.Range{Low: whey * w.mass()}
	r.widen.Grade = measure.Range{High: wheyWidens}
	return []Repair{r}
}

func (w *repairer) scrambledEgg() []Repair {
	if !w.holds(func(m *pantry.Material) bool { return m.Behaviour == pantry.Egg }) {
		w.cannot = saying("rescue.scrambled-egg.cannot")
		return nil
	}
	w.says = saying("rescue.scrambled-egg.says", celsius(w.celsius()))
	two := measure.Minute(2)
	r := Repair{Key: "sieve", Text: "sieve-egg"}
	if w.celsius() > coolEggTo {
		r.Steps = append(r.Steps, w.p.IntoServed(plan.Step{Do: plan.Cool, ToC: celsiusOf(coolEggTo), Where: plan.WaterBath,
			Note: "note.off-the-flame-and"}))
	} else {
		r.Steps = append(r.Steps, w.p.IntoServed(plan.Step{Do: plan.Rest, Minutes: &two, Note: "note.off-the-flame-blend-egg"}))
	}
	if w.over() != nil {
		r.Leaves = 1
	}
	r, ok := w.lossOf(pantry.Egg, 0.2, 0.5, 0.8, r)
	if !ok {
		return nil
	}
	return []Repair{r}
}

func (w *repairer) skin() []Repair {
	w.says = saying("rescue.skin.says")
	minute, lid := measure.Minute(1), true
	const lost = 0.02
	list := []Repair{
		{Key: "lift",
			Steps: []plan.Step{w.p.IntoServed(plan.Step{Do: plan.Rest, Minutes: &minute, Lid: &lid, Note: "note.lift-the-skin-off"})},
			widen: Outcome{Mass: measure.Range{Low: lost * w.mass()}}},
		{Key: "whisk", Text: "whisk-skin",
			Steps: []plan.Step{w.p.IntoServed(plan.Step{Do: plan.Rest, Minutes: &minute, Lid: &lid, Note: "note.whisk-it-in-then"})}},
	}
	const coats = 3
	if *w.base.Steps[w.last].Thickness > coats {
		slices.Reverse(list)
	}
	return list
}

func (w *repairer) tooSoftToCut() []Repair {
	const cuts, aim = 6.5, 6.65
	w.says = saying("rescue.too-soft-to-cut.says", decimals(w.before.Grade.Value, 1), decimals(cuts, 1))
	var list []Repair
	w.wanted = aim
	const through = 7.0
	if w.celsius() > through && w.before.Grade.Value >= cuts {
		cold := measure.Celsius(6)
		list = append(list, Repair{Key: "chill", Why: saying("repair.chill.why", celsius(w.celsius())),
			Steps: []plan.Step{w.p.IntoServed(plan.Step{Do: plan.Cool, ToC: &cold, Where: plan.Fridge})}})
	}
	if w.holds(func(m *pantry.Material) bool { return m.Behaviour == pantry.Egg }) {
		if len(list) == 0 {
			w.cannot = saying("rescue.too-soft-to-cut.cannot")
		}
		return list
	}
	if len(list) == 0 && w.before.Grade.Value >= cuts {
		w.says, w.fine = saying("rescue.too-soft-to-cut.fine", decimals(w.before.Grade.Value, 1), decimals(cuts, 1)), true
		return nil
	}
	if w.before.Grade.Value < cuts {
		r := Repair{Key: "melt"}
		if w.bindTo(&r, aim, 0) && len(r.Steps) > 0 {
			four := 4.0
			r.Steps = append(r.Steps, w.p.IntoServed(plan.Step{Do: plan.Chill, Hours: &four, Note: "note.into-the-rinsed-tray"}))
			list = append(list, r)
		}
	}
	if len(list) == 0 {
		w.cannot = saying("rescue.too-soft-to-cut.cannot.2", decimals(w.before.Grade.Value, 1))
	}
	return list
}
