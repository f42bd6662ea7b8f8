// Package watch holds the watchpoints: rules that look at a plan and its forecast
// and find what will go wrong. What they find are facts; words says them, and mend
// cures them.
package watch

import (
	"slices"
	"sort"

	"kirdu/core/forecast"
	"kirdu/core/measure"
	"kirdu/core/pantry"
	"kirdu/core/plan"
)

// An ID names a rule, as the forecast document does.
type ID string

// A Limit is where a rule begins to speak.
type Limit struct {
	Severity forecast.Severity
	Value    float64
	Unit     string // of Value; "" for a share, a grade or a doneness
	Source   string
}

// Sources of limits.
const (
	table   = "the watchpoint table, docs/rules.md"
	hygiene = "general kitchen hygiene; local rules come first"
	own     = "our own judgement"
)

// A Rule looks for one thing. Limits are those it holds numbers against, the
// mildest first; a rule without any speaks of what is there, or holds a part against
// figures of its own material.
type Rule struct {
	ID     ID
	Mends  bool // an edit of the plan may mend it; else it is advice in words
	Limits []Limit
	Check  func(*plan.Plan, *forecast.Forecast) []Finding
}

// A Finding is what a rule has seen.
type Finding struct {
	Rule     ID
	Severity forecast.Severity
	Step     int
	Part     string // the part, or the slug of the material, that it is about; "" for the pot
	Evidence
	Detail
}

// Evidence is the number compared and what it was held against, each with its
// name in the forecast document.
type Evidence struct {
	Name    string
	Value   float64
	Against string
	Limit   float64
}

// Detail is what a sentence says beyond the evidence. Each field belongs to few
// rules, and is empty for the others.
type Detail struct {
	Done      float64            // doneness of the part
	Never     bool               // it does not get done at all
	Cold      bool               // the pot never comes to the boil
	May       bool               // its value alone is beyond the limit, not all of its range
	PH        float64            // of the milk
	Need      measure.Millilitre // a pot that would hold it
	Filled    measure.Millilitre // what is to go in, where the pot holds less
	Names     []string           // allergens, or slugs of what is whole
	Loosen    measure.Gram       // of hot milk
	Grade     float64            // as served
	Conflict  *plan.Disagreement
	Prepared  bool // it comes in a slurry
	Syrup     bool
	Cooker    bool // of a closed cooker
	Second    bool // the second stretch of cooling
	FryFor    measure.Minute
	SodaGrams float64 // as much as is right
}

// cautions are the rules that always hold where such a step is: they are said at the step,
// and are no watchpoints of the plan.
var cautions = []ID{"pressure-cooker", "wood-fire", "hot-sugar", "hot-fat"}

// IsCaution reports whether a rule is a caution that always holds.
func (id ID) IsCaution() bool { return slices.Contains(cautions, id) }

// Rules returns every rule, in the order in which they are asked.
func Rules() []Rule { return slices.Clone(rules) }

// The rules, with the limits of each.
var rules = []Rule{
	{"sweet-before-soft", true, []Limit{sugarDelays}, sweetBeforeSoft},
	{"pulse-acid-early", true, []Limit{pulseSoft}, pulseAcidEarly},
	{"thick-coconut-boiled", true, []Limit{belowBoil}, thickCoconutBoiled},
	{"acid-split", true, []Limit{SplitMay, splitLikely, splitSure}, acidSplit},
	{"raw-vegetable-in-milk", true, []Limit{rawTissue}, rawVegetableInMilk},
	{"egg-scrambled", true, []Limit{eggHot}, eggScrambled},
	{"egg-underdone", true, []Limit{eggUnsafe}, eggUnderdone},
	{"yogurt-hot", true, []Limit{YogurtWarm}, yogurtHot},
	{"boil-over", true, []Limit{FoamRoom, foamOver}, boilOver},
	{"lid-on-milk", true, []Limit{lidded}, lidOnMilk},
	{"too-full", true, []Limit{BrimRoom}, tooFull},
	{"cooker-too-full", false, []Limit{CookerRoom, PulseRoom}, cookerTooFull},
	{"scorch", true, []Limit{Scorching}, scorch},
	{"boiled-dry", true, []Limit{dry, dryCooker}, boiledDry},
	{"weak-flame", true, nil, weakFlame},
	{"cools-no-further", false, []Limit{cools}, coolsNoFurther},
	{"starch-lumps", true, []Limit{dryFlour, slurry}, starchLumps},
	{"gritty-meal", true, []Limit{hotForMeal}, grittyMeal},
	{"pearls-clump", true, []Limit{PearlsPacking}, pearlsClump},
	{"pearls-unsoaked", true, []Limit{smallSoak, largeSoak}, pearlsUnsoaked},
	{"undercooked-grain", true, nil, undercookedGrain},
	{"mushy-grain", true, nil, mushyGrain},
	{"never-reached", false, nil, neverReached},
	{TooThin, true, []Limit{aimMiss}, tooThin},
	{TooThick, true, []Limit{aimMiss}, tooThick},
	{"too-thick-cold", false, []Limit{stiffChilled, stiffer}, tooThickCold},
	{"thin-milk", true, []Limit{thinFat}, thinMilk},
	{"greasy", true, []Limit{greasyFat}, greasy},
	{"soda-too-much", true, []Limit{SodaTastes, sodaSpoils}, sodaTooMuch},
	{"aroma-early", true, []Limit{scentGoes}, aromaEarly},
	{"garnish-burn", true, nil, garnishBurn},
	{"carry-over-caramel", true, []Limit{lightCaramel}, carryOverCaramel},
	{"heavy-pot", false, []Limit{heavy}, heavyPot},
	{"scale-limit", false, nil, scaleLimit},
	{WarmTooLong, true, []Limit{standing}, warmTooLong},
	{"cooling-slow", true, []Limit{coolNote, chillNote, coolLong, chillLong}, coolingSlow},
	{"raw-milk", true, nil, rawMilk},
	{"allergens", false, nil, allergensIn},
	{"choking", true, nil, choking},
	{"measure-conflict", false, []Limit{measuresApart}, measureConflict},
	{"pressure-cooker", false, []Limit{CookerRoom}, pressureCooker},
	{"wood-fire", false, nil, woodFire},
	{"hot-sugar", false, []Limit{hotSugar}, hotSugarThere},
	{"hot-fat", false, nil, hotFat},
}

