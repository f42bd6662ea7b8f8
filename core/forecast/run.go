package forecast

import (
	"math"
	"slices"

	"kirdu/core/measure"
	"kirdu/core/pantry"
	"kirdu/core/plan"
	"kirdu/core/pot"
	"kirdu/core/vessel"
)

// spread shifts what is uncertain by so many standard deviations.
type spread struct{ power, surplus, cook, uptake float64 }

// Standard deviations. Source: the model, section 14.
const (
	powerSD       = 0.20 // of the power into the pot
	powerTestedSD = 0.08 // after a water test, or learnt
	surplusSD     = 0.30 // of what a cook lets off as steam when simmering or boiling by eye
	surplusKnown  = 0.08 // the same, learnt
	cookSD        = 0.15 // of the cooking time
	uptakeSD      = 0.08
	thicknessSD   = 0.4 // grade
)

// Time steps. Thirty seconds are an eighth of the shortest time constant that
// matters, that of drinking; a test halves them. The ranges are differences of
// coarse runs, whose errors cancel.
const (
	fineSeconds   = 30.0
	coarseSeconds = 120.0
)

// restSeconds returns the step for contents that stand off the heat: three
// times as long while they are hot enough to cook on, eight times below,
// where only cooling and a slow drinking go on, within hours.
func (r *run) restSeconds(temperature measure.Celsius) float64 {
	if temperature > hotC {
		return 3 * r.step
	}
	return 8 * r.step
}

// baseShare is the size of an addition, over what is then in the pot, from
// which "remaining" counts anew. Source: the plan format.
const baseShare = 0.02

// topUpShare is the size of an addition after the last flame, over what is then in the pot,
// from which the level after it is a turning point of its own.
const topUpShare = 0.25

// fridgeC is how cold a refrigerator keeps its air. Source: the model,
// section 3.
const fridgeC measure.Celsius = 4

// A pan is one pot of a plan as it cooks, with a clock of its own. It is
// anchored to the pan that it is poured into, so that it is ready just then.
type pan struct {
	name   string
	vessel vessel.Pot
	burner vessel.Burner
	state  pot.State

	local      measure.Minute // time on its own clock
	anchor     *pan           // whose clock it hangs on; itself for the served pot
	shift      measure.Minute // own clock to the anchor's
	served     bool
	base       measure.Gram // what "remaining" is a share of
	evaporated measure.Gram
	hadWater   bool           // it held a tenth of free water after its latest addition
	dry        measure.Minute // for which it has had hardly any since, over a flame
	hot        measure.Minute // for which the scorch index has been above 1
	bowls      int            // it was portioned into so many; 0: it is in the pot
	browned    bool           // sugar was browned in it: what catches is wanted
	scrambling measure.Minute // for which its egg has been hotter than it stands
	lit        *plan.Step     // the step whose flame is under it
	plate      measure.Watt   // what its burner gave at the end of the latest step over it
	offHeat    float64        // grade when the flame last went off, NaN before that or below 60 °C
	record     *recorder
	seen       []Seen // what was seen of it and is still to come
}

// clock returns the pan at the end of the chain of anchors and a time of p's
// own clock on that pan's.
func (p *pan) clock(local measure.Minute) (root *pan, there measure.Minute) {
	for p.anchor != nil && p.anchor != p {
		local += p.shift
		p = p.anchor
	}
	return p, local
}

// at returns a time of the pan's own clock on that of the served pot.
func (p *pan) at(local measure.Minute) measure.Minute {
	_, there := p.clock(local)
	return there
}

// A bundle is a part that was prepared beside the pots.
type bundle struct {
	state pot.State
	from  int // the preparation that made or last changed it
}

// A use is where a preparation's part was first taken.
type use struct {
	pan   *pan
	local measure.Minute
	prep  int // or the preparation that takes it, -1 if a pan does
}

