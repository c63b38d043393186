// The Map workspace: the code, the plan and the chosen page follow one another, and the text is saved as it is typed.
import { ask, nonce, pageState, piece, rememberPage } from "./common.js";
import { Editor } from "./editor.js";

const PAUSE = 220;
const AGAIN = 2500;

export const mapWorkspace = () => ({
  init() {
    const state = pageState();
    const wanted = new URLSearchParams(location.search);
    Object.assign(this, { facts: state, revision: state.revision, kept: state.kept, chosen: state.chosen });
    this.base = location.pathname;
    this.copyName = `basilica:text:${state.slug}`;
    const left = this.copy();
    const text = left && left.text !== state.text ? left.text : state.text;
    this.editor = new Editor(this.$refs.editor, text, {
      words: state.words,
      pages: () => this.facts.pages,
      nonce: nonce(),
      changed: () => this.changed(),
      moved: (line, column) => this.moved(line, column),
      keep: () => this.keep(),
    });
    this.editor.underline(state.findings);
    this.listen();
    this.mark();
    this.redrawForWidth();
    if (state.good) this.proveSoon(300);
    if (text !== state.text) {
      this.revision = left.revision;
      this.say("What you typed while it could not be saved is here again.");
      this.changed();
    }
    if (wanted.has("line")) this.editor.show(Number(wanted.get("line")), Number(wanted.get("column") || 1), true);
    else if (wanted.has("page")) this.showInCode(this.chosen);
  },

  listen() {
    this.$refs.plan.addEventListener("click", (event) => this.pick(event));
    this.$refs.plan.addEventListener("keydown", (event) => this.walk(event));
    this.$refs.page.addEventListener("click", (event) => this.pick(event));
    this.$refs.page.addEventListener("input", (event) => this.write(event.target));
    this.$refs.page.addEventListener("focusin", (event) => this.beginWriting(event.target));
    this.$refs.lists.addEventListener("click", (event) => this.goToFinding(event));
    document.addEventListener("keydown", (event) => {
      if ((event.ctrlKey || event.metaKey) && event.key === "s" && !event.defaultPrevented) {
        event.preventDefault();
        this.keep();
      }
    });
    document.addEventListener("click", (event) => {
      const link = event.target.closest("a[href]");
      const there = link && new URL(link.getAttribute("href"), location.href);
      this.staying = Boolean(there && there.pathname.startsWith(this.base.replace(/\/map$/, "/")));
    });
    window.addEventListener("beforeunload", (event) => {
      if (!this.kept && !this.staying) event.preventDefault();
      this.staying = false;
    });
    let wait;
    new ResizeObserver(() => {
      clearTimeout(wait);
      wait = setTimeout(() => this.redrawForWidth(), 150);
    }).observe(this.$refs.plan);
  },

  // Saving

  changed() {
    this.kept = false;
    document.getElementById("kept-mark")?.setAttribute("data-kept", "typing");
    clearTimeout(this.wait);
    this.wait = setTimeout(() => this.save(), PAUSE);
    clearTimeout(this.waitForCopy);
    this.waitForCopy = setTimeout(() => this.putCopy(), 60);
  },

  async save() {
    if (this.saving) return this.saving;
    if (this.held) return false;
    this.saving = this.saveNow();
    const done = await this.saving;
    this.saving = null;
    if (done === "again") return this.save();
    return done;
  },

  async saveNow() {
    const text = this.editor.text;
    const width = this.$refs.plan.clientWidth;
    const { ok, status, data } = await ask("PUT", `${this.base}/text`, { text, revision: this.revision, width });
    if (status === 409) return this.collide(data, text);
    if (!ok) {
      this.say(
        status === 0
          ? "Basilica cannot be reached. What you type stays in this browser, and is saved when it is there again."
          : `${data.message ?? "The text could not be saved."} What you typed is still here.`,
      );
      clearTimeout(this.wait);
      this.wait = setTimeout(() => this.save(), AGAIN);
      this.failed = true;
      return false;
    }
    if (this.failed) this.say("");
    this.failed = false;
    this.revision = data.revision;
    if (this.editor.text !== text) return "again";
    this.dropCopy();
    this.kept = data.kept;
    this.take(data);
    return true;
  },

  /** The text was saved from elsewhere: the person chooses, and until then nothing is overwritten. */
  collide(data, mine) {
    this.held = true;
    const choose = (label, act) => {
      const button = Object.assign(document.createElement("button"), { type: "button", textContent: label });
      button.className = "button small";
      button.addEventListener("click", () => {
        this.held = false;
        this.revision = data.revision;
        this.say("");
        act();
      });
      return button;
    };
    this.say(data.message, [
      choose("Save mine over it", () => this.save()),
      choose("Take the other (undo brings mine back)", () => this.editor.replace(data.text)),
    ]);
    this.putCopy(mine);
    return false;
  },

  take(data) {
    const chosenGone = data.places && !data.pages.some((page) => page.key === this.chosen);
    this.facts = { ...this.facts, ...data, places: data.places ?? null };
    this.editor.underline(data.findings);
    this.$refs.lists.innerHTML = data.lists;
    document.getElementById("standing").innerHTML = data.status;
    this.$refs.marker.dataset.good = data.good ? "yes" : "no";
    if (data.drawing) {
      this.$refs.plan.innerHTML = data.drawing;
      if (chosenGone) this.chosen = data.pages[0]?.key ?? null;
      this.mark();
      this.refreshPage();
    }
    if (data.good) this.proveSoon(900);
  },

  /** Once the person pauses, the built files are read again too; what is off there joins the list. */
  proveSoon(pause) {
    clearTimeout(this.waitForProof);
    this.waitForProof = setTimeout(async () => {
      const { ok, status, data } = await ask("GET", `${this.base}/proof`);
      if (!ok || data.revision !== this.revision || !this.facts.good) return;
      if (status === 202) return this.proveSoon(1500);
      this.editor.underline(data.findings);
      this.$refs.lists.innerHTML = data.lists;
      document.getElementById("standing").innerHTML = data.status;
    }, pause);
  },

  // The chosen page's own text

  /** Open the text of the page whose content file a finding names. */
  async showContent(file) {
    const key = file.replace(/^content\//, "").replace(/\.[a-z]+$/, "");
    if (!this.facts.pages.some((page) => page.key === key)) {
      return this.say(`This is about ${file}, which belongs to no page of the map.`);
    }
    this.chosen = key;
    this.mark();
    this.showInCode(key);
    await this.refreshPage();
    this.$refs.page.querySelector(".writing").open = true;
    document.getElementById("content-text").focus();
  },

  beginWriting(field) {
    if (field.id === "content-text" && field.dataset.was === undefined) field.dataset.was = field.value;
  },

  write(field) {
    if (field.id !== "content-text") return;
    clearTimeout(field.wait);
    field.wait = setTimeout(async () => {
      const text = field.value;
      const status = document.getElementById("content-status");
      const { ok, status: code, data } = await ask("PUT", `${this.base}/content`, {
        key: field.dataset.key,
        text,
        was: field.dataset.was,
      });
      if (ok) {
        field.dataset.was = text;
        this.proveSoon(900);
      } else if (code === 0) {
        this.write(field);
      }
      if (!status) return;
      status.textContent = ok
        ? "Saved."
        : code === 0
          ? "Basilica cannot be reached. This stays here and is saved when it is there again."
          : data.message;
    }, 400);
  },

  async keep() {
    clearTimeout(this.wait);
    if (!(await this.save())) return;
    const note = this.$refs.note.value;
    const { ok, data } = await ask("POST", `${this.base}/keep`, { revision: this.revision, note });
    if (!ok) return this.say(data.message ?? "It could not be kept. What you typed is saved; try again.");
    this.kept = data.kept;
    this.$refs.note.value = "";
    document.getElementById("standing").innerHTML = data.status;
  },

  copy() {
    try {
      return JSON.parse(localStorage.getItem(this.copyName));
    } catch {
      return null;
    }
  },
  putCopy(text = this.editor.text) {
    try {
      localStorage.setItem(this.copyName, JSON.stringify({ text, revision: this.revision }));
    } catch {
      // Too large for the browser to hold; the server has all but the last moment.
    }
  },
  dropCopy() {
    clearTimeout(this.waitForCopy);
    localStorage.removeItem(this.copyName);
  },

  say(text, buttons = []) {
    this.$refs.notice.replaceChildren(text, ...buttons);
    this.$refs.notice.hidden = text === "";
  },

  // Choosing

  choose(key) {
    if (key === this.chosen) return;
    this.chosen = key;
    this.mark();
    this.refreshPage();
  },

  moved(line, column) {
    if (!this.facts.places) return;
    let found = null;
    for (const place of this.facts.places) {
      if (place[0] > line || (place[0] === line && place[1] > column)) break;
      found = place;
    }
    if (found?.[2]) this.choose(found[2]);
  },

  showInCode(key) {
    const page = this.facts.pages.find((known) => known.key === key);
    if (page && this.facts.good) this.editor.show(page.line, page.column);
  },

  pick(event) {
    const link = event.target.closest("[data-key], [data-choose], [data-page]");
    if (!link || event.ctrlKey || event.metaKey || event.shiftKey) return;
    event.preventDefault();
    const key = link.dataset.key ?? link.dataset.choose ?? link.dataset.page;
    this.choose(key);
    this.showInCode(key);
  },

  walk(event) {
    const node = event.target.closest("a.node");
    if (!node) return;
    const nodes = [...this.$refs.plan.querySelectorAll("a.node")];
    const at = nodes.indexOf(node);
    const next = {
      ArrowDown: () => nodes[at + 1],
      ArrowUp: () => nodes[at - 1],
      ArrowLeft: () => nodes.find((other) => other.dataset.key === node.dataset.parent),
      ArrowRight: () => nodes.find((other) => other.dataset.parent === node.dataset.key),
    }[event.key]?.();
    if (!next) return;
    event.preventDefault();
    next.focus();
    this.choose(next.dataset.key);
    this.showInCode(next.dataset.key);
  },

  /** Gold for the chosen page, for those above it, and for the entry that is lit on it. */
  mark() {
    const nodes = new Map([...this.$refs.plan.querySelectorAll("a.node")].map((node) => [node.dataset.key, node]));
    for (const lit of this.$refs.plan.querySelectorAll(".here, .way-here")) lit.classList.remove("here", "way-here");
    const chosen = nodes.get(this.chosen);
    for (const node of nodes.values()) {
      node.removeAttribute("aria-current");
      // Tab leads to the chosen page alone; arrows lead on from there.
      if (chosen) node.setAttribute("tabindex", node === chosen ? "0" : "-1");
    }
    if (!chosen) return;
    chosen.classList.add("here");
    chosen.setAttribute("aria-current", "true");
    this.stem(this.chosen)?.classList.add("way-here");
    for (let up = nodes.get(chosen.dataset.parent); up; up = nodes.get(up.dataset.parent)) {
      up.classList.add("way-here");
      this.stem(up.dataset.key)?.classList.add("way-here");
    }
    const cell = chosen.dataset.lights && this.$refs.plan.querySelector(`.cell[data-cell="${chosen.dataset.lights}"]`);
    cell?.classList.add("here");
    for (const tie of this.$refs.plan.querySelectorAll(".tie")) {
      if (tie.dataset.to === this.chosen) tie.classList.add("way-here");
    }
    chosen.scrollIntoView({ block: "nearest", inline: "nearest" });
    rememberPage(this.chosen);
  },
  stem(key) {
    return [...this.$refs.plan.querySelectorAll(".stem")].find((stem) => stem.dataset.of === key);
  },

  async refreshPage() {
    const key = this.chosen;
    if (document.activeElement?.id === "content-text" && document.activeElement.dataset.key === key) return;
    const html = await piece(`${this.base}/page?page=${encodeURIComponent(key ?? "")}`);
    if (html !== null && key === this.chosen) this.$refs.page.innerHTML = html;
  },

  async redrawForWidth() {
    const width = this.$refs.plan.clientWidth;
    if (!width || Math.abs(width - (this.drawnFor ?? 640)) < 9) return;
    this.drawnFor = width;
    const html = await piece(`${this.base}/drawing?width=${width}`);
    if (html === null) return;
    this.$refs.plan.innerHTML = html;
    this.mark();
  },

  goToFinding(event) {
    const link = event.target.closest("a[data-line]");
    if (!link) return;
    event.preventDefault();
    if (link.dataset.file) return this.showContent(link.dataset.file);
    this.editor.show(Number(link.dataset.line), Number(link.dataset.column), true);
  },
});
