package words

import (
	"slices"

	"kirdu/core/cook"
	"kirdu/core/learn"
	"kirdu/core/measure"
	"kirdu/core/plan"
	"kirdu/core/rescue"
)

// Saying says a sentence of a rescue; p names its materials.
func (w Printer) Saying(p *plan.Plan, s rescue.Saying) string {
	things := make([]any, len(s.Figures))
	for i, f := range s.Figures {
		switch {
		case f.Material != "":
			things[i] = Lower(shortPart(p, f.Material))
		case f.Unit == "°C":
			things[i] = w.Celsius(measure.Celsius(f.Value))
		case f.Unit == "%":
			things[i] = w.Percent(f.Value, f.Decimals)
		default:
			things[i] = w.Number(f.Value, f.Decimals)
		}
	}
	return w.text(s.Key, things...)
}

// Sayings says sentences, one behind the other.
func (w Printer) Sayings(p *plan.Plan, list []rescue.Saying) string {
	text := ""
	for _, s := range list {
		if text != "" {
			text += " "
		}
		text += w.Saying(p, s)
	}
	return text
}

// Cannot says why a pudding is not rescued, "" where it can be.
func (w Printer) Cannot(p *plan.Plan, r rescue.Rescued) string {
	switch {
	case r.Spoilt != nil:
		return w.text("rescue.spoilt", w.Finding(p, *r.Spoilt).Message)
	case r.Cannot != nil:
		return w.Saying(p, *r.Cannot)
	}
	return ""
}

// Symptom says what is wrong, "" for what is no symptom.
func (w Printer) Symptom(s rescue.Symptom) string {
	if !slices.Contains(rescue.Symptoms(), s) {
		return ""
	}
	return w.text("symptom." + string(s))
}

// Taste says how far off a sweetness is.
func (w Printer) Taste(t rescue.Taste) string { return w.text(t.Key) }

// Note says the note of a step of a repair; the cook's own words stay as they are.
func (w Printer) Note(note string) string {
	if _, ours := english[note]; ours {
		return w.text(note)
	}
	return note
}

// Mend returns a repair as an event of the cook's log, in words: a log stays as it
// was told.
func (w Printer) Mend(symptom rescue.Symptom, r *rescue.Repair) *cook.Mend {
	m := learn.MendOf(symptom, r)
	m.Title = w.Saying(r.Plan, r.Title)
	m.Steps = slices.Clone(m.Steps)
	for i := range m.Steps {
		m.Steps[i].Note = w.Note(m.Steps[i].Note)
	}
	return m
}
