// @ts-check
// Drags tasks in the lanes: along the time, and from burner to burner. The list
// below the lanes does the same by its buttons, without this module.

const lanes = document.querySelector("[data-lanes]");
const form = document.querySelector("form[data-move]");
const note = document.querySelector("[data-move-note]");

/**
 * @param {SVGSVGElement} svg @param {PointerEvent} event
 * @returns {DOMPoint} where the pointer is, in the units of the picture
 */
function point(svg, event) {
  return new DOMPoint(event.clientX, event.clientY).matrixTransform(svg.getScreenCTM()?.inverse());
}

/**
 * @param {SVGSVGElement} svg @param {number} y
 * @returns {string} the burner whose lane that is, "" for none
 */
function burnerAt(svg, y) {
  for (const title of svg.querySelectorAll("[data-y]")) {
    if (!(title instanceof SVGElement)) continue;
    const top = Number(title.dataset.y);
    if (y >= top && y <= top + Number(title.dataset.height)) return title.dataset.burner ?? "";
  }
  return "";
}

/**
 * Reads a value off a line through points.
 * @param {number[]} xs rising @param {number[]} ys @param {number} x
 */
function read(xs, ys, x) {
  const next = xs.findIndex((one) => one > x);
  if (next < 0) return ys.at(-1) ?? 0;
  const k = Math.max(next, 1);
  const [x0, x1, y0, y1] = [xs[k - 1] ?? 0, xs[k] ?? 1, ys[k - 1] ?? 0, ys[k] ?? 0];
  return y0 + Math.max((x - x0) / (x1 - x0), 0) * (y1 - y0);
}

/** @param {number} minutes */
function words(minutes) {
  if (minutes === 0) return "where it was";
  return `${Math.abs(minutes)} min ${minutes < 0 ? "earlier" : "later"}`;
}

if (lanes instanceof SVGSVGElement && form instanceof HTMLFormElement) {
  /** @type {{minutes: number[], px: number[]}} where each minute lies; long idle stretches are folded */
  const axis = JSON.parse(lanes.dataset.axis ?? "");
  const minuteAt = (/** @type {number} */ x) => read(axis.px, axis.minutes, x);
  const pxAt = (/** @type {number} */ minute) => read(axis.minutes, axis.px, minute);
  /** @type {{bar: SVGElement, from: DOMPoint, minutes: number, burner: string} | null} */
  let drag = null;
  const together = (/** @type {SVGElement} */ bar) => lanes.querySelectorAll(`rect[data-pudding="${bar.dataset.pudding}"]`);
  lanes.classList.add("can-drag");

  lanes.addEventListener("pointerdown", (event) => {
    if (!(event.target instanceof SVGElement) || !event.target.dataset.pudding) return;
    event.preventDefault();
    drag = { bar: event.target, from: point(lanes, event), minutes: 0, burner: event.target.dataset.burner ?? "" };
    lanes.setPointerCapture(event.pointerId);
  });

  lanes.addEventListener("pointermove", (event) => {
    if (!drag) return;
    const at = point(lanes, event);
    const from = minuteAt(drag.from.x);
    drag.minutes = Math.round(minuteAt(at.x) - from);
    if (drag.bar.dataset.burner) drag.burner = burnerAt(lanes, at.y) || drag.burner;
    for (const bar of together(drag.bar)) bar.setAttribute("transform", `translate(${pxAt(from + drag.minutes) - drag.from.x} 0)`);
    if (note) note.textContent = `${words(drag.minutes)}${drag.burner && drag.burner !== drag.bar.dataset.burner ? `, on ${drag.burner}` : ""}`;
  });

  const drop = (/** @type {boolean} */ done) => {
    if (!drag) return;
    const { bar, minutes, burner } = drag;
    drag = null;
    const another = burner !== "" && burner !== bar.dataset.burner;
    if (!done || (minutes === 0 && !another)) {
      for (const one of together(bar)) one.removeAttribute("transform");
      if (note) note.textContent = "";
      return;
    }
    const set = (/** @type {string} */ name, /** @type {string} */ value) => {
      const field = form.elements.namedItem(name);
      if (field instanceof HTMLInputElement) field.value = value;
    };
    const share = document.querySelector(`[data-share="${bar.dataset.pudding}"]`);
    set("pudding", share instanceof HTMLElement ? (share.dataset.id ?? "") : "");
    set("step", bar.dataset.step ?? "");
    set("by", String(minutes));
    set("burner", another ? burner : "");
    form.requestSubmit();
  };
  lanes.addEventListener("pointerup", () => drop(true));
  lanes.addEventListener("pointercancel", () => drop(false));
  document.addEventListener("keydown", (event) => {
    if (event.key === "Escape") drop(false);
  });
}
