package words

import (
	"go/ast"
	"go/parser"
	"go/token"
	"os"
	"path/filepath"
	"regexp"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"kirdu/core/recipe"
	"kirdu/core/rescue"
	"kirdu/core/watch"
)

// keysIn returns the texts of a folder's files that are keys of the catalogue, and
// the beginnings of keys that are put together.
func keysIn(t *testing.T, folder string) (keys map[string]bool) {
	t.Helper()
	keys = map[string]bool{}
	names, err := filepath.Glob(folder + "/*.go")
	require.NoError(t, err)
	for _, name := range names {
		if strings.HasSuffix(name, "_test.go") || strings.HasSuffix(name, "english.go") {
			continue
		}
		source, err := os.ReadFile(name)
		require.NoError(t, err)
		file, err := parser.ParseFile(token.NewFileSet(), name, source, 0)
		require.NoError(t, err)
		ast.Inspect(file, func(n ast.Node) bool {
			if literal, ok := n.(*ast.BasicLit); ok && literal.Kind == token.STRING {
				if text, err := strconv.Unquote(literal.Value); err == nil {
					keys[text] = true
				}
			}
			return true
		})
	}
	return keys
}

// Every key that is named is in the catalogue, and nothing is in it that nobody
// says: no typo loses a sentence.
func TestTheCatalogueIsComplete(t *testing.T) {
	named := keysIn(t, ".")
	for _, folder := range []string{"../core/rescue", "../core/design"} {
		for key := range keysIn(t, folder) {
			named[key] = true
		}
	}
	isKey := regexp.MustCompile(`^(rescue|repair|note|symptom|taste|target|change|miss|differ|` +
		`scale|variant|late|lead|spoon|finger|wait|method|cannot|road)\.[a-z.-]+[a-z0-9]$`)
	for key := range named {
		if _, isFault := english["fault."+key]; isKey.MatchString(key) && !strings.HasSuffix(key, ".") && !isFault {
			require.Contains(t, english, key)
		}
	}
	for _, rule := range watch.Rules() {
		found := false
		for key := range english {
			found = found || key == string(rule.ID) || strings.HasPrefix(key, string(rule.ID)+".")
		}
		require.True(t, found, "the rule %s has no words", rule.ID)
	}
	for _, symptom := range rescue.Symptoms() {
		require.Contains(t, english, "symptom."+string(symptom))
	}
	for _, doubt := range recipe.Doubts() {
		require.Contains(t, english, "method."+string(doubt))
		named["method."+string(doubt)] = true
	}
	for _, look := range recipe.Looks() {
		require.Contains(t, english, "method."+string(look))
		named["method."+string(look)] = true
	}
	made := []string{"method.stop.", "repair.", "symptom.", "rescue.", "variant.", "late.", "aim.", "kept.", "mark.",
		"cannot.", "rule.", "method.doing.", "lead.",
		"spoon.", "finger.", "fault."} // put together from names
	for key := range english {
		known := named[key]
		for _, rule := range watch.Rules() {
			known = known || strings.HasPrefix(key, string(rule.ID))
		}
		for _, begin := range made {
			known = known || strings.HasPrefix(key, begin)
		}
		require.True(t, known, "nobody says %q", key)
	}
}

// A text with places for figures has them numbered from one, without a gap.
func TestPlacesAreNumbered(t *testing.T) {
	place := regexp.MustCompile(`%\[(\d)\]s`)
	for key, text := range english {
		most := 0
		seen := map[int]bool{}
		for _, m := range place.FindAllStringSubmatch(text, -1) {
			n, err := strconv.Atoi(m[1])
			require.NoError(t, err)
			seen[n], most = true, max(most, n)
		}
		require.LessOrEqual(t, most, 5, key)
		rest := place.ReplaceAllString(strings.ReplaceAll(text, "%%", ""), "")
		require.NotContains(t, rest, "%", key)
		if strings.HasSuffix(key, ".fix") || strings.HasSuffix(key, ".why") || strings.HasSuffix(key, ".until") {
			require.True(t, strings.HasSuffix(text, "."), key)
		}
	}
}

func TestFiguresAsTheHouseholdWritesThem(t *testing.T) {
	plain, ours := Printer{}, Printer{Style{Comma: true, Fahrenheit: true, Dates: "month"}}
	require.Equal(t, "85 °C", plain.Celsius(85))
	require.Equal(t, "85 °C (185 °F)", ours.Celsius(85))
	require.Equal(t, "1 °C (2 °F)", ours.Difference(1), "a difference is no temperature")
	require.Equal(t, "3,25", ours.Number(3.25, 2))
	require.Equal(t, "3,2 and 4 of milk", ours.Sprintf("%.1f and %d of %s", 3.21, 4, "milk"))
	require.Equal(t, "3.2 and 4 of milk", plain.Sprintf("%.1f and %d of %s", 3.21, 4, "milk"))
	require.Equal(t, "below 85 °C (185 °F), 3.5", ours.Degrees("below {85C}, 3.5"), "nothing else of a text is rewritten")
	require.Equal(t, "10 May, 5 °C warmer", ours.Note("10 May, 5 °C warmer"), "the cook's own words pass untouched")
}
