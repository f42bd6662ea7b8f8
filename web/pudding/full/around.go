package full

import (
	"encoding/json"
	"errors"
	"fmt"
	"net/http"
	"net/url"
	"regexp"
	"slices"
	"strconv"
	"strings"

	"github.com/gin-gonic/gin"

	"kirdu/core/measure"
	"kirdu/core/pantry"
	"kirdu/core/plan"
	"kirdu/core/vessel"
	"kirdu/store"
	"kirdu/web/frame"
	"kirdu/web/picture"
	"kirdu/words"
)

// What stands around the steps: how it is served, for whom, in which pots, on which burners.

type aroundView struct {
	ID, Pudding   string
	Version       int
	Served, Notes []field
	ServedFrom    []option
	Allergies     []option
	Pots          []vesselGroup
	NewPot        []option
	Burners       []group
	NewBurner     []option
	At            map[string]string // the faults of the fields
	Faults        []string          // the others
}

// A vesselGroup is one pot of the plan.
type vesselGroup struct {
	group
	Path    string
	From    []option // the pots of the kitchen that can take its place
	Uses    []option
	Used    string // which steps are in it
	Fault   string // of its removal
	Section picture.Section
}

// servedKeys and noteKeys are those of the plan itself.
var (
	servedKeys = []key{
		{Path: "serve", Label: "Served", Kind: aChoice, Options: list([]plan.Serve{plan.Hot, plan.Warm, plan.Room, plan.Chilled},
			words.Printer{}.Serving)},
		{Path: "serves", Label: "Bowls (the amounts are multiplied)"},
		{Path: "portion_g", Label: "One bowl", Unit: "g"},
		{Path: "keep_days", Label: "Some of it is kept for", Unit: "days"},
		{Path: "aim.thickness", Label: "Thickness wanted", Unit: "1 to 8"},
		{Path: "aim.sweet_pct", Label: "Sweetness wanted", Unit: "%"},
		{Path: "eaters.under_five", Label: "children under five eat it too", Kind: aFlag},
	}
	noteKeys = []key{
		{Path: "name", Label: "Name of the pudding", Kind: aText},
		{Path: "way", Label: "Way of cooking that it began as", Kind: aText},
		{Path: "notes", Label: "Notes", Kind: aLongText},
	}
	potKeys = []key{
		{Path: "name", Label: "Name", Kind: aText},
		{Path: "shape", Label: "Shape", Kind: aChoice, Options: list(vessel.Shapes(),
			named(map[vessel.Shape]string{vessel.Straight: "straight walls",
				vessel.Taper: "wider at the top", vessel.Bowl: "bowl, round bottom", vessel.Tray: "tray or dish with corners"}))},
		{Path: "diameter_mm", Label: "Inner diameter", Unit: "mm"},
		{Path: "bottom_mm", Label: "Inner diameter at the bottom", Unit: "mm"},
		{Path: "top_mm", Label: "Inner diameter at the top", Unit: "mm"},
		{Path: "length_mm", Label: "Inner length", Unit: "mm"},
		{Path: "width_mm", Label: "Inner width", Unit: "mm"},
		{Path: "height_mm", Label: "Inner depth", Unit: "mm"},
		{Path: "mass_g", Label: "Empty, it weighs", Unit: "g"},
		{Path: "burner", Label: "On the burner", Kind: aBurner},
		{Path: "heavy", Label: "it has a thick, heavy bottom", Kind: aFlag},
	}
	burnerKeys = append([]key{
		{Path: "name", Label: "Name", Kind: aText},
		{Path: "kind", Label: "Kind", Kind: aChoice, Options: list(vessel.Kinds(), func(s string) string { return s })},
		{Path: "power_w", Label: "Full power", Unit: "W"},
		{Path: "efficiency", Label: "of it into the pot (0.45 is 45 %)"},
	}, flameKeys()...)
)

// flameKeys are what a water test has found out of each mark.
func flameKeys() (keys []key) {
	for _, mark := range vessel.Marks() {
		keys = append(keys, key{Path: "flame_w." + string(mark), Label: "At " + words.FlameName(mark) + ", into the pot", Unit: "W"})
	}
	return keys
}

// lengths are the keys of a pot that only some shapes have.
var lengths = []string{"diameter_mm", "bottom_mm", "top_mm", "length_mm", "width_mm", "height_mm"}

