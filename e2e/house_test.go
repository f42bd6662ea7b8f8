package e2e

import (
	"context"
	"strconv"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/require"
)

// TestKnowYourMeasures weighs a cup, and every amount follows; taking the
// weighing back brings the earlier one into force again.
func TestKnowYourMeasures(t *testing.T) {
	t.Parallel()
	k := newKitchen(t)
	p := newPage(t, k, 390, 844)
	p.allowed = []string{"422"}
	p.open("/kitchen/measures")
	require.Contains(t, p.text(".worktop section"), "cup: 226 ml")
	p.change("#full_g", "180")
	p.change("#empty_g", "240")
	p.press("Keep this measure")
	p.until(`document.querySelector(".fault")?.textContent.includes("weigh it full") ?? false`)
	require.Equal(t, "180", js[string](p, `document.querySelector("#full_g").value`), "as it was typed")
	p.change("#full_g", "440")
	p.press("Keep this measure")
	p.until(`document.querySelector("h1").textContent.includes("what this changes")`)
	require.Contains(t, p.text("main"), "then")
	p.press("Keep this measure")
	p.until(`document.querySelector(".worktop section")?.textContent.includes("cup: 200 ml") ?? false`)
	require.Contains(t, p.text(".worktop section"), "before: 226 ml")
	home, err := k.store.Home(context.Background())
	require.NoError(t, err)
	require.InDelta(t, 200, home.Measures["cup_ml"], 0)
	p.do(chromedp.Click(chromedp.CSS(`.rows li:nth-child(2) .rows-end button`)))
	p.until(`document.querySelector(".notice") !== null && document.querySelector(".worktop section").textContent.includes("cup: 226 ml")`)
	p.press("Undo")
	p.until(`document.querySelector(".worktop section").textContent.includes("cup: 200 ml")`)
}

// TestPantryFigures finds a material by a regional name, corrects a figure and
// resets it.
func TestPantryFigures(t *testing.T) {
	t.Parallel()
	k := newKitchen(t)
	p := newPage(t, k, 1280, 800)
	p.allowed = []string{"422"}
	p.open("/pantry")
	p.change("#search", "sabudana")
	p.press("Search")
	p.until(`document.querySelectorAll(".pantry-list li").length === 1`)
	p.do(chromedp.Click(chromedp.CSS(".pantry-list a")))
	p.until(`location.pathname === "/pantry/sago-small"`)
	require.Contains(t, p.text("main"), "Also called")
	p.change("#cook_min_98c", "soon")
	p.press("Save the figures")
	p.until(`document.querySelector(".fault") !== null`)
	p.change("#cook_min_98c", "12")
	p.press("Save the figures")
	p.until(`document.querySelector('[aria-label="Reset Cooked through at 98 °C in"]') !== null`)
	require.Contains(t, p.text("main"), "your own; the table has 15")
	p.do(chromedp.Click(chromedp.CSS(`[aria-label="Reset Cooked through at 98 °C in"]`)))
	p.until(`document.querySelector("#cook_min_98c").value === "15"`)

	p.open("/pantry/new?like=rice-short")
	p.change("#name", "Reservoir rice")
	p.change("#fat", "70")
	p.change("#carbohydrate", "60")
	p.press("Add it to the pantry")
	p.until(`document.querySelector(".fault")?.textContent.includes("more than 100 g") ?? false`)
	require.Equal(t, "Reservoir rice", js[string](p, `document.querySelector("#name").value`))
	p.change("#fat", "1")
	p.change("#carbohydrate", "78")
	p.change("#protein", "7")
	p.press("Add it to the pantry")
	p.until(`location.pathname === "/pantry/reservoir-rice"`)
	require.Contains(t, p.text("h1"), "Reservoir rice")
}

// TestHouseWithoutJavaScript goes through lists and benches with the script
// switched off: every button does its work.
func TestHouseWithoutJavaScript(t *testing.T) {
	t.Parallel()
	k := newKitchen(t)
	p := newPage(t, k, 1280, 800)
	p.withoutScript()
	p.open("/benches/coconut")
	p.do(chromedp.SetValue(chromedp.CSS("#coconuts"), "4"), chromedp.Click(chromedp.CSS("form[data-live-form] button")),
		chromedp.WaitVisible(chromedp.CSS(`#coconuts[value="4"]`)), chromedp.WaitVisible(chromedp.CSS(".answer")))
	p.open("/supplies")
	p.do(chromedp.SetValue(chromedp.CSS("#material"), "palm jaggery"), chromedp.SetValue(chromedp.CSS("#amount"), "500 g"),
		chromedp.Click(chromedp.CSS(".worktop form button")), chromedp.WaitVisible(chromedp.CSS(`[aria-label="Palm sugar (grated) is used up"]`)))
	at, err := k.store.AtHand(context.Background())
	require.NoError(t, err)
	require.InDelta(t, 500, float64(at["palm-sugar"].V), 0)
	p.open("/buying")
	p.do(chromedp.Click(chromedp.CSS("#milk-whole .tick")), chromedp.WaitVisible(chromedp.CSS("#milk-whole .in-basket")))
	_, bought, err := k.store.Buying(context.Background())
	require.NoError(t, err)
	require.Greater(t, float64(bought["milk-whole"]), 1000.0)
	p.open("/kitchen/weigh")
	p.do(chromedp.SetValue(chromedp.CSS("#name"), "the milk can"), chromedp.SetValue(chromedp.CSS("#height_mm"), "150"),
		chromedp.SetValue(chromedp.CSS("#high_mm"), "140"), chromedp.SetValue(chromedp.CSS("#high_g"), "3500"),
		chromedp.Click(chromedp.CSS(".worktop form button.is-primary")), chromedp.WaitVisible(chromedp.CSS(".pots")))
	pots, err := k.store.Pots(context.Background())
	require.NoError(t, err)
	require.InDelta(t, 178.4, float64(pots[len(pots)-1].DiameterMM), 0.1)
}