// Rules that other packages ask for by name.
const (
	TooThin     ID = "too-thin"
	TooThick    ID = "too-thick"
	WarmTooLong ID = "warm-too-long"
)

// Findings asks every rule. The worst come first, then the earliest.
func Findings(p *plan.Plan, f *forecast.Forecast) []Finding {
	found := []Finding{}
	for _, rule := range rules {
		found = append(found, rule.ask(p, f)...)
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

// Of asks one rule.
func Of(id ID, p *plan.Plan, f *forecast.Forecast) []Finding {
	for _, rule := range rules {
		if rule.ID == id {
			return rule.ask(p, f)
		}
	}
	return nil
}

func (r Rule) ask(p *plan.Plan, f *forecast.Forecast) []Finding {
	found := r.Check(p, f)
	for k := range found {
		found[k].Rule = r.ID
	}
	return found
}

// RoundingMargin is by how much a figure without a range must be beyond a limit of
// quality: less is rounding. Source: our own judgement.
const RoundingMargin = 0.02

// beyond holds a figure with its range against a limit, to the side 1 above it or -1
// below. All of the range beyond is likely; the value alone is a note, that it may be.
func beyond(r measure.Range, limit, side float64) (speaks, may bool) {
	if side*r.Value <= side*limit {
		return false, false
	}
	nearest := r.Low
	if side < 0 {
		nearest = r.High
	}
	if r.Low == r.High { // no range is known
		return side*(r.Value-limit) > RoundingMargin*limit, false
	}
	return true, side*nearest <= side*limit
}

// perhaps makes a finding a note where it only may be.
func (f Finding) perhaps(may bool) Finding {
	if f.May = may; may {
		f.Severity = forecast.Note
	}
	return f
}

// speaks returns the finding of a limit.
func (l Limit) speaks(step int, name string, value float64) Finding {
	return Finding{Severity: l.Severity, Step: step, Evidence: Evidence{name, value, "threshold", l.Value}}
}

// one is a list of one finding.
func one(f Finding) []Finding { return []Finding{f} }

// with adds what a sentence says beyond the evidence.
func (f Finding) with(d Detail) Finding {
	f.Detail = d
	return f
}

// about names what a finding is about.
func (f Finding) about(part string) Finding {
	f.Part = part
	return f
}

// before returns the result of the latest step of the same pot, nil for the
// first.
func before(f *forecast.Forecast, i int) *forecast.StepResult {
	for j := i - 1; j >= 0; j-- {
		if f.Steps[j].Pot != nil && f.Steps[i].Pot != nil && *f.Steps[j].Pot == *f.Steps[i].Pot {
			return &f.Steps[j]
		}
	}
	return nil
}

// brings reports whether a step puts something in that fits.
func brings(p *plan.Plan, i int, fits func(*pantry.Material) bool) bool {
	if p.Steps[i].Do != plan.Add {
		return false
	}
	return slices.ContainsFunc(p.Steps[i].Items, func(item plan.Item) bool {
		m, ok := p.Pantry().Material(item.Material)
		return ok && fits(m)
	})
}

// ServedThickness returns the grade as served and whether it applies.
func ServedThickness(p *plan.Plan, f *forecast.Forecast) (float64, bool) {
	served := f.Thickness.As(p.Serve)
	if served == nil {
		return 0, false
	}
	return served.Value, true
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
