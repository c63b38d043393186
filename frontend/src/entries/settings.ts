import { SettingsWorkspace } from "../settings/workspace.ts";
import { start } from "../start.ts";

start({ settingsWorkspace: SettingsWorkspace });
