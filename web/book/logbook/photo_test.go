package logbook

import (
	"bytes"
	"encoding/binary"
	"hash/crc32"
	"image"
	"image/color"
	"image/jpeg"
	"image/png"
	"slices"
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
	require.Equal(t, image.Pt(longSide, longSide/2), fit(image.NewGray(image.Rect(0, 0, 4000, 2000)), longSide).Bounds().Size())
	require.Equal(t, image.Pt(1, longSide), fit(image.NewGray(image.Rect(0, 0, 1, 40000)), longSide).Bounds().Size())
}

// A picture is weighed before it is opened: by its samples a pixel, and by its passes.
func TestPicturesThatTakeTooMuchMemory(t *testing.T) {
	picture := image.NewRGBA(image.Rect(0, 0, 64, 32))
	var out bytes.Buffer
	require.NoError(t, jpeg.Encode(&out, picture, nil))
	camera := out.Bytes()
	require.InDelta(t, 1.5, openedJPEG(camera), 0, "colours taken four together")
	_, err := shrink(camera)
	require.NoError(t, err)

	frame := bytes.Index(camera, []byte{0xff, 0xc0})
	require.Positive(t, frame)
	passes := slices.Clone(camera)
	passes[frame+1] = 0xc2
	require.InDelta(t, 7.5, openedJPEG(passes), 0)
	large := slices.Clone(passes)
	binary.BigEndian.PutUint16(large[frame+5:], 6000)
	binary.BigEndian.PutUint16(large[frame+7:], 8000)
	_, err = shrink(large)
	require.ErrorIs(t, err, errPixels, "48 megapixels in passes")
	for n := range camera {
		openedJPEG(camera[:n])
	}

	out.Reset()
	require.NoError(t, png.Encode(&out, picture))
	huge := out.Bytes()
	binary.BigEndian.PutUint32(huge[16:], 7700)
	binary.BigEndian.PutUint32(huge[20:], 7700)
	binary.BigEndian.PutUint32(huge[29:], crc32.ChecksumIEEE(huge[12:29]))
	_, err = shrink(huge)
	require.ErrorIs(t, err, errPixels, "59 megapixels of four bytes")
}
