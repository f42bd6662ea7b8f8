// Package logbook is what was cooked, beside what was planned.
package logbook

import (
	"context"
	"embed"
	"errors"
	"fmt"
	"net/http"
	"net/url"
	"slices"
	"strconv"
	"strings"
	"sync"
	"time"
	"unicode"
	"unicode/utf8"

	"github.com/gin-gonic/gin"

	"kirdu/app"
	"kirdu/core/cook"
	"kirdu/core/forecast"
	"kirdu/core/learn"
	"kirdu/core/measure"
	"kirdu/core/plan"
	"kirdu/core/pot"
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
	Again(ctx context.Context, c store.Cook) (*plan.Plan, error)
	Follow(ctx context.Context, c store.Cook, s *cook.State, at time.Time, of ...string) (learn.Live, error)
	Forecast(ctx context.Context, p *plan.Plan) (*forecast.Forecast, error)
	Judge(ctx context.Context, c store.Cook, v store.Verdict, tags []string) error
}

// Records are what it reads and writes of the data by itself.
type records interface {
	Book(ctx context.Context, most int) ([]store.Cook, error)
	Cook(ctx context.Context, id string) (store.Cook, error)
	CreatePudding(ctx context.Context, id string, p *plan.Plan, at time.Time) error
	Lessons(ctx context.Context) ([]store.Lesson, error)
	Photo(ctx context.Context, cookID string) (store.Photo, error)
	PhotoSize(ctx context.Context, cookID string) (width, height int, err error)
	RemovePhoto(ctx context.Context, cookID string) error
	RestoreBatch(ctx context.Context, id string) error
	SavePhoto(ctx context.Context, cookID string, p store.Photo, at time.Time) error
	SearchBook(ctx context.Context, f store.BookFilter, most, skip int) ([]store.BookLine, error)
	Tags(ctx context.Context) ([]store.Tag, error)
}

// A Screen is the Logbook.
type Screen struct {
	app     *frame.App
	kitchen kitchen
	records records
	list    *frame.Template
	batch   *frame.Template
	beside  *frame.Template
	trend   *frame.Template

	resizing sync.Mutex // photos are made small one at a time

	mutex sync.Mutex
	known map[string]facts
}

// facts are what a list tells of a batch beyond its line: they come of its events,
// and stay as long as no event comes.
type facts struct {
	last  int64
	bowls int
	took  measure.Minute
	yield measure.Gram
}

// mostKnown bounds the facts that are kept at hand.
const mostKnown = 5000

// factsOf returns the facts of a batch.
func (s *Screen) factsOf(ctx context.Context, l store.BookLine) (facts, error) {
	s.mutex.Lock()
	known, there := s.known[l.ID]
	s.mutex.Unlock()
	if there && known.last == l.Last {
		return known, nil
	}
	k, err := s.records.Cook(ctx, l.ID)
	if err != nil {
		return known, err
	}
	state := k.State()
	known = facts{l.Last, k.Plan.Serves, cookMinutes(&state), state.Yield}
	s.mutex.Lock()
	defer s.mutex.Unlock()
	if len(s.known) >= mostKnown {
		clear(s.known)
	}
	s.known[l.ID] = known
	return known, nil
}

// New returns the screen.
func New(app *frame.App, kitchen kitchen, records records) *Screen {
	return &Screen{app: app, kitchen: kitchen, records: records, list: app.Template(files, "logbook.html"), batch: app.Template(files,
		"batch.html"),
		beside: app.Template(files, "beside.html"), trend: app.Template(files, "trends.html"), known: map[string]facts{}}
}

type listView struct {
	Batches        []entry
	Words, Verdict string
	Verdicts       []string
	Older, Newer   string // addresses, "" for none
	Tag            string
	Tags           []store.Tag
	Filtered       bool
}

type entry struct {
	ID, Name, Day, Bowls, Took, Yield, Verdict string
	Photo                                      string // the address of a small one, "" for none

	Week       string // of the first of each week: when it began
	Unreadable string // where to read what can be done; then only name and day are known
}

// mostListed is how many batches a page has, mostPages how many pages there are.
const (
	mostListed = 50
	mostPages  = 1000
	longWords  = 80
)

