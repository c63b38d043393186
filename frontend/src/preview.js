// @ts-check
// The Preview workspace: a page at three widths at once, or at one, or with another laid over it. A page in a frame cannot
// say where it is: after each load the server is asked what it served. With script on it tells how far it is scrolled.
import { ask, pageState, questions, rememberPage, withCode } from "./common.js";

/** The key of a page, whose id has its language behind it where that is not the first: `visit/hours@cy`. */
const keyOf = (id) => id.split("@")[0];
const languageOf = (id) => id.split("@")[1] ?? "";

/** Whether a frame is where it was sent last, or further on: it was served the pages it was sent to, but for those that
    others took the place of. */
function hasArrived(sent, served) {
  if (served.at(-1) === sent.at(-1)) return true;
  let at = 0;
  for (const key of served) if (key === sent[at]) at++;
  return at === sent.length;
}

/** What is known of where a frame went, before it goes anywhere: the keys of pages it was `sent` to and is on its way
    to, the number of the page that was `served` to it last, the number of the load that was `settled` last, and how
    many pages were served whose loads are still `owed`. */
export const nowhere = () => ({ sent: [], served: 0, settled: 0, owed: 0 });

/** What the load with a number was, once the server `told` which pages it served, and what is known then. It was
    `underway` to another page, a `page` of the site, `outside` of the site, or `nothing new`. Each page that was served
    is loaded once; what was served while the server was asked is still to be loaded. */
export function afterLoad(known, load, told) {
  const fresh = told.serial === known.served ? [] : told.keys.slice(known.served - told.serial);
  const key = told.keys.at(-1) ?? null;
  if (key !== null && !hasArrived(known.sent, fresh))
    return { was: "underway", known: fresh.length ? known : { ...known, settled: load } };
  const loads = load - known.settled;
  const due = known.owed + fresh.length;
  return {
    was: loads > due ? "outside" : fresh.length ? "page" : "nothing new",
    key,
    isNext: told.serial === known.served + 1,
    known: { sent: [], served: told.serial, settled: load, owed: Math.max(0, due - loads) },
  };
}

const WALK = 2500; // ms that a walk stays on a page

