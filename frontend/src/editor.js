// @ts-check
// The code editor of the Map workspace.
import { autocompletion, closeBrackets, completionKeymap } from "@codemirror/autocomplete";
import {
  defaultKeymap,
  history,
  historyKeymap,
  invertedEffects,
  isolateHistory,
  redo,
  redoDepth,
  undo,
  undoDepth,
} from "@codemirror/commands";
import { yaml } from "@codemirror/lang-yaml";
import { bracketMatching, HighlightStyle, indentService, indentUnit, syntaxHighlighting } from "@codemirror/language";
import { lintGutter, lintKeymap, setDiagnostics } from "@codemirror/lint";
import { highlightSelectionMatches, searchKeymap } from "@codemirror/search";
import { Annotation, Compartment, EditorState, StateEffect, Text } from "@codemirror/state";
import {
  Decoration,
  drawSelection,
  EditorView,
  highlightActiveLine,
  highlightActiveLineGutter,
  highlightSpecialChars,
  hoverTooltip,
  keymap,
  lineNumbers,
  ViewPlugin,
  WidgetType,
} from "@codemirror/view";
import { tags } from "@lezer/highlight";
import { withCode } from "./common.js";
import { completions, meaningAt } from "./completion.js";
import { changesSince } from "./differences.js";
import { coloursIn } from "./mapTree.js";
import { inverted } from "./saving.js";

/** What a key does, after which nothing else answers to it. */
const done = (act) => () => {
  act();
  return true;
};
const fromPlan = Annotation.define();
const words = Annotation.define();
/** Pages whose key an act changed, as pairs of old and new: their content goes along, also when the act is undone. */
const moved = /** @type {import("@codemirror/state").StateEffectType<any>} */ (StateEffect.define());
/** Files beside the map that an act changed with it: the name of each, its text before, and its text since. */
const beside = /** @type {import("@codemirror/state").StateEffectType<any>} */ (StateEffect.define());
const movedBack = invertedEffects.of(({ effects }) => [
  ...effects.filter((effect) => effect.is(moved)).map((effect) => moved.of(inverted.pairs(effect.value))),
  ...effects.filter((effect) => effect.is(beside)).map((effect) => beside.of(inverted.files(effect.value))),
]);

const colours = HighlightStyle.define([
  { tag: [tags.propertyName, tags.definition(tags.propertyName)], color: "var(--color-lapis)", fontWeight: "600" },
  { tag: tags.comment, color: "var(--color-basalt)" },
  { tag: [tags.string, tags.special(tags.string)], color: "var(--color-malachite)" },
  { tag: [tags.content, tags.attributeValue], color: "var(--color-ink)" },
  { tag: [tags.separator, tags.punctuation, tags.squareBracket, tags.brace], color: "var(--color-basalt)" },
]);

