// @ts-check
// Completion in the map: the words that may stand here, their values, and the keys of pages.

const KEY = /^( *)((?:- +)*)([A-Za-z0-9_-]+) *:(?: |$)/;

const asKey = (word) => ({ label: word.name, apply: `${word.name}: `, detail: word.meaning, type: "keyword" });
const asValue = (value) => ({ label: value, type: "constant" });
const PAGES = ["page", "highlight", "section", "except", "breadcrumbs"];
const asPage = (page) => ({ label: page.key, detail: page.title, type: "variable" });

/** How deep a line's own key stands, dashes counted, and the key; null for a line without one. */
function keyOf(text) {
  const found = KEY.exec(text);
  return found && { depth: found[1].length + found[2].length, outer: found[1].length, name: found[3] };
}

/** The keys above a place, from the top: what stands less deep, line by line upwards. */
function pathTo(doc, number, depth) {
  const path = [];
  for (let at = number - 1; at > 0 && depth > 0; at--) {
    const key = keyOf(doc.line(at).text);
    if (!key || key.outer >= depth) continue;
    if (key.depth < depth) path.unshift(key.name);
    depth = Math.min(key.outer, depth);
  }
  return path;
}

/** The keys that stand beside a place already. */
function beside(doc, number, depth) {
  const found = new Set();
  for (const step of [-1, 1]) {
    for (let at = number + step; at > 0 && at <= doc.lines; at += step) {
      const { text } = doc.line(at);
      if (!text.trim() || text.trim().startsWith("#")) continue;
      const key = keyOf(text);
      if (!key || key.depth < depth) break;
      if (key.depth === depth) found.add(key.name);
      if (key.outer < depth) break;
    }
  }
  return found;
}

/** The bracket that is open before the cursor on its line: "{", "[" or "". */
function bracket(before) {
  const open = [];
  for (const sign of before) {
    if (sign === "{" || sign === "[") open.push(sign);
    if (sign === "}" || sign === "]") open.pop();
  }
  return open.at(-1) ?? "";
}

/** The keys whose brackets are open before the cursor on its line: ["head", "counter"] in `head: {counter: {`. */
function openKeys(before) {
  const open = [];
  let last = null;
  for (const [sign, key] of before.matchAll(/([A-Za-z0-9_-]+)\s*:(?=\s|$)|[{}[\]]/g)) {
    if (key) last = key;
    else if (sign === "{" || sign === "[") {
      open.push(last);
      last = null;
    } else open.pop();
  }
  return open.filter((key) => key !== null);
}

/** Whether a key at this depth belongs to an entry of a list: the first key of that has a dash before it. */
function inEntry(doc, number, depth) {
  for (let at = number; at > 0; at--) {
    const key = keyOf(doc.line(at).text);
    if (!key || key.outer >= depth + 1) continue;
    if (key.outer < key.depth && key.depth >= depth) return true;
    if (key.depth < depth) return false;
  }
  return false;
}

/** What may stand as a key below `path`: the words of a section, or null where names are the person's own. In a menu
 * those of an `entry` are others than its own. */
function wordsBelow(path, words, entry = false) {
  const [section] = path;
  if (path.length === 0) return words[""];
  if (path.at(-1) === "mobile" && path.at(-2) === "header") return words.mobile;
  if (section === "checks" && path[1] === "levels") return path.length === 2 ? words.codes : words.level;
  if (section === "pages" && path.length % 2 === 1 && path.at(-1) === "ignore") return words.codes;
  if (section === "pages" && path.length % 2 === 1 && path.at(-1) === "header") return words["header on a page"];
  if (section === "pages" && path.length % 2 === 1 && path.at(-1) === "social") return words.social;
  if (section === "pages" && path.length % 2 === 1 && path.at(-1) === "breadcrumbs")
    return words["levels of breadcrumbs"];
  if (section === "pages") return path.length % 2 === 0 ? words.pages : null;
  if (section === "menus" && path.at(-1) === "auto") return words.auto;
  if (section === "menus") return path.length > 1 ? (entry || path.length > 2 ? words.entries : words.menus) : null;
  if (section === "inlay" && path.at(-1) === "breadcrumbs") return words["own markup"];
  if (section === "inlay" && path[1] === "menus") return path.length === 3 ? words["own markup"] : null;
  if (section === "head" && path.length === 2) return words[path[1]] ?? null;
  return path.length === 1 ? (words[section] ?? null) : null;
}

