// Package benches is the small calculators of the kitchen: coconut, milk,
// sweetener and measure. Each shows its answer at an address of its own and
// can write it into a pudding.
package benches

import (
	"context"
	"embed"
	"fmt"
	"net/http"
	"net/url"
	"strings"
	"time"

	"github.com/gin-gonic/gin"

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
	Pudding(ctx context.Context, id string) (store.Pudding, error)
	Puddings(ctx context.Context, most int) ([]store.Pudding, error)
}

// Records are what it reads and writes of the data by itself.
type records interface {
	Home(ctx context.Context) (plan.Home, error)
	SavePlan(ctx context.Context, id string, base int, p *plan.Plan, at time.Time) error
}

// A Screen is the benches.
type Screen struct {
	app     *frame.App
	kitchen kitchen
	records records
	pages   map[string]*frame.Template
}

// New returns the screen.
func New(app *frame.App, kitchen kitchen, records records) *Screen {
	s := &Screen{app: app, kitchen: kitchen, records: records, pages: map[string]*frame.Template{}}
	for name := range all {
		s.pages[name] = app.Template(files, "bench.html", name+".html")
	}
	return s
}

// A tool computes its answer from what was typed. It returns what the page
// shows and what can be written into a pudding.
type tool struct {
	title    string
	standard map[string]string
	compute  func(say words.Printer, r *request) any
}

var all = map[string]tool{
	"coconut":   {"Coconut", coconutStandard, coconut},
	"milk":      {"Milk", milkStandard, milk},
	"sweetener": {"Sweetener", sweetenerStandard, sweetener},
	"measure":   {"Measure", measureStandard, measures},
}

// order is that of the line of benches.
var order = []string{"coconut", "milk", "sweetener", "measure"}

// A request is one reckoning.
type request struct {
	*frame.Fields
	pantry *pantry.Pantry
	home   plan.Home
	writes []write // what can be written into a pudding
}

// A write puts the answer into a plan. It is offered for every pudding, or for
// every item that fits, and does nothing to the plan when it fails.
type write struct {
	label string
	fits  func(m *pantry.Material, mass measure.Gram) bool // nil: it goes into the pudding as a whole
	into  func(p *plan.Plan, step, item int) error
}

type view struct {
	Bench  string
	Tabs   []tab
	In     map[string]string
	Faults map[string]string
	Answer any // nil while something is wrong
	Lists  any // what can be chosen from, there at all times
	Writes []writeView
	Names  []string // of materials, for the lists
}

type tab struct {
	Name, Title string
	Here        bool
}

type writeView struct {
	Label   string
	Targets []target
}

type target struct{ Value, Label string }

// First leads to the first bench.
func (s *Screen) First(c *gin.Context) error {
	c.Redirect(http.StatusSeeOther, "/benches/"+order[0])
	return nil
}

// Show renders a bench with its answer.
func (s *Screen) Show(c *gin.Context) error {
	name := c.Param("bench")
	b, ok := all[name]
	if !ok {
		return frame.Stop(http.StatusNotFound, "There is no such bench.", "The benches are coconut, milk, sweetener and measure.")
	}
	return s.show(c, http.StatusOK, name, b, c.Request.URL.Query(), nil)
}

func (s *Screen) show(c *gin.Context, status int, name string, b tool, typed url.Values, faults map[string]string) error {
	r, lists, err := s.reckon(c, b, typed)
	if err != nil {
		return err
	}
	v := view{Bench: name, In: r.Values(), Faults: r.Faults(frame.Words(c)), Lists: lists}
	if r.Err() == nil {
		v.Answer = lists
	}
	if v.Faults == nil {
		v.Faults = faults
	}
	if len(v.Faults) > 0 && status == http.StatusOK {
		status = http.StatusUnprocessableEntity
	}
	for _, other := range order {
		v.Tabs = append(v.Tabs, tab{other, all[other].title, other == name})
	}
	for _, m := range r.pantry.All() {
		v.Names = append(v.Names, m.Name)
	}
	if v.Answer != nil {
		if v.Writes, err = s.targets(c, r.writes); err != nil {
			return err
		}
	}
	return s.pages[name].Show(c, status, frame.Frame{Title: b.title + " bench", Section: "benches", Module: "js/live-form.js", Body: v})
}

