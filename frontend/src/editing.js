// @ts-check
// What is drawn is done to the code: acts on the chosen page, and on the chosen entry of a menu.
import { ask, withCode } from "./common.js";

const MOVES = { up: "up", down: "down", out: "out", in: "in" };
/** Acts on what is written of the chosen page itself. */
const OF_A_PAGE = ["name", "rename", "delete", "duplicate", ...Object.keys(MOVES)];

export const acting = {
  // Where things stand

  parentOf: (key) => (key.includes("/") ? key.slice(0, key.lastIndexOf("/")) : null),
  pagesUnder(parent) {
    return this.facts.pages.filter((page) => this.parentOf(page.key) === parent).map((page) => page.key);
  },
  placeOf(key) {
    const parent = this.parentOf(key);
    const among = this.pagesUnder(parent);
    return { parent, among, index: among.indexOf(key) };
  },

  // Doing

  /** Do an act to the current text here; one after the other, for each changes what the next is about. */
  edit(data, focusing = null, addresses = {}) {
    const acted = (this.acted ?? Promise.resolve()).then(() => this.actNow(data, focusing, addresses));
    this.acted = acted.catch(() => false);
    return acted;
  },
  /** What comes back is one step of the history, with words. Where the focus goes is the chosen page, or as told. */
  async actNow(data, focusing, addresses) {
    await this.contents.flush();
    if (this.files.length) await this.save(); // the act is done to the files as they are saved
    const text = this.editor.text;
    const { ok, data: answer } = await ask("POST", `${this.base}/edit`, { text, edit: data, ...addresses });
    if (answer.asks === "write-out") {
      // What follows the pages is written out when the person says so.
      const write = () => this.edit({ ...data, write_out: true }, focusing, addresses);
      this.$dispatch("ask-auto", { page: null, write });
      return false;
    }
    if (!ok) return this.tell(answer.message ?? "Basilica cannot be reached, so this was not done. Try again.", true);
    if (this.editor.text !== text) return this.tell("The text was changed meanwhile, so this was not done.", true);
    this.wanted = answer.chosen;
    this.focusing = focusing;
    const files = [...answer.files, ...this.$store.map.brought.splice(0)];
    this.editor.become(answer.text, answer.words, answer.moves, files);
    this.tell(`${answer.words}.`);
    if (answer.kept && !("keep" in addresses) && !addresses.lead)
      this.offer("Do not keep them", () => {
        this.editor.undo();
        this.edit(data, focusing, { keep: false });
      });
    await this.save();
    await this.refreshed; // the numbers of entries are new now
    this.focusing?.();
    this.focusing = null;
    return true;
  },

  /** What was done, or why not, where the eye is. */
  tell(text, wrong = false) {
    const { done } = this.$refs;
    done.replaceChildren(...withCode(text));
    done.hidden = text === "";
    done.classList.toggle("wrong", wrong);
    clearTimeout(this.waitForQuiet);
    if (!wrong) this.waitForQuiet = setTimeout(() => (done.hidden = true), 6000);
    return false;
  },

  /** Something else that could have been done, beside what was. */
  offer(words, act) {
    const button = Object.assign(document.createElement("button"), { type: "button", textContent: words });
    button.className = "button small other";
    button.addEventListener("click", act);
    this.$refs.done.append(" ", button);
    clearTimeout(this.waitForQuiet);
    this.waitForQuiet = setTimeout(() => (this.$refs.done.hidden = true), 20000);
  },

  told(undoing, redoing) {
    for (const [name, words] of [
      ["undo", undoing],
      ["redo", redoing],
    ]) {
      const button = this.$refs[name];
      button.disabled = words === null;
      button.title = words === null ? "" : `${name === "undo" ? "Undo" : "Redo"}: ${words}`;
      button.setAttribute("aria-label", button.title || (name === "undo" ? "Undo" : "Redo"));
    }
  },

  /** Why an act cannot be done to the chosen page, which is written in another file than the map; nothing if it can. */
  cannotBeDone(name) {
    const of = (key) => this.facts.pages.find((page) => page.key === key);
    const page = of(this.chosen);
    if (!page) return "";
    if (page.cells?.includes(name)) return "";
    if (OF_A_PAGE.includes(name)) return page.elsewhere ?? "";
    if (name === "under") return page.elsewhere ?? page.below ?? "";
    if (name !== "after" || !page.elsewhere) return "";
    const parent = of(this.placeOf(page.key).parent);
    return parent?.below ?? parent?.elsewhere ?? "";
  },

  /** A button, or a key, by its name. */
  async do(name) {
    const acts = {
      undo: () => this.editor.undo(),
      redo: () => this.editor.redo(),
      list: () => this.$dispatch("ask-list"),
      differences: () => this.showDifferences(),
      "new-menu": () => this.$dispatch("ask-menu", { act: "new" }),
      duplicate: () => this.duplicate(),
      print: () => window.print(),
      smaller: () => this.zoomBy(1 / 1.25),
      larger: () => this.zoomBy(1.25),
      fit: () => this.fit(),
    };
    const cannot = this.cannotBeDone(name);
    if (cannot) return this.tell(cannot, true);
    if (acts[name]) return acts[name]();
    // What asks for a name asks at once, since the next key is the name's. All else waits for the act before it: only
    // then is it known what is chosen, and where that stands.
    const naming = ["after", "under", "name", "entry-group"].includes(name);
    if (!naming) await this.acted;
    const key = this.chosen;
    if (name.startsWith("entry-")) return this.doEntry(name.slice(6));
    if (!key || !this.facts.good)
      return this.tell("Fix the text first: the plan shows the last version without errors.", true);
    if (name === "after" || name === "under") return this.nameNew(key, name);
    if (name === "name") return this.nameInPlace(key);
    if (name === "delete") return this.$dispatch("ask-delete", { key });
    if (name === "rename") return this.$dispatch("ask-rename", { key });
    if (name === "menu") {
      const number = this.facts.pages.find((page) => page.key === key)?.main ?? null;
      return number === null ? this.put("main") : this.edit({ edit: "remove-from-menu", menu: "main", number });
    }
    if (MOVES[name]) return this.move(key, name);
  },

  move(key, way) {
    const { parent, among, index } = this.placeOf(key);
    const to = (target, place) => this.edit({ edit: "move-page", key, parent: target, index: place });
    if (way === "up") return index > 0 ? to(parent, index - 1) : this.tell("It is the first there.", true);
    if (way === "down")
      return index < among.length - 1 ? to(parent, index + 1) : this.tell("It is the last there.", true);
    if (way === "out") {
      if (parent === null) return this.tell("It is at the top.", true);
      const above = this.placeOf(parent);
      return to(above.parent, above.index + 1);
    }
    const before = among[index - 1];
    return before
      ? to(before, this.pagesUnder(before).length)
      : this.tell("There is no page before it to go under.", true);
  },

  /** The entry of a menu that is chosen: the one with the focus, or the last that had it. */
  entry() {
    const found = document.activeElement?.closest?.("[data-number]");
    if (found) this.lastEntry = [found.dataset.menu, found.dataset.number];
    if (!this.lastEntry) return null;
    const [menu, number] = this.lastEntry;
    return document.querySelector(`[data-menu="${menu}"][data-number="${number}"]`);
  },

  /** An act on an entry; one that `auto` makes is moved as ``written`` out only when the person said so. */
  doEntry(way, written = null) {
    const entry = written ?? this.entry();
    if (!entry) return this.tell("Choose an entry first.", true);
    if (!this.facts.good)
      return this.tell("Fix the text first: the menus are from the last version without errors.", true);
    const { menu } = entry.dataset;
    const [number, index, count] = ["number", "index", "count"].map((name) => Number(entry.dataset[name]));
    const parent = entry.dataset.parent ? Number(entry.dataset.parent) : null;
    const to = (target, place) =>
      this.moveEntry(menu, number, target, place, entry.textContent.trim().split("\n")[0], Boolean(written));
    if (way === "edit") return this.$dispatch("ask-entry", { menu, number });
    if (way === "new") return this.$dispatch("ask-entry", { menu, parent: number });
    if (way === "take-out") return this.edit({ edit: "remove-from-menu", menu, number });
    if (way === "group") return this.nameGroup(entry, menu, number);
    if (this.facts.auto?.[menu]?.includes(number) && !written) return this.askAuto(entry, way);
    if (way === "up") return index > 0 ? to(parent, index - 1) : this.tell("It is the first there.", true);
    if (way === "down") return index < count - 1 ? to(parent, index + 1) : this.tell("It is the last there.", true);
    const list = (n) => this.$refs.menuLists.querySelector(`[data-menu="${menu}"][data-number="${n}"]`);
    if (way === "out") {
      const above = parent === null ? null : list(parent);
      if (!above) return this.tell("It is at the top of the menu.", true);
      return to(above.dataset.parent ? Number(above.dataset.parent) : null, Number(above.dataset.index) + 1);
    }
    const before = [...document.querySelectorAll(`[data-menu="${menu}"][data-index="${index - 1}"]`)].find(
      (other) => (other.dataset.parent || "") === (entry.dataset.parent || ""),
    );
    if (!before) return this.tell("There is no entry before it to go under.", true);
    return to(Number(before.dataset.number), 999);
  },

  async moveEntry(menu, number, parent, index, label, written = false) {
    const beam = Boolean(document.activeElement?.closest(".cell"));
    const title = (entry) => entry.querySelector("title")?.textContent.split(": ").slice(1).join(": ");
    const name = (entry) => (beam ? title(entry) : entry.textContent.trim().split("\n")[0]);
    const wanted = beam ? label.split(": ").slice(1).join(": ") : label;
    // The numbers are others after it: the focus follows the label, and is at no time on anything else.
    const follow = () => {
      const within = beam ? this.$refs.plan : this.$refs.menuLists;
      const found = [...within.querySelectorAll(`[data-menu="${menu}"]`)].find((entry) => name(entry) === wanted);
      if (!found || this.isTyping()) return;
      found.focus();
      this.lastEntry = [menu, found.dataset.number];
    };
    return this.edit({ edit: "move-entry", menu, number, parent, index, write_out: written }, follow);
  },

  nameGroup(entry, menu, number) {
    this.askName(entry, "The group's name", "", (label) => this.edit({ edit: "make-group", menu, number, label }));
  },

  async put(menu) {
    await this.acted;
    if (this.chosen) this.edit({ edit: "add-to-menu", menu, key: this.chosen, parent: null, index: 999 });
  },

  async takeOut(menu) {
    await this.acted;
    const own = this.$refs.page.querySelector(`[data-take-out="${menu}"]`);
    if (own) await this.edit({ edit: "remove-from-menu", menu, number: Number(own.dataset.number) });
  },

  /** What follows the pages is moved with its page, or its order is written out: the person says which. */
  askAuto(entry, way) {
    const page = () => this.move(entry.dataset.page, way);
    this.$dispatch("ask-auto", { page, write: () => this.doEntry(way, entry) });
  },

  /** The same page again beside it, with its content in every language. */
  async duplicate() {
    const key = this.chosen;
    await this.contents.flush();
    if (!(await this.edit({ edit: "duplicate-page", key }))) return;
    const { ok, data } = await ask("POST", `${this.base}/copy-content`, { key, to: this.chosen });
    if (!ok) return this.tell(data.message ?? "Basilica cannot be reached, so the content was not copied.", true);
    if (data.copied) this.lookAgain();
  },

  /** In the code, what has changed since the latest version. */
  async showDifferences() {
    const button = this.$refs.differences;
    const on = button.getAttribute("aria-pressed") !== "true";
    const { ok, data } = on ? await ask("GET", `${this.base}/version-text`) : { ok: true, data: {} };
    if (!ok) return this.tell("Basilica cannot be reached. Try again.", true);
    this.editor.compare(on ? data.text.replaceAll("\r\n", "\n") : null);
    button.setAttribute("aria-pressed", String(on));
    if (on && data.text === this.editor.text) this.tell("Nothing has changed since the latest version.");
  },

  async copyList(link) {
    const response = await fetch(link.href);
    const text = await response.text();
    try {
      await navigator.clipboard.writeText(text);
      this.tell(`Copied ${text.trim().split("\n").length} lines.`);
    } catch {
      this.tell("The browser did not allow copying; download it as a file instead.", true);
    }
    this.$refs.more.open = false;
  },
};
