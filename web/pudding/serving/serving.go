// Package serving is what becomes of a pudding off the heat: thicker while it
// stands, loosened, shared out, cooled, labelled.
package serving

import (
	"context"
	"embed"
	"fmt"
	"net/http"
	"slices"
	"strings"
	"time"

	"github.com/gin-gonic/gin"

	"kirdu/core/forecast"
	"kirdu/core/learn"
	"kirdu/core/measure"
	"kirdu/core/plan"
	"kirdu/core/pot"
	"kirdu/core/serving"
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
	Pudding(ctx context.Context, id string) (store.Pudding, error)
}

// Records are what it reads and writes of the data by itself.
type records interface {
	Cook(ctx context.Context, id string) (store.Cook, error)
}

// A Screen is the serving.
type Screen struct {
	app     *frame.App
	kitchen kitchen
	records records
	page    *frame.Template
}

// New returns the screen.
func New(app *frame.App, kitchen kitchen, records records) *Screen {
	return &Screen{app, kitchen, records, app.Template(files, "serving.html")}
}

type view struct {
	Name, Back, BackName string
	In, Faults           map[string]string
	Liquids              []choice
	Covered              bool
	Picture              picture.StandingPicture
	Moments              []moment
	Portions             []string
	Garnish              []string
	Cuts                 []string
	Cooling              []cooling
	Reheat               string
	Label                label
	Copies               []label // one for each bowl, on paper
}

type choice struct{ Value, Label string }

type moment struct{ After, Celsius, Grade, Word, Loosen string }

type cooling struct {
	Where, To60, ToLow, To6 string
	Safe                    bool
}

// label is what is stuck on a box.
type label struct{ Name, Made, Keep, Allergens, Mass string }

// The minutes that are looked at, and the liquids that loosen.
var (
	minutes = []float64{0, 5, 10, 20, 30, 45, 60, 90, 120}
	liquids = []choice{{"milk-whole", "milk"}, {"coconut-milk-light", "coconut milk"}, {"water", "water"}}
)

// keepDays is how long a pudding is kept at 5 °C. Source: the model, section 13.
const keepDays = 3

// OfPudding shows it for a plan on the shelf.
func (s *Screen) OfPudding(c *gin.Context) error {
	p, err := s.kitchen.Pudding(c.Request.Context(), c.Param("id"))
	if err != nil {
		return err
	}
	return s.show(c, p.Plan, "/puddings/"+p.ID, "The Workbench", s.app.Now())
}

// OfCook shows it for what is on the stove, as it went so far.
func (s *Screen) OfCook(c *gin.Context) error {
	k, err := s.records.Cook(c.Request.Context(), c.Param("id"))
	if err != nil {
		return err
	}
	state := k.State()
	now := k.Now(s.app.Now())
	back, name := "/stove/"+k.ID, "The Stove"
	if !state.Finished.IsZero() {
		now, back, name = state.Finished, "/logbook/"+k.ID, "The batch"
	}
	return s.show(c, learn.Replay(&state, now), back, name, now)
}

