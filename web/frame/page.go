// Package frame is what all screens share: the frame around them, how they are
// rendered and what is shown when something went wrong.
package frame

import (
	"bytes"
	"cmp"
	"context"
	"embed"
	"errors"
	"fmt"
	"html/template"
	"log/slog"
	"net/http"
	"slices"
	"strings"
	"sync"
	"time"

	"github.com/gin-gonic/gin"

	"kirdu/app"
	"kirdu/core/measure"
	"kirdu/store"
	"kirdu/web/picture"
	"kirdu/words"
)

//go:embed templates/*.html
var shared embed.FS

// A Kitchen is what the frame asks of the application.
type Kitchen interface {
	Preferences(ctx context.Context) (app.Preferences, error)
	Damaged() bool // the data file is
}

// Records are what it reads of the data by itself.
type Records interface {
	Cooking(ctx context.Context) ([]store.Cooking, error)
	Version(ctx context.Context) (int64, error) // another after each change
}

// An App is what all screens have: how they are shown, and the kitchen's clock.
type App struct {
	Kitchen Kitchen
	Records Records
	Now     func() time.Time
	Zone    *time.Location
	Log     *slog.Logger
	Demo    bool            // a throwaway sample kitchen
	Login   bool            // a passphrase is asked for: it can be reached from the network
	Version string          // of the static files, part of their address
	Ending  <-chan struct{} // closed when the program ends; nil: never
	Trust   *Trust          // nil: plain HTTP

	// Sample starts the sample kitchen beside this one, if it is not there yet, and returns its address; nil where
	// that cannot be.
	Sample func() (string, error)

	// StillInside reports whether the session of a request goes on: what lasts longer than a page asks again.
	StillInside func(ctx context.Context) bool

	again memory
}

// Trust is the household's certificate authority, as a phone learns to trust it.
type Trust struct {
	DER         []byte
	Fingerprint string
	Port        string // on which the kitchen speaks TLS
	PlainPort   string // on which the steps to trust it are told in the clear
}

// A Template is the page of one screen, complete with frame and partials.
type Template struct {
	app *App
	*pages
}

// pages are a parsed page and its copies, one for each style of writing. Handlers of one time zone share them:
// a process may serve many households.
type pages struct {
	zone   *time.Location
	styles []string           // the screen's own, under /static
	base   *template.Template // never executed, so that it can be cloned

	mutex sync.Mutex
	sets  map[words.Style]*template.Template
}

// pagesOf names the pages of a screen.
type pagesOf struct {
	files    embed.FS
	patterns string
	zone     string
}

// parsed holds the pages of every screen of the program, as pages by pagesOf.
var parsed sync.Map

// Template composes the page of a screen from its own files. A fault in one is
// a mistake of ours and panics at start-up.
func (a *App) Template(files embed.FS, patterns ...string) *Template {
	key := pagesOf{files, strings.Join(patterns, " "), a.Zone.String()}
	if known, ok := parsed.Load(key); ok {
		return &Template{a, known.(*pages)}
	}
	empty := template.New("frame.html").Option("missingkey=zero").Funcs(functions(words.Printer{}, a.Zone))
	base := template.Must(empty.ParseFS(shared, "templates/*.html"))
	template.Must(base.ParseFS(picture.Templates(), "*.html"))
	template.Must(base.ParseFS(files, patterns...))
	known, _ := parsed.LoadOrStore(key, &pages{zone: a.Zone, styles: stylesIn(files), base: base, sets: map[words.Style]*template.Template{}})
	return &Template{a, known.(*pages)}
}

// in returns the page with functions that write in a style. There are a dozen.
func (t *pages) in(style words.Style) (*template.Template, error) {
	t.mutex.Lock()
	defer t.mutex.Unlock()
	if set, made := t.sets[style]; made {
		return set, nil
	}
	set, err := t.base.Clone()
	if err != nil {
		return nil, err
	}
	t.sets[style] = set.Funcs(functions(words.Printer{Style: style}, t.zone))
	return t.sets[style], nil
}

// A Frame is the view model of every page; Body is that of the screen.
type Frame struct {
	Title     string
	Section   string // which entry of the navigation is lit
	Elsewhere bool   // it is not one of the four at the foot of a phone's page
	Module    string // path of the screen's own module under /static, "" for none
	Styles    []string
	Demo      bool
	Damaged   bool // the data file is
	Login     bool
	Bare      bool // without navigation
	Refresh   int  // seconds after which a page without JavaScript loads again, 0 never
	Version   string
	OnStove   []store.Cooking
	Body      any
	Notice    string // a word about what was just done
	UndoPath  string // where it can be undone, "" if it cannot
	Theme     string // auto, light, dark
}

// Show renders a page into a buffer first, so that a fault in it cannot leave
// half a page with status 200.
func (t *Template) Show(c *gin.Context, status int, f Frame) error {
	f.Elsewhere = slices.Contains([]string{"gatherings", "benches", "pantry", "buying", "kitchen"}, f.Section)
	f.Demo, f.Login, f.Version, f.Damaged = t.app.Demo, t.app.Login, t.app.Version, t.app.Kitchen.Damaged()
	if !f.Bare {
		var err error
		if f.OnStove, err = t.app.Records.Cooking(c.Request.Context()); err != nil {
			return err
		}
	}
	f.Styles = t.styles
	preferences := PreferencesOf(c)
	f.Theme = preferences.Theme
	set, err := t.in(preferences.Style)
	if err != nil {
		return err
	}
	var buffer bytes.Buffer
	if err := set.ExecuteTemplate(&buffer, "frame.html", f); err != nil {
		return err
	}
	page := buffer.Bytes()
	if status == http.StatusOK {
		t.app.again.keep(c, page)
	}
	c.Data(status, htmlType, freshened(page))
	return nil
}

