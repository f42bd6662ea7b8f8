// Package workbench is one pudding: materials and steps beside its pot, the
// pot line and the balance.
package workbench

import (
	"context"
	"embed"
	"errors"
	"fmt"
	"math"
	"net/http"
	"net/url"
	"slices"
	"strconv"
	"strings"
	"time"

	"github.com/gin-gonic/gin"

	"kirdu/app"
	"kirdu/core/forecast"
	"kirdu/core/measure"
	"kirdu/core/mend"
	"kirdu/core/pantry"
	"kirdu/core/plan"
	"kirdu/core/pot"
	"kirdu/core/rehearse"
	"kirdu/exchange"
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
	Begin(ctx context.Context, c store.Cook) error
	Mended(ctx context.Context, p *plan.Plan) (*forecast.Forecast, []mend.Found, error)
	Pudding(ctx context.Context, id string) (store.Pudding, error)
}

// Records are what it reads and writes of the data by itself.
type records interface {
	AmendPlan(ctx context.Context, id string, base int, p *plan.Plan, at time.Time) error
	Burners(ctx context.Context) ([]store.Burner, error)
	CreatePudding(ctx context.Context, id string, p *plan.Plan, at time.Time) error
	Foreseen(ctx context.Context, id string) (f store.Foreseen, ok bool, err error)
	Home(ctx context.Context) (plan.Home, error)
	Pots(ctx context.Context) ([]store.Pot, error)
	Pudding(ctx context.Context, id string) (store.Pudding, error)
	SavePlan(ctx context.Context, id string, base int, p *plan.Plan, at time.Time) error
	ServeAt(ctx context.Context, id string, at time.Time) error
	Step(ctx context.Context, id string, base, by int, at time.Time) error
	TellForeseen(ctx context.Context, id string) error
	Versions(ctx context.Context, id string, below, most int) ([]store.PlanVersion, error)
}

// A Screen is the Workbench.
type Screen struct {
	app     *frame.App
	kitchen kitchen
	records records
	page    *frame.Template
	history *frame.Template
}

// New returns the screen.
func New(app *frame.App, kitchen kitchen, records records) *Screen {
	return &Screen{app, kitchen, records, app.Template(files, "workbench.html"), app.Template(files, "history.html")}
}

// Show renders a pudding.
func (s *Screen) Show(c *gin.Context) error {
	pudding, err := s.kitchen.Pudding(c.Request.Context(), c.Param("id"))
	if err != nil {
		return err
	}
	return s.show(c, http.StatusOK, pudding, nil, nil)
}

func (s *Screen) show(c *gin.Context, status int, pudding store.Pudding, typed url.Values, faults map[string]string) error {
	say := frame.Words(c)
	kit, err := s.equipment(c)
	if err != nil {
		return err
	}
	f, found, err := s.kitchen.Mended(c.Request.Context(), pudding.Plan)
	if err != nil {
		return err
	}
	v := newView(say, pudding, f, found, kit, typed, faults, s.app.Zone)
	seen, known, err := s.records.Foreseen(c.Request.Context(), pudding.ID)
	if err != nil {
		return err
	}
	if known && !seen.Told && seen.Figures != nil {
		v.Corrected = corrected(say, seen)
	}
	return s.page.Show(c, status, frame.Frame{
		Title: pudding.Plan.Name, Section: "puddings", Module: "workbench.js", Body: v,
	})
}

// Told takes the news of a corrected model off a pudding.
func (s *Screen) Told(c *gin.Context) error {
	if err := s.records.TellForeseen(c.Request.Context(), c.Param("id")); err != nil {
		return err
	}
	c.Redirect(http.StatusSeeOther, "/puddings/"+c.Param("id"))
	return nil
}

// corrected says what a corrected model of the pot says otherwise of a pudding.
func corrected(say words.Printer, seen store.Foreseen) string {
	figures := func(f store.Figures) string {
		said := []string{say.Minutes(measure.Minute(f.Minutes)), say.Percent(f.SweetPct, 1) + " sweet", say.Grams(measure.Gram(f.YieldG))}
		if f.Thickness > 0 {
			said = append(said, say.Sprintf("%s (%.1f)", pot.ThicknessWord(f.Thickness), f.Thickness))
		}
		return strings.Join(said, ", ")
	}
	if seen.Was == nil {
		return say.Sprintf("Kirdu computes the pot better than when this pudding was saved. It comes to %s now; "+
			"what it said before was not kept.", figures(*seen.Figures))
	}
	return say.Sprintf("Kirdu computes the pot better than when this pudding was saved. It said %s; it says %s now.",
		figures(*seen.Was), figures(*seen.Figures))
}

