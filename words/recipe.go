package words

import (
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
func (w Printer) InPan(pan, step string) string { return w.text("method.in-pan", pan, step) }

// Doing says what a sentence of a method may be put right as.
func (w Printer) Doing(d recipe.Doing) string { return w.text("method.doing." + string(d)) }
