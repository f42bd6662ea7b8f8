package recipe_test

import (
	"os"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
)

// TestCommonSentences reads what cooks say most often, one saying at a time, between sentences that say the rest. What is told
// of a saying stands behind its steps.
func TestCommonSentences(t *testing.T) {
	data, err := os.ReadFile("testdata/sentences.txt")
	require.NoError(t, err)
	var list, before, after string
	lines := strings.Split(strings.TrimSpace(string(data)), "\n")
	for k, line := range lines {
		if given, is := strings.CutPrefix(line, "@ "); is {
			parts := append(strings.Split(given, "|"), "", "")
			list, before, after = strings.ReplaceAll(parts[0], ";", "\n"), strings.TrimSpace(parts[1]), strings.TrimSpace(parts[2])
			continue
		}
		wanted, is := strings.CutPrefix(line, "=> ")
		if !is {
			continue
		}
		c := cookText(t, list, strings.TrimSpace(before+" "+lines[k-1]+" "+after))
		said := []string{shortly(c.Plan)}
		for _, s := range c.Sentences {
			if !strings.Contains(lines[k-1], s.Text) {
				continue
			}
			if !s.Understood() && !s.Kept {
				said = append(said, "asked")
			}
			for _, d := range s.Doubts {
				said = append(said, strings.TrimSpace(string(d.Of)+" "+d.Words))
			}
		}
		if got := strings.Join(said, " ! "); wanted != got {
			t.Errorf("%s\nwant %s\ngot  %s", lines[k-1], wanted, got)
		}
	}
}
