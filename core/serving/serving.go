package serving

import (
	"cmp"
	"fmt"
	"math"
	"slices"

	"kirdu/core/forecast"
	"kirdu/core/measure"
	"kirdu/core/numeric"
	"kirdu/core/pantry"
	"kirdu/core/plan"
	"kirdu/core/vessel"
)

// A Standing is a pudding some minutes after it came off the heat.
type Standing struct {
	Minute  measure.Minute
	Celsius measure.Celsius
	Grade   measure.Range
	Loosen  measure.Gram // of the liquid that brings it to the wanted grade; 0: none is needed
	Reached float64      // the grade with that much
}

// OffHeat returns the plan until it comes off the heat: without what stands, cools
// or is shared out at its end, and what is laid on top after that.
func OffHeat(p *plan.Plan) *plan.Plan {
	until := p.Clone()
	for n := len(until.Steps); n > 1; n-- {
		switch step := &until.Steps[n-1]; {
		case slices.Contains([]plan.Verb{plan.Rest, plan.Cool, plan.Chill, plan.Hold, plan.Portion}, step.Do):
			until.Steps = until.Steps[:n-1]
		case !step.Topping:
			return until
		}
	}
	return until
}

// Stand returns how thick a pudding is at some minutes after it came off the heat,
// standing covered or open in its pot, and how much of a liquid brings it to a
// grade at that moment: hot while it is warm itself, cold when it is cold. wanted is
// 1 to 8, the minutes rise, 0 to 24 hours.
func Stand(p *plan.Plan, minutes []float64, covered bool, liquid string, wanted float64) []Standing {
	base := OffHeat(p)
	whole := forecast.Run(base, forecast.Options{})
	spread := 0.0
	if r := whole.Thickness.OffHeat; r != nil {
		spread = (r.High - r.Low) / 2
	}
	list := make([]Standing, 0, len(minutes))
	for _, at := range minutes {
		stood := base.Clone()
		if at > 0 {
			m := measure.Minute(at)
			stood.Steps = append(stood.Steps, base.IntoServed(plan.Step{Do: plan.Rest, Minutes: &m, Lid: &covered}))
		}
		grade, celsius := after(stood)
		one := Standing{Minute: measure.Minute(at), Celsius: measure.Celsius(celsius),
			Grade: measure.Range{Value: grade, Low: grade - spread, High: grade + spread}, Reached: grade}
		const near = 0.1
		if grade > wanted+near {
			one.Loosen, one.Reached = loosen(stood, liquid, celsius, wanted)
		}
		list = append(list, one)
	}
	return list
}

// lastOf is the last step of the served pot.
func lastOf(p *plan.Plan) int {
	last := 0
	for i := range p.Steps {
		if !p.Steps[i].Do.IsPreparation() && p.Steps[i].PotName() == p.Served()[0] {
			last = i
		}
	}
	return last
}

// after returns thickness and temperature at the end of a plan.
func after(p *plan.Plan) (grade, celsius float64) {
	f := forecast.Run(p, forecast.Options{NominalOnly: true})
	r := f.Steps[lastOf(p)]
	if r.Thickness == nil || r.TempC == nil {
		return 0, 0
	}
	return *r.Thickness, *r.TempC
}

// Temperatures of what loosens a pudding, and how much of it there may be at most,
// over the pudding.
const (
	hotLiquid  measure.Celsius = 80
	coldLiquid measure.Celsius = 5
	warmFrom                   = 30.0 // °C: from there on it is loosened hot
	mostLiquid                 = 0.6
)

// halvings find an amount of liquid to a 256th of the most there may be.
const halvings = 8

