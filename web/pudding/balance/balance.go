// Package balance brings a pudding to what is wanted of it: aims are set, old and
// new stand side by side, and the cook takes it or not.
package balance

import (
	"context"
	"embed"
	"fmt"
	"maps"
	"math"
	"net/http"
	"net/url"
	"slices"
	"strconv"
	"strings"
	"time"

	"github.com/gin-gonic/gin"

	"kirdu/core/design"
	"kirdu/core/forecast"
	"kirdu/core/measure"
	"kirdu/core/plan"
	"kirdu/core/pot"
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
	Balance(ctx context.Context, p *plan.Plan, aims design.Aims, locked []string) (design.Balanced, error)
	Forecast(ctx context.Context, p *plan.Plan) (*forecast.Forecast, error)
	Pudding(ctx context.Context, id string) (store.Pudding, error)
	Roads(ctx context.Context, p *plan.Plan, aims design.Aims, locked []string) (map[design.Road]design.Balanced, error)
}

// Records are what it reads and writes of the data by itself.
type records interface {
	SavePlan(ctx context.Context, id string, base int, p *plan.Plan, at time.Time) error
}

// A Screen is the balancing of one pudding.
type Screen struct {
	app     *frame.App
	kitchen kitchen
	records records
	page    *frame.Template
}

// New returns the screen.
func New(app *frame.App, kitchen kitchen, records records) *Screen {
	return &Screen{app, kitchen, records, app.Template(files, "balance.html")}
}

type view struct {
	ID, Name string
	Version  int
	In       map[string]string
	Faults   map[string]string
	Grades   []grade
	Locks    []lock
	Now, New side
	Changes  []changed
	Missed   []string
	Warned   []string // what comes with the change
	Roads    []road
	Cut      bool // the search ended before all was tried
	Done     bool // there is something to take
	Nothing  bool // the aims are met as it is
}

type grade struct{ Value, Word string }

type lock struct {
	Name, Label string
	On          bool
}

type side struct {
	Thickness picture.Strip
	Words     string
	Rows      []row
	Findings  []string
}

type row struct{ Name, Value string }

// road is another way to the aims, to be had by locking the rest.
type road struct{ Name, Changes, Path, Warned string }

type changed struct{ What, From, To, Why string }

// Show works the aims out.
func (s *Screen) Show(c *gin.Context) error {
	say := frame.Words(c)
	pudding, err := s.kitchen.Pudding(c.Request.Context(), c.Param("id"))
	if err != nil {
		return err
	}
	v, _, err := s.newView(c.Request.Context(), say, pudding, c.Request.URL.Query())
	if err != nil {
		return err
	}
	status := http.StatusOK
	if len(v.Faults) > 0 {
		status = http.StatusUnprocessableEntity
	}
	return s.page.Show(c, status, frame.Frame{Title: "Balance: " + pudding.Plan.Name, Section: "puddings", Module: "js/live-form.js",
		Body: v})
}

// standard are the aims as the plan comes now, so that the first page moves
// nothing.
func standard(say words.Printer, p *plan.Plan, f *forecast.Forecast) map[string]string {
	values := map[string]string{"thickness": "", "sweet": say.Number(f.Sweetness.Pct.Value, 1), "bowls": strconv.Itoa(p.Serves)}
	if r := f.Thickness.As(p.Serve); r != nil {
		values["thickness"] = say.Number(r.Value, 1)
	}
	if p.Aim != nil && p.Aim.Thickness != nil {
		values["thickness"] = say.Number(*p.Aim.Thickness, 1)
	}
	if p.Aim != nil && p.Aim.SweetPct != nil {
		values["sweet"] = say.Number(*p.Aim.SweetPct, 1)
	}
	return values
}

