package device

import (
	"hash/fnv"
	"math"
	"math/rand/v2"
	"time"

	"kirdu/core/forecast"
	"kirdu/core/measure"
	"kirdu/core/numeric"
	"kirdu/core/plan"
)

// A StandIn is a simulated scale under the pot and a probe in it. They follow a
// pot that is not quite the one that was planned with: its flame gives another
// power. They are noisy, slow and drift, they drop out, and the cook who stirs
// leans on the pot. The same cook always has the same stand-in.
type StandIn struct {
	Power  float64 // factor on the power into the pot
	random *rand.Rand
	drift  float64 // g an hour
	bias   float64 // K
	lean   float64 // g, 0 while nobody leans
	until  time.Time
	next   time.Time
	scale  lagged
	probe  lagged
}

// What the stand-ins are like. Source: our own judgement of kitchen gadgets.
const (
	every       = 5 * time.Second
	scaleNoise  = 2.5  // g
	probeNoise  = 0.3  // K
	scaleLag    = 3.0  // s, time constant
	probeLag    = 12.0 // s
	driftSD     = 8.0  // g an hour
	biasSD      = 1.0  // K
	dropOut     = 0.06 // of the readings
	leans       = 0.04 // of the readings begin a lean
	powerSD     = 0.2
	leastPower  = 0.5
	mostPower   = 1.6
	leanSeconds = 12
)

// lagged is a first-order sensor.
type lagged struct {
	value float64
	known bool
}

func (l *lagged) follow(truth, seconds, lag float64) float64 {
	if !l.known {
		l.value, l.known = truth, true
		return truth
	}
	l.value += (truth - l.value) * (1 - math.Exp(-seconds/lag))
	return l.value
}

// NewStandIn returns the stand-in of a cook, whose first reading is at a time.
func NewStandIn(id string, from time.Time) *StandIn {
	hash := fnv.New64a()
	hash.Write([]byte(id))
	random := rand.New(rand.NewPCG(hash.Sum64(), 0))
	return &StandIn{random: random, next: from,
		Power: min(max(1+powerSD*random.NormFloat64(), leastPower), mostPower),
		drift: driftSD * random.NormFloat64(), bias: biasSD * random.NormFloat64()}
}

// Readings returns what the gadgets show from where they left off until a moment
// of the cook's clock. replay is the cook as it went, zero its minute 0, pot what
// the empty pot weighs.
func (s *StandIn) Readings(replay *plan.Plan, zero time.Time, pot measure.Gram, until time.Time) (list []Sample) {
	const most = 240 // after a long silence they begin anew
	if gap := until.Sub(s.next); gap > most*every {
		s.next = until.Add(-most * every)
	}
	if s.next.After(until) {
		return nil
	}
	really := replay.Clone()
	factor := s.Power
	if learnt := really.Calibration.Evaporation; learnt != nil {
		factor *= learnt.Value
	}
	really.Calibration.Evaporation = &plan.Learnt{Value: factor}
	course := forecast.Run(really, forecast.Options{CourseOnly: true}).Curve
	for ; !s.next.After(until); s.next = s.next.Add(every) {
		at, minute := s.next, s.next.Sub(zero).Minutes()
		mass := numeric.Interpolate(course.Minute, course.MassG, minute) + float64(pot) + s.drift*minute/60
		temperature := numeric.Interpolate(course.Minute, course.TempC, minute) + s.bias
		if s.random.Float64() < leans {
			s.lean, s.until = 150+900*s.random.Float64(), at.Add(time.Duration(1+s.random.IntN(leanSeconds))*time.Second)
		}
		if at.After(s.until) {
			s.lean = 0
		}
		shown := s.scale.follow(mass, every.Seconds(), scaleLag) + s.lean + scaleNoise*s.random.NormFloat64()
		warm := s.probe.follow(temperature, every.Seconds(), probeLag) + probeNoise*s.random.NormFloat64()
		if s.random.Float64() >= dropOut {
			list = append(list, Sample{at, Scale, math.Round(shown)})
		}
		if s.random.Float64() >= dropOut {
			const tenth = 10
			list = append(list, Sample{at, Probe, math.Round(warm*tenth) / tenth})
		}
	}
	return list
}
