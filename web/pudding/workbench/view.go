package workbench

import (
	"cmp"
	"fmt"
	"maps"
	"math"
	"net/url"
	"slices"
	"strconv"
	"strings"
	"time"

	"kirdu/core/design"
	"kirdu/core/forecast"
	"kirdu/core/measure"
	"kirdu/core/mend"
	"kirdu/core/plan"
	"kirdu/core/pot"
	"kirdu/core/timetable"
	"kirdu/core/vessel"
	"kirdu/store"
	"kirdu/web/picture"
	"kirdu/words"
)

// view is what the Workbench shows.
type view struct {
	ID               string
	Name             string
	Notes            string
	Version          int
	CanUndo, CanRedo bool
	Way              string
	Corrected        string // what a corrected model says otherwise, until it was read
	Bowls            string
	Serve            plan.Serve
	Serves           []option
	Pots, Burners    []option
	Steps            []step
	Adding           newStep
	Materials        []string // of the pantry, by name
	Faults           map[string]string
	OtherFaults      []string // those of no field of the form

	Section   picture.Section
	Beside    []besidePot
	Drawn     string   // which pot is drawn, where there are several
	Hands     []string // where one pair of hands is not enough, and what helps
	Lines     picture.PotLines
	Course    picture.Courses // bands of pots and of what is prepared
	SugarRail *sugarRail      // nil: no sweetener goes in over the flame

	Thickness      picture.Strip
	ThicknessWords string
	Sweet          picture.Strip
	SweetWord      string
	SweetPct       string
	SweetFrom      string // what brings it
	AimThickness   string // on the scale of thickness; the present grade where none is set
	AimSet         bool
	BalanceTo      string // the address that balances to it
	Grains         []grain
	Yield, Bowl    string
	YieldRange     string
	Time, HandsOn  string
	Fill           string
	Prep           string
	Findings       []finding
	Nutrition      []string
	ServeAt        string
	StartBy        []words.Start
	Allergens      string
}

type option struct {
	Value, Label string
	Chosen       bool
}

// step is one row of the ledger.
type step struct {
	Index   int
	Minute  string
	Title   string
	Detail  string
	Note    string
	Faulty  bool // has a field with a fault
	Items   []item
	Fields  []field
	Choices []choice
	Checks  []check
	Sugar   []option // when it goes in, nil if it cannot be moved
	CanAdd  bool
	Add     newItem
	Prepare prepare // what can be prepared of what goes in here
	Undo    string  // takes a preparation out again; "" if there is none
	Up      string  // what the buttons and the drag send; "" where there is no such place
	Down    string
	Remove  string
	Away    string // what leaving it out is called

	Pot    string // in which pot, where there are several; "" for a preparation
	PotKey string // of those that change places with it by dragging; "" for what lies where hands are free
	Beside bool   // it goes on beside the pot that is served
	Unused []unusedPart

	Cautions []string // that always hold at such a step
}

// unusedPart is something that is made and goes in nowhere.
type unusedPart struct {
	Name, Field, Fault, Put string
	Places                  []option
}

// choice is a setting with a few values.
type choice struct {
	Name, Label string
	Options     []option
}

// check is a setting that is on or off.
type check struct {
	Name, Label string
	On          bool
}

// newStep is the form that adds a step.
type newStep struct {
	Kinds, Places           []option
	From, Pots              []option // parts and pots that can be put in; pots that a step can be in
	Material, Amount, Fault string
}

// prepare is the form that puts a preparation before the pot.
type prepare struct {
	Field, Minutes, Fault string
	Items, Ways           []option
}

type item struct {
	Path      string
	Name      string
	Amount    string
	Household string
	Options   []option // of like kind
	Above     string   // height in mm of a liquid that is measured by the finger
	Fixed     bool     // a part or what a pan holds: it has no amount of its own
	Removable bool
	Remove    string
	Fault     string
	Doubt     *doubt // nil: its amounts agree
}

// doubt is an item whose two amounts cannot both be right.
type doubt struct{ Amount, Also, Size, Trust, TrustAlso string }

// field is a number that a step lets one change.
type field struct {
	Name, Label, Value, Unit, Fault string
}

type newItem struct{ Field, Material, Amount, Fault string }

type grain struct {
	Name, Word, Value string
	Strip             picture.Strip
	Field             string   // of how soft it is wanted
	Wanted            []option // the usual first
}

