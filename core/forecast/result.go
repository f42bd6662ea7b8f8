package forecast

import (
	"math"
	"slices"
	"sort"

	"kirdu/core/measure"
	"kirdu/core/plan"
	"kirdu/core/pot"
)

// Temperatures at which a pudding is judged, and the protocol that leads
// there. Source: the model, section 6.
const (
	hotC, hotServedC, warmC, roomC, chilledC measure.Celsius = 60, 65, 45, 22, 5
	coldAlreadyC                             measure.Celsius = 12
	standMinutes                             measure.Minute  = 15
	chillMinutes                             measure.Minute  = 240
)

// Run computes the forecast of a plan that Read has accepted. It is pure: the
// same plan gives the same answer.
func Run(p *plan.Plan, options Options) *Forecast {
	seconds := fineSeconds
	if options.Coarse {
		seconds = coarseSeconds
	}
	r := newRun(p, spread{}, seconds, options, true)
	r.courseOnly = options.CourseOnly
	o := r.outcome()
	low, high := r.spreads(options, o)
	figure := func(k int) measure.Range {
		return measure.Range{Value: rounded(o[k]), Low: rounded(low[k]), High: rounded(high[k])}
	}
	grade := func(k int) *measure.Range {
		if math.IsNaN(o[k]) {
			return nil
		}
		g := figure(k)
		return &g
	}
	f := &Forecast{
		Format: Format, Steps: r.results, Trace: r.trace, Work: r.effort, Made: r.made,
		Sweetness: Sweetness{Pct: figure(figureSweet), FeltPct: rounded(o[figureSweet] * feltFactor(p.Serve))},
		Thickness: Thickness{OffHeat: grade(figureOffHeat), Hot: grade(figureHot), Warm: grade(figureWarm),
			Room: grade(figureRoom), Chilled: grade(figureChilled)},
		Time: Time{TotalMin: figure(figureTotal), HandsOnMin: figure(figureHands), FlameMin: figure(figureFlame)},
	}
	f.Yield = Yield{MassG: figure(figureMass), VolumeML: figure(figureVolume), Portions: p.Serves,
		PortionG: rounded(o[figureMass] / float64(p.Serves))}
	f.Doneness, f.Parts = map[string]measure.Range{}, map[string]PartTrace{}
	names := r.partNames()
	for k, name := range names {
		f.Doneness[name] = figure(fixedFigures + k)
	}
	served := r.servedState()
	for i := range served.Parts {
		f.Parts[served.Parts[i].Name] = r.partTrace(&served.Parts[i], served)
	}
	f.Marks = r.markResults(figure, fixedFigures+len(names))
	f.Curve = r.first.record.curve(&r.first.state)
	r.clockResults(f)
	r.whole(f)
	return f
}

// A part of which so much was broken is wanted soft, and up to the end. Source: the
// model, section 5.
const (
	mashedFrom = 0.5
	mashedLow  = 1.3
	mashedHigh = 8.0
)

// What is asked for is met from a little below to well above it. Source: as above.
const (
	aimedLow  = 0.85
	aimedHigh = 1.3
)

// partTrace says what a part is wanted at: what the cook asks for rules over how it is
// usually liked.
func (r *run) partTrace(p *pot.Part, served *pot.State) PartTrace {
	k := p.Kinetics
	t := PartTrace{WantedLow: k.WantedLow, WantedHigh: k.WantedHigh, AcidHardens: k.AcidHardens,
		VolumeShare: measure.Ratio(p.Volume(), float64(served.Volume()))}
	if aim := r.plan.Aim; aim != nil && aim.Doneness[p.Name] > 0 {
		asked := aim.Doneness[p.Name]
		t.Aimed, t.WantedLow, t.WantedHigh = true, aimedLow*asked, max(aimedHigh*asked, t.WantedHigh)
		return t
	}
	if p.Mashed >= mashedFrom {
		t.WantedLow, t.WantedHigh = mashedLow, mashedHigh
	}
	return t
}

// The figures that have a range, in the order of an outcome. The doneness of
// each part and the minute of each mark follow.
const (
	figureTotal = iota
	figureHands
	figureFlame
	figureMass
	figureVolume
	figureSweet
	figureOffHeat
	figureHot
	figureWarm
	figureRoom
	figureChilled
	fixedFigures
)

