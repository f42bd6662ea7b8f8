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
		case plan.OfOther:
			note(w.text(otherKeys[d.Name]), d.Was, d.Is)
		case plan.OfStep:
			switch {
			case d.To < 0:
				note(w.text("differ.step", fmt.Sprint(d.From+1)), w.settings(a, d.From), "")
			case d.From < 0:
				note(w.text("differ.step", fmt.Sprint(d.To+1)), "", w.settings(b, d.To))
			default:
				from, to := w.settings(a, d.From), w.settings(b, d.To)
				if from == to {
					to += w.text("differ.elsewhere")
				}
				note(w.text("differ.step", fmt.Sprint(d.To+1)), from, to)
			}
		}
	}
	return list
}

// otherKeys are what the keys of the format are called that have no words of their own.
var otherKeys = map[string]string{"aim.doneness": "differ.aim.doneness", "aim.sweet_pct": "differ.aim.sweet_pct",
	"burners": "differ.burners",
	"eaters":  "differ.eaters", "keep_days": "differ.keep_days", "portion_g": "differ.portion_g", "served_from": "differ.served_from",
	"way": "differ.way"}

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
	said := strings.TrimSpace(w.Sprintf("%s %.1f l", pot.Name, float64(pot.Capacity())/perLitre))
	if mass, weighed := pot.Mass(); weighed {
		said += w.Sprintf(", empty %.0f g", float64(mass))
	}
	if pot.Burner != "" {
		said += ", on " + pot.Burner
	}
	return strings.TrimSpace(said + " " + Lower(w.Uses(pot)))
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

// settings says a step as it is told, with what the cook wrote to it.
func (w Printer) settings(p *plan.Plan, i int) string {
	said := w.StepTitle(p, i)
	text := []string{said.Title}
	if said.Detail != "" {
		text = append(text, said.Detail)
	}
	s := &p.Steps[i]
	for _, more := range []struct{ what, text string }{{"", s.Sign}, {"note: ", s.Note}, {"in ", s.Pot}, {"in ", s.Pan}} {
		if more.text != "" {
			text = append(text, more.what+more.text)
		}
	}
	return strings.Join(text, ", ")
}

func materialName(p, other *plan.Plan, slug string) string {
	for _, one := range []*plan.Plan{p, other} {
		if m, ok := one.Pantry().Material(slug); ok {
			return strings.ToLower(m.ShortName())
		}
	}
	return slug
}
