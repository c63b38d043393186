// The Preview workspace: a page at three widths at once, or at one, or with another laid over it. With script on a page
// tells how far it is scrolled.
import type { DifferingPart, PreviewState, ServedPages } from "../answers.ts";
import { ask, pageState, questions } from "../shared/asking.ts";
import { Component } from "../shared/component.ts";
import { all, around, byId, isForBrowser, made, one } from "../shared/elements.ts";
import { type Field, isField } from "../shared/fields.ts";
import { show } from "../shared/messages.ts";
import { rememberPage } from "../shared/remember.ts";
import type { Frame, Wanted } from "./frames.ts";
import { keyOf, languageOf } from "./ids.ts";
import { afterLoad, nowhere } from "./loads.ts";

const WALK = 2500; // ms that a walk stays on a page
const HERE = location.pathname;
const GAP = 12; // px between two frames

type Refs = {
  ground: HTMLElement;
  laid: HTMLElement;
  address: HTMLElement;
  notice: HTMLElement;
  differing: HTMLElement;
  tree: HTMLElement;
  walk: HTMLElement;
  language?: HTMLSelectElement;
};

export class PreviewWorkspace extends Component<Refs> {
  readonly __v_skip = true; // frames are told apart by identity, which Alpine would change
  askedToCompare = questions();
  state: PreviewState | null = null;
  pages = new Map<string, string>();
  frames: Frame[] = [];
  differing: DifferingPart[] = [];
  chosen = "";
  kept = false;
  walking: ReturnType<typeof setInterval> | null = null;

  init(): void {
    if (!this.$refs.ground) return;
    this.state = pageState<PreviewState>();
    // In the order of the map, which an object would not keep for keys such as 404.
    this.pages = new Map(this.state.pages);
    this.chosen = this.state.chosen ?? "";
    rememberPage(this.chosen);
    this.mount();
    new ResizeObserver(() => this.fit()).observe(this.$refs.ground);
    document.addEventListener("found-page", (event) => this.go(event.detail));
    document.addEventListener("keydown", (event) => this.pressed(event));
    this.$root.addEventListener("change", ({ target }) => {
      if (isField(target) && target.name) this.changed(target);
    });
    this.$root.addEventListener("input", ({ target }) => {
      if (isField(target) && target.name === "veil") this.fit();
    });
    this.$refs.language?.addEventListener("change", () => this.go(this.inLanguage(keyOf(this.chosen))));
    this.$refs.tree.addEventListener("click", (event) => this.pick(event));
    this.$refs.tree.addEventListener("keydown", (event) => this.along(event));
    addEventListener("message", (event) => this.told(event));
  }

  // Settings, which are part of this page's address

  setting(name: string): string {
    const control = `input[type=radio][name="${name}"]:checked, select[name="${name}"], input[type=text][name="${name}"]`;
    return one<Field>(document, control).value;
  }
  get scripted(): boolean {
    return !one<HTMLInputElement>(document, "input[name=script]").checked;
  }
  get on(): string {
    return all<HTMLInputElement>(document, "input[name=on]:checked")
      .map((box) => box.value)
      .join("");
  }
  get over(): boolean {
    return this.setting("width") === "over";
  }
  changed(field: Field): void {
    const here = new URL(location.href);
    const put = (name: string, value: string) =>
      value ? here.searchParams.set(name, value) : here.searchParams.delete(name);
    for (const name of ["width", "state", "other", "otherstate"]) put(name, this.setting(name));
    put("script", this.scripted ? "" : "off");
    put("on", this.on);
    history.replaceState(null, "", here);
    if (field.name !== "veil") this.mount();
  }

  // Frames

