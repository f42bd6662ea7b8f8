package sheet

import (
	"testing"

	"github.com/stretchr/testify/require"

	"kirdu/web/frame/frametest"
)

func TestTheSheet(t *testing.T) {
	h := frametest.NewHouse(t, "toasted vermicelli")
	site := frametest.New(t)
	site.GET("/puddings/:id/sheet", New(site.App, h).Show)

	site.Get("/puddings/p1/sheet").MustSay(t, 200, h.Kept.Plan.Name, "To write down", "sheet-a4")
	site.Get("/puddings/p1/sheet?paper=letter").MustSay(t, 200, "sheet-letter")
	site.Get("/puddings/p1/sheet?paper=napkin").MustSay(t, 422, "no such paper")
	require.Equal(t, 404, site.Get("/puddings/p7/sheet").Status)
}
