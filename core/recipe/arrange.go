package recipe

import (
	"slices"
	"strings"

	"kirdu/core/measure"
	"kirdu/core/pantry"
	"kirdu/core/plan"
	"kirdu/core/vessel"
)

// ErrNoLiquid is the fault of a list with nothing to cook in.
var ErrNoLiquid = measure.Code("recipe.no-liquid")

// A School is one of the ways in which such a list is cooked, where no method says it.
type School string

// Schools of cooking.
const (
	OpenPot    School = "open-pot"    // the grain in the liquid, in an open pot
	Toasted    School = "toasted"     // the grain toasted in the fat, then the liquid
	UnderPress School = "under-press" // the grain under pressure, then the milk
	WaterFirst School = "water-first" // the grain soft in the water, then the milk
	FromStart  School = "from-start"  // all of it from the start, the sugar too
	InTheOven  School = "in-the-oven" // all of it into a dish
)

// Use is what a school asks of its pot.
func (s School) Use() vessel.Use {
	if s == UnderPress {
		return vessel.UnderPress
	}
	return vessel.OnStove
}

// Schools lists those that suit a list, the likeliest first. cooker and oven say whether the kitchen has
// them.
func Schools(given []Given, p *pantry.Pantry, cooker, oven bool) []School {
	a := arrange(given, p)
	if len(a.liquids) == 0 {
		return nil
	}
	if a.slowest == nil || len(a.bindings) > 0 {
		return []School{OpenPot}
	}
	const slow = 30 // minutes in an open pot from which most cooks take the cooker
	pulse := a.slowest.Kind == "pulse"
	var list []School
	add := func(school School, fits bool) {
		if fits && !slices.Contains(list, school) {
			list = append(list, school)
		}
	}
	add(UnderPress, cooker && (pulse || a.slowest.Kinetics.CookMinutes >= slow))
	add(Toasted, a.toasts() && len(a.fat) > 0)
	water := a.has("water")
	add(WaterFirst, water && len(a.liquids) > 1)
	tissue := a.slowest.Behaviour == pantry.Tissue // raw in milk, it splits it
	add(OpenPot, !tissue || len(a.fat) == 0)
	add(UnderPress, cooker && (water || pulse) && a.slowest.Behaviour == pantry.Grain)
	add(Toasted, a.toasts())
	add(FromStart, !pulse && !tissue && len(a.sweet) > 0 && !a.acidSweet())
	add(InTheOven, oven && !pulse && a.slowest.Behaviour == pantry.Grain && a.slowest.Kinetics.CookMinutes >= bakeLeast &&
		len(a.side) == 0 && len(a.rich) == 0)
	return list
}

// toasts reports whether the grain is one that is toasted first.
func (a *arrangement) toasts() bool {
	if a.slowest.Behaviour == pantry.Tissue {
		return true
	}
	for _, piece := range []string{"vermicelli", "semolina", "wheat-broken", "moong", "chana", "millet"} {
		if strings.HasPrefix(a.slowest.Slug, piece) {
			return true
		}
	}
	return false
}

func (a *arrangement) has(slug string) bool {
	return slices.ContainsFunc(a.liquids, func(item plan.Item) bool { return item.Material == slug })
}

// acidSweet reports whether what sweetens turns the pot acid, in which milk splits and pulses stay hard.
func (a *arrangement) acidSweet() bool {
	return slices.ContainsFunc(a.sweet, func(item plan.Item) bool {
		m, ok := a.Material(item.Material)
		return ok && m.PH > 0 && m.PH < 6
	})
}

// Arrange puts the items of a list into the order in which such puddings are
// cooked: liquid and grain first, sweetener when the grain is soft, thick
// coconut milk last and off the boil, garnish fried in the fat; what stands
// under a heading of its own in a pan of its own. It is a first draft for the
// cook to change. The choice gives name, bowls, serving, pot and burner; its
// grain is not used. Errors: ErrNoLiquid.
func Arrange(name string, choice plan.WayChoice, school School, given []Given, p *pantry.Pantry) (*plan.Plan, error) {
	a := arrange(given, p)
	if len(a.liquids) == 0 {
		return nil, ErrNoLiquid
	}
	made := draft(name, choice)
	made.Way = "from a list"
	if a.slowest == nil || len(a.bindings) > 0 {
		school = OpenPot
	}
	made.Steps = a.steps(school)
	for i := range made.Steps {
		if pot := made.Steps[i].PotName(); made.Pots[pot].Shape == "" {
			made.Pots[pot] = choice.Pot
		}
	}
	if school == InTheOven {
		made.Pots[plan.MainPot] = dish
	}
	made.ServeAs(choice.Serve)
	return made, nil
}

