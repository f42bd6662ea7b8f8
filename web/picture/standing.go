package picture

import (
	"fmt"
	"strings"

	"kirdu/core/pot"
	"kirdu/core/serving"
	"kirdu/words"
)

// A StandingPicture is how thick a pudding gets while it stands: a line with its likely
// range over minutes, and the grade that is wanted.
type StandingPicture struct {
	Width, Height       Px
	Left, Right, Bottom Px
	Line, Band          string // paths
	WantedY             Px
	Minutes             []Tick
	Grades              []Tick
	Text                string
}

// Geometry of the picture, in px.
const (
	standingWidth, standingHeight = 720.0, 260.0
	standingLeft, standingRight   = 90.0, 700.0
	standingTop, standingBottom   = 16.0, 220.0
)

// NewStanding lays the picture out.
func NewStanding(say words.Printer, list []serving.Standing, wanted float64) StandingPicture {
	s := StandingPicture{Width: standingWidth, Height: standingHeight, Left: standingLeft, Right: standingRight, Bottom: standingBottom}
	if len(list) == 0 {
		return s
	}
	last := float64(list[len(list)-1].Minute)
	x := linear{from: 0, to: max(last, 1), low: standingLeft, high: standingRight}
	y := linear{from: 1, to: 8, low: standingBottom, high: standingTop}
	bounded := func(grade float64) Px { return y.at(min(max(grade, 1), 8)) }
	var line, upper, lower []string
	for _, one := range list {
		at := x.at(float64(one.Minute))
		line = append(line, fmt.Sprintf("%.1f %.1f", float64(at), float64(bounded(one.Grade.Value))))
		upper = append(upper, fmt.Sprintf("%.1f %.1f", float64(at), float64(bounded(one.Grade.High))))
		lower = append([]string{fmt.Sprintf("%.1f %.1f", float64(at), float64(bounded(one.Grade.Low)))}, lower...)
	}
	s.Line = "M" + strings.Join(line, "L")
	s.Band = "M" + strings.Join(append(upper, lower...), "L") + "Z"
	s.WantedY = bounded(wanted)
	step := niceStep(last, 8)
	for at := 0.0; at <= last; at += step {
		s.Minutes = append(s.Minutes, Tick{At: x.at(at), Label: say.Sprintf("%.0f", at)})
	}
	for k, word := range pot.ThicknessWords() {
		s.Grades = append(s.Grades, Tick{At: y.at(float64(k + 1)), Label: word})
	}
	first, end := list[0], list[len(list)-1]
	s.Text = say.Sprintf("Thickness while it stands: %.1f at once, %.1f after %.0f minutes; %.1f is wanted. The table says it "+
		"moment by moment.", first.Grade.Value, end.Grade.Value, last, wanted)
	return s
}
