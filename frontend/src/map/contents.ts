// The content of pages, saved as it is typed: one save after the other, and nothing is lost while the server is away.

import type { WrittenContent } from "../answers.ts";
import type { Answered } from "../shared/asking.ts";

const PAUSE = 400;
const AGAIN = 2500;

/** What became of a save. */
export type Answer = Answered<WrittenContent>;

/** The content of a page as it is here and `was` at the server; `theirs` is what somebody else wrote, where that is to be
    settled, and `merged` both together. */
type Content = {
  text: string;
  was: string;
  theirs: string | null;
  merged: string | null;
  refused: boolean;
  saving: Promise<boolean> | null;
  unanswered: string[];
  wait: ReturnType<typeof setTimeout> | undefined;
};

/** A copy as it was put, or null where the storage holds something else. */
function readCopy(said: string | null): { text: string; was: string } | null {
  try {
    const { text, was } = JSON.parse(said ?? "null");
    return typeof text === "string" && typeof was === "string" ? { text, was } : null;
  } catch {
    return null;
  }
}

const untouched = (text: string): Content => ({
  text,
  was: text,
  theirs: null,
  merged: null,
  refused: false,
  saving: null,
  unanswered: [],
  wait: undefined,
});

/**
 * What was typed into the content of pages and is not saved yet, by key. `put` asks the server as `ask` does, `told`
 * hears what became of it; what is on its way is in `copies`, a storage, under names that begin with `prefix`.
 */
export class Contents {
  private readonly pages = new Map<string, Content>();

  constructor(
    private readonly put: (sent: { key: string; text: string; was: string }) => Promise<Answer>,
    private readonly told: (key: string, answer: Answer) => void,
    private readonly copies: Storage,
    private readonly prefix: string,
  ) {}

  /** What was left behind when this browser last left the site is saved now. */
  takeCopies(): void {
    const names = Array.from({ length: this.copies.length }, (_, number) => this.copies.key(number) ?? "");
    for (const name of names.filter((one) => one.startsWith(this.prefix))) {
      const left = readCopy(this.copies.getItem(name));
      if (!left) continue;
      const key = name.slice(this.prefix.length);
      this.pages.set(key, { ...untouched(left.was), text: left.text });
      this.save(key);
    }
  }

  /** A page is shown with the text that the server has; answers what to show: what was typed goes before that. */
  shown(key: string, text: string): string {
    const one = this.pages.get(key);
    if (one && one.text !== one.was) return one.text;
    this.pages.set(key, untouched(text));
    return text;
  }

  typed(key: string, text: string): void {
    const one = this.pages.get(key);
    if (!one) return;
    Object.assign(one, { text, refused: false });
    this.copy(key);
    clearTimeout(one.wait);
    one.wait = setTimeout(() => this.save(key), PAUSE);
  }

  /** Whether something is still to be saved. */
  get pending(): boolean {
    return [...this.pages.values()].some((one) => one.text !== one.was && !one.refused);
  }

  /** Save what was typed in the last moment now, before something is done that it belongs to. */
  async flush(): Promise<void> {
    await Promise.all([...this.pages].map(([key, one]) => one.text !== one.was && this.save(key)));
  }

  /** Go on from what somebody else wrote, with the text as it is here. */
  async settle(key: string): Promise<void> {
    const one = this.pages.get(key);
    if (!one || one.theirs === null) return;
    Object.assign(one, { was: one.theirs, theirs: null, refused: false });
    return this.save(key);
  }

  /** Whether the server has another text of a page, with which nothing that was typed here has to do with. */
  isOlder(key: string, text: string): boolean {
    const one = this.pages.get(key);
    return one !== undefined && !one.saving && one.text === one.was && one.was !== text;
  }

  private async save(key: string): Promise<void> {
    const one = this.pages.get(key);
    clearTimeout(one?.wait);
    if (!one || one.theirs !== null) return;
    one.saving ??= this.saveNow(key, one).finally(() => {
      one.saving = null;
    });
    const goesOn = await one.saving;
    if (goesOn) await this.save(key);
  }

  /** Answers whether there is more to save. */
  private async saveNow(key: string, one: Content): Promise<boolean> {
    const { text, was } = one;
    const answer = await this.put({ key, text, was });
    const { ok, status, data } = answer;
    // The server had kept what was sent before, and was gone before it could say so.
    const own = !ok && status === 409 && one.unanswered.find((sent) => sent === data.text);
    const has = ok ? text : own; // what is known to be at the server
    if (typeof has === "string") Object.assign(one, { was: has, unanswered: [] });
    else if (status === 0) one.unanswered = [...one.unanswered.slice(-9), text];
    else if (!ok && status === 409) Object.assign(one, { theirs: data.text ?? null, merged: data.merged ?? null });
    // What somebody else wrote is in it now; where more was typed meanwhile, the next save brings both together.
    if (ok && typeof data.merged === "string" && one.text === text)
      Object.assign(one, { text: data.merged, was: data.merged });
    one.refused = typeof has !== "string" && status >= 400 && status < 500;
    this.copy(key);
    if (status === 404) this.copies.removeItem(this.prefix + key); // the page is gone, and its content with it
    // Who was told nothing asks again: the answer says how the site stands.
    if (typeof has === "string" && (one.text !== one.was || !ok)) return true;
    if (status === 0 || status >= 500) one.wait = setTimeout(() => this.save(key), AGAIN);
    this.told(key, answer);
    return false;
  }

  private copy(key: string): void {
    const { text, was } = this.pages.get(key) ?? { text: "", was: "" };
    try {
      if (text === was) this.copies.removeItem(this.prefix + key);
      else this.copies.setItem(this.prefix + key, JSON.stringify({ text, was }));
    } catch {
      // Too large for the browser to hold; the server has all but the last moment.
    }
  }
}
