// Package balance works backwards: from what a pudding should be to the
// amounts, the reduction and the flame that make it so.
package balance

import (
	"cmp"
	"errors"
	"fmt"
	"math"
	"slices"

	"kirdu/core/forecast"
	"kirdu/core/measure"
	"kirdu/core/pantry"
	"kirdu/core/plan"
	"kirdu/core/vessel"
)

// Aims of a pudding reduced in milk. Source: the table of the ways.
const (
	aimHot     = 3.6 // grade
	aimSweet   = 12.0
	aimDone    = 1.8
	aimPortion = 160.0 // g a bowl
)

// ErrNoGrain reports a choice that is no grain of the pantry.
var ErrNoGrain = errors.New("choose a grain of the pantry")

// ErrNoPot reports that there is nothing to cook in.
var ErrNoPot = errors.New("there is no pot in the kitchen yet; add one first")

// FreshGrains lists the grains that a pudding reduced in milk can start from:
// those that are cooked through within the time milk takes to thicken.
func FreshGrains(p *pantry.Pantry) []*pantry.Material {
	const longest = 24 // min to cook: more wants soaking or pressure first
	var grains []*pantry.Material
	for _, m := range p.All() {
		if m.Behaviour != pantry.Grain || m.Kinetics.AcidHardens || m.Kinetics.CookMinutes > longest {
			continue
		}
		switch m.Kind {
		case "rice", "millet":
		case "wheat":
			if m.Kinetics.ReleaseDone > 0.1 {
				continue // meal and flakes are whisked, not simmered
			}
		default:
			continue
		}
		if m.Slug == "rice-cooked" || m.Kinetics.CookMinutes < 10 {
			continue
		}
		grains = append(grains, m)
	}
	return grains
}

// bowlsHeadroom is how high milk may stand at the boil, a little below what
// the watchpoint allows.
const bowlsHeadroom = 0.56

// Fresh returns a new pudding reduced in milk that meets the aims of its way in
// the cook's own pots: of pots and flames it takes those that leave the grain
// as it is liked. Errors: ErrNoGrain, ErrNoPot.
func Fresh(choice plan.WayChoice, pots []vessel.Pot) (*plan.Plan, error) {
	grain, ok := pantry.Standard().Material(choice.Grain)
	if !ok || grain.Behaviour != pantry.Grain {
		return nil, fmt.Errorf("%w: %q", ErrNoGrain, choice.Grain)
	}
	if len(pots) == 0 {
		return nil, ErrNoPot
	}
	var best *plan.Plan
	least := math.Inf(1)
	for _, pot := range fitting(pots, choice.Bowls) {
		choice.Pot = pot
		for _, flame := range []vessel.Flame{vessel.MediumLow, vessel.Medium, vessel.MediumHigh, vessel.High} {
			for _, remaining := range []float64{62, 68, 74, 80} {
				p, cost := fit(choice, grain, flame, remaining)
				if cost < least {
					best, least = p, cost
				}
			}
		}
	}
	return best, nil
}

// fitting returns the two smallest pots that hold the milk with room for foam,
// or the largest one if none does.
func fitting(pots []vessel.Pot, bowls int) []vessel.Pot {
	sorted := slices.Clone(pots)
	slices.SortStableFunc(sorted, func(a, b vessel.Pot) int { return cmp.Compare(a.Capacity(), b.Capacity()) })
	const leastRemaining, most = 0.8, 2
	liquid := measure.Millilitre(aimPortion * float64(bowls) / leastRemaining)
	for i, pot := range sorted {
		if pot.SafeFill(bowlsHeadroom) >= liquid {
			return sorted[i:min(i+most, len(sorted))]
		}
	}
	return sorted[len(sorted)-1:]
}

