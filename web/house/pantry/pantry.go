// Package pantry is the materials of the kitchen: what they are made of, how
// they behave, and the cook's own.
package pantry

import (
	"cmp"
	"context"
	"embed"
	"errors"
	"net/http"
	"slices"
	"strconv"
	"strings"
	"time"
	"unicode/utf8"

	"github.com/gin-gonic/gin"

	"kirdu/core/measure"
	materials "kirdu/core/pantry"
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

// Records are what it reads and writes of the data by itself.
type records interface {
	Home(ctx context.Context) (plan.Home, error)
	RemoveOwnMaterial(ctx context.Context, slug string, at time.Time) error
	RestoreOwnMaterial(ctx context.Context, slug string) error
	SaveOwnMaterial(ctx context.Context, m plan.OwnMaterial, at time.Time) error
	UnreadableMaterials(ctx context.Context) ([]*store.Unreadable, error)
}

// A Screen is the Pantry.
type Screen struct {
	app               *frame.App
	records           records
	list, one, making *frame.Template
}

// New returns the screen.
func New(app *frame.App, records records) *Screen {
	return &Screen{app: app, records: records, list: app.Template(files, "list.html"), one: app.Template(files, "one.html"),
		making: app.Template(files, "new.html")}
}

type listView struct {
	Search string
	Kinds  []kind
	Found  int
	All    int

	Unreadable []unreadable
}

// unreadable is an own material whose figures cannot be read.
type unreadable struct{ Name, Path string }

type kind struct {
	Name      string
	Materials []entry
}

type entry struct {
	Slug, Name, Aliases, Notes string
	Near                       bool // it is only near to what was searched
	Own                        bool
	Stack                      picture.Stack
}

// kindNames are the kinds of the table in words.
var kindNames = map[string]string{
	"dairy": "Milk and cream", "coconut": "Coconut", "plantmilk": "Plant drinks", "water": "Water", "rice": "Rice",
	"flour": "Flour and starch",
	"wheat": "Wheat, oats and barley", "millet": "Millet and the like", "pulse": "Pulses", "pearl": "Pearls", "noodle": "Vermicelli",
	"vegetable": "Vegetables", "fruit": "Fruit", "sweetener": "Sweeteners", "egg": "Egg", "fat": "Fat", "nut": "Nuts",
	"dried-fruit": "Dried fruit",
	"spice":       "Spices", "flavour": "Flavours", "salt": "Salt", "leaven": "Soda",
}

func kindName(name string) string {
	if said, ok := kindNames[name]; ok {
		return said
	}
	if name == "" {
		return "Own materials"
	}
	return words.Capital(name)
}

// Show lists the materials that a search finds.
func (s *Screen) Show(c *gin.Context) error {
	say := frame.Words(c)
	home, err := s.records.Home(c.Request.Context())
	if err != nil {
		return err
	}
	all := plan.HomePantry(home)
	v := listView{Search: strings.TrimSpace(c.Query("search")), All: len(all.All())}
	for _, m := range all.Search(v.Search) {
		v.Found++
		name := kindName(m.Kind)
		k := slices.IndexFunc(v.Kinds, func(k kind) bool { return k.Name == name })
		if k < 0 {
			k = len(v.Kinds)
			v.Kinds = append(v.Kinds, kind{Name: name})
		}
		v.Kinds[k].Materials = append(v.Kinds[k].Materials, entry{Slug: m.Slug, Name: m.Name, Aliases: strings.Join(m.OtherNames(), ", "),
			Notes: allergenWords(say, m), Own: isOwn(home, m.Slug), Near: m.IsNear(v.Search),
			Stack: picture.NewStack(say, "", picture.Parts(m), 100, "g").WithoutWords()})
	}
	aside, err := s.records.UnreadableMaterials(c.Request.Context())
	if err != nil {
		return err
	}
	for _, bad := range aside {
		v.Unreadable = append(v.Unreadable, unreadable{cmp.Or(bad.Name, bad.ID), frame.UnreadablePath(bad)})
	}
	frame := frame.Frame{Title: "Pantry", Section: "pantry", Body: v}
	if slug := c.Query("removed"); slug != "" {
		frame.Notice, frame.UndoPath = "Your figures were taken out. Puddings that use them keep them.", "/pantry/"+slug+"/restore"
	}
	return s.list.Show(c, http.StatusOK, frame)
}

func isOwn(home plan.Home, slug string) bool {
	return slices.ContainsFunc(home.Materials, func(o plan.OwnMaterial) bool { return o.Slug == slug })
}

func allergenWords(say words.Printer, m *materials.Material) string {
	if len(m.Allergens) == 0 {
		return ""
	}
	return "contains " + say.Join(m.Allergens)
}

type oneView struct {
	Slug, Name, Aliases string
	OwnNames            string // other names of the cook's own
	Own, Corrected      bool   // an own material; one of the table with figures of one's own
	Stack               picture.Stack
	Figures             []figure
	Facts               []string
	Source              string
	Allergens           string
	Faults              map[string]string
	OtherFaults         []string
}

type figure struct {
	Name, Label, Unit, Value, Fault string
	Source                          string // where the number comes from
	Own                             bool   // it differs from the table and can be reset
}

// One shows a material with all its figures.
func (s *Screen) One(c *gin.Context) error {
	return s.showOne(c, http.StatusOK, nil, nil)
}

func (s *Screen) showOne(c *gin.Context, status int, typed map[string]string, faults error) error {
	say := frame.Words(c)
	home, own, err := s.own(c)
	if err != nil {
		return err
	}
	m := own.Material()
	v := oneView{Slug: m.Slug, Name: m.Name, Aliases: strings.Join(m.OtherNames(), ", "),
		Stack:  picture.NewStack(say, "", picture.Parts(m), 100, "g"),
		Source: m.SourceNote, Allergens: say.Join(m.Allergens), Faults: frame.FieldFaults(say, faults)}
	v.OwnNames = strings.Join(own.Aliases, ", ")
	if text, again := typed["aliases"]; again {
		v.OwnNames = text
	}
	standard, known := materials.Standard().Material(m.Slug)
	v.Corrected = known && isOwn(home, m.Slug)
	v.Own = !known
	table := own
	if known {
		table = plan.OwnOf(standard)
	}
	tableFigures := table.Figures()
	shown := map[string]bool{"aliases": true}
	for _, f := range own.Figures() {
		one := figure{Name: f.Name, Label: f.Label, Unit: f.Unit, Value: plain(*f.Value), Fault: v.Faults[f.Name], Source: "your own"}
		shown[f.Name] = true
		if k := slices.IndexFunc(tableFigures, func(t plan.Figure) bool { return t.Name == f.Name }); known && k >= 0 {
			one.Own = *tableFigures[k].Value != *f.Value
			one.Source = "table"
			if one.Own {
				one.Source = "your own; the table has " + plain(*tableFigures[k].Value)
			}
		}
		if value, ok := typed[f.Name]; ok {
			one.Value = value
		}
		v.Figures = append(v.Figures, one)
	}
	for name, fault := range v.Faults {
		if !shown[name] {
			v.OtherFaults = append(v.OtherFaults, fault)
		}
	}
	v.Facts = facts(say, m)
	return s.one.Show(c, status, frame.Frame{Title: m.Name, Section: "pantry", Body: v})
}

func plain(x float64) string { return strconv.FormatFloat(x, 'f', -1, 64) }

// facts says what the figures mean at the stove.
func facts(say words.Printer, m *materials.Material) []string {
	said := []string{say.Degrees(behaviourWords[m.Behaviour])}
	if k := m.Kinetics; k != nil {
		said = append(said, say.Sprintf("Cooked through after about %.0f min in simmering water; liked from %s to %s.",
			float64(k.CookMinutes), pot.DonenessWord(m.Texture(), k.WantedLow), pot.DonenessWord(m.Texture(), k.WantedHigh)))
		if k.SoakedFactor > 0 && k.SoakedFactor < 1 {
			said = append(said, say.Sprintf("Soaked, it takes %.0f %% of that; half soaked after %.0f min at %s.", 100*k.SoakedFactor,
				float64(k.SoakHalf), say.Celsius(25)))
		}
		if k.AcidHardens {
			said = append(said, "In jaggery, molasses and other acids it stops softening: sweeten when it is soft.")
		}
	}
	if m.Frying != nil {
		said = append(said, say.Sprintf("In hot fat done after %.3g min (%s), burnt after %.3g.", float64(m.Frying.Done), m.Frying.Sign,
			float64(m.Frying.Burnt)))
	}
	if sweetness := m.Sweetness(); sweetness >= 0.1 {
		said = append(said, say.Sprintf("100 g sweeten like %.0f g of sucrose.", 100*sweetness))
	}
	if m.AcidNote != "" && m.AcidNote != "none" {
		said = append(said, words.Capital(m.AcidNote)+".")
	}
	if m.Has("choking") {
		said = append(said, "Whole pieces can choke children under five.")
	}
	return said
}

var behaviourWords = map[materials.Behaviour]string{
	materials.Liquid: "A liquid.", materials.Dissolves: "Dissolves in the liquid.", materials.Fat: "A fat.",
	materials.Egg:   "Sets with heat.",
	materials.Puree: "A purée, part of the liquid.", materials.Aroma: "An aroma.",
	materials.Flour: "A flour: its starch thickens above {78C}.",
	materials.Grain: "A grain that cooks and drinks.", materials.Tissue: "Softens and gives off water.",
	materials.Piece: "Pieces that keep their size.",
}

// own returns the material of the address in the columns of one's own, with
// the kitchen's figures if it has any. Error: store.ErrNotFound.
func (s *Screen) own(c *gin.Context) (plan.Home, plan.OwnMaterial, error) {
	home, err := s.records.Home(c.Request.Context())
	if err != nil {
		return home, plan.OwnMaterial{}, err
	}
	slug := c.Param("slug")
	for _, o := range home.Materials {
		if o.Slug == slug {
			return home, o, nil
		}
	}
	if m, ok := materials.Standard().Material(slug); ok {
		return home, plan.OwnOf(m), nil
	}
	return home, plan.OwnMaterial{}, store.ErrNotFound
}

// Correct stores figures of the cook's own.
func (s *Screen) Correct(c *gin.Context) error {
	_, own, err := s.own(c)
	if err != nil {
		return err
	}
	fields, err := frame.ReadForm(c, nil)
	if err != nil {
		return err
	}
	reset := fields.Text("reset")
	standard, known := materials.Standard().Material(own.Slug)
	table := plan.OwnMaterial{}
	if known {
		table = plan.OwnOf(standard)
	}
	tableFigures := table.Figures()
	for _, f := range own.Figures() {
		if k := slices.IndexFunc(tableFigures, func(t plan.Figure) bool { return t.Name == f.Name }); known && reset == f.Name && k >= 0 {
			*f.Value = *tableFigures[k].Value
			continue
		}
		if _, typed := fields.Typed[f.Name]; typed && reset == "" {
			*f.Value = fields.Number(f.Name, f.Low, f.High, plain(*f.Value))
		}
	}
	if _, typed := fields.Typed["aliases"]; typed && reset == "" {
		own.Aliases = aliases(fields)
	}
	if fields.Err() == nil {
		// A pack has no pH below 1; 0 means that it has none of its own.
		if err := own.Check(); err != nil {
			fields.Fault("whole", err)
		}
	}
	if err := fields.Err(); err != nil {
		return s.showOne(c, http.StatusUnprocessableEntity, fields.Values(), err)
	}
	if known && own.SourceNote == standard.SourceNote {
		own.SourceNote = "corrected here; the rest: " + standard.SourceNote
	}
	if err := s.save(c, own); err != nil {
		return err
	}
	c.Redirect(http.StatusSeeOther, "/pantry/"+own.Slug)
	return nil
}

// save stores a material; figures that are those of the table need no entry.
func (s *Screen) save(c *gin.Context, own plan.OwnMaterial) error {
	ctx := c.Request.Context()
	if standard, known := materials.Standard().Material(own.Slug); known {
		table := plan.OwnOf(standard)
		same := len(own.Aliases) == 0
		tableFigures := table.Figures()
		for k, f := range own.Figures() {
			same = same && *f.Value == *tableFigures[k].Value
		}
		if same {
			if err := s.records.RemoveOwnMaterial(ctx, own.Slug, s.app.Now()); err != nil && !errors.Is(err, store.ErrNotFound) {
				return err
			}
			return nil
		}
	}
	const longestNote = 200
	if runes := []rune(own.SourceNote); len(runes) > longestNote {
		own.SourceNote = string(runes[:longestNote-1]) + "…"
	}
	return s.records.SaveOwnMaterial(ctx, own, s.app.Now())
}

// Remove takes one's own figures out.
func (s *Screen) Remove(c *gin.Context) error {
	slug := c.Param("slug")
	if err := s.records.RemoveOwnMaterial(c.Request.Context(), slug, s.app.Now()); err != nil {
		return err
	}
	c.Redirect(http.StatusSeeOther, "/pantry?removed="+slug)
	return nil
}

// Restore puts them back.
func (s *Screen) Restore(c *gin.Context) error {
	if err := s.records.RestoreOwnMaterial(c.Request.Context(), c.Param("slug")); err != nil {
		return err
	}
	c.Redirect(http.StatusSeeOther, "/pantry/"+c.Param("slug"))
	return nil
}

// Faults of other names.
var errAliases = measure.Code("pantry.aliases").With(mostAliases, longestAlias)

// Bounds of the other names of a material. Source: the plan format.
const (
	mostAliases  = 20
	longestAlias = 60
)

// aliases reads the other names of a material, with commas between.
func aliases(f *frame.Fields) (list []string) {
	for _, name := range strings.Split(f.Text("aliases"), ",") {
		if name = strings.Join(strings.Fields(name), " "); name == "" || slices.Contains(list, name) {
			continue
		}
		if len(list) == mostAliases || utf8.RuneCountInString(name) > longestAlias {
			f.Fault("aliases", errAliases)
			return nil
		}
		list = append(list, name)
	}
	return list
}

type newView struct {
	In     map[string]string
	Faults map[string]string
	Likes  []option
}

type option struct {
	Value, Label string
	Chosen       bool
}

var newStandard = map[string]string{"name": "", "aliases": "", "like": "rice-short", "energy_kcal": "", "fat": "0", "carbohydrate": "0",
	"sugars": "0",
	"fibre":  "0", "protein": "0", "salt": "0", "bulk_g_per_ml": ""}

// New shows the form for a material of one's own.
func (s *Screen) New(c *gin.Context) error {
	f := frame.NewFields(c.Request.URL.Query(), newStandard)
	home, err := s.records.Home(c.Request.Context())
	if err != nil {
		return err
	}
	if like, ok := plan.HomePantry(home).Material(c.Query("like")); ok {
		for name, value := range labelOf(like) {
			f.Typed.Set(name, value)
		}
	}
	return s.showNew(c, http.StatusOK, f)
}

// labelOf is what a pack of a material would say, to be corrected.
func labelOf(m *materials.Material) map[string]string {
	sugars := m.Lactose + m.Sucrose + m.Glucose + m.Fructose
	const saltPerSodiumMg, digits = 2.5 / 1000, 4
	short := func(x float64) string { return plain(measure.RoundSignificant(x, digits)) }
	return map[string]string{
		"name": m.ShortName() + ", mine", "energy_kcal": short(m.EnergyKcal), "fat": short(float64(m.Fat)),
		"carbohydrate": short(float64(sugars + m.Starch)),
		"sugars":       short(float64(sugars)), "fibre": short(float64(m.Fibre)), "protein": short(float64(m.Protein)),
		"salt":          short(m.SodiumMg * saltPerSodiumMg),
		"bulk_g_per_ml": short(float64(m.Bulk)),
	}
}

func (s *Screen) showNew(c *gin.Context, status int, f *frame.Fields) error {
	home, err := s.records.Home(c.Request.Context())
	if err != nil {
		return err
	}
	v := newView{In: f.Values(), Faults: f.Faults(frame.Words(c))}
	for _, m := range plan.HomePantry(home).All() {
		v.Likes = append(v.Likes, option{m.Slug, m.Name, m.Slug == f.Text("like")})
	}
	return s.making.Show(c, status, frame.Frame{Title: "A material of your own", Section: "pantry", Body: v})
}

// Faults of a new material.
var (
	errLike = measure.Code("pantry.like")
	errSlug = measure.Code("pantry.slug")
)

// Create stores a material from a pack label.
func (s *Screen) Create(c *gin.Context) error {
	f, err := frame.ReadForm(c, newStandard)
	if err != nil {
		return err
	}
	home, err := s.records.Home(c.Request.Context())
	if err != nil {
		return err
	}
	all := plan.HomePantry(home)
	name := f.Name("name", 80)
	like, known := all.Material(f.Text("like"))
	if !known {
		f.Fault("like", errLike)
	}
	l := plan.Label{Fat: f.Number("fat", 0, 100, "3.5"), Carbohydrate: f.Number("carbohydrate", 0, 100, "78"),
		Sugars: f.Number("sugars", 0, 100, "4.8"),
		Fibre:  f.Number("fibre", 0, 100, "1.5"), Protein: f.Number("protein", 0, 100, "7"), Salt: f.Number("salt", 0, 100, "0.1")}
	l.EnergyKcal, _ = f.Optional("energy_kcal", 0, 950, "350")
	density, hasDensity := f.Optional("bulk_g_per_ml", 0.05, 3, "0.8")
	slug := strings.TrimSuffix(plan.KeyOf(name, "x"), "_x")
	if len(slug) < 2 && name != "" {
		f.Fault("name", errSlug)
	}
	if f.Err() != nil {
		return s.showNew(c, http.StatusUnprocessableEntity, f)
	}
	const longestSlug = 50
	slug = strings.Trim(slug[:min(len(slug), longestSlug)], "-")
	slug = plan.UniqueName(slug, func(name string) bool { _, taken := all.Material(name); return taken || name == "new" })
	own, err := plan.FromLabel(slug, name, l, like)
	if err != nil {
		f.Fault(labelField(err), err)
		return s.showNew(c, http.StatusUnprocessableEntity, f)
	}
	if own.Aliases = aliases(f); f.Err() != nil {
		return s.showNew(c, http.StatusUnprocessableEntity, f)
	}
	if hasDensity {
		own.Bulk = density
	}
	if err := s.save(c, own); err != nil {
		return err
	}
	c.Redirect(http.StatusSeeOther, "/pantry/"+own.Slug)
	return nil
}

func labelField(err error) string {
	switch {
	case errors.Is(err, plan.ErrLabelSugars):
		return "sugars"
	case errors.Is(err, plan.ErrLabelEnergy):
		return "energy_kcal"
	}
	return "carbohydrate"
}
