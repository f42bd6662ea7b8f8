// Package rescue is the way from what is wrong with a pot to a computed repair.
package rescue

import (
	"context"
	"embed"
	"errors"
	"net/http"
	"slices"

	"github.com/gin-gonic/gin"
	"github.com/google/uuid"

	"kirdu/core/cook"
	"kirdu/core/learn"
	"kirdu/core/measure"
	"kirdu/core/pantry"
	"kirdu/core/plan"
	"kirdu/core/rescue"
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
	Tell(ctx context.Context, c store.Cook, e cook.Event) error
}

// Records are what it reads and writes of the data by itself.
type records interface {
	Burners(ctx context.Context) ([]store.Burner, error)
	Cook(ctx context.Context, id string) (store.Cook, error)
	Cooking(ctx context.Context) ([]store.Cooking, error)
	Home(ctx context.Context) (plan.Home, error)
	Pots(ctx context.Context) ([]store.Pot, error)
	Puddings(ctx context.Context, most int) ([]store.Pudding, error)
}

// A Screen is the Rescue.
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

// standard are the fields before anything is chosen.
var standard = map[string]string{"standing": string(rescue.JustOff), "serve": string(plan.Warm), "done": "", "liquid": "milk-whole",
	"grain": "rice-short", "sweet": "sugar-white", "other": "ghee"}

// Faults of the form.
var (
	errChoose = measure.Code("stove.choose")
	errAgain  = measure.Code("stove.again")
	errPot    = measure.Code("stove.pot")
)

// First asks which pot it is.
func (s *Screen) First(c *gin.Context) error {
	v := view{Faults: map[string]string{}}
	if err := s.list(c, &v); err != nil {
		return err
	}
	return s.show(c, http.StatusOK, v)
}

// list fills in what can be rescued.
func (s *Screen) list(c *gin.Context, v *view) error {
	ctx := c.Request.Context()
	cooking, err := s.records.Cooking(ctx)
	if err != nil {
		return err
	}
	for _, k := range cooking {
		v.Cooking = append(v.Cooking, choice{k.ID, k.Name})
	}
	const most = 60
	shelf, err := s.records.Puddings(ctx, most)
	if err != nil {
		return err
	}
	for _, p := range shelf {
		v.Puddings = append(v.Puddings, choice{p.ID, p.Plan.Name})
	}
	return nil
}

// OfPudding rescues a pudding of the shelf that has been cooked.
func (s *Screen) OfPudding(c *gin.Context) error {
	p, err := s.kitchen.Pudding(c.Request.Context(), c.Param("id"))
	if err != nil {
		return err
	}
	f := frame.NewFields(c.Request.URL.Query(), standard)
	v := view{Name: p.Plan.Name, Back: "/puddings/" + p.ID, BackName: "The Workbench", Finished: true}
	return s.answer(c, http.StatusOK, v, f, rescue.Finished(p.Plan, standing(f)))
}

// OfCook rescues what is on the stove.
func (s *Screen) OfCook(c *gin.Context) error {
	k, trouble, err := s.cook(c)
	if err != nil {
		return err
	}
	f := frame.NewFields(c.Request.URL.Query(), standard)
	return s.answer(c, http.StatusOK, ofCook(k), f, trouble)
}

func ofCook(k store.Cook) view {
	return view{Name: k.Plan.Name, Back: "/stove/" + k.ID, BackName: "The Stove", Cook: k.ID}
}

// cook loads a cook that can be rescued; otherwise the answer is given.
func (s *Screen) cook(c *gin.Context) (k store.Cook, trouble rescue.Trouble, _ error) {
	k, err := s.records.Cook(c.Request.Context(), c.Param("id"))
	if err != nil {
		return k, trouble, err
	}
	state := k.State()
	if !state.Finished.IsZero() {
		c.Redirect(http.StatusSeeOther, "/puddings/"+k.PuddingID+"/rescue?"+c.Request.URL.RawQuery)
		return k, trouble, frame.Answered(nil)
	}
	trouble, err = learn.TroubleOf(&state, k.Now(s.app.Now()))
	switch {
	case errors.Is(err, cook.ErrClosed):
		return k, trouble, frame.Stop(http.StatusConflict, "Nothing can go into this pot just now.",
			"End the step that it is in at the Stove first: open the cooker without pressure, or take it out of the cold.")
	case err != nil:
		return k, trouble, frame.Stop(http.StatusConflict, "There is nothing to rescue yet.", "The pot is not over the flame.")
	}
	return k, trouble, nil
}

