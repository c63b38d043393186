// The shapes of the mosaic.

export const TILE = 15; // px

const COLOURS = [
  "plaster",
  "marble",
  "joint",
  "ink",
  "gold",
  "gold-ground",
  "gold-ink",
  "field",
  "porphyry",
  "basalt",
] as const;
export type Colours = Record<(typeof COLOURS)[number], string>;

/** The colours of the application's own style, for a canvas. */
export function coloursNow(): Colours {
  const style = getComputedStyle(document.documentElement);
  return Object.fromEntries(COLOURS.map((name) => [name, style.getPropertyValue(`--color-${name}`).trim()])) as Colours;
}

type Pen = CanvasRenderingContext2D;

/** Text with its end cut where there is no room for it. */
export function fitted(pen: Pick<Pen, "measureText">, text: string, room: number, more: string): string {
  if (pen.measureText(text + more).width <= room) return text + more;
  let cut = text;
  while (cut && pen.measureText(`${cut}…${more}`).width > room) cut = cut.slice(0, -1);
  return `${cut}…${more}`;
}

/** A line through points, as x and y in turn. */
function line(pen: Pen, [x, y, ...more]: number[]): void {
  pen.moveTo(x, y);
  for (let at = 0; at < more.length; at += 2) pen.lineTo(more[at], more[at + 1]);
}

/** The sign before a section: whether it is folded. */
export function sign(pen: Pen, x: number, y: number, folded: boolean): void {
  pen.beginPath();
  line(pen, folded ? [x, y - 4, x + 6, y, x, y + 4] : [x - 1, y - 3, x + 7, y - 3, x + 3, y + 3]);
  pen.fill();
}
/** A tile. Each state has a shape of its own: whole, half, crossed, hollow, a dash, a dot. */
export function tile(pen: Pen, paint: Colours, state: string, x: number, y: number): void {
  if (state === "h") {
    pen.fillStyle = paint.field;
    pen.fillRect(x, y, TILE, TILE);
  } else if (state === "d") {
    pen.fillStyle = paint.porphyry;
    pen.beginPath();
    line(pen, [x, y + TILE, x + TILE, y, x + TILE, y + TILE]);
    pen.fill();
    pen.strokeStyle = paint.porphyry;
    pen.lineWidth = 1;
    pen.strokeRect(x + 0.5, y + 0.5, TILE - 1, TILE - 1);
  } else if (state === "b") {
    pen.fillStyle = paint.porphyry;
    pen.fillRect(x, y, TILE, TILE);
    pen.strokeStyle = paint.plaster;
    pen.lineWidth = 2;
    pen.beginPath();
    line(pen, [x + 4, y + 4, x + TILE - 4, y + TILE - 4]);
    line(pen, [x + TILE - 4, y + 4, x + 4, y + TILE - 4]);
    pen.stroke();
  } else if (state === "l") {
    pen.strokeStyle = paint.basalt;
    pen.lineWidth = 1.5;
    pen.strokeRect(x + 1.25, y + 1.25, TILE - 2.5, TILE - 2.5);
  } else if (state === "u") {
    pen.fillStyle = paint.basalt;
    pen.fillRect(x + 3, y + TILE / 2 - 1, TILE - 6, 2);
  } else {
    pen.fillStyle = paint.basalt;
    pen.fillRect(x + TILE / 2 - 1, y + TILE / 2 - 1, 2, 2);
  }
}
