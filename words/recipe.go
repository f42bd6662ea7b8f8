package words

import (
	"kirdu/core/recipe"
)

// Doubt says what to look at in a sentence of a recipe that was read.
func (w Printer) Doubt(d recipe.Doubt) string {
	switch d.Of {
	case recipe.Unread:
		return w.text("method.unread", d.Words)
	case recipe.MoreThanListed:
		return w.text("method.more-than-listed", d.Amount, d.Words)
	case recipe.HowLong:
		return w.text("method.how-long", w.Minutes(d.Minutes))
	case recipe.NoAmount:
		return w.text("method.no-amount", d.Words, d.Amount)
	case recipe.TakenFor:
		return w.text("method.taken-for", d.Words)
	case recipe.NotPut:
		return w.text("method.not-put", d.Words)
	case recipe.OtherPan:
		return w.text("method.other-pan", d.Words)
	case recipe.TimeLost:
		return w.text("method.time-lost", w.Minutes(d.Minutes))
	case recipe.NotDone:
		return w.text("method.not-done", d.Words)
	case recipe.Unnamed:
		return w.text("method.unnamed", d.Words)
	case recipe.InAlready:
		return w.text("method.in-already", d.Words)
	case recipe.FigureLost:
		return w.text("method.figure-lost", d.Words)
	case recipe.AllOfIt:
		return w.text("method.all-of-it", d.Words)
	case recipe.WholePot:
		return w.text("method.whole-pot", d.Words)
	default:
		return w.text("method.not-poured", d.Words)
	}
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