// Take puts a repair into the cook, as steps.
func (s *Screen) Take(c *gin.Context) error {
	f, err := frame.ReadForm(c, standard)
	if err != nil {
		return err
	}
	k, trouble, err := s.cook(c)
	if err != nil {
		return err
	}
	symptom := read(f, &trouble)
	id, err := uuid.Parse(f.Text("id"))
	if err != nil {
		f.Fault("repair", errAgain)
	}
	if slices.ContainsFunc(k.Events, func(e cook.Event) bool { return e.ID == id.String() }) {
		c.Redirect(http.StatusSeeOther, "/stove/"+k.ID) // sent twice
		return nil
	}
	var chosen *rescue.Repair
	if f.Err() == nil {
		if r, err := rescue.Rescue(trouble, symptom); err == nil {
			if at := slices.IndexFunc(r.Repairs, func(one rescue.Repair) bool { return one.Key == f.Text("repair") }); at >= 0 {
				chosen = &r.Repairs[at]
			}
		}
		if chosen == nil {
			f.Fault("repair", errAgain)
		}
	}
	if f.Err() != nil {
		return s.answer(c, http.StatusUnprocessableEntity, ofCook(k), f, trouble)
	}
	now := s.app.Now()
	state := k.State()
	e := cook.Event{ID: id.String(), Kind: cook.Mended, At: k.Now(now), Mend: frame.Words(c).Mend(symptom, chosen)}
	if err := state.Check(e); err != nil {
		f.Fault("repair", err)
		return s.answer(c, http.StatusUnprocessableEntity, ofCook(k), f, trouble)
	}
	if err := s.kitchen.Tell(c.Request.Context(), k, e); err != nil {
		return err
	}
	c.Redirect(http.StatusSeeOther, "/stove/"+k.ID)
	return nil
}

// OfPot rescues a pot that no plan tells of.
func (s *Screen) OfPot(c *gin.Context) error {
	say := frame.Words(c)
	f := frame.NewFields(c.Request.URL.Query(), standard)
	v := view{Name: "A pot", Back: "/rescue", BackName: "Which pot?", Finished: true, Described: true}
	d, err := s.describe(say, c.Request.Context(), f, &v)
	if err != nil {
		return err
	}
	if (f.Text("liquid_g") == "" || f.Text("what") != "") && f.Err() == nil {
		v.show(say, f)
		return s.show(c, http.StatusOK, v)
	}
	var trouble rescue.Trouble
	if f.Err() == nil {
		p, err := rescue.Describe(d)
		if err != nil {
			f.Fault("liquid", err)
		} else {
			trouble = rescue.Finished(p, standing(f))
		}
	}
	return s.answer(c, http.StatusOK, v, f, trouble)
}

// Most that a pot holds of anything, g.
const mostInPot = 20000

