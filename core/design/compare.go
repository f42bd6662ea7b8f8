package design

import (
	"fmt"
	"maps"
	"math"
	"slices"

	"kirdu/core/convert"
	"kirdu/core/forecast"
	"kirdu/core/measure"
	"kirdu/core/pantry"
	"kirdu/core/plan"
	"kirdu/core/vessel"
)

// A Variant is one of the questions that cooks argue about, asked of a plan:
// the same pudding with one thing otherwise.
type Variant struct {
	Key   string
	Label string // key of what is otherwise here
	Plan  *plan.Plan
}

// variants in the order in which they are offered. Each changes the plan and
// says what is otherwise then, "" where the question does not arise.
var variants = []struct {
	key    string
	change func(*plan.Plan) string
}{
	{"sugar", sugarOtherwise},
	{"cooker", cookerOtherwise},
	{"coconut", coconutOtherwise},
	{"reduction", reductionOtherwise},
	{"soda", sodaOtherwise},
	{"soak", soakOtherwise},
	{"grain", grainOtherwise},
	{"serve", serveOtherwise},
}

// Variants lists the questions that arise for a plan, with the other answer to
// each worked out.
func Variants(p *plan.Plan) []Variant {
	var all []Variant
	for _, v := range variants {
		changed := p.Clone()
		label := v.change(changed)
		if label == "" {
			continue
		}
		if changed, err := plan.Reread(changed); err == nil {
			all = append(all, Variant{v.key, label, changed})
		}
	}
	return all
}

// firstAdd and lastHeat are the ends of what is done in the served pot over the
// flame; -1 where there is none.
func firstAdd(p *plan.Plan) int {
	return slices.IndexFunc(p.Steps, func(s plan.Step) bool { return s.Do == plan.Add && s.PotName() == p.Served()[0] })
}

func lastHeat(p *plan.Plan) int {
	last := -1
	for i := range p.Steps {
		if s := &p.Steps[i]; s.Do == plan.Heat && s.Burns() && s.PotName() == p.Served()[0] {
			last = i
		}
	}
	return last
}

// earlySugar is up to which doneness sugar counts as early. Source: the
// watchpoint table.
const earlySugar = 0.9

func sugarOtherwise(p *plan.Plan) string {
	at, first, last := p.SugarStep(), firstAdd(p), lastHeat(p)
	if at < 0 || first < 0 || last < 0 || p.Steps[at].PotName() != p.Served()[0] {
		return ""
	}
	f := forecast.Run(p, forecast.Options{CourseOnly: true})
	early := false
	for _, done := range f.Steps[at].Doneness {
		early = early || done < earlySugar
	}
	before := len(p.Steps)
	sweet := p.SplitSweet(at)
	last += len(p.Steps) - before
	if early && sweet < last {
		p.MoveStep(sweet, last)
		p.InsertStep(last+1, plan.Step{Do: plan.Heat, Pot: p.Steps[last].Pot, Flame: vessel.Simmer, Stir: plan.StirOften,
			Until: &plan.Until{Minutes: minutes(3)}})
		return "variant.sugar-at-the-end"
	}
	if !early && sweet > first+1 {
		p.MoveStep(sweet, first+1)
		return "variant.sugar-from-the-start"
	}
	return ""
}

func minutes(m float64) *measure.Minute {
	x := measure.Minute(m)
	return &x
}

// grainAt finds the grain that goes into the served pot as it is: step and
// place, -1 if there is none.
func grainAt(p *plan.Plan) (step, place int, m *pantry.Material) {
	for i := range p.Steps {
		if p.Steps[i].Do != plan.Add || p.Steps[i].PotName() != p.Served()[0] {
			continue
		}
		for j, item := range p.Steps[i].Items {
			if m, ok := p.Pantry().Material(item.Material); ok && m.Behaviour == pantry.Grain && m.Kind != "noodle" {
				return i, j, m
			}
		}
	}
	return -1, -1, nil
}

