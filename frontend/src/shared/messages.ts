// Messages as they are shown: code stands between backticks.
import { made } from "./elements.ts";

/** A message in pieces, of which every second one is code: it stands between backticks. A single one of these stays. */
export function codePieces(text: string): string[] {
  const pieces = text.split("`");
  return pieces.length % 2 ? pieces : [text];
}

/** A message as it is shown, for `replaceChildren`. */
export const withCode = (text: string): (string | HTMLElement)[] =>
  codePieces(text).map((piece, at) => (at % 2 ? made("code", piece) : piece));

/** A message as an element. */
export function asMessage(text: string): HTMLElement {
  const said = made("span");
  said.append(...withCode(text));
  return said;
}

/** Show a message in its place; an empty one hides that. */
export function show(place: HTMLElement, text: string, ...more: HTMLElement[]): void {
  place.replaceChildren(...withCode(text), ...more);
  place.hidden = text === "";
}

/** A button beside a message. */
export function choice(label: string, act: () => void): HTMLButtonElement {
  const button = made("button", label, "button small");
  button.type = "button";
  button.addEventListener("click", act);
  return button;
}
