// Completion in the map: the words that may stand here, their values, and what can be named.
import type { Completion, CompletionContext, CompletionResult, CompletionSource } from "@codemirror/autocomplete";
import type { KnownNames, KnownPage, SchemaWord } from "../answers.ts";
import { ITEM, placeAt, type Schema, schemaBelow, wordAt } from "./tree.ts";

/** What is offered; a `colour` is shown beside its name. */
export type Offer = Completion & { colour?: string };
/** A kind of value that is completed: by the type of a word, and by what it can be. */
type Kind = { type?: string; values?: string[] };

const asKey = (word: SchemaWord): Offer => ({
  label: word.name,
  apply: `${word.name}: `,
  detail: word.meaning,
  type: "keyword",
});
const asValue = (value: string): Offer => ({ label: value, type: "constant" });
const asPage = (page: KnownPage): Offer => ({ label: page.key, detail: page.title, type: "variable" });
const asColour = ([name, colour]: [string, string]): Offer => ({
  label: colour,
  apply: `"${colour}"`,
  detail: name,
  type: "constant",
  colour,
});
const FIRST = ["page", "group", "file", "label", "url", "auto"]; // what an entry can begin with

/** What a word of the map language means, where it stands as a key at an offset; null for a person's own names. */
export const meaningAt = wordAt;

/** Whether what is typed stands in a comment. */
const inComment = (before: string): boolean => /(^|\s)#/.test(before.replace(/"[^"]*"|'[^']*'/g, ""));

/**
 * A completion source. `tree` is the schema; `pages` gives the pages of the last map without errors, `icons` the names
 * of icons and `drawn` one of them as an element, `names` what else can be named: facts, files, parts, menus, layouts,
 * ends of the header, and colours.
 */
export function completions(
  tree: Schema,
  pages: () => KnownPage[],
  icons: () => Promise<string[]>,
  names: () => KnownNames,
  drawn: (name: string) => Promise<HTMLElement | null> | HTMLElement | null = () => null,
): CompletionSource {
  const valuesOf = async (word: Kind | undefined): Promise<Offer[]> => {
    const type = word?.type ?? "";
    const known = names();
    if (type.startsWith("reference")) return pages().map(asPage);
    if (type === "icon")
      return [...known.files.filter((file) => file.endsWith(".svg")), ...(await icons())].map((name) => ({
        ...asValue(name),
        info: () => drawn(name),
      }));
    if (type === "colour") return Object.entries(known.colours ?? {}).map(asColour);
    const lists: Record<string, Exclude<keyof KnownNames, "colours">> = {
      file: "files",
      part: "parts",
      end: "ends",
      "name of a layout": "layouts",
      "name of a menu": "menus",
    };
    const list = Object.keys(lists).find((name) => type.startsWith(name));
    return list ? (known[lists[list]] ?? []).map(asValue) : (word?.values ?? []).map(asValue);
  };

  return async (context: CompletionContext): Promise<CompletionResult | null> => {
    const { state, pos } = context;
    const line = state.doc.lineAt(pos);
    const before = line.text.slice(0, pos - line.from);
    const fact = /\{fact:([a-z0-9-]*)$/.exec(before);
    if (fact) {
      const end = state.sliceDoc(pos, pos + 1) === "}" ? "" : "}";
      const options = (names().facts ?? []).map((name) => ({ label: name, apply: name + end, type: "constant" }));
      return options.length ? { from: pos - fact[1].length, options, validFor: /^[a-z0-9-]*$/ } : null;
    }
    if (inComment(before)) return null;
    const typed = (/[A-Za-z0-9./-]*$/.exec(before)?.[0] ?? "").replace(/^-+(?=\s|$)/, "");
    const lead = before.slice(0, before.length - typed.length);
    if (!typed && !context.explicit && !/[[{,]\s*$|- $/.test(lead)) return null;
    const place = placeAt(state, pos);
    if (!place) return null;
    const result = (options: Offer[]): CompletionResult | null =>
      options.length ? { from: pos - typed.length, options, validFor: /^[A-Za-z0-9./-]*$/ } : null;

    const value = /([A-Za-z0-9-]+)\s*:\s+$/.exec(lead);
    const path = value || place.open !== "[" ? place.path : place.path.slice(0, -1);
    if (value) {
      const here = schemaBelow(path, tree);
      if (here.of) return result(await valuesOf({ type: here.of }));
      const found = await valuesOf(here.words?.find((word) => word.name === value[1]));
      const below = schemaBelow([...path, value[1]], tree);
      return result(found.length || !below.list ? found : [asValue("auto")]);
    }
    if (place.open === "[") {
      const here = schemaBelow(path, tree);
      if (here.list) return result([...pages().map(asPage), asValue("auto")]);
      const above = schemaBelow(path.slice(0, -1), tree);
      const word = above.words?.find((one) => one.name === path.at(-1));
      return result(await valuesOf(above.of ? { type: above.of } : word));
    }
    const here = schemaBelow(path, tree);
    if (path.at(-1) === ITEM && /- $/.test(lead) && here.section === "entries") {
      const first = (here.words ?? []).filter((word) => FIRST.includes(word.name));
      return result([...pages().map(asPage), ...first.map(asKey), asValue("auto"), asValue("separator")]);
    }
    if (path.at(-1) === ITEM && /- $/.test(lead)) {
      const above = schemaBelow(path.slice(0, -2), tree);
      const found = await valuesOf(
        above.of ? { type: above.of } : above.words?.find((word) => word.name === path.at(-2)),
      );
      return result([...found, ...(here.words ?? []).map(asKey)]);
    }
    if (lead.trim() && place.open !== "{") return null;
    return result((here.words ?? []).filter((word) => !place.there.has(word.name)).map(asKey));
  };
}
