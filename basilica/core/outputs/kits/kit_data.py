"""What every kit holds: the routes of the site, the pieces of its pages, and the files that it serves.

`data/routes.json` is read as the application starts, and is small; `data/layouts.json` holds what pages share, and
`data/pages/<id>.json` what each puts into it, read when it is asked for. A piece is a list in which texts and the names
of what stands between them take turns. A page has its key as its id; in another language than the first the tag of
that stands behind it, `visit/hours@cy`.

The path under which the application has the site is known only there: addresses begin with `MOUNT` in its place.
"""

from __future__ import annotations

import json
from collections.abc import Iterator
from dataclasses import replace
from typing import Any
from urllib.parse import unquote

from markupsafe import escape

from basilica.core.content.assets import FOLDER as ASSETS
from basilica.core.map.site import Base
from basilica.core.outputs.page_pieces import PageParts, PagePieces, document_of, slot_name
from basilica.core.outputs.static_site import Renderer
from basilica.core.outputs.static_site.generated_files import ROBOTS, sitemaps
from basilica.core.outputs.static_site.slot_template import SlotTemplate
from basilica.core.outputs.static_site.slots import NUL
from basilica.core.plan import Plan, Redirect, every_redirect
from basilica.core.plan.addresses import encode_fragment
from basilica.core.shared.output_file import File

Data = dict[str, Any]
Piece = list[str]

MOUNT = "\ufdd0"
"""Stands where the path of the site begins. It is a noncharacter of Unicode, which no text is meant to hold."""
DATA, FILES = "data", "files"
"""The folders of a kit: what it reads, and what it serves."""
_TITLE = "<title>{}</title>"
_NOINDEX = '  <meta name="robots" content="noindex">\n'
HEAD_TITLE, LAST_LABEL = "head_title", "last-label"
"""What a page that other code answers can say otherwise: the title of its head, and the last of its breadcrumbs."""


def mounted(renderer: Renderer) -> Renderer:
    """The same site at the path at which an application will have it. Nothing is fetched ahead there: an address of the
    application's own may do something, and its content policy may have no room for the rules."""
    plan = renderer.plan
    plan = replace(plan, site=replace(plan.site, head=replace(plan.site.head, prefetch=False)))
    base = plan.site.base
    moved = plan.moved(base=Base(base.origin if base else "", MOUNT), links="root")
    return Renderer(moved, renderer.all_contents, menus_alone=tuple(plan.menus))


def files(renderer: Renderer) -> Iterator[File]:
    """The data of a kit, and the files that it serves."""
    there = mounted(renderer)
    renderers = (there, *there.in_other_languages)
    beside = _files_beside(renderer, renderers)
    yield _json("routes.json", _routes(renderer, renderers, beside))
    layouts: list[Data] = []
    for each in renderers:
        pieces = PagePieces(each)
        first = len(layouts)
        for key in (*_pages_of(each.plan), None):
            yield _json(f"pages/{page_id(each.plan, key)}.json", _page(each, key, pieces.of(key), first))
        yield _json(f"pages/{_elsewhere(each.plan)}.json", _page_elsewhere(each, pieces.of(None), first))
        menus = {name: _piece(pieces.menu(name)) for name, menu in each.plan.menus.items() if menu.entries}
        own = [_piece(menu) for menu in pieces.own_menus]
        shared = [{name: _piece(piece) for name, piece in layout.items()} for layout in pieces.layouts]
        layouts += [{**layout, "menus": menus, "own": own} for layout in shared]
    yield _json("layouts.json", layouts)
    for name, data in beside.items():
        yield File(f"{FILES}/{name}", data)


def _pages_of(plan: Plan) -> tuple[str, ...]:
    """The pages that a kit knows: those that it serves, and those that other code answers."""
    return tuple(key for key in plan.routes if key not in plan.drafts)


def page_id(plan: Plan, key: str | None) -> str:
    """What a page is called in a kit; None is the one for addresses that do not exist."""
    return plan.id_of(key if key is not None else "_not-found")


def _routes(renderer: Renderer, renderers: tuple[Renderer, ...], beside: dict[str, bytes]) -> Data:
    """Where everything is, by paths as a server sees them below the site's own."""
    plan = renderer.plan
    base = plan.site.base
    home = plan.site.home
    return {
        "mount": base.path if base else "",
        "languages": [
            {
                "tag": each.plan.site.language,
                "prefix": "" if each.plan.site.is_first else each.plan.site.prefix,
                "not_found": page_id(each.plan, None),
                "elsewhere": _elsewhere(each.plan),
            }
            for each in renderers
        ],
        "home": home,
        "pages": [_route(each.plan, key) for each in renderers for key in _pages_of(each.plan)],
        "redirects": [
            {
                "path": unquote(old.path),
                "query": old.query,
                "to": old.url or _path_of(own, old),
                "away": bool(old.url),
                "status": old.status,
            }
            for own, old in sorted(every_redirect(plan), key=lambda each: not each[1].query)
        ],
        "files": sorted(beside),
        "filled": sorted(name for name, data in beside.items() if MOUNT.encode() in data),
        "stamped": sorted(name for name in beside if name.startswith(ASSETS)),
    }


