// The Map workspace: the code, the plan and the chosen page follow one another, and the text is saved as it is typed.
// Each part of it has a class; the screen holds them all, and hears what is pressed.
import type { MapState, SavedText } from "../answers.ts";
import { iconNames, nonce } from "../shared/asking.ts";
import { around, byId, isForBrowser, put } from "../shared/elements.ts";
import { Acts } from "./acts.ts";
import { CodePane } from "./code.ts";
import { Dragging } from "./dragging.ts";
import { Editor } from "./editor.ts";
import { Edits } from "./edits.ts";
import { EntryActs } from "./entryActs.ts";
import { drawnIcon } from "./icons.ts";
import { Naming } from "./naming.ts";
import { Plan } from "./plan.ts";
import { Saving } from "./saving.ts";
import { SidePane } from "./side.ts";
import { SiteStatus } from "./siteStatus.ts";
import { PlanSize } from "./sizing.ts";
import type { MapStore } from "./store.ts";
import { Writing } from "./writing.ts";

const LOOK = { folder: 1000, otherwise: 4000 }; // ms between two looks at what changed elsewhere

export type DeskRefs = {
  differences: HTMLButtonElement;
  done: HTMLElement;
  editor: HTMLElement;
  lists: HTMLElement;
  marker: HTMLElement;
  menuLists: HTMLElement;
  menus: HTMLElement;
  more: HTMLDetailsElement;
  note: HTMLInputElement;
  notice: HTMLElement;
  overview: HTMLCanvasElement;
  page: HTMLElement;
  plan: HTMLElement;
  planPane: HTMLElement;
  reach: HTMLElement;
  reachDialog: HTMLDialogElement;
  redo: HTMLButtonElement;
  scale: HTMLElement;
  undo: HTMLButtonElement;
};

export class MapScreen {
  readonly __v_skip = true; // nothing that Alpine should watch
  readonly base = location.pathname;
  readonly editor: Editor;
  readonly saving: Saving;
  readonly writing: Writing;
  readonly siteStatus: SiteStatus;
  readonly side: SidePane;
  readonly code: CodePane;
  readonly plan: Plan;
  readonly size: PlanSize;
  readonly dragging: Dragging;
  readonly naming: Naming;
  readonly edits: Edits;
  readonly acts: Acts;
  readonly entries: EntryActs;
  /** The page that is to be chosen once the answer to a save is there. */
  wanted: string | null | undefined = undefined;

  constructor(
    readonly root: HTMLElement,
    readonly refs: DeskRefs,
    readonly store: MapStore,
    readonly dispatch: (name: string, detail?: unknown) => void,
    private readonly state: MapState,
  ) {
    store.base = this.base;
    store.facts = state;
    store.chosen = state.chosen;
    this.saving = new Saving(this, state);
    this.siteStatus = new SiteStatus(this);
    this.side = new SidePane(this);
    this.code = new CodePane(this);
    this.plan = new Plan(this);
    this.size = new PlanSize(this);
    this.dragging = new Dragging(this);
    this.naming = new Naming(this);
    this.edits = new Edits(this);
    this.acts = new Acts(this);
    this.entries = new EntryActs(this);
    this.editor = new Editor(refs.editor, this.saving.copy?.text ?? state.text, {
      known: state.words,
      icons: iconNames(this.base),
      drawn: (name) => drawnIcon(this.base, name),
      pages: () => this.facts.pages,
      names: () => this.facts.names,
      nonce: nonce(),
      changed: (pairs, files) => this.saving.changed(pairs, files),
      cursor: (line, column) => this.code.moved(line, column),
      saveVersion: () => this.saving.saveVersion(),
      undo: () => this.undo(),
      told: (undoing, redoing) => this.edits.told(undoing, redoing),
      pageFor: (word, line) => this.code.pageFor(word, line),
      lead: () => this.code.lead(),
      remedy: () => this.code.remedy(),
    });
    this.writing = new Writing(this, `basilica:content:${state.slug}:`);
  }

  get facts(): MapStore["facts"] {
    return this.store.facts;
  }
  get chosen(): string | null {
    return this.store.chosen;
  }
  set chosen(key: string | null) {
    this.store.chosen = key;
  }

  begin(): void {
    const wanted = new URLSearchParams(location.search);
    this.editor.underline(this.state.findings);
    this.writing.begin();
    this.listen();
    this.edits.told(null, null);
    this.plan.mark();
    this.size.redrawForWidth();
    this.siteStatus.reachSoon(0);
    if (this.state.good) this.siteStatus.proveSoon(300);
    this.saving.begin();
    if (wanted.has("line")) this.editor.show(Number(wanted.get("line")), Number(wanted.get("column") || 1), true);
    else if (wanted.has("page") && this.chosen) this.code.show(this.chosen);
    setInterval(() => this.saving.look(), this.state.folder ? LOOK.folder : LOOK.otherwise);
  }

