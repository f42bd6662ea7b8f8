package e2e

import (
	"context"
	"fmt"
	"regexp"
	"strconv"
	"testing"
	"time"

	"github.com/chromedp/chromedp"
	"github.com/google/uuid"
	"github.com/stretchr/testify/require"

	"kirdu/core/cook"
	"kirdu/core/plan"
	"kirdu/core/vessel"
	"kirdu/store"
)

var number = regexp.MustCompile(`\d[\d ]*`)

// first reads the first number of a text.
func first(t *testing.T, text string) int {
	t.Helper()
	found := regexp.MustCompile(`\D`).ReplaceAllString(number.FindString(text), "")
	n, err := strconv.Atoi(found)
	require.NoError(t, err, text)
	return n
}

// TestFromPlanToBook is the whole way of one pudding.
func TestFromPlanToBook(t *testing.T) {
	t.Parallel()
	k := newKitchen(t)
	p := newPage(t, k, 1280, 800)
	p.open("/")
	p.press("Short-grain rice with pear and bay")
	p.until(`document.querySelector("[data-workbench]")?.dataset.live === "ready" && document.querySelector("#bowls").value === "6"`)

	// Six bowls become ten: it takes longer and the pot is fuller; undo.
	time6, fill6 := p.text("[data-total-time]"), p.text("[data-fill]")
	p.change("#bowls", "10")
	p.until(fmt.Sprintf(`document.querySelector("[data-total-time]").textContent !== %q`, time6))
	require.Greater(t, first(t, p.text("[data-total-time]")), first(t, time6))
	require.Greater(t, first(t, p.text("[data-fill]")), first(t, fill6))
	require.Contains(t, p.text(".balance"), "At the boil the milk stands at", "it would boil over")
	p.press("Undo")
	p.until(fmt.Sprintf(`document.querySelector("[data-total-time]").textContent === %q && document.querySelector("#bowls").value === "6"`,
		time6))
	p.press("Redo")
	p.until(`document.querySelector("#bowls").value === "10"`)
	p.press("Undo")
	p.until(`document.querySelector("#bowls").value === "6"`)

	// Cook it over a flame that gives less than was thought.
	p.press("Start cooking")
	p.until(`location.pathname.startsWith("/stove/")`)
	p.press("It is in the pot")
	p.until(`document.querySelector("h1").textContent === "Bring it to the boil"`)
	k.clock.pass(9)
	p.press("It boils")
	p.until(`document.querySelector("h1").textContent === "Simmer down to the mark"`)
	k.clock.pass(5)
	p.open(js[string](p, "location.pathname"))
	middle := func() float64 {
		return js[float64](p, `document.querySelector("[data-left]").textContent.split("–").map(Number).reduce((sum, x, _, all) => sum
			+ x / all.length, 0)`)
	}
	before := middle()
	p.press("Weigh it")
	p.change("#weigh-mass", "2 480")
	p.press("Take this weight")
	p.until(`document.querySelector("[data-changed]") !== null`)
	require.Contains(t, p.text("[data-changed]"), "g a minute")
	require.Greater(t, middle(), before, "heavier than thought: it takes longer")
	changed := p.text("[data-changed]")

	// A reload and a restart of the program show the same.
	p.open(js[string](p, "location.pathname"))
	require.Equal(t, changed, p.text("[data-changed]"))
	k.restart(t)
	p.open(js[string](p, "location.pathname"))
	require.Equal(t, changed, p.text("[data-changed]"))
	require.Equal(t, "Simmer down to the mark", p.text("h1"))

	// The mark comes due: seen, and quieted.
	k.clock.pass(60)
	p.open(js[string](p, "location.pathname"))
	p.until(`!document.querySelector("[data-alarm-box]").hidden`)
	require.Contains(t, p.text("[data-alarm-words]"), "look into the pot")
	require.Contains(t, js[string](p, "document.title"), "🔔")
	p.press("Quiet")
	p.until(`document.querySelector("[data-alarm-box]").hidden`)

	p.press("It is at the mark")
	p.until(`document.querySelector("h1").textContent.startsWith("Stir in the white sugar")`)
	p.press("Sugar is in")
	p.until(`document.querySelector("h1").textContent.startsWith("Simmer it for")`)
	p.press("Back a step")
	p.until(`document.querySelector("h1").textContent.startsWith("Stir in the white sugar")`)
	p.press("Sugar is in")
	p.until(`document.querySelector("h1").textContent.startsWith("Simmer it for")`)
	k.clock.pass(5)
	p.press("Time is up")
	p.until(`document.querySelector("h1").textContent.startsWith("Lay the pear")`)
	p.press("It is in the pot")
	p.until(`document.querySelector("h1").textContent === "Off the stove"`)
	p.change("#mass", "1105")
	p.press("Into the logbook")
	p.until(`location.pathname.startsWith("/logbook/")`)

	// Judge it and find it again.
	p.change("#eaten", "hot")
	p.change("#thickness", "4")
	p.change("#sweetness", "just right")
	p.change("#note", "The lantern supper liked it.")
	p.press("Write it down")
	p.until(`document.querySelector(".notice") !== null`)
	require.Contains(t, p.text("main"), "1 105 g")
	require.Contains(t, p.text("main"), "g a minute")
	p.open("/logbook")
	require.Contains(t, p.text("tbody tr:not(.week)"), "Short-grain rice with pear and bay")
	require.Contains(t, p.text("tbody tr:not(.week)"), "Ladle, just right")
}

