// Package full shows one step of a pudding in full: every number and choice that the
// plan format has for it.
package full

import (
	"context"
	"embed"
	"encoding/json"
	"errors"
	"fmt"
	"math"
	"net/http"
	"net/url"
	"slices"
	"strconv"
	"strings"
	"time"

	"github.com/gin-gonic/gin"

	"kirdu/core/measure"
	"kirdu/core/plan"
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
	Home(ctx context.Context) (plan.Home, error)
	Pudding(ctx context.Context, id string) (store.Pudding, error)
}

// Records are what it reads and writes of the data by itself.
type records interface {
	Burners(ctx context.Context) ([]store.Burner, error)
	Pots(ctx context.Context) ([]store.Pot, error)
	SavePlan(ctx context.Context, id string, base int, p *plan.Plan, at time.Time) error
	Versions(ctx context.Context, id string, below, most int) ([]store.PlanVersion, error)
}

// A Screen is a pudding in full: each step of it, and what stands around them.
type Screen struct {
	app          *frame.App
	kitchen      kitchen
	records      records
	page, around *frame.Template
}

// New returns the screen.
func New(app *frame.App, kitchen kitchen, records records) *Screen {
	return &Screen{app, kitchen, records, app.Template(files, "step.html", "keys.html"), app.Template(files, "around.html", "keys.html")}
}

type view struct {
	ID, Pudding, Title, Detail string
	Index, Version             int
	Fields                     []field
	Items                      []group
	Presses                    []group
	Manner                     []option
	HasItems, HasPresses       bool
	Materials                  []string
	Faults                     []string // that belong to no field
}

// A group is the fields of one item, or of one press. More are those that few items have.
type group struct {
	Title, Remove string
	Fields, More  []field
	Open          bool // one of those is filled in, or has a fault
	New           bool
	Name          string   // of the choice of what can take its place
	From          []option // what can
}

// A field is one key as it is asked for.
type field struct {
	Name, Label, Unit, Value, Fault string
	Kind                            string // number, text, long, flag, choice, material
	Options                         []option
}

var (
	errNumber = measure.Code("full.number")
	errNoStep = frame.Stop(http.StatusNotFound, "There is no such step.", "Go back to the pudding.")
)

// firstKeys of an item are those that nearly each has: material and amount.
const firstKeys = 2

// mostPresses is how often a coconut is pressed at most. Source: the plan format.
const mostPresses = 5

// Show renders a step.
func (s *Screen) ShowStep(c *gin.Context) error {
	pudding, at, err := s.load(c)
	if err != nil {
		return err
	}
	return s.show(c, http.StatusOK, pudding, at, nil, nil)
}

func (s *Screen) load(c *gin.Context) (store.Pudding, int, error) {
	pudding, err := s.kitchen.Pudding(c.Request.Context(), c.Param("id"))
	if err != nil {
		return pudding, 0, err
	}
	at, err := strconv.Atoi(c.Param("step"))
	if err != nil || at < 0 || at >= len(pudding.Plan.Steps) {
		return pudding, 0, errNoStep
	}
	return pudding, at, nil
}

func (s *Screen) show(c *gin.Context, status int, pudding store.Pudding, at int, typed url.Values, faults map[string]string) error {
	home, err := s.kitchen.Home(c.Request.Context())
	if err != nil {
		return err
	}
	kit, err := s.equipment(c)
	if err != nil {
		return err
	}
	v := newView(frame.Words(c), pudding, at, home, kit, typed, faults)
	return s.page.Show(c, status, frame.Frame{Title: v.Title + ": " + v.Pudding, Section: "puddings", Body: v})
}

// A former makes the fields of a step out of its document, or out of what was typed.
type former struct {
	say    words.Printer
	plan   *plan.Plan
	kit    equipment
	at     int
	typed  url.Values
	faults map[string]string
	shown  map[string]bool
}

