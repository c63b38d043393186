// @ts-check
// Lists whose order is the person's: rows are dragged by their handle, or moved by its arrow keys.
import Sortable from "sortablejs";
import { sortingTime } from "./common.js";

/** Make a list sortable; `moved` is told the row, and from which place to which, once it stands there. */
export function sortable(list, moved = (_row, _from, _to) => {}) {
  if (list.dataset.sorted) return;
  list.dataset.sorted = "yes";
  const rows = () => [...list.children].filter((row) => row.querySelector(":scope > .handle"));
  const told = (row, from) => moved(row, from, rows().indexOf(row));
  Sortable.create(list, {
    handle: ".handle",
    draggable: "li:has(> .handle)",
    animation: sortingTime(),
    onEnd: ({ item, oldDraggableIndex }) => told(item, oldDraggableIndex),
  });
  list.addEventListener("keydown", (event) => {
    const step = { ArrowUp: -1, ArrowDown: 1 }[event.key];
    const row = event.target.closest(".handle")?.closest("li");
    if (!step || !row || row.parentElement !== list) return;
    event.preventDefault();
    const among = rows();
    const from = among.indexOf(row);
    const other = among[from + step];
    if (!other) return;
    if (step < 0) other.before(row);
    else other.after(row);
    event.target.focus();
    told(row, from);
  });
}

/** Every list of the page that says so is sortable, also after a piece of the page was morphed in. */
export function sorting() {
  const all = () => {
    for (const list of document.querySelectorAll("[data-sortable]")) sortable(list);
  };
  all();
  document.addEventListener("stayed", all);
}