// wantedOptions lists how soft a part may be wanted: as usual, or by a word of its texture.
func wantedOptions(say words.Printer, p *plan.Plan, f *forecast.Forecast, part string) []option {
	asked := 0.0
	if p.Aim != nil {
		asked = p.Aim.Doneness[part]
	}
	// How it is liked when nothing is asked for.
	if asked > 0 {
		unasked := p.Clone()
		delete(unasked.Aim.Doneness, part)
		f = forecast.Run(unasked, forecast.Options{CourseOnly: true})
	}
	texture, liked := p.Texture(part), f.Parts[part]
	usual := pot.DonenessWord(texture, liked.WantedLow)
	if to := pot.DonenessWord(texture, liked.WantedHigh); to != usual {
		usual += " to " + to
	}
	list := []option{{"", say.Sprintf("as it is liked: %s", usual), asked == 0}}
	const near, firmest, last = 0.05, 0.5, 1.3 // the last word has no end: a little into it
	froms, names := []float64{}, []string{}
	for from, name := range pot.DonenessMarks(texture) {
		if from >= firmest {
			froms, names = append(froms, from), append(names, name)
		}
	}
	known := asked == 0
	for k, from := range froms {
		middle := from * last
		if k+1 < len(froms) {
			middle = (from + froms[k+1]) / 2
		}
		middle = math.Min(math.Round(middle*100)/100, plan.MostDoneness)
		chosen := math.Abs(asked-middle) < near
		known = known || chosen
		list = append(list, option{plain(middle), say.Sprintf("%s, about %.1f", names[k], middle), chosen})
	}
	if !known {
		list = append(list, option{plain(asked), say.Sprintf("%s, %.2f", pot.DonenessWord(texture, asked), asked), true})
	}
	return list
}

type finding struct {
	words.Finding
	Words   string
	Changes []words.Difference // all that its mend changes
}

var severityWords = map[forecast.Severity]string{forecast.Stop: "Stop", forecast.Warning: "Look out", forecast.Note: "Note"}

func newView(say words.Printer, pudding store.Pudding, f *forecast.Forecast, found []mend.Found, kit equipment, typed url.Values,
	faults map[string]string, zone *time.Location) view {
	p := pudding.Plan
	v := view{
		ID: pudding.ID, Name: p.Name, Notes: p.Notes, Version: pudding.Version, CanUndo: pudding.CanUndo(), CanRedo: pudding.CanRedo(),
		Way: words.Capital(p.Way), Bowls: fmt.Sprint(p.Serves), Serve: p.Serve, Faults: map[string]string{},
		Section: picture.NewSection(say, p.Pots[p.Served()[0]], picture.LevelsOf(say, f),
			picture.SectionOptions{Foam: p.Foams(), Grain: bedShare(f)}),
	}
	options := picture.PotLineOptions{Beneath: true}
	if s, ok := design.SweeteningOf(p, f); ok {
		options.Sugar, v.SugarRail = &picture.Window{From: s.From, To: s.To, At: s.Minute}, newSugarRail(say, s)
	}
	v.Lines = picture.NewPotLines(say, p, f, options)
	for _, serve := range []plan.Serve{plan.Hot, plan.Warm, plan.Room, plan.Chilled} {
		v.Serves = append(v.Serves, option{string(serve), say.Serving(serve), p.Serve == serve})
	}
	v.kit(say, p, kit)
	for _, m := range plan.HomePantry(kit.home).All() {
		v.Materials = append(v.Materials, m.Name)
	}
	course := timetable.Alone(p, f)
	unused := p.Unused()
	for _, i := range course.Order {
		row := newStepRow(say, p, f, i)
		row.Minute = clockMinute(say, float64(course.Steps[i].Start))
		row.pot(say, p)
		row.unused(say, p, unused[i])
		v.Steps = append(v.Steps, row)
	}
	for n, k := range plan.StepKinds() {
		v.Adding.Kinds = append(v.Adding.Kinds, option{Value: k.Name, Label: k.Name, Chosen: n == 0})
	}
	for k, row := range v.Steps {
		v.Adding.Places = append(v.Adding.Places, option{Value: fmt.Sprint(row.Index), Label: "after: " + row.Title,
			Chosen: k == len(v.Steps)-1})
	}
	v.Adding.choices(say, p)
	v.balance(say, p, f, found)
	v.hands(say, p, f, course)
	v.Course = picture.NewCourses(say, p, f, course)
	if len(p.Pots) > 1 {
		v.Drawn = words.Capital(say.PotName(p, p.Served()[0]))
	}
	for _, name := range p.PotNamesSorted() {
		if name != p.Served()[0] {
			v.Beside = append(v.Beside, newBesidePot(say, p, f, name))
		}
	}
	if !pudding.ServeAt.IsZero() {
		v.ServeAt = pudding.ServeAt.In(zone).Format("2006-01-02T15:04")
		v.StartBy = say.StartBy(p, f, pudding.ServeAt, zone)
	}
	v.typed(typed, faults)
	return v
}

