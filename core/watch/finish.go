package watch

import (
	"kirdu/core/forecast"
	"kirdu/core/pantry"
	"kirdu/core/plan"
)

// What is done at the end, and measures that do not agree.
var (
	scentGoes     = Limit{forecast.Note, 5.0, "min", table}
	lightCaramel  = Limit{forecast.Note, 168.0, "°C", "the model, section 3: light amber is 165, amber 172"}
	hotSugar      = Limit{forecast.Note, 105.0, "°C", "the model, section 13"}
	measuresApart = Limit{forecast.Warning, plan.MeasuresApart, "%", table}
)

// aromaEarly: scent goes with the steam.
func aromaEarly(p *plan.Plan, f *forecast.Forecast) []Finding {
	var found []Finding
	for i := range p.Steps {
		if p.Steps[i].Do != plan.Add {
			continue
		}
		for _, item := range p.Steps[i].Items {
			m, ok := p.Pantry().Material(item.Material)
			if !ok || !Fleeting(m, item) {
				continue
			}
			if minutes := heatAfter(p, f, i); minutes > scentGoes.Value {
				found = append(found, scentGoes.speaks(i, "minutes", minutes).about(m.Slug))
				break
			}
		}
	}
	return found
}

// Fleeting reports whether an aroma is lost over the flame: what is volatile,
// and what is ground.
func Fleeting(m *pantry.Material, item plan.Item) bool {
	if m.Behaviour != pantry.Aroma && !m.Has("volatile") {
		return false
	}
	return m.Has("volatile") || item.State == pantry.Ground || (item.State == "" && m.UsualState == pantry.Ground)
}

// garnishBurn: each of a garnish has its own minutes in the fat.
func garnishBurn(p *plan.Plan, _ *forecast.Forecast) []Finding {
	var found []Finding
	for i := range p.Steps {
		if p.Steps[i].Do != plan.Fry {
			continue
		}
		for _, item := range p.Steps[i].Items {
			m, ok := p.Pantry().Material(p.Of(item))
			if !ok || m.Frying == nil {
				continue
			}
			limit := Limit{forecast.Warning, float64(m.Frying.Burnt), "min", "garnish.csv"}
			if minutes := float64(p.Steps[i].FryMinutes(item)); minutes > limit.Value {
				found = append(found, limit.speaks(i, "minutes", minutes).about(m.Slug).with(Detail{FryFor: m.Frying.Done}))
				break
			}
		}
	}
	return found
}

// carryOverCaramel: it browns on, off the flame.
func carryOverCaramel(_ *plan.Plan, f *forecast.Forecast) []Finding {
	for i, trace := range f.Trace {
		if trace.CaramelC > lightCaramel.Value {
			return one(lightCaramel.speaks(i, "temp_c", trace.CaramelC))
		}
	}
	return nil
}

// measureConflict: a recipe's cup and its grams cannot both be right.
func measureConflict(p *plan.Plan, _ *forecast.Forecast) []Finding {
	var found []Finding
	for _, d := range p.Disagreements() {
		low, high := min(d.Amount.Mass, d.Also.Mass), max(d.Amount.Mass, d.Also.Mass)
		found = append(found, measuresApart.speaks(d.Step, "apart_pct", 100*float64((high-low)/high)).
			about(p.Steps[d.Step].Items[d.Item].Material).with(Detail{Conflict: &d}))
	}
	return found
}

// pressureCooker, woodFire, hotSugarThere and hotFat are cautions that go with a
// kind of work, each said once. Source: the model, section 13.
func pressureCooker(p *plan.Plan, f *forecast.Forecast) []Finding {
	for i := range p.Steps {
		if p.Steps[i].Do == plan.Pressure {
			caution := CookerRoom
			caution.Severity = forecast.Note
			return one(caution.speaks(i, "fill", f.Trace[i].PeakFill))
		}
	}
	return nil
}

func woodFire(p *plan.Plan, f *forecast.Forecast) []Finding {
	for i := range p.Steps {
		if s := &p.Steps[i]; s.Do == plan.Heat && p.BurnerOf(s.PotName()).Kind == "wood" {
			return one(Limit{Severity: forecast.Note}.speaks(i, "minutes", f.Time.FlameMin.Value))
		}
	}
	return nil
}

// syrupBrix is from where on hot sugar is a syrup that sticks. Source: the model,
// section 13.
const syrupBrix = 60.0

func hotSugarThere(p *plan.Plan, f *forecast.Forecast) []Finding {
	for i := range p.Steps {
		t, brix := f.Steps[i].TempC, f.Steps[i].Brix
		switch {
		case p.Steps[i].Do == plan.Caramel:
			return one(hotSugar.speaks(i, "temp_c", f.Trace[i].CaramelC))
		case p.Steps[i].Do == plan.Heat && t != nil && *t > hotSugar.Value && brix != nil && *brix > syrupBrix:
			return one(hotSugar.speaks(i, "temp_c", *t).with(Detail{Syrup: true}))
		}
	}
	return nil
}

func hotFat(p *plan.Plan, _ *forecast.Forecast) []Finding {
	for i := range p.Steps {
		if s := &p.Steps[i]; s.Do == plan.Fry || s.Do == plan.Roast && s.Fat != nil {
			return one(Limit{Severity: forecast.Note}.speaks(i, "minutes", float64(s.FullMinutes())))
		}
	}
	return nil
}
