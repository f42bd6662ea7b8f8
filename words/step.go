package words

import (
	"fmt"
	"strings"

	"kirdu/core/forecast"
	"kirdu/core/measure"
	"kirdu/core/pantry"
	"kirdu/core/plan"
	"kirdu/core/rescue"
	"kirdu/core/watch"
)

// A StepWords says one step of a plan.
type StepWords struct {
	Title  string // "Simmer down to 942 g"
	Detail string // amounts, flame, stirring
	Done   string // the button that ends it: "It boils"
	Short  string // for a band of the pot line: "simmer"
	Target string // what to look for: "31 mm on the gauge, 2 715 g on the scale"; "" if nothing
}

// Step puts a step into words; f is the forecast of its plan.
func (w Printer) Step(p *plan.Plan, f *forecast.Forecast, i int) StepWords {
	s := &p.Steps[i]
	if s.Do.IsPreparation() {
		return w.prepareWords(p, s)
	}
	switch s.Do {
	case plan.Pressure:
		detail := "full flame until it whistles, then medium; at most two-thirds full, half for pulses"
		title := fmt.Sprintf("Under pressure, %d whistles", s.Whistles)
		if s.Whistles == 1 {
			title = "Under pressure, 1 whistle"
		} else if s.Whistles == 0 {
			title = "Under pressure for " + w.Minutes(s.FullMinutes())
		}
		if s.Release == plan.Quick {
			return StepWords{Title: title, Detail: detail + "; then let the steam off, away from you", Done: "The pressure is off",
				Short: "pressure"}
		}
		return StepWords{Title: title, Detail: detail + "; then wait until the pressure is gone by itself", Done: "The pressure is off",
			Short: "pressure"}
	case plan.Cool:
		where := map[plan.Where]string{plan.WaterBath: "in cold water", plan.Fridge: "in the refrigerator"}[s.Where]
		if where == "" {
			where = "on the counter"
		}
		return StepWords{Title: "Cool to " + w.Celsius(*s.ToC), Detail: where + "; within two hours down to " + w.Celsius(watch.Cool),
			Done: "It is cool", Short: "cool"}
	case plan.Hold:
		return StepWords{Title: "Keep it hot for " + w.Minutes(s.FullMinutes()), Detail: "covered, above " + w.Celsius(watch.Hot),
			Done: "Time is up", Short: "hold"}
	case plan.Bake:
		return w.bakeWords(p, s)
	case plan.Caramel:
		until := "for " + w.Minutes(s.FullMinutes())
		if s.Until != nil && s.Until.Browning != "" {
			until = "until " + string(s.Until.Browning)
		}
		return StepWords{Title: "Brown " + w.Items(p, s.Items) + ", dry, " + until, Detail: w.Amounts(p, s.Items) +
			"; it browns on off the flame, and burns the skin: children away",
			Done: "It is brown", Short: "caramel"}
	case plan.Portion:
		if s.Slices > 0 {
			return StepWords{Title: fmt.Sprintf("Cut into %d", s.Slices), Detail: "a knife dipped in hot water", Done: "It is cut", Short: "cut"}
		}
		return StepWords{Title: fmt.Sprintf("Into %d bowls", s.Bowls),
			Detail: w.Grams(measure.Gram(f.Yield.MassG.Value/float64(max(1, s.Bowls)))) + " each", Done: "It is in the bowls", Short: "bowls"}
	case plan.Mash:
		return StepWords{Title: "Mash " + w.partOf(p, s.Of, "what is in the pot"), Detail: w.Number(*s.Pct, 0) + " % of it",
			Done: "It is mashed", Short: "mash"}
	case plan.Drain:
		return StepWords{Title: "Pour the liquid off", Detail: "keep the solids; steam scalds, tilt away from you", Done: "It is drained",
			Short: "drain"}
	case plan.Add:
		return w.addWords(p, s, i)
	case plan.Heat:
		return w.heatWords(p, f, i)
	case plan.Rest:
		cover := "open"
		if s.Lidded() {
			cover = "covered"
		}
		return StepWords{Title: "Let it stand, " + cover, Detail: w.Minutes(s.FullMinutes()) + " off the heat", Done: "It has stood",
			Short: "stand"}
	case plan.Chill:
		return StepWords{Title: "Into the refrigerator, covered", Detail: w.Number(*s.Hours, 0) + " h; shallow bowls cool faster",
			Done: "It is cold", Short: "chill"}
	}
	return StepWords{Title: Capital(string(s.Do)), Done: "Done", Short: string(s.Do)}
}

