package scale

import (
	"testing"

	"github.com/stretchr/testify/require"

	"kirdu/web/frame/frametest"
)

func TestMoreBowls(t *testing.T) {
	h := frametest.NewHouse(t, "reduced in milk")
	site := frametest.New(t)
	s := New(site.App, h, h)
	site.GET("/puddings/:id/scale", s.Show)
	site.POST("/puddings/:id/scale", s.Take)

	site.Get("/puddings/p1/scale?bowls=6").MustSay(t, 200, "6")
	site.Get("/puddings/p1/scale?bowls=many").MustSay(t, 422, "whole number of bowls", `value="many"`)
	site.Post("/puddings/p1/scale", "version", "3", "bowls", "0", "kind", "mark").MustSay(t, 422)
	site.Post("/puddings/p1/scale", "version", "1", "bowls", "6", "kind", "mark").MustSay(t, 409)
	require.Nil(t, h.Saved)
}
