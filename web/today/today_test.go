package today

import (
	"context"
	"testing"

	"github.com/stretchr/testify/require"

	"kirdu/store"
	"kirdu/web/frame/frametest"
)

// A house has one pudding on the shelf and nothing on the stove.
type house struct {
	*frametest.House
	rest
	empty  bool
	broken error
}

// The rest of what the screen asks for is not asked for here.
type rest struct{ kitchen }

func (h house) WantsStart(context.Context) (bool, error)                   { return h.empty, h.broken }
func (h house) Planned(context.Context) ([]store.Pudding, error)           { return nil, nil }
func (h house) CountPuddings(context.Context) (int, error)                 { return 1, nil }
func (h house) Gatherings(context.Context) ([]store.Gathering, error)      { return nil, nil }
func (h house) LatestLines(context.Context, int) ([]store.BookLine, error) { return nil, nil }
func (h house) OnStove(context.Context) ([]store.Cook, error)              { return nil, nil }

func TestToday(t *testing.T) {
	usual := frametest.NewHouse(t, "reduced in milk")
	for name, h := range map[string]house{"usual": {House: usual}, "new": {empty: true}, "broken": {broken: frametest.ErrBroken}} {
		site := frametest.New(t)
		site.GET("/", New(site.App, h, h).Show)
		switch got := site.Get("/"); name {
		case "usual":
			got.MustSay(t, 200, usual.Kept.Plan.Name, `href="/puddings/p1"`)
			require.NotContains(t, got.Body, "/stove/", "nothing is on it")
		case "new":
			got.MustLead(t, "/start")
		case "broken":
			got.MustTellOfTheProgram(t)
		}
	}
}