// A run is one pass through a plan.
type run struct {
	plan    *plan.Plan
	spread  spread
	step    float64 // seconds
	pans    map[string]*pan
	bundles map[string]*bundle
	made    map[string]measure.Gram // of each part, when it was prepared
	uses    map[int]use
	balance MassBalance
	flame   measure.Minute
	hands   measure.Minute
	seen    []Seen

	begins, ends []panTime
	results      []StepResult
	trace        []StepTrace
	masses       []measure.Gram // at the end of each step of a pot
	watts        []measure.Watt // into the pot at the end of each step over a flame
	marks        []mark
	allergens    map[string]bool
	scratch      pot.State
	gaps, after  []float64 // to the targets, before and after a step
	effort       int
	record       bool
	courseOnly   bool
	first        *pan // the first served pot: its clock is that of the forecast
}

type panTime struct {
	pan   *pan
	local measure.Minute
}

// A mark is a turning point of the served pot.
type mark struct {
	step   int
	label  string
	local  measure.Minute
	mass   measure.Gram
	volume measure.Millilitre
	level  measure.Millimetre
	bed    measure.Millimetre // depth of the settled grain
}

func newRun(p *plan.Plan, s spread, seconds float64, options Options, record bool) *run {
	r := &run{
		plan: p, spread: s, step: seconds, record: record, seen: options.Seen,
		pans: map[string]*pan{}, bundles: map[string]*bundle{}, uses: map[int]use{},
		begins: make([]panTime, len(p.Steps)), ends: make([]panTime, len(p.Steps)),
		trace: make([]StepTrace, len(p.Steps)), masses: make([]measure.Gram, len(p.Steps)), watts: make([]measure.Watt, len(p.Steps)),
	}
	if record {
		r.results = make([]StepResult, len(p.Steps))
		r.allergens = map[string]bool{}
		r.made = map[string]measure.Gram{}
	}
	for i, name := range p.Served() {
		served := r.pan(name)
		served.served = true
		if i == 0 {
			served.anchor = served
			r.first = served
			if record {
				served.record = newRecorder()
			}
		}
	}
	for i := range p.Steps {
		r.do(i, &p.Steps[i])
	}
	return r
}

func (r *run) pan(name string) *pan {
	p, ok := r.pans[name]
	if !ok {
		p = &pan{name: name, vessel: r.plan.Pots[name], burner: r.plan.BurnerOf(name), offHeat: math.NaN()}
		p.state.Temperature = r.plan.Kitchen.AmbientC
		p.state.Metal = p.vessel.HeatCapacity()
		for _, one := range r.seen {
			if one.Pot == name || one.Pot == "" && name == r.plan.Served()[0] {
				p.seen = append(p.seen, one)
			}
		}
		r.pans[name] = p
	}
	return p
}

func (r *run) do(i int, s *plan.Step) {
	if s.Do.IsPreparation() {
		r.prepare(i, s)
		return
	}
	p := r.pan(s.PotName())
	if s.Do == plan.Add || s.Do == plan.Caramel {
		r.add(i, s, p)
	}
	r.begins[i] = panTime{p, p.local}
	if s.Do != plan.Add && s.Do != plan.Caramel && len(r.marks) == 0 {
		r.mark(i, "start", p)
	}
	switch s.Do {
	case plan.Heat:
		r.heat(i, s, p)
	case plan.Rest:
		r.rest(i, p, s.FullMinutes(), r.conditions(p, 0, s.Lidded(), true))
	case plan.Pressure:
		r.pressure(i, s, p)
	case plan.Bake:
		r.bake(i, s, p)
	case plan.Caramel:
		r.caramel(i, s, p)
	case plan.Cool:
		r.cool(i, s, p)
	case plan.Hold:
		r.hold(i, s, p)
	case plan.Portion:
		if s.Bowls > 0 {
			p.bowls, p.state.Metal = s.Bowls, 0
		}
	case plan.Mash:
		p.state.Mash(s.Of, *s.Pct)
		r.work(i, s, p)
	case plan.Drain:
		r.balance.DrainedG += float64(p.state.Drain())
		r.work(i, s, p)
	case plan.Chill:
		c := r.conditions(p, 0, true, true)
		c.Wrapped, c.Ambient = true, fridgeC
		const minutesPerHour = 60
		r.rest(i, p, measure.Minute(*s.Hours*minutesPerHour), c)
	}
	r.ends[i] = panTime{p, p.local}
	r.masses[i] = p.state.Mass()
	if r.record {
		fill := measure.Ratio(float64(p.vessel.Depth(p.state.Volume())), float64(p.vessel.HeightMM))
		r.trace[i].PeakFill = max(r.trace[i].PeakFill, fill)
		if p.state.Egg > 0 {
			r.trace[i].EggC = max(r.trace[i].EggC, float64(p.state.Temperature))
		}
		r.sample(p)
		p.record.corner()
		r.results[i] = r.result(i, s, p)
	}
}