// dish is what is baked in where the kitchen's own is not known.
var dish = vessel.Pot{Shape: vessel.Tray, LengthMM: 300, WidthMM: 200, HeightMM: 60}

// An arrangement holds items by their place in the pudding.
type arrangement struct {
	*pantry.Pantry
	liquids, grains, bindings, sweet, rich, cultured, fat, garnish []plan.Item
	early, late                                                    []plan.Item // aromas
	slowest                                                        *pantry.Material
	side                                                           []sidePan
}

// A sidePan is what a list has under a heading of its own.
type sidePan struct {
	name  string
	items []plan.Item
}

func arrange(given []Given, p *pantry.Pantry) *arrangement {
	a := &arrangement{Pantry: p}
	main := mainSection(given, p)
	for _, one := range given {
		material, ok := p.Material(one.Item.Material)
		switch {
		case !ok:
		case finishing(one.Section) && material.Behaviour != pantry.Fat:
			a.garnish = append(a.garnish, one.Item)
		case one.Section != "" && one.Section != main && !finishing(one.Section):
			k := slices.IndexFunc(a.side, func(s sidePan) bool { return s.name == one.Section })
			if k < 0 {
				k = len(a.side)
				a.side = append(a.side, sidePan{name: one.Section})
			}
			a.side[k].items = append(a.side[k].items, one.Item)
		default:
			a.sort(one.Item, material)
		}
	}
	return a
}

// mainSection is the heading under which the pudding itself stands: that with the grain, or else with
// most liquid first.
func mainSection(given []Given, p *pantry.Pantry) string {
	for _, want := range []func(m *pantry.Material) bool{
		func(m *pantry.Material) bool { return m.Behaviour == pantry.Grain || m.Behaviour == pantry.Flour },
		func(m *pantry.Material) bool {
			return m.Kind == "dairy" || m.Kind == "coconut" && m.Behaviour == pantry.Liquid
		},
	} {
		for _, one := range given {
			if m, ok := p.Material(one.Item.Material); ok && want(m) && !finishing(one.Section) {
				return one.Section
			}
		}
	}
	return ""
}

func (a *arrangement) sort(item plan.Item, m *pantry.Material) {
	into := &a.late
	switch {
	case m.Kind == "sweetener" || m.Slug == "condensed-milk" || m.Behaviour == pantry.Puree:
		into = &a.sweet
	case m.Slug == "coconut-milk-thick" || m.Slug == "coconut-cream":
		into = &a.rich
	case m.Has("cultured"):
		into = &a.cultured
	case m.Behaviour == pantry.Grain || m.Behaviour == pantry.Tissue:
		into = &a.grains
		if a.slowest == nil || m.Kinetics.CookMinutes > a.slowest.Kinetics.CookMinutes {
			a.slowest = m
		}
	case m.Behaviour == pantry.Flour || m.Behaviour == pantry.Egg:
		into = &a.bindings
	case m.Behaviour == pantry.Piece:
		into = &a.garnish
	case m.Behaviour == pantry.Fat:
		into = &a.fat
	case m.Behaviour == pantry.Liquid && m.Kind != "flavour" || m.Kind == "dairy":
		into = &a.liquids
	case m.Behaviour == pantry.Aroma && !m.Has("volatile") && m.UsualState == pantry.Whole:
		into = &a.early
	}
	*into = append(*into, item)
}

// gentle is the doneness that a grain is cooked to before it is sweetened:
// somewhat above the least that is liked, since it cooks on.
func gentle(k *pantry.Kinetics) float64 { return k.WantedLow + 0.2*(min(k.WantedHigh, 3)-k.WantedLow) }

func until(minutes measure.Minute) *plan.Until { return &plan.Until{Minutes: &minutes} }

