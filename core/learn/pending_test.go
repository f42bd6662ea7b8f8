package learn_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"kirdu/core/cook"
	"kirdu/core/forecast"
	"kirdu/core/learn"
	"kirdu/core/plan"
)

// pearlsInMilk is a pudding whose pearls are cooked in water, poured off, and go on in milk.
const pearlsInMilk = `{"format":"kirdu-plan/1","name":"x",
	"pots":{"main":{"shape":"straight","diameter_mm":200,"height_mm":110,"mass_g":1000}},"steps":[
{"do":"add","items":[{"material":"water","amount":"1 l"},{"material":"sago-small","amount":"80 g"}]},
{"do":"heat","flame":"high","until":{"boil":true}},
{"do":"heat","flame":"simmer","until":{"minutes":8}},
{"do":"drain","minutes":1},
{"do":"add","items":[{"material":"milk-whole","amount":"450 ml"}]},
{"do":"add","items":[{"material":"sugar-white","amount":"60 g"}]},
{"do":"heat","flame":"simmer","until":{"minutes":6}}]}`

// What is shown while a step waits to be tapped is the pot before it, whatever follows at once.
func TestThePotBeforeItIsTapped(t *testing.T) {
	p, err := plan.Read([]byte(pearlsInMilk))
	require.NoError(t, err)
	f := forecast.Run(p, forecast.Options{NominalOnly: true})
	var events []cook.Event
	at, told := 0.0, 0.0
	for step := range p.Steps {
		s := learn.LogOf(p, lit, events).Fold()
		require.Equal(t, step, s.Step)
		if s.Pending() && step > 0 {
			for _, waits := range []float64{0, 0.4, 3} { // however long it takes
				live := learn.Follow(&s, after(at+waits))
				require.InDelta(t, told, float64(live.Mass), 0.03*told+20*waits, "step %d, %s, waiting %v min", step, p.Steps[step].Do, waits)
			}
		}
		at = f.Steps[step].EndMin
		events = append(events, cook.Event{Kind: cook.Next, At: after(at), Step: step})
		told = *f.Steps[step].MassG
	}
}