func (s *Screen) equipment(c *gin.Context) (equipment, error) {
	pots, err := s.records.Pots(c.Request.Context())
	if err != nil {
		return equipment{}, err
	}
	burners, err := s.records.Burners(c.Request.Context())
	if err != nil {
		return equipment{}, err
	}
	home, err := s.records.Home(c.Request.Context())
	return equipment{pots, burners, home}, err
}

// Save applies the form and stores the plan as a new version. A plan with
// faults is not stored: the form comes back as it was typed.
func (s *Screen) Save(c *gin.Context) error {
	say := frame.Words(c)
	ctx := c.Request.Context()
	pudding, base, err := s.load(c)
	if err != nil {
		return err
	}
	if base != pudding.Version {
		return store.ErrStale
	}
	kit, err := s.equipment(c)
	if err != nil {
		return err
	}
	changed, err := apply(say, pudding.Plan, c.Request.PostForm, kit)
	if _, faulty := errors.AsType[measure.Faults](err); faulty {
		return s.show(c, http.StatusUnprocessableEntity, pudding, c.Request.PostForm, frame.FieldFaults(say, err))
	}
	if err != nil {
		return err
	}
	same, err := equal(pudding.Plan, changed)
	save := s.records.SavePlan
	if c.Request.PostForm.Get("amend") != "" && pudding.CanUndo() {
		save = s.records.AmendPlan // more keys in the field that made this version
	}
	if err == nil && !same {
		err = save(ctx, pudding.ID, base, changed, s.app.Now())
	}
	if err != nil {
		return err
	}
	c.Redirect(http.StatusSeeOther, "/puddings/"+pudding.ID)
	return nil
}

// load reads the pudding and the version that the form was made from.
func (s *Screen) load(c *gin.Context) (store.Pudding, int, error) {
	pudding, err := s.kitchen.Pudding(c.Request.Context(), c.Param("id"))
	if err != nil {
		return pudding, 0, err
	}
	posted, err := frame.ReadForm(c, nil)
	if err != nil {
		return pudding, 0, err
	}
	base, err := strconv.Atoi(posted.Text("version"))
	if err != nil {
		return pudding, 0, frame.Stop(http.StatusBadRequest, "The form does not say which version it changes.",
			"Load the page again and make the change there.")
	}
	return pudding, base, nil
}

// equal compares two plans by their documents.
func equal(a, b *plan.Plan) (bool, error) {
	one, err := a.JSON()
	if err != nil {
		return false, err
	}
	other, err := b.JSON()
	return string(one) == string(other), err
}

// Undo goes back one version.
func (s *Screen) Undo(c *gin.Context) error { return s.step(c, -1) }

// Redo goes forth again.
func (s *Screen) Redo(c *gin.Context) error { return s.step(c, 1) }

func (s *Screen) step(c *gin.Context, by int) error {
	pudding, base, err := s.load(c)
	if err != nil {
		return err
	}
	if err := s.records.Step(c.Request.Context(), pudding.ID, base, by, s.app.Now()); err != nil {
		return err
	}
	c.Redirect(http.StatusSeeOther, "/puddings/"+pudding.ID)
	return nil
}

// ServeAt sets when the pudding is to be on the table.
func (s *Screen) ServeAt(c *gin.Context) error {
	f, err := frame.ReadForm(c, nil)
	if err != nil {
		return err
	}
	id := c.Param("id")
	var at time.Time
	if text := f.Text("at"); text != "" {
		var err error
		if at, err = time.ParseInLocation("2006-01-02T15:04", text, s.app.Zone); err != nil || at.Year() < 2000 || at.Year() > 2200 {
			return frame.Stop(http.StatusUnprocessableEntity, "That is no time of day.",
				"Go back and give a day and a time, such as 2026-11-28 19:30.")
		}
	}
	if err := s.records.ServeAt(c.Request.Context(), id, at); err != nil {
		return err
	}
	c.Redirect(http.StatusSeeOther, "/puddings/"+id+"#serve-at")
	return nil
}

