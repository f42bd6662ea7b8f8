package e2e

import (
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/require"
)

// TestAPlanThatCannotBeRead stands on the shelf, says what is wrong, is saved as it is,
// taken off and brought back; nothing else on the shelf is touched.
func TestAPlanThatCannotBeRead(t *testing.T) {
	t.Parallel()
	k := newKitchen(t)
	shelf, err := k.store.Puddings(t.Context(), 10)
	require.NoError(t, err)
	bad := shelf[1]
	_, err = k.store.DB().ExecContext(t.Context(),
		`UPDATE plan_version SET document = json_set(document, '$.format', 'kirdu-plan/9') WHERE pudding_id = ?`, bad.ID)
	require.NoError(t, err)
	p := newPage(t, k, 1280, 800)
	p.open("/puddings")
	require.Contains(t, p.text(".shelf"), shelf[0].Plan.Name)
	p.press(bad.Plan.Name)
	p.until(`location.pathname.startsWith("/unreadable/")`)
	require.Contains(t, p.text("main"), "a later Kirdu wrote it")
	p.mustBeAccessible("a plan that cannot be read")
	stored := js[string](p, `fetch(document.querySelector("a[download]").href).then((r) => r.text())`)
	require.Contains(t, stored, "kirdu-plan/9")
	p.press("Take it off the list")
	p.until(`location.pathname === "/puddings"`)
	require.NotContains(t, p.text(".shelf"), bad.Plan.Name)
	p.do(chromedp.Click(chromedp.CSS(`form[action$="/restore"] button`)))
	p.until(`location.search === "" && document.querySelector(".shelf").textContent.includes("Cannot be read")`)
	require.Contains(t, p.text(".shelf"), bad.Plan.Name)
}