// steps writes the steps of a school.
func (a *arrangement) steps(school School) []plan.Step {
	var steps []plan.Step
	add := func(note string, items ...plan.Item) {
		if len(items) > 0 {
			steps = append(steps, plan.Step{Do: plan.Add, Note: note, Items: items})
		}
	}
	heat := func(flame vessel.Flame, until *plan.Until) {
		steps = append(steps, plan.Step{Do: plan.Heat, Flame: flame, Stir: plan.StirOften, Until: until})
	}
	boil := func() { heat(vessel.High, &plan.Until{Boil: true}) }
	soft := func() {
		if a.slowest != nil {
			heat(vessel.Simmer, &plan.Until{Doneness: &plan.DonenessTarget{Of: a.slowest.Slug, At: gentle(a.slowest.Kinetics)}})
		}
	}
	toppings, melted := a.panSteps(&steps)
	fried := len(a.garnish) > 0 && len(a.fat) > 0 && school != InTheOven && (school != Toasted || len(a.fat) > 1)
	if fried {
		for j := range a.garnish {
			if m, ok := a.Material(a.garnish[j].Material); ok && m.Frying != nil {
				a.garnish[j].Minutes = new(m.Frying.Done)
			}
		}
		steps = append(steps, plan.Step{Do: plan.Fry, Name: "garnish", Items: a.garnish, Fat: &a.fat[0],
			Note: "In turn in the same fat, out before they are brown: they carry over."})
		a.fat = a.fat[1:]
	}
	if len(a.bindings) > 0 {
		steps = append(steps, a.slurry()...)
	}
	water, others := a.split()
	sweetened := false
	switch school {
	case Toasted:
		add("", append(slices.Clone(a.fat), a.grains...)...)
		if a.slowest.Behaviour == pantry.Tissue {
			heat(vessel.Medium, &plan.Until{Minutes: new(fryMost), Doneness: &plan.DonenessTarget{Of: a.slowest.Slug, At: fryUntil}})
		} else {
			heat(vessel.Medium, until(toastUsual))
		}
		add("", append(slices.Clone(a.liquids), a.early...)...)
		boil()
		soft()
	case UnderPress:
		first, rest := water, others
		if len(water) == 0 {
			first, rest = a.liquids, nil
		}
		add("", slices.Concat(first, a.grains, a.fat)...)
		steps = append(steps, plan.Step{Do: plan.Pressure, Whistles: whistlesFor(a.slowest)})
		if len(rest)+len(a.early) > 0 {
			add("", append(slices.Clone(rest), a.early...)...)
			if len(rest) > 0 {
				boil()
			}
		}
		soft()
	case WaterFirst:
		add("", slices.Concat(water, a.grains, a.fat)...)
		boil()
		soft()
		add("", append(slices.Clone(others), a.early...)...)
		boil()
		heat(vessel.Simmer, until(simmerUsual))
	case FromStart:
		add("Rinse the pot with cold water first: milk then sticks less.", slices.Concat(a.liquids, a.grains, a.sweet, a.early, a.fat)...)
		sweetened = true
		boil()
		soft()
	case InTheOven:
		add("", slices.Concat(a.liquids, a.grains, a.sweet, a.early, a.fat)...)
		sweetened = true
		celsius, minutes := measure.Celsius(bakeCelsius), bakeLong
		steps = append(steps, plan.Step{Do: plan.Bake, BakeIn: plan.InOven, OvenC: &celsius, Minutes: &minutes})
	default:
		add("Rinse the pot with cold water first: milk then sticks less.", slices.Concat(a.liquids, a.grains, a.early, a.fat)...)
		boil()
		soft()
	}
	if len(a.bindings) > 0 {
		steps = append(steps, plan.Step{Do: plan.Add, Slowly: true, Items: []plan.Item{{Part: "slurry"}}},
			plan.Step{Do: plan.Heat, Flame: vessel.Simmer, Stir: plan.StirConstant, Until: until(5)})
	}
	if sweet := append(melted, a.sweet...); len(sweet) > 0 && !sweetened || len(melted) > 0 {
		if sweetened {
			sweet = melted
		}
		add("In two goes, tasting between.", sweet...)
		heat(vessel.Simmer, until(plan.SweetenMinutes))
	}
	if len(a.rich) > 0 {
		steps = append(steps, plan.Step{Do: plan.Heat, Flame: vessel.Off, Stir: plan.StirNone, Until: until(2)},
			plan.Step{Do: plan.Add, Slowly: true, Note: "Never boiled after: it splits.", Items: a.rich},
			plan.Step{Do: plan.Heat, Flame: vessel.Low, Stir: plan.StirOften, Until: until(2)})
	}
	add("", a.late...)
	if len(a.cultured) > 0 {
		steps = append(steps, plan.Step{Do: plan.Rest, Minutes: new(measure.Minute(60))})
		add("Below 35 °C, or it weeps.", a.cultured...)
	}
	switch {
	case fried:
		toppings = append(toppings, plan.Item{Part: "garnish"})
	case len(a.garnish) > 0:
		toppings = append(toppings, a.garnish...)
	}
	if len(toppings) > 0 {
		steps = append(steps, plan.Step{Do: plan.Add, Topping: true, Items: toppings})
	}
	return steps
}

