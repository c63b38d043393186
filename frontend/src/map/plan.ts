// The plan: choosing, walking, and the marks of what changed.
import { all, around, isForBrowser, one } from "../shared/elements.ts";
import { rememberPage } from "../shared/remember.ts";
import type { Desk } from "./desk.ts";

const SVG = "http://www.w3.org/2000/svg";
/** What an arrow with Alt does to a page or an entry of a list, and to an entry on the plan's bar. */
const WAYS: Record<string, string> = { up: "up", down: "down", left: "out", right: "in" };
const WAYS_ON_THE_BAR: Record<string, string> = { left: "up", right: "down", up: "out", down: "in" };

export class Plan {
  /** Keys of the pages whose folds were turned. */
  readonly turned = new Set<string>();

  constructor(private readonly desk: Desk) {}

  /** What the server needs to draw: how wide, what is chosen, which folds were turned. */
  asked(): Record<string, string> {
    const { plan } = this.desk.refs;
    return { width: String(plan.clientWidth), chosen: this.desk.chosen ?? "", turned: [...this.turned].join(" ") };
  }

  // Choosing

  choose(key: string): void {
    const { desk } = this;
    if (key === desk.chosen) return;
    desk.chosen = key;
    if (!this.node(key) && desk.facts.pages.some((page) => page.key === key)) desk.size.redraw();
    else this.mark();
    desk.side.refresh();
  }
  nodes(): SVGElement[] {
    return all<SVGElement>(this.desk.refs.plan, "a.node");
  }
  node(key: string | null | undefined): SVGElement | undefined {
    return this.nodes().find((node) => node.dataset.key === key);
  }
  focusNode(): void {
    this.node(this.desk.chosen)?.focus({ preventScroll: true });
  }

  /** Gold for the chosen page, for those above it, and for the entry that is current on it. */
  mark(): void {
    const { desk } = this;
    const ground = desk.refs.plan;
    const nodes = new Map(this.nodes().map((node) => [node.dataset.key, node]));
    for (const lit of all(ground, ".here, .way-here")) lit.classList.remove("here", "way-here");
    const chosen = desk.chosen === null ? undefined : nodes.get(desk.chosen);
    const reached = chosen ?? nodes.values().next().value;
    for (const node of nodes.values()) {
      node.removeAttribute("aria-current");
      // Tab leads to the chosen page alone; arrows lead on from there.
      node.setAttribute("tabindex", node === reached ? "0" : "-1");
    }
    for (const [index, cell] of all(ground, ".cell").entries()) cell.setAttribute("tabindex", index ? "-1" : "0");
    if (!chosen || desk.chosen === null) return;
    chosen.classList.add("here");
    chosen.setAttribute("aria-current", "true");
    this.stem(desk.chosen)?.classList.add("way-here");
    for (let up = nodes.get(chosen.dataset.parent); up; up = nodes.get(up.dataset.parent)) {
      up.classList.add("way-here");
      this.stem(up.dataset.key)?.classList.add("way-here");
    }
    const { lights } = chosen.dataset;
    if (lights) ground.querySelector(`.cell[data-number="${lights}"]`)?.classList.add("here");
    for (const tie of all<SVGElement>(ground, ".tie"))
      if (tie.dataset.to === desk.chosen) tie.classList.add("way-here");
    this.keepInView(chosen);
    rememberPage(desk.chosen);
    this.markEntries();
  }
  /** Scroll the plan, and nothing around it, until a page is in view. */
  keepInView(node: SVGElement): void {
    const ground = this.desk.refs.plan;
    const [box, view] = [one<SVGElement>(node, "rect").getBoundingClientRect(), ground.getBoundingClientRect()];
    const by = (from: number, to: number, start: number, end: number) =>
      from < start ? from - start : to > end ? to - end : 0;
    ground.scrollBy(
      by(box.left - 8, box.right + 8, view.left, view.left + ground.clientWidth),
      by(box.top - 8, box.bottom + 8, view.top, view.top + ground.clientHeight),
    );
  }
  /** In the lists of menus, the entries of the chosen page are where one is. */
  markEntries(): void {
    for (const entry of all(this.desk.refs.menuLists, ".entry"))
      entry.classList.toggle("here", entry.dataset.page === this.desk.chosen);
  }
  private stem(key: string | undefined): SVGElement | undefined {
    return all<SVGElement>(this.desk.refs.plan, ".stem").find((stem) => stem.dataset.of === key);
  }

  pick(event: MouseEvent): void {
    const { desk } = this;
    if (desk.dragging.dragged) return event.preventDefault();
    const link = around<HTMLElement>(event, "[data-key], [data-choose], [data-page], .cell, .entry");
    if (!link || isForBrowser(event)) return;
    event.preventDefault();
    desk.entries.remember(link);
    const key = link.dataset.key ?? link.dataset.choose ?? link.dataset.page;
    if (!key) return;
    this.choose(key);
    desk.code.show(key);
  }

