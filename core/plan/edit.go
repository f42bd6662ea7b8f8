package plan

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"kirdu/core/measure"
	"kirdu/core/pantry"
	"kirdu/core/vessel"
)

// Scale makes the plan for another number of bowls by plain multiplication of
// every amount and of every mark that is a mass. Times and flames stay.
func (p *Plan) Scale(bowls int) {
	p.scale(bowls, func(*pantry.Material) float64 { return 1 })
}

// ScaleWithTaste is Scale, but that aromas and salt grow slower than the batch.
func (p *Plan) ScaleWithTaste(bowls int) { p.scale(bowls, tasteExponent) }

// TasteExponents is by which power of the batch an aroma or salt grows: twice
// the pudding takes 2^0.8, 1.74 times the cardamom. A large pot loses less of
// its scent to the room, by its surface over its volume. Source: our own
// estimate between that ratio (exponent 2/3) and plain multiplication; likely
// 0.7 to 0.9.
var TasteExponents = map[string]float64{"spice": 0.8, "flavour": 0.8, "salt": 0.9}

func tasteExponent(m *pantry.Material) float64 {
	if m.Behaviour == pantry.Aroma || m.Kind == "salt" {
		if exponent, ok := TasteExponents[m.Kind]; ok {
			return exponent
		}
	}
	return 1
}

func (p *Plan) scale(bowls int, exponent func(*pantry.Material) float64) {
	if bowls == p.Serves || p.Serves == 0 {
		return
	}
	factor := float64(bowls) / float64(p.Serves)
	before := p.Serves
	p.Serves = bowls
	for i := range p.Steps {
		s := &p.Steps[i]
		if s.Bowls == before {
			s.Bowls = bowls
		}
		for j := range s.Items {
			by := factor
			if material, ok := p.Pantry().Material(s.Items[j].Material); ok {
				by = math.Pow(factor, exponent(material))
			}
			s.Items[j].scale(by)
		}
		if s.In != nil {
			s.In.scale(factor)
		}
		if s.Fat != nil {
			s.Fat.scale(factor)
		}
		s.Coconuts *= factor
		for j := range s.Presses {
			s.Presses[j].WaterML *= measure.Millilitre(factor)
		}
		if s.Until != nil && s.Until.MassG != nil {
			const digits = 4
			mass := measure.Gram(measure.RoundSignificant(float64(*s.Until.MassG)*factor, digits))
			s.Until.MassG = &mass
		}
	}
}

func (i *Item) scale(factor float64) {
	for _, text := range []*string{&i.Amount, &i.Also} {
		if amount, err := measure.ParseAmount(*text); err == nil {
			*text = amount.Scale(factor).String()
		}
	}
}

// ScaleSweeteners multiplies what sweetens, to the gram.
func (p *Plan) ScaleSweeteners(factor float64) {
	for i := range p.Steps {
		if p.Steps[i].Do == Caramel {
			continue // its colour is its own matter
		}
		for j := range p.Steps[i].Items {
			item := &p.Steps[i].Items[j]
			material, mass, err := p.Weigh(*item)
			if err != nil || !isSweetener(material) {
				continue
			}
			item.Amount, item.Also = fmt.Sprintf("%.0f g", max(1, math.Round(float64(mass)*factor))), ""
		}
	}
}

// ScaleSweetenersFrom multiplies what the additions from a step on bring of
// sweeteners, 0 < factor <= 1. Syrup that is made already is taken in part.
func (p *Plan) ScaleSweetenersFrom(step int, factor float64) {
	for i := step; i < len(p.Steps); i++ {
		if p.Steps[i].Do != Add {
			continue
		}
		for j := range p.Steps[i].Items {
			item := &p.Steps[i].Items[j]
			switch m, mass, err := p.Weigh(*item); {
			case item.Part != "" && p.isSweet(*item):
				share := item.Portion() * factor
				item.Share = &share
			case err == nil && item.Material != "" && isSweetener(m):
				const least = 0.1
				item.Amount, item.Also = fmt.Sprintf("%.4g g", max(least, float64(mass)*factor)), ""
			}
		}
	}
}

// A Loss is a share, 0 to 1, of a kind of material that no longer counts for what
// it is: lumps left in a sieve, egg that has drawn together.
type Loss struct {
	Share float64          `json:"share"`
	Of    pantry.Behaviour `json:"of"`
}