// loosen finds the amount by halving.
func loosen(stood *plan.Plan, liquid string, celsius, wanted float64) (measure.Gram, float64) {
	f := forecast.Run(stood, forecast.Options{CourseOnly: true})
	mass := 0.0
	if m := f.Steps[lastOf(stood)].MassG; m != nil {
		mass = *m
	}
	temperature := coldLiquid
	if celsius >= warmFrom {
		temperature = hotLiquid
	}
	with := func(grams float64) float64 {
		more := stood.Clone()
		more.Steps = append(more.Steps, stood.IntoServed(plan.Step{Do: plan.Add, TempC: &temperature,
			Items: []plan.Item{{Material: liquid, Amount: fmt.Sprintf("%.2f g", grams)}}}))
		grade, _ := after(more)
		return grade
	}
	found, _ := numeric.Halve(numeric.Bracket{High: mostLiquid * mass}, halvings, func(x float64) bool { return with(x) > wanted })
	grams := measure.Weighable(measure.Gram(found.High))
	return grams, with(math.Max(float64(grams), 0.01))
}

// A Cooled pudding is how long one way of cooling takes.
type Cooled struct {
	Where plan.Where      // counter, water-bath, fridge
	Bowls int             // ladled into so many first; 0: in its pot
	First measure.Celsius // 21, or the room where that is warmer
	To60  measure.Minute  // until the hours begin to count
	ToLow measure.Minute  // from 60 °C to First
	To6   measure.Minute  // and on, in the refrigerator, to 6 °C
	Safe  bool            // within two hours, and four more
}

// Cool returns how long a pudding takes from 60 to 21 and on to 6 °C, the last
// always in the refrigerator, by where it stands first; and how long in its bowls, which
// go into the refrigerator at once. A tray is not ladled out.
func Cool(p *plan.Plan) []Cooled {
	var list []Cooled
	for _, where := range plan.Wheres() {
		list = append(list, coolAt(p, where, 0))
	}
	if served := p.Served(); len(served) == 1 && p.Pots[served[0]].Shape != vessel.Tray {
		list = append(list, coolAt(p, plan.Fridge, p.Serves))
	}
	return list
}

// coolAt cools a pudding in its pot, or ladled into so many bowls.
func coolAt(p *plan.Plan, where plan.Where, bowls int) Cooled {
	base := OffHeat(p)
	if bowls > 0 {
		base.Steps = append(base.Steps, base.IntoServed(plan.Step{Do: plan.Portion, Bowls: bowls}))
	}
	const cold, above measure.Celsius = forecast.SafeCold + 1, 2
	counts, first, last := forecast.SafeHot, forecast.Lukewarm, cold
	if where == plan.Counter {
		first = max(first, base.Kitchen.AmbientC+above)
	}
	for _, step := range []plan.Step{{Do: plan.Cool, ToC: &counts, Where: where}, {Do: plan.Cool, ToC: &first, Where: where},
		{Do: plan.Cool, ToC: &last, Where: plan.Fridge}} {
		base.Steps = append(base.Steps, base.IntoServed(step))
	}
	f := forecast.Run(base, forecast.Options{CourseOnly: true})
	lasts := func(back int) measure.Minute {
		r := f.Steps[len(f.Steps)-back]
		return measure.Minute(r.EndMin - r.StartMin)
	}
	one := Cooled{Where: where, Bowls: bowls, First: first, To60: lasts(3), ToLow: lasts(2), To6: lasts(1)}
	one.Safe = first == forecast.Lukewarm && one.ToLow <= forecast.MostWarm && one.To6 <= forecast.MostChills
	return one
}

// A Cut is a way to cut a tray into equal pieces.
type Cut struct {
	Rows, Columns int
	Long, Wide    measure.Millimetre // of a piece
	Each          measure.Gram
}