  /** Which frames there are: their width, their page, and the state that they show. */
  wanted(): Wanted[] {
    const state = this.setting("state");
    const widths = new Map(this.state?.widths);
    const widthOf = (name: string) => widths.get(name) ?? 0;
    if (this.over) {
      const other = this.pages.has(this.setting("other")) ? this.setting("other") : null;
      return [
        { width: widthOf("desktop"), state },
        { width: widthOf("desktop"), state: this.setting("otherstate"), page: other },
      ];
    }
    const width = this.setting("width");
    return (width === "all" ? [...widths.values()] : [widthOf(width)]).map((px) => ({ width: px, state }));
  }
  /** New frames: whether script runs, and in what guise pages are, is settled when they are made. */
  mount(): void {
    const { token: whole = "", root = "" } = this.state ?? {};
    this.$refs.laid.hidden = !this.over;
    this.frames = this.wanted().map((wanted, index) => {
      const frame = made("iframe");
      frame.title = `The generated page, ${wanted.width} pixels wide${this.over && index ? ", laid over" : ""}`;
      frame.setAttribute("sandbox", this.scripted ? "allow-scripts allow-forms" : "allow-forms");
      const guise = `${index + 1}${this.on}${wanted.state ? `k${wanted.state}` : ""}`;
      const token = `${whole}.${guise}`;
      const one = { ...wanted, frame, token, root: root.replace(whole, token), loads: 0, known: nowhere() };
      frame.addEventListener("load", () => this.follow(one));
      this.send(one, this.chosen);
      return one;
    });
    this.$refs.ground.replaceChildren(...this.frames.map((one) => one.frame));
    this.fit();
    this.compare();
  }
  send(one: Frame, key: string): void {
    one.known = { ...one.known, sent: [...one.known.sent, one.page ?? key], owed: 0 };
    one.frame.src = one.root + this.pages.get(one.page ?? key);
  }
  fit(): void {
    const { clientWidth, clientHeight } = this.$refs.ground;
    const across = this.over ? this.frames.slice(0, 1) : this.frames;
    const whole = across.reduce((sum, one) => sum + one.width, 0);
    const scale = Math.min(1, (clientWidth - GAP * (across.length - 1)) / whole);
    let left = Math.max(0, (clientWidth - whole * scale - GAP * (across.length - 1)) / 2);
    for (const one of this.frames) {
      const isVeil = this.over && one === this.frames[1];
      Object.assign(one.frame.style, {
        width: `${one.width}px`,
        height: `${clientHeight / scale}px`,
        transform: `scale(${scale})`,
        left: `${left}px`,
        opacity: isVeil ? Number(byId<HTMLInputElement>("veil").value) / 100 : 1,
        pointerEvents: isVeil ? "none" : "auto",
      });
      if (!this.over) left += one.width * scale + GAP;
    }
  }

  // What the frames do

  async follow(one: Frame): Promise<void> {
    const load = ++one.loads;
    const { ok, status, data } = await ask<ServedPages>(
      "GET",
      `${HERE}/seen?${new URLSearchParams({ token: one.token })}`,
    );
    if (!this.frames.includes(one) || load !== one.loads) return; // another load came meanwhile
    if (!ok) {
      const away = "Basilica cannot be reached. Start it again, then load the page again.";
      return this.say(status ? (data.message ?? "") : away);
    }
    const after = afterLoad(one.known, load, data);
    one.known = after.known;
    if (after.was === "outside") {
      this.say("That link leads away from the site, so the preview did not follow it.");
      if (after.key === null || one.page) this.send(one, this.chosen);
      else this.go(after.key);
    } else if (after.was === "page") this.show(one, after.key, after.isNext);
  }
  /** A page of the site was loaded into a frame. */
  show(one: Frame, key: string | null, isNext: boolean): void {
    if (key === null) {
      this.say("There is no page at that address: this is the site's own page for it.");
      this.$refs.address.textContent = "Not found";
      return;
    }
    // Going back to the page after a link outside is a load like any other; its notice stays until the next one.
    if (!isNext || !this.kept) this.say("");
    this.kept = false;
    if (one.page || (this.over && one === this.frames[1])) return;
    if (key !== this.chosen) this.go(key, one);
  }
  /** A page that is scrolled takes the others along; a link that is disabled says where it would lead. */
  told(event: MessageEvent): void {
    const one = this.frames.find((other) => other.frame.contentWindow === event.source);
    if (!one || event.data?.basilica !== "preview") return;
    const { scroll, ready, chosen } = event.data as { scroll?: unknown; ready?: unknown; chosen?: unknown };
    if (Number.isFinite(scroll)) for (const other of this.frames) if (other !== one) this.tell(other, { scroll });
    if (ready && this.differing.length) this.tell(one, { mark: this.differing.map((part) => part.selector) });
    if (chosen) this.say(`${this.wouldLead(one, String(chosen))} Links are disabled.`);
  }
  /** Where a link would lead, in words of our own: what a page sends is looked up, and never shown. */
  wouldLead(one: Frame, href: string): string {
    const path = href.split("#")[0].replace(`/${one.token}`, "");
    const known = [...this.pages.values()].find((address) => address === path);
    return known ? `That link would lead to ${known}.` : "That link would lead to no other page of the site.";
  }
  tell(one: Frame, message: object): void {
    one.frame.contentWindow?.postMessage({ basilica: "workspace", ...message }, "*");
  }

