package forecast

import (
	"math"

	"kirdu/core/measure"
	"kirdu/core/plan"
	"kirdu/core/pot"
)

// Parameters of the pressure cooker. Source: the model, sections 3 and 5.
const (
	pressureOver     measure.Kelvin = 18  // above the boiling point of the moment
	pressureEnds     measure.Kelvin = -2  // where it is when it can be opened
	ventGrams        measure.Gram   = 8   // a whistle
	usualWhistle     measure.Minute = 2.5 // from one to the next
	firstWhistle     measure.Minute = 1.5 // so much sooner comes the first
	naturalStart     measure.Minute = 4   // of the natural release, and
	naturalPerKilo   measure.Minute = 3   // so much more for each kg
	gramsPerKilogram                = 1000
)

// pressure runs a closed cooker: up to pressure over the full flame, held
// there, and down again.
func (r *run) pressure(i int, s *plan.Step, p *pan) {
	begin := p.local
	full := plan.Step{Do: plan.Heat, Flame: "high", FlameW: s.FlameW}
	c := r.conditions(p, r.power(p, &full), true, false)
	c.Sealed = true
	top := func() measure.Celsius {
		return pot.BoilingPoint(r.plan.Kitchen.AltitudeM, p.state.Brix()) + measure.Celsius(pressureOver)
	}
	reach := []target{{func(p *pan) float64 { return float64(top() - p.state.Temperature) }}}
	limit := begin + plan.Until{}.Guard()
	opens, seen := opened(p)
	if seen {
		limit = opens
	}
	r.sample(p)
	for there := r.aim(reach, p); !there; {
		left := float64(limit-p.local) * measure.SecondsPerMinute
		if left <= instant {
			r.trace[i].NeverReached = !seen
			break
		}
		there = r.advance(i, p, &c, min(r.step, left), reach)
	}
	r.watts[i] = c.Used
	minutes, whistles := r.whistles(s)
	down := func() measure.Minute {
		if s.Release == plan.Quick {
			return 0
		}
		return naturalStart + naturalPerKilo*measure.Minute(p.state.Mass()/gramsPerKilogram)
	}
	reached := !seen || p.local < opens
	if seen {
		minutes = max(opens-p.local-down(), 0)
	}
	r.keepAt(i, p, minutes, &c, 0, func(float64) measure.Celsius { return top() })
	r.flame += p.local - begin
	r.vent(p, p.state.Vent(ventGrams*measure.Gram(whistles)))
	atOpening := func() measure.Celsius { return top() - measure.Celsius(pressureOver-pressureEnds) }
	if s.Release == plan.Quick && reached {
		r.vent(p, p.state.Flash(atOpening(), pressureOver))
	} else if s.Release != plan.Quick {
		falls := down()
		if seen {
			falls = max(opens-p.local, 0)
		}
		r.keepAt(i, p, falls, &c, 0, func(share float64) measure.Celsius {
			return top() - measure.Celsius(share*float64(pressureOver-pressureEnds))
		})
		if reached {
			p.state.Temperature = atOpening()
		}
	}
	r.hands += measure.Minute(stirShare[plan.StirNone]) * (p.local - begin)
	r.noteOffHeat(p)
	r.mark(i, "opened", p)
}

// opened returns when a cooker was seen to be opened, on the clock of its pan.
func opened(p *pan) (at measure.Minute, seen bool) {
	for _, one := range p.seen {
		if one.Opened && one.Minute > p.local {
			return one.Minute, true
		}
	}
	return 0, false
}

// Whistles returns how long a cooker is under pressure until its first whistle,
// and how long it takes from one to the next.
func Whistles(p *plan.Plan) (first, between measure.Minute) {
	between = usualWhistle
	if learnt := p.Calibration.WhistleMin; learnt != nil {
		between = measure.Minute(learnt.Value)
	}
	return max(between-firstWhistle, 0), between
}

// Held returns how long a cooker is held at pressure.
func Held(p *plan.Plan, s *plan.Step) measure.Minute {
	first, between := Whistles(p)
	switch {
	case s.Whistles == 0:
		return s.FullMinutes()
	case s.Minutes != nil: // they count from the first whistle
		return first + *s.Minutes
	}
	return max(between*measure.Minute(s.Whistles)-firstWhistle, 1)
}

