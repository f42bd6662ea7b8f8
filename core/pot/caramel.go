package pot

import (
	"math"

	"kirdu/core/measure"
)

// Browning says how dry sugar heats: J/(g K), J/g to melt at a temperature, the heat it
// loses from its top in W/(m² K), and where the cook has long stopped.
type Browning struct {
	Heat, Melting, At float64
	Loss, Most        float64
}

// Brown heats dry sugar until it reaches a temperature or the minutes are over,
// and returns how long it took and how hot it is. The pot under it heats along.
func (s *State) Brown(c *Conditions, goal measure.Celsius, most measure.Minute, b Browning) (measure.Minute, measure.Celsius) {
	const step = 2.0 // s: a tenth of what it takes to pass a colour
	mass := float64(s.Mass())
	loss := b.Loss * float64(c.Pot.Surface(c.Pot.Depth(s.Volume())))
	capacity := b.Heat*mass + s.Metal
	melting := b.Melting * mass // J that are still to go
	t, seconds := float64(s.Temperature), 0.0
	if t >= b.At {
		melting = 0
	}
	for range int(math.Ceil(float64(most) * measure.SecondsPerMinute / step)) {
		if mass <= 0 || t >= float64(goal) {
			break
		}
		heat := (float64(c.Power) - loss*(t-float64(c.Ambient))) * step
		if beyond := heat - capacity*(b.At-t); beyond > 0 && melting > 0 {
			used := min(beyond, melting)
			melting -= used
			heat -= used
		}
		rise := heat / capacity
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
