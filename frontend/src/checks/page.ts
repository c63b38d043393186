// The pages of the mosaic, one under the other as in the map.
import type { MosaicTiles } from "../answers.ts";

/** A row of the mosaic: `tiles` has a letter for each column, `all` the gravest of it and of all pages under it. */
export type MosaicPage = {
  name: string;
  label: string;
  depth: number;
  tiles: string;
  index: number;
  above: MosaicPage | null;
  under: number;
  all: string[];
};

/** The pages with what is above and under each. `order` has the letters of tiles by gravity. */
export function nested({ rows, order }: Pick<MosaicTiles, "rows" | "order">): MosaicPage[] {
  const above: MosaicPage[] = [];
  const pages = rows.map(([name, label, depth, tiles], index): MosaicPage => {
    while (above.length > depth) above.pop();
    const page = { name, label, depth, tiles, index, above: above.at(-1) ?? null, under: 0, all: [...tiles] };
    for (const one of above) one.under++;
    above[depth] = page;
    return page;
  });
  const worst = (one: string, other: string) => (order.indexOf(one) > order.indexOf(other) ? one : other);
  for (const { above: up, all } of [...pages].reverse())
    if (up) up.all = up.all.map((state, index) => worst(state, all[index]));
  return pages;
}

/** The pages above a page, from the nearest on. */
export function* pagesAbove(page: MosaicPage): Generator<MosaicPage> {
  for (let up = page.above; up; up = up.above) yield up;
}