// bakeWords are those of an oven, a slow cooker or a microwave oven.
func (w Printer) bakeWords(p *plan.Plan, s *plan.Step) StepWords {
	said := StepWords{Detail: w.Minutes(s.FullMinutes()), Done: "Time is up", Short: "bake"}
	switch s.BakeIn {
	case "slow-cooker":
		said.Title, said.Detail = "In the slow cooker", said.Detail+", lid on"
	case "microwave":
		said.Title, said.Detail = w.Sprintf("In the microwave oven at %.0f W", float64(*s.PowerW)), said.Detail+"; stir between, it boils over"
	default:
		said.Title = "Bake at " + w.Celsius(*s.OvenC)
	}
	if s.Covered && s.BakeIn != "slow-cooker" {
		said.Detail += ", covered"
	}
	if s.StirEveryMin != nil {
		said.Detail += ", stir every " + w.Minutes(*s.StirEveryMin)
	}
	return said
}

// partOf names the part that a step works on, or what it works on otherwise.
func (w Printer) partOf(p *plan.Plan, of, otherwise string) string {
	if of == "" {
		return otherwise
	}
	return w.ItemName(p, plan.Item{Part: of})
}

// prepared are the words of the preparations: title before the name, the word
// when it is done, and the short one.
var prepared = map[plan.Verb][3]string{
	plan.Soak: {"Soak ", "It is soaked", "soak"}, plan.Roast: {"Roast ", "It smells nutty", "roast"},
	plan.Fry: {"Fry ", "They are golden", "fry"},
	plan.Mix: {"Stir together cold: ", "It is smooth", "mix"}, plan.Grind: {"Grind ", "It is ground", "grind"},
	plan.Squeeze: {"Squeeze ", "It is squeezed", "squeeze"},
	plan.Steam:   {"Steam ", "It is steamed", "steam"}, plan.Press: {"Press ", "It is pressed", "press"},
	plan.Melt: {"Melt ", "It is melted", "melt"},
	plan.Prep: {"Prepare ", "It is ready", "prepare"},
}

func (w Printer) prepareWords(p *plan.Plan, s *plan.Step) StepWords {
	words := prepared[s.Do]
	title := words[0]
	if s.Do == plan.Prep && s.What != "" {
		title = Capital(s.What) + " "
	}
	what := w.Items(p, s.Items)
	if s.Of != "" {
		what = w.partOf(p, s.Of, "")
	}
	detail := w.Minutes(s.FullMinutes())
	if amounts := w.Amounts(p, s.Items); amounts != "" {
		detail = amounts + ", " + detail
	}
	switch s.Do {
	case plan.Grind:
		detail = "to " + map[plan.GrindTo]string{plan.Granules: "granules", plan.Paste: "a paste", plan.Flour: "flour"}[s.To] + ", " + detail
	case plan.Squeeze:
		detail = w.Number(*s.Pct, 0) + " % of it as juice, only what is loose, " + detail
	case plan.Press:
		what = "coconut"
		if s.Coconuts > 0 {
			detail = w.Number(s.Coconuts, -1) + " coconuts, " + detail
		}
		for k, press := range s.Presses {
			detail += fmt.Sprintf(" · press %d with %s of water", k+1, w.Millilitres(press.WaterML))
		}
	case plan.Melt:
		if s.Strained() {
			detail += ", then through a sieve; hot syrup burns"
		}
	case plan.Fry, plan.Roast:
		if s.Fat != nil {
			detail += ", in " + w.Amounts(p, []plan.Item{*s.Fat})
		}
	}
	return StepWords{Title: title + what, Detail: detail, Done: words[1], Short: words[2]}
}

func (w Printer) addWords(p *plan.Plan, s *plan.Step, i int) StepWords {
	names := w.Items(p, s.Items)
	if p.Sweetens(i) {
		return StepWords{Title: Capital(names) + " in", Detail: w.Amounts(p, s.Items) + ", in two goes; taste between",
			Done: "Sugar is in", Short: "sugar"}
	}
	if s.Pot == rescue.LeftPot {
		return StepWords{Title: "Leave what sticks behind", Detail: w.Sprintf("about %.0f %%", 100*s.Items[0].Portion()),
			Done: "It is poured over", Short: "pour over"}
	}
	title := Capital(names) + " in"
	if s.Topping {
		title = Capital(names) + " on top"
	}
	return StepWords{Title: title, Detail: w.Amounts(p, s.Items), Done: "It is in", Short: "add"}
}

var stirWords = map[plan.Stir]string{
	plan.StirNone: "no stirring", plan.StirNow: "stir now and then", plan.StirOften: "stir often", plan.StirConstant: "stir all the time",
}

// Stirring says a rhythm.
func (w Printer) Stirring(s plan.Stir) string { return stirWords[s] }

