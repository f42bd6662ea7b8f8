// Package compare holds two puddings, or one with one thing otherwise, against
// each other: on the same axes and in one table.
package compare

import (
	"context"
	"embed"
	"maps"
	"net/http"
	"slices"
	"strconv"
	"strings"
	"time"

	"github.com/gin-gonic/gin"

	"kirdu/core/design"
	"kirdu/core/forecast"
	"kirdu/core/measure"
	"kirdu/core/mend"
	"kirdu/core/plan"
	"kirdu/core/pot"
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
	Pudding(ctx context.Context, id string) (store.Pudding, error)
	Puddings(ctx context.Context, most int) ([]store.Pudding, error)
}

// Records are what it reads and writes of the data by itself.
type records interface {
	SavePlan(ctx context.Context, id string, base int, p *plan.Plan, at time.Time) error
}

// A Screen compares.
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
	ID, Name  string
	Version   int
	Questions []question
	Others    []option
	Chosen    *chosen // nil: nothing is chosen yet
}

type question struct {
	Key, Question, Label string
	On                   bool
}

type option struct {
	Value, Label string
	On           bool
}

// chosen is what the pudding is compared with.
type chosen struct {
	Name  string // of the other
	Key   string // of the question; "" for another pudding
	Lines picture.PotLines
	Rows  []row
	Plan  []words.Difference
}

// row is one figure of both.
type row struct {
	What, Here, There string
	Differs           bool
}

// mostOthers bounds the puddings to choose from.
const mostOthers = 200

// Show renders the comparison that the address asks for: with a question, or
// with another pudding.
func (s *Screen) Show(c *gin.Context) error {
	say := frame.Words(c)
	ctx := c.Request.Context()
	pudding, err := s.kitchen.Pudding(ctx, c.Param("id"))
	if err != nil {
		return err
	}
	shelf, err := s.kitchen.Puddings(ctx, mostOthers)
	if err != nil {
		return err
	}
	v := view{ID: pudding.ID, Name: pudding.Plan.Name, Version: pudding.Version}
	key, other := c.Query("question"), c.Query("with")
	for _, variant := range design.Variants(pudding.Plan) {
		on := variant.Key == key
		asked, otherwise := say.Variant(variant)
		v.Questions = append(v.Questions, question{variant.Key, words.Capital(asked), otherwise, on})
		if on {
			v.Chosen = against(say, pudding.Plan, variant.Plan, otherwise)
			v.Chosen.Key = key
		}
	}
	for _, p := range shelf {
		if p.ID == pudding.ID {
			continue
		}
		v.Others = append(v.Others, option{p.ID, p.Plan.Name, p.ID == other})
		if p.ID == other && v.Chosen == nil {
			v.Chosen = against(say, pudding.Plan, p.Plan, p.Plan.Name)
		}
	}
	if v.Chosen == nil && (key != "" || other != "") {
		return frame.Stop(http.StatusUnprocessableEntity, "There is nothing of that name to compare with.",
			"Go back and choose a question or a pudding from the list.")
	}
	return s.page.Show(c, http.StatusOK, frame.Frame{Title: "Compare", Section: "puddings", Module: "js/batch.js", Body: v})
}

// Take makes the other answer the pudding's plan.
func (s *Screen) Take(c *gin.Context) error {
	f, err := frame.ReadForm(c, nil)
	if err != nil {
		return err
	}
	ctx := c.Request.Context()
	pudding, err := s.kitchen.Pudding(ctx, c.Param("id"))
	if err != nil {
		return err
	}
	base, err := strconv.Atoi(f.Text("version"))
	if err != nil || base != pudding.Version {
		return store.ErrStale
	}
	all := design.Variants(pudding.Plan)
	at := slices.IndexFunc(all, func(v design.Variant) bool { return v.Key == f.Text("question") })
	if at < 0 {
		return frame.Stop(http.StatusUnprocessableEntity, "There is no such question for this pudding.",
			"Go back and choose one from the list.")
	}
	if err := s.records.SavePlan(ctx, pudding.ID, base, all[at].Plan, s.app.Now()); err != nil {
		return err
	}
	c.Redirect(http.StatusSeeOther, "/puddings/"+pudding.ID)
	return nil
}

