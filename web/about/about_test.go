package about

import (
	"testing"
	"testing/fstest"

	"github.com/stretchr/testify/require"

	"kirdu/web/frame/frametest"
)

// The texts are there, with the licence of every part that is shipped, and no picture but those of the guide.
func TestAbout(t *testing.T) {
	site := frametest.New(t)
	s := New(site.App, fstest.MapFS{"vendor/a-font-LICENSE.txt": {Data: []byte("free as the wind")}})
	site.GET("/guide", s.Guide)
	site.GET("/cautions", s.Cautions)
	site.GET("/licences", s.Licences)
	site.GET("/model", s.Model)
	site.GET("/guide/:name", s.Picture)

	site.Get("/guide").MustSay(t, 200, "spoon")
	site.Get("/cautions").MustSay(t, 200, "hildren")
	site.Get("/licences").MustSay(t, 200, "a-font", "free as the wind")
	site.Get("/model").MustSay(t, 200)
	require.Equal(t, "image/png", site.Get("/guide/workbench.png").Header.Get("Content-Type"))
	site.Get("/guide/passwords.png").MustSay(t, 404)
}
