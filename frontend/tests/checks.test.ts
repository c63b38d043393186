// The mosaic: its pages one under the other, and labels that fit.
import { expect, test } from "vitest";
import { nested, pagesAbove } from "../src/checks/page.ts";
import { fitted } from "../src/checks/tiles.ts";

test("a label is cut where there is no room, with what comes after it whole", () => {
  const pen = { measureText: (text: string) => ({ width: text.length }) as TextMetrics };
  expect(fitted(pen, "Opening hours", 20, " 3")).toBe("Opening hours 3");
  expect(fitted(pen, "Opening hours", 8, " 3")).toBe("Openi… 3");
});

test("a page says how many are under it, and the gravest of all of them", () => {
  const pages = nested({
    order: "hdb",
    rows: [
      ["home", "Home", 0, "hh"],
      ["visit", "Visit", 0, "hh"],
      ["visit/by-boat", "By boat", 1, "hd"],
      ["visit/by-boat/tides", "Tides", 2, "bh"],
      ["shop", "Shop", 0, "dh"],
    ],
  });
  expect(pages.map(({ name, under, all }) => [name, under, all.join("")])).toEqual([
    ["home", 0, "hh"],
    ["visit", 2, "bd"],
    ["visit/by-boat", 1, "bd"],
    ["visit/by-boat/tides", 0, "bh"],
    ["shop", 0, "dh"],
  ]);
  expect([...pagesAbove(pages[3])].map((page) => page.name)).toEqual(["visit/by-boat", "visit"]);
});
