package pot

import (
	"math"

	"kirdu/core/measure"
	"kirdu/core/vessel"
)

// Conditions are what the surroundings do to a pot.
type Conditions struct {
	Pot      vessel.Pot
	Power    measure.Watt    // into the pot
	Lid      bool            // covered: little evaporates
	Wrapped  bool            // wrapped or in the refrigerator: nothing evaporates
	OffHeat  bool            // resting, cooling, chilling, held
	Ambient  measure.Celsius // of the air around
	Humidity float64         // of that air, 0 to 1
	Altitude float64         // m
	Uptake   float64         // factor on the uptake of grain; 0 means 1
	Loss     float64         // factor on the heat given off, as in a water bath; 0 means 1
	Sealed   bool            // a closed cooker: no steam leaves, and it may pass the boiling point

	outside float64 // Pa, see vapour
}

// Parameters of heat and evaporation. Source: the model, section 3; the still
// air coefficient is Carrier's (1918).
const (
	latentHeat    = measure.LatentHeat
	stillAir      = 0.004 // kg/(s m²) per 1e5 Pa
	stillAirGrams = stillAir * 1000 / 1e5
	LidShare      = 0.12  // of the open evaporation, below the boil
	lidBoil       = 0.35  // of the open evaporation, at the boil
	dryShare      = 0.01  // free water below which boiling no longer holds the temperature
	dryLimit      = 180.0 // °C, where the cook has long noticed
	BoilingMargin = 0.3   // K below the boiling point that count as boiling
)

// Parameters of cooking. Source: the model, section 5.
const (
	cookReference     = 98.0  // °C of the cooking times
	cookTenfold       = 30.0  // K for ten times the speed
	cookFrom          = 62.0  // °C, below it nothing cooks
	idleFreeWater     = 0.02  // of the mass
	idleHeld          = 0.3   // g/g
	hydrationTime     = 240.0 // s
	hydrationTimeOff  = 25 * 60.0
	hydrationTimeCold = 4 * 3600.0
	hydrationCold     = 40.0  // °C
	hydrationAhead    = 0.35  // doneness added to what the uptake of a resting grain
	hydrationLimit    = 0.004 // of the free water per second
	tissueTime        = 60.0  // s
	gelTime           = 60.0  // s
	gelFrom           = 78.0  // °C
	eggTime           = 90.0  // s
	eggFrom           = 74.0  // °C
	toastMinutes      = 2.0
	roastCook         = 1.05
	roastRelease      = 0.8
)

// Step lets the contents stand or cook for seconds and returns the grams of
// water that evaporated. Everything that relaxes does so by its exact
// exponential, the temperature by that of its linearised balance, so that no
// step is too long to be stable.
func (s *State) Step(c *Conditions, seconds float64) (evaporated measure.Gram) {
	t := s.totals()
	if t.mass <= 0 || seconds <= 0 {
		return 0
	}
	before := float64(s.Temperature)
	brix := s.brix(t.held)
	lost := s.heat(c, &t, brix, seconds)
	s.cook(c, (before+float64(s.Temperature))/2, brix, seconds, t.mass-lost)
	return measure.Gram(lost)
}

// Keep lets the contents cook for seconds at a temperature that something else
// holds: a cooker at pressure, an oven, a hot cupboard. Share is how much of
// the open still-air evaporation goes on; it returns the grams.
func (s *State) Keep(c *Conditions, temperature measure.Celsius, share, seconds float64) (evaporated measure.Gram) {
	t := s.totals()
	if t.mass <= 0 || seconds <= 0 {
		return 0
	}
	before := float64(s.Temperature)
	s.Temperature = temperature
	lost := 0.0
	if share > 0 {
		surface := float64(c.Pot.Surface(c.Pot.Depth(measure.Millilitre(t.volume))))
		pressure, _ := saturation(float64(temperature))
		lost = share * stillAirGrams * surface * max(0, pressure-c.vapour()) * seconds
		lost = min(lost, s.Liquid[Water])
		s.Liquid[Water] -= lost
	}
	s.cook(c, (before+float64(temperature))/2, s.brix(t.held), seconds, t.mass-lost)
	return measure.Gram(lost)
}

// Flash lets the pressure off at once: what the contents are too hot boils
// away, m cp dT/h_fg. They end at a temperature; it returns the grams.
func (s *State) Flash(to measure.Celsius, over measure.Kelvin) measure.Gram {
	t := s.totals()
	lost := min(t.capacity*float64(over)/latentHeat, s.Liquid[Water])
	s.Liquid[Water] -= lost
	s.Temperature = to
	return measure.Gram(lost)
}

