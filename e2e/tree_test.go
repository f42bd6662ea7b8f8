package e2e

import (
	"context"
	"encoding/json"
	"fmt"
	"slices"
	"strings"
	"testing"

	"github.com/chromedp/cdproto/accessibility"
	"github.com/chromedp/cdproto/cdp"
	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/require"
)

// A heard node is what a screen reader says of something.
type heard struct {
	role, name string
	level      int
}

// tree is what a screen reader goes through, in its order.
func (p *page) tree() (list []heard) {
	p.t.Helper()
	var nodes []*accessibility.Node
	p.do(chromedp.Func(func(ctx context.Context, t *chromedp.Target) error {
		result, err := cdp.Call(ctx, t, accessibility.GetFullAXTree, accessibility.GetFullAXTreeParams{})
		nodes = result.Nodes
		return err
	}))
	text := func(v *accessibility.Value) (said string) {
		if v != nil {
			_ = json.Unmarshal([]byte(v.Value), &said) // a value of another kind says nothing
		}
		return said
	}
	for _, n := range nodes {
		if n.Ignored {
			continue
		}
		one := heard{role: text(n.Role), name: strings.TrimSpace(text(n.Name))}
		for _, property := range n.Properties {
			if property.Name == "level" {
				_ = json.Unmarshal([]byte(property.Value.Value), &one.level)
			}
		}
		list = append(list, one)
	}
	return list
}

// worked are the roles of what is worked with: each must have a name.
var worked = []string{"button", "link", "textbox", "searchbox", "combobox", "checkbox", "radio", "slider", "spinbutton",
	"DisclosureTriangle", "img", "image", "dialog"}

// TestWhatAScreenReaderSays goes through the accessibility tree of the screens: one main part and one first heading,
// no level of headings skipped, and everything that is worked with has a name.
func TestWhatAScreenReaderSays(t *testing.T) {
	t.Parallel()
	k := newKitchen(t)
	p := newPage(t, k, 1280, 800)
	for _, path := range k.screens(t) {
		p.open(path)
		headings, mains, navigations := []int{}, 0, 0
		for _, one := range p.tree() {
			switch {
			case one.role == "heading":
				headings = append(headings, one.level)
				require.NotEmpty(t, one.name, path)
			case one.role == "main":
				mains++
			case one.role == "navigation":
				navigations++
				require.NotEmpty(t, one.name, path)
			case slices.Contains(worked, one.role):
				require.NotEmpty(t, one.name, "%s: a %s without a name", path, one.role)
			}
		}
		require.Equal(t, 1, mains, path)
		require.GreaterOrEqual(t, navigations, 1, path)
		require.NotEmpty(t, headings, path)
		require.Equal(t, 1, headings[0], "%s begins with its first heading: %v", path, headings)
		for i := 1; i < len(headings); i++ {
			require.LessOrEqual(t, headings[i], headings[i-1]+1, "%s skips a level: %v", path, headings)
			require.NotEqual(t, 1, headings[i], "%s has two first headings: %v", path, headings)
		}
	}
}

// TestEverythingByTab goes through screens with the tab key: it comes to everything that can be worked with, in the
// order of the page, each time with a mark that is seen, and out again.
func TestEverythingByTab(t *testing.T) {
	t.Parallel()
	k := newKitchen(t)
	p := newPage(t, k, 1280, 800)
	for _, path := range k.screens(t) {
		p.open(path)
		js[bool](p, `document.activeElement?.blur(), true`)
		wanted := js[int](p, `(() => { window.met = new Set(); window.unseen = []; window.back = 0; window.last = null;
			window.can = [...document.querySelectorAll("a[href], button, input, select, textarea, summary, [tabindex='0']")].filter((e) =>
				!e.disabled && e.type !== "hidden" && e.tabIndex >= 0 && e.checkVisibility({visibilityProperty: true}) &&
				!e.closest("dialog:not([open])"));
			return window.can.length; })()`)
		const most = 400
		for range min(wanted+20, most) {
			p.do(chromedp.KeyEvent(kb.Tab))
			if js[bool](p, `(() => { const e = document.activeElement;
				if (!e || e === document.body) return true;
				if (window.met.has(e)) return false;
				window.met.add(e);
				const s = getComputedStyle(e);
				if (e.matches(":focus-visible") && (s.outlineStyle === "none" || parseFloat(s.outlineWidth) < 2) && s.boxShadow === "none")
					window.unseen.push(e.outerHTML.slice(0, 90));
				if (window.last && window.last.compareDocumentPosition(e) & Node.DOCUMENT_POSITION_PRECEDING) window.back++;
				window.last = e; return false; })()`) {
				break
			}
		}
		missed := js[string](p, `window.can.filter((e) => !window.met.has(e) && !(e.type === "radio" &&
			[...window.met].some((m) => m.name === e.name))).map((e) => e.outerHTML.slice(0, 90)).join("\n")`)
		if missed != "" {
			t.Errorf("%s: tab does not come to %s", path, missed)
		}
		if u := js[string](p, `window.unseen.join("\n")`); u != "" {
			t.Errorf("%s: without a mark: %s", path, u)
		}
		if n := js[int](p, "window.back"); n > 0 {
			t.Errorf("%s: tab goes back %d", path, n)
		}
	}
}