/** A new line stands as deep as the one before it, and one step deeper after a colon. */
const depth = indentService.of((context, at) => {
  const { text } = context.lineAt(at, -1);
  const lead = /^ */.exec(text)[0].length;
  if (!/:\s*(#.*)?$/.test(text)) return lead;
  return lead + (/^ *- /.test(text) ? 4 : 2);
});

function swatch(colour) {
  const dom = Object.assign(document.createElement("span"), { className: "cm-swatch" });
  dom.style.backgroundColor = colour;
  return dom;
}
class Swatch extends WidgetType {
  constructor(colour) {
    super();
    this.colour = colour;
  }
  eq(other) {
    return other.colour === this.colour;
  }
  toDOM() {
    return swatch(this.colour);
  }
}
/** A square of each colour before it. */
function coloursOf(view) {
  const found = view.visibleRanges.flatMap(({ from, to }) =>
    coloursIn(view.state.sliceDoc(from, to)).map((one) =>
      Decoration.widget({ widget: new Swatch(one.colour), side: -1 }).range(from + one.from),
    ),
  );
  return Decoration.set(found, true);
}
const swatches = ViewPlugin.define(
  (view) => ({
    decorations: coloursOf(view),
    update(change) {
      if (change.docChanged || change.viewportChanged) this.decorations = coloursOf(change.view);
    },
  }),
  { decorations: (plugin) => plugin.decorations },
);

/** Where a line and a column, from 1 and in characters, stand in the document. */
function position(doc, line, column) {
  const found = doc.line(Math.min(Math.max(line, 1), doc.lines));
  return found.from + [...found.text].slice(0, column - 1).join("").length;
}

/** A text with plain line ends as the document has lines, whatever ends these when they are saved. */
const lines = (text) => Text.of(text.split("\n"));

export class Editor {
  /**
   * `changed` is called after each change, with the pages that an act moved and the files that it changed; `moved` with
   * line and column when the cursor was moved by hand; `told` with what undo and redo would do, in words; `pageFor` gives
   * the page that a reference means.
   */
  constructor(
    parent,
    text,
    { known, pages, icons, names, drawn, nonce, changed, cursor, saveVersion, told, pageFor, lead, remedy },
  ) {
    const ends = text.includes("\r\n") && !/[^\r]\n/.test(text) ? "\r\n" : undefined;
    this.__v_skip = true; // Alpine is to leave it as it is: the editor knows its own state by identity
    this.told = told;
    this.labels = [];
    this.since = new Compartment();
    this.depth = 0;
    this.view = new EditorView({
      parent,
      state: EditorState.create({
        doc: text,
        extensions: [
          EditorView.cspNonce.of(nonce),
          ends ? EditorState.lineSeparator.of(ends) : [],
          lineNumbers(),
          lintGutter(),
          EditorView.lineWrapping,
          highlightActiveLine(),
          highlightActiveLineGutter(),
          highlightSpecialChars(),
          history({ minDepth: 1000 }),
          movedBack,
          drawSelection(),
          bracketMatching(),
          closeBrackets(),
          highlightSelectionMatches(),
          indentUnit.of("  "),
          depth,
          yaml(),
          syntaxHighlighting(colours),
          swatches,
          this.since.of([]),
          autocompletion({
            override: [completions(known, pages, icons, names, drawn)],
            icons: false,
            addToOptions: [
              { render: (/** @type {any} */ option) => (option.colour ? swatch(option.colour) : null), position: 10 },
            ],
          }),
          hoverTooltip((view, at) => hovered(view, at, pageFor, known)),
          keymap.of([
            { key: "Mod-s", preventDefault: true, run: done(saveVersion) },
            { key: "F12", run: done(lead) },
            { key: "Alt-Enter", run: done(remedy) },
            ...lintKeymap,
            ...completionKeymap,
            ...searchKeymap,
            ...historyKeymap,
            ...defaultKeymap,
          ]),
          EditorView.contentAttributes.of({ "aria-label": "The page map, as code", tabindex: "0" }),
          EditorView.updateListener.of((update) => {
            this.track(update);
            const effects = update.transactions.flatMap((transaction) => transaction.effects);
            const said = (type) => effects.filter((effect) => effect.is(type)).flatMap((effect) => effect.value);
            const files = said(beside);
            if (update.docChanged || files.length) changed(said(moved), files);
            const elsewhere = files.length > 0 && !update.docChanged; // what was done is in another file
            const ours = elsewhere || update.transactions.some((transaction) => transaction.annotation(fromPlan));
            if ((update.selectionSet || update.docChanged) && !ours) cursor(...this.cursor());
          }),
        ],
      }),
    });
  }

  /** Show the changes since another text within this one, or (null) no longer. */
  compare(original) {
    this.view.dispatch({ effects: this.since.reconfigure(original === null ? [] : changesSince(original)) });
  }

  get text() {
    return this.view.state.sliceDoc();
  }

  cursor() {
    const { head } = this.view.state.selection.main;
    const line = this.view.state.doc.lineAt(head);
    return [line.number, [...line.text.slice(0, head - line.from)].length + 1];
  }

  /** The reference, or the name, at the cursor. */
  word() {
    return wordAt(this.view.state, this.view.state.selection.main.head)?.text ?? "";
  }

  /**
   * Put another text in place of the whole, as one step with a name that can be undone; what is the same stays. With it
   * go the pages that it moved, and the files that changed with it.
   */
  become(text, said, pairs = [], files = []) {
    const { doc } = this.view.state;
    const old = doc.toString();
    const next = text.replaceAll("\r\n", "\n");
    let from = 0;
    while (from < old.length && from < next.length && old[from] === next[from]) from++;
    let end = 0;
    while (end < old.length - from && end < next.length - from && old.at(-1 - end) === next.at(-1 - end)) end++;
    this.view.dispatch({
      changes: { from, to: old.length - end, insert: lines(next.slice(from, next.length - end)) },
      annotations: [words.of(said), isolateHistory.of("full"), fromPlan.of(true)],
      effects: [...(pairs.length ? [moved.of(pairs)] : []), ...(files.length ? [beside.of(files)] : [])],
    });
  }

  /** Replace what stands between two places, for each fix, as one step. */
  mend(fixes, said) {
    const { doc } = this.view.state;
    const change = ([start, end, text]) => ({
      from: position(doc, ...start),
      to: position(doc, ...end),
      insert: lines(text),
    });
    this.view.dispatch({
      changes: fixes.map(change),
      annotations: [words.of(said), isolateHistory.of("full")],
    });
  }

  undo() {
    return undo(this.view);
  }
  redo() {
    return redo(this.view);
  }

  /** Remember in words what each step of the history did. */
  track(update) {
    const { state, transactions } = update;
    const back = transactions.some((one) => one.isUserEvent("undo") || one.isUserEvent("redo"));
    const at = undoDepth(state);
    const changes = update.docChanged || transactions.some((one) => one.effects.some((effect) => effect.is(beside)));
    if (changes && !back) {
      const said = transactions.map((one) => one.annotation(words)).find(Boolean);
      this.labels.length = Math.min(this.labels.length, at + (at > this.depth ? 0 : 1));
      if (said || at > this.depth) this.labels[at] = said ?? "Typing";
    }
    this.depth = at;
    if (changes) {
      this.told(at ? (this.labels[at] ?? "Typing") : null, redoDepth(state) ? (this.labels[at + 1] ?? "Typing") : null);
    }
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
      const actions = finding.fix
        ? [{ name: "Apply fix", apply: () => this.mend([finding.fix], "Applied a fix") }]
        : [];
      return {
        from,
        to: Math.min(from + (word ? word[0].length : 1), doc.length),
        severity: severity[finding.level],
        message: `${finding.message} ${finding.remedy}`,
        renderMessage: () => asMessage(`${finding.message} ${finding.remedy}`),
        actions,
      };
    });
    diagnostics.sort((a, b) => a.from - b.from);
    this.view.dispatch(setDiagnostics(this.view.state, diagnostics));
  }
}

