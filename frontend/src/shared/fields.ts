// Fields of forms.

export type Field = HTMLInputElement | HTMLTextAreaElement | HTMLSelectElement;

export const isField = (element: unknown): element is Field =>
  element instanceof HTMLInputElement || element instanceof HTMLTextAreaElement || element instanceof HTMLSelectElement;

/** The fields of a form. */
export const fieldsOf = (form: HTMLFormElement): Field[] => [...form.elements].filter(isField);

/** The field of a form by its name; the first one of several. */
export const fieldOf = (form: HTMLFormElement, name: string): Field | undefined =>
  fieldsOf(form).find((field) => field.name === name);

/** Whether a field is one that is ticked. */
export const isTicked = (field: Field): field is HTMLInputElement => ["checkbox", "radio"].includes(field.type);

/** Whether a field holds something else than it came with. */
export function isChanged(field: Field): boolean {
  if (isTicked(field)) return field.checked !== field.defaultChecked;
  if (!(field instanceof HTMLSelectElement)) return field.value !== field.defaultValue;
  const options = [...field.options];
  return (options.find((option) => option.defaultSelected) ?? options[0])?.selected === false;
}

/** What a form says, by the names of its fields; files are left out. */
export const valuesOf = (form: HTMLFormElement): Record<string, string> =>
  Object.fromEntries([...new FormData(form)].filter((pair): pair is [string, string] => typeof pair[1] === "string"));
