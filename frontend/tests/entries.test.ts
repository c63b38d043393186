// Entries of menus by hand, and their icons.
import { describe, expect, test } from "vitest";
import { entryEdit } from "../src/map/entryDialog.ts";
import { iconsLike } from "../src/map/icons.ts";

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
