package pot

import (
	"math"

	"kirdu/core/measure"
	"kirdu/core/numeric"
	"kirdu/core/vessel"
)

// Conditions are what the surroundings do to a pot.
type Conditions struct {
	Pot      vessel.Pot
	Power    measure.Watt    // into the pot; of a regulated flame the most that the burner gives
	Lid      bool            // covered: little evaporates
	Wrapped  bool            // wrapped or in the refrigerator: nothing evaporates
	OffHeat  bool            // resting, cooling, chilling, held
	Ambient  measure.Celsius // of the air around
	Humidity float64         // of that air, 0 to 1
	Altitude float64         // m
	Uptake   float64         // factor on the uptake of grain; 0 means 1
	Loss     float64         // factor on the heat given off, as in a water bath; 0 means 1
	Sealed   bool            // a closed cooker: no steam leaves, and it may pass the boiling point
	Bowls    int             // portioned into so many, which cool each by itself; 0: in the pot

	// Regulation keeps the pot at its boil, nil for a flame that is left as it is.
	// Surplus is a factor on what it then lets off as steam; 0 means 1.
	Regulation *vessel.Regulation
	Surplus    float64

	Used    measure.Watt // what the latest step brought into the pot
	holding bool         // it has come to the boil and is kept there
	thin    int          // for so many steps more no skin is looked for
	outside float64      // Pa, see vapour
}

// Parameters of heat and evaporation. Source: the model, section 3. The still air
// coefficient is half of Carrier's (1918), as quiet and recessed surfaces show.
const (
	latentHeat    = measure.LatentHeat
	carrier       = 0.004 // kg/(s m²) per 1e5 Pa
	carrierGrams  = carrier * 1000 / 1e5
	stillAirGrams = carrierGrams / 2
	mostPressure  = 1.1e5 // Pa, of the steam at a surface that is hotter than its boil
	LidShare      = 0.12  // of the open evaporation, below the boil
	lidBoil       = 0.35  // of the open evaporation, at the boil
	freeShare     = 0.02  // of the mass: with less free water, held water boils too
	wetFrom       = 0.35  // g of water to a gram of dry matter: with less, less evaporates
	dryLimit      = 180.0 // °C, where the cook has long noticed
	BoilingMargin = 0.3   // K below the limit that count as boiling
	fallenBack    = 2.0   // K below the limit from where a cook turns the flame up again
)

// A skin forms on what is thick, and holds the steam back. Source: the model, section 3.
const (
	skinFrom  = 3.5
	skinTo    = 4.5
	skinLeast = 0.5
	skinC     = 60.0 // colder than that it is judged as at that
)

// Far from a skin, by so much of the logarithm of the viscosity, it is looked for again
// only some steps later: nothing thickens so fast.
const (
	farFromSkin = 2.0
	thinFor     = 3
)

// skinFromLn is the logarithm of the viscosity at that grade.
var skinFromLn = math.Ln10 * (gradeCentre - math.Log(7/(1+6*(skinFrom-1)/7)-1)/gradeSlope)

// Cooling of bowls. Source: the model, section 3.
const (
	bowlDensity    = 1.05 // g/ml
	bowlFridgeLoss = 10.0 // W/(m² K)
	bowlRoomLoss   = 12.0
)

// Parameters of cooking. Source: the model, section 5.
const (
	cookReference     = 98.0  // °C of the cooking times
	cookTenfold       = 30.0  // K for ten times the speed
	cookFrom          = 62.0  // °C, below it nothing cooks
	mostDone          = 8.0   // doneness, where nothing is left to cook
	idleFreeWater     = 0.02  // of the mass
	idleHeld          = 0.3   // g/g
	hydrationTime     = 240.0 // s, at 98 °C
	hydrationTenfold  = 40.0  // K for a tenth of it
	hydrationTimeOff  = 25 * 60.0
	hydrationTimeCold = 4 * 3600.0
	hydrationCold     = 40.0  // °C
	hydrationAhead    = 0.35  // doneness added to what the uptake of a resting grain
	hydrationLimit    = 0.004 // of the free water per second
	tissueTime        = 60.0  // s
	gelTime           = 60.0  // s
	gelFrom           = 78.0  // °C
	flourThickens     = 1.86  // whole swollen granules, over starch that was leached
	eggTime           = 90.0  // s
	eggFrom           = 74.0  // °C
	toastFrom         = 110.0 // °C
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
	if t.inPot <= 0 || seconds <= 0 {
		return 0
	}
	before := float64(s.Temperature)
	brix := s.brix(t.held)
	lost := s.heat(c, &t, brix, seconds)
	s.cook(c, (before+float64(s.Temperature))/2, brix, seconds, &t)
	return measure.Gram(lost)
}

