// Icons to choose from, drawn by the server.
import { piece } from "../shared/asking.ts";
import { made, put } from "../shared/elements.ts";

const SHOWN = 48;

/** The icons whose name holds every word that was typed, those that begin with it first. */
export function iconsLike(names: string[], typed: string): string[] {
  const words = typed
    .toLowerCase()
    .split(/[\s-]+/)
    .filter(Boolean);
  const begins = (name: string) => Number(name.startsWith(words[0] ?? ""));
  const fitting = names.filter((name) => words.every((word) => name.includes(word)));
  return fitting.sort((one, other) => begins(other) - begins(one)).slice(0, SHOWN);
}

/** Icons by their names, as a fragment of buttons; null where the server cannot be reached. */
export const iconButtons = (base: string, names: string[]): Promise<string | null> =>
  piece(`${base}/drawn-icons?${new URLSearchParams({ names: names.join(" ") })}`);

/** One icon, drawn; null where there is none of that name. */
export async function drawnIcon(base: string, name: string): Promise<HTMLElement | null> {
  const drawn = made("div", "", "drawn-icon");
  put(drawn, (await iconButtons(base, [name])) ?? "");
  const svg = drawn.querySelector("svg");
  if (!svg) return null;
  drawn.replaceChildren(svg);
  return drawn;
}

/** The icons are one stop of the Tab key; arrows go along them. */
export function alongIcons(event: KeyboardEvent, icons: HTMLButtonElement[]): void {
  const steps: Record<string, number> = { ArrowRight: 1, ArrowDown: 1, ArrowLeft: -1, ArrowUp: -1 };
  const step = steps[event.key];
  const next = step ? icons[icons.indexOf(event.target as HTMLButtonElement) + step] : undefined;
  if (!next) return;
  event.preventDefault();
  for (const icon of icons) icon.tabIndex = icon === next ? 0 : -1;
  next.focus();
}
