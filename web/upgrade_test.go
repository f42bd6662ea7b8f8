package web_test

import (
	"compress/gzip"
	"context"
	"database/sql"
	"io"
	"log/slog"
	"net/http"
	"net/http/cookiejar"
	"net/http/httptest"
	"os"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"kirdu/app"
	"kirdu/web"
)

// unpacked is a data file of an earlier version of the schema, with the sample kitchen of its day in it. The
// versions that are not there were never those of a program: their migrations came together with the next.
func unpacked(t *testing.T, packed string) string {
	t.Helper()
	in, err := os.Open(packed)
	require.NoError(t, err)
	defer in.Close()
	reader, err := gzip.NewReader(in)
	require.NoError(t, err)
	path := filepath.Join(t.TempDir(), "kirdu.sqlite")
	out, err := os.Create(path)
	require.NoError(t, err)
	_, err = io.Copy(out, reader)
	require.NoError(t, err)
	require.NoError(t, out.Close())
	return path
}

func counted(t *testing.T, db *sql.DB, tables ...string) (counts []int) {
	t.Helper()
	for _, table := range tables {
		n := 0
		require.NoError(t, db.QueryRowContext(t.Context(), "SELECT count(*) FROM "+table).Scan(&n))
		counts = append(counts, n)
	}
	return counts
}

// shown are the pages in which most of a data file is.
const shown = " / /puddings /puddings/:id /stove/:id /logbook /logbook/:id /logbook/learnt /kitchen /pantry /gatherings /settings "

// TestOldDataFilesAreTakenOver opens a data file of each earlier schema as the program starts: it is brought up,
// nothing in it is lost, and its pages show: every page of the first, the last and each fourth between, a few of the others.
func TestOldDataFilesAreTakenOver(t *testing.T) {
	files, err := filepath.Glob("testdata/upgrades/*.sqlite.gz")
	require.NoError(t, err)
	require.GreaterOrEqual(t, len(files), 19)
	for i, file := range files {
		every := i%4 == 0 || i == len(files)-1
		t.Run(strings.TrimSuffix(filepath.Base(file), ".sqlite.gz"), func(t *testing.T) {
			path := unpacked(t, file)
			db, err := sql.Open("sqlite", path)
			require.NoError(t, err)
			before := counted(t, db, "cook", "cook_event", "pudding", "pot", "burner")
			require.NoError(t, db.Close())
			require.Positive(t, before[0]*before[1]*before[2]*before[3]*before[4])

			k, err := app.Open(context.Background(), path, slog.New(slog.DiscardHandler))
			require.NoError(t, err)
			t.Cleanup(func() { k.Store.Close() })
			k.Zone = time.UTC
			require.Equal(t, before, counted(t, k.Store.DB(), "cook", "cook_event", "pudding", "pot", "burner"))
			server := httptest.NewServer(web.Handler(web.Options{Kitchen: k}))
			t.Cleanup(server.Close)
			jar, err := cookiejar.New(nil)
			require.NoError(t, err)
			client := server.Client()
			client.Jar = jar
			client.CheckRedirect = func(*http.Request, []*http.Request) error { return http.ErrUseLastResponse }
			s := &site{t, k, k.Store, server, client}
			for route, address := range s.addresses() {
				none := strings.Contains(address, "/none") // a kitchen of the day had no gatherings yet
				other := statuses[route] != 0 || route == "/stove/:id/changes" || !every && !strings.Contains(shown, " "+route+" ")
				if other || none {
					continue
				}
				response, page := s.get(address)
				require.Contains(t, []int{http.StatusOK, http.StatusSeeOther}, response.StatusCode, address)
				require.NotContains(t, page, "Cannot be read by this program", address)
			}
		})
	}
}
