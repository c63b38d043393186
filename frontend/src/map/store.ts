// What the components of the Map workspace share: what is known of the map, and the one way to change it.
import type { EditedText, Facts } from "../answers.ts";
import { type Answered, ask } from "../shared/asking.ts";
import type { MapScreen } from "./screen.ts";

const UNREACHED = "Basilica cannot be reached, so this was not done. Try again.";

/** An edit of the map, by its name and what it needs. */
export type Edit = { edit: string } & Record<string, unknown>;
/** Old and new key of a page that moved; no new one for a page that is gone, no old one for one that is back. */
export type Move = [string | null, string | null];
/** A file beside the map: its name, its text as it was, and as it is now. */
export type ChangedFile = [string, string, string];
/** What becomes of addresses that an edit ends: kept, or where they lead. */
export type Addresses = { keep?: boolean; lead?: string };

const NOTHING: Facts = {
  good: false,
  findings: [],
  places: null,
  pages: [],
  auto: {},
  names: { files: [], facts: [], parts: [], menus: [], layouts: [], ends: [], colours: {} },
};

export class MapStore {
  base = "";
  chosen: string | null = null;
  facts: Facts = NOTHING;
  intoMenu = true;
  /** Files that were brought for the next edit, and go with it where that is undone. */
  brought: ChangedFile[] = [];
  /** Where the work is done, once the workspace is there. */
  screen: MapScreen | null = null;

  /** The title of the chosen page. */
  get title(): string {
    return this.facts.pages.find((page) => page.key === this.chosen)?.title ?? "the chosen page";
  }
  /** The text of the map as it is here. */
  get text(): string {
    return this.screen?.editor.text ?? "";
  }
  async edit(edit: Edit, addresses: Addresses = {}): Promise<boolean> {
    return (await this.screen?.edits.edit(edit, null, addresses)) ?? false;
  }
  tell(words: string, wrong = false): void {
    this.screen?.edits.tell(words, wrong);
  }
  /** Another text in place of the map's, as one step with words for Undo. */
  become(text: string, said: string, moves: Move[], files: ChangedFile[]): void {
    this.screen?.editor.become(text, said, moves, files);
    this.screen?.saving.save();
  }
  /** Do an edit that a dialog asks for; the reason where it cannot be done, and else nothing, once it is done. */
  async tryEdit(edit: Edit, close: () => void): Promise<string> {
    const { ok, data } = await ask<EditedText>("POST", `${this.base}/edit`, { text: this.text, edit });
    if (!ok && !data.asks) return data.message ?? UNREACHED;
    close();
    await this.edit(edit);
    return "";
  }
  /** Ask the server about the text as it is here. */
  about<Kind>(what: string, more: object): Promise<Answered<Kind>> {
    return ask<Kind>("POST", `${this.base}/${what}`, { text: this.text, ...more });
  }
}