def _path_of(plan: Plan, old: Redirect) -> str:
    """Where an old address leads, below the path of the site; empty where it is gone."""
    if old.key is None:
        return ""
    return plan.routes[old.key].path + (f"#{encode_fragment(old.fragment)}" if old.fragment else "")


def _route(plan: Plan, key: str) -> Data:
    route, page = plan.routes[key], plan.site.pages[key]
    return {
        "id": page_id(plan, key),
        "key": key,
        "path": unquote(route.path),
        "address": route.path,
        "also": [unquote(further.path) for further in plan.further_of.get(key, ())],
        "parameters": [[parameter.name, parameter.is_rest] for parameter in route.parameters],
        "backend": route.is_backend,
        "language": plan.site.language,
        "title": page.title,
        "label": page.label,
    }


def _files_beside(renderer: Renderer, renderers: tuple[Renderer, ...]) -> dict[str, bytes]:
    """The files that an application serves beside the pages, by where they are below the path of the site."""
    found: dict[str, bytes] = {}
    for each in renderers:
        for file in (*each.assets_files(), *each.public_files()):
            found.setdefault(file.path, file.data)
    first = renderers[0]
    if renderer.plan.site.base:
        found |= {name: data for name, data in sitemaps(first.plan).items() if name not in found}
    if ROBOTS in renderer.generated:
        found[ROBOTS] = first.generated_file(ROBOTS)
    return found


def _page(renderer: Renderer, key: str | None, parts: PageParts, first: int) -> Data:
    """What a page puts into what pages share; ``first`` is how many layouts stand before those of its language."""
    site = renderer.plan.site
    title = site.pages[key].title if key is not None else site.phrases["not-found"]
    head_title = str(escape(renderer.plan.head_title(key, title)))
    around_title = str(escape(renderer.plan.head_title(key, NUL))).split(NUL)
    document = document_of(parts.before)
    texts = {name: text for name, text in parts.texts.items() if text}
    crumbs = texts.pop("breadcrumbs", "")
    label = str(escape(site.pages[key].label)) if key is not None and site.crumbs.itself else ""
    return {
        "layout": first + parts.layout - 1,
        "language": site.language,
        "direction": renderer.direction,
        "title": title,
        "label": site.pages[key].label if key is not None else title,
        "before": _opened(parts.before, head_title, HEAD_TITLE, _TITLE),
        "after": parts.after,
        "head": _opened(document.head, head_title, HEAD_TITLE, _TITLE),
        "html_attributes": document.html_attributes,
        "body_attributes": document.body_attributes,
        "breadcrumbs": _opened(crumbs, label, LAST_LABEL),
        "head_title": f"{NUL}value title{NUL}".join(around_title).split(NUL),
        "texts": {**texts, LAST_LABEL: label},
        "menus": {name: number - 1 for name, number in parts.menus.items()},
        "content": parts.content,
    }


def _elsewhere(plan: Plan) -> str:
    """What a page of the application is called in a kit that the map does not know."""
    return plan.id_of("_elsewhere")


def _page_elsewhere(renderer: Renderer, parts: PageParts, first: int) -> Data:
    """What surrounds a page that the map does not know: no entry is current, and the site's name is the title unless
    the application has one. It is there, so search engines may list it."""
    name = renderer.plan.site.name
    found = _page(renderer, None, parts, first)
    indexed = {word: [text.replace(_NOINDEX, "") for text in found[word]] for word in ("before", "head")}
    return {**found, **indexed, "title": name, "label": "", "head_title": [str(escape(name))], "content": ""}


def _opened(text: str, inside: str, name: str, around: str = "{}") -> Piece:
    """A piece with room in place of what stands last ``inside`` what is ``around`` it; the text alone where it does
    not."""
    start, _, end = around.partition("{}")
    if not inside or start + inside + end not in text:
        return [text]
    before, _, after = text.rpartition(start + inside + end)
    return [before + start, name, end + after]


def _piece(template: SlotTemplate) -> Piece:
    """Texts and names of slots in turns."""
    return template.written(lambda slot: f"{NUL}{slot_name(slot)}{NUL}", str).split(NUL)


def _json(name: str, value: object) -> File:
    return File(f"{DATA}/{name}", (json.dumps(value, ensure_ascii=False, indent=1) + "\n").encode())
