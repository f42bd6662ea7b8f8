package workbench

import (
	"context"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"kirdu/store"
	"kirdu/web/frame/frametest"
)

type house struct {
	*frametest.House
	begun *store.Cook
}

func (h house) Begin(_ context.Context, c store.Cook) error {
	*h.begun = c
	return nil
}

// Shelves are the records of one pudding.
type shelves struct {
	*frametest.House
	rest
	stepped *int
	at      *time.Time
}

// The rest of what the screen asks for is not asked for here.
type rest struct{ records }

func (s shelves) Foreseen(context.Context, string) (f store.Foreseen, ok bool, err error) {
	return f, false, nil
}
func (s shelves) Step(_ context.Context, _ string, _, by int, _ time.Time) error {
	*s.stepped += by
	return nil
}
func (s shelves) ServeAt(_ context.Context, _ string, at time.Time) error {
	*s.at = at
	return nil
}

// What is typed is stored or comes back; undo, the hour of serving and the stove reach what they name.
func TestTheWorkbench(t *testing.T) {
	var stepped int
	var at time.Time
	h := house{frametest.NewHouse(t, "reduced in milk"), &store.Cook{}}
	rows := shelves{House: h.House, stepped: &stepped, at: &at}
	site := frametest.New(t)
	s := New(site.App, h, rows)
	site.GET("/puddings/:id", s.Show)
	site.POST("/puddings/:id", s.Save)
	site.POST("/puddings/:id/undo", s.Undo)
	site.POST("/puddings/:id/serve-at", s.ServeAt)
	site.POST("/puddings/:id/cook", s.Cook)

	site.Get("/puddings/p1").MustSay(t, 200, h.Kept.Plan.Name, "<svg")
	site.Get("/puddings/p2").MustSay(t, 404)
	site.Post("/puddings/p1", "version", "3", "bowls", "-1").MustSay(t, 422, "whole number of bowls")
	require.Nil(t, h.Saved)
	require.Equal(t, 303, site.Post("/puddings/p1", "version", "3", "name", "Sunday's").Status)
	require.Equal(t, "Sunday's", h.Saved.Name)
	site.Post("/puddings/p1/undo", "version", "3").MustLead(t, "/puddings/p1")
	require.Equal(t, -1, stepped)
	site.Post("/puddings/p1/serve-at", "at", "tonight").MustSay(t, 422, "no time of day")
	site.Post("/puddings/p1/serve-at", "at", "2026-03-14T19:30").MustLead(t, "/puddings/p1#serve-at")
	require.Equal(t, frametest.Now.Add(time.Hour), at)
	site.Post("/puddings/p1/cook", "speed", "1000", "rehearse", "on").MustSay(t, 422, "1 to 120")
	require.Empty(t, h.begun.ID)
	site.Post("/puddings/p1/cook").MustLead(t, "/stove/"+h.begun.ID)
	require.Equal(t, "p1", h.begun.PuddingID)
	require.False(t, h.begun.Rehearsal)
}
