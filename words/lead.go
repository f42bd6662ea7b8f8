package words

import (
	"math"

	"kirdu/core/lead"
)

// A Gain is how many minutes a step still takes at the least and at the most, and what a reading would make of it.
type Gain struct{ Low, High, ThenLow, ThenHigh float64 }

// worthSaying is the share of a range that a reading must take away to be promised.
const worthSaying = 0.75

// Lesson says what is to be known at the stove now. done are the words of the large button, beside what waits beside
// the pot, gain what a reading would bring.
func (w Printer) Lesson(lesson lead.Lesson, done, beside string, gain Gain) string {
	key := "lead." + string(lesson)
	switch lesson {
	case lead.Tap, lead.Light:
		return w.text(key, done)
	case lead.Beside:
		return w.text(key, Lower(beside))
	case lead.Weigh, lead.Dip:
		whole := func(x float64) string { return w.Sprintf("%.0f", math.Round(x)) }
		why := w.text("lead.look")
		if gain.ThenHigh-gain.ThenLow < worthSaying*(gain.High-gain.Low) {
			why = w.text("lead.gain", whole(gain.Low), whole(gain.High), whole(gain.ThenLow), whole(gain.ThenHigh))
		}
		return w.text(key, why)
	}
	return w.text(key)
}
