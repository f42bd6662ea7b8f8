// Package kitchen is the pots and burners that there are.
package kitchen

import (
	"context"
	"embed"
	"net/http"
	"slices"
	"strconv"
	"strings"
	"time"
	"unicode/utf8"

	"github.com/gin-gonic/gin"

	"kirdu/app"
	"kirdu/core/measure"
	"kirdu/core/plan"
	"kirdu/core/timetable"
	"kirdu/core/vessel"
	"kirdu/core/watch"
	"kirdu/store"
	"kirdu/web/frame"
	"kirdu/web/picture"
	"kirdu/words"
)

//go:embed *.html *.css *.js
var files embed.FS

// Assets are the styles and modules of the screen.
var Assets = frame.Assets(files)

// A kitchen is what the screen asks of the application.
type kitchen interface {
	AddWaterTest(ctx context.Context, burner string, t store.WaterTest) error
	Remeasure(ctx context.Context, m store.Measuring) ([]app.Remeasured, error)
	TakeMeasure(ctx context.Context, m store.Measuring, keep map[string]bool) error
}

// Records are what it reads and writes of the data by itself.
type records interface {
	AddBurner(ctx context.Context, b store.Burner, at time.Time) error
	AddPot(ctx context.Context, p store.Pot, at time.Time) error
	Burners(ctx context.Context) ([]store.Burner, error)
	ChangePot(ctx context.Context, p store.Pot) error
	Fittings(ctx context.Context, usual store.Fittings) (store.Fittings, error)
	Home(ctx context.Context) (plan.Home, error)
	Measurings(ctx context.Context) ([]store.Measuring, error)
	Pot(ctx context.Context, id string) (store.Pot, error)
	Pots(ctx context.Context) ([]store.Pot, error)
	RemoveBurner(ctx context.Context, id string, at time.Time) error
	RemoveMeasuring(ctx context.Context, id string, at time.Time) error
	RemovePot(ctx context.Context, id string, at time.Time) error
	RemoveWaterTest(ctx context.Context, id string, at time.Time) error
	RestoreBurner(ctx context.Context, id string) error
	RestoreMeasuring(ctx context.Context, id string) error
	RestorePot(ctx context.Context, id string) error
	Room(ctx context.Context) (*plan.Kitchen, error)
	SetFittings(ctx context.Context, f store.Fittings) error
	SetRoom(ctx context.Context, k plan.Kitchen) error
	SetSetting(ctx context.Context, name, value string) error
	WaterTests(ctx context.Context) ([]store.WaterTest, error)
}

// A Screen is the Kitchen.
type Screen struct {
	app                                       *frame.App
	kitchen                                   kitchen
	records                                   records
	page, pot, measures, changed, test, weigh *frame.Template
}

// New returns the screen.
func New(app *frame.App, kitchen kitchen, records records) *Screen {
	return &Screen{app: app, kitchen: kitchen, records: records, page: app.Template(files, "kitchen.html", "potform.html"),
		pot: app.Template(files, "pot.html", "potform.html"), measures: app.Template(files, "measures.html"),
		changed: app.Template(files, "changed.html"),
		test:    app.Template(files, "test.html"), weigh: app.Template(files, "weigh.html")}
}

type view struct {
	Pots    []potView
	Burners []burnerView
	Pot     potForm
	Burner  burnerForm
	Faults  map[string]string // of the burner
	Kinds   []string

	Room       map[string]string
	RoomFaults map[string]string
	Measures   int // that were taken
}

type potView struct {
	ID, Name, Size, Capacity, Safe, Mass, Full, Uses string
	Section                                          picture.Section
}

type burnerView struct {
	ID, Name, Kind, Power string
	Flames                []flameView
	Tested                bool
}

type flameView struct {
	Name, Watts string
	Tested      bool
}

// burnerForm is a new burner as it was typed.
type burnerForm struct {
	Name       string
	Kind       string
	Power      string
	Efficiency string
	Widest     string
}

func readBurnerForm(f *frame.Fields) burnerForm {
	return burnerForm{
		Name:       f.Text("burner_name"),
		Kind:       f.Text("kind"),
		Power:      f.Text("power_w"),
		Efficiency: f.Text("efficiency_pct"),
		Widest:     f.Text("max_pot_mm"),
	}
}

var (
	kinds = []string{"gas", "induction", "electric", "wood"}
)

// Show renders the kitchen.
func (s *Screen) Show(c *gin.Context) error {
	return s.render(c, http.StatusOK, newPot(), newBurner(), nil, nil)
}

