// The Header workspace: settings are tried as they are typed, the page beside is really scrolled, and every number comes
// from the server. A mark on the elevation and the frame follow one another.
import type { HeaderMoment, HeaderState, TriedHeader } from "../answers.ts";
import { ask, pageState, questions } from "../shared/asking.ts";
import { Component } from "../shared/component.ts";
import { all, around, byId, isForBrowser, made, one, put } from "../shared/elements.ts";
import { fieldsOf } from "../shared/fields.ts";
import { show } from "../shared/messages.ts";
import { showHeld } from "./held.ts";
import { type At, PageBeside, type Point } from "./page.ts";

const MOST = 4000; // points of a way or a trace
const PAUSE = 200; // ms

type Sizes = Pick<At, "page" | "window" | "row" | "reach">;
type Refs = {
  ground: HTMLElement;
  filler: HTMLInputElement;
  depth: HTMLInputElement;
  depthText: HTMLElement;
  record: HTMLButtonElement;
  replay: HTMLButtonElement;
  elevation: HTMLElement;
  facts: HTMLElement;
  moment: HTMLElement;
  problem: HTMLElement;
  notice: HTMLElement;
};

export class HeaderWorkspace extends Component<Refs> {
  askedToLook = questions();
  state: HeaderState | null = null;
  beside: PageBeside | null = null;
  path = [0];
  trace: Point[] | string | null = null;
  recording: Point[] | null = null;
  began = 0;
  sizes: Sizes | null = null;
  real: At | null = null;
  now: HeaderMoment | null = null;
  known: string | null = null;
  refused = false;
  wanted: string | null = null;
  asking = false;
  again = false;
  waits: ReturnType<typeof setTimeout> | undefined = undefined;

  init(): void {
    const { ground, filler, depth, elevation } = this.$refs;
    if (!ground) return;
    this.state = pageState<HeaderState>();
    this.beside = new PageBeside(
      ground,
      () => this.state?.window ?? [0, 0],
      () => ({ depth: this.depth }),
      (at, fresh) => this.came(at, fresh),
    );
    filler.addEventListener("change", () => {
      this.sizes = null;
      this.mount();
    });
    this.mount();
    this.refused = !this.$refs.problem.hidden;
    document.addEventListener("stayed", () => {
      this.refused = !this.$refs.problem.hidden;
      this.resume();
    });
    this.$root.addEventListener("input", (event) => {
      if (!around(event, "#own")) return;
      this.refused = false;
      this.later();
    });
    this.$root.addEventListener("reset", () => setTimeout(() => this.look()));
    this.$root.addEventListener("click", (event) => {
      if (around(event, "#own")) this.begin(event);
      this.follow(event);
    });
    depth.addEventListener("input", () => this.scrollTo(Number(depth.value)));
    this.$refs.record.addEventListener("click", () => this.record());
    this.$refs.replay.addEventListener("click", () => this.play(this.trace));
    elevation.addEventListener("pointerdown", (event) => this.drag(event));
    elevation.addEventListener("pointermove", (event) => {
      if (event.buttons) this.drag(event);
    });
    document.addEventListener("keydown", (event) => this.pressed(event));
    const wanted = new URL(location.href).searchParams.get("trace");
    this.wanted = wanted && document.querySelector(`[data-trace="${CSS.escape(wanted)}"]`) ? wanted : null;
  }
  /** What was saved is here again, without leaving: the page beside is another preview. */
  resume(): void {
    this.state = pageState<HeaderState>();
    this.known = this.sizes = null;
    this.beside?.leave();
    this.mount();
  }

  get form(): HTMLFormElement {
    return byId<HTMLFormElement>("own");
  }
  /** How far the page is scrolled, px. */
  get depth(): number {
    return this.path.at(-1) ?? 0;
  }

  // The page beside

  /** The page, in its own words or with a text that fills it, so that it can be scrolled. */
  address(): string {
    return `${this.state?.root}${this.$refs.filler.checked ? ".0f" : ""}${this.state?.path}`;
  }
  mount(): void {
    this.beside?.mount(this.address());
  }
  came(at: At, fresh: boolean): void {
    const known = this.sizes;
    this.sizes = { page: at.page, window: at.window, row: at.row, reach: at.reach };
    if (fresh || !known) {
      this.beside?.tellAgain();
      this.look();
      if (this.wanted) this.take(this.wanted);
      this.wanted = null;
      this.ask();
    }
    if (this.recording) this.recording.push([Math.round(at.time - this.began), at.depth]);
    this.real = at;
    if (this.depth !== at.depth) this.go(at.depth);
    else this.agree();
  }

  // Settings

