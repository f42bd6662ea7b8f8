package watch

import (
	"fmt"

	"kirdu/core/forecast"
	"kirdu/core/pantry"
	"kirdu/core/plan"
)

// Thresholds of what binds. Source: the watchpoint table.
const (
	eggMost, eggLeast     = 84.0, 71.0 // °C
	dryFlourC, slurryC    = 60.0, 85.0
	meltingMealC          = 70.0
	pearlsMost            = 45.0 // per cent of the volume
	smallSoak, largeSoak  = 20.0, 90.0
	aimMiss               = 0.8 // grades
	stiffChilled, stiffer = 6.0, 1.5
)

// eggs: it sets between 74 and 84 °C.
func eggs(p *plan.Plan, f *forecast.Forecast) []forecast.Finding {
	last, most, hottest := -1, 0.0, -1
	first := -1
	for i, trace := range f.Trace {
		if trace.EggC == 0 {
			continue
		}
		if first < 0 {
			first = i
		}
		last = i
		if trace.EggC > most {
			most, hottest = trace.EggC, i
		}
	}
	switch {
	case last < 0:
		return nil
	case most > eggMost:
		return []forecast.Finding{{
			Rule: "egg-scrambled", Severity: forecast.Warning, Step: hottest,
			Message:  fmt.Sprintf("The egg comes to %.0f °C: above 84 °C it scrambles.", most),
			Evidence: evidence("temp_c", most, "threshold", eggMost),
			Fix:      "Let the pot cool a little before the egg goes in, and stop at 78 °C on a low flame.",
		}}
	case most < eggLeast:
		return []forecast.Finding{{
			Rule: "egg-underdone", Severity: forecast.Stop, Step: first,
			Message:  fmt.Sprintf("The egg comes to %.0f °C only: it is not safe before 71 °C, and does not bind.", most),
			Evidence: evidence("temp_c", most, "threshold", eggLeast),
			Fix:      "Warm it on a low flame to 76 °C, stirring.",
		}}
	}
	return nil
}

// starchLumps: flour sets where it meets heat, before it can be stirred apart.
func starchLumps(p *plan.Plan, f *forecast.Forecast) []forecast.Finding {
	var found []forecast.Finding
	for i := range p.Steps {
		was := before(f, i)
		if p.Steps[i].Do != plan.Add || was == nil {
			continue
		}
		t := *was.TempC
		for _, a := range plan.Arrivals(p, i) {
			if a.Material.Behaviour != pantry.Flour {
				continue
			}
			one := forecast.Finding{Rule: "starch-lumps", Severity: forecast.Warning, Step: i}
			switch {
			case !a.Prepared(i) && t > dryFlourC:
				one.Message = fmt.Sprintf("%s goes dry into a pot of %.0f °C: it lumps.", a.Material.Name, t)
				one.Evidence = evidence("temp_c", t, "threshold", dryFlourC)
				one.Fix = "Stir it smooth with cold milk first, and pour that in slowly."
			case a.Prepared(i) && t > slurryC && !p.Steps[i].Slowly:
				one.Message = fmt.Sprintf("The slurry goes all at once into a pot of %.0f °C: it lumps.", t)
				one.Evidence = evidence("temp_c", t, "threshold", slurryC)
				one.Fix = "Pour it in slowly, whisking."
			default:
				continue
			}
			found = append(found, one)
			break
		}
	}
	return found
}

// meals are ground so fine that they take up hot milk from outside only.
var Meals = map[string]bool{"cornmeal": true, "semolina": true}

// grittyMeal: meal swells cold, or it stays gritty.
func grittyMeal(p *plan.Plan, f *forecast.Forecast) []forecast.Finding {
	for i := range p.Steps {
		was := before(f, i)
		if p.Steps[i].Do != plan.Add || was == nil || *was.TempC <= meltingMealC {
			continue
		}
		for _, a := range plan.Arrivals(p, i) {
			if !Meals[a.Material.Slug] || (a.Prepared(i) && (p.Steps[a.Step].Do == plan.Mix || p.Steps[a.Step].Do == plan.Soak)) {
				continue
			}
			return []forecast.Finding{{
				Rule: "gritty-meal", Severity: forecast.Note, Step: i,
				Message:  fmt.Sprintf("%s goes into a pot of %.0f °C without having swollen: it stays gritty.", a.Material.Name, *was.TempC),
				Evidence: evidence("temp_c", *was.TempC, "threshold", meltingMealC),
				Fix:      "Let it swell 10 minutes in cold milk first.",
			}}
		}
	}
	return nil
}

// pearlsClump: pearls need room.
func pearlsClump(p *plan.Plan, f *forecast.Forecast) []forecast.Finding {
	share, step := 0.0, -1
	for i := range p.Steps {
		if p.Steps[i].Do != plan.Add {
			continue
		}
		for _, a := range plan.Arrivals(p, i) {
			if a.Material.Kind != "pearl" {
				continue
			}
			name := a.Material.Slug
			if a.Prepared(i) {
				name = p.Steps[a.Step].Name
			}
			if part, served := f.Parts[name]; served {
				share += 100 * part.VolumeShare
				step = i
			}
		}
	}
	if share <= pearlsMost {
		return nil
	}
	return []forecast.Finding{{
		Rule: "pearls-clump", Severity: forecast.Warning, Step: step,
		Message:  fmt.Sprintf("The pearls are %.0f %% of the pudding: above 45 %% they clump.", share),
		Evidence: evidence("volume_pct", share, "threshold", pearlsMost),
		Fix:      "Take fewer pearls and more milk.",
	}}
}

