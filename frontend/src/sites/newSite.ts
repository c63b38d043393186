// The form for a new site: what a list will make is shown as it is typed.
import type { ListedSite } from "../answers.ts";
import { ask } from "../shared/asking.ts";
import { Component } from "../shared/component.ts";
import { byId, put } from "../shared/elements.ts";

const PAUSE = 250; // ms

type Refs = { list: HTMLTextAreaElement; fromList: HTMLElement; asList: HTMLInputElement; shown: HTMLElement };

export class NewSite extends Component<Refs> {
  wait: ReturnType<typeof setTimeout> | undefined = undefined;

  init(): void {
    const { list, fromList, asList } = this.$refs;
    const choose = () => {
      fromList.hidden = !asList.checked;
    };
    this.$root.addEventListener("change", choose);
    list.addEventListener("input", () => {
      clearTimeout(this.wait);
      this.wait = setTimeout(() => this.show(), PAUSE);
    });
    choose();
    if (list.value.trim()) this.show();
  }

  async show(): Promise<void> {
    const list = this.$refs.list.value;
    const name = byId<HTMLInputElement>("name").value;
    const { ok, data } = await ask<ListedSite>("POST", "/new/list", { list, name });
    if (ok && list === this.$refs.list.value) put(this.$refs.shown, data.shown);
  }
}
