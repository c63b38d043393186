// What every dialog of the Map workspace can do: it is opened by an event, asks, and hands an edit to the store.
import { Component } from "../shared/component.ts";
import type { Edit, MapStore } from "./store.ts";

export const UNREACHED = "Basilica cannot be reached. Try again.";

export abstract class Dialog<Refs extends object = object> extends Component<Refs> {
  problem = "";

  get map(): MapStore {
    return this.$store.map;
  }
  show(): void {
    this.problem = "";
    (this.$root as HTMLDialogElement).showModal();
  }
  close(): void {
    (this.$root as HTMLDialogElement).close();
  }
  async send(edit: Edit): Promise<void> {
    this.problem = await this.map.tryEdit(edit, () => this.close());
  }
}
