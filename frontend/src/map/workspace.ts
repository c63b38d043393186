// The Map workspace as Alpine knows it.
import type { MapState } from "../answers.ts";
import { pageState } from "../shared/asking.ts";
import { Component } from "../shared/component.ts";
import { type DeskRefs, MapScreen } from "./screen.ts";

const INTO_MENU = "basilica:into-menu"; // whether new pages go into the menu, as this browser remembers it

export class MapWorkspace extends Component<DeskRefs> {
  screen: MapScreen | null = null;

  init(): void {
    const { map } = this.$store;
    map.intoMenu = localStorage.getItem(INTO_MENU) !== "no";
    this.$watch("$store.map.intoMenu", (into) => localStorage.setItem(INTO_MENU, into ? "yes" : "no"));
    const dispatch = (name: string, detail?: unknown) => this.$dispatch(name, detail);
    this.screen = new MapScreen(this.$root, this.$refs, map, dispatch, pageState<MapState>());
    map.screen = this.screen;
    this.screen.begin();
  }
  saveVersion(): void {
    this.screen?.saving.saveVersion();
  }
}
