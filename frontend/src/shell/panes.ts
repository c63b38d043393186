// Panes that are as wide as one wants them: the line between two is dragged, or moved by arrow keys, and remembered.
import { made } from "../shared/elements.ts";

const STEP = 24; // px, by one key
const LEAST = 180; // px, of a pane

/** The widths of all panes when the line behind one is moved, px; no pane is narrower than it may be. */
export function widthsAfter(widths: number[], at: number, by: number, least = LEAST): number[] {
  const most = Math.max(0, widths[at + 1] - least);
  const fewest = Math.min(0, least - widths[at]);
  const moved = Math.min(most, Math.max(fewest, by));
  return widths.map((width, place) => (place === at ? width + moved : place === at + 1 ? width - moved : width));
}

/** As parts of the whole, so that they fit another window as well. */
export const columnsOf = (widths: number[]): string =>
  widths.map((width) => `minmax(0, ${Math.round(width)}fr)`).join(" ");

export function dividable(workspace: HTMLElement): void {
  const name = `basilica:panes:${[...workspace.classList].join(" ")}`;
  const panes = [...workspace.children].filter((child) => child.matches(".pane"));
  if (panes.length < 2) return;
  const wide = matchMedia("(min-width: 1024px)");
  const place = () => {
    const saved = localStorage.getItem(name);
    workspace.style.gridTemplateColumns = saved && wide.matches ? saved : "";
  };
  const put = (widths: number[]) => {
    workspace.style.gridTemplateColumns = columnsOf(widths);
    localStorage.setItem(name, workspace.style.gridTemplateColumns);
  };
  const reset = () => {
    localStorage.removeItem(name);
    place();
  };
  const widths = () => panes.map((pane) => pane.getBoundingClientRect().width);
  place();
  wide.addEventListener("change", place);
  for (const [at, pane] of panes.slice(0, -1).entries()) {
    const line = made("div", "", "divider");
    line.tabIndex = 0;
    line.setAttribute("role", "separator");
    line.setAttribute("aria-orientation", "vertical");
    const title = pane.querySelector("h2")?.textContent.trim() || pane.getAttribute("aria-label") || `Pane ${at + 1}`;
    line.setAttribute("aria-label", `Width of ${title}`);
    const tell = () => {
      const now = widths();
      line.setAttribute("aria-valuenow", String(Math.round((now[at] / (now[at] + now[at + 1])) * 100)));
    };
    tell();
    line.addEventListener("pointerdown", (event) => {
      const [from, before] = [event.clientX, widths()];
      line.setPointerCapture(event.pointerId);
      const follow = (moved: PointerEvent) => put(widthsAfter(before, at, moved.clientX - from));
      const end = () => {
        line.removeEventListener("pointermove", follow);
        tell();
      };
      line.addEventListener("pointermove", follow);
      line.addEventListener("lostpointercapture", end, { once: true });
      event.preventDefault();
    });
    line.addEventListener("keydown", (event) => {
      const by = event.key === "ArrowLeft" ? -STEP : event.key === "ArrowRight" ? STEP : 0;
      if (event.key === "Home") reset();
      else if (by) put(widthsAfter(widths(), at, by));
      else return;
      event.preventDefault();
      tell();
    });
    line.addEventListener("dblclick", () => {
      reset();
      tell();
    });
    panes[at + 1].append(line);
  }
}