export const previewWorkspace = () => ({
  askedToCompare: questions(),
  init() {
    if (!this.$refs.ground) return;
    this.state = pageState();
    // In the order of the map, which an object would not keep for keys such as 404.
    this.pages = new Map(this.state.pages);
    this.frames = [];
    this.chosen = this.state.chosen;
    rememberPage(this.chosen);
    this.mount();
    new ResizeObserver(() => this.fit()).observe(this.$refs.ground);
    document.addEventListener("found-page", (event) => this.go(event.detail));
    document.addEventListener("keydown", (event) => this.pressed(event));
    this.$root.addEventListener("change", (event) => event.target.name && this.changed(event.target));
    this.$root.addEventListener("input", (event) => event.target.name === "veil" && this.fit());
    this.$refs.language?.addEventListener("change", () => this.go(this.inLanguage(keyOf(this.chosen))));
    this.$refs.tree.addEventListener("click", (event) => this.pick(event));
    this.$refs.tree.addEventListener("keydown", (event) => this.along(event));
    addEventListener("message", (event) => this.told(event));
  },

  // Settings, which are part of this page's address

  control: (name) =>
    document.querySelector(
      `input[type=radio][name="${name}"]:checked, select[name="${name}"], input[type=text][name="${name}"]`,
    ),
  setting(name) {
    return this.control(name).value;
  },
  get scripted() {
    return !document.querySelector("input[name=script]").checked;
  },
  get on() {
    return [...document.querySelectorAll("input[name=on]:checked")].map((box) => box.value).join("");
  },
  get over() {
    return this.setting("width") === "over";
  },
  changed(field) {
    const here = new URL(location.href);
    const put = (name, value) => (value ? here.searchParams.set(name, value) : here.searchParams.delete(name));
    for (const name of ["width", "state", "other", "otherstate"]) put(name, this.setting(name));
    put("script", this.scripted ? "" : "off");
    put("on", this.on);
    history.replaceState(null, "", here);
    if (field.name !== "veil") this.mount();
  },

  // Frames

  /** Which frames there are: their width, their page, and the state that they show. */
  wanted() {
    const state = this.setting("state");
    const widths = Object.fromEntries(this.state.widths);
    if (this.over) {
      const other = this.pages.has(this.setting("other")) ? this.setting("other") : null;
      return [
        { width: widths.desktop, state },
        { width: widths.desktop, state: this.setting("otherstate"), page: other },
      ];
    }
    const width = this.setting("width");
    return (width === "all" ? Object.values(widths) : [widths[width]]).map((one) => ({ width: one, state }));
  },
  /** New frames: whether script runs, and in what guise pages are, is settled when they are made. */
  mount() {
    this.$refs.laid.hidden = !this.over;
    this.frames = this.wanted().map((wanted, index) => {
      const frame = document.createElement("iframe");
      frame.title = `The generated page, ${wanted.width} pixels wide${this.over && index ? ", laid over" : ""}`;
      frame.setAttribute("sandbox", this.scripted ? "allow-scripts allow-forms" : "allow-forms");
      const guise = `${index + 1}${this.on}${wanted.state ? `k${wanted.state}` : ""}`;
      const token = `${this.state.token}.${guise}`;
      const root = this.state.root.replace(this.state.token, token);
      // Frames are told apart by identity, which Alpine would change.
      const one = { ...wanted, frame, token, root, loads: 0, known: nowhere(), __v_skip: true };
      frame.addEventListener("load", () => this.follow(one));
      this.send(one, this.chosen);
      return one;
    });
    this.$refs.ground.replaceChildren(...this.frames.map((one) => one.frame));
    this.fit();
    this.compare();
  },
  send(one, key) {
    one.known = { ...one.known, sent: [...one.known.sent, one.page ?? key], owed: 0 };
    one.frame.src = this.addressIn(one, key);
  },
  addressIn(one, key) {
    return one.root + this.pages.get(one.page ?? key);
  },
  fit() {
    const { clientWidth, clientHeight } = this.$refs.ground;
    const gap = 12;
    const across = this.over ? this.frames.slice(0, 1) : this.frames;
    const whole = across.reduce((sum, one) => sum + one.width, 0);
    const scale = Math.min(1, (clientWidth - gap * (across.length - 1)) / whole);
    let left = Math.max(0, (clientWidth - whole * scale - gap * (across.length - 1)) / 2);
    for (const one of this.frames) {
      Object.assign(one.frame.style, {
        width: `${one.width}px`,
        height: `${clientHeight / scale}px`,
        transform: `scale(${scale})`,
        left: `${left}px`,
        opacity: this.over && one === this.frames[1] ? document.getElementById("veil").value / 100 : 1,
        pointerEvents: this.over && one === this.frames[1] ? "none" : "auto",
      });
      if (!this.over) left += one.width * scale + gap;
    }
  },

  // What the frames do

  async follow(one) {
    const where = new URL(`${location.pathname}/seen`, location.href);
    where.searchParams.set("token", one.token);
    const load = ++one.loads;
    const { ok, status, data } = await ask("GET", where);
    if (!this.frames.includes(one) || load !== one.loads) return; // another load came meanwhile
    if (!ok) {
      this.say(status ? data.message : "Basilica cannot be reached. Start it again, then load the page again.");
      return;
    }
    const { was, key, isNext, known } = afterLoad(one.known, load, data);
    one.known = known;
    if (was === "outside") {
      this.say("That link leads away from the site, so the preview did not follow it.");
      if (key === null || one.page) this.send(one, this.chosen);
      else this.go(key);
    } else if (was !== "page") {
      return;
    } else if (key === null) {
      this.say("There is no page at that address: this is the site's own page for it.");
      this.$refs.address.textContent = "Not found";
    } else {
      // Going back to the page after a link outside is a load like any other; its notice stays until the next one.
      if (!isNext || !this.kept) this.say("");
      this.kept = false;
      if (one.page || (this.over && one === this.frames[1])) return;
      if (key !== this.chosen) this.go(key, one);
    }
  },
  /** A page that is scrolled takes the others along; a link that is disabled says where it would lead. */
  told(event) {
    const one = this.frames.find((other) => other.frame.contentWindow === event.source);
    const { data } = event;
    if (!one || data?.basilica !== "preview") return;
    if (Number.isFinite(data.scroll))
      for (const other of this.frames) if (other !== one) this.tell(other, { scroll: data.scroll });
    if (data.ready && this.differing?.length) this.tell(one, { mark: this.differing.map((part) => part.selector) });
    if (data.chosen) this.say(`${this.wouldLead(one, data.chosen)} Links are disabled.`);
  },
  /** Where a link would lead, in words of our own: what a page sends is looked up, and never shown. */
  wouldLead(one, href) {
    const path = String(href).split("#")[0].replace(`/${one.token}`, "");
    const known = [...this.pages.values()].find((address) => address === path);
    return known ? `That link would lead to ${known}.` : "That link would lead to no other page of the site.";
  },
  tell(one, message) {
    one.frame.contentWindow.postMessage({ basilica: "workspace", ...message }, "*");
  },

  async compare() {
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
    const { ok, data } = await ask("GET", `${location.pathname}/differing?${new URLSearchParams(asked)}`);
    if (!this.over || this.frames[1] !== other || !isLast()) return;
    const row = (text) => Object.assign(document.createElement("li"), { textContent: text });
    if (!ok) return list.replaceChildren(row(data.message ?? "Basilica cannot be reached."));
    this.differing = data;
    const said = data.map((part) => row(`${part.part}: ${part.words.join("; ")}.`));
    list.replaceChildren(...(said.length ? said : [row("The shared parts are alike.")]));
    for (const one of this.frames) this.tell(one, { mark: data.map((part) => part.selector) });
  },

  say(text) {
    this.kept = text !== "";
    this.$refs.notice.replaceChildren(...withCode(text));
    this.$refs.notice.hidden = text === "";
  },

  // Choosing

  /** All frames go to a page; `there` is one that is there already. */
  go(key, there) {
    this.chosen = key;
    this.$refs.address.textContent = this.pages.get(key);
    if (this.$refs.language) this.$refs.language.value = languageOf(key);
    for (const link of this.$refs.tree.querySelectorAll("a")) {
      if (link.dataset.key === keyOf(key)) {
        link.setAttribute("aria-current", "page");
        link.scrollIntoView({ block: "nearest" });
      } else link.removeAttribute("aria-current");
    }
    rememberPage(keyOf(key));
    for (const one of this.frames) if (one !== there && !one.page) this.send(one, key);
    this.compare();
  },
  pick(event) {
    const link = event.target.closest("a[data-key]");
    if (!link || event.ctrlKey || event.metaKey || event.shiftKey) return;
    event.preventDefault();
    this.go(this.inLanguage(link.dataset.key));
  },
  /** A page in the language that is chosen; where it is not there, in the first one, which is said. */
  inLanguage(key) {
    const language = this.$refs.language?.value;
    if (!language || this.pages.has(`${key}@${language}`)) return language ? `${key}@${language}` : key;
    const name = this.$refs.language.selectedOptions[0].textContent.trim();
    this.say(`This page is not there in ${name}.`);
    return key;
  },
  along(event) {
    const step = { ArrowDown: 1, ArrowUp: -1 }[event.key];
    if (!step) return;
    const links = [...this.$refs.tree.querySelectorAll("a")];
    const next = links[links.indexOf(event.target) + step];
    if (!next) return;
    event.preventDefault();
    next.focus();
    next.click();
  },
  pressed(event) {
    if (event.defaultPrevented || event.ctrlKey || event.metaKey || event.altKey) return;
    if (event.target.closest("input:not([type=checkbox], [type=radio]), select, textarea, dialog")) return;
    if (event.key === "." || event.key === ",") this.step(event.key === "." ? 1 : -1);
    if (event.key === "w") this.walk();
    if (event.key === "Escape" && this.walking) this.walk();
  },
  /** To the next page of the map, or the one before; false at the end. */
  step(by) {
    const keys = [...this.pages.keys()].filter((id) => languageOf(id) === languageOf(this.chosen));
    const next = keys[keys.indexOf(this.chosen) + by];
    if (next === undefined) return false;
    this.go(next);
    return true;
  },
  /** Through every page by itself, from the chosen one on, until the last or until it is stopped. */
  walk() {
    clearInterval(this.walking);
    const on = !this.walking;
    this.walking = on ? setInterval(() => this.step(1) || this.walk(), WALK) : null;
    this.$refs.walk.setAttribute("aria-pressed", String(on));
    if (on && !this.step(1)) this.walk();
  },
  reload() {
    for (const one of this.frames) this.send(one, this.chosen);
  },
});