// PotFor returns the smallest pot that holds so many bowls with room for foam,
// or the largest if none does. Error: ErrNoPot.
func PotFor(pots []vessel.Pot, bowls int) (vessel.Pot, error) {
	if len(pots) == 0 {
		return vessel.Pot{}, ErrNoPot
	}
	return fitting(pots, bowls)[0], nil
}

// fit finds milk, grain and sugar for one pot, flame and reduction, and says
// how far the rest is from the aims.
func fit(choice plan.WayChoice, grain *pantry.Material, flame vessel.Flame, remaining float64) (*plan.Plan, float64) {
	yield := aimPortion * float64(choice.Bowls)
	a := plan.WayAmounts{
		Milk: measure.Millilitre(yield / remaining * 100), Grain: measure.Gram(0.09 * yield), Sugar: measure.Gram(0.1 * yield),
		RemainingPct: remaining, Simmer: flame,
	}
	// Secant steps for the grain, in the logarithm of its mass, from the slope
	// that short-grain rice has; sugar and milk follow mass for mass.
	const rounds, usualSlope, leastSlope, mostSlope, longestStep = 12, 2.0, 0.8, 4.0, 0.7
	slope, lastGrade, lastLog := usualSlope, 0.0, 0.0
	var p *plan.Plan
	var f *forecast.Forecast
	for range rounds {
		a.Milk = measure.Millilitre(10 * math.Round(float64(a.Milk)/10))
		a.Grain, a.Sugar = measure.Weighable(a.Grain), measure.Weighable(a.Sugar)
		p = plan.NewReducedInMilk(choice, a, grain.ShortName())
		hot := *p
		if choice.Serve == plan.Chilled {
			hot.Steps = p.Steps[:len(p.Steps)-2] // judged before it is chilled
		}
		f = forecast.Run(&hot, forecast.Options{NominalOnly: true})
		if f.Thickness.Hot == nil {
			return p, math.Inf(1)
		}
		grade, sweet, mass := f.Thickness.Hot.Value, f.Sweetness.Pct.Value, f.Yield.MassG.Value
		if math.Abs(grade-aimHot) < 0.1 && math.Abs(sweet-aimSweet) < 0.2 && math.Abs(mass/yield-1) < 0.02 {
			break
		}
		logGrain := math.Log(float64(a.Grain))
		if lastGrade != 0 && math.Abs(logGrain-lastLog) > 0.02 {
			slope = min(max((grade-lastGrade)/(logGrain-lastLog), leastSlope), mostSlope)
		}
		lastGrade, lastLog = grade, logGrain
		a.Grain *= measure.Gram(math.Exp(min(max((aimHot-grade)/slope, -longestStep), longestStep)))
		a.Sugar += measure.Gram((aimSweet - sweet) / 100 * mass)
		a.Milk *= measure.Millilitre(yield / mass)
		a.Sugar = max(a.Sugar, 5)
	}
	return p, distance(f, choice, grain)
}

// distance weighs how far a forecast is from the aims of the way.
func distance(f *forecast.Forecast, choice plan.WayChoice, grain *pantry.Material) float64 {
	done := f.Doneness[grain.Slug].Value
	wanted := min(max(aimDone, grain.Kinetics.WantedLow+0.2), grain.Kinetics.WantedHigh-0.2)
	cost := math.Abs(math.Log(math.Max(done, 0.05)/wanted)) * 3
	if done < grain.Kinetics.WantedLow || done > grain.Kinetics.WantedHigh {
		cost += 10
	}
	cost += 2 * math.Abs(f.Thickness.Hot.Value-aimHot)
	cost += math.Abs(f.Sweetness.Pct.Value - aimSweet)
	for _, trace := range f.Trace {
		if trace.NeverReached || trace.DriedOut {
			cost += 100
		}
		cost += 200 * max(0, trace.PeakBoilFill-bowlsHeadroom)
	}
	cost += float64(choice.Pot.Capacity()) / 1e5 // of two as good, the smaller pot
	cost += f.Time.TotalMin.Value / 200          // and the shorter time
	return cost
}
