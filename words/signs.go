package words

import (
	"strings"

	"kirdu/core/pot"
)

// SpoonSign says what a spoon does in a pudding of a grade, 1 to 8: "lies in a soft mound".
func (w Printer) SpoonSign(grade int) string {
	return w.text("spoon." + strings.ToLower(pot.ThicknessWords()[grade-1]))
}

// FingerSign says what the fingers feel of grain that is as a word of doneness has it.
func (w Printer) FingerSign(doneness string) string {
	return w.text("finger." + strings.ReplaceAll(doneness, " ", "-"))
}
