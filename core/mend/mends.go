package mend

import (
	"fmt"
	"math"
	"slices"

	"kirdu/core/forecast"
	"kirdu/core/measure"
	"kirdu/core/pantry"
	"kirdu/core/plan"
	"kirdu/core/vessel"
	"kirdu/core/watch"
)

// minutesOf returns a new span of time for a step.
func minutesOf(m float64) *measure.Minute {
	minutes := measure.Minute(math.Max(1, math.Round(m)))
	return &minutes
}

// acidLater lets the acid sweetener wait, or the pulse cook longer before it.
func acidLater(p *plan.Plan, step int) []candidate {
	all := sweetenLater(p, step)
	for _, factor := range pulseLonger {
		all = append(all, func(p *plan.Plan) bool {
			for i := step - 1; i >= 0; i-- {
				if p.Steps[i].PotName() == p.Steps[step].PotName() && (p.Steps[i].Do == plan.Pressure || p.Steps[i].Do == plan.Heat) &&
					lengthen(p, i, factor) {
					return true
				}
			}
			return false
		})
	}
	return all
}

// lengthen gives a step a factor of its time; it reports whether the step has
// one.
func lengthen(p *plan.Plan, i int, factor float64) bool {
	s := &p.Steps[i]
	switch {
	case s.Whistles > 0:
		s.Whistles = max(1, int(math.Round(float64(s.Whistles)*factor)))
		return true
	case s.Minutes != nil && (s.Do == plan.Pressure || s.Do == plan.Bake):
		s.Minutes = minutesOf(float64(*s.Minutes) * factor)
		return true
	case s.Until != nil && s.Until.Minutes != nil:
		until := *s.Until
		until.Minutes = minutesOf(float64(*until.Minutes) * factor)
		s.Until = &until
		return true
	case s.Until != nil && s.Until.Doneness != nil:
		until := *s.Until
		until.Doneness = &plan.DonenessTarget{Of: until.Doneness.Of, At: math.Min(measure.RoundSignificant(until.Doneness.At*factor, 3), 10)}
		s.Until = &until
		return true
	}
	return false
}

func pinches(step int) []candidate {
	var all []candidate
	for _, grams := range sodas {
		all = append(all, func(p *plan.Plan) bool { return withSoda(p, step, grams) })
	}
	return all
}

// tameAcid puts what is acid in off the heat, or a pinch of soda with it.
func tameAcid(_ *plan.Plan, step int) []candidate {
	last := func(p *plan.Plan) bool {
		acid := func(item plan.Item) bool {
			const acidPH, leastBuffer = 6.2, 0.1
			m, ok := p.Pantry().Material(item.Material)
			return ok && m.Kind != "dairy" && m.PH > 0 && m.PH < acidPH && m.Buffer >= leastBuffer && m.Behaviour != pantry.Grain
		}
		return p.Steps[step].Do == plan.Add && moveLast(p, step, acid, true)
	}
	return append([]candidate{last}, pinches(step)...)
}

// moveLast takes the items of a step that fit to the end of its pot's work,
// into an addition of their own; cooled first brings the pot below 84 °C before.
func moveLast(p *plan.Plan, step int, fits func(plan.Item) bool, cooled bool) bool {
	s := &p.Steps[step]
	var moved, rest []plan.Item
	for _, item := range s.Items {
		if fits(item) {
			moved = append(moved, item)
		} else {
			rest = append(rest, item)
		}
	}
	last := -1
	for j := range p.Steps {
		if j > step && p.Steps[j].PotName() == s.PotName() && plan.OnHeat(&p.Steps[j]) {
			last = j
		}
	}
	if len(moved) == 0 || last < 0 {
		return false
	}
	pot := s.Pot
	p.Steps[step].Items = rest
	at := last + 1
	if cooled {
		to, most := offTheBoil, shortGuard
		p.InsertStep(at, plan.Step{Do: plan.Heat, Pot: pot, Flame: vessel.Off, Stir: plan.StirNow,
			Until: &plan.Until{TempC: &to, MaxMinutes: &most}})
		at++
	}
	p.InsertStep(at, plan.Step{Do: plan.Add, Pot: pot, Items: moved, Note: "Off the heat."})
	if len(rest) > 0 {
		return true
	}
	if !p.MoveStep(step, len(p.Steps)-1) {
		return false
	}
	p.Steps = p.Steps[:len(p.Steps)-1]
	return true
}

