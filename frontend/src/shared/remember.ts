// The chosen page, which other workspaces open with.
import { all } from "./elements.ts";

/** Put the chosen page into the address of this page and of the links to the other workspaces. */
export function rememberPage(key: string): void {
  const here = new URL(location.href);
  here.searchParams.set("page", key);
  here.searchParams.delete("line");
  here.searchParams.delete("column");
  history.replaceState(null, "", here);
  for (const link of all<HTMLAnchorElement>(document, ".workspaces a")) {
    if (!/\/(map|pages|header|settings|preview|checks)$/.test(new URL(link.href).pathname)) continue;
    const there = new URL(link.href);
    there.searchParams.set("page", key);
    link.href = there.href;
  }
}
