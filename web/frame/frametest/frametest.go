// Package frametest serves one screen in a test, over fakes of what the screen asks of the kitchen. Only tests
// import it.
package frametest

import (
	"context"
	"errors"
	"log/slog"
	"net/http"
	"net/http/httptest"
	"net/url"
	"strings"
	"testing"
	"time"

	"github.com/gin-gonic/gin"
	"github.com/stretchr/testify/require"

	"kirdu/app"
	"kirdu/core/forecast"
	"kirdu/core/mend"
	"kirdu/core/plan"
	"kirdu/store"
	"kirdu/web/frame"
)

// Now is the moment at which the clock of a Site stands.
var Now = time.Date(2026, 3, 14, 18, 30, 0, 0, time.UTC)

// ErrBroken is what a fake gives for data that cannot be reached.
var ErrBroken = errors.New("the disk does not answer")

// A household has no preferences and nothing on the stove.
type household struct{}

func (household) Preferences(context.Context) (app.Preferences, error) { return app.Preferences{}, nil }
func (household) Damaged() bool                                        { return false }
func (household) Cooking(context.Context) ([]store.Cooking, error)     { return nil, nil }
func (household) Version(context.Context) (int64, error)               { return 1, nil }

// A Site is the frame around one screen.
type Site struct {
	App *frame.App

	t      testing.TB
	engine *gin.Engine
	frame.Group
}

// New returns a site without addresses, at Now, in UTC.
func New(t testing.TB) *Site {
	t.Helper()
	gin.SetMode(gin.ReleaseMode)
	one := &frame.App{Kitchen: household{}, Records: household{}, Now: func() time.Time { return Now }, Zone: time.UTC,
		Log: slog.New(slog.DiscardHandler), Version: "test"}
	engine := gin.New()
	engine.Use(one.Prefer)
	return &Site{App: one, t: t, engine: engine, Group: frame.Group{RouterGroup: &engine.RouterGroup, App: one}}
}

// An Answer is what a browser gets.
type Answer struct {
	Status   int
	Body     string
	Location string // where it is sent on
	Header   http.Header
}

// Get asks for an address.
func (s *Site) Get(address string) Answer { return s.ask(http.MethodGet, address, nil) }

// Post sends a form; its keys and values in turn.
func (s *Site) Post(address string, form ...string) Answer {
	s.t.Helper()
	values := url.Values{}
	require.Zero(s.t, len(form)%2, "a key without its value")
	for i := 0; i < len(form); i += 2 {
		values.Add(form[i], form[i+1])
	}
	return s.ask(http.MethodPost, address, values)
}

func (s *Site) ask(method, address string, form url.Values) Answer {
	request := httptest.NewRequestWithContext(s.t.Context(), method, address, strings.NewReader(form.Encode()))
	if form != nil {
		request.Header.Set("Content-Type", "application/x-www-form-urlencoded")
	}
	return s.Do(request)
}

// Do sends a request.
func (s *Site) Do(request *http.Request) Answer {
	w := httptest.NewRecorder()
	s.engine.ServeHTTP(w, request)
	return Answer{w.Code, w.Body.String(), w.Header().Get("Location"), w.Header()}
}

// faults are the lines of a page that say what is wrong.
func (a Answer) faults() (lines []string) {
	for line := range strings.Lines(a.Body) {
		if strings.Contains(line, "fault") {
			lines = append(lines, line)
		}
	}
	return lines
}

// MustSay takes an answer that is a page with these texts.
func (a Answer) MustSay(t testing.TB, status int, texts ...string) {
	t.Helper()
	require.Equal(t, status, a.Status, a.faults())
	for _, text := range texts {
		require.True(t, strings.Contains(a.Body, text), "the page does not say %q", text)
	}
}

// MustLead takes an answer that sends the browser on.
func (a Answer) MustLead(t testing.TB, where string) {
	t.Helper()
	require.Equal(t, http.StatusSeeOther, a.Status, a.faults())
	require.Equal(t, where, a.Location)
}

// MustTellOfTheProgram takes the page for a fault that the cook cannot help.
func (a Answer) MustTellOfTheProgram(t testing.TB) {
	t.Helper()
	a.MustSay(t, http.StatusInternalServerError, "Something went wrong in the program.")
	require.NotContains(t, a.Body, ErrBroken.Error(), "what the log has is not for the page")
}

// Pudding is the usual one of a way of cooking, in its third version.
func Pudding(t testing.TB, way string) store.Pudding {
	t.Helper()
	w, known := plan.WayNamed(way)
	require.True(t, known, way)
	p, err := w.Typical()
	require.NoError(t, err)
	return store.Pudding{ID: "p1", Plan: p, Version: 3, SavedAt: Now.Add(-time.Hour)}
}

// A House has one pudding on its shelf, and nothing of its own beside. Fakes that need more embed it.
type House struct {
	Kept  store.Pudding
	Saved *plan.Plan // the latest that was stored
}

// NewHouse returns a house with the usual pudding of a way of cooking.
func NewHouse(t testing.TB, way string) *House {
	t.Helper()
	return &House{Kept: Pudding(t, way)}
}

// Pudding returns the one that is kept, by its identifier.
func (h *House) Pudding(_ context.Context, id string) (store.Pudding, error) {
	if id != h.Kept.ID {
		return store.Pudding{}, store.ErrNotFound
	}
	return h.Kept, nil
}

// Puddings returns it alone.
func (h *House) Puddings(context.Context, int) ([]store.Pudding, error) {
	return []store.Pudding{h.Kept}, nil
}

// SavePlan takes a version that was made of the present one.
func (h *House) SavePlan(_ context.Context, _ string, base int, p *plan.Plan, _ time.Time) error {
	if base != h.Kept.Version {
		return store.ErrStale
	}
	h.Saved = p
	return nil
}

// CreatePudding takes a new one.
func (h *House) CreatePudding(_ context.Context, _ string, p *plan.Plan, _ time.Time) error {
	h.Saved = p
	return nil
}

// Forecast runs a plan, as the application does.
func (h *House) Forecast(_ context.Context, p *plan.Plan) (*forecast.Forecast, error) {
	return forecast.Run(p, forecast.Options{}), nil
}

// Mended runs it and looks for what would mend it.
func (h *House) Mended(_ context.Context, p *plan.Plan) (*forecast.Forecast, []mend.Found, error) {
	f, found := mend.Forecast(p, forecast.Options{})
	return f, found, nil
}

// Home returns a kitchen in which nothing was measured.
func (h *House) Home(context.Context) (plan.Home, error) { return plan.Home{}, nil }

// Burners and Pots return none.
func (h *House) Burners(context.Context) ([]store.Burner, error) { return nil, nil }
func (h *House) Pots(context.Context) ([]store.Pot, error)       { return nil, nil }
