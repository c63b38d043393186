// The content of pages, saved as it is typed.
import { afterEach, beforeEach, describe, expect, test, vi } from "vitest";
import { type Answer, Contents } from "../src/map/contents.ts";

const SAVED = { saved: false, status: "", folder: "", redraw: false, merged: null };

describe("the content of a page", () => {
  /** A server that holds `there`, and does with each request what the test says of it. */
  function served(there: string, ...happens: ("gone" | "cut off" | (() => Promise<void>))[]) {
    const told: number[] = [];
    const put = vi.fn(async ({ text, was }: { text: string; was: string }): Promise<Answer> => {
      const what = happens.shift();
      if (typeof what === "function") await what();
      if (what === "gone") return { ok: false, status: 0, data: {} };
      if (![was, text].includes(there)) return { ok: false, status: 409, data: { text: there } };
      there = text;
      return what === "cut off" ? { ok: false, status: 0, data: {} } : { ok: true, status: 200, data: SAVED };
    });
    const copies = new Map<string, string>();
    const storage = {
      get length() {
        return copies.size;
      },
      key: (number: number) => [...copies.keys()][number],
      getItem: (name: string) => copies.get(name) ?? null,
      setItem: (name: string, text: string) => void copies.set(name, text),
      removeItem: (name: string) => void copies.delete(name),
      clear: () => copies.clear(),
    };
    const made = () => new Contents(put, (_, { status }) => told.push(status), storage, "a:");
    return { made, told, put, copies, there: () => there };
  }
  beforeEach(() => vi.useFakeTimers());
  afterEach(() => vi.useRealTimers());

  test("typed on while a save is on its way waits for that, and then goes", async () => {
    let answer = () => {};
    const server = served(
      "",
      () =>
        new Promise<void>((done) => {
          answer = done;
        }),
    );
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
  test.each(["gone", "cut off"] as const)("is saved where the server was %s, and typed on meanwhile", async (what) => {
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
