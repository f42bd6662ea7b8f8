package learn

import (
	"cmp"
	"maps"
	"math"
	"slices"

	"kirdu/core/cook"
	"kirdu/core/forecast"
	"kirdu/core/measure"
	"kirdu/core/pantry"
	"kirdu/core/plan"
)

// Of is what an observation is of.
type Quantity string

// What batches teach.
const (
	Power     Quantity = "power"     // logarithm of the factor on the power into the pot; Key: the burner, Pot: the pot
	CookTime  Quantity = "cook_time" // logarithm of the factor on the cooking time; Key: the grain
	Thickness Quantity = "thickness" // grades that it is thicker than thought
	Whistle   Quantity = "whistle"   // minutes from one to the next
	Sweet     Quantity = "sweet"     // per cent that this household likes more than it got
	Thicker   Quantity = "thicker"   // grades thicker that it likes it than it got it
	Softer    Quantity = "softer"    // logarithm of how much further cooked it likes the grain than it got it
)

// An Observation is what one batch says of one thing, with the standard deviation
// of that saying.
type Observation struct {
	Quantity Quantity `json:"of"`
	Key      string   `json:"key,omitempty"`
	Pot      string   `json:"pot,omitempty"`
	Mean     float64  `json:"mean"`
	SD       float64  `json:"sd"`
	From     Evidence `json:"from,omitzero"`
}

// Evidence is what an observation rests on: how many readings of each kind were believed, and how
// many were not.
type Evidence struct {
	Weighed int `json:"weighed,omitempty"` // and dipped
	Boils   int `json:"boils,omitempty"`   // and first whistles
	Probed  int `json:"probed,omitempty"`
	Felt    int `json:"felt,omitempty"`
	Spooned int `json:"spooned,omitempty"`
	Heard   int `json:"heard,omitempty"` // gaps between whistles
	Eaten   int `json:"eaten,omitempty"` // said at the table
	Doubted int `json:"doubted,omitempty"`
}

// A Verdict is how a batch ate: the grade as eaten, 0 if not said, and what the
// tongue said, as one of the values of cook.Tasted, nil if nothing.
type Verdict struct {
	Grade int
	Eaten plan.Serve
	Taste *float64

	Thicker, Softer *float64 // how it is wanted the next time: -1 less, 0 as it was, 1 more; nil if not said
}

// Wishes in figures, and how sure they are. Source: our own judgement; a cook says "thicker" of about three quarters of
// a grade, "softer" of a quarter more.
const (
	WishGrade = 0.75
	wishSoft  = 0.22 // of a logarithm
	gradeSD   = 0.5
	softSD    = 0.2
)

// WishDone is the factor on the doneness that "softer" stands for; its inverse is "firmer".
func WishDone() float64 { return math.Exp(wishSoft) }

// Sweeter returns how many per cent an answer of a tongue stands for: "too sweet" is 1 too many,
// "far too sweet" 2.5. Source: our own judgement.
func Sweeter(taste float64) float64 {
	const little, far = 1.0, 2.5
	switch {
	case math.Abs(taste) > cook.TooSweet:
		return math.Copysign(far, taste)
	case taste == 0:
		return 0
	}
	return math.Copysign(little, taste)
}

// Standard deviations of what is said at the table, by our own judgement: a grade
// is told as a whole one.
const (
	verdictSD   = 0.7
	tasteSD     = 1.0
	leastSaying = 1e-6 // a precision below it says nothing
)

