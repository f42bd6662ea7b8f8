package e2e

import (
	"context"
	"fmt"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/require"

	"kirdu/core/cook"
)

// TestWetHands is the Stove on a phone: a slip is marked and kept, a dip is
// taken, and the buttons are large enough.
func TestWetHands(t *testing.T) {
	t.Parallel()
	k := newKitchen(t)
	p := newPage(t, k, 390, 844)
	p.allowed = []string{"422"}
	p.open("/")
	p.do(chromedp.Click(chromedp.CSS(".stove-card")))
	p.until(`location.pathname.startsWith("/stove/") && document.querySelector("[data-stove]") !== null`)
	p.keepsTheStove() // it is loaded anew once, when the worker takes over
	require.GreaterOrEqual(t, js[float64](p, `Math.min(...[...document.querySelectorAll(".is-stove, .stove-tools summary")]
		.filter((e) => e.checkVisibility()).map((e) => e.getBoundingClientRect().height))`), 64.0)

	p.press("Weigh it")
	p.change("#weigh-mass", "a lot")
	p.press("Take this weight")
	p.until(`document.querySelector("#weigh-fault")?.textContent.includes("give the weight in grams") ?? false`)
	require.Equal(t, "a lot", js[string](p, `document.querySelector("#weigh-mass").value`))

	p.press("Dip it")
	p.change("#depth", "38")
	p.press("Take this depth")
	p.until(`document.querySelector("[data-changed]") !== null`)
	cooks, err := k.store.OnStove(context.Background())
	require.NoError(t, err)
	last := cooks[0].Events[len(cooks[0].Events)-1]
	require.Equal(t, cook.Dipped, last.Kind)
	require.InDelta(t, 38, float64(last.MM), 0)

	p.press("End this cook early")
	p.press("End it and write it down")
	p.until(`location.pathname.startsWith("/logbook/")`)
	require.Contains(t, p.text("main"), "38 mm")
	require.Contains(t, p.text("main"), "left out", "the steps that were not done")
}

// TestTimeRunsByItself lets the page count down without being touched.
func TestTimeRunsByItself(t *testing.T) {
	t.Parallel()
	k := newKitchen(t)
	p := newPage(t, k, 390, 844)
	cooks, err := k.store.OnStove(context.Background())
	require.NoError(t, err)
	p.open("/stove/" + cooks[0].ID)
	p.keepsTheStove() // it is loaded anew once, when the worker takes over
	// The server's clock stands still in this test; the page's own runs on from it.
	// What the page may have got anew since is brought near its end again.
	p.until(`(() => { const d = document.querySelector("[data-stove]").dataset; const now = Number(d.now);
		if (!d.brought) { d.brought = "yes"; d.low = String(now + 60000); d.high = String(now + 125000); d.due = String(now + 2500); }
		return document.querySelector("[data-left]").textContent === "1–2"; })()`)
	p.until(`document.querySelector("[data-next]").classList.contains("is-primary")`)
	p.until(`!document.querySelector("[data-alarm-box]").hidden`)
}

// TestTwoDevices looks at one cook from two: what one tells the other shows.
func TestTwoDevices(t *testing.T) {
	t.Parallel()
	k := newKitchen(t)
	cooks, err := k.store.OnStove(context.Background())
	require.NoError(t, err)
	phone, tablet := newPage(t, k, 390, 844), newPage(t, k, 1280, 800)
	for _, p := range []*page{phone, tablet} {
		p.open("/stove/" + cooks[0].ID)
	}
	phone.press("It is at the mark")
	tablet.until(`document.querySelector("h1").textContent === "Let it stand off the heat for 3 min"`)
	tablet.press("Back a step")
	phone.until(`document.querySelector("h1").textContent === "Simmer down to the mark"`)
	tablet.press("How is it?")
	tablet.press("hard")
	phone.until(`document.querySelector("[data-changed]")?.textContent.includes("slower than thought") ?? false`)
}

// TestRemovedThingsComeBack takes a pudding and a pot away and undoes it.
func TestRemovedThingsComeBack(t *testing.T) {
	t.Parallel()
	k := newKitchen(t)
	p := newPage(t, k, 1280, 800)
	p.open("/puddings")
	p.press("Take Sticky rice with pomegranate off the shelf")
	p.until(`document.querySelector(".notice") !== null && !document.querySelector(".shelf").textContent.includes("Sticky rice")`)
	p.press("Undo")
	p.until(`document.querySelector(".notice") === null && document.querySelector(".shelf").textContent.includes("Sticky rice")`)
	p.open("/kitchen")
	p.press("Remove The wide pan")
	p.until(`document.querySelector(".notice") !== null && !document.querySelector(".pots").textContent.includes("The wide pan")`)
	p.press("Undo")
	p.until(`document.querySelector(".pots").textContent.includes("The wide pan")`)
}

func TestSearch(t *testing.T) {
	t.Parallel()
	k := newKitchen(t)
	p := newPage(t, k, 1280, 800)
	p.open("/puddings")
	p.change("#search", "pomegranate")
	p.press("Search")
	p.until(`document.querySelectorAll(".shelf li").length === 1`)
	require.Contains(t, p.text(".shelf"), "Sticky rice with pomegranate")
	p.change("#search", "quince")
	p.press("Search")
	p.until(`document.querySelector(".empty")?.textContent.includes("quince") ?? false`)
}

// TestFormsComeBackAsTyped sends forms with faults: each fault stands at its
// field, and what was typed is still there.
func TestFormsComeBackAsTyped(t *testing.T) {
	t.Parallel()
	k := newKitchen(t)
	p := newPage(t, k, 1280, 800)
	p.allowed = []string{"422"}
	p.open("/kitchen")
	p.change("#name", "the barrel")
	p.change("#diameter_mm", "2500")
	p.change("#height_mm", "deep")
	p.press("Add the pot")
	p.until(`document.querySelectorAll(".fault").length === 2`)
	for field, typed := range map[string]string{"#name": "the barrel", "#diameter_mm": "2500", "#height_mm": "deep"} {
		require.Equal(t, typed, js[string](p, fmt.Sprintf(`document.querySelector(%q).value`, field)))
	}
	require.Contains(t, p.text("#diameter_mm-fault"), "at most 1500")
	p.open("/puddings/new?way=soaked+pearls")
	p.change("#bowls", "a few")
	p.press("Make the plan")
	p.until(`document.querySelector("#bowls-fault")?.textContent.includes("whole number of bowls") ?? false`)
	require.Equal(t, "a few", js[string](p, `document.querySelector("#bowls").value`))
	p.allowed = append(p.allowed, "404")
	p.open("/puddings/01999999-0000-7000-8000-000000000000")
	require.Contains(t, p.text("main"), "That is not here.")
	p.press("To the puddings")
	p.until(`location.pathname === "/puddings"`)
}
