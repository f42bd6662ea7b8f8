// Package page is what all screens share: the frame around them, how they are
// rendered and what is shown when something went wrong.
package page

import (
	"bytes"
	"context"
	"embed"
	"errors"
	"fmt"
	"html/template"
	"io/fs"
	"log/slog"
	"net/http"
	"time"

	"github.com/gin-gonic/gin"
	"github.com/google/uuid"

	"kirdu/core/measure"
	"kirdu/core/plan"
	"kirdu/store"
	"kirdu/web/draw"
)

//go:embed templates/*.html
var shared embed.FS

// An App is what the screens work with.
type App struct {
	Store   *store.Store
	Now     func() time.Time
	Zone    *time.Location
	Log     *slog.Logger
	Demo    bool            // a throwaway sample kitchen
	Login   bool            // a passphrase is asked for
	Version string          // of the static files, part of their address
	Ending  <-chan struct{} // closed when the program ends; nil: never

	learnt lessons
}

type homeKey struct{}

// WithHome lets what a request asks of the kitchen's own figures be read once.
func WithHome(ctx context.Context) context.Context {
	return context.WithValue(ctx, homeKey{}, &plan.Home{})
}

// Home returns what the kitchen has found out about itself, for reading only.
func (a *App) Home(ctx context.Context) (plan.Home, error) {
	once, _ := ctx.Value(homeKey{}).(*plan.Home)
	if once != nil && once.Measures != nil {
		return *once, nil
	}
	home, err := a.Store.Home(ctx)
	if err == nil && once != nil {
		*once = home
	}
	return home, err
}

// lay lays over puddings what this kitchen has found out: its measures, water tests,
// own materials and air, and what its batches teach.
func (a *App) lay(ctx context.Context, puddings []store.Pudding) error {
	if len(puddings) == 0 {
		return nil
	}
	home, err := a.Home(ctx)
	if err != nil {
		return err
	}
	learnt, err := a.Learnt(ctx)
	if err != nil {
		return err
	}
	for i := range puddings {
		puddings[i].Plan = puddings[i].Plan.In(home)
		learnt.Into(puddings[i].Plan)
	}
	return nil
}

// Pudding returns a pudding as it is cooked in this kitchen. Error:
// store.ErrNotFound.
func (a *App) Pudding(ctx context.Context, id string) (store.Pudding, error) {
	pudding, err := a.Store.Pudding(ctx, id)
	if err != nil {
		return pudding, err
	}
	one := []store.Pudding{pudding}
	err = a.lay(ctx, one)
	return one[0], err
}

// Puddings returns so many of the shelf, the latest saved first, as they are
// cooked in this kitchen.
func (a *App) Puddings(ctx context.Context, most int) ([]store.Pudding, error) {
	shelf, err := a.Store.Puddings(ctx, most)
	if err != nil {
		return nil, err
	}
	return shelf, a.lay(ctx, shelf)
}

// Planned returns the puddings that have a time to be on the table, the next
// first, as they are cooked in this kitchen.
func (a *App) Planned(ctx context.Context) ([]store.Pudding, error) {
	planned, err := a.Store.Planned(ctx)
	if err != nil {
		return nil, err
	}
	return planned, a.lay(ctx, planned)
}

// NewID returns a new identifier, sortable by time.
func NewID() string { return uuid.Must(uuid.NewV7()).String() }

// A Template is the page of one screen, complete with frame and partials.
type Template struct {
	app *App
	set *template.Template
}

// Template composes the page of a screen from its own files. A fault in one is
// a mistake of ours and panics at start-up.
func (a *App) Template(files fs.FS, patterns ...string) *Template {
	set := template.Must(template.New("frame.html").Funcs(functions(a)).ParseFS(shared, "templates/*.html"))
	template.Must(set.ParseFS(draw.Templates(), "*.html"))
	template.Must(set.ParseFS(files, patterns...))
	return &Template{app: a, set: set}
}