// FromBatch returns what a finished batch teaches. What was learnt before is taken
// off first, so that every batch speaks for itself.
func FromBatch(p *plan.Plan, s *cook.State, v Verdict) []Observation {
	bare := *s
	bare.Plan = s.Plan.Clone()
	bare.Plan.Calibration = plan.Calibration{}
	replay := Replay(&bare, s.Finished)
	var list []Observation
	for _, pot := range bare.Plan.PotNamesSorted() {
		only, _ := bare.Only(pot)
		went := replay
		if only != &bare {
			went = Replay(only, s.Finished)
		}
		others, _ := beside(only, went, Estimate{1, priorSDOf(went)}, s.Finished)
		seen := observe(only, went, others, s.Finished)
		doubted := seen.believe(went, only.Boiled())
		if seen.none() {
			continue
		}
		prior := Estimate{1, priorSDOf(went)}
		e := estimate(went, prior, seen)
		if mean, sd, says := saying(math.Log(e.Factor), e.SD, prior.SD); says {
			from := Evidence{Weighed: len(seen.weights), Boils: len(seen.boils), Probed: len(seen.temps), Doubted: len(doubted)}
			list = append(list, Observation{Power, went.BurnerOf(pot).Name, went.Pots[pot].Name, mean, sd, from})
		}
		if only == &bare {
			replay.Calibration.Evaporation = &plan.Learnt{Value: e.Factor}
		} else {
			list = append(list, looksOf(only, went)...)
		}
	}
	_, usual := forecast.Whistles(replay)
	whistle := normal{mean: float64(usual), precision: 1 / square(whistlePriorSD)}
	gaps := 0
	for i := range bare.Plan.Steps {
		heard := whistlesOf(&bare, i)
		for k := 1; k < len(heard); k++ {
			whistle.see(heard[k].Sub(heard[k-1]).Minutes(), whistleSD)
			gaps++
		}
	}
	if mean, sd, says := saying(whistle.mean-float64(usual), whistle.sd(), whistlePriorSD); gaps > 0 && says {
		list = append(list, Observation{Quantity: Whistle, Mean: float64(usual) + mean, SD: sd, From: Evidence{Heard: gaps}})
	}
	list = append(list, looksOf(&bare, replay)...)
	others, _ := beside(&bare, replay, Estimate{1, priorSDOf(replay)}, s.Finished)
	seen := observe(&bare, replay, others, s.Finished)
	f := forecast.Run(replay, forecast.Options{NominalOnly: true, Seen: seen.given(-1)})
	if eaten := f.Thickness.As(v.Eaten); v.Grade > 0 && eaten != nil {
		list = append(list, Observation{Quantity: Thickness, Mean: float64(v.Grade) - eaten.Value, SD: verdictSD,
			From: Evidence{Eaten: 1}})
	}
	if v.Taste != nil {
		list = append(list, Observation{Quantity: Sweet, Mean: -Sweeter(*v.Taste), SD: tasteSD, From: Evidence{Eaten: 1}})
	}
	if v.Thicker != nil {
		list = append(list, Observation{Quantity: Thicker, Mean: WishGrade * *v.Thicker, SD: gradeSD, From: Evidence{Eaten: 1}})
	}
	if v.Softer != nil {
		list = append(list, Observation{Quantity: Softer, Mean: wishSoft * *v.Softer, SD: softSD, From: Evidence{Eaten: 1}})
	}
	return list
}

// looksOf returns what fingers and spoon say of a batch.
func looksOf(s *cook.State, replay *plan.Plan) (list []Observation) {
	if len(s.Looks) == 0 {
		return nil
	}
	kinds := map[cook.Kind]int{}
	for _, look := range s.Looks {
		kinds[look.Kind]++
	}
	bare := replay.Clone()
	l := Live{Cook: Estimate{1, cookPriorSD}}
	seen := observations{turns: turnsOf(s, s.Finished)}
	l.looks(s, bare, forecast.Options{Seen: seen.given(-1)})
	for _, slug := range slices.Sorted(maps.Keys(bare.Calibration.CookTime)) {
		learnt := bare.Calibration.CookTime[slug]
		if mean, sd, says := saying(math.Log(learnt.Value), *learnt.SD/learnt.Value, cookPriorSD); says {
			list = append(list, Observation{Quantity: CookTime, Key: slug, Mean: mean, SD: sd, From: Evidence{Felt: kinds[cook.Felt]}})
		}
	}
	if offset := bare.Calibration.ThicknessOffset; offset != nil {
		if mean, sd, says := saying(offset.Value, *offset.SD, thickPriorSD); says {
			list = append(list, Observation{Quantity: Thickness, Mean: mean, SD: sd, From: Evidence{Spooned: kinds[cook.Spooned]}})
		}
	}
	return list
}

// saying takes the prior, which is around zero, off an estimate: what is left is
// what the batch itself says.
func saying(mean, sd, priorSD float64) (own, ownSD float64, says bool) {
	precision := 1/square(sd) - 1/square(priorSD)
	if precision < leastSaying {
		return 0, 0, false
	}
	return mean / square(sd) / precision, 1 / math.Sqrt(precision), true
}

// A Figure is what was learnt of one thing, with its standard deviation for the
// next batch and how many batches speak for it.
type Figure struct {
	Value, SD float64
	Batches   int
}

