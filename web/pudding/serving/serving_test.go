package serving

import (
	"context"
	"testing"

	"kirdu/core/forecast"
	"kirdu/core/plan"
	"kirdu/store"
	"kirdu/web/frame/frametest"
)

type house struct {
	pudding store.Pudding
}

func (h house) Pudding(_ context.Context, id string) (store.Pudding, error) {
	if id != h.pudding.ID {
		return store.Pudding{}, store.ErrNotFound
	}
	return h.pudding, nil
}
func (h house) Forecast(ctx context.Context, p *plan.Plan) (*forecast.Forecast, error) {
	return frametest.Forecast(ctx, p)
}
func (h house) Cook(_ context.Context, id string) (store.Cook, error) {
	return store.Cook{}, store.ErrNotFound
}

func TestServing(t *testing.T) {
	h := house{pudding: frametest.Pudding(t, "soaked pearls")}
	site := frametest.New(t)
	s := New(site.App, h, h)
	site.GET("/puddings/:id/serving", s.OfPudding)
	site.GET("/stove/:id/serving", s.OfCook)

	site.Get("/puddings/p1/serving").MustSay(t, 200, h.pudding.Plan.Name, `href="/puddings/p1"`)
	site.Get("/puddings/p1/serving?thickness=12").MustSay(t, 422, "grade from 1 to 8")
	site.Get("/puddings/p1/serving?liquid=ink").MustSay(t, 422, "choose one of the list")
	site.Get("/stove/c1/serving").MustSay(t, 404)
}
