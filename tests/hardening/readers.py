"""What reads bytes from outside: each takes any bytes at all, and raises where Basilica has a fault."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

from basilica.core.build import build
from basilica.core.compile import compile_map
from basilica.core.exchange import map_of, read_list_or_table
from basilica.core.findings import audit
from basilica.core.map.map_files import Files
from basilica.core.outputs.inlay import CannotInlay, inlay, marked_regions_of, region_names
from basilica.core.outputs.static_site import Renderer
from basilica.core.plan.content_links import Content
from basilica.core.shared.output_file import File

SEEDS = Path(__file__).parent / "seeds"
SMALL = "site: {name: Mill}\npages:\n  home: {path: /}\n  a: A\n"
PLANNED = compile_map(SMALL)
assert PLANNED.plan is not None
REGIONS = marked_regions_of(
    Renderer(PLANNED.plan, {}, menus_alone=tuple(PLANNED.plan.menus)), "a", frozenset(region_names(PLANNED.plan))
)


def read_map(data: bytes) -> None:
    """A map, planned and built."""
    compiled = compile_map(data)
    if compiled.plan is not None and not compiled.stops and len(compiled.plan.site.pages) < 40:
        for _ in Renderer(compiled.plan, {}).files():
            pass


def read_page(data: bytes) -> None:
    """A built folder, audited: pages with a line of `====` between."""
    names = ("index.html", "a b/\u00e9.htm", "404.html", "a/index.html")
    audit([File(name, text) for name, text in zip(names, data.split(b"\n====\n"), strict=False)]).findings()


def read_list(data: bytes) -> None:
    """A list or a table of pages, made into a map that holds."""
    items, _ = read_list_or_table(data.decode("utf-8", "replace"))
    text, _ = map_of(items, "site: {name: Mill}\n")
    compiled = compile_map(text)
    assert not items or compiled.plan is not None, text


def read_rows(data: bytes) -> None:
    """A table whose rows are pages; what is accepted is built."""
    for name in ("t.csv", "t.json"):
        text = f"site: {{name: Mill}}\npages:\n  home: {{path: /}}\n  rows: {{table: {{file: {name}}}}}\n"
        compiled = compile_map(text, Files({f"tables/{name}": data}))
        if compiled.plan is not None and not compiled.stops and len(compiled.plan.site.pages) < 40:
            for _ in Renderer(compiled.plan, {}).files():
                pass


def read_layout(data: bytes) -> None:
    """A layout; what is accepted is built."""
    text = "site: {name: Mill}\nlayout: own\npages:\n  home: {path: /}\n  a: A\n"
    compiled = compile_map(text, Files({"page-layouts/own.html": data}))
    if compiled.plan is not None and not compiled.stops:
        for _ in Renderer(compiled.plan, {}).files():
            pass


def read_content(data: bytes) -> None:
    """The text of a page, in Markdown and in HTML."""
    for suffix in ("md", "html"):
        build(PLANNED, {"a": Content(f"content/a.{suffix}", data.decode("utf-8", "replace"))})


def read_marked(data: bytes) -> None:
    """A page of somebody else's, into which shared regions are set; twice is once."""
    try:
        once = inlay(data, REGIONS, True)
    except CannotInlay:
        return
    assert inlay(once.data, REGIONS, True).data == once.data


READERS: dict[str, Callable[[bytes], None]] = {
    "map": read_map,
    "page": read_page,
    "list": read_list,
    "rows": read_rows,
    "layout": read_layout,
    "content": read_content,
    "marked": read_marked,
}