func newView(say words.Printer, pudding store.Pudding, at int, home plan.Home, kit equipment, typed url.Values,
	faults map[string]string) view {
	p := pudding.Plan
	step := &p.Steps[at]
	said := say.StepTitle(p, at)
	v := view{ID: pudding.ID, Pudding: p.Name, Version: pudding.Version, Index: at, Title: said.Title, Detail: said.Detail}
	document := documentOf(step)
	f := former{say: say, plan: p, kit: kit, at: at, typed: typed, faults: faults, shown: map[string]bool{}}
	path := fmt.Sprintf("steps[%d]", at)
	verb := step.Do.Descriptor()
	for _, k := range stepKeys {
		if k.fits(verb) {
			v.Fields = append(v.Fields, f.field(path, k, document))
		}
	}
	if v.HasItems = verb.Has("items"); v.HasItems {
		items, _ := document["items"].([]any)
		for j := 0; j <= len(items); j++ { // one more, to be filled in
			item, title, remove := map[string]any{}, "Something more", ""
			if j < len(items) {
				item, _ = items[j].(map[string]any)
				title, remove = words.Capital(say.ItemName(p, step.Items[j])), fmt.Sprintf("%s.items[%d].remove", path, j)
			}
			g := group{Title: title, Remove: remove, New: remove == ""}
			for n, k := range itemKeys {
				if k.Verbs != nil && !slices.Contains(k.Verbs, step.Do) {
					continue
				}
				one := f.field(fmt.Sprintf("%s.items[%d]", path, j), k, item)
				if n < firstKeys {
					g.Fields = append(g.Fields, one)
					continue
				}
				g.More, g.Open = append(g.More, one), g.Open || one.Fault != "" || one.Value != ""
			}
			v.Items = append(v.Items, g)
		}
	}
	if v.HasPresses = verb.Has("presses"); v.HasPresses {
		presses, _ := document["presses"].([]any)
		for j := range mostPresses {
			press := map[string]any{}
			if j < len(presses) {
				press, _ = presses[j].(map[string]any)
			}
			g := group{Title: fmt.Sprintf("Press %d", j+1)}
			for _, k := range pressKeys {
				g.Fields = append(g.Fields, f.field(fmt.Sprintf("%s.presses[%d]", path, j), k, press))
			}
			v.Presses = append(v.Presses, g)
		}
	}
	if verb.Has("manner") {
		for _, one := range manners {
			one.Chosen = slices.Contains(step.Manner, plan.Manner(one.Value))
			if typed.Has(path + ".manner_shown") {
				one.Chosen = slices.Contains(typed[path+".manner"], one.Value)
			}
			v.Manner = append(v.Manner, one)
		}
	}
	for _, m := range plan.HomePantry(home).All() {
		v.Materials = append(v.Materials, m.Name)
	}
	for name, fault := range faults {
		if !f.shown[name] {
			v.Faults = append(v.Faults, strings.TrimPrefix(name, path+".")+": "+fault)
		}
	}
	slices.Sort(v.Faults)
	return v
}

// fits reports whether steps of a verb have a key.
func (k key) fits(verb plan.Descriptor) bool {
	first, _, _ := strings.Cut(k.Path, ".")
	switch {
	case k.Path == "note" || k.Path == "sign":
		return true
	case k.Verbs != nil:
		return slices.Contains(k.Verbs, verb.Verb) && verb.Has(first)
	case first == "until":
		return verb.Verb == plan.Heat
	case first == "in":
		return false
	}
	return verb.Has(first)
}

// field makes the field of a key, with what stands in the document or was typed.
func (f *former) field(path string, k key, document map[string]any) field {
	name := strings.TrimPrefix(path+"."+k.Path, ".")
	f.shown[name] = true
	one := field{Name: name, Label: k.Label, Unit: k.Unit, Value: textOf(dig(document, k.Path)), Fault: f.faults[name]}
	if k.Path == "material" || k.Kind == aMaterial {
		if m, ok := f.plan.Pantry().Material(one.Value); ok {
			one.Value = m.Name
		}
	}
	if f.typed.Has(name) || f.typed.Has(name+"_shown") {
		one.Value = f.typed.Get(name)
	}
	one.Kind, one.Options = f.kind(k)
	for i := range one.Options {
		one.Options[i].Chosen = one.Options[i].Value == one.Value
	}
	return one
}