// Lose takes a loss out of what went in before a step, as if so much less had.
func (p *Plan) Lose(before int, loss Loss) {
	if loss.Share <= 0 {
		return
	}
	const least = 0.01
	for i := range p.Steps[:before] {
		for j := range p.Steps[i].Items {
			item := &p.Steps[i].Items[j]
			if m, mass, err := p.Weigh(*item); err == nil && item.Material != "" && item.AboveMM == 0 && m.Behaviour == loss.Of {
				item.Amount, item.Also = fmt.Sprintf("%.6g g", max(least, float64(mass)*(1-loss.Share))), ""
			}
		}
	}
}

// Holds returns the mass of a behaviour, "" for all, that went in before a step.
func (p *Plan) Holds(before int, of pantry.Behaviour) (sum measure.Gram) {
	p.Uses(func(m *pantry.Material, mass measure.Gram, step int) {
		if step < before && (of == "" || m.Behaviour == of) {
			sum += mass
		}
	})
	return sum
}

// sparePan is the pan that a repair is cooked in when the plan has no pot of its
// name: an ordinary small one.
var sparePan = vessel.Pot{Name: "small pan", Shape: vessel.Straight, DiameterMM: 160, HeightMM: 80}

// EnsurePot gives the plan a small pan of that name if it has no such pot.
func (p *Plan) EnsurePot(name string) {
	if _, there := p.Pots[name]; !there {
		p.Pots[name] = sparePan
	}
}

// Unsweetened returns a copy with hardly any of the sweetener that a step adds.
func (p *Plan) Unsweetened(step int) *Plan {
	without := p.Clone()
	least := func(item *Item) {
		if m, ok := p.Pantry().Material(item.Material); ok && isSweetener(m) {
			item.Amount, item.Also = "0.01 g", ""
		}
	}
	for j := range without.Steps[step].Items {
		item := &without.Steps[step].Items[j]
		least(item)
		if at := p.Maker(item.Part); at >= 0 && p.isSweet(*item) {
			for k := range without.Steps[at].Items {
				least(&without.Steps[at].Items[k])
			}
		}
	}
	return without
}

// Sweetens reports whether a step adds a sweetener, by itself or in a part that
// was made with it, such as a syrup.
func (p *Plan) Sweetens(step int) bool {
	return p.Steps[step].Do == Add && slices.ContainsFunc(p.Steps[step].Items, p.isSweet)
}

// isSweet reports whether an item is a sweetener or a part made with one.
func (p *Plan) isSweet(item Item) bool {
	if m, ok := p.Pantry().Material(item.Material); ok {
		return isSweetener(m)
	}
	at := p.Maker(item.Part)
	return at >= 0 && p.Steps[at].Do == Melt
}

// Maker returns the preparation that makes a part, -1 if there is none. A press
// makes parts that carry a number behind its name, a fry also the fat that is left.
func (p *Plan) Maker(part string) int {
	if part == "" {
		return -1
	}
	base := part
	if at := strings.LastIndexByte(part, '.'); at > 0 {
		base = part[:at]
	}
	return slices.IndexFunc(p.Steps, func(s Step) bool {
		return s.Do.IsPreparation() && s.Of == "" && (s.Name == part || ((s.Do == Press || s.Do == Fry) && s.Name == base))
	})
}

// Of returns the material of an item, or that which its part was made of; "" where neither is one.
func (p *Plan) Of(item Item) string {
	if maker := p.Maker(item.Part); item.Part != "" && maker >= 0 && len(p.Steps[maker].Items) == 1 && p.Steps[maker].Items[0].Part == "" {
		return p.Steps[maker].Items[0].Material
	}
	return item.Material
}

// Taker returns the next preparation that takes what a preparation makes, or works on it
// further; -1 if a pot takes it first, or nothing does.
func (p *Plan) Taker(step int) int {
	made := p.Makes(step)
	for i := step + 1; i < len(p.Steps); i++ {
		s := &p.Steps[i]
		if slices.Contains(made, s.Of) && s.Do != Mash || s.takes(made) {
			if s.Do.IsPreparation() {
				return i
			}
			return -1
		}
	}
	return -1
}

