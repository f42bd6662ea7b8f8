// @ts-check
// The live cook: the time left runs, the alarm is heard and seen, and what is
// tapped is sent once each and in order, kept on the device while the server
// cannot be reached. Without this module the page loads anew by itself.

const refreshEvery = 15000; // ms, for what the clock alone changes
const retryEvery = 3000; // ms
const alarmEvery = 20000; // ms

/** @typedef {{path: string, body: string, at: number}} Waiting */

const key = "kirdu-waiting";

/** @returns {Waiting[]} what is kept on this device */
function waiting() {
  try {
    return JSON.parse(localStorage.getItem(key) ?? "[]");
  } catch {
    return [];
  }
}

/** @param {Waiting[]} list */
function keep(list) {
  localStorage.setItem(key, JSON.stringify(list));
  showWaiting(list.length);
}

/** @param {number} count */
function showWaiting(count) {
  const note = root()?.querySelector("[data-offline]");
  if (note instanceof HTMLElement) {
    note.hidden = count === 0;
    const number = note.querySelector("[data-waiting]");
    if (number) number.textContent = String(count);
  }
}

/** @returns {HTMLElement | null} the part of the page that is swapped */
function root() {
  return document.querySelector("[data-stove]");
}

/** @returns {string} a random identifier; randomUUID is missing on plain http */
function newID() {
  const b = crypto.getRandomValues(new Uint8Array(16));
  b[6] = (b[6] & 0x0f) | 0x40;
  b[8] = (b[8] & 0x3f) | 0x80;
  const hex = [...b].map((x) => x.toString(16).padStart(2, "0")).join("");
  return `${hex.slice(0, 8)}-${hex.slice(8, 12)}-${hex.slice(12, 16)}-${hex.slice(16, 20)}-${hex.slice(20)}`;
}

let base = Date.now(); // ms: when this device read the cook's clock
let shown = base; // ms: what that clock showed
let speed = 1; // of that clock, more than 1 in a rehearsal
let lastStir = Date.now();
/** @type {Set<string>} alarms that were quieted */
const quieted = new Set();
/** @type {Set<string>} alarms that have rung */
const rung = new Set();
let lastBeep = 0;
/** @type {AudioContext | null} */
let sound = null;

/** @returns {number} ms on the cook's clock */
function clock() {
  return shown + (Date.now() - base) * speed;
}

function readClock() {
  const page = root();
  if (!page) return;
  base = Date.now();
  shown = Number(page.dataset.now);
  speed = Number(page.dataset.speed) || 1;
}

/**
 * @param {string} html a page of the Stove or of what follows it
 * @param {string} address where it is
 */
