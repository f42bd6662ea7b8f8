// @ts-check
// The alarm is seen and heard: the step's own, and those of the jobs beside the pot.

import { alarmAloud } from "/static/aloud.js";

const alarmEvery = 20000; // ms

/** @type {Set<string>} alarms that were quieted */
const quieted = new Set();
/** @type {Set<string>} alarms that have rung */
const rung = new Set();
let lastBeep = 0;
/** @type {AudioContext | null} */
let sound = null;

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

/** A tap allows sound. @param {() => void} then */
export function wakeSound(then) {
  sound ??= new AudioContext();
  sound.resume().then(then, () => {});
}

/** @returns {boolean} whether an alarm would be heard */
export function heard() {
  return sound?.state === "running";
}

/** Quiets what rings now. @param {HTMLElement} page @param {number} now on the cook's clock */
export function quiet(page, now) {
  for (const alarm of alarms(page)) if (now >= alarm.due) quieted.add(alarm.key);
}

/**
 * Rings for every alarm whose time is up: the step's own and those of the jobs
 * beside the pot, each until it is quieted.
 * @param {HTMLElement} page @param {number} now on the cook's clock
 */
export function ring(page, now) {
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
    if (fresh) alarmAloud(text);
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
