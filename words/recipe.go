package words

import (
	"math"
	"strings"

	"kirdu/core/measure"
	"kirdu/core/recipe"
)

// Doubt says what to look at in a sentence of a recipe that was read.
func (w Printer) Doubt(d recipe.Doubt) string {
	key := "method." + string(d.Of)
	switch d.Of {
	case recipe.HowLong, recipe.TimeLost:
		return w.text(key, w.Minutes(d.Minutes))
	case recipe.MoreThanListed:
		return w.text(key, d.Amount, d.Words)
	case recipe.NoAmount:
		return w.text(key, d.Words, d.Amount)
	}
	return w.text(key, d.Words)
}

// Looks says why a sentence that was read is looked at all the same; "" for no reason.
func (w Printer) Looks(list []recipe.Look) string {
	var said []string
	for _, l := range list {
		said = append(said, w.text("method."+string(l.At), panWords(l.Words), w.part(l.Share, l.Amount)))
	}
	if len(said) == 0 {
		return ""
	}
	return w.text("method.look", Capital(strings.Join(said, "; ")))
}

// part says how much of something is meant: "half (¼ tsp)".
func (w Printer) part(share float64, amount string) string {
	if said, err := measure.ParseAmount(amount); err == nil && !measure.IsExact(said.Unit) {
		if text, ok := measure.CountQuarters(said.Number, said.Unit); ok && math.Mod(4*said.Number, 1) == 0 {
			amount = text
		}
	}
	if said := strings.TrimSuffix(w.share(share), " of "); share < 1 && !strings.Contains(said, "%") {
		return said + " (" + amount + ")"
	}
	return amount
}

// panWords names a pan: "pan 2".
func panWords(name string) string {
	if stem := strings.TrimRight(name, "0123456789"); stem != "" && stem != name {
		return stem + " " + name[len(stem):]
	}
	return name
}

// Stop says where something of the list goes; the number of the sentence comes behind it, if there is one.
func (w Printer) Stop(s recipe.Stop) string {
	key, then := "method.stop.", ""
	if s.Onward {
		then = "then-"
	}
	switch {
	case s.Sentence < 0 && s.Beside:
		key += "before"
	case s.Sentence < 0:
		key += "usual"
	case s.Beside:
		key += then + "beside"
	case s.Pan != "":
		key += then + "pan"
	case s.OnTop:
		key += then + "top"
	case s.Onward:
		key += "then"
	default:
		key += "in"
	}
	said := w.text(key, panWords(s.Pan))
	if s.Amount != "" {
		said = w.text("method.stop.some", w.part(s.Share, s.Amount), said)
	}
	return said
}

// schoolKeys are the keys of the ways in which a list is cooked: the name, and what speaks for it.
var schoolKeys = map[recipe.School]struct{ name, why string }{
	recipe.OpenPot:    {"method.school.open-pot", "method.why.open-pot"},
	recipe.Toasted:    {"method.school.toasted", "method.why.toasted"},
	recipe.UnderPress: {"method.school.under-press", "method.why.under-press"},
	recipe.WaterFirst: {"method.school.water-first", "method.why.water-first"},
	recipe.FromStart:  {"method.school.from-start", "method.why.from-start"},
	recipe.InTheOven:  {"method.school.in-the-oven", "method.why.in-the-oven"},
}

// School names one of the ways in which a list is cooked.
func (w Printer) School(s recipe.School) string { return w.text(schoolKeys[s].name) }

// WhySchool says what speaks for it.
func (w Printer) WhySchool(s recipe.School) string { return w.text(schoolKeys[s].why) }

// InPan says a step that is in another pan than the pudding.
func (w Printer) InPan(pan, step string) string { return w.text("method.in-pan", panWords(pan), step) }

// Doing says what a sentence of a method may be put right as.
func (w Printer) Doing(d recipe.Doing) string { return w.text("method.doing." + string(d)) }