// describe reads what is in a pot.
func (s *Screen) describe(say words.Printer, ctx context.Context, f *frame.Fields, v *view) (d rescue.Described, err error) {
	home, err := s.records.Home(ctx)
	if err != nil {
		return d, err
	}
	pots, err := s.records.Pots(ctx)
	if err != nil {
		return d, err
	}
	burners, err := s.records.Burners(ctx)
	if err != nil {
		return d, err
	}
	all := plan.HomePantry(home)
	v.materials(all)
	for _, p := range pots {
		v.Pots = append(v.Pots, choice{p.ID, p.Name})
		if d.Pot.HeightMM == 0 || p.ID == f.Text("pot") {
			d.Pot = p.Pot
		}
	}
	if len(pots) == 0 {
		f.Fault("pot", errPot)
	}
	d.Burner = vessel.DefaultBurner()
	if len(burners) > 0 {
		d.Burner = burners[0].Burner
	}
	d.Kitchen = plan.DefaultKitchen()
	if home.Kitchen != nil {
		d.Kitchen = *home.Kitchen
	}
	d.Materials = home.Materials
	d.Serve = plan.Serve(f.Text("serve"))
	if !slices.Contains([]plan.Serve{plan.Hot, plan.Warm, plan.Room, plan.Chilled}, d.Serve) {
		f.Fault("serve", errChoose)
	}
	item := func(name string) *plan.Item {
		mass, given := f.Optional(name+"_g", 0.1, mostInPot, "900")
		if !given {
			return nil
		}
		if _, known := all.Material(f.Text(name)); !known {
			f.Fault(name, errChoose)
			return nil
		}
		return &plan.Item{Material: f.Text(name), Amount: say.Sprintf("%.4g g", mass)}
	}
	for _, name := range []string{"liquid", "other"} {
		if one := item(name); one != nil {
			d.Items = append(d.Items, *one)
		}
	}
	d.Grain, d.Sweet = item("grain"), item("sweet")
	d.Done = 1.2
	if text := f.Text("done"); text != "" {
		if x, ok := frame.Number(text); ok && x > 0 {
			d.Done = x
		}
	}
	return d, nil
}

func standing(f *frame.Fields) rescue.Standing {
	switch one := rescue.Standing(f.Text("standing")); one {
	case rescue.Warm, rescue.Cold:
		return one
	}
	return rescue.JustOff
}

// read lays what is seen of the pot over a trouble.
func read(f *frame.Fields, trouble *rescue.Trouble) rescue.Symptom {
	symptom := rescue.Symptom(f.Text("symptom"))
	if !slices.Contains(rescue.Symptoms(), symptom) {
		f.Fault("symptom", rescue.ErrSymptom)
	}
	if mass, given := f.Optional("mass", 1, float64(measure.MaxGrams), "850"); given {
		g := measure.Gram(mass)
		trouble.Mass = &g
	}
	number := func(name string, low, high float64, example string) *float64 {
		if x, given := f.Optional(name, low, high, example); given {
			return &x
		}
		return nil
	}
	trouble.Grade = number("grade", 1, 8, "3.5")
	trouble.Wanted = number("wanted", 1, 8, "4")
	trouble.Done = number("done", 0, 10, "0.8")
	if by := number("by", -90, 90, "20"); by != nil {
		trouble.Sweet = symptom.Tasted(*by / 100)
	}
	if slug := f.Text("with"); slug != "" {
		m, known := trouble.Pantry().Material(slug)
		if !known || m.Behaviour != pantry.Liquid {
			f.Fault("with", errChoose)
		}
		trouble.Liquid = slug
	}
	return symptom
}

// answer works the repairs out and shows them.
func (s *Screen) answer(c *gin.Context, status int, v view, f *frame.Fields, trouble rescue.Trouble) error {
	say := frame.Words(c)
	var rescued rescue.Rescued
	asked := f.Text("symptom") != ""
	if asked && trouble.Plan != nil {
		symptom := read(f, &trouble)
		if v.Described {
			trouble.Done = nil // it is in the plan
		}
		if f.Err() == nil {
			var err error
			if rescued, err = rescue.Rescue(trouble, symptom); err != nil {
				f.Fault("symptom", err)
			}
		}
	}
	if f.Err() != nil {
		status = http.StatusUnprocessableEntity
	}
	v.now(say, trouble)
	v.show(say, f)
	if asked && f.Err() == nil {
		v.tell(say, rescued, trouble)
	}
	return s.show(c, status, v)
}

func (s *Screen) show(c *gin.Context, status int, v view) error {
	return s.page.Show(c, status, frame.Frame{Title: "Rescue", Section: "rescue", Body: v})
}

// query are the fields that a repair is worked out from, to be sent again with it.
func query(f *frame.Fields) (list []choice) {
	for _, name := range []string{"symptom", "mass", "grade", "wanted", "done", "by", "with"} {
		if value := f.Text(name); value != "" {
			list = append(list, choice{name, value})
		}
	}
	return list
}
