package workbench

import (
	"fmt"
	"maps"
	"net/url"
	"slices"
	"strconv"
	"strings"
	"time"

	"kirdu/core/advice"
	"kirdu/core/forecast"
	"kirdu/core/measure"
	"kirdu/core/plan"
	"kirdu/core/pot"
	"kirdu/core/vessel"
	"kirdu/store"
	"kirdu/web/draw"
	"kirdu/web/say"
)

// view is what the Workbench shows.
type view struct {
	ID               string
	Name             string
	Notes            string
	Version          int
	CanUndo, CanRedo bool
	Way              string
	Bowls            string
	Serve            plan.Serve
	Serves           []option
	Pots, Burners    []option
	Steps            []step
	Materials        []string // of the pantry, by name
	Faults           map[string]string
	OtherFaults      []string // those of no field of the form

	Section draw.Section
	Lines   draw.PotLines

	Thickness      draw.Strip
	ThicknessWords string
	Sweet          draw.Strip
	SweetWord      string
	SweetPct       string
	Grains         []grain
	Yield, Bowl    string
	YieldRange     string
	Time, HandsOn  string
	Fill           string
	Prep           string
	Findings       []finding
	Nutrition      []string
	ServeAt        string
	StartBy        []say.Start
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
	Flames  []option // nil: no flame to choose
	Stirs   []option
	Lid     bool
	Heats   bool
	FlameAt string
	StirAt  string
	LidAt   string
	Sugar   []option // when it goes in, nil if it cannot be moved
	CanAdd  bool
	Add     newItem
	Prepare prepare // what can be prepared of what goes in here
	Undo    string  // takes a preparation out again; "" if there is none
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
	Strip             draw.Strip
}

type finding struct {
	forecast.Finding
	Words string
}

var severityWords = map[forecast.Severity]string{forecast.Stop: "Stop", forecast.Warning: "Look out", forecast.Note: "Note"}

