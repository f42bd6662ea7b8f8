package pot

import (
	"math"

	"kirdu/core/measure"
)

// Browning says how dry sugar heats: J/(g K) and J/g, melting between two
// temperatures, and where the cook has long stopped.
type Browning struct {
	Heat, Melting  float64
	From, To, Most float64
}

// Brown heats dry sugar until it reaches a temperature or the minutes are over,
// and returns how long it took and how hot it is. The heat of melting is spread
// over the span in which it melts.
func (s *State) Brown(c *Conditions, goal measure.Celsius, most measure.Minute, b Browning) (measure.Minute, measure.Celsius) {
	const step = 2.0 // s: a tenth of what it takes to pass a colour
	mass := float64(s.Mass())
	level := c.Pot.Depth(s.Volume())
	loss := c.Pot.Loss(level)
	t, seconds := float64(s.Temperature), 0.0
	for range int(math.Ceil(float64(most) * measure.SecondsPerMinute / step)) {
		if mass <= 0 || t >= float64(goal) {
			break
		}
		capacity := b.Heat * mass
		if t >= b.From && t < b.To {
			capacity += b.Melting * mass / (b.To - b.From)
		}
		rise := (float64(c.Power) - loss*(t-float64(c.Ambient))) * step / capacity
		// The last step is cut where the colour is reached.
		share := 1.0
		if left := min(float64(goal), b.Most) - t; rise > left && rise > 0 {
			share = left / rise
		}
		t += rise * share
		seconds += step * share
	}
	s.Temperature = measure.Celsius(t)
	return measure.Minute(seconds / measure.SecondsPerMinute), s.Temperature
}

// Caramelise takes a share of the mass of the sugars away as steam, and a
// share of their sweetness: what is left of that is brown matter. It returns
// the grams that went.
func (s *State) Caramelise(mass, sweetness float64) measure.Gram {
	var lost float64
	for _, k := range []int{Sucrose, Glucose, Fructose} {
		sugar := s.Liquid[k]
		gone := min(sugar, sugar*max(mass, sweetness))
		steam := min(gone, sugar*mass)
		s.Liquid[k] -= gone
		s.Liquid[Other] += gone - steam
		s.Liquid[EnergyKcal] -= 4 * steam // kcal/g of carbohydrate
		lost += steam
	}
	return measure.Gram(lost)
}
