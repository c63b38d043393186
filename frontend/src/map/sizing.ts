// The plan as large as one wants it: folds, size, and the whole of it in small.
import { piece, questions } from "../shared/asking.ts";
import { all, around, put } from "../shared/elements.ts";
import type { MapScreen } from "./screen.ts";

const SIZES = [0.2, 3]; // the smallest and the largest
const FIRST_WIDTH = 640; // px, that the plan is drawn for when the page is made
const STEP = 1.1; // of the wheel
const PAUSE = 150; // ms after the pane was made wider

/** How the whole is drawn in small: what is drawn in which colour. */
const IN_SMALL = [
  [".cell > rect", "bar"],
  [".node > rect", "edge"],
  [".node.here > rect", "gold"],
] as const;

export class PlanSize {
  private readonly askedForDrawing = questions();
  private scale = 1;
  private small = 1;
  private drawnFor = FIRST_WIDTH;

  constructor(private readonly screen: MapScreen) {}

  listen(): void {
    const { plan: ground, overview } = this.screen.refs;
    ground.addEventListener("pointerdown", (event) => this.beginPan(event));
    ground.addEventListener("scroll", () => this.overlook(), { passive: true });
    ground.addEventListener("wheel", (event) => this.wheel(event), { passive: false });
    overview.addEventListener("pointerdown", (event) => this.panTo(event));
    let wait: ReturnType<typeof setTimeout> | undefined;
    new ResizeObserver(() => {
      clearTimeout(wait);
      wait = setTimeout(() => this.redrawForWidth(), PAUSE);
    }).observe(ground);
  }

  private get svg(): SVGSVGElement | null {
    return this.screen.refs.plan.querySelector("svg");
  }

  /** A drawing replaces the last one; what had the focus has it still. */
  draw(html: string): void {
    this.askedForDrawing(); // one that was asked for before is older
    const { plan } = this.screen.refs;
    const active = document.activeElement;
    const had = plan.contains(active) ? active?.closest<SVGElement>(".node, .cell") : null;
    const title = titleOf(had);
    put(plan, html);
    this.sized();
    this.screen.plan.mark();
    this.screen.plan.decorate();
    if (had?.matches(".node")) this.screen.plan.node(had.dataset.key)?.focus({ preventScroll: true });
    else if (had)
      all<SVGElement>(plan, ".cell")
        .find((cell) => titleOf(cell) === title)
        ?.focus();
  }
  async redraw(): Promise<void> {
    const query = new URLSearchParams(this.screen.plan.asked());
    const isLast = this.askedForDrawing();
    const html = await piece(`${this.screen.base}/drawing?${query}`);
    if (html !== null && isLast()) this.draw(html);
  }
  async redrawForWidth(): Promise<void> {
    const width = this.screen.refs.plan.clientWidth;
    if (!width || Math.abs(width - this.drawnFor) < 9) return this.overlook();
    this.drawnFor = width;
    await this.redraw();
  }
  fold(key: string): void {
    const { turned } = this.screen.plan;
    if (!turned.delete(key)) turned.add(key);
    this.redraw().then(() => this.screen.plan.node(key)?.focus());
  }

  zoomBy(factor: number): void {
    this.scale = Math.min(SIZES[1], Math.max(SIZES[0], this.scale * factor));
    this.sized();
    const chosen = this.screen.plan.node(this.screen.chosen);
    if (chosen) this.screen.plan.keepInView(chosen);
  }
  /** The wheel with Ctrl changes the size. */
  private wheel(event: WheelEvent): void {
    if (!event.ctrlKey) return;
    event.preventDefault();
    this.zoomBy(event.deltaY < 0 ? STEP : 1 / STEP);
  }
  fit(): void {
    const size = this.svg?.viewBox.baseVal;
    if (!size) return;
    const { clientWidth, clientHeight } = this.screen.refs.plan;
    const whole = Math.min(clientWidth / size.width, clientHeight / size.height);
    this.scale = Math.abs(this.scale - whole) < 0.01 ? 1 : Math.min(1, Math.max(SIZES[0], whole));
    this.sized();
  }
  private sized(): void {
    const { svg } = this;
    if (!svg) return;
    const { width, height } = svg.viewBox.baseVal;
    svg.setAttribute("width", String(width * this.scale));
    svg.setAttribute("height", String(height * this.scale));
    this.screen.refs.scale.textContent = `${Math.round(this.scale * 100)}%`;
    this.overlook();
  }

  /** The whole plan in small, with what is in view, where not all of it is. */
  private overlook(): void {
    const { overview: canvas, plan } = this.screen.refs;
    const { clientWidth, clientHeight, scrollLeft, scrollTop } = plan;
    const { svg } = this;
    const size = svg?.viewBox.baseVal;
    const larger = size && (size.width * this.scale > clientWidth + 2 || size.height * this.scale > clientHeight + 2);
    canvas.hidden = !larger;
    const paint = canvas.getContext("2d");
    if (!svg || !larger || !paint) return;
    const small = Math.min(canvas.width / size.width, canvas.height / size.height);
    const colours = getComputedStyle(document.documentElement);
    const colour = (name: string) => colours.getPropertyValue(`--color-${name}`);
    paint.clearRect(0, 0, canvas.width, canvas.height);
    for (const [selector, name] of IN_SMALL) {
      paint.fillStyle = colour(name);
      for (const { x, y, width, height } of all<SVGRectElement>(svg, selector)) {
        const [left, top, w, h] = [x, y, width, height].map((length) => length.baseVal.value * small);
        paint.fillRect(left, top, Math.max(w, 1), Math.max(h, 1));
      }
    }
    paint.strokeStyle = colour("lapis");
    paint.lineWidth = 1.5;
    this.small = small / this.scale;
    const seen = [scrollLeft, scrollTop, clientWidth, clientHeight].map((length) => length * this.small);
    paint.strokeRect(seen[0] + 1, seen[1] + 1, seen[2] - 2, seen[3] - 2);
  }
  private panTo(event: PointerEvent): void {
    const { overview, plan } = this.screen.refs;
    const box = overview.getBoundingClientRect();
    plan.scrollTo(
      (event.clientX - box.left) / this.small - plan.clientWidth / 2,
      (event.clientY - box.top) / this.small - plan.clientHeight / 2,
    );
  }
  /** The middle button, or the ground, drags the view. */
  private beginPan(event: PointerEvent): void {
    if (around(event, "a") && event.button !== 1) return;
    if (event.button !== 0 && event.button !== 1) return;
    const ground = this.screen.refs.plan;
    const [x, y] = [event.clientX + ground.scrollLeft, event.clientY + ground.scrollTop];
    const moving = (to: PointerEvent) => ground.scrollTo(x - to.clientX, y - to.clientY);
    const end = () => {
      removeEventListener("pointermove", moving);
      removeEventListener("pointerup", end);
    };
    addEventListener("pointermove", moving);
    addEventListener("pointerup", end);
    if (event.button === 1) event.preventDefault();
  }
}

const titleOf = (element: Element | null | undefined): string => element?.querySelector("title")?.textContent ?? "";
