package compare

import (
	"testing"

	"github.com/stretchr/testify/require"

	"kirdu/core/design"
	"kirdu/web/frame/frametest"
)

func TestCompare(t *testing.T) {
	h := frametest.NewHouse(t, "reduced in milk")
	site := frametest.New(t)
	s := New(site.App, h, h)
	site.GET("/puddings/:id/compare", s.Show)
	site.POST("/puddings/:id/compare", s.Take)

	question := design.Variants(h.Kept.Plan)[0].Key
	site.Get("/puddings/p1/compare?question="+question).MustSay(t, 200, h.Kept.Plan.Name, "<svg")
	site.Get("/puddings/p1/compare?question=none").MustSay(t, 422)
	site.Post("/puddings/p1/compare", "version", "2", "question", question).MustSay(t, 409)
	site.Post("/puddings/p1/compare", "version", "3", "question", "none").MustSay(t, 422)
	require.Nil(t, h.Saved, "nothing of that is taken")
	site.Post("/puddings/p1/compare", "version", "3", "question", question).MustLead(t, "/puddings/p1")
	require.NotNil(t, h.Saved)
}
