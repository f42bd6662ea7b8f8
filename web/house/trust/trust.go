// Package trust shows how a phone learns to trust the household's own certificate.
package trust

import (
	"embed"
	"net"
	"net/http"

	"github.com/gin-gonic/gin"

	"kirdu/web/frame"
)

//go:embed *.html *.css
var files embed.FS

// Assets are the styles and modules of the screen.
var Assets = frame.Assets(files)

// A Screen is that page.
type Screen struct {
	app  *frame.App
	page *frame.Template
}

// New returns the screen.
func New(app *frame.App) *Screen { return &Screen{app, app.Template(files, "trust.html")} }

type view struct {
	Fingerprint string
	Kitchen     string // where the kitchen is, over TLS
	Secure      bool   // this page came over TLS already
}

// Show tells the steps.
func (s *Screen) Show(c *gin.Context) error {
	if s.app.Trust == nil {
		return frame.Stop(http.StatusNotFound, "This kitchen has no certificate of its own.", "Start it with: kirdu serve --tls")
	}
	host, _, err := net.SplitHostPort(c.Request.Host)
	if err != nil {
		host = c.Request.Host
	}
	return s.page.Show(c, http.StatusOK, frame.Frame{Title: "Trust this kitchen", Bare: true, Body: view{
		Fingerprint: s.app.Trust.Fingerprint, Kitchen: "https://" + net.JoinHostPort(host, s.app.Trust.Port), Secure: c.Request.TLS != nil}})
}

// Certificate sends the certificate that a phone is to trust.
func (s *Screen) Certificate(c *gin.Context) error {
	if s.app.Trust == nil {
		return frame.Stop(http.StatusNotFound, "This kitchen has no certificate of its own.", "Start it with: kirdu serve --tls")
	}
	c.Header("Content-Disposition", `attachment; filename="kirdu-household.crt"`)
	c.Data(http.StatusOK, "application/x-x509-ca-cert", s.app.Trust.DER)
	return nil
}
