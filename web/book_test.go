package web_test

import (
	"bytes"
	"encoding/binary"
	"html"
	"image"
	"image/color"
	"image/jpeg"
	"image/png"
	"net/http"
	"net/url"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"kirdu/core/cook"
	"kirdu/store"
)

// picture is a photo that is red in its upper left quarter.
func picture(width, height int) image.Image {
	p := image.NewRGBA(image.Rect(0, 0, width, height))
	for y := range height {
		for x := range width {
			if x < width/2 && y < height/2 {
				p.Set(x, y, color.RGBA{200, 20, 20, 255})
			} else {
				p.Set(x, y, color.RGBA{230, 230, 220, 255})
			}
		}
	}
	return p
}

// withPlace puts an Exif segment into a JPEG: lying on its side, and where it was
// taken.
func withPlace(t *testing.T, data []byte) []byte {
	t.Helper()
	order := binary.BigEndian
	tiff := []byte("MM\x00\x2a\x00\x00\x00\x08\x00\x01")
	entry := make([]byte, 12)
	order.PutUint16(entry[0:], 0x0112) // orientation
	order.PutUint16(entry[2:], 3)
	order.PutUint32(entry[4:], 1)
	order.PutUint16(entry[8:], 6) // turn by 90° clockwise
	tiff = append(append(tiff, entry...), 0, 0, 0, 0)
	body := append([]byte("Exif\x00\x00"), append(tiff, []byte("GPS 47.1 N the boathouse")...)...)
	segment := append([]byte{0xff, 0xe1, 0, 0}, body...)
	order.PutUint16(segment[2:], uint16(len(body)+2))
	return append(append(append([]byte{}, data[:2]...), segment...), data[2:]...)
}

func TestPhotoOfABatch(t *testing.T) {
	s := newSite(t, nil)
	book, err := s.store.Book(t.Context(), 1)
	require.NoError(t, err)
	path := "/logbook/" + book[0].ID
	var b bytes.Buffer
	require.NoError(t, jpeg.Encode(&b, picture(2400, 1200), nil))
	sent := withPlace(t, b.Bytes())
	response, body := s.upload(path+"/photo", "photo", "IMG_1.jpg", sent)
	require.Equal(t, http.StatusSeeOther, response.StatusCode, body)
	_, page := s.get("/logbook")
	small := regexp.MustCompile(`src="(` + path + `/photo\.jpg\?small=[^"]+)"`).FindStringSubmatch(page)
	require.NotNil(t, small, "the book shows it")
	response, thumb := s.get(html.UnescapeString(small[1]))
	require.Contains(t, response.Header.Get("Cache-Control"), "immutable")
	shown, err := jpeg.DecodeConfig(strings.NewReader(thumb))
	require.NoError(t, err)
	require.Equal(t, 144, max(shown.Width, shown.Height))
	response, kept := s.get(path + "/photo.jpg")
	require.Equal(t, "image/jpeg", response.Header.Get("Content-Type"))
	require.False(t, strings.Contains(kept, "GPS") || strings.Contains(kept, "Exif"), "nobody learns where it was taken")
	got, err := jpeg.Decode(strings.NewReader(kept))
	require.NoError(t, err)
	require.Equal(t, image.Pt(800, 1600), got.Bounds().Size(), "smaller, and upright")
	r, g, _, _ := got.At(700, 100).RGBA()
	require.Greater(t, r, 2*g, "what was upper left lies upper right when it is turned")
	_, page = s.get(path)
	require.True(t, strings.Contains(page, `src="`+path+`/photo.jpg" width="800" height="1600"`))

	b.Reset()
	require.NoError(t, png.Encode(&b, picture(40, 30)))
	response, _ = s.upload(path+"/photo", "photo", "b.png", b.Bytes())
	require.Equal(t, http.StatusSeeOther, response.StatusCode)

	huge := b.Bytes()
	binary.BigEndian.PutUint32(huge[16:], 25000) // the header says 500 megapixels
	binary.BigEndian.PutUint32(huge[20:], 20000)
	for name, bad := range map[string][]byte{"nothing": nil, "no picture": []byte("cheese"),
		"gif": []byte("GIF89a\x01\x00\x01\x00\x00\x00\x00;"), "cut off": sent[:len(sent)/3], "500 megapixels": huge} {
		response, page := s.upload(path+"/photo", "photo", "x.jpg", bad)
		require.Equal(t, http.StatusUnprocessableEntity, response.StatusCode, name)
		require.True(t, strings.Contains(page, `id="photo-fault"`), name)
	}
	response, _ = s.get(path + "/photo.jpg")
	require.Equal(t, http.StatusOK, response.StatusCode, "the one that was there stays")
	response, _ = s.post(path+"/photo/remove", url.Values{})
	require.Equal(t, http.StatusSeeOther, response.StatusCode)
	response, _ = s.get(path + "/photo.jpg")
	require.Equal(t, http.StatusNotFound, response.StatusCode)
}

