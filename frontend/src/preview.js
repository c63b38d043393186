// The Preview workspace. A page in the frame cannot say where it is: after each load the server is asked what it served.
import { ask, pageState, rememberPage } from "./common.js";

export const previewWorkspace = () => ({
  init() {
    if (!this.$refs.ground) return;
    this.state = pageState();
    this.serial = 0;
    this.chosen = this.state.chosen;
    rememberPage(this.chosen);
    this.mount();
    new ResizeObserver(() => this.fit()).observe(this.$refs.ground);
    document.addEventListener("found-page", (event) => (this.frame.src = this.address(event.detail)));
    this.$refs.tree.addEventListener("click", (event) => this.pick(event));
    this.$refs.tree.addEventListener("keydown", (event) => this.walk(event));
  },
  setting: (name) => document.querySelector(`input[name="${name}"]:checked`).value,
  address(key) {
    return this.state.root + this.state.pages[key];
  },
  /** A new frame: whether script runs is settled when it is made. */
  mount() {
    const frame = document.createElement("iframe");
    frame.title = "The generated page";
    frame.setAttribute("sandbox", this.setting("script") === "on" ? "allow-scripts" : "");
    frame.addEventListener("load", () => this.follow());
    frame.src = this.address(this.chosen);
    this.frame = frame;
    this.$refs.ground.replaceChildren(frame);
    this.fit();
  },
  fit() {
    const ground = this.$refs.ground;
    const width = this.state.widths[this.setting("width")];
    const scale = Math.min(1, ground.clientWidth / width);
    Object.assign(this.frame.style, {
      width: `${width}px`,
      height: `${ground.clientHeight / scale}px`,
      transform: `scale(${scale})`,
      marginInlineStart: `${Math.max(0, (ground.clientWidth - width) / 2)}px`,
    });
  },
  async follow() {
    const frame = this.frame;
    const where = new URL(location.pathname + "/seen", location.href);
    where.searchParams.set("token", this.state.token);
    const { ok, status, data } = await ask("GET", where);
    if (frame !== this.frame) return;
    if (!ok) {
      this.say(status ? data.message : "Basilica cannot be reached. Start it again, then load the page again.");
    } else if (data.serial === this.serial) {
      this.say("That link leads away from the site, so the preview did not follow it.");
      frame.src = this.address(this.chosen);
    } else if (data.key === null) {
      this.serial = data.serial;
      this.say("There is no page at that address: this is the site's own page for it.");
      this.$refs.address.textContent = "Not found";
    } else {
      // Going back to the page after a link outside is a load like any other; its notice stays until the next one.
      if (data.serial !== this.serial + 1 || !this.kept) this.say("");
      this.kept = false;
      this.serial = data.serial;
      this.choose(data.key);
    }
  },
  say(text) {
    this.kept = text !== "";
    this.$refs.notice.textContent = text;
    this.$refs.notice.hidden = text === "";
  },
  choose(key) {
    this.chosen = key;
    this.$refs.address.textContent = this.state.pages[key];
    for (const link of this.$refs.tree.querySelectorAll("a")) {
      if (link.dataset.key === key) {
        link.setAttribute("aria-current", "page");
        link.scrollIntoView({ block: "nearest" });
      } else link.removeAttribute("aria-current");
    }
    rememberPage(key);
  },
  pick(event) {
    const link = event.target.closest("a[data-key]");
    if (!link || event.ctrlKey || event.metaKey || event.shiftKey) return;
    event.preventDefault();
    this.frame.src = this.address(link.dataset.key);
  },
  walk(event) {
    const step = { ArrowDown: 1, ArrowUp: -1 }[event.key];
    if (!step) return;
    const links = [...this.$refs.tree.querySelectorAll("a")];
    const next = links[links.indexOf(event.target) + step];
    if (!next) return;
    event.preventDefault();
    next.focus();
    next.click();
  },
  remember(name) {
    const here = new URL(location.href);
    here.searchParams.set(name, this.setting(name));
    history.replaceState(null, "", here);
  },
  setWidth() {
    this.remember("width");
    this.fit();
  },
  setScript() {
    this.remember("script");
    this.mount();
  },
  reload() {
    this.frame.src = this.address(this.chosen);
  },
});