  async compare(): Promise<void> {
    const list = this.$refs.differing;
    list.hidden = !this.over;
    this.differing = [];
    if (!this.over) return;
    const other = this.frames[1];
    const asked = {
      page: this.chosen,
      state: this.setting("state"),
      other: other.page ?? this.chosen,
      otherstate: this.setting("otherstate"),
    };
    const isLast = this.askedToCompare();
    const { ok, data } = await ask<DifferingPart[]>("GET", `${HERE}/differing?${new URLSearchParams(asked)}`);
    if (!this.over || this.frames[1] !== other || !isLast()) return;
    if (!ok) return list.replaceChildren(made("li", data.message ?? "Basilica cannot be reached."));
    this.differing = data;
    const said = data.map((part) => made("li", `${part.part}: ${part.words.join("; ")}.`));
    list.replaceChildren(...(said.length ? said : [made("li", "The shared parts are alike.")]));
    for (const one of this.frames) this.tell(one, { mark: data.map((part) => part.selector) });
  }

  say(text: string): void {
    this.kept = text !== "";
    show(this.$refs.notice, text);
  }

  // Choosing

  /** All frames go to a page; `there` is one that is there already. */
  go(key: string, there?: Frame): void {
    this.chosen = key;
    this.$refs.address.textContent = this.pages.get(key) ?? "";
    if (this.$refs.language) this.$refs.language.value = languageOf(key);
    for (const link of all(this.$refs.tree, "a")) {
      if (link.dataset.key === keyOf(key)) {
        link.setAttribute("aria-current", "page");
        link.scrollIntoView({ block: "nearest" });
      } else link.removeAttribute("aria-current");
    }
    rememberPage(keyOf(key));
    for (const one of this.frames) if (one !== there && !one.page) this.send(one, key);
    this.compare();
  }
  pick(event: MouseEvent): void {
    const link = around(event, "a[data-key]");
    if (!link || isForBrowser(event)) return;
    event.preventDefault();
    this.go(this.inLanguage(link.dataset.key ?? ""));
  }
  /** A page in the language that is chosen; where it is not there, in the first one, which is said. */
  inLanguage(key: string): string {
    const { language } = this.$refs;
    if (!language?.value) return key;
    if (this.pages.has(`${key}@${language.value}`)) return `${key}@${language.value}`;
    this.say(`This page is not there in ${language.selectedOptions[0].textContent?.trim()}.`);
    return key;
  }
  along(event: KeyboardEvent): void {
    const step = event.key === "ArrowDown" ? 1 : event.key === "ArrowUp" ? -1 : 0;
    if (!step) return;
    const links = all(this.$refs.tree, "a");
    const next = links[links.indexOf(event.target as HTMLElement) + step];
    if (!next) return;
    event.preventDefault();
    next.focus();
    next.click();
  }
  pressed(event: KeyboardEvent): void {
    if (event.defaultPrevented || event.ctrlKey || event.metaKey || event.altKey) return;
    if (around(event, "input:not([type=checkbox], [type=radio]), select, textarea, dialog")) return;
    if (event.key === "." || event.key === ",") this.step(event.key === "." ? 1 : -1);
    if (event.key === "w") this.walk();
    if (event.key === "Escape" && this.walking) this.walk();
  }
  /** To the next page of the map, or the one before; false at the end. */
  step(by: 1 | -1): boolean {
    const keys = [...this.pages.keys()].filter((id) => languageOf(id) === languageOf(this.chosen));
    const next = keys[keys.indexOf(this.chosen) + by];
    if (next === undefined) return false;
    this.go(next);
    return true;
  }
  /** Through every page by itself, from the chosen one on, until the last or until it is stopped. */
  walk(): void {
    if (this.walking) clearInterval(this.walking);
    const on = !this.walking;
    this.walking = on
      ? setInterval(() => {
          if (!this.step(1)) this.walk();
        }, WALK)
      : null;
    this.$refs.walk.setAttribute("aria-pressed", String(on));
    if (on && !this.step(1)) this.walk();
  }
  reload(): void {
    for (const one of this.frames) this.send(one, this.chosen);
  }
}
