"""The navigation of a site as the kit's data: pages, menus, words, and the names of files."""

from __future__ import annotations

from typing import Any
from urllib.parse import unquote

from basilica.core.map.map_files import PUBLIC
from basilica.core.map.schema.part_words import IDENTITY
from basilica.core.map.site.shared_values import Counter
from basilica.core.outputs.static_site import Renderer
from basilica.core.outputs.static_site.template_environment import icon, naming
from basilica.core.plan import MenuPlan, Plan
from basilica.core.plan.parameters import as_rule
from basilica.core.shared.icons import shapes

Data = dict[str, Any]
_DISPLAY = ("icon", "note", "show", "above", "below", "css_class")


def navigation_data(renderer: Renderer) -> Data:
    """Everything that differs from site to site but its texts, ready to be written as JSON."""
    plan, site = renderer.plan, renderer.plan.site
    base = site.base
    files = {name: renderer.assets.path(name).removeprefix("assets/") for name in site.files.under("files")}
    navigation = renderer.navigation_names
    files |= {known: name.removeprefix("assets/") for name, known in navigation.items()}
    known = list(navigation.values())
    return {
        "prefix": base.path if base else "",
        "direction": renderer.direction,
        "reach": plan.header.plain.until == "content",
        "site": {
            "name": site.name,
            "language": site.language,
            "home": site.home,
            "layout": plan.assignments.all[0].layout,
            "crumbs_home": site.crumbs.home,
            "crumbs_itself": site.crumbs.itself,
            "crumbs_shorten": site.crumbs.shorten,
        },
        "header": _header(renderer),
        "head": {
            "icon": site.head.icon,
            "styles": [name for name in known if name.endswith(".css")] + list(site.head.styles),
            "scripts": [name for name in known if name.endswith(".js")] + list(site.head.scripts),
            "manifest": site.head.manifest,
            "meta": [list(pair) for pair in site.head.meta],
            "counter": _counter(site.head.counter),
            "fonts": [{"family": family, "file": name} for family, name in site.head.fonts],
        },
        "menus": [_menu(menu) for menu in plan.menus.values()],
        "pages": [_page(renderer, key) for key in site.pages if key not in plan.drafts],
        "not_found": {**_page(renderer, None), **_not_found(plan)},
        "redirects": [
            {"path": unquote(old.path), "query": old.query, "to": old.key, "fragment": old.fragment, "url": old.url}
            for old in sorted(plan.redirects, key=lambda old: not old.query)
        ],
        "phrases": dict(site.phrases),
        "files": files,
        "public": list(site.files.under(PUBLIC)),
        "icons": {name: str(icon(name)) for name in sorted(_icons(plan))},
    }


def _counter(counter: Counter | None) -> Data | None:
    """The script that counts visits."""
    if counter is None:
        return None
    return {"url": counter.url, "file": counter.file, "data": [list(pair) for pair in counter.data]}


def _not_found(plan: Plan) -> Data:
    title = plan.site.phrases["not-found"]
    return {"title": title, "head_title": plan.head_title(None, title)}


def _header(renderer: Renderer) -> Data:
    plan = renderer.plan
    identity = plan.site.parts.get(IDENTITY)
    picture = identity.value("picture") if identity else ""
    size = renderer.assets.size(picture) if picture else None
    return {
        "tagline": plan.header.plain.tagline,
        "shown": (identity.value("name") if identity else "") or plan.site.name,
        "picture": picture,
        "size": list(size) if size else None,
    }


def _menu(menu: MenuPlan) -> Data:
    def entry(number: int) -> Data:
        planned = menu.entries[number]
        display = planned.display
        return {
            "number": number,
            "kind": str(planned.kind),
            "label": planned.label,
            "page": planned.page,
            "fragment": planned.fragment or "",
            "query": planned.query,
            "url": planned.url,
            "file": planned.file,
            "display": {
                word: getattr(display, word) for word in ("icon", "note", "show", "above", "below", "css_class")
            },
            "items": [entry(item) for item in planned.items],
        }

    settings = {"opens": menu.settings.opens, "hover": menu.settings.hover, "css_class": menu.settings.css_class}
    return {
        "name": menu.name,
        "label": menu.label,
        "place": menu.place,
        "section": menu.settings.section,
        "settings": settings,
        "entries": [entry(number) for number in menu.top],
    }


def _page(renderer: Renderer, key: str | None) -> Data:
    """A page, or (None) the one for addresses that do not exist."""
    plan, site = renderer.plan, renderer.plan.site
    page = site.pages[key] if key is not None else None
    route = plan.routes.get(key) if key is not None else None
    assignment = plan.assignment_of(key)
    slots = {name: list(assignment.in_slot(name)) for name, _ in assignment.slots}
    found: Data = {
        "key": key or "",
        "path": route.path if route else "",
        "rule": as_rule(route.path) if route else "",
        "parameters": [parameter.name for parameter in route.parameters] if route else [],
        "served": bool(route and route.is_backend),
        "title": page.title if page else "",
        "head_title": plan.head_title(key, page.title) if page else "",
        "noindex": bool(page and page.options.extra.noindex),
        "label": page.label if page else "",
        "description": (page.description if page else None) or "",
        "section": site.pages[key.partition("/")[0]].label if key is not None else "",
        "parent": page.parent if page else None,
        "highlight": page.options.highlight if page else None,
        "trail": _trail(plan, key) if key is not None else None,
        "no_breadcrumb": bool(page and "breadcrumbs" in page.options.hidden),
        "shows_breadcrumbs": plan.shows("breadcrumbs", key),
        "canonical": plan.addresses.canonical(key) if key is not None else None,
        "layout": assignment.layout,
        "slots": slots,
        "without": sorted(assignment.without),
        "header": plan.header_of(key).name,
        "template": f"pages/{key}.html" if key is not None else "pages/_not-found.html",
        "owns": list(renderer.own_slot_names(key)) if key is not None else [],
        "css_class": page.options.extra.css_class if page else "",
        "js": page.options.extra.js if page else "",
        "extra": bool(renderer.extra(key)),
        "draft": False,
    }
    how = site.list_of(key) if key is not None else "none"
    before, after = plan.neighbours(key) if key is not None else (None, None)
    phrases = {"under": naming(site.phrases["under"], page.label) if page else "", "site": site.phrases["all-pages"]}
    return {**found, "list": how, "listed": phrases.get(how, ""), "before": before, "after": after}


def _trail(plan: Plan, key: str) -> list[Data] | None:
    """The levels of a page's breadcrumbs where the tree alone does not say them."""
    if plan.trails.is_plain(key):
        return None
    return [{"key": level.page or "", "label": level.label} for level in plan.trail(key)]


def _icons(plan: Plan) -> set[str]:
    """The icons that templates ask for by name."""
    entries = [entry for menu in plan.menus.values() for entry in menu.entries]
    return {entry.display.icon for entry in entries if entry.display.icon in shapes()} | {"house"}
