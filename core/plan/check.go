package plan

import (
	"errors"
	"fmt"
	"slices"
	"strings"

	"kirdu/core/measure"
	"kirdu/core/pantry"
	"kirdu/core/vessel"
)

// meaning checks what the form alone cannot say: that everything named exists,
// that amounts can be weighed, that parts are made before they are used and no
// empty pot is heated. Values left out as faulty are passed over.
func (c *checker) meaning(p *Plan) {
	p.pantry = pantry.Standard().With(c.ownMaterials(p))
	for i, name := range p.ServedFrom {
		if _, ok := p.Pots[name]; !ok && name != "" {
			path := "served_from"
			if len(p.ServedFrom) > 1 {
				path = fmt.Sprintf("served_from[%d]", i)
			}
			c.wrong(path, name, "plan.no-pot")
		}
	}
	for _, name := range p.PotNamesSorted() {
		if burner := p.Pots[name].Burner; burner != "" {
			if _, ok := p.Burners[burner]; !ok {
				c.wrong("pots."+name+".burner", burner, "plan.no-burner")
			}
		}
	}
	w := walk{checker: c, plan: p, parts: map[string]float64{}, left: map[string]float64{}, held: map[string]map[string]bool{}}
	sum := measure.Minute(0)
	for i := range p.Steps {
		w.step(i, &p.Steps[i])
		if sum += p.Steps[i].stated(); sum > longestPlan {
			c.wrong(fmt.Sprintf("steps[%d]", i), nil, "plan.too-long-cook")
			break
		}
	}
	for _, name := range p.Served() {
		if _, exists := p.Pots[name]; exists && w.left[name] <= 0 && len(c.faults) == 0 {
			c.wrong("steps", nil, "plan.nothing-served", name)
		}
	}
}

// longestPlan bounds what all steps may take together: no pudding does, and whoever asks
// for a forecast waits for it.
const longestPlan measure.Minute = 14 * 24 * 60

// stated returns the minutes that a step is given, 0 where it ends by itself.
func (s *Step) stated() measure.Minute {
	const minutesPerHour = 60
	switch {
	case s.Hours != nil:
		return measure.Minute(*s.Hours) * minutesPerHour
	case s.Until != nil && s.Until.Minutes != nil:
		return *s.Until.Minutes
	case s.Minutes != nil:
		return *s.Minutes
	}
	return 0
}

// ownMaterials turns the plan's own materials into those of a pantry. Parts
// that do not reach 100 g are completed by other solids: a pack label leaves
// out what it need not name.
func (c *checker) ownMaterials(p *Plan) []*pantry.Material {
	var own []*pantry.Material
	for i, o := range p.Materials {
		if o.Slug == "" || o.Behaviour == "" || o.Bulk == 0 {
			continue
		}
		m := o.Material()
		if faults, found := errors.AsType[measure.Faults](m.Check()); found {
			for _, one := range faults {
				c.faults = append(c.faults, &measure.FieldError{Field: strings.TrimSuffix(fmt.Sprintf("materials[%d].%s", i, one.Field), "."),
					Value: one.Value, Err: one.Err})
			}
			continue
		}
		own = append(own, m)
	}
	return own
}

// Material returns the pantry's form of an own material.
func (o OwnMaterial) Material() *pantry.Material {
	gram := func(x float64) measure.Gram { return measure.Gram(x) }
	m := &pantry.Material{
		Slug: o.Slug, Name: o.Name, Kind: o.Kind, Behaviour: pantry.Behaviour(o.Behaviour),
		Traits: splitList(o.Traits), UsualState: o.UsualState,
		Composition: pantry.Composition{
			Water: gram(o.Water), Fat: gram(o.Fat), Protein: gram(o.Protein), Lactose: gram(o.Lactose),
			Sucrose: gram(o.Sucrose), Glucose: gram(o.Glucose), Fructose: gram(o.Fructose), Starch: gram(o.Starch),
			Fibre: gram(o.Fibre), Ash: gram(o.Ash), Other: gram(o.Other), EnergyKcal: o.EnergyKcal, SodiumMg: o.SodiumMg,
		},
		Bulk: measure.GramPerMillilitre(o.Bulk), Piece: gram(o.PieceG), PieceName: o.PieceName,
		PH: o.PH, Buffer: o.Buffer, AcidNote: o.AcidNote, Allergens: splitList(o.Allergens),
		Gluten: o.Gluten == "yes", Vegan: o.Vegan == "yes", SourceNote: o.SourceNote,
	}
	const rounding = 1e-6
	if missing := 100 - m.Sum(); missing > rounding {
		m.Other += missing
	}
	known, corrected := pantry.Standard().Material(o.Slug)
	if corrected {
		m.Kinetics, m.Frying, m.Aliases = known.Kinetics, known.Frying, known.Aliases
	}
	m.Aliases = append(slices.Clone(m.Aliases), o.Aliases...)
	if o.Kinetics != nil {
		m.Kinetics = o.Kinetics.kinetics(o.Water / 100)
	}
	return m
}

