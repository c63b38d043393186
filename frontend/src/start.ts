// What every page starts: Alpine, with the shell and the components of the page's own workspace.
import Alpine from "@alpinejs/csp";
import morph from "@alpinejs/morph";
import { withCode } from "./shared/messages.ts";
import { choosing } from "./shell/choosing.ts";
import { Shell } from "./shell/shell.ts";
import { staying } from "./shell/staying.ts";

/** Start the page with its components by name, and the stores that these share. */
export function start(components: Record<string, new () => object> = {}, stores: Record<string, object> = {}): void {
  for (const [name, store] of Object.entries(stores)) Alpine.store(name, store);
  for (const [name, component] of Object.entries({ shell: Shell, ...components }))
    Alpine.data(name, () => new component());
  Alpine.directive("said", (element, { expression }, { evaluateLater, effect }) => {
    const message = evaluateLater(expression);
    effect(() => message((text) => element.replaceChildren(...withCode(typeof text === "string" ? text : ""))));
  });
  Alpine.plugin(morph);
  Alpine.start();
  staying();
  choosing();
}
