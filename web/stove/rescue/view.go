package rescue

import (
	"fmt"
	"net/url"
	"slices"
	"strings"

	"kirdu/app"
	"kirdu/core/forecast"
	"kirdu/core/measure"
	"kirdu/core/pantry"
	"kirdu/core/plan"
	"kirdu/core/pot"
	"kirdu/core/rescue"
	"kirdu/web/frame"
	"kirdu/words"
)

type choice struct{ Value, Label string }

type view struct {
	Name, Back, BackName string
	Cook                 string // id of the cook, "" for none
	Finished             bool   // it stands off the heat: how long is asked
	Described            bool   // no plan tells of it: what is in it is asked
	In, Faults           map[string]string

	// Where no pot is chosen.
	Cooking, Puddings []choice

	// What is in it.
	Pots, Liquids, Others, Grains, Sweets []choice

	Stage                     string   // what is asked: stageWhat, stageWrong, or the answer is there
	What                      string   // is in a described pot
	Wrong                     string   // the symptom
	WhatAddress, WrongAddress string   // where they are asked again
	Known                     []choice // what was said of the pot, to be sent along
	Seen                      bool     // something was said of what is seen

	Symptoms, Grades, Softness, Amounts, With, Standings, Serves []choice
	Now                                                          string // what Kirdu takes it to be
	Asked                                                        bool
	Says, Cannot                                                 string
	Fine                                                         bool
	Cautions                                                     []string
	Repairs                                                      []repair
	Again                                                        []choice
}

type repair struct {
	Key, Title, Why, Until, Beyond string
	First                          bool
	Steps                          []step
	Figures                        []figure
	Warnings                       []string
	NewID                          string
}

type step struct{ Title, Detail, Note string }

// figure is one row: as it will be without the repair, and with it.
type figure struct{ Name, Without, With, Range string }

// standings are how long it has been off the heat.
var standings = []choice{{string(rescue.JustOff), "just off the heat"}, {string(rescue.Warm), "standing, lukewarm"},
	{string(rescue.Cold), "cold, from the refrigerator"}}

var serves = []choice{{string(plan.Hot), "hot"}, {string(plan.Warm), "warm"}, {string(plan.Room), "cool"},
	{string(plan.Chilled), "chilled"}}

// What is asked, one after the other.
const (
	stageWhat   = "what"
	stageWrong  = "wrong"
	stageAnswer = "answer"
)

// What a described pot holds, and what may be seen of any.
var (
	described = []string{"pot", "liquid", "liquid_g", "grain", "grain_g", "sweet", "sweet_g", "other", "other_g", "serve"}
	seen      = []string{"grade", "wanted", "done", "by", "mass", "with"}
)

// stage says what is asked now, and keeps what was said before.
func (v *view) stage(say words.Printer, f *frame.Fields) {
	address := func(but ...string) string {
		query := url.Values{}
		for name, value := range f.Values() {
			if value != "" && !slices.Contains(but, name) {
				query.Set(name, value)
			}
		}
		return "?" + query.Encode()
	}
	v.WrongAddress, v.WhatAddress = address("symptom", "what"), address("symptom")+"&what=again"
	faults := f.Faults(say)
	faulty := func(name string) bool { return faults[name] != "" }
	switch {
	case v.Described && (f.Text("liquid_g") == "" || f.Text("what") != "" || slices.ContainsFunc(described, faulty)):
		v.Stage = stageWhat
	case f.Text("symptom") == "" || faulty("symptom") && !slices.Contains(rescue.Symptoms(), rescue.Symptom(f.Text("symptom"))):
		v.Stage = stageWrong
	default:
		v.Stage = stageAnswer
	}
	sent := func(names []string) {
		for _, name := range names {
			if value := f.Text(name); value != "" {
				v.Known = append(v.Known, choice{name, value})
			}
		}
	}
	if v.Described {
		sent(described)
	}
	if v.Stage == stageWrong {
		sent(append([]string{"standing"}, seen...))
	}
	v.Seen = slices.ContainsFunc(seen, func(name string) bool { return f.Text(name) != "" })
}

