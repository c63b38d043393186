// @ts-check
// Forms that show another place as soon as it is chosen.
import { isChanged } from "./common.js";

export function choosing() {
  document.addEventListener("change", ({ target }) => {
    const { form } = /** @type {HTMLSelectElement} */ (target);
    if (form?.matches("[data-asks]")) form.requestSubmit();
  });
  // What was chosen before this script was there.
  for (const form of document.querySelectorAll("form[data-asks]"))
    if ([...form.elements].some((field) => field.name && isChanged(field))) form.requestSubmit();
}
