// Package learnt shows what the batches of this kitchen have taught, and lets it be
// forgotten.
package learnt

import (
	"context"
	"embed"
	"fmt"
	"maps"
	"math"
	"net/http"
	"slices"
	"strings"

	"github.com/gin-gonic/gin"

	"kirdu/core/learn"
	"kirdu/core/measure"
	"kirdu/core/pantry"
	"kirdu/core/plan"
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
	Forget(ctx context.Context, of learn.Quantity, name string) error
	Learnt(ctx context.Context) (*learn.Learnt, error)
	Remember(ctx context.Context, of learn.Quantity, name string) error
	Remembered(ctx context.Context) ([]store.Lesson, error)
}

// Records are what it reads and writes of the data by itself.
type records interface {
	ForgottenThings(ctx context.Context) ([]store.Forgotten, error)
	Home(ctx context.Context) (plan.Home, error)
}

// A Screen is what was learnt.
type Screen struct {
	app     *frame.App
	kitchen kitchen
	records records
	page    *frame.Template
}

// New returns the screen.
func New(app *frame.App, kitchen kitchen, records records) *Screen {
	return &Screen{app, kitchen, records, app.Template(files, "learnt.html")}
}

type view struct {
	Figures   []row
	Pots      []row // they are told of with their burner
	Forgotten []row
}

// row is one thing that was learnt.
type row struct {
	Of, Name                     string
	Title, Value, Range, Changes string
	Batches                      string
	Low, Middle, High            float64 // on a bar from 0 to 100
	HasBar                       bool
	Said                         []said
}

// said is what one batch says of a thing, and why that is believed.
type said struct{ ID, Name, When, Value, From, Trust string }

// teachers lists the batches that speak of a thing, the latest first.
func (s *Screen) teachers(say words.Printer, lessons []store.Lesson, of learn.Quantity, name string, f learn.Figure) (list []said) {
	var all []learn.Observation
	for _, l := range lessons {
		for _, o := range l.Observations {
			if o.Quantity == of && o.Key == name {
				all = append(all, o)
			}
		}
	}
	for _, l := range lessons {
		for _, o := range l.Observations {
			if o.Quantity != of || o.Key != name {
				continue
			}
			one := said{ID: l.CookID, Name: l.Name, When: say.Time(l.FinishedAt.In(s.app.Zone), "2 January 2006"), From: evidence(o)}
			one.Value = signed(say, o.Mean, of) + " ± " + say.Number(o.SD, 1)
			if of == learn.Power || of == learn.CookTime {
				one.Value = say.Sprintf("%.0f %% ± %.0f", 100*math.Exp(o.Mean), 100*o.SD*math.Exp(o.Mean))
			}
			one.Trust = trust(learn.Weight(o, all, f))
			list = append(list, one)
		}
	}
	return list
}

// trust says how much a batch counts.
func trust(weight float64) string {
	const hardly, less = 0.3, 0.7
	switch {
	case weight == 0:
		return "counts when another batch agrees: it is far from what is usual"
	case weight < hardly:
		return "hardly counts: it is far from the others"
	case weight < less:
		return "counts less: it is off the others"
	}
	return "counts"
}

// evidence says what an observation rests on.
func evidence(o learn.Observation) string {
	var parts []string
	add := func(n int, one, many string) {
		switch {
		case n == 1:
			parts = append(parts, "1 "+one)
		case n > 1:
			parts = append(parts, fmt.Sprintf("%d %s", n, many))
		}
	}
	add(o.From.Weighed, "weigh-in or dip", "weigh-ins and dips")
	add(o.From.Boils, "boil or first whistle", "boils and first whistles")
	add(o.From.Probed, "temperature", "temperatures")
	add(o.From.Felt, "feel of the grain", "feels of the grain")
	add(o.From.Spooned, "look at the spoon", "looks at the spoon")
	add(o.From.Heard, "gap between whistles", "gaps between whistles")
	add(o.From.Eaten, "word at the table", "words at the table")
	if len(parts) == 0 {
		parts = append(parts, "its readings")
	}
	text := strings.Join(parts, ", ")
	if o.From.Doubted > 0 {
		text += fmt.Sprintf("; %d not believed", o.From.Doubted)
	}
	return text
}

