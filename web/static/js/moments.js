// @ts-check
// Reads moments off a pot line by pointer or by arrow keys. The server has
// written what each moment says; without this there is the table below.

/** @type {WeakSet<HTMLElement>} */
const bound = new WeakSet();

/** @param {ParentNode} root where to look for pot lines */
export function readMoments(root) {
  for (const holder of root.querySelectorAll("[data-potline]")) {
    if (holder instanceof HTMLElement && !bound.has(holder)) bind(holder);
  }
}

/** @param {HTMLElement} holder the element around one pot line */
function bind(holder) {
  bound.add(holder);
  /** @returns {{x: number, text: string}[]} those of now: the line is drawn anew after an edit */
  const read = () => JSON.parse(holder.dataset.potline || "[]");
  let at = Math.floor(read().length / 2);

  /** @param {number} index of the moment to show */
  function show(index) {
    const moments = read();
    if (moments.length === 0) return;
    at = Math.min(Math.max(index, 0), moments.length - 1);
    const line = holder.querySelector("[data-moment]");
    line?.setAttribute("x1", String(moments[at].x));
    line?.setAttribute("x2", String(moments[at].x));
    line?.setAttribute("visibility", "visible");
    const readout = holder.parentElement?.querySelector("[data-readout]");
    if (readout) readout.textContent = moments[at].text;
  }
  holder.addEventListener("pointermove", (event) => {
    const [svg, moments] = [holder.querySelector("svg"), read()];
    if (!svg || moments.length === 0) return;
    const box = svg.getBoundingClientRect();
    const x = ((event.clientX - box.left) / box.width) * svg.viewBox.baseVal.width;
    let best = 0;
    moments.forEach((m, i) => {
      if (Math.abs(m.x - x) < Math.abs(moments[best].x - x)) best = i;
    });
    show(best);
  });
  holder.addEventListener("keydown", (event) => {
    if (event.key === "ArrowLeft") show(at - 1);
    else if (event.key === "ArrowRight") show(at + 1);
    else return;
    event.preventDefault();
  });
}