function wordAt(state, at) {
  const line = state.doc.lineAt(at);
  for (const match of line.text.matchAll(/[a-z0-9][a-z0-9/-]*/g)) {
    const from = line.from + match.index;
    if (from <= at && at <= from + match[0].length) return { from, to: from + match[0].length, text: match[0] };
  }
  return null;
}

const asMessage = (text) => {
  const said = document.createElement("span");
  said.append(...withCode(text));
  return said;
};
const element = (tag, textContent) => Object.assign(document.createElement(tag), { textContent });

/** What a word of the map language means, and what a reference does: the page's title and address. */
function hovered(view, at, pageFor, words) {
  const known = meaningAt(view.state, at, words);
  if (known) {
    const values = known.values.map((value) => element("code", value));
    return tooltip(known, [element("strong", known.name), " ", known.meaning, ...values.flatMap((one) => [" ", one])]);
  }
  const word = wordAt(view.state, at);
  const page = word && pageFor(word.text, view.state.doc.lineAt(at).number);
  return page ? tooltip(word, [element("strong", page.title), " ", element("code", page.path)]) : null;
}

function tooltip({ from, to }, content) {
  const dom = Object.assign(document.createElement("div"), { className: "hover-page" });
  dom.append(...content);
  return { pos: from, end: to, above: true, create: () => ({ dom }) };
}
