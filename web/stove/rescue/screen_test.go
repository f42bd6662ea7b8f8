package rescue

import (
	"context"
	"testing"

	"github.com/stretchr/testify/require"

	"kirdu/core/plan"
	"kirdu/store"
	"kirdu/web/frame/frametest"
)

type house struct {
	kitchen
	pudding store.Pudding
}

func (h house) Pudding(context.Context, string) (store.Pudding, error) { return h.pudding, nil }
func (h house) Cooking(context.Context) ([]store.Cooking, error) {
	return []store.Cooking{{ID: "c1", Name: "Tonight's"}}, nil
}
func (h house) Puddings(context.Context, int) ([]store.Pudding, error) {
	return []store.Pudding{h.pudding}, nil
}
func (h house) Cook(context.Context, string) (store.Cook, error) {
	return store.Cook{}, store.ErrNotFound
}
func (h house) Burners(context.Context) ([]store.Burner, error) { return nil, nil }
func (h house) Pots(context.Context) ([]store.Pot, error)       { return nil, nil }
func (h house) Home(context.Context) (plan.Home, error)         { return plan.Home{}, nil }

// First which pot, then what is wrong with it, then what mends it.
func TestRescue(t *testing.T) {
	h := house{pudding: frametest.Pudding(t, "reduced in milk")}
	site := frametest.New(t)
	s := New(site.App, h, h)
	site.GET("/rescue", s.First)
	site.GET("/puddings/:id/rescue", s.OfPudding)
	site.GET("/stove/:id/rescue", s.OfCook)

	site.Get("/rescue").MustSay(t, 200, "/stove/c1/rescue", "/puddings/p1/rescue", h.pudding.Plan.Name)
	site.Get("/puddings/p1/rescue").MustSay(t, 200, `value="too-thin"`)
	site.Get("/puddings/p1/rescue?symptom=too-thin&wanted=6").MustSay(t, 200, h.pudding.Plan.Name)
	site.Get("/puddings/p1/rescue?symptom=haunted").MustSay(t, 422)
	require.Equal(t, 404, site.Get("/stove/c1/rescue").Status)
}
