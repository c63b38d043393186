// Finding a page by a few letters, from every screen.
import type { FoundPage } from "../answers.ts";
import { ask } from "../shared/asking.ts";
import { all, around, made } from "../shared/elements.ts";

const STEPS: Record<string, number> = { ArrowDown: 1, ArrowUp: -1, PageDown: 8, PageUp: -8 };

export class Finder {
  readonly __v_skip = true; // nothing that Alpine should watch
  at = 0;
  finding: Promise<void> = Promise.resolve();

  constructor(
    private readonly dialog: HTMLDialogElement,
    private readonly words: HTMLInputElement,
    private readonly found: HTMLElement,
    private readonly count: HTMLElement,
  ) {
    words.addEventListener("input", () => {
      this.finding = this.find();
    });
    words.addEventListener("keydown", (event) => this.walk(event));
    found.addEventListener("click", (event) => this.take(around(event, "[role=option]")));
  }

  open(): void {
    if (this.dialog.open) return;
    this.dialog.showModal();
    this.words.select();
    this.finding = this.find();
  }

  async find(): Promise<void> {
    const words = this.words.value;
    const { ok, data } = await ask<FoundPage[]>(
      "GET",
      `${this.dialog.dataset.find}?words=${encodeURIComponent(words)}`,
    );
    if (!ok || words !== this.words.value) return;
    this.found.replaceChildren(...data.map(option));
    this.count.textContent = data.length ? "" : "No page matches.";
    this.choose(0);
  }

  options(): HTMLElement[] {
    return all(this.found, "[role=option]");
  }

  choose(index: number): void {
    const options = this.options();
    this.at = Math.max(0, Math.min(index, options.length - 1));
    for (const [place, one] of options.entries()) one.setAttribute("aria-selected", String(place === this.at));
    options[this.at]?.scrollIntoView({ block: "nearest" });
    this.words.setAttribute("aria-activedescendant", options[this.at]?.id ?? "");
  }

  async walk(event: KeyboardEvent): Promise<void> {
    const step = STEPS[event.key];
    if (step) this.choose(this.at + step);
    else if (event.key !== "Enter") return;
    event.preventDefault();
    if (step) return;
    await this.finding; // what was typed last counts, even where its answer is still on the way
    this.take(this.options()[this.at]);
  }

  /** In a workspace that shows pages, the page is chosen there; elsewhere the map opens with it. */
  take(found: HTMLElement | null | undefined): void {
    if (!found) return;
    this.dialog.close();
    const { key = "", href = "" } = found.dataset;
    if (document.querySelector(".workspace.map, .workspace.preview, .workspace.checks-view")) {
      document.dispatchEvent(new CustomEvent("found-page", { detail: key }));
      return;
    }
    location.href = document.querySelector(".workspace.pages-view") ? `?page=${encodeURIComponent(key)}` : href;
  }
}

function option(page: FoundPage, index: number): HTMLLIElement {
  const row = Object.assign(made("li"), { id: `found-${index}` });
  row.setAttribute("role", "option");
  Object.assign(row.dataset, { key: page.key, href: page.href });
  row.append(made("strong", page.label), made("span", page.above.join(" › "), "quiet"), made("code", page.path));
  return row;
}
