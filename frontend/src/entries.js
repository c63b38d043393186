// @ts-check
// Entries of menus, and menus themselves, by hand: the dialogs that ask, and the edits that they make.
import { ask, piece } from "./common.js";

const ICONS_SHOWN = 48;

/** The icons whose name holds every word that was typed, those that begin with it first. */
export function iconsLike(names, typed) {
  const words = typed
    .toLowerCase()
    .split(/[\s-]+/)
    .filter(Boolean);
  const fitting = names.filter((name) => words.every((word) => name.includes(word)));
  return fitting
    .sort((one, other) => Number(other.startsWith(words[0] ?? "")) - Number(one.startsWith(words[0] ?? "")))
    .slice(0, ICONS_SHOWN);
}

/** The edit that a form for an entry asks for. */
export function entryEdit(values, changed) {
  const { menu, number, parent, kind, first, ...words } = values;
  if (number !== "") {
    const set = Object.fromEntries(Object.entries(words).filter(([word]) => changed.has(word)));
    return { edit: "set-entry", menu, number: Number(number), words: set };
  }
  const leads = ["page", "url", "file", "group"].filter((word) => word !== kind);
  const said = Object.entries(words).filter(([word, value]) => value && !leads.includes(word));
  const all = kind === "separator" ? { separator: "" } : Object.fromEntries(said);
  if (kind === "group") delete all.label;
  const below = parent === "" ? null : Number(parent);
  return { edit: "add-entry", menu, parent: below, index: 999, words: all, ...(kind === "group" ? { first } : {}) };
}

export const entries = {
  /** Ask for a new entry in a menu, or for the words of one that is there. */
  async openEntry(menu, number = null, parent = null) {
    const query = new URLSearchParams({
      menu,
      ...(number === null ? {} : { number }),
      ...(parent === null ? {} : { parent }),
    });
    const html = await piece(`${this.base}/entry?${query}`);
    if (html === null) return this.tell("Basilica cannot be reached. Try again.", true);
    const { entryDialog, entryForm, entryTitle } = this.$refs;
    entryForm.querySelector("[data-fields]").innerHTML = html;
    entryTitle.textContent = number === null ? "New entry" : "Edit entry";
    this.entryProblem("");
    const kind = entryForm.querySelector(".entry-words");
    for (const choice of entryForm.querySelectorAll("[name=kind]"))
      choice.addEventListener("change", () => (kind.dataset.kind = choice.value));
    const icon = entryForm.querySelector("[name=icon]");
    icon.addEventListener("input", () => this.showIcons(icon));
    icon.addEventListener("focus", () => this.showIcons(icon));
    entryDialog.showModal();
    entryForm.querySelector(".entry-words input:not([type=hidden])")?.focus();
  },
  async showIcons(field) {
    this.icons ??= ask("GET", `${this.base}/icons`).then(({ ok, data }) => (ok ? data : []));
    const found = iconsLike(await this.icons, field.value);
    const html = await piece(`${this.base}/drawn-icons?${new URLSearchParams({ names: found.join(" ") })}`);
    const shown = this.$refs.entryForm.querySelector("[data-icons]");
    if (html === null || !shown) return;
    shown.innerHTML = html;
    for (const button of shown.querySelectorAll("button"))
      button.addEventListener("click", () => {
        field.value = button.dataset.name;
        field.dataset.touched = "yes";
      });
  },
  entryProblem(text) {
    const { entryProblem } = this.$refs;
    entryProblem.textContent = text;
    entryProblem.hidden = text === "";
  },
  async saveEntry() {
    const form = this.$refs.entryForm;
    const fields = [...form.querySelectorAll("input[name], select[name]")];
    const changed = new Set(
      fields
        .filter((one) =>
          one.tagName === "SELECT"
            ? ![...one.options].find((option) => option.defaultSelected)?.selected
            : one.value !== one.defaultValue,
        )
        .map((one) => one.name),
    );
    const edit = entryEdit(Object.fromEntries(new FormData(form)), changed);
    if (edit.edit === "set-entry" && !Object.keys(edit.words).length) return this.$refs.entryDialog.close();
    await this.menuEdit(edit, this.$refs.entryDialog, (text) => this.entryProblem(text));
  },

  /** Do an edit from a dialog, which stays open with the reason where it cannot be done. */
  async menuEdit(edit, dialog, problem) {
    const { ok, data } = await ask("POST", `${this.base}/edit`, { text: this.editor.text, edit });
    if (!ok) return problem(data.message ?? "Basilica cannot be reached, so this was not done. Try again.");
    dialog.close();
    await this.edit(edit);
  },

  /** A new menu, a copy of one, or another name for one. */
  openMenu(name = "", act = "new") {
    const { menuDialog, menuForm, menuTitle } = this.$refs;
    this.menuAct = { act, name };
    menuTitle.textContent = { new: "New menu", copy: `Copy the menu ${name}`, rename: `Rename the menu ${name}` }[act];
    menuForm.reset();
    menuForm.querySelector("[data-places]").hidden = act === "rename";
    this.$refs.menuProblem.hidden = true;
    if (act === "rename") menuForm.elements.namedItem("name").value = name;
    menuDialog.showModal();
    menuForm.elements.namedItem("name").select();
  },
  async saveMenu() {
    const { act, name } = this.menuAct;
    const values = Object.fromEntries(new FormData(this.$refs.menuForm));
    const place = values.place === "section" ? { section: values.section } : { place: values.place };
    const edit =
      act === "rename"
        ? { edit: "rename-menu", name, new: values.name }
        : { edit: "new-menu", name: values.name, ...place, ...(act === "copy" ? { like: name } : {}) };
    await this.menuEdit(edit, this.$refs.menuDialog, (text) => {
      this.$refs.menuProblem.textContent = text;
      this.$refs.menuProblem.hidden = false;
    });
  },
  openFollow(name) {
    this.following = name;
    this.$refs.followForm.reset();
    this.$refs.followProblem.hidden = true;
    this.$refs.followDialog.showModal();
  },
  async followNow() {
    const words = Object.fromEntries([...new FormData(this.$refs.followForm)].filter(([, value]) => value));
    await this.menuEdit({ edit: "follow-pages", menu: this.following, words }, this.$refs.followDialog, (text) => {
      this.$refs.followProblem.textContent = text;
      this.$refs.followProblem.hidden = false;
    });
  },
  deleteMenu(name, count) {
    this.deletingMenu = name;
    this.$refs.menuGoing.textContent = `The menu ${name} and its ${count} ${count === 1 ? "entry" : "entries"} will be deleted. The pages stay, and Undo brings the menu back.`;
    this.$refs.menuGoingDialog.showModal();
  },
  deleteMenuNow() {
    this.$refs.menuGoingDialog.close();
    this.edit({ edit: "delete-menu", name: this.deletingMenu });
  },

  /** An entry that follows the pages is moved with its page, or the order is written out: the person says which. */
  askAuto(entry, way, write) {
    const { autoDialog } = this.$refs;
    this.autoWays = { page: () => this.move(entry.dataset.page, way), write };
    autoDialog.querySelector("[data-do=auto-page]").hidden = !["up", "down", "out", "in"].includes(way);
    autoDialog.showModal();
  },
  autoWay(way) {
    this.$refs.autoDialog.close();
    this.autoWays[way]();
  },
};
