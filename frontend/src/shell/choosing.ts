// Forms that show another place as soon as it is chosen.
import { all } from "../shared/elements.ts";
import { fieldsOf, isChanged, isField } from "../shared/fields.ts";

/** Whether something is chosen in a form that is not what its page shows, nor what it was asked for. */
function waits(form: HTMLFormElement): boolean {
  const asked = new URLSearchParams(location.search);
  return fieldsOf(form).some((field) => field.name && isChanged(field) && asked.get(field.name) !== field.value);
}

export function choosing(): void {
  document.addEventListener("change", ({ target }) => {
    const form = isField(target) ? target.form : null;
    if (form?.matches("[data-submit-on-change]")) form.requestSubmit();
  });
  // What was chosen before this script was there.
  for (const form of all<HTMLFormElement>(document, "form[data-submit-on-change]"))
    if (waits(form)) form.requestSubmit();
}