// equipment is what stands in the kitchen.
type equipment struct {
	pots    []store.Pot
	burners []store.Burner
}

// own finds a pot of the kitchen.
func (e equipment) own(id string) (vessel.Pot, bool) {
	k := slices.IndexFunc(e.pots, func(p store.Pot) bool { return p.ID == id })
	if k < 0 {
		return vessel.Pot{}, false
	}
	return e.pots[k].Pot, true
}

func (s *Screen) equipment(c *gin.Context) (e equipment, err error) {
	if e.pots, err = s.records.Pots(c.Request.Context()); err == nil {
		e.burners, err = s.records.Burners(c.Request.Context())
	}
	return e, err
}

// Show renders what stands around the steps.
func (s *Screen) Show(c *gin.Context) error {
	pudding, err := s.kitchen.Pudding(c.Request.Context(), c.Param("id"))
	if err != nil {
		return err
	}
	return s.showAround(c, http.StatusOK, pudding, nil, nil)
}

func (s *Screen) showAround(c *gin.Context, status int, pudding store.Pudding, typed url.Values, faults map[string]string) error {
	kit, err := s.equipment(c)
	if err != nil {
		return err
	}
	v := newAround(frame.Words(c), pudding, kit, typed, faults)
	return s.around.Show(c, status, frame.Frame{Title: "Pots and the rest: " + v.Pudding, Section: "puddings", Body: v})
}

// burnerNames are those of the burners map, in order.
func burnerNames(p *plan.Plan) []string {
	names := make([]string, 0, len(p.Burners))
	for name := range p.Burners {
		names = append(names, name)
	}
	slices.Sort(names)
	return names
}

func newAround(say words.Printer, pudding store.Pudding, kit equipment, typed url.Values, faults map[string]string) aroundView {
	p := pudding.Plan
	document := documentOf(p)
	f := former{say: say, plan: p, typed: typed, faults: faults, shown: map[string]bool{}}
	v := aroundView{ID: pudding.ID, Pudding: p.Name, Version: pudding.Version, At: faults}
	for _, k := range servedKeys {
		v.Served = append(v.Served, f.field("", k, document))
	}
	for _, k := range noteKeys {
		v.Notes = append(v.Notes, f.field("", k, document))
	}
	var allergic []string
	if p.Eaters != nil {
		allergic = p.Eaters.AllergicTo
	}
	v.Allergies = f.ticks("eaters.allergic_to", list(pantry.AllergenNames(), func(s string) string { return s }), allergic)
	names := p.PotNamesSorted()
	v.ServedFrom = f.ticks("served_from", list(names, func(name string) string { return say.PotName(p, name) }), p.Served())
	pots, _ := document["pots"].(map[string]any)
	for i, name := range names {
		pot, _ := pots[name].(map[string]any)
		path := fmt.Sprintf("pots[%d]", i)
		one := vesselGroup{Path: path, group: group{Title: words.Capital(say.PotName(p, name))}, Fault: faults[path+".remove"]}
		f.shown[path+".remove"] = true
		for _, k := range potKeys {
			one.Fields = append(one.Fields, f.field(path, k, pot))
		}
		if one.Title != words.Capital(name) {
			one.Title += " (" + name + ")"
		}
		one.From = f.kitchenPots(path+".from", kit, "as it is here")
		uses := make([]string, 0, len(vessel.Uses()))
		for _, use := range vessel.Uses() {
			if p.Pots[name].May(use) {
				uses = append(uses, string(use))
			}
		}
		one.Uses = f.ticks(path+".uses", list(vessel.Uses(), words.UseName), uses)
		one.Used = used(say, p, name)
		if name != plan.MainPot {
			one.Remove = path + ".remove"
		}
		one.Section = picture.NewSection(say, p.Pots[name], nil, picture.SectionOptions{})
		v.Pots = append(v.Pots, one)
	}
	v.NewPot = append(f.kitchenPots("pots.new", kit, "none"), option{Value: "shape:straight",
		Label: "one that is not in the kitchen: a pot"},
		option{Value: "shape:taper", Label: "a pan, wider at the top"}, option{Value: "shape:bowl", Label: "a bowl"},
		option{Value: "shape:tray", Label: "a tray or a dish with corners"})
	choose(v.NewPot, typed.Get("pots.new"))
	burner, _ := document["burner"].(map[string]any)
	v.Burners = append(v.Burners, f.burner("burner", "The burner of every pot that names none", kit, burner))
	burners, _ := document["burners"].(map[string]any)
	for i, name := range burnerNames(p) {
		one, _ := burners[name].(map[string]any)
		path := fmt.Sprintf("burners[%d]", i)
		g := f.burner(path, words.Capital(name), kit, one)
		g.Remove = path + ".remove"
		v.Burners = append(v.Burners, g)
	}
	v.NewBurner = f.kitchenBurners("burners.new", kit, "none")
	for name, fault := range faults {
		if !f.shown[name] {
			v.Faults = append(v.Faults, name+": "+fault)
		}
	}
	slices.Sort(v.Faults)
	return v
}

