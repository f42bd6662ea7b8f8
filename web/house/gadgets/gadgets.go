// Package gadgets takes the readings of scales and thermometers, which are known
// by a token, and shows how to send them.
package gadgets

import (
	"context"
	"crypto/rand"
	"crypto/sha256"
	"embed"
	"encoding/base64"
	"errors"
	"io"
	"mime"
	"net/http"
	"strings"
	"time"

	"github.com/gin-gonic/gin"

	"kirdu/app"
	"kirdu/core/measure"
	"kirdu/device"
	"kirdu/store"
	"kirdu/web/frame"
	"kirdu/web/guard"
)

//go:embed *.html
var files embed.FS

// A kitchen is what the screen asks of the application.
type kitchen interface {
	Rehearse(beat time.Duration, ending <-chan struct{})
	CookHeard(ctx context.Context, id string) (store.Cook, error)
	TakeReadings(ctx context.Context, gadget store.Gadget, c store.Cook, list []device.Sample) ([]device.Judged, error)
}

// Records are what it reads and writes of the data by itself.
type records interface {
	GadgetByToken(ctx context.Context, tokenHash []byte) (store.Gadget, error)
	Gadgets(ctx context.Context) ([]store.Gadget, error)
	MakeGadget(ctx context.Context, g store.Gadget, tokenHash []byte) error
	RemoveGadget(ctx context.Context, id string, at time.Time) error
}

// A Screen is the gadgets, and the address that they send to.
type Screen struct {
	app     *frame.App
	kitchen kitchen
	records records
	page    *frame.Template
	guesses *guard.Guesses // of tokens
}

// New returns the screen. The stand-ins of rehearsals are read from now on.
func New(app *frame.App, kitchen kitchen, records records) *Screen {
	if app.Ending != nil {
		const beat = time.Second
		go kitchen.Rehearse(beat, app.Ending)
	}
	return &Screen{app: app, kitchen: kitchen, records: records, page: app.Template(files, "gadgets.html"), guesses: guard.NewGuesses()}
}

type view struct {
	Gadgets []row
	Name    string
	WithPot bool
	Token   string // of the gadget just made; it is not shown again
	Address string
	Faults  map[string]string
}

type row struct{ ID, Name, Heard, Pot string }

// Show lists the gadgets.
func (s *Screen) Show(c *gin.Context) error { return s.show(c, http.StatusOK, view{WithPot: true}) }

func (s *Screen) show(c *gin.Context, status int, v view) error {
	say := frame.Words(c)
	list, err := s.records.Gadgets(c.Request.Context())
	if err != nil {
		return err
	}
	for _, g := range list {
		one := row{ID: g.ID, Name: g.Name, Heard: "never heard of yet", Pot: "weighs the contents alone"}
		if g.WithPot {
			one.Pot = "bears the pot, too"
		}
		if !g.HeardAt.IsZero() {
			one.Heard = "last heard of " + say.Time(g.HeardAt.In(s.app.Zone), "2 January, 15:04")
		}
		v.Gadgets = append(v.Gadgets, one)
	}
	scheme := "http"
	if c.Request.TLS != nil {
		scheme = "https"
	}
	v.Address = scheme + "://" + c.Request.Host + "/readings"
	return s.page.Show(c, status, frame.Frame{Title: "Gadgets", Section: "kitchen", Body: v})
}

// Make makes a gadget and shows its token, once.
func (s *Screen) Make(c *gin.Context) error {
	f, err := frame.ReadForm(c, nil)
	if err != nil {
		return err
	}
	g := store.Gadget{ID: app.NewID(), Name: f.Name("name", 60), WithPot: f.Text("with_pot") != "", MadeAt: s.app.Now()}
	v := view{Name: f.Text("name"), WithPot: g.WithPot}
	if f.Err() != nil {
		v.Faults = f.Faults(frame.Words(c))
		return s.show(c, http.StatusUnprocessableEntity, v)
	}
	const bytes = 24
	secret := make([]byte, bytes)
	rand.Read(secret) // never fails
	token := base64.RawURLEncoding.EncodeToString(secret)
	if err := s.records.MakeGadget(c.Request.Context(), g, hash(token)); err != nil {
		return err
	}
	c.Header("Cache-Control", "no-store")
	return s.show(c, http.StatusOK, view{Token: token, WithPot: true})
}

// Remove ends a gadget.
func (s *Screen) Remove(c *gin.Context) error {
	if err := s.records.RemoveGadget(c.Request.Context(), c.Param("id"), s.app.Now()); err != nil {
		return err
	}
	c.Redirect(http.StatusSeeOther, "/kitchen/gadgets")
	return nil
}

func hash(token string) []byte {
	sum := sha256.Sum256([]byte(token))
	return sum[:]
}

// answer is what a gadget gets back.
type answer struct {
	Error  string   `json:"error,omitempty"`
	Remedy string   `json:"remedy,omitempty"`
	Faults []fault  `json:"faults,omitempty"`
	Cook   string   `json:"cook,omitempty"`
	Taken  int      `json:"taken"`             // believed
	Marked []marked `json:"marked,omitempty"`  // not believed
	Clock  float64  `json:"clock_s,omitempty"` // by how much the gadget's clock was corrected
}

