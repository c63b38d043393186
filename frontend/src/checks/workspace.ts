// The Checks workspace: the mosaic, and what is behind a tile beside it.
import type { ChecksState, MosaicTiles } from "../answers.ts";
import { ask, pageState, piece } from "../shared/asking.ts";
import { Component } from "../shared/component.ts";
import { around, isForBrowser, put } from "../shared/elements.ts";
import { rememberPage } from "../shared/remember.ts";
import { HEAD, indentOf, LABEL, MosaicDrawing, STEP } from "./drawing.ts";
import { type MosaicPage, nested, pagesAbove } from "./page.ts";

const FOLDED_FROM = 150; // with more pages, sections are folded at first
const WALKING = 160; // ms that a tile is chosen by keys before what is behind it is loaded

type Filter = HTMLFormElement & { elements: { q: HTMLInputElement; findings: HTMLInputElement } };
type Refs = {
  table: HTMLElement;
  tiles: HTMLElement;
  canvas: HTMLCanvasElement;
  room: HTMLElement;
  filter: Filter;
  filterButton: HTMLElement;
  none: HTMLElement;
  status: HTMLElement;
  beside: HTMLElement;
};
type Chosen = { row: MosaicPage | null; column: number };
type Column = { name: string; short: string; title: string; isPart: boolean };

const clamp = (at: number, count: number): number => Math.max(0, Math.min(count - 1, at));

export class ChecksWorkspace extends Component<Refs> {
  readonly __v_skip = true; // pages are told apart by identity, which Alpine would change
  state = pageState<ChecksState>();
  columns: Column[] = [];
  meanings: Record<string, string> = {};
  pages: MosaicPage[] = [];
  shown: MosaicPage[] = [];
  place = new Map<MosaicPage, number>();
  folded = new Set<string>();
  at: Chosen = { row: null, column: -1 };
  findingsOnly = false;
  sought = "";
  drawing: MosaicDrawing | null = null;
  waiting: ReturnType<typeof setTimeout> | undefined = undefined;

  async init(): Promise<void> {
    this.$refs.beside.addEventListener("click", (event) => this.follow(event));
    addEventListener("message", (event) => this.mark(event));
    addEventListener("popstate", () => this.came());
    if (this.state.table) return;
    const { ok, data } = await ask<MosaicTiles>("GET", this.state.data);
    if (!ok) return; // the table stays
    this.columns = data.columns.map(([name, short, title, isPart]) => ({ name, short, title, isPart }));
    this.meanings = data.words;
    this.pages = nested(data);
    if (this.pages.length > FOLDED_FROM)
      this.folded = new Set(this.pages.filter((page) => page.under).map((page) => page.name));
    this.findingsOnly = this.state.findings_only;
    this.sought = this.state.words.toLowerCase();
    this.at = { row: this.named(this.state.page), column: this.columnOf(this.state.check) };
    if (this.at.row) this.unfold(this.at.row);
    this.$refs.table.hidden = true;
    this.$refs.tiles.hidden = false;
    this.$refs.filterButton.hidden = true;
    this.listen();
    this.list();
    if (this.at.row) this.show();
  }

  // What is in view

  columnOf(name: string | null): number {
    return this.columns.findIndex((column) => column.name === name);
  }
  named(name: string | null): MosaicPage | null {
    return this.pages.find((page) => page.name === name) ?? null;
  }
  unfold(page: MosaicPage): void {
    for (const up of pagesAbove(page)) this.folded.delete(up.name);
  }
  takes(page: MosaicPage): boolean {
    const off = /[bd]/.test(page.tiles);
    const fits = `${page.name} ${page.label}`.toLowerCase().includes(this.sought);
    return (!this.findingsOnly || off) && (!this.sought || fits);
  }
  get sifted(): boolean {
    return this.findingsOnly || this.sought !== "";
  }
  list(): void {
    const hidden = (page: MosaicPage) => [...pagesAbove(page)].some((up) => this.folded.has(up.name));
    this.shown = this.pages.filter((page) => (this.sifted ? this.takes(page) : !hidden(page)));
    this.place = new Map(this.shown.map((page, index) => [page, index]));
    this.$refs.none.hidden = this.shown.length > 0;
    this.$refs.none.textContent = this.sought ? "No page matches." : "No findings on any page.";
    this.$refs.room.style.height = `${HEAD + this.shown.length * STEP + 12}px`;
    this.$refs.room.style.width = `${LABEL + this.columns.length * STEP + 12}px`;
    this.drawing?.draw();
  }
  /** Where the chosen row is among those in view; -1 where it is not. */
  get line(): number {
    return (this.at.row && this.place.get(this.at.row)) ?? -1;
  }