// screens are one page of each kind, for tests that take their time.
func (k *kitchen) screens(t *testing.T) []string {
	t.Helper()
	ctx := t.Context()
	shelf, err := k.store.Puddings(ctx, 1)
	require.NoError(t, err)
	cooks, err := k.store.OnStove(ctx)
	require.NoError(t, err)
	book, err := k.store.Book(ctx, 1)
	require.NoError(t, err)
	suppers, err := k.store.Gatherings(ctx)
	require.NoError(t, err)
	pudding := fmt.Sprintf("/puddings/%s", shelf[0].ID)
	return []string{"/", "/puddings", pudding, "/stove/" + cooks[0].ID, "/logbook", "/logbook/" + book[0].ID, "/kitchen",
		"/gatherings/" + suppers[0].ID, "/rescue", "/intake", "/puddings/new", "/pantry", "/buying", "/benches/coconut", "/settings", "/guide",
		pudding + "/balance", pudding + "/serving", pudding + "/steps/0", pudding + "/sheet"}
}

// TestAtTwiceAndFourTimesTheSize narrows the window as zooming in does, to 640 and 320 px: nothing is cut off or wider
// than the window. Forced colours leave what is drawn in sight.
func TestAtTwiceAndFourTimesTheSize(t *testing.T) {
	t.Parallel()
	k := newKitchen(t)
	for _, width := range []int64{640, 320} {
		p := newPage(t, k, width, 800)
		for _, path := range k.screens(t) {
			p.open(path)
			require.LessOrEqual(t, js[int](p, "document.documentElement.scrollWidth"), int(width), "%s at %d px: %s", path, width,
				js[string](p, `[...document.querySelectorAll("main *")].filter((e) => !e.closest(".scrolls, svg") &&
					e.getBoundingClientRect().right > innerWidth + 1).map((e) => e.outerHTML.slice(0, 80)).slice(0, 4).join("\n")`))
		}
	}
}

// TestWhatIsHeardWhenThingsChange holds that what changes without a new page is told by a region that was there before:
// one that comes with its words is not read.
func TestWhatIsHeardWhenThingsChange(t *testing.T) {
	t.Parallel()
	k := newKitchen(t)
	cooks, err := k.store.OnStove(t.Context())
	require.NoError(t, err)
	puddings, err := k.store.Puddings(t.Context(), 1)
	require.NoError(t, err)
	const live = `[...document.querySelectorAll("[role=status], [role=alert], [aria-live=polite]")]`
	for _, screen := range []struct{ name, path, do, hears string }{
		{"stove", "/stove/" + cooks[0].ID, `document.querySelector("[data-next]").click()`, "Step 4 of"},
		{"workbench", "/puddings/" + puddings[0].ID, `document.querySelector("button[value=more-bowls]").click()`, "sweet"},
		{"coconut", "/benches/coconut", `(() => { const f = document.querySelector("#coconuts");
			f.value = "3"; f.dispatchEvent(new Event("input", { bubbles: true })); })()`, "meat give"},
		{"measure", "/benches/measure", `(() => { const f = document.querySelector("#amount");
			f.value = "450 g"; f.dispatchEvent(new Event("input", { bubbles: true })); })()`, "450 g of short-grain white rice are"},
		{"more bowls", "/puddings/" + puddings[0].ID + "/scale", `(() => { const f = document.querySelector("#bowls");
			f.value = "9"; f.dispatchEvent(new Event("input", { bubbles: true })); })()`, ":"},
	} {
		t.Run(screen.name, func(t *testing.T) {
			p := newPage(t, k, 1280, 800)
			p.open(screen.path)
			js[bool](p, live+`.forEach((one) => { one.before = one.textContent; }), true`)
			js[bool](p, screen.do+`, true`)
			p.until(live + `.some((one) => one.before !== undefined && one.before !== one.textContent && one.textContent.includes("` +
				screen.hears + `"))`)
		})
	}
}
