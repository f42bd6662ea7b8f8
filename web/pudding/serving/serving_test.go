package serving

import (
	"context"
	"testing"

	"kirdu/store"
	"kirdu/web/frame/frametest"
)

type house struct{ *frametest.House }

func (h house) Cook(_ context.Context, id string) (store.Cook, error) {
	return store.Cook{}, store.ErrNotFound
}

func TestServing(t *testing.T) {
	h := house{frametest.NewHouse(t, "soaked pearls")}
	site := frametest.New(t)
	s := New(site.App, h, h)
	site.GET("/puddings/:id/serving", s.OfPudding)
	site.GET("/stove/:id/serving", s.OfCook)

	site.Get("/puddings/p1/serving").MustSay(t, 200, h.Kept.Plan.Name, `href="/puddings/p1"`)
	site.Get("/puddings/p1/serving?thickness=12").MustSay(t, 422, "grade from 1 to 8")
	site.Get("/puddings/p1/serving?liquid=ink").MustSay(t, 422, "choose one of the list")
	site.Get("/stove/c1/serving").MustSay(t, 404)
}
