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
	default:
		return w.text("method.not-poured", d.Words)
	}
}

// School names one of the ways in which a list is cooked.
func (w Printer) School(s recipe.School) string { return w.text("method.school." + string(s)) }

// WhySchool says what speaks for it.
func (w Printer) WhySchool(s recipe.School) string { return w.text("method.why." + string(s)) }

// InPan says a step that is in another pan than the pudding.
func (w Printer) InPan(pan, step string) string { return w.text("method.in-pan", pan, step) }