// cookerOtherwise cooks the grain in a cooker with water first, or in the open
// pot to the same doneness.
func cookerOtherwise(p *plan.Plan) string {
	const atPressure = 4.6 // times as fast as at 98 °C. Source: the model, section 5
	if at := slices.IndexFunc(p.Steps, func(s plan.Step) bool { return s.Do == plan.Pressure }); at >= 0 {
		f := forecast.Run(p, forecast.Options{CourseOnly: true})
		for _, name := range slices.Sorted(maps.Keys(f.Steps[at].Doneness)) {
			target := &plan.DonenessTarget{Of: name, At: measure.RoundSignificant(f.Steps[at].Doneness[name], 3)}
			pot := p.Steps[at].Pot
			p.Steps[at] = plan.Step{Do: plan.Heat, Pot: pot, Flame: vessel.High, Stir: plan.StirNow, Until: &plan.Until{Boil: true}}
			p.InsertStep(at+1, plan.Step{Do: plan.Heat, Pot: pot, Flame: vessel.Simmer, Stir: plan.StirNow, Until: &plan.Until{Doneness: target},
				Lid: yes()})
			return "variant.in-the-open-pot"
		}
		return ""
	}
	step, place, m := grainAt(p)
	if step < 0 || m.Kinetics == nil {
		return ""
	}
	item := p.Steps[step].Items[place]
	_, mass, err := p.Weigh(item)
	if err != nil {
		return ""
	}
	const waterPerGrain = 3.5
	cooked := math.Max(2, math.Round(float64(m.Kinetics.CookMinutes)/atPressure))
	pot := p.Steps[step].Pot
	p.Steps[step].Items = slices.Delete(p.Steps[step].Items, place, place+1)
	at := firstAdd(p)
	p.InsertStep(at, plan.Step{Do: plan.Add, Pot: pot,
		Items: []plan.Item{item, {Material: water, Amount: fmt.Sprintf("%.0f ml", waterPerGrain*float64(mass))}}})
	p.InsertStep(at+1, plan.Step{Do: plan.Pressure, Pot: pot, Minutes: minutes(cooked)})
	if len(p.Steps[step+2].Items) == 0 {
		p.RemoveStep(step + 2)
	}
	return "variant.the-grain-from-the"
}

func yes() *bool {
	on := true
	return &on
}

// coconutOtherwise takes tins for pressed coconut milk, gram for gram, or presses
// what the tins hold.
func coconutOtherwise(p *plan.Plan) string {
	if at := slices.IndexFunc(p.Steps, func(s plan.Step) bool { return s.Do == plan.Press }); at >= 0 {
		return tinsFor(p, at)
	}
	var thick, thin measure.Gram
	for i := range p.Steps {
		for _, item := range p.Steps[i].Items {
			m, mass, err := p.Weigh(item)
			switch {
			case err != nil:
			case m.Slug == "coconut-milk-tin" || m.Slug == "coconut-cream":
				thick += mass
			case m.Slug == "coconut-milk-light":
				thin += mass
			}
		}
	}
	if thick == 0 {
		return ""
	}
	const thinFat = 6.5 // per cent, of a second press. Source: the model, section 10
	pressing, err := convert.PressFor(thick/2, thin+thick/2, thinFat)
	if err != nil {
		return ""
	}
	name := p.FreePart("coconut")
	p.Replace("coconut-milk-light", "coconut-milk-thin", 1)
	for _, slug := range []string{"coconut-milk-tin", "coconut-cream"} {
		p.Replace(slug, "coconut-milk-thick", 1)
	}
	// Half of what a tin holds comes as the second press, and goes in with it.
	p.InsertStep(0, plan.Step{Do: plan.Press, Name: name,
		Items: []plan.Item{{Material: "coconut-meat", Amount: fmt.Sprintf("%.0f g", float64(pressing.Meat))}},
		Presses: []plan.PressOf{{WaterML: 0}, {WaterML: measure.Millilitre(math.Round(float64(pressing.Water) * 0.6))},
			{WaterML: measure.Millilitre(math.Round(float64(pressing.Water) * 0.4))}}})
	return pressedFor(p, name)
}

// pressedFor puts three presses where the thick and the thin milk went in: the
// thinnest first, the thick one last.
func pressedFor(p *plan.Plan, name string) string {
	at := -1
	for i := range p.Steps {
		for j := len(p.Steps[i].Items) - 1; j >= 0; j-- {
			slug := p.Steps[i].Items[j].Material
			if p.Steps[i].Do != plan.Add || (slug != "coconut-milk-thick" && slug != "coconut-milk-thin") {
				continue
			}
			if at < 0 {
				at = i
				p.Steps[i].Items[j] = plan.Item{Part: name + ".3"}
				p.Steps[i].Items = append(p.Steps[i].Items, plan.Item{Part: name + ".2"})
			} else {
				p.Steps[i].Items = slices.Delete(p.Steps[i].Items, j, j+1)
			}
		}
	}
	for i := len(p.Steps) - 1; i >= 0; i-- {
		if p.Steps[i].Do == plan.Add && len(p.Steps[i].Items) == 0 {
			p.RemoveStep(i)
		}
	}
	last := lastHeat(p)
	if at < 0 || last < 0 {
		return ""
	}
	pot := p.Steps[last].Pot
	p.InsertStep(last+1, plan.Step{Do: plan.Heat, Pot: pot, Flame: vessel.Off, Stir: plan.StirNone, Until: &plan.Until{Minutes: minutes(2)}})
	p.InsertStep(last+2, plan.Step{Do: plan.Add, Pot: pot, Slowly: true, Items: []plan.Item{{Part: name + ".1"}}})
	return "variant.coconut-pressed-three-times"
}

