// Package watch holds the watchpoints: rules that look at a plan and its
// forecast and say what will go wrong.
package watch

import (
	"fmt"
	"math"
	"sort"

	"kirdu/core/forecast"
	"kirdu/core/measure"
	"kirdu/core/plan"
	"kirdu/core/pot"
)

// A rule returns its findings, nil if there are none.
type rule func(*plan.Plan, *forecast.Forecast) []forecast.Finding

var rules = []rule{
	sweetBeforeSoft, pulseAcidEarly, thickCoconutBoiled, acidSplit, rawVegetableInMilk, eggs, yogurtHot,
	boilOver, lidOnMilk, tooFull, cookerTooFull, scorch, boiledDry, starchLumps, grittyMeal, pearlsClump, pearlsUnsoaked,
	undercookedGrain, mushyGrain, neverReached, againstAim, tooThickCold, thinMilk, greasy, sodaTooMuch,
	aromaEarly, garnishBurn, carryOverCaramel, heavyPot, scaleLimit, WarmTooLong, coolingSlow, rawMilk,
	allergensIn, choking, measureConflict, cautions,
}

// seen asks every rule.
func Seen(p *plan.Plan, f *forecast.Forecast) []forecast.Finding {
	found := []forecast.Finding{}
	for _, ask := range rules {
		found = append(found, ask(p, f)...)
	}
	weight := map[forecast.Severity]int{forecast.Stop: 0, forecast.Warning: 1, forecast.Note: 2}
	sort.SliceStable(found, func(i, j int) bool {
		if a, b := weight[found[i].Severity], weight[found[j].Severity]; a != b {
			return a < b
		}
		return found[i].Step < found[j].Step
	})
	return found
}

// FoamLimit is how high dairy may stand at the boil, over the height of the
// pot: the rest is for its foam. Source: the watchpoint table.
const FoamLimit = 0.60

// Other thresholds. Source: the watchpoint table.
const (
	boilStop   = 0.75
	fullStop   = 0.90 // of the height, anything
	dryPercent = 1.0  // free water, per cent of the mass
	cookerDry  = 20.0 // the same in a cooker when it is closed: our own estimate of what steam and a few whistles take, 10 to 30
)

func neverReached(p *plan.Plan, f *forecast.Forecast) []forecast.Finding {
	var found []forecast.Finding
	for i, trace := range f.Trace {
		if !trace.NeverReached {
			continue
		}
		spent := f.Steps[i].EndMin - f.Steps[i].StartMin
		guard := spent // a cooker or a cooling has no guard of its own
		if u := p.Steps[i].Until; u != nil {
			guard = float64(u.Guard())
		}
		found = append(found, forecast.Finding{
			Rule: "never-reached", Severity: forecast.Stop, Step: i,
			Message:  fmt.Sprintf("%s is not reached: after %.0f minutes the step is given up.", targetWords(&p.Steps[i]), spent),
			Evidence: evidence("minutes", spent, "max_minutes", guard),
			Fix:      "Turn the flame up, take the lid off, or set a target that this pot can reach.",
		})
	}
	return found
}

// targetWords names what a step was waiting for.
func targetWords(s *plan.Step) string {
	u := s.Until
	switch {
	case s.Do == plan.Cool:
		return fmt.Sprintf("%.0f °C", float64(*s.ToC))
	case s.Do == plan.Pressure:
		return "The pressure"
	case u == nil:
		return "The target"
	case u.Browning != "":
		return "A " + u.Browning + " caramel"
	case u.Boil:
		return "The boil"
	case u.RemainingPct != nil:
		return fmt.Sprintf("Reduced to %.4g %%", *u.RemainingPct)
	case u.MassG != nil:
		return fmt.Sprintf("The mark of %.0f g", float64(*u.MassG))
	case u.Doneness != nil:
		return fmt.Sprintf("Doneness %.2g of %s", u.Doneness.At, u.Doneness.Of)
	case u.Thickness != nil:
		return fmt.Sprintf("%s (thickness %.2g)", pot.ThicknessWord(*u.Thickness), *u.Thickness)
	case u.TempC != nil:
		return fmt.Sprintf("%.0f °C", float64(*u.TempC))
	}
	return "The target"
}

func boilOver(p *plan.Plan, f *forecast.Forecast) []forecast.Finding {
	i, fill := peak(f, func(t forecast.StepTrace) float64 { return t.PeakBoilFill })
	if fill <= FoamLimit {
		return nil
	}
	severity := forecast.Warning
	threshold := FoamLimit
	if fill > boilStop {
		severity, threshold = forecast.Stop, boilStop
	}
	return []forecast.Finding{{
		Rule: "boil-over", Severity: severity, Step: i,
		Message: fmt.Sprintf("At the boil the milk stands at %.0f %% of the height of the pot; its foam needs the upper %.0f %%.",
			100*fill, 100*(1-FoamLimit)),
		Evidence: evidence("fill", fill, "threshold", threshold),
		Fix:      potFix(p, f, i, FoamLimit),
	}}
}