function show(html, address) {
  const page = new DOMParser().parseFromString(html, "text/html");
  const next = page.querySelector("[data-stove]");
  const now = root();
  if (!next || !now) {
    location.href = address;
    return;
  }
  const step = now.dataset.step;
  const open = new Set([...now.querySelectorAll("details[data-keep][open]")].map((d) => d.getAttribute("data-keep")));
  now.replaceWith(next);
  const fresh = /** @type {HTMLElement} */ (root());
  if (fresh.dataset.step !== step) lastStir = Date.now();
  else for (const d of fresh.querySelectorAll("details[data-keep]")) if (open.has(d.getAttribute("data-keep"))) d.setAttribute("open", "");
  readClock();
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

let sending = false;

/** Sends what waits, oldest first. */
async function send() {
  if (sending) return;
  sending = true;
  try {
    for (let list = waiting(); list.length > 0; list = waiting()) {
      const first = list[0];
      const body = new URLSearchParams(first.body);
      body.set("age_ms", String(Math.max(0, Date.now() - first.at)));
      const response = await fetch(first.path, { method: "POST", body });
      if (response.status >= 500) break;
      if (response.status === 401) {
        // Locked meanwhile: what waits is kept until the kitchen is open again.
        location.href = "/login";
        break;
      }
      keep(waiting().slice(1));
      if (first.path === location.pathname) {
        const html = await response.text();
        if (list.length === 1) {
          for (const d of root()?.querySelectorAll("details[data-keep][open]") ?? []) d.removeAttribute("open");
          show(html, response.url);
        }
      }
    }
  } catch {
    showWaiting(waiting().length);
  } finally {
    sending = false;
  }
}

document.addEventListener("submit", (event) => {
  const form = event.target;
  if (!(form instanceof HTMLFormElement) || !("tell" in form.dataset)) return;
  event.preventDefault();
  const body = new URLSearchParams(/** @type {any} */ (new FormData(form)));
  const answer = event.submitter;
  if (answer instanceof HTMLButtonElement && answer.name) body.set(answer.name, answer.value);
  body.set("id", newID());
  keep([...waiting(), { path: location.pathname, body: body.toString(), at: Date.now() }]);
  showWaiting(0); // shown only once sending has failed
  if (document.activeElement instanceof HTMLElement) document.activeElement.blur();
  send();
});

/** Three rising tones; silent until a tap has allowed sound. */
function beep() {
  if (!sound || sound.state !== "running") return;
  for (let n = 0; n < 3; n++) {
    const tone = sound.createOscillator();
    const volume = sound.createGain();
    const at = sound.currentTime + n * 0.25;
    tone.frequency.value = 660 + n * 110;
    volume.gain.setValueAtTime(0.0001, at);
    volume.gain.exponentialRampToValueAtTime(0.3, at + 0.02);
    volume.gain.exponentialRampToValueAtTime(0.0001, at + 0.22);
    tone.connect(volume).connect(sound.destination);
    tone.start(at);
    tone.stop(at + 0.24);
  }
}

function wakeSound() {
  sound ??= new AudioContext();
  sound.resume().then(tick, () => {});
}

/** @param {number} ms a time on the server's clock @param {number} now the same */
function minutesUntil(ms, now) {
  return Math.max(0, (ms - now) / 60000);
}

/** Runs the time left, the stirring and the alarm. */
function tick() {
  const page = root();
  if (!page) return;
  const now = clock();
  if (page.dataset.due) {
    const low = Math.round(minutesUntil(Number(page.dataset.low), now));
    const high = Math.round(minutesUntil(Number(page.dataset.high), now));
    const left = page.querySelector("[data-left]");
    const unit = page.querySelector("[data-unit]");
    const words = high < 1 ? "now" : low === high ? String(high) : `${low}–${high}`;
    if (left && left.textContent !== words) left.textContent = words;
    if (unit) unit.textContent = words === "now" ? "look into the pot" : "minutes to go";
    const due = Number(page.dataset.due);
    const next = page.querySelector("[data-next]");
    if (next && due - now < 90000) {
      next.classList.add("is-primary");
      next.classList.remove("is-waiting");
    }
  }
  count(page, now);
  ring(page, now);
  stir(page);
  const line = page.querySelector("[data-sound-line]");
  if (line instanceof HTMLElement) line.hidden = sound?.state === "running";
}

/**
 * Rings for every alarm whose time is up: the step's own and those of the jobs
 * beside the pot, each until it is quieted.
 * @param {HTMLElement} page @param {number} now on the server's clock
 */
function ring(page, now) {
  const box = page.querySelector("[data-alarm-box]");
  const words = page.querySelector("[data-alarm-words]");
  if (!(box instanceof HTMLElement) || !words) return;
  const due = alarms(page).filter((alarm) => now >= alarm.due && !quieted.has(alarm.key));
  const text = due.map((alarm) => alarm.words).join(" ");
  if (words.textContent !== text) words.textContent = text;
  box.hidden = due.length === 0;
  document.title = document.title.replace(/^🔔 /u, "");
  if (due.length === 0) return;
  document.title = `🔔 ${document.title}`;
  const fresh = due.some((alarm) => !rung.has(alarm.key));
  for (const alarm of due) rung.add(alarm.key);
  if (fresh || Date.now() - lastBeep > alarmEvery) {
    lastBeep = Date.now();
    beep();
    if (navigator.userActivation?.hasBeenActive) navigator.vibrate?.([300, 150, 300]);
  }
}

/**
 * @param {HTMLElement} page
 * @returns {{key: string, due: number, words: string}[]}
 */
function alarms(page) {
  const list = [];
  if (page.dataset.due) list.push({ key: `step ${page.dataset.step}`, due: Number(page.dataset.due), words: page.dataset.alarm ?? "" });
  for (const one of page.querySelectorAll("[data-timer]")) {
    if (one instanceof HTMLElement) list.push({ key: one.dataset.timer ?? "", due: Number(one.dataset.due), words: one.dataset.alarm ?? "" });
  }
  return list;
}

/** Runs the clocks of the jobs. @param {HTMLElement} page @param {number} now on the server's clock */
function count(page, now) {
  for (const one of page.querySelectorAll("[data-timer]")) {
    const clock = one.querySelector("[data-count]");
    if (!(one instanceof HTMLElement) || !clock) continue;
    const seconds = Math.round((Number(one.dataset.due) - now) / 1000);
    one.classList.toggle("is-due", seconds <= 0);
    const words = seconds <= 0 ? "now" : `${Math.floor(seconds / 60)}:${String(seconds % 60).padStart(2, "0")}`;
    if (seconds < 3600 && clock.textContent !== words) clock.textContent = words;
  }
}

/** @param {HTMLElement} page */
function stir(page) {
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

document.addEventListener("click", (event) => {
  const target = event.target;
  if (!(target instanceof Element)) return;
  wakeSound();
  const page = root();
  if (target.closest("[data-quiet]") && page) {
    const now = clock();
    for (const alarm of alarms(page)) if (now >= alarm.due) quieted.add(alarm.key);
    tick();
  }
});

document.addEventListener("keydown", (event) => {
  const free = document.activeElement === document.body || document.activeElement?.id === "content";
  if (event.key === "Enter" && free) {
    const form = root()?.querySelector("form[data-main]");
    if (form instanceof HTMLFormElement) form.requestSubmit();
  }
});

async function stayAwake() {
  try {
    await navigator.wakeLock?.request("screen");
  } catch {
    // Not allowed here; the screen may sleep, the cook goes on.
  }
}

document.addEventListener("visibilitychange", () => {
  if (document.visibilityState === "visible") {
    stayAwake();
    send();
    refresh();
  }
});

/** Hears of what another device has told of this cook. */
function listen() {
  const stream = new EventSource(`${location.pathname}/changes`);
  stream.addEventListener("changed", refresh);
}

readClock();
listen();
stayAwake();
tick();
send();
setInterval(tick, 1000);
setInterval(refresh, refreshEvery);
setInterval(() => {
  if (waiting().length > 0) send();
}, retryEvery);
