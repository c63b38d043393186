// What the front end computes by itself, without a browser: content that follows its page, completion, cut labels.
import { EditorState } from "@codemirror/state";
import { describe, expect, test } from "vitest";
import { completions, meaningAt } from "../src/completion.js";
import { entryEdit, iconsLike } from "../src/entries.js";
import { widthsAfter } from "../src/panes.js";
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

describe("entries of menus by hand", () => {
  const values = {
    menu: "main",
    number: "",
    parent: "",
    kind: "url",
    page: "visit",
    url: "https://a.example",
    file: "",
    group: "",
    label: "A",
    icon: "",
  };
  test("a new entry has the words of its kind alone", () => {
    expect(entryEdit(values, new Set())).toEqual({
      edit: "add-entry",
      menu: "main",
      parent: null,
      index: 999,
      words: { url: "https://a.example", label: "A" },
    });
    expect(entryEdit({ ...values, kind: "separator", parent: "3" }, new Set())).toMatchObject({
      parent: 3,
      words: { separator: "" },
    });
    const group = entryEdit({ ...values, kind: "group", group: "More", first: "visit" }, new Set());
    expect(group).toMatchObject({ words: { group: "More" }, first: "visit" });
  });
  test("an entry that is there gets what was changed, and what was emptied", () => {
    const { words, number } = entryEdit({ ...values, number: "2", label: "" }, new Set(["label"]));
    expect([number, words]).toEqual([2, { label: "" }]);
  });
  test("icons are found by every word, those that begin with it first", () => {
    expect(iconsLike(["air-map", "map", "map-pin", "pin"], "map")).toEqual(["map", "map-pin", "air-map"]);
    expect(iconsLike(["map", "map-pin", "pin"], "pin map")).toEqual(["map-pin"]);
  });
});

describe("panes", () => {
  test.each([
    ["the line is moved", 40, [240, 360, 400]],
    ["no pane is narrower than it may be", -300, [180, 420, 400]],
    ["nor the one beside it", 900, [420, 180, 400]],
  ])("%s", (_, by, widths) => expect(widthsAfter([200, 400, 400], 0, by)).toEqual(widths));
});