// Cuts returns how a tray that holds so much is cut into a number of pieces, the
// squarest first; none where the served pot is no tray.
func Cuts(p *plan.Plan, pieces int, mass measure.Gram) (list []Cut) {
	pot := p.Pots[p.Served()[0]]
	if pot.LengthMM <= 0 || pieces < 1 {
		return nil
	}
	for rows := 1; rows <= pieces; rows++ {
		if pieces%rows == 0 {
			columns := pieces / rows
			list = append(list, Cut{rows, columns, pot.LengthMM / measure.Millimetre(columns), pot.WidthMM / measure.Millimetre(rows),
				mass / measure.Gram(pieces)})
		}
	}
	square := func(c Cut) float64 { return math.Abs(math.Log(float64(c.Long / c.Wide))) }
	slices.SortStableFunc(list, func(a, b Cut) int { return cmp.Compare(square(a), square(b)) })
	return list
}

// A Reheated pudding was cold and is heated once more, with liquid, to where it is
// safe to eat.
type Reheated struct {
	Minutes measure.Range // over a low flame, stirred
	Loosen  measure.Gram  // of the liquid, stirred in before
	Grade   measure.Range // as it is eaten then
}

// reheatC is what is reheated must reach. Source: the model, section 13.
const reheatC measure.Celsius = 74

// Reheat returns how a pudding out of the refrigerator is brought to 74 °C and to a
// grade. ok is false for what must not be heated again: yogurt weeps, egg scrambles,
// first-press coconut breaks.
func Reheat(p *plan.Plan, liquid string, wanted float64) (r Reheated, ok bool) {
	fragile := false
	p.Uses(func(m *pantry.Material, _ measure.Gram, _ int) {
		fragile = fragile || m.MustNotBoil()
	})
	if fragile {
		return r, false
	}
	hours, target, lid, guard := 4.0, reheatC, false, measure.Minute(90)
	cold := OffHeat(p)
	cold.Steps = append(cold.Steps, p.IntoServed(plan.Step{Do: plan.Chill, Hours: &hours}))
	fridge := measure.Celsius(5)
	with := func(grams float64) (*plan.Plan, int) {
		warm := cold.Clone()
		if grams > 0 {
			warm.Steps = append(warm.Steps, p.IntoServed(plan.Step{Do: plan.Add, TempC: &fridge,
				Items: []plan.Item{{Material: liquid, Amount: fmt.Sprintf("%.2f g", grams)}}}))
		}
		warm.Steps = append(warm.Steps, p.IntoServed(plan.Step{Do: plan.Heat, Flame: vessel.Medium, Lid: &lid, Stir: plan.StirConstant,
			Until: &plan.Until{TempC: &target, MaxMinutes: &guard}}))
		return warm, len(warm.Steps) - 1
	}
	grade := func(grams float64) float64 {
		warm, _ := with(grams)
		g, _ := after(warm)
		return g
	}
	mass := 0.0
	if m := forecast.Run(cold, forecast.Options{CourseOnly: true}).Steps[lastOf(cold)].MassG; m != nil {
		mass = *m
	}
	const near = 0.1
	if grade(0) > wanted+near {
		found, _ := numeric.Halve(numeric.Bracket{High: mostLiquid * mass}, halvings, func(x float64) bool { return grade(x) > wanted })
		r.Loosen = measure.Weighable(measure.Gram(found.High))
	}
	warm, last := with(float64(r.Loosen))
	f := forecast.Run(warm, forecast.Options{})
	lasts := f.Steps[last].EndMin - f.Steps[last].StartMin
	// Its range is that of the whole, by the share it has of the flame.
	share := measure.Ratio(lasts, f.Time.TotalMin.Value)
	r.Minutes = measure.Range{Value: lasts, Low: max(0, lasts-share*(f.Time.TotalMin.Value-f.Time.TotalMin.Low)),
		High: lasts + share*(f.Time.TotalMin.High-f.Time.TotalMin.Value)}
	reached, spread := grade(float64(r.Loosen)), 0.0
	if off := f.Thickness.OffHeat; off != nil {
		spread = (off.High - off.Low) / 2
	}
	r.Grade = measure.Range{Value: reached, Low: max(1, reached-spread), High: min(8, reached+spread)}
	return r, true
}