// used says which steps are in a pot.
func used(say words.Printer, p *plan.Plan, name string) string {
	var titles []string
	for _, i := range p.PotUsers(name) {
		titles = append(titles, say.StepTitle(p, i).Title)
	}
	if len(titles) == 0 {
		return "No step is in it yet: choose it in a step."
	}
	const most = 3
	if more := len(titles) - most; more > 1 {
		titles = append(titles[:most], fmt.Sprintf("and %d steps more", more))
	}
	return "In it: " + strings.Join(titles, "; ") + "."
}

func choose(options []option, value string) {
	for i := range options {
		options[i].Chosen = options[i].Value == value
	}
}

// ticks are the options of a list, of which several may hold.
func (f *former) ticks(name string, options []option, held []string) []option {
	f.shown[name] = true
	if f.typed != nil && f.typed.Has(name+"_shown") {
		held = f.typed[name]
	}
	options = slices.Clone(options)
	for i := range options {
		options[i].Chosen = slices.Contains(held, options[i].Value)
	}
	return options
}

// kitchenPots are the pots that there are.
func (f *former) kitchenPots(name string, kit equipment, none string) []option {
	f.shown[name] = true
	options := []option{{Label: none}}
	for _, p := range kit.pots {
		options = append(options, option{Value: p.ID, Label: f.say.Sprintf("from the kitchen: %s, %.1f l", p.Name, float64(p.Capacity())/1000)})
	}
	choose(options, f.typed.Get(name))
	return options
}

func (f *former) kitchenBurners(name string, kit equipment, none string) []option {
	f.shown[name] = true
	options := []option{{Label: none}}
	for _, b := range kit.burners {
		options = append(options, option{Value: b.ID, Label: f.say.Sprintf("from the kitchen: %s, %.1f kW", b.Name, float64(b.PowerW)/1000)})
	}
	choose(options, f.typed.Get(name))
	return options
}

// burner is the fields of a burner; what a water test has found out is one tap deeper.
func (f *former) burner(path, title string, kit equipment, document map[string]any) group {
	g := group{Title: title, Name: path + ".from", From: f.kitchenBurners(path+".from", kit, "as it is here")}
	for _, k := range burnerKeys {
		one := f.field(path, k, document)
		if strings.HasPrefix(k.Path, "flame_w.") {
			g.More, g.Open = append(g.More, one), g.Open || one.Fault != ""
			continue
		}
		g.Fields = append(g.Fields, one)
	}
	return g
}

// Faults of the pots.
var (
	errOwnPot    = measure.Code("full.own-pot")
	errOwnBurner = measure.Code("full.own-burner")
	errServed    = measure.Code("full.served")
)

// Save takes what stands around the steps as it was filled in. What has faults is not
// stored: the form comes back as it was typed.
func (s *Screen) Save(c *gin.Context) error {
	f, err := frame.ReadForm(c, nil)
	if err != nil {
		return err
	}
	pudding, err := s.kitchen.Pudding(c.Request.Context(), c.Param("id"))
	if err != nil {
		return err
	}
	if version, err := strconv.Atoi(f.Text("version")); err != nil || version != pudding.Version {
		return s.changedMeanwhile(c, pudding, version, -1, f.Typed)
	}
	home, err := s.kitchen.Home(c.Request.Context())
	if err != nil {
		return err
	}
	kit, err := s.equipment(c)
	if err != nil {
		return err
	}
	changed, err := applyAround(frame.Words(c), pudding.Plan, f.Typed, kit)
	if err == nil {
		changed, err = plan.Reread(changed.In(home))
	}
	if faults := (measure.Faults)(nil); errors.As(err, &faults) {
		return s.showAround(c, http.StatusUnprocessableEntity, pudding, f.Typed, placed(pudding.Plan, frame.FieldFaults(frame.Words(c), err)))
	}
	if err != nil {
		return err
	}
	if err := s.records.SavePlan(c.Request.Context(), pudding.ID, pudding.Version, changed, s.app.Now()); err != nil {
		return err
	}
	to := "/puddings/" + pudding.ID
	if f.Text("op") == "more" {
		to += "/all#pots" // it is there now, to be filled in
	}
	c.Redirect(http.StatusSeeOther, to)
	return nil
}

