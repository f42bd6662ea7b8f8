package e2e

import (
	"context"
	"fmt"
	"strings"
	"testing"

	"github.com/chromedp/cdproto/cdp"
	"github.com/chromedp/cdproto/input"
	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/require"
)

// mouse does one thing with the mouse at a point of the window.
func (p *page) mouse(kind input.DispatchMouseEventType, x, y float64) {
	p.do(chromedp.Func(func(ctx context.Context, t *chromedp.Target) error {
		_, err := cdp.Call(ctx, t, input.DispatchMouseEvent, input.DispatchMouseEventParams{Type: kind, X: x, Y: y, Button: "left",
			Buttons: 1, ClickCount: 1})
		return err
	}))
}

// TestDragInTheLanes drags the bars of a pudding an hour to the left: its pot
// follows, and what cannot be is said.
func TestDragInTheLanes(t *testing.T) {
	t.Parallel()
	k := newKitchen(t)
	p := newPage(t, k, 1280, 800)
	suppers, err := k.store.Gatherings(context.Background())
	require.NoError(t, err)
	p.open("/gatherings/" + suppers[0].ID)
	p.until(`document.querySelector("[data-lanes]").classList.contains("can-drag")`)
	times := func() string {
		return js[string](p, `[...document.querySelectorAll("table.tasks tbody tr")].filter((r) => r.querySelector(".lane-1"))
			.map((r) => r.cells[1].textContent).join(" ")`)
	}
	before := times()
	js[bool](p, `document.querySelector("[data-lanes]").scrollIntoView({block: "center"}), true`)
	drag := func(minutes int) {
		at := js[[]float64](p, `(() => {
			const b = document.querySelector('rect[data-pudding="1"][data-burner="front burner"], rect[data-pudding="1"]').getBoundingClientRect();
			return [b.x + b.width / 2, b.y + b.height / 2]; })()`)
		px := js[float64](p, `(() => { const l = document.querySelector("[data-lanes]");
			const { minutes, px } = JSON.parse(l.dataset.axis);
			return (px.at(-1) - px.at(-2)) / (minutes.at(-1) - minutes.at(-2)) * l.getBoundingClientRect().width / l.viewBox.baseVal.width; })()`)
		p.mouse(input.DispatchMouseEventTypeMousePressed, at[0], at[1])
		for step := 1; step <= 4; step++ {
			p.mouse(input.DispatchMouseEventTypeMouseMoved, at[0]+px*float64(minutes*step)/4, at[1])
		}
		require.Contains(t, p.text("[data-move-note]"), fmt.Sprintf("%d min earlier", -minutes))
		p.mouse(input.DispatchMouseEventTypeMouseReleased, at[0]+px*float64(minutes), at[1])
	}
	drag(-15)
	p.until(`document.querySelector(".shares")?.innerText.includes("put where it is by hand") ?? false`)
	require.NotEqual(t, before, times())
	require.Equal(t, strings.Count(before, ":"), strings.Count(times(), ":"))

	p.press("Work out the timetable again")
	p.until(`!document.querySelector(".shares").innerText.includes("by hand")`)
	require.Equal(t, before, times())
	p.change("#late_by", "25")
	p.press("Move the rest")
	p.until(`document.querySelector("#late_by").value === "20"`)
}
