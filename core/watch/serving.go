package watch

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"kirdu/core/forecast"
	"kirdu/core/measure"
	"kirdu/core/pantry"
	"kirdu/core/plan"
)

// Thresholds of standing and cooling, in °C and minutes. Source: the watchpoint
// table; general kitchen hygiene, local rules come first.
const (
	hotEnoughC, coolC, coldC = 60.0, 21.0, 5.0
	standMost                = 120.0
	firstNote, secondNote    = 120.0, 240.0 // from 60 to 21, from 21 to 5
	firstWarn, secondWarn    = 240.0, 480.0
)

// warmTooLong: between 5 and 60 °C what spoils milk grows.
func WarmTooLong(p *plan.Plan, f *forecast.Forecast) []forecast.Finding {
	sum, longest, where := 0.0, 0.0, -1
	for i := range p.Steps {
		if f.Steps[i].Pot == nil || *f.Steps[i].Pot != p.Served()[0] || !stands(&p.Steps[i]) {
			continue
		}
		minutes := minutesBetween(f, f.Steps[i].StartMin, f.Steps[i].EndMin, coldC, hotEnoughC)
		sum += minutes
		if minutes > longest {
			longest, where = minutes, i
		}
	}
	if sum <= standMost {
		return nil
	}
	return []forecast.Finding{{
		Rule: "warm-too-long", Severity: forecast.Stop, Step: where,
		Message:  fmt.Sprintf("It stands %.0f minutes between 5 and 60 °C: after two hours it is thrown away.", sum),
		Evidence: evidence("minutes", sum, "threshold", standMost),
		Fix:      "Keep it hot above 60 °C, or chill it within two hours. Local rules come first.",
	}}
}

// stands reports whether a step leaves the pudding to itself, neither heated nor
// actively cooled.
func stands(s *plan.Step) bool {
	return s.Do == plan.Rest || s.Do == plan.Hold || (s.Do == plan.Heat && s.FlamePercent() == 0)
}

// minutesBetween returns how long the served pot is between two temperatures
// in a span of time.
func minutesBetween(f *forecast.Forecast, from, to, low, high float64) float64 {
	sum := 0.0
	for k := 1; k < len(f.Curve.Minute); k++ {
		a, b := f.Curve.Minute[k-1], f.Curve.Minute[k]
		middle := (f.Curve.TempC[k-1] + f.Curve.TempC[k]) / 2
		if middle > low && middle < high {
			sum += max(0, min(b, to)-max(a, from))
		}
	}
	return sum
}

// coolingSlow: cooled actively, and shallow.
func coolingSlow(p *plan.Plan, f *forecast.Forecast) []forecast.Finding {
	step := slices.IndexFunc(p.Steps, func(s plan.Step) bool { return s.Do == plan.Chill || s.Do == plan.Cool })
	if step < 0 {
		return nil
	}
	at60, at21, at5 := math.NaN(), math.NaN(), math.NaN()
	for k := 1; k < len(f.Curve.Minute); k++ {
		was, is, minute := f.Curve.TempC[k-1], f.Curve.TempC[k], f.Curve.Minute[k]
		switch {
		case was >= hotEnoughC && is < hotEnoughC:
			at60, at21, at5 = minute, math.NaN(), math.NaN()
		case was >= coolC && is < coolC:
			at21 = minute
		case was >= coldC && is < coldC && math.IsNaN(at5):
			at5 = minute
		}
	}
	if math.IsNaN(at21) {
		return nil // it is not cooled so far
	}
	first := at21 - at60
	if math.IsNaN(first) {
		first = 0
	}
	second := at5 - at21
	if math.IsNaN(second) {
		second = f.Curve.Minute[len(f.Curve.Minute)-1] - at21
	}
	one := forecast.Finding{
		Rule: "cooling-slow", Severity: forecast.Note, Step: step,
		Fix: "Stand the pot in cold water first, or spread it out shallow. Local rules come first.",
	}
	switch {
	case first > firstNote:
		one.Message = fmt.Sprintf("It takes %.0f minutes from 60 to 21 °C; two hours are the rule.", first)
		one.Evidence = evidence("minutes_60_to_21", first, "threshold", firstNote)
	case second > secondNote:
		one.Message = fmt.Sprintf("It takes %.0f minutes from 21 to 5 °C; four hours are the rule.", second)
		one.Evidence = evidence("minutes_21_to_5", second, "threshold", secondNote)
	default:
		return nil
	}
	if first > firstWarn || second > secondWarn {
		one.Severity = forecast.Warning
	}
	return []forecast.Finding{one}
}