// Makes lists the names of the parts that a preparation makes or changes.
func (p *Plan) Makes(step int) []string {
	s := &p.Steps[step]
	switch {
	case !s.Do.IsPreparation():
		return nil
	case s.Do == Press:
		var names []string
		for n := range s.Presses {
			names = append(names, fmt.Sprintf("%s.%d", s.Name, n+1))
		}
		return names
	case s.Do == Fry && s.Fat != nil:
		return []string{s.Name, FatOf(s.Name)}
	case s.Name == "":
		return []string{s.Of}
	}
	return []string{s.Name}
}

// takes reports whether a step takes one of some parts.
func (s *Step) takes(parts []string) bool {
	of := func(item Item) bool { return item.Part != "" && slices.Contains(parts, item.Part) }
	return slices.ContainsFunc(s.Items, of) || (s.Fat != nil && of(*s.Fat)) || (s.In != nil && of(*s.In))
}

// SugarStep returns the first step that adds a sweetener; -1 if there is none.
func (p *Plan) SugarStep() int {
	for i := range p.Steps {
		if p.Sweetens(i) {
			return i
		}
	}
	return -1
}

func isSweetener(m *pantry.Material) bool { return m.Kind == "sweetener" }

// SplitSweet makes the sweeteners of a step a step of their own behind it, where
// other things go in with them, and returns where they stand then; -1 if there
// are none.
func (p *Plan) SplitSweet(step int) int {
	if step < 0 || step >= len(p.Steps) || !p.Sweetens(step) {
		return -1
	}
	var sweet, rest []Item
	for _, item := range p.Steps[step].Items {
		if p.isSweet(item) {
			sweet = append(sweet, item)
		} else {
			rest = append(rest, item)
		}
	}
	if len(rest) == 0 {
		return step
	}
	p.Steps[step].Items = rest
	p.InsertStep(step+1, Step{Do: Add, Pot: p.Steps[step].Pot, Items: sweet, Note: "In two goes, tasting between."})
	return step + 1
}

// ServeAs changes how the pudding is served. One that is served chilled stands a while,
// is ladled into its bowls, which cool sooner than a pot, and is chilled; a tray is
// chilled whole, and cut after. Of one that is not, standing and chilling are taken away.
func (p *Plan) ServeAs(serve Serve) {
	p.Serve = serve
	end := len(p.Steps)
	for end > 0 && p.Steps[end-1].Do == Portion && p.Steps[end-1].Slices > 0 {
		end--
	}
	// What is strewn over it cold comes after the chilling.
	if last := p.lastChill(end); last >= 0 {
		end = last + 1
	}
	chills := end > 0 && p.Steps[end-1].Do == Chill
	switch {
	case serve == Chilled && !chills:
		stand, hours := StandMinutes, ChillHours
		pot := p.Served()[0]
		shape := p.Pots[pot].Shape
		if pot == MainPot {
			pot = ""
		}
		from := end
		var bowls []Step
		switch {
		case end > 0 && p.Steps[end-1].Do == Portion:
			from, bowls = end-1, []Step{p.Steps[end-1]}
		case end == len(p.Steps) && shape != vessel.Tray && len(p.Served()) == 1:
			bowls = []Step{{Do: Portion, Pot: pot, Bowls: p.Serves}}
		}
		cold := append(append([]Step{{Do: Rest, Pot: pot, Minutes: &stand}}, bowls...), Step{Do: Chill, Pot: pot, Hours: &hours})
		p.Steps = slices.Replace(p.Steps, from, end, cold...)
	case serve != Chilled && chills:
		n := end
		var bowls []Step
		for n > 1 && (p.Steps[n-1].Do == Chill || p.Steps[n-1].Do == Rest || p.Steps[n-1].Do == Portion) {
			if n--; p.Steps[n].Do == Portion {
				bowls = []Step{p.Steps[n]}
			}
		}
		p.Steps = slices.Replace(p.Steps, n, end, bowls...)
	}
}

// lastChill returns the chilling behind which nothing but additions and preparations
// stands, -1 if there is none.
func (p *Plan) lastChill(end int) int {
	for i := end - 1; i >= 0; i-- {
		switch s := &p.Steps[i]; {
		case s.Do == Chill:
			return i
		case s.Do != Add && s.Do != Portion && !s.Do.IsPreparation():
			return -1
		}
	}
	return -1
}

