package logbook

import (
	"bytes"
	"errors"
	"image"
	"image/color"
	"image/jpeg"
	_ "image/png" // photos may be PNG
	"io"
	"net/http"
	"slices"

	"github.com/bep/imagemeta"
	"github.com/gin-gonic/gin"
	"golang.org/x/image/draw"
	"golang.org/x/image/math/f64"

	"kirdu/core/measure"
	"kirdu/store"
	"kirdu/web/frame"
)

// Bounds of a photo, as it is sent and as it is kept.
const (
	mostOpened = 96 << 20 // bytes of memory: 60 megapixels of a camera's JPEG, 25 of a PNG
	longSide   = 1600     // px
	mostKept   = 1_000_000
)

// Faults of photos.
var (
	errNoPhoto = measure.Code("logbook.no-photo")
	errFormat  = measure.Code("logbook.format")
	errPixels  = measure.Code("logbook.pixels")
	errSize    = measure.Code("logbook.photo-size").With(MaxUpload >> 20)
)

// shrink returns a photo as it is kept: upright, at most 1600 px long, as JPEG
// that holds nothing but the picture. Errors: errFormat, errPixels.
func shrink(data []byte) (store.Photo, error) {
	config, format, err := image.DecodeConfig(bytes.NewReader(data))
	if err != nil || !slices.Contains([]string{"jpeg", "png"}, format) {
		return store.Photo{}, errFormat
	}
	if config.Width <= 0 || config.Height <= 0 || float64(config.Width)*float64(config.Height)*opened(config, format, data) > mostOpened {
		return store.Photo{}, errPixels
	}
	picture, _, err := image.Decode(bytes.NewReader(data))
	if err != nil {
		return store.Photo{}, errFormat
	}
	picture = upright(fit(picture, longSide), orientation(data, format))
	var out bytes.Buffer
	for quality := 84; quality > 20; quality -= 16 {
		out.Reset()
		if err := jpeg.Encode(&out, picture, &jpeg.Options{Quality: quality}); err != nil {
			return store.Photo{}, err
		}
		if out.Len() <= mostKept {
			break
		}
	}
	size := picture.Bounds()
	return store.Photo{JPEG: out.Bytes(), Width: size.Dx(), Height: size.Dy()}, nil
}

// opened is how many bytes a pixel takes while a picture is decoded, by the decoders of image/jpeg and image/png.
func opened(config image.Config, format string, data []byte) float64 {
	if format == "jpeg" {
		return openedJPEG(data)
	}
	switch config.ColorModel {
	case color.GrayModel:
		return 1
	case color.Gray16Model:
		return 2
	case color.RGBA64Model, color.NRGBA64Model:
		return 8
	}
	if _, few := config.ColorModel.(color.Palette); few {
		return 1
	}
	return 4
}

// openedJPEG reads it from the header of the frame: samples a pixel by how the colours are taken together, and
// where the picture comes in several passes the coefficients, four bytes each, beside them. Source: ITU-T T.81,
// B.2.2.
func openedJPEG(data []byte) float64 {
	const dearest = 3 * 5.0 // every colour in full, in passes
	const marker, length, components, each = 2, 2, 9, 3
	for at := marker; at+length+marker < len(data); {
		kind, size := data[at+1], int(data[at+2])<<8|int(data[at+3])
		if data[at] != 0xff {
			break
		}
		if kind < 0xc0 || kind > 0xc2 { // no frame
			at += marker + size
			continue
		}
		frame := data[at+marker:]
		if len(frame) < components || len(frame) < components-1+each*int(frame[7]) {
			break
		}
		most, sum := 0, 0
		for k := range int(frame[7]) {
			sampled := frame[components+each*k]
			n := int(sampled>>4) * int(sampled&0xf)
			most, sum = max(most, n), sum+n
		}
		if most == 0 {
			break
		}
		bytes := float64(sum) / float64(most)
		if kind == 0xc2 {
			bytes *= 5
		}
		return bytes
	}
	return dearest
}

// fit makes a picture so small that its longer side has so many px, if it is larger.
func fit(picture image.Image, longSide int) image.Image {
	size := picture.Bounds().Size()
	long := max(size.X, size.Y)
	if long <= longSide {
		return picture
	}
	small := image.NewRGBA(image.Rect(0, 0, max(1, size.X*longSide/long), max(1, size.Y*longSide/long)))
	draw.CatmullRom.Scale(small, small.Bounds(), picture, picture.Bounds(), draw.Src, nil)
	return small
}

