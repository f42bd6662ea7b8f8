package start

import (
	"context"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"kirdu/store"
	"kirdu/web/frame/frametest"
)

type rows struct {
	begun *store.Beginning
	set   map[string]string
}

func (r rows) Begin(_ context.Context, b store.Beginning, _ time.Time) error {
	*r.begun = b
	return nil
}
func (r rows) SetSetting(_ context.Context, name, value string) error {
	r.set[name] = value
	return nil
}

// Of one pot, one burner and a way there is a pudding; or the kitchen alone, for who comes with a recipe.
func TestTheFirstPudding(t *testing.T) {
	r := rows{begun: &store.Beginning{}, set: map[string]string{}}
	site := frametest.New(t)
	s := New(site.App, r)
	site.GET("/start", s.Show)
	site.POST("/start", s.Begin)
	site.POST("/start/skip", s.Skip)
	site.POST("/sample", s.Sample)

	site.Get("/start").MustSay(t, 200, "educed in milk")
	form := []string{"diameter", "220", "height", "120", "kind", "gas", "power", "2200", "bowls", "4", "way", "reduced in milk"}
	site.Post("/start", append([]string{"kind", "peat", "height", "tall"}, form...)...).MustSay(t, 422, "gas, electric, induction or wood",
		`value="tall"`)
	require.Nil(t, r.begun.Plan)
	site.Post("/start", form...).MustLead(t, "/puddings/"+r.begun.ID)
	require.Equal(t, 4, r.begun.Plan.Serves)
	site.Post("/start", append(form, "then", "recipe")...).MustLead(t, "/intake")
	site.Post("/start/skip").MustLead(t, "/")
	require.NotEmpty(t, r.set)
	site.Post("/sample").MustSay(t, 404)
}
