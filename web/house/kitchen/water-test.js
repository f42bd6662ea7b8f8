// @ts-check
// The clock of the water test. It goes by the time of day, so that a locked
// screen does not stop it, and fills in the minutes that really passed.

/** @param {HTMLFormElement} form the form of the test */
function clock(form) {
  const shown = /** @type {HTMLElement | null} */ (document.querySelector("[data-clock]"));
  const words = /** @type {HTMLElement | null} */ (document.querySelector("[data-clock-words]"));
  const start = /** @type {HTMLButtonElement | null} */ (document.querySelector("[data-start]"));
  const minutes = /** @type {HTMLInputElement | null} */ (form.querySelector("#minutes"));
  if (!shown || !words || !start || !minutes) return;
  const whole = Number(form.dataset.minutes) * 60;
  const key = `kirdu-water-test ${location.pathname}`;
  let begun = Number(sessionStorage.getItem(key)) || 0;
  let said = false;

  function tick() {
    if (!begun || !shown || !words || !minutes || !start) return;
    const passed = Math.floor((Date.now() - begun) / 1000);
    const left = Math.max(0, whole - passed);
    shown.hidden = false;
    shown.textContent = `${Math.floor(left / 60)}:${String(left % 60).padStart(2, "0")}`;
    start.textContent = "Start again";
    if (left === 0) {
      minutes.value = (passed / 60).toFixed(1);
      if (!said) words.textContent = "Off the flame now, and weigh it. The minutes go on until you do.";
      if (!said && navigator.userActivation?.hasBeenActive && navigator.vibrate) navigator.vibrate([300, 150, 300]);
      said = true;
    }
  }

  start.hidden = false;
  start.addEventListener("click", () => {
    begun = Date.now();
    said = false;
    words.textContent = "The clock is running. You may lock the screen.";
    sessionStorage.setItem(key, String(begun));
    tick();
  });
  form.querySelector("#after_g")?.addEventListener("input", () => {
    // Weighed: the pot is off the flame, the clock has done its work.
    begun = 0;
    sessionStorage.removeItem(key);
  });
  setInterval(tick, 500);
  tick();
}

for (const form of document.forms) if ("waterTest" in form.dataset) clock(form);
