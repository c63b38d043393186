// The page beside, in a frame: it is told how far to scroll, and says where its header is.
import { made } from "../shared/elements.ts";

const STATES = ["rest", "over", "small", "hidden"];
const NUMBERS = ["time", "depth", "page", "window", "row", "reach", "top", "height"] as const;

/** Where the page is: the time in ms, how far it is scrolled, and heights and places in px. */
export type At = Record<(typeof NUMBERS)[number], number> & { state: string };
/** A point of a trace: ms since its beginning, and how far the page is scrolled, px. */
export type Point = number[];
export type Told = { depth: number } | { play: Point[] };

const isAt = (at: unknown): at is At =>
  typeof at === "object" &&
  at !== null &&
  STATES.includes((at as At).state) &&
  NUMBERS.every((name) => Number.isFinite((at as At)[name]));

export class PageBeside {
  readonly __v_skip = true; // the frame is known by its identity
  frame: HTMLIFrameElement | null = null;
  /** What the page was told, and what it has done of it. */
  private turns = 0;
  private done = 0;
  /** What it was told last, until it is done. */
  private last: Told | null = null;
  private arrived = false;

  /**
   * `window` is the width and height of the page's own window, px; `again` says how far a page that has just come is to
   * be scrolled; `came` hears where the page is, and whether it has just come.
   */
  constructor(
    private readonly ground: HTMLElement,
    private readonly window: () => [number, number],
    private readonly again: () => Told,
    private readonly came: (at: At, fresh: boolean) => void,
  ) {
    new ResizeObserver(() => this.fit()).observe(ground);
    addEventListener("message", (event) => this.heard(event));
  }

  mount(address: string): void {
    this.turns += 1;
    const frame = made("iframe");
    frame.title = "The page, with this header";
    frame.setAttribute("sandbox", "allow-scripts");
    frame.src = address;
    // A page that is there is asked where it is; what it said before it was all there may have been lost.
    frame.addEventListener("load", () => {
      this.arrived = true;
      this.tellAgain();
    });
    this.frame = frame;
    this.ground.replaceChildren(frame);
    this.busy();
    this.fit();
  }
  /** Another preview is on its way: what the last one said of its coming does not count. */
  leave(): void {
    this.arrived = false;
  }
  load(address: string): void {
    this.turns += 1;
    this.busy();
    this.frame?.contentWindow?.location.replace(address);
  }
  fit(): void {
    if (!this.frame) return;
    const { clientWidth, clientHeight } = this.ground;
    const [width, height] = this.window();
    const scale = Math.min(1, clientWidth / width, clientHeight / height);
    Object.assign(this.frame.style, {
      width: `${width}px`,
      height: `${height}px`,
      transform: `scale(${scale})`,
      left: `${Math.max(0, (clientWidth - width * scale) / 2)}px`,
    });
  }
  tell(message: Told): void {
    this.turns += 1;
    this.busy();
    // What is kept may be watched by Alpine, which a message cannot carry: a plain copy is sent.
    const plain = JSON.parse(JSON.stringify(message)) as Told;
    this.last = plain;
    this.frame?.contentWindow?.postMessage({ basilica: "workspace", turn: this.turns, ...plain }, "*");
  }
  /** What a page that is gone was told and did not do; else how far this one is scrolled. */
  tellAgain(): void {
    this.tell(this.last && "play" in this.last ? this.last : this.again());
  }
  /** The page beside is loading, or has not done yet what it was told. */
  private busy(): void {
    this.ground.setAttribute("aria-busy", String(this.done !== this.turns));
  }
  private heard(event: MessageEvent): void {
    if (!this.frame || event.source !== this.frame.contentWindow || event.data?.basilica !== "preview") return;
    const { at, done, ready } = event.data as { at?: unknown; done?: unknown; ready?: unknown };
    // Each page says once that it is there. One that is on its way out may still send where it is: it is not that.
    if (ready === true) this.arrived = true;
    if (typeof done === "number" && Number.isInteger(done)) {
      this.done = done;
      if (done === this.turns) this.last = null;
      this.busy();
    }
    // What a page sends is looked at before it is used: numbers, and a state that there is.
    if (!isAt(at)) return;
    const fresh = this.arrived;
    this.arrived = false;
    this.came(at, fresh);
  }
}