// outcome lists the figures of a run; a thickness that does not apply is NaN.
func (r *run) outcome() []float64 {
	served := r.servedState()
	o := make([]float64, fixedFigures, fixedFigures+8)
	o[figureTotal] = float64(r.total())
	o[figureHands] = float64(r.hands)
	o[figureFlame] = float64(r.flame)
	o[figureMass] = float64(served.Mass())
	o[figureVolume] = float64(served.Volume())
	o[figureSweet] = served.SweetPercent()
	r.protocol(o)
	for _, name := range r.partNames() {
		done := 0.0
		if part := served.Part(name); part != nil {
			done = part.Done
		}
		o = append(o, done)
	}
	for _, m := range r.marks {
		o = append(o, float64(r.first.at(m.local)))
	}
	return o
}

// protocol fills in the thickness from the flame to the chilled bowl.
func (r *run) protocol(o []float64) {
	p := r.first
	o[figureOffHeat] = p.offHeat
	if r.courseOnly {
		for k := figureHot; k <= figureChilled; k++ {
			o[k] = math.NaN()
		}
		return
	}
	state := p.state.Clone()
	end := p.state.Temperature
	stand := func(minutes measure.Minute, c pot.Conditions) {
		for left := float64(minutes) * measure.SecondsPerMinute; left > 0; {
			seconds := min(left, r.restSeconds(state.Temperature))
			state.Step(&c, seconds)
			left -= seconds
		}
	}
	if end >= coldAlreadyC {
		stand(standMinutes, r.conditions(p, 0, false, true))
	}
	o[figureHot] = math.NaN()
	if end >= hotC {
		o[figureHot] = r.grade(&state, hotServedC)
	}
	o[figureWarm] = r.grade(&state, warmC)
	o[figureRoom] = r.grade(&state, roomC)
	if end >= coldAlreadyC {
		c := r.conditions(p, 0, true, true)
		c.Wrapped, c.Ambient = true, fridgeC
		stand(chillMinutes, c)
	}
	o[figureChilled] = r.grade(&state, chilledC)
}

// spreads returns the 10th and the 90th percentile of each figure: the shifts
// by one standard deviation of each uncertain input, upwards and downwards
// apart, added in squares.
func (r *run) spreads(options Options, nominal []float64) (low, high []float64) {
	low, high = slices.Clone(nominal), slices.Clone(nominal)
	if options.NominalOnly || options.CourseOnly {
		return low, high
	}
	coarse := func(s spread) []float64 { return newRun(r.plan, s, coarseSeconds, options, false).outcome() }
	centre := coarse(spread{})
	up, down := make([]float64, len(nominal)), make([]float64, len(nominal))
	shifts := []spread{{power: 1}, {cook: 1}, {uptake: 1}}
	if r.plan.Regulated() {
		shifts = append(shifts, spread{surplus: 1})
	}
	for _, s := range shifts {
		plus := coarse(s)
		minus := coarse(spread{power: -s.power, surplus: -s.surplus, cook: -s.cook, uptake: -s.uptake})
		for k := range nominal {
			if k >= len(plus) || k >= len(minus) || k >= len(centre) {
				continue
			}
			a, b := measure.Finite(plus[k]-centre[k]), measure.Finite(minus[k]-centre[k])
			rise, fall := max(a, b, 0), min(a, b, 0)
			up[k] += rise * rise
			down[k] += fall * fall
		}
	}
	ownSD := thicknessSD
	if offset := r.plan.Calibration.ThicknessOffset; offset != nil && offset.SD != nil {
		ownSD = *offset.SD
	}
	for k := range nominal {
		own := own(k, len(nominal)-len(r.marks)) * nominal[k]
		up[k] += own * own
		down[k] += own * own
		least, most := 0.0, math.Inf(1)
		if k >= figureOffHeat && k <= figureChilled {
			up[k] += ownSD * ownSD
			down[k] += ownSD * ownSD
			least, most = 1, 8
		}
		low[k] = max(least, nominal[k]-measure.Percentile90*math.Sqrt(down[k]))
		high[k] = min(most, nominal[k]+measure.Percentile90*math.Sqrt(up[k]))
	}
	return low, high
}