// reckon computes a bench. What it returns holds no answer, only what can be
// chosen from, while the request has faults.
func (s *Screen) reckon(c *gin.Context, b tool, typed url.Values) (*request, any, error) {
	home, err := s.records.Home(c.Request.Context())
	if err != nil {
		return nil, nil, err
	}
	r := &request{Fields: frame.NewFields(typed, b.standard), home: home, pantry: plan.HomePantry(home)}
	return r, b.compute(frame.Words(c), r), nil
}

// mostTargets bounds the list of puddings that an answer can go to.
const mostTargets = 100

// targets lists where the answer can be written.
func (s *Screen) targets(c *gin.Context, writes []write) ([]writeView, error) {
	say := frame.Words(c)
	if len(writes) == 0 {
		return nil, nil
	}
	shelf, err := s.kitchen.Puddings(c.Request.Context(), mostTargets)
	if err != nil {
		return nil, err
	}
	views := make([]writeView, len(writes))
	for k, w := range writes {
		views[k].Label = w.label
		for _, p := range shelf {
			if w.fits == nil {
				views[k].Targets = append(views[k].Targets, target{address(p, -1, -1), p.Plan.Name})
				continue
			}
			for i := range p.Plan.Steps {
				for j, item := range p.Plan.Steps[i].Items {
					material, mass, err := p.Plan.Weigh(item)
					if err == nil && item.AboveMM == 0 && w.fits(material, mass) {
						views[k].Targets = append(views[k].Targets,
							target{address(p, i, j), p.Plan.Name + ": " + item.Amount + " " + say.ItemName(p.Plan, item)})
					}
				}
			}
		}
	}
	return views, nil
}

// address names a pudding at a version, and an item of it.
func address(p store.Pudding, step, item int) string {
	return fmt.Sprintf("%s.%d.%d.%d", p.ID, p.Version, step, item)
}

// Faults of writing.
var (
	errTarget = measure.Code("benches.target")
	errGone   = measure.Code("benches.gone")
)

// Write puts the answer into a pudding, as a version of its own that can be
// undone there.
func (s *Screen) Write(c *gin.Context) error {
	name := c.Param("bench")
	b, ok := all[name]
	if !ok {
		return frame.Stop(http.StatusNotFound, "There is no such bench.")
	}
	posted, err := frame.ReadForm(c, nil)
	if err != nil {
		return err
	}
	form := posted.Typed
	r, _, err := s.reckon(c, b, form)
	if err != nil {
		return err
	}
	fail := func(err error) error {
		return s.show(c, http.StatusUnprocessableEntity, name, b, form, map[string]string{"target": frame.Words(c).Fault(err)})
	}
	if r.Err() != nil {
		return fail(errTarget)
	}
	var id string
	var version, step, item, which int
	parts := strings.Split(form.Get("target"), ".")
	if len(parts) != 4 {
		return fail(errTarget)
	}
	id = parts[0]
	if _, err := fmt.Sscanf(strings.Join(parts[1:], " ")+" "+form.Get("which"), "%d %d %d %d", &version, &step, &item,
		&which); err != nil || which < 0 || which >= len(r.writes) {
		return fail(errTarget)
	}
	pudding, err := s.kitchen.Pudding(c.Request.Context(), id)
	if err != nil {
		return err
	}
	if pudding.Version != version {
		return fail(errGone)
	}
	changed := pudding.Plan.Clone()
	if err := r.writes[which].into(changed, step, item); err != nil {
		return fail(err)
	}
	changed, err = plan.Reread(changed.In(r.home))
	if err != nil {
		return fail(err)
	}
	if err := s.records.SavePlan(c.Request.Context(), id, version, changed, s.app.Now()); err != nil {
		return err
	}
	c.Redirect(http.StatusSeeOther, "/puddings/"+id)
	return nil
}

// material looks a material up by what was typed: name, slug or alias.
func (r *request) material(name string) *pantry.Material {
	m, ok := r.pantry.Find(r.Text(name))
	if !ok {
		r.Fault(name, measure.Code("benches.material"))
		return nil
	}
	return m
}

// option of a list of materials.
type option struct {
	Value, Label string
	Chosen       bool
}

func (r *request) options(field string, fits func(*pantry.Material) bool) []option {
	var list []option
	for _, m := range r.pantry.All() {
		if fits(m) {
			list = append(list, option{m.Slug, m.Name, m.Slug == r.Text(field)})
		}
	}
	return list
}