// newBurner is the form before anything was typed.
func newBurner() burnerForm { return burnerForm{Kind: "gas", Power: "2200", Efficiency: "45"} }

// showRoom shows the form of the room as it was typed.
func (s *Screen) showRoom(c *gin.Context, status int, room *frame.Fields) error {
	return s.render(c, status, newPot(), newBurner(), nil, room)
}

// usualFittings stand where a kitchen says nothing of them.
var usualFittings = store.Fittings{Ovens: timetable.DefaultOvens, FridgeL: timetable.DefaultFridgeL}

// roomValues are those of the room as it is set, or as it is taken to be.
func roomValues(say words.Printer, home plan.Home) map[string]string {
	k, units := home.Kitchen, "metric"
	if home.US {
		units = store.UnitsUS
	}
	if k == nil {
		usual := plan.DefaultKitchen()
		k = &usual
	}
	plain := func(x float64) string { return say.Number(x, -1) }
	return map[string]string{"ambient_c": plain(float64(k.AmbientC)), "humidity_pct": plain(k.HumidityPct), "altitude_m": plain(k.AltitudeM),
		"tap_c": plain(float64(k.TapC)), "scale_limit_g": plain(float64(k.ScaleLimitG)), "units": units}
}

func (s *Screen) render(c *gin.Context, status int, pot potForm, burner burnerForm, faults map[string]string, room *frame.Fields) error {
	say := frame.Words(c)
	ctx := c.Request.Context()
	pots, err := s.records.Pots(ctx)
	if err != nil {
		return err
	}
	burners, err := s.records.Burners(ctx)
	if err != nil {
		return err
	}
	tests, err := s.records.WaterTests(ctx)
	if err != nil {
		return err
	}
	home, err := s.records.Home(ctx)
	if err != nil {
		return err
	}
	v := view{Pot: pot, Burner: burner, Faults: faults, Kinds: kinds, Room: roomValues(say, home),
		Measures: len(home.Measures)}
	fittings, err := s.records.Fittings(ctx, usualFittings)
	if err != nil {
		return err
	}
	v.Room["ovens"], v.Room["fridge_l"] = strconv.Itoa(fittings.Ovens), say.Number(fittings.FridgeL, -1)
	if room != nil {
		v.Room, v.RoomFaults = room.Values(), room.Faults(say)
	}
	var all []vessel.Pot
	for _, p := range pots {
		all = append(all, p.Pot)
	}
	for _, p := range pots {
		v.Pots = append(v.Pots, newPotView(say, p, all))
	}
	for _, b := range burners {
		v.Burners = append(v.Burners, newBurnerView(say, b, tests))
	}
	frame := frame.Frame{Title: "Kitchen", Section: "kitchen", Module: "kitchen.js", Body: v}
	if id := c.Query("removed_pot"); id != "" {
		frame.Notice, frame.UndoPath = "The pot was taken out of the kitchen. Puddings that use it keep its measures.",
			"/kitchen/pots/"+id+"/restore"
	}
	if id := c.Query("removed_burner"); id != "" {
		frame.Notice, frame.UndoPath = "The burner was taken out of the kitchen. Puddings that use it keep its power.",
			"/kitchen/burners/"+id+"/restore"
	}
	return s.page.Show(c, status, frame)
}

func newPotView(say words.Printer, p store.Pot, among []vessel.Pot) potView {
	litres := func(v measure.Millilitre) string { return say.Number(float64(v)/1000, 1) + " l" }
	one := potView{ID: p.ID, Name: words.Capital(p.Name), Size: picture.Size(say, p.Pot), Capacity: litres(p.Capacity()),
		Safe: litres(p.SafeFill(watch.FoamRoom.Value)), Mass: "never weighed empty", Full: fullWords(say, p.Pot),
		Section: picture.NewSection(say, p.Pot, nil, picture.SectionOptions{Foam: true, Among: among})}
	if mass, weighed := p.Pot.Mass(); weighed {
		one.Mass = "empty " + say.Exact(mass)
	}
	one.Uses = say.Uses(p.Pot)
	return one
}

// fullWords says what a pot weighs when it is full to where milk has room for
// its foam: from 8 kg on two people carry it.
func fullWords(say words.Printer, p vessel.Pot) string {
	const heavy measure.Gram = 8000
	mass, weighed := p.Mass()
	full := mass + measure.Gram(p.SafeFill(watch.FoamRoom.Value))*1.03 // milk weighs 1.03 g/ml
	said := "so filled it weighs " + say.Number(float64(full)/1000, 1) + " kg"
	if !weighed {
		said = "so filled it weighs about " + say.Number(float64(full)/1000, 1) + " kg"
	}
	if full > heavy {
		said += ": carry it with two people"
	}
	return said
}

