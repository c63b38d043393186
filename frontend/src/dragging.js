// @ts-check
// Pages and entries dragged over the plan: a page moves in the tree, an entry on its beam.

const FAR = 5;

export const dragging = {
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
      if (this.dragged && drop && to?.type === "pointerup") this.edit(drop.act);
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
    if (side === "in") return { edit: "move-page", key, parent: onto, index: this.pagesUnder(onto).length };
    const { parent, among } = this.placeOf(onto);
    const others = among.filter((other) => other !== key);
    return { edit: "move-page", key, parent, index: others.indexOf(onto) + (side === "after" ? 1 : 0) };
  },
  dropOnBeam(from, target, side) {
    const number = Number(target.dataset.number);
    const into = side === "in";
    let index = into ? 999 : Number(target.dataset.index) + (side === "after" ? 1 : 0);
    if (from.dataset.key)
      return { edit: "add-to-menu", menu: "main", key: from.dataset.key, parent: into ? number : null, index };
    if (!into && Number(from.dataset.index) < index) index -= 1;
    return {
      edit: "move-entry",
      menu: "main",
      number: Number(from.dataset.number),
      parent: into ? number : null,
      index,
    };
  },
  showDrop(drop) {
    this.$refs.planPane.querySelector(".drop")?.remove();
    if (!drop) return;
    const line = document.createElement("div");
    line.className = "drop";
    const origin = this.$refs.planPane.getBoundingClientRect();
    const { box, side, beam } = drop;
    const style = { left: box.left - origin.left, top: box.top - origin.top, width: box.width, height: box.height };
    if (side !== "in" && beam)
      Object.assign(style, { left: style.left + (side === "after" ? box.width : -4), width: 4 });
    if (side !== "in" && !beam)
      Object.assign(style, { top: style.top + (side === "after" ? box.height : -4), height: 4 });
    for (const [name, value] of Object.entries(style)) line.style[name] = `${value}px`;
    line.classList.toggle("into", side === "in");
    this.$refs.planPane.append(line);
  },
};