// pearlsUnsoaked: pearls that were not soaked stay white inside.
func pearlsUnsoaked(p *plan.Plan, f *forecast.Forecast) []forecast.Finding {
	for i := range p.Steps {
		if p.Steps[i].Do != plan.Add {
			continue
		}
		milk := false
		for j := range p.Steps {
			if p.Steps[j].Do != plan.Add || p.Steps[j].PotName() != p.Steps[i].PotName() || j > i {
				continue
			}
			for _, a := range plan.Arrivals(p, j) {
				milk = milk || a.Material.Kind == "dairy"
			}
		}
		for _, a := range plan.Arrivals(p, i) {
			needed := smallSoak
			if a.Material.Slug == "sago-large" {
				needed = largeSoak
			}
			soaked := 0.0
			if a.Prepared(i) && p.Steps[a.Step].Do == plan.Soak {
				soaked = float64(p.Steps[a.Step].FullMinutes())
			}
			if a.Material.Kind != "pearl" || !milk || soaked >= needed {
				continue
			}
			return []forecast.Finding{{
				Rule: "pearls-unsoaked", Severity: forecast.Note, Step: i,
				Message:  fmt.Sprintf("%s is soaked %.0f minutes and goes into milk: it wants %.0f, or it stays white inside.", a.Material.Name, soaked, needed),
				Evidence: evidence("minutes", soaked, "threshold", needed),
				Fix:      "Soak it until it gives under the thumb.",
			}}
		}
	}
	return nil
}

func mushyGrain(p *plan.Plan, f *forecast.Forecast) []forecast.Finding {
	var found []forecast.Finding
	for _, name := range sortedNames(f.Doneness) {
		done, wanted := f.Doneness[name].Value, f.Parts[name]
		if done <= wanted.WantedHigh || wanted.WantedHigh == 0 {
			continue
		}
		found = append(found, forecast.Finding{
			Rule: "mushy-grain", Severity: forecast.Warning, Step: lastHeat(p),
			Message:  fmt.Sprintf("%s is cooked to %.2f when it is served: above %.2f it falls apart.", p.PartName(name), done, wanted.WantedHigh),
			Evidence: evidence("doneness", done, "wanted", wanted.WantedHigh),
			Fix:      "Cook it less long, or let it go in later.",
		})
	}
	return found
}

// servedThickness returns the grade as served and whether it applies.
func ServedThickness(p *plan.Plan, f *forecast.Forecast) (float64, bool) {
	served := f.Thickness.As(p.Serve)
	if served == nil {
		return 0, false
	}
	return served.Value, true
}

// againstAim holds the thickness as served against what the cook wants.
func againstAim(p *plan.Plan, f *forecast.Forecast) []forecast.Finding {
	grade, ok := ServedThickness(p, f)
	if !ok || p.Aim == nil || p.Aim.Thickness == nil {
		return nil
	}
	aim := *p.Aim.Thickness
	one := forecast.Finding{Severity: forecast.Warning, Step: lastHeat(p), Evidence: evidence("thickness", grade, "aim", aim)}
	switch {
	case grade < aim-aimMiss:
		one.Rule, one.Message = "too-thin", fmt.Sprintf("It is served at %.1f; %.1f was wanted.", grade, aim)
		one.Fix = "Balance it: a little more of what thickens, or reduce it further."
	case grade > aim+aimMiss:
		one.Rule, one.Message = "too-thick", fmt.Sprintf("It is served at %.1f; %.1f was wanted.", grade, aim)
		one.Fix = "Balance it: a little less of what thickens, or reduce it less."
	default:
		return nil
	}
	return []forecast.Finding{one}
}

// tooThickCold: what is kept will be stiff tomorrow.
func tooThickCold(p *plan.Plan, f *forecast.Forecast) []forecast.Finding {
	grade, ok := ServedThickness(p, f)
	chilled := f.Thickness.Chilled
	if !ok || chilled == nil || p.KeepDays < 1 || p.Serve == plan.Chilled || chilled.Value <= stiffChilled || chilled.Value <= grade+stiffer {
		return nil
	}
	return []forecast.Finding{{
		Rule: "too-thick-cold", Severity: forecast.Note, Step: lastHeat(p),
		Message:  fmt.Sprintf("What is kept stands at %.1f when it is cold, %.1f as served.", chilled.Value, grade),
		Evidence: evidence("thickness", chilled.Value, "threshold", max(stiffChilled, grade+stiffer)),
		Fix:      fmt.Sprintf("When it is warmed again, stir in about %.0f g of hot milk.", float64(loosening(p, f, grade))),
	}}
}
