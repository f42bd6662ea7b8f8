package rescue

import (
	"fmt"
	"math"
	"slices"
	"unicode"
	"unicode/utf8"

	"kirdu/core/design"
	"kirdu/core/forecast"
	"kirdu/core/measure"
	"kirdu/core/pantry"
	"kirdu/core/plan"
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
	safeSplit     = 6.4  // pH near the boil; the model, section 8
	sodaMost      = 0.6  // g per litre; the watchpoint table
	pearlsRoom    = 0.42 // of the volume: below the 0.45 of the watchpoint table
	calmScorch    = 0.6  // index of a pot that has caught once
	hotAddC       = 80.0
)

// Names of what a repair makes and of the pan that it is made in.
const (
	slurryPart = "slurry"
	sparePot   = "small"
	LeftPot    = "left behind" // what is not eaten any more
)

// loosen puts in what loosens: hot into a hot pot, cold into a cold one.
func (w *ward) loosen(grams float64) plan.Step {
	temperature := celsiusOf(hotAddC)
	note := "Hot, in two goes: half of it, stir, wait a minute and look."
	const cold = 30
	if w.celsius() < cold {
		temperature, note = celsiusOf(5), "Cold and boiled before; whisk in half, look, then the rest."
	}
	return w.p.IntoServed(plan.Step{Do: plan.Add, Items: []plan.Item{portion(w.liquid, grams)}, TempC: temperature, Slowly: true, Note: note})
}

