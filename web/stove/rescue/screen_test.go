package rescue

import (
	"context"
	"testing"

	"github.com/stretchr/testify/require"

	"kirdu/store"
	"kirdu/web/frame/frametest"
)

type house struct {
	*frametest.House
	rest
}

// The rest of what the screen asks for is not asked for here.
type rest struct{ kitchen }

func (h house) Cooking(context.Context) ([]store.Cooking, error) {
	return []store.Cooking{{ID: "c1", Name: "Tonight's"}}, nil
}
func (h house) Cook(context.Context, string) (store.Cook, error) {
	return store.Cook{}, store.ErrNotFound
}

// First which pot, then what is wrong with it, then what mends it.
func TestRescue(t *testing.T) {
	h := house{House: frametest.NewHouse(t, "reduced in milk")}
	site := frametest.New(t)
	s := New(site.App, h, h)
	site.GET("/rescue", s.First)
	site.GET("/puddings/:id/rescue", s.OfPudding)
	site.GET("/stove/:id/rescue", s.OfCook)

	site.Get("/rescue").MustSay(t, 200, "/stove/c1/rescue", "/puddings/p1/rescue", h.Kept.Plan.Name)
	site.Get("/puddings/p1/rescue").MustSay(t, 200, `value="too-thin"`)
	site.Get("/puddings/p1/rescue?symptom=too-thin&wanted=6").MustSay(t, 200, h.Kept.Plan.Name)
	site.Get("/puddings/p1/rescue?symptom=haunted").MustSay(t, 422)
	require.Equal(t, 404, site.Get("/stove/c1/rescue").Status)
}
