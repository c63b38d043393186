// Pages and entries dragged over the plan: a page moves in the tree, an entry on its bar.
import { around, made, one } from "../shared/elements.ts";
import type { MapScreen } from "./screen.ts";
import type { Edit } from "./store.ts";

const FAR = 5; // px that make a drag
const LINE = 4; // px, of the line that shows where something will be

type Side = "before" | "after" | "in";
type Drop = { act: Edit; box: DOMRect; side: Side; onBar: boolean };

export class Dragging {
  /** Whether what is pressed was dragged, so that letting go is no click. */
  dragged = false;

  constructor(private readonly screen: MapScreen) {}

  listen(): void {
    const ground = this.screen.refs.plan;
    ground.addEventListener("pointerdown", (event) => this.begin(event));
    ground.addEventListener("dragstart", (event) => event.preventDefault());
    ground.addEventListener("dblclick", (event) => {
      if (around(event, "a.node")) this.screen.acts.do("name");
    });
  }

  private begin(event: PointerEvent): void {
    const from = around<SVGElement>(event, "a.node, .cell");
    if (!from || event.button !== 0 || !this.screen.facts.good) return;
    this.dragged = false;
    const { clientX, clientY } = event;
    let drop: Drop | null = null;
    const moving = (to: PointerEvent) => {
      if (!this.dragged && Math.hypot(to.clientX - clientX, to.clientY - clientY) < FAR) return;
      this.dragged = true;
      to.preventDefault();
      drop = this.dropAt(from, to.clientX, to.clientY);
      this.show(drop);
    };
    const end = (to?: PointerEvent) => {
      removeEventListener("pointermove", moving);
      removeEventListener("pointerup", end);
      removeEventListener("pointercancel", end);
      removeEventListener("keydown", stop, true);
      this.show(null);
      if (this.dragged && drop && to?.type === "pointerup") this.screen.edits.edit(drop.act);
      setTimeout(() => {
        this.dragged = false;
      });
    };
    const stop = (key: KeyboardEvent) => {
      if (key.key !== "Escape") return;
      key.stopPropagation();
      drop = null;
      end();
    };
    addEventListener("pointermove", moving);
    addEventListener("pointerup", end);
    addEventListener("pointercancel", end);
    addEventListener("keydown", stop, true);
  }

  /** What dropping here would do, and where a line shows it. */
  private dropAt(from: SVGElement, x: number, y: number): Drop | null {
    const target = document.elementFromPoint(x, y)?.closest<SVGElement>("a.node, .cell");
    if (!target || target === from || !this.screen.refs.plan.contains(target)) return null;
    const box = one(target, "rect").getBoundingClientRect();
    const onBar = target.matches(".cell");
    const part = onBar ? (x - box.left) / box.width : (y - box.top) / box.height;
    const side = part < 0.3 ? "before" : part > 0.7 ? "after" : "in";
    const act = onBar ? dropOnBar(from, target, side) : this.dropOnPage(from, target, side);
    return act && { act, box, side, onBar };
  }
  private dropOnPage(from: SVGElement, target: SVGElement, side: Side): Edit | null {
    const { edits } = this.screen;
    const { key } = from.dataset;
    const onto = target.dataset.key;
    if (!key || !onto || onto === key || onto.startsWith(`${key}/`)) return null;
    if (side === "in") return { edit: "move-page", key, parent: onto, index: edits.pagesUnder(onto).length };
    const { parent, among } = edits.placeOf(onto);
    const others = among.filter((other) => other !== key);
    return { edit: "move-page", key, parent, index: others.indexOf(onto) + (side === "after" ? 1 : 0) };
  }

  private show(drop: Drop | null): void {
    const { planPane } = this.screen.refs;
    planPane.querySelector(".drop")?.remove();
    if (!drop) return;
    const { box, side, onBar } = drop;
    const origin = planPane.getBoundingClientRect();
    const place = { left: box.left - origin.left, top: box.top - origin.top, width: box.width, height: box.height };
    if (side !== "in" && onBar)
      Object.assign(place, { left: place.left + (side === "after" ? box.width : -LINE), width: LINE });
    if (side !== "in" && !onBar)
      Object.assign(place, { top: place.top + (side === "after" ? box.height : -LINE), height: LINE });
    const line = made("div", "", side === "in" ? "drop into" : "drop");
    for (const [name, value] of Object.entries(place)) line.style.setProperty(name, `${value}px`);
    planPane.append(line);
  }
}

function dropOnBar(from: SVGElement, target: SVGElement, side: Side): Edit {
  const into = side === "in";
  const parent = into ? Number(target.dataset.number) : null;
  const index = into ? 999 : Number(target.dataset.index) + (side === "after" ? 1 : 0);
  if (from.dataset.key) return { edit: "add-to-menu", menu: "main", key: from.dataset.key, parent, index };
  const leaves = !into && Number(from.dataset.index) < index; // its own place is gone once it moves
  const number = Number(from.dataset.number);
  return { edit: "move-entry", menu: "main", number, parent, index: leaves ? index - 1 : index };
}