// ownTissueKept is the water that an own vegetable keeps when done, over what
// it holds raw: the mean of the vegetables table.
const ownTissueKept = 0.79

// kinetics fills what the cook left out with values that change nothing: no
// effect of soaking, no starch shed.
func (k *OwnKinetics) kinetics(water float64) *pantry.Kinetics {
	orElse := func(x, standard float64) float64 {
		if x == 0 {
			return standard
		}
		return x
	}
	wantedLow := orElse(k.WantedLow, 1)
	return &pantry.Kinetics{
		CookMinutes: measure.Minute(k.CookMinutes), SoakedFactor: orElse(k.SoakedFactor, 1),
		SoakUptake: k.SoakUptake, SoakHalf: measure.Minute(orElse(k.SoakHalf, 30)),
		MaxUptake: orElse(k.MaxUptake, 3), UptakeRate: orElse(k.UptakeRate, 1.1),
		ReleaseDone: k.ReleaseDone, ReleaseMax: max(k.ReleaseMax, k.ReleaseDone),
		StarchWeight: orElse(k.StarchWeight, 1), SetWeight: orElse(k.SetWeight, 1), AcidHardens: k.AcidHardens == "yes",
		WantedLow: wantedLow, WantedHigh: orElse(k.WantedHigh, wantedLow+1.5),
		KeptRaw: orElse(k.KeptRaw, water), KeptDone: orElse(k.KeptDone, orElse(k.KeptRaw, water)*ownTissueKept),
	}
}

func splitList(cell string) []string {
	return strings.FieldsFunc(cell, func(r rune) bool { return r == ';' || r == ' ' })
}

// A walk follows parts and pans through the steps.
type walk struct {
	*checker
	plan  *Plan
	parts map[string]float64         // share left of each part made
	left  map[string]float64         // share left of what each pot holds; 0: empty
	held  map[string]map[string]bool // names of the cooking parts that each pot has held
}

func (w *walk) step(i int, s *Step) {
	path := fmt.Sprintf("steps[%d]", i)
	if s.Do == "" {
		return
	}
	pot := s.PotName()
	if s.Do.IsPreparation() {
		pot = ""
	} else if _, ok := w.plan.Pots[pot]; !ok {
		w.wrong(path+".pot", pot, "plan.no-pot")
	}
	if s.Of != "" && s.Do != Mash {
		if _, made := w.parts[s.Of]; !made {
			w.wrong(path+".of", s.Of, "plan.no-part")
		}
	}
	if v, ok := w.plan.Pots[s.Pan]; s.Pan != "" && !ok {
		w.wrong(path+".pan", s.Pan, "plan.no-pot")
	} else if ok && !v.May(vessel.OnStove) {
		w.wrong(path+".pan", s.Pan, "plan.pot-use", vessel.OnStove)
	}
	if s.In != nil {
		w.item(path+".in", *s.In, "")
	}
	if s.Fat != nil {
		w.item(path+".fat", *s.Fat, "")
	}
	names := map[string]bool{}
	for j, item := range s.Items {
		for _, name := range w.item(fmt.Sprintf("%s.items[%d]", path, j), item, pot) {
			names[name] = true
		}
	}
	switch {
	case s.Do.IsPreparation():
		w.make(path, s, names)
	case s.Do == Add || s.Do == Caramel:
		w.left[pot] = 1
		if w.held[pot] == nil {
			w.held[pot] = map[string]bool{}
		}
		for name := range names {
			w.held[pot][name] = true
		}
	case w.left[pot] <= 0:
		if _, ok := w.plan.Pots[pot]; ok {
			w.wrong(path, nil, "plan.pot-empty", pot)
		}
	}
	if s.Until != nil {
		w.until(path+".until", i, *s.Until, pot)
	}
	if v, ok := w.plan.Pots[pot]; ok && !s.Do.IsPreparation() {
		if use, asks := s.Asks(); asks && !v.May(use) {
			w.wrong(path+".pot", pot, "plan.pot-use", use)
		}
	}
}

// Asks returns what a step asks of its pot; asks is false for what any pot can do.
func (s *Step) Asks() (use vessel.Use, asks bool) {
	switch s.Do {
	case Heat, Caramel:
		return vessel.OnStove, s.Do == Caramel || s.Burns()
	case Pressure:
		return vessel.UnderPress, true
	case Bake:
		return map[Oven]vessel.Use{SlowCooker: vessel.AsSlowCooker, Microwave: vessel.InMicrowave, InOven: vessel.InOven,
			"": vessel.InOven}[s.BakeIn], true
	}
	return "", false
}