// Vent lets so many grams of steam go, as far as there is free water.
func (s *State) Vent(mass measure.Gram) measure.Gram {
	lost := min(float64(mass), s.Liquid[Water])
	s.Liquid[Water] -= lost
	return measure.Gram(lost)
}

// dry reports whether so little water can leave as steam that the temperature
// may pass the boiling point.
func (s *State) dry(mass float64) bool { return s.steamable() < dryShare*mass }

// dryContact is the share of the power that reaches contents which do not wet
// the bottom: they lie on it at points, and the metal gives the rest to the
// room. Source: our own estimate, likely 0.6 to 0.85; with it both plans of
// vegetable and fruit fried in fat come to the middle of their bands.
const dryContact = 0.7

// contact returns the share of the power that the contents take up: all of it
// where the bottom is wet.
func (s *State) contact(mass float64) float64 {
	wet := min(1, measure.Ratio(s.Liquid[Water], dryShare*mass))
	return dryContact + (1-dryContact)*wet
}

// surfaceWater returns what that wet tissue gives to steam at its cut surfaces:
// what it holds above that which it keeps when it is done.
func (p *Part) surfaceWater() float64 {
	if !p.Tissue {
		return 0
	}
	return max(0, p.Held-p.Raw*p.Kinetics.KeptDone)
}

// steamable returns the water that can leave as steam: what is free, and the
// surface water of wet tissue. Vegetables in a pan with fat hiss and stay near the
// boiling point until that water is gone.
func (s *State) steamable() float64 {
	water := s.Liquid[Water]
	for i := range s.Parts {
		water += s.Parts[i].surfaceWater()
	}
	return water
}

// steam takes so many grams of water away, the free water first.
func (s *State) steam(lost float64) {
	free := min(lost, s.Liquid[Water])
	s.Liquid[Water] -= free
	if lost -= free; lost <= 0 {
		return
	}
	share := measure.Ratio(lost, s.steamable()-s.Liquid[Water])
	for i := range s.Parts {
		p := &s.Parts[i]
		p.Held -= p.surfaceWater() * min(share, 1)
	}
}

// Dry reports the same of the present state.
func (s *State) Dry() bool { return s.dry(float64(s.Mass())) }

// vapour returns the pressure of the steam in the air around, in Pa, computed
// once.
func (c *Conditions) vapour() float64 {
	if c.outside == 0 {
		pressure, _ := saturation(float64(c.Ambient))
		c.outside = c.Humidity * pressure
	}
	return c.outside
}

// heat advances the temperature and returns the grams evaporated.
func (s *State) heat(c *Conditions, t *totals, brix, seconds float64) float64 {
	level := c.Pot.Depth(measure.Millilitre(t.volume))
	surface := float64(c.Pot.Surface(level))
	loss := c.Pot.Loss(level)
	if c.Loss > 0 {
		loss *= c.Loss
	}
	temperature, ambient := float64(s.Temperature), float64(c.Ambient)
	power := float64(c.Power) * s.contact(t.mass)
	boiling := float64(BoilingPoint(c.Altitude, brix))
	dry := s.dry(t.mass)

	rate, slope := 0.0, 0.0 // g/s and g/(s K)
	lid := 1.0
	if c.Lid {
		lid = LidShare
	}
	available := s.steamable()
	if !c.Wrapped && !c.Sealed && available > 0 {
		pressure, rise := saturation(min(temperature, boiling))
		drive := pressure - c.vapour()
		if drive > 0 {
			rate, slope = lid*stillAirGrams*surface*drive, lid*stillAirGrams*surface*rise
		}
		// No more can go than is there; the law keeps its shape, so that a pot
		// that dries out is not cooled below what its steam allows.
		if most := available / seconds; rate > most {
			slope *= most / rate
			rate = most
		}
	}
	net := power - loss*(temperature-ambient) - rate*latentHeat
	damping := (loss + slope*latentHeat) / t.capacity
	end, mean := relaxed(damping * seconds)
	next := temperature + net/t.capacity*seconds*end
	evaporated := max(0, rate+slope*net/t.capacity*seconds*mean) * seconds
	if next > boiling && !dry && !c.Sealed {
		surplus := (power-loss*((temperature+boiling)/2-ambient))*seconds - t.capacity*(boiling-temperature)
		next = boiling
		evaporated = max(0, surplus) / latentHeat
		if c.Lid {
			evaporated *= lidBoil
		}
		if c.Wrapped {
			evaporated = 0
		}
	}
	evaporated = min(evaporated, available)
	s.steam(evaporated)
	s.Temperature = measure.Celsius(min(next, dryLimit))
	return evaporated
}

