// @ts-check
// Every edit is sent at once and the parts of the page that follow from it are
// swapped in. Without this module the same form has a button that saves.

import { readMoments } from "/static/js/moments.js";
import { find, opened, read, swapLive } from "/static/js/swap.js";

const typingPause = 80; // ms after the last key before an edit is sent
const patience = 600; // ms without a key before a fault is pointed out
const oneEdit = 2500; // ms after an edit is drawn in which another key still belongs to it

/** @param {HTMLFormElement} form the form of the Workbench */
function followEdits(form) {
  let asked = 0; // numbers the requests, so that an overtaken answer is dropped
  let pause = 0;
  let lastField = ""; // the field whose typing made the present version
  let lastDrawn = 0; // when that was drawn: a slow answer parts no edit
  let lastPress = 0; // when a key was pressed last, saved or not
  const saved = /** @type {HTMLElement} */ (form.querySelector("[data-saved]"));
  for (const button of form.querySelectorAll("[data-no-script]")) button.remove();

  /** @param {string} words @param {boolean} good whether the edit is stored */
  function say(words, good) {
    saved.textContent = words;
    saved.classList.toggle("is-unsaved", !good);
  }

  /**
   * @param {HTMLElement | null} [button] the button that was pressed, if one was
   * @param {string} [field] the name of the field that is being typed in
   */
  async function send(button, field = "") {
    clearTimeout(pause);
    const mine = ++asked;
    const data = new URLSearchParams(/** @type {any} */ (new FormData(form)));
    let target = form.action;
    if (button instanceof HTMLButtonElement) {
      if (button.name) data.set(button.name, button.value);
      if (button.hasAttribute("formaction")) target = button.formAction;
    }
    if (field && field === lastField && performance.now() - lastDrawn < oneEdit) data.set("amend", "1");
    saved.textContent = "";
    performance.mark("kirdu-edit");
    try {
      const response = await fetch(target, { method: "POST", body: data });
      const page = read(await response.text());
      if (mine !== asked) return;
      if (!page.querySelector("[data-workbench]")) {
        say(page.querySelector("h1")?.textContent ?? "Not saved.", false);
        return;
      }
      if (!response.ok && field && document.activeElement?.getAttribute("name") === field && performance.now() - lastPress < patience) {
        // Half a word is no mistake yet: the fault is shown when the typing stops.
        pause = setTimeout(() => send(null, field), patience);
        return;
      }
      if (response.ok) {
        lastField = field;
        lastDrawn = performance.now();
      }
      swap(page, Boolean(button));
      say(response.ok ? "saved" : "not saved: see the marked field", response.ok);
      performance.measure("kirdu-edit-to-drawn", "kirdu-edit");
    } catch {
      if (mine === asked) say("Not saved: the program does not answer. The next edit tries again.", false);
    }
  }

  /**
   * @param {Document} page the page as the server has it now
   * @param {boolean} whole take over the fields too, since a button changed them
   */
  function swap(page, whole) {
    const active = document.activeElement;
    const action = active instanceof HTMLButtonElement ? `${active.name}=${active.value}` : "";
    const moved = action.match(/^op=move-step:(\d+)\.(\d+)$/);
    const open = opened(form);
    if (moved) change(open, `step-${moved[1]}`, `step-${moved[2]}`);
    swapLive(form, page, { whole, open });
    for (const name of ["version", "name"]) {
      const next = page.querySelector(`input[name="${name}"]`);
      const own = find(form, name);
      if (next instanceof HTMLInputElement && own instanceof HTMLInputElement && own !== active) own.value = next.value;
    }
    for (const button of form.querySelectorAll("[data-no-script]")) button.remove();
    if (moved) {
      // The focus goes along with the step.
      const [from, to] = [Number(moved[1]), Number(moved[2])];
      find(form, `op=move-step:${to}.${to + to - from}`)?.focus();
    }
    readMoments(form);
  }

  form.addEventListener("input", (event) => {
    clearTimeout(pause);
    const target = /** @type {HTMLElement} */ (event.target);
    if (target instanceof HTMLInputElement && target.matches("[data-sugar]")) {
      foresee(target);
      return;
    }
    if (target.matches('[name^="new["], [name^="prep["], [name^="step."]')) return; // sent by their own buttons
    const typed = target instanceof HTMLInputElement && target.type !== "checkbox";
    if (typed) lastPress = performance.now();
    pause = setTimeout(() => send(null, typed ? target.name : ""), typed ? typingPause : 0);
  });
  let foreseen = 0; // numbers what was asked of the sugar
  let asking = 0;

  /** Says what another moment of the sugar does, while it is dragged. @param {HTMLInputElement} rail */
  function foresee(rail) {
    const mine = ++foreseen;
    clearTimeout(asking);
    asking = setTimeout(async () => {
      try {
        const response = await fetch(`${form.action}/sweeten?at=${encodeURIComponent(rail.value)}`);
        const words = await response.text();
        const place = form.querySelector("[data-sugar-effect]");
        if (mine === foreseen && place) place.textContent = words;
      } catch {
        // The slider still moves; letting go says what is wrong.
      }
    }, typingPause);
  }

  form.addEventListener("change", (event) => {
    if (!(event.target instanceof HTMLInputElement) || !event.target.matches("[data-sugar]")) return;
    const button = document.createElement("button");
    button.name = "op";
    button.value = "sweeten-at";
    send(button);
  });
  form.addEventListener("submit", (event) => {
    const button = event.submitter;
    if (button?.hasAttribute("data-leave")) return;
    event.preventDefault();
    send(button?.getAttribute("value") === "save" ? null : button);
  });
  document.addEventListener("keydown", (event) => {
    if (!(event.ctrlKey || event.metaKey) || event.key.toLowerCase() !== "z") return;
    if (event.target instanceof HTMLInputElement && event.target.value !== event.target.defaultValue) return;
    const button = form.querySelector(event.shiftKey ? "[data-redo]" : "[data-undo]");
    if (button instanceof HTMLButtonElement && !button.disabled) {
      event.preventDefault();
      send(button);
    }
  });
  dragSteps(form, (from, to) => {
    const button = document.createElement("button");
    button.name = "op";
    button.value = `move-step:${from}.${to}`;
    send(button);
  });
  const print = form.querySelector("[data-print]");
  if (print instanceof HTMLElement) {
    print.hidden = false;
    print.addEventListener("click", () => window.print());
  }
  readMoments(form);
  form.dataset.live = "ready";
}

