package trust

import (
	"testing"

	"github.com/stretchr/testify/require"

	"kirdu/web/frame"
	"kirdu/web/frame/frametest"
)

// A kitchen that speaks TLS gives its certificate; another has none.
func TestTrust(t *testing.T) {
	for _, one := range []*frame.Trust{nil, {DER: []byte("der"), Fingerprint: "AB:CD", Port: "8443"}} {
		site := frametest.New(t)
		site.App.Trust = one
		s := New(site.App)
		site.GET("/trust", s.Show)
		site.GET("/trust/kirdu-household.crt", s.Certificate)
		if one == nil {
			site.Get("/trust").MustSay(t, 404, "no certificate")
			site.Get("/trust/kirdu-household.crt").MustSay(t, 404)
			continue
		}
		site.Get("/trust").MustSay(t, 200, "AB:CD", "https://example.com:8443")
		require.Equal(t, "der", site.Get("/trust/kirdu-household.crt").Body)
	}
}