// Show lists the batches.
func (s *Screen) Show(c *gin.Context) error {
	say := frame.Words(c)
	v := listView{Words: strings.TrimSpace(c.Query("search")), Verdict: c.Query("verdict"), Tag: c.Query("tag"),
		Verdicts: append(store.SweetnessVerdicts(), store.Unjudged)}
	if utf8.RuneCountInString(v.Words) > longWords || utf8.RuneCountInString(v.Tag) > longTag || v.Verdict != "" &&
		!slices.Contains(v.Verdicts, v.Verdict) {
		return frame.Stop(http.StatusUnprocessableEntity, "The book cannot be searched for that.",
			"Give a few words, and choose a verdict of the list.")
	}
	pageNumber := 0
	if text := c.Query("page"); text != "" {
		var err error
		if pageNumber, err = strconv.Atoi(text); err != nil || pageNumber < 0 || pageNumber > mostPages {
			return frame.Stop(http.StatusUnprocessableEntity, "There is no such page of the book.", "Pages are numbered from 0.")
		}
	}
	v.Filtered = v.Words != "" || v.Verdict != "" || v.Tag != ""
	book, err := s.records.SearchBook(c.Request.Context(), store.BookFilter{Words: v.Words, Verdict: v.Verdict, Tag: v.Tag},
		mostListed+1, pageNumber*mostListed)
	if err != nil {
		return err
	}
	if v.Tags, err = s.records.Tags(c.Request.Context()); err != nil {
		return err
	}
	address := func(page int) string {
		return "/logbook?" + url.Values{"search": {v.Words}, "verdict": {v.Verdict}, "tag": {v.Tag}, "page": {strconv.Itoa(page)}}.Encode()
	}
	if len(book) > mostListed {
		book, v.Older = book[:mostListed], address(pageNumber+1)
	}
	if pageNumber > 0 {
		v.Newer = address(pageNumber - 1)
	}
	week := ""
	for _, k := range book {
		known, err := s.factsOf(c.Request.Context(), k)
		bad, unreadable := errors.AsType[*store.Unreadable](err)
		if err != nil && !unreadable {
			return err
		}
		e := entry{ID: k.ID, Name: k.Name, Day: say.Time(k.BegunAt.In(s.app.Zone), "2 Jan 2006")}
		if unreadable {
			e.Unreadable = frame.UnreadablePath(bad)
		} else {
			e.Bowls, e.Took, e.Yield = strconv.Itoa(known.bowls), say.Minutes(known.took), "not weighed"
		}
		if k.Photo != "" && !unreadable {
			e.Photo = "/logbook/" + k.ID + "/photo.jpg?" + url.Values{"small": {k.Photo}}.Encode()
		}
		if known.yield > 0 {
			e.Yield = say.Exact(known.yield)
		}
		if k.Verdict != nil {
			e.Verdict = verdictWords(*k.Verdict)
		}
		if began := say.Time(weekOf(k.BegunAt.In(s.app.Zone), frame.PreferencesOf(c).Week), words.Day); began != week {
			week, e.Week = began, began
		}
		v.Batches = append(v.Batches, e)
	}
	frame := frame.Frame{Title: "Logbook", Section: "logbook", Body: v}
	if id := c.Query("removed"); id != "" {
		frame.Notice, frame.UndoPath = "The batch was taken out of the book.", "/logbook/"+id+"/restore"
	}
	return s.list.Show(c, http.StatusOK, frame)
}

// Restore puts a batch back that was taken out.
func (s *Screen) Restore(c *gin.Context) error {
	if err := s.records.RestoreBatch(c.Request.Context(), c.Param("id")); err != nil {
		return err
	}
	c.Redirect(http.StatusSeeOther, "/logbook")
	return nil
}

// weekOf returns the day on which the week of a moment began.
func weekOf(at time.Time, first string) time.Time {
	begins := time.Monday
	if first == "sunday" {
		begins = time.Sunday
	}
	const days = 7
	return at.AddDate(0, 0, -(int(at.Weekday()-begins)+days)%days)
}

// asItWas is the wish for no change.
const asItWas = "just right"

func verdictWords(v store.Verdict) string {
	var said []string
	if v.Thickness > 0 {
		said = append(said, pot.ThicknessWord(float64(v.Thickness)))
	}
	if v.Sweetness != "" {
		said = append(said, v.Sweetness)
	}
	for _, wish := range []string{v.Thicker, v.Softer} {
		if wish != "" && wish != asItWas {
			said = append(said, wish+" next time")
		}
	}
	return strings.Join(said, ", ")
}

// Batch shows one.
func (s *Screen) Batch(c *gin.Context) error {
	k, err := s.records.Cook(c.Request.Context(), c.Param("id"))
	if err != nil {
		return err
	}
	return s.show(c, http.StatusOK, k, nil, nil)
}

func (s *Screen) show(c *gin.Context, status int, k store.Cook, typed *form, faults map[string]string) error {
	say := frame.Words(c)
	if state := k.State(); state.Finished.IsZero() {
		c.Redirect(http.StatusSeeOther, "/stove/"+k.ID)
		return nil
	}
	v, err := s.newView(c.Request.Context(), say, k)
	if err != nil {
		return err
	}
	v.Faults = faults
	if v.PhotoWidth, v.PhotoHeight, err = s.records.PhotoSize(c.Request.Context(), k.ID); err != nil {
		return err
	}
	if typed != nil {
		v.Form = *typed
	}
	frame := frame.Frame{Title: k.Plan.Name, Section: "logbook", Module: "js/batch.js", Body: v}
	if c.Query("saved") != "" {
		frame.Notice = "Written down."
	}
	return s.batch.Show(c, status, frame)
}

// form is the verdict as it was typed.
type form struct {
	Eaten     string
	Thickness string
	Sweetness string
	Thicker   string
	Softer    string
	Note      string

	NextThickness string
	NextNote      string
	Tags          string
}