// sweetener is what sweetens again: what the pudding has, or white sugar where
// that would curdle milk.
func (w *ward) sweetener() *pantry.Material {
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
func (w *ward) keepSweet(r *Repair) {
	after := w.gives(*r)
	if w.before.Sweet.Value-after.Sweet.Value < nearSweet {
		return
	}
	m := w.sweetener()
	grams := design.Sweetens(m, after.Mass.Value, after.Sweet.Value, w.before.Sweet.Value)
	r.Steps = append(r.Steps, w.p.IntoServed(plan.Step{Do: plan.Add, Items: []plan.Item{portion(m.Slug, grams)}, Note: "So that it stays as sweet. Leave it out if it was sweet enough."}))
	r.Shift += measure.Gram(grams)
}

// thinTo adds to a repair the liquid that brings it to the wanted grade. ok is
// false where so much is not allowed.
func (w *ward) thinTo(r *Repair, wanted float64) bool {
	with := func(grams float64) Repair {
		more := *r
		more.Steps = append(slices.Clone(r.Steps), w.loosen(grams))
		more.Shift += weighable(grams)
		return more
	}
	if w.gives(*r).Grade.Value <= wanted+nearGrade {
		return true
	}
	most := mostLoosening * w.mass()
	if w.gives(with(most)).Grade.Value > wanted+nearGrade {
		return false
	}
	*r = with(halve(0, most, func(x float64) bool { return w.gives(with(x)).Grade.Value > wanted }))
	return true
}

func (w *ward) tooThick() []Repair {
	if w.before.Grade.Value <= w.wanted+nearGrade {
		w.says, w.fine = fmt.Sprintf("Left alone it comes to the table at %.1f, and %.1f is wanted: it needs nothing. If it looks thicker than that, say how it runs off the spoon.", w.before.Grade.Value, w.wanted), true
		return nil
	}
	w.says = fmt.Sprintf("Left alone it comes to the table at %.1f instead of %.1f.", w.before.Grade.Value, w.wanted)
	r := Repair{Key: "loosen", Title: "Loosen it with " + lower(w.name(w.liquid)),
		Why:   "Thickness falls fast with the first spoons: what swelled floats free again. It makes more of it.",
		Until: "Stop when it runs as you want it now; it thickens again as it stands."}
	if !w.thinTo(&r, w.wanted) {
		w.cannot = fmt.Sprintf("It would take more than %.0f g of %s, nearly as much again: that is another pudding. Serve it to be spooned or cut, or cook a second, thin pot and mix them.", mostLoosening*w.mass(), lower(w.name(w.liquid)))
		return nil
	}
	w.keepSweet(&r)
	return []Repair{r}
}

// lower begins a name in small letters, for the middle of a sentence.
func lower(name string) string {
	first, size := utf8.DecodeRuneInString(name)
	return string(unicode.ToLower(first)) + name[size:]
}

func (w *ward) tooThin() []Repair {
	if w.before.Grade.Value >= w.wanted-nearGrade {
		w.says, w.fine = fmt.Sprintf("Left alone it comes to the table at %.1f, and %.1f is wanted: it thickens as it stands and needs nothing. If it looks thinner than that, say how it runs off the spoon.", w.before.Grade.Value, w.wanted), true
		return nil
	}
	w.says = fmt.Sprintf("Left alone it comes to the table at %.1f instead of %.1f.", w.before.Grade.Value, w.wanted)
	var list []Repair
	if r, ok := w.reduce(); ok {
		list = append(list, r)
	}
	if r, ok := w.mash(); ok {
		list = append(list, r)
	}
	r := Repair{Key: "bind", Title: "Bind it with starch",
		Why:   "Starch swells within a minute or two; nothing boils away, the grain does not cook much further.",
		Until: "Stop when it runs as you want it: starch goes on thickening for two minutes and once more as it cools."}
	if w.bindTo(&r, w.wanted, 0) {
		list = append(list, r)
	}
	// The one that does least to the grain comes first.
	part, _ := w.grain()
	most := w.base.Parts[part].WantedHigh
	slices.SortStableFunc(list, func(a, b Repair) int {
		over := func(r Repair) int {
			if part != "" && w.gives(r).Done.Value > most {
				return 1
			}
			return 0
		}
		return over(a) - over(b)
	})
	return list
}

// reduce boils it down to a mark that makes it as thick as wanted.
func (w *ward) reduce() (Repair, bool) {
	if w.fragile() {
		return Repair{}, false
	}
	guard := measure.Minute(90)
	step := w.p.IntoServed(plan.Step{Do: plan.Heat, Flame: vessel.Medium, Stir: plan.StirOften})
	r := Repair{Key: "reduce", Title: "Boil it down further",
		Why:   "Steam leaves and what thickens stays. The grain cooks on, and it gets sweeter.",
		Until: "The mark is a mass: weigh it or use the gauge, and stop there; it thickens again as it stands."}
	from := w.mass()
	if over := w.over(); over != nil {
		step, r.Leaves = *over, 1
		if end := w.base.Steps[w.now].MassG; end != nil {
			from = *end
		}
	}
	step.Note = "Open, and stirred along the bottom."
	// A flame that boils it down in time, and a rhythm of stirring that keeps it from catching.
	for _, flame := range []vessel.Flame{step.Flame, vessel.Medium, vessel.MediumHigh, vessel.High} {
		for _, stir := range []plan.Stir{plan.StirOften, plan.StirConstant} {
			one := step
			one.Stir = stir
			if flame != "" {
				one.Flame, one.FlamePct = flame, nil
			}
			with := func(mass float64) Repair {
				target := measure.Gram(math.Round(mass))
				heat, more := one, r
				heat.Until = &plan.Until{MassG: &target, MaxMinutes: &guard}
				more.Steps, more.Shift = []plan.Step{heat}, target-measure.Gram(from)
				return more
			}
			const least = 0.4
			if w.gives(with(least*from)).Grade.Value < w.wanted-nearGrade {
				continue
			}
			found := with(halve(from, least*from, func(x float64) bool { return w.gives(with(x)).Grade.Value < w.wanted }))
			f := forecast.Run(w.with(&found), w.nominal())
			if s := f.Steps[w.now].Scorch; !f.Trace[w.now].NeverReached && (s == nil || *s <= 1) {
				return found, true
			}
		}
	}
	return r, false
}

// mash breaks a share of the grain.
func (w *ward) mash() (Repair, bool) {
	part, _ := w.grain()
	const soft, least, most = 1.0, 10.0, 60.0
	if part == "" || w.base.Steps[w.last].Doneness[part] < soft {
		return Repair{}, false
	}
	with := func(pct float64) Repair {
		whole := math.Round(pct)
		return Repair{Key: "mash", Title: "Mash some of the grain",
			Why:   "Broken grain gives off the starch that is still in it. Nothing is added and nothing boils away; the texture changes.",
			Until: "Stop at half of the share, look, and go on.",
			Steps: []plan.Step{w.p.IntoServed(plan.Step{Do: plan.Mash, Of: part, Pct: &whole, Note: "Against the wall of the pot with the back of a ladle."})}}
	}
	if w.gives(with(most)).Grade.Value < w.wanted-nearGrade {
		return Repair{}, false
	}
	r := with(halve(least, most, func(x float64) bool { return w.gives(with(x)).Grade.Value < w.wanted }))
	return r, true
}

// starch is what binds: rice flour with rice, else maize starch.
func (w *ward) starch() string {
	if w.holds(func(m *pantry.Material) bool { return m.Slug == "rice-flour" }) {
		return "rice-flour"
	}
	return "cornstarch"
}

// binding returns the steps that stir so much starch in and let it swell. A pot
// that must not boil gets it from another pan.
func (w *ward) binding(grams float64) []plan.Step {
	starch, liquid := w.starch(), w.liquid
	items := []plan.Item{portion(starch, grams), portion(liquid, slurryMilk*float64(weighable(grams)))}
	minute, two, three := measure.Minute(1), measure.Minute(2), measure.Minute(3)
	closed := false
	if w.fragile() || w.symptom == SplitCoconut {
		const cool measure.Celsius = 30
		steps := []plan.Step{
			{Do: plan.Add, Pot: sparePot, Items: items, Note: "In a small pan, starch and cold liquid stirred smooth."},
			{Do: plan.Heat, Pot: sparePot, Flame: vessel.Medium, Until: &plan.Until{Boil: true}, Stir: plan.StirConstant},
			{Do: plan.Heat, Pot: sparePot, Flame: vessel.Low, Until: &plan.Until{Minutes: &minute}, Stir: plan.StirConstant},
		}
		if w.celsius() < float64(cool) || w.holds(func(m *pantry.Material) bool { return m.Has("cultured") }) {
			to := cool
			steps = append(steps, plan.Step{Do: plan.Cool, Pot: sparePot, ToC: &to, Where: "water-bath"})
		}
		if w.celsius() > warm {
			steps = append(steps, w.aside(usualApart, "Off the flame, covered, until the binder is ready."))
		}
		return append(steps, w.p.IntoServed(plan.Step{Do: plan.Add, Items: []plan.Item{{Pot: sparePot}}, Slowly: true, Note: "Whisk it in off the flame; do not let it boil."}))
	}
	steps := []plan.Step{{Do: plan.Mix, Name: w.p.FreePart(slurryPart), Minutes: &minute, Items: items, Note: "Starch into cold liquid, stirred smooth."}}
	const swells = 88
	to, guard := measure.Celsius(swells), measure.Minute(40)
	heat := w.p.IntoServed(plan.Step{Do: plan.Heat, Flame: vessel.Medium, Until: &plan.Until{TempC: &to, MaxMinutes: &guard}, Stir: plan.StirOften, Lid: &closed})
	celsius := w.celsius()
	if celsius < swells {
		steps, celsius = append(steps, heat), swells
	}
	steps = append(steps, w.p.IntoServed(plan.Step{Do: plan.Add, Items: []plan.Item{{Part: steps[0].Name}}, Slowly: true, Note: "In a thin stream, stirring."}))
	slurry := (1 + slurryMilk) * float64(weighable(grams))
	if mixed := (celsius*w.mass() + float64(w.p.Kitchen.AmbientC)*slurry) / (w.mass() + slurry); mixed < swells {
		again := heat
		again.Stir = plan.StirConstant
		steps = append(steps, again)
	}
	steps = append(steps, w.p.IntoServed(plan.Step{Do: plan.Heat, Flame: vessel.Low, Until: &plan.Until{Minutes: &two}, Stir: plan.StirConstant, Lid: &closed}))
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
func (w *ward) aside(minutes measure.Minute, note string) plan.Step {
	lid := true
	return w.p.IntoServed(plan.Step{Do: plan.Rest, Minutes: &minutes, Lid: &lid, Note: note})
}

// bindTo adds to a repair the starch that brings it to the wanted grade, at least
// so many grams; where more is needed than is good, those, and none if there is
// no least. It reports whether it adds what is needed.
func (w *ward) bindTo(r *Repair, wanted, least float64) bool {
	with := func(grams float64) Repair {
		more := *r
		steps := w.binding(grams)
		more.Steps = append(slices.Clone(r.Steps), steps...)
		more.Shift += weighable(grams) + weighable(slurryMilk*float64(weighable(grams)))
		return more
	}
	if least == 0 && w.gives(*r).Grade.Value >= wanted-nearGrade {
		return true
	}
	most := mostBinder * w.mass()
	if w.symptom == TooSoftToCut {
		most = mostSetting * w.mass()
	}
	if least > 0 && w.gives(with(least)).Grade.Value >= wanted {
		*r = with(least)
		return true
	}
	if w.gives(with(most)).Grade.Value < wanted-nearGrade {
		if least > 0 {
			*r = with(least)
		}
		return least > 0
	}
	*r = with(halve(least, most, func(x float64) bool { return w.gives(with(x)).Grade.Value < wanted }))
	return true
}

func (w *ward) splitDairy() []Repair {
	if !w.holds(func(m *pantry.Material) bool { return m.Kind == "dairy" }) {
		w.cannot = "There is no dairy in this pot. If its coconut milk has parted, choose that."
		return nil
	}
	ph := *w.base.Steps[w.last].PH
	w.says = fmt.Sprintf("The pot is at pH %.2f by what went in. Curds do not dissolve again; they can be made small, and held apart so that no more of them form.", ph)
	liquid := *w.base.Steps[w.last].VolumeML / 1000
	r := Repair{Key: "smooth", Title: "Make it smooth, and bind it",
		Why:    "Starch comes between the curds and keeps more of them from forming; a blender or a sieve makes them small.",
		Until:  "Stop when it is smooth on the tongue. If it smells sour it is thrown away.",
		Beyond: "How fine the grain gets is not computed: with a hand blender it is seldom noticed, with a whisk it mostly is. It will not be what it was."}
	two := measure.Minute(2)
	r.Steps = append(r.Steps, w.p.IntoServed(plan.Step{Do: plan.Rest, Minutes: &two, Note: "Off the flame. Blend it with a hand blender, or whisk hard and rub it through a sieve."}))
	// Of the pot: what keeps curds apart, and with what is in it the 1 % of cooked starch that protects; the model, section 8.
	const little, binder = 0.003, 0.008
	starch := little
	try := func(soda float64) Repair {
		one := r
		one.Steps = slices.Clone(r.Steps)
		if soda > 0 {
			one.Steps = append(one.Steps, w.p.IntoServed(plan.Step{Do: plan.Add, Items: []plan.Item{{Material: "baking-soda", Amount: fmt.Sprintf("%.2f g", soda)}}, Note: "A pinch, dissolved in a spoon of water. It foams."}))
		}
		w.bindTo(&one, w.wanted, starch*w.mass())
		return one
	}
	// It may be near the boil again: then the acid must be gone. Off the heat less of it matters.
	most := max(0, sodaMost*liquid-w.soda())
	best := try(0)
	if w.gives(best).Split < safeSplit {
		starch = binder
		best = try(0)
	}
	if w.gives(best).Split < safeSplit && most > 0 {
		r.Why = "Soda takes the acid away that made it split. " + r.Why
		if w.gives(try(most)).Split < safeSplit {
			best = try(most)
		} else {
			best = try(halve(0, most, func(x float64) bool { return w.gives(try(x)).Split < safeSplit+0.02 }))
		}
	}
	after := w.gives(best)
	if after.Split < safeSplit {
		best.Beyond += fmt.Sprintf(" More soda than %.1f g would taste of soap; at pH %.2f it may part again near the boil: keep it below 80 °C from here on.", most, after.Split)
	}
	w.thinTo(&best, w.wanted)
	w.keepSweet(&best)
	best.widen.Mass = measure.Range{Low: 0.04 * after.Mass.Value} // what clings to a sieve
	return []Repair{best}
}

// soda returns what is in already, in g.
func (w *ward) soda() (grams float64) {
	w.p.Uses(func(m *pantry.Material, mass measure.Gram, step int) {
		if m.Slug == "baking-soda" && step < w.now {
			grams += float64(mass)
		}
	})
	return grams
}

func (w *ward) splitCoconut() []Repair {
	if !w.holds(func(m *pantry.Material) bool { return m.Kind == "coconut" && m.Behaviour == pantry.Liquid }) {
		w.cannot = "There is no coconut milk in this pot."
		return nil
	}
	w.says = fmt.Sprintf("Fat stands on top: at %.0f °C the coconut milk gave it up. It is only fat, and good to eat; whisked in with a little starch it stays in.", w.celsius())
	r := Repair{Key: "whisk", Title: "Whisk the fat in again",
		Why:    "Below 85 °C the fat is taken up in drops, and starch keeps the drops apart. Boiled again it comes out again.",
		Until:  "Stop when no eyes of fat come back within a minute.",
		Beyond: "How fine the drops get is not computed: a hand blender for half a minute is surer than a whisk."}
	calm := w.p.IntoServed(plan.Step{Do: plan.Cool, ToC: celsiusOf(80), Where: "counter", Note: "Off the flame, whisking now and then, until it no longer steams much."})
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
func (w *ward) lossOf(of pantry.Behaviour, low, likely, high float64, r Repair) (Repair, bool) {
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
func (w *ward) leaveOpen(r *Repair, low, high float64) {
	r.loss = [2]float64{low, high}
	is := w.gives(*r)
	for _, share := range r.loss {
		o := w.gives(r.losing(share))
		for _, pair := range []struct {
			of     *measure.Range
			is, by float64
		}{{&r.widen.Grade, is.Grade.Value, o.Grade.Value}, {&r.widen.Sweet, is.Sweet.Value, o.Sweet.Value}, {&r.widen.Done, is.Done.Value, o.Done.Value}, {&r.widen.Mass, is.Mass.Value, o.Mass.Value}} {
			pair.of.Low, pair.of.High = max(pair.of.Low, pair.is-pair.by), max(pair.of.High, pair.by-pair.is)
		}
	}
}

func (w *ward) lumps() []Repair {
	if !w.holds(func(m *pantry.Material) bool { return m.Behaviour == pantry.Flour }) {
		w.cannot = "There is no flour or starch in this pot that could lump. If its pearls stick together, choose that."
		return nil
	}
	w.says = "A lump is dry flour in a swollen skin: it does not dissolve by stirring, and what is in it does not thicken."
	two := measure.Minute(2)
	r := Repair{Key: "sieve", Title: "Sieve it, and put back what the sieve keeps",
		Why:    "Small lumps can be crushed with a whisk or a blender; large ones stay in the sieve, and with them a part of the starch.",
		Until:  "Stop when it runs as you want it.",
		Beyond: "How much the sieve keeps is taken to be a fifth of the flour, 5 to 40 %.",
		Steps:  []plan.Step{w.p.IntoServed(plan.Step{Do: plan.Rest, Minutes: &two, Note: "Off the flame. Whisk hard, or blend; then through a sieve into a warm pot."})}}
	r, ok := w.lossOf(pantry.Flour, 0.05, 0.2, 0.4, r)
	if !ok {
		return nil
	}
	return []Repair{r}
}

func (w *ward) pearlsLumped() []Repair {
	part, _ := w.grain()
	if part == "" {
		w.cannot = "There are no pearls in this pot."
		return nil
	}
	share := func(r Repair) float64 {
		return forecast.Run(w.with(&r), w.nominal()).Parts[part].VolumeShare
	}
	three, closed := measure.Minute(3), false
	with := func(grams float64) Repair {
		return Repair{Key: "part", Title: "Part them in hot liquid",
			Why:   "What holds them is a thin paste of starch: hot liquid takes it up. They need room to stay apart.",
			Until: "Stop when they swim singly. Pearls that are glass-clear to the middle are done.",
			Shift: weighable(grams),
			Steps: []plan.Step{w.loosen(grams),
				w.p.IntoServed(plan.Step{Do: plan.Heat, Flame: vessel.Low, Until: &plan.Until{Minutes: &three}, Stir: plan.StirConstant, Lid: &closed, Note: "Part the lump with two forks; do not crush it."})}}
	}
	w.says = fmt.Sprintf("The pearls fill %.0f %% of the pudding; above 45 %% they hang together.", 100*w.base.Parts[part].VolumeShare)
	most := mostLoosening * w.mass()
	least := 0.05 * w.mass()
	if share(with(most)) > pearlsRoom {
		w.cannot = fmt.Sprintf("Even %.0f g more liquid would leave them too crowded. Cook half of them again in a second pot with as much milk.", most)
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

func (w *ward) scorched() []Repair {
	w.says = "What is burnt sits on the bottom; stirred loose it tastes through the whole pot."
	minute, behind := measure.Minute(1), 0.08
	const left, least, most = 0.08, 0.03, 0.15 // of the pot, stays behind: our own estimate
	r := Repair{Key: "pour", Title: "Pour it over, and leave what sticks",
		Why:    "The clean part is poured into another pot without scraping; there it goes on with less flame and more stirring.",
		Until:  "Taste it now. If it tastes of burning it is not to be saved: sugar and spice do not cover it.",
		Beyond: fmt.Sprintf("How much stays behind is taken to be %.0f %%, %.0f to %.0f %%. Weigh what you have.", 100*left, 100*least, 100*most),
		Steps: []plan.Step{w.p.IntoServed(plan.Step{Do: plan.Rest, Minutes: &minute, Note: "Off the flame. Do not stir, do not scrape: pour it into a clean pot."}),
			{Do: plan.Add, Pot: LeftPot, Items: []plan.Item{{Pot: w.pot, Share: &behind}}, Note: "What sticks stays in the old pot, under water."}}}
	if over := w.over(); over != nil {
		step := *over
		step.Flame, step.Stir = "", plan.StirConstant
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
		percent := over.FlamePercent()
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

func (w *ward) hardGrain() []Repair {
	part, _ := w.grain()
	if part == "" {
		w.cannot = "There is no grain or meal in this pot."
		return nil
	}
	low := w.base.Parts[part].WantedLow
	is := w.base.Steps[w.last].Doneness[part]
	brix := *w.base.Steps[w.last].Brix
	const strength = 2.4 // of sugar on the cooking time; the model, section 5
	if w.before.Done.Value >= low {
		w.says, w.fine = fmt.Sprintf("It is at %.2f and gets to %.2f by itself; it is liked from %.2f on. If it is harder than that, say how soft it is between the fingers.", is, w.before.Done.Value, low), true
		return nil
	}
	w.says = fmt.Sprintf("It is at %.2f now and is liked from %.2f on.", is, low)
	if brix > 2 {
		w.says += fmt.Sprintf(" With %.0f %% sugar in its liquid it takes %.1f times as long as without.", brix, math.Exp(strength*brix/100))
	}
	const more = 0.05 // so that it is past the least
	target := low + more
	guard := measure.Minute(180)
	title, why := "Cook it on under a lid, with more liquid", "Under a lid little boils away; the water that the grain still drinks is made up for. Stirring does not speed it."
	for _, lid := range []bool{true, false} {
		covered := lid
		with := func(grams float64) Repair {
			r := Repair{Key: "cook-on", Title: title, Why: why,
				Until: "Press a grain between the fingers every ten minutes: stop when it gives to the middle.",
				Shift: measure.Gram(grams)}
			if !lid {
				r.Title, r.Why = "Cook it on, open", "It has liquid enough: open it boils down while the grain softens."
			}
			if grams > 0 {
				r.Steps = append(r.Steps, w.loosen(grams))
				r.Shift = weighable(grams)
			}
			r.Steps = append(r.Steps, w.p.IntoServed(plan.Step{Do: plan.Heat, Flame: vessel.Low, Lid: &covered, Stir: plan.StirNow,
				Until: &plan.Until{Doneness: &plan.DonenessTarget{Of: part, At: target}, MaxMinutes: &guard}}))
			return r
		}
		most := mostLoosening * w.mass()
		bare := with(0)
		if lid && !w.stated {
			w.wanted = w.gives(bare).Grade.Value // it was to be soft, and as thick as that makes it
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
		if w.gives(with(most)).Grade.Value > w.wanted+nearGrade {
			continue
		}
		r := with(halve(0, most, func(x float64) bool { return w.gives(with(x)).Grade.Value > w.wanted }))
		f = forecast.Run(w.with(&r), w.nominal())
		if slices.ContainsFunc(f.Trace[w.now:w.now+len(r.Steps)], func(t forecast.StepTrace) bool { return t.NeverReached }) {
			continue
		}
		w.keepSweet(&r)
		return []Repair{r}
	}
	w.cannot = "In this much sugar it does not soften within three hours. Sieve it out, cook it soft in fresh water and put it back; or begin again and sweeten late."
	return nil
}

func (w *ward) mushy() []Repair {
	part, slug := w.grain()
	m, ok := w.p.Pantry().Material(slug)
	if part == "" || !ok {
		w.cannot = "There is no grain in this pot."
		return nil
	}
	w.says = fmt.Sprintf("What has gone soft does not get firm again. It is at %.2f; %.2f to %.2f is liked.", w.base.Steps[w.last].Doneness[part], m.Kinetics.WantedLow, m.Kinetics.WantedHigh)
	var list []Repair
	const share, boils, soft = 0.25, 10.0, 1.05
	raw := measure.Gram(0)
	w.p.Uses(func(one *pantry.Material, mass measure.Gram, step int) {
		if one.Slug == slug && step < w.now {
			raw += mass
		}
	})
	fresh := float64(weighable(share * float64(raw)))
	guard := measure.Minute(180)
	r := Repair{Key: "fresh", Title: "Fold in some that is cooked fresh and apart",
		Why:   "A quarter of fresh grain, cooked just through in plain water, gives it a bite again. The rest stays what it is.",
		Until: "Drain the fresh grain while it still has a little core: it goes on cooking in the hot pudding.",
		Steps: []plan.Step{
			{Do: plan.Add, Pot: sparePot, Items: []plan.Item{portion(slug, fresh), portion("water", boils*fresh)}},
			{Do: plan.Heat, Pot: sparePot, Flame: vessel.MediumHigh, Until: &plan.Until{Boil: true}, Stir: plan.StirNow},
			{Do: plan.Heat, Pot: sparePot, Flame: vessel.Low, Until: &plan.Until{Doneness: &plan.DonenessTarget{Of: slug, At: soft}, MaxMinutes: &guard}, Stir: plan.StirNow},
			{Do: plan.Drain, Pot: sparePot},
			w.p.IntoServed(plan.Step{Do: plan.Add, Items: []plan.Item{{Pot: sparePot}}, Note: "Fold it in; do not stir it hard."}),
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
	r.Steps = slices.Insert(r.Steps, len(r.Steps)-1, w.aside(measure.Minute(math.Ceil(apart)), "Off the flame, covered, until the fresh grain is done."))
	if w.thinTo(&r, w.wanted) {
		w.keepSweet(&r)
		list = append(list, r)
	}
	if w.heatAhead() {
		stop := Repair{Key: "stop", Title: "Off the flame, as it is", Leaves: 1,
			Why:   "The heat that was still to come is left out. It goes on cooking for a while in its own heat.",
			Until: "Serve it as a cream, or rub it through a sieve."}
		if w.over() == nil {
			stop.Leaves = 0
		}
		two := measure.Minute(2)
		stop.Steps = []plan.Step{w.p.IntoServed(plan.Step{Do: plan.Rest, Minutes: &two, Note: "Off the flame."})}
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
func (w *ward) sweetGoal(symptom Symptom) float64 {
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

func (w *ward) tooSweet() []Repair {
	goal := w.sweetGoal(TooSweet)
	if w.before.Sweet.Value <= goal+nearSweet {
		w.says, w.fine = fmt.Sprintf("It comes to %.1f %%, and %.1f %% is wanted: it needs nothing. If it tastes sweeter, say by how much.", w.before.Sweet.Value, goal), true
		return nil
	}
	w.says = fmt.Sprintf("It comes to %.1f %% as served, and %.1f %% is wanted. Hot it tastes sweeter than it will when it is cold.", w.before.Sweet.Value, goal)
	var list []Repair
	less := func(factor float64) Repair {
		return Repair{Key: "less", Title: "Leave out some of the sugar that is still to come", Sugar: factor,
			Why: "Nothing is in that need not be.", Until: "Taste again before the last spoon."}
	}
	if none := w.gives(less(0.01)); none.Sweet.Value < w.before.Sweet.Value-nearSweet {
		factor := 0.01
		if none.Sweet.Value < goal {
			factor = halve(0.01, 1, func(x float64) bool { return w.gives(less(x)).Sweet.Value < goal })
		}
		r := less(factor)
		r.Title = fmt.Sprintf("Of the sugar still to come, take %.0f %% only", 100*factor)
		if factor <= 0.02 {
			r.Title = "Leave out the sugar that is still to come"
		}
		list = append(list, r)
	}
	stretch := func(grams float64) Repair {
		r := Repair{Key: "stretch", Title: "Stretch it with " + lower(w.name(w.liquid)) + ", and bind it",
			Why:   "Sugar cannot be taken out: only more of the rest makes it less. Starch keeps it as thick.",
			Until: "Taste after two thirds of it. A pinch of salt or something sour beside it helps more than the last spoons.",
			Steps: []plan.Step{w.loosen(grams)}, Shift: weighable(grams)}
		return r
	}
	most := mostLoosening * w.mass()
	whole := func(grams float64) (Repair, bool) {
		r := stretch(grams)
		ok := w.bindTo(&r, w.wanted, 0)
		return r, ok
	}
	plain := func(x float64) float64 { return w.gives(stretch(x)).Sweet.Value }
	to := func(aim float64) (Repair, bool) {
		if plain(most) > aim+nearSweet {
			return Repair{}, false
		}
		return whole(halve(0, most, func(x float64) bool { return plain(x) > aim }))
	}
	if r, ok := to(goal); ok {
		// What binds it dilutes it, too: so much less has to be poured in.
		if off := goal - w.gives(r).Sweet.Value; math.Abs(off) > 0.05 && goal+off < w.before.Sweet.Value {
			if better, ok := to(goal + off); ok {
				r = better
			}
		}
		list = append(list, r)
	}
	if len(list) == 0 {
		w.cannot = fmt.Sprintf("It would take more than %.0f g of %s to bring it down to %.1f %%. Serve small bowls with something plain or sour beside it, or cook a second pot without sugar and mix them.", most, lower(w.name(w.liquid)), goal)
	}
	return list
}

func (w *ward) notSweet() []Repair {
	goal := w.sweetGoal(NotSweet)
	if w.before.Sweet.Value >= goal-nearSweet {
		w.says, w.fine = fmt.Sprintf("It comes to %.1f %%, and %.1f %% is wanted: it needs nothing yet. If it tastes less sweet, say by how much.", w.before.Sweet.Value, goal), true
		return nil
	}
	w.says = fmt.Sprintf("It comes to %.1f %% as served, and %.1f %% is wanted. Chilled it will taste less sweet than it does hot.", w.before.Sweet.Value, goal)
	m := w.sweetener()
	part, _ := w.grain()
	two, open := measure.Minute(2), false
	guard := measure.Minute(120)
	with := func(grams float64) Repair {
		r := Repair{Key: "sweeten", Title: "Stir in more " + lower(m.ShortName()),
			Why:   "Computed on what the pot will weigh when it is served. " + m.ShortName() + " thins it a little until it has cooled.",
			Until: "Two thirds of it first, then taste.", Shift: weighable(grams)}
		const through = 0.95
		if done := w.base.Steps[w.last].Doneness[part]; part != "" && done < through && w.celsius() > 60 {
			r.Steps = append(r.Steps, w.p.IntoServed(plan.Step{Do: plan.Heat, Flame: vessel.Low, Lid: &open, Stir: plan.StirOften, Note: "Not yet: sugar keeps grain hard.",
				Until: &plan.Until{Doneness: &plan.DonenessTarget{Of: part, At: 1}, MaxMinutes: &guard}}))
		}
		r.Steps = append(r.Steps, w.p.IntoServed(plan.Step{Do: plan.Add, Items: []plan.Item{portion(m.Slug, grams)}, Note: "Two thirds of it, taste, then the rest."}))
		const dissolves = 60
		if w.celsius() > dissolves && !w.heatAhead() && !w.fragile() {
			r.Steps = append(r.Steps, w.p.IntoServed(plan.Step{Do: plan.Heat, Flame: vessel.Low, Until: &plan.Until{Minutes: &two}, Stir: plan.StirOften, Lid: &open}))
		}
		return r
	}
	most := mostLoosening * w.mass()
	r := with(halve(0, most, func(x float64) bool { return w.gives(with(x)).Sweet.Value < goal }))
	return []Repair{r}
}

func (w *ward) weepingYogurt() []Repair {
	if !w.holds(func(m *pantry.Material) bool { return m.Has("cultured") }) {
		w.cannot = "There is no yogurt in this pot."
		return nil
	}
	w.says = "Yogurt that was stirred in above 35 °C, or stood long, lets go of its whey. The whey is good to eat; it only makes it thin."
	r := Repair{Key: "fold", Title: "Pour off the whey, and fold in a cooled binder",
		Why:    "Cooked starch, cooled, holds what the curd no longer does. It is not warmed again.",
		Until:  "Fold, do not whisk: whisked curd lets go of more.",
		Beyond: "How much whey stands on it is for you to see: 0 to 8 % of the pot is usual, and what you pour off makes it thicker and less."}
	if w.celsius() > watch.YogurtLimit {
		r.Steps = append(r.Steps, w.p.IntoServed(plan.Step{Do: plan.Cool, ToC: celsiusOf(32), Where: "water-bath", Note: "In cold water, without stirring."}))
	}
	const whey = 0.08
	if !w.bindTo(&r, w.wanted, 0.004*w.mass()) {
		return nil
	}
	r.widen.Mass = measure.Range{Low: whey * w.mass()}
	r.widen.Grade = measure.Range{High: 0.4}
	return []Repair{r}
}

func (w *ward) scrambledEgg() []Repair {
	if !w.holds(func(m *pantry.Material) bool { return m.Behaviour == pantry.Egg }) {
		w.cannot = "There is no egg in this pot."
		return nil
	}
	w.says = fmt.Sprintf("At %.0f °C egg is past setting and draws together. What has scrambled no longer thickens.", w.celsius())
	two := measure.Minute(2)
	r := Repair{Key: "sieve", Title: "Cool it at once, sieve it, and bind it",
		Why:    "Below 75 °C no more of it scrambles. Sieved or blended, starch takes the place of the egg that is lost.",
		Until:  "Stop when it coats the spoon as you want it.",
		Beyond: "How much of the egg is lost is taken to be half, 20 to 80 %. If it smells of boiled egg and you mind that, more vanilla or lemon peel is all that helps."}
	if w.celsius() > 72 {
		r.Steps = append(r.Steps, w.p.IntoServed(plan.Step{Do: plan.Cool, ToC: celsiusOf(72), Where: "water-bath", Note: "Off the flame and into cold water, stirring."}))
	} else {
		r.Steps = append(r.Steps, w.p.IntoServed(plan.Step{Do: plan.Rest, Minutes: &two, Note: "Off the flame."}))
	}
	r.Steps[0].Note += " Then blend it, or rub it through a sieve."
	if w.over() != nil {
		r.Leaves = 1
	}
	r, ok := w.lossOf(pantry.Egg, 0.2, 0.5, 0.8, r)
	if !ok {
		return nil
	}
	return []Repair{r}
}

func (w *ward) skin() []Repair {
	w.says = "Milk protein and fat dry together on an open, still surface. It is good to eat."
	minute, lid := measure.Minute(1), true
	const lost = 0.02
	list := []Repair{
		{Key: "lift", Title: "Lift it off", Why: "Drawn off from the rim with a fork; the pudding under it is as it was.",
			Until: "Afterwards lay paper or film on the surface, or keep a lid on.",
			Steps: []plan.Step{w.p.IntoServed(plan.Step{Do: plan.Rest, Minutes: &minute, Lid: &lid, Note: "Lift the skin off from the rim. Then cover it: paper on the surface, or the lid."})},
			widen: Outcome{Mass: measure.Range{Low: lost * w.mass()}}},
		{Key: "whisk", Title: "Whisk it in", Why: "In a thick pudding nobody finds it; in a thin one it leaves shreds.",
			Until: "Afterwards stir now and then while it cools, and keep it covered.",
			Steps: []plan.Step{w.p.IntoServed(plan.Step{Do: plan.Rest, Minutes: &minute, Lid: &lid, Note: "Whisk it in. Then cover it."})}},
	}
	const coats = 3
	if *w.base.Steps[w.last].Thickness > coats {
		slices.Reverse(list)
	}
	return list
}

func (w *ward) tooSoftToCut() []Repair {
	const cuts, aim = 6.5, 6.8
	w.says = fmt.Sprintf("Cold through it comes to %.1f; it can be cut from %.1f on.", w.before.Grade.Value, cuts)
	var list []Repair
	w.wanted = aim
	const through = 7.0
	if w.celsius() > through && w.before.Grade.Value >= cuts {
		cold := measure.Celsius(6)
		list = append(list, Repair{Key: "chill", Title: "Chill it longer", Why: fmt.Sprintf("It is at %.0f °C still, and sets until it is cold through.", w.celsius()),
			Until: "Press the middle: it should spring back. Cut it with a wet knife.",
			Steps: []plan.Step{w.p.IntoServed(plan.Step{Do: plan.Cool, ToC: &cold, Where: "fridge"})}})
	}
	if w.holds(func(m *pantry.Material) bool { return m.Behaviour == pantry.Egg }) {
		if len(list) == 0 {
			w.cannot = "Egg cannot be heated again without scrambling. Spoon it into bowls, or freeze it for an hour and cut it half frozen."
		}
		return list
	}
	if len(list) == 0 && w.before.Grade.Value >= cuts {
		w.says, w.fine = w.says+" It is cold and should hold its shape: cut it with a wet knife. If it runs, say how it looks now.", true
		return nil
	}
	if w.before.Grade.Value < cuts {
		r := Repair{Key: "melt", Title: "Melt it, bind it, and set it again",
			Why:   "Warmed gently and stirred it runs again; more starch sets it. It is reheated only once.",
			Until: "A drop on a cold plate should hold its shape after two minutes."}
		if w.bindTo(&r, aim, 0) && len(r.Steps) > 0 {
			four := 4.0
			r.Steps = append(r.Steps, w.p.IntoServed(plan.Step{Do: plan.Chill, Hours: &four, Note: "Into the rinsed tray, a finger high, and cold."}))
			list = append(list, r)
		}
	}
	if len(list) == 0 {
		w.cannot = fmt.Sprintf("At %.1f it takes more starch to set it than is good to eat. Spoon it into bowls: it is a good pudding.", w.before.Grade.Value)
	}
	return list
}
