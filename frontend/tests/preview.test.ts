// Where a frame of the preview is, by what the server served to it.
import { describe, expect, test } from "vitest";
import { afterLoad, nowhere } from "../src/preview/loads.ts";

describe("a frame of the preview", () => {
  // Each load with what the server says then: the number of the page it served last, and the pages up to it.
  test.each<[string, string[], [number, (string | null)[], string][]]>([
    ["is where it was sent", ["visit"], [[1, ["visit"], "page"]]],
    ["followed a link of a page", [], [[1, ["visit"], "page"]]],
    ["followed a link before it was known that it had come", ["home"], [[2, ["home", "visit"], "page"]]],
    ["is still loading what it was sent to", ["home", "visit"], [[1, ["home"], "underway"]]],
    ["loads the same page once more", ["home", "visit", "home"], [[2, ["home", "visit"], "underway"]]],
    ["was sent on before the first page came", ["home", "visit"], [[1, ["visit"], "page"]]],
    ["shows what it showed before", ["visit"], [[0, ["home"], "underway"]]],
    [
      "follows a link out of the site",
      ["home"],
      [
        [1, ["home"], "page"],
        [1, ["home"], "outside"],
      ],
    ],
    [
      "followed a link to a page whose load is still to come, and one out of the site from there",
      ["home"],
      [
        [2, ["home", "visit"], "page"],
        [2, ["home", "visit"], "nothing new"],
        [2, ["home", "visit"], "outside"],
      ],
    ],
    ["met an address that is no page", [], [[1, [null], "page"]]],
  ])("%s", (_, sent, loads) => {
    let known = { ...nowhere(), sent };
    loads.forEach(([serial, keys, expected], number) => {
      const after = afterLoad(known, number + 1, { serial, keys });
      expect(after.was).toBe(expected);
      known = after.known;
    });
  });
});
