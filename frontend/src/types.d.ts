// What a page holds is known by its templates: what was looked for in it may be used as what it is.
interface ParentNode {
  querySelector(selectors: string): any;
  querySelectorAll(selectors: string): NodeListOf<any>;
}
interface Document {
  getElementById(id: string): any;
  readonly activeElement: any;
}
interface HTMLCollection {
  [Symbol.iterator](): ArrayIterator<any>;
}
interface EventTarget {
  closest?(selectors: string): any;
}
interface Event {
  detail?: any;
}
