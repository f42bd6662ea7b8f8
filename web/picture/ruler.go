package picture

import (
	"fmt"
	"math"
	"slices"
	"strconv"

	"kirdu/core/forecast"
	"kirdu/core/measure"
	"kirdu/words"
)

// MM is a length on paper, in mm.
type MM float64

func (m MM) String() string { return strconv.FormatFloat(float64(m), 'f', 2, 64) }

// A Ruler is the dip gauge on paper, 1:1: a strip whose foot is the bottom of the
// pot, with the marks of one pudding. Its coordinates are mm of paper.
type Ruler struct {
	Width, Height MM
	Top, Foot     MM // of the scale
	Left, Right   MM
	Ticks         []RulerTick
	Marks         []RulerMark
	Text          string
}

// A RulerTick is one line of the scale.
type RulerTick struct {
	Y, Long MM
	Label   string // of every tenth
}

// A RulerMark is a level of the pudding.
type RulerMark struct {
	Y, LabelY       MM
	Label, Weighing string
}

// Geometry of a ruler, in mm of paper.
const (
	rulerLeft, rulerBroad, rulerWidth = 1.0, 11.0, 74.0
	rulerMargin                       = 2.0
	rulerGap                          = 8.0 // between two labels
	rulerMost                         = 190 // what fits on a page
	rulerHead                         = 8.0 // scale above the highest mark
)

// NewRuler draws the gauge of marks in a pot of a height.
func NewRuler(say words.Printer, marks []forecast.Mark, height measure.Millimetre) Ruler {
	highest := 0.0
	for _, m := range marks {
		highest = max(highest, m.LevelMM)
	}
	length := math.Ceil(min(highest+rulerHead, float64(height), rulerMost))
	r := Ruler{Width: rulerWidth, Height: MM(length + 2*rulerMargin), Top: rulerMargin, Foot: MM(length + rulerMargin), Left: rulerLeft,
		Right: rulerLeft + rulerBroad}
	for mm := 0.0; mm <= length; mm++ {
		tick := RulerTick{Y: r.Foot - MM(mm), Long: 2.5}
		switch {
		case math.Mod(mm, 10) == 0:
			tick.Long, tick.Label = 6, strconv.Itoa(int(mm))
		case math.Mod(mm, 5) == 0:
			tick.Long = 4
		}
		r.Ticks = append(r.Ticks, tick)
	}
	shown := levelsOf(say, marks)
	slices.SortStableFunc(shown, func(a, b SectionLevel) int { return compare(float64(b.Level), float64(a.Level)) })
	// The labels of a low pot may need more height than its scale.
	r.Height = max(r.Height, MM(rulerGap*float64(len(shown)))+2*rulerMargin)
	var wanted []Px
	for _, m := range shown {
		weighing := say.Exact(measure.Gram(m.Mass))
		if m.Scale != nil {
			weighing += ", " + say.Exact(measure.Gram(*m.Scale)) + " with the pot"
		}
		r.Marks = append(r.Marks, RulerMark{Y: r.Foot - MM(min(float64(m.Level), length)), Label: fmt.Sprintf("%s: %s mm", m.Label,
			say.Number(float64(m.Level), 0)), Weighing: weighing})
		wanted = append(wanted, Px(r.Foot-MM(min(float64(m.Level), length))))
	}
	for k, y := range spreadOut(wanted, rulerGap, rulerMargin+3, Px(r.Height)-4) {
		r.Marks[k].LabelY = MM(y)
	}
	r.Text = say.Sprintf("Dip gauge in true size, %.0f mm long; its marks are in the table of steps.", length)
	return r
}

// Broad is how wide the strip is.
func (r Ruler) Broad() MM { return r.Right - r.Left }

// Length is how long the scale is.
func (r Ruler) Length() MM { return r.Foot - r.Top }

// LabelX is where the labels begin.
func (r Ruler) LabelX() MM { return r.Right + 8 }