  fields(): Record<string, string> {
    const own = fieldsOf(this.form).filter((field) => field.id.startsWith("own-"));
    return Object.fromEntries(own.map((field) => [field.name, field.value]));
  }
  later(): void {
    clearTimeout(this.waits);
    this.waits = setTimeout(() => this.look(), PAUSE);
  }
  /** A starting point fills the form; it is written only when the form is. */
  begin(event: Event): void {
    const button = around<HTMLButtonElement>(event, "button[name=start]");
    if (!button?.value) return;
    event.preventDefault();
    for (const [name, value] of Object.entries(this.state?.starts[button.value] ?? {}))
      byId<HTMLInputElement>(`own-${name}`).value = value;
    this.say(`${button.textContent}: ${button.title} It is tried here, and not written yet.`);
    this.look();
  }
  asked(): object {
    return { token: this.state?.token, ...this.state?.query, sizes: this.sizes };
  }
  async look(): Promise<TriedHeader | null> {
    clearTimeout(this.waits); // it looks now
    const isLast = this.askedToLook();
    const { ok, data } = await ask<TriedHeader>("POST", `${location.pathname}/look`, {
      ...this.asked(),
      form: this.fields(),
      trace: this.trace,
    });
    if (!isLast()) return null;
    const message = data.message ?? "Basilica cannot be reached. What you typed is still here.";
    // Why a save was refused stays until something is typed.
    if (message || !this.refused) show(this.$refs.problem, message);
    if (!ok) return null;
    put(this.$refs.elevation, data.elevation);
    put(this.$refs.facts, data.facts);
    showHeld(data.fields);
    const { most } = one(this.$refs.elevation, ".elevation:last-child").dataset;
    this.$refs.depth.max = String(Math.max(Number(most), Math.max(...this.path)));
    const key = JSON.stringify([this.fields(), data.message]);
    if (this.known !== null && this.known !== key) this.beside?.load(this.address());
    this.known = key;
    this.mark();
    return data;
  }
  // The mark, and where the header is there

  scrollTo(depth: number): void {
    this.beside?.tell({ depth });
    this.go(depth);
  }
  async go(depth: number): Promise<void> {
    this.path.push(depth);
    if (this.path.length > MOST) this.path.splice(0, this.path.length - MOST);
    this.mark();
    await this.ask();
  }
  async ask(): Promise<void> {
    if (this.asking) {
      this.again = true;
      return;
    }
    do {
      this.again = false;
      this.asking = true;
      const asked = { ...this.asked(), path: this.path };
      const { ok, data } = await ask<HeaderMoment>("POST", `${location.pathname}/moment`, asked);
      this.asking = false;
      if (ok) {
        put(this.$refs.moment, data.shown);
        this.now = data;
        this.mark();
        this.agree();
      }
    } while (this.again);
  }
  mark(): void {
    for (const figure of all(this.$refs.elevation, ".elevation")) {
      const { left, most, scale } = figure.dataset;
      const x = Number(left) + Math.min(this.depth, Number(most)) * Number(scale);
      for (const end of ["x1", "x2"]) one<SVGElement>(figure, ".mark").setAttribute(end, String(x));
    }
    this.$refs.depth.value = String(this.depth);
    this.$refs.depthText.textContent = `${Math.round(this.depth)} px`;
    for (const row of all(this.$refs.facts, ".machine tr[data-state]"))
      row.classList.toggle("live", row.dataset.state === this.now?.state);
  }
  /** Whether the page in the frame shows what was worked out. */
  agree(): void {
    const { now, real } = this;
    if (!now || !real || this.asking || real.depth !== this.depth) return;
    const note = this.$refs.moment.querySelector("p");
    if (!note) return;
    let said = note.querySelector(".frame-says");
    if (!said) {
      said = made("span", "", "frame-says quiet");
      note.append(made("br"), said);
    }
    const same =
      now.state === real.state && Math.abs(now.top - real.top) <= 1 && Math.abs(now.height - real.height) <= 1;
    said.textContent = same
      ? "The page beside matches."
      : `The page beside shows ${real.state}, ${Math.round(real.height)} px high at ${Math.round(real.top)} px.`;
  }
  drag(event: PointerEvent): void {
    const figure = around(event, ".elevation");
    const drawing = figure?.querySelector("svg");
    if (!figure || !drawing || around(event, ".strip")) return;
    const box = drawing.getBoundingClientRect();
    const x = ((event.clientX - box.left) / box.width) * drawing.viewBox.baseVal.width;
    const { left, most, scale } = figure.dataset;
    const depth = Math.round((x - Number(left)) / Number(scale));
    this.scrollTo(Math.max(0, Math.min(depth, Number(most))));
    event.preventDefault();
  }

  // Traces

  follow(event: MouseEvent): void {
    const { trace } = around(event, "[data-trace]")?.dataset ?? {};
    if (trace === undefined || isForBrowser(event)) return;
    event.preventDefault();
    this.take(trace);
  }
  async take(trace: string): Promise<void> {
    this.trace = trace;
    const data = await this.look();
    if (data?.trace.length) this.play(data.trace);
  }
  play(trace: Point[] | string | null): void {
    if (!trace?.length || typeof trace === "string") return;
    this.trace = trace;
    this.$refs.replay.disabled = false;
    this.path = [0];
    this.beside?.tell({ play: trace });
  }
  record(): void {
    const { recording } = this;
    this.$refs.record.setAttribute("aria-pressed", String(!recording));
    this.$refs.record.textContent = recording ? "Record" : "End the recording";
    if (!recording) {
      this.scrollTo(0);
      this.path = [0];
      this.began = this.real?.time ?? 0;
      this.recording = [[0, 0]];
      return this.say("Scroll the page below. What you do is drawn when you end the recording.");
    }
    const trace = recording.filter(([time], at, points) => !at || time >= points[at - 1][0]).slice(-MOST);
    this.recording = null;
    if (trace.length < 3) return this.say("Nothing was scrolled, so there is no trace.");
    this.say(`Recorded ${trace.length} points. Change a setting, and the same trace is drawn against it.`);
    this.trace = trace;
    this.$refs.replay.disabled = false;
    this.look();
  }
  say(text: string): void {
    show(this.$refs.notice, text);
  }
  pressed(event: KeyboardEvent): void {
    if (event.defaultPrevented || event.ctrlKey || event.metaKey || event.altKey) return;
    if (around(event, "input:not([type=range]), select, textarea, dialog")) return;
    if (event.key === "r") this.record();
  }
}
