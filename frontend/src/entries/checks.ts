import { ChecksWorkspace } from "../checks/workspace.ts";
import { start } from "../start.ts";

start({ checksWorkspace: ChecksWorkspace });
