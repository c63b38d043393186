// @ts-check
// The Map workspace: the code, the plan and the chosen page follow one another, and the text is saved as it is typed.

import { ask, nonce, pageState, piece } from "./common.js";
import { dragging } from "./dragging.js";
import { acting } from "./editing.js";
import { Editor } from "./editor.js";
import { entries } from "./entries.js";
import { plan } from "./plan.js";
import { saving } from "./saving.js";
import { sizing } from "./sizing.js";

const LOOK = { folder: 1000, otherwise: 4000 };

/** @returns {ThisType<any> & Record<string, any>} one component out of several pieces */
export const mapWorkspace = () => ({
  ...saving,
  ...acting,
  ...plan,
  ...dragging,
  ...sizing,
  ...entries,

  init() {
    const state = pageState();
    const wanted = new URLSearchParams(location.search);
    Object.assign(this, { facts: state, revision: state.revision, versioned: state.saved, chosen: state.chosen });
    Object.assign(this, { turned: new Set(), scale: 1, pairs: [], saved: state.text, side: "page" });
    this.base = location.pathname;
    this.copyName = `basilica:text:${state.slug}`;
    const left = this.copy();
    const text = left && left.text !== state.text ? left.text : state.text;
    this.editor = new Editor(this.$refs.editor, text, {
      known: state.words,
      icons: () => (this.icons ??= ask("GET", `${this.base}/icons`).then(({ ok, data }) => (ok ? data : []))),
      pages: () => this.facts.pages,
      names: () => this.facts.names,
      nonce: nonce(),
      changed: (pairs) => this.changed(pairs),
      cursor: (line, column) => this.moved(line, column),
      saveVersion: () => this.saveVersion(),
      told: (undoing, redoing) => this.told(undoing, redoing),
      pageFor: (word, line) => this.pageFor(word, line),
      lead: () => this.lead(),
      remedy: () => this.remedy(),
    });
    this.editor.underline(state.findings);
    this.$refs.intoMenu.checked = localStorage.getItem("basilica:into-menu") !== "no";
    this.$refs.intoMenu.addEventListener("change", ({ target }) =>
      localStorage.setItem("basilica:into-menu", target.checked ? "yes" : "no"),
    );
    this.listen();
    this.mark();
    this.redrawForWidth();
    this.reachSoon(0);
    if (state.good) this.proveSoon(300);
    if (text !== state.text) {
      this.revision = left.revision;
      this.pairs = left.pairs ?? [];
      this.saved = left.saved ?? state.text;
      this.say("What you typed while it could not be saved is here again.");
      this.changed();
    }
    if (wanted.has("line")) this.editor.show(Number(wanted.get("line")), Number(wanted.get("column") || 1), true);
    else if (wanted.has("page")) this.showInCode(this.chosen);
    setInterval(() => this.look(), state.folder ? LOOK.folder : LOOK.otherwise);
  },

  listen() {
    const { plan: ground, page, menus, lists } = this.$refs;
    for (const place of [ground, page, menus]) place.addEventListener("click", (event) => this.pick(event));
    for (const place of [ground, menus]) place.addEventListener("keydown", (event) => this.pressed(event));
    ground.addEventListener("pointerdown", (event) => this.beginDrag(event));
    ground.addEventListener("pointerdown", (event) => this.beginPan(event));
    ground.addEventListener("dragstart", (event) => event.preventDefault());
    ground.addEventListener("scroll", () => this.overlook(), { passive: true });
    ground.addEventListener("dblclick", (event) => event.target.closest("a.node") && this.do("name"));
    ground.addEventListener("wheel", (event) => this.wheel(event), { passive: false });
    this.$refs.overview.addEventListener("pointerdown", (event) => this.panTo(event));
    page.addEventListener("input", (event) => this.write(event.target));
    page.addEventListener("focusin", (event) => this.beginWriting(event.target));
    for (const place of [lists, page]) place.addEventListener("click", (event) => this.goToFinding(event));
    lists.addEventListener("click", (event) => this.doRemedy(event.target.closest("[data-fix]")));
    this.$refs.listText.addEventListener("input", () => this.showListSoon());
    this.$root.addEventListener("click", (event) => this.clicked(event));
    document.getElementById("standing").addEventListener("click", (event) => {
      if (event.target.closest("#reach-bar")) this.$refs.reachDialog.showModal();
    });
    document.addEventListener("keydown", (event) => this.anywhere(event));
    document.addEventListener("found-page", (event) => this.goToPage(event.detail));
    document.addEventListener("click", (event) => {
      const link = event.target.closest("a[href]");
      const there = link && new URL(link.getAttribute("href"), location.href);
      this.staying = Boolean(there?.pathname.startsWith(this.base.replace(/\/map$/, "/")));
    });
    window.addEventListener("beforeunload", (event) => {
      if (!this.versioned && !this.staying) event.preventDefault();
      this.staying = false;
    });
    let wait;
    new ResizeObserver(() => {
      clearTimeout(wait);
      wait = setTimeout(() => this.redrawForWidth(), 150);
    }).observe(ground);
  },

  clicked(event) {
    const control = event.target.closest(
      "[data-do], [data-put], [data-take-out], [data-new-entry], [data-menu-act], [data-side], [data-copy-list], [data-svg]",
    );
    if (!control) return;
    const { dataset } = control;
    if (dataset.menuAct) control.closest("details").open = false;
    if (dataset.do) return this.do(dataset.do);
    if (dataset.put) return this.put(dataset.put);
    if (dataset.newEntry) return this.openEntry(dataset.newEntry);
    if (dataset.menuAct === "delete") return this.deleteMenu(dataset.name, Number(dataset.count));
    if (dataset.menuAct === "follow") return this.openFollow(dataset.name);
    if (dataset.menuAct) return this.openMenu(dataset.name, dataset.menuAct);
    if (dataset.takeOut) return this.takeOut(dataset.takeOut);
    if (dataset.side) return this.showSide(dataset.side);
    if ("copyList" in dataset) {
      event.preventDefault();
      return this.copyList(control);
    }
    control.href = `${this.base}/plan.svg?${new URLSearchParams(this.view())}`;
  },

  anywhere(event) {
    const control = event.ctrlKey || event.metaKey;
    if (event.defaultPrevented || !control) return;
    const key = event.key.toLowerCase();
    if (key === "s") {
      event.preventDefault();
      this.saveVersion();
    } else if ((key === "z" || key === "y") && !event.target.closest("input, textarea, .cm-editor, dialog")) {
      event.preventDefault();
      if (key === "y" || event.shiftKey) this.editor.redo();
      else this.editor.undo();
    }
  },

  wheel(event) {
    if (!event.ctrlKey) return;
    event.preventDefault();
    this.zoomBy(event.deltaY < 0 ? 1.1 : 1 / 1.1);
  },

  take(data) {
    const wanted = this.wanted;
    this.wanted = undefined;
    const has = (key) => data.pages.some((page) => page.key === key);
    this.facts = { ...this.facts, ...data, places: data.places ?? null };
    this.editor.underline(data.findings);
    this.$refs.lists.innerHTML = data.lists;
    this.stand(data.status);
    this.$refs.marker.dataset.good = data.good ? "yes" : "no";
    if (data.drawing) {
      if (wanted && has(wanted)) this.chosen = wanted;
      else if (!has(this.chosen)) this.chosen = data.pages[0]?.key ?? null;
      const focused = document.activeElement?.closest(".node, .cell");
      this.draw(data.drawing);
      if (!this.node(this.chosen)) this.redraw();
      if (this.focusing) this.focusing();
      else if (focused || wanted) this.focusAgain(wanted);
      if (wanted && has(wanted)) this.showInCode(wanted);
      this.refreshed = this.refreshPage();
    }
    if (data.good) this.proveSoon(900);
    this.reachSoon(400);
  },
  /** After an act the focus is on what it was done to; it is never on nothing. */
  focusAgain(wanted) {
    if (!this.isTyping() && (wanted || document.activeElement === document.body)) this.focusNode();
  },

  isTyping: () => Boolean(document.activeElement?.closest("input, textarea, .cm-editor, dialog[open]")),

  lookAgain() {
    this.refreshPage();
    this.proveSoon(0);
    this.reachSoon(0);
  },

  stand(html) {
    document.getElementById("standing").innerHTML = html;
    this.showReachBar();
  },

  /** Once the person pauses, the built files are read again too; what is off there joins the list. */
  proveSoon(pause) {
    clearTimeout(this.waitForProof);
    this.waitForProof = setTimeout(async () => {
      const { ok, status, data } = await ask("GET", `${this.base}/proof`);
      if (status === 503) return this.say(data.message);
      if (!ok || data.revision !== this.revision || !this.facts.good) return;
      if (status === 202) return this.proveSoon(1500);
      this.editor.underline(data.findings);
      this.$refs.lists.innerHTML = data.lists;
      this.stand(data.status);
    }, pause);
  },

  /** What has changed since the latest version: on the bar, in full, and as flags on the plan. */
  reachSoon(pause) {
    clearTimeout(this.waitForReach);
    this.waitForReach = setTimeout(async () => {
      const { ok, data } = await ask("GET", `${this.base}/reach`);
      if (!ok) return;
      this.$refs.reach.innerHTML = data.full;
      this.reachWords = data.same ? "" : data.bar;
      this.marks = data.marks;
      this.showReachBar();
      this.decorate();
    }, pause);
  },
  showReachBar() {
    const bar = document.getElementById("reach-bar");
    if (!bar) return;
    bar.textContent = this.reachWords ?? "";
    bar.hidden = !this.reachWords;
  },

  // The chosen page's own text

  /** Open the text of the page whose content file a finding names. */
  async showContent(file) {
    const key = file.replace(/^content\//, "").replace(/\.[a-z]+$/, "");
    if (!this.facts.pages.some((page) => page.key === key)) {
      const aside = Object.assign(document.createElement("button"), { type: "button", textContent: "Archive it" });
      aside.className = "button small";
      aside.addEventListener("click", () => {
        this.say("");
        this.changed([[key, null]]);
      });
      return this.say(`${file} belongs to no page of the map. A page of that key would find it again.`, [aside]);
    }
    this.showSide("page");
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
      const {
        ok,
        status: code,
        data,
      } = await ask("PUT", `${this.base}/content`, {
        key: field.dataset.key,
        text,
        was: field.dataset.was,
      });
      if (ok) {
        field.dataset.was = text;
        this.versioned = data.saved;
        this.stand(data.status);
        this.proveSoon(900);
        this.reachSoon(400);
      } else if (code === 0) {
        this.write(field);
      }
      if (!status) return;
      status.textContent = ok
        ? data.folder || "Saved."
        : code === 0
          ? "Basilica cannot be reached. This stays here and is saved when it is there again."
          : data.message;
    }, 400);
  },

  // Choosing by the code

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

  /** The page that a reference means: a full key, or an end of whole pieces that fits one page only. */
  pageFor(word, line) {
    const { pages } = this.facts;
    const own = pages.find((page) => page.line === line);
    if (own && (own.key === word || own.key.endsWith(`/${word}`))) return own;
    const whole = pages.find((page) => page.key === word);
    const fitting = whole ? [whole] : pages.filter((page) => page.key.endsWith(`/${word}`));
    return fitting.length === 1 ? fitting[0] : null;
  },

  /** From a reference to its page; from a page to the list of what leads to it. */
  async lead() {
    const [line] = this.editor.cursor();
    const page = this.pageFor(this.editor.word(), line);
    if (!page) return this.tell("No page is named at the cursor.", true);
    this.choose(page.key);
    if (page.line !== line) return this.editor.show(page.line, page.column, true);
    this.showSide("page");
    await this.refreshPage();
    this.$refs.page.querySelector("[data-line]")?.focus();
  },

  goToPage(key) {
    this.choose(key);
    this.showInCode(key);
    this.focusNode();
  },

  /** Do the remedy of the finding at the cursor's line. */
  remedy() {
    const [line] = this.editor.cursor();
    const finding = this.facts.findings.find((one) => one.line === line && one.fix);
    if (finding) this.editor.mend([finding.fix], "Applied a fix");
    else this.tell("No finding on this line has a single remedy.", true);
  },
  doRemedy(button) {
    if (button) this.editor.mend(JSON.parse(button.dataset.fix), button.dataset.said);
  },

  // The right side

  showSide(side) {
    this.side = side;
    for (const tab of this.$root.querySelectorAll("[data-side]")) {
      tab.setAttribute("aria-pressed", String(tab.dataset.side === side));
    }
    this.$refs.page.hidden = side !== "page";
    this.$refs.menus.hidden = side !== "menus";
    this.refreshPage();
  },

  async refreshPage() {
    const key = this.chosen;
    if (this.side === "menus") {
      const html = await piece(`${this.base}/menus`);
      if (html === null) return;
      const lists = this.$refs.menuLists;
      const had = lists.contains(document.activeElement) ? document.activeElement.getAttribute("href") : null;
      const opened = lists.querySelector("details[open] [data-menu-act]")?.dataset.name;
      lists.innerHTML = html;
      if (opened)
        lists.querySelector(`[data-menu-act][data-name="${opened}"]`)?.closest("details").setAttribute("open", "");
      const entry = (had && lists.querySelector(`[href="${had}"]`)) ?? lists.querySelector(".entry");
      entry?.setAttribute("tabindex", "0");
      if (had) entry?.focus();
      this.markEntries();
      return;
    }
    if (document.activeElement?.id === "content-text" && document.activeElement.dataset.key === key) return;
    const html = await piece(`${this.base}/page?page=${encodeURIComponent(key ?? "")}`);
    if (html !== null && key === this.chosen) this.$refs.page.innerHTML = html;
  },

  goToFinding(event) {
    const link = event.target.closest("a[data-line]");
    if (!link) return;
    event.preventDefault();
    if (link.dataset.file) return this.showContent(link.dataset.file);
    this.editor.show(Number(link.dataset.line), Number(link.dataset.column), true);
  },
});
