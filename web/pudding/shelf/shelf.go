// Package shelf is the shelf of plans.
package shelf

import (
	"context"
	"embed"
	"net/http"
	"strings"
	"time"

	"github.com/gin-gonic/gin"

	"kirdu/core/forecast"
	"kirdu/core/measure"
	"kirdu/core/plan"
	"kirdu/core/timetable"
	"kirdu/core/watch"
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
	Forecast(ctx context.Context, p *plan.Plan) (*forecast.Forecast, error)
	Shelf(ctx context.Context, most int) ([]store.Pudding, []*store.Unreadable, error)
}

// Records are what it reads and writes of the data by itself.
type records interface {
	RemovePudding(ctx context.Context, id string, at time.Time) error
	RestorePudding(ctx context.Context, id string) error
}

// A Screen is the shelf.
type Screen struct {
	app     *frame.App
	kitchen kitchen
	records records
	page    *frame.Template
}

// New returns the screen.
func New(app *frame.App, kitchen kitchen, records records) *Screen {
	return &Screen{app, kitchen, records, app.Template(files, "*.html")}
}

type view struct {
	Search   string
	Puddings []pudding
	All      int
	Ways     []wayLink
}

// wayLink leads to the choices of a way of cooking.
type wayLink struct {
	Key, Name string
	Mark      picture.WayMark
}

type pudding struct {
	ID, Name, Way, Pot, Served, Thickness, Sweet, Times, Yield string
	Bowls                                                      int
	Findings                                                   []words.Finding
	Unreadable                                                 string // where to read what can be done; then only the name is known
}

// mostListed bounds the shelf of one page.
const mostListed = 200

// Show renders the shelf.
func (s *Screen) Show(c *gin.Context) error {
	say := frame.Words(c)
	shelf, aside, err := s.kitchen.Shelf(c.Request.Context(), mostListed)
	if err != nil {
		return err
	}
	v := view{Search: strings.TrimSpace(c.Query("search")), All: len(shelf) + len(aside)}
	for _, w := range plan.Ways() {
		v.Ways = append(v.Ways, wayLink{w.Name, words.Capital(w.Name), picture.WayMarks()[w.Name]})
	}
	unreadable := func(until time.Time) {
		for len(aside) > 0 && aside[0].At.After(until) {
			if bad := aside[0]; strings.Contains(strings.ToLower(bad.Name), strings.ToLower(v.Search)) {
				v.Puddings = append(v.Puddings, pudding{ID: bad.ID, Name: bad.Name, Unreadable: frame.UnreadablePath(bad)})
			}
			aside = aside[1:]
		}
	}
	for _, p := range shelf {
		unreadable(p.SavedAt)
		if matches(say, p.Plan, v.Search) {
			one, err := s.summary(c.Request.Context(), say, p)
			if err != nil {
				return err
			}
			v.Puddings = append(v.Puddings, one)
		}
	}
	unreadable(time.Time{})
	frame := frame.Frame{Title: "Puddings", Section: "puddings", Body: v}
	if id := c.Query("removed"); id != "" {
		frame.Notice, frame.UndoPath = "The pudding was taken off the shelf. Its batches stay in the logbook.", "/puddings/"+id+"/restore"
	}
	return s.page.Show(c, http.StatusOK, frame)
}

// matches finds a plan by its name, its way or a material.
func matches(say words.Printer, p *plan.Plan, search string) bool {
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

func (s *Screen) summary(ctx context.Context, say words.Printer, p store.Pudding) (pudding, error) {
	f, err := s.kitchen.Forecast(ctx, p.Plan)
	if err != nil {
		return pudding{}, err
	}
	one := pudding{
		ID: p.ID, Name: p.Plan.Name, Way: p.Plan.Way, Pot: p.Plan.Pots[plan.MainPot].Name, Bowls: p.Plan.Serves,
		Served: say.Serving(p.Plan.Serve), Thickness: say.Thickness(f, p.Plan.Serve), Sweet: say.Sweetness(f.Sweetness.Pct.Value),
		Times: say.Span(timetable.Alone(p.Plan, f).Whole(f)), Yield: say.Grams(measure.Gram(f.Yield.MassG.Value)),
	}
	for _, found := range watch.Findings(p.Plan, f) {
		if !found.Rule.IsCaution() || found.Severity != forecast.Note {
			said := say.Finding(p.Plan, found)
			said.Message = words.Capital(said.Message)
			one.Findings = append(one.Findings, said)
		}
	}
	return one, nil
}

// Remove takes a pudding off the shelf.
func (s *Screen) Remove(c *gin.Context) error {
	id := c.Param("id")
	if err := s.records.RemovePudding(c.Request.Context(), id, s.app.Now()); err != nil {
		return err
	}
	c.Redirect(http.StatusSeeOther, "/puddings?removed="+id)
	return nil
}

// Restore puts it back.
func (s *Screen) Restore(c *gin.Context) error {
	if err := s.records.RestorePudding(c.Request.Context(), c.Param("id")); err != nil {
		return err
	}
	c.Redirect(http.StatusSeeOther, "/puddings")
	return nil
}