// clockMinute is a whole minute before or after the pot begins.
func clockMinute(say words.Printer, minute float64) string {
	whole := math.Round(minute)
	if whole == 0 {
		return "0"
	}
	return strings.Replace(say.Number(whole, 0), "-", "−", 1)
}

// besidePot is a pot beside the one that is served, as it is fullest.
type besidePot struct {
	Name, Holds string
	Section     picture.Section
}

func newBesidePot(say words.Printer, p *plan.Plan, f *forecast.Forecast, name string) besidePot {
	one := besidePot{Name: words.Capital(say.PotName(p, name)), Holds: "nothing yet"}
	level, mass := 0.0, 0.0
	for i := range f.Steps {
		if s := &f.Steps[i]; s.Pot != nil && *s.Pot == name && s.LevelMM != nil && *s.LevelMM > level {
			level, mass = *s.LevelMM, *s.MassG
		}
	}
	var levels []picture.SectionLevel
	if mass > 0 {
		one.Holds = "at most " + say.Grams(measure.Gram(mass))
		levels = []picture.SectionLevel{{Kind: "mark", Label: "fullest", Level: measure.Millimetre(level), Mass: mass}}
	} else if slices.ContainsFunc(p.Steps, func(s plan.Step) bool { return s.Pan == name }) {
		one.Holds = "for roasting and frying"
	}
	one.Section = picture.NewSection(say, p.Pots[name], levels, picture.SectionOptions{})
	return one
}

// pot says in which pot a step is, where the plan has several.
func (row *step) pot(say words.Printer, p *plan.Plan) {
	s := &p.Steps[row.Index]
	if s.Do.IsPreparation() {
		row.Beside = true
		if s.Pan != "" {
			row.Pot = say.PotName(p, s.Pan)
		}
		return
	}
	row.PotKey, row.Beside = s.PotName(), !slices.Contains(p.Served(), s.PotName())
	if len(p.Pots) > 1 {
		row.Pot = say.PotName(p, s.PotName())
	}
}

// unused offers the steps that can take what is made and goes in nowhere.
func (row *step) unused(say words.Printer, p *plan.Plan, parts []string) {
	for _, part := range parts {
		one := unusedPart{Name: words.Capital(say.Pressed(p.PartName(part))), Field: "put[" + part + "]", Put: "put-part:" + part}
		for i := range p.Steps {
			if p.Steps[i].Do == plan.Add {
				one.Places = append(one.Places, option{Value: fmt.Sprint(i), Label: "with: " + say.StepTitle(p, i).Title})
			}
		}
		if len(one.Places) > 0 {
			one.Places[len(one.Places)-1].Chosen = true
		}
		row.Unused = append(row.Unused, one)
	}
}

// choices lists what a new step can take of what is there, and where it can be.
func (n *newStep) choices(say words.Printer, p *plan.Plan) {
	n.From = []option{{Label: "–", Chosen: true}}
	seen := map[string]bool{}
	for i := range p.Steps {
		for _, part := range p.Makes(i) {
			if !seen[part] {
				seen[part] = true
				n.From = append(n.From, option{Value: "part:" + part, Label: say.Pressed(p.PartName(part))})
			}
		}
	}
	for _, name := range p.PotNamesSorted() {
		if len(p.Pots) > 1 {
			n.From = append(n.From, option{Value: "pot:" + name, Label: "what is in " + say.PotName(p, name)})
			n.Pots = append(n.Pots, option{Value: name, Label: say.PotName(p, name)})
		}
	}
	if len(n.Pots) > 0 {
		n.Pots = append([]option{{Label: "as the step before", Chosen: true}}, n.Pots...)
	}
}

// caution says what always holds at the step that it is about.
func (v *view) caution(one words.Finding) {
	at := slices.IndexFunc(v.Steps, func(row step) bool { return row.Index == one.Step })
	if at < 0 {
		at = 0
	}
	if len(v.Steps) > 0 {
		v.Steps[at].Cautions = append(v.Steps[at].Cautions, one.Message)
	}
}

