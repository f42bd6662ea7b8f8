package e2e

import (
	"path/filepath"
	"testing"
	"time"

	"github.com/stretchr/testify/require"
)

// TestTheFirstHour goes from an empty kitchen to a plan of one's own, on a laptop and on a phone: from a way of
// cooking, and from an aunt's recipe. It counts what is pressed and says how long the program takes for it.
func TestTheFirstHour(t *testing.T) {
	t.Parallel()
	const recipe = "Kheer of my aunt\n\nIngredients\n1 l milk\n75 g rice\n100 g sugar\n10 cashews\n1 tbsp ghee\n\nMethod\n" +
		"Soak the rice for half an hour. Bring the milk to the boil, add the rice and simmer until it is soft, stirring often. " +
		"Stir in the sugar and simmer 5 minutes more. Fry the cashews in the ghee and scatter them on top."
	for _, view := range []struct {
		name          string
		width, height int64
	}{{"laptop", 1280, 800}, {"phone", 390, 844}} {
		for _, from := range []string{"a way", "a recipe"} {
			t.Run(view.name+" from "+from, func(t *testing.T) {
				k := &kitchen{clock: &clock{now: time.Now().UTC()}, path: filepath.Join(t.TempDir(), "empty.sqlite")}
				k.open(t)
				t.Cleanup(func() { k.server.Close(); k.store.Close() })
				p := newPage(t, k, view.width, view.height)
				begun, presses := time.Now(), 0
				press := func(name string) { presses++; p.press(name) }
				p.open("/")
				if from == "a way" {
					press("Make the plan")
				} else {
					press("I have a recipe: paste it next")
					p.until(`location.pathname === "/intake"`)
					p.change("#list", recipe)
					press("Read it")
					p.until(`document.querySelectorAll(".sentences > li").length === 4`)
					require.NotContains(t, p.text("main"), "not understood")
					press("Make a plan of it")
				}
				p.until(`/^\/puddings\/[0-9a-f-]{36}$/.test(location.pathname)`)
				p.until(`document.querySelector("[data-total-time]") !== null`)
				took := time.Since(begun)
				require.LessOrEqual(t, presses, 3)
				require.Contains(t, p.text("main"), "Start cooking")
				require.NotContains(t, p.text("main"), "Stop:", "a plan that can be cooked")
				t.Logf("%s from %s: %d presses, %.1f s of the program's time", view.name, from, presses, took.Seconds())
			})
		}
	}
}
