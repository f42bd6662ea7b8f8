package kitchen

import (
	"fmt"
	"maps"
	"math"
	"net/http"
	"slices"

	"github.com/gin-gonic/gin"

	"kirdu/app"
	"kirdu/core/measure"
	"kirdu/core/pantry"
	"kirdu/core/plan"
	"kirdu/store"
	"kirdu/web/frame"
	"kirdu/web/picture"
	"kirdu/words"
)

type measuresView struct {
	In       map[string]string
	Faults   map[string]string
	Measures []measureView
	Usual    []string // measures that were never taken, with the size that counts
	Names    []string // of materials
	Jars     picture.Jars
}

type measureView struct {
	Name, Size string
	Taken      []takenView // the latest first
}

type takenView struct{ ID, Size, How, Day string }

var measureStandard = map[string]string{"name": "cup", "how": "water", "empty_g": "0", "full_g": "", "material": "", "size": ""}

// usual lists the measures that most recipes use.
var usual = []string{"cup", "glass", "bowl", "tablespoon", "teaspoon", "handful"}

// Measures shows what the cups and tins of the kitchen hold.
func (s *Screen) Measures(c *gin.Context) error {
	return s.showMeasures(c, http.StatusOK, frame.NewFields(c.Request.URL.Query(), measureStandard))
}

func (s *Screen) showMeasures(c *gin.Context, status int, f *frame.Fields) error {
	say := frame.Words(c)
	ctx := c.Request.Context()
	taken, err := s.records.Measurings(ctx)
	if err != nil {
		return err
	}
	v := measuresView{In: f.Values(), Faults: f.Faults(say)}
	var jars []picture.Filled
	for _, m := range taken {
		size := sizeWords(say, m)
		k := slices.IndexFunc(v.Measures, func(one measureView) bool { return one.Name == m.Name })
		if k < 0 {
			k = len(v.Measures)
			v.Measures = append(v.Measures, measureView{Name: m.Name, Size: size})
			if m.Unit == "ml" && m.Size >= 40 {
				jars = append(jars, picture.Filled{Name: m.Name, Figure: size, Volume: m.Size, Size: m.Size})
			}
		}
		v.Measures[k].Taken = append(v.Measures[k].Taken, takenView{m.ID, size, m.How, say.Time(m.TakenAt.In(s.app.Zone), "2 January 2006")})
	}
	var none measure.Measures
	for _, name := range usual {
		if slices.ContainsFunc(v.Measures, func(one measureView) bool { return one.Name == name }) {
			continue
		}
		if _, size, ok := none.Volume(name); ok {
			v.Usual = append(v.Usual, say.Sprintf("%s %.0f ml", name, float64(size)))
		}
	}
	v.Jars = picture.NewJars(jars)
	home, err := s.records.Home(ctx)
	if err != nil {
		return err
	}
	for _, m := range plan.HomePantry(home).All() {
		v.Names = append(v.Names, m.Name)
	}
	frame := frame.Frame{Title: "Your measures", Section: "kitchen", Body: v}
	if id := c.Query("removed"); id != "" {
		frame.Notice, frame.UndoPath = "That weighing was taken back; the one before it counts again.", "/kitchen/measures/"+id+"/restore"
	}
	return s.measures.Show(c, status, frame)
}

func sizeWords(say words.Printer, m store.Measuring) string {
	if m.Unit == "g" {
		return say.Number(m.Size, 1) + " g"
	}
	return say.Number(m.Size, 0) + " ml"
}

// Faults of a measure.
var (
	errHow      = measure.Code("kitchen.how")
	errEmptier  = measure.Code("kitchen.emptier")
	errMaterial = measure.Code("kitchen.material")
)

// AddMeasure stores what a measure was found to hold.
func (s *Screen) AddMeasure(c *gin.Context) error {
	say := frame.Words(c)
	f, err := frame.ReadForm(c, measureStandard)
	if err != nil {
		return err
	}
	home, err := s.records.Home(c.Request.Context())
	if err != nil {
		return err
	}
	m := measuring(say, f, plan.HomePantry(home))
	if f.Err() != nil {
		return s.showMeasures(c, http.StatusUnprocessableEntity, f)
	}
	m.ID, m.TakenAt = app.NewID(), s.app.Now()
	changed, err := s.kitchen.Remeasure(c.Request.Context(), m)
	if err != nil {
		return err
	}
	if len(changed) > 0 && f.Text("seen") == "" {
		return s.showChanged(c, say, f, m, changed)
	}
	keep := map[string]bool{}
	for _, id := range f.Typed["keep"] {
		keep[id] = true
	}
	return s.then(c, s.kitchen.TakeMeasure(c.Request.Context(), m, keep), "/measures")
}

