// The code beside the plan: from a place in it to the page that is written there, and back.
import type { Done, KnownPage, VersionText } from "../answers.ts";
import { ask } from "../shared/asking.ts";
import { around } from "../shared/elements.ts";
import type { Fix } from "./editorAround.ts";
import type { MapScreen } from "./screen.ts";

const UNREACHED = "Basilica cannot be reached. Try again.";

export class CodePane {
  constructor(private readonly screen: MapScreen) {}

  listen(): void {
    const { lists, page } = this.screen.refs;
    for (const place of [lists, page]) place.addEventListener("click", (event) => this.goToFinding(event));
    lists.addEventListener("click", (event) => {
      const fix = around<HTMLElement>(event, "[data-fix]");
      if (fix) this.screen.editor.mend(JSON.parse(fix.dataset.fix ?? "[]") as Fix[], fix.dataset.said ?? "");
      const mend = around<HTMLElement>(event, "[data-mend]");
      if (mend) this.mendContent(mend.dataset.mend ?? "", Number(mend.dataset.line));
    });
  }

  /** The cursor was moved by hand: choose the page that is written there. */
  moved(line: number, column: number): void {
    const { places } = this.screen.facts;
    const next = places?.findIndex((place) => place[0] > line || (place[0] === line && place[1] > column)) ?? -1;
    const [, , key] = (next < 0 ? places : places?.slice(0, next))?.at(-1) ?? [];
    if (key) this.screen.plan.choose(key);
  }

  show(key: string): void {
    const page = this.screen.facts.pages.find((known) => known.key === key);
    if (page && this.screen.facts.good) this.screen.editor.show(page.line, page.column);
  }

  /** The page that a reference means: a full key, or an end of whole pieces that fits one page only. */
  pageFor(word: string, line: number): KnownPage | null {
    const { pages } = this.screen.facts;
    const own = pages.find((page) => page.line === line);
    if (own && (own.key === word || own.key.endsWith(`/${word}`))) return own;
    const whole = pages.find((page) => page.key === word);
    const fitting = whole ? [whole] : pages.filter((page) => page.key.endsWith(`/${word}`));
    return fitting.length === 1 ? fitting[0] : null;
  }

  /** From a reference to its page; from a page to the list of what leads to it. */
  async lead(): Promise<void> {
    const { screen } = this;
    const [line] = screen.editor.cursor();
    const page = this.pageFor(screen.editor.word(), line);
    if (!page) {
      screen.edits.tell("No page is named at the cursor.", true);
      return;
    }
    screen.plan.choose(page.key);
    if (page.line !== line) return screen.editor.show(page.line, page.column, true);
    screen.side.show("page");
    await screen.side.refresh();
    screen.refs.page.querySelector<HTMLElement>("[data-line]")?.focus();
  }

  goTo(key: string): void {
    this.screen.plan.choose(key);
    this.show(key);
    this.screen.plan.focusNode();
  }

  /** Do the remedy of the finding at the cursor's line. */
  remedy(): void {
    const { editor, edits, facts } = this.screen;
    const [line] = editor.cursor();
    const fix = facts.findings.find((one) => one.line === line && one.fix)?.fix;
    if (fix) editor.mend([fix], "Applied a fix");
    else edits.tell("No finding on this line has a single remedy.", true);
  }

  /** Do the remedy of a finding in the text of a page. */
  private async mendContent(file: string, line: number): Promise<void> {
    const { screen } = this;
    const { ok, data } = await ask<Done>("POST", `${screen.base}/mend-content`, { file, line });
    if (!ok) return screen.saving.say(data.message ?? "Basilica cannot be reached, so this was not done. Try again.");
    screen.edits.tell(`Applied a fix in ${file}.`);
    screen.side.refresh();
    screen.saving.save();
  }

  private goToFinding(event: MouseEvent): void {
    const link = around<HTMLElement>(event, "a[data-line]");
    if (!link) return;
    event.preventDefault();
    const { file, line, column } = link.dataset;
    if (file) this.screen.writing.open(file);
    else this.screen.editor.show(Number(line), Number(column), true);
  }

  /** In the code, what has changed since the latest version. */
  async showDifferences(): Promise<void> {
    const { editor, edits, refs, base } = this.screen;
    const on = refs.differences.getAttribute("aria-pressed") !== "true";
    if (on) {
      const { ok, data } = await ask<VersionText>("GET", `${base}/version-text`);
      if (!ok) {
        edits.tell(UNREACHED, true);
        return;
      }
      editor.compare(data.text.replaceAll("\r\n", "\n"));
      if (data.text === editor.text) edits.tell("Nothing has changed since the latest version.");
    } else editor.compare(null);
    refs.differences.setAttribute("aria-pressed", String(on));
  }

  async copyList(link: HTMLAnchorElement): Promise<void> {
    const { edits, refs } = this.screen;
    const text = await fetch(link.href)
      .then((response) => (response.ok ? response.text() : null))
      .catch(() => null);
    try {
      if (text === null) edits.tell(UNREACHED, true);
      else {
        await navigator.clipboard.writeText(text);
        edits.tell(`Copied ${text.trim().split("\n").length} lines.`);
      }
    } catch {
      edits.tell("The browser did not allow copying; download it as a file instead.", true);
    }
    refs.more.open = false;
  }
}
