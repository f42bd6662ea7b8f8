// @ts-check
// Shows only the measures that the chosen shape has. Without it all are shown,
// and those of other shapes are ignored.

/** @param {HTMLFormElement} form the form of a new pot */
function fieldsOfShape(form) {
  const shape = form.querySelector("select");
  if (!shape) return;
  const show = () => {
    for (const field of form.querySelectorAll("[data-shapes]")) {
      if (field instanceof HTMLElement) field.hidden = !(field.dataset.shapes ?? "").split(" ").includes(shape.value);
    }
  };
  shape.addEventListener("change", show);
  show();
}

for (const form of document.forms) if ("potForm" in form.dataset) fieldsOfShape(form);
