// The content of the chosen page, beside the plan: written there, and saved as it is typed.
import type { WrittenContent } from "../answers.ts";
import { ask } from "../shared/asking.ts";
import { byId, one } from "../shared/elements.ts";
import { choice } from "../shared/messages.ts";
import { type Answer, Contents } from "./contents.ts";
import type { MapScreen } from "./screen.ts";

const AWAY = "Basilica cannot be reached. This stays here and is saved when it can be reached again.";
const USE_THEIRS = "Use the other version (Undo restores mine)";

export class Writing {
  readonly contents: Contents;
  private warned = false;

  constructor(
    private readonly screen: MapScreen,
    prefix: string,
  ) {
    const put = (sent: object) => screen.saving.change(ask<WrittenContent>("PUT", `${screen.base}/content`, sent));
    this.contents = new Contents(put, (key, answer) => this.wrote(key, answer), localStorage, prefix);
  }

  begin(): void {
    this.contents.takeCopies();
    this.show();
  }
  listen(): void {
    this.screen.refs.page.addEventListener("input", ({ target }) => {
      if (!(target instanceof HTMLTextAreaElement) || target.id !== "content-text") return;
      this.contents.typed(target.dataset.key ?? "", target.value);
      this.screen.siteStatus.markTyping();
    });
  }

  /** Open the text of the page whose content file a finding names. */
  async open(file: string): Promise<void> {
    const { screen } = this;
    const key = file.replace(/^content\//, "").replace(/\.[a-z]+$/, "");
    if (!screen.facts.pages.some((page) => page.key === key)) {
      const aside = choice("Archive it", () => {
        screen.saving.say("");
        screen.saving.changed([[key, null]]);
      });
      return screen.saving.say(`${file} belongs to no page of the map. A page of that key would find it again.`, aside);
    }
    screen.side.show("page");
    screen.chosen = key;
    screen.plan.mark();
    screen.code.show(key);
    await screen.side.refresh();
    one<HTMLDetailsElement>(screen.refs.page, ".writing").open = true;
    byId("content-text").focus();
  }

  /** The content of the chosen page is shown anew: what was typed there and is not saved yet stays. */
  show(): void {
    const field = this.field();
    if (!field) return;
    const had = field.value;
    field.value = this.contents.shown(field.dataset.key ?? "", had);
    if (field.value !== had) field.closest("details")?.setAttribute("open", "");
  }
  /** The field for the content of a page, where that page is shown. */
  field(key = this.screen.chosen): HTMLTextAreaElement | null {
    const field = document.querySelector<HTMLTextAreaElement>("#content-text");
    return field?.dataset.key === key ? field : null;
  }
  /** What became of the content of a page that was to be saved. */
  private wrote(key: string, { ok, status, data }: Answer): void {
    const { screen } = this;
    if (ok) {
      screen.saving.versioned = data.saved;
      screen.siteStatus.show(data.status);
      screen.siteStatus.proveSoon(900);
      screen.siteStatus.reachSoon(400);
      if (data.redraw) screen.saving.save(); // the head of a text says what its page is called
    }
    const field = this.field(key);
    if (ok && field) this.follow(field, key);
    const saved = ok && data.merged !== null ? "Saved, together with what somebody else wrote here." : "Saved.";
    const said = ok ? data.folder || saved : status === 0 ? AWAY : (data.message ?? "");
    if (!field) {
      if (!ok || this.warned) screen.edits.tell(ok ? "" : `${key}: ${said}`, !ok);
      this.warned = !ok;
      return;
    }
    const use = (label: string, text: string) =>
      choice(label, () => {
        this.replace(field, text);
        this.contents.settle(key);
      });
    const { text, merged, lost = [] } = ok ? {} : data;
    const choices =
      typeof text === "string" && typeof merged === "string"
        ? [use("Keep both, and mine on the same lines", merged), use(USE_THEIRS, text)]
        : [];
    const replaced = lost.length ? [` Lines of theirs that yours replace: ${lost.join(" / ")}. `] : [];
    byId("content-status").replaceChildren(said, ...replaced, ...choices);
  }
  /** Put another text into a field, as one step that the browser can undo. */
  private replace(field: HTMLTextAreaElement, text: string): void {
    field.focus();
    field.select();
    document.execCommand("insertText", false, text);
  }
  /** Show what was saved with somebody else's words in it, as long as nothing more was typed; the cursor stays. */
  private follow(field: HTMLTextAreaElement, key: string): void {
    const text = this.contents.shown(key, field.value);
    if (field.value === text) return;
    const { selectionStart, selectionEnd } = field;
    field.value = text;
    field.setSelectionRange(selectionStart, selectionEnd);
  }
  /** The content that is open was changed elsewhere: it stays as it is here, and the screen says so. */
  sayOlder(field: HTMLTextAreaElement, text: string): void {
    const show = choice("Show the other version (Undo restores this one)", () => {
      this.contents.shown(field.dataset.key ?? "", text);
      this.replace(field, text);
    });
    byId("content-status").replaceChildren("Somebody else changed this content. ", show);
  }
}