// openShelf opens the first pudding of the shelf with its first step unfolded.
func openShelf(t *testing.T, k *kitchen, p *page) {
	t.Helper()
	shelf, err := k.store.Puddings(context.Background(), 1)
	require.NoError(t, err)
	p.open("/puddings/" + shelf[0].ID)
	p.until(`document.querySelector("[data-workbench]").dataset.live === "ready"`)
	js[bool](p, `document.querySelectorAll(".ledger-body").forEach((d) => d.open = true), true`)
}

func TestEveryEditFollowsAtOnce(t *testing.T) {
	t.Parallel()
	k := newKitchen(t)
	p := newPage(t, k, 1280, 800)
	openShelf(t, k, p)
	p.allowed = []string{"422"} // the mistyped unit
	mark := p.text(".ledger li:nth-child(3) .ledger-title")
	p.change(`[name="steps[2].until.remaining_pct"]`, "75")
	p.until(fmt.Sprintf(`document.querySelector(".ledger li:nth-child(3) .ledger-title").textContent !== %q`, mark))
	require.Equal(t, "75", js[string](p, `document.querySelector('[name="steps[2].until.remaining_pct"]').value`))

	yield := p.text("[data-yield]")
	p.change(`[name="steps[0].items[0].amount"]`, "1.3 l")
	p.until(fmt.Sprintf(`document.querySelector("[data-yield]").textContent.replace(/\s/g, " ") !== %q`, yield))

	picture := js[string](p, `document.querySelector(".bench-pot svg").outerHTML`)
	js[bool](p, `(() => { const pot = document.querySelector("#pot"); pot.selectedIndex = 1;
		pot.dispatchEvent(new Event("input", {bubbles: true})); return true; })()`)
	p.until(fmt.Sprintf(`document.querySelector(".bench-pot svg").outerHTML !== %q
		&& document.querySelector("#pot").selectedOptions[0].textContent.includes("wide")`, picture))

	// Sugar from the start: the grain stays firmer.
	done := p.text(".balance-row:nth-child(3) .figure")
	p.change("#sugar-after", "0")
	p.until(fmt.Sprintf(`document.querySelector(".balance-row:nth-child(3) .figure").textContent !== %q`, done))
	require.Less(t, p.text(".balance-row:nth-child(3) .figure"), done)

	t.Logf("edit to drawn, ms: %s", js[string](p,
		`performance.getEntriesByName("kirdu-edit-to-drawn").map((m) => Math.round(m.duration)).join(" ")`))

	// A slip of the pen is marked, kept, and not stored.
	p.change(`[name="steps[0].items[0].amount"]`, "2 cupz")
	p.until(`document.querySelector(".fault")?.textContent.includes("unknown unit") ?? false`)
	require.Equal(t, "2 cupz", js[string](p, `document.querySelector('[name="steps[0].items[0].amount"]').value`))
	require.Contains(t, p.text("[data-saved]"), "not saved")
	p.change(`[name="steps[0].items[0].amount"]`, "5 cups")
	p.until(`document.querySelector(".fault") === null && document.querySelector("[data-saved]").textContent === "saved"`)

	// Every edit was a version of its own; the keys go back one.
	shelf, err := k.store.Puddings(context.Background(), 1)
	require.NoError(t, err)
	require.Equal(t, "5 cups", shelf[0].Plan.Steps[0].Items[0].Amount)
	js[bool](p, `document.activeElement.blur(),
		document.dispatchEvent(new KeyboardEvent("keydown", {key: "z", ctrlKey: true, bubbles: true})), true`)
	p.until(`document.querySelector('[name="steps[0].items[0].amount"]').value === "1.3 l"`)
}

