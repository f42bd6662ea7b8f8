package words_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"kirdu/core/plan"
	"kirdu/plantest"
	"kirdu/words"
)

// Every text can be read at a glance, and every step of every way begins with what is to be done.
func TestEveryTextIsShortAndEveryStepSaysWhatToDo(t *testing.T) {
	texts := words.Catalogue()
	require.Greater(t, len(texts), 400)
	var w words.Printer
	for _, way := range plan.Ways() {
		p, err := way.Typical()
		require.NoError(t, err)
		texts = append(texts, w.StepTexts(p)...)
	}
	for _, name := range []string{"rice-pear-bay", "millet-palm-sugar", "basmati-rose", "broken-wheat-maple", "sticky-rice-pomegranate",
		"vermicelli-walnut-maple"} {
		texts = append(texts, w.StepTexts(plantest.Sample(t, name))...)
	}
	for _, one := range texts {
		if len(one.Doubts) > 0 {
			t.Errorf("%s: %q: %v", one.Key, one.Text, one.Doubts)
		}
	}
}