// What no model knows, as a share of a figure, one standard deviation: how closely a
// cook keeps to the clock, what is weighed and what stays on spoon and wall, and how
// full the sugar's cup was. Source: our own estimate.
const (
	clockSD = 0.04
	massSD  = 0.02
	sweetSD = 0.03
)

// own returns that of a figure; the minutes of the marks are behind the others.
func own(k, marks int) float64 {
	switch {
	case k <= figureFlame || k >= marks:
		return clockSD
	case k == figureMass || k == figureVolume:
		return massSD
	case k == figureSweet:
		return sweetSD
	}
	return 0
}

// servedState is what comes to the table, of all pots that do.
func (r *run) servedState() *pot.State {
	names := r.plan.Served()
	state := r.pans[names[0]].state.Clone()
	for _, name := range names[1:] {
		state.Pour(&r.pans[name].state)
	}
	return &state
}

// partNames lists the cooking parts that are served, sorted. It depends on the
// plan alone, not on the spread.
func (r *run) partNames() []string {
	var names []string
	for _, name := range r.plan.Served() {
		for i := range r.pans[name].state.Parts {
			if part := &r.pans[name].state.Parts[i]; !slices.Contains(names, part.Name) {
				names = append(names, part.Name)
			}
		}
	}
	sort.Strings(names)
	return names
}

func (r *run) total() measure.Minute {
	var total measure.Minute
	for _, name := range r.plan.Served() {
		p := r.pans[name]
		total = max(total, p.at(p.local))
	}
	return total
}

// feltFactor is how sweet the same sugar tastes at the serving temperature.
// Source: the model, section 7.
func feltFactor(serve plan.Serve) float64 {
	switch serve {
	case plan.Room:
		return 0.95
	case plan.Chilled:
		return 0.85
	}
	return 1
}

func doneness(s *pot.State) map[string]float64 {
	all := make(map[string]float64, len(s.Parts))
	for i := range s.Parts {
		all[s.Parts[i].Name] = rounded(s.Parts[i].Done)
	}
	return all
}

func (r *run) result(i int, s *plan.Step, p *pan) StepResult {
	state := &p.state
	mass, volume := state.Size()
	level := p.vessel.Depth(volume)
	name := p.name
	return StepResult{
		Index: i, Do: s.Do, Pot: &name,
		MassG: roundedPtr(float64(mass)), VolumeML: roundedPtr(float64(volume)),
		LevelMM: roundedPtr(float64(level)), TempC: roundedPtr(float64(state.Temperature)),
		EvaporatedG: roundedPtr(float64(p.evaporated)), FreeWaterG: roundedPtr(float64(state.FreeWater())),
		SweetPct: roundedPtr(state.SweetPercent()), Brix: roundedPtr(state.Brix()), PH: roundedPtr(state.PH()),
		Thickness: roundedPtr(r.grade(state, state.Temperature)),
		FillPct:   roundedPtr(100 * measure.Ratio(float64(level), float64(p.vessel.HeightMM))),
		Scorch:    roundedPtr(r.trace[i].Scorch), Watts: roundedPtr(float64(r.watts[i])), Doneness: doneness(state),
	}
}

// clockResults puts every step on the clock of the served pot: preparations
// run backwards from where they are used, and from what is done later in their pan.
func (r *run) clockResults(f *Forecast) {
	begin := make([]measure.Minute, len(r.plan.Steps))
	pans := map[string]measure.Minute{} // when the next thing begins in each pan
	for i := len(r.plan.Steps) - 1; i >= 0; i-- {
		var end measure.Minute
		if s := &r.plan.Steps[i]; s.Do.IsPreparation() {
			if u, used := r.uses[i]; used && u.prep >= 0 {
				end = begin[u.prep]
			} else if used {
				end = u.pan.at(u.local)
			}
			if next, more := pans[s.Pan]; more && s.Pan != "" {
				end = min(end, next)
			}
			begin[i] = end - s.FullMinutes()
			pans[s.Pan] = begin[i]
		} else {
			begin[i] = r.begins[i].pan.at(r.begins[i].local)
			end = r.ends[i].pan.at(r.ends[i].local)
			if next, more := pans[s.PotName()]; !more || begin[i] < next {
				pans[s.PotName()] = begin[i]
			}
		}
		f.Steps[i].StartMin, f.Steps[i].EndMin = rounded(float64(begin[i])), rounded(float64(end))
	}
	first := slices.Min(begin)
	f.Time.PrepMin = rounded(max(0, -float64(first)))
}