  // Keys

  /** Keys on the plan and in the lists of menus. */
  pressed(event: KeyboardEvent): void {
    const node = around<SVGElement>(event, "a.node");
    const entry = around<HTMLElement>(event, ".cell, .entry");
    if ((!node && !entry) || event.ctrlKey || event.metaKey) return;
    if (this.act(event, node, entry)) event.preventDefault();
  }
  /** Do what a key stands for; false where it stands for nothing here. */
  private act(event: KeyboardEvent, node: SVGElement | null, entry: HTMLElement | null): boolean {
    const { desk } = this;
    const { key } = event;
    const arrow = /^Arrow/.test(key) ? key.slice(5).toLowerCase() : "";
    if (arrow && event.altKey) {
      const way = entry?.matches(".cell") ? WAYS_ON_THE_BAR[arrow] : WAYS[arrow];
      desk.acts.do(entry ? `entry-${way}` : way);
    } else if (event.altKey) return false;
    else if (arrow && node) return this.walk(node, arrow);
    else if (arrow && entry) return this.walkEntries(entry, arrow);
    else if (key === "F2") desk.acts.do(node ? "name" : "entry-edit");
    else if (key === "n" || key === "N") desk.acts.do(event.shiftKey ? "under" : "after");
    else if (key === "Delete") desk.acts.do(node ? "delete" : "entry-take-out");
    else if (key === "g" && entry) desk.acts.do("entry-group");
    else if (key === "m" && node) desk.acts.do("menu");
    else if (key === "b" && node) desk.refs.plan.querySelector<SVGElement>(".cell")?.focus();
    else if (key === " " && node) desk.size.fold(node.dataset.key ?? "");
    else if (key === " " || key === "Enter")
      around(event, "a")?.dispatchEvent(new MouseEvent("click", { bubbles: true, cancelable: true }));
    else if (key === "+" || key === "=") desk.size.zoomBy(1.25);
    else if (key === "-") desk.size.zoomBy(1 / 1.25);
    else if (key === "f") desk.size.fit();
    else return false;
    return true;
  }
  private walk(node: SVGElement, arrow: string): boolean {
    const nodes = this.nodes();
    const at = nodes.indexOf(node);
    const ways: Record<string, () => SVGElement | undefined> = {
      down: () => nodes[at + 1],
      up: () => nodes[at - 1],
      left: () => nodes.find((other) => other.dataset.key === node.dataset.parent),
      right: () => nodes.find((other) => other.dataset.parent === node.dataset.key),
    };
    const next = ways[arrow]();
    if (!next?.dataset.key) return false;
    next.focus();
    this.choose(next.dataset.key);
    this.desk.code.show(next.dataset.key);
    return true;
  }
  private walkEntries(entry: HTMLElement, arrow: string): boolean {
    const { plan, menuLists } = this.desk.refs;
    const onBar = entry.matches(".cell");
    if (onBar && arrow === "down") {
      this.focusNode();
      return true;
    }
    const entries = onBar ? all(plan, ".cell") : all(menuLists, ".entry");
    const next = entries[entries.indexOf(entry) + (arrow === "left" || arrow === "up" ? -1 : 1)];
    if (!next) return false;
    for (const other of entries) other.setAttribute("tabindex", other === next ? "0" : "-1");
    next.focus();
    this.desk.entries.remember(next);
    return true;
  }

  // What changed since the latest version

  /** Pages that are new, moved or named otherwise have a flag with the word. */
  decorate(): void {
    for (const old of all(this.desk.refs.plan, ".flag")) old.remove();
    for (const node of this.nodes()) {
      const word = this.desk.standing.marks[node.dataset.key ?? ""];
      if (word) node.append(flag(one<SVGRectElement>(node, "rect"), word));
    }
  }
}

/** A flag with a word at the upper right of a page. */
function flag(rect: SVGRectElement, word: string): SVGElement {
  const [x, y, width] = [rect.x.baseVal.value, rect.y.baseVal.value, rect.width.baseVal.value];
  const room = word.length * 6 + 12;
  const group = document.createElementNS(SVG, "g");
  group.setAttribute("class", `flag is-${word}`);
  const shape = document.createElementNS(SVG, "path");
  shape.setAttribute("d", `M${x + width - room} ${y - 5}h${room}v12h-${room}l4-6z`);
  const text = document.createElementNS(SVG, "text");
  text.setAttribute("x", String(x + width - room + 6));
  text.setAttribute("y", String(y + 4.5));
  text.textContent = word;
  group.append(shape, text);
  return group;
}