// tinsFor takes a tin for the first press and light coconut milk for the rest.
func tinsFor(p *plan.Plan, at int) string {
	s := p.Steps[at]
	meat := measure.Gram(s.Coconuts) * p.Coconut()
	for _, item := range s.Items {
		if _, mass, err := p.Weigh(item); err == nil {
			meat += mass
		}
	}
	var waters []measure.Millilitre
	for _, press := range s.Presses {
		waters = append(waters, press.WaterML)
	}
	milks, _, err := convert.Press(meat, waters)
	if err != nil {
		return ""
	}
	for i := range p.Steps {
		for j, item := range p.Steps[i].Items {
			for k, milk := range milks {
				if item.Part != fmt.Sprintf("%s.%d", s.Name, k+1) {
					continue
				}
				slug := "coconut-milk-light"
				if k == 0 {
					slug = "coconut-milk-tin"
				}
				p.Steps[i].Items[j] = plan.Item{Material: slug, Amount: fmt.Sprintf("%.0f g", float64(milk.Mass())*item.Portion())}
			}
		}
	}
	p.RemoveStep(at)
	return "variant.coconut-milk-from-tins"
}

// reductionOtherwise reduces far, or lightly, from so much milk that the same
// comes out.
func reductionOtherwise(p *plan.Plan) string {
	const half, light, between = 55.0, 85.0, 70.0
	at := markStep(p)
	if at < 0 || p.Steps[at].Until.RemainingPct == nil {
		return ""
	}
	was, to, label := *p.Steps[at].Until.RemainingPct, half, "variant.reduced-to-half"
	if was < between {
		to, label = light, "variant.lightly-reduced"
	}
	for i := range at {
		for j := range p.Steps[i].Items {
			item := &p.Steps[i].Items[j]
			m, ok := p.Pantry().Material(item.Material)
			amount, err := measure.ParseAmount(item.Amount)
			if ok && err == nil && m.Behaviour == pantry.Liquid && (m.Kind == "dairy" || m.Kind == "plantmilk" || m.Kind == "coconut") {
				item.Amount, item.Also = amount.Scale(was/to).String(), ""
			}
		}
	}
	until := *p.Steps[at].Until
	until.RemainingPct = &to
	p.Steps[at].Until = &until
	return label
}

const soda = "baking-soda"

func sodaOtherwise(p *plan.Plan) string {
	var litres float64
	milk := -1
	for i := range p.Steps {
		for j, item := range p.Steps[i].Items {
			m, mass, err := p.Weigh(item)
			switch {
			case err != nil:
			case m.Slug == soda:
				p.RemoveItem(i, j)
				return "variant.without-soda"
			case m.Kind == "dairy" && m.Behaviour == pantry.Liquid:
				if milk < 0 && p.Steps[i].Do == plan.Add {
					milk = i
				}
				litres += float64(mass) / 1000
			}
		}
	}
	if milk < 0 {
		return ""
	}
	const perLitre = 0.5 // g: a small pinch in half a litre. Source: the model, section 8
	p.Steps[milk].Items = append(p.Steps[milk].Items, plan.Item{Material: soda, Amount: fmt.Sprintf("%.1f g", math.Max(0.1,
		perLitre*litres))})
	return "variant.with-a-pinch-of"
}

func soakOtherwise(p *plan.Plan) string {
	if at := slices.IndexFunc(p.Steps, func(s plan.Step) bool { return s.Do == plan.Soak && len(s.Items) == 1 }); at >= 0 {
		if p.Unprepare(at) {
			return "variant.not-soaked"
		}
		return ""
	}
	step, place, _ := grainAt(p)
	if step < 0 || p.Prepare(step, place, "soak", 60) != nil {
		return ""
	}
	return "variant.soaked-for-an-hour"
}

func grainOtherwise(p *plan.Plan) string {
	for _, pair := range [][3]string{{"rice-short", "rice-long", "variant.long-grain"}, {"rice-long", "rice-short", "variant.short-grain"},
		{"rice-basmati", "rice-short", "variant.short-grain"}} {
		uses := slices.ContainsFunc(p.Steps, func(s plan.Step) bool {
			return slices.ContainsFunc(s.Items, func(item plan.Item) bool { return item.Material == pair[0] })
		})
		if uses {
			p.Replace(pair[0], pair[1], 1)
			return pair[2]
		}
	}
	return ""
}

func serveOtherwise(p *plan.Plan) string {
	if p.Serve == plan.Chilled {
		p.ServeAs(plan.Hot)
		return "variant.served-hot"
	}
	p.ServeAs(plan.Chilled)
	return "variant.served-chilled"
}
