import { sorting } from "../shell/sorting.ts";
import { start } from "../start.ts";

start();
sorting();
