// Package scale shows what becomes of a pudding when it is made for more or
// fewer people, and the ways that keep it as it is.
package scale

import (
	"context"
	"embed"
	"errors"
	"fmt"
	"math"
	"net/http"
	"strconv"
	"time"

	"github.com/gin-gonic/gin"

	"kirdu/core/design"
	"kirdu/core/forecast"
	"kirdu/core/measure"
	"kirdu/core/plan"
	"kirdu/core/pot"
	"kirdu/core/vessel"
	"kirdu/store"
	"kirdu/web/frame"
	"kirdu/words"
)

//go:embed *.html *.css
var files embed.FS

// Assets are the styles and modules of the screen.
var Assets = frame.Assets(files)

// A kitchen is what the screen asks of the application.
type kitchen interface {
	Pudding(ctx context.Context, id string) (store.Pudding, error)
}

// Records are what it reads and writes of the data by itself.
type records interface {
	Burners(ctx context.Context) ([]store.Burner, error)
	Pots(ctx context.Context) ([]store.Pot, error)
	SavePlan(ctx context.Context, id string, base int, p *plan.Plan, at time.Time) error
}

// A Screen is the comparison.
type Screen struct {
	app     *frame.App
	kitchen kitchen
	records records
	page    *frame.Template
}

// New returns the screen.
func New(app *frame.App, kitchen kitchen, records records) *Screen {
	return &Screen{app, kitchen, records, app.Template(files, "scale.html")}
}

type view struct {
	ID, Name, Bowls, Fault string
	Version                int
	Now                    column
	Plain, Offers          []column
	Taste                  []string
	Empty                  string
}

type column struct {
	Kind, Title string
	Rows        []row
	Cost        string
	Note        string
}

type row struct {
	Name, Value string
	Off         bool // not what it was
}

var errBowls = measure.Code("scale.bowls")

// mostBowls keeps the reckoning within what a kitchen could hold.
const mostBowls = 200

// Show compares.
func (s *Screen) Show(c *gin.Context) error {
	say := frame.Words(c)
	pudding, err := s.kitchen.Pudding(c.Request.Context(), c.Param("id"))
	if err != nil {
		return err
	}
	typed := c.Query("bowls")
	if typed == "" {
		typed = strconv.Itoa(3 * pudding.Plan.Serves)
	}
	v := view{ID: pudding.ID, Name: pudding.Plan.Name, Version: pudding.Version, Bowls: typed}
	status := http.StatusOK
	scaling, err := s.scale(c, pudding, typed)
	switch {
	case errors.Is(err, errBowls):
		v.Fault, status = frame.Words(c).Fault(err), http.StatusUnprocessableEntity
	case errors.Is(err, design.ErrNoMark):
		v.Empty = "This pudding " + frame.Words(c).Fault(err) + ". Change the bowls on the Workbench: every amount is multiplied."
	case err != nil:
		return err
	default:
		v.compare(say, pudding.Plan, scaling)
	}
	return s.page.Show(c, status, frame.Frame{Title: "More bowls: " + pudding.Plan.Name, Section: "puddings", Module: "js/live-form.js",
		Body: v})
}

func (s *Screen) scale(c *gin.Context, pudding store.Pudding, typed string) (design.Scaling, error) {
	bowls, err := strconv.Atoi(typed)
	if err != nil || bowls < 1 || bowls > mostBowls {
		return design.Scaling{}, errBowls
	}
	pots, err := s.records.Pots(c.Request.Context())
	if err != nil {
		return design.Scaling{}, err
	}
	burners, err := s.records.Burners(c.Request.Context())
	if err != nil {
		return design.Scaling{}, err
	}
	kit := design.Kit{}
	for _, p := range pots {
		kit.Pots = append(kit.Pots, p.Pot)
	}
	for _, b := range burners {
		kit.Burners = append(kit.Burners, b.Burner)
	}
	return design.Scale(pudding.Plan, bowls, kit)
}

func (v *view) compare(say words.Printer, p *plan.Plan, s design.Scaling) {
	v.Now = newColumn(say, design.Scaled{Outcome: s.Before, Plan: p}, s.Before)
	v.Now.Title = "As it is"
	v.Plain = []column{newColumn(say, s.Clock, s.Before), newColumn(say, s.Mark, s.Before)}
	for _, offer := range s.Proposals {
		one := newColumn(say, offer, s.Before)
		one.Cost = costWords(say, offer.Outcome, s.Before)
		one.Note = noteWords(offer, p)
		v.Offers = append(v.Offers, one)
	}
	if len(v.Offers) == 0 {
		v.Empty = "No pot and flame of your kitchen keep this pudding for so many bowls. Cook it twice, or make fewer."
	}
	for _, kind := range []string{"spice", "flavour", "salt"} {
		v.Taste = append(v.Taste, say.Sprintf("%s by the power of %.1f (%.3g times)", kind, plan.TasteExponents[kind],
			math.Pow(float64(s.Mark.Outcome.Bowls)/float64(s.Before.Bowls), plan.TasteExponents[kind])))
	}
}

