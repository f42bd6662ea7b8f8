package guard

import (
	"io"
	"log/slog"
	"net"
	"net/http"
	"strings"
	"time"

	"kirdu/store"
)

// A Limit is how long the body of a request may be at some addresses.
type Limit struct {
	Prefix, Suffix string // of the path
	Most           int64  // bytes
}

// Bodies bound what is sent.
type Bodies struct {
	Usual     int64 // bytes
	Others    []Limit
	Patience  time.Duration // how long nothing need come
	LeastRate int64         // bytes a second that come at least: each second's worth buys a second more
	Answer    time.Duration // how long there is for the answer, from when the last of it came
}

// Around puts what keeps the application safe around it: known names only, headers,
// bodies of a bounded length, nothing sent by other sites.
func Around(hosts []string, log *slog.Logger, bodies Bodies, handler http.Handler) http.Handler {
	return headAsGet(knownHost(hosts, headers(limited(bodies, crossOrigin(log).Handler(handler)))))
}

// Witnessed lets the answer to a failure say whether something was stored.
func Witnessed(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		next.ServeHTTP(w, r.WithContext(store.WithWitness(r.Context())))
	})
}

// mostDrained is how much of a body that nobody wants is read all the same.
const mostDrained = 32 << 20

// limited keeps bodies small, but for the addresses that take files, and lets them come as long as they come.
func limited(bodies Bodies, handler http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		most := bodies.Usual
		for _, l := range bodies.Others {
			if strings.HasPrefix(r.URL.Path, l.Prefix) && strings.HasSuffix(r.URL.Path, l.Suffix) {
				most = l.Most
			}
		}
		if r.ContentLength != 0 {
			r.Body = &arriving{ReadCloser: r.Body, control: http.NewResponseController(w), bodies: bodies, from: time.Now()}
		}
		whole := r.Body
		http.MaxBytesHandler(handler, most).ServeHTTP(w, r)
		// What is too large is read to its end, within reason: a browser that still sends hears no answer.
		_, _ = io.Copy(io.Discard, io.LimitReader(whole, mostDrained))
	})
}

// An arriving body has as much time as what came of it bought: a photo over a slow line arrives, and who sends
// nothing is not waited for.
type arriving struct {
	io.ReadCloser
	control *http.ResponseController
	bodies  Bodies
	from    time.Time
	came    int64
}

func (a *arriving) Read(into []byte) (int, error) {
	bought := time.Duration(float64(a.came) / float64(a.bodies.LeastRate) * float64(time.Second))
	until := a.from.Add(a.bodies.Patience + bought)
	// A connection without deadlines has those of the server.
	_ = a.control.SetReadDeadline(until)
	_ = a.control.SetWriteDeadline(until.Add(a.bodies.Answer))
	n, err := a.ReadCloser.Read(into)
	a.came += int64(n)
	return n, err
}

// headAsGet answers HEAD as GET is answered: the server leaves the body out. A stream has no end to wait for.
func headAsGet(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		if r.Method == http.MethodHead && !strings.HasSuffix(r.URL.Path, "/changes") {
			r = r.Clone(r.Context())
			r.Method = http.MethodGet
		}
		next.ServeHTTP(w, r)
	})
}

// headers sets what every answer carries.
func headers(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		h := w.Header()
		h.Set("Content-Security-Policy", "default-src 'self'; base-uri 'none'; form-action 'self'; frame-ancestors 'none'; object-src 'none'")
		h.Set("X-Content-Type-Options", "nosniff")
		h.Set("Referrer-Policy", "same-origin")
		h.Set("X-Frame-Options", "DENY")
		if !strings.HasPrefix(r.URL.Path, "/static/") {
			h.Set("Cache-Control", "no-store")
		}
		next.ServeHTTP(w, r)
	})
}

func crossOrigin(log *slog.Logger) *http.CrossOriginProtection {
	protection := http.NewCrossOriginProtection()
	protection.SetDenyHandler(http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		log.Warn("cross-origin request refused", "path", r.URL.Path, "origin", r.Header.Get("Origin"))
		http.Error(w, "This came from another site and was refused. Open Kirdu itself and try there.", http.StatusForbidden)
	}))
	return protection
}

// knownHost refuses names that the application does not go by: a page of
// another site whose name leads here must not reach it.
func knownHost(hosts []string, next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		host := r.Host
		if name, _, err := net.SplitHostPort(host); err == nil {
			host = name
		}
		host = strings.Trim(host, "[]")
		ip := net.ParseIP(host)
		known := host == "localhost" || (ip != nil && (ip.IsLoopback() || hosts != nil))
		for _, name := range hosts {
			known = known || strings.EqualFold(host, name)
		}
		if !known {
			http.Error(w, "Kirdu does not go by this name. Use the address that it printed when it started.", http.StatusMisdirectedRequest)
			return
		}
		next.ServeHTTP(w, r)
	})
}
