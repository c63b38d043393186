import * as dialogs from "../map/dialogs.ts";
import { EntryDialog } from "../map/entryDialog.ts";
import { ListDialog } from "../map/listDialog.ts";
import { MapStore } from "../map/store.ts";
import { MapWorkspace } from "../map/workspace.ts";
import { start } from "../start.ts";

start(
  {
    mapWorkspace: MapWorkspace,
    entryDialog: EntryDialog,
    listDialog: ListDialog,
    menuDialog: dialogs.MenuDialog,
    followDialog: dialogs.FollowDialog,
    menuGoingDialog: dialogs.MenuGoingDialog,
    autoDialog: dialogs.AutoDialog,
    deleteDialog: dialogs.DeleteDialog,
    renameDialog: dialogs.RenameDialog,
    mergeDialog: dialogs.MergeDialog,
  },
  { map: new MapStore() },
);