  // Choosing

  listen(): void {
    const { tiles, canvas, filter } = this.$refs;
    const drawing = new MosaicDrawing(tiles, canvas, () => ({
      shown: this.shown,
      folded: this.folded,
      sifted: this.sifted,
      columns: this.columns,
      chosen: { ...this.at, line: this.line },
    }));
    this.drawing = drawing;
    tiles.addEventListener("scroll", () => drawing.draw(), { passive: true });
    new ResizeObserver(() => drawing.draw()).observe(tiles);
    document.fonts?.ready.then(() => drawing.draw());
    tiles.addEventListener("click", (event) => this.press(event));
    tiles.addEventListener("mousemove", (event) => this.over(event));
    tiles.addEventListener("keydown", (event) => this.key(event));
    filter.addEventListener("submit", (event) => event.preventDefault());
    filter.addEventListener("input", () => this.sift());
    document.addEventListener("found-page", (event) => this.choose({ row: this.named(event.detail), column: -1 }));
  }
  sift(): void {
    const { filter } = this.$refs;
    this.sought = filter.elements.q.value.trim().toLowerCase();
    this.findingsOnly = filter.elements.findings.checked;
    this.$refs.tiles.scrollTop = 0;
    this.list();
    this.address(false);
    this.$refs.status.textContent = `${this.shown.length.toLocaleString("en")} pages in view.`;
  }
  under(event: MouseEvent): Chosen & { x: number } {
    const { tiles } = this.$refs;
    const box = tiles.getBoundingClientRect();
    const [x, y] = [event.clientX - box.left, event.clientY - box.top];
    return {
      row: y < HEAD ? null : (this.shown[Math.floor((y - HEAD + tiles.scrollTop) / STEP)] ?? null),
      column: x < LABEL ? -1 : Math.floor((x - LABEL + tiles.scrollLeft) / STEP),
      x,
    };
  }
  over(event: MouseEvent): void {
    const { row, column } = this.under(event);
    this.$refs.tiles.title = row || column >= 0 ? this.said({ row, column }) : "";
  }
  said({ row, column }: Chosen): string {
    const title = this.columns[column]?.title;
    if (row && title) return `${row.label}: ${title}: ${this.meanings[row.tiles[column]]}`;
    return row?.label ?? title ?? "";
  }
  press(event: MouseEvent): void {
    const { row, column, x } = this.under(event);
    if (column >= this.columns.length || (!row && column < 0)) return;
    if (row?.under && column < 0 && x < indentOf(row, false) && !this.sifted) return this.fold(row);
    this.choose({ row, column });
  }
  fold(row: MosaicPage): void {
    if (!this.folded.delete(row.name)) this.folded.add(row.name);
    this.list();
  }
  key(event: KeyboardEvent): void {
    if (event.ctrlKey || event.metaKey || event.altKey) return;
    const { row, column } = this.at;
    const page = Math.max(1, Math.floor((this.$refs.tiles.clientHeight - HEAD) / STEP) - 1);
    const rows: Record<string, number> = { ArrowDown: 1, ArrowUp: -1, PageDown: page, PageUp: -page };
    const columns: Record<string, number> = { ArrowRight: 1, ArrowLeft: -1 };
    const { key } = event;
    const walk = (there: MosaicPage | undefined) => this.choose({ row: there ?? null, column }, true);
    if (rows[key]) walk(this.shown[clamp(this.line + rows[key], this.shown.length)]);
    else if (columns[key])
      this.choose({ row, column: Math.max(-1, Math.min(this.columns.length - 1, column + columns[key])) }, true);
    else if (key === "Home") walk(this.shown[0]);
    else if (key === "End") walk(this.shown.at(-1));
    else if (key === " " && row?.under) this.fold(row);
    else if (key === "Enter") this.$refs.beside.focus();
    else if (key.toLowerCase() === "j") this.jump(1);
    else if (key.toLowerCase() === "k") this.jump(-1);
    else if (key.toLowerCase() === "o") this.$refs.filter.elements.findings.click();
    else return;
    event.preventDefault();
  }
  /** To the next tile that is off, or the one before, as one reads. */
  jump(step: 1 | -1): void {
    const { row, column } = this.at;
    const wide = this.columns.length;
    const count = this.pages.length * wide;
    const start = step > 0 ? -1 : this.pages.length * wide;
    const from = row ? row.index * wide + Math.max(column, 0) : start;
    for (let at = from + step; at >= 0 && at < count; at += step) {
      const page = this.pages[Math.floor(at / wide)];
      if (!"bd".includes(page.tiles[at % wide])) continue;
      this.unfold(page);
      this.list();
      this.choose({ row: page, column: at % wide }, true);
      return;
    }
    this.$refs.status.textContent = "No further findings.";
  }
  choose(at: Chosen, walking = false): void {
    if (!at.row && at.column < 0) return;
    this.at = at;
    if (at.row && !this.place.has(at.row)) {
      this.unfold(at.row);
      this.list();
    }
    this.show();
    this.drawing?.draw();
    this.$refs.status.textContent = this.said(at);
    this.address(!walking);
    clearTimeout(this.waiting);
    this.waiting = setTimeout(() => this.load(), walking ? WALKING : 0);
  }
  /** Bring the chosen tile into view. */
  show(): void {
    const { tiles } = this.$refs;
    if (this.line < 0) return;
    const y = this.line * STEP;
    const room = tiles.clientHeight - HEAD - STEP;
    if (y < tiles.scrollTop) tiles.scrollTop = y;
    if (y > tiles.scrollTop + room) tiles.scrollTop = y - room;
    const x = Math.max(0, this.at.column) * STEP;
    const wide = tiles.clientWidth - LABEL - STEP;
    if (x < tiles.scrollLeft) tiles.scrollLeft = x;
    if (x > tiles.scrollLeft + wide) tiles.scrollLeft = x - wide;
  }

