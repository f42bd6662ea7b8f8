package design

import (
	"cmp"
	"math"
	"slices"

	"kirdu/core/forecast"
	"kirdu/core/measure"
	"kirdu/core/pantry"
	"kirdu/core/plan"
)

// A Sweetening is when the sweetener goes into the served pot, and when it
// might.
type Sweetening struct {
	Step   int
	Minute float64
	End    float64 // when the flame goes off for the last time
	// From and To are the window in which it goes in well: when all is soft
	// without it, and as late as it can still dissolve. From is above To where
	// there is no such window: then it is best at the end.
	From, To float64
	Acid     bool // it waits for a pulse, which acid keeps hard
}

// Source of the doneness to wait for: the watchpoint table. Sugar takes some
// minutes to dissolve and be tasted: our own estimate, 2 to 5.
const (
	softForSugar, softForAcid = 1.0, 1.2
	dissolveMinutes           = 3.0
)

// SweeteningOf finds the moment of the sweetener and its window. ok is false for
// a plan whose served pot is never sweetened over the flame.
func SweeteningOf(p *plan.Plan, f *forecast.Forecast) (s Sweetening, ok bool) {
	s.Step = p.SugarStep()
	last := lastHeat(p)
	if s.Step < 0 || last < 0 || p.Steps[s.Step].PotName() != p.Served()[0] {
		return s, false
	}
	s.Minute, s.End = f.Steps[s.Step].StartMin, f.Steps[last].EndMin
	s.To = s.End - dissolveMinutes
	without := forecast.Run(p.Unsweetened(s.Step), forecast.Options{CourseOnly: true})
	for name := range without.Curve.Doneness {
		soft := softForSugar
		if without.Parts[name].AcidHardens {
			soft, s.Acid = softForAcid, true
		}
		s.From = max(s.From, without.DoneAt(name, soft))
	}
	// A cooker and an oven are closed until they are done.
	for i := range p.Steps {
		closed := p.Steps[i].Do == plan.Pressure || p.Steps[i].Do == plan.Bake
		if r := &f.Steps[i]; closed && p.Steps[i].PotName() == p.Served()[0] && s.From > r.StartMin && s.From < r.EndMin {
			s.From = r.EndMin
		}
	}
	return s, s.End > 0
}

// SweetenAt returns the plan with its sweetener going into the served pot at a
// minute of its clock. A step over the flame in the middle of which that falls
// is parted: what is left of its target follows. Two parts that an earlier move
// made become one again. ok is false where the plan has no sweetener to move.
func SweetenAt(p *plan.Plan, minute float64) (moved *plan.Plan, ok bool) {
	moved = p.Clone()
	at := moved.SplitSweet(moved.SugarStep())
	if at < 0 {
		return p, false
	}
	sweet := moved.Steps[at]
	if sweet.PotName() != p.Served()[0] || !moved.RemoveStep(at) {
		return p, false
	}
	if at > 0 && at < len(moved.Steps) {
		regrow(moved, at-1)
	}
	keepReductions(p, moved, sweetMass(moved, sweet))
	f := forecast.Run(moved, forecast.Options{CourseOnly: true})
	place, into := placeAt(moved, f, minute)
	if place < 0 {
		return p, false
	}
	if into > 0 {
		part(moved, place, into)
		place++
	}
	moved.InsertStep(place, sweet)
	keepReductions(p, moved, sweetMass(moved, sweet))
	return moved, true
}

// keepReductions sets the marks of the moved plan so that as much boils away
// before each as in the plan before: a share of what went in is another share
// when the sugar counts.
func keepReductions(before, moved *plan.Plan, sugar float64) {
	was := forecast.Run(before, forecast.Options{CourseOnly: true})
	from, to := reductions(before), reductions(moved)
	for k := range min(len(from), len(to)) {
		target := *was.Steps[from[k]].MassG
		if at := before.SugarStep(); at >= 0 && at < from[k] {
			target -= sugar
		}
		if at := moved.SugarStep(); at >= 0 && at < to[k] {
			target += sugar
		}
		until := *moved.Steps[to[k]].Until
		now := forecast.Run(moved, forecast.Options{CourseOnly: true})
		base := *now.Steps[to[k]].MassG / *until.RemainingPct
		left := measure.RoundSignificant(min(measure.Ratio(target, base), 100), 3)
		if math.Abs(left-*until.RemainingPct) > 0.5 {
			until.RemainingPct = &left
			moved.Steps[to[k]].Until = &until
		}
	}
}

