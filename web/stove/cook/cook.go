// Package cook is the live cook: one instruction at a time, the time left,
// the gauge, and what the cook tells of the pot.
package cook

import (
	"context"
	"embed"
	"errors"
	"fmt"
	"math"
	"net/http"
	"slices"
	"strconv"
	"strings"
	"time"

	"github.com/gin-gonic/gin"
	"github.com/google/uuid"

	"kirdu/core/cook"
	"kirdu/core/lead"
	"kirdu/core/learn"
	"kirdu/core/measure"
	"kirdu/core/plan"
	"kirdu/device"
	"kirdu/store"
	"kirdu/web/frame"
	"kirdu/words"
)

//go:embed *.html *.css *.js
var files embed.FS

// Assets are the styles and modules of the screen.
var Assets = frame.Assets(files)

// A kitchen is what the screen asks of the application.
type kitchen interface {
	Follow(ctx context.Context, c store.Cook, s *cook.State, at time.Time, of ...string) (learn.Live, error)
	FollowPot(ctx context.Context, c store.Cook, only *cook.State, at time.Time, of ...string) (learn.Live, error)
	Join(cookID string) (changed <-chan struct{}, leave func(), ok bool)
	Know(ctx context.Context, lesson lead.Lesson) (ok bool, err error)
	Lead(ctx context.Context, always bool) error
	Leads(ctx context.Context, when string) (led bool, known []lead.Lesson, err error)
	Tell(ctx context.Context, c store.Cook, e cook.Event) error
}

// Records are what it reads and writes of the data by itself.
type records interface {
	Cook(ctx context.Context, id string) (store.Cook, error)
	Readings(ctx context.Context, cookID string, since time.Time) ([]store.Reading, error)
}

// A Screen is the Stove.
type Screen struct {
	app     *frame.App
	kitchen kitchen
	records records
	page    *frame.Template
}

// New returns the screen.
func New(app *frame.App, kitchen kitchen, records records) *Screen {
	return &Screen{app: app, kitchen: kitchen, records: records, page: app.Template(files, "*.html")}
}

// Show renders the present instruction.
func (s *Screen) Show(c *gin.Context) error {
	k, err := s.records.Cook(c.Request.Context(), c.Param("id"))
	if err != nil {
		return err
	}
	return s.show(c, http.StatusOK, k, form{}, nil)
}

// reloadSeconds is how often the page of a cook without JavaScript loads anew.
const reloadSeconds = 20

func (s *Screen) show(c *gin.Context, status int, k store.Cook, typed form, faults map[string]string) error {
	say := frame.Words(c)
	if state := k.State(); !state.Finished.IsZero() {
		c.Redirect(http.StatusSeeOther, afterwards(k))
		return nil
	}
	v, err := s.newView(c, say, k, k.Now(s.app.Now()))
	if err != nil {
		return err
	}
	v.Typed, v.Faults, v.Open = typed, faults, c.Query("open")
	if err := s.gadgets(say, c.Request.Context(), k, &v); err != nil {
		return err
	}
	return s.page.Show(c, status, frame.Frame{Title: k.Plan.Name, Section: "stove", Module: "cook.js", Refresh: reloadSeconds, Body: v})
}

// afterwards is where a cook goes on when it is over.
func afterwards(k store.Cook) string {
	if k.Rehearsal {
		return "/stove/" + k.ID + "/review"
	}
	return "/logbook/" + k.ID
}

// recent is how long the reading of a gadget is worth showing.
const recent = 3 * time.Minute

// gadgets says what the gadgets show, and why one is not believed.
func (s *Screen) gadgets(say words.Printer, ctx context.Context, k store.Cook, v *view) error {
	list, err := s.records.Readings(ctx, k.ID, v.Now.Add(-recent))
	if err != nil {
		return err
	}
	last := map[string]store.Reading{}
	for _, r := range list {
		last[r.Kind] = r
	}
	for _, kind := range []device.Kind{device.Scale, device.Probe} {
		r, there := last[string(kind)]
		if !there {
			continue
		}
		text := fmt.Sprintf("Scale: %s", say.Exact(measure.Gram(r.Value)))
		if kind == device.Probe {
			text = "Thermometer: " + say.CelsiusTo(measure.Celsius(r.Value), 1)
		}
		if kind == device.Scale && !v.PotWeighed {
			text += ", whatever the pot weighs: say below what it weighs empty"
		}
		if why := say.Mark(r.Mark); why != "" {
			text += ", not believed: " + why
		}
		v.Gadgets = append(v.Gadgets, text)
	}
	return nil
}

