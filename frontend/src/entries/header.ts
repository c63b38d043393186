import { HeaderWorkspace } from "../header/workspace.ts";
import { start } from "../start.ts";

start({ headerWorkspace: HeaderWorkspace });
