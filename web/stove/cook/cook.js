// @ts-check
// The live cook: the time left runs, the alarm rings, what is tapped is sent. Without
// this module the page loads anew by itself.

import { heard, quiet, ring, wakeSound } from "/static/alarm.js";
import { offerAloud, readAloud, toggleAloud } from "/static/aloud.js";
import { clock, count, left, readClock, stir, stirred } from "/static/clock.js";
import { queue, waiting } from "/static/queue.js";
import { opened, read, swap } from "/static/js/swap.js";

const refreshEvery = 15000; // ms, for what the clock alone changes

/** @returns {HTMLElement | null} the part of the page that is swapped */
function root() {
  return document.querySelector("[data-stove]");
}

/** @param {number} count of what waits to be sent */
function showWaiting(count) {
  const note = root()?.querySelector("[data-offline]");
  if (!(note instanceof HTMLElement)) return;
  note.hidden = count === 0;
  const number = note.querySelector("[data-waiting]");
  if (number) number.textContent = String(count);
}

/**
 * @param {string} html a page of the Stove or of what follows it
 * @param {string} address where it is
 * @param {boolean} [told] whether it answers what was told here: what was open for that is shut
 */
function show(html, address, told = false) {
  const next = read(html).querySelector("[data-stove]");
  const now = root();
  if (!(next instanceof HTMLElement) || !now) {
    location.href = address;
    return;
  }
  const same = next.dataset.step === now.dataset.step;
  if (!same) stirred();
  swap(now, next, { whole: true, open: same && !told ? opened(now) : new Set() });
  readClock(next);
  showWaiting(waiting().length);
  tick();
}

/** Loads the page anew, unless something is being typed or waits to be sent. */
async function refresh() {
  const active = document.activeElement;
  if (active instanceof HTMLInputElement || active instanceof HTMLSelectElement || waiting().length > 0) return;
  try {
    const response = await fetch(location.pathname);
    if (response.ok) show(await response.text(), response.url);
  } catch {
    // The next refresh tries again; the clock runs on meanwhile.
  }
}

/** Runs the time left, the stirring and the alarm. */
function tick() {
  const page = root();
  if (!page) return;
  const now = clock();
  left(page, now);
  count(page, now);
  ring(page, now);
  stir(page);
  const line = page.querySelector("[data-sound-line]");
  if (line instanceof HTMLElement) line.hidden = heard();
  const dark = page.querySelector("[data-awake-line]");
  if (dark instanceof HTMLElement) dark.hidden = awake;
  offerAloud(page);
  readAloud(page);
}

const told = queue(showWaiting, (html, address) => show(html, address, true));

document.addEventListener("submit", (event) => {
  const form = event.target;
  if (!(form instanceof HTMLFormElement) || !("tell" in form.dataset)) return;
  event.preventDefault();
  const body = new URLSearchParams(/** @type {any} */ (new FormData(form)));
  const answer = event.submitter;
  if (answer instanceof HTMLButtonElement && answer.name) body.set(answer.name, answer.value);
  if (document.activeElement instanceof HTMLElement) document.activeElement.blur();
  told.tell(body);
});

document.addEventListener("click", (event) => {
  const target = event.target;
  if (!(target instanceof Element)) return;
  wakeSound(tick);
  const page = root();
  if (target.closest("[data-aloud]") && page) toggleAloud(page);
  if (target.closest("[data-quiet]") && page) {
    quiet(page, clock());
    tick();
  }
});

/** The buttons of the page in their order, for the keys 1 to 9. @returns {HTMLElement[]} */
function buttons() {
  const all = root()?.querySelectorAll("button.is-stove, summary.button, a.is-stove") ?? [];
  return /** @type {HTMLElement[]} */ ([...all]).filter((b) => b instanceof HTMLElement && b.checkVisibility());
}

document.addEventListener("keydown", (event) => {
  const active = document.activeElement;
  const typing = active instanceof HTMLInputElement || active instanceof HTMLSelectElement || active instanceof HTMLTextAreaElement;
  if (/^[1-9]$/.test(event.key) && !typing && !event.ctrlKey && !event.altKey && !event.metaKey) {
    buttons()[Number(event.key) - 1]?.click();
    return;
  }
  const free = document.activeElement === document.body || document.activeElement?.id === "content";
  if (event.key === "Enter" && free) {
    const form = root()?.querySelector("form[data-main]");
    if (form instanceof HTMLFormElement) form.requestSubmit();
  }
});

let awake = false; // the browser keeps the screen on

async function stayAwake() {
  try {
    const lock = await navigator.wakeLock?.request("screen");
    awake = lock !== undefined;
    lock?.addEventListener("release", () => (awake = false));
  } catch {
    awake = false; // not allowed here: the page says so, and the cook goes on
  }
  tick();
}

document.addEventListener("visibilitychange", () => {
  if (document.visibilityState === "visible") {
    stayAwake();
    told.send();
    refresh();
  }
});

/** Hears of what another device has told of this cook. */
function listen() {
  const stream = new EventSource(`${location.pathname}/changes`);
  stream.addEventListener("changed", refresh);
}

const page = root();
if (page) readClock(page);
listen();
stayAwake();
tick();
told.send();
setInterval(tick, 1000);
setInterval(refresh, refreshEvery);
