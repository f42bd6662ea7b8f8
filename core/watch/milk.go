package watch

import (
	"fmt"

	"kirdu/core/forecast"
	"kirdu/core/measure"
	"kirdu/core/pantry"
	"kirdu/core/plan"
)

// Thresholds of what splits, thins and greases milk. Source: the watchpoint
// table.
const (
	splitNote, splitWarning, splitStop = 6.4, 6.2, 5.9 // pH with protection
	pulseSoft                          = 1.2           // doneness
	pulseAcid                          = 5.9           // pH
	rawTissueDone                      = 0.6
	thinMilkFat                        = 2.0  // per cent
	greasyFat                          = 15.0 // per cent of the pudding
	sodaWarning, sodaStop              = 0.6, 1.5
	SodaDown                           = 0.5 // g per litre
)

// pulseAcidEarly: in acid pulses stop softening.
func pulseAcidEarly(p *plan.Plan, f *forecast.Forecast) []forecast.Finding {
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
			if !inPot || !f.Parts[name].AcidHardens || done >= pulseSoft {
				continue
			}
			return []forecast.Finding{{
				Rule: "pulse-acid-early", Severity: forecast.Stop, Step: i,
				Message:  fmt.Sprintf("It turns acid (pH %.1f) while %s is at %.2f: in acid pulses stop softening, however long they cook.", *now.PH, p.PartName(name), done),
				Evidence: evidence("doneness", done, "threshold", pulseSoft),
				Fix:      "Put the acid sweetener in when the pulse is soft.",
			}}
		}
	}
	return nil
}

// acidSplit: fresh milk curdles in acid near the boil.
func acidSplit(p *plan.Plan, f *forecast.Forecast) []forecast.Finding {
	worst, least := f.LeastSplitPH()
	if worst < 0 || least >= splitNote {
		return nil
	}
	one := forecast.Finding{
		Rule: "acid-split", Severity: forecast.Note, Step: acidifier(p, f, worst),
		Message:  fmt.Sprintf("Near the boil the milk counts as pH %.2f: below 6.4 it may split.", least),
		Evidence: evidence("ph", least, "threshold", splitNote),
		Fix:      "Put what is acid in off the heat, bind it with starch first, or add a small pinch of baking soda.",
	}
	switch {
	case least < splitStop:
		one.Severity = forecast.Stop
		one.Message = fmt.Sprintf("Near the boil the milk counts as pH %.2f: it splits.", least)
		one.Evidence = evidence("ph", least, "threshold", splitStop)
	case least < splitWarning:
		one.Severity = forecast.Warning
		one.Message = fmt.Sprintf("Near the boil the milk counts as pH %.2f: it is likely to split.", least)
		one.Evidence = evidence("ph", least, "threshold", splitWarning)
	}
	return []forecast.Finding{one}
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

// rawVegetableInMilk: raw juice splits milk more often than its pH says.
func rawVegetableInMilk(p *plan.Plan, f *forecast.Forecast) []forecast.Finding {
	for i, trace := range f.Trace {
		if trace.RawTissue >= rawTissueDone {
			continue
		}
		step := i
		for j := i; j >= 0; j-- {
			if p.Steps[j].Do == plan.Add && p.Steps[j].PotName() == p.Steps[i].PotName() && bringsTissue(p, j) {
				step = j
				break
			}
		}
		return []forecast.Finding{{
			Rule: "raw-vegetable-in-milk", Severity: forecast.Warning, Step: step,
			Message:  fmt.Sprintf("%s is still raw (%.2f) in hot milk of pH %.2f: its juice may split it.", p.PartName(trace.RawName), trace.RawTissue, trace.RawPH),
			Evidence: evidence("doneness", trace.RawTissue, "threshold", rawTissueDone),
			Fix:      "Fry it in fat until its juice is gone, before the milk; or add a small pinch of baking soda.",
		}}
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

// rawMilk: milk from the animal is boiled first.
func rawMilk(p *plan.Plan, f *forecast.Forecast) []forecast.Finding {
	for i := range p.Steps {
		if p.Steps[i].Do.IsPreparation() {
			continue
		}
		raw := false
		for _, a := range plan.Arrivals(p, i) {
			raw = raw || (a.Item.State == "raw" && a.Material.Kind == "dairy")
		}
		if !raw || boilsAfter(p, f, i, p.Steps[i].PotName()) {
			continue
		}
		return []forecast.Finding{{
			Rule: "raw-milk", Severity: forecast.Stop, Step: i,
			Message:  "Raw milk goes in and never comes to the boil: what is in it can make ill, small children above all.",
			Evidence: evidence("minutes_at_the_boil", 0, "threshold", 0),
			Fix:      "Bring it to the boil first. Local rules come before this.",
		}}
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
func thinMilk(p *plan.Plan, f *forecast.Forecast) []forecast.Finding {
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
	if milk == 0 || percent >= thinMilkFat {
		return nil
	}
	return []forecast.Finding{{
		Rule: "thin-milk", Severity: forecast.Note, Step: reduced,
		Message:  fmt.Sprintf("The milk has %.1f %% fat: reduced by itself it stays thin.", percent),
		Evidence: evidence("fat_pct", percent, "threshold", thinMilkFat),
		Fix:      "Take whole milk, or blend a little cream in.",
	}}
}

// greasy: so much fat swims.
func greasy(p *plan.Plan, f *forecast.Forecast) []forecast.Finding {
	if f.FatPct <= greasyFat {
		return nil
	}
	return []forecast.Finding{{
		Rule: "greasy", Severity: forecast.Note, Step: lastHeat(p),
		Message:  fmt.Sprintf("The pudding has %.0f %% fat: it coats the mouth and a film of it swims on top.", f.FatPct),
		Evidence: evidence("fat_pct", f.FatPct, "threshold", greasyFat),
		Fix:      "Take less fat, or thinner milk.",
	}}
}

// sodaTooMuch: it tastes of soap and browns.
func sodaTooMuch(p *plan.Plan, _ *forecast.Forecast) []forecast.Finding {
	step, grams := -1, 0.0
	for i := range p.Steps {
		for _, item := range p.Steps[i].Items {
			if m, mass, err := p.Weigh(item); err == nil && m.Slug == Soda {
				grams += float64(mass)
				step = i
			}
		}
	}
	perLitre := measure.Ratio(grams, plan.LiquidLitres(p))
	if step < 0 || perLitre <= sodaWarning {
		return nil
	}
	one := forecast.Finding{
		Rule: "soda-too-much", Severity: forecast.Warning, Step: step,
		Message:  fmt.Sprintf("There are %.2g g of baking soda in a litre: it tastes of soap and turns brown.", perLitre),
		Evidence: evidence("g_per_litre", perLitre, "threshold", sodaWarning),
		Fix:      fmt.Sprintf("Take %.2g g.", SodaDown*plan.LiquidLitres(p)),
	}
	if perLitre > sodaStop {
		one.Severity, one.Evidence = forecast.Stop, evidence("g_per_litre", perLitre, "threshold", sodaStop)
	}
	return []forecast.Finding{one}
}

// Soda is the material that lifts the pH.
const Soda = "baking-soda"