// reductions lists the steps of the served pot that end at a share of what went
// in.
func reductions(p *plan.Plan) []int {
	var list []int
	for i := range p.Steps {
		if u := p.Steps[i].Until; p.Steps[i].Do == plan.Heat && p.Steps[i].PotName() == p.Served()[0] && u.RemainingPct != nil {
			list = append(list, i)
		}
	}
	return list
}

func sweetMass(p *plan.Plan, s plan.Step) (sum float64) {
	count := func(items []plan.Item, share float64) {
		for _, item := range items {
			if _, mass, err := p.Weigh(item); err == nil {
				sum += float64(mass) * share
			}
		}
	}
	count(s.Items, 1)
	for _, item := range s.Items {
		if at := p.Maker(item.Part); at >= 0 {
			count(p.Steps[at].Items, item.Portion())
		}
	}
	return sum
}

// placeAt returns the place in front of which a minute falls, and how many
// minutes into the step there; a minute near its edge is its edge.
func placeAt(p *plan.Plan, f *forecast.Forecast, minute float64) (place int, into float64) {
	const edge = 1.0
	place = -1
	for i := range p.Steps {
		s, r := &p.Steps[i], &f.Steps[i]
		if s.Do.IsPreparation() || s.PotName() != p.Served()[0] || (s.Do != plan.Heat && s.Do != plan.Add) {
			continue
		}
		switch {
		case s.Do == plan.Add && r.StartMin <= minute+edge:
			place, into = i+1, 0 // never before what it sweetens
		case s.Do == plan.Heat && minute > r.EndMin-edge:
			place, into = i+1, 0
		case s.Do == plan.Heat && minute > r.StartMin+edge:
			return i, minute - r.StartMin
		case s.Do == plan.Heat:
			if place < 0 {
				place = i
			}
			return place, 0
		}
	}
	return place, 0
}

// part makes two of a step over the flame, the first so many minutes long.
func part(p *plan.Plan, at int, into float64) {
	first := p.Steps[at]
	second := first
	whole := math.Max(1, math.Round(into))
	first.Until = &plan.Until{Minutes: minutes(whole)}
	until := *p.Steps[at].Until
	if until.Minutes != nil {
		until.Minutes = minutes(math.Max(1, math.Round(float64(*until.Minutes)-whole)))
	}
	second.Until, second.Note = &until, ""
	p.Steps[at] = first
	p.InsertStep(at+1, second)
}

// regrow makes one of two steps over the same flame, the first of which is timed.
func regrow(p *plan.Plan, at int) {
	a, b := &p.Steps[at], &p.Steps[at+1]
	if a.Do != plan.Heat || b.Do != plan.Heat || a.Flame != b.Flame || a.FlamePct != nil || b.FlamePct != nil ||
		a.Stirring() != b.Stirring() || a.Lidded() != b.Lidded() || a.PotName() != b.PotName() || a.Until.Minutes == nil ||
		a.Until.RemainingPct != nil {
		return
	}
	until := *b.Until
	if until.Minutes != nil {
		until.Minutes = minutes(float64(*a.Until.Minutes + *until.Minutes))
	}
	joined := *b
	joined.Until, joined.Note = &until, a.Note
	p.Steps[at] = joined
	p.RemoveStep(at + 1)
}

// A Sweetener is what one material brings to the sweetness of a pudding.
type Sweetener struct {
	Material string  // slug
	Pct      float64 // of the finished pudding, as sucrose
}