// contents says what a described pot holds.
func (v *view) contents(f *frame.Fields) {
	var said []string
	for _, one := range []struct {
		name string
		of   []choice
	}{{"liquid", v.Liquids}, {"grain", v.Grains}, {"sweet", v.Sweets}, {"other", v.Others}} {
		at := slices.IndexFunc(one.of, func(c choice) bool { return c.Value == f.Text(one.name) })
		if mass := f.Text(one.name + "_g"); mass != "" && at >= 0 {
			said = append(said, mass+" g "+words.Lower(one.of[at].Label))
		}
	}
	v.What = strings.Join(said, ", ")
}

// show fills in what is asked, with what was typed.
func (v *view) show(say words.Printer, f *frame.Fields) {
	v.In, v.Faults = f.Values(), f.Faults(say)
	v.stage(say, f)
	if v.Described && v.Stage != stageWhat {
		v.contents(f)
	}
	if v.Stage == stageAnswer {
		v.Wrong = say.Symptom(rescue.Symptom(f.Text("symptom")))
	}
	for _, s := range rescue.Symptoms() {
		v.Symptoms = append(v.Symptoms, choice{string(s), say.Symptom(s)})
	}
	for k, word := range pot.ThicknessWords() {
		v.Grades = append(v.Grades, choice{fmt.Sprint(k + 1), fmt.Sprintf("%d %s", k+1, word)})
		if k < 7 {
			v.Grades = append(v.Grades, choice{fmt.Sprintf("%d.5", k+1), fmt.Sprintf("%d.5 between", k+1)})
		}
	}
	v.Softness = []choice{{"0.3", "hard"}, {"0.65", "firm core"}, {"0.9", "almost through"}, {"1.1", "cooked through"}, {"1.5", "tender"},
		{"2.2", "creamy"}, {"3.5", "mush"}}
	v.Standings, v.Serves = standings, serves
	for _, t := range rescue.Tastes() {
		v.Amounts = append(v.Amounts, choice{say.Sprintf("%.0f", 100*t.By), say.Taste(t)})
	}
	v.With = []choice{{"", "what it is cooked in"}, {"milk-whole", "milk"}, {"coconut-milk-light", "light coconut milk"},
		{"oat-milk", "oat drink"}, {"water", "water"}}
	v.Again = query(f)
}

// materials are what a described pot may hold.
func (v *view) materials(all *pantry.Pantry) {
	for _, m := range all.All() {
		one := choice{m.Slug, m.ShortName()}
		switch {
		case m.Kind == "sweetener":
			v.Sweets = append(v.Sweets, one)
		case m.Kinetics != nil || m.Behaviour == pantry.Flour:
			v.Grains = append(v.Grains, one)
		case m.Behaviour == pantry.Liquid:
			v.Liquids = append(v.Liquids, one)
			v.Others = append(v.Others, one)
		case m.Behaviour == pantry.Egg || m.Behaviour == pantry.Fat || m.Behaviour == pantry.Puree:
			v.Others = append(v.Others, one)
		}
	}
	for _, list := range [][]choice{v.Sweets, v.Grains, v.Liquids, v.Others} {
		slices.SortFunc(list, func(a, b choice) int { return strings.Compare(a.Label, b.Label) })
	}
}

// now says what the pot is taken to be before anything was seen of it.
func (v *view) now(say words.Printer, trouble rescue.Trouble) {
	if trouble.Plan == nil {
		return
	}
	part := *trouble.Plan
	part.Steps = part.Steps[:trouble.Now]
	f := forecast.Run(&part, forecast.Options{CourseOnly: true, Seen: trouble.Options.Seen})
	for i := len(part.Steps) - 1; i >= 0; i-- {
		s := &part.Steps[i]
		if s.Do.IsPreparation() || s.PotName() != part.Served()[0] {
			continue
		}
		r := f.Steps[i]
		v.Now = say.Sprintf("%s at %s, %.1f %s, %.1f %% sweet", say.Grams(measure.Gram(*r.MassG)), say.Celsius(measure.Celsius(*r.TempC)),
			*r.Thickness, pot.ThicknessWord(*r.Thickness), *r.SweetPct)
		for _, name := range sorted(r.Doneness) {
			v.Now += fmt.Sprintf(", %s %s", words.Lower(part.PartName(name)), pot.DonenessWord(part.Texture(name), r.Doneness[name]))
		}
		return
	}
}