// TestTypedNumberIsOneEdit types a number key by key: each key shows at once,
// and one undo takes all of it back.
func TestTypedNumberIsOneEdit(t *testing.T) {
	t.Parallel()
	k := newKitchen(t)
	p := newPage(t, k, 1280, 800)
	openShelf(t, k, p)
	const field = `[name="steps[2].until.remaining_pct"]`
	js[bool](p, fmt.Sprintf(`(() => { const f = document.querySelector('%s'); f.focus(); f.select(); return true; })()`, field))
	for _, typed := range []string{"7", "4", ".", "5"} {
		yield := p.text("[data-yield]")
		p.do(chromedp.KeyEvent(typed))
		if typed != "." {
			p.until(fmt.Sprintf(`document.querySelector("[data-yield]").textContent.replace(/[\s\u202f]+/g, " ") !== %q`, yield))
		}
	}
	require.Equal(t, "74.5", js[string](p, fmt.Sprintf(`document.querySelector('%s').value`, field)))
	p.press("Undo")
	p.until(fmt.Sprintf(`document.querySelector('%s').value === "66"`, field))
}

func TestMomentsAreReadByArrowKeys(t *testing.T) {
	t.Parallel()
	k := newKitchen(t)
	p := newPage(t, k, 1280, 800)
	openShelf(t, k, p)
	js[bool](p, `(() => { const line = document.querySelector(".potline-wide"); line.focus();
		line.dispatchEvent(new KeyboardEvent("keydown", {key: "ArrowRight", bubbles: true})); return true; })()`)
	p.until(`/^At \d+ min: .* g, \d+ mm/.test(document.querySelector("[data-readout]").textContent)`)
}

// TestLostConnection cuts the stove off and brings it back: what was tapped
// meanwhile is sent once, with the time it was tapped at.
func TestLostConnection(t *testing.T) {
	t.Parallel()
	k := newKitchen(t)
	p := newPage(t, k, 390, 844)
	p.allowed = []string{"net::ERR_", "503", "Failed to load resource"}
	cooks, err := k.store.OnStove(context.Background())
	require.NoError(t, err)
	p.open("/stove/" + cooks[0].ID)
	k.down.Store(true)
	p.press("It is at the mark")
	p.until(`!document.querySelector("[data-offline]").hidden && document.querySelector("[data-waiting]").textContent === "It is at the mark"`)
	k.down.Store(false)
	p.until(`document.querySelector("[data-stove]").dataset.step === "3"`)
	p.until(`document.querySelector("[data-offline]").hidden`)
	after, err := k.store.Cook(context.Background(), cooks[0].ID)
	require.NoError(t, err)
	require.Len(t, after.Events, len(cooks[0].Events)+1)
	require.Equal(t, cook.Next, after.Events[2].Kind)
}

// TestWithoutJavaScript reads and saves by the plain forms.
func TestWithoutJavaScript(t *testing.T) {
	t.Parallel()
	k := newKitchen(t)
	p := newPage(t, k, 1280, 800)
	p.withoutScript()
	shelf, err := k.store.Puddings(context.Background(), 1)
	require.NoError(t, err)
	p.open("/puddings/" + shelf[0].ID)
	p.press("One bowl more")
	p.until(`document.querySelector("#bowls").value === "7"`)
	require.NotEmpty(t, p.text(".bench-pot svg"), "the pictures are there")
	p.press("Undo")
	p.until(`document.querySelector("#bowls").value === "6"`)
}

