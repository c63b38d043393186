// What is drawn is done to the code: each edit is one step of the history, with words.
import type { EditedText, Undone } from "../answers.ts";
import { ask } from "../shared/asking.ts";
import { choice, withCode } from "../shared/messages.ts";
import type { MapScreen } from "./screen.ts";
import type { Addresses, Edit } from "./store.ts";

const UNREACHED = "Basilica cannot be reached, so this was not done. Try again.";
const QUIET = 6000; // ms that is shown what was done
const OFFERED = 20000; // ms that is shown what else could have been done

/** Where a page is among those under the same parent. */
export type PagePlace = { parent: string | null; among: string[]; index: number };

export const parentOf = (key: string): string | null => (key.includes("/") ? key.slice(0, key.lastIndexOf("/")) : null);

/** The last thing that was done to the site, as the bar says it. */
export function lastStep(): { step: string; words: string; others: boolean } | null {
  const { step, words, others } = document.getElementById("last-step")?.dataset ?? {};
  return step && words ? { step, words, others: others !== undefined } : null;
}

export class Edits {
  /** The last edit that was asked for, which others wait for. */
  acted: Promise<boolean> = Promise.resolve(true);
  /** Where the focus goes once the edit under way is shown, where that is not the chosen page. */
  focusing: (() => void) | null = null;
  private waitForQuiet: ReturnType<typeof setTimeout> | undefined;

  constructor(private readonly screen: MapScreen) {}

  pagesUnder(parent: string | null): string[] {
    return this.screen.facts.pages.map((page) => page.key).filter((key) => parentOf(key) === parent);
  }
  placeOf(key: string): PagePlace {
    const parent = parentOf(key);
    const among = this.pagesUnder(parent);
    return { parent, among, index: among.indexOf(key) };
  }

  /** Do an edit to the current text here; one after the other, for each changes what the next is about. */
  edit(edit: Edit, focusing: (() => void) | null = null, addresses: Addresses = {}): Promise<boolean> {
    const acted = this.acted.then(() => this.editNow(edit, focusing, addresses));
    this.acted = acted.catch(() => false);
    return acted;
  }
  /** What comes back is one step of the history, with words. Where the focus goes is the chosen page, or as told. */
  private async editNow(edit: Edit, focusing: (() => void) | null, addresses: Addresses): Promise<boolean> {
    const { screen } = this;
    await screen.writing.contents.flush();
    if (screen.saving.files.length) await screen.saving.save(); // the act is done to the files as they are saved
    const { text } = screen.editor;
    const { ok, data } = await ask<EditedText>("POST", `${screen.base}/edit`, { text, edit, ...addresses });
    if (!ok && data.asks === "write-out") {
      // What follows the pages is written out when the person says so.
      const write = () => this.edit({ ...edit, write_out: true }, focusing, addresses);
      screen.dispatch("ask-auto", { page: null, write });
      return false;
    }
    if (!ok) return this.tell(data.message ?? UNREACHED, true);
    if (screen.editor.text !== text) return this.tell("The text was changed meanwhile, so this was not done.", true);
    screen.wanted = data.chosen;
    this.focusing = focusing;
    screen.editor.become(data.text, data.words, data.moves, [...data.files, ...screen.store.brought.splice(0)]);
    this.tell(`${data.words}.`);
    if (data.redirected && addresses.keep === undefined && !addresses.lead)
      this.offer("Do not keep them", () => {
        screen.editor.undo();
        this.edit(edit, focusing, { keep: false });
      });
    await screen.saving.save();
    await screen.side.refreshed; // the numbers of entries are new now
    this.focusing?.();
    this.focusing = null;
    return true;
  }

  /** Take back the last thing that was done to the site, wherever it was done. */
  async undoStep(others = false): Promise<void> {
    const { base, saving, writing } = this.screen;
    await Promise.all([writing.contents.flush(), saving.save()]);
    const last = lastStep();
    if (!last || saving.held) return;
    if (last.others && !others) {
      this.tell(`The last step is another person's: ${last.words}. It comes after yours, if you did any.`);
      return this.offer("Undo it too", () => this.undoStep(true));
    }
    const { ok, data } = await saving.change(ask<Undone>("POST", `${base}/undo`, { step: last.step, others }));
    if (!ok) {
      this.tell(data.message ?? UNREACHED, true);
      return;
    }
    await saving.look(true);
    await saving.save(); // the answer says how the site stands
    this.tell(`Undone: ${data.words}.`);
  }

  /** What was done, or why not, where the eye is. Answers false. */
  tell(text: string, wrong = false): false {
    const { done } = this.screen.refs;
    done.replaceChildren(...withCode(text));
    done.hidden = text === "";
    done.classList.toggle("wrong", wrong);
    clearTimeout(this.waitForQuiet);
    if (!wrong) this.quietAfter(QUIET);
    return false;
  }
  /** Something else that could have been done, beside what was. */
  private offer(words: string, act: () => void): void {
    const button = choice(words, act);
    button.classList.add("other");
    this.screen.refs.done.append(" ", button);
    clearTimeout(this.waitForQuiet);
    this.quietAfter(OFFERED);
  }
  private quietAfter(time: number): void {
    this.waitForQuiet = setTimeout(() => {
      this.screen.refs.done.hidden = true;
    }, time);
  }

  private doneHere: string | null = null;
  private undoneHere: string | null = null;

  /** Say on the buttons what Undo and Redo would do to the text here; null for nothing. */
  told(undoing: string | null, redoing: string | null): void {
    this.doneHere = undoing;
    this.undoneHere = redoing;
    this.showSteps();
  }
  /** What was done to the site before, or on another screen, can be taken back once nothing is left of what was done here. */
  showSteps(): void {
    const { undo, redo } = this.screen.refs;
    for (const [button, name, words] of [
      [undo, "Undo", this.doneHere ?? lastStep()?.words ?? null],
      [redo, "Redo", this.undoneHere],
    ] as const) {
      button.disabled = words === null;
      button.title = words === null ? "" : `${name}: ${words}`;
      button.setAttribute("aria-label", button.title || name);
    }
  }
}