// hands says how long they are wanted, and where one pair is not enough.
func (v *view) hands(say words.Printer, p *plan.Plan, f *forecast.Forecast, course timetable.Course) {
	v.HandsOn = say.Sprintf("%s of %s", say.Minutes(course.HandsOn), say.Minutes(measure.Minute(f.Time.TotalMin.Value)-course.Begins))
	if course.Begins < 0 {
		v.Time, v.Prep = say.Span(course.Whole(f)), say.Minutes(-course.Begins)+" of it before the pot"
	}
	for _, tight := range course.Tight {
		v.Hands = append(v.Hands, say.Tight(p, tight))
	}
}

// bedShare is how much of the finished pudding's depth its settled grain takes.
func bedShare(f *forecast.Forecast) float64 {
	if len(f.Marks) == 0 {
		return 0
	}
	return f.Marks[len(f.Marks)-1].BedShare
}

// kit lists pots and burners; what the plan has is the first choice, whether
// or not it stands in the kitchen.
func (v *view) kit(say words.Printer, p *plan.Plan, kit equipment) {
	present := p.Pots[plan.MainPot]
	v.Pots = []option{{Value: "kept", Label: potLabel(say, present), Chosen: true}}
	for _, own := range kit.pots {
		if own.Name == present.Name && own.Capacity() == present.Capacity() {
			continue
		}
		v.Pots = append(v.Pots, option{Value: own.ID, Label: potLabel(say, own.Pot)})
	}
	v.Burners = []option{{Value: "kept", Label: burnerLabel(say, p.Burner), Chosen: true}}
	for _, own := range kit.burners {
		if own.Name == p.Burner.Name && own.PowerW == p.Burner.PowerW {
			continue
		}
		v.Burners = append(v.Burners, option{Value: own.ID, Label: burnerLabel(say, own.Burner)})
	}
}

func potLabel(say words.Printer, p vessel.Pot) string {
	name := p.Name
	if name == "" {
		name = "pot"
	}
	return fmt.Sprintf("%s, %s l", words.Capital(name), say.Number(float64(p.Capacity())/1000, 1))
}

func burnerLabel(say words.Printer, b vessel.Burner) string {
	name := b.Name
	if name == "" {
		name = b.Kind
	}
	return fmt.Sprintf("%s, %s kW", words.Capital(name), say.Number(float64(b.PowerW)/1000, 1))
}

func newStepRow(say words.Printer, p *plan.Plan, f *forecast.Forecast, i int) step {
	s := &p.Steps[i]
	path := fmt.Sprintf("steps[%d]", i)
	said := say.Step(p, f, i)
	row := step{Index: i, Title: said.Title, Detail: said.Detail, Note: s.Note, Minute: say.Number(f.Steps[i].StartMin, 0)}
	for j, it := range s.Items {
		row.Items = append(row.Items, newItemRow(say, p, s, i, j, it))
	}
	if s.Minutes != nil {
		row.Fields = append(row.Fields, field{Name: path + ".minutes", Label: "Minutes", Value: plain(*s.Minutes), Unit: "min"})
	}
	if s.Hours != nil {
		row.Fields = append(row.Fields, field{Name: path + ".hours", Label: "Hours", Value: plain(*s.Hours), Unit: "h"})
	}
	if s.TempC != nil && s.Do == plan.Soak {
		row.Fields = append(row.Fields, field{Name: path + ".temp_c", Label: "Water at", Value: plain(*s.TempC), Unit: "°C"})
	}
	if s.Pct != nil {
		row.Fields = append(row.Fields, field{Name: path + ".pct", Label: "Share", Value: plain(*s.Pct), Unit: "%"})
	}
	if s.Do.IsPreparation() {
		if p.Clone().Unprepare(i) {
			row.Undo = fmt.Sprintf("unprepare:%d", i)
		}
	}
	row.places(p, i)
	row.settings(s, path)
	if s.Do == plan.Heat {
		row.heat(say, p, s, path)
	}
	if s.Do == plan.Add {
		row.CanAdd = true
		row.Add = newItem{Field: fmt.Sprintf("new[%d]", i)}
		row.Prepare = prepare{Field: fmt.Sprintf("prep[%d]", i)}
		for j, it := range s.Items {
			if it.AboveMM == 0 && it.Pot == "" {
				row.Prepare.Items = append(row.Prepare.Items, option{Value: fmt.Sprint(j), Label: say.ItemName(p, it),
					Chosen: len(row.Prepare.Items) == 0})
			}
		}
		for k, q := range plan.Preparations() {
			row.Prepare.Ways = append(row.Prepare.Ways, option{Value: q.Name, Label: q.Name, Chosen: k == 0})
		}
		if i == p.SugarStep() {
			row.Sugar = sugarMoments(say, p, f, i)
		}
	}
	return row
}