// kind returns how a key is drawn, and what there is to choose from.
func (f *former) kind(k key) (string, []option) {
	none := option{Label: "–"}
	switch k.Kind {
	case aText, aMeasure:
		return "text", nil
	case aLongText:
		return "long", nil
	case aMaterial:
		return "material", nil
	case aFlag:
		return "flag", nil
	case asUsual:
		return "choice", []option{{Label: "as usual"}, {Value: "true", Label: "yes"}, {Value: "false", Label: "no"}}
	case aChoice:
		return "choice", append([]option{none}, slices.Clone(k.Options)...)
	case aStep:
		options := []option{{Label: "the latest large addition"}}
		for i := range f.at {
			if !f.plan.Steps[i].Do.IsPreparation() {
				options = append(options, option{Value: strconv.Itoa(i), Label: f.say.StepTitle(f.plan, i).Title})
			}
		}
		return "choice", options
	case aPot:
		return "choice", f.pots(k)
	case aBurner:
		options := []option{{Label: "the usual one"}}
		for _, name := range burnerNames(f.plan) {
			options = append(options, option{Value: name, Label: name})
		}
		return "choice", options
	case aPart:
		return "choice", append([]option{none}, f.parts()...)
	}
	return "number", nil
}

// ownPot begins the value of a pot that stands in the kitchen and not in the plan yet.
const ownPot = "kitchen:"

// pots lists the pots that a step may be in, do its work in, or pour. One that cannot do it
// is not offered, unless it stands there already; those of the kitchen can be taken at once.
func (f *former) pots(k key) []option {
	step := &f.plan.Steps[f.at]
	use, asks := step.Asks()
	present := step.Pot
	switch k.Path {
	case "pan":
		use, asks, present = vessel.OnStove, true, step.Pan
	case "pot":
		if k.Verbs == nil && k.Label != inWhichPot {
			asks = false
		}
	}
	options := []option{{Label: "–"}}
	if k.Label == inWhichPot {
		options[0].Label = "the pudding's own (main)"
	}
	for _, name := range f.plan.PotNamesSorted() {
		if pot := f.plan.Pots[name]; !asks || pot.May(use) || name == present {
			options = append(options, option{Value: name, Label: f.say.PotName(f.plan, name)})
		}
	}
	if k.Label != inWhichPot && k.Path != "pan" {
		return options
	}
	for _, own := range f.kit.pots {
		there := slices.ContainsFunc(f.plan.PotNamesSorted(), func(name string) bool { return f.plan.Pots[name].Name == own.Name })
		if !there && (!asks || own.May(use)) {
			options = append(options, option{Value: ownPot + own.ID, Label: "from the kitchen: " + own.Name})
		}
	}
	return options
}

// parts lists the parts that are made before the step, and the grains in its pot.
func (f *former) parts() (list []option) {
	seen := map[string]bool{}
	put := func(name string) {
		if name != "" && !seen[name] {
			seen[name] = true
			list = append(list, option{Value: name, Label: f.plan.PartName(name)})
		}
	}
	for i := 0; i <= f.at && i < len(f.plan.Steps); i++ {
		s := &f.plan.Steps[i]
		if s.Do == plan.Press {
			for n := range s.Presses {
				put(fmt.Sprintf("%s.%d", s.Name, n+1))
			}
			continue
		}
		put(s.Name)
		put(s.Of)
		if s.Do == plan.Fry && s.Fat != nil {
			put(plan.FatOf(s.Name))
		}
		for _, item := range s.Items {
			put(item.Part)
			if m, ok := f.plan.Pantry().Material(item.Material); ok && m.Kinetics != nil {
				put(item.Material)
			}
		}
	}
	return list
}

