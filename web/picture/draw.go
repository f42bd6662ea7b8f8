// Package picture lays out Kirdu's pictures: the section of a pot with its dip
// gauge, the pot line, and the strips of the balance. It computes where things
// stand; the templates turn that into SVG, so that the pictures are there
// without JavaScript.
package picture

import (
	"embed"
	"io/fs"
	"math"
	"strconv"
	"strings"
)

//go:embed templates/*.html
var files embed.FS

// Templates returns the templates of the pictures.
func Templates() fs.FS {
	sub, err := fs.Sub(files, "templates")
	if err != nil {
		panic(err) // the folder is embedded
	}
	return sub
}

//go:embed pictures.css
var styles embed.FS

// Styles returns the styles of the pictures, served under /static.
func Styles() fs.FS { return styles }

// Px is a place in a picture. It prints with one decimal.
type Px float64

func (p Px) String() string { return strconv.FormatFloat(float64(p), 'f', 1, 64) }

// A Tick is a mark on an axis.
type Tick struct {
	At    Px
	Label string // "" for a mark without words
	Major bool   // longer than the others
}

// linear maps a value from one range to another.
type linear struct{ from, to, low, high float64 }

func (l linear) at(x float64) Px {
	if l.to == l.from {
		return Px(l.low)
	}
	return Px(l.low + (x-l.from)/(l.to-l.from)*(l.high-l.low))
}

// niceStep returns a step of 1, 2 or 5 times a power of ten with which a span
// has at most so many ticks.
func niceStep(span float64, most int) float64 {
	if !(span > 0) || most < 1 {
		return 1
	}
	raw := span / float64(most)
	power := math.Pow(10, math.Floor(math.Log10(raw)))
	for _, factor := range []float64{1, 2, 5, 10} {
		if raw <= factor*power*(1+1e-9) {
			return factor * power
		}
	}
	return 10 * power
}

// path writes straight lines through points.
func path(xs, ys []Px) string {
	var b strings.Builder
	for i := range xs {
		verb := byte('L')
		if i == 0 {
			verb = 'M'
		}
		b.WriteByte(verb)
		b.WriteString(xs[i].String())
		b.WriteByte(' ')
		b.WriteString(ys[i].String())
	}
	return b.String()
}

// spreadOut moves labels apart until no two are nearer than gap, and keeps
// them between top and bottom where there is room. ys must not fall.
func spreadOut(ys []Px, gap, top, bottom Px) []Px {
	out := make([]Px, len(ys))
	for i, y := range ys {
		out[i] = max(y, top)
		if i > 0 {
			out[i] = max(out[i], out[i-1]+gap)
		}
	}
	limit := bottom
	for i := len(out) - 1; i >= 0; i-- {
		out[i] = min(out[i], limit)
		limit = out[i] - gap
	}
	return out
}
