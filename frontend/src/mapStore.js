// @ts-check
// What the components of the Map workspace share: what is known of the map, and the one way to change it.
import { ask } from "./common.js";

const UNREACHED = "Basilica cannot be reached, so this was not done. Try again.";

export const mapStore = () => ({
  base: "",
  chosen: /** @type {string | null} */ (null),
  facts: /** @type {any} */ ({ pages: [], findings: [], auto: {} }),
  intoMenu: true,
  // The workspace, which has the editor, fills these.
  text: () => "",
  edit: async (_edit, _focusing = null, _addresses = {}) => false,
  become: (_text, _said, _moves) => {},
  tell: (_words, _wrong = false) => false,
  /** Files that were brought for the next edit, and go with it where that is undone: name, text before, text since. */
  brought: /** @type {string[][]} */ ([]),

  /** The title of the chosen page. */
  get title() {
    return this.facts.pages.find((page) => page.key === this.chosen)?.title ?? "the chosen page";
  },
  /** Do an edit that a dialog asks for; the reason where it cannot be done, and else nothing, once it is done. */
  async tryEdit(edit, close) {
    const { ok, data } = await ask("POST", `${this.base}/edit`, { text: this.text(), edit });
    if (!ok && !data.asks) return data.message ?? UNREACHED;
    close();
    await this.edit(edit);
    return "";
  },
  /** Ask the server about the text as it is here. */
  async about(what, more) {
    return ask("POST", `${this.base}/${what}`, { text: this.text(), ...more });
  },
});
