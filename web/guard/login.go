// Package guard is the gate of a kitchen that can be reached from the home
// network: one passphrase for the household.
package guard

import (
	"context"
	"crypto/hmac"
	"crypto/sha256"
	"embed"
	"encoding/hex"
	"net"
	"net/http"
	"net/netip"
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

// A kitchen is what the screen asks of the application.
type kitchen interface {
	DeviceKey(ctx context.Context) ([]byte, error)
	IsPassphrase(ctx context.Context, text string) (bool, error)
}

// A Screen is the gate.
type Screen struct {
	app      *frame.App
	kitchen  kitchen
	page     *frame.Template
	sessions *scs.SessionManager

	guesses *Guesses
}

// Guesses bound how often somebody may guess: by device that was inside before, by range of addresses, and all
// strangers together. A stranger with many addresses cannot keep a known device out.
type Guesses struct {
	mutex sync.Mutex
	tries map[string]*rate.Limiter
	all   *rate.Limiter
}

// NewGuesses returns the bounds for guesses.
func NewGuesses() *Guesses {
	return &Guesses{tries: map[string]*rate.Limiter{}, all: rate.NewLimiter(1, allBurst)}
}

// Rates of guesses: one device a few and then one every ten seconds; all strangers
// together one a second.
const (
	burst     = 5
	every     = 10 * time.Second
	allBurst  = 20
	mostKnown = 1000
)

// New returns the gate.
func New(app *frame.App, kitchen kitchen, sessions *scs.SessionManager) *Screen {
	return &Screen{app: app, kitchen: kitchen, page: app.Template(files, "*.html"), sessions: sessions, guesses: NewGuesses()}
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
	key, err := s.kitchen.DeviceKey(ctx)
	if err != nil {
		return err
	}
	if !s.guesses.Allowed(c.Request.RemoteAddr, knownDevice(c.Request, key)) {
		c.Header("Retry-After", "10")
		return s.show(c, http.StatusTooManyRequests, "Too many tries. Wait ten seconds and try again.")
	}
	known, err := s.kitchen.IsPassphrase(ctx, f.Typed.Get("passphrase"))
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
	s.remember(c, key)
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

// Allowed counts a guess against its device, if that was inside before, or against its range of addresses and
// all strangers.
func (g *Guesses) Allowed(address, device string) bool {
	name := "device " + device
	if device == "" {
		name = rangeOf(address)
	}
	g.mutex.Lock()
	defer g.mutex.Unlock()
	if len(g.tries) > mostKnown {
		clear(g.tries)
	}
	own, ok := g.tries[name]
	if !ok {
		own = rate.NewLimiter(rate.Every(every), burst)
		g.tries[name] = own
	}
	return own.Allow() && (device != "" || g.all.Allow())
}

// rangeOf is the network of an address: whoever has one address there has them all.
func rangeOf(address string) string {
	host, _, err := net.SplitHostPort(address)
	if err != nil {
		host = address
	}
	ip, err := netip.ParseAddr(host)
	if err != nil {
		return host
	}
	const network4, network6 = 24, 56
	bits := network6
	if ip = ip.Unmap(); ip.Is4() {
		bits = network4
	}
	prefix, err := ip.WithZone("").Prefix(bits)
	if err != nil {
		return host
	}
	return prefix.String()
}

// knownCookie marks a device that was inside: it opens nothing, and is not kept out by the guesses of others.
const knownCookie = "kirdu_device"

// remember marks a device as known, as long as the passphrase stays.
func (s *Screen) remember(c *gin.Context, key []byte) {
	if knownDevice(c.Request, key) != "" {
		return
	}
	const aYear = 365 * 24 * 3600
	id := app.NewID()
	http.SetCookie(c.Writer, &http.Cookie{Name: knownCookie, Value: id + "." + mark(id, key), Path: "/login", MaxAge: aYear,
		HttpOnly: true, SameSite: http.SameSiteStrictMode, Secure: s.sessions.Cookie.Secure})
}

// knownDevice returns which device asks, "" for a stranger.
func knownDevice(r *http.Request, key []byte) string {
	cookie, err := r.Cookie(knownCookie)
	if err != nil {
		return ""
	}
	id, marked, _ := strings.Cut(cookie.Value, ".")
	if id == "" || !hmac.Equal([]byte(marked), []byte(mark(id, key))) {
		return ""
	}
	return id
}

func mark(id string, key []byte) string {
	sum := hmac.New(sha256.New, key)
	sum.Write([]byte(id))
	return hex.EncodeToString(sum.Sum(nil))
}