// conditions are those of a pan over a power, or off the heat.
func (r *run) conditions(p *pan, power measure.Watt, lid, offHeat bool) pot.Conditions {
	return pot.Conditions{
		Pot: p.vessel, Power: power, Lid: lid, OffHeat: offHeat, Bowls: p.bowls,
		Ambient: r.plan.Kitchen.AmbientC, Humidity: r.plan.Kitchen.HumidityPct / 100, Altitude: r.plan.Kitchen.AltitudeM,
		Uptake: 1 + uptakeSD*r.spread.uptake,
	}
}

// power returns the power into a pan at the flame of a step; of a flame by eye, the
// most that the burner gives.
func (r *run) power(p *pan, s *plan.Step) measure.Watt {
	flame := s.Flame
	switch {
	case s.FlamePct != nil || s.FlameW != nil:
		flame = ""
	case flame.Regulated():
		flame = vessel.High
	}
	power, tested := p.burner.Power(flame, s.FlamePercent())
	if s.FlameW != nil {
		power, tested = *s.FlameW, true
	}
	sd := powerSD
	if tested {
		sd = powerTestedSD
	}
	if learnt := r.plan.Calibration.Evaporation; learnt != nil {
		power *= measure.Watt(learnt.Value)
		sd = powerTestedSD
		if learnt.SD != nil {
			sd = *learnt.SD / learnt.Value
		}
	}
	return power * measure.Watt(max(0.05, 1+sd*r.spread.power))
}

// surplus returns the factor on what is let off as steam at a boil kept by eye.
func (r *run) surplus() float64 {
	factor, sd := 1.0, surplusSD
	if learnt := r.plan.Calibration.Evaporation; learnt != nil {
		factor, sd = learnt.Value, surplusKnown
		if learnt.SD != nil {
			sd = *learnt.SD / learnt.Value
		}
	}
	return factor * max(0.05, 1+sd*r.spread.surplus)
}

// PowerInto returns the factor on the power into a pot by what is known of it, and
// its standard deviation as a share of it.
func PowerInto(p *plan.Plan, pot string) (factor, sd float64) {
	switch learnt := p.Calibration.Evaporation; {
	case learnt != nil && learnt.SD != nil:
		return learnt.Value, *learnt.SD / learnt.Value
	case learnt != nil:
		return learnt.Value, powerTestedSD
	case p.Regulated():
		return 1, surplusSD
	case len(p.BurnerOf(pot).FlameW) > 0:
		return 1, powerTestedSD
	}
	return 1, powerSD
}

