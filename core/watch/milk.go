package watch

import (
	"kirdu/core/forecast"
	"kirdu/core/measure"
	"kirdu/core/pantry"
	"kirdu/core/plan"
)

// What splits, thins and greases milk, and what brings it back.
var (
	SplitMay    = Limit{forecast.Note, 6.4, "pH", table}
	splitLikely = Limit{forecast.Warning, 6.2, "pH", table}
	splitSure   = Limit{forecast.Stop, 5.9, "pH", table}
	pulseSoft   = Limit{forecast.Warning, 1.2, "", table}
	pulseHard   = Limit{forecast.Stop, 0.7, "", table}
	rawTissue   = Limit{forecast.Warning, 0.3, "", table}
	belowBoil   = Limit{forecast.Warning, 4.0, "K below the boil", table}
	YogurtWarm  = Limit{forecast.Warning, 35.0, "°C", table}
	thinFat     = Limit{forecast.Note, 2.0, "%", table}
	greasyFat   = Limit{forecast.Note, 15.0, "%", table}
	SodaTastes  = Limit{forecast.Warning, 0.6, "g/l", table}
	sodaSpoils  = Limit{forecast.Stop, 1.5, "g/l", table}
)

// pulseAcid is the pH below which pulses stop softening. Source: the watchpoint
// table.
const pulseAcid = 5.9

// Soda is the material that lifts the pH; SodaRight is how much of it a mend leaves,
// in g per litre. Source: the watchpoint table.
const (
	Soda      = "baking-soda"
	SodaRight = 0.5
)

// pulseAcidEarly: in acid pulses stop softening.
func pulseAcidEarly(p *plan.Plan, f *forecast.Forecast) []Finding {
	for i := range p.Steps {
		now := &f.Steps[i]
		if p.Steps[i].Do != plan.Add || now.PH == nil || *now.PH >= pulseAcid {
			continue
		}
		if was := before(f, i); was != nil && *was.PH < pulseAcid {
			continue
		}
		for _, name := range sortedNames(f.Doneness) {
			done, inPot := now.Doneness[name]
			if !inPot || !f.Parts[name].AcidHardens || done >= pulseSoft.Value {
				continue
			}
			found := pulseSoft.speaks(i, "doneness", done).about(name).with(Detail{PH: *now.PH})
			switch {
			case f.Doneness[name].Value >= f.Parts[name].WantedLow:
				found.Severity = forecast.Note
			case done < pulseHard.Value:
				found.Severity = pulseHard.Severity
			}
			return one(found)
		}
	}
	return nil
}

// nearBoilFor is how long a first press stands it. Source: the watchpoint table.
const nearBoilFor measure.Minute = 1

// acidSplit: fresh milk curdles in acid near the boil.
func acidSplit(p *plan.Plan, f *forecast.Forecast) []Finding {
	worst, least, ok := f.LeastSplitPH()
	if !ok || least >= SplitMay.Value {
		return nil
	}
	limit := SplitMay
	switch {
	case least < splitSure.Value:
		limit = splitSure
	case least < splitLikely.Value:
		limit = splitLikely
	}
	return one(limit.speaks(acidifier(p, f, worst), "ph", least))
}

// acidifier returns the addition that brought the pH of a step down the most.
func acidifier(p *plan.Plan, f *forecast.Forecast, step int) int {
	blamed, deepest := step, 0.0
	for i := 0; i <= step; i++ {
		if p.Steps[i].Do != plan.Add || f.Steps[i].PH == nil || p.Steps[i].PotName() != p.Steps[step].PotName() {
			continue
		}
		const milkPH = 6.7
		was := milkPH
		if last := before(f, i); last != nil {
			was = min(was, *last.PH)
		}
		if fall := was - *f.Steps[i].PH; fall > deepest {
			blamed, deepest = i, fall
		}
	}
	return blamed
}

// rawVegetableInMilk: raw tissue splits milk more often than its pH says.
func rawVegetableInMilk(p *plan.Plan, f *forecast.Forecast) []Finding {
	for i, trace := range f.Trace {
		if !trace.RawTissue.Below(rawTissue.Value) {
			continue
		}
		step := i
		for j := i; j >= 0; j-- {
			if p.Steps[j].Do == plan.Add && p.Steps[j].PotName() == p.Steps[i].PotName() && bringsTissue(p, j) {
				step = j
				break
			}
		}
		return one(rawTissue.speaks(step, "doneness", trace.RawTissue.Value).about(trace.RawName).with(Detail{PH: trace.RawPH}))
	}
	return nil
}

func bringsTissue(p *plan.Plan, step int) bool {
	for _, a := range plan.Arrivals(p, step) {
		if a.Material.Behaviour == pantry.Tissue {
			return true
		}
	}
	return false
}

