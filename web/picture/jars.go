package picture

import (
	"fmt"
	"strings"
)

// Jars are vessels side by side, filled true to scale, with the fat that
// would rise as a layer of its own.
type Jars struct {
	Width, Height Px
	Jars          []Jar
	Text          string
}

// A Jar is one of them. Its rim is at Top, its bottom at Base.
type Jar struct {
	X, Width, Top, Base Px
	Level, Cream        Px // where the contents and the layer of fat end
	Name, Figure, Note  string
	NameY, FigureY      Px
	NoteY               Px
}

// Middle is where the words of a jar stand.
func (j Jar) Middle() Px { return j.X + j.Width/2 }

// Right is its right wall.
func (j Jar) Right() Px { return j.X + j.Width }

// Fill is the height of the contents.
func (j Jar) Fill() Px { return j.Base - j.Level }

// CreamHeight is that of the layer of fat.
func (j Jar) CreamHeight() Px { return j.Cream - j.Level }

// A Filled is what one jar holds.
type Filled struct {
	Name, Figure, Note string
	Volume             float64 // of the contents, in any unit
	Size               float64 // of the jar, in the same; 0: as large as the largest contents
	Fat                float64 // share of the volume, 0 to 1
}

// NewJars draws fillings next to each other.
func NewJars(fillings []Filled) Jars {
	const wide, gap, deep, top, words, most = 110.0, 40.0, 130.0, 12.0, 56.0, 8
	if len(fillings) > most {
		fillings = fillings[:most]
	}
	largest := 0.0
	for _, f := range fillings {
		largest = max(largest, f.Size, f.Volume)
	}
	j := Jars{Height: top + deep + words}
	var said []string
	for i, f := range fillings {
		x := Px(gap/2 + float64(i)*(wide+gap))
		size := f.Size
		if size == 0 {
			size = largest
		}
		one := Jar{X: x, Width: wide, Base: top + deep, Name: f.Name, Figure: f.Figure, Note: f.Note,
			NameY: top + deep + 17, FigureY: top + deep + 33, NoteY: top + deep + 49}
		scale := linear{from: 0, to: largest, low: top + deep, high: top}
		one.Top, one.Level = scale.at(size), scale.at(f.Volume)
		one.Cream = one.Level + (one.Base-one.Level)*Px(min(max(f.Fat, 0), 1))
		j.Jars = append(j.Jars, one)
		j.Width = x + wide + gap/2
		said = append(said, strings.TrimSpace(fmt.Sprintf("%s %s %s", f.Name, f.Figure, f.Note)))
	}
	j.Text = strings.Join(said, "; ")
	return j
}
