"""The shared parts as PHP: the markup once, and a small file of data for each page."""

from __future__ import annotations

import re
from collections.abc import Callable, Iterator
from typing import Any
from urllib.parse import unquote

from basilica.core.outputs.page_pieces import LAYOUT, PageParts, PagePieces, slot_name
from basilica.core.outputs.static_site import Renderer
from basilica.core.outputs.static_site.slot_template import SlotTemplate
from basilica.core.outputs.static_site.slots import CONTENT, OwnMenu, RegionSlot, Slot
from basilica.core.plan import Plan
from basilica.core.plan.parameters import parameters_of, written_parameter
from basilica.core.shared.output_file import File

_TAG_AND_LINE = re.compile(r"(<\?(?:=|php)(?:(?!\?>).)*\?>)\n", re.DOTALL)
_FILES = ("header", "main", "utility", "footer")
"""The pieces of a layout that are files of their own."""
NOT_FOUND_PAGE = "_not-found"
"""What the page for addresses that do not exist is called, which has no key."""
FACADES = ("top", "bottom", "header", "breadcrumbs", "section", "menu", "footer")
"""What a page of the site includes; each finds what belongs to the page."""


def php(renderer: Renderer, shipped: Callable[[str], str]) -> Iterator[File]:
    """The parts in the folder `shared`, and each page with its own text between them; of another language than the
    first in a folder of its own."""
    pieces = PagePieces(renderer)
    site = renderer.plan.site
    prefix = "" if site.is_first else site.prefix[1:]
    root = f"{prefix}/" if prefix else ""
    routes = renderer.plan.routes
    served = tuple(key for key in routes if routes[key].is_backend and key not in renderer.plan.drafts)
    for key in (*renderer.pages, *served, None):
        parts, name = pieces.of(key), key if key is not None else NOT_FOUND_PAGE
        data = _data(parts) | (_parameters(renderer.plan, key) if key in served else {})
        yield File(f"{root}shared/pages/{name}.php", f"<?php\nreturn {_value(data)};\n".encode())
        if key not in served:
            file = (routes[key].file if key is not None else renderer.not_found).removesuffix(".html") + ".php"
            page = _page(name, file.removeprefix(root).count("/"), parts.content, 200 if key is not None else 404)
            yield File(file, page.encode())
    for number, layout in enumerate(pieces.layouts, 1):
        whole = _as_php(layout[LAYOUT], content="\0")
        top, _, bottom = whole.partition("\0")
        texts = {"top": top, "bottom": bottom} | {name: _as_php(layout[name]) for name in _FILES}
        for name, text in texts.items():
            yield File(f"{root}shared/layout-{number}/{name}.php", text.encode())
    for name, menu in renderer.plan.menus.items():
        if menu.entries:
            yield File(f"{root}shared/menus/{name}.php", _as_php(pieces.menu(name)).encode())
    for number, own in enumerate(pieces.own_menus, 1):
        yield File(f"{root}shared/own/{number}.php", _as_php(own).encode())
    for name in ("basilica", *FACADES):
        yield File(f"{root}shared/{name}.php", shipped(f"{name}.php.in").encode())


def _as_php(slotted: SlotTemplate, content: str = "") -> str:
    """Markup in which each slot is PHP that fills it; ``content`` stands for the text of the page."""
    text = slotted.written(
        lambda slot: content if slot == CONTENT else _php_of(slot), lambda piece: piece.replace("<?", "<?= '<?' ?>")
    )
    return _kept_lines(text)


def _php_of(slot: Slot) -> str:
    """A slot as PHP. Addresses stand in the markup already: they are the same on every page."""
    match slot:
        case OwnMenu():
            return f"<?php require __DIR__ . '/../own/' . $b['menus'][{_text(slot_name(slot))}] . '.php'; ?>"
        case RegionSlot(name) if name in _FILES:
            return f"<?php require __DIR__ . '/{name}.php'; ?>"
        case _:
            name = slot_name(slot)
            return f"<?= $b[{_text(name)}] ?? '' ?>" if name else ""


def _data(parts: PageParts) -> dict[str, Any]:
    """What differs from page to page."""
    around = {"layout": parts.layout, "head": parts.before, "end": parts.after, "menus": dict(parts.menus)}
    return {**around, **parts.texts}


def _parameters(plan: Plan, key: str) -> dict[str, Any]:
    """What a page needs to fill the parameters of its address: each as it is written, by name, and the pattern of the
    address as a server decodes it."""
    path, base = unquote(plan.routes[key].path), plan.site.base
    found = parameters_of(path)
    if not found:
        return {}
    texts, pattern = path, ""
    for parameter in found:
        written = written_parameter(parameter)
        before, _, texts = texts.partition(written)
        pattern += f"{re.escape(before)}(?P<{parameter.name}>{'.+' if parameter.is_rest else '[^/]+'})"
    written_by_name = {parameter.name: written_parameter(parameter) for parameter in found}
    mount = re.escape(base.path if base else "")
    return {"parameters": written_by_name, "pattern": f"^{mount}{pattern}{re.escape(texts)}"}


def _page(key: str, depth: int, content: str, status: int) -> str:
    """A page to begin with: room for code of one's own, the parts, and the text between them."""
    said = f"http_response_code({status});\n" if status != 200 else ""
    up = "/.." * depth
    text = _kept_lines(content.replace("<?", "<?= '<?' ?>"))
    return (
        f"<?php\n// Code of your own can stand here: nothing has been sent yet.\n{said}$page = {_text(key)};\n"
        f"require __DIR__ . '{up}/shared/top.php';\n?>\n{text}<?php require __DIR__ . '{up}/shared/bottom.php'; ?>\n"
    )


def _kept_lines(text: str) -> str:
    """The same with another line end behind each tag that has one: PHP takes the first away."""
    return _TAG_AND_LINE.sub(r"\1\n\n", text)


def _value(value: object, depth: int = 0) -> str:
    """A value as PHP writes it."""
    if isinstance(value, dict):
        inner = "    " * (depth + 1)
        rows = "".join(f"{inner}{_text(str(k))} => {_value(v, depth + 1)},\n" for k, v in value.items())
        return f"[\n{rows}{'    ' * depth}]"
    return str(value) if isinstance(value, int) else _text(str(value))


def _text(text: str) -> str:
    return "'" + text.replace("\\", "\\\\").replace("'", "\\'") + "'"
