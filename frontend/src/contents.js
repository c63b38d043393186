// @ts-check
// The content of pages, saved as it is typed: one save after the other, and nothing is lost while the server is away.

const PAUSE = 400;
const AGAIN = 2500;

/** A copy as it was put, or null where the storage holds something else. */
function readCopy(said) {
  try {
    const { text, was } = JSON.parse(said);
    return typeof text === "string" && typeof was === "string" ? { text, was } : null;
  } catch {
    return null;
  }
}

const untouched = (text) => ({
  text,
  was: text,
  theirs: null,
  merged: null,
  refused: false,
  saving: null,
  unanswered: [],
  wait: 0,
});

/**
 * What was typed into the content of pages and is not saved yet, by key. `put` asks the server as `ask` does, `told`
 * hears what became of it; what is on its way is in `copies`, a storage, under names that begin with `prefix`.
 */
export class Contents {
  __v_skip = true; // nothing that Alpine should watch
  pages = new Map();

  constructor(put, told, copies, prefix) {
    this.put = put;
    this.told = told;
    this.copies = copies;
    this.prefix = prefix;
  }

  /** What was left behind when this browser last left the site is saved now. */
  takeCopies() {
    const names = Array.from({ length: this.copies.length }, (_, number) => this.copies.key(number));
    for (const name of names.filter((one) => one.startsWith(this.prefix))) {
      const left = readCopy(this.copies.getItem(name));
      if (!left) continue;
      const key = name.slice(this.prefix.length);
      this.pages.set(key, { ...untouched(left.was), text: left.text });
      this.save(key);
    }
  }

  /** A page is shown with the text that the server has; answers what to show: what was typed goes before that. */
  shown(key, text) {
    const one = this.pages.get(key);
    if (one && one.text !== one.was) return one.text;
    this.pages.set(key, untouched(text));
    return text;
  }

  typed(key, text) {
    const one = this.pages.get(key);
    Object.assign(one, { text, refused: false });
    this.copy(key);
    clearTimeout(one.wait);
    one.wait = setTimeout(() => this.save(key), PAUSE);
  }

  /** Whether something is still to be saved. */
  get pending() {
    return [...this.pages.values()].some((one) => one.text !== one.was && !one.refused);
  }

  /** Save what was typed in the last moment now, before something is done that it belongs to. */
  async flush() {
    await Promise.all([...this.pages].map(([key, one]) => one.text !== one.was && this.save(key)));
  }

  /** Go on from what somebody else wrote, with the text as it is here. */
  settle(key) {
    const one = this.pages.get(key);
    Object.assign(one, { was: one.theirs, theirs: null, refused: false });
    return this.save(key);
  }

  /** Whether the server has another text of a page, with which nothing that was typed here has to do with. */
  isOlder(key, text) {
    const one = this.pages.get(key);
    return Boolean(one) && !one.saving && one.text === one.was && one.was !== text;
  }

  async save(key) {
    const one = this.pages.get(key);
    clearTimeout(one.wait);
    if (one.theirs !== null) return;
    one.saving ??= this.saveNow(key, one).finally(() => {
      one.saving = null;
    });
    const goesOn = await one.saving;
    if (goesOn) await this.save(key);
  }

  /** Answers whether there is more to save. */
  async saveNow(key, one) {
    const { text, was } = one;
    const { ok, status, data } = await this.put({ key, text, was });
    // The server had kept what was sent before, and was gone before it could say so.
    const own = status === 409 && one.unanswered.includes(data.text);
    if (ok || own) Object.assign(one, { was: own ? data.text : text, unanswered: [] });
    else if (status === 0) one.unanswered = [...one.unanswered.slice(-9), text];
    else if (status === 409) Object.assign(one, { theirs: data.text ?? null, merged: data.merged ?? null });
    // What somebody else wrote is in it now; where more was typed meanwhile, the next save brings both together.
    if (ok && typeof data.merged === "string" && one.text === text)
      Object.assign(one, { text: data.merged, was: data.merged });
    one.refused = !ok && !own && status >= 400 && status < 500;
    this.copy(key);
    if (status === 404) this.copies.removeItem(this.prefix + key); // the page is gone, and its content with it
    if (one.text !== one.was && (ok || own)) return true;
    if (status === 0 || status >= 500) one.wait = setTimeout(() => this.save(key), AGAIN);
    this.told(key, { ok: ok || own, status, data });
    return false;
  }

  copy(key) {
    const { text, was } = this.pages.get(key);
    try {
      if (text === was) this.copies.removeItem(this.prefix + key);
      else this.copies.setItem(this.prefix + key, JSON.stringify({ text, was }));
    } catch {
      // Too large for the browser to hold; the server has all but the last moment.
    }
  }
}
