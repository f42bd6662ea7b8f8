package e2e

import (
	"context"
	"flag"
	"fmt"
	"testing"
	"time"

	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/require"

	"kirdu/core/cook"
)

// cut is for how long there is no connection: longer than an answer is shown where it was typed.
var cut = flag.Duration("cut", 5500*time.Millisecond, "for how long the connection is cut")

// keptHere waits until the service worker has the page of the Stove.
const keptHere = `(async () => { for (const name of await caches.keys()) if (name.startsWith("kirdu-pages-") &&
	(await (await caches.open(name)).keys()).length > 0) return true; return false })()`

// tab opens another tab of the same browser.
func (p *page) tab(path string) *page {
	p.t.Helper()
	ctx, closeTab := chromedp.NewContext(p.ctx)
	p.t.Cleanup(closeTab)
	other := &page{t: p.t, ctx: ctx, site: p.site, allowed: p.allowed}
	require.NoError(p.t, chromedp.Do(ctx, chromedp.EmulateViewport(390, 844)))
	other.open(path)
	return other
}

func (p *page) keepsTheStove() {
	p.t.Helper()
	require.True(p.t, js[bool](p, `navigator.serviceWorker.ready.then(() => true)`))
	for range 100 {
		if js[bool](p, keptHere) {
			return
		}
		p.do(chromedp.Sleep(100_000_000))
	}
	require.Fail(p.t, "the page of the Stove is not kept")
}

// TestOfflineWithAReload cuts the connection in the middle of a cook with two tabs open, reloads
// meanwhile, and brings it back: the page, its clock and what was tapped are still there; all of it
// is stored once, and what is refused stays in sight.
func TestOfflineWithAReload(t *testing.T) {
	t.Parallel()
	k := newKitchen(t)
	p := newPage(t, k, 390, 844)
	p.allowed = []string{"net::ERR_", "503", "422", "Failed to load resource"}
	cooks, err := k.store.OnStove(context.Background())
	require.NoError(t, err)
	at := "/stove/" + cooks[0].ID
	p.open(at)
	p.keepsTheStove()
	left := p.text("[data-left]")

	k.down.Store(true)
	p.open(at) // a reload
	p.until(`document.querySelector("h1").textContent === "Simmer down to the mark"`)
	require.Equal(t, left, p.text("[data-left]"), "the clock runs on from when the page was got")
	p.until(`document.querySelector(".gauge-alone") !== null &&
		getComputedStyle(document.querySelector("h1")).fontFamily.includes("Fraunces")`)

	p.press("Weigh it")
	p.do(chromedp.SetValue(chromedp.CSS("#weigh-mass"), "200000"))
	p.press("Take this weight") // refused, once it is sent
	other := p.tab(at)
	other.press("It is at the mark")
	for _, one := range []*page{p, other} {
		one.until(`!document.querySelector("[data-offline]").hidden &&
			document.querySelector("[data-waiting]").textContent === "Take this weight, It is at the mark"`)
	}
	p.open(at)
	p.until(`!document.querySelector("[data-offline]").hidden`)
	p.open("/kitchen")
	require.Contains(t, p.text("main"), "No connection to the kitchen")
	p.open(at)

	began := time.Now()
	for time.Since(began) < *cut {
		p.do(chromedp.Sleep(min(*cut, time.Second)))
	}
	k.down.Store(false)
	for _, one := range []*page{p, other} {
		one.until(`document.querySelector("[data-offline]").hidden && document.querySelector("[data-stove]").dataset.step === "3"`)
		one.until(`!document.querySelector("[data-refused]").hidden &&
			document.querySelector("[data-refused]").textContent.includes("give the weight in grams")`)
	}
	after, err := k.store.Cook(context.Background(), cooks[0].ID)
	require.NoError(t, err)
	require.Len(t, after.Events, len(cooks[0].Events)+1, "nothing is lost, nothing doubled")
	last := after.Events[len(after.Events)-1]
	require.Equal(t, cook.Next, last.Kind)
	const around = 20 // s: the kitchen's clock stands still in this test, the taps' does not
	require.InDelta(t, cut.Seconds()+around/2, k.clock.Now().Sub(last.At).Seconds(), around, "it is of when it was tapped")
	p.press("I have seen it")
	other.until(`document.querySelector("[data-refused]").hidden`)
}

// TestManyTapsOffline sends what was tapped in two tabs while there was no connection, all of it
// once and in its order.
func TestManyTapsOffline(t *testing.T) {
	t.Parallel()
	k := newKitchen(t)
	p := newPage(t, k, 390, 844)
	p.allowed = []string{"net::ERR_", "503", "Failed to load resource"}
	cooks, err := k.store.OnStove(context.Background())
	require.NoError(t, err)
	at := "/stove/" + cooks[0].ID
	p.open(at)
	p.keepsTheStove()
	other := p.tab(at)
	k.down.Store(true)
	const feel = `[...document.querySelectorAll("form[data-tell]")].find((f) => f.elements.kind?.value === "felt").querySelectorAll("button")`
	var felt []float64
	for n := range 3 {
		for k, one := range []*page{p, other} {
			button := fmt.Sprintf(`%s[%d]`, feel, n+k)
			felt = append(felt, js[float64](one, `Number(`+button+`.value)`))
			js[bool](one, `(() => { `+button+`.click(); return true })()`)
		}
	}
	p.until(`document.querySelector("[data-waiting]").textContent.split(", ").length === 6`)
	k.down.Store(false)
	p.until(`document.querySelector("[data-offline]").hidden`)
	other.until(`document.querySelector("[data-offline]").hidden`)
	after, err := k.store.Cook(context.Background(), cooks[0].ID)
	require.NoError(t, err)
	require.Len(t, after.Events, len(cooks[0].Events)+6)
	for i, e := range after.Events[len(cooks[0].Events):] {
		require.InDelta(t, felt[i], e.Value, 0, "in their order")
	}
}

// TestInstallable says that the browser finds all it needs to install the application.
func TestInstallable(t *testing.T) {
	t.Parallel()
	k := newKitchen(t)
	p := newPage(t, k, 390, 844)
	p.open("/")
	name := js[string](p, `fetch(document.querySelector("link[rel=manifest]").href).then((r) => r.json()).then((m) =>
		Promise.all(m.icons.map((icon) => fetch(icon.src).then((r) => r.status))).then((all) => m.name + all.join()))`)
	require.Equal(t, "Kirdu200,200,200", name)
}

// TestLeavingEmptiesTheStore: when the kitchen is locked on a device, nothing of what was on the
// stove stays there.
func TestLeavingEmptiesTheStore(t *testing.T) {
	t.Parallel()
	k := newKitchen(t)
	p := newPage(t, k, 390, 844)
	cooks, err := k.store.OnStove(context.Background())
	require.NoError(t, err)
	p.open("/stove/" + cooks[0].ID)
	p.keepsTheStove()
	p.open("/")
	require.True(t, js[bool](p, `fetch("/logout", {method: "POST"}).then(() => true)`))
	for range 50 {
		if !js[bool](p, keptHere) {
			return
		}
		p.do(chromedp.Sleep(100_000_000))
	}
	require.Fail(t, "the page is still kept")
}
