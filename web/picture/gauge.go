package picture

import (
	"math"
	"slices"
	"strings"

	"kirdu/core/measure"
	"kirdu/words"
)

// A Gauge is the dip gauge alone, tall and in large type, for the stove.
type Gauge struct {
	Width, Height Px
	X, Top        Px
	Bottom        Px
	FillY         Px // the level now
	Ticks         []Tick
	Levels        []GaugeLevel
	Text          string
}

// A GaugeLevel is one mark beside the gauge.
type GaugeLevel struct {
	Kind, Label string
	Y, LabelY   Px
}

const (
	gaugeAloneWidth, gaugeAloneHeight = 156.0, 290.0
	gaugeAloneX                       = 34.0
	gaugeAloneBroad                   = 26.0
	gaugeAloneTop, gaugeAloneBottom   = 14.0, 276.0
)

// NewGauge draws a gauge with levels; now is what stands in the pot.
func NewGauge(say words.Printer, levels []SectionLevel, now measure.Millimetre) Gauge {
	g := Gauge{Width: gaugeAloneWidth, Height: gaugeAloneHeight, X: gaugeAloneX, Top: gaugeAloneTop, Bottom: gaugeAloneBottom}
	shown := append(slices.Clone(levels), SectionLevel{Kind: "now", Label: "now", Level: now})
	slices.SortStableFunc(shown, func(a, b SectionLevel) int { return compare(float64(b.Level), float64(a.Level)) })
	const headroom = 1.1
	highest := max(float64(shown[0].Level)*headroom, 5)
	scale := linear{from: 0, to: highest, low: gaugeAloneBottom - 12, high: gaugeAloneTop + 12}
	major := niceStep(highest, 7)
	minor := niceStep(highest, 35)
	for n := 0; float64(n)*minor <= highest; n++ {
		depth := float64(n) * minor
		tick := Tick{At: scale.at(depth)}
		if share := depth / major; math.Abs(share-math.Round(share)) < 1e-6 {
			tick.Major, tick.Label = true, say.Number(depth, 0)
		}
		g.Ticks = append(g.Ticks, tick)
	}
	g.FillY = scale.at(float64(now))
	var wanted []Px
	for _, l := range shown {
		wanted = append(wanted, scale.at(float64(l.Level)))
	}
	const gap = 22
	placed := spreadOut(wanted, gap, gaugeAloneTop+6, gaugeAloneBottom)
	var said []string
	for i, l := range shown {
		name, _, _ := strings.Cut(l.Label, ",")
		g.Levels = append(g.Levels, GaugeLevel{Kind: l.Kind, Label: gaugeName(name), Y: wanted[i], LabelY: placed[i]})
		said = append(said, say.Sprintf("%s at %.0f mm", l.Label, float64(l.Level)))
	}
	g.Text = "Dip gauge from above: " + strings.Join(said, "; ")
	return g
}

// gaugeName is a name as short as there is room for.
func gaugeName(name string) string {
	name = strings.NewReplacer("first press", "press 1", "second press", "press 2", "third press", "press 3").Replace(name)
	const most = 10
	if runes := []rune(name); len(runes) > most {
		name = string(runes[:most-1]) + "…"
	}
	return name
}

// Right is the right edge of the gauge.
func (g Gauge) Right() Px { return g.X + gaugeAloneBroad }

// Long is where a mark ends.
func (g Gauge) Long() Px { return g.Right() + 6 }

// Middle is where the short marks begin.
func (g Gauge) Middle() Px { return g.X + gaugeAloneBroad/2 }

// LabelX is where the names stand.
func (g Gauge) LabelX() Px { return g.Right() + 18 }

// Length is how long the gauge is.
func (g Gauge) Length() Px { return g.Bottom - g.Top }

// LabelLine is where the line to a name ends.
func (g Gauge) LabelLine() Px { return g.LabelX() - 4 }

// FillEnd is where the round foot of the filled part begins.
func (g Gauge) FillEnd() Px { return max(g.FillY, g.Bottom-gaugeAloneBroad/2) }
