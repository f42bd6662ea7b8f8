// Package sheet is the one page for the wall above the stove: what, how much, when,
// and the dip gauge in true size.
package sheet

import (
	"context"
	"embed"
	"fmt"
	"net/http"

	"github.com/gin-gonic/gin"

	"kirdu/core/forecast"
	"kirdu/core/measure"
	"kirdu/core/mend"
	"kirdu/core/pantry"
	"kirdu/core/plan"
	"kirdu/core/timetable"
	"kirdu/core/vessel"
	"kirdu/store"
	"kirdu/web/frame"
	"kirdu/web/picture"
	"kirdu/words"
)

//go:embed *.html *.css
var files embed.FS

// Assets are the styles and modules of the screen.
var Assets = frame.Assets(files)

// A kitchen is what the screen asks of the application.
type kitchen interface {
	Mended(ctx context.Context, p *plan.Plan) (*forecast.Forecast, []mend.Found, error)
	Pudding(ctx context.Context, id string) (store.Pudding, error)
}

// A Screen is the sheet.
type Screen struct {
	app     *frame.App
	kitchen kitchen
	page    *frame.Template
}

// New returns the screen.
func New(app *frame.App, kitchen kitchen) *Screen {
	return &Screen{app, kitchen, app.Template(files, "*.html")}
}

type view struct {
	Name, ID, Frame string
	Letter          bool
	Materials       []material
	Steps           []step
	Watch           []string
	Allergens       []string
	Ruler           picture.Ruler
	HasRuler        bool
	Pot, Coarse     string
	Serves          string
	Marks           []mark
}

// mark is what is weighed, and what it should be.
type mark struct{ Name, Planned string }

type material struct{ Name, Grams, Own string }

type step struct{ At, Title, Detail, Note string }

// Show renders the sheet of a pudding.
func (s *Screen) Show(c *gin.Context) error {
	say := frame.Words(c)
	p, err := s.kitchen.Pudding(c.Request.Context(), c.Param("id"))
	if err != nil {
		return err
	}
	f, found, err := s.kitchen.Mended(c.Request.Context(), p.Plan)
	if err != nil {
		return err
	}
	v := newView(say, p.Plan, f, found, p.ID)
	switch paper := c.Query("paper"); paper {
	case "", "a4":
	case "letter":
		v.Letter = true
	default:
		return frame.Stop(http.StatusUnprocessableEntity, "There is no such paper.", "Choose a4 or letter.")
	}
	return s.page.Show(c, http.StatusOK, frame.Frame{Title: "Sheet: " + p.Plan.Name, Section: "puddings", Body: v})
}

func newView(say words.Printer, p *plan.Plan, f *forecast.Forecast, found []mend.Found, id string) view {
	v := view{Name: p.Name, ID: id, Serves: fmt.Sprintf("%d bowls of about %s, %s", p.Serves, say.Grams(measure.Gram(f.Yield.PortionG)),
		say.Serving(p.Serve))}
	masses := map[string]measure.Gram{}
	var order []*pantry.Material
	p.Uses(func(m *pantry.Material, mass measure.Gram, _ int) {
		if _, known := masses[m.Slug]; !known {
			order = append(order, m)
		}
		masses[m.Slug] += mass
	})
	for _, m := range order {
		one := material{Name: words.Capital(m.ShortName()), Own: p.Household(masses[m.Slug], m)}
		if masses[m.Slug] > 0 {
			one.Grams = say.Grams(masses[m.Slug])
		}
		v.Materials = append(v.Materials, one)
	}
	for _, m := range picture.LevelsOf(say, f) {
		planned := say.Exact(measure.Gram(m.Mass)) + " in the pot"
		if m.Scale != nil {
			planned = say.Exact(measure.Gram(*m.Scale)) + " with the pot"
		}
		v.Marks = append(v.Marks, mark{words.Capital(m.Label), planned})
	}
	v.Marks = append(v.Marks, mark{"Out of the pot", say.Grams(measure.Gram(f.Yield.MassG.Value))})
	course := timetable.Alone(p, f)
	for _, i := range course.Order {
		said := say.Step(p, f, i)
		one := step{Title: said.Title, Detail: said.Detail, Note: p.Steps[i].Note, At: clock(say, float64(course.Steps[i].Start))}
		if len(p.Pots) > 1 && !p.Steps[i].Do.IsPreparation() {
			one.Detail = say.PotName(p, p.Steps[i].PotName()) + ": " + one.Detail
		}
		if said.Target != "" {
			one.Detail += "; " + said.Target
		}
		v.Steps = append(v.Steps, one)
	}
	for _, one := range say.Findings(p, found) {
		if one.Severity != forecast.Note {
			v.Watch = append(v.Watch, one.Message)
		}
	}
	v.Watch = append(v.Watch, say.Thickness(f, p.Serve))
	v.Allergens = f.Allergens
	pot := p.Pots[p.Served()[0]]
	v.Pot = pot.Name
	if len(f.Marks) > 0 {
		v.HasRuler, v.Ruler = true, picture.NewRuler(say, f.Marks, pot.HeightMM)
		last := f.Marks[len(f.Marks)-1]
		if per := float64(pot.MillilitrePerMM(measure.Millimetre(last.LevelMM))); per > vessel.CoarseGauge {
			v.Coarse = say.Sprintf("A millimetre holds %.0f ml here: the scale is the better instrument.", per)
		}
	}
	return v
}

// clock says a minute of the forecast, before the flame or after.
func clock(say words.Printer, minute float64) string {
	if minute <= -1 {
		return "−" + say.Minutes(measure.Minute(-minute))
	}
	if minute < 1 {
		return "0 min"
	}
	return say.Minutes(measure.Minute(minute))
}
