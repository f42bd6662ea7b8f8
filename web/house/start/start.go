// Package start leads through an empty kitchen: one pot, one burner, one cup, the
// first pudding.
package start

import (
	"context"
	"embed"
	"errors"
	"net/http"
	"time"

	"github.com/gin-gonic/gin"

	"kirdu/app"
	"kirdu/core/design"
	"kirdu/core/measure"
	"kirdu/core/plan"
	"kirdu/core/vessel"
	"kirdu/store"
	"kirdu/web/frame"
	"kirdu/words"
)

//go:embed *.html *.css
var files embed.FS

// Assets are the styles and modules of the screen.
var Assets = frame.Assets(files)

// Records are what it reads and writes of the data by itself.
type records interface {
	Begin(ctx context.Context, b store.Beginning, at time.Time) error
	SetSetting(ctx context.Context, name, value string) error
}

// A Screen is the start.
type Screen struct {
	app     *frame.App
	records records
	page    *frame.Template
}

// New returns the screen.
func New(app *frame.App, records records) *Screen {
	return &Screen{app, records, app.Template(files, "*.html")}
}

type view struct {
	In, Faults map[string]string
	Ways       []way
	Kinds      []string
	Sample     bool // a sample kitchen can be looked at
}

type way struct{ Name, Label, About string }

var standard = map[string]string{"diameter": "220", "height": "120", "kind": "gas", "power": "2200", "cup": "", "bowls": "4",
	"way": "reduced in milk"}

// Show asks for what is needed.
func (s *Screen) Show(c *gin.Context) error {
	return s.show(c, http.StatusOK, frame.NewFields(nil, standard))
}

func (s *Screen) show(c *gin.Context, status int, f *frame.Fields) error {
	v := view{In: f.Values(), Faults: f.Faults(frame.Words(c)), Kinds: []string{"gas", "electric", "induction", "wood"},
		Sample: s.app.Sample != nil}
	for _, w := range plan.Ways() {
		v.Ways = append(v.Ways, way{w.Name, words.Capital(w.Name), w.About})
	}
	return s.page.Show(c, status, frame.Frame{Title: "The first pudding", Section: "today", Body: v})
}

// Skip leaves it.
func (s *Screen) Skip(c *gin.Context) error {
	if err := s.records.SetSetting(c.Request.Context(), app.Started, "skipped"); err != nil {
		return err
	}
	c.Redirect(http.StatusSeeOther, "/")
	return nil
}

// burnerNames name a first burner by its kind.
var burnerNames = map[string]string{"gas": "gas burner", "electric": "electric plate", "induction": "induction plate", "wood": "wood fire"}

// Begin stores the kitchen and makes the first pudding.
func (s *Screen) Begin(c *gin.Context) error {
	ctx := c.Request.Context()
	f, err := frame.ReadForm(c, nil)
	if err != nil {
		return err
	}
	now := s.app.Now()
	pot := vessel.Pot{Name: "pot", Shape: vessel.Straight, DiameterMM: measure.Millimetre(f.Within("diameter", vessel.PotMM, "220")),
		HeightMM: measure.Millimetre(f.Within("height", vessel.PotMM, "120"))}
	efficiency, known := vessel.UsualEfficiency(f.Text("kind"))
	if !known {
		f.Fault("kind", vessel.ErrKind)
	}
	burner := vessel.Burner{Name: burnerNames[f.Text("kind")], Kind: f.Text("kind"), PowerW: measure.Watt(f.Within("power",
		vessel.BurnerWatt, "2200")),
		Efficiency: efficiency}
	var cup *store.Measuring
	if size, given := f.Optional("cup", 40, 1000, "240"); given {
		cup = &store.Measuring{ID: app.NewID(), Name: "cup", Unit: "ml", Size: size, How: "weighed full of water", TakenAt: now}
	}
	const mostBowls = 60
	choice := plan.WayChoice{Way: f.Text("way"), Bowls: int(f.Number("bowls", 1, mostBowls, "4")), Burner: burner, Pot: pot}
	w, there := plan.WayNamed(choice.Way)
	if !there {
		f.Fault("way", measure.Code("start.choose"))
	} else if checked, err := w.Check(choice); err != nil {
		if f.FaultsOf(err) != nil {
			return err
		}
	} else {
		choice = checked
	}
	if f.Err() != nil {
		return s.show(c, http.StatusUnprocessableEntity, f)
	}
	begun := store.Beginning{Pot: store.Pot{ID: app.NewID(), Pot: pot}, Burner: store.Burner{ID: app.NewID(), Burner: burner}, Measure: cup,
		Setting: app.Started}
	if f.Text("then") == "recipe" {
		if err := s.records.Begin(ctx, begun, now); err != nil {
			return err
		}
		c.Redirect(http.StatusSeeOther, "/intake")
		return nil
	}
	first, err := design.Fresh(choice, []vessel.Pot{pot})
	if cannot, ok := errors.AsType[*design.Cannot](err); ok {
		err = cannot
	}
	if err != nil {
		f.Fault("bowls", err)
		return s.show(c, http.StatusUnprocessableEntity, f)
	}
	begun.ID, begun.Plan = app.NewID(), first
	if err := s.records.Begin(ctx, begun, now); err != nil {
		return err
	}
	c.Redirect(http.StatusSeeOther, "/puddings/"+begun.ID)
	return nil
}

// Sample leads to a sample kitchen beside the own one.
func (s *Screen) Sample(c *gin.Context) error {
	if s.app.Sample == nil {
		return store.ErrNotFound
	}
	address, err := s.app.Sample()
	if err != nil {
		return err
	}
	c.Redirect(http.StatusSeeOther, address)
	return nil
}
