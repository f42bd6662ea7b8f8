package logbook

import (
	"image"
	"image/color"
	"testing"

	"github.com/stretchr/testify/require"
)

// The corner that is above and left of an upright picture, and the one above and right,
// lie where EXIF says of each orientation.
func TestPhotosAreTurnedUpright(t *testing.T) {
	const w, h = 3, 2
	stored := image.NewRGBA(image.Rect(0, 0, w, h))
	for y := range h {
		for x := range w {
			stored.Set(x, y, color.RGBA{R: uint8(x), G: uint8(y), A: 255})
		}
	}
	last := image.Pt(w-1, h-1)
	for held, corner := range map[int][2]image.Point{
		1: {{X: 0, Y: 0}, {X: last.X, Y: 0}}, 2: {{X: last.X, Y: 0}, {X: 0, Y: 0}},
		3: {last, {X: 0, Y: last.Y}}, 4: {{X: 0, Y: last.Y}, last},
		5: {{X: 0, Y: 0}, {X: 0, Y: last.Y}}, 6: {{X: 0, Y: last.Y}, {X: 0, Y: 0}},
		7: {last, {X: last.X, Y: 0}}, 8: {{X: last.X, Y: 0}, last},
	} {
		up := upright(stored, held)
		at := func(x, y int) image.Point {
			r, g, _, _ := up.At(x, y).RGBA()
			return image.Pt(int(r>>8), int(g>>8))
		}
		right := up.Bounds().Dx() - 1
		require.Equal(t, held >= 5, right == h-1, "orientation %d", held)
		require.Equal(t, corner, [2]image.Point{at(0, 0), at(right, 0)}, "orientation %d", held)
	}
	require.Equal(t, image.Pt(longSide, longSide/2), fit(image.NewGray(image.Rect(0, 0, 4000, 2000))).Bounds().Size())
	require.Equal(t, image.Pt(1, longSide), fit(image.NewGray(image.Rect(0, 0, 1, 40000))).Bounds().Size())
}
