// @ts-check
// The clock of the cook, what is left on it, and when to stir.

let base = Date.now(); // ms: when this device read the cook's clock
let shown = base; // ms: what that clock showed
let speed = 1; // of that clock, more than 1 in a rehearsal
let lastStir = Date.now();

const soon = 90000; // ms before its time from which the next step is offered

/** @returns {number} ms on the cook's clock */
export function clock() {
  return shown + (Date.now() - base) * speed;
}

/** @param {HTMLElement} page the part of the page that knows the clock */
export function readClock(page) {
  // A page that the worker kept tells when this device got it.
  base = Number(page.dataset.kept) || Date.now();
  shown = Number(page.dataset.now);
  speed = Number(page.dataset.speed) || 1;
}

/** Begins to count to the next stirring. */
export function stirred() {
  lastStir = Date.now();
}

/** @param {number} ms a time on the cook's clock @param {number} now the same */
function minutesUntil(ms, now) {
  return Math.max(0, (ms - now) / 60000);
}

/** Shows how long the step takes still. @param {HTMLElement} page @param {number} now on the cook's clock */
export function left(page, now) {
  if (!page.dataset.due) return;
  const low = Math.round(minutesUntil(Number(page.dataset.low), now));
  const high = Math.round(minutesUntil(Number(page.dataset.high), now));
  const left = page.querySelector("[data-left]");
  const unit = page.querySelector("[data-unit]");
  const words = high < 1 ? "now" : low === high ? String(high) : `${low}–${high}`;
  if (left && left.textContent !== words) left.textContent = words;
  if (unit) unit.textContent = words === "now" ? "look into the pot" : "minutes to go";
  const next = page.querySelector("[data-next]");
  if (next && Number(page.dataset.due) - now < soon) {
    next.classList.add("is-primary");
    next.classList.remove("is-waiting");
  }
}

/** Runs the clocks of the jobs. @param {HTMLElement} page @param {number} now on the cook's clock */
export function count(page, now) {
  for (const one of page.querySelectorAll("[data-timer]")) {
    const clock = one.querySelector("[data-count]");
    if (!(one instanceof HTMLElement) || !clock) continue;
    const seconds = Math.round((Number(one.dataset.due) - now) / 1000);
    one.classList.toggle("is-due", seconds <= 0);
    const words = seconds <= 0 ? "now" : `${Math.floor(seconds / 60)}:${String(seconds % 60).padStart(2, "0")}`;
    if (seconds < 3600 && clock.textContent !== words) clock.textContent = words;
  }
}

/** Shows when to stir next. @param {HTMLElement} page */
export function stir(page) {
  const pulse = page.querySelector("[data-stir]");
  const left = page.querySelector("[data-stir-left]");
  if (!(pulse instanceof HTMLElement) || !left) return;
  const every = Number(pulse.dataset.stir) * 1000;
  let passed = (Date.now() - lastStir) * speed;
  if (passed >= every) {
    lastStir = Date.now();
    passed = 0;
  }
  const bars = pulse.querySelectorAll("i");
  bars.forEach((bar, i) => bar.classList.toggle("is-past", passed / every > (i + 0.5) / bars.length));
  const seconds = Math.ceil((every - passed) / 1000);
  left.textContent = passed < 4000 ? "now" : `in ${Math.floor(seconds / 60)}:${String(seconds % 60).padStart(2, "0")}`;
}
