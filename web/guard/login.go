// Package guard is the gate of a kitchen that can be reached from the home
// network: one passphrase for the household.
package guard

import (
	"embed"
	"net"
	"net/http"
	"slices"
	"strings"
	"sync"
	"time"

	"github.com/alexedwards/scs/v2"
	"github.com/gin-gonic/gin"
	"golang.org/x/time/rate"

	"kirdu/app"
	"kirdu/web/frame"
)

//go:embed *.html
var files embed.FS

// A Screen is the gate.
type Screen struct {
	app      *frame.App
	page     *frame.Template
	sessions *scs.SessionManager

	mutex sync.Mutex
	tries map[string]*rate.Limiter
	all   *rate.Limiter
}

// Rates of guesses: one device a few and then one every ten seconds; all
// together one a second.
const (
	burst     = 5
	every     = 10 * time.Second
	allBurst  = 20
	mostKnown = 1000
)

// New returns the gate.
func New(app *frame.App, sessions *scs.SessionManager) *Screen {
	return &Screen{app: app, page: app.Template(files, "*.html"), sessions: sessions,
		tries: map[string]*rate.Limiter{}, all: rate.NewLimiter(1, allBurst)}
}

const sessionKey = "inside"

// What is kept of a session, for the list of devices that are inside.
const (
	KeyID     = "id" // not the token: knowing it opens nothing
	KeyDevice = "device"
	KeySince  = "since" // seconds since 1970
	KeySeen   = "seen"  // the same
)

// seenEvery is how exactly it is known when a device was last here.
const seenEvery = 5 * time.Minute

// device says what a browser calls itself, in a few words.
func device(agent string) string {
	has := func(said ...string) bool {
		return slices.ContainsFunc(said, func(w string) bool { return strings.Contains(agent, w) })
	}
	switch {
	case has("iPad", "Tablet"):
		return "a tablet"
	case has("iPhone", "Android", "Mobile"):
		return "a phone"
	case has("Windows", "Macintosh", "X11", "Linux", "CrOS"):
		return "a computer"
	}
	return "a device"
}

// Guard lets through those who are inside.
func (s *Screen) Guard(c *gin.Context) {
	ctx := c.Request.Context()
	if !s.app.Login {
		return
	}
	if s.sessions.GetBool(ctx, sessionKey) {
		if now := s.app.Now(); now.Sub(time.Unix(s.sessions.GetInt64(ctx, KeySeen), 0)) > seenEvery {
			s.sessions.Put(ctx, KeySeen, now.Unix())
		}
		return
	}
	if c.Request.Method == http.MethodGet {
		c.Redirect(http.StatusSeeOther, "/login")
	} else {
		s.app.Fail(c, frame.Stop(http.StatusUnauthorized, "The kitchen is locked.", "Open it with the passphrase and try again."))
	}
	c.Abort()
}

// view is what the gate shows.
type view struct{ Fault string }

// Show asks for the passphrase.
func (s *Screen) Show(c *gin.Context) error {
	if !s.app.Login {
		c.Redirect(http.StatusSeeOther, "/")
		return nil
	}
	return s.show(c, http.StatusOK, "")
}

func (s *Screen) show(c *gin.Context, status int, fault string) error {
	return s.page.Show(c, status, frame.Frame{Title: "Open the kitchen", Bare: true, Body: view{fault}})
}

// Enter checks a passphrase.
func (s *Screen) Enter(c *gin.Context) error {
	f, err := frame.ReadForm(c, nil)
	if err != nil {
		return err
	}
	ctx := c.Request.Context()
	if !s.allowed(c.Request.RemoteAddr) {
		c.Header("Retry-After", "10")
		return s.show(c, http.StatusTooManyRequests, "Too many tries. Wait ten seconds and try again.")
	}
	known, err := s.app.IsPassphrase(ctx, f.Typed.Get("passphrase"))
	if err != nil {
		return err
	}
	if !known {
		return s.show(c, http.StatusUnauthorized, "That is not the passphrase of this kitchen.")
	}
	// A new token, so that one planted before the login is worth nothing.
	if err := s.sessions.RenewToken(ctx); err != nil {
		return err
	}
	now := s.app.Now()
	s.sessions.Put(ctx, sessionKey, true)
	s.sessions.Put(ctx, KeyID, app.NewID())
	s.sessions.Put(ctx, KeyDevice, device(c.Request.UserAgent()))
	s.sessions.Put(ctx, KeySince, now.Unix())
	s.sessions.Put(ctx, KeySeen, now.Unix())
	c.Redirect(http.StatusSeeOther, "/")
	return nil
}

// Leave ends the session.
func (s *Screen) Leave(c *gin.Context) error {
	if err := s.sessions.Destroy(c.Request.Context()); err != nil {
		return err
	}
	c.Redirect(http.StatusSeeOther, "/login")
	return nil
}

// allowed counts a guess against its device and against all.
func (s *Screen) allowed(address string) bool {
	host, _, err := net.SplitHostPort(address)
	if err != nil {
		host = address
	}
	s.mutex.Lock()
	defer s.mutex.Unlock()
	if len(s.tries) > mostKnown {
		clear(s.tries)
	}
	own, ok := s.tries[host]
	if !ok {
		own = rate.NewLimiter(rate.Every(every), burst)
		s.tries[host] = own
	}
	return own.Allow() && s.all.Allow()
}
