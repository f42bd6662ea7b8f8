package words

import (
	"math"
	"strings"

	"kirdu/core/forecast"
	"kirdu/core/measure"
	"kirdu/core/mend"
	"kirdu/core/plan"
	"kirdu/core/pot"
	"kirdu/core/watch"
)

// A Finding is a watchpoint as it is said, and as the forecast document holds it.
type Finding struct {
	Rule     watch.ID           `json:"rule"`
	Severity forecast.Severity  `json:"severity"`
	Step     int                `json:"step"`
	Message  string             `json:"message"`
	Evidence map[string]float64 `json:"evidence"`
	Fix      string             `json:"fix"`
	Edit     []mend.Operation   `json:"edit"` // JSON Patch (RFC 6902) on the plan; null for advice in words
}

// Findings says what was found in a plan and its forecast.
func (w Printer) Findings(p *plan.Plan, found []mend.Found) []Finding {
	said := make([]Finding, len(found))
	for i, one := range found {
		said[i] = w.Finding(p, one.Finding)
		said[i].Edit = one.Edit
	}
	return said
}

// Finding says one finding.
func (w Printer) Finding(p *plan.Plan, f watch.Finding) Finding {
	const digits = 6
	message, fix := w.finding(p, f)
	return Finding{Rule: f.Rule, Severity: f.Severity, Step: f.Step, Message: message, Fix: fix,
		Evidence: map[string]float64{f.Name: measure.RoundSignificant(f.Value, digits), f.Against: measure.RoundSignificant(f.Limit, digits)}}
}

// What a fix aims at, a little on the safe side of the limit of its rule.
const (
	eggStop measure.Celsius = 78
	eggWarm measure.Celsius = 76
)