// A Frame is the view model of every page; Body is that of the screen.
type Frame struct {
	Title    string
	Section  string // which entry of the navigation is lit
	Module   string // path of the screen's own module under /static, "" for none
	Demo     bool
	Login    bool
	Bare     bool // without navigation
	Refresh  int  // seconds after which a page without JavaScript loads again, 0 never
	Version  string
	OnStove  []store.Cooking
	Body     any
	Notice   string // a word about what was just done
	UndoPath string // where it can be undone, "" if it cannot
	Theme    string // auto, light, dark
}

// Show renders a page into a buffer first, so that a fault in it cannot leave
// half a page with status 200.
func (t *Template) Show(c *gin.Context, status int, f Frame) {
	f.Demo, f.Login, f.Version = t.app.Demo, t.app.Login, t.app.Version
	if !f.Bare {
		var err error
		if f.OnStove, err = t.app.Store.Cooking(c.Request.Context()); err != nil {
			t.app.Fail(c, err)
			return
		}
	}
	local, err := t.app.Local(c.Request.Context())
	if err != nil {
		t.app.Fail(c, err)
		return
	}
	f.Theme = local.Theme
	var buffer bytes.Buffer
	if err := t.set.ExecuteTemplate(&buffer, "frame.html", f); err != nil {
		t.app.Fail(c, err)
		return
	}
	c.Data(status, "text/html; charset=utf-8", local.Page(buffer.Bytes()))
}

// Trouble is the view model of the page that says what went wrong.
type Trouble struct {
	Heading string
	Words   []string
	Request string // to be found in the log, "" if there is nothing to find
}

var troubleTemplate = template.Must(template.New("trouble.html").ParseFS(shared, "templates/trouble.html"))

// Stop answers with a page that says what happened and what to try.
func (a *App) Stop(c *gin.Context, status int, heading string, words ...string) {
	a.stop(c, status, Trouble{Heading: heading, Words: words})
}

func (a *App) stop(c *gin.Context, status int, trouble Trouble) {
	var buffer bytes.Buffer
	err := troubleTemplate.ExecuteTemplate(&buffer, "trouble-page", struct {
		Version string
		Trouble
	}{a.Version, trouble})
	if err != nil {
		a.Log.Error("render the page of a fault", "error", err)
		c.String(status, trouble.Heading)
		return
	}
	c.Data(status, "text/html; charset=utf-8", buffer.Bytes())
	c.Abort()
}

// Fail answers for an error that the cook cannot help: 404 for what is not
// there, 409 for what changed meanwhile, else 500 with a number that stands in
// the log too.
func (a *App) Fail(c *gin.Context, err error) {
	switch {
	case errors.Is(err, store.ErrNotFound):
		a.Stop(c, http.StatusNotFound, "That is not here.", "It may have been removed, or the address is wrong.")
		return
	case errors.Is(err, store.ErrStale):
		a.Stop(c, http.StatusConflict, "It was changed in another window meanwhile.",
			"Nothing was overwritten. Go back, load the page again and make the change there.")
		return
	}
	id := NewID()
	a.Log.Error("request failed", "request", id, "path", c.Request.URL.Path, "error", err)
	a.stop(c, http.StatusInternalServerError, Trouble{
		Heading: "Something went wrong in the program.",
		Words:   []string{"Nothing of what is stored was changed. Try it once more; if it happens again, the number below helps to find the cause in the log."},
		Request: id,
	})
}

// FieldFaults returns the messages of an error by field, for a form that is
// shown again as it was typed.
func FieldFaults(err error) map[string]string {
	faults, ok := errors.AsType[measure.Faults](err)
	if !ok {
		return nil
	}
	byField := map[string]string{}
	for _, fault := range faults {
		message := fault.Err.Error()
		if fault.Value != "" {
			message = fmt.Sprintf("%s: %s", fault.Value, message)
		}
		if before, twice := byField[fault.Field]; twice {
			message = before + " " + message
		}
		byField[fault.Field] = message
	}
	return byField
}
