package sheet

import (
	"context"
	"testing"

	"github.com/stretchr/testify/require"

	"kirdu/core/forecast"
	"kirdu/core/mend"
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
func (h house) Mended(_ context.Context, p *plan.Plan) (*forecast.Forecast, []mend.Found, error) {
	f, found := mend.Forecast(p, forecast.Options{})
	return f, found, nil
}

func TestTheSheet(t *testing.T) {
	h := house{pudding: frametest.Pudding(t, "toasted vermicelli")}
	site := frametest.New(t)
	site.GET("/puddings/:id/sheet", New(site.App, h).Show)

	site.Get("/puddings/p1/sheet").MustSay(t, 200, h.pudding.Plan.Name, "To write down", "sheet-a4")
	site.Get("/puddings/p1/sheet?paper=letter").MustSay(t, 200, "sheet-letter")
	site.Get("/puddings/p1/sheet?paper=napkin").MustSay(t, 422, "no such paper")
	require.Equal(t, 404, site.Get("/puddings/p7/sheet").Status)
}
