// Completion in the map: the words that may stand here, their values, and the keys of pages.

const TOP = /^([a-z-]+)\s*:/;

/** The top-level key that the cursor stands under, "" at the top itself. */
function sectionAt(doc, number) {
  for (let line = number; line > 0; line--) {
    const found = TOP.exec(doc.line(line).text);
    if (found) return line === number ? "" : found[1];
  }
  return "";
}

const asKey = (word) => ({ label: word.name, apply: `${word.name}: `, detail: word.meaning, type: "keyword" });
const asValue = (value) => ({ label: value, type: "constant" });
const asPage = (page) => ({ label: page.key, detail: page.title, type: "variable" });

/** A completion source. `words` are the words of each section; `pages` gives the pages of the last good map. */
export function completions(words, pages) {
  return (context) => {
    const line = context.state.doc.lineAt(context.pos);
    const before = line.text.slice(0, context.pos - line.from);
    if (/#/.test(before.replace(/\S#/g, ""))) return null;
    const typed = /[A-Za-z0-9/-]*$/.exec(before)[0].replace(/^-+(?=\s|$)/, "");
    const from = context.pos - typed.length;
    const lead = before.slice(0, before.length - typed.length);
    if (!typed && !context.explicit && !/[[,]\s*$|- $/.test(lead)) return null;
    const section = /^\s/.test(line.text) ? sectionAt(context.state.doc, line.number) : "";
    const known = words[section] ?? [];
    const value = /^\s*(?:- )?([a-z]+):\s+$/.exec(lead);
    const inMenu = section === "menus";
    const result = (options) => (options.length ? { from, options, validFor: /^[A-Za-z0-9/-]*$/ } : null);

    if (value && !inMenu) return result((known.find((word) => word.name === value[1])?.values ?? []).map(asValue));
    if (inMenu) {
      const refs = pages().map(asPage);
      if (value?.[1] === "page" || /[[,]\s*$/.test(lead)) return result(refs);
      if (value) return result([asValue("auto")]);
      if (/^\s*- $/.test(lead)) return result([...refs, ...known.map(asKey), asValue("auto")]);
      return /^\s*$/.test(lead) ? result(known.map(asKey)) : null;
    }
    return /^\s*$/.test(lead) ? result(known.map(asKey)) : null;
  };
}