func against(say words.Printer, here, there *plan.Plan, name string) *chosen {
	one, found := mend.Forecast(here, forecast.Options{})
	other, foundThere := mend.Forecast(there, forecast.Options{})
	hereSays, thereSays := findings(say, here, found), findings(say, there, foundThere)
	return &chosen{
		Name:  words.Capital(name),
		Lines: picture.NewPotLines(say, here, one, picture.PotLineOptions{Beside: &picture.Beside{Plan: there, Forecast: other}}),
		Rows:  append(rows(say, here, there, one, other), row{"Watchpoints", hereSays, thereSays, hereSays != thereSays}),
		Plan:  say.Differences(here, there),
	}
}

func rows(say words.Printer, here, there *plan.Plan, one, other *forecast.Forecast) []row {
	var list []row
	add := func(what, a, b string) {
		if a != "" || b != "" {
			list = append(list, row{what, a, b, a != b})
		}
	}
	grade := func(r *measure.Range) string {
		if r == nil {
			return ""
		}
		return say.Sprintf("%s %.1f (%.1f to %.1f)", pot.ThicknessWord(r.Value), r.Value, r.Low, r.High)
	}
	add("Thickness hot", grade(one.Thickness.Hot), grade(other.Thickness.Hot))
	add("Thickness chilled", grade(one.Thickness.Chilled), grade(other.Thickness.Chilled))
	percent := func(r measure.Range) string { return say.Percent(r.Value, 1) }
	add("Sweetness", percent(one.Sweetness.Pct), percent(other.Sweetness.Pct))
	done := func(p *plan.Plan, f *forecast.Forecast) string {
		var said []string
		for _, name := range slices.Sorted(maps.Keys(f.Doneness)) {
			d := f.Doneness[name]
			said = append(said, say.Sprintf("%s %s, %.1f (%.1f to %.1f)", words.Lower(p.PartName(name)),
				pot.DonenessWord(p.Texture(name), d.Value), d.Value,
				d.Low, d.High))
		}
		return say.Join(said)
	}
	add("Doneness", done(here, one), done(there, other))
	add("Yield", say.Grams(measure.Gram(one.Yield.MassG.Value)), say.Grams(measure.Gram(other.Yield.MassG.Value)))
	add("To the bowl", say.Span(one.Time.TotalMin), say.Span(other.Time.TotalMin))
	add("Before that", say.Minutes(measure.Minute(one.Time.PrepMin)), say.Minutes(measure.Minute(other.Time.PrepMin)))
	add("Hands on", say.Span(one.Time.HandsOnMin), say.Span(other.Time.HandsOnMin))
	add("Flame", say.Span(one.Time.FlameMin), say.Span(other.Time.FlameMin))
	add("Scorching, 1 is the limit", scorch(say, one), scorch(say, other))
	add("Milk near the boil, pH; below 6.4 it may split", leastPH(say, one), leastPH(say, other))
	add("Fat", say.Percent(one.FatPct, 1), say.Percent(other.FatPct, 1))
	add("Sugar in a bowl", say.Number(one.Nutrition.SugarG, 0)+" g", say.Number(other.Nutrition.SugarG, 0)+" g")
	return list
}

func scorch(say words.Printer, f *forecast.Forecast) string {
	_, most := f.MostScorch()
	return say.Number(most, 1)
}

// leastPH is how near fresh milk comes to splitting, with what protects it.
func leastPH(say words.Printer, f *forecast.Forecast) string {
	if _, ph, ok := f.LeastSplitPH(); ok {
		return say.Number(ph, 2)
	}
	return ""
}

func findings(say words.Printer, p *plan.Plan, found []mend.Found) string {
	var said []string
	for _, one := range say.Findings(p, found) {
		if one.Severity != forecast.Note {
			said = append(said, one.Message)
		}
	}
	if len(said) == 0 {
		return "none"
	}
	return strings.Join(said, " ")
}
