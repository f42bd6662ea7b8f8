package recipe

import (
	"testing"

	"github.com/stretchr/testify/require"
)

// What a sentence says in passing is taken out, and nothing else.
func TestWhatIsSaidInPassingIsTakenOut(t *testing.T) {
	for text, rest := range map[string]string{
		"Add the bananas, cut in half":                               "Add the bananas",
		"Simmer until thick, this may take up to 40 minutes":         "Simmer until thick",
		"Pour into a glass dish rinsed with cold water and chill":    "Pour into a glass dish and chill",
		"Add the milk a ladle at a time, letting each be absorbed":   "Add the milk a ladle at a time",
		"Cook at high pressure for 3 minutes with a natural release": "Cook at high pressure for 3 minutes",
		"Turn off and use a natural release for 10 minutes":          "Turn off",
		"Rinse the sago with cold water":                             "Rinse the sago with cold water",
		"Cut the figs in half":                                       "Cut the figs in half",
		"Take the rice out and release it from its mould":            "Take the rice out and release it from its mould",
	} {
		require.Equal(t, rest, inPassingOut(text))
	}
}
