package cook

import (
	"context"
	"strconv"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/require"

	"kirdu/core/cook"
	"kirdu/core/lead"
	"kirdu/core/learn"
	"kirdu/store"
	"kirdu/web/frame/frametest"
)

// A stove has one pudding on it. What is told is added to its log.
type stove struct {
	kitchen
	on    *store.Cook
	knows *lead.Lesson
}

func (s stove) Cook(_ context.Context, id string) (store.Cook, error) {
	if id != s.on.ID {
		return store.Cook{}, store.ErrNotFound
	}
	return *s.on, nil
}
func (s stove) Readings(context.Context, string, time.Time) ([]store.Reading, error) { return nil, nil }
func (s stove) Leads(context.Context, string) (led bool, known []lead.Lesson, err error) {
	return false, nil, nil
}
func (s stove) Know(_ context.Context, l lead.Lesson) (bool, error) {
	*s.knows = l
	return l == lead.Light, nil
}
func (s stove) Follow(_ context.Context, _ store.Cook, state *cook.State, at time.Time, _ ...string) (learn.Live, error) {
	return learn.Follow(state, at), nil
}
func (s stove) FollowPot(_ context.Context, _ store.Cook, state *cook.State, at time.Time, _ ...string) (learn.Live, error) {
	return learn.Follow(state, at), nil
}
func (s stove) Tell(_ context.Context, _ store.Cook, e cook.Event) error {
	s.on.Events = append(s.on.Events, e)
	return nil
}

// What is told comes into the log once, however often it is sent; what cannot be is said and not told.
func TestTheStove(t *testing.T) {
	pudding := frametest.Pudding(t, "reduced in milk")
	var knows lead.Lesson
	s := stove{on: &store.Cook{ID: "c1", PuddingID: "p1", Plan: pudding.Plan, BegunAt: frametest.Now, Zone: "UTC",
		Line: learn.LineOf(pudding.Plan)}, knows: &knows}
	site := frametest.New(t)
	screen := New(site.App, s, s)
	site.GET("/stove/:id", screen.Show)
	site.POST("/stove/:id", screen.Record)
	site.POST("/stove/:id/lead", screen.Lead)

	site.Get("/stove/c1").MustSay(t, 200, pudding.Plan.Name)
	site.Get("/stove/c2").MustSay(t, 404)
	state := s.on.State()
	step := strconv.Itoa(state.Step)
	id := uuid.NewString()
	for range 2 {
		site.Post("/stove/c1", "id", id, "kind", "next", "step", step).MustLead(t, "/stove/c1")
	}
	require.Len(t, s.on.Events, 1, "sent twice, told once")
	site.Post("/stove/c1", "id", uuid.NewString(), "kind", "weighed", "mass_g", "heavy", "step", "0").MustSay(t, 422, "weight in grams")
	site.Post("/stove/c1", "id", "x", "kind", "next", "step", "0").MustSay(t, 422, "cannot be read")
	require.Len(t, s.on.Events, 1)
	site.Post("/stove/c1/lead", "know", string(lead.Light)).MustLead(t, "/stove/c1")
	require.Equal(t, lead.Light, knows)
	site.Post("/stove/c1/lead", "know", "everything").MustSay(t, 422, "no such hint")
}
