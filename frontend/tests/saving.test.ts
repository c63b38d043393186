// What goes with the text of a map when it is saved: moves of pages, and files.
import { afterEach, describe, expect, test, vi } from "vitest";
import { readCopy } from "../src/map/localCopy.ts";
import { changedSince, followed, inverted } from "../src/map/pairs.ts";
import type { ChangedFile, Move } from "../src/map/store.ts";

describe("pairs of old and new keys", () => {
  test.each<[string, Move[], Move[], Move[]]>([
    ["what moves twice moves once", [["a", "b"]], [["b", "c"]], [["a", "c"]]],
    ["what moves back does not move", [["a", "b"]], [["b", "a"]], []],
    ["what was deleted and is back stays", [["a", null]], [[null, "a"]], []],
    [
      "what was deleted comes back elsewhere no more",
      [["a", null]],
      [[null, "b"]],
      [
        ["a", null],
        [null, "b"],
      ],
    ],
    [
      "others go on their own",
      [["a", "b"]],
      [["x", "y"]],
      [
        ["a", "b"],
        ["x", "y"],
      ],
    ],
  ])("%s", (_, pairs, more, expected) => {
    const before = JSON.stringify(pairs);
    expect(followed(pairs, more)).toEqual(expected);
    expect(JSON.stringify(pairs)).toBe(before);
  });
  test("what follows moves and is taken back is gone, and the moves before it stand", () => {
    const before: Move[] = [
      ["a", "b"],
      ["c", null],
    ];
    const more: Move[] = [
      ["b", "d"],
      ["x", "y"],
    ];
    expect(followed(followed(before, more), inverted.pairs(more))).toEqual(before);
  });
  test("a file that changes back did not change", () => {
    const [first, back]: ChangedFile[] = [
      ["part.yaml", "a", "b"],
      ["part.yaml", "b", "a"],
    ];
    expect([changedSince([first], [back]), inverted.files([first])]).toEqual([[], [["part.yaml", "b", "a"]]]);
  });
});

describe("the copy of a text in this browser", () => {
  const kept = (text: string | null) => vi.stubGlobal("localStorage", { getItem: () => text });
  afterEach(() => vi.unstubAllGlobals());
  test("is read as it was put", () => {
    const copy = { text: "site:", revision: 4, pairs: [["a", null]], files: [], saved: "" };
    kept(JSON.stringify(copy));
    expect(readCopy("a")).toEqual(copy);
  });
  test.each([null, "{", "[]", '{"text": 3, "revision": 1}', '{"text": "a"}'])("is none where %j is there", (text) => {
    kept(text);
    expect(readCopy("a")).toBe(null);
  });
});
