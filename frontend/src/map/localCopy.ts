// The text of a map as this browser keeps it, while the server does not have it.
import type { ChangedFile, Move } from "./store.ts";

export type Copy = { text: string; revision: number; pairs: Move[]; files: ChangedFile[]; saved: string | null };

const isText = (value: unknown): value is string => typeof value === "string";
const listOf = <Kind>(value: unknown): Kind[] => (Array.isArray(value) ? (value as Kind[]) : []);

/** A copy as it was put, or null where there is none. */
export function readCopy(name: string): Copy | null {
  try {
    const { text, revision, pairs, files, saved } = JSON.parse(localStorage.getItem(name) ?? "null");
    if (!isText(text) || !Number.isInteger(revision)) return null;
    return { text, revision, pairs: listOf(pairs), files: listOf(files), saved: isText(saved) ? saved : null };
  } catch {
    return null;
  }
}

export function putCopy(name: string, copy: Copy): void {
  try {
    localStorage.setItem(name, JSON.stringify(copy));
  } catch {
    // Too large for the browser to hold; the server has all but the last moment.
  }
}