const htmlType = "text/html; charset=utf-8"

// A Handler answers a request, or says why it cannot: the answer is then given for
// the error.
type Handler func(c *gin.Context) error

// A Group is the addresses of one group of handlers.
type Group struct {
	*gin.RouterGroup
	App *App
}

// GET and POST take a handler for an address.
func (g Group) GET(path string, handle Handler)  { g.RouterGroup.GET(path, g.App.Handle(handle)) }
func (g Group) POST(path string, handle Handler) { g.RouterGroup.POST(path, g.App.Handle(handle)) }

// Again is GET for a page that depends on nothing but its address, the data and the clock: asked for at once by
// several, or again and again, it is made once.
func (g Group) Again(path string, handle Handler) { g.GET(path, g.App.remembered(handle)) }

// Handle gives the answer for the error of a handler.
func (a *App) Handle(handle Handler) gin.HandlerFunc {
	return func(c *gin.Context) {
		if err := handle(c); err != nil && !errors.Is(err, errAnswered) {
			a.Fail(c, err)
		}
	}
}

// errAnswered ends a handler that has given its answer.
var errAnswered = errors.New("answered")

// Answered ends a handler from within a reader that has given the answer itself, or
// failed to.
func Answered(err error) error { return cmp.Or(err, errAnswered) }

// Trouble is the view model of the page that says what went wrong.
type Trouble struct {
	Heading string
	Words   []string
	Request string // to be found in the log, "" if there is nothing to find
}

var troubleTemplate = template.Must(template.New("trouble.html").ParseFS(shared, "templates/trouble.html"))

// A stopped request is answered with a page that says what happened and what to try.
type stopped struct {
	status  int
	trouble Trouble
}

func (s stopped) Error() string { return s.trouble.Heading }

// Stop returns the error that is answered with a page of a status, which says what
// happened and what to try.
func Stop(status int, heading string, said ...string) error {
	return stopped{status, Trouble{Heading: heading, Words: said}}
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
		err = Stop(http.StatusNotFound, "That is not here.", "It may have been removed, or the address is wrong.")
	case errors.Is(err, store.ErrStale):
		err = Stop(http.StatusConflict, "It was changed in another window meanwhile.",
			"Nothing was overwritten. Go back, load the page again and make the change there.")
	}
	if one, ok := errors.AsType[stopped](err); ok {
		a.stop(c, one.status, one.trouble)
		return
	}
	if bad, ok := errors.AsType[*store.Unreadable](err); ok {
		a.Log.Warn("stored and not readable", "kind", bad.Kind, "id", bad.ID, "error", bad.Err)
		c.Redirect(http.StatusSeeOther, UnreadablePath(bad))
		c.Abort()
		return
	}
	said, again := "Nothing of what is stored was changed.", "Then go back and send it once more: what you typed stands there still."
	if store.WitnessOf(c.Request.Context()).Stored() {
		said, again = "What you sent is stored; what should have come after it is not.", ""
	}
	if known := store.Hindered(err); known != nil {
		a.Log.Error("the data cannot be used", "path", c.Request.URL.Path, "error", err)
		h := hindrances[known]
		words := []string{said, h.remedy}
		if c.Request.Method == http.MethodPost && again != "" {
			words = append(words, again)
		}
		a.stop(c, h.status, Trouble{Heading: h.heading, Words: words})
		return
	}
	id := app.NewID()
	a.Log.Error("request failed", "request", id, "path", c.Request.URL.Path, "error", err)
	a.stop(c, http.StatusInternalServerError, Trouble{
		Heading: "Something went wrong in the program.",
		Words:   []string{said, "Try it once more; if it happens again, the number below helps to find the cause in the log."},
		Request: id,
	})
}

// hindrances are what is said of what keeps the data from being used. What is told at the stove
// waits on the device and is sent again, as after any answer of 500 and more.
var hindrances = map[error]struct {
	status          int
	heading, remedy string
}{
	store.ErrFull: {http.StatusInsufficientStorage, "The disk is full.", "Make room on the disk that the data is on."},
	store.ErrReadOnly: {http.StatusServiceUnavailable, "The data may not be written to.",
		"Its file, its folder or its disk is for reading only: let the program write there."},
	store.ErrBusy: {http.StatusServiceUnavailable, "Another program keeps the data busy.",
		"Wait a moment. If it lasts, see what else has the data file open."},
	store.ErrNoFile: {http.StatusServiceUnavailable, "The data file cannot be opened.",
		"Look whether its folder is still there, and whether the program may write in it."},
	store.ErrDisk: {http.StatusServiceUnavailable, "The disk does not answer as it should.",
		"Look whether it is still connected. If it is, take a copy of the data to another disk before you go on."},
	store.ErrBroken: {http.StatusServiceUnavailable, "The data file is damaged.",
		"End Kirdu and put the last good copy in its place with kirdu restore."},
}

// UnreadablePath leads to what can be done about a thing that cannot be read.
func UnreadablePath(bad *store.Unreadable) string {
	return "/unreadable/" + string(bad.Kind) + "/" + bad.ID
}

// FieldFaults returns what is wrong by field, said as the household has it, for a form that is
// shown again as it was typed.
func FieldFaults(say words.Printer, err error) map[string]string {
	faults, ok := errors.AsType[measure.Faults](err)
	if !ok {
		return nil
	}
	byField := map[string]string{}
	for _, fault := range faults {
		message := say.Fault(fault.Err)
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
