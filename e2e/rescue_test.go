package e2e

import (
	"fmt"
	"os"
	"path/filepath"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/require"

	"kirdu/core/cook"
)

// TestRescuedAtTheStove finds the pot too thick, takes the repair that is worked out
// and goes on with its steps, by touch, on a phone.
func TestRescuedAtTheStove(t *testing.T) {
	t.Parallel()
	k := newKitchen(t)
	cooks, err := k.store.OnStove(t.Context())
	require.NoError(t, err)
	path := "/stove/" + cooks[0].ID
	p := newPage(t, k, 390, 844)
	p.open(path)
	js[bool](p, `document.querySelector(".stove-rescue a").click(), true`)
	p.until(`location.pathname.endsWith("/rescue")`)
	// One question at a time: what is wrong, and where that is not enough what is seen.
	require.Zero(t, js[int](p, `document.querySelectorAll("main select, main input:not([type=hidden])").length`))
	p.press("Too thick")
	p.until(`document.querySelector(".rescue-wrong")?.textContent.includes("Too thick") ?? false`)
	js[bool](p, `document.querySelector(".rescue-see").open = true, document.querySelector("#wanted").value = "3", true`)
	p.press("Work it out again")
	p.until(`document.querySelector(".repair") !== null`)
	require.Contains(t, p.text(".repair h3"), "Loosen it with")
	require.Contains(t, p.text(".repair table"), "Thickness as served")
	tall := js[float64](p, `document.querySelector(".repair form button").getBoundingClientRect().height`)
	require.GreaterOrEqual(t, tall, 64.0, "a touch target of the stove")
	js[bool](p, `document.querySelector(".repair form button").click(), true`)
	p.until(fmt.Sprintf(`location.pathname === %q`, path))
	require.Contains(t, p.text("h1"), "Pour in", "the first step of the repair is what is to be done")
	require.Contains(t, p.text("[data-changed]"), "Loosen it with")
	before := len(stored(t, k, cooks[0].ID))
	k.clock.pass(1)
	js[bool](p, `document.querySelector("[data-next]").click(), true`)
	p.until(`document.querySelector("h1").textContent.includes("sugar")`)
	events := stored(t, k, cooks[0].ID)
	require.Greater(t, len(events), before)
	require.Equal(t, cook.Next, events[len(events)-1].Kind)
}

func stored(t *testing.T, k *kitchen, id string) []cook.Event {
	t.Helper()
	one, err := k.store.Cook(t.Context(), id)
	require.NoError(t, err)
	return one.Events
}

// TestArchiveOutAndIn saves the archive, chooses it again and takes it over.
func TestArchiveOutAndIn(t *testing.T) {
	t.Parallel()
	k := newKitchen(t)
	p := newPage(t, k, 1280, 800)
	p.open("/archive")
	data := js[string](p, `fetch("/archive/kirdu.zip").then((r) => r.arrayBuffer())
		.then((b) => String.fromCharCode(...new Uint8Array(b).slice(0, 2)))`)
	require.Equal(t, "PK", data)
	file := filepath.Join(t.TempDir(), "bad.kirdu.zip")
	require.NoError(t, os.WriteFile(file, []byte("Once upon a time"), 0o600))
	p.allowed = []string{"422"}
	p.do(chromedp.SetUploadFiles(chromedp.CSS("#archive-file"), []string{file}))
	p.press("See what it would do")
	p.until(`document.querySelector(".fault") !== null`)
	require.Contains(t, p.text(".fault"), "is no archive of Kirdu. Nothing was changed")
	p.open("/archive")
	// The archive that the page itself sends, put into the field as a cook would.
	js[bool](p, `fetch("/archive/kirdu.zip").then((r) => r.blob()).then((blob) => {
		const list = new DataTransfer();
		list.items.add(new File([blob], "mine.kirdu.zip"));
		document.querySelector("#archive-file").files = list.files;
		return true;
	})`)
	p.press("See what it would do")
	p.until(`document.querySelector("#does-head") !== null`)
	require.Contains(t, p.text("#does-head"), "mine.kirdu.zip")
	p.press("Take over the archive")
	p.until(`document.querySelector("#does-head").textContent.includes("taken over")`)
}

// TestDarkByChoice chooses the dark colours on a light device.
func TestDarkByChoice(t *testing.T) {
	t.Parallel()
	k := newKitchen(t)
	p := newPage(t, k, 1280, 800)
	p.scheme("light")
	p.open("/settings")
	colour := `getComputedStyle(document.body).backgroundColor`
	light := js[string](p, colour)
	js[bool](p, `document.querySelector('input[name="theme"][value="dark"]').click(), true`)
	p.press("Save")
	p.until(`document.documentElement.dataset.theme === "dark"`)
	require.NotEqual(t, light, js[string](p, colour))
	p.mustBeAccessible("settings in the dark")
	p.open("/")
	require.NotEqual(t, light, js[string](p, colour), "on every page")
	p.scheme("dark")
	p.open("/settings")
	js[bool](p, `document.querySelector('input[name="theme"][value="light"]').click(), true`)
	p.press("Save")
	p.until(`document.documentElement.dataset.theme === "light"`)
	require.Equal(t, light, js[string](p, colour), "light on a dark device")
}