type fault struct {
	Field   string `json:"field"`
	Problem string `json:"problem"`
}

type marked struct {
	Time string      `json:"time"`
	Kind device.Kind `json:"kind"`
	Mark device.Mark `json:"mark"`
	Why  string      `json:"why"`
}

func refuse(c *gin.Context, status int, problem, remedy string) {
	c.JSON(status, answer{Error: problem, Remedy: remedy})
}

// Take takes a message of a gadget: JSON lines, or CSV by its content type, for
// the cook that it names or the one begun last. Where it says when it was sent, by
// its own clock, its times are corrected.
func (s *Screen) Take(c *gin.Context) error {
	ctx := c.Request.Context()
	scheme, token, _ := strings.Cut(strings.TrimSpace(c.GetHeader("Authorization")), " ")
	if !strings.EqualFold(scheme, "bearer") || token == "" {
		c.Header("WWW-Authenticate", "Bearer")
		refuse(c, http.StatusUnauthorized, "there is no token", "send the header Authorization: Bearer TOKEN; make one under Kitchen, Gadgets")
		return nil
	}
	gadget, err := s.records.GadgetByToken(ctx, hash(strings.TrimSpace(token)))
	switch {
	case errors.Is(err, store.ErrNotFound) && !s.guesses.Allowed(c.Request.RemoteAddr, ""):
		c.Header("Retry-After", "10")
		refuse(c, http.StatusTooManyRequests, "too many tokens that are not known", "wait ten seconds, and make a new one under Kitchen, Gadgets")
		return nil
	case errors.Is(err, store.ErrNotFound):
		c.Header("WWW-Authenticate", `Bearer error="invalid_token"`)
		refuse(c, http.StatusUnauthorized, "this token is not known", "make a new one under Kitchen, Gadgets")
		return nil
	case err != nil:
		s.trouble(c, err)
		return nil
	}
	data, err := io.ReadAll(io.LimitReader(c.Request.Body, device.MaxBytes+1))
	if err != nil || len(data) > device.MaxBytes {
		refuse(c, http.StatusRequestEntityTooLarge, frame.Words(c).Fault(device.ErrLarge), "nothing of it was taken")
		return nil
	}
	kind, _, _ := mime.ParseMediaType(c.ContentType())
	list, err := device.Read(data, kind == "text/csv")
	if faults, found := errors.AsType[measure.Faults](err); found {
		a := answer{Error: "the message cannot be read; nothing of it was taken"}
		for _, f := range faults {
			a.Faults = append(a.Faults, fault{f.Field, frame.Words(c).Fault(f.Err)})
		}
		c.JSON(http.StatusUnprocessableEntity, a)
		return nil
	} else if err != nil {
		s.trouble(c, err)
		return nil
	}
	k, err := s.kitchen.CookHeard(ctx, c.Query("cook"))
	switch {
	case errors.Is(err, store.ErrNotFound):
		refuse(c, http.StatusConflict, "nothing is on the stove", "start a cook, or name one on the stove with ?cook=ID")
		return nil
	case err != nil:
		s.trouble(c, err)
		return nil
	}
	a, err := s.correct(c, list)
	if err != nil {
		refuse(c, http.StatusUnprocessableEntity, "sent: give a time such as 2026-11-28T18:31:04Z",
			"the gadget's clock when it sends, or leave it out")
		return nil
	}
	judged, err := s.kitchen.TakeReadings(ctx, gadget, k, list)
	if err != nil {
		s.trouble(c, err)
		return nil
	}
	a.Cook = k.ID
	for _, r := range judged {
		if r.Mark == "" {
			a.Taken++
			continue
		}
		a.Marked = append(a.Marked, marked{r.At.UTC().Format(time.RFC3339), r.Kind, r.Mark, frame.Words(c).Mark(string(r.Mark))})
	}
	c.JSON(http.StatusOK, a)
	return nil
}

// mostOff is how far the clock of a gadget may be off; errOff is the fault of one that is farther.
const mostOff = 24 * time.Hour

var errOff = measure.Code("gadgets.off")

// correct moves the times of a message by what the gadget's clock is off, where it
// says when it sent it.
func (s *Screen) correct(c *gin.Context, list []device.Sample) (answer, error) {
	var a answer
	text := c.Query("sent")
	if text == "" {
		return a, nil
	}
	sent, err := time.Parse(time.RFC3339, text)
	if err != nil {
		return a, err
	}
	const steady = 30 * time.Second // the way of the message, and a clock that is right enough
	off := s.app.Now().Sub(sent)
	if off.Abs() <= steady {
		return a, nil
	}
	if off.Abs() > mostOff {
		return a, errOff
	}
	for k := range list {
		list[k].At = list[k].At.Add(off)
	}
	a.Clock = off.Seconds()
	return a, nil
}

func (s *Screen) trouble(c *gin.Context, err error) {
	s.app.Log.Error("readings", "error", err)
	refuse(c, http.StatusInternalServerError, "something went wrong in the program", "send it again")
}
