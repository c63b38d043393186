// Acts on the chosen page, by a button or a key.
import type { CopiedContent } from "../answers.ts";
import { ask } from "../shared/asking.ts";
import type { MapScreen } from "./screen.ts";

const MOVES = ["up", "down", "out", "in"];
/** Acts on what is written of the chosen page itself. */
const OF_A_PAGE = ["name", "rename", "delete", "duplicate", ...MOVES];
/** Acts that ask for a name at once, since the next key is the name's. All else waits for the act before it: only then
    is it known what is chosen, and where that stands. */
const NAMING = ["after", "under", "name", "entry-group"];
const AT_ONCE = 1.25; // how much larger, or smaller

export class Acts {
  constructor(private readonly screen: MapScreen) {}

  /** Acts that need no page. */
  private readonly general: Record<string, () => unknown> = {
    undo: () => this.screen.undo(),
    redo: () => this.screen.editor.redo(),
    list: () => this.screen.dispatch("ask-list"),
    differences: () => this.screen.code.showDifferences(),
    "new-menu": () => this.screen.dispatch("ask-menu", { act: "new" }),
    duplicate: () => this.duplicate(),
    print: () => window.print(),
    smaller: () => this.screen.size.zoomBy(1 / AT_ONCE),
    larger: () => this.screen.size.zoomBy(AT_ONCE),
    fit: () => this.screen.size.fit(),
  };

  /** Why an act cannot be done to the chosen page, which is written in another file than the map; nothing if it can. */
  private cannotBeDone(name: string): string {
    const of = (key: string | null) => this.screen.facts.pages.find((page) => page.key === key);
    const page = of(this.screen.chosen);
    if (!page || page.cells?.includes(name)) return "";
    if (OF_A_PAGE.includes(name)) return page.elsewhere ?? "";
    if (name === "under") return page.elsewhere ?? page.below ?? "";
    if (name !== "after" || !page.elsewhere) return "";
    const parent = of(this.screen.edits.placeOf(page.key).parent);
    return parent?.below ?? parent?.elsewhere ?? "";
  }

  /** Do an act by its name. */
  async do(name: string): Promise<void> {
    const { screen } = this;
    const cannot = this.cannotBeDone(name);
    if (cannot) return this.refuse(cannot);
    if (this.general[name]) {
      this.general[name]();
      return;
    }
    if (!NAMING.includes(name)) await screen.edits.acted;
    const key = screen.chosen;
    if (name.startsWith("entry-")) return screen.entries.do(name.slice("entry-".length));
    if (!key || !screen.facts.good)
      return this.refuse("Fix the text first: the plan shows the last version without errors.");
    if (name === "after" || name === "under") screen.naming.newPage(key, name);
    else if (name === "name") screen.naming.rename(key);
    else if (name === "delete") screen.dispatch("ask-delete", { key });
    else if (name === "rename") screen.dispatch("ask-rename", { key });
    else if (name === "menu") this.toggleInMenu(key);
    else if (MOVES.includes(name)) this.move(key, name);
  }
  private refuse(why: string): void {
    this.screen.edits.tell(why, true);
  }

  private toggleInMenu(key: string): void {
    const number = this.screen.facts.pages.find((page) => page.key === key)?.main ?? null;
    if (number === null) this.put("main");
    else this.screen.edits.edit({ edit: "remove-from-menu", menu: "main", number });
  }

  move(key: string, way: string): void {
    const { edits } = this.screen;
    const { parent, among, index } = edits.placeOf(key);
    const to = (target: string | null, place: number) => {
      edits.edit({ edit: "move-page", key, parent: target, index: place });
    };
    if (way === "up") return index > 0 ? to(parent, index - 1) : this.refuse("It is the first there.");
    if (way === "down") return index < among.length - 1 ? to(parent, index + 1) : this.refuse("It is the last there.");
    if (way === "out") {
      if (parent === null) return this.refuse("It is at the top.");
      const above = edits.placeOf(parent);
      return to(above.parent, above.index + 1);
    }
    const before = among[index - 1];
    if (!before) return this.refuse("There is no page before it to go under.");
    to(before, edits.pagesUnder(before).length);
  }

  async put(menu: string): Promise<void> {
    const { edits } = this.screen;
    await edits.acted;
    const key = this.screen.chosen;
    if (key) await edits.edit({ edit: "add-to-menu", menu, key, parent: null, index: 999 });
  }
  async takeOut(menu: string): Promise<void> {
    const { edits, refs } = this.screen;
    await edits.acted;
    const own = refs.page.querySelector<HTMLElement>(`[data-take-out="${menu}"]`);
    if (own) await edits.edit({ edit: "remove-from-menu", menu, number: Number(own.dataset.number) });
  }

  /** The same page again beside it, with its content in every language. */
  private async duplicate(): Promise<void> {
    const { screen } = this;
    const key = screen.chosen;
    await screen.writing.contents.flush();
    if (!key || !(await screen.edits.edit({ edit: "duplicate-page", key }))) return;
    const asked = { key, to: screen.chosen };
    const { ok, data } = await ask<CopiedContent>("POST", `${screen.base}/copy-content`, asked);
    if (!ok) return this.refuse(data.message ?? "Basilica cannot be reached, so the content was not copied.");
    if (data.copied) screen.lookAgain();
  }
}
