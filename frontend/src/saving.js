// @ts-check
// Saving as one types: the server has all but the last moment, the browser has that, and nothing is overwritten unseen.
import { ask, choice, withCode } from "./common.js";

const PAUSE = 220;
const AGAIN = 2500;

/** Put more pairs of old and new key behind some: what moves twice moves once, what moves back does not move. */
export function followed(pairs, more) {
  const out = pairs.map((pair) => [...pair]);
  for (const [before, after] of more) {
    const met = before === null ? out.find((p) => p[1] === null && p[0] === after) : out.find((p) => p[1] === before);
    if (met) met[1] = after;
    else out.push([before, after]);
  }
  return out.filter(([before, after]) => before !== after);
}

/** The same for files that changed: each from what it was first to what it is last. */
export function changedSince(files, more) {
  const out = files.map((file) => [...file]);
  for (const [name, was, now] of more) {
    const met = out.find((file) => file[0] === name);
    if (met) met[2] = now;
    else out.push([name, was, now]);
  }
  return out.filter(([, was, now]) => was !== now);
}

/** What takes moves, and changes of files, back. */
export const inverted = {
  pairs: (pairs) => pairs.map(([before, after]) => [after, before]),
  files: (files) => files.map(([name, was, now]) => [name, now, was]),
};

