package words

import (
	"math"
	"strings"

	"kirdu/core/forecast"
	"kirdu/core/measure"
	"kirdu/core/mend"
	"kirdu/core/plan"
	"kirdu/core/pot"
	"kirdu/core/vessel"
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

// A saying is a finding while it is put into words.
type saying struct {
	Printer
	watch.Finding
	p *plan.Plan
}

// say says a text by the end of its key behind the name of the rule.
func (s saying) say(end string, things ...any) string { return s.text(string(s.Rule)+end, things...) }

// fix says what would help.
func (s saying) fix(things ...any) string { return s.say(".fix", things...) }

// part names the part that is meant, celsius and limit are value and limit as
// temperatures.
func (s saying) part() string    { return s.p.PartName(s.Part) }
func (s saying) celsius() string { return s.Celsius(measure.Celsius(s.Value)) }
func (s saying) limit() string   { return s.Celsius(measure.Celsius(s.Limit)) }

// may is the end of the key of what only may be.
func (s saying) may() string {
	if s.May {
		return ".may"
	}
	return ""
}

// finding returns what is seen and what would help.
func (w Printer) finding(p *plan.Plan, f watch.Finding) (message, fix string) {
	s := saying{w, f, p}
	if how := sayings[f.Rule]; how != nil {
		return how(s)
	}
	return s.say(""), s.fix()
}

// sayings are the rules that say more than their name: the figures of each.
var sayings = map[watch.ID]func(s saying) (message, fix string){
	"sweet-before-soft": func(s saying) (message, fix string) {
		end := ""
		if s.Never && s.Severity != forecast.Note {
			end = ".never"
		}
		return s.say(end, s.part(), pot.DonenessWord(s.p.Texture(s.Part), s.Done), s.Number(s.Done, 2), s.Number(s.Value, 0)), s.fix()
	},
	"pulse-acid-early": func(s saying) (message, fix string) {
		end := ""
		if s.Severity == forecast.Note {
			end = ".note"
		}
		return s.say(end, s.Number(s.PH, 1), s.part(), s.Number(s.Value, 2)), s.fix()
	},
	"thick-coconut-boiled": func(s saying) (message, fix string) {
		return s.say("", s.celsius()), s.fix()
	},
	"acid-split": func(s saying) (message, fix string) {
		return s.say("."+string(s.Severity), s.Number(s.Value, 2), s.Number(s.Limit, 1)), s.fix()
	},
	"raw-vegetable-in-milk": func(s saying) (message, fix string) {
		return s.say("", s.part(), s.Number(s.Value, 2), s.Number(s.PH, 2)), s.fix()
	},
	"egg-scrambled": func(s saying) (message, fix string) {
		return s.say("", s.celsius(), s.limit()), s.fix(s.Celsius(mend.EggThickens))
	},
	"egg-underdone": func(s saying) (message, fix string) {
		return s.say("", s.celsius(), s.limit()), s.fix(s.Celsius(mend.EggSafe))
	},
	"yogurt-hot": func(s saying) (message, fix string) {
		return s.say("", s.celsius()), s.fix(s.limit())
	},
	"boil-over": func(s saying) (message, fix string) {
		return s.say("", s.Percent(100*s.Value, 0), s.Percent(100*(1-watch.FoamRoom.Value), 0)), s.room(s.Finding)
	},
	"too-full": func(s saying) (message, fix string) {
		if s.Filled > 0 {
			holds := s.p.Pots[s.p.Steps[s.Finding.Step].PotName()].Capacity()
			return s.say(".all", s.Number(float64(holds)/mlPerLitre, 1), s.Number(float64(s.Filled)/mlPerLitre, 1)), s.room(s.Finding)
		}
		return s.say("", s.Percent(100*s.Value, 0)), s.room(s.Finding)
	},
	"cooker-too-full": func(s saying) (message, fix string) {
		return s.say("", s.Percent(100*s.Value, 0), s.Percent(100*s.Limit, 0)), s.fix()
	},
	"scorch": func(s saying) (message, fix string) {
		return s.say("", s.Number(s.Value, 1)), s.fix()
	},
	"boiled-dry": func(s saying) (message, fix string) {
		end := ""
		if s.Cooker {
			end = ".cooker"
		}
		return s.say(end), s.say(end + ".fix")
	},
	"starch-lumps": func(s saying) (message, fix string) {
		end := ".dry"
		if s.Prepared {
			end = ".slurry"
		}
		return s.say(end, s.part(), s.celsius()), s.say(end + ".fix")
	},
	"gritty-meal": func(s saying) (message, fix string) {
		return s.say("", s.part(), s.celsius()), s.fix()
	},
	"pearls-clump": func(s saying) (message, fix string) {
		return s.say("", s.Percent(s.Value, 0), s.Percent(s.Limit, 0)), s.fix()
	},
	"pearls-unsoaked": func(s saying) (message, fix string) {
		return s.say("", s.part(), s.Number(s.Value, 0), s.Number(s.Limit, 0)), s.fix()
	},
	"weak-flame": func(s saying) (message, fix string) {
		step := &s.p.Steps[s.Finding.Step]
		burner := s.p.BurnerOf(step.PotName())
		most, _ := burner.Power(vessel.High, 0)
		if s.Limit >= float64(most) {
			return s.say("", s.celsius(), s.target(s.p, step)), s.say(".burner.fix", s.Number(s.Limit, 0))
		}
		return s.say("", s.celsius(), s.target(s.p, step)), s.fix(Capital(share(s.Limit/float64(most))), s.Number(s.Limit, 0))
	},
	"cools-no-further": func(s saying) (message, fix string) {
		return s.say("", s.celsius()), s.fix()
	},
	"undercooked-grain": func(s saying) (message, fix string) {
		end := ""
		is, liked := pot.DonenessWord(s.p.Texture(s.Part), s.Value), pot.DonenessWord(s.p.Texture(s.Part), s.Limit)
		switch {
		case s.May:
			end = ".may"
		case is == liked:
			end = ".near"
		}
		fix = s.fix()
		if s.Cold {
			fix = s.say(".cold.fix")
		}
		return s.say(end, s.part(), is, s.Number(s.Value, 2), liked, s.Number(s.Limit, 2)), fix
	},
	"mushy-grain": func(s saying) (message, fix string) {
		return s.say(s.may(), s.part(), s.Number(s.Value, 2), s.Number(s.Limit, 2)), s.fix()
	},
	"never-reached": func(s saying) (message, fix string) {
		return s.say("", s.target(s.p, &s.p.Steps[s.Finding.Step]), s.Number(s.Value, 0)), s.fix()
	},
	watch.TooThin: func(s saying) (message, fix string) {
		return s.say(s.may(), s.Number(s.Value, 1), s.Number(s.Limit, 1)), s.fix()
	},
	watch.TooThick: func(s saying) (message, fix string) {
		return s.say(s.may(), s.Number(s.Value, 1), s.Number(s.Limit, 1)), s.fix()
	},
	"too-thick-cold": func(s saying) (message, fix string) {
		return s.say("", s.Number(s.Value, 1), s.Number(s.Grade, 1)), s.fix(s.Number(float64(s.Loosen), 0))
	},
	"thin-milk": func(s saying) (message, fix string) {
		return s.say("", s.Percent(s.Value, 1)), s.fix()
	},
	"greasy": func(s saying) (message, fix string) {
		return s.say("", s.Percent(s.Value, 0)), s.fix()
	},
	"soda-too-much": func(s saying) (message, fix string) {
		return s.say("", s.significant(s.Value, 2)), s.fix(s.significant(s.SodaGrams, 2))
	},
	"aroma-early": func(s saying) (message, fix string) {
		return s.say("", shortPart(s.p, s.Part), s.Number(s.Value, 0)), s.fix()
	},
	"garnish-burn": func(s saying) (message, fix string) {
		sign := ""
		if m, ok := s.p.Pantry().Material(s.Part); ok && m.Frying != nil {
			sign = m.Frying.Sign
		}
		return s.say("", shortPart(s.p, s.Part), s.Number(s.Value, 1), s.Number(s.Limit, 1)), s.fix(s.Number(float64(s.FryFor), 1), sign)
	},
	"carry-over-caramel": func(s saying) (message, fix string) {
		return s.say("", s.celsius()), s.fix()
	},
	"heavy-pot": func(s saying) (message, fix string) {
		return s.say("", s.Number(s.Value/gPerKilo, 1), s.Number(s.Limit/gPerKilo, 1)), s.fix()
	},
	"scale-limit": func(s saying) (message, fix string) {
		return s.say("", s.Number(s.Value/gPerKilo, 1), s.Number(s.Limit/gPerKilo, 1)), s.fix()
	},
	watch.WarmTooLong: func(s saying) (message, fix string) {
		return s.say("", s.Number(s.Value, 0), s.degrees(watch.Cold), s.Celsius(watch.Hot)), s.fix(s.Celsius(watch.Hot))
	},
	"cooling-slow": func(s saying) (message, fix string) {
		if s.Second {
			return s.say(".then", s.Number(s.Value, 0), s.degrees(watch.Cool), s.Celsius(watch.Cold)), s.fix()
		}
		return s.say(".first", s.Number(s.Value, 0), s.degrees(watch.Hot), s.Celsius(watch.Cool)), s.fix()
	},
	"allergens": func(s saying) (message, fix string) {
		if s.Severity == forecast.Stop {
			return s.say(".stop", strings.Join(s.Names, " or ")), s.say(".stop.fix")
		}
		return s.say("", strings.Join(s.Names, ", ")), s.fix()
	},
	"choking": func(s saying) (message, fix string) {
		var names []string
		for _, slug := range s.Names {
			names = append(names, shortPart(s.p, slug))
		}
		return s.say("", strings.Join(names, ", ")), s.fix()
	},
	"measure-conflict": func(s saying) (message, fix string) {
		d := s.Conflict
		message = s.say("", s.part(), d.Amount.Text, d.Also.Text, s.Number(float64(d.Amount.Mass), 0), s.Number(float64(d.Also.Mass), 0))
		if d.MeasureName != "" {
			return message, s.say(".cup.fix", d.MeasureName, s.Number(float64(d.MeasureML), 0), s.Number(float64(d.PresentML), 0))
		}
		return message, s.fix()
	},
	"hot-sugar": func(s saying) (message, fix string) {
		end := ""
		if s.Syrup {
			end = ".syrup"
		}
		return s.say(end), s.text("caution.fix")
	},
	"pressure-cooker": func(s saying) (message, fix string) {
		return s.say(""), s.text("caution.fix")
	},
	"hot-fat": func(s saying) (message, fix string) {
		return s.say(""), s.text("caution.fix")
	},
	"wood-fire": func(s saying) (message, fix string) {
		return s.say(""), s.text("caution.fix")
	},
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