// What is usual where nobody says it. Source: our own judgement.
const (
	toastUsual  measure.Minute = 4
	fryMost     measure.Minute = 30
	fryUntil                   = 1.0 // doneness of a vegetable whose juice is gone
	bakeLong    measure.Minute = 120
	bakeLeast   measure.Minute = 12 // in an open pot; what is soft sooner is mush in the oven
	bakeCelsius                = 150
)

// whistlesFor is how many most cooks count for a grain. Source: our own judgement, about one for each eight
// minutes in an open pot.
func whistlesFor(m *pantry.Material) int {
	const each, most = 8, 8
	return max(1, min(most, int(float64(m.Kinetics.CookMinutes)/each+0.5)))
}

// split parts the water from the other liquids.
func (a *arrangement) split() (water, others []plan.Item) {
	for _, item := range a.liquids {
		if item.Material == "water" {
			water = append(water, item)
		} else {
			others = append(others, item)
		}
	}
	return water, others
}

// slurry takes some of the first liquid for what binds.
func (a *arrangement) slurry() []plan.Step {
	amount, err := measure.ParseAmount(a.liquids[0].Amount)
	if err != nil {
		return nil
	}
	back := a.liquids[0]
	back.Amount, back.Also = amount.Scale(plan.SlurryShare).String(), ""
	a.liquids[0].Amount, a.liquids[0].Also = amount.Scale(1-plan.SlurryShare).String(), ""
	return []plan.Step{{Do: plan.Mix, Name: "slurry", Items: append([]plan.Item{back}, a.bindings...), Note: "Cold and without lumps."}}
}

// panSteps cooks what stands under headings of its own: a syrup is melted, anything else is simmered in a
// second pan and laid on top.
func (a *arrangement) panSteps(steps *[]plan.Step) (toppings, melted []plan.Item) {
	taken := map[string]bool{plan.MainPot: true, "slurry": true, "garnish": true}
	for _, pan := range a.side {
		name := "pan"
		for _, w := range sectionWords(pan.name) {
			if potName.MatchString(w) {
				name = w
			}
		}
		name = plan.UniqueName(name, func(name string) bool { return taken[name] })
		taken[name] = true
		var tissue *pantry.Material
		lumps, water, other := false, false, false
		for _, item := range pan.items {
			switch m, _ := a.Material(item.Material); {
			case m.Behaviour == pantry.Tissue:
				tissue = m
			case m.Kind == "sweetener":
				lumps = true
			case m.Slug == "water":
				water = true
			default:
				other = true
			}
		}
		if lumps && water && !other && tissue == nil {
			*steps = append(*steps, plan.Step{Do: plan.Melt, Name: name, Items: pan.items})
			melted = append(melted, plan.Item{Part: name})
			continue
		}
		end := until(simmerUsual)
		if tissue != nil {
			end = &plan.Until{Doneness: &plan.DonenessTarget{Of: tissue.Slug, At: gentle(tissue.Kinetics)}}
		}
		*steps = append(*steps, plan.Step{Do: plan.Add, Pot: name, Items: pan.items},
			plan.Step{Do: plan.Heat, Pot: name, Flame: vessel.Medium, Stir: plan.StirOften, Until: end})
		toppings = append(toppings, plan.Item{Pot: name})
	}
	return toppings, melted
}
