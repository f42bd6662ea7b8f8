package forecast

import (
	"fmt"

	"kirdu/core/convert"
	"kirdu/core/measure"
	"kirdu/core/plan"
	"kirdu/core/pot"
)

// defaultSoakC is how warm soaking water is. Source: the plan format.
const defaultSoakC measure.Celsius = 24

// panC is how warm grain and garnish come out of the pan in which they were
// roasted or fried: hotter at the metal, cooler once they are out. A few dozen
// grams of dry matter hardly warm a pot, so that this matters little.
const panC measure.Celsius = 120

// fatClings is the fat that stays on a garnish lifted out with a slotted spoon, in g per g
// of it. Source: our own estimate; nuts and raisins hardly take any up.
const fatClings = 0.1

// prepare makes a part beside the pots, or works on one made before.
func (r *run) prepare(i int, s *plan.Step) {
	r.hands += s.HandsOn()
	if s.Do == plan.Press {
		r.press(i, s)
		return
	}
	state, name := r.gather(i, s)
	switch s.Do {
	case plan.Soak:
		r.soak(i, s, &state)
	case plan.Roast, plan.Fry:
		if s.Fat != nil {
			fat := r.take(*s.Fat, "", i, nil, &state)
			if r.plan.LeavesFat(s) {
				clings := fat.Take(min(1, measure.Ratio(fatClings*float64(state.Mass()), float64(fat.Mass()))))
				fat.Temperature = panC
				r.keep(i, s, plan.FatOf(name), fat)
				fat = clings
			}
			state.Pour(&fat)
		}
		if s.Do == plan.Roast {
			state.Roast()
		}
		state.Temperature = panC
	case plan.Mix:
		state.Swell(s.FullMinutes())
	case plan.Grind:
		state.Grind(string(s.To))
	case plan.Squeeze:
		r.balance.DrainedG += float64(state.Squeeze(*s.Pct))
	case plan.Steam:
		state.Steam(s.FullMinutes(), r.plan.Kitchen.AltitudeM)
	case plan.Melt:
		state.Temperature = pot.BoilingPoint(r.plan.Kitchen.AltitudeM, state.Brix())
		if s.Strained() {
			lost := state.Take(convert.StrainLoss)
			r.balance.StrainedG += float64(lost.Mass())
		}
	}
	r.keep(i, s, name, state)
}

// gather takes what a preparation works on: a part made before, or its items.
func (r *run) gather(i int, s *plan.Step) (pot.State, string) {
	state := pot.State{Temperature: r.plan.Kitchen.AmbientC}
	name := s.Name
	if s.Of != "" {
		made := r.bundles[s.Of]
		state = made.state
		r.uses[made.from] = use{prep: i}
		delete(r.bundles, s.Of)
		if name == "" {
			name = s.Of
		}
		for j := range state.Parts {
			if state.Parts[j].Name == s.Of {
				state.Parts[j].Name = name
			}
		}
	}
	for _, item := range s.Items {
		added := r.take(item, name, i, nil, &state)
		state.Pour(&added)
	}
	return state, name
}

// keep stores a part for the addition that takes it.
func (r *run) keep(i int, s *plan.Step, name string, state pot.State) {
	r.bundles[name] = &bundle{state: state, from: i}
	r.masses[i] += state.Mass()
	if r.record {
		r.made[name] = state.Mass()
		r.results[i] = StepResult{Index: i, Do: s.Do, MassG: roundedPtr(float64(r.masses[i])), Doneness: doneness(&state)}
	}
}

// soak lets a part stand in water or in another liquid.
func (r *run) soak(i int, s *plan.Step, state *pot.State) {
	temperature := defaultSoakC
	if s.TempC != nil {
		temperature = *s.TempC
	}
	taken := state.Soak(s.FullMinutes(), temperature)
	if s.In == nil {
		r.balance.InG += float64(taken)
		return
	}
	bath := r.take(*s.In, "", i, nil, state)
	short := max(0, taken-bath.FreeWater()) // topped up from the tap
	r.balance.InG += float64(short)
	bath.Liquid[pot.Water] -= float64(taken - short)
	if s.KeepLiquid {
		state.Pour(&bath)
	} else {
		r.balance.DrainedG += float64(bath.Mass())
	}
}

// press makes the coconut milks NAME.1, NAME.2 and so on; the wrung pulp is
// strained off.
func (r *run) press(i int, s *plan.Step) {
	ambient := r.plan.Kitchen.AmbientC
	meat := measure.Gram(s.Coconuts) * r.plan.Coconut()
	for _, item := range s.Items {
		_, mass, _ := r.plan.Weigh(item) // Read has refused what cannot be weighed
		meat += mass
	}
	water := make([]measure.Millilitre, len(s.Presses))
	in := meat
	for k, press := range s.Presses {
		water[k] = press.WaterML
		in += measure.Gram(press.WaterML)
	}
	r.balance.InG += float64(in)
	milks, pulp, err := convert.Press(meat, water)
	if err != nil { // Read lets no press without meat or water through
		return
	}
	r.balance.StrainedG += float64(pulp.Mass())
	if r.record {
		r.allergens["coconut"] = true
	}
	for k, milk := range milks {
		name := fmt.Sprintf("%s.%d", s.Name, k+1)
		temperature := ambient
		if warm := s.Presses[k].TempC; warm != nil && meat+measure.Gram(water[k]) > 0 {
			// Water holds about twice the heat of the moist meat, gram for gram.
			const meatHeat = 0.7
			weight := float64(water[k]) / (float64(water[k]) + meatHeat*float64(meat))
			temperature = ambient + measure.Celsius(weight*float64(warm.Sub(ambient)))
		}
		r.keep(i, s, name, pot.New(milk.Material(name, name), milk.Mass(), temperature, name))
	}
}

// work lets a pot stand for the minutes in which it is mashed or drained.
func (r *run) work(i int, s *plan.Step, p *pan) {
	minutes := s.FullMinutes()
	r.hands += minutes
	if minutes > 0 {
		r.rest(i, p, minutes, r.conditions(p, 0, false, true))
	}
}
