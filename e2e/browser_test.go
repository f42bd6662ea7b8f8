// Package e2e drives the real interface in a real browser, as a cook does.
package e2e

import (
	"context"
	_ "embed"
	"encoding/json"
	"errors"
	"fmt"
	"log"
	"log/slog"
	"net/http"
	"net/http/httptest"
	"os"
	"path/filepath"
	"strings"
	"sync"
	"sync/atomic"
	"testing"
	"time"

	"github.com/chromedp/cdproto/cdp"
	"github.com/chromedp/cdproto/emulation"
	cdplog "github.com/chromedp/cdproto/log"
	"github.com/chromedp/cdproto/network"
	"github.com/chromedp/cdproto/runtime"
	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/require"

	"kirdu/app"
	"kirdu/demo"
	"kirdu/store"
	"kirdu/web"
)

//go:embed testdata/axe.min.js
var axe string

// browser is one Chromium for the package.
var browser context.Context

func TestMain(m *testing.M) {
	opts := append(chromedp.DefaultExecAllocatorOptions[:], chromedp.ExecPath("/usr/bin/chromium-headless-shell"), chromedp.NoSandbox,
		chromedp.Flag("disable-quic", true), chromedp.Flag("disable-component-update", true))
	alloc, stopAlloc := chromedp.NewExecAllocator(context.Background(), opts...)
	defer stopAlloc()
	ctx, stop := chromedp.NewContext(alloc)
	defer stop()
	if err := chromedp.Do(ctx); err != nil { // starts it; a timeout here would end it
		log.Panic(err)
	}
	browser = ctx
	m.Run()
}

// A clock is the kitchen's time, which a test moves on.
type clock struct {
	mutex sync.Mutex
	now   time.Time
}

func (c *clock) Now() time.Time {
	c.mutex.Lock()
	defer c.mutex.Unlock()
	return c.now
}

func (c *clock) pass(minutes float64) {
	c.mutex.Lock()
	defer c.mutex.Unlock()
	c.now = c.now.Add(time.Duration(minutes * float64(time.Minute)))
}

// A kitchen is the application with the sample kitchen.
type kitchen struct {
	app    *app.Kitchen
	store  *store.Store
	server *httptest.Server
	clock  *clock
	path   string
	down   atomic.Bool // the connection is cut
}

func newKitchen(t *testing.T) *kitchen {
	t.Helper()
	k := &kitchen{clock: &clock{now: time.Now().UTC()}, path: filepath.Join(t.TempDir(), "kitchen.sqlite")}
	k.open(t)
	require.NoError(t, demo.Fill(t.Context(), k.app))
	t.Cleanup(func() { k.server.Close(); k.store.Close() })
	return k
}

func (k *kitchen) open(t *testing.T) {
	s, err := store.Open(context.Background(), k.path)
	require.NoError(t, err)
	k.store = s
	k.app = &app.Kitchen{Store: s, Now: k.clock.Now, Zone: time.UTC, Log: slog.New(slog.DiscardHandler), Demo: true}
	handler := web.Handler(web.Options{Kitchen: k.app})
	reachable := http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		if !k.down.Load() {
			handler.ServeHTTP(w, r)
		} else if connection, _, err := w.(http.Hijacker).Hijack(); err == nil {
			connection.Close()
		}
	})
	if k.server == nil {
		k.server = httptest.NewServer(reachable)
	} else {
		k.server.Config.Handler = reachable
	}
}

// restart closes the data file and opens it again behind the same address.
func (k *kitchen) restart(t *testing.T) {
	require.NoError(t, k.store.Close())
	k.open(t)
}

// A page is one tab with cookies of its own. What goes wrong in it, on the
// console or with a request, fails the test.
type page struct {
	t       *testing.T
	ctx     context.Context
	site    string
	mutex   sync.Mutex
	wrong   []string
	allowed []string // parts of complaints that a test provokes on purpose
}

func newPage(t *testing.T, k *kitchen, width, height int64) *page {
	t.Helper()
	ctx, closeTab := chromedp.NewContext(browser, chromedp.WithNewBrowserContext())
	t.Cleanup(closeTab)
	p := &page{t: t, site: k.server.URL}
	require.NoError(t, chromedp.Do(ctx, chromedp.EmulateViewport(width, height)))
	p.watch(ctx)
	patience := 4*time.Minute + *cut // a machine may be shared; what hangs still ends
	ctx, cancel := context.WithTimeout(ctx, patience)
	t.Cleanup(cancel)
	p.ctx = ctx
	t.Cleanup(p.mustBeClean)
	return p
}

// watch listens for console errors, exceptions and failed requests.
func (p *page) watch(ctx context.Context) {
	events := chromedp.Func(func(ctx context.Context, t *chromedp.Target) error {
		if _, err := cdp.Call(ctx, t, cdplog.Enable, cdp.Empty{}); err != nil {
			return err
		}
		_, err := cdp.Call(ctx, t, network.Enable, network.EnableParams{})
		return err
	})
	require.NoError(p.t, chromedp.Do(ctx, events))
	entries := chromedp.Events(ctx, cdplog.EntryAdded)
	thrown := chromedp.Events(ctx, runtime.ExceptionThrown)
	answers := chromedp.Events(ctx, network.ResponseReceived)
	go func() {
		for e, err := range entries {
			if err != nil {
				return
			}
			if e.Entry.Level == cdplog.EntryLevelError {
				p.complain(e.Entry.Text + " " + e.Entry.URL)
			}
		}
	}()
	go func() {
		for e, err := range thrown {
			if err != nil {
				return
			}
			p.complain(e.ExceptionDetails.Text)
		}
	}()
	go func() {
		for e, err := range answers {
			if err != nil {
				return
			}
			if e.Response.Status >= http.StatusBadRequest {
				p.complain(fmt.Sprintf("%d from %s", e.Response.Status, e.Response.URL))
			}
		}
	}()
}