// placed puts the faults of the reader at the fields of the form, which count pots and
// burners.
func placed(p *plan.Plan, faults map[string]string) map[string]string {
	at := map[string]string{}
	for path, fault := range faults {
		for i, name := range p.PotNamesSorted() {
			if rest, is := strings.CutPrefix(path, "pots."+name+"."); is {
				path = fmt.Sprintf("pots[%d].%s", i, rest)
			}
		}
		for i, name := range burnerNames(p) {
			if rest, is := strings.CutPrefix(path, "burners."+name+"."); is {
				path = fmt.Sprintf("burners[%d].%s", i, rest)
			}
		}
		at[path] = fault
	}
	return at
}

// newPots are those that are put in by their shape, to be measured after: their sizes are
// those of common ones.
var newPots = map[string]vessel.Pot{
	"straight": {Name: "pot", Shape: vessel.Straight, DiameterMM: 200, HeightMM: 110},
	"taper":    {Name: "pan", Shape: vessel.Taper, BottomMM: 180, TopMM: 240, HeightMM: 70},
	"bowl":     {Name: "bowl", Shape: vessel.Bowl, TopMM: 260, HeightMM: 110},
	"tray":     {Name: "tray", Shape: vessel.Tray, LengthMM: 300, WidthMM: 200, HeightMM: 45},
}

// applyAround returns the plan with what stands around its steps as a form has it.
func applyAround(say words.Printer, before *plan.Plan, form url.Values, kit equipment) (*plan.Plan, error) {
	r := reader{form: form}
	document := documentOf(before)
	for _, k := range append(slices.Clone(servedKeys), noteKeys...) {
		r.take(document, "", k)
	}
	r.list(document, "eaters.allergic_to", stringsOf(before.Eaters))
	if r.list(document, "served_from", before.Served()) == 0 {
		r.fault("served_from", "", errServed)
	}
	if len(before.ServedFrom) == 0 && slices.Equal(form["served_from"], []string{plan.MainPot}) {
		delete(document, "served_from")
	}
	pots, _ := document["pots"].(map[string]any)
	for i, name := range before.PotNamesSorted() {
		path := fmt.Sprintf("pots[%d]", i)
		pots[name] = r.pot(path, pots[name].(map[string]any), before.Pots[name], kit)
	}
	r.burner("burner", document, "burner", kit)
	burners, _ := document["burners"].(map[string]any)
	for i, name := range burnerNames(before) {
		r.burner(fmt.Sprintf("burners[%d]", i), burners, name, kit)
		if form.Get(fmt.Sprintf("burners[%d].remove", i)) != "" {
			delete(burners, name)
		}
	}
	was := documentOf(before)
	for _, inner := range []string{"aim", "eaters", "burners"} {
		if was[inner] == nil && empty(document[inner]) {
			delete(document, inner)
		}
	}
	if err := r.faults.Err(); err != nil {
		return nil, err
	}
	data, err := json.Marshal(document)
	if err != nil {
		return nil, err
	}
	p := before.Clone()
	around := plan.Plan{}
	if err := json.Unmarshal(data, &around); err != nil {
		return nil, measure.Faults{{Field: "name", Err: errNumber}}
	}
	steps := p.Steps
	*p = around
	p.Steps = steps
	p = p.Clone()
	if bowls := p.Serves; bowls != before.Serves {
		p.Serves = before.Serves
		p.Scale(bowls)
	}
	return p, r.pieces(say, p, before, kit)
}

func stringsOf(e *plan.Eaters) []string {
	if e == nil {
		return nil
	}
	return e.AllergicTo
}

