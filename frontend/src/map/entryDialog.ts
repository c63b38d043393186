// An entry of a menu by hand: the dialog that asks for its words, with icons to choose from.
import type { UploadedIcon } from "../answers.ts";
import { iconNames, piece, questions, send } from "../shared/asking.ts";
import { all, around, one, put } from "../shared/elements.ts";
import { type Field, fieldOf, fieldsOf, isChanged, isField, valuesOf } from "../shared/fields.ts";
import { Dialog, UNREACHED } from "./dialog.ts";
import { alongIcons, iconButtons, iconsLike } from "./icons.ts";
import type { Edit } from "./store.ts";

/** Before the tag of a language, in the name of the field for the label in it. */
const IN = "label-in-";

/** The edit that a form for an entry asks for; `changed` are the names of the fields that were touched. */
export function entryEdit(values: Record<string, string>, changed: Set<string>): Edit {
  const { menu, number, parent, kind, first, under, ...words } = values;
  const said = Object.entries(words).filter(([word, value]) => (number === "" ? value : changed.has(word)));
  const own = Object.fromEntries(said.filter(([word]) => !word.startsWith(IN)));
  const labels = Object.fromEntries(
    said.filter(([word]) => word.startsWith(IN)).map(([word, value]) => [word.slice(IN.length), value]),
  );
  if (number !== "") return { edit: "set-entry", menu, number: Number(number), words: own, labels };
  const inside = Object.fromEntries(Object.entries({ first, under }).filter(([, value]) => value));
  const at = parent === "" ? null : Number(parent);
  return { edit: "add-entry", menu, parent: at, kind, words: own, labels, ...inside };
}

/** The entry that is asked for: one of a menu, or (without a number) a new one, under `parent` or at the top. */
type Asked = { menu: string; number?: number | null; parent?: number | null };

/** A new entry in a menu, or the words of one that is there. */
export class EntryDialog extends Dialog<{ fields: HTMLElement; form: HTMLFormElement }> {
  isNew = true;
  names: () => Promise<string[]> = async () => [];
  askedForIcons = questions();

  get title(): string {
    return this.isNew ? "New entry" : "Edit entry";
  }
  async open({ detail }: CustomEvent<Asked>): Promise<void> {
    const known = Object.entries(detail).filter(([, value]) => value !== null && value !== undefined);
    const query = new URLSearchParams(known.map(([name, value]) => [name, String(value)]));
    const html = await piece(`${this.map.base}/entry?${query}`);
    if (html === null) return this.map.tell(UNREACHED, true);
    this.isNew = (detail.number ?? null) === null;
    this.names = iconNames(this.map.base);
    this.map.brought = [];
    put(this.$refs.fields, html);
    this.show();
    this.$refs.fields.querySelector<HTMLElement>(".entry-words input:not([type=hidden])")?.focus();
  }
  changed({ target }: Event): void {
    if (!(target instanceof HTMLInputElement)) return;
    if (target.name === "kind") one(this.$refs.fields, ".entry-words").dataset.kind = target.value;
    if (target.name === "own-icon" && target.files?.[0]) this.takeOwnIcon(target.files[0]);
  }
  typed({ target }: Event): void {
    if (isField(target) && target.name === "icon") this.showIcons(target.value);
  }
  pressed(event: KeyboardEvent): void {
    const icons = around(event, "[data-icons]");
    if (icons) alongIcons(event, all<HTMLButtonElement>(icons, "button"));
  }
  clicked(event: MouseEvent): void {
    const button = around<HTMLElement>(event, "[data-icons] button");
    if (button && this.icon) this.icon.value = button.dataset.name ?? "";
  }
  get icon(): Field | undefined {
    return fieldOf(this.$refs.form, "icon");
  }
  /** An SVG file of the person's own becomes a file of the site, and the entry's icon. */
  async takeOwnIcon(file: File): Promise<void> {
    const body = new FormData();
    body.append("icon", file);
    const { ok, data } = await send<UploadedIcon>(`${this.map.base}/icon`, body);
    this.problem = ok ? "" : (data.message ?? "Basilica cannot be reached, so it was not uploaded. Try again.");
    if (!ok) return;
    this.names = iconNames(this.map.base);
    if (this.icon) this.icon.value = data.name;
    if (data.added) this.map.brought = [[`files/${data.name}`, "", data.added]]; // Undo takes it away again
    this.showIcons(data.name);
  }
  async showIcons(typed: string): Promise<void> {
    const isLast = this.askedForIcons();
    const html = await iconButtons(this.map.base, iconsLike(await this.names(), typed));
    const shown = this.$refs.fields.querySelector("[data-icons]");
    if (isLast() && html !== null && shown) put(shown, html);
  }
  async save(): Promise<void> {
    const { form } = this.$refs;
    const touched = fieldsOf(form).filter((field) => field.name && field.type !== "file" && isChanged(field));
    const values = valuesOf(form);
    const edit = entryEdit(values, new Set(touched.map((field) => field.name)));
    const nothing = edit.edit === "set-entry" && !Object.keys({ ...(edit.words ?? {}), ...(edit.labels ?? {}) }).length;
    if (nothing) return this.close();
    this.map.brought = this.map.brought.filter(([name]) => name === `files/${values.icon}`);
    await this.send(edit);
  }
}
