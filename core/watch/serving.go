package watch

import (
	"fmt"
	"math"
	"slices"

	"kirdu/core/forecast"
	"kirdu/core/measure"
	"kirdu/core/numeric"
	"kirdu/core/pantry"
	"kirdu/core/plan"
)

// Temperatures of standing and cooling, as the forecast has them.
const (
	Hot  = forecast.SafeHot
	Cool = forecast.Lukewarm
	Cold = forecast.SafeCold
)

// How long it may stand between cold and hot, and how long it may take from 60 to
// 21 °C and from 21 to 5.
var (
	standing  = Limit{forecast.Stop, float64(forecast.MostWarm), "min", hygiene}
	coolNote  = Limit{forecast.Note, float64(forecast.MostWarm), "min", hygiene}
	chillNote = Limit{forecast.Note, float64(forecast.MostChills), "min", hygiene}
	coolLong  = Limit{forecast.Warning, 240, "min", hygiene}
	chillLong = Limit{forecast.Warning, 480, "min", hygiene}
)

// warmTooLong: between 5 and 60 °C what spoils milk grows.
func warmTooLong(p *plan.Plan, f *forecast.Forecast) []Finding {
	sum, longest, where := 0.0, 0.0, -1
	for i := range p.Steps {
		if f.Steps[i].Pot == nil || *f.Steps[i].Pot != p.Served()[0] || !stands(&p.Steps[i]) {
			continue
		}
		minutes := minutesBetween(f, f.Steps[i].StartMin, f.Steps[i].EndMin, float64(Cold), float64(Hot))
		sum += minutes
		if minutes > longest {
			longest, where = minutes, i
		}
	}
	if sum <= standing.Value {
		return nil
	}
	return one(standing.speaks(where, "minutes", sum))
}

// stands reports whether a step leaves the pudding to itself, neither heated nor
// actively cooled.
func stands(s *plan.Step) bool {
	return s.Do == plan.Rest || s.Do == plan.Hold || (s.Do == plan.Heat && !s.Burns())
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
func coolingSlow(p *plan.Plan, f *forecast.Forecast) []Finding {
	step := slices.IndexFunc(p.Steps, func(s plan.Step) bool { return s.Do == plan.Chill || s.Do == plan.Cool })
	if step < 0 {
		return nil
	}
	hot, cool, cold := float64(Hot), float64(Cool), float64(Cold)
	at60, at21, at5 := math.NaN(), math.NaN(), math.NaN()
	for k := 1; k < len(f.Curve.Minute); k++ {
		was, is, minute := f.Curve.TempC[k-1], f.Curve.TempC[k], f.Curve.Minute[k]
		switch {
		case was >= hot && is < hot:
			at60, at21, at5 = minute, math.NaN(), math.NaN()
		case was >= cool && is < cool:
			at21 = minute
		case was >= cold && is < cold && math.IsNaN(at5):
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
	var found Finding
	switch {
	case first > coolNote.Value:
		found = coolNote.speaks(step, "minutes_60_to_21", first)
	case second > chillNote.Value:
		found = chillNote.speaks(step, "minutes_21_to_5", second).with(Detail{Second: true})
	default:
		return nil
	}
	if first > coolLong.Value || second > chillLong.Value {
		found.Severity = coolLong.Severity
	}
	return one(found)
}

// allergensIn names what those who eat must know.
func allergensIn(p *plan.Plan, f *forecast.Forecast) []Finding {
	if p.Eaters == nil || len(f.Allergens) == 0 {
		return nil
	}
	var bad []string
	for _, allergen := range f.Allergens {
		if slices.Contains(p.Eaters.AllergicTo, allergen) {
			bad = append(bad, allergen)
		}
	}
	found := Limit{Severity: forecast.Note}.speaks(0, "allergens", float64(len(f.Allergens))).with(Detail{Names: f.Allergens})
	if len(bad) > 0 {
		found = Limit{Severity: forecast.Stop}.speaks(0, "allergens", float64(len(bad))).with(Detail{Names: bad})
	}
	return one(found)
}

// choking: whole nuts and raisins choke small children.
func choking(p *plan.Plan, _ *forecast.Forecast) []Finding {
	if p.Eaters == nil || !p.Eaters.UnderFive {
		return nil
	}
	var names []string
	step := -1
	for i := range p.Steps {
		for _, item := range p.Steps[i].Items {
			if m, ok := p.Pantry().Material(item.Material); ok && IsWholePiece(m, item) {
				names = append(names, m.Slug)
				if step < 0 {
					step = i
				}
			}
		}
	}
	if step < 0 {
		return nil
	}
	return one(Limit{Severity: forecast.Warning}.speaks(step, "whole_pieces", float64(len(names))).with(Detail{Names: names}))
}

// IsWholePiece reports whether an item is a whole nut or raisin.
func IsWholePiece(m *pantry.Material, item plan.Item) bool {
	return m.Has("choking") && (item.State == pantry.Whole || (item.State == "" && m.UsualState == pantry.Whole))
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
	found, _ := numeric.Halve(numeric.Bracket{High: f.Yield.MassG.Value}, halvings, func(x float64) bool { return chilledWith(x) > grade })
	return measure.Weighable(measure.Gram(found.High))
}
