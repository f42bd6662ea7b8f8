package watch

import (
	"kirdu/core/forecast"
	"kirdu/core/measure"
	"kirdu/core/plan"
	"kirdu/core/vessel"
)

// How full a pot may be, over its height: dairy at the boil, for its foam; anything;
// a cooker, for steam, and for the foam of pulses.
var (
	FoamRoom   = Limit{forecast.Warning, 0.60, "", table}
	foamOver   = Limit{forecast.Stop, 0.75, "", table}
	BrimRoom   = Limit{forecast.Stop, 0.90, "", table}
	CookerRoom = Limit{forecast.Stop, 2.0 / 3, "", table}
	PulseRoom  = Limit{forecast.Stop, 0.50, "", table}
)

// From where on a pot is dry, catches, is too heavy for one.
var (
	dry       = Limit{forecast.Stop, 1.0, "%", table}
	dryCooker = Limit{forecast.Stop, 5.0, "%", own + ": a cooker that is closed without liquid has nothing to make steam of"}
	cools     = Limit{forecast.Note, 2, "K", "the model, section 3"}
	Scorching = Limit{forecast.Warning, 1.0, "", table}
	heavy     = Limit{forecast.Note, 8000, "g", table}
	lidded    = Limit{forecast.Warning, 0, "", table}
)

// How long a pot is dry, and catches, before it is said; from which grade on it is
// meant to be thick; and how much paste makes it one. Source: the watchpoint table.
const (
	dryFor     measure.Minute = 2
	scorchFor  measure.Minute = 1
	meantThick                = 6.0
	pasty                     = 1.0 / 3
)

func boilOver(p *plan.Plan, f *forecast.Forecast) []Finding {
	i, fill := peak(f, func(t forecast.StepTrace) float64 { return t.PeakBoilFill })
	limit := FoamRoom
	if fill <= limit.Value {
		return nil
	}
	if fill > foamOver.Value {
		limit = foamOver
	}
	return one(limit.speaks(i, "fill", fill).with(Detail{Need: roomFor(p, f, i)}))
}

func tooFull(p *plan.Plan, f *forecast.Forecast) []Finding {
	i, fill := peak(f, func(t forecast.StepTrace) float64 { return t.PeakFill })
	if fill <= BrimRoom.Value {
		return nil
	}
	detail := Detail{Need: roomFor(p, f, i)}
	if fill > 1 {
		detail.Filled = measure.Millilitre(*f.Steps[i].VolumeML)
	}
	return one(BrimRoom.speaks(i, "fill", fill).with(detail))
}

// peak returns the step with the highest value.
func peak(f *forecast.Forecast, of func(forecast.StepTrace) float64) (step int, most float64) {
	for i, trace := range f.Trace {
		if v := of(trace); v > most {
			step, most = i, v
		}
	}
	return step, most
}

// roomFor returns how large a pot would do for what stands in one at a step.
func roomFor(p *plan.Plan, f *forecast.Forecast, step int) measure.Millilitre {
	volume := 0.0
	if v := f.Steps[step].VolumeML; v != nil {
		volume = *v
	}
	name := p.Steps[step].PotName()
	capacity := float64(p.Pots[name].Capacity())
	// Of its own fill it takes what it holds up to that height.
	here := float64(p.Pots[name].SafeFill(f.Trace[step].PeakFill))
	return measure.Millilitre(max(volume, min(here, 2*capacity)) / FoamRoom.Value)
}

// lidOnMilk: under a lid dairy climbs, unless it hardly bubbles.
func lidOnMilk(p *plan.Plan, f *forecast.Forecast) []Finding {
	for i := range p.Steps {
		if s := &p.Steps[i]; s.Do == plan.Heat && s.Lidded() && !small(p, s, vessel.Low) && f.Trace[i].PeakBoilFill > lidded.Value {
			return one(lidded.speaks(i, "fill", f.Trace[i].PeakBoilFill))
		}
	}
	return nil
}

// cookerTooFull: a cooker needs room for steam, and pulses for foam.
func cookerTooFull(p *plan.Plan, f *forecast.Forecast) []Finding {
	for i := range p.Steps {
		if p.Steps[i].Do != plan.Pressure {
			continue
		}
		limit := CookerRoom
		for j := range i {
			if p.Steps[j].PotName() != p.Steps[i].PotName() || p.Steps[j].Do != plan.Add {
				continue
			}
			for _, a := range plan.Arrivals(p, j) {
				if a.Material.Kind == "pulse" {
					limit = PulseRoom
				}
			}
		}
		if fill := f.Trace[i].PeakFill; fill > limit.Value {
			return one(limit.speaks(i, "fill", fill))
		}
	}
	return nil
}