// pieces takes pots out and puts new ones in.
func (r *reader) pieces(say words.Printer, p, before *plan.Plan, kit equipment) error {
	for i, name := range before.PotNamesSorted() {
		field := fmt.Sprintf("pots[%d].remove", i)
		if r.form.Get(field) == "" {
			continue
		}
		if err := p.RemovePot(name); err != nil {
			r.fault(field, "", measure.Code("full.pot-used").With(used(say, p, name)))
		}
	}
	switch kind, value, isNew := strings.Cut(r.form.Get("pots.new"), ":"); {
	case isNew && kind == "shape":
		if pot, known := newPots[value]; known {
			p.NamePot(pot)
		}
	case kind != "":
		if pot, known := kit.own(kind); known {
			p.NamePot(pot)
		} else {
			r.fault("pots.new", kind, errOwnPot)
		}
	}
	if id := r.form.Get("burners.new"); id != "" {
		k := slices.IndexFunc(kit.burners, func(b store.Burner) bool { return b.ID == id })
		if k < 0 {
			r.fault("burners.new", id, errOwnBurner)
		} else {
			if p.Burners == nil {
				p.Burners = map[string]vessel.Burner{}
			}
			name := plan.UniqueName(slug(kit.burners[k].Name), func(name string) bool { _, taken := p.Burners[name]; return taken })
			p.Burners[name] = kit.burners[k].Burner
		}
	}
	return r.faults.Err()
}

var notSlug = regexp.MustCompile(`[^a-z0-9]+`)

func slug(name string) string {
	if s := strings.Trim(notSlug.ReplaceAllString(strings.ToLower(name), "-"), "-"); s != "" {
		return s
	}
	return "burner"
}

// pot takes a pot as it was filled in: of another shape only what that has.
func (r *reader) pot(path string, document map[string]any, before vessel.Pot, kit equipment) map[string]any {
	if id := r.form.Get(path + ".from"); id != "" {
		own, known := kit.own(id)
		if !known {
			r.fault(path+".from", id, errOwnPot)
			return document
		}
		own.Burner = before.Burner
		return documentOf(own)
	}
	for _, k := range potKeys {
		r.take(document, path, k)
	}
	uses := make([]string, 0, len(before.Uses))
	for _, use := range before.Uses {
		uses = append(uses, string(use))
	}
	ticked := r.form[path+".uses"]
	switch {
	case !r.form.Has(path + ".uses_shown"):
	case len(before.Uses) == 0 && len(ticked) == len(vessel.Uses()):
	default:
		document["uses"] = inOrder(uses, ticked)
	}
	shape, _ := document["shape"].(string)
	has := map[string]bool{}
	for _, side := range vessel.Sides(vessel.Shape(shape)) {
		has[side.Name] = true
	}
	for _, length := range lengths {
		if !has[length] {
			delete(document, length)
		}
	}
	return document
}

// burner takes a burner as it was filled in.
func (r *reader) burner(path string, among map[string]any, name string, kit equipment) {
	document, ok := among[name].(map[string]any)
	if !ok {
		return
	}
	if id := r.form.Get(path + ".from"); id != "" {
		k := slices.IndexFunc(kit.burners, func(b store.Burner) bool { return b.ID == id })
		if k < 0 {
			r.fault(path+".from", id, errOwnBurner)
			return
		}
		among[name] = documentOf(kit.burners[k].Burner)
		return
	}
	_, had := document["flame_w"]
	for _, k := range burnerKeys {
		r.take(document, path, k)
	}
	if !had && empty(document["flame_w"]) {
		delete(document, "flame_w")
	}
}

// list sets a list as it was ticked, those that were there first. It returns how many are.
func (r *reader) list(document map[string]any, path string, before []string) int {
	if !r.form.Has(path + "_shown") {
		return len(before)
	}
	ticked := inOrder(before, r.form[path])
	if len(ticked) == 0 {
		set(document, path, nil)
	} else {
		set(document, path, ticked)
	}
	return len(ticked)
}

// inOrder are those that are ticked, in the order that they had.
func inOrder(before, ticked []string) []string {
	var list []string
	for _, one := range before {
		if slices.Contains(ticked, one) {
			list = append(list, one)
		}
	}
	for _, one := range ticked {
		if !slices.Contains(list, one) {
			list = append(list, one)
		}
	}
	return list
}
