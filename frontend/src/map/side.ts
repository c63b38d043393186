// The right side: the chosen page, or every menu as a list whose entries are dragged.
import Sortable, { type Moved } from "sortablejs";
import { piece, questions } from "../shared/asking.ts";
import { all, put, sortingTime } from "../shared/elements.ts";
import { released } from "../shared/pressing.ts";
import { labelOf } from "./entryActs.ts";
import type { MapScreen } from "./screen.ts";

export class SidePane {
  private readonly askedForPage = questions();
  private shown = "page";
  private redrawLate = false;
  /** The pane as it is after the last answer to a save. */
  refreshed: Promise<void> = Promise.resolve();

  constructor(private readonly screen: MapScreen) {}

  show(side: string): void {
    this.shown = side;
    for (const tab of all(this.screen.root, "[data-side]"))
      tab.setAttribute("aria-pressed", String(tab.dataset.side === side));
    this.screen.refs.page.hidden = side !== "page";
    this.screen.refs.menus.hidden = side !== "menus";
    this.refresh();
  }

  refresh(): Promise<void> {
    return this.shown === "menus" ? this.refreshMenus() : this.refreshPage();
  }

  private async refreshMenus(): Promise<void> {
    const isLast = this.askedForPage();
    const lists = this.screen.refs.menuLists;
    const html = await piece(`${this.screen.base}/menus`);
    if (html === null || this.inHand()) return;
    await released(lists);
    if (this.inHand() || !isLast()) return;
    const had = lists.contains(document.activeElement) ? document.activeElement?.getAttribute("href") : null;
    const opened = lists.querySelector<HTMLElement>("details[open] [data-menu-act]")?.dataset.name;
    put(lists, html);
    if (opened)
      lists.querySelector(`[data-menu-act][data-name="${opened}"]`)?.closest("details")?.setAttribute("open", "");
    const found = had ? lists.querySelector<HTMLElement>(`[href="${had}"]`) : null;
    const entry = found ?? lists.querySelector<HTMLElement>(".entry");
    entry?.setAttribute("tabindex", "0");
    if (had && !this.screen.isTyping()) entry?.focus();
    this.screen.plan.markEntries();
    for (const list of all(lists, ".menus-list section ul[data-of-menu]")) this.sortEntries(list);
  }

  private async refreshPage(): Promise<void> {
    const { base, chosen: key, refs, writing } = this.screen;
    const isLast = this.askedForPage();
    const html = await piece(`${base}/page?page=${encodeURIComponent(key ?? "")}`);
    await released(refs.page);
    if (html === null || !isLast()) return;
    const open = document.activeElement;
    if (open instanceof HTMLTextAreaElement && open.id === "content-text" && key && open.dataset.key === key) {
      const there = new DOMParser().parseFromString(html, "text/html").getElementById("content-text");
      const text = there?.textContent ?? "";
      if (writing.contents.isOlder(key, text)) writing.sayOlder(open, text);
      return;
    }
    // What was opened by hand stays open, with the focus on it, while the page is the same.
    const opened = writing.field(key)?.closest("details")?.open;
    const had = opened && document.activeElement?.matches(".writing > summary");
    put(refs.page, html);
    writing.show();
    const details = opened ? writing.field(key)?.closest("details") : null;
    if (!details) return;
    details.open = true;
    if (had) details.querySelector("summary")?.focus();
  }

  /** Whether an entry is in somebody's hand: the list is not drawn anew under it, but once it is let go. */
  private inHand(): boolean {
    this.redrawLate = Boolean(Sortable.active);
    return this.redrawLate;
  }
  private sortEntries(list: HTMLElement): void {
    Sortable.create(list, {
      group: list.dataset.ofMenu ?? "",
      draggable: "li",
      animation: sortingTime(),
      onEnd: (moved) => this.dropped(moved),
    });
  }
  private dropped({ item, to, from, newDraggableIndex, oldDraggableIndex }: Moved): void {
    const { screen } = this;
    const late = this.redrawLate;
    this.redrawLate = false;
    const stays = to === from && newDraggableIndex === oldDraggableIndex;
    const entry = item.querySelector<HTMLElement>(".entry");
    if (stays && late) this.refresh();
    if (stays || !entry) return;
    const parent = to.dataset.parent ? Number(to.dataset.parent) : null;
    const { menu = "", number } = entry.dataset;
    const act = async (written = true) => {
      const move = { menu, number: Number(number), parent, index: newDraggableIndex };
      if (!(await screen.entries.moveEntry(move, labelOf(entry), written))) this.refresh();
    };
    if (!screen.facts.auto[menu]?.includes(Number(number))) {
      act(false);
      return;
    }
    this.refresh(); // it stands where it stood, until the person has said
    screen.dispatch("ask-auto", { page: null, write: act });
  }
}
