// Where one is in the map: the keys and lists above a place, by the editor's own syntax tree, and the words that the
// schema has there.
import { ensureSyntaxTree, syntaxTree } from "@codemirror/language";
import type { EditorState } from "@codemirror/state";
import type { SyntaxNode, Tree } from "@lezer/common";
import type { MapState, SchemaSection, SchemaWord } from "../answers.ts";

/** The sections of the map language by name. */
export type Schema = MapState["words"];
/** Where something is typed; see `placeAt`. */
export type Place = { path: string[]; there: Set<string>; open: string };
/** What the schema has below a path; see `schemaBelow`. */
export type Below = { section: string | null; words: SchemaWord[] | null; list: string | null; of: string };

/** A step of a path that is an item of a list. */
export const ITEM = "-";

const textOf = (state: EditorState, node: { from: number; to: number }): string => state.sliceDoc(node.from, node.to);
const columnOf = (state: EditorState, at: number): number => at - state.doc.lineAt(at).from;

function treeOf(state: EditorState): Tree {
  return ensureSyntaxTree(state, state.doc.length, 200) ?? syntaxTree(state);
}

/** The node and those above it, from the inside out. */
function* upFrom(node: SyntaxNode | null): Generator<SyntaxNode> {
  for (let at = node; at; at = at.parent) yield at;
}

/** The steps from the top down to a node, that node left out. */
function pathAbove(state: EditorState, node: SyntaxNode): string[] {
  const path: string[] = [];
  let from = node;
  for (const at of upFrom(node.parent)) {
    const key = at.name === "Pair" ? at.getChild("Key") : null;
    if (key && !(from.from === key.from && from.name === "Key")) path.unshift(textOf(state, key));
    if (at.name === "Item") path.unshift(ITEM);
    from = at;
  }
  return path;
}

const keysOf = (state: EditorState, mapping: SyntaxNode, at: number): Set<string> =>
  new Set(
    mapping
      .getChildren("Pair")
      .map((pair) => pair.getChild("Key"))
      .filter((key): key is SyntaxNode => key !== null && (at < key.from || at > key.to))
      .map((key) => textOf(state, key)),
  );

/** The last sign before an offset that is neither a space nor in a line that is a comment; -1 for none. */
function signBefore(state: EditorState, at: number): number {
  for (let line = state.doc.lineAt(at); ; line = state.doc.line(line.number - 1)) {
    const text = line.text.slice(0, Math.min(at, line.to) - line.from);
    if (text.trim() && !text.trim().startsWith("#")) return line.from + text.trimEnd().length;
    if (line.number === 1) return -1;
  }
}

/**
 * Where something that is typed at `at` stands: the `path` of keys and items above it, the keys that are `there`
 * beside it already, and the bracket that is `open` around it ("{", "[" or ""). Null within a text of several lines.
 */
export function placeAt(state: EditorState, at: number): Place | null {
  const tree = treeOf(state);
  for (const node of upFrom(tree.resolveInner(at, -1))) {
    const open = node.name === "FlowMapping" ? "{" : node.name === "FlowSequence" ? "[" : "";
    if (!open || at <= node.from) continue;
    if (at === node.to && "]}".includes(state.sliceDoc(at - 1, at))) continue;
    const path = pathAbove(state, node);
    return { path: open === "[" ? [...path, ITEM] : path, there: keysOf(state, node, at), open };
  }
  const line = state.doc.lineAt(at);
  const [lead, dashes] = /^ *((?:- +)*)/.exec(line.text.slice(0, at - line.from)) ?? ["", ""];
  const column = lead.length - dashes.length;
  const steps = dashes
    .split("-")
    .slice(1)
    .map(() => ITEM);
  const before = line.number > 1 ? signBefore(state, line.from - 1) : -1;
  const path: string[] = [];
  let there = new Set<string>();
  for (const node of before < 0 ? [] : upFrom(tree.resolveInner(before, -1))) {
    const from = columnOf(state, node.from);
    if (node.name === "BlockLiteral" && columnOf(state, node.parent?.from ?? 0) < column) return null;
    const key = node.name === "Pair" ? node.getChild("Key") : null;
    if (key && (from < column || (steps.length && from === column && !path.length))) path.unshift(textOf(state, key));
    if (node.name === "BlockSequence" && from < column) path.unshift(ITEM);
    const first = node.name === "BlockMapping" ? node.getChild("Pair") : null;
    if (first && columnOf(state, first.from) === column + dashes.length) there = keysOf(state, node, at);
  }
  return { path: [...path, ...steps], there, open: "" };
}

/**
 * What the schema has below a path: the `words` that may stand as keys (null where names are people's own), the
 * section of what stands in a `list`, and the type `of` values that people's own names have.
 */
export function schemaBelow(path: string[], tree: Schema): Below {
  let section: string | null = "";
  let [named, of] = [false, ""];
  for (const step of path) {
    const known: SchemaSection | undefined = section === null ? undefined : tree[section];
    if (step === ITEM) {
      if (!named) section = known?.items ?? section;
    } else if (of) of = "";
    else if (named) named = false;
    else {
      const word: SchemaWord | undefined = known?.words.find(({ name }) => name === step);
      // In a menu any other key is a page, with entries below it.
      if (word) [section, named, of] = [word.below ?? null, Boolean(word.named), word.of ?? ""];
      else section = known?.items ?? null;
    }
    if (section === null && !of) return { section: null, words: null, list: null, of: "" };
  }
  const known = section === null ? undefined : tree[section];
  return {
    section,
    words: named || of ? null : (known?.words ?? null),
    list: named ? null : (known?.items ?? null),
    of,
  };
}

/** The word of the schema that stands as a key at an offset, with where it is; null for a person's own names. */
export function wordAt(
  state: EditorState,
  at: number,
  tree: Schema,
): (SchemaWord & { from: number; to: number }) | null {
  for (const node of upFrom(treeOf(state).resolveInner(at, 1))) {
    if (node.name !== "Key") continue;
    const name = textOf(state, node);
    const { words } = schemaBelow(pathAbove(state, node.parent ?? node), tree);
    const word = words?.find((one) => one.name === name);
    return word ? { ...word, from: node.from, to: node.to } : null;
  }
  return null;
}

/** Every colour in some lines, written as CSS writes it in hexadecimal, with where it ends. */
export function coloursIn(text: string): { colour: string; from: number; to: number }[] {
  return [...text.matchAll(/#(?:[0-9a-f]{8}|[0-9a-f]{6}|[0-9a-f]{3,4})(?![\w-])/gi)].map((found) => ({
    colour: found[0],
    from: found.index,
    to: found.index + found[0].length,
  }));
}
