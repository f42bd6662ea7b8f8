package forecast_test

import (
	"encoding/json"
	"os"
	"path/filepath"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"kirdu/core/forecast"
	"kirdu/core/plan"
	"kirdu/core/watch"
)

// TestReferenceCases holds the plans of cooks against the bands of what came of them:
// all of them at once, by one model.
func TestReferenceCases(t *testing.T) {
	files, err := filepath.Glob("testdata/*.bands.json")
	require.NoError(t, err)
	require.Len(t, files, 31)
	for _, file := range files {
		name := strings.TrimSuffix(file, ".bands.json")
		t.Run(filepath.Base(name), func(t *testing.T) {
			document, err := os.ReadFile(name + ".kirdu.json")
			require.NoError(t, err)
			p, err := plan.Read(document)
			require.NoError(t, err)
			data, err := os.ReadFile(file)
			require.NoError(t, err)
			bands := map[string]json.RawMessage{}
			require.NoError(t, json.Unmarshal(data, &bands))
			f := forecast.Run(p, forecast.Options{})
			found := map[string]forecast.Severity{}
			for _, one := range watch.Findings(p, f) {
				if worst, has := found[string(one.Rule)]; !has || worst == forecast.Note {
					found[string(one.Rule)] = one.Severity
				}
			}
			figures := lookup(t, f)
			for key, raw := range bands {
				if rule, ok := strings.CutPrefix(key, "findings.has."); ok {
					if _, has := found[rule]; !has {
						t.Errorf("%s does not speak; found %v", rule, found)
					}
					continue
				}
				if rule, ok := strings.CutPrefix(key, "findings.not."); ok {
					if severity, has := found[rule]; has && severity != forecast.Note {
						t.Errorf("%s speaks: %s", rule, severity)
					}
					continue
				}
				var band [2]float64
				require.NoError(t, json.Unmarshal(raw, &band))
				value := figures.of(t, key)
				t.Logf("%s: %.4g in %v", key, value, band)
				if !(value >= band[0] && value <= band[1]) {
					t.Errorf("%s is %.4g, cooks find %v", key, value, band)
				}
			}
		})
	}
}

// A document answers for a figure by its path.
type document struct{ root any }

func lookup(t *testing.T, f *forecast.Forecast) document {
	data, err := json.Marshal(f)
	require.NoError(t, err)
	var d document
	require.NoError(t, json.Unmarshal(data, &d.root))
	return d
}

// of reads "a.b", "range.a.b" and "a - b".
func (d document) of(t *testing.T, key string) float64 {
	if a, b, ok := strings.Cut(key, " - "); ok {
		return d.of(t, a) - d.of(t, b)
	}
	path, wide := strings.CutPrefix(key, "range.")
	at := d.root
	for step := range strings.SplitSeq(path, ".") {
		if list, is := at.([]any); is {
			n, err := strconv.Atoi(step)
			require.NoError(t, err, key)
			at = list[n]
			continue
		}
		object, is := at.(map[string]any)
		require.True(t, is, key)
		at = object[step]
	}
	if figure, is := at.(map[string]any); is {
		value := figure["value"].(float64)
		if wide {
			return (figure["high"].(float64) - figure["low"].(float64)) / (2 * value)
		}
		return value
	}
	value, is := at.(float64)
	require.True(t, is, "%s is %v", key, at)
	return value
}