// softenVegetable fries it before the rest goes in, or takes a pinch of soda.
func softenVegetable(_ *plan.Plan, step int) []candidate {
	fry := func(p *plan.Plan) bool {
		var first, rest []plan.Item
		for _, item := range p.Steps[step].Items {
			m, ok := p.Pantry().Material(item.Material)
			from := p.Maker(item.Part)
			switch {
			case ok && (m.Behaviour == pantry.Tissue || m.Behaviour == pantry.Fat):
				first = append(first, item)
			case from >= 0 && len(p.Steps[from].Items) > 0 && isTissue(p, p.Steps[from].Items[0]):
				first = append(first, item)
			default:
				rest = append(rest, item)
			}
		}
		if p.Steps[step].Do != plan.Add || len(first) == 0 || len(rest) == 0 || pouredBefore(p, step) {
			return false
		}
		p.Steps[step].Items = rest
		pot := p.Steps[step].Pot
		p.InsertStep(step, plan.Step{Do: plan.Add, Pot: pot, Items: first})
		p.InsertStep(step+1, plan.Step{Do: plan.Heat, Pot: pot, Flame: vessel.MediumLow, Stir: plan.StirConstant,
			Until: &plan.Until{Minutes: minutesOf(fryTissue)},
			Note:  "Until it gives and its juice is gone."})
		return true
	}
	return append(pinches(step), fry)
}

func isTissue(p *plan.Plan, item plan.Item) bool {
	m, ok := p.Pantry().Material(item.Material)
	return ok && m.Behaviour == pantry.Tissue
}

// pouredBefore reports whether something is in the pot already.
func pouredBefore(p *plan.Plan, step int) bool {
	for i := range step {
		if p.Steps[i].Do == plan.Add && p.Steps[i].PotName() == p.Steps[step].PotName() {
			return true
		}
	}
	return false
}

// gentleEgg lets the pot cool before the egg goes in and stops the heat after it
// at 78 °C.
func gentleEgg(p *plan.Plan, step int) []candidate {
	added := step
	for i := 0; i <= step; i++ {
		if p.Steps[i].Do == plan.Add && slices.ContainsFunc(plan.Arrivals(p, i),
			func(a plan.Arrival) bool { return a.Material.Behaviour == pantry.Egg }) {
			added = i
			break
		}
	}
	stop := func(p *plan.Plan) {
		for i := added; i < len(p.Steps); i++ {
			if s := &p.Steps[i]; s.Do == plan.Heat && s.Burns() && s.PotName() == p.Steps[added].PotName() {
				to, most := EggThickens, longGuard
				s.TurnTo(vessel.MediumLow)
				s.Stir, s.Until = plan.StirConstant, &plan.Until{TempC: &to, MaxMinutes: &most}
			}
		}
	}
	cool := func(p *plan.Plan, to measure.Celsius) {
		most := longGuard
		p.InsertStep(added, plan.Step{Do: plan.Heat, Pot: p.Steps[added].Pot, Flame: vessel.Off, Stir: plan.StirNow,
			Until: &plan.Until{TempC: &to, MaxMinutes: &most}})
	}
	all := []candidate{func(p *plan.Plan) bool { stop(p); return true }}
	for _, to := range eggBelow {
		all = append(all, func(p *plan.Plan) bool { stop(p); cool(p, to); return true })
	}
	return all
}

// warmEgg brings the egg to 76 °C after it went in.
func warmEgg(_ *plan.Plan, step int) []candidate {
	var all []candidate
	for _, flame := range []vessel.Flame{vessel.Low, vessel.MediumLow} {
		all = append(all, func(p *plan.Plan) bool {
			to, most := EggSafe, shortGuard
			warm := plan.Step{Do: plan.Heat, Pot: p.Steps[step].Pot, Flame: flame, Stir: plan.StirConstant,
				Until: &plan.Until{TempC: &to, MaxMinutes: &most},
				Note:  "Until it coats the spoon; never to the boil."}
			if step+1 < len(p.Steps) && p.Steps[step+1].Do == plan.Heat && p.Steps[step+1].PotName() == p.Steps[step].PotName() {
				p.Steps[step+1] = warm
				return true
			}
			p.InsertStep(step+1, warm)
			return true
		})
	}
	return all
}