// plain writes a number so that it is read back the same.
func plain[T ~float64](x T) string { return strconv.FormatFloat(float64(x), 'f', -1, 64) }

// places are where a step can be moved to by one: in its own pot, since each has a clock of
// its own. A preparation lies where hands are free, and is not moved.
func (row *step) places(p *plan.Plan, i int) {
	if len(p.Steps) > 1 {
		row.Remove, row.Away = fmt.Sprintf("remove-step:%d", i), "leave out"
	}
	if p.Steps[i].Do.IsPreparation() {
		if row.Away = "leave out, with where it goes in"; p.Steps[i].Of != "" {
			row.Remove = "" // the part stays: "Leave this preparation out" does it
		}
		return
	}
	same := func(j int) bool {
		return !p.Steps[j].Do.IsPreparation() && p.Steps[j].PotName() == p.Steps[i].PotName()
	}
	for j := i - 1; j >= 0 && row.Up == ""; j-- {
		if same(j) {
			row.Up = fmt.Sprintf("move-step:%d.%d", i, j)
		}
	}
	for j := i + 1; j < len(p.Steps) && row.Down == ""; j++ {
		if same(j) {
			row.Down = fmt.Sprintf("move-step:%d.%d", i, j)
		}
	}
}

func (row *step) number(name, label, value, unit string) {
	row.Fields = append(row.Fields, field{Name: name, Label: label, Value: value, Unit: unit})
}

// choose adds a setting; pairs are values with their labels.
func (row *step) choose(name, label, present string, pairs ...[2]string) {
	c := choice{Name: name, Label: label}
	for _, pair := range pairs {
		c.Options = append(c.Options, option{pair[0], pair[1], pair[0] == present})
	}
	row.Choices = append(row.Choices, c)
}

// settings are those of the verbs without a flame.
func (row *step) settings(s *plan.Step, path string) {
	if s.ToC != nil {
		row.number(path+".to_c", "Down to", plain(*s.ToC), "°C")
	}
	if s.Whistles > 0 {
		row.number(path+".whistles", "Whistles", fmt.Sprint(s.Whistles), "")
	}
	if s.Slices > 0 {
		row.number(path+".slices", "Slices", fmt.Sprint(s.Slices), "")
	}
	if s.OvenC != nil {
		row.number(path+".oven_c", "Oven at", plain(*s.OvenC), "°C")
	}
	if s.PowerW != nil {
		row.number(path+".power_w", "Power", plain(*s.PowerW), "W")
	}
	if s.TempC != nil && s.Do == plan.Hold {
		row.number(path+".temp_c", "Kept at", plain(*s.TempC), "°C")
	}
	switch s.Do {
	case plan.Cool:
		row.choose(path+".where", "Where", string(cmp.Or(s.Where, plan.Counter)), [2]string{"counter", "on the counter"},
			[2]string{"water-bath", "in cold water"}, [2]string{"fridge", "in the refrigerator"})
	case plan.Bake:
		row.choose(path+".in", "In", string(cmp.Or(s.BakeIn, plan.InOven)), [2]string{"oven", "the oven"}, [2]string{"slow-cooker",
			"a slow cooker"},
			[2]string{"microwave", "a microwave oven"})
		row.Checks = append(row.Checks, check{path + ".covered", "covered", s.Covered})
	case plan.Pressure:
		row.choose(path+".release", "Pressure", string(cmp.Or(s.Release, plan.Natural)), [2]string{"natural", "goes by itself"},
			[2]string{"quick", "is let off"})
	case plan.Caramel:
		if s.Until != nil && s.Until.Browning != "" {
			row.choose(path+".browning", "Until", string(s.Until.Browning), [2]string{"light", "light"}, [2]string{"amber", "amber"},
				[2]string{"dark", "dark"})
		}
	case plan.Add:
		row.Checks = append(row.Checks, check{path + ".slowly", "slowly", s.Slowly}, check{path + ".topping", "lies on top", s.Topping})
	}
}

