// The Settings workspace: what is typed is tried on the page beside, and written when it is saved.
import type { SettingsState, TriedSettings } from "../answers.ts";
import { ask, pageState, questions } from "../shared/asking.ts";
import { Component } from "../shared/component.ts";
import { all, around, byId, one, put } from "../shared/elements.ts";
import { type Field, isField } from "../shared/fields.ts";
import { show } from "../shared/messages.ts";

const WIDTH = 1100; // px
const PAUSE = 250; // ms

type Refs = {
  ground: HTMLElement;
  frame: HTMLIFrameElement;
  tried: HTMLElement;
  problem: HTMLElement;
  beside: HTMLElement;
};

export class SettingsWorkspace extends Component<Refs> {
  askedToLook = questions();
  state: SettingsState | null = null;
  waits: ReturnType<typeof setTimeout> | undefined = undefined;

  init(): void {
    if (!this.form) return;
    this.state = pageState<SettingsState>();
    this.$root.addEventListener("input", ({ target }) => {
      if (isField(target) && target.closest("#own")) this.typed(target);
    });
    this.$root.addEventListener("reset", () => setTimeout(() => this.look()));
    this.$root.addEventListener("click", (event) => this.another(around(event, "[data-add-pair]")));
    document.addEventListener("stayed", () => this.resume());
    this.colour();
    new ResizeObserver(() => this.fit()).observe(this.$refs.ground);
  }
  /** What was saved is here again, without leaving. */
  resume(): void {
    if (!this.form) return;
    this.state = pageState<SettingsState>();
    this.askedToLook(); // what was on its way is about another form
    this.$refs.tried.textContent = "";
    this.colour();
    this.show(this.state.path);
  }

  get form(): HTMLFormElement | null {
    return document.querySelector<HTMLFormElement>("form#own");
  }

  /** The page is as wide as on a desktop, and as small as it must be to be seen whole. */
  fit(): void {
    const { clientWidth, clientHeight } = this.$refs.ground;
    const scale = Math.min(1, clientWidth / WIDTH);
    Object.assign(this.$refs.frame.style, {
      width: `${clientWidth / scale}px`,
      height: `${clientHeight / scale}px`,
      transform: `scale(${scale})`,
    });
  }

  /** Show a page in the frame, without a step of the history. */
  show(path: string): void {
    this.$refs.frame.contentWindow?.location.replace((this.state?.root ?? "") + path);
  }

  typed(field: Field): void {
    if (field.type === "file") return;
    if (field.dataset.for) byId<HTMLInputElement>(field.dataset.for).value = field.value;
    else this.colour();
    clearTimeout(this.waits);
    this.waits = setTimeout(() => this.look(), PAUSE);
  }

  /** The pickers follow what is typed; the swatches show their colour. */
  colour(): void {
    for (const picker of this.form ? all<HTMLInputElement>(this.form, "input[type=color]") : []) {
      const field = byId<HTMLInputElement>(picker.dataset.for ?? "");
      const said = (field.value || field.placeholder).trim();
      if (/^#[0-9a-f]{6}$/i.test(said)) picker.value = said;
    }
    for (const swatch of all(this.$refs.beside, "[data-colour]"))
      swatch.style.backgroundColor = swatch.dataset.colour ?? "";
  }

  another(button: HTMLElement | null): void {
    const last = button?.previousElementSibling;
    if (!button || !last) return;
    const row = last.cloneNode(true) as HTMLElement;
    for (const field of all<HTMLInputElement>(row, "input")) field.value = field.defaultValue = "";
    button.before(row);
    one(row, "input").focus();
  }

  values(): Record<string, FormDataEntryValue[]> {
    const sent = new FormData(this.form ?? undefined);
    sent.delete("upload");
    return Object.fromEntries([...new Set(sent.keys())].map((name) => [name, sent.getAll(name)]));
  }

  async look(): Promise<void> {
    const isLast = this.askedToLook();
    const { ok, data } = await ask<TriedSettings>("POST", `${location.pathname}/look${location.search}`, {
      token: this.state?.token,
      form: this.values(),
    });
    if (!isLast()) return;
    show(this.$refs.problem, data.message ?? "Basilica cannot be reached. What you typed is still here.");
    if (!ok) return;
    put(this.$refs.beside, data.beside);
    this.colour();
    this.$refs.tried.textContent = data.changed
      ? `${data.changed} ${data.changed === 1 ? "setting is" : "settings are"} tried here, and not saved yet.`
      : "";
    this.show(data.path);
  }
}
