// Saving as one types: the server has all but the last moment, the browser has that, and nothing is overwritten unseen.
import type { Changes, MapState, MergedTexts, Refusal, SavedText, SavedVersion } from "../answers.ts";
import { type Answered, ask } from "../shared/asking.ts";
import { choice, show } from "../shared/messages.ts";
import { TYPING } from "./editor.ts";
import { type Copy, putCopy, readCopy } from "./localCopy.ts";
import { changedSince, followed, inverted } from "./pairs.ts";
import type { MapScreen } from "./screen.ts";
import type { ChangedFile, Move } from "./store.ts";

const PAUSE = 220; // ms
const AGAIN = 2500; // ms
const COPY = 60; // ms
const COMBINING = 5; // how often it is tried, while somebody types
const UNANSWERED = 9; // texts sent before, of which it is not known whether the server has them
const AWAY =
  "Basilica cannot be reached. What you type stays in this browser, and is saved when it can be reached again.";

type Sent = { pairs: Move[]; files: ChangedFile[] };
type Timer = ReturnType<typeof setTimeout> | undefined;

export class Saving {
  revision: number;
  /** The text as the server has it. */
  saved: string;
  /** Whether the site is as its latest version. */
  versioned: boolean;
  /** Whether the page that is left for is one of the same site. */
  staying = false;
  pairs: Move[] = [];
  files: ChangedFile[] = [];
  /** How often something was asked that changes the site, and answered. */
  changes = 0;
  /** What this browser kept and the server does not have. */
  readonly copy: Copy | null;

  private readonly copyName: string;
  private contentsMark: string;
  private filesMark: string;
  private unanswered: { text: string; sent: Sent }[] = [];
  private under: Promise<boolean> | null = null;
  /** Whether somebody else's version waits for the person's choice. */
  held = false;
  private failed = false;
  private theirs: { text: string; revision: number };
  private wait: Timer;
  private waitForCopy: Timer;

  constructor(
    private readonly screen: MapScreen,
    state: MapState,
  ) {
    this.revision = state.revision;
    this.saved = state.text;
    this.versioned = state.saved;
    this.contentsMark = state.contents;
    this.filesMark = state.files;
    this.theirs = { text: state.text, revision: state.revision };
    this.copyName = `basilica:text:${state.slug}`;
    const left = readCopy(this.copyName);
    this.copy = left && (left.text !== state.text || left.files.length) ? left : null;
  }

  /** What was typed while it could not be saved is here again. */
  begin(): void {
    if (!this.copy) return;
    const { revision, pairs, files, saved } = this.copy;
    Object.assign(this, { revision, pairs, files, saved: saved ?? this.saved });
    this.say("What you typed while it could not be saved is here again.");
    this.changed();
  }

  /** Something that changes the site: what is asked before it is answered may be told how the site stood before. */
  async change<Kind>(asked: Promise<Kind>): Promise<Kind> {
    this.changes += 1;
    const answer = await asked;
    this.changes += 1;
    return answer;
  }

  changed(pairs: Move[] = [], files: ChangedFile[] = []): void {
    this.versioned = false;
    this.pairs = followed(this.pairs, pairs);
    this.files = changedSince(this.files, files);
    const moved = pairs.find(([before]) => before === this.screen.chosen);
    if (moved?.[1]) this.screen.wanted = moved[1]; // the chosen page goes along, also back
    this.screen.siteStatus.markTyping();
    this.saveSoon(pairs.length || files.length ? 0 : PAUSE);
    clearTimeout(this.waitForCopy);
    this.waitForCopy = setTimeout(() => this.putCopy(), COPY);
  }
  private saveSoon(pause: number): void {
    clearTimeout(this.wait);
    this.wait = setTimeout(() => this.save(), pause);
  }

  /** Save what is there; whoever asks meanwhile waits for the last of it, too. Answers whether all of it was saved. */
  async save(): Promise<boolean> {
    clearTimeout(this.wait);
    if (this.held) return false;
    this.under ??= this.saveAll().finally(() => {
      this.under = null;
    });
    return this.under;
  }
  private async saveAll(): Promise<boolean> {
    let done: boolean | "again" = "again";
    while (done === "again") done = await this.saveNow();
    return done;
  }

