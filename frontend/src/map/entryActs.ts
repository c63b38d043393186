// Acts on the chosen entry of a menu, on the plan's bar or in the lists of menus.
import { all } from "../shared/elements.ts";
import type { MapScreen } from "./screen.ts";

const LAST = 999; // behind all others

/** An entry's label, as its list has it. */
export const labelOf = (entry: Element): string => entry.textContent?.trim().split("\n")[0] ?? "";
/** An entry's label on the bar: the title says it behind what kind it is. */
const labelOnBar = (said: string): string => said.split(": ").slice(1).join(": ");

/** Where an entry goes: under another one, or at the top, before the one that has the `index` there. */
export type Target = { menu: string; number: number; parent: number | null; index: number };

export class EntryActs {
  /** The menu and number of the entry that had the focus last. */
  private last: { menu: string; number: string } | null = null;

  constructor(private readonly screen: MapScreen) {}

  /** Remember an entry as the one that acts are about. */
  remember({ dataset: { menu, number } }: HTMLElement | SVGElement): void {
    if (menu && number) this.last = { menu, number };
  }

  /** The entry of a menu that is chosen: the one with the focus, or the last that had it. */
  private chosen(): HTMLElement | null {
    const found = document.activeElement?.closest<HTMLElement>("[data-number]");
    if (found) this.remember(found);
    if (!this.last) return null;
    const { menu, number } = this.last;
    return document.querySelector<HTMLElement>(`[data-menu="${menu}"][data-number="${number}"]`);
  }

  /** An act on an entry; one that `auto` makes is moved as `written` out only when the person said so. */
  do(way: string, written: HTMLElement | null = null): void {
    const { screen } = this;
    const refuse = (why: string): void => {
      screen.edits.tell(why, true);
    };
    const entry = written ?? this.chosen();
    if (!entry) return refuse("Choose an entry first.");
    if (!screen.facts.good) return refuse("Fix the text first: the menus are from the last version without errors.");
    const { menu = "" } = entry.dataset;
    const [number, index, count] = ["number", "index", "count"].map((name) => Number(entry.dataset[name]));
    const parent = entry.dataset.parent ? Number(entry.dataset.parent) : null;
    const to = (target: number | null, place: number): void => {
      this.moveEntry({ menu, number, parent: target, index: place }, labelOf(entry), Boolean(written));
    };
    if (way === "edit") return screen.dispatch("ask-entry", { menu, number });
    if (way === "new") return screen.dispatch("ask-entry", { menu, parent: number });
    if (way === "take-out") {
      screen.edits.edit({ edit: "remove-from-menu", menu, number });
      return;
    }
    if (way === "group") return this.nameGroup(entry, menu, number);
    if (screen.facts.auto[menu]?.includes(number) && !written) return this.askAuto(entry, way);
    if (way === "up") return index > 0 ? to(parent, index - 1) : refuse("It is the first there.");
    if (way === "down") return index < count - 1 ? to(parent, index + 1) : refuse("It is the last there.");
    if (way === "out") {
      const above =
        parent === null
          ? null
          : screen.refs.menuLists.querySelector<HTMLElement>(`[data-menu="${menu}"][data-number="${parent}"]`);
      if (!above) return refuse("It is at the top of the menu.");
      return to(above.dataset.parent ? Number(above.dataset.parent) : null, Number(above.dataset.index) + 1);
    }
    const before = all(document, `[data-menu="${menu}"][data-index="${index - 1}"]`).find(
      (other) => (other.dataset.parent || "") === (entry.dataset.parent || ""),
    );
    if (!before) return refuse("There is no entry before it to go under.");
    to(Number(before.dataset.number), LAST);
  }

  moveEntry({ menu, number, parent, index }: Target, label: string, written = false): Promise<boolean> {
    const { screen } = this;
    const onBar = Boolean(document.activeElement?.closest(".cell"));
    const name = (entry: Element) =>
      onBar ? labelOnBar(entry.querySelector("title")?.textContent ?? "") : labelOf(entry);
    const wanted = onBar ? labelOnBar(label) : label;
    // The numbers are others after it: the focus follows the label, and is at no time on anything else.
    const follow = () => {
      const within = onBar ? screen.refs.plan : screen.refs.menuLists;
      const found = all(within, `[data-menu="${menu}"]`).find((entry) => name(entry) === wanted);
      if (!found || screen.isTyping()) return;
      found.focus();
      this.remember(found);
    };
    return screen.edits.edit({ edit: "move-entry", menu, number, parent, index, write_out: written }, follow);
  }

  private nameGroup(entry: Element, menu: string, number: number): void {
    this.screen.naming.ask(entry, "The group's name", "", (label) =>
      this.screen.edits.edit({ edit: "make-group", menu, number, label }),
    );
  }

  /** What follows the pages is moved with its page, or its order is written out: the person says which. */
  private askAuto(entry: HTMLElement, way: string): void {
    const page = () => this.screen.acts.move(entry.dataset.page ?? "", way);
    this.screen.dispatch("ask-auto", { page, write: () => this.do(way, entry) });
  }
}
