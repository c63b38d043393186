// @ts-check
// The plan: choosing, walking, naming in place, and the marks of what changed.
import { rememberPage } from "./common.js";

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

  /** Gold for the chosen page, for those above it, and for the entry that is current on it. */
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
    else if (event.key === "F2") this.do(node ? "name" : "entry-edit");
    else if (event.key === "n" || event.key === "N") this.do(event.shiftKey ? "under" : "after");
    else if (event.key === "Delete") this.do(node ? "delete" : "entry-take-out");
    else if (event.key === "g" && entry) this.do("entry-group");
    else if (event.key === "m" && node) this.do("menu");
    else if (event.key === "b" && node) this.$refs.plan.querySelector(".cell")?.focus();
    else if (event.key === " " && node) this.fold(node.dataset.key);
    else if (event.key === " " || event.key === "Enter")
      event.target.closest("a").dispatchEvent(new MouseEvent("click", { bubbles: true, cancelable: true }));
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
    if (beam && arrow === "down") {
      this.focusNode();
      return true;
    }
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
      document.removeEventListener("pointerdown", leave, true);
      input.remove();
      if (name) await then(name);
      if (!this.isTyping()) this.focusNode(); // who types the next name meanwhile goes on
    };
    // Only the person ends the typing, with a key or by pressing elsewhere: an answer that comes late does not.
    let leaving = false;
    const leave = ({ target }) => (leaving ||= target !== input);
    document.addEventListener("pointerdown", leave, true);
    input.addEventListener("keydown", (event) => {
      event.stopPropagation();
      if (event.key === "Tab") leaving = true;
      if (event.key === "Enter") end(input.value.trim());
      if (event.key === "Escape") end("");
    });
    input.addEventListener("blur", () => {
      if (leaving) end(input.value.trim() === value ? "" : input.value.trim());
      else if (!over && document.hasFocus()) setTimeout(() => over || input.focus());
    });
    input.focus();
    input.select();
  },
  nameInPlace(key) {
    const node = this.node(key);
    if (!node) return;
    const label = node.querySelector("title").textContent.replace(/ \([^)]*\)[^)]*$/, "");
    this.askName(node.querySelector("rect"), "The page's name", label, (name) =>
      this.edit({ edit: "name-page", key, name }),
    );
  },
  nameNew(key, where) {
    const beside = this.node(key)?.querySelector("rect") ?? this.$refs.plan;
    const label = where === "under" ? "New page under it" : "New page after it";
    this.askName(beside, label, "", async (title) => {
      await this.acted;
      const { parent, index } = this.placeOf(key);
      const menu = this.$store.map.intoMenu ? { menu: "main" } : {};
      if (where === "under")
        return this.edit({ edit: "add-page", title, parent: key, index: this.pagesUnder(key).length, ...menu });
      return this.edit({ edit: "add-page", title, parent, index: index + 1, ...menu });
    });
  },

  // What changed since the latest version

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
      text.setAttribute("x", String(x + width - room + 6));
      text.setAttribute("y", y + 4.5);
      text.textContent = word;
      flag.append(shape, text);
      node.append(flag);
    }
  },
};