func readForm(f *frame.Fields) form {
	return form{
		Eaten:         f.Text("eaten"),
		Thickness:     f.Text("thickness"),
		Sweetness:     f.Text("sweetness"),
		Thicker:       f.Text("thicker"),
		Softer:        f.Text("softer"),
		Note:          f.Text("note"),
		NextThickness: f.Text("next_thickness"),
		NextNote:      f.Text("next_note"),
		Tags:          f.Text("tags"),
	}
}

// Faults of the form.
var (
	errChoice = measure.Code("logbook.choice")
	errNote   = measure.Code("logbook.note")
	errTags   = measure.Code("logbook.tags")
)

const (
	longestNote = 4000
	longTag     = 30
	mostTags    = 8
)

// MaxUpload is how large a photo may be that is sent.
const MaxUpload = 20 << 20

// Again puts the plan of a batch on the shelf once more, sweeter or less sweet as
// was noted, with the note.
func (s *Screen) Again(c *gin.Context) error {
	say := frame.Words(c)
	ctx := c.Request.Context()
	k, err := s.records.Cook(ctx, c.Param("id"))
	if err != nil {
		return err
	}
	p, err := s.kitchen.Again(ctx, k)
	if err != nil {
		return err
	}
	if k.Verdict != nil && k.Verdict.Note != "" {
		note := fmt.Sprintf("%s: %s", say.Time(k.BegunAt.In(s.app.Zone), "2 January 2006"), k.Verdict.Note)
		const longest = 3900 // of what a plan may have
		if joined := strings.TrimSpace(p.Notes + "\n" + note); len(joined) <= longest {
			p.Notes = joined
		}
	}
	id := app.NewID()
	if err := s.records.CreatePudding(ctx, id, p, s.app.Now()); err != nil {
		return err
	}
	c.Redirect(http.StatusSeeOther, "/puddings/"+id)
	return nil
}

// Judge stores how a batch ate.
func (s *Screen) Judge(c *gin.Context) error {
	ctx := c.Request.Context()
	posted, err := frame.ReadForm(c, nil)
	if err != nil {
		return err
	}
	f := readForm(posted)
	k, err := s.records.Cook(ctx, c.Param("id"))
	if err != nil {
		return err
	}
	verdict, tags, err := parse(f)
	if err != nil {
		return s.show(c, http.StatusUnprocessableEntity, k, &f, frame.FieldFaults(frame.Words(c), err))
	}
	if err := s.kitchen.Judge(ctx, k, verdict, tags); err != nil {
		return err
	}
	c.Redirect(http.StatusSeeOther, fmt.Sprintf("/logbook/%s?saved=1", k.ID))
	return nil
}

func parse(f form) (v store.Verdict, tags []string, err error) {
	var faults measure.Faults
	v = store.Verdict{Eaten: f.Eaten, Sweetness: f.Sweetness, Note: strings.TrimSpace(f.Note), NextNote: strings.TrimSpace(f.NextNote)}
	if !slices.Contains([]string{"", string(plan.Hot), string(plan.Warm), string(plan.Room), string(plan.Chilled)}, f.Eaten) {
		faults = append(faults, &measure.FieldError{Field: "eaten", Err: errChoice})
	}
	grade := func(field, text string) int {
		if text == "" {
			return 0
		}
		grade, err := strconv.Atoi(text)
		if err != nil || grade < 0 || grade > len(pot.ThicknessWords()) {
			faults = append(faults, &measure.FieldError{Field: field, Err: errChoice})
		}
		return grade
	}
	v.Thickness, v.NextThickness = grade("thickness", f.Thickness), grade("next_thickness", f.NextThickness)
	for _, name := range strings.Split(f.Tags, ",") {
		if name = strings.Join(strings.Fields(strings.ToLower(name)), " "); name != "" && !slices.Contains(tags, name) {
			tags = append(tags, name)
		}
	}
	tooLong := func(name string) bool {
		return utf8.RuneCountInString(name) > longTag || strings.ContainsFunc(name, unicode.IsControl)
	}
	if len(tags) > mostTags || slices.ContainsFunc(tags, tooLong) {
		faults = append(faults, &measure.FieldError{Field: "tags", Err: errTags})
	}
	if utf8.RuneCountInString(v.NextNote) > longestNote {
		faults = append(faults, &measure.FieldError{Field: "next_note", Err: errNote})
	}
	if v.Thicker = f.Thicker; f.Thicker != "" && !slices.Contains(store.ThicknessWishes(), f.Thicker) {
		faults = append(faults, &measure.FieldError{Field: "thicker", Err: errChoice})
	}
	if v.Softer = f.Softer; f.Softer != "" && !slices.Contains(store.SoftnessWishes(), f.Softer) {
		faults = append(faults, &measure.FieldError{Field: "softer", Err: errChoice})
	}
	if f.Sweetness != "" && !slices.Contains(store.SweetnessVerdicts(), f.Sweetness) {
		faults = append(faults, &measure.FieldError{Field: "sweetness", Err: errChoice})
	}
	if utf8.RuneCountInString(v.Note) > longestNote {
		faults = append(faults, &measure.FieldError{Field: "note", Err: errNote})
	}
	return v, tags, faults.Err()
}
