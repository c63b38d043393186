// @ts-check
// What every page has: the sheet of shortcuts, the keys that lead from workspace to workspace, and finding a page.
import { ask } from "./common.js";
import { dividable } from "./panes.js";

/** Choose a line of a text, from 1, and bring it into view. */
const showLine = (/** @type {HTMLTextAreaElement} */ text, /** @type {number} */ line) => {
  const lines = text.value.split("\n");
  const start = lines.slice(0, line - 1).join("\n").length + (line > 1 ? 1 : 0);
  text.focus();
  text.setSelectionRange(start, start + (lines[line - 1]?.length ?? 0));
  text.scrollTop = (text.scrollHeight / lines.length) * (line - 3);
};

export const shell = () => ({
  leaving: false,
  init() {
    document.addEventListener("keydown", (event) => {
      if (event.altKey && event.key.toLowerCase() === "p" && this.$refs.finder) {
        event.preventDefault();
        return this.openFinder();
      }
      const at = /** @type {Element} */ (event.target);
      const typing = at.closest("input, textarea, select, [contenteditable=true], dialog");
      if (typing || event.defaultPrevented || event.ctrlKey || event.metaKey || event.altKey) return;
      if (event.key === "?") this.openSheet();
      if (event.key === "/" && this.$refs.finder) {
        event.preventDefault();
        this.openFinder();
      }
      const step = { ".": "next", ",": "prev" }[event.key];
      if (step) document.querySelector(`.stepping a[rel="${step}"]`)?.click();
      const links = document.querySelectorAll(".workspaces a");
      if (/^[0-9]$/.test(event.key)) links[Number(event.key)]?.click();
    });
    document.querySelector(".workspaces [aria-current]")?.scrollIntoView({ block: "nearest", inline: "center" });
    for (const workspace of document.querySelectorAll(".workspace")) dividable(workspace);
    setTimeout(() => this.lookLater(), 400);
    document.addEventListener("stayed", () => this.lookLater());
    if (document.querySelector("[data-working]")) {
      addEventListener("beforeunload", () => (this.leaving = true));
      setTimeout(() => this.look(), 400);
    }
    // Only the list is scrolled, and not the page that holds it.
    const here = document.querySelector(".pages-view .tree [aria-current]");
    let list = here?.parentElement;
    while (list && list !== document.body && list.scrollHeight <= list.clientHeight) list = list.parentElement;
    if (list && list !== document.body) {
      const [inside, around] = [here.getBoundingClientRect(), list.getBoundingClientRect()];
      list.scrollTop += inside.top - around.top - (around.height - inside.height) / 2;
    }
    const text = document.querySelector("textarea[data-line]");
    if (text instanceof HTMLTextAreaElement) showLine(text, Number(text.dataset.line));
    this.$refs.findWords?.addEventListener("input", () => (this.finding = this.find()));
    this.$refs.findWords?.addEventListener("keydown", (event) => this.walkFound(event));
    this.$refs.found?.addEventListener("click", (event) => this.takeFound(event.target.closest("[role=option]")));
  },
  /** Long work is on its way: put in how far it has come, and once it is done, load what it made. Never under
      the hands of somebody who types into a dialog, or is on the way to another page. */
  async look() {
    // Who only looks leaves what is to be said for the page that is loaded then.
    const answer = await fetch(location.href, { headers: { "Only-Looks": "yes" } }).catch(() => null);
    const page = new DOMParser().parseFromString((await answer?.text().catch(() => "")) ?? "", "text/html");
    if (this.leaving) return;
    const now = page.querySelector("[data-working] .progress");
    if (now) document.querySelector("[data-working] .progress").replaceWith(now);
    else if (answer && !document.querySelector("dialog[open]")) return location.reload();
    setTimeout(() => this.look(), 400);
  },
  /** The bar says what was found on the pages once they are checked. */
  async lookLater() {
    const count = /** @type {HTMLElement | null} */ (document.querySelector("[data-later]"));
    if (!count) return;
    const answer = await fetch(count.dataset.later).catch(() => null);
    const html = (await answer?.text().catch(() => "")) ?? ""; // read in any case, so that the request ends
    const done = answer?.status === 200;
    const shown = done && new DOMParser().parseFromString(html, "text/html").querySelector(".count");
    if (shown && count.isConnected) count.replaceWith(shown);
    else if (!answer || answer.status === 202 || !count.isConnected) setTimeout(() => this.lookLater(), 1000);
  },

  openSheet() {
    this.$refs.sheet.showModal();
  },

  // Finding a page

  openFinder() {
    if (this.$refs.finder.open) return;
    this.$refs.finder.showModal();
    this.$refs.findWords.select();
    this.finding = this.find();
  },
  async find() {
    const words = this.$refs.findWords.value;
    const { find } = this.$refs.finder.dataset;
    const { ok, data } = await ask("GET", `${find}?words=${encodeURIComponent(words)}`);
    if (!ok || words !== this.$refs.findWords.value) return;
    this.$refs.found.replaceChildren(...data.map((page, index) => option(page, index)));
    this.$refs.foundCount.textContent = data.length ? "" : "No page matches.";
    this.choose(0);
  },
  options() {
    return [...this.$refs.found.querySelectorAll("[role=option]")];
  },
  choose(index) {
    const options = this.options();
    this.at = Math.max(0, Math.min(index, options.length - 1));
    for (const [place, one] of options.entries()) one.setAttribute("aria-selected", String(place === this.at));
    options[this.at]?.scrollIntoView({ block: "nearest" });
    this.$refs.findWords.setAttribute("aria-activedescendant", options[this.at]?.id ?? "");
  },
  async walkFound(event) {
    const step = { ArrowDown: 1, ArrowUp: -1, PageDown: 8, PageUp: -8 }[event.key];
    if (step) this.choose(this.at + step);
    else if (event.key !== "Enter") return;
    event.preventDefault();
    if (step) return;
    await this.finding; // what was typed last counts, even where its answer is still on the way
    this.takeFound(this.options()[this.at]);
  },
  /** In a workspace that shows pages, the page is chosen there; elsewhere the map opens with it. */
  takeFound(found) {
    if (!found) return;
    this.$refs.finder.close();
    const { key, href } = found.dataset;
    if (document.querySelector(".workspace.map, .workspace.preview, .workspace.checks-view")) {
      return document.dispatchEvent(new CustomEvent("found-page", { detail: key }));
    }
    location.href = document.querySelector(".workspace.pages-view") ? `?page=${encodeURIComponent(key)}` : href;
  },
});

function option(page, index) {
  const row = document.createElement("li");
  Object.assign(row, { id: `found-${index}` });
  row.setAttribute("role", "option");
  Object.assign(row.dataset, { key: page.key, href: page.href });
  const part = (tag, text, name) => Object.assign(document.createElement(tag), { textContent: text, className: name });
  row.append(
    part("strong", page.label, ""),
    part("span", page.above.join(" › "), "quiet"),
    part("code", page.path, ""),
  );
  return row;
}
