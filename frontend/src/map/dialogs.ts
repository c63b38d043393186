// The smaller dialogs of the Map workspace.
import type { MergeView } from "@codemirror/merge";
import type { Deletion, MergedTexts } from "../answers.ts";
import { nonce } from "../shared/asking.ts";
import { put } from "../shared/elements.ts";
import { fieldOf, valuesOf } from "../shared/fields.ts";
import { Dialog, UNREACHED } from "./dialog.ts";
import { sideBySide } from "./differences.ts";
import type { Edit } from "./store.ts";

type MenuAct = "new" | "copy" | "rename";

/** A new menu, a copy of one, or another name for one. */
export class MenuDialog extends Dialog<{ form: HTMLFormElement }> {
  act: MenuAct = "new";
  name = "";

  get title(): string {
    const titles = { new: "New menu", copy: `Copy the menu ${this.name}`, rename: `Rename the menu ${this.name}` };
    return titles[this.act];
  }
  get renames(): boolean {
    return this.act === "rename";
  }
  open({ detail }: CustomEvent<{ act: MenuAct; name?: string }>): void {
    this.act = detail.act;
    this.name = detail.name ?? "";
    this.$refs.form.reset();
    const field = fieldOf(this.$refs.form, "name");
    if (this.renames && field) field.value = this.name;
    this.show();
    if (field instanceof HTMLInputElement) field.select();
  }
  save(): Promise<void> {
    const { name, place, section } = valuesOf(this.$refs.form);
    if (this.renames) return this.send({ edit: "rename-menu", name: this.name, new: name });
    const where = place === "section" ? { section } : { place };
    const like = this.act === "copy" ? { like: this.name } : {};
    return this.send({ edit: "new-menu", name, ...where, ...like });
  }
}

/** The entries of a menu are made from the pages from now on. */
export class FollowDialog extends Dialog<{ form: HTMLFormElement }> {
  name = "";

  open({ detail }: CustomEvent<{ name: string }>): void {
    this.name = detail.name;
    this.$refs.form.reset();
    this.show();
  }
  save(): Promise<void> {
    const words = Object.fromEntries(Object.entries(valuesOf(this.$refs.form)).filter(([, value]) => value));
    return this.send({ edit: "follow-pages", menu: this.name, words });
  }
}

export class MenuGoingDialog extends Dialog {
  name = "";
  count = 0;

  get words(): string {
    const entries = `${this.count} ${this.count === 1 ? "entry" : "entries"}`;
    return `The menu ${this.name} and its ${entries} will be deleted. The pages stay, and Undo brings the menu back.`;
  }
  open({ detail }: CustomEvent<{ name: string; count: number }>): void {
    this.name = detail.name;
    this.count = detail.count;
    this.show();
  }
  go(): void {
    this.close();
    this.map.edit({ edit: "delete-menu", name: this.name });
  }
}

/** What can be done with an entry that follows the pages: move its `page`, or `write` the order out. */
type Ways = { page: (() => void) | null; write: () => void };

/** An entry that follows the pages is moved with its page, or the order is written out: the person says which. */
export class AutoDialog extends Dialog {
  ways: Ways = { page: null, write: () => {} };

  get moves(): boolean {
    return Boolean(this.ways.page);
  }
  open({ detail }: CustomEvent<Ways>): void {
    this.ways = detail;
    this.show();
  }
  movePage(): void {
    this.close();
    this.ways.page?.();
  }
  writeOut(): void {
    this.close();
    this.ways.write();
  }
}

/** A page is deleted, with what goes with it, and where its address leads. */
export class DeleteDialog extends Dialog<{ going: HTMLElement }> {
  edit: Edit | null = null;

  async open({ detail }: CustomEvent<{ key: string }>): Promise<void> {
    const { ok, data } = await this.map.about<Deletion>("going", { key: detail.key });
    if (!ok) return this.map.tell(data.message ?? UNREACHED, true);
    this.edit = { edit: "delete-page", key: detail.key };
    put(this.$refs.going, data.shown);
    this.show();
  }
  async go(): Promise<void> {
    const { going } = this.$refs;
    const chosen = going.querySelector<HTMLInputElement>("[name=lead]:checked");
    const to = going.querySelector<HTMLInputElement>("#lead-to");
    const other = chosen?.id === "lead-other" ? to : null;
    if (other && !other.value.trim()) return other.focus();
    const lead = other ? other.value.trim() : (chosen?.value ?? "nowhere");
    this.close();
    if (this.edit) await this.map.edit(this.edit, lead === "nowhere" ? { keep: false } : { lead });
    this.$dispatch("focus-page");
  }
}

/** A page gets another id; its addresses that others may know are kept, or not. */
export class RenameDialog extends Dialog<{ id: HTMLInputElement; keep: HTMLInputElement }> {
  key = "";
  count = 0;

  get keeps(): string {
    const addresses = this.count === 1 ? "address" : `${this.count} addresses`;
    return `Redirect the ${addresses} that others may know`;
  }
  get hasAddresses(): boolean {
    return this.count > 0;
  }
  async open({ detail: { key } }: CustomEvent<{ key: string }>): Promise<void> {
    this.key = key;
    this.count = 0;
    this.$refs.id.value = key.slice(key.lastIndexOf("/") + 1);
    this.show();
    this.$refs.id.select();
    const { ok, data } = await this.map.about<Deletion>("going", { key });
    if (ok && this.key === key) this.count = data.moving;
  }
  async save(): Promise<void> {
    const id = this.$refs.id.value.trim();
    this.close();
    await this.map.edit({ edit: "rename-id", key: this.key, id }, { keep: this.$refs.keep.checked });
  }
}

/** Two texts, and what is done with the one that was put together. */
type Merge = MergedTexts & { done: (text: string) => void };

/** Two texts that were written at once, held against each other and put together. */
export class MergeDialog extends Dialog<{ merged: HTMLElement; sides: HTMLElement }> {
  sides: MergeView | null = null;
  merge: Merge | null = null;

  open({ detail }: CustomEvent<Merge>): void {
    this.merge = detail;
    put(this.$refs.merged, detail.shown);
    this.sides?.destroy();
    this.sides = sideBySide(this.$refs.sides, detail.theirs, detail.text, nonce());
    this.show();
  }
  go(): void {
    const text = this.sides?.b.state.sliceDoc();
    this.sides?.destroy();
    this.close();
    if (text !== undefined) this.merge?.done(text);
  }
}
