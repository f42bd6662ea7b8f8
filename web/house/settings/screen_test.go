package settings

import (
	"context"
	"testing"

	"github.com/alexedwards/scs/v2"
	"github.com/stretchr/testify/require"

	"kirdu/app"
	"kirdu/web/frame/frametest"
)

type house struct {
	set map[string]string
}

func (h house) LastCopy() *app.Copied {
	return &app.Copied{Path: "/copies", At: frametest.Now, Trouble: frametest.ErrBroken}
}
func (h house) SetPreferences(_ context.Context, values map[string]string) error {
	for name, value := range values {
		h.set[name] = value
	}
	return nil
}

// Settings are stored all or none, and a copy that failed is told.
func TestSettings(t *testing.T) {
	h := house{set: map[string]string{}}
	site := frametest.New(t)
	s := New(site.App, h, scs.New())
	site.GET("/settings", s.Show)
	site.POST("/settings", s.Save)

	site.Get("/settings").MustSay(t, 200, "No copy could be made in /copies")
	var form []string
	for _, g := range groups {
		form = append(form, g.Name, g.Choices[len(g.Choices)-1].Value)
	}
	site.Post("/settings", append([]string{groups[0].Name, "runes"}, form[2:]...)...).MustSay(t, 422, "choose one of the list")
	require.Empty(t, h.set)
	site.Post("/settings", form...).MustLead(t, "/settings?saved=1")
	require.Len(t, h.set, len(groups))
}
