// @ts-check
// Keys that work on every page, and the sheet that explains them.

const sheet = /** @type {HTMLDialogElement | null} */ (document.querySelector("[data-help-sheet]"));
const help = /** @type {HTMLButtonElement | null} */ (document.querySelector("[data-help]"));

if (sheet && help) {
  help.hidden = false;
  help.addEventListener("click", () => sheet.showModal());
}

/** @type {Record<string, string>} */
const places = { t: "/", p: "/puddings", a: "/gatherings", b: "/benches", m: "/pantry", s: "/buying", k: "/kitchen", l: "/logbook", r: "/rescue" };
const patience = 1500; // ms between "g" and the letter of a place
let goPressed = -patience;

/** @param {EventTarget | null} target whether keys typed there belong to it */
function typing(target) {
  return target instanceof HTMLElement && target.matches("input, textarea, select");
}

document.addEventListener("keydown", (event) => {
  if (typing(event.target) || event.ctrlKey || event.metaKey || event.altKey) return;
  if (event.key === "?" && sheet) {
    event.preventDefault();
    if (!sheet.open) sheet.showModal();
  } else if (event.key === "g") {
    goPressed = event.timeStamp;
  } else if (event.timeStamp - goPressed < patience && places[event.key]) {
    location.href = places[event.key];
  }
});

for (const button of document.querySelectorAll("[data-print]")) {
  if (!(button instanceof HTMLButtonElement)) continue;
  button.hidden = false;
  button.addEventListener("click", () => print());
}

// Long lists begin folded on a phone: without this module all of them stand open.
if (matchMedia("(max-width: 600px)").matches) {
  for (const list of document.querySelectorAll("details[data-fold]")) list.removeAttribute("open");
}

// What is folded out at the foot of a phone's page goes when something else is touched.
const foot = /** @type {HTMLDetailsElement | null} */ (document.querySelector("[data-foot]"));
document.addEventListener("click", (event) => {
  if (foot?.open && event.target instanceof Node && !foot.contains(event.target)) foot.open = false;
});