/**
 * Two things that change places take what they are with them.
 * @param {Set<string>} set @param {string} a @param {string} b
 */
function change(set, a, b) {
  const [hadA, hadB] = [set.delete(a), set.delete(b)];
  if (hadA) set.add(b);
  if (hadB) set.add(a);
}

/**
 * Steps are dragged by their minute. The buttons "earlier" and "later" do the
 * same by keyboard.
 * @param {HTMLFormElement} form
 * @param {(from: number, to: number) => void} move
 */
function dragSteps(form, move) {
  /** @type {HTMLElement | null} */ let dragged = null;
  /** @type {HTMLElement | null} */ let over = null;
  const rows = () => /** @type {HTMLElement[]} */ ([...form.querySelectorAll("[data-step]")]);

  /** @param {number} y */
  function mark(y) {
    over?.classList.remove("is-target");
    const same = rows().filter((row) => row.dataset.pot === dragged?.dataset.pot); // each pot has a clock of its own
    over = same.find((row) => y < row.getBoundingClientRect().bottom) ?? same.at(-1) ?? null;
    if (over !== dragged) over?.classList.add("is-target");
  }

  function drop() {
    if (dragged && over && over !== dragged) move(Number(dragged.dataset.step), Number(over.dataset.step));
    cancel();
  }

  function cancel() {
    dragged?.classList.remove("is-dragged");
    over?.classList.remove("is-target");
    dragged = over = null;
  }

  form.addEventListener("pointerdown", (event) => {
    const grip = /** @type {HTMLElement} */ (event.target).closest("[data-grip]");
    if (!(grip instanceof HTMLElement) || event.button !== 0) return;
    dragged = grip.closest("[data-step]");
    dragged?.classList.add("is-dragged");
    grip.setPointerCapture(event.pointerId);
    event.preventDefault();
  });
  form.addEventListener("pointermove", (event) => dragged && mark(event.clientY));
  form.addEventListener("pointerup", () => dragged && drop());
  form.addEventListener("pointercancel", cancel);
  document.addEventListener("keydown", (event) => event.key === "Escape" && dragged && cancel());
}

/** On a narrow screen one part is in sight: the one whose place in the page is asked for, or the steps. */
function onePart() {
  const nav = document.querySelector("[data-parts]");
  const main = nav?.closest("main");
  if (!(nav instanceof HTMLElement) || !main) return;
  const links = /** @type {HTMLAnchorElement[]} */ ([...nav.querySelectorAll("a")]);

  const choose = () => {
    const link = links.find((one) => one.hash === location.hash) ?? links[0];
    const moved = main.dataset.part !== undefined;
    main.dataset.part = link?.hash.slice(1) ?? "";
    for (const one of links) {
      if (one === link) one.setAttribute("aria-current", "true");
      else one.removeAttribute("aria-current");
    }
    if (moved) nav.scrollIntoView({ block: "start" });
  };
  addEventListener("hashchange", choose);
  choose();
}

onePart();
for (const form of document.forms) if ("workbench" in form.dataset) followEdits(form);
