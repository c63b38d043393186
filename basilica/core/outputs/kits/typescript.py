"""The navigation as typed data for TypeScript: routes, menus, breadcrumbs and current entries as constants."""

from __future__ import annotations

import json
from collections.abc import Iterator
from typing import Any
from urllib.parse import unquote

from basilica.core.content.assets import built_path
from basilica.core.outputs.kits.kit_data import page_id
from basilica.core.outputs.kits.shipped_files import shipped_files
from basilica.core.outputs.static_site import Renderer
from basilica.core.plan import MenuPlan, Plan
from basilica.core.shared.output_file import File

PROGRAMS = {"index.ts": "typescript/index.ts.in", "README.md": "typescript/README.md.in"}

_TYPES = """\
// Made by Basilica from the page map. Change the map and make this again.

/** An entry of a menu. One that leads nowhere, such as the name of a group, has no `href`. */
export interface Entry {
  readonly number: number;
  readonly kind: "page" | "anchor" | "group" | "outside" | "file" | "separator";
  readonly label: string;
  readonly page?: PageId;
  readonly href?: string;
  readonly icon?: string;
  readonly note?: string;
  readonly items: readonly Entry[];
}

/** A menu: its name for people, and its entries. */
export interface Menu {
  readonly label: string;
  readonly place: string;
  readonly entries: readonly Entry[];
}

/** A level of breadcrumbs; the last is the page itself. A level without an address has no `href`. */
export interface Crumb {
  readonly label: string;
  readonly page?: PageId;
  readonly href?: string;
}

interface Mark {
  readonly current: "page" | "true";
  readonly entries: readonly number[];
  readonly path: readonly number[];
}

/** The id of a page: its key, and in another language than the first the tag of that behind it. */
export type PageId = keyof typeof routes;

"""


def files(renderer: Renderer) -> Iterator[File]:
    """The two modules, and how they are set in."""
    yield File("data.ts", data_module(renderer.plan).encode())
    yield from shipped_files(PROGRAMS)


def data_module(plan: Plan) -> str:
    """The constants, as a module. Addresses are those below the base of the map."""
    base = plan.site.base
    plans = tuple(each.moved(links="root") for each in plan.languages.values() or (plan,))
    known = [(each, key) for each in plans for key in each.routes if key not in each.drafts]
    parameters = {page_id(each, key): each.routes[key].parameters for each, key in known}
    values = "".join(
        f"  {_json(page)}: {{ {'; '.join(f'{one.name}: string | number' for one in names)} }};\n"
        for page, names in parameters.items()
        if names
    )
    marks = {page_id(each, key): found for each, key in known if (found := _marks(each, key))}
    trails = {page_id(each, key): trail for each, key in known if (trail := list(_trail(each, key)))}
    menus = {each.site.language: {name: _menu(each, menu) for name, menu in each.menus.items()} for each in plans}
    return "".join(
        (
            _TYPES,
            "/** The path under which the site is. */\n",
            f"export const mount: string = {_json(base.path if base else '')};\n\n",
            "/** Every page by its id. */\nexport const routes = {\n",
            *(f"  {_json(page_id(each, key))}: {_json(_route(each, key))},\n" for each, key in known),
            "} as const;\n\n",
            f"/** The parameters of the paths that have some. */\nexport interface Values {{\n{values}}}\n\n",
            "/** The menus by their names, in each language. */\n",
            f"export const menus = {_json(menus)} as const satisfies Record<string, Record<string, Menu>>;\n\n",
            "export const breadcrumbs: Readonly<Partial<Record<PageId, readonly Crumb[]>>> = ",
            f"{_json(trails)};\n\n",
            "export const marks: Readonly<Partial<Record<PageId, Readonly<Record<string, Mark>>>>> = ",
            f"{_json(marks)};\n",
        )
    )


def _route(plan: Plan, key: str) -> dict[str, Any]:
    route, page = plan.routes[key], plan.site.pages[key]
    told = {"title": page.title, "label": page.label, "language": plan.site.language, "backend": route.is_backend}
    also = [unquote(further.path) for further in plan.further_of.get(key, ())]
    return {"key": key, "path": unquote(route.path), "address": route.path, "also": also, **told}


def _marks(plan: Plan, key: str) -> dict[str, Any]:
    marks = plan.marks(key)
    return {
        name: {"current": mark.current, "entries": sorted(mark.entries), "path": sorted(mark.path)}
        for name, mark in marks.items()
        if mark
    }


def _trail(plan: Plan, key: str) -> Iterator[dict[str, Any]]:
    for level in plan.breadcrumbs(key):
        found: dict[str, Any] = {"label": level.label}
        if level.page is not None and level.page in plan.routes:
            found["page"] = page_id(plan, level.page)
            found |= {"href": plan.addresses.rooted(plan.routes[level.page].path)}
        yield found


def _menu(plan: Plan, menu: MenuPlan) -> dict[str, Any]:
    def entry(number: int) -> dict[str, Any]:
        planned = menu.entries[number]
        href = planned.url or None
        if planned.file:
            href = plan.addresses.to_file(built_path(planned.file, plan.site.files), None)
        page = planned.page if planned.page in plan.routes else None
        if page is not None:
            href = plan.addresses.to_page(page, None, planned.fragment, planned.query)
        told = {
            "page": page_id(plan, page) if page is not None else None,
            "href": href,
            "icon": planned.display.icon or None,
            "note": planned.display.note or None,
        }
        return {
            "number": number,
            "kind": str(planned.kind),
            "label": planned.label,
            **{name: value for name, value in told.items() if value is not None},
            "items": [entry(item) for item in planned.items],
        }

    return {"label": menu.label, "place": menu.place, "entries": [entry(number) for number in menu.top]}


def _json(value: object) -> str:
    return json.dumps(value, ensure_ascii=False)
