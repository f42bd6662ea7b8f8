// Package about is what stands behind the figures: the cautions of the kitchen, and
// the licences of what the program is made of.
package about

import (
	"embed"
	"encoding/json"
	"io/fs"
	"net/http"
	"path"
	"slices"
	"strings"

	"github.com/gin-gonic/gin"

	"kirdu/core/pantry"
	"kirdu/core/pot"
	"kirdu/docs"
	"kirdu/store"
	"kirdu/web/frame"
	"kirdu/web/picture"
)

//go:embed *.html *.css
var files embed.FS

// Assets are the styles and modules of the screen.
var Assets = frame.Assets(files)

//go:embed licences.json
var modules []byte

// A Screen is the pages about Kirdu.
type Screen struct {
	cautions, licences, guide, model *frame.Template
	parts                            []licence
}

// licence is what one part is under.
type licence struct {
	Name    string `json:"name"`
	Version string `json:"version"`
	Text    string `json:"text"`
}

// licenceSuffix marks the licences of fonts, styles and icons among the files that
// are sent to browsers.
const licenceSuffix = "-LICENSE.txt"

// New returns the screens; static are the files that are sent to browsers. A
// licence that cannot be read is a mistake of ours and panics at start-up.
func New(app *frame.App, static fs.FS) *Screen {
	s := &Screen{cautions: app.Template(files, "cautions.html"), licences: app.Template(files, "licences.html"),
		guide: app.Template(files, "guide.html"), model: app.Template(files, "model.html")}
	if err := json.Unmarshal(modules, &s.parts); err != nil {
		panic(err)
	}
	names, err := fs.Glob(static, "vendor/*"+licenceSuffix)
	if err != nil {
		panic(err)
	}
	slices.Sort(names)
	for _, name := range names {
		text, err := fs.ReadFile(static, name)
		if err != nil {
			panic(err)
		}
		s.parts = append(s.parts, licence{Name: strings.TrimSuffix(path.Base(name), licenceSuffix), Version: "fonts, styles or icons",
			Text: string(text)})
	}
	return s
}

// Cautions shows the usual cautions in one place.
func (s *Screen) Cautions(c *gin.Context) error {
	return s.cautions.Show(c, http.StatusOK, frame.Frame{Title: "With care"})
}

// Licences shows what every part is under.
func (s *Screen) Licences(c *gin.Context) error {
	return s.licences.Show(c, http.StatusOK, frame.Frame{Title: "Licences", Body: s.parts})
}

// Guide says what each screen is for.
func (s *Screen) Guide(c *gin.Context) error {
	say := frame.Words(c)
	v := guideView{Spoons: picture.Spoons(say)}
	for _, word := range pot.DonenessMarks(pantry.Grainy) {
		v.Softness = append(v.Softness, soft{word, say.FingerSign(word)})
	}
	return s.guide.Show(c, http.StatusOK, frame.Frame{Title: "Guide", Body: v})
}

// Model says what is computed, from what, and how sure it is.
func (s *Screen) Model(c *gin.Context) error {
	return s.model.Show(c, http.StatusOK, frame.Frame{Title: "What is computed"})
}

type guideView struct {
	Spoons   []picture.Spoon
	Softness []soft
}

// soft is a word of doneness and what the fingers feel of it.
type soft struct{ Word, Says string }

// Picture sends a picture of the guide.
func (s *Screen) Picture(c *gin.Context) error {
	data, err := docs.Screenshots.ReadFile("screenshots/" + c.Param("name"))
	if err != nil {
		return store.ErrNotFound
	}
	c.Header("Cache-Control", "private, max-age=3600")
	c.Data(http.StatusOK, "image/png", data)
	return nil
}
