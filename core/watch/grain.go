package watch

import (
	"math"

	"kirdu/core/forecast"
	"kirdu/core/pantry"
	"kirdu/core/plan"
)

// What keeps grain and pearls from being right, and what binds.
var (
	sugarDelays   = Limit{forecast.Warning, 3.0, "min", table}
	eggHot        = Limit{forecast.Warning, 84.0, "°C", table}
	eggUnsafe     = Limit{forecast.Stop, 71.0, "°C", table}
	dryFlour      = Limit{forecast.Warning, 60.0, "°C", table}
	slurry        = Limit{forecast.Warning, 85.0, "°C", table}
	hotForMeal    = Limit{forecast.Note, 70.0, "°C", table}
	PearlsPacking = Limit{forecast.Warning, 45.0, "%", table}
	smallSoak     = Limit{forecast.Note, 20.0, "min", table}
	largeSoak     = Limit{forecast.Note, 90.0, "min", table}
	aimMiss       = Limit{forecast.Warning, 0.8, "grades", table}
	stiffChilled  = Limit{forecast.Note, 6.0, "", table}
	stiffer       = Limit{forecast.Note, 1.5, "grades", table}
)

// What an addition of sugar must be for it to delay: so many Brix more, while a
// part is below a doneness. Source: the watchpoint table.
const (
	sweetRise  = 4.0
	softEnough = 0.9
)

// sweetBeforeSoft: sugar ties up the water that the grain wants.
func sweetBeforeSoft(p *plan.Plan, f *forecast.Forecast) []Finding {
	var found []Finding
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
		if delay < sugarDelays.Value {
			continue
		}
		detail := Detail{Done: least, Never: math.IsInf(delay, 1)}
		if detail.Never {
			delay = f.Time.TotalMin.Value
		}
		found = append(found, sugarDelays.speaks(i, "delay_min", delay).about(name).with(detail))
	}
	return found
}

// sugarDelay returns how much later a part is done because of the sugar of a
// step, +Inf if it never is but would be without.
func sugarDelay(p *plan.Plan, f *forecast.Forecast, step int, part string) float64 {
	plain := forecast.Run(p.Unsweetened(step), forecast.Options{CourseOnly: true}).DoneAt(part, 1)
	if math.IsInf(plain, 1) {
		return 0
	}
	return f.DoneAt(part, 1) - plain
}

func undercookedGrain(p *plan.Plan, f *forecast.Forecast) []Finding {
	var found []Finding
	for _, name := range sortedNames(f.Doneness) {
		done, wanted := f.Doneness[name].Value, f.Parts[name].WantedLow
		if done < wanted {
			found = append(found, Finding{Severity: forecast.Warning, Step: lastHeat(p), Part: name,
				Evidence: Evidence{"doneness", done, "wanted", wanted}})
		}
	}
	return found
}

func mushyGrain(p *plan.Plan, f *forecast.Forecast) []Finding {
	var found []Finding
	for _, name := range sortedNames(f.Doneness) {
		done, wanted := f.Doneness[name].Value, f.Parts[name].WantedHigh
		if done > wanted && wanted != 0 {
			found = append(found, Finding{Severity: forecast.Warning, Step: lastHeat(p), Part: name,
				Evidence: Evidence{"doneness", done, "wanted", wanted}})
		}
	}
	return found
}

// eggs returns the step in which egg gets hottest, how hot, and the first with
// egg in it; first is -1 without egg.
func eggs(f *forecast.Forecast) (hottest int, most float64, first int) {
	hottest, first = -1, -1
	for i, trace := range f.Trace {
		if trace.EggC == 0 {
			continue
		}
		if first < 0 {
			first = i
		}
		if trace.EggC > most {
			most, hottest = trace.EggC, i
		}
	}
	return hottest, most, first
}

func eggScrambled(_ *plan.Plan, f *forecast.Forecast) []Finding {
	if hottest, most, first := eggs(f); first >= 0 && most > eggHot.Value {
		return one(eggHot.speaks(hottest, "temp_c", most))
	}
	return nil
}

func eggUnderdone(_ *plan.Plan, f *forecast.Forecast) []Finding {
	if _, most, first := eggs(f); first >= 0 && most < eggUnsafe.Value {
		return one(eggUnsafe.speaks(first, "temp_c", most))
	}
	return nil
}

