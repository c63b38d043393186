// A list of the site changes what it says otherwise, or adds pages; what that is, is shown before it is done.
import type { EditorView } from "@codemirror/view";
import type { ListedChanges } from "../answers.ts";
import { nonce, questions } from "../shared/asking.ts";
import { one, put } from "../shared/elements.ts";
import { withCode } from "../shared/messages.ts";
import { withBold } from "./bold.ts";
import { Dialog, UNREACHED } from "./dialog.ts";
import { shownChanges } from "./differences.ts";

const PAUSE = 250; // ms

export class ListDialog extends Dialog<{ text: HTMLTextAreaElement; shown: HTMLElement }> {
  made: ListedChanges | null = null;
  adds = false;
  now = "";
  declined = new Set<string>();
  code: EditorView | null = null;
  askedToLook = questions();
  waits: ReturnType<typeof setTimeout> | undefined = undefined;

  get cannot(): boolean {
    return !this.made || this.made.empty;
  }
  get does(): string {
    return this.adds ? "Add the pages" : "Change the site";
  }
  /** It begins with the list of the site as it is. */
  async open(): Promise<void> {
    const { text } = this.$refs;
    this.declined = new Set();
    this.show();
    text.focus();
    const untouched = text.value === this.now;
    const answer = await fetch(`${this.map.base}/listed.txt`).catch(() => null);
    if (answer?.ok && untouched && text.value === this.now) {
      this.now = await answer.text();
      if (!this.adds) text.value = this.now;
      text.select();
    }
    this.look();
  }
  /** Bold lines are marked, since a text field would take them for others. */
  paste(event: ClipboardEvent): void {
    const html = event.clipboardData?.getData("text/html") ?? "";
    const plain = event.clipboardData?.getData("text/plain") ?? "";
    const marked = html && withBold(plain, html);
    if (!marked || marked === plain) return;
    event.preventDefault();
    document.execCommand("insertText", false, marked); // keeps the field's own Undo
  }
  /** A change that is not ticked is left out. */
  decline({ target }: Event): void {
    if (!(target instanceof HTMLInputElement) || target.name !== "change") return;
    if (target.checked) this.declined.delete(target.value);
    else this.declined.add(target.value);
    this.look();
  }
  lookSoon(): void {
    this.made = null;
    clearTimeout(this.waits);
    this.waits = setTimeout(() => this.look(), PAUSE);
  }
  /** What is asked for now: the list, and where its pages go. */
  private asked(): object {
    const { text } = this.$refs;
    const place = one<HTMLInputElement>(this.$root, "[name=place]:checked").value;
    // The list of the whole site is no list of new pages.
    if (place !== "all" && !this.adds && text.value === this.now) text.value = "";
    else if (place === "all" && this.adds && text.value === "") text.value = this.now;
    this.adds = place !== "all";
    const menu = this.map.intoMenu ? "main" : "";
    return { list: text.value, place, menu, key: this.map.chosen ?? "", declined: [...this.declined] };
  }
  /** Until what is asked for now has been shown there is nothing to take. */
  async look(): Promise<void> {
    clearTimeout(this.waits);
    this.made = null;
    const isLast = this.askedToLook();
    const { ok, data } = await this.map.about<ListedChanges>("list", this.asked());
    if (!isLast()) return;
    const { shown } = this.$refs;
    const seen = shown.querySelector("details")?.open;
    this.made = ok ? data : null;
    this.code?.destroy();
    this.code = null;
    if (!ok) return shown.replaceChildren(...withCode(data.message ?? UNREACHED));
    const active = document.activeElement;
    const ticked = active instanceof HTMLInputElement && active.name === "change" ? active.value : null;
    put(shown, data.shown);
    if (ticked !== null) shown.querySelector<HTMLElement>(`[value="${CSS.escape(ticked)}"]`)?.focus();
    const code = shown.querySelector<HTMLElement>("[data-code]");
    if (seen) code?.parentElement?.setAttribute("open", "");
    this.code = code && shownChanges(code, this.map.text, data.text, nonce());
  }
  take(): void {
    const { made } = this;
    this.close();
    this.now = this.$refs.text.value; // it begins anew the next time
    this.$refs.shown.replaceChildren();
    if (made) this.map.become(made.text, made.words, made.moves, made.files);
  }
}