// form is what the cook tells, as it was typed.
type form struct {
	ID      string
	Kind    string
	Step    string
	Mass    string
	WithPot string
	Depth   string
	AgeMS   string
	AgoMin  string // how many minutes ago it happened
	Empty   string // what the pot weighs empty
	Later   string // it is weighed empty later
	Part    string
	Value   string
	Pot     string // that was weighed, dipped, felt

	What     string // a step, or an item of one: "6", "6.1"
	Material string
	Event    string // to be taken back
}

func readForm(f *frame.Fields) form {
	return form{
		ID:       f.Text("id"),
		Kind:     f.Text("kind"),
		Step:     f.Text("step"),
		Mass:     f.Text("mass"),
		WithPot:  f.Text("with_pot"),
		Depth:    f.Text("depth"),
		AgeMS:    f.Text("age_ms"),
		AgoMin:   f.Text("ago_min"),
		Empty:    f.Text("empty_g"),
		Later:    f.Text("later"),
		Part:     f.Text("part"),
		Value:    f.Text("value"),
		Pot:      f.Text("pot"),
		What:     f.Text("what"),
		Material: f.Text("material"),
		Event:    f.Text("event"),
	}
}

// Faults of the form.
var (
	errEvent     = measure.Code("stove.event")
	errMass      = measure.Code("stove.mass")
	errOnlyPot   = measure.Code("stove.only-pot")
	errNoPotMass = measure.Code("stove.no-pot-mass")
	errLook      = measure.Code("stove.look")
	errAgo       = measure.Code("stove.ago")
	errBefore    = measure.Code("stove.before")
	errBegun     = measure.Code("stove.begun")
	errEmptyPot  = measure.Code("stove.empty-pot")
	errTare      = measure.Code("stove.tare")
	errDepth     = measure.Code("stove.depth")
)

// Record stores what the cook tells.
func (s *Screen) Record(c *gin.Context) error {
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
	state := k.State()
	e, err := parse(f, &state, k, s.app.Now())
	if told := slices.IndexFunc(k.Events, func(one cook.Event) bool { return one.ID == e.ID && e.ID != "" }); told >= 0 {
		if k.Events[told].Same(e) {
			c.Redirect(http.StatusSeeOther, "/stove/"+k.ID) // it was sent twice, and is taken once
			return nil
		}
		// The same form, gone back to and corrected.
		content := fmt.Append(nil, e.Kind, e.Step, e.Item, e.Mass, e.MM, e.Part, e.Value, e.Material, e.Pot)
		f.ID = uuid.NewSHA1(uuid.MustParse(e.ID), content).String()
		e, err = parse(f, &state, k, s.app.Now())
	}
	if err == nil {
		err = s.kitchen.Tell(ctx, k, e)
		if empty, ok := f.empty(); ok && err == nil && e.Kind == cook.Weighed {
			k.Events = append(k.Events, e)
			err = s.kitchen.Tell(ctx, k, cook.Event{ID: uuid.NewSHA1(uuid.MustParse(e.ID), []byte("empty")).String(), Kind: cook.Tared, At: e.At,
				Mass: empty, Pot: state.PotOf(e)})
		}
		if errors.Is(err, cook.ErrUndone) || errors.Is(err, store.ErrElsewhere) {
			err = measure.Faults{{Field: "event", Err: err}}
		}
	}
	if _, refused := errors.AsType[measure.Faults](err); refused {
		return s.show(c, http.StatusUnprocessableEntity, k, f, frame.FieldFaults(frame.Words(c), err))
	} else if err != nil {
		return err
	}
	if e.Kind == cook.Finished {
		c.Redirect(http.StatusSeeOther, afterwards(k))
		return nil
	}
	c.Redirect(http.StatusSeeOther, "/stove/"+k.ID)
	return nil
}

// oldest is how long a message may have waited on the device.
const oldest = 24 * time.Hour

// clockDrift is how far the clock of a device may be from ours.
const clockDrift = 5 * time.Minute

// parse reads what a form tells of a cook. Error: measure.Faults, of the one field that is wrong.
func parse(f form, s *cook.State, k store.Cook, now time.Time) (cook.Event, error) {
	e := cook.Event{Kind: cook.Kind(f.Kind), At: k.Now(now), Pot: f.Pot}
	id, err := uuid.Parse(f.ID)
	if err != nil {
		return e, faultOf("event", errEvent)
	}
	e.ID = id.String()
	if err := f.when(&e, s, k, now); err != nil {
		return e, err
	}
	if err := f.what(&e, s); err != nil {
		return e, err
	}
	if err := s.Check(e); err != nil {
		return e, faultOf(fieldOf(e.Kind), err)
	}
	return e, nil
}

func faultOf(field string, err error) error { return measure.Faults{{Field: field, Err: err}} }

// fieldOf is the field of the form that tells of such an event.
func fieldOf(kind cook.Kind) string {
	switch kind {
	case cook.Tared:
		return "tare"
	case cook.Weighed, cook.Finished:
		return "mass"
	case cook.Dipped:
		return "depth"
	case cook.Felt, cook.Spooned, cook.Probed, cook.Tasted:
		return string(kind)
	}
	if kind.IsDeviation() {
		return "otherwise"
	}
	return "event"
}

