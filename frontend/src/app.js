// @ts-check
// The application's script: Alpine with the components of the workspaces.
import Alpine from "@alpinejs/csp";
import morph from "@alpinejs/morph";
import { checksWorkspace } from "./checks.js";
import { headerWorkspace } from "./header.js";
import { mapWorkspace } from "./map.js";
import { newSite } from "./newsite.js";
import { previewWorkspace } from "./preview.js";
import { settingsWorkspace } from "./settings.js";
import { shell } from "./shell.js";
import { staying } from "./staying.js";

Alpine.data("shell", shell);
Alpine.data("newSite", newSite);
Alpine.data("checksWorkspace", checksWorkspace);
Alpine.data("headerWorkspace", headerWorkspace);
Alpine.data("mapWorkspace", mapWorkspace);
Alpine.data("previewWorkspace", previewWorkspace);
Alpine.data("settingsWorkspace", settingsWorkspace);
Alpine.plugin(morph);
Alpine.start();
staying();