// scorch: too much heat for what is on the bottom, stirred too seldom.
func scorch(_ *plan.Plan, f *forecast.Forecast) []Finding {
	worst, most := -1, Scorching.Value*(1+RoundingMargin)
	for i, trace := range f.Trace {
		if trace.Scorching >= scorchFor && trace.Scorch > most {
			worst, most = i, trace.Scorch
		}
	}
	if worst < 0 {
		return nil
	}
	return one(Scorching.speaks(worst, "scorch", most))
}

// boiledDry: the free water is gone over a flame that nobody minds. What is stirred all
// the time, covered on a small flame, or meant to be thick, is cooked so; and a cooker
// keeps its steam, unless it is closed on nothing wet.
func boiledDry(p *plan.Plan, f *forecast.Forecast) []Finding {
	for i := range p.Steps {
		was := before(f, i)
		if p.Steps[i].Do != plan.Pressure || was == nil {
			continue
		}
		if free := 100 * measure.Ratio(*was.FreeWaterG, *was.MassG); free < dryCooker.Value {
			return one(dryCooker.speaks(i, "free_water_pct", free).with(Detail{Cooker: true}))
		}
	}
	if p.Aim != nil && p.Aim.Thickness != nil && *p.Aim.Thickness >= meantThick {
		return nil
	}
	for i, trace := range f.Trace {
		s := &p.Steps[i]
		if s.Do != plan.Heat || trace.DryFor <= dryFor {
			continue
		}
		minded := s.Stirring() == plan.StirConstant || trace.PasteShare >= pasty && s.Stirring() == plan.StirOften
		if minded || s.Lidded() && small(p, s, vessel.MediumLow) {
			continue
		}
		return one(dry.speaks(i, "free_water_pct", trace.MinFreeWater.Value))
	}
	return nil
}

// BoilsDry reports whether a pot boils dry.
func BoilsDry(p *plan.Plan, f *forecast.Forecast) bool { return len(boiledDry(p, f)) > 0 }

// small reports whether a flame is at most a mark of the knob, or a simmer.
func small(p *plan.Plan, s *plan.Step, mark vessel.Flame) bool {
	most, _ := mark.Percent()
	return s.ByEye() && s.Flame == vessel.Simmer || !s.ByEye() && 100*p.FlameShare(s) <= most
}

// weakFlame: the pot gets no warmer than this flame can make it.
func weakFlame(_ *plan.Plan, f *forecast.Forecast) []Finding {
	var found []Finding
	for i, trace := range f.Trace {
		if weak := trace.Weak; weak.Seen {
			found = append(found, Finding{Severity: forecast.Warning, Step: i,
				Evidence: Evidence{"temp_c", float64(weak.SettlesC), "watts_needed", float64(weak.Needs)}})
		}
	}
	return found
}

// coolsNoFurther: its surroundings are no colder.
func coolsNoFurther(_ *plan.Plan, f *forecast.Forecast) []Finding {
	for i, trace := range f.Trace {
		if trace.CoolsTo.Seen {
			return one(cools.speaks(i, "temp_c", trace.CoolsTo.Value))
		}
	}
	return nil
}

func neverReached(p *plan.Plan, f *forecast.Forecast) []Finding {
	var found []Finding
	for i, trace := range f.Trace {
		if !trace.NeverReached {
			continue
		}
		spent := f.Steps[i].EndMin - f.Steps[i].StartMin
		guard := spent // a cooker or a cooling has no guard of its own
		if u := p.Steps[i].Until; u != nil {
			guard = float64(u.Guard())
		}
		found = append(found, Finding{Severity: forecast.Stop, Step: i, Evidence: Evidence{"minutes", spent, "max_minutes", guard}})
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

func heavyPot(p *plan.Plan, f *forecast.Forecast) []Finding {
	step, grams := loaded(p, f)
	if grams <= heavy.Value {
		return nil
	}
	return one(heavy.speaks(step, "mass_g", grams))
}

func scaleLimit(p *plan.Plan, f *forecast.Forecast) []Finding {
	step, grams := loaded(p, f)
	limit := Limit{forecast.Note, float64(p.Kitchen.ScaleLimitG), "g", "the kitchen"}
	if grams <= limit.Value {
		return nil
	}
	return one(limit.speaks(step, "mass_g", grams))
}