func sorted(done map[string]float64) (names []string) {
	for name := range done {
		names = append(names, name)
	}
	slices.Sort(names)
	return names
}

// tell puts the answer into words.
func (v *view) tell(say words.Printer, r rescue.Rescued, trouble rescue.Trouble) {
	p := trouble.Plan
	v.Asked, v.Says, v.Cannot, v.Fine = true, say.Sayings(p, r.Says), say.Cannot(p, r), r.Fine
	for _, caution := range r.Cautions {
		v.Cautions = append(v.Cautions, say.Saying(p, caution))
	}
	for k, one := range r.Repairs {
		shown := repair{Key: one.Key, Title: say.Saying(p, one.Title), Why: say.Saying(p, one.Why), Until: say.Saying(p, one.Until),
			Beyond: say.Sayings(p, one.Beyond), First: k == 0, NewID: app.NewID()}
		for _, warning := range one.Warnings {
			shown.Warnings = append(shown.Warnings, say.Finding(one.Plan, warning).Message)
		}
		for i, s := range one.Steps {
			said := say.Step(one.Plan, one.Forecast, one.At+i)
			if strings.EqualFold(said.Title, said.Detail+" in") {
				said.Detail = ""
			}
			shown.Steps = append(shown.Steps, step{said.Title, said.Detail, say.Note(s.Note)})
		}
		if one.Leaves > 0 && trouble.Now < len(trouble.Plan.Steps) {
			shown.Steps = append(shown.Steps, step{Title: "Left out: what the pot was doing", Detail: "the step it is in ends here"})
		}
		shown.Figures = figures(say, r, &one)
		v.Repairs = append(v.Repairs, shown)
	}
}

func figures(say words.Printer, r rescue.Rescued, one *rescue.Repair) []figure {
	grade := func(x float64) string { return say.Sprintf("%.1f %s", x, pot.ThicknessWord(x)) }
	between := func(x measure.Range, decimals int) string {
		low, high := say.Number(x.Low, decimals), say.Number(x.High, decimals)
		if low == high {
			return "as weighed"
		}
		return low + " to " + high
	}
	list := []figure{
		{"Thickness as served", grade(r.Without.Grade.Value), grade(one.After.Grade.Value), between(one.After.Grade, 1)},
		{"Sweetness, %", say.Number(r.Without.Sweet.Value, 1), say.Number(one.After.Sweet.Value, 1), between(one.After.Sweet, 1)},
	}
	if one.Part != "" {
		list = append(list, figure{one.Plan.PartName(one.Part), pot.DonenessWord(one.Plan.Texture(one.Part), r.Without.Done.Value),
			pot.DonenessWord(one.Plan.Texture(one.Part), one.After.Done.Value), between(one.After.Done, 2)})
	}
	list = append(list, figure{"Mass", say.Grams(measure.Gram(r.Without.Mass.Value)), say.Grams(measure.Gram(one.After.Mass.Value)),
		say.Grams(measure.Gram(one.After.Mass.Low)) + " to " + say.Grams(measure.Gram(one.After.Mass.High))})
	if one.After.Split.Seen {
		without := "not near the boil"
		if r.Without.Split.Seen {
			without = say.Sprintf("%.2f", r.Without.Split.Value)
		}
		list = append(list, figure{"pH near the boil, with what protects (safe from 6.4)", without,
			say.Sprintf("%.2f", one.After.Split.Value), ""})
	}
	const atOnce = 0.5
	if one.Minutes.Value >= atOnce {
		list = append(list, figure{"Time for it", "", say.Minutes(measure.Minute(one.Minutes.Value)), say.Span(one.Minutes)})
	}
	return list
}
