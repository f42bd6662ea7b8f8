// Package docs holds nothing but the test of its links.
package docs

import (
	"os"
	"path/filepath"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"kirdu/core/plan"
)

var link = regexp.MustCompile(`\]\(([^)#]+)`)

// TestLinks follows every link of the pages that leads to a file.
func TestLinks(t *testing.T) {
	pages := []string{"../README.md", "../CONTRIBUTING.md", "../CHANGELOG.md", "running.md", "safety.md", "performance.md",
		"architecture.md", "glossary.md", "plan-format.md",
		"model.md", "rules.md"}
	decisions, err := filepath.Glob("decisions/*.md")
	require.NoError(t, err)
	for _, name := range append(pages, decisions...) {
		text, err := os.ReadFile(name)
		require.NoError(t, err)
		for _, found := range link.FindAllStringSubmatch(string(text), -1) {
			if strings.HasPrefix(found[1], "http") {
				continue
			}
			_, err := os.Stat(filepath.Join(filepath.Dir(name), found[1]))
			require.NoError(t, err, "%s leads to %s", name, found[1])
		}
	}
}

func TestEveryDecisionIsListed(t *testing.T) {
	index, err := os.ReadFile("decisions/README.md")
	require.NoError(t, err)
	decisions, err := filepath.Glob("decisions/2*.md")
	require.NoError(t, err)
	for _, name := range decisions {
		require.Contains(t, string(index), filepath.Base(name))
	}
}

func TestEveryPictureIsLinked(t *testing.T) {
	readme, err := os.ReadFile("../README.md")
	require.NoError(t, err)
	pictures, err := filepath.Glob("screenshots/*.png")
	require.NoError(t, err)
	require.Less(t, len(pictures), 20)
	for _, name := range pictures {
		require.Contains(t, string(readme), name)
	}
}

func TestTheExampleIsAPlan(t *testing.T) {
	data, err := os.ReadFile("example.kirdu.json")
	require.NoError(t, err)
	_, err = plan.Read(data)
	require.NoError(t, err)
}