// Keep lets the contents cook for seconds at a temperature that something else
// holds: a cooker at pressure, an oven, a hot cupboard. Share is how much of
// Carrier's open evaporation goes on; it returns the grams.
func (s *State) Keep(c *Conditions, temperature measure.Celsius, share, seconds float64) (evaporated measure.Gram) {
	t := s.totals()
	if t.inPot <= 0 || seconds <= 0 {
		return 0
	}
	before := float64(s.Temperature)
	s.Temperature = temperature
	lost := 0.0
	if share > 0 {
		surface := c.around(&t).surface
		pressure, _ := saturation(float64(temperature))
		lost = share * t.wetness() * carrierGrams * surface * max(0, min(pressure, mostPressure)-c.vapour()) * seconds
		lost = min(lost, s.Liquid[Water]+t.held)
		s.steam(lost, freeShare*t.inPot, t.held)
	}
	s.cook(c, (before+float64(temperature))/2, s.brix(t.held), seconds, &t)
	return measure.Gram(lost)
}

// StillAir is the share of Carrier's law that holds over a pot in a quiet room.
const StillAir = stillAirGrams / carrierGrams

// Flash lets the pressure off at once: what the contents are too hot boils
// away, m cp dT/h_fg. They end at a temperature; it returns the grams.
func (s *State) Flash(to measure.Celsius, over measure.Kelvin) measure.Gram {
	t := s.totals()
	lost := min(t.capacity*float64(over)/latentHeat, s.Liquid[Water]+t.held)
	s.steam(lost, freeShare*t.inPot, t.held)
	s.Temperature = to
	return measure.Gram(lost)
}

// Vent lets so many grams of steam go, as far as there is water.
func (s *State) Vent(mass measure.Gram) measure.Gram {
	t := s.totals()
	lost := min(float64(mass), s.Liquid[Water]+t.held)
	s.steam(lost, freeShare*t.inPot, t.held)
	return measure.Gram(lost)
}

// steam takes so many grams of water away: from the free water, and where that is less
// than plenty, from it by its share of that and for the rest from what the parts hold,
// in proportion. The caller lets no more go than there is.
func (s *State) steam(lost, plenty, held float64) {
	free := s.Liquid[Water]
	fromFree := lost
	if free < plenty {
		fromFree = lost * free / plenty
	}
	fromFree = min(max(fromFree, lost-held), free)
	s.Liquid[Water] -= fromFree
	rest := lost - fromFree
	if rest <= 0 || held <= 0 {
		return
	}
	kept := max(0, 1-rest/held)
	for i := range s.Parts {
		s.Parts[i].Held *= kept
	}
}

// vapour returns the pressure of the steam in the air around, in Pa, computed
// once.
func (c *Conditions) vapour() float64 {
	if c.outside == 0 {
		pressure, _ := saturation(float64(c.Ambient))
		c.outside = c.Humidity * pressure
	}
	return c.outside
}

// wetness is how much of the evaporation of a wet surface goes on, 0 to 1.
func (t *totals) wetness() float64 { return min(1, t.perDry()/wetFrom) }

// An outline is what the surroundings see: the evaporating surface in m² and the heat
// given off in W/K.
type outline struct{ surface, loss float64 }

// around returns the outline of the pot, or of the bowls: cylinders twice as wide as
// high.
func (c *Conditions) around(t *totals) outline {
	if c.Bowls == 0 {
		level := c.Pot.Depth(measure.Millilitre(t.volume))
		return outline{float64(c.Pot.Surface(level)), c.Pot.Loss(level)}
	}
	const litresPerCubicMetre, sides = 1e6, 4 // top, bottom, and twice as much around
	n := float64(c.Bowls)
	height := math.Cbrt(t.inPot / n / bowlDensity / litresPerCubicMetre / math.Pi)
	top := math.Pi * height * height * n
	per := bowlRoomLoss
	if c.Wrapped {
		per = bowlFridgeLoss
	}
	return outline{top, per * sides * top}
}