// starchLumps: flour sets where it meets heat, before it can be stirred apart.
func starchLumps(p *plan.Plan, f *forecast.Forecast) []Finding {
	var found []Finding
	for i := range p.Steps {
		was := before(f, i)
		if p.Steps[i].Do != plan.Add || was == nil {
			continue
		}
		t := *was.TempC
		for _, a := range plan.Arrivals(p, i) {
			prepared, limit := a.Prepared(i), dryFlour
			if prepared {
				limit = slurry
			}
			if a.Material.Behaviour == pantry.Flour && t > limit.Value && !(prepared && p.Steps[i].Slowly) {
				found = append(found, limit.speaks(i, "temp_c", t).about(a.Material.Slug).with(Detail{Prepared: prepared}))
				break
			}
		}
	}
	return found
}

// Meals are ground so fine that they take up hot milk from outside only.
var Meals = map[string]bool{"cornmeal": true, "semolina": true}

// grittyMeal: meal swells cold, or it stays gritty.
func grittyMeal(p *plan.Plan, f *forecast.Forecast) []Finding {
	for i := range p.Steps {
		was := before(f, i)
		if p.Steps[i].Do != plan.Add || was == nil || *was.TempC <= hotForMeal.Value {
			continue
		}
		for _, a := range plan.Arrivals(p, i) {
			swelled := a.Prepared(i) && (p.Steps[a.Step].Do == plan.Mix || p.Steps[a.Step].Do == plan.Soak)
			if Meals[a.Material.Slug] && !swelled {
				return one(hotForMeal.speaks(i, "temp_c", *was.TempC).about(a.Material.Slug))
			}
		}
	}
	return nil
}

// pearlsClump: pearls need room.
func pearlsClump(p *plan.Plan, f *forecast.Forecast) []Finding {
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
	if share <= PearlsPacking.Value {
		return nil
	}
	return one(PearlsPacking.speaks(step, "volume_pct", share))
}

// pearlsUnsoaked: pearls that were not soaked stay white inside.
func pearlsUnsoaked(p *plan.Plan, _ *forecast.Forecast) []Finding {
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
			limit := smallSoak
			if a.Material.Slug == "sago-large" {
				limit = largeSoak
			}
			soaked := 0.0
			if a.Prepared(i) && p.Steps[a.Step].Do == plan.Soak {
				soaked = float64(p.Steps[a.Step].FullMinutes())
			}
			if a.Material.Kind == "pearl" && milk && soaked < limit.Value {
				return one(limit.speaks(i, "minutes", soaked).about(a.Material.Slug))
			}
		}
	}
	return nil
}

// tooThin holds the thickness as served against what the cook wants.
func tooThin(p *plan.Plan, f *forecast.Forecast) []Finding { return againstAim(p, f, -1) }

func tooThick(p *plan.Plan, f *forecast.Forecast) []Finding { return againstAim(p, f, 1) }

// againstAim finds a thickness that misses the aim to one side: 1 above, -1 below.
func againstAim(p *plan.Plan, f *forecast.Forecast, side float64) []Finding {
	grade, ok := ServedThickness(p, f)
	if !ok || p.Aim == nil || p.Aim.Thickness == nil {
		return nil
	}
	aim := *p.Aim.Thickness
	if edge := aim + side*aimMiss.Value; side*grade <= side*edge {
		return nil
	}
	return one(Finding{Severity: aimMiss.Severity, Step: lastHeat(p), Evidence: Evidence{"thickness", grade, "aim", aim}})
}

// tooThickCold: what is kept will be stiff tomorrow.
func tooThickCold(p *plan.Plan, f *forecast.Forecast) []Finding {
	grade, ok := ServedThickness(p, f)
	chilled := f.Thickness.Chilled
	if !ok || chilled == nil || p.KeepDays < 1 || p.Serve == plan.Chilled || chilled.Value <= stiffChilled.Value ||
		chilled.Value <= grade+stiffer.Value {
		return nil
	}
	limit := stiffChilled
	limit.Value = max(stiffChilled.Value, grade+stiffer.Value)
	return one(limit.speaks(lastHeat(p), "thickness", chilled.Value).with(Detail{Grade: grade, Loosen: loosening(p, f, grade)}))
}
