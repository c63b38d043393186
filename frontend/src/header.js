// @ts-check
// The Header workspace: settings are tried as they are typed, the page beside is really scrolled, and every number comes
// from the server. A mark on the elevation and the frame follow one another.
import { ask, pageState, questions, withCode } from "./common.js";

const MOST = 4000; // points of a way or a trace

const STATES = ["rest", "over", "small", "hidden"];
const NUMBERS = ["time", "depth", "page", "window", "row", "reach", "top", "height"];

export const headerWorkspace = () => ({
  askedToLook: questions(),
  init() {
    if (!this.$refs.ground) return;
    this.state = pageState();
    this.path = [0];
    this.trace = this.sizes = null;
    this.turns = this.done = 0; // what the page beside was told, and what it has done of it
    this.last = null; // what it was told last, until it is done
    this.$refs.filler.addEventListener("change", () => {
      this.sizes = null;
      this.mount();
    });
    this.mount();
    this.form = document.getElementById("own");
    this.refused = !this.$refs.problem.hidden;
    document.addEventListener("stayed", () => {
      this.refused = !this.$refs.problem.hidden;
      this.resume();
    });
    new ResizeObserver(() => this.fit()).observe(this.$refs.ground);
    addEventListener("message", (event) => this.told(event));
    this.$root.addEventListener("input", ({ target }) => {
      if (!target.closest("#own")) return;
      this.refused = false;
      this.later();
    });
    this.$root.addEventListener("reset", () => setTimeout(() => this.look()));
    this.$root.addEventListener("click", (event) => event.target.closest("#own") && this.begin(event));
    this.$refs.depth.addEventListener("input", () => this.scrollTo(Number(this.$refs.depth.value)));
    this.$root.addEventListener("click", (event) => this.follow(event));
    this.$refs.record.addEventListener("click", () => this.record());
    this.$refs.replay.addEventListener("click", () => this.play(this.trace));
    this.$refs.elevation.addEventListener("pointerdown", (event) => this.drag(event));
    this.$refs.elevation.addEventListener("pointermove", (event) => event.buttons && this.drag(event));
    document.addEventListener("keydown", (event) => this.pressed(event));
    const wanted = new URL(location.href).searchParams.get("trace");
    this.wanted = wanted && document.querySelector(`[data-trace="${CSS.escape(wanted)}"]`) ? wanted : null;
  },
  /** What was saved is here again, without leaving: the page beside is another preview. */
  resume() {
    this.form = document.getElementById("own");
    this.state = pageState();
    this.known = this.sizes = undefined;
    this.arrived = false;
    this.mount();
  },

  // The page beside

  /** The page, in its own words or with a text that fills it, so that it can be scrolled. */
  address() {
    return `${this.state.root}${this.$refs.filler.checked ? ".0f" : ""}${this.state.path}`;
  },
  mount() {
    this.turns += 1;
    const frame = document.createElement("iframe");
    frame.title = "The page, with this header";
    frame.setAttribute("sandbox", "allow-scripts");
    frame.src = this.address();
    // A page that is there is asked where it is; what it said before it was all there may have been lost.
    frame.addEventListener("load", () => {
      this.arrived = true;
      this.tellAgain();
    });
    this.frame = frame;
    this.$refs.ground.replaceChildren(frame);
    this.busy();
    this.fit();
  },
  fit() {
    const { clientWidth, clientHeight } = this.$refs.ground;
    const [width, height] = this.state.window;
    const scale = Math.min(1, clientWidth / width, clientHeight / height);
    Object.assign(this.frame.style, {
      width: `${width}px`,
      height: `${height}px`,
      transform: `scale(${scale})`,
      left: `${Math.max(0, (clientWidth - width * scale) / 2)}px`,
    });
  },
  tell(message) {
    this.turns += 1;
    this.busy();
    // What is kept here is watched by Alpine, which a message cannot carry: a plain copy is sent.
    const plain = JSON.parse(JSON.stringify(message));
    this.last = plain;
    this.frame.contentWindow.postMessage({ basilica: "workspace", turn: this.turns, ...plain }, "*");
  },
  /** What a page that is gone was told and did not do; else how far this one is scrolled. */
  tellAgain() {
    this.tell(this.last?.play ? this.last : { depth: this.path.at(-1) });
  },
  /** The page beside is loading, or has not done yet what it was told. */
  busy() {
    this.$refs.ground.setAttribute("aria-busy", String(this.done !== this.turns));
  },
  told(event) {
    if (event.source !== this.frame.contentWindow || event.data?.basilica !== "preview") return;
    const { at, done, ready } = event.data;
    // Each page says once that it is there. One that is on its way out may still send where it is: it is not that.
    if (ready === true) this.arrived = true;
    if (Number.isInteger(done)) {
      this.done = done;
      if (done === this.turns) this.last = null;
      this.busy();
    }
    // What a page sends is looked at before it is used: numbers, and a state that there is.
    if (!at || !STATES.includes(at.state) || !NUMBERS.every((name) => Number.isFinite(at[name]))) return;
    const fresh = this.arrived;
    this.arrived = false;
    const known = this.sizes;
    this.sizes = { page: at.page, window: at.window, row: at.row, reach: at.reach };
    if (fresh || !known) {
      this.tellAgain();
      this.look();
      if (this.wanted) this.take(this.wanted);
      this.wanted = null;
      this.ask();
    }
    if (this.recording) this.recording.push([Math.round(at.time - this.began), at.depth]);
    this.real = at;
    if (this.path.at(-1) !== at.depth) this.go(at.depth);
    else this.agree();
  },

  // Settings

  fields() {
    return Object.fromEntries(
      [...this.form.elements].filter((one) => one.id.startsWith("own-")).map((one) => [one.name, one.value]),
    );
  },
  later() {
    clearTimeout(this.waits);
    this.waits = setTimeout(() => this.look(), 200);
  },
  /** A starting point fills the form; it is written only when the form is. */
  begin(event) {
    const button = event.target.closest("button[name=start]");
    if (!button?.value) return;
    event.preventDefault();
    const words = this.state.starts[button.value];
    for (const [name, value] of Object.entries(words)) document.getElementById(`own-${name}`).value = value;
    this.say(`${button.textContent}: ${button.title} It is tried here, and not written yet.`);
    this.look();
  },
  asked() {
    const { token, page, screen } = this.state;
    return { token, page, screen, for: this.state.for, windows: this.state.windows, sizes: this.sizes };
  },
  async look() {
    clearTimeout(this.waits); // it looks now
    const isLast = this.askedToLook();
    const { ok, data } = await ask("POST", `${location.pathname}/look`, {
      ...this.asked(),
      form: this.fields(),
      trace: this.trace,
    });
    if (!isLast()) return;
    const away = "Basilica cannot be reached. What you typed is still here.";
    const message = ok ? data.message : (data.message ?? away);
    if (message || !this.refused) {
      // Why a save was refused stays until something is typed.
      this.$refs.problem.hidden = !message;
      this.$refs.problem.replaceChildren(...withCode(message));
    }
    if (!ok) return;
    this.$refs.elevation.innerHTML = data.elevation;
    this.$refs.facts.innerHTML = data.facts;
    this.hold(data.fields);
    const most = this.$refs.elevation.querySelector(".elevation:last-child").dataset.most;
    this.$refs.depth.max = Math.max(Number(most), Math.max(...this.path));
    const key = JSON.stringify([this.fields(), data.message]);
    if (this.known !== undefined && this.known !== key) {
      this.turns += 1;
      this.busy();
      this.frame.contentWindow.location.replace(this.address());
    }
    this.known = key;
    this.mark();
    return data;
  },
  /** What holds where nothing is written, and which declarations come from each number. */
  hold(shown) {
    const list = document.createElement("ul");
    list.innerHTML = shown;
    for (const item of list.children) {
      const field = document.getElementById(`own-${item.dataset.word}`);
      if (field?.tagName === "INPUT") field.placeholder = item.dataset.holds;
      const feeds = document.querySelector(`#feeds-${item.dataset.word} ul`);
      if (feeds && item.firstElementChild) feeds.replaceChildren(...item.firstElementChild.children);
    }
  },

  // The mark, and where the header is there

  scrollTo(depth) {
    this.tell({ depth });
    this.go(depth);
  },
  async go(depth) {
    this.path.push(depth);
    if (this.path.length > MOST) this.path.splice(0, this.path.length - MOST);
    this.mark();
    await this.ask();
  },
  async ask() {
    if (this.asking) {
      this.again = true;
      return;
    }
    do {
      this.again = false;
      this.asking = true;
      const { ok, data } = await ask("POST", `${location.pathname}/moment`, { ...this.asked(), path: this.path });
      this.asking = false;
      if (ok) {
        this.$refs.moment.innerHTML = data.shown;
        this.now = data;
        this.mark();
        this.agree();
      }
    } while (this.again);
  },
  mark() {
    const depth = this.path.at(-1);
    for (const figure of this.$refs.elevation.querySelectorAll(".elevation")) {
      const x =
        Number(figure.dataset.left) + Math.min(depth, Number(figure.dataset.most)) * Number(figure.dataset.scale);
      const line = figure.querySelector(".mark");
      for (const end of ["x1", "x2"]) line.setAttribute(end, x);
    }
    this.$refs.depth.value = depth;
    this.$refs.depthText.textContent = `${Math.round(depth)} px`;
    for (const row of this.$refs.facts.querySelectorAll(".machine tr[data-state]")) {
      row.classList.toggle("live", row.dataset.state === this.now?.state);
    }
  },
  /** Whether the page in the frame shows what was worked out. */
  agree() {
    const { now, real } = this;
    if (!now || !real || this.asking || real.depth !== this.path.at(-1)) return;
    const note = this.$refs.moment.querySelector("p");
    if (!note) return;
    let said = note.querySelector(".frame-says");
    if (!said) {
      said = Object.assign(document.createElement("span"), { className: "frame-says quiet" });
      note.append(document.createElement("br"), said);
    }
    const same =
      now.state === real.state && Math.abs(now.top - real.top) <= 1 && Math.abs(now.height - real.height) <= 1;
    said.textContent = same
      ? "The page beside matches."
      : `The page beside shows ${real.state}, ${Math.round(real.height)} px high at ${Math.round(real.top)} px.`;
  },
  drag(event) {
    const figure = event.target.closest(".elevation");
    const drawing = figure?.querySelector("svg");
    if (!drawing || event.target.closest(".strip")) return;
    const box = drawing.getBoundingClientRect();
    const x = ((event.clientX - box.left) / box.width) * drawing.viewBox.baseVal.width;
    const depth = Math.round((x - Number(figure.dataset.left)) / Number(figure.dataset.scale));
    this.scrollTo(Math.max(0, Math.min(depth, Number(figure.dataset.most))));
    event.preventDefault();
  },

  // Traces

  follow(event) {
    const link = event.target.closest("[data-trace]");
    if (!link || event.ctrlKey || event.metaKey || event.shiftKey) return;
    event.preventDefault();
    this.take(link.dataset.trace);
  },
  async take(trace) {
    this.trace = trace;
    const data = await this.look();
    if (data?.trace.length) this.play(data.trace);
  },
  play(trace) {
    if (!trace?.length) return;
    this.trace = trace;
    this.$refs.replay.disabled = false;
    this.path = [0];
    this.tell({ play: trace });
  },
  record() {
    const on = !this.recording;
    this.$refs.record.setAttribute("aria-pressed", String(on));
    this.$refs.record.textContent = on ? "End the recording" : "Record";
    if (on) {
      this.scrollTo(0);
      this.path = [0];
      this.began = this.real?.time ?? 0;
      this.recording = [[0, 0]];
      return this.say("Scroll the page below. What you do is drawn when you end the recording.");
    }
    const trace = this.recording.filter(([time], at, all) => !at || time >= all[at - 1][0]).slice(-MOST);
    this.recording = null;
    if (trace.length < 3) return this.say("Nothing was scrolled, so there is no trace.");
    this.say(`Recorded ${trace.length} points. Change a setting, and the same trace is drawn against it.`);
    this.trace = trace;
    this.$refs.replay.disabled = false;
    this.look();
  },
  say(text) {
    this.$refs.notice.replaceChildren(...withCode(text));
    this.$refs.notice.hidden = text === "";
  },
  pressed(event) {
    if (event.defaultPrevented || event.ctrlKey || event.metaKey || event.altKey) return;
    if (event.target.closest("input:not([type=range]), select, textarea, dialog")) return;
    if (event.key === "r") this.record();
  },
});