// cookerTooFull: a cooker needs room for steam, and pulses for foam.
func cookerTooFull(p *plan.Plan, f *forecast.Forecast) []forecast.Finding {
	const most, mostPulses = 2.0 / 3, 0.5
	for i := range p.Steps {
		if p.Steps[i].Do != plan.Pressure {
			continue
		}
		limit := most
		for j := range i {
			if p.Steps[j].PotName() != p.Steps[i].PotName() || p.Steps[j].Do != plan.Add {
				continue
			}
			for _, a := range plan.Arrivals(p, j) {
				if a.Material.Kind == "pulse" {
					limit = mostPulses
				}
			}
		}
		fill := f.Trace[i].PeakFill
		if fill <= limit {
			continue
		}
		return []forecast.Finding{{
			Rule: "cooker-too-full", Severity: forecast.Stop, Step: i,
			Message:  fmt.Sprintf("The cooker is filled to %.0f %%; %.0f %% is the most for what is in it, or the vent is blocked.", 100*fill, 100*limit),
			Evidence: evidence("fill", fill, "threshold", limit),
			Fix:      "Cook two loads, or take a larger cooker. What its maker says comes first.",
		}}
	}
	return nil
}

// allergensIn names what those who eat must know.
func allergensIn(p *plan.Plan, f *forecast.Forecast) []forecast.Finding {
	if p.Eaters == nil || len(f.Allergens) == 0 {
		return nil
	}
	var bad []string
	for _, allergen := range f.Allergens {
		if slices.Contains(p.Eaters.AllergicTo, allergen) {
			bad = append(bad, allergen)
		}
	}
	one := forecast.Finding{
		Rule: "allergens", Severity: forecast.Note, Step: 0,
		Message:  "There is in it: " + strings.Join(f.Allergens, ", ") + ".",
		Evidence: evidence("allergens", float64(len(f.Allergens)), "threshold", 0),
		Fix:      "Ask who eats. The labels of what you bought come first.",
	}
	if len(bad) > 0 {
		one.Severity = forecast.Stop
		one.Message = "Someone who eats cannot have " + strings.Join(bad, " or ") + "; it is in there."
		one.Evidence = evidence("allergens", float64(len(bad)), "threshold", 0)
		one.Fix = "Swap what brings it, and cook with clean pots and spoons."
	}
	return []forecast.Finding{one}
}

// choking: whole nuts and raisins choke small children.
func choking(p *plan.Plan, _ *forecast.Forecast) []forecast.Finding {
	if p.Eaters == nil || !p.Eaters.UnderFive {
		return nil
	}
	var names []string
	step := -1
	for i := range p.Steps {
		for _, item := range p.Steps[i].Items {
			if m, ok := p.Pantry().Material(item.Material); ok && IsWholePiece(m, item) {
				names = append(names, m.ShortName())
				if step < 0 {
					step = i
				}
			}
		}
	}
	if step < 0 {
		return nil
	}
	return []forecast.Finding{{
		Rule: "choking", Severity: forecast.Warning, Step: step,
		Message:  fmt.Sprintf("Whole in it: %s. Children under five can choke on them.", strings.Join(names, ", ")),
		Evidence: evidence("whole_pieces", float64(len(names)), "threshold", 0),
		Fix:      "Chop them fine, or leave them out for the children.",
	}}
}

func IsWholePiece(m *pantry.Material, item plan.Item) bool {
	return m.Has("choking") && (item.State == "whole" || (item.State == "" && m.UsualState == "whole"))
}

// loosening returns the hot milk that brings the chilled grade down to one, in
// g: the same plan run with so much more stirred in at the end.
func loosening(p *plan.Plan, f *forecast.Forecast, grade float64) measure.Gram {
	chilledWith := func(grams float64) float64 {
		with := p.Clone()
		hot := measure.Celsius(80)
		with.Steps = append(with.Steps, plan.Step{Do: plan.Add, Pot: p.Served()[0], TempC: &hot,
			Items: []plan.Item{{Material: "milk-whole", Amount: fmt.Sprintf("%.2f g", grams)}}})
		after := forecast.Run(with, forecast.Options{NominalOnly: true})
		if after.Thickness.Chilled == nil {
			return 0
		}
		return after.Thickness.Chilled.Value
	}
	const halvings = 8
	_, high := measure.Halve(0, f.Yield.MassG.Value, halvings, func(x float64) bool { return chilledWith(x) > grade })
	return measure.Weighable(measure.Gram(high))
}
