package archive

import (
	"context"
	"io"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"kirdu/core/cook"
	"kirdu/core/learn"
	"kirdu/store"
	"kirdu/web/frame/frametest"
)

type house struct {
	kitchen
	records
	t      testing.TB
	broken error
}

func (h house) Export(_ context.Context, w io.Writer) error {
	if h.broken != nil {
		return h.broken
	}
	_, err := io.WriteString(w, "PK")
	return err
}
func (h house) AllBatches(context.Context) ([]store.Cook, error) {
	p, finished := frametest.Pudding(h.t, "reduced in milk"), frametest.Now.Add(time.Hour)
	return []store.Cook{{ID: "c1", Plan: p.Plan, BegunAt: frametest.Now, Zone: "UTC", Line: learn.LineOf(p.Plan), Tags: []string{"=cmd()"},
		Events: []cook.Event{{ID: "1", Kind: cook.Began, At: frametest.Now}, {ID: "2", Kind: cook.Finished, At: finished}}}}, nil
}

func TestTheArchive(t *testing.T) {
	for _, broken := range []error{nil, frametest.ErrBroken} {
		h := house{t: t, broken: broken}
		site := frametest.New(t)
		s := New(site.App, h, h)
		site.GET("/archive", s.Show)
		site.POST("/archive", s.Look)
		site.POST("/archive/take", s.Take)
		site.GET("/archive/file", s.Export)
		site.GET("/archive/batches.csv", s.Batches)
		site.Get("/archive").MustSay(t, 200, "rchive")
		site.Post("/archive").MustSay(t, 422, "choose an archive")
		site.Post("/archive/take", "token", "of yesterday").MustSay(t, 422, "too long ago")
		got := site.Get("/archive/file")
		if broken != nil {
			got.MustTellOfTheProgram(t)
			continue
		}
		require.Equal(t, "PK", got.Body)
		require.Contains(t, got.Header.Get("Content-Disposition"), "kirdu-2026-03-14.kirdu.zip")
		table := site.Get("/archive/batches.csv").Body
		require.Contains(t, table, "c1")
		require.NotContains(t, table, ",=cmd", "no cell is a formula")
	}
}