func (r *run) markResults(figure func(int) measure.Range, from int) []Mark {
	p := r.first
	empty, weighed := p.vessel.Mass()
	marks := []Mark{}
	for k, m := range r.marks {
		one := Mark{
			Step: m.step, Label: m.label, Minute: figure(from + k),
			MassG: rounded(float64(m.mass)), LevelMM: rounded(float64(m.level)),
		}
		one.BedShare = min(1, measure.Ratio(float64(m.bed), float64(m.level)))
		perMM := float64(p.vessel.MillilitrePerMM(m.level))
		gramsPerML := measure.Ratio(float64(m.mass), float64(m.volume))
		one.MMPer100G = rounded(measure.Ratio(100, gramsPerML*perMM))
		if weighed {
			one.ScaleG = roundedPtr(float64(m.mass + empty))
		}
		marks = append(marks, one)
	}
	return marks
}

// saltPerSodium turns milligrams of sodium into grams of salt. Source:
// Regulation (EU) No 1169/2011, annex I: salt = sodium x 2.5.
const saltPerSodium = 2.5 / 1000

// whole fills in what is said of the finished pudding and of all the matter.
func (r *run) whole(f *Forecast) {
	served := r.servedState()
	mass := float64(served.Mass())
	total := served.Total()
	f.FatPct = rounded(100 * measure.Ratio(total[pot.Fat], mass))
	f.SolidsPct = rounded(100 * measure.Ratio(mass-total[pot.Water], mass))
	sugar := total[pot.Lactose] + total[pot.Sucrose] + total[pot.Glucose] + total[pot.Fructose]
	portion := 1 / float64(r.plan.Serves)
	f.Nutrition = Nutrition{
		EnergyKcal: rounded(total[pot.EnergyKcal] * portion), FatG: rounded(total[pot.Fat] * portion),
		ProteinG:      rounded(total[pot.Protein] * portion),
		CarbohydrateG: rounded((sugar + total[pot.RawStarch] + total[pot.Gel] + total[pot.AromaStarch]) * portion),
		SugarG:        rounded(sugar * portion), FibreG: rounded(total[pot.Fibre] * portion),
		SaltG: rounded(total[pot.SodiumMg] * saltPerSodium * portion),
	}
	f.Allergens = []string{}
	for allergen := range r.allergens {
		f.Allergens = append(f.Allergens, allergen)
	}
	sort.Strings(f.Allergens)

	b := r.balance
	for _, p := range r.pansSorted() {
		b.OutG += float64(p.state.Mass())
	}
	for _, name := range r.bundlesSorted() {
		b.OutG += float64(r.bundles[name].state.Mass())
	}
	b.ErrorG = b.InG - b.EvaporatedG - b.DrainedG - b.VentedG - b.StrainedG - b.OutG
	for _, figure := range []*float64{&b.InG, &b.EvaporatedG, &b.DrainedG, &b.VentedG, &b.StrainedG, &b.OutG} {
		*figure = rounded(*figure)
	}
	const milligram = 1000 // what is left of rounding errors has no digits to show
	b.ErrorG = math.Round(b.ErrorG*milligram) / milligram
	f.MassBalance = b
}

// pansSorted lists the pans in a fixed order, so that sums are always the same.
func (r *run) pansSorted() []*pan {
	var all []*pan
	for _, name := range r.plan.PotNamesSorted() {
		if p, ok := r.pans[name]; ok {
			all = append(all, p)
		}
	}
	return all
}

func (r *run) bundlesSorted() []string {
	names := make([]string, 0, len(r.bundles))
	for name := range r.bundles {
		names = append(names, name)
	}
	sort.Strings(names)
	return names
}
