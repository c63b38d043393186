// @ts-check
// The application's script: Alpine with the components of the workspaces.
import Alpine from "@alpinejs/csp";
import morph from "@alpinejs/morph";
import { checksWorkspace } from "./checks.js";
import { choosing } from "./choosing.js";
import { withCode } from "./common.js";
import { entryDialog } from "./entries.js";
import { headerWorkspace } from "./header.js";
import { mapWorkspace } from "./map.js";
import * as dialogs from "./mapDialogs.js";
import { mapStore } from "./mapStore.js";
import { newSite } from "./newsite.js";
import { previewWorkspace } from "./preview.js";
import { settingsWorkspace } from "./settings.js";
import { shell } from "./shell.js";
import { sorting } from "./sorting.js";
import { staying } from "./staying.js";

Alpine.data("shell", shell);
Alpine.data("newSite", newSite);
Alpine.data("checksWorkspace", checksWorkspace);
Alpine.data("headerWorkspace", headerWorkspace);
Alpine.store("map", mapStore());
Alpine.data("mapWorkspace", mapWorkspace);
Alpine.data("entryDialog", entryDialog);
for (const [name, component] of Object.entries(dialogs)) if (name.endsWith("Dialog")) Alpine.data(name, component);
Alpine.data("previewWorkspace", previewWorkspace);
Alpine.data("settingsWorkspace", settingsWorkspace);
Alpine.directive("said", (element, { expression }, { evaluateLater, effect }) => {
  const message = evaluateLater(expression);
  effect(() => message((text) => element.replaceChildren(...withCode(text))));
});
Alpine.plugin(morph);
Alpine.start();
staying();
choosing();
sorting();
