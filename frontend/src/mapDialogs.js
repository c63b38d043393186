// @ts-check
// The dialogs of the Map workspace: each is a component, opened by an event, that asks and hands an edit to the store.
import { nonce, questions, withCode } from "./common.js";
import { shownChanges, sideBySide } from "./differences.js";

const UNREACHED = "Basilica cannot be reached. Try again.";

/** What every dialog can do. */
const dialog = {
  problem: "",
  get map() {
    return this.$store.map;
  },
  show() {
    this.problem = "";
    this.$root.showModal();
  },
  close() {
    this.$root.close();
  },
  async send(edit) {
    this.problem = await this.map.tryEdit(edit, () => this.close());
  },
};
/** A component that is a dialog; what it says of itself wins. */
export const dialogWith = (own) => () =>
  Object.defineProperties(
    {},
    { ...Object.getOwnPropertyDescriptors(dialog), ...Object.getOwnPropertyDescriptors(own) },
  );

/** A new menu, a copy of one, or another name for one. */
export const menuDialog = dialogWith({
  act: "new",
  name: "",
  get title() {
    const titles = { new: "New menu", copy: `Copy the menu ${this.name}`, rename: `Rename the menu ${this.name}` };
    return titles[this.act];
  },
  get renames() {
    return this.act === "rename";
  },
  open({ detail }) {
    Object.assign(this, { act: detail.act, name: detail.name ?? "" });
    this.$refs.form.reset();
    const field = this.$refs.form.elements.namedItem("name");
    if (this.renames) field.value = this.name;
    this.show();
    field.select();
  },
  save() {
    const values = Object.fromEntries(new FormData(this.$refs.form));
    if (this.renames) return this.send({ edit: "rename-menu", name: this.name, new: values.name });
    const place = values.place === "section" ? { section: values.section } : { place: values.place };
    const like = this.act === "copy" ? { like: this.name } : {};
    return this.send({ edit: "new-menu", name: values.name, ...place, ...like });
  },
});

/** The entries of a menu are made from the pages from now on. */
export const followDialog = dialogWith({
  name: "",
  open({ detail }) {
    this.name = detail.name;
    this.$refs.form.reset();
    this.show();
  },
  save() {
    const words = Object.fromEntries([...new FormData(this.$refs.form)].filter(([, value]) => value));
    return this.send({ edit: "follow-pages", menu: this.name, words });
  },
});

export const menuGoingDialog = dialogWith({
  name: "",
  count: 0,
  get words() {
    const entries = `${this.count} ${this.count === 1 ? "entry" : "entries"}`;
    return `The menu ${this.name} and its ${entries} will be deleted. The pages stay, and Undo brings the menu back.`;
  },
  open({ detail }) {
    Object.assign(this, detail);
    this.show();
  },
  go() {
    this.close();
    this.map.edit({ edit: "delete-menu", name: this.name });
  },
});

/** An entry that follows the pages is moved with its page, or the order is written out: the person says which. */
export const autoDialog = dialogWith({
  ways: /** @type {any} */ ({}),
  get moves() {
    return Boolean(this.ways.page);
  },
  open({ detail }) {
    this.ways = detail;
    this.show();
  },
  movePage() {
    this.close();
    this.ways.page();
  },
  writeOut() {
    this.close();
    this.ways.write();
  },
});

/** A page is deleted, with what goes with it, and where its address leads. */
export const deleteDialog = dialogWith({
  edit: /** @type {any} */ (null),
  async open({ detail }) {
    const { ok, data } = await this.map.about("going", { key: detail.key });
    if (!ok) return this.map.tell(data.message ?? UNREACHED, true);
    this.edit = data.edit;
    this.$refs.going.innerHTML = data.shown;
    this.show();
  },
  async go() {
    const chosen = this.$refs.going.querySelector("[name=lead]:checked");
    const to = this.$refs.going.querySelector("#lead-to");
    if (chosen?.id === "lead-other" && !to.value.trim()) return to.focus();
    const lead = chosen?.id === "lead-other" ? to.value.trim() : (chosen?.value ?? "nowhere");
    this.close();
    await this.map.edit(this.edit, null, lead === "nowhere" ? { keep: false } : { lead });
    this.$dispatch("focus-page");
  },
});

/** A page gets another id; its addresses that others may know are kept, or not. */
export const renameDialog = dialogWith({
  key: "",
  count: 0,
  get keeps() {
    const addresses = this.count === 1 ? "address" : `${this.count} addresses`;
    return `Redirect the ${addresses} that others may know`;
  },
  get hasAddresses() {
    return this.count > 0;
  },
  async open({ detail }) {
    const { key } = detail;
    Object.assign(this, { key, count: 0 });
    this.$refs.id.value = key.slice(key.lastIndexOf("/") + 1);
    this.show();
    this.$refs.id.select();
    const { ok, data } = await this.map.about("going", { key });
    if (ok && this.key === key) this.count = data.moving;
  },
  async save() {
    const id = this.$refs.id.value.trim();
    this.close();
    await this.map.edit({ edit: "rename-id", key: this.key, id }, null, { keep: this.$refs.keep.checked });
  },
});

