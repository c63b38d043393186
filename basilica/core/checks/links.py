"""Every link and every anchor leads somewhere."""

from __future__ import annotations

from collections.abc import Iterator

from basilica.core.checks.built import BuiltPage, BuiltSite, Target
from basilica.core.checks.check import Check, Off


def run(built: BuiltSite) -> Iterator[Off]:
    """Each link of each page, followed as a browser does, within the site."""
    plan = built.plan
    in_menus = {
        (plan.routes[entry.page].file, entry.fragment): entry.at
        for menu in plan.menus.values()
        for entry in menu.entries
        if entry.page is not None and entry.fragment is not None
    }
    said: set[tuple[str, str | None]] = set()
    for page in (*built.pages, *built.redirects):
        for href in dict.fromkeys(page.links):
            target = built.resolver.target(page.file, href)
            if target.outside:
                continue
            if target.file is None:
                yield _dead_link(page, href)
            elif target.fragment and target.fragment != "top":
                there = built.by_file.get(target.file)
                if target.file.startswith("/"):
                    continue  # other code answers there
                if there is None or target.fragment in there.ids:
                    continue
                # A menu stands on every page; what is wrong with it is said once, at its line in the map.
                link = (target.file, target.fragment)
                if link not in in_menus:
                    yield _dead_anchor(page, href, target, None)
                elif link not in said:
                    said.add(link)
                    yield _dead_anchor(page, href, target, in_menus[link])


def _dead_link(page: BuiltPage, href: str) -> Off:
    return Off(
        "dead-link",
        page.key,
        f"The link to `{href[:120]}` on {page.file} leads to no file of the site.",
        "Write `page:` and the page's key, so that the address is worked out.",
        href,
    )


def _dead_anchor(page: BuiltPage, href: str, target: Target, at: int | None) -> Off:
    where = f"on {page.file}" if at is None else "in a menu"
    return Off(
        "dead-anchor",
        page.key,
        f"The link to `{href[:120]}` {where} jumps to `{target.fragment[:80]}`, which is not on {target.file}.",
        "Give a heading or an element there that id, or mend the anchor.",
        f"#{target.fragment}",
        at,
    )


CHECK = Check(
    ("dead-link", "dead-anchor"),
    "Links lead somewhere",
    "A link to a page that moved dies without a word.",
    "WHATWG URL; HTML, navigating to a fragment",
    run,
)