// MoveStep takes the step at one place and puts it so that it stands at
// another. References of later targets to earlier steps follow. It reports
// whether both places exist.
func (p *Plan) MoveStep(from, to int) bool {
	n := len(p.Steps)
	if from < 0 || from >= n || to < 0 || to >= n {
		return false
	}
	order := make([]int, 0, n)
	for i := range n {
		if i != from {
			order = append(order, i)
		}
	}
	order = append(order[:to], append([]int{from}, order[to:]...)...)
	steps := make([]Step, n)
	place := make([]int, n)
	for now, was := range order {
		steps[now] = p.Steps[was]
		place[was] = now
	}
	for i := range steps {
		if u := steps[i].Until; u != nil && u.OfStep != nil {
			moved := place[*u.OfStep]
			until := *u
			until.OfStep = &moved
			steps[i].Until = &until
		}
	}
	p.Steps = steps
	return true
}

// RemoveStep takes a step out. References of later targets follow; those to the
// step itself fall back to what the format counts from. It reports whether the
// step existed and was not the last one.
func (p *Plan) RemoveStep(step int) bool {
	if len(p.Steps) < 2 || !p.MoveStep(step, len(p.Steps)-1) {
		return false
	}
	last := len(p.Steps) - 1
	p.Steps = p.Steps[:last]
	for i := range p.Steps {
		if u := p.Steps[i].Until; u != nil && u.OfStep != nil && *u.OfStep == last {
			until := *u
			until.OfStep = nil
			p.Steps[i].Until = &until
		}
	}
	return true
}

// RemoveItem takes an item out of an addition, and the addition with its last
// one. References of later targets follow. It reports whether the item existed.
func (p *Plan) RemoveItem(step, item int) bool {
	if step < 0 || step >= len(p.Steps) || item < 0 || item >= len(p.Steps[step].Items) {
		return false
	}
	s := &p.Steps[step]
	if len(s.Items) > 1 {
		s.Items = append(s.Items[:item:item], s.Items[item+1:]...)
		return true
	}
	return p.RemoveStep(step)
}

// Foams reports whether dairy goes in, which rises at the boil.
func (p *Plan) Foams() bool {
	for i := range p.Steps {
		for _, item := range p.Steps[i].Items {
			if material, ok := p.Pantry().Material(item.Material); ok && material.Kind == "dairy" {
				return true
			}
		}
	}
	return false
}

// Replace puts one material in the place of another wherever it stands, with
// factor times the mass. Cooking targets that named it follow.
func (p *Plan) Replace(from, to string, factor float64) {
	for i := range p.Steps {
		s := &p.Steps[i]
		items := make([]*Item, 0, len(s.Items)+2)
		for j := range s.Items {
			items = append(items, &s.Items[j])
		}
		for _, item := range append(items, s.In, s.Fat) {
			if item == nil || item.Material != from {
				continue
			}
			if _, mass, err := p.Weigh(*item); err == nil && (from != to || factor != 1) {
				item.Amount, item.Also = p.sameMeasure(item.Amount, to, mass*measure.Gram(factor)), ""
			}
			item.Material = to
		}
		if s.Until != nil && s.Until.Doneness != nil && s.Until.Doneness.Of == from {
			s.Until.Doneness.Of = to
		}
	}
}

// sameMeasure writes a mass of a material down: what was poured into a jug still is.
func (p *Plan) sameMeasure(before, slug string, mass measure.Gram) string {
	amount, err := measure.ParseAmount(before)
	m, known := p.Pantry().Material(slug)
	if err == nil && known && m.Behaviour == pantry.Liquid && m.Bulk > 0 && slices.Contains([]string{"ml", "dl", "l"}, amount.Unit) {
		return fmt.Sprintf("%.0f ml", math.Max(1, math.Round(float64(mass)/float64(m.Bulk))))
	}
	return fmt.Sprintf("%.0f g", math.Max(1, math.Round(float64(mass))))
}

// Exchange puts other items in the place of one. It reports whether that item
// was there.
func (p *Plan) Exchange(step, item int, with []Item) bool {
	if step < 0 || step >= len(p.Steps) || item < 0 || item >= len(p.Steps[step].Items) || len(with) == 0 {
		return false
	}
	items := p.Steps[step].Items
	p.Steps[step].Items = append(append(append([]Item{}, items[:item]...), with...), items[item+1:]...)
	return true
}

