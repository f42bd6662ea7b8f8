package frame

import (
	"fmt"
	"net/http"
	"net/http/httptest"
	"path/filepath"
	"testing"
	"time"

	"github.com/gin-gonic/gin"
	"github.com/stretchr/testify/require"

	"kirdu/core/vessel"
	"kirdu/store"
)

// A page is made once for an address, until something is stored or its clock is wrong; each copy has an
// identifier of its own.
func TestAPageIsMadeAgainWhenSomethingChanged(t *testing.T) {
	path := filepath.Join(t.TempDir(), "kirdu.sqlite")
	s, err := store.Open(t.Context(), path)
	require.NoError(t, err)
	t.Cleanup(func() { s.Close() })
	now := time.Date(2026, 3, 1, 18, 0, 0, 0, time.UTC)
	a := &App{Records: s, Now: func() time.Time { return now }}
	made, status := 0, http.StatusOK
	gin.SetMode(gin.ReleaseMode)
	engine := gin.New()
	Group{&engine.RouterGroup, a}.Again("/page", func(c *gin.Context) error {
		made++
		page := fmt.Appendf(nil, "%d %s", made, FreshID)
		if status == http.StatusOK {
			a.again.keep(c, page)
		}
		c.Data(status, htmlType, freshened(page))
		return nil
	})
	get := func(address string) string {
		w := httptest.NewRecorder()
		engine.ServeHTTP(w, httptest.NewRequestWithContext(t.Context(), http.MethodGet, address, nil))
		return w.Body.String()
	}
	times := func() int { before := made; get("/page"); return made - before }

	first, second := get("/page"), get("/page")
	require.Equal(t, 1, made)
	require.Equal(t, first[:2], second[:2])
	require.NotEqual(t, first, second, "each copy has its own identifier")
	require.NotContains(t, first+second, FreshID)
	get("/page?search=rice")
	require.Equal(t, 2, made, "another address")
	require.Zero(t, times())

	require.NoError(t, s.AddPot(t.Context(), store.Pot{ID: "p", Pot: vessel.Pot{Name: "pot", Shape: vessel.Straight, DiameterMM: 200,
		HeightMM: 100}}, now))
	require.Equal(t, 1, times(), "something was stored")
	require.Zero(t, times())
	other, err := store.Open(t.Context(), path)
	require.NoError(t, err)
	require.NoError(t, other.RemovePot(t.Context(), "p", now))
	require.NoError(t, other.Close())
	require.Equal(t, 1, times(), "another program has stored something")

	now = now.Add(time.Second)
	require.Equal(t, 1, times(), "the clock goes on")
	now = now.Add(-time.Hour)
	require.Equal(t, 1, times(), "the clock was put back")
	require.Zero(t, times())

	status = http.StatusUnprocessableEntity
	now = now.Add(time.Second)
	require.Equal(t, 1, times())
	require.Equal(t, 1, times(), "what went wrong is not kept")
}