// Learnt is what all batches together teach. Powers and cooking times are factors,
// their SD is that of the logarithm.
type Learnt struct {
	Burners, Pots, Grains map[string]Figure
	Thickness, Sweet      *Figure
	Thicker, Softer       *Figure
	WhistleMin            *Figure
}

// How much one batch of a kitchen differs from the next although all was the same,
// and how far a thing may be from what is assumed, by kind. Source: the model,
// section 14, for the priors; our own judgement for the rest.
var (
	fromBatchToBatch = map[Quantity]float64{Power: 0.07, CookTime: 0.06, Thickness: 0.3, Whistle: 0.3, Sweet: 0.7, Thicker: 0.4,
		Softer: 0.15}
	assumedWithin = map[Quantity]float64{Power: priorSD, CookTime: cookPriorSD, Thickness: thickPriorSD, Whistle: whistlePriorSD,
		Sweet: 1.5, Thicker: 1, Softer: 0.3}
)

const (
	potSD    = 0.08 // of what a pot adds to its burner: walls, lid, how it stands
	freedom  = 4.0  // of the t distribution that keeps an odd batch from ruling
	passes   = 12
	usualGap = 2.5 // minutes between whistles that are assumed
)

// Combine puts batches together. Each thing has a normal prior around what is
// assumed and observations with the tails of a t distribution of four degrees of
// freedom, fitted by reweighting (Lange, Little and Taylor, 1989): few batches move
// little, and an odd one hardly moves it. What a burner and a pot say together is
// shared out between them, the pot having the narrower prior.
func Combine(batches [][]Observation) Learnt {
	byKey := map[Quantity]map[string][]Observation{}
	var power []Observation
	for _, batch := range batches {
		for _, o := range batch {
			if o.Quantity == Power {
				power = append(power, o)
				continue
			}
			if byKey[o.Quantity] == nil {
				byKey[o.Quantity] = map[string][]Observation{}
			}
			byKey[o.Quantity][o.Key] = append(byKey[o.Quantity][o.Key], o)
		}
	}
	l := Learnt{Burners: map[string]Figure{}, Pots: map[string]Figure{}, Grains: map[string]Figure{}}
	l.powers(power)
	for slug, list := range byKey[CookTime] {
		f := pool(CookTime, list, 0)
		f.Value = math.Exp(f.Value)
		l.Grains[slug] = f
	}
	one := func(of Quantity, centre float64) *Figure {
		list := byKey[of][""]
		if len(list) == 0 {
			return nil
		}
		f := pool(of, list, centre)
		return &f
	}
	l.Thickness, l.Sweet, l.WhistleMin = one(Thickness, 0), one(Sweet, 0), one(Whistle, usualGap)
	l.Thicker, l.Softer = one(Thicker, 0), one(Softer, 0)
	return l
}

// pool is the posterior of one thing around what is assumed.
func pool(of Quantity, list []Observation, centre float64) Figure {
	mean, sd := robust(list, centre, assumedWithin[of], fromBatchToBatch[of])
	return Figure{mean, math.Hypot(sd, fromBatchToBatch[of]), len(list)}
}

func robust(list []Observation, centre, prior, between float64) (mean, sd float64) {
	mean = centre
	for range passes {
		precision, sum := 1/square(prior), centre/square(prior)
		for k, o := range list {
			if alone(list, k, centre, prior, between) {
				continue
			}
			variance := square(o.SD) + square(between)
			weight := (freedom + 1) / (freedom + square(o.Mean-mean)/variance) / variance
			precision, sum = precision+weight, sum+weight*o.Mean
		}
		mean, sd = sum/precision, 1/math.Sqrt(precision)
	}
	return mean, sd
}

// farOff is from how many standard deviations of the prior on what one batch says is not believed
// until another agrees.
const farOff = 2

// alone reports whether an observation is far from what is assumed, and no other agrees.
func alone(list []Observation, k int, centre, prior, between float64) bool {
	if math.Abs(list[k].Mean-centre) < farOff*prior {
		return false
	}
	const agrees = 3 // standard deviations
	for j, other := range list {
		if j != k && math.Abs(other.Mean-list[k].Mean) < agrees*math.Hypot(math.Hypot(other.SD, list[k].SD), between) {
			return false
		}
	}
	return true
}

