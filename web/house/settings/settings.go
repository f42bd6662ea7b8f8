// Package settings is how Kirdu writes and looks, and who may come in from the home
// network.
package settings

import (
	"context"
	"embed"
	"net"
	"net/http"
	"net/url"
	"slices"
	"sort"
	"strings"
	"time"

	"github.com/alexedwards/scs/v2"
	"github.com/gin-gonic/gin"
	"rsc.io/qr"

	"kirdu/app"
	"kirdu/core/measure"
	"kirdu/store"
	"kirdu/web/frame"
	"kirdu/web/guard"
	"kirdu/words"
)

//go:embed *.html *.css
var files embed.FS

// Assets are the styles and modules of the screen.
var Assets = frame.Assets(files)

// A kitchen is what the screen asks of the application.
type kitchen interface {
	LastCopy() *app.Copied
	SetPreferences(ctx context.Context, chosen map[string]string) error
}

// A Screen is the settings.
type Screen struct {
	app      *frame.App
	kitchen  kitchen
	page     *frame.Template
	sessions *scs.SessionManager
}

// New returns the screen.
func New(app *frame.App, kitchen kitchen, sessions *scs.SessionManager) *Screen {
	return &Screen{app, kitchen, app.Template(files, "*.html"), sessions}
}

type view struct {
	Groups    []group
	Login     bool // a passphrase is asked for
	Addresses []string
	Sessions  []session
	Fault     string
	Trust     *frame.Trust
	TrustAt   []string // where a phone learns to trust it, beside Addresses
	Copied    string   // how the last daily copy went
	CopyFault bool
}

type group struct {
	Name, Title, About string
	Choices            []choice
}

type choice struct {
	Value, Label string
	On           bool
}

// session is one device that is inside.
type session struct {
	ID, Device, Since, Seen string
	Here                    bool
}

// groups are the settings in words, in their order.
var groups = []group{
	{Name: "units", Title: "Amounts", About: "Grams and your own measures are always shown.",
		Choices: []choice{{"metric", "metric", false}, {store.UnitsUS, "with pounds, ounces and °F beside", false}}},
	{Name: "numbers", Title: "Numbers", About: "A comma may be typed in either case.",
		Choices: []choice{{"point", "3.5", false}, {"comma", "3,5", false}}},
	{Name: "dates", Title: "Dates", Choices: []choice{{"words", "25 November 2026", false}, {"month", "November 25, 2026", false},
		{"iso", "2026-11-25", false}}},
	{Name: "heat", Title: "Temperatures", Choices: []choice{{"c", "°C", false}, {"cf", "°C with °F beside", false}}},
	{Name: "week", Title: "Weeks begin on", About: "The logbook is listed by weeks.",
		Choices: []choice{{"monday", "Monday", false}, {"sunday", "Sunday", false}}},
	{Name: "theme", Title: "Colours", Choices: []choice{{"auto", "as the device", false}, {"light", "light", false}, {"dark", "dark", false}}},
	{Name: "lead", Title: "Led by the hand at the stove", About: "What to tap and when to weigh, beside each step.",
		Choices: []choice{{"first", "until a first batch is in the logbook", false}, {"always", "always", false}, {"never", "never", false}}},
	{Name: "copies", Title: "Daily copies", About: "A checked copy of the data, each day that Kirdu runs.",
		Choices: []choice{{"week", "the last seven are kept", false}, {"off", "none", false}}},
}

// Show lists the settings.
func (s *Screen) Show(c *gin.Context) error { return s.show(c, http.StatusOK, "") }

func (s *Screen) show(c *gin.Context, status int, fault string) error {
	say := frame.Words(c)
	ctx := c.Request.Context()
	preferences := frame.PreferencesOf(c)
	v := view{Login: s.app.Login, Fault: fault, Addresses: addresses(c.Request), Trust: s.app.Trust}
	if s.app.Trust != nil {
		for _, at := range v.Addresses {
			v.TrustAt = append(v.TrustAt, s.trustAt(at))
		}
	}
	if last := s.kitchen.LastCopy(); last != nil {
		v.Copied, v.CopyFault = say.Sprintf("The last copy: %s.", last.Path), last.Trouble != nil
		if v.CopyFault {
			v.Copied = say.Sprintf("No copy could be made in %s: %s.", last.Path, say.Fault(last.Trouble))
		}
	}
	for _, g := range groups {
		now := preferences.Value(g.Name)
		g.Choices = slices.Clone(g.Choices)
		for i := range g.Choices {
			g.Choices[i].On = g.Choices[i].Value == now
		}
		v.Groups = append(v.Groups, g)
	}
	if s.app.Login {
		var err error
		if v.Sessions, err = s.list(say, ctx); err != nil {
			return err
		}
	}
	frame := frame.Frame{Title: "Settings", Section: "kitchen", Body: v}
	if c.Query("saved") != "" {
		frame.Notice = "Saved."
	}
	return s.page.Show(c, status, frame)
}

