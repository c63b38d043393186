// What the front end computes by itself, without a browser: content that follows its page, completion, cut labels.
import { EditorState } from "@codemirror/state";
import { describe, expect, test } from "vitest";
import { completions, meaningAt } from "../src/completion.js";
import { followed } from "../src/saving.js";
import { fitted } from "../src/tiles.js";

describe("pairs of old and new keys", () => {
  test.each([
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
});

describe("completion", () => {
  const word = (name, values = []) => ({ name, meaning: "", values });
  const words = {
    "": [word("site"), word("pages"), word("menus")],
    head: [word("icon"), word("counter")],
    counter: [word("script")],
    site: [word("name"), word("urls", ["folders", "files"])],
    pages: [word("title"), word("draft", ["yes", "no"]), word("highlight"), word("breadcrumbs")],
    menus: [word("auto")],
    entries: [word("page"), word("file"), word("icon"), word("label")],
    auto: [word("levels")],
  };
  const pages = () => [{ key: "home", title: "Home", path: "/" }];
  const source = completions(
    words,
    pages,
    async () => ["map-pin"],
    () => ({ facts: ["phone"], files: ["a.pdf"] }),
  );

  async function labels(text) {
    const pos = text.indexOf("|");
    const state = EditorState.create({ doc: text.replace("|", "") });
    const found = await source({ state, pos, explicit: true });
    return found?.options.map((option) => option.label) ?? null;
  }

  test.each([
    ["si|", ["site", "pages", "menus"]],
    ["site:\n  urls: |", ["folders", "files"]],
    ["pages:\n  home:\n    dr|", ["title", "draft", "highlight", "breadcrumbs"]],
    ["pages:\n  home:\n    highlight: |", ["home"]],
    ["site:\n  name: x # |", null],
  ])("%j", async (text, expected) => {
    expect(await labels(text)).toEqual(expected);
  });

  test.each([
    ["pages:\n  home: {hea|}", ["title", "draft", "highlight", "breadcrumbs"]],
    ["pages:\n  home: {breadcrumbs: [|", ["home"]],
    ["pages:\n  home:\n    breadcrumbs: |", ["home"]],
    ["head: {counter: {|", ["script"]],
    ["head:\n  counter:\n    s|", ["script"]],
    ["menus:\n  main:\n    - file: |", ["a.pdf"]],
    ["parts:\n  a: Ring {fact:p|", ["phone"]],
  ])("of the newer words: %j", async (text, expected) => {
    expect(await labels(text)).toEqual(expected);
  });

  test.each([
    ["si|te:\n  name: M", "site"],
    ["site: {na|me: M}", "name"],
    ["pages:\n  home:\n    ti|tle: T", "title"],
    ["head: {counter: {scr|ipt: a.js}}", "script"],
    ["menus:\n  main:\n    - pa|ge: home\n      icon: clock", "page"],
    ["pages:\n  ti|tle:\n    label: T", null], // a page's own id
    ["site:\n  name: si|te", null],
  ])("the word under the mouse: %j", (text, expected) => {
    const at = text.indexOf("|");
    const { doc } = EditorState.create({ doc: text.replace("|", "") });
    expect(meaningAt(doc, at, words)?.name ?? null).toBe(expected);
  });

  test("a menu takes pages", async () => {
    expect(await labels("menus:\n  main: [|")).toEqual(["home", "auto"]);
  });
});

test("a label is cut where there is no room, with what comes after it whole", () => {
  const pen = { measureText: (text) => ({ width: text.length }) };
  expect(fitted(pen, "Opening hours", 20, " 3")).toBe("Opening hours 3");
  expect(fitted(pen, "Opening hours", 8, " 3")).toBe("Openi… 3");
});
