// Package puddings is the shelf of plans, and where a new one starts from a
// way of cooking.
package puddings

import (
	"embed"
	"errors"
	"net/http"
	"strconv"
	"strings"

	"github.com/gin-gonic/gin"

	"kirdu/core/advice"
	"kirdu/core/balance"
	"kirdu/core/forecast"
	"kirdu/core/measure"
	"kirdu/core/pantry"
	"kirdu/core/plan"
	"kirdu/core/vessel"
	"kirdu/store"
	"kirdu/web/page"
	"kirdu/web/say"
)

//go:embed *.html
var files embed.FS

// A Screen is the shelf.
type Screen struct {
	app  *page.App
	page *page.Template
}

// New returns the screen.
func New(app *page.App) *Screen { return &Screen{app, app.Template(files, "*.html")} }

type view struct {
	Search   string
	Puddings []pudding
	All      int
	Grains   []*pantry.Material
	Form     form
	Faults   map[string]string
	NoPots   bool
}

type pudding struct {
	ID, Name, Way, Pot, Served, Thickness, Sweet, Times, Yield string
	Bowls                                                      int
	Findings                                                   []forecast.Finding
}

// form is what starts a new pudding, as it was typed.
type form struct {
	Grain string `form:"grain"`
	Bowls string `form:"bowls"`
	Serve string `form:"serve"`
}

// mostListed bounds the shelf of one page.
const mostListed = 200

// Show renders the shelf.
func (s *Screen) Show(c *gin.Context) {
	s.show(c, http.StatusOK, form{Grain: "rice-short", Bowls: "4", Serve: string(plan.Hot)}, nil)
}

func (s *Screen) show(c *gin.Context, status int, f form, faults map[string]string) {
	ctx := c.Request.Context()
	shelf, err := s.app.Puddings(ctx, mostListed)
	if err != nil {
		s.app.Fail(c, err)
		return
	}
	pots, err := s.app.Store.Pots(ctx)
	if err != nil {
		s.app.Fail(c, err)
		return
	}
	v := view{Search: strings.TrimSpace(c.Query("search")), All: len(shelf), Form: f, Faults: faults,
		Grains: balance.FreshGrains(pantry.Standard()), NoPots: len(pots) == 0}
	for _, p := range shelf {
		if matches(p.Plan, v.Search) {
			v.Puddings = append(v.Puddings, summary(p))
		}
	}
	frame := page.Frame{Title: "Puddings", Section: "puddings", Body: v}
	if id := c.Query("removed"); id != "" {
		frame.Notice, frame.UndoPath = "The pudding was taken off the shelf. Its batches stay in the logbook.", "/puddings/"+id+"/restore"
	}
	s.page.Show(c, status, frame)
}

// matches finds a plan by its name, its way or a material.
func matches(p *plan.Plan, search string) bool {
	search = strings.ToLower(search)
	if search == "" || strings.Contains(strings.ToLower(p.Name+" "+p.Way), search) {
		return true
	}
	for i := range p.Steps {
		if strings.Contains(strings.ToLower(say.Items(p, p.Steps[i].Items)), search) {
			return true
		}
	}
	return false
}

func summary(p store.Pudding) pudding {
	f := advice.Forecast(p.Plan, forecast.Options{})
	return pudding{
		ID: p.ID, Name: p.Plan.Name, Way: p.Plan.Way, Pot: p.Plan.Pots[plan.MainPot].Name, Bowls: p.Plan.Serves,
		Served: say.Serving(p.Plan.Serve), Thickness: say.Thickness(f, p.Plan.Serve), Sweet: say.Sweetness(f.Sweetness.Pct.Value),
		Times: say.Span(f.Time.TotalMin), Yield: say.Grams(f.Yield.MassG.Value), Findings: f.Findings,
	}
}

// Faults of the form.
var (
	errBowls = errors.New("give a whole number of bowls from 1 to 60, such as 6")
	errGrain = errors.New("choose a grain from the list")
	errServe = errors.New("choose hot or chilled")
)

// mostBowls is what a household's largest pot could be asked for.
const mostBowls = 60

// Create starts a new pudding.
func (s *Screen) Create(c *gin.Context) {
	ctx := c.Request.Context()
	var f form
	if !s.app.Bind(c, &f) {
		return
	}
	choice, err := parse(f)
	if err != nil {
		s.show(c, http.StatusUnprocessableEntity, f, page.FieldFaults(err))
		return
	}
	pots, err := s.app.Store.Pots(ctx)
	if err != nil {
		s.app.Fail(c, err)
		return
	}
	var vessels []vessel.Pot
	for _, p := range pots {
		vessels = append(vessels, p.Pot)
	}
	burners, err := s.app.Store.Burners(ctx)
	if err != nil {
		s.app.Fail(c, err)
		return
	}
	choice.Burner = vessel.DefaultBurner()
	if len(burners) > 0 {
		choice.Burner = burners[0].Burner
	}
	fresh, err := balance.Fresh(choice, vessels)
	if errors.Is(err, balance.ErrNoPot) {
		s.show(c, http.StatusUnprocessableEntity, f, map[string]string{"grain": "There is no pot in the kitchen yet; add one under Kitchen first."})
		return
	}
	if err != nil {
		s.app.Fail(c, err)
		return
	}
	id := page.NewID()
	if err := s.app.Store.CreatePudding(ctx, id, fresh, s.app.Now()); err != nil {
		s.app.Fail(c, err)
		return
	}
	c.Redirect(http.StatusSeeOther, "/puddings/"+id)
}

func parse(f form) (plan.WayChoice, error) {
	var faults measure.Faults
	choice := plan.WayChoice{Grain: f.Grain, Serve: plan.Serve(f.Serve)}
	known := false
	for _, grain := range balance.FreshGrains(pantry.Standard()) {
		known = known || grain.Slug == f.Grain
	}
	if !known {
		faults = append(faults, &measure.FieldError{Field: "grain", Err: errGrain})
	}
	bowls, err := strconv.Atoi(strings.TrimSpace(f.Bowls))
	if err != nil || bowls < 1 || bowls > mostBowls {
		faults = append(faults, &measure.FieldError{Field: "bowls", Err: errBowls})
	}
	choice.Bowls = bowls
	if choice.Serve != plan.Hot && choice.Serve != plan.Chilled {
		faults = append(faults, &measure.FieldError{Field: "serve", Err: errServe})
	}
	return choice, faults.Err()
}

// Remove takes a pudding off the shelf.
func (s *Screen) Remove(c *gin.Context) {
	id := c.Param("id")
	if err := s.app.Store.RemovePudding(c.Request.Context(), id, s.app.Now()); err != nil {
		s.app.Fail(c, err)
		return
	}
	c.Redirect(http.StatusSeeOther, "/puddings?removed="+id)
}

// Restore puts it back.
func (s *Screen) Restore(c *gin.Context) {
	if err := s.app.Store.RestorePudding(c.Request.Context(), c.Param("id")); err != nil {
		s.app.Fail(c, err)
		return
	}
	c.Redirect(http.StatusSeeOther, "/puddings")
}
