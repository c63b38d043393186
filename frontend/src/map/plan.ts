// The plan: choosing, walking, and the marks of what changed.
import { all, around, isForBrowser, one } from "../shared/elements.ts";
import { rememberPage } from "../shared/remember.ts";
import type { MapScreen } from "./screen.ts";

const SVG = "http://www.w3.org/2000/svg";
/** What an arrow with Alt does to a page or an entry of a list, and to an entry on the plan's bar. */
const WAYS: Record<string, string> = { up: "up", down: "down", left: "out", right: "in" };
const WAYS_ON_THE_BAR: Record<string, string> = { left: "up", right: "down", up: "out", down: "in" };

export class Plan {
  /** Keys of the pages whose folds were turned. */
  readonly turned = new Set<string>();

  constructor(private readonly screen: MapScreen) {}

  /** What the server needs to draw: how wide, what is chosen, which folds were turned. */
  asked(): Record<string, string> {
    const { plan } = this.screen.refs;
    return { width: String(plan.clientWidth), chosen: this.screen.chosen ?? "", turned: [...this.turned].join(" ") };
  }

  // Choosing

  choose(key: string): void {
    const { screen } = this;
    if (key === screen.chosen) return;
    screen.chosen = key;
    if (!this.node(key) && screen.facts.pages.some((page) => page.key === key)) screen.size.redraw();
    else this.mark();
    screen.side.refresh();
  }
  nodes(): SVGElement[] {
    return all<SVGElement>(this.screen.refs.plan, "a.node");
  }
  node(key: string | null | undefined): SVGElement | undefined {
    return this.nodes().find((node) => node.dataset.key === key);
  }
  focusNode(): void {
    this.node(this.screen.chosen)?.focus({ preventScroll: true });
  }

  /** Gold for the chosen page, for those above it, and for the entry that is current on it. */
  mark(): void {
    const { screen } = this;
    const ground = screen.refs.plan;
    const nodes = new Map(this.nodes().map((node) => [node.dataset.key, node]));
    for (const lit of all(ground, ".here, .way-here")) lit.classList.remove("here", "way-here");
    const chosen = screen.chosen === null ? undefined : nodes.get(screen.chosen);
    const reached = chosen ?? nodes.values().next().value;
    for (const node of nodes.values()) {
      node.removeAttribute("aria-current");
      // Tab leads to the chosen page alone; arrows lead on from there.
      node.setAttribute("tabindex", node === reached ? "0" : "-1");
    }
    for (const [index, cell] of all(ground, ".cell").entries()) cell.setAttribute("tabindex", index ? "-1" : "0");
    if (!chosen || screen.chosen === null) return;
    chosen.classList.add("here");
    chosen.setAttribute("aria-current", "true");
    this.stem(screen.chosen)?.classList.add("way-here");
    for (let up = nodes.get(chosen.dataset.parent); up; up = nodes.get(up.dataset.parent)) {
      up.classList.add("way-here");
      this.stem(up.dataset.key)?.classList.add("way-here");
    }
    const { lights } = chosen.dataset;
    if (lights) ground.querySelector(`.cell[data-number="${lights}"]`)?.classList.add("here");
    for (const tie of all<SVGElement>(ground, ".tie"))
      if (tie.dataset.to === screen.chosen) tie.classList.add("way-here");
    this.keepInView(chosen);
    rememberPage(screen.chosen);
    this.markEntries();
  }
  /** Scroll the plan, and nothing around it, until a page is in view. */
  keepInView(node: SVGElement): void {
    const ground = this.screen.refs.plan;
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
    for (const entry of all(this.screen.refs.menuLists, ".entry"))
      entry.classList.toggle("here", entry.dataset.page === this.screen.chosen);
  }
  private stem(key: string | undefined): SVGElement | undefined {
    return all<SVGElement>(this.screen.refs.plan, ".stem").find((stem) => stem.dataset.of === key);
  }

  pick(event: MouseEvent): void {
    const { screen } = this;
    if (screen.dragging.dragged) return event.preventDefault();
    const link = around<HTMLElement>(event, "[data-key], [data-choose], [data-page], .cell, .entry");
    if (!link || isForBrowser(event)) return;
    event.preventDefault();
    screen.entries.remember(link);
    const key = link.dataset.key ?? link.dataset.choose ?? link.dataset.page;
    if (!key) return;
    this.choose(key);
    screen.code.show(key);
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
    const { screen } = this;
    const { key } = event;
    const arrow = /^Arrow/.test(key) ? key.slice(5).toLowerCase() : "";
    if (arrow && event.altKey) {
      const way = entry?.matches(".cell") ? WAYS_ON_THE_BAR[arrow] : WAYS[arrow];
      screen.acts.do(entry ? `entry-${way}` : way);
    } else if (event.altKey) return false;
    else if (arrow && node) return this.walk(node, arrow);
    else if (arrow && entry) return this.walkEntries(entry, arrow);
    else if (key === "F2") screen.acts.do(node ? "name" : "entry-edit");
    else if (key === "n" || key === "N") screen.acts.do(event.shiftKey ? "under" : "after");
    else if (key === "Delete") screen.acts.do(node ? "delete" : "entry-take-out");
    else if (key === "g" && entry) screen.acts.do("entry-group");
    else if (key === "m" && node) screen.acts.do("menu");
    else if (key === "b" && node) screen.refs.plan.querySelector<SVGElement>(".cell")?.focus();
    else if (key === " " && node) screen.size.fold(node.dataset.key ?? "");
    else if (key === " " || key === "Enter")
      around(event, "a")?.dispatchEvent(new MouseEvent("click", { bubbles: true, cancelable: true }));
    else if (key === "+" || key === "=") screen.size.zoomBy(1.25);
    else if (key === "-") screen.size.zoomBy(1 / 1.25);
    else if (key === "f") screen.size.fit();
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
    this.screen.code.show(next.dataset.key);
    return true;
  }
  private walkEntries(entry: HTMLElement, arrow: string): boolean {
    const { plan, menuLists } = this.screen.refs;
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
    this.screen.entries.remember(next);
    return true;
  }

  // What changed since the latest version

  /** Pages that are new, moved or named otherwise have a flag with the word. */
  decorate(): void {
    for (const old of all(this.screen.refs.plan, ".flag")) old.remove();
    for (const node of this.nodes()) {
      const word = this.screen.siteStatus.marks[node.dataset.key ?? ""];
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
