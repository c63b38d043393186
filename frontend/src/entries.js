// @ts-check
// An entry of a menu by hand: the dialog that asks for its words, with icons to choose from.
import { iconNames, isChanged, piece, questions, send } from "./common.js";
import { dialogWith } from "./mapDialogs.js";

const ICONS_SHOWN = 48;
/** Before the tag of a language, in the name of the field for the label in it. */
const IN = "label-in-";

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
  const { menu, number, parent, kind, first, under, ...all } = values;
  const said = Object.entries(all).filter(([word, value]) => (number === "" ? value : changed.has(word)));
  const words = Object.fromEntries(said.filter(([word]) => !word.startsWith(IN)));
  const labels = Object.fromEntries(
    said.filter(([word]) => word.startsWith(IN)).map(([word, value]) => [word.slice(IN.length), value]),
  );
  if (number !== "") return { edit: "set-entry", menu, number: Number(number), words, labels };
  const inside = Object.fromEntries(Object.entries({ first, under }).filter(([, value]) => value));
  return { edit: "add-entry", menu, parent: parent === "" ? null : Number(parent), kind, words, labels, ...inside };
}

/** The icons are one stop of the Tab key; arrows go along them. */
function alongIcons(event) {
  const step = { ArrowRight: 1, ArrowDown: 1, ArrowLeft: -1, ArrowUp: -1 }[event.key];
  const all = [...event.target.closest("[data-icons]").querySelectorAll("button")];
  const next = step && all[all.indexOf(event.target) + step];
  if (!next) return;
  event.preventDefault();
  for (const button of all) button.tabIndex = button === next ? 0 : -1;
  next.focus();
}

/** One icon, drawn; null where there is none of that name. */
export async function drawnIcon(base, name) {
  const html = await piece(`${base}/drawn-icons?${new URLSearchParams({ names: name })}`);
  const dom = document.createElement("div");
  dom.className = "drawn-icon";
  dom.innerHTML = html ?? "";
  const svg = dom.querySelector("svg");
  if (!svg) return null;
  dom.replaceChildren(svg);
  return dom;
}

/** A new entry in a menu, or the words of one that is there. */
export const entryDialog = dialogWith({
  isNew: true,
  names: async () => [],
  askedForIcons: questions(),
  get title() {
    return this.isNew ? "New entry" : "Edit entry";
  },
  async open({ detail }) {
    const known = Object.entries(detail).filter(([, value]) => value !== null && value !== undefined);
    const html = await piece(`${this.map.base}/entry?${new URLSearchParams(Object.fromEntries(known))}`);
    if (html === null) return this.map.tell("Basilica cannot be reached. Try again.", true);
    this.isNew = (detail.number ?? null) === null;
    this.names = iconNames(this.map.base);
    this.map.brought = [];
    this.$refs.fields.innerHTML = html;
    this.show();
    this.$refs.fields.querySelector(".entry-words input:not([type=hidden])")?.focus();
  },
  changed({ target }) {
    if (target.name === "kind") this.$refs.fields.querySelector(".entry-words").dataset.kind = target.value;
    if (target.name === "own-icon") this.takeOwnIcon(target);
  },
  typed({ target }) {
    if (target.name === "icon") this.showIcons(target);
  },
  pressed(event) {
    if (event.target.closest("[data-icons]")) alongIcons(event);
  },
  clicked({ target }) {
    const button = target.closest("[data-icons] button");
    if (button) this.$refs.form.elements.namedItem("icon").value = button.dataset.name;
  },
  /** An SVG file of the person's own becomes a file of the site, and the entry's icon. */
  async takeOwnIcon(own) {
    const body = new FormData();
    body.append("icon", own.files[0]);
    const { ok, data } = await send(`${this.map.base}/icon`, body);
    this.problem = ok ? "" : (data.message ?? "Basilica cannot be reached, so it was not uploaded. Try again.");
    if (!ok) return;
    this.names = iconNames(this.map.base);
    const icon = this.$refs.form.elements.namedItem("icon");
    icon.value = data.name;
    if (data.added) this.map.brought = [[`files/${data.name}`, "", data.added]]; // Undo takes it away again
    this.showIcons(icon);
  },
  async showIcons(field) {
    const isLast = this.askedForIcons();
    const found = iconsLike(await this.names(), field.value);
    const html = await piece(`${this.map.base}/drawn-icons?${new URLSearchParams({ names: found.join(" ") })}`);
    const shown = this.$refs.fields.querySelector("[data-icons]");
    if (isLast() && html !== null && shown) shown.innerHTML = html;
  },
  save() {
    const fields = [...this.$refs.form.querySelectorAll("input[name]:not([type=file]), select[name]")];
    const values = Object.fromEntries(
      [...new FormData(this.$refs.form)].filter(([, value]) => typeof value === "string"),
    );
    const edit = entryEdit(values, new Set(fields.filter(isChanged).map((one) => one.name)));
    if (edit.edit === "set-entry" && !Object.keys({ ...edit.words, ...edit.labels }).length) return this.close();
    this.map.brought = this.map.brought.filter(([name]) => name === `files/${values.icon}`);
    return this.send(edit);
  },
});