// changedView says which puddings a measure changes, before it is taken.
type changedView struct {
	Name, Size string
	Typed      []typedField // what was filled in, sent along
	Puddings   []changedPudding
}

type typedField struct{ Name, Value string }

type changedPudding struct {
	ID, Name string
	Changes  []string
}

// showChanged asks which puddings keep their grams.
func (s *Screen) showChanged(c *gin.Context, say words.Printer, f *frame.Fields, m store.Measuring, changed []app.Remeasured) error {
	v := changedView{Name: m.Name, Size: sizeWords(say, m)}
	for _, name := range slices.Sorted(maps.Keys(measureStandard)) {
		v.Typed = append(v.Typed, typedField{name, f.Text(name)})
	}
	for _, one := range changed {
		pudding := changedPudding{ID: one.ID, Name: one.Plan.Name}
		for _, d := range one.Changes {
			name := d.Name
			if known, ok := one.Plan.Pantry().Material(d.Name); ok {
				name = known.ShortName()
			}
			pudding.Changes = append(pudding.Changes, say.Sprintf("%s: %s, then %s", name, say.Grams(measure.Gram(d.Before)),
				say.Grams(measure.Gram(d.After))))
		}
		v.Puddings = append(v.Puddings, pudding)
	}
	return s.changed.Show(c, http.StatusOK, frame.Frame{Title: "What this measure changes", Section: "kitchen", Body: v})
}

func measuring(say words.Printer, f *frame.Fields, all *pantry.Pantry) store.Measuring {
	const mostGrams, most = 30_000, 20_000
	m := store.Measuring{Unit: "ml"}
	name, err := measure.OwnName(f.Name("name", 30))
	if err != nil || len(plan.KeyOf(name, "ml")) < len("x_ml") || name == "" {
		if err == nil && f.Text("name") != "" {
			err = measure.Code("kitchen.measure-name")
		}
		if err != nil {
			f.Fault("name", err)
		}
	}
	m.Name = name
	net := func() float64 {
		full, empty := f.Number("full_g", 0, mostGrams, "530"), f.Number("empty_g", 0, mostGrams, "300")
		if f.Err() == nil && full <= empty {
			f.Fault("full_g", errEmptier)
		}
		return full - empty
	}
	switch f.Text("how") {
	case "water":
		m.Size = net()
		m.How = fmt.Sprintf("weighed full of water: %s g", say.Number(m.Size, 0))
	case "material":
		material, ok := all.Find(f.Text("material"))
		if !ok {
			f.Fault("material", errMaterial)
			return m
		}
		grams := net()
		m.Size = grams / float64(material.Bulk)
		m.How = fmt.Sprintf("weighed full of %s: %s g", words.Lower(material.ShortName()), say.Number(grams, 0))
	case "ml":
		m.Size = f.Number("size", 0.1, most, "250")
		m.How = "typed in"
	case "grams":
		m.Unit = "g"
		m.Size = f.Number("size", 0.01, most, "400")
		m.How = "typed in, by weight"
	default:
		f.Fault("how", errHow)
	}
	if f.Err() == nil && !(m.Size > 0 && m.Size <= most) {
		f.Fault("full_g", measure.Code("kitchen.measure-size").With(math.Round(float64(m.Size))))
	}
	return m
}

// RemoveMeasure takes a weighing back.
func (s *Screen) RemoveMeasure(c *gin.Context) error {
	id := c.Param("id")
	return s.then(c, s.records.RemoveMeasuring(c.Request.Context(), id, s.app.Now()), "/measures?removed="+id)
}

// RestoreMeasure puts it back.
func (s *Screen) RestoreMeasure(c *gin.Context) error {
	return s.then(c, s.records.RestoreMeasuring(c.Request.Context(), c.Param("id")), "/measures")
}
