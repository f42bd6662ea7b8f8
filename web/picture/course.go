package picture

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"kirdu/core/forecast"
	"kirdu/core/plan"
	"kirdu/core/timetable"
	"kirdu/words"
)

// A Course is one pudding on the clock of one cook: a band for each pot and pan, one for what
// is prepared beside them, and where two things want the hands.
type Course struct {
	Width, Height, Left, Right, Foot, TimeY, ZeroX Px
	Rows                                           []CourseRow
	Times                                          []Tick
	Tight                                          []Bar
	Text                                           string
}

// A CourseRow is the band of a pot, or of what is prepared.
type CourseRow struct {
	Name   string
	Y, Mid Px
	Bars   []CourseBar
}

// A CourseBar is a step in its band.
type CourseBar struct {
	X, Y, Width, Height Px
	Label               string // "" where there is no room for it
	Title               string // with its minutes
	Served              bool
}

// LabelX and LabelY are where the label of a bar stands.
func (b CourseBar) LabelX() Px { return b.X + 4 }

// LabelY is the baseline of the label.
func (b CourseBar) LabelY() Px { return b.Y + b.Height - 6 }

// Courses are the picture for a wide and for a narrow screen; none where all goes on in one
// pot and nothing is prepared.
type Courses struct {
	Any          bool
	Wide, Narrow Course
}

// The measures of the picture, in px of its own.
const (
	courseRow, courseTop, courseFoot       = 26.0, 6.0, 22.0
	courseWide, courseNarrow               = 1200.0, 360.0
	courseLeft, courseLeftNarrow           = 150.0, 84.0
	courseLetter                           = 6.6 // width of a letter of a label
	courseTicks, courseTicksNarrow         = 16, 6
	courseNameLetters, courseNarrowLetters = 22, 12
)

// NewCourses draws both.
func NewCourses(say words.Printer, p *plan.Plan, f *forecast.Forecast, c timetable.Course) Courses {
	beside := len(p.Pots) > 1 || slices.ContainsFunc(p.Steps, func(s plan.Step) bool { return s.Do.IsPreparation() })
	if !beside {
		return Courses{}
	}
	return Courses{Any: true, Wide: newCourse(say, p, f, c, false), Narrow: newCourse(say, p, f, c, true)}
}

func newCourse(say words.Printer, p *plan.Plan, f *forecast.Forecast, c timetable.Course, narrow bool) Course {
	l := Course{Width: courseWide, Left: courseLeft, Right: courseWide - 10}
	ticks, letters := courseTicks, courseNameLetters
	if narrow {
		l.Width, l.Left, l.Right, ticks, letters = courseNarrow, courseLeftNarrow, courseNarrow-6, courseTicksNarrow, courseNarrowLetters
	}
	end := max(axisEnd(p, f), 1)
	x := linear{from: math.Min(float64(c.Begins), 0), to: end, low: float64(l.Left), high: float64(l.Right)}
	rows := map[string]int{}
	row := func(key, name string) *CourseRow {
		at, known := rows[key]
		if !known {
			at = len(l.Rows)
			rows[key] = at
			y := Px(courseTop + float64(at)*courseRow)
			l.Rows = append(l.Rows, CourseRow{Name: cut(name, letters), Y: y, Mid: y + courseRow/2 + 4})
		}
		return &l.Rows[at]
	}
	served := p.Served()
	for _, name := range served {
		row("pot "+name, words.Capital(say.PotName(p, name)))
	}
	var said []string
	for _, i := range c.Order {
		s, span := &p.Steps[i], c.Steps[i]
		from, to := math.Max(float64(span.Start), x.from), math.Min(float64(span.End), end)
		if span.End-span.Start <= 0 || to <= from {
			continue
		}
		key, name := "beside", "Prepared"
		switch {
		case !s.Do.IsPreparation():
			key, name = "pot "+s.PotName(), words.Capital(say.PotName(p, s.PotName()))
		case s.Pan != "":
			key, name = "pot "+s.Pan, words.Capital(say.PotName(p, s.Pan))
		default: // what overlaps has a band of its own
			for n := 2; taken(l.Rows, rows, key, x.at(from), x.at(to)); n++ {
				key, name = fmt.Sprintf("beside %d", n), ""
			}
		}
		title := say.StepTitle(p, i).Title
		r := row(key, name)
		bar := CourseBar{X: x.at(from), Y: r.Y + 3, Width: max(x.at(to)-x.at(from), 2), Height: courseRow - 6,
			Title:  say.Sprintf("%s, %.0f to %.0f min", title, float64(span.Start), float64(span.End)),
			Served: !s.Do.IsPreparation() && slices.Contains(served, s.PotName())}
		if room := int(float64(bar.Width-8) / courseLetter); room >= 4 {
			bar.Label = cut(title, room)
		}
		r.Bars = append(r.Bars, bar)
		said = append(said, bar.Title)
	}
	l.Foot = Px(courseTop + float64(len(l.Rows))*courseRow)
	l.Height, l.TimeY, l.ZeroX = l.Foot+courseFoot, l.Foot+courseFoot-6, x.at(0)
	for _, tight := range c.Tight {
		if from, to := x.at(float64(tight.From)), x.at(math.Min(float64(tight.To), end)); to > from {
			l.Tight = append(l.Tight, Bar{X: from, Y: courseTop, Width: to - from, Height: l.Foot - courseTop})
		}
	}
	step := math.Max(1, niceStep(x.to-x.from, ticks))
	for minute := math.Ceil(x.from/step) * step; minute <= end; minute += step {
		l.Times = append(l.Times, Tick{At: x.at(minute), Label: strings.Replace(say.Number(minute, 0), "-", "−", 1)})
	}
	l.Text = "By the clock of one cook: " + strings.Join(said, "; ") + "."
	return l
}

// taken reports whether a band has a bar between two places.
func taken(all []CourseRow, rows map[string]int, key string, from, to Px) bool {
	at, known := rows[key]
	return known && slices.ContainsFunc(all[at].Bars, func(b CourseBar) bool { return from < b.X+b.Width && b.X < to })
}
