package ways

import (
	"context"
	"testing"

	"github.com/stretchr/testify/require"

	"kirdu/core/design"
	"kirdu/core/plan"
	"kirdu/core/vessel"
	"kirdu/store"
	"kirdu/web/frame/frametest"
)

type house struct {
	frametest.House
	pots []store.Pot
}

func (h *house) Fresh(_ context.Context, choice plan.WayChoice, pots []vessel.Pot) (*plan.Plan, error) {
	return design.Fresh(choice, pots)
}
func (h *house) Pots(context.Context) ([]store.Pot, error) { return h.pots, nil }

// Of a way a pudding is made in a pot of the kitchen; without one, or with so many bowls that no pot takes them, it
// is said why not.
func TestAWayIsChosen(t *testing.T) {
	pot := store.Pot{ID: "a", Pot: vessel.Pot{Name: "small pot", Shape: vessel.Straight, DiameterMM: 180, HeightMM: 110}}
	for name, pots := range map[string][]store.Pot{"none": nil, "one": {pot}} {
		h := &house{pots: pots}
		site := frametest.New(t)
		s := New(site.App, h, h)
		site.GET("/puddings/new", s.Show)
		site.POST("/puddings/new", s.Create)
		site.Get("/puddings/new?way=reduced+in+milk").MustSay(t, 200, "educed in milk")
		site.Post("/puddings/new", "way", "by magic", "bowls", "4").MustSay(t, 422, "no such way")
		site.Post("/puddings/new", "way", "reduced in milk", "bowls", "½").MustSay(t, 422, "whole number of bowls")
		site.Post("/puddings/new", "way", "reduced in milk", "bowls", "60").MustSay(t, 422)
		require.Nil(t, h.Saved, name)
		got := site.Post("/puddings/new", "way", "reduced in milk", "bowls", "4")
		if name == "none" {
			got.MustSay(t, 422, "no pot in the kitchen")
			continue
		}
		require.Equal(t, 303, got.Status)
		require.Equal(t, 4, h.Saved.Serves)
	}
}