// TestTonightsSoak sets a time, and Today says what must start next.
func TestTonightsSoak(t *testing.T) {
	t.Parallel()
	k := newKitchen(t)
	p := newPage(t, k, 1280, 800)
	p.open("/")
	require.Contains(t, p.text("main"), "Soak the basmati rice")
	openShelf(t, k, p)
	tomorrow := k.clock.Now().AddDate(0, 0, 1).Format("2006-01-02") + "T19:30"
	p.change("#serve-at", tomorrow)
	p.press("Set the time")
	p.until(`document.querySelector(".start-by") !== null`)
	require.Contains(t, p.text(".start-by"), "into the pot")
	p.open("/")
	p.until(`document.querySelector("main").textContent.includes("on the table " + ` + "`${new Date(\"" + tomorrow +
		"\").toLocaleDateString(\"en\", {weekday: \"short\"})} 19:30`" + `)`)
}

// TestKitchenInPounds turns US units on and sees them beside the grams.
func TestKitchenInPounds(t *testing.T) {
	t.Parallel()
	k := newKitchen(t)
	p := newPage(t, k, 1280, 800)
	p.open("/kitchen")
	p.do(chromedp.Click(chromedp.CSS(`input[name="units"][value="us"]`)))
	js[bool](p, `(() => { document.querySelector('form[action="/kitchen/room"] button').click(); return true; })()`)
	p.until(`location.hash === "#room"`)
	openShelf(t, k, p)
	require.Contains(t, p.text(".ledger"), "2 lb 12 oz")
	require.Contains(t, p.text(".ledger"), "g whole milk", "grams stay")
}

// TestPreparationsAtTheStove cooks the toasted vermicelli: walnuts and noodles
// beside the pot, each with its own timer and its own button.
func TestPreparationsAtTheStove(t *testing.T) {
	t.Parallel()
	k := newKitchen(t)
	ctx := context.Background()
	shelf, err := k.store.Puddings(ctx, 10)
	require.NoError(t, err)
	id := ""
	for _, pudding := range shelf {
		if pudding.Plan.Name == "Toasted vermicelli with walnut and maple" {
			id = pudding.ID
		}
	}
	p := newPage(t, k, 390, 844)
	p.open("/puddings/" + id)
	p.until(`document.querySelector("[data-workbench]")?.dataset.live === "ready"`)
	p.press("Start cooking")
	has := func(text string) {
		p.until(`document.querySelector("[data-stove]").innerText.includes(` + strconv.Quote(text) + `)`)
	}
	p.until(`document.querySelector("h1").textContent.startsWith("Pour in the whole milk")`)
	has("Beside the pot")
	p.press("Begin: Fry the walnut halves")
	has("since")
	k.clock.pass(4)
	p.open(js[string](p, "location.pathname"))
	p.until(`!document.querySelector("[data-alarm-box]").hidden
		&& document.querySelector("[data-alarm-words]").textContent.includes("Walnut halves out of the fat")`)
	p.press("Quiet")
	p.until(`document.querySelector("[data-alarm-box]").hidden`)
	p.press("They are golden")
	p.until(`![...document.querySelectorAll("[data-tell] button")].some((b) => b.textContent === "They are golden")`)
	p.press("Begin: Roast the wheat vermicelli")
	k.clock.pass(4)
	p.press("It smells nutty")
	for _, step := range []struct {
		title, button string
		minutes       float64
	}{
		{"Pour in the whole milk", "It is in the pot", 2}, {"Bring it to the boil", "It boils", 6}, {"Add the noodles", "It is in the pot", 1},
		{"Simmer it for 10 min", "Time is up", 10},
		{"Pour in the maple syrup", "Sugar is in", 1}, {"Simmer it for 3 min", "Time is up", 3}, {"Lay the walnuts", "It is in the pot", 1},
	} {
		p.until(`document.querySelector("h1").textContent.startsWith(` + strconv.Quote(step.title) + `)`)
		k.clock.pass(step.minutes)
		if step.button == "Time is up" && step.minutes == 10 {
			// More milk went in: it is told, shows, and is taken back.
			p.press("Not as planned")
			p.change("#more-mass", "150")
			js[bool](p, `document.querySelector("#more-mass").form.requestSubmit(), true`)
			p.until(`document.querySelector("[data-changed]")?.textContent.includes("150 g more") ?? false`)
			p.press("Take it back")
			p.until(`document.querySelector("[data-changed]") === null`)
		}
		p.press(step.button)
	}
	p.until(`document.querySelector("h1").textContent === "Off the stove"`)
	cooks, err := k.store.OnStove(ctx)
	require.NoError(t, err)
	done := 0
	for _, c := range cooks {
		state := c.State()
		if c.Plan.Name == "Toasted vermicelli with walnut and maple" && state.Done() {
			done++
		}
	}
	require.Equal(t, 1, done)
}
