// @ts-check
// Forms that show another place as soon as it is chosen.
import { isChanged } from "./common.js";

/** Whether something is chosen in a form that is not what its page shows, nor what it was asked for. */
function waits(form) {
  const asked = new URLSearchParams(location.search);
  return [...form.elements].some((field) => field.name && isChanged(field) && asked.get(field.name) !== field.value);
}

export function choosing() {
  document.addEventListener("change", ({ target }) => {
    const { form } = /** @type {HTMLSelectElement} */ (target);
    if (form?.matches("[data-submit-on-change]")) form.requestSubmit();
  });
  // What was chosen before this script was there.
  for (const form of document.querySelectorAll("form[data-submit-on-change]")) if (waits(form)) form.requestSubmit();
}
