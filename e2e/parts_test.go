package e2e

import (
	"testing"

	"github.com/stretchr/testify/require"
)

// TestOnePartOfTheWorkbenchOnAPhone shows one part at a time beside the result, keeps it through an edit, and shows all of
// them where there is no script, and on a wide screen.
func TestOnePartOfTheWorkbenchOnAPhone(t *testing.T) {
	t.Parallel()
	k := newKitchen(t)
	puddings, err := k.store.Puddings(t.Context(), 1)
	require.NoError(t, err)
	path := "/puddings/" + puddings[0].ID
	const seen = `[...document.querySelectorAll(".bench > section, .bench-foot")].filter((e) => e.checkVisibility())
		.map((e) => e.id || "foot").join(" ")`
	p := newPage(t, k, 390, 844)
	p.open(path)
	p.until(seen + ` === "steps"`)
	require.Less(t, js[int](p, "document.documentElement.scrollHeight"), 2200)
	p.press("Balance")
	p.until(seen + ` === "balance-now"`)
	require.True(t, js[bool](p, `document.querySelector(".bench-bar").checkVisibility()`), "the result is always in sight")
	p.mustBeAccessible("the balance on a phone")
	p.press("One bowl more")
	p.until(`document.querySelector("#bowls").value === "7"`)
	require.Equal(t, "balance-now", js[string](p, seen))
	p.press("More")
	p.until(seen + ` === "foot"`)

	wide := newPage(t, k, 1280, 800)
	wide.open(path)
	require.Equal(t, "steps pot-now balance-now line-now foot", js[string](wide, seen))
	plain := newPage(t, k, 390, 844)
	plain.withoutScript()
	plain.open(path)
	require.Equal(t, "steps pot-now balance-now line-now foot", js[string](plain, seen))
}