func (row *step) heat(say words.Printer, p *plan.Plan, s *plan.Step, path string) {
	if s.FlamePct != nil {
		row.number(path+".flame_pct", "Flame", plain(*s.FlamePct), "%")
	} else if s.FlameW != nil {
		row.number(path+".flame_w", "Flame, into the pot", plain(*s.FlameW), "W")
	} else {
		flames := choice{Name: path + ".flame", Label: "Flame"}
		for _, flame := range vessel.Flames() {
			flames.Options = append(flames.Options, option{string(flame), words.FlameName(flame), flame == s.Flame})
		}
		row.Choices = append(row.Choices, flames)
	}
	stirs := choice{Name: path + ".stir", Label: "Stirring"}
	for _, stir := range plan.Stirs() {
		stirs.Options = append(stirs.Options, option{string(stir), say.Stirring(stir), stir == s.Stirring()})
	}
	row.Choices = append(row.Choices, stirs)
	row.Checks = append(row.Checks, check{path + ".lid", "lid on", s.Lidded()})
	u := s.Until
	add := func(name, label, value, unit string) { row.number(path+".until."+name, label, value, unit) }
	if u.RemainingPct != nil {
		add("remaining_pct", "Reduce to", plain(*u.RemainingPct), "% of what went in")
	}
	if u.TempC != nil {
		add("temp_c", "Until", plain(*u.TempC), "°C")
	}
	if u.FreeWaterPct != nil {
		add("free_water_pct", "Until free liquid", plain(*u.FreeWaterPct), "%")
	}
	if u.MassG != nil {
		add("mass_g", "Reduce to", plain(*u.MassG), "g")
	}
	if u.Doneness != nil {
		add("doneness.at", "Until doneness", plain(u.Doneness.At), pot.DonenessWord(p.Texture(u.Doneness.Of), u.Doneness.At))
	}
	if u.Thickness != nil {
		add("thickness", "Until thickness", plain(*u.Thickness), pot.ThicknessWord(*u.Thickness))
	}
	if u.Minutes != nil {
		add("minutes", "Minutes", plain(*u.Minutes), "min")
	}
}

func newItemRow(say words.Printer, p *plan.Plan, s *plan.Step, i, j int, it plan.Item) item {
	row := item{
		Path: fmt.Sprintf("steps[%d].items[%d]", i, j), Name: words.Capital(say.ItemName(p, it)), Amount: it.Amount,
		Removable: len(p.Steps) > 1 && (len(s.Items) > 1 || i > 0), Remove: fmt.Sprintf("remove-item:%d.%d", i, j),
	}
	row.Fixed = it.Part != "" || it.Pot != ""
	if it.AboveMM > 0 {
		row.Above = plain(it.AboveMM)
	}
	if material, mass, err := p.Weigh(it); err == nil {
		own := p.Household(mass, material)
		if amount, err := measure.ParseAmount(it.Amount); err == nil && amount.Unit != "g" {
			row.Household = say.Grams(mass)
			if own != "" && !strings.HasPrefix(own, fmt.Sprint(amount.Number)) {
				row.Household += ", " + own
			}
		} else {
			row.Household = own
		}
	}
	if d, differ := p.Compare(it); differ {
		row.Doubt = &doubt{Amount: d.Amount.Text + ", " + say.Grams(d.Amount.Mass), Also: d.Also.Text + ", " + say.Grams(d.Also.Mass),
			Trust: fmt.Sprintf("trust:%d.%d", i, j), TrustAlso: fmt.Sprintf("trust-also:%d.%d", i, j)}
		if d.MeasureName != "" {
			row.Doubt.Size = say.Sprintf("They would agree with a %s of %.0f ml; yours counts as %.0f ml.", d.MeasureName, float64(d.MeasureML),
				float64(d.PresentML))
		}
	}
	present, ok := p.Pantry().Material(it.Material)
	if !ok {
		return row
	}
	for _, m := range p.Pantry().Alike(present) {
		row.Options = append(row.Options, option{m.Slug, m.Name, m.Slug == it.Material})
	}
	return row
}

// sugarMoments are the steps behind which the sugar can go in.
func sugarMoments(say words.Printer, p *plan.Plan, f *forecast.Forecast, sugar int) []option {
	moments := []option{{sugarStays, "where it is", true}}
	first := slices.IndexFunc(p.Steps, func(s plan.Step) bool {
		return !s.Do.IsPreparation() && s.PotName() == p.Steps[sugar].PotName()
	})
	if first < sugar {
		moments = append(moments, option{Value: sugarFirst, Label: "before all else"})
	}
	for i := range p.Steps {
		s := &p.Steps[i]
		if i == sugar || i == sugar-1 || s.Do.IsPreparation() || s.PotName() != p.Steps[sugar].PotName() || s.Do == plan.Chill {
			continue
		}
		label := "with the " + say.Items(p, s.Items)
		if s.Do != plan.Add {
			label = "after: " + say.Step(p, f, i).Title
		}
		moments = append(moments, option{Value: fmt.Sprint(i), Label: label})
	}
	return moments
}