// newView balances the pudding; the plan is nil while something is wrong.
func (s *Screen) newView(ctx context.Context, say words.Printer, pudding store.Pudding, typed url.Values) (view, *plan.Plan, error) {
	p := pudding.Plan
	now, err := s.kitchen.Forecast(ctx, p)
	if err != nil {
		return view{}, nil, err
	}
	f := frame.NewFields(typed, standard(say, p, now))
	thickness, sweet, bowls := f.Number("thickness", 1, 8, "4.5"), f.Number("sweet", 0, 60, "12"), f.Number("bowls", 1, 500, "6")
	if bowls != math.Trunc(bowls) {
		f.Fault("bowls", measure.Code("balance.bowls"))
	}
	v := view{ID: pudding.ID, Name: p.Name, Version: pudding.Version, In: f.Values(), Faults: f.Faults(say), Now: newSide(say, p, now)}
	for i, word := range pot.ThicknessWords() {
		v.Grades = append(v.Grades, grade{strconv.Itoa(i + 1), word})
	}
	locked := typed["lock"]
	v.Locks = locks(p, locked)
	if f.Err() != nil {
		return v, nil, nil
	}
	count := int(bowls)
	aims := design.Aims{Thickness: &thickness, Sweet: &sweet}
	if count != p.Serves {
		aims.Bowls = &count
	}
	result, err := s.kitchen.Balance(ctx, p, aims, locked)
	if err != nil {
		return v, nil, err
	}
	result.Plan = result.Plan.Clone() // what is computed is shared
	// What was wanted stays with the plan and is drawn on its scale.
	wanted := plan.Aim{Thickness: &thickness, SweetPct: &sweet}
	if p.Aim != nil {
		wanted.Doneness = p.Aim.Doneness
	}
	result.Plan.Aim = &wanted
	before := p.Clone()
	before.Aim = &wanted
	v.Now = newSide(say, before, now)
	for _, c := range result.Changes {
		v.Changes = append(v.Changes, changed{what(say, p, c.Path), c.From, c.To, say.Change(c)})
	}
	for _, miss := range result.Missed {
		v.Missed = append(v.Missed, say.Sprintf("%s comes to %.3g and not to %.3g: %s.", words.Capital(say.AimName(p, miss.Aim)),
			miss.Reached, miss.Wanted, say.Obstacle(miss, aims)))
	}
	for _, one := range result.Warned {
		v.Warned = append(v.Warned, say.Finding(result.Plan, one).Message)
	}
	v.Cut = result.Cut
	if !v.Cut {
		found, err := s.kitchen.Roads(ctx, p, aims, locked)
		if err != nil {
			return v, nil, err
		}
		v.Roads = roads(say, p, found, f, result.Changes)
	}
	v.Done, v.Nothing = len(v.Changes) > 0, len(v.Changes) == 0 && len(v.Missed) == 0
	after, err := s.kitchen.Forecast(ctx, result.Plan)
	if err != nil {
		return v, nil, err
	}
	v.New = newSide(say, result.Plan, after)
	return v, result.Plan, nil
}

// roads lists the other ways to the aims: what each changes, and the page with all else locked.
func roads(say words.Printer, p *plan.Plan, found map[design.Road]design.Balanced, f *frame.Fields, taken []design.Change) (list []road) {
	names := func(changes []design.Change) (list []string) {
		for _, c := range changes {
			list = append(list, c.Lock)
		}
		slices.Sort(list)
		return slices.Compact(list)
	}
	for _, name := range slices.Sorted(maps.Keys(found)) {
		result := found[name]
		if slices.Equal(names(result.Changes), names(taken)) {
			continue
		}
		query := url.Values{"thickness": {f.Text("thickness")}, "sweet": {f.Text("sweet")}, "bowls": {f.Text("bowls")},
			"lock": {design.FlameLock}}
		var said []string
		moved := map[string]bool{}
		for _, c := range result.Changes {
			said = append(said, what(say, p, c.Path)+" "+c.From+" → "+c.To)
			moved[c.Lock] = true
		}
		for _, lock := range design.Lockable(p) {
			if !moved[lock] {
				query.Add("lock", lock)
			}
		}
		one := road{Name: say.Road(name), Changes: strings.Join(said, ", "), Path: "?" + query.Encode()}
		if len(result.Warned) > 0 {
			one.Warned = say.Finding(result.Plan, result.Warned[0]).Message
		}
		list = append(list, one)
	}
	return list
}