// skin returns how much of the steam a skin lets through, 1 where there is none.
func (s *State) skin(c *Conditions) float64 {
	if c.thin > 0 {
		c.thin--
		return 1
	}
	lnEta := s.lnEta(max(float64(s.Temperature), skinC))
	if lnEta < skinFromLn {
		if lnEta < skinFromLn-farFromSkin {
			c.thin = thinFor
		}
		return 1
	}
	grade := gradeOf(lnEta / math.Ln10)
	return 1 - (1-skinLeast)*min(max((grade-skinFrom)/(skinTo-skinFrom), 0), 1)
}

// power returns what goes into the pot: that of the flame, or what a cook turns it to
// by eye.
func (c *Conditions) power(temperature, limit, skin float64, o outline) float64 {
	if c.Regulation == nil {
		return float64(c.Power)
	}
	if temperature >= limit-BoilingMargin {
		c.holding = true
	} else if temperature < limit-fallenBack {
		c.holding = false
	}
	if !c.holding {
		return float64(c.Power) * c.Regulation.Approach * skin
	}
	flux := c.Regulation.Open
	if c.Lid {
		flux = c.Regulation.Lidded
	}
	if c.Surplus > 0 {
		flux *= c.Surplus
	}
	return min(float64(c.Power), o.loss*max(0, temperature-float64(c.Ambient))+flux*o.surface*skin)
}

// heat advances the temperature and returns the grams evaporated.
func (s *State) heat(c *Conditions, t *totals, brix, seconds float64) float64 {
	o := c.around(t)
	if c.Loss > 0 {
		o.loss *= c.Loss
	}
	temperature, ambient := float64(s.Temperature), float64(c.Ambient)
	limit := s.limit(c.Altitude, brix, t)
	open := !c.Wrapped && !c.Sealed
	skin := 1.0
	if open {
		skin = s.skin(c)
	}
	power := c.power(temperature, limit, skin, o)
	c.Used = measure.Watt(power)
	capacity := t.capacity + s.Metal
	available := s.Liquid[Water] + t.held

	rate, slope := 0.0, 0.0 // g/s and g/(s K)
	if open && available > 0 {
		share := skin * t.wetness()
		if c.Lid {
			share *= LidShare
		}
		pressure, rise := saturation(temperature)
		if pressure > mostPressure {
			pressure, rise = mostPressure, 0
		}
		if drive := pressure - c.vapour(); drive > 0 {
			rate, slope = share*stillAirGrams*o.surface*drive, share*stillAirGrams*o.surface*rise
		}
		// No more can go than is there; the law keeps its shape, so that a pot
		// that dries out is not cooled below what its steam allows.
		if most := available / seconds; rate > most {
			slope *= most / rate
			rate = most
		}
	}
	net := power - o.loss*(temperature-ambient) - rate*latentHeat
	damping := (o.loss + slope*latentHeat) / capacity
	end, mean := relaxed(damping * seconds)
	next := temperature + net/capacity*seconds*end
	evaporated := max(0, rate+slope*net/capacity*seconds*mean) * seconds
	if next > limit && !c.Sealed {
		surplus := max(0, (power-o.loss*((temperature+limit)/2-ambient))*seconds-capacity*(limit-temperature))
		if c.Regulation != nil && !c.holding && temperature < limit {
			// It comes to the boil within the step: from then on the cook holds it there.
			reached := (limit - temperature) / (next - temperature)
			c.holding = true
			held := c.power(limit, limit, skin, o)
			c.Used = measure.Watt(held)
			surplus = max(0, held-o.loss*(limit-ambient)) * seconds * (1 - reached)
		}
		next = limit
		switch {
		case c.Wrapped:
			evaporated = 0
		case c.Lid:
			evaporated = lidBoil * surplus / latentHeat
		default:
			evaporated = surplus / latentHeat
		}
		if evaporated > available { // what has no water left to boil away gets hot
			next = limit + (surplus-available*latentHeat)/capacity
		}
	}
	evaporated = min(evaporated, available)
	s.steam(evaporated, freeShare*t.inPot, t.held)
	s.Temperature = measure.Celsius(min(next, max(dryLimit, temperature)))
	return evaporated
}