// finding returns what is seen and what would help.
func (w Printer) finding(p *plan.Plan, f watch.Finding) (message, fix string) {
	key := string(f.Rule)
	say := func(key string, things ...any) string { return w.text(key, things...) }
	part, celsius := p.PartName(f.Part), w.Celsius(measure.Celsius(f.Value))
	limit := w.Celsius(measure.Celsius(f.Limit))
	switch f.Rule {
	case "sweet-before-soft":
		which := key
		if f.Never {
			which += ".never"
		}
		return say(which, part, pot.DonenessWord(f.Done), w.Number(f.Done, 2), w.Number(f.Value, 0)), say(key + ".fix")
	case "pulse-acid-early":
		return say(key, w.Number(f.PH, 1), part, w.Number(f.Value, 2)), say(key + ".fix")
	case "thick-coconut-boiled":
		return say(key, celsius), say(key + ".fix")
	case "acid-split":
		return say(key+"."+string(f.Severity), w.Number(f.Value, 2), w.Number(f.Limit, 1)), say(key + ".fix")
	case "raw-vegetable-in-milk":
		return say(key, part, w.Number(f.Value, 2), w.Number(f.PH, 2)), say(key + ".fix")
	case "egg-scrambled":
		return say(key, celsius, limit), say(key+".fix", w.Celsius(eggStop))
	case "egg-underdone":
		return say(key, celsius, limit), say(key+".fix", w.Celsius(eggWarm))
	case "yogurt-hot":
		return say(key, celsius), say(key+".fix", limit)
	case "boil-over":
		return say(key, w.Percent(100*f.Value, 0), w.Percent(100*(1-watch.FoamRoom.Value), 0)), w.room(f)
	case "too-full":
		if f.Filled > 0 {
			holds := p.Pots[p.Steps[f.Step].PotName()].Capacity()
			return say("too-full.all", w.Number(float64(holds)/mlPerLitre, 1), w.Number(float64(f.Filled)/mlPerLitre, 1)), w.room(f)
		}
		return say(key, w.Percent(100*f.Value, 0)), w.room(f)
	case "cooker-too-full":
		return say(key, w.Percent(100*f.Value, 0), w.Percent(100*f.Limit, 0)), say(key + ".fix")
	case "scorch":
		return say(key, w.Number(f.Value, 1)), say(key + ".fix")
	case "boiled-dry":
		if f.Cooker {
			key += ".cooker"
		}
		return say(key), say(key + ".fix")
	case "starch-lumps":
		key += ".dry"
		if f.Prepared {
			key = "starch-lumps.slurry"
		}
		return say(key, part, celsius), say(key + ".fix")
	case "gritty-meal":
		return say(key, part, celsius), say(key + ".fix")
	case "pearls-clump":
		return say(key, w.Percent(f.Value, 0), w.Percent(f.Limit, 0)), say(key + ".fix")
	case "pearls-unsoaked":
		return say(key, part, w.Number(f.Value, 0), w.Number(f.Limit, 0)), say(key + ".fix")
	case "undercooked-grain":
		is, liked := pot.DonenessWord(f.Value), pot.DonenessWord(f.Limit)
		if is == liked {
			key += ".near"
		}
		return say(key, part, is, w.Number(f.Value, 2), liked, w.Number(f.Limit, 2)), say("undercooked-grain.fix")
	case "mushy-grain":
		return say(key, part, w.Number(f.Value, 2), w.Number(f.Limit, 2)), say(key + ".fix")
	case "never-reached":
		return say(key, w.target(p, &p.Steps[f.Step]), w.Number(f.Value, 0)), say(key + ".fix")
	case watch.TooThin, watch.TooThick:
		return say(key, w.Number(f.Value, 1), w.Number(f.Limit, 1)), say(key + ".fix")
	case "too-thick-cold":
		return say(key, w.Number(f.Value, 1), w.Number(f.Grade, 1)), say(key+".fix", w.Number(float64(f.Loosen), 0))
	case "thin-milk":
		return say(key, w.Percent(f.Value, 1)), say(key + ".fix")
	case "greasy":
		return say(key, w.Percent(f.Value, 0)), say(key + ".fix")
	case "soda-too-much":
		return say(key, w.significant(f.Value, 2)), say(key+".fix", w.significant(f.SodaGrams, 2))
	case "aroma-early":
		return say(key, shortPart(p, f.Part), w.Number(f.Value, 0)), say(key + ".fix")
	case "garnish-burn":
		sign := ""
		if m, ok := p.Pantry().Material(f.Part); ok && m.Frying != nil {
			sign = m.Frying.Sign
		}
		return say(key, shortPart(p, f.Part), w.Number(f.Value, 1), w.Number(f.Limit, 1)), say(key+".fix", w.Number(float64(f.FryFor), 1), sign)
	case "carry-over-caramel":
		return say(key, celsius), say(key + ".fix")
	case "heavy-pot", "scale-limit":
		return say(key, w.Number(f.Value/gPerKilo, 1), w.Number(f.Limit/gPerKilo, 1)), say(key + ".fix")
	case watch.WarmTooLong:
		return say(key, w.Number(f.Value, 0), w.degrees(watch.Cold), w.Celsius(watch.Hot)), say(key+".fix", w.Celsius(watch.Hot))
	case "cooling-slow":
		if f.Second {
			return say("cooling-slow.then", w.Number(f.Value, 0), w.degrees(watch.Cool), w.Celsius(watch.Cold)), say(key + ".fix")
		}
		return say("cooling-slow.first", w.Number(f.Value, 0), w.degrees(watch.Hot), w.Celsius(watch.Cool)), say(key + ".fix")
	case "allergens":
		if f.Severity == forecast.Stop {
			return say("allergens.stop", strings.Join(f.Names, " or ")), say("allergens.stop.fix")
		}
		return say(key, strings.Join(f.Names, ", ")), say(key + ".fix")
	case "choking":
		var names []string
		for _, slug := range f.Names {
			names = append(names, shortPart(p, slug))
		}
		return say(key, strings.Join(names, ", ")), say(key + ".fix")
	case "measure-conflict":
		d := f.Conflict
		message = say(key, part, d.Amount.Text, d.Also.Text, w.Number(float64(d.Amount.Mass), 0), w.Number(float64(d.Also.Mass), 0))
		if d.MeasureName != "" {
			return message, say("measure-conflict.cup.fix", d.MeasureName, w.Number(float64(d.MeasureML), 0), w.Number(float64(d.PresentML), 0))
		}
		return message, say(key + ".fix")
	case "hot-sugar":
		if f.Syrup {
			key += ".syrup"
		}
		return say(key), say("caution.fix")
	case "pressure-cooker", "hot-fat", "wood-fire":
		return say(key), say("caution.fix")
	}
	return say(key), say(key + ".fix")
}

