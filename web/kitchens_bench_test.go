package web_test

import (
	"database/sql"
	"flag"
	"fmt"
	"io"
	"log/slog"
	"net/http"
	"net/http/httptest"
	"os"
	"path/filepath"
	"runtime"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/require"
	_ "modernc.org/sqlite" // the driver

	"kirdu/app"
	"kirdu/store"
	"kirdu/web"
)

var kitchens = flag.Int("kitchens", 0, "measure so many households in one process; see docs/performance.md")

// aYear makes a data file with the sample kitchen and a hundred batches and more.
func aYear(t testing.TB, path string) {
	t.Helper()
	writeSample(t, path)
	db, err := sql.Open("sqlite", path)
	require.NoError(t, err)
	defer db.Close()
	const copies = 9
	for n := range copies {
		suffix := fmt.Sprintf("-%d", n)
		for _, table := range []string{"cook", "cook_event", "lesson", "verdict", "tag"} {
			copyRows(t, db, table, suffix)
		}
	}
}

// copyRows copies the rows of the sample's own batches under other names.
func copyRows(t testing.TB, db *sql.DB, table, suffix string) {
	t.Helper()
	rows, err := db.Query(`SELECT name FROM pragma_table_info(?)`, table)
	require.NoError(t, err)
	var names, values []string
	for rows.Next() {
		var name string
		require.NoError(t, rows.Scan(&name))
		value := name
		switch name {
		case "id", "cook_id":
			value = name + ` || '` + suffix + `'`
		case "sequence":
			if table == "cook_event" {
				continue
			}
		}
		names, values = append(names, name), append(values, value)
	}
	require.NoError(t, rows.Close())
	key := "cook_id"
	if table == "cook" {
		key = "id"
	}
	_, err = db.Exec(`INSERT INTO ` + table + ` (` + strings.Join(names, ", ") + `) SELECT ` + strings.Join(values, ", ") + ` FROM ` + table +
		` WHERE length(` + key + `) = 36`)
	require.NoError(t, err, table)
}

// TestManyKitchens serves many households from one process, each with its own data file: what they take of
// memory, and how long a page takes. It measures, and runs only when asked.
func TestManyKitchens(t *testing.T) {
	if *kitchens == 0 {
		t.Skip("run with -kitchens 200")
	}
	dir := t.TempDir()
	model := filepath.Join(dir, "model.sqlite")
	aYear(t, model)
	data, err := os.ReadFile(model)
	require.NoError(t, err)
	t.Logf("a data file of a year: %.1f MB", float64(len(data))/1e6)
	resident := func() float64 {
		runtime.GC()
		status, err := os.ReadFile("/proc/self/status")
		require.NoError(t, err)
		for line := range strings.Lines(string(status)) {
			var kilobytes float64
			if _, err := fmt.Sscanf(line, "VmRSS: %f kB", &kilobytes); err == nil {
				return kilobytes / 1000
			}
		}
		return 0
	}
	before := resident()
	opened := time.Now()
	handlers := make([]http.Handler, *kitchens)
	for k := range handlers {
		path := filepath.Join(dir, fmt.Sprintf("%03d.sqlite", k))
		require.NoError(t, os.WriteFile(path, data, 0o600))
		s, err := store.Open(t.Context(), path)
		require.NoError(t, err)
		t.Cleanup(func() { s.Close() })
		handlers[k] = web.Handler(web.Options{Kitchen: &app.Kitchen{Store: s, Now: func() time.Time { return now }, Zone: time.UTC,
			Log: slog.New(slog.DiscardHandler)}})
	}
	t.Logf("%d opened in %.1f s; %.0f MB", *kitchens, time.Since(opened).Seconds(), resident()-before)
	for _, path := range []string{"/", "/puddings", "/logbook"} {
		for round := range 2 {
			var took []time.Duration
			for _, handler := range handlers {
				begun := time.Now()
				answer := httptest.NewRecorder()
				handler.ServeHTTP(answer, httptest.NewRequest(http.MethodGet, "http://127.0.0.1"+path, nil))
				require.Equal(t, http.StatusOK, answer.Code)
				_, err := io.Copy(io.Discard, answer.Body)
				require.NoError(t, err)
				took = append(took, time.Since(begun))
			}
			slices.Sort(took)
			t.Logf("%s, view %d: median %.1f ms, 95 of 100 within %.1f, longest %.1f; %.0f MB", path, round+1,
				took[len(took)/2].Seconds()*1000, took[len(took)*95/100].Seconds()*1000, took[len(took)-1].Seconds()*1000, resident()-before)
		}
	}
}
