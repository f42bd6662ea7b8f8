package web_test

import (
	"errors"
	"flag"
	"fmt"
	"log/slog"
	"math"
	"math/rand/v2"
	"net/http"
	"net/http/httptest"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"kirdu/app"
	"kirdu/store"
	"kirdu/web"
)

var poisons = flag.Int("poisons", 60, "how many poisoned archives are taken over")

// poisoned are cells that no kitchen writes.
var poisoned = []any{nil, "", " ", "\x00", "a\nb\r\nc", "\u200b", strings.Repeat("x", 5000), "null", "{}", "[]", `{"a":1e308}`, "1e308",
	math.Inf(1), math.NaN(), 1e308, -1e308, -1.0, 0.0, 1e-300, int64(math.MaxInt64), int64(math.MinInt64), int64(-1), int64(1 << 40),
	[]byte{0xff, 0xd8},
	"0001-01-01T00:00:00.000000000Z", "9999-12-31T23:59:59.000000000Z", "2026-13-45", "../../etc/passwd", "=1+1", "finished", "mended",
	`[{"of":"power","mean":1e308,"sd":1e308}]`, `{"0":1e308}`, `{"steps":[{"do":"add"}]}`, "<script>alert(1)</script>"}

// TestPoisonedArchives takes over archives in which one or a few cells are poison: each is refused with its
// place, and then nothing was changed, or it is harmless: no page answers with a fault of the program.
func TestPoisonedArchives(t *testing.T) {
	dir := t.TempDir()
	model := filepath.Join(dir, "model.sqlite")
	writeSample(t, model)
	s, err := store.Open(t.Context(), model)
	require.NoError(t, err)
	clean, err := s.Sheets(t.Context())
	require.NoError(t, err)
	require.NoError(t, s.Close())
	data, err := os.ReadFile(model)
	require.NoError(t, err)

	random := rand.New(rand.NewPCG(16, 1))
	refused, taken := 0, 0
	for k := range *poisons {
		path := filepath.Join(dir, fmt.Sprintf("%d.sqlite", k))
		require.NoError(t, os.WriteFile(path, data, 0o600))
		s, err := store.Open(t.Context(), path)
		require.NoError(t, err)
		kitchen := &app.Kitchen{Store: s, Now: func() time.Time { return now }, Zone: time.UTC, Log: slog.New(slog.DiscardHandler)}
		sheets, what := poison(random, clean)
		_, err = s.Absorb(t.Context(), sheets, store.TakeTheirs, false)
		if err != nil {
			require.True(t, errors.Is(err, store.ErrRow) || errors.Is(err, store.ErrSheet), "%s: %v", what, err)
			require.Contains(t, err.Error(), "row", what)
			after, err := s.Sheets(t.Context())
			require.NoError(t, err)
			require.Equal(t, clean, after, "what is refused changes nothing: %s", what)
			refused++
		} else {
			require.NoError(t, kitchen.CatchUp(t.Context()), what)
			taken++
			everyPageAnswers(t, kitchen, what)
		}
		require.NoError(t, s.Close())
		require.NoError(t, os.Remove(path))
	}
	t.Logf("%d refused, %d harmless", refused, taken)
}

// poison changes a few cells of an archive, or drops or doubles rows.
func poison(random *rand.Rand, clean []store.Sheet) (sheets []store.Sheet, what string) {
	for _, sheet := range clean {
		one := sheet
		one.Rows = make([][]any, len(sheet.Rows))
		for i, row := range sheet.Rows {
			one.Rows[i] = slices.Clone(row)
		}
		sheets = append(sheets, one)
	}
	for range 1 + random.IntN(3) {
		sheet := &sheets[random.IntN(len(sheets))]
		if len(sheet.Rows) == 0 {
			continue
		}
		row, column := random.IntN(len(sheet.Rows)), random.IntN(len(sheet.Columns))
		switch random.IntN(8) {
		case 0:
			sheet.Rows = slices.Delete(sheet.Rows, row, row+1)
			what += fmt.Sprintf("%s without row %d; ", sheet.Name, row)
		case 1:
			sheet.Rows = append(sheet.Rows, slices.Clone(sheet.Rows[row]))
			what += fmt.Sprintf("%s with row %d twice; ", sheet.Name, row)
		default:
			cell := poisoned[random.IntN(len(poisoned))]
			sheet.Rows[row][column] = cell
			what += fmt.Sprintf("%s, row %d, %s = %.60v; ", sheet.Name, row, sheet.Columns[column].Name, cell)
		}
	}
	return sheets, what
}

// everyPageAnswers visits what there is.
func everyPageAnswers(t *testing.T, kitchen *app.Kitchen, what string) {
	t.Helper()
	handler := web.Handler(web.Options{Kitchen: kitchen})
	paths := []string{"/", "/puddings", "/logbook", "/logbook/trends", "/learnt", "/pantry", "/kitchen", "/gatherings", "/buying", "/settings",
		"/archive/batches.csv", "/archive/readings.csv", "/supplies"}
	for _, sheet := range []struct{ table, column, path string }{{"pudding", "id", "/puddings/"}, {"cook", "id", "/stove/"},
		{"cook", "id", "/logbook/"}, {"gathering", "id", "/gatherings/"}} {
		sheets, err := kitchen.Store.Sheets(t.Context())
		require.NoError(t, err, what)
		for _, one := range sheets {
			if one.Name != sheet.table {
				continue
			}
			for n, row := range one.Rows {
				const most = 3 // the rest are like these
				if id, ok := row[one.At(sheet.column)].(string); ok && (n < most || n == len(one.Rows)-1) && !strings.ContainsAny(id, "\x00\n /<?#%") {
					paths = append(paths, sheet.path+id)
				}
			}
		}
	}
	for _, path := range paths {
		answer := httptest.NewRecorder()
		handler.ServeHTTP(answer, httptest.NewRequest(http.MethodGet, "http://127.0.0.1"+path, nil))
		require.Less(t, answer.Code, 500, "%s after %s", path, what)
		require.NotContains(t, answer.Body.String(), "NaN", "%s after %s", path, what)
	}
}
