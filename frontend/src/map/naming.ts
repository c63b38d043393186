// Names asked for in place, on the plan.
import { made, one } from "../shared/elements.ts";
import type { MapScreen } from "./screen.ts";

const SIZE = [190, 40] as const; // px, of the field

export class Naming {
  private asking: HTMLInputElement | null = null;

  constructor(private readonly screen: MapScreen) {}

  /** Ask for a name beside an element of the plan. */
  ask(beside: Element, label: string, value: string, then: (name: string) => Promise<unknown>): void {
    this.asking?.remove();
    const ground = this.screen.refs.planPane;
    const [box, origin] = [beside.getBoundingClientRect(), ground.getBoundingClientRect()];
    const input = made("input", "", "naming");
    Object.assign(input, { type: "text", value, placeholder: label, autocomplete: "off" });
    input.setAttribute("aria-label", label);
    input.style.left = `${Math.min(Math.max(box.left - origin.left, 0), origin.width - SIZE[0])}px`;
    input.style.top = `${Math.min(Math.max(box.top - origin.top, 0), origin.height - SIZE[1])}px`;
    ground.append(input);
    this.asking = input;
    let over = false;
    const end = async (name: string) => {
      if (over) return;
      over = true;
      document.removeEventListener("pointerdown", leave, true);
      input.remove();
      if (name) await then(name);
      if (!this.screen.isTyping()) this.screen.plan.focusNode(); // who types the next name meanwhile goes on
    };
    // Only the person ends the typing, with a key or by pressing elsewhere: an answer that comes late does not.
    let leaving = false;
    const leave = ({ target }: Event) => {
      leaving ||= target !== input;
    };
    document.addEventListener("pointerdown", leave, true);
    input.addEventListener("keydown", (event) => {
      event.stopPropagation();
      if (event.key === "Tab") leaving = true;
      if (event.key === "Enter") end(input.value.trim());
      if (event.key === "Escape") end("");
    });
    input.addEventListener("blur", () => {
      if (leaving) end(input.value.trim() === value ? "" : input.value.trim());
      else if (!over && document.hasFocus())
        setTimeout(() => {
          if (!over) input.focus();
        });
    });
    input.focus();
    input.select();
  }

  /** Ask for another name of a page. */
  rename(key: string): void {
    const node = this.screen.plan.node(key);
    if (!node) return;
    const label = one(node, "title").textContent?.replace(/ \([^)]*\)[^)]*$/, "") ?? "";
    this.ask(one(node, "rect"), "The page's name", label, (name) =>
      this.screen.edits.edit({ edit: "name-page", key, name }),
    );
  }

  /** Ask for the name of a new page, after another or under it. */
  newPage(key: string, where: "after" | "under"): void {
    const { screen } = this;
    const beside = screen.plan.node(key)?.querySelector("rect") ?? screen.refs.plan;
    const label = where === "under" ? "New page under it" : "New page after it";
    this.ask(beside, label, "", async (title) => {
      await screen.edits.acted;
      const { parent, index } = screen.edits.placeOf(key);
      const menu = screen.store.intoMenu ? { menu: "main" } : {};
      if (where === "under")
        return screen.edits.edit({
          edit: "add-page",
          title,
          parent: key,
          index: screen.edits.pagesUnder(key).length,
          ...menu,
        });
      return screen.edits.edit({ edit: "add-page", title, parent, index: index + 1, ...menu });
    });
  }
}
