"""Every page can be reached by links from home."""

from __future__ import annotations

from collections.abc import Iterator

from basilica.core.checks.built import BuiltSite
from basilica.core.checks.check import Check, Off


def run(built: BuiltSite) -> Iterator[Off]:
    """Follow links from home, page by page, and name the pages that were not met."""
    home = built.plan.site.home
    if home is None:
        return
    waiting = [built.plan.routes[home].file]
    met = set(waiting)
    while waiting:
        page = built.by_file.get(waiting.pop())
        for href in page.links if page else ():
            file = built.resolver.target(page.file, href).file if page else None
            if file is not None and file not in met:
                met.add(file)
                waiting.append(file)
    for page in built.pages:
        if page.key is not None and page.key not in built.plan.drafts and page.file not in met:
            yield Off(
                "unreachable",
                page.key,
                f"No link leads from home to the page `{page.key}`.",
                "Put it into a menu, or link to it from the content of another page.",
            )


CHECK = Check(
    ("unreachable",),
    "Every page can be reached",
    "A page without a link is there for nobody.",
    "WCAG 2.2, 2.4.5 Multiple Ways",
    run,
)