// Save stores them, all or none.
func (s *Screen) Save(c *gin.Context) error {
	f, err := frame.ReadForm(c, nil)
	if err != nil {
		return err
	}
	chosen := map[string]string{}
	for _, g := range groups {
		value := f.Text(g.Name)
		if !slices.ContainsFunc(g.Choices, func(one choice) bool { return one.Value == value }) {
			return s.show(c, http.StatusUnprocessableEntity, g.Title+": choose one of the list.")
		}
		chosen[g.Name] = value
	}
	if err := s.kitchen.SetPreferences(c.Request.Context(), chosen); err != nil {
		return err
	}
	c.Redirect(http.StatusSeeOther, "/settings?saved=1")
	return nil
}

// addresses are where a phone of the home network finds this program, with the
// port of the request; none while it listens on this machine only.
func addresses(r *http.Request) (list []string) {
	_, port, err := net.SplitHostPort(r.Host)
	if err != nil {
		port = "80"
	}
	own, err := net.InterfaceAddrs()
	if err != nil {
		return nil
	}
	for _, a := range own {
		if ip, ok := a.(*net.IPNet); ok && ip.IP.IsGlobalUnicast() && ip.IP.To4() != nil {
			scheme := "http://"
			if r.TLS != nil {
				scheme = "https://"
			}
			list = append(list, scheme+net.JoinHostPort(ip.IP.String(), port))
		}
	}
	// Those of a home network first.
	sort.SliceStable(list, func(i, j int) bool { return private(list[i]) && !private(list[j]) })
	return list
}

func private(address string) bool {
	u, err := url.Parse(address)
	return err == nil && net.ParseIP(u.Hostname()).IsPrivate()
}

// trustAt is where, beside an address over TLS, a phone learns to trust it.
func (s *Screen) trustAt(address string) string {
	u, err := url.Parse(address)
	if err != nil {
		return ""
	}
	return "http://" + net.JoinHostPort(u.Hostname(), s.app.Trust.PlainPort) + "/trust"
}

// errCode reports a picture that was asked for when there is none.
var errCode = measure.Code("settings.code")

// Code is the QR code of the first address.
func (s *Screen) Code(c *gin.Context) error {
	list := addresses(c.Request)
	if !s.app.Login || len(list) == 0 {
		return frame.Stop(http.StatusNotFound, "There is no address for a phone.", frame.Words(c).Fault(errCode))
	}
	at := list[0]
	if wanted := c.Query("at"); slices.Contains(list, wanted) {
		at = wanted
	}
	if s.app.Trust != nil && c.Query("trust") != "" {
		at = s.trustAt(at)
	}
	code, err := qr.Encode(at, qr.M)
	if err != nil {
		return err
	}
	code.Scale = 6
	c.Data(http.StatusOK, "image/png", code.PNG())
	return nil
}

// list returns the devices that are inside, the latest first.
func (s *Screen) list(say words.Printer, ctx context.Context) (all []session, err error) {
	own := s.sessions.GetString(ctx, guard.KeyID)
	type timed struct {
		session
		since time.Time
	}
	var found []timed
	err = s.sessions.Iterate(ctx, func(one context.Context) error {
		id := s.sessions.GetString(one, guard.KeyID)
		if id == "" {
			return nil
		}
		since, seen := time.Unix(s.sessions.GetInt64(one, guard.KeySince), 0), time.Unix(s.sessions.GetInt64(one, guard.KeySeen), 0)
		written := func(t time.Time) string { return say.Time(t.In(s.app.Zone), "2 January, 15:04") }
		found = append(found, timed{session{ID: id, Device: s.sessions.GetString(one, guard.KeyDevice), Since: written(since),
			Seen: written(seen), Here: id == own}, since})
		return nil
	})
	sort.Slice(found, func(i, j int) bool { return found[i].since.After(found[j].since) })
	for _, one := range found {
		all = append(all, one.session)
	}
	return all, err
}

// End shuts a device out.
func (s *Screen) End(c *gin.Context) error {
	ctx := c.Request.Context()
	id := strings.TrimSpace(c.Param("session"))
	ended := false
	err := s.sessions.Iterate(ctx, func(one context.Context) error {
		if id == "" || s.sessions.GetString(one, guard.KeyID) != id {
			return nil
		}
		ended = true
		return s.sessions.Destroy(one)
	})
	switch {
	case err != nil:
		if err := err; err != nil {
			return err
		}
	case !ended:
		if err := frame.Stop(http.StatusNotFound, "That device is not inside any more."); err != nil {
			return err
		}
	default:
		c.Redirect(http.StatusSeeOther, "/settings#inside")
	}
	return nil
}
