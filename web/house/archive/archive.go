// Package archive is everything out and in again: the archive, and the book as
// tables.
package archive

import (
	"bytes"
	"context"
	"embed"
	"encoding/csv"
	"errors"
	"io"
	"net/http"
	"os"
	"strconv"
	"strings"
	"time"

	"github.com/gin-gonic/gin"

	"kirdu/core/measure"
	"kirdu/store"
	"kirdu/web/frame"
	"kirdu/words"
)

//go:embed *.html *.css
var files embed.FS

// Assets are the styles and modules of the screen.
var Assets = frame.Assets(files)

// A kitchen is what the screen asks of the application.
type kitchen interface {
	Export(ctx context.Context, w io.Writer) error
	Import(ctx context.Context, r io.ReaderAt, size int64, choice store.Choice, dry bool) ([]store.Absorbed, error)
}

// Records are what it reads and writes of the data by itself.
type records interface {
	AllBatches(ctx context.Context) ([]store.Cook, error)
	AllReadings(ctx context.Context) ([]store.BatchReading, error)
	Raw(ctx context.Context, kind store.Kind, id string) ([]byte, error)
	RemoveUnreadable(ctx context.Context, kind store.Kind, id string, at time.Time) error
	Unreadable(ctx context.Context, kind store.Kind, id string) (*store.Unreadable, error)
}

// A Screen is the archive.
type Screen struct {
	app     *frame.App
	kitchen kitchen
	records records
	page    *frame.Template
	bad     *frame.Template
	waiting *uploads
}

// New returns the screen.
func New(app *frame.App, kitchen kitchen, records records) *Screen {
	return &Screen{app: app, kitchen: kitchen, records: records, page: app.Template(files, "archive.html"),
		bad: app.Template(files, "unreadable.html"), waiting: newUploads(longestWait)}
}

// MaxUpload is how large an archive may be that is sent by a browser; larger ones
// are taken over by the command line.
const MaxUpload = 64 << 20

type view struct {
	Fault  string
	Token  string // of what was looked at
	Name   string
	Report []line
	New    int
	Other  int
	Done   bool
}

type line struct {
	What             string
	New, Same, Other int
	Clashes          []string
}

// Faults of the form.
var (
	errNoFile  = measure.Code("archive.no-file")
	errTooBig  = measure.Code("archive.too-big").With(MaxUpload >> 20)
	errExpired = measure.Code("archive.expired")
)

// Show offers what can be done.
func (s *Screen) Show(c *gin.Context) error { return s.show(c, http.StatusOK, view{}) }

func (s *Screen) show(c *gin.Context, status int, v view) error {
	return s.page.Show(c, status, frame.Frame{Title: "Archive", Section: "kitchen", Body: v})
}

// Export sends everything.
func (s *Screen) Export(c *gin.Context) error {
	var buffer bytes.Buffer
	if err := s.kitchen.Export(c.Request.Context(), &buffer); err != nil {
		return err
	}
	attach(c, "application/zip", "kirdu-"+s.app.Now().In(s.app.Zone).Format("2006-01-02")+".kirdu.zip", buffer.Bytes())
	return nil
}

func attach(c *gin.Context, kind, name string, data []byte) {
	c.Header("Content-Disposition", `attachment; filename="`+name+`"`)
	c.Header("Cache-Control", "no-store")
	c.Data(http.StatusOK, kind, data)
}

// Look says what an archive would do, and changes nothing.
func (s *Screen) Look(c *gin.Context) error {
	refuse := func(err error) error {
		return s.show(c, http.StatusUnprocessableEntity, view{Fault: frame.Words(c).Fault(err)})
	}
	header, err := c.FormFile("archive")
	if err != nil {
		var tooLarge *http.MaxBytesError
		if errors.As(err, &tooLarge) {
			return s.show(c, http.StatusRequestEntityTooLarge, view{Fault: frame.Words(c).Fault(errTooBig)})
		}
		return refuse(errNoFile)
	}
	in, err := header.Open()
	if err != nil {
		return err
	}
	defer in.Close()
	file, err := os.CreateTemp("", uploadPattern)
	if err != nil {
		return err
	}
	_, err = io.Copy(file, in)
	if err := errors.Join(err, file.Close()); err != nil {
		os.Remove(file.Name())
		return err
	}
	report, err := s.absorb(c, file.Name(), store.KeepOurs, true)
	if err != nil {
		os.Remove(file.Name())
		return refuse(measure.Code("archive.refused").With(header.Filename, err))
	}
	v := view{Token: s.waiting.keep(file.Name()), Name: header.Filename}
	v.tell(frame.Words(c), report)
	return s.show(c, http.StatusOK, v)
}

