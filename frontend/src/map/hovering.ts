// What is shown over a word under the mouse: what it means, or the page that it refers to.

import type { EditorState, Extension } from "@codemirror/state";
import { type EditorView, hoverTooltip, type Tooltip } from "@codemirror/view";
import type { KnownPage } from "../answers.ts";
import { made } from "../shared/elements.ts";
import { meaningAt } from "./completion.ts";
import type { Schema } from "./tree.ts";

/** The page that a reference on a line means. */
export type PageFor = (word: string, line: number) => KnownPage | null;

type Word = { from: number; to: number; text: string };

/** The reference, or the name, at an offset. */
export function referenceAt(state: EditorState, at: number): Word | null {
  const line = state.doc.lineAt(at);
  for (const match of line.text.matchAll(/[a-z0-9][a-z0-9/-]*/g)) {
    const from = line.from + match.index;
    if (from <= at && at <= from + match[0].length) return { from, to: from + match[0].length, text: match[0] };
  }
  return null;
}

/** What a word of the map language means, and what a reference does: the page's title and address. */
function hovered(view: EditorView, at: number, pageFor: PageFor, words: Schema): Tooltip | null {
  const known = meaningAt(view.state, at, words);
  if (known) {
    const values = known.values.map((value) => made("code", value));
    return tooltip(known, [made("strong", known.name), " ", known.meaning, ...values.flatMap((one) => [" ", one])]);
  }
  const word = referenceAt(view.state, at);
  const page = word && pageFor(word.text, view.state.doc.lineAt(at).number);
  return page && word ? tooltip(word, [made("strong", page.title), " ", made("code", page.path)]) : null;
}

function tooltip({ from, to }: { from: number; to: number }, content: (string | HTMLElement)[]): Tooltip {
  const dom = made("div", "", "hover-page");
  dom.append(...content);
  return { pos: from, end: to, above: true, create: () => ({ dom }) };
}

export const hovers = (pageFor: PageFor, words: Schema): Extension =>
  hoverTooltip((view, at) => hovered(view, at, pageFor, words));