export const saving = {
  unanswered: [],
  changes: 0,

  /** Something that changes the site: what is asked before it is answered may be told how the site stood before. */
  async change(asked) {
    this.changes += 1;
    const answer = await asked;
    this.changes += 1;
    return answer;
  },

  changed(pairs = [], files = []) {
    this.versioned = false;
    this.pairs = followed(this.pairs, pairs);
    this.files = changedSince(this.files, files);
    const moved = pairs.find(([before]) => before === this.chosen);
    if (moved?.[1]) this.wanted = moved[1]; // the chosen page goes along, also back
    this.markTyping();
    clearTimeout(this.wait);
    this.wait = setTimeout(() => this.save(), pairs.length || files.length ? 0 : PAUSE);
    clearTimeout(this.waitForCopy);
    this.waitForCopy = setTimeout(() => this.putCopy(), 60);
  },

  /** Save what is there; whoever asks meanwhile waits for the last of it, too. Answers whether all of it was saved. */
  async save() {
    clearTimeout(this.wait);
    if (this.held) return false;
    this.saving ??= this.saveAll().finally(() => {
      this.saving = null;
    });
    return this.saving;
  },
  async saveAll() {
    let done = /** @type {string | boolean} */ ("again");
    while (done === "again") done = await this.saveNow();
    return done;
  },

  async saveNow() {
    const text = this.editor.text;
    const sent = { pairs: this.pairs, files: this.files };
    const asked = { text, revision: this.revision, moves: sent.pairs, files: sent.files, ...this.view() };
    const { ok, status, data } = await this.change(ask("PUT", `${this.base}/text`, asked));
    if (status === 409 && data.file) return this.takeBack(data.message);
    if (status === 409 && data.revision) {
      const own = this.unanswered.find((one) => one.text === data.text);
      if (!own) return this.collide(data, text);
      // The server kept what was sent from here, and was gone before it could say so.
      this.keep(data.revision, data.text, own.sent);
      return "again";
    }
    if (!ok) {
      if (status === 0) this.unanswered = [...this.unanswered.slice(-9), { text, sent }];
      this.say(
        status === 0
          ? "Basilica cannot be reached. What you type stays in this browser, and is saved when it can be reached again."
          : `${data.message ?? "The text could not be saved."} What you typed is still here.`,
      );
      clearTimeout(this.wait);
      this.wait = setTimeout(() => this.save(), AGAIN);
      this.failed = true;
      return false;
    }
    // Saved here all the same; the page as it is loaded again has what can be done about the folder.
    if (data.folder) this.say(data.folder);
    else if (this.failed) this.say("");
    this.failed = Boolean(data.folder);
    this.keep(data.revision, text, sent);
    if (this.editor.text !== text || this.files.length) return "again";
    this.dropCopy();
    this.versioned = data.saved;
    this.take(data);
    return true;
  },

  /** Go on from a text that the server has. What an act moved while that was on its way goes with the next save. */
  keep(revision, text, sent) {
    this.revision = revision;
    this.saved = text;
    this.unanswered = [];
    this.pairs = this.pairs === sent.pairs ? [] : followed(inverted.pairs(sent.pairs), this.pairs);
    this.files = this.files === sent.files ? [] : changedSince(inverted.files(sent.files), this.files);
  },

  /** What would write over a file that somebody else changed is not done: all is as it was saved last. */
  takeBack(message) {
    const { pairs, files } = this;
    this.editor.become(this.saved, "Took back what could not be saved", inverted.pairs(pairs), inverted.files(files));
    return this.tell(message, true);
  },

  /** The text was saved from elsewhere: the person chooses, and until then nothing is overwritten. */
  collide(data, mine) {
    this.held = true;
    this.theirs = data;
    this.say(data.message, [
      choice("See both", () => this.showBoth()),
      choice("Overwrite it with mine", () => this.settle()),
      choice("Use the other version (Undo restores mine)", () =>
        this.settle(this.theirs.text, "Used the other version"),
      ),
    ]);
    this.putCopy(mine);
    return false;
  },

  /** What each changed, side by side where they meet; what does not meet can be put together in one step. */
  async showBoth() {
    const { ok, data } = await ask("POST", `${this.base}/merge`, { base: this.saved, mine: this.editor.text });
    if (!ok) return this.say(data.message ?? "Basilica cannot be reached. Try again.");
    const done = (text) => {
      this.theirs = { text: data.theirs, revision: data.revision };
      this.settle(text, "Combine both versions");
    };
    this.$dispatch("ask-merge", { ...data, done });
  },

  /** Go on from the other's revision, with this text (or the one here). */
  settle(text, words) {
    this.held = false;
    this.revision = this.theirs.revision;
    this.saved = this.theirs.text;
    this.say("");
    if (text !== undefined && text !== this.editor.text) this.editor.become(text, words);
    this.save();
  },

  /** What was changed elsewhere shows here, as long as nothing is being typed here. */
  async look() {
    if (document.hidden || this.saving || this.held) return;
    const { ok, data } = await ask("GET", `${this.base}/changes?revision=${this.revision}`);
    if (ok && this.contentsMark !== data.contents) {
      // Some page's text is another; where it was written here, looking again costs little.
      this.lookAgain();
      this.contentsMark = data.contents;
    }
    const filesChanged = ok && this.filesMark !== data.files;
    if (filesChanged) this.filesMark = data.files;
    // A file that the map includes may say other pages now: the answer to a save has them.
    if (filesChanged && data.text === null && this.editor.text === this.saved) await this.save();
    if (!ok || this.saving || this.held || data.revision === this.revision || data.text === null) return;
    if (this.editor.text !== this.saved) return this.save();
    this.revision = data.revision;
    this.saved = data.text;
    this.editor.become(data.text, "Changed elsewhere");
  },

  async saveVersion() {
    clearTimeout(this.wait);
    do {
      await this.contents.flush();
      if (!(await this.save())) return;
    } while (this.editor.text !== this.saved);
    const note = this.$refs.note.value;
    const asked = ask("POST", `${this.base}/version`, { revision: this.revision, note });
    const { ok, status, data } = await this.change(asked);
    if (status === 409 && data.revision) return this.collide(data, this.editor.text);
    if (!ok) return this.say(data.message ?? "The version could not be saved; try again.");
    this.versioned = data.saved && !this.isPast();
    this.$refs.note.value = "";
    this.stand(data.status);
    this.reachSoon(0);
  },

  copy() {
    try {
      return JSON.parse(localStorage.getItem(this.copyName));
    } catch {
      return null;
    }
  },
  putCopy(text = this.editor.text) {
    try {
      const { revision, pairs, files, saved } = this;
      localStorage.setItem(this.copyName, JSON.stringify({ text, revision, pairs, files, saved }));
    } catch {
      // Too large for the browser to hold; the server has all but the last moment.
    }
  },
  dropCopy() {
    clearTimeout(this.waitForCopy);
    localStorage.removeItem(this.copyName);
  },

  say(text, buttons = []) {
    this.$refs.notice.replaceChildren(...withCode(text), ...buttons);
    this.$refs.notice.hidden = text === "";
  },
};