func newBurnerView(say words.Printer, b store.Burner, tests []store.WaterTest) burnerView {
	one := burnerView{ID: b.ID, Name: words.Capital(b.Name), Kind: b.Kind,
		Power: say.Sprintf("%s kW, %.0f %% of it into the pot", say.Number(float64(b.PowerW)/1000, 1), 100*b.Efficiency)}
	if b.MaxPotMM > 0 {
		one.Power += say.Sprintf(", pots up to %.0f mm wide", float64(b.MaxPotMM))
	}
	for _, flame := range vessel.Marks()[1:] {
		power, tested := b.Burner.Power(flame, 0)
		watts := say.Number(float64(power), 0) + " W"
		k := slices.IndexFunc(tests, func(t store.WaterTest) bool { return t.BurnerID == b.ID && t.Flame == flame })
		if tested && k >= 0 {
			r := vessel.Range(tests[k].Power, tests[k].SD)
			watts += say.Sprintf(" (%.0f to %.0f)", r.Low, r.High)
		}
		one.Tested = one.Tested || tested
		one.Flames = append(one.Flames, flameView{flameWords(flame), watts, tested})
	}
	return one
}

func flameWords(f vessel.Flame) string { return strings.ReplaceAll(string(f), "-", " ") }

// How wide a pot a burner may be said to take, in millimetres.
const leastWide, mostWide = 50, 1500

// Faults of the forms.
var (
	errNoUse      = measure.Code("kitchen.no-use")
	errName       = measure.Code("kitchen.name")
	errKind       = measure.Code("kitchen.kind")
	errWidest     = measure.Code("kitchen.widest").With(leastWide, mostWide)
	errEfficiency = measure.Code("kitchen.efficiency")
)

func (f burnerForm) parse() (store.Burner, error) {
	var faults measure.Faults
	fault := func(field string, err error) { faults = append(faults, &measure.FieldError{Field: field, Err: err}) }
	b := vessel.Burner{Name: strings.TrimSpace(f.Name), Kind: f.Kind}
	if n := utf8.RuneCountInString(b.Name); n < 1 || n > 60 {
		fault("burner_name", errName)
	}
	if !slices.Contains(kinds, f.Kind) {
		fault("kind", errKind)
	}
	const percent = 100
	power, ok := frame.Number(f.Power)
	if !ok || !vessel.BurnerWatt.Holds(power) {
		fault("power_w", measure.Code("kitchen.watts").With(vessel.BurnerWatt.Error()))
	}
	efficiency, ok := frame.Number(f.Efficiency)
	if !ok || !vessel.Share.Holds(efficiency/percent) {
		fault("efficiency_pct", errEfficiency)
	}
	widest, ok := frame.Number(f.Widest)
	if empty := strings.TrimSpace(f.Widest) == ""; !empty && (!ok || widest < leastWide || widest > mostWide) {
		fault("max_pot_mm", errWidest)
	} else if empty {
		widest = 0
	}
	b.PowerW, b.Efficiency = measure.Watt(power), efficiency/percent
	return store.Burner{ID: app.NewID(), Burner: b, MaxPotMM: measure.Millimetre(widest)}, faults.Err()
}

// AddBurner stores a new burner.
func (s *Screen) AddBurner(c *gin.Context) error {
	posted, err := frame.ReadForm(c, nil)
	if err != nil {
		return err
	}
	f := readBurnerForm(posted)
	burner, err := f.parse()
	if err != nil {
		return s.render(c, http.StatusUnprocessableEntity, newPot(), f, frame.FieldFaults(frame.Words(c), err), nil)
	}
	if err := s.records.AddBurner(c.Request.Context(), burner, s.app.Now()); err != nil {
		return err
	}
	c.Redirect(http.StatusSeeOther, "/kitchen")
	return nil
}

// RemoveBurner takes a burner out.
func (s *Screen) RemoveBurner(c *gin.Context) error {
	id := c.Param("id")
	return s.then(c, s.records.RemoveBurner(c.Request.Context(), id, s.app.Now()), "?removed_burner="+id)
}

// RestoreBurner puts it back.
func (s *Screen) RestoreBurner(c *gin.Context) error {
	return s.then(c, s.records.RestoreBurner(c.Request.Context(), c.Param("id")), "")
}

// then goes back to the kitchen after a change.
func (s *Screen) then(c *gin.Context, err error, query string) error {
	if err != nil {
		return err
	}
	c.Redirect(http.StatusSeeOther, "/kitchen"+query)
	return nil
}
