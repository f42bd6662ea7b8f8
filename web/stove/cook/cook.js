// @ts-check
// The live cook: the time left runs, the alarm rings, what is tapped is sent. Without
// this module the page loads anew by itself.

import { heard, quiet, ring, wakeSound } from "/static/alarm.js";
import { offerAloud, readAloud, toggleAloud } from "/static/aloud.js";
import { clock, count, left, readClock, stir, stirred } from "/static/clock.js";
import { drop, queue, refused, waiting } from "/static/queue.js";
import { opened, read, swap } from "/static/js/swap.js";

const refreshEvery = 15000; // ms, for what the clock alone changes

/** @returns {HTMLElement | null} the part of the page that is swapped */
function root() {
  return document.querySelector("[data-stove]");
}

const mayBeOnItsWay = 1500; // ms for which what was tapped is not yet said to wait

/** Says what waits to be sent, and what the server did not take. */
async function showQueue() {
  const page = root();
  const list = (await waiting()).filter((one) => Date.now() - one.at > mayBeOnItsWay);
  const note = page?.querySelector("[data-offline]");
  if (note instanceof HTMLElement) {
    note.hidden = list.length === 0;
    const number = note.querySelector("[data-waiting]");
    if (number) number.textContent = list.map((one) => one.words).join(", ");
  }
  const box = page?.querySelector("[data-refused]");
  if (!(box instanceof HTMLElement)) return;
  const faults = await refused();
  box.hidden = faults.length === 0;
  const items = faults.map((one) => {
    const item = document.createElement("li");
    const button = document.createElement("button");
    button.type = "button";
    button.className = "button is-quiet";
    button.textContent = "I have seen it";
    button.dataset.drop = one.id;
    item.append(`${one.words}: ${one.reason} `, button);
    return item;
  });
  box.querySelector("ul")?.replaceChildren(...items);
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
  showQueue();
  tick();
}

/** @returns {Promise<boolean>} whether something is being typed, or waits to be sent */
async function busy() {
  // What is waited for comes first: nothing can be typed between the look at the fields and what follows it.
  if ((await waiting()).length > 0) return true;
  const active = document.activeElement;
  if (active instanceof HTMLInputElement || active instanceof HTMLSelectElement) return true;
  for (const field of root()?.querySelectorAll("input") ?? []) {
    if (field.type !== "hidden" && (field.value !== field.defaultValue || field.checked !== field.defaultChecked)) return true;
  }
  return false;
}

/** Loads the page anew, unless the cook is in the middle of something. */
async function refresh() {
  if (await busy()) return;
  try {
    const response = await fetch(location.pathname);
    const html = await response.text();
    if (response.ok && !(await busy())) show(html, response.url);
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

/**
 * Stores what need not be said again, without leaving the page.
 * @param {HTMLFormElement} form
 * @param {HTMLElement | null} button
 */
async function lead(form, button) {
  const body = new URLSearchParams();
  if (button instanceof HTMLButtonElement) body.set(button.name, button.value);
  try {
    const response = await fetch(form.action, { method: "POST", body });
    if (response.ok) show(await response.text(), response.url);
  } catch {
    // Without a connection the hint stays; it hinders nothing.
  }
}

/** Opens a tool, with the cursor in its first field. @param {string} name */
function open(name) {
  const tool = root()?.querySelector(`details[data-keep="${name}"]`);
  if (!(tool instanceof HTMLDetailsElement)) return;
  tool.open = true;
  tool.scrollIntoView({ block: "nearest" });
  const first = tool.querySelector("input:not([type=hidden]), .stove-answers button");
  if (first instanceof HTMLElement) first.focus();
}

const told = queue(showQueue, (html, address) => show(html, address, true));

document.addEventListener("submit", (event) => {
  const form = event.target;
  if (!(form instanceof HTMLFormElement)) return;
  if ("lead" in form.dataset) {
    event.preventDefault();
    lead(form, event.submitter);
    return;
  }
  if (!("tell" in form.dataset)) return;
  event.preventDefault();
  const body = new URLSearchParams(/** @type {any} */ (new FormData(form)));
  const answer = event.submitter;
  if (answer instanceof HTMLButtonElement && answer.name) body.set(answer.name, answer.value);
  if (document.activeElement instanceof HTMLElement) document.activeElement.blur();
  const button = answer ?? form.querySelector("button");
  told.tell(body, (button?.textContent ?? "").replace(/\s+/g, " ").trim());
});

document.addEventListener("click", (event) => {
  const target = event.target;
  if (!(target instanceof Element)) return;
  wakeSound(tick);
  const page = root();
  const opens = target.closest("[data-open]");
  if (opens instanceof HTMLElement) {
    event.preventDefault();
    open(opens.dataset.open ?? "");
  }
  const seen = target.closest("[data-drop]");
  if (seen instanceof HTMLElement) drop(seen.dataset.drop ?? "").then(showQueue);
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
showQueue();
setInterval(tick, 1000);
setInterval(showQueue, 2000);
setInterval(refresh, refreshEvery);

// Over TLS, or on this machine, the Stove goes on through a dropped connection and a reload: a
// worker keeps what it has seen.
navigator.serviceWorker?.addEventListener("controllerchange", refresh);
navigator.serviceWorker?.register("/worker.js").catch(() => {});