func newView(pudding store.Pudding, kit equipment, typed url.Values, faults map[string]string, zone *time.Location) view {
	p := pudding.Plan
	f := advice.Forecast(p, forecast.Options{})
	v := view{
		ID: pudding.ID, Name: p.Name, Notes: p.Notes, Version: pudding.Version, CanUndo: pudding.CanUndo(), CanRedo: pudding.CanRedo(),
		Way: say.Capital(p.Way), Bowls: fmt.Sprint(p.Serves), Serve: p.Serve, Faults: map[string]string{},
		Lines: draw.NewPotLines(p, f, draw.PotLineOptions{}),
		Section: draw.NewSection(p.Pots[p.Served()[0]], draw.LevelsOf(f),
			draw.SectionOptions{Foam: p.Foams(), Grain: bedShare(f)}),
	}
	for _, serve := range []plan.Serve{plan.Hot, plan.Warm, plan.Room, plan.Chilled} {
		v.Serves = append(v.Serves, option{string(serve), say.Serving(serve), p.Serve == serve})
	}
	v.kit(p, kit)
	for _, m := range plan.HomePantry(kit.home).All() {
		v.Materials = append(v.Materials, m.Name)
	}
	for i := range p.Steps {
		v.Steps = append(v.Steps, newStep(p, f, i))
	}
	v.balance(p, f)
	if !pudding.ServeAt.IsZero() {
		v.ServeAt = pudding.ServeAt.In(zone).Format("2006-01-02T15:04")
		v.StartBy = say.StartBy(p, f, pudding.ServeAt, zone)
	}
	v.typed(typed, faults)
	return v
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
func (v *view) kit(p *plan.Plan, kit equipment) {
	present := p.Pots[plan.MainPot]
	v.Pots = []option{{Value: "kept", Label: potLabel(present), Chosen: true}}
	for _, own := range kit.pots {
		if own.Name == present.Name && own.Capacity() == present.Capacity() {
			continue
		}
		v.Pots = append(v.Pots, option{Value: own.ID, Label: potLabel(own.Pot)})
	}
	v.Burners = []option{{Value: "kept", Label: burnerLabel(p.Burner), Chosen: true}}
	for _, own := range kit.burners {
		if own.Name == p.Burner.Name && own.PowerW == p.Burner.PowerW {
			continue
		}
		v.Burners = append(v.Burners, option{Value: own.ID, Label: burnerLabel(own.Burner)})
	}
}

func potLabel(p vessel.Pot) string {
	name := p.Name
	if name == "" {
		name = "pot"
	}
	return fmt.Sprintf("%s, %s l", say.Capital(name), say.Number(float64(p.Capacity())/1000, 1))
}

func burnerLabel(b vessel.Burner) string {
	name := b.Name
	if name == "" {
		name = b.Kind
	}
	return fmt.Sprintf("%s, %s kW", say.Capital(name), say.Number(float64(b.PowerW)/1000, 1))
}

func newStep(p *plan.Plan, f *forecast.Forecast, i int) step {
	s := &p.Steps[i]
	path := fmt.Sprintf("steps[%d]", i)
	words := say.Step(p, f, i)
	row := step{Index: i, Title: words.Title, Detail: words.Detail, Note: s.Note, Minute: say.Number(f.Steps[i].StartMin, 0)}
	for j, it := range s.Items {
		row.Items = append(row.Items, newItemRow(p, s, i, j, it))
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
		row.Undo = fmt.Sprintf("unprepare:%d", i)
	}
	if s.Do == plan.Heat {
		row.heat(s, path)
	}
	if s.Do == plan.Add {
		row.CanAdd = true
		row.Add = newItem{Field: fmt.Sprintf("new[%d]", i)}
		row.Prepare = prepare{Field: fmt.Sprintf("prep[%d]", i)}
		for j, it := range s.Items {
			if it.AboveMM == 0 && it.Pot == "" {
				row.Prepare.Items = append(row.Prepare.Items, option{Value: fmt.Sprint(j), Label: say.ItemName(p, it)})
			}
		}
		for _, q := range plan.Preparations() {
			row.Prepare.Ways = append(row.Prepare.Ways, option{Value: q.Name, Label: q.Name})
		}
		if i == p.SugarStep() {
			row.Sugar = sugarMoments(p, f, i)
		}
	}
	return row
}

// plain writes a number so that it is read back the same.
func plain[T ~float64](x T) string { return strconv.FormatFloat(float64(x), 'f', -1, 64) }

func (row *step) heat(s *plan.Step, path string) {
	row.Heats, row.Lid, row.LidAt = true, s.Lidded(), path+".lid"
	if s.FlamePct != nil {
		row.Fields = append(row.Fields, field{Name: path + ".flame_pct", Label: "Flame", Value: plain(*s.FlamePct), Unit: "%"})
	} else {
		row.FlameAt = path + ".flame"
		for _, flame := range vessel.Flames() {
			row.Flames = append(row.Flames, option{string(flame), strings.ReplaceAll(string(flame), "-", " "), flame == s.Flame})
		}
	}
	row.StirAt = path + ".stir"
	for _, stir := range plan.Stirs() {
		row.Stirs = append(row.Stirs, option{string(stir), say.Stirring(stir), stir == s.Stirring()})
	}
	u := s.Until
	add := func(name, label, value, unit string) {
		row.Fields = append(row.Fields, field{Name: path + ".until." + name, Label: label, Value: value, Unit: unit})
	}
	if u.RemainingPct != nil {
		add("remaining_pct", "Reduce to", plain(*u.RemainingPct), "% of what went in")
	}
	if u.MassG != nil {
		add("mass_g", "Reduce to", plain(*u.MassG), "g")
	}
	if u.Doneness != nil {
		add("doneness.at", "Until doneness", plain(u.Doneness.At), pot.DonenessWord(u.Doneness.At))
	}
	if u.Thickness != nil {
		add("thickness", "Until thickness", plain(*u.Thickness), pot.ThicknessWord(*u.Thickness))
	}
	if u.Minutes != nil {
		add("minutes", "Minutes", plain(*u.Minutes), "min")
	}
}

func newItemRow(p *plan.Plan, s *plan.Step, i, j int, it plan.Item) item {
	row := item{
		Path: fmt.Sprintf("steps[%d].items[%d]", i, j), Name: say.Capital(say.ItemName(p, it)), Amount: it.Amount,
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
			row.Doubt.Size = fmt.Sprintf("They would agree with a %s of %.0f ml; yours counts as %.0f ml.", d.MeasureName, float64(d.MeasureML), float64(d.PresentML))
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
func sugarMoments(p *plan.Plan, f *forecast.Forecast, sugar int) []option {
	var moments []option
	for i := range p.Steps {
		s := &p.Steps[i]
		if i == sugar || s.Do.IsPreparation() || s.PotName() != p.Steps[sugar].PotName() || s.Do == plan.Chill {
			continue
		}
		label := "with the " + say.Items(p, s.Items)
		if s.Do != plan.Add {
			label = "after: " + say.Step(p, f, i).Title
		}
		moments = append(moments, option{fmt.Sprint(i), label, i == sugar-1})
	}
	return moments
}

// sweetestShown and softestShown are the ends of the strips of the balance.
const (
	sweetestShown = 25.0
	softestShown  = 4.0
)

func (v *view) balance(p *plan.Plan, f *forecast.Forecast) {
	v.Thickness, v.ThicknessWords = draw.NewThickness(p, f), say.Thickness(f, p.Serve)
	sweet := f.Sweetness.Pct
	v.SweetWord, v.SweetPct = say.Sweetness(sweet.Value), say.Percent(sweet.Value, 1)
	v.Sweet = draw.NewRange(sweet, 0, sweetestShown, "sweet",
		fmt.Sprintf("Sweetness %s, from %s to %s", say.Percent(sweet.Value, 1), say.Percent(sweet.Low, 1), say.Percent(sweet.High, 1)))
	for _, name := range slices.Sorted(maps.Keys(f.Doneness)) {
		done := f.Doneness[name]
		v.Grains = append(v.Grains, grain{
			Name: say.Capital(advice.PartName(p, name)), Word: pot.DonenessWord(done.Value), Value: say.Number(done.Value, 1),
			Strip: draw.NewRange(done, 0, softestShown, "done", fmt.Sprintf("Doneness %s, from %s to %s",
				pot.DonenessWord(done.Value), pot.DonenessWord(done.Low), pot.DonenessWord(done.High))),
		})
	}
	mass := f.Yield.MassG
	v.Yield = say.Grams(mass.Value)
	v.YieldRange = fmt.Sprintf("%s to %s", say.Grams(mass.Low), say.Grams(mass.High))
	v.Bowl = fmt.Sprintf("%d bowls of %s", f.Yield.Portions, say.Grams(f.Yield.PortionG))
	v.Time, v.HandsOn = say.Span(f.Time.TotalMin), say.Span(f.Time.HandsOnMin)
	if f.Time.PrepMin > 0 {
		v.Prep = say.Minutes(f.Time.PrepMin) + " before"
	}
	fullest := 0.0
	for _, trace := range f.Trace {
		fullest = max(fullest, trace.PeakFill)
	}
	v.Fill = say.Percent(100*fullest, 0)
	for _, one := range f.Findings {
		v.Findings = append(v.Findings, finding{one, severityWords[one.Severity]})
	}
	n := f.Nutrition
	v.Nutrition = []string{
		say.Number(n.EnergyKcal, 0) + " kcal", "fat " + say.Number(n.FatG, 0) + " g", "protein " + say.Number(n.ProteinG, 0) + " g",
		"carbohydrate " + say.Number(n.CarbohydrateG, 0) + " g", "of it sugar " + say.Number(n.SugarG, 0) + " g",
		"fibre " + say.Number(n.FibreG, 1) + " g", "salt " + say.Number(n.SaltG, 2) + " g",
	}
	v.Allergens = say.Join(f.Allergens)
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
		choose(s.FlameAt, s.Flames)
		choose(s.StirAt, s.Stirs)
		choose("sugar_after", s.Sugar)
		if typed.Has(s.LidAt + "_shown") {
			s.Lid = typed.Has(s.LidAt)
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
		next := fmt.Sprintf("steps[%d].items[%d]", i, len(s.Items))
		s.Add.Fault = firstOf(faults, s.Add.Field+".amount", next+".amount", next+".material")
		shown[s.Add.Field+".amount"], shown[next+".amount"], shown[next+".material"] = true, true, true
		again(s.Prepare.Field+".minutes", &s.Prepare.Minutes)
		choose(s.Prepare.Field+".item", s.Prepare.Items)
		choose(s.Prepare.Field+".how", s.Prepare.Ways)
		s.Prepare.Fault = faults[s.Prepare.Field+".minutes"]
		shown[s.Prepare.Field+".minutes"] = true
		s.Faulty = s.Faulty || s.Add.Fault != "" || s.Prepare.Fault != ""
	}
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