  private listen(): void {
    const { plan: ground, page, menus } = this.refs;
    for (const place of [ground, page, menus]) place.addEventListener("click", (event) => this.plan.pick(event));
    for (const place of [ground, menus]) place.addEventListener("keydown", (event) => this.plan.pressed(event));
    this.dragging.listen();
    this.size.listen();
    this.writing.listen();
    this.code.listen();
    this.root.addEventListener("click", (event) => this.clicked(event));
    byId("standing").addEventListener("click", (event) => {
      if (around(event, "#reach-bar")) this.refs.reachDialog.showModal();
    });
    document.addEventListener("keydown", (event) => this.anywhere(event));
    addEventListener("focus-page", () => this.plan.focusNode());
    document.addEventListener("found-page", (event) => this.code.goTo(event.detail));
    document.addEventListener("click", (event) => this.leave(event));
    addEventListener("beforeunload", (event) => {
      if (!this.saving.versioned && !this.saving.staying) event.preventDefault();
      this.saving.staying = false;
    });
  }

  /** Where a link leads shows what was typed in the last moment, too. */
  private async leave(event: MouseEvent): Promise<void> {
    const link = around<HTMLAnchorElement>(event, "a[href]");
    const there = link && new URL(link.getAttribute("href") ?? "", location.href);
    const staying = Boolean(there?.pathname.startsWith(this.base.replace(/\/map$/, "/")));
    this.saving.staying = staying;
    const elsewhere = isForBrowser(event) || link?.target || link?.hasAttribute("download");
    if (!there || !staying || event.defaultPrevented || elsewhere || there.pathname === this.base) return;
    if (!this.isPast()) return;
    event.preventDefault();
    await Promise.all([this.writing.contents.flush(), this.saving.save()]);
    this.saving.staying = true;
    location.assign(there);
  }

  private clicked(event: MouseEvent): void {
    const control = around<HTMLElement>(
      event,
      "[data-do], [data-put], [data-take-out], [data-new-entry], [data-menu-act], [data-side], [data-copy-list], [data-svg]",
    );
    if (!control) return;
    const { dataset } = control;
    if (dataset.menuAct) control.closest("details")?.removeAttribute("open");
    if (dataset.do) this.acts.do(dataset.do);
    else if (dataset.put) this.acts.put(dataset.put);
    else if (dataset.newEntry) this.dispatch("ask-entry", { menu: dataset.newEntry });
    else if (dataset.menuAct === "delete")
      this.dispatch("ask-delete-menu", { name: dataset.name, count: Number(dataset.count) });
    else if (dataset.menuAct === "follow") this.dispatch("ask-follow", { name: dataset.name });
    else if (dataset.menuAct) this.dispatch("ask-menu", { act: dataset.menuAct, name: dataset.name });
    else if (dataset.takeOut) this.acts.takeOut(dataset.takeOut);
    else if (dataset.side) this.side.show(dataset.side);
    else if (control instanceof HTMLAnchorElement && "copyList" in dataset) {
      event.preventDefault();
      this.code.copyList(control);
    } else if (control instanceof HTMLAnchorElement)
      control.href = `${this.base}/plan.svg?${new URLSearchParams(this.plan.asked())}`;
  }

  private anywhere(event: KeyboardEvent): void {
    const control = event.ctrlKey || event.metaKey;
    if (event.defaultPrevented || !control) return;
    const key = event.key.toLowerCase();
    if (key === "s") {
      event.preventDefault();
      this.saving.saveVersion();
    } else if ((key === "z" || key === "y") && !around(event, "input, textarea, .cm-editor, dialog")) {
      event.preventDefault();
      if (key === "y" || event.shiftKey) this.editor.redo();
      else this.undo();
    }
  }

  /** Show what the answer to a save says. */
  take(data: SavedText): void {
    const { wanted } = this;
    this.wanted = undefined;
    const has = (key: string | null) => data.pages.some((page) => page.key === key);
    this.store.facts = data;
    this.editor.underline(data.findings);
    put(this.refs.lists, data.lists);
    this.siteStatus.show(data.status);
    this.refs.marker.dataset.good = data.good ? "yes" : "no";
    if (data.drawing) {
      if (wanted && has(wanted)) this.chosen = wanted;
      else if (!has(this.chosen)) this.chosen = data.pages[0]?.key ?? null;
      const focused = document.activeElement?.closest(".node, .cell");
      this.size.draw(data.drawing);
      if (!this.plan.node(this.chosen)) this.size.redraw();
      if (this.edits.focusing) this.edits.focusing();
      else if ((focused || wanted) && !this.isTyping() && (wanted || document.activeElement === document.body))
        this.plan.focusNode(); // after an act the focus is on what it was done to; it is never on nothing
      // Who has gone on to the code meanwhile keeps the cursor there.
      if (wanted && has(wanted) && !document.activeElement?.closest(".cm-editor")) this.code.show(wanted);
      this.side.refreshed = this.side.refresh();
    }
    if (data.good) this.siteStatus.proveSoon(900);
    this.siteStatus.reachSoon(400);
  }

  /** Take back what was done last: here, or else, such as before this page was loaded, to the site. */
  undo(): void {
    if (!this.editor.undo()) this.edits.undoStep();
  }
  isTyping(): boolean {
    return Boolean(document.activeElement?.closest("input, textarea, .cm-editor, dialog[open]"));
  }
  /** Whether something was typed that no answer can speak of yet. */
  isPast(): boolean {
    return this.editor.text !== this.saving.saved || this.writing.contents.pending;
  }
  lookAgain(): void {
    this.side.refresh();
    this.siteStatus.proveSoon(0);
    this.siteStatus.reachSoon(0);
  }
}
