package picture

import (
	"cmp"
	"encoding/json"
	"slices"

	"kirdu/core/measure"
	"kirdu/core/numeric"
)

// A DayAxis is the time of a day from left to right, with the stretches folded in which nothing is to be done: a soak
// over night or a chill takes no more room than is needed to see that it goes on.
type DayAxis struct {
	Minutes []float64 `json:"minutes"` // rising
	Px      []float64 `json:"px"`      // where each of them lies, rising

	folds []fold
}

// fold is a stretch that is drawn narrower than its time, and its middle.
type fold struct {
	minutes measure.Minute
	x       Px
}

// A stretch is from when to when something is to be done.
type stretch struct{ from, to measure.Minute }

// Where an axis is folded. Source: our own judgement.
const (
	foldFrom  measure.Minute = 40 // minutes of idleness that are folded
	foldWidth                = 46.0
	foldMost                 = 0.4 // share of the axis that all folds together may take
	roundWork measure.Minute = 10  // shown before and after what is done
)

// newDayAxis lays out the stretches in which something is done between two edges.
func newDayAxis(busy []stretch, left, right float64) DayAxis {
	busy = slices.SortedFunc(slices.Values(busy), func(a, b stretch) int { return cmp.Compare(a.from, b.from) })
	var runs []stretch
	for _, one := range busy {
		one.from, one.to = one.from-roundWork, one.to+roundWork
		if n := len(runs); n > 0 && one.from-runs[n-1].to < foldFrom {
			runs[n-1].to = max(runs[n-1].to, one.to)
			continue
		}
		runs = append(runs, one)
	}
	shown := 0.0
	for _, run := range runs {
		shown += float64(run.to - run.from)
	}
	folds := float64(len(runs) - 1)
	wide := min(foldWidth, foldMost*(right-left)/max(folds, 1))
	perMinute := (right - left - wide*folds) / shown
	a := DayAxis{}
	x := left
	add := func(at measure.Minute) { a.Minutes, a.Px = append(a.Minutes, float64(at)), append(a.Px, x) }
	for k, run := range runs {
		if k > 0 {
			a.folds = append(a.folds, fold{run.from - runs[k-1].to, Px(x + wide/2)})
			x += wide
		}
		add(run.from)
		x += perMinute * float64(run.to-run.from)
		add(run.to)
	}
	return a
}

// at is where a minute lies; what is beyond the ends lies at them.
func (a DayAxis) at(m measure.Minute) Px { return Px(numeric.Interpolate(a.Minutes, a.Px, float64(m))) }

// from and to are its ends.
func (a DayAxis) from() measure.Minute { return measure.Minute(a.Minutes[0]) }
func (a DayAxis) to() measure.Minute   { return measure.Minute(a.Minutes[len(a.Minutes)-1]) }

// isFolded reports whether a minute lies in a fold.
func (a DayAxis) isFolded(m measure.Minute) bool {
	for k := 2; k < len(a.Minutes); k += 2 {
		if float64(m) > a.Minutes[k-1] && float64(m) < a.Minutes[k] {
			return true
		}
	}
	return false
}

// shown is how many minutes are drawn in full.
func (a DayAxis) shown() (sum float64) {
	for k := 0; k < len(a.Minutes); k += 2 {
		sum += a.Minutes[k+1] - a.Minutes[k]
	}
	return sum
}

// JSON is the axis for the module that drags along it.
func (a DayAxis) JSON() (string, error) {
	data, err := json.Marshal(a)
	return string(data), err
}
