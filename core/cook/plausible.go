package cook

import (
	"math"
	"time"
	"unicode/utf8"

	"kirdu/core/measure"
)

// What an event may say at most, wherever it comes from.
const (
	mostStep    = 10_000 // ids of steps that came in between are counted on
	mostItem    = 1000
	longestName = 120
	mostLasted  = 60 * 24 * 7 // minutes
	mostValue   = 1000
)

// earliest and latest bound when something can have happened.
var (
	earliest = time.Date(2000, 1, 1, 0, 0, 0, 0, time.UTC)
	latest   = time.Date(2200, 1, 1, 0, 0, 0, 0, time.UTC)
)

// ErrImplausible is the fault of an event that no device of ours can have told.
var ErrImplausible = measure.Code("cook.implausible")

// Plausible returns what an event says that cannot be, whatever the cook is: it holds those that come from
// outside, and the fold passes over what it refuses. Error: ErrImplausible.
func (e Event) Plausible() error {
	no := func(what string) error { return ErrImplausible.With(what) }
	finite := func(x, low, high float64) bool { return !math.IsNaN(x) && x >= low && x <= high }
	switch {
	case len(e.ID) > longestName || !utf8.ValidString(e.ID):
		return no("id")
	case e.At.Before(earliest) || e.At.After(latest):
		return no("at")
	case e.Step < -1 || e.Step > mostStep:
		return no("step")
	case e.Item < 0 || e.Item > mostItem:
		return no("item")
	case !finite(float64(e.Mass), 0, float64(measure.MaxGrams)):
		return no("mass")
	case !finite(float64(e.MM), 0, mostValue):
		return no("mm")
	case !finite(e.Value, -mostValue, mostValue):
		return no("value")
	case len(e.Part) > longestName || len(e.Material) > longestName || len(e.Pot) > longestName:
		return no("name")
	case len(e.Marks) > mostMarks || len(e.Lasted) > mostMarks:
		return no("marks")
	}
	for _, mass := range e.Marks {
		if !finite(float64(mass), 0, float64(measure.MaxGrams)) {
			return no("mark")
		}
	}
	for _, minutes := range e.Lasted {
		if !finite(minutes, 0, mostLasted) {
			return no("lasted")
		}
	}
	if e.Kind == Mended {
		return e.Mend.plausible()
	}
	return nil
}

func (m *Mend) plausible() error {
	if m == nil || len(m.Steps) > mostMendSteps || len(m.Marks) > mostMarks || m.Leaves < 0 {
		return ErrImplausible.With("mend")
	}
	for _, x := range []float64{float64(m.Shift), m.Sugar, m.Lost.Share} {
		if math.IsNaN(x) || math.Abs(x) > float64(measure.MaxGrams) {
			return ErrImplausible.With("mend")
		}
	}
	for _, mass := range m.Marks {
		if !(mass >= 0 && mass <= measure.MaxGrams) {
			return ErrImplausible.With("mend.marks")
		}
	}
	return nil
}