// largerPot takes a pot as wide and higher, so that it boils away as before, or
// one that is larger all round.
func largerPot(p *plan.Plan, step int) []candidate {
	name := p.Steps[step].PotName()
	var all []candidate
	for _, factor := range higherPots {
		all = append(all, func(p *plan.Plan) bool {
			pot := p.Pots[name]
			width := pot.Width(pot.HeightMM)
			const tallest = 1.1 // over the width: higher is a pipe
			high := measure.Millimetre(10 * math.Ceil(float64(pot.HeightMM)*factor/10))
			if pot.Shape == vessel.Tray || high > width*tallest {
				return false
			}
			if pot.Shape != vessel.Straight { // straight up from the rim
				pot = vessel.Pot{Shape: vessel.Straight, DiameterMM: width, Burner: pot.Burner}
			}
			pot.HeightMM, pot.MassG = high, nil
			return takePot(p, name, pot)
		})
	}
	for _, factor := range widerPots {
		all = append(all, func(p *plan.Plan) bool {
			pot := p.Pots[name]
			for _, side := range []*measure.Millimetre{&pot.DiameterMM, &pot.BottomMM, &pot.TopMM, &pot.LengthMM, &pot.WidthMM, &pot.HeightMM} {
				*side = measure.Millimetre(10 * math.Round(float64(*side)*factor/10))
			}
			pot.MassG = nil
			return takePot(p, name, pot)
		})
	}
	return all
}

func takePot(p *plan.Plan, name string, pot vessel.Pot) bool {
	const perLitre = 1000
	pot.Name = fmt.Sprintf("a pot of %.1f l", float64(pot.Capacity())/perLitre)
	p.Pots[name] = pot
	return true
}

// warmEnough turns the flame up until the pot gets where it is wanted, puts a lid on,
// or both.
func warmEnough(p *plan.Plan, step int) []candidate {
	covered := func(p *plan.Plan) bool {
		lid := true
		p.Steps[step].Lid = &lid
		return true
	}
	flames := p.Steps[step].Flame.Higher()
	if p.Steps[step].FlamePct != nil {
		flames = vessel.Low.Higher()
	}
	var all []candidate
	for _, flame := range flames {
		all = append(all, func(p *plan.Plan) bool { p.Steps[step].TurnTo(flame); return true })
	}
	return append(all, covered)
}

// neverDry ends the step earlier, turns it down, or pours more in.
func neverDry(p *plan.Plan, step int) []candidate {
	var all []candidate
	for _, factor := range cutShort {
		all = append(all, func(p *plan.Plan) bool { return lengthen(p, step, factor) })
	}
	for _, flame := range p.Steps[step].Flame.Lower() {
		all = append(all, func(p *plan.Plan) bool { p.Steps[step].TurnTo(flame); return true })
	}
	for _, factor := range moreLiquid {
		all = append(all, func(p *plan.Plan) bool { return pourMore(p, step, factor) })
	}
	return all
}

// pourMore makes the latest liquid before a step more.
func pourMore(p *plan.Plan, step int, factor float64) bool {
	for i := step - 1; i >= 0; i-- {
		if p.Steps[i].Do != plan.Add || p.Steps[i].PotName() != p.Steps[step].PotName() {
			continue
		}
		for j := range p.Steps[i].Items {
			item := &p.Steps[i].Items[j]
			m, ok := p.Pantry().Material(item.Material)
			amount, err := measure.ParseAmount(item.Amount)
			if ok && err == nil && m.Behaviour == pantry.Liquid && m.Kind != "sweetener" && m.Kind != "flavour" {
				item.Amount, item.Also = amount.Scale(factor).String(), ""
				return true
			}
		}
	}
	return false
}

// smoothSlurry pours it slowly, or stirs dry flour smooth first.
func smoothSlurry(_ *plan.Plan, step int) []candidate {
	slowly := func(p *plan.Plan) bool { p.Steps[step].Slowly = true; return true }
	return []candidate{slowly, func(p *plan.Plan) bool {
		return stirInCold(p, step, 2, func(m *pantry.Material) bool { return m.Behaviour == pantry.Flour })
	}}
}

// swellFirst lets meal swell ten minutes in cold milk.
func swellFirst(_ *plan.Plan, step int) []candidate {
	return []candidate{func(p *plan.Plan) bool {
		return stirInCold(p, step, 10, func(m *pantry.Material) bool { return watch.Meals[m.Slug] })
	}}
}

// stirInCold stirs each item of a step that fits smooth with cold liquid of that
// step or one before it, to be poured in slowly.
func stirInCold(p *plan.Plan, step int, minutes measure.Minute, fits func(*pantry.Material) bool) bool {
	done := false
	for j := 0; j < len(p.Steps[step].Items); j++ {
		m, ok := p.Pantry().Material(p.Steps[step].Items[j].Material)
		if !ok || !fits(m) {
			continue
		}
		if p.Prepare(step, j, "stir in cold", minutes) != nil {
			return false
		}
		step++ // the mix stands before everything
		p.Steps[step].Slowly = true
		done = true
	}
	return done
}

