// @ts-check
// The form for a new site: what a list will make is shown as it is typed.
import { ask } from "./common.js";

export const newSite = () => ({
  init() {
    const { list, fromList } = this.$refs;
    const choose = () => (fromList.hidden = !this.$refs.asList.checked);
    this.$root.addEventListener("change", choose);
    list.addEventListener("input", () => {
      clearTimeout(this.wait);
      this.wait = setTimeout(() => this.show(), 250);
    });
    choose();
    if (list.value.trim()) this.show();
  },
  async show() {
    const list = this.$refs.list.value;
    const name = document.getElementById("name").value;
    const { ok, data } = await ask("POST", "/new/list", { list, name });
    if (ok && list === this.$refs.list.value) this.$refs.shown.innerHTML = data.shown;
  },
});