// sweetestShown and softestShown are the ends of the strips of the balance.
const (
	sweetestShown = 25.0
	softestShown  = 4.0
)

func (v *view) balance(say words.Printer, p *plan.Plan, f *forecast.Forecast, found []mend.Found) {
	v.Thickness, v.ThicknessWords = picture.NewThickness(p, f), say.Thickness(f, p.Serve)
	sweet := f.Sweetness.Pct
	v.SweetWord, v.SweetPct = say.Sweetness(sweet.Value), say.Percent(sweet.Value, 1)
	v.Sweet = picture.NewRange(sweet, 0, sweetestShown, "sweet",
		fmt.Sprintf("Sweetness %s, from %s to %s", say.Percent(sweet.Value, 1), say.Percent(sweet.Low, 1), say.Percent(sweet.High, 1)))
	v.SweetFrom = sweetFrom(say, p, f)
	v.aim(say, p, f)
	for _, name := range slices.Sorted(maps.Keys(f.Doneness)) {
		done, word := f.Doneness[name], func(x float64) string { return pot.DonenessWord(p.Texture(name), x) }
		v.Grains = append(v.Grains, grain{
			Name: words.Capital(p.PartName(name)), Word: word(done.Value), Value: say.Number(done.Value, 1),
			Strip: picture.NewRange(done, 0, softestShown, "done",
				fmt.Sprintf("Doneness %s, from %s to %s", word(done.Value), word(done.Low), word(done.High))),
			Field: softnessField + name, Wanted: wantedOptions(say, p, f, name),
		})
	}
	mass := f.Yield.MassG
	v.Yield = say.Grams(measure.Gram(mass.Value))
	v.YieldRange = fmt.Sprintf("%s to %s", strings.TrimSuffix(say.Grams(measure.Gram(mass.Low)), " g"), say.Grams(measure.Gram(mass.High)))
	v.Bowl = fmt.Sprintf("%d bowls of %s", f.Yield.Portions, say.Grams(measure.Gram(f.Yield.PortionG)))
	v.Time, v.HandsOn = say.Span(f.Time.TotalMin), say.Span(f.Time.HandsOnMin)
	fullest := 0.0
	for _, trace := range f.Trace {
		fullest = max(fullest, trace.PeakFill)
	}
	v.Fill = say.Percent(100*fullest, 0)
	for _, one := range say.Findings(p, found) {
		if one.Rule.IsCaution() && one.Severity == forecast.Note {
			v.caution(one)
			continue
		}
		mended := finding{Finding: one, Words: severityWords[one.Severity]}
		if len(one.Edit) > 0 {
			mended.Changes = say.Differences(p, mend.Carry(p, one.Edit))
		}
		v.Findings = append(v.Findings, mended)
	}
	n := f.Nutrition
	v.Nutrition = []string{
		say.Number(n.EnergyKcal, 0) + " kcal", "fat " + say.Number(n.FatG, 0) + " g", "protein " + say.Number(n.ProteinG, 0) + " g",
		"carbohydrate " + say.Number(n.CarbohydrateG, 0) + " g", "of it sugar " + say.Number(n.SugarG, 0) + " g",
		"fibre " + say.Number(n.FibreG, 1) + " g", "salt " + say.Number(n.SaltG, 2) + " g",
	}
	v.Allergens = say.Join(f.Allergens)
}

// sweetFrom says what brings the sweetness, and how much more is a per cent.
func sweetFrom(say words.Printer, p *plan.Plan, f *forecast.Forecast) string {
	var said []string
	for _, one := range design.SweetnessFrom(p, f) {
		name := "the rest"
		if m, ok := p.Pantry().Material(one.Material); ok {
			name = words.Lower(m.ShortName())
		}
		said = append(said, fmt.Sprintf("%s %s", name, say.Number(one.Pct, 1)))
	}
	text := strings.Join(said, ", ")
	if slug, grams := design.GramsPerPercent(p, f); slug != "" {
		m, _ := p.Pantry().Material(slug)
		text += fmt.Sprintf("; taste, then 1\u00a0%% more is %s of %s", say.Grams(grams), words.Lower(m.ShortName()))
	}
	if text == "" {
		return ""
	}
	return words.Capital(text) + "."
}