// fewerPearls takes some of them out; the milk that is left thickens less.
func fewerPearls(_ *plan.Plan, step int) []candidate {
	var all []candidate
	for _, factor := range cutShort {
		all = append(all, func(p *plan.Plan) bool {
			return scaleItems(p, factor, func(m *pantry.Material) bool { return m.Kind == "pearl" })
		})
	}
	return all
}

// scaleItems multiplies every amount of a material that fits.
func scaleItems(p *plan.Plan, factor float64, fits func(*pantry.Material) bool) bool {
	found := false
	scale := func(item *plan.Item) {
		if item == nil {
			return
		}
		m, ok := p.Pantry().Material(item.Material)
		amount, err := measure.ParseAmount(item.Amount)
		if ok && err == nil && fits(m) {
			item.Amount, item.Also = amount.Scale(factor).String(), ""
			found = true
		}
	}
	for i := range p.Steps {
		for j := range p.Steps[i].Items {
			scale(&p.Steps[i].Items[j])
		}
		scale(p.Steps[i].Fat)
	}
	return found
}

// soakPearls soaks them until they give, and boils them for less long.
func soakPearls(_ *plan.Plan, step int) []candidate {
	const enough = 120
	var all []candidate
	for _, share := range boilLess {
		all = append(all, func(p *plan.Plan) bool {
			at := step
			for _, a := range plan.Arrivals(p, step) {
				if a.Material.Kind != "pearl" {
					continue
				}
				if a.Prepared(step) {
					if p.Steps[a.Step].Do != plan.Soak {
						return false
					}
					p.Steps[a.Step].Minutes = minutesOf(enough)
					break
				}
				if p.Prepare(a.Step, a.Place, "soak", enough) != nil {
					return false
				}
				at++
				break
			}
			return shorten(p, at, len(p.Steps)-1, share)
		})
	}
	return all
}

// cookingStep returns the step that decides how soft the grain gets: the longest
// on the heat before the sugar.
func cookingStep(p *plan.Plan) int {
	longest, most := -1, 0.0
	for i := range p.Steps {
		s := &p.Steps[i]
		if longest >= 0 && p.Sweetens(i) {
			break
		}
		minutes := 0.0
		switch {
		case s.Do == plan.Pressure:
			minutes = 60 // under pressure all goes several times as fast
		case s.Do == plan.Bake:
			minutes = float64(s.FullMinutes())
		case s.Do == plan.Heat && s.Until != nil && s.Until.Minutes != nil:
			minutes = float64(*s.Until.Minutes)
		case s.Do == plan.Heat && s.Until != nil && (s.Until.RemainingPct != nil || s.Until.Doneness != nil):
			minutes = 30
		}
		if plan.OnHeat(s) && minutes > most {
			longest, most = i, minutes
		}
	}
	return longest
}

// cookLonger gives the grain more time: by the clock, or on a lower flame down
// to the same mark; or soaks it.
func cookLonger(p *plan.Plan, _ int) []candidate {
	at := cookingStep(p)
	if at < 0 {
		return nil
	}
	var all []candidate
	for _, factor := range softenLonger {
		all = append(all, func(p *plan.Plan) bool { return lengthen(p, at, factor) })
	}
	var lower []candidate
	for _, flame := range p.Steps[at].Flame.Lower() {
		lower = append(lower, func(p *plan.Plan) bool { p.Steps[at].TurnTo(flame); return true })
	}
	all = append(all, lower...)
	for i := range p.Steps {
		for j, item := range p.Steps[i].Items {
			m, ok := p.Pantry().Material(item.Material)
			if !ok || p.Steps[i].Do != plan.Add || m.Behaviour != pantry.Grain {
				continue
			}
			soak := func(p *plan.Plan) bool { return p.Prepare(i, j, "soak", 60) == nil }
			all = append(all, soak)
			for _, turnDown := range lower {
				all = append(all, func(p *plan.Plan) bool { return turnDown(p) && soak(p) })
			}
		}
	}
	return all
}

