package e2e

import (
	"context"
	"strconv"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/require"

	"kirdu/core/measure"
	"kirdu/core/pantry"
)

// TestBeforeTheFlame is a cook's afternoon: a list from a friend becomes a
// pudding for the club, its cup is settled, its rice soaked, its sugar swapped,
// and what it needs is put on the list.
func TestBeforeTheFlame(t *testing.T) {
	t.Parallel()
	k := newKitchen(t)
	ctx := context.Background()
	p := newPage(t, k, 1280, 800)
	p.allowed = []string{"422"}
	p.open("/intake")
	p.change("#list", "1 cup rice (300 g), washed\n1.2 l milk\n100 g sugar\n4-5 cardamom\n1 glas of stardust")
	p.change("#name", "From the club")
	p.press("Read it")
	p.until(`document.querySelector(".intake") !== null`)
	require.Contains(t, p.text("main"), "3 of 5 lines are clear")
	require.Contains(t, p.text("main"), "Which do you trust?")
	p.do(chromedp.Click(chromedp.CSS(`input[name="trust0"][value="amount"]`)), chromedp.Click(chromedp.CSS(`input[name="skip4"]`)))
	p.press("Make a plan of it")
	p.until(`document.querySelector("[data-workbench]")?.dataset.live === "ready"`)
	require.Equal(t, "From the club", js[string](p, `document.querySelector("#name").value`))

	// Soak the rice first, on the Workbench.
	js[bool](p, `document.querySelectorAll("details").forEach((d) => d.open = true), true`)
	p.change(`[name="prep[0].item"]`, "1")
	p.press("Prepare it")
	p.until(`document.querySelector(".ledger").textContent.includes("Soak the short-grain white rice")`)

	// The sweetener bench recomputes as one types, and writes its answer in.
	p.open("/benches/sweetener")
	p.until(`document.querySelector("[data-live-form]").dataset.live === "ready"`)
	p.change("#to", "maple-syrup")
	p.until(`document.querySelector(".answer").textContent.includes("maple syrup taste as sweet")`)
	p.change("#from_g", "-3")
	p.until(`document.querySelector(".fault")?.textContent.includes("give a number") ?? false`)
	p.change("#from_g", "100")
	p.until(`document.querySelector("[name=target]") !== null`)
	require.Contains(t, p.text("[name=target]"), "From the club: 100 g white sugar")
	p.press("Put it into my plan")
	p.until(`location.pathname.startsWith("/puddings/")`)
	shelf, err := k.store.Puddings(ctx, 1)
	require.NoError(t, err)
	require.Equal(t, "From the club", shelf[0].Plan.Name)
	found := false
	shelf[0].Plan.Uses(func(m *pantry.Material, _ measure.Gram, _ int) { found = found || m.Slug == "maple-syrup" })
	require.True(t, found)

	p.press("Put on the buying list")
	p.until(`location.pathname === "/buying"`)
	left := p.text(".worktop section p")
	p.do(chromedp.Click(chromedp.CSS(".tick")))
	p.until(`document.querySelector(".worktop section p").textContent !== ` + strconv.Quote(left))
}

// TestScalingLive compares and takes a proposal.
func TestScalingLive(t *testing.T) {
	t.Parallel()
	k := newKitchen(t)
	p := newPage(t, k, 1280, 800)
	openShelf(t, k, p)
	p.do(chromedp.Click(chromedp.CSS(`.bench-foot a[href$="/scale"]`)))
	p.until(`document.querySelector("[data-live-form]")?.dataset.live === "ready"`)
	require.Contains(t, p.text(".is-plain"), "Multiplied")
	p.change("#bowls", "12")
	p.until(`document.querySelector('.is-offer [name="bowls"]')?.value === "12"`)
	p.press("Use this plan")
	p.until(`document.querySelector("[data-workbench]") !== null`)
	require.Equal(t, "12", js[string](p, `document.querySelector("#bowls").value`))
	require.False(t, js[bool](p, `document.querySelector("[data-undo]").disabled`), "it can be undone")
}