// Weight is how much what a batch says counts beside what all say together, 0 to 1: next to
// nothing for one that is odd.
func Weight(o Observation, all []Observation, f Figure) float64 {
	centre, at := 0.0, f.Value
	if o.Quantity == Whistle {
		centre = usualGap
	}
	if o.Quantity == Power || o.Quantity == CookTime {
		at = math.Log(f.Value)
	}
	for k := range all {
		if all[k] == o && alone(all, k, centre, assumedWithin[o.Quantity], fromBatchToBatch[o.Quantity]) {
			return 0
		}
	}
	variance := square(o.SD) + square(fromBatchToBatch[o.Quantity])
	return freedom / (freedom + square(o.Mean-at)/variance)
}

// powers shares out what was seen between burners and pots, one after the other
// until both stand still.
func (l *Learnt) powers(list []Observation) {
	burners, pots := map[string]float64{}, map[string]float64{}
	rest := func(key func(Observation) string, name string, other func(Observation) float64) (mine []Observation) {
		for _, o := range list {
			if key(o) == name {
				o.Mean -= other(o)
				mine = append(mine, o)
			}
		}
		return mine
	}
	burnerOf, potOf := func(o Observation) string { return o.Key }, func(o Observation) string { return o.Pot }
	fit := func(last bool) {
		for _, name := range names(list, burnerOf) {
			mine := rest(burnerOf, name, func(o Observation) float64 { return pots[o.Pot] })
			mean, sd := robust(mine, 0, assumedWithin[Power], fromBatchToBatch[Power])
			burners[name] = mean
			if last {
				l.Burners[name] = Figure{math.Exp(mean), math.Hypot(sd, fromBatchToBatch[Power]), len(mine)}
			}
		}
		for _, name := range names(list, potOf) {
			mine := rest(potOf, name, func(o Observation) float64 { return burners[o.Key] })
			mean, sd := robust(mine, 0, potSD, fromBatchToBatch[Power])
			pots[name] = mean
			if last {
				l.Pots[name] = Figure{math.Exp(mean), sd, len(mine)}
			}
		}
	}
	for range passes {
		fit(false)
	}
	fit(true)
}

func names(list []Observation, of func(Observation) string) []string {
	seen := map[string]bool{}
	for _, o := range list {
		seen[of(o)] = true
	}
	return slices.SortedFunc(maps.Keys(seen), cmp.Compare)
}

// Into writes what was learnt into the calibration of a plan, where the plan has
// none of its own.
func (l *Learnt) Into(p *plan.Plan) {
	pot := p.Served()[0]
	burner, knownBurner := l.Burners[p.BurnerOf(pot).Name]
	inPot, knownPot := l.Pots[p.Pots[pot].Name]
	if p.Calibration.Evaporation == nil && knownBurner {
		factor, sd := burner.Value, burner.SD
		if knownPot {
			factor, sd = factor*inPot.Value, math.Hypot(sd, inPot.SD)
		}
		sd *= factor
		p.Calibration.Evaporation = &plan.Learnt{Value: factor, SD: &sd}
	}
	p.Uses(func(m *pantry.Material, _ measure.Gram, _ int) {
		f, known := l.Grains[m.Slug]
		if _, own := p.Calibration.CookTime[m.Slug]; own || !known {
			return
		}
		if p.Calibration.CookTime == nil {
			p.Calibration.CookTime = map[string]plan.Learnt{}
		}
		sd := f.SD * f.Value
		p.Calibration.CookTime[m.Slug] = plan.Learnt{Value: f.Value, SD: &sd}
	})
	if f := l.Thickness; f != nil && p.Calibration.ThicknessOffset == nil {
		sd := f.SD
		p.Calibration.ThicknessOffset = &plan.Learnt{Value: f.Value, SD: &sd}
	}
	if f := l.WhistleMin; f != nil && p.Calibration.WhistleMin == nil {
		sd := f.SD
		p.Calibration.WhistleMin = &plan.Learnt{Value: max(f.Value, 0.3), SD: &sd}
	}
}

// Range is a figure as 10th to 90th percentile, of a factor where it is one.
func (f Figure) Range(factor bool) measure.Range {
	if factor {
		return measure.Range{Value: f.Value, Low: f.Value * math.Exp(-measure.Percentile90*f.SD),
			High: f.Value * math.Exp(measure.Percentile90*f.SD)}
	}
	return measure.Range{Value: f.Value, Low: f.Value - measure.Percentile90*f.SD, High: f.Value + measure.Percentile90*f.SD}
}
