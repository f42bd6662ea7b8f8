package main

import (
	"crypto/sha256"
	"fmt"
	"io/fs"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
)

const forecastSums = "testdata/forecasts.sha256"

// TestForecastsStay keeps what is printed of every plan of the repository, byte
// for byte, as sums: a move of code must not move a digit. After a change of the
// model that is meant, `make golden` writes them anew.
func TestForecastsStay(t *testing.T) {
	var lines []string
	require.NoError(t, filepath.WalkDir("../..", func(path string, entry fs.DirEntry, err error) error {
		if err != nil || entry.IsDir() || !strings.HasSuffix(path, ".kirdu.json") {
			return err
		}
		out, errOut, err := command(t, t.Context(), "", "forecast", path)
		if err != nil {
			return fmt.Errorf("%s: %w\n%s", path, err, errOut)
		}
		lines = append(lines, fmt.Sprintf("%x  %s", sha256.Sum256([]byte(out)), filepath.Base(path)))
		return nil
	}))
	slices.SortFunc(lines, func(a, b string) int { return strings.Compare(a[64:], b[64:]) })
	lines = slices.Compact(lines)
	require.Greater(t, len(lines), 30)
	got := strings.Join(lines, "\n") + "\n"
	if *update {
		require.NoError(t, os.WriteFile(forecastSums, []byte(got), 0o644))
	}
	want, err := os.ReadFile(forecastSums)
	require.NoError(t, err)
	require.Equal(t, string(want), got)
}