// TestAccessibility asks axe-core on every screen, light and dark, wide and
// narrow.
func TestAccessibility(t *testing.T) {
	t.Parallel()
	k := newKitchen(t)
	ctx := context.Background()
	shelf, err := k.store.Puddings(ctx, 1)
	require.NoError(t, err)
	cooks, err := k.store.OnStove(ctx)
	require.NoError(t, err)
	book, err := k.store.Book(ctx, 2)
	require.NoError(t, err)
	burners, err := k.store.Burners(ctx)
	require.NoError(t, err)
	suppers, err := k.store.Gatherings(ctx)
	require.NoError(t, err)
	pudding := "/puddings/" + shelf[0].ID
	garnished := store.Cook{ID: uuid.NewString(), PuddingID: shelf[0].ID, BegunAt: k.clock.Now(), Zone: "UTC"}
	way, _ := plan.WayNamed("pulse with jaggery and presses")
	choice, err := way.Check(plan.WayChoice{Bowls: 6, Burner: vessel.DefaultBurner(),
		Pot: vessel.Pot{Shape: vessel.Straight, DiameterMM: 220, HeightMM: 130}})
	require.NoError(t, err)
	garnished.Plan, err = way.Start(choice)
	require.NoError(t, err)
	require.NoError(t, k.store.StartCook(ctx, garnished))
	require.NoError(t, k.store.AppendEvent(ctx, garnished.ID, cook.Event{ID: uuid.NewString(), Kind: cook.Began, Step: 15,
		At: k.clock.Now()}, k.clock.Now()))
	rehearsed := store.Cook{ID: uuid.NewString(), PuddingID: shelf[0].ID, Plan: shelf[0].Plan, BegunAt: k.clock.Now(), Zone: "UTC",
		Rehearsal: true, Task: "boils-over"}
	require.NoError(t, k.store.StartCook(ctx, rehearsed))
	for minute, kind := range []cook.Kind{cook.Next, cook.Finished} {
		require.NoError(t, k.store.AppendEvent(ctx, rehearsed.ID, cook.Event{ID: uuid.NewString(), Kind: kind,
			At: k.clock.Now().Add(time.Duration(30*minute) * time.Minute)}, k.clock.Now()))
	}
	pots, err := k.store.Pots(ctx)
	require.NoError(t, err)
	paths := []string{"/", "/stove/" + garnished.ID, "/stove/" + rehearsed.ID + "/review", "/puddings",
		pudding, "/stove/" + cooks[0].ID, "/logbook", pudding + "/serving",
		pudding + "/all", pudding + "/steps/0", pudding + "/steps/2", "/kitchen/pots/" + pots[0].ID,
		"/logbook/learnt", "/logbook/" + book[0].ID, "/kitchen", "/nowhere",
		"/benches/coconut", "/benches/milk", "/benches/sweetener", "/benches/measure", "/pantry?search=milk", "/pantry/moong-split",
		"/pantry/new",
		"/kitchen/measures", "/kitchen/gadgets", "/kitchen/weigh", "/kitchen/burners/" + burners[0].ID + "/test", "/intake", "/supplies",
		"/buying", pudding + "/scale?bowls=18", pudding + "/balance?thickness=5",
		"/cautions", "/licences", "/gatherings", "/gatherings/" + suppers[0].ID, "/puddings/new?way=set+with+flour+and+starch",
		pudding + "/compare?question=sugar", pudding + "/history",
		"/rescue", "/rescue/pot?liquid=milk-whole&liquid_g=900&grain=rice-short&grain_g=80&symptom=too-thin&grade=2&wanted=4",
		"/stove/" + cooks[0].ID + "/rescue?symptom=too-thick&wanted=2", pudding + "/rescue?symptom=scorched",
		"/archive", "/logbook/trends", "/logbook?tag=rescued", "/logbook/" + book[0].ID + "/beside?with=" + book[1].ID, pudding + "/sheet",
		"/settings", "/start", "/guide", "/model"}
	for _, view := range []struct {
		width, height int64
		scheme        string
	}{{1280, 800, "light"}, {390, 844, "dark"}} {
		t.Run(fmt.Sprintf("%d px", view.width), func(t *testing.T) {
			t.Parallel()
			p := newPage(t, k, view.width, view.height)
			p.allowed = []string{"/nowhere"}
			p.scheme(view.scheme)
			for _, path := range paths {
				p.open(path)
				js[bool](p, `document.querySelectorAll("details").forEach((d) => d.open = true), true`)
				p.mustBeAccessible(fmt.Sprintf("%s at %d px, %s", path, view.width, view.scheme))
				require.LessOrEqual(t, js[int](p, "document.documentElement.scrollWidth"), int(view.width), "%s is wider than the screen", path)
			}
			p.open("/intake") // what was understood has no address of its own
			p.change("#list", twoPans)
			p.press("Read it")
			p.until(`document.querySelector(".outcome") !== null`)
			js[bool](p, `document.querySelectorAll("details").forEach((d) => d.open = true), true`)
			p.mustBeAccessible(fmt.Sprintf("a recipe at %d px, %s", view.width, view.scheme))
			require.LessOrEqual(t, js[int](p, "document.documentElement.scrollWidth"), int(view.width), "the recipe is wider than the screen")
		})
	}
}