// WritePress writes a pressing of coconut into the plan. Where the plan presses already it
// takes the place of that: parts of a press that there is no more of come from its last.
// Else it stands before everything, its first press in the place of thick coconut milk, its
// second in that of thin; what finds no place is not put anywhere.
func (p *Plan) WritePress(press Step) {
	if at := slices.IndexFunc(p.Steps, func(s Step) bool { return s.Do == Press }); at >= 0 {
		old := p.Steps[at]
		press.Name, press.Note, press.Sign = old.Name, old.Note, old.Sign
		p.Steps[at] = press
		last := len(press.Presses)
		for n := len(old.Presses); n > last; n-- {
			p.renamePart(fmt.Sprintf("%s.%d", old.Name, n), fmt.Sprintf("%s.%d", old.Name, last))
		}
		return
	}
	press.Name = p.FreePart("coconut")
	p.InsertStep(0, press)
	p.takePlace("coconut-milk-thick", press.Name+".1")
	if len(press.Presses) > 1 {
		p.takePlace("coconut-milk-thin", press.Name+".2")
	}
}

// renamePart lets what takes one part take another, in equal shares where that was taken
// already.
func (p *Plan) renamePart(from, to string) {
	var takers []*Item
	for i := range p.Steps {
		for j := range p.Steps[i].Items {
			if item := &p.Steps[i].Items[j]; item.Part == from || item.Part == to {
				takers = append(takers, item)
			}
		}
	}
	if !slices.ContainsFunc(takers, func(item *Item) bool { return item.Part == from }) {
		return
	}
	for k, item := range takers {
		item.Part, item.Share = to, nil
		if left := len(takers) - k; left > 1 {
			item.Share = new(1 / float64(left))
		}
	}
}

// FreePart returns a name that no part of the plan has yet.
func (p *Plan) FreePart(name string) string {
	return UniqueName(name, func(name string) bool {
		return slices.ContainsFunc(p.Steps, func(s Step) bool { return s.Do.IsPreparation() && s.Name == name })
	})
}

// IntoServed makes a step one of the pot that is served.
func (p *Plan) IntoServed(s Step) Step {
	if pot := p.Served()[0]; pot != MainPot {
		s.Pot = pot
	}
	return s
}

// InsertStep puts a step at a place, 0 for the first. References of targets to
// later steps follow.
func (p *Plan) InsertStep(at int, s Step) {
	p.Steps = slices.Insert(p.Steps, at, s)
	for i := range p.Steps {
		if u := p.Steps[i].Until; u != nil && u.OfStep != nil && *u.OfStep >= at {
			of, until := *u.OfStep+1, *u
			until.OfStep = &of
			p.Steps[i].Until = &until
		}
	}
}

// takePlace puts a part where a material goes into a pot, shared out by mass
// if it goes in more than once.
func (p *Plan) takePlace(material, part string) {
	var total measure.Gram
	for i := range p.Steps {
		for _, item := range p.Steps[i].Items {
			if item.Material == material {
				if _, mass, err := p.Weigh(item); err == nil {
					total += mass
				}
			}
		}
	}
	left := total
	for i := range p.Steps {
		for j, item := range p.Steps[i].Items {
			if item.Material != material {
				continue
			}
			_, mass, err := p.Weigh(item)
			taken := Item{Part: part}
			if share := measure.Ratio(float64(mass), float64(left)); err == nil && share > 0 && share < 0.999 {
				taken.Share = &share
			}
			left -= mass
			p.Steps[i].Items[j] = taken
		}
	}
}

// InsteadOf returns how much of another material takes the place of an item: as
// sweet where both are sweeteners, else as much by mass. Errors: those of Weigh.
func (p *Plan) InsteadOf(item Item, other *pantry.Material) (measure.Gram, error) {
	material, mass, err := p.Weigh(item)
	if err != nil {
		return 0, err
	}
	if isSweetener(material) && isSweetener(other) && other.Sweetness() > 0 {
		return mass * measure.Gram(material.Sweetness()/other.Sweetness()), nil
	}
	return mass, nil
}
