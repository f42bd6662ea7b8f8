// @ts-check
// A form that only computes is asked again at every change, and the parts of
// the page that follow from it are swapped in. Without this module its button
// does the same.

import { read, swapLive } from "/static/js/swap.js";

const pause = 120; // ms after the last key

/** @param {HTMLFormElement} form a GET form */
function live(form) {
  let asked = 0; // numbers the requests, so that an overtaken answer is dropped
  let timer = 0;
  for (const button of form.querySelectorAll("[data-no-script]")) button.remove();

  async function ask() {
    const mine = ++asked;
    const address = new URL(form.action);
    address.search = new URLSearchParams(/** @type {any} */ (new FormData(form))).toString();
    try {
      const response = await fetch(address);
      const page = read(await response.text());
      if (mine !== asked || !page.querySelector("[data-live-form]")) return;
      history.replaceState(null, "", address);
      swapLive(document, page);
      for (const button of form.querySelectorAll("[data-no-script]")) button.remove();
    } catch {
      // The program does not answer: what is shown stays, and the next change asks again.
    }
  }

  form.addEventListener("input", (event) => {
    clearTimeout(timer);
    const typing = event.target instanceof HTMLInputElement && event.target.type === "text";
    timer = setTimeout(ask, typing ? pause : 0);
  });
  form.addEventListener("submit", (event) => {
    event.preventDefault();
    ask();
  });
  form.dataset.live = "ready";
}

for (const form of document.forms) if ("liveForm" in form.dataset) live(form);
