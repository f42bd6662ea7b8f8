package picture

import (
	"fmt"
	"kirdu/core/measure"
	"kirdu/words"
	"math"
	"time"
)

// A Sample is one batch in a trend: a value with its standard deviation, 0 where
// it was measured.
type Sample struct {
	At    time.Time
	Value float64
	SD    float64
	Name  string
}

// A Trend is a value over batches, each with its likely range, and the line that is
// as planned.
type Trend struct {
	Width, Height       Px
	Left, Right, Bottom Px
	Dots                []TrendDot
	ZeroY               Px
	ZeroLabel           string
	Ticks               []Tick // of the values
	Days                []Tick
	Text                string
}

// A TrendDot is one batch, with its likely range from Low to High.
type TrendDot struct {
	X, Y, Low, High Px
	Title           string
}

// Geometry of a trend, in px; what the line means stands to the right of it.
const (
	trendWidth, trendHeight = 460.0, 190.0
	trendLeft, trendRight   = 52.0, 376.0
	trendTop, trendBottom   = 14.0, 152.0
	mostTrendTicks          = 5
)

// NewTrend lays a trend out, the samples in the order of their time. zero is the
// value that is as planned; format says a value.
func NewTrend(say words.Printer, samples []Sample, zero float64, zeroLabel string, format func(float64) string) Trend {
	t := Trend{Width: trendWidth, Height: trendHeight, Left: trendLeft, Right: trendRight, Bottom: trendBottom, ZeroLabel: zeroLabel}
	if len(samples) == 0 {
		return t
	}
	low, high := zero, zero
	for _, s := range samples {
		low, high = math.Min(low, s.Value-measure.Percentile90*s.SD), math.Max(high, s.Value+measure.Percentile90*s.SD)
	}
	step := niceStep(math.Max(high-low, 1e-6), mostTrendTicks)
	low, high = math.Floor(low/step)*step, math.Ceil(high/step)*step
	if high <= low {
		high = low + step
	}
	y := linear{from: low, to: high, low: trendBottom, high: trendTop}
	for at := low; at <= high+step/2; at += step {
		t.Ticks = append(t.Ticks, Tick{At: y.at(at), Label: format(at)})
	}
	t.ZeroY = y.at(zero)
	// Batches stand side by side: their order matters, and evenings come in bunches.
	x := linear{from: -0.5, to: float64(len(samples)) - 0.5, low: trendLeft, high: trendRight}
	for k, s := range samples {
		at := x.at(float64(k))
		t.Dots = append(t.Dots, TrendDot{X: at, Y: y.at(s.Value), Low: y.at(s.Value - measure.Percentile90*s.SD),
			High:  y.at(s.Value + measure.Percentile90*s.SD),
			Title: fmt.Sprintf("%s, %s: %s", s.Name, say.Time(s.At, "2 Jan 2006"), format(s.Value))})
	}
	t.Days = []Tick{{At: trendLeft, Label: say.Time(samples[0].At, "2 Jan 2006")}}
	if last := samples[len(samples)-1]; len(samples) > 1 {
		t.Days = append(t.Days, Tick{At: trendRight, Label: say.Time(last.At, "2 Jan 2006")})
	}
	first, last := samples[0], samples[len(samples)-1]
	word := "batches"
	if len(samples) == 1 {
		word = "batch"
	}
	t.Text = fmt.Sprintf("%d %s, from %s on %s to %s on %s.", len(samples), word, format(first.Value), say.Time(first.At, "2 Jan 2006"),
		format(last.Value), say.Time(last.At, "2 Jan 2006"))
	return t
}