// locks lists what can be locked: the materials and the mark.
func locks(p *plan.Plan, on []string) []lock {
	var all []lock
	add := func(name, label string) {
		if !slices.ContainsFunc(all, func(l lock) bool { return l.Name == name }) {
			all = append(all, lock{name, label, slices.Contains(on, name)})
		}
	}
	for _, name := range design.Lockable(p) {
		if material, ok := p.Pantry().Material(name); ok {
			add(name, words.Lower(material.ShortName()))
		} else {
			add(name, map[string]string{design.MarkLock: "how far it is reduced", design.TimeLock: "how long it cooks"}[name])
		}
	}
	add(design.FlameLock, "the flame")
	return all
}

// what names the amount or the mark of a path.
func what(say words.Printer, p *plan.Plan, path string) string {
	var step, item int
	if _, err := fmt.Sscanf(path, "steps[%d].items[%d].amount", &step, &item); err == nil {
		return words.Capital(say.ItemName(p, p.Steps[step].Items[item]))
	}
	switch {
	case strings.HasSuffix(path, ".flame"):
		return "Flame"
	case strings.HasSuffix(path, "minutes"):
		return "Cooked, min"
	}
	return "Reduced to, %"
}

func newSide(say words.Printer, p *plan.Plan, f *forecast.Forecast) side {
	s := side{Thickness: picture.NewThickness(p, f), Words: say.Thickness(f, p.Serve)}
	add := func(name, value string) { s.Rows = append(s.Rows, row{name, value}) }
	if r := f.Thickness.As(p.Serve); r != nil {
		add("Thickness as served", say.Sprintf("%.1f (likely %.1f to %.1f)", r.Value, r.Low, r.High))
	}
	add("Sweetness", say.Sprintf("%s (%.1f to %.1f)", say.Percent(f.Sweetness.Pct.Value, 1), f.Sweetness.Pct.Low, f.Sweetness.Pct.High))
	add("Yield", fmt.Sprintf("%s, %d bowls of %s", say.Grams(measure.Gram(f.Yield.MassG.Value)), f.Yield.Portions,
		say.Grams(measure.Gram(f.Yield.PortionG))))
	for _, name := range slices.Sorted(maps.Keys(f.Doneness)) {
		add(words.Capital(p.PartName(name)), say.Sprintf("%s (%.1f)",
			pot.DonenessWord(p.Texture(name), f.Doneness[name].Value), f.Doneness[name].Value))
	}
	add("To the bowl", say.Span(f.Time.TotalMin))
	for _, found := range watch.Findings(p, f) {
		s.Findings = append(s.Findings, say.Finding(p, found).Message)
	}
	return s
}

// Take makes the balanced plan the present version.
func (s *Screen) Take(c *gin.Context) error {
	say := frame.Words(c)
	pudding, err := s.kitchen.Pudding(c.Request.Context(), c.Param("id"))
	if err != nil {
		return err
	}
	f, err := frame.ReadForm(c, nil)
	if err != nil {
		return err
	}
	if f.Text("version") != strconv.Itoa(pudding.Version) {
		return store.ErrStale
	}
	v, balanced, err := s.newView(c.Request.Context(), say, pudding, f.Typed)
	if err != nil {
		return err
	}
	if balanced == nil {
		return s.page.Show(c, http.StatusUnprocessableEntity, frame.Frame{Title: "Balance: " + pudding.Plan.Name, Section: "puddings",
			Module: "js/live-form.js", Body: v})
	}
	taken, err := plan.Reread(balanced)
	if err == nil && v.Done {
		err = s.records.SavePlan(c.Request.Context(), pudding.ID, pudding.Version, taken, s.app.Now())
	}
	if err != nil {
		return err
	}
	c.Redirect(http.StatusSeeOther, "/puddings/"+pudding.ID)
	return nil
}
