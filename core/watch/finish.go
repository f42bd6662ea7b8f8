package watch

import (
	"fmt"

	"kirdu/core/forecast"
	"kirdu/core/pantry"
	"kirdu/core/plan"
)

// Thresholds. Source: the watchpoint table; the colours of caramel: the model,
// section 3.
const (
	aromaMost     = 5.0   // minutes at heat after it
	lightCaramelC = 172.0 // °C: light amber is 170
)

// aromaEarly: scent goes with the steam.
func aromaEarly(p *plan.Plan, f *forecast.Forecast) []forecast.Finding {
	var found []forecast.Finding
	for i := range p.Steps {
		if p.Steps[i].Do != plan.Add {
			continue
		}
		for _, item := range p.Steps[i].Items {
			m, ok := p.Pantry().Material(item.Material)
			if !ok || !Fleeting(m, item) {
				continue
			}
			minutes := heatAfter(p, f, i)
			if minutes <= aromaMost {
				continue
			}
			found = append(found, forecast.Finding{
				Rule: "aroma-early", Severity: forecast.Note, Step: i,
				Message:  fmt.Sprintf("%s is on the heat for %.0f minutes after it goes in: its scent goes with the steam.", m.ShortName(), minutes),
				Evidence: evidence("minutes", minutes, "threshold", aromaMost),
				Fix:      "Put it in at the end.",
			})
			break
		}
	}
	return found
}

// fleeting reports whether an aroma is lost over the flame: what is volatile,
// and what is ground.
func Fleeting(m *pantry.Material, item plan.Item) bool {
	if m.Behaviour != pantry.Aroma && !m.Has("volatile") {
		return false
	}
	return m.Has("volatile") || item.State == "ground" || (item.State == "" && m.UsualState == "ground")
}

// garnishBurn: each of a garnish has its own minutes in the fat.
func garnishBurn(p *plan.Plan, _ *forecast.Forecast) []forecast.Finding {
	var found []forecast.Finding
	for i := range p.Steps {
		if p.Steps[i].Do != plan.Fry {
			continue
		}
		for _, item := range p.Steps[i].Items {
			m, ok := p.Pantry().Material(item.Material)
			if !ok || m.Frying == nil {
				continue
			}
			minutes := p.Steps[i].FryMinutes(item)
			if minutes <= m.Frying.Burnt {
				continue
			}
			found = append(found, forecast.Finding{
				Rule: "garnish-burn", Severity: forecast.Warning, Step: i,
				Message:  fmt.Sprintf("%s fries %.1f minutes; it is burnt after %.1f.", m.ShortName(), float64(minutes), float64(m.Frying.Burnt)),
				Evidence: evidence("minutes", float64(minutes), "threshold", float64(m.Frying.Burnt)),
				Fix:      fmt.Sprintf("Fry it in turn in the same fat, %.1f minutes: %s.", float64(m.Frying.Done), m.Frying.Sign),
			})
			break
		}
	}
	return found
}

// carryOverCaramel: it browns on, off the flame.
func carryOverCaramel(_ *plan.Plan, f *forecast.Forecast) []forecast.Finding {
	for i, trace := range f.Trace {
		if trace.CaramelC <= lightCaramelC {
			continue
		}
		return []forecast.Finding{{
			Rule: "carry-over-caramel", Severity: forecast.Note, Step: i,
			Message:  fmt.Sprintf("The caramel comes off the flame at %.0f °C and browns on for a minute: it ends darker, and bitter.", trace.CaramelC),
			Evidence: evidence("temp_c", trace.CaramelC, "threshold", lightCaramelC),
			Fix:      "Take it off when it is light gold.",
		}}
	}
	return nil
}

// cautions are texts that go with a kind of work, each once. Source: the model,
// section 13.
func cautions(p *plan.Plan, f *forecast.Forecast) []forecast.Finding {
	var found []forecast.Finding
	once := map[string]bool{}
	note := func(rule string, step int, value, threshold float64, name, message string) {
		if once[rule] {
			return
		}
		once[rule] = true
		found = append(found, forecast.Finding{Rule: rule, Severity: forecast.Note, Step: step, Message: message,
			Evidence: evidence(name, value, "threshold", threshold), Fix: "What the maker and local rules say comes first."})
	}
	for i := range p.Steps {
		s := &p.Steps[i]
		switch s.Do {
		case plan.Pressure:
			note("pressure-cooker", i, f.Trace[i].PeakFill, 2.0/3, "fill", "Pressure: two-thirds full at most, half for pulses, the vent clear; open it only when there is no pressure left.")
		case plan.Caramel:
			note("hot-sugar", i, f.Trace[i].CaramelC, hotSugarC, "temp_c", "Hot sugar sticks and burns deep: children away, a bowl of cold water beside you, and stand back when liquid goes in.")
		case plan.Fry:
			note("hot-fat", i, float64(s.FullMinutes()), 0, "minutes", "Hot fat: dry what goes in, children away, never water on it; a lid puts a flame out.")
		case plan.Roast:
			if s.Fat != nil {
				note("hot-fat", i, float64(s.FullMinutes()), 0, "minutes", "Hot fat: dry what goes in, children away, never water on it; a lid puts a flame out.")
			}
		case plan.Heat:
			if p.BurnerOf(s.PotName()).Kind == "wood" {
				note("wood-fire", i, float64(f.Time.FlameMin.Value), 0, "minutes", "Wood fire: smoke and carbon monoxide; cook outside or under a flue, never in a closed room.")
			}
			if t := f.Steps[i].TempC; t != nil && *t > hotSugarC && f.Steps[i].Brix != nil && *f.Steps[i].Brix > syrupBrix {
				note("hot-sugar", i, *t, hotSugarC, "temp_c", "Hot syrup sticks and burns deep: children away, a bowl of cold water beside you.")
			}
		}
	}
	return found
}

// From where on syrup burns worse than steam. Source: the model, section 13.
const (
	hotSugarC = 105.0
	syrupBrix = 60.0
)