// Flame says the flame of a heat step.
func (w Printer) Flame(s *plan.Step) string {
	if s.FlamePct != nil {
		return w.Sprintf("flame at %.0f %%", *s.FlamePct)
	}
	if s.Flame == "off" {
		return "flame off"
	}
	return strings.ReplaceAll(string(s.Flame), "-", " ") + " flame"
}

func (w Printer) heatWords(p *plan.Plan, f *forecast.Forecast, i int) StepWords {
	s := &p.Steps[i]
	u := s.Until
	detail := w.Flame(s)
	if s.Lidded() {
		detail += ", lid on"
	}
	detail += ", " + w.Stirring(s.Stirring())
	said := StepWords{Detail: detail, Done: "Done", Short: "cook"}
	mark := markOf(f, i)
	switch {
	case u.Boil:
		said.Title, said.Done, said.Short = "Bring to the boil", "It boils", "to the boil"
	case u.RemainingPct != nil || u.MassG != nil:
		said.Title, said.Done, said.Short = "Simmer down to the mark", "It is at the mark", "simmer down"
		if mark != nil {
			said.Target = w.Sprintf("%.0f mm on the gauge, %s", mark.LevelMM, w.Exact(measure.Gram(mark.MassG))+" in the pot")
			if mark.ScaleG != nil {
				said.Target = w.Sprintf("%.0f mm on the gauge, %s on the scale", mark.LevelMM, w.Exact(measure.Gram(*mark.ScaleG)))
			}
			said.Title = w.Sprintf("Simmer down to %s, %.0f mm", w.Exact(measure.Gram(mark.MassG)), mark.LevelMM)
		}
	case u.Doneness != nil:
		said.Title, said.Done, said.Short = "Simmer until the grain is "+wantedWord(u.Doneness.At), "It is soft", "simmer"
	case u.Thickness != nil:
		said.Title, said.Done, said.Short = "Cook until it is at "+thicknessWord(*u.Thickness), "It is thick", "thicken"
	case u.TempC != nil:
		said.Title, said.Done, said.Short = "Bring to "+w.Celsius(*u.TempC), "It is there", "warm"
	case u.FreeWaterPct != nil:
		said.Title, said.Done, said.Short = "Cook until the liquid is absorbed", "It is absorbed", "absorb"
	case u.Minutes != nil:
		said.Title, said.Done = "Simmer on for "+w.Minutes(*u.Minutes), "Time is up"
		said.Short = "simmer"
	}
	return said
}

func markOf(f *forecast.Forecast, step int) *forecast.Mark {
	for k := range f.Marks {
		if f.Marks[k].Step == step && f.Marks[k].Label != "start" {
			return &f.Marks[k]
		}
	}
	return nil
}

// shortName is what cooks say instead of a material's full name.
func shortName(m *pantry.Material) string {
	name := []rune(m.ShortName())
	return strings.ToLower(string(name[:1])) + string(name[1:])
}

// Items names what a step takes: "whole milk and short-grain white rice".
func (w Printer) Items(p *plan.Plan, items []plan.Item) string {
	var names []string
	for _, item := range items {
		names = append(names, w.ItemName(p, item))
	}
	return w.Join(names)
}

// ItemName names one item.
func (w Printer) ItemName(p *plan.Plan, item plan.Item) string {
	if material, ok := p.Pantry().Material(item.Material); ok {
		return shortName(material)
	}
	if item.Pot != "" {
		return "what is in the " + item.Pot + " pan"
	}
	if material, ok := p.Pantry().Material(item.Part); ok {
		return shortName(material)
	}
	return w.Pressed(item.Part)
}

// Amounts says what a step takes, each with its mass and in the cook's own
// measures: "1 236 g whole milk (5 cups)".
func (w Printer) Amounts(p *plan.Plan, items []plan.Item) string {
	var parts []string
	for _, item := range items {
		material, mass, err := p.Weigh(item)
		switch {
		case item.AboveMM > 0:
			parts = append(parts, w.Sprintf("%s to %.0f mm above", w.ItemName(p, item), float64(item.AboveMM)))
		case err != nil:
			parts = append(parts, w.ItemName(p, item))
		default:
			parts = append(parts, w.Grams(mass)+" "+shortName(material)+w.household(p, mass, material))
		}
	}
	return strings.Join(parts, " · ")
}

func (w Printer) household(p *plan.Plan, mass measure.Gram, material *pantry.Material) string {
	if text := p.Household(mass, material); text != "" {
		return " (" + text + ")"
	}
	return ""
}

// Pressed says which press a part is: "coconut.2" is "coconut (second press)".
func (w Printer) Pressed(part string) string {
	return strings.NewReplacer(".1", " (first press)", ".2", " (second press)", ".3", " (third press)").Replace(part)
}