const (
	mlPerLitre = 1000
	gPerKilo   = 1000
)

// room says how large a pot would do, to the tenth of a litre above.
func (w Printer) room(f watch.Finding) string {
	const tenths = 10
	return w.text("room.fix", w.Number(math.Ceil(float64(f.Need)/mlPerLitre*tenths)/tenths, 1))
}

// shortPart names a material as cooks do.
func shortPart(p *plan.Plan, slug string) string {
	if m, ok := p.Pantry().Material(slug); ok {
		return m.ShortName()
	}
	return slug
}

// target names what a step was waiting for.
func (w Printer) target(p *plan.Plan, s *plan.Step) string {
	u := s.Until
	switch {
	case s.Do == plan.Cool:
		return w.text("target.cool", w.Celsius(*s.ToC))
	case s.Do == plan.Pressure:
		return w.text("target.pressure")
	case u == nil:
		return w.text("target")
	case u.Browning != "":
		return w.text("target.caramel", string(u.Browning))
	case u.Boil:
		return w.text("target.boil")
	case u.RemainingPct != nil:
		return w.text("target.reduced", w.significant(*u.RemainingPct, 4))
	case u.MassG != nil:
		return w.text("target.mark", w.Number(float64(*u.MassG), 0))
	case u.Doneness != nil:
		return w.text("target.doneness", w.significant(u.Doneness.At, 2), u.Doneness.Of)
	case u.Thickness != nil:
		return w.text("target.thickness", pot.ThicknessWord(*u.Thickness), w.significant(*u.Thickness, 2))
	case u.TempC != nil:
		return w.text("target.cool", w.Celsius(*u.TempC))
	}
	return w.text("target")
}

// A Document is a forecast as it is printed: figures, and what is to be said of
// them.
type Document struct {
	Format      string                   `json:"format"`
	Steps       []forecast.StepResult    `json:"steps"`
	Curve       forecast.Curve           `json:"curve"`
	Marks       []forecast.Mark          `json:"marks"`
	Yield       forecast.Yield           `json:"yield"`
	Sweetness   forecast.Sweetness       `json:"sweetness"`
	Thickness   forecast.Thickness       `json:"thickness"`
	Doneness    map[string]measure.Range `json:"doneness"`
	Time        forecast.Time            `json:"time"`
	FatPct      float64                  `json:"fat_pct"`
	SolidsPct   float64                  `json:"solids_pct"`
	Nutrition   forecast.Nutrition       `json:"nutrition"`
	Allergens   []string                 `json:"allergens"`
	Findings    []Finding                `json:"findings"`
	MassBalance forecast.MassBalance     `json:"mass_balance"`
}

// Document returns the document of a forecast.
func (w Printer) Document(p *plan.Plan, f *forecast.Forecast, found []mend.Found) Document {
	return Document{f.Format, f.Steps, f.Curve, f.Marks, f.Yield, f.Sweetness, f.Thickness, f.Doneness, f.Time, f.FatPct, f.SolidsPct,
		f.Nutrition, f.Allergens, w.Findings(p, found), f.MassBalance}
}
