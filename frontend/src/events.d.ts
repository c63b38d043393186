// Events of our own.

interface DocumentEventMap {
  /** The key of a page that was looked for and found. */
  "found-page": CustomEvent<string>;
  /** What the server answered was morphed into the page. */
  stayed: CustomEvent<null>;
}