// TestWaterTestClock runs the clock of the water test and keeps its result.
func TestWaterTestClock(t *testing.T) {
	t.Parallel()
	k := newKitchen(t)
	p := newPage(t, k, 390, 844)
	burners, err := k.store.Burners(context.Background())
	require.NoError(t, err)
	p.open("/kitchen/burners/" + burners[0].ID + "/test")
	p.press("It boils: start ten minutes")
	p.until(`document.querySelector("[data-clock]").textContent.startsWith("9:5")`)
	// Ten minutes have passed while the screen was locked.
	js[bool](p, `(() => { for (const key of Object.keys(sessionStorage)) sessionStorage.setItem(key, String(Date.now() - 606000));
		return true; })()`)
	p.open("/kitchen/burners/" + burners[0].ID + "/test")
	p.until(`document.querySelector("#minutes").value === "10.1"`)
	require.Contains(t, p.text("[data-clock-words]"), "Off the flame now")
	p.change("#before_g", "1000")
	p.change("#after_g", "790")
	p.press("Work out the power")
	p.until(`location.hash === "#tested"`)
	require.Contains(t, p.text("#tested"), "W into the pot (likely")
	after, err := k.store.Burners(context.Background())
	require.NoError(t, err)
	require.Len(t, after[0].FlameW, 1)
}

// TestBalanceToAnAim sets an aim, locks the rice, sees old and new and takes it.
func TestBalanceToAnAim(t *testing.T) {
	t.Parallel()
	k := newKitchen(t)
	p := newPage(t, k, 1280, 800)
	p.allowed = []string{"422"}
	openShelf(t, k, p)
	p.do(chromedp.Click(chromedp.CSS(`.bench-foot a[href$="/balance"]`)))
	p.until(`document.querySelector("[data-live-form]")?.dataset.live === "ready"`)
	p.change("#thickness", "9")
	p.until(`document.querySelector(".fault")?.textContent.includes("from 1 to 8") ?? false`)
	p.change("#thickness", "4.2")
	p.change("#sweet", "13")
	p.do(chromedp.Click(chromedp.CSS(`[name="lock"][value="rice-short"]`)))
	// In amounts that a kitchen can measure it comes within a tenth.
	p.until(`/1(2\.9|3\.[01])/.test(document.querySelector(".is-offer dl")?.textContent)
		&& !document.querySelector(".figures").textContent.includes("rice")`)
	p.press("Use this plan")
	p.until(`document.querySelector("[data-workbench]")?.dataset.live === "ready"`)
	require.Regexp(t, `1(2\.9|3\.[01])\x{202f}?.%`, p.text(".balance"))
	require.Equal(t, "105 g", js[string](p, `document.querySelector('[name="steps[0].items[1].amount"]').value`))
}

// TestWatchpointIsMendedInTheForm puts the sugar in at the start, mends what is
// said of it with one press, and prepares the rice: the sugar stays where it
// belongs, although the form carries its old place along.
func TestWatchpointIsMendedInTheForm(t *testing.T) {
	t.Parallel()
	k := newKitchen(t)
	ctx := context.Background()
	p := newPage(t, k, 1280, 800)
	openShelf(t, k, p)
	js[bool](p, `document.querySelectorAll(".ledger details").forEach((d) => d.open = true), true`)
	p.change("#sugar-after", "0")
	p.until(`document.querySelector(".finding")?.textContent.includes("ties up water") ?? false`)
	p.press("Make this change")
	p.until(`document.querySelector(".finding-none") !== null`)
	sugar := func() (step, steps int) {
		shelf, err := k.store.Puddings(ctx, 1)
		require.NoError(t, err)
		return shelf[0].Plan.SugarStep(), len(shelf[0].Plan.Steps)
	}
	step, steps := sugar()
	require.GreaterOrEqual(t, step, 3, "after the reduction")
	p.change(`[name="prep[0].item"]`, "1")
	p.press("Prepare it")
	p.until(`document.querySelector(".ledger").textContent.includes("Soak the short-grain white rice")`)
	prepared, more := sugar()
	require.Equal(t, steps+1, more)
	require.Equal(t, step+1, prepared, "one place further, since the soak stands before it")
	p.press("Use it unprepared")
	p.until(`!document.querySelector(".ledger").textContent.includes("Soak")`)
	again, _ := sugar()
	require.Equal(t, step, again)
}
