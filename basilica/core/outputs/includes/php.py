"""The shared parts as PHP: the markup once, and a small file of data for each page."""

from __future__ import annotations

import re
from collections.abc import Callable, Iterator
from typing import Any

from markupsafe import escape

from basilica.core.outputs.static_site import Renderer
from basilica.core.outputs.static_site.slot_template import SlotTemplate
from basilica.core.outputs.static_site.slots import (
    CONTENT,
    CurrentMark,
    OwnContent,
    PageValue,
    PathMark,
    RegionSlot,
    Slot,
)
from basilica.core.shared.output_file import File

_TAG_AND_LINE = re.compile(r"(<\?(?:=|php)(?:(?!\?>).)*\?>)\n", re.DOTALL)
_FILES = ("header", "main", "utility", "footer")
"""The pieces of a layout that are files of their own."""
FACADES = ("top", "bottom", "header", "breadcrumbs", "section", "menu", "footer")
"""What a page of the site includes; each finds what belongs to the page."""


def php(renderer: Renderer, shipped: Callable[[str], str]) -> Iterator[File]:
    """The parts in the folder `shared`, and each page with its own text between them."""
    numbers: dict[object, int] = {}
    for key in renderer.pages:
        which = renderer.arranged(key)
        if which not in numbers:
            numbers[which] = len(numbers) + 1
            yield from _assignment(renderer, key, numbers[which])
        yield File(f"shared/pages/{key}.php", _data(renderer, key, numbers[which]).encode())
        yield File(renderer.plan.routes[key].file.removesuffix(".html") + ".php", _page(renderer, key).encode())
    for name in renderer.plan.menus:
        first = next(iter(renderer.pages))
        if renderer.plan.menus[name].entries:
            yield File(f"shared/menus/{name}.php", _as_php(renderer.frame(first)[f"menu {name}"]).encode())
    for name in ("basilica", *FACADES):
        yield File(f"shared/{name}.php", shipped(f"{name}.php.in").encode())


def _assignment(renderer: Renderer, key: str, number: int) -> Iterator[File]:
    """What pages of one layout assignment share: the layout in two pieces, around the text, and the parts in it."""
    frame = renderer.frame(key)
    whole = _as_php(frame["layout"], content="\0")
    top, _, bottom = whole.partition("\0")
    pieces = {"top": top, "bottom": bottom}
    pieces |= {name: _as_php(frame[name]) for name in _FILES}
    for name, text in pieces.items():
        yield File(f"shared/layout-{number}/{name}.php", text.encode())


def _as_php(slotted: SlotTemplate, content: str = "") -> str:
    """Markup in which each slot is PHP that fills it; ``content`` stands for the text of the page."""
    text = slotted.written(
        lambda slot: content if slot == CONTENT else _php_of(slot), lambda piece: piece.replace("<?", "<?= '<?' ?>")
    )
    return _kept_lines(text)


def _php_of(slot: Slot) -> str:
    """A slot as PHP. Addresses stand in the markup already: they are the same on every page."""
    match slot:
        case RegionSlot(name) if name in _FILES:
            return f"<?php require __DIR__ . '/{name}.php'; ?>"
        case RegionSlot(name):
            return f"<?= $b[{_text(name)}] ?? '' ?>"
        case PageValue(name):
            return f"<?= $b['values'][{_text(name)}] ?>"
        case OwnContent(name):
            return f"<?= $b['own'][{_text(name)}] ?? '' ?>"
        case CurrentMark() | PathMark():
            return f"<?= $b['marks'][{_text(_mark_name(slot))}] ?? '' ?>"
        case _:
            return ""


def _mark_name(mark: CurrentMark | PathMark) -> str:
    """The name of a mark in the data of a page."""
    return f"{'mark' if isinstance(mark, CurrentMark) else 'path'} {mark.menu} {mark.entry}"


def _data(renderer: Renderer, key: str, number: int) -> str:
    """What differs from page to page, as a PHP array."""
    plan = renderer.plan
    marks = renderer.mark_texts(plan.marks(key))
    head, end = _ends(renderer, key)
    without = plan.assignment_of(key).without
    given = {
        "breadcrumbs": renderer.breadcrumbs(key),
        "section-menus": renderer.section_menus(key, marks),
        "list": renderer.page_list(key),
        "sequence": renderer.sequence(key),
    }
    values = renderer.values(key, plan.site.pages[key].title)
    data: dict[str, Any] = {
        "layout": number,
        "head": head,
        "end": end,
        "marks": {_mark_name(slot): text for slot, text in marks.items() if isinstance(slot, CurrentMark | PathMark)},
        "values": {slot.name: str(escape(text)) for slot, text in values.items() if isinstance(slot, PageValue)},
        "own": {slot.slot: text for slot, text in renderer.own_slots(key).items() if isinstance(slot, OwnContent)},
        **{name: text for name, text in given.items() if name not in without},
    }
    return f"<?php\nreturn {_value(data)};\n"


def _ends(renderer: Renderer, key: str) -> tuple[str, str]:
    """A page up to the first line of its body, and from the last line of its layout on."""
    before, after = renderer.surround(key)
    start = before.index(">", before.index("<body")) + 2
    js = renderer.plan.site.pages[key].options.extra.js
    end = after.rindex(f"<script>\n{js}\n" if js else "</body>")
    return before[:start], after[end:]


def _page(renderer: Renderer, key: str) -> str:
    """A page to begin with: room for code of one's own, the parts, and the text between them."""
    up = "/.." * renderer.plan.routes[key].file.count("/")
    body, title = renderer.body(key), renderer.plan.site.pages[key].title
    text = (f"<h1>{escape(title)}</h1>\n" if not body.has_title else "") + body.html
    text = _kept_lines(text.replace("<?", "<?= '<?' ?>"))
    return (
        f"<?php\n// Code of your own can stand here: nothing has been sent yet.\n$page = {_text(key)};\n"
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