func (s *Screen) show(c *gin.Context, p *plan.Plan, back, backName string, made time.Time) error {
	say := frame.Words(c)
	wanted := 4.0
	f, err := s.kitchen.Forecast(c.Request.Context(), p)
	if err != nil {
		return err
	}
	if served := f.Thickness.As(p.Serve); served != nil {
		wanted = served.Value
	}
	if p.Aim != nil && p.Aim.Thickness != nil {
		wanted = *p.Aim.Thickness
	}
	v := view{Name: p.Name, Back: back, BackName: backName, Liquids: liquids, Covered: c.Query("open") == "", Faults: map[string]string{}}
	v.In = map[string]string{"thickness": say.Number(wanted, 1), "liquid": liquids[0].Value, "pieces": ""}
	status := http.StatusOK
	fault := func(field string, err error) {
		v.Faults[field], status = say.Fault(err), http.StatusUnprocessableEntity
	}
	if text := c.Query("thickness"); text != "" {
		v.In["thickness"] = text
		if x, ok := frame.Number(text); ok && x >= 1 && x <= 8 {
			wanted = x
		} else {
			fault("thickness", measure.Code("serving.grade"))
		}
	}
	if slug := c.Query("liquid"); slug != "" {
		if slices.ContainsFunc(liquids, func(l choice) bool { return l.Value == slug }) {
			v.In["liquid"] = slug
		} else {
			fault("liquid", measure.Code("serving.choose"))
		}
	}
	pieces := 24.0
	if text := c.Query("pieces"); text != "" {
		v.In["pieces"] = text
		x, ok := frame.Number(text)
		if pieces = x; !ok || x < 1 || x > 200 || x != float64(int(x)) {
			fault("pieces", measure.Code("serving.pieces"))
			pieces = 24
		}
	}
	list := serving.Stand(p, minutes, v.Covered, v.In["liquid"], wanted)
	v.Picture = picture.NewStanding(say, list, wanted)
	for _, one := range list {
		m := moment{After: say.Minutes(one.Minute), Celsius: say.Celsius(one.Celsius), Word: pot.ThicknessWord(one.Grade.Value),
			Grade: say.Sprintf("%.1f (%.1f to %.1f)", one.Grade.Value, one.Grade.Low, one.Grade.High), Loosen: "none"}
		if one.Minute == 0 {
			m.After = "at once"
		}
		if one.Loosen > 0 {
			m.Loosen = say.Sprintf("%s, then %.1f", say.Grams(one.Loosen), one.Reached)
		}
		v.Moments = append(v.Moments, m)
	}
	v.share(say, p, f, int(pieces))
	for _, way := range serving.Cool(p) {
		where := map[plan.Where]string{plan.Counter: "on the counter", plan.WaterBath: "in cold water",
			plan.Fridge: "in the refrigerator at once"}[way.Where]
		if way.Bowls > 0 {
			where = say.Sprintf("in %d bowls, in the refrigerator", way.Bowls)
		}
		v.Cooling = append(v.Cooling, cooling{where,
			say.Minutes(way.To60), say.Minutes(way.ToLow) + " to " + say.Celsius(way.First), say.Minutes(way.To6), way.Safe})
	}
	v.Reheat = reheated(say, p, v.In["liquid"], wanted)
	zone := s.app.Zone
	v.Label = label{p.Name, say.Time(made.In(zone), "2 January 2006"), say.Time(made.AddDate(0, 0, keepDays).In(zone), "Monday 2 January"),
		strings.Join(f.Allergens, ", "), say.Grams(measure.Gram(f.Yield.MassG.Value))}
	const mostLabels = 24 // a page
	one := v.Label
	one.Mass = say.Grams(measure.Gram(f.Yield.PortionG))
	v.Copies = slices.Repeat([]label{one}, min(max(p.Serves, 1), mostLabels))
	return s.page.Show(c, status, frame.Frame{Title: "Serving " + p.Name, Section: "puddings", Body: v})
}

// reheated says how it is warmed the next day.
func reheated(say words.Printer, p *plan.Plan, liquid string, wanted float64) string {
	r, ok := serving.Reheat(p, liquid, wanted)
	if !ok {
		return "It is eaten cold: heated again, its egg would scramble, its yogurt weep or its thick coconut milk break."
	}
	text := "From the refrigerator, once, to " + say.Celsius(74)
	if r.Loosen > 0 {
		text += fmt.Sprintf(": stir in %s of it cold", say.Grams(r.Loosen))
	}
	return text + say.Sprintf(", medium flame, stirring all the time, %s; then it is at %.1f (%.1f to %.1f), and more of it loosens "+
		"it further.", say.Span(r.Minutes), r.Grade.Value, r.Grade.Low, r.Grade.High)
}

// share says portions, garnish and cuts.
func (v *view) share(say words.Printer, p *plan.Plan, f *forecast.Forecast, pieces int) {
	bowls := max(1, p.Serves)
	mass := f.Yield.MassG
	v.Portions = append(v.Portions, say.Sprintf("%d bowls of %s (%s to %s), %.0f ml each", bowls,
		say.Exact(measure.Gram(mass.Value/float64(bowls))), say.Exact(measure.Gram(mass.Low/float64(bowls))),
		say.Exact(measure.Gram(mass.High/float64(bowls))), f.Yield.VolumeML.Value/float64(bowls)))
	if bowl, ok := p.Measures["bowl_ml"]; ok && bowl > 0 {
		v.Portions = append(v.Portions, say.Sprintf("%s of your bowls of %.0f ml", say.Number(f.Yield.VolumeML.Value/bowl, 1), bowl))
	}
	for i := range p.Steps {
		if !p.Steps[i].Topping {
			continue
		}
		items := p.Steps[i].Items
		for _, item := range p.Steps[i].Items {
			if at := p.Maker(item.Part); at >= 0 {
				items = append(slices.Clone(items), p.Steps[at].Items...)
			}
		}
		for _, item := range items {
			if m, grams, err := p.Weigh(item); err == nil && item.Material != "" {
				v.Garnish = append(v.Garnish, fmt.Sprintf("%s %s", say.Grams(measure.Gram(float64(grams)/float64(bowls))),
					words.Lower(m.ShortName())))
			}
		}
	}
	const mostCuts = 3
	cuts := serving.Cuts(p, pieces, measure.Gram(mass.Value))
	for _, cut := range cuts[:min(len(cuts), mostCuts)] {
		v.Cuts = append(v.Cuts, say.Sprintf("%d by %d: pieces of %.0f by %.0f mm, %s each", cut.Rows, cut.Columns, float64(cut.Long),
			float64(cut.Wide), say.Grams(cut.Each)))
	}
}
