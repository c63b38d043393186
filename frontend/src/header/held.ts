// What holds of the header where nothing is written.
import { made, put } from "../shared/elements.ts";

/** Show what holds where nothing is written, and which declarations come from each number. */
export function showHeld(shown: string): void {
  const list = made("ul");
  put(list, shown);
  for (const item of [...list.children]) {
    if (!(item instanceof HTMLElement)) continue;
    const field = document.getElementById(`own-${item.dataset.word}`);
    if (field instanceof HTMLInputElement) field.placeholder = item.dataset.holds ?? "";
    const feeds = document.querySelector(`#feeds-${item.dataset.word} ul`);
    if (feeds && item.firstElementChild) feeds.replaceChildren(...item.firstElementChild.children);
  }
}