// cookShorter is the other way round.
func cookShorter(p *plan.Plan, _ int) []candidate {
	at := cookingStep(p)
	if at < 0 {
		return nil
	}
	var all []candidate
	for _, factor := range softenLess {
		all = append(all, func(p *plan.Plan) bool { return lengthen(p, at, factor) })
	}
	for _, flame := range p.Steps[at].Flame.Higher() {
		all = append(all, func(p *plan.Plan) bool { p.Steps[at].TurnTo(flame); return true })
	}
	return all
}

// richerMilk takes whole milk for thin, as far as it needs to.
func richerMilk(p *plan.Plan, _ int) []candidate {
	var all []candidate
	for _, slug := range []string{"milk-skim", "milk-lowfat"} {
		all = append(all, func(p *plan.Plan) bool {
			before, _ := p.JSON()
			p.Replace(slug, "milk-whole", 1)
			after, _ := p.JSON()
			return string(before) != string(after)
		})
	}
	return append(all, func(p *plan.Plan) bool {
		p.Replace("milk-skim", "milk-whole", 1)
		p.Replace("milk-lowfat", "milk-whole", 1)
		return true
	})
}

// lessFat takes less of what is all fat.
func lessFat(_ *plan.Plan, _ int) []candidate {
	var all []candidate
	for _, factor := range lessFats {
		all = append(all, func(p *plan.Plan) bool {
			return scaleItems(p, factor, func(m *pantry.Material) bool { return m.Behaviour == pantry.Fat })
		})
	}
	return append(all, func(p *plan.Plan) bool { p.Replace("coconut-milk-thick", "coconut-milk-tin", 1); return true },
		func(p *plan.Plan) bool { p.Replace("cream-double", "cream-single", 1); return true })
}

// lessSoda brings it down to what cannot be tasted.
func lessSoda(p *plan.Plan, _ int) []candidate {
	grams := 0.0
	for i := range p.Steps {
		for _, item := range p.Steps[i].Items {
			if m, mass, err := p.Weigh(item); err == nil && m.Slug == watch.Soda {
				grams += float64(mass)
			}
		}
	}
	var all []candidate
	for _, share := range lessWater {
		factor := measure.Ratio(watch.SodaRight*plan.LiquidLitres(p)*share, grams)
		all = append(all, func(p *plan.Plan) bool {
			return factor > 0 && scaleItems(p, factor, func(m *pantry.Material) bool { return m.Slug == watch.Soda })
		})
	}
	return all
}

// aromaLast moves what is fleeting behind the last heat.
func aromaLast(_ *plan.Plan, step int) []candidate {
	return []candidate{func(p *plan.Plan) bool {
		return moveLast(p, step, func(item plan.Item) bool {
			m, ok := p.Pantry().Material(item.Material)
			return ok && watch.Fleeting(m, item)
		}, false)
	}}
}

// fryInTurn gives each of a garnish its own minutes.
func fryInTurn(_ *plan.Plan, step int) []candidate {
	return []candidate{func(p *plan.Plan) bool {
		for j := range p.Steps[step].Items {
			item := &p.Steps[step].Items[j]
			if m, ok := p.Pantry().Material(p.Of(*item)); ok && m.Frying != nil && p.Steps[step].FryMinutes(*item) > m.Frying.Burnt {
				done := m.Frying.Done
				item.Minutes = &done
			}
		}
		return true
	}}
}

// lightCaramel takes it off when it is light.
func lightCaramel(_ *plan.Plan, step int) []candidate {
	return []candidate{func(p *plan.Plan) bool {
		p.Steps[step].Minutes, p.Steps[step].Until = nil, &plan.Until{Browning: "light"}
		return true
	}}
}

// hotOrShort keeps hot what stands, or lets it stand for less long.
func hotOrShort(_ *plan.Plan, step int) []candidate {
	const keptHot, shortRest = 65, 20
	hot := func(p *plan.Plan) bool {
		s := &p.Steps[step]
		at := measure.Celsius(keptHot)
		switch s.Do {
		case plan.Hold:
			s.TempC = &at
		case plan.Rest:
			p.Steps[step] = plan.Step{Do: plan.Hold, Pot: s.Pot, Minutes: s.Minutes, TempC: &at, Note: s.Note}
		default:
			return false
		}
		return true
	}
	short := func(p *plan.Plan) bool {
		if p.Steps[step].Do == plan.Heat {
			p.Steps[step].Until = &plan.Until{Minutes: minutesOf(shortRest)}
		} else {
			p.Steps[step].Minutes = minutesOf(shortRest)
		}
		return true
	}
	return []candidate{short, hot}
}

