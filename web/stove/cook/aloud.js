// @ts-check
// Reads the step aloud with the device's own voice, where it has one; off until it is asked
// for, and remembered on this device.

const key = "kirdu-aloud";
let said = "";

/** @returns {boolean} */
function wanted() {
  return localStorage.getItem(key) === "on";
}

/** Shows the button where the device can speak. @param {HTMLElement} page */
export function offerAloud(page) {
  const button = page.querySelector("[data-aloud]");
  if (!(button instanceof HTMLElement) || !("speechSynthesis" in window)) return;
  button.hidden = false;
  button.setAttribute("aria-pressed", String(wanted()));
  button.textContent = wanted() ? "Do not read it aloud" : "Read it aloud";
}

/** @param {string} text */
function say(text) {
  window.speechSynthesis.cancel();
  window.speechSynthesis.speak(new SpeechSynthesisUtterance(text));
}

/** What the page says now. @param {HTMLElement} page @returns {string} */
function words(page) {
  return ["h1", ".stove-flame", ".stove-target", ".stove-unready"]
    .map((part) => page.querySelector(part)?.textContent?.trim().replace(/\s+/g, " ") ?? "")
    .filter((text) => text !== "")
    .join(". ");
}

/** Reads the step, if it is another than the last that was read. @param {HTMLElement} page */
export function readAloud(page) {
  if (!wanted() || !("speechSynthesis" in window)) return;
  const text = words(page);
  if (text === said) return;
  said = text;
  const left = page.querySelector("[data-left]")?.textContent?.trim();
  say(left ? `${text}. ${left.replace("–", " to ")} minutes to go.` : text);
}

/** Reads an alarm. @param {string} text */
export function alarmAloud(text) {
  if (wanted() && "speechSynthesis" in window) say(text);
}

/** Turns it on and off. @param {HTMLElement} page */
export function toggleAloud(page) {
  localStorage.setItem(key, wanted() ? "off" : "on");
  said = "";
  offerAloud(page);
  if (wanted()) readAloud(page);
  else window.speechSynthesis.cancel();
}
