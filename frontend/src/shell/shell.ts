// What every page has: the sheet of shortcuts, the keys that lead from workspace to workspace, and finding a page.

import { Component } from "../shared/component.ts";
import { all, around, one } from "../shared/elements.ts";
import { Finder } from "./finder.ts";
import { dividable } from "./panes.ts";

const PAUSE = 400; // ms between two looks at long work

type Refs = {
  sheet: HTMLDialogElement;
  finder: HTMLDialogElement;
  findWords: HTMLInputElement;
  found: HTMLElement;
  foundCount: HTMLElement;
};

/** Choose a line of a text, from 1, and bring it into view. */
function showLine(text: HTMLTextAreaElement, line: number): void {
  const lines = text.value.split("\n");
  const start = lines.slice(0, line - 1).join("\n").length + (line > 1 ? 1 : 0);
  text.focus();
  text.setSelectionRange(start, start + (lines[line - 1]?.length ?? 0));
  text.scrollTop = (text.scrollHeight / lines.length) * (line - 3);
}

/** Bring the chosen page of a list into view; only the list is scrolled, and not the page that holds it. */
function showChosen(here: HTMLElement): void {
  let list = here.parentElement;
  while (list && list !== document.body && list.scrollHeight <= list.clientHeight) list = list.parentElement;
  if (!list || list === document.body) return;
  const [inside, around] = [here.getBoundingClientRect(), list.getBoundingClientRect()];
  list.scrollTop += inside.top - around.top - (around.height - inside.height) / 2;
}

const parsed = (html: string): Document => new DOMParser().parseFromString(html, "text/html");

export class Shell extends Component<Refs> {
  leaving = false;
  finder: Finder | null = null;

  init(): void {
    const { finder, findWords, found, foundCount } = this.$refs;
    const find = new Finder(finder, findWords, found, foundCount);
    this.finder = find;
    document.addEventListener("keydown", (event) => this.pressed(event, find));
    document.querySelector(".workspaces [aria-current]")?.scrollIntoView({ block: "nearest", inline: "center" });
    for (const workspace of all(document, ".workspace")) dividable(workspace);
    setTimeout(() => this.lookLater(), PAUSE);
    document.addEventListener("stayed", () => this.lookLater());
    if (document.querySelector("[data-working]")) {
      addEventListener("beforeunload", () => {
        this.leaving = true;
      });
      setTimeout(() => this.look(), PAUSE);
    }
    const here = document.querySelector<HTMLElement>(".pages-view .tree [aria-current]");
    if (here) showChosen(here);
    const text = document.querySelector<HTMLTextAreaElement>("textarea[data-line]");
    if (text) showLine(text, Number(text.dataset.line));
  }

  pressed(event: KeyboardEvent, finder: Finder): void {
    if (event.altKey && event.key.toLowerCase() === "p") {
      event.preventDefault();
      return finder.open();
    }
    const typing = around(event, "input, textarea, select, [contenteditable=true], dialog");
    if (typing || event.defaultPrevented || event.ctrlKey || event.metaKey || event.altKey) return;
    if (event.key === "?") this.openSheet();
    if (event.key === "/") {
      event.preventDefault();
      finder.open();
    }
    const step = event.key === "." ? "next" : event.key === "," ? "prev" : "";
    if (step) document.querySelector<HTMLAnchorElement>(`.stepping a[rel="${step}"]`)?.click();
    const links = document.querySelectorAll<HTMLAnchorElement>(".workspaces a");
    if (/^[0-9]$/.test(event.key)) links[Number(event.key)]?.click();
  }

  /** Long work is on its way: put in how far it has come, and once it is done, load what it made. Never under
      the hands of somebody who types into a dialog, or is on the way to another page. */
  async look(): Promise<void> {
    // Who only looks leaves what is to be said for the page that is loaded then.
    const answer = await fetch(location.href, { headers: { "Only-Looks": "yes" } }).catch(() => null);
    const page = parsed((await answer?.text().catch(() => "")) ?? "");
    if (this.leaving) return;
    const now = page.querySelector("[data-working] .progress");
    if (now) one(document, "[data-working] .progress").replaceWith(now);
    else if (answer && !document.querySelector("dialog[open]")) return location.reload();
    setTimeout(() => this.look(), PAUSE);
  }

  /** The bar says what was found on the pages once they are checked. */
  async lookLater(): Promise<void> {
    const count = document.querySelector<HTMLElement>("[data-later]");
    if (!count?.dataset.later) return;
    const answer = await fetch(count.dataset.later).catch(() => null);
    const html = (await answer?.text().catch(() => "")) ?? ""; // read in any case, so that the request ends
    const shown = answer?.status === 200 ? parsed(html).querySelector(".count") : null;
    if (shown && count.isConnected) count.replaceWith(shown);
    else if (!answer || answer.status === 202 || !count.isConnected) setTimeout(() => this.lookLater(), 1000);
  }

  openSheet(): void {
    this.$refs.sheet.showModal();
  }
}