// Show lists it.
func (s *Screen) Show(c *gin.Context) error {
	say := frame.Words(c)
	ctx := c.Request.Context()
	known, err := s.kitchen.Learnt(ctx)
	if err != nil {
		return err
	}
	forgotten, err := s.records.ForgottenThings(ctx)
	if err != nil {
		return err
	}
	home, err := s.records.Home(ctx)
	if err != nil {
		return err
	}
	lessons, err := s.kitchen.Remembered(ctx)
	if err != nil {
		return err
	}
	names := plan.HomePantry(home)
	var v view
	for _, name := range slices.Sorted(maps.Keys(known.Burners)) {
		one := factor(say, known.Burners[name])
		one.Of, one.Name, one.Title = string(learn.Power), name, title(names, learn.Power, name)
		one.Changes = fmt.Sprintf("what was thought to boil down in 30 minutes takes %s",
			say.Minutes(measure.Minute(30/known.Burners[name].Value)))
		one.Said = s.teachers(say, lessons, learn.Power, name, known.Burners[name])
		v.Figures = append(v.Figures, one)
	}
	for _, name := range slices.Sorted(maps.Keys(known.Pots)) {
		if name == "" {
			continue
		}
		one := factor(say, known.Pots[name])
		one.Title = words.Capital(name) + ", beside its burner"
		v.Pots = append(v.Pots, one)
	}
	for _, slug := range slices.Sorted(maps.Keys(known.Grains)) {
		one := factor(say, known.Grains[slug])
		one.Of, one.Name, one.Title = string(learn.CookTime), slug, title(names, learn.CookTime, slug)
		one.Changes = fmt.Sprintf("what was thought to be soft in 20 minutes takes %s", say.Minutes(measure.Minute(20*known.Grains[slug].Value)))
		one.Said = s.teachers(say, lessons, learn.CookTime, slug, known.Grains[slug])
		v.Figures = append(v.Figures, one)
	}
	add := func(of learn.Quantity, f *learn.Figure, unit, changes string) {
		if f == nil {
			return
		}
		r := f.Range(false)
		v.Figures = append(v.Figures, row{Of: string(of), Title: title(names, of, ""), Value: signed(say, f.Value, of) + unit,
			Range: fmt.Sprintf("%s to %s", signed(say, r.Low, of), signed(say, r.High, of)), Batches: batches(f.Batches), Changes: changes,
			Said: s.teachers(say, lessons, of, "", *f)})
	}
	add(learn.Thickness, known.Thickness, " grades", "added to every thickness that is forecast")
	add(learn.Whistle, known.WhistleMin, " min", "the time under pressure by whistles")
	add(learn.Sweet, known.Sweet, " %", "new puddings begin so much sweeter, or less sweet")
	add(learn.Thicker, known.Thicker, " grades", "new puddings begin so much thicker, or thinner")
	if known.Softer != nil {
		soft := *known.Softer
		soft.Value = math.Exp(soft.Value)
		one := factor(say, soft)
		one.Of, one.Title, one.Changes = string(learn.Softer), title(names, learn.Softer, ""), "new puddings begin with their grain so far cooked"
		one.Said = s.teachers(say, lessons, learn.Softer, "", *known.Softer)
		v.Figures = append(v.Figures, one)
	}
	for _, f := range forgotten {
		v.Forgotten = append(v.Forgotten, row{Of: string(f.Quantity), Name: f.Name, Title: title(names, f.Quantity, f.Name),
			Changes: "batches until " + say.Time(f.At.In(s.app.Zone), "2 January 2006, 15:04") + " do not count"})
	}
	return s.page.Show(c, http.StatusOK, frame.Frame{Title: "What Kirdu has learnt", Section: "logbook", Body: v})
}

func signed(say words.Printer, x float64, of learn.Quantity) string {
	if of == learn.Whistle {
		return say.Number(x, 1)
	}
	if x >= 0 {
		return "+" + say.Number(x, 1)
	}
	return "−" + say.Number(-x, 1)
}

// title says what was learnt.
func title(names *pantry.Pantry, of learn.Quantity, name string) string {
	switch of {
	case learn.Power:
		if name == "" {
			return "Power into the pot"
		}
		return "Power of the " + name
	case learn.CookTime:
		if m, ok := names.Material(name); ok {
			return "Cooking time of " + words.Lower(m.ShortName())
		}
		return "Cooking time of " + name
	case learn.Thickness:
		return "Thickness"
	case learn.Whistle:
		return "From one whistle to the next"
	case learn.Sweet:
		return "Sweetness that is liked"
	case learn.Thicker:
		return "Thickness that is liked"
	case learn.Softer:
		return "Softness that is liked"
	}
	return string(of)
}

// factor is a row of something that multiplies. Its bar goes from half to double.
func factor(say words.Printer, f learn.Figure) row {
	r := f.Range(true)
	at := func(x float64) float64 { return 50 + 50*min(max(math.Log2(x), -1), 1) }
	return row{Value: say.Percent(100*f.Value, 0), Range: say.Sprintf("%.0f to %.0f %%", 100*r.Low, 100*r.High), Batches: batches(f.Batches),
		Low: at(r.Low), Middle: at(r.Value), High: at(r.High), HasBar: true}
}

func batches(n int) string {
	if n == 1 {
		return "1 batch"
	}
	return fmt.Sprintf("%d batches", n)
}

var kinds = []learn.Quantity{learn.Power, learn.CookTime, learn.Thickness, learn.Whistle, learn.Sweet,
	learn.Thicker, learn.Softer}

var errKind = measure.Code("learnt.kind")

// read reads which thing a form means.
func (s *Screen) read(c *gin.Context) (of learn.Quantity, name string, _ error) {
	f, err := frame.ReadForm(c, nil)
	if err != nil {
		return "", "", err
	}
	of, name = learn.Quantity(f.Text("of")), f.Typed.Get("name")
	const longest = 120
	if !slices.Contains(kinds, of) || len(name) > longest {
		return "", "", frame.Stop(http.StatusUnprocessableEntity, "There is nothing of that name to forget.",
			words.Capital(frame.Words(c).Fault(errKind))+".")
	}
	return of, name, nil
}

// Forget lets what was learnt of a thing so far count no more.
func (s *Screen) Forget(c *gin.Context) error {
	of, name, err := s.read(c)
	if err != nil {
		return err
	}
	return s.done(c, s.kitchen.Forget(c.Request.Context(), of, name))
}

// Remember undoes it.
func (s *Screen) Remember(c *gin.Context) error {
	of, name, err := s.read(c)
	if err != nil {
		return err
	}
	return s.done(c, s.kitchen.Remember(c.Request.Context(), of, name))
}

func (s *Screen) done(c *gin.Context, err error) error {
	if err != nil {
		return err
	}
	c.Redirect(http.StatusSeeOther, "/logbook/learnt")
	return nil
}
