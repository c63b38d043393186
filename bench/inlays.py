"""Pages that exist, and what all share set into them: beside reading and writing the same pages alone."""

from __future__ import annotations

import shutil
from collections.abc import Callable
from pathlib import Path

from rich.console import Console
from selectolax.lexbor import LexborHTMLParser

from basilica.core.compile import compile_map
from basilica.core.plan import Plan
from basilica.services.inlays import FolderInlay
from basilica.store.folders import write_atomically

SITE_PAGES = 2_685
_WORDS = "tide wheel stone sluice grain sack beam gate pond marsh reed barge miller loft hoist flour".split()  # noqa: SIM905


def site_of(folder: Path) -> Plan:
    """Write pages as somebody made them by hand, and give the plan of a map of them."""
    lines = ["site: {name: Mill, urls: files}", "pages:", "  home: {path: /}"]
    top = "".join(f'<li><a href="/page-{number}.html">Page {number}</a></li>' for number in range(12))
    for number in range(SITE_PAGES - 1):
        lines.append(f"  page-{number}: Page {number}")
    entries = ", ".join(f"page-{number}" for number in range(12))
    lines += ["menus:", f"  main: [{entries}]", "page-end: {list: none}"]
    for number in range(-1, SITE_PAGES - 1):
        own = ""
        for part in range(8):
            words = " ".join(_WORDS[(number + at * part) % 16] for at in range(350))
            own += f"<h2 id=s{part}>Part {part}</h2><p>{words} <a href='#s0'>{words[:9]}</a></p>"
        page = (
            f"<!doctype html><html lang=en><head><meta charset=utf-8><title>Page {number}</title></head><body>"
            f'<div id="nav"><ul>{top}</ul></div><div id="content"><h1>Page {number}</h1>{own}</div>'
            "<p class=foot>Saltern Reach Mill, Causeway Lane, since 1782</p></body></html>"
        )
        name = "index.html" if number < 0 else f"page-{number}.html"
        write_atomically(folder / name, page.encode())
    plan = compile_map("\n".join(lines)).plan
    assert plan is not None
    return plan


def inlays(console: Console, measure: Callable[..., dict[str, float]], show: Callable[..., None], folder: Path) -> None:
    """Print how long placing and checking take, beside reading and writing alone."""
    old = folder / "old"
    shutil.rmtree(folder, ignore_errors=True)
    plan = site_of(old)
    pages = {path: path.read_bytes() for path in sorted(old.glob("*.html"))}

    def back() -> None:
        for path, data in pages.items():
            path.write_bytes(data)

    def place() -> None:
        back()
        report = FolderInlay(plan, {}, old, place=True).run(write=True)
        assert not report.problems

    def alone() -> None:
        back()
        for path in pages:
            data = path.read_bytes()
            assert LexborHTMLParser(data).root
            write_atomically(path, data)

    least = measure({"place": place, "alone": alone}, 4, folder / "none")
    show(console, f"Set into {SITE_PAGES:,} pages that exist", least, SITE_PAGES)
    console.print(f"  placing / reading and writing alone: {least['place'] / least['alone']:.2f}  (wanted: 4 at most)")
    place()
    runs = {
        "check": lambda: FolderInlay(plan, {}, old).run(write=False),
        "parse": lambda: [LexborHTMLParser(path.read_bytes()).root for path in pages],
    }
    least = measure(runs, 5, folder / "none")
    show(console, "Held against the map", least, SITE_PAGES)
    console.print(f"  checking / reading alone: {least['check'] / least['parse']:.2f}  (wanted: 2.5 at most)")
