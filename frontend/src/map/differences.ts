// Two texts held against each other in the editor: side by side, or as changes within one.
import { yaml } from "@codemirror/lang-yaml";
import { MergeView, unifiedMergeView } from "@codemirror/merge";
import { EditorState, type Extension } from "@codemirror/state";
import { EditorView, lineNumbers } from "@codemirror/view";
import { made } from "../shared/elements.ts";

const FOLDED = { margin: 2, minSize: 6 };

const plain = (nonce: string, label: string, editable: boolean): Extension[] => [
  EditorView.cspNonce.of(nonce),
  EditorView.lineWrapping,
  EditorView.contentAttributes.of({ "aria-label": label, tabindex: "0" }),
  EditorState.readOnly.of(!editable),
  lineNumbers(),
  yaml(),
];

/** The changes of a text since another, as an extension of the editor that has the text. */
export const changesSince = (original: string): Extension =>
  unifiedMergeView({ original, mergeControls: false, gutter: true });

/** Theirs on the left, and on the right the text put together, in which each place can still be changed or taken over. */
export function sideBySide(parent: HTMLElement, theirs: string, together: string, nonce: string): MergeView {
  const view = new MergeView({
    parent,
    a: { doc: theirs, extensions: plain(nonce, "Theirs", false) },
    b: { doc: together, extensions: plain(nonce, "Put together", true) },
    revertControls: "a-to-b",
    collapseUnchanged: FOLDED,
    renderRevertControl: () => Object.assign(made("button", "→"), { type: "button", title: "Use theirs here" }),
  });
  return Object.assign(view, { __v_skip: true });
}

/** A text that cannot be changed, with what differs in it from another. */
export function shownChanges(parent: HTMLElement, original: string, text: string, nonce: string): EditorView {
  const view = new EditorView({
    parent,
    doc: text,
    extensions: [
      ...plain(nonce, "The map that will be made, with its changes", false),
      unifiedMergeView({ original, mergeControls: false, gutter: true, collapseUnchanged: FOLDED }),
    ],
  });
  return Object.assign(view, { __v_skip: true });
}
