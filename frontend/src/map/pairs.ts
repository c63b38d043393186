// Moves of pages and changes of files, put together and taken back.
import type { ChangedFile, Move } from "./store.ts";

/** Put more pairs of old and new key behind some: what moves twice moves once, what moves back does not move. */
export function followed(pairs: Move[], more: Move[]): Move[] {
  const out = pairs.map(([before, after]): Move => [before, after]);
  for (const [before, after] of more) {
    const met = before === null ? out.find((p) => p[1] === null && p[0] === after) : out.find((p) => p[1] === before);
    if (met) met[1] = after;
    else out.push([before, after]);
  }
  return out.filter(([before, after]) => before !== after);
}

/** The same for files that changed: each from what it was first to what it is last. */
export function changedSince(files: ChangedFile[], more: ChangedFile[]): ChangedFile[] {
  const out = files.map(([name, was, now]): ChangedFile => [name, was, now]);
  for (const [name, was, now] of more) {
    const met = out.find((file) => file[0] === name);
    if (met) met[2] = now;
    else out.push([name, was, now]);
  }
  return out.filter(([, was, now]) => was !== now);
}

/** What takes moves, and changes of files, back. */
export const inverted = {
  pairs: (pairs: Move[]): Move[] => pairs.map(([before, after]) => [after, before]),
  files: (files: ChangedFile[]): ChangedFile[] => files.map(([name, was, now]) => [name, now, was]),
};
