// The plan: choosing, walking, naming in place, dragging, size, folds, and the marks of what changed.
import { piece, rememberPage } from "./common.js";

const FAR = 5;
const SIZES = [0.2, 3];

export const plan = {
  /** What the server needs to draw: how wide, what is chosen, which folds were turned. */
  view() {
    return { width: this.$refs.plan.clientWidth, chosen: this.chosen, turned: [...this.turned].join(" ") };
  },

  // Choosing

  choose(key) {
    if (key === this.chosen) return;
    this.chosen = key;
    if (!this.node(key) && this.facts.pages.some((page) => page.key === key)) this.redraw();
    else this.mark();
    this.refreshPage();
  },
  nodes() {
    return [...this.$refs.plan.querySelectorAll("a.node")];
  },
  node(key) {
    return this.nodes().find((node) => node.dataset.key === key);
  },
  focusNode() {
    this.node(this.chosen)?.focus({ preventScroll: true });
  },

  /** Gold for the chosen page, for those above it, and for the entry that is lit on it. */
  mark() {
    const nodes = new Map(this.nodes().map((node) => [node.dataset.key, node]));
    for (const lit of this.$refs.plan.querySelectorAll(".here, .way-here")) lit.classList.remove("here", "way-here");
    const chosen = nodes.get(this.chosen);
    for (const node of nodes.values()) {
      node.removeAttribute("aria-current");
      // Tab leads to the chosen page alone; arrows lead on from there.
      node.setAttribute("tabindex", node === (chosen ?? nodes.values().next().value) ? "0" : "-1");
    }
    for (const [index, cell] of [...this.$refs.plan.querySelectorAll(".cell")].entries()) {
      cell.setAttribute("tabindex", index ? "-1" : "0");
    }
    if (!chosen) return;
    chosen.classList.add("here");
    chosen.setAttribute("aria-current", "true");
    this.stem(this.chosen)?.classList.add("way-here");
    for (let up = nodes.get(chosen.dataset.parent); up; up = nodes.get(up.dataset.parent)) {
      up.classList.add("way-here");
      this.stem(up.dataset.key)?.classList.add("way-here");
    }
    const { lights } = chosen.dataset;
    if (lights) this.$refs.plan.querySelector(`.cell[data-number="${lights}"]`)?.classList.add("here");
    for (const tie of this.$refs.plan.querySelectorAll(".tie")) {
      if (tie.dataset.to === this.chosen) tie.classList.add("way-here");
    }
    this.keepInView(chosen);
    rememberPage(this.chosen);
    this.markEntries();
  },
  /** Scroll the plan, and nothing around it, until a page is in view. */
  keepInView(node) {
    const ground = this.$refs.plan;
    const [box, view] = [node.querySelector("rect").getBoundingClientRect(), ground.getBoundingClientRect()];
    const by = (from, to, start, end) => (from < start ? from - start : to > end ? to - end : 0);
    ground.scrollBy(
      by(box.left - 8, box.right + 8, view.left, view.left + ground.clientWidth),
      by(box.top - 8, box.bottom + 8, view.top, view.top + ground.clientHeight),
    );
  },
  /** In the lists of menus, the entries of the chosen page are where one is. */
  markEntries() {
    for (const entry of this.$refs.menuLists.querySelectorAll(".entry")) {
      entry.classList.toggle("here", entry.dataset.page === this.chosen);
    }
  },
  stem(key) {
    return [...this.$refs.plan.querySelectorAll(".stem")].find((stem) => stem.dataset.of === key);
  },

  pick(event) {
    if (this.dragged) return event.preventDefault();
    const link = event.target.closest("[data-key], [data-choose], [data-page], .cell, .entry");
    if (!link || event.ctrlKey || event.metaKey || event.shiftKey) return;
    event.preventDefault();
    if (link.dataset.number) this.lastEntry = [link.dataset.menu, link.dataset.number];
    const key = link.dataset.key ?? link.dataset.choose ?? link.dataset.page;
    if (!key) return;
    this.choose(key);
    this.showInCode(key);
  },

  /** Keys on the plan and in the lists of menus. */
  pressed(event) {
    const node = event.target.closest("a.node");
    const entry = event.target.closest(".cell, .entry");
    if ((!node && !entry) || event.ctrlKey || event.metaKey) return;
    const arrow = /^Arrow/.test(event.key) ? event.key.slice(5).toLowerCase() : "";
    let used = true;
    if (arrow && event.altKey) {
      const beam = entry?.matches(".cell");
      const way = beam
        ? { left: "up", right: "down", up: "out", down: "in" }[arrow]
        : { up: "up", down: "down", left: "out", right: "in" }[arrow];
      this.do(entry ? `entry-${way}` : way);
    } else if (event.altKey) used = false;
    else if (arrow) used = node ? this.walk(node, arrow) : this.walkEntries(entry, arrow);
    else if (event.key === "F2") this.do(node ? "name" : "entry-group");
    else if (event.key === "n" || event.key === "N") this.do(event.shiftKey ? "under" : "after");
    else if (event.key === "Delete") this.do(node ? "delete" : "entry-take-out");
    else if (event.key === "g" && entry) this.do("entry-group");
    else if (event.key === "b" && node) this.$refs.plan.querySelector(".cell")?.focus();
    else if (event.key === " " && node) this.fold(node.dataset.key);
    else if (event.key === " " || event.key === "Enter") event.target.closest("a").dispatchEvent(new MouseEvent("click", { bubbles: true, cancelable: true }));
    else if (event.key === "+" || event.key === "=") this.zoomBy(1.25);
    else if (event.key === "-") this.zoomBy(1 / 1.25);
    else if (event.key === "f") this.fit();
    else used = false;
    if (used) event.preventDefault();
  },

  walk(node, arrow) {
    const nodes = this.nodes();
    const at = nodes.indexOf(node);
    const next = {
      down: () => nodes[at + 1],
      up: () => nodes[at - 1],
      left: () => nodes.find((other) => other.dataset.key === node.dataset.parent),
      right: () => nodes.find((other) => other.dataset.parent === node.dataset.key),
    }[arrow]();
    if (!next) return false;
    next.focus();
    this.choose(next.dataset.key);
    this.showInCode(next.dataset.key);
    return true;
  },
  walkEntries(entry, arrow) {
    const beam = entry.matches(".cell");
    const all = [...(beam ? this.$refs.plan : this.$refs.menuLists).querySelectorAll(beam ? ".cell" : ".entry")];
    const step = { left: -1, right: 1, up: -1, down: 1 }[arrow];
    if (beam && arrow === "down") return this.focusNode(), true;
    const next = all[all.indexOf(entry) + step];
    if (!next) return false;
    for (const other of all) other.setAttribute("tabindex", other === next ? "0" : "-1");
    next.focus();
    this.lastEntry = [next.dataset.menu, next.dataset.number];
    return true;
  },

  // Naming in place

  /** Ask for a name beside an element of the plan. */
  askName(beside, label, value, then) {
    this.naming?.remove();
    const ground = this.$refs.planPane;
    const box = beside.getBoundingClientRect();
    const origin = ground.getBoundingClientRect();
    const input = document.createElement("input");
    Object.assign(input, { type: "text", className: "naming", value, placeholder: label, autocomplete: "off" });
    input.setAttribute("aria-label", label);
    const left = Math.min(Math.max(box.left - origin.left, 0), origin.width - 190);
    const top = Math.min(Math.max(box.top - origin.top, 0), origin.height - 40);
    Object.assign(input.style, { left: `${left}px`, top: `${top}px` });
    ground.append(input);
    this.naming = input;
    let over = false;
    const end = async (name) => {
      if (over) return;
      over = true;
      input.remove();
      if (name) await then(name);
      this.focusNode();
    };
    input.addEventListener("keydown", (event) => {
      event.stopPropagation();
      if (event.key === "Enter") end(input.value.trim());
      if (event.key === "Escape") end("");
    });
    input.addEventListener("blur", () => end(input.value.trim() === value ? "" : input.value.trim()));
    input.focus();
    input.select();
  },
  nameInPlace(key) {
    const node = this.node(key);
    if (!node) return;
    const label = node.querySelector("title").textContent.replace(/ \([^)]*\)[^)]*$/, "");
    this.askName(node.querySelector("rect"), "The page's name", label, (name) => this.act({ act: "name", key, name }));
  },
  nameNew(key, where) {
    const { parent, index } = this.placeOf(key);
    const target = where === "under" ? key : parent;
    const place = where === "under" ? this.pagesUnder(key).length : index + 1;
    const beside = this.node(key)?.querySelector("rect") ?? this.$refs.plan;
    const label = where === "under" ? "New page under it" : "New page after it";
    this.askName(beside, label, "", (title) => this.act({ act: "add", title, parent: target, index: place }));
  },

  // Dragging

  beginDrag(event) {
    const from = event.target.closest("a.node, .cell");
    if (!from || event.button !== 0 || !this.facts.good) return;
    this.dragged = false;
    const start = [event.clientX, event.clientY];
    let drop = null;
    const moving = (to) => {
      if (!this.dragged && Math.hypot(to.clientX - start[0], to.clientY - start[1]) < FAR) return;
      this.dragged = true;
      to.preventDefault();
      drop = this.dropAt(from, to.clientX, to.clientY);
      this.showDrop(drop);
    };
    const end = (to) => {
      removeEventListener("pointermove", moving);
      removeEventListener("pointerup", end);
      removeEventListener("pointercancel", end);
      removeEventListener("keydown", stop, true);
      this.showDrop(null);
      if (this.dragged && drop && to?.type === "pointerup") this.act(drop.act);
      setTimeout(() => (this.dragged = false));
    };
    const stop = (key) => {
      if (key.key !== "Escape") return;
      key.stopPropagation();
      drop = null;
      end();
    };
    addEventListener("pointermove", moving);
    addEventListener("pointerup", end);
    addEventListener("pointercancel", end);
    addEventListener("keydown", stop, true);
  },

  /** What dropping here would do, and where a line shows it. */
  dropAt(from, x, y) {
    const target = document.elementFromPoint(x, y)?.closest("a.node, .cell");
    if (!target || target === from || !this.$refs.plan.contains(target)) return null;
    const box = target.querySelector("rect").getBoundingClientRect();
    const beam = target.matches(".cell");
    const part = beam ? (x - box.left) / box.width : (y - box.top) / box.height;
    const side = part < 0.3 ? "before" : part > 0.7 ? "after" : "in";
    const act = beam ? this.dropOnBeam(from, target, side) : this.dropOnPage(from, target, side);
    return act && { act, box, side, beam };
  },
  dropOnPage(from, target, side) {
    const { key } = from.dataset;
    const onto = target.dataset.key;
    if (!key || onto === key || onto.startsWith(`${key}/`)) return null;
    if (side === "in") return { act: "move", key, parent: onto, index: this.pagesUnder(onto).length };
    const { parent, among } = this.placeOf(onto);
    const others = among.filter((other) => other !== key);
    return { act: "move", key, parent, index: others.indexOf(onto) + (side === "after" ? 1 : 0) };
  },
  dropOnBeam(from, target, side) {
    const number = Number(target.dataset.number);
    const into = side === "in";
    let index = into ? 999 : Number(target.dataset.index) + (side === "after" ? 1 : 0);
    if (from.dataset.key) return { act: "put", menu: "main", key: from.dataset.key, parent: into ? number : null, index };
    if (!into && Number(from.dataset.index) < index) index -= 1;
    return { act: "move-entry", menu: "main", number: Number(from.dataset.number), parent: into ? number : null, index };
  },
  showDrop(drop) {
    this.$refs.planPane.querySelector(".drop")?.remove();
    if (!drop) return;
    const line = document.createElement("div");
    line.className = "drop";
    const origin = this.$refs.planPane.getBoundingClientRect();
    const { box, side, beam } = drop;
    const style = { left: box.left - origin.left, top: box.top - origin.top, width: box.width, height: box.height };
    if (side !== "in" && beam) Object.assign(style, { left: style.left + (side === "after" ? box.width : -4), width: 4 });
    if (side !== "in" && !beam) Object.assign(style, { top: style.top + (side === "after" ? box.height : -4), height: 4 });
    for (const [name, value] of Object.entries(style)) line.style[name] = `${value}px`;
    line.classList.toggle("into", side === "in");
    this.$refs.planPane.append(line);
  },

  // Size, folds and the overview

  draw(html) {
    this.$refs.plan.innerHTML = html;
    this.sized();
    this.mark();
    this.decorate();
  },
  async redraw() {
    const query = new URLSearchParams(this.view());
    const html = await piece(`${this.base}/drawing?${query}`);
    if (html !== null) this.draw(html);
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
    paint.clearRect(0, 0, canvas.width, canvas.height);
    for (const [selector, colour] of [
      [".cell > rect", "#14204a"],
      [".node > rect", "#98a5c8"],
      [".node.here > rect", "#a87400"],
    ]) {
      paint.fillStyle = colour;
      for (const rect of svg.querySelectorAll(selector)) {
        const [x, y, w, h] = ["x", "y", "width", "height"].map((name) => rect[name].baseVal.value * small);
        paint.fillRect(x, y, Math.max(w, 1), Math.max(h, 1));
      }
    }
    paint.strokeStyle = "#2a46a8";
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

  // What changed since the newest kept state

  /** Pages that are new, moved or named otherwise have a flag with the word. */
  decorate() {
    for (const old of this.$refs.plan.querySelectorAll(".flag")) old.remove();
    const ns = "http://www.w3.org/2000/svg";
    for (const node of this.nodes()) {
      const word = this.marks?.[node.dataset.key];
      if (!word) continue;
      const rect = node.querySelector("rect");
      const [x, y, width] = ["x", "y", "width"].map((name) => rect[name].baseVal.value);
      const flag = document.createElementNS(ns, "g");
      flag.setAttribute("class", `flag is-${word}`);
      const room = word.length * 6 + 12;
      const shape = document.createElementNS(ns, "path");
      shape.setAttribute("d", `M${x + width - room} ${y - 5}h${room}v12h-${room}l4-6z`);
      const text = document.createElementNS(ns, "text");
      text.setAttribute("x", x + width - room + 6);
      text.setAttribute("y", y + 4.5);
      text.textContent = word;
      flag.append(shape, text);
      node.append(flag);
    }
  },
};