// thickCoconutBoiled: a first press splits at the boil.
func thickCoconutBoiled(p *plan.Plan, f *forecast.Forecast) []Finding {
	for i := range p.Steps {
		if !brings(p, i, (*pantry.Material).IsFirstPress) {
			continue
		}
		for j := i + 1; j < len(p.Steps); j++ {
			s, hot := &p.Steps[j], f.Trace[j].NearBoil
			if s.Do.IsPreparation() || s.PotName() != p.Steps[i].PotName() || hot.Minutes < nearBoilFor {
				continue
			}
			limit := belowBoil
			limit.Value = float64(hot.LimitC) - belowBoil.Value
			return one(limit.speaks(i, "temp_c", float64(hot.MostC)))
		}
	}
	return nil
}

// yogurtHot: culture curdles in the heat.
func yogurtHot(p *plan.Plan, f *forecast.Forecast) []Finding {
	for i := range p.Steps {
		was := before(f, i)
		if was == nil || !brings(p, i, func(m *pantry.Material) bool { return m.Has("cultured") }) || *was.TempC <= YogurtWarm.Value {
			continue
		}
		return one(YogurtWarm.speaks(i, "temp_c", *was.TempC))
	}
	return nil
}

// rawMilk: milk from the animal is boiled first.
func rawMilk(p *plan.Plan, f *forecast.Forecast) []Finding {
	for i := range p.Steps {
		if p.Steps[i].Do.IsPreparation() {
			continue
		}
		raw := false
		for _, a := range plan.Arrivals(p, i) {
			raw = raw || (a.Item.State == pantry.Raw && a.Material.Kind == "dairy")
		}
		if raw && !boilsAfter(p, f, i, p.Steps[i].PotName()) {
			return one(Limit{Severity: forecast.Stop}.speaks(i, "minutes_at_the_boil", 0))
		}
	}
	return nil
}

// boilsAfter reports whether what goes into a pot at a step boils later, there
// or in a pot that it is poured into.
func boilsAfter(p *plan.Plan, f *forecast.Forecast, step int, pot string) bool {
	for i := step; i < len(p.Steps); i++ {
		if p.Steps[i].Do.IsPreparation() {
			continue
		}
		here := p.Steps[i].PotName()
		if here == pot && f.Trace[i].Boiled {
			return true
		}
		if here != pot && i > step {
			for _, item := range p.Steps[i].Items {
				if item.Pot == pot && item.Portion() == 1 && boilsAfter(p, f, i, here) {
					return true
				}
			}
		}
	}
	return false
}

// thinMilk: what is reduced without fat stays thin on the tongue.
func thinMilk(p *plan.Plan, _ *forecast.Forecast) []Finding {
	const leastReduced = 95.0 // per cent left: less than that is no reduction
	reduced := -1
	for i := range p.Steps {
		if u := p.Steps[i].Until; p.Steps[i].Do == plan.Heat && u != nil && u.RemainingPct != nil && *u.RemainingPct < leastReduced {
			reduced = i
			break
		}
	}
	if reduced < 0 {
		return nil
	}
	var milk, fat measure.Gram
	for i := 0; i < reduced; i++ {
		for _, item := range p.Steps[i].Items {
			m, mass, err := p.Weigh(item)
			switch {
			case err != nil:
			case m.Kind == "dairy":
				milk, fat = milk+mass, fat+mass*m.Fat/100
			case m.Behaviour == pantry.Liquid || m.Behaviour == pantry.Fat:
				return nil // not a reduction of milk alone
			}
		}
	}
	percent := 100 * measure.Ratio(float64(fat), float64(milk))
	if milk == 0 || percent >= thinFat.Value {
		return nil
	}
	return one(thinFat.speaks(reduced, "fat_pct", percent))
}

// greasy: so much fat swims.
func greasy(p *plan.Plan, f *forecast.Forecast) []Finding {
	if f.FatPct <= greasyFat.Value {
		return nil
	}
	return one(greasyFat.speaks(lastHeat(p), "fat_pct", f.FatPct))
}

// sodaTooMuch: it tastes of soap and browns.
func sodaTooMuch(p *plan.Plan, f *forecast.Forecast) []Finding {
	step, grams := -1, 0.0
	for i := range p.Steps {
		for _, item := range p.Steps[i].Items {
			if m, mass, err := p.Weigh(item); err == nil && m.Slug == Soda {
				grams += float64(mass)
				step = i
			}
		}
	}
	const gramsPerLitre, percent = 1000, 100
	litres := f.Yield.MassG.Value * (1 - f.SolidsPct/percent) / gramsPerLitre // of all water, when it is served
	perLitre := measure.Ratio(grams, litres)
	if step < 0 || perLitre <= SodaTastes.Value {
		return nil
	}
	limit := SodaTastes
	if perLitre > sodaSpoils.Value {
		limit = sodaSpoils
	}
	return one(limit.speaks(step, "g_per_litre", perLitre).with(Detail{SodaGrams: SodaRight * litres}))
}