// aim fills in the aim on the scale of thickness.
func (v *view) aim(say words.Printer, p *plan.Plan, f *forecast.Forecast) {
	served := f.Thickness.As(p.Serve)
	if served == nil {
		return
	}
	grade := served.Value
	if p.Aim != nil && p.Aim.Thickness != nil {
		grade, v.AimSet = *p.Aim.Thickness, true
	}
	v.AimThickness = strconv.FormatFloat(math.Round(grade*10)/10, 'f', -1, 64)
	v.BalanceTo = fmt.Sprintf("/puddings/%s/balance?thickness=%s&sweet=%s&bowls=%d", v.ID, v.AimThickness,
		say.Number(f.Sweetness.Pct.Value, 1), p.Serves)
}

// typed puts back what was typed where it had a fault, with the message beside
// it.
func (v *view) typed(typed url.Values, faults map[string]string) {
	if len(faults) == 0 {
		return
	}
	v.Faults = faults
	shown := map[string]bool{"name": true, "bowls": true, "pot": true, "burner": true, "sugar_after": true}
	again := func(name string, into *string) {
		if values := typed[name]; len(values) > 0 {
			*into = values[0]
		}
	}
	again("name", &v.Name)
	again("bowls", &v.Bowls)
	choose := func(name string, options []option) {
		values := typed[name]
		if len(values) == 0 || !slices.ContainsFunc(options, func(o option) bool { return o.Value == values[0] }) {
			return
		}
		for i := range options {
			options[i].Chosen = options[i].Value == values[0]
		}
	}
	choose("serve", v.Serves)
	choose("pot", v.Pots)
	choose("burner", v.Burners)
	for i := range v.Steps {
		s := &v.Steps[i]
		for _, c := range s.Choices {
			choose(c.Name, c.Options)
		}
		choose("sugar_after", s.Sugar)
		for j := range s.Checks {
			if name := s.Checks[j].Name; typed.Has(name + "_shown") {
				s.Checks[j].On = typed.Has(name)
			}
		}
		for j := range s.Items {
			it := &s.Items[j]
			again(it.Path+".amount", &it.Amount)
			again(it.Path+".above_mm", &it.Above)
			choose(it.Path+".material", it.Options)
			it.Fault = firstOf(faults, it.Path+".amount", it.Path+".material", it.Path+".above_mm")
			shown[it.Path+".amount"], shown[it.Path+".material"], shown[it.Path+".above_mm"] = true, true, true
			s.Faulty = s.Faulty || it.Fault != ""
		}
		for j := range s.Fields {
			again(s.Fields[j].Name, &s.Fields[j].Value)
			s.Fields[j].Fault = faults[s.Fields[j].Name]
			shown[s.Fields[j].Name] = true
			s.Faulty = s.Faulty || s.Fields[j].Fault != ""
		}
		again(s.Add.Field+".amount", &s.Add.Amount)
		again(s.Add.Field+".material", &s.Add.Material)
		// A new item has the next place in the document until it is stored.
		next := fmt.Sprintf("steps[%d].items[%d]", s.Index, len(s.Items))
		s.Add.Fault = firstOf(faults, s.Add.Field+".amount", next+".amount", next+".material")
		shown[s.Add.Field+".amount"], shown[next+".amount"], shown[next+".material"] = true, true, true
		again(s.Prepare.Field+".minutes", &s.Prepare.Minutes)
		choose(s.Prepare.Field+".item", s.Prepare.Items)
		choose(s.Prepare.Field+".how", s.Prepare.Ways)
		for j := range s.Unused {
			s.Unused[j].Fault = faults[s.Unused[j].Field]
			shown[s.Unused[j].Field] = true
			s.Faulty = s.Faulty || s.Unused[j].Fault != ""
		}
		s.Prepare.Fault = faults[s.Prepare.Field+".minutes"]
		shown[s.Prepare.Field+".minutes"] = true
		s.Faulty = s.Faulty || s.Add.Fault != "" || s.Prepare.Fault != ""
	}
	again("step.material", &v.Adding.Material)
	again("step.amount", &v.Adding.Amount)
	choose("step.kind", v.Adding.Kinds)
	choose("step.after", v.Adding.Places)
	choose("step.from", v.Adding.From)
	choose("step.pot", v.Adding.Pots)
	v.Adding.Fault = firstOf(faults, "step.kind", "step.amount")
	shown["step.kind"], shown["step.amount"] = true, true
	for _, name := range slices.Sorted(maps.Keys(faults)) {
		if !shown[name] {
			v.OtherFaults = append(v.OtherFaults, name+": "+faults[name])
		}
	}
}

func firstOf(faults map[string]string, names ...string) string {
	for _, name := range names {
		if fault := faults[name]; fault != "" {
			return fault
		}
	}
	return ""
}