// twoPans is a recipe with a second pan, a share, a sentence that nobody understands and a line that is asked.
const twoPans = "Rice with plums\nIngredients\n1 l milk\n80 g rice\n90 g sugar\n300 g plums\n1 glas of stardust\nMethod\n" +
	"1. Bring the milk to the boil with the rice and half of the sugar. Simmer for 30 minutes.\n" +
	"2. Cook the plums with the rest of the sugar in a second pan for 10 minutes. Hum a tune over them.\n" +
	"3. Spoon the plums over the rice and serve chilled."

// TestKeys goes about by keyboard.
func TestKeys(t *testing.T) {
	t.Parallel()
	k := newKitchen(t)
	p := newPage(t, k, 1280, 800)
	p.open("/")
	key := func(name string) {
		js[bool](p, fmt.Sprintf(`document.dispatchEvent(new KeyboardEvent("keydown", {key: %q, bubbles: true})), true`, name))
	}
	key("?")
	p.until(`document.querySelector("[data-help-sheet]").open`)
	p.press("Close")
	key("g")
	key("k")
	p.until(`location.pathname === "/kitchen"`)
}

// TestNewKitchenPot adds a pot by the form and starts a pudding in it.
func TestNewPotAndPudding(t *testing.T) {
	t.Parallel()
	k := newKitchen(t)
	p := newPage(t, k, 1280, 800)
	p.open("/kitchen")
	p.change("#name", "the copper pan")
	p.change("#shape", "taper")
	p.until(`document.querySelector("#diameter_mm").closest("[data-shapes]").hidden`)
	p.change("#bottom_mm", "160")
	p.change("#top_mm", "220")
	p.change("#height_mm", "90")
	p.press("Add the pot")
	p.until(`document.querySelector(".pots").textContent.includes("The copper pan")`)
	p.open("/puddings/new?way=reduced+in+milk")
	p.change("#bowls", "3")
	js[bool](p, `document.querySelector('[name="serve"][value="chilled"]').click(), true`)
	p.press("Make the plan")
	p.until(`document.querySelector("[data-workbench]") !== null`)
	require.Contains(t, p.text(".balance"), "No watchpoints.")
	require.Equal(t, "3", js[string](p, `document.querySelector("#bowls").value`))
	require.Contains(t, p.text(".ledger"), "Put it into the refrigerator")
}