// take fetches one item for a pan, or for a preparation when into is nil. A
// grain is named name, or by its material when that is ""; beside is what it
// will be poured into, whose names are taken already.
func (r *run) take(item plan.Item, name string, step int, into *pan, beside *pot.State) pot.State {
	switch {
	case item.Part != "":
		made := r.bundles[item.Part]
		if _, used := r.uses[made.from]; !used {
			r.uses[made.from] = use{prep: step}
			if into != nil {
				r.uses[made.from] = use{pan: into, local: into.local, prep: -1}
			}
		}
		return made.state.Take(item.Portion())
	case item.Pot != "":
		from := r.pan(item.Pot)
		if into != nil {
			r.join(into, from)
		}
		return from.state.Take(item.Portion())
	}
	// Read has refused every plan in which this could be an error.
	material, mass, _ := r.plan.Weigh(item)
	if item.AboveMM > 0 {
		mass = material.Bulk.Times(beside.LiquidAbove(into.vessel, item.AboveMM))
	}
	if name == "" {
		name = item.Material
	}
	name = plan.UniqueName(name, func(n string) bool { return beside.Part(n) != nil })
	added := pot.New(material, mass, r.plan.Kitchen.AmbientC, name)
	r.calibrate(&added, material)
	r.balance.InG += float64(mass)
	if r.record {
		for _, allergen := range material.Allergens {
			r.allergens[allergen] = true
		}
	}
	return added
}

// calibrate applies what is known and what is uncertain of a grain's time.
func (r *run) calibrate(s *pot.State, material *pantry.Material) {
	if len(s.Parts) == 0 {
		return
	}
	factor, sd := 1.0, cookSD
	if learnt, ok := r.plan.Calibration.CookTime[material.Slug]; ok {
		factor = learnt.Value
		if learnt.SD != nil {
			sd = *learnt.SD / learnt.Value
		}
	}
	s.Parts[0].Cook *= factor * max(0.05, 1+sd*r.spread.cook)
}

// join brings the clocks of two pans together where one is poured into the
// other. A pan that hangs on no served pot yet is ready just in time.
func (r *run) join(into, from *pan) {
	intoRoot, intoNow := into.clock(into.local)
	fromRoot, fromNow := from.clock(from.local)
	switch {
	case intoRoot != fromRoot && fromRoot.anchor == nil:
		fromRoot.anchor, fromRoot.shift = intoRoot, intoNow-fromNow
	case intoRoot != fromRoot && intoRoot.anchor == nil:
		intoRoot.anchor, intoRoot.shift = fromRoot, fromNow-intoNow
	case intoNow > fromNow:
		r.rest(-1, from, intoNow-fromNow, r.conditions(from, 0, false, true))
	case intoNow < fromNow && !into.served: // the served pot never waits
		r.rest(-1, into, fromNow-intoNow, r.conditions(into, 0, false, true))
	}
}

func (r *run) add(i int, s *plan.Step, p *pan) {
	var mass measure.Gram
	for _, item := range liquidsLast(s.Items) {
		added := r.take(item, "", i, p, &p.state)
		if s.TempC != nil {
			added.Temperature = *s.TempC
		}
		if s.Topping {
			added.LayOnTop()
		}
		mass += added.Mass()
		p.state.Pour(&added)
	}
	total := p.state.Mass()
	if float64(mass) >= baseShare*float64(total) {
		p.base = total
	}
	if float64(mass) >= topUpShare*float64(total) && len(r.marks) > 0 && !r.heatedAfter(i) {
		if last := &r.marks[len(r.marks)-1]; p == r.first && last.label == "done" {
			last.label = "add " + r.adds(s) // there is more to come
		}
		r.mark(i, "all in", p)
	}
	p.hadWater, p.dry = float64(p.state.FreeWater()) >= wetPot*float64(total), 0
}

// wetPot is the share of free water, over the mass, that makes a pot one that can boil
// dry; dryPot the one below which it is dry. Source: the watchpoint table.
const (
	wetPot = 0.10
	dryPot = 0.01
)

// liquidsLast puts liquids that are measured by the finger behind the solids
// that they stand above.
func liquidsLast(items []plan.Item) []plan.Item {
	sorted := slices.Clone(items)
	slices.SortStableFunc(sorted, func(a, b plan.Item) int {
		switch {
		case a.AboveMM == 0 && b.AboveMM > 0:
			return -1
		case a.AboveMM > 0 && b.AboveMM == 0:
			return 1
		}
		return 0
	})
	return sorted
}
