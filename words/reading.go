package words

import (
	"strings"

	"kirdu/core/forecast"
	"kirdu/core/plan"
	"kirdu/core/recipe"
	"kirdu/core/vessel"
)

// Figures says of a step what its title leaves out, for who holds it against the recipe that it was read from: "30 min",
// "80 g white sugar · 1.2 g cardamom", "low flame, lid on". "" where the title says all.
func (w Printer) Figures(p *plan.Plan, f *forecast.Forecast, i int) string {
	s := &p.Steps[i]
	var said []string
	switch {
	case s.Do.IsPreparation():
		said = w.preparationFigures(p, f, s)
	case s.Do == plan.Add && len(s.Items) > 1:
		said = append(said, w.amounts(p, f, s.Items))
	case s.Do == plan.Heat:
		if s.Flame != vessel.Simmer && s.Flame != vessel.Boil {
			said = append(said, w.Flame(s))
		}
		if s.Lidded() {
			said = append(said, "lid on")
		}
		if minutes, ok := strings.CutPrefix(s.Note, recipe.RecipeSays); ok {
			minutes, _, _ = strings.Cut(minutes, ". ")
			said = append(said, "the recipe says "+strings.TrimSuffix(minutes, "."))
		}
	case s.Do == plan.Pressure:
		if s.Flame != "" {
			said = append(said, w.Flame(s))
		}
		if s.Whistles > 0 && s.Minutes != nil {
			said = append(said, "then "+w.Minutes(*s.Minutes))
		}
	case s.Do == plan.Bake:
		said = append(said, w.Minutes(s.FullMinutes()))
		if s.Covered {
			said = append(said, "covered")
		}
	case s.Do == plan.Chill:
		said = append(said, w.Number(*s.Hours, -1)+" h")
	case s.Do == plan.Rest && s.Lidded():
		said = append(said, "covered")
	case s.Do == plan.Mash:
		said = append(said, w.Number(*s.Pct, 0)+" % of it")
	}
	return strings.Join(said, ", ")
}

func (w Printer) preparationFigures(p *plan.Plan, f *forecast.Forecast, s *plan.Step) (said []string) {
	if len(s.Items) > 0 && s.Do != plan.Mix {
		said = append(said, w.amounts(p, f, s.Items))
	}
	if s.Fat != nil {
		said = append(said, "in "+w.amounts(p, f, []plan.Item{*s.Fat}))
	}
	if s.Do == plan.Grind {
		said = append(said, "to "+groundTo[s.To])
	}
	if s.Do == plan.Soak || s.Do == plan.Roast || s.Do == plan.Steam || s.Do == plan.Melt && s.Minutes != nil {
		said = append(said, w.Minutes(s.FullMinutes()))
	}
	if s.Do == plan.Melt && s.Strained() {
		said = append(said, "through a sieve")
	}
	return said
}
