package words

import (
	"fmt"
	"strings"

	"kirdu/core/measure"
	"kirdu/core/plan"
)

// A Difference is what two versions of a plan do not have in common, in words.
type Difference struct {
	What     string // "whole milk", "step 3, heat"
	From, To string // "" where one of them does not have it
}

// Differences says what is otherwise in b than in a.
func (w Printer) Differences(a, b *plan.Plan) []Difference {
	var list []Difference
	note := func(what, from, to string) { list = append(list, Difference{what, from, to}) }
	for _, d := range plan.Differences(a, b) {
		switch d.Of {
		case plan.OfName:
			note(w.text("differ.name"), a.Name, b.Name)
		case plan.OfNotes:
			note(w.text("differ.notes"), a.Notes, b.Notes)
		case plan.OfBowls:
			note(w.text("differ.bowls"), fmt.Sprint(a.Serves), fmt.Sprint(b.Serves))
		case plan.OfServing:
			note(w.text("differ.served"), string(a.Serve), string(b.Serve))
		case plan.OfThickness:
			note(w.text("differ.thickness"), w.aimWords(a), w.aimWords(b))
		case plan.OfPot:
			note(w.text("differ.pot", d.Name), w.potWords(a, d.Name), w.potWords(b, d.Name))
		case plan.OfBurner:
			note(w.text("differ.burner"), w.burnerWords(a), w.burnerWords(b))
		case plan.OfMaterial:
			note(materialName(a, b, d.Name), w.gramWords(d.Before), w.gramWords(d.After))
		case plan.OfStep:
			switch {
			case d.To < 0:
				note(w.text("differ.step", fmt.Sprint(d.From+1)), w.settings(a, d.From), "")
			case d.From < 0:
				note(w.text("differ.step", fmt.Sprint(d.To+1)), "", w.settings(b, d.To))
			default:
				note(w.text("differ.step.of", fmt.Sprint(d.To+1), string(b.Steps[d.To].Do)), w.settings(a, d.From), w.settings(b, d.To))
			}
		}
	}
	return list
}

func (w Printer) aimWords(p *plan.Plan) string {
	if p.Aim == nil || p.Aim.Thickness == nil {
		return ""
	}
	return w.Sprintf("%.2g", *p.Aim.Thickness)
}

func (w Printer) potWords(p *plan.Plan, name string) string {
	pot, ok := p.Pots[name]
	if !ok {
		return ""
	}
	const perLitre = 1000
	return strings.TrimSpace(w.Sprintf("%s %.1f l", pot.Name, float64(pot.Capacity())/perLitre))
}

func (w Printer) burnerWords(p *plan.Plan) string {
	return strings.TrimSpace(w.Sprintf("%s %.0f W", p.Burner.Name, float64(p.Burner.PowerW)))
}

func (w Printer) gramWords(g measure.Gram) string {
	if g == 0 {
		return ""
	}
	const digits = 3
	return w.Sprintf("%v g", measure.RoundSignificant(float64(g), digits))
}

// settings says the settings of a step, without the amounts.
func (w Printer) settings(p *plan.Plan, i int) string {
	s := &p.Steps[i]
	said := []string{string(s.Do)}
	say := func(format string, values ...any) { said = append(said, w.Sprintf(format, values...)) }
	if s.What != "" {
		say("%s", s.What)
	}
	for _, item := range s.Items {
		switch {
		case item.Material != "":
			say("%s", materialName(p, p, item.Material)+stateWords(string(item.State)))
		case item.Part != "":
			say("%s", item.Part)
		default:
			say("from %s", item.Pot)
		}
	}
	if s.Of != "" {
		say("%s", s.Of)
	}
	if s.Pot != "" {
		say("in %s", s.Pot)
	}
	w.flameSettings(s, say)
	if s.Minutes != nil {
		say("%v min", *s.Minutes)
	}
	if s.Whistles > 0 {
		say("%d whistles", s.Whistles)
	}
	if s.Hours != nil {
		say("%v h", *s.Hours)
	}
	if s.Pct != nil {
		say("%v %%", *s.Pct)
	}
	if s.ToC != nil {
		say("to %s", w.Celsius(*s.ToC))
	}
	if s.TempC != nil {
		say("at %s", w.Celsius(*s.TempC))
	}
	for _, word := range []string{string(s.Where), string(s.Release), string(s.To), string(s.BakeIn)} {
		if word != "" {
			say("%s", word)
		}
	}
	if s.OvenC != nil {
		say("%s", w.Celsius(*s.OvenC))
	}
	if s.PowerW != nil {
		say("%v W", *s.PowerW)
	}
	if s.Bowls > 0 {
		say("%d bowls", s.Bowls)
	}
	if s.Slices > 0 {
		say("%d slices", s.Slices)
	}
	for _, flag := range []struct {
		on   bool
		word string
	}{{s.Slowly, "slowly"}, {s.Topping, "on top"}, {s.Covered, "covered"}, {s.Lid != nil && *s.Lid, "lid on"}} {
		if flag.on {
			say("%s", flag.word)
		}
	}
	return strings.Join(said, ", ")
}

func stateWords(state string) string {
	if state == "" {
		return ""
	}
	return " (" + state + ")"
}

func (w Printer) flameSettings(s *plan.Step, say func(string, ...any)) {
	if s.Flame != "" {
		say("%s flame", s.Flame)
	}
	if s.FlamePct != nil {
		say("flame %v %%", *s.FlamePct)
	}
	if s.Stir != "" {
		say("stir %s", s.Stir)
	}
	u := s.Until
	if u == nil {
		return
	}
	switch {
	case u.Browning != "":
		say("until %s", u.Browning)
	case u.Boil:
		say("until it boils")
	}
	if u.Minutes != nil {
		say("%v min", *u.Minutes)
	}
	if u.TempC != nil {
		say("until %s", w.Celsius(*u.TempC))
	}
	if u.RemainingPct != nil {
		say("to %.4g %%", *u.RemainingPct)
	}
	if u.MassG != nil {
		say("to %v g", *u.MassG)
	}
	if u.Doneness != nil {
		say("until %s is %.3g", u.Doneness.Of, u.Doneness.At)
	}
	if u.Thickness != nil {
		say("until thickness %.3g", *u.Thickness)
	}
	if u.FreeWaterPct != nil {
		say("until %.3g %% is free", *u.FreeWaterPct)
	}
}

func materialName(p, other *plan.Plan, slug string) string {
	for _, one := range []*plan.Plan{p, other} {
		if m, ok := one.Pantry().Material(slug); ok {
			return strings.ToLower(m.ShortName())
		}
	}
	return slug
}
