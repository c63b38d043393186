// The mosaic drawn on a canvas, as much of it as is in view.
import type { MosaicPage } from "./page.ts";
import { type Colours, coloursNow, fitted, sign, TILE, tile } from "./tiles.ts";

export const STEP = TILE + 2; // px from one tile to the next
export const HEAD = 132;
export const LABEL = 158;
const FONT = '12px "Schibsted Grotesk", sans-serif';

/** What is drawn: the pages that are `shown`, of which some are `folded` (none where they are `sifted`), the titles of
    `columns`, and the chosen tile by the place of its row and its column; -1 for none. */
export type Mosaic = {
  shown: MosaicPage[];
  folded: Set<string>;
  sifted: boolean;
  columns: { short: string; isPart: boolean }[];
  chosen: { row: MosaicPage | null; line: number; column: number };
};

/** How far the label of a page is indented, px. */
export const indentOf = (page: MosaicPage, sifted: boolean): number => 16 + (sifted ? 0 : Math.min(page.depth, 6) * 9);

export class MosaicDrawing {
  readonly __v_skip = true; // nothing that Alpine should watch
  private frame = 0;
  private paint: Colours | null = null;

  constructor(
    private readonly ground: HTMLElement,
    private readonly canvas: HTMLCanvasElement,
    private readonly mosaic: () => Mosaic,
  ) {}

  draw(): void {
    cancelAnimationFrame(this.frame);
    this.frame = requestAnimationFrame(() => this.drawNow());
  }

  private drawNow(): void {
    const { ground, canvas } = this;
    const [width, height, scale] = [ground.clientWidth, ground.clientHeight, devicePixelRatio || 1];
    if (canvas.width !== Math.round(width * scale) || canvas.height !== Math.round(height * scale)) {
      canvas.width = Math.round(width * scale);
      canvas.height = Math.round(height * scale);
      canvas.style.width = `${width}px`;
      canvas.style.height = `${height}px`;
    }
    const pen = canvas.getContext("2d");
    if (!pen) return;
    this.paint ??= coloursNow();
    const { paint } = this;
    const mosaic = this.mosaic();
    const { shown, columns, folded, sifted } = mosaic;
    const [left, top] = [ground.scrollLeft, ground.scrollTop];
    pen.setTransform(scale, 0, 0, scale, 0, 0);
    pen.fillStyle = paint.plaster;
    pen.fillRect(0, 0, width, height);
    const first = Math.max(0, Math.floor(top / STEP) - 1);
    const last = Math.min(shown.length, Math.ceil((top + height) / STEP));
    within(pen, LABEL, HEAD, width, height, () => {
      for (let row = first; row < last; row++) {
        const page = shown[row];
        const states = folded.has(page.name) && !sifted ? page.all : page.tiles;
        for (let column = 0; column < columns.length; column++)
          tile(pen, paint, states[column], LABEL + column * STEP - left, HEAD + row * STEP - top);
      }
      drawChosen(pen, paint, mosaic, { left, top, width, height });
    });
    within(pen, 0, HEAD, LABEL, height, () => drawLabels(pen, paint, mosaic, first, last, { top, height }));
    pen.fillStyle = paint.plaster;
    pen.fillRect(LABEL, 0, width, HEAD);
    within(pen, LABEL, 0, width, HEAD, () => drawHeads(pen, paint, mosaic, left));
    pen.fillStyle = paint.plaster;
    pen.fillRect(0, 0, LABEL, HEAD);
  }
}

type Pen = CanvasRenderingContext2D;

function within(pen: Pen, x: number, y: number, width: number, height: number, draw: () => void): void {
  pen.save();
  pen.beginPath();
  pen.rect(x, y, width, height);
  pen.clip();
  draw();
  pen.restore();
}

function drawChosen(
  pen: Pen,
  paint: Colours,
  { chosen: { line, column } }: Mosaic,
  { left, top, width, height }: { left: number; top: number; width: number; height: number },
): void {
  pen.strokeStyle = paint.gold;
  pen.lineWidth = 2;
  const [x, y] = [LABEL + column * STEP - left, HEAD + Math.max(line, 0) * STEP - top];
  if (column >= 0 && line >= 0) {
    for (const [colour, out, wide] of [
      [paint.plaster, 2, 4],
      [paint.gold, 3, 3],
    ] as const) {
      pen.strokeStyle = colour;
      pen.lineWidth = wide;
      pen.strokeRect(x - out, y - out, TILE + 2 * out, TILE + 2 * out);
    }
  } else if (column >= 0) pen.strokeRect(x - 1, HEAD, TILE + 2, height);
  else if (line >= 0) pen.strokeRect(LABEL - 1, y - 1, width, TILE + 2);
}

function drawLabels(
  pen: Pen,
  paint: Colours,
  { shown, folded, sifted, chosen }: Mosaic,
  first: number,
  last: number,
  { top, height }: { top: number; height: number },
): void {
  pen.fillStyle = paint.plaster;
  pen.fillRect(0, HEAD, LABEL, height);
  pen.textBaseline = "middle";
  for (let row = first; row < last; row++) {
    const page = shown[row];
    const y = HEAD + row * STEP - top;
    const isChosen = page === chosen.row;
    if (isChosen) {
      pen.fillStyle = paint["gold-ground"];
      pen.fillRect(0, y - 1, LABEL - 4, STEP);
    }
    pen.fillStyle = isChosen ? paint["gold-ink"] : paint.ink;
    const indent = indentOf(page, sifted);
    const isFolded = folded.has(page.name);
    if (page.under && !sifted) sign(pen, indent - 11, y + TILE / 2, isFolded);
    pen.font = `${isChosen || (page.depth === 0 && page.under) ? 600 : 400} ${FONT}`;
    const more = isFolded && !sifted ? ` (${page.under})` : "";
    pen.fillText(fitted(pen, page.label, LABEL - indent - 6, more), indent, y + TILE / 2 + 0.5);
  }
}

function drawHeads(pen: Pen, paint: Colours, { columns, chosen }: Mosaic, left: number): void {
  pen.textBaseline = "middle";
  for (const [index, { short, isPart }] of columns.entries()) {
    const isChosen = index === chosen.column;
    const x = LABEL + index * STEP - left;
    if (isChosen) {
      pen.fillStyle = paint["gold-ground"];
      pen.fillRect(x - 1, 0, STEP, HEAD - 2);
    }
    pen.save();
    pen.translate(x + TILE / 2, HEAD - 6);
    pen.rotate(-Math.PI / 2);
    pen.font = `${isChosen || isPart ? 600 : 400} ${FONT}`;
    pen.fillStyle = isChosen ? paint["gold-ink"] : paint.ink;
    pen.fillText(fitted(pen, short, HEAD - 10, ""), 0, 0.5);
    pen.restore();
  }
}
