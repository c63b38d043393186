// What the code editor asks of what is around it, and tells it.
import type { KnownNames, KnownPage, UnderlinedFinding } from "../answers.ts";
import type { PageFor } from "./hovering.ts";
import type { ChangedFile, Move } from "./store.ts";
import type { Schema } from "./tree.ts";

export type Fix = NonNullable<UnderlinedFinding["fix"]>;

export type Around = {
  known: Schema;
  pages: () => KnownPage[];
  icons: () => Promise<string[]>;
  names: () => KnownNames;
  drawn: (name: string) => Promise<HTMLElement | null>;
  nonce: string;
  /** After each change, with the pages that an act moved and the files that it changed. */
  changed: (moves: Move[], files: ChangedFile[]) => void;
  /** The cursor was moved by hand. */
  cursor: (line: number, column: number) => void;
  saveVersion: () => void;
  undo: () => void;
  /** What undo and redo would do, in words. */
  told: (undoing: string | null, redoing: string | null) => void;
  /** The page that a reference means. */
  pageFor: PageFor;
  lead: () => void;
  remedy: () => void;
};
