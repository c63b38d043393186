// @ts-check
// The plan as large as one wants it: folds, size, and the whole of it in small.
import { piece, questions } from "./common.js";

const SIZES = [0.2, 3];

export const sizing = {
  askedForDrawing: questions(),
  /** A drawing replaces the last one; what had the focus has it still. */
  draw(html) {
    this.askedForDrawing(); // one that was asked for before is older
    const { plan } = this.$refs;
    const had = plan.contains(document.activeElement) ? document.activeElement.closest(".node, .cell") : null;
    const title = had?.querySelector("title").textContent;
    plan.innerHTML = html;
    this.sized();
    this.mark();
    this.decorate();
    if (had?.matches(".node")) this.node(had.dataset.key)?.focus({ preventScroll: true });
    else if (had)
      [...plan.querySelectorAll(".cell")].find((cell) => cell.querySelector("title").textContent === title)?.focus();
  },
  async redraw() {
    const query = new URLSearchParams(this.view());
    const isLast = this.askedForDrawing();
    const html = await piece(`${this.base}/drawing?${query}`);
    if (html !== null && isLast()) this.draw(html);
  },
  async redrawForWidth() {
    const width = this.$refs.plan.clientWidth;
    if (!width || Math.abs(width - (this.drawnFor ?? 640)) < 9) return this.overlook();
    this.drawnFor = width;
    await this.redraw();
  },
  fold(key) {
    if (this.turned.has(key)) this.turned.delete(key);
    else this.turned.add(key);
    this.redraw().then(() => this.node(key)?.focus());
  },
  zoomBy(factor) {
    this.scale = Math.min(SIZES[1], Math.max(SIZES[0], this.scale * factor));
    this.sized();
    const chosen = this.node(this.chosen);
    if (chosen) this.keepInView(chosen);
  },
  fit() {
    const svg = this.$refs.plan.querySelector("svg");
    if (!svg) return;
    const { width, height } = svg.viewBox.baseVal;
    const { clientWidth, clientHeight } = this.$refs.plan;
    const whole = Math.min(clientWidth / width, clientHeight / height);
    this.scale = Math.abs(this.scale - whole) < 0.01 ? 1 : Math.min(1, Math.max(SIZES[0], whole));
    this.sized();
  },
  sized() {
    const svg = this.$refs.plan.querySelector("svg");
    if (!svg) return;
    const { width, height } = svg.viewBox.baseVal;
    svg.setAttribute("width", width * this.scale);
    svg.setAttribute("height", height * this.scale);
    this.$refs.scale.textContent = `${Math.round(this.scale * 100)}%`;
    this.overlook();
  },
  /** The whole plan in small, with what is in view, where not all of it is. */
  overlook() {
    const svg = this.$refs.plan.querySelector("svg");
    const canvas = this.$refs.overview;
    const { clientWidth, clientHeight, scrollLeft, scrollTop } = this.$refs.plan;
    const size = svg?.viewBox.baseVal;
    const larger = size && (size.width * this.scale > clientWidth + 2 || size.height * this.scale > clientHeight + 2);
    canvas.hidden = !larger;
    if (!larger) return;
    const small = Math.min(canvas.width / size.width, canvas.height / size.height);
    const paint = canvas.getContext("2d");
    const colours = getComputedStyle(document.documentElement);
    const colour = (name) => colours.getPropertyValue(`--color-${name}`);
    paint.clearRect(0, 0, canvas.width, canvas.height);
    for (const [selector, name] of [
      [".cell > rect", "bar"],
      [".node > rect", "edge"],
      [".node.here > rect", "gold"],
    ]) {
      paint.fillStyle = colour(name);
      for (const rect of svg.querySelectorAll(selector)) {
        const [x, y, w, h] = ["x", "y", "width", "height"].map((name) => rect[name].baseVal.value * small);
        paint.fillRect(x, y, Math.max(w, 1), Math.max(h, 1));
      }
    }
    paint.strokeStyle = colour("lapis");
    paint.lineWidth = 1.5;
    const s = small / this.scale;
    paint.strokeRect(scrollLeft * s + 1, scrollTop * s + 1, clientWidth * s - 2, clientHeight * s - 2);
    this.small = s;
  },
  panTo(event) {
    const box = this.$refs.overview.getBoundingClientRect();
    const { clientWidth, clientHeight } = this.$refs.plan;
    this.$refs.plan.scrollTo(
      (event.clientX - box.left) / this.small - clientWidth / 2,
      (event.clientY - box.top) / this.small - clientHeight / 2,
    );
  },
  /** The wheel with Ctrl changes the size; the middle button, or the ground, drags the view. */
  beginPan(event) {
    if (event.target.closest("a") && event.button !== 1) return;
    if (event.button !== 0 && event.button !== 1) return;
    const ground = this.$refs.plan;
    const start = [event.clientX + ground.scrollLeft, event.clientY + ground.scrollTop];
    const moving = (to) => ground.scrollTo(start[0] - to.clientX, start[1] - to.clientY);
    const end = () => {
      removeEventListener("pointermove", moving);
      removeEventListener("pointerup", end);
    };
    addEventListener("pointermove", moving);
    addEventListener("pointerup", end);
    if (event.button === 1) event.preventDefault();
  },
};