  private async saveNow(): Promise<boolean | "again"> {
    const { text } = this.screen.editor;
    const sent = { pairs: this.pairs, files: this.files };
    const { revision } = this;
    const { did } = this.screen.editor;
    const words = did === TYPING ? undefined : did; // the server names it for other screens
    const asked = { text, revision, words, moves: sent.pairs, files: sent.files, ...this.screen.plan.asked() };
    const answer = await this.change(ask<SavedText>("PUT", `${this.screen.base}/text`, asked));
    if (!answer.ok) return this.refused(answer, text, sent);
    const { data } = answer;
    // Saved here all the same; the page as it is loaded again has what can be done about the folder.
    if (data.folder) this.say(data.folder);
    else if (this.failed) this.say("");
    this.failed = Boolean(data.folder);
    this.keep(data.revision, text, sent);
    if (this.screen.editor.text !== text || this.files.length) return "again";
    this.dropCopy();
    this.versioned = data.saved;
    this.screen.take(data);
    return true;
  }
  private async refused(
    { status, data }: { status: number; data: Partial<Refusal> },
    text: string,
    sent: Sent,
  ): Promise<false | "again"> {
    if (status === 409 && data.file) return this.takeBack(data.message ?? "");
    if (status === 409 && isVersion(data)) {
      const own = this.unanswered.find((one) => one.text === data.text);
      if (!own) return (await this.combine()) ? "again" : this.collide(data, text);
      // The server kept what was sent from here, and was gone before it could say so.
      this.keep(data.revision, data.text, own.sent);
      return "again";
    }
    if (status === 0) this.unanswered = [...this.unanswered.slice(-UNANSWERED), { text, sent }];
    this.say(status === 0 ? AWAY : `${data.message ?? "The text could not be saved."} What you typed is still here.`);
    this.saveSoon(AGAIN);
    this.failed = true;
    return false;
  }

  /** Go on from a text that the server has. What an act moved while that was on its way goes with the next save. */
  private keep(revision: number, text: string, sent: Sent): void {
    this.revision = revision;
    this.saved = text;
    this.unanswered = [];
    this.pairs = this.pairs === sent.pairs ? [] : followed(inverted.pairs(sent.pairs), this.pairs);
    this.files = this.files === sent.files ? [] : changedSince(inverted.files(sent.files), this.files);
  }

  /** What would write over a file that somebody else changed is not done: all is as it was saved last. */
  private takeBack(message: string): false {
    const { editor, edits } = this.screen;
    const [pairs, files] = [inverted.pairs(this.pairs), inverted.files(this.files)];
    editor.become(this.saved, "Took back what could not be saved", pairs, files);
    return edits.tell(message, true);
  }

  /** Put what somebody else saved together with what is here, where the two do not meet; false where they do. */
  private async combine(): Promise<boolean> {
    const { base, editor } = this.screen;
    for (let tries = 0; tries < COMBINING; tries++) {
      const mine = editor.text;
      const { ok, data } = await ask<MergedTexts>("POST", `${base}/merge`, { base: this.saved, mine });
      if (!ok || !data.clean) return false;
      if (editor.text !== mine) continue; // typed on meanwhile
      this.revision = data.revision;
      this.saved = data.theirs;
      this.follow(data.text);
      return true;
    }
    return false;
  }
  /** Show what somebody else changed, where it is. */
  private follow(text: string): void {
    const lines = this.screen.editor.follow(text);
    const [first, last] = [lines[0], lines.at(-1)];
    if (first === undefined) return;
    const where = lines.length === 1 ? `line ${first}` : `lines ${first} to ${last}`;
    this.screen.edits.tell(`Somebody else changed the map: ${where}.`);
  }