// Export sends the plan file.
func (s *Screen) Export(c *gin.Context) error {
	pudding, err := s.kitchen.Pudding(c.Request.Context(), c.Param("id"))
	if err != nil {
		return err
	}
	data, err := pudding.Plan.JSON()
	if err != nil {
		return err
	}
	c.Header("Content-Disposition", fmt.Sprintf(`attachment; filename="%s.kirdu.json"`, fileName(pudding.Plan.Name)))
	c.Data(http.StatusOK, "application/json", data)
	return nil
}

// Recipe sends the pudding as a recipe in JSON-LD, for other programs.
func (s *Screen) Recipe(c *gin.Context) error {
	say := frame.Words(c)
	pudding, err := s.kitchen.Pudding(c.Request.Context(), c.Param("id"))
	if err != nil {
		return err
	}
	p := pudding.Plan
	f := forecast.Run(p, forecast.Options{NominalOnly: true})
	r := exchange.Recipe{Name: p.Name, Bowls: p.Serves, Notes: p.Notes, Minutes: f.Time.TotalMin.Value + f.Time.PrepMin}
	p.Uses(func(m *pantry.Material, mass measure.Gram, _ int) {
		const tenths = 10
		r.Ingredients = append(r.Ingredients, say.Sprintf("%g g %s", math.Round(float64(mass)*tenths)/tenths, words.Lower(m.Name)))
	})
	for i := range p.Steps {
		said := say.Step(p, f, i)
		text := said.Title
		for _, more := range []string{said.Detail, said.Target, p.Steps[i].Note} {
			if more != "" {
				text += ". " + words.Capital(more)
			}
		}
		r.Steps = append(r.Steps, text+".")
	}
	data, err := exchange.WriteRecipe(r)
	if err != nil {
		return err
	}
	c.Header("Content-Disposition", fmt.Sprintf(`attachment; filename="%s.recipe.json"`, fileName(p.Name)))
	c.Data(http.StatusOK, "application/ld+json", data)
	return nil
}

// fileName keeps what every system takes in a name.
func fileName(name string) string {
	safe := []rune{}
	for _, r := range name {
		switch {
		case r >= 'a' && r <= 'z', r >= 'A' && r <= 'Z', r >= '0' && r <= '9':
			safe = append(safe, r)
		case len(safe) > 0 && safe[len(safe)-1] != '-':
			safe = append(safe, '-')
		}
	}
	if len(safe) == 0 {
		return "pudding"
	}
	return string(safe)
}

// Cook puts the pudding on the stove.
func (s *Screen) Cook(c *gin.Context) error {
	f, err := frame.ReadForm(c, nil)
	if err != nil {
		return err
	}
	pudding, err := s.kitchen.Pudding(c.Request.Context(), c.Param("id"))
	if err != nil {
		return err
	}
	speed := 1.0
	if text := f.Text("speed"); text != "" {
		var ok bool
		if speed, ok = frame.Number(text); !ok || speed < 1 || speed > 120 {
			return frame.Stop(http.StatusUnprocessableEntity, "A rehearsal runs 1 to 120 times as fast.",
				"Choose one of the speeds beside the pudding.")
		}
	}
	task := rehearse.Task(f.Text("task"))
	if !slices.Contains(rehearse.Tasks(), task) {
		return frame.Stop(http.StatusUnprocessableEntity, "A rehearsal has no such task.", "Choose one of the list beside the pudding.")
	}
	begun := store.Cook{Rehearsal: f.Text("rehearse") != "", Task: string(task), Speed: speed,
		ID: app.NewID(), PuddingID: pudding.ID, Plan: pudding.Plan,
		BegunAt: s.app.Now(), Zone: s.app.Zone.String()}
	if err := s.kitchen.Begin(c.Request.Context(), begun); err != nil {
		return err
	}
	c.Redirect(http.StatusSeeOther, "/stove/"+begun.ID)
	return nil
}