// waterBath stands the pot in cold water before it is chilled, or ladles the pudding into
// its bowls first, or both.
func waterBath(_ *plan.Plan, step int) []candidate {
	to := bathTo
	bath := func(p *plan.Plan) bool {
		p.InsertStep(step, plan.Step{Do: plan.Cool, Pot: p.Steps[step].Pot, ToC: &to, Where: plan.WaterBath,
			Note: "Stir now and then; change the water when it is warm."})
		return true
	}
	instead := func(p *plan.Plan) bool {
		if p.Steps[step].Do != plan.Cool {
			return false
		}
		p.Steps[step].Where = plan.WaterBath
		return true
	}
	bowls := func(p *plan.Plan) bool {
		if slices.ContainsFunc(p.Steps, func(s plan.Step) bool { return s.Do == plan.Portion }) {
			return false
		}
		p.InsertStep(step, plan.Step{Do: plan.Portion, Pot: p.Steps[step].Pot, Bowls: p.Serves})
		return true
	}
	return []candidate{instead, bath, bowls, func(p *plan.Plan) bool { return bowls(p) && bath(p) }}
}

// boilFirst brings raw milk to the boil when it is in.
func boilFirst(_ *plan.Plan, step int) []candidate {
	return []candidate{func(p *plan.Plan) bool {
		p.InsertStep(step+1, plan.Step{Do: plan.Heat, Pot: p.Steps[step].Pot, Flame: vessel.High, Stir: plan.StirOften,
			Until: &plan.Until{Boil: true}})
		return true
	}, func(p *plan.Plan) bool {
		for i := step + 1; i < len(p.Steps); i++ {
			if s := &p.Steps[i]; s.Do == plan.Heat && s.PotName() == p.Steps[step].PotName() {
				s.TurnTo(vessel.High)
				s.Until = &plan.Until{Boil: true}
				return true
			}
		}
		return false
	}}
}

// chopFine chops what small children could choke on.
func chopFine(*plan.Plan, int) []candidate {
	return []candidate{func(p *plan.Plan) bool {
		for i := range p.Steps {
			for j := range p.Steps[i].Items {
				item := &p.Steps[i].Items[j]
				if m, ok := p.Pantry().Material(item.Material); ok && watch.IsWholePiece(m, *item) {
					item.State = "chopped"
				}
			}
		}
		return true
	}}
}

// toAim is the edit that brings the thickness to what is wanted, with sweetness
// and bowls as they are. What is thicker may catch: then it is stirred more often, too.
func toAim(p *plan.Plan, f *forecast.Forecast, found []watch.Finding, rule watch.ID) []Operation {
	sweet, yield := f.Sweetness.Pct.Value, f.Yield.MassG.Value
	balanced, err := practical(p, balanceTo(p, *p.Aim.Thickness, sweet, yield))
	if err != nil {
		return nil
	}
	after := forecast.Run(balanced, forecast.Options{NominalOnly: true})
	grade, ok := watch.ServedThickness(balanced, after)
	if !ok || math.Abs(grade-*p.Aim.Thickness) > mendThickness || math.Abs(after.Sweetness.Pct.Value-sweet) > mendSweet ||
		math.Abs(after.Yield.MassG.Value-yield) > mendYield*yield {
		return nil
	}
	if !worse(found, watch.Findings(balanced, after), rule) {
		return difference(p, balanced)
	}
	for _, catches := range watch.Of(scorchRule, balanced, after) {
		for _, rhythm := range plan.Stirs() {
			calm := balanced.Clone()
			calm.Steps[catches.Step].Stir = rhythm
			if rhythm.Every() == 0 || worse(found, watch.Findings(calm, forecast.Run(calm, forecast.Options{NominalOnly: true})), rule) {
				continue
			}
			return difference(p, calm)
		}
	}
	return nil
}

// scorchRule is the rule of what catches.
const scorchRule watch.ID = "scorch"

// withSoda adds so many grams of baking soda for each litre of liquid at a step,
// to what is there. The rule for too much of it watches over it.
func withSoda(p *plan.Plan, step int, perLitre float64) bool {
	grams := perLitre * plan.LiquidLitres(p)
	if grams <= 0 || p.Steps[step].Do != plan.Add {
		return false
	}
	const tenths = 10
	grams = math.Max(math.Round(grams*tenths)/tenths, 1.0/tenths)
	p.Steps[step].Items = append(p.Steps[step].Items, plan.Item{Material: watch.Soda, Amount: fmt.Sprintf("%.1f g", grams)})
	return true
}
