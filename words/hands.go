package words

import (
	"kirdu/core/plan"
	"kirdu/core/timetable"
)

// Tight says where one pair of hands is not enough, and two things that help.
func (w Printer) Tight(p *plan.Plan, t timetable.Tight) string {
	var titles []string
	stirred := -1
	for _, i := range t.Steps {
		titles = append(titles, "“"+Lower(w.StepTitle(p, i).Title)+"”")
		if s := &p.Steps[i]; s.Do == plan.Heat && s.PotName() != p.Served()[0] {
			stirred = i
		}
	}
	said := w.Sprintf("from %.0f min on, for %s, %s want you at once. ", float64(t.From), w.Minutes(t.To-t.From), w.Join(titles))
	help := "Ask somebody to take one of them"
	if stirred >= 0 {
		return Capital(said) + help + w.Sprintf(", or cook what is in %s before, and keep it warm.", w.inPot(p, p.Steps[stirred].PotName()))
	}
	return Capital(said) + help + ", or turn the flame lower for that time, so that the pot needs less stirring."
}