func tooFull(p *plan.Plan, f *forecast.Forecast) []forecast.Finding {
	i, fill := peak(f, func(t forecast.StepTrace) float64 { return t.PeakFill })
	if fill <= fullStop {
		return nil
	}
	message := fmt.Sprintf("The pot is filled to %.0f %% of its height and will spill when it is stirred.", 100*fill)
	if fill > 1 {
		name := p.Steps[i].PotName()
		message = fmt.Sprintf("The pot holds %.1f l, and %.1f l are to go in.",
			float64(p.Pots[name].Capacity())/1000, *f.Steps[i].VolumeML/1000)
	}
	return []forecast.Finding{{
		Rule: "too-full", Severity: forecast.Stop, Step: i, Message: message,
		Evidence: evidence("fill", fill, "threshold", fullStop),
		Fix:      potFix(p, f, i, FoamLimit),
	}}
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

// potFix says how large a pot would do.
func potFix(p *plan.Plan, f *forecast.Forecast, step int, fill float64) string {
	volume := 0.0
	if v := f.Steps[step].VolumeML; v != nil {
		volume = *v
	}
	name := p.Steps[step].PotName()
	capacity := float64(p.Pots[name].Capacity())
	// Of its own fill it takes what it holds up to that height.
	here := float64(p.Pots[name].SafeFill(f.Trace[step].PeakFill))
	volume = max(volume, min(here, 2*capacity))
	return fmt.Sprintf("Take a pot of %.1f l or more, cook in two pots, or make less.", math.Ceil(volume/fill/100)/10)
}

func boiledDry(p *plan.Plan, f *forecast.Forecast) []forecast.Finding {
	for i := range p.Steps {
		was := before(f, i)
		if p.Steps[i].Do != plan.Pressure || was == nil {
			continue
		}
		if free := 100 * measure.Ratio(*was.FreeWaterG, *was.MassG); free < cookerDry {
			return []forecast.Finding{{
				Rule: "boiled-dry", Severity: forecast.Stop, Step: i,
				Message:  "The cooker has next to no liquid to make steam of: it runs dry, and its seal burns.",
				Evidence: evidence("free_water_pct", free, "threshold", cookerDry),
				Fix:      "Put in water before it is closed: three times the grain or more.",
			}}
		}
	}
	for i, trace := range f.Trace {
		if trace.DriedOut {
			return []forecast.Finding{{
				Rule: "boiled-dry", Severity: forecast.Stop, Step: i,
				Message:  "The pot boils dry: no free liquid is left over the flame, and what lies on the bottom burns.",
				Evidence: evidence("free_water_pct", trace.MinFreeWater, "threshold", dryPercent),
				Fix:      "Put in more liquid, turn the flame down or end this step earlier.",
			}}
		}
	}
	return nil
}

func undercookedGrain(p *plan.Plan, f *forecast.Forecast) []forecast.Finding {
	var found []forecast.Finding
	for _, name := range sortedNames(f.Doneness) {
		done, wanted := f.Doneness[name].Value, f.Parts[name]
		if done >= wanted.WantedLow {
			continue
		}
		is, liked := pot.DonenessWord(done), pot.DonenessWord(wanted.WantedLow)
		message := fmt.Sprintf("%s is %s when it is served (%.2f); it is liked from %s on (%.2f).", p.PartName(name), is, done, liked, wanted.WantedLow)
		if is == liked {
			message = fmt.Sprintf("%s is a little short of done when it is served (%.2f); it is liked from %.2f on.", p.PartName(name), done, wanted.WantedLow)
		}
		found = append(found, forecast.Finding{
			Rule: "undercooked-grain", Severity: forecast.Warning, Step: lastHeat(p), Message: message,
			Evidence: evidence("doneness", done, "wanted", wanted.WantedLow),
			Fix:      "Cook it longer before the sugar goes in, soak it first, or simmer it on a lower flame so that it has more time.",
		})
	}
	return found
}

func lastHeat(p *plan.Plan) int {
	last := 0
	for i := range p.Steps {
		if p.Steps[i].Do == plan.Heat {
			last = i
		}
	}
	return last
}

func sortedNames(doneness map[string]measure.Range) []string {
	names := make([]string, 0, len(doneness))
	for name := range doneness {
		names = append(names, name)
	}
	sort.Strings(names)
	return names
}

// evidence pairs the number compared with its threshold.
func evidence(name string, value float64, against string, threshold float64) map[string]float64 {
	const digits = 6
	return map[string]float64{
		name: measure.RoundSignificant(value, digits), against: measure.RoundSignificant(threshold, digits),
	}
}