// make notes the part that a preparation makes.
func (w *walk) make(path string, s *Step, cooking map[string]bool) {
	name := s.Name
	if name == "" {
		return
	}
	if s.Of != "" && name != s.Of {
		w.parts[name] = w.parts[s.Of]
		delete(w.parts, s.Of)
		w.held["part "+name] = w.held["part "+s.Of]
		return
	}
	_, twice := w.parts[name]
	_, pressed := w.parts[name+".1"]
	if (twice || pressed) && s.Of == "" {
		w.wrong(path+".name", name, "plan.part-twice")
	}
	if s.Do == Press {
		for n := range s.Presses {
			w.parts[fmt.Sprintf("%s.%d", name, n+1)] = 1
		}
		return
	}
	w.parts[name] = 1
	if s.Do == Fry && s.Fat != nil {
		w.parts[FatOf(name)] = 1
	}
	held := map[string]bool{}
	for range cooking {
		held[name] = true // the part cooks under its own name
	}
	w.held["part "+name] = held
}

// item checks one item and returns the names of the cooking parts it brings
// into a pot; pot is "" for a preparation.
func (w *walk) item(path string, item Item, pot string) []string {
	switch {
	case item.Part != "":
		left, made := w.parts[item.Part]
		if !made {
			w.wrong(path+".part", item.Part, "plan.no-part")
		} else if left <= 0 {
			w.wrong(path+".part", item.Part, "plan.part-gone")
		}
		w.parts[item.Part] = left * (1 - item.Portion())
		return sortedSet(w.held["part "+item.Part])
	case item.Pot != "":
		if _, ok := w.plan.Pots[item.Pot]; !ok {
			w.wrong(path+".pot", item.Pot, "plan.no-pot")
		} else if item.Pot == pot {
			w.wrong(path+".pot", item.Pot, "plan.pot-into-itself")
		} else if w.left[item.Pot] <= 0 {
			w.wrong(path+".pot", item.Pot, "plan.empty-here")
		}
		w.left[item.Pot] *= 1 - item.Portion()
		return sortedSet(w.held[item.Pot])
	case item.Material != "":
		return w.material(path, item, pot)
	}
	return nil
}

func (w *walk) material(path string, item Item, pot string) []string {
	material, ok := w.plan.Pantry().Material(item.Material)
	if !ok {
		if near := w.plan.Pantry().Nearest(item.Material); near != "" {
			w.fault(path+".material", item.Material, measure.Code("plan.near-material").With(ErrUnknownMaterial, near))
		} else {
			w.fault(path+".material", item.Material, ErrUnknownMaterial)
		}
		return nil
	}
	if item.AboveMM > 0 {
		if material.Behaviour != pantry.Liquid {
			w.wrong(path+".material", item.Material, "plan.above-liquid")
		}
		if pot == "" {
			w.wrong(path+".above_mm", nil, "plan.above-pot")
		}
	}
	for _, amount := range []struct{ key, text string }{{"amount", item.Amount}, {"also", item.Also}} {
		if amount.text == "" {
			continue
		}
		weighed := item
		weighed.Amount = amount.text
		if _, _, err := w.plan.Weigh(weighed); err != nil {
			w.fault(path+"."+amount.key, amount.text, err)
		}
	}
	if material.Behaviour != pantry.Grain && material.Behaviour != pantry.Tissue {
		return nil
	}
	return []string{w.cookingName(item.Material, pot)}
}

// cookingName is the name of a grain that goes straight into a pot: that of
// its material, with "-2" for a second one.
func (w *walk) cookingName(slug, pot string) string {
	return UniqueName(slug, func(name string) bool { return w.held[pot][name] })
}

// UniqueName returns name, or name-2, name-3 and so on, the first not taken.
func UniqueName(name string, taken func(string) bool) string {
	unique := name
	for n := 2; taken(unique); n++ {
		unique = fmt.Sprintf("%s-%d", name, n)
	}
	return unique
}

func (w *walk) until(path string, i int, u Until, pot string) {
	if u.OfStep != nil && *u.OfStep >= i {
		w.wrong(path+".of_step", *u.OfStep, "plan.of-step")
	}
	if u.OfStep != nil && u.RemainingPct == nil {
		w.wrong(path+".of_step", *u.OfStep, "plan.of-step-alone")
	}
	if u.OfStep != nil && *u.OfStep < i && w.plan.Steps[*u.OfStep].Do.IsPreparation() {
		w.wrong(path+".of_step", *u.OfStep, "plan.of-step-pot")
	}
	if u.Doneness != nil && u.Doneness.Of != "" && !w.held[pot][u.Doneness.Of] {
		if known := sortedSet(w.held[pot]); len(known) > 0 {
			w.wrong(path+".doneness.of", u.Doneness.Of, "plan.not-in-pot", known)
		} else {
			w.wrong(path+".doneness.of", u.Doneness.Of, "plan.nothing-cooks")
		}
	}
}

func sortedSet(set map[string]bool) []string {
	o := make(map[string]any, len(set))
	for name := range set {
		o[name] = nil
	}
	return sortedKeys(o)
}
