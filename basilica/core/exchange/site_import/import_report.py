"""What an import found, as values and in lines, before anything is made."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable, Iterator
from typing import Any

from basilica.core.exchange.site_import.found_menus import FoundEntry
from basilica.core.exchange.site_import.imported_site import FoundMenu, ImportedSite
from basilica.core.shared.locales import own_name

_MOST = 12
"""Lines of one kind in the report for reading; of more, how many."""


def report_values(site: ImportedSite) -> dict[str, Any]:
    """Everything that was found, ready to be written as JSON."""
    return {
        "name": site.name,
        "title": site.title_pattern,
        "language": site.language,
        "base": site.base,
        "home": site.home,
        "main": site.main.name if site.main else None,
        "pages": [
            {
                "file": page.file,
                "title": page.title,
                "label": page.label,
                "parent": page.parent,
                "was": list(page.was),
                "highlight": page.highlight,
                "charset": page.page.charset,
            }
            for page in site.pages.values()
        ],
        "menus": [
            {
                "name": menu.name,
                "share": round(menu.share, 3),
                "mark": menu.mark,
                "pages": list(menu.section),
                "entries": [_entry(entry) for entry in menu.entries],
            }
            for menu in site.menus
        ],
        "parts": [
            {"name": part.name, "pages": len(part.same), "words": part.words, "place": place_of(site, part.name)}
            for part in site.parts
        ],
        "drift": [
            {"file": one.file, "block": one.block, "kind": str(one.kind), "words": one.words, "line": one.line}
            for one in site.drift
        ],
        "with-sequence": sorted(site.with_sequence),
        "others": list(site.others),
        "leads-elsewhere": dict(site.gone),
        "notes": list(site.notes),
        **({"versions": {tag: report_values(one) for tag, one in site.versions.items()}} if site.versions else {}),
    }


def _entry(entry: FoundEntry) -> dict[str, Any]:
    target = entry.target
    to = (
        None
        if target is None
        else (target.file or target.lost or target.url) + ("#" + target.fragment) * bool(target.fragment)
    )
    return {"label": entry.label, "to": to, "items": [_entry(item) for item in entry.items]}


def report_lines(site: ImportedSite) -> Iterator[str]:
    """The same for reading."""
    pages = [page for one in site.in_languages for page in one.pages.values()]
    every = site.in_languages
    count = _count(sum(len(one.pages) for one in every), "page")
    yield f"{site.name}: {count}, {_count(len(site.others), 'other file')}"
    if site.versions:
        yield "Languages: " + ", ".join(f"{own_name(one.language)} ({len(one.pages)})" for one in every)
    charsets = Counter(page.page.charset for page in pages)
    yield "Encodings: " + ", ".join(f"{name} ({count})" for name, count in charsets.most_common())
    if site.title_pattern:
        yield f"Titles: {site.title_pattern}, with “{site.name}” for the site"
    moved = sum(len(page.was) for page in pages)
    if moved or site.gone:
        yield f"Pages that only lead on: {moved + len(site.gone)}"
    yield ""
    yield "Menus" if site.menus else "No menu that most pages share"
    for menu in site.menus:
        yield f"  {_menu(site, menu)}"
    if site.parts:
        yield ""
        yield "Parts that pages share"
        for part in site.parts:
            where = f"{place_of(site, part.name)} the content"
            yield f"  {called(part.name)}, on {len(part.same)} pages, {where}: {_short(part.words)}"
    yield ""
    if site.with_sequence:
        yield f"Links to the page before and the one after: on {_count(len(site.with_sequence), 'page')}"
        yield ""
    drift = [one for version in every for one in version.drift]
    drifted = {one.file for one in drift}
    yield f"Pages that differ: {len(drifted)}" if drifted else "No page differs from the others"
    yield from _some([f"  {one.file}:{one.line}: {_block(one.block)}{one.words}" for one in drift])
    if site.notes:
        yield ""
        yield from (f"Note: {note}" for note in site.notes)


def _menu(site: ImportedSite, menu: FoundMenu) -> str:
    labels = ", ".join(entry.label for entry in menu.entries[:8]) + (", …" if len(menu.entries) > 8 else "")
    if menu.section:
        kind = f"of {_count(len(menu.section), 'page')}"
    else:
        kind = f"on {round(100 * menu.share)} % of the pages" + (
            ", taken for the main menu" if menu is site.main else ""
        )
    mark = f"; the current entry is marked by {menu.mark}" if menu.mark else ""
    return f"{called(menu.name)}, {kind}: {labels}{mark}"


def called(name: str) -> str:
    """A block by its name, cut short where that is its way down from the body."""
    pieces = name.split(" > ")
    return name if len(pieces) < 4 else f"… > {pieces[-2]} > {pieces[-1]}"


def _block(name: str) -> str:
    return f"{called(name)} " if name else ""


def _some(lines: Iterable[str]) -> Iterator[str]:
    lines = list(lines)
    yield from lines[:_MOST]
    if len(lines) > _MOST:
        yield f"  and {len(lines) - _MOST} more; all of them with --format json"


def _count(number: int, what: str) -> str:
    return f"{number:,} {what}{'' if number == 1 else 's'}"


def _short(words: str) -> str:
    return words if len(words) <= 70 else words[:70].rsplit(" ", 1)[0] + " …"


def place_of(site: ImportedSite, name: str) -> str:
    """Where a shared block stands on most pages: "before" their own content, "within" it, where it stays when pages
    move, or "after" it."""
    return "within" if name in site.within else "before" if name in site.before else "after"
