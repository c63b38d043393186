// Asking the server, messages, and panes.
import { afterEach, describe, expect, test, vi } from "vitest";
import { ask, iconNames, questions } from "../src/shared/asking.ts";
import { codePieces } from "../src/shared/messages.ts";
import { widthsAfter } from "../src/shell/panes.ts";

test.each([
  ["", [""]],
  ["plain", ["plain"]],
  ["There is no page `hors`.", ["There is no page ", "hors", "."]],
  ["`a` and `b`", ["", "a", " and ", "b", ""]],
  ["5` wide", ["5` wide"]],
])("of the message %j", (text, pieces) => expect(codePieces(text)).toEqual(pieces));

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
