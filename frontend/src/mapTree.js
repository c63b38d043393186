// @ts-check
// Where one is in the map: the keys and lists above a place, by the editor's own syntax tree, and the words that the
// schema has there.
import { ensureSyntaxTree, syntaxTree } from "@codemirror/language";

/** A step of a path that is an item of a list. */
export const ITEM = "-";

const textOf = (state, node) => state.sliceDoc(node.from, node.to);
const columnOf = (state, at) => at - state.doc.lineAt(at).from;

function treeOf(state) {
  return ensureSyntaxTree(state, state.doc.length, 200) ?? syntaxTree(state);
}

/** The node and those above it, from the inside out. */
function* upFrom(node) {
  for (let at = node; at; at = at.parent) yield at;
}

/** The steps from the top down to a node, that node left out. */
function pathAbove(state, node) {
  const path = [];
  for (let [at, from] = [node.parent, node]; at; [at, from] = [at.parent, at]) {
    const key = at.name === "Pair" && at.getChild("Key");
    if (key && !(from.from === key.from && from.name === "Key")) path.unshift(textOf(state, key));
    if (at.name === "Item") path.unshift(ITEM);
  }
  return path;
}

const keysOf = (state, mapping, at) =>
  new Set(
    mapping
      .getChildren("Pair")
      .map((pair) => pair.getChild("Key"))
      .filter((key) => key && (at < key.from || at > key.to))
      .map((key) => textOf(state, key)),
  );

/** The last sign before an offset that is neither a space nor in a line that is a comment; -1 for none. */
function signBefore(state, at) {
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
export function placeAt(state, at) {
  const tree = treeOf(state);
  for (const node of upFrom(tree.resolveInner(at, -1))) {
    const open = { FlowMapping: "{", FlowSequence: "[" }[node.name];
    if (!open || at <= node.from) continue;
    if (at === node.to && "]}".includes(state.sliceDoc(at - 1, at))) continue;
    const path = pathAbove(state, node);
    return { path: open === "[" ? [...path, ITEM] : path, there: keysOf(state, node, at), open };
  }
  const line = state.doc.lineAt(at);
  const [lead, dashes] = /^ *((?:- +)*)/.exec(line.text.slice(0, at - line.from));
  const column = lead.length - dashes.length;
  const steps = dashes
    .split("-")
    .slice(1)
    .map(() => ITEM);
  const before = line.number > 1 ? signBefore(state, line.from - 1) : -1;
  const path = [];
  let there = new Set();
  for (const node of before < 0 ? [] : upFrom(tree.resolveInner(before, -1))) {
    const from = columnOf(state, node.from);
    if (node.name === "BlockLiteral" && columnOf(state, node.parent.from) < column) return null;
    const key = node.name === "Pair" && node.getChild("Key");
    if (key && (from < column || (steps.length && from === column && !path.length))) path.unshift(textOf(state, key));
    if (node.name === "BlockSequence" && from < column) path.unshift(ITEM);
    const first = node.name === "BlockMapping" && node.getChild("Pair");
    if (first && columnOf(state, first.from) === column + dashes.length) there = keysOf(state, node, at);
  }
  return { path: [...path, ...steps], there, open: "" };
}

/**
 * What the schema has below a path: the `words` that may stand as keys (null where names are people's own), the
 * section of what stands in a `list`, and the type `of` values that people's own names have.
 */
export function schemaBelow(path, tree) {
  let [section, named, of] = ["", false, ""];
  for (const step of path) {
    const known = tree[section];
    if (step === ITEM) {
      if (!named) section = known?.items ?? section;
    } else if (of) of = "";
    else if (named) named = false;
    else {
      const word = known?.words.find(({ name }) => name === step);
      // In a menu any other key is a page, with entries below it.
      if (word) [section, named, of] = [word.below ?? null, Boolean(word.named), word.of ?? ""];
      else section = known?.items ?? null;
    }
    if (section === null && !of) return { section: null, words: null, list: null, of: "" };
  }
  const known = tree[section];
  return {
    section,
    words: named || of ? null : (known?.words ?? null),
    list: named ? null : (known?.items ?? null),
    of,
  };
}

/** The word of the schema that stands as a key at an offset, with where it is; null for a person's own names. */
export function wordAt(state, at, tree) {
  for (const node of upFrom(treeOf(state).resolveInner(at, 1))) {
    if (node.name !== "Key") continue;
    const name = textOf(state, node);
    const { words } = schemaBelow(pathAbove(state, node.parent), tree);
    const word = words?.find((one) => one.name === name);
    return word ? { ...word, from: node.from, to: node.to } : null;
  }
  return null;
}

/** Every colour in some lines, written as CSS writes it in hexadecimal, with where it ends. */
export function coloursIn(text) {
  return [...text.matchAll(/#(?:[0-9a-f]{8}|[0-9a-f]{6}|[0-9a-f]{3,4})(?![\w-])/gi)].map((found) => ({
    colour: found[0],
    from: found.index,
    to: found.index + found[0].length,
  }));
}