func TestTagsAndTheNextDay(t *testing.T) {
	s := newSite(t, nil)
	book, err := s.store.Book(t.Context(), 2)
	require.NoError(t, err)
	path := "/logbook/" + book[0].ID
	response, _ := s.post(path, url.Values{"thickness": {"4"}, "next_thickness": {"6"}, "next_note": {"firm as cake"},
		"tags": {" Supper,  for  Anyone , supper"}})
	require.Equal(t, http.StatusSeeOther, response.StatusCode)
	k, err := s.store.Cook(t.Context(), book[0].ID)
	require.NoError(t, err)
	require.Equal(t, []string{"for anyone", "supper"}, k.Tags)
	require.Equal(t, 6, k.Verdict.NextThickness)
	_, page := s.get("/logbook?tag=for+anyone")
	require.True(t, strings.Contains(page, book[0].ID))
	require.False(t, strings.Contains(page, book[1].ID))
	_, page = s.get("/logbook?search=firm+as")
	require.True(t, strings.Contains(page, book[0].ID), "the next day's note is searched, too")
	for field, bad := range map[string]string{"tags": "1,2,3,4,5,6,7,8,9", "next_thickness": "12", "next_note": strings.Repeat("x", 4001)} {
		response, _ := s.post(path, url.Values{field: {bad}})
		require.Equal(t, http.StatusUnprocessableEntity, response.StatusCode, field)
	}
	response, _ = s.get("/logbook?tag=" + strings.Repeat("x", 31))
	require.Equal(t, http.StatusUnprocessableEntity, response.StatusCode)
}

func TestBatchesBesideEachOtherAndOverTime(t *testing.T) {
	s := newSite(t, nil)
	book, err := s.store.Book(t.Context(), 20)
	require.NoError(t, err)
	a, b := book[0], book[1]
	_, page := s.get("/logbook/" + a.ID + "/beside?with=" + b.ID)
	for _, text := range []string{"As they went", "What came of them", "Power into the pot", "What was done otherwise", b.Plan.Name} {
		require.True(t, strings.Contains(page, text), text)
	}
	response, _ := s.get("/logbook/" + a.ID + "/beside?with=nobody")
	require.Equal(t, http.StatusNotFound, response.StatusCode)
	response, _ = s.get("/logbook/" + a.ID + "/beside?with=" + s.onStove().ID)
	require.Equal(t, http.StatusUnprocessableEntity, response.StatusCode)

	_, page = s.get("/logbook/trends")
	for _, text := range []string{"Yield, of what was planned", "Boils away", "Thicker than expected", "Liked sweeter", "Show the numbers"} {
		require.True(t, strings.Contains(page, text), text)
	}
	saved := func(k store.Cook) bool {
		for _, e := range k.Events {
			if e.Kind == cook.Mended {
				return true
			}
		}
		return false
	}
	found := false
	for _, k := range book {
		if saved(k) {
			_, page = s.get("/logbook/" + k.ID)
			found = true
			require.True(t, strings.Contains(page, "What was told"))
			require.True(t, strings.Contains(page, "Loosen it with"), "the repair is told")
			require.True(t, strings.Contains(page, "weighed "))
		}
	}
	require.True(t, found)
}
