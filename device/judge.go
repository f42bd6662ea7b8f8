package device

import (
	"cmp"
	"math"
	"slices"
	"time"
)

// Mark says why a reading is not believed; "" if it is.
type Mark string

// The marks.
const (
	Impossible Mark = "impossible" // no such weight or temperature
	Ahead      Mark = "ahead"      // from the future: the gadget's clock is wrong
	Late       Mark = "late"       // too old to be of use, or from before the cook
	Doubled    Mark = "doubled"    // there already
	Jumped     Mark = "jumped"     // away from what it was: leaned on, lifted off, splashed
)

// Bounds of what is believed. Source: our own judgement; steam takes 30 g a
// minute from a wide pot, so that what moves faster than this is a hand.
const (
	aheadMost  = 90 * time.Second
	lateMost   = 10 * time.Minute
	window     = 60 * time.Second // in which readings agree
	jumpGrams  = 60.0
	jumpShare  = 0.04
	jumpKelvin = 12.0
	farShare   = 0.3 // off what the forecast has, before anything was believed
	farGrams   = 150.0
	farKelvin  = 45.0
	agreeing   = 4 // readings in a row that agree on a new level

	heaviest, coldest, hottest = 100000.0, -5.0, 220.0
)

// A Judged reading is one with its mark.
type Judged struct {
	Sample
	Mark Mark
}

// A Judge decides which readings of one cook are believed.
type Judge struct {
	Begun    time.Time                             // of the cook
	Pot      float64                               // g, what of a weight is the pot
	Expected func(Kind, time.Time) (float64, bool) // what the forecast has, contents alone
	Recent   []Judged                              // those before, at least of the last two windows, in order of time

	since map[Kind]time.Time // when the present level began
}

// Judge marks readings that came at a moment, in the order of their time, and
// takes them into what is recent.
func (j *Judge) Judge(list []Sample, received time.Time) []Judged {
	list = slices.Clone(list)
	slices.SortStableFunc(list, func(a, b Sample) int { return a.At.Compare(b.At) })
	judged := make([]Judged, 0, len(list))
	for _, r := range list {
		one := Judged{r, j.mark(r, received)}
		j.Recent = append(j.Recent, one)
		judged = append(judged, one)
	}
	slices.SortStableFunc(j.Recent, func(a, b Judged) int { return a.At.Compare(b.At) })
	const most = 400
	if over := len(j.Recent) - most; over > 0 {
		j.Recent = slices.Delete(j.Recent, 0, over)
	}
	return judged
}

func (j *Judge) mark(r Sample, received time.Time) Mark {
	switch {
	case math.IsNaN(r.Value) || math.IsInf(r.Value, 0),
		r.Kind == Scale && (r.Value-j.Pot < 0 || r.Value > heaviest),
		r.Kind == Probe && (r.Value < coldest || r.Value > hottest):
		return Impossible
	case r.At.After(received.Add(aheadMost)):
		return Ahead
	case r.At.Before(j.Begun), received.Sub(r.At) > lateMost:
		return Late
	}
	var near, jumped []float64
	for _, other := range j.Recent {
		if other.Kind != r.Kind || other.Mark == Impossible || other.Mark == Doubled {
			continue
		}
		if other.At.Equal(r.At) {
			return Doubled
		}
		if apart := r.At.Sub(other.At); apart < 0 || apart > window || other.At.Before(j.since[r.Kind]) {
			continue
		}
		switch other.Mark {
		case "":
			near, jumped = append(near, other.Value), nil // a run ends where the pot is as before
		case Jumped:
			jumped = append(jumped, other.Value)
		}
	}
	away := false
	if len(near) > 0 {
		away = j.apart(r, median(near))
	} else if j.Expected != nil {
		expected, known := j.Expected(r.Kind, r.At)
		away = known && j.far(r, expected)
	}
	switch {
	case !away:
		return ""
	case !j.agree(r, jumped):
		return Jumped
	}
	if j.since == nil {
		j.since = map[Kind]time.Time{}
	}
	j.since[r.Kind] = r.At
	return ""
}

// apart reports whether a reading is away from another value of the same minute.
func (j *Judge) apart(r Sample, value float64) bool {
	if r.Kind == Probe {
		return math.Abs(r.Value-value) > jumpKelvin
	}
	return math.Abs(r.Value-value) > max(jumpGrams, jumpShare*(value-j.Pot))
}

// far reports whether a first reading cannot be of this pot.
func (j *Judge) far(r Sample, expected float64) bool {
	if r.Kind == Probe {
		return math.Abs(r.Value-expected) > farKelvin
	}
	return math.Abs(r.Value-j.Pot-expected) > max(farGrams, farShare*expected)
}

// agree reports whether so many readings in a row that were not believed agree
// with this one that it is a new level: something went in.
func (j *Judge) agree(r Sample, jumped []float64) bool {
	n := 0
	for _, value := range jumped {
		if !j.apart(r, value) {
			n++
		}
	}
	return n >= agreeing
}

// Settled returns the reading that stands for the last minute: the median of what
// was believed, at the time of the last; ok is false where fewer than three were.
func (j *Judge) Settled(kind Kind, now time.Time) (r Sample, ok bool) {
	var values []float64
	for _, one := range j.Recent {
		if one.Kind != kind || one.Mark != "" || one.At.Before(j.since[kind]) || now.Sub(one.At) > window || one.At.After(now.Add(aheadMost)) {
			continue
		}
		values = append(values, one.Value)
		if one.At.After(r.At) {
			r.At = one.At
		}
	}
	const least = 3
	if len(values) < least {
		return Sample{}, false
	}
	r.Kind, r.Value = kind, median(values)
	if kind == Scale {
		r.Value -= j.Pot
	}
	return r, true
}

func median(values []float64) float64 {
	sorted := slices.Clone(values)
	slices.SortFunc(sorted, cmp.Compare)
	if n := len(sorted); n%2 == 0 {
		return (sorted[n/2-1] + sorted[n/2]) / 2
	}
	return sorted[len(sorted)/2]
}
