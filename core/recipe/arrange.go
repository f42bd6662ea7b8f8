package recipe

import (
	"errors"

	"kirdu/core/measure"
	"kirdu/core/pantry"
	"kirdu/core/plan"
	"kirdu/core/vessel"
)

// ErrNoLiquid is the fault of a list with nothing to cook in.
var ErrNoLiquid = errors.New("holds no milk, coconut milk or water to cook in; add one")

// Arrange puts the items of a list into the order in which such puddings are
// cooked: liquid and grain first, sweetener when the grain is soft, thick
// coconut milk last and off the boil, garnish fried in the fat. It is a first
// draft for the cook to change. The choice gives name, bowls, serving, pot and
// burner; its grain is not used. Errors: ErrNoLiquid.
func Arrange(name string, choice plan.WayChoice, given []Given, p *pantry.Pantry) (*plan.Plan, error) {
	a := arrangement{pantry: p}
	for _, one := range given {
		if material, ok := p.Material(one.Item.Material); ok {
			a.sort(one.Item, material)
		}
	}
	if len(a.liquids) == 0 {
		return nil, ErrNoLiquid
	}
	made := draft(name, choice)
	made.Way = "from a list"
	made.Steps = a.steps()
	made.ServeAs(choice.Serve)
	return made, nil
}

// An arrangement holds items by their place in the pudding.
type arrangement struct {
	pantry                                                         *pantry.Pantry
	liquids, grains, bindings, sweet, rich, cultured, fat, garnish []plan.Item
	early, late                                                    []plan.Item // aromas
	slowest                                                        *pantry.Material
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

func (a *arrangement) steps() []plan.Step {
	var steps []plan.Step
	until := func(minutes measure.Minute) *plan.Until { return &plan.Until{Minutes: &minutes} }
	add := func(note string, items ...plan.Item) {
		if len(items) > 0 {
			steps = append(steps, plan.Step{Do: plan.Add, Note: note, Items: items})
		}
	}
	fried := len(a.garnish) > 0 && len(a.fat) > 0
	if fried {
		steps = append(steps, plan.Step{Do: plan.Fry, Name: "garnish", Items: a.garnish, Fat: &a.fat[0],
			Note: "In turn in the same fat, out before they are brown: they carry over."})
		a.fat = a.fat[1:]
	}
	if len(a.bindings) > 0 {
		if amount, err := measure.ParseAmount(a.liquids[0].Amount); err == nil {
			back := a.liquids[0]
			back.Amount, back.Also = amount.Scale(plan.SlurryShare).String(), ""
			a.liquids[0].Amount, a.liquids[0].Also = amount.Scale(1-plan.SlurryShare).String(), ""
			steps = append(steps, plan.Step{Do: plan.Mix, Name: "slurry", Items: append([]plan.Item{back}, a.bindings...),
				Note: "Cold and without lumps."})
		}
	}
	first := append(append(append(append([]plan.Item{}, a.liquids...), a.grains...), a.early...), a.fat...)
	add("Rinse the pot with cold water first: milk then sticks less.", first...)
	steps = append(steps, plan.Step{Do: plan.Heat, Flame: vessel.High, Stir: plan.StirOften, Until: &plan.Until{Boil: true}})
	if a.slowest != nil {
		steps = append(steps, plan.Step{Do: plan.Heat, Flame: vessel.Simmer, Stir: plan.StirOften,
			Until: &plan.Until{Doneness: &plan.DonenessTarget{Of: a.slowest.Slug, At: gentle(a.slowest.Kinetics)}}})
	}
	if len(a.bindings) > 0 {
		steps = append(steps, plan.Step{Do: plan.Add, Slowly: true, Items: []plan.Item{{Part: "slurry"}}},
			plan.Step{Do: plan.Heat, Flame: vessel.Simmer, Stir: plan.StirConstant, Until: until(5)})
	}
	if len(a.sweet) > 0 {
		add("In two goes, tasting between.", a.sweet...)
		steps = append(steps, plan.Step{Do: plan.Heat, Flame: vessel.Simmer, Stir: plan.StirOften, Until: until(plan.SweetenMinutes)})
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
		steps = append(steps, plan.Step{Do: plan.Add, Topping: true, Items: []plan.Item{{Part: "garnish"}}})
	case len(a.garnish) > 0:
		steps = append(steps, plan.Step{Do: plan.Add, Topping: true, Items: a.garnish})
	}
	return steps
}
