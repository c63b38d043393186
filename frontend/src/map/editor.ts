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
import { bracketMatching, indentUnit } from "@codemirror/language";
import { type Diagnostic, lintGutter, lintKeymap, setDiagnostics } from "@codemirror/lint";
import { diff } from "@codemirror/merge";
import { highlightSelectionMatches, searchKeymap } from "@codemirror/search";
import {
  Annotation,
  Compartment,
  EditorState,
  StateEffect,
  type StateEffectType,
  Text,
  Transaction,
} from "@codemirror/state";
import {
  drawSelection,
  EditorView,
  highlightActiveLine,
  highlightActiveLineGutter,
  highlightSpecialChars,
  keymap,
  lineNumbers,
  type ViewUpdate,
} from "@codemirror/view";
import type { UnderlinedFinding } from "../answers.ts";
import { asMessage } from "../shared/messages.ts";
import { arrived, arrivedLines, codeLooks, swatch } from "./codeLooks.ts";
import { completions, type Offer } from "./completion.ts";
import { changesSince } from "./differences.ts";
import type { Around, Fix } from "./editorAround.ts";
import { hovers, referenceAt } from "./hovering.ts";
import { inverted } from "./pairs.ts";
import type { ChangedFile, Move } from "./store.ts";

/** What a key does, after which nothing else answers to it. */
const done = (act: () => unknown) => (): true => {
  act();
  return true;
};
const fromPlan = Annotation.define<boolean>();
const words = Annotation.define<string>();
/** Pages whose key an act changed, as pairs of old and new: their content goes along, also when the act is undone. */
const moved: StateEffectType<Move[]> = StateEffect.define();
/** Files beside the map that an act changed with it: the name of each, its text before, and its text since. */
const beside: StateEffectType<ChangedFile[]> = StateEffect.define();
const movedBack = invertedEffects.of(({ effects }) => [
  ...effects.filter((effect) => effect.is(moved)).map((effect) => moved.of(inverted.pairs(effect.value))),
  ...effects.filter((effect) => effect.is(beside)).map((effect) => beside.of(inverted.files(effect.value))),
]);

/** Where a line and a column, from 1 and in characters, stand in the document. */
function position(doc: Text, line: number, column: number): number {
  const found = doc.line(Math.min(Math.max(line, 1), doc.lines));
  return found.from + [...found.text].slice(0, column - 1).join("").length;
}

export const TYPING = "Typing";
const ARRIVED = 8000; // ms that lines of somebody else are marked

/** A text with plain line ends as the document has lines, whatever ends these when they are saved. */
const lines = (text: string): Text => Text.of(text.split("\n"));

export class Editor {
  readonly __v_skip = true; // Alpine is to leave it as it is: the editor knows its own state by identity
  private readonly view: EditorView;
  private readonly since = new Compartment();
  /** What each step of the history did. */
  private readonly labels: string[] = [];
  private depth = 0;
  /** What was done last, in words. */
  did = TYPING;
  private waitForQuiet: ReturnType<typeof setTimeout> | undefined;

