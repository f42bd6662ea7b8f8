package e2e

import (
	"bytes"
	"compress/zlib"
	"io"
	"math"
	"regexp"
	"strconv"
	"strings"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/require"
)

// A box is what a path of a page covers, in points from its lower left corner.
type box struct{ left, low, right, high float64 }

func (b box) width() float64  { return b.right - b.left }
func (b box) height() float64 { return b.high - b.low }

const pointsPerMM = 72 / 25.4

var streamOf = regexp.MustCompile(`(?s)/FlateDecode[^>]*>>\s*stream\r?\n(.*?)\r?\nendstream`)

// boxes reads the paths of a printed page off its content: each as what it covers,
// through the transformations that are in force.
func boxes(t *testing.T, pdf []byte) (list []box) {
	t.Helper()
	for _, stream := range streamOf.FindAllSubmatch(pdf, -1) {
		r, err := zlib.NewReader(bytes.NewReader(stream[1]))
		if err != nil {
			continue
		}
		content, err := io.ReadAll(r)
		if err != nil || !bytes.Contains(content, []byte(" cm")) {
			continue // a font, or a picture
		}
		list = append(list, paths(string(content))...)
	}
	return list
}

// A matrix maps x, y to ax+cy+e, bx+dy+f, as in the operator cm.
type matrix [6]float64

func (m matrix) after(n matrix) matrix {
	return matrix{n[0]*m[0] + n[1]*m[2], n[0]*m[1] + n[1]*m[3], n[2]*m[0] + n[3]*m[2], n[2]*m[1] + n[3]*m[3], n[4]*m[0] + n[5]*m[2] + m[4],
		n[4]*m[1] + n[5]*m[3] + m[5]}
}

func paths(content string) (list []box) {
	now, saved := matrix{1, 0, 0, 1, 0, 0}, []matrix{}
	var numbers []float64
	open := box{math.Inf(1), math.Inf(1), math.Inf(-1), math.Inf(-1)}
	path := open
	touch := func(x, y float64) {
		px, py := now[0]*x+now[2]*y+now[4], now[1]*x+now[3]*y+now[5]
		path = box{min(path.left, px), min(path.low, py), max(path.right, px), max(path.high, py)}
	}
	for _, word := range strings.Fields(content) {
		if x, err := strconv.ParseFloat(word, 64); err == nil {
			numbers = append(numbers, x)
			continue
		}
		n := len(numbers)
		switch {
		case word == "q":
			saved = append(saved, now)
		case word == "Q" && len(saved) > 0:
			now, saved = saved[len(saved)-1], saved[:len(saved)-1]
		case word == "cm" && n >= 6:
			now = now.after(matrix(numbers[n-6:]))
		case word == "re" && n >= 4:
			x, y, w, h := numbers[n-4], numbers[n-3], numbers[n-2], numbers[n-1]
			touch(x, y)
			touch(x+w, y+h)
		case (word == "m" || word == "l") && n >= 2:
			touch(numbers[n-2], numbers[n-1])
		case word == "f" || word == "f*" || word == "S" || word == "s" || word == "B":
			list, path = append(list, path), open
		case word == "n":
			path = open
		}
		numbers = numbers[:0]
	}
	return list
}

// TestGaugeIsPrintedInTrueSize prints the sheet and measures it on the page: the bar,
// the strip of the gauge and its marks.
func TestGaugeIsPrintedInTrueSize(t *testing.T) {
	t.Parallel()
	k := newKitchen(t)
	shelf, err := k.store.Puddings(t.Context(), 1)
	require.NoError(t, err)
	p := newPage(t, k, 1280, 800)
	for paper, size := range map[string][2]float64{"a4": {595, 842}, "letter": {612, 792}} {
		p.open("/puddings/" + shelf[0].ID + "/sheet?paper=" + paper)
		length := js[float64](p, `Number(document.querySelector(".ruler-strip").getAttribute("height"))`)
		marks := js[[]float64](p, `[...document.querySelectorAll(".ruler-mark")].map((m) => Number(m.getAttribute("d").split(/[ H]/)[1]))`)
		foot := js[float64](p, `Number(document.querySelector(".ruler-strip").getAttribute("y"))
			+ Number(document.querySelector(".ruler-strip").getAttribute("height"))`)
		require.NotEmpty(t, marks)
		pdf, err := chromedp.Run(p.ctx, chromedp.PrintToPDF(chromedp.PDFPreferCSSPageSize()))
		require.NoError(t, err)
		require.Len(t, regexp.MustCompile(`/Type\s*/Page\b`).FindAll(pdf, -1), 1, "one page")
		page := regexp.MustCompile(`/MediaBox\s*\[\s*0 0 ([\d.]+) ([\d.]+)`).FindSubmatch(pdf)
		require.NotNil(t, page)
		for i := range size {
			x, err := strconv.ParseFloat(string(page[1+i]), 64)
			require.NoError(t, err)
			require.InDelta(t, size[i], x, 1, "%s", paper)
		}
		all := boxes(t, pdf)
		find := func(width, height float64) (box, bool) {
			for _, b := range all {
				if math.Abs(b.width()/pointsPerMM-width) < 2 && math.Abs(b.height()/pointsPerMM-height) < 1 {
					return b, true
				}
			}
			return box{}, false
		}
		bar, found := find(100, 3)
		require.True(t, found, "the bar is on the page")
		off := bar.width()/pointsPerMM - 100
		require.InDelta(t, 0, off, 0.1, "mm over 100 mm")
		strip, found := find(11, length)
		require.True(t, found, "the strip is on the page")
		require.InDelta(t, length, strip.height()/pointsPerMM, 0.1)
		worst := 0.0
		for _, mark := range marks {
			nearest := math.Inf(1)
			for _, b := range all {
				// A mark is a line across the strip and on to its label; it begins at its level.
				if math.Abs(b.left-strip.left) < 0.6 && b.width()/pointsPerMM > 15 && b.width()/pointsPerMM < 25 {
					for _, y := range []float64{b.low, b.high} {
						nearest = min(nearest, math.Abs((y-strip.low)/pointsPerMM-(foot-mark)))
					}
				}
			}
			worst = max(worst, nearest)
		}
		require.Less(t, worst, 0.2, "each mark is at its level above the foot")
		t.Logf("%s: the bar is off by %.3f mm over 100 mm, the strip by %.3f mm over %.0f mm, marks by at most %.3f mm", paper, off,
			strip.height()/pointsPerMM-length, length, worst)
	}
}
