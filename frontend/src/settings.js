// @ts-check
// The Settings workspace: what is typed is tried on the page beside, and written when it is saved.
import { ask, pageState, questions, withCode } from "./common.js";

const WIDTH = 1100; // px

export const settingsWorkspace = () => ({
  askedToLook: questions(),
  init() {
    this.form = document.getElementById("own");
    if (!this.form) return;
    this.state = pageState();
    this.$root.addEventListener("input", (event) => event.target.closest("#own") && this.typed(event.target));
    this.$root.addEventListener("reset", () => setTimeout(() => this.look()));
    this.$root.addEventListener("click", (event) => this.another(event.target.closest("[data-add-pair]")));
    document.addEventListener("stayed", () => {
      this.form = document.getElementById("own");
      if (!this.form) return;
      this.state = pageState();
      this.askedToLook(); // what was on its way is about another form
      this.$refs.tried.textContent = "";
      this.colour();
      this.show(this.state.path);
    });
    this.colour();
    new ResizeObserver(() => this.fit()).observe(this.$refs.ground);
  },

  /** The page is as wide as on a desktop, and as small as it must be to be seen whole. */
  fit() {
    const { clientWidth, clientHeight } = this.$refs.ground;
    const scale = Math.min(1, clientWidth / WIDTH);
    Object.assign(this.$refs.frame.style, {
      width: `${clientWidth / scale}px`,
      height: `${clientHeight / scale}px`,
      transform: `scale(${scale})`,
    });
  },

  /** Show a page in the frame, without a step of the history. */
  show(path) {
    this.$refs.frame.contentWindow.location.replace(this.state.root + path);
  },

  typed(field) {
    if (field.type === "file") return;
    if (field.dataset.for) document.getElementById(field.dataset.for).value = field.value;
    else this.colour();
    clearTimeout(this.waits);
    this.waits = setTimeout(() => this.look(), 250);
  },

  /** The pickers follow what is typed; the swatches show their colour. */
  colour() {
    for (const picker of this.form.querySelectorAll("input[type=color]")) {
      const field = document.getElementById(picker.dataset.for);
      const said = (field.value || field.placeholder).trim();
      if (/^#[0-9a-f]{6}$/i.test(said)) picker.value = said;
    }
    for (const swatch of this.$refs.beside.querySelectorAll("[data-colour]"))
      swatch.style.backgroundColor = swatch.dataset.colour;
  },

  another(button) {
    if (!button) return;
    const row = button.previousElementSibling.cloneNode(true);
    for (const field of row.querySelectorAll("input")) field.value = field.defaultValue = "";
    button.before(row);
    row.querySelector("input").focus();
  },

  values() {
    const sent = new FormData(this.form);
    sent.delete("upload");
    return Object.fromEntries([...new Set(sent.keys())].map((name) => [name, sent.getAll(name)]));
  },

  async look() {
    const isLast = this.askedToLook();
    const { ok, data } = await ask("POST", `${location.pathname}/look${location.search}`, {
      token: this.state.token,
      form: this.values(),
    });
    if (!isLast()) return;
    const message = ok ? data.message : (data.message ?? "Basilica cannot be reached. What you typed is still here.");
    this.$refs.problem.replaceChildren(...withCode(message));
    this.$refs.problem.hidden = !message;
    if (!ok) return;
    this.$refs.beside.innerHTML = data.beside;
    this.colour();
    this.$refs.tried.textContent = data.changed
      ? `${data.changed} ${data.changed === 1 ? "setting is" : "settings are"} tried here, and not saved yet.`
      : "";
    this.show(data.path);
  },
});