// when reads the moment of an event: as long ago as its message waited on the device, and as was said.
func (f form) when(e *cook.Event, s *cook.State, k store.Cook, now time.Time) error {
	if f.AgeMS != "" {
		age, err := strconv.ParseInt(f.AgeMS, 10, 64)
		if err != nil || age < 0 || age > oldest.Milliseconds() {
			return faultOf("event", errEvent)
		}
		e.At = k.Now(now.Add(-time.Duration(age) * time.Millisecond))
	}
	if f.AgoMin != "" {
		ago, ok := frame.Number(f.AgoMin)
		if !ok || !(ago >= 0 && ago <= mostAgo) {
			return faultOf("ago_min", errAgo)
		}
		e.At = e.At.Add(-time.Duration(ago * float64(time.Minute)))
		if !s.Done() && !e.Kind.IsReading() && e.At.Before(s.Spans[s.Step].Begin) {
			return faultOf("ago_min", errBefore.With(math.Round(max(0, k.Now(now).Sub(s.Spans[s.Step].Begin).Minutes()))))
		}
	}
	switch {
	case !e.At.Before(k.BegunAt):
	case f.AgoMin == "" && k.BegunAt.Sub(e.At) <= clockDrift:
		e.At = k.BegunAt // the two clocks never agree to the second
	default:
		return faultOf("ago_min", errBegun)
	}
	return nil
}

// what reads what an event tells.
func (f form) what(e *cook.Event, s *cook.State) (err error) {
	switch e.Kind {
	case cook.Next, cook.Back, cook.Began:
		if e.Step, err = strconv.Atoi(f.Step); err != nil {
			return faultOf("event", errEvent)
		}
	case cook.Tared:
		x, ok := frame.Number(f.Mass)
		if !ok {
			return faultOf("tare", errTare)
		}
		e.Mass = measure.Gram(x)
	case cook.Weighed:
		return f.weight(e, s)
	case cook.Finished:
		if strings.TrimSpace(f.Mass) != "" {
			if e.Mass, err = contents(f, s.Plan, s.PotOf(*e)); err != nil {
				return faultOf("mass", err)
			}
		}
	case cook.Undone:
		e.Part = f.Event
	case cook.Felt, cook.Spooned, cook.Probed, cook.Tasted:
		value, ok := frame.Number(f.Value)
		if !ok {
			return faultOf(string(e.Kind), errLook)
		}
		e.Value, e.Part = value, f.Part
	case cook.Dipped:
		depth, ok := frame.Number(f.Depth)
		if !ok {
			return faultOf("depth", errDepth)
		}
		e.MM = measure.Millimetre(depth)
	default:
		if e.Kind.IsDeviation() {
			if err := deviation(f, e, s); err != nil {
				return faultOf("otherwise", err)
			}
		}
	}
	return nil
}

// weight reads a weight: of the contents, or with the pot where that is weighed empty now or later.
func (f form) weight(e *cook.Event, s *cook.State) (err error) {
	if f.Later != "" {
		x, ok := frame.Number(f.Mass)
		if !ok {
			return faultOf("mass", errMass)
		}
		e.Mass, e.Value = measure.Gram(x), cook.WithPot
		return nil
	}
	if e.Mass, err = contents(f, s.Plan, s.PotOf(*e)); err != nil {
		return faultOf("mass", err)
	}
	if empty, ok := f.empty(); ok {
		e.Mass, e.Value = e.Mass+empty, cook.WithPot // a second event says what it weighs
	}
	return nil
}

// mostAgo is how long ago something may have happened that is told now, in minutes.
const mostAgo = 600

// empty is what the pot weighs that was said with a weight.
func (f form) empty() (measure.Gram, bool) {
	x, ok := frame.Number(f.Empty)
	return measure.Gram(x), ok && x > 0 && measure.Gram(x) <= measure.MaxGrams
}

// contents reads a weight and takes the empty pot off it if it was weighed
// with.
func contents(f form, p *plan.Plan, pot string) (measure.Gram, error) {
	x, ok := frame.Number(f.Mass)
	if !ok {
		return 0, errMass
	}
	mass := measure.Gram(x)
	if f.Empty != "" {
		empty, ok := f.empty()
		if !ok || empty >= mass {
			return 0, errEmptyPot
		}
		return mass - empty, nil
	}
	if f.WithPot == "" {
		return mass, nil
	}
	empty, weighed := p.Pots[pot].Mass()
	switch {
	case !weighed:
		return 0, errNoPotMass
	case mass <= empty:
		return 0, errOnlyPot
	}
	return mass - empty, nil
}
