import { NewSite } from "../sites/newSite.ts";
import { start } from "../start.ts";

start({ newSite: NewSite });
