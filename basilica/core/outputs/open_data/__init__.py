"""Open data: routes, menus, breadcrumbs, redirects and the sitemap, for other programs."""

from __future__ import annotations

import json
from collections.abc import Iterator
from typing import Any

from basilica.core.content.assets import built_path
from basilica.core.outputs.open_data.host_headers import HOST_HEADERS, content_policy
from basilica.core.outputs.static_site import Renderer
from basilica.core.outputs.static_site.generated_files import sitemaps
from basilica.core.outputs.static_site.redirect_lists import REDIRECT_LISTS
from basilica.core.plan import MenuPlan, Plan, every_redirect
from basilica.core.plan.route_table import as_csv, route_rows
from basilica.core.shared.output_file import File


def files(renderer: Renderer) -> Iterator[File]:
    """Every file of this output; those of another language than the first in a folder with its tag."""
    plan, renderers = renderer.plan, (renderer, *renderer.in_other_languages)
    for each in renderers:
        folder = "" if each is renderer else f"{each.plan.site.language}/"
        rows = route_rows(each.plan)
        yield File(f"{folder}routes.json", _json(rows))
        yield File(f"{folder}routes.csv", as_csv(rows).encode())
        yield File(f"{folder}navigation.json", _json(navigation(each.plan)))
        yield File(f"{folder}breadcrumbs.json", _json(breadcrumbs(each)))
    if plan.site.base:
        yield from (File(name, data) for name, data in sitemaps(plan).items())
    counter, base = plan.site.head.counter, plan.site.base
    pages = (each.page(key) for each in renderers for key in each.pages)
    not_found = (each.generated_file(each.not_found) for each in renderers)
    policy = content_policy((*pages, *not_found), counter.hosts if counter else ())
    for name, written in HOST_HEADERS.items():
        yield File(name, written(policy, base.path if base else "").encode())
    if every_redirect(plan):
        yield from (File(name, made(plan).encode()) for name, made in REDIRECT_LISTS.items())


def navigation(plan: Plan) -> dict[str, Any]:
    """The menus, and the tree of pages, as they nest."""
    tree: dict[str | None, list[dict[str, Any]]] = {None: []}
    for key, page in plan.site.pages.items():
        if key in plan.drafts:
            continue
        node: dict[str, Any] = {
            "key": key,
            "label": page.label,
            "title": page.title,
            "path": plan.path_of(key) or None,
            "pages": [],
        }
        tree[key] = node["pages"]
        tree[page.parent].append(node)
    menus = {name: _menu(plan, menu) for name, menu in plan.menus.items() if menu.entries}
    return {"site": plan.site.name, "language": plan.site.language, "menus": menus, "pages": tree[None]}


def _menu(plan: Plan, menu: MenuPlan) -> dict[str, Any]:
    def entry(number: int) -> dict[str, Any]:
        planned = menu.entries[number]
        address = planned.url
        if planned.file:
            address = plan.addresses.to_file(built_path(planned.file, plan.site.files), None)
        if planned.page is not None and planned.page in plan.routes:
            address = plan.addresses.to_page(planned.page, None, planned.fragment, planned.query)
        return {
            "kind": str(planned.kind),
            "label": planned.label,
            "page": planned.page,
            "address": address,
            "items": [entry(item) for item in planned.items],
        }

    return {"label": menu.label, "place": menu.place, "entries": [entry(number) for number in menu.top]}


def breadcrumbs(renderer: Renderer) -> dict[str, Any]:
    """By path, the breadcrumbs of each page as schema.org data."""
    found = {}
    for key in renderer.pages:
        data = renderer.breadcrumb_data(key)
        if data:
            found[renderer.plan.routes[key].path] = json.loads(data)
    return found


def _json(value: object) -> bytes:
    return (json.dumps(value, ensure_ascii=False, indent=2) + "\n").encode()
