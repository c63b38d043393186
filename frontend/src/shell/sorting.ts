// Lists whose order is the person's: rows are dragged by their handle, or moved by its arrow keys.
import Sortable from "sortablejs";
import { all, around, sortingTime } from "../shared/elements.ts";

/** Make a list sortable. */
export function sortable(list: HTMLElement): void {
  if (list.dataset.sorted) return;
  list.dataset.sorted = "yes";
  Sortable.create(list, { handle: ".handle", draggable: "li:has(> .handle)", animation: sortingTime() });
  list.addEventListener("keydown", (event) => {
    const step = event.key === "ArrowUp" ? -1 : event.key === "ArrowDown" ? 1 : 0;
    const handle = around(event, ".handle");
    const row = handle?.closest("li");
    if (!step || !handle || !row || row.parentElement !== list) return;
    event.preventDefault();
    const among = [...list.children].filter((one) => one.querySelector(":scope > .handle"));
    const other = among[among.indexOf(row) + step];
    if (!other) return;
    if (step < 0) other.before(row);
    else other.after(row);
    handle.focus();
  });
}

/** Every list of the page that says so is sortable, also after a piece of the page was morphed in. */
export function sorting(): void {
  const sort = () => {
    for (const list of all(document, "[data-sortable]")) sortable(list);
  };
  sort();
  document.addEventListener("stayed", sort);
}
