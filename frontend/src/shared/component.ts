// What Alpine gives each component.
import type { MapStore } from "../map/store.ts";

/** A component: its fields are its state, and its methods what its templates name. */
export abstract class Component<Refs extends object = object> {
  declare readonly $root: HTMLElement;
  declare readonly $refs: Refs;
  declare readonly $store: { readonly map: MapStore };
  declare readonly $dispatch: (name: string, detail?: unknown) => void;
  declare readonly $watch: (expression: string, act: (value: unknown) => void) => void;
}
