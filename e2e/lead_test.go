package e2e

import (
	"path/filepath"
	"testing"
	"time"

	"github.com/stretchr/testify/require"
)

// TestAFirstCookIsLedByTheHand goes from an empty kitchen to the logbook, on a phone, doing what the stove says: lights
// when it says so, weighs when it says so with what it expects, and is not led through the next one.
func TestAFirstCookIsLedByTheHand(t *testing.T) {
	t.Parallel()
	k := &kitchen{clock: &clock{now: time.Now().UTC()}, path: filepath.Join(t.TempDir(), "empty.sqlite")}
	k.open(t)
	t.Cleanup(func() { k.server.Close(); k.store.Close() })
	p := newPage(t, k, 390, 844)
	const lead = `(document.querySelector(".stove-lead p")?.textContent ?? "")`
	says := func(what string) { p.until(lead + `.includes(` + "`" + what + "`" + `)`) }
	p.open("/")
	p.press("Make the plan")
	p.until(`document.querySelector("[data-total-time]") !== null`)
	p.open("/")
	require.Contains(t, p.text("main"), "led by the hand")
	p.open("/puddings")
	p.until(`document.querySelector("main a[href^='/puddings/0']") !== null`)
	p.until(`(document.querySelector("main a[href^='/puddings/0']").click(), true)`)
	p.until(`document.querySelector("[data-total-time]") !== null`)
	p.press("Start cooking")
	p.until(`location.pathname.startsWith("/stove/")`)
	says("Light the flame, then tap “It is in the pot”")
	p.mustBeAccessible("led by the hand")
	p.press("It is in the pot")
	says("nothing to tap now")
	p.press("I know that")
	p.until(lead + `=== ""`)
	p.press("It boils")
	p.until(`document.querySelector("h1").textContent === "Simmer down to the mark"`)
	k.clock.pass(12)
	p.open(js[string](p, "location.pathname"))
	says("Weigh the pot once, now: the end is")
	p.press("Weigh it now")
	p.until(`document.querySelector("#tool-weigh").open && document.activeElement.id === "weigh-mass"`)
	// The pot was never weighed: what is in it alone.
	p.change("#weigh-mass", "640")
	p.until(`(document.querySelector("#tool-weigh [name=with_pot]")?.click(), true)`)
	p.press("Take this weight")
	p.until(`document.querySelector("[data-changed]") !== null`)
	p.until(`!(` + lead + `.includes("Weigh"))`)
	p.press("Stop leading me")
	p.until(lead + `=== "" && document.body.textContent.includes("Lead me by the hand")`)
	p.press("Lead me by the hand")
	p.until(`!document.body.textContent.includes("Lead me by the hand")`)
}
