// What is used of packages that bring no types of their own.

declare module "@alpinejs/csp" {
  interface Utilities {
    evaluateLater(expression: string): (receive: (value: unknown) => void) => void;
    effect(act: () => void): void;
  }
  type MorphOptions = { updating?(element: Node, to: Node, children: () => void, skip: () => void): void };
  const Alpine: {
    data(name: string, component: () => object): void;
    store(name: string, value: object): void;
    directive(
      name: string,
      act: (element: HTMLElement, value: { expression: string }, utilities: Utilities) => void,
    ): void;
    plugin(plugin: unknown): void;
    morph(element: Element, html: string, options?: MorphOptions): void;
    start(): void;
  };
  export default Alpine;
}

declare module "@alpinejs/morph" {
  const plugin: unknown;
  export default plugin;
}

declare module "sortablejs" {
  export type Moved = {
    item: HTMLElement;
    from: HTMLElement;
    to: HTMLElement;
    oldDraggableIndex: number;
    newDraggableIndex: number;
  };
  type Options = {
    group?: string;
    draggable?: string;
    handle?: string;
    animation?: number;
    onEnd?(moved: Moved): void;
  };
  const Sortable: { active: object | null; create(list: HTMLElement, options: Options): void };
  export default Sortable;
}
