// What was typed into forms and is not saved, kept while the page around it is morphed.
import { all } from "../shared/elements.ts";
import { type Field, fieldsOf, isChanged, isTicked } from "../shared/fields.ts";

const SAVED_BY_HAND = "form[data-stay]";
const FIELDS = "input:not([type=file], [type=hidden]), textarea:not([hidden]), select";
const OF_CONFLICTS = ["was", "seen"]; // hidden fields: what is written over

type Place = { about: string; name: string; index: number };
export type Held = Map<Field, string | boolean>;

/** The fields of a page, or a part of it, that are saved by hand. */
export const savedFields = (part: ParentNode): Field[] =>
  all<Field>(part, FIELDS).filter((field) => field.name && field.form?.matches(SAVED_BY_HAND));

const held = (field: Field): string | boolean => (isTicked(field) ? field.checked : field.value);

/** What the fields of the page hold now. */
export const heldNow = (): Held => new Map(savedFields(document).map((field) => [field, held(field)]));

/** Whether something was typed that is not saved. */
export const isUnsaved = (): boolean => savedFields(document).some(isChanged);

/** What a form is about, such as a page of a language: where it is sent, and what it says without being asked. */
function subjectOf(form: HTMLFormElement): string {
  const said = all<HTMLInputElement>(form, "input[type=hidden]")
    .filter((field) => !["csrf_token", "revision", ...OF_CONFLICTS].includes(field.name))
    .map((field) => `${field.name}=${field.value}`);
  return [form.getAttribute("action"), ...said].join();
}

const alike = (form: HTMLFormElement, name: string): Field[] => fieldsOf(form).filter((one) => one.name === name);

/** A field by what its form is about, for what stands in its place is another element once the page was morphed. */
function placeOf(field: Field): Place {
  const { form, name } = field;
  return { about: form ? subjectOf(form) : "", name, index: form ? alike(form, name).indexOf(field) : 0 };
}

function fieldAt({ about, name, index }: Place): Field | undefined {
  const form = all<HTMLFormElement>(document, SAVED_BY_HAND).find((one) => subjectOf(one) === about);
  return form && alike(form, name)[index];
}

/**
 * What stays as it is while `form` is saved: what was changed in other forms, with what that was written over
 * (`was`, `seen`), and what was typed into this one after it was sent. A function that puts it back, where it is still asked.
 */
export function unsaved(main: HTMLElement, form: HTMLFormElement | null, sent: Held): () => void {
  const changed = savedFields(main).filter((field) =>
    field.form === form ? held(field) !== sent.get(field) : isChanged(field),
  );
  const others = new Set(changed.map((field) => field.form).filter((other) => other !== form));
  const was = [...others].flatMap((other) => (other ? OF_CONFLICTS.flatMap((name) => alike(other, name)) : []));
  const kept = [...changed, ...was].map((field) => ({ ...placeOf(field), value: held(field) }));
  const active = savedFields(main).find((field) => field === document.activeElement);
  const focus = active && {
    ...placeOf(active),
    range: active instanceof HTMLSelectElement ? null : [active.selectionStart, active.selectionEnd],
  };
  return () => {
    for (const { value, ...place } of kept) {
      const field = fieldAt(place);
      if (field && isTicked(field) && typeof value === "boolean") field.checked = value;
      else if (field && typeof value === "string") field.value = value;
    }
    const field = focus && fieldAt(focus);
    if (!field || field === document.activeElement) return;
    field.focus({ preventScroll: true });
    if (focus.range && focus.range[0] !== null && !(field instanceof HTMLSelectElement))
      field.setSelectionRange(focus.range[0], focus.range[1]);
  };
}