// relaxed returns how much of a change at the present rate is reached at the
// end of a step, and in the mean over it, when the rate dies down by x time
// constants meanwhile: (1 - exp(-x))/x and the mean of that course. At x = 0
// they are 1 and 1/2.
func relaxed(x float64) (end, mean float64) {
	const small = 0.02 // below it three terms of the series are exact to 1e-6
	if x < small {
		return 1 - x/2 + x*x/6, 0.5 - x/6 + x*x/24
	}
	end = -math.Expm1(-x) / x
	return end, (1 - end) / x
}

// cook advances doneness, uptake, starch and egg at a mean temperature.
func (s *State) cook(c *Conditions, temperature, brix, seconds, mass float64) {
	speed := 0.0 // per minute, relative to 98 °C in water
	sugar := sugarFactor(brix / 100)
	if temperature > cookFrom {
		speed = math.Exp((temperature-cookReference)*(math.Ln10/cookTenfold)) * sugar * s.mediumFactor()
	}
	minutes := seconds / measure.SecondsPerMinute
	dry := s.dry(mass)
	idle := s.Liquid[Water] < idleFreeWater*mass
	for i := range s.Parts {
		p := &s.Parts[i]
		if speed > 0 && !(idle && p.Held < idleHeld*p.Raw) {
			gain := speed * minutes / p.Cook
			if p.Kinetics.AcidHardens {
				gain *= acidFactor(s.PH())
			}
			p.Done += gain
		}
		if p.Tissue {
			s.exude(p, seconds)
			continue
		}
		if dry && !c.OffHeat {
			p.toast(minutes)
		}
		s.hydrate(c, p, temperature, sugar, seconds)
		s.leach(p)
	}
	if temperature > gelFrom && s.Liquid[RawStarch] > 0 {
		set := s.Liquid[RawStarch] * -math.Expm1(-seconds/gelTime)
		s.Liquid[RawStarch] -= set
		s.Liquid[Gel] += set
		s.Liquid[Thickening] += set
	}
	if temperature > eggFrom && s.Egg > 0 {
		s.EggSet += (1 - s.EggSet) * -math.Expm1(-seconds/eggTime)
	}
}

// toast gives grain that lies dry over the flame for two minutes the manners
// of roasted grain.
func (p *Part) toast(minutes float64) {
	if p.toasted < 0 {
		return
	}
	if p.toasted += minutes; p.toasted >= toastMinutes {
		p.toasted = -1
		p.Cook *= roastCook
		p.Release *= roastRelease
	}
}

// exude lets a vegetable lose the water that its softening cells let go.
func (s *State) exude(p *Part, seconds float64) {
	k := p.Kinetics
	target := p.Raw * (k.KeptRaw + (k.KeptDone-k.KeptRaw)*min(p.Done, 1))
	if lost := (p.Held - target) * -math.Expm1(-seconds/tissueTime); lost > 0 {
		p.Held -= lost
		s.Liquid[Water] += lost
	}
}

// hydrate lets grain take up free water.
func (s *State) hydrate(c *Conditions, p *Part, temperature, sugar, seconds float64) {
	done, time := p.Done, hydrationTime
	if c.OffHeat {
		done += hydrationAhead
		time = hydrationTimeOff
		if temperature < hydrationCold {
			time = hydrationTimeCold
		}
	}
	uptake := c.Uptake
	if uptake == 0 {
		uptake = 1
	}
	target := uptake * p.Kinetics.MaxUptake * -math.Expm1(-p.Kinetics.UptakeRate*done) * p.Raw
	wanted := (target - p.Held) * -math.Expm1(-seconds/time*math.Sqrt(sugar))
	if wanted <= 0 {
		return
	}
	wanted = min(wanted, hydrationLimit*seconds*s.Liquid[Water])
	p.Held += wanted
	s.Liquid[Water] -= wanted
}

// leachedAt returns the grams of starch that a part has leached at a doneness.
func (p *Part) leachedAt(done float64) float64 {
	k := p.Kinetics
	share := min(k.ReleaseMax, k.ReleaseDone*done*math.Sqrt(done))
	return p.Release * share * p.Starch
}

// leach moves starch, with its energy, from a part into the liquid.
func (s *State) leach(p *Part) {
	s.release(p, p.leachedAt(p.Done)-p.Leached)
}

// release moves so many grams of starch, as far as there is any, into the liquid.
func (s *State) release(p *Part, more float64) {
	if more = min(more, p.Dry[RawStarch]); more <= 0 {
		return
	}
	energy := p.Dry[EnergyKcal] * more / p.dryMass
	p.Leached += more
	p.Dry[RawStarch] -= more
	p.dryMass -= more
	p.Dry[EnergyKcal] -= energy
	s.Liquid[Gel] += more
	s.Liquid[Thickening] += more * p.Kinetics.StarchWeight
	s.Liquid[EnergyKcal] += energy
}