// How far a figure may be off before it is marked. Those of a proposal never
// are.
const (
	offThickness = 0.25
	offSweet     = 0.5
	offDone      = 0.35
)

func newColumn(say words.Printer, s design.Scaled, before design.Outcome) column {
	o, f := s.Outcome, forecast.Run(s.Plan, forecast.Options{})
	c := column{Kind: string(s.Kind), Title: say.Scaling(s.Kind, s.With)}
	add := func(name, value string, off bool) { c.Rows = append(c.Rows, row{name, value, off}) }
	thick := say.Sprintf("%s (%.1f)", pot.ThicknessWord(o.Thickness), o.Thickness)
	if r := f.Thickness.As(s.Plan.Serve); r != nil {
		thick = say.Sprintf("%s (%.1f, likely %.1f to %.1f)", pot.ThicknessWord(r.Value), r.Value, r.Low, r.High)
	}
	add("Thickness", thick, math.Abs(o.Thickness-before.Thickness) > offThickness)
	add("Sweetness", say.Percent(o.Sweet, 1), math.Abs(o.Sweet-before.Sweet) > offSweet)
	add("Grain", say.Sprintf("%s (%.1f)", pot.DonenessWord(s.Plan.Texture(o.Part), o.Done), o.Done), math.Abs(o.Done-before.Done) > offDone)
	add("To the bowl", say.Span(f.Time.TotalMin), false)
	add("Hands on", say.Span(f.Time.HandsOnMin), false)
	fill := say.Percent(100*o.Fill, 0) + " of its height"
	if o.Fill > 1 {
		fill = "more than it holds"
	}
	add("Pot filled to", fill, o.Overfull)
	add("Yield", fmt.Sprintf("%s to %s", say.Grams(measure.Gram(f.Yield.MassG.Low)), say.Grams(measure.Gram(f.Yield.MassG.High))), false)
	if o.Missed {
		add("Watch", "a step is never reached, or it boils dry", true)
	}
	return c
}

func costWords(say words.Printer, o, before design.Outcome) string {
	minutes, hands := math.Round(o.Minutes-before.Minutes), math.Round(o.HandsOn-before.HandsOn)
	sign := func(x float64) string {
		if x < 0 {
			return say.Sprintf("%.0f min less", -x)
		}
		return say.Sprintf("%.0f min more", x)
	}
	return "Costs " + sign(minutes) + ", " + sign(hands) + " of your hands."
}

func noteWords(s design.Scaled, p *plan.Plan) string {
	switch s.Kind {
	case design.LessMilk:
		return "Less rich: it holds less milk for each bowl."
	case design.TwoPots:
		for name, vessel := range s.Plan.Pots {
			if name != plan.MainPot {
				return fmt.Sprintf("Half in %s, half in %s, over two burners at once.", potName(p.Pots[plan.MainPot]), potName(vessel))
			}
		}
	case design.OtherFlame, design.OtherBurner:
		return "A hotter bottom catches sooner: keep stirring."
	}
	return ""
}

func potName(p vessel.Pot) string {
	if p.Name == "" {
		return "a pot"
	}
	return p.Name
}

// Take makes a proposal the present version of the pudding.
func (s *Screen) Take(c *gin.Context) error {
	f, err := frame.ReadForm(c, nil)
	if err != nil {
		return err
	}
	pudding, err := s.kitchen.Pudding(c.Request.Context(), c.Param("id"))
	if err != nil {
		return err
	}
	if version, err := strconv.Atoi(f.Text("version")); err != nil || version != pudding.Version {
		return store.ErrStale
	}
	scaling, err := s.scale(c, pudding, f.Text("bowls"))
	if err != nil {
		return frame.Stop(http.StatusUnprocessableEntity, "That could not be worked out.", frame.Words(c).Fault(err))
	}
	for _, offer := range append([]design.Scaled{scaling.Mark}, scaling.Proposals...) {
		if string(offer.Kind) != f.Text("kind") {
			continue
		}
		taken, err := plan.Reread(offer.Plan)
		if err == nil {
			err = s.records.SavePlan(c.Request.Context(), pudding.ID, pudding.Version, taken, s.app.Now())
		}
		if err != nil {
			return err
		}
		c.Redirect(http.StatusSeeOther, "/puddings/"+pudding.ID)
		return nil
	}
	return frame.Stop(http.StatusUnprocessableEntity, "That proposal is no longer there.", "Go back and compare again.")
}
