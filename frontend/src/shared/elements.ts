// Looking for elements, and making them.

/** The one element that a selector finds. Throws where the templates have none: it is to be there. */
export function one<T extends Element = HTMLElement>(within: ParentNode, selector: string): T {
  const found = within.querySelector<T>(selector);
  if (!found) throw new Error(`There is no ${selector}.`);
  return found;
}

/** The element with an id. Throws where the templates have none. */
export const byId = <T extends Element = HTMLElement>(id: string): T => one<T>(document, `#${CSS.escape(id)}`);

export const all = <T extends Element = HTMLElement>(within: ParentNode, selector: string): T[] => [
  ...within.querySelectorAll<T>(selector),
];

/** The element that an event is about, or the nearest around it, that a selector fits. */
export const around = <T extends Element = HTMLElement>(event: Event, selector: string): T | null =>
  event.target instanceof Element ? event.target.closest<T>(selector) : null;

/** An element that was made, with a text. */
export function made<Tag extends keyof HTMLElementTagNameMap>(
  tag: Tag,
  textContent = "",
  className = "",
): HTMLElementTagNameMap[Tag] {
  const element = Object.assign(document.createElement(tag), { textContent });
  if (className) element.className = className;
  return element;
}

/** Put a fragment that the server made into an element, in place of what it has. */
export function put(element: Element, html: string): void {
  element.replaceChildren(...new DOMParser().parseFromString(html, "text/html").body.childNodes);
}

/** Whether a click or a key is meant for the browser, such as to open a link in another tab. */
export const isForBrowser = (event: MouseEvent | KeyboardEvent): boolean =>
  event.ctrlKey || event.metaKey || event.shiftKey;

/** How lists move their rows while one is dragged: not at all for those who ask for less motion. */
export const sortingTime = (): number => (matchMedia("(prefers-reduced-motion: reduce)").matches ? 0 : 120);