func (p *page) complain(text string) {
	p.mutex.Lock()
	defer p.mutex.Unlock()
	for _, allowed := range p.allowed {
		if strings.Contains(text, allowed) {
			return
		}
	}
	p.wrong = append(p.wrong, text)
}

func (p *page) mustBeClean() {
	p.mutex.Lock()
	defer p.mutex.Unlock()
	if len(p.wrong) > 0 {
		p.t.Errorf("the browser complained: %s", strings.Join(p.wrong, "; "))
	}
}

// do runs steps and keeps a picture when one fails.
func (p *page) do(steps ...chromedp.Action[chromedp.Void]) {
	p.t.Helper()
	if err := chromedp.Do(p.ctx, steps...); err != nil {
		p.picture()
		require.NoError(p.t, err)
	}
}

func (p *page) picture() {
	ctx, cancel := context.WithTimeout(context.WithoutCancel(p.ctx), 5*time.Second)
	defer cancel()
	if picture, err := chromedp.Run(ctx, chromedp.CaptureScreenshot()); err == nil {
		name := filepath.Join(p.t.ArtifactDir(), "failed.png")
		if os.WriteFile(name, picture, 0o644) == nil {
			p.t.Logf("picture: %s", name)
		}
	}
}

func (p *page) open(path string) {
	p.t.Helper()
	p.do(chromedp.Navigate(p.site+path), chromedp.WaitVisible(chromedp.CSS("main")))
}

// js evaluates an expression.
func js[T any](p *page, expression string) T {
	p.t.Helper()
	value, err := chromedp.Run(p.ctx, chromedp.Evaluate[T](expression, chromedp.EvalAwaitPromise))
	if err != nil {
		p.picture()
		require.NoError(p.t, err, expression)
	}
	return value
}

// text returns what an element says, with its white space folded.
func (p *page) text(selector string) string {
	p.t.Helper()
	quoted, err := json.Marshal(selector)
	require.NoError(p.t, err)
	return js[string](p, fmt.Sprintf(`(document.querySelector(%s)?.textContent ?? "").replace(/[\s\u202f]+/g, " ").trim()`, quoted))
}

// until waits for a condition in the page.
func (p *page) until(condition string) {
	p.t.Helper()
	const every = 30 * time.Millisecond
	deadline := time.Now().Add(30 * time.Second)
	for {
		met, err := chromedp.Run(p.ctx, chromedp.Evaluate[bool](`document.readyState !== "loading" && (`+condition+`)`))
		if err == nil && met {
			return
		}
		// Between two pages there is nothing to ask.
		if time.Now().After(deadline) || errors.Is(err, context.DeadlineExceeded) {
			p.picture()
			require.FailNow(p.t, "waited in vain", "%s: %v %s", condition, err, p.text("main"))
		}
		time.Sleep(every)
	}
}

// change sets a field as a cook would and lets it be noticed.
func (p *page) change(selector, value string) {
	p.t.Helper()
	s, err := json.Marshal(selector)
	require.NoError(p.t, err)
	v, err := json.Marshal(value)
	require.NoError(p.t, err)
	js[bool](p, fmt.Sprintf(`(() => { const field = document.querySelector(%s); field.value = %s;
		field.dispatchEvent(new Event("input", {bubbles: true}));
		field.dispatchEvent(new Event("change", {bubbles: true})); return true; })()`, s, v))
}

// press clicks the button of that text or label, once it is there: to look and to click are one, as the page may be drawn anew
// between them.
func (p *page) press(name string) {
	p.t.Helper()
	n, err := json.Marshal(name)
	require.NoError(p.t, err)
	p.until(fmt.Sprintf(`(() => { const e = [...document.querySelectorAll("button, summary, a")]
		.find((e) => (e.textContent.trim().replace(/\s+/g, " ") === %[1]s || e.ariaLabel === %[1]s) && e.checkVisibility());
		e?.click(); return e !== undefined; })()`, n))
}

// scheme sets light or dark.
func (p *page) scheme(name string) {
	p.do(chromedp.Func(func(ctx context.Context, t *chromedp.Target) error {
		features := []*emulation.MediaFeature{{Name: "prefers-color-scheme", Value: name}}
		_, err := cdp.Call(ctx, t, emulation.SetEmulatedMedia, emulation.SetEmulatedMediaParams{Features: features})
		return err
	}))
}

// withoutScript turns the page's own scripts off; the tests still may ask it.
func (p *page) withoutScript() {
	p.do(chromedp.Func(func(ctx context.Context, t *chromedp.Target) error {
		_, err := cdp.Call(ctx, t, emulation.SetScriptExecutionDisabled, emulation.SetScriptExecutionDisabledParams{Value: true})
		return err
	}))
}

// mustBeAccessible asks axe-core; it must find nothing.
func (p *page) mustBeAccessible(where string) {
	p.t.Helper()
	js[bool](p, axe+"; true")
	found := js[string](p, `axe.run(document, {runOnly: ["wcag2a", "wcag2aa", "wcag21a", "wcag21aa", "wcag22aa", "best-practice"],
		preload: false, resultTypes: ["violations"]}).then((r) =>
		JSON.stringify(r.violations.map((v) => v.id + ": " + v.nodes.map((n) => n.target.join(" ") + " (" +
			n.failureSummary.split("\n").slice(1).join(" ") + ")").join("; "))))`)
	if found != "[]" {
		p.t.Errorf("%s: %s", where, found)
	}
}