  // The address, and what is beside

  query(): URLSearchParams {
    const { row, column } = this.at;
    const known = {
      page: row?.name,
      check: this.columns[column]?.name,
      q: this.sought,
      findings: this.findingsOnly ? "yes" : "",
    };
    const said = Object.entries(known).filter((pair): pair is [string, string] => Boolean(pair[1]));
    return new URLSearchParams(said);
  }
  address(step: boolean): void {
    const there = new URL(location.href);
    there.search = String(this.query());
    history[step ? "pushState" : "replaceState"](null, "", there);
    if (this.at.row) rememberPage(this.at.row.name);
  }
  came(): void {
    const { searchParams } = new URL(location.href);
    if (!this.drawing) return location.reload();
    const row = this.named(searchParams.get("page"));
    this.at = { row, column: this.columnOf(searchParams.get("check")) };
    if (row) this.unfold(row);
    this.list();
    this.show();
    this.load();
  }
  async load(): Promise<void> {
    const query = this.query();
    const html = await piece(`${this.state.beside}?${query}`);
    if (String(query) !== String(this.query())) return;
    if (html === null) {
      this.$refs.status.textContent = "Basilica cannot be reached. Load this workspace again.";
      return;
    }
    put(this.$refs.beside, html);
    this.$refs.beside.scrollTop = 0;
  }
  /** A link beside the mosaic that chooses something on it. */
  follow(event: MouseEvent): void {
    const link = around<HTMLAnchorElement>(event, "a[data-page], a[data-check]");
    if (!link || !this.drawing || isForBrowser(event)) return;
    event.preventDefault();
    const { page, check } = link.dataset;
    const row = page === undefined ? this.at.row : this.named(page);
    const column = check === undefined ? this.at.column : this.columnOf(check);
    this.choose({ row, column });
    this.$refs.beside.focus();
  }
  /** The page in the frame is there: mark the place in it. */
  mark(event: MessageEvent): void {
    const frame = this.$refs.beside.querySelector("iframe");
    if (!frame || event.source !== frame.contentWindow || event.data?.basilica !== "preview" || !event.data.ready)
      return;
    const { spot, nth } = frame.dataset;
    if (spot) frame.contentWindow?.postMessage({ basilica: "workspace", spot: [spot, Number(nth)] }, "*");
  }
}