func (s *Screen) absorb(c *gin.Context, path string, choice store.Choice, dry bool) ([]store.Absorbed, error) {
	file, err := os.Open(path)
	if err != nil {
		return nil, err
	}
	defer file.Close()
	info, err := file.Stat()
	if err != nil {
		return nil, err
	}
	return s.kitchen.Import(c.Request.Context(), file, info.Size(), choice, dry)
}

// Take takes over what was looked at.
func (s *Screen) Take(c *gin.Context) error {
	f, err := frame.ReadForm(c, nil)
	if err != nil {
		return err
	}
	path, ok := s.waiting.take(f.Text("token"))
	if !ok {
		return s.show(c, http.StatusUnprocessableEntity, view{Fault: frame.Words(c).Fault(errExpired)})
	}
	defer os.Remove(path)
	choice := store.KeepOurs
	if store.Choice(f.Text("choice")) == store.TakeTheirs {
		choice = store.TakeTheirs
	}
	report, err := s.absorb(c, path, choice, false)
	if err != nil {
		return s.show(c, http.StatusUnprocessableEntity, view{Fault: frame.Words(c).Fault(err) + ". Nothing was changed"})
	}
	v := view{Done: true, Name: "It is taken over"}
	v.tell(frame.Words(c), report)
	return s.show(c, http.StatusOK, v)
}

func (v *view) tell(say words.Printer, report []store.Absorbed) {
	for _, one := range report {
		if one.New+one.Same+one.Other > 0 {
			v.Report = append(v.Report, line{say.Kept(one.Name), one.New, one.Same, one.Other, one.Clashes})
			v.New, v.Other = v.New+one.New, v.Other+one.Other
		}
	}
}

// Batches sends the book as a table.
func (s *Screen) Batches(c *gin.Context) error {
	list, err := s.records.AllBatches(c.Request.Context())
	if err != nil {
		return err
	}
	rows := [][]string{{"batch", "pudding", "begun_utc", "minutes", "yield_g", "eaten", "thickness", "sweetness", "note",
		"thickness_next_day", "note_next_day", "tags"}}
	for _, k := range list {
		state := k.State()
		v := store.Verdict{}
		if k.Verdict != nil {
			v = *k.Verdict
		}
		mass := ""
		if state.Yield > 0 {
			mass = strconv.FormatFloat(float64(state.Yield), 'f', -1, 64)
		}
		rows = append(rows, []string{k.ID, plain(k.Plan.Name), k.BegunAt.UTC().Format(time.RFC3339),
			strconv.FormatFloat(state.Finished.Sub(k.BegunAt).Minutes(), 'f', 1, 64),
			mass, v.Eaten, grade(v.Thickness), v.Sweetness, plain(v.Note), grade(v.NextThickness), plain(v.NextNote),
			plain(strings.Join(k.Tags, " "))})
	}
	return s.table(c, "kirdu-batches.csv", rows)
}

// Readings sends what gadgets sent, of all batches.
func (s *Screen) Readings(c *gin.Context) error {
	list, err := s.records.AllReadings(c.Request.Context())
	if err != nil {
		return err
	}
	rows := [][]string{{"batch", "kind", "at_utc", "value", "not_believed"}}
	for _, r := range list {
		rows = append(rows, []string{r.CookID, r.Kind, r.At.UTC().Format(time.RFC3339Nano), strconv.FormatFloat(r.Value, 'g', -1, 64), r.Mark})
	}
	return s.table(c, "kirdu-readings.csv", rows)
}

func grade(x int) string {
	if x == 0 {
		return ""
	}
	return strconv.Itoa(x)
}

// plain keeps a text from being taken for a formula by a spreadsheet.
func plain(text string) string {
	if strings.IndexAny(text, "=+-@\t\r") == 0 {
		return "'" + text
	}
	return text
}

func (s *Screen) table(c *gin.Context, name string, rows [][]string) error {
	var buffer bytes.Buffer
	lines := csv.NewWriter(&buffer)
	if err := lines.WriteAll(rows); err != nil {
		return err
	}
	attach(c, "text/csv; charset=utf-8", name, buffer.Bytes())
	return nil
}
