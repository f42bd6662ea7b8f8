package learnt

import (
	"context"
	"testing"

	"github.com/stretchr/testify/require"

	"kirdu/core/learn"
	"kirdu/core/plan"
	"kirdu/store"
	"kirdu/web/frame/frametest"
)

type house struct {
	kitchen
	forgot *string
}

func (h house) Learnt(context.Context) (*learn.Learnt, error)              { return &learn.Learnt{}, nil }
func (h house) Remembered(context.Context) ([]store.Lesson, error)         { return nil, nil }
func (h house) ForgottenThings(context.Context) ([]store.Forgotten, error) { return nil, nil }
func (h house) Home(context.Context) (plan.Home, error)                    { return plan.Home{}, nil }
func (h house) Forget(_ context.Context, of learn.Quantity, name string) error {
	*h.forgot = string(of) + " " + name
	return nil
}

func TestWhatWasLearnt(t *testing.T) {
	h := house{forgot: new(string)}
	site := frametest.New(t)
	s := New(site.App, h, h)
	site.GET("/logbook/learnt", s.Show)
	site.POST("/logbook/learnt/forget", s.Forget)

	site.Get("/logbook/learnt").MustSay(t, 200)
	site.Post("/logbook/learnt/forget", "of", "gravity", "name", "x").MustSay(t, 422, "nothing of that name")
	require.Empty(t, *h.forgot)
	site.Post("/logbook/learnt/forget", "of", string(learn.Power), "name", "gas burner").MustLead(t, "/logbook/learnt")
	require.Equal(t, string(learn.Power)+" gas burner", *h.forgot)
}
