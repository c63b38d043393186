// The code editor of the Map workspace.
import { autocompletion, closeBrackets, completionKeymap } from "@codemirror/autocomplete";
import { defaultKeymap, history, historyKeymap } from "@codemirror/commands";
import { yaml } from "@codemirror/lang-yaml";
import { HighlightStyle, bracketMatching, indentService, indentUnit, syntaxHighlighting } from "@codemirror/language";
import { lintGutter, lintKeymap, setDiagnostics } from "@codemirror/lint";
import { highlightSelectionMatches, searchKeymap } from "@codemirror/search";
import { Annotation, EditorState } from "@codemirror/state";
import {
  EditorView,
  drawSelection,
  highlightActiveLine,
  highlightActiveLineGutter,
  highlightSpecialChars,
  keymap,
  lineNumbers,
} from "@codemirror/view";
import { tags } from "@lezer/highlight";
import { completions } from "./completion.js";

const fromPlan = Annotation.define();

const colours = HighlightStyle.define([
  { tag: [tags.propertyName, tags.definition(tags.propertyName)], color: "#1f3a93", fontWeight: "600" },
  { tag: tags.comment, color: "#5b6472" },
  { tag: [tags.string, tags.special(tags.string)], color: "#14604a" },
  { tag: [tags.content, tags.attributeValue], color: "#14204a" },
  { tag: [tags.separator, tags.punctuation, tags.squareBracket, tags.brace], color: "#5b6472" },
]);

/** A new line stands as deep as the one before it, and one step deeper after a colon. */
const depth = indentService.of((context, at) => {
  const { text } = context.lineAt(at, -1);
  const lead = /^ */.exec(text)[0].length;
  if (!/:\s*(#.*)?$/.test(text)) return lead;
  return lead + (/^ *- /.test(text) ? 4 : 2);
});

/** Where a line and a column, from 1 and in characters, stand in the document. */
function position(doc, line, column) {
  const found = doc.line(Math.min(Math.max(line, 1), doc.lines));
  return found.from + [...found.text].slice(0, column - 1).join("").length;
}

export class Editor {
  /** `changed` is called after each change, `moved` with line and column when the cursor was moved by hand. */
  constructor(parent, text, { words, pages, nonce, changed, moved, keep }) {
    const lines = text.includes("\r\n") && !/[^\r]\n/.test(text) ? "\r\n" : undefined;
    this.view = new EditorView({
      parent,
      state: EditorState.create({
        doc: text,
        extensions: [
          EditorView.cspNonce.of(nonce),
          lines ? EditorState.lineSeparator.of(lines) : [],
          lineNumbers(),
          lintGutter(),
          EditorView.lineWrapping,
          highlightActiveLine(),
          highlightActiveLineGutter(),
          highlightSpecialChars(),
          history(),
          drawSelection(),
          bracketMatching(),
          closeBrackets(),
          highlightSelectionMatches(),
          indentUnit.of("  "),
          depth,
          yaml(),
          syntaxHighlighting(colours),
          autocompletion({ override: [completions(words, pages)], icons: false }),
          keymap.of([
            { key: "Mod-s", preventDefault: true, run: () => (keep(), true) },
            ...lintKeymap,
            ...completionKeymap,
            ...searchKeymap,
            ...historyKeymap,
            ...defaultKeymap,
          ]),
          EditorView.contentAttributes.of({ "aria-label": "The page map, as code", tabindex: "0" }),
          EditorView.updateListener.of((update) => {
            if (update.docChanged) changed();
            const ours = update.transactions.some((transaction) => transaction.annotation(fromPlan));
            if ((update.selectionSet || update.docChanged) && !ours) moved(...this.cursor());
          }),
        ],
      }),
    });
  }

  get text() {
    return this.view.state.sliceDoc();
  }

  cursor() {
    const { head } = this.view.state.selection.main;
    const line = this.view.state.doc.lineAt(head);
    return [line.number, [...line.text.slice(0, head - line.from)].length + 1];
  }

  /** Replace the whole text, as one step that can be undone. */
  replace(text) {
    this.view.dispatch({ changes: { from: 0, to: this.view.state.doc.length, insert: text } });
  }

  /** Show a place; with `byHand` the cursor goes there as if the person had put it there. */
  show(line, column, byHand = false) {
    const at = position(this.view.state.doc, line, column);
    this.view.dispatch({
      selection: { anchor: at },
      effects: EditorView.scrollIntoView(at, { y: "center" }),
      annotations: byHand ? [] : fromPlan.of(true),
    });
    if (byHand) this.view.focus();
  }

  underline(findings) {
    const { doc } = this.view.state;
    const severity = { error: "error", warning: "warning", advice: "info" };
    const diagnostics = findings.map((finding) => {
      const from = position(doc, finding.line, finding.column);
      const word = /^[^\s,[\]{}#]+/.exec(doc.sliceString(from, from + 200));
      return {
        from,
        to: Math.min(from + (word ? word[0].length : 1), doc.length),
        severity: severity[finding.level],
        message: `${finding.message} ${finding.remedy}`,
      };
    });
    diagnostics.sort((a, b) => a.from - b.from);
    this.view.dispatch(setDiagnostics(this.view.state, diagnostics));
  }
}
