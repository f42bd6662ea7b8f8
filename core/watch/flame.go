package watch

import (
	"fmt"
	"math"
	"slices"

	"kirdu/core/forecast"
	"kirdu/core/pantry"
	"kirdu/core/plan"
	"kirdu/core/pot"
)

// Thresholds. Source: the watchpoint table.
const (
	sweetRise    = 4.0 // Brix that an addition of sugar brings
	softEnough   = 0.9 // doneness
	delayMinutes = 3.0
	belowBoil    = 4.0
	YogurtLimit  = 35.0 // °C
	scorchLimit  = 1.0
	heavyGrams   = 8000.0
)

// before returns the result of the latest step of the same pot, nil for the
// first.
func before(f *forecast.Forecast, i int) *forecast.StepResult {
	for j := i - 1; j >= 0; j-- {
		if f.Steps[j].Pot != nil && f.Steps[i].Pot != nil && *f.Steps[j].Pot == *f.Steps[i].Pot {
			return &f.Steps[j]
		}
	}
	return nil
}

// brings reports whether a step puts something in that fits.
func brings(p *plan.Plan, i int, fits func(*pantry.Material) bool) bool {
	if p.Steps[i].Do != plan.Add {
		return false
	}
	return slices.ContainsFunc(p.Steps[i].Items, func(item plan.Item) bool {
		m, ok := p.Pantry().Material(item.Material)
		return ok && fits(m)
	})
}

// sweetBeforeSoft: sugar ties up the water that the grain wants.
func sweetBeforeSoft(p *plan.Plan, f *forecast.Forecast) []forecast.Finding {
	var found []forecast.Finding
	for i := range p.Steps {
		if !p.Sweetens(i) {
			continue
		}
		rise := *f.Steps[i].Brix
		if was := before(f, i); was != nil {
			rise -= *was.Brix
		}
		name, least := "", softEnough
		for part, done := range f.Steps[i].Doneness {
			if done < least || (done == least && part < name) {
				name, least = part, done
			}
		}
		if rise < sweetRise || name == "" {
			continue
		}
		delay := sugarDelay(p, f, i, name)
		if delay < delayMinutes {
			continue
		}
		words := fmt.Sprintf("so it takes %.0f minutes longer to soften", delay)
		if math.IsInf(delay, 1) {
			words = "so it does not get done at all"
			delay = f.Time.TotalMin.Value
		}
		found = append(found, forecast.Finding{
			Rule: "sweet-before-soft", Severity: forecast.Warning, Step: i,
			Message:  fmt.Sprintf("The sugar goes in while %s is %s (%.2f): it ties up water, %s.", p.PartName(name), pot.DonenessWord(least), least, words),
			Evidence: evidence("delay_min", delay, "threshold", delayMinutes),
			Fix:      "Sweeten when the grain is soft. If you like it firm, leave it so: it is your choice, and costs only time.",
		})
	}
	return found
}

// sugarDelay returns how much later a part is done because of the sugar of a
// step, +Inf if it never is but would be without.
func sugarDelay(p *plan.Plan, f *forecast.Forecast, step int, part string) float64 {
	plain := forecast.Run(p.Unsweetened(step), forecast.Options{CourseOnly: true}).DoneAt(part, 1)
	with := f.DoneAt(part, 1)
	switch {
	case math.IsInf(plain, 1):
		return 0
	default:
		return with - plain
	}
}

// thickCoconutBoiled: a first press splits at the boil.
func thickCoconutBoiled(p *plan.Plan, f *forecast.Forecast) []forecast.Finding {
	for i := range p.Steps {
		if !brings(p, i, (*pantry.Material).IsFirstPress) {
			continue
		}
		for j := i + 1; j < len(p.Steps); j++ {
			s := &p.Steps[j]
			if s.Do != plan.Heat || s.PotName() != p.Steps[i].PotName() || s.FlamePercent() == 0 || f.Steps[j].EndMin-f.Steps[j].StartMin < 1 {
				continue
			}
			boiling := float64(pot.BoilingPoint(p.Kitchen.AltitudeM, *f.Steps[j].Brix))
			if t := *f.Steps[j].TempC; t >= boiling-belowBoil {
				return []forecast.Finding{{
					Rule: "thick-coconut-boiled", Severity: forecast.Warning, Step: i,
					Message:  fmt.Sprintf("The thick coconut milk comes to %.0f °C afterwards: its fat parts from it and swims on top.", t),
					Evidence: evidence("temp_c", t, "threshold", boiling-belowBoil),
					Fix:      "Put it in last, slowly and off the heat, and do not let it boil after.",
				}}
			}
		}
	}
	return nil
}

