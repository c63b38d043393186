"""Every link and every anchor leads somewhere."""

from __future__ import annotations

from collections.abc import Iterator

from basilica.core.checks.built import BuiltSite
from basilica.core.checks.check import Check, Off


def run(built: BuiltSite) -> Iterator[Off]:
    """Each link of each page, followed as a browser does, within the site."""
    for page in built.pages:
        for href in dict.fromkeys(page.links):
            target = built.resolver.target(page.file, href)
            if target.outside:
                continue
            if target.file is None:
                yield Off(
                    "dead-link",
                    page.key,
                    f"The link to `{href[:120]}` on {page.file} leads to no file of the site.",
                    "Write `page:` and the page's key, so that the address is worked out.",
                    href,
                )
            elif target.fragment and target.fragment != "top":
                there = built.by_file.get(target.file)
                if there is not None and target.fragment not in there.ids:
                    yield Off(
                        "dead-anchor",
                        page.key,
                        f"The link to `{href[:120]}` on {page.file} jumps to `{target.fragment[:80]}`, "
                        f"which is not on {target.file}.",
                        "Give a heading or an element there that id, or mend the anchor.",
                        f"#{target.fragment}",
                    )


CHECK = Check(
    ("dead-link", "dead-anchor"),
    "Links lead somewhere",
    "A link to a page that moved dies without a word.",
    "WHATWG URL; HTML, navigating to a fragment",
    run,
)
