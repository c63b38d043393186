"""The marked regions of a page, as the static site has them."""

from __future__ import annotations

from markupsafe import escape

from basilica.core.outputs.static_site import Renderer


def marked_regions_of(renderer: Renderer, key: str) -> dict[str, str]:
    """Each region of a page by its name; empty where the page has none of it. ``renderer`` has been asked for its
    menus alone."""
    frame, plan = renderer.frame(key), renderer.plan
    marks = renderer.mark_texts(plan.marks(key))
    canonical = plan.addresses.canonical(key)
    head = str(frame["links"].text({}))
    if canonical:
        head += f'<link rel="canonical" href="{escape(canonical)}">\n'
    data = renderer.breadcrumb_data(key)
    found = {
        "head": head,
        "data": f'<script type="application/ld+json">{data}</script>' if data else "",
        "header": str(renderer.header(key, marks)),
        "breadcrumbs": str(renderer.breadcrumbs(key)),
        "section": str(renderer.section_menus(key, marks)),
        "page-end": str(renderer.page_end(key)),
        "footer": str(frame["footer"].text(marks)),
    }
    return found | {f"menu {name}": str(renderer.menu(name, key)) for name in plan.menus}