// SweetnessFrom lists what each material that goes in brings to the sweetness, the most
// first, rounded to a tenth of a per cent; what is hardly sweet stands together under ""
// at the end. They add up to the rounded whole: of what is poured away with a drained
// liquid, or strained off, each has lost its share.
func SweetnessFrom(p *plan.Plan, f *forecast.Forecast) []Sweetener {
	onTop := map[string]bool{}
	for i := range p.Steps {
		if p.Steps[i].Topping {
			for _, item := range p.Steps[i].Items {
				onTop[item.Part] = true
			}
		}
	}
	sum, whole := map[string]float64{}, 0.0
	p.Uses(func(m *pantry.Material, mass measure.Gram, step int) {
		s := &p.Steps[step]
		if grams := m.Sweetness() * float64(mass); !s.Topping && (s.Name == "" || !onTop[s.Name]) {
			sum[m.Slug] += grams
			whole += grams
		}
	})
	const tenths, least = 10, 0.05 // per cent: below, nobody tastes it
	total := f.Sweetness.Pct.Value
	left := math.Round(total*tenths) / tenths
	var list []Sweetener
	for slug, grams := range sum {
		if pct := total * measure.Ratio(grams, whole); pct >= least {
			list = append(list, Sweetener{slug, math.Round(pct*tenths) / tenths})
		}
	}
	slices.SortFunc(list, func(a, b Sweetener) int {
		return cmp.Or(cmp.Compare(b.Pct, a.Pct), cmp.Compare(a.Material, b.Material))
	})
	for _, one := range list {
		left -= one.Pct
	}
	switch left = math.Round(left*tenths) / tenths; {
	case left > 0:
		list = append(list, Sweetener{"", left})
	case left < 0 && len(list) > 0: // rounded up too often: the largest can spare it
		list[0].Pct = math.Round((list[0].Pct+left)*tenths) / tenths
	}
	return list
}

// GramsPerPercent returns how much more of the plan's first sweetener makes it
// one per cent sweeter, and its slug; "" where there is none.
func GramsPerPercent(p *plan.Plan, f *forecast.Forecast) (slug string, grams measure.Gram) {
	at := p.SugarStep()
	if at < 0 {
		return "", 0
	}
	items := p.Steps[at].Items
	for _, item := range items {
		if from := p.Maker(item.Part); from >= 0 {
			items = append(slices.Clone(items), p.Steps[from].Items...)
		}
	}
	for _, item := range items {
		if m, ok := p.Pantry().Material(item.Material); ok && m.Kind == "sweetener" {
			is := f.Sweetness.Pct.Value
			return m.Slug, measure.Gram(Sweetens(m, f.Yield.MassG.Value, is, is+1))
		}
	}
	return "", 0
}

// Sweetens returns how many grams of a sweetener bring a mass from one sweetness to
// another, in per cent: what is stirred in is in the mass that it is a per cent of.
func Sweetens(m *pantry.Material, mass, from, to float64) float64 {
	const least = 0.1 // of what is hardly sweeter than the pudding no amount would do
	return mass * (to - from) / 100 / max(m.Sweetness()-to/100, least)
}

// Sweeter makes a plan so many per cent sweeter, or less sweet, by its sweeteners.
// It leaves alone what is hardly sweet at all.
func Sweeter(p *plan.Plan, more float64) {
	f := forecast.Run(p, forecast.Options{NominalOnly: true})
	own := 0.0 // of the sweetness, what sweeteners bring: milk's stays
	for _, one := range SweetnessFrom(p, f) {
		if m, ok := p.Pantry().Material(one.Material); ok && m.Kind == "sweetener" {
			own += one.Pct
		}
	}
	const twice = 2 // less than that and it would turn into another pudding
	if own > twice*math.Abs(more) {
		p.ScaleSweeteners(1 + more/own)
	}
}

// Dilution returns how much that is not sweet makes a pudding one per cent less
// sweet, 0 where it has no per cent to lose.
func Dilution(f *forecast.Forecast) measure.Gram {
	if pct := f.Sweetness.Pct.Value; pct > 1 {
		return measure.Gram(f.Yield.MassG.Value / (pct - 1))
	}
	return 0
}

// SugarHeat returns the minutes that the served pot is over the flame after the
// sugar went in: what browns it.
func SugarHeat(p *plan.Plan, f *forecast.Forecast) (sum float64) {
	for i := p.SugarStep() + 1; i < len(p.Steps); i++ {
		if s := &p.Steps[i]; s.Do == plan.Heat && s.Burns() && s.PotName() == p.Served()[0] {
			sum += f.Steps[i].EndMin - f.Steps[i].StartMin
		}
	}
	return sum
}
