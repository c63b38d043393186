import { PreviewWorkspace } from "../preview/workspace.ts";
import { start } from "../start.ts";

start({ previewWorkspace: PreviewWorkspace });
