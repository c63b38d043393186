// What is offered while a map is typed, and what its words mean.
import { CompletionContext } from "@codemirror/autocomplete";
import { yaml } from "@codemirror/lang-yaml";
import { EditorState } from "@codemirror/state";
import { describe, expect, test } from "vitest";
import type { SchemaWord } from "../src/answers.ts";
import { completions, meaningAt } from "../src/map/completion.ts";
import { coloursIn, type Schema } from "../src/map/tree.ts";

describe("completion", () => {
  const word = (name: string, rest: Partial<SchemaWord> = {}): SchemaWord => ({
    name,
    meaning: "",
    type: "text",
    values: [],
    ...rest,
  });
  const tree: Schema = {
    "": {
      words: [
        word("site", { below: "site" }),
        word("pages", { below: "pages", named: true }),
        word("menus", { below: "menus", named: true }),
        word("parts", { below: "parts", named: true }),
        word("head", { below: "head" }),
        word("theme", { below: "theme" }),
        word("slots", { of: "part" }),
        word("facts"),
      ],
    },
    head: {
      words: [
        word("icon", { type: "file" }),
        word("counter", { below: "counter" }),
        word("styles", { type: "file or list of files" }),
      ],
    },
    counter: { words: [word("script")] },
    site: { words: [word("name"), word("urls", { values: ["folders", "files"] })] },
    pages: {
      words: [
        word("title"),
        word("draft", { values: ["yes", "no"] }),
        word("highlight", { type: "reference" }),
        word("breadcrumbs", { type: "reference or list of levels", below: "levels" }),
        word("pages", { below: "pages", named: true }),
      ],
    },
    levels: { words: [word("group")] },
    menus: { words: [word("entries", { below: "entries" }), word("auto", { below: "auto" })], items: "entries" },
    entries: {
      words: [
        word("page", { type: "reference" }),
        word("file", { type: "file" }),
        word("icon", { type: "icon" }),
        word("label"),
        word("items", { below: "entries" }),
      ],
      items: "entries",
    },
    auto: { words: [word("levels")] },
    parts: { words: [word("menu", { type: "name of a menu" })] },
    theme: { words: [word("ink", { type: "colour" })] },
  };
  const names = {
    facts: ["phone"],
    files: ["a.pdf", "b.svg"],
    parts: ["visit-us"],
    menus: ["main"],
    layouts: [],
    ends: [],
    colours: { ink: "#112233" },
  };
  const pages = () => [{ key: "home", title: "Home", path: "/", line: 1, column: 1 }];
  const source = completions(
    tree,
    pages,
    async () => ["map-pin"],
    () => names,
  );
  const stateOf = (text: string) => EditorState.create({ doc: text.replace("|", ""), extensions: [yaml()] });

  async function labels(text: string) {
    const found = await source(new CompletionContext(stateOf(text), text.indexOf("|"), true));
    return found?.options.map((option) => option.label) ?? null;
  }

  const PAGE_WORDS = ["title", "draft", "highlight", "breadcrumbs", "pages"];
  test.each([
    ["si|", ["site", "pages", "menus", "parts", "head", "theme", "slots", "facts"]],
    ["site:\n  name: A\n  u|", ["urls"]], // what is there already is not offered again
    ["site:\n  urls: |", ["folders", "files"]],
    ["pages:\n  home:\n    dr|", PAGE_WORDS],
    ["pages:\n  home:\n    highlight: |", ["home"]],
    ["pages:\n  home: {hea|}", PAGE_WORDS],
    ["pages:\n  home:\n    pages:\n      in:\n        t|\n  next: N", PAGE_WORDS],
    ["pages:\n  home: {breadcrumbs: [|", ["home"]],
    ["pages:\n  home:\n    breadcrumbs: |", ["home"]],
    ["pages:\n  home:\n    breadcrumbs:\n      - |", ["home", "group"]],
    ["head: {counter: {|", ["script"]],
    ["head:\n  counter:\n    s|", ["script"]],
    ["head:\n  styles: [|", ["a.pdf", "b.svg"]],
    ["menus:\n  main:\n    - file: |", ["a.pdf", "b.svg"]],
    ["menus:\n  main:\n    - page: home\n      icon: |", ["b.svg", "map-pin"]],
    ["menus:\n  main:\n  - page: home\n    ic|\n  - auto", ["file", "icon", "label", "items"]],
    ["menus:\n  main: [|", ["home", "auto"]],
    ["menus:\n  main:\n    - home: [|", ["home", "auto"]],
    ["menus:\n  main: |", ["auto"]],
    ["parts:\n  a: {menu: |", ["main"]],
    ["parts:\n  a: Ring {fact:p|", ["phone"]],
    ["theme:\n  ink: |", ["#112233"]],
    ["slots:\n  after: |", ["visit-us"]],
    ["site:\n  name: x # |", null],
    ["parts:\n  a:\n    text: |\n", null],
  ])("%j", async (text, expected) => {
    expect(await labels(text)).toEqual(expected);
  });

  test("nothing is offered within a text of several lines", async () => {
    expect(await labels("parts:\n  a:\n    text: >\n      Some words\n      me|")).toBe(null);
  });

  test.each([
    ["si|te:\n  name: M", "site"],
    ["site: {na|me: M}", "name"],
    ["pages:\n  home:\n    ti|tle: T", "title"],
    ["head: {counter: {scr|ipt: a.js}}", "script"],
    ["menus:\n  main:\n    - pa|ge: home\n      icon: clock", "page"],
    ["menus:\n  main:\n    - page: home\n      ic|on: clock", "icon"],
    ["pages:\n  ti|tle:\n    label: T", null], // a page's own id
    ["site:\n  name: si|te", null],
  ])("the word under the mouse: %j", (text, expected) => {
    expect(meaningAt(stateOf(text), text.indexOf("|"), tree)?.name ?? null).toBe(expected);
  });

  test("colours are found as CSS writes them", () => {
    expect(coloursIn('ink: "#1d2433" # a #fff b, page#add-on').map((one) => one.colour)).toEqual(["#1d2433", "#fff"]);
  });
});