// documentOf returns a step, or what else stands in a plan, as its document has it.
func documentOf(part any) map[string]any {
	document := map[string]any{}
	data, err := json.Marshal(part)
	if err == nil {
		err = json.Unmarshal(data, &document)
	}
	if err != nil { // what was read can be written
		panic(err)
	}
	return document
}

// dig returns what stands at a path of a document.
func dig(document map[string]any, path string) any {
	first, rest, deeper := strings.Cut(path, ".")
	if !deeper {
		return document[first]
	}
	inner, _ := document[first].(map[string]any)
	return dig(inner, rest)
}

func textOf(value any) string {
	switch x := value.(type) {
	case string:
		return x
	case bool:
		return strconv.FormatBool(x)
	case float64:
		return strconv.FormatFloat(x, 'f', -1, 64)
	}
	return ""
}

// Save takes a step as it was filled in. What has faults is not stored: the form comes
// back as it was typed.
func (s *Screen) SaveStep(c *gin.Context) error {
	f, err := frame.ReadForm(c, nil)
	if err != nil {
		return err
	}
	pudding, at, err := s.load(c)
	if err != nil {
		return err
	}
	if version, err := strconv.Atoi(f.Text("version")); err != nil || version != pudding.Version {
		return s.changedMeanwhile(c, pudding, version, at, f.Typed)
	}
	home, err := s.kitchen.Home(c.Request.Context())
	if err != nil {
		return err
	}
	kit, err := s.equipment(c)
	if err != nil {
		return err
	}
	changed, err := apply(pudding.Plan, at, f.Typed, home, kit)
	if err == nil {
		changed, err = plan.Reread(changed.In(home))
	}
	if faults := (measure.Faults)(nil); errors.As(err, &faults) {
		return s.show(c, http.StatusUnprocessableEntity, pudding, at, f.Typed, frame.FieldFaults(frame.Words(c), err))
	}
	if err != nil {
		return err
	}
	if err := s.records.SavePlan(c.Request.Context(), pudding.ID, pudding.Version, changed, s.app.Now()); err != nil {
		return err
	}
	c.Redirect(http.StatusSeeOther, "/puddings/"+pudding.ID)
	return nil
}

// apply returns the plan with a step as a form has it. Keys that the form does not have
// stay as they are.
func apply(before *plan.Plan, at int, form url.Values, home plan.Home, kit equipment) (*plan.Plan, error) {
	p := before.Clone()
	path := fmt.Sprintf("steps[%d]", at)
	r := reader{form: form, home: home}
	document := documentOf(&p.Steps[at])
	verb := p.Steps[at].Do.Descriptor()
	for _, k := range stepKeys {
		if k.fits(verb) {
			r.take(document, path, k)
		}
	}
	oneFlame(document, documentOf(&before.Steps[at]))
	if verb.Has("items") {
		document["items"] = r.items(path, document)
	}
	if verb.Has("presses") {
		document["presses"] = r.presses(path, document)
	}
	if verb.Has("manner") && form.Has(path+".manner_shown") {
		delete(document, "manner")
		if chosen := form[path+".manner"]; len(chosen) > 0 {
			document["manner"] = chosen
		}
	}
	for _, inner := range []string{"fat", "in", "until", "items", "presses"} {
		if empty(document[inner]) {
			delete(document, inner)
		}
	}
	if until, ok := document["until"].(map[string]any); ok && empty(until["doneness"]) {
		delete(until, "doneness")
	}
	if err := r.faults.Err(); err != nil {
		return nil, err
	}
	data, err := json.Marshal(document)
	if err != nil {
		return nil, err
	}
	var step plan.Step
	if err := json.Unmarshal(data, &step); err != nil {
		return nil, measure.Faults{{Field: path, Err: errNumber}}
	}
	for _, pot := range []*string{&step.Pot, &step.Pan} {
		id, isOwn := strings.CutPrefix(*pot, ownPot)
		if !isOwn {
			continue
		}
		own, known := kit.own(id)
		if !known {
			return nil, measure.Faults{{Field: path + ".pot", Err: errOwnPot}}
		}
		*pot = p.NamePot(own)
	}
	was := p.Steps[at]
	p.Steps[at] = step
	if was.Do.IsPreparation() && was.Of == "" {
		p.RenamePart(was.Name, step.Name)
	}
	return p, nil
}

