package review

import (
	"context"
	"testing"
	"time"

	"kirdu/core/cook"
	"kirdu/core/learn"
	"kirdu/store"
	"kirdu/web/frame/frametest"
)

type records1 struct{ cook store.Cook }

func (r records1) Cook(context.Context, string) (store.Cook, error) { return r.cook, nil }

// Only a rehearsal that is over is looked back at.
func TestTheReview(t *testing.T) {
	pudding := frametest.Pudding(t, "reduced in milk")
	k := store.Cook{ID: "c1", PuddingID: "p1", Plan: pudding.Plan, BegunAt: frametest.Now, Zone: "UTC", Line: learn.LineOf(pudding.Plan),
		Rehearsal: true}
	over := k
	over.Events = []cook.Event{{ID: "1", Kind: cook.Began, At: frametest.Now}, {ID: "2", Kind: cook.Finished,
		At: frametest.Now.Add(time.Hour)}}
	for name, one := range map[string]store.Cook{"running": k, "over": over} {
		site := frametest.New(t)
		site.GET("/stove/:id/review", New(site.App, records1{one}).Show)
		got := site.Get("/stove/c1/review")
		if name == "running" {
			got.MustLead(t, "/stove/c1")
			continue
		}
		got.MustSay(t, 200, pudding.Plan.Name)
	}
}
