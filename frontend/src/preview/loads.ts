// Where a frame of the preview is. A page in a frame cannot say it: after each load the server is asked what it served.
import type { ServedPages } from "../answers.ts";

/** What is known of where a frame went, before it goes anywhere: the ids of pages it was `sent` to and is on its way
    to, the number of the page that was `served` to it last, the number of the load that was `settled` last, and how
    many pages were served whose loads are still `owed`. */
export type Known = { sent: string[]; served: number; settled: number; owed: number };

export const nowhere = (): Known => ({ sent: [], served: 0, settled: 0, owed: 0 });

/** What a load was; `key` is null for an address without a page. */
export type Load =
  | { was: "underway"; known: Known }
  | { was: "outside" | "page" | "nothing new"; key: string | null; isNext: boolean; known: Known };

/** Whether a frame is where it was sent last, or further on: it was served the pages it was sent to, but for those that
    others took the place of. */
function hasArrived(sent: string[], served: (string | null)[]): boolean {
  if (served.at(-1) === sent.at(-1)) return true;
  let at = 0;
  for (const key of served) if (key === sent[at]) at++;
  return at === sent.length;
}

/** What the load with a number was, once the server `told` which pages it served, and what is known then. It was
    `underway` to another page, a `page` of the site, `outside` of the site, or `nothing new`. Each page that was served
    is loaded once; what was served while the server was asked is still to be loaded. */
export function afterLoad(known: Known, load: number, told: ServedPages): Load {
  const fresh = told.serial === known.served ? [] : told.keys.slice(known.served - told.serial);
  const key = told.keys.at(-1) ?? null;
  if (key !== null && !hasArrived(known.sent, fresh))
    return { was: "underway", known: fresh.length ? known : { ...known, settled: load } };
  const loads = load - known.settled;
  const due = known.owed + fresh.length;
  return {
    was: loads > due ? "outside" : fresh.length ? "page" : "nothing new",
    key,
    isNext: told.serial === known.served + 1,
    known: { sent: [], served: told.serial, settled: load, owed: Math.max(0, due - loads) },
  };
}
