package picture

import (
	"fmt"

	"kirdu/core/forecast"
	"kirdu/core/measure"
	"kirdu/core/plan"
	"kirdu/core/pot"
)

// A Strip is one figure of the balance on its scale: the range as a bar, the
// likely value as a dot.
type Strip struct {
	Width, Height Px
	From, To, Y   Px
	Ticks         []Tick
	Points        []Point
	Text          string
}

// TickEnd is where the marks end.
func (s Strip) TickEnd() Px { return s.Y + 6 }

// WordY is where the words of the scale stand.
func (s Strip) WordY() Px { return s.Y + 18 }

// LabelY is where the name of a point stands.
func (s Strip) LabelY() Px { return s.Y - 12 }

// AimTop is where the line of an aim begins.
func (s Strip) AimTop() Px { return s.Y - 9 }

// AimEnd is where it ends.
func (s Strip) AimEnd() Px { return s.Y + 9 }

// A Point is a figure on a strip. Aim marks what is wanted.
type Point struct {
	X, Low, High Px
	Label        string
	Kind         string // hot, chilled, sweet, done
	Aim          bool
}

const (
	stripWidth          = 300.0
	stripLeft           = 14.0
	stripRight          = 286.0
	tallStrip, lowStrip = 58.0, 24.0
)

// NewThickness draws the thickness from the pot to the chilled bowl.
func NewThickness(p *plan.Plan, f *forecast.Forecast) Strip {
	s := Strip{Width: stripWidth, Height: tallStrip, From: stripLeft, To: stripRight, Y: 28}
	scale := linear{from: 1, to: 8, low: stripLeft, high: stripRight}
	for i, word := range pot.ThicknessWords() {
		s.Ticks = append(s.Ticks, Tick{At: scale.at(float64(i + 1)), Label: word})
	}
	add := func(r *measure.Range, label, kind string) {
		if r != nil {
			s.Points = append(s.Points, Point{X: scale.at(r.Value), Low: scale.at(r.Low), High: scale.at(r.High), Label: label, Kind: kind})
			s.Text += fmt.Sprintf("%s %s, from %s to %s. ", label, pot.ThicknessWord(r.Value), pot.ThicknessWord(r.Low), pot.ThicknessWord(r.High))
		}
	}
	add(f.Thickness.Hot, "hot", "hot")
	add(f.Thickness.Chilled, "chilled", "chilled")
	if p.Aim != nil && p.Aim.Thickness != nil {
		s.Points = append(s.Points, Point{X: scale.at(*p.Aim.Thickness), Kind: "aim", Aim: true})
		s.Text += "Wanted " + pot.ThicknessWord(*p.Aim.Thickness) + "."
	}
	return s
}

// NewRange draws one figure between two ends of a scale.
func NewRange(r measure.Range, low, high float64, kind, text string) Strip {
	scale := linear{from: low, to: high, low: stripLeft, high: stripRight}
	clamp := func(x float64) Px { return scale.at(min(max(x, low), high)) }
	return Strip{Width: stripWidth, Height: lowStrip, From: stripLeft, To: stripRight, Y: lowStrip / 2, Text: text,
		Points: []Point{{X: clamp(r.Value), Low: clamp(r.Low), High: clamp(r.High), Kind: kind}}}
}