  /** The same lines were saved from elsewhere: the person chooses, and until then nothing is overwritten. */
  private collide(data: Partial<Refusal> & { text: string; revision: number }, mine: string): false {
    this.held = true;
    this.theirs = data;
    this.say(
      data.message ?? "",
      choice("See both", () => this.showBoth()),
      choice("Overwrite it with mine", () => this.settle()),
      choice("Use the other version (Undo restores mine)", () =>
        this.settle(this.theirs.text, "Used the other version"),
      ),
    );
    this.putCopy(mine);
    return false;
  }

  /** What each changed, side by side where they meet; what does not meet can be put together in one step. */
  private async showBoth(): Promise<void> {
    const asked = { base: this.saved, mine: this.screen.editor.text };
    const { ok, data } = await ask<MergedTexts>("POST", `${this.screen.base}/merge`, asked);
    if (!ok) return this.say(data.message ?? "Basilica cannot be reached. Try again.");
    const done = (text: string) => {
      this.theirs = { text: data.theirs, revision: data.revision };
      this.settle(text, "Combine both versions");
    };
    this.screen.dispatch("ask-merge", { ...data, done });
  }

  /** Go on from the other's revision, with this text (or the one here). */
  private settle(text?: string, words = ""): void {
    this.held = false;
    this.revision = this.theirs.revision;
    this.saved = this.theirs.text;
    this.say("");
    if (text !== undefined && text !== this.screen.editor.text) this.screen.editor.become(text, words);
    this.save();
  }

  /** What was changed elsewhere shows here, as long as nothing is being typed here. */
  async look(always = false): Promise<void> {
    const { screen } = this;
    if ((document.hidden && !always) || this.under || this.held) return;
    const { ok, data } = await ask<Changes>("GET", `${screen.base}/changes?revision=${this.revision}`);
    if (!ok) return;
    if (this.contentsMark !== data.contents) {
      // Some page's text is another; where it was written here, looking again costs little.
      screen.lookAgain();
      this.contentsMark = data.contents;
    }
    const filesChanged = this.filesMark !== data.files;
    this.filesMark = data.files;
    // A file that the map includes may say other pages now: the answer to a save has them.
    if (filesChanged && data.text === null && screen.editor.text === this.saved) await this.save();
    if (this.under || this.held || data.revision === this.revision || data.text === null) return;
    if (screen.editor.text !== this.saved) {
      await this.save();
      return;
    }
    this.revision = data.revision;
    this.saved = data.text;
    this.follow(data.text);
  }

  async saveVersion(): Promise<void> {
    const { screen } = this;
    const { note } = screen.refs;
    clearTimeout(this.wait);
    do {
      await screen.writing.contents.flush();
      if (!(await this.save())) return;
    } while (screen.editor.text !== this.saved);
    const asked = { revision: this.revision, note: note.value };
    const answer: Answered<SavedVersion> = await this.change(ask("POST", `${screen.base}/version`, asked));
    if (!answer.ok) {
      const { status, data } = answer;
      if (status === 409 && isVersion(data)) {
        if (await this.combine()) await this.saveVersion();
        else this.collide(data, screen.editor.text);
      } else this.say(data.message ?? "The version could not be saved; try again.");
      return;
    }
    this.versioned = answer.data.saved && !screen.isPast();
    note.value = "";
    screen.siteStatus.show(answer.data.status);
    screen.siteStatus.reachSoon(0);
  }

  private putCopy(text = this.screen.editor.text): void {
    const { revision, pairs, files, saved } = this;
    putCopy(this.copyName, { text, revision, pairs, files, saved });
  }
  private dropCopy(): void {
    clearTimeout(this.waitForCopy);
    localStorage.removeItem(this.copyName);
  }

  say(text: string, ...buttons: HTMLElement[]): void {
    show(this.screen.refs.notice, text, ...buttons);
  }
}

/** Whether a refusal has the text and the revision that somebody else saved. */
const isVersion = (data: Partial<Refusal>): data is Partial<Refusal> & { text: string; revision: number } =>
  typeof data.text === "string" && Boolean(data.revision);