// gives returns the heat that the contents give off at a temperature, W, under the
// present conditions.
func (s *State) gives(c *Conditions, t *totals, at float64) float64 {
	o := c.around(t)
	if c.Loss > 0 {
		o.loss *= c.Loss
	}
	heat := o.loss * (at - float64(c.Ambient))
	if c.Wrapped || c.Sealed {
		return heat
	}
	pressure, _ := saturation(at)
	share := s.skin(c) * t.wetness()
	if c.Lid {
		share *= LidShare
	}
	return heat + latentHeat*share*stillAirGrams*o.surface*max(0, min(pressure, mostPressure)-c.vapour())
}

// Needs returns the power that keeps the contents at a temperature.
func (s *State) Needs(c *Conditions, at measure.Celsius) measure.Watt {
	t := s.totals()
	return measure.Watt(s.gives(c, &t, float64(at)))
}

// Settles returns the temperature that the contents come to under the present power, at
// most their limit.
func (s *State) Settles(c *Conditions) measure.Celsius {
	t := s.totals()
	const halvings = 20
	found, _ := numeric.Halve(numeric.Bracket{Low: float64(c.Ambient), High: float64(s.Limit(c.Altitude))}, halvings,
		func(at float64) bool { return s.gives(c, &t, at) < float64(c.Used) })
	return measure.Celsius(found.Low)
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

// speedAt returns how fast grain cooks at a temperature, 1 at 98 °C.
func speedAt(temperature float64) float64 {
	if temperature <= cookFrom {
		return 0
	}
	return math.Exp((temperature - cookReference) * (math.Ln10 / cookTenfold))
}

// cook advances doneness, uptake, starch and egg at a mean temperature. t are the
// totals before the steam left.
func (s *State) cook(c *Conditions, temperature, brix, seconds float64, t *totals) {
	sugar := 1.0
	if brix > 0 {
		sugar = math.Exp(-sugarStrength * brix / 100)
	}
	grain, tissue := 0.0, 0.0 // speeds
	wet := temperature        // where there is water nothing gets hotter than its boil
	if !c.Sealed {
		wet = min(wet, float64(BoilingPoint(c.Altitude, brix)))
	}
	if speed := speedAt(wet); speed > 0 && len(s.Parts) > 0 {
		grain = speed * sugar * s.mediumFactor(t.water)
		if s.hasTissue() {
			tissue = speed * math.Pow(sugar, tissueStrength/sugarStrength)
		}
	}
	minutes := seconds / measure.SecondsPerMinute
	idle := s.Liquid[Water] < idleFreeWater*t.inPot
	for i := range s.Parts {
		p := &s.Parts[i]
		speed := grain
		if p.Tissue {
			speed = tissue
		}
		if speed > 0 && !(idle && p.Held < idleHeld*p.Raw) {
			gain := speed * minutes / p.Cook
			if p.Kinetics.AcidHardens {
				gain *= acidFactor(s.PH())
			}
			p.Done = min(mostDone, p.Done+gain)
		}
		if p.Tissue {
			s.exude(p, seconds)
			continue
		}
		if idle && temperature > toastFrom {
			p.toast(minutes)
		}
		s.hydrate(c, p, temperature, sugar, seconds)
		s.leach(p)
	}
	if temperature > gelFrom && s.Liquid[RawStarch] > 0 {
		set := s.Liquid[RawStarch] * -math.Expm1(-seconds/gelTime)
		s.Liquid[RawStarch] -= set
		s.Liquid[Gel] += set
		s.Liquid[Thickening] += flourThickens * set
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

// exude lets a vegetable lose the water that its softening cells let go; paste keeps it.
func (s *State) exude(p *Part, seconds float64) {
	k := p.Kinetics
	target := p.Raw * (k.KeptRaw + (k.KeptDone-k.KeptRaw)*min(p.Done, 1))
	if lost := (1 - p.Paste) * (p.Held - target) * -math.Expm1(-seconds/tissueTime); lost > 0 {
		p.Held -= lost
		s.Liquid[Water] += lost
	}
}

// hydrate lets grain take up free water.
func (s *State) hydrate(c *Conditions, p *Part, temperature, sugar, seconds float64) {
	done := p.Done
	time := hydrationTime * math.Exp((cookReference-max(temperature, cookFrom))*(math.Ln10/hydrationTenfold))
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

func (s *State) hasTissue() bool {
	for i := range s.Parts {
		if s.Parts[i].Tissue {
			return true
		}
	}
	return false
}