  constructor(
    parent: HTMLElement,
    text: string,
    private readonly around: Around,
  ) {
    const { known, pages, icons, names, drawn, nonce, saveVersion, pageFor, lead, remedy } = around;
    const ends = text.includes("\r\n") && !/[^\r]\n/.test(text) ? "\r\n" : undefined;
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
          yaml(),
          codeLooks,
          arrivedLines,
          this.since.of([]),
          autocompletion({
            override: [completions(known, pages, icons, names, drawn)],
            icons: false,
            addToOptions: [{ render: (option: Offer) => (option.colour ? swatch(option.colour) : null), position: 10 }],
          }),
          hovers(pageFor, known),
          keymap.of([
            { key: "Mod-s", preventDefault: true, run: done(saveVersion) },
            { key: "Mod-z", preventDefault: true, run: done(around.undo) },
            { key: "F12", run: done(lead) },
            { key: "Alt-Enter", run: done(remedy) },
            ...lintKeymap,
            ...completionKeymap,
            ...searchKeymap,
            ...historyKeymap,
            ...defaultKeymap,
          ]),
          EditorView.contentAttributes.of({ "aria-label": "The page map, as code", tabindex: "0" }),
          EditorView.updateListener.of((update) => this.updated(update)),
        ],
      }),
    });
  }

  /** Show the changes since another text within this one, or (null) no longer. */
  compare(original: string | null): void {
    this.view.dispatch({ effects: this.since.reconfigure(original === null ? [] : changesSince(original)) });
  }

  get text(): string {
    return this.view.state.sliceDoc();
  }

  /** The line and the column of the cursor, from 1. */
  cursor(): [number, number] {
    const { head } = this.view.state.selection.main;
    const line = this.view.state.doc.lineAt(head);
    return [line.number, [...line.text.slice(0, head - line.from)].length + 1];
  }

  /** The reference, or the name, at the cursor. */
  word(): string {
    return referenceAt(this.view.state, this.view.state.selection.main.head)?.text ?? "";
  }

  /**
   * Put another text in place of the whole, as one step with a name that can be undone; what is the same stays. With it
   * go the pages that it moved, and the files that changed with it.
   */
  become(text: string, said: string, pairs: Move[] = [], files: ChangedFile[] = []): void {
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

  /**
   * Take over another text, which somebody else made of this one. It is no step of this history: Undo takes back what
   * was done here, and leaves theirs. Answers the lines that are others now, from 1, and marks them for a while.
   */
  follow(text: string): number[] {
    const next = text.replaceAll("\r\n", "\n");
    const found = diff(this.view.state.doc.toString(), next);
    this.view.dispatch({
      changes: found.map(({ fromA, toA, fromB, toB }) => ({
        from: fromA,
        to: toA,
        insert: lines(next.slice(fromB, toB)),
      })),
      annotations: [Transaction.addToHistory.of(false), fromPlan.of(true)],
    });
    const { doc } = this.view.state;
    const changed = found.flatMap(({ fromB, toB }) => {
      const [first, last] = [doc.lineAt(fromB).number, doc.lineAt(Math.max(fromB, toB - 1)).number];
      return Array.from({ length: last - first + 1 }, (_, at) => first + at);
    });
    const numbers = [...new Set(changed)].sort((one, other) => one - other);
    this.view.dispatch({ effects: arrived.of(numbers.map((number) => doc.line(number).from)) });
    clearTimeout(this.waitForQuiet);
    this.waitForQuiet = setTimeout(() => this.view.dispatch({ effects: arrived.of([]) }), ARRIVED);
    return numbers;
  }

  /** Replace what stands between two places, for each fix, as one step. */
  mend(fixes: Fix[], said: string): void {
    const { doc } = this.view.state;
    const change = ([start, end, text]: Fix) => ({
      from: position(doc, ...start),
      to: position(doc, ...end),
      insert: lines(text),
    });
    this.view.dispatch({
      changes: fixes.map(change),
      annotations: [words.of(said), isolateHistory.of("full")],
    });
  }

  undo(): boolean {
    return undo(this.view);
  }
  redo(): boolean {
    return redo(this.view);
  }

  /** Tell what an update changed, and where the cursor is, where a person put it there. */
  private updated(update: ViewUpdate): void {
    this.track(update);
    const effects = update.transactions.flatMap((transaction) => transaction.effects);
    const files = effects.flatMap((effect) => (effect.is(beside) ? effect.value : []));
    const moves = effects.flatMap((effect) => (effect.is(moved) ? effect.value : []));
    if (update.docChanged || files.length) this.around.changed(moves, files);
    const elsewhere = files.length > 0 && !update.docChanged; // what was done is in another file
    const ours = elsewhere || update.transactions.some((transaction) => transaction.annotation(fromPlan));
    if ((update.selectionSet || update.docChanged) && !ours) this.around.cursor(...this.cursor());
  }

  /** Remember in words what each step of the history did. */
  private track(update: ViewUpdate): void {
    const { state, transactions } = update;
    const theirs = transactions.some((one) => one.annotation(Transaction.addToHistory) === false);
    const back = transactions.some((one) => one.isUserEvent("undo") || one.isUserEvent("redo"));
    const at = undoDepth(state);
    const changes = update.docChanged || transactions.some((one) => one.effects.some((effect) => effect.is(beside)));
    if (changes && back) this.did = "Steps taken back in the map";
    if (changes && !back && !theirs) {
      const said = transactions.map((one) => one.annotation(words)).find(Boolean);
      this.labels.length = Math.min(this.labels.length, at + (at > this.depth ? 0 : 1));
      this.did = said ?? TYPING;
      if (said || at > this.depth) this.labels[at] = this.did;
    }
    this.depth = at;
    if (changes) {
      this.around.told(
        at ? (this.labels[at] ?? TYPING) : null,
        redoDepth(state) ? (this.labels[at + 1] ?? TYPING) : null,
      );
    }
  }

  /** Show a place; with `byHand` the cursor goes there as if the person had put it there. */
  show(line: number, column: number, byHand = false): void {
    const at = position(this.view.state.doc, line, column);
    this.view.dispatch({
      selection: { anchor: at },
      effects: EditorView.scrollIntoView(at, { y: "center" }),
      annotations: byHand ? [] : [fromPlan.of(true)],
    });
    if (byHand) this.view.focus();
  }

  underline(findings: UnderlinedFinding[]): void {
    const { doc } = this.view.state;
    const diagnostics = findings.map((finding): Diagnostic => {
      const from = position(doc, finding.line, finding.column);
      const word = /^[^\s,[\]{}#]+/.exec(doc.sliceString(from, from + 200));
      const { fix } = finding;
      const actions = fix ? [{ name: "Apply fix", apply: () => this.mend([fix], "Applied a fix") }] : [];
      return {
        from,
        to: Math.min(from + (word ? word[0].length : 1), doc.length),
        severity: finding.level === "error" ? "error" : "warning",
        message: `${finding.message} ${finding.remedy}`,
        renderMessage: () => asMessage(`${finding.message} ${finding.remedy}`),
        actions,
      };
    });
    diagnostics.sort((a, b) => a.from - b.from);
    this.view.dispatch(setDiagnostics(this.view.state, diagnostics));
  }
}