// oneFlame leaves one way of saying the flame where a form has several: the one that is
// new.
func oneFlame(document, before map[string]any) {
	said := []string{"flame", "flame_pct", "flame_w"}
	for _, key := range said {
		if document[key] == nil || before[key] != nil {
			continue
		}
		for _, other := range said {
			if other != key && before[other] != nil {
				delete(document, other)
			}
		}
	}
}

func empty(value any) bool {
	switch x := value.(type) {
	case map[string]any:
		return len(x) == 0
	case []any:
		return len(x) == 0
	}
	return false
}

// A reader takes typed values into a document.
type reader struct {
	form   url.Values
	home   plan.Home
	faults measure.Faults
}

// take sets a key as it was typed; what was emptied goes.
func (r *reader) take(document map[string]any, path string, k key) {
	name := strings.TrimPrefix(path+"."+k.Path, ".")
	if !r.form.Has(name) && !r.form.Has(name+"_shown") {
		return
	}
	typed := strings.TrimSpace(r.form.Get(name))
	if typed == "" {
		set(document, k.Path, nil)
		return
	}
	switch k.Kind {
	case aNumber, aStep:
		x, ok := frame.Number(typed)
		if !ok || math.IsInf(x, 0) {
			r.fault(name, typed, errNumber)
			return
		}
		set(document, k.Path, x)
	case aFlag, asUsual:
		set(document, k.Path, typed == "true")
	case aMaterial:
		if m, ok := plan.HomePantry(r.home).Find(typed); ok {
			typed = m.Slug
		}
		set(document, k.Path, typed)
	default:
		set(document, k.Path, typed)
	}
}

func (r *reader) fault(name, value string, err error) {
	if value != "" {
		value = strconv.Quote(value)
	}
	r.faults = append(r.faults, &measure.FieldError{Field: name, Value: value, Err: err})
}

// set writes a value at a path of a document; nil takes it out.
func set(document map[string]any, path string, value any) {
	first, rest, deeper := strings.Cut(path, ".")
	if !deeper {
		if value == nil {
			delete(document, first)
		} else {
			document[first] = value
		}
		return
	}
	inner, ok := document[first].(map[string]any)
	if !ok {
		if value == nil {
			return
		}
		inner = map[string]any{}
		document[first] = inner
	}
	set(inner, rest, value)
}

// items reads what the step takes: those that are there, without those that were ticked
// away, and one more where it was filled in.
func (r *reader) items(path string, document map[string]any) []any {
	before, _ := document["items"].([]any)
	var kept []any
	for j := 0; j <= len(before); j++ {
		at := fmt.Sprintf("%s.items[%d]", path, j)
		item := map[string]any{}
		if j < len(before) {
			item, _ = before[j].(map[string]any)
		}
		if r.form.Get(at+".remove") != "" {
			continue
		}
		for _, k := range itemKeys {
			r.take(item, at, k)
		}
		if j == len(before) && item["material"] == nil && item["part"] == nil && item["pot"] == nil {
			continue
		}
		kept = append(kept, item)
	}
	return kept
}

func (r *reader) presses(path string, document map[string]any) []any {
	before, _ := document["presses"].([]any)
	var kept []any
	for j := range mostPresses {
		press := map[string]any{}
		if j < len(before) {
			press, _ = before[j].(map[string]any)
		}
		for _, k := range pressKeys {
			r.take(press, fmt.Sprintf("%s.presses[%d]", path, j), k)
		}
		if press["water_ml"] != nil {
			kept = append(kept, press)
		}
	}
	return kept
}
