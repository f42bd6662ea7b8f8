package benches

import (
	"testing"

	"github.com/stretchr/testify/require"

	"kirdu/web/frame/frametest"
)

func TestBenches(t *testing.T) {
	h := frametest.NewHouse(t, "reduced in milk")
	site := frametest.New(t)
	s := New(site.App, h, h)
	site.GET("/benches", s.First)
	site.GET("/benches/:bench", s.Show)
	site.POST("/benches/:bench/write", s.Write)

	site.Get("/benches").MustLead(t, "/benches/"+order[0])
	for _, name := range order {
		site.Get("/benches/"+name).MustSay(t, 200, "bench")
	}
	site.Get("/benches/anvil").MustSay(t, 404, "no such bench")
	site.Get("/benches/measure?amount=2+cupz").MustSay(t, 422, "unknown unit", `value="2 cupz"`)
	site.Post("/benches/milk/write", "target", "p1").MustSay(t, 422, "choose a pudding")
	site.Post("/benches/milk/write", "target", "p1.2.0.0", "which", "0").MustSay(t, 422)
	require.Nil(t, h.Saved)
}