// yogurtHot: culture weeps in the heat.
func yogurtHot(p *plan.Plan, f *forecast.Forecast) []forecast.Finding {
	for i := range p.Steps {
		was := before(f, i)
		if was == nil || !brings(p, i, func(m *pantry.Material) bool { return m.Has("cultured") }) || *was.TempC <= YogurtLimit {
			continue
		}
		return []forecast.Finding{{
			Rule: "yogurt-hot", Severity: forecast.Warning, Step: i,
			Message:  fmt.Sprintf("Yogurt goes in at %.0f °C: it curdles and weeps.", *was.TempC),
			Evidence: evidence("temp_c", *was.TempC, "threshold", YogurtLimit),
			Fix:      "Let the pot cool below 35 °C first.",
		}}
	}
	return nil
}

// lidOnMilk: under a lid dairy climbs.
func lidOnMilk(p *plan.Plan, f *forecast.Forecast) []forecast.Finding {
	for i := range p.Steps {
		if s := &p.Steps[i]; s.Do == plan.Heat && s.Lidded() && f.Trace[i].PeakBoilFill > 0 {
			return []forecast.Finding{{
				Rule: "lid-on-milk", Severity: forecast.Warning, Step: i,
				Message:  "Milk boils under a lid: it rises unseen and runs over.",
				Evidence: evidence("fill", f.Trace[i].PeakBoilFill, "threshold", 0),
				Fix:      "Take the lid off, or keep the flame so low that it does not boil.",
			}}
		}
	}
	return nil
}

// scorch: too much heat for so thick a pot so seldom stirred.
func scorch(p *plan.Plan, f *forecast.Forecast) []forecast.Finding {
	worst, most := f.MostScorch()
	if most <= scorchLimit {
		return nil
	}
	return []forecast.Finding{{
		Rule: "scorch", Severity: forecast.Warning, Step: worst,
		Message:  fmt.Sprintf("The bottom catches: the heat is %.1f times what so thick a pudding stands at this stirring.", most),
		Evidence: evidence("scorch", most, "threshold", scorchLimit),
		Fix:      "Stir more often, or turn the flame down towards the end.",
	}}
}

// measureConflict: a recipe's cup and its grams cannot both be right.
func measureConflict(p *plan.Plan, _ *forecast.Forecast) []forecast.Finding {
	var found []forecast.Finding
	for _, d := range p.Disagreements() {
		fix := "Decide which of the two to trust, at the item."
		if d.MeasureName != "" {
			fix = fmt.Sprintf("They would agree with a %s of %.0f ml; here it counts as %.0f ml. Decide which to trust, at the item.", d.MeasureName, float64(d.MeasureML), float64(d.PresentML))
		}
		low, high := min(d.Amount.Mass, d.Also.Mass), max(d.Amount.Mass, d.Also.Mass)
		found = append(found, forecast.Finding{
			Rule: "measure-conflict", Severity: forecast.Warning, Step: d.Step,
			Message:  fmt.Sprintf("%s is given as %s and as %s, %.0f g and %.0f g.", p.PartName(p.Steps[d.Step].Items[d.Item].Material), d.Amount.Text, d.Also.Text, float64(d.Amount.Mass), float64(d.Also.Mass)),
			Evidence: evidence("apart_pct", 100*float64((high-low)/high), "threshold", 20),
			Fix:      fix,
		})
	}
	return found
}

// loaded returns the heaviest that a pot gets with what is in it, and where.
func loaded(p *plan.Plan, f *forecast.Forecast) (step int, grams float64) {
	for i := range f.Steps {
		if f.Steps[i].MassG == nil || f.Steps[i].Pot == nil {
			continue
		}
		empty, _ := p.Pots[*f.Steps[i].Pot].Mass()
		if total := *f.Steps[i].MassG + float64(empty); total > grams {
			step, grams = i, total
		}
	}
	return step, grams
}

func heavyPot(p *plan.Plan, f *forecast.Forecast) []forecast.Finding {
	step, grams := loaded(p, f)
	if grams <= heavyGrams {
		return nil
	}
	return []forecast.Finding{{
		Rule: "heavy-pot", Severity: forecast.Note, Step: step,
		Message:  fmt.Sprintf("The pot weighs %.1f kg with what is in it.", grams/1000),
		Evidence: evidence("mass_g", grams, "threshold", heavyGrams),
		Fix:      "Carry it with two people, or ladle it out where it stands. Children away.",
	}}
}

func scaleLimit(p *plan.Plan, f *forecast.Forecast) []forecast.Finding {
	step, grams := loaded(p, f)
	if limit := float64(p.Kitchen.ScaleLimitG); grams > limit {
		return []forecast.Finding{{
			Rule: "scale-limit", Severity: forecast.Note, Step: step,
			Message:  fmt.Sprintf("Pot and pudding weigh %.1f kg; the scale goes to %.1f kg.", grams/1000, limit/1000),
			Evidence: evidence("mass_g", grams, "threshold", limit),
			Fix:      "Read the dip gauge instead.",
		}}
	}
	return nil
}