// whistles returns how long a cooker is held at pressure and how often it
// whistles meanwhile.
func (r *run) whistles(s *plan.Step) (measure.Minute, float64) {
	held := Held(r.plan, s)
	if s.Whistles > 0 {
		return held, float64(s.Whistles)
	}
	_, between := Whistles(r.plan)
	return held, float64(held / between)
}

// vent accounts for steam that left by the valve.
func (r *run) vent(p *pan, mass measure.Gram) {
	p.evaporated += mass
	r.balance.VentedG += float64(mass)
}

// keepAt cooks a pan at a temperature that something else holds; at returns it
// for the share of the time that has passed, 0 to 1.
func (r *run) keepAt(i int, p *pan, minutes measure.Minute, c *pot.Conditions, evaporation float64,
	at func(share float64) measure.Celsius) {
	begin := p.local
	end := begin + minutes
	r.sample(p)
	for {
		left := float64(end-p.local) * measure.SecondsPerMinute
		if left <= instant {
			break
		}
		seconds := min(r.step, left)
		passed := float64(p.local-begin) + seconds/measure.SecondsPerMinute
		r.effort += stepWork + len(p.state.Parts)
		lost := p.state.Keep(c, at(measure.Ratio(passed, float64(minutes))), evaporation, seconds)
		p.evaporated += lost
		r.balance.EvaporatedG += float64(lost)
		p.local += measure.Minute(seconds / measure.SecondsPerMinute)
		if r.record {
			r.watched(i, p, c, measure.Minute(seconds/measure.SecondsPerMinute))
		}
	}
	p.local = end
}

// noteOffHeat notes the thickness with which a pan comes off the heat.
func (r *run) noteOffHeat(p *pan) {
	p.offHeat = math.NaN()
	if p.state.Temperature >= hotC {
		p.offHeat = r.grade(&p.state, p.state.Temperature)
	}
}

// Parameters of oven and slow cooker. Source: the model, section 3.
const (
	ovenMost        measure.Celsius = 92 // an open dish gets no hotter: its own steam holds it
	ovenCoveredMost measure.Celsius = 97
	ovenBelowBoil   measure.Kelvin  = 2
	slowMost        measure.Celsius = 92
	slowBelowBoil   measure.Kelvin  = 3
	ovenTime                        = 25.0 // min, to come near by a factor e
	ovenOpen                        = 0.34 // of Carrier's evaporation
	ovenCovered                     = 0.05
	microwaveShare                  = 0.6 // of its power into the food
	stirOnceMinutes measure.Minute  = 0.5
)

// bake cooks in an oven, a slow cooker or a microwave oven.
func (r *run) bake(i int, s *plan.Step, p *pan) {
	minutes := s.FullMinutes()
	if every := s.StirEveryMin; every != nil {
		r.hands += stirOnceMinutes * measure.Minute(math.Floor(float64(minutes / *every)))
	}
	defer r.noteOffHeat(p)
	if s.BakeIn == plan.Microwave {
		c := r.conditions(p, *s.PowerW*microwaveShare, s.Covered, false)
		r.rest(i, p, minutes, c)
		r.mark(i, "baked", p)
		return
	}
	boiling := pot.BoilingPoint(r.plan.Kitchen.AltitudeM, p.state.Brix())
	to, evaporation := min(slowMost, boiling-measure.Celsius(slowBelowBoil)), ovenCovered
	if s.BakeIn != "slow-cooker" {
		most := ovenCoveredMost
		if !s.Covered {
			most, evaporation = ovenMost, ovenOpen
		}
		to = min(most, boiling-measure.Celsius(ovenBelowBoil), *s.OvenC)
	}
	from := p.state.Temperature
	c := r.conditions(p, 0, s.Covered, false)
	r.keepAt(i, p, minutes, &c, evaporation, func(share float64) measure.Celsius {
		return to + (from-to)*measure.Celsius(math.Exp(-share*float64(minutes)/ovenTime))
	})
	r.mark(i, "baked", p)
}