/** What a word of the map language means, where it stands as a key at an offset; null for a person's own names. */
export function meaningAt(doc, at, words) {
  const line = doc.lineAt(at);
  for (const match of line.text.matchAll(/([A-Za-z0-9_-]+)\s*:(?=\s|$)/g)) {
    const from = line.from + match.index;
    if (at < from || at > from + match[1].length) continue;
    const lead = line.text.slice(0, match.index);
    const own = keyOf(line.text);
    const path = pathTo(doc, line.number, own?.depth ?? /^ *(?:- +)*/.exec(line.text)[0].length);
    const here = [...path, ...openKeys(lead)];
    const entry = inEntry(doc, line.number, own?.depth ?? 0) || /- +[^:]*$|\[[^\]]*$/.test(lead);
    const word = (wordsBelow(here, words, entry) ?? []).find(({ name }) => name === match[1]);
    return word ? { ...word, from, to: from + match[1].length } : null;
  }
  return null;
}

/** A completion source. `words` are the words of each section; `pages` gives the pages of the last map without errors,
 * `names` its facts, and the files that can be linked. */
export function completions(words, pages, icons, names) {
  return async (context) => {
    const { doc } = context.state;
    const line = doc.lineAt(context.pos);
    const before = line.text.slice(0, context.pos - line.from);
    if (/#/.test(before.replace(/\S#/g, ""))) return null;
    const fact = /\{fact:([a-z0-9-]*)$/.exec(before);
    if (fact) {
      const end = doc.sliceString(context.pos, context.pos + 1) === "}" ? "" : "}";
      const options = names().facts.map((name) => ({ label: name, apply: name + end, type: "constant" }));
      return options.length ? { from: context.pos - fact[1].length, options, validFor: /^[a-z0-9-]*$/ } : null;
    }
    const typed = /[A-Za-z0-9/-]*$/.exec(before)[0].replace(/^-+(?=\s|$)/, "");
    const from = context.pos - typed.length;
    const lead = before.slice(0, before.length - typed.length);
    if (!typed && !context.explicit && !/[[{,]\s*$|- $/.test(lead)) return null;
    const result = (options) => (options.length ? { from, options, validFor: /^[A-Za-z0-9/-]*$/ } : null);

    const valuesOf = async (name, known) => {
      if (PAGES.includes(name)) return pages().map(asPage);
      if (name === "file" && known === words.entries) return names().files.map(asValue);
      if (name === "icon") return (await icons()).map(asValue);
      return (known.find((word) => word.name === name)?.values ?? []).map(asValue);
    };
    const depth = /^ *(?:- +)*/.exec(before)[0].length;
    const own = keyOf(line.text);
    const path = pathTo(doc, line.number, own && lead.trim() ? own.depth : Math.min(depth, lead.length));
    const open = bracket(lead);
    const inMenu = path[0] === "menus" || own?.name === "menus";
    if (open === "[" || (open === "{" && inMenu && /page:\s+$/.test(lead))) {
      if (/breadcrumbs: *\[[^\]]*$/.test(lead)) return result(pages().map(asPage));
      return inMenu ? result([...pages().map(asPage), asValue("auto")]) : null;
    }
    const value = /([a-z-]+):\s+$/.exec(lead);
    if (open === "{") {
      const here = [...path, ...openKeys(lead)];
      const known = wordsBelow(here, words, /- +[^:]*$|\[[^\]]*$/.test(lead)) ?? [];
      return result(value ? await valuesOf(value[1], known) : known.map(asKey));
    }
    const entry = inMenu && inEntry(doc, line.number, depth);
    if (value) {
      const found = await valuesOf(value[1], wordsBelow(path, words, entry) ?? []);
      return result(found.length || !inMenu ? found : [asValue("auto")]);
    }
    if (inMenu && /^\s*- $/.test(lead)) {
      const first = words.entries.filter((word) =>
        ["page", "group", "file", "label", "url", "auto"].includes(word.name),
      );
      return result([...pages().map(asPage), ...first.map(asKey), asValue("auto"), asValue("separator")]);
    }
    if (lead.trim()) return null;
    const there = beside(doc, line.number, depth);
    return result((wordsBelow(path, words, entry) ?? []).filter((word) => !there.has(word.name)).map(asKey));
  };
}
