package watch

import (
	"math"

	"kirdu/core/forecast"
	"kirdu/core/measure"
	"kirdu/core/pantry"
	"kirdu/core/plan"
)

// What keeps grain and pearls from being right, and what binds.
var (
	sugarDelays   = Limit{forecast.Warning, 3.0, "min", table}
	eggHot        = Limit{forecast.Warning, 0, "K over what it stands", "the model, section 8"}
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
		if delay < sugarDelays.Value*(1+RoundingMargin) {
			continue
		}
		detail := Detail{Done: least, Never: f.Doneness[name].Value < 1}
		one := sugarDelays.speaks(i, "delay_min", delay).about(name).with(detail)
		if allSoft(f) {
			one.Severity = forecast.Note
		}
		found = append(found, one)
	}
	return found
}

// allSoft reports whether every part comes to what it is wanted at.
func allSoft(f *forecast.Forecast) bool {
	for name, done := range f.Doneness {
		if done.Value < f.Parts[name].WantedLow {
			return false
		}
	}
	return true
}

// sugarDelay returns how much later a part is done because of the sugar of a step; of
// one that is not done at the end, how much later it is as far as it gets.
func sugarDelay(p *plan.Plan, f *forecast.Forecast, step int, part string) float64 {
	reached := min(1, f.Doneness[part].Value)
	plain := forecast.Run(p.Unsweetened(step), forecast.Options{CourseOnly: true}).DoneAt(part, reached)
	with := f.DoneAt(part, reached)
	if math.IsInf(plain, 1) || math.IsInf(with, 1) {
		return 0
	}
	return with - plain
}

// undercookedGrain and mushyGrain hold each part against what it is wanted at: the
// cook's own wish, or how it is liked.
func undercookedGrain(p *plan.Plan, f *forecast.Forecast) []Finding {
	found := againstWanted(p, f, -1, func(t forecast.PartTrace) (limit, from float64) { return t.WantedLow, t.WantedLow })
	boils := false
	for i, trace := range f.Trace {
		boils = boils || trace.Boiled || p.Steps[i].Do == plan.Pressure || p.Steps[i].Do == plan.Bake
	}
	for k := range found {
		found[k].Cold = !boils
	}
	return found
}

func mushyGrain(p *plan.Plan, f *forecast.Forecast) []Finding {
	const bit = 0.1 // above what is liked is not yet mushy; the watchpoint table
	return againstWanted(p, f, 1, func(t forecast.PartTrace) (limit, from float64) { return t.WantedHigh, t.WantedHigh + bit })
}

// againstWanted finds the parts that miss what is wanted to one side: 1 above, -1 below.
// It speaks from a doneness on, and names the limit; a limit of 0 is not known.
func againstWanted(p *plan.Plan, f *forecast.Forecast, side float64, wanted func(forecast.PartTrace) (limit, from float64)) []Finding {
	var found []Finding
	for _, name := range sortedNames(f.Doneness) {
		limit, from := wanted(f.Parts[name])
		speaks, may := beyond(f.Doneness[name], from, side)
		if limit == 0 || !speaks {
			continue
		}
		found = append(found, Finding{Severity: forecast.Warning, Step: lastHeat(p), Part: name,
			Evidence: Evidence{"doneness", f.Doneness[name].Value, "wanted", limit}}.perhaps(may))
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
	worst := -1
	for i, trace := range f.Trace {
		scrambled := trace.EggOverFor >= eggOverFor || trace.EggOver >= eggOverBy
		if scrambled && (worst < 0 || trace.EggOver > f.Trace[worst].EggOver) {
			worst = i
		}
	}
	if worst < 0 {
		return nil
	}
	limit := eggHot
	limit.Value = f.Trace[worst].EggLimitC
	return one(limit.speaks(worst, "temp_c", limit.Value+f.Trace[worst].EggOver))
}

// Egg scrambles when it is so long above what it stands, or so far. Source: the model,
// section 8.
const (
	eggOverFor measure.Minute = 1
	eggOverBy  float64        = 6 // K
)

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
			if a.Material.Behaviour == pantry.Flour && t > limit.Value && !(prepared && p.Steps[i].GoesSlowly()) {
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
	if share <= PearlsPacking.Value*(1+RoundingMargin) {
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
	served := f.Thickness.As(p.Serve)
	if served == nil || p.Aim == nil || p.Aim.Thickness == nil {
		return nil
	}
	aim := *p.Aim.Thickness
	speaks, may := beyond(*served, aim+side*aimMiss.Value, side)
	if !speaks {
		return nil
	}
	return one(Finding{Severity: aimMiss.Severity, Step: lastHeat(p), Evidence: Evidence{"thickness", served.Value, "aim",
		aim}}.perhaps(may))
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