// bathLoss is how much faster a pot gives off its heat in cold water. Source:
// the model, section 3.
const bathLoss = 8

// coolsNear is how near to its surroundings a cooling is waited for; the rest takes for
// ever. Source: the model, section 3.
const coolsNear measure.Celsius = 2

// longestCooling bounds a cooling that never gets there.
const longestCooling measure.Minute = 48 * 60

// cool brings a pan down to a temperature, covered unless it says otherwise.
func (r *run) cool(i int, s *plan.Step, p *pan) {
	c := r.conditions(p, 0, s.Lidded(), true)
	switch s.Where {
	case "water-bath":
		c.Ambient, c.Loss = r.plan.Kitchen.TapC, bathLoss
	case "fridge":
		c.Ambient, c.Wrapped = fridgeC, s.Lidded()
	}
	goal := *s.ToC
	if nearest := c.Ambient + coolsNear; goal < nearest {
		goal = nearest
		r.trace[i].CoolsTo.See(float64(nearest))
	}
	reach := []target{{func(p *pan) float64 { return float64(p.state.Temperature - goal) }}}
	begin := p.local
	r.sample(p)
	for reached := r.aim(reach, p); !reached; {
		if p.local-begin >= longestCooling {
			r.trace[i].NeverReached = true
			break
		}
		reached = r.advance(i, p, &c, r.restSeconds(p.state.Temperature), reach)
	}
	r.mark(i, "cool", p)
}

// hold keeps a pan warm, covered, at its temperature.
func (r *run) hold(i int, s *plan.Step, p *pan) {
	at := p.state.Temperature
	if s.TempC != nil {
		at = *s.TempC
	}
	c := r.conditions(p, 0, true, true)
	r.keepAt(i, p, s.FullMinutes(), &c, pot.LidShare*pot.StillAir, func(float64) measure.Celsius { return at })
}

// Browning of dry sugar: the temperature of each colour, and what amber costs.
// Source: the model, section 3; between the colours in proportion to the
// degrees above the melting.
var browned = map[plan.Browning]measure.Celsius{plan.LightAmber: 165, plan.Amber: amberC, plan.DarkAmber: 180}

const (
	sugarHeat      = 1.3  // J/(g K)
	sugarMelting   = 60.0 // J/g
	sugarLoss      = 10.0 // W/(m² K) from its top
	meltC          = 160.0
	amberC         = 172.0
	amberMass      = 0.10 // of the mass
	amberSweetness = 0.15 // of the sweetness
	darkestC       = 185.0
	carryOver      = measure.Minute(1) // that it browns on, off the flame
)

// caramel browns dry sugar until it has a colour, or for some minutes.
func (r *run) caramel(i int, s *plan.Step, p *pan) {
	heat := *s
	if heat.Flame == "" && heat.FlamePct == nil && heat.FlameW == nil {
		heat.Flame = "medium"
	}
	c := r.conditions(p, r.power(p, &heat), false, false)
	goal, minutes := measure.Celsius(darkestC), longestCaramel
	if s.Until != nil && s.Until.Browning != "" {
		goal = browned[s.Until.Browning]
	} else {
		minutes = s.FullMinutes()
	}
	spent, temperature := p.state.Brown(&c, goal, minutes, pot.Browning{
		Heat: sugarHeat, Melting: sugarMelting, At: meltC, Most: darkestC, Loss: sugarLoss})
	switch {
	case s.Minutes != nil:
		spent = minutes // at its darkest it stands on
	case temperature < goal-1:
		r.trace[i].NeverReached = true
	}
	r.trace[i].CaramelC = float64(temperature)
	share := max(0, float64(temperature)-meltC) / (amberC - meltC)
	lost := p.state.Caramelise(amberMass*share, amberSweetness*share)
	p.evaporated += lost
	r.balance.EvaporatedG += float64(lost)
	p.local += spent
	r.watts[i] = c.Power
	r.flame += spent
	r.hands += spent + carryOver
	p.hadWater, p.browned = false, true // what was dry before is no pot that boiled dry
	r.mark(i, "caramel", p)
}

// longestCaramel bounds a caramel over too small a flame.
const longestCaramel measure.Minute = 60
