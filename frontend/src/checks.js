// @ts-check
// The Checks workspace: the mosaic drawn on a canvas, as much of it as is in view, and what is behind a tile beside it.
import { ask, pageState, piece, rememberPage } from "./common.js";
import { fitted, sign, TILE, tile } from "./tiles.js";

const STEP = TILE + 2; // px from one tile to the next
const HEAD = 132;
const LABEL = 158;
const FOLDED_FROM = 150; // with more pages, sections are folded at first

export const checksWorkspace = () => ({
  async init() {
    this.state = pageState();
    this.$refs.beside.addEventListener("click", (event) => this.follow(event));
    addEventListener("message", (event) => this.mark(event));
    addEventListener("popstate", () => this.came());
    if (this.state.table) return;
    const { ok, data } = await ask("GET", this.state.data);
    if (!ok) return; // the table stays
    Object.assign(this, data);
    this.pages = this.rows.map(([name, label, depth, tiles], index) => ({ name, label, depth, tiles, index }));
    this.nest();
    this.words_ = data.words;
    this.onlyOff = this.state.off;
    this.sought = this.state.words.toLowerCase();
    this.at = {
      row: this.pages.find((page) => page.name === this.state.page) ?? null,
      column: this.columnOf(this.state.check),
    };
    if (this.at.row) this.unfold(this.at.row);
    this.$refs.table.hidden = true;
    this.$refs.tiles.hidden = false;
    this.$refs.filterButton.hidden = true;
    this.listen();
    this.list();
    if (this.at.row) this.show();
  },

  // What is in view

  columnOf(name) {
    return this.columns.findIndex(([known]) => known === name);
  },
  /** Which pages are under which, and what each section says of all of them. */
  nest() {
    this.folded = new Set();
    const above = [];
    for (const page of this.pages) {
      while (above.length > page.depth) above.pop();
      page.above = above.at(-1) ?? null;
      page.under = 0;
      page.all = [...page.tiles];
      for (const one of above) one.under++;
      above[page.depth] = page;
    }
    const worst = (one, other) => (this.order.indexOf(one) > this.order.indexOf(other) ? one : other);
    for (const page of [...this.pages].reverse()) {
      const up = page.above;
      if (up) up.all = up.all.map((state, index) => worst(state, page.all[index]));
    }
    if (this.pages.length > FOLDED_FROM) {
      for (const page of this.pages) if (page.under) this.folded.add(page.name);
    }
  },
  unfold(page) {
    for (let up = page.above; up; up = up.above) this.folded.delete(up.name);
  },
  takes(page) {
    const off = /[bd]/.test(page.tiles);
    const named = `${page.name} ${page.label}`.toLowerCase().includes(this.sought);
    return (!this.onlyOff || off) && (!this.sought || named);
  },
  get sifted() {
    return this.onlyOff || this.sought !== "";
  },
  list() {
    const hidden = (page) => {
      for (let up = page.above; up; up = up.above) if (this.folded.has(up.name)) return true;
      return false;
    };
    this.shown = this.pages.filter((page) => (this.sifted ? this.takes(page) : !hidden(page)));
    this.place = new Map(this.shown.map((page, index) => [page, index]));
    this.$refs.none.hidden = this.shown.length > 0;
    this.$refs.none.textContent = this.sought ? "No page matches." : "No findings on any page.";
    this.$refs.room.style.height = `${HEAD + this.shown.length * STEP + 12}px`;
    this.$refs.room.style.width = `${LABEL + this.columns.length * STEP + 12}px`;
    this.draw();
  },

  // Drawing

  colours() {
    const style = getComputedStyle(document.documentElement);
    const colour = (name) => style.getPropertyValue(`--color-${name}`).trim();
    return Object.fromEntries(
      ["plaster", "marble", "joint", "ink", "gold", "gold-ground", "gold-ink", "field", "porphyry", "basalt"].map(
        (name) => [name, colour(name)],
      ),
    );
  },
  draw() {
    cancelAnimationFrame(this.frame);
    this.frame = requestAnimationFrame(() => this.drawNow());
  },
  drawNow() {
    const { tiles, canvas } = this.$refs;
    const [width, height, scale] = [tiles.clientWidth, tiles.clientHeight, devicePixelRatio || 1];
    if (canvas.width !== Math.round(width * scale) || canvas.height !== Math.round(height * scale)) {
      canvas.width = Math.round(width * scale);
      canvas.height = Math.round(height * scale);
      canvas.style.width = `${width}px`;
      canvas.style.height = `${height}px`;
    }
    const pen = canvas.getContext("2d");
    this.paint ??= this.colours();
    const { paint } = this;
    const [left, top] = [tiles.scrollLeft, tiles.scrollTop];
    pen.setTransform(scale, 0, 0, scale, 0, 0);
    pen.fillStyle = paint.plaster;
    pen.fillRect(0, 0, width, height);
    const first = Math.max(0, Math.floor(top / STEP) - 1);
    const last = Math.min(this.shown.length, Math.ceil((top + height) / STEP));
    pen.save();
    pen.beginPath();
    pen.rect(LABEL, HEAD, width, height);
    pen.clip();
    for (let row = first; row < last; row++) {
      const page = this.shown[row];
      const states = this.folded.has(page.name) && !this.sifted ? page.all : page.tiles;
      for (let column = 0; column < this.columns.length; column++) {
        tile(pen, paint, states[column], LABEL + column * STEP - left, HEAD + row * STEP - top);
      }
    }
    this.drawChosen(pen, paint, left, top, width, height);
    pen.restore();
    this.drawLabels(pen, paint, first, last, top, height);
    this.drawHeads(pen, paint, left, width);
    pen.fillStyle = paint.plaster;
    pen.fillRect(0, 0, LABEL, HEAD);
  },
  drawChosen(pen, paint, left, top, width, height) {
    const { row, column } = this.at;
    const line = this.place.get(row);
    pen.strokeStyle = paint.gold;
    pen.lineWidth = 2;
    const [x, y] = [LABEL + column * STEP - left, HEAD + (line ?? 0) * STEP - top];
    if (column >= 0 && line !== undefined) {
      for (const [colour, out, wide] of [
        [paint.plaster, 2, 4],
        [paint.gold, 3, 3],
      ]) {
        pen.strokeStyle = colour;
        pen.lineWidth = wide;
        pen.strokeRect(x - out, y - out, TILE + 2 * out, TILE + 2 * out);
      }
    } else if (column >= 0) pen.strokeRect(x - 1, HEAD, TILE + 2, height);
    else if (line !== undefined) pen.strokeRect(LABEL - 1, y - 1, width, TILE + 2);
  },
  drawLabels(pen, paint, first, last, top, height) {
    pen.save();
    pen.beginPath();
    pen.rect(0, HEAD, LABEL, height);
    pen.clip();
    pen.fillStyle = paint.plaster;
    pen.fillRect(0, HEAD, LABEL, height);
    pen.textBaseline = "middle";
    for (let row = first; row < last; row++) {
      const page = this.shown[row];
      const y = HEAD + row * STEP - top;
      const chosen = page === this.at.row;
      if (chosen) {
        pen.fillStyle = paint["gold-ground"];
        pen.fillRect(0, y - 1, LABEL - 4, STEP);
      }
      pen.fillStyle = chosen ? paint["gold-ink"] : paint.ink;
      const indent = 16 + (this.sifted ? 0 : Math.min(page.depth, 6) * 9);
      if (page.under && !this.sifted) sign(pen, indent - 11, y + TILE / 2, this.folded.has(page.name));
      pen.font = `${chosen || (page.depth === 0 && page.under) ? 600 : 400} 12px "Schibsted Grotesk", sans-serif`;
      const more = this.folded.has(page.name) && !this.sifted ? ` (${page.under})` : "";
      pen.fillText(fitted(pen, page.label, LABEL - indent - 6, more), indent, y + TILE / 2 + 0.5);
    }
    pen.restore();
  },
  drawHeads(pen, paint, left, width) {
    pen.fillStyle = paint.plaster;
    pen.fillRect(LABEL, 0, width, HEAD);
    pen.save();
    pen.beginPath();
    pen.rect(LABEL, 0, width, HEAD);
    pen.clip();
    pen.textBaseline = "middle";
    for (const [index, [, short, , isPart]] of this.columns.entries()) {
      const chosen = index === this.at.column;
      const x = LABEL + index * STEP - left;
      if (chosen) {
        pen.fillStyle = paint["gold-ground"];
        pen.fillRect(x - 1, 0, STEP, HEAD - 2);
      }
      pen.save();
      pen.translate(x + TILE / 2, HEAD - 6);
      pen.rotate(-Math.PI / 2);
      pen.font = `${chosen || isPart ? 600 : 400} 12px "Schibsted Grotesk", sans-serif`;
      pen.fillStyle = chosen ? paint["gold-ink"] : paint.ink;
      pen.fillText(fitted(pen, short, HEAD - 10, ""), 0, 0.5);
      pen.restore();
    }
    pen.restore();
  },

  // Choosing

  listen() {
    const { tiles, filter } = this.$refs;
    tiles.addEventListener("scroll", () => this.draw(), { passive: true });
    new ResizeObserver(() => this.draw()).observe(tiles);
    document.fonts?.ready.then(() => this.draw());
    tiles.addEventListener("click", (event) => this.press(event));
    tiles.addEventListener("mousemove", (event) => this.over(event));
    tiles.addEventListener("keydown", (event) => this.key(event));
    filter.addEventListener("submit", (event) => event.preventDefault());
    filter.addEventListener("input", () => this.sift());
    document.addEventListener("found-page", (event) =>
      this.choose({ row: this.pages.find((page) => page.name === event.detail), column: -1 }),
    );
  },
  sift() {
    const { filter } = this.$refs;
    this.sought = filter.elements.q.value.trim().toLowerCase();
    this.onlyOff = filter.elements.off.checked;
    this.$refs.tiles.scrollTop = 0;
    this.list();
    this.address(false);
    this.$refs.status.textContent = `${this.shown.length.toLocaleString("en")} pages in view.`;
  },
  under(event) {
    const { tiles } = this.$refs;
    const box = tiles.getBoundingClientRect();
    const [x, y] = [event.clientX - box.left, event.clientY - box.top];
    return {
      row: y < HEAD ? null : (this.shown[Math.floor((y - HEAD + tiles.scrollTop) / STEP)] ?? null),
      column: x < LABEL ? -1 : Math.floor((x - LABEL + tiles.scrollLeft) / STEP),
      x,
    };
  },
  over(event) {
    const { row, column } = this.under(event);
    this.$refs.tiles.title = row || column >= 0 ? this.said(row, column) : "";
  },
  said(row, column) {
    const title = this.columns[column]?.[2];
    if (row && title) return `${row.label}: ${title}: ${this.words_[row.tiles[column]]}`;
    return row?.label ?? title ?? "";
  },
  press(event) {
    const { row, column, x } = this.under(event);
    if (column >= this.columns.length || (!row && column < 0)) return;
    const indent = 16 + Math.min(row?.depth ?? 0, 6) * 9;
    if (row?.under && column < 0 && x < indent && !this.sifted) return this.fold(row);
    this.choose({ row, column });
  },
  fold(row) {
    if (!this.folded.delete(row.name)) this.folded.add(row.name);
    this.list();
  },
  key(event) {
    const { row, column } = this.at;
    const page = Math.max(1, Math.floor((this.$refs.tiles.clientHeight - HEAD) / STEP) - 1);
    const line = this.place.get(row) ?? -1;
    const rows = { ArrowDown: 1, ArrowUp: -1, PageDown: page, PageUp: -page }[event.key];
    const columns = { ArrowRight: 1, ArrowLeft: -1 }[event.key];
    const key = event.key.toLowerCase();
    if (event.ctrlKey || event.metaKey || event.altKey) return;
    if (rows) this.choose({ row: this.shown[clamp(line + rows, this.shown.length)] ?? null, column }, true);
    else if (columns)
      this.choose({ row, column: Math.max(-1, Math.min(this.columns.length - 1, column + columns)) }, true);
    else if (event.key === "Home") this.choose({ row: this.shown[0] ?? null, column }, true);
    else if (event.key === "End") this.choose({ row: this.shown.at(-1) ?? null, column }, true);
    else if (event.key === " " && row?.under) this.fold(row);
    else if (event.key === "Enter") this.$refs.beside.focus();
    else if (key === "j" || key === "k") this.jump(key === "j" ? 1 : -1);
    else if (key === "o") {
      this.$refs.filter.elements.off.click();
    } else return;
    event.preventDefault();
  },
  /** To the next tile that is off, or the one before, as one reads. */
  jump(step) {
    const { row, column } = this.at;
    const wide = this.columns.length;
    const count = this.pages.length * wide;
    const from =
      (row?.index ?? (step > 0 ? 0 : this.pages.length)) * wide + (row ? Math.max(column, 0) : step > 0 ? -1 : 0);
    for (let at = from + step; at >= 0 && at < count; at += step) {
      const page = this.pages[Math.floor(at / wide)];
      if (!"bd".includes(page.tiles[at % wide])) continue;
      this.unfold(page);
      this.list();
      return this.choose({ row: page, column: at % wide }, true);
    }
    this.$refs.status.textContent = "No further findings.";
  },
  async choose(at, walking = false) {
    if (!at.row && at.column < 0) return;
    this.at = at;
    if (at.row && !this.place.has(at.row)) {
      this.unfold(at.row);
      this.list();
    }
    this.show();
    this.draw();
    this.$refs.status.textContent = this.said(at.row, at.column);
    this.address(!walking);
    clearTimeout(this.waiting);
    this.waiting = setTimeout(() => this.load(), walking ? 160 : 0);
  },
  /** Bring the chosen tile into view. */
  show() {
    const { tiles } = this.$refs;
    const line = this.place.get(this.at.row);
    if (line === undefined) return;
    const y = line * STEP;
    const room = tiles.clientHeight - HEAD - STEP;
    if (y < tiles.scrollTop) tiles.scrollTop = y;
    if (y > tiles.scrollTop + room) tiles.scrollTop = y - room;
    const x = Math.max(0, this.at.column) * STEP;
    const wide = tiles.clientWidth - LABEL - STEP;
    if (x < tiles.scrollLeft) tiles.scrollLeft = x;
    if (x > tiles.scrollLeft + wide) tiles.scrollLeft = x - wide;
  },
  query() {
    const { row, column } = this.at;
    const found = new URLSearchParams();
    const put = (name, value) => value && found.set(name, value);
    put("page", row?.name);
    put("check", this.columns[column]?.[0]);
    put("q", this.sought);
    put("off", this.onlyOff ? "yes" : "");
    return found;
  },
  address(step) {
    const there = new URL(location.href);
    there.search = String(this.query());
    history[step ? "pushState" : "replaceState"](null, "", there);
    if (this.at.row) rememberPage(this.at.row.name);
  },
  came() {
    const { searchParams } = new URL(location.href);
    if (!this.pages) return location.reload();
    const row = this.pages.find((page) => page.name === searchParams.get("page")) ?? null;
    this.at = { row, column: this.columnOf(searchParams.get("check")) };
    if (row) this.unfold(row);
    this.list();
    this.show();
    this.load();
  },
  async load() {
    const query = this.query();
    const html = await piece(`${this.state.beside}?${query}`);
    if (String(query) !== String(this.query())) return;
    if (html === null) {
      this.$refs.status.textContent = "Basilica cannot be reached. Load this workspace again.";
      return;
    }
    this.$refs.beside.innerHTML = html;
    this.$refs.beside.scrollTop = 0;
  },
  /** A link beside the mosaic that chooses something on it. */
  follow(event) {
    const link = event.target.closest("a[data-page], a[data-check]");
    if (!link || !this.pages || event.ctrlKey || event.metaKey || event.shiftKey) return;
    event.preventDefault();
    const { page, check } = link.dataset;
    const row = page === undefined ? this.at.row : (this.pages.find((one) => one.name === page) ?? null);
    const column = check === undefined ? this.at.column : this.columnOf(check);
    this.choose({ row, column });
    this.$refs.beside.focus();
  },
  /** The page in the frame is there: mark the place in it. */
  mark(event) {
    const frame = this.$refs.beside.querySelector("iframe");
    if (!frame || event.source !== frame.contentWindow || event.data?.basilica !== "preview" || !event.data.ready)
      return;
    const { spot, nth } = frame.dataset;
    if (spot) event.source.postMessage({ basilica: "workspace", spot: [spot, Number(nth)] }, "*");
  },
});

const clamp = (at, count) => Math.max(0, Math.min(count - 1, at));
