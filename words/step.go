package words

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"kirdu/core/forecast"
	"kirdu/core/measure"
	"kirdu/core/pantry"
	"kirdu/core/plan"
	"kirdu/core/rescue"
	"kirdu/core/vessel"
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
	said := w.step(p, f, i)
	if sign := p.Steps[i].Sign; sign != "" { // the cook's own sign comes before ours
		said.Target = sign
	}
	return said
}

// StepTitle puts a step into words without a forecast: what depends on one is left out.
func (w Printer) StepTitle(p *plan.Plan, i int) StepWords {
	return w.Step(p, &forecast.Forecast{Steps: make([]forecast.StepResult, len(p.Steps)), Trace: make([]forecast.StepTrace,
		len(p.Steps))}, i)
}

func (w Printer) step(p *plan.Plan, f *forecast.Forecast, i int) StepWords {
	s := &p.Steps[i]
	if s.Do.IsPreparation() {
		return w.prepareWords(p, f, s)
	}
	switch s.Do {
	case plan.Pressure:
		then := "medium"
		if s.Flame != "" || s.FlameW != nil {
			then = strings.TrimSuffix(w.Flame(s), " flame")
		}
		detail := "full flame until it whistles, then " + then
		if s.Whistles > 0 && s.Minutes != nil {
			detail += " for " + w.Minutes(*s.Minutes)
		}
		said := StepWords{Title: "Cook under pressure for " + w.Minutes(s.FullMinutes()), Target: "then turn the flame off",
			Done: "The pressure is off", Short: "pressure"}
		if s.Whistles == 1 {
			said.Title, said.Target = "Cook under pressure until it whistles", "one whistle, then turn the flame off"
		} else if s.Whistles > 1 {
			said.Title, said.Target = w.Sprintf("Cook under pressure for %d whistles", s.Whistles),
				w.Sprintf("%d whistles, then turn the flame off", s.Whistles)
		}
		if s.Release == plan.Quick {
			said.Detail = detail + "; after the flame is off let the steam off, away from you; at most two-thirds full, half for pulses"
		} else {
			said.Detail = detail + "; after the flame is off leave it until the pressure is gone by itself, never force it; " +
				"at most two-thirds full, half for pulses"
		}
		return said
	case plan.Cool:
		where := map[plan.Where]string{plan.WaterBath: "in cold water", plan.Fridge: "in the refrigerator"}[s.Where]
		if where == "" {
			where = "on the counter"
		}
		return StepWords{Title: "Cool it to " + w.Celsius(*s.ToC), Detail: where + "; within two hours down to " + w.Celsius(watch.Cool),
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
		return StepWords{Title: "Brown " + w.the(p, s.Items) + ", dry, " + until, Detail: w.amounts(p, f, s.Items) +
			"; it browns on off the flame, and burns the skin: children away",
			Done: "It is brown", Short: "caramel"}
	case plan.Portion:
		if s.Slices > 0 {
			return StepWords{Title: fmt.Sprintf("Cut it into %d", s.Slices), Detail: "a knife dipped in hot water", Done: "It is cut",
				Short: "cut"}
		}
		return StepWords{Title: fmt.Sprintf("Share it out in %d bowls", s.Bowls),
			Detail: w.Grams(measure.Gram(f.Yield.MassG.Value/float64(max(1, s.Bowls)))) + " each", Done: "It is in the bowls", Short: "bowls"}
	case plan.Mash:
		return StepWords{Title: "Mash " + w.partOf(p, s.Of, "what is in the pot"), Detail: w.Number(*s.Pct, 0) + " % of it",
			Done: "It is mashed", Short: "mash"}
	case plan.Drain:
		return StepWords{Title: "Pour the liquid off", Detail: "keep the solids; steam scalds, tilt away from you", Done: "It is drained",
			Short: "drain"}
	case plan.Add:
		return w.addWords(p, f, i)
	case plan.Heat:
		return w.heatWords(p, f, i)
	case plan.Rest:
		cover := "open"
		if s.Lidded() {
			cover = "covered"
		}
		return StepWords{Title: "Let it stand off the heat for " + w.Minutes(s.FullMinutes()), Detail: cover, Done: "It has stood",
			Short: "stand"}
	case plan.Chill:
		return StepWords{Title: "Put it into the refrigerator, covered", Detail: w.Number(*s.Hours, -1) + " h; shallow bowls cool faster",
			Done: "It is cold", Short: "chill"}
	}
	return StepWords{Title: Capital(string(s.Do)), Done: "Done", Short: string(s.Do)}
}

// bakeWords are those of an oven, a slow cooker or a microwave oven.
func (w Printer) bakeWords(p *plan.Plan, s *plan.Step) StepWords {
	said := StepWords{Detail: w.Minutes(s.FullMinutes()), Done: "Time is up", Short: "bake"}
	switch s.BakeIn {
	case "slow-cooker":
		said.Title, said.Detail = "Leave it in the slow cooker", said.Detail+", lid on"
	case "microwave":
		said.Title, said.Detail = w.Sprintf("Cook it in the microwave oven at %.0f W", float64(*s.PowerW)),
			said.Detail+"; stir between, it boils over"
	default:
		said.Title = "Bake it at " + w.Celsius(*s.OvenC)
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
	return "the " + strings.TrimPrefix(w.ItemName(p, plan.Item{Part: of}), "the ")
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

// softPart reports whether a part is of fruit or vegetables: those are mashed where grain is ground.
func softPart(p *plan.Plan, part string) bool {
	maker := p.Maker(part)
	return maker >= 0 && len(p.Steps[maker].Items) > 0 && !slices.ContainsFunc(p.Steps[maker].Items, func(item plan.Item) bool {
		m, ok := p.Pantry().Material(item.Material)
		return !ok || m.Behaviour != pantry.Tissue
	})
}

func (w Printer) prepareWords(p *plan.Plan, f *forecast.Forecast, s *plan.Step) StepWords {
	words := prepared[s.Do]
	title := words[0]
	switch {
	case s.Do == plan.Prep && s.What != "":
		title = Capital(s.What) + " "
	case s.Do == plan.Grind && softPart(p, s.Of):
		title, words[1], words[2] = "Mash ", "It is mashed", "mash"
	}
	what := w.the(p, s.Items)
	if s.Do == plan.Mix {
		return w.mixWords(p, f, s)
	}
	if s.Of != "" {
		what = w.partOf(p, s.Of, "")
	}
	detail := w.Minutes(s.FullMinutes())
	if amounts := w.amounts(p, f, s.Items); amounts != "" {
		detail = amounts + ", " + detail
	}
	switch s.Do {
	case plan.Grind:
		detail = "to " + groundTo[s.To] + ", " + detail
	case plan.Squeeze:
		detail = w.Number(*s.Pct, 0) + " % of it as juice, only what is loose, " + detail
	case plan.Press:
		what = "the coconut"
		if s.Coconuts > 0 {
			detail = measure.CountPieces(s.Coconuts, "coconut") + ", " + detail
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
			detail += ", in " + w.amounts(p, f, []plan.Item{*s.Fat})
		}
	}
	return StepWords{Title: title + what, Detail: detail, Done: words[1], Short: words[2], Target: prepareSigns[s.Do]}
}

// mixWords say what is stirred together beside the pot: cold as a rule, hot where something of a pot goes in; egg white
// alone is whipped, and cream in a part of that name, and of a pot alone a part is kept back.
func (w Printer) mixWords(p *plan.Plan, f *forecast.Forecast, s *plan.Step) StepWords {
	words := prepared[s.Do]
	title, done, target := words[0]+w.Items(p, s.Items), words[1], prepareSigns[s.Do]
	ofPot := func(item plan.Item) bool { return item.Pot != "" }
	whips := func(item plan.Item) bool {
		return item.Material == "egg-white" || strings.HasPrefix(s.Name, "cream") && strings.Contains(item.Material, "cream")
	}
	whipped := slices.ContainsFunc(s.Items, whips) && !slices.ContainsFunc(s.Items, func(item plan.Item) bool {
		m, ok := p.Pantry().Material(item.Material)
		return !ok || m.Kind != "sweetener" && m.Behaviour != pantry.Aroma && m.Slug != "salt" && !whips(item)
	})
	switch {
	case len(s.Items) == 1 && ofPot(s.Items[0]):
		title, done, target = w.Sprintf("Keep back %.0f %% of ", 100*s.Items[0].Portion())+w.Items(p, s.Items), "It is kept back", ""
	case slices.ContainsFunc(s.Items, ofPot):
		title = "Stir together, while it is hot: " + w.Items(p, s.Items)
	case whipped:
		title, done, target = "Whip "+w.the(p, s.Items), "It holds peaks", "soft peaks stand when the whisk is lifted"
	}
	detail := w.Minutes(s.FullMinutes())
	if amounts := w.amounts(p, f, s.Items); amounts != "" && !(len(s.Items) == 1 && ofPot(s.Items[0])) {
		detail = amounts + ", " + detail
	}
	return StepWords{Title: title, Detail: detail, Done: done, Short: words[2], Target: target}
}

// groundTo are the names of how fine something is ground.
var groundTo = map[plan.GrindTo]string{plan.Granules: "granules", plan.Paste: "a paste", plan.Flour: "flour"}

// prepareSigns are what tells a cook that a preparation is done, where there is one.
var prepareSigns = map[plan.Verb]string{
	plan.Roast: "it smells nutty and begins to colour", plan.Fry: "each pale gold, out in its time: it darkens on",
	plan.Melt: "no lump is left", plan.Mix: "no dry grain is left",
}

func (w Printer) addWords(p *plan.Plan, f *forecast.Forecast, i int) StepWords {
	s := &p.Steps[i]
	if s.Pot == rescue.LeftPot {
		return StepWords{Title: "Leave what sticks behind", Detail: w.Sprintf("about %.0f %%", 100*s.Items[0].Portion()),
			Done: "It is poured over", Short: "pour over"}
	}
	said := StepWords{Title: addVerb(p, s) + " " + w.the(p, s.Items), Done: "It is in the pot", Short: "add"}
	details := []string{w.amounts(p, f, s.Items)}
	if grams := w.only(p, f, s.Items); grams != "" {
		said.Title += " (" + grams + ")"
		details[0] = strings.TrimPrefix(details[0], grams+" "+strings.TrimPrefix(w.the(p, s.Items), "the "))
		details[0] = strings.TrimSuffix(strings.TrimPrefix(strings.TrimPrefix(details[0], ","), " ("), ")")
	}
	if s.Topping {
		said.Title += " on top"
	}
	if s.GoesSlowly() {
		details = append(details, "slowly")
	}
	if slices.Contains(s.Manner, plan.Whisking) {
		details = append(details, "whisking")
	}
	if slices.Contains(s.Manner, plan.InGoes) || p.Sweetens(i) {
		details = append(details, "in two goes, tasting between")
	}
	if s.TempC != nil {
		details = append(details, "at "+w.Celsius(*s.TempC))
	}
	if p.Sweetens(i) {
		said.Done, said.Short = "Sugar is in", "sugar"
	}
	said.Detail = strings.TrimSpace(strings.Join(slices.DeleteFunc(details, func(s string) bool { return s == "" }), ", "))
	return said
}

// addVerb is what is done with what goes in.
func addVerb(p *plan.Plan, s *plan.Step) string {
	liquid, sweet := true, true
	for _, item := range s.Items {
		m, known := p.Pantry().Material(item.Material)
		pressed := p.Maker(item.Part) >= 0 && p.Steps[p.Maker(item.Part)].Do == plan.Press
		liquid = liquid && (item.Pot != "" || pressed || known && m.Behaviour == pantry.Liquid)
		sweet = sweet && known && m.Kind == "sweetener"
	}
	switch {
	case s.Topping:
		return "Lay"
	case liquid:
		return "Pour in"
	case sweet:
		return "Stir in"
	}
	return "Add"
}

// only says the mass of the one thing that goes in, "" where there are several, or none is
// known.
func (w Printer) only(p *plan.Plan, f *forecast.Forecast, items []plan.Item) string {
	if len(items) != 1 || items[0].AboveMM > 0 {
		return ""
	}
	mass, known := massOf(p, f, items[0])
	if !known {
		return ""
	}
	return w.Grams(mass)
}

// massOf returns the mass of what a step takes: of a part its share of what is made, as far
// as the forecast has it.
func massOf(p *plan.Plan, f *forecast.Forecast, item plan.Item) (measure.Gram, bool) {
	if _, mass, err := p.Weigh(item); err == nil && item.Material != "" {
		return mass, true
	}
	made, known := f.Made[item.Part]
	if item.Portion() < 1 {
		return made * measure.Gram(item.Portion()), known
	}
	return made * measure.Gram(rest(p, item.Part)), known
}

// rest is what is left of a part, as a share, when all the shares of it are taken.
func rest(p *plan.Plan, part string) float64 {
	left := 1.0
	for i := range p.Steps {
		for _, item := range p.Steps[i].Items {
			if part != "" && item.Part == part && item.Portion() < 1 {
				left *= 1 - item.Portion()
			}
		}
	}
	return left
}

// parted are the shares that have a word; others are said in per cent.
var parted = []struct {
	share float64
	said  string
}{{1. / 4, "a quarter of "}, {1. / 3, "a third of "}, {1. / 2, "half of "}, {2. / 3, "two thirds of "}, {3. / 4, "three quarters of "}}

func (w Printer) share(portion float64) string {
	const near = 0.01
	for _, one := range parted {
		if math.Abs(one.share-portion) < near {
			return one.said
		}
	}
	return w.Sprintf("%.0f %% of ", 100*portion)
}

// the names what a step takes with its article, a share as such: "the rice and half of the
// syrup".
func (w Printer) the(p *plan.Plan, items []plan.Item) string {
	var names []string
	for _, item := range items {
		name := "the " + strings.TrimPrefix(w.ItemName(p, item), "the ")
		if item.Pot != "" {
			name = w.ItemName(p, item)
		}
		if item.Portion() == 1 && rest(p, item.Part) < 1 {
			name = "the rest of " + name
		}
		if portion := item.Portion(); portion < 1 {
			name = w.share(portion) + name
		}
		names = append(names, name)
	}
	return w.Join(names)
}

var stirWords = map[plan.Stir]string{
	plan.StirNone: "no stirring", plan.StirNow: "stir now and then", plan.StirOften: "stir often", plan.StirConstant: "stir all the time",
}

// Stirring says a rhythm.
func (w Printer) Stirring(s plan.Stir) string { return stirWords[s] }

// Flame says the flame of a heat step.
func (w Printer) Flame(s *plan.Step) string {
	switch {
	case s.FlamePct != nil:
		return w.Sprintf("flame at %.0f %%", *s.FlamePct)
	case s.FlameW != nil:
		return w.Sprintf("flame of %.0f W into the pot", float64(*s.FlameW))
	}
	switch s.Flame {
	case vessel.Off:
		return "flame off"
	case vessel.Simmer, vessel.Boil:
		return FlameName(s.Flame)
	}
	return FlameName(s.Flame) + " flame"
}

// FlameName says a flame: a mark of the knob, or what is kept by eye.
func FlameName(flame vessel.Flame) string {
	switch flame {
	case vessel.Simmer:
		return "just simmering"
	case vessel.Boil:
		return "at a brisk boil"
	}
	return strings.ReplaceAll(string(flame), "-", " ")
}

// FlamePlace says where on its burner a flame by eye ends up, "" for one that is a mark
// of the knob: "about a third of the front burner".
func (w Printer) FlamePlace(p *plan.Plan, f *forecast.Forecast, i int) string {
	s := &p.Steps[i]
	if !s.ByEye() || f.Steps[i].Watts == nil {
		return ""
	}
	burner := p.BurnerOf(s.PotName())
	most, _ := burner.Power(vessel.High, 0)
	name := "the burner"
	if burner.Name != "" {
		name = "the " + Lower(burner.Name)
	}
	return share(*f.Steps[i].Watts/float64(most)) + " of " + name
}

// shares are what a cook can see on a knob, each up to where the next begins.
var shares = []struct {
	to   float64
	said string
}{
	{0.08, "hardly any"}, {0.14, "about a tenth"}, {0.22, "about a sixth"}, {0.29, "about a quarter"}, {0.41, "about a third"},
	{0.58, "about half"}, {0.71, "about two thirds"}, {0.87, "about three quarters"},
}

// share says a part of a whole, 0 to 1.
func share(x float64) string {
	for _, one := range shares {
		if x < one.to {
			return one.said
		}
	}
	return "nearly all"
}

func (w Printer) heatWords(p *plan.Plan, f *forecast.Forecast, i int) StepWords {
	s := &p.Steps[i]
	u := s.Until
	detail := w.Flame(s)
	if place := w.FlamePlace(p, f, i); place != "" {
		detail += ", " + place
	}
	if s.Lidded() {
		detail += ", lid on"
	}
	detail += ", " + w.Stirring(s.Stirring())
	if !s.Burns() && p.BurnerOf(s.PotName()).Kind == "electric" {
		detail += "; the plate goes on heating, draw the pot aside to stop it"
	}
	said := StepWords{Detail: detail, Done: "Done", Short: "cook"}
	mark := markOf(f, i)
	switch {
	case u.Boil:
		said.Title, said.Done, said.Short, said.Target = "Bring it to the boil", "It boils", "to the boil", "bubbles rise all over"
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
		said.Title, said.Done, said.Short = "Cook until the "+w.tenderWord(p, u.Doneness), "It is soft", "simmer"
		said.Target = doneSigns[p.Texture(u.Doneness.Of)]
	case u.Thickness != nil:
		said.Title, said.Done, said.Short = "Cook until it is at "+thicknessWord(*u.Thickness), "It is thick", "thicken"
	case u.TempC != nil:
		said.Title, said.Done, said.Short = "Bring it to "+w.Celsius(*u.TempC), "It is that warm", "warm"
	case u.FreeWaterPct != nil:
		said.Title, said.Done, said.Short = "Cook until the liquid is absorbed", "It is absorbed", "absorb"
		said.Target = "a spoon drawn through leaves a dry track"
	case u.Minutes != nil:
		said.Title, said.Done, said.Short = minutesVerb(s)+" "+w.Minutes(*u.Minutes), "Time is up", "simmer"
	}
	return said
}

// minutesVerb is what a pot does for so many minutes at a flame.
func minutesVerb(s *plan.Step) string {
	switch {
	case !s.Burns():
		return "Let it stand off the heat for"
	case s.Flame == vessel.Boil:
		return "Boil it for"
	case s.Flame == vessel.Simmer:
		return "Simmer it for"
	}
	return "Cook it for"
}

// doneSigns are what fingers and eyes tell of what is cooked, by its texture.
var doneSigns = map[pantry.Texture]string{
	pantry.Grainy: "press a grain between the fingers", pantry.Pearly: "the pearls float and are clear",
	pantry.Pulse: "crush one between the fingers", pantry.Vegetable: "glassy, shrunken, soft between the fingers",
	pantry.Fruit: "soft, and still in pieces",
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
		return "what is in " + w.inPot(p, item.Pot)
	}
	if material, ok := p.Pantry().Material(item.Part); ok {
		return shortName(material)
	}
	return w.Pressed(p.PartName(item.Part))
}

// Amounts says what a step takes, each with its mass and in the cook's own
// measures: "1 236 g whole milk (5 cups)".
func (w Printer) Amounts(p *plan.Plan, items []plan.Item) string {
	return w.amounts(p, &forecast.Forecast{Steps: make([]forecast.StepResult, len(p.Steps))}, items)
}

// amounts is Amounts, of a part with the mass that the forecast has of it.
func (w Printer) amounts(p *plan.Plan, f *forecast.Forecast, items []plan.Item) string {
	var parts []string
	for _, item := range items {
		material, mass, err := p.Weigh(item)
		part, known := massOf(p, f, item)
		switch {
		case item.AboveMM > 0:
			parts = append(parts, w.Sprintf("%s to %.0f mm above the rest", w.ItemName(p, item), float64(item.AboveMM)))
		case err != nil || item.Material == "":
			name := strings.TrimPrefix(w.the(p, []plan.Item{item}), "the ")
			if known {
				name = w.Grams(part) + " " + name
			}
			parts = append(parts, name)
		default:
			parts = append(parts, w.Grams(mass)+" "+shortName(material)+w.asTyped(p, item, mass, material))
		}
		if item.ToTaste {
			parts[len(parts)-1] += ", to taste"
		}
		if item.Optional {
			parts[len(parts)-1] += ", if you like"
		}
	}
	return strings.Join(parts, " · ")
}

// asTyped says an amount as the cook gave it where that is no weight, else in the cook's own
// measures.
func (w Printer) asTyped(p *plan.Plan, item plan.Item, mass measure.Gram, material *pantry.Material) string {
	if amount, err := measure.ParseAmount(item.Amount); err == nil {
		if _, _, cup := p.Measures.Volume(amount.Unit); cup || p.Measures.IsPiece(amount.Unit, material.Body()) {
			return " (" + item.Amount + ")"
		}
	}
	return w.household(p, mass, material)
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