/** The lines of a text with those in bold, as they were copied with `html`, marked as Markdown marks them. */
export function withBold(text, html) {
  const copied = new DOMParser().parseFromString(html, "text/html");
  const bold = new Set([...copied.querySelectorAll("b, strong")].map((one) => one.textContent.trim()));
  // What is copied can be wrapped in a `b` that says it is none.
  for (const one of copied.querySelectorAll('b[style*="normal"]')) bold.delete(one.textContent.trim());
  const mark = (line) =>
    line.replace(/^(\s*(?:[-*•▪◦·o]\s+)?)(.*\S)(\s*)$/u, (_, lead, label) => `${lead}**${label}**`);
  const isBold = (line) => bold.has(line.trim().replace(/^[-*•▪◦·o]\s+/u, ""));
  return text
    .split(/\r?\n/)
    .map((line) => (isBold(line) ? mark(line) : line))
    .join("\n");
}

/** A list of the site changes what it says otherwise, or adds pages; what that is, is shown before it is done. */
export const listDialog = dialogWith({
  made: /** @type {any} */ (null),
  adds: false,
  now: "",
  declined: /** @type {Set<string>} */ (new Set()),
  askedToLook: questions(),
  get cannot() {
    return !this.made || this.made.empty;
  },
  get does() {
    return this.adds ? "Add the pages" : "Change the site";
  },
  /** It begins with the list of the site as it is. */
  async open() {
    const { text } = this.$refs;
    this.declined = new Set();
    this.show();
    text.focus();
    const untouched = text.value === this.now;
    const answer = await fetch(`${this.map.base}/listed.txt`).catch(() => null);
    if (answer?.ok && untouched && text.value === this.now) {
      this.now = await answer.text();
      if (!this.adds) text.value = this.now;
      text.select();
    }
    this.look();
  },
  /** Bold lines are marked, since a text field would take them for others. */
  paste(event) {
    const html = event.clipboardData?.getData("text/html") ?? "";
    const plain = event.clipboardData?.getData("text/plain") ?? "";
    const marked = html && withBold(plain, html);
    if (!marked || marked === plain) return;
    event.preventDefault();
    document.execCommand("insertText", false, marked); // keeps the field's own Undo
  },
  /** A change that is not ticked is left out. */
  decline(event) {
    if (event.target.name !== "change") return;
    const { checked, value } = event.target;
    if (checked) this.declined.delete(value);
    else this.declined.add(value);
    this.look();
  },
  lookSoon() {
    this.made = null;
    clearTimeout(this.waits);
    this.waits = setTimeout(() => this.look(), 250);
  },
  /** Until what is asked for now has been shown there is nothing to take. */
  async look() {
    clearTimeout(this.waits);
    this.made = null;
    const place = this.$root.querySelector("[name=place]:checked").value;
    const { text } = this.$refs;
    // The list of the whole site is no list of new pages.
    if (place !== "all" && !this.adds && text.value === this.now) text.value = "";
    else if (place === "all" && this.adds && text.value === "") text.value = this.now;
    this.adds = place !== "all";
    const list = text.value;
    const menu = this.map.intoMenu ? "main" : "";
    const isLast = this.askedToLook();
    const asked = { list, place, menu, key: this.map.chosen ?? "", declined: [...this.declined] };
    const { ok, data } = await this.map.about("list", asked);
    if (!isLast()) return;
    const seen = this.$refs.shown.querySelector("details")?.open;
    this.made = ok ? data : null;
    this.code?.destroy();
    this.code = null;
    if (!ok) {
      this.$refs.shown.replaceChildren(...withCode(data.message ?? UNREACHED));
      return;
    }
    const ticked = document.activeElement?.name === "change" ? document.activeElement.value : null;
    this.$refs.shown.innerHTML = data.shown;
    if (ticked !== null) this.$refs.shown.querySelector(`[value="${CSS.escape(ticked)}"]`)?.focus();
    const code = this.$refs.shown.querySelector("[data-code]");
    if (seen && code) code.parentElement.open = true;
    this.code = code && shownChanges(code, this.map.text(), data.text, nonce());
  },
  take() {
    this.close();
    this.now = this.$refs.text.value; // it begins anew the next time
    this.$refs.shown.replaceChildren();
    this.map.become(this.made.text, this.made.words, this.made.moves, this.made.files);
  },
});

/** Two texts that were written at once, held against each other and put together. */
export const mergeDialog = dialogWith({
  sides: /** @type {any} */ (null),
  merge: /** @type {any} */ (null),
  open({ detail }) {
    this.merge = detail;
    this.$refs.merged.innerHTML = detail.shown;
    this.sides?.destroy();
    this.sides = sideBySide(this.$refs.sides, detail.theirs, detail.text, nonce());
    this.show();
  },
  go() {
    const text = this.sides.b.state.sliceDoc();
    this.sides.destroy();
    this.close();
    this.merge.done(text);
  },
});
