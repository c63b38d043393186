// @ts-check
// The Map workspace: the code, the plan and the chosen page follow one another, and the text is saved as it is typed.

import { ask, choice, iconNames, nonce, pageState, piece, questions } from "./common.js";
import { Contents } from "./contents.js";
import { dragging } from "./dragging.js";
import { acting } from "./editing.js";
import { Editor } from "./editor.js";
import { drawnIcon } from "./entries.js";
import { menuLists } from "./menuLists.js";
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
  ...menuLists,

  askedForPage: questions(),
  askedForReach: questions(),

  // What the dialogs share with it is in the store.
  get facts() {
    return this.$store.map.facts;
  },
  set facts(facts) {
    this.$store.map.facts = facts;
  },
  get chosen() {
    return this.$store.map.chosen;
  },
  set chosen(key) {
    this.$store.map.chosen = key;
  },

  init() {
    const state = pageState();
    const wanted = new URLSearchParams(location.search);
    Object.assign(this, { facts: state, revision: state.revision, contentsMark: state.contents });
    this.filesMark = state.files;
    Object.assign(this, { versioned: state.saved, chosen: state.chosen });
    Object.assign(this, { turned: new Set(), scale: 1, pairs: [], files: [], saved: state.text, side: "page" });
    this.base = location.pathname;
    Object.assign(this.$store.map, {
      base: this.base,
      text: () => this.editor.text,
      edit: (...asked) => this.edit(...asked),
      tell: (...said) => this.tell(...said),
      become: (...made) => {
        this.editor.become(...made);
        this.save();
      },
    });
    this.copyName = `basilica:text:${state.slug}`;
    const left = this.copy();
    const unsaved = left && (left.text !== state.text || left.files?.length);
    const text = unsaved ? left.text : state.text;
    this.editor = new Editor(this.$refs.editor, text, {
      known: state.words,
      icons: iconNames(this.base),
      drawn: (name) => drawnIcon(this.base, name),
      pages: () => this.facts.pages,
      names: () => this.facts.names,
      nonce: nonce(),
      changed: (pairs, files) => this.changed(pairs, files),
      cursor: (line, column) => this.moved(line, column),
      saveVersion: () => this.saveVersion(),
      told: (undoing, redoing) => this.told(undoing, redoing),
      pageFor: (word, line) => this.pageFor(word, line),
      lead: () => this.lead(),
      remedy: () => this.remedy(),
    });
    this.editor.underline(state.findings);
    this.$store.map.intoMenu = localStorage.getItem("basilica:into-menu") !== "no";
    this.$watch("$store.map.intoMenu", (into) => localStorage.setItem("basilica:into-menu", into ? "yes" : "no"));
    this.contents = new Contents(
      (sent) => this.change(ask("PUT", `${this.base}/content`, sent)),
      (key, answer) => this.wrote(key, answer),
      localStorage,
      `basilica:content:${state.slug}:`,
    );
    this.contents.takeCopies();
    this.showWriting();
    this.listen();
    this.mark();
    this.redrawForWidth();
    this.reachSoon(0);
    if (state.good) this.proveSoon(300);
    if (unsaved) {
      this.revision = left.revision;
      this.pairs = left.pairs ?? [];
      this.files = left.files ?? [];
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
    for (const place of [lists, page]) place.addEventListener("click", (event) => this.goToFinding(event));
    lists.addEventListener("click", (event) => this.doRemedy(event.target.closest("[data-fix]")));
    lists.addEventListener("click", (event) => this.mendContent(event.target.closest("[data-mend]")));
    this.$root.addEventListener("click", (event) => this.clicked(event));
    document.getElementById("standing").addEventListener("click", (event) => {
      if (event.target.closest("#reach-bar")) this.$refs.reachDialog.showModal();
    });
    document.addEventListener("keydown", (event) => this.anywhere(event));
    addEventListener("focus-page", () => this.focusNode());
    document.addEventListener("found-page", (event) => this.goToPage(event.detail));
    document.addEventListener("click", async (event) => {
      const link = event.target.closest("a[href]");
      const there = link && new URL(link.getAttribute("href"), location.href);
      this.staying = Boolean(there?.pathname.startsWith(this.base.replace(/\/map$/, "/")));
      const elsewhere =
        event.ctrlKey || event.metaKey || event.shiftKey || link?.target || link?.hasAttribute("download");
      if (!this.staying || event.defaultPrevented || elsewhere || there.pathname === this.base) return;
      if (!this.contents.pending && this.editor.text === this.saved) return;
      event.preventDefault(); // where it leads shows what was typed in the last moment, too
      await Promise.all([this.contents.flush(), this.save()]);
      this.staying = true;
      location.assign(there);
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
    if (dataset.newEntry) return this.$dispatch("ask-entry", { menu: dataset.newEntry });
    if (dataset.menuAct === "delete")
      return this.$dispatch("ask-delete-menu", { name: dataset.name, count: Number(dataset.count) });
    if (dataset.menuAct === "follow") return this.$dispatch("ask-follow", { name: dataset.name });
    if (dataset.menuAct) return this.$dispatch("ask-menu", { act: dataset.menuAct, name: dataset.name });
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
      // Who has gone on to the code meanwhile keeps the cursor there.
      if (wanted && has(wanted) && !document.activeElement?.closest(".cm-editor")) this.showInCode(wanted);
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

  /** Show what an answer says of the site, which is not yet of what was typed since. */
  stand(html) {
    document.getElementById("standing").innerHTML = html;
    if (this.isPast()) this.markTyping();
    this.showReachBar();
  },
  /** Whether something was typed that no answer can speak of yet. */
  isPast() {
    return this.editor.text !== this.saved || this.contents.pending;
  },
  markTyping() {
    const mark = document.getElementById("saved-mark");
    mark?.setAttribute("data-saved", "typing");
    const word = mark?.querySelector(".word");
    if (word) word.textContent = "Unsaved changes";
  },

  /** Once the person pauses, the built files are read again too; what is off there joins the list. */
  proveSoon(pause) {
    clearTimeout(this.waitForProof);
    this.waitForProof = setTimeout(async () => {
      const { changes } = this;
      if (this.isPast()) return this.proveSoon(500);
      const { ok, status, data } = await ask("GET", `${this.base}/proof`);
      if (status === 503) return this.say(data.message);
      if (!ok || data.revision !== this.revision || !this.facts.good) return;
      if (changes !== this.changes || this.isPast()) return this.proveSoon(200);
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
      const isLast = this.askedForReach();
      const { ok, data } = await ask("GET", `${this.base}/reach`);
      if (!ok || !isLast()) return;
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
      const aside = choice("Archive it", () => {
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

  /** The content of the chosen page is shown anew: what was typed there and is not saved yet stays. */
  showWriting() {
    const field = this.writing();
    if (!field) return;
    const had = field.value;
    field.value = this.contents.shown(field.dataset.key, had);
    if (field.value !== had) field.closest("details").open = true;
  },
  /** The field for the content of a page, where that page is shown. */
  writing(key = this.chosen) {
    const field = /** @type {HTMLTextAreaElement | null} */ (document.getElementById("content-text"));
    return field?.dataset.key === key ? field : null;
  },
  write(field) {
    if (field.id !== "content-text") return;
    this.contents.typed(field.dataset.key, field.value);
    this.markTyping();
  },
  /** What became of the content of a page that was to be saved. */
  wrote(key, { ok, status, data }) {
    if (ok) {
      this.versioned = data.saved;
      this.stand(data.status);
      this.proveSoon(900);
      this.reachSoon(400);
      if (data.redraw) this.save(); // the head of a text says what its page is called
    }
    const field = this.writing(key);
    if (ok && field) this.follow(field, key);
    const away = "Basilica cannot be reached. This stays here and is saved when it can be reached again.";
    const said = ok ? data.folder || "Saved." : status === 0 ? away : data.message;
    if (!field) {
      if (!ok || this.warned) this.tell(ok ? "" : `${key}: ${said}`, !ok);
      this.warned = !ok;
      return;
    }
    const choices =
      ok || typeof data.text !== "string"
        ? []
        : [
            choice("Keep both, and mine on the same lines", () => {
              this.replaceText(field, data.merged);
              this.contents.settle(key);
            }),
            choice("Use the other version (Undo restores mine)", () => {
              this.replaceText(field, data.text);
              this.contents.settle(key);
            }),
          ];
    const lost = data.lost?.length ? [` Lines of theirs that yours replace: ${data.lost.join(" / ")}. `] : [];
    document.getElementById("content-status").replaceChildren(said, ...lost, ...choices);
  },
  /** Put another text into a field, as one step that the browser can undo. */
  replaceText(field, text) {
    field.focus();
    field.select();
    document.execCommand("insertText", false, text);
  },
  /** Show what was saved with somebody else's words in it, as long as nothing more was typed; the cursor stays. */
  follow(field, key) {
    const text = this.contents.shown(key, field.value);
    if (field.value === text) return;
    const { selectionStart, selectionEnd } = field;
    field.value = text;
    field.setSelectionRange(selectionStart, selectionEnd);
  },
  /** The content that is open was changed elsewhere: it stays as it is here, and the screen says so. */
  sayOlder(field, text) {
    const show = choice("Show the other version (Undo restores this one)", () => {
      this.contents.shown(field.dataset.key, text);
      this.replaceText(field, text);
    });
    document.getElementById("content-status").replaceChildren("Somebody else changed this content. ", show);
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

  /** Do the remedy of a finding in the text of a page. */
  async mendContent(button) {
    if (!button) return;
    const { mend: file, line } = button.dataset;
    const { ok, data } = await ask("POST", `${this.base}/mend-content`, { file, line: Number(line) });
    if (!ok) return this.say(data.message ?? "Basilica cannot be reached, so this was not done. Try again.");
    this.tell(`Applied a fix in ${file}.`);
    this.refreshPage();
    this.save();
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
    const isLast = this.askedForPage();
    if (this.side === "menus") {
      const html = await piece(`${this.base}/menus`);
      if (html === null || this.inHand() || !isLast()) return;
      const lists = this.$refs.menuLists;
      const had = lists.contains(document.activeElement) ? document.activeElement.getAttribute("href") : null;
      const opened = lists.querySelector("details[open] [data-menu-act]")?.dataset.name;
      lists.innerHTML = html;
      if (opened)
        lists.querySelector(`[data-menu-act][data-name="${opened}"]`)?.closest("details").setAttribute("open", "");
      const entry = (had && lists.querySelector(`[href="${had}"]`)) ?? lists.querySelector(".entry");
      entry?.setAttribute("tabindex", "0");
      if (had && !this.isTyping()) entry?.focus();
      this.markEntries();
      this.sortEntries(lists);
      return;
    }
    const html = await piece(`${this.base}/page?page=${encodeURIComponent(key ?? "")}`);
    if (html === null || !isLast()) return;
    const open = /** @type {HTMLTextAreaElement} */ (document.activeElement);
    if (open?.id === "content-text" && open.dataset.key === key) {
      const there = new DOMParser().parseFromString(html, "text/html").getElementById("content-text");
      const text = /** @type {HTMLTextAreaElement | null} */ (there)?.defaultValue ?? "";
      if (this.contents.isOlder(key, text)) this.sayOlder(open, text);
      return;
    }
    // What was opened by hand stays open, with the focus on it, while the page is the same.
    const opened = this.writing(key)?.closest("details").open;
    const had = opened && document.activeElement?.matches(".writing > summary");
    this.$refs.page.innerHTML = html;
    this.showWriting();
    const writing = opened && this.writing(key)?.closest("details");
    if (!writing) return;
    writing.open = true;
    if (had) writing.querySelector("summary").focus();
  },

  goToFinding(event) {
    const link = event.target.closest("a[data-line]");
    if (!link) return;
    event.preventDefault();
    if (link.dataset.file) return this.showContent(link.dataset.file);
    this.editor.show(Number(link.dataset.line), Number(link.dataset.column), true);
  },
});