// orientation returns how the camera was held, 1 to 8 as EXIF numbers it; 1 where it
// is not said.
func orientation(data []byte, format string) int {
	held := 1
	if format != "jpeg" {
		return held
	}
	// What cannot be read of it leaves the picture as it is.
	_, err := imagemeta.Decode(imagemeta.Options{
		R: bytes.NewReader(data), ImageFormat: imagemeta.JPEG, Sources: imagemeta.EXIF,
		ShouldHandleTag: func(tag imagemeta.TagInfo) bool { return tag.Tag == "Orientation" },
		HandleTag: func(tag imagemeta.TagInfo) error {
			if n, ok := tag.Value.(uint16); ok && n >= 1 && n <= 8 {
				held = int(n)
			}
			return nil
		},
	})
	if err != nil {
		return 1
	}
	return held
}

// upright turns a picture as EXIF's orientation says. A row of turns gives where x, y
// of the picture comes to stand, in widths and heights of it. Source: EXIF 2.3, tag 274.
func upright(picture image.Image, held int) image.Image {
	if held <= 1 {
		return picture
	}
	b := picture.Bounds()
	w, h := float64(b.Dx()), float64(b.Dy())
	turns := map[int]f64.Aff3{
		2: {-1, 0, w, 0, 1, 0}, 3: {-1, 0, w, 0, -1, h}, 4: {1, 0, 0, 0, -1, h},
		5: {0, 1, 0, 1, 0, 0}, 6: {0, -1, h, 1, 0, 0}, 7: {0, -1, h, -1, 0, w}, 8: {0, 1, 0, -1, 0, w},
	}
	const sideways = 5
	size := image.Rect(0, 0, b.Dx(), b.Dy())
	if held >= sideways {
		size = image.Rect(0, 0, b.Dy(), b.Dx())
	}
	turned := image.NewRGBA(size)
	draw.NearestNeighbor.Transform(turned, turns[held], picture, b, draw.Src, nil)
	return turned
}

// AddPhoto stores the photo of a batch.
func (s *Screen) AddPhoto(c *gin.Context) error {
	k, err := s.records.Cook(c.Request.Context(), c.Param("id"))
	if err != nil {
		return err
	}
	refuse := func(status int, err error) error {
		return s.show(c, status, k, nil, map[string]string{"photo": frame.Words(c).Fault(err)})
	}
	header, err := c.FormFile("photo")
	if err != nil {
		var tooLarge *http.MaxBytesError
		if errors.As(err, &tooLarge) {
			return refuse(http.StatusRequestEntityTooLarge, errSize)
		}
		return refuse(http.StatusUnprocessableEntity, errNoPhoto)
	}
	file, err := header.Open()
	if err != nil {
		return err
	}
	defer file.Close()
	data, err := io.ReadAll(file)
	if err != nil {
		return err
	}
	// One at a time: a large photo takes a lot of memory while it is made small.
	s.resizing.Lock()
	photo, err := shrink(data)
	s.resizing.Unlock()
	if err != nil {
		return refuse(http.StatusUnprocessableEntity, err)
	}
	if err := s.records.SavePhoto(c.Request.Context(), k.ID, photo, s.app.Now()); err != nil {
		return err
	}
	c.Redirect(http.StatusSeeOther, "/logbook/"+k.ID+"?saved=1")
	return nil
}

// Photo sends the photo of a batch.
func (s *Screen) Photo(c *gin.Context) error {
	photo, err := s.records.Photo(c.Request.Context(), c.Param("id"))
	if err != nil {
		return err
	}
	if c.Query("small") == "" {
		c.Header("Cache-Control", "private, no-cache")
		c.Data(http.StatusOK, "image/jpeg", photo.JPEG)
		return nil
	}
	s.resizing.Lock()
	small, err := smaller(photo.JPEG)
	s.resizing.Unlock()
	if err != nil {
		return err
	}
	c.Header("Cache-Control", "private, max-age=31536000, immutable") // another photo has another address
	c.Data(http.StatusOK, "image/jpeg", small)
	return nil
}

// smallSide is the longer side of a photo in the list, in px: twice what is shown, for fine screens.
const smallSide = 144

func smaller(data []byte) ([]byte, error) {
	picture, err := jpeg.Decode(bytes.NewReader(data))
	if err != nil {
		return nil, err
	}
	var out bytes.Buffer
	err = jpeg.Encode(&out, fit(picture, smallSide), nil)
	return out.Bytes(), err
}

// RemovePhoto deletes the photo of a batch.
func (s *Screen) RemovePhoto(c *gin.Context) error {
	if err := s.records.RemovePhoto(c.Request.Context(), c.Param("id")); err != nil {
		return err
	}
	c.Redirect(http.StatusSeeOther, "/logbook/"+c.Param("id"))
	return nil
}
