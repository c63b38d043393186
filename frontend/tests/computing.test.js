// What the front end computes by itself, without a browser: content that follows its page, completion, cut labels.
import { yaml } from "@codemirror/lang-yaml";
import { EditorState } from "@codemirror/state";
import { afterEach, beforeEach, describe, expect, test, vi } from "vitest";
import { ask, codePieces, iconNames, questions } from "../src/common.js";
import { completions, meaningAt } from "../src/completion.js";
import { Contents } from "../src/contents.js";
import { entryEdit, iconsLike } from "../src/entries.js";
import { coloursIn } from "../src/mapTree.js";
import { widthsAfter } from "../src/panes.js";
import { afterLoad, nowhere } from "../src/preview.js";
import { followed } from "../src/saving.js";
import { fitted } from "../src/tiles.js";

describe("a frame of the preview", () => {
  // Each load with what the server says then: the number of the page it served last, and the pages up to it.
  test.each([
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

test.each([
  ["", [""]],
  ["plain", ["plain"]],
  ["There is no page `hors`.", ["There is no page ", "hors", "."]],
  ["`a` and `b`", ["", "a", " and ", "b", ""]],
  ["5` wide", ["5` wide"]],
])("of the message %j", (text, pieces) => expect(codePieces(text)).toEqual(pieces));

describe("the content of a page", () => {
  /** A server that holds `there`, and does with each request what the test says of it. */
  function served(there, ...happens) {
    const told = [];
    const put = vi.fn(async ({ text, was }) => {
      const what = happens.shift();
      await what?.before?.();
      if (what === "gone") return { ok: false, status: 0, data: {} };
      if (![was, text].includes(there)) return { ok: false, status: 409, data: { text: there } };
      there = text;
      return what === "cut off" ? { ok: false, status: 0, data: {} } : { ok: true, status: 200, data: {} };
    });
    const copies = new Map();
    const storage = {
      get length() {
        return copies.size;
      },
      key: (number) => [...copies.keys()][number],
      getItem: (name) => copies.get(name),
      setItem: (name, text) => copies.set(name, text),
      removeItem: (name) => copies.delete(name),
    };
    const made = () => new Contents(put, (_, { status }) => told.push(status), storage, "a:");
    return { made, told, put, copies, there: () => there };
  }
  beforeEach(() => vi.useFakeTimers());
  afterEach(() => vi.useRealTimers());

  test("typed on while a save is on its way waits for that, and then goes", async () => {
    let answer;
    const server = served("", { before: () => new Promise((done) => (answer = done)) });
    const contents = server.made();
    contents.shown("visit", "");
    contents.typed("visit", "One");
    await vi.advanceTimersByTimeAsync(1000);
    contents.typed("visit", "One two");
    await vi.advanceTimersByTimeAsync(1000);
    expect(server.put).toHaveBeenCalledTimes(1);
    answer();
    await vi.runAllTimersAsync();
    expect([server.there(), server.told, server.copies.size]).toEqual(["One two", [200], 0]);
  });
  test.each(["gone", "cut off"])("is saved where the server was %s, and typed on meanwhile", async (what) => {
    const server = served("", what);
    const contents = server.made();
    contents.shown("visit", "");
    contents.typed("visit", "One");
    await contents.flush();
    contents.typed("visit", "One two");
    expect(server.copies.size).toBe(1);
    await vi.runAllTimersAsync();
    expect([server.there(), server.told, server.copies.size]).toEqual(["One two", [0, 200], 0]);
  });
  test("that somebody else wrote meanwhile is not written over until one says so", async () => {
    const server = served("Theirs");
    const contents = server.made();
    contents.shown("visit", "");
    contents.typed("visit", "Mine");
    await vi.runAllTimersAsync();
    contents.typed("visit", "Mine too");
    await vi.runAllTimersAsync();
    expect([server.there(), server.told, contents.shown("visit", "Theirs")]).toEqual(["Theirs", [409], "Mine too"]);
    await contents.settle("visit");
    expect([server.there(), contents.shown("visit", "Shown again")]).toEqual(["Mine too", "Shown again"]);
  });
  test("left behind is saved when the site is opened again", async () => {
    const server = served("", "gone");
    const left = server.made();
    left.shown("visit", "");
    left.typed("visit", "One");
    server.copies.set("a:hours", "no copy of ours");
    const again = server.made();
    again.takeCopies();
    expect(again.shown("visit", "")).toBe("One");
    await vi.runAllTimersAsync();
    expect([server.there(), server.copies.size]).toEqual(["One", 1]);
  });
});

describe("completion", () => {
  const word = (name, rest = {}) => ({ name, meaning: "", type: "text", values: [], ...rest });
  const tree = {
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
    colours: { ink: "#112233" },
  };
  const pages = () => [{ key: "home", title: "Home", path: "/" }];
  const source = completions(
    tree,
    pages,
    async () => ["map-pin"],
    () => names,
  );
  const stateOf = (text) => EditorState.create({ doc: text.replace("|", ""), extensions: [yaml()] });

  async function labels(text) {
    const found = await source({ state: stateOf(text), pos: text.indexOf("|"), explicit: true });
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
  test("a new entry has the words that were filled in, its kind, and no place", () => {
    expect(entryEdit({ ...values, first: "", under: "visit" }, new Set())).toEqual({
      edit: "add-entry",
      menu: "main",
      parent: null,
      kind: "url",
      words: { page: "visit", url: "https://a.example", label: "A" },
      labels: {},
      under: "visit",
    });
    expect(entryEdit({ ...values, kind: "separator", parent: "3" }, new Set())).toMatchObject({ parent: 3 });
  });
  test("an entry that is there gets what was changed, and what was emptied", () => {
    const { words, number } = entryEdit({ ...values, number: "2", label: "" }, new Set(["label"]));
    expect([number, words]).toEqual([2, { label: "" }]);
  });
  test("labels in other languages go by their tags", () => {
    const edit = entryEdit({ ...values, number: "2", "label-in-cy": "Y" }, new Set(["label-in-cy"]));
    expect([edit.words, edit.labels]).toEqual([{}, { cy: "Y" }]);
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

describe("asking the server", () => {
  afterEach(() => vi.unstubAllGlobals());
  test.each([
    ["an answer", '{"a": 1}', 200, { ok: true, status: 200, data: { a: 1 } }],
    ["a refusal in words", '{"message": "No."}', 409, { ok: false, status: 409, data: { message: "No." } }],
    ["a refusal without words", "<p>No", 500, { ok: false, status: 500, data: {} }],
    ["gone before all was said", '{"a": ', 200, { ok: false, status: 0, data: {} }],
  ])("%s", async (_, body, status, expected) => {
    vi.stubGlobal("document", { querySelector: () => null });
    vi.stubGlobal("fetch", async () => new Response(body, { status }));
    expect(await ask("GET", "/sites/a/map")).toEqual(expected);
  });
  test("of two questions only the answer to the last one counts, whichever comes first", () => {
    const asking = questions();
    const [first, second] = [asking(), asking()];
    expect([second(), first()]).toEqual([true, false]);
  });
  test("names that did not come are asked for again", async () => {
    vi.stubGlobal("document", { querySelector: () => null });
    const answers = [new Response("No", { status: 500 }), new Response('["map"]')];
    vi.stubGlobal("fetch", async () => answers.shift());
    const names = iconNames("/sites/a/map");
    expect([await names(), await names(), await names()]).toEqual([[], ["map"], ["map"]]);
  });
});
