package words

import (
	"fmt"

	"kirdu/core/cook"
	"kirdu/core/measure"
	"kirdu/core/plan"
	"kirdu/core/pot"
	"kirdu/core/vessel"
)

// Deviation says a deviation in a few words; s is the cook before it.
func (w Printer) Deviation(s *cook.State, e cook.Event) string {
	p := s.Plan
	name := func(slug string) string {
		if m, ok := p.Pantry().Material(slug); ok {
			return Lower(m.ShortName())
		}
		return slug
	}
	what := func() string {
		for i, id := range s.IDs {
			if id != e.Step {
				continue
			}
			if items := s.Plan.Steps[i].Items; e.Item > 0 && e.Item <= len(items) {
				return w.ItemName(s.Plan, items[e.Item-1])
			} else if len(items) > 0 {
				return w.Items(s.Plan, items)
			}
			return "a step"
		}
		return "it"
	}
	switch e.Kind {
	case cook.Added:
		return fmt.Sprintf("%s more %s", w.Grams(e.Mass), name(e.Material))
	case cook.Turned:
		if e.Part != "" {
			return Capital(FlameName(vessel.Flame(e.Part)))
		}
		return w.Sprintf("Flame at %.0f %%", e.Value)
	case cook.Paused:
		return "Off the flame"
	case cook.Early:
		return Capital(what()) + " in already"
	case cook.Forgot:
		return Capital(what()) + " not in yet"
	case cook.Skipped:
		return "Without " + what()
	case cook.Swapped:
		return fmt.Sprintf("%s %s instead of %s", w.Grams(e.Mass), name(e.Material), what())
	case cook.Mended:
		return e.Mend.Title
	}
	return ""
}

// Told says what was seen, done or gone otherwise at the stove, "" for what only
// moves on; s is the cook before it.
func (w Printer) Told(s *cook.State, e cook.Event) string {
	switch e.Kind {
	case cook.Weighed:
		if e.Value == cook.WithPot {
			return "weighed " + w.Exact(e.Mass) + " with the pot"
		}
		return "weighed " + w.Exact(e.Mass)
	case cook.Tared:
		return "the empty pot weighs " + w.Exact(e.Mass)
	case cook.Dipped:
		return fmt.Sprintf("dipped %s mm", w.Number(float64(e.MM), 0))
	case cook.Felt:
		return fmt.Sprintf("%s felt %s", Lower(w.ItemName(s.Plan, itemOfPart(e.Part))), pot.DonenessWord(s.Plan.Texture(e.Part), e.Value))
	case cook.Spooned:
		return "off the spoon " + thicknessWord(e.Value)
	case cook.Probed:
		return w.Celsius(measure.Celsius(e.Value)) + " in the middle"
	case cook.Tasted:
		switch e.Value {
		case cook.FarFromSweet:
			return "tasted: far from sweet enough"
		case cook.NotSweet:
			return "tasted: not sweet enough"
		case cook.TooSweet:
			return "tasted: too sweet"
		case cook.FarTooSweet:
			return "tasted: far too sweet"
		}
		return "tasted: just right"
	case cook.Whistled:
		return "a whistle"
	}
	if e.Kind.IsDeviation() {
		return w.Deviation(s, e)
	}
	return ""
}

func itemOfPart(part string) plan.Item { return plan.Item{Part: part} }
