package pot

import (
	"math"

	"kirdu/core/measure"
)

// Soak lets the parts stand in water for some minutes at a temperature: they
// take up and will cook faster. It returns the water they took. Source: the
// model, section 5.
func (s *State) Soak(minutes measure.Minute, temperature measure.Celsius) measure.Gram {
	return s.soak(minutes, temperature, math.Inf(1))
}

// Swell lets the parts hydrate from the liquid that they are mixed with, as far
// as there is any.
func (s *State) Swell(minutes measure.Minute) {
	s.Liquid[Water] -= float64(s.soak(minutes, s.Temperature, s.Liquid[Water]))
}

func (s *State) soak(minutes measure.Minute, temperature measure.Celsius, most float64) measure.Gram {
	const referenceC, halvingKelvin = 25, 20
	var taken float64
	for i := range s.Parts {
		p := &s.Parts[i]
		if p.Tissue {
			continue
		}
		half := float64(p.Kinetics.SoakHalf) * math.Exp2(-(float64(temperature)-referenceC)/halvingKelvin)
		course := 1 - math.Exp2(-measure.Ratio(float64(minutes), half))
		if wanted := p.Raw * p.Kinetics.SoakUptake * course; wanted > most-taken {
			course *= measure.Ratio(most-taken, wanted)
		}
		p.Held += p.Raw * p.Kinetics.SoakUptake * course
		taken += p.Raw * p.Kinetics.SoakUptake * course
		p.Cook *= 1 - (1-p.Kinetics.SoakedFactor)*course
	}
	return measure.Gram(taken)
}

// Roast gives grain the manners of roasted grain: it cooks a little slower and
// leaches less. Source: the model, section 5.
func (s *State) Roast() {
	for i := range s.Parts {
		if p := &s.Parts[i]; !p.Tissue {
			p.toast(toastMinutes)
		}
	}
}

// Ground grain. Source: the model, section 5.
var grinds = map[string]struct{ time, releaseDone, releaseMax float64 }{
	"granules": {0.4, 0.30, 0.75},
	grindPaste: {0.3, 0.6, 0.95},
}

// Grind breaks the grain up: to granules or a paste, which cook faster and
// leach more, or to flour, which becomes raw starch in the liquid.
func (s *State) Grind(to string) {
	var kept []Part
	for _, p := range s.Parts {
		how, coarse := grinds[to]
		switch {
		case coarse && !p.Tissue:
			ground := *p.Kinetics
			ground.ReleaseDone = max(ground.ReleaseDone, how.releaseDone)
			ground.ReleaseMax = max(ground.ReleaseMax, how.releaseMax)
			ground.WantedHigh = groundWanted(to, ground.WantedHigh)
			p.Kinetics = &ground
			p.Cook *= how.time
			kept = append(kept, p)
		case coarse:
			if to == grindPaste {
				p.Paste = 1
			}
			kept = append(kept, p)
		default:
			s.Liquid.add(&p.Dry, 1)
			s.Liquid[Water] += p.Held
		}
	}
	s.Parts = kept
	if to == grindPaste {
		s.grindPieces()
	}
}

// grindPaste is the fineness at which nuts become part of the liquid.
const grindPaste = "paste"

// grindPieces makes pieces part of the liquid, which their dry matter without sugars and
// fat thickens. Source: the model, section 5.
func (s *State) grindPieces() {
	m := s.Pieces
	m[AromaStarch], m[RawStarch] = m[AromaStarch]+m[RawStarch], 0
	m[Structure] = m[Protein] + m[AromaStarch] + m[Fibre] + m[Ash] + m[Other]
	s.Liquid.add(&m, 1)
	s.Pieces = Mix{}
}

// groundWanted is how far cooked ground grain is still liked: granules as ground rice
// is, a paste without end. Source: the model, section 5.
func groundWanted(to string, high float64) float64 {
	const granules = 4.2
	if to == grindPaste {
		return mostDone
	}
	return max(high, granules)
}

// Squeeze presses loose water out: per cent of the raw mass of each part, with
// the sugar that is dissolved in it. It returns the grams of what it presses out. Source:
// the model, section 5.
func (s *State) Squeeze(percent float64) measure.Gram {
	const most = 0.9 // of the water: cells keep the rest however hard one wrings
	var pressed float64
	for i := range s.Parts {
		p := &s.Parts[i]
		soluble := p.Dry[Sucrose] + p.Dry[Glucose] + p.Dry[Fructose]
		share := min(most, measure.Ratio(p.Raw*percent/100, p.Held+soluble))
		energy := measure.Ratio(soluble*share, p.dryMass) * p.Dry[EnergyKcal]
		for _, k := range []int{Sucrose, Glucose, Fructose} {
			p.Dry[k] *= 1 - share
		}
		p.Dry[EnergyKcal] -= energy
		p.dryMass -= soluble * share
		pressed += (p.Held + soluble) * share
		p.Held *= 1 - share
	}
	return measure.Gram(pressed)
}

// Steam cooks the parts in steam for some minutes: they take up nothing, and keep
// their water until they come into a pot. Source: the model, sections 3 and 5.
func (s *State) Steam(minutes measure.Minute, altitude float64) {
	s.Temperature = BoilingPoint(altitude, 0)
	speed := speedAt(float64(s.Temperature))
	for i := range s.Parts {
		p := &s.Parts[i]
		p.Done = min(mostDone, p.Done+speed*float64(minutes)/p.Cook)
		s.leach(p)
	}
}

// Mash breaks per cent of the named part, or of all for "": a quarter of the starch
// still enclosed in that share leaches, and of tissue it becomes paste. Source: the
// model, section 5.
func (s *State) Mash(name string, percent float64) {
	const leachedShare = 0.25
	for i := range s.Parts {
		p := &s.Parts[i]
		if name != "" && p.Name != name {
			continue
		}
		s.release(p, p.Dry[RawStarch]*leachedShare*percent/100)
		p.Mashed += (1 - p.Mashed) * percent / 100
		if p.Tissue {
			p.Paste += (1 - p.Paste) * percent / 100
		}
	}
}

// Drain pours free liquid away and returns its grams: 92 % of it goes, pieces
// and parts stay. Source: the plan format.
func (s *State) Drain() measure.Gram {
	const goes = 0.92
	poured := s.Liquid.Mass() * goes
	for i := range s.Liquid {
		s.Liquid[i] *= 1 - goes
	}
	s.Dairy *= 1 - goes
	s.Casein *= 1 - goes
	s.Stable *= 1 - goes
	s.Egg *= 1 - goes
	return measure.Gram(poured)
}
