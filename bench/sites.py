"""A large made-up site: 100 sections of 99 pages, 60 entries in the main menu, about 5 kB a page."""

from __future__ import annotations

from basilica.core.plan.content_links import Content

SECTIONS, UNDER = 100, 99
PAGES = SECTIONS * (UNDER + 1)
ENTRIES = 60


def large_map(under: int = UNDER) -> str:
    """The text of the map: home, and sections with pages ``under`` them. Home, 47 sections and, under four of these,
    three pages each stand in the menu."""
    lines = ["site:", "  name: The large site", "  base: https://large.example", "pages:", "  home:", "    path: /"]
    for section in range(1, SECTIONS + 1):
        count = under if section < SECTIONS else under - 1
        lines += [f"  section-{section}:", f"    title: Section {section}", "    pages:"]
        lines += [f"      page-{section}-{number}: Page {number} of {section}" for number in range(1, count + 1)]
    lines += ["menus:", "  main:", "    - home"]
    for section in range(1, ENTRIES - 12):
        items = ", ".join(f"page-{section}-{number}" for number in range(1, 4))
        lines.append(f"    - section-{section}: [{items}]" if section <= 4 else f"    - section-{section}")
    return "\n".join(lines) + "\n"


def map_of(pages: int) -> str:
    """A map as somebody edits it: sections of 49 pages, the first twelve in the main menu and in the footer."""
    lines = ["site: {name: The edited site, base: 'https://edited.example'}", "pages:", "  home: {path: /}"]
    sections = range(1, pages // 50 + 1)
    for section in sections:
        lines += [f"  section-{section}:", f"    title: Section {section}", "    pages:"]
        lines += [f"      page-{section}-{number}: Page {number} of {section}" for number in range(1, 50)]
    for menu in ("menus:\n  main:\n    - home", "  footer:"):
        lines += [menu, *(f"    - section-{section}" for section in sections[:12])]
    return "\n".join(lines) + "\n"


def large_contents(under: int = UNDER) -> dict[str, Content]:
    """A little HTML for every page; with the shared parts a page has about 5 kB."""
    contents = {"home": Content("content/home.html", _text(0, 0))}
    for section in range(1, SECTIONS + 1):
        contents[f"section-{section}"] = Content(f"content/section-{section}.html", _text(section, 0))
        for number in range(1, under + 1):
            key = f"section-{section}/page-{section}-{number}"
            contents[key] = Content(f"content/{key}.html", _text(section, number))
    del contents[f"section-{SECTIONS}/page-{SECTIONS}-{under}"]
    return contents


def _text(section: int, number: int) -> str:
    return (
        f"<p>Page {number} of section {section} says little, in a made-up voice, so as to have something to say.</p>\n"
    )
