// @ts-check
// The lists of menus: entries are dragged, within their menu and into one another's lists.
import Sortable from "sortablejs";
import { sortingTime } from "./common.js";

const labelOf = (entry) => entry.textContent.trim().split("\n")[0];

export const menuLists = {
  redrawLate: false,

  /** Whether an entry is in somebody's hand: the list is not drawn anew under it, but once it is let go. */
  inHand() {
    this.redrawLate = Boolean(Sortable.active);
    return this.redrawLate;
  },
  sortEntries(lists) {
    for (const list of lists.querySelectorAll(".menus-list section ul[data-of-menu]"))
      Sortable.create(list, {
        group: list.dataset.ofMenu,
        draggable: "li",
        animation: sortingTime(),
        onEnd: ({ item, to, newDraggableIndex, from, oldDraggableIndex }) => {
          const late = this.redrawLate;
          this.redrawLate = false;
          if (to === from && newDraggableIndex === oldDraggableIndex) return late && this.refreshPage();
          const entry = item.querySelector(".entry");
          const parent = to.dataset.parent === "" ? null : Number(to.dataset.parent);
          const { menu, number } = entry.dataset;
          const act = async (written = true) => {
            const label = labelOf(entry);
            const moved = await this.moveEntry(menu, Number(number), parent, newDraggableIndex, label, written);
            if (!moved) this.refreshPage();
          };
          if (!this.facts.auto[menu]?.includes(Number(number))) return act(false);
          this.refreshPage(); // it stands where it stood, until the person has said
          this.$dispatch("ask-auto", { page: null, write: act });
        },
      });
  },
};