// TestStepsAndSugar moves, adds and leaves out steps, drags the sugar on the
// pot line and sets an aim on the scale, by pointer and by keyboard.
func TestStepsAndSugar(t *testing.T) {
	t.Parallel()
	k := newKitchen(t)
	p := newPage(t, k, 1280, 800)
	p.open("/puddings/new?way=reduced+in+milk")
	p.press("Make the plan")
	p.until(`document.querySelector("[data-workbench]")?.dataset.live === "ready"`)
	steps := func() int { return js[int](p, `document.querySelectorAll("[data-step]").length`) }
	before := steps()

	// The sugar: foreseen while it moves, moved when it is let go, and back.
	js[bool](p, `(() => { const rail = document.querySelector("[data-sugar]"); rail.value = "0";
		rail.dispatchEvent(new Event("input", { bubbles: true })); return true })()`)
	p.until(`document.querySelector("[data-sugar-effect]").textContent.includes("later")
		|| document.querySelector("[data-sugar-effect]").textContent.includes("instead of")`)
	js[bool](p, `(document.querySelector("[data-sugar]").dispatchEvent(new Event("change", { bubbles: true })), true)`)
	p.until(`document.querySelector("[data-saved]").textContent === "saved" && Number(document.querySelector("[data-sugar]").value) < 3`)
	require.Contains(t, p.text(".balance"), "The sugar goes in while")
	p.press("Undo")
	p.until(`Number(document.querySelector("[data-sugar]").value) > 10`)

	// A step is added, moved earlier by its button and taken out.
	js[bool](p, `(document.querySelector(".step-new").open = true)`)
	p.change("#step-kind", "mash")
	p.press("Add the step")
	p.until(fmt.Sprintf(`document.querySelectorAll("[data-step]").length === %d`, before+1))
	js[bool](p, `(document.querySelector("[data-step]:last-child details").open = true)`)
	js[bool](p, `(() => { const b = document.querySelector("[data-step]:last-child [aria-label=Earlier]"); b.focus(); b.click();
		return true })()`)
	p.until(fmt.Sprintf(`document.querySelector("[data-step='%d'] .ledger-title").textContent.toLowerCase().includes("crush")
		|| document.querySelector("[data-step='%d'] .ledger-title").textContent.toLowerCase().includes("mash")`, before-1, before-1))
	require.True(t, js[bool](p, `document.activeElement.getAttribute("aria-label") === "Earlier"`), "the focus goes with the step")
	js[bool](p, `([...document.querySelectorAll("button")].find((b) => b.textContent === "leave out"
		&& b.value === "remove-step:`+fmt.Sprint(before-1)+`").click(), true)`)
	p.until(fmt.Sprintf(`document.querySelectorAll("[data-step]").length === %d`, before))

	// A step is dragged by its minute.
	title := js[string](p, `document.querySelectorAll(".ledger-title")[3].textContent`)
	js[bool](p, `(() => {
		const rows = [...document.querySelectorAll("[data-step]")];
		const grip = rows[3].querySelector("[data-grip]");
		grip.setPointerCapture = () => {};
		const fire = (type, y) => grip.dispatchEvent(new PointerEvent(type, { bubbles: true, button: 0, clientY: y, pointerId: 1 }));
		fire("pointerdown", rows[3].getBoundingClientRect().top + 4);
		fire("pointermove", rows[2].getBoundingClientRect().top + 4);
		fire("pointerup", rows[2].getBoundingClientRect().top + 4);
		return true;
	})()`)
	p.until(fmt.Sprintf(`document.querySelectorAll(".ledger-title")[2].textContent === %q`, title))
	p.press("Undo")
	p.until(fmt.Sprintf(`document.querySelectorAll(".ledger-title")[3].textContent === %q`, title))

	// An aim on the scale: a watchpoint at once, and balanced to it.
	js[bool](p, `(() => { const aim = document.querySelector("#aim-thickness"); aim.value = "5.5";
		aim.dispatchEvent(new Event("input", { bubbles: true })); return true })()`)
	p.until(`document.querySelector(".balance").textContent.includes("5.5 was wanted")`)
	js[bool](p, `([...document.querySelectorAll(".finding button")][0].click(), true)`)
	p.until(`!document.querySelector(".balance").textContent.includes("5.5 was wanted")`)

	// The history says what was done, and goes back.
	p.press("Versions")
	p.until(`document.querySelectorAll(".history > li").length > 5`)
	require.Contains(t, p.text(".history"), "thickness wanted: not there → 5.5")
	p.press("Go back to version 1")
	p.until(`document.querySelector("[data-workbench]") !== null && !document.querySelector(".balance").textContent.includes("is wanted")`)
	p.press("Compare")
	p.until(`document.querySelectorAll(".questions li").length >= 5`)
	p.press("Sugar late or early")
	p.until(`document.querySelector(".compare-table .differs") !== null`)
	p.press("Make this the plan")
	p.until(`document.querySelector("[data-workbench]") !== null`)
	require.Contains(t, p.text(".balance"), "The sugar goes in while")
}
