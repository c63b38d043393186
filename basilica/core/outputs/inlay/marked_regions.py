"""The marked regions of a page, as the static site has them, or in the pages' own markup."""

from __future__ import annotations

from collections.abc import Iterable

from markupsafe import escape

from basilica.core.language.sections.part_words import BUILT_IN_PARTS
from basilica.core.outputs.inlay.own_markup import breadcrumbs_in, menu_in
from basilica.core.outputs.static_site import Renderer
from basilica.core.outputs.static_site.language_links import alternates
from basilica.core.plan import Plan

REGIONS = {
    "head": "In the head: style sheet and script of the shared parts, addresses of the page and its translations.",
    "data": "The breadcrumbs as schema.org data, in the head.",
    "header": "The skip link, the row above, the header with the main menu.",
    "breadcrumbs": "The breadcrumbs.",
    "section": "The menus of the section.",
    "page-end": "The list of pages under this one, and the pages before and after.",
    "footer": "The footer with its menus.",
}
"""What can stand between marks, `<!-- basilica: header -->` and `<!-- /basilica: header -->`, by name."""

CONTENT = "content"
"""Between these marks stands what is the page's own: nothing is ever set in there, and a new page has room for its own
text in the same place."""

LANGUAGES = "languages"
"""Between these marks stand the links to a page in other languages, where they are wanted apart from the header."""

NAMED_REGIONS = {
    "menu": "any one menu, in a landmark of its own (`nav`)",
    "list": "the list of a menu alone",
    "entries": "the entries of a menu alone, as `inlay: menus:` writes them; the list around them is the page's",
    "part": "the text of a part",
}
"""By their first word, those that have the name of a menu or of a part as a second: `menu footer`."""


def region_names(plan: Plan) -> tuple[str, ...]:
    """Every region that a page of this site can have."""
    menus = [f"{kind} {name}" for name in plan.menus for kind in ("menu", "list", "entries")]
    own = (name for name in plan.site.parts if name not in BUILT_IN_PARTS)
    return (*REGIONS, *([LANGUAGES] if plan.languages else []), *menus, *(f"part {name}" for name in own))


def with_looks(plan: Plan, names: Iterable[str]) -> frozenset[str]:
    """Those of some regions that come with looks of their own, and not in the pages' own markup."""
    own = {"breadcrumbs"} if plan.site.inlay.breadcrumbs else set()
    return frozenset(names) & (REGIONS.keys() - own)


def marked_regions_of(renderer: Renderer, key: str, names: frozenset[str]) -> dict[str, str]:
    """Those of the regions called ``names`` that there are, as page ``key`` has them; empty where the page has none of
    it. One that ends with a line stands on lines of its own; others stand within elements of the page, where a line end
    could be seen as a space. ``renderer`` has been asked for its menus alone."""
    return {name: _region(renderer, key, name) for name in names if _is_known(renderer.plan, name)}


def _is_known(plan: Plan, name: str) -> bool:
    kind, _, called = name.partition(" ")
    if kind == "part":
        return called in plan.site.parts and called not in BUILT_IN_PARTS
    if name == LANGUAGES:
        return bool(plan.languages)
    return name in REGIONS or (kind in ("menu", "list", "entries") and called in plan.menus)


def _region(renderer: Renderer, key: str, name: str) -> str:
    plan = renderer.plan
    kind, _, called = name.partition(" ")
    if kind == "head":
        canonical = plan.addresses.canonical(key)
        link = f'<link rel="canonical" href="{escape(canonical)}">\n' if canonical else ""
        others = (
            f'<link rel="alternate" hreflang="{tag}" href="{escape(address)}">\n'
            for tag, address in alternates(plan, key)
        )
        return str(renderer.frame(key)["links"].text({})) + link + "".join(others)
    if name == LANGUAGES:
        return str(renderer.language_switch(key))
    if kind == "data":
        data = renderer.breadcrumb_data(key)
        return f'<script type="application/ld+json">{data}</script>\n' if data else ""
    if kind == "breadcrumbs":
        own = plan.site.inlay.breadcrumbs
        return breadcrumbs_in(own, renderer, key).rstrip("\n") if own else str(renderer.breadcrumbs(key))
    if kind == "entries":
        return menu_in(plan.site.inlay.menus.get(called), renderer, called, key).rstrip("\n")
    if kind in ("menu", "list"):
        shown = plan.menus[called].visible_on(plan.site, key)
        return str((renderer.menu if kind == "menu" else renderer.menu_list)(called, key)) if shown else ""
    if kind == "part":
        return str(renderer.part_text(called, key)).rstrip("\n")
    if kind == "page-end":
        return str(renderer.page_end(key))
    marks = renderer.mark_texts(key)
    if kind == "header":
        return str(renderer.header(key, marks))
    return str(renderer.section_menus(key, marks) if kind == "section" else renderer.frame(key)["footer"].text(marks))
